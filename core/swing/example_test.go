package swing_test

import (
	"fmt"

	"elkstay/core/line"
	"elkstay/core/swing"
)

// Let go at 60° from straight down, a piece pulls with twice its weight at the bottom.
func ExampleSwing_Solve() {
	s := swing.Swing{Pivot: line.Point{Z: 10}, Tie: line.Point{X: 4.3301270189, Z: 7.5}, MassKg: 100, ReachM: 1}
	arc := s.Solve()
	fmt.Printf("%.0f°, %.2f times its weight, %.1f m/s\n", arc.StartDeg, arc.Factor, arc.SpeedMS)
	// Output: 60°, 2.00 times its weight, 7.0 m/s
}
