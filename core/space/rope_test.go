package space

import (
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// The box round a rope's part comes near the box round a target on each of six sides, or it does not.
func TestARopeBesideATarget(t *testing.T) {
	p := PrismOf(&job.Target{Name: "wall", Outline: []job.Spot{{X: 2, Y: -1}, {X: 5, Y: -1}, {X: 5, Y: 3}, {X: 2, Y: 3}}, FromM: 1, ToM: 4})
	inside := r3.Vec{X: 3, Y: 1, Z: 2}
	for n, out := range []r3.Vec{{X: 2}, {X: 5}, {Y: -1}, {Y: 3}, {Z: 1}, {Z: 4}} {
		for _, off := range []struct {
			by   float64
			near bool
		}{{0.09, true}, {0.11, false}, {-0.09, true}} {
			at := inside
			switch sign := float64(2*(n%2) - 1); n / 2 {
			case 0:
				at.X = out.X + sign*off.by
			case 1:
				at.Y = out.Y + sign*off.by
			default:
				at.Z = out.Z + sign*off.by
			}
			// A short part that leads along the side, and one that leads off from it.
			away := r3.Add(at, r3.Scale(3, r3.Sub(at, inside)))
			for _, l := range []RopeLeg{{From: at, To: at}, {From: at, To: away}, {From: away, To: at}} {
				if got := p.BesideLeg(&l, 0.1); got != off.near {
					t.Errorf("side %d, %v m off: near %v", n, off.by, got)
				}
			}
		}
	}
}
