package space

import (
	"math/rand/v2"
	"slices"
	"testing"

	"elkstay/core/job"
)

// Triangles cover a place in common unless an edge of one keeps all of the other on its far side.
func TestTrianglesOverlap(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(7, 11))
	separate := func(a, b []job.Spot) bool {
		for i, from := range a {
			to, third := a[(i+1)%3], a[(i+2)%3]
			side := func(p job.Spot) float64 { return (to.X-from.X)*(p.Y-from.Y) - (to.Y-from.Y)*(p.X-from.X) }
			if !slices.ContainsFunc(b, func(p job.Spot) bool { return side(p)*side(third) > 0 }) {
				return true
			}
		}
		return false
	}
	for range 3000 {
		three := func() (list []job.Spot) {
			x, y := 6*random.Float64(), 6*random.Float64()
			for range 3 {
				list = append(list, job.Spot{X: x + 4*random.Float64(), Y: y + 4*random.Float64()})
			}
			return list
		}
		a, b := three(), three()
		if got, want := Overlap(a, b), !separate(a, b) && !separate(b, a); got != want {
			t.Fatalf("%v and %v: %v", a, b, got)
		}
	}
}
