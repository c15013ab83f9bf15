package assess

import (
	"context"

	"elkstay/core/course"
	"elkstay/core/job"
)

// Simulate follows one pick through time; runs > 0 repeats it as often with what is not
// known well. The error is that of ctx.
func Simulate(ctx context.Context, document *job.Job, pick string, runs int, options Options) (course.Trace, error) {
	trace := course.Trace{Kind: "none", Cautions: []string{}}
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

func (v *Survey) simulate(ctx context.Context, o *Outcome, runs int, trace *course.Trace) error {
	if o.Stopped() {
		trace.Why = "It cannot happen: " + o.Faults[0].Message + "."
		return nil
	}
	followed, is := o.Made.(course.Simulated)
	if !is {
		trace.Why = "There is no drop onto a line to follow."
		return nil
	}
	return followed.Simulate(ctx, runs, trace)
}
