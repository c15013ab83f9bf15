package fell

import (
	"math"
	"testing"
)

// A level push is what a level line at the same height pulls.
func TestPushIsAPullAtTheSameHeight(t *testing.T) {
	tree, hinge := Tree{MassKg: 2500, CogHeightM: 7, CogForwardM: -0.4}, &Hinge{0.5, 0.05, 50}
	p := Push{Tree: tree, Hinge: hinge, HeightM: 4, LimitKn: number(10)}
	f := Felling{Tree: tree, Hinge: hinge, Pull: Line{AttachHeightM: 4, AnchorDistanceM: 1000, AnchorHeightM: 4}}
	s := p.Solve()
	near(t, "push", s.PushKn, f.Solve().PullKn)
	near(t, "follow", s.FollowM, 4*math.Sin(math.Atan(0.4/7)))
	last := s.Curve[len(s.Curve)-1]
	near(t, "at the balance only the hinge is left", last.PullKn*4*math.Cos(last.TiltDeg*math.Pi/180), 1.3*f.bending())
	if *s.UsePct != 100*s.PushKn/10 {
		t.Errorf("use %v", *s.UsePct)
	}
}

func number(v float64) *float64 { return &v }

// The weight is held by its two halves of line: forces summed anew from the geometry,
// which is found by a search and not by our formula.
func TestMidlineWeightIsInBalance(t *testing.T) {
	m := Midline{AttachHeightM: 10, AnchorDistanceM: 18, AnchorHeightM: 0.5, LineLengthM: 21, WeightKg: 150, GroundM: -5}
	if faults := m.Faults("body"); len(faults) > 0 {
		t.Fatal(faults)
	}
	weight := 150 * 9.80665e-3
	for _, tilt := range []float64{0, 0.05, 0.1, 0.2} {
		s, ok := m.at(tilt)
		if !ok {
			t.Fatal("no such tilt")
		}
		ax, az := 10*math.Sin(tilt), 10*math.Cos(tilt)
		// The lowest of the places that are half a line from both ends.
		bestX, bestZ, least := 0.0, 0.0, math.Inf(1)
		for angle := -math.Pi; angle < 0; angle += 1e-5 {
			x, z := ax+10.5*math.Cos(angle), az+10.5*math.Sin(angle)
			if off := math.Abs(math.Hypot(18-x, 0.5-z) - 10.5); off < least && z < (az+0.5)/2 {
				bestX, bestZ, least = x, z, off
			}
		}
		if !(math.Abs(s.WeightAtM-bestZ) <= 1e-3) {
			t.Errorf("at %v the weight is at %v m, by search %v", tilt, s.WeightAtM, bestZ)
		}
		fx := s.PullKn*(ax-bestX)/10.5 + s.AnchorKn*(18-bestX)/10.5
		fz := s.PullKn*(az-bestZ)/10.5 + s.AnchorKn*(0.5-bestZ)/10.5
		if !(math.Abs(fx) <= 2e-3) || !(math.Abs(fz-weight) <= 2e-3) {
			t.Errorf("at %v the weight is pulled by (%v, %v), not by (0, %v)", tilt, fx, fz, weight)
		}
	}
}

// The pull is strongest where the line is flattest, and falls as the tree follows; the
// weight meets the ground where the curve ends.
func TestMidlineFollowsTheTreeDown(t *testing.T) {
	m := Midline{AttachHeightM: 10, AnchorDistanceM: 18, LineLengthM: 20.8, WeightKg: 100}
	f := m.Solve()
	if f.GroundTiltDeg == nil {
		t.Fatal("the weight never meets the ground")
	}
	for i := 1; i < len(f.Curve); i++ {
		if f.Curve[i].PullKn > f.Curve[i-1].PullKn || f.Curve[i].WeightAtM > f.Curve[i-1].WeightAtM {
			t.Errorf("at %v° the pull or the weight rises", f.Curve[i].TiltDeg)
		}
	}
	last := f.Curve[len(f.Curve)-1]
	if !(math.Abs(last.WeightAtM) <= 0.01) || !(math.Abs(last.TiltDeg-*f.GroundTiltDeg) <= 1e-6) || f.Curve[0].MomentKnm <= 0 {
		t.Errorf("it ends at %+v, the ground at %v°", last, *f.GroundTiltDeg)
	}
	// Unless it is said, to 45°.
	high := Midline{AttachHeightM: 10, AnchorDistanceM: 18, AnchorHeightM: 16, LineLengthM: 20.8, WeightKg: 100}
	if curve := high.Solve().Curve; !(math.Abs(curve[len(curve)-1].TiltDeg-45) <= 1e-9) {
		t.Errorf("followed to %v°", curve[len(curve)-1].TiltDeg)
	}
	short := Midline{AttachHeightM: 10, AnchorDistanceM: 18, LineLengthM: 20, WeightKg: 100}
	if faults := short.Faults("body"); len(faults) != 1 || faults[0].Location != "body.line_length_m" {
		t.Errorf("too short a line: %v", faults)
	}
	long := Midline{AttachHeightM: 10, AnchorDistanceM: 18, LineLengthM: 40, WeightKg: 100}
	if faults := long.Faults("body"); len(faults) != 1 {
		t.Errorf("too long a line: %v", faults)
	}
}
