package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// A level limb held straight from above, its line made tight before the cut, by the contract's own
// sum for a straight rope: T = mg + √((T_p − mg)² + 2k·mg·h).
func TestALineMadeTightBeforeTheCut(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	j.Rigs[0].Rope.Elongation = []gear.Stretch{{LoadPct: 100, StrainPct: 10}}
	j.Rigs[0].Rope.DynamicFactor = 0
	j.Rigs[0].Block.Efficiency, j.Rigs[0].SlackM = jobtest.Of(1), jobtest.Of(0.3)
	p := &j.Picks[0]
	p.Way, p.Ends, p.TieM = job.WayFromAbove, nil, jobtest.Of(1)
	loose := assess(&j, "p1")
	if len(loose.Picks[0].Faults) > 0 {
		t.Fatal(loose.Picks[0].Faults)
	}
	d := loose.Detail
	w := d.Piece.MassKg.High * 9.80665 / 1000
	h := math.Abs(d.Piece.CogM - 1) // it turns to hang by its tie
	lead := d.Catch.LeadM
	for _, tight := range []float64{0.2, 0.5 * w, w, 1.5 * w, 3 * w} {
		p.TightKn = &tight
		a := assess(&j, "p1")
		// Line of 7 m and its lead: k = MBS over a tenth of their length.
		k := j.Rigs[0].Rope.BreakingKn / 0.1 / (7 + lead)
		want := w + math.Sqrt((tight-w)*(tight-w)+2*k*w*h)
		if got := *a.Picks[0].PeakKn; !(math.Abs(got-want) <= 2e-3*want) {
			t.Errorf("made tight with %v kN: %v, by hand %v", tight, got, want)
		}
		// It comes lower than it hung by its tie by what the rope stretches beyond.
		lower := 0.3 + (d.Catch.LinePeakKn-(want-tight))/k
		if got := *a.Detail.Room.LowestM - *d.Room.LowestM; got > lower+0.01 || got < lower-0.08 {
			t.Errorf("made tight with %v kN it stays %v m higher, by hand at most %v", tight, got, lower)
		}
		if got := a.Detail.Settings.SlackM; got != 0 {
			t.Errorf("a tight line has %v m of slack", got)
		}
		said := strings.Join(a.Detail.Cautions, " ")
		if tight > w && !strings.Contains(said, "lifts it when the cut lets go") {
			t.Errorf("%v kN: %s", tight, said)
		}
	}
	if p.TightKn = jobtest.Of(90); !strings.Contains(endFault(t, &j), "breaks at 80 kN") {
		t.Errorf("tighter than the rope: %q", endFault(t, &j))
	}
	// What swings off is caught no softer.
	j.Site.Anchors[0].At.X = 4
	p.TightKn = nil
	j.Rigs[0].SlackM = jobtest.Of(0)
	was := *assess(&j, "p1").Picks[0].PeakKn
	p.TightKn = jobtest.Of(1)
	a := assess(&j, "p1")
	if got := *a.Picks[0].PeakKn; got < was-1e-9 {
		t.Errorf("it swings: %v kN made tight, %v loose", got, was)
	}
	if !strings.Contains(strings.Join(a.Detail.Cautions, " "), "no softer") {
		t.Errorf("%v", a.Detail.Cautions)
	}
}
