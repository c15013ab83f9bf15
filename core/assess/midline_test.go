package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// hung is the pole with a weight in its line in place of an effort: the stump stands 14 m out,
// one can hold to it at 6 m.
func hungLine(kg float64) job.Job {
	j := jobtest.Poled()
	j.Site.Anchors[0].At, j.Site.Anchors[0].HeightM = job.Spot{X: 14}, jobtest.Of(8)
	j.Picks[0].Fell.Lines = []job.FellLine{{ID: "l1", AtM: 12, Anchor: "e", AnchorM: jobtest.Of(6), Mid: &job.FellMid{Kind: job.MidWeight, WeightKg: jobtest.Of(kg)}}}
	return j
}

// A weight in the middle of a line, by hand: two halves of equal length, the sum of forces nought.
func TestAWeightInALineByHand(t *testing.T) {
	t.Parallel()
	j := hungLine(150)
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	// From (0, 12) to (14, 6), a twentieth longer than straight.
	straight := math.Hypot(14, 6)
	half := 1.05 * straight / 2
	bow := math.Sqrt(half*half - straight*straight/4)
	// Square to the chord, on its lower side.
	x, z := 7-bow*6/straight, 9-bow*14/straight
	w := 0.15 * 9.80665
	// Level parts equal: P·x = A·(14 − x); upright parts carry it: P·(12 − z) + A·(6 − z) = w·half.
	pull := w * half / ((12 - z) + (6-z)*x/(14-x))
	anchor := pull * x / (14 - x)
	line := a.Detail.Pulls[0]
	jobtest.Nearly(t, "where it hangs, out", line.Points[1].X, x)
	jobtest.Nearly(t, "where it hangs, up", line.Points[1].Z, z)
	jobtest.Nearly(t, "what it gives", *line.GivesKn, pull)
	if len(line.Points) != 3 || len(line.LegKn) != 2 || line.LegKn[0] < pull-1e-9 || line.LegKn[1] < anchor-1e-9 {
		t.Errorf("drawn: %+v", line)
	}
	// What is needed is asked along the line as it leads to the weight.
	f := a.Detail.Fell
	need := 1.3 * (f.Hinge.BendingKnm - a.Detail.Piece.MassKg.High*9.80665/1000*f.ForwardM)
	arm := ((12-0.5)*x - f.Hinge.AheadOfCentreM*(12-z)) / half
	jobtest.Nearly(t, "what is needed of it", line.NeedKn, need/arm)
	// Let go by the tree it swings down on its other half to the ground, which it meets: the half is
	// longer than the anchor is high.
	swung := w * (3*6/half - 2*(6-z)/half)
	jobtest.Nearly(t, "the anchor", *rung(t, a, hold.PartHolder).PeakKn, math.Max(anchor, swung))
	jobtest.Nearly(t, "at rest", rung(t, a, hold.PartHolder).RestingKn, anchor)
	// Twice the weight gives twice as much, and is said to follow it down.
	j = hungLine(300)
	twice := assess(&j, "p1")
	jobtest.Nearly(t, "twice the weight", *twice.Detail.Pulls[0].GivesKn, 2*pull)
	if said := twice.Detail.Pulls[0].Said; !strings.Contains(said, "The weight pulls") || !strings.Contains(said, "Nobody under it") {
		t.Error(said)
	}
	// Its pull counts no more than it gives where the tree still needs it.
	if limit := *rung(t, twice, hold.PartPull).LimitKn; limit > 2*pull+1e-9 || limit <= 0 {
		t.Errorf("counted with %v of %v", limit, 2*pull)
	}
}

// What cannot hang, or cannot be pulled, is said at the pick.
func TestWhatCannotBePutOnALine(t *testing.T) {
	for what, c := range map[string]struct {
		spoil func(l *job.FellLine)
		says  string
	}{
		"a line no longer than the way": {func(l *job.FellLine) { l.Mid.LineM = jobtest.Of(15) }, "a weight cannot hang in it"},
		"on the ground":                 {func(l *job.FellLine) { l.Mid.LineM = jobtest.Of(40) }, "lies on the ground"},
		"a winch besides":               {func(l *job.FellLine) { l.By = job.EffortWinch }, "no effort, system or tension besides"},
		"a weight of no weight":         {func(l *job.FellLine) { l.Mid.WeightKg = nil }, "say how heavy"},
		"a pull of no strength":         {func(l *job.FellLine) { l.Mid = &job.FellMid{Kind: job.MidSide} }, "say with how much"},
		"on a line that holds":          {func(l *job.FellLine) { l.Holds = true }, "nothing is put on its middle"},
		"a slack line pulled aside":     {func(l *job.FellLine) { l.Mid = &job.FellMid{Kind: job.MidSide, SideKn: jobtest.Of(0.5)} }, "say how tight"},
	} {
		j := hungLine(150)
		c.spoil(&j.Picks[0].Fell.Lines[0])
		said := ""
		for _, f := range assess(&j, "p1").Picks[0].Faults {
			said += f.Message + " "
		}
		if !strings.Contains(said, c.says) {
			t.Errorf("%s: %q", what, said)
		}
	}
}

// A tight line pulled aside, against forces at its middle by bisection: it gives no more than the
// softest rope would, takes no less than the stiffest, and half of the pull is the hinge's to bear.
func TestALinePulledAside(t *testing.T) {
	j := jobtest.Poled()
	j.Picks[0].Fell.Lines = []job.FellLine{{ID: "l1", AtM: 12, Anchor: "e", PretensionKn: 4, Mid: &job.FellMid{Kind: job.MidSide, SideKn: jobtest.Of(0.6)}}}
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	span := math.Hypot(25, 12-0.3)
	// 4 kN of 80 are 5 % of its strength: 0.8 % of strain, so EA is 500 kN as it stands.
	const ea = 500.0
	low, high := 0.0, 5.0
	tension := func(d float64) float64 { return ea * (2*math.Hypot(span/2, d)/(span/(1+4/ea)) - 1) }
	for range 100 {
		d := (low + high) / 2
		if 2*tension(d)*d/math.Hypot(span/2, d) < 0.6 {
			low = d
		} else {
			high = d
		}
	}
	gives := tension(low) * (span / 2) / math.Hypot(span/2, low)
	jobtest.Nearly(t, "what it gives", *a.Detail.Pulls[0].GivesKn, gives)
	if peak := *rung(t, a, hold.PartLine).PeakKn; peak < tension(low) {
		t.Errorf("the line takes %v, at least %v", peak, tension(low))
	}
	straight := jobtest.Poled()
	straight.Picks[0].Fell.Lines = []job.FellLine{{ID: "l1", AtM: 12, Anchor: "e", PretensionKn: 4}}
	before, after := rung(t, assess(&straight, "p1"), hold.PartHinge), rung(t, a, hold.PartHinge)
	arm := a.Detail.Fell.HeightM
	jobtest.Nearly(t, "sideways on the hinge", (*after.PeakKn-*before.PeakKn)*arm, 0.3*(12-0.5))
	if !strings.Contains(a.Detail.Pulls[0].Said, "used up when the tree has come") {
		t.Error(a.Detail.Pulls[0].Said)
	}
}

// Followed through time it begins as it hangs, in space; what swings on the anchor when the tree is
// down is told, and is no more than what the anchor is judged by but for the rope's own spring.
func TestAWeightInALineIsFollowed(t *testing.T) {
	t.Parallel()
	j := hungLine(300)
	a := assess(&j, "p1")
	trace, err := Simulate(t.Context(), &j, "p1", 0, Options{Units: "metric"})
	if err != nil || trace.Why != "" || trace.Fall == nil {
		t.Fatal(err, trace.Why)
	}
	line, one := a.Detail.Pulls[0], trace.Fall.Lines[0]
	jobtest.Near(t, "pull at the start", one.KnAtRest, *line.GivesKn)
	at := trace.Fall.Series.Weight[0]
	// The fall leads east: ahead is x, right is south.
	jobtest.Near(t, "out", at[0]+trace.Origin.X, line.Points[1].X)
	jobtest.Near(t, "aside", -at[1]+trace.Origin.Y, line.Points[1].Y)
	jobtest.Near(t, "up", at[2]+trace.Origin.Z, line.Points[1].Z)
	if one.AnchorPeakKn == nil || !strings.Contains(trace.Said, "The weight swings on") {
		t.Fatalf("%+v %q", one, trace.Said)
	}
	if judged := *rung(t, a, hold.PartHolder).PeakKn; *one.AnchorPeakKn > judged {
		t.Errorf("followed it swings with %v kN, judged by %v", *one.AnchorPeakKn, judged)
	}
	if again, err := Simulate(t.Context(), &j, "p1", 40, Options{Units: "metric"}); err != nil || again.Odds == nil {
		t.Errorf("spread: %v", err)
	}
}

// A heavy weight under a high anchor falls free when the tree goes, and is caught with many times
// what a pendulum pulls: the anchor is judged by that. What cannot be followed is not known.
func TestAWeightThatFallsFreeIsCaught(t *testing.T) {
	t.Parallel()
	for _, kg := range []float64{300, 600, 900} {
		for _, up := range []float64{4, 6, 8} {
			j := hungLine(kg)
			j.Picks[0].Fell.Lines[0].AnchorM = jobtest.Of(up)
			a := assess(&j, "p1")
			trace, err := Simulate(t.Context(), &j, "p1", 0, Options{Units: "metric"})
			if err != nil || trace.Fall == nil {
				t.Fatal(err, trace.Why)
			}
			followed := *trace.Fall.Lines[0].AnchorPeakKn
			if judged := *rung(t, a, hold.PartHolder).PeakKn; followed > judged {
				t.Errorf("%v kg, anchored %v m up: caught with %v kN, judged by %v", kg, up, followed, judged)
			}
			if kg == 600 && up == 8 && followed < 20 {
				t.Errorf("it is to fall free here: %v kN", followed)
			}
		}
	}
	j := hungLine(300)
	j.Rigs[0].Rope.Elongation = nil
	a := assess(&j, "p1")
	if got := rung(t, a, hold.PartHolder); got.Verdict != policy.NotKnown || got.LimitKn != nil {
		t.Errorf("on a rope whose stretch nobody knows: %+v", got)
	}
	if got := rung(t, a, hold.PartLine); got.Verdict != policy.NotKnown {
		t.Errorf("the rope itself: %+v", got)
	}
}
