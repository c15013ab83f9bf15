package assess

import (
	"fmt"
	"strings"

	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// StateWithout says what an unfinished job still needs.
func StateWithout(a *Assessment) string {
	if len(a.Faults) > 0 {
		return "The measurements contradict each other: " + a.Faults[0].Message + "."
	}
	return a.Missing[0].Ask
}

// state says the whole job in a sentence: numbers first.
func (f *Forest) state(a *Assessment) string {
	if len(a.Picks) == 0 {
		return "Nothing is planned yet. Add a pick, or fill the order."
	}
	parts := []string{CountPicks(len(a.Picks))}
	if h := a.Heaviest; h != nil {
		kg := func(m float64) string { return units.Print(units.Mass, f.System, m) }
		parts = append(parts, fmt.Sprintf("heaviest %s (%s–%s)", kg(h.MassKg.Likely), units.Figure(units.Mass, f.System, h.MassKg.Low), units.Figure(units.Mass, f.System, h.MassKg.High)))
	}
	// The gravest by name; how near a limit is only where nothing is graver.
	switch g, n := a.Gravest, a.Nearest; {
	case g != nil && g.Said != "" && g.Verdict != policy.Within && g.Verdict != policy.Close:
		parts = append(parts, fmt.Sprintf("pick %d: %s", g.Pick, g.Said))
	case n != nil:
		parts = append(parts, fmt.Sprintf("nearest limit: %s at pick %d, %.0f %%", n.Part, n.Pick, n.UsePct))
	default:
		parts = append(parts, "no limit is known")
	}
	impossible, loose, over, open := 0, 0, 0, 0
	for i := range a.Picks {
		switch p := &a.Picks[i]; {
		case len(p.Faults) > 0:
			impossible++
		case p.Verdict == policy.NotHeld:
			loose++
		case p.Verdict == policy.Over:
			over++
		case p.Verdict == policy.NotKnown:
			open++
		}
	}
	if impossible > 0 {
		parts = append(parts, CountPicks(impossible)+" cannot happen in this order")
	}
	if loose > 0 {
		parts = append(parts, CountPicks(loose)+" not held")
	}
	if over > 0 {
		parts = append(parts, CountPicks(over)+" over a limit")
	}
	if open > 0 {
		parts = append(parts, CountPicks(open)+" with a limit not known")
	}
	return strings.Join(parts, " · ")
}

// CountPicks says a number of picks in words.
func CountPicks(n int) string {
	if n == 1 {
		return "1 pick"
	}
	return fmt.Sprintf("%d picks", n)
}

// A Stage is how far the work of a job is.
type Stage string

// The stages of a job.
const (
	ToSurvey Stage = "to be surveyed" // something is still to be measured
	Surveyed Stage = "surveyed"       // and nothing is planned
	Planned  Stage = "planned"
	Begun    Stage = "begun"
	Finished Stage = "done"
)

// stage says how far a job is, and how many of its picks are down.
func stage(j *job.Job, measured bool) (is Stage, down int) {
	for i := range j.Picks {
		if j.Picks[i].Done {
			down++
		}
	}
	switch {
	case !measured:
		return ToSurvey, down
	case len(j.Picks) == 0:
		return Surveyed, down
	case down == 0:
		return Planned, down
	case down < len(j.Picks):
		return Begun, down
	}
	return Finished, down
}
