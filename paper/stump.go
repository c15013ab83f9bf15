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
	s := &Scene{W: w, H: h, Title: "The stump, from above and from its left side, to scale"}
	both := func(m float64) string {
		return units.Print(units.Diameter, units.Metric, m) + " · " + units.Print(units.Diameter, units.US, m)
	}
	const beside = 36.0 // mm for the measures at either side
	size := math.Min((w-3*beside)/2, h-18)
	scale := size / fell.DiameterM
	r := size / 2
	left, top := beside, 8.0
	cx, cy := left+r, top+r
	across := func(y float64) float64 { return math.Sqrt(math.Max(0, r*r-(y-cy)*(y-cy))) }
	// Part of the round stump between two heights of the drawing, the lower edge running from one
	// side to the other.
	slab := func(fill, stroke tone, from, toLeft, toRight, x0, x1 float64) {
		const parts = 24
		var points [][2]float64
		at := func(x, y float64) {
			half := math.Sqrt(math.Max(0, r*r-(x-cx)*(x-cx)))
			points = append(points, [2]float64{x, math.Max(cy-half, math.Min(cy+half, y))})
		}
		for k := range parts + 1 {
			at(x0+(x1-x0)*float64(k)/parts, from)
		}
		for k := parts; k >= 0; k-- {
			share := float64(k) / parts
			x := x0 + (x1-x0)*share
			whole := (x - (cx - r)) / (2 * r)
			at(x, toLeft+(toRight-toLeft)*whole)
		}
		s.area(fill, stroke, 0.3, points...)
	}
	s.disc(wood, ink, 0.5, cx, cy, r)
	front := top + fell.FaceDepthM*scale
	backLeft, backRight := front+fell.LeftM*scale, front+fell.RightM*scale
	slab(paper, ink, cy-r, front, front, cx-across(front), cx+across(front))
	half := (fell.Hinge.ChordM/2 + fell.NicksM) * scale
	x0, x1 := cx-half+fell.NicksM*scale, cx+half-fell.NicksM*scale
	if hole := fell.Hinge.HoleM * scale; hole > 0 {
		slab(accent, ink, front, backLeft, backRight, x0, cx-hole/2)
		slab(accent, ink, front, backLeft, backRight, cx+hole/2, x1)
	} else {
		slab(accent, ink, front, backLeft, backRight, x0, x1)
	}
	if fell.CavityM > 0 {
		s.disc(none, ink, 0.3, cx, cy, fell.CavityM/2*scale)
	}
	if fell.StrapM != nil {
		y := cy + r - *fell.StrapM*scale
		s.line(accent, 0.8, [2]float64{cx - across(y), y}, [2]float64{cx + across(y), y})
		s.write(ink, 3.4, cx, cy+r-1, 0, "strap "+both(*fell.StrapM))
	}
	s.line(accent, 0.7, [2]float64{cx, top - 0.6}, [2]float64{cx, 1.6})
	s.line(accent, 0.7, [2]float64{cx - 1.4, 3.6}, [2]float64{cx, 1.4}, [2]float64{cx + 1.4, 3.6})
	s.write(accent, 3.2, cx+2.6, 4.4, -1, "falls").bold = true
	dimension := func(x, y0, y1 float64, align int, text string) {
		s.line(ink, 0.2, [2]float64{x, y0}, [2]float64{x, y1})
		for _, y := range []float64{y0, y1} {
			s.line(ink, 0.3, [2]float64{x - 0.8, y}, [2]float64{x + 0.8, y})
		}
		s.write(ink, 3.4, x+1.4*float64(-align), (y0+y1)/2+1, align, text)
	}
	dimension(left-2, top, front, 1, both(fell.FaceDepthM))
	dimension(left-2, front, backLeft+0.001, 1, "")
	s.write(ink, 3.4, left-3.4, math.Max(backLeft, front+4.4), 1, both(fell.LeftM))
	s.write(ink, 3.4, left+size+1.4, backRight+1, -1, both(fell.RightM))
	s.write(ink, 3.4, left+size+1.4, cy+r*0.55, -1, "back cut")
	s.write(ink, 3.4, left+size+1.4, cy+r*0.55+4.4, -1, both(fell.BackCutM))
	s.write(ink, 3.4, cx, top+size+5, 0, "hinge "+both(fell.Hinge.ChordM)+" wide")
	s.write(ink, 3.4, cx, top+size+9.4, 0, "stump "+both(fell.DiameterM)+" through")

	// From its left, the fall to the right.
	at := left + size + beside*1.1
	level := top + size*0.62
	apex := at + size - fell.FaceDepthM*scale
	mouth := math.Min(size*0.55, fell.MouthM*scale)
	if fell.UpsideDown {
		mouth = -math.Min(size*0.36, fell.MouthM*scale)
	}
	back := apex - (fell.LeftM+fell.RightM)/2*scale
	up := fell.BackUpM * scale
	s.area(wood, none, 0, [2]float64{at, top}, [2]float64{at + size, top}, [2]float64{at + size, top + size}, [2]float64{at, top + size})
	s.area(paper, ink, 0.4, [2]float64{at + size, level}, [2]float64{apex, level}, [2]float64{at + size, level - mouth})
	s.line(ink, 0.5, [2]float64{at, top}, [2]float64{at, top + size})
	s.line(ink, 0.5, [2]float64{at + size, top}, [2]float64{at + size, math.Min(level, level-mouth)})
	s.line(ink, 0.5, [2]float64{at + size, math.Max(level, level-mouth)}, [2]float64{at + size, top + size})
	strap := 0.0
	if fell.StrapM != nil {
		strap = *fell.StrapM * scale
	}
	s.line(ink, 0.9, [2]float64{at + strap, level - up}, [2]float64{back, level - up})
	s.area(accent, ink, 0.2, [2]float64{back, level - up - 0.6}, [2]float64{apex, level - up - 0.6}, [2]float64{apex, level + 0.6}, [2]float64{back, level + 0.6})
	s.write(ink, 3.4, at+size+1.4, level-mouth/2, -1, both(fell.MouthM))
	s.write(ink, 3.4, at+size+1.4, level-mouth/2+4.4, -1, fmt.Sprintf("open %.0f°", fell.OpeningDeg))
	s.write(ink, 3.4, at+1.5, level-up-1.6, -1, "up "+both(fell.BackUpM))
	s.write(ink, 3.4, at+r, top+size+5, 0, "from its left")
	return s
}
