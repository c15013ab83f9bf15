package assess

import (
	"math"
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
)

// What leans away does not go where it is told: against its lean by more than a wedge lifts it
// cannot happen, with it or upright it can.
func TestBackLean(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		lean, towards float64
		stopped       bool
	}{{0, 0, false}, {12, 270, true}, {12, 90, false}, {0.2, 270, false}} {
		j := jobtest.Stem()
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(c.lean), jobtest.Of(c.towards)
		j.Picks[0] = job.Pick{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(1), Way: job.WayFree, FallTowardsDeg: jobtest.Of(90)}
		a := assess(&j, "p1")
		if got := len(codes(a.Picks[0])) > 0 && codes(a.Picks[0])[0] == course.FaultBack; got != c.stopped {
			t.Errorf("leaning %v° towards %v°, felled to the east: %v", c.lean, c.towards, a.Picks[0].Faults)
		}
	}
	// Its weight by hand: a frustum's middle, above a cut at 1 m, leaning 12°.
	j := jobtest.Stem()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(12), jobtest.Of(270)
	j.Picks[0] = job.Pick{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(1), Way: job.WayFree, FallTowardsDeg: jobtest.Of(90)}
	v := surveyOf(t, &j)
	now := v.Standing()
	o := v.work(&j.Picks[0], 1, now)
	behind, wedge := o.Back()
	jobtest.Near(t, "behind its cut", behind, (o.Weight.At.Z-1)*math.Tan(space.Radians(12)))
	if wedge > behind {
		t.Errorf("a wedge of %v m lifts %v m", wedge, behind)
	}
}

// Every part of what goes free lies within its lay.
func TestALayHoldsTheWholeBody(t *testing.T) {
	j := jobtest.Whole()
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(1), Way: job.WayFree, FallTowardsDeg: jobtest.Of(90)}}
	v := surveyOf(t, &j)
	now := v.Standing()
	o := v.work(&j.Picks[0], 1, now)
	for k := range v.Limbs {
		tip := v.Limbs[k].At(v.Limbs[k].LengthM)
		// Laid down to the east, what was up is out.
		x, y := tip.Z-1, tip.Y
		held := false
		for _, d := range o.Landing.Discs {
			held = held || math.Hypot(d.X-x, d.Y-y) <= d.R
		}
		if !held {
			t.Errorf("the tip of %s, at (%v, %v), lies outside", v.Limbs[k].Title(), x, y)
		}
	}
}

// A power line has a distance of its own, by its voltage; not known it counts as the highest
// (OSHA 29 CFR 1926.1408 table A, from memory: 10 ft up to 50 kV, 15 ft up to 200 kV).
func TestPowerLinesKeepTheirDistance(t *testing.T) {
	j := jobtest.Stem()
	j.Picks[0].FallTowardsDeg = jobtest.Of(90)
	set := func(off float64, kv *float64) Assessment {
		j.Site.Targets = []job.Target{{ID: "w", Name: "mains", Kind: "power-line", VoltageKv: kv, Outline: []job.Spot{{X: 30, Y: off}, {X: -30, Y: off}}, FromM: 16, ToM: 16.1}}
		return assess(&j, "p1")
	}
	for _, c := range []struct {
		off  float64
		kv   *float64
		want policy.Verdict
	}{{3.5, jobtest.Of(0.4), policy.Within}, {3.1, jobtest.Of(0.4), policy.Over}, {3.5, jobtest.Of(110), policy.Over}, {5, jobtest.Of(110), policy.Within}, {13, nil, policy.Over}, {15, nil, policy.Within}} {
		a := set(c.off, c.kv)
		judged := policy.Within
		for _, one := range a.Detail.Clear {
			judged = one.Verdict
		}
		if judged != c.want {
			t.Errorf("%v m off a line of %v kV: %s", c.off, c.kv, judged)
		}
	}
	// The rope counts like the piece: led to a post beneath the line it is nearer than the wood.
	j.Site.Anchors = []job.Anchor{{ID: "p", Name: "post", Kind: job.AnchorGround, At: job.Spot{X: 0, Y: -14}, HeightM: jobtest.Of(2), Rating: gear.Rating{MarkedKn: jobtest.Of(40)}}}
	j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "p", AtM: 1}
	wire := job.Target{ID: "w", Name: "mains", Kind: "power-line", VoltageKv: jobtest.Of(0.4), Outline: []job.Spot{{X: 30, Y: -10}, {X: -30, Y: -10}}, FromM: 7, ToM: 7.1}
	j.Site.Targets = []job.Target{wire}
	// From the block, 14.4 m up, to the post's 1 m, 14 m away: 10 m out it is 4.83 m up, and
	// the wire at 7 m is so far from it, square to the rope.
	want := (7 - (14.4 - 13.4*10/14)) * math.Cos(math.Atan2(13.4, 14))
	if got := clearOf(t, assess(&j, "p1"), "mains"); got > want+1e-9 || got < want-0.06 {
		t.Errorf("the rope passes the wire at %v m, is %v", got, want)
	}
	j.Rigs[0].Device.Place = nil
	a := set(3.1, jobtest.Of(0.4))
	if !strings.Contains(a.Picks[0].Worst, "from mains: keep 3.05 m") || !strings.Contains(strings.Join(a.Cautions, " "), "Before any work beside mains call its owner") {
		t.Errorf("it says %q and %v", a.Picks[0].Worst, a.Cautions)
	}
}

// What stands in a drop zone, and what nobody has measured, is said.
func TestWhatTheSiteAsks(t *testing.T) {
	j := jobtest.Whole()
	said := func() string {
		a := assess(&j, "")
		return strings.Join(a.Cautions, " ")
	}
	if got := said(); strings.Contains(got, "Drop zone") || strings.Contains(got, "offered") {
		t.Errorf("with nothing in the zone: %s", got)
	}
	j.Site.Targets = append(j.Site.Targets, job.Target{ID: "b", Name: "bench", Kind: "building", Box: &job.Box{Min: job.Spot{X: 3, Y: 0}, Max: job.Spot{X: 4, Y: 1}}, ToM: 1})
	j.Trees[0].Readings[1].Offered = true
	if got := said(); !strings.Contains(got, "Drop zone lawn has bench in it") || !strings.Contains(got, "The reading at 6.00 m is offered, not measured") {
		t.Errorf("with a bench in it: %s", got)
	}
}

// What leans aside of the way it is told to go may go there too.
func TestSideLeanWidensTheLay(t *testing.T) {
	reach := func(lean float64) (west float64) {
		j := jobtest.Stem()
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(lean), jobtest.Of(270)
		j.Picks[0] = job.Pick{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(1), Way: job.WayFree, FallTowardsDeg: jobtest.Of(0)}
		for _, d := range assess(&j, "p1").Detail.Landing.Discs {
			west = max(west, d.R-d.X)
		}
		return west
	}
	if straight, aside := reach(0), reach(12); straight > 1 || aside < 15 {
		t.Errorf("to the north it reaches %v m west upright, %v m leaning west", straight, aside)
	}
}

// Between the bearings that a tree may go along there is no gap that something stands in: a kerb stone anywhere in its fan
// is hit, just outside it is not.
func TestNothingStandsBetweenTwoFalls(t *testing.T) {
	t.Parallel()
	j := jobtest.Stem()
	j.Trees[0].Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: 0.3}, {AtM: 20, Tape: job.Diameter, TapeM: 0.1}}
	j.Trees[0].HeightM, j.Trees[0].TopDiameterM = nil, nil
	hit := func(deg, lean float64) bool {
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(lean), jobtest.Of(90)
		at := r3.Scale(17, space.Towards(deg))
		j.Site.Targets = []job.Target{{ID: "k", Name: "kerb stone", Kind: "other", Box: &job.Box{Min: job.Spot{X: at.X - 0.05, Y: at.Y - 0.05}, Max: job.Spot{X: at.X + 0.05, Y: at.Y + 0.05}}, ToM: 0.2}}
		return slices.Contains(assess(&j, "p1").Detail.Landing.Hits, "kerb stone")
	}
	j.Picks[0] = job.Pick{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(0.5), Way: job.WayFelled, FallTowardsDeg: jobtest.Of(0)}
	const aim = 5.0 // what a policy that does not say takes
	for deg := -aim; deg <= aim; deg += 0.5 {
		if !hit(deg, 0) {
			t.Errorf("felled, it may go %v° aside and does not hit", deg)
		}
	}
	if hit(aim+4, 0) {
		t.Error("felled, it hits what stands 4° beyond")
	}
	j.Picks[0].Way, j.Picks[0].FallTowardsDeg = job.WayFree, jobtest.Of(20)
	// Laid along 20° its tip lies as far to the east as it leans.
	for deg := 30.0; deg <= 90; deg += 3 {
		if !hit(deg, 9) {
			t.Errorf("leaning east and cut free to 20°, it may go to %v° and does not hit", deg)
		}
	}
	if hit(14, 9) || hit(97, 9) {
		t.Error("it hits beyond where it leans")
	}
}

// A piece from up high lies out as far as a throw takes it.
func TestShortPiecesLieAsFarAsTheyFly(t *testing.T) {
	t.Parallel()
	// Let go at 70° of its turn it flies out: of a rod ω² = 3g/L·(cos 0 − cos 70°).
	omega := math.Sqrt(3 * 9.80665 / 3.6 * (1 - math.Cos(space.Radians(70))))
	vx, vz := omega*1.8*math.Cos(space.Radians(70)), omega*1.8*math.Sin(space.Radians(70))
	seconds := (math.Sqrt(vz*vz+2*9.80665*(14+1.8*math.Cos(space.Radians(70)))) - vz) / 9.80665
	flies := 1.8*math.Sin(space.Radians(70)) + vx*seconds - 1.8
	j := jobtest.Stem()
	j.Picks[0] = job.Pick{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(14.4), Way: job.WayFree, FallTowardsDeg: jobtest.Of(90)}
	far := 0.0
	for _, d := range assess(&j, "p1").Detail.Landing.Discs {
		far = max(far, d.X+d.R)
	}
	if far < 3.6+flies {
		t.Errorf("3.6 m from 14.4 m up lies no further than %v m out", far)
	}
	// How far out it lies is said from the tree's foot, wherever that stands: by the rounds' rims,
	// point by point.
	j.Trees[0].At = &job.Spot{X: 3, Y: -2}
	lies := assess(&j, "p1").Detail.Landing
	near, out := math.Inf(1), 0.0
	for _, d := range lies.Discs {
		for deg := range 3600 {
			sin, cos := math.Sincos(float64(deg) * math.Pi / 1800)
			r := math.Hypot(d.X+d.R*cos-3, d.Y+d.R*sin+2)
			near, out = min(near, r), max(out, r)
		}
		if math.Hypot(d.X-3, d.Y+2) <= d.R {
			near = 0
		}
	}
	if !(math.Abs(lies.NearM-near) <= 1e-4) || !(math.Abs(lies.FarM-out) <= 1e-4) {
		t.Errorf("it lies %v to %v m from the foot, by its rims %v to %v", lies.NearM, lies.FarM, near, out)
	}
}
