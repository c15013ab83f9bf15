package locker

import "fmt"

// The ways an item can stand on a day.
const (
	Ready        = "ready"
	DueSoon      = "due soon" // within dueSoonDays
	NotInspected = "not inspected"
	Overdue      = "overdue"
	Aside        = "set aside"
	Retired      = "retired"
)

// dueSoonDays is how long before its day an inspection is announced (common practice).
const dueSoonDays = 14

// A Standing is whether an item may be planned with on a day, and why not.
type Standing struct {
	State  string `json:"state" enum:"ready,due soon,not inspected,overdue,set aside,retired"`
	Why    string `json:"why" doc:"In a sentence; empty when it is ready"`
	Barred bool   `json:"barred" doc:"Not to be planned with unless a reason is recorded"`
}

// On says how an item stands on a day: what sets it aside counts first, then its latest
// inspection. An item that nobody has inspected is not barred, and says so.
func (it *Item) On(day string) Standing {
	if aside := it.SetAside; aside != nil {
		if aside.Retired {
			return Standing{Retired, fmt.Sprintf("retired on %s: %s", aside.On, aside.Why), true}
		}
		return Standing{Aside, fmt.Sprintf("set aside on %s: %s", aside.On, aside.Why), true}
	}
	if len(it.Inspections) == 0 {
		return Standing{NotInspected, "no inspection is on record", false}
	}
	last := it.Inspections[len(it.Inspections)-1]
	switch {
	case last.Result == Fail:
		return Standing{Aside, fmt.Sprintf("failed its inspection of %s by %s", last.On, last.By), true}
	case last.NextDue != "" && last.NextDue < day:
		return Standing{Overdue, fmt.Sprintf("its inspection was due on %s", last.NextDue), true}
	case last.NextDue != "" && last.NextDue <= later(day, dueSoonDays):
		return Standing{DueSoon, fmt.Sprintf("its next inspection is due on %s", last.NextDue), false}
	case last.Result == Watch:
		return Standing{Ready, fmt.Sprintf("to watch since %s: %s", last.On, last.Note), false}
	}
	return Standing{State: Ready}
}
