package units_test

import (
	"fmt"

	"elkstay/core/units"
)

// The same force for two readers.
func ExamplePrint() {
	fmt.Println(units.Print(units.Force, units.Metric, 10), units.Print(units.Force, units.US, 10))
	// Output: 10.0 kN 2,250 lbf
}
