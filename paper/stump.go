package paper

import (
	"fmt"
	"math"

	"elkstay/core/course"
	"elkstay/core/units"
)

// Stump draws the cut of a felling to scale, from above with the fall upwards and from its left
// side, every measure in both systems.
func Stump(fell *course.FellFigures, w, h float64) *Scene {
	size := math.Min((w-3*beside)/2, h-18)
	c := &stumpCard{Scene: &Scene{W: w, H: h, Title: "The stump, from above and from its left side, to scale"}, fell: fell,
		size: size, scale: size / fell.DiameterM, r: size / 2, left: beside, top: 8}
	c.cx, c.cy = c.left+c.r, c.top+c.r
	c.above()
	c.measures()
	c.fromLeft()
	return c.Scene
}

// beside is what the measures take at either side, mm.
const beside = 36.0

// A stumpCard is a stump on its way onto paper, all in mm.
type stumpCard struct {
	*Scene
	fell      *course.FellFigures
	size      float64 // of the stump
	scale     float64 // for a metre
	r         float64
	left, top float64
	cx, cy    float64 // its middle, from above
}

// bothUnits writes a measure in metric and in US units.
func bothUnits(m float64) string {
	return units.Print(units.Diameter, units.Metric, m) + " · " + units.Print(units.Diameter, units.US, m)
}

// across is half of the stump's width at a height of the drawing.
func (c *stumpCard) across(y float64) float64 {
	return math.Sqrt(math.Max(0, c.r*c.r-(y-c.cy)*(y-c.cy)))
}

// slab draws part of the round stump between two heights of the drawing, the lower edge running from
// one side to the other.
func (c *stumpCard) slab(fill, stroke tone, from, toLeft, toRight, x0, x1 float64) {
	const parts = 24
	var points [][2]float64
	at := func(x, y float64) {
		half := math.Sqrt(math.Max(0, c.r*c.r-(x-c.cx)*(x-c.cx)))
		points = append(points, [2]float64{x, math.Max(c.cy-half, math.Min(c.cy+half, y))})
	}
	for k := range parts + 1 {
		at(x0+(x1-x0)*float64(k)/parts, from)
	}
	for k := parts; k >= 0; k-- {
		share := float64(k) / parts
		x := x0 + (x1-x0)*share
		whole := (x - (c.cx - c.r)) / (2 * c.r)
		at(x, toLeft+(toRight-toLeft)*whole)
	}
	c.area(fill, stroke, 0.3, points...)
}

// above draws its cuts from above.
func (c *stumpCard) above() {
	c.disc(wood, ink, 0.5, c.cx, c.cy, c.r)
	front := c.top + c.fell.FaceDepthM*c.scale
	backLeft, backRight := front+c.fell.LeftM*c.scale, front+c.fell.RightM*c.scale
	c.slab(paper, ink, c.cy-c.r, front, front, c.cx-c.across(front), c.cx+c.across(front))
	half := (c.fell.Hinge.ChordM/2 + c.fell.NicksM) * c.scale
	x0, x1 := c.cx-half+c.fell.NicksM*c.scale, c.cx+half-c.fell.NicksM*c.scale
	if hole := c.fell.Hinge.HoleM * c.scale; hole > 0 {
		c.slab(accent, ink, front, backLeft, backRight, x0, c.cx-hole/2)
		c.slab(accent, ink, front, backLeft, backRight, c.cx+hole/2, x1)
	} else {
		c.slab(accent, ink, front, backLeft, backRight, x0, x1)
	}
	if c.fell.CavityM > 0 {
		c.disc(none, ink, 0.3, c.cx, c.cy, c.fell.CavityM/2*c.scale)
	}
	if c.fell.StrapM != nil {
		y := c.cy + c.r - *c.fell.StrapM*c.scale
		c.line(accent, 0.8, [2]float64{c.cx - c.across(y), y}, [2]float64{c.cx + c.across(y), y})
		c.write(ink, 3.4, c.cx, c.cy+c.r-1, 0, "strap "+bothUnits(*c.fell.StrapM))
	}
	c.line(accent, 0.7, [2]float64{c.cx, c.top - 0.6}, [2]float64{c.cx, 1.6})
	c.line(accent, 0.7, [2]float64{c.cx - 1.4, 3.6}, [2]float64{c.cx, 1.4}, [2]float64{c.cx + 1.4, 3.6})
	c.write(accent, 3.2, c.cx+2.6, 4.4, -1, "falls").bold = true
}

// dimension draws a measure between two heights.
func (c *stumpCard) dimension(x, y0, y1 float64, align int, text string) {
	c.line(ink, 0.2, [2]float64{x, y0}, [2]float64{x, y1})
	for _, y := range []float64{y0, y1} {
		c.line(ink, 0.3, [2]float64{x - 0.8, y}, [2]float64{x + 0.8, y})
	}
	c.write(ink, 3.4, x+1.4*float64(-align), (y0+y1)/2+1, align, text)
}

func (c *stumpCard) measures() {
	front := c.top + c.fell.FaceDepthM*c.scale
	backLeft, backRight := front+c.fell.LeftM*c.scale, front+c.fell.RightM*c.scale
	c.dimension(c.left-2, c.top, front, 1, bothUnits(c.fell.FaceDepthM))
	c.dimension(c.left-2, front, backLeft+0.001, 1, "")
	c.write(ink, 3.4, c.left-3.4, math.Max(backLeft, front+4.4), 1, bothUnits(c.fell.LeftM))
	c.write(ink, 3.4, c.left+c.size+1.4, backRight+1, -1, bothUnits(c.fell.RightM))
	c.write(ink, 3.4, c.left+c.size+1.4, c.cy+c.r*0.55, -1, "back cut")
	c.write(ink, 3.4, c.left+c.size+1.4, c.cy+c.r*0.55+4.4, -1, bothUnits(c.fell.BackCutM))
	c.write(ink, 3.4, c.cx, c.top+c.size+5, 0, "hinge "+bothUnits(c.fell.Hinge.ChordM)+" wide")
	c.write(ink, 3.4, c.cx, c.top+c.size+9.4, 0, "stump "+bothUnits(c.fell.DiameterM)+" through")
}

// fromLeft draws it from its left, the fall to the right.
func (c *stumpCard) fromLeft() {
	at := c.left + c.size + beside*1.1
	level := c.top + c.size*0.62
	apex := at + c.size - c.fell.FaceDepthM*c.scale
	mouth := math.Min(c.size*0.55, c.fell.MouthM*c.scale)
	if c.fell.UpsideDown {
		mouth = -math.Min(c.size*0.36, c.fell.MouthM*c.scale)
	}
	back := apex - (c.fell.LeftM+c.fell.RightM)/2*c.scale
	up := c.fell.BackUpM * c.scale
	c.area(wood, none, 0, [2]float64{at, c.top}, [2]float64{at + c.size, c.top}, [2]float64{at + c.size, c.top + c.size}, [2]float64{at, c.top + c.size})
	c.area(paper, ink, 0.4, [2]float64{at + c.size, level}, [2]float64{apex, level}, [2]float64{at + c.size, level - mouth})
	c.line(ink, 0.5, [2]float64{at, c.top}, [2]float64{at, c.top + c.size})
	c.line(ink, 0.5, [2]float64{at + c.size, c.top}, [2]float64{at + c.size, math.Min(level, level-mouth)})
	c.line(ink, 0.5, [2]float64{at + c.size, math.Max(level, level-mouth)}, [2]float64{at + c.size, c.top + c.size})
	strap := 0.0
	if c.fell.StrapM != nil {
		strap = *c.fell.StrapM * c.scale
	}
	c.line(ink, 0.9, [2]float64{at + strap, level - up}, [2]float64{back, level - up})
	c.area(accent, ink, 0.2, [2]float64{back, level - up - 0.6}, [2]float64{apex, level - up - 0.6}, [2]float64{apex, level + 0.6}, [2]float64{back, level + 0.6})
	c.write(ink, 3.4, at+c.size+1.4, level-mouth/2, -1, bothUnits(c.fell.MouthM))
	c.write(ink, 3.4, at+c.size+1.4, level-mouth/2+4.4, -1, fmt.Sprintf("open %.0f°", c.fell.OpeningDeg))
	c.write(ink, 3.4, at+1.5, level-up-1.6, -1, "up "+bothUnits(c.fell.BackUpM))
	c.write(ink, 3.4, at+c.r, c.top+c.size+5, 0, "from its left")
}
