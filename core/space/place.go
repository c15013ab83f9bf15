package space

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// HoldingHeight is how high one holds to an anchor when nobody has said, m.
const HoldingHeight = 0.5

// Place is where gear sits in space; why says in words why it cannot.
func (v *Tree) Place(at *job.Place, now *Standing, o *Piece) (spot r3.Vec, why string) {
	if at.Tree != "" && at.On != job.OnAnchor {
		if i := v.Site.Job.TreeIndex(at.Tree); i != v.Index {
			return v.onAnother(at, i, now)
		}
	}
	switch at.On {
	case job.OnLimb:
		i := v.LimbIndex(at.Limb)
		if i < 0 {
			return spot, fmt.Sprintf("on a limb that is not on this tree: %q", at.Limb)
		}
		g := &v.Limbs[i]
		if now.Tips[i] < at.AtM || now.Tips[i] <= 0 {
			return spot, fmt.Sprintf("on %s, which is gone there by now", g.Title())
		}
		if o != nil && o.Limb() == i && at.AtM >= o.FromM {
			return spot, fmt.Sprintf("on %s, beyond the cut: on the piece itself", g.Title())
		}
		if o != nil && o.Limb() != i && o.Own()(i) {
			return spot, fmt.Sprintf("on %s, which comes off with the piece", g.Title())
		}
		return g.At(at.AtM), ""
	case job.OnAnchor:
		for i := range v.Site.Job.Site.Anchors {
			if a := &v.Site.Job.Site.Anchors[i]; a.ID == at.Anchor {
				if high := job.Or(a.HeightM, HoldingHeight); at.AtM > high+1e-6 {
					return spot, fmt.Sprintf("%s up %s, which can be held to up to %s", v.Site.Height(at.AtM), a.Name, v.Site.Height(high))
				}
				return r3.Vec{X: a.At.X, Y: a.At.Y, Z: v.GroundAt(a.At.X, a.At.Y) + max(at.AtM, 0)}, ""
			}
		}
		return spot, fmt.Sprintf("on an anchor that is not on the site: %q", at.Anchor)
	}
	if at.AtM > now.Top {
		return spot, fmt.Sprintf("on the stem at %s, which is gone: it stands to %s", v.Site.Height(at.AtM), v.Site.Height(now.Top))
	}
	if o != nil && o.Pick.What != job.WhatLimb && at.AtM >= o.FromM {
		return spot, fmt.Sprintf("on the stem at %s, at or above the cut (%s): on the piece itself", v.Site.Height(at.AtM), v.Site.Height(o.FromM))
	}
	return v.OnStem(at.AtM), ""
}

// onAnother is where gear sits on another tree.
func (v *Tree) onAnother(at *job.Place, index int, now *Standing) (spot r3.Vec, why string) {
	if index < 0 {
		return spot, fmt.Sprintf("on a tree that is not in this job: %q", at.Tree)
	}
	other := v.Site.Trees[index]
	if other == nil || len(now.among) <= index {
		return spot, fmt.Sprintf("on %s, which is not measured yet", v.Site.Job.Trees[index].Title())
	}
	own := *at
	own.Tree = ""
	if spot, why = other.Place(&own, now.among[index], nil); why != "" {
		why = other.Measured.Title() + ": " + why
	}
	spot.Z += v.FootOf(other)
	return spot, why
}

// OnOwnStem reports a place on the stem of the pick's own tree.
func (v *Tree) OnOwnStem(at *job.Place) bool {
	return at.On == job.OnStem && v.Called(at.Tree) == v
}

// OwnLimb is the limb of the pick's own tree that gear sits on, or −1.
func (v *Tree) OwnLimb(at *job.Place) int {
	if at == nil || at.On != job.OnLimb || v.Called(at.Tree) != v {
		return -1
	}
	return v.LimbIndex(at.Limb)
}
