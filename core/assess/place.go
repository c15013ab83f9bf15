package assess

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// place is where gear sits in space; why says in words why it cannot.
func (v *Survey) place(at *job.Place, now *Standing, o *Outcome) (spot r3.Vec, why string) {
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

// tiedIn names a tie-in of the climber that is not there, or goes with the piece.
func (v *Survey) tiedIn(o *Outcome, now *Standing) {
	if o.pick.TieIn == nil {
		return
	}
	if _, why := v.place(o.pick.TieIn, now, o); why != "" {
		o.fault(faultTieIn, "the climber is tied in %s", why)
	}
}
