package assess

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// A Clearance is how close a piece comes to something on its way.
type Clearance struct {
	Name       string      `json:"name"`
	ClearanceM float64     `json:"clearance_m" doc:"Least distance, the piece's reach taken off; negative: it touches"`
	Verdict    Verdict     `json:"verdict" enum:"within,close,over,not held" doc:"The tree's own limbs are never over: it brushes them, or hangs up"`
	target     *job.Target // nil: wood that stands
	wood       standsAs    // which
}

// lookFor is how far round a piece's way targets are named, m.
const lookFor = 6

// clearances measures the way against the targets and against wood that stands. Nearest first; targets
// further than lookFor are left out, in a hurry all that it keeps enough from or may brush.
func (v *Survey) clearances(way *sweep, wood []*limbWood) []Clearance {
	found := []Clearance{}
	note := func(name string, target *job.Target, as standsAs, clear, wanted float64, tooClose Verdict) {
		if math.IsInf(clear, 1) {
			return
		}
		judged := Within
		if clear < wanted {
			judged = tooClose
		}
		found = append(found, Clearance{name, clear, judged, target, as})
	}
	for i := range v.targets {
		if v.Left() {
			break
		}
		p := &v.targets[i]
		wanted := v.keeps(p.Target)
		within := max(lookFor, wanted+1)
		if v.Hurried {
			within = wanted
		}
		note(p.Name, p.Target, standsAs{}, way.nearest(within, nil, p.distance), wanted, Over)
	}
	clear := v.limits.ClearM
	for _, w := range wood {
		if v.Hurried || v.Left() {
			break
		}
		skip := byTheCut
		if w.as.tree != v.index {
			skip = nil
		}
		note(w.name, nil, w.as, way.nearest(clear, skip, w.distance), clear, Close)
	}
	sortClearances(found)
	return found
}

// byTheCut is what of a piece is near its own cut: there it touches what it grows from.
func byTheCut(b *ball) bool { return r3.Dot(b.off, b.off) < 1 }

// theStem is what a piece's own stem is called among its clearances.
const theStem = "the stem"

// pastStem brings what a limb keeps from its own stem into a pick's clearances, when it is held
// from elsewhere: under a block on its stem it hangs along it. Its first metre from the cut is
// not looked at.
func (v *Survey) pastStem(o *Outcome, way *sweep) {
	if o.pick.What != job.WhatLimb {
		return
	}
	w := v.stemWood(min(o.standsTo, v.Stem.Top()))
	if clear := way.nearest(v.limits.ClearM, byTheCut, w.distance); !math.IsInf(clear, 1) {
		o.clears = append(o.clears, Clearance{theStem, clear, Close, nil, w.as})
		sortClearances(o.clears)
	}
}

// comesNear notes how close something of a pick comes to a power line, where that is nearer
// than what is known.
func (v *Survey) comesNear(o *Outcome, t *job.Target, nearest, metres float64) {
	if nearest > max(lookFor, metres+1) {
		return
	}
	judged := Within
	if nearest < v.keeps(t) {
		judged = Over
	}
	known := slices.IndexFunc(o.clears, func(c Clearance) bool { return c.target == t })
	if known < 0 {
		o.clears = append(o.clears, Clearance{t.Name, nearest, judged, t, standsAs{}})
	} else if nearest < o.clears[known].ClearanceM {
		o.clears[known].ClearanceM, o.clears[known].Verdict = nearest, judged
	}
}

func sortClearances(list []Clearance) {
	slices.SortStableFunc(list, func(a, b Clearance) int {
		return cmp.Or(cmp.Compare(a.ClearanceM, b.ClearanceM), cmp.Compare(a.Name, b.Name))
	})
}
