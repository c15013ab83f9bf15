package gear

import (
	"math"
	"strings"
	"testing"
)

func TestStrainFollowsTheTable(t *testing.T) {
	rope := Rope{BreakingKn: 80, Elongation: []Stretch{{10, 1.6}, {20, 2.6}, {30, 3.4}}}
	for _, c := range []struct{ tension, strain float64 }{
		{0, 0}, {4, 0.008}, {8, 0.016}, {12, 0.021}, {16, 0.026}, {24, 0.034},
		{32, 0.042}, // the last slope carried on
	} {
		if got := rope.Strain(c.tension); math.Abs(got-c.strain) > 1e-12 {
			t.Errorf("at %v kN: got %v, want %v", c.tension, got, c.strain)
		}
	}
	if got := rope.Compliance(10); math.Abs(got-0.01/8) > 1e-12 {
		t.Errorf("compliance at 10 kN: got %v, want %v", got, 0.01/8)
	}
}

func TestFaultsOfATableThatDoesNotRise(t *testing.T) {
	rope := Rope{BreakingKn: 80, Elongation: []Stretch{{10, 1.6}, {10, 2.6}, {30, 2.6}}}
	faults := rope.Faults("body.rope")
	if len(faults) != 2 || faults[0].Location != "body.rope.elongation[1].load_pct" || faults[1].Location != "body.rope.elongation[2].strain_pct" {
		t.Errorf("got %v", faults)
	}
}

// A marked limit wins over a computed one; ten to one where nothing is marked
// (common practice, no source).
func TestWorkingLimit(t *testing.T) {
	marked, breaking := 12.0, 80.0
	for _, c := range []struct {
		rating Rating
		kn     float64
		known  bool
		reason string
	}{
		{Rating{MarkedKn: &marked, BreakingKn: &breaking}, 12, true, "as marked"},
		{Rating{BreakingKn: &breaking}, 8, true, "design factor 10"},
		{Rating{}, 0, false, ""},
	} {
		limit, known := c.rating.WorkingLimit(DefaultDesignFactor)
		if known != c.known || limit.Kn != c.kn || !strings.Contains(limit.Reason, c.reason) {
			t.Errorf("got %+v, %v; want %v", limit, known, c)
		}
	}
}

func TestTypicalRopesAreSound(t *testing.T) {
	for _, rope := range TypicalRopes() {
		if faults := rope.Faults("rope"); len(faults) > 0 {
			t.Errorf("%s: %v", rope.Name, faults)
		}
		if limit, known := rope.Rating().WorkingLimit(DefaultDesignFactor); !known || limit.Kn >= rope.BreakingKn/5 {
			t.Errorf("%s works at %v of %v kN", rope.Name, limit.Kn, rope.BreakingKn)
		}
	}
	if !strings.Contains(TypicalSource, "from memory") {
		t.Error("the typical ropes do not say where they come from")
	}
}
