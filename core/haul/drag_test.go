package haul

import (
	"math"
	"math/rand/v2"
	"testing"
)

func number(v float64) *float64 { return &v }

// By hand: on the level μW; on a slope W(μ cos β + sin β); best at an angle of atan μ
// (the angle of friction: any text on statics).
func TestDragByHand(t *testing.T) {
	weight := 9.80665
	d := Drag{MassKg: 1000, Friction: 0.6}
	near(t, "level", d.Solve().PullKn, 0.6*weight)
	d.SlopeDeg = 30
	near(t, "uphill", d.Solve().PullKn, weight*(0.6*math.Cos(math.Pi/6)+0.5))
	d.SlopeDeg = 0
	best := math.Atan(0.6) * 180 / math.Pi
	d.LineAngleDeg = number(best)
	least := d.Solve().PullKn
	near(t, "at the angle of friction", least, weight*math.Sin(math.Atan(0.6)))
	for _, off := range []float64{-5, 5} {
		d.LineAngleDeg = number(best + off)
		if d.Solve().PullKn <= least {
			t.Errorf("%v° off the best angle pulls no harder", off)
		}
	}
	if s := (&Drag{MassKg: 100, Friction: 0.3, SlopeDeg: -30}).Solve(); !s.RunsAway || s.PullKn != 0 {
		t.Errorf("down a steep slope: %+v", s)
	}
}

// A lifted log is in balance: forces along and square to the ground, moments about the
// rear end, summed anew.
func TestLiftedLogIsInBalance(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	held := 0
	for range 200 {
		d := Drag{MassKg: 200 + 2000*r.Float64(), Friction: 0.4 + 0.5*r.Float64(), SlopeDeg: 20*r.Float64() - 5,
			Lifted: &Lifted{LengthM: 4 + 6*r.Float64(), CogM: 1.5 + r.Float64(), LiftHeightM: 0.2 + 2*r.Float64()}}
		if len(d.Faults("body")) > 0 {
			continue
		}
		held++
		s := d.Solve()
		weight, slope := d.MassKg*9.80665e-3, d.SlopeDeg*math.Pi/180
		a, g := s.LineAngleDeg*math.Pi/180, s.PitchDeg*math.Pi/180
		near(t, "along", s.PullKn*math.Cos(a), s.FrictionKn+weight*math.Sin(slope))
		near(t, "square", s.PullKn*math.Sin(a)+s.GroundKn, weight*math.Cos(slope))
		fx, fz := d.Lifted.LengthM*math.Cos(g), d.Lifted.LengthM*math.Sin(g)
		cx, cz := d.Lifted.CogM*math.Cos(g), d.Lifted.CogM*math.Sin(g)
		moment := fx*s.PullKn*math.Sin(a) - fz*s.PullKn*math.Cos(a) - cx*weight*math.Cos(slope) + cz*weight*math.Sin(slope)
		if !(math.Abs(moment) <= 1e-6*weight) {
			t.Errorf("%v kN·m turns the log: %+v", moment, d)
		}
	}
	if held < 100 {
		t.Errorf("only %d logs could be held", held)
	}
}

func TestDragFaults(t *testing.T) {
	for _, c := range []struct {
		location string
		d        Drag
	}{
		{"body.line_angle_deg", Drag{MassKg: 100, Friction: 3, LineAngleDeg: number(-30)}},
		{"body.line_angle_deg", Drag{MassKg: 100, Friction: 0.5, LineAngleDeg: number(10), Lifted: &Lifted{4, 2, 1}}},
		{"body.lifted.cog_m", Drag{MassKg: 100, Friction: 0.5, Lifted: &Lifted{4, 4, 1}}},
		{"body.lifted.lift_height_m", Drag{MassKg: 100, Friction: 0.5, Lifted: &Lifted{4, 2, 5}}},
	} {
		if faults := c.d.Faults("body"); len(faults) == 0 || faults[0].Location != c.location {
			t.Errorf("got %v, want a fault at %s", faults, c.location)
		}
	}
}
