package course

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/space"
)

// What besides a part of the ladder can stop a piece.
const (
	StopsRoom  = "room"
	StopsClear = "clearance"
	StopsRun   = "run"
	StopsHold  = "hold"
	StopsLand  = "landing"
	StopsOrder = "order"
	StopsTie   = "tie beyond the piece"
	StopsWood  = "the wood itself"
)

// A Clearance is how close a piece comes to something on its way.
type Clearance struct {
	Name       string
	ClearanceM float64      // least distance, the piece's reach taken off; negative: it touches
	KeepsM     float64      // how far it is to keep from it
	Spared     bool         // nearer than that it brushes it, or hangs up: it is no more than close
	Target     *job.Target  // nil: wood that stands
	Wood       space.WoodID // which
}

// Near tells that a piece comes nearer than it is to keep.
func (c *Clearance) Near() bool { return c.ClearanceM < c.KeepsM }

// Strikes tells that it comes too near to something that does not bear that.
func (c *Clearance) Strikes() bool { return c.Near() && !c.Spared }

// LookFor is how far round a piece's way targets are named, m.
const LookFor = 6

// Measure measures a way against the targets and against wood that stands. Nearest first; targets
// further than LookFor are left out, in a hurry all that it keeps enough from or may brush.
func (c *Course) Measure(way *space.Sweep, wood []*space.Wood) []Clearance {
	found := []Clearance{}
	for i := range c.Tree.Targets {
		if c.Cancelled() {
			break
		}
		p := &c.Tree.Targets[i]
		keeps := c.Keeps(p.Target)
		within := max(LookFor, keeps+1)
		if c.Hurried {
			within = keeps
		}
		if clear := way.Nearest(within, nil, p.Distance); !math.IsInf(clear, 1) {
			found = append(found, Clearance{Name: p.Name, ClearanceM: clear, KeepsM: keeps, Target: p.Target})
		}
	}
	for _, w := range wood {
		if c.Hurried || c.Cancelled() {
			break
		}
		skip := byTheCut
		if w.ID.Tree != c.Index {
			skip = nil
		}
		if clear := way.Nearest(c.Limits.ClearM, skip, w.Distance); !math.IsInf(clear, 1) {
			found = append(found, Clearance{Name: w.Name, ClearanceM: clear, KeepsM: c.Limits.ClearM, Spared: true, Wood: w.ID})
		}
	}
	SortClearances(found)
	return found
}

// byTheCut is what of a piece is near its own cut: there it touches what it grows from.
func byTheCut(b *space.Part) bool { return r3.Dot(b.Off, b.Off) < 1 }

// OwnStem is what a piece's own stem is called among its clearances.
const OwnStem = "the stem"

// PastStem brings what a limb keeps from its own stem into a pick's clearances, when it is held
// from elsewhere: under a block on its stem it hangs along it. Its first metre from the cut is
// not looked at.
func (c *Course) PastStem(way *space.Sweep) {
	if c.Pick.What != job.WhatLimb {
		return
	}
	w := c.StemWood(min(c.StandsToM, c.Stem.Top()))
	if clear := way.Nearest(c.Limits.ClearM, byTheCut, w.Distance); !math.IsInf(clear, 1) {
		c.Clears = append(c.Clears, Clearance{Name: OwnStem, ClearanceM: clear, KeepsM: c.Limits.ClearM, Spared: true, Wood: w.ID})
		SortClearances(c.Clears)
	}
}

// ComesNear notes how close something of a pick comes to a power line, where that is nearer
// than what is known.
func (c *Course) ComesNear(t *job.Target, nearest, metres float64) {
	if nearest > max(LookFor, metres+1) {
		return
	}
	known := slices.IndexFunc(c.Clears, func(one Clearance) bool { return one.Target == t })
	if known < 0 {
		c.Clears = append(c.Clears, Clearance{Name: t.Name, ClearanceM: nearest, KeepsM: c.Keeps(t), Target: t})
	} else if one := &c.Clears[known]; nearest < one.ClearanceM {
		one.ClearanceM, one.KeepsM, one.Spared = nearest, c.Keeps(t), false
	}
}

// SortClearances puts the nearest first.
func SortClearances(list []Clearance) {
	slices.SortStableFunc(list, func(a, b Clearance) int {
		return cmp.Or(cmp.Compare(a.ClearanceM, b.ClearanceM), cmp.Compare(a.Name, b.Name))
	})
}
