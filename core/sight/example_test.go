package sight_test

import (
	"fmt"

	"elkstay/core/sight"
)

// A bearing as it is called out.
func ExampleWind() {
	fmt.Println(sight.Wind(91), sight.Wind(230))
	// Output: E SW
}
