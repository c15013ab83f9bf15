package roped

import (
	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/space"
)

// legs are the straight parts of a pick's ropes before the cut, from the tie on: with what draws it aside or stops
// its swing.
func (o *Roped) legs() (list []space.RopeLeg) {
	if o.twins != nil {
		list = o.twins.sides[1].legs()
		for i := range list {
			list[i].Name += " of the second line"
		}
	}
	list = append(list, o.TagLegs()...)
	if o.stop != nil && o.stop.wood == nil {
		list = append(list, space.RopeLeg{From: o.stop.from, To: o.stop.at, Name: o.stop.name})
	}
	if len(o.Points) < 2 {
		return list
	}
	from, name := o.Tie, "the tie"
	for i := 1; i < len(o.Points); i++ {
		at := o.Points[i].Vec()
		list = append(list, space.RopeLeg{From: from, To: at, Name: name + " and " + o.Points[i].Name, LeadsAway: i > 1})
		from, name = at, o.Points[i].Name
	}
	if o.pair != nil {
		second := o.pair.B.Vec()
		list = append(list, space.RopeLeg{From: o.Tie, To: second, Name: "the tie and the second point"})
		if o.other == nil {
			return append(list, space.RopeLeg{From: second, To: r3.Vec{X: second.X, Y: second.Y}, Name: "the second point and the ground"})
		}
		for i := 2; i < len(o.other.Points); i++ {
			from, to := &o.other.Points[i-1], &o.other.Points[i]
			list = append(list, space.RopeLeg{From: from.Vec(), To: to.Vec(), Name: from.Name + " and " + to.Name + " of the second line", LeadsAway: true})
		}
	}
	return list
}

// TagLegs is the line that draws a piece aside, where there is one.
func (o *Roped) TagLegs() []space.RopeLeg {
	if o.Tag == nil {
		return nil
	}
	return []space.RopeLeg{{From: o.OnAxis(*o.Tag.set.TieM), To: o.Tag.towards(), Name: "the piece and " + o.Tag.anchor}}
}

// Led are the parts of ropes that follow a piece in a pose: to its block, to the other of two points, to its tag line's anchor.
func (o *Roped) Led(p *space.Pose) []space.RopeLeg {
	tie := p.Place(r3.Sub(o.Tie, o.Cut))
	list := []space.RopeLeg{{From: o.Block, To: tie}}
	if o.pair != nil {
		list = append(list, space.RopeLeg{From: o.pair.B.Vec(), To: tie})
	}
	if o.Tag != nil {
		list = append(list, space.RopeLeg{From: o.Tag.towards(), To: p.Place(r3.Sub(o.OnAxis(*o.Tag.set.TieM), o.Cut))})
	}
	if o.twins != nil {
		side := o.twins.sides[1]
		list = append(list, space.RopeLeg{From: side.Block, To: p.Place(r3.Sub(side.Tie, o.Cut))})
	}
	return list
}

// AlongRopes brings what its ropes keep from power lines into its clearances, and says where they run against something.
func (o *Roped) AlongRopes(way *space.Sweep) { o.RopesAlong(o.legs(), way, o.Led, o.Block) }

// turnsOn says what it comes to as it turns on its line, unless its tag line keeps it from that.
func (o *Roped) turnsOn(way *space.Sweep, under r3.Vec, from float64) {
	if o.Drawn() {
		return
	}
	axis, angle, tie, balanced := o.hangs()
	hangs := []space.Pose{space.Hung(axis, angle, tie, r3.Vec{})}
	if balanced {
		hangs = append(hangs, space.Hung(axis, 0, tie, r3.Vec{}))
	}
	o.TurnsOn(hangs, o.Settings.TieM, &o.Floor, way, under, from)
}
