package gear

import (
	"math"
	"testing"
)

func number(v float64) *float64 { return &v }

func TestRatingIsTheProductOverTheDesignFactor(t *testing.T) {
	r := RatingRequest{Rating: Rating{BreakingKn: number(80)}, Termination: "running-bowline", BendRatio: number(3), Conditions: []string{"aged"}}
	got := r.Rate()
	want := 80 * 0.65 * 0.74 * 0.80
	if !(math.Abs(*got.StrengthKn-want) <= 1e-12) || !(math.Abs(got.LimitKn-want/10) <= 1e-12) || len(got.Factors) != 3 {
		t.Errorf("got %+v, want %v", got, want)
	}
	// Marked for 9 kN, but its knot, bend and age leave 30.784 kN: at least three times the
	// load, so 10.26 kN, and the mark is the lesser. Marked for 12 kN it is not.
	r.MarkedKn = number(9)
	if got := r.Rate(); got.LimitKn != 9 || got.Decided != ByMarking {
		t.Errorf("the mark is the lesser: %+v", got)
	}
	r.MarkedKn = number(12)
	if got := r.Rate(); !(math.Abs(got.LimitKn-want/3) <= 1e-12) || got.Decided == ByMarking {
		t.Errorf("the mark is more than a third of what is left: %+v", got)
	}
	r.LeastFactor = number(2)
	if got := r.Rate(); got.LimitKn != 12 {
		t.Errorf("a crew that asks for twice: %+v", got)
	}
	// Two knots: without its strength the mark is all there is, and that is said.
	r = RatingRequest{Rating: Rating{MarkedKn: number(12)}, Termination: "bowline"}
	if got := r.Rate(); got.LimitKn != 12 || len(r.Cautions(got)) == 0 {
		t.Errorf("marked, of no known strength: %+v", got)
	}
}

// A better end, a wider bend, a fresher rope never hold less.
func TestRatingOrders(t *testing.T) {
	last := 0.0
	for ratio := 1.0; ratio < 12; ratio += 0.1 {
		if f := BendFactor(ratio); f < last || f > 1 {
			t.Errorf("at %v the bend keeps %v, before it %v", ratio, f, last)
		} else {
			last = f
		}
	}
	if terminations["splice"] <= terminations["bowline"] || terminations["bowline"] < terminations["clove-hitch"] {
		t.Error("a splice must keep more than a bowline, a bowline no less than a clove hitch")
	}
	for name, f := range conditions {
		if f <= 0 || f > 1 {
			t.Errorf("%s keeps %v", name, f)
		}
	}
}

// The two schools part where a peak is above the working load and below its share of
// the strength.
func TestTwoSchools(t *testing.T) {
	r := RatingRequest{Rating: Rating{BreakingKn: number(100)}, RestingKn: number(4), PeakKn: number(25)}
	if got := r.Rate(); got.Verdict != "over" || *got.PeakLimitKn != 10 || *got.PeakUsePct != 250 {
		t.Errorf("the first school: %+v", got)
	}
	r.Policy = StaticWithinWorkingLoad
	if got := r.Rate(); got.Verdict != "within" || *got.PeakLimitKn != 40 || *got.RestingUsePct != 40 {
		t.Errorf("the second school: %+v", got)
	}
	r.RestingKn = number(11)
	if got := r.Rate(); got.Verdict != "over" {
		t.Errorf("resting above the working load: %+v", got)
	}
	r.Rating = Rating{MarkedKn: number(20)}
	if got := r.Rate(); got.Verdict != "not known" || got.PeakLimitKn != nil {
		t.Errorf("without a breaking strength: %+v", got)
	}
}

func TestRatingFaults(t *testing.T) {
	r := RatingRequest{Conditions: []string{"aged", "aged", "haunted"}}
	if faults := r.Faults("body"); len(faults) != 3 || faults[2].Location != "body.conditions[2]" {
		t.Errorf("got %v", faults)
	}
}
