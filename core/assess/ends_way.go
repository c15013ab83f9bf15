package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/units"
)

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
