package space

import (
	"cmp"
	"slices"

	"elkstay/core/job"
)

// AsCut names the wood that it is.
func (p *Piece) AsCut() job.Wood {
	w := job.Wood{Tree: p.Measured.ID, What: p.Pick.What, Limb: p.Pick.Limb, FromM: p.FromM, ToM: p.ToM}
	self, own := p.Limb(), p.Own()
	for k := range p.Limbs {
		if k != self && p.Now.Stands(k) && own(k) {
			w.Bears = append(w.Bears, job.Borne{Limb: p.Limbs[k].ID, TipM: p.Now.Tips[k]})
		}
	}
	slices.SortFunc(w.Bears, func(a, b job.Borne) int { return cmp.Compare(a.Limb, b.Limb) })
	return w
}

// Is tells whether it is some wood, cut as that was.
func (p *Piece) Is(wood *job.Wood) bool {
	own, other := p.AsCut(), *wood
	if other.Tree == "" && p.Index == 0 {
		other.Tree = own.Tree
	}
	return own.Same(&other)
}

// WeightOf weighs some wood of the tree as it was cut, by the survey; unknown: the survey has not got it any more.
func (v *Tree) WeightOf(wood *job.Wood) Mass {
	now := v.Standing()
	if wood.What != job.WhatLimb {
		now.Top = min(now.Top, wood.ToM)
	}
	for k := range now.Tips {
		now.Tips[k] = 0
		for _, b := range wood.Bears {
			if b.Limb == v.Limbs[k].ID {
				now.Tips[k] = min(b.TipM, v.Limbs[k].LengthM)
			}
		}
	}
	if wood.What != job.WhatLimb {
		if wood.FromM < v.Stem.Bottom() || wood.FromM >= now.Top {
			return Mass{}
		}
		return v.StemMass(wood.FromM, now)
	}
	i := v.LimbIndex(wood.Limb)
	if i < 0 || wood.FromM >= v.Limbs[i].LengthM {
		return Mass{}
	}
	now.Tips[i] = min(wood.ToM, v.Limbs[i].LengthM)
	return v.LimbMass(i, wood.FromM, now)
}
