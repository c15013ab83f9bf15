package propose

import (
	"slices"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/units"
)

// fells proposes to fell what is left of every tree where a bearing is open, its top first where only
// that opens one; what cannot be felled comes down in pieces.
func fells(document *job.Job, rig string, o assess.Options) Proposal {
	out := Proposal{Picks: []Proposed{}}
	// What is planned is taken as down.
	down := *document
	down.Picks = slices.Clone(document.Picks)
	for i := range down.Picks {
		down.Picks[i].Done = true
	}
	whole, err := Trees(&down, "", o)
	if err != nil || len(whole.Order) == 0 {
		out.State = whole.Said
		return out
	}
	trial := *document
	trial.Picks = slices.Clone(document.Picks)
	reasons := map[string]string{}
	pieced := map[int]bool{}
	for _, step := range whole.Order {
		if len(step.Picks) == 0 {
			pieced[document.TreeIndex(step.Tree)] = true
		}
		for i, p := range step.Picks {
			trial.Picks = append(trial.Picks, p)
			reasons[p.ID] = step.Reason
			if i > 0 {
				reasons[p.ID] = "Then the rest of it."
			}
		}
	}
	o.Pick = ""
	a := assess.Assess(&trial, o)
	for i := len(document.Picks); i < len(trial.Picks); i++ {
		f := &a.Picks[i]
		one := Proposed{Pick: trial.Picks[i], Title: f.Title, Reason: reasons[f.ID], Verdict: f.Verdict}
		if f.MassKg != nil {
			one.MassKg = units.Print(units.Mass, o.Units, f.MassKg.Likely)
		}
		out.Picks = append(out.Picks, one)
	}
	if len(pieced) > 0 {
		rest := Order(&trial, ByUp, rig, o)
		for _, one := range rest.Picks {
			if pieced[document.TreeIndex(one.Pick.Tree)] {
				out.Picks = append(out.Picks, one)
			}
		}
	}
	out.Ending = whole.Said
	out.finish()
	return out
}
