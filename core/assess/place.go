package assess

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// holdingHeight is how high one holds to an anchor when nobody has said, m.
const holdingHeight = 0.5

// place is where gear sits in space; why says in words why it cannot.
func (v *Survey) place(at *job.Place, now *Standing, o *Outcome) (spot r3.Vec, why string) {
	if at.Tree != "" && at.On != job.OnAnchor {
		if i := v.Job.TreeIndex(at.Tree); i != v.index {
			return v.onAnother(at, i, now)
		}
	}
	switch at.On {
	case job.OnLimb:
		i := v.limbIndex(at.Limb)
		if i < 0 {
			return spot, fmt.Sprintf("on a limb that is not on this tree: %q", at.Limb)
		}
		g := &v.Limbs[i]
		if now.Tips[i] < at.AtM || now.Tips[i] <= 0 {
			return spot, fmt.Sprintf("on %s, which is gone there by now", g.Title())
		}
		if o != nil && v.LimbOf(o.pick) == i && at.AtM >= o.FromM {
			return spot, fmt.Sprintf("on %s, beyond the cut: on the piece itself", g.Title())
		}
		if o != nil && v.LimbOf(o.pick) != i && v.own(o)(i) {
			return spot, fmt.Sprintf("on %s, which comes off with the piece", g.Title())
		}
		return g.at(at.AtM), ""
	case job.OnAnchor:
		for i := range v.Job.Site.Anchors {
			if a := &v.Job.Site.Anchors[i]; a.ID == at.Anchor {
				if high := job.Or(a.HeightM, holdingHeight); at.AtM > high+1e-6 {
					return spot, fmt.Sprintf("%s up %s, which can be held to up to %s", v.Height(at.AtM), a.Name, v.Height(high))
				}
				return r3.Vec{X: a.At.X, Y: a.At.Y, Z: max(at.AtM, 0)}, ""
			}
		}
		return spot, fmt.Sprintf("on an anchor that is not on the site: %q", at.Anchor)
	}
	if at.AtM > now.Top {
		return spot, fmt.Sprintf("on the stem at %s, which is gone: it stands to %s", v.Height(at.AtM), v.Height(now.Top))
	}
	if o != nil && o.pick.What != job.WhatLimb && at.AtM >= o.FromM {
		return spot, fmt.Sprintf("on the stem at %s, at or above the cut (%s): on the piece itself", v.Height(at.AtM), v.Height(o.FromM))
	}
	return v.onStem(at.AtM), ""
}

// onAnother is where gear sits on another tree.
func (v *Survey) onAnother(at *job.Place, index int, now *Standing) (spot r3.Vec, why string) {
	if index < 0 {
		return spot, fmt.Sprintf("on a tree that is not in this job: %q", at.Tree)
	}
	other := v.Trees[index]
	if other == nil || len(now.rest) <= index {
		return spot, fmt.Sprintf("on %s, which is not measured yet", v.Job.Trees[index].Title())
	}
	own := *at
	own.Tree = ""
	if spot, why = other.place(&own, now.rest[index], nil); why != "" {
		why = other.tree.Title() + ": " + why
	}
	return spot, why
}

// onOwnStem reports a place on the stem of the pick's own tree.
func (v *Survey) onOwnStem(at *job.Place) bool {
	return at.On == job.OnStem && v.called(at.Tree) == v
}

// ownLimb is the limb of the pick's own tree that gear sits on, or −1.
func (v *Survey) ownLimb(at *job.Place) int {
	if at == nil || at.On != job.OnLimb || v.called(at.Tree) != v {
		return -1
	}
	return v.limbIndex(at.Limb)
}

// tiedIn names a tie-in of the climber that is not there, or goes with the piece.
func (v *Survey) tiedIn(o *Outcome, now *Standing) {
	if o.pick.TieIn == nil {
		return
	}
	if _, why := v.place(o.pick.TieIn, now, o); why != "" {
		o.fault(faultTieIn, "the climber is tied in %s", why)
	}
}
