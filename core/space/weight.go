package space

import (
	"iter"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// Taught is what the scale has said of a tree: of its stem and of its limbs; nil: nothing was weighed.
type Taught struct {
	Stem, Limbs *timber.Learned
	Heavier     float64 // by how much a piece of both was over its heavy end, at least 1
}

// taught is what a piece weighs by what the scale has said of this tree: its stem's wood by what
// was said of stem, its limbs by what was said of limbs. What nobody has measured stays as
// uncertain as it was; what nothing was said of is heavier where a piece of both was.
func (v *Tree) taught(m *Mass) wood.Range {
	stem := m.Stem
	limbs := wood.Range{Low: max(0, m.Kg.Low-stem.Low), Likely: max(0, m.Kg.Likely-stem.Likely), High: max(0, m.Kg.High-stem.High)}
	by := func(learned *timber.Learned, of wood.Range, less, more float64) wood.Range {
		if learned == nil {
			of.High *= max(1, v.Taught.Heavier)
			return of
		}
		return wood.Range{Low: of.Likely * learned.LowFactor * less, Likely: of.Likely * learned.Factor, High: of.Likely * learned.HighFactor * more}
	}
	less, more := 1.0, 1.0
	if v.Offered {
		less, more = offeredLess, offeredMore
	}
	stem = by(v.Taught.Stem, stem, less, more)
	share := min(1, m.GuessedKg/max(1e-9, limbs.Likely))
	limbs = by(v.Taught.Limbs, limbs, 1-share*(1-GuessLess), 1+share*(GuessMore-1))
	return wood.Range{Low: stem.Low + limbs.Low, Likely: stem.Likely + limbs.Likely, High: stem.High + limbs.High}
}

// scaleError is how far a scale may be off (common practice).
const scaleError = 0.02

// LimbsAbove calls a limb that is weighed with what stands above a height, with its mass.
func (v *Tree) LimbsAbove(limbs bool, from float64, now *Standing, each func(k int, m Mass)) {
	if !limbs {
		return
	}
	for k := range v.Growing(-1, from, math.Inf(1), now) {
		each(k, v.LimbMass(k, 0, now))
	}
}

// BalanceWithin is how far off its place the balance of what stands above a height may be, by the
// range of its limbs, m: the larger of each of them off by itself, and all of them off the same way,
// as they are when the table of limbs does not fit the tree.
func (v *Tree) BalanceWithin(limbs bool, from float64, weight Mass, now *Standing) float64 {
	sum, all, together := 0.0, 0.0, r3.Vec{}
	v.LimbsAbove(limbs, from, now, func(_ int, m Mass) {
		more := (m.Kg.High - m.Kg.Low) / 2
		// What one limb weighs more moves the balance towards it by its share of the whole.
		moves := more / (weight.Kg.Likely + more) * r3.Norm(Level(r3.Sub(m.At, weight.At)))
		sum += moves * moves
		all, together = all+more, r3.Add(together, r3.Scale(more, Level(r3.Sub(m.At, weight.At))))
	})
	return max(math.Sqrt(sum), r3.Norm(together)/(weight.Kg.Likely+all))
}

// Hanging gives what hangs on a limb, kg, by its place, from a place of it on to before another, m.
func (v *Tree) Hanging(i int, from, before float64) iter.Seq2[float64, float64] {
	return func(yield func(at, kg float64) bool) {
		for d := range v.Measured.Defects {
			hung := &v.Measured.Defects[d]
			if hung.Limb != v.Limbs[i].ID {
				continue
			}
			for at, kg := range hung.Hangs() {
				if at >= from && at < before && !yield(at, kg) {
					return
				}
			}
		}
	}
}

// Mass is an estimate with its place.
type Mass struct {
	Kg   wood.Range
	CogM float64 // along the piece from the cut
	At   r3.Vec  // in space

	Stem      wood.Range // of Kg: the stem's own wood
	GuessedKg float64    // of what is likely: limbs that nobody has measured
}

// BrushFrom is the share of a limb's length beyond which its brush grows (common practice,
// no source).
const BrushFrom = 1.0 / 3

// Known tells whether anything is known of it.
func (m *Mass) Known() bool { return m.Kg.Likely > 0 }

// heap gathers masses with their places: along a limb, and in space.
type heap struct {
	kg     wood.Range
	along  float64 // Σ m·s, likely
	moment r3.Vec
	guess  float64 // likely mass of what nobody has measured
}

func (h *heap) Add(kg wood.Range, along float64, at r3.Vec) {
	h.kg = wood.Range{Low: h.kg.Low + kg.Low, Likely: h.kg.Likely + kg.Likely, High: h.kg.High + kg.High}
	h.along += kg.Likely * along
	h.moment = r3.Add(h.moment, r3.Scale(kg.Likely, at))
}

// LimbTable is what the biomass table, or the eye, says of a whole limb with all that grows
// on it; nothing for a bare pole.
func (v *Tree) LimbTable(g *Limb) wood.Range {
	if g.Brush == job.BrushBare {
		return wood.Range{}
	}
	limb := timber.Limb{Group: v.Group, BasalDiameterM: g.DiameterM, LengthM: g.LengthM, MoisturePct: v.MoisturePct, InLeaf: v.Measured.InLeaf}
	kg := limb.Weigh().MassKg
	if g.MassKg != nil {
		kg = byEye(kg, kg.High, *g.MassKg, g.MassWhy)
	}
	return kg
}

// byEye is a mass that somebody judged, as wide as the estimate in its place. It is never lighter at its heavy end than what was measured,
// until somebody says why.
func byEye(estimate wood.Range, heavy, kg float64, why string) wood.Range {
	judged := estimate.Times(kg / estimate.Likely)
	if why == "" {
		judged.High = max(judged.High, heavy)
	}
	return judged
}

// How far a limb whose size is guessed may weigh less and more than it is likely to, beyond what the
// table leaves open: a fifth more or less of its diameter (common practice, no source).
const (
	GuessLess = 0.6
	GuessMore = 1.55
)

// AsGuessed widens the weight of a limb that nobody has measured.
func (g *Limb) AsGuessed(kg wood.Range) wood.Range {
	if g.Guess {
		kg.Low, kg.High = kg.Low*GuessLess, kg.High*GuessMore
	}
	return kg
}

// How far a stem may weigh less and more where its girths are offered: a twelfth more or less of its
// diameter.
const (
	offeredLess = 0.85
	offeredMore = 1.18
)

// Bare is the wood of a limb between two places, by its volume.
func (v *Tree) Bare(g *Limb, from, to float64) (kg wood.Range, cog float64) {
	pole := timber.Stem{Stations: []timber.Station{{AtM: from, DiameterM: g.DiameterAt(from)}, {AtM: to, DiameterM: g.DiameterAt(to)}}}
	weight := pole.Weigh(v.Density, timber.Frustum)
	return weight.MassKg, weight.CogM
}

// Brush is what a limb weighs beyond its own bare wood and the limbs that grow on it.
func (v *Tree) Brush(i int) wood.Range {
	g := &v.Limbs[i]
	if g.brushKg != nil {
		return *g.brushKg
	}
	kg := v.LimbTable(g)
	own, _ := v.Bare(g, 0, g.LengthM)
	kg = wood.Range{Low: kg.Low - own.Low, Likely: kg.Likely - own.Likely, High: kg.High - own.High}
	whole := v.whole()
	for k := range v.Limbs {
		if v.Limbs[k].Parent == i {
			sub := v.LimbMass(k, 0, &whole).Kg
			kg = wood.Range{Low: kg.Low - sub.Low, Likely: kg.Likely - sub.Likely, High: kg.High - sub.High}
		}
	}
	g.brushKg = &wood.Range{Low: max(0, kg.Low), Likely: max(0, kg.Likely), High: max(0, kg.High)}
	return *g.brushKg
}

// WeighBrush works out the brush of every limb, so that several may ask at once.
func (v *Tree) WeighBrush() {
	for i := range v.Limbs {
		v.Brush(i)
	}
}

// LimbMass weighs a limb from a cut to where it ends now: its bare wood by volume, its share
// of the brush, which grows on its outer part, the limbs that stand on it, and what hangs on
// it. So parts always make the whole, and the whole is never less than what is known of its
// parts.
func (v *Tree) LimbMass(i int, cut float64, now *Standing) Mass {
	g := &v.Limbs[i]
	end := now.Tips[i]
	if end <= cut {
		return Mass{At: g.At(cut)}
	}
	var h heap
	kg, cog := v.Bare(g, cut, end)
	h.Add(g.AsGuessed(kg), cog, g.At(cog))
	own := h.kg.Likely
	begins := BrushFrom * g.LengthM
	if from, to := max(cut, begins), end; to > from {
		middle := (from + to) / 2
		h.Add(g.AsGuessed(v.Brush(i).Times((to-from)/(g.LengthM-begins))), middle, g.At(middle))
		own = h.kg.Likely
	}
	if g.Guess {
		h.guess = own
	}
	for k := range v.Growing(i, cut, end, now) {
		more := v.LimbMass(k, 0, now)
		h.Add(more.Kg, v.Limbs[k].AtM, more.At)
		h.guess += more.GuessedKg
	}
	for at, kg := range v.Hanging(i, cut, end) {
		h.Add(wood.Range{Low: kg, Likely: kg, High: kg}, at, g.At(at))
	}
	cog = max(cut, min(end, h.along/h.kg.Likely))
	return Mass{Kg: h.kg, CogM: cog - cut, At: r3.Scale(1/h.kg.Likely, h.moment), GuessedKg: h.guess}
}

// fuller is how much more than straight from reading to reading the stem may weigh between two heights, kg: as a paraboloid, which between two
// girths has the mean of their areas; above its highest reading, where nobody has measured its top, one fills half of its cylinder where a cone
// fills a third. Stems lie between the two (forest mensuration, from memory). The nearer readings stand, the less they leave open.
func (v *Tree) fuller(from, to float64) (kg float64) {
	for i := 1; i < len(v.Stem.Stations); i++ {
		low, high := v.Stem.Stations[i-1], v.Stem.Stations[i]
		a, b := max(from, low.AtM), min(to, high.AtM)
		if a >= b {
			continue
		}
		square := func(z float64) float64 {
			return low.DiameterM*low.DiameterM - (low.DiameterM*low.DiameterM-high.DiameterM*high.DiameterM)*(z-low.AtM)/(high.AtM-low.AtM)
		}
		paraboloid := (square(a) + square(b)) / 2
		thick, _ := v.Stem.DiameterAt(a)
		thin, _ := v.Stem.DiameterAt(b)
		kg += v.Density.High * math.Pi / 4 * max(0, paraboloid-(thick*thick+thick*thin+thin*thin)/3) * (b - a) * v.Slant((a+b)/2)
	}
	return kg
}

// FarApart is how far apart readings of a stem are between which nobody knows how its cavity runs, m (common practice, no source).
const FarApart = 1.0

// Unread gives the stretches between readings far apart whose cavities differ, and the least and the most that the cavity may be there, as shares
// of the diameter: it may run on as wide as it is at one of them, or end there.
func (v *Tree) Unread(each func(low, high timber.Station, least, most float64)) {
	for i := 1; i < len(v.Stem.Stations); i++ {
		low, high := v.Stem.Stations[i-1], v.Stem.Stations[i]
		if low.CavityM != high.CavityM && high.AtM-low.AtM > FarApart {
			a, b := low.CavityM/low.DiameterM, high.CavityM/high.DiameterM
			each(low, high, min(a, b), max(a, b))
		}
	}
}

// hollow is how much more the stem may weigh between two heights, where its cavities end at their readings, and how much less, where they run
// on between them, kg.
func (v *Tree) hollow(from, to float64) (more, less float64) {
	v.Unread(func(low, high timber.Station, least, most float64) {
		a, b := max(from, low.AtM), min(to, high.AtM)
		if a >= b {
			return
		}
		thick, at := v.Stem.DiameterAt(a)
		thin, end := v.Stem.DiameterAt(b)
		square := func(from, to float64) float64 { return (from*from + from*to + to*to) / 3 }
		read, whole := square(at, end), square(thick, thin)
		length := (b - a) * v.Slant((a+b)/2) * math.Pi / 4
		more += v.Density.High * length * max(0, read-least*least*whole)
		less += v.Density.Low * length * max(0, most*most*whole-read)
	})
	return more, less
}

// StemMass weighs the stem above a cut with every limb that still stands there.
func (v *Tree) StemMass(cut float64, now *Standing) Mass {
	var kg wood.Range
	var moment r3.Vec
	add := func(more wood.Range, at r3.Vec) {
		kg = wood.Range{Low: kg.Low + more.Low, Likely: kg.Likely + more.Likely, High: kg.High + more.High}
		moment = r3.Add(moment, r3.Scale(more.Likely, at))
	}
	// From bend to bend of the axis: between them it is straight.
	for low := cut; low < now.Top-1e-9; {
		high := v.NextBend(low, now.Top)
		weight := v.Stem.WeighBetween(low, high, v.Density, timber.Frustum)
		add(weight.MassKg.Times(v.Slant(low)), v.OnStem(weight.CogM))
		low = high
	}
	kg.High += v.fuller(cut, now.Top)
	solid, hollow := v.hollow(cut, now.Top)
	kg.High, kg.Low = kg.High+solid, max(0, kg.Low-hollow)
	stem, guessed := kg, 0.0
	for k := range v.Growing(-1, cut, math.Inf(1), now) {
		more := v.LimbMass(k, 0, now)
		add(more.Kg, more.At)
		guessed += more.GuessedKg
	}
	at := r3.Scale(1/kg.Likely, moment)
	// Along the piece: a stem that leans or bends is longer than it is high.
	from := v.OnStem(cut)
	along := r3.Dot(r3.Sub(at, from), r3.Unit(r3.Sub(v.OnStem(now.Top), from)))
	return Mass{kg, max(1e-3, min(v.AlongStem(cut, now.Top), along)), at, stem, guessed}
}
