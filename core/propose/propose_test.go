package propose

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/section"
	"elkstay/core/units"
)

// What is proposes, put in the order, can happen, keeps every limit where it
// says so, and leaves nothing but the stump.
func TestOrderTakesTheWholeTreeDown(t *testing.T) {
	t.Parallel()
	for _, by := range []string{ByUp, BySides} {
		j := jobtest.Thirty()
		p := Order(&j, by, "", assess.Options{Units: units.Metric})
		if p.Open > 0 || len(p.Picks) < 31 {
			t.Errorf("%s: %d picks, %d open, %s", by, len(p.Picks), p.Open, p.State)
		}
		for _, one := range p.Picks {
			if one.Reason == "" {
				t.Errorf("%s gives no reason", one.Title)
			}
			j.Picks = append(j.Picks, one.Pick)
		}
		a := assessed(&j, "")
		for i, f := range a.Picks {
			if len(f.Faults) > 0 || f.Verdict != p.Picks[i].Verdict || f.Verdict == policy.Over {
				t.Errorf("%s: %s says %s, the order %s: %v", by, f.Title, p.Picks[i].Verdict, f.Verdict, f.Faults)
			}
		}
		if a.Trees[0].Left.TopM > 0.5+stump+1e-9 {
			t.Errorf("%s: the stem stands to %v", by, a.Trees[0].Left.TopM)
		}
		for i, tip := range a.Trees[0].Left.TipsM {
			if tip > 0 {
				t.Errorf("%s: limb %d is left standing, %v m of it", by, i, tip)
			}
		}
		again := Order(&j, by, "", assess.Options{Units: units.Metric})
		if len(again.Picks) > 0 {
			t.Errorf("asked again it still proposes %d", len(again.Picks))
		}
	}
}

// The order of proposal is the one asked for.
func TestOrderKeepsToTheOrderAsked(t *testing.T) {
	t.Parallel()
	j := jobtest.Thirty()
	limb := func(p Proposed) *job.Limb { return j.Trees[0].Limb(p.Pick.Limb) }
	last := 0.0
	for _, p := range Order(&j, ByUp, "", assess.Options{Units: units.Metric}).Picks {
		if l := limb(p); l != nil {
			if l.AtM < last {
				t.Errorf("%s comes after a higher one", p.Title)
			}
			last = l.AtM
		}
	}
	turns, before := 0, -1
	for _, p := range Order(&j, BySides, "", assess.Options{Units: units.Metric}).Picks {
		if l := limb(p); l != nil {
			if side := int(math.Mod(l.AzimuthDeg+45, 360) / 90); side != before {
				turns, before = turns+1, side
			}
		}
	}
	if turns != 4 {
		t.Errorf("four sides are taken in %d turns", turns)
	}
}

// On a bare stem whose sections must all be lowered, the proposer takes no more pieces
// than package section's proven fewest on the same limits (with its own grid, the
// stem's foot left standing alike).
func TestOrderIsAsShortAsTheProvenFewest(t *testing.T) {
	j := jobtest.Stem()
	j.Picks = nil
	j.Limits.PieceKg, j.Limits.WoodFactor = jobtest.Of(260), jobtest.Of(1)
	j.Rigs[0].Catch.How = job.Locked
	j.Rigs[0].Rope.MarkedKn = jobtest.Of(40)
	j.Rigs[0].Block.MarkedKn, j.Rigs[0].Sling.MarkedKn, j.Rigs[0].Device.MarkedKn = jobtest.Of(90), jobtest.Of(120), jobtest.Of(90)
	// Package section knows no strengths, and a stem straight between its readings: only the markings count here, and it is read every half metre.
	j.Trees[0].Readings = j.Trees[0].Readings[:1]
	for at := 1.0; at < 18; at += 0.5 {
		thick := 0.6 - (at-6)/12*0.4
		if at < 6 {
			thick = 0.6 + (6-at)/5.5*0.2
		}
		j.Trees[0].Readings = append(j.Trees[0].Readings, job.Reading{AtM: at, Tape: job.Diameter, TapeM: thick})
	}
	crew := policy.Crew{Policy: policy.Policy{LeastFactor: jobtest.Of(1)}}
	p := Order(&j, ByUp, "", assess.Options{Units: units.Metric, Crew: crew})
	if len(p.Picks) == 0 {
		t.Fatalf("nothing proposed: %s %s", p.State, p.Ending)
	}
	// The last section ends where nothing further down keeps the limits on any grid.
	count := len(p.Picks) - 1
	lowest := math.Round(10**p.Picks[count-1].Pick.CutM) / 10
	request := section.Problem{FromM: 18, ToM: lowest}
	request.Stem.Wood = j.Trees[0].Wood
	request.Stem.Stem = j.Trees[0].Stem()
	r := &request.Rig
	r.TieAboveCutM, r.BlockBelowCutM, r.SlackM, r.Rope, r.BlockEfficiency = job.RigDefaults().TieM, job.RigDefaults().BlockBelowCutM, job.RigDefaults().SlackM, j.Rigs[0].Rope.Rope, 0.9
	r.DeviceAtM = job.RigDefaults().DeviceAtM
	request.Limits.LineKn, request.Limits.BlockKn, request.Limits.MassKg, request.Limits.ClearM = jobtest.Of(40), jobtest.Of(90), jobtest.Of(260), jobtest.Of(policy.LimitsOf(&job.Job{}, &policy.Policy{}).ClearM)
	want, _ := request.Solve(t.Context())
	if want.Blocked != nil || count > want.Count+1 || count < want.Count {
		t.Errorf("proposed %d to %v m, proven fewest %d (%v)", count, lowest, want.Count, want.Blocked)
	}
}

func TestOrderWithoutARopeOrATree(t *testing.T) {
	j := job.NewJob("empty")
	if p := Order(&j, ByUp, "", assess.Options{Units: units.Metric}); len(p.Picks) > 0 || p.State != "Choose the species." {
		t.Errorf("an empty job: %+v", p)
	}
	j = jobtest.Thirty()
	j.Rigs[0].Rope = nil
	p := Order(&j, ByUp, "", assess.Options{Units: units.Metric})
	for _, one := range p.Picks {
		if one.Pick.Rig != "" {
			t.Errorf("%s is hung on a rig without a rope", one.Title)
		}
	}
	if p.Open == 0 {
		t.Error("without a rope everything keeps its limits, over the barn too")
	}
}

// fortyPicks is the big tree with its order filled.
func fortyPicks(tb testing.TB) job.Job {
	j := jobtest.Thirty()
	for _, p := range Order(&j, ByUp, "", assess.Options{Units: units.Metric}).Picks {
		j.Picks = append(j.Picks, p.Pick)
	}
	for k := 0; len(j.Picks) < 40; k++ {
		j.Picks = append(j.Picks[:k+1], j.Picks[k:]...)
		p := &j.Picks[k]
		p.ID, p.CutM = fmt.Sprintf("x%d", k), jobtest.Of(1.5)
		k++
	}
	if len(j.Picks) < 40 {
		tb.Fatalf("%d picks", len(j.Picks))
	}
	return j
}

func BenchmarkAssessFortyPicks(b *testing.B) {
	j := fortyPicks(b)
	for b.Loop() {
		assess.Assess(&j, assess.Options{Units: units.Metric, Pick: j.Picks[20].ID})
	}
}

func BenchmarkOrderThirtyLimbs(b *testing.B) {
	j := jobtest.Thirty()
	for b.Loop() {
		Order(&j, ByUp, "", assess.Options{Units: units.Metric})
	}
}

func BenchmarkHowLong(b *testing.B) {
	j := jobtest.Stem()
	for b.Loop() {
		_, _ = Ask(&j, WhatIf{Pick: "p1", Ask: AskLength, Hold: HoldLimits}, assess.Options{Units: units.Metric})
	}
}

// A proposal and a what-if are pure functions of the document too.
func TestProposingChangesNothing(t *testing.T) {
	j := jobtest.Whole()
	before, _ := json.Marshal(j)
	Order(&j, ByUp, "", assess.Options{Units: units.Metric})
	if _, err := Ask(&j, WhatIf{Pick: "p4", Ask: AskRope, Hold: HoldLimits}, assess.Options{Units: units.Metric}); err != nil {
		t.Fatal(err)
	}
	if after, _ := json.Marshal(j); !bytes.Equal(before, after) {
		t.Errorf("the document has changed: %s", after)
	}
}

// Whatever the job, the board says of every pick of an order what the order says of it, none of them has an id that another has,
// and as many are open as the board finds over.
func TestAnOrderSaysWhatTheBoardSays(t *testing.T) {
	t.Parallel()
	for what, change := range map[string]func(*job.Job){
		"as it is":     func(*job.Job) {},
		"weak gear":    func(j *job.Job) { j.Rigs[0].Block.MarkedKn, j.Rigs[0].Sling.MarkedKn = jobtest.Of(2), jobtest.Of(2) },
		"weak rope":    func(j *job.Job) { j.Rigs[0].Rope.MarkedKn = jobtest.Of(0.8) },
		"unknown gear": func(j *job.Job) { j.Rigs[0].Block.MarkedKn = nil },
		"leaning":      func(j *job.Job) { j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(9), jobtest.Of(280) },
		"no drop zone": func(j *job.Job) { j.Site.Zones = nil },
		"a cracked leg": func(j *job.Job) {
			j.Trees[0].Defects = []job.Defect{{ID: "k", Kind: job.DefectCrack, AtM: 9, ToM: jobtest.Of(9.6)}}
		},
		"small pieces": func(j *job.Job) { j.Limits.PieceKg = jobtest.Of(45) },
		"no rope":      func(j *job.Job) { j.Rigs[0].Rope = nil },
	} {
		j := jobtest.Whole()
		j.Picks = j.Picks[:1]
		change(&j)
		orders := []string{ByUp}
		if what == "as it is" || what == "leaning" {
			orders = append(orders, BySides)
		}
		for _, by := range orders {
			p := Order(&j, by, "", assess.Options{Units: units.Metric})
			taken, ids := j, map[string]bool{"p1": true}
			taken.Picks = append([]job.Pick{}, j.Picks...)
			for _, one := range p.Picks {
				if ids[one.Pick.ID] {
					t.Errorf("%s: %s stands twice", what, one.Pick.ID)
				}
				ids[one.Pick.ID] = true
				taken.Picks = append(taken.Picks, one.Pick)
			}
			over := 0
			for i, f := range assessed(&taken, "").Picks[1:] {
				if f.Verdict != p.Picks[i].Verdict && (f.Verdict != policy.NotHeld || p.Picks[i].Verdict != policy.Over) {
					t.Errorf("%s, %s: the order says %s, the board %s (%s)", what, f.Title, p.Picks[i].Verdict, f.Verdict, f.Worst)
				}
				if p.Picks[i].Verdict == policy.Over {
					over++
				}
			}
			if over != p.Open || len(p.Picks) == 0 {
				t.Errorf("%s: %d are over, %d said to be open; %s", what, over, p.Open, p.State)
			}
		}
	}
}
