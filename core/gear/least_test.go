package gear

import (
	"math"
	"strings"
	"testing"
)

// What is marked stands only up to a third (or the least factor that is set) of what knot, bend and condition leave.
func TestAMarkingStandsOnlyUpToWhatIsLeft(t *testing.T) {
	for _, c := range []struct {
		what           string
		marked, breaks float64
		knot           string
		bend, least    *float64
		limit          float64
		decided        string
	}{
		{"plenty left", 14, 80, "splice", nil, nil, 14, ByMarking},              // 80·0.95/3 = 25.3
		{"just what is left", 13, 60, "bowline", nil, nil, 13, ByMarking},       // 60·0.65/3 = 13
		{"a knot takes it", 14, 60, "bowline", nil, nil, 13, ByKnot},            // 13 < 14
		{"a bend takes more", 14, 60, "splice", of(1), nil, 9.5, ByBend},        // 60·0.95·0.5/3
		{"a factor of its own", 14, 60, "bowline", nil, of(5), 7.8, ByKnot},     // 39/5
		{"a marking past the rope", 30, 60, "none", nil, nil, 20, ByFactor},     // 60/3
		{"over ten times as sharp", 14, 60, "none", of(12), nil, 14, ByMarking}, // straight
	} {
		r := RatingRequest{Rating: Rating{MarkedKn: &c.marked, BreakingKn: &c.breaks}, Termination: c.knot, BendRatio: c.bend, LeastFactor: c.least}
		got := r.Rate()
		if !(math.Abs(got.LimitKn-c.limit) <= 1e-9) || got.Decided != c.decided || got.RestingLimit != got.LimitKn || *got.PeakLimitKn != got.LimitKn {
			t.Errorf("%s: %g by %s, want %g by %s", c.what, got.LimitKn, got.Decided, c.limit, c.decided)
		}
		if lesser := got.LimitKn < c.marked; lesser != strings.Contains(got.Reason, "less than the marked") || got.PeakReason != got.Reason {
			t.Errorf("%s: %q, %q", c.what, got.Reason, got.PeakReason)
		}
	}
	r := RatingRequest{Rating: Rating{MarkedKn: of(14), BreakingKn: of(60)}, Termination: "bowline"}
	if got := r.Rate(); !strings.Contains(got.Reason, "60 kN breaking × 65 % bowline, over the least factor 3: less than the marked 14 kN") {
		t.Errorf("reason %q", got.Reason)
	}
}

// At its limit a load is within, past it over; without a peak nothing is known; the school is held to at both ends.
func TestVerdicts(t *testing.T) {
	for _, c := range []struct {
		school     string
		rest, peak *float64
		verdict    string
		decided    string
	}{
		{"", nil, of(10), "within", ByFactor}, {"", nil, of(10.01), "over", ByFactor}, {"", of(10.01), nil, "over", ByFactor}, {"", of(1), nil, "not known", ByFactor},
		// At rest 10, the peak 40: what is nearer its limit decides.
		{StaticWithinWorkingLoad, of(5), of(24), "within", ByShare}, {StaticWithinWorkingLoad, of(7), of(24), "within", ByFactor},
		{StaticWithinWorkingLoad, of(6), of(24), "within", ByShare}, {StaticWithinWorkingLoad, of(5), of(40.1), "over", ByShare},
		{StaticWithinWorkingLoad, nil, of(24), "within", ByShare},
	} {
		r := RatingRequest{Rating: Rating{BreakingKn: of(100)}, Policy: c.school, RestingKn: c.rest, PeakKn: c.peak}
		got := r.Rate()
		if got.Verdict != c.verdict || got.Decided != c.decided {
			t.Errorf("%+v: %s by %s", c, got.Verdict, got.Decided)
		}
		if own := strings.Contains(got.PeakReason, "40 % of 100 kN"); own != (c.school != "") {
			t.Errorf("%s: %q", c.school, got.PeakReason)
		}
	}
	share := RatingRequest{Rating: Rating{BreakingKn: of(100)}, Policy: StaticWithinWorkingLoad, PeakSharePct: of(25)}
	if got := share.Rate(); *got.PeakLimitKn != 25 {
		t.Errorf("a quarter: %g", *got.PeakLimitKn)
	}
}

// The working multiplies out to what it ends in.
func TestTheWorkingOfARating(t *testing.T) {
	r := RatingRequest{Rating: Rating{BreakingKn: of(100)}, Termination: "figure-eight", Conditions: []string{"aged", "wet"}}
	rated := r.Rate()
	product, at := 1.0, map[string]float64{}
	for _, step := range r.Working(rated) {
		at[step.Symbol] = step.Value
		if step.Symbol == "k" || step.Symbol == "B" {
			product *= step.Value
		}
	}
	if !(math.Abs(product-60) <= 1e-9) || !(math.Abs(at["S"]-60) <= 1e-9) || !(math.Abs(at["L"]-6) <= 1e-9) || !(math.Abs(at["P"]-6) <= 1e-9) {
		t.Errorf("product %g, %v", product, at)
	}
	if kept := rated.kept(); kept != " × 75 % figure-eight × 80 % aged" {
		t.Errorf("kept %q", kept)
	}
	marked := RatingRequest{Rating: Rating{MarkedKn: of(9)}, Policy: StaticWithinWorkingLoad}
	rated = marked.Rate()
	if steps := marked.Working(rated); len(steps) != 1 || steps[0].Value != 9 || rated.PeakLimitKn != nil || rated.PeakReason != "" {
		t.Errorf("marked alone: %+v %+v", steps, rated)
	}
	if said := marked.Cautions(rated); len(said) != 1 {
		t.Errorf("no knot, and it is said: %v", said)
	}
}
