package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/swing"
)

// Ratio is what the turns let through: tension at the device over that of the line.
func (o *Outcome) Ratio() float64 { return max(0.01, o.Path.DeviceKn) }

// fall works out how the line catches the piece.
func (v *Survey) fall(o *Outcome, above bool, now *Standing) {
	set, rig := &o.Settings, o.Rig
	ends := o.cut.Z - o.block.Z
	c := drop.Case{
		Piece: drop.Piece{MassKg: o.counts(), CogAboveCutM: max(1e-3, o.Weight.cog), LengthM: o.Length()},
		Rigging: drop.Rigging{
			TieAboveCutM: set.TieM, BlockBelowCutM: ends, SlackM: set.SlackM, Rope: rig.Rope.Rope,
			BlockEfficiency: o.Ratio(), AnchorStiffnessKnM: job.Or(rig.AnchorStiffnessKnM, 0),
		},
		EnergyLostPct: set.EnergyLostPct,
	}
	for _, leg := range o.Path.Legs[1:] {
		c.LeadM += leg.LengthM
	}
	upright := o.pick.What != job.WhatLimb && !above && v.upright() && r3.Norm(level(r3.Sub(o.block, o.cut))) < 1e-9
	apart := r3.Norm(r3.Sub(o.tie, o.block))
	off := math.Abs(o.Weight.cog - set.TieM)
	switch {
	case above:
		drops := max(0, o.Weight.at.Z-o.tie.Z) + off + set.SlackM
		c.Course = &drop.Course{FallM: drops, LineM: apart + set.SlackM,
			How: fmt.Sprintf("s + (z_cog − z_tie) + |c−t| = %.3g + %.3g + %.3g", set.SlackM, max(0, o.Weight.at.Z-o.tie.Z), off)}
		o.swingUnder()
		if o.arc != nil && set.How == job.ByRun {
			// The run that is called is taken up over the whole fall.
			c.Course, o.whole = o.overArc(c.Course), true
		}
	case !upright:
		long := apart + set.SlackM
		h := max(0.01, o.Weight.at.Z-o.block.Z+long+off)
		c.Course = &drop.Course{FallM: h, LineM: long,
			How: fmt.Sprintf("(z_cog − z_block) + L₁ + |c−t| = %.3g + %.3g + %.3g", o.Weight.at.Z-o.block.Z, long, off)}
	}
	o.floor = v.floorUnder(o.block.X, o.block.Y, max(0.5, o.Length()/4), min(o.block.Z, o.cut.Z), now, v.own(o))
	room := max(0, o.cut.Z-o.floor.hard)
	c.RoomM = &room
	switch set.How {
	case job.ByWraps:
		o.hold = line.HeldBy(set.HandKn, set.Wraps, set.Friction)
	case job.ByHold:
		o.hold = set.HoldKn
	case job.ByRun:
		o.hold = drop.HoldFor(&c, set.RunM)
	}
	if !math.IsInf(o.hold, 1) {
		hold := o.hold
		c.DeviceHoldKn = &hold
	}
	if rated := v.limits.RateLine(rig, 0, 0); rated.Known {
		c.LineLimitKn = &rated.Limit.Kn
	}
	o.DropCase = &c
	o.Catch = drop.Solve(&c)
	if o.arc == nil || o.whole || o.arc.LineKn <= o.Catch.LinePeakKn {
		return
	}
	// The swing pulls harder than the slack does.
	o.swings = true
	slip := o.hold / o.Ratio()
	if o.arc.LineKn > slip {
		// Rope runs on the way: the ceiling of the run is that of the whole fall.
		c.Course, o.whole = o.overArc(c.Course), true
		o.Catch = drop.Solve(&c)
		return
	}
	x := o.Catch.StretchM
	o.Catch.LinePeakKn, o.Catch.DevicePeakKn, o.Catch.BlockPeakKn = o.arc.LineKn, o.arc.LineKn*o.Ratio(), 0
	o.Catch.Amplification, o.Catch.StretchM, o.Catch.Runs, o.Catch.RunM, o.Catch.Holds = o.arc.LineKn/o.weightKn(), x, false, 0, true
}

// overArc adds the fall of the whole arc to a course.
func (o *Outcome) overArc(course *drop.Course) *drop.Course {
	return &drop.Course{
		FallM: course.FallM + o.arc.RadiusM*(1-math.Cos(radians(o.arc.StartDeg))),
		LineM: course.LineM, How: course.How + ", and the fall of the arc",
	}
}

// Caught is the case by which the line is kept to a tension: where the swing pulls
// harder, rope runs on the way, and the whole fall counts.
func (o *Outcome) Caught(lineKn float64) *drop.Case {
	if o.arc == nil || o.whole || o.arc.LineKn <= lineKn {
		return o.DropCase
	}
	c := *o.DropCase
	c.Course = o.overArc(c.Course)
	return &c
}

// swingsFrom is the angle from straight down from which a piece is said to swing.
const swingsFrom = 5

// swing is the piece about to swing from its block.
func (o *Outcome) swing() swing.Swing {
	return swing.Swing{Pivot: pointOf(o.block), Tie: pointOf(o.tie), MassKg: o.counts(), ReachM: o.below()}
}

// swingUnder works out the arc of a piece that does not hang straight under its block.
func (o *Outcome) swingUnder() {
	if r3.Norm(level(r3.Sub(o.tie, o.block))) < 0.05 {
		return
	}
	s := o.swing()
	arc := s.Solve()
	o.arc = &arc
}
