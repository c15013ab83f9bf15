package roped

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
)

// onRig readies a piece for its rig: the settings as the pick uses them, and the tie.
// It reports whether there is something to go on with.
func (o *Roped) onRig() bool {
	if o.Stopped() {
		return false
	}
	p := o.Pick
	if o.Offered == nil {
		o.Fault(course.FaultRig, "%s", o.rigMissing())
		return false
	}
	o.Rig = o.Offered
	fall := o.Settings.FallTowardsDeg
	o.Settings = o.Rig.Settings(p)
	o.Settings.FallTowardsDeg = fall
	if p.TieM != nil {
		o.Settings.TieM = *p.TieM
	} else if p.What == job.WhatLimb {
		o.Settings.TieM = math.Floor(100*o.Weight.CogM) / 100
	}
	if o.Rig.Rope == nil {
		o.Fault(course.FaultRig, "%s has no rope: choose one", o.Rig.Name)
		return false
	}
	if o.Settings.TieM >= o.Length() {
		o.Fault(course.FaultTie, "the tie, %s from the cut, is at or beyond the piece's end (%s long)", o.Height(o.Settings.TieM), o.Height(o.Length()))
		return false
	}
	o.Tie = o.Along(o.Settings.TieM)
	return true
}

// BlockAt is where the block sits for a pick; above: over the piece, when nobody has
// said.
func (o *Roped) BlockAt(above bool) r3.Vec {
	if place := o.Rig.Block.Place; place != nil {
		spot, why := o.Place(place, o.Now, o.Piece)
		if why != "" {
			o.Fault(course.FaultBlock, "the block sits %s", why)
		}
		return spot
	}
	height := o.FromM - o.Settings.BlockBelowCutM
	if o.Pick.What == job.WhatLimb {
		height = o.Cut.Z - o.Settings.BlockBelowCutM
		if i := o.LimbIndex(o.Pick.Limb); o.Limbs[i].Parent < 0 {
			height = o.Limbs[i].AtM - o.Settings.BlockBelowCutM
		}
	}
	if above {
		height = o.Now.Top - blockUnderTop
		if o.Pick.What != job.WhatLimb {
			height = o.FromM - o.Settings.BlockBelowCutM
		}
	}
	if height < o.Stem.Bottom() || height > o.Now.Top {
		o.Fault(course.FaultBlock, "the block would sit at %s, where there is no stem (%s to %s)", o.Height(height), o.Height(o.Stem.Bottom()), o.Height(o.Now.Top))
	}
	return o.OnStem(height)
}

// blockUnderTop is where a block that must be above the piece sits when nobody has
// said: so far below the top of the stem, m.
const blockUnderTop = 0.5

// lower lays out a piece that one line catches; above: its block is over it.
func (o *Roped) lower(above bool) {
	if !o.onRig() {
		return
	}
	o.Block = o.BlockAt(above)
	if o.Stopped() {
		return
	}
	if above && o.Block.Z <= o.Tie.Z {
		o.Fault(course.FaultBlock, "the block (%s) is not above the tie (%s): lower it past the block, or put the block higher", o.Height(o.Block.Z), o.Height(o.Tie.Z))
		return
	}
	if !above && o.Block.Z >= o.Cut.Z {
		o.Fault(course.FaultBlock, "the block (%s) is not below the cut (%s): this piece is lowered from above", o.Height(o.Block.Z), o.Height(o.Cut.Z))
		return
	}
	if !o.LayOut() {
		return
	}
	o.fall(above)
	if !above && (!o.Hurried || o.Pick.Twin != nil) {
		o.fallsHardest()
	}
	o.tagged()
	if o.Stopped() {
		return
	}
	if o.Pick.Twin != nil {
		o.twin()
		if o.Stopped() {
			return
		}
	} else {
		given, cases := len(o.Loads), len(o.Cases)
		o.AllLoads(nil)
		if !above && o.Hurried && !o.Enough(&PastBlock{o}) {
			// Nothing stops it as it hangs: how it falls is followed.
			o.fallsHardest()
			o.Loads, o.Cases = o.Loads[:given], o.Cases[:cases]
			o.AllLoads(nil)
		}
	}
	if !o.Catch.Holds {
		for i := range o.Loads {
			o.Loads[i].NotHeld = o.Loads[i].Part != hold.PartPiece
		}
	}
	o.TagLoads()
	o.complete = true
}

// needsRope notes how much rope the piece takes, let down under its block, and names a rope that is too short.
func (o *Roped) needsRope() {
	o.ropeNeeded(o.LeadM() + max(0, o.Block.Z-o.Floor.Low) + SpareRope)
}

func (o *Roped) ropeNeeded(m float64) {
	o.Ropes = append(o.Ropes, course.RopeUse{Rig: o.Rig, NeedM: m})
	if have := o.Rig.RopeLengthM; have != nil && *have < m {
		o.Fault(course.FaultReach, "the rope of %s is %s long; this takes %s, knot, wraps and tail included", o.Rig.Name, o.Height(*have), o.Height(m))
	}
}

// SpareRope is what a rope needs besides its way: knot, wraps and tail, m.
const SpareRope = 4

// letDown is what is called for a piece that one line catches.
func (o *Roped) letDown() string {
	run := "let it run " + o.Height(o.Catch.RunM)
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
	if o.Tag != nil {
		run += "; tag: draw to " + o.Tag.anchor
	}
	return run
}

// LayOut lays out the line from the piece hanging under its block to the device,
// loaded with 1 kN. It reports whether that can be; faults say why not.
func (o *Roped) LayOut() bool {
	rig, set := o.Rig, &o.Settings
	efficiency := set.BlockEfficiency
	stop := func(name string, at r3.Vec) line.Stop { return line.Stop{Name: name, Point: space.PointOf(at)} }
	hang := r3.Sub(o.Block, r3.Vec{Z: 1})
	o.Points = append(o.Points[:0], stop("piece", hang), stop(hold.PartBlock, o.Block))
	o.Points[1].Efficiency = &efficiency
	if mu := rig.Block.Friction; mu != nil {
		o.Points[1].Efficiency, o.Points[1].Friction, o.Points[1].Turns = nil, mu, job.Or(rig.Block.Turns, 0)
	}
	for i := range rig.Redirects {
		r := &rig.Redirects[i]
		at, why := o.Place(&r.Place, o.Now, o.Piece)
		if why != "" {
			o.Fault(course.FaultBlock, "%s sits %s", r.Name, why)
			return false
		}
		turn := stop(r.Name, at)
		turn.Efficiency, turn.Friction = r.Efficiency, r.Friction
		o.Points = append(o.Points, turn)
	}
	device := o.OnStem(set.DeviceAtM)
	if rig.Device.Place != nil {
		at, why := o.Place(rig.Device.Place, o.Now, o.Piece)
		if why != "" {
			o.Fault(course.FaultBlock, "the lowering device sits %s", why)
			return false
		}
		device = at
	}
	last := stop(hold.PartDevice, device)
	last.Wraps, last.Friction = &set.Wraps, &set.Friction
	o.Points = append(o.Points, last)
	for i := 2; i < len(o.Points); i++ {
		if _, apart := space.Direction(r3.Sub(o.Points[i].Vec(), o.Points[i-1].Vec()), 0.01); !apart {
			o.Fault(course.FaultBlock, "%s sits at the same place as the %s before it", o.Points[i].Name, o.Points[i-1].Name)
			return false
		}
	}
	if rig.Device.Place == nil && len(rig.Redirects) == 0 && o.Block.Z-device.Z < 0.001 {
		o.Fault(course.FaultBlock, "the block (%s) is not above the lowering device (%s)", o.Height(o.Block.Z), o.Height(device.Z))
		return false
	}
	line.Path{LoadKn: 1, Motion: line.Lowering, Points: o.Points}.SolveInto(&o.Path)
	return true
}
