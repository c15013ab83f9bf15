package cell_test

import (
	"fmt"

	"elkstay/core/cell"
)

// A drop of 9.8 kN on the line, and 3.9 kN hanging after it.
func ExampleTrace_Read() {
	trace := cell.Trace{At: cell.AtLine, TS: []float64{0, 0.5, 1, 2, 3}, Kn: []float64{0, 9.8, 3.9, 3.9, 3.9}}
	read := trace.Read()
	fmt.Printf("%.0f kg, %.1f times its weight\n", *read.MassKg, *read.Amplification)
	// Output: 398 kg, 2.5 times its weight
}
