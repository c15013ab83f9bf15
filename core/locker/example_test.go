package locker_test

import (
	"fmt"

	"elkstay/core/locker"
)

// An item whose inspection was due yesterday is not planned with.
func ExampleItem_On() {
	sling := locker.Item{Name: "long sling", Inspections: []locker.Inspection{{On: "2026-01-10", By: "first reader", Result: locker.Pass, NextDue: "2026-07-10"}}}
	fmt.Println(sling.On("2026-07-10").State, "·", sling.On("2026-07-11").State)
	// Output: due soon · overdue
}
