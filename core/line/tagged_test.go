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
	if !found || !(math.Abs(d.LineKn-math.Hypot(w, p)) <= 1e-9) || !(math.Abs(d.AsideM-long*p/math.Hypot(w, p)) <= 1e-7) || !(math.Abs(d.Tie.Z-z) <= 1e-7) {
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
		if !(r3.Norm(turn) <= 1e-4*one.WeightKn) {
			t.Errorf("%d: a moment of %v kN·m is left", i, r3.Norm(turn))
		}
		if !(math.Abs(r3.Norm(r3.Sub(d.Tie, one.Point))-one.LineM) <= 1e-6) || !(math.Abs(r3.Norm(d.Axis)-1) <= 1e-9) || !(math.Abs(r3.Norm(r3.Sub(d.Cog, d.Tag))-math.Abs(one.CogM-one.TagM)) <= 1e-9) {
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

// The working of a pull, by hand: 3 kN on 4 m of line from a point off the origin, drawn by 0.5 kN that leads down.
func TestTheWorkingOfAPull(t *testing.T) {
	one := Tagged{WeightKn: 3, Point: r3.Vec{X: 2, Y: -1, Z: 12}, LineM: 4, TieM: 1, CogM: 2.5, TagM: 4, Towards: r3.Vec{X: 14, Y: 4}, PullKn: 0.5, AsItHangs: r3.Vec{Z: -1}}
	d, found := one.Solve()
	if !found {
		t.Fatal("not found")
	}
	lead := r3.Sub(one.Towards, d.Tag)
	pull := r3.Scale(0.5/r3.Norm(lead), lead)
	level, down := math.Hypot(pull.X, pull.Y), -pull.Z
	line := math.Hypot(3+down, level)
	at := map[string]float64{}
	for _, step := range one.Working(d) {
		at[step.Symbol] = step.Value
	}
	for symbol, want := range map[string]float64{"P": 0.5, "Pₕ": level, "V": 3 + down, "T": line, "a": 4 * level / line} {
		if !(math.Abs(at[symbol]-want) <= 1e-6) {
			t.Errorf("%s: %v, want %v", symbol, at[symbol], want)
		}
	}
	if off := math.Hypot(d.Tie.X-2, d.Tie.Y+1); !(math.Abs(off-d.AsideM) <= 1e-12) || down < 0.1 {
		t.Errorf("aside by %v, %v of the pull leads down; its tie is %v off", d.AsideM, down, off)
	}
	// Tied at its balance, pulled there: nothing turns it, and it keeps the attitude it hung in.
	level3 := Tagged{WeightKn: 2, Point: r3.Vec{Z: 9}, LineM: 3, TieM: 2, CogM: 2, TagM: 2, Towards: r3.Vec{X: 20, Z: 6}, PullKn: 0.2, AsItHangs: r3.Vec{X: 0.6, Z: -0.8}}
	if d, found := level3.Solve(); !found || !(r3.Norm(r3.Sub(d.Axis, level3.AsItHangs)) <= 1e-9) {
		t.Errorf("%v %+v", found, d)
	}
}

// A tag line that would turn the body end for end has no half way between: it goes round, and is told by its forces.
func TestDrawnThePieceTurnsOver(t *testing.T) {
	// Tied at its balance the weight turns nothing: it lies along the pull, whichever way it hung.
	for _, hung := range []r3.Vec{{X: -1}, {X: 1}, {Z: -1}, {Z: 1}} {
		one := Tagged{WeightKn: 2, Point: r3.Vec{Z: 12}, LineM: 3, TieM: 2, CogM: 2, TagM: 5, Towards: r3.Vec{X: 60, Z: 9}, PullKn: 0.2, AsItHangs: hung}
		d, found := one.Solve()
		lead := r3.Unit(r3.Sub(one.Towards, d.Tie))
		if !found || !(r3.Norm(r3.Sub(d.Axis, lead)) <= 1e-4) {
			t.Errorf("hung %v: %v, lies along %v, the pull along %v", hung, found, d.Axis, lead)
		}
	}
}
