package roped

import (
	"context"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/space"
)

// traces readies a trace of a piece that falls onto its line; it reports whether there is one to follow.
func (o *Roped) traces(trace *course.Trace) bool {
	if o.DropCase == nil {
		trace.Why = "There is no drop onto a line to follow."
		return false
	}
	trace.Origin, trace.AzimuthDeg = space.PointOf(o.Block), o.Settings.FallTowardsDeg
	for i := range o.Loads {
		if l := &o.Loads[i]; l.Known {
			limit := l.Limit.Kn
			switch l.Part {
			case hold.PartLine:
				trace.LineLimitKn = &limit
			case hold.PartBlock:
				trace.BlockLimit = &limit
			}
		}
	}
	return true
}

// Simulate follows a piece that stands on its cut over its hinge and past its block.
func (o *PastBlock) Simulate(ctx context.Context, runs int, trace *course.Trace) error {
	if !o.traces(trace) {
		return nil
	}
	if aside := r3.Norm(space.Level(r3.Sub(o.Block, o.Cut))); aside > 0.6 {
		trace.Why = "The block is not beneath the cut: only the energy sum is known for it."
		return nil
	}
	if o.OrientDeg > 88 {
		trace.Why = "The piece does not stand on its cut: only the energy sum is known for it."
		return nil
	}
	c := o.simCase()
	face := faceCloses(*c.StartDeg)
	// The film is drawn as if its block were right beneath the cut.
	c.FaceClosesDeg, c.Course, c.BlockOverM, c.BlockAsideM = &face, nil, 0, 0
	if o.spar != nil {
		modal := o.spar.beam.Solve().Modal
		c.Spar = &drop.SparTop{MassKg: modal.MassKg, StiffnessKnM: modal.StiffnessKnM}
	}
	run, err := drop.Simulate(ctx, &c)
	if err != nil {
		return err
	}
	trace.Kind, trace.Run = "drop", &run
	trace.Cautions = append(trace.Cautions, c.Cautions(run)...)
	if runs <= 0 {
		return nil
	}
	mass := o.Weight.Kg
	c.Spread = &drop.Spread{Runs: runs, Seed: 1, MassKg: &mass, RopeStiffnessPct: course.SpreadRopePct, HoldPct: course.SpreadHoldPct, SlackM: math.Min(course.SpreadSlackM, o.Settings.SlackM+course.SpreadSlackM)}
	spread, err := drop.SimulateSpread(ctx, &c)
	trace.Spread = spread
	return err
}

// Simulate follows a piece on its arc.
func (o *FromAbove) Simulate(_ context.Context, _ int, trace *course.Trace) error {
	if o.traces(trace) {
		o.simulateSwing(trace)
	}
	return nil
}

// filmEvery is how far apart the moments of a film are, s.
const filmEvery = 0.02

// simulateSwing follows a piece that swings off onto its line, as a body.
func (o *Roped) simulateSwing(trace *course.Trace) {
	if o.swung == nil {
		trace.Why = "It hangs straight under its block: there is nothing to follow."
		return
	}
	side := space.Level(r3.Sub(o.Tie, o.Block))
	trace.AzimuthDeg = space.AzimuthOf(side)
	axis := r3.Sub(o.Tip, o.Cut)
	tilt := space.Degrees(math.Atan2(r3.Dot(axis, side)/r3.Norm(side), axis.Z))
	frames, most := o.swung.Film(o.hold, filmEvery)
	run := drop.Run{Phases: []drop.Phase{{Name: "falling", AtS: 0}}, CeilingKn: o.Catch.LinePeakKn}
	if o.swung.CogOut == 0 && o.swung.CogUp == 0 {
		tilt = 0
	}
	for _, f := range frames {
		if !o.Catch.Holds && f.TS > 0 && o.Block.Z+f.Z < o.Floor.Z {
			break
		}
		run.Series.TS = append(run.Series.TS, f.TS)
		run.Series.LineKn = append(run.Series.LineKn, f.Kn)
		run.Series.BlockKn = append(run.Series.BlockKn, r3.Norm(o.pulledAt(f.Pull)))
		run.Series.Piece = append(run.Series.Piece, [3]float64{f.X, f.Z, tilt + f.TurnDeg})
		run.Series.SparM = append(run.Series.SparM, 0)
		run.RunM = f.RunM
	}
	block, device := r3.Norm(o.pulledAt(most.Pull)), most.Kn*o.Ratio()
	run.LinePeakKn, run.LinePeakAtS, run.BlockPeakKn, run.DevicePeakKn = &most.Kn, &most.TS, &block, &device
	if !o.Catch.Holds {
		trace.Cautions = append(trace.Cautions, "Its line never stops it: the film ends where it comes down.")
	}
	if o.stop != nil {
		trace.Cautions = append(trace.Cautions, "Followed as if nothing stopped it.")
	}
	trace.Kind, trace.Run = "swing", &run
	trace.Cautions = append(trace.Cautions, "Followed as a body in the upright plane of block and tie, undamped, with the friction given; what leads it out of that plane is not in the film.")
}
