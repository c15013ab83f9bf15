package line

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"
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
