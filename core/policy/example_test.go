package policy_test

import (
	"fmt"

	"elkstay/core/job"
	"elkstay/core/policy"
)

// What a job is held to: its own limit, else the crew's rule, else the default.
func ExampleLimitsOf() {
	five, three := 0.5, 0.3
	j := job.NewJob("old ash")
	rules := policy.Policy{HandKn: &three}
	fmt.Println(policy.LimitsOf(&j, &rules).HandKn, policy.LimitsOf(&j, &rules).ThrowKg)
	j.Limits.HandKn = &five
	fmt.Println(policy.LimitsOf(&j, &rules).HandKn)
	// Output:
	// 0.3 15
	// 0.5
}
