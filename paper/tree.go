package paper

import (
	"fmt"
	"math"
	"strconv"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/timber"
	"elkstay/core/units"
)

// looking is an elevation: which way is to the right, and its scale.
type looking struct {
	right     float64 // azimuth, radians
	scale     float64 // mm to the metre
	axis, sea float64 // where the foot stands, mm
	foot      job.Spot
}

func (l *looking) put(x, y, z float64) [2]float64 {
	across := (x-l.foot.X)*math.Sin(l.right) + (y-l.foot.Y)*math.Cos(l.right)
	return [2]float64{l.axis + across*l.scale, l.sea - z*l.scale}
}

// Tree draws the tree in elevation with its numbered picks, looking north.
func Tree(document *job.Job, a *assess.Assessment, system units.System, w, h float64) *Scene {
	s := &Scene{W: w, H: h, Title: document.Name + ", the tree with numbered picks, looking north"}
	foot, drawn := job.Spot{}, false
	top, left, right := 0.0, -2.0, 2.0
	for i := range a.Trees {
		shape := &a.Trees[i].Shape
		if len(shape.Stem) < 2 {
			continue
		}
		if !drawn {
			foot, drawn = job.Spot{X: shape.Foot.X, Y: shape.Foot.Y}, true
		}
		take := func(p [4]float64) {
			top = math.Max(top, p[2])
			left, right = math.Min(left, p[0]-foot.X), math.Max(right, p[0]-foot.X)
		}
		for _, p := range shape.Stem {
			take(p)
		}
		for _, limb := range shape.Limbs {
			for _, p := range limb.Points {
				take(p)
			}
		}
	}
	if !drawn {
		s.write(faint, 4, w/2, h/2, 0, "No tree yet")
		return s
	}
	const below, margin = 9.0, 12.0
	l := &looking{right: math.Pi / 2, foot: foot}
	l.scale = math.Min((h-below-6)/(top+0.5), (w-2*margin)/(right-left))
	l.axis, l.sea = margin+(w-2*margin-(right-left)*l.scale)/2-left*l.scale, h-below
	s.rule(l, top, system)
	s.targets(l, document)
	for i := range a.Trees {
		s.limbs(l, &a.Trees[i])
		s.stem(l, &a.Trees[i])
	}
	s.numbers(l, a)
	return s
}

// rule draws the ground, the heights and the scale.
func (s *Scene) rule(l *looking, top float64, system units.System) {
	foot := units.UnitFor(units.Height, system).Factor
	step := 2.0
	if system == units.US {
		step = 5 * foot
	}
	for z := step; z < top+0.5; z += step {
		y := l.sea - z*l.scale
		s.line(hair, 0.12, [2]float64{8, y}, [2]float64{s.W - 2, y})
		s.write(faint, 2.3, 7, y+0.8, 1, strconv.Itoa(int(math.Round(z/foot))))
	}
	s.line(ink, 0.4, [2]float64{0, l.sea}, [2]float64{s.W, l.sea})
	for x := 2.0; x < s.W; x += 4 {
		s.line(faint, 0.15, [2]float64{x, l.sea + 0.3}, [2]float64{x - 1.2, l.sea + 1.7})
	}
	long := step * l.scale
	s.line(ink, 0.4, [2]float64{s.W - 4 - long, s.H - 2.5}, [2]float64{s.W - 4, s.H - 2.5})
	s.write(ink, 2.6, s.W-4-long/2, s.H-3.4, 0, units.Print(units.Height, system, step))
	s.write(faint, 2.4, 1, s.H-1.6, -1, fmt.Sprintf("looking north · heights in %s", units.UnitFor(units.Height, system).Label))
}

// targets draws what stands around.
func (s *Scene) targets(l *looking, document *job.Job) {
	for i := range document.Site.Targets {
		t := &document.Site.Targets[i]
		corners := t.Corners()
		if len(corners) == 0 || t.Kind == "ground" || t.Kind == "road" || t.Kind == "water" {
			continue
		}
		a, b := math.Inf(1), math.Inf(-1)
		for _, c := range corners {
			x := l.put(c.X, c.Y, 0)[0]
			a, b = math.Min(a, x), math.Max(b, x)
		}
		a, b = math.Max(a, 8), math.Min(b, s.W-1)
		if b-a < 0.5 {
			continue
		}
		low, high := l.sea-math.Max(0, t.FromM)*l.scale, l.sea-t.ToM*l.scale
		m := s.area(solid, faint, 0.25, [2]float64{a, low}, [2]float64{a, high}, [2]float64{b, high}, [2]float64{b, low})
		if t.Kind == "power-line" {
			m.fill, m.stroke = barred, danger
		}
		if t.Kind == "tree" || t.Kind == "shrub" {
			m.dash = []float64{1.2, 0.8}
		}
		s.write(ink, 2.5, a+1, high+2.9, -1, t.Name)
	}
}

func (s *Scene) limbs(l *looking, a *assess.TreeFigures) {
	for _, limb := range a.Shape.Limbs {
		left, right := [][2]float64{}, [][2]float64{}
		for i, p := range limb.Points {
			at := l.put(p[0], p[1], p[2])
			next := limb.Points[min(i+1, len(limb.Points)-1)]
			prev := limb.Points[max(i-1, 0)]
			b, c := l.put(prev[0], prev[1], prev[2]), l.put(next[0], next[1], next[2])
			dx, dy := c[0]-b[0], c[1]-b[1]
			n := math.Max(1e-6, math.Hypot(dx, dy))
			half := math.Max(0.15, p[3]*l.scale/2)
			left = append(left, [2]float64{at[0] - dy/n*half, at[1] + dx/n*half})
			right = append([][2]float64{{at[0] + dy/n*half, at[1] - dx/n*half}}, right...)
			if i*2 >= len(limb.Points) {
				// Brush on the outer half, as a field sketch has it.
				for side := -1.0; side < 2; side += 2 {
					s.line(leaf, 0.18, at, [2]float64{at[0] + (dx/n*1.6 + side*dy/n*1.3), at[1] + (dy/n*1.6 - side*dx/n*1.3)})
				}
			}
		}
		s.area(wood, ink, 0.22, append(left, right...)...)
	}
}

func (s *Scene) stem(l *looking, a *assess.TreeFigures) {
	left, right := [][2]float64{}, [][2]float64{}
	hollow := [2][][2]float64{}
	if len(a.Shape.Stem) < 2 {
		return
	}
	for _, p := range a.Shape.Stem {
		at := l.put(p[0], p[1], p[2])
		half := p[3] * l.scale / 2
		left = append(left, [2]float64{at[0] - half, at[1]})
		right = append([][2]float64{{at[0] + half, at[1]}}, right...)
		if cavity := cavityAt(a.Stem, p[2]); cavity > 0 {
			inner := cavity * l.scale / 2
			hollow[0] = append(hollow[0], [2]float64{at[0] - inner, at[1]})
			hollow[1] = append(hollow[1], [2]float64{at[0] + inner, at[1]})
		}
	}
	s.area(wood, ink, 0.35, append(left, right...)...)
	for _, side := range hollow {
		if len(side) > 1 {
			s.line(ink, 0.2, side...).dash = []float64{1, 0.7}
		}
	}
}

// cavityAt is the cavity measured at a height; 0: none was.
func cavityAt(stem []timber.Station, z float64) float64 {
	for _, station := range stem {
		if station.AtM == z {
			return station.CavityM
		}
	}
	return 0
}

// numbers marks each pick where its piece is, moved aside where two would cover one
// another.
func (s *Scene) numbers(l *looking, a *assess.Assessment) {
	const r = 2.3
	taken := [][2]float64{}
	for i := range a.Picks {
		middle := a.Picks[i].Middle
		if middle == nil {
			continue
		}
		home := l.put(middle.X, middle.Y, middle.Z)
		at := home
		for turn := 0; turn < 48 && near(taken, at, 2*r+0.2); turn++ {
			angle, off := float64(turn)*2.4, 2.2+0.35*float64(turn)
			at = [2]float64{math.Max(10, math.Min(s.W-r, home[0]+off*math.Cos(angle))), math.Max(r, math.Min(l.sea-r, home[1]+off*math.Sin(angle)))}
		}
		taken = append(taken, at)
		if at != home {
			s.line(accent, 0.2, home, at)
		}
		tint := accent
		if a.Picks[i].Done {
			tint = faint
		}
		s.disc(paper, tint, 0.35, at[0], at[1], r)
		s.write(ink, 2.6, at[0], at[1]+0.95, 0, strconv.Itoa(i+1)).bold = true
	}
}

func near(taken [][2]float64, at [2]float64, within float64) bool {
	for _, t := range taken {
		if math.Hypot(t[0]-at[0], t[1]-at[1]) < within {
			return true
		}
	}
	return false
}
