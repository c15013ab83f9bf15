package assess

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// prism is a target ready for distances.
type prism struct {
	*job.Target
	corners  []job.Spot
	low, top job.Spot // of the box round it
}

func newPrism(t *job.Target) prism {
	p := prism{Target: t, corners: t.Corners(), low: job.Spot{X: math.Inf(1), Y: math.Inf(1)}, top: job.Spot{X: math.Inf(-1), Y: math.Inf(-1)}}
	for _, c := range p.corners {
		p.low = job.Spot{X: min(p.low.X, c.X), Y: min(p.low.Y, c.Y)}
		p.top = job.Spot{X: max(p.top.X, c.X), Y: max(p.top.Y, c.Y)}
	}
	return p
}

// inside reports whether a place of the plan is within an outline (even-odd rule).
func inside(outline []job.Spot, x, y float64) bool {
	in := false
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		if (a.Y > y) != (b.Y > y) && x < (b.X-a.X)*(y-a.Y)/(b.Y-a.Y)+a.X {
			in = !in
		}
	}
	return in
}

// edge is how far a place of the plan is from an outline's edge, m.
func edge(outline []job.Spot, x, y float64) float64 {
	nearest := math.Inf(1)
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		dx, dy := b.X-a.X, b.Y-a.Y
		f := 0.0
		if long := dx*dx + dy*dy; long > 0 {
			f = max(0, min(1, ((x-a.X)*dx+(y-a.Y)*dy)/long))
		}
		nearest = min(nearest, math.Hypot(x-a.X-f*dx, y-a.Y-f*dy))
	}
	return nearest
}

// apart is how far a place of the plan is from an outline; 0 within it.
func apart(outline []job.Spot, x, y float64) float64 {
	if len(outline) > 2 && inside(outline, x, y) {
		return 0
	}
	return edge(outline, x, y)
}

// distance is how far a place in space is from the target; 0 within it.
func (p *prism) distance(at r3.Vec) float64 {
	over := max(p.FromM-at.Z, 0, at.Z-p.ToM)
	return math.Hypot(apart(p.corners, at.X, at.Y), over)
}

// further reports that a place is further from the target's box than a distance,
// without working out how far.
func (p *prism) further(at r3.Vec, than float64) bool {
	return at.X < p.low.X-than || at.X > p.top.X+than || at.Y < p.low.Y-than || at.Y > p.top.Y+than || at.Z > p.ToM+than || at.Z < p.FromM-than
}

// A Clearance is how close a piece comes to something on its way.
type Clearance struct {
	Name       string  `json:"name"`
	ClearanceM float64 `json:"clearance_m" doc:"Least distance, the piece's reach taken off; negative: it touches"`
	Verdict    Verdict `json:"verdict" enum:"within,close,over" doc:"The tree's own limbs are never over: it brushes them, or hangs up"`
}

// sweep is the way of a piece: places in space, and how far the piece reaches round
// each.
type sweep struct {
	at    []r3.Vec
	reach float64
}

// lookFor is how far round a piece's way targets are named, m.
const lookFor = 6

// clearances measures the way against the targets and against the limbs that stand,
// those of the piece itself left out. Nearest first; targets further than lookFor are
// left out.
func (v *Survey) clearances(way *sweep, now *Standing, without func(limb int) bool) []Clearance {
	found := []Clearance{}
	note := func(name string, nearest float64, tooClose Verdict) {
		if math.IsInf(nearest, 1) {
			return
		}
		clear := nearest - way.reach
		judged := Within
		if clear < v.limits.ClearM {
			judged = tooClose
		}
		found = append(found, Clearance{name, clear, judged})
	}
	for i := range v.targets {
		p := &v.targets[i]
		nearest := math.Inf(1)
		for _, at := range way.at {
			if p.further(at, way.reach+lookFor) {
				continue
			}
			nearest = min(nearest, p.distance(at))
		}
		if nearest <= way.reach+lookFor {
			note(p.Name, nearest, Over)
		}
	}
	for k := range v.Limbs {
		if now.Tips[k] <= 0 || without(k) {
			continue
		}
		const parts = 5
		nearest := math.Inf(1)
		for part := 1; part <= parts; part++ {
			spot := v.Limbs[k].at(now.Tips[k] * float64(part) / parts)
			for _, at := range way.at {
				nearest = min(nearest, r3.Norm(r3.Sub(at, spot)))
			}
		}
		if nearest < way.reach+v.limits.ClearM {
			note(v.Limbs[k].Title(), nearest, Close)
		}
	}
	nearest := map[string]float64{}
	v.others(now, func(name string, spot r3.Vec, thick float64) {
		for _, at := range way.at {
			if off := r3.Norm(r3.Sub(at, spot)) - thick/2; off < way.reach+v.limits.ClearM {
				if was, seen := nearest[name]; !seen || off < was {
					nearest[name] = off
				}
			}
		}
	})
	for name, off := range nearest {
		note(name, off, Close)
	}
	sortClearances(found)
	return found
}

func sortClearances(list []Clearance) {
	for i := 1; i < len(list); i++ {
		for k := i; k > 0 && (list[k].ClearanceM < list[k-1].ClearanceM || list[k].ClearanceM == list[k-1].ClearanceM && list[k].Name < list[k-1].Name); k-- {
			list[k], list[k-1] = list[k-1], list[k]
		}
	}
}

// floor is what lies beneath a piece.
type floor struct {
	name string
	z    float64
	hard float64 // of the ground or the highest target, the tree's own limbs left out
}

// floorUnder is what lies beneath a place of the plan: the ground, or the top of the
// highest target or limb within a distance of it and below a height.
func (v *Survey) floorUnder(x, y, within, below float64, now *Standing, without func(limb int) bool) floor {
	f := floor{name: "the ground"}
	for i := range v.targets {
		p := &v.targets[i]
		if p.ToM > f.z && p.ToM < below && apart(p.corners, x, y) <= within {
			f.name, f.z, f.hard = p.Name, p.ToM, p.ToM
		}
	}
	for k := range v.Limbs {
		if now.Tips[k] <= 0 || without(k) {
			continue
		}
		const parts = 5
		for part := 1; part <= parts; part++ {
			spot := v.Limbs[k].at(now.Tips[k] * float64(part) / parts)
			if spot.Z > f.z && spot.Z < below && math.Hypot(spot.X-x, spot.Y-y) <= within {
				f.name, f.z = v.Limbs[k].Title(), spot.Z
			}
		}
	}
	v.others(now, func(name string, spot r3.Vec, thick float64) {
		if spot.Z > f.z && spot.Z < below && math.Hypot(spot.X-x, spot.Y-y) <= within+thick/2 {
			f.name, f.z = name, spot.Z
		}
	})
	return f
}

// A Disc is a round of ground that a piece may come down on.
type Disc struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	R float64 `json:"r"`
}

// A Landing is where a piece that is not held comes down.
type Landing struct {
	Discs    []Disc   `json:"discs" nullable:"false" doc:"Rounds of the plan it may come down on"`
	Zone     string   `json:"zone" doc:"The drop zone that takes all of it; empty: none does"`
	Hits     []string `json:"hits" nullable:"false" doc:"Targets it may come down on"`
	Sector   string   `json:"sector" doc:"The no-go sector it would go into; empty: none"`
	HangsOn  []string `json:"hangs_on" nullable:"false" doc:"Limbs beneath that it may hang up on"`
	EnergyKj float64  `json:"energy_kj" doc:"Of the fall, at the heavy end"`
	Verdict  Verdict  `json:"verdict" enum:"within,close,over,not known"`
	Reason   string   `json:"reason"`
}

// landing judges where a piece comes down.
func (v *Survey) landing(discs []Disc, cutZ float64, now *Standing, without func(limb int) bool) *Landing {
	l := &Landing{Discs: discs, Hits: []string{}, HangsOn: []string{}}
	for i := range v.targets {
		for _, d := range discs {
			if apart(v.targets[i].corners, d.X, d.Y) < d.R {
				l.Hits = append(l.Hits, v.targets[i].Name)
				break
			}
		}
	}
	for i := range v.Job.Site.Zones {
		zone := &v.Job.Site.Zones[i]
		all := true
		for _, d := range discs {
			if !inside(zone.Outline, d.X, d.Y) || edge(zone.Outline, d.X, d.Y) < d.R*0.999 {
				all = false
				break
			}
		}
		if all {
			l.Zone = zone.Name
			break
		}
	}
	for i := range v.Limbs {
		if now.Tips[i] <= 0 || without(i) {
			continue
		}
		tip := v.Limbs[i].at(now.Tips[i])
		if tip.Z > cutZ {
			continue
		}
		for _, d := range discs {
			if math.Hypot(tip.X-d.X, tip.Y-d.Y) < d.R {
				l.HangsOn = append(l.HangsOn, v.Limbs[i].Title())
				break
			}
		}
	}
	v.others(now, func(name string, spot r3.Vec, thick float64) {
		if spot.Z > cutZ || slices.Contains(l.HangsOn, name) {
			return
		}
		for _, d := range discs {
			if math.Hypot(spot.X-d.X, spot.Y-d.Y) < d.R+thick/2 {
				l.HangsOn = append(l.HangsOn, name)
				return
			}
		}
	})
	far := discs[len(discs)-1]
	l.Sector = v.sector(azimuthOf(r3.Vec{X: far.X - v.foot.X, Y: far.Y - v.foot.Y}))
	switch {
	case l.Sector != "":
		l.Verdict, l.Reason = Over, "it goes into the no-go sector "+l.Sector
	case len(l.Hits) > 0:
		l.Verdict, l.Reason = Over, "it may come down on "+l.Hits[0]
	case len(v.Job.Site.Zones) == 0:
		l.Verdict, l.Reason = NotKnown, "no drop zone is drawn"
	case l.Zone == "":
		l.Verdict, l.Reason = Over, "no drop zone takes all of it"
	case len(l.HangsOn) > 0:
		l.Verdict, l.Reason = Close, l.Zone+", but it may hang up on "+l.HangsOn[0]
	default:
		l.Verdict, l.Reason = Within, "into "+l.Zone
	}
	return l
}

// sector returns the no-go sector an azimuth lies in, or "".
func (v *Survey) sector(azimuth float64) string {
	for i := range v.Job.Site.Sectors {
		s := &v.Job.Site.Sectors[i]
		wide := math.Mod(s.ToDeg-s.FromDeg+360, 360)
		if math.Mod(azimuth-s.FromDeg+720, 360) <= wide {
			return s.Name
		}
	}
	return ""
}
