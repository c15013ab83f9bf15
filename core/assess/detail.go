package assess

import (
	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways/lifted"
)

// detail gives a pick in full.
func (v *Survey) detail(o *Outcome) *Detail {
	d := &Detail{
		ID: o.Pick.ID, Tree: v.Measured.ID, Number: o.Number, Settings: o.Settings, Stands: left(o.Now.Among()),
		Ladder: v.ladder(o), Room: v.room(o), Clear: make([]Clearance, len(o.Clears)), Landing: o.Landing, Figures: course.Figures{Line: []course.LinePoint{}, Way: []line.Point{}, Pulls: []course.PullLine{}},
		Advice: v.advise(o), Cautions: v.cautions(o),
	}
	for i := range o.Clears {
		c := &o.Clears[i]
		d.Clear[i] = Clearance{c.Name, c.ClearanceM, judged(c)}
	}
	if o.Rig != nil {
		d.Rig = o.Rig.ID
	}
	if !o.TakesNothing() {
		d.Piece = &PieceFigures{
			LengthM: o.Length(), DiameterCutM: o.DiameterM, CavityCutM: o.CavityM, MassKg: o.Weight.Kg, WeightKn: o.Weight.Kg.Times(units.Gravity / 1000),
			CogM: o.Weight.CogM, Cog: space.PointOf(o.Weight.At), Cut: space.PointOf(o.Cut), Tip: space.PointOf(o.Tip), OrientDeg: o.OrientDeg, DensitySource: v.Source,
			Slings: lifted.Slung(o.Piece),
		}
	}
	if o.Pick.Way == job.WayFelled && !o.TakesNothing() {
		stands := v.balance(o.Pick.What == job.WhatTop, o.FromM, o.Weight, o.Now)
		d.Balance = &stands
	} else if bottom := v.Stem.Bottom(); o.Now.Top > bottom+0.1 {
		stands := v.balance(true, bottom, v.StemMass(bottom, o.Now), o.Now)
		d.Balance = &stands
	}
	o.Made.Figures(&d.Figures)
	v.fellPlans(o, d.Fell)
	return d
}
