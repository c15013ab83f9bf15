package assess

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// pose is where the middle of the cut is, and how the piece is turned: the directions that
// were east, north and up before the cut.
type pose struct {
	at      r3.Vec
	x, y, z r3.Vec
}

// place is where a part of the piece is in a pose.
func (p *pose) place(off r3.Vec) r3.Vec {
	return r3.Vec{
		X: p.at.X + off.X*p.x.X + off.Y*p.y.X + off.Z*p.z.X,
		Y: p.at.Y + off.X*p.x.Y + off.Y*p.y.Y + off.Z*p.z.Y,
		Z: p.at.Z + off.X*p.x.Z + off.Y*p.y.Z + off.Z*p.z.Z,
	}
}

// turned is a pose turned about an axis by an angle, rad, with its cut at a place.
func turned(axis r3.Vec, angle float64, at r3.Vec) pose {
	long := math.Sqrt(r3.Dot(axis, axis))
	if angle == 0 || long == 0 {
		return pose{at, r3.Vec{X: 1}, r3.Vec{Y: 1}, r3.Vec{Z: 1}}
	}
	u := r3.Scale(1/long, axis)
	sin, cos := math.Sincos(angle)
	k := 1 - cos
	return pose{
		at,
		r3.Vec{X: cos + k*u.X*u.X, Y: k*u.X*u.Y + sin*u.Z, Z: k*u.X*u.Z - sin*u.Y},
		r3.Vec{X: k*u.X*u.Y - sin*u.Z, Y: cos + k*u.Y*u.Y, Z: k*u.Y*u.Z + sin*u.X},
		r3.Vec{X: k*u.X*u.Z + sin*u.Y, Y: k*u.Y*u.Z - sin*u.X, Z: cos + k*u.Z*u.Z},
	}
}

// onto is a pose of a piece turned on, by the shortest way, until its axis, one way before the cut, is another; its cut
// at a place. So it does not roll.
func (p *pose) onto(was, axis, butt r3.Vec) pose {
	turn := turnedInto(p.headed(was), axis, heading(1e-6, r3.Vec{Z: 1}, r3.Cross(r3.Vec{X: 1}, axis)), butt)
	return p.then(&turn)
}

// towards is a pose turned about a place by a share of the turn that brings its axis, one way before the cut, into that of
// another.
func (p *pose) towards(other *pose, share float64, was, about r3.Vec) pose {
	from, to := p.headed(was), other.headed(was)
	spin := r3.Cross(from, to)
	turn := turned(spin, share*math.Atan2(r3.Norm(spin), r3.Dot(from, to)), r3.Vec{})
	turn.at = r3.Add(about, turn.headed(r3.Sub(p.at, about)))
	return p.then(&turn)
}

// headed is where a direction before the cut heads in a pose.
func (p *pose) headed(was r3.Vec) r3.Vec { return r3.Sub(p.place(was), p.at) }

// then is a pose turned on as another turns what stood before the cut, its cut where that has it.
func (p *pose) then(turn *pose) pose {
	return pose{turn.at, turn.headed(p.x), turn.headed(p.y), turn.headed(p.z)}
}

// ballsApart is how far the parts of a body lie apart along its wood, and strideM how far any
// part moves from pose to pose, m: half of each is what a nearest distance may miss, and it
// is taken off.
const (
	ballsApart = 0.16
	strideM    = 0.14
)

// sweep is the way of a piece: its parts, and the poses it passes through.
type sweep struct {
	balls []ball
	poses []pose
	moved []float64 // most that any part has moved up to a pose, m
	leaps []bool    // it does not come from the pose before: another movement begins
	far   float64   // of the part that is furthest from the cut

	all    parts   // its parts as one
	some   []parts // and so many neighbours together
	gap    float64 // the widest between neighbours, m
	stride float64 // the longest from pose to pose, m
}

// parts are neighbouring parts of a piece as one round: its middle, how far all of them reach round that, and how thin
// the thinnest is, m.
type parts struct {
	balls       []ball
	off         r3.Vec
	r, thinnest float64
}

// together is how many neighbouring parts of a piece are looked at as one round first.
const together = 8

func roundOf(balls []ball) parts {
	p := parts{balls: balls, thinnest: math.Inf(1)}
	for i := range balls {
		p.off = r3.Add(p.off, r3.Scale(1/float64(len(balls)), balls[i].off))
	}
	for i := range balls {
		p.r = max(p.r, r3.Norm(r3.Sub(balls[i].off, p.off))+balls[i].r)
		p.thinnest = min(p.thinnest, balls[i].r)
	}
	return p
}

// sweepOf readies a body for its way.
func sweepOf(balls []ball) sweep {
	s := sweep{poses: make([]pose, 0, 512), moved: make([]float64, 0, 512), leaps: make([]bool, 0, 512)}
	s.of(balls)
	return s
}

// of gives the way to a body.
func (s *sweep) of(balls []ball) {
	s.balls, s.far, s.gap, s.all, s.some = balls, 0, 0, roundOf(balls), make([]parts, 0, len(balls)/together+1)
	for i := range balls {
		s.far, s.gap = max(s.far, r3.Norm(balls[i].off)), max(s.gap, balls[i].gap)
		if i%together == 0 {
			s.some = append(s.some, roundOf(balls[i:min(i+together, len(balls))]))
		}
	}
}

// from is the way from a pose on.
func (s *sweep) from(k int) sweep {
	rest := *s
	rest.poses, rest.moved, rest.leaps = s.poses[k:], s.moved[k:], s.leaps[k:]
	return rest
}

// upTo is the way before a pose.
func (s *sweep) upTo(k int) sweep {
	begin := *s
	begin.poses, begin.moved, begin.leaps = s.poses[:k], s.moved[:k], s.leaps[:k]
	return begin
}

// add puts a pose at the end of the way; it leaps there when it does not move there.
func (s *sweep) add(p pose, leap bool) {
	moved := 0.0
	if n := len(s.poses); n > 0 {
		last := &s.poses[n-1]
		step := s.moves(last, &p)
		moved = s.moved[n-1] + step
		if !leap {
			s.stride = max(s.stride, step)
		}
	}
	s.poses, s.moved, s.leaps = append(s.poses, p), append(s.moved, moved), append(s.leaps, leap)
}

// moves is the most that a part moves from pose to pose, m.
func (s *sweep) moves(a, b *pose) float64 {
	// The turn's angle by its trace; the chord of it at the furthest part.
	trace := r3.Dot(a.x, b.x) + r3.Dot(a.y, b.y) + r3.Dot(a.z, b.z)
	move := r3.Sub(b.at, a.at)
	return math.Sqrt(r3.Dot(move, move)) + s.far*math.Sqrt(max(0, 3-trace))
}

// mostPoses is the most strides that one movement is divided into evenly: a longer one has longer strides, and more is
// taken off its nearest distance. A stride that comes out twice as long is halved, as often as halvings.
const (
	mostPoses = 400
	halvings  = 6
)

// along follows a movement given for shares of it from 0 to 1, in strides.
func (s *sweep) along(at func(share float64) pose) {
	first, last := at(0), at(1)
	middle := at(0.5)
	moves := s.moves(&first, &middle) + s.moves(&middle, &last)
	n := int(max(1, min(mostPoses, math.Ceil(moves/strideM))))
	longest, was := 2*max(strideM, moves/float64(n)), 0.0
	for share := range shares(n) {
		if share == 0 {
			s.add(first, true)
		} else {
			s.stepTo(was, share, at(share), at, longest, halvings)
		}
		was = share
	}
}

// stepTo goes on from one share of a movement to another.
func (s *sweep) stepTo(from, to float64, p pose, at func(share float64) pose, longest float64, halvings int) {
	if halvings > 0 && s.moves(&s.poses[len(s.poses)-1], &p) > longest {
		middle := (from + to) / 2
		s.stepTo(from, middle, at(middle), at, longest, halvings-1)
		s.stepTo(middle, to, p, at, longest, halvings-1)
		return
	}
	s.add(p, false)
}

// span is a stretch of the poses of a way: from the first up to, not with, the last.
type span struct{ from, to int }

// until is the first pose after another, up to a last one, at which a part may have moved so far.
func (s *sweep) until(i, to int, moved float64) int {
	at := s.moved[i] + moved
	low, step := i+1, 1
	if low == to || s.moved[low] >= at {
		return low
	}
	for low+step < to && s.moved[low+step] < at {
		low, step = low+step, 2*step
	}
	for high := min(low+step, to); low < high; {
		if middle := (low + high) / 2; s.moved[middle] < at {
			low = middle + 1
		} else {
			high = middle
		}
	}
	return low
}

// nears are the poses, among some, at which a round of the piece comes nearer to something than a distance, and the
// one of those it was looked at in at which it comes nearest.
func (s *sweep) nears(off r3.Vec, than float64, among, into []span, distance func(at r3.Vec, enough float64) float64) (found []span, nearest int) {
	found = into[:0]
	least := math.Inf(1)
	for _, one := range among {
		for i := one.from; i < one.to; {
			d := distance(s.poses[i].place(off), than)
			if d < least {
				least, nearest = d, i
			}
			// So far it stays as near, or as far.
			next := s.until(i, one.to, math.Abs(d-than))
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
func (s *sweep) missed(part *ball, i int, at r3.Vec) float64 {
	square := 0.0
	if i > 0 && !s.leaps[i] {
		square = r3.Norm2(r3.Sub(at, s.poses[i-1].place(part.off)))
	}
	if i+1 < len(s.poses) && !s.leaps[i+1] {
		square = max(square, r3.Norm2(r3.Sub(at, s.poses[i+1].place(part.off))))
	}
	return (part.gap*part.gap + square) / 4
}

// nearest is how close any part of the way comes to something, no nearer than it is and less
// than 0.1 m nearer; +Inf when it stays further than a distance. The distance of a place to
// the thing may be answered short, when it is beyond enough. A part that skip names is left
// out.
func (s *sweep) nearest(within float64, skip func(b *ball) bool, distance func(at r3.Vec, enough float64) float64) float64 {
	best, missed := within, (s.gap*s.gap+s.stride*s.stride)/4
	// A part that is further off than that comes no nearer than the best so far.
	reach := func(r float64) float64 { return math.Sqrt(max(0, best+r)*max(0, best+r) + missed) }
	look := func(part *ball, i int, far float64) float64 {
		at := s.poses[i].place(part.off)
		d := distance(at, far)
		if d < far {
			best = min(best, math.Sqrt(max(0, d*d-s.missed(part, i, at)))-part.r)
		}
		return d
	}
	whole := &s.all
	near, at := s.nears(whole.off, whole.r-whole.thinnest+reach(whole.thinnest), []span{{0, len(s.poses)}}, nil, distance)
	if len(near) == 0 {
		return math.Inf(1)
	}
	// Where it comes nearest as a whole: what is found there leaves less to look at.
	for k := range s.balls {
		if part := &s.balls[k]; skip == nil || !skip(part) {
			look(part, at, reach(part.r))
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
			far := reach(part.r)
			for _, one := range nearer {
				for i := one.from; i < one.to; {
					d := look(part, i, far)
					if d < far {
						far = reach(part.r)
					}
					i = s.until(i, one.to, d-far)
				}
			}
		}
	}
	if best >= within {
		return math.Inf(1)
	}
	return best
}

// hung is the pose of a piece whose tie is at a place, turned by a share of the turn into
// how it hangs.
func hung(axis r3.Vec, angle float64, tie, at r3.Vec) pose {
	p := turned(axis, angle, r3.Vec{})
	p.at = r3.Sub(at, p.place(tie))
	return p
}

// turnedInto is the pose of a piece whose axis was one way and is another, its cut at a place; straight back it turns
// about a given axis.
func turnedInto(was, axis, back, butt r3.Vec) pose {
	spin, turns := direction(r3.Cross(was, axis), 1e-9)
	if !turns {
		spin = back
	}
	return turned(spin, math.Acos(max(-1, min(1, r3.Dot(was, axis)))), butt)
}
