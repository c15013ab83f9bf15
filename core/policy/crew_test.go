package policy

import (
	"encoding/json"
	"strings"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// Every rule that stands in the list at a default is the one that the limits take.
func TestTheRulesListedAreThoseThatCount(t *testing.T) {
	j := jobtest.Stem()
	limits := LimitsOf(&j, &Policy{})
	got := map[string]float64{
		"peak_share_pct": limits.PeakSharePct, "chart_use_pct": limits.ChartUsePct, "wood_factor": limits.WoodFactor,
		"throw_kg": limits.ThrowKg, "hand_kn": limits.HandKn, "clear_m": limits.ClearM, "close_from_pct": limits.CloseFromPct,
		"least_factor": limits.LeastFactor, "push_kg": limits.PushKg, "fell_margin": limits.FellMargin, "aim_deg": limits.AimDeg, "circle_lengths": limits.CircleLengths,
	}
	for way, minutes := range limits.Minutes {
		got["minutes."+strings.ReplaceAll(string(way), "-", "_")] = minutes
	}
	if len(limits.Minutes) != len(job.Ways()) {
		t.Errorf("minutes of %d ways down, of %d", len(limits.Minutes), len(job.Ways()))
	}
	longer := 90.0
	if own := LimitsOf(&j, &Policy{Minutes: Minutes{Felled: &longer}}); own.Minutes[job.WayFelled] != 90 || own.Minutes[job.WayFree] != limits.Minutes[job.WayFree] {
		t.Errorf("the crew's own minutes: %v", own.Minutes)
	}
	for kind, factor := range limits.DesignFactors {
		got["design_factors."+kind] = factor
	}
	choices := map[string]string{"school": limits.School, "weight_end": limits.WeightEnd}
	for _, rule := range Rules() {
		if rule.Reason == "" || rule.Source == "" || rule.Title == "" {
			t.Errorf("%s has no reason", rule.Path)
		}
		if rule.Choice != choices[rule.Path] {
			t.Errorf("%s: listed %q, counts %q", rule.Path, rule.Choice, choices[rule.Path])
		}
		if value, known := got[rule.Path]; known != (rule.Default != nil) || known && value != *rule.Default {
			t.Errorf("%s: listed %v, counts %v", rule.Path, rule.Default, value)
		}
	}
	// Each of the listed paths is a field of the policy.
	written, _ := json.Marshal(Rules())
	if strings.Count(string(written), "design_factors.") != len(limits.DesignFactors) {
		t.Error("a kind of gear has no rule")
	}
	if _, err := ReadPolicy([]byte(`{"design_factors":{"rope":0.5}}`)); err == nil || !strings.Contains(err.Error(), "rope") {
		t.Errorf("a factor of a half: %v", err)
	}
}
