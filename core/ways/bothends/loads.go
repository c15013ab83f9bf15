package bothends

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/line"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways/roped"
)

// A steepest is the most that a line carries at rest on its way, and where.
type steepest struct {
	kn, uprightDeg float64
	tie            r3.Vec
}

// steepest is the most a line carries at rest on its way, drawn aside or not.
func (o *BothEnds) steepest(i int) (most steepest) {
	for k := range o.moments {
		if one := &o.moments[k].hang.Ties[i]; k == 0 || one.TensionKn > most.kn {
			most = steepest{one.TensionKn, one.FromUprightDeg, o.plane.spot(one.At, 0)}
		}
	}
	if o.drawn != nil && o.drawn.MostKn[i] > most.kn {
		tie := o.drawn.Heavy[o.drawn.At[i]].Along(o.sides[i].Settings.TieM)
		up := r3.Sub(o.sides[i].Block, tie)
		most = steepest{o.drawn.MostKn[i], math.Atan2(r3.Norm(space.Level(up)), up.Z) * 180 / math.Pi, tie}
	}
	return most
}

// endLoads gathers what one of the lines loads: at rest where its way is steepest, at the peak of
// the catch where that is more.
func (o *BothEnds) endLoads(i int, side *roped.Roped) {
	worst := o.steepest(i)
	rest := worst.kn
	peak := max(rest, o.caught.PeakKn[i]*o.aside[i])
	if o.drawn != nil {
		peak = max(peak, o.caught.PeakKn[i]*o.aside[i]*o.drawn.Harder(o.caught.PeakKn[i]*o.aside[i]))
	}
	// The block is loaded along the line as it leads there.
	if _, leads := space.Direction(r3.Sub(worst.tie, side.Block), 0.05); leads {
		side.Points[0].Point = space.PointOf(worst.tie)
		line.Path{LoadKn: 1, Motion: line.Lowering, Points: side.Points}.SolveInto(&side.Path)
	}
	kg := rest * 1000 / units.Gravity
	side.Weight.Kg.Low, side.Weight.Kg.Likely, side.Weight.Kg.High = kg, kg, kg
	side.Catch.LinePeakKn = peak
	reaches := func(one *roped.Roped) {
		holds, resting := holdOf(&one.Settings), rest*one.Ratio()
		// What it carries at rest on its way is more than is held: it runs out.
		one.Catch = drop.Catch{LinePeakKn: peak, DevicePeakKn: min(peak*one.Ratio(), max(holds, resting)), Holds: resting <= holds+1e-9}
	}
	reaches(side)
	side.AllLoads(func(one *roped.Roped) {
		reaches(one)
		o.onBlock(i, one, peak)
	})
	for k := range side.Loads {
		l := &side.Loads[k]
		l.On = l.Name
		l.Name = strings.TrimSpace(endNames[i] + ": " + l.Name)
		l.Rig = side.Rig
		if l.Part == hold.PartLine {
			l.Say(fmt.Sprintf("%s at the steepest of its way down, %.0f° from upright; %s when the cut lets go.", units.Print(units.Force, o.System, rest), worst.uprightDeg, units.Print(units.Force, o.System, o.caught.PeakKn[i]*o.aside[i])))
		}
	}
	o.Loads, o.Cases = append(o.Loads, side.Loads...), append(o.Cases, side.Cases...)
	o.Faults = append(o.Faults, side.Faults...)
	longest := 0.0
	for k := range o.moments {
		longest = max(longest, o.caught.LineM[i]+o.moments[k].out[i])
	}
	need := side.LeadM() + longest + roped.SpareRope
	o.Ropes = append(o.Ropes, course.RopeUse{Rig: side.Rig, NeedM: need})
	if side.Rig.RopeLengthM != nil && *side.Rig.RopeLengthM < need {
		o.Fault(course.FaultReach, "the rope of %s, at the %s, is %s long; this takes %s, knot, wraps and tail included", side.Rig.Name, endNames[i], o.Height(*side.Rig.RopeLengthM), o.Height(need))
	}
}

// mostLeads is the most ways in which a line is held to load its block.
const mostLeads = 40

// onBlock gathers how one of the lines loads its block: at rest on its way, at some of its moments and where it carries
// most, leads off most and loads the block most; at the peak as it leads before the cut and as it first hangs.
func (o *BothEnds) onBlock(i int, side *roped.Roped, peak float64) {
	points := slices.Clone(side.Points)
	var path line.Tensions
	force := func(tie r3.Vec, kn float64) r3.Vec {
		if _, leads := space.Direction(r3.Sub(tie, side.Block), 0.05); !leads {
			return r3.Vec{}
		}
		points[0].Point = space.PointOf(tie)
		line.Path{LoadKn: 1, Motion: line.Lowering, Points: points}.SolveInto(&path)
		return r3.Scale(kn*path.Points[0].ResultantKn, path.Points[0].Direction.Vec())
	}
	var all []r3.Vec
	for k := range o.moments {
		one := &o.moments[k].hang.Ties[i]
		all = append(all, force(o.plane.spot(one.At, 0), one.TensionKn))
	}
	if o.drawn != nil {
		for k := range o.drawn.Heavy {
			all = append(all, force(o.drawn.Heavy[k].Along(side.Settings.TieM), o.drawn.Heavy[k].Kn[i]))
		}
	}
	most := search.Largest(len(all), func(k int) float64 { return r3.Norm(all[k]) })
	out := search.Largest(len(all), func(k int) float64 { return r3.Norm(space.Level(all[k])) })
	for k := range search.Some(len(all), mostLeads, most, out) {
		side.Leads = append(side.Leads, all[k])
	}
	side.LeadsRest = r3.Norm(all[most])
	for _, tie := range [2]r3.Vec{side.Tie, o.plane.spot(o.moments[0].hang.Ties[i].At, 0)} {
		caught := force(tie, peak)
		if side.Leads = append(side.Leads, caught); o.drawn != nil {
			side.Leads = append(side.Leads, r3.Add(caught, o.drawn.Across()))
		}
	}
}
