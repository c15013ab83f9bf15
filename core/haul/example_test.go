package haul_test

import (
	"fmt"
	"math"

	"elkstay/core/haul"
)

// A line of 20 m under 1 kN, pulled half a metre aside at its middle.
func ExampleSideways_Solve() {
	pull := haul.Sideways{SpanM: 20, PretensionKn: 1, StiffnessKn: 600, SideForceKn: 0.4}
	gain := pull.Solve()
	fmt.Printf("F = 2T·d/l: %.2f kN\n", 2*gain.TensionKn*gain.DeflectionM/math.Hypot(10, gain.DeflectionM))
	// Output: F = 2T·d/l: 0.40 kN
}
