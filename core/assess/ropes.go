package assess

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/policy"
)

// A leg is a straight part of a pick's rope.
type leg struct {
	from, to  r3.Vec
	name      string // between what
	leadsAway bool   // from the block on: the piece does not hang on it
	comesDown bool   // it ends on the ground: what lies beneath it counts
	goesOver  bool   // it leads so for a moment, as a tree goes over
}

// legs are the straight parts of a pick's ropes before the cut, from the tie on: with what draws it aside or stops
// its swing.
func (o *Outcome) legs() (list []leg) {
	if o.twins != nil {
		list = o.twins.sides[1].legs()
		for i := range list {
			list[i].name += " of the second line"
		}
	}
	list = append(list, o.tagLegs()...)
	if o.stop != nil && o.stop.wood == nil {
		list = append(list, leg{from: o.stop.from, to: o.stop.at, name: o.stop.name})
	}
	if len(o.points) < 2 {
		return list
	}
	from, name := o.tie, "the tie"
	for i := 1; i < len(o.points); i++ {
		at := o.points[i].Vec()
		list = append(list, leg{from: from, to: at, name: name + " and " + o.points[i].Name, leadsAway: i > 1})
		from, name = at, o.points[i].Name
	}
	if o.pair != nil {
		second := o.pair.B.Vec()
		list = append(list, leg{from: o.tie, to: second, name: "the tie and the second point"},
			leg{from: second, to: r3.Vec{X: second.X, Y: second.Y}, name: "the second point and the ground"})
	}
	return list
}

// tagLegs is the line that draws a piece aside, where there is one.
func (o *Outcome) tagLegs() []leg {
	if o.tag == nil {
		return nil
	}
	return []leg{{from: o.onAxis(*o.tag.set.TieM), to: o.tag.towards(), name: "the piece and " + o.tag.anchor}}
}

// onAxis is a place of the piece's axis, so far from its cut, as it grows.
func (o *Outcome) onAxis(m float64) r3.Vec {
	return onTheWay(o.cut, o.tip, m/o.Length())
}

// ledBy are the parts of ropes that follow a piece in a pose: to its block, to the other of two points, to its tag line's anchor.
func (o *Outcome) ledBy(p *pose) []leg {
	tie := p.place(r3.Sub(o.tie, o.cut))
	list := []leg{{from: o.block, to: tie}}
	if o.pair != nil {
		list = append(list, leg{from: o.pair.B.Vec(), to: tie})
	}
	if o.tag != nil {
		list = append(list, leg{from: o.tag.towards(), to: p.place(r3.Sub(o.onAxis(*o.tag.set.TieM), o.cut))})
	}
	if o.twins != nil {
		side := o.twins.sides[1]
		list = append(list, leg{from: side.block, to: p.place(r3.Sub(side.tie, o.cut))})
	}
	return list
}

// Of a rope that moves so finely is looked: along it, and from place to place of what it leads to, m.
const (
	alongRope  = 0.1
	acrossRope = 0.2
	goingOver  = 0.2 // of where a line is tied to a tree that goes over
)

// nearLeg is how near a leg comes to a target, no nearer than it is by more than half of alongRope; beyond enough it
// may be answered short.
func (p *prism) nearLeg(l *leg, enough float64) float64 {
	long, least := r3.Norm(r3.Sub(l.to, l.from)), math.Inf(1)
	for s := 0.0; ; {
		d := p.distance(l.lowest(p, onTheWay(l.from, l.to, s/max(1e-9, long))), math.Inf(1))
		if least = min(least, d); s >= long {
			return least - alongRope/2
		}
		s = min(long, s+max(alongRope, d-enough))
	}
}

// lowest is where a place of a leg comes nearest to a target beneath it.
func (l *leg) lowest(p *prism, at r3.Vec) r3.Vec {
	if l.comesDown {
		at.Z = min(at.Z, max(0, p.ToM))
	}
	return at
}

// nearMoving is how near the ropes that lead a piece come to a target on its way; beyond enough it may be answered
// short.
func (v *Survey) nearMoving(o *Outcome, p *prism, way *sweep, enough float64) float64 {
	for k := 0; k < len(way.poses); {
		least := math.Inf(1)
		for _, l := range o.ledBy(&way.poses[k]) {
			least = min(least, p.nearLeg(&l, enough))
		}
		// The next place is looked at a stride later at most.
		enough = min(enough, least-(acrossRope+strideM)/2)
		next := k + 1
		for next < len(way.poses) && way.moved[next]-way.moved[k] < max(acrossRope, least-enough) {
			next++
		}
		k = next
	}
	return enough
}

// besideLeg reports that the box round a target and the box round a leg come as near as that, m.
func (p *prism) besideLeg(l *leg, near float64) bool {
	gap := func(a, b, low, top float64) float64 { return max(min(a, b)-top, low-max(a, b)) }
	return max(gap(l.from.X, l.to.X, p.low.X, p.top.X), gap(l.from.Y, l.to.Y, p.low.Y, p.top.Y), gap(l.from.Z, l.to.Z, p.FromM, p.ToM)) <= near
}

// ropes brings what a pick's ropes keep from power lines into its clearances (where a rope is
// nearer than the piece, the rope's distance stands), and says where they run against a target,
// or the piece against them. What follows a piece is asked of power lines on all of its way.
func (v *Survey) ropes(o *Outcome, way *sweep) {
	v.ropesAlong(o, o.legs(), way)
}

// ropesAlong does so for given legs; way is nil where no piece moves on them.
func (v *Survey) ropesAlong(o *Outcome, legs []leg, way *sweep) {
	const step = 0.1
	for i := range v.targets {
		p := &v.targets[i]
		metres, power := policy.PowerDistanceOf(p.Target)
		nearest, between := math.Inf(1), ""
		for k := range legs {
			if legs[k].goesOver {
				if power && nearest > 0 {
					if d := p.nearLeg(&legs[k], nearest) - goingOver/2; d < nearest {
						nearest, between = d, legs[k].name
					}
				}
				continue
			}
			if !power && !p.besideLeg(&legs[k], step) {
				continue // it runs past: only what it touches is told
			}
			along := r3.Sub(legs[k].to, legs[k].from)
			for share := range shares(int(max(1, min(2000, math.Ceil(r3.Norm(along)/step))))) {
				at := r3.Add(legs[k].from, r3.Scale(share, along))
				if !power && at.Z < 0.3 {
					continue // where it comes to the ground, its device stands
				}
				if power {
					at = legs[k].lowest(p, at)
				}
				if d := p.distance(at, nearest+step/2) - step/2; d < nearest {
					nearest, between = d, legs[k].name
				}
			}
		}
		switch {
		case power:
			// Only what comes nearer than is known is of interest.
			known := max(lookFor, metres+1) + 1e-9
			for k := range o.clears {
				if o.clears[k].target == p.Target {
					known = o.clears[k].ClearanceM
				}
			}
			if known = min(known, nearest); way != nil && known > 0 {
				nearest = v.nearMoving(o, p, way, known)
			}
			v.comesNear(o, p.Target, nearest, metres)
			if len(legs) > 0 && legs[0].comesDown && nearest < v.keeps(p.Target) {
				how := "comes down on"
				if nearest > 0 {
					how = fmt.Sprintf("comes within %s of", v.Height(nearest))
				}
				o.fouls = append(o.fouls, fmt.Sprintf("The line between %s %s %s with the tree: lead it elsewhere, or have that made dead.", between, how, p.Name))
			}
		case nearest <= 0:
			o.fouls = append(o.fouls, fmt.Sprintf("The line between %s runs against %s: lead it clear, or it chafes there, and what it rubs off is in no figure.", between, p.Name))
		}
	}
	sortClearances(o.clears)
	if way != nil {
		o.fouls = append(o.fouls, v.pieceByRope(legs, o.block, way)...)
	}
}

// What of a line that leads away is looked at for the piece: so far from its block and from the
// stem, m, as beneath its block a piece always hangs beside it; and how near its wood may come.
const (
	awayFromBlock = 1.5
	awayFromStem  = 1.0
	byTheLine     = 0.3
)

// pieceByRope says where a piece's wood meets its own line on the way to the hand. Brush parts for
// a line; wood does not.
func (v *Survey) pieceByRope(legs []leg, block r3.Vec, way *sweep) (said []string) {
	var bare sweep
	for k := range legs {
		one := &legs[k]
		if !one.leadsAway {
			continue
		}
		off := func(at r3.Vec) bool {
			return r3.Norm(r3.Sub(at, block)) > awayFromBlock && r3.Norm(level(r3.Sub(at, v.onStem(at.Z)))) > awayFromStem
		}
		along := r3.Sub(one.to, one.from)
		first, last := 1.0, 0.0
		for share := range shares(40) {
			if off(r3.Add(one.from, r3.Scale(share, along))) {
				first, last = min(first, share), share
			}
		}
		if first >= last {
			continue
		}
		rope := woodOf(1, func(share float64) (r3.Vec, float64) {
			return r3.Add(one.from, r3.Scale(first+share*(last-first), along)), 0
		})
		if bare.balls == nil {
			bare = *way
			wood := slices.Clone(way.balls)
			for i := range wood {
				wood[i].r = wood[i].wood
			}
			bare.of(wood)
		}
		if near := bare.nearest(byTheLine, nil, rope.distance); near < byTheLine {
			said = append(said, fmt.Sprintf("Its wood comes within %s of its own line between %s: lead the line clear of its way.", v.Height(max(0, near)), one.name))
		}
	}
	return said
}
