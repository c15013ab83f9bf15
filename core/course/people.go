package course

import (
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/space"
)

// People who stand where a swing goes: so near, m, and so tall.
const (
	ByPeople  = 1.0
	atTheTree = 2.0
	tallM     = 2.0
	aloftWord = "climber,bucket,platform,lift"
)

// People calls back for everybody on the site whom the way of a piece comes near, and how near, m; aloftM is how high it
// passes over those who work off the ground.
func (c *Course) People(way *space.Sweep, aloftM float64, found func(near float64, role string)) {
	for i := range c.Job.Site.Posts {
		post := &c.Job.Site.Posts[i]
		if c.InTheTree(post) {
			continue
		}
		high := tallM
		if slices.ContainsFunc(strings.Split(aloftWord, ","), func(word string) bool { return strings.Contains(strings.ToLower(post.Role), word) }) {
			// Nobody has said how high: wherever it passes over that place.
			high = aloftM
		}
		high += c.Rises(post.At.X, post.At.Y)
		near := way.Nearest(ByPeople, nil, func(at r3.Vec, _ float64) float64 {
			return math.Sqrt((at.X-post.At.X)*(at.X-post.At.X) + (at.Y-post.At.Y)*(at.Y-post.At.Y) + max(0, at.Z-high)*max(0, at.Z-high))
		})
		if near < ByPeople {
			found(max(0, near), post.Role)
		}
	}
}

// InTheTree tells whether somebody is by the cut: who cuts is not in the way of what leaves.
func (c *Course) InTheTree(post *job.Post) bool {
	return math.Hypot(post.At.X-c.Foot.X, post.At.Y-c.Foot.Y) < atTheTree
}

// ComesDownBy says by whom a piece comes down on its line: they stand clear of it until it lies.
func (c *Course) ComesDownBy(way *space.Sweep, aloftM float64) {
	c.People(way, aloftM, func(near float64, role string) {
		c.Note("It comes down within %s of where the %s stands: nobody there until it lies.", c.Height(near), role)
	})
}
