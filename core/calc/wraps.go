package calc

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/line"
	"elkstay/core/working"
)

// WrapsRequest is the request of kind wraps: hand_kn or wraps, one of the two.
type WrapsRequest struct {
	LineKn   float64  `json:"line_kn" exclusiveMinimum:"0" maximum:"5000" doc:"Tension of the line on the device, kN"`
	HandKn   *float64 `json:"hand_kn,omitempty" minimum:"0.0001" maximum:"5000" doc:"What the hand holds, kN: asks for the turns"`
	Wraps    *float64 `json:"wraps,omitempty" minimum:"0" maximum:"50" doc:"Turns on the device: asks for the hand"`
	Friction float64  `json:"friction" minimum:"0.01" maximum:"1.5" doc:"Coefficient of friction of rope on device"`
	Drum     *Drum    `json:"drum,omitempty" doc:"What the turns go round; with rope_mm"`
	RopeMm   *float64 `json:"rope_mm,omitempty" minimum:"1" maximum:"100" doc:"Diameter of the rope, mm; with drum"`
}

// Drum is what turns go round.
type Drum struct {
	LengthM   float64 `json:"length_m" exclusiveMinimum:"0" maximum:"5" doc:"Room for turns along it, m"`
	DiameterM float64 `json:"diameter_m" exclusiveMinimum:"0" maximum:"5" doc:"Diameter, m"`
}

// TurnsApart is how much room a turn takes, in diameters of the rope.
const TurnsApart = 1.05

// WrapsAnswer is the answer of kind wraps. Turns asked for: wraps and angle_deg.
// Hand asked for: hand_kn and ratio.
type WrapsAnswer struct {
	Wraps    *float64 `json:"wraps,omitempty" doc:"Turns needed"`
	AngleDeg *float64 `json:"angle_deg,omitempty" doc:"The same as an angle of contact"`
	HandKn   *float64 `json:"hand_kn,omitempty" doc:"Tension left for the hand, kN"`
	Ratio    *float64 `json:"ratio,omitempty" doc:"Hand over line"`

	LowerFriction              float64  `json:"lower_friction" doc:"The stated friction less a quarter"`
	HandAtLowerFrictionKn      float64  `json:"hand_at_lower_friction_kn" doc:"What the hand would have to hold at the lower friction with the same turns, kN"`
	HalfWrapFactor             float64  `json:"half_wrap_factor" doc:"How many times more or less half a turn holds: e^(πμ)"`
	WrapsNeededAtLowerFriction *float64 `json:"wraps_at_lower_friction,omitempty" doc:"Turns needed at the lower friction"`

	WrapsFit  *int     `json:"wraps_fit,omitempty" doc:"Turns of this rope that the drum has room for"`
	BendRatio *float64 `json:"bend_ratio,omitempty" doc:"Drum's diameter over the rope's"`
	Beside
}

func checkWraps(r *WrapsRequest) (faults intake.Faults) {
	const allowed = "hand_kn or wraps; one of the two"
	switch {
	case r.HandKn == nil && r.Wraps == nil:
		faults.Add("body.hand_kn", nil, allowed, "neither hand_kn nor wraps is given")
	case r.HandKn != nil && r.Wraps != nil:
		faults.Add("body.wraps", *r.Wraps, allowed, "both hand_kn and wraps are given; give one")
	}
	if (r.Drum == nil) != (r.RopeMm == nil) {
		given, missing := "drum", "rope_mm"
		if r.Drum == nil {
			given, missing = missing, given
		}
		faults.Add("body."+missing, nil, "drum and rope_mm together", "%s is given without %s", given, missing)
	}
	return faults
}

// Wraps answers how many turns hold a line, or what is left for the hand.
func Wraps(r *WrapsRequest) WrapsAnswer {
	n := working.Figure
	var sheet working.Sheet
	low := r.Friction * line.LowerFriction
	answer := WrapsAnswer{LowerFriction: low, HalfWrapFactor: math.Exp(math.Pi * r.Friction)}
	sheet.Add("T", "tension of the line", "as given", r.LineKn, "kN", "as given")
	var turns float64
	if r.HandKn != nil {
		turns = line.WrapsFor(r.LineKn, *r.HandKn, r.Friction)
		angle, more := turns*360, line.WrapsFor(r.LineKn, *r.HandKn, low)
		answer.Wraps, answer.AngleDeg, answer.WrapsNeededAtLowerFriction = &turns, &angle, &more
		sheet.Add("H", "what the hand holds", "as given", *r.HandKn, "kN", "as given")
		expression := fmt.Sprintf("ln(%s/%s)/(2π·%s)", n(r.LineKn), n(*r.HandKn), n(r.Friction))
		if turns == 0 {
			expression = "the hand alone holds the line: no turn needed"
		}
		sheet.Add("n", "turns needed", expression, turns, "turns", line.Capstan)
		sheet.Add("n_low", "turns needed at the lower friction", fmt.Sprintf("ln(T/H)/(2π·%s)", n(low)), more, "turns", line.Capstan)
	} else {
		turns = *r.Wraps
		hand := line.HandFor(r.LineKn, turns, r.Friction)
		ratio := hand / r.LineKn
		answer.HandKn, answer.Ratio = &hand, &ratio
		sheet.Add("n", "turns", "as given", turns, "turns", "as given")
		sheet.Add("H", "tension left for the hand", fmt.Sprintf("%s·e^(−2π·%s·%s)", n(r.LineKn), n(r.Friction), n(turns)), hand, "kN", line.Capstan)
		sheet.Add("H/T", "hand over line", "H/T", ratio, "", line.Capstan)
	}
	answer.HandAtLowerFrictionKn = line.HandFor(r.LineKn, turns, low)
	sheet.Add("H_low", "hand at the lower friction, same turns", fmt.Sprintf("%s·e^(−2π·%s·n)", n(r.LineKn), n(low)), answer.HandAtLowerFrictionKn, "kN", "lower friction: "+working.Common)
	sheet.Add("e^(πμ)", "what half a turn changes", fmt.Sprintf("e^(π·%s)", n(r.Friction)), answer.HalfWrapFactor, "", line.Capstan)
	answer.Cautions = line.Cautions(r.Friction, answer.HandAtLowerFrictionKn)
	if r.Drum != nil {
		rope := *r.RopeMm / 1000
		fit, ratio := int(math.Floor(r.Drum.LengthM/(TurnsApart*rope)+1e-9)), r.Drum.DiameterM/rope
		answer.WrapsFit, answer.BendRatio = &fit, &ratio
		sheet.Add("n_fit", "turns that fit", fmt.Sprintf("⌊%s/(%g·%s)⌋", n(r.Drum.LengthM), TurnsApart, n(rope)), float64(fit), "turns", "geometry; room for a turn: "+working.Common)
		sheet.Add("D/d", "drum over rope", fmt.Sprintf("%s/%s", n(r.Drum.DiameterM), n(rope)), ratio, "", "geometry")
		if turns > float64(fit) {
			left := line.HandFor(r.LineKn, float64(fit), r.Friction)
			answer.Cautions = append(answer.Cautions, fmt.Sprintf("This rope is too thick for this drum: %d turns fit, and they leave %.3g kN for the hand.", fit, left))
		}
	}
	answer.Working = sheet.Steps()
	return answer
}
