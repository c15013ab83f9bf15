package gear

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
)

func TestStrainFollowsTheTable(t *testing.T) {
	rope := Rope{BreakingKn: 80, Elongation: []Stretch{{10, 1.6}, {20, 2.6}, {30, 3.4}}}
	for _, c := range []struct{ tension, strain float64 }{
		{0, 0}, {4, 0.008}, {8, 0.016}, {12, 0.021}, {16, 0.026}, {24, 0.034},
		{32, 0.042}, // the last slope carried on
	} {
		if got := rope.Strain(c.tension); !(math.Abs(got-c.strain) <= 1e-12) {
			t.Errorf("at %v kN: got %v, want %v", c.tension, got, c.strain)
		}
	}
	if got := rope.Compliance(10); !(math.Abs(got-0.01/8) <= 1e-12) {
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
	// Every size of a kind holds about as much to the square millimetre, and none stretches more
	// than a thinner one.
	for _, made := range constructions {
		var before *NamedRope
		for _, size := range made.sizes {
			ropes := TypicalRopes()
			i := slices.IndexFunc(ropes, func(r NamedRope) bool {
				return strings.HasSuffix(r.Name, fmt.Sprintf(" %g mm %s", size.mm, made.name))
			})
			rope := &ropes[i]
			if before != nil {
				each := func(r *NamedRope) float64 { return r.BreakingKn / r.DiameterM / r.DiameterM }
				if ratio := each(rope) / each(before); rope.BreakingKn <= before.BreakingKn || ratio < 0.9 || ratio > 1.1 {
					t.Errorf("%s holds %v times %s to the square", rope.Name, ratio, before.Name)
				}
				for k := range rope.Elongation {
					if rope.Elongation[k].StrainPct > before.Elongation[k].StrainPct {
						t.Errorf("%s stretches more than %s", rope.Name, before.Name)
					}
				}
			}
			before = rope
		}
	}
	// Three-strand polyamide of ISO 1140 (from memory, kN): no more than that, and no less than nine tenths.
	for mm, iso := range map[float64]float64{12: 29.4, 16: 52, 20: 81.4, 24: 118} {
		for _, rope := range TypicalRopes() {
			if strings.HasSuffix(rope.Name, fmt.Sprintf("%g mm three-strand, polyamide", mm)) && (rope.BreakingKn > iso || rope.BreakingKn < 0.9*iso) {
				t.Errorf("%s: %v kN, the standard's %v", rope.Name, rope.BreakingKn, iso)
			}
		}
	}
	if !strings.Contains(TypicalSource, "from memory") {
		t.Error("the typical ropes do not say where they come from")
	}
}

// A rope without a table stretches as a double braid of its size or the next thicker: no typical rope
// of that size or more is stiffer but a thicker braid.
func TestWhatStandsInForStretch(t *testing.T) {
	for mm, want := range map[float64]float64{8: 2.0, 10: 2.0, 12: 1.9, 12.5: 1.8, 15: 1.8, 16: 1.8, 19: 1.7, 23: 1.5, 25: 1.5, 40: 1.5, 0: 1.5} {
		if got := StandIn(mm / 1000); len(got) != 3 || got[0].StrainPct != want {
			t.Errorf("%v mm: %v, want %v at a tenth", mm, got, want)
		}
		for _, rope := range TypicalRopes() {
			if math.Abs(1000*rope.DiameterM-mm) < 0.1 && rope.Elongation[0].StrainPct < want {
				t.Errorf("%s is stiffer than what stands in", rope.Name)
			}
		}
	}
}
