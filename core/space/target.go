package space

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// Prism is a target ready for distances.
type Prism struct {
	*job.Target
	FromM, ToM float64 // of its bottom and its top, as high as they may stand by the foot of the tree that asks, m
	Corners    []job.Spot
	Low, Top   job.Spot // of the box round it
}

// PrismOf readies a target for distances.
func PrismOf(t *job.Target) Prism {
	p := Prism{Target: t, FromM: t.FromM, ToM: t.ToM, Corners: t.Corners(), Low: job.Spot{X: math.Inf(1), Y: math.Inf(1)}, Top: job.Spot{X: math.Inf(-1), Y: math.Inf(-1)}}
	for _, c := range p.Corners {
		p.Low = job.Spot{X: min(p.Low.X, c.X), Y: min(p.Low.Y, c.Y)}
		p.Top = job.Spot{X: max(p.Top.X, c.X), Y: max(p.Top.Y, c.Y)}
	}
	return p
}

// Distance is how far a place in space is from the target, 0 within it; when it is further
// than enough, the distance to the box round the target will do, which is no more.
func (p *Prism) Distance(at r3.Vec, enough float64) float64 {
	over := Beside(at.Z, p.FromM, p.ToM)
	dx, dy := Beside(at.X, p.Low.X, p.Top.X), Beside(at.Y, p.Low.Y, p.Top.Y)
	if box := math.Sqrt(dx*dx + dy*dy + over*over); p.Box != nil || box > enough {
		return box
	}
	aside := Apart(p.Corners, at.X, at.Y)
	return math.Sqrt(aside*aside + over*over)
}
