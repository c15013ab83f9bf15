package course

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
)

// Where a free piece comes down is spread by what nobody steers (common practice, no source):
// at least so far, m, and by a share of the height it falls from.
const (
	scatterM     = 0.5
	ScatterShare = 0.05
)

// flights are the angles from upright at which the hinge of a piece may let go: a narrow face
// closes early, an open one late.
var flights = [...]float64{50, 70, 90}

// FromGround is the height up to which a stem is felled standing on the ground: it tips
// over, and does not have to turn in the air, m.
const FromGround = 1.5

// Slides is the slope from which what comes down is said to slide or roll on, degrees; what has its brush on it holds on to twice that and
// more (common practice, no source).
const (
	Slides       = 10
	SlidesBrushy = 25
)

// layCell is how finely the ground is towards apart where a piece may lie, m.
const layCell = 0.15

// Lay is the ground that a free piece may lie on: all of its body, tipped over, thrown as it
// falls from up high, and scattered.
func (c *Course) Lay() []space.Disc {
	return c.Laid(c.Settings.FallTowardsDeg, c.goesAside())
}

// fanStep is how far apart a part of a piece is laid from bearing to bearing, m: nearer than the thinnest is wide.
const fanStep = 0.7

// Laid is the ground that a piece may lie on when it goes along any bearing from one over so many degrees: each part
// along as many of them as leave no gap where it lies.
func (c *Course) Laid(from, over float64) []space.Disc {
	height := max(0, c.Cut.Z)
	scatter := scatterM
	if height > FromGround {
		scatter = max(scatter, ScatterShare*height)
	} else {
		scatter = 0.1
	}
	body := c.Body()
	on := ground{discs: make([]space.Disc, 0, 2*len(body)), in: make(map[[2]int32]int, 2*len(body))}
	var out [len(flights)]float64
	if height > FromGround || c.Pick.What == job.WhatLimb {
		out = c.flight(height, c.steepest(from, over), c.Gyration(r3.Cross(space.Towards(c.Settings.FallTowardsDeg), r3.Vec{Z: 1})))
	}
	lies := c.lies(from + over/2)
	for _, b := range body {
		far := r3.Norm(b.Off) + max(0, slices.Max(out[:]))
		steps := math.Ceil(far * space.Radians(math.Abs(over)) / fanStep)
		for k := 0.0; k <= steps; k++ {
			c.layAlong(&b, space.Towards(from+over*k/max(1, steps)), out, lies, scatter, &on)
		}
	}
	slices.SortFunc(on.discs, func(a, b space.Disc) int {
		if a.X != b.X {
			return cmp.Compare(a.X, b.X)
		}
		return cmp.Compare(a.Y, b.Y)
	})
	return on.discs
}

// ground is where parts of a piece lie: a round for each cell of it, wide enough for all that lies there.
type ground struct {
	discs []space.Disc
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
	g.discs = append(g.discs, space.Disc{X: at.X, Y: at.Y, R: r})
}

// goesAside is how far aside of where it is towards a free piece may go, degrees: where its weight stands further to
// the side of its cut than a wedge brings it, all the way to there.
func (c *Course) goesAside() float64 {
	towards := c.Settings.FallTowardsDeg
	lever := space.Level(r3.Sub(c.Weight.At, c.Cut))
	if c.Pick.What == job.WhatLimb {
		return 0
	}
	_, wedge := c.Back()
	if math.Abs(r3.Dot(lever, r3.Cross(space.Towards(towards), r3.Vec{Z: 1}))) <= wedge {
		return 0
	}
	return math.Remainder(space.AzimuthOf(lever)-towards, 360)
}

// lies is how far a stem turns along a bearing until it lies, radians: further than a quarter turn where it leans back, where the ground falls
// away, and over a hinge above the ground.
func (c *Course) lies(bearing float64) float64 {
	over, back := space.Towards(bearing), 0.0
	for share := range search.Shares(20) {
		off := r3.Sub(c.Along(c.Length()*share), c.Cut)
		back = max(back, math.Atan2(-r3.Dot(off, over), max(0.01, off.Z)))
	}
	return math.Pi/2 + back + space.Radians(max(0, c.FallsAway(bearing))) + math.Asin(min(1, max(0, c.Cut.Z)/max(0.01, c.Length())))
}

// layAlong lays a part of the body down towards a bearing on the ground; out is how much further it
// may fly, lies how far the stem turns until it lies.
func (c *Course) layAlong(b *space.Part, over r3.Vec, out [len(flights)]float64, lies, scatter float64, on *ground) {
	across := r3.Cross(over, r3.Vec{Z: 1})
	height := max(0, c.Cut.Z)
	put := func(out, aside, r float64) {
		on.put(r3.Add(space.Level(c.Cut), r3.Add(r3.Scale(out, over), r3.Scale(aside, across))), r)
	}
	r := max(0.3, c.DiameterM/2, b.R) + scatter
	aside, forward, up := r3.Dot(b.Off, across), r3.Dot(b.Off, over), b.Off.Z
	switch {
	case c.Pick.What == job.WhatLimb:
		// It comes down as it grew, or swings out over its hinge first.
		put(forward, aside, r)
		put(math.Hypot(forward, up), aside, r)
		for _, thrown := range out {
			put(math.Hypot(forward, up)+max(0, thrown), aside, r)
		}
	case height <= FromGround:
		// It sweeps out as far as it is from the hinge, should the stem turn so far; what meets the ground before breaks or bends, and
		// comes to lie up to there.
		sweeps := math.Hypot(forward, up)
		if turns := math.Atan2(forward, up) + lies; turns < math.Pi/2 {
			sweeps *= math.Sin(turns)
		}
		strides := math.Ceil(math.Abs(sweeps-up) / fanStep)
		for k := 0.0; k <= strides; k++ {
			put(up+(sweeps-up)*k/max(1, strides), aside, r)
		}
	default:
		// In the air it may turn on.
		for _, thrown := range out {
			put(math.Hypot(forward, up)+thrown, aside, r)
		}
	}
}

// steepest is how steeply the ground falls away along the steepest of some bearings, as a slope; 0: along none.
func (c *Course) steepest(from, over float64) (slope float64) {
	for share := range search.Shares(8) {
		slope = max(slope, math.Tan(space.Radians(c.FallsAway(from+over*share))))
	}
	return slope
}

// ComesDown is when something comes down that begins so high above ground which falls away by a slope, so far out along it, m, and goes
// down and out so fast, m/s: seconds.
func ComesDown(height, down, out, outward, slope float64) float64 {
	// height + slope·(out + outward·t) = down·t + g·t²/2.
	closing := down - slope*outward
	return (math.Sqrt(closing*closing+2*units.Gravity*max(0, height+slope*out)) - closing) / units.Gravity
}

// flight is how much further out than laid down over its cut a stem piece lands, at the angles
// at which its hinge may let go, m: it turns over the hinge by its own weight, as heavily about its
// balance as is given, m, then flies, over ground that falls away by a slope.
func (c *Course) flight(height, slope, gyration float64) (out [len(flights)]float64) {
	cog := c.Weight.CogM
	from := space.Radians(c.OrientDeg)
	for i, angle := range flights {
		lets := max(from+0.01, space.Radians(angle))
		// About its cut: ω² = 2·g·c/(k² + c²)·(cos from − cos lets); of a slender rod 3g/L·(…), and no slower, as
		// nobody has weighed its brush.
		quick := max(3/max(0.3, c.Length()), 2*cog/max(0.03, gyration*gyration+cog*cog))
		spin := math.Sqrt(quick * units.Gravity * max(0, math.Cos(from)-math.Cos(lets)))
		forward, down := spin*cog*math.Cos(lets), spin*cog*math.Sin(lets)
		at := cog * math.Sin(lets)
		seconds := ComesDown(max(0, height+cog*math.Cos(lets)), down, at, max(0, forward), slope)
		out[i] = at + max(0, forward)*seconds - cog
	}
	return out
}

// A wedge lifts the back of a cut by so much, with so much force (common practice, no
// source).
const (
	WedgeLiftM  = 0.025
	WedgeLiftKn = 15
)

// Back is how far behind the middle of its cut the weight of a piece that is to tip stands, m,
// and how far a wedge brings it forward.
func (c *Course) Back() (behind, wedge float64) {
	lever := r3.Sub(c.Weight.At, c.Cut)
	behind = max(0, -r3.Dot(lever, space.Towards(c.Settings.FallTowardsDeg)))
	arm := 0.75 * c.DiameterM // from the hinge to the back
	if c.WeightKn()*behind/arm > WedgeLiftKn {
		return behind, 0
	}
	return behind, WedgeLiftM / arm * max(0, lever.Z)
}

// Tips names a piece that is to tip against its own weight.
func (c *Course) Tips() {
	if c.Pick.What == job.WhatLimb {
		return
	}
	if behind, wedge := c.Back(); behind > wedge+1e-9 {
		c.Fault(FaultBack, "its weight stands %s behind its cut, and a wedge brings it %s forward: it goes the other way, unless a line or a machine pulls it over", c.Height(behind), c.Height(wedge))
	}
}

// Falls notes the ground that a piece may come down on, held by nothing: past wood from its cut down, and past lines from as high as
// it reaches.
func (c *Course) Falls(on []space.Disc) {
	c.Lands = &Lands{Discs: on, FromM: c.Cut.Z, HighestM: c.highest()}
}

// GoesOver notes the ground that a tree may come down on that stands on its hinge: past wood and lines from as high as it reaches.
func (c *Course) GoesOver(on []space.Disc) {
	// What leans back or grows behind the hinge goes up before it comes down.
	top := max(c.highest(), c.Cut.Z+c.Sweeps(space.Towards(c.Settings.FallTowardsDeg)))
	c.Lands = &Lands{Discs: on, FromM: top, HighestM: top}
}

// highest is how high a piece reaches that stands on its cut; of a limb, as high as it grows.
func (c *Course) highest() float64 {
	if c.Pick.What != job.WhatLimb {
		return c.Cut.Z + c.ReachM
	}
	top := c.Cut.Z
	for _, b := range c.Body() {
		top = max(top, c.Cut.Z+b.Off.Z)
	}
	return top
}
