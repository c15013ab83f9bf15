package cut

import (
	"math"
	"strings"
	"testing"
)

const (
	pound = 4.4482216152605e-3 // kN
	foot  = 0.3048
)

func near(t *testing.T, what string, got, want, relative float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= relative*math.Max(math.Abs(want), 1e-12)) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// A 40 lb push a foot above the cut pulls the bridge with 80 lb at 6 in from the edge
// and with 160 lb at 3 in (common practice, no source).
func TestTheTradesPush(t *testing.T) {
	for _, c := range []struct{ edge, bridge float64 }{{0.5, 80}, {0.25, 160}} {
		s := Snap{MassKg: 50, CogHeightM: 0.5, BridgeToEdgeM: c.edge * foot, Push: Push{40 * pound, foot}}
		near(t, "bridge", s.Solve().BridgeForceKn, c.bridge*pound, 1e-12)
	}
}

// Freshly cut softwood on itself: a 185 lb piece first moves at about 150 lb (common
// practice, no source); a slope of 10 to 15° makes the push much lighter.
func TestTheTradesSlide(t *testing.T) {
	s := Snap{MassKg: 185 * 0.45359237, CogHeightM: 0.6, BridgeToEdgeM: 0.1, Push: Push{0.2, 0.3}}
	level := s.Solve().SlideForceKn
	near(t, "level", level, 150*pound, 0.02)
	s.SlopeDeg = 12
	if sloped := s.Solve().SlideForceKn; sloped > 0.75*level {
		t.Errorf("on a slope of 12° it still takes %v of %v kN", sloped, level)
	}
	s.SlopeDeg = 45
	if got := s.Solve(); got.SlideForceKn != 0 || len(s.Cautions(got)) < 2 {
		t.Errorf("on 45° it takes %v kN", got.SlideForceKn)
	}
}

func TestVerdictsOfASnap(t *testing.T) {
	for _, c := range []struct {
		lean float64
		want string
	}{{0, Waits}, {-5, Waits}, {4, MayGoEarly}, {12, GoesByItself}} {
		s := Snap{MassKg: 80, CogHeightM: 0.6, LeanDeg: c.lean, BridgeToEdgeM: 0.08, Push: Push{0.18, 0.3}}
		if got := s.Solve(); got.Verdict != c.want {
			t.Errorf("leaning %v° it %s (ratio %v), want %s", c.lean, got.Verdict, got.SelfRatio, c.want)
		}
	}
}

// By hand: 80 kg leaning 20°, its balance 0.6 m up and 0.1 m towards the edge; what is said of a piece that leans
// against the push, and of one that stands.
func TestWhatIsSaidOfASnap(t *testing.T) {
	s := Snap{MassKg: 80, CogHeightM: 0.6, CogOffsetM: 0.1, LeanDeg: 20, BridgeToEdgeM: 0.08, Push: Push{0.18, 0.3}}
	mass := 80.0 // rounded as a figure is, not as a constant
	weight := mass * 9.80665 / 1000
	near(t, "its own moment", s.Solve().SelfMomentKnm, weight*(0.1*math.Cos(math.Pi/9)+0.6*math.Sin(math.Pi/9)), 1e-12)
	// The push of 0.18 kN at 0.3 m is 0.054 kN·m: 80 kg lean against it as hard at a lean of 6.6°.
	for lean, says := range map[float64]string{-6: "", -7.5: "leans against the push"} {
		s := Snap{MassKg: 80, CogHeightM: 0.6, LeanDeg: lean, BridgeToEdgeM: 0.08, Push: Push{0.18, 0.3}}
		said := strings.Join(s.Cautions(s.Solve()), " ")
		if strings.Contains(said, "leans against the push") != (says != "") {
			t.Errorf("leaning %g°: %s", lean, said)
		}
	}
	// Just as much as the push, and half of it, by a lever that halves exactly.
	for _, c := range []struct {
		force float64
		want  string
	}{{weight, GoesByItself}, {2 * weight, MayGoEarly}, {2.001 * weight, Waits}} {
		s := Snap{MassKg: 80, CogOffsetM: 0.5, BridgeToEdgeM: 0.08, Push: Push{c.force, 0.5}}
		if got := s.Solve(); got.Verdict != c.want {
			t.Errorf("pushed with %g kN: %s, its own share %v", c.force, got.Verdict, got.SelfRatio)
		}
	}
}
