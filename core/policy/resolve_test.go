package policy

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/locker"
)

var of = jobtest.Of

// rated is an invented item of the locker.
func rated(id, kind string, marked float64) locker.Item {
	item := locker.Item{ID: id, Kind: kind, Name: "the " + id}
	item.MarkedKn = of(marked)
	return item
}

// fitted is an invented job whose every place takes its part from a locker, and that locker.
func fitted() (job.Job, Crew) {
	rope := locker.Item{ID: "rope", Kind: locker.Rope, Name: "the rope", Serial: "R-1", DiameterM: of(0.014), LengthM: of(60), DynamicFactor: of(1.3),
		Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 2}}, Conditions: []string{"aged"}}
	rope.BreakingKn = of(100)
	block, turn, device, winch := rated("block", locker.Block, 30), rated("turn", locker.Pulley, 22), rated("device", locker.Device, 25), rated("winch", locker.Winch, 9)
	block.Efficiency, block.BendM = of(0.93), of(0.07)
	turn.Efficiency, turn.BendM = of(0.88), of(0.042)
	device.Friction, device.BendM = of(0.27), of(0.1)
	leg := rated("leg", locker.Sling, 0)
	leg.Rating = gear.Rating{BreakingKn: of(120)}
	mobile := locker.Item{ID: "mobile", Kind: locker.Crane, Name: "the mobile", RiggingKg: of(180), Chart: []crane.ChartRow{{RadiusM: 8, BoomM: 24, CapacityKg: 9000}}}

	tipper := locker.Item{ID: "tipper", Kind: locker.Vehicle, Name: "the tipper", MassKg: of(2400), PayloadKg: of(1100), VolumeM3: of(5), LengthM: of(3.1), Grip: of(0.5), WinchKn: of(20)}

	j := jobtest.Stem()
	j.Ground = &job.Ground{Trucks: []job.Truck{{ID: "t", Name: "old name", Item: "tipper", PayloadKg: of(9000)}}}
	r := &j.Rigs[0]
	r.Rope.Item, r.Tie.Item, r.Block.Item, r.Sling.Item, r.Device.Item = "rope", "tie", "block", "sling", "device"
	r.Connector = &job.Connector{Item: "link"}
	r.Redirects = []job.Redirect{{Name: "fork", Friction: of(0.4), Item: "turn"}}
	r.Hands = job.Hands{By: "winch", Item: "winch"}
	r.Second = &job.SecondLine{Item: "far"}
	j.Site.Cranes = []job.Crane{{ID: "c", Name: "crane", Item: "mobile"}}
	j.Picks = append(j.Picks, job.Pick{ID: "p2", Lift: &job.Lift{Slings: []crane.Sling{{Name: "leg", Item: "leg", WllKn: 1}, {Name: "own", WllKn: 2}}}})
	return j, Crew{Gear: []locker.Item{
		rope, rated("tie", locker.Sling, 21), block, rated("sling", locker.Sling, 33), rated("link", locker.Connector, 24), turn, device, winch,
		rated("far", locker.Block, 18), leg, mobile, tipper,
	}}
}

// Every place takes the figures of its item, and the document that was read stays as it was.
func TestGearComesFromTheLocker(t *testing.T) {
	j, crew := fitted()
	resolved, stands := Resolve(&j, &crew)
	if err := stands.Faults.Err(); err != nil || stands.Cautions() != nil {
		t.Fatal(err, stands.Cautions())
	}
	r, was := &resolved.Rigs[0], &j.Rigs[0]
	for _, c := range []struct {
		what      string
		got, want float64
	}{
		{"rope breaks", r.Rope.BreakingKn, 100}, {"rope dynamic", r.Rope.DynamicFactor, 1.3}, {"rope thick", r.Rope.DiameterM, 0.014},
		{"rope long", *r.RopeLengthM, 60}, {"tie", *r.Tie.MarkedKn, 21}, {"block", *r.Block.MarkedKn, 30}, {"block efficiency", *r.Block.Efficiency, 0.93},
		{"block bend", *r.Block.BendM, 0.07}, {"sling", *r.Sling.MarkedKn, 33}, {"link", *r.Connector.MarkedKn, 24}, {"turn", *r.Redirects[0].MarkedKn, 22},
		{"turn efficiency", *r.Redirects[0].Efficiency, 0.88}, {"device", *r.Device.MarkedKn, 25}, {"device friction", *r.Device.Friction, 0.27},
		{"winch", *r.Hands.MarkedKn, 9}, {"far block", *r.Second.MarkedKn, 18}, {"crane's rigging", resolved.Site.Cranes[0].RiggingKg, 180},
		{"payload", *resolved.Ground.Trucks[0].PayloadKg, 1100}, {"room", *resolved.Ground.Trucks[0].VolumeM3, 5}, {"bed", *resolved.Ground.Trucks[0].BedM, 3.1},
		{"own mass", *resolved.Ground.Trucks[0].MassKg, 2400}, {"grip", *resolved.Ground.Trucks[0].Grip, 0.5}, {"winch of the tipper", *resolved.Ground.Trucks[0].WinchKn, 20},
		{"payload as it was read", *j.Ground.Trucks[0].PayloadKg, 9000},
		{"chart", resolved.Site.Cranes[0].Chart[0].CapacityKg, 9000},
		{"leg: 120 kN over ten", resolved.Picks[1].Lift.Slings[0].WllKn, 12}, {"leg of its own", resolved.Picks[1].Lift.Slings[1].WllKn, 2},
		{"as it was read: rope", was.Rope.BreakingKn, 80}, {"block", *was.Block.MarkedKn, 30}, {"leg", j.Picks[1].Lift.Slings[0].WllKn, 1},
		{"friction of the fork", *was.Redirects[0].Friction, 0.4}, {"elongation", r.Rope.Elongation[0].StrainPct, 2},
	} {
		if c.got != c.want {
			t.Errorf("%s: %g, want %g", c.what, c.got, c.want)
		}
	}
	// By kind, then name, then id: the order in which the crew packs.
	var order []string
	for _, one := range stands.Standings() {
		order = append(order, one.ID)
	}
	if got := strings.Join(order, " "); got != "rope block far leg sling tie link turn device winch mobile tipper" {
		t.Errorf("order %s", got)
	}
	if r.Rope.MarkedKn != nil || r.Rope.Conditions[0] != "aged" || r.Rope.Name != "the rope" || r.Redirects[0].Friction != nil || was.RopeLengthM != nil {
		t.Errorf("rope %+v, turn %+v", r.Rope, r.Redirects[0])
	}

	// A rope without a table is as stiff as one of its size, whatever the rig had before.
	bare := crew
	bare.Gear = append([]locker.Item(nil), crew.Gear...)
	bare.Gear[0].Elongation = nil
	j.Rigs[0].Rope.Elongation = []gear.Stretch{{LoadPct: 10, StrainPct: 12}}
	if without, _ := Resolve(&j, &bare); without.Rigs[0].Rope.Elongation[0].StrainPct != 1.8 {
		t.Errorf("14 mm without a table: %+v", without.Rigs[0].Rope.Elongation)
	}

	// What the locker at hand does not have stays as noted, and is said; what does not fit is a fault.
	crew.Gear = crew.Gear[1:]
	crew.Gear[0].Kind = locker.Pulley
	resolved, stands = Resolve(&j, &crew)
	if resolved.Rigs[0].Rope.BreakingKn != 80 || len(stands.Cautions()) != 1 || !strings.HasPrefix(stands.Cautions()[0], "1 of the items") {
		t.Errorf("%+v, %v", resolved.Rigs[0].Rope, stands.Cautions())
	}
	if err := stands.Faults.Err(); err == nil || !strings.Contains(err.Error(), "body.rigs[0].tie.item") || !strings.Contains(err.Error(), "is a pulley of the locker: here goes a sling") {
		t.Errorf("a pulley for a tie: %v", err)
	}
}

// What is overdue or set aside is barred on the day, until a reason lifts that bar and no heavier one.
func TestGearStandsOnItsDay(t *testing.T) {
	j, crew := fitted()
	crew.Gear[0].Inspections = []locker.Inspection{{On: "2026-01-10", By: "A", Result: "pass", NextDue: "2026-07-10"}}
	for _, c := range []struct {
		on, work string
		aside    bool
		state    string // of the recorded reason
		barred   bool
		says     string
	}{
		{"2026-05-01", "", false, "", false, ""},
		{"2026-07-10", "", false, "", false, "its next inspection is due on 2026-07-10"},
		{"2026-07-11", "", false, "", true, "the rope: "},
		{"2026-07-01", "2026-08-01", false, "", true, "the rope: "}, // by the day of the work
		{"", "2026-08-01", false, "", false, ""},                    // no day is known: nothing is judged
		{"2026-07-11", "", false, locker.Overdue, false, "Used all the same, says B: it was looked at"},
		{"2026-07-11", "", true, locker.Overdue, true, "frayed"},
		{"2026-07-11", "", true, locker.Aside, false, "frayed"},
	} {
		crew.On, j.WorkOn = c.on, c.work
		crew.Gear[0].SetAside = nil
		if c.aside {
			crew.Gear[0].SetAside = &locker.SetAside{On: "2026-07-01", Why: "frayed"}
		}
		j.Exceptions = nil
		if c.state != "" {
			j.Exceptions = []job.Exception{{ID: "rope", State: c.state, Reason: "it was looked at", By: "B", On: "2026-07-11"}}
		}
		_, stands := Resolve(&j, &crew)
		_, barred, reason := stands.Stands("rope")
		said := stands.Said("rope", "the rope")
		if barred != c.barred || (c.says == "") != (said == "") || !strings.Contains(said, c.says) || (reason != nil) != (c.state != "" && !barred) {
			t.Errorf("%+v: barred %v, %q, %v", c, barred, said, reason)
		}
		list := stands.Standings()
		if len(list) != len(crew.Gear) || list[0].ID != "rope" || list[0].Barred != c.barred || (reason != nil) != (list[0].By == "B") {
			t.Errorf("%+v: %+v", c, list[0])
		}
	}
	if _, barred, _ := (&Gear{}).Stands("nobody's"); barred {
		t.Error("what is not from the locker is not barred")
	}
}

// What knot, bend and condition leave, by hand: the table of round figures of gear, the rules of the policy.
func TestLimitsAsUsed(t *testing.T) {
	j, crew := fitted()
	resolved, _ := Resolve(&j, &crew)
	r := resolved.Rigs[0]
	limits := LimitsOf(&j, &Policy{})
	near := func(what string, got, want float64) {
		t.Helper()
		if !(math.Abs(got-want) <= 1e-9) {
			t.Errorf("%s: %g, want %g", what, got, want)
		}
	}
	// The sharpest turn is the redirect's: 42 mm on 14 mm, 3 to 1, leaves 0.74; aged leaves 0.8; over ten.
	near("where it runs", limits.RateLine(&r, 1, 2).Limit.Kn, 100*0.74*0.8/10)
	r.Redirects[0].BendM = nil
	near("a turn of which nobody says, 4 to 1", limits.RateLine(&r, 1, 2).Limit.Kn, 100*0.8*0.8/10)
	r.Redirects = nil
	near("block, 5 to 1", limits.RateLine(&r, 1, 2).Limit.Kn, 100*0.84*0.8/10)
	r.Device.BendM = of(0.007)
	near("sharper than itself counts as 1 to 1", limits.RateLine(&r, 1, 2).Limit.Kn, 100*0.5*0.8/10)
	near("tied, no knot said: running bowline", limits.RateTie(&r, 1, 2).Limit.Kn, 100*0.65*0.8/10)
	r.Tie.Knot = "splice"
	near("spliced", limits.RateTie(&r, 1, 2).Limit.Kn, 100*0.95*0.8/10)

	r.Rope.DiameterM = 0
	near("no diameter, a pulley made for it", limits.RateLine(&r, 1, 2).Limit.Kn, 100*0.8*0.8/10)
	r.Rope.DiameterM, r.Device.BendM, r.Block.BendM = 0.01, nil, of(0.2)
	near("so wide that it takes nothing", limits.RateLine(&r, 1, 2).Limit.Kn, 100*0.8/10)
	if nothing := limits.Rate(gear.Rating{}, Used{Kind: locker.Block}, 1, 2); nothing.Known {
		t.Error("nothing is stated, and a limit is known")
	}

	// The second school: at rest within 100·0.8/10, the peak within 40 % of 80.
	second := LimitsOf(&j, &Policy{School: gear.StaticWithinWorkingLoad})
	got := second.RateLine(&r, 6, 16)
	near("at rest", got.RestLimit, 8)
	near("peak", got.Limit.Kn, 32)
	near("use, by its load at rest", got.Use(6, 16), 0.75)
	near("use, by its peak", got.Use(2, 24), 0.75)
	if one := limits.RateLine(&r, 6, 16); one.Use(6, 16) != 2 || one.RestLimit != 0 {
		t.Errorf("first school: %+v", one)
	}
	if marked := second.Rate(gear.Rating{MarkedKn: of(9)}, Used{Kind: locker.Block}, 6, 8); marked.Limit.Kn != 9 || marked.RestLimit != 0 || !strings.Contains(strings.Join(marked.Cautions, " "), "No breaking strength is stated") {
		t.Errorf("marked alone: %+v", marked)
	}
	if !strings.Contains(second.SchoolWords(), "40 % of the strength") || strings.Contains(limits.SchoolWords(), "%") {
		t.Errorf("%q, %q", second.SchoolWords(), limits.SchoolWords())
	}
	near("metal", DesignFactorOf(&Policy{}, locker.Block), 5)
	near("a crew's own", DesignFactorOf(&Policy{DesignFactors: DesignFactors{Block: of(7)}}, locker.Block), 7)
	if Ruled(of(1)) != "this job's own" || Ruled(nil) != "the crew's policy" {
		t.Error("whose rule it is, is not said")
	}
	// The job's own longest run and heaviest piece go before the crew's.
	j.Limits.RunM = of(2)
	own := LimitsOf(&j, &Policy{RunM: of(3), PieceKg: of(400)})
	if *own.RunM != 2 || *own.PieceKg != 400 {
		t.Errorf("run %g, piece %g", *own.RunM, *own.PieceKg)
	}
	// Where the share of the strength decides, the working of the peak says so; where the marking does, the marking.
	strong := gear.Rating{MarkedKn: of(40), BreakingKn: of(60)}
	if got := second.Rate(strong, Used{Kind: locker.Rope}, 6, 8); got.Decided != gear.ByShare || got.Limit.Reason == "working load as marked" || got.Limit.Kn != 24 {
		t.Errorf("by share: %+v", got)
	}
	strong.MarkedKn = of(10)
	if got := second.Rate(strong, Used{Kind: locker.Rope}, 6, 8); got.Decided != gear.ByMarking || !strings.Contains(got.Limit.Reason, "mark") {
		t.Errorf("by marking: %+v", got)
	}
}

// What is kept from power lines: 10, 15, 20, 25, 35, 45 ft (OSHA 29 CFR 1926.1408 table A, from memory).
func TestPowerDistances(t *testing.T) {
	const foot = 0.3048
	for _, c := range []struct{ kv, feet float64 }{{0.4, 10}, {50, 10}, {50.1, 15}, {200, 15}, {345, 20}, {350, 20}, {500, 25}, {750, 35}, {765, 45}, {1000, 45}, {1200, 45}} {
		got, line := PowerDistanceOf(&job.Target{Kind: "power-line", VoltageKv: &c.kv})
		if !line || !(math.Abs(got-c.feet*foot) <= 0.006) {
			t.Errorf("%g kV: %g m, want %g", c.kv, got, c.feet*foot)
		}
	}
	if got, _ := PowerDistanceOf(&job.Target{Kind: "power-line"}); got < 13.71 {
		t.Errorf("a voltage that nobody has said: %g", got)
	}
	if got, line := PowerDistanceOf(&job.Target{Kind: "building"}); line || got != 0 {
		t.Error("a building is no power line")
	}
}

func TestACrewIsRead(t *testing.T) {
	if crew, err := ReadCrew(nil); err != nil || crew.On != "" || crew.Gear != nil {
		t.Errorf("%+v %v", crew, err)
	}
	crew, err := ReadCrew([]byte(`{"policy":{"design_factors":{},"hand_kn":0.3},"gear":[],"on":"2026-03-31"}`))
	if err != nil || *crew.Policy.HandKn != 0.3 || crew.On != "2026-03-31" {
		t.Errorf("%+v %v", crew, err)
	}
	if _, err := ReadCrew([]byte(`{"policy":{"design_factors":{},"hand_kn":30},"gear":[]}`)); err == nil || !strings.Contains(err.Error(), "policy.hand_kn") {
		t.Errorf("30 kN by hand: %v", err)
	}
}

// A friction device of the locker put aloft turns the rope by its friction; a pulley put there takes
// the friction and the turns away.
func TestAFrictionDeviceAloft(t *testing.T) {
	rig := job.Rig{Block: job.Block{Item: "ring", Turns: of(1.5), Efficiency: of(0.9)}}
	items := map[string]*locker.Item{
		"ring":  {ID: "ring", Kind: locker.Device, Name: "friction ring", Friction: of(0.3)},
		"plain": {ID: "plain", Kind: locker.Device, Name: "bare bollard"},
		"block": {ID: "block", Kind: locker.Block, Name: "block", Efficiency: of(0.95)},
	}
	for _, c := range []struct {
		item                       string
		friction, turns, efficient float64
	}{{"ring", 0.3, 1.5, 0}, {"plain", job.RigDefaults().Friction, 1.5, 0}, {"block", 0, 0, 0.95}} {
		r := rig
		r.Block.Item = c.item
		j := job.NewJob("aloft")
		j.Rigs = []job.Rig{r}
		crew := Crew{}
		for _, item := range items {
			crew.Gear = append(crew.Gear, *item)
		}
		resolved, _ := Resolve(&j, &crew)
		b := resolved.Rigs[0].Block
		if job.Or(b.Friction, 0) != c.friction || job.Or(b.Turns, 0) != c.turns || job.Or(b.Efficiency, 0) != c.efficient {
			t.Errorf("%s: friction %v, turns %v, efficiency %v", c.item, job.Or(b.Friction, 0), job.Or(b.Turns, 0), job.Or(b.Efficiency, 0))
		}
	}
}
