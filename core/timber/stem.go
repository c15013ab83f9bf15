// Package timber weighs stems and the pieces cut from them: volume, mass, centre
// of gravity and moment of inertia from tape readings, the longest piece that stays
// within a given mass, whole limbs with their brush from their base, and what the scale
// teaches about the estimates.
//
// The model: between two stations the outside of the stem and its cavity each
// taper in a straight line, so every stretch is a hollow frustum of a cone. That
// is exact for the frustum method; the foresters' formulas (Smalian, Huber,
// Newton) are offered beside it and differ only in volume. The centre of gravity
// is that of the frustums whatever the method. Bark counts as wood, because a
// tape goes round it; butt flare, forks and buttresses are not in the model.
//
// Lengths are in metres, masses in kilograms, forces in kilonewtons. Sources:
// the frustum and its centroid are elementary solid geometry; Smalian, Huber and
// Newton are in every text on forest mensuration (e.g. Husch, Beers & Kershaw,
// Forest Mensuration, ch. 6; from memory).
package timber

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// A Station is one tape reading: how thick the stem is at a height.
type Station struct {
	AtM       float64 `json:"at_m" minimum:"0" maximum:"150" doc:"Height or distance along the stem, m"`
	DiameterM float64 `json:"diameter_m" exclusiveMinimum:"0" maximum:"10" doc:"Diameter over bark, m"`
	CavityM   float64 `json:"cavity_m,omitempty" minimum:"0" maximum:"10" doc:"Diameter of the cavity, m; 0 or absent: none"`
}

// A Lump is a mass fixed to the stem at one height: brush, ivy, hardware.
type Lump struct {
	Label  string  `json:"label,omitempty" maxLength:"80" doc:"What it is"`
	MassKg float64 `json:"mass_kg" exclusiveMinimum:"0" maximum:"100000" doc:"Mass, kg"`
	AtM    float64 `json:"at_m" minimum:"0" maximum:"150" doc:"Where it sits, on the same axis as the stations, m"`
}

// A Stem is a stem as measured: two stations or more, rising, and what hangs on it.
type Stem struct {
	Stations []Station `json:"stations" minItems:"2" maxItems:"200" doc:"Tape readings from the lower end up"`
	Attached []Lump    `json:"attached,omitempty" maxItems:"200" doc:"Lumps: brush, ivy, hardware"`
}

// A Method is a formula for the volume of a log.
type Method string

// The four methods; an empty Method means Frustum.
const (
	Frustum Method = "frustum"
	Smalian Method = "smalian"
	Huber   Method = "huber"
	Newton  Method = "newton"
)

// Formula returns the method's formula for one stretch of a stem.
func (m Method) Formula() string {
	switch m {
	case Smalian:
		return "L·(A₁+A₂)/2"
	case Huber:
		return "L·A(mean diameter)"
	case Newton:
		return "L·(A₁+4·Aₘ+A₂)/6"
	}
	return "π·L/12·(D₁²+D₁·D₂+D₂²)"
}

// Faults names what is wrong with a stem at the given path (such as "body"):
// stations out of order, a cavity as wide as the stem, lumps below its foot.
func (s Stem) Faults(path string) (faults intake.Faults) {
	for i, station := range s.Stations {
		at := fmt.Sprintf("%s.stations[%d]", path, i)
		if i > 0 && station.AtM <= s.Stations[i-1].AtM {
			faults.Add(at+".at_m", station.AtM, fmt.Sprintf("more than %g m", s.Stations[i-1].AtM),
				"at_m is %g, not above the station before it (%g)", station.AtM, s.Stations[i-1].AtM)
		}
		if station.CavityM >= station.DiameterM && station.CavityM > 0 {
			faults.Add(at+".cavity_m", station.CavityM, fmt.Sprintf("at least 0 and less than %g m", station.DiameterM),
				"cavity_m is %g, as wide as the stem (%g)", station.CavityM, station.DiameterM)
		}
	}
	for i, lump := range s.Attached {
		if len(s.Stations) > 0 && lump.AtM < s.Bottom() {
			faults.Add(fmt.Sprintf("%s.attached[%d].at_m", path, i), lump.AtM, fmt.Sprintf("at least %g m", s.Bottom()),
				"at_m is %g, below the foot of the stem (%g)", lump.AtM, s.Bottom())
		}
	}
	return faults
}

// Bottom is the height of the lowest station, m.
func (s Stem) Bottom() float64 { return s.Stations[0].AtM }

// Top is the height of the highest station, m.
func (s Stem) Top() float64 { return s.Stations[len(s.Stations)-1].AtM }

// DiameterAt returns the diameter of the outside and of the cavity at a height
// between Bottom and Top, m.
func (s Stem) DiameterAt(z float64) (outside, cavity float64) {
	for i := 1; i < len(s.Stations); i++ {
		if z <= s.Stations[i].AtM || i == len(s.Stations)-1 {
			return s.within(i, z)
		}
	}
	panic("timber: a stem needs two stations")
}

// within interpolates between stations i−1 and i.
func (s Stem) within(i int, z float64) (outside, cavity float64) {
	a, b := s.Stations[i-1], s.Stations[i]
	f := (z - a.AtM) / (b.AtM - a.AtM)
	return a.DiameterM + f*(b.DiameterM-a.DiameterM), a.CavityM + f*(b.CavityM-a.CavityM)
}

// A Weight is what a piece weighs and how its mass lies.
type Weight struct {
	LengthM     float64
	VolumeM3    float64
	MassKg      wood.Range
	CogM        float64 // centre of gravity, on the axis of the stations, at the likely mass
	InertiaKgM2 float64 // about the centre of gravity, transverse, at the likely mass
}

// WeightKn returns the force of gravity on the piece, kN.
func (w Weight) WeightKn() wood.Range { return w.MassKg.Times(units.Gravity / 1000) }

// Weigh weighs the whole stem. density is in kg/m³.
func (s Stem) Weigh(density wood.Range, method Method) Weight {
	return s.WeighBetween(s.Bottom(), s.Top(), density, method)
}

// WeighBetween weighs the piece between two heights of the stem, lower < upper,
// both within it. A lump belongs to the piece whose lower end < at ≤ upper end;
// the piece at the foot also takes a lump at its own lower end, the piece at the
// top those beyond it.
func (s Stem) WeighBetween(lower, upper float64, density wood.Range, method Method) Weight {
	var volume, solid, solidMoment float64 // by the method; by frustums
	var m1, m2, own float64                // Σ m·z, Σ m·z² and Σ mᵢ(L²/12+D̄²/16) of the wood, z from lower
	for i := 1; i < len(s.Stations); i++ {
		from, to := max(lower, s.Stations[i-1].AtM), min(upper, s.Stations[i].AtM)
		if to <= from {
			continue
		}
		part := s.stretch(i, from, to, method)
		z := from - lower + part.centroid
		mass := part.volume * density.Likely
		volume += part.volume
		solid += part.solid
		solidMoment += part.solid * z
		m1 += mass * z
		m2 += mass * z * z
		own += mass * (part.length*part.length/12 + part.diameter*part.diameter/16)
	}
	woodMass := volume * density.Likely
	total, moment := woodMass, woodMass*solidMoment/solid
	lumps := 0.0
	for _, lump := range s.Attached {
		if !s.carries(lump, lower, upper) {
			continue
		}
		z := lump.AtM - lower
		lumps += lump.MassKg
		total += lump.MassKg
		moment += lump.MassKg * z
		m1 += lump.MassKg * z
		m2 += lump.MassKg * z * z
	}
	cog := moment / total
	return Weight{
		LengthM:     upper - lower,
		VolumeM3:    volume,
		MassKg:      density.Times(volume).Plus(lumps),
		CogM:        lower + cog,
		InertiaKgM2: own + m2 - 2*cog*m1 + cog*cog*total,
	}
}

// carries reports whether a lump rides with the piece between two heights.
func (s Stem) carries(lump Lump, lower, upper float64) bool {
	return lump.AtM > lower && lump.AtM <= upper ||
		lump.AtM == lower && lower == s.Bottom() ||
		lump.AtM > upper && upper == s.Top()
}

// A stretch is one hollow frustum: part of a stem without a station inside.
type stretch struct {
	length, diameter float64 // m; diameter is the mean of the outside
	volume           float64 // m³ by the chosen method
	solid            float64 // m³ as a frustum
	centroid         float64 // m above its lower end, as a frustum
}

func (s Stem) stretch(i int, from, to float64, method Method) stretch {
	length := to - from
	d1, c1 := s.within(i, from)
	d2, c2 := s.within(i, to)
	outer, outerMoment := frustum(d1, d2, length)
	hollow, hollowMoment := frustum(c1, c2, length)
	solid := outer - hollow
	part := stretch{
		length:   length,
		diameter: (d1 + d2) / 2,
		volume:   solid,
		solid:    solid,
		centroid: (outerMoment - hollowMoment) / solid,
	}
	a1, a2 := disc(d1)-disc(c1), disc(d2)-disc(c2)
	middle := disc((d1+d2)/2) - disc((c1+c2)/2)
	switch method {
	case Smalian:
		part.volume = length * (a1 + a2) / 2
	case Huber:
		part.volume = length * middle
	case Newton:
		part.volume = length * (a1 + 4*middle + a2) / 6
	}
	return part
}

// frustum returns the volume of a frustum of a cone and its first moment about
// the plane of its lower end.
func frustum(d1, d2, length float64) (volume, moment float64) {
	volume = math.Pi * length / 12 * (d1*d1 + d1*d2 + d2*d2)
	moment = math.Pi * length * length / 48 * (d1*d1 + 2*d1*d2 + 3*d2*d2)
	return volume, moment
}

func disc(diameter float64) float64 { return math.Pi / 4 * diameter * diameter }
