package felled

import (
	"math"
	"testing"

	"elkstay/core/course"
	"elkstay/core/course/coursetest"
	"elkstay/core/fell"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/space"
	"elkstay/core/wood"
)

// A fall is followed for weights half as far apart to either side as they may be, and for a balance off by as much as it may be.
func TestHowFarOffAFallMayBe(t *testing.T) {
	for _, c := range []struct {
		low, likely, high, within float64
		want                      fell.FallSpread
	}{
		{80, 100, 130, 0.5, fell.FallSpread{Runs: 7, MassPct: 25, CogForwardM: 0.5, CogSideM: 0.5}},
		{0, 100, 300, 0.15, fell.FallSpread{Runs: 7, MassPct: 90, CogForwardM: 0.2, CogSideM: 0.15}},
		{0.1, 0.2, 0.3, 0.05, fell.FallSpread{Runs: 7, MassPct: 10, CogForwardM: 0.2, CogSideM: 0.1}},
	} {
		o := &Felled{Course: course.Course{Piece: &space.Piece{Weight: space.Mass{Kg: wood.Range{Low: c.low, Likely: c.likely, High: c.high}}}}, felling: &felling{within: c.within}}
		got := o.fallSpread(7)
		jobtest.Nearly(t, "of the weight", got.MassPct, c.want.MassPct)
		if got.Runs != c.want.Runs || got.CogForwardM != c.want.CogForwardM || got.CogSideM != c.want.CogSideM {
			t.Errorf("%+v, want %+v", *got, c.want)
		}
	}
	if got := (&Felled{Course: course.Course{Piece: &space.Piece{}}, felling: &felling{}}).fallSpread(1 << 20); got.Runs != mostFalls {
		t.Errorf("%d runs", got.Runs)
	}
}

// A gust is followed as a wind, and not as if the balance stood off as well.
func TestAGustIsFollowedOnce(t *testing.T) {
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(3), jobtest.Of(20)
	still, _ := made(t, &j).follows()
	for _, towards := range []float64{0, 180, 270, 225} {
		j.Site.GustMS, j.Site.GustTowardsDeg = jobtest.Of(8), &towards
		o := made(t, &j)
		if o.felling.gustBack+o.felling.gustSide < 0.02 {
			t.Fatalf("a gust towards %v° does nothing", towards)
		}
		blown, _ := o.follows()
		if !(math.Abs(blown.Tree.CogForwardM-still.Tree.CogForwardM) <= 1e-9) || !(math.Abs(blown.Tree.CogSideM-still.Tree.CogSideM) <= 1e-9) || blown.Wind == nil || blown.Wind.SpeedMS != 8 {
			t.Errorf("towards %v°: %+v with %+v, still %+v", towards, blown.Tree, blown.Wind, still.Tree)
		}
	}
}

// The film of a fall has its wind blow by itself: its balance stands as far aside as it may without one, not by the gust once more.
func TestTheFilmBlowsAGustOnce(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(3), jobtest.Of(180)
	film := func() fell.FallTree {
		fall, why := made(t, &j).follows()
		if why != "" {
			t.Fatal(why)
		}
		return fall.Tree
	}
	calm := film()
	j.Site.GustMS, j.Site.GustTowardsDeg = jobtest.Of(11), jobtest.Of(200)
	if gusty := film(); !(math.Abs(gusty.CogSideM-calm.CogSideM) <= 1e-9) || !(math.Abs(gusty.CogForwardM-calm.CogForwardM) <= 1e-9) || math.Abs(calm.CogSideM) < 0.2 {
		t.Errorf("in a gust %+v, in none %+v", gusty, calm)
	}
}

// In decayed wood a half is counted of what its hinge holds sideways, on its rung and in the fall that is followed.
func TestAHingeInDecayedWood(t *testing.T) {
	j := jobtest.Poled()
	j.Picks[0].Fell.LeftM, j.Picks[0].Fell.RightM = jobtest.Of(0.06), jobtest.Of(0.1)
	sound := made(t, &j)
	j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectDecay, AtM: 0.4, ToM: jobtest.Of(0.9)}}
	o := made(t, &j)
	if o.felling.wood != sound.felling.wood {
		t.Fatalf("the hinge's own shape moved: %+v, %+v", o.felling.wood, sound.felling.wood)
	}
	fall, why := o.follows()
	if why != "" {
		t.Fatal(why)
	}
	side := sound.felling.wood.SideCapacityKnm
	jobtest.Near(t, "to the left", *fall.Hinge.ToLeftKnm, side.ToLeft/2)
	jobtest.Near(t, "to the right", *fall.Hinge.ToRightKnm, side.ToRight/2)
	if side.ToLeft == side.ToRight {
		t.Error("both sides are alike: nothing is told apart")
	}
}

// made is a job's first pick, felled, that nothing forbids.
func made(t *testing.T, j *job.Job) *Felled {
	t.Helper()
	o := Way.Make(coursetest.Course(t, j, 0)).(*Felled)
	if o.Stopped() {
		t.Fatal(o.Faults)
	}
	return o
}
