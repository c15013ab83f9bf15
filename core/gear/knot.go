package gear

import (
	"maps"
	"slices"
)

// Knots lists the ways of tying a line to a piece, by name.
func Knots() []string {
	return slices.DeleteFunc(slices.Sorted(maps.Keys(terminations)), func(name string) bool { return name == "none" })
}

// DefaultKnot ties a line to a piece when nobody has said how.
const DefaultKnot = "running-bowline"

// TiedLimit returns the working limit of a line tied off with a knot: a marked working
// load stands; a breaking strength first loses what the knot takes.
func (r Rating) TiedLimit(knot string, designFactor float64) (Limit, bool) {
	if r.MarkedKn != nil || r.BreakingKn == nil {
		return r.WorkingLimit(designFactor)
	}
	if knot == "" {
		knot = DefaultKnot
	}
	request := RatingRequest{Rating: r, Termination: knot, DesignFactor: &designFactor}
	rated := request.Rate()
	return Limit{Kn: rated.LimitKn, Reason: rated.Reason, Source: memory}, true
}
