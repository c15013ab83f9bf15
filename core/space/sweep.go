package space

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/search"
)

// ballsApart is how far the parts of a body lie apart along its wood, and StrideM how far any
// part moves from pose to pose, m: half of each is what a nearest distance may miss, and it
// is taken off.
const (
	ballsApart = 0.16
	StrideM    = 0.14
)

// Sweep is the way of a piece: its parts, and the poses it passes through.
type Sweep struct {
	Parts []Part
	Poses []Pose
	Moved []float64 // most that any part has moved up to a pose, m
	Leaps []bool    // it does not come from the pose before: another movement begins
	Far   float64   // of the part that is furthest from the cut

	all    parts   // its parts as one
	some   []parts // and so many neighbours together
	gap    float64 // the widest between neighbours, m
	stride float64 // the longest from pose to pose, m
}

// parts are neighbouring parts of a piece as one round: its middle, how far all of them reach round that, and how thin
// the thinnest is, m.
type parts struct {
	balls       []Part
	off         r3.Vec
	r, thinnest float64
}

// together is how many neighbouring parts of a piece are looked at as one round first.
const together = 8

func roundOf(balls []Part) parts {
	p := parts{balls: balls, thinnest: math.Inf(1)}
	for i := range balls {
		p.off = r3.Add(p.off, r3.Scale(1/float64(len(balls)), balls[i].Off))
	}
	for i := range balls {
		p.r = max(p.r, r3.Norm(r3.Sub(balls[i].Off, p.off))+balls[i].R)
		p.thinnest = min(p.thinnest, balls[i].R)
	}
	return p
}

// usualPoses is room for the poses of most ways.
const usualPoses = 256

// SweepOf readies a body for its way.
func SweepOf(balls []Part) Sweep {
	s := Sweep{Poses: make([]Pose, 0, usualPoses), Moved: make([]float64, 0, usualPoses), Leaps: make([]bool, 0, usualPoses)}
	s.Of(balls)
	return s
}

// Of gives the way to a body.
func (s *Sweep) Of(balls []Part) {
	s.Parts, s.Far, s.gap, s.all, s.some = balls, 0, 0, roundOf(balls), make([]parts, 0, len(balls)/together+1)
	for i := range balls {
		s.Far, s.gap = max(s.Far, r3.Norm(balls[i].Off)), max(s.gap, balls[i].Gap)
		if i%together == 0 {
			s.some = append(s.some, roundOf(balls[i:min(i+together, len(balls))]))
		}
	}
}

// From is the way from a pose on.
func (s *Sweep) From(k int) Sweep {
	rest := *s
	rest.Poses, rest.Moved, rest.Leaps = s.Poses[k:], s.Moved[k:], s.Leaps[k:]
	return rest
}

// UpTo is the way before a pose.
func (s *Sweep) UpTo(k int) Sweep {
	begin := *s
	begin.Poses, begin.Moved, begin.Leaps = s.Poses[:k], s.Moved[:k], s.Leaps[:k]
	return begin
}

// Add puts a pose at the end of the way; it leaps there when it does not move there.
func (s *Sweep) Add(p Pose, leap bool) {
	moved := 0.0
	if n := len(s.Poses); n > 0 {
		last := &s.Poses[n-1]
		step := s.Moves(last, &p)
		moved = s.Moved[n-1] + step
		if !leap {
			s.stride = max(s.stride, step)
		}
	}
	s.Poses, s.Moved, s.Leaps = append(s.Poses, p), append(s.Moved, moved), append(s.Leaps, leap)
}

// Moves is the most that a part moves from pose to pose, m.
func (s *Sweep) Moves(a, b *Pose) float64 {
	// The turn's angle by its trace; the chord of it at the furthest part.
	trace := r3.Dot(a.X, b.X) + r3.Dot(a.Y, b.Y) + r3.Dot(a.Z, b.Z)
	move := r3.Sub(b.At, a.At)
	return math.Sqrt(r3.Dot(move, move)) + s.Far*math.Sqrt(max(0, 3-trace))
}

// MostPoses is the most strides that one movement is divided into evenly: a longer one has longer strides, and more is
// taken off its nearest distance. A stride that comes out twice as long is halved, as often as halvings.
const (
	MostPoses = 400
	halvings  = 6
)

// Along follows a movement given for shares of it from 0 to 1, in strides.
func (s *Sweep) Along(at func(share float64) Pose) {
	first, last := at(0), at(1)
	middle := at(0.5)
	moves := s.Moves(&first, &middle) + s.Moves(&middle, &last)
	n := int(max(1, min(MostPoses, math.Ceil(moves/StrideM))))
	longest, was := 2*max(StrideM, moves/float64(n)), 0.0
	for share := range search.Shares(n) {
		if share == 0 {
			s.Add(first, true)
		} else {
			s.stepTo(was, share, at(share), at, longest, halvings)
		}
		was = share
	}
}

// stepTo goes on from one share of a movement to another.
func (s *Sweep) stepTo(from, to float64, p Pose, at func(share float64) Pose, longest float64, halvings int) {
	if halvings > 0 && s.Moves(&s.Poses[len(s.Poses)-1], &p) > longest {
		middle := (from + to) / 2
		s.stepTo(from, middle, at(middle), at, longest, halvings-1)
		s.stepTo(middle, to, p, at, longest, halvings-1)
		return
	}
	s.Add(p, false)
}

// span is a stretch of the poses of a way: from the first up to, not with, the last.
type span struct{ from, to int }

// Until is the first pose after another, up to a last one, at which a part may have moved so far.
func (s *Sweep) Until(i, to int, moved float64) int {
	at := s.Moved[i] + moved
	low, step := i+1, 1
	if low == to || s.Moved[low] >= at {
		return low
	}
	for low+step < to && s.Moved[low+step] < at {
		low, step = low+step, 2*step
	}
	for high := min(low+step, to); low < high; {
		if middle := (low + high) / 2; s.Moved[middle] < at {
			low = middle + 1
		} else {
			high = middle
		}
	}
	return low
}

// nears are the poses, among some, at which a round of the piece comes nearer to something than a distance, and the
// one of those it was looked at in at which it comes nearest.
func (s *Sweep) nears(off r3.Vec, than float64, among, into []span, distance func(at r3.Vec, enough float64) float64) (found []span, nearest int) {
	found = into[:0]
	least := math.Inf(1)
	for _, one := range among {
		for i := one.from; i < one.to; {
			d := distance(s.Poses[i].Place(off), than)
			if d < least {
				least, nearest = d, i
			}
			// So far it stays as near, or as far.
			next := s.Until(i, one.to, math.Abs(d-than))
			if last := len(found) - 1; d < than && last >= 0 && found[last].to == i {
				found[last].to = next
			} else if d < than {
				found = append(found, span{i, next})
			}
			i = next
		}
	}
	return found, nearest
}

// missed is what a part, at a place in a pose, may come nearer between the places and poses that are looked at, as a
// square across the way, m². From pose to pose it moves nearly straight.
func (s *Sweep) missed(part *Part, i int, at r3.Vec) float64 {
	square := 0.0
	if i > 0 && !s.Leaps[i] {
		square = r3.Norm2(r3.Sub(at, s.Poses[i-1].Place(part.Off)))
	}
	if i+1 < len(s.Poses) && !s.Leaps[i+1] {
		square = max(square, r3.Norm2(r3.Sub(at, s.Poses[i+1].Place(part.Off))))
	}
	return (part.Gap*part.Gap + square) / 4
}

// Nearest is how close any part of the way comes to something, no nearer than it is and less
// than 0.1 m nearer; +Inf when it stays further than a distance. The distance of a place to
// the thing may be answered short, when it is beyond enough. A part that skip names is left
// out.
func (s *Sweep) Nearest(within float64, skip func(b *Part) bool, distance func(at r3.Vec, enough float64) float64) float64 {
	best, missed := within, (s.gap*s.gap+s.stride*s.stride)/4
	// A part that is further off than that comes no nearer than the best so far.
	reach := func(r float64) float64 { return math.Sqrt(max(0, best+r)*max(0, best+r) + missed) }
	look := func(part *Part, i int, far float64) float64 {
		at := s.Poses[i].Place(part.Off)
		d := distance(at, far)
		if d < far {
			best = min(best, math.Sqrt(max(0, d*d-s.missed(part, i, at)))-part.R)
		}
		return d
	}
	whole := &s.all
	near, at := s.nears(whole.off, whole.r-whole.thinnest+reach(whole.thinnest), []span{{0, len(s.Poses)}}, nil, distance)
	if len(near) == 0 {
		return math.Inf(1)
	}
	// Where it comes nearest as a whole: what is found there leaves less to look at.
	for k := range s.Parts {
		if part := &s.Parts[k]; skip == nil || !skip(part) {
			look(part, at, reach(part.R))
		}
	}
	var nearer []span
	for g := range s.some {
		some := &s.some[g]
		nearer, _ = s.nears(some.off, some.r-some.thinnest+reach(some.thinnest), near, nearer, distance)
		for k := range some.balls {
			part := &some.balls[k]
			if len(nearer) == 0 || skip != nil && skip(part) {
				continue
			}
			far := reach(part.R)
			for _, one := range nearer {
				for i := one.from; i < one.to; {
					d := look(part, i, far)
					if d < far {
						far = reach(part.R)
					}
					i = s.Until(i, one.to, d-far)
				}
			}
		}
	}
	if best >= within {
		return math.Inf(1)
	}
	return best
}
