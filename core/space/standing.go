package space

import (
	"iter"
	"math"
)

// Kept is a copy of a moment that stays as it is.
func (s *Standing) Kept() *Standing {
	return &Standing{s.Top, append([]float64{}, s.Tips...), s.among.Apart()}
}

// Among is how all the trees stand at that moment.
func (s *Standing) Among() Stand { return s.among }

// StandsOf is what stands of a tree when this one stands so.
func (v *Tree) StandsOf(tree *Tree, now *Standing) *Standing {
	if tree == v {
		return now
	}
	return now.among[tree.Index]
}

// A Stand is how every tree stands at one moment of the order, in the order of the
// document; nil: not measured yet.
type Stand []*Standing

// Standing is one tree at one moment of the order: how high the stem stands, and how
// far out each limb; 0: it is gone.
type Standing struct {
	Top   float64
	Tips  []float64
	among Stand // all the trees at that moment
}

// Stands tells whether anything of a limb is left.
func (s *Standing) Stands(limb int) bool { return s.Tips[limb] > 0 }

// Cut is the same moment with the stem cut at a height.
func (s *Standing) Cut(top float64) Standing { return Standing{top, s.Tips, s.among} }

// Apart is a copy of a moment that can be changed by itself.
func (m Stand) Apart() Stand {
	own := make(Stand, len(m))
	for i, s := range m {
		if s != nil {
			own[i] = &Standing{s.Top, append([]float64{}, s.Tips...), own}
		}
	}
	return own
}

// whole is the tree by itself, whole.
func (v *Tree) whole() Standing {
	now := Standing{Top: v.Stem.Top(), Tips: make([]float64, len(v.Limbs))}
	for i := range v.Limbs {
		now.Tips[i] = v.Limbs[i].LengthM
	}
	return now
}

// TakeOff takes a limb off at a distance from its base, and what grew beyond it.
func (v *Tree) TakeOff(now *Standing, limb int, cut float64) {
	now.Tips[limb] = min(now.Tips[limb], cut)
	for k := range v.Growing(limb, cut, math.Inf(1), now) {
		now.Tips[k] = 0
	}
}

// TakeTop takes off the stem above a height, and every limb on it.
func (v *Tree) TakeTop(now *Standing, cut float64) {
	now.Top = min(now.Top, cut)
	for k := range v.Growing(-1, cut, math.Inf(1), now) {
		v.TakeOff(now, k, 0)
	}
}

// Growing are the limbs that stand and leave a limb (−1: the stem) from a place of it on to before another, m.
func (v *Tree) Growing(parent int, from, before float64, now *Standing) iter.Seq[int] {
	return func(yield func(k int) bool) {
		for k := range v.Limbs {
			if g := &v.Limbs[k]; g.Parent == parent && g.AtM >= from && g.AtM < before && now.Stands(k) && !yield(k) {
				return
			}
		}
	}
}

// Standing is the tree by itself, whole.
func (v *Tree) Standing() *Standing {
	now := v.whole()
	return &now
}
