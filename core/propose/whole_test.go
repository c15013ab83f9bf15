package propose

import (
	"math"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// Taken down in whatever pieces, a tree weighs what its whole top weighs above the stump.
func TestThePicksMakeTheTree(t *testing.T) {
	t.Parallel()
	whole := jobtest.Thirty()
	whole.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(0.5 + stump), Way: job.WayFree}}
	want := assessed(&whole, "").Picks[0].MassKg.Likely
	for _, by := range []string{ByUp, BySides} {
		down := jobtest.Thirty()
		for _, p := range Order(&down, by, "", assess.Options{Units: units.Metric}).Picks {
			down.Picks = append(down.Picks, p.Pick)
		}
		sum := 0.0
		for _, p := range assessed(&down, "").Picks {
			sum += p.MassKg.Likely
		}
		if !(math.Abs(sum-want) <= 0.02*want) {
			t.Errorf("%s: the picks weigh %.0f kg, the tree %.0f", by, sum, want)
		}
	}
}
