package paper

import (
	"os"
	"strconv"
	"testing"

	"elkstay/core/assess"
	groundwork "elkstay/core/ground"
	"elkstay/core/job"
	timberwood "elkstay/core/wood"
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
	j.NoteFacts() // as a document before had them
	g, err := groundwork.Of(&j, assess.Options{})
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

// Each column has the figure that its title names: figures by themselves, no two alike.
func TestWasteNoteByItsTitles(t *testing.T) {
	g := groundwork.Ground{Pieces: []groundwork.Piece{{Number: 4, Title: "fork", Tree: "oak", Species: "english-oak", Done: true, LogsKg: timberwood.Range{Low: 1, Likely: 2, High: 3}, LogsM3: 4,
		ChipsKg: timberwood.Range{Low: 5, Likely: 6, High: 7}, ChipsM3: 8, Parts: []groundwork.Part{{Logs: make([]groundwork.Log, 2)}, {Logs: make([]groundwork.Log, 3)}}}}}
	g.Settings.Trucks = []job.Truck{{ID: "t", Name: "tipper"}}
	g.Settings.Gone = []job.Gone{{Truck: "t", What: job.TakesLogs, Kg: 9, On: "2026-03-31"}, {Truck: "t", What: job.TakesChips, Kg: 10}, {Truck: "no more", What: job.TakesLogs, Kg: 11}}
	rows := Waste(&g).Rows
	want := []map[string]string{
		{"row": "planned", "tree": "oak", "species": "english-oak", "number": "4", "piece": "fork", "down": "yes", "stays": "no", "logs": "5", "logs_kg": "2.000", "logs_high_kg": "3.000", "logs_m3": "4.000", "chips_kg": "6.000", "chips_high_kg": "7.000", "chips_loose_m3": "8.000"},
		{"row": "gone", "logs_kg": "9.000", "vehicle": "tipper", "on": "2026-03-31"},
		{"row": "gone", "chips_kg": "10.000", "vehicle": "tipper"},
		{"row": "gone", "logs_kg": "11.000"},
	}
	for i, row := range rows[1:] {
		for k, title := range rows[0] {
			if row[k] != want[i][title] {
				t.Errorf("row %d, %s: %q, want %q", i+1, title, row[k], want[i][title])
			}
		}
	}
}
