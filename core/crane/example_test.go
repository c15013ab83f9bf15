package crane_test

import (
	"fmt"

	"elkstay/core/crane"
)

// A choked sling carries four fifths of what is marked, a basket twice (ASME B30.9, from
// memory).
func ExampleHitchFactor() {
	fmt.Println(crane.HitchFactor(crane.Choker), crane.HitchFactor("basket"))
	// Output: 0.8 2
}
