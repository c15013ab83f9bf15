package plan

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/crane"
	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/line"
	"elkstay/core/swing"
	"elkstay/core/units"
)

// The parts of the ladder, from the piece to the hand.
const (
	partPiece    = "piece"
	partTie      = "tie"
	partLine     = "line"
	partBlock    = "block"
	partSling    = "sling"
	partSpar     = "spar"
	partRedirect = "redirect"
	partDevice   = "device"
	partHand     = "hand"
	partSecond   = "second line"
	partFar      = "second block"
	partCrane    = "crane"
)

// load is what one part of the ladder sees, kN, and what it may see.
type load struct {
	part, name    string
	resting, peak float64
	unseen        bool // nothing reaches this part
	limit         gear.Limit
	known         bool
	free          bool   // without a limit it is within: none was set
	why           string // why there is no limit, or nothing to see
}

// outcome is everything worked out for one pick on the tree as it stands.
type outcome struct {
	pick     *Pick
	number   int
	rig      *Rig // nil: the way needs none, or it is not there
	settings Settings
	weight   mass
	weighed  bool // by the scale
	fromM    float64
	toM      float64 // the piece's other end, on the same axis
	standsTo float64 // how high the stem stands once the piece is off
	cut, tip r3.Vec
	tie      r3.Vec
	orient   float64 // degrees from upright, at the cut
	diameter float64 // at the cut
	cavity   float64
	faults   []OrderFault
	loads    []load

	// On a line.
	kase    *drop.Case
	catch   drop.Catch
	hold    float64
	block   r3.Vec
	points  []line.Stop
	path    line.Tensions // of a load of 1
	arc     *swing.Arc
	swings  bool // the arc gives the peak
	whole   bool // the fall of the case holds that of the whole arc
	floor   floor
	pair    *line.Pair
	carried line.Carrying
	lift    *crane.Pick
	lifted  crane.Lift
	radius  float64
	ropeM   float64 // rope it needs

	clears  []Clearance
	landing *Landing
	spar    *sparLoad
}

func (o *outcome) fault(code, format string, args ...any) {
	o.faults = append(o.faults, OrderFault{code, fmt.Sprintf(format, args...)})
}

// stopped reports a fault that leaves nothing to work out.
func (o *outcome) stopped() bool { return len(o.faults) > 0 }

func (o *outcome) length() float64 { return o.toM - o.fromM }

func (o *outcome) weightKn() float64 { return o.weight.kg.High * units.Gravity / 1000 }

// limbOf is the pick's limb, or −1.
func (v *survey) limbOf(p *Pick) int {
	if p.What != WhatLimb {
		return -1
	}
	return v.limbIndex(p.Limb)
}

// along is the piece's axis at a distance from the cut.
func (v *survey) along(o *outcome, d float64) r3.Vec {
	if i := v.limbOf(o.pick); i >= 0 {
		return v.limbs[i].at(o.fromM + d)
	}
	return v.onStem(o.fromM + d)
}

// own reports the limbs that come off with a pick.
func (v *survey) own(o *outcome) func(limb int) bool {
	self := v.limbOf(o.pick)
	return func(k int) bool {
		g := &v.limbs[k]
		switch o.pick.What {
		case WhatLimb:
			return k == self || g.parent == self
		case WhatTop:
			root := k
			if g.parent >= 0 {
				root = g.parent
			}
			return v.limbs[root].AtM >= o.fromM
		}
		return false
	}
}

// defaultCut is where a stem is cut when nobody has said: 2.5 m below its top.
func (v *survey) defaultCut(now *standing) float64 {
	return math.Round(100*(now.top-min(defaultPieceLength, (now.top-v.stem.Bottom())/3))) / 100
}

// begin works out what comes off: its ends, weight, place. It names why nothing does.
func (v *survey) begin(o *outcome, now *standing) {
	p := o.pick
	if p.What == WhatLimb {
		v.beginLimb(o, now)
		return
	}
	o.fromM, o.toM = orElse(p.CutM, v.defaultCut(now)), now.top
	o.standsTo = o.fromM
	bottom := v.stem.Bottom()
	if o.fromM >= now.top {
		o.fault(faultGone, "the stem is gone above %s: this cut, at %s, takes nothing", v.height(now.top), v.height(o.fromM))
		return
	}
	if o.fromM <= bottom {
		o.fault(faultGone, "the cut at %s is below the lowest reading (%s), where nothing was measured", v.height(o.fromM), v.height(bottom))
		return
	}
	o.diameter, o.cavity = v.stem.DiameterAt(o.fromM)
	o.cut, o.tip = v.onStem(o.fromM), v.onStem(now.top)
	o.weight = v.stemMass(o.fromM, now)
	o.orient = degrees(math.Atan(r3.Norm(v.lean)))
	if p.What == WhatStem {
		for k := range v.limbs {
			if v.limbs[k].parent < 0 && now.tips[k] > 0 && v.limbs[k].AtM >= o.fromM {
				o.fault(faultBeneath, "%s still stands on it, at %s: take it first, or take the whole top", v.limbs[k].title(), v.height(v.limbs[k].AtM))
			}
		}
	}
}

func (v *survey) beginLimb(o *outcome, now *standing) {
	p := o.pick
	i := v.limbIndex(p.Limb)
	if i < 0 {
		o.fault(faultGone, "there is no limb %q on this tree", p.Limb)
		return
	}
	g := &v.limbs[i]
	o.fromM, o.toM = orElse(p.CutM, 0), now.tips[i]
	if o.toM <= o.fromM {
		if o.toM <= 0 {
			o.fault(faultGone, "%s is gone already", g.title())
		} else {
			o.fault(faultGone, "%s ends at %s: a cut at %s takes nothing", g.title(), v.height(o.toM), v.height(o.fromM))
		}
		return
	}
	o.standsTo = now.top
	o.diameter = g.diameterAt(o.fromM)
	o.cut, o.tip = g.at(o.fromM), g.at(o.toM)
	o.weight = v.limbMass(i, o.fromM, now)
	o.orient = max(0, min(120, g.AngleDeg+g.DroopDeg*o.fromM/g.LengthM))
}

// judged replaces the survey's estimate by what the eye or the scale says.
func (v *survey) judged(o *outcome) {
	p := o.pick
	if p.WeighedKg != nil {
		o.weighed = true
		kg := *p.WeighedKg
		o.weight.kg.Low, o.weight.kg.Likely, o.weight.kg.High = kg*(1-scaleError), kg, kg*(1+scaleError)
		return
	}
	if p.MassKg != nil {
		o.weight.kg = o.weight.kg.Times(*p.MassKg / o.weight.kg.Likely)
		return
	}
	if learned := v.learned[p.What == WhatLimb]; learned != nil {
		likely := o.weight.kg.Likely
		o.weight.kg.Low, o.weight.kg.Likely, o.weight.kg.High = likely*learned.LowFactor, likely*learned.Factor, likely*learned.HighFactor
	}
}

// scaleError is how far a scale may be off (common practice).
const scaleError = 0.02

// fallTowards is the way a piece tips.
func (v *survey) fallTowards(p *Pick) float64 {
	if p.FallTowardsDeg != nil {
		return *p.FallTowardsDeg
	}
	if i := v.limbOf(p); i >= 0 {
		return v.limbs[i].AzimuthDeg
	}
	if len(v.job.Site.Zones) > 0 {
		middle := r3.Vec{}
		outline := v.job.Site.Zones[0].Outline
		for _, c := range outline {
			middle = r3.Add(middle, r3.Vec{X: c.X / float64(len(outline)), Y: c.Y / float64(len(outline))})
		}
		if off := level(r3.Sub(middle, v.foot)); r3.Norm(off) > 0.5 {
			return math.Round(azimuthOf(off))
		}
	}
	if r3.Norm(v.lean) > 0 {
		return azimuthOf(v.lean)
	}
	return 0
}

// work works out one pick on the tree as it stands, with the rig it names.
func (v *survey) work(p *Pick, number int, now *standing) *outcome {
	return v.workWith(p, v.rigOf(p), number, now)
}

// workWith works out one pick on the tree as it stands, on a rig; nil: there is none.
func (v *survey) workWith(p *Pick, rig *Rig, number int, now *standing) *outcome {
	o := &outcome{pick: p, number: number, hold: math.Inf(1)}
	o.settings = (&Rig{}).settings(p)
	o.settings.FallTowardsDeg = v.fallTowards(p)
	v.begin(o, now)
	if o.weight.kg.Likely <= 0 {
		return o
	}
	v.judged(o)
	v.tiedIn(o, now)
	piece := load{part: partPiece, resting: o.weight.kg.Likely * units.Gravity / 1000, peak: o.weightKn(), free: true, why: "no heaviest piece is set"}
	if kg := v.limits.PieceKg; kg != nil && p.Way != WayFree && p.Way != WayCrane {
		piece.limit, piece.known = gear.Limit{Kn: *kg * units.Gravity / 1000, Reason: fmt.Sprintf("the crew's heaviest piece, %s", units.Print(units.Mass, v.system, *kg)), Source: "as given"}, true
	}
	if p.Way == WayFree {
		piece.why = "it goes free: no line to keep to"
	}
	if p.Way == WayThrown {
		piece.limit, piece.known = gear.Limit{Kn: v.limits.ThrowKg * units.Gravity / 1000, Reason: fmt.Sprintf("thrown by hand: %s", units.Print(units.Mass, v.system, v.limits.ThrowKg)), Source: "the crew's own"}, true
	}
	o.loads = append(o.loads, piece)
	if p.Way == WayThrown || p.Way == WayFree {
		v.unheld(o, now)
		return o
	}
	if o.stopped() {
		return o
	}
	if p.Way == WayCrane {
		v.craned(o)
		return o
	}
	if o.rig = rig; o.rig == nil {
		o.fault(faultRig, "%s", v.rigMissing(p))
		return o
	}
	fall := o.settings.FallTowardsDeg
	o.settings = o.rig.settings(p)
	o.settings.FallTowardsDeg = fall
	if p.TieM != nil {
		o.settings.TieM = *p.TieM
	} else if p.What == WhatLimb {
		o.settings.TieM = math.Floor(100*o.weight.cog) / 100
	}
	if o.rig.Rope == nil {
		o.fault(faultRig, "%s has no rope: choose one", o.rig.Name)
		return o
	}
	if o.settings.TieM >= o.length() {
		o.fault(faultTie, "the tie, %s from the cut, is at or beyond the piece's end (%s long)", v.height(o.settings.TieM), v.height(o.length()))
		return o
	}
	o.tie = v.along(o, o.settings.TieM)
	v.rigged(o, now)
	return o
}

func (v *survey) rigOf(p *Pick) *Rig {
	for i := range v.job.Rigs {
		if v.job.Rigs[i].ID == p.Rig || p.Rig == "" {
			return &v.job.Rigs[i]
		}
	}
	return nil
}

func (v *survey) rigMissing(p *Pick) string {
	if p.Rig == "" {
		return "this way down needs a rig, and there is none"
	}
	return fmt.Sprintf("there is no rig %q any more", p.Rig)
}

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
		if o != nil && o.pick.What != WhatLimb && v.own(o)(i) {
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
		Piece: drop.Piece{MassKg: o.weight.kg.High, CogAboveCutM: max(1e-3, o.weight.cog), LengthM: o.length()},
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
	if limit, known := rig.Rope.Rating().WorkingLimit(v.limits.DesignFactor); known {
		c.LineLimitKn = &limit.Kn
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
	return swing.Swing{Pivot: pointOf(o.block), Tie: pointOf(o.tie), MassKg: o.weight.kg.High, ReachM: o.below()}
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

// below is how far the piece hangs below its tie.
func (o *outcome) below() float64 {
	if o.weight.cog > o.settings.TieM {
		return o.length() - o.settings.TieM
	}
	return o.settings.TieM
}

// carry works out a piece carried between two points.
func (v *survey) carry(o *outcome, now *standing, onStem bool) {
	second := o.rig.Second
	if second == nil {
		o.fault(faultRig, "%s has no second line: two points need two", o.rig.Name)
		return
	}
	far, why := v.place(&second.Place, now, o)
	if why != "" {
		o.fault(faultBlock, "the second block sits %s", why)
		return
	}
	if !v.wayOfLine(o, now) {
		return
	}
	at := orElse(o.pick.CarryM, min(o.block.Z, far.Z)-carryBelow)
	r := o.settings.BlockEfficiency
	o.pair = &line.Pair{A: pointOf(o.block), B: pointOf(far), MassKg: o.weight.kg.High, PieceZ: &at, Efficiency: &r}
	if faults := o.pair.Faults("body"); len(faults) > 0 {
		o.fault(faultReach, "%s", faults[0].Message)
		o.pair = nil
		return
	}
	o.carried = o.pair.Solve()
	o.catch = drop.Catch{LinePeakKn: o.carried.MaxAKn, DevicePeakKn: o.carried.MaxAKn * o.ratio(), Holds: true, Amplification: o.carried.MaxAKn / o.weightKn()}
	v.lineLoads(o, onStem)
	way := sweep{reach: max(0.5, o.length()/4)}
	low := math.Inf(1)
	for _, c := range o.carried.Way {
		hang := c.At.Vec()
		way.at = append(way.at, hang, r3.Sub(hang, r3.Vec{Z: o.below()}))
		beneath := v.floorUnder(hang.X, hang.Y, way.reach, at, now, v.own(o))
		if clear := at - o.below() - beneath.z; clear < low {
			low, o.floor = clear, beneath
		}
	}
	o.clears = v.clearances(&way, now, v.own(o))
	lead := 0.0
	for _, leg := range o.path.Legs[1:] {
		lead += leg.LengthM
	}
	o.ropeM = lead + r3.Norm(r3.Sub(far, o.block)) + spareRope
	v.ropeReaches(o)
}

// craned works out a crane's lift.
func (v *survey) craned(o *outcome) {
	lift := o.pick.Lift
	if lift == nil {
		o.fault(faultRig, "a crane takes it, but neither crane nor slings are chosen")
		return
	}
	var stands *Crane
	for i := range v.job.Site.Cranes {
		if v.job.Site.Cranes[i].ID == lift.Crane {
			stands = &v.job.Site.Cranes[i]
		}
	}
	if stands == nil {
		o.fault(faultRig, "there is no crane %q on the site", lift.Crane)
		return
	}
	o.radius = math.Hypot(o.weight.at.X-stands.At.X, o.weight.at.Y-stands.At.Y)
	if down := lift.SetDown; down != nil {
		o.radius = max(o.radius, math.Hypot(down.X-stands.At.X, down.Y-stands.At.Y))
	}
	o.radius = max(0.1, o.radius)
	o.lift = &crane.Pick{
		MassKg: o.weight.kg, Piece: crane.Piece{LengthM: o.length(), CogM: max(1e-3, min(o.length()-1e-3, o.weight.cog))},
		Slings: lift.Slings, RiggingKg: stands.RiggingKg, Chart: stands.Chart, RadiusM: o.radius, BoomM: stands.BoomM, ChartUsePct: stands.ChartUsePct,
	}
	if faults := o.lift.Faults("body"); len(faults) > 0 {
		o.fault(faultSlings, "%s; allowed: %s", faults[0].Message, faults[0].Allowed)
		o.lift = nil
		return
	}
	o.lifted = o.lift.Solve()
	slings := o.lifted.Slings
	if o.lifted.WorstTwo != nil {
		slings = o.lifted.WorstTwo
	}
	for _, s := range slings {
		o.loads = append(o.loads, load{part: partSling, name: s.Name, resting: s.TensionKn, peak: s.TensionKn, known: true,
			limit: gear.Limit{Kn: s.RatingKn, Reason: "marked limit, by hitch and choke", Source: "ASME B30.9 (from memory)"}})
	}
	hook := load{part: partCrane, name: stands.Name, resting: o.lifted.HookKg.Likely * units.Gravity / 1000, peak: o.lifted.HookKg.High * units.Gravity / 1000}
	if o.lifted.CapacityKg != nil {
		share := orElse(stands.ChartUsePct, 75)
		hook.known = true
		hook.limit = gear.Limit{Kn: *o.lifted.CapacityKg * share / 100 * units.Gravity / 1000, Source: "the crane's chart",
			Reason: fmt.Sprintf("%g %% of the chart's %s at %s", share, units.Print(units.Mass, v.system, *o.lifted.CapacityKg), v.height(o.radius))}
	} else {
		hook.why = "the chart has no such lift"
		o.fault(faultReach, "%s cannot reach it: the chart has nothing at %s with %s of boom", stands.Name, v.height(o.radius), v.height(stands.BoomM))
	}
	o.loads = append(o.loads, hook)
	o.clears = []Clearance{}
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

// lowest is the height of the piece's lower end at its lowest, and whether it stops.
func (o *outcome) lowest() (z float64, stops bool) {
	switch {
	case o.pair != nil:
		return *o.pair.PieceZ - o.below(), true
	case o.kase == nil || !o.catch.Holds:
		return 0, false
	case o.swings && !o.whole:
		return o.arc.LowestM - o.catch.StretchM, true
	}
	return o.cut.Z - o.catch.LowestM, true
}
