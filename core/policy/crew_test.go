package policy

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/locker"
)

// Every rule that stands in the list at a default is the one that the limits take.
func TestTheRulesListedAreThoseThatCount(t *testing.T) {
	j := jobtest.Stem()
	limits := LimitsOf(&j, &Policy{})
	got := map[string]float64{
		"peak_share_pct": limits.PeakSharePct, "chart_use_pct": limits.ChartUsePct, "wood_factor": limits.WoodFactor,
		"throw_kg": limits.ThrowKg, "hand_kn": limits.HandKn, "clear_m": limits.ClearM, "close_from_pct": limits.CloseFromPct,
		"least_factor": limits.LeastFactor, "marked_pct": limits.MarkedPct, "fill_pct": limits.FillPct, "push_kg": limits.PushKg, "fell_margin": limits.FellMargin, "aim_deg": limits.AimDeg, "circle_lengths": limits.CircleLengths,
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

// A crew that stays under what is marked by a fifth holds a rope of 14 kN to 11.2, and says so; what
// knots leave stands where it is less, and what nobody marked is not touched.
func TestAShareOfAMarkedLoad(t *testing.T) {
	share := 80.0
	limits := LimitsOf(&job.Job{}, &Policy{MarkedPct: &share})
	marked, strong, weak := 14.0, 200.0, 30.0
	used := Used{Kind: locker.Rope, Knot: "bowline"}
	got := limits.Rate(gear.Rating{MarkedKn: &marked, BreakingKn: &strong}, used, 1, 2)
	if got.Limit.Kn != 11.2 || got.Decided != gear.ByMarking || !strings.Contains(got.Limit.Reason, "80 % of it by the crew's rule") {
		t.Errorf("%+v", got)
	}
	if marked != 14 {
		t.Errorf("the marking itself was changed: %v", marked)
	}
	// A bowline leaves 65 % of 30 kN, over 3: 6.5.
	if got = limits.Rate(gear.Rating{MarkedKn: &marked, BreakingKn: &weak}, used, 1, 2); !(math.Abs(got.Limit.Kn-6.5) <= 1e-9) || strings.Contains(got.Limit.Reason, "crew's rule") {
		t.Errorf("%+v", got)
	}
	all := LimitsOf(&job.Job{}, &Policy{})
	unmarked := gear.Rating{BreakingKn: &strong}
	if a, b := limits.Rate(unmarked, used, 1, 2), all.Rate(unmarked, used, 1, 2); a.Limit != b.Limit {
		t.Errorf("unmarked: %+v and %+v", a.Limit, b.Limit)
	}
}
