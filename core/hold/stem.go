package hold

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/spar"
	"elkstay/core/timber"
	"elkstay/core/units"
)

// A Seat is where gear sits on the pick's own tree, and the force on it, kN.
type Seat struct {
	Limb      int     // −1: the stem
	FromM     float64 // where it bends the stem from: its own height, or that of its limb
	At, Force r3.Vec
}

// Seated tells what of the pick's own tree gear sits on: nothing said is its stem.
func (v Wood) Seated(place *job.Place) (limb int, own bool) {
	if place == nil || v.OnOwnStem(place) {
		return -1, true
	}
	limb = v.OwnLimb(place)
	return limb, limb >= 0
}

// Bend is what forces bend the stem by at a height, level and in kN·m, towards where it bends.
func (v Wood) Bend(list []Seat, z float64) (sum r3.Vec) {
	axis := v.OnStem(z)
	for _, s := range list {
		if off := r3.Sub(s.At, axis); s.FromM >= z {
			sum = r3.Add(sum, r3.Sub(r3.Scale(off.Z, space.Level(s.Force)), r3.Scale(s.Force.Z, space.Level(off))))
		}
	}
	return sum
}

// ByBending is the limit of a force that bends a stem, kN, in proportion to what that feels at its worst.
func (v Wood) ByBending(kn float64, worst spar.Worst) policy.Rated {
	allowed := v.Species.RuptureMPa / v.Limits.WoodFactor
	return policy.Rated{Known: true, Decided: ByWood, Limit: gear.Limit{Kn: kn * allowed / max(1e-9, worst.StressMpa), Source: "Euler–Bernoulli beam; green strength from the Wood Handbook, from memory",
		Reason: fmt.Sprintf("%.3g of %.3g MPa at %s, strength over %g", worst.StressMpa, allowed, v.Site.Height(worst.AtM), v.Limits.WoodFactor)}}
}

// Harder tells that a section feels more than another, rounding apart.
func Harder(a, b spar.Worst) bool { return a.StressMpa > b.StressMpa*(1+1e-9) }

// hardest are those of a way's moments that bend the stem most at its foot, half way up, and near its top:
// all of them that bend it alike, for its own weight may add to any.
func (v Wood) hardest(moments [][]Seat, bottom, top float64) (list []int) {
	bends, hard := make([]float64, len(moments)), make([]bool, len(moments))
	for _, share := range [3]float64{0, 0.5, 0.9} {
		for k := range moments {
			bends[k] = r3.Norm(v.Bend(moments[k], bottom+share*(top-bottom)))
		}
		most := slices.Max(bends)
		for k := range moments {
			hard[k] = hard[k] || bends[k] >= 0.9999*most
		}
	}
	for k := range moments {
		if hard[k] {
			list = append(list, k)
		}
	}
	return list
}

// Seat puts the forces of a moment on a beam, in the plane in which they bend it at its foot; towards is
// the one where they do not.
func (v Wood) Seat(beam *spar.Spar, list []Seat, towards r3.Vec) (heading r3.Vec) {
	bottom, top := beam.Stations[0].AtM, beam.Stations[len(beam.Stations)-1].AtM
	pulls := 0.0
	for _, s := range list {
		pulls += r3.Norm(s.Force)
	}
	heading, leads := space.Direction(v.Bend(list, bottom), 0.02*pulls)
	if !leads {
		heading = towards
	}
	right := r3.Cross(heading, r3.Vec{Z: 1})
	for _, s := range list {
		on := spar.Load{AtM: min(s.FromM, top), HorizontalKn: r3.Dot(s.Force, heading), AcrossKn: r3.Dot(s.Force, right), VerticalKn: -s.Force.Z}
		var off r3.Vec
		if s.Limb >= 0 {
			// It bends the stem where its limb grows, at the arm of where it sits; a little
			// weight carries the arm of what only pulls across.
			on.VerticalKn = max(on.VerticalKn, r3.Norm(space.Level(s.Force))/10, 1e-3)
			arm := r3.Sub(s.At, v.OnStem(on.AtM))
			off = r3.Scale(1/on.VerticalKn, r3.Sub(r3.Scale(arm.Z, space.Level(s.Force)), r3.Scale(s.Force.Z, space.Level(arm))))
		} else {
			thick, _ := v.Stem.DiameterAt(s.At.Z)
			off = r3.Scale(thick/2, heading)
		}
		on.OffsetM, on.AcrossOffsetM = r3.Dot(off, heading), r3.Dot(off, right)
		if on.AtM >= bottom {
			beam.Loads = append(beam.Loads, on)
		}
	}
	return heading
}

// StationsTo are the stations of a stem's wood up to a height, its bark taken off.
func (v Wood) StationsTo(top float64) []timber.Station {
	stations := []timber.Station{}
	for _, s := range v.Stem.Stations {
		if s.AtM < top-1e-6 {
			stations = append(stations, v.StationAt(s.AtM))
		}
	}
	v.Unread(func(low, high timber.Station, _, _ float64) {
		for _, z := range [2]float64{low.AtM + besideReading, high.AtM - besideReading} {
			if z < top-1e-6 {
				stations = append(stations, v.StationAt(z))
			}
		}
	})
	slices.SortStableFunc(stations, func(a, b timber.Station) int { return cmp.Compare(a.AtM, b.AtM) })
	return append(stations, v.StationAt(top))
}

// besideReading is how near to its reading a cavity may end, m.
const besideReading = 0.02

// thinnest is the thinnest shell that is reckoned with round a cavity, as a share of the diameter.
const thinnest = 0.01

// StationAt is the wood of the stem at a height, its bark taken off: a cavity that nobody read there is as wide for the stem as the wider beside it.
func (v Wood) StationAt(z float64) timber.Station {
	outside, cavity := v.Stem.DiameterAt(z)
	v.Unread(func(low, high timber.Station, _, most float64) {
		if z > low.AtM && z < high.AtM {
			cavity = max(cavity, most*outside)
		}
	})
	under := v.UnderBark(outside)
	return timber.Station{AtM: z, DiameterM: under, CavityM: min(cavity, (1-thinnest)*under)}
}

// Feels is the section of a stem that its gear and its own weight strain most, what is unsound there
// counting as much more, and a sentence about that. What leans against the gear is not credited, as it
// need not pull at its peak; nor does it go unseen, where it bends the stem more by itself. The beam is
// left with the loads of the worse.
func (v Wood) Feels(beam *spar.Spar, heading r3.Vec, now *space.Standing) (worst spar.Worst, why string) {
	given := beam.Loads
	beam.Weak = v.weak()
	worst.StressMpa = math.Inf(-1)
	for _, credit := range [2]bool{false, true} {
		one := *beam
		one.Loads = slices.Clone(given)
		against := v.leans(&one, heading, credit, now)
		for i := range one.Loads {
			settle(&one.Loads[i])
		}
		if felt := one.WorstSection(); Harder(felt, worst) {
			worst, *beam = felt, one
		}
		if !against {
			break
		}
	}
	if sound, of := Soundness(v.Tree, -1, worst.AtM); of != "" {
		why = fmt.Sprintf("%.0f %% of its strength are counted there, for %s.", 100*sound, of)
	}
	return worst, why
}

// settle takes the rounding of nothing out of a load: the core in a browser rounds otherwise than the server's.
func settle(l *spar.Load) {
	for _, part := range []*float64{&l.HorizontalKn, &l.OffsetM, &l.AcrossKn, &l.AcrossOffsetM} {
		if math.Abs(*part) < 1e-9 {
			*part = 0
		}
	}
}

// weak is where the wood of the stem has not all of its strength.
func (v Wood) weak() (list []spar.Weak) {
	for i := range v.Measured.Defects {
		d := &v.Measured.Defects[i]
		if keeps, bad := unsound[d.Kind]; bad && d.Limb == "" {
			list = append(list, spar.Weak{FromM: max(0, d.AtM-space.NearDefect), ToM: d.To() + space.NearDefect, KeepsPct: 100 * keeps})
		}
	}
	return list
}

// leans adds to a beam the limbs that stand on it, and what its own weight, theirs and what is hung
// on it do because it leans or is bent. Along the heading of the load only what bends it that way
// counts, if what bends it the other way has no credit; against tells that something would.
func (v Wood) leans(beam *spar.Spar, heading r3.Vec, credit bool, now *space.Standing) (against bool) {
	heading, led := space.Direction(heading, 0)
	if !led {
		heading, credit = r3.Vec{X: 1}, true
	}
	right := r3.Cross(heading, r3.Vec{Z: 1})
	parts := func(off r3.Vec) (along, across float64) {
		if along = r3.Dot(off, heading); along < -1e-9 && !credit {
			along, against = 0, true
		}
		return along, r3.Dot(off, right)
	}
	bottom, top := beam.Stations[0].AtM, beam.Stations[len(beam.Stations)-1].AtM
	v.bear(beam, top, parts, now)
	if v.Upright() {
		return against
	}
	given := beam.Loads
	lean := func(at, down float64, by r3.Vec) {
		along, across := parts(by)
		beam.Loads = append(beam.Loads, spar.Load{AtM: at, HorizontalKn: down * along, AcrossKn: down * across})
	}
	for _, one := range given {
		lean(one.AtM, max(0, one.VerticalKn), v.LeanAt(one.AtM))
	}
	stem := func(low, high float64) float64 {
		return v.Stem.WeighBetween(low, high, v.Density, timber.Frustum).MassKg.High * units.Gravity / 1000 * v.Slant((low+high)/2)
	}
	const pieces = 24
	for k := pieces - 1; k >= 0; k-- {
		low, high := bottom+(top-bottom)*float64(k)/pieces, bottom+(top-bottom)*float64(k+1)/pieces
		lean((low+high)/2, stem(low, high), v.LeanAt((low+high)/2))
	}
	// At a bend the weight above it leads off another way than below.
	for _, knot := range v.Bends() {
		if knot.AtM <= bottom || knot.AtM >= top {
			continue
		}
		on := stem(knot.AtM, top)
		for _, one := range given {
			if one.AtM > knot.AtM {
				on += max(0, one.VerticalKn)
			}
		}
		belowAlong, belowAcross := parts(v.LeanAt(knot.AtM - 1e-6))
		aboveAlong, aboveAcross := parts(v.LeanAt(knot.AtM + 1e-6))
		beam.Loads = append(beam.Loads, spar.Load{AtM: knot.AtM, HorizontalKn: on * (belowAlong - aboveAlong), AcrossKn: on * (belowAcross - aboveAcross)})
	}
	return against
}

// bear adds the limbs of a stem to a beam, each where it grows: at any height the moments of those above it
// come to what parts makes of their sum.
func (v Wood) bear(beam *spar.Spar, top float64, parts func(off r3.Vec) (along, across float64), now *space.Standing) {
	var moment r3.Vec
	wasAlong, wasAcross := 0.0, 0.0
	limbs := slices.Collect(v.Growing(-1, 0, top+1e-9, now))
	slices.SortStableFunc(limbs, func(a, b int) int { return cmp.Compare(v.Limbs[b].AtM, v.Limbs[a].AtM) })
	for _, k := range limbs {
		m := v.LimbMass(k, 0, now)
		kn := m.Kg.High * units.Gravity / 1000
		moment = r3.Add(moment, r3.Scale(kn, space.Level(r3.Sub(m.At, v.Limbs[k].Base))))
		along, across := parts(moment)
		beam.Loads = append(beam.Loads, spar.Load{AtM: v.Limbs[k].AtM, VerticalKn: kn, OffsetM: (along - wasAlong) / kn, AcrossOffsetM: (across - wasAcross) / kn})
		wasAlong, wasAcross = along, across
	}
}
