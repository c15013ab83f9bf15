package course_test

import (
	"fmt"

	"elkstay/core/course"
)

// A piece may brush standing wood that it comes near; a roof it strikes.
func ExampleClearance() {
	limb, roof := course.Clearance{Name: "limb", ClearanceM: 0.3, KeepsM: 1, Spared: true}, course.Clearance{Name: "roof", ClearanceM: 0.3, KeepsM: 1}
	fmt.Println(limb.Near(), limb.Strikes(), roof.Near(), roof.Strikes())
	// Output: true false true true
}
