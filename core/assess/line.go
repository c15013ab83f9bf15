package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// onLine is what the ways down that hold the piece on one line share.
type onLine struct{}

func (onLine) held() holding { return heldByLine }

func (onLine) bound(v *Survey, o *Outcome, piece *load) { boundByCrew(v, o, piece) }

func (onLine) cautions(*Outcome) []string { return nil }

// boundByCrew holds a piece to the heaviest one that the crew takes on a line.
func boundByCrew(v *Survey, _ *Outcome, piece *load) {
	if kg := v.limits.PieceKg; kg != nil {
		piece.Known, piece.Decided = true, byCrew
		piece.Limit = gear.Limit{Kn: *kg * units.Gravity / 1000, Reason: fmt.Sprintf("the heaviest piece, %s: %s", units.Print(units.Mass, v.System, *kg), policy.Ruled(v.Job.Limits.PieceKg)), Source: "as given"}
	}
}

// onRig readies a piece for its rig: the settings as the pick uses them, and the tie.
// It reports whether there is something to go on with.
func (v *Survey) onRig(o *Outcome, now *Standing) bool {
	if o.Stopped() {
		return false
	}
	p := o.pick
	if o.offered == nil {
		o.fault(faultRig, "%s", v.rigMissing(p))
		return false
	}
	o.Rig = o.offered
	fall := o.Settings.FallTowardsDeg
	o.Settings = o.Rig.Settings(p)
	o.Settings.FallTowardsDeg = fall
	if p.TieM != nil {
		o.Settings.TieM = *p.TieM
	} else if p.What == job.WhatLimb {
		o.Settings.TieM = math.Floor(100*o.Weight.cog) / 100
	}
	if o.Rig.Rope == nil {
		o.fault(faultRig, "%s has no rope: choose one", o.Rig.Name)
		return false
	}
	if o.Settings.TieM >= o.Length() {
		o.fault(faultTie, "the tie, %s from the cut, is at or beyond the piece's end (%s long)", v.Height(o.Settings.TieM), v.Height(o.Length()))
		return false
	}
	o.tie = v.along(o, o.Settings.TieM)
	o.reachM, o.underM = v.reaches(o, now)
	return true
}

// reaches is how far the limbs of a piece reach along its axis from the cut, and back beyond it, m: hanging by one
// end they hang as far below, or under the other.
func (v *Survey) reaches(o *Outcome, now *Standing) (far, under float64) {
	far = o.Length()
	axis, own, self := r3.Unit(r3.Sub(o.tip, o.cut)), v.own(o), v.LimbOf(o.pick)
	for k := range v.Limbs {
		if k == self || !own(k) || !now.stands(k) {
			continue
		}
		for share := range shares(16) {
			out := r3.Dot(r3.Sub(v.Limbs[k].at(now.Tips[k]*share), o.cut), axis)
			far, under = max(far, out), max(under, -out)
		}
	}
	return far, under
}

// blockAt is where the block sits for a pick; above: over the piece, when nobody has
// said.
func (v *Survey) blockAt(o *Outcome, above bool, now *Standing) r3.Vec {
	if place := o.Rig.Block.Place; place != nil {
		spot, why := v.place(place, now, o)
		if why != "" {
			o.fault(faultBlock, "the block sits %s", why)
		}
		return spot
	}
	height := o.FromM - o.Settings.BlockBelowCutM
	if o.pick.What == job.WhatLimb {
		height = o.cut.Z - o.Settings.BlockBelowCutM
		if i := v.limbIndex(o.pick.Limb); v.Limbs[i].Parent < 0 {
			height = v.Limbs[i].AtM - o.Settings.BlockBelowCutM
		}
	}
	if above {
		height = now.Top - blockUnderTop
		if o.pick.What != job.WhatLimb {
			height = o.FromM - o.Settings.BlockBelowCutM
		}
	}
	if height < v.Stem.Bottom() || height > now.Top {
		o.fault(faultBlock, "the block would sit at %s, where there is no stem (%s to %s)", v.Height(height), v.Height(v.Stem.Bottom()), v.Height(now.Top))
	}
	return v.onStem(height)
}

// blockUnderTop is where a block that must be above the piece sits when nobody has
// said: so far below the top of the stem, m.
const blockUnderTop = 0.5

// lowered works out a piece that one line catches.
func (v *Survey) lowered(o *Outcome, above bool, now *Standing, room func()) {
	if !v.onRig(o, now) {
		return
	}
	o.block = v.blockAt(o, above, now)
	if o.Stopped() {
		return
	}
	if above && o.block.Z <= o.tie.Z {
		o.fault(faultBlock, "the block (%s) is not above the tie (%s): lower it past the block, or put the block higher", v.Height(o.block.Z), v.Height(o.tie.Z))
		return
	}
	if !above && o.block.Z >= o.cut.Z {
		o.fault(faultBlock, "the block (%s) is not below the cut (%s): this piece is lowered from above", v.Height(o.block.Z), v.Height(o.cut.Z))
		return
	}
	if !v.wayOfLine(o, now) {
		return
	}
	v.fall(o, above, now)
	v.tagged(o, now)
	if o.Stopped() {
		return
	}
	if o.pick.Twin != nil {
		v.twin(o, now)
		if o.Stopped() {
			return
		}
	} else {
		v.lineLoads(o, now)
	}
	if !o.Catch.Holds {
		for i := range o.loads {
			o.loads[i].notHeld = o.loads[i].part != PartPiece
		}
	}
	v.tagLoads(o)
	room()
	o.ropeM = o.leadM() + max(0, o.block.Z-o.floor.hard) + spareRope
	v.ropeReaches(o)
}

// spareRope is what a rope needs besides its way: knot, wraps and tail, m.
const spareRope = 4

// letDown is what is called for a piece that one line catches.
func (v *Survey) letDown(o *Outcome) string {
	run := "let it run " + v.Height(o.Catch.RunM)
	switch {
	case !o.Catch.Holds:
		return "Never stops: not like this"
	case o.Settings.How == job.Locked:
		run = "tied off"
	case !o.Catch.Runs:
		run = "hold it"
	}
	if o.twins != nil {
		run += ", both lines together"
	}
	if o.tag != nil {
		run += "; tag: draw to " + o.tag.anchor
	}
	return run
}

// becauseHeld says why a piece is proposed on the line.
func (v *Survey) becauseHeld(how string, o *Outcome) string {
	run := ""
	if o.Catch.Runs {
		run = fmt.Sprintf(", run %s", v.Height(o.Catch.RunM))
	}
	return fmt.Sprintf("%s: line %s%s, %.0f %% of the nearest limit.", how, units.Print(units.Force, v.System, o.Catch.LinePeakKn), run, v.Use(o))
}

// ropeReaches names a rope that is too short.
func (v *Survey) ropeReaches(o *Outcome) {
	if have := o.Rig.RopeLengthM; have != nil && *have < o.ropeM {
		o.fault(faultReach, "the rope of %s is %s long; this takes %s, knot, wraps and tail included", o.Rig.Name, v.Height(*have), v.Height(o.ropeM))
	}
}

// wayOfLine lays out the line from the piece hanging under its block to the device,
// loaded with 1 kN.
func (v *Survey) wayOfLine(o *Outcome, now *Standing) bool {
	rig, set := o.Rig, &o.Settings
	efficiency := set.BlockEfficiency
	stop := func(name string, at r3.Vec) line.Stop { return line.Stop{Name: name, Point: pointOf(at)} }
	hang := r3.Sub(o.block, r3.Vec{Z: 1})
	o.points = append(o.points[:0], stop("piece", hang), stop(PartBlock, o.block))
	o.points[1].Efficiency = &efficiency
	if mu := rig.Block.Friction; mu != nil {
		o.points[1].Efficiency, o.points[1].Friction, o.points[1].Turns = nil, mu, job.Or(rig.Block.Turns, 0)
	}
	for i := range rig.Redirects {
		r := &rig.Redirects[i]
		at, why := v.place(&r.Place, now, o)
		if why != "" {
			o.fault(faultBlock, "%s sits %s", r.Name, why)
			return false
		}
		turn := stop(r.Name, at)
		turn.Efficiency, turn.Friction = r.Efficiency, r.Friction
		o.points = append(o.points, turn)
	}
	device := v.onStem(set.DeviceAtM)
	if rig.Device.Place != nil {
		at, why := v.place(rig.Device.Place, now, o)
		if why != "" {
			o.fault(faultBlock, "the lowering device sits %s", why)
			return false
		}
		device = at
	}
	last := stop(PartDevice, device)
	last.Wraps, last.Friction = &set.Wraps, &set.Friction
	o.points = append(o.points, last)
	for i := 2; i < len(o.points); i++ {
		if _, apart := direction(r3.Sub(o.points[i].Vec(), o.points[i-1].Vec()), 0.01); !apart {
			o.fault(faultBlock, "%s sits at the same place as the %s before it", o.points[i].Name, o.points[i-1].Name)
			return false
		}
	}
	if rig.Device.Place == nil && len(rig.Redirects) == 0 && o.block.Z-device.Z < 0.001 {
		o.fault(faultBlock, "the block (%s) is not above the lowering device (%s)", v.Height(o.block.Z), v.Height(device.Z))
		return false
	}
	line.Path{LoadKn: 1, Motion: line.Lowering, Points: o.points}.SolveInto(&o.Path)
	return true
}
