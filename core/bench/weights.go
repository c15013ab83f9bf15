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

// Table works the table out, or says why it cannot be.
func (r *WeightsRequest) Table() (Weights, error) {
	if faults := r.Wood.Faults("body.wood"); len(faults) > 0 {
		return Weights{}, faults
	}
	density, source := r.Wood.GreenDensity()
	w := Weights{Density: density, Source: source}
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
