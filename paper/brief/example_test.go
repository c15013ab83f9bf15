package brief_test

import (
	"fmt"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/units"
	"elkstay/paper/brief"
)

// What nobody has said yet is said on the paper.
func ExampleBriefing() {
	j := job.NewJob("old ash")
	paper := brief.Briefing(&j, assess.Options{Units: units.Metric})
	fmt.Println(paper.Unknown[0])
	// Output: Choose the species.
}
