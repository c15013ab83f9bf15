package fell

import (
	"fmt"
	"math"

	"elkstay/core/units"
	"elkstay/core/working"
)

// Working writes the sums that a fall begins with, and how it was followed.
func (f *Fall) Working(run FallRun) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const statics = "statics: moments about the hinge"
	s := newFaller(f)
	y := s.begin()
	forward, side := s.moment(&y)
	sheet.Add("W", "weight", n(f.Tree.MassKg)+"·9.80665/1000", s.weight, "kN", units.GravitySource)
	sheet.Add("I", "inertia about the hinge", "that about the centre of gravity + m·(height² + forward²)", f.inertia(), "kg·m²", "parallel axes; mass·top²/16 where none is given: "+working.Common)
	sheet.Add("D", "forward moment at the start", "weight, lines and wind", forward, "kN·m", statics)
	if f.Hinge != nil {
		sheet.Add("M", "moment that bends the hinge", "as given", f.Hinge.BendingKnm, "kN·m", "as given")
	}
	sheet.Add("S", "side moment at the start, + to the right", "weight, lines and wind", side, "kN·m", statics)
	if run.GoesAloneDeg != nil {
		sheet.Add("φ₁", "tilt from which it goes alone", "W·(forward·cos φ + height·sin φ) ≥ M, a wind from ahead taken off", *run.GoesAloneDeg, "°", statics)
	}
	sheet.Add("φ₂", "tilt at which its tip meets the ground", "as kind reach", run.TurnedDeg, "°", "geometry")
	sheet.Add("t", "time it was followed for", "I·φ̈ = D − M, the lines by their stretch, hauled and let out; fourth-order steps", run.TimeS, "s", "mechanics of a rigid body")
	return sheet.Steps()
}

// Cautions returns what must stand beside a fall.
func (f *Fall) Cautions(run FallRun) []string {
	cautions := []string{"Nobody stands in a line's path or in its bight, nor nearer than two lengths of the tree but who cuts."}
	s := newFaller(f)
	alone := math.Inf(1)
	if run.GoesAloneDeg != nil {
		alone = *run.GoesAloneDeg
	}
	for i := range run.Lines {
		_, ux, _, _ := s.lines[i].way(0, 1)
		if at := run.Lines[i].SlackAtDeg; at != nil && ux > 0 && *at < alone {
			if f.Lines[i].Haul != nil && run.Outcome == Goes {
				continue // it outran the haul for a moment, and the haul caught up
			}
			to := "the tree never goes alone"
			if !math.IsInf(alone, 1) {
				to = fmt.Sprintf("the tree needs it to %.3g°", alone)
			}
			cautions = append(cautions, fmt.Sprintf("%s: the pull is used up at %.3g°, %s. Haul on, or take out more before the cut.", run.Lines[i].Name, *at, to))
		}
	}
	if run.SideUsePct != nil && *run.SideUsePct > 70 {
		cautions = append(cautions, fmt.Sprintf("The hinge is used to %.0f %% sideways: hinge wood alone is never relied on against a heavy side lean.", *run.SideUsePct))
	} else if math.Abs(f.Tree.CogSideM) > 0.05*f.Tree.CogHeightM {
		cautions = append(cautions, "Its weight stands aside of the fall: hinge wood alone is never relied on against a heavy side lean.")
	}
	if f.Hinge != nil && run.SideUsePct == nil {
		cautions = append(cautions, "What the hinge holds sideways is not given: the side load is not judged.")
	}
	if run.TwistKnm > 0 {
		cautions = append(cautions, fmt.Sprintf("The hinge is twisted by up to %.3g kN·m: no limit is known for that.", run.TwistKnm))
	}
	if f.Back == nil {
		cautions = append(cautions, "Nothing is said of the back cut: that it cannot turn back is taken as held, by what is not known.")
	}
	if f.Wind != nil && f.Wind.SpeedMS > 0 {
		cautions = append(cautions, "Wind comes in gusts: the figure is for a steady one.")
	}
	return cautions
}
