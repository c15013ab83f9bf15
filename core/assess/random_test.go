package assess

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"reflect"
	"slices"
	"testing"

	"elkstay/core/crane"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// randomOnLine is a stem of any shape with a limb, and one of its pieces on a line in any of the ways that are followed in time.
func randomOnLine(random *rand.Rand) job.Job {
	f := func(low, high float64) float64 { return low + (high-low)*random.Float64() }
	j := jobtest.Stem()
	tree, r := &j.Trees[0], &j.Rigs[0]
	butt, tall := f(0.35, 0.9), f(12, 26)
	tree.HeightM, tree.TopDiameterM = &tall, jobtest.Of(f(0.08, 0.2))
	tree.Readings = []job.Reading{{AtM: 0.3, Tape: job.Diameter, TapeM: butt}, {AtM: tall / 2, Tape: job.Diameter, TapeM: butt * f(0.6, 0.9)}}
	tree.Limbs = []job.Limb{{ID: "l", AtM: f(0.4, 0.6) * tall, AzimuthDeg: f(0, 360), AngleDeg: f(40, 95), DiameterM: f(0.08, 0.25), LengthM: f(2.5, 6)}}
	r.SlackM, r.Device.Friction = jobtest.Of(f(0, 0.6)), jobtest.Of(f(0.12, 0.3))
	r.Block.Efficiency, r.Device.Wraps = jobtest.Of(f(0.85, 0.97)), jobtest.Of(math.Floor(f(2, 9))/2)
	r.Catch = []job.Catch{{How: job.Locked}, {How: job.ByHold, HoldKn: jobtest.Of(f(3, 12))}, {How: job.ByWraps, HandKn: jobtest.Of(f(0.1, 0.4))}, {How: job.ByRun, RunM: jobtest.Of(f(0.2, 1.5))}}[random.IntN(4)]
	p := &j.Picks[0]
	switch random.IntN(3) {
	case 0:
		p.CutM, p.FallTowardsDeg = jobtest.Of(tall-f(1, 5)), jobtest.Of(f(0, 360))
	case 1:
		p.What, p.Limb, p.CutM, p.Way, p.TieM = job.WhatLimb, "l", jobtest.Of(f(0.1, 0.8)), job.WaySwung, jobtest.Of(f(0.2, 1.6))
		r.Block.Place = &job.Place{On: job.OnStem, AtM: f(0.7, 0.9) * tall}
	default:
		p.What, p.Limb, p.CutM, p.Way = job.WhatLimb, "l", jobtest.Of(f(0.1, 0.8)), job.WayFromAbove
		r.Block.Place = &job.Place{On: job.OnStem, AtM: f(0.7, 0.9) * tall}
	}
	return j
}

// No moment of a run through time, with the friction that is typed and with as much more and less as it may be, is above the rung that it
// belongs to.
func TestNoMomentIsAboveItsRung(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(20, 31))
	followed := map[string]int{}
	for n := range 400 {
		j := randomOnLine(random)
		a := assess(&j, "p1")
		if a.Detail == nil || len(a.Picks[0].Faults) > 0 || a.Detail.Ladder == nil {
			continue
		}
		text, _ := json.Marshal(&j)
		for _, times := range []float64{1, 1.25, 0.75} {
			rubs, err := job.ReadJob(text)
			if err != nil {
				t.Fatal(err)
			}
			r := &rubs.Rigs[0]
			*r.Device.Friction *= times
			if r.Catch.HoldKn != nil {
				*r.Catch.HoldKn *= times
			}
			trace, err := Simulate(t.Context(), &rubs, "p1", 0, Options{Units: units.Metric})
			if err != nil || trace.Run == nil || trace.Run.LinePeakKn == nil {
				continue
			}
			followed[trace.Kind]++
			run := trace.Run
			for part, kn := range map[string]float64{hold.PartLine: *run.LinePeakKn, hold.PartTie: *run.LinePeakKn, hold.PartBlock: *run.BlockPeakKn, hold.PartDevice: *run.DevicePeakKn} {
				if l := rung(t, a, part); l.PeakKn == nil || kn > *l.PeakKn*1.005 {
					t.Errorf("job %d, %s, %s, %v times the friction: %s sees %v kN, its rung %v\n%s", n, j.Picks[0].Way, r.Catch.How, times, part, kn, *l.PeakKn, text)
				}
			}
		}
	}
	if followed["drop"] < 100 || followed["swing"] < 100 {
		t.Errorf("followed %v", followed)
	}
}

// A felling needs at no tilt more than its pull is judged by.
func TestNoTiltNeedsMoreThanItsPull(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(9, 31))
	f := func(low, high float64) float64 { return low + (high-low)*random.Float64() }
	looked := 0
	for range 60 {
		j := jobtest.Poled()
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(f(0, 6)), jobtest.Of(f(0, 360))
		j.Picks[0].Fell.Lines[0].AtM = f(6, 14)
		a := assess(&j, "p1")
		trace, err := Simulate(t.Context(), &j, "p1", 0, Options{Units: units.Metric})
		if err != nil || len(a.Picks[0].Faults) > 0 || len(trace.Need) == 0 {
			continue
		}
		looked++
		pull := *rung(t, a, hold.PartPull).PeakKn
		for _, at := range trace.Need {
			if at.PullKn > pull*1.001 {
				t.Errorf("at %v° it needs %v kN, judged by %v", at.TiltDeg, at.PullKn, pull)
				break
			}
		}
	}
	if looked < 30 {
		t.Errorf("%d fellings looked at", looked)
	}
}

// Any piece that comes free on a hook that holds it a tenth off what was asked, whatever it weighs within its range, peaks under its rungs.
func TestNoReleaseIsAboveItsRung(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(2, 31))
	f := func(low, high float64) float64 { return low + (high-low)*random.Float64() }
	for n := range 60 {
		j := jobtest.Lifted()
		j.Site.Cranes[0].ChartUsePct = jobtest.Of(100)
		j.Picks[0].Lift.Slings = []crane.Sling{{Name: "a", AtM: f(1.6, 1.9), LengthM: 4, WllKn: 90, Hitch: crane.Choker}, {Name: "b", AtM: f(2.2, 2.8), LengthM: f(3.8, 4.2), WllKn: 90, Hitch: crane.Choker}}
		if n%2 > 0 {
			j.Picks[0].Lift.HoldsKg = jobtest.Of(f(50, 400))
		}
		a := assess(&j, "p1")
		kg, asked := a.Detail.Piece.MassKg, a.Detail.Lift.HoldsKg
		hook, slings := *rung(t, a, hold.PartCrane).PeakKn, 0.0
		for _, l := range a.Detail.Ladder {
			if l.Part == hold.PartSling {
				slings += *l.PeakKn
			}
		}
		for range 20 {
			comes := crane.Release{WeightKn: f(kg.Low, kg.High) * g / 1000, HookKn: asked * f(0.9, 1.1) * g / 1000, StiffnessKnM: f(100, 3000), DampingRatio: f(0, 0.3)}
			if peak := comes.Solve().PeakKn; peak > hook*1.0001 || peak > slings*1.0001 {
				t.Errorf("%+v peaks at %v kN, the hook is judged by %v, its slings by %v", comes, peak, hook, slings)
			}
		}
	}
}

// In which order the trees of a job are written down changes nothing that is said of any pick.
func TestTheOrderOfTreesChangesNothing(t *testing.T) {
	t.Parallel()
	for name, j := range keptJobs(t) {
		if len(j.Trees) < 2 {
			continue
		}
		is := Assess(&j, Options{Units: units.Metric})
		turned := j
		turned.Trees = slices.Clone(j.Trees)
		// Picks that name no tree are of the first.
		turned.Picks = slices.Clone(j.Picks)
		for i := range turned.Picks {
			if turned.Picks[i].Tree == "" {
				turned.Picks[i].Tree = j.Trees[0].ID
			}
		}
		slices.Reverse(turned.Trees)
		was := Assess(&turned, Options{Units: units.Metric})
		if len(is.Picks) != len(was.Picks) {
			t.Fatalf("%s: %d picks, %d", name, len(is.Picks), len(was.Picks))
		}
		for i := range is.Picks {
			a, b := is.Picks[i], was.Picks[i]
			if a.Verdict != b.Verdict || !reflect.DeepEqual(a.MassKg, b.MassKg) || a.Worst != b.Worst || len(a.Faults) != len(b.Faults) {
				t.Errorf("%s, %s: %s (%s), with its trees the other way round %s (%s)", name, a.ID, a.Verdict, a.Worst, b.Verdict, b.Worst)
			}
		}
	}
}
