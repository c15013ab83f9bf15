package space

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// StumpHigh is how high what stands of a tree is a stump that another can lie across, m.
const StumpHigh = 1.2

// WoodID names what stands of a tree: the index of the tree and of its limb, or WholeStem.
type WoodID struct{ Tree, Limb int }

// WholeStem names a stem in place of a limb.
const WholeStem = -1

// Wood is the wood of a limb, or of a stem, in straight parts.
type Wood struct {
	Name   string
	Parts  []Straight
	Middle r3.Vec
	Round  float64 // all of it is so near to the middle
	Stump  bool    // all that stands of another tree
	ID     WoodID
}

// A Straight is a straight part of wood: as thick as it is at its thicker end.
type Straight struct {
	From, Along r3.Vec
	R           float64
	per         float64    // 1 over the square of its length; 0: it has none
	ends        [2]float64 // how thick it is at either, m: halves
}

// WoodOf lays out wood in so many straight parts; at gives its place and diameter at a share of its length.
func WoodOf(parts int, at func(share float64) (r3.Vec, float64)) *Wood {
	w := &Wood{Parts: make([]Straight, 0, parts)}
	first, thick := at(0)
	from := first
	for k := 1; k <= parts; k++ {
		to, thinner := at(float64(k) / float64(parts))
		part := Straight{From: from, Along: r3.Sub(to, from), R: max(thick, thinner) / 2, ends: [2]float64{thick / 2, thinner / 2}}
		if long := r3.Dot(part.Along, part.Along); long > 0 {
			part.per = 1 / long
		}
		w.Parts = append(w.Parts, part)
		from, thick = to, thinner
	}
	w.Middle = OnTheWay(first, from, 0.5)
	for i := range w.Parts {
		part := &w.Parts[i]
		end := r3.Add(part.From, part.Along)
		w.Round = max(w.Round, r3.Norm(r3.Sub(part.From, w.Middle))+part.R, r3.Norm(r3.Sub(end, w.Middle))+part.R)
	}
	return w
}

// Raised is the wood so much higher, m.
func (w *Wood) Raised(m float64) *Wood {
	for i := range w.Parts {
		w.Parts[i].From.Z += m
	}
	w.Middle.Z += m
	return w
}

// Distance is how far a place in space is from the wood, m; when it is further than enough,
// how far from a round that holds it, which is no more.
func (w *Wood) Distance(at r3.Vec, enough float64) float64 {
	away := r3.Sub(at, w.Middle)
	if off := math.Sqrt(r3.Dot(away, away)) - w.Round; off > enough {
		return off
	}
	nearest := math.Inf(1)
	for i := range w.Parts {
		part := &w.Parts[i]
		x, y, z := at.X-part.From.X, at.Y-part.From.Y, at.Z-part.From.Z
		if share := (x*part.Along.X + y*part.Along.Y + z*part.Along.Z) * part.per; share > 0 {
			if share > 1 {
				share = 1
			}
			x, y, z = x-share*part.Along.X, y-share*part.Along.Y, z-share*part.Along.Z
		}
		// A root is drawn only of what is nearer.
		if square, than := x*x+y*y+z*z, nearest+part.R; square < than*than {
			nearest = math.Sqrt(square) - part.R
			if nearest <= 0 {
				return 0
			}
		}
	}
	return nearest
}

// Top is how high it stands, m.
func (w *Wood) Top() float64 {
	top := math.Inf(-1)
	for i := range w.Parts {
		part := &w.Parts[i]
		top = max(top, part.From.Z+part.ends[0], part.From.Z+part.Along.Z+part.ends[1])
	}
	return top
}

// WoodRound is the wood that stands round a piece: its own tree's limbs but for what goes with it, and every other tree.
func (p *Piece) WoodRound() []*Wood {
	if p.round == nil {
		p.round = p.WoodBut(p.Own(), p.Now)
	}
	return p.round
}

// WoodBut is the wood that stands but for some limbs of the tree, its stem left out.
func (v *Tree) WoodBut(without func(limb int) bool, now *Standing) []*Wood {
	list := make([]*Wood, 0, len(v.Limbs))
	for k := range v.Limbs {
		if now.Stands(k) && !without(k) {
			list = append(list, v.LimbWood(k, now.Tips[k]))
		}
	}
	return append(list, v.OthersWood(now)...)
}

// LimbWood is what stands of a limb to its tip, but for its first fifth.
func (v *Tree) LimbWood(k int, tip float64) *Wood {
	g := &v.Limbs[k]
	w := WoodOf(4, func(share float64) (r3.Vec, float64) {
		s := tip * (0.2 + 0.8*share)
		return g.At(s), g.DiameterAt(s)
	})
	w.Name, w.ID = g.Title(), WoodID{v.Index, k}
	return w
}

// StemWood is the wood of the tree's stem up to a height.
func (v *Tree) StemWood(top float64) *Wood {
	bottom := v.Stem.Bottom()
	w := WoodOf(max(1, int((top-bottom)/1.5)), func(share float64) (r3.Vec, float64) {
		z := bottom + (top-bottom)*share
		thick, _ := v.Stem.DiameterAt(z)
		return v.OnStem(z), thick
	})
	w.ID = WoodID{v.Index, WholeStem}
	return w
}

// OthersWood is the wood of every other tree as it stands.
func (v *Tree) OthersWood(now *Standing) (list []*Wood) {
	for i, other := range v.Site.Trees {
		if other == nil || i == v.Index || len(now.among) <= i {
			continue
		}
		stands, name := now.among[i], other.Measured.Title()
		foot := v.FootOf(other)
		stem := other.StemWood(stands.Top).Raised(foot)
		stem.Name, stem.Stump = name, stands.Top <= StumpHigh
		list = append(list, stem)
		for k := range other.Limbs {
			if stands.Stands(k) {
				g, tip := &other.Limbs[k], stands.Tips[k]
				limb := WoodOf(6, func(share float64) (r3.Vec, float64) { return g.At(tip * share), g.DiameterAt(tip * share) })
				limb.Name, limb.ID = g.Title()+" of "+name, WoodID{i, k}
				list = append(list, limb.Raised(foot))
			}
		}
	}
	return list
}

// Under is the highest that wood stands beneath a height within a distance by the plan of a place, its thickness with
// it, m; false: none does.
func (w *Wood) Under(x, y, within, below float64) (z float64, is bool) {
	z = math.Inf(-1)
	for i := range w.Parts {
		from, along, r := w.Parts[i].From, w.Parts[i].Along, w.Parts[i].R
		// The part of it that is so near by the plan: where |from + t·along − place| = within.
		off := r3.Vec{X: from.X - x, Y: from.Y - y}
		low, high := 0.0, 1.0
		half, reach := off.X*along.X+off.Y*along.Y, within+r
		near := off.X*off.X + off.Y*off.Y - reach*reach
		if long := along.X*along.X + along.Y*along.Y; long > 1e-12 {
			root := half*half - long*near
			if root < 0 {
				continue
			}
			low, high = max(low, (-half-math.Sqrt(root))/long), min(high, (-half+math.Sqrt(root))/long)
		} else if near > 0 {
			continue
		}
		// And of that what is beneath the height.
		switch share := (below - from.Z) / along.Z; {
		case along.Z > 0:
			high = min(high, share)
		case along.Z < 0:
			low = max(low, share)
		case from.Z > below:
			continue
		}
		if low <= high {
			z, is = max(z, from.Z+max(low*along.Z, high*along.Z)+r), true
		}
	}
	return z, is
}
