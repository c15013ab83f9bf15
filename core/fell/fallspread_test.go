package fell

import (
	"math"
	"testing"

	"elkstay/core/gear"
)

// A spread draws evenly within what it says, from one end to the other, each of what is not known by itself; what was
// given stays as it was.
func TestASpreadStaysWithinWhatItSays(t *testing.T) {
	inertia, left := 40000.0, 30.0
	f := Fall{
		Tree:   FallTree{MassKg: 2000, CogHeightM: 9, CogForwardM: 0.5, CogSideM: -0.2, TopHeightM: 18, InertiaKgM2: &inertia},
		Hinge:  &FallHinge{BendingKnm: 8, ToLeftKnm: &left},
		Lines:  []FallLine{{Name: "pull", AttachHeightM: 12, AnchorDistanceM: 20, PretensionKn: 10, Rope: gear.Rope{BreakingKn: 100, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 2}, {LoadPct: 20, StrainPct: 3}}}}},
		Spread: &FallSpread{Runs: 2000, Seed: 7, MassPct: 15, CogForwardM: 0.3, CogSideM: 0.1, HingePct: 30, PretensionPct: 20, StiffnessPct: 25},
	}
	type drawn struct {
		what        string
		low, high   float64
		of          func(v *Fall) float64
		least, most float64
		sum         float64
	}
	draws := []*drawn{
		{what: "mass", low: 1700, high: 2300, of: func(v *Fall) float64 { return v.Tree.MassKg }},
		{what: "inertia", low: 34000, high: 46000, of: func(v *Fall) float64 { return *v.Tree.InertiaKgM2 }},
		{what: "balance forward", low: 0.2, high: 0.8, of: func(v *Fall) float64 { return v.Tree.CogForwardM }},
		{what: "balance aside", low: -0.3, high: -0.1, of: func(v *Fall) float64 { return v.Tree.CogSideM }},
		{what: "bending", low: 5.6, high: 10.4, of: func(v *Fall) float64 { return v.Hinge.BendingKnm }},
		{what: "to the left", low: 21, high: 39, of: func(v *Fall) float64 { return *v.Hinge.ToLeftKnm }},
		{what: "tension", low: 8, high: 12, of: func(v *Fall) float64 { return v.Lines[0].PretensionKn }},
		// A rope stiffer by a quarter stretches a fifth less, one softer by a quarter a third more.
		{what: "stiffness", low: 0.75, high: 1.25, of: func(v *Fall) float64 { return 2 / v.Lines[0].Rope.Elongation[0].StrainPct }},
	}
	for _, d := range draws {
		d.least, d.most = math.Inf(1), math.Inf(-1)
	}
	const runs = 2000
	for i := range runs {
		v := f.vary(i)
		for _, d := range draws {
			x := d.of(&v)
			d.least, d.most, d.sum = min(d.least, x), max(d.most, x), d.sum+x
		}
		if !(math.Abs(v.Tree.MassKg/2000-*v.Tree.InertiaKgM2/inertia) <= 1e-12) || !(math.Abs(v.Hinge.BendingKnm/8-*v.Hinge.ToLeftKnm/left) <= 1e-12) || v.Hinge.ToRightKnm != nil {
			t.Fatalf("what goes together is drawn apart: %+v", v)
		}
		if a, b := v.Lines[0].Rope.Elongation[0], v.Lines[0].Rope.Elongation[1]; !(math.Abs(b.StrainPct/a.StrainPct-1.5) <= 1e-12) || a.LoadPct != 10 || b.LoadPct != 20 {
			t.Fatalf("the table bends: %+v %+v", a, b)
		}
	}
	for _, d := range draws {
		// Of 2,000 even draws the mean is off by the width over √12·√2000; six of those are never seen.
		width := d.high - d.low
		slack := 6 * width / math.Sqrt(12*runs)
		if d.least < d.low-1e-9 || d.most > d.high+1e-9 || d.least > d.low+0.02*width || d.most < d.high-0.02*width || !(math.Abs(d.sum/runs-(d.low+d.high)/2) <= slack) {
			t.Errorf("%s: %g to %g, mean %g; want %g to %g", d.what, d.least, d.most, d.sum/runs, d.low, d.high)
		}
	}
	if f.Tree.MassKg != 2000 || f.Hinge.BendingKnm != 8 || *f.Hinge.ToLeftKnm != 30 || inertia != 40000 || f.Lines[0].PretensionKn != 10 || f.Lines[0].Rope.Elongation[0].StrainPct != 2 {
		t.Errorf("the fall that was given has changed: %+v", f)
	}
}

// The work of a spread is bounded at 60,000 s of fall, whatever it is made of.
func TestASpreadIsBounded(t *testing.T) {
	f := Fall{Tree: FallTree{MassKg: 2000, CogHeightM: 9, TopHeightM: 18}}
	for _, c := range []struct {
		runs   int
		until  float64 // 0: not said, 60 s
		faults int
	}{{1000, 0, 0}, {1001, 0, 1}, {2000, 30, 0}, {2001, 30, 1}, {100, 600, 0}, {101, 600, 1}} {
		f.Spread, f.UntilS = &FallSpread{Runs: c.runs}, nil
		if c.until > 0 {
			f.UntilS = &c.until
		}
		if faults := f.Spread.faults("body.spread", &f); len(faults) != c.faults {
			t.Errorf("%+v: %v", c, faults)
		}
	}
}

// What a fall cannot be is named where it stands; at its bounds it can.
func TestFallsThatCannotBe(t *testing.T) {
	rope := gear.Rope{BreakingKn: 100, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 2}}}
	good := func() Fall {
		return Fall{Tree: FallTree{MassKg: 2000, CogHeightM: 9, TopHeightM: 18}, Lines: []FallLine{
			{Name: "pull", AttachHeightM: 12, AnchorDistanceM: 20, Rope: rope}, {Name: "hold", AttachHeightM: 12, AnchorDistanceM: 20, Rope: rope},
		}}
	}
	for _, c := range []struct {
		what  string
		spoil func(*Fall)
		at    string
	}{
		{"good", func(*Fall) {}, ""},
		{"balance at its tip", func(f *Fall) { f.Tree.CogHeightM = 18 }, ""},
		{"balance above it", func(f *Fall) { f.Tree.CogHeightM = 18.01 }, "body.tree.cog_height_m"},
		{"tied at its tip", func(f *Fall) { f.Lines[0].AttachHeightM = 18 }, ""},
		{"tied above it", func(f *Fall) { f.Lines[1].AttachHeightM = 18.01 }, "body.lines[1].attach_height_m"},
		{"one name for two", func(f *Fall) { f.Lines[1].Name = "pull" }, "body.lines[1].name"},
		{"a shock's factor", func(f *Fall) { f.Lines[0].Rope.DynamicFactor = 1.3 }, "body.lines[0].rope.dynamic_factor"},
	} {
		f := good()
		c.spoil(&f)
		faults := f.Faults("body")
		if c.at == "" && len(faults) > 0 || c.at != "" && (len(faults) != 1 || faults[0].Location != c.at) {
			t.Errorf("%s: %v, want one at %q", c.what, faults, c.at)
		}
	}
}
