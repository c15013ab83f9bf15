package gear

import (
	"slices"
	"testing"
)

func of(v float64) *float64 { return &v }

// A marked load stands whatever takes from the strength; else what takes most is said to
// have decided.
func TestWhatTookMostDecided(t *testing.T) {
	for want, r := range map[string]RatingRequest{
		ByMarking:   {Rating: Rating{MarkedKn: of(4), BreakingKn: of(60)}, Termination: "clove-hitch"},
		ByFactor:    {Rating: Rating{BreakingKn: of(60)}, BendRatio: of(12)},
		ByKnot:      {Rating: Rating{BreakingKn: of(60)}, Termination: "clove-hitch", BendRatio: of(4), Conditions: []string{"aged"}},
		ByBend:      {Rating: Rating{BreakingKn: of(60)}, Termination: "splice", BendRatio: of(2), Conditions: []string{"aged"}},
		ByCondition: {Rating: Rating{BreakingKn: of(60)}, Termination: "splice", BendRatio: of(6), Conditions: []string{"abraded"}},
		ByShare:     {Rating: Rating{BreakingKn: of(60)}, Policy: StaticWithinWorkingLoad, RestingKn: of(1), PeakKn: of(20)},
	} {
		if rated := r.Rate(); rated.Decided != want || rated.Reason == "" || rated.Source == "" {
			t.Errorf("%s: got %s, %q", want, rated.Decided, rated.Reason)
		}
	}
	rated := (&RatingRequest{Rating: Rating{BreakingKn: of(60)}, Termination: "bowline", Conditions: []string{"aged", "wet"}, DesignFactor: of(8)}).Rate()
	if want := "60 kN breaking × 65 % bowline × 80 % aged, design factor 8"; rated.Reason != want {
		t.Errorf("got %q", rated.Reason)
	}
}

func TestKnotsAreThoseOfTheTable(t *testing.T) {
	knots := Knots()
	if !slices.IsSorted(knots) || len(knots) != len(terminations)-1 || slices.Contains(knots, "none") || !slices.Contains(knots, DefaultKnot) {
		t.Errorf("got %v", knots)
	}
}
