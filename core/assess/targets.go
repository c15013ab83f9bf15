package assess

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/policy"
)

// prism is a target ready for distances.
type prism struct {
	*job.Target
	corners  []job.Spot
	low, top job.Spot // of the box round it
}

func newPrism(t *job.Target) prism {
	p := prism{Target: t, corners: t.Corners(), low: job.Spot{X: math.Inf(1), Y: math.Inf(1)}, top: job.Spot{X: math.Inf(-1), Y: math.Inf(-1)}}
	for _, c := range p.corners {
		p.low = job.Spot{X: min(p.low.X, c.X), Y: min(p.low.Y, c.Y)}
		p.top = job.Spot{X: max(p.top.X, c.X), Y: max(p.top.Y, c.Y)}
	}
	return p
}

// inside reports whether a place of the plan is within an outline (even-odd rule).
func inside(outline []job.Spot, x, y float64) bool {
	in := false
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		if (a.Y > y) != (b.Y > y) && x < (b.X-a.X)*(y-a.Y)/(b.Y-a.Y)+a.X {
			in = !in
		}
	}
	return in
}

// edge is how far a place of the plan is from an outline's edge, m.
func edge(outline []job.Spot, x, y float64) float64 {
	nearest := math.Inf(1)
	a := outline[len(outline)-1]
	for _, b := range outline {
		dx, dy := b.X-a.X, b.Y-a.Y
		ox, oy := x-a.X, y-a.Y
		// In a browser max and min are calls; this is asked most of all.
		if along := ox*dx + oy*dy; along > 0 {
			long := dx*dx + dy*dy
			if along > long {
				along = long
			}
			ox, oy = ox-along/long*dx, oy-along/long*dy
		}
		if square := ox*ox + oy*oy; square < nearest {
			nearest = square
		}
		a = b
	}
	return math.Sqrt(nearest)
}

// apart is how far a place of the plan is from an outline; 0 within it.
func apart(outline []job.Spot, x, y float64) float64 {
	if inside(outline, x, y) {
		return 0
	}
	return edge(outline, x, y)
}

// beside is how far a place is below a low one or above a high one; 0: between them.
func beside(at, low, high float64) float64 {
	if at < low {
		return low - at
	}
	if at > high {
		return at - high
	}
	return 0
}

// distance is how far a place in space is from the target, 0 within it; when it is further
// than enough, the distance to the box round the target will do, which is no more.
func (p *prism) distance(at r3.Vec, enough float64) float64 {
	over := beside(at.Z, p.FromM, p.ToM)
	dx, dy := beside(at.X, p.low.X, p.top.X), beside(at.Y, p.low.Y, p.top.Y)
	if box := math.Sqrt(dx*dx + dy*dy + over*over); p.Box != nil || box > enough {
		return box
	}
	aside := apart(p.corners, at.X, at.Y)
	return math.Sqrt(aside*aside + over*over)
}

// powered reports that there is a power line.
func (v *Survey) powered() bool {
	return slices.ContainsFunc(v.targets, func(p prism) bool { _, power := policy.PowerDistanceOf(p.Target); return power })
}

// keeps is how far everything keeps from a target, m: what the crew wants, and what a power
// line takes.
func (v *Survey) keeps(t *job.Target) float64 {
	metres, _ := policy.PowerDistanceOf(t)
	return max(v.limits.ClearM, metres)
}
