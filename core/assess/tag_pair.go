package assess

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/units"
)

// pairTag is a tag line on a piece that hangs on two lines: where it holds the piece, moment by
// moment of its way, at both ends of its weight.
type pairTag struct {
	sum          line.TaggedPair // at the first moment
	heavy, light []line.PairDrawn
	first        []line.PairDrawn // pulled harder and harder, at the first moment: both ends of its weight
	kn           [2]float64       // the most that each line carries at rest, the piece as heavy as it may be
	at           [2]int           // the moment of it
}

// A pairMoment is a moment of a piece on two lines, undrawn.
type pairMoment struct {
	lines [2]line.Strung
	from  line.PairDrawn
}

// Bounds of what is drawn aside: moments of a way, and pulls on the way to the whole one.
const (
	mostDrawn  = 60
	drawnPulls = 8
)

// taggedPair works out what a tag line does to a piece on two lines, tied where its moments have
// it. It faults, and gives nil, where there is no place short of where the tag line leads.
func (v *Survey) taggedPair(o *Outcome, cogM float64, moments []pairMoment, now *Standing) *pairTag {
	set := o.pick.Tagged(o.Length(), v.limits.HandKn)
	if set == nil || len(moments) == 0 {
		return nil
	}
	towards, name, why := v.ledTo(set.Anchor, set.AnchorM, now)
	if why != "" {
		o.fault(faultBlock, "the tag line leads to a place %s", why)
		return nil
	}
	if *set.TieM > o.Length() {
		o.fault(faultTie, "the tag line, %s from the cut, is beyond the piece's end (%s long)", v.Height(*set.TieM), v.Height(o.Length()))
		return nil
	}
	p := &pairTag{}
	for w, weight := range [2]float64{o.weightKn(), o.Weight.Kg.Low * units.Gravity / 1000} {
		one := line.TaggedPair{WeightKn: weight, CogM: cogM, TagM: *set.TieM, Towards: towards, PullKn: *set.PullKn, Lines: moments[0].lines}
		lost := func() {
			o.fault(faultTie, "%s at the tag line draw it all the way to %s: pull with less, or stand further off", units.Print(units.Force, v.System, *set.PullKn), name)
		}
		for k := range drawnPulls {
			less := one
			less.PullKn *= float64(k) / drawnPulls
			d, found := less.Solve(moments[0].from, false)
			if !found {
				lost()
				return nil
			}
			p.first = append(p.first, d)
		}
		var last line.PairDrawn
		for k := range some(len(moments), mostDrawn) {
			m := &moments[k]
			one.Lines = m.lines
			d, found := line.PairDrawn{}, false
			if k > 0 {
				d, found = one.Solve(last, true)
			}
			if !found {
				if d, found = one.Solve(m.from, false); !found {
					lost()
					return nil
				}
			}
			last = d
			d.AsideM = r3.Norm(level(r3.Sub(d.Along(cogM), m.from.Along(cogM))))
			if w == 1 {
				p.light = append(p.light, d)
				continue
			}
			if k == 0 {
				p.sum = one
			}
			p.heavy = append(p.heavy, d)
			for i, kn := range d.Kn {
				if kn > p.kn[i] {
					p.kn[i], p.at[i] = kn, len(p.heavy)-1
				}
			}
		}
	}
	o.tag = &tagging{set: set, anchor: name, pair: p}
	return p
}

// harder is how much a tag line makes of a peak, as if it were pulled with all of it on that line:
// a factor.
func (p *pairTag) harder(peakKn float64) float64 {
	most := peakKn
	for k := range p.heavy {
		most = max(most, r3.Norm(r3.Add(p.heavy[k].Pull, r3.Vec{Z: -peakKn})))
	}
	return most / max(1e-9, peakKn)
}

// across is the most that the pull draws level, kN.
func (p *pairTag) across() (most r3.Vec) {
	for k := range p.heavy {
		most = longer(most, level(p.heavy[k].Pull))
	}
	return most
}

// poseAlong is the piece with its butt at a place and its axis along a direction.
func poseAlong(o *Outcome, butt, axis r3.Vec) pose {
	grown := turned(r3.Vec{}, 0, o.cut)
	return grown.onto(o.heads(), axis, butt)
}

// heads is the direction of a piece's axis before its cut.
func (o *Outcome) heads() r3.Vec { return r3.Unit(r3.Sub(o.tip, o.cut)) }

// sweep follows what is drawn aside: harder and harder where it first hangs, then all the way.
func (p *pairTag) sweep(o *Outcome, s *sweep) {
	for _, way := range [4][]line.PairDrawn{p.first[:drawnPulls], p.first[drawnPulls:], p.heavy, p.light} {
		last := poseAlong(o, way[0].Butt, way[0].Axis)
		for k := range max(1, len(way)-1) {
			from, to := &way[k], &way[min(k+1, len(way)-1)]
			s.along(func(share float64) pose {
				return last.onto(o.heads(), r3.Unit(onTheWay(from.Axis, to.Axis, share)), onTheWay(from.Butt, to.Butt, share))
			})
			last = s.poses[len(s.poses)-1]
		}
	}
}

// said tells how far a tag line draws a piece on two lines and what it adds.
func (p *pairTag) said(v *Survey, set *job.Tag) string {
	first, last := &p.heavy[0], &p.heavy[len(p.heavy)-1]
	said := fmt.Sprintf("%s at the tag line draw it %s aside where it first hangs", units.Print(units.Force, v.System, *set.PullKn), v.Height(first.AsideM))
	if last.AsideM > first.AsideM+0.01 {
		said += fmt.Sprintf(", %s at the end of its way", v.Height(last.AsideM))
	}
	return said + fmt.Sprintf("; its lines then carry up to %s and %s at rest.", units.Print(units.Force, v.System, p.kn[0]), units.Print(units.Force, v.System, p.kn[1]))
}

// endsMoments are the moments of a piece held at both ends, in space.
func (e *endsOf) endsMoments() []pairMoment {
	list := make([]pairMoment, len(e.course))
	for k := range e.course {
		m := &e.course[k]
		sin, cos := math.Sincos(radians(m.hang.AttitudeDeg))
		one := pairMoment{from: line.PairDrawn{Butt: e.plane.spot(m.hang.Butt, 0), Axis: r3.Add(r3.Scale(cos, e.plane.along), r3.Vec{Z: sin})}}
		for i, side := range e.sides {
			// Both blocks lie in the plane of their two places.
			one.lines[i] = line.Strung{AtM: side.Settings.TieM, Point: side.block, LineM: max(0.05, e.caught.LineM[i]+m.out[i])}
			one.from.Kn[i] = m.hang.Ties[i].TensionKn
		}
		list[k] = one
	}
	return list
}

// swingsBack says what a piece meets that is drawn aside and let go at any moment of its way: it
// swings about a level line through a place, through the plumb and as far out on the other side.
func (v *Survey) swingsBack(o *Outcome, now *Standing, pivot, along r3.Vec, cogM float64, drawn []line.PairDrawn) string {
	const moments = 8
	u, leads := direction(along, 1e-9)
	if !leads {
		return "" // pulled straight down: it swings nowhere
	}
	s := sweepOf(v.body(o, now))
	square := func(at r3.Vec) r3.Vec { return r3.Sub(at, r3.Scale(r3.Dot(at, u), u)) }
	plumb := square(r3.Vec{Z: -1})
	for k := range some(len(drawn), moments) {
		d := &drawn[k]
		out := square(r3.Sub(d.Along(cogM), pivot))
		angle := math.Atan2(r3.Dot(r3.Cross(plumb, out), u), r3.Dot(plumb, out))
		let := poseAlong(o, d.Butt, d.Axis)
		s.along(func(share float64) pose {
			back := turned(u, -angle*(1+share), r3.Vec{})
			back.at = r3.Add(pivot, back.headed(r3.Sub(d.Butt, pivot)))
			return let.then(&back)
		})
	}
	for _, c := range v.clearances(&s, nil) {
		if c.target != nil && c.Verdict == Over {
			if c.ClearanceM <= 0 {
				return fmt.Sprintf("Let go, it swings back through as far on the other side, and strikes %s.", c.Name)
			}
			return fmt.Sprintf("Let go, it swings back through as far on the other side, %s from %s.", v.Height(c.ClearanceM), c.Name)
		}
	}
	return "Let go, it swings back through as far on the other side."
}

// swingsBetween is swingsBack of a piece on two lines from two places.
func (v *Survey) swingsBetween(o *Outcome, now *Standing, a, b r3.Vec, cogM float64, p *pairTag) string {
	along := r3.Sub(b, a)
	if _, leads := direction(level(along), 1e-6); !leads {
		along = r3.Cross(level(r3.Sub(p.sum.Towards, a)), r3.Vec{Z: 1})
	}
	return v.swingsBack(o, now, a, along, cogM, slices.Concat(p.heavy, p.light))
}
