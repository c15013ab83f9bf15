package hold_test

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/policy"
)

// Two lines the same way on one anchor leave half of it to each.
func ExampleTogether() {
	on := hold.Load{Part: hold.PartHolder, On: "stump", Dir: r3.Vec{X: 1}, PeakKn: 5, Rated: policy.Rated{Known: true, Limit: gear.Limit{Kn: 30}}}
	loads := []hold.Load{on, on}
	hold.Together(loads)
	fmt.Println(loads[0].Limit.Kn, loads[1].Limit.Kn)
	// Output: 15 15
}
