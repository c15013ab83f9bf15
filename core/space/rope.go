package space

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// A RopeLeg is a straight part of a pick's rope.
type RopeLeg struct {
	From, To  r3.Vec
	Name      string // between what
	LeadsAway bool   // from the block on: the piece does not hang on it
	ComesDown bool   // it ends on the ground: what lies beneath it counts
	GoesOver  bool   // it leads so for a moment, as a tree goes over
}

// Of a rope that moves so finely is looked: along it, and from place to place of what it leads to, m.
const (
	AlongRope  = 0.1
	AcrossRope = 0.2
	GoingOver  = 0.2 // of where a line is tied to a tree that goes over
)

// NearLeg is how near a leg comes to a target, no nearer than it is by more than half of AlongRope; beyond enough it
// may be answered short.
func (p *Prism) NearLeg(l *RopeLeg, enough float64) float64 {
	long, least := r3.Norm(r3.Sub(l.To, l.From)), math.Inf(1)
	for s := 0.0; ; {
		d := p.Distance(l.Lowest(p, OnTheWay(l.From, l.To, s/max(1e-9, long))), math.Inf(1))
		if least = min(least, d); s >= long {
			return least - AlongRope/2
		}
		s = min(long, s+max(AlongRope, d-enough))
	}
}

// Lowest is where a place of a leg comes nearest to a target beneath it.
func (l *RopeLeg) Lowest(p *Prism, at r3.Vec) r3.Vec {
	if l.ComesDown {
		at.Z = min(at.Z, max(0, p.ToM))
	}
	return at
}

// BesideLeg reports that the box round a target and the box round a leg come as near as that, m.
func (p *Prism) BesideLeg(l *RopeLeg, near float64) bool {
	gap := func(a, b, low, top float64) float64 { return max(min(a, b)-top, low-max(a, b)) }
	return max(gap(l.From.X, l.To.X, p.Low.X, p.Top.X), gap(l.From.Y, l.To.Y, p.Low.Y, p.Top.Y), gap(l.From.Z, l.To.Z, p.FromM, p.ToM)) <= near
}
