package bench

import (
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/calc"
	"elkstay/core/intake"
)

// Every figure of a table is that of kind piece for the same log, and the volume of a cylinder or of
// a frustum by hand.
func TestWeightTableAgainstPiece(t *testing.T) {
	piece, _ := calc.Find("piece")
	for _, system := range []string{"metric", "us"} {
		for _, taper := range []float64{0, 0.02} {
			w, err := WeightTable(fmt.Appendf(nil, `{"wood":{"species":"english-oak"},"units":%q,"taper_m_per_m":%v,"limit_kg":500}`, system, taper))
			if err != nil || len(w.Rows) != 16 || len(w.LengthsM) != 9 {
				t.Fatalf("%v: %d rows of %d", err, len(w.Rows), len(w.LengthsM))
			}
			// From 10 cm and half a metre to a metre and 6 m, or from 4 in and 1 ft to 40 in and 16 ft.
			first, last := [2]float64{0.1, 0.5}, [2]float64{1, 6}
			if system == "us" {
				first, last = [2]float64{4 * 0.0254, 0.3048}, [2]float64{40 * 0.0254, 16 * 0.3048}
			}
			for k, ends := range [2][2]float64{{w.Rows[0].DiameterM, w.LengthsM[0]}, {w.Rows[15].DiameterM, w.LengthsM[8]}} {
				if want := [2][2]float64{first, last}[k]; !(math.Abs(ends[0]-want[0]) <= 1e-12) || !(math.Abs(ends[1]-want[1]) <= 1e-12) {
					t.Errorf("%s: a table end at %v, want %v", system, ends, want)
				}
			}
			if shape := map[float64]string{0: "poles, as thick at both ends", 0.02: "logs that get 2 cm thinner each metre"}[taper]; !strings.Contains(w.Said, shape) {
				t.Errorf("taper %v: %s", taper, w.Said)
			}
			for _, row := range w.Rows {
				for i, l := range w.LengthsM {
					d, thin := row.DiameterM, math.Max(row.DiameterM/3, row.DiameterM-taper*l)
					volume := math.Pi * l / 12 * (d*d + d*thin + thin*thin)
					if want := volume * w.Density.High; !(math.Abs(row.Kg[i].High-want) <= 1e-9*want) {
						t.Errorf("%s, %v m, %v m: %v, want %v", system, d, l, row.Kg[i].High, want)
					}
					if row.Over[i] != (row.Kg[i].High > 500) {
						t.Errorf("%v kg is marked %v", row.Kg[i].High, row.Over[i])
					}
				}
			}
			d, l, thin := w.Rows[5].DiameterM, w.LengthsM[3], math.Max(w.Rows[5].DiameterM/3, w.Rows[5].DiameterM-taper*w.LengthsM[3])
			answer, err := piece.Run(t.Context(), fmt.Appendf(nil, `{"wood":{"species":"english-oak"},"stations":[{"at_m":0,"diameter_m":%v},{"at_m":%v,"diameter_m":%v}]}`, d, l, thin))
			if err != nil {
				t.Fatal(err)
			}
			if got := answer.(calc.PieceAnswer).MassKg; !(math.Abs(got.Likely-w.Rows[5].Kg[3].Likely) <= 1e-9*got.Likely) {
				t.Errorf("kind piece says %v, the table %v", got, w.Rows[5].Kg[3])
			}
		}
	}
	var faults intake.Faults
	if _, err := WeightTable([]byte(`{"wood":{}}`)); !errors.As(err, &faults) || faults[0].Location != "body.wood" {
		t.Errorf("of no wood: %v", err)
	}
}

// What the scale taught makes a table heavier, and never lighter; what it did is said.
func TestWhatTheScaleTaughtTheTable(t *testing.T) {
	table := func(taught string) Weights {
		t.Helper()
		w, err := WeightTable([]byte(`{"wood":{"density_kg_m3":{"low":900,"likely":1000,"high":1100}}` + taught + `}`))
		if err != nil {
			t.Fatal(err)
		}
		return w
	}
	bare := table("")
	volume := math.Pi / 4 * bare.Rows[4].DiameterM * bare.Rows[4].DiameterM * bare.LengthsM[2]
	for _, c := range []struct {
		taught       string
		likely, high float64
		raised       bool
		says         string
	}{
		{"", 1000, 1100, false, ""},
		{`,"taught":{"by":"the yard","weighed":4,"factor":1.12,"high_factor":1.21}`, 1120, 1210, true, "Raised by 10 % for what the scale taught: 4 weighings, the yard."},
		{`,"taught":{"by":"the yard","weighed":1,"factor":0.8,"high_factor":0.95}`, 1000, 1100, false, "The scale (one weighing, the yard) taught nothing heavier"},
		{`,"taught":{"by":"the yard","weighed":2,"factor":1,"high_factor":1.1}`, 1000, 1100, false, "2 weighings"},
		{`,"taught":{"by":"the yard","weighed":3,"factor":1.15,"high_factor":1.15}`, 1150, 1150, true, "Raised by 5 %"},
		{`,"taught":{"by":"the yard","weighed":2,"factor":0.9,"high_factor":1.2}`, 1000, 1200, true, "Raised by 9 %"},
	} {
		w := table(c.taught)
		kg := w.Rows[4].Kg[2]
		if !(math.Abs(kg.Likely-c.likely*volume) <= 1e-6) || !(math.Abs(kg.High-c.high*volume) <= 1e-6) || w.Raised != c.raised || !strings.Contains(w.Taught, c.says) || (w.Taught == "") != (c.says == "") {
			t.Errorf("%s: %+v, raised %v, %q", c.taught, kg, w.Raised, w.Taught)
		}
	}
	// A log that weighs what the limit is, at its heavy end, is not over it.
	limit := bare.Rows[4].Kg[2].High
	for over, kg := range map[bool]float64{false: limit, true: math.Nextafter(limit, 0)} {
		if w := table(fmt.Sprintf(`,"limit_kg":%v`, kg)); w.Rows[4].Over[2] != over || !w.Rows[4].Over[3] || w.Rows[4].Over[1] {
			t.Errorf("limit %v: %v", kg, w.Rows[4].Over)
		}
	}
	var faults intake.Faults
	if _, err := WeightTable([]byte(`{"wood":{"species":"english-oak"},"taught":{"by":"x","weighed":1,"factor":1.2,"high_factor":1}}`)); !errors.As(err, &faults) || faults[0].Location != "body.taught.high_factor" {
		t.Errorf("%v", err)
	}
}
