// Package felled works out trees and tops that go over a hinge, pulled, wedged, pushed or of their own weight: the hinge
// and the fall by package fell, the lines by packages line and haul, each with its source; what is put between them here
// is common practice and says so.
package felled

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/working"
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
	o.weightsCatch(f)
	o.fellLoads(f)
	f.complete = true
}

// stump works out the hinge and the moments about it; nil: a fault says why not.
func (o *Felled) stump() *felling {
	if o.Stopped() {
		return nil
	}
	if o.Pick.What == job.WhatLimb {
		o.Fault(course.FaultFell, "a limb is not felled over a hinge on the stem: choose another way down")
		return nil
	}
	f := &felling{set: o.Pick.Felling(o.DiameterM), circle: math.Ceil(o.Limits.CircleLengths * o.Length())}
	set := &f.set
	if o.Pick.Fell == nil || o.Pick.Fell.Margin == nil {
		set.Margin = &o.Limits.FellMargin
	}
	if o.Species == nil {
		o.Fault(course.FaultFell, "the species is not known, so neither is the strength of its hinge")
		return nil
	}
	f.hinge = fell.HingeCut{Stump: fell.Stump{DiameterM: o.DiameterM, CavityM: o.CavityM}, FaceDepthM: *set.FaceDepthM, ThicknessM: fell.Thickness{Left: *set.LeftM, Right: *set.RightM}, BoredM: *set.BoredM, NicksM: *set.NicksM, StrengthMpa: o.Species.RuptureMPa}
	if faults := f.hinge.Faults("fell"); len(faults) > 0 {
		o.Fault(course.FaultFell, "%s", faults[0].Message)
		return nil
	}
	f.wood = f.hinge.Solve()
	over := o.over()
	f.middle = r3.Add(o.Cut, r3.Scale(f.wood.AheadOfCentreM, over))
	lever := r3.Sub(o.Weight.At, f.middle)
	f.ahead, f.aside = r3.Dot(lever, over), r3.Dot(lever, r3.Cross(over, r3.Vec{Z: 1}))
	f.within = o.BalanceWithin(o.Pick.What == job.WhatTop, o.FromM, o.Weight, o.Now)
	o.blown(f, lever.Z)
	// The same moment bends a rectangle of the hinge's mean thickness and so much width.
	width := 4 * f.wood.BendingKnm / (1000 * o.Species.RuptureMPa * f.wood.MeanThicknessM * f.wood.MeanThicknessM)
	f.pulled = fell.Felling{
		Tree:   fell.Tree{MassKg: o.Counts(), CogHeightM: max(0.01, lever.Z), CogForwardM: f.ahead - f.within - f.gustBack, CogSideM: f.aside},
		Hinge:  &fell.Hinge{WidthM: width, ThicknessM: f.wood.MeanThicknessM, StrengthMpa: o.Species.RuptureMPa},
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
	if f.complete {
		legs := f.legs()
		if o.Powered() {
			legs = append(legs, f.goesOver(o.over())...)
		}
		o.RopesAlong(legs, nil, nil, r3.Vec{})
		o.hazards(f)
		if !o.Aloft {
			f.stretches(o)
		}
	}
	if !o.Aloft {
		told, aim := o.Settings.FallTowardsDeg, o.Limits.AimDeg
		o.GoesOver(o.Laid(told-aim, 2*aim))
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
	before := len(o.Loads)
	for i := range f.pulls {
		o.pullLoads(f, &f.pulls[i])
	}
	hold.Together(o.Loads[before:])
	o.hingeLoad(f, most)
}

// alone gathers what brings a tree over that no line pulls: its own weight, wedges or a machine.
func (o *Felled) alone(f *felling) {
	set, need := &f.set, &f.need
	switch {
	case set.Push != nil:
		o.pushed(f)
	case set.Wedged:
		force, lift := f.wedge()
		o.load(hold.Load{Part: hold.PartWedge, RestKn: force / *set.Margin, PeakKn: force, Rated: policy.Rated{Known: true, Decided: hold.ByCrew,
			Limit: gear.Limit{Kn: course.WedgeLiftKn, Reason: "what wedges driven by hand lift", Source: working.Common}}})
		if lift > course.WedgeLiftM {
			o.Fault(course.FaultBack, "its weight stands %s behind its hinge: wedges would have to lift the back %s, and they lift %s; pull it with a line", o.Height(-f.pulled.Tree.CogForwardM), o.Height(lift), o.Height(course.WedgeLiftM))
		}
	case !need.TipsAlone:
		o.Fault(course.FaultBack, "its own weight does not bend its hinge: it stands %s behind it; it needs wedges, a line or a machine", o.Height(max(0, -f.pulled.Tree.CogForwardM)))
	case f.alone(o.Weight.Kg.Low) < *set.Margin*f.wood.BendingKnm:
		o.Fault(course.FaultBack, "its own weight bends its hinge by less than the margin of %.3g: it needs wedges, a line or a machine", *set.Margin)
	}
}

// hingeLoad holds the most that turns the tree sideways, kN·m, against the hinge: as a force at its balance, so that it stands on the ladder.
func (o *Felled) hingeLoad(f *felling, most float64) {
	sound, why := hold.Soundness(o.Tree, -1, o.FromM)
	f.sound = sound
	capacity := f.wood.SideCapacityKnm.ToRight
	if most < 0 {
		capacity = f.wood.SideCapacityKnm.ToLeft
	}
	arm := f.pulled.Tree.CogHeightM
	holds := capacity * sound / o.Limits.WoodFactor
	hinge := hold.Load{Part: hold.PartHinge, RestKn: math.Abs(f.need.Hinge.SideKnm) / arm, PeakKn: math.Abs(most) / arm, Rated: policy.Rated{Known: true, Decided: hold.ByWood,
		Limit: gear.Limit{Kn: holds / arm, Source: "elastic bending of the hinge's wood; green strength from the Wood Handbook, from memory",
			Reason: fmt.Sprintf("%.3g of %.3g kN·m sideways, strength over %g, as a force at its balance, %s up", math.Round(1e6*math.Abs(most))/1e6, holds, o.Limits.WoodFactor, o.Height(arm))}}}
	if why != "" {
		hinge.Say(fmt.Sprintf("%.0f %% of its strength are counted there, for %s. Such wood is never relied on alone: hold it with lines.", 100*sound, why))
	}
	for _, said := range f.hinge.Cautions(f.wood) {
		hinge.Say(said)
	}
	o.load(hinge)
	f.side = math.Abs(most) / (capacity * sound)
}

// sideways is the most that the lines leave to the hinge sideways, kN·m, and works out what they
// must hold then: with the pull that is needed; with all that the efforts may pull, which a line
// that holds takes where it leads against it; with no pull, as the tree outruns it; and with the lines that hold as tight as
// they are made.
func (f *felling) sideways() float64 {
	most, pulled, tight, holds := f.need.Hinge.SideKnm, 0.0, f.need.Hinge.SideKnm, 0.0
	for i := range f.pulls {
		t := &f.pulls[i]
		_, aside, _ := t.line.Arms()
		if t.set.Holds {
			t.needKn = t.share * f.need.RetainerKn
			tight += max(0, t.set.PretensionKn-t.needKn) * aside
			holds += t.share * aside
			continue
		}
		t.needKn = t.share * f.need.PullKn
		pulled += max(t.needKn, t.mostKn) * aside
	}
	most = search.Harder(most, tight)
	weightKn, off := f.pulled.Tree.MassKg*units.Gravity/1000, f.within+f.gustSide
	// Its balance may stand to either side of where it likely is: what holds it on one leaves it to the hinge on the other.
	for _, aside := range [2]float64{f.aside - off, f.aside + off} {
		for _, pull := range [2]float64{0, pulled} {
			side := weightKn*aside + pull
			if !opposed(holds, side) {
				most = search.Harder(most, side)
				continue
			}
			for i := range f.pulls {
				if t := &f.pulls[i]; t.set.Holds {
					t.mostKn = max(t.mostKn, t.share*-side/holds)
				}
			}
		}
	}
	for i := range f.pulls {
		if t := &f.pulls[i]; t.mid != nil {
			// To whichever side it is pulled, it may be the worse one.
			most += math.Copysign(t.mid.aside*t.line.AttachHeightM, most)
		}
	}
	return most
}

// wedge is what wedges would have to push up at the back, margin included, kN, and how far until
// the tree stands over its hinge, m.
func (f *felling) wedge() (forceKn, liftM float64) {
	tree := &f.pulled.Tree
	weight := tree.MassKg * units.Gravity / 1000
	return max(0, *f.set.Margin*(f.wood.BendingKnm-weight*tree.CogForwardM)/f.wood.BackCutM), f.wood.BackCutM * max(0, -tree.CogForwardM) / tree.CogHeightM
}

// mouth is how far the face opens at the bark, m.
func (f *felling) mouth() float64 {
	return *f.set.FaceDepthM * math.Tan(space.Radians(min(85, *f.set.OpeningDeg)))
}

// backCut is how long the back cut is at the most, a strap left out of it, m.
func (f *felling) backCut() float64 { return max(0, f.wood.BackCutM-job.Or(f.set.StrapM, 0)) }

// pushed gathers what a machine must push with.
func (o *Felled) pushed(f *felling) {
	at := f.set.Push.AtM - f.middle.Z
	if at <= 0.1 {
		o.Fault(course.FaultFell, "a machine that pushes at %s has nothing to push: the hinge is at %s", o.Height(f.set.Push.AtM), o.Height(o.FromM))
		return
	}
	f.push = &fell.Push{Tree: f.pulled.Tree, Hinge: f.pulled.Hinge, HeightM: at, Margin: f.set.Margin, LimitKn: f.set.Push.LimitKn}
	f.shove = f.push.Solve()
	l := hold.Load{Part: hold.PartPush, RestKn: f.shove.PushKn / *f.set.Margin, PeakKn: f.shove.PushKn, Why: "nobody has said what the machine can push there"}
	if kn := f.set.Push.LimitKn; kn != nil {
		l.Rated = policy.Rated{Known: true, Decided: hold.ByEffort, Limit: gear.Limit{Kn: *kn, Reason: "what the machine can push at that height", Source: "as given"}}
	}
	l.Cautions = f.push.Cautions(f.shove)
	l.Say(fmt.Sprintf("It must follow %s until the tree stands over its hinge.", o.Height(f.shove.FollowM)))
	o.load(l)
}

// light is the same felling with another mass, kg, on which a gust does as much.
func (f *felling) light(massKg float64) fell.Felling {
	light := f.pulled
	light.Tree.CogForwardM -= f.gustBack * (light.Tree.MassKg/massKg - 1)
	light.Tree.MassKg = massKg
	return light
}

// aloneAt is the tilt from which a mass, kg, goes by itself, degrees; ever is false when it never does.
func (f *felling) aloneAt(massKg float64) (tiltDeg float64, ever bool) {
	light := f.light(massKg)
	return light.AloneAt(massKg)
}

// alone is the moment with which a mass, kg, goes forward by itself, what holds it sideways and
// leads back taken off, kN·m.
func (f *felling) alone(massKg float64) float64 {
	light := f.light(massKg)
	moment := massKg * units.Gravity / 1000 * light.Tree.CogForwardM
	for i := range f.pulls {
		if t := &f.pulls[i]; t.set.Holds {
			forward, _, _ := t.line.Arms()
			moment += min(0, forward) * t.needKn
		}
	}
	return moment
}

// farthest is how far from the stump the tip of what is felled may come down, m.
func (o *Felled) farthest() float64 {
	ground := max(0, o.Cut.Z)
	reach := fell.Reach{TopHeightM: ground + o.ReachM, HingeHeightM: &ground, SlopeDeg: o.FallsAway(o.Settings.FallTowardsDeg)}
	if len(reach.Faults("fell")) > 0 {
		return reach.TopHeightM
	}
	return max(reach.TopHeightM, reach.Solve().FarthestM)
}

// Figures give what of a felling is drawn and said beside its ladder.
func (o *Felled) Figures(fs *course.Figures) {
	f := o.felling
	if f == nil {
		return
	}
	for i := range f.pulls {
		fs.Pulls = append(fs.Pulls, f.pulls[i].figures())
	}
	set := &f.set
	fs.Fell = &course.FellFigures{
		DiameterM: o.DiameterM, CavityM: o.CavityM, FaceDepthM: *set.FaceDepthM, OpeningDeg: *set.OpeningDeg, MouthM: f.mouth(), BackCutM: f.backCut(), UpsideDown: set.UpsideDown,
		LeftM: *set.LeftM, RightM: *set.RightM, BoredM: *set.BoredM, NicksM: *set.NicksM, BackUpM: *set.BackUpM, StrapM: set.StrapM, Wedged: set.Wedged,
		Hinge: f.wood, ForwardM: f.ahead, SideM: f.aside, WithinM: f.within, HeightM: f.pulled.Tree.CogHeightM, BalanceDeg: f.need.BalanceDeg, TipsAlone: f.need.TipsAlone,
		SideUsePct: 100 * f.side, FarthestM: o.farthest(), Steps: o.steps(f),
		Schools: o.schools(f), Circle: f.circle, ButtBackM: buttBack, ButtDeg: buttSpread, Beds: o.beds(), Straps: o.straps(),
	}
}

// Words are what is called, and what must be read with a felling.
func (o *Felled) Words() course.Words {
	f := o.felling
	if f == nil {
		return course.Words{}
	}
	list := f.pulled.Cautions(f.need)
	if !f.set.Pulled() {
		list = slices.DeleteFunc(list, func(said string) bool { return said == fell.KeepUp })
	}
	list = append(list, f.said...)
	return course.Words{Call: o.call(), Cautions: append(list, fmt.Sprintf("Nobody but who cuts within %.0f m of it; ways out at 45° behind. When its tip meets something the butt can come back over the stump (common practice).", f.circle))}
}

// call is what is called to the ground.
func (o *Felled) call() string {
	if o.felling.set.Pulled() {
		return "All clear: take up, cut, pull to " + o.Wind()
	}
	return "All clear: falls to " + o.Wind()
}

// Meets adds what it meets where it comes down to what must be read with it.
func (o *Felled) Meets(said string) {
	if o.felling != nil {
		o.felling.said = append(o.felling.said, said)
	}
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

// SideUse is the share of what the hinge holds sideways, before the crew's factor.
func (o *Felled) SideUse() float64 { return o.felling.side }

// Wedges are what wedges would have to push up at the back, margin included, kN, and how far, m: as shares of what wedges driven by
// hand do, too.
func (o *Felled) Wedges() (forceKn, liftM, use float64) {
	forceKn, liftM = o.felling.wedge()
	return forceKn, liftM, max(forceKn/course.WedgeLiftKn, liftM/course.WedgeLiftM)
}

// load adds a load that is worked out from this felling.
func (o *Felled) load(l hold.Load) {
	l.From = o
	o.Loads = append(o.Loads, l)
}

// Working writes the sum behind a load of the felling that is of no single line.
func (o *Felled) Working(l *hold.Load, sheet *working.Sheet) {
	f := o.felling
	switch l.Part {
	case hold.PartPush:
		sheet.Append(f.push.Working(f.shove))
	case hold.PartWedge:
		sheet.Append(f.pulled.Working(f.need))
	case hold.PartHinge:
		sheet.Append(f.hinge.Working(f.wood))
	case hold.PartHolder:
		sheet.Add("F", "pull of the gear that sits on it", "the gear's own rung at the peak, with its direction", l.PeakKn, "kN", "statics")
	}
}

// Contracted is the contract's sum behind such a load.
func (o *Felled) Contracted(l *hold.Load) (kind string, request any) {
	switch l.Part {
	case hold.PartHinge:
		return "hinge", &o.felling.hinge
	case hold.PartPush:
		return "push", o.felling.push
	}
	return "", nil
}

// Beside is nothing more than what its loads say.
func (o *Felled) Beside(*hold.Load) []string { return nil }
