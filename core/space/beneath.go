package space

import (
	"math"

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
	// What a piece would be put down on that cannot bear that: a roof, a fence. Empty: nothing.
	Onto string
}

// TheGround is what a floor is called where nothing else lies beneath.
const TheGround = "the ground"

// FloorUnder is what lies beneath a place of the plan: the ground, or the top of the
// highest target or wood within a distance of it and below a height.
func (s *Site) FloorUnder(x, y, within, below float64, wood []*Wood) Floor {
	f := Floor{Name: TheGround}
	for i := range s.Targets {
		p := &s.Targets[i]
		if p.ToM > f.Z && p.ToM < below && Apart(p.Corners, x, y) <= within {
			f.Name, f.Z, f.Hard = p.Name, p.ToM, p.ToM
		}
		// Beside it, a piece can be put down yet.
		if !bears[p.Kind] && p.ToM > 0 && p.ToM < below && Apart(p.Corners, x, y) <= rightUnder {
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
