package haul

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/search"
	"elkstay/core/working"
)

// A Sideways pull is one at the middle of a tight line, square to it.
type Sideways struct {
	SpanM        float64 `json:"span_m" minimum:"0.1" maximum:"1000" doc:"Distance between the ends of the line, m"`
	PretensionKn float64 `json:"pretension_kn" minimum:"0" maximum:"5000" doc:"Tension before the pull, kN"`
	StiffnessKn  float64 `json:"stiffness_kn" minimum:"0.1" maximum:"1000000" doc:"EA of the line: tension over strain, kN"`
	SideForceKn  float64 `json:"side_force_kn" minimum:"0.0001" maximum:"5000" doc:"Pull at the middle, kN"`
}

// A Gain is what a sideways pull does.
type Gain struct {
	DeflectionM float64 `json:"deflection_m"`
	TensionKn   float64 `json:"tension_kn"`
	GainKn      float64 `json:"gain_kn" doc:"Tension added"`
	Advantage   float64 `json:"advantage" doc:"Gain over side force"`
	AngleDeg    float64 `json:"angle_deg" doc:"Angle of each half to the straight line"`
}

// tension returns the tension at a deflection of the middle, kN, and the half length.
func (s Sideways) tension(deflection float64) (tension, half float64) {
	half = math.Hypot(s.SpanM/2, deflection)
	unstretched := s.SpanM / (1 + s.PretensionKn/s.StiffnessKn)
	return s.StiffnessKn * (2*half/unstretched - 1), half
}

// Solve finds the deflection at which the line holds the side force: the force
// 2·T·d/l grows with the deflection, so the interval is halved.
func (s Sideways) Solve() Gain {
	force := func(d float64) float64 {
		tension, half := s.tension(d)
		return 2 * tension * d / half
	}
	high := search.Root(100, 0, s.SpanM, func(d float64) float64 { return force(d) - s.SideForceKn })
	tension, _ := s.tension(high)
	gain := tension - s.PretensionKn
	return Gain{
		DeflectionM: high, TensionKn: tension, GainKn: gain, Advantage: gain / s.SideForceKn,
		AngleDeg: math.Atan2(high, s.SpanM/2) * 180 / math.Pi,
	}
}

// Faults has nothing to add to the ranges of the fields.
func (s Sideways) Faults(string) intake.Faults { return nil }

// Working writes the sum behind a gain.
func (s Sideways) Working(g Gain) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const source = "statics of a stretched line, Hooke's law"
	_, half := s.tension(g.DeflectionM)
	sheet.Add("L₀", "length unstretched", fmt.Sprintf("span/(1 + T₀/EA) = %s/(1 + %s/%s)", n(s.SpanM), n(s.PretensionKn), n(s.StiffnessKn)), s.SpanM/(1+s.PretensionKn/s.StiffnessKn), "m", source)
	sheet.Add("d", "deflection of the middle", "the d at which 2·T·d/l is the side force", g.DeflectionM, "m", source)
	sheet.Add("l", "half length", "√((span/2)² + d²)", half, "m", source)
	sheet.Add("T", "tension", fmt.Sprintf("EA·(2·l/L₀ − 1), EA = %s", n(s.StiffnessKn)), g.TensionKn, "kN", source)
	sheet.Add("ΔT", "gain", "T − T₀", g.GainKn, "kN", source)
	sheet.Add("ΔT/F", "advantage", "gain over side force", g.Advantage, "", source)
	return sheet.Steps()
}

// Cautions returns what must stand beside a gain.
func (s Sideways) Cautions(Gain) []string {
	return []string{"The pull falls away as soon as the line gives: take up the slack and the stretch first. Stay out of the bight."}
}
