package lifted

import (
	"math"
	"strings"
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
// passes its lowest place with 1 + 2·(r/(r + k²/r)) times its weight on its tie, k² the square of its radius of gyration about its balance;
// and on what comes onto its sling as suddenly as it parts.
func TestALevelLimbInOneSlingSwingsDown(t *testing.T) {
	j := jobtest.Lifted()
	j.Trees[0].Limbs = []job.Limb{{ID: "u", AtM: 9, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.2, LengthM: 6, Brush: job.BrushBare}}
	j.Picks[0] = job.Pick{ID: "p1", What: job.WhatLimb, Limb: "u", Way: job.WayCrane, Lift: j.Picks[0].Lift}
	j.Picks[0].Lift.Slings = []crane.Sling{{Name: "one", AtM: 0.2, LengthM: 40, WllKn: 90, Hitch: crane.Choker}}
	made := Way.Make(coursetest.Course(t, &j, 0)).(*Lifted)
	arm := made.pick.Piece.CogM - 0.2
	// A cone of 6 m of which all but the tip is left: between that of a rod and of a cone about their balances.
	low, high := 1+2*arm*arm/(arm*arm+3), 1+2*arm*arm/(arm*arm+3./80*36)
	kg := made.pick.MassKg
	weight, suddenly := kg.High*9.80665e-3, 1-0.9*math.Min(0.9*kg.Likely, kg.Low)/kg.High
	for i := range made.Loads {
		l := &made.Loads[i]
		if times := l.PeakKn/weight - suddenly; l.Part == hold.PartSling && !(times >= low && times <= high) {
			t.Errorf("its sling takes %v times its weight, a rod %v and a cone %v", times, low, high)
		}
		if l.Part == hold.PartCrane && !(l.PeakKn >= low*weight && l.PeakKn <= high*weight) {
			t.Errorf("the hook takes %v times its weight", l.PeakKn/weight)
		}
	}
}

// As the last wood parts, what the hook does not hold yet comes onto it suddenly: the heavy end twice over less what is held, a tenth
// less of that than asked; a hook that holds too much carries that. Slings take their shares of as much; laid down, the far one holds what
// the ground under the other end leaves it.
func TestAPieceComesFreeOnTheHook(t *testing.T) {
	with := func(holds *float64) (o *Lifted, hookKg float64, slings []float64) {
		j := jobtest.Lifted()
		j.Picks[0].Lift.Slings = []crane.Sling{{Name: "a", AtM: 1.9, LengthM: 4, WllKn: 90, Hitch: crane.Choker}, {Name: "b", AtM: 2.4, LengthM: 4, WllKn: 90, Hitch: crane.Choker}}
		j.Picks[0].Lift.HoldsKg = holds
		j.Site.Cranes[0].RiggingKg, j.Site.Cranes[0].ChartUsePct = 200, jobtest.Of(100)
		o = Way.Make(coursetest.Course(t, &j, 0)).(*Lifted)
		for i := range o.Loads {
			switch l := &o.Loads[i]; l.Part {
			case hold.PartCrane:
				hookKg = l.PeakKn / 9.80665e-3
			case hold.PartSling:
				slings = append(slings, l.PeakKn/9.80665e-3)
			}
		}
		return o, hookKg, slings
	}
	o, hook, slings := with(nil)
	kg, cog := o.pick.MassKg, o.pick.Piece.CogM
	asked := math.Min(0.9*kg.Likely, kg.Low)
	jobtest.Nearly(t, "asked", o.freed.holdsKg, asked)
	jobtest.Nearly(t, "the hook", hook, 200+2*kg.High-0.9*asked)
	// The upper one carries it; the lower one, slack, all but what the ground takes of it as it is laid over on its butt.
	jobtest.Nearly(t, "the carrying sling", math.Max(slings[0], slings[1]), 2*kg.High-0.9*asked)
	least := math.Min(slings[0], slings[1])
	if want := kg.High * math.Max(cog/1.9, cog/2.4); !(least >= 0.999*kg.High*cog/2.4) || !(least <= 1.001*want) {
		t.Errorf("the other carries %v kg, laid down by hand %v", least, want)
	}
	nought := 0.0
	if _, hook, _ := with(&nought); !(math.Abs(hook-200-2*kg.High) <= 1e-6) {
		t.Errorf("with nothing held the hook takes %v kg of %v", hook, kg.High)
	}
	much := 2.2 * kg.High
	o, hook, _ = with(&much)
	jobtest.Nearly(t, "held too hard", hook, 200+1.1*much)
	if len(o.Faults) != 1 || o.Faults[0].Code != course.FaultSlings || !strings.Contains(o.Faults[0].Message, "slack") {
		t.Errorf("a hook that makes its slings slack: %+v", o.Faults)
	}
}
