package course

import (
	"fmt"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
)

// A Scene is what is the same for every pick of a job: its site, the crew's rules and its gear.
type Scene struct {
	*space.Site
	Limits policy.Limits
	Gear   policy.Gear
	Gone   <-chan struct{} // closed when nobody waits for the answer any more; nil: somebody always does
	// Hurried leaves out what is round a pick that something stops already: for whoever only
	// looks for one that nothing stops.
	Hurried bool
	// AimsAt is the share of every limit that whoever proposes stays within; 0: all of it.
	AimsAt float64
	// Forbids says what forbids a piece as far as it is made, or "": who only looks for one that nothing forbids asks on the way.
	Forbids func(Made) string
}

// Begin takes a pick's piece of a tree as it stands, and weighs it; on a rig, nil: there is none; before: the same to the same bearing,
// nil: where it comes down is asked.
func (s *Scene) Begin(tree *space.Tree, p *job.Pick, rig *job.Rig, number int, now *space.Standing, before *Course) Course {
	piece := tree.Take(p, number, now.Kept())
	piece.LikelyCounts = s.Limits.WeightEnd == policy.EndLikely
	c := Course{Scene: s, Piece: piece, Offered: rig, Before: before, Settings: (&job.Rig{}).Settings(p), Faults: piece.Faults}
	c.Settings.FallTowardsDeg = piece.FallDeg
	if piece.TakesNothing() {
		return c
	}
	piece.Judge()
	if p.TieIn != nil {
		if _, why := piece.Place(p.TieIn, piece.Now, piece); why != "" {
			c.Fault(FaultTieIn, "the climber is tied in %s", why)
		}
	}
	return c
}

// Cancelled reports that nobody waits for the answer any more.
func (s *Scene) Cancelled() bool {
	select {
	case <-s.Gone:
		return true
	default:
		return false
	}
}

// Strength is what holds on the site, by the crew's limits.
func (s *Scene) Strength() hold.Strength { return hold.Strength{Site: s.Site, Limits: &s.Limits} }

// Wood is a tree as something that holds.
func (s *Scene) Wood(tree *space.Tree) hold.Wood { return s.Strength().Of(tree) }

// RigNamed is a rig by its id, for none the first; nil: there is none.
func (s *Scene) RigNamed(id string) *job.Rig {
	for i := range s.Job.Rigs {
		if s.Job.Rigs[i].ID == id || id == "" {
			return &s.Job.Rigs[i]
		}
	}
	return nil
}

// Keeps is how far everything keeps from a target, m: what the crew wants, and what a power
// line takes.
func (s *Scene) Keeps(t *job.Target) float64 {
	metres, _ := policy.PowerDistanceOf(t)
	return max(s.Limits.ClearM, metres)
}

// stopped is what forbids a piece that is only looked at in a hurry, or "".
func (s *Scene) stopped(made Made) string {
	if !s.Hurried || s.Forbids == nil {
		return ""
	}
	return s.Forbids(made)
}

// Enough reports that what is made of a piece so far is all that somebody in a hurry wants to know: something stops it.
func (s *Scene) Enough(made Made) bool { return s.stopped(made) != "" }

// BoundByCrew holds a piece to the heaviest one that the crew takes on a line.
func (s *Scene) BoundByCrew(piece *hold.Load) {
	if kg := s.Limits.PieceKg; kg != nil {
		piece.Known, piece.Decided = true, hold.ByCrew
		piece.Limit = gear.Limit{Kn: *kg * units.Gravity / 1000, Reason: fmt.Sprintf("the heaviest piece, %s: %s", units.Print(units.Mass, s.System, *kg), policy.Ruled(s.Job.Limits.PieceKg)), Source: "as given"}
	}
}
