package course

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/policy"
	"elkstay/core/search"
	"elkstay/core/space"
)

// Led are the parts of ropes that follow a piece in a pose.
type Led func(*space.Pose) []space.RopeLeg

// nearMoving is how near the ropes that lead a piece come to a target on its way; beyond enough it may be answered
// short.
func nearMoving(led Led, p *space.Prism, way *space.Sweep, enough float64) float64 {
	for k := 0; k < len(way.Poses); {
		least := math.Inf(1)
		for _, l := range led(&way.Poses[k]) {
			least = min(least, p.NearLeg(&l, enough))
		}
		// The next place is looked at a stride later at most.
		enough = min(enough, least-(space.AcrossRope+space.StrideM)/2)
		next := k + 1
		for next < len(way.Poses) && way.Moved[next]-way.Moved[k] < max(space.AcrossRope, least-enough) {
			next++
		}
		k = next
	}
	return enough
}

// RopesAlong brings what ropes keep from power lines into a pick's clearances (where a rope is
// nearer than the piece, the rope's distance stands), and says where they run against a target,
// or the piece against them, away from its block. What follows a piece is asked of power lines on all of
// its way; that is nil where no piece moves on them.
func (c *Course) RopesAlong(legs []space.RopeLeg, way *space.Sweep, led Led, block r3.Vec) {
	const step = 0.1
	for i := range c.Tree.Targets {
		p := &c.Tree.Targets[i]
		metres, power := policy.PowerDistanceOf(p.Target)
		nearest, between := math.Inf(1), ""
		for k := range legs {
			if legs[k].GoesOver {
				if power && nearest > 0 {
					if d := p.NearLeg(&legs[k], nearest) - space.GoingOver/2; d < nearest {
						nearest, between = d, legs[k].Name
					}
				}
				continue
			}
			if !power && !p.BesideLeg(&legs[k], step) {
				continue // it runs past: only what it touches is told
			}
			along := r3.Sub(legs[k].To, legs[k].From)
			for share := range search.Shares(int(max(1, min(2000, math.Ceil(r3.Norm(along)/step))))) {
				at := r3.Add(legs[k].From, r3.Scale(share, along))
				if !power && at.Z < 0.3 {
					continue // where it comes to the ground, its device stands
				}
				if power {
					at = legs[k].Lowest(p, at)
				}
				if d := p.Distance(at, nearest+step/2) - step/2; d < nearest {
					nearest, between = d, legs[k].Name
				}
			}
		}
		switch {
		case power:
			// Only what comes nearer than is known is of interest.
			known := max(LookFor, metres+1) + 1e-9
			for k := range c.Clears {
				if c.Clears[k].Target == p.Target {
					known = c.Clears[k].ClearanceM
				}
			}
			if known = min(known, nearest); way != nil && known > 0 {
				nearest = nearMoving(led, p, way, known)
			}
			c.ComesNear(p.Target, nearest, metres)
			if len(legs) > 0 && legs[0].ComesDown && nearest < c.Keeps(p.Target) {
				how := "comes down on"
				if nearest > 0 {
					how = fmt.Sprintf("comes within %s of", c.Height(nearest))
				}
				c.Note("The line between %s %s %s with the tree: lead it elsewhere, or have that made dead.", between, how, p.Name)
			}
		case nearest <= 0:
			c.Note("The line between %s runs against %s: lead it clear, or it chafes there, and what it rubs off is in no figure.", between, p.Name)
		}
	}
	SortClearances(c.Clears)
	if way != nil {
		c.Notes = append(c.Notes, c.pieceByRope(legs, block, way)...)
	}
}

// What of a line that leads away is looked at for the piece: so far from its block and from the
// stem, m, as beneath its block a piece always hangs beside it; and how near its wood may come.
const (
	awayFromBlock = 1.5
	awayFromStem  = 1.0
	byTheLine     = 0.3
)

// pieceByRope says where a piece's wood meets its own line on the way to the hand. Brush parts for
// a line; wood does not.
func (c *Course) pieceByRope(legs []space.RopeLeg, block r3.Vec, way *space.Sweep) (said []string) {
	var bare space.Sweep
	for k := range legs {
		one := &legs[k]
		if !one.LeadsAway {
			continue
		}
		off := func(at r3.Vec) bool {
			return r3.Norm(r3.Sub(at, block)) > awayFromBlock && r3.Norm(space.Level(r3.Sub(at, c.OnStem(at.Z)))) > awayFromStem
		}
		along := r3.Sub(one.To, one.From)
		first, last := 1.0, 0.0
		for share := range search.Shares(40) {
			if off(r3.Add(one.From, r3.Scale(share, along))) {
				first, last = min(first, share), share
			}
		}
		if first >= last {
			continue
		}
		rope := space.WoodOf(1, func(share float64) (r3.Vec, float64) {
			return r3.Add(one.From, r3.Scale(first+share*(last-first), along)), 0
		})
		if bare.Parts == nil {
			bare = *way
			wood := slices.Clone(way.Parts)
			for i := range wood {
				wood[i].R = wood[i].WoodR
			}
			bare.Of(wood)
		}
		if near := bare.Nearest(byTheLine, nil, rope.Distance); near < byTheLine {
			said = append(said, fmt.Sprintf("Its wood comes within %s of its own line between %s: lead the line clear of its way.", c.Height(max(0, near)), one.Name))
		}
	}
	return said
}
