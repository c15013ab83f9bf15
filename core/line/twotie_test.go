package line

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"elkstay/core/units"
)

func tied(length, cog float64, a, b Tied) TwoTie {
	a.Name, b.Name = "butt", "tip"
	return TwoTie{MassKg: 200, LengthM: length, CogM: cog, Ties: []Tied{a, b}}
}

const weight200 = 200 * 9.80665 / 1000

func same(t *testing.T, what string, got, want, within float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= within) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// By hand: two upright lines share by moments; lines from one point carry W/(2·cos α) each; a
// line that hangs slack carries nothing, and the piece hangs by the other straight beneath.
func TestTwoTiesByHand(t *testing.T) {
	parallel := tied(4, 1.5, Tied{AtM: 0.5, Point: Spot{0, 10}, LineM: 3}, Tied{AtM: 3.5, Point: Spot{3, 10}, LineM: 3})
	h := parallel.Solve()
	same(t, "level", h.AttitudeDeg, 0, 1e-4)
	same(t, "butt line", h.Ties[0].TensionKn, weight200*(3.5-1.5)/3, 1e-5)
	same(t, "tip line", h.Ties[1].TensionKn, weight200*(1.5-0.5)/3, 1e-5)
	same(t, "lower end", h.LowestM, 7, 1e-4)
	// One point, 1 m to each side, 2 m of line: α = 30°.
	one := tied(4, 2, Tied{AtM: 1, Point: Spot{0, 10}, LineM: 2}, Tied{AtM: 3, Point: Spot{0, 10}, LineM: 2})
	h = one.Solve()
	for i := range h.Ties {
		same(t, "from upright", h.Ties[i].FromUprightDeg, 30, 1e-4)
		same(t, "W/(2·cos 30°)", h.Ties[i].TensionKn, weight200/2/math.Cos(math.Pi/6), 1e-5)
	}
	same(t, "level under one point", math.Abs(math.Remainder(h.AttitudeDeg, 180)), 0, 1e-4)
	// The tip's line is far too long: all on the butt's, tip straight down.
	loose := tied(4, 2, Tied{AtM: 0.5, Point: Spot{0, 10}, LineM: 2}, Tied{AtM: 3.5, Point: Spot{1, 10}, LineM: 20})
	h = loose.Solve()
	if !h.Ties[1].Slack || h.Ties[1].TensionKn != 0 || h.Ties[0].Slack {
		t.Errorf("%+v", h.Ties)
	}
	same(t, "all of it", h.Ties[0].TensionKn, weight200, 1e-9)
	same(t, "tip down", h.AttitudeDeg, -90, 1e-5)
	same(t, "lower end", h.LowestM, 10-2-3.5, 1e-9)
}

// Over random cases, against virtual work: from the place found, no small move that both lines
// allow brings the centre of gravity lower; the forces balance in both directions and about
// every place; mirrored, it is the same.
func TestTwoTiesAgainstVirtualWork(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 9))
	checked := 0
	for range 400 {
		length := 2 + 6*r.Float64()
		c := tied(length, length*(0.2+0.6*r.Float64()), Tied{AtM: length * 0.35 * r.Float64(), Point: Spot{0, 8 + 6*r.Float64()}, LineM: 0.5 + 6*r.Float64()},
			Tied{AtM: length * (0.6 + 0.4*r.Float64()), Point: Spot{1 + 7*r.Float64(), 8 + 6*r.Float64()}, LineM: 0.5 + 6*r.Float64()})
		if len(c.Faults("body")) > 0 {
			continue
		}
		checked++
		h := c.Solve()
		turn := h.AttitudeDeg * math.Pi / 180
		allowed := func(x, z, turn float64) bool {
			for i := range c.Ties {
				tie := &c.Ties[i]
				if math.Hypot(x+tie.AtM*math.Cos(turn)-tie.Point.X, z+tie.AtM*math.Sin(turn)-tie.Point.Z) > tie.LineM+1e-7 {
					return false
				}
			}
			return true
		}
		if !allowed(h.Butt.X, h.Butt.Z, turn) {
			t.Fatalf("it hangs where its lines do not reach: %+v %+v", c, h)
		}
		for range 400 {
			far := math.Pow(10, -4*r.Float64())
			x, z, w := h.Butt.X+far*(r.Float64()-0.5), h.Butt.Z+far*(r.Float64()-0.5), turn+far*(r.Float64()-0.5)
			if lower := z + c.CogM*math.Sin(w); lower < h.Cog.Z-1e-5 && allowed(x, z, w) {
				t.Fatalf("%+v: lower by %v at %v %v %v", c, h.Cog.Z-lower, x, z, w)
			}
		}
		fx, fz, moment := 0.0, -weight200, 0.0
		for i, tie := range h.Ties {
			if tie.TensionKn < 0 || tie.Slack && tie.TensionKn != 0 {
				t.Errorf("%+v", tie)
			}
			x, z := c.Ties[i].Point.X-tie.At.X, c.Ties[i].Point.Z-tie.At.Z
			long := math.Hypot(x, z)
			fx, fz = fx+tie.TensionKn*x/long, fz+tie.TensionKn*z/long
			moment += (tie.At.X-h.Cog.X)*tie.TensionKn*z/long - (tie.At.Z-h.Cog.Z)*tie.TensionKn*x/long
		}
		if most := math.Max(h.Ties[0].TensionKn, h.Ties[1].TensionKn); most < 20*weight200 {
			same(t, "level forces", fx, 0, 1e-4)
			same(t, "upright forces", fz, 0, 1e-4)
			same(t, "moment about the balance", moment, 0, 1e-3)
		}
		mirror := c
		mirror.Ties = []Tied{c.Ties[0], c.Ties[1]}
		for i := range mirror.Ties {
			mirror.Ties[i].Point.X = -mirror.Ties[i].Point.X
		}
		m := mirror.Solve()
		same(t, "mirrored, lower end", m.LowestM, h.LowestM, 1e-5)
		same(t, "mirrored, tension", m.Ties[0].TensionKn, h.Ties[0].TensionKn, 1e-3)
	}
	if checked < 100 {
		t.Errorf("only %d cases hang", checked)
	}
}

// A piece carried between two points by one tie is the case of two ties that lie together: kind
// two-line's tensions are those of a piece tied twice within a centimetre at its balance, on the
// lines that the place leaves.
func TestOneTieIsACaseOfTwo(t *testing.T) {
	height := 6.0
	for _, pair := range []Pair{
		{A: Point{0, 0, 12}, B: Point{9, 0, 12}, MassKg: 200, PieceZ: &height},
		{A: Point{0, 0, 10}, B: Point{5, 0, 14}, MassKg: 200, PieceZ: &height},
		{A: Point{0, 0, 16}, B: Point{12, 0, 7.5}, MassKg: 200, PieceZ: &height},
	} {
		way := pair.Solve().Way
		for _, at := range way[4 : len(way)-4] {
			const apart = 0.01
			long := func(x float64, to Point) float64 { return math.Hypot(to.X-(at.At.X+x), to.Z-at.At.Z) }
			two := tied(2, 1, Tied{AtM: 1 - apart/2, Point: Spot{pair.A.X, pair.A.Z}, LineM: long(-apart/2, pair.A)},
				Tied{AtM: 1 + apart/2, Point: Spot{pair.B.X, pair.B.Z}, LineM: long(apart/2, pair.B)})
			h := two.Solve()
			same(t, "line A", h.Ties[0].TensionKn, at.AKn, 0.02*weight200)
			same(t, "line B", h.Ties[1].TensionKn, at.BKn, 0.02*weight200)
		}
	}
	// Lines that run together upright: either may have all of it.
	if first, second := met(2, [2]float64{0, 0}, [2]float64{1, 1}); first != 2 || second != 2 {
		t.Errorf("two lines as one: %v and %v", first, second)
	}
}

func TestTiesThatCannotHold(t *testing.T) {
	good := func() TwoTie {
		return tied(4, 2, Tied{AtM: 1, Point: Spot{0, 10}, LineM: 2}, Tied{AtM: 3, Point: Spot{2, 10}, LineM: 2})
	}
	for where, spoil := range map[string]func(*TwoTie){
		"body.ties[1].line_m": func(c *TwoTie) { c.Ties[1].Point.X = 40 },
		"body.ties[1].at_m":   func(c *TwoTie) { c.Ties[1].AtM = 1 },
		"body.cog_m":          func(c *TwoTie) { c.CogM = 5 },
		"body.ties[0].at_m":   func(c *TwoTie) { c.Ties[0].AtM = 4.5 },
	} {
		c := good()
		spoil(&c)
		if faults := c.Faults("body"); len(faults) != 1 || faults[0].Location != where {
			t.Errorf("%s: %v", where, faults)
		}
	}
	c := good()
	if faults := c.Faults("body"); len(faults) > 0 {
		t.Error(faults)
	}
	flat := tied(2, 1, Tied{AtM: 0, Point: Spot{-4, 10}, LineM: 4.1}, Tied{AtM: 2, Point: Spot{6, 10}, LineM: 4.1})
	if said := strings.Join(flat.Cautions(flat.Solve()), " "); !strings.Contains(said, "past 60°") || !strings.Contains(said, "is let go") {
		t.Errorf("flat lines: %s", said)
	}
}

func BenchmarkTwoTie(b *testing.B) {
	c := tied(4, 1.8, Tied{AtM: 0.5, Point: Spot{0, 12}, LineM: 4}, Tied{AtM: 3.5, Point: Spot{4, 13}, LineM: 5})
	for range b.N {
		if h := c.Solve(); h.Ties[0].Slack {
			b.Fatal(h)
		}
	}
}

// What falls onto a line when the other is let go, by hand; what is said of it; the working.
func TestWhatFallsOntoTheOtherTie(t *testing.T) {
	// One point at 10 m, 1 m to each side of the balance on 2 m of line: the balance hangs √3 below it. On one line alone
	// it hangs 2 m and 1 m below.
	c := tied(4, 2, Tied{AtM: 1, Point: Spot{0, 10}, LineM: 2}, Tied{AtM: 3, Point: Spot{0, 10}, LineM: 2})
	h := c.Solve()
	for i := range h.Ties {
		same(t, "drop", h.Ties[i].DropM, 3-math.Sqrt(3), 1e-6)
	}
	said := c.Cautions(h)
	if len(said) != 2 || !strings.HasPrefix(said[0], "When tip is let go, butt takes the whole weight, and its centre of gravity falls 1.27 m") || !strings.HasPrefix(said[1], "When butt is let go, tip") {
		t.Errorf("%q", said)
	}
	// Unlike: the balance 0.5 m from the butt's tie, level under two upright lines of 3 m. Alone it hangs 0.5 m under the
	// butt's tie, or 2.5 m under the tip's.
	c = tied(4, 1, Tied{AtM: 0.5, Point: Spot{0, 10}, LineM: 3}, Tied{AtM: 3.5, Point: Spot{3, 10}, LineM: 3})
	h = c.Solve()
	same(t, "onto the butt's", h.Ties[0].DropM, 0.5, 1e-4)
	same(t, "onto the tip's", h.Ties[1].DropM, 2.5, 1e-4)
	at := map[string]float64{}
	for _, step := range c.Working(h) {
		at[step.Symbol] = step.Value
	}
	same(t, "W", at["W"], weight200, 1e-9)
	same(t, "T1", at["T1"], weight200*2.5/3, 1e-5)
	same(t, "T2", at["T2"], weight200*0.5/3, 1e-5)
	same(t, "z", at["z"], 7, 1e-4)
	same(t, "upright", at["α1"]+at["α2"], 0, 1e-2)
	// The butt's line slack: it hangs butt down, and that is said, with no word of letting go.
	c = tied(4, 2, Tied{AtM: 0.5, Point: Spot{1, 10}, LineM: 20}, Tied{AtM: 3.5, Point: Spot{0, 10}, LineM: 2})
	h = c.Solve()
	same(t, "butt down", h.AttitudeDeg, 90, 1e-5)
	same(t, "its lower end", h.LowestM, 10-2-3.5, 1e-9)
	same(t, "the tip's", h.Ties[1].TensionKn, weight200, 1e-9)
	if said := c.Cautions(h); len(said) != 1 || !strings.HasPrefix(said[0], "butt hangs slack") {
		t.Errorf("%q", said)
	}
}

// On two lines that are nearly upright and nearly parallel the balance of forces tells next to
// nothing; moments about the other tie do. Lines of 7 m and a few centimetres more, 4 m apart.
func TestNearlyParallelLines(t *testing.T) {
	for _, longer := range []float64{0, 1e-7, 1e-5, 1e-3, 0.03, 0.2} {
		tie := TwoTie{MassKg: 100, LengthM: 6, CogM: 1.7, Ties: []Tied{
			{Name: "butt", AtM: 1, Point: Spot{0, 16}, LineM: 7}, {Name: "tip", AtM: 5, Point: Spot{4, 16}, LineM: 7 + longer},
		}}
		got := tie.Solve()
		w := 100 * 9.80665 / 1000
		// Where the piece tilts the lines lean by no more than 4·(1 − cos tilt) over 7 m.
		for i, want := range []float64{w * (5 - 1.7) / 4, w * (1.7 - 1) / 4} {
			if !(math.Abs(got.Ties[i].TensionKn-want) <= 2e-3*w) {
				t.Errorf("%g m longer: line %d carries %v kN, by moments %v", longer, i, got.Ties[i].TensionKn, want)
			}
		}
	}
}

// The lowest that a piece hangs in an attitude, against a net over both discs that its butt may be in.
func TestTheLowestInAnAttitude(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 4))
	for range 60 {
		c := tied(5, 5*r.Float64(), Tied{AtM: 2 * r.Float64(), Point: Spot{r.Float64(), 9 + 2*r.Float64()}, LineM: 1 + 3*r.Float64()},
			Tied{AtM: 2.5 + 2.5*r.Float64(), Point: Spot{2 + 3*r.Float64(), 9 + 2*r.Float64()}, LineM: 1 + 3*r.Float64()})
		turn := 2 * math.Pi * r.Float64()
		got := c.lowest(turn)
		// The butt lies in a disc about each point less its tie; the net is over the first of them.
		ax, az := c.Ties[0].Point.X-c.Ties[0].AtM*math.Cos(turn), c.Ties[0].Point.Z-c.Ties[0].AtM*math.Sin(turn)
		bx, bz := c.Ties[1].Point.X-c.Ties[1].AtM*math.Cos(turn), c.Ties[1].Point.Z-c.Ties[1].AtM*math.Sin(turn)
		low, found := math.Inf(1), false
		const fine = 1200
		for i := range fine {
			for j := range 20 {
				w, d := 2*math.Pi*float64(i)/fine, c.Ties[0].LineM*(1-float64(j)/400)
				if x, z := ax+d*math.Cos(w), az+d*math.Sin(w); math.Hypot(x-bx, z-bz) <= c.Ties[1].LineM {
					low, found = min(low, z), true
				}
				e := c.Ties[1].LineM * (1 - float64(j)/400)
				if x, z := bx+e*math.Cos(w), bz+e*math.Sin(w); math.Hypot(x-ax, z-az) <= c.Ties[0].LineM {
					low, found = min(low, z), true
				}
			}
		}
		if found && (math.IsInf(got.cogZ, 1) || got.z > low+1e-9 || got.z < low-0.03) {
			t.Errorf("%+v turned %v: lowest %v, the net found %v", c.Ties, turn, got.z, low)
		}
		if math.IsInf(got.cogZ, 1) {
			continue
		}
		for i, tie := range c.Ties {
			if x, z := got.at(tie.AtM); math.Hypot(x-tie.Point.X, z-tie.Point.Z) > tie.LineM+1e-9 {
				t.Errorf("line %d does not reach: %+v turned %v", i, c.Ties, turn)
			}
		}
		same(t, "height of the balance", got.cogZ, got.z+c.CogM*math.Sin(turn), 1e-12)
	}
}

// On one line alone a piece hangs straight beneath its point, the heavy end down.
func TestAloneOnOneLine(t *testing.T) {
	c := tied(4, 1.5, Tied{AtM: 0.5, Point: Spot{1, 10}, LineM: 2}, Tied{AtM: 3, Point: Spot{-2, 12}, LineM: 3})
	butt := c.alone(0) // tied above its balance's other side: tip down, butt 0.5 m over the tie
	same(t, "butt", butt.x, 1, 1e-12)
	same(t, "butt height", butt.z, 8.5, 1e-12)
	same(t, "balance", butt.cogZ, 7, 1e-12)
	tip := c.alone(1) // butt down, 3 m beneath the tie
	same(t, "butt", tip.x, -2, 1e-12)
	same(t, "butt height", tip.z, 6, 1e-12)
	same(t, "balance", tip.cogZ, 7.5, 1e-12)
	level := tied(4, 0.5, Tied{AtM: 0.5, Point: Spot{1, 10}, LineM: 2}, Tied{AtM: 3, Point: Spot{-2, 12}, LineM: 3})
	same(t, "tied at its balance", level.alone(0).cogZ, 8, 1e-12)
}

// Upright under both lines at once: which of two that pull along one line carries what is told
// by the place of the balance between the ties.
func TestUprightOnBothLines(t *testing.T) {
	for _, cog := range []float64{1.2, 1.5, 2.4, 2.9} {
		c := tied(4, cog, Tied{AtM: 1, Point: Spot{3, 10}, LineM: 5}, Tied{AtM: 3, Point: Spot{3, 10}, LineM: 3})
		h := c.Solve()
		same(t, "tip up", h.AttitudeDeg, 90, 1e-3)
		same(t, "butt line", h.Ties[0].TensionKn, weight200*(3-cog)/2, 1e-4)
		same(t, "tip line", h.Ties[1].TensionKn, weight200*(cog-1)/2, 1e-4)
	}
}

// What may just be is no fault, and what may not says by how much it falls short.
func TestTiesAtTheirBounds(t *testing.T) {
	whole := tied(4, 4, Tied{AtM: 0, Point: Spot{0, 10}, LineM: 2}, Tied{AtM: 4, Point: Spot{4, 10}, LineM: 2})
	if faults := whole.Faults("body"); len(faults) > 0 {
		t.Errorf("tied at both ends, its balance at the tip: %v", faults)
	}
	// Points 40 m apart; 2 m and 2 m of line and 3.5 m of wood between the ties reach 7.5 m.
	short := tied(4, 2, Tied{AtM: 0.5, Point: Spot{5, 10}, LineM: 2}, Tied{AtM: 4, Point: Spot{29, 42}, LineM: 2})
	faults := short.Faults("body")
	if len(faults) != 1 || faults[0].Allowed != "more than 34.5 m" || !strings.Contains(faults[0].Message, "reach 7.5 m") || !strings.Contains(faults[0].Message, "40 m apart") {
		t.Errorf("%+v", faults)
	}
}

// Flat lines are said to be flat beyond 60 degrees, a slack one is not.
func TestWhenALineLiesFlat(t *testing.T) {
	for _, c := range []struct {
		half float64
		flat bool
	}{{1.70, false}, {1.76, true}} {
		// 2 m of line that reaches so far to each side: sin α is half of it over 2.
		two := tied(2, 1, Tied{AtM: 0, Point: Spot{-c.half, 10}, LineM: 2}, Tied{AtM: 2, Point: Spot{2 + c.half, 10}, LineM: 2})
		h := two.Solve()
		same(t, "from upright", h.Ties[0].FromUprightDeg, math.Asin(c.half/2)*180/math.Pi, 1e-3)
		if said := strings.Join(two.Cautions(h), " "); strings.Contains(said, "past 60°") != c.flat {
			t.Errorf("%v: %s", c.half, said)
		}
	}
}

// Where the two circles of the butt cross: of both places the lower, mirrored it is the same; and by hand, lines of 5 m
// from points 8 m apart and a piece so short that both ties are nearly one: 3 m beneath.
func TestTheLowerOfTwoCrossings(t *testing.T) {
	c := tied(2, 1, Tied{AtM: 1, Point: Spot{0, 10}, LineM: 5}, Tied{AtM: 1.000001, Point: Spot{8, 10}, LineM: 5})
	for _, turn := range []float64{0, 1, math.Pi, -2} {
		got := c.lowest(turn)
		sin, cos := math.Sincos(turn)
		same(t, "x of the ties", got.x+cos, 4, 1e-5)
		same(t, "z of the ties", got.z+sin, 7, 1e-5)
		swapped := c
		swapped.Ties = []Tied{c.Ties[1], c.Ties[0]}
		back := swapped.lowest(turn)
		same(t, "taken the other way round", back.x, got.x, 1e-6)
		same(t, "taken the other way round", back.z, got.z, 1e-6)
	}
}

// A line so long that the other carries all is slack, just as long as it must be it is not.
func TestWhenATieIsSlack(t *testing.T) {
	// On the first line alone it hangs tip down: the second tie at 10 − 2 − 3 = 5 m, 7 m beneath a point of 12 m.
	for _, c := range []struct {
		line  float64
		slack bool
	}{{7.00001, true}, {6.99, false}} {
		two := tied(4, 2, Tied{AtM: 0.5, Point: Spot{0, 10}, LineM: 2}, Tied{AtM: 3.5, Point: Spot{0, 12}, LineM: c.line})
		h := two.Solve()
		if h.Ties[1].Slack != c.slack || c.slack && !(math.Abs(h.Ties[0].TensionKn-weight200) <= 1e-9) {
			t.Errorf("%g m: %+v", c.line, h.Ties)
		}
		if !c.slack {
			// Upright still: what the first gave up the second has; by moments along the piece nothing is told, both are taken.
			if sum := h.Ties[0].TensionKn + h.Ties[1].TensionKn; sum < weight200-1e-6 {
				t.Errorf("%g m: both carry %v of %v", c.line, sum, weight200)
			}
		}
	}
}

// Two lines that meet: their level parts cancel, their upright ones sum to the weight; the working gives their angles.
func TestTwoLinesThatMeet(t *testing.T) {
	// 3-4-5 to the left, 5-12-13 to the right.
	first, second := met(10, [2]float64{-0.6, 5.0 / 13}, [2]float64{0.8, 12.0 / 13})
	same(t, "level", -0.6*first+5.0/13*second, 0, 1e-12)
	same(t, "upright", 0.8*first+12.0/13*second, 10, 1e-12)
	same(t, "first", first, 10*(5.0/13)/(0.8*5/13+0.6*12/13), 1e-12)
	c := tied(4, 2, Tied{AtM: 1, Point: Spot{0, 10}, LineM: 2}, Tied{AtM: 3, Point: Spot{0, 10}, LineM: 2})
	for _, step := range c.Working(c.Solve()) {
		if strings.HasPrefix(step.Symbol, "α") && (!(math.Abs(step.Value-30) <= 1e-4) || step.Symbol != "α1" && step.Symbol != "α2") {
			t.Errorf("%+v", step)
		}
	}
}

// Just so many degrees, and just twice the weight, is not past it.
func TestCautionsAtTheirBounds(t *testing.T) {
	two := tied(2, 1, Tied{AtM: 0, Point: Spot{0, 10}, LineM: 2}, Tied{AtM: 2, Point: Spot{2, 10}, LineM: 2})
	for deg, said := range map[float64]bool{60: false, 60.001: true} {
		h := Hanging{Ties: []TieLoad{{Name: "butt", FromUprightDeg: deg}, {Name: "tip"}}}
		if strings.Contains(strings.Join(two.Cautions(h), " "), "past 60°") != said {
			t.Errorf("%v° from upright: %q", deg, two.Cautions(h))
		}
	}
	pair := Pair{MassKg: 200}
	for kn, said := range map[float64]bool{2 * (200 * units.Gravity / 1000): false, 3.93: true} {
		if got := pair.Cautions(Carrying{MaxAKn: 1, MaxBKn: kn}); (len(got) == 1) != said {
			t.Errorf("%v kN of 1.96: %q", kn, got)
		}
	}
	for rise, said := range map[float64]bool{60: false, 60.001: true} {
		if got := (&Heat{}).Cautions(Heats{DeviceRiseK: &rise}); (len(got) == 1) != said {
			t.Errorf("warmed by %v K: %q", rise, got)
		}
	}
}

// Lines in one line with the piece carry without bound, and are refused; a little longer they carry W/(2·sin α) each.
func TestLinesInOneLine(t *testing.T) {
	span := func(long float64) TwoTie {
		return tied(6, 3, Tied{AtM: 1, Point: Spot{0, 10}, LineM: long}, Tied{AtM: 5, Point: Spot{8, 10}, LineM: long})
	}
	for _, long := range []float64{2, 2.00000001} {
		two := span(long)
		if faults := two.Faults("body"); len(faults) != 1 || faults[0].Location != "body.ties[1].line_m" {
			t.Errorf("%v m of line: %v", long, faults)
		}
	}
	for _, long := range []float64{2.0005, 2.01, 2.4} {
		two := span(long)
		if faults := two.Faults("body"); len(faults) > 0 {
			t.Errorf("%v m of line: %v", long, faults)
			continue
		}
		want := weight200 / 2 / (math.Sqrt(long*long-4) / long)
		for _, tie := range two.Solve().Ties {
			same(t, "flat lines", tie.TensionKn, want, 1e-3*want)
		}
	}
}

// In one line, level or upright, with ties unlike and points not at the origin, what they carry has no bound: refused; by a
// little more of line, or with one that hangs slack, it hangs.
func TestWhatLiesInOneLine(t *testing.T) {
	level := func(more float64) TwoTie {
		return tied(4, 2.2, Tied{AtM: 0.5, Point: Spot{1, 10}, LineM: 2.5 + more}, Tied{AtM: 3.5, Point: Spot{11, 10}, LineM: 4.5 + more})
	}
	upright := func(more float64) TwoTie {
		return tied(4, 2.2, Tied{AtM: 0.5, Point: Spot{1, 1}, LineM: 2.5 + more}, Tied{AtM: 3.5, Point: Spot{1, 11}, LineM: 4.5 + more})
	}
	for what, c := range map[string]struct {
		two     TwoTie
		refused bool
	}{
		"level": {level(1e-9), true}, "level, longer": {level(1e-5), false}, "level, slack": {level(0.5), false},
		"upright": {upright(0), true}, "upright, longer": {upright(1e-2), false},
		"one slack":                    {tied(4, 2.2, Tied{AtM: 0.5, Point: Spot{1, 10}, LineM: 2.5}, Tied{AtM: 3.5, Point: Spot{11, 10}, LineM: 30}), false},
		"one above the other, both up": {tied(4, 2.2, Tied{AtM: 0.5, Point: Spot{1, 12}, LineM: 2.5}, Tied{AtM: 3.5, Point: Spot{1, 15}, LineM: 2.5}), false},
	} {
		_, faults := c.two.Hangs("body")
		refused := len(faults) > 0 && strings.Contains(faults[0].Message, "in one line")
		if refused != c.refused || len(faults) > 0 != c.refused {
			t.Errorf("%s: %v", what, faults)
		}
	}
}
