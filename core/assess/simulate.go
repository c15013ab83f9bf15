package assess

import (
	"context"

	"elkstay/core/drop"
	"elkstay/core/fell"
	"elkstay/core/job"
	"elkstay/core/line"
)

// A Trace is one pick followed through time.
type Trace struct {
	Kind        string             `json:"kind" enum:"drop,swing,fall,course,none"`
	Why         string             `json:"why" doc:"Why there is nothing to follow; empty when there is"`
	AzimuthDeg  float64            `json:"azimuth_deg" doc:"Of the upright plane it moves in"`
	Origin      line.Point         `json:"origin" doc:"The block at rest: x and z of the series count from here"`
	LineLimitKn *float64           `json:"line_limit_kn"`
	BlockLimit  *float64           `json:"block_limit_kn"`
	Run         *drop.Run          `json:"run,omitempty"`
	Spread      *drop.SpreadResult `json:"spread,omitempty"`
	Fall        *fell.FallRun      `json:"fall,omitempty" doc:"A felling"`
	Need        []fell.Moment      `json:"need,omitempty" doc:"Of a felling: what the pull must be at each tilt until it goes alone, margin included"`
	Odds        *fell.FallOdds     `json:"odds,omitempty" doc:"Of a felling, repeated with what is not known well"`
	Course      []CourseFrame      `json:"course,omitempty" doc:"Of a piece held at both ends: from its cut onto its lines and down on them"`
	Said        string             `json:"said" doc:"What came of a felling, in a sentence; empty: it is none"`
	Cautions    []string           `json:"cautions" nullable:"false"`
}

// Spread of what is not known well, besides the mass: per cent, and m of slack (common
// practice).
const (
	spreadRope  = 15
	spreadHold  = 20
	spreadSlack = 0.2
)

// Simulate follows one pick through time; runs > 0 repeats it as often with what is not
// known well. The error is that of ctx.
func Simulate(ctx context.Context, document *job.Job, pick string, runs int, options Options) (Trace, error) {
	trace := Trace{Kind: "none", Cautions: []string{}}
	f, a := Prepare(document, &options)
	if f == nil {
		trace.Why = StateWithout(&a)
		return trace, nil
	}
	trace.Why = "That pick is not in the order any more."
	for i := range f.Job.Picks {
		p := &f.Job.Picks[i]
		if p.ID != pick {
			continue
		}
		v := f.Of(p)
		if v == nil {
			trace.Why = "It cannot happen: " + f.nowhere(p, i+1).Faults[0].Message + "."
			break
		}
		trace.Why = ""
		now := v.Now(f.Before(i))
		f.Learn(&a)
		return trace, v.simulate(ctx, v.work(p, i+1, now), runs, &trace)
	}
	return trace, nil
}

func (v *Survey) simulate(ctx context.Context, o *Outcome, runs int, trace *Trace) error {
	switch {
	case o.Stopped():
		trace.Why = "It cannot happen: " + o.Faults[0].Message + "."
		return nil
	case o.felling != nil:
		trace.Origin, trace.AzimuthDeg = pointOf(o.felling.middle), o.Settings.FallTowardsDeg
		return o.manner().simulate(ctx, v, o, runs, trace)
	case o.ends != nil:
		return o.manner().simulate(ctx, v, o, runs, trace)
	case o.DropCase == nil:
		trace.Why = "There is no drop onto a line to follow."
		return nil
	}
	trace.Origin, trace.AzimuthDeg = pointOf(o.block), o.Settings.FallTowardsDeg
	for i := range o.loads {
		if l := &o.loads[i]; l.Known {
			limit := l.Limit.Kn
			switch l.part {
			case PartLine:
				trace.LineLimitKn = &limit
			case PartBlock:
				trace.BlockLimit = &limit
			}
		}
	}
	return o.manner().simulate(ctx, v, o, runs, trace)
}
