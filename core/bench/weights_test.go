package bench

import (
	"errors"
	"fmt"
	"math"
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
			for _, row := range w.Rows {
				for i, l := range w.LengthsM {
					d, thin := row.DiameterM, math.Max(row.DiameterM/3, row.DiameterM-taper*l)
					volume := math.Pi * l / 12 * (d*d + d*thin + thin*thin)
					if want := volume * w.Density.High; math.Abs(row.Kg[i].High-want) > 1e-9*want {
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
			if got := answer.(calc.PieceAnswer).MassKg; math.Abs(got.Likely-w.Rows[5].Kg[3].Likely) > 1e-9*got.Likely {
				t.Errorf("kind piece says %v, the table %v", got, w.Rows[5].Kg[3])
			}
		}
	}
	var faults intake.Faults
	if _, err := WeightTable([]byte(`{"wood":{}}`)); !errors.As(err, &faults) || faults[0].Location != "body.wood" {
		t.Errorf("of no wood: %v", err)
	}
}
