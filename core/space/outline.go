package space

import (
	"math"
	"slices"

	"elkstay/core/job"
)

// AreaOf is the area of an outline, m².
func AreaOf(outline []job.Spot) float64 {
	twice := 0.0
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		twice += a.X*b.Y - b.X*a.Y
	}
	return math.Abs(twice) / 2
}

// Inside reports whether a place of the plan is within an outline (even-odd rule).
func Inside(outline []job.Spot, x, y float64) bool {
	in := false
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		if (a.Y > y) != (b.Y > y) && x < (b.X-a.X)*(y-a.Y)/(b.Y-a.Y)+a.X {
			in = !in
		}
	}
	return in
}

// Edge is how far a place of the plan is from an outline's edge, m.
func Edge(outline []job.Spot, x, y float64) float64 {
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

// Apart is how far a place of the plan is from an outline; 0 within it.
func Apart(outline []job.Spot, x, y float64) float64 {
	if Inside(outline, x, y) {
		return 0
	}
	return Edge(outline, x, y)
}

// Beside is how far a place is below a low one or above a high one; 0: between them.
func Beside(at, low, high float64) float64 {
	if at < low {
		return low - at
	}
	if at > high {
		return at - high
	}
	return 0
}

// Overlap reports whether two outlines of the plan cover a place in common: some of the edge of one lies within the
// other, or they are the same. Side by side they do not.
func Overlap(a, b []job.Spot) bool {
	middle := job.Spot{}
	for _, at := range b {
		middle.X, middle.Y = middle.X+at.X/float64(len(b)), middle.Y+at.Y/float64(len(b))
	}
	return enters(a, b) || enters(b, a) || Inside(a, middle.X, middle.Y)
}

// enters tells that some of the edge of an outline lies within another: between the places where it meets the
// other's edges it lies within or without.
func enters(one, other []job.Spot) bool {
	for i, from := range one {
		to := one[(i+1)%len(one)]
		dx, dy := to.X-from.X, to.Y-from.Y
		cuts := []float64{0, 1}
		for k, c := range other {
			d := other[(k+1)%len(other)]
			if turns := dx*(d.Y-c.Y) - dy*(d.X-c.X); turns != 0 {
				cuts = append(cuts, max(0, min(1, ((c.X-from.X)*(d.Y-c.Y)-(c.Y-from.Y)*(d.X-c.X))/turns)))
			}
		}
		slices.Sort(cuts)
		for k := 1; k < len(cuts); k++ {
			share := (cuts[k-1] + cuts[k]) / 2
			x, y := from.X+share*dx, from.Y+share*dy
			if Inside(other, x, y) && Edge(other, x, y) > 1e-6 {
				return true
			}
		}
	}
	return false
}
