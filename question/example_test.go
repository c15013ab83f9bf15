package question_test

import (
	"fmt"

	"elkstay/question"
)

// Every question, as it is named in the path and in the worker.
func ExampleAll() {
	for _, q := range question.All() {
		fmt.Print(q.Name, " ")
	}
	// Output: assess simulate propose rose trees ground ask resolve brief hold sweep layout into-job merge merge-item weights wraps-card guess-tree read-units read-sight read-chart
}
