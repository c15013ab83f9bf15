package calc

import (
	"context"

	"elkstay/core/drop"
)

// DropSimAnswer is the answer of kind drop-sim.
type DropSimAnswer struct {
	drop.Run
	Spread *drop.SpreadResult `json:"spread,omitempty"`
	Beside
}

// DropSim follows a dropped piece through time. The error is that of ctx.
func DropSim(ctx context.Context, r *drop.SimCase) (DropSimAnswer, error) {
	run, err := drop.Simulate(ctx, r)
	if err != nil {
		return DropSimAnswer{}, err
	}
	answer := DropSimAnswer{Run: run, Beside: Beside{r.Working(run), r.Cautions(run)}}
	if r.Spread == nil {
		return answer, nil
	}
	spread, err := drop.SimulateSpread(ctx, r)
	answer.Spread = spread
	return answer, err
}
