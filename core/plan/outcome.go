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
	partPiece     = "piece"
	partTie       = "tie"
	partLine      = "line"
	partBlock     = "block"
	partSling     = "sling"
	partSpar      = "spar"
	partRedirect  = "redirect"
	partDevice    = "device"
	partHand      = "hand"
	partSecond    = "second line"
	partFar       = "second block"
	partCrane     = "crane"
	partConnector = "connector"
)

// What decides a limit besides what decides that of an item of gear.
const (
	byHitch = "hitch"
	byChart = "chart"
	byWood  = "wood"
	byCrew  = "crew"
)

// load is what one part of the ladder sees, kN, and what it may see.
type load struct {
	part, name    string
	resting, peak float64
	unseen        bool       // nothing reaches this part
	item          string     // id in the locker
	limit         gear.Limit // of the peak
	restLimit     float64    // of the load at rest, when the school asks for one of its own
	decided       string     // what decided the limit
	cautions      []string
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
	likely   bool // the likely end of the estimate counts, not the heavy one
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

// counts is the end of the weight estimate that loads a line, kg.
func (o *outcome) counts() float64 {
	if o.likely {
		return o.weight.kg.Likely
	}
	return o.weight.kg.High
}

func (o *outcome) weightKn() float64 { return o.counts() * units.Gravity / 1000 }

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
			return k == self || g.parent == self && g.AtM >= o.fromM
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
	o := v.workedOut(p, rig, number, now)
	v.bar(o)
	return o
}

func (v *survey) workedOut(p *Pick, rig *Rig, number int, now *standing) *outcome {
	o := &outcome{pick: p, number: number, hold: math.Inf(1), likely: v.limits.WeightEnd == EndLikely}
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
		piece.limit, piece.known = gear.Limit{Kn: *kg * units.Gravity / 1000, Reason: fmt.Sprintf("the heaviest piece, %s: %s", units.Print(units.Mass, v.system, *kg), ruled(v.job.Limits.PieceKg)), Source: "as given"}, true
		piece.decided = byCrew
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

// below is how far the piece hangs below its tie.
func (o *outcome) below() float64 {
	if o.weight.cog > o.settings.TieM {
		return o.length() - o.settings.TieM
	}
	return o.settings.TieM
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
