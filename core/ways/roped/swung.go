package roped

import (
	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/sight"
	"elkstay/core/space"
)

// Swung is a piece held from a block above and to one side: it swings off on the line.
type Swung struct{ FromAbove }

// swung makes one.
type swung struct{ onLine }

func (swung) Make(c course.Course) course.Made {
	o := New(c)
	o.lower(true)
	return &Swung{FromAbove{o}}
}

// Follow measures what is round it while it swings under its block and hangs.
func (o *Swung) Follow() { o.followUnder(o) }

// Words are what is called of it.
func (o *Swung) Words() course.Words {
	words := o.FromAbove.Words()
	if o.DropCase != nil {
		words.Call = o.letDown()
		if o.Catch.Holds {
			words.Call = "Swings " + o.swingsTo() + ", " + words.Call
		}
	}
	return words
}

// swingsTo is the point of the compass that it swings to: under its block and beyond, which is
// not the way it grows.
func (o *Roped) swingsTo() string {
	if side, leads := space.Direction(space.Level(r3.Sub(o.Block, o.Tie)), 0.05); leads {
		return sight.Wind(space.AzimuthOf(side))
	}
	return o.Wind()
}
