package section_test

import (
	"context"
	"fmt"

	"elkstay/core/gear"
	"elkstay/core/section"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// Eight metres of pole in pieces of at most two.
func ExampleProblem_Solve() {
	longest, grid := 2.0, 0.5
	p := section.Problem{
		Stem: section.Stem{
			Wood: wood.Wood{Species: "white-ash"},
			Stem: timber.Stem{Stations: []timber.Station{{AtM: 0, DiameterM: 0.2}, {AtM: 12, DiameterM: 0.2}}},
		},
		FromM: 12, ToM: 4, GridM: &grid, Limits: section.Limits{LengthM: &longest},
		Rig: section.Rig{
			TieAboveCutM: 0.4, BlockBelowCutM: 0.5, DeviceAtM: 1, BlockEfficiency: 0.9,
			Rope: gear.Rope{BreakingKn: 80, Elongation: []gear.Stretch{{LoadPct: 20, StrainPct: 3}}},
		},
	}
	plan, _ := p.Solve(context.Background())
	fmt.Println(plan.Count, "pieces")
	// Output: 4 pieces
}
