package course

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/space"
)

// TurnsOn says what a piece comes to that turns on its line while it is let down: its way is followed as it came off, and
// nothing but a tag line keeps it so; hangs are the poses in which it may, about its tie. Clearances stay those of the way.
func (c *Course) TurnsOn(hangs []space.Pose, tieM float64, floor *space.Floor, way *space.Sweep, under r3.Vec, from float64) {
	to := min(from, floor.Hard+c.Below(tieM)+0.1)
	for i := range c.Tree.Targets {
		p := &c.Tree.Targets[i]
		aside, near := space.Apart(p.Corners, under.X, under.Y), math.Inf(1)
		for k := range hangs {
			for b := range way.Parts {
				// What is so far out of the plumb line comes round to the side on which the target stands.
				part := hangs[k].Place(way.Parts[b].Off)
				over := max(0, to+part.Z-p.ToM, p.FromM-from-part.Z)
				near = min(near, math.Hypot(max(0, aside-math.Hypot(part.X, part.Y)), over)-way.Parts[b].R)
			}
		}
		if near >= c.Keeps(p.Target) || c.nearerThan(p, near+turnsNearer) {
			continue
		}
		comes := "strikes " + p.Name
		if near > 0 {
			comes = fmt.Sprintf("comes within %s of %s", c.Height(near), p.Name)
		}
		c.Note("Turned on its line it %s: it is followed as it comes off, and only a tag line keeps it so.", comes)
	}
}

// turnsNearer is how much nearer a piece comes that turns on its line for it to be said, m.
const turnsNearer = 0.1

// nearerThan tells that a pick is over by a target already, or known to come so near to it.
func (c *Course) nearerThan(p *space.Prism, metres float64) bool {
	for i := range c.Clears {
		if one := &c.Clears[i]; one.Target == p.Target && (one.Strikes() || one.ClearanceM < metres) {
			return true
		}
	}
	return false
}
