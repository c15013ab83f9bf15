package plan

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/line"
	"elkstay/core/swing"
)

// place is where gear sits in space; why says in words why it cannot.
func (v *survey) place(at *Place, now *standing, o *outcome) (spot r3.Vec, why string) {
	switch at.On {
	case OnLimb:
		i := v.limbIndex(at.Limb)
		if i < 0 {
			return spot, fmt.Sprintf("on a limb that is not on this tree: %q", at.Limb)
		}
		g := &v.limbs[i]
		if now.tips[i] < at.AtM || now.tips[i] <= 0 {
			return spot, fmt.Sprintf("on %s, which is gone there by now", g.title())
		}
		if o != nil && v.limbOf(o.pick) == i && at.AtM >= o.fromM {
			return spot, fmt.Sprintf("on %s, beyond the cut: on the piece itself", g.title())
		}
		if o != nil && v.limbOf(o.pick) != i && v.own(o)(i) {
			return spot, fmt.Sprintf("on %s, which comes off with the piece", g.title())
		}
		return g.at(at.AtM), ""
	case OnAnchor:
		for i := range v.job.Site.Anchors {
			if a := &v.job.Site.Anchors[i]; a.ID == at.Anchor {
				return r3.Vec{X: a.At.X, Y: a.At.Y, Z: max(at.AtM, 0)}, ""
			}
		}
		return spot, fmt.Sprintf("on an anchor that is not on the site: %q", at.Anchor)
	}
	if at.AtM > now.top {
		return spot, fmt.Sprintf("on the stem at %s, which is gone: it stands to %s", v.height(at.AtM), v.height(now.top))
	}
	if o != nil && o.pick.What != WhatLimb && at.AtM >= o.fromM {
		return spot, fmt.Sprintf("on the stem at %s, at or above the cut (%s): on the piece itself", v.height(at.AtM), v.height(o.fromM))
	}
	return v.onStem(at.AtM), ""
}

// tiedIn names a tie-in of the climber that is not there, or goes with the piece.
func (v *survey) tiedIn(o *outcome, now *standing) {
	if o.pick.TieIn == nil {
		return
	}
	if _, why := v.place(o.pick.TieIn, now, o); why != "" {
		o.fault(faultTieIn, "the climber is tied in %s", why)
	}
}

// blockAt is where the block sits for a pick.
func (v *survey) blockAt(o *outcome, now *standing) (at r3.Vec, onStem bool) {
	if place := o.rig.Block.Place; place != nil {
		spot, why := v.place(place, now, o)
		if why != "" {
			o.fault(faultBlock, "the block sits %s", why)
		}
		return spot, place.On == OnStem
	}
	height := o.fromM - o.settings.BlockBelowCutM
	if o.pick.What == WhatLimb {
		height = o.cut.Z - o.settings.BlockBelowCutM
		if i := v.limbIndex(o.pick.Limb); v.limbs[i].parent < 0 {
			height = v.limbs[i].AtM - o.settings.BlockBelowCutM
		}
	}
	if o.pick.Way != WayPastBlock {
		height = now.top - blockUnderTop
		if o.pick.What != WhatLimb {
			height = o.fromM - o.settings.BlockBelowCutM
		}
	}
	if height < v.stem.Bottom() || height > now.top {
		o.fault(faultBlock, "the block would sit at %s, where there is no stem (%s to %s)", v.height(height), v.height(v.stem.Bottom()), v.height(now.top))
	}
	return v.onStem(height), true
}

// blockUnderTop is where a block that must be above the piece sits when nobody has
// said: so far below the top of the stem, m.
const blockUnderTop = 0.5

// rigged works out a piece on a line.
func (v *survey) rigged(o *outcome, now *standing) {
	onStem := false
	o.block, onStem = v.blockAt(o, now)
	if o.stopped() {
		return
	}
	if o.pick.Way == WayTwoPoints {
		v.carry(o, now, onStem)
		return
	}
	above := o.pick.Way != WayPastBlock
	if above && o.block.Z <= o.tie.Z {
		o.fault(faultBlock, "the block (%s) is not above the tie (%s): lower it past the block, or put the block higher", v.height(o.block.Z), v.height(o.tie.Z))
		return
	}
	if !above && o.block.Z >= o.cut.Z {
		o.fault(faultBlock, "the block (%s) is not below the cut (%s): this piece is lowered from above", v.height(o.block.Z), v.height(o.cut.Z))
		return
	}
	if !v.wayOfLine(o, now) {
		return
	}
	v.fall(o, above, now)
	v.lineLoads(o, onStem)
	v.room(o, above, now)
	lead := 0.0
	for _, leg := range o.path.Legs[1:] {
		lead += leg.LengthM
	}
	o.ropeM = lead + max(0, o.block.Z-o.floor.hard) + spareRope
	v.ropeReaches(o)
}

// ropeReaches names a rope that is too short.
func (v *survey) ropeReaches(o *outcome) {
	if have := o.rig.RopeLengthM; have != nil && *have < o.ropeM {
		o.fault(faultReach, "the rope of %s is %s long; this takes %s, knot, wraps and tail included", o.rig.Name, v.height(*have), v.height(o.ropeM))
	}
}

// wayOfLine lays out the line from the piece hanging under its block to the device,
// loaded with 1 kN.
func (v *survey) wayOfLine(o *outcome, now *standing) bool {
	rig, set := o.rig, &o.settings
	efficiency := set.BlockEfficiency
	stop := func(name string, at r3.Vec) line.Stop { return line.Stop{Name: name, Point: pointOf(at)} }
	hang := r3.Sub(o.block, r3.Vec{Z: 1})
	o.points = append(o.points[:0], stop("piece", hang), stop(partBlock, o.block))
	o.points[1].Efficiency = &efficiency
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
	last := stop(partDevice, device)
	last.Wraps, last.Friction = &set.Wraps, &set.Friction
	o.points = append(o.points, last)
	for i := 2; i < len(o.points); i++ {
		if r3.Norm(r3.Sub(o.points[i].Vec(), o.points[i-1].Vec())) < 0.01 {
			o.fault(faultBlock, "%s sits at the same place as the %s before it", o.points[i].Name, o.points[i-1].Name)
			return false
		}
	}
	if rig.Device.Place == nil && len(rig.Redirects) == 0 && o.block.Z-device.Z < 0.001 {
		o.fault(faultBlock, "the block (%s) is not above the lowering device (%s)", v.height(o.block.Z), v.height(device.Z))
		return false
	}
	line.Path{LoadKn: 1, Motion: line.Lowering, Points: o.points}.SolveInto(&o.path)
	return true
}

// ratio is what the turns let through: tension at the device over that of the line.
func (o *outcome) ratio() float64 { return max(0.01, o.path.DeviceKn) }

// fall works out how the line catches the piece.
func (v *survey) fall(o *outcome, above bool, now *standing) {
	set, rig := &o.settings, o.rig
	ends := o.cut.Z - o.block.Z
	c := drop.Case{
		Piece: drop.Piece{MassKg: o.counts(), CogAboveCutM: max(1e-3, o.weight.cog), LengthM: o.length()},
		Rigging: drop.Rigging{
			TieAboveCutM: set.TieM, BlockBelowCutM: ends, SlackM: set.SlackM, Rope: rig.Rope.Rope,
			BlockEfficiency: o.ratio(), AnchorStiffnessKnM: orElse(rig.AnchorStiffnessKnM, 0),
		},
		EnergyLostPct: set.EnergyLostPct,
	}
	for _, leg := range o.path.Legs[1:] {
		c.LeadM += leg.LengthM
	}
	upright := o.pick.What != WhatLimb && !above && r3.Norm(v.lean) == 0 && r3.Norm(level(r3.Sub(o.block, o.cut))) < 1e-9
	apart := r3.Norm(r3.Sub(o.tie, o.block))
	off := math.Abs(o.weight.cog - set.TieM)
	switch {
	case above:
		drops := max(0, o.weight.at.Z-o.tie.Z) + off + set.SlackM
		c.Course = &drop.Course{FallM: drops, LineM: apart + set.SlackM,
			How: fmt.Sprintf("s + (z_cog − z_tie) + |c−t| = %.3g + %.3g + %.3g", set.SlackM, max(0, o.weight.at.Z-o.tie.Z), off)}
		o.swingUnder()
		if o.arc != nil && set.How == ByRun {
			// The run that is called is taken up over the whole fall.
			c.Course, o.whole = o.overArc(c.Course), true
		}
	case !upright:
		long := apart + set.SlackM
		h := max(0.01, o.weight.at.Z-o.block.Z+long+off)
		c.Course = &drop.Course{FallM: h, LineM: long,
			How: fmt.Sprintf("(z_cog − z_block) + L₁ + |c−t| = %.3g + %.3g + %.3g", o.weight.at.Z-o.block.Z, long, off)}
	}
	o.floor = v.floorUnder(o.block.X, o.block.Y, max(0.5, o.length()/4), min(o.block.Z, o.cut.Z), now, v.own(o))
	room := max(0, o.cut.Z-o.floor.hard)
	c.RoomM = &room
	switch set.How {
	case ByWraps:
		o.hold = line.HeldBy(set.HandKn, set.Wraps, set.Friction)
	case ByHold:
		o.hold = set.HoldKn
	case ByRun:
		o.hold = drop.HoldFor(&c, set.RunM)
	}
	if !math.IsInf(o.hold, 1) {
		hold := o.hold
		c.DeviceHoldKn = &hold
	}
	if rated := v.rateLine(load{}, rig); rated.known {
		c.LineLimitKn = &rated.limit.Kn
	}
	o.kase = &c
	o.catch = drop.Solve(&c)
	if o.arc == nil || o.whole || o.arc.LineKn <= o.catch.LinePeakKn {
		return
	}
	// The swing pulls harder than the slack does.
	o.swings = true
	slip := o.hold / o.ratio()
	if o.arc.LineKn > slip {
		// Rope runs on the way: the ceiling of the run is that of the whole fall.
		c.Course, o.whole = o.overArc(c.Course), true
		o.catch = drop.Solve(&c)
		return
	}
	x := o.catch.StretchM
	o.catch.LinePeakKn, o.catch.DevicePeakKn, o.catch.BlockPeakKn = o.arc.LineKn, o.arc.LineKn*o.ratio(), 0
	o.catch.Amplification, o.catch.StretchM, o.catch.Runs, o.catch.RunM, o.catch.Holds = o.arc.LineKn/o.weightKn(), x, false, 0, true
}

// overArc adds the fall of the whole arc to a course.
func (o *outcome) overArc(course *drop.Course) *drop.Course {
	return &drop.Course{
		FallM: course.FallM + o.arc.RadiusM*(1-math.Cos(radians(o.arc.StartDeg))),
		LineM: course.LineM, How: course.How + ", and the fall of the arc",
	}
}

// caught is the case by which the line is kept to a tension: where the swing pulls
// harder, rope runs on the way, and the whole fall counts.
func (o *outcome) caught(lineKn float64) *drop.Case {
	if o.arc == nil || o.whole || o.arc.LineKn <= lineKn {
		return o.kase
	}
	c := *o.kase
	c.Course = o.overArc(c.Course)
	return &c
}

// swingsFrom is the angle from straight down from which a piece is said to swing.
const swingsFrom = 5

// swing is the piece about to swing from its block.
func (o *outcome) swing() swing.Swing {
	return swing.Swing{Pivot: pointOf(o.block), Tie: pointOf(o.tie), MassKg: o.counts(), ReachM: o.below()}
}

// swingUnder works out the arc of a piece that does not hang straight under its block.
func (o *outcome) swingUnder() {
	if r3.Norm(level(r3.Sub(o.tie, o.block))) < 0.05 {
		return
	}
	s := o.swing()
	arc := s.Solve()
	o.arc = &arc
}

// room measures what is round a piece on a line while it falls, swings and hangs.
func (v *survey) room(o *outcome, above bool, now *standing) {
	way := sweep{reach: max(0.3, o.diameter/2)}
	switch {
	case above && o.arc != nil:
		start, radius := radians(o.arc.StartDeg), o.arc.RadiusM
		side := level(r3.Sub(o.tie, o.block))
		side = r3.Scale(1/r3.Norm(side), side)
		const parts = 24
		for k := range parts + 1 {
			sin, cos := math.Sincos(start - 2*start*float64(k)/parts)
			tie := r3.Add(o.block, r3.Add(r3.Scale(radius*sin, side), r3.Vec{Z: -radius * cos}))
			way.at = append(way.at, tie, r3.Sub(tie, r3.Vec{Z: o.below() / 2}), r3.Sub(tie, r3.Vec{Z: o.below()}))
		}
	case above:
		way.at = append(way.at, o.tie, r3.Sub(o.tie, r3.Vec{Z: o.below()}))
	default:
		over := towards(o.settings.FallTowardsDeg)
		const parts = 18
		from := radians(o.orient)
		for k := range parts + 1 {
			sin, cos := math.Sincos(from + (math.Pi-from)*float64(k)/parts)
			for _, share := range [2]float64{0.5, 1} {
				way.at = append(way.at, r3.Add(o.cut, r3.Add(r3.Scale(share*o.length()*sin, over), r3.Vec{Z: share * o.length() * cos})))
			}
		}
		if name := v.sector(o.settings.FallTowardsDeg); name != "" {
			o.fault(faultSector, "it tips into the no-go sector %s", name)
		}
	}
	o.clears = v.clearances(&way, now, v.own(o))
}
