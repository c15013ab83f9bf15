// Package felled works out trees and tops that go over a hinge, pulled, wedged, pushed or of their own weight: the hinge
// and the fall by package fell, the lines by packages line and haul, each with its source; what is put between them here
// is common practice and says so.
package felled

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/search"
	"elkstay/core/space"
)

// Felled is a tree or a top that goes over its hinge with everything above the cut, by its own weight, by wedges,
// or pulled by lines; others may hold it sideways.
type Felled struct {
	course.Course
	felling *felling // nil: nothing is known of it
}

// felling is how a pick is felled: its hinge, its lines and the moments about it.
type felling struct {
	set    job.Fell
	hinge  fell.HingeCut
	wood   fell.HingeWood
	pulled fell.Felling
	need   fell.Need
	middle r3.Vec // of the hinge
	pulls  []pullLine
	// Where its balance likely is, ahead of the hinge and to the right, and how far off that it
	// may be, m: the sums take the worse.
	ahead, aside, within float64
	push                 *fell.Push // nil: no machine pushes it, or a line pulls it
	shove                fell.Shove
	gustBack, gustSide   float64 // what a gust does as if the balance stood so far off, m
	gust                 *fell.Wind
	gustAround           bool    // nobody has said where it blows to
	circle               float64 // nobody but who cuts stands nearer, m
	side                 float64 // share of what the hinge holds sideways, before the crew's factor
	sound                float64 // share of its strength that the hinge's wood keeps
	under                *aloft  // nil: it stands on the ground
	said                 []string
	complete             bool // its forces are known: it can be followed
}

// Way is the way down over a hinge.
var Way course.Way = way{}

type way struct{}

func (way) Held() course.Holding { return course.HeldByNothing }

func (way) Bound(_ *course.Scene, piece *hold.Load) {
	piece.Why = "it is felled: no line to keep to"
}

func (way) Make(c course.Course) course.Made {
	o := &Felled{Course: c}
	o.fell()
	return o
}

// Held is nil: no line holds it.
func (o *Felled) Held() *course.Held { return nil }

// fell works out the hinge, the lines, and what the felling takes of them.
func (o *Felled) fell() {
	f := o.stump()
	if f == nil {
		return
	}
	o.lines(f)
	o.felling = f
	if o.Stopped() {
		// The stump and where it comes down are known all the same.
		f.pulls, f.need, f.sound = nil, f.pulled.Solve(), 1
		return
	}
	f.needs(o.Weight.Kg.Low)
	if tilt, met := f.pulled.Unmet(); f.set.Pulled() && !met {
		o.Fault(course.FaultBack, "no pull on its lines brings it over: at %.0f° of tilt what pulls and what holds it sideways work against each other, or the pull is past its dead point. Take other anchors", tilt)
	}
	o.weightsCatch(f)
	o.fellLoads(f)
	f.complete = true
}

// hingeStrength is what of the modulus of rupture counts in a hinge. That is measured by the moment at which a beam breaks, as if it bent
// like a spring up to there: as a hinge is bent in full, two thirds of it come to the same moment. It varies by 16 % from stem to stem of a
// species (Wood Handbook, ch. 5, from memory): bent in the fall it may be a quarter stronger, and held sideways it is no stronger than that.
const hingeStrength = 1.25 * 2 / 3

// stump works out the hinge and the moments about it; nil: a fault says why not.
func (o *Felled) stump() *felling {
	if o.Stopped() {
		return nil
	}
	if o.Pick.What == job.WhatLimb {
		o.Fault(course.FaultFell, "a limb is not felled over a hinge on the stem: choose another way down")
		return nil
	}
	f := &felling{set: o.Pick.Felling(o.DiameterM), circle: math.Ceil(o.Limits.CircleLengths * o.Farthest())}
	set := &f.set
	if o.Pick.Fell == nil || o.Pick.Fell.Margin == nil {
		set.Margin = &o.Limits.FellMargin
	}
	if o.Species == nil {
		o.Fault(course.FaultFell, "the species is not known, so neither is the strength of its hinge")
		return nil
	}
	// Bark bends and holds nothing: the face is cut through it, the back cut too.
	stump := o.Wood(o.Tree).StationAt(o.FromM)
	bark := (o.DiameterM - stump.DiameterM) / 2
	f.hinge = fell.HingeCut{Stump: fell.Stump{DiameterM: stump.DiameterM, CavityM: stump.CavityM}, FaceDepthM: max(0.001, *set.FaceDepthM-bark), ThicknessM: fell.Thickness{Left: *set.LeftM, Right: *set.RightM}, BoredM: *set.BoredM, NicksM: *set.NicksM, StrengthMpa: hingeStrength * o.Species.RuptureMPa}
	if faults := f.hinge.Faults("fell"); len(faults) > 0 {
		o.Fault(course.FaultFell, "%s", faults[0].Message)
		return nil
	}
	f.wood = f.hinge.Solve()
	f.wood.BackCutM += bark
	over := o.over()
	f.middle = r3.Add(o.Cut, r3.Scale(f.wood.AheadOfCentreM, over))
	lever := r3.Sub(o.Weight.At, f.middle)
	f.ahead, f.aside = r3.Dot(lever, over), r3.Dot(lever, r3.Cross(over, r3.Vec{Z: 1}))
	f.within = o.BalanceWithin(o.Pick.What == job.WhatTop, o.FromM, o.Weight, o.Now)
	o.blown(f, lever.Z)
	// The same moment bends a rectangle of the hinge's mean thickness and so much width.
	width := 4 * f.wood.BendingKnm / (1000 * f.hinge.StrengthMpa * f.wood.MeanThicknessM * f.wood.MeanThicknessM)
	f.pulled = fell.Felling{
		Tree:   fell.Tree{MassKg: o.Counts(), CogHeightM: max(0.01, lever.Z), CogForwardM: f.ahead - f.within - f.gustBack, CogSideM: f.aside},
		Hinge:  &fell.Hinge{WidthM: width, ThicknessM: f.wood.MeanThicknessM, StrengthMpa: f.hinge.StrengthMpa},
		Margin: set.Margin, Wedge: &fell.Wedge{DistanceM: f.wood.BackCutM},
		// Of no line, one straight ahead stands in: nothing is read from it.
		Pull: fell.Line{AttachHeightM: max(0.01, lever.Z), AnchorDistanceM: 10},
	}
	return f
}

// over is the way that it falls, level.
func (o *Felled) over() r3.Vec { return space.Towards(o.Settings.FallTowardsDeg) }

// Follow measures what its lines pass, who stands where it or a line can come, and where it comes down.
func (o *Felled) Follow() {
	f := o.felling
	if f == nil {
		return
	}
	towards, aim := o.Settings.FallTowardsDeg, o.Limits.AimDeg
	var lies []space.Disc
	if o.Before != nil && o.Before.Lands != nil {
		lies = o.Before.Lands.Discs
	} else {
		lies = o.Laid(towards-aim, 2*aim)
	}
	if f.complete {
		legs := f.legs()
		if o.Powered() {
			legs = append(legs, f.goesOver(o.over())...)
		}
		o.RopesAlong(legs, nil, nil, r3.Vec{})
		o.hazards(f, lies)
		if o.Before == nil {
			f.stretches(o)
		}
	}
	if o.Before == nil {
		o.GoesOver(lies)
	}
}

// needs works out what its lines have to pull and to hold; as light as is given, kg, it may fall short.
func (f *felling) needs(lightKg float64) {
	f.share()
	f.need = f.pulled.Solve()
	if light := f.light(lightKg); light.Tree.CogForwardM > 0 {
		// Ahead of its hinge it is the light end of its weight that falls short.
		need := light.Solve()
		f.need.PullKn, f.need.RetainerKn = max(f.need.PullKn, need.PullKn), max(f.need.RetainerKn, need.RetainerKn)
		f.need.TipsAlone = need.TipsAlone
	}
}

// calm is the felling without its gust, worked out as far as what its lines need.
func (f *felling) calm(lightKg float64) *felling {
	calm := *f
	calm.gust, calm.gustBack, calm.gustSide = nil, 0, 0
	calm.pulls = slices.Clone(f.pulls)
	calm.pulled.Pulls, calm.pulled.Holds = nil, nil
	calm.pulled.Tree.CogForwardM += f.gustBack
	calm.needs(lightKg)
	return &calm
}

// fellLoads gathers what a felling takes of line, anchor, stem, hinge and wedge.
func (o *Felled) fellLoads(f *felling) {
	if !f.set.Pulled() {
		o.alone(f)
	}
	most := f.sideways()
	if f.gust != nil {
		// No gust need blow: what it asks of pull and holding eases nothing.
		calm := f.calm(o.Weight.Kg.Low)
		most = search.Harder(most, calm.sideways())
		for i := range f.pulls {
			f.pulls[i].mostKn = max(f.pulls[i].mostKn, calm.pulls[i].mostKn)
		}
	}
	most = search.Harder(most, o.whileItGoes(f))
	before := len(o.Loads)
	for i := range f.pulls {
		o.pullLoads(f, &f.pulls[i])
	}
	hold.Together(o.Loads[before:])
	o.hingeLoad(f, most)
	o.stemAloft(f)
}

// farthest is how far from the stump the tip of what is felled may come down, m.
func (o *Felled) farthest() float64 {
	ground := max(0, o.Cut.Z)
	reach := fell.Reach{TopHeightM: ground + o.Sweeps(o.over()), HingeHeightM: &ground, SlopeDeg: o.FallsAway(o.Settings.FallTowardsDeg)}
	if len(reach.Faults("fell")) > 0 {
		return reach.TopHeightM
	}
	return max(reach.TopHeightM, reach.Solve().FarthestM)
}

// A Pull is what one line of a felling is to do and can, kN at the tree.
type Pull struct {
	AnchorID, Anchor string
	Holds            bool // it holds sideways
	NeedKn           float64
	GivesKn          float64 // what its effort is counted on to give; 0: not known
	Effort           string
}

// Pulls are its lines.
func (o *Felled) Pulls() (list []Pull) {
	if o.felling == nil {
		return nil
	}
	for i := range o.felling.pulls {
		t := &o.felling.pulls[i]
		list = append(list, Pull{t.anchor.ID, t.anchor.Name, t.set.Holds, t.needKn, t.givesKn, t.effortSays})
	}
	return list
}

// PullKn is what its lines must pull together, margin included; by its own weight or by wedges it is not pulled.
func (o *Felled) PullKn() (kn float64, pulled bool) {
	return o.felling.need.PullKn, o.felling.set.Pulled()
}

// load adds a load that is worked out from this felling.
func (o *Felled) load(l hold.Load) {
	l.From = o
	o.Loads = append(o.Loads, l)
}
