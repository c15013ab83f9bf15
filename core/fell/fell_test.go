package fell

import (
	"math"
	"math/rand/v2"
	"testing"
)

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.IsNaN(got) || math.Abs(got-want) > 1e-9*math.Max(1, math.Abs(want)) {
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
		if n.PullKn > 0 && n.RetainerKn > 0 && math.Abs(side) > 1e-9 {
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
