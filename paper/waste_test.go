package paper

import (
	"os"
	"strconv"
	"testing"

	"elkstay/core/assess"
	lies "elkstay/core/ground"
	"elkstay/core/job"
)

// The note has a row for every piece and for every load that has gone, and its columns add up to
// what the order takes down.
func TestWasteNote(t *testing.T) {
	data, err := os.ReadFile("../demo/mill-fold.json")
	if err != nil {
		t.Fatal(err)
	}
	j, err := job.ReadJob(data)
	if err != nil {
		t.Fatal(err)
	}
	j.Ground = &job.Ground{Trucks: []job.Truck{{ID: "t", Name: "=tipper", Gone: []job.Gone{{ID: "1", What: job.TakesLogs, Kg: 900, On: "2026-03-31"}, {ID: "2", What: job.TakesChips, Kg: 350}}}}}
	g, err := lies.Of(&j, assess.Options{})
	if err != nil {
		t.Fatal(err)
	}
	rows := Waste(&g).Rows
	if len(rows) != 1+len(j.Picks)+2 {
		t.Fatalf("%d rows", len(rows))
	}
	sum := func(from, to int, columns ...int) (kg float64) {
		for _, row := range rows[from:to] {
			if len(row) != len(rows[0]) {
				t.Fatalf("%v", row)
			}
			for _, c := range columns {
				if row[c] != "" {
					v, err := strconv.ParseFloat(row[c], 64)
					if err != nil {
						t.Error(err)
					}
					kg += v
				}
			}
		}
		return kg
	}
	a := assess.Assess(&j, assess.Options{})
	want := 0.0
	for i := range a.Picks {
		want += a.Picks[i].MassKg.Likely
	}
	if got := sum(1, 1+len(j.Picks), 8, 11); got < want-0.5 || got > want+0.5 {
		t.Errorf("planned %g kg, the order takes down %g", got, want)
	}
	if got := sum(1+len(j.Picks), len(rows), 8, 11); got != 1250 {
		t.Errorf("gone %g kg", got)
	}
}
