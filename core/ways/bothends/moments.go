package bothends

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/line"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/ways/roped"
)

// pairMoments are the moments of a piece held at both ends, in space.
func (o *BothEnds) pairMoments() []roped.PairMoment {
	list := make([]roped.PairMoment, len(o.moments))
	for k := range o.moments {
		m := &o.moments[k]
		sin, cos := math.Sincos(space.Radians(m.hang.AttitudeDeg))
		one := roped.PairMoment{From: line.PairDrawn{Butt: o.plane.spot(m.hang.Butt, 0), Axis: r3.Add(r3.Scale(cos, o.plane.along), r3.Vec{Z: sin})}}
		for i, side := range o.sides {
			// Both blocks lie in the plane of their two places.
			one.Lines[i] = line.Strung{AtM: side.Settings.TieM, Point: side.Block, LineM: max(0.05, o.caught.LineM[i]+m.out[i])}
			one.From.Kn[i] = m.hang.Ties[i].TensionKn
		}
		list[k] = one
	}
	return list
}

// lineRequest is the piece as it hangs where one of its two lines carries most at rest, as the kind two-tie has it.
func (o *BothEnds) lineRequest(side *roped.Roped) (kind string, request any) {
	i := slices.Index(o.sides[:], side.AsGiven())
	at := search.Largest(len(o.moments), func(k int) float64 { return o.moments[k].hang.Ties[i].TensionKn })
	hang := o.hanging()
	for k := range hang.Ties {
		hang.Ties[k].LineM = max(0.05, o.caught.LineM[k]+o.moments[at].out[k])
	}
	return "two-tie", &hang
}
