package line

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"
)

// hungInPlane is how a body hangs on its two lines undrawn, by kind two-tie, in the plane y = 0.
func hungInPlane(t *TaggedPair) (PairDrawn, TwoTie) {
	two := TwoTie{MassKg: t.WeightKn * 1000 / 9.80665, LengthM: 8, CogM: t.CogM, Ties: []Tied{
		{Name: "butt", AtM: t.Lines[0].AtM, Point: Spot{t.Lines[0].Point.X, t.Lines[0].Point.Z}, LineM: t.Lines[0].LineM},
		{Name: "tip", AtM: t.Lines[1].AtM, Point: Spot{t.Lines[1].Point.X, t.Lines[1].Point.Z}, LineM: t.Lines[1].LineM}}}
	h := two.Solve()
	sin, cos := math.Sincos(h.AttitudeDeg * math.Pi / 180)
	return PairDrawn{Butt: r3.Vec{X: h.Butt.X, Z: h.Butt.Z}, Axis: r3.Vec{X: cos, Z: sin}, Kn: [2]float64{h.Ties[0].TensionKn, h.Ties[1].TensionKn}}, two
}

// Drawn square to the plane of two upright lines alike, at its balance, all is the triangle of a
// pendulum: aside as P over the sum, half of the sum in each line.
func TestAPairDrawnSquare(t *testing.T) {
	w, p, long := 3.0, 0.6, 5.0
	low := 12 - long*w/math.Hypot(w, p)
	one := TaggedPair{WeightKn: w, CogM: 3, TagM: 3, PullKn: p, Towards: r3.Vec{X: 3, Y: 40, Z: low},
		Lines: [2]Strung{{AtM: 1, Point: r3.Vec{X: 1, Z: 12}, LineM: long}, {AtM: 5, Point: r3.Vec{X: 5, Z: 12}, LineM: long}}}
	from, _ := hungInPlane(&one)
	d, found := one.Solve(from, false)
	if !found {
		t.Fatal("not found")
	}
	for i := range d.Kn {
		same(t, "half of the sum", d.Kn[i], math.Hypot(w, p)/2, 1e-8)
	}
	same(t, "aside", d.Along(3).Y, long*p/math.Hypot(w, p), 1e-7)
	same(t, "its height", d.Along(3).Z, low, 1e-7)
}

// Wherever it is drawn, forces and moments on it are nil, its lines are as long as they are or
// slack, and no small move that both lines allow brings what is pulled and what weighs lower.
func TestAPairDrawnHangsStill(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 22))
	f := func(low, high float64) float64 { return low + (high-low)*random.Float64() }
	solved, slack := 0, 0
	for n := range 300 {
		one := TaggedPair{WeightKn: f(0.5, 8), CogM: f(2, 4.5), TagM: f(0, 7), Towards: r3.Vec{X: f(-15, 25), Y: f(-25, 25), Z: f(0, 3)},
			Lines: [2]Strung{{AtM: f(0, 1.5), Point: r3.Vec{X: f(-2, 1), Z: f(10, 14)}, LineM: f(2, 6)}, {AtM: f(5, 7), Point: r3.Vec{X: f(4, 9), Z: f(10, 14)}, LineM: f(2, 6)}}}
		one.PullKn = one.WeightKn * f(0.01, 0.25)
		if n%5 == 0 {
			// Pulled along the plane, hard: one of its lines comes slack.
			one.Towards.Y, one.Towards.X, one.PullKn = f(-1, 1), 30, one.WeightKn*f(0.3, 0.8)
		}
		if n%5 == 1 {
			// Its second line is let out until the first has it all, or nearly.
			one.Lines[1].LineM = f(8, 12)
		}
		from, two := hungInPlane(&one)
		if len(two.Faults("body")) > 0 {
			continue
		}
		d, found := one.Solve(from, false)
		if !found {
			continue
		}
		solved++
		lead := r3.Sub(one.Towards, d.Along(one.TagM))
		pull := r3.Scale(one.PullKn/r3.Norm(lead), lead)
		force, turn := r3.Add(pull, r3.Vec{Z: -one.WeightKn}), r3.Add(r3.Cross(d.Along(one.TagM), pull), r3.Cross(d.Along(one.CogM), r3.Vec{Z: -one.WeightKn}))
		for i, l := range one.Lines {
			up := r3.Sub(l.Point, d.Along(l.AtM))
			if long := r3.Norm(up); long > l.LineM+1e-5 || d.Kn[i] > 1e-6 && long < l.LineM-1e-5 || d.Kn[i] < -1e-6 {
				t.Errorf("%d: line %d is %v of %v m long at %v kN", n, i, long, l.LineM, d.Kn[i])
			}
			if d.Kn[i] < 1e-9 {
				slack++
			}
			pulls := r3.Scale(d.Kn[i]/r3.Norm(up), up)
			force, turn = r3.Add(force, pulls), r3.Add(turn, r3.Cross(d.Along(l.AtM), pulls))
		}
		if !(r3.Norm(force) <= 1e-6*one.WeightKn) || !(r3.Norm(turn) <= 1e-4*one.WeightKn) {
			t.Errorf("%d: forces of %v kN and moments of %v kN·m are left", n, r3.Norm(force), r3.Norm(turn))
		}
		energy := func(d *PairDrawn) float64 {
			return one.WeightKn*d.Along(one.CogM).Z + one.PullKn*r3.Norm(r3.Sub(one.Towards, d.Along(one.TagM)))
		}
		least := energy(&d)
		for range 200 {
			by := math.Pow(10, -1-3*random.Float64())
			more := d
			more.Butt = r3.Add(d.Butt, r3.Vec{X: f(-by, by), Y: f(-by, by), Z: f(-by, by)})
			more.Axis = r3.Unit(r3.Add(d.Axis, r3.Vec{X: f(-by, by), Y: f(-by, by), Z: f(-by, by)}))
			allowed := true
			for _, l := range one.Lines {
				allowed = allowed && r3.Norm(r3.Sub(l.Point, more.Along(l.AtM))) <= l.LineM
			}
			if allowed && energy(&more) < least-1e-6*one.WeightKn {
				t.Fatalf("%d: %+v is lower by %v at %+v", n, one, least-energy(&more), more)
			}
		}
	}
	if solved < 150 || slack < 3 {
		t.Errorf("%d are found, %d with a slack line", solved, slack)
	}
}

// With no pull it stays; found anew from a place found already, it is the same; and a pull that
// brings it to where it leads is told.
func TestAPairDrawnFromWhereItWas(t *testing.T) {
	one := TaggedPair{WeightKn: 3, CogM: 2.6, TagM: 6, PullKn: 0.5, Towards: r3.Vec{X: 8, Y: 14},
		Lines: [2]Strung{{AtM: 1, Point: r3.Vec{X: 0, Z: 12}, LineM: 4}, {AtM: 5, Point: r3.Vec{X: 5, Z: 13}, LineM: 5}}}
	from, two := hungInPlane(&one)
	still := one
	still.PullKn = 0
	d, found := still.Solve(from, false)
	if !found || !(r3.Norm(r3.Sub(d.Along(2.6), from.Along(2.6))) <= 1e-3) {
		t.Errorf("with no pull: %v %+v", found, d)
	}
	for i, tie := range two.Solve().Ties {
		same(t, "a line undrawn", d.Kn[i], tie.TensionKn, 1e-4)
	}
	whole, _ := one.Solve(from, false)
	again, found := one.Solve(whole, true)
	if !found || !(r3.Norm(r3.Sub(again.Butt, whole.Butt)) <= 1e-8) {
		t.Errorf("found anew: %v, %v m off", found, r3.Norm(r3.Sub(again.Butt, whole.Butt)))
	}
	// Where it leads is beside the piece: it is drawn there, and nothing is told.
	at := one
	at.Towards, at.PullKn = r3.Add(from.Along(6), r3.Vec{Y: 0.3}), 3
	if _, found := at.Solve(from, false); found {
		t.Error("drawn all the way to where its tag line leads")
	}
	steps := one.Working(PairDrawn{Kn: [2]float64{1.5, 2.5}, Pull: r3.Vec{X: 0.3, Y: 0.4}, AsideM: 0.7})
	for i, want := range []struct {
		symbol string
		value  float64
	}{{"P", 0.5}, {"Pₕ", 0.5}, {"T1", 1.5}, {"T2", 2.5}, {"a", 0.7}} {
		if steps[i].Symbol != want.symbol || steps[i].Value != want.value {
			t.Errorf("%+v, want %+v", steps[i], want)
		}
	}
}

func BenchmarkPairDrawn(b *testing.B) {
	one := TaggedPair{WeightKn: 3, CogM: 2.6, TagM: 6, PullKn: 0.5, Towards: r3.Vec{X: 8, Y: 14},
		Lines: [2]Strung{{AtM: 1, Point: r3.Vec{X: 0, Z: 12}, LineM: 4}, {AtM: 5, Point: r3.Vec{X: 5, Z: 13}, LineM: 5}}}
	from, _ := hungInPlane(&one)
	for b.Loop() {
		one.Solve(from, false)
	}
}
