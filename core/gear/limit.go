package gear

import (
	"fmt"

	"elkstay/core/working"
)

// DefaultDesignFactor divides a breaking strength where no working load is
// marked (common practice for rigging that sees shock).
const DefaultDesignFactor = 10

// A Rating is what an item says it can do: its marked working load, its breaking
// strength, or neither.
type Rating struct {
	MarkedKn   *float64 `json:"marked_kn,omitempty" exclusiveMinimum:"0" maximum:"5000" doc:"Working load marked by the maker, kN"`
	BreakingKn *float64 `json:"breaking_kn,omitempty" exclusiveMinimum:"0" maximum:"5000" doc:"Breaking strength stated by the maker, kN"`
}

// A Limit is the load an item may see in work, and why.
type Limit struct {
	Kn     float64
	Reason string
	Source string
}

// WorkingLimit returns the load an item may see, and whether anything is known of
// it at all. The marked working load wins over one computed from the breaking
// strength.
func (r Rating) WorkingLimit(designFactor float64) (Limit, bool) {
	switch {
	case r.MarkedKn != nil:
		return Limit{*r.MarkedKn, "working load as marked", "the maker's marking"}, true
	case r.BreakingKn != nil:
		return Limit{
			Kn:     *r.BreakingKn / designFactor,
			Reason: fmt.Sprintf("%.4g kN breaking, design factor %g", *r.BreakingKn, designFactor),
			Source: "design factor: " + working.Common,
		}, true
	}
	return Limit{}, false
}
