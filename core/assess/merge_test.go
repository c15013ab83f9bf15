package assess

import (
	"context"
	"errors"
	"testing"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// The same seed gives the same spread, a wider mass a wider one, and a caller who has
// gone is not worked for.
func TestSpreadOfADrop(t *testing.T) {
	t.Parallel()
	j := jobtest.Stem()
	j.Rigs[0].Catch.How = job.Locked
	follow := func() course.Trace {
		trace, err := Simulate(context.Background(), &j, "p1", 80, Options{Units: units.Metric})
		if err != nil {
			t.Fatal(err)
		}
		return trace
	}
	one, two := follow(), follow()
	if one.Spread.P95Kn != two.Spread.P95Kn || one.Spread.P50Kn >= one.Spread.P99Kn {
		t.Errorf("got %+v and %+v", one.Spread, two.Spread)
	}
	if *one.Run.LinePeakKn > one.Run.CeilingKn*1.3 {
		t.Errorf("followed it peaks at %v, far above the ceiling of %v", *one.Run.LinePeakKn, one.Run.CeilingKn)
	}
	j.Picks[0].WeighedKg = jobtest.Of(230)
	// Weighed it is heavier, and as a share of its peak spread less.
	wide := func(s *drop.SpreadResult) float64 { return (s.P99Kn - s.P50Kn) / s.P50Kn }
	if sure := follow(); wide(sure.Spread) >= wide(one.Spread) {
		t.Errorf("weighed, the peak is spread from %v to %v", sure.Spread.P50Kn, sure.Spread.P99Kn)
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := Simulate(gone, &j, "p1", 5000, Options{Units: units.Metric}); !errors.Is(err, context.Canceled) {
		t.Errorf("for a caller who has gone: %v", err)
	}
}
