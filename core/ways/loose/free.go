// Package loose works out pieces that nothing holds: thrown by hand, and cut and let fall. Where they come down is
// spread by what nobody steers (common practice, no source), and how far they fly is the physics of a body that
// turns over its cut and falls.
package loose

import (
	"fmt"
	"math"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
)

// unheld is what the ways down that load no gear share.
type unheld struct{}

func (unheld) Held() course.Holding { return course.HeldByNothing }

// Loose is a piece that nothing holds.
type Loose struct{ course.Course }

// Held is nil: no line holds it.
func (o *Loose) Held() *course.Held { return nil }

// Figures adds nothing: where it lands is judged for every way that lets go.
func (o *Loose) Figures(*course.Figures) {}

// Free is a piece that is cut and let fall into a drop zone: no rope, no load.
type Free struct{ Loose }

// ByFree is the way down of what is let fall.
var ByFree course.Way = free{}

type free struct{ unheld }

func (free) Bound(_ *course.Scene, piece *hold.Load) {
	piece.Why = "it goes free: no line to keep to"
}

func (free) Make(c course.Course) course.Made {
	o := &Free{Loose{c}}
	if o.Pick.What != job.WhatLimb && !o.TakesNothing() {
		if o.Cut.Z > course.FromGround && o.Length() > o.Cut.Z {
			o.Fault(course.FaultTooLong, "the piece, %s long, is longer than its drop (%s): it stands on its tip before it is down", o.Height(o.Length()), o.Height(o.Cut.Z))
		}
		o.Tips()
	}
	return o
}

// Follow lays out where it may come down.
func (o *Free) Follow() {
	if o.Hurried && o.Stopped() {
		return
	}
	o.Falls(o.Lay())
}

// Words are what is called of it.
func (o *Free) Words() course.Words {
	words := course.Words{Call: "Zone clear: free to " + o.Wind()}
	if o.Lands != nil {
		words.Cautions = []string{fmt.Sprintf("It can kick off its butt, roll or bounce: nobody nearer than twice its length, %.0f m (common practice).", math.Ceil(2*o.Length()))}
	}
	return words
}
