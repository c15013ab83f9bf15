package assess

import (
	"math"
	"slices"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/haul"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/ways/roped"
	"elkstay/core/wood"
)

// A machine that pushes in place of a line, by moments about the hinge; beside a line it is not
// counted on; under the hinge it has nothing to push.
func TestAMachineThatPushes(t *testing.T) {
	j := jobtest.Poled()
	j.Picks[0].Fell = &job.Fell{Push: &job.FellPush{AtM: 4, LimitKn: jobtest.Of(40)}}
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	f := a.Detail.Fell
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	got := rung(t, a, hold.PartPush)
	jobtest.Nearly(t, "push", *got.PeakKn, 1.3*(f.Hinge.BendingKnm-w*f.ForwardM)/3.5)
	jobtest.Nearly(t, "of what it can", *got.LimitKn, 40)
	if len(got.Working) == 0 || !strings.Contains(strings.Join(got.Cautions, " "), "strap at the back") || !strings.Contains(strings.Join(got.Cautions, " "), "must follow") {
		t.Errorf("%+v", got)
	}
	if trace, err := Simulate(t.Context(), &j, "p1", 0, Options{Units: "metric"}); err != nil || !strings.Contains(trace.Why, "push is not followed") {
		t.Errorf("%v %+v", err, trace)
	}
	j.Picks[0].Fell.Push.LimitKn = nil
	if got := rung(t, assess(&j, "p1"), hold.PartPush); got.Verdict != policy.NotKnown {
		t.Errorf("a machine nobody knows: %+v", got)
	}
	j.Picks[0].Fell.Push.AtM = 0.4
	if faults := assess(&j, "p1").Picks[0].Faults; len(faults) == 0 || !strings.Contains(faults[0].Message, "nothing to push") {
		t.Errorf("%v", faults)
	}
	j = jobtest.Poled()
	j.Picks[0].Fell.Push = &job.FellPush{AtM: 4}
	if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); !strings.Contains(said, "not counted on") {
		t.Errorf("%s", said)
	}
}

// A system as it was drawn pulls as its own pulleys turn: a 3:1 whose pulleys give 0.6 makes 1 + 0.6 + 0.36
// of its effort; the line may see what good ones would make, 1 + 0.95 + 0.9025. Drawn with pulleys of 0.9 it
// is the plain 3:1.
func TestASystemAsItWasDrawn(t *testing.T) {
	drawn := func(efficiency float64) *haul.System {
		return &haul.System{LoadKn: 4, Pulleys: []haul.Pulley{{ID: "a", On: "anchor", Efficiency: efficiency}, {ID: "b", On: "load", Efficiency: efficiency}}, Ropes: []haul.Rope{{ID: "r", Path: []string{"load", "a", "b", "hand"}}}}
	}
	plain := jobtest.Poled()
	effort := 2.0
	set := func(j *job.Job, system *haul.System) *job.FellLine {
		l := &j.Picks[0].Fell.Lines[0]
		l.Parts, l.System, l.EffortKn, l.By = intOf(3), system, &effort, job.EffortWinch
		return l
	}
	set(&plain, nil)
	same := jobtest.Poled()
	set(&same, drawn(0.9)).Parts = nil
	a, b := assess(&plain, "p1").Detail, assess(&same, "p1").Detail
	jobtest.Nearly(t, "as the plain 3:1", *b.Pulls[0].GivesKn, *a.Pulls[0].GivesKn)
	jobtest.Nearly(t, "and loads as much", b.Pulls[0].PeakKn, a.Pulls[0].PeakKn)
	effort = 40
	stiff := jobtest.Poled()
	set(&stiff, drawn(0.6)).Parts = nil
	c := assess(&stiff, "p1")
	jobtest.Nearly(t, "stiff pulleys give", *c.Detail.Pulls[0].GivesKn, 40*1.96)
	jobtest.Nearly(t, "and may load", c.Detail.Pulls[0].PeakKn, 40*2.8525)
	got := rung(t, c, hold.PartPull)
	if !strings.Contains(got.Reason, "system as drawn, 3:1") || !strings.Contains(strings.Join(got.Cautions, " "), "In the system as drawn, 3:1 its pulleys take") {
		t.Errorf("%s %v", got.Reason, got.Cautions)
	}
	broken := jobtest.Poled()
	set(&broken, drawn(0.9)).System.Ropes[0].Path[2] = "gone"
	if faults := assess(&broken, "p1").Picks[0].Faults; len(faults) != 1 || !strings.Contains(faults[0].Message, "as it is drawn cannot work") {
		t.Errorf("%v", faults)
	}
}

// A vehicle that pulls over a pulley: its own tyres hold what comes behind the pulley, which is more than the tree needs; a weak
// effort is no help, as what is needed must come through the same turn.
func TestAVehicleOverAPulley(t *testing.T) {
	j := jobtest.Poled()
	j.Site.Anchors[0].At, j.Site.Anchors[0].HeightM = job.Spot{X: 30}, jobtest.Of(0.5)
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "van", Name: "van", Kind: job.AnchorVehicle, At: job.Spot{X: 30, Y: 20}, MassKg: jobtest.Of(9000)})
	l := &j.Picks[0].Fell.Lines[0]
	l.Anchor, l.Parts, l.EffortKn, l.By = "van", intOf(1), nil, job.EffortVehicle
	l.Redirects = []job.Redirect{{Name: "pulley", Place: job.Place{On: job.OnAnchor, Anchor: "e", AtM: 0.3}, Efficiency: jobtest.Of(0.9), Rating: gear.Rating{MarkedKn: jobtest.Of(90)}}}
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	ratio := 1 - 0.1*math.Sin(math.Pi/4) // square over the pulley
	pull := a.Detail.Pulls[0]
	behind := pull.NeedKn / ratio
	// Half its weight is braked, on wet grass: 9 t grip with 15.45 kN, of which the tree gets less.
	grip := 9000 * 9.80665e-3 * 0.5 * 0.35
	jobtest.Nearly(t, "what reaches the tree", *pull.GivesKn, grip*ratio)
	var holders []Rung
	for _, one := range a.Detail.Ladder {
		if one.Part == hold.PartHolder {
			holders = append(holders, one)
		}
	}
	if len(holders) != 2 {
		t.Fatalf("held by %+v", holders)
	}
	jobtest.Nearly(t, "on its tyres", *holders[1].PeakKn, behind)
	jobtest.Nearly(t, "what they hold", *holders[1].LimitKn, grip)
	jobtest.Nearly(t, "at rest, the margin with it", holders[1].RestingKn, behind)
	// On dry ground, on all of its wheels, it may pull with 0.6 of its weight.
	jobtest.Nearly(t, "rope behind the pulley", pull.LegKn[1], math.Max(behind, 9000*9.80665e-3*0.6))
}

// The rope of a line that pulls takes its way and what is spare; a little less is too short.
func TestTheRopeThatPullsIsLongEnough(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	j.Picks[0].Fell.Lines[0].Rig = j.Rigs[0].ID
	// 25 m out and 11.7 m down.
	long := math.Hypot(25, 11.7)
	for _, c := range []struct {
		rope  float64
		short bool
	}{{long + roped.SpareRope - 0.1, true}, {long + roped.SpareRope + 0.1, false}, {long - roped.SpareRope + 0.1, true}} {
		j.Rigs[0].RopeLengthM = &c.rope
		faults := assess(&j, "p1").Picks[0].Faults
		if short := len(faults) > 0 && strings.Contains(faults[0].Message, "knot and tail included"); short != c.short {
			t.Errorf("a rope of %v m: %v", c.rope, faults)
		}
	}
}

// Two lines side by side whose efforts nobody has told of have half of the pull each.
func TestLinesOfUnknownEffortsShareThePull(t *testing.T) {
	t.Parallel()
	need := func(lines int) (all []float64) {
		j := jobtest.Poled()
		j.Picks[0].Fell.Lines = nil
		for n := range lines {
			j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines, job.FellLine{ID: string(rune('a' + n)), AtM: 12, Anchor: "e"})
		}
		for _, r := range assess(&j, "p1").Detail.Ladder {
			if r.Part == hold.PartPull {
				all = append(all, *r.PeakKn)
			}
		}
		return all
	}
	one, two := need(1), need(2)
	if len(one) != 1 || len(two) != 2 || !(math.Abs(two[0]-one[0]/2) <= 1e-9*one[0]) || !(math.Abs(two[1]-one[0]/2) <= 1e-9*one[0]) {
		t.Errorf("alone %v kN, two %v", one, two)
	}
}

// Pulled harder than is needed and aside, a line that holds against it takes what that adds; one
// made tighter than is needed loads the hinge by itself. By moments about the hinge.
func TestWhatLinesLeaveToTheHinge(t *testing.T) {
	j := jobtest.Poled()
	j.Site.Anchors[0].At = job.Spot{X: 22, Y: -8}
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{Y: 18}})
	f := j.Picks[0].Fell
	f.Lines[0].Parts, f.Lines[0].EffortKn = nil, jobtest.Of(20)
	f.Lines = append(f.Lines, job.FellLine{ID: "h", Holds: true, AtM: 12, Anchor: "n"})
	d := assess(&j, "p1").Detail
	// What 1 kN turns about the fall's own axis, + to the right (south), of a pole straight up.
	aside := func(p course.PullLine) float64 {
		from, to := p.Points[0], p.Points[len(p.Points)-1]
		x, y, z := to.X-from.X, -(to.Y - from.Y), to.Z-from.Z
		return (from.Z - 0.5) * y / math.Sqrt(x*x+y*y+z*z)
	}
	pull, holds := d.Pulls[0], d.Pulls[1]
	jobtest.Nearly(t, "the pull may be all of its effort", pull.PeakKn, 20)
	jobtest.Nearly(t, "what holds takes all that leads aside", holds.PeakKn, 20*aside(pull)/-aside(holds))
	if holds.PeakKn < 1.5*holds.NeedKn || d.Fell.SideUsePct > 1e-6 {
		t.Errorf("no attack: %+v, the hinge at %v %%", holds, d.Fell.SideUsePct)
	}
	// Made tight with 30 kN the line that holds bends the hinge the other way.
	f.Lines[1].PretensionKn = 30
	a := assess(&j, "p1")
	side := rung(t, a, hold.PartHinge)
	jobtest.Nearly(t, "the hinge", *side.PeakKn, (30-holds.NeedKn)*-aside(holds)/a.Detail.Fell.HeightM)
}

// Two lines to one tree share what its stem can be bent by; to two trees each has it all.
func TestTwoLinesToOneAnchor(t *testing.T) {
	j := jobtest.Poled()
	j.Site.Anchors[0] = job.Anchor{ID: "e", Name: "willow", Kind: job.AnchorTree, At: job.Spot{X: 25}, DiameterM: jobtest.Of(0.3)}
	second := j.Picks[0].Fell.Lines[0]
	second.ID = "l2"
	j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines, second)
	rupture := math.Inf(1)
	for _, s := range wood.Table() {
		rupture = min(rupture, s.RuptureMPa)
	}
	// From 12 m up and 25 m off: level by its height, up by half its thickness.
	leg := math.Hypot(25, 11.7)
	whole := math.Pi * 0.027 * 0.88 * 0.88 * 0.88 / 32 * rupture / policy.LimitsOf(&j, &policy.Policy{}).WoodFactor * 1000 / (0.3*25/leg + 0.15*11.7/leg)
	limit := *rung(t, assess(&j, "p1"), hold.PartHolder).LimitKn
	jobtest.Nearly(t, "one tree", limit, whole/2)
	j.Site.Anchors = append(j.Site.Anchors, j.Site.Anchors[0])
	j.Site.Anchors[2].ID, j.Site.Anchors[2].Name = "f", "ash"
	j.Picks[0].Fell.Lines[1].Anchor = "f"
	jobtest.Nearly(t, "a tree each", *rung(t, assess(&j, "p1"), hold.PartHolder).LimitKn, whole)
}

// Two lines that work against each other: a pull that leads mostly to the right, a line from behind on the left that holds against
// that. Drawn against its lean with all that there is they turn the tree back, whatever the pull: by moments about the hinge, per
// kilonewton of pull, what is left of it forward when nothing is left sideways.
func TestLinesThatWorkAgainstEachOther(t *testing.T) {
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(2), jobtest.Of(270)
	net := func() float64 {
		turns := func(at job.Spot) (forward, right float64) {
			z := 12 - 0.5 // the tie over the hinge
			long := math.Sqrt(at.X*at.X + at.Y*at.Y + 11.7*11.7)
			return z * at.X / long, z * -at.Y / long
		}
		ax, ay := turns(j.Site.Anchors[0].At)
		bx, by := turns(j.Site.Anchors[1].At)
		return ax - ay/by*bx
	}
	j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines, job.FellLine{ID: "h", Holds: true, AtM: 12, Anchor: "w"})
	for _, c := range []struct{ pulls, holds job.Spot }{
		{job.Spot{X: 3, Y: -17}, job.Spot{X: -20, Y: 5}}, {job.Spot{X: 20, Y: -10}, job.Spot{X: -2, Y: 18}}, {job.Spot{X: 17, Y: -17}, job.Spot{X: -17, Y: 12}}, {job.Spot{X: 17, Y: -12}, job.Spot{X: -12, Y: 14}},
	} {
		j.Site.Anchors[0].At, j.Site.Anchors[1].At = c.pulls, c.holds
		p := assess(&j, "p1").Picks[0]
		cannot := slices.ContainsFunc(p.Faults, func(f space.OrderFault) bool {
			return f.Code == course.FaultBack && strings.Contains(f.Message, "against each other")
		})
		if cannot != (net() < 0) {
			t.Errorf("%+v: %v m of forward pull are left per kN, said %v %v", c, net(), cannot, p.Faults)
		}
	}
}
