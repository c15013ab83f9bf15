package jobtest

import (
	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/job"
)

// Poled is the invented stem as a bare pole, to be felled to the east at half a metre, with a
// stump to pull from 25 m out, and room to lie.
func Poled() job.Job {
	j := Stem()
	j.Trees[0].Readings[0].AtM, j.Trees[0].Readings[0].CavityM = 0.3, 0
	j.Site.Anchors = []job.Anchor{{ID: "e", Name: "old stump", Kind: job.AnchorGround, At: job.Spot{X: 25}, Rating: gear.Rating{MarkedKn: Of(30)}}, {ID: "w", Name: "behind", Kind: job.AnchorGround, At: job.Spot{X: -20}}}
	j.Site.Zones = []job.Zone{{ID: "z", Name: "meadow", Outline: []job.Spot{{X: -4, Y: -9}, {X: 30, Y: -9}, {X: 30, Y: 9}, {X: -4, Y: 9}}}}
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: Of(0.5), Way: job.WayFelled, FallTowardsDeg: Of(90),
		Fell: &job.Fell{Lines: []job.FellLine{{ID: "l1", AtM: 12, Anchor: "e", Parts: new(3), EffortKn: Of(2)}}}}}
	return j
}

// Hung is a level limb 6 m long at 9 m, tied at 3 m on one locked line of a straight rope from a mast 3 m
// east and so far north.
func Hung(y float64) job.Job {
	j := Carried()
	j.Rigs[0].Rope.Elongation = []gear.Stretch{{LoadPct: 100, StrainPct: 10}}
	j.Rigs[0].Rope.DynamicFactor = 0
	j.Rigs[0].Block.Efficiency, j.Rigs[0].SlackM = Of(1), Of(0.2)
	j.Site.Anchors[0].At = job.Spot{X: 3, Y: y}
	p := &j.Picks[0]
	p.Way, p.Ends, p.TieM = job.WayFromAbove, nil, Of(3)
	return j
}

// Swinging is a limb tied near its tip under a block well to its side, let swing.
func Swinging() job.Job {
	j := Whole()
	j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 13.2}
	j.Rigs[0].SlackM = Of(0)
	j.Picks = []job.Pick{{ID: "p", What: job.WhatLimb, Limb: "c", CutM: Of(0.3), Way: job.WaySwung, Rig: "r1", TieM: Of(2.5)}}
	return j
}

// Carried is a bare limb that grows level to the east at 9 m, a line straight above it at 1 m and at
// 5 m from its cut, from two masts 16 m up, each on its own bollard.
func Carried() job.Job {
	j := Stem()
	j.Trees[0].Readings[0].CavityM = 0
	j.Trees[0].Limbs = []job.Limb{{ID: "a", Name: "level limb", AtM: 9, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.2, LengthM: 6, Brush: job.BrushBare}}
	j.Rigs = append(j.Rigs, j.Rigs[0])
	j.Rigs[0].Name, j.Rigs[1].ID, j.Rigs[1].Name = "butt rig", "r2", "tip rig"
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "a", Way: job.WayBothEnds, Rig: "r1", Ends: &job.Ends{
		Butt: job.End{TieM: Of(1), SlackM: Of(0)}, Tip: job.End{TieM: Of(5), SlackM: Of(0)}}}}
	// Where the limb grows from: on the stem's axis, so the masts stand over its ties.
	for i, at := range []float64{1, 5} {
		id := []string{"m1", "m2"}[i]
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: id, Name: "mast " + id, Kind: job.AnchorGround, At: job.Spot{X: at}, HeightM: Of(16)})
		j.Rigs[i].Block.Place = &job.Place{On: job.OnAnchor, Anchor: id, AtM: 16}
		j.Rigs[i].Catch.How = job.Locked
	}
	return j
}

// Two is the invented tree with another of its kind four metres north of it.
func Two() job.Job {
	j := Whole()
	other := j.Trees[0]
	other.ID, other.Name, other.At = "2", "north ash", &job.Spot{X: 0, Y: 4}
	other.Limbs = []job.Limb{{ID: "n", AtM: 8, AzimuthDeg: 0, AngleDeg: 60, DiameterM: 0.1, LengthM: 3}}
	j.Trees = append(j.Trees, other)
	return j
}

// Pole is a stem of 40 cm all the way up, 12 m high, with limbs of its own.
func Pole(limbs ...job.Limb) job.Job {
	j := Whole()
	j.Trees[0].Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: 0.4}, {AtM: 12, Tape: job.Diameter, TapeM: 0.4}}
	j.Trees[0].HeightM, j.Trees[0].TopDiameterM = nil, nil
	j.Trees[0].Limbs, j.Picks = limbs, nil
	return j
}

// Lifted is the top section of the invented stem, three metres from 15 m, in two slings that
// hold it level, beside a crane.
func Lifted() job.Job {
	j := Stem()
	j.Site.Cranes = []job.Crane{{ID: "c", Name: "crane", At: job.Spot{X: 0, Y: -14}, BoomM: 40, Chart: []crane.ChartRow{{RadiusM: 3, BoomM: 40, CapacityKg: 9000}, {RadiusM: 40, BoomM: 40, CapacityKg: 9000}}}}
	j.Picks[0].Way, j.Picks[0].Rig, j.Picks[0].FallTowardsDeg = job.WayCrane, "", Of(90)
	j.Picks[0].Lift = &job.Lift{Crane: "c", SetDown: &job.Spot{X: 14, Y: -14}, Slings: []crane.Sling{
		{Name: "butt", AtM: 0.3, LengthM: 4, WllKn: 30, Hitch: crane.Choker}, {Name: "tip", AtM: 2.3, LengthM: 4, WllKn: 30, Hitch: crane.Choker}}}
	return j
}

// Boom gives the first crane of a job a boom of so much, m, with all of its chart.
func Boom(j *job.Job, m float64) {
	c := &j.Site.Cranes[0]
	c.BoomM = m
	for i := range c.Chart {
		c.Chart[i].BoomM = m
	}
}
