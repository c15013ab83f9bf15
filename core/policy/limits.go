package policy

import (
	"fmt"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/locker"
)

// Limits are the limits a job is held to: its own, else the crew's policy, else the
// defaults.
type Limits struct {
	DesignFactors map[string]float64 `json:"design_factors" doc:"By kind of gear"`
	LeastFactor   float64            `json:"least_factor"`
	MarkedPct     float64            `json:"marked_pct"`
	FillPct       float64            `json:"fill_pct"`
	School        string             `json:"school" enum:"peak-within-working-load,static-within-working-load"`
	PeakSharePct  float64            `json:"peak_share_pct"`
	ChartUsePct   float64            `json:"chart_use_pct"`
	WeightEnd     string             `json:"weight_end" enum:"likely,heavy"`
	WoodFactor    float64            `json:"wood_factor"`
	PieceKg       *float64           `json:"piece_kg" doc:"Null: none set"`
	ThrowKg       float64            `json:"throw_kg"`
	PushKg        float64            `json:"push_kg"`
	HandKn        float64            `json:"hand_kn"`
	ClearM        float64            `json:"clear_m"`
	RunM          *float64           `json:"run_m" doc:"Null: none set"`
	CloseFromPct  float64            `json:"close_from_pct"`
	FellMargin    float64            `json:"fell_margin"`
	AimDeg        float64            `json:"aim_deg"`
	CircleLengths float64            `json:"circle_lengths"`

	Minutes map[job.Way]float64 `json:"-"`
}

// LimitsOf brings together what the job says for itself, the policy, and the defaults.
func LimitsOf(j *job.Job, p *Policy) Limits {
	l := &j.Limits
	pick := func(own, crew *float64, standard float64) float64 { return job.Or(own, job.Or(crew, standard)) }
	either := func(own, crew *float64) *float64 {
		if own != nil {
			return own
		}
		return crew
	}
	limits := Limits{
		DesignFactors: map[string]float64{}, LeastFactor: job.Or(p.LeastFactor, gear.DefaultLeastFactor), MarkedPct: job.Or(p.MarkedPct, defaultMarked), FillPct: job.Or(p.FillPct, defaultFill), School: p.School, PeakSharePct: job.Or(p.PeakSharePct, defaultPeakShare),
		ChartUsePct: job.Or(p.ChartUsePct, defaultChartUse), WeightEnd: p.WeightEnd,
		WoodFactor: pick(l.WoodFactor, p.WoodFactor, defaultWood), PieceKg: either(l.PieceKg, p.PieceKg), ThrowKg: pick(l.ThrowKg, p.ThrowKg, defaultThrow),
		PushKg: job.Or(p.PushKg, defaultPush), HandKn: pick(l.HandKn, p.HandKn, defaultLimitHand), ClearM: pick(l.ClearM, p.ClearM, defaultClear), RunM: either(l.RunM, p.RunM),
		CloseFromPct: pick(l.CloseFromPct, p.CloseFromPct, defaultCloseFrom),
	}
	limits.FellMargin, limits.AimDeg, limits.CircleLengths = job.Or(p.FellMargin, defaultMargin), job.Or(p.AimDeg, defaultAim), job.Or(p.CircleLengths, defaultCircle)
	limits.Minutes = map[job.Way]float64{}
	for way, one := range p.Minutes.of() {
		limits.Minutes[way] = job.Or(one.own, one.standard)
	}
	if limits.School == "" {
		limits.School = gear.PeakWithinWorkingLoad
	}
	if limits.WeightEnd == "" {
		limits.WeightEnd = EndHeavy
	}
	for _, kind := range locker.Kinds() {
		standard := float64(defaultMetal)
		switch kind {
		case locker.Rope, locker.Sling:
			standard = gear.DefaultDesignFactor
		case locker.Crane, locker.Vehicle:
			continue
		}
		limits.DesignFactors[kind] = pick(l.DesignFactor, p.DesignFactors.of(kind), standard)
	}
	return limits
}

// Ruled says in words which rule set a figure: the job's own, or the policy.
func Ruled(own *float64) string {
	if own != nil {
		return "this job's own"
	}
	return "the crew's policy"
}

// SchoolWords says which limit counts in a shock.
func (l *Limits) SchoolWords() string {
	if l.School == gear.StaticWithinWorkingLoad {
		return fmt.Sprintf("the load at rest within the working load, the peak within %g %% of the strength", l.PeakSharePct)
	}
	return "the peak within the working load"
}

// DesignFactorOf is the design factor of a kind of gear by a policy.
func DesignFactorOf(p *Policy, kind string) float64 {
	return LimitsOf(&job.Job{}, p).DesignFactors[kind]
}
