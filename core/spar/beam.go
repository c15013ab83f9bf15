package spar

import (
	"math"
	"slices"

	"elkstay/core/timber"
)

// finest is the longest cell of the sum, m: the worst section is searched as finely.
const finest = 0.05

// fewestCells keeps the sum fine on a short stem.
const fewestCells = 200

// beam is the stem cut into cells between nodes.
type beam struct {
	z, area, inertia []float64 // at the nodes
	flexible         [][2]float64
	mass             []float64 // kg at the nodes
}

// cell is how long the cells of the sum are at most, m.
func (s *Spar) cell() float64 {
	stem := timber.Stem{Stations: s.Stations}
	return min(finest, (stem.Top()-stem.Bottom())/fewestCells)
}

// nodes cuts the stem into cells no longer than cell, with nodes at all corners.
func (s *Spar) nodes() []float64 {
	corners, cell := s.corners(), s.cell()
	z := append(make([]float64, 0, int((corners[len(corners)-1]-corners[0])/cell)+len(corners)+1), corners[0])
	for i := 1; i < len(corners); i++ {
		from, span := corners[i-1], corners[i]-corners[i-1]
		count := int(math.Ceil(span / cell))
		for k := 1; k < count; k++ {
			z = append(z, node(from, span, k, count))
		}
		z = append(z, corners[i])
	}
	return z
}

// node is the k-th of so many nodes above a corner.
func node(from, span float64, k, count int) float64 { return from + span*float64(k)/float64(count) }

// lay works out the beam between some nodes.
func (s *Spar) lay(nodes []float64) *beam {
	stem := timber.Stem{Stations: s.Stations}
	b := &beam{z: nodes}
	n := len(b.z)
	b.area, b.inertia, b.mass = make([]float64, n), make([]float64, n), make([]float64, n)
	b.flexible = make([][2]float64, n)
	modulus := s.StiffnessGpa * 1e6 // kN/m²
	for i, z := range b.z {
		b.area[i], b.inertia[i] = section(stem.DiameterAt(z))
		if i == 0 {
			continue
		}
		length := z - b.z[i-1]
		for k, place := range gauss {
			_, inertia := section(stem.DiameterAt(b.z[i-1] + place*length))
			b.flexible[i][k] = 1 / (modulus * inertia)
		}
		middle, _ := section(stem.DiameterAt(b.z[i-1] + length/2))
		mass := s.DensityKgM3 * length * (b.area[i-1] + 4*middle + b.area[i]) / 6
		b.mass[i-1] += mass / 2
		b.mass[i] += mass / 2
	}
	return b
}

// gauss are the two places of Gauss–Legendre quadrature in a cell.
var gauss = [2]float64{0.5 - 0.5/math.Sqrt(3), 0.5 + 0.5/math.Sqrt(3)}

// bend returns the deflection at every node for a moment that is linear in each cell:
// below[i] and above[i] are its values at the lower and upper end of cell i (between
// nodes i−1 and i), kN·m.
func (b *beam) bend(below, above, into []float64) {
	slope, deflection := 0.0, 0.0
	into[0] = 0
	for i := 1; i < len(b.z); i++ {
		length := b.z[i] - b.z[i-1]
		turn, sink := 0.0, 0.0
		for k, place := range gauss {
			curvature := (below[i] + place*(above[i]-below[i])) * b.flexible[i][k]
			turn += curvature * length / 2
			sink += curvature * length / 2 * (1 - place) * length
		}
		deflection += slope*length + sink
		slope += turn
		into[i] = deflection
	}
}

// moment is the bending moment in its two planes just above a height: of loads at or above it
// when at is set, of loads above it when not.
func (s *Spar) moment(z float64, at bool) (along, across float64) {
	for _, load := range s.Loads {
		if load.AtM > z || at && load.AtM == z {
			along += load.HorizontalKn*(load.AtM-z) + load.VerticalKn*load.OffsetM
			across += load.AcrossKn*(load.AtM-z) + load.VerticalKn*load.AcrossOffsetM
		}
	}
	return along, across
}

// Solve works out a spar without Faults.
func (s *Spar) Solve() Standing {
	b := s.lay(s.nodes())
	n := len(b.z)
	top := n - 1
	below, above, bent := make([]float64, n), make([]float64, n), make([]float64, n)
	belowAcross, aboveAcross, bentAcross := make([]float64, n), make([]float64, n), make([]float64, n)
	for i := 1; i < n; i++ {
		// Within a cell the moment is linear: loads sit on nodes.
		above[i], aboveAcross[i] = s.moment(b.z[i], true)
		below[i], belowAcross[i] = s.moment(b.z[i-1], false)
	}
	b.bend(below, above, bent)
	b.bend(belowAcross, aboveAcross, bentAcross)
	for i := range bent {
		bent[i] = together(bent[i], bentAcross[i])
	}
	out := Standing{Stations: []Felt{}, DeflectionAtLoadsM: []float64{}, TopDeflectionM: bent[top]}
	for _, load := range s.Loads {
		i, _ := slices.BinarySearch(b.z, load.AtM)
		out.DeflectionAtLoadsM = append(out.DeflectionAtLoadsM, bent[i])
	}

	stretches := s.stretches(s.corners())
	for k := range stretches {
		t := &stretches[k]
		if slices.ContainsFunc(s.Stations, func(station timber.Station) bool { return station.AtM == t.top }) {
			out.Stations = append(out.Stations, t.felt(t.top))
		}
	}
	slices.Reverse(out.Stations)
	out.Worst = s.worstOf(stretches)

	for _, load := range s.Loads {
		i, _ := slices.BinarySearch(b.z, load.AtM)
		b.mass[i] += load.MassKg
	}
	omega := b.sway(bent, below, above, &out.Modal)
	out.FrequencyHz = omega / (2 * math.Pi)
	out.PeriodS = 1 / out.FrequencyHz
	return out
}

// sway works out the stem as one mass on one spring, and its first mode's ω, from the shape under 1 kN at its top; the
// shape is left in bent.
func (b *beam) sway(bent, below, above []float64, modal *Modal) (omega float64) {
	top := len(b.z) - 1
	for i := 1; i <= top; i++ {
		above[i], below[i] = b.z[top]-b.z[i], b.z[top]-b.z[i-1]
	}
	b.bend(below, above, bent)
	modal.StiffnessKnM = 1 / bent[top]
	omega = math.Sqrt(b.mode(bent, below, above, nil))
	modal.MassKg = 1000 * modal.StiffnessKnM / (omega * omega)
	return omega
}

// A Sway is one mode of a stem: at how many radians a second, the mass that it comes to at its top, kg, and how far
// each of its masses goes of what the top goes.
type Sway struct {
	Omega, Kg float64
	Share     []float64
}

// At is how far a mode goes at a height of what the top goes, along masses at heights of one distance.
func (s *Sway) At(atM []float64, z float64) float64 {
	bottom, last := atM[0], len(atM)-1
	at := max(0, min(1, (z-bottom)/(atM[last]-bottom))) * float64(last)
	cell := min(last-1, int(at))
	return s.Share[cell] + (at-float64(cell))*(s.Share[cell+1]-s.Share[cell])
}

// Sways are the first modes of a stem, on a coarse grid of so many cells of one length, a load's mass in the nearest: the heights
// of its masses, m, those, kg, and how each mode moves them.
func (s *Spar) Sways(cells, modes int) (atM, kg []float64, list []Sway) {
	bottom, top := s.Stations[0].AtM, s.Stations[len(s.Stations)-1].AtM
	nodes := make([]float64, cells+1)
	for k := range nodes {
		nodes[k] = node(bottom, top-bottom, k, cells)
	}
	b := s.lay(nodes)
	for _, l := range s.Loads {
		b.mass[max(0, min(cells, int(math.Round((l.AtM-bottom)/(top-bottom)*float64(cells)))))] += l.MassKg
	}
	below, above := make([]float64, cells+1), make([]float64, cells+1)
	for range modes {
		shape := make([]float64, cells+1)
		for i := range shape {
			// As the mode after those known may look: any shape with something of it.
			rise := float64(i) / float64(cells)
			shape[i] = rise * rise * math.Cos(math.Pi*float64(len(list))*rise)
		}
		omega := math.Sqrt(b.mode(shape, below, above, list))
		mode := Sway{Omega: omega, Share: shape}
		for i := range shape {
			shape[i] /= shape[cells]
		}
		for i := range shape {
			mode.Kg += b.mass[i] * shape[i] * shape[i]
		}
		list = append(list, mode)
	}
	return b.z, b.mass, list
}

// mode returns ω² of the mode after those known by Stodola's iteration: the masses' inertia
// bends the beam into the next shape, rid of those known; Rayleigh's quotient gives ω².
func (b *beam) mode(shape, below, above []float64, known []Sway) (square float64) {
	n := len(b.z)
	next := make([]float64, n)
	for range 40 {
		shear, moment := 0.0, 0.0
		for i := n - 1; i > 0; i-- {
			shear += b.mass[i] * shape[i] / 1000
			above[i] = moment
			moment += shear * (b.z[i] - b.z[i-1])
			below[i] = moment
		}
		b.bend(below, above, next)
		for k := range known {
			has := 0.0
			for i := range n {
				has += b.mass[i] * next[i] * known[k].Share[i]
			}
			for i := range n {
				next[i] -= has / known[k].Kg * known[k].Share[i]
			}
		}
		work, kinetic, largest := 0.0, 0.0, 0.0
		for i := range n {
			work += b.mass[i] * shape[i] * next[i]
			kinetic += b.mass[i] * next[i] * next[i]
			largest = max(largest, math.Abs(next[i]))
		}
		before := square
		square = work / kinetic
		for i := range n {
			shape[i] = next[i] / largest
		}
		if math.Abs(square-before) < 1e-12*square {
			break
		}
	}
	return square
}
