package assess

import (
	"fmt"

	"elkstay/core/course"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/timber"
)

// Prepare readies a job for sums. The forest is nil while too little is known of every
// tree or the readings contradict each other; the assessment then says what is wrong.
func Prepare(document *job.Job, o *Options) (*Forest, Assessment) {
	document, gear := policy.Resolve(document, &o.Crew)
	limits := policy.LimitsOf(document, &o.Crew.Policy)
	a := Assessment{
		Verdict: policy.Within, Missing: []Missing{}, Doubts: []Doubt{}, Faults: intake.Faults{}, Cautions: []string{}, Trees: make([]TreeFigures, len(document.Trees)),
		Picks: make([]PickFigures, 0, len(document.Picks)), Gear: []GearUse{}, GearStandings: []policy.GearStanding{}, Ropes: []RopeNeed{}, Learned: []Learned{},
		Defaulted: document.Defaulted(), Limits: limits,
	}
	a.Faults.Join(document.Faults())
	if len(a.Faults) == 0 {
		a.Doubts = doubts(document, o.Units)
	}
	a.Faults.Join(gear.Faults)
	site := space.NewSite(document, o.Units)
	f := &Forest{Scene: &course.Scene{Site: site, Limits: limits, Gear: gear, Gone: o.Gone}, Surveys: make([]*Survey, len(document.Trees))}
	f.Forbids = func(made course.Made) string { return f.forbids(made, nil) }
	measured := false
	for i := range document.Trees {
		tree := &document.Trees[i]
		stem := tree.Stem()
		one := TreeFigures{ID: tree.ID, Title: tree.Title(), Stem: []timber.Station{}, Shape: Shape{Stem: [][4]float64{}, Limbs: []LimbShape{}}, Defects: defectFigures(tree, o.Units), Shells: shells(&stem, o.Units)}
		at, of := fmt.Sprintf("trees[%d].", i), ""
		if len(document.Trees) > 1 {
			of = " of " + tree.Title()
		}
		complete := true
		if !tree.Wood.Given() {
			a.Missing, complete = append(a.Missing, Missing{at + "wood", fmt.Sprintf("Choose the species%s.", of)}), false
		}
		if len(stem.Stations) < 2 {
			a.Missing, complete = append(a.Missing, Missing{at + "readings", fmt.Sprintf("Give a tape reading or two and the height of the stem%s.", of)}), false
		}
		if len(a.Faults) == 0 {
			one.Stem = append(one.Stem, stem.Stations...)
			if complete {
				f.Surveys[i], measured = &Survey{f, site.AddTree(i, stem)}, true
				one.Shape = shapeOf(f.Surveys[i].Tree)
			}
		}
		a.Trees[i] = one
	}
	if !measured {
		a.Verdict = policy.NotKnown
		return nil, a
	}
	if len(document.Picks) == 0 {
		a.Missing = append(a.Missing, Missing{"picks", "Add a pick, or fill the order."})
	}
	return f, a
}

// left is what stands of every tree; nil: not measured yet.
func left(all space.Stand) []*Left {
	list := make([]*Left, len(all))
	for i, s := range all {
		if s != nil {
			list[i] = &Left{s.Top, append([]float64{}, s.Tips...)}
		}
	}
	return list
}
