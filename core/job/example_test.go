package job_test

import (
	"fmt"

	"elkstay/core/job"
)

// A document that contradicts itself is read all the same; Faults says what is wrong.
func ExampleJob_Faults() {
	j := job.NewJob("old ash")
	height := 9.0
	j.Trees[0].HeightM = &height
	j.Trees[0].Readings = []job.Reading{{AtM: 12, Tape: job.Girth, TapeM: 1.1}}
	fmt.Println(j.Faults()[0].Message)
	// Output: the height (9 m) is below the highest reading (12 m)
}
