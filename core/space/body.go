package space

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/search"
)

// Part is a part of a piece: how far its middle is from the middle of the cut, as the piece
// stands before it is cut, and how far it reaches round that, m.
type Part struct {
	Off   r3.Vec
	R     float64
	Gap   float64 // to its neighbour along the wood
	WoodR float64 // what of it is wood, not brush
}

// mostBalls is the most parts that one limb, or the stem, is laid out in.
const mostBalls = 120

// BrushSpread is how far brush reaches to the side of its limb, as a share of the limb's
// length (common practice, no source, on the wide side).
const BrushSpread = 0.12

// Body lays out a piece in parts: its wood end to end with its thickness, brush as its
// spread, the limbs on it in their places.
func (p *Piece) Body() []Part {
	if p.body == nil {
		p.body = p.parts()
	}
	return p.body
}

func (p *Piece) parts() []Part {
	list := make([]Part, 0, 64)
	limb := func(k int, from float64) {
		g := &p.Limbs[k]
		long := p.Now.Tips[k] - from
		parts := int(max(1, min(mostBalls, math.Ceil(long/ballsApart))))
		for share := range search.Shares(parts) {
			s := from + long*share
			r := g.DiameterAt(s) / 2
			if g.Brush != job.BrushBare && s >= BrushFrom*g.LengthM {
				// To the side, not beyond the tip that was measured.
				r = max(r, min(BrushSpread*g.LengthM, g.LengthM-s))
			}
			list = append(list, Part{r3.Sub(g.At(s), p.Cut), r, long / float64(parts), g.DiameterAt(s) / 2})
		}
	}
	if self := p.Limb(); self >= 0 {
		limb(self, p.FromM)
	} else {
		parts := int(max(1, min(mostBalls, math.Ceil(p.Length()/ballsApart))))
		for share := range search.Shares(parts) {
			z := p.FromM + (p.ToM-p.FromM)*share
			outside, _ := p.Stem.DiameterAt(z)
			list = append(list, Part{r3.Sub(p.OnStem(z), p.Cut), outside / 2, (p.ToM - p.FromM) / float64(parts) * p.Slant(z), outside / 2})
		}
	}
	self, own := p.Limb(), p.Own()
	for k := range p.Limbs {
		if k != self && p.Now.Stands(k) && own(k) {
			limb(k, 0)
		}
	}
	return list
}

// Sweeps is how far from the middle of its cut a piece reaches that turns over it towards a level way: brush with its spread, a limb on the
// side of the fall and a stem that leans by more than they are high, m.
func (p *Piece) Sweeps(over r3.Vec) (far float64) {
	for _, b := range p.Body() {
		far = max(far, math.Hypot(r3.Dot(b.Off, over), b.Off.Z)+b.R-b.WoodR)
	}
	return far
}

// Farthest is how far from the middle of its cut a piece reaches whichever way it turns, m.
func (p *Piece) Farthest() (far float64) {
	for _, b := range p.Body() {
		far = max(far, r3.Norm(b.Off)+b.R-b.WoodR)
	}
	return far
}

// Brushless tells that nothing of a piece carries brush.
func (p *Piece) Brushless() bool {
	return !slices.ContainsFunc(p.Body(), func(b Part) bool { return b.R > b.WoodR })
}
