package hold

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/spar"
	"elkstay/core/timber"
	"elkstay/core/units"
)

// Soundness is what the defects at a place of a limb (−1: the stem) leave of its strength,
// and what they are.
func Soundness(tree *space.Tree, limb int, at float64) (share float64, why string) {
	share = 1
	tree.Defects(limb, at, func(d *job.Defect) {
		if keeps, bad := unsound[d.Kind]; bad && keeps < share {
			share, why = keeps, d.Kind
		}
	})
	return share, why
}

// onOneLimb are those of some pulls on a tree that bend the limb of one of them, or the one that it grows from.
func (v Wood) onOneLimb(p *Pull, others []Pull) (list []Pull) {
	root := v.Root(v.LimbIndex(p.Place.Limb))
	for i := range others {
		if place := others[i].Place; place.On == job.OnLimb && v.LimbIndex(place.Limb) >= 0 && v.Root(v.LimbIndex(place.Limb)) == root {
			list = append(list, others[i])
		}
	}
	return list
}

// bendsAt tells that a pull on one of the limbs of a root bends a limb at a place of it.
func (v Wood) bendsAt(p *Pull, limb int, s float64) bool {
	on := v.LimbIndex(p.Place.Limb)
	if on == limb {
		return p.Place.AtM >= s
	}
	return v.Limbs[on].Parent == limb && v.Limbs[on].AtM >= s
}

// OnLimb is what a limb holds: the bending of its wood between where the gear sits and the
// stem, and of the limb it grows from, under the pull, others on the same limbs and what the limb itself weighs.
func (v Wood) OnLimb(p *Pull, others []Pull, now *space.Standing) Load {
	i := v.LimbIndex(p.Place.Limb)
	l := Load{Part: PartHolder, RestKn: p.RestKn, PeakKn: p.PeakKn}
	if i < 0 {
		l.Why = "that limb is not on the tree"
		return l
	}
	l.Name, l.On, l.Dir = v.Limbs[i].Title(), v.Limbs[i].Title(), p.Dir
	if v.Species == nil {
		l.Why = "the species is not known, so neither is the limb's strength"
		return l
	}
	worst, where := 0.0, ""
	try := func(limb int, upTo float64) {
		g := &v.Limbs[limb]
		for share := range search.Shares(40) {
			s := upTo * share
			at := g.At(s)
			beyond := v.LimbMass(limb, s, now)
			weight := r3.Vec{Z: -beyond.Kg.High * units.Gravity / 1000}
			moment := r3.Add(r3.Cross(r3.Sub(p.At, at), r3.Scale(p.PeakKn, p.Dir)), r3.Cross(r3.Sub(beyond.At, at), weight))
			along := p.PeakKn
			for k := range others {
				if other := &others[k]; v.bendsAt(other, limb, s) {
					moment = r3.Add(moment, r3.Cross(r3.Sub(other.At, at), r3.Scale(other.PeakKn, other.Dir)))
					along += other.PeakKn
				}
			}
			d := v.UnderBark(g.DiameterAt(s))
			sound, why := Soundness(v.Tree, limb, s)
			stress := (r3.Norm(moment)/(math.Pi*d*d*d/32) + along/(math.Pi*d*d/4)) / 1000 / sound
			if stress > worst {
				worst, where = stress, fmt.Sprintf("%s at %s from its base", units.Print(units.Diameter, v.Site.System, d), v.Site.Height(s))
				if why != "" {
					where += fmt.Sprintf(", %.0f %% of its strength left for %s", 100*sound, why)
				}
			}
		}
	}
	try(i, p.Place.AtM)
	if root := v.Root(i); root != i {
		try(root, v.Limbs[i].AtM)
	}
	allowed := v.Species.RuptureMPa / v.Limits.WoodFactor
	l.Known, l.Decided = true, ByWood
	l.Limit = gear.Limit{Kn: p.PeakKn * allowed / worst, Source: "bending, πd³/32 under bark; green strength from the Wood Handbook, from memory",
		Reason: fmt.Sprintf("%.3g of %.3g MPa, strength over %g: %s", worst, allowed, v.Limits.WoodFactor, where)}
	l.Say("The union of the limb with the stem is not in the figure: look at its collar and for bark between.")
	return l
}

// OnTree is what another tree of the job holds: the bending of its stem, and where the
// gear sits on a limb of it, at the arm of that limb; under others too.
func (v Wood) OnTree(p *Pull, others []Pull, now *space.Standing) Load {
	l := Load{Part: PartHolder, Name: v.Measured.Title(), On: v.Measured.Title(), Dir: p.Dir, RestKn: p.RestKn, PeakKn: p.PeakKn}
	if v.Species == nil {
		l.Why = "the species of that tree is not known, so neither is its strength"
		return l
	}
	beam := v.Beam(v.StationsTo(now.Top))
	seats := make([]Seat, 0, 1+len(others))
	for _, q := range append([]Pull{*p}, others...) {
		on := Seat{-1, q.At.Z, q.At, r3.Scale(q.PeakKn, q.Dir)}
		if i := v.LimbIndex(q.Place.Limb); q.Place.On == job.OnLimb && i >= 0 {
			on.Limb, on.FromM = i, v.Limbs[v.Root(i)].AtM
		}
		seats = append(seats, on)
	}
	heading := v.Seat(&beam, seats, r3.Vec{X: 1})
	worst, why := v.Feels(&beam, heading, now)
	l.Rated = v.ByBending(p.PeakKn, worst)
	if why != "" {
		l.Say(why)
	}
	l.Say("Its roots are not in the figure: look at them, and at the ground, before you load it.")
	return l
}

// LimbGives is how stiff a limb is across itself at a place of it, kN/m: bending from there to its
// base.
func (v Wood) LimbGives(i int, at r3.Vec) float64 {
	g := &v.Limbs[i]
	s := g.Nearest(at)
	modulus := 10.0
	if v.Species != nil {
		modulus = v.Species.ElasticityGPa
	}
	const parts = 60
	sum := 0.0
	for k := range parts {
		x := s * (float64(k) + 0.5) / parts
		d := g.DiameterAt(x)
		sum += (s - x) * (s - x) / (modulus * 1e6 * math.Pi * math.Pow(d, 4) / 64) * s / parts
	}
	return 1 / max(1e-9, sum)
}

// A limb sways in so many of its modes, on a grid of so many cells.
const (
	limbModes = 3
	limbCells = 24
)

// Bough is how a limb sways across itself under a block at a place of it that is pulled that way with so much for every kN of the line: with all
// that it bears as heavy as is given, or as light.
func (v Wood) Bough(i int, atM, perLine float64, heavy bool, now *space.Standing) *drop.Bough {
	g, tip := &v.Limbs[i], now.Tips[i]
	modulus := 10.0
	if v.Species != nil {
		modulus = v.Species.ElasticityGPa
	}
	beam := spar.Spar{StiffnessGpa: modulus, DensityKgM3: 1e-6}
	beyond := v.LimbMass(i, 0, now).Kg
	for k := range limbCells + 1 {
		at := tip * float64(k) / limbCells
		beam.Stations = append(beam.Stations, timber.Station{AtM: at, DiameterM: v.UnderBark(g.DiameterAt(at))})
		next := v.LimbMass(i, at, now).Kg
		kg := beyond.Low - next.Low
		if heavy {
			kg = beyond.High - next.High
		}
		beam.Loads = append(beam.Loads, spar.Load{AtM: at - tip/limbCells/2, MassKg: max(0, kg)})
		beyond = next
	}
	b := &drop.Bough{PerLine: perLine, AtM: max(1e-3, min(atM, tip))}
	for k, look := range drop.BoughLooks {
		d := g.DiameterAt(look * b.AtM)
		b.Resists[k] = d * d * d
	}
	sways(b, &beam, 1)
	return b
}

// sways gives a bough the modes of a beam, so many times as slow as by itself.
func sways(b *drop.Bough, beam *spar.Spar, slower float64) {
	at, kg, modes := beam.Sways(limbCells, limbModes)
	for _, sway := range modes {
		m := drop.BoughMode{Mode: drop.Mode{Kg: sway.Kg * slower * slower, Omega: sway.Omega / slower}, AtBlock: sway.At(at, at[0]+b.AtM)}
		for n, x := range at {
			for k, look := range drop.BoughLooks {
				m.Bends[k] += slower * slower * kg[n] * sway.Share[n] / 1000 * max(0, x-at[0]-look*b.AtM)
			}
		}
		b.Modes = append(b.Modes, m)
	}
}

// Crowned is how many times as slowly a tree sways with its crown on than its stem alone (common practice, no source).
const Crowned = 2

// SwaysAt is how a stem that stands to a height sways under gear at another that is pulled level with so much for every kN of the line: by
// itself, or so many times as slowly. The tree's species is known.
func (v Wood) SwaysAt(topM, atM, perLine, slower float64) *drop.Bough {
	beam := v.Beam(v.StationsTo(topM))
	bottom := beam.Stations[0].AtM
	b := &drop.Bough{PerLine: perLine, AtM: max(0.05*(topM-bottom), min(atM, topM)-bottom)}
	for k, look := range drop.BoughLooks {
		s := v.StationAt(bottom + look*b.AtM)
		b.Resists[k] = (math.Pow(s.DiameterM, 4) - math.Pow(s.CavityM, 4)) / s.DiameterM
	}
	sways(b, &beam, slower)
	return b
}

// StemGives is how stiff a stem is across itself at a height, kN/m.
func (v Wood) StemGives(at float64) float64 {
	modulus := 10.0
	if v.Species != nil {
		modulus = v.Species.ElasticityGPa
	}
	at = max(v.Stem.Bottom()+0.3, min(at, v.Stem.Top()))
	no := false
	beam := spar.Spar{Stations: v.StationsTo(at), StrengthMpa: 50, StiffnessGpa: modulus, DensityKgM3: v.Density.High, SelfWeight: &no, Loads: []spar.Load{{AtM: at, HorizontalKn: 1}}}
	return beam.Solve().Modal.StiffnessKnM
}
