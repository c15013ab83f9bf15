package intake_test

import (
	"fmt"

	"elkstay/core/intake"
)

// A slip of units is refused by name, with the range.
func ExampleDecode() {
	var tape struct {
		DiameterM float64 `json:"diameter_m" exclusiveMinimum:"0" maximum:"10"`
	}
	fmt.Println(intake.Decode([]byte(`{"diameter_m":40}`), &tape))
	// Output: body.diameter_m: diameter_m is 40; allowed: more than 0 and at most 10 m
}
