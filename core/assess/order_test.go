package assess

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/integrate/quad"
	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/swing"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

func readInto(text string, into any) error { return json.Unmarshal([]byte(text), into) }

func codes(p PickFigures) (list []string) {
	for _, f := range p.Faults {
		list = append(list, f.Code)
	}
	return list
}

// Every order that cannot happen says so at its pick, in words, and the order it was
// made from does not.
func TestImpossibleOrdersSaySo(t *testing.T) {
	t.Parallel()
	good := jobtest.Whole()
	for _, p := range assess(&good, "").Picks {
		if len(p.Faults) > 0 {
			t.Fatalf("the order it starts from: %s %v", p.ID, p.Faults)
		}
	}
	for _, c := range []struct {
		name string
		pick int
		code string
		says string
		bend func(*job.Job)
	}{
		{"a stem below a limb that stands", 2, space.FaultBeneath, "high limb still stands", func(j *job.Job) { j.Picks[2], j.Picks[3] = j.Picks[3], j.Picks[2] }},
		{"a limb that is gone", 3, space.FaultGone, "gone already", func(j *job.Job) { j.Picks[3] = job.Pick{ID: "x", What: job.WhatLimb, Limb: "b", Way: job.WayFree} }},
		{"a limb beyond where it ends", 3, space.FaultGone, "ends at", func(j *job.Job) {
			j.Picks[2].CutM = jobtest.Of(1)
			j.Picks[3] = job.Pick{ID: "x", What: job.WhatLimb, Limb: "d", CutM: jobtest.Of(2), Way: job.WayFree}
		}},
		{"a limb nobody knows", 0, space.FaultGone, "no limb", func(j *job.Job) { j.Picks[0].Limb = "nobody" }},
		{"a cut above the stem", 3, space.FaultGone, "takes nothing", func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(18) }},
		{"a cut below the readings", 3, space.FaultGone, "lowest reading", func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(0.4) }},
		{"a block on wood that is gone", 1, course.FaultBlock, "which is gone", func(j *job.Job) {
			j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "a", AtM: 0.5}
		}},
		{"a block on the piece", 3, course.FaultBlock, "on the piece itself", func(j *job.Job) { j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 16} }},
		{"a block below a piece from above", 1, course.FaultBlock, "not above the tie", func(j *job.Job) { j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 9} }},
		{"a block above a piece that falls past it", 2, course.FaultBlock, "not below the cut", func(j *job.Job) { j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 17} }},
		{"a block below its device", 3, course.FaultBlock, "not above the lowering device", func(j *job.Job) { j.Rigs[0].Block.BelowCutM = jobtest.Of(14) }},
		{"a redirect on wood that is gone", 2, course.FaultBlock, "which is gone", func(j *job.Job) {
			j.Rigs[0].Redirects = []job.Redirect{{Name: "fork", Place: job.Place{On: job.OnLimb, Limb: "c", AtM: 0.5}, Friction: jobtest.Of(0.3)}}
		}},
		{"a tie-in that is gone", 1, course.FaultTieIn, "the climber is tied in on low limb, which is gone", func(j *job.Job) {
			j.Picks[1].TieIn = &job.Place{On: job.OnLimb, Limb: "a", AtM: 0.5}
		}},
		{"a tie-in above the cut", 3, course.FaultTieIn, "on the piece itself", func(j *job.Job) { j.Picks[3].TieIn = &job.Place{On: job.OnStem, AtM: 17} }},
		{"a tie-in on a fork that comes off", 0, course.FaultTieIn, "comes off with the piece", func(j *job.Job) { j.Picks[0].TieIn = &job.Place{On: job.OnLimb, Limb: "b", AtM: 0.5} }},
		{"a tie beyond the piece", 3, course.FaultTie, "beyond the piece", func(j *job.Job) { j.Picks[3].TieM = jobtest.Of(3.2) }},
		{"a rig that is gone", 3, course.FaultRig, "no rig", func(j *job.Job) { j.Picks[3].Rig = "r9" }},
		{"no second line", 1, course.FaultRig, "no second line", func(j *job.Job) { j.Picks[1].Way = job.WayTwoPoints }},
		{"no crane", 1, course.FaultRig, "neither crane nor slings", func(j *job.Job) { j.Picks[1].Way = job.WayCrane }},
		{"longer than its drop", 3, course.FaultTooLong, "longer than its drop", func(j *job.Job) { j.Picks[3].CutM, j.Picks[3].Way = jobtest.Of(8.5), job.WayFree }},
		{"a rope too short", 3, course.FaultReach, "is 20.00 m long", func(j *job.Job) { j.Rigs[0].RopeLengthM = jobtest.Of(20) }},
		{"into a no-go sector", 2, course.FaultSector, "the road", func(j *job.Job) { j.Site.Sectors = []job.Sector{{ID: "s", Name: "the road", FromDeg: 340, ToDeg: 20}} }},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := jobtest.Whole()
			c.bend(&j)
			a := assess(&j, "")
			p := a.Picks[c.pick]
			if len(p.Faults) == 0 || p.Faults[0].Code != c.code || !strings.Contains(p.Faults[0].Message, c.says) || p.Verdict != policy.Over {
				t.Fatalf("got %s %+v", p.Verdict, p.Faults)
			}
			if !strings.Contains(a.State, "cannot happen in this order") {
				t.Errorf("the job says %q", a.State)
			}
		})
	}
}

// A fork nearer the stem than the cut stays: one can be tied in on it.
func TestWhatStaysCanBeHeldTo(t *testing.T) {
	j := jobtest.Whole()
	j.Picks[0].CutM, j.Picks[0].TieIn = jobtest.Of(2.5), &job.Place{On: job.OnLimb, Limb: "b", AtM: 0.5}
	if p := assess(&j, "").Picks[0]; len(p.Faults) > 0 {
		t.Errorf("got %v", p.Faults)
	}
}

// A crane that cannot reach, and slings that cannot hang it, are said so; one that can
// gives the chart's figure.
func TestCranePicks(t *testing.T) {
	j := jobtest.Whole()
	j.Picks = j.Picks[:3]
	j.Site.Cranes = []job.Crane{{ID: "k", Name: "yard crane", At: job.Spot{X: 6, Y: 0}, BoomM: 20, RiggingKg: 100}}
	if err := readInto(`[{"radius_m":3,"boom_m":20,"capacity_kg":3000},{"radius_m":6,"boom_m":20,"capacity_kg":3000},{"radius_m":9,"boom_m":20,"capacity_kg":2000}]`, &j.Site.Cranes[0].Chart); err != nil {
		t.Fatal(err)
	}
	lift := job.Lift{Crane: "k"}
	if err := readInto(`[{"name":"one","at_m":0.5,"length_m":4,"wll_kn":20,"hitch":"vertical"},{"name":"two","at_m":3,"length_m":3,"wll_kn":20,"hitch":"vertical"}]`, &lift.Slings); err != nil {
		t.Fatal(err)
	}
	j.Picks[0].Way, j.Picks[0].Lift = job.WayCrane, &lift
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatalf("got %v", a.Picks[0].Faults)
	}
	cog := a.Detail.Piece.Cog
	jobtest.Near(t, "radius", a.Detail.Lift.RadiusM, math.Hypot(cog.X-6, cog.Y))
	// As it parts it is held to all of the chart: its heavy end twice, less a tenth under what is asked of the crane.
	kg := a.Detail.Piece.MassKg
	asked := math.Min(0.9*kg.Likely, kg.Low)
	jobtest.Near(t, "limit", *rung(t, a, hold.PartCrane).LimitKn, 3000*units.Gravity/1000)
	jobtest.Near(t, "hook", *rung(t, a, hold.PartCrane).PeakKn, (100+2*kg.High-0.9*asked)*units.Gravity/1000)
	// Asked for its heavy end it hangs there no harder than it is: held to the share that is allowed.
	lift.HoldsKg = &kg.High
	a = assess(&j, "p1")
	jobtest.Near(t, "limit of what hangs", *rung(t, a, hold.PartCrane).LimitKn, 3000*0.75*units.Gravity/1000)
	jobtest.Near(t, "hook with what hangs", *rung(t, a, hold.PartCrane).PeakKn, (kg.High+100)*units.Gravity/1000)
	lift.HoldsKg = nil
	down := job.Spot{X: 16, Y: 0}
	lift.SetDown = &down
	a = assess(&j, "p1")
	if codes(a.Picks[0])[0] != course.FaultReach || rung(t, a, hold.PartCrane).LimitKn != nil {
		t.Errorf("set down out of reach: %+v", a.Picks[0])
	}
	lift.SetDown = nil
	lift.Slings[1].AtM = 0.8
	if a = assess(&j, "p1"); codes(a.Picks[0])[0] != course.FaultSlings {
		t.Errorf("both slings below the balance: %+v", a.Picks[0].Faults)
	}
}

// A limb's axis against its direction integrated numerically.
func TestLimbsGrowWhereTheirAngleLeads(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(6), jobtest.Of(45)
	j.Trees[0].Limbs[0].DroopDeg = 35
	v := surveyOf(t, &j)
	for _, g := range v.Limbs {
		angle := func(s float64) float64 { return space.Radians(g.AngleDeg + g.DroopDeg*s/g.LengthM) }
		for _, s := range []float64{0.3 * g.LengthM, g.LengthM} {
			over := quad.Fixed(func(u float64) float64 { return math.Sin(angle(u)) }, 0, s, 30, nil, 0)
			up := quad.Fixed(func(u float64) float64 { return math.Cos(angle(u)) }, 0, s, 30, nil, 0)
			want := r3.Add(g.Base, r3.Vec{X: over * math.Sin(space.Radians(g.AzimuthDeg)), Y: over * math.Cos(space.Radians(g.AzimuthDeg)), Z: up})
			if !(r3.Norm(r3.Sub(g.At(s), want)) <= 1e-9) {
				t.Errorf("%s at %v: got %v, want %v", g.ID, s, g.At(s), want)
			}
		}
	}
	if base := v.Limbs[0].Base; !(math.Abs(math.Hypot(base.X, base.Y)-7*math.Tan(space.Radians(6))) <= 1e-12) || !(math.Abs(base.X-base.Y) <= 1e-12) {
		t.Errorf("the low limb's base on the leaning stem: %v", base)
	}
}

// Whatever way a limb is cut up, its parts weigh what the whole weighs: that of the
// limb's own kind, with the water its species holds.
func TestPartsOfALimbMakeTheWhole(t *testing.T) {
	j := jobtest.Whole()
	v := surveyOf(t, &j)
	species, _ := wood.Find("northern-red-oak")
	// Green density over dry density: 63 lb/ft³ at a basic specific gravity of 0.56.
	moisture := 100 * (63*16.018/560 - 1)
	jobtest.Near(t, "moisture", v.MoisturePct, moisture)
	for _, cuts := range [][]float64{{0}, {2, 0}, {3, 1.7, 0.9, 0}} {
		now := v.Standing()
		sum := 0.0
		for _, cut := range cuts {
			part := v.LimbMass(2, cut, now)
			if part.CogM < 0 || part.CogM > now.Tips[2]-cut {
				t.Errorf("part from %v balances at %v", cut, part.CogM)
			}
			sum += part.Kg.Likely
			v.TakeOff(now, 2, cut)
		}
		limb := timber.Limb{Group: species.Allometry, BasalDiameterM: 0.15, LengthM: 4.5, MoisturePct: moisture}
		if want := limb.Weigh().MassKg.Likely; !(math.Abs(sum-want) <= 0.02*want) {
			t.Errorf("cut at %v: %v kg, want %v", cuts, sum, want)
		}
	}
	// A fork taken first is taken off the limb that bore it; the two make the whole.
	now := v.Standing()
	whole, fork := v.LimbMass(0, 0, now).Kg.Likely, v.LimbMass(1, 0, now).Kg.Likely
	v.TakeOff(now, 1, 0)
	jobtest.Near(t, "limb and its fork", v.LimbMass(0, 0, now).Kg.Likely+fork, whole)
	// A whole top weighs its stem and its limbs.
	now = v.Standing()
	top := v.StemMass(15, now)
	bare := v.Stem.WeighBetween(15, 18, v.Density, timber.Frustum)
	jobtest.Near(t, "top", top.Kg.Likely, bare.MassKg.Likely+v.LimbMass(3, 0, now).Kg.Likely)
}

// What swings is the swing package's own pendulum; what falls a little first and hangs
// is the drop's own sum; the harder of the two counts.
func TestFromAboveIsTheHarderOfSwingAndDrop(t *testing.T) {
	j := jobtest.Whole()
	j.Rigs[0].SlackM = jobtest.Of(0)
	j.Rigs[0].Catch.How = job.Locked
	a := assess(&j, "p2")
	d := a.Detail
	tie, block := d.Line[0].At, d.Line[1].At
	s := swing.Swing{Pivot: block, Tie: tie, MassKg: d.Piece.MassKg.High, ReachM: 1}
	arc := s.Solve()
	jobtest.Near(t, "swing", d.Arc.LineKn, arc.LineKn)
	if got := *rung(t, a, hold.PartLine).PeakKn; got < arc.LineKn-1e-9 {
		t.Errorf("the line sees %v, less than the swing's %v", got, arc.LineKn)
	}
	jobtest.Near(t, "block where the stem ends", block.Z, 18-0.5)
	j.Rigs[0].SlackM = jobtest.Of(1.5)
	if b := assess(&j, "p2"); *rung(t, b, hold.PartLine).PeakKn <= arc.LineKn {
		t.Error("a metre and a half of slack pulls no harder than none")
	}
}

// A swing that pulls harder than a limit is kept to it by rope that runs over the whole
// fall, and the answer, put into the job, does so; a run that is called is run.
func TestARunKeepsASwingWithinTheLimit(t *testing.T) {
	t.Parallel()
	j := jobtest.Whole()
	j.Rigs[0].SlackM = jobtest.Of(1.2)
	j.Rigs[0].Catch.How = job.Locked
	locked := assess(&j, "p2")
	pull := *rung(t, locked, hold.PartLine).PeakKn
	limit := 0.5 * pull
	j.Rigs[0].Rope.MarkedKn = jobtest.Of(limit)
	over := assess(&j, "p2")
	w := over.Detail.Catch.Wanted
	if rung(t, over, hold.PartLine).Verdict != policy.Over || w == nil || !w.Reachable || *w.RunM < 0.3 {
		t.Fatalf("a swing of %v kN on a line of %v: %+v", pull, limit, w)
	}
	j.Rigs[0].Catch = job.Catch{How: job.ByHold, HoldKn: jobtest.Of(w.HoldKn)}
	kept := assess(&j, "p2")
	jobtest.Nearly(t, "line", *rung(t, kept, hold.PartLine).PeakKn, limit)
	jobtest.Nearly(t, "run", *kept.Detail.Catch.RunM, *w.RunM)
	j.Rigs[0].Catch = job.Catch{How: job.ByRun, RunM: w.RunM}
	called := assess(&j, "p2")
	jobtest.Nearly(t, "called, the line", *rung(t, called, hold.PartLine).PeakKn, limit)
	jobtest.Nearly(t, "called, the run", *called.Detail.Catch.RunM, *w.RunM)
	if *kept.Detail.Room.LowestM > *locked.Detail.Room.LowestM {
		t.Error("with rope running it stays higher than without")
	}
}

// The way between two points is the two-line package's own.
func TestTwoPoints(t *testing.T) {
	j := jobtest.Whole()
	j.Site.Anchors = []job.Anchor{{ID: "w", Name: "willow", Kind: job.AnchorTree, At: job.Spot{X: 0, Y: 14}, HeightM: jobtest.Of(15)}}
	j.Rigs[0].Second = &job.SecondLine{Place: job.Place{On: job.OnAnchor, Anchor: "w", AtM: 13}}
	j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 16}
	j.Picks[1].Way, j.Picks[1].CarryM = job.WayTwoPoints, jobtest.Of(10)
	a := assess(&j, "p2")
	pair := line.Pair{A: line.Point{Z: 16}, B: line.Point{Y: 14, Z: 13}, MassKg: a.Detail.Piece.MassKg.High, PieceZ: jobtest.Of(10), Efficiency: jobtest.Of(0.9)}
	want := pair.Solve()
	jobtest.Near(t, "first line", rung(t, a, hold.PartLine).RestingKn, want.MaxAKn)
	jobtest.Near(t, "second line", rung(t, a, hold.PartSecond).RestingKn, want.MaxBKn)
	j.Picks[1].CarryM = jobtest.Of(14)
	if a = assess(&j, "p2"); codes(a.Picks[1])[0] != course.FaultReach {
		t.Errorf("carried above the second point: %+v", a.Picks[1].Faults)
	}
}

// Room is measured to what is really beneath and beside: closed forms for boxes.
func TestRoomRoundAPiece(t *testing.T) {
	box := space.PrismOf(&job.Target{Box: &job.Box{Min: job.Spot{X: -1, Y: -1}, Max: job.Spot{X: 1, Y: 1}}, ToM: 2})
	for _, c := range []struct {
		at   r3.Vec
		want float64
	}{{r3.Vec{X: 4, Y: 5, Z: 1}, 5}, {r3.Vec{X: 0, Y: 0, Z: 5}, 3}, {r3.Vec{X: 4, Y: 0, Z: 6}, 5}, {r3.Vec{X: 0.5, Y: 0.5, Z: 1}, 0}} {
		jobtest.Near(t, "distance", box.Distance(c.at, math.Inf(1)), c.want)
	}
	wire := space.PrismOf(&job.Target{Outline: []job.Spot{{X: -5, Y: 3}, {X: 5, Y: 3}}, FromM: 6, ToM: 7})
	jobtest.Near(t, "under a wire", wire.Distance(r3.Vec{Z: 2}, math.Inf(1)), 5)

	j := jobtest.Whole()
	j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 17}
	open := assess(&j, "p2")
	j.Site.Targets = append(j.Site.Targets, job.Target{ID: "u", Name: "low roof", Kind: "building", Box: &job.Box{Min: job.Spot{X: -2, Y: -2}, Max: job.Spot{X: 2, Y: 2}}, ToM: 4})
	roofed := assess(&j, "p2")
	if roofed.Detail.Room.Beneath != "low roof" || !(math.Abs(*open.Detail.Room.ClearanceM-*roofed.Detail.Room.ClearanceM-4) <= 1e-9) {
		t.Errorf("over the roof %+v, over the ground %+v", roofed.Detail.Room, open.Detail.Room)
	}
}

func TestWhereAPieceComesDown(t *testing.T) {
	for _, c := range []struct {
		name    string
		verdict policy.Verdict
		says    string
		bend    func(*job.Job)
	}{
		{"into the zone", policy.Within, "into lawn", func(*job.Job) {}},
		{"no zone drawn", policy.NotKnown, "no drop zone", func(j *job.Job) { j.Site.Zones = nil }},
		{"on the shed", policy.Over, "shed", func(j *job.Job) { j.Trees[0].Limbs[0].AzimuthDeg = 270; j.Trees[0].Limbs[0].LengthM = 9 }},
		{"beside the zone", policy.Over, "no drop zone takes all", func(j *job.Job) {
			j.Site.Targets = nil
			j.Trees[0].Limbs[0].AzimuthDeg = 0
			j.Trees[0].Limbs[0].LengthM = 9
		}},
		{"into a sector", policy.Over, "no-go sector", func(j *job.Job) { j.Site.Sectors = []job.Sector{{ID: "s", Name: "east", FromDeg: 80, ToDeg: 100}} }},
	} {
		j := jobtest.Whole()
		c.bend(&j)
		if l := assess(&j, "p1").Detail.Landing; l.Verdict != c.verdict || !strings.Contains(l.Reason, c.says) {
			t.Errorf("%s: got %s, %q", c.name, l.Verdict, l.Reason)
		}
	}
	j := jobtest.Whole()
	j.Picks[0].Way = job.WayThrown
	if a := assess(&j, "p1"); rung(t, a, hold.PartPiece).Verdict != policy.Over {
		t.Error("a whole limb is thrown by hand")
	}
}

func surveyOf(t *testing.T, j *job.Job) *Survey {
	t.Helper()
	f, a := Prepare(j, &Options{Units: units.Metric})
	if f == nil {
		t.Fatalf("%v %v", a.Missing, a.Faults)
	}
	v := f.Surveys[0]
	v.Taught = space.Taught{} // what the scale has said aside
	return v
}
