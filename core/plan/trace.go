package plan

import (
	"context"
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/line"
	"elkstay/core/units"
)

// A Trace is one pick followed through time.
type Trace struct {
	Kind        string             `json:"kind" enum:"drop,swing,none"`
	Why         string             `json:"why" doc:"Why there is nothing to follow; empty when there is"`
	AzimuthDeg  float64            `json:"azimuth_deg" doc:"Of the upright plane it moves in"`
	Origin      line.Point         `json:"origin" doc:"The block at rest: x and z of the series count from here"`
	LineLimitKn *float64           `json:"line_limit_kn"`
	BlockLimit  *float64           `json:"block_limit_kn"`
	Run         *drop.Run          `json:"run,omitempty"`
	Spread      *drop.SpreadResult `json:"spread,omitempty"`
	Cautions    []string           `json:"cautions" nullable:"false"`
}

// Spread of what is not known well, besides the mass: per cent, and m of slack (common
// practice).
const (
	spreadRope  = 15
	spreadHold  = 20
	spreadSlack = 0.2
)

// Follow follows one pick through time; runs > 0 repeats it as often with what is not
// known well. The error is that of ctx.
func Follow(ctx context.Context, job *Job, pick string, runs int, options Options) (Trace, error) {
	trace := Trace{Kind: "none", Cautions: []string{}}
	v, a := prepare(job, &options)
	if v == nil {
		trace.Why = stateWithout(&a)
		return trace, nil
	}
	job = v.job
	for i := range job.Picks {
		if job.Picks[i].ID != pick {
			continue
		}
		now := v.before(i)
		v.learn(&a)
		o := v.work(&job.Picks[i], i+1, &now)
		return trace, v.follow(ctx, o, runs, &trace)
	}
	trace.Why = "That pick is not in the order any more."
	return trace, nil
}

func (v *survey) follow(ctx context.Context, o *outcome, runs int, trace *Trace) error {
	switch {
	case o.stopped():
		trace.Why = "It cannot happen: " + o.faults[0].Message + "."
		return nil
	case o.kase == nil:
		trace.Why = "There is no drop onto a line to follow."
		return nil
	}
	trace.Origin, trace.AzimuthDeg = pointOf(o.block), o.settings.FallTowardsDeg
	for i := range o.loads {
		if l := &o.loads[i]; l.known {
			limit := l.limit.Kn
			switch l.part {
			case partLine:
				trace.LineLimitKn = &limit
			case partBlock:
				trace.BlockLimit = &limit
			}
		}
	}
	if o.pick.Way != WayPastBlock {
		v.followSwing(o, trace)
		return nil
	}
	if aside := r3.Norm(level(r3.Sub(o.block, o.cut))); aside > 0.6 {
		trace.Why = "The block is not beneath the cut: only the energy sum is known for it."
		return nil
	}
	if o.orient > 88 {
		trace.Why = "The piece does not stand on its cut: only the energy sum is known for it."
		return nil
	}
	start := math.Max(2, o.orient)
	face := math.Min(170, math.Max(70, start+45))
	c := drop.SimCase{Piece: drop.SimPiece{Piece: o.kase.Piece}, Rigging: o.kase.Rigging, StartDeg: &start, FaceClosesDeg: &face}
	if o.spar != nil {
		modal := o.spar.beam.Solve().Modal
		c.Spar = &drop.SparTop{MassKg: modal.MassKg, StiffnessKnM: modal.StiffnessKnM}
	}
	if o.pick.What == WhatStem {
		inertia := v.stem.WeighBetween(o.fromM, o.toM, v.density, "").InertiaKgM2 * o.counts() / o.weight.kg.Likely
		c.Piece.InertiaKgM2 = &inertia
	}
	run := drop.Simulate(&c)
	trace.Kind, trace.Run = "drop", &run
	trace.Cautions = append(trace.Cautions, c.Cautions(run)...)
	if runs <= 0 {
		return nil
	}
	mass := o.weight.kg
	c.Spread = &drop.Spread{Runs: runs, Seed: 1, MassKg: &mass, RopeStiffnessPct: spreadRope, HoldPct: spreadHold, SlackM: math.Min(spreadSlack, o.settings.SlackM+spreadSlack)}
	spread, err := drop.SimulateSpread(ctx, &c)
	trace.Spread = spread
	return err
}

// followSwing follows a piece on its arc.
func (v *survey) followSwing(o *outcome, trace *Trace) {
	if o.arc == nil {
		trace.Why = "It hangs straight under its block: there is nothing to follow."
		return
	}
	s := o.swing()
	trace.AzimuthDeg = azimuthOf(level(r3.Sub(o.tie, o.block)))
	series := s.Follow(0.02)
	run := drop.Run{Phases: []drop.Phase{{Name: "falling", AtS: 0}}, CeilingKn: o.catch.LinePeakKn}
	off := math.Abs(o.weight.cog - o.settings.TieM)
	tilt := 0.0
	if o.weight.cog > o.settings.TieM {
		tilt = 180
	}
	peak, at := 0.0, 0.0
	factor := o.path.Points[0].ResultantKn
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
	block, device := peak*factor, peak*o.ratio()
	run.LinePeakKn, run.LinePeakAtS, run.BlockPeakKn, run.DevicePeakKn = &peak, &at, &block, &device
	if slip := o.hold / o.ratio(); peak > slip {
		trace.Cautions = append(trace.Cautions, fmt.Sprintf("Followed as if the line held. It does not: rope runs at %s, and the piece swings lower and slower.", units.Print(units.Force, v.system, slip)))
	}
	trace.Kind, trace.Run = "swing", &run
	trace.Cautions = append(trace.Cautions, s.Cautions(*o.arc)...)
}
