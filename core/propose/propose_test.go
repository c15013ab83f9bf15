package propose

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/intake"
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
	// Package section knows no strengths: only the markings count here.
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
	jobtest.Near(t, "line held by wraps", *rung(t, apply(base, wraps), hold.PartLine).PeakKn, 7)
	jobtest.Near(t, "the wraps give the hold", 0.2*math.Exp(2*math.Pi*0.2**wraps.Wraps), *wraps.HoldKn)
	called := ask(t, &base, WhatIf{"p1", AskWraps, HoldRun, jobtest.Of(1.5)})
	if a := apply(base, called); !(math.Abs(*a.Detail.Catch.RunM-1.5) <= 1e-6) {
		t.Errorf("wraps for a run of 1.5 m run %v", *a.Detail.Catch.RunM)
	}
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

// A limb over a roof, that the one line the fill holds with brings onto it, is held at both ends, turned up beside the roof by
// the order of its two hands; with one rig it is not.
func TestFillHoldsAtBothEnds(t *testing.T) {
	j := betweenMasts()
	first := func() Proposed { return Order(&j, ByUp, "", assess.Options{Units: units.Metric}).Picks[0] }
	one := first()
	if one.Pick.Way != job.WayBothEnds || one.Pick.Ends == nil || len(one.Pick.Ends.Program) == 0 || !strings.HasPrefix(one.Reason, "Held at both ends: on one line it is stopped by") {
		t.Fatalf("%+v", one)
	}
	j.Picks = []job.Pick{one.Pick}
	if f := assessed(&j, "").Picks[0]; f.Verdict != one.Verdict || f.Verdict == policy.Over || f.Verdict == policy.NotKnown {
		t.Errorf("on the board it is %s, %s", f.Verdict, f.Worst)
	}
	j.Picks = nil
	// Not between masts that are too weak for it, nor between such as nobody knows of.
	for what, marked := range map[string]*float64{"weak": jobtest.Of(0.4), "not known": nil} {
		j.Site.Anchors[0].MarkedKn, j.Site.Anchors[1].MarkedKn = marked, marked
		if one = first(); one.Pick.Way == job.WayBothEnds {
			t.Errorf("on masts that are %s: %+v", what, one)
		}
	}
	j.Site.Anchors[0].MarkedKn, j.Site.Anchors[1].MarkedKn = jobtest.Of(40), jobtest.Of(40)
	j.Rigs = j.Rigs[:1]
	if one = first(); one.Pick.Way == job.WayBothEnds {
		t.Errorf("with one rig: %+v", one)
	}
}

// betweenMasts is a limb over a boathouse, between two masts of a rig each.
func betweenMasts() job.Job {
	j := jobtest.Stem()
	j.Trees[0].Readings[0].CavityM = 0
	j.Trees[0].Limbs = []job.Limb{{ID: "a", Name: "roof limb", AtM: 9, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.2, LengthM: 6, Brush: job.BrushBare}}
	j.Rigs = append(j.Rigs, j.Rigs[0])
	j.Rigs[1].ID, j.Rigs[1].Name = "r2", "tip rig"
	for i, at := range []float64{5, 1} {
		id := []string{"m1", "m2"}[i]
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: id, Name: "mast " + id, Kind: job.AnchorGround, At: job.Spot{X: at}, HeightM: jobtest.Of(16), Rating: gear.Rating{MarkedKn: jobtest.Of(40)}})
		j.Rigs[i].Block.Place = &job.Place{On: job.OnAnchor, Anchor: id, AtM: 16}
		j.Rigs[i].Catch.How = job.Locked
	}
	j.Site.Targets = []job.Target{{ID: "t", Name: "boathouse", Kind: "building", Box: &job.Box{Min: job.Spot{X: 2.5, Y: -2}, Max: job.Spot{X: 9, Y: 2}}, ToM: 3}}
	j.Picks = nil
	return j
}

// What a hurried look at a limb on two lines says stops it stops it looked at in full, and what that says stops it as its lines
// catch it stops it whatever its program.
func TestAHurriedLookAtTwoLines(t *testing.T) {
	t.Parallel()
	stopped, early, free := 0, 0, 0
	for _, c := range []struct{ mast, roof, near, marked float64 }{
		{16, 3, 2.5, 40}, {16, 8.9, 2.5, 40}, {16, 3, 2.5, 1.6}, {11, 7, 1, 40},
	} {
		j := betweenMasts()
		for i := range j.Site.Anchors {
			j.Site.Anchors[i].MarkedKn, j.Site.Anchors[i].HeightM, j.Rigs[i].Block.Place.AtM = &c.marked, &c.mast, c.mast
		}
		j.Site.Targets[0].Box.Min.X, j.Site.Targets[0].ToM = c.near, c.roof
		for _, tight := range []float64{0, 0.5} {
			atCatch := false
			for _, first := range []string{"", job.EndTip, job.EndButt} {
				p := job.Pick{ID: "p", What: job.WhatLimb, Limb: "a", Way: job.WayBothEnds, CutM: jobtest.Of(0), Rig: j.Rigs[0].ID,
					Ends: &job.Ends{Butt: job.End{Rig: j.Rigs[0].ID, SlackM: jobtest.Of(0), TightKn: &tight}, Tip: job.End{Rig: "r2", SlackM: jobtest.Of(0), TightKn: &tight}}}
				if first != "" {
					p.Ends.Program = []job.EndStep{{Line: first, ByM: 9}, {Line: job.EndBoth, ByM: 40}}
				}
				j.Picks = []job.Pick{p}
				forest, _ := assess.Prepare(&j, &assess.Options{Units: units.Metric})
				v := forest.Of(&p)
				look := func(hurried bool) *assess.Outcome {
					one := p
					v.Hurried = hurried
					return v.WorkWith(&one, v.RigOf(&p), 1, v.Now(forest.Before(0)))
				}
				full, quick := look(false), look(true)
				if (v.Stops(full) == "") != (v.Stops(quick) == "") {
					t.Errorf("%+v, %v kN, %q first: in full stopped by %q, in a hurry by %q", c, tight, first, v.Stops(full), v.Stops(quick))
				}
				if atCatch && v.Stops(full) == "" {
					t.Errorf("%+v, %v kN: stopped early, yet not with %q first", c, tight, first)
				}
				switch {
				case quick.StoppedEarly():
					atCatch = true
					early++
				case v.Stops(quick) != "":
					stopped++
				default:
					free++
				}
			}
		}
	}
	if early < 6 || stopped < 4 || free < 3 {
		t.Errorf("%d stopped early, %d later, %d not", early, stopped, free)
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

// The fill fells what can be felled and pieces the rest; on the board its picks are what it says.
func TestFillFells(t *testing.T) {
	j := rowed()
	p := Order(&j, ByFells, "", assess.Options{Units: units.Metric})
	if len(p.Picks) != 2 || p.Picks[0].Pick.Way != job.WayFelled || p.Picks[0].Title == "" || p.Picks[0].MassKg == "" || !strings.HasPrefix(p.Picks[0].Reason, "Whole, to ") {
		t.Fatalf("%+v", p)
	}
	if p.Ending != "Middle pole, then east pole." || p.Picks[1].Pick.Tree != "3" {
		t.Errorf("%q: %+v", p.Ending, p.Picks)
	}
	for _, one := range p.Picks {
		j.Picks = append(j.Picks, one.Pick)
	}
	for i, f := range assessed(&j, "").Picks {
		if i > 0 && (f.Verdict != p.Picks[i-1].Verdict || len(f.Faults) > 0) {
			t.Errorf("%s: the fill says %s, the board %s %v", f.Title, p.Picks[i-1].Verdict, f.Verdict, f.Faults)
		}
	}
	if again := Order(&j, ByFells, "", assess.Options{Units: units.Metric}); len(again.Picks) != 0 {
		t.Errorf("asked again: %+v", again)
	}
	// Where no bearing is open all comes down in pieces.
	j.Picks = nil
	j.Site.Sectors = []job.Sector{{ID: "s", Name: "all round", FromDeg: 0, ToDeg: 360}}
	for _, one := range Order(&j, ByFells, "", assess.Options{Units: units.Metric}).Picks {
		if one.Pick.Way == job.WayFelled {
			t.Errorf("into a sector: %+v", one)
		}
	}
}

// What hangs or is dead comes off first where it can, the hung one before the dead, the higher dead one
// before the lower; what cannot come off whole past what stands keeps its place.
func TestFillOffersHazardsFirst(t *testing.T) {
	t.Parallel()
	j := jobtest.Thirty()
	limbs := j.Trees[0].Limbs
	at := func(n int) string { return limbs[n].ID }
	var roots []int
	for i := range limbs {
		if limbs[i].Parent == "" {
			roots = append(roots, i)
		}
	}
	low, mid, high := roots[len(roots)/4], roots[len(roots)/2], roots[3*len(roots)/4]
	j.Trees[0].Defects = []job.Defect{
		{ID: "d1", Kind: job.DefectDead, Limb: at(low), AtM: 0.5}, {ID: "d2", Kind: job.DefectDead, Limb: at(high), AtM: 0.5},
		{ID: "h", Kind: job.DefectHung, Limb: at(mid), AtM: 1, MassKg: jobtest.Of(15)}, {ID: "c", Kind: job.DefectCrack, Limb: at(roots[0]), AtM: 0.1},
	}
	for _, by := range []string{ByUp, BySides} {
		p := Order(&j, by, "", assess.Options{Units: units.Metric})
		var first []string
		for _, one := range p.Picks[:3] {
			first = append(first, one.Pick.Limb)
		}
		if want := []string{at(mid), at(high), at(low)}; !slices.Equal(first, want) {
			t.Errorf("%s: %v, want %v", by, first, want)
		}
		if !strings.HasPrefix(p.Picks[0].Reason, "A branch hangs in it: first") || !strings.HasPrefix(p.Picks[1].Reason, "Dead wood: first") || strings.Contains(p.Picks[3].Reason, "first, before") {
			t.Errorf("%s: %s | %s | %s", by, p.Picks[0].Reason, p.Picks[1].Reason, p.Picks[3].Reason)
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
