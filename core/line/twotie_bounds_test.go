package line

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/units"
)

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
