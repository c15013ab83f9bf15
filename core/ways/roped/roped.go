// Package roped works out pieces that come down on one line, or on two side by side: past their
// block, from above, swung, and carried between two points. A line's way is laid out from the tie
// to the hand; how it catches the piece is the energy sum of package drop, the pendulum of package
// swing or the statics of package line, each with its source; what is put between them here is
// common practice and says so.
package roped

import (
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
	"elkstay/core/swing"
	"elkstay/core/working"
)

// Roped is a piece on its line.
type Roped struct {
	course.Course
	Tie, Block r3.Vec
	Points     []line.Stop   // of its way: the piece under its block, its turns, the device
	Path       line.Tensions // along them, of a load of 1
	DropCase   *drop.Case    // nil: it does not fall onto its line
	Catch      drop.Catch
	Floor      space.Floor // what lies beneath it
	Tag        *Tagging    // nil: no tag line draws it
	Leads      []r3.Vec    // of one of two lines: its forces on its block, kN
	LeadsRest  float64     // the most of them at rest, kN
	Whole      *Roped      // of one of two lines: the piece on both; nil: its own line is all
	// Of a piece on two lines, where those share by a sum of its own: what writes that, and has it as the contract does.
	LineSum     func(sheet *working.Sheet, line *Roped)
	LineRequest func(line *Roped) (kind string, request any)

	given    *Roped  // as the friction that is given has it; nil: this is it
	rubs     float64 // so many times that friction; 0: as given
	sticks   *Roped  // with as much friction as there may be; nil: its loads are not gathered yet
	slips    *Roped  // with as little
	hold     float64 // tension on the lead at which rope runs, kN; +Inf: never
	arc      *swing.Arc
	swung    *drop.Swung // when the piece swings onto its line
	swings   []drop.Pull // as it swings by itself
	pulls    []drop.Pull // on its block, when it swings
	sways    float64     // so many times as far the tree bends that its block sits on, swaying under what is level of that; 0: once
	pair     *line.Pair  // carried between two points; nil: it is not
	carried  line.Carrying
	second   *job.SecondLine
	other    *Roped   // between two points: the second line, as its rig has it; nil: nobody has said
	comes    *onset   // between two points: as the cut parts
	letGo    []string // what it does when one of two lines that carry it is let go
	tight    *tightened
	stop     *stopping
	twins    *twinned
	bears    float64 // what its own line carries at rest over its weight; 0: as much
	aside    r3.Vec  // what a tag line adds level to its block, kN
	spar     *sparLoad
	besides  *besides // past its block: followed in time; nil: it is not
	complete bool     // its forces are known: it can be followed
}

// New is a piece for its line.
func New(c course.Course) *Roped { return &Roped{Course: c, hold: math.Inf(1)} }

// whole is the piece on all of its lines.
func (o *Roped) whole() *Roped {
	if o.Whole != nil {
		return o.Whole
	}
	return o
}

// Rope is the piece as it is on its line.
func (o *Roped) Rope() *Roped { return o }

// Held is how its line catches it; nil: it does not come onto it.
func (o *Roped) Held() *course.Held {
	if o.DropCase == nil && o.pair == nil {
		return nil
	}
	held := &course.Held{PeakKn: o.Catch.LinePeakKn, Holds: o.Catch.Holds, Runs: o.Catch.Runs, RunM: o.Catch.RunM, Drops: o.DropCase != nil, Floor: o.Floor}
	if o.slips != nil && held.Holds && o.DropCase != nil {
		// With less friction more rope runs.
		held.Holds, held.Slips = o.slips.Catch.Holds, !o.slips.Catch.Holds
		held.Runs, held.RunM = held.Runs || o.slips.Catch.Runs, max(held.RunM, o.slips.Catch.RunM)
		held.PeakKn = max(held.PeakKn, o.sticks.Catch.LinePeakKn)
	}
	held.LowestM, held.Stops = o.lowest()
	return held
}

// Sits are the places that its gear sits on.
func (o *Roped) Sits() (list []course.Sit) {
	list = o.TurnsSit("the block")
	if o.second != nil {
		list = append(list, course.Sit{What: "the second block", Place: &o.second.Place})
	}
	if o.twins != nil {
		list = append(list, o.twins.sides[1].TurnsSit("the block of the second line")...)
	}
	return list
}

// TurnsSit are the places that what turns its line sits on; the block is called so.
func (o *Roped) TurnsSit(block string) (list []course.Sit) {
	if o.Rig == nil || o.Block == (r3.Vec{}) {
		return nil
	}
	list = append(list, course.Sit{What: block, Place: o.Rig.Block.Place, HighM: o.Block.Z})
	for i := range o.Rig.Redirects {
		list = append(list, course.Sit{What: o.Rig.Redirects[i].Name, Place: &o.Rig.Redirects[i].Place})
	}
	return list
}

// Swings is the arc on which it swings from its block, from more than an angle that counts; nil: it does not.
func (o *Roped) Swings() *swing.Arc {
	if o.arc == nil || o.arc.StartDeg <= SwingsFrom {
		return nil
	}
	return o.arc
}

// PutDown is where it is put down: beneath its block, or beneath the second of two points.
func (o *Roped) PutDown() (at r3.Vec, known bool) {
	switch {
	case o.pair != nil:
		return space.Level(o.pair.B.Vec()), true
	case o.DropCase != nil:
		return space.Level(o.Block), true
	}
	return at, false
}

// onLine is what the ways down that hold the piece on lines share.
type onLine struct{}

func (onLine) Held() course.Holding { return course.HeldByLine }

func (onLine) Bound(s *course.Scene, piece *hold.Load) { s.BoundByCrew(piece) }

// The ways down on one line.
var (
	ByPastBlock course.Way = pastBlock{}
	ByFromAbove course.Way = fromAbove{}
	BySwung     course.Way = swung{}
	ByTwoPoints course.Way = twoPoints{}
)

// letDownCall is what is called for a piece that its line catches; empty when it cannot be said.
func (o *Roped) letDownCall() string {
	if o.DropCase == nil {
		return ""
	}
	said := o.letDown()
	return strings.ToUpper(said[:1]) + said[1:]
}

// Steadied says what tag line, twin line and stop do.
func (o *Roped) Steadied() (list []string) {
	if o.Tag != nil {
		list = append(list, o.Tag.said(o))
	}
	if o.twins != nil {
		list = append(list, o.twins.said()...)
	}
	if f := o.stopFigures(); f != nil {
		list = append(list, f.Said)
	}
	return list
}

// rigMissing says why there is no rig.
func (o *Roped) rigMissing() string {
	if o.Pick.Rig == "" {
		return "this way down needs a rig, and there is none"
	}
	return fmt.Sprintf("there is no rig %q any more", o.Pick.Rig)
}
