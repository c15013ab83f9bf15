package plan

import (
	"fmt"

	"elkstay/core/units"
)

// stateWithout says what an unfinished job still needs.
func stateWithout(a *Assessment) string {
	if len(a.Faults) > 0 {
		return "The readings contradict each other: " + a.Faults[0].Message + "."
	}
	return a.Missing[0].Ask
}

func stateOfPiece(p *PieceFigures, system units.System) string {
	return fmt.Sprintf("%s piece, %s (%s to %s).",
		units.Print(units.Height, system, p.LengthM), units.Print(units.Mass, system, p.MassKg.Likely),
		units.Print(units.Mass, system, p.MassKg.Low), units.Print(units.Mass, system, p.MassKg.High))
}

// stateOfCatch says what to call and what it comes to: numbers first.
func stateOfCatch(a *Assessment, system units.System) string {
	peak := ""
	for _, rung := range a.Ladder {
		if rung.Part == partLine {
			peak = units.Print(units.Force, system, *rung.PeakKn)
		}
	}
	var call string
	switch {
	case !a.Catch.Holds:
		call = "It is never stopped: the hold is less than the piece pulls."
	case a.Catch.Runs:
		call = fmt.Sprintf("Let it run %s: line peak %s.", units.Print(units.Height, system, *a.Catch.RunM), peak)
	default:
		call = fmt.Sprintf("No rope runs: line peak %s.", peak)
	}
	if a.Room.Verdict == Over && a.Catch.Holds {
		call += fmt.Sprintf(" It comes to %s above the ground; %s is wanted.",
			units.Print(units.Height, system, *a.Room.ClearanceM), units.Print(units.Height, system, a.Room.WantedM))
	}
	if a.Nearest == nil {
		return call + " No limit is known."
	}
	return fmt.Sprintf("%s Nearest limit: %s, %.0f %%.", call, a.Nearest.Part, a.Nearest.UsePct)
}
