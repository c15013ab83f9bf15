package plan

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// unheld judges a piece that is thrown or falls free.
func (v *survey) unheld(o *outcome, now *standing) {
	over := towards(o.settings.FallTowardsDeg)
	foot := level(o.cut)
	var discs []Disc
	put := func(d, r float64) {
		at := r3.Add(foot, r3.Scale(d, over))
		discs = append(discs, Disc{at.X, at.Y, r})
	}
	switch {
	case o.pick.Way == WayThrown:
		put(thrownOut, thrownRound)
	case o.pick.What == WhatLimb:
		cog := level(o.weight.at)
		discs = append(discs, Disc{cog.X, cog.Y, max(1, o.length()/2)})
	default:
		wide := max(0.6, o.diameter)
		parts := max(1, math.Ceil(o.length()/1.5))
		for part := range int(parts) + 1 {
			put(o.length()*float64(part)/parts, wide)
		}
	}
	if o.pick.Way == WayFree && o.pick.What != WhatLimb && o.cut.Z > fromGround && o.length() > o.cut.Z {
		o.fault(faultTooLong, "the piece, %s long, is longer than its drop (%s): it stands on its tip before it is down", v.height(o.length()), v.height(o.cut.Z))
	}
	o.landing = v.landing(discs, o.cut.Z, now, v.own(o))
	o.landing.EnergyKj = o.weightKn() * max(0, o.weight.at.Z)
}

// fromGround is the height up to which a stem is felled standing on the ground: it tips
// over, and does not have to turn in the air, m.
const fromGround = 1.5

// Where a thrown piece comes down (common practice): about so far out, in a round of
// such a radius, m.
const (
	thrownOut   = 2.5
	thrownRound = 1.5
)
