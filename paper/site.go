package paper

import (
	"math"
	"strconv"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/units"
)

// Site draws the plan: zones, what must not be hit, anchors, cranes, ways out and who
// stands where. North is up.
func Site(document *job.Job, a *assess.Assessment, system units.System, w, h float64) *Scene {
	s := &Scene{W: w, H: h, Title: document.Name + ", plan of the site, north up"}
	foot := document.Trees[0].Foot()
	min, max := foot, foot
	take := func(spots ...job.Spot) {
		for _, p := range spots {
			min.X, min.Y = math.Min(min.X, p.X), math.Min(min.Y, p.Y)
			max.X, max.Y = math.Max(max.X, p.X), math.Max(max.Y, p.Y)
		}
	}
	take(job.Spot{X: foot.X - 5, Y: foot.Y - 5}, job.Spot{X: foot.X + 5, Y: foot.Y + 5})
	for i := range document.Site.Zones {
		take(document.Site.Zones[i].Outline...)
	}
	for i := range document.Site.Targets {
		take(document.Site.Targets[i].Corners()...)
	}
	for i := range document.Site.Anchors {
		take(document.Site.Anchors[i].At)
	}
	for i := range document.Site.Cranes {
		take(document.Site.Cranes[i].At)
	}
	for i := range document.Site.Posts {
		take(document.Site.Posts[i].At)
	}
	for i := range document.Site.Escapes {
		take(document.Site.Escapes[i].Outline...)
	}
	for i := range a.Trees {
		take(document.Trees[i].Foot())
		for _, limb := range a.Trees[i].Shape.Limbs {
			for _, p := range limb.Points {
				take(job.Spot{X: p[0], Y: p[1]})
			}
		}
	}
	scale := math.Min((w-10)/(max.X-min.X), (h-12)/(max.Y-min.Y))
	left := (w-(max.X-min.X)*scale)/2 - min.X*scale
	bottom := 4 + (h-10-(max.Y-min.Y)*scale)/2 + max.Y*scale
	put := func(p job.Spot) [2]float64 { return [2]float64{left + p.X*scale, bottom - p.Y*scale} }
	line := func(spots []job.Spot) [][2]float64 {
		points := make([][2]float64, len(spots))
		for i := range spots {
			points[i] = put(spots[i])
		}
		return points
	}
	label := func(points [][2]float64, tint tone, text string) {
		x, y := 0.0, 0.0
		for _, p := range points {
			x, y = x+p[0]/float64(len(points)), y+p[1]/float64(len(points))
		}
		s.write(tint, 2.7, x, y+0.9, 0, text)
	}
	for i := range document.Site.Sectors {
		sector := &document.Site.Sectors[i]
		sweep := math.Mod(sector.ToDeg-sector.FromDeg+360, 360)
		points := [][2]float64{put(foot)}
		for k := range 25 {
			at := (sector.FromDeg + sweep*float64(k)/24) * math.Pi / 180
			points = append(points, put(job.Spot{X: foot.X + reach(foot, min, max)*math.Sin(at), Y: foot.Y + reach(foot, min, max)*math.Cos(at)}))
		}
		s.area(barred, danger, 0.25, points...).dash = []float64{1.5, 1}
		label([][2]float64{points[0], points[12], points[12]}, danger, sector.Name)
	}
	for i := range document.Site.Zones {
		points := line(document.Site.Zones[i].Outline)
		s.area(ground, leaf, 0.45, points...)
		s.write(leaf, 2.9, points[0][0]+1.5, highest(points)+3.6, -1, document.Site.Zones[i].Name).bold = true
	}
	for i := range document.Site.Targets {
		t := &document.Site.Targets[i]
		points := line(t.Corners())
		if len(points) == 0 {
			continue
		}
		if len(points) == 2 || t.Kind == "power-line" || t.Kind == "fence" {
			m := s.line(ink, 0.5, points...)
			if t.Kind == "power-line" {
				m.stroke, m.dash = danger, []float64{3, 1}
			}
			s.write(ink, 2.6, points[0][0]+2, points[0][1]-1, -1, t.Name)
			continue
		}
		m := s.area(solid, ink, 0.3, points...)
		if t.Kind == "tree" || t.Kind == "shrub" {
			m.dash = []float64{1.2, 0.8}
		}
		label(points, ink, t.Name)
	}
	for i := range a.Trees {
		for _, limb := range a.Trees[i].Shape.Limbs {
			points := make([][2]float64, len(limb.Points))
			for i, p := range limb.Points {
				points[i] = put(job.Spot{X: p[0], Y: p[1]})
			}
			s.line(faint, 0.35, points...)
		}
		at := put(document.Trees[i].Foot())
		thick := 0.6
		if stem := a.Trees[i].Stem; len(stem) > 0 {
			thick = math.Max(0.9, stem[0].DiameterM*scale/2)
		}
		s.disc(wood, ink, 0.4, at[0], at[1], thick)
		if len(a.Trees) > 1 {
			s.write(ink, 2.6, at[0]+thick+1, at[1]-1, -1, a.Trees[i].Title)
		}
	}
	for i := range document.Site.Escapes {
		points := line(document.Site.Escapes[i].Outline)
		s.line(leaf, 0.9, points...)
		n := len(points)
		s.arrow(leaf, points[n-2], points[n-1])
		s.write(leaf, 2.6, (points[n-1][0]+points[n-2][0])/2+1.5, (points[n-1][1]+points[n-2][1])/2+3.6, -1, document.Site.Escapes[i].Name)
	}
	for i := range document.Site.Anchors {
		p := put(document.Site.Anchors[i].At)
		s.area(ink, ink, 0.2, [2]float64{p[0] - 1.4, p[1] + 1.1}, [2]float64{p[0] + 1.4, p[1] + 1.1}, [2]float64{p[0], p[1] - 1.5})
		s.write(ink, 2.6, p[0]+2.2, p[1]+1, -1, document.Site.Anchors[i].Name)
	}
	for i := range document.Site.Cranes {
		p := put(document.Site.Cranes[i].At)
		s.area(paper, ink, 0.5, [2]float64{p[0] - 2, p[1] - 2}, [2]float64{p[0] + 2, p[1] - 2}, [2]float64{p[0] + 2, p[1] + 2}, [2]float64{p[0] - 2, p[1] + 2})
		s.line(ink, 0.4, p, put(foot)).dash = []float64{0.4, 1}
		s.write(ink, 2.6, p[0]+3, p[1]+1, -1, document.Site.Cranes[i].Name)
	}
	for i := range document.Site.Posts {
		p := put(document.Site.Posts[i].At)
		s.disc(accent, paper, 0.4, p[0], p[1], 2.1)
		s.write(ink, 2.6, p[0]+2.8, p[1]+1, -1, string(rune('A'+i))+"  "+document.Site.Posts[i].Role).bold = true
	}
	s.line(ink, 0.4, [2]float64{6, 14}, [2]float64{6, 5})
	s.arrow(ink, [2]float64{6, 14}, [2]float64{6, 5})
	s.write(ink, 3, 6, 18, 0, "N").bold = true
	step := 5.0
	if system == units.US {
		step = 20 * units.UnitFor(units.Height, system).Factor
	}
	s.line(ink, 0.5, [2]float64{w - 4 - step*scale, h - 2.5}, [2]float64{w - 4, h - 2.5})
	s.write(ink, 2.6, w-4-step*scale/2, h-3.4, 0, strconv.Itoa(int(math.Round(step/units.UnitFor(units.Height, system).Factor)))+" "+units.UnitFor(units.Height, system).Label)
	s.line(hair, 0.2, [2]float64{0, 0}, [2]float64{w, 0}, [2]float64{w, h}, [2]float64{0, h}, [2]float64{0, 0})
	return s
}

// reach is how far a sector is drawn: as far as anything on the plan.
func reach(foot, min, max job.Spot) float64 {
	return math.Max(math.Max(foot.X-min.X, max.X-foot.X), math.Max(foot.Y-min.Y, max.Y-foot.Y))
}

func highest(points [][2]float64) float64 {
	y := math.Inf(1)
	for _, p := range points {
		y = math.Min(y, p[1])
	}
	return y
}

func (s *Scene) arrow(tint tone, from, to [2]float64) {
	dx, dy := to[0]-from[0], to[1]-from[1]
	n := math.Max(1e-6, math.Hypot(dx, dy))
	dx, dy = dx/n*2.4, dy/n*2.4
	s.area(tint, tint, 0.1, to, [2]float64{to[0] - dx - dy*0.5, to[1] - dy + dx*0.5}, [2]float64{to[0] - dx + dy*0.5, to[1] - dy - dx*0.5})
}
