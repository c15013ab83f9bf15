package lifted

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/hold"
	"elkstay/core/space"
)

// As a piece parts, it may fall so far into its slings, m, and its one tight sling may be tied so far under its balance (common
// practice, no source: what play a hitch has); what has played so far is tight on one sling alone. A hook that makes all slings tight
// may stand so far off the balance, m, by which the piece then swings.
const (
	fallsInto = 0.1
	underIt   = 0.05
	playsBy   = 0.02
	swingsOff = 0.5
)

// A parting is how a piece comes onto its slings as the last wood parts: the hook stands over its balance as it grows, as high as the
// first of its slings lets it.
type parting struct {
	first int     // the sling that is tight first
	under float64 // how far that is tied under the balance, m
	falls float64 // how far the balance sinks until it hangs as all of its slings have it, m
	off   float64 // how far off its balance the hook must stand for all of them to be tight, m
}

// parts works out how the piece comes onto its slings.
func (o *Lifted) parts() (p parting) {
	axis, _ := space.Direction(r3.Sub(o.Tip, o.Cut), 0)
	// The slings know a straight piece that balances on its axis.
	cog := r3.Add(o.Cut, r3.Scale(o.pick.Piece.CogM, axis))
	lowest := math.Inf(1)
	for i, s := range o.pick.Slings {
		off := r3.Sub(r3.Add(o.Cut, r3.Scale(s.AtM, axis)), cog)
		aside := r3.Norm(space.Level(off))
		if high := off.Z + math.Sqrt(max(0, s.LengthM*s.LengthM-aside*aside)); high < lowest {
			lowest, p.first, p.under = high, i, -off.Z
		}
	}
	p.falls = o.hookOverBalance() - lowest
	if off, meets := o.meets(axis); p.falls > playsBy && meets && off <= swingsOff {
		// The hook is set where all of them are tight.
		p.falls, p.off = 0, off
	}
	return p
}

// meets is how far from over the balance, m, the hook stands that makes all slings tight while the piece grows; it reports whether one does.
func (o *Lifted) meets(axis r3.Vec) (off float64, meets bool) {
	up, leads := space.Direction(r3.Sub(r3.Vec{Z: 1}, r3.Scale(axis.Z, axis)), 1e-6)
	if !leads || math.Abs(o.lift.TiltDeg) == 90 {
		return 0, false
	}
	hook := r3.Add(r3.Scale(o.lift.HookOverM-o.pick.Piece.CogM, axis), r3.Scale(o.lift.HookHeightM, up))
	return r3.Norm(space.Level(hook)), true
}

// comesFree faults what topples as it parts, and gives what one sling alone, and how many times its weight the hook, carries then.
func (o *Lifted) comesFree() (alone int, times float64) {
	p := o.parts()
	first := &o.pick.Slings[p.first]
	if p.off > fallsInto {
		o.say("The hook stands %s off its balance as all slings come tight: it swings by as much as it parts, and as far beyond; no one on that side.", o.Height(p.off))
	}
	switch {
	case p.falls <= playsBy:
		return -1, 1
	case p.falls <= fallsInto:
		return p.first, 1
	case p.under <= underIt && math.Abs(o.lift.TiltDeg) == 90 && o.lift.HookOverM == first.AtM:
		// It swings down about its tie: a rod from rest, its weight and what holds it in its arc.
		arm := math.Abs(o.pick.Piece.CogM - first.AtM)
		gyration := o.Gyration(space.Heading(1e-6, space.Towards(o.Settings.FallTowardsDeg), space.Level(r3.Sub(o.Tip, o.Cut))))
		return p.first, 1 + 2*min(1, p.falls/arm)*arm*arm/(arm*arm+gyration*gyration)
	}
	o.Fault(course.FaultSlings, "as it parts only %s is tight: it falls %s until it hangs in its slings, and a crane takes no shock. Tie all of them above its balance, or make them as long as they are to the hook while it still grows", first.Name, o.Height(p.falls))
	return p.first, 1
}

// onOneSling loads a sling with all that it may have alone at some moment, kN.
func onOneSling(l *hold.Load, kn float64, when string) {
	if kn > l.PeakKn {
		l.PeakKn, l.When = kn, when
	}
}

// upright is how steep a piece grows, sine, from which it is slung above its balance alone: slings to either side of it lie in one line
// with their hook.
const upright = 0.87

// Slung are two chokers that hold a piece as it grows: of one that stands upright both above its balance, the lower to carry it; of
// another to either side of it, each as long as it is to a hook over the balance.
func Slung(p *space.Piece) []crane.Sling {
	axis, leads := space.Direction(r3.Sub(p.Tip, p.Cut), 0)
	long := p.Length()
	cog := max(1e-3, min(long-1e-3, p.Weight.CogM))
	if !leads || long <= 0 {
		return nil
	}
	tenth := func(m float64) float64 { return math.Round(10*m) / 10 }
	reach := max(2, tenth(long))
	sling := func(name string, at, length float64) crane.Sling {
		return crane.Sling{Name: name, AtM: max(0, min(long, at)), LengthM: math.Ceil(100*length-1e-9) / 100, Hitch: crane.Choker}
	}
	if math.Abs(axis.Z) >= upright {
		above := long - cog
		if axis.Z < 0 {
			above = -cog
		}
		return []crane.Sling{sling("first sling", math.Round(100*(cog+0.35*above))/100, reach), sling("second sling", math.Round(100*(cog+0.6*above))/100, reach)}
	}
	hook := r3.Add(r3.Add(p.Cut, r3.Scale(cog, axis)), r3.Vec{Z: reach})
	to := func(at float64) float64 { return r3.Norm(r3.Sub(hook, r3.Add(p.Cut, r3.Scale(at, axis)))) }
	first, second := tenth(min(0.15*long, cog/2)), tenth(max(0.75*long, (cog+long)/2))
	return []crane.Sling{sling("first sling", first, to(first)), sling("second sling", second, to(second))}
}
