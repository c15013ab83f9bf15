package roped

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
)

// PairTag is a tag line on a piece that hangs on two lines: where it holds the piece, moment by
// moment of its way, at both ends of its weight.
type PairTag struct {
	Heavy  []line.PairDrawn // the piece as heavy as it may be
	MostKn [2]float64       // that each line carries at rest then
	At     [2]int           // the moment of it

	sum   line.TaggedPair // at the first moment
	light []line.PairDrawn
	first []line.PairDrawn // pulled harder and harder, at the first moment: both ends of its weight
}

// A PairMoment is a moment of a piece on two lines, undrawn.
type PairMoment struct {
	Lines [2]line.Strung
	From  line.PairDrawn
}

// Bounds of what is drawn aside: moments of a way, and pulls on the way to the whole one.
const (
	mostDrawn  = 60
	drawnPulls = 8
)

// TaggedPair works out what a tag line does to a piece on two lines, tied where its moments have
// it. It faults, and gives nil, where there is no place short of where the tag line leads.
func (o *Roped) TaggedPair(cogM float64, moments []PairMoment) *PairTag {
	set := o.Pick.Tagged(o.Length(), o.Limits.HandKn)
	if set == nil || len(moments) == 0 {
		return nil
	}
	towards, name, why := o.ledTo(set.Anchor, set.AnchorM)
	if why != "" {
		o.Fault(course.FaultBlock, "the tag line leads to a place %s", why)
		return nil
	}
	if *set.TieM > o.Length() {
		o.Fault(course.FaultTie, "the tag line, %s from the cut, is beyond the piece's end (%s long)", o.Height(*set.TieM), o.Height(o.Length()))
		return nil
	}
	p := &PairTag{}
	for w, weight := range [2]float64{o.WeightKn(), o.Weight.Kg.Low * units.Gravity / 1000} {
		one := line.TaggedPair{WeightKn: weight, CogM: cogM, TagM: *set.TieM, Towards: towards, PullKn: *set.PullKn, Lines: moments[0].Lines}
		lost := func() {
			o.Fault(course.FaultTie, "%s at the tag line draw it all the way to %s: pull with less, or stand further off", units.Print(units.Force, o.System, *set.PullKn), name)
		}
		for k := range drawnPulls {
			less := one
			less.PullKn *= float64(k) / drawnPulls
			d, found := less.Solve(moments[0].From, false)
			if !found {
				lost()
				return nil
			}
			p.first = append(p.first, d)
		}
		var last line.PairDrawn
		for k := range search.Some(len(moments), mostDrawn) {
			m := &moments[k]
			one.Lines = m.Lines
			d, found := line.PairDrawn{}, false
			if k > 0 {
				d, found = one.Solve(last, true)
			}
			if !found {
				if d, found = one.Solve(m.From, false); !found {
					lost()
					return nil
				}
			}
			last = d
			d.AsideM = r3.Norm(space.Level(r3.Sub(d.Along(cogM), m.From.Along(cogM))))
			if w == 1 {
				p.light = append(p.light, d)
				continue
			}
			if k == 0 {
				p.sum = one
			}
			p.Heavy = append(p.Heavy, d)
			for i, kn := range d.Kn {
				if kn > p.MostKn[i] {
					p.MostKn[i], p.At[i] = kn, len(p.Heavy)-1
				}
			}
		}
	}
	o.Tag = &Tagging{set: set, anchor: name, pair: p}
	return p
}

// Harder is how much a tag line makes of a peak, as if it were pulled with all of it on that line:
// a factor.
func (p *PairTag) Harder(peakKn float64) float64 {
	most := peakKn
	for k := range p.Heavy {
		most = max(most, r3.Norm(r3.Add(p.Heavy[k].Pull, r3.Vec{Z: -peakKn})))
	}
	return most / max(1e-9, peakKn)
}

// Across is the most that the pull draws level, kN.
func (p *PairTag) Across() (most r3.Vec) {
	for k := range p.Heavy {
		most = space.Longer(most, space.Level(p.Heavy[k].Pull))
	}
	return most
}

// PoseAlong is the piece with its butt at a place and its axis along a direction.
func (o *Roped) PoseAlong(butt, axis r3.Vec) space.Pose {
	grown := space.Turned(r3.Vec{}, 0, o.Cut)
	return grown.Onto(o.Heads(), axis, butt)
}

// Sweep follows what is drawn aside: harder and harder where it first hangs, then all the way.
func (p *PairTag) Sweep(o *Roped, s *space.Sweep) {
	for _, way := range [4][]line.PairDrawn{p.first[:drawnPulls], p.first[drawnPulls:], p.Heavy, p.light} {
		last := o.PoseAlong(way[0].Butt, way[0].Axis)
		for k := range max(1, len(way)-1) {
			from, to := &way[k], &way[min(k+1, len(way)-1)]
			s.Along(func(share float64) space.Pose {
				return last.Onto(o.Heads(), r3.Unit(space.OnTheWay(from.Axis, to.Axis, share)), space.OnTheWay(from.Butt, to.Butt, share))
			})
			last = s.Poses[len(s.Poses)-1]
		}
	}
}

// said tells how far a tag line draws a piece on two lines and what it adds.
func (p *PairTag) said(o *Roped, set *job.Tag) string {
	first, last := &p.Heavy[0], &p.Heavy[len(p.Heavy)-1]
	said := fmt.Sprintf("%s at the tag line draw it %s aside where it first hangs", units.Print(units.Force, o.System, *set.PullKn), o.Height(first.AsideM))
	if last.AsideM > first.AsideM+0.01 {
		said += fmt.Sprintf(", %s at the end of its way", o.Height(last.AsideM))
	}
	return said + fmt.Sprintf("; its lines then carry up to %s and %s at rest.", units.Print(units.Force, o.System, p.MostKn[0]), units.Print(units.Force, o.System, p.MostKn[1]))
}

// swingsBack says what a piece meets that is drawn aside and let go at any moment of its way: it
// swings about a level line through a place, through the plumb and as far out on the other side.
func (o *Roped) swingsBack(pivot, along r3.Vec, cogM float64, drawn []line.PairDrawn) string {
	const moments = 8
	u, leads := space.Direction(along, 1e-9)
	if !leads {
		return "" // pulled straight down: it swings nowhere
	}
	s := space.SweepOf(o.Body())
	square := func(at r3.Vec) r3.Vec { return r3.Sub(at, r3.Scale(r3.Dot(at, u), u)) }
	plumb := square(r3.Vec{Z: -1})
	for k := range search.Some(len(drawn), moments) {
		d := &drawn[k]
		out := square(r3.Sub(d.Along(cogM), pivot))
		angle := math.Atan2(r3.Dot(r3.Cross(plumb, out), u), r3.Dot(plumb, out))
		let := o.PoseAlong(d.Butt, d.Axis)
		s.Along(func(share float64) space.Pose {
			back := space.Turned(u, -angle*(1+share), r3.Vec{})
			back.At = r3.Add(pivot, back.Headed(r3.Sub(d.Butt, pivot)))
			return let.Then(&back)
		})
	}
	for _, c := range o.Measure(&s, nil) {
		if c.Target != nil && c.Strikes() {
			if c.ClearanceM <= 0 {
				return fmt.Sprintf("Let go, it swings back through as far on the other side, and strikes %s.", c.Name)
			}
			return fmt.Sprintf("Let go, it swings back through as far on the other side, %s from %s.", o.Height(c.ClearanceM), c.Name)
		}
	}
	return "Let go, it swings back through as far on the other side."
}

// SwingBack says what the piece meets that is drawn aside between two places and let go at any moment of its way.
func (o *Roped) SwingBack(a, b r3.Vec, p *PairTag) {
	o.Tag.back = o.swingsBetween(a, b, o.Weight.CogM, p)
}

// swingsBetween is swingsBack of a piece on two lines from two places.
func (o *Roped) swingsBetween(a, b r3.Vec, cogM float64, p *PairTag) string {
	along := r3.Sub(b, a)
	if _, leads := space.Direction(space.Level(along), 1e-6); !leads {
		along = r3.Cross(space.Level(r3.Sub(p.sum.Towards, a)), r3.Vec{Z: 1})
	}
	return o.swingsBack(a, along, cogM, slices.Concat(p.Heavy, p.light))
}
