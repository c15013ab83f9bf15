package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/crane"
	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/sight"
	"elkstay/core/swing"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// The parts of the ladder, from the piece to the hand.
const (
	PartPiece     = "piece"
	PartTie       = "tie"
	PartLine      = "line"
	PartBlock     = "block"
	PartSling     = "sling"
	partSpar      = "spar"
	partRedirect  = "redirect"
	PartDevice    = "device"
	partHand      = "hand"
	partSecond    = "second line"
	partFar       = "second block"
	partCrane     = "crane"
	partConnector = "connector"
	partPull      = "pull"
	partHinge     = "hinge"
	partWedge     = "wedge"
	partPush      = "push"
)

// What decides a limit besides what decides that of an item of gear.
const (
	byHitch = "hitch"
	byChart = "chart"
	byWood  = "wood"
	byCrew  = "crew"
	// What hands, a winch or a machine pull.
	byEffort = "effort"
)

// load is what one part of the ladder sees, kN, and what it may see.
type load struct {
	part, name    string
	resting, peak float64
	unseen        bool     // nothing reaches this part
	notHeld       bool     // it is of a line that never stops the piece
	item          string   // id in the locker
	free          bool     // without a limit it is within: none was set
	why           string   // why there is no limit, or nothing to see
	on            string   // what it is on, where several loads may be
	dir           r3.Vec   // unit vector of its force, where that is known
	tug           *tug     // of a felling's line; else nil
	of            *Outcome // of one line of two: its own side; else nil
	policy.Rated
}

// sees is the greater of its load at the peak and at rest, kN.
func (l *load) sees() float64 { return max(l.peak, l.resting) }

// use is the share of its limit that it takes, 1 at the limit.
func (l *load) use() float64 { return l.Use(l.resting, l.sees()) }

// Outcome is everything worked out for one pick on the tree as it stands.
type Outcome struct {
	pick     *job.Pick
	number   int
	offered  *job.Rig // the rig at hand; nil: there is none
	Rig      *job.Rig // nil: the way needs none, or it is not there
	Settings job.Settings
	Weight   mass
	weighed  bool // by the scale
	likely   bool // the likely end of the estimate counts, not the heavy one
	FromM    float64
	toM      float64 // the piece's other end, on the same axis
	standsTo float64 // how high the stem stands once the piece is off
	cut, tip r3.Vec
	tie      r3.Vec
	orient   float64 // degrees from upright, at the cut
	diameter float64 // at the cut
	cavity   float64
	Faults   []OrderFault
	loads    []load

	// On a line.
	DropCase *drop.Case
	Catch    drop.Catch
	hold     float64
	block    r3.Vec
	points   []line.Stop
	Path     line.Tensions // of a load of 1
	arc      *swing.Arc
	swung    *drop.Swung // when the piece swings onto its line
	floor    floor
	pair     *line.Pair
	second   *job.SecondLine // when the way uses it
	carried  line.Carrying
	letGo    []string // what it does when one of two lines that carry it is let go
	lift     *crane.Pick
	lifted   crane.Lift
	radius   float64

	cutRadius  float64  // of its balance from the crane, m
	downRadius *float64 // of where it is put down; nil: nobody says
	slew       []string // how a lift goes round, and over what
	fouls      []string // where its ropes run against something
	felling    *fellingOf
	ends       *endsOf
	tight      *tightened
	tag        *tagging
	stop       *stopping
	twins      *twinned
	bears      float64  // what its own line carries at rest over its weight; 0: as much
	aside      r3.Vec   // what a tag line adds level to its block, kN
	leads      []r3.Vec // of one of two lines: its forces on its block, kN
	leadsRest  float64  // the most of them at rest, kN
	tied       []string // what its crown was tied to
	aloft      bool     // where it comes down is not asked
	ropeM      float64  // rope it needs
	reachM     float64  // how far its limbs reach along its axis from the cut, beyond its own end perhaps
	underM     float64  // and back beyond its cut, m

	round   []*limbWood // that stands round it, once asked for
	clears  []Clearance
	Landing *Landing
	spar    *sparLoad
}

func (o *Outcome) fault(code, format string, args ...any) {
	o.Faults = append(o.Faults, OrderFault{code, fmt.Sprintf(format, args...)})
}

// wind is the point of the compass that it falls towards.
func (o *Outcome) wind() string { return sight.Wind(o.Settings.FallTowardsDeg) }

// Stopped reports a fault that leaves nothing to work out.
func (o *Outcome) Stopped() bool { return len(o.Faults) > 0 }

// Length is the piece's length along its axis, m.
func (o *Outcome) Length() float64 { return o.toM - o.FromM }

// counts is the end of the weight estimate that loads a line, kg.
func (o *Outcome) counts() float64 {
	if o.likely {
		return o.Weight.Kg.Likely
	}
	return o.Weight.Kg.High
}

// bearsKn is what the piece's own line carries at rest: its weight, a tag line's pull with it, or a
// twin line's share of it, kN; between two points the most of its way, on which it may be held anywhere.
func (o *Outcome) bearsKn() float64 {
	switch {
	case o.pair != nil:
		return o.carried.MaxAKn
	case o.bears > 0:
		return o.bears * o.weightKn()
	}
	return o.weightKn()
}

func (o *Outcome) weightKn() float64 { return o.counts() * units.Gravity / 1000 }

// LimbOf is the pick's limb, or −1.
func (v *Survey) LimbOf(p *job.Pick) int {
	if p.What != job.WhatLimb {
		return -1
	}
	return v.limbIndex(p.Limb)
}

// along is the piece's axis at a distance from the cut.
func (v *Survey) along(o *Outcome, d float64) r3.Vec {
	if i := v.LimbOf(o.pick); i >= 0 {
		return v.Limbs[i].at(o.FromM + d)
	}
	return v.onStem(o.FromM + d)
}

// own reports the limbs that come off with a pick.
func (v *Survey) own(o *Outcome) func(limb int) bool {
	self := v.LimbOf(o.pick)
	return func(k int) bool {
		g := &v.Limbs[k]
		switch o.pick.What {
		case job.WhatLimb:
			return k == self || g.Parent == self && g.AtM >= o.FromM
		case job.WhatTop:
			return v.Limbs[v.root(k)].AtM >= o.FromM
		}
		return false
	}
}

// defaultPieceLength is what a section of a stem measures when nobody has said, m.
const defaultPieceLength = 2.5

// defaultCut is where a stem is cut when nobody has said: 2.5 m below its top.
func (v *Survey) defaultCut(now *Standing) float64 {
	return math.Round(100*(now.Top-min(defaultPieceLength, (now.Top-v.Stem.Bottom())/3))) / 100
}

// begin works out what comes off: its ends, weight, place. It names why nothing does.
func (v *Survey) begin(o *Outcome, now *Standing) {
	p := o.pick
	if p.What == job.WhatLimb {
		v.beginLimb(o, now)
		return
	}
	o.FromM, o.toM = job.Or(p.CutM, v.defaultCut(now)), now.Top
	o.standsTo = o.FromM
	bottom := v.Stem.Bottom()
	if o.FromM >= now.Top {
		o.fault(faultGone, "the stem is gone above %s: this cut, at %s, takes nothing", v.Height(now.Top), v.Height(o.FromM))
		return
	}
	if o.FromM <= bottom {
		o.fault(faultGone, "the cut at %s is below the lowest reading (%s), where nothing was measured", v.Height(o.FromM), v.Height(bottom))
		return
	}
	o.diameter, o.cavity = v.Stem.DiameterAt(o.FromM)
	o.cut, o.tip = v.onStem(o.FromM), v.onStem(now.Top)
	o.Weight = v.stemMass(o.FromM, now)
	o.orient = degrees(math.Atan(r3.Norm(v.leanAt(o.FromM))))
	if p.What == job.WhatStem {
		for k := range v.growing(-1, o.FromM, math.Inf(1), now) {
			o.fault(faultBeneath, "%s still stands on it, at %s: take it first, or take the whole top", v.Limbs[k].Title(), v.Height(v.Limbs[k].AtM))
		}
	}
}

func (v *Survey) beginLimb(o *Outcome, now *Standing) {
	p := o.pick
	i := v.limbIndex(p.Limb)
	if i < 0 {
		o.fault(faultGone, "there is no limb %q on this tree", p.Limb)
		return
	}
	g := &v.Limbs[i]
	o.FromM, o.toM = job.Or(p.CutM, 0), now.Tips[i]
	if o.toM <= o.FromM {
		if o.toM <= 0 {
			o.fault(faultGone, "%s is gone already", g.Title())
		} else {
			o.fault(faultGone, "%s ends at %s: a cut at %s takes nothing", g.Title(), v.Height(o.toM), v.Height(o.FromM))
		}
		return
	}
	o.standsTo = now.Top
	o.diameter = g.diameterAt(o.FromM)
	o.cut, o.tip = g.at(o.FromM), g.at(o.toM)
	o.Weight = v.limbMass(i, o.FromM, now)
	o.orient = max(0, min(120, g.AngleDeg+g.DroopDeg*o.FromM/g.LengthM))
}

// judged replaces the survey's estimate by what the eye or the scale says.
func (v *Survey) judged(o *Outcome) {
	p := o.pick
	if p.WeighedKg != nil {
		o.weighed = true
		kg := *p.WeighedKg
		o.Weight.Kg.Low, o.Weight.Kg.Likely, o.Weight.Kg.High = kg*(1-scaleError), kg, kg*(1+scaleError)
		return
	}
	if p.MassKg != nil {
		o.Weight.Kg = o.Weight.Kg.Times(*p.MassKg / o.Weight.Kg.Likely)
		return
	}
	o.Weight.Kg = v.taught(&o.Weight)
}

// taught is what a piece weighs by what the scale has said of this tree: its stem's wood by what
// was said of stem, its limbs by what was said of limbs. What nobody has measured stays as
// uncertain as it was; what nothing was said of is heavier where a piece of both was.
func (v *Survey) taught(m *mass) wood.Range {
	stem := m.stem
	limbs := wood.Range{Low: max(0, m.Kg.Low-stem.Low), Likely: max(0, m.Kg.Likely-stem.Likely), High: max(0, m.Kg.High-stem.High)}
	by := func(learned *timber.Learned, of wood.Range, less, more float64) wood.Range {
		if learned == nil {
			of.High *= max(1, v.heavier)
			return of
		}
		return wood.Range{Low: of.Likely * learned.LowFactor * less, Likely: of.Likely * learned.Factor, High: of.Likely * learned.HighFactor * more}
	}
	less, more := 1.0, 1.0
	if v.offered {
		less, more = offeredLess, offeredMore
	}
	stem = by(v.learned[false], stem, less, more)
	share := min(1, m.guessed/max(1e-9, limbs.Likely))
	limbs = by(v.learned[true], limbs, 1-share*(1-guessLess), 1+share*(guessMore-1))
	return wood.Range{Low: stem.Low + limbs.Low, Likely: stem.Likely + limbs.Likely, High: stem.High + limbs.High}
}

// scaleError is how far a scale may be off (common practice).
const scaleError = 0.02

// FallTowards is the way a piece tips.
func (v *Survey) FallTowards(p *job.Pick) float64 {
	if p.FallTowardsDeg != nil {
		return *p.FallTowardsDeg
	}
	if i := v.LimbOf(p); i >= 0 {
		return v.Limbs[i].AzimuthDeg
	}
	if len(v.Job.Site.Zones) > 0 {
		middle := r3.Vec{}
		outline := v.Job.Site.Zones[0].Outline
		for _, c := range outline {
			middle = r3.Add(middle, r3.Vec{X: c.X / float64(len(outline)), Y: c.Y / float64(len(outline))})
		}
		if off, leads := direction(level(r3.Sub(middle, v.foot)), 0.5); leads {
			return math.Round(azimuthOf(off))
		}
	}
	return azimuthOf(heading(0, r3.Vec{Y: 1}, v.leanAt(job.Or(p.CutM, 0))))
}

// work works out one pick on the tree as it stands, with the rig it names.
func (v *Survey) work(p *job.Pick, number int, now *Standing) *Outcome {
	return v.WorkWith(p, v.RigOf(p), number, now)
}

// WorkWith works out one pick on the tree as it stands, on a rig; nil: there is none.
func (v *Survey) WorkWith(p *job.Pick, rig *job.Rig, number int, now *Standing) *Outcome {
	o := v.workedOut(p, rig, number, now)
	v.bar(o)
	return o
}

func (v *Survey) workedOut(p *job.Pick, rig *job.Rig, number int, now *Standing) *Outcome {
	return v.workedFrom(&Outcome{pick: p, offered: rig, number: number}, now)
}

// workedFrom works out an outcome of which the pick and its rig are known.
func (v *Survey) workedFrom(o *Outcome, now *Standing) *Outcome {
	p := o.pick
	o.hold, o.likely = math.Inf(1), v.limits.WeightEnd == policy.EndLikely
	o.Settings = (&job.Rig{}).Settings(p)
	o.Settings.FallTowardsDeg = v.FallTowards(p)
	v.begin(o, now)
	if !o.Weight.known() {
		return o
	}
	v.judged(o)
	v.tiedIn(o, now)
	piece := load{part: PartPiece, resting: o.Weight.Kg.Likely * units.Gravity / 1000, peak: o.weightKn(), free: true, why: "no heaviest piece is set"}
	how := o.manner()
	how.bound(v, o, &piece)
	o.loads = append(o.loads, piece)
	how.work(v, o, now)
	v.tiedCrowns(o, now)
	return o
}

// Because says why the piece is proposed so.
func (o *Outcome) Because(v *Survey) string { return o.manner().because(v, o) }

// RigOf is the rig that a pick names, else the first; nil: there is none.
func (v *Survey) RigOf(p *job.Pick) *job.Rig {
	for i := range v.Job.Rigs {
		if v.Job.Rigs[i].ID == p.Rig || p.Rig == "" {
			return &v.Job.Rigs[i]
		}
	}
	return nil
}

func (v *Survey) rigMissing(p *job.Pick) string {
	if p.Rig == "" {
		return "this way down needs a rig, and there is none"
	}
	return fmt.Sprintf("there is no rig %q any more", p.Rig)
}

// below is how far the piece hangs below its tie, as its balance tells.
func (o *Outcome) below() float64 {
	if o.Weight.cog > o.Settings.TieM {
		return o.reachM - o.Settings.TieM
	}
	return o.Settings.TieM + o.underM
}

// mostBelow is the most that it may hang below a tie, m from its cut: tied near its balance either end may be down.
func (o *Outcome) mostBelow(tieM float64) float64 {
	near := anyWay * o.Length()
	switch off := o.Weight.cog - tieM; {
	case off > near:
		return o.reachM - tieM
	case off < -near:
		return tieM + o.underM
	}
	return max(o.reachM-tieM, tieM+o.underM)
}

// lowest is the height of the piece's lower end at its lowest, and whether it stops.
func (o *Outcome) lowest() (z float64, stops bool) {
	switch {
	case o.ends != nil:
		return o.ends.lowM, true
	case o.pair != nil:
		return *o.pair.PieceZ - o.mostBelow(o.Settings.TieM), true
	case o.DropCase == nil || !o.Catch.Holds:
		return 0, false
	case o.swung != nil:
		return o.block.Z - o.Catch.LowestM - o.mostBelow(o.Settings.TieM), true
	}
	// The drop reckons with the end that its balance tells.
	return o.cut.Z - o.Catch.LowestM - (o.mostBelow(o.Settings.TieM) - o.below()), true
}
