package drop_test

import (
	"fmt"

	"elkstay/core/drop"
	"elkstay/core/gear"
)

// A log of 100 kg, tied 0.5 m above its cut, falls past a block 0.5 m below it onto a
// line locked off: the textbook's impact formula W(1+√(1+2hk/W)), with a rope of
// 0.5 m a kilonewton and metre of it.
func ExampleSolve() {
	c := drop.Case{
		Piece: drop.Piece{MassKg: 100, CogAboveCutM: 0.5, LengthM: 1},
		Rigging: drop.Rigging{
			TieAboveCutM: 0.5, BlockBelowCutM: 0.5, LeadM: 9, BlockEfficiency: 1,
			Rope: gear.Rope{BreakingKn: 50, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 10}}},
		},
	}
	fmt.Printf("falls %.1f m, peak %.1f kN\n", c.FallM(), drop.Solve(&c).LinePeakKn)
	// Output: falls 2.0 m, peak 15.0 kN
}
