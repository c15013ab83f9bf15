package lifted

import (
	"math"
	"testing"

	"elkstay/core/course"
	"elkstay/core/course/coursetest"
	"elkstay/core/crane"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// A piece in slings that are tight otherwise as it grows than as it hangs topples into them, unless the play is small; above its balance,
// or as long as they are to the hook, they hold it, and the one that is tight first holds all of it.
func TestHowAPieceComesOntoItsSlings(t *testing.T) {
	chokers := func(at, long, at2, long2 float64) []crane.Sling {
		return []crane.Sling{{Name: "a", AtM: at, LengthM: long, WllKn: 90, Hitch: crane.Choker}, {Name: "b", AtM: at2, LengthM: long2, WllKn: 90, Hitch: crane.Choker}}
	}
	// A level limb of 6 m, and an upright section of 3 m.
	level := func() job.Job {
		j := jobtest.Lifted()
		j.Trees[0].Limbs = []job.Limb{{ID: "u", AtM: 9, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.2, LengthM: 6, Brush: job.BrushBare}}
		j.Picks[0] = job.Pick{ID: "p1", What: job.WhatLimb, Limb: "u", Way: job.WayCrane, Lift: j.Picks[0].Lift}
		return j
	}
	for _, c := range []struct {
		what   string
		job    func() job.Job
		slings []crane.Sling
		falls  float64
		cannot bool
		alone  string // what one sling carries all of it
	}{
		// Upright, 4 m each at 0.3 and 2.3 m: b is tight with the hook 4.3 m over the cut and, hung level, √15 m over the middle between them.
		{"a log to either side of its balance", jobtest.Lifted, chokers(0.3, 4, 2.3, 4), math.NaN(), true, "a"},
		{"a log above its balance", jobtest.Lifted, chokers(1.9, 4, 2.4, 4), 0, false, ""},
		{"a log in one sling under its balance", jobtest.Lifted, chokers(0.5, 4, 0, 0)[:1], math.NaN(), true, "a"},
		{"a log in one sling above its balance", jobtest.Lifted, chokers(2.5, 4, 0, 0)[:1], 0, false, ""},
		{"a level limb in equal slings", level, chokers(0.5, 4, 3.5, 4), math.NaN(), false, ""},
		// One sling a metre longer: the other is tight first, and the far end falls.
		{"a level limb in unequal slings", level, chokers(0.5, 5, 3.5, 4), math.NaN(), true, "b"},
	} {
		j := c.job()
		j.Picks[0].Lift.Slings = c.slings
		made := Way.Make(coursetest.Course(t, &j, 0)).(*Lifted)
		cannot := false
		for _, f := range made.Faults {
			cannot = cannot || f.Code == course.FaultSlings
		}
		if cannot != c.cannot {
			t.Errorf("%s: %v, falls %v", c.what, made.Faults, made.parts().falls)
		}
		if got := made.parts().falls; !math.IsNaN(c.falls) && !(math.Abs(got-c.falls) <= 1e-3) {
			t.Errorf("%s: falls %v", c.what, got)
		}
		for i := range made.Loads {
			if l := &made.Loads[i]; l.Part == hold.PartSling && l.Name == c.alone && !(l.PeakKn >= made.pick.MassKg.High*9.80665e-3-1e-9) {
				t.Errorf("%s: sling %s takes %v of %v kg", c.what, l.Name, l.PeakKn, made.pick.MassKg.High)
			}
		}
	}
	// By hand: from 3 m over its balance (4 − 1.3 + 0.3 up from it, say z) to where both hang it.
	j := jobtest.Lifted()
	made := Way.Make(coursetest.Course(t, &j, 0)).(*Lifted)
	cog := made.pick.Piece.CogM
	if got, want := made.parts().falls, math.Hypot(math.Sqrt(15), 1.3-cog)-(0.3+4-cog); !(math.Abs(got-want) <= 1e-9) {
		t.Errorf("it falls %v m, by hand %v", got, want)
	}
}

// A limb that grows level in one sling aside of its balance swings down about its tie: a rod of 6 m tied at its end as a pendulum
// passes its lowest place with 1 + 2·(r/(r + k²/r)) times its weight on its tie, k² the square of its radius of gyration about its balance.
func TestALevelLimbInOneSlingSwingsDown(t *testing.T) {
	j := jobtest.Lifted()
	j.Trees[0].Limbs = []job.Limb{{ID: "u", AtM: 9, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.2, LengthM: 6, Brush: job.BrushBare}}
	j.Picks[0] = job.Pick{ID: "p1", What: job.WhatLimb, Limb: "u", Way: job.WayCrane, Lift: j.Picks[0].Lift}
	j.Picks[0].Lift.Slings = []crane.Sling{{Name: "one", AtM: 0.2, LengthM: 40, WllKn: 90, Hitch: crane.Choker}}
	made := Way.Make(coursetest.Course(t, &j, 0)).(*Lifted)
	arm := made.pick.Piece.CogM - 0.2
	// A cone of 6 m of which all but the tip is left: between that of a rod and of a cone about their balances.
	low, high := 1+2*arm*arm/(arm*arm+3), 1+2*arm*arm/(arm*arm+3./80*36)
	weight := made.pick.MassKg.High * 9.80665e-3
	for i := range made.Loads {
		l := &made.Loads[i]
		if l.Part == hold.PartSling && !(l.PeakKn >= low*weight && l.PeakKn <= high*weight) {
			t.Errorf("its sling takes %v times its weight, a rod %v and a cone %v", l.PeakKn/weight, low, high)
		}
		if l.Part == hold.PartCrane && !(l.PeakKn >= low*weight && l.PeakKn <= high*weight) {
			t.Errorf("the hook takes %v times its weight", l.PeakKn/weight)
		}
	}
}
