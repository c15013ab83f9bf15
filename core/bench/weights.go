package bench

import (
	"fmt"

	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// A WeightsRequest asks for a table of what logs of one wood weigh.
type WeightsRequest struct {
	Wood     wood.Wood    `json:"wood"`
	Units    units.System `json:"units,omitempty" enum:"metric,us" doc:"Round diameters and lengths of this system; default metric"`
	TaperMPM float64      `json:"taper_m_per_m,omitempty" minimum:"0" maximum:"0.1" doc:"How much thinner a log gets along its length, m of diameter for each metre; default 0, a pole"`
	LimitKg  *float64     `json:"limit_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"What may be held, kg: heavier logs are marked"`
	Taught   *Taught      `json:"taught,omitempty" doc:"What the scale taught of this wood; absent: nothing"`
}

// Taught is what weighings of stems of a wood say of the next one.
type Taught struct {
	By         string  `json:"by" minLength:"1" maxLength:"120" doc:"The job they were weighed in"`
	Weighed    int     `json:"weighed" minimum:"1" maximum:"100000"`
	Factor     float64 `json:"factor" minimum:"0.05" maximum:"20" doc:"Likely, over the table's likely"`
	HighFactor float64 `json:"high_factor" minimum:"0.05" maximum:"20" doc:"Heavy end of the next piece, over the table's likely"`
}

// A WeightsRow is the logs of one diameter.
type WeightsRow struct {
	DiameterM float64      `json:"diameter_m" doc:"At the thick end, m"`
	Kg        []wood.Range `json:"kg" nullable:"false" doc:"One for each length"`
	Over      []bool       `json:"over" nullable:"false" doc:"Heavier, at its heavy end, than the limit"`
}

// A Weights is a table of what logs weigh.
type Weights struct {
	Species  string       `json:"species" doc:"Empty: of a density of one's own"`
	Density  wood.Range   `json:"density_kg_m3"`
	Source   string       `json:"source"`
	LengthsM []float64    `json:"lengths_m" nullable:"false"`
	Rows     []WeightsRow `json:"rows" nullable:"false"`
	Said     string       `json:"said"`
	Taught   string       `json:"taught" doc:"What the scale did to the figures; empty: nothing was weighed"`
	Raised   bool         `json:"raised" doc:"The scale made them heavier"`
}

// The diameters and lengths that a crew asks for, in centimetres and metres, or inches and feet.
var (
	metricDiameters = []float64{10, 15, 20, 25, 30, 35, 40, 45, 50, 55, 60, 65, 70, 80, 90, 100}
	metricLengths   = []float64{0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 6}
	usDiameters     = []float64{4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 32, 36, 40}
	usLengths       = []float64{1, 2, 3, 4, 6, 8, 10, 12, 16}
)

// WeightTable works a table out.
func WeightTable(document []byte) (Weights, error) {
	var r WeightsRequest
	if err := intake.Decode(document, &r); err != nil {
		return Weights{}, err
	}
	return r.Table()
}

// learn makes a table as heavy as the scale taught, where that is heavier: one tree that weighs less
// than the table says nothing of the next.
func (w *Weights) learn(t *Taught) {
	if t == nil {
		return
	}
	weighings := "one weighing"
	if t.Weighed > 1 {
		weighings = fmt.Sprintf("%d weighings", t.Weighed)
	}
	taught := w.Density.Likely * t.HighFactor
	if taught <= w.Density.High {
		w.Taught = fmt.Sprintf("The scale (%s, %s) taught nothing heavier: %.2g times what is likely, %.2g at the heavy end. The table stands, as another tree may weigh what it says.", weighings, t.By, t.Factor, t.HighFactor)
		return
	}
	w.Raised = true
	w.Taught = fmt.Sprintf("Raised by %.0f %% for what the scale taught: %s, %s.", 100*(taught/w.Density.High-1), weighings, t.By)
	w.Density.Likely = max(w.Density.Likely, w.Density.Likely*t.Factor)
	w.Density.High = taught
}

// Table works the table out, or says why it cannot be.
func (r *WeightsRequest) Table() (Weights, error) {
	if faults := r.Wood.Faults("body.wood"); len(faults) > 0 {
		return Weights{}, faults
	}
	if t := r.Taught; t != nil && t.HighFactor < t.Factor {
		var faults intake.Faults
		faults.Add("body.taught.high_factor", t.HighFactor, fmt.Sprintf("at least %g", t.Factor), "the heavy end of what the scale taught (%g) is under its likely one (%g)", t.HighFactor, t.Factor)
		return Weights{}, faults
	}
	density, source := r.Wood.GreenDensity()
	w := Weights{Density: density, Source: source}
	w.learn(r.Taught)
	density = w.Density
	if species, known := wood.Find(r.Wood.Species); known {
		w.Species = species.CommonName
	}
	diameters, lengths := metricDiameters, metricLengths
	if r.Units == units.US {
		diameters, lengths = usDiameters, usLengths
	}
	thick, long := units.UnitFor(units.Diameter, r.Units).Factor, units.UnitFor(units.Height, r.Units).Factor
	for _, l := range lengths {
		w.LengthsM = append(w.LengthsM, l*long)
	}
	for _, d := range diameters {
		row := WeightsRow{DiameterM: d * thick}
		for _, l := range w.LengthsM {
			// A log does not run out to less than a third of its thick end.
			thin := max(row.DiameterM/3, row.DiameterM-r.TaperMPM*l)
			log := timber.Stem{Stations: []timber.Station{{AtM: 0, DiameterM: row.DiameterM}, {AtM: l, DiameterM: thin}}}
			kg := log.Weigh(density, timber.Frustum).MassKg
			row.Kg = append(row.Kg, kg)
			row.Over = append(row.Over, r.LimitKg != nil && kg.High > *r.LimitKg)
		}
		w.Rows = append(w.Rows, row)
	}
	shape := "poles, as thick at both ends"
	if r.TaperMPM > 0 {
		shape = fmt.Sprintf("logs that get %.3g cm thinner each metre", 100*r.TaperMPM)
	}
	w.Said = fmt.Sprintf("Heavy end of the range, for %s, over bark, without brush. %s.", shape, source)
	return w, nil
}
