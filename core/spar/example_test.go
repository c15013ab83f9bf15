package spar_test

import (
	"fmt"

	"elkstay/core/spar"
	"elkstay/core/timber"
)

// A pole 40 cm through, pulled sideways with 1 kN at 10 m: 10 kNm at its foot over
// πD³/32.
func ExampleSpar_WorstSection() {
	none := false
	s := spar.Spar{
		Stations:    []timber.Station{{AtM: 0, DiameterM: 0.4}, {AtM: 10, DiameterM: 0.4}},
		StrengthMpa: 60, StiffnessGpa: 9, DensityKgM3: 800, SelfWeight: &none,
		Loads: []spar.Load{{AtM: 10, HorizontalKn: 1}},
	}
	worst := s.WorstSection()
	fmt.Printf("%.2f MPa at %.0f m\n", worst.StressMpa, worst.AtM)
	// Output: 1.59 MPa at 0 m
}
