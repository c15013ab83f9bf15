package working_test

import (
	"fmt"

	"elkstay/core/working"
)

// One line of a sum, as it is shown beside its figure.
func ExampleSheet_Add() {
	var sheet working.Sheet
	sheet.Add("W", "weight", "m·g = 100·9.80665/1000", 0.980665, "kN", "statics")
	step := sheet.Steps()[0]
	fmt.Printf("%s = %s = %.3f %s\n", step.Symbol, step.Expression, step.Value, step.Unit)
	// Output: W = m·g = 100·9.80665/1000 = 0.981 kN
}
