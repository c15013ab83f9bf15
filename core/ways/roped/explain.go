package roped

import (
	"fmt"
	"math"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/spar"
	"elkstay/core/working"
)

// Beside is what must be read with a load of the line, all of its lines together.
func (o *Roped) Beside(l *hold.Load) []string {
	whole := o.whole()
	switch l.Part {
	case hold.PartLine:
		var said []string
		if whole.DropCase != nil {
			said = whole.DropCase.Cautions(whole.Catch)
		}
		if whole.pair != nil {
			said = append(said, whole.pair.Cautions(whole.carried)...)
		}
		return said
	case hold.PartSpar:
		if whole.spar != nil {
			return whole.spar.beam.Cautions(spar.Standing{})
		}
	case hold.PartRedirect:
		if whole.Path.Points != nil {
			return line.Path{Motion: line.Lowering, Points: whole.Points}.Cautions(whole.Path)
		}
	case hold.PartHand:
		if !l.Unseen {
			given := whole.AsGiven()
			low := line.HandFor(given.Catch.DevicePeakKn, given.Settings.Wraps, given.Settings.Friction*line.LowerFriction)
			return line.Cautions(given.Settings.Friction, low)
		}
	}
	return nil
}

// Working writes the sum behind a load of the line.
func (o *Roped) Working(l *hold.Load, sheet *working.Sheet) {
	n, peak := working.Figure, o.Catch.LinePeakKn
	switch l.Part {
	case hold.PartTie:
		if o.pair != nil {
			sheet.Append(o.pair.Working(o.carried))
		}
		sheet.Add("T", "peak of the line", "see the line", peak, "kN", "the line's working")
	case hold.PartLine:
		o.lineWorking(sheet)
	case hold.PartBlock, hold.PartConnector, hold.PartSling:
		if o.pair != nil {
			sheet.Append(o.pair.Working(o.carried))
			return
		}
		o.turned(0, sheet)
		if mu := o.Rig.Block.Friction; mu != nil {
			sheet.Add("ρ", "tension behind it over tension before it, where the rope slides", fmt.Sprintf("e^(−%s·(θ + 2π·%s))", n(*mu), n(job.Or(o.Rig.Block.Turns, 0))), o.Path.Points[0].Ratio, "", line.Capstan)
		}
	case hold.PartSecond, hold.PartFar:
		if o.pair != nil {
			o.secondWorking(sheet, l.Part)
		}
	case hold.PartTag:
		o.Tag.working(sheet)
	case hold.PartStop:
		o.stop.working(sheet, l)
	case hold.PartHolder:
		HolderWorking(l, sheet)
	case hold.PartRedirect:
		for i := range o.Rig.Redirects {
			if o.Rig.Redirects[i].Name == l.Name {
				o.turned(i+1, sheet)
			}
		}
	case hold.PartSpar:
		if o.spar != nil {
			sheet.Append(o.spar.beam.Working(o.spar.beam.Solve()))
		}
	case hold.PartDevice, hold.PartHand:
		o.deviceWorking(l, sheet)
	}
}

// HolderWorking writes what an anchor, a limb or another tree is pulled with.
func HolderWorking(l *hold.Load, sheet *working.Sheet) {
	sheet.Add("F", "pull of the gear that sits on it", "the gear's own rung at the peak, with its direction", l.PeakKn, "kN", "statics")
}

// lineWorking writes the sum behind the line's own load.
func (o *Roped) lineWorking(sheet *working.Sheet) {
	switch whole := o.whole(); {
	case whole.LineSum != nil && o.Whole != nil:
		whole.LineSum(sheet, o)
	case o.pair != nil:
		sheet.Append(o.pair.Working(o.carried))
		o.comes.working(sheet, 0)
	case o.tight != nil && !o.tight.swings:
		sheet.Append(o.tight.held.Working(o.tight.caught))
	case o.swung != nil:
		sheet.Append(o.swung.Working(o.Catch))
	case o.DropCase != nil:
		sheet.Append(o.DropCase.Working(o.Catch))
	}
	if whole := o.whole(); whole.twins != nil {
		whole.twins.working(sheet, o)
	}
	if tag := o.whole().Tag; tag != nil {
		tag.working(sheet)
	}
}

// turned writes the force of both legs of a turn of the line.
func (o *Roped) turned(i int, sheet *working.Sheet) {
	turn, peak := o.Path.Points[i], o.Catch.LinePeakKn
	sheet.Add("θ", "angle of contact", "π − angle between the legs", turn.ContactDeg, "°", "geometry")
	sheet.Add("F", "force of both legs", fmt.Sprintf("|T_in·a + T_out·b| = %s·%s", working.Figure(turn.Factor), working.Figure(peak)), turn.ResultantKn*peak, "kN", "statics")
}

// deviceWorking writes what reaches the device, and the hand behind it.
func (o *Roped) deviceWorking(l *hold.Load, sheet *working.Sheet) {
	n, set := working.Figure, &o.Settings
	switch {
	case l.Part == hold.PartDevice:
		sheet.Add("D", "peak of the lead", fmt.Sprintf("ρ·T, ρ of all turns = %s·%s", n(o.Ratio()), n(o.Catch.LinePeakKn)), l.PeakKn, "kN", "statics")
		sheet.Add("D₀", "lead with the piece hanging", fmt.Sprintf("ρ·W = %s·%s", n(o.Ratio()), n(o.bearsKn())), l.RestKn, "kN", "statics")
		return
	case l.Unseen:
		return
	}
	if set.How == job.ByWraps && o.DropCase != nil {
		sheet.Add("H", "hold of the device", fmt.Sprintf("hand·e^(2πμn) = %s·e^(2π·%s·%s)", n(set.HandKn), n(set.Friction), n(set.Wraps)), o.hold, "kN", line.Capstan)
	}
	sheet.Add("F", "hand at the peak", fmt.Sprintf("D·e^(−2πμn) = %s·e^(−2π·%s·%s)", n(o.Catch.DevicePeakKn), n(set.Friction), n(set.Wraps)), l.PeakKn, "kN", line.Capstan)
	sheet.Add("F₀", "hand with the piece hanging", fmt.Sprintf("ρ·W·e^(−2πμn), ρ·W = %s", n(o.bearsKn()*o.Ratio())), l.RestKn, "kN", line.Capstan)
}

// secondWorking writes the sum behind the second line, or behind its block, where on the way
// that is loaded most.
func (o *Roped) secondWorking(sheet *working.Sheet, part string) {
	n := working.Figure
	at := o.carried.Way[0]
	for _, c := range o.carried.Way {
		if part == hold.PartSecond && c.BKn > at.BKn || part == hold.PartFar && c.AnchorBKn > at.AnchorBKn {
			at = c
		}
	}
	defer o.comes.working(sheet, 1)
	const statics = "statics: three forces in a plane"
	sheet.Add("x", "where on the way it is loaded most", "the heaviest of the places followed", at.SharePct, "%", "geometry")
	sheet.Add("α", "angle of the first line to the level there", "geometry of the place", at.AngleADeg, "°", "geometry")
	sheet.Add("β", "angle of the second line to the level there", "geometry of the place", at.AngleBDeg, "°", "geometry")
	sheet.Add("B", "second line", fmt.Sprintf("W·cos α/sin(α+β), W = %s", n(o.WeightKn())), at.BKn, "kN", statics)
	if part == hold.PartFar {
		sheet.Add("F", "second block: line, and lead straight down that hauls it in", fmt.Sprintf("B·√(cos²β + (sin β + 1/r)²), r = %s", n(o.Settings.BlockEfficiency)), at.AnchorBKn, "kN", statics)
	}
}

// wraps is the request of that kind.
type wraps struct {
	LineKn   float64 `json:"line_kn"`
	Wraps    float64 `json:"wraps"`
	Friction float64 `json:"friction"`
}

// Contracted is the contract's sum behind a load of the line. Of one line of two it is the sum of both, which no kind by
// itself has.
func (o *Roped) Contracted(l *hold.Load) (kind string, request any) {
	if o.Whole != nil {
		if sum := o.Whole.LineRequest; sum != nil && l.Part == hold.PartLine && o.Whole.Tag == nil {
			return sum(o)
		}
		return "", nil
	}
	switch l.Part {
	case hold.PartLine, hold.PartTie:
		switch {
		case o.Tag != nil: // a tag line's pull is in it, which none of these has
		case o.pair != nil && o.comes.peakKn[0] <= o.carried.MaxAKn:
			return "two-line", o.pair
		case o.pair != nil: // the catch as the cut parts, which none of these has
		case o.swung != nil:
		case o.tight != nil && !o.tight.swings:
			return "catch", &o.tight.held
		case o.DropCase != nil && o.DropCase.Course == nil:
			return "drop", o.DropCase
		case o.DropCase != nil:
			return "catch", heldOf(o.DropCase)
		}
	case hold.PartRedirect:
		if o.DropCase != nil {
			return "line", &line.Path{LoadKn: max(o.Catch.LinePeakKn, o.bearsKn()), Motion: line.Lowering, Points: o.Points}
		}
	case hold.PartDevice, hold.PartHand:
		if !l.Unseen && o.DropCase != nil && o.Settings.Wraps > 0 && o.Catch.DevicePeakKn > 0 {
			return "wraps", &wraps{max(o.Catch.DevicePeakKn, o.bearsKn()*o.Ratio()), o.Settings.Wraps, o.Settings.Friction}
		}
	case hold.PartSpar:
		if o.spar != nil {
			return "spar", &o.spar.beam
		}
	}
	return "", nil
}

// heldOf is a catch of a piece that hangs from above its cut, as the kind catch has it.
func heldOf(c *drop.Case) *drop.Held {
	return &drop.Held{MassKg: c.Piece.MassKg, SinkM: c.Course.FallM, LineM: c.Course.LineM, LeadM: c.LeadM, Rope: c.Rope, Efficiency: c.BlockEfficiency,
		AnchorStiffnessKnM: c.AnchorStiffnessKnM, EnergyLostPct: c.EnergyLostPct, HoldKn: c.DeviceHoldKn}
}

// Wanted finds the hold and the run that keep every part of the line's way within its limit with as much friction as there may be, whichever
// is the first to be reached; turns by halves, as they are taken.
func (o *Roped) Wanted() *course.Wanted {
	w := course.Wanted{LineKn: math.Inf(1)}
	stuck := o.Rubbed(frictions[0].times)
	for i := range o.Loads {
		l := &o.Loads[i]
		if !l.Known || l.Part == hold.PartPiece || l.Part == hold.PartHand || l.PeakKn <= 0 {
			continue
		}
		if at := l.Limit.Kn * stuck.Catch.LinePeakKn / l.PeakKn; at < w.LineKn {
			w.LineKn, w.Governs = at, l.Part
		}
	}
	if math.IsInf(w.LineKn, 1) || o.DropCase == nil {
		return nil
	}
	byWraps := o.Settings.How == job.ByWraps
	w.HoldKn, w.Wraps = o.HoldWithin(w.LineKn, byWraps)
	if run, reachable, slips := o.RunWith(w.HoldKn, byWraps); reachable && !slips {
		w.RunM, w.Reachable = &run, true
	}
	return &w
}

// HoldWithin is the hold as given, kN, by which the line peaks at no more than a tension with as much friction as there may be, and the turns
// that keep it to that, by halves, as they are taken; byWraps: by those turns, of which friction makes more than of a hold that is told.
func (o *Roped) HoldWithin(lineKn float64, byWraps bool) (holdKn, wraps float64) {
	set, stuck := &o.Settings, o.Rubbed(frictions[0].times)
	lead := stuck.Ratio() * lineKn
	// Fewer hold less hard: no more than keep the line to it.
	wraps = math.Floor(2*line.WrapsFor(lead, set.HandKn, stuck.Settings.Friction)) / 2
	if byWraps {
		return line.HeldBy(set.HandKn, wraps, set.Friction), wraps
	}
	return lead / frictions[0].times, wraps
}

// RunWith is how far rope runs with a hold as given, kN, by turns or as told, whether the piece is stopped, and whether it slips with as
// little friction as there may be.
func (o *Roped) RunWith(holdKn float64, byWraps bool) (runM float64, held, slips bool) {
	less := holdKn * frictions[1].times
	if byWraps {
		less = o.Settings.HandKn * math.Pow(holdKn/o.Settings.HandKn, frictions[1].times)
	}
	_, keeps := o.RunFor(less / o.Rubbed(frictions[1].times).Ratio())
	runM, held = o.RunFor(holdKn / o.Ratio())
	return runM, held, !keeps
}

// PeakWith is the peak of the line with a hold as given, kN, by turns or as told, and as much friction as there may be.
func (o *Roped) PeakWith(holdKn float64, byWraps bool) float64 {
	side := o.Rubbed(1)
	side.hold = holdKn * frictions[0].times
	if byWraps {
		side.hold = o.Settings.HandKn * math.Pow(holdKn/o.Settings.HandKn, frictions[0].times)
	}
	side.recaught()
	return side.Catch.LinePeakKn
}
