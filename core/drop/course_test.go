package drop

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/gear"
)

// A course that says what the upright case works out for itself changes nothing, and
// one that says otherwise is the impact formula's own: mg(1+√(1+2hk/mg)) on a
// straight-line rope (Timoshenko, Strength of Materials, part I, impact; from memory).
func TestCourse(t *testing.T) {
	c := Case{
		Piece: Piece{MassKg: 300, CogAboveCutM: 1.1, LengthM: 2.4},
		Rigging: Rigging{TieAboveCutM: 0.5, BlockBelowCutM: 0.6, SlackM: 0.2, LeadM: 9, BlockEfficiency: 1,
			Rope: gear.Rope{BreakingKn: 80, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 2}}}},
	}
	upright := Solve(&c)
	c.Course = &Course{FallM: c.FallM(), LineM: c.LineM(), How: "as it stands"}
	if got := Solve(&c); got != upright {
		t.Errorf("said in other words: %+v, was %+v", got, upright)
	}
	for _, fall := range []float64{0, 0.4, 3} {
		c.Course = &Course{FallM: fall, LineM: 2.2, How: "given"}
		weight := c.WeightKn()
		stiffness := 8 / (0.02 * (2.2 + 9))
		want := weight * (1 + math.Sqrt(1+2*fall*stiffness/weight))
		if got := Solve(&c).LinePeakKn; !(math.Abs(got-want) <= 1e-9*want) {
			t.Errorf("fall of %v m: %v kN, the impact formula %v", fall, got, want)
		}
	}
	said := ""
	for _, step := range c.Working(Solve(&c)) {
		said += step.Expression + "\n"
	}
	if !strings.Contains(said, "given") || strings.Contains(said, "(b+c)") {
		t.Errorf("the working says %s", said)
	}
}
