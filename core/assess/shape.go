package assess

import (
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/search"
	"elkstay/core/space"
)

// shapeOf is the tree in space.
func shapeOf(v *space.Tree) Shape {
	// Its own places are from its foot up; this is from the origin of the plan.
	foot := r3.Add(v.Foot, r3.Vec{Z: -v.GroundAt(0, 0)})
	shape := Shape{Foot: space.PointOf(foot), Stem: stemPoints(v), Limbs: make([]LimbShape, len(v.Limbs))}
	now := v.Standing()
	for i := range v.Limbs {
		g := &v.Limbs[i]
		one := LimbShape{ID: g.ID, Title: g.Title(), MassKg: v.LimbMass(i, 0, now).Kg}
		for share := range search.Shares(8) {
			s := g.LengthM * share
			at := g.At(s)
			one.Points = append(one.Points, [4]float64{at.X, at.Y, at.Z, g.DiameterAt(s)})
		}
		shape.Limbs[i] = one
	}
	return shape
}

// stemPoints are places of the stem's axis from its lowest reading to its top, at every
// reading and bend: x, y, z and diameter.
func stemPoints(v *space.Tree) [][4]float64 {
	heights := []float64{}
	for _, s := range v.Stem.Stations {
		heights = append(heights, s.AtM)
	}
	for _, k := range v.Bends() {
		heights = append(heights, k.AtM)
	}
	slices.Sort(heights)
	points := make([][4]float64, 0, len(heights))
	for _, z := range slices.Compact(heights) {
		if z < v.Stem.Bottom() || z > v.Stem.Top() {
			continue
		}
		at := v.OnStem(z)
		thick, _ := v.Stem.DiameterAt(z)
		points = append(points, [4]float64{at.X, at.Y, at.Z, thick})
	}
	return points
}
