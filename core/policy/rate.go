package policy

import (
	"fmt"
	"math"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/locker"
)

// Used is how an item is used: what takes from its strength.
type Used struct {
	Kind       string
	Knot       string
	Bend       *float64 // diameter it bends round over its own
	Conditions []string
}

// Rated is what an item may see as it is used.
type Rated struct {
	Known     bool       // false: nothing is stated
	Limit     gear.Limit // of the peak
	RestLimit float64    // of the load at rest, when the school asks for one of its own; else 0
	Decided   string     // what decided the limit
	Cautions  []string
}

// Rate works out what an item may see as it is used, by its marking, its knots and
// bends, its condition and the crew's rules. The loads, kN, are for the cautions.
func (l *Limits) Rate(r gear.Rating, u Used, restingKn, peakKn float64) Rated {
	if r.MarkedKn == nil && r.BreakingKn == nil {
		return Rated{}
	}
	factor := l.DesignFactors[u.Kind]
	if r.MarkedKn != nil && l.MarkedPct < 100 {
		used := *r.MarkedKn * l.MarkedPct / 100
		r.MarkedKn = &used
	}
	request := gear.RatingRequest{
		Rating: r, Termination: u.Knot, BendRatio: u.Bend, Conditions: u.Conditions, DesignFactor: &factor, LeastFactor: &l.LeastFactor,
		Policy: l.School, PeakSharePct: &l.PeakSharePct, RestingKn: &restingKn, PeakKn: &peakKn,
	}
	rated := request.Rate()
	if rated.Decided == gear.ByMarking && l.MarkedPct < 100 {
		rated.Reason += fmt.Sprintf(", %g %% of it by the crew's rule", l.MarkedPct)
	}
	out := Rated{Known: true, Decided: rated.Decided, Limit: gear.Limit{Kn: rated.LimitKn, Reason: rated.Reason, Source: rated.Source}, Cautions: request.Cautions(rated)}
	if l.School == gear.StaticWithinWorkingLoad {
		if rated.PeakLimitKn == nil {
			out.Cautions = append(out.Cautions, "No breaking strength is stated: the peak is held to the working load.")
			return out
		}
		out.RestLimit = rated.LimitKn
		out.Limit.Kn = *rated.PeakLimitKn
		if rated.Decided == gear.ByShare {
			out.Limit.Reason = rated.PeakReason
		}
	}
	return out
}

// Use is the share of its limit that a load takes, 1 at the limit; meaningless when no
// limit is known.
func (r *Rated) Use(restingKn, peakKn float64) float64 {
	use := peakKn / r.Limit.Kn
	if r.RestLimit > 0 {
		use = max(use, restingKn/r.RestLimit)
	}
	return use
}

// What a line bends round where nobody has said how wide that is, as a ratio to its rope: a pulley made for it (common practice, no source),
// and a fork, a ring or a hitch that does not turn.
const (
	pulleyBend = 4.0
	ringBend   = 2.0
)

// sharpest is the sharpest bend of a rig's line, as a ratio to its rope: of its block as it is given, else the sharpest that such gear has.
func sharpest(r *job.Rig) *float64 {
	sharpest := math.Inf(1)
	turn := func(bend, friction *float64) {
		ratio := pulleyBend
		switch {
		case bend != nil && r.Rope != nil && r.Rope.DiameterM > 0:
			ratio = max(1, *bend/r.Rope.DiameterM)
		case friction != nil:
			ratio = ringBend
		}
		sharpest = min(sharpest, ratio)
	}
	turn(r.Block.BendM, r.Block.Friction)
	for i := range r.Redirects {
		turn(r.Redirects[i].BendM, r.Redirects[i].Friction)
	}
	if r.Device.BendM != nil {
		turn(r.Device.BendM, nil)
	}
	return &sharpest
}

// RateLine rates the rope of a rig where it runs.
func (l *Limits) RateLine(r *job.Rig, restingKn, peakKn float64) Rated {
	return l.Rate(r.Rope.Rating(), Used{Kind: locker.Rope, Bend: sharpest(r), Conditions: r.Rope.Conditions}, restingKn, peakKn)
}

// RateTie rates the rope of a rig tied with its knot.
func (l *Limits) RateTie(r *job.Rig, restingKn, peakKn float64) Rated {
	knot := r.Tie.Knot
	if knot == "" {
		knot = gear.DefaultKnot
	}
	return l.Rate(r.Rope.Rating(), Used{Kind: locker.Rope, Knot: knot, Conditions: r.Rope.Conditions}, restingKn, peakKn)
}
