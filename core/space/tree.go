package space

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/search"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// A Tree is one tree of a site in space, with its wood: worked out once and then asked of every pick.
type Tree struct {
	Site        *Site
	Index       int // among the trees
	Measured    *job.Tree
	Stem        timber.Stem
	Density     wood.Range
	Source      string        // of the density
	Species     *wood.Species // nil: not of the table
	Group       string        // of the biomass table
	MoisturePct float64       // of the dry mass
	Foot        r3.Vec
	axis        []job.Knot
	Limbs       []Limb
	Targets     []Prism // as they stand by its foot
	Offered     bool    // girths of the stem that nobody has measured
	Taught      Taught
}

// NearDefect is how close to a cut or to gear a defect counts, m.
const NearDefect = 0.6

// Defects calls back for every defect within reach of a place on the stem (limb −1) or
// along a limb.
func (v *Tree) Defects(limb int, at float64, found func(*job.Defect)) {
	for i := range v.Measured.Defects {
		d := &v.Measured.Defects[i]
		on := -1
		if d.Limb != "" {
			on = v.LimbIndex(d.Limb)
		}
		if on == limb && at >= d.AtM-NearDefect && at <= d.To()+NearDefect {
			found(d)
		}
	}
}

// TreeOf is the tree that a place is on; nil: on none, or on one that is not measured.
func (v *Tree) TreeOf(place *job.Place) *Tree {
	if place.On == job.OnAnchor {
		return nil
	}
	return v.Called(place.Tree)
}

// Called is the tree of an id, the own one for none; nil: not in the job, or not measured.
func (v *Tree) Called(id string) *Tree {
	i := v.Site.Job.TreeIndex(id)
	switch {
	case id == "" || i == v.Index:
		return v
	case i < 0:
		return nil
	}
	return v.Site.Trees[i]
}

// Nearest is the distance along a limb of its place nearest to one, m.
func (g *Limb) Nearest(at r3.Vec) float64 {
	best, near := math.Inf(1), 0.0
	look := func(low, high float64) {
		for share := range search.Shares(60) {
			s := low + (high-low)*share
			if d := r3.Norm(r3.Sub(g.At(s), at)); d < best {
				best, near = d, s
			}
		}
	}
	look(0, g.LengthM)
	look(max(0, near-g.LengthM/60), min(g.LengthM, near+g.LengthM/60))
	return near
}

// Limb is a limb in space.
type Limb struct {
	*job.Limb
	Parent int    // −1: the stem
	Base   r3.Vec // where it leaves what it grows on
	out    r3.Vec // level unit vector
	start  float64
	bend   float64 // radians per metre

	brushKg *wood.Range // whole; nil: not worked out yet
}

// LeanAt is how the stem's axis leans at a height: level, m per metre of height.
func (v *Tree) LeanAt(z float64) r3.Vec {
	a, b := v.piece(z)
	rise := b.AtM - a.AtM
	return r3.Vec{X: (b.X - a.X) / rise, Y: (b.Y - a.Y) / rise}
}

// piece is the straight piece of the axis at a height: beyond the last knot, the last one.
func (v *Tree) piece(z float64) (a, b job.Knot) {
	k := 1
	for k < len(v.axis)-1 && z > v.axis[k].AtM {
		k++
	}
	return v.axis[k-1], v.axis[k]
}

// OnStem is the stem's axis at a height.
func (v *Tree) OnStem(z float64) r3.Vec {
	a, _ := v.piece(z)
	return r3.Add(v.Foot, r3.Add(r3.Vec{X: a.X, Y: a.Y}, r3.Add(r3.Scale(z-a.AtM, v.LeanAt(z)), r3.Vec{Z: z})))
}

// Upright reports a stem that stands straight and does not lean.
func (v *Tree) Upright() bool { return len(v.axis) == 2 && v.LeanAt(0) == r3.Vec{} }

// At is the limb's axis at a distance from its base: its angle grows evenly from base
// to tip by the droop.
func (g *Limb) At(s float64) r3.Vec {
	sin0, cos0 := math.Sincos(g.start)
	over, up := s*sin0, s*cos0
	if g.bend != 0 {
		sin1, cos1 := math.Sincos(g.start + g.bend*s)
		over, up = (cos0-cos1)/g.bend, (sin1-sin0)/g.bend
	}
	return r3.Add(g.Base, r3.Add(r3.Scale(over, g.out), r3.Vec{Z: up}))
}

// tipDiameter is what a limb measures at its tip: 2 cm, or its base when that is less.
const tipDiameter = 0.02

// DiameterAt is the limb's diameter at a distance from its base: it tapers evenly.
func (g *Limb) DiameterAt(s float64) float64 {
	return g.DiameterM + (min(tipDiameter, g.DiameterM)-g.DiameterM)*min(1, s/g.LengthM)
}

// UnderBark is how thick the wood of the tree is where a tape round its bark reads a diameter, m: bark weighs and holds nothing.
// Where it was measured it is as thick everywhere for the diameter there.
func (v *Tree) UnderBark(overM float64) float64 {
	switch {
	case v.Measured.BarkM != nil && len(v.Measured.Readings) > 0:
		return overM * (1 - 2**v.Measured.BarkM/v.Measured.Readings[0].DiameterM())
	case v.Species == nil:
		return overM * wood.UnknownUnderBark
	}
	return overM * v.Species.UnderBark
}

// defaultMoisture and defaultGroup stand in where no species says otherwise.
const (
	defaultMoisture = 80
	defaultGroup    = "mixed-hardwood"
)

// AddTree readies a tree whose measurements are free of faults; stem is its stem as they describe it.
func (s *Site) AddTree(index int, stem timber.Stem) *Tree {
	tree := &s.Job.Trees[index]
	v := &Tree{Site: s, Index: index, Measured: tree, Stem: stem, Group: defaultGroup, MoisturePct: defaultMoisture, axis: tree.Axis(), Taught: Taught{Heavier: 1}}
	s.Trees[index] = v
	v.Density, v.Source = tree.Wood.GreenDensity()
	if v.Offered = slices.ContainsFunc(tree.Readings, func(r job.Reading) bool { return r.Offered }); v.Offered {
		v.Density.Low, v.Density.High = v.Density.Low*offeredLess, v.Density.High*offeredMore
	}
	if species, known := wood.Find(tree.Wood.Species); known {
		v.Species, v.Group = &species, species.Allometry
		// Basic specific gravity is dry mass over green volume: Wood Handbook, ch. 4.
		v.MoisturePct = 100 * (species.Density.Likely/(1000*species.SpecificGravity) - 1)
	}
	foot := tree.Foot()
	v.Foot = r3.Vec{X: foot.X, Y: foot.Y}
	v.Targets = v.targets()
	v.Limbs = make([]Limb, len(tree.Limbs))
	for _, subs := range [2]bool{false, true} {
		for i := range tree.Limbs {
			limb := &tree.Limbs[i]
			if (limb.Parent != "") != subs {
				continue
			}
			g := Limb{Limb: limb, Parent: -1, out: Towards(limb.AzimuthDeg), start: Radians(limb.AngleDeg), bend: Radians(limb.DroopDeg) / limb.LengthM}
			if subs {
				g.Parent = v.LimbIndex(limb.Parent)
				g.Base = v.Limbs[g.Parent].At(limb.AtM)
			} else {
				g.Base = v.OnStem(limb.AtM)
			}
			v.Limbs[i] = g
		}
	}
	return v
}

// LimbIndex is the place of a limb among the tree's, or −1.
func (v *Tree) LimbIndex(id string) int {
	for i := range v.Measured.Limbs {
		if v.Measured.Limbs[i].ID == id {
			return i
		}
	}
	return -1
}

// Root is the limb that leaves the stem which a limb is, or grows on.
func (v *Tree) Root(limb int) int {
	if parent := v.Limbs[limb].Parent; parent >= 0 {
		return parent
	}
	return limb
}

// NextBend is the next bend of the axis above a height, at most top.
func (v *Tree) NextBend(z, top float64) float64 {
	for _, k := range v.axis[1 : len(v.axis)-1] {
		if k.AtM > z+1e-9 {
			return min(top, k.AtM)
		}
	}
	return top
}

// AlongStem is how long the stem's axis is between two heights, m.
func (v *Tree) AlongStem(from, to float64) (m float64) {
	for low := from; low < to-1e-9; {
		high := v.NextBend(low, to)
		m += (high - low) * v.Slant(low)
		low = high
	}
	return m
}

// UpStem is the height that lies so far along the stem's axis above another, m.
func (v *Tree) UpStem(from, m float64) float64 {
	for {
		high, slant := v.NextBend(from, math.Inf(1)), v.Slant(from)
		if long := (high - from) * slant; m <= long {
			return from + m/slant
		}
		m -= (high - from) * slant
		from = high
	}
}

// Slant is how much longer a stem that leans is than it is high, above a height: it is
// weighed along its axis.
func (v *Tree) Slant(z float64) float64 {
	a, b := v.piece(z + 1e-9)
	return math.Sqrt(1 + ((b.X-a.X)*(b.X-a.X)+(b.Y-a.Y)*(b.Y-a.Y))/((b.AtM-a.AtM)*(b.AtM-a.AtM)))
}

// Bends are the places at which the stem's axis bends, from the lowest up.
func (v *Tree) Bends() []job.Knot { return v.axis[1 : len(v.axis)-1] }
