package cut

import (
	"math"
	"testing"
)

// Each threshold of the trade, on it and a hair beyond (common practice, no source).
func TestRulesTurnWhereTheyAreSaidTo(t *testing.T) {
	by := map[string]Rule{}
	for _, rule := range rules {
		by[rule.ID] = rule
	}
	length := func(s *Site, v float64) { s.LengthM = v }
	diameter := func(s *Site, v float64) { s.DiameterM = v }
	head := func(s *Site, v float64) { s.HeadLeanDeg = v }
	side := func(s *Site, v float64) { s.SideLeanDeg = v }
	slope := func(s *Site, v float64) { s.OrientationDeg = v }
	for _, row := range []struct {
		rule     string
		on       func(*Site)
		set      func(*Site, float64)
		at       float64
		below    bool // it speaks beneath the threshold
		onItself bool // and on it
	}{
		{"snap-upright", nil, diameter, 0.5, true, false},
		{"snap-upright", nil, slope, 30, true, false},
		{"snap-side", nil, side, 5, false, false},
		{"snap-side", nil, head, 5, false, false},
		{"snap-not-upright", nil, slope, 30, false, true},
		{"snap-big", nil, diameter, 0.8, false, true},
		{"snap-goes", nil, func(s *Site, v float64) { s.SelfRatio = v }, 1, false, true},
		{"snap-early", nil, func(s *Site, v float64) { s.SelfRatio = v }, 0.5, false, true},
		{"snap-long", nil, length, 3, false, false},
		{"face-tall", lined, length, 6, false, false},
		{"narrow-tall", lined, length, 6, false, false},
		{"taper-side", func(s *Site) { s.Species = "douglas-fir" }, side, 3, false, false},
		{"taper-fair", nil, side, 3, false, false},
		{"taper-straight", nil, side, 3, true, true},
		{"bore-splits", headed, diameter, 0.25, false, true},
		{"bore-small", headed, diameter, 0.2, true, false},
		{"nick-splits", func(s *Site) { s.Species = "white-ash" }, head, 10, false, false},
		{"nick-splits", nil, head, 20, false, false}, // plane splits little
		{"nick-steering", headed, side, 3, false, false},
		{"strap-head", nil, head, 5, false, false},
		{"strap-needless", nil, head, 5, true, true},
		{"tear-union", union, slope, 30, false, true},
		{"tear-union", union, length, 8, true, true},
		{"tear-upright", union, slope, 30, true, false},
		{"tear-splits", func(s *Site) { s.Species = "white-ash" }, slope, 60, true, false},
		{"tear-long", union, length, 8, false, false},
		{"under-steer", nil, slope, 30, false, true},
		{"under-target", target, slope, 60, false, false},
		{"under-upright", nil, slope, 30, true, false},
		{"straight-thin", level, diameter, 0.12, true, false},
		{"straight-thick", level, diameter, 0.12, false, true},
	} {
		says := func(v float64) bool {
			return by[row.rule].When(site(func(s *Site) {
				if row.on != nil {
					row.on(s)
				}
				row.set(s, v)
			}))
		}
		under, on, over := says(row.at-1e-6), says(row.at), says(row.at+1e-6)
		if under != row.below || over == row.below || on != row.onItself {
			t.Errorf("%s at %g: %t beneath, %t on it, %t beyond", row.rule, row.at, under, on, over)
		}
	}
	// A side lean asks which school at 3°, and both questions at once where it also leans ahead.
	for _, c := range []struct{ side, head float64 }{{3, 0}, {3.1, 0}, {3.1, 15}} {
		want := 1 // how the face stands is asked of all upright wood
		if c.side > 3 {
			want++
		}
		if c.head > 10 {
			want++
		}
		got := len(site(func(s *Site) { s.SideLeanDeg, s.HeadLeanDeg, s.Species = c.side, c.head, "white-ash" }).schools())
		if got != want {
			t.Errorf("%g° aside, %g° ahead: %d questions, want %d", c.side, c.head, got, want)
		}
	}
}

// Every measure of every cut as a share of the diameter (common practice, no source), at a
// diameter of one metre and of a tenth of one, where thin wood's own bounds take over.
func TestMeasuresOfEveryCut(t *testing.T) {
	type span struct{ low, high float64 }
	faced := map[string]span{"face depth": {1. / 4, 1. / 3}, "hinge thickness": {0.06, 0.1}, "hinge width": {0.7, 0.8}, "back cut above the apex": {0.0254, 0.0508}}
	with := func(more map[string]span) map[string]span {
		all := map[string]span{}
		for name, s := range faced {
			all[name] = s
		}
		for name, s := range more {
			all[name] = s
		}
		return all
	}
	want := map[string]map[string]span{
		CutOpenFace: faced, CutNarrow: faced, CutTapered: faced,
		CutBored:    with(map[string]span{"strap": {0.08, 0.12}}),
		CutStrap:    with(map[string]span{"strap": {0.08, 0.12}}),
		CutNicked:   with(map[string]span{"nick depth, each side": {0.05, 0.1}}),
		CutSnap:     {"spacing of the two cuts": {0.00254, 0.0127}, "depth of the first cut": {0.75, 0.8}, "overlap across the whole width": {0.1, 0.3}},
		CutTopTear:  {"depth before it moves": {0.5, 0.9}},
		CutUndercut: {"undercut depth": {0.2, 0.33}},
		CutShelf:    {"shelf": {0.1, 0.2}, "cut through, sawdust left in the kerf": {1, 1}},
		CutStraight: {},
	}
	inches := map[string]bool{"back cut above the apex": true, "spacing of the two cuts": true} // on wood this thick
	for _, cut := range cuts {
		spans, known := want[cut]
		if !known {
			t.Errorf("cut %s is not measured here", cut)
			continue
		}
		for _, diameter := range []float64{1, 1.6} {
			r := Ranked{Cut: cut}
			site(func(s *Site) { s.DiameterM = diameter }).dimension(&r)
			if len(r.Dimensions) != len(spans) {
				t.Errorf("%s has %d measures, want %d", cut, len(r.Dimensions), len(spans))
			}
			for _, d := range r.Dimensions {
				s, times := spans[d.Name], diameter
				if inches[d.Name] {
					times = 1
				}
				if !(math.Abs(d.LowM-s.low*times) <= 1e-12) || !(math.Abs(d.HighM-s.high*times) <= 1e-12) {
					t.Errorf("%s, %s at %g m: %v to %v m, want %v of it", cut, d.Name, diameter, d.LowM, d.HighM, s)
				}
			}
		}
	}
	// Dead wood: a shallower face. Thin wood: a step of no more than a fifth, a snap's no wider than
	// it is thick.
	thin := func(cut string, bend func(*Site)) map[string]span {
		r, got := Ranked{Cut: cut}, map[string]span{}
		site(bend).dimension(&r)
		for _, d := range r.Dimensions {
			got[d.Name] = span{d.LowM, d.HighM}
		}
		return got
	}
	near := func(what string, got, want span) {
		if !(math.Abs(got.low-want.low) <= 1e-12) || !(math.Abs(got.high-want.high) <= 1e-12) {
			t.Errorf("%s: %v, want %v", what, got, want)
		}
	}
	near("a face in dead wood", thin(CutOpenFace, func(s *Site) { s.DiameterM, s.Dead = 1, true })["face depth"], span{0.2, 0.25})
	near("the step of thin wood", thin(CutOpenFace, func(s *Site) { s.DiameterM = 0.1 })["back cut above the apex"], span{0.01, 0.02})
	near("a snap in a twig", thin(CutSnap, func(s *Site) { s.DiameterM = 0.02 })["spacing of the two cuts"], span{0.008, 0.012})
	// By the diameter: 4, 7 and 16 in are the last of their class.
	for _, row := range []struct{ inches, low, high float64 }{{4, 2.5 * 0.0254, 3 * 0.0254}, {4.1, 1.75 * 0.0254, 2.25 * 0.0254}, {7, 1.75 * 0.0254, 2.25 * 0.0254}, {7.1, 0.0254, 1.5 * 0.0254}, {16, 0.0254, 1.5 * 0.0254}, {16.1, 0.1 * 0.0254, 0.5 * 0.0254}} {
		got := stepSpacing(row.inches * 0.0254)
		near("steps by the diameter", span{got[0], got[1]}, span{row.low, row.high})
	}
}
