package haul

import (
	"math"
	"strings"
	"testing"
)

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= 1e-9*math.Max(1, math.Abs(want))) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// system writes a system in short: pulleys as "id@on", ropes as "id: stop stop …".
func system(efficiency float64, pulleys string, ropes ...string) *System {
	s := &System{LoadKn: 6}
	for _, word := range strings.Fields(pulleys) {
		id, on, _ := strings.Cut(word, "@")
		s.Pulleys = append(s.Pulleys, Pulley{id, on, efficiency})
	}
	for _, rope := range ropes {
		id, path, _ := strings.Cut(rope, ": ")
		s.Ropes = append(s.Ropes, Rope{id, strings.Fields(path)})
	}
	return s
}

// The textbook systems (rope rescue and rigging texts; the ideal advantages are common
// knowledge), each with the sum of its losses by hand at an efficiency e.
func TestTextbookSystems(t *testing.T) {
	const e = 0.9
	for _, c := range []struct {
		name    string
		pulleys string
		ropes   []string
		ideal   float64
		actual  float64
	}{
		{"1:1 redirect", "a@anchor", []string{"r: load a hand"}, 1, e},
		{"2:1", "m@load", []string{"r: anchor m hand"}, 2, 1 + e},
		{"3:1", "a@anchor m@load", []string{"r: load a m hand"}, 3, 1 + e + e*e},
		{"4:1, two sheaves below", "m@load n@load a@anchor", []string{"r: anchor m a n hand"}, 4, 1 + e + e*e + e*e*e},
		{"5:1, from the load", "m@load n@load a@anchor b@anchor", []string{"r: load a m b n hand"}, 5, 1 + e + e*e + e*e*e + e*e*e*e},
		{"6:1, 2:1 on 3:1", "a@anchor m@load q@end:r", []string{"r: load a m free", "s: anchor q hand"}, 6, (1 + e) * (1 + e + e*e)},
		{"9:1, 3:1 on 3:1", "a@anchor m@load b@anchor q@end:r", []string{"r: load a m free", "s: end b q hand"}, 9, (1 + e + e*e) * (1 + e + e*e)},
	} {
		t.Run(c.name, func(t *testing.T) {
			for i := range c.ropes {
				// A 3:1 on the free end begins at that end: the becket of its pulley.
				c.ropes[i] = strings.Replace(c.ropes[i], "s: end ", "s: q ", 1)
			}
			s := system(e, c.pulleys, c.ropes...)
			if faults := s.Faults("body"); len(faults) > 0 {
				t.Fatal(faults)
			}
			got := s.Solve()
			near(t, "ideal", got.Ideal, c.ideal)
			near(t, "actual", got.Actual, c.actual)
			near(t, "hand", got.HandKn, 6/c.actual)
			near(t, "travel", got.TravelRatio, c.ideal)
		})
	}
}

// Forces balance over the whole: without losses the anchors hold the load and the hand
// between them, or their difference, as the rope is led.
func TestAnchorsBalanceTheLoad(t *testing.T) {
	s := system(1, "a@anchor m@load", "r: load a m hand")
	got := s.Solve()
	near(t, "anchor of a 3:1", got.Anchors[0].LoadKn, 6-2)
	s = system(0.9, "m@load", "r: anchor m hand")
	got = s.Solve()
	if got.Anchors[0].ID != "anchor:r" {
		t.Errorf("the dead end is called %s", got.Anchors[0].ID)
	}
	near(t, "dead end and hand carry the load", got.Anchors[0].LoadKn+got.HandKn, 6)
}

func TestWhatCannotWorkIsRefusedByName(t *testing.T) {
	for _, c := range []struct {
		name, location string
		s              *System
	}{
		{"no rope to the load", "body.ropes", system(1, "a@anchor", "r: anchor a hand")},
		{"two hands", "body.ropes", system(1, "m@load", "r: anchor m hand", "s: anchor m hand")},
		{"nothing on the free end", "body.ropes[0]", system(1, "m@load", "r: anchor m free", "s: load hand")},
		{"a loop", "body.ropes[0]", system(1, "q@end:s p@end:r m@load", "r: anchor q free", "s: anchor p free", "h: anchor m hand")},
		{"unknown pulley", "body.ropes[0].path[1]", system(1, "m@load", "r: anchor x hand")},
		{"no end", "body.ropes[0].path[2]", system(1, "m@load", "r: anchor m load")},
		{"on nothing", "body.pulleys[0].on", system(1, "m@tree", "r: anchor m hand")},
		{"on an end that is none", "body.pulleys[1].on", system(1, "m@load q@end:r", "r: anchor m hand")},
		{"a pulley twice running", "body.ropes[0].path[2]", system(1, "m@load a@anchor", "r: anchor m m a hand")},
		{"a pulley called hand", "body.pulleys[0].id", system(1, "hand@load", "r: anchor hand hand")},
		{"a name twice", "body.pulleys[1].id", system(1, "m@load m@anchor", "r: anchor m hand")},
	} {
		t.Run(c.name, func(t *testing.T) {
			faults := c.s.Faults("body")
			if len(faults) == 0 || faults[0].Location != c.location {
				t.Errorf("got %v, want a fault at %s", faults, c.location)
			}
		})
	}
}

// A line of given tension with a weight at its middle carries W/(2 sin θ) (common
// practice, no source); the sideways pull ends in that balance.
func TestSidewaysPullEndsInBalance(t *testing.T) {
	for _, s := range []Sideways{{20, 1, 600, 0.4}, {8, 0, 200, 0.1}, {50, 12, 1500, 3}, {10, 0.5, 50, 40}} {
		g := s.Solve()
		angle := g.AngleDeg * math.Pi / 180
		near(t, "T = F/(2 sin θ)", g.TensionKn, s.SideForceKn/(2*math.Sin(angle)))
		stretched := 2 * math.Hypot(s.SpanM/2, g.DeflectionM)
		near(t, "Hooke", g.TensionKn, s.StiffnessKn*(stretched*(1+s.PretensionKn/s.StiffnessKn)/s.SpanM-1))
	}
}

func BenchmarkHaul(b *testing.B) {
	s := system(0.9, "a@anchor m@load b@anchor n@load q@end:r c@anchor", "r: load a m b n free", "s: q c q hand")
	if faults := s.Faults("body"); len(faults) > 0 {
		b.Fatal(faults)
	}
	for b.Loop() {
		s.Solve()
	}
}

// Simple systems of every size: as many parts as they say, 1 + e + e² + … with losses, and the anchor takes the rest: the
// hand pulls the same way, so that it holds the load less the hand.
func TestSimpleSystems(t *testing.T) {
	for parts := 1; parts <= 9; parts++ {
		for _, e := range []float64{1, 0.9, 0.6} {
			s := Simple(parts, e)
			s.LoadKn = 12
			if faults := s.Faults("body"); len(faults) > 0 {
				t.Fatalf("%d parts: %v", parts, faults)
			}
			sum, power := 0.0, 1.0
			for range parts {
				sum, power = sum+power, power*e
			}
			a := s.Solve()
			near(t, "ideal", a.Ideal, float64(parts))
			near(t, "with losses", a.Actual, sum)
			near(t, "hand", a.HandKn, 12/sum)
			anchors := 0.0
			for _, anchor := range a.Anchors {
				anchors += anchor.LoadKn
			}
			near(t, "anchors", anchors, 12-12/sum)
			if len(s.Pulleys) != parts-1 {
				t.Errorf("%d parts have %d pulleys", parts, len(s.Pulleys))
			}
		}
	}
}

// A pulley may be passed twice, not running; a path of three begins, turns and ends.
func TestAPulleyPassedTwice(t *testing.T) {
	s := system(1, "m@load a@anchor", "r: anchor m a m hand")
	if faults := s.Faults("body"); len(faults) > 0 {
		t.Fatal(faults)
	}
	near(t, "four legs on it", s.Solve().Ideal, 4)
}
