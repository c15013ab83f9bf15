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
	p := &sitePlan{Scene: &Scene{W: w, H: h, Title: document.Name + ", plan of the site, north up"}, document: document, a: a}
	p.fit()
	p.sectors()
	p.zones()
	p.targets()
	p.trees()
	p.crew()
	p.legend(system)
	return p.Scene
}

// A sitePlan is a plan of a site on its way: what it is of, and the scale it is drawn to.
type sitePlan struct {
	*Scene
	document     *job.Job
	a            *assess.Assessment
	foot         job.Spot // of the first tree
	min, max     job.Spot // of all that is drawn
	scale        float64  // mm for a metre
	left, bottom float64  // mm: where x and y are nought
}

// fit takes the scale from all that is to be on the plan.
func (p *sitePlan) fit() {
	document, a := p.document, p.a
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
	p.foot, p.min, p.max = foot, min, max
	p.scale = math.Min((p.W-10)/(max.X-min.X), (p.H-12)/(max.Y-min.Y))
	p.left = (p.W-(max.X-min.X)*p.scale)/2 - min.X*p.scale
	p.bottom = 4 + (p.H-10-(max.Y-min.Y)*p.scale)/2 + max.Y*p.scale
}

// put is where a place is on the paper, mm.
func (p *sitePlan) put(at job.Spot) [2]float64 {
	return [2]float64{p.left + at.X*p.scale, p.bottom - at.Y*p.scale}
}

func (p *sitePlan) along(spots []job.Spot) [][2]float64 {
	points := make([][2]float64, len(spots))
	for i := range spots {
		points[i] = p.put(spots[i])
	}
	return points
}

// label writes in the middle of some points.
func (p *sitePlan) label(points [][2]float64, tint tone, text string) {
	x, y := 0.0, 0.0
	for _, at := range points {
		x, y = x+at[0]/float64(len(points)), y+at[1]/float64(len(points))
	}
	p.write(tint, 2.7, x, y+0.9, 0, text)
}

func (p *sitePlan) sectors() {
	for i := range p.document.Site.Sectors {
		sector := &p.document.Site.Sectors[i]
		sweep := math.Mod(sector.ToDeg-sector.FromDeg+360, 360)
		points := [][2]float64{p.put(p.foot)}
		for k := range 25 {
			at := (sector.FromDeg + sweep*float64(k)/24) * math.Pi / 180
			points = append(points, p.put(job.Spot{X: p.foot.X + reach(p.foot, p.min, p.max)*math.Sin(at), Y: p.foot.Y + reach(p.foot, p.min, p.max)*math.Cos(at)}))
		}
		p.area(barred, danger, 0.25, points...).dash = []float64{1.5, 1}
		p.label([][2]float64{points[0], points[12], points[12]}, danger, sector.Name)
	}
}

func (p *sitePlan) zones() {
	for i := range p.document.Site.Zones {
		points := p.along(p.document.Site.Zones[i].Outline)
		p.area(ground, leaf, 0.45, points...)
		p.write(leaf, 2.9, points[0][0]+1.5, highest(points)+3.6, -1, p.document.Site.Zones[i].Name).bold = true
	}
}

func (p *sitePlan) targets() {
	for i := range p.document.Site.Targets {
		t := &p.document.Site.Targets[i]
		points := p.along(t.Corners())
		if len(points) == 0 {
			continue
		}
		if len(points) == 2 || t.Kind == "power-line" || t.Kind == "fence" {
			m := p.line(ink, 0.5, points...)
			if t.Kind == "power-line" {
				m.stroke, m.dash = danger, []float64{3, 1}
			}
			p.write(ink, 2.6, points[0][0]+2, points[0][1]-1, -1, t.Name)
			continue
		}
		m := p.area(solid, ink, 0.3, points...)
		if t.Kind == "tree" || t.Kind == "shrub" {
			m.dash = []float64{1.2, 0.8}
		}
		p.label(points, ink, t.Name)
	}
}

func (p *sitePlan) trees() {
	for i := range p.a.Trees {
		for _, limb := range p.a.Trees[i].Shape.Limbs {
			points := make([][2]float64, len(limb.Points))
			for k, at := range limb.Points {
				points[k] = p.put(job.Spot{X: at[0], Y: at[1]})
			}
			p.line(faint, 0.35, points...)
		}
		at := p.put(p.document.Trees[i].Foot())
		thick := 0.6
		if stem := p.a.Trees[i].Stem; len(stem) > 0 {
			thick = math.Max(0.9, stem[0].DiameterM*p.scale/2)
		}
		p.disc(wood, ink, 0.4, at[0], at[1], thick)
		if len(p.a.Trees) > 1 {
			p.write(ink, 2.6, at[0]+thick+1, at[1]-1, -1, p.a.Trees[i].Title)
		}
	}
}

// crew draws the ways out, what there is to hold to, cranes and who stands where.
func (p *sitePlan) crew() {
	for i := range p.document.Site.Escapes {
		points := p.along(p.document.Site.Escapes[i].Outline)
		p.line(leaf, 0.9, points...)
		n := len(points)
		p.arrow(leaf, points[n-2], points[n-1])
		p.write(leaf, 2.6, (points[n-1][0]+points[n-2][0])/2+1.5, (points[n-1][1]+points[n-2][1])/2+3.6, -1, p.document.Site.Escapes[i].Name)
	}
	for i := range p.document.Site.Anchors {
		at := p.put(p.document.Site.Anchors[i].At)
		p.area(ink, ink, 0.2, [2]float64{at[0] - 1.4, at[1] + 1.1}, [2]float64{at[0] + 1.4, at[1] + 1.1}, [2]float64{at[0], at[1] - 1.5})
		p.write(ink, 2.6, at[0]+2.2, at[1]+1, -1, p.document.Site.Anchors[i].Name)
	}
	for i := range p.document.Site.Cranes {
		at := p.put(p.document.Site.Cranes[i].At)
		p.area(paper, ink, 0.5, [2]float64{at[0] - 2, at[1] - 2}, [2]float64{at[0] + 2, at[1] - 2}, [2]float64{at[0] + 2, at[1] + 2}, [2]float64{at[0] - 2, at[1] + 2})
		p.line(ink, 0.4, at, p.put(p.foot)).dash = []float64{0.4, 1}
		p.write(ink, 2.6, at[0]+3, at[1]+1, -1, p.document.Site.Cranes[i].Name)
	}
	for i := range p.document.Site.Posts {
		at := p.put(p.document.Site.Posts[i].At)
		p.disc(accent, paper, 0.4, at[0], at[1], 2.1)
		p.write(ink, 2.6, at[0]+2.8, at[1]+1, -1, string(rune('A'+i))+"  "+p.document.Site.Posts[i].Role).bold = true
	}
}

// legend draws north, the scale and the frame.
func (p *sitePlan) legend(system units.System) {
	w, h := p.W, p.H
	p.line(ink, 0.4, [2]float64{6, 14}, [2]float64{6, 5})
	p.arrow(ink, [2]float64{6, 14}, [2]float64{6, 5})
	p.write(ink, 3, 6, 18, 0, "N").bold = true
	step := 5.0
	if system == units.US {
		step = 20 * units.UnitFor(units.Height, system).Factor
	}
	p.line(ink, 0.5, [2]float64{w - 4 - step*p.scale, h - 2.5}, [2]float64{w - 4, h - 2.5})
	p.write(ink, 2.6, w-4-step*p.scale/2, h-3.4, 0, strconv.Itoa(int(math.Round(step/units.UnitFor(units.Height, system).Factor)))+" "+units.UnitFor(units.Height, system).Label)
	p.line(hair, 0.2, [2]float64{0, 0}, [2]float64{w, 0}, [2]float64{w, h}, [2]float64{0, h}, [2]float64{0, 0})
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
