package line

import (
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/mat"
)

func close9(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= 1e-9*math.Max(1, math.Abs(want))) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// Every place on the way against a balance of forces in space, solved by gonum.
func TestTwoLinesAgainstASolver(t *testing.T) {
	p := Pair{A: Point{1, 2, 14}, B: Point{9, -4, 11}, MassKg: 300, PieceZ: number(7)}
	if faults := p.Faults("body"); len(faults) > 0 {
		t.Fatal(faults)
	}
	c := p.Solve()
	weight := 300 * 9.80665e-3
	for _, at := range c.Way {
		a := [3]float64{1 - at.At.X, 2 - at.At.Y, 14 - at.At.Z}
		b := [3]float64{9 - at.At.X, -4 - at.At.Y, 11 - at.At.Z}
		la, lb := math.Hypot(math.Hypot(a[0], a[1]), a[2]), math.Hypot(math.Hypot(b[0], b[1]), b[2])
		left := mat.NewDense(3, 2, []float64{a[0] / la, b[0] / lb, a[1] / la, b[1] / lb, a[2] / la, b[2] / lb})
		var x mat.VecDense
		if err := x.SolveVec(left, mat.NewVecDense(3, []float64{0, 0, weight})); err != nil {
			t.Fatal(err)
		}
		close9(t, "line A", at.AKn, x.AtVec(0))
		close9(t, "line B", at.BKn, x.AtVec(1))
	}
	first, last := c.Way[0], c.Way[len(c.Way)-1]
	close9(t, "under A it hangs on A", first.AKn, weight)
	close9(t, "under B it hangs on B", last.BKn, weight)
	close9(t, "and A is slack", last.AKn, 0)
	// Over blocks of 0.9, with leads straight down: line A let out, lead 0.9·A; line B hauled
	// in, lead B/0.9.
	blocks := p
	blocks.Efficiency = number(0.9)
	way := blocks.Solve().Way
	close9(t, "block A, under it", way[0].AnchorAKn, weight*(1+0.9))
	close9(t, "block B, under it", way[len(way)-1].AnchorBKn, weight*(1+1/0.9))
	lower := p
	lower.PieceZ = number(2)
	if l := lower.Solve(); l.Steepest.AKn > c.Steepest.AKn && l.Steepest.BKn > c.Steepest.BKn {
		t.Error("hanging lower is harder")
	}
}

// A weight on one rope between level points carries W/(2 sin θ) (common practice, no
// source); it settles where both parts stand alike.
func TestOneRope(t *testing.T) {
	p := Pair{A: Point{0, 0, 10}, B: Point{8, 0, 10}, MassKg: 200, Arrangement: OneRope, RopeLengthM: number(10), Efficiency: number(1)}
	at := p.Solve().Steepest
	weight := 1.96133
	close9(t, "tension", at.AKn, weight/(2*0.6))
	close9(t, "sag", at.At.Z, 7)
	close9(t, "anchor with its lead", at.AnchorAKn, at.AKn*math.Hypot(0.8, 1.6))
	p.B.Z = 12
	at = p.Solve().Steepest
	long := math.Hypot(at.At.X, 10-at.At.Z) + math.Hypot(8-at.At.X, 12-at.At.Z)
	close9(t, "the rope's length", long, 10)
	close9(t, "both parts alike", (10-at.At.Z)/at.At.X, (12-at.At.Z)/(8-at.At.X))
}

// Two ropes side by side share the force: half each when run together (common
// practice, no source).
func TestTwinLines(t *testing.T) {
	p := Pair{A: Point{Z: 10}, MassKg: 200, Arrangement: Twin}
	at := p.Solve().Steepest
	close9(t, "each", at.AKn, 1.96133/2)
	close9(t, "the point", at.AnchorAKn, 1.96133)
	way := Carrying{Way: []Carried{{SharePct: 1, AKn: 2, BKn: 3}, {SharePct: 2, AKn: 3, BKn: 1}, {SharePct: 3, AKn: 1}}}
	if way.most(); way.Steepest.SharePct != 1 || way.MaxAKn != 3 || way.MaxBKn != 3 {
		t.Errorf("of places that load alike the first: %+v", way)
	}
	p.SharePct = number(100)
	close9(t, "the shorter takes all", p.Solve().Steepest.AKn, 1.96133)
}

func TestPairFaults(t *testing.T) {
	for _, c := range []struct {
		location string
		p        Pair
	}{
		{"body.piece_z", Pair{A: Point{Z: 10}, B: Point{X: 5, Z: 8}, PieceZ: number(8)}},
		{"body.piece_z", Pair{A: Point{Z: 10}, B: Point{X: 5, Z: 8}}},
		{"body.b", Pair{A: Point{Z: 10}, B: Point{Z: 8}, PieceZ: number(2)}},
		{"body.rope_length_m", Pair{A: Point{Z: 10}, B: Point{X: 5, Z: 10}, Arrangement: OneRope, RopeLengthM: number(5)}},
		{"body.piece_z", Pair{A: Point{Z: 10}, Arrangement: Twin, PieceZ: number(2)}},
	} {
		if faults := c.p.Faults("body"); len(faults) == 0 || faults[0].Location != c.location {
			t.Errorf("got %v, want a fault at %s", faults, c.location)
		}
	}
}

// What goes in comes out: load times height is heat and hand.
func TestHeatBalance(t *testing.T) {
	h := Heat{Path: path(Lowering, Stop{Name: "piece", Point: Point{0, 0, 9}}, Stop{Name: "fork", Point: Point{0, 0, 14}, Friction: number(0.3)},
		Stop{Name: "bollard", Point: Point{1, 0, 1}, Wraps: number(2), Friction: number(0.2)}),
		LoweredM: 8, SpeedMS: number(1.5), DeviceMassKg: number(6), RopeOnRope: true}
	if faults := h.Faults("body"); len(faults) > 0 {
		t.Fatal(faults)
	}
	got := h.Solve()
	close9(t, "energy", got.TotalKj+got.HandKj, 3*8)
	close9(t, "power over speed is heat over height", *got.Places[0].PowerKw/1.5, got.Places[0].HeatKj/8)
	close9(t, "warming", *got.DeviceRiseK, got.Places[1].HeatKj/(6*0.9))
	if len(h.Cautions(got)) < 2 {
		t.Errorf("rope on rope draws no caution: %v", h.Cautions(got))
	}
	h.Motion = Lifting
	if faults := h.Faults("body"); len(faults) != 1 {
		t.Errorf("lifting: %v", faults)
	}
}

// Two points apart across the site: the pair is refused by where they stand, and worked out along their own line.
func TestAPairAcrossTheSite(t *testing.T) {
	p := Pair{A: Point{X: 3, Y: 4, Z: 10}, B: Point{X: 3, Y: 4.005, Z: 12}, MassKg: 100, PieceZ: number(4)}
	if faults := p.Faults("body"); len(faults) != 1 || faults[0].Location != "body.b" {
		t.Errorf("5 mm apart: %v", faults)
	}
	p.B.Y = 4.011
	if faults := p.Faults("body"); len(faults) != 0 {
		t.Errorf("11 mm apart: %v", faults)
	}
	p.B = Point{X: 9, Y: 12, Z: 10}
	got := p.Solve()
	// Half the way, 5 m to each side and 6 m below: both lines at the same angle, W/2 over its sine.
	half := got.Way[waySteps/2]
	close9(t, "x", half.At.X, 6)
	close9(t, "y", half.At.Y, 8)
	close9(t, "each", half.AKn, 0.980665/2*math.Hypot(5, 6)/6)
	close9(t, "angle", half.AngleADeg, math.Atan2(6, 5)*180/math.Pi)
	close9(t, "share", half.SharePct, 50)
	at := map[string]float64{}
	for _, step := range p.Working(got) {
		at[step.Symbol] = step.Value
	}
	close9(t, "W", at["W"], 0.980665)
	close9(t, "A", at["A"], got.Steepest.AKn)
	// As it starts, straight under A, that line takes all of it.
	close9(t, "at the start", got.Way[0].AKn, 0.980665)
}

// What is said beside two lines, and what is not.
func TestWhatIsSaidOfTwoLines(t *testing.T) {
	// At 30° to the level each line of two carries 1/(2·sin θ) = once the weight, at 14.5° twice, at 14° more.
	for _, c := range []struct {
		what string
		p    Pair
		says string
	}{
		{"steep", Pair{B: Point{X: 10}, MassKg: 100, Arrangement: OneRope, RopeLengthM: number(10 / math.Cos(math.Pi/6))}, ""},
		{"just twice", Pair{B: Point{X: 10}, MassKg: 100, Arrangement: OneRope, RopeLengthM: number(10 / math.Cos(math.Asin(0.2501)))}, ""},
		{"flat", Pair{B: Point{X: 10}, MassKg: 100, Arrangement: OneRope, RopeLengthM: number(10 / math.Cos(math.Asin(0.2499)))}, "The lines lie flat"},
		{"twin", Pair{A: Point{Z: 10}, MassKg: 100, Arrangement: Twin}, "the shorter one takes all"},
	} {
		said := c.p.Cautions(c.p.Solve())
		if (c.says == "") != (len(said) == 0) || len(said) > 1 || c.says != "" && !strings.Contains(said[0], c.says) {
			t.Errorf("%s: %q", c.what, said)
		}
	}
}

// What is said of heat names the fibre and the place it goes into; a device that hardly warms is not cried out.
func TestWhatIsSaidOfHeat(t *testing.T) {
	h := Heat{Path: path(Lowering, Stop{Name: "piece", Point: Point{0, 0, 9}}, Stop{Name: "fork", Point: Point{0, 0, 14}, Friction: number(0.3)},
		Stop{Name: "bollard", Point: Point{1, 0, 1}, Wraps: number(2), Friction: number(0.2)}), LoweredM: 8, DeviceMassKg: number(6)}
	for _, c := range []struct {
		fibre    string
		onRope   bool
		lowered  float64
		says     []string
		softens  float64
		material string
	}{
		{"", false, 8, []string{"fork takes its heat"}, 230, ""},
		{"hmpe", true, 8, []string{"hmpe softens near 140 °C", "fork takes its heat"}, 140, ""},
		{"", true, 8, []string{"polyester softens near 230 °C", "fork takes its heat"}, 230, ""},
		{"polyamide", false, 400, []string{"The device may warm by", "fork takes its heat"}, 215, "steel"},
	} {
		h.Fibre, h.RopeOnRope, h.LoweredM, h.DeviceMaterial = c.fibre, c.onRope, c.lowered, c.material
		got := h.Solve()
		said := h.Cautions(got)
		if got.SoftensAtC != c.softens || len(said) != len(c.says) {
			t.Errorf("%+v: %g °C, %q", c, got.SoftensAtC, said)
			continue
		}
		for i, says := range c.says {
			if !strings.Contains(said[i], says) {
				t.Errorf("%+v: %q", c, said[i])
			}
		}
		if steps := h.Working(got); steps[0].Value != got.Places[0].HeatKj || steps[len(steps)-1].Value != *got.DeviceRiseK || len(steps) != 4 {
			t.Errorf("%+v", steps)
		}
	}
}

// A rope just as long as the points are apart is none; a piece level with the lower point neither.
func TestPairsAtTheirBounds(t *testing.T) {
	number := func(v float64) *float64 { return &v }
	a, b := Point{Z: 10}, Point{X: 4, Z: 7} // 5 m apart
	for _, c := range []struct {
		what string
		p    Pair
		at   string
	}{
		{"a rope of the distance", Pair{MassKg: 100, A: a, B: b, Arrangement: OneRope, RopeLengthM: number(5)}, "body.rope_length_m"},
		{"a little more", Pair{MassKg: 100, A: a, B: b, Arrangement: OneRope, RopeLengthM: number(5.1)}, ""},
		{"level with the lower point", Pair{MassKg: 100, A: a, B: b, PieceZ: number(7)}, "body.piece_z"},
		{"a little lower", Pair{MassKg: 100, A: a, B: b, PieceZ: number(6.9)}, ""},
		{"above each other", Pair{MassKg: 100, A: a, B: Point{X: 0.009, Z: 7}, PieceZ: number(2)}, "body.b"},
		{"just beside", Pair{MassKg: 100, A: a, B: Point{X: 0.01, Z: 7}, PieceZ: number(2)}, ""},
	} {
		faults := c.p.Faults("body")
		if c.at == "" && len(faults) > 0 || c.at != "" && (len(faults) != 1 || faults[0].Location != c.at) {
			t.Errorf("%s: %v, want one at %q", c.what, faults, c.at)
		}
	}
}

// Twin lines on a block, let down together: the first point holds the weight and its lead, whatever the share.
func TestTwinLinesOnABlock(t *testing.T) {
	number := func(v float64) *float64 { return &v }
	p := Pair{MassKg: 200, A: Point{X: 1, Y: 2, Z: 10}, Arrangement: Twin, SharePct: number(70), Efficiency: number(0.9)}
	c := p.Solve()
	at, weight := c.Way[0], 200*9.80665/1000
	if len(c.Way) != 1 || at.At != p.A {
		t.Errorf("%+v", c.Way)
	}
	for what, pair := range map[string][2]float64{
		"first": {at.AKn, 0.7 * weight}, "second": {at.BKn, 0.3 * weight}, "point": {at.AnchorAKn, 1.9 * weight}, "other point": {at.AnchorBKn, 0}, "upright": {at.AngleADeg, 90}, "both": {at.AngleBDeg, 90},
	} {
		if !(math.Abs(pair[0]-pair[1]) <= 1e-9) {
			t.Errorf("%s: %v, want %v", what, pair[0], pair[1])
		}
	}
}

// A way whose lines were found to carry more, drawn aside: the greater of both at each place, its points with their
// leads by it, and the hardest place found anew.
func TestAWayThatIsHeavier(t *testing.T) {
	p := Pair{A: Point{Z: 10}, B: Point{X: 8, Z: 10}, MassKg: 100, PieceZ: number(6), Efficiency: number(0.9)}
	c := p.Solve()
	kn := make([][2]float64, len(c.Way))
	const k = 3
	kn[k] = [2]float64{5, 4}
	kn[1] = [2]float64{0.001, 0.001} // no less than they carry undrawn
	got := p.Heavier(c, kn)
	if got.Way[1] != c.Way[1] || got.Way[len(got.Way)-1] != c.Way[len(c.Way)-1] {
		t.Errorf("undrawn places moved: %+v, before %+v", got.Way[1], c.Way[1])
	}
	// Where it is: along by k of the steps, 4 m beneath both points.
	along := 8 * float64(k) / waySteps
	la, lb := math.Hypot(along, 4), math.Hypot(8-along, 4)
	at := got.Way[k]
	close9(t, "share", at.SharePct, 100*along/8)
	close9(t, "first", at.AKn, 5)
	close9(t, "second", at.BKn, 4)
	close9(t, "angle at A", at.AngleADeg, math.Atan2(4, along)*180/math.Pi)
	close9(t, "angle at B", at.AngleBDeg, math.Atan2(4, 8-along)*180/math.Pi)
	close9(t, "point A: line, and 0.9 of it straight down", at.AnchorAKn, 5*math.Hypot(along/la, 4/la+0.9))
	close9(t, "point B: hauled in, a ninth more", at.AnchorBKn, 4*math.Hypot((8-along)/lb, 4/lb+1/0.9))
	close9(t, "hardest in A", got.MaxAKn, 5)
	close9(t, "hardest in B", got.MaxBKn, 4)
	if got.Steepest != at {
		t.Errorf("the hardest place is %+v", got.Steepest)
	}
	// One rope is let out at both ends, nothing is hauled in.
	one := Pair{A: Point{Z: 10}, B: Point{X: 8, Z: 10}, MassKg: 100, Arrangement: OneRope, RopeLengthM: number(10), Efficiency: number(0.9)}
	place := one.Solve().Way[0]
	close9(t, "both points alike", place.AnchorBKn, place.AnchorAKn)
}

// How each arrangement's sum is written, beside its figures.
func TestHowTwoLinesAreWritten(t *testing.T) {
	for _, c := range []struct {
		p   Pair
		how string
	}{
		{Pair{B: Point{X: 6}, MassKg: 100, PieceZ: number(-4)}, "W·cos β/sin(α+β); B: W·cos α/sin(α+β)"},
		{Pair{B: Point{X: 6}, MassKg: 100, Arrangement: TwoLines, PieceZ: number(-4)}, "W·cos β/sin(α+β); B: W·cos α/sin(α+β)"},
		{Pair{B: Point{X: 6}, MassKg: 100, Arrangement: OneRope, RopeLengthM: number(9)}, "W/(2·sin θ)"},
		{Pair{MassKg: 100, Arrangement: Twin}, "share · W"},
	} {
		solved := c.p.Solve()
		for _, step := range c.p.Working(solved) {
			if step.Symbol == "A" && (step.Expression != c.how || step.Value != solved.Steepest.AKn) {
				t.Errorf("%q: %+v, want %q", c.p.Arrangement, step, c.how)
			}
		}
	}
}
