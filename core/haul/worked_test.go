package haul

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/working/workingtest"
)

// The sums behind a drag, a grip and a line pulled aside begin with what was given, in its units.
func TestTheWorkingsOfPulls(t *testing.T) {
	d := Drag{MassKg: 1200, Friction: 0.5, SlopeDeg: 10, Lifted: &Lifted{LengthM: 5, CogM: 2.2, LiftHeightM: 1}}
	s := d.Solve()
	steps := d.Working(s)
	near(t, "weight", workingtest.Step(t, steps, "W").Value, 1.2*9.80665)
	near(t, "pitch", workingtest.Step(t, steps, "γ").Value, math.Asin(0.2)*180/math.Pi)
	near(t, "pull", workingtest.Step(t, steps, "T").Value, s.PullKn)
	flat := Drag{MassKg: 1200, Friction: 0.5}
	if got := flat.Working(flat.Solve()); len(got) != 3 || got[0].Value != steps[0].Value {
		t.Errorf("flat: %+v", got)
	}
	g := Grip{MassKg: 3000, Grip: 0.4}
	near(t, "a vehicle's weight", workingtest.Step(t, g.Working(g.Solve()), "W").Value, 3*9.80665)
	if said := strings.Join(g.Cautions(Hold{}), " "); !strings.Contains(said, "holds nothing") {
		t.Error(said)
	}
	if said := strings.Join(g.Cautions(Hold{PullKn: 0.01}), " "); strings.Contains(said, "holds nothing") {
		t.Error(said)
	}
	side := Sideways{SpanM: 20, PretensionKn: 5, StiffnessKn: 100, SideForceKn: 1}
	near(t, "unstretched", workingtest.Step(t, side.Working(side.Solve()), "L₀").Value, 20/1.05)
}

// Every leg's tension for a hand of 1, and what is said: a pulley that nothing passes, an anchor
// that holds more than the load.
func TestTheWorkingOfASystem(t *testing.T) {
	// 3:1, hauled down over a last redirect: r is led load, a, m, b, hand.
	s := system(0.9, "a@anchor m@load b@anchor", "r: load a m b hand")
	a := s.Solve()
	steps := s.Working(a)
	for i, want := range []float64{0.9 * 0.9 * 0.9, 0.9 * 0.9, 0.9, 1} {
		near(t, "a leg", workingtest.Step(t, steps, fmt.Sprintf("t%d", i+1)).Value, want)
	}
	near(t, "what one anchor holds", workingtest.Step(t, steps, "a").Value, a.HandKn*(0.9*0.9*0.9+0.9*0.9))
	near(t, "and the other", workingtest.Step(t, steps, "b").Value, a.HandKn*1.9)
	if len(a.Anchors) != 2 {
		t.Errorf("%+v", a.Anchors)
	}
	if said := s.Cautions(a); len(said) != 1 {
		t.Errorf("%q", said)
	}
	// A redirect holds more than the load: 1 + 1/e of it.
	one := system(0.9, "a@anchor", "r: load a hand")
	if said := strings.Join(one.Cautions(one.Solve()), " "); !strings.Contains(said, "Anchor a holds more than the load itself: 12.7 kN") {
		t.Error(said)
	}
	// As much as the load, and no more, is not said.
	two := system(1, "m@load", "r: anchor m hand")
	got := two.Solve()
	got.Anchors[0].LoadKn = 6
	if said := two.Cautions(got); len(said) != 1 {
		t.Errorf("%q", said)
	}
	// A pulley that no rope passes; one passed at its first leg or at its last is passed.
	spare := system(1, "m@load x@anchor", "r: anchor m hand")
	if said := strings.Join(spare.Cautions(spare.Solve()), " "); !strings.Contains(said, "No rope passes pulley x.") || strings.Contains(said, "pulley m.") {
		t.Error(said)
	}
}

// What cannot be dragged is refused where it turns, and what still can is not.
func TestDragsOnTheirBounds(t *testing.T) {
	for what, c := range map[string]struct {
		d     Drag
		wrong bool
	}{
		"a line that just moves it":            {Drag{MassKg: 100, Friction: 1, LineAngleDeg: number(-44)}, false},
		"a line that only presses it down":     {Drag{MassKg: 100, Friction: 1, LineAngleDeg: number(-45)}, true},
		"a line that all but lifts it":         {Drag{MassKg: 100, Friction: 0.5, LineAngleDeg: number(89)}, false},
		"its balance just short of its front":  {Drag{MassKg: 100, Friction: 0.5, Lifted: &Lifted{4, 3.99, 0.2}}, false},
		"lifted just less high than it is":     {Drag{MassKg: 100, Friction: 0.5, Lifted: &Lifted{4, 2, 3.5}}, false},
		"lifted as high as it is long":         {Drag{MassKg: 100, Friction: 0.5, Lifted: &Lifted{4, 2, 4}}, true},
		"lifted on a slope that it runs down":  {Drag{MassKg: 100, Friction: 0.5, SlopeDeg: -40, Lifted: &Lifted{4, 2, 0.5}}, true},
		"lifted on a slope it does not run on": {Drag{MassKg: 100, Friction: 0.5, SlopeDeg: -10, Lifted: &Lifted{4, 2, 0.5}}, false},
	} {
		if faults := c.d.Faults("body"); (len(faults) > 0) != c.wrong {
			t.Errorf("%s: %v", what, faults)
		}
	}
	// It runs away where the slope is steeper than its friction: tan of it over μ.
	for deg, runs := range map[float64]bool{-26: false, -27: true, 0: false, 27: false} {
		if s := (&Drag{MassKg: 100, Friction: 0.5, SlopeDeg: deg}).Solve(); s.RunsAway != runs {
			t.Errorf("at %v° with 0.5: %+v", deg, s)
		}
	}
}
