package assess

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/units"
)

// bothEnds: the piece leaves its cut onto a line at its butt and one at its tip, each run by its
// own hand, and is carried down on them.
type bothEnds struct{ onLine }

// endsOf is a piece on two lines: how they catch it, and every moment of its way down.
type endsOf struct {
	set    job.Ends
	sides  [2]*Outcome // each line's own rig, block and way, from the butt
	plane  endsPlane
	caught drop.EndsRun   // of all, the one that loads its lines hardest; the most that each carries and lets run
	ways   []drop.EndsRun // as its hinge may let it go
	lowM   float64        // the least height of its wood as they catch it
	breaks string         // what a hinge that is told of does should it break at once; empty: no more
	aside  [2]float64     // what the swing out of the plane adds, as a factor
	course []endsMoment
	drawn  *pairTag  // by a tag line; nil: none
	falls  [2]string // what happens when the line is let go
	ends   string    // where the program leaves it
	early  bool      // in a hurry: what stops it does so as its lines catch it, whatever the program
}

// endsPlane is the upright plane through both points: x along it from the butt's.
type endsPlane struct {
	from  r3.Vec // on the plan
	along r3.Vec
	out   r3.Vec
}

func (p *endsPlane) x(at r3.Vec) float64 { return r3.Dot(level(r3.Sub(at, p.from)), p.along) }

func (p *endsPlane) aside(at r3.Vec) float64 { return r3.Dot(level(r3.Sub(at, p.from)), p.out) }

func (p *endsPlane) spot(s line.Spot, aside float64) r3.Vec {
	return r3.Add(r3.Add(p.from, r3.Add(r3.Scale(s.X, p.along), r3.Scale(aside, p.out))), r3.Vec{Z: s.Z})
}

// endNames are the two lines, from the butt.
var endNames = [2]string{job.EndButt, job.EndTip}

func (bothEnds) work(v *Survey, o *Outcome, now *Standing) {
	if o.Stopped() {
		return
	}
	e := &endsOf{set: o.pick.BothEnds(o.Length())}
	o.reachM, o.underM = v.reaches(o, now)
	if *e.set.Tip.TieM <= *e.set.Butt.TieM {
		o.fault(faultTie, "the line at the tip is tied %s from the cut, no further out than that at the butt (%s)", v.Height(*e.set.Tip.TieM), v.Height(*e.set.Butt.TieM))
		return
	}
	for i, end := range []*job.End{&e.set.Butt, &e.set.Tip} {
		side := v.endSide(o, end, i, now)
		if side == nil {
			return
		}
		e.sides[i] = side
	}
	if !v.endsCatch(o, e, now) {
		return
	}
	v.endsCourse(o, e)
	if o.Stopped() {
		return
	}
	drawn := v.taggedPair(o, max(0.01, min(o.Length()-0.01, o.Weight.cog)), e.endsMoments(), now)
	if o.Stopped() {
		return
	}
	e.drawn = drawn
	o.ends = e
	o.Rig, o.Settings, o.block, o.tie = e.sides[0].Rig, e.sides[0].Settings, e.sides[0].block, e.sides[0].tie
	before := len(o.loads)
	for i, side := range e.sides {
		v.endLoads(o, e, i, side, now)
	}
	o.together(before)
	v.tagLoads(o)
	o.Catch = drop.Catch{LinePeakKn: max(e.sides[0].Catch.LinePeakKn, e.sides[1].Catch.LinePeakKn), Holds: e.caught.Stopped}
	if v.Hurried && o.over() != "" {
		e.early = e.caught.PeakKn[0]*e.aside[0] > e.steepest(0).kn && e.caught.PeakKn[1]*e.aside[1] > e.steepest(1).kn
		return
	}
	way, released := v.endsWay(o, e, now)
	v.roomBetween(o, e, &way, released, now)
	if v.Hurried {
		if e.early = v.Stops(o) != "" && o.floor.onto == ""; !e.early {
			onto := way.upTo(released)
			o.clears = v.clearances(&onto, nil)
			e.early = v.Stops(o) == StopsClear
		}
		if v.Stops(o) != "" {
			return
		}
	}
	// Let go out of the plane of its lines it swings through it, until its stem or somebody stops it: that is said.
	let := way.from(released)
	if v.staysOut(o, &let); !o.Stopped() {
		if name := v.broughtInto(o, &way); name != "" {
			o.fouls = append(o.fouls, fmt.Sprintf("As it comes onto its lines it can swing into the no-go sector %s: hold it off with a tag line.", name))
		}
	}
	o.clears = v.clearances(&way, v.woodRound(o, now))
	if v.Hurried && v.Stops(o) != "" {
		return
	}
	v.comesDownBy(o, &way)
	v.pastStem(o, &way)
	v.ropesAlong(o, o.tagLegs(), &way)
	for _, side := range e.sides {
		side.clears = nil
		v.ropes(side, &way)
		o.fouls = append(o.fouls, side.fouls...)
		for _, c := range side.clears {
			v.comesNear(o, c.target, c.ClearanceM, v.keeps(c.target))
		}
	}
	sortClearances(o.clears)
	v.endsLetGo(o, e, now)
}

// StoppedEarly reports, of a piece worked out in a hurry, that no other program would help: it is stopped as its two lines
// catch it.
func (o *Outcome) StoppedEarly() bool { return o.ends != nil && o.ends.early }

// endRig is the rig of one of the lines: the one named; of the butt the pick's own, of the tip the
// next with a rope.
func (v *Survey) endRig(o *Outcome, end *job.End, i int) *job.Rig {
	switch {
	case end.Rig != "":
		return v.RigOf(&job.Pick{Rig: end.Rig})
	case i == 0:
		return v.RigOf(o.pick)
	}
	butt := v.RigOf(o.pick)
	if own := o.pick.Ends; own != nil && own.Butt.Rig != "" {
		butt = v.RigOf(&job.Pick{Rig: own.Butt.Rig})
	}
	for k := range v.Job.Rigs {
		if r := &v.Job.Rigs[k]; r != butt && r.Rope != nil {
			return r
		}
	}
	return nil
}

// endSide readies one of the lines: its rig, where it is tied, its block and its way. Nil: a fault
// says why not.
func (v *Survey) endSide(o *Outcome, end *job.End, i int, now *Standing) (side *Outcome) {
	rig := v.endRig(o, end, i)
	if rig == nil {
		o.fault(faultRig, "there is no rig for the line at the %s: two lines need two", endNames[i])
		return nil
	}
	if rig.Rope == nil {
		o.fault(faultRig, "%s, at the %s, has no rope: choose one", rig.Name, endNames[i])
		return nil
	}
	one := *o
	side = &one
	side.loads, side.Faults, side.points = nil, nil, nil
	side.Rig, side.offered = rig, rig
	side.Settings = rig.Settings(o.pick)
	side.Settings.FallTowardsDeg, side.Settings.TieM = o.Settings.FallTowardsDeg, *end.TieM
	side.Settings.SlackM = job.Or(end.SlackM, side.Settings.SlackM)
	if end.TightKn != nil && *end.TightKn > 0 {
		side.Settings.SlackM = 0
	}
	if side.Settings.TieM >= o.Length() {
		o.fault(faultTie, "the line at the %s is tied %s from the cut, at or beyond the piece's end (%s long)", endNames[i], v.Height(side.Settings.TieM), v.Height(o.Length()))
		return nil
	}
	side.tie = v.along(o, side.Settings.TieM)
	side.block = v.blockAt(side, true, now)
	if !side.Stopped() && side.block.Z <= side.tie.Z {
		side.fault(faultBlock, "the block at the %s (%s) is not above where the piece is tied (%s): a line cannot push", endNames[i], v.Height(side.block.Z), v.Height(side.tie.Z))
	}
	if !side.Stopped() {
		v.wayOfLine(side, now)
	}
	if side.Stopped() {
		o.Faults = append(o.Faults, side.Faults...)
		return nil
	}
	return side
}

// A steepest is the most that a line carries at rest on its way, and where.
type steepest struct {
	kn, uprightDeg float64
	tie            r3.Vec
}

// steepest is the most a line carries at rest on its way, drawn aside or not.
func (e *endsOf) steepest(i int) (most steepest) {
	for k := range e.course {
		if one := &e.course[k].hang.Ties[i]; k == 0 || one.TensionKn > most.kn {
			most = steepest{one.TensionKn, one.FromUprightDeg, e.plane.spot(one.At, 0)}
		}
	}
	if e.drawn != nil && e.drawn.kn[i] > most.kn {
		tie := e.drawn.heavy[e.drawn.at[i]].Along(e.sides[i].Settings.TieM)
		up := r3.Sub(e.sides[i].block, tie)
		most = steepest{e.drawn.kn[i], math.Atan2(r3.Norm(level(up)), up.Z) * 180 / math.Pi, tie}
	}
	return most
}

// endLoads gathers what one of the lines loads: at rest where its way is steepest, at the peak of
// the catch where that is more.
func (v *Survey) endLoads(o *Outcome, e *endsOf, i int, side *Outcome, now *Standing) {
	worst := e.steepest(i)
	rest := worst.kn
	peak := max(rest, e.caught.PeakKn[i]*e.aside[i])
	if e.drawn != nil {
		peak = max(peak, e.caught.PeakKn[i]*e.aside[i]*e.drawn.harder(e.caught.PeakKn[i]*e.aside[i]))
	}
	// The block is loaded along the line as it leads there.
	if _, leads := direction(r3.Sub(worst.tie, side.block), 0.05); leads {
		side.points[0].Point = pointOf(worst.tie)
		line.Path{LoadKn: 1, Motion: line.Lowering, Points: side.points}.SolveInto(&side.Path)
	}
	kg := rest * 1000 / units.Gravity
	side.Weight.Kg.Low, side.Weight.Kg.Likely, side.Weight.Kg.High = kg, kg, kg
	side.Catch = drop.Catch{LinePeakKn: peak, DevicePeakKn: min(peak*side.Ratio(), max(holdOf(&side.Settings), rest*side.Ratio())), Holds: true}
	e.onBlock(i, side, peak)
	v.lineLoads(side, now)
	for k := range side.loads {
		l := &side.loads[k]
		l.on = l.name
		// What it carries at rest on its way is more than is held: it runs out.
		l.notHeld = rest*side.Ratio() > holdOf(&side.Settings)+1e-9
		l.name = strings.TrimSpace(endNames[i] + ": " + l.name)
		l.of = side
		if l.part == PartLine {
			l.cautions(fmt.Sprintf("%s at the steepest of its way down, %.0f° from upright; %s when the cut lets go.", units.Print(units.Force, v.System, rest), worst.uprightDeg, units.Print(units.Force, v.System, e.caught.PeakKn[i]*e.aside[i])))
		}
	}
	o.loads = append(o.loads, side.loads...)
	o.Faults = append(o.Faults, side.Faults...)
	longest := 0.0
	for k := range e.course {
		longest = max(longest, e.caught.LineM[i]+e.course[k].out[i])
	}
	side.ropeM = side.leadM() + longest + spareRope
	if need := side.ropeM; side.Rig.RopeLengthM != nil && *side.Rig.RopeLengthM < need {
		o.fault(faultReach, "the rope of %s, at the %s, is %s long; this takes %s, knot, wraps and tail included", side.Rig.Name, endNames[i], v.Height(*side.Rig.RopeLengthM), v.Height(need))
	}
}

// mostLeads is the most ways in which a line is held to load its block.
const mostLeads = 40

// onBlock gathers how one of the lines loads its block: at rest on its way, at some of its moments and where it carries
// most, leads off most and loads the block most; at the peak as it leads before the cut and as it first hangs.
func (e *endsOf) onBlock(i int, side *Outcome, peak float64) {
	points := slices.Clone(side.points)
	var path line.Tensions
	force := func(tie r3.Vec, kn float64) r3.Vec {
		if _, leads := direction(r3.Sub(tie, side.block), 0.05); !leads {
			return r3.Vec{}
		}
		points[0].Point = pointOf(tie)
		line.Path{LoadKn: 1, Motion: line.Lowering, Points: points}.SolveInto(&path)
		return r3.Scale(kn*path.Points[0].ResultantKn, path.Points[0].Direction.Vec())
	}
	var all []r3.Vec
	for k := range e.course {
		one := &e.course[k].hang.Ties[i]
		all = append(all, force(e.plane.spot(one.At, 0), one.TensionKn))
	}
	if e.drawn != nil {
		for k := range e.drawn.heavy {
			all = append(all, force(e.drawn.heavy[k].Along(side.Settings.TieM), e.drawn.heavy[k].Kn[i]))
		}
	}
	most := hardest(len(all), func(k int) float64 { return r3.Norm(all[k]) })
	out := hardest(len(all), func(k int) float64 { return r3.Norm(level(all[k])) })
	for k := range some(len(all), mostLeads, most, out) {
		side.leads = append(side.leads, all[k])
	}
	side.leadsRest = r3.Norm(all[most])
	for _, tie := range [2]r3.Vec{side.tie, e.plane.spot(e.course[0].hang.Ties[i].At, 0)} {
		caught := force(tie, peak)
		if side.leads = append(side.leads, caught); e.drawn != nil {
			side.leads = append(side.leads, r3.Add(caught, e.drawn.across()))
		}
	}
}
