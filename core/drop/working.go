package drop

import (
	"fmt"

	"elkstay/core/units"
	"elkstay/core/working"
)

const (
	energySum   = "conservation of energy (impact on a spring: Timoshenko, Strength of Materials; from memory)"
	ropeTable   = "the rope's elongation table"
	statics     = "statics"
	deviceRange = "a device holds a range, not a figure, ±20 %: " + working.Common
)

// SlowTest stands beside every peak that rests on a maker's slow test.
const SlowTest = "The rope's stretch is from a slow test: in a shock it is stiffer, and the peak may be a fifth to a half higher (common practice)."

// Cautions returns what must stand beside the figures of a catch.
func (c *Case) Cautions(catch Catch) []string {
	cautions := []string{}
	if c.Rope.Dynamic() == 1 {
		cautions = append(cautions, SlowTest)
	}
	if !catch.Holds {
		cautions = append(cautions, "The device never stops this piece: at this hold the line pulls no harder than the piece weighs. The peaks are those while it runs.")
	}
	if c.EnergyLostPct > 0 {
		cautions = append(cautions, fmt.Sprintf("%g %% of the fall's energy is taken as lost: these figures are no longer the ceiling.", c.EnergyLostPct))
	}
	if catch.Holds && c.RoomM != nil && catch.LowestM > *c.RoomM {
		cautions = append(cautions, "The piece meets what lies beneath before the line has stopped it.")
	}
	return cautions
}

// Working writes the sum behind a catch of the case.
func (c *Case) Working(catch Catch) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	b, k, t, s, r := c.BlockBelowCutM, c.Piece.CogAboveCutM, c.TieAboveCutM, c.SlackM, c.BlockEfficiency
	peak, weight := catch.LinePeakKn, c.WeightKn()
	line, lead := c.Rope.Strain(peak), c.Rope.Strain(r*peak)
	sheet.Add("W", "weight of the piece", n(c.Piece.MassKg)+"·9.80665/1000", weight, "kN", units.GravitySource)
	fall := fmt.Sprintf("(b+c) + (b+t+s) + |c−t| = (%s+%s) + (%s+%s+%s) + |%s−%s|", n(b), n(k), n(b), n(t), n(s), n(k), n(t))
	beyond := fmt.Sprintf("b+t+s = %s+%s+%s", n(b), n(t), n(s))
	if c.Course != nil {
		fall, beyond = c.Course.How, fmt.Sprintf("from block to tie, and the slack = %s+%s", n(c.Course.LineM-s), n(s))
	}
	sheet.Add("h", "fall until the line is tight, piece hanging", fall, c.FallM(), "m", statics)
	sheet.Add("E", "energy that reaches the line", fmt.Sprintf("(1−%s/100)·W·h", n(c.EnergyLostPct)), c.EnergyKj(), "kJ", energySum)
	sheet.Add("L₁", "line beyond the block", beyond, c.LineM(), "m", statics)
	sheet.Add("L₂", "lead from block to device", "as given", c.LeadM, "m", "as given")
	locked := *c
	locked.DeviceHoldKn = nil
	ceiling := Solve(&locked)
	sheet.Add("T_lock", "peak of the line, locked off", "the T at which E + W·x(T) = ∫τ·x′(τ)dτ, by the straight lines of the table", ceiling.LinePeakKn, "kN", energySum)
	if c.DeviceHoldKn != nil {
		sheet.Add("T_s", "line tension at which rope runs", fmt.Sprintf("H/r = %s/%s", n(*c.DeviceHoldKn), n(r)), *c.DeviceHoldKn/r, "kN", statics)
	}
	how := "T_lock: no rope runs"
	if catch.Runs {
		how = "T_s, the lower of the two: rope runs"
	}
	sheet.Add("T", "peak of the line", how, peak, "kN", energySum)
	sheet.Add("ε₁", "strain of the line at T", fmt.Sprintf("table at %s %% of %s kN", n(100*peak/c.Rope.BreakingKn), n(c.Rope.BreakingKn)), 100*line, "%", ropeTable)
	sheet.Add("ε₂", "strain of the lead at r·T", fmt.Sprintf("table at %s %% of %s kN", n(100*r*peak/c.Rope.BreakingKn), n(c.Rope.BreakingKn)), 100*lead, "%", ropeTable)
	give := fmt.Sprintf("(L₁·ε₁ + L₂·ε₂)/%s", n(c.Rope.Dynamic()))
	if c.AnchorStiffnessKnM > 0 {
		give += fmt.Sprintf(" + 2·(1+r)·T/%s", n(c.AnchorStiffnessKnM))
	}
	sheet.Add("x", "give at the peak", give, catch.StretchM, "m", ropeTable+"; dynamic factor: "+working.Common)
	taken := catch.TakenKj
	sheet.Add("U", "energy the stretch has taken", "area under tension against give, from 0 to T", taken, "kJ", energySum)
	if catch.Runs && catch.Holds {
		sheet.Add("R", "rope that runs", fmt.Sprintf("(E + W·x − U)/(T − W) = (%s + %s·%s − %s)/(%s − %s)",
			n(c.EnergyKj()), n(weight), n(catch.StretchM), n(taken), n(peak), n(weight)), catch.RunM, "m", energySum)
	}
	if c.Course == nil {
		sheet.Add("B", "peak of the block, legs parallel", fmt.Sprintf("(1+r)·T = (1+%s)·%s", n(r), n(peak)), catch.BlockPeakKn, "kN", statics)
	}
	sheet.Add("D", "peak of the lead, on the device", fmt.Sprintf("r·T = %s·%s", n(r), n(peak)), catch.DevicePeakKn, "kN", statics)
	sheet.Add("T/W", "amplification", "T/W", catch.Amplification, "", statics)
	if catch.Holds {
		expression := fmt.Sprintf("b + L₁ + x + R + t, tie above the centre of gravity, with t = %s", n(t))
		if c.HangsTipDown() {
			expression = fmt.Sprintf("b + L₁ + x + R + (length − t), it hangs tip down, with length = %s", n(c.Piece.LengthM))
		}
		sheet.Add("z", "lowest point below the cut", expression, catch.LowestM, "m", statics)
	}
	if limit := AtLimit(c); limit != nil {
		sheet.Add("H_lim", "hold that keeps the line at its limit", fmt.Sprintf("r·T_limit = %s·%s", n(r), n(*c.LineLimitKn)), limit.DeviceHoldKn, "kN", statics)
		if limit.RunM != nil {
			sheet.Add("R_lim", "run that takes", "as R, at T_limit", *limit.RunM, "m", energySum)
		}
	}
	if around := AroundHold(c); around != nil {
		if around.RunAtLowHoldM != nil {
			sheet.Add("R_−20", "run with a fifth less hold", fmt.Sprintf("as R, at a hold of %s kN", n(around.LowHoldKn)), *around.RunAtLowHoldM, "m", deviceRange)
		}
		sheet.Add("T_+20", "peak with a fifth more hold", fmt.Sprintf("as T, at a hold of %s kN", n(around.HighHoldKn)), around.LinePeakAtHighHoldKn, "kN", deviceRange)
	}
	return sheet.Steps()
}
