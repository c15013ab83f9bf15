package cut_test

import (
	"fmt"

	"elkstay/core/cut"
)

// A push of 40 lb a foot above the cut, the bridge 6 in from the edge: 80 lb at the bridge
// (common practice).
func ExampleSnap_Solve() {
	s := cut.Snap{MassKg: 80, CogHeightM: 0.6, BridgeToEdgeM: 0.1524, Push: cut.Push{ForceKn: 0.17793, HeightM: 0.3048}}
	parting := s.Solve()
	fmt.Printf("%.0f lb, %s\n", parting.BridgeForceKn/0.0044482, parting.Verdict)
	// Output: 80 lb, waits
}
