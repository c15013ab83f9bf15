package crane

import (
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"
)

// lengthsOff is how badly slings fit a hook: the squares of what each is too long or too short.
func lengthsOff(slings []Sling, x, y float64) (sum float64) {
	for _, s := range slings {
		off := math.Sqrt((x-s.AtM)*(x-s.AtM)+y*y) - s.LengthM
		sum += off * off
	}
	return sum
}

// search looks for the best hook by walking a shrinking cross from a place.
func search(slings []Sling, x, y float64) (float64, float64) {
	for step := 1.0; step > 1e-9; {
		best, bx, by := lengthsOff(slings, x, y), x, y
		for _, d := range [][2]float64{{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}, {1, -1}, {-1, 1}} {
			if tx, ty := x+step*d[0], math.Abs(y+step*d[1]); lengthsOff(slings, tx, ty) < best {
				best, bx, by = lengthsOff(slings, tx, ty), tx, ty
			}
		}
		if bx == x && by == y {
			step /= 2
		}
		x, y = bx, by
	}
	return x, y
}

// Where three slings and more meet, against a search that knows nothing of slopes; what they share is the
// least that balances: no share of it can be shifted among them without a change of the balance.
func TestManySlingsMeetWhereTheyFitBest(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 12))
	for range 300 {
		count := 3 + r.IntN(4)
		hookX, hookY := 2+3*r.Float64(), 1+3*r.Float64()
		var slings []Sling
		for i := range count {
			at := 7*float64(i)/float64(count) + 0.7*r.Float64()
			long := math.Hypot(hookX-at, hookY) * (1 + 0.06*(r.Float64()-0.5))
			slings = append(slings, sling(fmt.Sprint(i), at, long))
		}
		x, y, ok := meet(slings)
		sx, sy := search(slings, hookX, hookY)
		// The cross stalls in a narrow valley: it is never better, and never far off.
		if got, best := lengthsOff(slings, x, y), lengthsOff(slings, sx, sy); !ok || got > best+1e-9 || math.Hypot(x-sx, y-sy) > 2e-3 {
			t.Fatalf("%+v: %g %g (off %g), by search %g %g (off %g)", slings, x, y, got, sx, sy, best)
		}
		p := pick(900, 8, hookX, slings...)
		h, why := p.hang(slings)
		if why != "" || math.Abs(h.tilt) == math.Pi/2 {
			continue
		}
		// Of three neighbours, the share that changes no force: the cross product of the two rows of the balance.
		for i := 0; i+2 < count; i++ {
			var along, square [3]float64
			for k := range 3 {
				long := math.Hypot(x-slings[i+k].AtM, y)
				along[k], square[k] = (x-slings[i+k].AtM)/long, y/long
			}
			idle := [3]float64{
				along[1]*square[2] - along[2]*square[1], along[2]*square[0] - along[0]*square[2], along[0]*square[1] - along[1]*square[0],
			}
			shift := idle[0]*h.tensions[i] + idle[1]*h.tensions[i+1] + idle[2]*h.tensions[i+2]
			if !(math.Abs(shift) <= 1e-9) {
				t.Errorf("a share of %g could be shifted among %d to %d", shift, i, i+2)
			}
		}
	}
}

// Each pair alone, by the law of sines on its triangle of forces: the largest that each sling sees.
func TestTheWorstTwo(t *testing.T) {
	slings := []Sling{sling("a", 0.5, 4.2), sling("b", 2, 3.4), sling("c", 4, 3.4), sling("d", 5.6, 4.1)}
	p := pick(1500, 6, 2.9, slings...)
	want := make([]float64, 4)
	weight := 1500 * 9.80665e-3
	for i := range slings {
		for k := i + 1; k < len(slings); k++ {
			a, b := slings[i], slings[k]
			if a.AtM > 2.9 || b.AtM < 2.9 {
				continue // it would tip out
			}
			gap := b.AtM - a.AtM
			// Angles at the two ends of the piece by the law of cosines, and the hook from them.
			atA := math.Acos((a.LengthM*a.LengthM + gap*gap - b.LengthM*b.LengthM) / (2 * a.LengthM * gap))
			hookX, hookY := a.AtM+a.LengthM*math.Cos(atA), a.LengthM*math.Sin(atA)
			plumb := math.Atan2(hookX-2.9, hookY)
			fromA, fromB := math.Atan2(hookX-a.AtM, hookY)-plumb, plumb-math.Atan2(hookX-b.AtM, hookY)
			want[i] = max(want[i], weight*math.Sin(fromB)/math.Sin(fromA+fromB))
			want[k] = max(want[k], weight*math.Sin(fromA)/math.Sin(fromA+fromB))
		}
	}
	for i, got := range p.Solve().WorstTwo {
		near(t, got.Name, got.TensionKn, want[i], 1e-9)
		near(t, "use of "+got.Name, got.UsePct, 100*want[i]/20, 1e-9)
	}
}

// What is said beside a lift, and what is not.
func TestWhatIsSaidOfALift(t *testing.T) {
	flat := 2 / math.Cos(29*math.Pi/180)
	steep := 2 / math.Cos(31*math.Pi/180)
	with := func(s Sling, change func(*Sling)) Sling { change(&s); return s }
	for _, c := range []struct {
		what string
		p    Pick
		says []string
	}{
		{"two, steep", pick(1000, 6, 3, sling("a", 1, steep), sling("b", 5, steep)), nil},
		{"two, at 29° to the level", pick(1000, 6, 3, sling("a", 1, flat), sling("b", 5, flat)), []string{"Sling a lies under 30°", "Sling b lies under 30°"}},
		{"one, in its place", pick(1000, 6, 3, sling("a", 3, 2)), nil},
		{"one, away", pick(1000, 6, 3, sling("a", 2, 2)), []string{"One sling away"}},
		{"a basket upright", pick(1000, 6, 3, with(sling("a", 3, 2), func(s *Sling) { s.Hitch = Basket })), nil},
		{"a basket aslant", pick(1000, 6, 3, with(sling("a", 1, steep), func(s *Sling) { s.Hitch = Basket }), sling("b", 5, steep)), []string{"Basket a:"}},
		{"over its rating", pick(1000, 6, 3, with(sling("a", 3, 2), func(s *Sling) { s.WllKn = 9.8 })), []string{"Sling a is over its rating"}},
		{"just within", pick(1000, 6, 3, with(sling("a", 3, 2), func(s *Sling) { s.WllKn = 9.81 })), nil},
		{"three", pick(1000, 6, 3, sling("a", 1, steep), sling("b", 3, steep*math.Sin(31*math.Pi/180)), sling("c", 5, steep)), []string{"Three or more"}},
		// 10 m on the chart: 3,000 kg, three quarters of it 2,250.
		{"at its share", pick(2250, 6, 3, with(sling("a", 3, 2), func(s *Sling) { s.WllKn = 30 })), nil},
		{"over its share", pick(2251, 6, 3, with(sling("a", 3, 2), func(s *Sling) { s.WllKn = 30 })), []string{"over the share of the chart"}},
	} {
		said := c.p.Cautions(c.p.Solve())
		if len(said) != len(c.says) {
			t.Errorf("%s: %q", c.what, said)
			continue
		}
		for i, says := range c.says {
			if !strings.Contains(said[i], says) {
				t.Errorf("%s: %q, want %q", c.what, said[i], says)
			}
		}
	}
}

// A sling that nobody has said anything about, and a choke of what is no choker, are named.
func TestSlingsThatAreNotSaid(t *testing.T) {
	p := pick(1000, 6, 3, sling("a", 3, 2))
	p.Slings[0].WllKn = 0
	if faults := p.Faults("body"); len(faults) != 1 || faults[0].Location != "body.slings[0].wll_kn" {
		t.Errorf("%v", faults)
	}
	right := 90.0
	p.Slings[0].WllKn, p.Slings[0].ChokeDeg = 10, &right
	if faults := p.Faults("body"); len(faults) != 1 || faults[0].Location != "body.slings[0].choke_deg" {
		t.Errorf("%v", faults)
	}
	p.Slings[0].Hitch = Choker
	if faults := p.Faults("body"); len(faults) != 0 {
		t.Errorf("%v", faults)
	}
	// At the very tip it may sit.
	p.Slings[0].AtM, p.Piece.CogM = 6, 5.9
	if faults := p.Faults("body"); len(faults) != 0 {
		t.Errorf("at the tip: %v", faults)
	}
}

// The working ends in the figures of the lift, each under its name.
func TestTheWorkingOfALift(t *testing.T) {
	p := pick(1000, 6, 2.5, sling("a", 1, 3), sling("b", 4.5, 3.4))
	p.RiggingKg = 120
	l := p.Solve()
	got := map[string]float64{}
	for _, step := range p.Working(l) {
		got[step.Symbol] = step.Value
	}
	for symbol, want := range map[string]float64{"m": 1120, "C": 3000, "m/C": 112. / 3, "T_a": l.Slings[0].TensionKn, "T_b": l.Slings[1].TensionKn, "R_a": 20, "y": l.HookHeightM, "τ": l.TiltDeg} {
		near(t, symbol, got[symbol], want, 1e-12)
	}
}

// Cells at their bounds: the most figures a chart may have, empty ones and dashes, lists with and without titles.
func TestChartsAtTheirBounds(t *testing.T) {
	long := func(rows int) string {
		var text strings.Builder
		text.WriteString("m\t20\t24\n")
		for i := range rows {
			fmt.Fprintf(&text, "%g\t%g\t%g\n", 3+float64(i)/10, 90-float64(i)/100, 80-float64(i)/100)
		}
		return text.String()
	}
	for _, c := range []struct {
		what, text string
		rows       int
		shape      string
		says       string
	}{
		{"2,000", long(1000), 2000, "grid", ""},
		{"2,002", long(1001), 0, "", "2002 capacities"},
		{"dashes", "m\t20\t24\n6\t-\t4\n8\t3\t–\n", 2, "grid", ""},
		{"a list without titles", "6\t20\t5.1\n8\t20\t3.9\n", 2, "list", ""},
		{"booms that rise, two of them", "0\t20\t199\n6\t5\t4\n", 2, "grid", ""},
		{"booms that rise, in a row that says so", "radius\t20\t24\n6\t5\t4\n8\t4\t3\n", 4, "grid", ""},
		{"a list with titles", "radius\tboom\tcapacity\n6\t20\t5.1\n8\t20\t3.9\n", 2, "list", ""},
		{"rows in no order", "8\t24\t3\n6\t20\t5.1\n6\t24\t4\n8\t20\t3.9\n", 4, "list", ""},
		{"a row of a list cut short", "radius\tboom\tcapacity\n6\t20\t5.1\n8\t20\n", 0, "", "row 3 has 2 cells"},
		{"alike further out", "m\t20\n6\t5\n8\t5\n", 2, "grid", ""},
		{"a radius at its most", "m\t20\n200\t5\n", 1, "grid", ""},
		{"a radius beyond it", "m\t20\n200.1\t5\n", 0, "", "row 2, column 1"},
		{"nothing of it", "m\t20\n6\t0\n", 0, "", "row 2, column 2"},
		{"one row", "m\t20", 0, "", "1 rows"},
		{"one column", "m\n6", 0, "", "2 rows"},
	} {
		read, err := (&Pasted{Text: c.text, Lengths: "m", Capacity: "t"}).Read()
		if (c.says == "") != (err == nil) || err != nil && !strings.Contains(err.Error(), c.says) || len(read.Rows) != c.rows || read.Shape != c.shape {
			t.Errorf("%s: %v, %d rows, %s", c.what, err, len(read.Rows), read.Shape)
		}
	}
}
