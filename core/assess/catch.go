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

// leadM is the rope between block and device, m.
func (o *Outcome) leadM() (sum float64) {
	for _, leg := range o.Path.Legs[1:] {
		sum += leg.LengthM
	}
	return sum
}

// fall works out how the line catches the piece.
func (v *Survey) fall(o *Outcome, above bool, now *Standing) {
	set, rig := &o.Settings, o.Rig
	ends := o.cut.Z - o.block.Z
	c := drop.Case{
		Piece: drop.Piece{MassKg: o.counts(), CogAboveCutM: max(1e-3, o.Weight.cog), LengthM: o.reachM},
		Rigging: drop.Rigging{
			TieAboveCutM: set.TieM, BlockBelowCutM: ends, SlackM: set.SlackM, Rope: rig.Rope.Rope,
			BlockEfficiency: o.Ratio(), AnchorStiffnessKnM: job.Or(rig.AnchorStiffnessKnM, 0),
		},
		EnergyLostPct: set.EnergyLostPct,
	}
	c.LeadM = o.leadM()
	upright := o.pick.What != job.WhatLimb && !above && v.upright() && r3.Norm(level(r3.Sub(o.block, o.cut))) < 1e-9
	apart := r3.Norm(r3.Sub(o.tie, o.block))
	off := math.Abs(o.Weight.cog - set.TieM)
	switch {
	case above:
		if tight := job.Or(o.pick.TightKn, 0); tight > 0 {
			set.SlackM, c.SlackM = 0, 0
		}
		drops := max(0, o.Weight.at.Z-o.tie.Z) + off + set.SlackM
		c.Course = &drop.Course{FallM: drops, LineM: apart + set.SlackM,
			How: fmt.Sprintf("s + (z_cog − z_tie) + |c−t| = %.3g + %.3g + %.3g", set.SlackM, max(0, o.Weight.at.Z-o.tie.Z), off)}
		o.swingUnder()
		if o.arc != nil {
			side := level(r3.Sub(o.tie, o.block))
			lever := r3.Sub(o.Weight.at, o.tie)
			// What leads aside of the plane of the swing counts as if it lay in it, and turns as it does there.
			out := math.Copysign(r3.Norm(level(lever)), r3.Dot(lever, side))
			o.swung = &drop.Swung{Case: &c, OutM: r3.Norm(side), DownM: o.block.Z - o.tie.Z, TurnM: drops - set.SlackM, CogOut: out, CogUp: lever.Z, GyrationM: v.gyration(o, heading(0.02, r3.Unit(side), level(lever)), now)}
		}
	case !upright:
		long := apart + set.SlackM
		h := max(0.01, o.Weight.at.Z-o.block.Z+long+off)
		c.Course = &drop.Course{FallM: h, LineM: long,
			How: fmt.Sprintf("(z_cog − z_block) + L₁ + |c−t| = %.3g + %.3g + %.3g", o.Weight.at.Z-o.block.Z, long, off)}
	}
	o.floor = v.floorUnder(o.block.X, o.block.Y, max(0.5, o.Length()/4), min(o.block.Z, o.cut.Z), v.woodRound(o, now))
	room := max(0, o.cut.Z-o.floor.hard)
	c.RoomM = &room
	switch set.How {
	case job.ByWraps:
		o.hold = line.HeldBy(set.HandKn, set.Wraps, set.Friction)
	case job.ByHold:
		o.hold = set.HoldKn
	case job.ByRun:
		o.hold = o.HoldFor(&c, set.RunM)
	}
	if !math.IsInf(o.hold, 1) {
		hold := o.hold
		c.DeviceHoldKn = &hold
	}
	if rated := v.limits.RateLine(rig, 0, 0); rated.Known {
		c.LineLimitKn = &rated.Limit.Kn
	}
	o.DropCase = &c
	if o.swung != nil {
		o.Catch = o.swung.Solve(o.hold)
	} else {
		o.Catch = drop.Solve(&c)
	}
	if tight := job.Or(o.pick.TightKn, 0); above && tight > 0 {
		v.madeTight(o, &c, tight)
	}
}

// tightened is a line that is made tight before the cut, and how it catches.
type tightened struct {
	held   drop.Held
	caught drop.Caught
	swings bool // what swings off it is caught no softer for it
}

// madeTight works out the catch of a line made tight before the cut. What swings is caught at the
// bottom of its arc, where the stretch taken out before is long used up: it is caught no softer.
func (v *Survey) madeTight(o *Outcome, c *drop.Case, kn float64) {
	h := *heldOf(c)
	h.PretensionKn = kn
	if faults := h.Faults("tight"); len(faults) > 0 {
		o.fault(faultTie, "%s", faults[0].Message)
		return
	}
	t := &tightened{held: h, caught: h.Solve(), swings: o.swung != nil}
	o.tight = t
	if t.swings {
		o.Catch.LinePeakKn = max(o.Catch.LinePeakKn, t.caught.PretensionCountsKn)
		o.Catch.DevicePeakKn = max(o.Catch.DevicePeakKn, t.caught.PretensionCountsKn*c.BlockEfficiency)
		return
	}
	was := o.Catch
	o.Catch.LinePeakKn, o.Catch.DevicePeakKn = t.caught.LinePeakKn, t.caught.LeadPeakKn
	o.Catch.StretchM, o.Catch.Runs, o.Catch.Holds, o.Catch.Amplification = t.caught.StretchM, t.caught.Runs, t.caught.Holds, t.caught.Amplification
	if t.caught.RunM != nil {
		o.Catch.RunM = *t.caught.RunM
		// It comes as much lower as more rope runs and stretches; what was stretched before is above it.
		o.Catch.LowestM = max(0, was.LowestM+(o.Catch.RunM-was.RunM)+(t.caught.StretchM-was.StretchM))
	}
}

// HoldFor is the tension on the lead at which a run is taken, kN: one sum for the board and
// for what is asked of it.
func (o *Outcome) HoldFor(c *drop.Case, runM float64) float64 {
	if o.swung != nil {
		return o.swung.HoldFor(runM)
	}
	return drop.HoldFor(c, runM)
}

// RunFor is how far the rope must run for the line to peak at no more than a tension, and
// whether that can be.
func (o *Outcome) RunFor(lineKn float64) (runM float64, reachable bool) {
	if o.swung != nil {
		return o.swung.RunFor(lineKn)
	}
	return drop.RunFor(o.DropCase, lineKn)
}

// swingsFrom is the angle from straight down from which a piece is said to swing.
const swingsFrom = 5

// swing is the piece about to swing from its block.
func (o *Outcome) swing() swing.Swing {
	return swing.Swing{Pivot: pointOf(o.block), Tie: pointOf(o.tie), MassKg: o.counts(), ReachM: o.mostBelow(o.Settings.TieM)}
}

// swingUnder works out the arc of a piece that does not hang straight under its block.
func (o *Outcome) swingUnder() {
	if _, leads := direction(level(r3.Sub(o.tie, o.block)), 0.05); !leads {
		return
	}
	s := o.swing()
	arc := s.Solve()
	o.arc = &arc
}

// lockedPeak is the peak of the line were it locked off, kN.
func (o *Outcome) lockedPeak() float64 {
	if o.swung != nil {
		return o.swung.Solve(math.Inf(1)).LinePeakKn
	}
	locked := *o.DropCase
	locked.DeviceHoldKn = nil
	return drop.Solve(&locked).LinePeakKn
}

// fallM is how far the centre of gravity falls until the line has it: on a swing, to the
// bottom of it.
func (o *Outcome) fallM() float64 {
	if o.arc != nil && o.swung != nil {
		return o.DropCase.FallM() + o.arc.RadiusM*(1-math.Cos(radians(o.arc.StartDeg)))
	}
	return o.DropCase.FallM()
}

// around is what a hold a fifth lower or higher does; nil when it is locked off.
func (o *Outcome) around() *drop.HoldRange {
	if o.swung == nil || o.DropCase.DeviceHoldKn == nil {
		return drop.AroundHold(o.DropCase)
	}
	return drop.Around(*o.DropCase.DeviceHoldKn, o.swung.Solve)
}
