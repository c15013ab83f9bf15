package propose

import (
	"errors"
	"math"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/hold"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/units"
)

func ask(t *testing.T, j *job.Job, w WhatIf) Answer {
	t.Helper()
	a, err := Ask(j, w, assess.Options{Units: units.Metric})
	if err != nil {
		t.Fatal(err)
	}
	return a
}

// The longest piece keeps every limit, and one a little longer does not.
func TestHowLongMayItBe(t *testing.T) {
	for _, c := range []struct {
		name, governs string
		bend          func(*job.Job)
	}{
		{"by the line", "the limit of the", func(j *job.Job) {
			j.Rigs[0].Catch.How, j.Rigs[0].Rope.MarkedKn = job.Locked, jobtest.Of(20)
			j.Rigs[0].Block.MarkedKn, j.Rigs[0].Sling.MarkedKn, j.Rigs[0].Device.BreakingKn = nil, nil, nil
		}},
		{"by the block", "block", func(j *job.Job) {
			j.Rigs[0].Catch.How, j.Rigs[0].Rope.MarkedKn, j.Rigs[0].Sling.MarkedKn, j.Rigs[0].Device.MarkedKn = job.Locked, jobtest.Of(60), jobtest.Of(90), jobtest.Of(60)
		}},
		{"by the weight", "the heaviest piece", func(j *job.Job) { j.Limits.PieceKg = jobtest.Of(150) }},
		{"by the run", "the longest run", func(j *job.Job) { j.Limits.RunM = jobtest.Of(1.2) }},
		{"by the room", "room above", func(j *job.Job) { j.Rigs[0].Catch.HandKn, j.Limits.ClearM = jobtest.Of(0.24), jobtest.Of(9) }},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := jobtest.Stem()
			c.bend(&j)
			l := ask(t, &j, WhatIf{Pick: "p1", Ask: AskLength, Hold: HoldLimits})
			if !l.Found || !strings.Contains(l.Reason, c.governs) && !strings.Contains(l.Reason, "the tie") {
				t.Fatalf("got %+v, want %s", l, c.governs)
			}
			keeps := func(at float64) bool {
				j.Picks[0].CutM = jobtest.Of(at)
				a := assessed(&j, "p1")
				return len(a.Picks[0].Faults) == 0 && a.Verdict != policy.Over
			}
			if !keeps(*l.CutM) {
				t.Errorf("the cut at %v m does not keep every limit", *l.CutM)
			}
			if keeps(*l.CutM - 0.0011) {
				t.Errorf("a cut just below %v m keeps every limit too", *l.CutM)
			}
		})
	}
	j := jobtest.Stem()
	j.Rigs[0].Rope.MarkedKn = jobtest.Of(0.1)
	if l := ask(t, &j, WhatIf{Pick: "p1", Ask: AskLength, Hold: HoldLimits}); l.Found || !strings.Contains(l.Reason, "No piece") {
		t.Errorf("with a line of 0.1 kN: %+v", l)
	}
}

// Each answer, put into the job, comes to what was held.
func TestWhatIfAnswersHold(t *testing.T) {
	apply := func(j job.Job, a Answer) assess.Assessment {
		if a.CutM != nil {
			j.Picks = []job.Pick{j.Picks[0]}
			j.Picks[0].CutM = a.CutM
		}
		if a.HoldKn != nil {
			j.Picks = []job.Pick{j.Picks[0]}
			j.Picks[0].Catch = &job.Catch{How: job.ByHold, HoldKn: a.HoldKn}
		}
		return assessed(&j, "p1")
	}
	base := jobtest.Stem()
	base.Rigs[0].Catch.How = job.Locked
	run := ask(t, &base, WhatIf{"p1", AskRun, HoldBlock, jobtest.Of(16)})
	jobtest.Near(t, "block held by run", *rung(t, apply(base, run), hold.PartBlock).PeakKn, 16)
	wraps := ask(t, &base, WhatIf{"p1", AskWraps, HoldLine, jobtest.Of(7)})
	// By halves: as many as keep the line to it with a quarter more friction, and half a turn more does not.
	jobtest.Near(t, "the wraps give the hold", 0.2*math.Exp(2*math.Pi*0.2**wraps.Wraps), *wraps.HoldKn)
	turned := func(turns float64) float64 {
		j := base
		j.Rigs = []job.Rig{base.Rigs[0]}
		j.Rigs[0].Catch.How, j.Rigs[0].Device.Wraps = job.ByWraps, &turns
		return *rung(t, assessed(&j, "p1"), hold.PartLine).PeakKn
	}
	if kept, more := turned(*wraps.Wraps), turned(*wraps.Wraps+0.5); *wraps.Wraps*2 != math.Trunc(*wraps.Wraps*2) || kept > 7 || more <= 7 {
		t.Errorf("%v wraps: %v kN, half a turn more %v", *wraps.Wraps, kept, more)
	}
	called := ask(t, &base, WhatIf{"p1", AskWraps, HoldRun, jobtest.Of(1.5)})
	// With half a turn fewer it would run further than that; the peak that is told is that of the turns with a quarter more friction.
	if a := apply(base, called); *a.Detail.Catch.RunM > 1.5 || !(math.Abs(*a.Detail.Catch.RunM-*called.RunM) <= 1e-6) {
		t.Errorf("wraps for a run of 1.5 m run %v, told %v", *a.Detail.Catch.RunM, *called.RunM)
	}
	jobtest.Near(t, "the peak of those turns", *called.LineKn, turned(*called.Wraps))
	long := ask(t, &base, WhatIf{"p1", AskLength, HoldLine, jobtest.Of(12)})
	if a := apply(base, long); *rung(t, a, hold.PartLine).PeakKn > 12 || *rung(t, a, hold.PartLine).PeakKn < 11.95 {
		t.Errorf("the longest piece for 12 kN comes to %v", *rung(t, a, hold.PartLine).PeakKn)
	}
	peak := ask(t, &base, WhatIf{"p1", AskPeak, HoldLength, jobtest.Of(2)})
	base.Picks[0].CutM = jobtest.Of(16)
	jobtest.Near(t, "peak of 2 m", *peak.LineKn, *rung(t, assessed(&base, "p1"), hold.PartLine).PeakKn)
	if a := ask(t, &base, WhatIf{"p1", AskRun, HoldLine, jobtest.Of(0.5)}); a.Found || !strings.Contains(a.Reason, "No run helps") {
		t.Errorf("half a kilonewton: %+v", a)
	}
	ropes := ask(t, &base, WhatIf{"p1", AskRope, HoldLimits, nil})
	if len(ropes.Ropes) < 3 || ropes.Ropes[0].Rope.Name != "test rope" {
		t.Fatalf("got %+v", ropes)
	}
	for _, r := range ropes.Ropes {
		j := base
		j.Rigs = []job.Rig{base.Rigs[0]}
		rope := r.Rope
		j.Rigs[0].Rope = &rope
		jobtest.Near(t, r.Rope.Name, r.PeakKn, *rung(t, assessed(&j, "p1"), hold.PartLine).PeakKn)
	}
	// A rope thicker than the one on the rig is said to be: nobody knows what the block takes.
	for now, said := range map[float64]bool{0.009: true, 0.03: false} {
		j := base
		j.Rigs = []job.Rig{base.Rigs[0]}
		j.Picks = []job.Pick{base.Picks[0]}
		j.Picks[0].CutM = jobtest.Of(17.3)
		rope := *base.Rigs[0].Rope
		rope.DiameterM, rope.BreakingKn, rope.MarkedKn = now, rope.BreakingKn/3, nil
		j.Rigs[0].Rope = &rope
		if a := ask(t, &j, WhatIf{"p1", AskRope, HoldLimits, nil}); !a.Found || strings.Contains(a.Reason, "It is thicker than test rope: see that block") != said {
			t.Errorf("from %v m: %q", now, a.Reason)
		}
	}
}

func TestWhatIfRefusesNonsense(t *testing.T) {
	j := jobtest.Stem()
	for _, w := range []WhatIf{
		{"nobody", AskRun, HoldLimits, nil}, {"p1", AskRun, HoldLine, nil}, {"p1", AskRun, HoldLimits, jobtest.Of(3)},
		{"p1", AskRun, HoldRun, jobtest.Of(3)}, {"p1", AskPeak, HoldLine, jobtest.Of(3)},
	} {
		if _, err := Ask(&j, w, assess.Options{Units: units.Metric}); err == nil {
			t.Errorf("%+v is answered", w)
		} else if faults := (intake.Faults{}); !errors.As(err, &faults) || faults[0].Allowed == "" {
			t.Errorf("%+v: %v", w, err)
		}
	}
}

// What stops a piece is said in words a crew uses, for every kind of stop.
func TestStopsAreSaidInWords(t *testing.T) {
	for want, bend := range map[string]func(*job.Job){
		"the heaviest piece you take": func(j *job.Job) { j.Limits.PieceKg = jobtest.Of(20) },
		"the limit of the line":       func(j *job.Job) { j.Rigs[0].Rope.MarkedKn, j.Rigs[0].Tie.MarkedKn = jobtest.Of(1), jobtest.Of(50) },
		"the limit of the sling":      func(j *job.Job) { j.Rigs[0].Sling.MarkedKn = jobtest.Of(2) },
		"the limit of the spar": func(j *job.Job) {
			r := &j.Rigs[0]
			r.Catch.How, r.Rope.MarkedKn, r.Block.MarkedKn, r.Sling.MarkedKn, r.Device.MarkedKn = job.Locked, jobtest.Of(300), jobtest.Of(600), jobtest.Of(900), jobtest.Of(300)
			j.Limits.WoodFactor = jobtest.Of(20)
			j.Trees[0].TopDiameterM = jobtest.Of(0.08)
		},
		"the longest run":                  func(j *job.Job) { j.Limits.RunM = jobtest.Of(0.01) },
		"the hold, which does not stop it": func(j *job.Job) { j.Rigs[0].Catch = job.Catch{How: job.ByHold, HoldKn: jobtest.Of(0.01)} },
		"the room above the ground":        func(j *job.Job) { j.Limits.ClearM = jobtest.Of(17.5) },
		"how close it comes to shed": func(j *job.Job) {
			j.Site.Targets = []job.Target{{ID: "t", Name: "shed", Kind: "building", Box: &job.Box{Min: job.Spot{X: -1, Y: 1.2}, Max: job.Spot{X: 1, Y: 4}}, ToM: 17}}
			j.Limits.ClearM = jobtest.Of(2)
		},
	} {
		j := jobtest.Stem()
		bend(&j)
		l := ask(t, &j, WhatIf{Pick: "p1", Ask: AskLength, Hold: HoldLimits})
		if !strings.Contains(l.Reason, want) {
			t.Errorf("want %q, got %+v", want, l.Reason)
		}
	}
}

// A limit of the line or the block is asked of no piece that falls onto none: cut free, or carried between two points.
func TestWhatIsAskedOfNoDrop(t *testing.T) {
	for what, change := range map[string]func(*job.Job){
		"free": func(*job.Job) {},
		"carried": func(j *job.Job) {
			j.Site.Anchors = []job.Anchor{{ID: "o", Name: "oak", Kind: job.AnchorTree, At: job.Spot{X: 12}, HeightM: jobtest.Of(16), DiameterM: jobtest.Of(0.7)}}
			j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 15}
			j.Rigs[0].Second = &job.SecondLine{Place: job.Place{On: job.OnAnchor, Anchor: "o", AtM: 14}}
			j.Picks[0].Way, j.Picks[0].Rig, j.Picks[0].CarryM = job.WayTwoPoints, "r1", jobtest.Of(9)
		},
	} {
		j := jobtest.Whole()
		change(&j)
		for _, hold := range []string{HoldLine, HoldBlock} {
			if a := ask(t, &j, WhatIf{Pick: "p1", Ask: AskLength, Hold: hold, Value: jobtest.Of(8)}); a.Found || a.Reason != "This cannot be worked out for this way down." {
				t.Errorf("%s, by the %s: %v %q", what, hold, a.Found, a.Reason)
			}
		}
	}
}

// A hold that keeps the line to little lets the rope run further than there is room: that is no answer.
func TestNoRunThroughTheGround(t *testing.T) {
	j := jobtest.Stem()
	weight := assessed(&j, "p1").Detail.Piece.MassKg.High * 9.80665 / 1000
	// As given a hundredth more than the weight: it runs a hundred times its fall.
	if a := ask(t, &j, WhatIf{"p1", AskRun, HoldLine, jobtest.Of(1.01 * 1.25 * weight)}); a.Found || !strings.Contains(a.Reason, "there is room for") {
		t.Errorf("%+v", a)
	}
}
