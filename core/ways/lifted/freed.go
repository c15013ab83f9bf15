package lifted

import (
	"fmt"
	"math"

	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/hold"
	"elkstay/core/units"
)

// readsOff is how far what a crane shows of its load may be off, as a share of that (common practice, no source: what indicators are built to).
const readsOff = 0.1

// A freed is how the hook takes a piece as its last wood parts.
type freed struct {
	holdsKg float64 // asked of the crane before it does
	times   float64 // at its heavy end it carries so many times its weight; 1 at the least
	when    string  // which case that is
}

// asksKg is what the crane is to hold of the piece before the cut, kg: as it is told, or its likely mass less what is left for doubt.
func (o *Lifted) asksKg() float64 {
	if told := o.Pick.Lift.HoldsKg; told != nil {
		return *told
	}
	kg := &o.pick.MassKg
	return min(kg.Likely*(1-crane.AsksPct/100.0), kg.Low)
}

// partsFree works out how the hook takes the piece as its last wood parts suddenly, held a tenth less than asked at its heavy end and a tenth
// more at its light one.
func (o *Lifted) partsFree() freed {
	asked, kg := o.asksKg(), &o.pick.MassKg
	f := freed{holdsKg: asked, times: 1}
	off := o.parts().off
	below := head(o.crane, o.cutRadius) - o.Weight.At.Z
	mass := func(kg float64) string { return units.Print(units.Mass, o.System, kg) }
	for _, end := range []struct {
		kg, holds float64
		when      string
	}{
		{kg.High, asked * (1 - readsOff), "as the last wood parts, at its heavy end with %s on the hook"},
		{kg.Low, asked * (1 + readsOff), "as the last wood parts and it jumps, at its light end with %s on the hook"},
	} {
		// How far it goes asks how stiff rope and boom are: nobody says, and no peak asks that.
		comes := crane.Release{WeightKn: end.kg, HookKn: end.holds, StiffnessKnM: 1}
		if off > fallsInto && below > off {
			comes.OffsetM, comes.BelowTipM = off, &below
		}
		if times := comes.Solve().PeakKn / kg.High; times > f.times {
			f.times, f.when = times, fmt.Sprintf(end.when, mass(end.holds))
		}
	}
	o.say("Have the crane hold %s before the last wood parts: with nothing on the hook it carries %s as it does.", mass(asked), mass(2*kg.High))
	switch jumps := asked * (1 + readsOff); {
	case jumps > 2*kg.Low:
		o.Fault(course.FaultSlings, "held with %s it jumps at its light end, %s, until its slings are slack, and they may come off: have the crane hold less", mass(asked), mass(kg.Low))
	case jumps > kg.Low*(1+readsOff)*1.001:
		o.say("At its light end, %s, it jumps: how far is not known without the stiffness of boom and rope. Heads and hands out of its way.", mass(kg.Low))
	}
	return f
}

// onSling loads a sling with its share of that.
func (f freed) onSling(l *hold.Load) {
	if f.times > 1 {
		l.PeakKn, l.When = f.times*l.PeakKn, f.when
	}
}

// partsOnHook loads the hook with that where it is used more by it: an instant's peak is held to all of the chart, what hangs there to the
// share of it that is allowed, %; times is as many times its weight as it swings down with.
func (o *Lifted) partsOnHook(hook *hold.Load, times, share float64) {
	peak := hook.PeakKn + (o.freed.times-1)*o.pick.MassKg.High*units.Gravity/1000
	if peak*share/100 <= hook.PeakKn {
		return
	}
	hook.PeakKn, hook.When = peak, o.freed.when
	hook.Limit.Kn *= 100 / share
	hook.Limit.Reason = fmt.Sprintf("all of the chart's %s at %s, for an instant", units.Print(units.Mass, o.System, *o.lift.CapacityKg), o.Height(o.radius))
	if times > 1 {
		hook.When += ", and it swings down under the hook"
	}
}

// laidDown is the share of its weight that one sling alone may carry while it is laid down, its end beyond the balance on the ground and
// the others slack: 0 where it cannot alone.
func (o *Lifted) laidDown(name string) (share float64) {
	if len(o.pick.Slings) < 2 {
		return 0
	}
	for i := range o.pick.Slings {
		s := &o.pick.Slings[i]
		if s.Name != name {
			continue
		}
		for _, end := range []float64{0, o.pick.Piece.LengthM} {
			if arm, balance := math.Abs(s.AtM-end), math.Abs(o.pick.Piece.CogM-end); arm > balance {
				share = max(share, balance/arm)
			}
		}
	}
	return share
}
