package propose_test

import (
	"fmt"

	"elkstay/core/assess"
	"elkstay/core/job/jobtest"
	"elkstay/core/propose"
	"elkstay/core/units"
)

// Four limbs and a stem, taken down: what goes free and what goes on the line.
func ExampleOrder() {
	j := jobtest.Whole()
	j.Picks = nil
	p := propose.Order(&j, propose.ByUp, "", assess.Options{Units: units.Metric})
	fmt.Println(p.Picks[0].Title, "-", p.Picks[0].Pick.Way)
	// Output: Low limb - free
}
