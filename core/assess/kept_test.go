package assess

import (
	"context"
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"elkstay/core/frozen/kept"
	"elkstay/core/gear"
	"elkstay/core/haul"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// everything is all that the package says of a job: its order, every pick's ladder with its sums, where its pieces lie,
// what its ropes and anchors take, and its fellings to eight bearings.
func everything(t *testing.T, given *job.Job, system units.System) map[string]any {
	t.Helper()
	text := written(t, given)
	j, options := remembering(t, text, system)
	said := map[string]any{"order": Assess(j, options)}
	if len(said["order"].(Assessment).Faults) > 0 {
		return said
	}
	for _, p := range j.Picks {
		options.Pick = p.ID
		said["pick "+p.ID] = Assess(j, options)
	}
	for _, p := range j.Picks[:min(2, len(j.Picks))] {
		trace, err := Simulate(context.Background(), j, p.ID, 0, Options{Units: system})
		said["followed "+p.ID] = []any{trace, fmt.Sprint(err)}
	}
	forest, first := Prepare(j, &Options{Units: system})
	if forest == nil || len(first.Missing) > 0 {
		return said
	}
	pieces, filled := forest.Lie(&Options{Units: system})
	said["lies"], said["zones"] = pieces, filled
	for _, r := range append([]job.Rig{{}}, j.Rigs...) {
		use, words, long := forest.RopeUnder(r.ID, 2.5)
		said["rope "+r.ID] = []any{use, words, long}
	}
	for _, a := range append([]job.Anchor{{}}, j.Site.Anchors...) {
		use, words := forest.AnchorUnder(a.ID, 2.5)
		said["anchor "+a.ID] = []any{use, words}
	}
	for i := range j.Picks {
		if j.Picks[i].Way != job.WayFelled {
			continue
		}
		for deg := 0.0; deg < 360; deg += 45 {
			v, p := forest.Of(&j.Picks[i]), j.Picks[i]
			p.FallTowardsDeg = &deg
			now := v.Now(forest.Whole())
			o := v.FellTo(&p, i+1, now, true)
			lies, ok := o.Lies()
			said[fmt.Sprintf("%s to %g", p.ID, deg)] = []any{lies, ok, v.Pulled(v.FellTo(&p, i+1, now, false), lies)}
		}
	}
	return said
}

// written is a job as a document: nothing is none.
func written(t *testing.T, given *job.Job) []byte {
	t.Helper()
	for i := range given.Trees {
		tree := &given.Trees[i]
		tree.Limbs, tree.Defects = append([]job.Limb{}, tree.Limbs...), append([]job.Defect{}, tree.Defects...)
	}
	text, err := json.Marshal(given)
	if err != nil {
		t.Fatal(err)
	}
	return text
}

// remembering reads a job by a memory of its own, so that each of its picks is worked out once for all that is asked.
func remembering(t *testing.T, text []byte, system units.System) (*job.Job, Options) {
	t.Helper()
	var m Memory
	j, err := m.Read(text, string(system))
	if err != nil {
		t.Fatal(err)
	}
	return &j, Options{Units: system, Memory: &m}
}

// keptJobs are invented jobs, small ones, that between them have every way down and every thing that steadies, holds,
// weakens or hinders one.
func keptJobs(t *testing.T) map[string]job.Job {
	t.Helper()
	of, whole := jobtest.Of, jobtest.Whole
	jobs := map[string]job.Job{}
	put := func(name string, j job.Job, changes ...func(*job.Job)) {
		for _, change := range changes {
			change(&j)
		}
		jobs[name] = j
	}
	leaning := func(j *job.Job) { j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = of(11), of(60) }
	gusty := func(j *job.Job) { j.Site.GustMS, j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = of(12), of(14), of(200) }
	hindered := func(j *job.Job) {
		j.Site.Targets = append(j.Site.Targets,
			job.Target{ID: "wire", Name: "service wire", Kind: "power-line", Outline: []job.Spot{{X: -20, Y: 7}, {X: 20, Y: 8}}, FromM: 6.5, ToM: 7, VoltageKv: of(0.4)},
			job.Target{ID: "line", Name: "street line", Kind: "power-line", Outline: []job.Spot{{X: 16, Y: -20}, {X: 17, Y: 20}}, FromM: 9, ToM: 10},
			job.Target{ID: "wall", Name: "garden wall", Kind: "building", Outline: []job.Spot{{X: -9, Y: -6}, {X: 9, Y: -7}, {X: 9, Y: -7.4}, {X: -9, Y: -6.4}}, ToM: 1.8},
			job.Target{ID: "porch", Name: "porch", Kind: "building", Box: &job.Box{Min: job.Spot{X: 2, Y: 1.5}, Max: job.Spot{X: 5, Y: 4}}, ToM: 2.6})
		j.Site.Sectors = []job.Sector{{ID: "s", Name: "road", FromDeg: 300, ToDeg: 20}}
	}
	manned := func(j *job.Job) {
		j.Site.Posts = []job.Post{{ID: "o1", Role: "ground", At: job.Spot{X: 3, Y: -2}}, {ID: "o2", Role: "far", At: job.Spot{X: -16, Y: 3}}}
		j.Site.Escapes = []job.Escape{{ID: "e", Name: "behind", Outline: []job.Spot{{X: -1.5, Y: 1}, {X: -6, Y: 5}}}}
	}
	split := func(j *job.Job) {
		j.Trees[0].Defects = append(j.Trees[0].Defects,
			job.Defect{ID: "r", Kind: job.DefectDecay, AtM: 4, ToM: of(6)}, job.Defect{ID: "k", Kind: job.DefectCrack, AtM: 9, ToM: of(9.6)},
			job.Defect{ID: "h", Kind: job.DefectHung, AtM: 12, MassKg: of(25)})
	}
	forked := func(j *job.Job) {
		j.Trees[0].Defects = append(j.Trees[0].Defects, job.Defect{ID: "u", Kind: job.DefectUnion, AtM: 0.1, Limb: "a"}, job.Defect{ID: "v", Kind: job.DefectDead, AtM: 0.5, ToM: of(3), Limb: "c"})
	}
	anchored := func(j *job.Job) {
		j.Site.Anchors = append(j.Site.Anchors,
			job.Anchor{ID: "post", Name: "post", Kind: job.AnchorGround, At: job.Spot{X: 9, Y: 5}, Rating: gear.Rating{MarkedKn: of(12)}},
			job.Anchor{ID: "oak", Name: "field oak", Kind: job.AnchorTree, At: job.Spot{X: -11, Y: 6}, HeightM: of(9), DiameterM: of(0.55)},
			job.Anchor{ID: "van", Name: "van", Kind: job.AnchorVehicle, At: job.Spot{X: 4, Y: 14}, MassKg: of(2100)})
	}
	weighed := func(j *job.Job) {
		last := len(j.Picks) - 1
		j.Picks[0].WeighedKg, j.Picks[0].Done = of(64), true
		if last > 1 {
			j.Picks[1].WeighedKg, j.Picks[1].Done = of(131), true
		}
	}
	redirected := func(j *job.Job) {
		j.Rigs[0].Redirects = []job.Redirect{{Name: "low pulley", Place: job.Place{On: job.OnStem, AtM: 1.4}, Efficiency: of(0.92), Rating: gear.Rating{MarkedKn: of(22)}}, {Name: "fork", Place: job.Place{On: job.OnAnchor, Anchor: "post", AtM: 0.4}, Friction: of(0.25)}}
	}

	put("whole", whole(), anchored, hindered, manned)
	put("whole, weighed and leaning", whole(), leaning, weighed, anchored)
	put("whole, weak wood in a gust", whole(), split, forked, gusty, anchored)
	put("whole, over turns", whole(), anchored, redirected, func(j *job.Job) {
		j.Rigs[0].Block.Friction, j.Rigs[0].Block.Turns, j.Rigs[0].Block.Efficiency = of(0.2), of(1), nil
		j.Rigs[0].Catch = job.Catch{How: job.ByHold, HoldKn: of(6)}
	})
	put("whole, caught by a run", whole(), split, func(j *job.Job) {
		j.Rigs[0].Catch, j.Rigs[0].SlackM = job.Catch{How: job.ByRun, RunM: of(1.5)}, of(0.7)
		j.Limits.RunM, j.Limits.PieceKg = of(1), of(120)
	})
	put("whole, locked", whole(), func(j *job.Job) { j.Rigs[0].Catch, j.Rigs[0].SlackM = job.Catch{How: job.Locked}, of(0.5) })
	put("whole, thrown and snapped", whole(), hindered, func(j *job.Job) {
		for i := range j.Picks {
			j.Picks[i].Way, j.Picks[i].Rig, j.Picks[i].FallTowardsDeg = job.WayThrown, "", of(80*float64(i))
		}
		j.Picks[3].CutM, j.Picks[3].Way = of(17.2), job.WayFree
	})
	put("two trees", jobtest.Two(), anchored, hindered, func(j *job.Job) {
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "c", Way: job.WayFromAbove, Rig: "r1", CutM: of(1)},
			{ID: "p2", Tree: "2", What: job.WhatTop, CutM: of(9), Way: job.WayFree, FallTowardsDeg: of(200)}, {ID: "p3", What: job.WhatStem, CutM: of(14), Way: job.WayPastBlock, Rig: "r1"},
			{ID: "p4", What: job.WhatStem, CutM: of(5), Way: job.WayFelled, FallTowardsDeg: of(120)}}
	})
	put("bent", bent(), anchored, gusty)
	put("bent, felled", bent(), anchored, func(j *job.Job) {
		j.Trees[0].Wood = wood.Wood{Species: "white-ash"}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: of(0.5), Way: job.WayFelled, FallTowardsDeg: of(70), Fell: &job.Fell{Wedged: true, Lines: []job.FellLine{{ID: "l", AtM: 8, Anchor: "van", By: job.EffortVehicle}}}}}
	})

	put("swinging", jobtest.Swinging(), anchored, hindered)
	put("swinging off a limb", jobtest.Swinging(), split, func(j *job.Job) {
		j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "d", AtM: 0.8}
		j.Rigs[0].Tie.Knot = ""
	})
	put("swinging with a tag line", jobtest.Swinging(), anchored, func(j *job.Job) {
		j.Picks[0].Tag = &job.Tag{Anchor: "post", PullKn: of(0.25)}
	})
	for by, on := range map[string]job.Stop{"a stem": {On: job.StopStem, Tree: "2"}, "a line": {On: job.StopLine, Anchor: "m2"}, "a line of 9 m": {On: job.StopLine, Anchor: "m2", LineM: of(9)}} {
		put("stopped by "+by, stopBy(), func(j *job.Job) { j.Picks[0].Stop = &on })
	}
	put("stopped by a limb", stopBy(), func(j *job.Job) {
		j.Trees[1].Limbs = []job.Limb{{ID: "x", Name: "arm", AtM: 7, AzimuthDeg: 180, AngleDeg: 88, DiameterM: 0.14, LengthM: 3, Brush: job.BrushBare}}
		j.Picks[0].Stop = &job.Stop{On: job.StopLimb, Tree: "2", Limb: "x"}
	})
	put("twins", jobtest.Hung(0), func(j *job.Job) { j.Picks[0].Twin = &job.Twin{FasterM: of(0.2)} })
	put("twins, tagged and run", jobtest.Hung(2), func(j *job.Job) {
		j.Picks[0].Twin = &job.Twin{Rig: "r2"}
		j.Rigs[0].Catch, j.Rigs[1].Catch = job.Catch{How: job.ByWraps}, job.Catch{How: job.ByWraps}
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "lawn", Name: "lawn", Kind: job.AnchorGround, At: job.Spot{X: -8, Y: -12}})
		j.Picks[0].Tag = &job.Tag{Anchor: "lawn"}
	})
	put("from above, aside", jobtest.Hung(1.5), hindered)

	put("held at both ends", jobtest.Carried(), hindered)
	put("held at both ends, tagged and stepped", jobtest.Carried(), func(j *job.Job) {
		tagOn(j, 0.2)
		j.Picks[0].Ends.Program = []job.EndStep{{Line: job.EndButt, ByM: 2}, {Line: job.EndBoth, ByM: 2}, {Line: job.EndTip, ByM: -0.5}}
		j.Picks[0].Ends.FaceDeg, j.Picks[0].Ends.Tip.SlackM = of(35), of(0.3)
	})
	put("held at both ends, by wraps from one mast", jobtest.Carried(), gusty, func(j *job.Job) {
		j.Rigs[0].Catch, j.Rigs[1].Catch = job.Catch{How: job.ByWraps}, job.Catch{How: job.ByWraps}
		j.Site.Anchors[1].At = job.Spot{X: 1.2, Y: 0.6}
		j.Trees[0].Limbs[0].AngleDeg, j.Trees[0].Limbs[0].DroopDeg, j.Trees[0].Limbs[0].Brush = 60, 10, ""
	})
	put("held at both ends, out of their plane", jobtest.Carried(), leaning, func(j *job.Job) {
		tagOn(j, 0.3)
		j.Site.Anchors[0].At, j.Site.Anchors[1].At = job.Spot{X: 0.2, Y: 2.4}, job.Spot{X: 5.6, Y: -3.1}
		j.Rigs[0].Catch, j.Rigs[1].Catch = job.Catch{How: job.ByHold, HoldKn: of(5)}, job.Catch{How: job.ByWraps}
		j.Rigs[0].Block.Efficiency, j.Rigs[1].Block.Efficiency, j.Rigs[1].AnchorStiffnessKnM = of(0.8), of(0.93), of(300)
		j.Picks[0].Ends.Butt.SlackM, j.Picks[0].Ends.Tip.TightKn, j.Picks[0].Ends.FaceDeg = of(0.25), of(0.4), of(40)
		j.Trees[0].Limbs[0].DroopDeg, j.Trees[0].Limbs[0].Brush = 14, ""
		j.Site.Targets = []job.Target{besides("porch", 4, -4, 1, 3)}
	})
	put("between limbs of its own", whole(), leaning, split, forked, func(j *job.Job) {
		j.Trees[0].Limbs = append(j.Trees[0].Limbs, job.Limb{ID: "e", Name: "arm", AtM: 14, AzimuthDeg: 200, AngleDeg: 60, DiameterM: 0.2, LengthM: 5, DroopDeg: 20})
		j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "c", AtM: 1.6}
		j.Rigs[0].Second = &job.SecondLine{Place: job.Place{On: job.OnLimb, Limb: "e", AtM: 2.2}, Rating: gear.Rating{MarkedKn: of(9)}}
		j.Rigs[0].Redirects = []job.Redirect{{Name: "fork", Place: job.Place{On: job.OnLimb, Limb: "d", AtM: 0.4}, Friction: of(0.3)}}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "b", Way: job.WaySwung, Rig: "r1", TieM: of(1)}, {ID: "p2", What: job.WhatLimb, Limb: "a", Way: job.WayTwoPoints, Rig: "r1", CarryM: of(6)}}
	})
	put("between two points", jobtest.Carried(), hindered, func(j *job.Job) {
		p := &j.Picks[0]
		p.Way, p.Ends, p.TieM = job.WayTwoPoints, nil, of(2.5)
		j.Rigs[0].Second = &job.SecondLine{Place: *j.Rigs[1].Block.Place}
	})
	put("between two points of what holds", jobtest.Carried(), leaning, func(j *job.Job) {
		p := &j.Picks[0]
		p.Way, p.Ends, p.TieM, p.CarryM = job.WayTwoPoints, nil, of(2.9), of(7)
		j.Site.Anchors[0].MarkedKn, j.Site.Anchors[1] = of(15), job.Anchor{ID: "m2", Name: "oak", Kind: job.AnchorTree, At: job.Spot{X: 13, Y: 2}, HeightM: of(15), DiameterM: of(0.7)}
		j.Rigs[0].Second = &job.SecondLine{Place: job.Place{On: job.OnAnchor, Anchor: "m2", AtM: 13}, Rating: gear.Rating{MarkedKn: of(10)}}
		j.Limits.PieceKg = of(150)
	})
	put("held at both ends, of what holds", jobtest.Carried(), anchored, func(j *job.Job) {
		for i := range 2 {
			j.Site.Anchors[i].Kind, j.Site.Anchors[i].DiameterM = job.AnchorTree, of(0.6)
		}
		j.Rigs[1].Redirects = []job.Redirect{{Name: "turn", Place: job.Place{On: job.OnAnchor, Anchor: "post", AtM: 0.4}, Efficiency: of(0.9)}}
		j.Picks[0].Ends.Butt.SlackM, j.Picks[0].Ends.Tip = of(0.15), job.End{Rig: "r2", TieM: of(4), TightKn: of(1)}
		j.Site.Targets = []job.Target{besides("porch", 2, 0, 1, 3)}
	})
	put("swinging by wraps over two turns", jobtest.Swinging(), anchored, redirected, func(j *job.Job) {
		j.Rigs[0].Catch, j.Rigs[0].SlackM = job.Catch{How: job.ByWraps}, of(0.3)
		j.Rigs[0].AnchorStiffnessKnM, j.Rigs[0].EnergyLostPct = of(400), of(10)
		j.Rigs[0].Connector = &job.Connector{Name: "shackle", Rating: gear.Rating{BreakingKn: of(100)}}
		j.Rigs[0].Tie.Name, j.Rigs[0].Tie.Hitch, j.Rigs[0].Tie.MarkedKn = "tie sling", "basket", of(20)
	})
	put("from above, by hand", jobtest.Hung(0.5), func(j *job.Job) {
		j.Rigs[0].Device = job.Device{None: true}
		j.Rigs[0].Catch = job.Catch{How: job.ByWraps, HandKn: of(0.3)}
	})
	put("between two points, tagged", jobtest.Carried(), func(j *job.Job) {
		p := &j.Picks[0]
		tagOn(j, 0.15)
		p.Way, p.Ends, p.TieM = job.WayTwoPoints, nil, of(2.5)
		j.Rigs[0].Second = &job.SecondLine{Place: *j.Rigs[1].Block.Place}
	})

	put("lifted", jobtest.Lifted(), hindered)
	put("lifted round a crane", slewed(), leaning, manned)
	put("lifted in one sling over a roof", jobtest.Lifted(), leaning, func(j *job.Job) {
		j.Picks[0].Lift.Slings = j.Picks[0].Lift.Slings[1:]
		j.Site.Targets = []job.Target{besides("barn", 9, -8, 3, 12), besides("mast", 12, -12, 0.5, 24)}
		j.Trees[0].Limbs = whole().Trees[0].Limbs
	})

	put("felled", jobtest.Poled(), hindered, manned)
	put("felled by what there is", jobtest.Poled(), gusty, func(j *job.Job) {
		f := j.Picks[0].Fell
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "north oak", Kind: job.AnchorTree, At: job.Spot{X: -2, Y: 17}, HeightM: of(3), DiameterM: of(0.4)})
		f.Lines = append(f.Lines, job.FellLine{ID: "h", AtM: 9, Anchor: "n", Holds: true, PretensionKn: 2}, job.FellLine{ID: "l2", AtM: 10, Anchor: "e", By: job.EffortHands, People: intOf(3), Parts: intOf(5),
			Redirects: []job.Redirect{{Name: "turn", Place: job.Place{On: job.OnAnchor, Anchor: "e", AtM: 0.5}, Efficiency: of(0.9)}}})
		f.Push, f.Wedged, f.NicksM, f.StrapM, f.LeftM, f.UpsideDown = &job.FellPush{AtM: 4, LimitKn: of(8)}, true, of(0.03), of(0.05), of(0.06), true
		f.Beds = []job.Bed{{ID: "b1", OutM: 5}, {ID: "b2", OutM: 11, ThickM: of(0.4)}}
		f.Straps = []job.Strap{{ID: "s", AtM: 3}}
	})
	put("felled, leaning, bored", jobtest.Poled(), leaning, split, func(j *job.Job) {
		j.Picks[0].FallTowardsDeg, j.Picks[0].Fell.BoredM, j.Picks[0].Fell.OpeningDeg = of(85), of(0.3), of(45)
		j.Picks[0].Fell.Lines[0].PretensionKn, j.Picks[0].Fell.Lines[0].HaulMS = 3, of(0.3)
		system := haul.Simple(3, 0.9)
		j.Picks[0].Fell.Lines[0].System, j.Picks[0].Fell.Lines[0].Parts = &system, nil
	})
	put("felled against its lean, not pulled", jobtest.Poled(), func(j *job.Job) {
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = of(6), of(270)
		j.Picks[0].Fell = &job.Fell{Wedged: true}
	})
	put("felled with limbs, weighed", jobtest.Poled(), func(j *job.Job) {
		j.Trees[0].Limbs = whole().Trees[0].Limbs
		j.Picks = append([]job.Pick{{ID: "p0", What: job.WhatLimb, Limb: "a", Way: job.WayFree, Done: true, WeighedKg: of(70)}}, j.Picks...)
	})
	put("felled by a weight", hungLine(150), manned)
	put("felled by a light weight", hungLine(40), leaning)
	put("felled by a pull to the side", jobtest.Poled(), func(j *job.Job) {
		j.Picks[0].Fell.Lines[0].Mid = &job.FellMid{Kind: job.MidSide, SideKn: of(1.2)}
		j.Picks[0].Fell.Lines[0].PretensionKn = 4
	})
	put("felled, tied to its neighbour", tiedPoles(), hindered)

	put("of a density, girths guessed", whole(), func(j *job.Job) {
		j.Trees[0].Wood = wood.Wood{Density: &wood.Range{Low: 700, Likely: 800, High: 950}}
		j.Trees[0].Limbs[0].Guess, j.Trees[0].Limbs[2].Brush = true, job.BrushBare
		j.Trees[0].Attached = []timber.Lump{{MassKg: 30, AtM: 10}}
	})
	put("with nothing known", whole(), func(j *job.Job) {
		j.Rigs[0].Rope, j.Rigs[0].Block.MarkedKn, j.Rigs[0].Sling.MarkedKn, j.Rigs[0].Device.BreakingKn = nil, nil, nil, nil
	})
	twice := func(j *job.Job) {
		r := j.Trees[0].Readings
		j.Trees[0].Readings = append([]job.Reading{{AtM: 0.4, Tape: job.Girth, TapeM: math.Pi * 0.85}}, r[len(r)-1],
			job.Reading{AtM: 9, Tape: job.Diameter, TapeM: 0.5, Offset: &job.Offset{OffM: 0.6, TowardsDeg: 40}}, job.Reading{AtM: 14, Tape: job.Diameter, TapeM: 0.34, Offset: &job.Offset{OffM: 1.1, TowardsDeg: 310}})
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = nil, nil
		j.Trees[0].At = &job.Spot{X: 1.5, Y: -0.7}
	}
	put("bent twice", whole(), twice, anchored, manned, gusty)
	put("bent twice, the girths guessed, weighed", whole(), twice, func(j *job.Job) {
		for i := range j.Trees[0].Limbs {
			j.Trees[0].Limbs[i].Guess = i%2 == 0
		}
		for i := range j.Picks {
			if j.Picks[i].What == job.WhatLimb || i == 0 {
				j.Picks[i].WeighedKg, j.Picks[i].Done = of(40+31*float64(i)), i < 3
			}
		}
	})
	put("bent twice, lifted", slewed(), twice, func(j *job.Job) { j.Site.Cranes[0].BoomM, j.Site.Cranes[0].Chart[0].BoomM = 25, 25 })
	put("bent twice, felled", jobtest.Poled(), twice, manned, func(j *job.Job) {
		j.Trees[0].Limbs = whole().Trees[0].Limbs
		j.Picks[0].FallTowardsDeg = of(110)
		j.Picks[0].Fell.Beds = []job.Bed{{ID: "b", OutM: 3}, {ID: "c", OutM: 4, ThickM: of(0.3)}}
	})
	put("felled, pulled hard over redirects from among people", jobtest.Poled(), anchored, func(j *job.Job) {
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = of(5), of(262)
		turn := func(id string, at float64) job.Redirect {
			return job.Redirect{Name: "turn at " + id, Place: job.Place{On: job.OnAnchor, Anchor: id, AtM: at}, Efficiency: of(0.88), Rating: gear.Rating{MarkedKn: of(40)}}
		}
		j.Picks[0].Fell.Lines = []job.FellLine{
			{ID: "l1", AtM: 13, Anchor: "van", By: job.EffortVehicle, PretensionKn: 6, Redirects: []job.Redirect{turn("e", 0.5), turn("post", 0.4)}},
			{ID: "l2", AtM: 11, Anchor: "post", By: job.EffortHands, People: intOf(4), Parts: intOf(3), PretensionKn: 1.5},
			{ID: "h1", AtM: 10, Anchor: "oak", Holds: true, PretensionKn: 1}, {ID: "h2", AtM: 9, Anchor: "aside", Holds: true, PretensionKn: 2}}
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "aside", Name: "aside", Kind: job.AnchorGround, At: job.Spot{X: -3, Y: -16}})
		j.Site.Posts = []job.Post{{ID: "a", Role: "behind", At: job.Spot{X: -2.5, Y: 0.4}}, {ID: "b", Role: "by the line", At: job.Spot{X: -3.6, Y: -14.5}}, {ID: "c", Role: "by the oak", At: job.Spot{X: -10, Y: 6.4}}, {ID: "d", Role: "far back", At: job.Spot{X: -9, Y: -1}}}
		j.Picks[0].Fell.Beds = []job.Bed{{ID: "b", OutM: 14}, {ID: "c", OutM: 15}}
	})
	put("twins of a slow rope", jobtest.Hung(1), manned, func(j *job.Job) {
		for i := range 2 {
			j.Rigs[i].Rope.Elongation, j.Rigs[i].Rope.DynamicFactor = []gear.Stretch{{LoadPct: 10, StrainPct: 1.6}, {LoadPct: 30, StrainPct: 3.4}}, 1.4
			j.Rigs[i].Block.Efficiency = of(0.85)
		}
		j.Picks[0].Twin = &job.Twin{Rig: "r2", FasterM: of(0.35)}
	})
	put("stopped by a slow line among people", stopBy(), anchored, func(j *job.Job) {
		j.Rigs[0].Rope.DynamicFactor = 1.3
		j.Picks[0].Stop = &job.Stop{On: job.StopLine, Anchor: "m2", Rig: "r2"}
		j.Site.Posts = []job.Post{{ID: "a", Role: "bucket", At: job.Spot{X: 6.4, Y: 1}}, {ID: "b", Role: "ground lead", At: job.Spot{X: 3, Y: 8.5}}, {ID: "c", Role: "climber", At: job.Spot{X: 0.6, Y: 1.2}}}
	})
	put("on a limb of another tree", jobtest.Two(), anchored, func(j *job.Job) {
		j.Trees[1].Limbs = append(j.Trees[1].Limbs, job.Limb{ID: "arm", Name: "arm", AtM: 13, AzimuthDeg: 190, AngleDeg: 75, DiameterM: 0.22, LengthM: 3.5, Brush: job.BrushBare})
		j.Trees[1].Defects = []job.Defect{{ID: "u", Kind: job.DefectUnion, AtM: 0.1, Limb: "arm"}}
		j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Tree: "2", Limb: "arm", AtM: 2.4}
		j.Rigs[0].Redirects = []job.Redirect{{Name: "low turn", Place: job.Place{On: job.OnStem, Tree: "2", AtM: 1.3}, Efficiency: of(0.9)}}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "c", Way: job.WayFromAbove, Rig: "r1", CutM: of(1)}, {ID: "p2", What: job.WhatLimb, Limb: "a", Way: job.WaySwung, Rig: "r1", CutM: of(0.5)}}
	})
	put("between two points, tied at its balance", jobtest.Carried(), gusty, func(j *job.Job) {
		cog := tagOn(j, 0.3)
		p := &j.Picks[0]
		p.Way, p.Ends, p.TieM, p.CarryM = job.WayTwoPoints, nil, of(cog+0.02), of(9)
		j.Rigs[0].Second = &job.SecondLine{Place: *j.Rigs[1].Block.Place}
		j.Trees[0].Limbs[0].AngleDeg, j.Trees[0].Limbs[0].DiameterM = 75, 0.16
	})
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
			jobs[strings.TrimSuffix(filepath.Base(path), ".json")] = j
		}
	}
	return jobs
}

// What is said of these jobs is what was said of them: a change that moves a figure, a word or a place of a drawing shows
// which. Whether they were right is not told here.
func TestJobsSayWhatTheySaid(t *testing.T) {
	for name, j := range keptJobs(t) {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			system := units.Metric
			if strings.Contains(name, "US") || strings.Contains(name, "gust") {
				system = units.US
			}
			kept.Hold(t, "testdata/kept/"+strings.NewReplacer(" ", "-", ",", "").Replace(name)+".json.gz", everything(t, &j, system))
		})
	}
}
