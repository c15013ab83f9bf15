package plan

import (
	"elkstay/core/gear"
	"elkstay/core/locker"
)

// used is how an item is used: what takes from its strength.
type used struct {
	kind       string
	knot       string
	bend       *float64 // diameter it bends round over its own
	conditions []string
}

// rate works out what an item may see as it is used, by its marking, its knots and
// bends, its condition and the crew's policy.
func (v *survey) rate(l load, r gear.Rating, u used) load {
	if r.MarkedKn == nil && r.BreakingKn == nil {
		return l
	}
	factor := v.limits.DesignFactors[u.kind]
	request := gear.RatingRequest{
		Rating: r, Termination: u.knot, BendRatio: u.bend, Conditions: u.conditions, DesignFactor: &factor,
		Policy: v.limits.School, PeakSharePct: &v.limits.PeakSharePct, RestingKn: &l.resting, PeakKn: &l.peak,
	}
	rated := request.Rate()
	l.known, l.decided = true, rated.Decided
	l.limit = gear.Limit{Kn: rated.LimitKn, Reason: rated.Reason, Source: rated.Source}
	l.cautions = append(l.cautions, request.Cautions(rated)...)
	if v.limits.School == gear.StaticWithinWorkingLoad {
		if rated.PeakLimitKn == nil {
			l.cautions = append(l.cautions, "No breaking strength is stated: the peak is held to the working load.")
			return l
		}
		l.restLimit = rated.LimitKn
		l.limit.Kn = *rated.PeakLimitKn
		if rated.Decided == gear.ByShare {
			l.limit.Reason = rated.PeakReason
		}
	}
	return l
}

// use is the share of its limit that a load takes, 1 at the limit; meaningless when no
// limit is known.
func (l *load) use() float64 {
	use := l.peak / l.limit.Kn
	if l.restLimit > 0 {
		use = max(use, l.resting/l.restLimit)
	}
	return use
}

// sharpest is the sharpest bend of a rig's line, as a ratio to its rope; nil when it is
// not known.
func (r *Rig) sharpest() *float64 {
	if r.Rope == nil || r.Rope.DiameterM <= 0 {
		return nil
	}
	var sharpest *float64
	turn := func(bend *float64) {
		if bend != nil {
			if ratio := max(1, *bend/r.Rope.DiameterM); sharpest == nil || ratio < *sharpest {
				sharpest = &ratio
			}
		}
	}
	turn(r.Block.BendM)
	for i := range r.Redirects {
		turn(r.Redirects[i].BendM)
	}
	turn(r.Device.BendM)
	return sharpest
}

// rateLine rates the rope of a rig where it runs, and tied with its knot.
func (v *survey) rateLine(l load, r *Rig) load {
	return v.rate(l, r.Rope.Rating(), used{kind: locker.Rope, bend: r.sharpest(), conditions: r.Rope.Conditions})
}

func (v *survey) rateTie(l load, r *Rig) load {
	knot := r.Tie.Knot
	if knot == "" {
		knot = gear.DefaultKnot
	}
	return v.rate(l, r.Rope.Rating(), used{kind: locker.Rope, knot: knot, conditions: r.Rope.Conditions})
}
