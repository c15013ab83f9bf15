package line_test

import (
	"fmt"

	"elkstay/core/line"
)

// Nine on the line, a fifth in the hand, on a bollard of friction 0.2.
func ExampleWrapsFor() {
	fmt.Printf("%.1f turns\n", line.WrapsFor(9, 0.2, 0.2))
	// Output: 3.0 turns
}
