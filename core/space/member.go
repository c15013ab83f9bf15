package space

import (
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// A Member is the bare wood of one part of a piece, from its butt.
type Member struct {
	Title string
	Wood  wood.Wood
	timber.Stem
	Kg float64 // likely, of the piece as the board weighs it
}

// StemMember is the bare stem above a cut, measured along its axis.
func (v *Tree) StemMember(cut float64, now *Standing) Member {
	m := Member{Title: "stem", Wood: v.Measured.Wood}
	along := 0.0
	put := func(z float64) {
		outside, cavity := v.Stem.DiameterAt(z)
		m.Stations = append(m.Stations, timber.Station{AtM: along, DiameterM: outside, CavityM: cavity})
	}
	put(cut)
	for low := cut; low < now.Top-1e-9; {
		high := v.NextBend(low, now.Top)
		for _, s := range v.Stem.Stations {
			if s.AtM > low+1e-9 {
				high = min(high, s.AtM)
				break
			}
		}
		longer := v.Slant(low)
		bare := timber.Stem{Stations: v.Stem.Stations}
		m.Kg += bare.WeighBetween(low, high, v.Density, timber.Frustum).MassKg.Likely * longer
		along += (high - low) * longer
		put(high)
		low = high
	}
	return m
}

// LimbMember is the bare wood of a limb between two places.
func (v *Tree) LimbMember(k int, from, to float64) Member {
	g := &v.Limbs[k]
	kg, _ := v.Bare(g, from, to)
	m := Member{Title: g.Title(), Wood: v.Measured.Wood, Kg: g.AsGuessed(kg).Likely}
	m.Stations = []timber.Station{{DiameterM: g.DiameterAt(from)}, {AtM: to - from, DiameterM: g.DiameterAt(to)}}
	return m
}
