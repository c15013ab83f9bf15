package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/spar"
	"elkstay/core/timber"
)

// stopBy is a limb that swings 4 m north under its mast, another pole of the site in its way.
func stopBy() job.Job {
	j := jobtest.Hung(4)
	j.Rigs[0].SlackM = jobtest.Of(0)
	pole := j.Trees[0]
	pole.ID, pole.Name, pole.Limbs, pole.At = "2", "north pole", nil, &job.Spot{X: 3, Y: 5.5}
	j.Trees = append(j.Trees, pole)
	j.Site.Targets = []job.Target{{ID: "g", Name: "glasshouse", Kind: "building", Box: &job.Box{Min: job.Spot{X: 0, Y: 7}, Max: job.Spot{X: 6, Y: 10}}, ToM: 12}}
	j.Picks[0].Way = job.WaySwung
	return j
}

// A stem in the way of a swing: met where the wood comes to it, with what the balance has come down by
// then; its force by the stiffness of the stem as a beam; what lies behind is not reached any more.
func TestASwingIsStopped(t *testing.T) {
	t.Parallel()
	j := stopBy()
	if a := assess(&j, "p1"); a.Picks[0].Worst != "strikes glasshouse" || !strings.Contains(strings.Join(a.Detail.Cautions, " "), "stop it with a limb, a stem or a line") {
		t.Fatalf("not stopped: %s", a.Picks[0].Worst)
	}
	j.Picks[0].Stop = &job.Stop{On: job.StopStem, Tree: "2"}
	a := assess(&j, "p1")
	stop := a.Detail.Stop
	if stop == nil {
		t.Fatal(a.Picks[0].Faults, a.Detail.Cautions)
	}
	for _, c := range a.Detail.Clear {
		if c.Name == "glasshouse" && c.ClearanceM <= 0 {
			t.Errorf("it still reaches %s", c.Name)
		}
	}
	d := a.Detail
	w := d.Piece.MassKg.High * 9.80665 / 1000
	if got := math.Sqrt(2 * stop.EnergyKj * 1000 / d.Piece.MassKg.High); !(math.Abs(got-stop.SpeedMS) <= 1e-9) {
		t.Errorf("%v m/s of %v kJ", stop.SpeedMS, stop.EnergyKj)
	}
	// Its tie swings on 8.06 m under 16 m, from 4 m off; the wood's end is met first, no lower than the
	// bottom of the arc, the line's stretch and its own turning to hang.
	radius := math.Hypot(4, 7)
	most := w * (9 - (16 - radius) + d.Catch.StretchM + math.Abs(d.Piece.CogM-3))
	if stop.EnergyKj <= most/2 || stop.EnergyKj > 1.15*most {
		t.Errorf("%v kJ, at most %v", stop.EnergyKj, most)
	}
	no := false
	pole := surveyOf(t, &j).Trees[1]
	beam := spar.Spar{Stations: append([]timber.Station{{AtM: 0.5, DiameterM: 0.8}}, timber.Station{AtM: stop.Z, DiameterM: 0.8 - 0.2*(stop.Z-0.5)/5.5}), StrengthMpa: 50, StiffnessGpa: pole.Species.ElasticityGPa, DensityKgM3: 900, SelfWeight: &no,
		Loads: []spar.Load{{AtM: stop.Z, HorizontalKn: 1}}}
	if stop.Z >= 6 {
		t.Fatalf("met at %v m", stop.Z)
	}
	want := math.Sqrt(2 * stop.EnergyKj / beam.Solve().TopDeflectionM)
	if got := *rung(t, a, hold.PartStop).PeakKn; !(math.Abs(got-want) <= 0.01*want) {
		t.Errorf("the stop takes %v kN, by the beam %v", got, want)
	}
	if r := rung(t, a, hold.PartStop); r.Name != "north pole" || r.LimitKn == nil || r.Verdict == policy.Over {
		t.Errorf("%+v", r)
	}
	// Another pole of that name, hardly a metre from the limb's tip, is in its way as before.
	besideIt := j.Trees[1]
	besideIt.ID, besideIt.At = "3", &job.Spot{X: 6.7, Y: -0.3}
	j.Trees = append(j.Trees, besideIt)
	if c := assess(&j, "p1").Detail.Clear; len(c) == 0 || c[0].Name != "north pole" || c[0].ClearanceM > 0.5 {
		t.Errorf("beside a pole of its name: %v", c)
	}
	j.Trees = j.Trees[:2]
	// A sapling is met as well, and does not hold: the glasshouse is struck all the same.
	j.Trees[1].Readings = []job.Reading{{AtM: 0.5, Tape: job.Diameter, TapeM: 0.08}, {AtM: 6, Tape: job.Diameter, TapeM: 0.06}}
	a = assess(&j, "p1")
	struck := false
	for _, c := range a.Detail.Clear {
		struck = struck || c.Name == "glasshouse" && c.ClearanceM <= 0
	}
	if r := rung(t, a, hold.PartStop); r.Verdict != policy.Over || !struck || !strings.Contains(strings.Join(a.Detail.Cautions, " "), "followed as if it went on") {
		t.Errorf("a sapling: %+v, %v", r, a.Detail.Clear)
	}
}

// What cannot stop a swing is said.
func TestStopsThatStopNothing(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		stop job.Stop
		move func(*job.Job)
		says string
	}{
		{job.Stop{On: job.StopStem, Tree: "2"}, func(j *job.Job) { j.Trees[1].At = &job.Spot{X: -14} }, "never meets north pole"},
		{job.Stop{On: job.StopStem, Tree: "9"}, nil, `not there, or not measured: "9"`},
		{job.Stop{On: job.StopLimb, Limb: "a"}, nil, "not standing there"},
		{job.Stop{On: job.StopLine, Anchor: "x"}, nil, "not on the site"},
		{job.Stop{On: job.StopLine, Anchor: "m2", Rig: "r9"}, nil, "has no rope"},
		{job.Stop{On: job.StopStem, Tree: "2"}, func(j *job.Job) { j.Site.Anchors[0].At = job.Spot{X: 3} }, "nothing swings here"},
	} {
		j := stopBy()
		j.Picks[0].Stop = &c.stop
		if c.move != nil {
			c.move(&j)
		}
		if got := endFault(t, &j); !strings.Contains(got, c.says) {
			t.Errorf("%+v: %q, want %q", c.stop, got, c.says)
		}
	}
	j := stopBy()
	j.Picks[0].Stop = &job.Stop{On: job.StopLimb}
	if f := j.Faults(); len(f) != 1 || f[0].Location != "body.picks[0].stop.limb" {
		t.Error(f)
	}
	j.Picks[0].Stop = &job.Stop{On: job.StopLine}
	if f := j.Faults(); len(f) != 1 || f[0].Location != "body.picks[0].stop.anchor" {
		t.Error(f)
	}
}

// A line takes a swing up by stretching: T = √(2·E/(c·L)) of a straight rope; its anchor takes as much.
func TestALineStopsASwing(t *testing.T) {
	j := stopBy()
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "s", Name: "south stump", Kind: job.AnchorGround, At: job.Spot{X: 3, Y: -10}, Rating: gear.Rating{MarkedKn: jobtest.Of(20)}})
	j.Picks[0].Stop = &job.Stop{On: job.StopLine, Anchor: "s", LineM: jobtest.Of(15)}
	a := assess(&j, "p1")
	stop := a.Detail.Stop
	if stop == nil {
		t.Fatal(a.Picks[0].Faults)
	}
	if off := math.Hypot(math.Hypot(stop.X-3, stop.Y+10), stop.Z-0.3); !(math.Abs(off-15) <= 0.1) {
		t.Errorf("tight at %v m of 15", off)
	}
	// Before the bottom of its arc, 16 m up at (3, 4), it goes on leaning on the line with W·sin of how far its tie has yet
	// to go, and more as it turns into hanging.
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	got, least := rung(t, a, hold.PartStop), w*(4-stop.Y)/math.Hypot(4-stop.Y, 16-stop.Z)
	leans := got.RestingKn
	want := leans + math.Sqrt(leans*leans+2*stop.EnergyKj/(0.1/80*15))
	if least < 0.01*w || leans < least || leans > 0.4*w || !(math.Abs(*got.PeakKn-want) <= 0.01*want) {
		t.Errorf("%v kN, by hand %v; it leans with %v, at least %v of %v", *got.PeakKn, want, leans, least, w)
	}
	held := false
	for _, r := range a.Detail.Ladder {
		held = held || r.Part == hold.PartHolder && r.Name == "south stump" && *r.LimitKn == 20 && math.Abs(*r.PeakKn-want) < 0.02*want
	}
	if !held {
		t.Errorf("its anchor: %+v", a.Detail.Ladder)
	}
}

// Somebody who stands where a swing goes makes it a fault; who stands beside does not.
func TestASwingTowardsPeople(t *testing.T) {
	t.Parallel()
	j := stopBy()
	j.Site.Targets = nil
	post := func(role string, x, y float64) string {
		j.Site.Posts = []job.Post{{ID: "p", Role: role, At: job.Spot{X: x, Y: y}}}
		return endFault(t, &j)
	}
	if got := post("bucket", 3, 6.5); !strings.Contains(got, "where the bucket stands") {
		t.Errorf("a bucket in its way: %q", got)
	}
	if got := post("ground lead", 3, 6.5); got != "" {
		t.Errorf("metres beneath it: %q", got)
	}
	if got := post("bucket", 3, -9); got != "" {
		t.Errorf("on the other side: %q", got)
	}
	if got := post("climber", 0, 0.5); got != "" {
		t.Errorf("by the cut: %q", got)
	}
	j.Trees[1].At = &job.Spot{X: 3, Y: 4.3}
	j.Picks[0].Stop = &job.Stop{On: job.StopStem, Tree: "2"}
	if got := post("bucket", 3, 7.4); got != "" {
		t.Errorf("stopped before the bucket: %q", got)
	}
}

// What a stem bears of its own line it does not bear of a stop beside it.
func TestAStopOnTheStemThatCarriesTheBlock(t *testing.T) {
	t.Parallel()
	j := jobtest.Whole()
	j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 13.2}
	j.Rigs[0].SlackM = jobtest.Of(0)
	j.Picks = []job.Pick{{ID: "p", What: job.WhatLimb, Limb: "c", CutM: jobtest.Of(0.3), Way: job.WaySwung, Rig: "r1", TieM: jobtest.Of(2.5), Stop: &job.Stop{On: job.StopStem}}}
	a := assess(&j, "p")
	stop, spar := rung(t, a, hold.PartStop), rung(t, a, hold.PartSpar)
	if !strings.Contains(stop.Reason, "are taken off for what the line loads there") || spar.UsePct == nil || *spar.UsePct <= 0 {
		t.Errorf("%+v beside %+v", stop, spar)
	}
	// Named by its id it is the same stem; another tree of that kind carries no block, and nothing is taken off.
	j.Picks[0].Stop.Tree = j.Trees[0].ID
	if named := rung(t, assess(&j, "p"), hold.PartStop); named.LimitKn == nil || *named.LimitKn != *stop.LimitKn {
		t.Errorf("named by its id: %+v, else %+v", named, stop)
	}
	other := j.Trees[0]
	other.ID, other.At, other.Limbs = "2", &job.Spot{X: 1}, nil
	j.Trees = append(j.Trees, other)
	j.Picks[0].Stop.Tree = "2"
	a = assess(&j, "p")
	if a.Detail == nil || a.Detail.Stop == nil {
		t.Fatal(a.Picks[0].Faults)
	}
	if beside := rung(t, a, hold.PartStop); strings.Contains(beside.Reason, "taken off") {
		t.Errorf("a tree that carries nothing: %s", beside.Reason)
	}
}
