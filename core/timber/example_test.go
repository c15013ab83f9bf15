package timber_test

import (
	"fmt"

	"elkstay/core/timber"
	"elkstay/core/wood"
)

// A bare pole 40 cm through and 2 m long, of wood as heavy as water.
func ExampleStem_Weigh() {
	pole := timber.Stem{Stations: []timber.Station{{AtM: 0, DiameterM: 0.4}, {AtM: 2, DiameterM: 0.4}}}
	weight := pole.Weigh(wood.Range{Low: 900, Likely: 1000, High: 1100}, timber.Frustum)
	fmt.Printf("%.0f kg, balanced at %.2f m\n", weight.MassKg.Likely, weight.CogM)
	// Output: 251 kg, balanced at 1.00 m
}
