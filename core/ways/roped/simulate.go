package roped

import (
	"context"
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/space"
	"elkstay/core/units"
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

// simulateSwing follows a piece on its arc.
func (o *Roped) simulateSwing(trace *course.Trace) {
	if o.arc == nil {
		trace.Why = "It hangs straight under its block: there is nothing to follow."
		return
	}
	s := o.swing()
	trace.AzimuthDeg = space.AzimuthOf(space.Level(r3.Sub(o.Tie, o.Block)))
	series := s.Follow(0.02)
	run := drop.Run{Phases: []drop.Phase{{Name: "falling", AtS: 0}}, CeilingKn: o.Catch.LinePeakKn}
	off := math.Abs(o.Weight.CogM - o.Settings.TieM)
	tilt := 0.0
	if o.Weight.CogM > o.Settings.TieM {
		tilt = 180
	}
	peak, at := 0.0, 0.0
	factor := o.Path.Points[0].ResultantKn
	for i, t := range series.TS {
		run.Series.TS = append(run.Series.TS, t)
		run.Series.LineKn = append(run.Series.LineKn, series.LineKn[i])
		run.Series.BlockKn = append(run.Series.BlockKn, series.LineKn[i]*factor)
		run.Series.Piece = append(run.Series.Piece, [3]float64{series.X[i], series.Z[i] - off, tilt})
		run.Series.SparM = append(run.Series.SparM, 0)
		if series.LineKn[i] > peak {
			peak, at = series.LineKn[i], t
		}
	}
	block, device := peak*factor, peak*o.Ratio()
	run.LinePeakKn, run.LinePeakAtS, run.BlockPeakKn, run.DevicePeakKn = &peak, &at, &block, &device
	if slip := o.hold / o.Ratio(); peak > slip {
		trace.Cautions = append(trace.Cautions, fmt.Sprintf("Followed as if the line held. It does not: rope runs at %s, and the piece swings lower and slower.", units.Print(units.Force, o.System, slip)))
	}
	if o.stop != nil {
		trace.Cautions = append(trace.Cautions, "Followed as if nothing stopped it.")
	}
	trace.Kind, trace.Run = "swing", &run
	trace.Cautions = append(trace.Cautions, s.Cautions(*o.arc)...)
}
