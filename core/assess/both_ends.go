package assess

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/units"
	"elkstay/core/working"
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

func (p *endsPlane) x(at r3.Vec) float64     { return r3.Dot(level(r3.Sub(at, p.from)), p.along) }
func (p *endsPlane) aside(at r3.Vec) float64 { return r3.Dot(level(r3.Sub(at, p.from)), p.out) }
func (p *endsPlane) spot(s line.Spot, aside float64) r3.Vec {
	return r3.Add(r3.Add(p.from, r3.Add(r3.Scale(s.X, p.along), r3.Scale(aside, p.out))), r3.Vec{Z: s.Z})
}

// An endsMoment is one moment of the way down.
type endsMoment struct {
	step int // of the program; −1: as it first hangs
	out  [2]float64
	hang line.Hanging
}

// carryStep is how far lines are let out from moment to moment, m; mostMoments bounds them.
const (
	carryStep   = 0.1
	mostMoments = 240
)

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

// holdOf is the tension on the lead at which a line runs, kN; +Inf: it is locked off.
func holdOf(s *job.Settings) float64 {
	switch s.How {
	case job.ByWraps:
		return line.HeldBy(s.HandKn, s.Wraps, s.Friction)
	case job.ByHold:
		return s.HoldKn
	}
	return math.Inf(1)
}

// endsCatch follows the piece from its cut onto both lines.
func (v *Survey) endsCatch(o *Outcome, e *endsOf, now *Standing) bool {
	a, b := e.sides[0].block, e.sides[1].block
	// One above the other: the plane is that of the piece.
	e.plane.from = level(a)
	e.plane.along = heading(0.05, towards(o.Settings.FallTowardsDeg), level(r3.Sub(o.tip, o.cut)), level(r3.Sub(b, a)))
	e.plane.out = r3.Cross(e.plane.along, r3.Vec{Z: 1})
	long := o.Length()
	cog := max(0.01, min(long-0.01, o.Weight.cog))
	axis := r3.Sub(o.tip, o.cut)
	turn := math.Atan2(axis.Z, e.plane.x(o.tip)-e.plane.x(o.cut))
	mass, gyration := o.counts(), v.gyration(o, heading(0.02, e.plane.along, level(axis)), now)
	catch := drop.Ends{
		MassKg: mass, LengthM: long, CogM: cog, InertiaKgM2: mass * gyration * gyration, X: e.plane.x(o.Weight.at), Z: o.Weight.at.Z, AttitudeDeg: turn * 180 / math.Pi,
	}
	for i, side := range e.sides {
		tight := 0.0
		if end := [2]*job.End{&e.set.Butt, &e.set.Tip}[i]; end.TightKn != nil {
			tight = *end.TightKn
		}
		hold := holdOf(&side.Settings)
		catch.Ends[i] = drop.End{AtM: side.Settings.TieM, X: e.plane.x(side.block), Z: side.block.Z, SlackM: side.Settings.SlackM, PretensionKn: min(tight, hold/side.Ratio()), LeadM: side.leadM(),
			Rope: side.Rig.Rope.Rope, Efficiency: side.Ratio(), AnchorStiffnessKnM: job.Or(side.Rig.AnchorStiffnessKnM, 0), HoldKn: hold}
		// What leads out of the plane swings through it: at the bottom of an arc a weight pulls with
		// 3 − 2·cos of where it began.
		off := math.Atan2(math.Abs(e.plane.aside(side.tie)-e.plane.aside(side.block)), side.block.Z-side.tie.Z)
		e.aside[i] = 3 - 2*math.Cos(off)
	}
	for i := range catch.Ends {
		if one := &catch.Ends[i]; one.PretensionKn >= one.Rope.BreakingKn {
			o.fault(faultTie, "the line at the %s, made as tight as %s, breaks before the cut", endNames[i], units.Print(units.Force, v.System, one.PretensionKn))
			return false
		}
	}
	faces := facesUnknown[:]
	if e.set.FaceDeg != nil {
		faces = []float64{*e.set.FaceDeg}
	}
	for _, deg := range faces {
		catch.HingeDeg = deg
		e.ways = append(e.ways, catch.Follow())
	}
	e.caught = worstOf(e.ways)
	if e.set.FaceDeg != nil && *e.set.FaceDeg > 0 {
		catch.HingeDeg = 0
		if breaks := catch.Follow(); breaks.PeakKn[0] > e.caught.PeakKn[0] || breaks.PeakKn[1] > e.caught.PeakKn[1] {
			e.breaks = fmt.Sprintf("Should its hinge break at once, the line at the butt peaks at %s and that at the tip at %s.",
				units.Print(units.Force, v.System, breaks.PeakKn[0]*e.aside[0]), units.Print(units.Force, v.System, breaks.PeakKn[1]*e.aside[1]))
		}
	}
	if !e.caught.Stopped {
		o.fault(faultRig, "the lines do not stop it: what is held on them runs out")
		return false
	}
	return true
}

// facesUnknown are how far a piece may turn on a hinge that nobody has told of: none, a narrow and
// an open face (common practice, no source).
var facesUnknown = [...]float64{0, 35, 75}

// worstOf is the catch that loads its lines hardest, with the most that each line carries and lets
// run in any.
func worstOf(ways []drop.EndsRun) drop.EndsRun {
	out := ways[hardest(len(ways), func(k int) float64 { return ways[k].PeakKn[0] + ways[k].PeakKn[1] })]
	for k := range ways {
		out.Stopped = out.Stopped && ways[k].Stopped
		for i := range out.PeakKn {
			out.PeakKn[i], out.RunM[i], out.LineM[i] = max(out.PeakKn[i], ways[k].PeakKn[i]), max(out.RunM[i], ways[k].RunM[i]), max(out.LineM[i], ways[k].LineM[i])
		}
	}
	return out
}

// hanging is the piece on both lines as it first hangs, as the kind two-tie has it.
func (e *endsOf) hanging(o *Outcome) line.TwoTie {
	hang := line.TwoTie{MassKg: o.counts(), LengthM: o.Length(), CogM: max(0.01, min(o.Length()-0.01, o.Weight.cog)), Ties: make([]line.Tied, 2)}
	for i, side := range e.sides {
		hang.Ties[i] = line.Tied{Name: endNames[i], AtM: side.Settings.TieM, Point: line.Spot{X: e.plane.x(side.block), Z: side.block.Z}, LineM: max(0.05, e.caught.LineM[i])}
	}
	return hang
}

// endsCourse carries the piece down: every moment of the program from where it first hangs.
func (v *Survey) endsCourse(o *Outcome, e *endsOf) {
	hang := e.hanging(o)
	moment := func(step int, out [2]float64) bool {
		for i := range hang.Ties {
			hang.Ties[i].LineM = max(0.05, e.caught.LineM[i]+out[i])
		}
		hangs, faults := hang.Hangs("ends")
		if len(faults) > 0 {
			if step < 0 {
				o.fault(faultReach, "%s", faults[0].Message)
			} else {
				o.fault(faultReach, "at step %d of its program %s", step+1, faults[0].Message)
			}
			return false
		}
		e.course = append(e.course, endsMoment{step, out, hangs})
		return true
	}
	out := [2]float64{}
	if !moment(-1, out) {
		return
	}
	program, own := e.set.Program, true
	if len(program) == 0 {
		own = false
		program = []job.EndStep{{Line: job.EndBoth, ByM: max(0.5, e.course[0].hang.LowestM)}}
	}
	total := 0.0
	for _, s := range program {
		total += math.Abs(s.ByM)
	}
	each := max(carryStep, total/mostMoments)
	for k, s := range program {
		parts := int(math.Ceil(math.Abs(s.ByM)/each - 1e-9))
		from := out
		for part := 1; part <= parts; part++ {
			by := s.ByM * float64(part) / float64(parts)
			for i := range out {
				if s.Line == job.EndBoth || s.Line == endNames[i] {
					out[i] = from[i] + by
				}
			}
			if !moment(k, out) {
				return
			}
			if e.course[len(e.course)-1].hang.LowestM <= 0 {
				e.ends = "its lower end is on the ground"
				break
			}
		}
		if e.ends != "" {
			break
		}
	}
	if e.ends == "" && own {
		e.ends = fmt.Sprintf("at the end of the program its lower end hangs %s up", v.Height(max(0, e.course[len(e.course)-1].hang.LowestM)))
	}
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

// endWorking writes the sum behind one of the two lines.
func (o *Outcome) endWorking(sheet *working.Sheet, side *Outcome) {
	e := o.ends
	i := slices.Index(e.sides[:], side)
	worst := e.steepest(i)
	sheet.Add("T", "at rest, where its way down is steepest: of all places that both lines allow, the lowest", fmt.Sprintf("W = %s kN; %s° from upright", working.Figure(o.weightKn()), working.Figure(worst.uprightDeg)), worst.kn, "kN", "statics: forces in a plane")
	sheet.Add("T₀", "when the cut lets go", "followed as a body over its hinge and onto two lines that stretch, undamped", e.caught.PeakKn[i], "kN", "equations of motion, fourth-order steps")
	sheet.Add("f", "what swings out of the plane of the two points", "3 − 2·cos of its angle from upright", e.aside[i], "", "energy")
	sheet.Add("T₁", "peak", "the more of T and T₀·f", side.Catch.LinePeakKn, "kN", "")
}

// poseOf is the piece with its balance at a place of the plane, at an attitude; of one that grows
// out of the plane a share of that is left.
func (e *endsOf) poseOf(o *Outcome, x, z, deg, aside, left float64) pose {
	sin, cos := math.Sincos(radians(deg))
	was := o.heads()
	flat := r3.Add(r3.Scale(1-left, e.plane.along), r3.Scale(left*math.Copysign(1, cos), level(was)))
	if way, leads := direction(flat, 1e-6); leads {
		flat = way
	}
	axis := r3.Unit(r3.Add(r3.Scale(cos, flat), r3.Vec{Z: sin}))
	butt := r3.Sub(e.plane.spot(line.Spot{X: x, Z: z}, aside), r3.Scale(o.Weight.cog, axis))
	return turnedInto(was, axis, e.plane.out, butt)
}

// endsWay is the way of the piece from its cut onto both lines and down on them, which begins at the pose released.
func (v *Survey) endsWay(o *Outcome, e *endsOf, now *Standing) (s sweep, released int) {
	s = sweepOf(v.body(o, now))
	off := e.plane.aside(o.Weight.at)
	s.add(turned(r3.Vec{}, 0, o.cut), true)
	for w := range e.ways {
		one := &e.ways[w]
		for k := range one.TS {
			// It swings through the plane and out again as far.
			share := float64(k) / float64(max(1, len(one.TS)-1))
			s.add(e.poseOf(o, one.X[k], one.Z[k], one.Deg[k], off*math.Cos(2*math.Pi*share), 1-share), k == 0)
		}
	}
	released = len(s.poses)
	for k := range e.course {
		if k > 0 && e.drawn != nil && o.tag.alone(v) {
			break
		}
		h := &e.course[k].hang
		s.add(e.poseOf(o, h.Cog.X, h.Cog.Z, h.AttitudeDeg, 0, 0), k == 0)
	}
	if e.drawn != nil {
		e.drawn.sweep(o, &s)
		o.tag.back = v.swingsBetween(o, now, e.sides[0].block, e.sides[1].block, o.Weight.cog, e.drawn)
	}
	return s, released
}

// roomBetween finds how low a piece comes as both lines catch it and what lies beneath there, how much runs, and what it is
// put down on.
func (v *Survey) roomBetween(o *Outcome, e *endsOf, way *sweep, released int, now *Standing) {
	reach, least := max(0.5, o.Length()/4), math.Inf(1)
	// With what the first of its moments on the lines adds.
	for k := range way.poses[:min(released+1, len(way.poses))] {
		pose := &way.poses[k]
		low, middle := math.Inf(1), pose.place(r3.Sub(o.Weight.at, o.cut))
		for i := range way.balls {
			low = min(low, pose.place(way.balls[i].off).Z-way.balls[i].wood)
		}
		if beneath := v.floorUnder(middle.X, middle.Y, reach, middle.Z, v.woodRound(o, now)); low-beneath.z < least {
			least, e.lowM, o.floor = low-beneath.z, low, beneath
		}
	}
	last := e.course[len(e.course)-1].hang.Cog
	at := e.plane.spot(last, 0)
	o.floor.onto = v.floorUnder(at.X, at.Y, reach, at.Z, v.woodRound(o, now)).onto
	o.Catch.RunM = max(e.caught.RunM[0], e.caught.RunM[1])
}

// endsLetGo says what happens when either line fails, slips or is let go: of all moments on the way down the one that
// loads the other line hardest, and what is struck at any of them. That it comes to the ground when it is nearly there
// is no news.
func (v *Survey) endsLetGo(o *Outcome, e *endsOf, now *Standing) {
	for i := range e.sides {
		other := 1 - i
		side := e.sides[other]
		below := o.mostBelow(side.Settings.TieM)
		peak, fallsM, strikes, onto := 0.0, 0.0, "", ""
		for k := range e.course {
			at := &e.course[k]
			long := max(0.05, e.caught.LineM[other]+at.out[other])
			held := drop.Held{MassKg: o.counts(), SinkM: at.hang.Ties[other].DropM, LineM: long, LeadM: side.leadM(), Rope: side.Rig.Rope.Rope, Efficiency: side.Ratio(), AnchorStiffnessKnM: job.Or(side.Rig.AnchorStiffnessKnM, 0)}
			low := side.block.Z - long - below
			// Beneath where it is tied then: what stands above that is not in its way.
			under := v.floorUnder(side.block.X, side.block.Y, 0.5, side.block.Z-long, v.woodRound(o, now))
			hits := low < under.z
			if hits && onto == "" && under.name != theGround {
				onto = under.name
			}
			// Of moments that are alike but for the last digit the first.
			if caught := held.Solve(); caught.LinePeakKn > peak*(1+1e-6) {
				peak, fallsM = caught.LinePeakKn, at.hang.Ties[other].DropM
				strikes = fmt.Sprintf("its lower end comes to %s", v.Height(max(0, low)))
				if hits {
					strikes = "it strikes " + under.name
				}
			}
		}
		if onto != "" {
			strikes = "it strikes " + onto
		}
		limit := ""
		if rated := v.limits.RateTie(side.Rig, 0, peak); rated.Known {
			limit = fmt.Sprintf(" of %s", units.Print(units.Force, v.System, rated.Limit.Kn))
		}
		e.falls[i] = fmt.Sprintf("When the line at the %s is let go, its balance falls %s onto the line at the %s: %s%s locked off; %s.",
			endNames[i], v.Height(fallsM), endNames[other], units.Print(units.Force, v.System, peak), limit, strikes)
	}
}

func (bothEnds) call(v *Survey, o *Outcome) string {
	if o.ends == nil {
		return ""
	}
	program, tag := o.ends.set.Program, ""
	if o.tag != nil {
		tag = "; tag: draw to " + o.tag.anchor
	}
	if len(program) == 0 {
		return "Butt and tip: let out alike" + tag
	}
	said := make([]string, 0, len(program))
	for _, s := range program {
		said = append(said, v.endStep(&s))
	}
	return strings.Join(said, ", then ") + tag
}

// endStep is one step of a program as it is called, to each hand its own words.
func (v *Survey) endStep(s *job.EndStep) string {
	does := "let out " + v.Height(s.ByM)
	if s.ByM < 0 {
		does = "take in " + v.Height(-s.ByM)
	}
	switch s.Line {
	case job.EndButt:
		return "tip: hold; butt: " + does
	case job.EndTip:
		return "butt: hold; tip: " + does
	}
	return "both: " + does
}

func (bothEnds) cautions(o *Outcome) []string {
	if o.ends == nil {
		return nil
	}
	list := append([]string{}, o.ends.falls[:]...)
	if o.ends.ends != "" {
		list = append(list, strings.ToUpper(o.ends.ends[:1])+o.ends.ends[1:]+".")
	}
	switch told := o.ends.set.FaceDeg; {
	case told == nil:
		list = append(list, fmt.Sprintf("How far it turns on its hinge is not said: the worst of letting go at once, at %g° and at %g° is told.", facesUnknown[1], facesUnknown[2]))
	case *told == 0:
		list = append(list, "It is taken as let go at rest where it grows.")
	case o.ends.breaks != "":
		list = append(list, o.ends.breaks)
	}
	return append(list, "Nothing damps it. The two hands must be able to hear each other.")
}

func (bothEnds) because(v *Survey, o *Outcome) string { return v.becauseHeld("Held at both ends", o) }

func (bothEnds) simulate(_ context.Context, v *Survey, o *Outcome, _ int, trace *Trace) error {
	trace.Kind, trace.Course = "course", v.courseFrames(o)
	return nil
}

// letOutAt is how fast lines are taken to be let out, m/s (common practice, no source).
const letOutAt = 0.3

// A CourseFrame is one moment of a piece held at both ends.
type CourseFrame struct {
	AtS    float64    `json:"at_s"`
	Step   int        `json:"step" doc:"Of the program, from 0; −1: before it"`
	Butt   line.Point `json:"butt"`
	Tip    line.Point `json:"tip"`
	ButtAt line.Point `json:"butt_at" doc:"Where the line at the butt is tied"`
	TipAt  line.Point `json:"tip_at"`
	ButtKn float64    `json:"butt_kn"`
	TipKn  float64    `json:"tip_kn"`
}

// courseFrames are all moments, from the cut down.
func (v *Survey) courseFrames(o *Outcome) []CourseFrame {
	e := o.ends
	list := []CourseFrame{}
	long := o.Length()
	put := func(at float64, step int, p pose, kn [2]float64) {
		axis := r3.Unit(r3.Sub(o.tip, o.cut))
		along := func(m float64) line.Point { return pointOf(p.place(r3.Scale(m, axis))) }
		list = append(list, CourseFrame{AtS: at, Step: step, Butt: along(0), Tip: along(long), ButtAt: along(e.sides[0].Settings.TieM), TipAt: along(e.sides[1].Settings.TieM), ButtKn: kn[0], TipKn: kn[1]})
	}
	off, seconds := e.plane.aside(o.Weight.at), 0.0
	for k := range e.caught.TS {
		share := float64(k) / float64(max(1, len(e.caught.TS)-1))
		seconds = e.caught.TS[k]
		put(seconds, -1, e.poseOf(o, e.caught.X[k], e.caught.Z[k], e.caught.Deg[k], off*(1-share), 1-share), e.caught.Kn[k])
	}
	for k := range e.course {
		m := &e.course[k]
		if k > 0 {
			before := &e.course[k-1]
			seconds += max(math.Abs(m.out[0]-before.out[0]), math.Abs(m.out[1]-before.out[1])) / letOutAt
		} else {
			seconds += 0.5
		}
		put(seconds, m.step, e.poseOf(o, m.hang.Cog.X, m.hang.Cog.Z, m.hang.AttitudeDeg, 0, 0), [2]float64{m.hang.Ties[0].TensionKn, m.hang.Ties[1].TensionKn})
	}
	return list
}

// EndsFigures are the two lines of a piece and its way down.
type EndsFigures struct {
	Lines  []EndFigures  `json:"lines" nullable:"false" doc:"At its butt, at its tip"`
	Steps  []string      `json:"steps" nullable:"false" doc:"What is called, step by step"`
	Ghosts []CourseFrame `json:"ghosts" nullable:"false" doc:"As it first hangs, and at the end of every step"`
	Ends   string        `json:"ends" doc:"Where the program leaves it; empty: on the ground, by itself"`
}

// EndFigures is one of the two lines.
type EndFigures struct {
	End    string       `json:"end" enum:"butt,tip"`
	Rig    string       `json:"rig"`
	TieM   float64      `json:"tie_m" doc:"From the cut along the piece"`
	SlackM float64      `json:"slack_m"`
	Points []line.Point `json:"points" nullable:"false" doc:"From its block to its device"`
	RestKn float64      `json:"rest_kn" doc:"At the steepest of its way down"`
	PeakKn float64      `json:"peak_kn"`
	RunM   float64      `json:"run_m" doc:"Rope that runs when the cut lets go"`
}

// endsFigures gives the lines and the way down of a piece held at both ends.
func (v *Survey) endsFigures(o *Outcome) *EndsFigures {
	e := o.ends
	if e == nil {
		return nil
	}
	f := &EndsFigures{Lines: []EndFigures{}, Steps: []string{}, Ghosts: []CourseFrame{}, Ends: e.ends}
	for i, side := range e.sides {
		one := EndFigures{End: endNames[i], Rig: side.Rig.Name, TieM: side.Settings.TieM, SlackM: side.Settings.SlackM, Points: []line.Point{}, RestKn: e.steepest(i).kn, PeakKn: side.Catch.LinePeakKn, RunM: e.caught.RunM[i]}
		for _, stop := range side.points[1:] {
			one.Points = append(one.Points, stop.Point)
		}
		f.Lines = append(f.Lines, one)
	}
	for k := range e.set.Program {
		f.Steps = append(f.Steps, v.endStep(&e.set.Program[k]))
	}
	frames := v.courseFrames(o)
	first := len(e.caught.TS)
	for k := first; k < len(frames); k++ {
		if k == first || k == len(frames)-1 || frames[k].Step != frames[k+1].Step {
			f.Ghosts = append(f.Ghosts, frames[k])
		}
	}
	return f
}
