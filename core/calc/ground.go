package calc

import (
	"context"

	"elkstay/core/cell"
	"elkstay/core/cut"
	"elkstay/core/drop"
	"elkstay/core/fell"
	"elkstay/core/haul"
	"elkstay/core/line"
)

// HingeAnswer is the answer of kind hinge.
type HingeAnswer struct {
	fell.HingeWood
	Beside
}

// Hinge works out the wood that steers.
func Hinge(r *fell.HingeCut) HingeAnswer {
	w := r.Solve()
	return HingeAnswer{w, Beside{r.Working(w), r.Cautions(w)}}
}

// GripAnswer is the answer of kind grip.
type GripAnswer struct {
	haul.Hold
	Beside
}

// Grip works out what a vehicle can hold or pull.
func Grip(r *haul.Grip) GripAnswer {
	h := r.Solve()
	return GripAnswer{h, Beside{r.Working(h), r.Cautions(h)}}
}

// ReachAnswer is the answer of kind reach.
type ReachAnswer struct {
	fell.Tip
	Beside
}

// Reach works out where the tip of a tree comes down.
func Reach(r *fell.Reach) ReachAnswer {
	t := r.Solve()
	return ReachAnswer{t, Beside{r.Working(t), r.Cautions(t)}}
}

// FellSimAnswer is the answer of kind fell-sim.
type FellSimAnswer struct {
	fell.FallRun
	Spread *fell.FallOdds `json:"spread,omitempty"`
	Beside
}

// FellSim follows a fall through time. The error is that of ctx.
func FellSim(ctx context.Context, r *fell.Fall) (FellSimAnswer, error) {
	run, err := r.Follow(ctx)
	if err != nil {
		return FellSimAnswer{}, err
	}
	answer := FellSimAnswer{FallRun: run, Beside: Beside{r.Working(run), r.Cautions(run)}}
	if r.Spread == nil {
		return answer, nil
	}
	answer.Spread, err = r.FollowSpread(ctx)
	return answer, err
}

// BindAnswer is the answer of kind bind.
type BindAnswer struct {
	cut.Bound
	Beside
}

// Bind works out a log on two supports and what the saw does to it.
func Bind(r *cut.Bind) BindAnswer {
	b := r.Solve()
	return BindAnswer{b, Beside{r.Working(b), r.Cautions(b)}}
}

// TraceReadAnswer is the answer of kind trace-read.
type TraceReadAnswer struct {
	cell.Reading
	Beside
}

// TraceRead reads what a load cell saw.
func TraceRead(r *cell.Trace) TraceReadAnswer {
	read := r.Read()
	return TraceReadAnswer{read, Beside{r.Working(read), r.Cautions(read)}}
}

// TwoTieAnswer is the answer of kind two-tie.
type TwoTieAnswer struct {
	line.Hanging
	Beside
}

// TwoTie works out one piece on two lines.
func TwoTie(r *line.TwoTie) TwoTieAnswer {
	h := r.Solve()
	return TwoTieAnswer{h, Beside{r.Working(h), r.Cautions(h)}}
}

// CatchAnswer is the answer of kind catch.
type CatchAnswer struct {
	drop.Caught
	Beside
}

// Catch works out a line that is already on, or nearly.
func Catch(r *drop.Held) CatchAnswer {
	c := r.Solve()
	return CatchAnswer{c, Beside{r.Working(c), r.Cautions(c)}}
}
