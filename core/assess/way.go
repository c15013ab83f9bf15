package assess

import (
	"context"

	"elkstay/core/job"
)

// A way is how one way down is worked out. Each has a file of its own and a row in
// ways; what it shares with others it calls.
type manner interface {
	// held is what holds the piece while it is cut.
	held() holding
	// bound sets what the piece itself is held to.
	bound(v *Survey, o *Outcome, piece *load)
	// work works the pick out on the tree as it stands.
	work(v *Survey, o *Outcome, now *Standing)
	// call is what is called to the ground; empty when it cannot be said.
	call(v *Survey, o *Outcome) string
	// simulate follows it through time. The error is that of ctx.
	simulate(ctx context.Context, v *Survey, o *Outcome, runs int, trace *Trace) error
	// cautions are what must stand beside it whatever its figures.
	cautions(o *Outcome) []string
	// because says why it is proposed.
	because(v *Survey, o *Outcome) string
}

// manners has one row for each way down.
var manners = map[job.Way]manner{
	job.WayThrown: thrown{}, job.WayFree: free{}, job.WayPastBlock: pastBlock{}, job.WayFromAbove: fromAbove{}, job.WaySwung: swung{},
	job.WayTwoPoints: twoPoints{}, job.WayCrane: byCrane{}, job.WayFelled: felled{}, job.WayBothEnds: bothEnds{},
}

// manner is how the pick's way down is worked out.
func (o *Outcome) manner() manner { return manners[o.pick.Way] }

// A holding is what holds a piece while it is cut.
type holding string

const (
	heldByNothing holding = "none"
	heldByLine    holding = "line"
	heldByCrane   holding = "crane"
)

// OnLine reports that a way down holds the piece on a line.
func OnLine(w job.Way) bool { return manners[w].held() == heldByLine }
