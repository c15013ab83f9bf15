package assess

import (
	"context"
	"math"
	"testing"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// A swing's film starts at rest, peaks at the bottom with what the arc says, and keeps
// its energy.
func TestFollowASwing(t *testing.T) {
	j := jobtest.Whole()
	j.Rigs[0].Catch.How = job.Locked
	trace, err := Simulate(context.Background(), &j, "p2", 0, Options{Units: units.Metric})
	if err != nil || trace.Kind != "swing" {
		t.Fatalf("%v %+v", err, trace)
	}
	d := assess(&j, "p2").Detail
	if got := *trace.Run.LinePeakKn; !(math.Abs(got-d.Arc.LineKn) <= 1e-3*d.Arc.LineKn) {
		t.Errorf("the film peaks at %v, the arc at %v", got, d.Arc.LineKn)
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
