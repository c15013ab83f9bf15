package assess

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// outfitted is a job whose rig is all from a locker of its own.
func outfitted() (job.Job, policy.Crew) {
	j := jobtest.Stem()
	r := &j.Rigs[0]
	r.Rope.Item, r.Block.Item, r.Sling.Item, r.Device.Item = "rope", "block", "sling", "device"
	seen := []locker.Inspection{{On: "2026-01-10", By: "first reader", Result: locker.Pass, NextDue: "2026-07-10"}}
	return j, policy.Crew{On: "2026-03-01", Gear: []locker.Item{
		{ID: "rope", Kind: locker.Rope, Name: "made-up line", Rating: gear.Rating{BreakingKn: jobtest.Of(90)}, DiameterM: jobtest.Of(0.016), Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 2}}, LengthM: jobtest.Of(70), Inspections: seen},
		{ID: "block", Kind: locker.Block, Name: "made-up block", Rating: gear.Rating{BreakingKn: jobtest.Of(120)}, Efficiency: jobtest.Of(0.95), Inspections: seen},
		{ID: "sling", Kind: locker.Sling, Name: "made-up sling", Rating: gear.Rating{BreakingKn: jobtest.Of(200)}, Inspections: seen},
		{ID: "device", Kind: locker.Device, Name: "made-up bollard", Rating: gear.Rating{MarkedKn: jobtest.Of(20)}, Friction: jobtest.Of(0.25), Inspections: seen},
	}}
}

func with(j *job.Job, c policy.Crew) Assessment {
	return Assess(j, Options{Units: units.Metric, Pick: "p1", Crew: c})
}

func TestGearComesFromTheLocker(t *testing.T) {
	j, c := outfitted()
	before, _ := json.Marshal(j)
	a := with(&j, c)
	if len(a.Faults) > 0 || a.Detail == nil {
		t.Fatalf("faults %v", a.Faults)
	}
	// No bend is given: a pulley made for its rope leaves four fifths.
	jobtest.Near(t, "rope, 90 over 10", *rung(t, a, hold.PartLine).LimitKn, 9*0.8)
	jobtest.Near(t, "tied with the usual knot", *rung(t, a, hold.PartTie).LimitKn, 9*0.65)
	jobtest.Near(t, "block, 120 over 5", *rung(t, a, hold.PartBlock).LimitKn, 24)
	jobtest.Near(t, "sling, 200 over 10 as a choker", *rung(t, a, hold.PartSling).LimitKn, 16)
	jobtest.Near(t, "device as marked", *rung(t, a, hold.PartDevice).LimitKn, 20)
	jobtest.Near(t, "friction", a.Detail.Settings.Friction, 0.25)
	jobtest.Near(t, "efficiency", a.Detail.Settings.BlockEfficiency, 0.95)
	for part, want := range map[string]string{hold.PartLine: gear.ByBend, hold.PartTie: gear.ByKnot, hold.PartSling: hold.ByHitch, hold.PartDevice: gear.ByMarking, hold.PartHand: hold.ByCrew, hold.PartSpar: hold.ByWood} {
		if got := rung(t, a, part); got.Decided != want {
			t.Errorf("%s: decided by %q, want %q (%s)", part, got.Decided, want, got.Reason)
		}
	}
	if got := j.Items(); !slices.Equal(got, []string{"rope", "block", "sling", "device"}) {
		t.Errorf("refers to %v", got)
	}
	if have := a.Ropes[0].HaveM; have == nil || *have != 70 {
		t.Errorf("length of the rope: %v", have)
	}
	if after, _ := json.Marshal(j); string(after) != string(before) {
		t.Error("the document was changed")
	}
	if len(a.GearStandings) != 4 {
		t.Errorf("standings: %+v", a.GearStandings)
	}
	// Without the locker the figures are those noted, and that is said.
	alone := with(&j, policy.Crew{On: c.On})
	jobtest.Near(t, "as noted", *rung(t, alone, hold.PartLine).LimitKn, 14)
	if !slices.ContainsFunc(alone.Cautions, func(s string) bool { return strings.HasPrefix(s, "4 of the items") }) {
		t.Errorf("cautions %v", alone.Cautions)
	}
	// Gear of another kind is refused at its field.
	j.Rigs[0].Block.Item = "rope"
	if wrong := with(&j, c); len(wrong.Faults) != 1 || wrong.Faults[0].Location != "body.rigs[0].block.item" {
		t.Errorf("faults %v", wrong.Faults)
	}
}

func TestBendAndConditionTakeTheirShare(t *testing.T) {
	j, c := outfitted()
	c.Gear[1].BendM = jobtest.Of(0.064) // 4 to 1: 80 %
	a := with(&j, c)
	jobtest.Near(t, "bent 4 to 1", *rung(t, a, hold.PartLine).LimitKn, 9*0.8)
	jobtest.Near(t, "and tied", *rung(t, a, hold.PartTie).LimitKn, 9*0.65)
	c.Gear[0].Conditions = []string{"glazed"} // 75 %
	a = with(&j, c)
	jobtest.Near(t, "bent and glazed", *rung(t, a, hold.PartLine).LimitKn, 9*0.8*0.75)
	if got := rung(t, a, hold.PartLine); got.Decided != gear.ByCondition || !strings.Contains(got.Reason, "glazed") {
		t.Errorf("decided by %s: %s", got.Decided, got.Reason)
	}
	// 90 kN, bent and glazed, leave 54 kN: marked for 16 kN the mark is the lesser of it and
	// a third of that; marked for 25 kN it is not.
	for _, m := range []struct{ marked, want float64 }{{16, 16}, {25, 90 * 0.8 * 0.75 / 3}} {
		c.Gear[0].MarkedKn = jobtest.Of(m.marked)
		jobtest.Near(t, "marked", *rung(t, with(&j, c), hold.PartLine).LimitKn, m.want)
	}
}

func TestGearThatIsSetAsideNeedsAReason(t *testing.T) {
	j, c := outfitted()
	c.On = "2026-07-11"
	faults := func() []string {
		a := with(&j, c)
		return codes(a.Picks[0])
	}
	if got := faults(); len(got) != 4 || got[0] != course.FaultGear {
		t.Fatalf("four items overdue: %v", got)
	}
	if p := with(&j, c).Picks[0]; p.Verdict != policy.Over || p.PeakKn == nil {
		t.Errorf("it cannot happen, and its figures stand: %+v", p)
	}
	for _, id := range []string{"rope", "block", "sling"} {
		j.Exceptions = append(j.Exceptions, job.Exception{ID: id, State: locker.Overdue, Reason: "looked at this morning", By: "lead", On: c.On})
	}
	if got := faults(); len(got) != 1 {
		t.Errorf("one has no reason: %v", got)
	}
	j.Exceptions = append(j.Exceptions, job.Exception{ID: "device", State: locker.Overdue, Reason: "looked at this morning", By: "lead", On: c.On})
	a := with(&j, c)
	if len(a.Picks[0].Faults) != 0 {
		t.Errorf("every one has a reason: %v", a.Picks[0].Faults)
	}
	if said := rung(t, a, hold.PartBlock).Cautions; !slices.ContainsFunc(said, func(s string) bool { return strings.Contains(s, "looked at this morning") }) {
		t.Errorf("the reason does not stand beside the figure: %v", said)
	}
	// A reason for an item that was overdue does not hold once it is set aside.
	c.Gear[1].SetAside = &locker.SetAside{On: "2026-07-01", Why: "bent cheek"}
	if got := faults(); len(got) != 1 {
		t.Errorf("set aside since: %v", got)
	}
	// What is down came down on it, and says so.
	j.Picks[0].Done = true
	down := with(&j, c)
	if p := down.Picks[0]; len(p.Faults) > 0 {
		t.Errorf("down before it was set aside: %+v", p)
	}
	if a := down; !slices.ContainsFunc(a.Detail.Cautions, func(s string) bool { return strings.Contains(s, "bent cheek") }) {
		t.Errorf("what became of its gear: %q", a.Detail.Cautions)
	}
	j.Picks[0].Done = false
	// The day of the work counts when it is later than today.
	j.Exceptions, c.Gear[1].SetAside, c.On, j.WorkOn = nil, nil, "2026-03-01", "2026-08-01"
	if got := faults(); len(got) != 4 {
		t.Errorf("on the day of the work: %v", got)
	}
	// Nobody has told the day: inspections are not judged.
	c.On = ""
	if got := faults(); len(got) != 0 {
		t.Errorf("without a day: %v", got)
	}
}

func TestPolicy(t *testing.T) {
	j, c := outfitted()
	c.Policy.DesignFactors.Rope, c.Policy.DesignFactors.Block = jobtest.Of(9), jobtest.Of(4)
	a := with(&j, c)
	jobtest.Near(t, "rope over 9", *rung(t, a, hold.PartLine).LimitKn, 10*0.8)
	jobtest.Near(t, "block over 4", *rung(t, a, hold.PartBlock).LimitKn, 30)
	j.Limits.DesignFactor = jobtest.Of(6)
	a = with(&j, c)
	jobtest.Near(t, "the job's own wins", *rung(t, a, hold.PartLine).LimitKn, 15*0.8)
	jobtest.Near(t, "for every kind", *rung(t, a, hold.PartBlock).LimitKn, 20)
	j.Limits.DesignFactor = nil

	heavy := rung(t, with(&j, c), hold.PartLine)
	c.Policy.WeightEnd = policy.EndLikely
	likely := rung(t, with(&j, c), hold.PartLine)
	if !(likely.RestingKn < heavy.RestingKn) {
		t.Errorf("likely end %v, heavy end %v", likely.RestingKn, heavy.RestingKn)
	}
	c.Policy.CloseFromPct = jobtest.Of(1)
	if got := rung(t, with(&j, c), hold.PartLine).Verdict; got == policy.Within {
		t.Error("close begins at one per cent, and it is within")
	}
	c.Policy.HandKn = jobtest.Of(0.3)
	jobtest.Near(t, "hand", *rung(t, with(&j, c), hold.PartHand).LimitKn, 0.3)
}

// In the second school the load at rest is held to the working load and the peak to a
// share of the strength that knot and bend leave; the severity of the two counts.
func TestTheSecondSchool(t *testing.T) {
	j, c := outfitted()
	c.Policy.School = gear.StaticWithinWorkingLoad
	c.Policy.PeakSharePct = jobtest.Of(30)
	r := rung(t, with(&j, c), hold.PartTie)
	jobtest.Near(t, "limit of the peak", *r.LimitKn, 0.3*90*0.65)
	jobtest.Near(t, "limit at rest", *r.RestingLimitKn, 9*0.65)
	jobtest.Near(t, "use", *r.UsePct, 100*max(*r.PeakKn / *r.LimitKn, r.RestingKn / *r.RestingLimitKn))
	if r.Decided != gear.ByShare {
		t.Errorf("decided by %s", r.Decided)
	}
	c.Policy.DesignFactors.Rope = jobtest.Of(60)
	r = rung(t, with(&j, c), hold.PartTie)
	jobtest.Near(t, "at rest it is worse", *r.UsePct, 100*r.RestingKn/(1.5*0.65))
	// Where only a marked load is known, the peak is held to that.
	r = rung(t, with(&j, c), hold.PartDevice)
	jobtest.Near(t, "as marked", *r.LimitKn, 20)
	if r.RestingLimitKn != nil || len(r.Cautions) == 0 {
		t.Errorf("got %+v", r)
	}
}

func TestACranesChartComesFromTheLocker(t *testing.T) {
	j := jobtest.Stem()
	j.Site.Cranes = []job.Crane{{ID: "c", Name: "made-up crane", At: job.Spot{X: 4, Y: 0}, BoomM: 20, Item: "crane"}}
	j.Picks[0].Way, j.Picks[0].Lift = job.WayCrane, &job.Lift{Crane: "c", Slings: []crane.Sling{{Name: "one", AtM: 0.3, LengthM: 3, WllKn: 20, Hitch: crane.Choker}, {Name: "two", AtM: 2.5, LengthM: 3, WllKn: 20, Hitch: crane.Choker, Item: "s"}}}
	crew := policy.Crew{On: "2026-03-01", Gear: []locker.Item{
		{ID: "crane", Kind: locker.Crane, Name: "made-up crane", RiggingKg: jobtest.Of(100), Chart: []crane.ChartRow{{RadiusM: 3, BoomM: 20, CapacityKg: 2000}, {RadiusM: 10, BoomM: 20, CapacityKg: 2000}}},
		{ID: "s", Kind: locker.Sling, Name: "made-up sling", Rating: gear.Rating{MarkedKn: jobtest.Of(40)}},
	}}
	r := rung(t, with(&j, crew), hold.PartCrane)
	jobtest.Near(t, "three quarters of the chart", *r.LimitKn, 0.75*2000*units.Gravity/1000)
	if r.Decided != hold.ByChart || r.Item != "crane" {
		t.Errorf("got %+v", r)
	}
	crew.Policy.ChartUsePct = jobtest.Of(50)
	jobtest.Near(t, "half of the chart", *rung(t, with(&j, crew), hold.PartCrane).LimitKn, 0.5*2000*units.Gravity/1000)
	slings := map[string]float64{}
	for _, l := range with(&j, crew).Detail.Ladder {
		if l.Part == hold.PartSling {
			slings[l.Name] = *l.LimitKn
		}
	}
	jobtest.Near(t, "the locker's sling is twice the other", slings["two"], 2*slings["one"])
}

// What a briefing calls and where it points.
func TestCallsAndBearings(t *testing.T) {
	j := jobtest.Whole()
	calls := func() []string {
		list := []string{}
		for _, p := range assess(&j, "").Picks {
			list = append(list, p.Call)
		}
		return list
	}
	got := calls()
	if got[0] != "Zone clear: free to E" || !strings.HasPrefix(got[2], "Let it run ") && got[2] != "Hold it" {
		t.Errorf("calls %q", got)
	}
	j.Rigs[0].Catch.How = job.Locked
	// Over a limit nothing is called but that.
	if got = calls(); !strings.HasPrefix(got[2], "Not like this: tie ") {
		t.Errorf("locked off: %q", got[2])
	}
	r := &j.Rigs[0]
	r.Rope.MarkedKn, r.Rope.BreakingKn = jobtest.Of(900), 9000
	r.Block.MarkedKn, r.Sling.MarkedKn, r.Device.BreakingKn, j.Limits.WoodFactor = jobtest.Of(9000), jobtest.Of(9000), jobtest.Of(90000), jobtest.Of(1)
	if got = calls(); got[2] != "Tied off" {
		t.Errorf("locked off on a stronger rope: %q", got[2])
	}
}

// Every kind of defect means something for climbing, hinging and anchoring, and the
// shell's caution begins below a third of the radius (Mattheck and Breloer, from memory).
func TestDefectsAndShells(t *testing.T) {
	j := jobtest.Stem()
	for i, kind := range []string{job.DefectDecay, job.DefectCrack, job.DefectUnion, job.DefectIvy, job.DefectHung, job.DefectDead} {
		j.Trees[0].Defects = append(j.Trees[0].Defects, job.Defect{ID: kind, Kind: kind, AtM: float64(2 + i)})
	}
	seen := map[string]bool{}
	for _, d := range assess(&j, "").Trees[0].Defects {
		for _, said := range []string{d.Climbing, d.Hinging, d.Anchoring} {
			if len(said) < 20 || seen[said] {
				t.Errorf("%s: %q", d.Title, said)
			}
			seen[said] = true
		}
	}
	if len(seen) != 18 {
		t.Errorf("%d meanings", len(seen))
	}
	// 80 cm across: a cavity of 53 cm leaves 13.5 cm of 40, one of 54 leaves 13.
	for cavity, caution := range map[float64]bool{0.2: false, 0.53: false, 0.54: true, 0.7: true} {
		j := jobtest.Stem()
		j.Trees[0].Readings[0].CavityM = cavity
		a := assess(&j, "")
		if len(a.Trees[0].Shells) != 1 || a.Trees[0].Shells[0].Caution != caution {
			t.Errorf("cavity %v: %+v", cavity, a.Trees[0].Shells)
			continue
		}
		jobtest.Near(t, "shell", a.Trees[0].Shells[0].ShellM, (0.8-cavity)/2)
		if slices.Contains(a.Cautions, a.Trees[0].Shells[0].Words) != caution {
			t.Errorf("cavity %v: cautions %v", cavity, a.Cautions)
		}
	}
}

// Every thing of a rig that the locker has may be set aside, and each by itself keeps the pick from being planned: the
// winch that stands in for a hand as the block.
func TestAnythingThatIsSetAsideIsRefused(t *testing.T) {
	kinds := map[string]string{"rope": locker.Rope, "block": locker.Block, "sling": locker.Sling, "device": locker.Device, "connector": locker.Connector, "turn": locker.Pulley, "winch": locker.Winch}
	for id := range kinds {
		j, c := outfitted()
		r := &j.Rigs[0]
		r.Hands = job.Hands{By: "winch", Item: "winch"}
		r.Connector = &job.Connector{Item: "connector"}
		r.Redirects = []job.Redirect{{Name: "turn", Item: "turn", Efficiency: jobtest.Of(0.9), Place: job.Place{On: job.OnStem, AtM: 2}}}
		for other, kind := range kinds {
			if !slices.ContainsFunc(c.Gear, func(one locker.Item) bool { return one.ID == other }) {
				c.Gear = append(c.Gear, locker.Item{ID: other, Kind: kind, Name: "made-up " + other, Rating: gear.Rating{MarkedKn: jobtest.Of(20)}})
			}
		}
		if got := with(&j, c).Picks[0].Faults; len(got) != 0 {
			t.Fatalf("with all of it: %v", got)
		}
		for i := range c.Gear {
			if c.Gear[i].ID == id {
				c.Gear[i].SetAside = &locker.SetAside{On: "2026-02-01", Why: "worn"}
			}
		}
		got := with(&j, c).Picks[0].Faults
		if len(got) != 1 || got[0].Code != course.FaultGear || !strings.Contains(got[0].Message, "made-up ") || !strings.Contains(got[0].Message, id[:4]) && id != "rope" && id != "device" {
			t.Errorf("%s set aside: %v", id, got)
		}
	}
}
