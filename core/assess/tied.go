package assess

import (
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/line"
)

// Tied is where a tree's crown still hangs together with that of one that stands.
type Tied struct {
	Tie   string // ids of the tree it is told of and of the tie, apart by a stroke
	Other string // what the other tree is called
	AtM   float64
	Free  bool // the crew says it is cut free before
}

// TiedTo lists where what a tree stands with, from a height up, hangs together with others that stand.
func (v *Survey) TiedTo(fromM float64, now *Standing) (list []Tied) {
	for i := range v.Job.Trees {
		for k := range v.Job.Trees[i].Tied {
			t := &v.Job.Trees[i].Tied[k]
			other := v.Job.TreeIndex(t.To)
			switch v.index {
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
			if o := v.Trees[other]; o != nil && len(now.rest) > other && now.rest[other].Top < t.AtM {
				continue // what it was tied to is down
			}
			list = append(list, Tied{v.Job.Trees[i].ID + "/" + t.ID, v.Job.Trees[other].Title(), t.AtM, t.Free})
		}
	}
	return list
}

// tiedCrowns names a piece that would pull another tree along.
func (v *Survey) tiedCrowns(o *Outcome, now *Standing) {
	if o.pick.What == job.WhatLimb {
		return
	}
	for _, t := range v.TiedTo(o.FromM, now) {
		if t.Free {
			o.tied = append(o.tied, fmt.Sprintf("Its crown was tied to %s at %s: see that it is free before the cut.", t.Other, v.Height(t.AtM)))
			continue
		}
		o.fault(faultTied, "its crown is tied to %s at %s: it would pull that tree along, or hang in it; cut them free first, and say so in the survey", t.Other, v.Height(t.AtM))
	}
}

// byTheStrap is how near a weak place a tie must sit to hold it together, m (common practice, no
// source).
const byTheStrap = 1.5

// strapped says of every union and crack of what is felled whether it is tied round. What a tie
// holds is not known, so nothing is credited for it.
func (v *Survey) strapped(o *Outcome, f *fellingOf) {
	used := make([]bool, len(f.set.Straps))
	for i := range v.tree.Defects {
		d := &v.tree.Defects[i]
		if d.Limb != "" || d.To() < o.FromM || d.Kind != job.DefectUnion && d.Kind != job.DefectCrack {
			continue
		}
		what := map[string]string{job.DefectUnion: "union", job.DefectCrack: "crack"}[d.Kind]
		tied := []string{}
		for k := range f.set.Straps {
			if s := &f.set.Straps[k]; s.AtM >= d.AtM-byTheStrap && s.AtM <= d.To()+byTheStrap {
				used[k] = true
				tied = append(tied, v.Height(s.AtM))
			}
		}
		if len(tied) > 0 {
			f.said = append(f.said, fmt.Sprintf("The %s at %s is tied round at %s: nothing is counted for that, as what it holds is not known.", what, v.Height(d.AtM), strings.Join(tied, " and ")))
			continue
		}
		f.said = append(f.said, fmt.Sprintf("The %s at %s is not tied round: it can open when the line takes up or when the tree starts, and what comes off goes its own way; tie it round before the cut.", what, v.Height(d.AtM)))
	}
	for k := range f.set.Straps {
		if s := &f.set.Straps[k]; s.AtM < o.FromM || s.AtM > o.toM {
			o.fault(faultFell, "a tie round the stem at %s is not on what is felled (%s to %s)", v.Height(s.AtM), v.Height(o.FromM), v.Height(o.toM))
		} else if !used[k] {
			f.said = append(f.said, fmt.Sprintf("The tie at %s is by no union or crack of the survey.", v.Height(s.AtM)))
		}
	}
}

// bedded says what bedding logs do where the stem comes down on them.
func (v *Survey) bedded(o *Outcome, f *fellingOf) {
	if len(f.set.Beds) == 0 || o.aloft {
		return
	}
	over := towards(o.Settings.FallTowardsDeg)
	long := o.reachM
	balance := r3.Norm(r3.Sub(o.Weight.at, o.cut))
	short, beyond := 0, 0
	for i := range f.set.Beds {
		b := &f.set.Beds[i]
		switch {
		case b.OutM > long+max(0, o.cut.Z):
			o.fault(faultFell, "a bedding log %s out lies beyond its tip (%s)", v.Height(b.OutM), v.Height(long))
		case b.OutM < balance:
			short++
		default:
			beyond++
		}
		at := r3.Add(level(o.cut), r3.Scale(b.OutM, over))
		for k := range v.targets {
			if t := &v.targets[k]; apart(t.corners, at.X, at.Y) <= 0 {
				f.said = append(f.said, fmt.Sprintf("The bedding log %s out lies on %s: what it takes goes into that.", v.Height(b.OutM), t.Name))
			}
		}
	}
	switch {
	case short == 0:
		f.said = append(f.said, fmt.Sprintf("All bedding logs lie beyond its balance (%s out): it comes down on them first and its butt stays up or kicks.", v.Height(balance)))
	case beyond == 0:
		f.said = append(f.said, fmt.Sprintf("All bedding logs lie short of its balance (%s out): it comes down on them first, its tip goes on down and its butt is thrown up.", v.Height(balance)))
	default:
		f.said = append(f.said, "It comes down on its bedding logs: it can break, roll or spring there; look which side is pressed before the first cut.")
	}
}

// beds are the bedding logs of a felling, where they lie.
func (o *Outcome) beds() []BedFigures {
	list := []BedFigures{}
	for i := range o.felling.set.Beds {
		b := &o.felling.set.Beds[i]
		at := r3.Add(level(o.cut), r3.Scale(b.OutM, towards(o.Settings.FallTowardsDeg)))
		list = append(list, BedFigures{line.Point{X: at.X, Y: at.Y, Z: math.Round(1000*b.Thick()/2) / 1000}, b.Thick()})
	}
	return list
}

// straps are the places of a felling's ties on its stem.
func (v *Survey) straps(o *Outcome) []line.Point {
	list := []line.Point{}
	for i := range o.felling.set.Straps {
		list = append(list, pointOf(v.onStem(o.felling.set.Straps[i].AtM)))
	}
	return list
}
