package assess_test

import (
	"fmt"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/units"
)

// An unfinished job says what to give next.
func ExampleAssess() {
	j := job.NewJob("old ash")
	fmt.Println(assess.Assess(&j, assess.Options{Units: units.Metric}).State)
	// Output: Choose the species.
}
