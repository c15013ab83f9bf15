package timber

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/working"
)

// A Weighing is one piece as it was planned and as the scale gave it.
type Weighing struct {
	PredictedKg float64 `json:"predicted_kg" exclusiveMinimum:"0" maximum:"1000000" doc:"Mass planned, kg"`
	MeasuredKg  float64 `json:"measured_kg" exclusiveMinimum:"0" maximum:"1000000" doc:"Mass measured, kg"`
}

// WeighIn asks what the scale says of the table: by how much the pieces of this tree
// are heavier or lighter than planned. The logarithm of measured over predicted is
// taken as normal: the tree's own factor, the spread from piece to piece, and the
// scale (Bayes' rule with normal prior and known variances: any text on statistics).
type WeighIn struct {
	CvPct      *float64   `json:"cv_pct,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Spread of the table before any weighing, per cent; default 12"`
	PieceCvPct *float64   `json:"piece_cv_pct,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Spread from piece to piece, per cent; default 8"`
	ScaleCvPct *float64   `json:"scale_cv_pct,omitempty" minimum:"0" maximum:"100" doc:"Error of the scale, per cent; default 2"`
	Weighed    []Weighing `json:"weighed" maxItems:"1000" doc:"Pieces weighed so far"`
}

// Learned is what the weighings say.
type Learned struct {
	Factor     float64 `json:"factor" doc:"By how much planned masses are to be multiplied"`
	CvPct      float64 `json:"cv_pct" doc:"What is left of the spread, per cent"`
	LowFactor  float64 `json:"low_factor" doc:"Low end for the next piece, 5 %"`
	HighFactor float64 `json:"high_factor" doc:"High end for the next piece, 95 %"`
	Outliers   []int   `json:"outliers" nullable:"false" doc:"Weighings set aside, by their place in the list from 0"`
}

func orElse(given *float64, standard float64) float64 {
	if given == nil {
		return standard
	}
	return *given
}

// spreads returns the three spreads as shares: table, piece, scale.
func (w WeighIn) spreads() (table, piece, scale float64) {
	return orElse(w.CvPct, 12) / 100, orElse(w.PieceCvPct, 8) / 100, orElse(w.ScaleCvPct, 2) / 100
}

// aside is how many standard deviations off a weighing is set aside.
const aside = 3

// Learn works out the factor, setting aside one weighing after another that does
// not fit the rest.
func (w WeighIn) Learn() Learned {
	table, piece, scale := w.spreads()
	noise := piece*piece + scale*scale
	ratios := make([]float64, len(w.Weighed))
	kept := make([]bool, len(w.Weighed))
	sum, count := 0.0, 0.0
	for i, weighing := range w.Weighed {
		ratios[i] = math.Log(weighing.MeasuredKg / weighing.PredictedKg)
		kept[i] = true
		sum += ratios[i]
		count++
	}
	posterior := func(sum, count float64) (mean, variance float64) {
		precision := 1/(table*table) + count/noise
		return sum / noise / precision, 1 / precision
	}
	outliers := []int{}
	for {
		worst, worstZ := -1, float64(aside)
		for i := range ratios {
			if !kept[i] {
				continue
			}
			mean, variance := posterior(sum-ratios[i], count-1)
			if z := math.Abs(ratios[i]-mean) / math.Sqrt(variance+noise); z > worstZ {
				worst, worstZ = i, z
			}
		}
		if worst < 0 {
			break
		}
		kept[worst] = false
		sum -= ratios[worst]
		count--
	}
	for i := range kept {
		if !kept[i] {
			outliers = append(outliers, i)
		}
	}
	mean, variance := posterior(sum, count)
	factor, reach := math.Exp(mean), 1.645*math.Sqrt(variance+piece*piece)
	return Learned{
		Factor: factor, CvPct: 100 * math.Sqrt(variance),
		LowFactor: factor * math.Exp(-reach), HighFactor: factor * math.Exp(reach), Outliers: outliers,
	}
}

// Faults has nothing to add to the ranges of the fields.
func (w WeighIn) Faults(string) intake.Faults { return nil }

// Working writes the sum behind the factor.
func (w WeighIn) Working(l Learned) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const bayes = "Bayes' rule, normal prior and known variances"
	table, piece, scale := w.spreads()
	set := map[int]bool{}
	for _, i := range l.Outliers {
		set[i] = true
	}
	for i, weighing := range w.Weighed {
		label := "log ratio of a weighing"
		if set[i] {
			label = "log ratio of a weighing, set aside"
		}
		sheet.Add(fmt.Sprintf("y%d", i+1), label, fmt.Sprintf("ln(%s/%s)", n(weighing.MeasuredKg), n(weighing.PredictedKg)), math.Log(weighing.MeasuredKg/weighing.PredictedKg), "", "the scale")
	}
	sheet.Add("s²", "spread of one weighing", fmt.Sprintf("%s² + %s²", n(piece), n(scale)), piece*piece+scale*scale, "", working.Common)
	sheet.Add("f", "factor", fmt.Sprintf("exp((Σy/s²)/(1/%s² + N/s²)), N kept", n(table)), l.Factor, "", bayes)
	sheet.Add("cv", "spread left", "100/√(1/cv₀² + N/s²)", l.CvPct, "%", bayes)
	sheet.Add("f_low", "low end for the next piece", "f·exp(−1.645·√(cv² + piece²))", l.LowFactor, "", bayes)
	sheet.Add("f_high", "high end for the next piece", "f·exp(+1.645·√(cv² + piece²))", l.HighFactor, "", bayes)
	return sheet.Steps()
}

// Cautions returns what must stand beside the factor.
func (w WeighIn) Cautions(l Learned) []string {
	cautions := []string{}
	if len(l.Outliers) > 0 {
		cautions = append(cautions, fmt.Sprintf("Weighings that do not fit the rest are left out (%d): read the scale and the cut again.", len(l.Outliers)))
	}
	if l.Factor < 0.85 {
		cautions = append(cautions, "Later pieces will be planned lighter than the table: make sure of the weighings before you trust that.")
	}
	if len(w.Weighed) == 0 {
		cautions = append(cautions, "Nothing has been weighed: this is the table's own spread.")
	}
	return cautions
}
