package assess

import (
	"context"
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// A swing's film begins at rest, ends on the far side, peaks no higher than its rung and no lower than a taut pendulum, and hangs on its
// line all along.
func TestFollowASwing(t *testing.T) {
	j := jobtest.Whole()
	j.Rigs[0].Catch.How = job.Locked
	trace, err := Simulate(context.Background(), &j, "p2", 0, Options{Units: units.Metric})
	if err != nil || trace.Kind != "swing" {
		t.Fatalf("%v %+v", err, trace)
	}
	a := assess(&j, "p2")
	d, run := a.Detail, trace.Run
	if got := *run.LinePeakKn; got > *rung(t, a, hold.PartLine).PeakKn || got < d.Arc.LineKn {
		t.Errorf("the film peaks at %v, the arc at %v, its rung %v", got, d.Arc.LineKn, *rung(t, a, hold.PartLine).PeakKn)
	}
	first, last := run.Series.Piece[0], run.Series.Piece[len(run.Series.Piece)-1]
	if first[0] <= 0 || last[0] >= 0 || len(run.Series.TS) < 50 {
		t.Errorf("from %v to %v in %d frames", first, last, len(run.Series.TS))
	}
	v := surveyOf(t, &j)
	o := v.work(&j.Picks[1], 2, v.Now(v.Before(1)))
	// Where it balances on its axis is no further from the block than the line and its lever.
	line := r3.Norm(r3.Sub(o.Rope().Tie, o.Rope().Block)) + o.Rope().Settings.SlackM
	lever := r3.Norm(r3.Sub(o.Weight.At, o.Rope().Tie))
	for i, at := range run.Series.Piece {
		if far := math.Hypot(at[0], at[1]); far > (line+lever)*1.1 {
			t.Fatalf("frame %d: %v m from its block, on %v m of line", i, far, line)
		}
		if i > 0 && math.Abs(at[2]-run.Series.Piece[i-1][2]) > 20 {
			t.Fatalf("frame %d: it turns from %v° to %v°", i, run.Series.Piece[i-1][2], at[2])
		}
	}
	for _, pick := range []string{"p1", "nobody"} {
		if none, err := Simulate(context.Background(), &j, pick, 0, Options{Units: units.Metric}); err != nil || none.Kind != "none" || none.Why == "" {
			t.Errorf("%s: %v %+v", pick, err, none)
		}
	}
}

// The film is the drop package's own run of the same case, spar and all, and its peak
// stays at or under the ceiling of the ladder where nothing sways.
func TestFollowIsTheDropsOwnRun(t *testing.T) {
	t.Parallel()
	j := jobtest.Stem()
	trace, err := Simulate(context.Background(), &j, "p1", 60, Options{Units: units.Metric})
	if err != nil || trace.Kind != "drop" {
		t.Fatalf("%v %+v", err, trace)
	}
	v := surveyOf(t, &j)
	now := v.Standing()
	o := v.work(&j.Picks[0], 1, now)
	modal := beamOf(t, o).Solve().Modal
	start, face := 2.0, 70.0
	inertia := v.Stem.WeighBetween(15, 18, v.Density, "").InertiaKgM2 * o.Weight.Kg.High / o.Weight.Kg.Likely
	c := drop.SimCase{Piece: drop.SimPiece{Piece: o.Rope().DropCase.Piece, InertiaKgM2: &inertia}, Rigging: o.Rope().DropCase.Rigging, StartDeg: &start, FaceClosesDeg: &face,
		Spar: &drop.SparTop{MassKg: modal.MassKg, StiffnessKnM: modal.StiffnessKnM}}
	want, err := drop.Simulate(t.Context(), &c)
	if err != nil {
		t.Fatal(err)
	}
	jobtest.Near(t, "peak", *trace.Run.LinePeakKn, *want.LinePeakKn)
	if len(trace.Run.Series.TS) < 50 || trace.Spread == nil || trace.Spread.P95Kn < trace.Spread.P50Kn {
		t.Errorf("%d samples, spread %+v", len(trace.Run.Series.TS), trace.Spread)
	}
	jobtest.Near(t, "origin", trace.Origin.Z, 14.4)
	jobtest.Near(t, "limit", *trace.LineLimitKn, 14)
}
