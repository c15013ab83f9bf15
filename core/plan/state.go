package plan

import (
	"fmt"
	"strings"

	"elkstay/core/intake"
	"elkstay/core/units"
)

// stateWithout says what an unfinished job still needs.
func stateWithout(a *Assessment) string {
	if len(a.Faults) > 0 {
		return "The measurements contradict each other: " + a.Faults[0].Message + "."
	}
	return a.Missing[0].Ask
}

// state says the whole job in a sentence: numbers first.
func (v *survey) state(a *Assessment) string {
	if len(a.Picks) == 0 {
		return "Nothing is planned yet. Add a pick, or fill the order."
	}
	parts := []string{picks(len(a.Picks))}
	if h := a.Heaviest; h != nil {
		kg := func(m float64) string { return units.Print(units.Mass, v.system, m) }
		parts = append(parts, fmt.Sprintf("heaviest %s (%s–%s)", kg(h.MassKg.Likely), units.Figure(units.Mass, v.system, h.MassKg.Low), units.Figure(units.Mass, v.system, h.MassKg.High)))
	}
	if n := a.Nearest; n != nil {
		parts = append(parts, fmt.Sprintf("nearest limit: %s at pick %d, %.0f %%", n.Part, n.Pick, n.UsePct))
	} else {
		parts = append(parts, "no limit is known")
	}
	impossible, over, open := 0, 0, 0
	for i := range a.Picks {
		switch p := &a.Picks[i]; {
		case len(p.Faults) > 0:
			impossible++
		case p.Verdict == Over:
			over++
		case p.Verdict == NotKnown:
			open++
		}
	}
	if impossible > 0 {
		parts = append(parts, picks(impossible)+" cannot happen in this order")
	}
	if over > 0 {
		parts = append(parts, picks(over)+" over a limit")
	}
	if open > 0 {
		parts = append(parts, picks(open)+" with a limit not known")
	}
	return strings.Join(parts, " · ")
}

func picks(n int) string {
	if n == 1 {
		return "1 pick"
	}
	return fmt.Sprintf("%d picks", n)
}

// rigFaults names what contradicts itself in the rigs.
func (j *Job) rigFaults() (faults intake.Faults) {
	for i := range j.Rigs {
		r := &j.Rigs[i]
		at := fmt.Sprintf("body.rigs[%d]", i)
		if r.Rope != nil {
			faults = append(faults, r.Rope.Faults(at+".rope")...)
		}
		for k := range r.Redirects {
			if d := &r.Redirects[k]; (d.Efficiency == nil) == (d.Friction == nil) {
				faults.Add(fmt.Sprintf("%s.redirects[%d].efficiency", at, k), d.Efficiency, "an efficiency (a pulley) or a friction (a fork, a ring), one of the two",
					"%s has neither an efficiency nor a friction, or both", d.Name)
			}
		}
	}
	return faults
}
