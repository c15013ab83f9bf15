package assess

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/units"
)

// fromAbove: the block is over the piece, which comes off onto the line and is let down.
type fromAbove struct{ onLine }

func (fromAbove) work(v *Survey, o *Outcome, now *Standing) {
	v.lowered(o, true, now, func() { v.roomUnder(o, now) })
}

// cautions says what making the line tight before does.
func (fromAbove) cautions(o *Outcome) []string {
	switch {
	case o.tight == nil:
		return nil
	case o.tight.swings:
		return []string{"It swings off its line: made tight before, the line catches it no softer at the bottom of its arc."}
	}
	return o.tight.held.Cautions(o.tight.caught)
}

// swingsInto is the no-go sector that a piece swings into, beyond its block as far as it came from before it, with all
// of it as it hangs by then; "": none.
func (v *Survey) swingsInto(o *Outcome, now *Standing) string {
	if o.arc == nil || len(v.Job.Site.Sectors) == 0 {
		return ""
	}
	side := level(r3.Sub(o.block, o.tie))
	// From above its block it comes out furthest level with it; only the plan counts.
	end := r3.Add(o.block, r3.Scale(o.arc.RadiusM*math.Sin(radians(min(90, o.arc.StartDeg)))/r3.Norm(side), side))
	if name := v.sector(azimuthOf(level(r3.Sub(end, v.foot)))); name != "" {
		return name
	}
	axis, angle, tie, _ := v.hangs(o)
	p := hung(axis, angle, tie, end)
	body := v.body(o, now)
	return v.firstSector(func(s *job.Sector) bool {
		return slices.ContainsFunc(body, func(b ball) bool { return v.reachesInto(s, p.place(b.off), b.r) })
	})
}

// roomUnder measures what is round a piece while it swings under its block and hangs.
func (v *Survey) roomUnder(o *Outcome, now *Standing) {
	into := v.swingsInto(o, now)
	if into != "" {
		o.fault(faultSector, "it swings into the no-go sector %s", into)
	}
	if v.Hurried && v.Stops(o) != "" {
		return
	}
	o.stop = v.stops(o, now)
	way := v.swingWay(o, now)
	v.stopLoads(o, now)
	if stop := o.stop; stop != nil && stop.meets && !stop.holds {
		// What does not hold stops nothing: it goes on.
		o.stop = nil
		way = v.swingWay(o, now)
		o.stop = stop
		o.fouls = append(o.fouls, fmt.Sprintf("It is not known to be held by %s: it is followed as if it went on.", stop.name))
	}
	if into == "" {
		v.staysOut(o, &way)
	}
	o.clears = v.clearances(&way, v.woodRound(o, now))
	if o.stop != nil && o.stop.holds {
		// What is meant to be met is not in its way.
		o.clears = slices.DeleteFunc(o.clears, func(c Clearance) bool {
			return c.target == nil && o.stop.wood != nil && c.wood == o.stop.wood.as
		})
	}
	v.swingsAt(o, &way)
	if place := o.Rig.Block.Place; place != nil && !v.onOwnStem(place) {
		v.pastStem(o, &way)
	}
	v.turnsOn(o, &way, o.block, o.lowestTie())
	v.ropes(o, &way)
}

func (fromAbove) call(v *Survey, o *Outcome) string {
	if o.DropCase == nil {
		return ""
	}
	said := v.letDown(o)
	return strings.ToUpper(said[:1]) + said[1:]
}

func (fromAbove) because(v *Survey, o *Outcome) string {
	return v.becauseHeld("Lowered from above", o)
}

func (fromAbove) simulate(_ context.Context, v *Survey, o *Outcome, _ int, trace *Trace) error {
	v.simulateSwing(o, trace)
	return nil
}

// simulateSwing follows a piece on its arc.
func (v *Survey) simulateSwing(o *Outcome, trace *Trace) {
	if o.arc == nil {
		trace.Why = "It hangs straight under its block: there is nothing to follow."
		return
	}
	s := o.swing()
	trace.AzimuthDeg = azimuthOf(level(r3.Sub(o.tie, o.block)))
	series := s.Follow(0.02)
	run := drop.Run{Phases: []drop.Phase{{Name: "falling", AtS: 0}}, CeilingKn: o.Catch.LinePeakKn}
	off := math.Abs(o.Weight.cog - o.Settings.TieM)
	tilt := 0.0
	if o.Weight.cog > o.Settings.TieM {
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
		trace.Cautions = append(trace.Cautions, fmt.Sprintf("Followed as if the line held. It does not: rope runs at %s, and the piece swings lower and slower.", units.Print(units.Force, v.System, slip)))
	}
	if o.stop != nil {
		trace.Cautions = append(trace.Cautions, "Followed as if nothing stopped it.")
	}
	trace.Kind, trace.Run = "swing", &run
	trace.Cautions = append(trace.Cautions, s.Cautions(*o.arc)...)
}
