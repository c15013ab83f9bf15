package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// free: cut and let fall into a drop zone; no rope, no load.
type free struct{ unheld }

// fromGround is the height up to which a stem is felled standing on the ground: it tips
// over, and does not have to turn in the air, m.
const fromGround = 1.5

func (free) bound(_ *Survey, _ *Outcome, piece *load) {
	piece.why = "it goes free: no line to keep to"
}

func (free) work(v *Survey, o *Outcome, now *Standing) {
	if o.pick.What != job.WhatLimb {
		if o.cut.Z > fromGround && o.Length() > o.cut.Z {
			o.fault(faultTooLong, "the piece, %s long, is longer than its drop (%s): it stands on its tip before it is down", v.Height(o.Length()), v.Height(o.cut.Z))
		}
		v.tips(o)
	}
	if v.Hurried && o.Stopped() {
		return
	}
	v.land(o, now, v.lay(o, now))
}

// disc is a round of ground a distance from the cut, the way the piece falls.
func (o *Outcome) disc(d, r float64) Disc {
	at := r3.Add(level(o.cut), r3.Scale(d, towards(o.Settings.FallTowardsDeg)))
	return Disc{at.X, at.Y, r}
}

// land judges where a piece that nothing holds comes down.
func (v *Survey) land(o *Outcome, now *Standing, discs []Disc) {
	// It comes past lines as high as it reaches; what stands on its hinge, past wood too.
	top := max(o.cut.Z, o.tip.Z, o.cut.Z+o.reachM)
	from := o.cut.Z
	if o.pick.Way == job.WayFelled {
		from = top
	}
	o.Landing = v.landing(discs, from, top, now, v.own(o))
	o.Landing.EnergyKj = o.weightKn() * max(0, o.Weight.at.Z)
}

func (free) call(_ *Survey, o *Outcome) string { return "Zone clear: free to " + o.wind() }

func (free) cautions(o *Outcome) []string {
	if o.Landing == nil {
		return nil
	}
	return []string{fmt.Sprintf("It can kick off its butt, roll or bounce: nobody nearer than twice its length, %.0f m (common practice).", math.Ceil(2*o.Length()))}
}

func (free) because(_ *Survey, o *Outcome) string {
	return fmt.Sprintf("Goes free %s: no rope, no load.", o.Landing.Reason)
}
