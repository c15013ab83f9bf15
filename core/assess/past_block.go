package assess

import (
	"context"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/job"
)

// pastBlock: the block is below the cut; the piece tips over and falls past it. The
// hardest shock there is.
type pastBlock struct{ onLine }

func (pastBlock) work(v *Survey, o *Outcome, now *Standing) {
	if !o.Stopped() {
		v.tips(o)
	}
	v.lowered(o, false, now, func() { v.roomTipping(o, now) })
}

// roomTipping measures what is round a piece while it tips over its cut.
func (v *Survey) roomTipping(o *Outcome, now *Standing) {
	if name := v.tipsInto(o, now); name != "" {
		o.fault(faultSector, "it tips into the no-go sector %s", name)
	}
	o.stop = v.stops(o, now)
	if v.Hurried && v.Stops(o) != "" {
		return
	}
	way := v.tippingWay(o, now)
	if o.tag != nil {
		v.staysOut(o, &way)
	}
	o.clears = v.clearances(&way, v.woodRound(o, now))
	v.comesDownBy(o, &way)
	v.turnsOn(o, &way, o.block, o.lowestTie())
	v.ropes(o, &way)
}

// tipsInto is the no-go sector that a piece comes into as it tips over, with its brush, or "".
func (v *Survey) tipsInto(o *Outcome, now *Standing) string {
	if name := v.sector(o.Settings.FallTowardsDeg); name != "" || len(v.Job.Site.Sectors) == 0 {
		return name
	}
	over := towards(o.Settings.FallTowardsDeg)
	across := r3.Cross(over, r3.Vec{Z: 1})
	body := v.body(o, now)
	return v.firstSector(func(s *job.Sector) bool {
		return slices.ContainsFunc(body, func(b ball) bool {
			out := b.off.Z
			if o.pick.What == job.WhatLimb {
				out = math.Hypot(r3.Dot(b.off, over), out)
			}
			at := r3.Add(o.cut, r3.Add(r3.Scale(out, over), r3.Scale(r3.Dot(b.off, across), across)))
			return v.reachesInto(s, at, b.r)
		})
	})
}

func (pastBlock) call(v *Survey, o *Outcome) string {
	if o.DropCase == nil {
		return ""
	}
	said := v.letDown(o)
	return strings.ToUpper(said[:1]) + said[1:]
}

func (pastBlock) because(v *Survey, o *Outcome) string {
	return v.becauseHeld("Lowered past its block", o)
}

// simulate follows a piece that stands on its cut over its hinge and past its block.
func (pastBlock) simulate(ctx context.Context, v *Survey, o *Outcome, runs int, trace *Trace) error {
	if aside := r3.Norm(level(r3.Sub(o.block, o.cut))); aside > 0.6 {
		trace.Why = "The block is not beneath the cut: only the energy sum is known for it."
		return nil
	}
	if o.orient > 88 {
		trace.Why = "The piece does not stand on its cut: only the energy sum is known for it."
		return nil
	}
	start := math.Max(2, o.orient)
	face := faceCloses(start)
	c := drop.SimCase{Piece: drop.SimPiece{Piece: o.DropCase.Piece}, Rigging: o.DropCase.Rigging, StartDeg: &start, FaceClosesDeg: &face}
	if o.spar != nil {
		modal := o.spar.beam.Solve().Modal
		c.Spar = &drop.SparTop{MassKg: modal.MassKg, StiffnessKnM: modal.StiffnessKnM}
	}
	if o.pick.What == job.WhatStem {
		inertia := v.Stem.WeighBetween(o.FromM, o.toM, v.density, "").InertiaKgM2 * o.counts() / o.Weight.Kg.Likely
		c.Piece.InertiaKgM2 = &inertia
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
	c.Spread = &drop.Spread{Runs: runs, Seed: 1, MassKg: &mass, RopeStiffnessPct: spreadRope, HoldPct: spreadHold, SlackM: math.Min(spreadSlack, o.Settings.SlackM+spreadSlack)}
	spread, err := drop.SimulateSpread(ctx, &c)
	trace.Spread = spread
	return err
}
