package gear

import (
	"fmt"

	"elkstay/core/intake"
	"elkstay/core/working"
)

// A Share is what an item keeps of its breaking strength for one reason.
type Share struct {
	Name   string  `json:"name"`
	Factor float64 `json:"factor"`
	Source string  `json:"source"`
}

// memory marks round figures that riggers use and that stand here from memory.
const memory = working.Common + ", round figure from memory"

// terminations are what a rope keeps at its end.
var terminations = map[string]float64{
	"none": 1, "splice": 0.95, "sewn-eye": 0.90, "figure-eight": 0.75, "running-bowline": 0.65, "bowline": 0.65,
	"cow-hitch": 0.70, "timber-hitch": 0.65, "clove-hitch": 0.60, "half-hitches": 0.60,
}

// bends are what a rope keeps round a block or bollard of a given bend ratio D/d;
// straight lines between.
var bends = []struct{ ratio, factor float64 }{{1, 0.50}, {2, 0.65}, {3, 0.74}, {4, 0.80}, {6, 0.88}, {8, 0.94}, {10, 1}}

// conditions are what a rope keeps in a state.
var conditions = map[string]float64{"wet-polyamide": 0.85, "wet": 1, "aged": 0.80, "glazed": 0.75, "abraded": 0.70}

// The two schools of which limit counts in a shock.
const (
	PeakWithinWorkingLoad   = "peak-within-working-load"
	StaticWithinWorkingLoad = "static-within-working-load"
)

// What can decide a limit.
const (
	ByMarking   = "marking"
	ByKnot      = "knot"
	ByBend      = "bend"
	ByCondition = "condition"
	ByFactor    = "design factor"
	ByShare     = "share of the strength"
)

// A RatingRequest asks what an item may carry as it is used.
type RatingRequest struct {
	Rating
	Termination  string   `json:"termination,omitempty" enum:"none,splice,sewn-eye,figure-eight,running-bowline,bowline,cow-hitch,timber-hitch,clove-hitch,half-hitches" doc:"How the rope ends; default none"`
	BendRatio    *float64 `json:"bend_ratio,omitempty" minimum:"1" maximum:"100" doc:"Diameter of block or bollard over diameter of rope; absent: straight"`
	Conditions   []string `json:"conditions,omitempty" maxItems:"5" doc:"wet, wet-polyamide, aged, glazed, abraded"`
	DesignFactor *float64 `json:"design_factor,omitempty" minimum:"1" maximum:"30" doc:"Divides the breaking strength where nothing is marked; default 10"`
	LeastFactor  *float64 `json:"least_factor,omitempty" minimum:"1" maximum:"30" doc:"What knot, bend and condition leave of the strength, over this, is never passed, whatever is marked; default 3"`
	Policy       string   `json:"policy,omitempty" enum:"peak-within-working-load,static-within-working-load" doc:"Which school for a shock; default peak-within-working-load"`
	PeakSharePct *float64 `json:"peak_share_pct,omitempty" minimum:"1" maximum:"100" doc:"Share of the strength left that a peak may take in the second school; default 40"`
	RestingKn    *float64 `json:"resting_kn,omitempty" minimum:"0" maximum:"5000" doc:"Load at rest, kN"`
	PeakKn       *float64 `json:"peak_kn,omitempty" minimum:"0" maximum:"5000" doc:"Load at the peak, kN"`
}

// A Rated is what an item may carry as it is used.
type Rated struct {
	LimitKn       float64  `json:"limit_kn" doc:"Working limit"`
	Reason        string   `json:"reason" doc:"Where the working limit comes from"`
	Decided       string   `json:"decided_by" enum:"marking,knot,bend,condition,design factor,share of the strength" doc:"What took most from the strength, or the marking that stands"`
	Source        string   `json:"source"`
	PeakReason    string   `json:"peak_reason" doc:"Where the limit of the peak comes from"`
	StrengthKn    *float64 `json:"strength_kn" doc:"Breaking strength left by knot, bend and condition; null when none is stated"`
	Factors       []Share  `json:"factors" nullable:"false"`
	Policy        string   `json:"policy"`
	RestingLimit  float64  `json:"resting_limit_kn"`
	PeakLimitKn   *float64 `json:"peak_limit_kn" doc:"Null when the school needs a breaking strength and none is stated"`
	RestingUsePct *float64 `json:"resting_use_pct" doc:"Null when no resting load is given"`
	PeakUsePct    *float64 `json:"peak_use_pct" doc:"Null when no peak is given, or its limit is not known"`
	Verdict       string   `json:"verdict" enum:"within,over,not known"`
}

// Faults names what is wrong between the fields at the given path.
func (r *RatingRequest) Faults(path string) (faults intake.Faults) {
	if r.MarkedKn == nil && r.BreakingKn == nil {
		faults.Add(path+".breaking_kn", nil, "marked_kn, breaking_kn, or both", "neither a marked working load nor a breaking strength is given")
	}
	seen := map[string]bool{}
	for i, condition := range r.Conditions {
		if _, known := conditions[condition]; !known || seen[condition] {
			faults.Add(fmt.Sprintf("%s.conditions[%d]", path, i), condition, "wet, wet-polyamide, aged, glazed, abraded; each once", "%q is no condition known here, or stands twice", condition)
		}
		seen[condition] = true
	}
	return faults
}

// BendFactor is what a rope keeps of its strength round a bend of the given ratio D/d.
func BendFactor(ratio float64) float64 {
	for i := 1; i < len(bends); i++ {
		if ratio <= bends[i].ratio {
			a, b := bends[i-1], bends[i]
			return a.factor + (ratio-a.ratio)/(b.ratio-a.ratio)*(b.factor-a.factor)
		}
	}
	return 1
}

// Rate works out what an item may carry: what is marked, but never more than what
// termination, bend and condition leave of the breaking strength over the least factor;
// where nothing is marked, what they leave over the design factor.
func (r *RatingRequest) Rate() Rated {
	rated := Rated{Factors: []Share{}, Policy: r.Policy}
	if rated.Policy == "" {
		rated.Policy = PeakWithinWorkingLoad
	}
	left := r.strengthLeft(&rated)
	factor := float64(DefaultDesignFactor)
	if r.DesignFactor != nil {
		factor = *r.DesignFactor
	}
	used := r.Rating
	if r.BreakingKn != nil {
		strength := *r.BreakingKn * left
		rated.StrengthKn, used.BreakingKn = &strength, &strength
	}
	limit, _ := used.WorkingLimit(factor)
	rated.LimitKn, rated.Reason, rated.Source = limit.Kn, limit.Reason, limit.Source
	rated.RestingLimit = rated.LimitKn
	switch {
	case r.MarkedKn != nil:
		taken := rated.Decided
		rated.Decided = ByMarking
		// What is left of the strength counts before what is marked on the item as made.
		if most := r.leastFactor(); rated.StrengthKn != nil && *rated.StrengthKn/most < rated.LimitKn {
			rated.LimitKn, rated.RestingLimit = *rated.StrengthKn/most, *rated.StrengthKn/most
			rated.Decided, rated.Source = taken, memory
			rated.Reason = fmt.Sprintf("%.4g kN breaking%s, over the least factor %g: less than the marked %.4g kN", *r.BreakingKn, rated.kept(), most, *r.MarkedKn)
		}
	case left < 1:
		rated.Reason = fmt.Sprintf("%.4g kN breaking%s, design factor %g", *r.BreakingKn, rated.kept(), factor)
		rated.Source = memory
	}
	switch {
	case rated.Policy == PeakWithinWorkingLoad:
		rated.PeakLimitKn = &rated.LimitKn
	case rated.StrengthKn != nil:
		share := 40.0
		if r.PeakSharePct != nil {
			share = *r.PeakSharePct
		}
		peak := *rated.StrengthKn * share / 100
		rated.PeakLimitKn = &peak
		rated.PeakReason = fmt.Sprintf("%g %% of %.4g kN breaking%s", share, *r.BreakingKn, rated.kept())
	}
	if rated.PeakReason == "" && rated.PeakLimitKn != nil {
		rated.PeakReason = rated.Reason
	}
	rated.judge(r)
	return rated
}

// strengthLeft is the share of its strength that termination, bend and conditions leave, and says which takes most.
func (r *RatingRequest) strengthLeft(rated *Rated) (left float64) {
	left = 1
	least := 1.0
	rated.Decided = ByFactor
	note := func(by, name string, factor float64) {
		rated.Factors = append(rated.Factors, Share{name, factor, memory})
		left *= factor
		if factor < least {
			least, rated.Decided = factor, by
		}
	}
	if r.Termination != "" && r.Termination != "none" {
		note(ByKnot, r.Termination, terminations[r.Termination])
	}
	if r.BendRatio != nil {
		note(ByBend, fmt.Sprintf("bend %.3g to 1", *r.BendRatio), BendFactor(*r.BendRatio))
	}
	for _, condition := range r.Conditions {
		note(ByCondition, condition, conditions[condition])
	}
	return left
}

// judge holds what the item sees to its limits.
func (r *Rated) judge(asked *RatingRequest) {
	r.Verdict = "not known"
	if asked.RestingKn != nil {
		use := 100 * *asked.RestingKn / r.RestingLimit
		r.RestingUsePct = &use
	}
	if asked.PeakKn != nil && r.PeakLimitKn != nil {
		use := 100 * *asked.PeakKn / *r.PeakLimitKn
		r.PeakUsePct = &use
	}
	if r.Policy == StaticWithinWorkingLoad && r.PeakUsePct != nil && (r.RestingUsePct == nil || *r.PeakUsePct >= *r.RestingUsePct) {
		r.Decided = ByShare
	}
	over := func(use *float64) bool { return use != nil && *use > 100 }
	switch {
	case over(r.RestingUsePct) || over(r.PeakUsePct):
		r.Verdict = "over"
	case r.PeakUsePct != nil:
		r.Verdict = "within"
	}
}

// DefaultLeastFactor is what stays between the strength that is left and any limit, whatever
// is marked (common practice, no source).
const DefaultLeastFactor = 3

func (r *RatingRequest) leastFactor() float64 {
	if r.LeastFactor != nil {
		return *r.LeastFactor
	}
	return DefaultLeastFactor
}

// kept writes the shares of the strength: " × 65 % running-bowline × 80 % aged".
func (r *Rated) kept() (text string) {
	for _, share := range r.Factors {
		if share.Factor < 1 {
			text += fmt.Sprintf(" × %.3g %% %s", 100*share.Factor, share.Name)
		}
	}
	return text
}

// Working writes the sum behind a rating.
func (r *RatingRequest) Working(rated Rated) []working.Step {
	var sheet working.Sheet
	if r.BreakingKn != nil {
		sheet.Add("B", "breaking strength", "as stated", *r.BreakingKn, "kN", "the maker")
		for _, share := range rated.Factors {
			sheet.Add("k", "kept: "+share.Name, "share of the strength", share.Factor, "", share.Source)
		}
		sheet.Add("S", "strength left", "B · all shares", *rated.StrengthKn, "kN", memory)
	}
	sheet.Add("L", "working limit", rated.Reason, rated.LimitKn, "kN", "the marked limit, or what is left of the strength over the least factor, the lesser: "+working.Common)
	if rated.PeakLimitKn != nil {
		sheet.Add("P", "limit of the peak", "by the school "+rated.Policy, *rated.PeakLimitKn, "kN", working.Common)
	}
	return sheet.Steps()
}

// Cautions returns what must stand beside a rating.
func (r *RatingRequest) Cautions(rated Rated) []string {
	cautions := []string{}
	if r.MarkedKn != nil && r.BreakingKn == nil && len(rated.Factors) > 0 {
		cautions = append(cautions, "No breaking strength is stated: what knot, bend and condition take is not known, and the marked load is that of the item as made.")
	}
	if rated.Policy == StaticWithinWorkingLoad {
		cautions = append(cautions, "In this school a peak may pass the working load: the item is to be set aside and looked at after it has.")
	}
	return cautions
}
