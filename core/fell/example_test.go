package fell_test

import (
	"fmt"

	"elkstay/core/fell"
)

// A stem of a tonne that leans back half a metre, pulled level at 10 m: 4.9 kNm and a
// margin of 1.3, over ten metres.
func ExampleFelling_Solve() {
	f := fell.Felling{
		Tree: fell.Tree{MassKg: 1000, CogHeightM: 5, CogForwardM: -0.5},
		Pull: fell.Line{AttachHeightM: 10, AnchorDistanceM: 20, AnchorHeightM: 10},
	}
	fmt.Printf("%.2f kN\n", f.Solve().PullKn)
	// Output: 0.64 kN
}
