package paper

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"elkstay/core/bench"
	"elkstay/core/units"
)

// The card for the bollard has every row, in either system, and says what does not fit.
func TestTheWrapsCardOnPaper(t *testing.T) {
	limit, drum, rope := 8.0, 0.06, 0.016
	asked := bench.WrapsRequest{Device: "quay bollard", Friction: 0.2, HandKn: 0.25, LimitKn: &limit, DrumM: &drum, RopeM: &rope}
	card, err := asked.Card()
	if err != nil {
		t.Fatal(err)
	}
	for _, system := range []units.System{units.Metric, units.US} {
		pdf, err := Wraps(&card, &asked, time.Date(2026, 3, 31, 6, 0, 0, 0, time.UTC), system, system == units.US)
		if err != nil {
			t.Fatal(err)
		}
		read := pages(t, pdf)
		if len(read) != 1 {
			t.Fatalf("%d pages", len(read))
		}
		text := strings.ReplaceAll(joined(read[0]), "× ", "×")
		for _, want := range []string{"quay bollard", "3 turns fit on it", "Friction flatters", "Made 2026-03-31"} {
			if !strings.Contains(text, want) {
				t.Errorf("%s: no %q in %s", system, want, text)
			}
		}
		for i := range 12 {
			n := 0.5 * float64(i+1)
			mark := ""
			if n > 0.06/(1.05*0.016) || 0.25*math.Exp(2*math.Pi*0.15*n) > 8 {
				mark = "×"
			}
			if row := fmt.Sprintf("%s%g %s", mark, n, units.Print(units.Force, system, 0.25*math.Exp(2*math.Pi*0.15*n))); !strings.Contains(text, row) {
				t.Errorf("%s: no row %q in %s", system, row, text)
			}
		}
	}
}
