package space

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/search"
	"elkstay/core/timber"
	"elkstay/core/units"
)

// AnyWay is how near to its balance a piece is tied that may hang any way, as a share of its length (common practice, no
// source).
const AnyWay = 0.15

// Caught is how much of a piece the wind catches, its outline as if it were closed, m², and how high
// the middle of that stands.
func (p *Piece) Caught() (area, height float64) {
	sum := 0.0
	for _, b := range p.Body() {
		part := 2 * b.R * b.Gap
		area += part
		sum += part * (p.Cut.Z + b.Off.Z)
	}
	return area, sum / max(1e-9, area)
}

// lumpsApart is how long the lengths are that wood and brush are told apart in for how a piece turns, m.
const lumpsApart = 0.25

// Gyration is a piece's radius of gyration about its balance, square to a way of the plan, m: how its wood, its brush, the
// limbs on it and what hangs on them lie. A limb that tapers turns more easily than a rod of its length.
func (p *Piece) Gyration(way r3.Vec) float64 {
	square := r3.Cross(way, r3.Vec{Z: 1})
	sum, mass := 0.0, 0.0
	add := func(kg, long float64, at r3.Vec) {
		off := r3.Sub(at, p.Weight.At)
		along := r3.Dot(off, square)
		// And each length about its own middle.
		sum, mass = sum+kg*(r3.Dot(off, off)-along*along+long*long/12), mass+kg
	}
	if self := p.Limb(); self >= 0 {
		p.lumps(self, p.FromM, p.Now, add)
	} else {
		high := p.ToM - p.FromM
		parts := math.Ceil(high / lumpsApart)
		for k := range int(parts) {
			low, high := p.FromM+high*float64(k)/parts, p.FromM+high*float64(k+1)/parts
			weight, slant := p.Stem.WeighBetween(low, high, p.Density, timber.Frustum), p.Slant((low+high)/2)
			add(weight.MassKg.Likely*slant, (high-low)*slant, p.OnStem(weight.CogM))
		}
		if p.Pick.What == job.WhatTop {
			for k := range p.Growing(-1, p.FromM, math.Inf(1), p.Now) {
				p.lumps(k, 0, p.Now, add)
			}
		}
	}
	return math.Sqrt(sum / mass)
}

// lumps gives what a limb weighs from a cut on, length by length, kg: as limbMass weighs it.
func (v *Tree) lumps(i int, cut float64, now *Standing, add func(kg, long float64, at r3.Vec)) {
	g := &v.Limbs[i]
	end := now.Tips[i]
	brush, begins := v.Brush(i).Likely, BrushFrom*g.LengthM
	parts := math.Ceil((end - cut) / lumpsApart)
	for k := range int(parts) {
		low, high := cut+(end-cut)*float64(k)/parts, cut+(end-cut)*float64(k+1)/parts
		kg, cog := v.Bare(g, low, high)
		add(kg.Likely, high-low, g.At(cog))
		add(brush*max(0, high-max(low, begins))/(g.LengthM-begins), high-low, g.At((max(low, begins)+high)/2))
	}
	for k := range v.Growing(i, cut, end, now) {
		v.lumps(k, 0, now, add)
	}
	for at, kg := range v.Hanging(i, cut, end) {
		add(kg, 0, g.At(at))
	}
}

// Covers is the ground that a piece covers where it lies, m²: its wood end to end, and its
// brush as a fan of its spread, pressed to half (common practice, no source).
func (p *Piece) Covers() float64 {
	area := 0.0
	limb := func(k int, from float64) {
		g := &p.Limbs[k]
		long := max(0, p.Now.Tips[k]-from)
		area += long * g.DiameterAt(from)
		if g.Brush != job.BrushBare {
			area += long * BrushSpread * g.LengthM / 2
		}
	}
	self, own := p.Limb(), p.Own()
	if self >= 0 {
		limb(self, p.FromM)
	} else {
		area += p.LongM * p.DiameterM
	}
	for k := range p.Limbs {
		if k != self && p.Now.Stands(k) && own(k) {
			limb(k, 0)
		}
	}
	return area
}

// reaches is how far the limbs of a piece reach along its axis from the cut, and back beyond it, m: hanging by one
// end they hang as far below, or under the other.
func (p *Piece) reaches() (far, under float64) {
	far = p.Length()
	axis, own, self := r3.Unit(r3.Sub(p.Tip, p.Cut)), p.Own(), p.Limb()
	for k := range p.Limbs {
		if k == self || !own(k) || !p.Now.Stands(k) {
			continue
		}
		for share := range search.Shares(16) {
			out := r3.Dot(r3.Sub(p.Limbs[k].At(p.Now.Tips[k]*share), p.Cut), axis)
			far, under = max(far, out), max(under, -out)
		}
	}
	return far, under
}

// Length is the piece's length along its axis, m: of a stem that leans or bends it is more than the height between its ends.
func (p *Piece) Length() float64 { return p.LongM }

// Counts is the end of the weight estimate that loads a line, kg.
func (p *Piece) Counts() float64 {
	if p.LikelyCounts {
		return p.Weight.Kg.Likely
	}
	return p.Weight.Kg.High
}

// WeightKn is what counts of its weight, kN.
func (p *Piece) WeightKn() float64 { return p.Counts() * units.Gravity / 1000 }

// LimbOf is the pick's limb, or −1.
func (v *Tree) LimbOf(p *job.Pick) int {
	if p.What != job.WhatLimb {
		return -1
	}
	return v.LimbIndex(p.Limb)
}

// Along is the piece's axis at a distance from the cut.
func (p *Piece) Along(d float64) r3.Vec {
	if i := p.Limb(); i >= 0 {
		return p.Limbs[i].At(p.FromM + d)
	}
	return p.OnStem(p.UpStem(p.FromM, d))
}

// Own reports the limbs that come off with a pick.
func (p *Piece) Own() func(limb int) bool {
	self := p.Limb()
	return func(k int) bool {
		g := &p.Limbs[k]
		switch p.Pick.What {
		case job.WhatLimb:
			return k == self || g.Parent == self && g.AtM >= p.FromM
		case job.WhatTop:
			return p.Limbs[p.Root(k)].AtM >= p.FromM
		}
		return false
	}
}

// defaultPieceLength is what a section of a stem measures when nobody has said, m.
const defaultPieceLength = 2.5

// DefaultCut is where a stem is cut when nobody has said: 2.5 m below its top.
func (v *Tree) DefaultCut(now *Standing) float64 {
	return math.Round(100*(now.Top-min(defaultPieceLength, (now.Top-v.Stem.Bottom())/3))) / 100
}

// A Piece is what one pick takes, on the tree as it stands before the cut.
type Piece struct {
	*Tree
	Now    *Standing // the trees before the cut: its own copy
	Pick   *job.Pick
	Number int // its place in the order, from 1

	FromM, ToM   float64 // the cut and its other end, along the stem's height or the limb's axis, m
	StandsToM    float64 // how high the stem stands once the piece is off
	Cut, Tip     r3.Vec  // middle of the cut, and its other end
	OrientDeg    float64 // at the cut, from upright
	DiameterM    float64 // at the cut
	CavityM      float64 // of the hole there
	Weight       Mass
	Weighed      bool    // by the scale
	LikelyCounts bool    // the likely end of the estimate loads lines, not the heavy one
	FallDeg      float64 // azimuth that it tips towards
	ReachM       float64 // how far its limbs reach along its axis from the cut, beyond its own end perhaps
	UnderM       float64 // and back beyond its cut
	LongM        float64 // along its axis
	Faults       []OrderFault
	round        []*Wood // that stands round it, once asked for
	body         []Part  // once asked for
}

// An OrderFault is why a pick cannot happen where it stands in the order.
type OrderFault struct {
	Code    string `json:"code" enum:"gone,beneath,block,tie-in,tie,rig,too-long,reach,sector,slings,gear,back-lean,fell,tied"`
	Message string `json:"message"`
}

// Why a pick takes nothing, or more than it may.
const (
	FaultGone    = "gone"    // what it takes is gone already
	FaultBeneath = "beneath" // it cuts beneath limbs that stand
)

// Fault adds why the piece cannot happen so.
func (p *Piece) Fault(code, format string, args ...any) {
	p.Faults = append(p.Faults, OrderFault{code, fmt.Sprintf(format, args...)})
}

// Take works out what a pick takes of the tree as it stands: its ends, weight and place, by the
// survey alone. Faults say why it takes nothing, or not that.
func (v *Tree) Take(pick *job.Pick, number int, now *Standing) *Piece {
	p := &Piece{Tree: v, Now: now, Pick: pick, Number: number, FallDeg: v.FallTowards(pick)}
	if pick.What == job.WhatLimb {
		p.takeLimb()
		return p
	}
	p.FromM, p.ToM = job.Or(pick.CutM, v.DefaultCut(now)), now.Top
	p.StandsToM, p.LongM = p.FromM, v.AlongStem(p.FromM, p.ToM)
	bottom := v.Stem.Bottom()
	if p.FromM >= now.Top {
		p.Fault(FaultGone, "the stem is gone above %s: this cut, at %s, takes nothing", v.Site.Height(now.Top), v.Site.Height(p.FromM))
		return p
	}
	if p.FromM <= bottom {
		p.Fault(FaultGone, "the cut at %s is below the lowest reading (%s), where nothing was measured", v.Site.Height(p.FromM), v.Site.Height(bottom))
		return p
	}
	p.DiameterM, p.CavityM = v.Stem.DiameterAt(p.FromM)
	p.Cut, p.Tip = v.OnStem(p.FromM), v.OnStem(now.Top)
	p.Weight = v.StemMass(p.FromM, now)
	p.OrientDeg = Degrees(math.Atan(r3.Norm(v.LeanAt(p.FromM))))
	if pick.What == job.WhatStem {
		for k := range v.Growing(-1, p.FromM, math.Inf(1), now) {
			p.Fault(FaultBeneath, "%s still stands on it, at %s: take it first, or take the whole top", v.Limbs[k].Title(), v.Site.Height(v.Limbs[k].AtM))
		}
	}
	return p
}

func (p *Piece) takeLimb() {
	i := p.LimbIndex(p.Pick.Limb)
	if i < 0 {
		p.Fault(FaultGone, "there is no limb %q on this tree", p.Pick.Limb)
		return
	}
	g := &p.Limbs[i]
	p.FromM, p.ToM = job.Or(p.Pick.CutM, 0), p.Now.Tips[i]
	if p.ToM <= p.FromM {
		if p.ToM <= 0 {
			p.Fault(FaultGone, "%s is gone already", g.Title())
		} else {
			p.Fault(FaultGone, "%s ends at %s: a cut at %s takes nothing", g.Title(), p.Site.Height(p.ToM), p.Site.Height(p.FromM))
		}
		return
	}
	p.StandsToM, p.LongM = p.Now.Top, p.ToM-p.FromM
	p.DiameterM = g.DiameterAt(p.FromM)
	p.Cut, p.Tip = g.At(p.FromM), g.At(p.ToM)
	p.Weight = p.LimbMass(i, p.FromM, p.Now)
	p.OrientDeg = max(0, min(120, g.AngleDeg+g.DroopDeg*p.FromM/g.LengthM))
}

// Judge replaces the survey's estimate by what the eye or the scale says of the piece.
func (p *Piece) Judge() {
	p.ReachM, p.UnderM = p.reaches()
	if p.Pick.WeighedKg != nil && (p.Pick.WeighedOf == nil || p.Is(p.Pick.WeighedOf)) {
		p.Weighed = true
		kg := *p.Pick.WeighedKg
		p.Weight.Kg.Low, p.Weight.Kg.Likely, p.Weight.Kg.High = kg*(1-scaleError), kg, kg*(1+scaleError)
		return
	}
	if p.Pick.MassKg != nil {
		p.Weight.Kg = byEye(p.Weight.Kg, p.taught(&p.Weight).High, *p.Pick.MassKg, p.Pick.MassWhy)
		return
	}
	p.Weight.Kg = p.taught(&p.Weight)
}

// TakesNothing reports that nothing is known of the piece: its faults say why.
func (p *Piece) TakesNothing() bool { return !p.Weight.Known() }

// Limb is the index of the limb that it is, or −1.
func (p *Piece) Limb() int { return p.LimbOf(p.Pick) }

// Off takes the piece off a tree.
func (p *Piece) Off(now *Standing) {
	switch i := p.Limb(); {
	case p.TakesNothing():
	case i >= 0:
		p.TakeOff(now, i, p.FromM)
	default:
		p.TakeTop(now, p.FromM)
	}
}

// FallTowards is the way a piece tips.
func (v *Tree) FallTowards(p *job.Pick) float64 {
	if p.FallTowardsDeg != nil {
		return *p.FallTowardsDeg
	}
	if i := v.LimbOf(p); i >= 0 {
		return v.Limbs[i].AzimuthDeg
	}
	if len(v.Site.Job.Site.Zones) > 0 {
		middle := r3.Vec{}
		outline := v.Site.Job.Site.Zones[0].Outline
		for _, c := range outline {
			middle = r3.Add(middle, r3.Vec{X: c.X / float64(len(outline)), Y: c.Y / float64(len(outline))})
		}
		if off, leads := Direction(Level(r3.Sub(middle, v.Foot)), 0.5); leads {
			return math.Round(AzimuthOf(off))
		}
	}
	return AzimuthOf(Heading(0, r3.Vec{Y: 1}, v.LeanAt(job.Or(p.CutM, 0))))
}

// Below is how far the piece hangs below where it is tied, m from its cut, as its balance tells.
func (p *Piece) Below(tieM float64) float64 {
	if p.Weight.CogM > tieM {
		return p.ReachM - tieM
	}
	return tieM + p.UnderM
}

// MostBelow is the most that it may hang below a tie, m from its cut: tied near its balance either end may be down.
func (p *Piece) MostBelow(tieM float64) float64 {
	near := AnyWay * p.Length()
	switch off := p.Weight.CogM - tieM; {
	case off > near:
		return p.ReachM - tieM
	case off < -near:
		return tieM + p.UnderM
	}
	return max(p.ReachM-tieM, tieM+p.UnderM)
}

// OnAxis is a place of the piece's axis, so far from its cut, as it grows.
func (p *Piece) OnAxis(m float64) r3.Vec {
	return OnTheWay(p.Cut, p.Tip, m/p.Length())
}

// Without is the moment at which the piece of a pick has come off.
func (p *Piece) Without() *Standing {
	after := Standing{p.Now.Top, slices.Clone(p.Now.Tips), p.Now.among}
	p.Off(&after)
	return &after
}

// Heads is the direction of a piece's axis before its cut.
func (p *Piece) Heads() r3.Vec { return r3.Unit(r3.Sub(p.Tip, p.Cut)) }
