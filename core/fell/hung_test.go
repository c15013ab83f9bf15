package fell

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
)

var stiffRope = gear.Rope{BreakingKn: 100, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 2}}}

// weighed is an upright tree with 200 kg in the middle of 24 m of line, to an anchor 6 m up and 18 m off.
func weighed(bending float64) Fall {
	kg, long := 200.0, 24.0
	return Fall{
		Tree:  FallTree{MassKg: 1200, CogHeightM: 7, CogForwardM: -0.3, TopHeightM: 15},
		Hinge: &FallHinge{BendingKnm: bending}, Back: &BackCut{CutM: 0.4, KerfM: 0.01, Wedged: true},
		Lines: []FallLine{{Name: "weight", AttachHeightM: 12, AnchorDistanceM: 18, AnchorHeightM: 6, Rope: stiffRope, MidKg: &kg, LineM: &long}},
	}
}

// While the tree stands the weight hangs still, and pulls as kind midline says; the tree goes as
// soon as what bends its hinge is less than that pull's moment and its own.
func TestAWeightHangsInALine(t *testing.T) {
	hang, ok := (&Midline{AttachHeightM: 12, AnchorDistanceM: 18, AnchorHeightM: 6, LineLengthM: 24, WeightKg: 200}).Hangs()
	if !ok {
		t.Fatal("it does not hang")
	}
	f := weighed(1000)
	run := followed(t, &f)
	if run.Outcome != Stands {
		t.Fatal(run.Outcome)
	}
	close1(t, "pull at the tree", run.Lines[0].KnAtRest, hang.PullKn, 1e-6)
	close1(t, "no more of it later", run.Lines[0].PeakKn, hang.PullKn, 1e-6)
	close1(t, "the anchor's half", *run.Lines[0].AnchorPeakKn, hang.AnchorKn, 1e-6)
	last := run.Series.Weight[len(run.Series.Weight)-1]
	close1(t, "its height", last[2], hang.WeightAtM, 1e-6)
	moment := hang.MomentKnm - 1.2*9.80665*0.3
	for _, c := range []struct {
		share float64
		goes  bool
	}{{0.98, true}, {1.02, false}} {
		f := weighed(moment * c.share)
		if run := followed(t, &f); (run.Outcome == Goes) != c.goes {
			t.Errorf("bent by %v of its moment: %s", c.share, run.Outcome)
		}
	}
}

// Energy is kept: of the tree, of the weight, and of both halves of the rope.
func TestAWeightKeepsItsEnergy(t *testing.T) {
	f := weighed(0)
	f.Hinge, f.Back = nil, nil
	s := newFaller(&f)
	y := s.begin()
	k := 100 / 0.02 // kN a strain
	sum := func() float64 {
		sin, cos := math.Sincos(y[iPhi])
		w := s.hung
		speed := y[iHung+3]*y[iHung+3] + y[iHung+4]*y[iHung+4] + y[iHung+5]*y[iHung+5]
		e := s.inertia*y[iOmega]*y[iOmega]/2 + 1.2*9.80665*(7*cos+0.3*sin) + 0.2*(9.80665*y[iHung+2]+speed/2)
		for n, end := range [2][2]float64{{12 * sin, 12 * cos}, {18, 6}} {
			if x := math.Hypot(end[0]-y[iHung], end[1]-y[iHung+2]) - w.half[n]; x > 0 {
				e += k / w.half[n] * x * x / 2
			}
		}
		return e
	}
	before := sum()
	s.direction = 1
	var k1 fallState
	for range 3000 {
		s.rates(&y, &k1)
		y = s.step(&y, &k1, 0.0005)
	}
	if y[iPhi] < 0.1 {
		t.Fatalf("it has not moved: %v", y[iPhi])
	}
	close1(t, "energy", sum(), before, 1e-3)
}

// Let go by the tree it swings down on the anchor's half: at the bottom W·(3 − 2·cos) of where it
// hung, a little more for the rope that stretches.
func TestAWeightSwingsOnTheAnchorsHalf(t *testing.T) {
	f := weighed(10)
	ground := 6.5
	f.Ground = &FallGround{HingeHeightM: &ground} // nothing under it
	s := newFaller(&f)
	y := s.begin()
	s.hung.half[0] = 1e6
	run := FallRun{Lines: make([]FallLineRun, 1)}
	s.swingOut(&y, &run)
	// Where it hangs, half of 24 m from an anchor 6 m up.
	x, z := 18-s.hung.start[0], 6-s.hung.start[2]
	cos := z / math.Hypot(x, z)
	want := 0.2 * 9.80665 * (3 - 2*cos)
	if got := s.hung.most; got < want*0.99 || got > want*1.25 {
		t.Errorf("it pulls %v kN at the bottom, a pendulum %v", got, want)
	}
	// Followed whole, over a drop, the tree goes and its swing is in what the anchor's half takes.
	f = weighed(5)
	high := 6.0
	f.Ground = &FallGround{HingeHeightM: &high}
	whole := followed(t, &f)
	if whole.Outcome != Goes || *whole.Lines[0].AnchorPeakKn < 1.5*0.2*9.80665 {
		t.Errorf("%s, %v kN", whole.Outcome, *whole.Lines[0].AnchorPeakKn)
	}
}

// On the ground it pulls no more, and that is told.
func TestAWeightComesToTheGround(t *testing.T) {
	f := weighed(5)
	f.Lines[0].AnchorHeightM = 0
	low := 0.2
	f.Ground = &FallGround{HingeHeightM: &low}
	run := followed(t, &f)
	down := false
	for _, p := range run.Phases {
		down = down || p.Name == "weight down"
	}
	last := len(run.Series.Weight) - 1
	if !down || run.Series.Weight[last][2] < -low-0.2 || run.Series.Lines[0][last] != 0 {
		t.Errorf("%s %+v, its last place %v at %v kN", run.Outcome, run.Phases, run.Series.Weight[last], run.Series.Lines[0][last])
	}
}

func TestWeightsThatCannotHang(t *testing.T) {
	for says, spoil := range map[string]func(*Fall){
		"its line must be longer than the way": func(f *Fall) { *f.Lines[0].LineM = 18 },
		"no weight in its middle":              func(f *Fall) { f.Lines[0].MidKg = nil },
		"made fast":                            func(f *Fall) { f.Lines[0].PretensionKn = 1 },
		"hangs in weight already": func(f *Fall) {
			two := f.Lines[0]
			two.Name = "second"
			f.Lines = append(f.Lines, two)
		},
		"lies on the ground": func(f *Fall) { *f.Lines[0].LineM = 44 },
	} {
		f := weighed(5)
		spoil(&f)
		if faults := f.Faults("body"); len(faults) == 0 || !strings.Contains(faults.Error(), says) {
			t.Errorf("%q: %v", says, faults)
		}
	}
}

// A weight in a line that leads off to one side, from a tie beside the stem: it hangs in the upright plane through both
// ends, where the pulls of its halves sum to its weight, and stays there while the tree stands.
func TestAWeightInALineThatLeadsAside(t *testing.T) {
	for _, bearing := range []float64{0, 35, -70} {
		f := weighed(1000)
		l := &f.Lines[0]
		l.BearingDeg, l.AttachForwardM, l.AttachSideM = bearing, -0.4, 0.6
		sin, cos := math.Sincos(bearing * math.Pi / 180)
		tie, anchor := r3.Vec{X: -0.4, Y: 0.6, Z: 12}, r3.Vec{X: 18 * cos, Y: 18 * sin, Z: 6}
		way := r3.Norm(r3.Sub(anchor, tie))
		short := way * 0.999
		l.LineM = &short
		if faults := f.Faults("body"); len(faults) != 1 || faults[0].Allowed != fmt.Sprintf("more than %.4g m", way) {
			t.Errorf("%v°: a line of %v m on a way of %v: %v", bearing, short, way, faults)
		}
		long := 24.0
		l.LineM = &long
		run := followed(t, &f)
		if run.Outcome != Stands {
			t.Fatal(run.Outcome)
		}
		first, last := run.Series.Weight[0], run.Series.Weight[len(run.Series.Weight)-1]
		at := r3.Vec{X: first[0], Y: first[1], Z: first[2]}
		if moved := r3.Norm(r3.Sub(at, r3.Vec{X: last[0], Y: last[1], Z: last[2]})); moved > 1e-6 {
			t.Errorf("%v°: it moves by %v m", bearing, moved)
		}
		along := r3.Sub(anchor, tie)
		if off := (at.X-tie.X)*along.Y - (at.Y-tie.Y)*along.X; !(math.Abs(off) <= 1e-6) {
			t.Errorf("%v°: it hangs %v m² out of the plane of its line", bearing, off)
		}
		kn := r3.Add(r3.Scale(run.Lines[0].KnAtRest, r3.Unit(r3.Sub(tie, at))), r3.Scale(*run.Lines[0].AnchorPeakKn, r3.Unit(r3.Sub(anchor, at))))
		if left := r3.Norm(r3.Sub(kn, r3.Vec{Z: 200 * 9.80665e-3})); left > 1e-5 {
			t.Errorf("%v°: %v kN are left of its halves and its weight", bearing, left)
		}
	}
	// Led to either side alike the tree goes alike: as hard, as soon, the weight on the other side.
	runs := [2]FallRun{}
	for i, side := range []float64{1, -1} {
		f := weighed(5)
		f.Lines[0].BearingDeg, f.Lines[0].AttachSideM = side*25, side*0.3
		runs[i] = followed(t, &f)
	}
	if runs[0].Outcome != Goes || runs[1].Outcome != Goes {
		t.Fatal(runs[0].Outcome, runs[1].Outcome)
	}
	close1(t, "pull", runs[0].Lines[0].PeakKn, runs[1].Lines[0].PeakKn, 1e-9)
	close1(t, "anchor", *runs[0].Lines[0].AnchorPeakKn, *runs[1].Lines[0].AnchorPeakKn, 1e-9)
	close1(t, "time", runs[0].TimeS, runs[1].TimeS, 1e-9)
	for k, at := range runs[0].Series.Weight {
		if other := runs[1].Series.Weight[k]; !(math.Abs(at[0]-other[0]) <= 1e-6) || !(math.Abs(at[1]+other[1]) <= 1e-6) || !(math.Abs(at[2]-other[2]) <= 1e-6) {
			t.Fatalf("sample %d: %v and %v", k, at, other)
		}
	}
}
