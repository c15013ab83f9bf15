package drop

import (
	"fmt"

	"elkstay/core/units"
	"elkstay/core/working"
)

// Working writes the figures of a run and how they were found.
func (c *SimCase) Working(run Run) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const motion = "Newton's and Euler's equations of a rigid body in a plane"
	energy := c.Energy()
	s := newSim(c)
	sheet.Add("W", "weight", n(c.Piece.MassKg)+"·9.80665/1000", energy.WeightKn(), "kN", units.GravitySource)
	sheet.Add("I", "moment of inertia", "as given, or m·length²/12", s.inertia, "kg·m²", motion)
	sheet.Add("k₁", "first stiffness of the line", "1/x′(0)", 1/s.give.slope[0], "kN/m", ropeTable)
	sheet.Add("d", "damping of the line", fmt.Sprintf("2·%s·√(k₁·m)", n(given(c.RopeDampingRatio, 0.05))), s.rope, "N·s/m", "share of critical: "+working.Common)
	for _, phase := range run.Phases {
		sheet.Add("t", phase.Name, "the moment it begins, found within the step", phase.AtS, "s", "Dormand and Prince 1980, steps by error, events located")
	}
	if run.LinePeakKn != nil {
		sheet.Add("T", "peak of the line", "largest tension until the first catch is over or the piece strikes, whichever is later", *run.LinePeakKn, "kN", motion)
		sheet.Add("B", "peak of the block", "|T·n + r·T·(0, −1)|, n from block to tie", *run.BlockPeakKn, "kN", "statics")
		sheet.Add("D", "peak of the lead", "r·T", *run.DevicePeakKn, "kN", "statics")
	}
	sheet.Add("R", "rope that runs", "growth of the distance while T stays at H/r, less what goes into stretch", run.RunM, "m", motion)
	sheet.Add("T_E", "ceiling by the energy sum", "as kind drop", run.CeilingKn, "kN", energySum)
	return sheet.Steps()
}

// Cautions returns what must stand beside a run.
func (c *SimCase) Cautions(run Run) []string {
	cautions := []string{}
	if c.Rope.Dynamic() == 1 {
		cautions = append(cautions, SlowTest)
	}
	switch {
	case run.LinePeakKn == nil:
		cautions = append(cautions, "The line never comes tight before the end of the run: there is no peak.")
	case run.StrikesStem != nil && run.StrikesStem.AtS < *run.LinePeakAtS:
		cautions = append(cautions, "The piece strikes the stem before the line has caught it: the stem takes a blow that these figures do not show.")
	case run.StrikesStem != nil:
		cautions = append(cautions, "The piece strikes the stem after the catch: what follows is not in these figures.")
	}
	if run.LinePeakKn != nil && *run.LinePeakKn > 1.001*run.CeilingKn {
		cautions = append(cautions, "Followed in time the line peaks above the energy sum: the damping of its rope pulls too, which that sum does not have. The higher of the two counts.")
	}
	if run.CutOff {
		cautions = append(cautions, "The line is too stiff to be followed to the end: the run was cut off.")
	}
	return cautions
}
