package assess

import (
	"context"
	"fmt"
	"math"

	"elkstay/core/gear"
	"elkstay/core/units"
)

// thrown: a small piece, cut and pushed clear by hand.
type thrown struct{ unheld }

// Where a thrown piece comes down (common practice, no source): at least so far out, in rounds of
// such a radius, m; and as far as it flies when it leaves the hand so fast, m/s.
const (
	thrownOut   = 2.5
	thrownRound = 1.5
	thrownFast  = 2.5
)

// thrownTo are the rounds that a piece thrown from a height may come down on: dropped short, or
// thrown far.
func (o *Outcome) thrownTo() (discs []Disc) {
	height := max(0, o.cut.Z)
	far := max(thrownOut, thrownFast*math.Sqrt(2*height/units.Gravity))
	round := max(thrownRound, o.Length()/2+scatterShare*height)
	steps := int(math.Ceil((far - thrownOut/2) / round))
	for i := range steps + 1 {
		discs = append(discs, o.disc(thrownOut/2+(far-thrownOut/2)*float64(i)/float64(max(1, steps)), round))
	}
	return discs
}

func (thrown) bound(v *Survey, o *Outcome, piece *load) {
	boundByCrew(v, o, piece)
	piece.Known = true
	piece.Limit = gear.Limit{Kn: v.limits.ThrowKg * units.Gravity / 1000, Reason: fmt.Sprintf("thrown by hand: %s", units.Print(units.Mass, v.System, v.limits.ThrowKg)), Source: "the crew's own"}
}

func (thrown) work(v *Survey, o *Outcome, now *Standing) {
	v.land(o, now, o.thrownTo())
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
