package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"
)

// turnsOn says what a piece comes to that turns on its line while it is let down: its way is followed as it came off, and
// nothing but a tag line keeps it so. Clearances stay those of the way.
func (v *Survey) turnsOn(o *Outcome, way *sweep, under r3.Vec, from float64) {
	if o.tag != nil && o.tag.alone(v) {
		return
	}
	axis, angle, tie, balanced := v.hangs(o)
	hangs := []pose{hung(axis, angle, tie, r3.Vec{})}
	if balanced {
		hangs = append(hangs, hung(axis, 0, tie, r3.Vec{}))
	}
	to := min(from, o.floor.hard+o.below()+0.1)
	for i := range v.targets {
		p := &v.targets[i]
		aside, near := apart(p.corners, under.X, under.Y), math.Inf(1)
		for k := range hangs {
			for b := range way.balls {
				// What is so far out of the plumb line comes round to the side on which the target stands.
				part := hangs[k].place(way.balls[b].off)
				over := max(0, to+part.Z-p.ToM, p.FromM-from-part.Z)
				near = min(near, math.Hypot(max(0, aside-math.Hypot(part.X, part.Y)), over)-way.balls[b].r)
			}
		}
		if near >= v.keeps(p.Target) || o.nearerThan(p, near+turnsNearer) {
			continue
		}
		comes := "strikes " + p.Name
		if near > 0 {
			comes = fmt.Sprintf("comes within %s of %s", v.Height(near), p.Name)
		}
		o.fouls = append(o.fouls, fmt.Sprintf("Turned on its line it %s: it is followed as it comes off, and only a tag line keeps it so.", comes))
	}
}

// turnsNearer is how much nearer a piece comes that turns on its line for it to be said, m.
const turnsNearer = 0.1

// nearerThan tells that a pick is over by a target already, or known to come so near to it.
func (o *Outcome) nearerThan(p *prism, metres float64) bool {
	for i := range o.clears {
		if c := &o.clears[i]; c.target == p.Target && (c.Verdict == Over || c.ClearanceM < metres) {
			return true
		}
	}
	return false
}
