package policy

import (
	"math"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/job"
)

// The sharpest bend of a line counts; one that nobody gives is that of a pulley made for its rope, 4 to 1, or of a ring or a fork, 2 to 1.
func TestTheSharpestBendCounts(t *testing.T) {
	of := func(m float64) *float64 { return &m }
	for _, c := range []struct {
		what string
		rig  job.Rig
		want float64
	}{
		{"none given", job.Rig{Rope: &gear.NamedRope{DiameterM: 0.016}}, 4},
		{"a rope of no known thickness", job.Rig{Rope: &gear.NamedRope{}, Block: job.Block{BendM: of(0.2)}}, 4},
		{"a wide block", job.Rig{Rope: &gear.NamedRope{DiameterM: 0.016}, Block: job.Block{BendM: of(0.128)}}, 8},
		{"a wide block and a turn of which nobody says", job.Rig{Rope: &gear.NamedRope{DiameterM: 0.016}, Block: job.Block{BendM: of(0.128)}, Redirects: []job.Redirect{{}}}, 4},
		{"a ring", job.Rig{Rope: &gear.NamedRope{DiameterM: 0.016}, Block: job.Block{Friction: of(0.2)}}, 2},
		{"a thin device", job.Rig{Rope: &gear.NamedRope{DiameterM: 0.016}, Block: job.Block{BendM: of(0.128)}, Device: job.Device{BendM: of(0.048)}}, 3},
	} {
		if got := sharpest(&c.rig); got == nil || math.Abs(*got-c.want) > 1e-9 {
			t.Errorf("%s: %v, want %v", c.what, *got, c.want)
		}
	}
}
