package fell

import (
	"math"
	"math/rand/v2"
	"testing"
)

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= 1e-9*math.Max(1, math.Abs(want))) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// By hand: a tonne 0.5 m back, the line level at 10 m, no hinge, no margin: the pull is
// W·0.5/10. Twice as high, half the pull (common practice: pull high).
func TestPullByHand(t *testing.T) {
	one := 1.0
	f := Felling{
		Tree: Tree{MassKg: 1000, CogHeightM: 5, CogForwardM: -0.5},
		Pull: Line{AttachHeightM: 10, AnchorDistanceM: 20, AnchorHeightM: 10}, Margin: &one,
	}
	n := f.Solve()
	near(t, "pull", n.PullKn, 9.80665*0.05)
	near(t, "added to the stem", n.AddedStemKn, 0)
	near(t, "balance", n.BalanceDeg, math.Atan(0.1)*180/math.Pi)
	f.Pull.AttachHeightM, f.Pull.AnchorHeightM = 20, 20
	near(t, "twice as high", f.Solve().PullKn, 9.80665*0.025)
}

// Moments about the hinge, summed anew as cross products of force and place, balance
// as promised, whatever the lines.
func TestMomentsBalance(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 300 {
		f := Felling{
			Tree:  Tree{500 + 4000*r.Float64(), 4 + 8*r.Float64(), -1.5 * r.Float64(), 1.2*r.Float64() - 0.6},
			Hinge: &Hinge{0.5, 0.05, 50},
			Pull:  Line{AttachHeightM: 6 + 8*r.Float64(), AttachForwardM: r.Float64() - 0.8, AttachSideM: r.Float64() - 0.5, AnchorDistanceM: 10 + 30*r.Float64(), AnchorHeightM: 2 * r.Float64(), BearingDeg: 60*r.Float64() - 30},
		}
		bearing := 60 + 60*r.Float64()
		if f.Tree.CogSideM > 0 {
			bearing = -bearing
		}
		f.Retainer = &Line{AttachHeightM: 6 + 8*r.Float64(), AttachForwardM: r.Float64() - 0.8, AnchorDistanceM: 10 + 30*r.Float64(), BearingDeg: bearing}
		if faults := f.Faults("body"); len(faults) > 0 {
			continue
		}
		n := f.Solve()
		forward, side := 0.0, f.weightKn()*f.Tree.CogSideM
		for _, l := range []struct {
			line  Line
			force float64
		}{{f.Pull, n.PullKn}, {*f.Retainer, n.RetainerKn}} {
			b := l.line.BearingDeg * math.Pi / 180
			x, y, z := l.line.AnchorDistanceM*math.Cos(b)-l.line.AttachForwardM, l.line.AnchorDistanceM*math.Sin(b)-l.line.AttachSideM, l.line.AnchorHeightM-l.line.AttachHeightM
			long := math.Sqrt(x*x + y*y + z*z)
			forward += (l.line.AttachHeightM*x - l.line.AttachForwardM*z) / long * l.force
			side += (l.line.AttachHeightM*y - l.line.AttachSideM*z) / long * l.force
		}
		near(t, "side left", n.Hinge.SideKnm, side)
		if n.PullKn > 0 {
			near(t, "forward", forward, 1.3*(-f.weightKn()*f.Tree.CogForwardM+n.Hinge.BendingKnm))
		}
		if n.PullKn > 0 && n.RetainerKn > 0 && !(math.Abs(side) <= 1e-9) {
			t.Errorf("with both lines tight %v kN·m is left sideways", side)
		}
		near(t, "the curve begins with the pull", n.Curve[0].PullKn, n.PullKn)
	}
}

func TestAForwardLeanerNeedsNothing(t *testing.T) {
	f := Felling{Tree: Tree{MassKg: 2000, CogHeightM: 6, CogForwardM: 0.8}, Pull: Line{AttachHeightM: 8, AnchorDistanceM: 20}, Wedge: &Wedge{0.3}}
	n := f.Solve()
	if !n.TipsAlone || n.PullKn != 0 || n.BalanceDeg != 0 || *n.Wedge != (WedgeUse{}) || len(f.Cautions(n)) < 2 {
		t.Errorf("got %+v", n)
	}
	for _, at := range n.Curve {
		if at != (Moment{}) {
			t.Errorf("its curve has %+v", at)
		}
	}
}

func TestBearingsThatDoNotPullAreRefused(t *testing.T) {
	f := Felling{Tree: Tree{MassKg: 1000, CogHeightM: 5}, Pull: Line{AttachHeightM: 8, AnchorDistanceM: 20, BearingDeg: 95}}
	if faults := f.Faults("body"); len(faults) != 1 || faults[0].Location != "body.pull.bearing_deg" {
		t.Errorf("got %v", faults)
	}
	f.Pull.BearingDeg = 0
	f.Retainer = &Line{AttachHeightM: 8, AnchorDistanceM: 20, BearingDeg: 180}
	if faults := f.Faults("body"); len(faults) != 1 || faults[0].Location != "body.retainer.bearing_deg" {
		t.Errorf("got %v", faults)
	}
}

// From where a weight bends the hinge by itself, by a fine walk of the tilt: m·g·(forward·cos φ + height·sin φ) against
// σ/4·w·t², 50 MPa over 0.5 m by 6 cm being 22.5 kN·m.
func TestWhenAWeightBendsTheHinge(t *testing.T) {
	for _, c := range []struct{ kg, forward, height, thick float64 }{
		{800, -0.5, 8, 0.06}, {800, 0.5, 8, 0.06}, {800, 4, 8, 0.06}, {300, 0, 7, 0.06}, {250, 0, 8, 0.06}, {400, -3, 5, 0.06}, {600, -1, 6, 0.03},
	} {
		f := Felling{Tree: Tree{CogForwardM: c.forward, CogHeightM: c.height}, Hinge: &Hinge{WidthM: 0.5, ThicknessM: c.thick, StrengthMpa: 50}}
		bends := 50e3 / 4 * 0.5 * c.thick * c.thick
		want, ever := 0.0, false
		for k := range 90_000 {
			phi := float64(k) / 1000 * math.Pi / 180
			if c.kg*9.80665/1000*(c.forward*math.Cos(phi)+c.height*math.Sin(phi)) >= bends {
				want, ever = float64(k)/1000, true
				break
			}
		}
		got, does := f.AloneAt(c.kg)
		if does != ever || does && !(math.Abs(got-want) <= 1.1e-3) {
			t.Errorf("%+v: %v at %v, by a walk %v at %v", c, does, got, ever, want)
		}
	}
}

// A line that nobody hauls is spent where its tie has come nearer by so much, by hand: from (0, 10) over a circle of 10 m
// to a peg 20 m out, level with the hinge, √(20² + 10² − 2·20·10·sin φ).
func TestWhenALineIsSpent(t *testing.T) {
	l := Line{AttachHeightM: 10, AnchorDistanceM: 20}
	for _, deg := range []float64{1, 10, 30, 60, 85} {
		by := math.Sqrt(500) - math.Sqrt(500-400*math.Sin(deg*math.Pi/180))
		if got, spent := l.SpentAt(by * (1 - 1e-9)); !spent || !(math.Abs(got-deg) <= 0.1) {
			t.Errorf("%v m nearer: at %v, by hand at %v°", by, got, deg)
		}
	}
	if _, spent := l.SpentAt(math.Sqrt(500) - 9.99); spent {
		t.Error("nearer than it ever comes")
	}
	if at, spent := l.SpentAt(0); !spent || at != 0 {
		t.Errorf("by nothing: at %v", at)
	}
}

// A face so deep that no hinge is left on the stump is refused, with how deep it may be: the stump less the hinge.
func TestAFaceTooDeepSaysHowDeepItMayBe(t *testing.T) {
	h := HingeCut{Stump: Stump{DiameterM: 0.5}, FaceDepthM: 0.48, ThicknessM: Thickness{Left: 0.04, Right: 0.06}, StrengthMpa: 50}
	faults := h.Faults("body")
	if len(faults) == 0 || faults[0].Location != "body.face_depth_m" || faults[0].Allowed != "less than 0.45 m" {
		t.Errorf("%+v", faults)
	}
}
