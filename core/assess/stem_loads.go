package assess

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/spar"
)

// sparLoad is what bends the stem, and what it feels.
type sparLoad struct {
	beam  spar.Spar
	worst spar.Worst
}

// A seat is where gear sits on the pick's own tree, and the force on it, kN.
type seat struct {
	limb      int     // −1: the stem
	fromM     float64 // where it bends the stem from: its own height, or that of its limb
	at, force r3.Vec
}

// seated tells what of the pick's own tree gear sits on: nothing said is its stem.
func (v *Survey) seated(place *job.Place) (limb int, own bool) {
	if place == nil || v.onOwnStem(place) {
		return -1, true
	}
	limb = v.ownLimb(place)
	return limb, limb >= 0
}

// onBlock are the forces on the block at the peak, kN: of one of two lines at every moment of its way; on a swing as the
// line leads off furthest to either side, too; with what a tag line draws aside, and without.
func (o *Outcome) onBlock() []r3.Vec {
	block := &o.Path.Points[0]
	forces := []r3.Vec{r3.Scale(block.ResultantKn*o.Catch.LinePeakKn, block.Direction.Vec())}
	if o.leads != nil {
		forces = o.leads
	}
	if o.arc != nil {
		// As much more as the line takes more than a taut one.
		side, _ := direction(level(r3.Sub(o.tie, o.block)), 0)
		off := r3.Scale(max(1, o.Catch.LinePeakKn/o.arc.LineKn)*sidePull(o.weightKn(), radians(o.arc.StartDeg)), side)
		forces = []r3.Vec{r3.Add(forces[0], off), r3.Sub(forces[0], off)}
	}
	if o.aside != (r3.Vec{}) {
		for _, force := range forces {
			forces = append(forces, r3.Add(force, o.aside))
		}
	}
	return forces
}

// onPoints are the forces on the blocks of two points at a place of the way between them, kN: of the line
// to the piece and of its lead, straight down, which is hauled in at the second.
func (o *Outcome) onPoints(k int) [2]r3.Vec {
	c := &o.carried.Way[k]
	along, _ := direction(level(r3.Sub(o.pair.B.Vec(), o.pair.A.Vec())), 0)
	off := func(deg, kn, lead float64, way r3.Vec) r3.Vec {
		force := r3.Add(r3.Scale(math.Cos(radians(deg)), way), r3.Vec{Z: -math.Sin(radians(deg)) - lead})
		return r3.Scale(kn/r3.Norm(force), force)
	}
	r := *o.pair.Efficiency
	return [2]r3.Vec{r3.Add(off(c.AngleADeg, c.AnchorAKn, r, along), o.aside), off(c.AngleBDeg, c.AnchorBKn, 1/r, r3.Scale(-1, along))}
}

// seats are the forces on the pick's own tree at every moment that may bend it most.
func (v *Survey) seats(o *Outcome) (moments [][]seat) {
	var always []seat
	at := func(list []seat, place *job.Place, at, force r3.Vec) []seat {
		limb, own := v.seated(place)
		if !own {
			return list
		}
		from := at.Z
		if limb >= 0 {
			from = v.Limbs[v.root(limb)].AtM
		}
		return append(list, seat{limb, from, at, force})
	}
	for i := range o.Rig.Redirects {
		turn := &o.Path.Points[i+1]
		always = at(always, &o.Rig.Redirects[i].Place, o.points[i+2].Vec(), r3.Scale(turn.ResultantKn*o.Catch.LinePeakKn, turn.Direction.Vec()))
	}
	if !o.Rig.Device.None {
		last := len(o.points) - 1
		up, _ := direction(r3.Sub(o.points[last-1].Vec(), o.points[last].Vec()), 0)
		always = at(always, o.Rig.Device.Place, o.points[last].Vec(), r3.Scale(o.Catch.DevicePeakKn, up))
	}
	if o.pair != nil {
		for k := range o.carried.Way {
			both := o.onPoints(k)
			moments = append(moments, at(at(slices.Clone(always), o.Rig.Block.Place, o.block, both[0]), &o.second.Place, o.pair.B.Vec(), both[1]))
		}
		return moments
	}
	for _, force := range o.onBlock() {
		moments = append(moments, at(slices.Clone(always), o.Rig.Block.Place, o.block, force))
	}
	return moments
}

// onTree reports that some of the gear of a pick sits on its own tree.
func (v *Survey) onTree(o *Outcome) bool { return len(v.seats(o)[0]) > 0 }

// bend is what forces bend the stem by at a height, level and in kN·m, towards where it bends.
func (v *Survey) bend(list []seat, z float64) (sum r3.Vec) {
	axis := v.onStem(z)
	for _, s := range list {
		if off := r3.Sub(s.at, axis); s.fromM >= z {
			sum = r3.Add(sum, r3.Sub(r3.Scale(off.Z, level(s.force)), r3.Scale(s.force.Z, level(off))))
		}
	}
	return sum
}

// sparLoads works out what the stem that stays feels of all the gear that sits on the tree, at the worst of
// its moments.
func (v *Survey) sparLoads(o *Outcome, peak, resting float64, now *Standing) {
	top := min(o.standsTo, v.Stem.Top())
	if _, own := v.seated(o.Rig.Block.Place); !own {
		peak, resting = o.Catch.DevicePeakKn, o.bearsKn()*o.Ratio()
	}
	l := load{part: partSpar, resting: resting, peak: peak, why: "the species is not known, so neither is the stem's strength"}
	if v.species == nil {
		o.loads = append(o.loads, l)
		return
	}
	why, stations, after := "", v.stationsTo(top), v.without(o, now)
	o.spar = &sparLoad{worst: spar.Worst{StressMpa: math.Inf(-1)}}
	for _, list := range v.hardest(v.seats(o), stations[0].AtM, top) {
		beam := spar.Spar{Stations: stations, StrengthMpa: v.species.RuptureMPa, StiffnessGpa: v.species.ElasticityGPa, DensityKgM3: v.density.High}
		heading := v.seat(&beam, list, towards(o.Settings.FallTowardsDeg))
		if worst, of := v.feels(&beam, heading, after); harder(worst, o.spar.worst) {
			o.spar.beam, o.spar.worst, why = beam, worst, of
		}
	}
	l.Rated = v.byBending(peak, o.spar.worst)
	if why != "" {
		l.cautions(why)
	}
	o.loads = append(o.loads, l)
}

// byBending is the limit of a force that bends a stem, kN, in proportion to what that feels at its worst.
func (v *Survey) byBending(kn float64, worst spar.Worst) policy.Rated {
	allowed := v.species.RuptureMPa / v.limits.WoodFactor
	return policy.Rated{Known: true, Decided: byWood, Limit: gear.Limit{Kn: kn * allowed / max(1e-9, worst.StressMpa), Source: "Euler–Bernoulli beam; green strength from the Wood Handbook, from memory",
		Reason: fmt.Sprintf("%.3g of %.3g MPa at %s, strength over %g", worst.StressMpa, allowed, v.Height(worst.AtM), v.limits.WoodFactor)}}
}

// harder tells that a section feels more than another, rounding apart.
func harder(a, b spar.Worst) bool { return a.StressMpa > b.StressMpa*(1+1e-9) }

// hardest are those of a way's moments that bend the stem most at its foot, half way up, and near its top:
// all of them that bend it alike, for its own weight may add to any.
func (v *Survey) hardest(moments [][]seat, bottom, top float64) (list [][]seat) {
	bends, hard := make([]float64, len(moments)), make([]bool, len(moments))
	for _, share := range [3]float64{0, 0.5, 0.9} {
		for k := range moments {
			bends[k] = r3.Norm(v.bend(moments[k], bottom+share*(top-bottom)))
		}
		most := slices.Max(bends)
		for k := range moments {
			hard[k] = hard[k] || bends[k] >= 0.9999*most
		}
	}
	for k := range moments {
		if hard[k] {
			list = append(list, moments[k])
		}
	}
	return list
}

// seat puts the forces of a moment on a beam, in the plane in which they bend it at its foot; towards is
// the one where they do not.
func (v *Survey) seat(beam *spar.Spar, list []seat, towards r3.Vec) (heading r3.Vec) {
	bottom, top := beam.Stations[0].AtM, beam.Stations[len(beam.Stations)-1].AtM
	pulls := 0.0
	for _, s := range list {
		pulls += r3.Norm(s.force)
	}
	heading, leads := direction(v.bend(list, bottom), 0.02*pulls)
	if !leads {
		heading = towards
	}
	right := r3.Cross(heading, r3.Vec{Z: 1})
	for _, s := range list {
		on := spar.Load{AtM: min(s.fromM, top), HorizontalKn: r3.Dot(s.force, heading), AcrossKn: r3.Dot(s.force, right), VerticalKn: -s.force.Z}
		var off r3.Vec
		if s.limb >= 0 {
			// It bends the stem where its limb grows, at the arm of where it sits; a little
			// weight carries the arm of what only pulls across.
			on.VerticalKn = max(on.VerticalKn, r3.Norm(level(s.force))/10, 1e-3)
			arm := r3.Sub(s.at, v.onStem(on.AtM))
			off = r3.Scale(1/on.VerticalKn, r3.Sub(r3.Scale(arm.Z, level(s.force)), r3.Scale(s.force.Z, level(arm))))
		} else {
			thick, _ := v.Stem.DiameterAt(s.at.Z)
			off = r3.Scale(thick/2, heading)
		}
		on.OffsetM, on.AcrossOffsetM = r3.Dot(off, heading), r3.Dot(off, right)
		if on.AtM >= bottom {
			beam.Loads = append(beam.Loads, on)
		}
	}
	return heading
}

// sidePull is the most that a piece pulls its block sideways while it swings down from an angle
// (radians from straight down), kN: of W(3cos θ − 2cos θ₀)·sin θ, which is most where
// 6cos²θ − 2cos θ₀·cos θ − 3 = 0, or at its start.
func sidePull(weightKn, start float64) float64 {
	from := math.Cos(start)
	sin, cos := math.Sincos(min(start, math.Acos((from+math.Sqrt(from*from+18))/6)))
	return weightKn * (3*cos - 2*from) * sin
}
