package roped

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
	"elkstay/core/swing"
	"elkstay/core/units"
)

// Ratio is what the turns let through: tension at the device over that of the line.
func (o *Roped) Ratio() float64 { return max(0.01, o.Path.DeviceKn) }

// LeadM is the rope between block and device, m.
func (o *Roped) LeadM() (sum float64) {
	for _, leg := range o.Path.Legs[1:] {
		sum += leg.LengthM
	}
	return sum
}

// fall works out how the line catches the piece.
func (o *Roped) fall(above bool) {
	set, rig := &o.Settings, o.Rig
	ends := o.Cut.Z - o.Block.Z
	c := drop.Case{
		Piece: drop.Piece{MassKg: o.Counts(), CogAboveCutM: max(1e-3, o.Weight.CogM), LengthM: o.ReachM},
		Rigging: drop.Rigging{
			TieAboveCutM: set.TieM, BlockBelowCutM: ends, SlackM: set.SlackM, Rope: rig.Rope.Rope,
			BlockEfficiency: o.Ratio(), AnchorStiffnessKnM: job.Or(rig.AnchorStiffnessKnM, 0),
		},
		EnergyLostPct: set.EnergyLostPct,
	}
	c.LeadM = o.LeadM()
	upright := o.Pick.What != job.WhatLimb && !above && o.Upright() && r3.Norm(space.Level(r3.Sub(o.Block, o.Cut))) < 1e-9
	apart := r3.Norm(r3.Sub(o.Tie, o.Block))
	off := math.Abs(o.Weight.CogM - set.TieM)
	switch {
	case above:
		if tight := job.Or(o.Pick.TightKn, 0); tight > 0 {
			set.SlackM, c.SlackM = 0, 0
		}
		drops := max(0, o.Weight.At.Z-o.Tie.Z) + off + set.SlackM
		c.Course = &drop.Course{FallM: drops, LineM: apart + set.SlackM,
			How: fmt.Sprintf("s + (z_cog − z_tie) + |c−t| = %.3g + %.3g + %.3g", set.SlackM, max(0, o.Weight.At.Z-o.Tie.Z), off)}
		o.swingUnder()
		if o.arc != nil {
			side := space.Level(r3.Sub(o.Tie, o.Block))
			lever := r3.Sub(o.Weight.At, o.Tie)
			// What leads aside of the plane of the swing counts as if it lay in it, and turns as it does there.
			out := math.Copysign(r3.Norm(space.Level(lever)), r3.Dot(lever, side))
			o.swung = &drop.Swung{Case: &c, OutM: r3.Norm(side), DownM: o.Block.Z - o.Tie.Z, TurnM: drops - set.SlackM, CogOut: out, CogUp: lever.Z, GyrationM: o.Gyration(space.Heading(0.02, r3.Unit(side), space.Level(lever)))}
		}
	case !upright:
		long := apart + set.SlackM
		h := max(0.01, o.Weight.At.Z-o.Block.Z+long+off)
		c.Course = &drop.Course{FallM: h, LineM: long,
			How: fmt.Sprintf("(z_cog − z_block) + L₁ + |c−t| = %.3g + %.3g + %.3g", o.Weight.At.Z-o.Block.Z, long, off)}
	}
	o.Floor = o.FloorUnder(o.Block.X, o.Block.Y, max(0.5, o.Length()/4), min(o.Block.Z, o.Cut.Z), o.WoodRound())
	room := max(0, o.Cut.Z-o.Floor.Hard)
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
	if rated := o.Limits.RateLine(rig, 0, 0); rated.Known {
		c.LineLimitKn = &rated.Limit.Kn
	}
	o.DropCase = &c
	if o.swung != nil {
		o.Catch, o.swings = o.swung.SolvePulls(o.hold)
	} else {
		o.Catch = drop.Solve(&c)
	}
	if tight := job.Or(o.Pick.TightKn, 0); above && tight > 0 {
		o.madeTight(&c, tight)
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
func (o *Roped) madeTight(c *drop.Case, kn float64) {
	h := *heldOf(c)
	h.PretensionKn = kn
	if faults := h.Faults("tight"); len(faults) > 0 {
		o.Fault(course.FaultTie, "%s", faults[0].Message)
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
func (o *Roped) HoldFor(c *drop.Case, runM float64) float64 {
	if o.swung != nil {
		return o.swung.HoldFor(runM)
	}
	return drop.HoldFor(c, runM)
}

// RunFor is how far the rope must run for the line to peak at no more than a tension, and
// whether that can be.
func (o *Roped) RunFor(lineKn float64) (runM float64, reachable bool) {
	if o.swung != nil {
		return o.swung.RunFor(lineKn)
	}
	return drop.RunFor(o.DropCase, lineKn)
}

// SwingsFrom is the angle from straight down from which a piece is said to swing.
const SwingsFrom = 5

// swing is the piece about to swing from its block.
func (o *Roped) swing() swing.Swing {
	return swing.Swing{Pivot: space.PointOf(o.Block), Tie: space.PointOf(o.Tie), MassKg: o.Counts(), ReachM: o.MostBelow(o.Settings.TieM)}
}

// swingUnder works out the arc of a piece that does not hang straight under its block.
func (o *Roped) swingUnder() {
	if _, leads := space.Direction(space.Level(r3.Sub(o.Tie, o.Block)), 0.05); !leads {
		return
	}
	s := o.swing()
	arc := s.Solve()
	o.arc = &arc
}

// lockedPeak is the peak of the line were it locked off, kN.
func (o *Roped) lockedPeak() float64 {
	if o.swung != nil {
		return o.swung.Solve(math.Inf(1)).LinePeakKn
	}
	locked := *o.DropCase
	locked.DeviceHoldKn = nil
	return drop.Solve(&locked).LinePeakKn
}

// FastestMS is how fast the piece may come down until its line has it, m/s: by its fall, without anything that slows it; 0: it does not fall.
func (o *Roped) FastestMS() float64 {
	if o.DropCase == nil {
		return 0
	}
	return math.Sqrt(2 * units.Gravity * max(0, o.fallM()))
}

// fallM is how far the centre of gravity falls until the line has it: on a swing, to the
// bottom of it.
func (o *Roped) fallM() float64 {
	if o.arc != nil && o.swung != nil {
		return o.DropCase.FallM() + o.arc.RadiusM*(1-math.Cos(space.Radians(o.arc.StartDeg)))
	}
	return o.DropCase.FallM()
}
