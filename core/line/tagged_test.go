package line

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// Of a weight at its tie, pulled level, all is a triangle: aside as P over W to the line's own height.
func TestDrawnAsideLevel(t *testing.T) {
	// Its tie ends up at a height of 20 − 6·W/T: the pull is level when it leads from that height.
	w, p, long := 3.0, 0.4, 6.0
	z := 20 - long*w/math.Hypot(w, p)
	d, found := (&Tagged{WeightKn: w, Point: r3.Vec{Z: 20}, LineM: long, TieM: 1, CogM: 1, TagM: 1, Towards: r3.Vec{X: 30, Z: z}, PullKn: p, AsItHangs: r3.Vec{Z: -1}}).Solve()
	if !found || math.Abs(d.LineKn-math.Hypot(w, p)) > 1e-9 || math.Abs(d.AsideM-long*p/math.Hypot(w, p)) > 1e-7 || math.Abs(d.Tie.Z-z) > 1e-7 {
		t.Errorf("%v %+v", found, d)
	}
}

// Wherever a body is drawn, its forces and its moments about the tie are nil, its line is as long as
// it is, and a further pull lifts its balance or draws it further.
func TestDrawnAsideHangsStill(t *testing.T) {
	random := rand.New(rand.NewPCG(14, 1))
	for i := range 400 {
		one := Tagged{WeightKn: 0.5 + 8*random.Float64(), Point: r3.Vec{X: 1, Y: -2, Z: 15}, LineM: 1 + 10*random.Float64(), TieM: 3 * random.Float64(),
			CogM: 0.5 + 3*random.Float64(), TagM: 5 * random.Float64(), Towards: r3.Vec{X: 12 + 20*random.Float64(), Y: -20 + 40*random.Float64(), Z: 4 * random.Float64()}, AsItHangs: r3.Vec{Z: -1}}
		one.PullKn = one.WeightKn * (0.02 + 0.4*random.Float64())
		d, found := one.Solve()
		if !found {
			t.Fatalf("%d: %+v is not found", i, one)
		}
		lead := r3.Sub(one.Towards, d.Tag)
		pull := r3.Scale(one.PullKn/r3.Norm(lead), lead)
		line := r3.Sub(one.Point, d.Tie)
		line = r3.Scale(d.LineKn/r3.Norm(line), line)
		weight := r3.Vec{Z: -one.WeightKn}
		if left := r3.Norm(r3.Add(r3.Add(weight, pull), line)); left > 1e-5*one.WeightKn {
			t.Errorf("%d: a force of %v kN is left", i, left)
		}
		turn := r3.Add(r3.Cross(r3.Sub(d.Cog, d.Tie), weight), r3.Cross(r3.Sub(d.Tag, d.Tie), pull))
		if r3.Norm(turn) > 1e-4*one.WeightKn {
			t.Errorf("%d: a moment of %v kN·m is left", i, r3.Norm(turn))
		}
		if math.Abs(r3.Norm(r3.Sub(d.Tie, one.Point))-one.LineM) > 1e-6 || math.Abs(r3.Norm(d.Axis)-1) > 1e-9 || math.Abs(r3.Norm(r3.Sub(d.Cog, d.Tag))-math.Abs(one.CogM-one.TagM)) > 1e-9 {
			t.Errorf("%d: it does not keep its lengths: %+v", i, d)
		}
		if d.LineKn > one.WeightKn+one.PullKn+1e-9 {
			t.Errorf("%d: its line takes %v of %v and %v", i, d.LineKn, one.WeightKn, one.PullKn)
		}
		one.PullKn *= 1.2
		if further, _ := one.Solve(); further.AsideM <= d.AsideM {
			t.Errorf("%d: pulled harder it stands %v aside, before %v", i, further.AsideM, d.AsideM)
		}
	}
}

// A pull that brings it to where the line leads is told.
func TestDrawnAllTheWay(t *testing.T) {
	near := Tagged{WeightKn: 1, Point: r3.Vec{Z: 10}, LineM: 8, TieM: 1, CogM: 1, TagM: 1, Towards: r3.Vec{X: 0.5, Z: 2.1}, PullKn: 20, AsItHangs: r3.Vec{Z: -1}}
	if d, found := near.Solve(); found {
		t.Errorf("20 kN on 1 kN, half a metre off: %+v", d)
	}
}
