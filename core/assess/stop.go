package assess

import (
	"cmp"
	"slices"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/policy"
	"elkstay/core/space"
)

// Stops returns what forbids a piece, or "".
func (v *Survey) Stops(o *Outcome) string { return v.forbids(o.Made, o.Landing) }

// forbids is what forbids a piece as far as it is made, or "".
func (f *Forest) forbids(made course.Made, lands *Landing) string {
	c, held := made.State(), made.Held()
	if c.Stopped() {
		switch c.Faults[0].Code {
		case course.FaultTie:
			return course.StopsTie
		case space.FaultGone:
			return course.StopsWood
		}
		return course.StopsOrder
	}
	if held != nil && held.Drops && !held.Holds {
		return course.StopsHold
	}
	if part := hold.Over(c.Loads, cmp.Or(f.AimsAt, 1)); part != "" {
		return part
	}
	if lands != nil {
		if lands.Verdict == policy.Over || lands.Verdict == policy.NotKnown {
			return course.StopsLand
		}
		return ""
	}
	if held != nil && held.Stops && (held.LowestM-held.Floor.Hard < f.Limits.ClearM || held.Floor.Onto != "") {
		return course.StopsRoom
	}
	// The nearest may be wood that it may brush, and what it strikes beyond it.
	if slices.ContainsFunc(c.Clears, func(one course.Clearance) bool { return one.Strikes() }) {
		return course.StopsClear
	}
	if limit := f.Limits.RunM; limit != nil && held != nil && held.RunM > *limit {
		return course.StopsRun
	}
	return ""
}

// StopWords says what stops a piece, with the place of it.
func (v *Survey) StopWords(stop string, o *Outcome) string {
	switch stop {
	case course.StopsRoom:
		return "the room above " + o.Made.Held().Floor.Name
	case course.StopsClear:
		struck := max(0, slices.IndexFunc(o.Clears, func(one course.Clearance) bool { return one.Strikes() }))
		return "how close it comes to " + o.Clears[struck].Name
	case course.StopsRun:
		return "the longest run"
	case course.StopsHold:
		return "the hold, which does not stop it"
	case course.StopsTie:
		return "the tie, which must be within the piece"
	case course.StopsLand:
		return "where it comes down: " + o.Landing.Reason
	case course.StopsOrder:
		return "this: " + o.Faults[0].Message
	case course.StopsWood:
		return "nothing but the end of the wood"
	case hold.PartPiece:
		return "the heaviest piece you take"
	}
	return "the limit of the " + stop
}
