package bothends

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways/roped"
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

// catch follows the piece from its cut onto both lines.
func (o *BothEnds) catch() bool {
	a, b := o.sides[0].Block, o.sides[1].Block
	// One above the other: the plane is that of the piece.
	o.plane.from = space.Level(a)
	o.plane.along = space.Heading(0.05, space.Towards(o.Settings.FallTowardsDeg), space.Level(r3.Sub(o.Tip, o.Cut)), space.Level(r3.Sub(b, a)))
	o.plane.out = r3.Cross(o.plane.along, r3.Vec{Z: 1})
	long := o.Length()
	cog := max(0.01, min(long-0.01, o.Weight.CogM))
	axis := r3.Sub(o.Tip, o.Cut)
	turn := math.Atan2(axis.Z, o.plane.x(o.Tip)-o.plane.x(o.Cut))
	mass, gyration := o.Counts(), o.Gyration(space.Heading(0.02, o.plane.along, space.Level(axis)))
	catch := drop.Ends{
		MassKg: mass, LengthM: long, CogM: cog, InertiaKgM2: mass * gyration * gyration, X: o.plane.x(o.Weight.At), Z: o.Weight.At.Z, AttitudeDeg: turn * 180 / math.Pi,
	}
	for i, side := range o.sides {
		tight := 0.0
		if end := [2]*job.End{&o.set.Butt, &o.set.Tip}[i]; end.TightKn != nil {
			tight = *end.TightKn
		}
		hold := holdOf(&side.Settings)
		catch.Ends[i] = drop.End{AtM: side.Settings.TieM, X: o.plane.x(side.Block), Z: side.Block.Z, SlackM: side.Settings.SlackM, PretensionKn: min(tight, hold/side.Ratio()), LeadM: side.LeadM(),
			Rope: side.Rig.Rope.Rope, Efficiency: side.Ratio(), AnchorStiffnessKnM: job.Or(side.Rig.AnchorStiffnessKnM, 0), HoldKn: hold}
		// What leads out of the plane swings through it: at the bottom of an arc a weight pulls with
		// 3 − 2·cos of where it began.
		off := math.Atan2(math.Abs(o.plane.aside(side.Tie)-o.plane.aside(side.Block)), side.Block.Z-side.Tie.Z)
		o.aside[i] = 3 - 2*math.Cos(off)
	}
	for i := range catch.Ends {
		if one := &catch.Ends[i]; one.PretensionKn >= one.Rope.BreakingKn {
			o.Fault(course.FaultTie, "the line at the %s, made as tight as %s, breaks before the cut", endNames[i], units.Print(units.Force, o.System, one.PretensionKn))
			return false
		}
	}
	faces := facesUnknown[:]
	if o.set.FaceDeg != nil {
		faces = []float64{*o.set.FaceDeg}
	}
	for _, end := range o.heldAs(&catch) {
		for _, deg := range faces {
			end.HingeDeg = deg
			o.catches = append(o.catches, end.Follow())
		}
	}
	o.caught = worstOf(o.catches)
	if o.set.FaceDeg != nil && *o.set.FaceDeg > 0 {
		catch.HingeDeg = 0
		if breaks := catch.Follow(); breaks.PeakKn[0] > o.caught.PeakKn[0] || breaks.PeakKn[1] > o.caught.PeakKn[1] {
			o.breaks = fmt.Sprintf("Should its hinge break at once, the line at the butt peaks at %s and that at the tip at %s.",
				units.Print(units.Force, o.System, breaks.PeakKn[0]*o.aside[0]), units.Print(units.Force, o.System, breaks.PeakKn[1]*o.aside[1]))
		}
	}
	if !o.caught.Stopped {
		o.Fault(course.FaultRig, "the lines do not stop it: what is held on them runs out")
		return false
	}
	return true
}

// heldAs is a catch with as much friction as there may be and as little; once, where nothing runs.
func (o *BothEnds) heldAs(given *drop.Ends) (cases []drop.Ends) {
	if math.IsInf(given.Ends[0].HoldKn, 1) && math.IsInf(given.Ends[1].HoldKn, 1) {
		return []drop.Ends{*given}
	}
	for _, times := range []float64{1 + roped.FrictionOff, 1 - roped.FrictionOff} {
		one := *given
		for i, side := range o.sides {
			rubbed := side.Rubbed(times)
			end := &one.Ends[i]
			end.HoldKn, end.Efficiency = holdOf(&rubbed.Settings), rubbed.Ratio()
			end.PretensionKn = min(end.PretensionKn, end.HoldKn/end.Efficiency)
		}
		cases = append(cases, one)
	}
	return cases
}

// facesUnknown are how far a piece may turn on a hinge that nobody has told of: none, a narrow and
// an open face (common practice, no source).
var facesUnknown = [...]float64{0, 35, 75}

// worstOf is the catch that loads its lines hardest, with the most that each line carries and lets
// run in any.
func worstOf(ways []drop.EndsRun) drop.EndsRun {
	out := ways[search.Largest(len(ways), func(k int) float64 { return ways[k].PeakKn[0] + ways[k].PeakKn[1] })]
	for k := range ways {
		out.Stopped = out.Stopped && ways[k].Stopped
		for i := range out.PeakKn {
			out.PeakKn[i], out.RunM[i], out.LineM[i] = max(out.PeakKn[i], ways[k].PeakKn[i]), max(out.RunM[i], ways[k].RunM[i]), max(out.LineM[i], ways[k].LineM[i])
		}
	}
	return out
}

// hanging is the piece on both lines as it first hangs, as the kind two-tie has it.
func (o *BothEnds) hanging() line.TwoTie {
	hang := line.TwoTie{MassKg: o.Counts(), LengthM: o.Length(), CogM: max(0.01, min(o.Length()-0.01, o.Weight.CogM)), Ties: make([]line.Tied, 2)}
	for i, side := range o.sides {
		hang.Ties[i] = line.Tied{Name: endNames[i], AtM: side.Settings.TieM, Point: line.Spot{X: o.plane.x(side.Block), Z: side.Block.Z}, LineM: max(0.05, o.caught.LineM[i])}
	}
	return hang
}

// carryDown carries the piece down: every moment of the program from where it first hangs.
func (o *BothEnds) carryDown() {
	hang := o.hanging()
	moment := func(step int, out [2]float64) bool {
		for i := range hang.Ties {
			hang.Ties[i].LineM = max(0.05, o.caught.LineM[i]+out[i])
		}
		hangs, faults := hang.Hangs("ends")
		if len(faults) > 0 {
			if step < 0 {
				o.Fault(course.FaultReach, "%s", faults[0].Message)
			} else {
				o.Fault(course.FaultReach, "at step %d of its program %s", step+1, faults[0].Message)
			}
			return false
		}
		o.moments = append(o.moments, endsMoment{step, out, hangs})
		return true
	}
	out := [2]float64{}
	if !moment(-1, out) {
		return
	}
	program, own := o.set.Program, true
	if len(program) == 0 {
		own = false
		program = []job.EndStep{{Line: job.EndBoth, ByM: max(0.5, o.moments[0].hang.LowestM)}}
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
			if o.moments[len(o.moments)-1].hang.LowestM <= 0 {
				o.leaves = "its lower end is on the ground"
				break
			}
		}
		if o.leaves != "" {
			break
		}
	}
	if o.leaves == "" && own {
		o.leaves = fmt.Sprintf("at the end of the program its lower end hangs %s up", o.Height(max(0, o.moments[len(o.moments)-1].hang.LowestM)))
	}
}

// poseOf is the piece with its balance at a place of the plane, at an attitude; of one that grows
// out of the plane a share of that is left.
func (o *BothEnds) poseOf(x, z, deg, aside, left float64) space.Pose {
	sin, cos := math.Sincos(space.Radians(deg))
	was := o.Heads()
	flat := r3.Add(r3.Scale(1-left, o.plane.along), r3.Scale(left*math.Copysign(1, cos), space.Level(was)))
	if way, leads := space.Direction(flat, 1e-6); leads {
		flat = way
	}
	axis := r3.Unit(r3.Add(r3.Scale(cos, flat), r3.Vec{Z: sin}))
	butt := r3.Sub(o.plane.spot(line.Spot{X: x, Z: z}, aside), r3.Scale(o.Weight.CogM, axis))
	return space.TurnedInto(was, axis, o.plane.out, butt)
}

// sweep is the way of the piece from its cut onto both lines and down on them, which begins at the pose released.
func (o *BothEnds) sweep() (s space.Sweep, released int) {
	s = space.SweepOf(o.Body())
	off := o.plane.aside(o.Weight.At)
	s.Add(space.Turned(r3.Vec{}, 0, o.Cut), true)
	for w := range o.catches {
		one := &o.catches[w]
		for k := range one.TS {
			// It swings through the plane and out again as far.
			share := float64(k) / float64(max(1, len(one.TS)-1))
			s.Add(o.poseOf(one.X[k], one.Z[k], one.Deg[k], off*math.Cos(2*math.Pi*share), 1-share), k == 0)
		}
	}
	released = len(s.Poses)
	for k := range o.moments {
		if k > 0 && o.drawn != nil && o.Drawn() {
			break
		}
		h := &o.moments[k].hang
		s.Add(o.poseOf(h.Cog.X, h.Cog.Z, h.AttitudeDeg, 0, 0), k == 0)
	}
	if o.drawn != nil {
		o.drawn.Sweep(&o.Roped, &s)
		o.SwingBack(o.sides[0].Block, o.sides[1].Block, o.drawn)
	}
	return s, released
}

// roomBetween finds how low a piece comes as both lines catch it and what lies beneath there, how much runs, and what it is
// put down on.
func (o *BothEnds) roomBetween(way *space.Sweep, released int) {
	reach, least := max(0.5, o.Length()/4), math.Inf(1)
	// With what the first of its moments on the lines adds.
	for k := range way.Poses[:min(released+1, len(way.Poses))] {
		pose := &way.Poses[k]
		low, middle := math.Inf(1), pose.Place(r3.Sub(o.Weight.At, o.Cut))
		for i := range way.Parts {
			low = min(low, pose.Place(way.Parts[i].Off).Z-way.Parts[i].WoodR)
		}
		if beneath := o.FloorUnder(middle.X, middle.Y, reach, middle.Z, o.WoodRound()); low-beneath.Z < least {
			least, o.lowM, o.Floor = low-beneath.Z, low, beneath
		}
	}
	last := o.moments[len(o.moments)-1].hang.Cog
	at := o.plane.spot(last, 0)
	o.Floor.Onto = o.FloorUnder(at.X, at.Y, reach, at.Z, o.WoodRound()).Onto
	o.Catch.RunM = max(o.caught.RunM[0], o.caught.RunM[1])
}
