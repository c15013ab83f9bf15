package brief

import (
	"fmt"
	"strings"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/sight"
	"elkstay/core/units"
)

// cards are one for every felling that can be worked out, in the order of the picks.
func cards(document *job.Job, a *assess.Assessment, o assess.Options) []Card {
	list := []Card{}
	for i := range a.Picks {
		f := &a.Picks[i]
		if f.Way != job.WayFelled || f.Done {
			continue
		}
		o.Pick = f.ID
		full := assess.Assess(document, o)
		if full.Detail == nil || full.Detail.Fell == nil {
			continue
		}
		list = append(list, card(f, full.Detail, o.Units))
	}
	return list
}

func card(f *assess.PickFigures, d *assess.Detail, system units.System) Card {
	fell := d.Fell
	far := units.Print(units.Height, system, fell.FarthestM)
	one := Card{
		Number: f.Number, ID: f.ID, Title: f.Title, Verdict: f.Verdict, Falls: fmt.Sprintf("to %s, %.0f°; its tip may come %s out", sight.Wind(f.FallTowardsDeg), f.FallTowardsDeg, far),
		Steps: fell.Steps, Measures: []Measure{}, Lines: []CardLine{}, Plans: []string{}, Schools: []string{}, Cautions: d.Cautions, Call: f.Call, Fell: fell,
	}
	if d.Balance != nil {
		one.Balance = d.Balance.Said
	}
	measure := func(name string, m float64) {
		one.Measures = append(one.Measures, Measure{name, units.Print(units.Diameter, units.Metric, m), units.Print(units.Diameter, units.US, m)})
	}
	measure("stump, through", fell.DiameterM)
	measure("face, deep", fell.FaceDepthM)
	measure("face, open at the bark", fell.MouthM)
	measure("hinge at its left", fell.LeftM)
	measure("hinge at its right", fell.RightM)
	measure("hinge, wide", fell.Hinge.ChordM)
	if fell.Hinge.HoleM > 0 {
		measure("bored or hollow", fell.Hinge.HoleM)
	}
	if fell.StrapM != nil {
		measure("strap at the back", *fell.StrapM)
	}
	measure("back cut, at the most", fell.BackCutM)
	measure("back cut, up", fell.BackUpM)
	for _, p := range d.Pulls {
		name := "Pulls, to " + p.Name
		if p.Holds {
			name = "Holds, to " + p.Name
		}
		legs := make([]string, len(p.LegKn))
		for i, kn := range p.LegKn {
			legs[i] = units.Print(units.Force, system, kn)
		}
		one.Lines = append(one.Lines, CardLine{name, units.Print(units.Force, system, p.NeedKn), strings.Join(legs, " → "), p.Said})
	}
	for _, plan := range fell.Plans {
		one.Plans = append(one.Plans, fmt.Sprintf("%s (%s): %s", plan.Title, plan.Verdict, plan.Said))
	}
	for _, school := range fell.Schools {
		one.Schools = append(one.Schools, school.Title+": "+school.Said)
	}
	return one
}
