package timber

import (
	"fmt"
	"slices"

	"elkstay/core/units"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// How the steps of a weight are cited.
const (
	SolidGeometry = "solid geometry: hollow frustum of a cone"
	mensuration   = "forest mensuration (Husch, Beers & Kershaw, ch. 6; from memory)"
	statics       = "statics"
	spreadSource  = "natural spread ±10 %: " + working.Common
)

// Cautions returns what must stand beside the weight of the piece between two
// heights of a stem of the given wood.
func (s Stem) Cautions(w wood.Wood, lower, upper float64) []string {
	cautions := []string{}
	if w.Species != "" {
		cautions = append(cautions, "The density is a table figure written down from memory: trust a scale before it.")
	}
	_, below := s.DiameterAt(lower)
	_, above := s.DiameterAt(upper)
	inside := func(station Station) bool { return station.AtM > lower && station.AtM < upper && station.CavityM > 0 }
	if below > 0 || above > 0 || slices.ContainsFunc(s.Stations, inside) {
		cautions = append(cautions, "The cavity is taken as round and true to the readings: decay rarely is. Hollow wood weighs less and holds less.")
	}
	return cautions
}

// Working writes the sum behind the weight of the piece between two heights of
// the stem. densitySource says where the density (kg/m³) comes from.
func (s Stem) Working(lower, upper float64, density wood.Range, densitySource string, method Method) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	weight := s.WeighBetween(lower, upper, density, method)
	solid := s.WeighBetween(lower, upper, density, Frustum)
	wooden := Stem{Stations: s.Stations}.WeighBetween(lower, upper, density, Frustum)
	sheet.Add("L", "length of the piece", fmt.Sprintf("%s − %s", n(upper), n(lower)), weight.LengthM, "m", "tape")
	formula, formulaSource := method.Formula(), mensuration
	if method == "" || method == Frustum {
		formulaSource = SolidGeometry
	}
	part := 0
	for i := 1; i < len(s.Stations); i++ {
		from, to := max(lower, s.Stations[i-1].AtM), min(upper, s.Stations[i].AtM)
		if to <= from {
			continue
		}
		part++
		d1, c1 := s.DiameterAt(from)
		d2, c2 := s.DiameterAt(to)
		expression := fmt.Sprintf("%s with L = %s, D₁ = %s, D₂ = %s", formula, n(to-from), n(d1), n(d2))
		if c1 > 0 || c2 > 0 {
			expression += fmt.Sprintf(", less the same of the cavity, %s to %s", n(c1), n(c2))
		}
		volume := s.WeighBetween(from, to, density, method).VolumeM3
		sheet.Add(fmt.Sprintf("V%d", part), fmt.Sprintf("volume from %s m to %s m", n(from), n(to)), expression, volume, "m³", formulaSource)
		bare := Stem{Stations: s.Stations}
		sheet.Add(fmt.Sprintf("z%d", part), "its centroid", "L/4·(D₁²+2·D₁·D₂+3·D₂²)/(D₁²+D₁·D₂+D₂²) above its lower end, cavity taken out", bare.WeighBetween(from, to, density, Frustum).CogM, "m", SolidGeometry)
	}
	sheet.Add("V", "volume of the piece", "sum of the parts", weight.VolumeM3, "m³", formulaSource)
	sheet.Add("ρ", "green density, likely", densitySource, density.Likely, "kg/m³", densitySource)
	lumps := weight.MassKg.Likely - weight.VolumeM3*density.Likely
	extra := ""
	if lumps > 1e-9 {
		sheet.Add("a", "attached: brush, ivy, hardware", "sum of the lumps that ride with the piece", lumps, "kg", "as given")
		extra = " + a"
	}
	sheet.Add("m_low", "mass, low end", fmt.Sprintf("V·%s%s", n(density.Low), extra), weight.MassKg.Low, "kg", spreadSource)
	sheet.Add("m", "mass, likely", fmt.Sprintf("V·%s%s", n(density.Likely), extra), weight.MassKg.Likely, "kg", densitySource)
	sheet.Add("m_high", "mass, high end", fmt.Sprintf("V·%s%s", n(density.High), extra), weight.MassKg.High, "kg", spreadSource)
	sheet.Add("W", "weight, high end", fmt.Sprintf("m_high·%s/1000", n(units.Gravity)), weight.WeightKn().High, "kN", units.GravitySource)
	sheet.Add("z_w", "centre of gravity of the wood", "Σ V·z / Σ V, frustum volumes", wooden.CogM, "m", SolidGeometry)
	if lumps > 1e-9 {
		sheet.Add("z", "centre of gravity, attached included", "(V·ρ·z_w + Σ a·z_a) / m", weight.CogM, "m", statics)
	}
	sheet.Add("I", "moment of inertia about the centre of gravity", "Σ mᵢ·(Lᵢ²/12 + D̄ᵢ²/16 + dᵢ²), lumps as points", weight.InertiaKgM2, "kg·m²", statics)
	if method != "" && method != Frustum {
		sheet.Add("V_f", "volume by frustums, beside it", Frustum.Formula(), solid.VolumeM3, "m³", SolidGeometry)
	}
	return sheet.Steps()
}
