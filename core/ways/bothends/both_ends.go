// Package bothends works out pieces that leave their cut onto a line at the butt and one at the tip: the catch by the
// energy sum of package drop for two ends, and every moment of the way down by the statics of package line.
package bothends

import (
	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
	"elkstay/core/ways/roped"
)

// BothEnds is a piece that leaves its cut onto a line at its butt and one at its tip, each run by its
// own hand, and is carried down on them: how they catch it, and every moment of its way down.
type BothEnds struct {
	roped.Roped // the piece on both

	set     job.Ends
	sides   [2]*roped.Roped // each line's own rig, block and way, from the butt
	plane   endsPlane
	caught  drop.EndsRun   // of all, the one that loads its lines hardest; the most that each carries and lets run
	catches []drop.EndsRun // as its hinge may let it go
	lowM    float64        // the least height of its wood as they catch it
	breaks  string         // what a hinge that is told of does should it break at once; empty: no more
	aside   [2]float64     // what the swing out of the plane adds, as a factor
	moments []endsMoment
	drawn   *roped.PairTag // by a tag line; nil: none
	falls   [2]string      // what happens when the line is let go
	leaves  string         // where the program leaves it
	early   bool           // in a hurry: what stops it does so as its lines catch it, whatever the program
	known   bool           // its forces are known: it can be followed
}

// Way is the way down on two lines.
var Way course.Way = way{}

type way struct{}

func (way) Held() course.Holding { return course.HeldByLine }

func (way) Bound(s *course.Scene, piece *hold.Load) { s.BoundByCrew(piece) }

func (way) Make(c course.Course) course.Made {
	o := &BothEnds{Roped: *roped.New(c)}
	o.LineSum, o.LineRequest = o.lineSum, o.lineRequest
	o.make()
	return o
}

// endsPlane is the upright plane through both points: x along it from the butt's.
type endsPlane struct {
	from  r3.Vec // on the plan
	along r3.Vec
	out   r3.Vec
}

func (p *endsPlane) x(at r3.Vec) float64 { return r3.Dot(space.Level(r3.Sub(at, p.from)), p.along) }

func (p *endsPlane) aside(at r3.Vec) float64 { return r3.Dot(space.Level(r3.Sub(at, p.from)), p.out) }

func (p *endsPlane) spot(s line.Spot, aside float64) r3.Vec {
	return r3.Add(r3.Add(p.from, r3.Add(r3.Scale(s.X, p.along), r3.Scale(aside, p.out))), r3.Vec{Z: s.Z})
}

// endNames are the two lines, from the butt.
var endNames = [2]string{job.EndButt, job.EndTip}

// make lays out both lines, follows how they catch the piece and carries it down on them.
func (o *BothEnds) make() {
	if o.Stopped() {
		return
	}
	o.set = o.Pick.BothEnds(o.Length())
	if *o.set.Tip.TieM <= *o.set.Butt.TieM {
		o.Fault(course.FaultTie, "the line at the tip is tied %s from the cut, no further out than that at the butt (%s)", o.Height(*o.set.Tip.TieM), o.Height(*o.set.Butt.TieM))
		return
	}
	for i, end := range []*job.End{&o.set.Butt, &o.set.Tip} {
		side := o.endSide(end, i)
		if side == nil {
			return
		}
		o.sides[i] = side
	}
	if !o.catch() {
		return
	}
	o.carryDown()
	if o.Stopped() {
		return
	}
	o.drawn = o.TaggedPair(max(0.01, min(o.Length()-0.01, o.Weight.CogM)), o.pairMoments())
	if o.Stopped() {
		return
	}
	o.known = true
	o.Rig, o.Settings, o.Block, o.Tie = o.sides[0].Rig, o.sides[0].Settings, o.sides[0].Block, o.sides[0].Tie
	before := len(o.Loads)
	for i, side := range o.sides {
		o.endLoads(i, side)
	}
	hold.Together(o.Loads[before:])
	o.TagLoads()
	o.Catch = drop.Catch{LinePeakKn: max(o.sides[0].Catch.LinePeakKn, o.sides[1].Catch.LinePeakKn), Holds: o.caught.Stopped}
}

// Held is how its lines catch it; nil: they do not.
func (o *BothEnds) Held() *course.Held {
	if !o.known {
		return nil
	}
	return &course.Held{PeakKn: o.Catch.LinePeakKn, Holds: o.Catch.Holds, Runs: o.Catch.Runs, RunM: o.Catch.RunM, Floor: o.Floor, LowestM: o.lowM, Stops: true}
}

// Follow measures what is round it from its cut onto both lines and down on them.
func (o *BothEnds) Follow() {
	if !o.known {
		return
	}
	if o.Hurried && hold.Over(o.Loads, 1) != "" {
		o.early = o.caught.PeakKn[0]*o.aside[0] > o.steepest(0).kn && o.caught.PeakKn[1]*o.aside[1] > o.steepest(1).kn
		return
	}
	way, released := o.sweep()
	o.Cases[0].Way = way
	o.roomBetween(&way, released)
	if o.Hurried && o.stoppedBetween(&way, released) {
		return
	}
	// Let go out of the plane of its lines it swings through it, until its stem or somebody stops it: that is said.
	let := way.From(released)
	if o.StaysOut(&let); !o.Stopped() {
		if name := o.BroughtInto(&way); name != "" {
			o.Note("As it comes onto its lines it can swing into the no-go sector %s: hold it off with a tag line.", name)
		}
	}
	o.Clears = o.Measure(&way, o.WoodRound())
	if o.Enough(o) {
		return
	}
	o.ComesDownBy(&way, o.Block.Z)
	o.PastStem(&way)
	o.RopesAlong(o.TagLegs(), &way, o.Led, o.Block)
	for _, side := range o.sides {
		side.Clears = nil
		side.AlongRopes(&way)
		o.Notes = append(o.Notes, side.Notes...)
		for _, c := range side.Clears {
			o.ComesNear(c.Target, c.ClearanceM, o.Keeps(c.Target))
		}
	}
	course.SortClearances(o.Clears)
	o.letGo()
}

// stoppedBetween reports that something stops a piece that is only looked at in a hurry, and notes whether that does so as
// its lines catch it.
func (o *BothEnds) stoppedBetween(way *space.Sweep, released int) bool {
	if o.early = o.Enough(o) && o.Floor.Onto == ""; !o.early {
		onto := way.UpTo(released)
		o.Clears = o.Measure(&onto, nil)
		o.early = o.Forbids(o) == course.StopsClear
	}
	return o.Enough(o)
}

// Sits are the places that the gear of both lines sits on.
func (o *BothEnds) Sits() []course.Sit {
	list := o.Roped.Sits()
	if o.known {
		list = append(list, o.sides[1].TurnsSit("the block at the tip")...)
	}
	return list
}

// PutDown is where it is put down: where its way ends.
func (o *BothEnds) PutDown() (at r3.Vec, known bool) {
	n := len(o.moments)
	if !o.known || n == 0 {
		return at, false
	}
	return space.Level(o.plane.spot(o.moments[n-1].hang.Cog, 0)), true
}

// StoppedEarly reports, of a piece worked out in a hurry, that no other program would help: it is stopped as its two lines
// catch it.
func (o *BothEnds) StoppedEarly() bool { return o.early }

// endRig is the rig of one of the lines: the one named; of the butt the pick's own, of the tip the
// next with a rope.
func (o *BothEnds) endRig(end *job.End, i int) *job.Rig {
	switch {
	case end.Rig != "":
		return o.RigNamed(end.Rig)
	case i == 0:
		return o.RigNamed(o.Pick.Rig)
	}
	butt := o.RigNamed(o.Pick.Rig)
	if own := o.Pick.Ends; own != nil && own.Butt.Rig != "" {
		butt = o.RigNamed(own.Butt.Rig)
	}
	for k := range o.Job.Rigs {
		if r := &o.Job.Rigs[k]; r != butt && r.Rope != nil {
			return r
		}
	}
	return nil
}

// endSide readies one of the lines: its rig, where it is tied, its block and its way. Nil: a fault
// says why not.
func (o *BothEnds) endSide(end *job.End, i int) (side *roped.Roped) {
	rig := o.endRig(end, i)
	if rig == nil {
		o.Fault(course.FaultRig, "there is no rig for the line at the %s: two lines need two", endNames[i])
		return nil
	}
	if rig.Rope == nil {
		o.Fault(course.FaultRig, "%s, at the %s, has no rope: choose one", rig.Name, endNames[i])
		return nil
	}
	one, piece := o.Roped, *o.Piece
	side = &one
	side.Piece, side.Loads, side.Faults, side.Points, side.Whole = &piece, nil, nil, nil, &o.Roped
	side.Rig, side.Offered = rig, rig
	side.Settings = rig.Settings(o.Pick)
	side.Settings.FallTowardsDeg, side.Settings.TieM = o.Settings.FallTowardsDeg, *end.TieM
	side.Settings.SlackM = job.Or(end.SlackM, side.Settings.SlackM)
	if end.TightKn != nil && *end.TightKn > 0 {
		side.Settings.SlackM = 0
	}
	if side.Settings.TieM >= o.Length() {
		o.Fault(course.FaultTie, "the line at the %s is tied %s from the cut, at or beyond the piece's end (%s long)", endNames[i], o.Height(side.Settings.TieM), o.Height(o.Length()))
		return nil
	}
	side.Tie = o.Along(side.Settings.TieM)
	side.Block = side.BlockAt(true)
	if !side.Stopped() && side.Block.Z <= side.Tie.Z {
		side.Fault(course.FaultBlock, "the block at the %s (%s) is not above where the piece is tied (%s): a line cannot push", endNames[i], o.Height(side.Block.Z), o.Height(side.Tie.Z))
	}
	if !side.Stopped() {
		side.LayOut()
	}
	if side.Stopped() {
		o.Faults = append(o.Faults, side.Faults...)
		return nil
	}
	return side
}
