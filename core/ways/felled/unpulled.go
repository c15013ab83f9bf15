package felled

import (
	"fmt"
	"math"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/working"
)

// alone gathers what brings a tree over that no line pulls: its own weight, wedges or a machine.
func (o *Felled) alone(f *felling) {
	set, need := &f.set, &f.need
	switch {
	case set.Push != nil:
		o.pushed(f)
	case set.Wedged:
		force, lift := f.wedge(o.Weight.Kg.Low)
		l := hold.Load{Part: hold.PartWedge, RestKn: force / *set.Margin, PeakKn: force, Rated: policy.Rated{Known: true, Decided: hold.ByCrew,
			Limit: gear.Limit{Kn: course.WedgeLiftKn, Reason: "what wedges driven by hand lift", Source: working.Common}}}
		if more := lift / course.WedgeLiftM; more > l.Use() {
			l.Limit.Kn = force / more
			l.Limit.Reason = fmt.Sprintf("what wedges driven by hand lift, %s: its weight bends its hinge %s up, and this is as much of the force as that is of the way", o.Height(course.WedgeLiftM), o.LiftSays(lift))
		}
		o.load(l)
		if stands := f.wood.BackCutM * -f.pulled.Tree.CogForwardM / f.pulled.Tree.CogHeightM; stands > course.WedgeLiftM {
			o.Fault(course.FaultBack, "its weight stands %s behind its hinge: wedges would have to lift the back %s for it to stand over that, and they lift %s; pull it with a line", o.Height(-f.pulled.Tree.CogForwardM), o.Height(stands), o.Height(course.WedgeLiftM))
		}
	case !need.TipsAlone:
		o.Fault(course.FaultBack, "its own weight does not bend its hinge: it stands %s behind it; it needs wedges, a line or a machine", o.Height(max(0, -f.pulled.Tree.CogForwardM)))
	case f.alone(o.Weight.Kg.Low) < *set.Margin*f.wood.BendingKnm:
		o.Fault(course.FaultBack, "its own weight bends its hinge by less than the margin of %.3g: it needs wedges, a line or a machine", *set.Margin)
	}
}

// wedge is what wedges would have to push up at the back, margin included, kN, and how far until the tree goes by itself, its hinge whole, m:
// as light as it may be and as heavy; +Inf: it never does.
func (f *felling) wedge(lightKg float64) (forceKn, liftM float64) {
	for _, kg := range [2]float64{f.pulled.Tree.MassKg, lightKg} {
		one := f.light(kg)
		forceKn = max(forceKn, *f.set.Margin*(f.wood.BendingKnm-kg*units.Gravity/1000*one.Tree.CogForwardM)/f.wood.BackCutM)
		liftM = max(liftM, f.wood.BackCutM*math.Tan(f.goesAt(kg)))
	}
	return forceKn, liftM
}

// goesAt is the tilt from which a mass, kg, bends the hinge by itself, radians: near a quarter turn where it never does.
func (f *felling) goesAt(kg float64) float64 {
	deg, ever := f.aloneAt(kg)
	if !ever {
		deg = neverGoes
	}
	return space.Radians(min(neverGoes, deg))
}

// neverGoes is a tilt that no wedge and no machine brings a tree to, degrees.
const neverGoes = 89

// LiftSays is a lift of the back; of one that never would do, only that.
func (o *Felled) LiftSays(m float64) string {
	if m > o.DiameterM {
		return "more than the stump is thick"
	}
	return o.Height(m)
}

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
	follows := 0.0
	for _, kg := range [2]float64{f.pulled.Tree.MassKg, o.Weight.Kg.Low} {
		follows = max(follows, at*math.Sin(f.goesAt(kg)))
	}
	l.Say(fmt.Sprintf("It must follow %s until the tree goes by itself, its hinge whole.", o.Height(follows)))
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

// Wedges are what wedges would have to push up at the back, margin included, kN, and how far, m: as shares of what wedges driven by
// hand do, too.
func (o *Felled) Wedges() (forceKn, liftM, use float64) {
	forceKn, liftM = o.felling.wedge(o.Weight.Kg.Low)
	return forceKn, liftM, max(forceKn/course.WedgeLiftKn, liftM/course.WedgeLiftM)
}
