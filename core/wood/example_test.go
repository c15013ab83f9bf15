package wood_test

import (
	"fmt"

	"elkstay/core/wood"
)

// A cubic metre of green white ash: 48 lb/ft³, give or take a tenth.
func ExampleFind() {
	ash, _ := wood.Find("white-ash")
	fmt.Printf("%.0f kg (%.0f–%.0f)\n", ash.Density.Likely, ash.Density.Low, ash.Density.High)
	// Output: 769 kg (692–846)
}
