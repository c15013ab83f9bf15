package assess

import (
	"encoding/json"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/haul"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// keptSet are invented jobs, small ones, that between them have every way down and every thing that steadies, holds,
// weakens or hinders one.
type keptSet map[string]job.Job

func (set keptSet) put(name string, j job.Job, changes ...func(*job.Job)) {
	for _, change := range changes {
		change(&j)
	}
	j.NoteFacts()
	set[name] = j
}

// keptJobs are all of them, and those that are written down.
func keptJobs(t *testing.T) keptSet {
	t.Helper()
	set := keptSet{}
	set.wholeAndSwung()
	set.onTwoLines()
	set.felledAndBent()
	set.manyAtOnce()
	set.written(t)
	return set
}

// wholeAndSwung are those from "whole" to "held at both ends, by wraps from one mast".
func (set keptSet) wholeAndSwung() {
	set.put("whole", jobtest.Whole(), anchored, hindered, manned)
	set.put("whole, weighed and leaning", jobtest.Whole(), leaning, weighed, anchored)
	set.put("whole, weak wood in a gust", jobtest.Whole(), split, forked, gusty, anchored)
	set.put("whole, over turns", jobtest.Whole(), anchored, redirected, func(j *job.Job) {
		j.Rigs[0].Block.Friction, j.Rigs[0].Block.Turns, j.Rigs[0].Block.Efficiency = jobtest.Of(0.2), jobtest.Of(1), nil
		j.Rigs[0].Catch = job.Catch{How: job.ByHold, HoldKn: jobtest.Of(6)}
	})
	set.put("whole, caught by a run", jobtest.Whole(), split, func(j *job.Job) {
		j.Rigs[0].Catch, j.Rigs[0].SlackM = job.Catch{How: job.ByRun, RunM: jobtest.Of(1.5)}, jobtest.Of(0.7)
		j.Limits.RunM, j.Limits.PieceKg = jobtest.Of(1), jobtest.Of(120)
	})
	set.put("whole, locked", jobtest.Whole(), func(j *job.Job) { j.Rigs[0].Catch, j.Rigs[0].SlackM = job.Catch{How: job.Locked}, jobtest.Of(0.5) })
	set.put("whole, thrown and snapped", jobtest.Whole(), hindered, func(j *job.Job) {
		for i := range j.Picks {
			j.Picks[i].Way, j.Picks[i].Rig, j.Picks[i].FallTowardsDeg = job.WayThrown, "", jobtest.Of(80*float64(i))
		}
		j.Picks[3].CutM, j.Picks[3].Way = jobtest.Of(17.2), job.WayFree
	})
	set.put("two trees", jobtest.Two(), anchored, hindered, func(j *job.Job) {
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "c", Way: job.WayFromAbove, Rig: "r1", CutM: jobtest.Of(1)},
			{ID: "p2", Tree: "2", What: job.WhatTop, CutM: jobtest.Of(9), Way: job.WayFree, FallTowardsDeg: jobtest.Of(200)}, {ID: "p3", What: job.WhatStem, CutM: jobtest.Of(14), Way: job.WayPastBlock, Rig: "r1"},
			{ID: "p4", What: job.WhatStem, CutM: jobtest.Of(5), Way: job.WayFelled, FallTowardsDeg: jobtest.Of(120)}}
	})
	set.put("bent", bent(), anchored, gusty)
	set.put("bent, felled", bent(), anchored, func(j *job.Job) {
		j.Trees[0].Wood = wood.Wood{Species: "white-ash"}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(0.5), Way: job.WayFelled, FallTowardsDeg: jobtest.Of(70), Fell: &job.Fell{Wedged: true, Lines: []job.FellLine{{ID: "l", AtM: 8, Anchor: "van", By: job.EffortVehicle}}}}}
	})

	set.put("swinging", jobtest.Swinging(), anchored, hindered)
	set.put("swinging off a limb", jobtest.Swinging(), split, func(j *job.Job) {
		j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "d", AtM: 0.8}
		j.Rigs[0].Tie.Knot = ""
	})
	set.put("swinging with a tag line", jobtest.Swinging(), anchored, func(j *job.Job) {
		j.Picks[0].Tag = &job.Tag{Anchor: "post", PullKn: jobtest.Of(0.25)}
	})
	for by, on := range map[string]job.Stop{"a stem": {On: job.StopStem, Tree: "2"}, "a line": {On: job.StopLine, Anchor: "m2"}, "a line of 9 m": {On: job.StopLine, Anchor: "m2", LineM: jobtest.Of(9)}} {
		set.put("stopped by "+by, stopBy(), func(j *job.Job) { j.Picks[0].Stop = &on })
	}
	set.put("stopped by a limb", stopBy(), func(j *job.Job) {
		j.Trees[1].Limbs = []job.Limb{{ID: "x", Name: "arm", AtM: 7, AzimuthDeg: 180, AngleDeg: 88, DiameterM: 0.14, LengthM: 3, Brush: job.BrushBare}}
		j.Picks[0].Stop = &job.Stop{On: job.StopLimb, Tree: "2", Limb: "x"}
	})
	set.put("twins", jobtest.Hung(0), func(j *job.Job) { j.Picks[0].Twin = &job.Twin{FasterM: jobtest.Of(0.2)} })
	set.put("twins, tagged and run", jobtest.Hung(2), func(j *job.Job) {
		j.Picks[0].Twin = &job.Twin{Rig: "r2"}
		j.Rigs[0].Catch, j.Rigs[1].Catch = job.Catch{How: job.ByWraps}, job.Catch{How: job.ByWraps}
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "lawn", Name: "lawn", Kind: job.AnchorGround, At: job.Spot{X: -8, Y: -12}})
		j.Picks[0].Tag = &job.Tag{Anchor: "lawn"}
	})
	set.put("from above, aside", jobtest.Hung(1.5), hindered)

	set.put("held at both ends", jobtest.Carried(), hindered)
	set.put("held at both ends, tagged and stepped", jobtest.Carried(), func(j *job.Job) {
		tagOn(j, 0.2)
		j.Picks[0].Ends.Program = []job.EndStep{{Line: job.EndButt, ByM: 2}, {Line: job.EndBoth, ByM: 2}, {Line: job.EndTip, ByM: -0.5}}
		j.Picks[0].Ends.FaceDeg, j.Picks[0].Ends.Tip.SlackM = jobtest.Of(35), jobtest.Of(0.3)
	})
	set.put("held at both ends, by wraps from one mast", jobtest.Carried(), gusty, func(j *job.Job) {
		j.Rigs[0].Catch, j.Rigs[1].Catch = job.Catch{How: job.ByWraps}, job.Catch{How: job.ByWraps}
		j.Site.Anchors[1].At = job.Spot{X: 1.2, Y: 0.6}
		j.Trees[0].Limbs[0].AngleDeg, j.Trees[0].Limbs[0].DroopDeg, j.Trees[0].Limbs[0].Brush = 60, 10, ""
	})
}

// onTwoLines are those from "held at both ends, out of their plane" to "felled".
func (set keptSet) onTwoLines() {
	set.put("held at both ends, out of their plane", jobtest.Carried(), leaning, func(j *job.Job) {
		tagOn(j, 0.3)
		j.Site.Anchors[0].At, j.Site.Anchors[1].At = job.Spot{X: 0.2, Y: 2.4}, job.Spot{X: 5.6, Y: -3.1}
		j.Rigs[0].Catch, j.Rigs[1].Catch = job.Catch{How: job.ByHold, HoldKn: jobtest.Of(5)}, job.Catch{How: job.ByWraps}
		j.Rigs[0].Block.Efficiency, j.Rigs[1].Block.Efficiency, j.Rigs[1].AnchorStiffnessKnM = jobtest.Of(0.8), jobtest.Of(0.93), jobtest.Of(300)
		j.Picks[0].Ends.Butt.SlackM, j.Picks[0].Ends.Tip.TightKn, j.Picks[0].Ends.FaceDeg = jobtest.Of(0.25), jobtest.Of(0.4), jobtest.Of(40)
		j.Trees[0].Limbs[0].DroopDeg, j.Trees[0].Limbs[0].Brush = 14, ""
		j.Site.Targets = []job.Target{besides("porch", 4, -4, 1, 3)}
	})
	set.put("between limbs of its own", jobtest.Whole(), leaning, split, forked, func(j *job.Job) {
		j.Trees[0].Limbs = append(j.Trees[0].Limbs, job.Limb{ID: "e", Name: "arm", AtM: 14, AzimuthDeg: 200, AngleDeg: 60, DiameterM: 0.2, LengthM: 5, DroopDeg: 20})
		j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "c", AtM: 1.6}
		j.Rigs[0].Second = &job.SecondLine{Place: job.Place{On: job.OnLimb, Limb: "e", AtM: 2.2}, Rating: gear.Rating{MarkedKn: jobtest.Of(9)}}
		j.Rigs[0].Redirects = []job.Redirect{{Name: "fork", Place: job.Place{On: job.OnLimb, Limb: "d", AtM: 0.4}, Friction: jobtest.Of(0.3)}}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "b", Way: job.WaySwung, Rig: "r1", TieM: jobtest.Of(1)}, {ID: "p2", What: job.WhatLimb, Limb: "a", Way: job.WayTwoPoints, Rig: "r1", CarryM: jobtest.Of(6)}}
	})
	set.put("between two points", jobtest.Carried(), hindered, func(j *job.Job) {
		p := &j.Picks[0]
		p.Way, p.Ends, p.TieM = job.WayTwoPoints, nil, jobtest.Of(2.5)
		j.Rigs[0].Second = &job.SecondLine{Place: *j.Rigs[1].Block.Place}
	})
	set.put("between two points of what holds", jobtest.Carried(), leaning, func(j *job.Job) {
		p := &j.Picks[0]
		p.Way, p.Ends, p.TieM, p.CarryM = job.WayTwoPoints, nil, jobtest.Of(2.9), jobtest.Of(7)
		j.Site.Anchors[0].MarkedKn, j.Site.Anchors[1] = jobtest.Of(15), job.Anchor{ID: "m2", Name: "oak", Kind: job.AnchorTree, At: job.Spot{X: 13, Y: 2}, HeightM: jobtest.Of(15), DiameterM: jobtest.Of(0.7)}
		j.Rigs[0].Second = &job.SecondLine{Place: job.Place{On: job.OnAnchor, Anchor: "m2", AtM: 13}, Rating: gear.Rating{MarkedKn: jobtest.Of(10)}}
		j.Limits.PieceKg = jobtest.Of(150)
	})
	set.put("held at both ends, of what holds", jobtest.Carried(), anchored, func(j *job.Job) {
		for i := range 2 {
			j.Site.Anchors[i].Kind, j.Site.Anchors[i].DiameterM = job.AnchorTree, jobtest.Of(0.6)
		}
		j.Rigs[1].Redirects = []job.Redirect{{Name: "turn", Place: job.Place{On: job.OnAnchor, Anchor: "post", AtM: 0.4}, Efficiency: jobtest.Of(0.9)}}
		j.Picks[0].Ends.Butt.SlackM, j.Picks[0].Ends.Tip = jobtest.Of(0.15), job.End{Rig: "r2", TieM: jobtest.Of(4), TightKn: jobtest.Of(1)}
		j.Site.Targets = []job.Target{besides("porch", 2, 0, 1, 3)}
	})
	set.put("swinging by wraps over two turns", jobtest.Swinging(), anchored, redirected, func(j *job.Job) {
		j.Rigs[0].Catch, j.Rigs[0].SlackM = job.Catch{How: job.ByWraps}, jobtest.Of(0.3)
		j.Rigs[0].AnchorStiffnessKnM, j.Rigs[0].EnergyLostPct = jobtest.Of(400), jobtest.Of(10)
		j.Rigs[0].Connector = &job.Connector{Name: "shackle", Rating: gear.Rating{BreakingKn: jobtest.Of(100)}}
		j.Rigs[0].Tie.Name, j.Rigs[0].Tie.Hitch, j.Rigs[0].Tie.MarkedKn = "tie sling", "basket", jobtest.Of(20)
	})
	set.put("from above, by hand", jobtest.Hung(0.5), func(j *job.Job) {
		j.Rigs[0].Device = job.Device{None: true}
		j.Rigs[0].Catch = job.Catch{How: job.ByWraps, HandKn: jobtest.Of(0.3)}
	})
	set.put("between two points, tagged", jobtest.Carried(), func(j *job.Job) {
		p := &j.Picks[0]
		tagOn(j, 0.15)
		p.Way, p.Ends, p.TieM = job.WayTwoPoints, nil, jobtest.Of(2.5)
		j.Rigs[0].Second = &job.SecondLine{Place: *j.Rigs[1].Block.Place}
	})

	set.put("lifted", jobtest.Lifted(), hindered)
	set.put("lifted round a crane", slewed(), leaning, manned)
	set.put("lifted in one sling over a roof", jobtest.Lifted(), leaning, func(j *job.Job) {
		j.Picks[0].Lift.Slings = j.Picks[0].Lift.Slings[1:]
		j.Site.Targets = []job.Target{besides("barn", 9, -8, 3, 12), besides("mast", 12, -12, 0.5, 24)}
		j.Trees[0].Limbs = jobtest.Whole().Trees[0].Limbs
	})

	set.put("felled", jobtest.Poled(), hindered, manned)
}

// felledAndBent are those from "felled by what there is" to "bent twice, felled".
func (set keptSet) felledAndBent() {
	set.put("felled by what there is", jobtest.Poled(), gusty, func(j *job.Job) {
		f := j.Picks[0].Fell
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "north oak", Kind: job.AnchorTree, At: job.Spot{X: -2, Y: 17}, HeightM: jobtest.Of(3), DiameterM: jobtest.Of(0.4)})
		f.Lines = append(f.Lines, job.FellLine{ID: "h", AtM: 9, Anchor: "n", Holds: true, PretensionKn: 2}, job.FellLine{ID: "l2", AtM: 10, Anchor: "e", By: job.EffortHands, People: intOf(3), Parts: intOf(5),
			Redirects: []job.Redirect{{Name: "turn", Place: job.Place{On: job.OnAnchor, Anchor: "e", AtM: 0.5}, Efficiency: jobtest.Of(0.9)}}})
		f.Push, f.Wedged, f.NicksM, f.StrapM, f.LeftM, f.UpsideDown = &job.FellPush{AtM: 4, LimitKn: jobtest.Of(8)}, true, jobtest.Of(0.03), jobtest.Of(0.05), jobtest.Of(0.06), true
		f.Beds = []job.Bed{{ID: "b1", OutM: 5}, {ID: "b2", OutM: 11, ThickM: jobtest.Of(0.4)}}
		f.Straps = []job.Strap{{ID: "s", AtM: 3}}
	})
	set.put("felled, leaning, bored", jobtest.Poled(), leaning, split, func(j *job.Job) {
		j.Picks[0].FallTowardsDeg, j.Picks[0].Fell.BoredM, j.Picks[0].Fell.OpeningDeg = jobtest.Of(85), jobtest.Of(0.3), jobtest.Of(45)
		j.Picks[0].Fell.Lines[0].PretensionKn, j.Picks[0].Fell.Lines[0].HaulMS = 3, jobtest.Of(0.3)
		system := haul.Simple(3, 0.9)
		j.Picks[0].Fell.Lines[0].System, j.Picks[0].Fell.Lines[0].Parts = &system, nil
	})
	set.put("felled against its lean, not pulled", jobtest.Poled(), func(j *job.Job) {
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(6), jobtest.Of(270)
		j.Picks[0].Fell = &job.Fell{Wedged: true}
	})
	set.put("felled with limbs, weighed", jobtest.Poled(), func(j *job.Job) {
		j.Trees[0].Limbs = jobtest.Whole().Trees[0].Limbs
		j.Picks = append([]job.Pick{{ID: "p0", What: job.WhatLimb, Limb: "a", Way: job.WayFree, Done: true, WeighedKg: jobtest.Of(70)}}, j.Picks...)
	})
	set.put("felled by a weight", hungLine(150), manned)
	set.put("felled by a light weight", hungLine(40), leaning)
	set.put("felled by a pull to the side", jobtest.Poled(), func(j *job.Job) {
		j.Picks[0].Fell.Lines[0].Mid = &job.FellMid{Kind: job.MidSide, SideKn: jobtest.Of(1.2)}
		j.Picks[0].Fell.Lines[0].PretensionKn = 4
	})
	set.put("felled, tied to its neighbour", tiedPoles(), hindered)

	set.put("of a density, girths guessed", jobtest.Whole(), func(j *job.Job) {
		j.Trees[0].Wood = wood.Wood{Density: &wood.Range{Low: 700, Likely: 800, High: 950}}
		j.Trees[0].Limbs[0].Guess, j.Trees[0].Limbs[2].Brush = true, job.BrushBare
		j.Trees[0].Attached = []timber.Lump{{MassKg: 30, AtM: 10}}
	})
	set.put("with nothing known", jobtest.Whole(), func(j *job.Job) {
		j.Rigs[0].Rope, j.Rigs[0].Block.MarkedKn, j.Rigs[0].Sling.MarkedKn, j.Rigs[0].Device.BreakingKn = nil, nil, nil, nil
	})
	set.put("bent twice", jobtest.Whole(), twice, anchored, manned, gusty)
	set.put("bent twice, the girths guessed, weighed", jobtest.Whole(), twice, func(j *job.Job) {
		for i := range j.Trees[0].Limbs {
			j.Trees[0].Limbs[i].Guess = i%2 == 0
		}
		for i := range j.Picks {
			if j.Picks[i].What == job.WhatLimb || i == 0 {
				j.Picks[i].WeighedKg, j.Picks[i].Done = jobtest.Of(40+31*float64(i)), i < 3
			}
		}
	})
	set.put("bent twice, lifted", slewed(), twice, func(j *job.Job) { jobtest.Boom(j, 25) })
	set.put("bent twice, felled", jobtest.Poled(), twice, manned, func(j *job.Job) {
		j.Trees[0].Limbs = jobtest.Whole().Trees[0].Limbs
		j.Picks[0].FallTowardsDeg = jobtest.Of(110)
		j.Picks[0].Fell.Beds = []job.Bed{{ID: "b", OutM: 3}, {ID: "c", OutM: 4, ThickM: jobtest.Of(0.3)}}
	})
}

// manyAtOnce are those from "felled, pulled hard over redirects from among people" to "between two points, tied at its balance".
func (set keptSet) manyAtOnce() {
	set.put("felled, pulled hard over redirects from among people", jobtest.Poled(), anchored, func(j *job.Job) {
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(5), jobtest.Of(262)
		turn := func(id string, at float64) job.Redirect {
			return job.Redirect{Name: "turn at " + id, Place: job.Place{On: job.OnAnchor, Anchor: id, AtM: at}, Efficiency: jobtest.Of(0.88), Rating: gear.Rating{MarkedKn: jobtest.Of(40)}}
		}
		j.Picks[0].Fell.Lines = []job.FellLine{
			{ID: "l1", AtM: 13, Anchor: "van", By: job.EffortVehicle, PretensionKn: 6, Redirects: []job.Redirect{turn("e", 0.5), turn("post", 0.4)}},
			{ID: "l2", AtM: 11, Anchor: "post", By: job.EffortHands, People: intOf(4), Parts: intOf(3), PretensionKn: 1.5},
			{ID: "h1", AtM: 10, Anchor: "oak", Holds: true, PretensionKn: 1}, {ID: "h2", AtM: 9, Anchor: "aside", Holds: true, PretensionKn: 2}}
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "aside", Name: "aside", Kind: job.AnchorGround, At: job.Spot{X: -3, Y: -16}})
		j.Site.Posts = []job.Post{{ID: "a", Role: "behind", At: job.Spot{X: -2.5, Y: 0.4}}, {ID: "b", Role: "by the line", At: job.Spot{X: -3.6, Y: -14.5}}, {ID: "c", Role: "by the oak", At: job.Spot{X: -10, Y: 6.4}}, {ID: "d", Role: "far back", At: job.Spot{X: -9, Y: -1}}}
		j.Picks[0].Fell.Beds = []job.Bed{{ID: "b", OutM: 14}, {ID: "c", OutM: 15}}
	})
	set.put("twins of a slow rope", jobtest.Hung(1), manned, func(j *job.Job) {
		for i := range 2 {
			j.Rigs[i].Rope.Elongation, j.Rigs[i].Rope.DynamicFactor = []gear.Stretch{{LoadPct: 10, StrainPct: 1.6}, {LoadPct: 30, StrainPct: 3.4}}, 1.4
			j.Rigs[i].Block.Efficiency = jobtest.Of(0.85)
		}
		j.Picks[0].Twin = &job.Twin{Rig: "r2", FasterM: jobtest.Of(0.35)}
	})
	set.put("stopped by a slow line among people", stopBy(), anchored, func(j *job.Job) {
		j.Rigs[0].Rope.DynamicFactor = 1.3
		j.Picks[0].Stop = &job.Stop{On: job.StopLine, Anchor: "m2", Rig: "r2"}
		j.Site.Posts = []job.Post{{ID: "a", Role: "bucket", At: job.Spot{X: 6.4, Y: 1}}, {ID: "b", Role: "ground lead", At: job.Spot{X: 3, Y: 8.5}}, {ID: "c", Role: "climber", At: job.Spot{X: 0.6, Y: 1.2}}}
	})
	set.put("on a limb of another tree", jobtest.Two(), anchored, func(j *job.Job) {
		j.Trees[1].Limbs = append(j.Trees[1].Limbs, job.Limb{ID: "arm", Name: "arm", AtM: 13, AzimuthDeg: 190, AngleDeg: 75, DiameterM: 0.22, LengthM: 3.5, Brush: job.BrushBare})
		j.Trees[1].Defects = []job.Defect{{ID: "u", Kind: job.DefectUnion, AtM: 0.1, Limb: "arm"}}
		j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Tree: "2", Limb: "arm", AtM: 2.4}
		j.Rigs[0].Redirects = []job.Redirect{{Name: "low turn", Place: job.Place{On: job.OnStem, Tree: "2", AtM: 1.3}, Efficiency: jobtest.Of(0.9)}}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "c", Way: job.WayFromAbove, Rig: "r1", CutM: jobtest.Of(1)}, {ID: "p2", What: job.WhatLimb, Limb: "a", Way: job.WaySwung, Rig: "r1", CutM: jobtest.Of(0.5)}}
	})
	set.put("between two points, tied at its balance", jobtest.Carried(), gusty, func(j *job.Job) {
		cog := tagOn(j, 0.3)
		p := &j.Picks[0]
		p.Way, p.Ends, p.TieM, p.CarryM = job.WayTwoPoints, nil, jobtest.Of(cog+0.02), jobtest.Of(9)
		j.Rigs[0].Second = &job.SecondLine{Place: *j.Rigs[1].Block.Place}
		j.Trees[0].Limbs[0].AngleDeg, j.Trees[0].Limbs[0].DiameterM = 75, 0.16
	})
}

func (set keptSet) written(t *testing.T) {
	t.Helper()
	paths, _ := filepath.Glob("../frozen/testdata/jobs/[012]*.json")
	if len(paths) < 20 {
		t.Fatalf("%d written jobs are found", len(paths))
	}
	for _, path := range paths {
		var one struct {
			Job json.RawMessage `json:"job"`
		}
		data, err := os.ReadFile(path)
		if err == nil {
			err = json.Unmarshal(data, &one)
		}
		if err != nil {
			t.Fatal(path, err)
		}
		if j, err := job.ReadJob(one.Job); err == nil {
			set[strings.TrimSuffix(filepath.Base(path), ".json")] = j
		}
	}
}

// leaning: of a kept job: its stem leans.
func leaning(j *job.Job) {
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(11), jobtest.Of(60)
}

// gusty: it stands on a slope in gusts.
func gusty(j *job.Job) {
	j.Site.GustMS, j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = jobtest.Of(12), jobtest.Of(14), jobtest.Of(200)
}

// hindered: wires, walls and a road are round it.
func hindered(j *job.Job) {
	j.Site.Targets = append(j.Site.Targets,
		job.Target{ID: "wire", Name: "service wire", Kind: "power-line", Outline: []job.Spot{{X: -20, Y: 7}, {X: 20, Y: 8}}, FromM: 6.5, ToM: 7, VoltageKv: jobtest.Of(0.4)},
		job.Target{ID: "line", Name: "street line", Kind: "power-line", Outline: []job.Spot{{X: 16, Y: -20}, {X: 17, Y: 20}}, FromM: 9, ToM: 10},
		job.Target{ID: "wall", Name: "garden wall", Kind: "building", Outline: []job.Spot{{X: -9, Y: -6}, {X: 9, Y: -7}, {X: 9, Y: -7.4}, {X: -9, Y: -6.4}}, ToM: 1.8},
		job.Target{ID: "porch", Name: "porch", Kind: "building", Box: &job.Box{Min: job.Spot{X: 2, Y: 1.5}, Max: job.Spot{X: 5, Y: 4}}, ToM: 2.6})
	j.Site.Sectors = []job.Sector{{ID: "s", Name: "road", FromDeg: 300, ToDeg: 20}}
}

// manned: people stand by it.
func manned(j *job.Job) {
	j.Site.Posts = []job.Post{{ID: "o1", Role: "ground", At: job.Spot{X: 3, Y: -2}}, {ID: "o2", Role: "far", At: job.Spot{X: -16, Y: 3}}}
	j.Site.Escapes = []job.Escape{{ID: "e", Name: "behind", Outline: []job.Spot{{X: -1.5, Y: 1}, {X: -6, Y: 5}}}}
}

// split: its stem decays, is cracked and has a branch hung up.
func split(j *job.Job) {
	j.Trees[0].Defects = append(j.Trees[0].Defects,
		job.Defect{ID: "r", Kind: job.DefectDecay, AtM: 4, ToM: jobtest.Of(6)}, job.Defect{ID: "k", Kind: job.DefectCrack, AtM: 9, ToM: jobtest.Of(9.6)},
		job.Defect{ID: "h", Kind: job.DefectHung, AtM: 12, MassKg: jobtest.Of(25)})
}

// forked: two of its limbs are weak.
func forked(j *job.Job) {
	j.Trees[0].Defects = append(j.Trees[0].Defects, job.Defect{ID: "u", Kind: job.DefectUnion, AtM: 0.1, Limb: "a"}, job.Defect{ID: "v", Kind: job.DefectDead, AtM: 0.5, ToM: jobtest.Of(3), Limb: "c"})
}

// anchored: there is more to hold to.
func anchored(j *job.Job) {
	j.Site.Anchors = append(j.Site.Anchors,
		job.Anchor{ID: "post", Name: "post", Kind: job.AnchorGround, At: job.Spot{X: 9, Y: 5}, Rating: gear.Rating{MarkedKn: jobtest.Of(12)}},
		job.Anchor{ID: "oak", Name: "field oak", Kind: job.AnchorTree, At: job.Spot{X: -11, Y: 6}, HeightM: jobtest.Of(9), DiameterM: jobtest.Of(0.55)},
		job.Anchor{ID: "van", Name: "van", Kind: job.AnchorVehicle, At: job.Spot{X: 4, Y: 14}, MassKg: jobtest.Of(2100)})
}

// weighed: its first pieces were weighed.
func weighed(j *job.Job) {
	last := len(j.Picks) - 1
	j.Picks[0].WeighedKg, j.Picks[0].Done = jobtest.Of(64), true
	if last > 1 {
		j.Picks[1].WeighedKg, j.Picks[1].Done = jobtest.Of(131), true
	}
}

// redirected: its line goes over two turns.
func redirected(j *job.Job) {
	j.Rigs[0].Redirects = []job.Redirect{{Name: "low pulley", Place: job.Place{On: job.OnStem, AtM: 1.4}, Efficiency: jobtest.Of(0.92), Rating: gear.Rating{MarkedKn: jobtest.Of(22)}}, {Name: "fork", Place: job.Place{On: job.OnAnchor, Anchor: "post", AtM: 0.4}, Friction: jobtest.Of(0.25)}}
}

// twice: its stem is bent twice.
func twice(j *job.Job) {
	r := j.Trees[0].Readings
	j.Trees[0].Readings = append([]job.Reading{{AtM: 0.4, Tape: job.Girth, TapeM: math.Pi * 0.85}}, r[len(r)-1],
		job.Reading{AtM: 9, Tape: job.Diameter, TapeM: 0.5, Offset: &job.Offset{OffM: 0.6, TowardsDeg: 40}}, job.Reading{AtM: 14, Tape: job.Diameter, TapeM: 0.34, Offset: &job.Offset{OffM: 1.1, TowardsDeg: 310}})
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = nil, nil
	j.Trees[0].At = &job.Spot{X: 1.5, Y: -0.7}
}
