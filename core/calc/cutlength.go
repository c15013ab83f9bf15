package calc

import (
	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// CutLengthRequest is the request of kind cut-length.
type CutLengthRequest struct {
	Wood wood.Wood `json:"wood"`
	timber.Stem
	From    timber.End `json:"from" enum:"top,bottom" doc:"The end of the stem the piece is taken from"`
	LimitKg float64    `json:"limit_kg" exclusiveMinimum:"0" maximum:"1000000" doc:"Mass the piece may not pass, kg"`
	Use     string     `json:"use,omitempty" enum:"high,likely" doc:"Which end of the estimate counts; default high"`
}

// CutLengthAnswer is the answer of kind cut-length.
type CutLengthAnswer struct {
	LengthM float64    `json:"length_m" doc:"Longest piece within the limit, floored to 1 mm"`
	CutAtM  float64    `json:"cut_at_m" doc:"Where the cut lies, on the axis of at_m"`
	MassKg  wood.Range `json:"mass_kg"`
	Whole   bool       `json:"whole" doc:"The whole stem is within the limit"`
	Beside
}

func checkCutLength(r *CutLengthRequest) intake.Faults {
	return append(r.Wood.Faults("body.wood"), r.Faults("body")...)
}

// CutLength answers how long a piece may be.
func CutLength(r *CutLengthRequest) CutLengthAnswer {
	density, source := r.Wood.GreenDensity()
	length, whole := r.LongestWithin(r.From, r.LimitKg, density, r.Use != "likely")
	lower, upper := r.Piece(r.From, length)
	answer := CutLengthAnswer{LengthM: length, CutAtM: lower, Whole: whole, Beside: Beside{Cautions: r.Cautions(r.Wood, lower, upper)}}
	if r.From == timber.FromBottom {
		answer.CutAtM = upper
	}
	var sheet working.Sheet
	sheet.Add("m_max", "limit on the mass", "as given, at the "+r.end()+" end of the estimate", r.LimitKg, "kg", "as given")
	if length == 0 {
		answer.Cautions = append(answer.Cautions, "Not even the shortest piece is within the limit: what is attached at that end weighs more.")
	} else {
		answer.MassKg = r.WeighBetween(lower, upper, density, timber.Frustum).MassKg
		sheet.Append(r.Working(lower, upper, density, source, timber.Frustum))
	}
	expression := "longest L, in whole millimetres, with a mass at or below m_max (the mass grows with the length)"
	if whole {
		expression = "the whole stem is at or below m_max"
	}
	sheet.Add("L_max", "longest piece within the limit", expression, length, "m", timber.SolidGeometry)
	answer.Working = sheet.Steps()
	return answer
}

func (r *CutLengthRequest) end() string {
	if r.Use == "likely" {
		return "likely"
	}
	return "high"
}
