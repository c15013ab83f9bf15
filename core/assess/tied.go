package assess

import (
	"fmt"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/space"
)

// Tied is where a tree's crown still hangs together with that of one that stands.
type Tied struct {
	Tie   string // ids of the tree it is told of and of the tie, apart by a stroke
	Other string // what the other tree is called
	AtM   float64
	Free  bool // the crew says it is cut free before
}

// TiedTo lists where what a tree stands with, from a height up, hangs together with others that stand.
func (v *Survey) TiedTo(fromM float64, now *space.Standing) (list []Tied) {
	for i := range v.Job.Trees {
		for k := range v.Job.Trees[i].Tied {
			t := &v.Job.Trees[i].Tied[k]
			other := v.Job.TreeIndex(t.To)
			switch v.Index {
			case i:
			case other:
				other = i
			default:
				continue
			}
			if other < 0 || other >= len(v.Trees) || t.AtM < fromM || t.AtM > now.Top {
				continue
			}
			// On the other tree the height is taken as the same: nobody has said more.
			if o := v.Trees[other]; o != nil && len(now.Among()) > other && now.Among()[other].Top < t.AtM {
				continue // what it was tied to is down
			}
			list = append(list, Tied{v.Job.Trees[i].ID + "/" + t.ID, v.Job.Trees[other].Title(), t.AtM, t.Free})
		}
	}
	return list
}

// tiedCrowns names a piece that would pull another tree along.
func (v *Survey) tiedCrowns(o *Outcome) {
	if o.Pick.What == job.WhatLimb {
		return
	}
	for _, t := range v.TiedTo(o.FromM, o.Now) {
		if t.Free {
			o.freed = append(o.freed, fmt.Sprintf("Its crown was tied to %s at %s: see that it is free before the cut.", t.Other, v.Height(t.AtM)))
			continue
		}
		o.Fault(course.FaultTied, "its crown is tied to %s at %s: it would pull that tree along, or hang in it; cut them free first, and say so in the survey", t.Other, v.Height(t.AtM))
	}
}
