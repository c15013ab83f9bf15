package gear_test

import (
	"fmt"

	"elkstay/core/gear"
)

// A rope that breaks at 80 kN, ten to one.
func ExampleRating_WorkingLimit() {
	breaks := 80.0
	limit, known := gear.Rating{BreakingKn: &breaks}.WorkingLimit(10)
	fmt.Println(limit.Kn, known)
	// Output: 8 true
}
