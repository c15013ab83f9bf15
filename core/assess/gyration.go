package assess

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/timber"
)

// lumpsApart is how long the lengths are that wood and brush are told apart in for how a piece turns, m.
const lumpsApart = 0.25

// gyration is a piece's radius of gyration about its balance, square to a way of the plan, m: how its wood, its brush, the
// limbs on it and what hangs on them lie. A limb that tapers turns more easily than a rod of its length.
func (v *Survey) gyration(o *Outcome, way r3.Vec, now *Standing) float64 {
	square := r3.Cross(way, r3.Vec{Z: 1})
	sum, mass := 0.0, 0.0
	add := func(kg, long float64, at r3.Vec) {
		off := r3.Sub(at, o.Weight.at)
		along := r3.Dot(off, square)
		// And each length about its own middle.
		sum, mass = sum+kg*(r3.Dot(off, off)-along*along+long*long/12), mass+kg
	}
	if self := v.LimbOf(o.pick); self >= 0 {
		v.lumps(self, o.FromM, now, add)
	} else {
		parts := math.Ceil(o.Length() / lumpsApart)
		for k := range int(parts) {
			low, high := o.FromM+o.Length()*float64(k)/parts, o.FromM+o.Length()*float64(k+1)/parts
			weight := v.Stem.WeighBetween(low, high, v.density, timber.Frustum)
			add(weight.MassKg.Likely*v.longer(weight.CogM), high-low, v.onStem(weight.CogM))
		}
		if o.pick.What == job.WhatTop {
			for k := range v.growing(-1, o.FromM, math.Inf(1), now) {
				v.lumps(k, 0, now, add)
			}
		}
	}
	return math.Sqrt(sum / mass)
}

// lumps gives what a limb weighs from a cut on, length by length, kg: as limbMass weighs it.
func (v *Survey) lumps(i int, cut float64, now *Standing, add func(kg, long float64, at r3.Vec)) {
	g := &v.Limbs[i]
	end := now.Tips[i]
	brush, begins := v.brush(i).Likely, brushFrom*g.LengthM
	parts := math.Ceil((end - cut) / lumpsApart)
	for k := range int(parts) {
		low, high := cut+(end-cut)*float64(k)/parts, cut+(end-cut)*float64(k+1)/parts
		kg, cog := v.bare(g, low, high)
		add(kg.Likely, high-low, g.at(cog))
		add(brush*max(0, high-max(low, begins))/(g.LengthM-begins), high-low, g.at((max(low, begins)+high)/2))
	}
	for k := range v.growing(i, cut, end, now) {
		v.lumps(k, 0, now, add)
	}
	for at, kg := range v.hanging(i, cut, end) {
		add(kg, 0, g.at(at))
	}
}
