package course

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/space"
	"elkstay/core/wood"
)

// A wedge brings a weight forward by its lift over its arm, as high as the balance stands, until it takes more than it lifts.
func TestAWedgeByHand(t *testing.T) {
	o := &Course{Piece: &space.Piece{Pick: &job.Pick{What: job.WhatTop}, DiameterM: 0.4}}
	o.Settings.FallTowardsDeg = 90
	o.Weight.At = r3.Vec{X: -0.05, Z: 6}
	o.Weight.Kg = wood.Range{Low: 800, Likely: 900, High: 1000}
	behind, wedge := o.Back()
	jobtest.Nearly(t, "behind", behind, 0.05)
	jobtest.Nearly(t, "a wedge brings it forward", wedge, 0.025/0.3*6)
	// 15 kN at 0.3 m behind the hinge are 4.5 kN·m: of 9.81 kN 0.459 m.
	for x, lifts := range map[float64]bool{0.458: true, 0.46: false} {
		o.Weight.At.X = -x
		if _, wedge := o.Back(); (wedge > 0) != lifts {
			t.Errorf("%v m behind: %v", x, wedge)
		}
	}
}

// A piece from up high lands as far out as it is thrown: turned over its hinge by its own
// weight and let go at 70° it flies out (of a rod ω² = 3g/L·(cos 0 − cos 70°), then a throw).
func TestShortPiecesFly(t *testing.T) {
	t.Parallel()
	o := &Course{Piece: &space.Piece{Weight: space.Mass{CogM: 1.8}, LongM: 3.6}}
	got := o.flight(14, 0, 3.6/math.Sqrt(12))
	omega := math.Sqrt(3 * 9.80665 / 3.6 * (1 - math.Cos(space.Radians(70))))
	vx, vz := omega*1.8*math.Cos(space.Radians(70)), omega*1.8*math.Sin(space.Radians(70))
	height := 14 + 1.8*math.Cos(space.Radians(70))
	seconds := 0.0
	for z := height; z > 0; seconds += 1e-5 {
		z = height - vz*seconds - 9.80665*seconds*seconds/2
	}
	if want := 1.8*math.Sin(space.Radians(70)) + vx*seconds - 1.8; !(math.Abs(got[1]-want) <= 1e-3) {
		t.Errorf("let go at 70° it lands %v m further, by the throw %v", got[1], want)
	}
	// Let go level it drops straight: its middle lands as far out as it is from the butt.
	if !(math.Abs(got[2]) <= 1e-9) {
		t.Errorf("let go level: %v", got[2])
	}
	// A cone, c = L/4, turns about its balance with k² = 3/80·L², thin as it is: ω² = 2g·c/(k² + c²)·(1 − cos 50°), 1.7 times that of a rod.
	cone := (&Course{Piece: &space.Piece{Weight: space.Mass{CogM: 1}, LongM: 4}}).flight(10, 0, 4*math.Sqrt(3.0/80))
	omega = math.Sqrt(2 * 9.80665 / (0.6 + 1) * (1 - math.Cos(space.Radians(50))))
	vx, vz = omega*math.Cos(space.Radians(50)), omega*math.Sin(space.Radians(50))
	drop := 10 + math.Cos(space.Radians(50))
	if want := math.Sin(space.Radians(50)) + vx*(math.Sqrt(vz*vz+2*9.80665*drop)-vz)/9.80665 - 1; !(math.Abs(cone[0]-want) <= 1e-9) {
		t.Errorf("a cone lands %v m further, by the throw %v", cone[0], want)
	}
}

// Over ground that falls away a piece flies on until it meets that: followed in small steps. Uphill nothing is taken off.
func TestADownhillThrowGoesOn(t *testing.T) {
	o := &Course{Piece: &space.Piece{Weight: space.Mass{CogM: 1.8}, LongM: 3.6}}
	level, falls := o.flight(14, 0, 3.6/math.Sqrt(12)), o.flight(14, math.Tan(space.Radians(25)), 3.6/math.Sqrt(12))
	for i, lets := range flights {
		sin, cos := math.Sincos(space.Radians(lets))
		omega := math.Sqrt(3 * 9.80665 / 3.6 * (1 - cos))
		x, z, vx, vz := 1.8*sin, 14+1.8*cos, omega*1.8*cos, -omega*1.8*sin
		for z > -math.Tan(space.Radians(25))*x {
			x, z, vz = x+vx*1e-5, z+vz*1e-5, vz-9.80665e-5
		}
		if want := x - 1.8; !(math.Abs(falls[i]-want) <= 2e-3) || falls[i] < level[i]-1e-9 {
			t.Errorf("let go at %v° it lands %v m further, followed %v m; on the level %v m", lets, falls[i], want, level[i])
		}
	}
}
