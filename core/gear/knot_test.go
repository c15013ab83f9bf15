package gear

import (
	"slices"
	"strings"
	"testing"
)

func of(v float64) *float64 { return &v }

// A marked load stands whatever the knot; a breaking strength first loses what the knot
// takes, as the rating does.
func TestTiedLimit(t *testing.T) {
	marked, known := Rating{MarkedKn: of(12), BreakingKn: of(60)}.TiedLimit("clove-hitch", 10)
	if !known || marked.Kn != 12 || !strings.Contains(marked.Reason, "marked") {
		t.Errorf("marked: %+v", marked)
	}
	if _, known := (Rating{}).TiedLimit("", 10); known {
		t.Error("nothing is known of it, and it has a limit")
	}
	for _, knot := range Knots() {
		limit, known := Rating{BreakingKn: of(60)}.TiedLimit(knot, 8)
		rated := (&RatingRequest{Rating: Rating{BreakingKn: of(60)}, Termination: knot, DesignFactor: of(8)}).Rate()
		if !known || limit.Kn != rated.LimitKn || limit.Kn > 60.0/8 || limit.Kn < 30.0/8 {
			t.Errorf("%s: %+v, rated %v", knot, limit, rated.LimitKn)
		}
	}
	usual, _ := Rating{BreakingKn: of(60)}.TiedLimit("", 10)
	named, _ := Rating{BreakingKn: of(60)}.TiedLimit(DefaultKnot, 10)
	if usual != named {
		t.Errorf("without a knot named: %+v, with a %s: %+v", usual, DefaultKnot, named)
	}
}

func TestKnotsAreThoseOfTheTable(t *testing.T) {
	knots := Knots()
	if !slices.IsSorted(knots) || len(knots) != len(terminations)-1 || slices.Contains(knots, "none") || !slices.Contains(knots, DefaultKnot) {
		t.Errorf("got %v", knots)
	}
}
