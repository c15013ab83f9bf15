package roped

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/space"
)

// Figures are the line's way, how it catches the piece, and what steadies or stops that.
func (o *Roped) Figures(f *course.Figures) {
	if o.DropCase != nil {
		f.Catch = o.catchFigures()
	}
	if o.arc != nil {
		f.Arc = &course.ArcFigures{RadiusM: o.arc.RadiusM, StartDeg: o.arc.StartDeg, SpeedMS: o.arc.SpeedMS, LineKn: o.arc.LineKn, Factor: o.arc.Factor}
		side := space.Level(r3.Sub(o.Tie, o.Block))
		side = r3.Scale(1/r3.Norm(side), side)
		for k := range 25 {
			sin, cos := math.Sincos(space.Radians(o.arc.StartDeg) * (1 - float64(k)/12))
			f.Way = append(f.Way, space.PointOf(r3.Add(o.Block, r3.Add(r3.Scale(o.arc.RadiusM*sin, side), r3.Vec{Z: -o.arc.RadiusM * cos}))))
		}
	}
	for _, c := range o.carried.Way {
		f.Way = append(f.Way, c.At)
		f.Carried = append(f.Carried, course.CarriedAt{OutM: math.Hypot(c.At.X-o.Block.X, c.At.Y-o.Block.Y), FirstKn: c.AKn, SecondKn: c.BKn})
	}
	if o.spar != nil {
		st := o.spar.beam.Solve()
		allowed := o.spar.beam.StrengthMpa / o.Limits.WoodFactor
		f.Spar = &course.SparFigures{StressMpa: st.Worst.StressMpa, AtM: st.Worst.AtM, AllowedMpa: allowed, UsePct: 100 * st.Worst.StressMpa / allowed,
			TopDeflectionM: st.TopDeflectionM, PeriodS: st.PeriodS, Modal: st.Modal}
	}
	o.linePoints(f)
	f.Tag, f.Stop, f.Face = o.tagFigures(), o.stopFigures(), o.faceFigures()
}

// linePoints lays out the line's way to be drawn, and where the piece hangs.
func (o *Roped) linePoints(f *course.Figures) {
	if o.Rig == nil || len(o.Path.Legs) == 0 {
		return
	}
	// As its rungs have it: held with as much friction as there may be.
	hardest := o
	if o.sticks != nil && len(o.sticks.Path.Legs) == len(o.Path.Legs) {
		hardest = o.sticks
	}
	weight, peak := o.bearsKn(), hardest.Catch.LinePeakKn
	at := o.Tie
	for i, stop := range o.Points {
		point := course.LinePoint{Name: stop.Name, At: stop.Point}
		if i == 0 {
			point.Name, point.At = hold.PartTie, space.PointOf(at)
		}
		tension := hardest.Path.DeviceKn
		if i < len(o.Path.Legs) {
			tension = hardest.Path.Legs[i].TensionKn
			point.LegM = o.Path.Legs[i].LengthM
		}
		if i == 0 {
			point.LegM = r3.Norm(r3.Sub(o.Block, at))
		}
		point.RestingKn, point.PeakKn = weight*tension, peak*tension
		f.Line = append(f.Line, point)
	}
	if o.pair != nil {
		f.Line = append([]course.LinePoint{{Name: hold.PartFar, At: o.pair.B, RestingKn: 0, PeakKn: o.carried.MaxBKn, LegM: r3.Norm(r3.Sub(o.pair.B.Vec(), at))}}, f.Line...)
	}
	if low, stops := o.lowest(); stops && o.pair == nil {
		f.Hang = &course.Hang{X: o.Block.X, Y: o.Block.Y, LowM: low, TieM: o.lowestTie(), TipDown: o.Weight.CogM > o.Settings.TieM}
	}
}

func (o *Roped) catchFigures() *course.CatchFigures {
	figures := &course.CatchFigures{
		FallM: o.fallM(), StretchM: o.Catch.StretchM, LeadM: o.DropCase.LeadM, LinePeakKn: o.Catch.LinePeakKn, Amplification: o.Catch.Amplification,
		Runs: o.Catch.Runs, Holds: o.Catch.Holds, HoldKn: o.DropCase.DeviceHoldKn, TipDown: o.DropCase.HangsTipDown(),
		LockedPeakKn: o.lockedPeak(),
		Wanted:       o.Wanted(),
	}
	if o.Catch.Holds {
		run := o.Catch.RunM
		figures.RunM = &run
	}
	if slips := o.slips; slips != nil && o.DropCase.DeviceHoldKn != nil {
		figures.Friction = &course.FrictionRange{LinePeakWithMoreKn: o.sticks.Catch.LinePeakKn}
		if slips.Catch.Holds {
			figures.Friction.RunWithLessM = &slips.Catch.RunM
		}
	}
	return figures
}
