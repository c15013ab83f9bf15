package roped

import (
	"math"
	"slices"

	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
)

// FrictionOff is how far friction, of the device as of bark or a ring that turns the line, may lie to either side of what is given, as a share
// of it; a hold or a run that is told is held so much harder or softer (common practice, no source). What a sheave lets through stays as
// given: a quarter of what it loses is two hundredths of what its block bears.
const FrictionOff = 1 - line.LowerFriction

// A friction is a case of how much of the given one there is.
type friction struct {
	times float64
	said  string
}

// frictions are the two ends of what friction may be.
var frictions = [...]friction{
	{1 + FrictionOff, "with a quarter more friction than given"},
	{1 - FrictionOff, "with a quarter less friction than given"},
}

// saysFrom is from what share of a load on the case of friction is named.
const saysFrom = 0.005

// Rubbed is the piece on its line with so many times the friction given, and caught so: no loads are gathered yet. A hold or a run that is
// told is kept with as many times the hold.
func (o *Roped) Rubbed(times float64) *Roped {
	one := *o
	side := &one
	side.given, side.rubs = o, times
	side.Loads, side.Cases, side.Faults = nil, nil, nil
	side.Points = slices.Clone(o.Points)
	for i := range side.Points {
		if p := &side.Points[i]; p.Friction != nil {
			rubs := *p.Friction * times
			p.Friction = &rubs
		}
	}
	set := &side.Settings
	set.Friction *= times
	set.HoldKn *= times
	side.Path.Legs, side.Path.Points = nil, nil
	line.Path{LoadKn: 1, Motion: line.Lowering, Points: side.Points}.SolveInto(&side.Path)
	if o.other != nil {
		side.other = o.other.Rubbed(times)
	}
	side.hold = o.hold * times
	if set.How == job.ByWraps {
		side.hold = line.HeldBy(set.HandKn, set.Wraps, set.Friction)
	}
	// Where rope does not run either way, and the lead is as it was, it is caught as it was.
	if aloft := o.rubsAloft(); aloft || o.DropCase != nil && (o.Catch.Runs || side.hold <= o.Catch.DevicePeakKn) {
		side.recaught()
	}
	return side
}

// rubsAloft tells that its line runs over what it rubs on, before the device.
func (o *Roped) rubsAloft() bool {
	return slices.ContainsFunc(o.Points[:len(o.Points)-1], func(p line.Stop) bool { return p.Friction != nil })
}

// recaught works out the catch once more, by the friction that there is.
func (o *Roped) recaught() {
	if o.pair != nil {
		o.Catch.DevicePeakKn = o.Catch.LinePeakKn * o.Ratio()
		return
	}
	if o.DropCase == nil {
		return
	}
	c := *o.DropCase
	c.BlockEfficiency, c.DeviceHoldKn = o.Ratio(), nil
	if !math.IsInf(o.hold, 1) {
		hold := o.hold
		c.DeviceHoldKn = &hold
	}
	o.DropCase = &c
	if o.swung != nil {
		swings := *o.swung
		swings.Case = &c
		o.swung = &swings
		o.Catch, o.swings = swings.SolvePulls(o.hold)
	} else {
		o.Catch = drop.Solve(&c)
	}
	if o.tight != nil {
		o.madeTight(&c, o.tight.held.PretensionKn)
	}
	o.pulledAside()
}

// times is what a hold that is worked out from a run is kept with beside what gives that run: 1 as given.
func (o *Roped) times() float64 {
	if o.given == nil {
		return 1
	}
	return o.rubs
}

// AsGiven is the piece on its line with the friction that is given.
func (o *Roped) AsGiven() *Roped {
	if o.given != nil {
		return o.given
	}
	return o
}

// AllLoads gathers what each part of the line's way sees, at either end of what friction may be: each part is judged where it is used most.
// settle readies the line for a friction; nil: it is ready.
func (o *Roped) AllLoads(settle func(side *Roped)) {
	var sides [len(frictions)]*Roped
	for k, f := range frictions {
		side := o.Rubbed(f.times)
		if settle != nil {
			settle(side)
		}
		if k > 0 && o.pair == nil && !o.rubsAloft() && side.Catch.LinePeakKn <= sides[0].Catch.LinePeakKn && side.Catch.DevicePeakKn <= sides[0].Catch.DevicePeakKn {
			// All but the hand has less.
			side.handLoad()
		} else {
			side.LineLoads()
		}
		if !side.Catch.Holds {
			for i := range side.Loads {
				side.Loads[i].NotHeld = side.Loads[i].Part != hold.PartPiece
			}
		}
		for i := range side.Cases {
			side.Cases[i].Name = f.said
		}
		sides[k] = side
		o.Cases = append(o.Cases, side.Cases...)
	}
	o.sticks, o.slips = sides[0], sides[1]
	o.spar = o.sticks.spar
	for i := range o.sticks.Loads {
		much := &o.sticks.Loads[i]
		l := o.harder(much, same(o.slips.Loads, i, much))
		if l.Part == hold.PartSpar && l.From == hold.Source(o.slips) {
			o.spar = o.slips.spar
		}
		o.Loads = append(o.Loads, l)
	}
}

// harder is a load as it is used most, with much friction or with little; less is nil where there is none. What only less friction never
// stops, the hand does not hold.
func (o *Roped) harder(much, less *hold.Load) hold.Load {
	if less == nil {
		eased := *much
		eased.PeakKn *= o.slips.Catch.LinePeakKn / max(1e-9, o.sticks.Catch.LinePeakKn)
		less = &eased
	}
	runsOut := less.NotHeld && !much.NotHeld
	if runsOut && much.Part == hold.PartHand {
		l := *less
		l.Say("With a quarter less friction than given it is never stopped: more wraps, or more hold.")
		return l
	}
	l, other, said := *much, less, frictions[0].said
	if !runsOut && usedMore(less, much) {
		l, other, said = *less, much, frictions[1].said
	}
	if l.Sees()-other.Sees() > saysFrom*l.Sees() {
		if l.When != "" {
			said = l.When + ", " + said
		}
		l.When = said
	}
	return l
}

// usedMore tells that a load is used more than another of the same part.
func usedMore(a, b *hold.Load) bool {
	if a.Judged() && b.Judged() {
		return a.Use() > b.Use()
	}
	return a.Sees() > b.Sees()
}

// same is the load among some that is of the same part, at its own place or elsewhere; nil: none is.
func same(loads []hold.Load, at int, of *hold.Load) *hold.Load {
	is := func(l *hold.Load) bool { return l.Part == of.Part && l.Name == of.Name && l.On == of.On }
	if at < len(loads) && is(&loads[at]) {
		return &loads[at]
	}
	for i := range loads {
		if is(&loads[i]) {
			return &loads[i]
		}
	}
	return nil
}
