package assess

import (
	"context"
	"fmt"

	"elkstay/core/gear"
	"elkstay/core/units"
)

// thrown: a small piece, cut and pushed clear by hand.
type thrown struct{ unheld }

// Where a thrown piece comes down (common practice): about so far out, in a round of
// such a radius, m.
const (
	thrownOut   = 2.5
	thrownRound = 1.5
)

func (thrown) bound(v *Survey, o *Outcome, piece *load) {
	boundByCrew(v, o, piece)
	piece.Known = true
	piece.Limit = gear.Limit{Kn: v.limits.ThrowKg * units.Gravity / 1000, Reason: fmt.Sprintf("thrown by hand: %s", units.Print(units.Mass, v.System, v.limits.ThrowKg)), Source: "the crew's own"}
}

func (thrown) work(v *Survey, o *Outcome, now *Standing) {
	v.land(o, now, []Disc{o.disc(thrownOut, thrownRound)})
}

func (thrown) call(*Survey, *Outcome) string { return "Clear below, then thrown" }

func (thrown) cautions(*Outcome) []string { return nil }

func (thrown) because(_ *Survey, o *Outcome) string {
	return fmt.Sprintf("Light enough to throw, %s.", o.Landing.Reason)
}

// unheld is what the ways down that load no gear share.
type unheld struct{}

func (unheld) held() holding { return heldByNothing }

func (unheld) simulate(_ context.Context, _ *Survey, _ *Outcome, _ int, trace *Trace) error { //nolint:unparam // as every way's
	trace.Why = "There is no drop onto a line to follow."
	return nil
}
