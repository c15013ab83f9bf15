package line

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

func number(v float64) *float64 { return &v }

func path(motion string, stops ...Stop) Path {
	return Path{LoadKn: 3, Motion: motion, Points: stops}
}

func solve(p Path) Tensions {
	var t Tensions
	p.SolveInto(&t)
	return t
}

// A block with both legs down loads its anchor with twice the line, less friction
// (common practice, no source); at a right angle with √2, at a contact of 60° with once
// the line (statics).
func TestAnchorFactors(t *testing.T) {
	for _, c := range []struct{ x, z, factor float64 }{
		{0.0001, -5, 2}, {5, 0, math.Sqrt2}, {5 * math.Sin(math.Pi/3), 5 * math.Cos(math.Pi/3), 1},
	} {
		p := path(Still, Stop{Name: "piece", Point: Point{0, 0, -5}}, Stop{Name: "block", Efficiency: number(1)},
			Stop{Name: "device", Point: Point{c.x, 0, c.z}})
		if got := solve(p).Points[0].Factor; !(math.Abs(got-c.factor) <= 1e-4) {
			t.Errorf("to (%v, %v): factor %v, want %v", c.x, c.z, got, c.factor)
		}
	}
}

// Turning and moving the whole site changes no force; lowering and lifting undo each
// other; the forces on all points and both ends sum to nothing.
func TestWhatMustBeTrueOfEveryPath(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	place := func() Point {
		return Point{20*r.Float64() - 10, 20*r.Float64() - 10, 20 * r.Float64()}
	}
	for range 200 {
		p := path(Lowering, Stop{Name: "piece", Point: place()})
		for range r.IntN(6) {
			stop := Stop{Name: "turn", Point: place()}
			if r.IntN(2) == 0 {
				stop.Efficiency = number(0.7 + 0.3*r.Float64())
			} else {
				stop.Friction = number(0.5 * r.Float64())
			}
			p.Points = append(p.Points, stop)
		}
		p.Points = append(p.Points, Stop{Name: "device", Point: place(), Wraps: number(2), Friction: number(0.2)})
		if faults := p.Faults("body"); len(faults) > 0 {
			t.Fatal(faults)
		}
		base := solve(p)
		sum := r3.Vec{}
		for _, turn := range base.Points {
			sum = r3.Add(sum, r3.Scale(turn.ResultantKn, turn.Direction.Vec()))
		}
		first := r3.Unit(r3.Sub(p.Points[1].Vec(), p.Points[0].Vec()))
		n := len(p.Points)
		end := r3.Unit(r3.Sub(p.Points[n-2].Vec(), p.Points[n-1].Vec()))
		sum = r3.Add(sum, r3.Add(r3.Scale(p.LoadKn, first), r3.Scale(base.DeviceKn, end)))
		if !(r3.Norm(sum) <= 1e-9) {
			t.Errorf("the forces sum to %v", sum)
		}
		turned := p
		turned.Points = append([]Stop(nil), p.Points...)
		spin := r3.NewRotation(r.Float64()*6, r3.Vec{Z: 1})
		for i := range turned.Points {
			turned.Points[i].Point = pointAt(r3.Add(spin.Rotate(p.Points[i].Vec()), r3.Vec{X: 3, Y: -7, Z: 2}))
		}
		if got := solve(turned); !(math.Abs(got.HandKn-base.HandKn) <= 1e-9*base.HandKn) {
			t.Errorf("turned by its site the hand holds %v, not %v", got.HandKn, base.HandKn)
		}
		lift := p
		lift.Motion, lift.LoadKn = Lifting, base.DeviceKn
		if got := solve(lift); got.DeviceKn*base.DeviceKn < 0 || !(math.Abs(got.DeviceKn/lift.LoadKn*base.DeviceKn/p.LoadKn-1) <= 1e-9) {
			t.Errorf("lifting does not undo lowering: %v", got.DeviceKn)
		}
	}
}

func TestPathFaultsNameThePoint(t *testing.T) {
	a, b := Stop{Name: "piece"}, Stop{Name: "device", Point: Point{0, 0, -9}}
	for _, c := range []struct {
		location string
		p        Path
	}{
		{"body.points[1]", path(Still, a, Stop{Name: "x"}, b)},
		{"body.points[1].efficiency", path(Still, a, Stop{Name: "x", Point: Point{1, 0, 0}}, b)},
		{"body.points[1].efficiency", path(Still, a, Stop{Name: "x", Point: Point{1, 0, 0}, Efficiency: number(0.9), Friction: number(0.2)}, b)},
		{"body.points[1].wraps", path(Still, a, Stop{Name: "x", Point: Point{1, 0, 0}, Friction: number(0.2), Wraps: number(1)}, b)},
		{"body.points[0]", path(Still, Stop{Name: "piece", Friction: number(0.2)}, b)},
		{"body.points[1].friction", path(Still, a, Stop{Name: "device", Point: Point{0, 0, -9}, Wraps: number(1)})},
	} {
		if faults := c.p.Faults("body"); len(faults) == 0 || faults[0].Location != c.location {
			t.Errorf("got %v, want a fault at %s", faults, c.location)
		}
	}
}

func BenchmarkLine(b *testing.B) {
	p := path(Lowering, Stop{Name: "piece", Point: Point{2, 0, 9}})
	for i := range 6 {
		p.Points = append(p.Points, Stop{Name: "turn", Point: Point{float64(i % 3), float64(i % 2), 12 - float64(i)}, Efficiency: number(0.9)})
	}
	p.Points = append(p.Points, Stop{Name: "device", Point: Point{0, 0, 1}, Wraps: number(2), Friction: number(0.2)})
	var t Tensions
	b.ReportAllocs()
	for b.Loop() {
		p.SolveInto(&t)
	}
}
