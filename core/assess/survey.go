package assess

import (
	"cmp"
	"iter"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// Survey is one tree of a job made ready for sums: in space, with its wood, worked out
// once and then asked of every pick.
type Survey struct {
	*Forest
	index    int // among the trees
	tree     *job.Tree
	Stem     timber.Stem
	density  wood.Range
	source   string // of the density
	species  *wood.Species
	group    string  // of the biomass table
	moisture float64 // per cent of the dry mass
	foot     r3.Vec
	axis     []job.Knot
	Limbs    []Grown
	learned  map[bool]*timber.Learned // by whether it is a limb; nil: nothing weighed
	heavier  float64                  // by how much a piece of both was over its heavy end, at least 1
	offered  bool                     // girths of the stem that nobody has measured
}

// Grown is a limb in space.
type Grown struct {
	*job.Limb
	Parent int // −1: the stem
	base   r3.Vec
	out    r3.Vec // level unit vector
	start  float64
	bend   float64 // radians per metre

	brushKg *wood.Range // whole; nil: not worked out yet
}

func radians(deg float64) float64 { return deg * math.Pi / 180 }

func degrees(rad float64) float64 { return rad * 180 / math.Pi }

// towards is the level unit vector of an azimuth.
func towards(azimuthDeg float64) r3.Vec {
	sin, cos := math.Sincos(radians(azimuthDeg))
	return r3.Vec{X: sin, Y: cos}
}

// azimuthOf is the azimuth of a level vector, 0 to 360.
func azimuthOf(v r3.Vec) float64 {
	return math.Mod(degrees(math.Atan2(v.X, v.Y))+360, 360)
}

// direction is where a vector leads, if it is longer than so much: of a shorter one that is not known.
func direction(v r3.Vec, than float64) (unit r3.Vec, known bool) {
	long := r3.Norm(v)
	if long <= than {
		return r3.Vec{}, false
	}
	return r3.Scale(1/long, v), true
}

// onTheWay is the place at a share of the straight way from one to another.
func onTheWay(from, to r3.Vec, share float64) r3.Vec {
	return r3.Add(from, r3.Scale(share, r3.Sub(to, from)))
}

// heading is the last of some ways that leads further than so much, as a unit vector; else the one that always does.
func heading(than float64, always r3.Vec, ways ...r3.Vec) r3.Vec {
	for _, way := range ways {
		if unit, leads := direction(way, than); leads {
			always = unit
		}
	}
	return always
}

// longer is the longer of two vectors.
func longer(a, b r3.Vec) r3.Vec {
	return slices.MaxFunc([]r3.Vec{a, b}, func(a, b r3.Vec) int { return cmp.Compare(r3.Norm(a), r3.Norm(b)) })
}

func level(v r3.Vec) r3.Vec { return r3.Vec{X: v.X, Y: v.Y} }

func pointOf(v r3.Vec) line.Point { return line.Point{X: v.X, Y: v.Y, Z: v.Z} }

// leanAt is how the stem's axis leans at a height: level, m per metre of height.
func (v *Survey) leanAt(z float64) r3.Vec {
	a, b := v.piece(z)
	rise := b.AtM - a.AtM
	return r3.Vec{X: (b.X - a.X) / rise, Y: (b.Y - a.Y) / rise}
}

// piece is the straight piece of the axis at a height: beyond the last knot, the last one.
func (v *Survey) piece(z float64) (a, b job.Knot) {
	k := 1
	for k < len(v.axis)-1 && z > v.axis[k].AtM {
		k++
	}
	return v.axis[k-1], v.axis[k]
}

// onStem is the stem's axis at a height.
func (v *Survey) onStem(z float64) r3.Vec {
	a, _ := v.piece(z)
	return r3.Add(v.foot, r3.Add(r3.Vec{X: a.X, Y: a.Y}, r3.Add(r3.Scale(z-a.AtM, v.leanAt(z)), r3.Vec{Z: z})))
}

// upright reports a stem that stands straight and does not lean.
func (v *Survey) upright() bool { return len(v.axis) == 2 && v.leanAt(0) == r3.Vec{} }

// at is the limb's axis at a distance from its base: its angle grows evenly from base
// to tip by the droop.
func (g *Grown) at(s float64) r3.Vec {
	sin0, cos0 := math.Sincos(g.start)
	over, up := s*sin0, s*cos0
	if g.bend != 0 {
		sin1, cos1 := math.Sincos(g.start + g.bend*s)
		over, up = (cos0-cos1)/g.bend, (sin1-sin0)/g.bend
	}
	return r3.Add(g.base, r3.Add(r3.Scale(over, g.out), r3.Vec{Z: up}))
}

// tipDiameter is what a limb measures at its tip: 2 cm, or its base when that is less.
const tipDiameter = 0.02

// diameterAt is the limb's diameter at a distance from its base: it tapers evenly.
func (g *Grown) diameterAt(s float64) float64 {
	return g.DiameterM + (min(tipDiameter, g.DiameterM)-g.DiameterM)*min(1, s/g.LengthM)
}

// defaultMoisture and defaultGroup stand in where no species says otherwise.
const (
	defaultMoisture = 80
	defaultGroup    = "mixed-hardwood"
)

// newSurvey readies a tree whose measurements are free of faults.
func newSurvey(f *Forest, index int, stem timber.Stem) *Survey {
	tree := &f.Job.Trees[index]
	v := &Survey{Forest: f, index: index, tree: tree, Stem: stem, group: defaultGroup, moisture: defaultMoisture, axis: tree.Axis()}
	v.density, v.source = tree.Wood.GreenDensity()
	if v.offered = slices.ContainsFunc(tree.Readings, func(r job.Reading) bool { return r.Offered }); v.offered {
		v.density.Low, v.density.High = v.density.Low*offeredLess, v.density.High*offeredMore
	}
	if species, known := wood.Find(tree.Wood.Species); known {
		v.species, v.group = &species, species.Allometry
		// Basic specific gravity is dry mass over green volume: Wood Handbook, ch. 4.
		v.moisture = 100 * (species.Density.Likely/(1000*species.SpecificGravity) - 1)
	}
	foot := tree.Foot()
	v.foot = r3.Vec{X: foot.X, Y: foot.Y}
	v.Limbs = make([]Grown, len(tree.Limbs))
	for _, subs := range [2]bool{false, true} {
		for i := range tree.Limbs {
			limb := &tree.Limbs[i]
			if (limb.Parent != "") != subs {
				continue
			}
			g := Grown{Limb: limb, Parent: -1, out: towards(limb.AzimuthDeg), start: radians(limb.AngleDeg), bend: radians(limb.DroopDeg) / limb.LengthM}
			if subs {
				g.Parent = v.limbIndex(limb.Parent)
				g.base = v.Limbs[g.Parent].at(limb.AtM)
			} else {
				g.base = v.onStem(limb.AtM)
			}
			v.Limbs[i] = g
		}
	}
	return v
}

func (v *Survey) limbIndex(id string) int {
	for i := range v.tree.Limbs {
		if v.tree.Limbs[i].ID == id {
			return i
		}
	}
	return -1
}

// Standing is one tree at one moment of the order: how high the stem stands, and how
// far out each limb; 0: it is gone.
type Standing struct {
	Top  float64
	Tips []float64
	rest Moment // all the trees at that moment
}

// stands tells whether anything of a limb is left.
func (s *Standing) stands(limb int) bool { return s.Tips[limb] > 0 }

// Cut is the same moment with the stem cut at a height.
func (s *Standing) Cut(top float64) Standing { return Standing{top, s.Tips, s.rest} }

// Apart is a copy of a moment that can be changed by itself.
func (m Moment) Apart() Moment {
	own := make(Moment, len(m))
	for i, s := range m {
		if s != nil {
			own[i] = &Standing{s.Top, append([]float64{}, s.Tips...), own}
		}
	}
	return own
}

// whole is the tree by itself, whole.
func (v *Survey) whole() Standing {
	now := Standing{Top: v.Stem.Top(), Tips: make([]float64, len(v.Limbs))}
	for i := range v.Limbs {
		now.Tips[i] = v.Limbs[i].LengthM
	}
	return now
}

// take takes a limb off at a distance from its base, and what grew beyond it.
func (v *Survey) take(now *Standing, limb int, cut float64) {
	now.Tips[limb] = min(now.Tips[limb], cut)
	for k := range v.growing(limb, cut, math.Inf(1), now) {
		now.Tips[k] = 0
	}
}

// takeTop takes off the stem above a height, and every limb on it.
func (v *Survey) takeTop(now *Standing, cut float64) {
	now.Top = min(now.Top, cut)
	for k := range v.growing(-1, cut, math.Inf(1), now) {
		v.take(now, k, 0)
	}
}

// growing are the limbs that stand and leave a limb (−1: the stem) from a place of it on to before another, m.
func (v *Survey) growing(parent int, from, before float64, now *Standing) iter.Seq[int] {
	return func(yield func(k int) bool) {
		for k := range v.Limbs {
			if g := &v.Limbs[k]; g.Parent == parent && g.AtM >= from && g.AtM < before && now.stands(k) && !yield(k) {
				return
			}
		}
	}
}

// hanging gives what hangs on a limb, kg, by its place, from a place of it on to before another, m.
func (v *Survey) hanging(i int, from, before float64) iter.Seq2[float64, float64] {
	return func(yield func(at, kg float64) bool) {
		for d := range v.tree.Defects {
			hung := &v.tree.Defects[d]
			at := (hung.AtM + hung.To()) / 2
			if hung.MassKg != nil && hung.Limb == v.Limbs[i].ID && at >= from && at < before && !yield(at, *hung.MassKg) {
				return
			}
		}
	}
}

// root is the limb that leaves the stem which a limb is, or grows on.
func (v *Survey) root(limb int) int {
	if parent := v.Limbs[limb].Parent; parent >= 0 {
		return parent
	}
	return limb
}

// without is the moment at which the piece of a pick has come off.
func (v *Survey) without(o *Outcome, now *Standing) *Standing {
	after := Standing{now.Top, slices.Clone(now.Tips), now.rest}
	if i := v.LimbOf(o.pick); i >= 0 {
		v.take(&after, i, o.FromM)
	} else {
		v.takeTop(&after, o.FromM)
	}
	return &after
}

// mass is an estimate with its place.
type mass struct {
	Kg  wood.Range
	cog float64 // along the piece from the cut, m
	at  r3.Vec  // in space

	stem    wood.Range // of Kg: the stem's own wood
	guessed float64    // of what is likely: limbs that nobody has measured, kg
}

// brushFrom is the share of a limb's length beyond which its brush grows (common practice,
// no source).
const brushFrom = 1.0 / 3

// known tells whether anything is known of it.
func (m *mass) known() bool { return m.Kg.Likely > 0 }

// heap gathers masses with their places: along a limb, and in space.
type heap struct {
	kg     wood.Range
	along  float64 // Σ m·s, likely
	moment r3.Vec
	guess  float64 // likely mass of what nobody has measured
}

func (h *heap) add(kg wood.Range, along float64, at r3.Vec) {
	h.kg = wood.Range{Low: h.kg.Low + kg.Low, Likely: h.kg.Likely + kg.Likely, High: h.kg.High + kg.High}
	h.along += kg.Likely * along
	h.moment = r3.Add(h.moment, r3.Scale(kg.Likely, at))
}

// limbTable is what the biomass table, or the eye, says of a whole limb with all that grows
// on it; nothing for a bare pole.
func (v *Survey) limbTable(g *Grown) wood.Range {
	if g.Brush == job.BrushBare {
		return wood.Range{}
	}
	limb := timber.Limb{Group: v.group, BasalDiameterM: g.DiameterM, LengthM: g.LengthM, MoisturePct: v.moisture, InLeaf: v.tree.InLeaf}
	kg := limb.Weigh().MassKg
	if g.MassKg != nil {
		kg = kg.Times(*g.MassKg / kg.Likely)
	}
	return kg
}

// How far a limb whose size is guessed may weigh less and more than it is likely to, beyond what the
// table leaves open: a fifth more or less of its diameter (common practice, no source).
const (
	guessLess = 0.6
	guessMore = 1.55
)

// asGuessed widens the weight of a limb that nobody has measured.
func (g *Grown) asGuessed(kg wood.Range) wood.Range {
	if g.Guess {
		kg.Low, kg.High = kg.Low*guessLess, kg.High*guessMore
	}
	return kg
}

// How far a stem may weigh less and more where its girths are offered: a twelfth more or less of its
// diameter.
const (
	offeredLess = 0.85
	offeredMore = 1.18
)

// bare is the wood of a limb between two places, by its volume.
func (v *Survey) bare(g *Grown, from, to float64) (kg wood.Range, cog float64) {
	pole := timber.Stem{Stations: []timber.Station{{AtM: from, DiameterM: g.diameterAt(from)}, {AtM: to, DiameterM: g.diameterAt(to)}}}
	weight := pole.Weigh(v.density, timber.Frustum)
	return weight.MassKg, weight.CogM
}

// brush is what a limb weighs beyond its own bare wood and the limbs that grow on it.
func (v *Survey) brush(i int) wood.Range {
	g := &v.Limbs[i]
	if g.brushKg != nil {
		return *g.brushKg
	}
	kg := v.limbTable(g)
	own, _ := v.bare(g, 0, g.LengthM)
	kg = wood.Range{Low: kg.Low - own.Low, Likely: kg.Likely - own.Likely, High: kg.High - own.High}
	whole := v.whole()
	for k := range v.Limbs {
		if v.Limbs[k].Parent == i {
			sub := v.limbMass(k, 0, &whole).Kg
			kg = wood.Range{Low: kg.Low - sub.Low, Likely: kg.Likely - sub.Likely, High: kg.High - sub.High}
		}
	}
	g.brushKg = &wood.Range{Low: max(0, kg.Low), Likely: max(0, kg.Likely), High: max(0, kg.High)}
	return *g.brushKg
}

// limbMass weighs a limb from a cut to where it ends now: its bare wood by volume, its share
// of the brush, which grows on its outer part, the limbs that stand on it, and what hangs on
// it. So parts always make the whole, and the whole is never less than what is known of its
// parts.
func (v *Survey) limbMass(i int, cut float64, now *Standing) mass {
	g := &v.Limbs[i]
	end := now.Tips[i]
	if end <= cut {
		return mass{at: g.at(cut)}
	}
	var h heap
	kg, cog := v.bare(g, cut, end)
	h.add(g.asGuessed(kg), cog, g.at(cog))
	own := h.kg.Likely
	begins := brushFrom * g.LengthM
	if from, to := max(cut, begins), end; to > from {
		middle := (from + to) / 2
		h.add(g.asGuessed(v.brush(i).Times((to-from)/(g.LengthM-begins))), middle, g.at(middle))
		own = h.kg.Likely
	}
	if g.Guess {
		h.guess = own
	}
	for k := range v.growing(i, cut, end, now) {
		more := v.limbMass(k, 0, now)
		h.add(more.Kg, v.Limbs[k].AtM, more.at)
		h.guess += more.guessed
	}
	for at, kg := range v.hanging(i, cut, end) {
		h.add(wood.Range{Low: kg, Likely: kg, High: kg}, at, g.at(at))
	}
	cog = max(cut, min(end, h.along/h.kg.Likely))
	return mass{Kg: h.kg, cog: cog - cut, at: r3.Scale(1/h.kg.Likely, h.moment), guessed: h.guess}
}

// stemMass weighs the stem above a cut with every limb that still stands there.
func (v *Survey) stemMass(cut float64, now *Standing) mass {
	var kg wood.Range
	var moment r3.Vec
	add := func(more wood.Range, at r3.Vec) {
		kg = wood.Range{Low: kg.Low + more.Low, Likely: kg.Likely + more.Likely, High: kg.High + more.High}
		moment = r3.Add(moment, r3.Scale(more.Likely, at))
	}
	// From bend to bend of the axis: between them it is straight.
	for low := cut; low < now.Top-1e-9; {
		high := v.nextBend(low, now.Top)
		weight := v.Stem.WeighBetween(low, high, v.density, timber.Frustum)
		add(weight.MassKg.Times(v.longer(low)), v.onStem(weight.CogM))
		low = high
	}
	stem, guessed := kg, 0.0
	for k := range v.growing(-1, cut, math.Inf(1), now) {
		more := v.limbMass(k, 0, now)
		add(more.Kg, more.at)
		guessed += more.guessed
	}
	at := r3.Scale(1/kg.Likely, moment)
	return mass{kg, max(1e-3, min(now.Top-cut, at.Z-cut)), at, stem, guessed}
}

// nextBend is the next bend of the axis above a height, at most top.
func (v *Survey) nextBend(z, top float64) float64 {
	for _, k := range v.axis[1 : len(v.axis)-1] {
		if k.AtM > z+1e-9 {
			return min(top, k.AtM)
		}
	}
	return top
}

// longer is how much longer a stem that leans is than it is high, above a height: it is
// weighed along its axis.
func (v *Survey) longer(z float64) float64 {
	a, b := v.piece(z + 1e-9)
	return math.Sqrt(1 + ((b.X-a.X)*(b.X-a.X)+(b.Y-a.Y)*(b.Y-a.Y))/((b.AtM-a.AtM)*(b.AtM-a.AtM)))
}
