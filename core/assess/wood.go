package assess

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// standsAs names what stands of a tree: the index of the tree and of its limb, or wholeStem.
type standsAs struct{ tree, limb int }

const wholeStem = -1

// limbWood is the wood of a limb, or of a stem, in straight parts.
type limbWood struct {
	name   string
	parts  []straight
	middle r3.Vec
	round  float64 // all of it is so near to the middle
	stump  bool    // all that stands of another tree
	as     standsAs
}

// straight is a straight part of wood: as thick as it is at its thicker end.
type straight struct {
	from, along r3.Vec
	per         float64 // 1 over the square of its length; 0: it has none
	r           float64
	ends        [2]float64 // how thick it is at either, m: halves
}

func woodOf(parts int, at func(share float64) (r3.Vec, float64)) *limbWood {
	w := &limbWood{parts: make([]straight, 0, parts)}
	first, thick := at(0)
	from := first
	for k := 1; k <= parts; k++ {
		to, thinner := at(float64(k) / float64(parts))
		part := straight{from: from, along: r3.Sub(to, from), r: max(thick, thinner) / 2, ends: [2]float64{thick / 2, thinner / 2}}
		if long := r3.Dot(part.along, part.along); long > 0 {
			part.per = 1 / long
		}
		w.parts = append(w.parts, part)
		from, thick = to, thinner
	}
	w.middle = onTheWay(first, from, 0.5)
	for i := range w.parts {
		part := &w.parts[i]
		end := r3.Add(part.from, part.along)
		w.round = max(w.round, r3.Norm(r3.Sub(part.from, w.middle))+part.r, r3.Norm(r3.Sub(end, w.middle))+part.r)
	}
	return w
}

// distance is how far a place in space is from the wood, m; when it is further than enough,
// how far from a round that holds it, which is no more.
func (w *limbWood) distance(at r3.Vec, enough float64) float64 {
	away := r3.Sub(at, w.middle)
	if off := math.Sqrt(r3.Dot(away, away)) - w.round; off > enough {
		return off
	}
	nearest := math.Inf(1)
	for i := range w.parts {
		part := &w.parts[i]
		x, y, z := at.X-part.from.X, at.Y-part.from.Y, at.Z-part.from.Z
		if share := (x*part.along.X + y*part.along.Y + z*part.along.Z) * part.per; share > 0 {
			if share > 1 {
				share = 1
			}
			x, y, z = x-share*part.along.X, y-share*part.along.Y, z-share*part.along.Z
		}
		// A root is drawn only of what is nearer.
		if square, than := x*x+y*y+z*z, nearest+part.r; square < than*than {
			nearest = math.Sqrt(square) - part.r
			if nearest <= 0 {
				return 0
			}
		}
	}
	return nearest
}

// top is how high it stands, m.
func (w *limbWood) top() float64 {
	top := math.Inf(-1)
	for i := range w.parts {
		part := &w.parts[i]
		top = max(top, part.from.Z+part.ends[0], part.from.Z+part.along.Z+part.ends[1])
	}
	return top
}

// woodRound is the wood that stands round a piece: its own tree's limbs but for what goes with it, and every other tree.
func (v *Survey) woodRound(o *Outcome, now *Standing) []*limbWood {
	if o.round == nil {
		o.round = v.woodBut(v.own(o), now)
	}
	return o.round
}

// woodBut is the wood that stands but for some limbs of the tree, its stem left out.
func (v *Survey) woodBut(without func(limb int) bool, now *Standing) []*limbWood {
	list := make([]*limbWood, 0, len(v.Limbs))
	for k := range v.Limbs {
		if now.stands(k) && !without(k) {
			list = append(list, v.limbWood(k, now.Tips[k]))
		}
	}
	return append(list, v.othersWood(now)...)
}

// limbWood is what stands of a limb to its tip, but for its first fifth.
func (v *Survey) limbWood(k int, tip float64) *limbWood {
	g := &v.Limbs[k]
	w := woodOf(4, func(share float64) (r3.Vec, float64) {
		s := tip * (0.2 + 0.8*share)
		return g.at(s), g.diameterAt(s)
	})
	w.name, w.as = g.Title(), standsAs{v.index, k}
	return w
}

// stemWood is the wood of the tree's stem up to a height.
func (v *Survey) stemWood(top float64) *limbWood {
	bottom := v.Stem.Bottom()
	w := woodOf(max(1, int((top-bottom)/1.5)), func(share float64) (r3.Vec, float64) {
		z := bottom + (top-bottom)*share
		thick, _ := v.Stem.DiameterAt(z)
		return v.onStem(z), thick
	})
	w.as = standsAs{v.index, wholeStem}
	return w
}

// othersWood is the wood of every other tree as it stands.
func (v *Survey) othersWood(now *Standing) (list []*limbWood) {
	for i, other := range v.Trees {
		if other == nil || i == v.index || len(now.rest) <= i {
			continue
		}
		stands, name := now.rest[i], other.tree.Title()
		stem := other.stemWood(stands.Top)
		stem.name, stem.stump = name, stands.Top <= stumpHigh
		list = append(list, stem)
		for k := range other.Limbs {
			if stands.stands(k) {
				g, tip := &other.Limbs[k], stands.Tips[k]
				limb := woodOf(6, func(share float64) (r3.Vec, float64) { return g.at(tip * share), g.diameterAt(tip * share) })
				limb.name, limb.as = g.Title()+" of "+name, standsAs{i, k}
				list = append(list, limb)
			}
		}
	}
	return list
}

// under is the highest that wood stands beneath a height within a distance by the plan of a place, its thickness with
// it, m; false: none does.
func (w *limbWood) under(x, y, within, below float64) (z float64, is bool) {
	z = math.Inf(-1)
	for i := range w.parts {
		from, along, r := w.parts[i].from, w.parts[i].along, w.parts[i].r
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
