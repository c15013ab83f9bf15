package crane

import (
	"math"
	"strings"
	"testing"
)

// followed lets a mass hang on a spring and a damper that carry so much of its weight as it comes free, by Runge-Kutta in steps of a
// thousandth of its period: the most that they carry, and how far it goes.
func followed(weight, hook, stiffness, zeta float64) (peak, travel float64) {
	const g = 9.80665
	mass := weight / g
	damper := 2 * zeta * math.Sqrt(stiffness*mass)
	dt := 2 * math.Pi * math.Sqrt(mass/stiffness) / 1000
	x, v := hook/stiffness, 0.0
	force := func(x, v float64) float64 { return stiffness*x + damper*v }
	begin := x
	for range 1500 {
		peak, travel = max(peak, force(x, v)), max(travel, math.Abs(x-begin))
		rate := func(x, v float64) (float64, float64) { return v, g - force(x, v)/mass }
		x1, v1 := rate(x, v)
		x2, v2 := rate(x+dt/2*x1, v+dt/2*v1)
		x3, v3 := rate(x+dt/2*x2, v+dt/2*v2)
		x4, v4 := rate(x+dt*x3, v+dt*v3)
		x, v = x+dt/6*(x1+2*x2+2*x3+x4), v+dt/6*(v1+2*v2+2*v3+v4)
	}
	return peak, travel
}

// What comes free on the hook is a mass on a spring and a damper, followed in time.
func TestAReleaseFollowedInTime(t *testing.T) {
	for _, c := range []Release{
		{WeightKn: 12, HookKn: 9, StiffnessKnM: 800}, {WeightKn: 12, HookKn: 0, StiffnessKnM: 300}, {WeightKn: 8, HookKn: 11, StiffnessKnM: 500},
		{WeightKn: 12, HookKn: 9, StiffnessKnM: 800, DampingRatio: 0.1}, {WeightKn: 12, HookKn: 2, StiffnessKnM: 150, DampingRatio: 0.45}, {WeightKn: 30, HookKn: 20, StiffnessKnM: 900, DampingRatio: 0.9},
	} {
		got := c.Solve()
		peak, travel := followed(c.WeightKn, c.HookKn, c.StiffnessKnM, c.DampingRatio)
		if !(math.Abs(got.PeakKn-peak) <= 1e-3*peak) {
			t.Errorf("%+v peaks at %v kN, followed %v", c, got.PeakKn, peak)
		}
		if c.DampingRatio == 0 && !(math.Abs(got.TravelM-travel) <= 1e-3*travel) {
			t.Errorf("%+v goes %v m, followed %v", c, got.TravelM, travel)
		}
	}
	// A hair off its weight it stays; pulled with more than twice that it jumps as high as the energy in its ropes: 25²/(2·500·10) m.
	if near := (&Release{WeightKn: 10, HookKn: 10.009, StiffnessKnM: 500}).Solve(); near.Goes != Stays {
		t.Errorf("a hair off it goes %s", near.Goes)
	}
	far := Release{WeightKn: 10, HookKn: 25, StiffnessKnM: 500}
	if d := far.Solve(); !d.Slack || !(math.Abs(d.TravelM-0.0625) <= 1e-9) || !strings.Contains(strings.Join(far.Cautions(d), " "), "slack") {
		t.Errorf("pulled with 25 kN of 10: %+v %q", d, far.Cautions(d))
	}
}

// A hook aside of the balance says how far below the boom's tip that is, and more than it stands aside.
func TestAReleaseAsideSaysHowFarDown(t *testing.T) {
	short := 2.0
	for field, r := range map[string]Release{"body.below_tip_m": {WeightKn: 10, HookKn: 9, StiffnessKnM: 500, OffsetM: 1}, "body.offset_m": {WeightKn: 10, HookKn: 9, StiffnessKnM: 500, OffsetM: 2, BelowTipM: &short}} {
		if faults := r.Faults("body"); len(faults) != 1 || faults[0].Location != field {
			t.Errorf("%s: %+v", field, faults)
		}
	}
}
