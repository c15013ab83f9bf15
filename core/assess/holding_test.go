package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// held is the pole that leans south, felled east and held from the north by a line tied at 12 m, anchored so far ahead of its foot.
func held(ahead float64) job.Job {
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(180)
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{X: ahead, Y: 18}, HeightM: jobtest.Of(0.6), Rating: gear.Rating{MarkedKn: jobtest.Of(60)}})
	j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines, job.FellLine{ID: "l2", Holds: true, AtM: 12, Anchor: "n", AnchorM: jobtest.Of(0.5), Rig: "r1"})
	return j
}

// A line that holds from the hinge's own axis stays as long as it is; from 4 m ahead it comes slack, and the hinge has all of the lean; from 3 m
// behind it is drawn out, by the geometry of a circle, and the rope's own stretch says how hard.
func TestALineThatHoldsWhileTheTreeGoes(t *testing.T) {
	free := jobtest.Poled()
	free.Trees[0].LeanDeg, free.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(180)
	alone := *rung(t, assess(&free, "p1"), hold.PartHinge).PeakKn
	// The hinge stands 0.17 m ahead of the middle of its stump.
	d := 0.8 - 0.2*0.2/5.7
	axis := d/2 - 0.25*d - 0.05*d
	abeam := held(axis)
	a := assess(&abeam, "p1")
	if kept := *rung(t, a, hold.PartHinge).PeakKn; kept > alone/2 {
		t.Errorf("held in line with the hinge it is left %v kN, alone %v", kept, alone)
	}
	ahead := held(axis + 4)
	b := assess(&ahead, "p1")
	if left := *rung(t, b, hold.PartHinge).PeakKn; !(math.Abs(left-alone) <= 0.02*alone) || !strings.Contains(strings.Join(b.Detail.Cautions, " "), "comes slack from") {
		t.Errorf("held from ahead it is left %v kN, alone %v: %v", left, alone, b.Detail.Cautions)
	}
	behind := held(axis - 3)
	c := assess(&behind, "p1")
	// Until a face of 70° closes: tied 11.5 m over the hinge and south of it by the lean, 18 m from the anchor.
	lean, closes := math.Tan(4*math.Pi/180), 70*math.Pi/180
	if open := c.Detail.Fell.OpeningDeg; open > 0 {
		closes = open * math.Pi / 180
	}
	south := 12 * lean
	up, back := 11.5, -axis
	long := func(tilt float64) float64 {
		x, z := up*math.Sin(tilt)+back*math.Cos(tilt), up*math.Cos(tilt)-back*math.Sin(tilt)
		return math.Sqrt((x+3)*(x+3) + (18+south)*(18+south) + z*z)
	}
	tight := rung(t, a, hold.PartSecond)
	drawn := (long(closes) - long(0)) / long(0)
	// 80 kN of rope, 1.6 % at a tenth of it, 2.6 % at two: straight between.
	strain := *tight.PeakKn/8*0.016 + drawn
	want := 8 * strain / 0.016
	if strain > 0.016 {
		want = 8 + 8*(strain-0.016)/0.010
	}
	got := *rung(t, c, hold.PartSecond).PeakKn
	if !(math.Abs(got-want) <= 0.1*want) || got < 1.5**tight.PeakKn || !strings.Contains(strings.Join(c.Detail.Cautions, " "), "is drawn out by") {
		t.Errorf("drawn out by %.2f %% it takes %v kN, by hand %v; in line with the hinge %v: %v", 100*drawn, got, want, *tight.PeakKn, c.Detail.Cautions)
	}
}

// Of two lines that pull to either side one may stop: the hinge has what the other pulls aside, W·0 and T·sin of its bearing.
func TestOneOfTwoThatPullStops(t *testing.T) {
	j := jobtest.Poled()
	j.Site.Anchors = []job.Anchor{
		{ID: "a", Name: "north stump", Kind: job.AnchorGround, At: job.Spot{X: 25, Y: 12}, Rating: gear.Rating{MarkedKn: jobtest.Of(60)}},
		{ID: "b", Name: "south stump", Kind: job.AnchorGround, At: job.Spot{X: 25, Y: -12}, Rating: gear.Rating{MarkedKn: jobtest.Of(60)}},
	}
	one := 1
	j.Picks[0].Fell.Lines = []job.FellLine{{ID: "l1", AtM: 12, Anchor: "a", Parts: &one, EffortKn: jobtest.Of(6)}, {ID: "l2", AtM: 12, Anchor: "b", Parts: &one, EffortKn: jobtest.Of(6)}}
	a := assess(&j, "p1")
	d := 0.8 - 0.2*0.2/5.7
	x, y, z := 25.0, 12.0, 0.3-12 // tied on the axis of the pole
	aside := 6 * 11.5 * y / math.Sqrt(x*x+y*y+z*z)
	got := *rung(t, a, hold.PartHinge).PeakKn * a.Detail.Fell.HeightM
	if !(math.Abs(got-aside) <= 0.03*aside) {
		t.Errorf("%v kN·m sideways as one stops, by hand %v (stump %v)", got, aside, d)
	}
}
