package assess

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/units"
)

// ball is a part of a piece: how far its middle is from the middle of the cut, as the piece
// stands before it is cut, and how far it reaches round that, m.
type ball struct {
	off  r3.Vec
	r    float64
	gap  float64 // to its neighbour along the wood
	wood float64 // what of it is wood, not brush, m
}

// mostBalls is the most parts that one limb, or the stem, is laid out in.
const mostBalls = 120

// brushSpread is how far brush reaches to the side of its limb, as a share of the limb's
// length (common practice, no source, on the wide side).
const brushSpread = 0.12

// body lays out a piece in parts: its wood end to end with its thickness, brush as its
// spread, the limbs on it in their places.
func (v *Survey) body(o *Outcome, now *Standing) []ball {
	list := make([]ball, 0, 64)
	limb := func(k int, from float64) {
		g := &v.Limbs[k]
		long := now.Tips[k] - from
		parts := int(max(1, min(mostBalls, math.Ceil(long/ballsApart))))
		for share := range shares(parts) {
			s := from + long*share
			r := g.diameterAt(s) / 2
			if g.Brush != job.BrushBare && s >= brushFrom*g.LengthM {
				// To the side, not beyond the tip that was measured.
				r = max(r, min(brushSpread*g.LengthM, g.LengthM-s))
			}
			list = append(list, ball{r3.Sub(g.at(s), o.cut), r, long / float64(parts), g.diameterAt(s) / 2})
		}
	}
	if self := v.LimbOf(o.pick); self >= 0 {
		limb(self, o.FromM)
	} else {
		parts := int(max(1, min(mostBalls, math.Ceil(o.Length()/ballsApart))))
		for share := range shares(parts) {
			z := o.FromM + o.Length()*share
			outside, _ := v.Stem.DiameterAt(z)
			list = append(list, ball{r3.Sub(v.onStem(z), o.cut), outside / 2, o.Length() / float64(parts) * v.longer(z), outside / 2})
		}
	}
	self, own := v.LimbOf(o.pick), v.own(o)
	for k := range v.Limbs {
		if k != self && now.stands(k) && own(k) {
			limb(k, 0)
		}
	}
	return list
}

// anyWay is how near to its balance a piece is tied that may hang any way, as a share of its length (common practice, no
// source).
const anyWay = 0.15

// hangs is how a piece turns from how it grows to how it hangs by its tie: an axis and an
// angle, and the way from cut to tie. Tied near its balance it may hang any way between.
func (v *Survey) hangs(o *Outcome) (axis r3.Vec, angle float64, tie r3.Vec, balanced bool) {
	tie = r3.Sub(o.tie, o.cut)
	lever := r3.Sub(o.Weight.at, o.tie)
	long := r3.Norm(lever)
	if long < 0.02 {
		return r3.Vec{X: 1}, 0, tie, true
	}
	down := r3.Vec{Z: -1}
	// Balanced on its end it tips the way it falls.
	axis = heading(1e-9*long, r3.Cross(r3.Vec{Z: 1}, towards(o.Settings.FallTowardsDeg)), r3.Cross(lever, down))
	angle = math.Acos(max(-1, min(1, r3.Dot(lever, down)/long)))
	return axis, angle, tie, long < anyWay*o.Length()
}

// lowestTie is the height of the tie at the piece's lowest on the line.
func (o *Outcome) lowestTie() float64 {
	low, stops := o.lowest()
	if !stops {
		return o.tie.Z - (o.block.Z - o.floor.hard)
	}
	return low + o.mostBelow(o.Settings.TieM)
}

// letDownTo follows a piece that hangs under a place from a height of its tie down to where
// it is put.
func (v *Survey) letDownTo(o *Outcome, s *sweep, axis r3.Vec, angle float64, tie, under r3.Vec, from float64) {
	if o.tag != nil {
		v.drawnAside(o, s, hung(axis, angle, tie, r3.Vec{X: under.X, Y: under.Y, Z: from}))
		if o.tag.alone(v) {
			return
		}
	}
	to := min(from, o.floor.hard+o.below()+0.1)
	s.along(func(share float64) pose {
		return hung(axis, angle, tie, r3.Vec{X: under.X, Y: under.Y, Z: from + (to-from)*share})
	})
}

// swingsAside is how far apart two arcs of a swing that runs are followed, m.
const swingsAside = 0.4

// mostArcs is the most arcs that are followed.
const mostArcs = 12

// swingWay is the way of a piece that comes off under its block: its arc held short and let
// run, turning into how it hangs, and its way down.
func (v *Survey) swingWay(o *Outcome, now *Standing) sweep {
	s := sweepOf(v.body(o, now))
	axis, angle, tie, balanced := v.hangs(o)
	lowTie := o.lowestTie()
	if o.arc != nil {
		start, radius := radians(o.arc.StartDeg), o.arc.RadiusM
		side := level(r3.Sub(o.tie, o.block))
		side = r3.Scale(1/r3.Norm(side), side)
		arc := func(longer float64, turn func(share float64) float64) {
			at := func(share float64) pose {
				long := radius + longer*min(1, 2*share)
				sin, cos := math.Sincos(start - 2*start*share)
				return hung(axis, angle*turn(share), tie, r3.Add(o.block, r3.Add(r3.Scale(long*sin, side), r3.Vec{Z: -long * cos})))
			}
			until := 1.0
			if o.stop != nil {
				until = o.stop.cut(o, s.balls, tie, at)
			}
			s.along(func(share float64) pose { return at(share * until) })
		}
		longest := max(0, o.block.Z-lowTie-radius)
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
		s.along(func(share float64) pose { return hung(axis, angle*share, tie, o.tie) })
	}
	if o.stop != nil {
		o.stop.bends(&s)
	}
	v.letDownTo(o, &s, axis, angle, tie, o.block, lowTie)
	if balanced {
		v.letDownTo(o, &s, axis, 0, tie, o.block, lowTie)
	}
	return s
}

// faceCloses is the angle of a stem from upright at which the face of its cut closes and the
// hinge lets go: 45° after it began, between 70° and 170°.
func faceCloses(start float64) float64 { return min(170, max(70, start+45)) }

// tippingWay is the way of a piece past its block: over its hinge until the face closes, in
// the air as it was thrown, onto the line, and down.
func (v *Survey) tippingWay(o *Outcome, now *Standing) sweep {
	s := sweepOf(v.body(o, now))
	over := towards(o.Settings.FallTowardsDeg)
	axis := r3.Cross(r3.Vec{Z: 1}, over)
	from := radians(o.orient)
	closes := max(from, radians(faceCloses(o.orient)))
	s.along(func(share float64) pose { return turned(axis, (closes-from)*share, o.cut) })
	// Thrown: it turns on about its centre of gravity as it did about the hinge.
	cog := r3.Sub(o.Weight.at, o.cut)
	spin := math.Sqrt(3 * units.Gravity / max(0.3, o.Length()) * max(0, math.Cos(from)-math.Cos(closes)))
	released := turned(axis, closes-from, o.cut)
	lever := r3.Sub(released.place(cog), o.cut)
	speed := r3.Scale(spin, r3.Cross(axis, lever))
	tie := r3.Sub(o.tie, o.cut)
	rope := r3.Norm(r3.Sub(o.tie, o.block)) + o.Settings.SlackM
	last := released
	if spin > 0.1 {
		turn := closes - from
		for flight, n := 0.0, 0; n < mostPoses; n++ {
			// In strides of the furthest part.
			dt := strideM / (spin*s.far + r3.Norm(speed) + units.Gravity*(flight+0.1))
			flight += dt
			turn += spin * dt
			p := turned(axis, turn, r3.Vec{})
			middle := r3.Add(released.place(cog), r3.Add(r3.Scale(flight, speed), r3.Vec{Z: -units.Gravity * flight * flight / 2}))
			p.at = r3.Sub(middle, p.place(cog))
			last = p
			s.add(p, false)
			if r3.Norm(r3.Sub(p.place(tie), o.block)) >= rope || turn >= math.Pi-from || p.at.Z < o.floor.hard {
				break
			}
		}
	}
	// Onto the line: from there into how it hangs, by the shorter way.
	hang, angle, tie, _ := v.hangs(o)
	if o.Weight.cog > o.Settings.TieM {
		hang, angle = axis, math.Pi-from
	}
	lowTie := o.lowestTie()
	goal := r3.Vec{X: o.block.X, Y: o.block.Y, Z: lowTie}
	tight := last.place(tie)
	turnedBy := closes - from
	if trace := last.x.X + last.y.Y + last.z.Z; trace < 3 {
		turnedBy = math.Acos(max(-1, min(1, (trace-1)/2)))
	}
	s.along(func(share float64) pose {
		return hung(hang, turnedBy+(angle-turnedBy)*share, tie, onTheWay(tight, goal, share))
	})
	v.letDownTo(o, &s, hang, angle, tie, o.block, lowTie)
	return s
}

// carryWay is the way of a piece between two points, and down under the second.
func (v *Survey) carryWay(o *Outcome, now *Standing) sweep {
	s := sweepOf(v.body(o, now))
	axis, angle, tie, balanced := v.hangs(o)
	first, last := o.carried.Way[0].At.Vec(), o.carried.Way[len(o.carried.Way)-1].At.Vec()
	if o.tag != nil {
		o.tag.pair.sweep(o, &s)
	}
	carry := func(by float64) {
		if o.tag == nil || !o.tag.alone(v) {
			s.along(func(share float64) pose {
				return hung(axis, by, tie, onTheWay(first, last, share))
			})
		}
		v.letDownTo(o, &s, axis, by, tie, last, last.Z)
	}
	carry(angle)
	if balanced {
		carry(0)
	}
	return s
}
