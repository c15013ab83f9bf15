package hold

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/spar"
	"elkstay/core/timber"
)

// A Force is what gear does to the place that it sits on at one moment, kN.
type Force struct {
	Place  *job.Place // nil: the piece's own stem
	At     r3.Vec
	Kn     r3.Vec  // at the peak
	RestKn float64 // and at rest
	Leads  bool    // of a block, over which the line leads off otherwise from moment to moment
}

// A Moment is everything that pulls at one moment of a course. All moments of a course have the same
// forces in the same order.
type Moment []Force

// Holders are the anchors, limbs and other trees that gear sits on, each at the worst of its moments: blocks first.
func (s Strength) Holders(own *space.Tree, moments []Moment, now *space.Standing) (list []Load) {
	for _, leads := range [2]bool{true, false} {
		for k := range moments[0] {
			if moments[0][k].Leads == leads {
				list = append(list, s.worst(own, moments, k, now)...)
			}
		}
	}
	return list
}

// worst is what one force is on, at the worst of its moments: with everything else that pulls on the same then.
func (s Strength) worst(own *space.Tree, moments []Moment, k int, now *space.Standing) (worst []Load) {
	var last *Force
	var before []Pull
	for m := range moments {
		force := &moments[m][k]
		pull, pulls := force.pull()
		if !pulls {
			continue
		}
		others := s.others(own, moments[m], k)
		if last != nil && last.Kn == force.Kn && last.At == force.At && slices.Equal(others, before) {
			continue
		}
		last, before = force, others
		on := s.Holder(own, &pull, others, now)
		if worst == nil {
			worst = on
			continue
		}
		for i, l := range on {
			if cmp.Or(cmp.Compare(l.Use(), worst[i].Use()), cmp.Compare(l.PeakKn, worst[i].PeakKn)) > 0 {
				worst[i] = l
			}
		}
	}
	return worst
}

// pull is a force as a pull on what it sits on; it reports whether there is one.
func (f *Force) pull() (p Pull, pulls bool) {
	dir, pulls := space.Direction(f.Kn, 0)
	return Pull{Place: f.Place, At: f.At, Dir: dir, RestKn: f.RestKn, PeakKn: r3.Norm(f.Kn)}, pulls && f.Place != nil
}

// others are what pulls, at a moment, on the anchor or the tree that one of its forces sits on.
func (s Strength) others(own *space.Tree, moment Moment, k int) (list []Pull) {
	for i := range moment {
		if other, pulls := moment[i].pull(); i != k && pulls && sameHolder(own, moment[k].Place, other.Place) {
			list = append(list, other)
		}
	}
	return list
}

// sameHolder tells that two places are on one anchor, or on one tree.
func sameHolder(own *space.Tree, a, b *job.Place) bool {
	if a.On == job.OnAnchor || b.On == job.OnAnchor {
		return a.On == b.On && a.Anchor == b.Anchor
	}
	return cmp.Or(own.Called(a.Tree), own) == cmp.Or(own.Called(b.Tree), own)
}

// Seats are the forces of every moment that are on the tree itself.
func (v Wood) Seats(moments []Moment) [][]Seat {
	list := make([][]Seat, len(moments))
	for m := range moments {
		for _, f := range moments[m] {
			limb, own := v.Seated(f.Place)
			if !own {
				continue
			}
			from := f.At.Z
			if limb >= 0 {
				from = v.Limbs[v.Root(limb)].AtM
			}
			list[m] = append(list[m], Seat{limb, from, f.At, f.Kn})
		}
	}
	return list
}

// Hardest is the beam of the stem up to a height under the moment of those that strains it most, the section that feels most, which
// of the moments that is, and a sentence about what is unsound there. towards is where a moment that bends its foot nowhere is taken to
// bend it; now is how the tree stands once the piece is off. The tree's species is known.
func (v Wood) Hardest(moments [][]Seat, topM float64, towards r3.Vec, now *space.Standing) (beam spar.Spar, worst spar.Worst, at int, why string) {
	stations := v.StationsTo(topM)
	worst.StressMpa = math.Inf(-1)
	for _, k := range v.hardest(moments, stations[0].AtM, topM) {
		one := v.Beam(stations)
		heading := v.Seat(&one, moments[k], towards)
		if felt, of := v.Feels(&one, heading, now); Harder(felt, worst) {
			beam, worst, at, why = one, felt, k, of
		}
	}
	return beam, worst, at, why
}

// Beam is the stem as a beam of its wood along some stations. The tree's species is known.
func (v Wood) Beam(stations []timber.Station) spar.Spar {
	// Its bark weighs with it.
	under := v.UnderBark(1)
	return spar.Spar{Stations: stations, StrengthMpa: v.Species.RuptureMPa, StiffnessGpa: v.Species.ElasticityGPa, DensityKgM3: v.Density.High / (under * under)}
}
