package spar

import (
	"fmt"
	"math"
	"slices"

	"elkstay/core/working"
)

// Working writes the sum behind what the stem feels.
func (s *Spar) Working(st Standing) []working.Step {
	var sheet working.Sheet
	const beam = "Euler–Bernoulli beam (Timoshenko; from memory)"
	sum := "Σ horizontal·(at − z) + vertical·offset, of loads at or above"
	if slices.ContainsFunc(s.Loads, func(l Load) bool {
		return math.Abs(l.AcrossKn) > still || math.Abs(l.AcrossOffsetM*l.VerticalKn) > still
	}) {
		sum += ", and likewise across; the two by Pythagoras"
	}
	for _, felt := range st.Stations {
		at := fmt.Sprintf("at %s m", working.Figure(felt.AtM))
		sheet.Add("M", "moment "+at, sum, felt.MomentKnm, "kN·m", "statics")
		sheet.Add("N", "compression "+at, "Σ vertical above + own weight above", felt.AxialKn, "kN", "statics")
		stress := "N/A + |M|·(D/2)/I"
		if share := s.keeps(felt.AtM); share < 1 {
			stress = fmt.Sprintf("(%s) / %s, which its weak wood keeps", stress, working.Figure(share))
		}
		sheet.Add("σ", "stress "+at, stress, felt.StressMpa, "MPa", beam)
	}
	sheet.Add("σ_max", fmt.Sprintf("worst stress, at %s m", working.Figure(st.Worst.AtM)), "searched every 5 cm or closer", st.Worst.StressMpa, "MPa", beam)
	sheet.Add("w", "deflection of the top", "M/(E·I) integrated twice from the foot", st.TopDeflectionM, "m", beam)
	sheet.Add("k", "stiffness at the top", "1/(deflection under 1 kN at the top)", st.Modal.StiffnessKnM, "kN/m", beam)
	sheet.Add("f", "first frequency", "Stodola's iteration, Rayleigh's quotient, loads' masses included", st.FrequencyHz, "Hz", "vibrations (Timoshenko; from memory)")
	sheet.Add("m", "modal mass", "k/(2πf)²", st.Modal.MassKg, "kg", "vibrations (Timoshenko; from memory)")
	return sheet.Steps()
}

// Cautions returns what must stand beside it.
func (s *Spar) Cautions(st Standing) []string {
	cautions := []string{"Lean counts as far as its loads have it; roots and second-order sway do not. Decay and cracks hold less than a round cavity."}
	if top := s.Stations[len(s.Stations)-1].AtM - s.Stations[0].AtM; math.Abs(st.TopDeflectionM) > top/10 {
		cautions = append(cautions, "The stem bends by more than a tenth of its height: small deflections no longer hold.")
	}
	return cautions
}
