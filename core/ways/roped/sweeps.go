package roped

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/space"
	"elkstay/core/units"
)

// hangs is how a piece turns from how it grows to how it hangs by its tie: an axis and an
// angle, and the way from cut to tie. Tied near its balance it may hang any way between.
func (o *Roped) hangs() (axis r3.Vec, angle float64, tie r3.Vec, balanced bool) {
	tie = r3.Sub(o.Tie, o.Cut)
	lever := r3.Sub(o.Weight.At, o.Tie)
	long := r3.Norm(lever)
	if long < 0.02 {
		return r3.Vec{X: 1}, 0, tie, true
	}
	down := r3.Vec{Z: -1}
	// Balanced on its end it tips the way it falls.
	axis = space.Heading(1e-9*long, r3.Cross(r3.Vec{Z: 1}, space.Towards(o.Settings.FallTowardsDeg)), r3.Cross(lever, down))
	angle = math.Acos(max(-1, min(1, r3.Dot(lever, down)/long)))
	return axis, angle, tie, long < space.AnyWay*o.Length()
}

// lowestTie is the height of the tie at the piece's lowest on the line.
func (o *Roped) lowestTie() float64 {
	low, stops := o.lowest()
	if !stops {
		return o.Tie.Z - (o.Block.Z - o.Floor.Hard)
	}
	return low + o.MostBelow(o.Settings.TieM)
}

// letDownTo follows a piece that hangs under a place from a height of its tie down to where
// it is put.
func (o *Roped) letDownTo(s *space.Sweep, axis r3.Vec, angle float64, tie, under r3.Vec, from float64) {
	if o.Tag != nil {
		o.drawnAside(s, space.Hung(axis, angle, tie, r3.Vec{X: under.X, Y: under.Y, Z: from}))
		if o.Drawn() {
			return
		}
	}
	to := min(from, o.Floor.Hard+o.Below(o.Settings.TieM)+0.1)
	s.Along(func(share float64) space.Pose {
		return space.Hung(axis, angle, tie, r3.Vec{X: under.X, Y: under.Y, Z: from + (to-from)*share})
	})
}

// swingsAside is how far apart two arcs of a swing that runs are followed, m.
const swingsAside = 0.4

// mostArcs is the most arcs that are followed.
const mostArcs = 12

// swingWay is the way of a piece that comes off under its block: its arc held short and let
// run, turning into how it hangs, and its way down.
func (o *Roped) swingWay() space.Sweep {
	s := space.SweepOf(o.Body())
	axis, angle, tie, balanced := o.hangs()
	lowTie := o.lowestTie()
	if o.arc != nil {
		start, radius := space.Radians(o.arc.StartDeg), o.arc.RadiusM
		side := space.Level(r3.Sub(o.Tie, o.Block))
		side = r3.Scale(1/r3.Norm(side), side)
		arc := func(longer float64, turn func(share float64) float64) {
			at := func(share float64) space.Pose {
				long := radius + longer*min(1, 2*share)
				sin, cos := math.Sincos(start - 2*start*share)
				return space.Hung(axis, angle*turn(share), tie, r3.Add(o.Block, r3.Add(r3.Scale(long*sin, side), r3.Vec{Z: -long * cos})))
			}
			until := 1.0
			if o.stop != nil {
				until = o.stop.cut(o, s.Parts, tie, at)
			}
			s.Along(func(share float64) space.Pose { return at(share * until) })
		}
		longest := max(0, o.Block.Z-lowTie-radius)
		arcs := int(max(1, min(mostArcs, math.Ceil(longest/swingsAside))))
		for k := range arcs + 1 {
			longer := longest * float64(k) / float64(arcs)
			arc(longer, func(share float64) float64 { return min(1, 2*share) })
			if balanced {
				arc(longer, func(float64) float64 { return 0 })
			}
			if longest == 0 {
				break
			}
		}
	} else {
		s.Along(func(share float64) space.Pose { return space.Hung(axis, angle*share, tie, o.Tie) })
	}
	if o.stop != nil {
		o.stop.bends(&s)
	}
	o.letDownTo(&s, axis, angle, tie, o.Block, lowTie)
	if balanced {
		o.letDownTo(&s, axis, 0, tie, o.Block, lowTie)
	}
	return s
}

// faceCloses is the angle of a stem from upright at which the face of its cut closes and the
// hinge lets go: 45° after it began, between 70° and 170°.
func faceCloses(start float64) float64 { return min(170, max(70, start+45)) }

// tippingWay is the way of a piece past its block: over its hinge until the face closes, in
// the air as it was thrown, onto the line, and down.
func (o *Roped) tippingWay() space.Sweep {
	s := space.SweepOf(o.Body())
	over := space.Towards(o.Settings.FallTowardsDeg)
	axis := r3.Cross(r3.Vec{Z: 1}, over)
	from := space.Radians(o.OrientDeg)
	closes := max(from, space.Radians(faceCloses(o.OrientDeg)))
	s.Along(func(share float64) space.Pose { return space.Turned(axis, (closes-from)*share, o.Cut) })
	// Thrown: it turns on about its centre of gravity as it did about the hinge.
	cog := r3.Sub(o.Weight.At, o.Cut)
	spin := math.Sqrt(3 * units.Gravity / max(0.3, o.Length()) * max(0, math.Cos(from)-math.Cos(closes)))
	released := space.Turned(axis, closes-from, o.Cut)
	lever := r3.Sub(released.Place(cog), o.Cut)
	speed := r3.Scale(spin, r3.Cross(axis, lever))
	tie := r3.Sub(o.Tie, o.Cut)
	rope := r3.Norm(r3.Sub(o.Tie, o.Block)) + o.Settings.SlackM
	last := released
	if spin > 0.1 {
		turn := closes - from
		for flight, n := 0.0, 0; n < space.MostPoses; n++ {
			// In strides of the furthest part.
			dt := space.StrideM / (spin*s.Far + r3.Norm(speed) + units.Gravity*(flight+0.1))
			flight += dt
			turn += spin * dt
			p := space.Turned(axis, turn, r3.Vec{})
			middle := r3.Add(released.Place(cog), r3.Add(r3.Scale(flight, speed), r3.Vec{Z: -units.Gravity * flight * flight / 2}))
			p.At = r3.Sub(middle, p.Place(cog))
			last = p
			s.Add(p, false)
			if r3.Norm(r3.Sub(p.Place(tie), o.Block)) >= rope || turn >= math.Pi-from || p.At.Z < o.Floor.Hard {
				break
			}
		}
	}
	// Onto the line: from there into how it hangs, by the shorter way.
	hang, angle, tie, _ := o.hangs()
	if o.Weight.CogM > o.Settings.TieM {
		hang, angle = axis, math.Pi-from
	}
	lowTie := o.lowestTie()
	goal := r3.Vec{X: o.Block.X, Y: o.Block.Y, Z: lowTie}
	tight := last.Place(tie)
	turnedBy := closes - from
	if trace := last.X.X + last.Y.Y + last.Z.Z; trace < 3 {
		turnedBy = math.Acos(max(-1, min(1, (trace-1)/2)))
	}
	s.Along(func(share float64) space.Pose {
		return space.Hung(hang, turnedBy+(angle-turnedBy)*share, tie, space.OnTheWay(tight, goal, share))
	})
	o.letDownTo(&s, hang, angle, tie, o.Block, lowTie)
	return s
}

// carryWay is the way of a piece between two points, and down under the second.
func (o *Roped) carryWay() space.Sweep {
	s := space.SweepOf(o.Body())
	axis, angle, tie, balanced := o.hangs()
	first, last := o.carried.Way[0].At.Vec(), o.carried.Way[len(o.carried.Way)-1].At.Vec()
	if o.Tag != nil {
		o.Tag.pair.Sweep(o, &s)
	}
	carry := func(by float64) {
		if o.Tag == nil || !o.Drawn() {
			s.Along(func(share float64) space.Pose {
				return space.Hung(axis, by, tie, space.OnTheWay(first, last, share))
			})
		}
		o.letDownTo(&s, axis, by, tie, last, last.Z)
	}
	carry(angle)
	if balanced {
		carry(0)
	}
	return s
}
