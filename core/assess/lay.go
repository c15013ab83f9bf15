package assess

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/units"
)

// Where a free piece comes down is spread by what nobody steers (common practice, no source):
// at least so far, m, and by a share of the height it falls from.
const (
	scatterM     = 0.5
	scatterShare = 0.05
)

// flights are the angles from upright at which the hinge of a piece may let go: a narrow face
// closes early, an open one late.
var flights = [...]float64{50, 70, 90}

// layCell is how finely the ground is told apart where a piece may lie, m.
const layCell = 0.15

// lay is the ground that a free piece may lie on: all of its body, tipped over, thrown as it
// falls from up high, and scattered.
func (v *Survey) lay(o *Outcome, now *Standing) []Disc {
	return v.laid(o, now, o.Settings.FallTowardsDeg, v.goesAside(o))
}

// fanStep is how far apart a part of a piece is laid from bearing to bearing, m: nearer than the thinnest is wide.
const fanStep = 0.7

// laid is the ground that a piece may lie on when it goes along any bearing from one over so many degrees: each part
// along as many of them as leave no gap where it lies.
func (v *Survey) laid(o *Outcome, now *Standing, from, over float64) []Disc {
	height := max(0, o.cut.Z)
	scatter := scatterM
	if height > fromGround {
		scatter = max(scatter, scatterShare*height)
	} else {
		scatter = 0.1
	}
	body := v.body(o, now)
	on := ground{discs: make([]Disc, 0, 2*len(body)), in: make(map[[2]int32]int, 2*len(body))}
	var out [len(flights)]float64
	if height > fromGround || o.pick.What == job.WhatLimb {
		out = o.flight(height, v.gyration(o, r3.Cross(towards(o.Settings.FallTowardsDeg), r3.Vec{Z: 1}), now))
	}
	for _, b := range body {
		far := r3.Norm(b.off) + max(0, slices.Max(out[:]))
		steps := math.Ceil(far * radians(math.Abs(over)) / fanStep)
		for k := 0.0; k <= steps; k++ {
			o.layAlong(&b, towards(from+over*k/max(1, steps)), out, scatter, &on)
		}
	}
	slices.SortFunc(on.discs, func(a, b Disc) int {
		if a.X != b.X {
			return cmp.Compare(a.X, b.X)
		}
		return cmp.Compare(a.Y, b.Y)
	})
	return on.discs
}

// ground is where parts of a piece lie: a round for each cell of it, wide enough for all that lies there.
type ground struct {
	discs []Disc
	in    map[[2]int32]int // the cell's round
}

func (g *ground) put(at r3.Vec, r float64) {
	cell := [2]int32{int32(math.Floor(at.X / layCell)), int32(math.Floor(at.Y / layCell))}
	if k, seen := g.in[cell]; seen {
		was := &g.discs[k]
		x, y := at.X-was.X, at.Y-was.Y
		was.R = max(was.R, math.Sqrt(x*x+y*y)+r)
		return
	}
	g.in[cell] = len(g.discs)
	g.discs = append(g.discs, Disc{at.X, at.Y, r})
}

// goesAside is how far aside of where it is told a free piece may go, degrees: where its weight stands further to
// the side of its cut than a wedge brings it, all the way to there.
func (v *Survey) goesAside(o *Outcome) float64 {
	told := o.Settings.FallTowardsDeg
	lever := level(r3.Sub(o.Weight.at, o.cut))
	if o.pick.What == job.WhatLimb {
		return 0
	}
	_, wedge := o.back()
	if math.Abs(r3.Dot(lever, r3.Cross(towards(told), r3.Vec{Z: 1}))) <= wedge {
		return 0
	}
	return math.Remainder(azimuthOf(lever)-told, 360)
}

// layAlong lays a part of the body down towards a bearing on the ground; out is how much further it
// may fly.
func (o *Outcome) layAlong(b *ball, over r3.Vec, out [len(flights)]float64, scatter float64, on *ground) {
	across := r3.Cross(over, r3.Vec{Z: 1})
	height := max(0, o.cut.Z)
	put := func(out, aside, r float64) {
		on.put(r3.Add(level(o.cut), r3.Add(r3.Scale(out, over), r3.Scale(aside, across))), r)
	}
	r := max(0.3, o.diameter/2, b.r) + scatter
	aside, forward, up := r3.Dot(b.off, across), r3.Dot(b.off, over), b.off.Z
	switch {
	case o.pick.What == job.WhatLimb:
		// It comes down as it grew, or swings out over its hinge first.
		put(forward, aside, r)
		put(math.Hypot(forward, up), aside, r)
		for _, thrown := range out {
			put(math.Hypot(forward, up)+max(0, thrown), aside, r)
		}
	case height <= fromGround:
		put(up, aside, r)
	default:
		for _, thrown := range out {
			put(up+thrown, aside, r)
		}
	}
}

// flight is how much further out than laid down over its cut a stem piece lands, at the angles
// at which its hinge may let go, m: it turns over the hinge by its own weight, as heavily about its
// balance as is given, m, then flies.
func (o *Outcome) flight(height, gyration float64) (out [len(flights)]float64) {
	cog := o.Weight.cog
	from := radians(o.orient)
	for i, angle := range flights {
		lets := max(from+0.01, radians(angle))
		// About its cut: ω² = 2·g·c/(k² + c²)·(cos from − cos lets); of a slender rod 3g/L·(…), and no slower, as
		// nobody has weighed its brush.
		quick := max(3/max(0.3, o.Length()), 2*cog/max(0.03, gyration*gyration+cog*cog))
		spin := math.Sqrt(quick * units.Gravity * max(0, math.Cos(from)-math.Cos(lets)))
		forward, down := spin*cog*math.Cos(lets), spin*cog*math.Sin(lets)
		drop := max(0, height+cog*math.Cos(lets))
		seconds := (math.Sqrt(down*down+2*units.Gravity*drop) - down) / units.Gravity
		out[i] = cog*math.Sin(lets) + max(0, forward)*seconds - cog
	}
	return out
}

// A wedge lifts the back of a cut by so much, with so much force (common practice, no
// source).
const (
	wedgeLiftM  = 0.025
	wedgeLiftKn = 15
)

// back is how far behind the middle of its cut the weight of a piece that is to tip stands, m,
// and how far a wedge brings it forward.
func (o *Outcome) back() (behind, wedge float64) {
	lever := r3.Sub(o.Weight.at, o.cut)
	behind = max(0, -r3.Dot(lever, towards(o.Settings.FallTowardsDeg)))
	arm := 0.75 * o.diameter // from the hinge to the back
	if o.weightKn()*behind/arm > wedgeLiftKn {
		return behind, 0
	}
	return behind, wedgeLiftM / arm * max(0, lever.Z)
}

// tips names a piece that is to tip against its own weight.
func (v *Survey) tips(o *Outcome) {
	if o.pick.What == job.WhatLimb {
		return
	}
	if behind, wedge := o.back(); behind > wedge+1e-9 {
		o.fault(faultBack, "its weight stands %s behind its cut, and a wedge brings it %s forward: it goes the other way, unless a line or a machine pulls it over", v.Height(behind), v.Height(wedge))
	}
}
