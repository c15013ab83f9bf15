package felled

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/space"
	"elkstay/core/spar"
	"elkstay/core/units"
)

// A face aloft may close so much later than it is cut open, degrees, and as early as narrowFace (common practice, no source).
const (
	closesLate = 15
	narrowFace = 40
)

// How a stem under a top is followed: in steps of so long, s, for so long at the most, its sway on a grid of so many cells.
const (
	aloftStep  = 0.002
	aloftFor   = 30.0
	swayCells  = 40
	leastStart = 2.0 // degrees that a top leans as it begins to go
)

// aloft is what the stem under a top feels while that goes over its hinge.
type aloft struct {
	beam    spar.Spar
	pushKn  float64 // level on its top, as its sway multiplies it
	atDeg   float64 // of tilt
	swaysOn bool    // after the hinge has let go
}

// stemAloft judges the stem that is left under a top that is felled aloft: it is pushed back as the top starts, pulled forward as that comes down
// over the hinge, and sways. Its lines pull it with them.
func (o *Felled) stemAloft(f *felling) {
	if o.FromM <= course.FromGround || o.StandsToM <= o.Stem.Bottom()+0.1 {
		return
	}
	l := hold.Load{Part: hold.PartSpar, Name: "the stem that is left", Why: "the species is not known, so neither is the stem's strength"}
	if o.Species == nil {
		o.load(l)
		return
	}
	wood := o.Wood(o.Tree)
	a := &aloft{beam: wood.Beam(wood.StationsTo(min(o.StandsToM, o.Stem.Top())))}
	o.goesAloft(f, a)
	over := o.over()
	pulls := r3.Vec{}
	for i := range f.pulls {
		_, _, u := f.pulls[i].line.Arms()
		pulls = r3.Add(pulls, r3.Scale(f.pulls[i].mostKn, r3.Add(r3.Scale(u.X, over), r3.Scale(u.Y, r3.Cross(over, r3.Vec{Z: 1})))))
	}
	level := r3.Add(r3.Scale(a.pushKn, over), space.Level(pulls))
	kn := r3.Norm(level)
	bare := a.beam
	bare.Loads = []spar.Load{{AtM: o.StandsToM, HorizontalKn: kn, VerticalKn: o.WeightKn()}}
	// It is pushed back before it is pulled forward, and sways to either side: with what leans there.
	worst, why := spar.Worst{}, ""
	for _, way := range [2]r3.Vec{level, r3.Scale(-1, level)} {
		beam := bare
		beam.Loads = slices.Clone(bare.Loads)
		if felt, of := wood.Feels(&beam, space.Heading(0, over, way), o.Without()); hold.Harder(felt, worst) {
			a.beam, worst, why = beam, felt, of
		}
	}
	f.under = a
	l.PeakKn, l.Rated = kn, wood.ByBending(kn, worst)
	if why != "" {
		l.Say(why)
	}
	l.When = fmt.Sprintf("as the top comes down over its hinge, %.0f° over", a.atDeg)
	if a.swaysOn {
		l.When = fmt.Sprintf("as it sways on after its hinge lets go, %.0f° over", a.atDeg)
	}
	l.Say("The blow of the butt as the face closes is not in the figure: stand clear of the stem, tied in apart from it where that can be.")
	o.load(l)
}

// goesAloft follows a top over its hinge by its own weight, and the stem's first sway under it. The hinge holds nothing back.
func (o *Felled) goesAloft(f *felling, a *aloft) {
	_, _, sways := a.beam.Sways(swayCells, 1)
	mode := &sways[0]
	lever := r3.Sub(o.Weight.At, f.middle)
	ahead := r3.Dot(lever, o.over())
	arm := math.Hypot(ahead, lever.Z)
	kg, gyration := o.Counts(), o.Gyration(o.over())
	inertia := kg * (gyration*gyration + arm*arm)
	from := math.Atan2(ahead, lever.Z)
	tilt, spin := max(space.Radians(leastStart), from), 0.0
	closes := space.Radians(min(90, *f.set.OpeningDeg+closesLate))
	q, v := 0.0, 0.0
	keep := func(kn float64, after bool) {
		if kn > a.pushKn {
			a.pushKn, a.atDeg, a.swaysOn = kn, space.Degrees(tilt-from), after
		}
	}
	for range int(aloftFor / aloftStep) {
		if tilt-from >= closes || tilt >= math.Pi/2 {
			break
		}
		sin, cos := math.Sincos(tilt)
		turns := kg * units.Gravity * arm * sin / inertia
		// What speeds up the top's balance pushes the stem the other way, N.
		force := -kg * (arm*turns*cos - arm*spin*spin*sin)
		v += (force/mode.Kg - mode.Omega*mode.Omega*q) * aloftStep
		q += v * aloftStep
		spin += turns * aloftStep
		tilt += spin * aloftStep
		still := mode.Kg * mode.Omega * mode.Omega / 1000
		keep(math.Abs(force)/1000, false)
		keep(math.Abs(q)*still, false)
		if tilt-from >= space.Radians(narrowFace) {
			keep(math.Hypot(q, v/mode.Omega)*still, true)
		}
	}
}
