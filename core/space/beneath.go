package space

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
)

// FallsAway is how steeply the ground falls away along a bearing, degrees; negative: it rises.
func (s *Site) FallsAway(bearingDeg float64) float64 {
	steep, down := job.Or(s.Job.Site.SlopeDeg, 0), s.Job.Site.SlopeTowardsDeg
	if down == nil {
		return steep
	}
	return math.Atan(math.Tan(Radians(steep))*math.Cos(Radians(bearingDeg-*down))) * 180 / math.Pi
}

// A Floor is what lies beneath a piece.
type Floor struct {
	Name string
	Z    float64
	Hard float64 // of the ground or the highest target, the tree's own limbs left out
	Low  float64 // of that, as low as it may lie: a line reaches down to there
	// What a piece would be put down on that cannot bear that: a roof, a fence. Empty: nothing.
	Onto string
}

// TheGround is what a floor is called where nothing else lies beneath.
const TheGround = "the ground"

// slopes is how much higher the ground may stand at a place of the plan than at the tree's foot, m, up and down: by the slope of the site; as
// nobody has said which way it falls, either.
func (v *Tree) slopes(x, y float64) (up, down float64) {
	site := &v.Site.Job.Site
	steep := math.Tan(Radians(job.Or(site.SlopeDeg, 0)))
	if steep == 0 {
		return 0, 0
	}
	off := r3.Vec{X: x - v.Foot.X, Y: y - v.Foot.Y}
	if site.SlopeTowardsDeg == nil {
		away := steep * r3.Norm(off)
		return away, -away
	}
	z := -steep * r3.Dot(off, Towards(*site.SlopeTowardsDeg))
	return z, z
}

// GroundAt is how much higher than the tree's foot the ground stands at a place of the plan, m, where somebody has said which way it falls;
// else 0: it may be either.
func (v *Tree) GroundAt(x, y float64) float64 {
	if v.Site.Job.Site.SlopeTowardsDeg == nil {
		return 0
	}
	up, _ := v.slopes(x, y)
	return up
}

// FootOf is how much higher than its own the foot of another tree stands, m: heights on a tree are given from its own foot.
func (v *Tree) FootOf(other *Tree) float64 {
	if other == v {
		return 0
	}
	return v.GroundAt(other.Foot.X, other.Foot.Y)
}

// Rises is how much higher than at the tree's foot the ground stands at a place of the plan, m; 0: it is level there, or falls.
func (v *Tree) Rises(x, y float64) float64 {
	up, _ := v.slopes(x, y)
	return max(0, up)
}

// targets are the targets of the site by the tree's foot: heights are given above the ground beneath them, so that uphill their tops stand
// higher by its rise. Their undersides, and all of what stands downhill, count as if it were level.
func (v *Tree) targets() []Prism {
	if job.Or(v.Site.Job.Site.SlopeDeg, 0) == 0 {
		return v.Site.Targets
	}
	list := slices.Clone(v.Site.Targets)
	for i := range list {
		p := &list[i]
		for _, c := range p.Corners {
			p.ToM = max(p.ToM, p.Target.ToM+v.Rises(c.X, c.Y))
		}
	}
	return list
}

// FloorUnder is what lies beneath a place of the plan: the ground, or the top of the
// highest target or wood within a distance of it and below a height.
func (v *Tree) FloorUnder(x, y, within, below float64, wood []*Wood) Floor {
	up, down := v.slopes(x, y)
	f := Floor{Name: TheGround, Z: max(0, up), Hard: max(0, up), Low: down}
	for i := range v.Targets {
		p := &v.Targets[i]
		if p.ToM > f.Z && p.ToM < below && Apart(p.Corners, x, y) <= within {
			f.Name, f.Z, f.Hard, f.Low = p.Name, p.ToM, p.ToM, p.Target.ToM+min(0, down)
		}
		// Beside it, a piece can be put down yet.
		if !bears[p.Kind] && p.Target.ToM > 0 && p.ToM < below && Apart(p.Corners, x, y) <= rightUnder {
			f.Onto = p.Name
		}
	}
	for _, w := range wood {
		if z, is := w.Under(x, y, within, below); is && z > f.Z {
			f.Name, f.Z = w.Name, z
		}
	}
	return f
}

// rightUnder is how near its plumb line a thing lies right beneath a piece, m.
const rightUnder = 0.3

// bears are the kinds of targets that a piece can be put down on.
var bears = map[string]bool{"ground": true, "road": true, "water": true}

// A Disc is a round of ground that a piece may come down on.
type Disc struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	R float64 `json:"r"`
}
