package assess

import (
	"math"
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// Gear sits where it is said to: on the stem at its height, out along a limb, on what
// stands around.
func TestWhereGearSits(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].At = &job.Spot{X: 10, Y: -4}
	j.Site.Anchors = []job.Anchor{{ID: "w", Name: "willow", Kind: job.AnchorTree, At: job.Spot{X: 3, Y: 8}, HeightM: jobtest.Of(9)}}
	v := surveyOf(t, &j)
	now := v.Standing()
	for _, c := range []struct {
		place job.Place
		want  r3.Vec
	}{
		{job.Place{On: job.OnStem, AtM: 9}, r3.Vec{X: 10, Y: -4, Z: 9}},
		{job.Place{On: job.OnAnchor, Anchor: "w", AtM: 7}, r3.Vec{X: 3, Y: 8, Z: 7}},
		{job.Place{On: job.OnLimb, Limb: "c", AtM: 2}, r3.Vec{X: 10 - 2*math.Sin(space.Radians(55)), Y: -4, Z: 11 + 2*math.Cos(space.Radians(55))}},
	} {
		got, why := v.Place(&c.place, now, nil)
		if why != "" || !(r3.Norm(r3.Sub(got, c.want)) <= 1e-9) {
			t.Errorf("%+v: %v %q, want %v", c.place, got, why, c.want)
		}
	}
	v.TakeOff(now, 2, 1)
	for want, place := range map[string]job.Place{
		"gone there by now": {On: job.OnLimb, Limb: "c", AtM: 2}, "not on this tree": {On: job.OnLimb, Limb: "z"},
		"not on the site": {On: job.OnAnchor, Anchor: "z"}, "which is gone: it stands to 18.00 m": {On: job.OnStem, AtM: 19},
	} {
		if _, why := v.Place(&place, now, nil); !strings.Contains(why, want) {
			t.Errorf("%+v: %q, want %q", place, why, want)
		}
	}
}

// What stands where falls with it: a limb with its fork, a top with its limbs.
func TestWhatComesOffTakesWhatIsOnIt(t *testing.T) {
	j := jobtest.Whole()
	v := surveyOf(t, &j)
	now := v.Standing()
	v.TakeOff(now, 0, 1.5)
	if now.Tips[0] != 1.5 || now.Tips[1] != 0 || now.Tips[2] != 4.5 {
		t.Errorf("a limb cut short of its fork leaves %v", now.Tips)
	}
	v.TakeTop(now, 10)
	if now.Top != 10 || now.Tips[0] != 1.5 || now.Tips[2] != 0 || now.Tips[3] != 0 {
		t.Errorf("a top leaves %v m and %v", now.Top, now.Tips)
	}
	v.TakeTop(now, 15)
	if now.Top != 10 {
		t.Errorf("a second cut above the first puts it back up to %v m", now.Top)
	}
}

// What stands lower than the gear is said to sit on it holds nothing there.
func TestGearSitsNoHigherThanWhatItIsOn(t *testing.T) {
	j := jobtest.Stem()
	j.Site.Anchors = []job.Anchor{{ID: "g", Name: "stake", Kind: job.AnchorGround, At: job.Spot{X: 8, Y: 0}}}
	j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "g", AtM: 3}
	if a := assess(&j, "p1"); len(a.Picks[0].Faults) != 1 || !strings.Contains(a.Picks[0].Faults[0].Message, "which can be held to up to 0.50 m") {
		t.Errorf("a device three metres up a stake: %v", a.Picks[0].Faults)
	}
	j.Site.Anchors[0].HeightM = jobtest.Of(3)
	if a := assess(&j, "p1"); len(a.Picks[0].Faults) != 0 {
		t.Errorf("on a post of three metres: %v", a.Picks[0].Faults)
	}
}

// Whatever is held to has its own limit, or is not known: a ground anchor its rating, a
// tree the bending of its stem, a vehicle its grip.
func TestEveryHolderIsJudged(t *testing.T) {
	j := jobtest.Stem()
	anchor := job.Anchor{ID: "x", Name: "holder", At: job.Spot{X: 8, Y: 0}}
	held := func() Rung {
		j.Site.Anchors = []job.Anchor{anchor}
		j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "x", AtM: 0.5}
		return rung(t, assess(&j, "p1"), hold.PartHolder)
	}
	for _, kind := range []string{job.AnchorGround, job.AnchorTree, job.AnchorVehicle} {
		anchor.Kind = kind
		if got := held(); got.Verdict != policy.NotKnown || got.LimitKn != nil || got.PeakKn == nil {
			t.Errorf("%s of which nothing is known: %+v", kind, got)
		}
	}
	// The device pulls its anchor with what the lead carries.
	a := assess(&j, "p1")
	jobtest.Near(t, "pulled with the lead", *rung(t, a, hold.PartHolder).PeakKn, *rung(t, a, hold.PartDevice).PeakKn)
	// 3,000 kg, half on braked wheels, 0.35 on wet grass: 5.15 kN level; the line comes down
	// to it from 14.4 m in 8 m, and lifts 13.9 in 16.04 of its pull off the wheels.
	anchor.MassKg = jobtest.Of(3000)
	leg := math.Hypot(8, 13.9)
	jobtest.Near(t, "grip of a vehicle", *held().LimitKn, 3000*9.80665/1000*0.5*0.35/(8/leg+0.35*13.9/leg))
	// A tree of 0.3 m pulled at half a metre: πd³/32 of the weakest wood of the table, over
	// the crew's factor for wood, a bark of 0.06 of its diameter on either side taken off; what leads up bends it by half its thickness.
	anchor.Kind, anchor.DiameterM = job.AnchorTree, jobtest.Of(0.3)
	weakest := math.Inf(1)
	for _, s := range wood.Table() {
		weakest = min(weakest, s.RuptureMPa)
	}
	jobtest.Near(t, "bending of a tree", *held().LimitKn, math.Pi*0.027*0.88*0.88*0.88/32*weakest*1000/policy.LimitsOf(&job.Job{}, &policy.Policy{}).WoodFactor/(0.5*8/leg+0.15*13.9/leg))
	anchor.Rating = gear.Rating{MarkedKn: jobtest.Of(2)}
	if got := held(); *got.LimitKn != 2 || got.Verdict != policy.Over {
		t.Errorf("rated for less than it bends at: %+v", got)
	}
}

// A second line that a pick does not use is not held to.
func TestASecondLineCountsWhereItIsUsed(t *testing.T) {
	j := jobtest.Whole()
	j.Site.Anchors = []job.Anchor{{ID: "w", Name: "willow", Kind: job.AnchorTree, At: job.Spot{X: 0, Y: 14}, HeightM: jobtest.Of(15)}}
	j.Rigs[0].Second = &job.SecondLine{Place: job.Place{On: job.OnAnchor, Anchor: "w", AtM: 13}}
	j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 16}
	for way, want := range map[job.Way]bool{job.WayFromAbove: false, job.WayTwoPoints: true} {
		j.Picks[1].Way, j.Picks[1].CarryM = way, jobtest.Of(10)
		held := slices.ContainsFunc(assess(&j, "p2").Detail.Ladder, func(r Rung) bool { return r.Part == hold.PartHolder && r.Name == "willow" })
		if held != want {
			t.Errorf("%s: held to the willow %v", way, held)
		}
	}
}

// Ivy and a hung branch weigh on the piece they ride with, and nowhere else.
func TestDefectsThatWeigh(t *testing.T) {
	j := jobtest.Stem()
	bare := assess(&j, "").Picks[0].MassKg.Likely
	j.Trees[0].Defects = []job.Defect{{ID: "i", Kind: job.DefectIvy, AtM: 15.5, ToM: jobtest.Of(17), MassKg: jobtest.Of(30)}, {ID: "h", Kind: job.DefectHung, AtM: 9, MassKg: jobtest.Of(12)}}
	jobtest.Near(t, "with its ivy", assess(&j, "").Picks[0].MassKg.Likely, bare+30)
	j.Trees[0].Attached = []timber.Lump{{MassKg: 5, AtM: 16}}
	jobtest.Near(t, "and a stub", assess(&j, "").Picks[0].MassKg.Likely, bare+35)
}

// A bare pole is its frustum with the wood's density, and its fork rides with it.
func TestABarePole(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].Limbs[0].Brush = job.BrushBare
	v := surveyOf(t, &j)
	now := v.Standing()
	r1, r2 := 0.14/2, 0.02/2
	pole := math.Pi * 4 / 3 * (r1*r1 + r1*r2 + r2*r2) * v.Density.Likely
	fork := v.LimbMass(1, 0, now)
	jobtest.Near(t, "pole and fork", v.LimbMass(0, 0, now).Kg.Likely, pole+fork.Kg.Likely)
	v.TakeOff(now, 1, 0)
	jobtest.Near(t, "pole alone", v.LimbMass(0, 0, now).Kg.Likely, pole)
	j.Trees[0].Limbs[2].MassKg = jobtest.Of(90)
	v = surveyOf(t, &j)
	now = v.Standing()
	jobtest.Near(t, "judged by eye", v.LimbMass(2, 0, now).Kg.Likely, 90)
	outer := v.LimbMass(2, 2, now).Kg.Likely
	v.TakeOff(now, 2, 2)
	jobtest.Near(t, "and its parts", v.LimbMass(2, 0, now).Kg.Likely+outer, 90)
}

// Slings are judged in the hitch they are set in.
func TestHitchesOfTheBlocksSling(t *testing.T) {
	j := jobtest.Stem()
	for hitch, factor := range map[string]float64{"": 0.8, "choker": 0.8, "basket": 1, "vertical": 1} {
		j.Rigs[0].Sling = job.Sling{Hitch: hitch, Rating: gear.Rating{MarkedKn: jobtest.Of(20)}}
		jobtest.Near(t, "as a "+hitch, *rung(t, assess(&j, "p1"), hold.PartSling).LimitKn, 20*factor)
	}
}

// What hangs level over a roof or a fence cannot be put down there, however much room is left; beside
// it it can.
func TestNothingIsPutDownOnARoof(t *testing.T) {
	under := func(kind string, x float64) PickFigures {
		j := jobtest.Hung(0)
		j.Picks[0].TieM = nil // at its balance: it hangs level
		j.Site.Anchors[0].At.X = 1.66
		j.Site.Targets = []job.Target{{ID: "t", Name: "porch", Kind: kind, Box: &job.Box{Min: job.Spot{X: x, Y: -1}, Max: job.Spot{X: x + 2, Y: 1}}, ToM: 0.4}}
		return assess(&j, "").Picks[0]
	}
	for _, kind := range []string{"building", "fence", "shrub", "tree", "other"} {
		if f := under(kind, 1); f.Verdict != policy.Over || f.Worst != "to be put down on porch" {
			t.Errorf("a %s beneath it: %s, %s", kind, f.Verdict, f.Worst)
		}
	}
	for _, kind := range []string{"road", "ground", "water"} {
		if f := under(kind, 1); f.Worst == "to be put down on porch" {
			t.Errorf("a %s beneath it: %s, %s", kind, f.Verdict, f.Worst)
		}
	}
	// A higher wall close by does not hide the porch right beneath.
	j := jobtest.Hung(0)
	j.Picks[0].TieM = nil
	j.Site.Anchors[0].At.X = 1.66
	j.Site.Targets = []job.Target{{ID: "t", Name: "porch", Kind: "building", Box: &job.Box{Min: job.Spot{X: 1, Y: -0.5}, Max: job.Spot{X: 3, Y: 0.5}}, ToM: 0.4},
		{ID: "w", Name: "wall", Kind: "other", Box: &job.Box{Min: job.Spot{X: 1, Y: 1.2}, Max: job.Spot{X: 3, Y: 1.4}}, ToM: 1}}
	if f := assess(&j, "").Picks[0]; f.Verdict != policy.Over || f.Worst != "to be put down on porch" {
		t.Errorf("behind a wall: %s, %s", f.Verdict, f.Worst)
	}
	if f := under("building", 2.2); f.Worst == "to be put down on porch" {
		t.Errorf("beside it: %s, %s", f.Verdict, f.Worst)
	}
}
