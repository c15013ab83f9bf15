package plan

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/drop"
	"elkstay/core/intake"
	"elkstay/core/section"
	"elkstay/core/units"
)

func readInto(text string, into any) error { return json.Unmarshal([]byte(text), into) }

// big is an invented tree of 30 limbs on a stem of 25 m, with its rigs and a zone.
func big() Job {
	j := job()
	j.Tree.Readings = []Reading{{AtM: 0.5, Tape: Diameter, TapeM: 0.85}, {AtM: 8, Tape: Diameter, TapeM: 0.62}}
	j.Tree.HeightM, j.Tree.TopDiameterM = of(25), of(0.16)
	for i := range 30 {
		at := 4.5 + 0.66*float64(i)
		j.Tree.Limbs = append(j.Tree.Limbs, Limb{
			ID: fmt.Sprintf("l%d", i), AtM: at, AzimuthDeg: math.Mod(137.5*float64(i), 360), AngleDeg: 70 - at, DiameterM: 0.15 - 0.003*float64(i), LengthM: 5 - 0.09*float64(i), DroopDeg: 8,
		})
	}
	j.Site.Zones = []Zone{{ID: "z", Name: "field", Outline: []Spot{{-1, -7}, {16, -7}, {16, 7}, {-1, 7}}}}
	j.Site.Targets = []Target{{ID: "t", Name: "barn", Kind: "building", Box: &Box{Spot{-14, -6}, Spot{-4, 6}}, ToM: 5}}
	j.Limits.PieceKg, j.Limits.RunM = of(300), of(4)
	j.Picks = []Pick{}
	return j
}

// What the filler proposes, put in the order, can happen, keeps every limit where it
// says so, and leaves nothing but the stump.
func TestFillTakesTheWholeTreeDown(t *testing.T) {
	for _, by := range []string{ByUp, BySides} {
		j := big()
		p := Fill(&j, by, "", Options{Units: units.Metric})
		if p.Open > 0 || len(p.Picks) < 31 {
			t.Errorf("%s: %d picks, %d open, %s", by, len(p.Picks), p.Open, p.State)
		}
		for _, one := range p.Picks {
			if one.Reason == "" {
				t.Errorf("%s gives no reason", one.Title)
			}
			j.Picks = append(j.Picks, one.Pick)
		}
		a := assess(&j, "")
		for i, f := range a.Picks {
			if len(f.Faults) > 0 || f.Verdict != p.Picks[i].Verdict || f.Verdict == Over {
				t.Errorf("%s: %s says %s, the order %s: %v", by, f.Title, p.Picks[i].Verdict, f.Verdict, f.Faults)
			}
		}
		if a.Left.TopM > 0.5+stump+1e-9 {
			t.Errorf("%s: the stem stands to %v", by, a.Left.TopM)
		}
		for i, tip := range a.Left.TipsM {
			if tip > 0 {
				t.Errorf("%s: limb %d is left standing, %v m of it", by, i, tip)
			}
		}
		again := Fill(&j, by, "", Options{Units: units.Metric})
		if len(again.Picks) > 0 {
			t.Errorf("asked again it still proposes %d", len(again.Picks))
		}
	}
}

// The order of proposal is the one asked for.
func TestFillKeepsToTheOrderAsked(t *testing.T) {
	j := big()
	limb := func(p Proposed) *Limb { return j.Tree.limb(p.Pick.Limb) }
	last := 0.0
	for _, p := range Fill(&j, ByUp, "", Options{Units: units.Metric}).Picks {
		if l := limb(p); l != nil {
			if l.AtM < last {
				t.Errorf("%s comes after a higher one", p.Title)
			}
			last = l.AtM
		}
	}
	turns, before := 0, -1
	for _, p := range Fill(&j, BySides, "", Options{Units: units.Metric}).Picks {
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

// On a bare stem whose sections must all be lowered, the filler takes no more pieces
// than package section's proven fewest on the same limits (with its own grid, the
// stem's foot left standing alike).
func TestFillIsAsShortAsTheProvenFewest(t *testing.T) {
	j := job()
	j.Picks = nil
	j.Limits.PieceKg, j.Limits.WoodFactor = of(260), of(1)
	j.Rigs[0].Catch.How = Locked
	j.Rigs[0].Rope.MarkedKn = of(40)
	j.Rigs[0].Block.MarkedKn, j.Rigs[0].Sling.MarkedKn, j.Rigs[0].Device.MarkedKn = of(90), of(120), of(90)
	p := Fill(&j, ByUp, "", Options{Units: units.Metric})
	if len(p.Picks) == 0 {
		t.Fatalf("nothing proposed: %s %s", p.State, p.Ending)
	}
	// The last section ends where nothing further down keeps the limits on any grid.
	count := len(p.Picks) - 1
	lowest := math.Round(10**p.Picks[count-1].Pick.CutM) / 10
	request := section.Problem{FromM: 18, ToM: lowest}
	request.Stem.Wood = j.Tree.Wood
	request.Stem.Stem = j.Tree.Stem()
	r := &request.Rig
	r.TieAboveCutM, r.BlockBelowCutM, r.SlackM, r.Rope, r.BlockEfficiency = defaultTie, defaultBlock, defaultSlack, j.Rigs[0].Rope.Rope, 0.9
	r.DeviceAtM = defaultDevice
	request.Limits.LineKn, request.Limits.BlockKn, request.Limits.MassKg, request.Limits.ClearM = of(40), of(90), of(260), of(defaultClear)
	want := request.Solve()
	if want.Blocked != nil || count > want.Count+1 || count < want.Count {
		t.Errorf("proposed %d to %v m, proven fewest %d (%v)", count, lowest, want.Count, want.Blocked)
	}
}

func TestFillWithoutARopeOrATree(t *testing.T) {
	j := NewJob("empty")
	if p := Fill(&j, ByUp, "", Options{Units: units.Metric}); len(p.Picks) > 0 || p.State != "Choose the species." {
		t.Errorf("an empty job: %+v", p)
	}
	j = big()
	j.Rigs[0].Rope = nil
	p := Fill(&j, ByUp, "", Options{Units: units.Metric})
	for _, one := range p.Picks {
		if one.Pick.Rig != "" {
			t.Errorf("%s is hung on a rig without a rope", one.Title)
		}
	}
	if p.Open == 0 {
		t.Error("without a rope everything keeps its limits, over the barn too")
	}
}

func ask(t *testing.T, j *Job, w WhatIf) Answer {
	t.Helper()
	a, err := Ask(j, w, Options{Units: units.Metric})
	if err != nil {
		t.Fatal(err)
	}
	return a
}

// The longest piece keeps every limit, and one a little longer does not.
func TestHowLongMayItBe(t *testing.T) {
	for _, c := range []struct {
		name, governs string
		bend          func(*Job)
	}{
		{"by the line", "the limit of the", func(j *Job) {
			j.Rigs[0].Catch.How, j.Rigs[0].Rope.MarkedKn = Locked, of(20)
			j.Rigs[0].Block.MarkedKn, j.Rigs[0].Sling.MarkedKn, j.Rigs[0].Device.BreakingKn = nil, nil, nil
		}},
		{"by the block", "block", func(j *Job) {
			j.Rigs[0].Catch.How, j.Rigs[0].Rope.MarkedKn, j.Rigs[0].Sling.MarkedKn, j.Rigs[0].Device.MarkedKn = Locked, of(60), of(90), of(60)
		}},
		{"by the weight", "the heaviest piece", func(j *Job) { j.Limits.PieceKg = of(150) }},
		{"by the run", "the longest run", func(j *Job) { j.Limits.RunM = of(1.2) }},
		{"by the room", "room above", func(j *Job) { j.Rigs[0].Catch.HandKn, j.Limits.ClearM = of(0.24), of(9) }},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := job()
			c.bend(&j)
			l := ask(t, &j, WhatIf{Pick: "p1", Ask: AskLength, Hold: HoldLimits})
			if !l.Found || !strings.Contains(l.Reason, c.governs) && !strings.Contains(l.Reason, "the tie") {
				t.Fatalf("got %+v, want %s", l, c.governs)
			}
			keeps := func(at float64) bool {
				j.Picks[0].CutM = of(at)
				a := assess(&j, "p1")
				return len(a.Picks[0].Faults) == 0 && a.Verdict != Over
			}
			if !keeps(*l.CutM) {
				t.Errorf("the cut at %v m does not keep every limit", *l.CutM)
			}
			if keeps(*l.CutM - 0.0011) {
				t.Errorf("a cut just below %v m keeps every limit too", *l.CutM)
			}
		})
	}
	j := job()
	j.Rigs[0].Rope.MarkedKn = of(0.1)
	if l := ask(t, &j, WhatIf{Pick: "p1", Ask: AskLength, Hold: HoldLimits}); l.Found || !strings.Contains(l.Reason, "No piece") {
		t.Errorf("with a line of 0.1 kN: %+v", l)
	}
}

// Each answer, put into the job, comes to what was held.
func TestWhatIfAnswersHold(t *testing.T) {
	apply := func(j Job, a Answer) Assessment {
		if a.CutM != nil {
			j.Picks = []Pick{j.Picks[0]}
			j.Picks[0].CutM = a.CutM
		}
		if a.HoldKn != nil {
			j.Picks = []Pick{j.Picks[0]}
			j.Picks[0].Catch = &Catch{How: ByHold, HoldKn: a.HoldKn}
		}
		return assess(&j, "p1")
	}
	base := job()
	base.Rigs[0].Catch.How = Locked
	run := ask(t, &base, WhatIf{"p1", AskRun, HoldBlock, of(16)})
	near(t, "block held by run", *rung(t, apply(base, run), partBlock).PeakKn, 16)
	wraps := ask(t, &base, WhatIf{"p1", AskWraps, HoldLine, of(7)})
	near(t, "line held by wraps", *rung(t, apply(base, wraps), partLine).PeakKn, 7)
	near(t, "the wraps give the hold", 0.2*math.Exp(2*math.Pi*0.2**wraps.Wraps), *wraps.HoldKn)
	called := ask(t, &base, WhatIf{"p1", AskWraps, HoldRun, of(1.5)})
	if a := apply(base, called); math.Abs(*a.Detail.Catch.RunM-1.5) > 1e-6 {
		t.Errorf("wraps for a run of 1.5 m run %v", *a.Detail.Catch.RunM)
	}
	long := ask(t, &base, WhatIf{"p1", AskLength, HoldLine, of(12)})
	if a := apply(base, long); *rung(t, a, partLine).PeakKn > 12 || *rung(t, a, partLine).PeakKn < 11.95 {
		t.Errorf("the longest piece for 12 kN comes to %v", *rung(t, a, partLine).PeakKn)
	}
	peak := ask(t, &base, WhatIf{"p1", AskPeak, HoldLength, of(2)})
	base.Picks[0].CutM = of(16)
	near(t, "peak of 2 m", *peak.LineKn, *rung(t, assess(&base, "p1"), partLine).PeakKn)
	if a := ask(t, &base, WhatIf{"p1", AskRun, HoldLine, of(0.5)}); a.Found || !strings.Contains(a.Reason, "No run helps") {
		t.Errorf("half a kilonewton: %+v", a)
	}
	ropes := ask(t, &base, WhatIf{"p1", AskRope, HoldLimits, nil})
	if len(ropes.Ropes) < 3 || ropes.Ropes[0].Rope.Name != "test rope" {
		t.Fatalf("got %+v", ropes)
	}
	for _, r := range ropes.Ropes {
		j := base
		j.Rigs = []Rig{base.Rigs[0]}
		rope := r.Rope
		j.Rigs[0].Rope = &rope
		near(t, r.Rope.Name, r.PeakKn, *rung(t, assess(&j, "p1"), partLine).PeakKn)
	}
}

func TestWhatIfRefusesNonsense(t *testing.T) {
	j := job()
	for _, w := range []WhatIf{
		{"nobody", AskRun, HoldLimits, nil}, {"p1", AskRun, HoldLine, nil}, {"p1", AskRun, HoldLimits, of(3)},
		{"p1", AskRun, HoldRun, of(3)}, {"p1", AskPeak, HoldLine, of(3)},
	} {
		if _, err := Ask(&j, w, Options{Units: units.Metric}); err == nil {
			t.Errorf("%+v is answered", w)
		} else if faults := (intake.Faults{}); !errors.As(err, &faults) || faults[0].Allowed == "" {
			t.Errorf("%+v: %v", w, err)
		}
	}
}

// The film is the drop package's own run of the same case, spar and all, and its peak
// stays at or under the ceiling of the ladder where nothing sways.
func TestFollowIsTheDropsOwnRun(t *testing.T) {
	j := job()
	trace, err := Follow(context.Background(), &j, "p1", 60, Options{Units: units.Metric})
	if err != nil || trace.Kind != "drop" {
		t.Fatalf("%v %+v", err, trace)
	}
	v := surveyOf(t, &j)
	now := v.whole()
	o := v.work(&j.Picks[0], 1, &now)
	modal := o.spar.beam.Solve().Modal
	start, face := 2.0, 70.0
	inertia := v.stem.WeighBetween(15, 18, v.density, "").InertiaKgM2 * o.weight.kg.High / o.weight.kg.Likely
	c := drop.SimCase{Piece: drop.SimPiece{Piece: o.kase.Piece, InertiaKgM2: &inertia}, Rigging: o.kase.Rigging, StartDeg: &start, FaceClosesDeg: &face,
		Spar: &drop.SparTop{MassKg: modal.MassKg, StiffnessKnM: modal.StiffnessKnM}}
	want := drop.Simulate(&c)
	near(t, "peak", *trace.Run.LinePeakKn, *want.LinePeakKn)
	if len(trace.Run.Series.TS) < 50 || trace.Spread == nil || trace.Spread.P95Kn < trace.Spread.P50Kn {
		t.Errorf("%d samples, spread %+v", len(trace.Run.Series.TS), trace.Spread)
	}
	near(t, "origin", trace.Origin.Z, 14.4)
	near(t, "limit", *trace.LineLimitKn, 14)
}

// A swing's film starts at rest, peaks at the bottom with what the arc says, and keeps
// its energy.
func TestFollowASwing(t *testing.T) {
	j := tree()
	j.Rigs[0].Catch.How = Locked
	trace, err := Follow(context.Background(), &j, "p2", 0, Options{Units: units.Metric})
	if err != nil || trace.Kind != "swing" {
		t.Fatalf("%v %+v", err, trace)
	}
	d := assess(&j, "p2").Detail
	if got := *trace.Run.LinePeakKn; math.Abs(got-d.Arc.LineKn) > 1e-3*d.Arc.LineKn {
		t.Errorf("the film peaks at %v, the arc at %v", got, d.Arc.LineKn)
	}
	for _, pick := range []string{"p1", "nobody"} {
		if none, err := Follow(context.Background(), &j, pick, 0, Options{Units: units.Metric}); err != nil || none.Kind != "none" || none.Why == "" {
			t.Errorf("%s: %v %+v", pick, err, none)
		}
	}
}

// One door for all: the same answers as the functions, and faults by name.
func TestQuestions(t *testing.T) {
	j := tree()
	written, _ := json.Marshal(j)
	for name, want := range map[string]any{
		QuestionAssess: Assess(&j, Options{Units: units.US, Pick: "p2"}),
		QuestionFill:   Fill(&j, BySides, "", Options{Units: units.US}),
	} {
		got, err := Question(context.Background(), name, written, Asked{Units: units.US, Pick: "p2", By: BySides}, Crew{})
		if err != nil {
			t.Fatal(err)
		}
		a, _ := json.Marshal(got)
		b, _ := json.Marshal(want)
		if !bytes.Equal(a, b) {
			t.Errorf("%s differs through the door", name)
		}
	}
	if _, err := Question(context.Background(), "guess", written, Asked{}, Crew{}); err == nil || !strings.Contains(err.Error(), "guess") {
		t.Errorf("an unknown question: %v", err)
	}
}

func three(t *testing.T, base, mine, theirs Job) Merged {
	t.Helper()
	var written [3][]byte
	for i, j := range []Job{base, mine, theirs} {
		written[i], _ = json.Marshal(j)
	}
	merged, err := Merge(written[0], written[1], written[2])
	if err != nil {
		t.Fatal(err)
	}
	return merged
}

func copied(j Job) Job {
	written, _ := json.Marshal(j)
	again, _ := ReadJob(written)
	return again
}

func TestMergeByPart(t *testing.T) {
	order := func(j Job) string {
		names := make([]string, len(j.Picks))
		for i := range j.Picks {
			names[i] = j.Picks[i].ID
		}
		return strings.Join(names, " ")
	}
	for _, c := range []struct {
		name         string
		mine, theirs func(*Job)
		conflicts    string
		check        func(Job) bool
	}{
		{"different picks", func(j *Job) { j.Picks[0].Note = "mine" }, func(j *Job) { j.Picks[3].CutM = of(14) }, "",
			func(j Job) bool { return j.Picks[0].Note == "mine" && *j.Picks[3].CutM == 14 }},
		{"different fields of one pick", func(j *Job) { j.Picks[3].Done = true }, func(j *Job) { j.Picks[3].CutM = of(14) }, "",
			func(j Job) bool { return j.Picks[3].Done && *j.Picks[3].CutM == 14 }},
		{"the same on both sides", func(j *Job) { j.Picks[3].CutM = of(14) }, func(j *Job) { j.Picks[3].CutM = of(14) }, "",
			func(j Job) bool { return *j.Picks[3].CutM == 14 }},
		{"the same field otherwise", func(j *Job) { j.Picks[3].CutM = of(13) }, func(j *Job) { j.Picks[3].CutM = of(14) }, "pick p4, cut",
			func(j Job) bool { return *j.Picks[3].CutM == 13 }},
		{"both add", func(j *Job) { j.Picks = append(j.Picks, Pick{ID: "m", What: WhatStem, Way: WayFree}) }, func(j *Job) {
			j.Picks = append(j.Picks[:1], append([]Pick{{ID: "n", What: WhatStem, Way: WayFree}}, j.Picks[1:]...)...)
		}, "", func(j Job) bool { return order(j) == "p1 n p2 p3 p4 m" }},
		{"one reorders, one adds", func(j *Job) { j.Picks[0], j.Picks[1] = j.Picks[1], j.Picks[0] }, func(j *Job) { j.Picks = append(j.Picks, Pick{ID: "n", What: WhatStem, Way: WayFree}) }, "",
			func(j Job) bool { return order(j) == "p2 p1 p3 p4 n" }},
		{"both reorder otherwise", func(j *Job) { j.Picks[0], j.Picks[1] = j.Picks[1], j.Picks[0] }, func(j *Job) { j.Picks[0], j.Picks[2] = j.Picks[2], j.Picks[0] }, "the order of the picks",
			func(j Job) bool { return order(j) == "p2 p1 p3 p4" }},
		{"one takes away, one leaves", func(j *Job) { j.Picks = j.Picks[1:] }, func(j *Job) { j.Note = "theirs" }, "",
			func(j Job) bool { return order(j) == "p2 p3 p4" && j.Note == "theirs" }},
		{"one takes away what the other changes", func(j *Job) { j.Picks = j.Picks[1:] }, func(j *Job) { j.Picks[0].Note = "theirs" }, "pick p1", func(j Job) bool { return order(j) == "p2 p3 p4" }},
		{"readings are one part", func(j *Job) { j.Tree.Readings[0].TapeM = 2 }, func(j *Job) { j.Tree.Readings[1].TapeM = 0.5 }, "tree, readings", func(j Job) bool { return j.Tree.Readings[0].TapeM == 2 }},
		{"a limit and a limb", func(j *Job) { j.Limits.RunM = of(2) }, func(j *Job) { j.Tree.Limbs[2].LengthM = 5 }, "", func(j Job) bool { return *j.Limits.RunM == 2 && j.Tree.Limbs[2].LengthM == 5 }},
	} {
		t.Run(c.name, func(t *testing.T) {
			base := tree()
			mine, theirs := copied(base), copied(base)
			c.mine(&mine)
			c.theirs(&theirs)
			m := three(t, base, mine, theirs)
			var said []string
			for _, conflict := range m.Conflicts {
				said = append(said, conflict.Title)
			}
			if got := strings.Join(said, "; "); got != c.conflicts {
				t.Errorf("asks of %q, want %q", got, c.conflicts)
			}
			if !c.check(m.Job) {
				t.Errorf("merged to %+v", m.Job.Picks)
			}
		})
	}
}

// No document that is read makes any question panic, hang or answer with NaN.
func FuzzQuestions(f *testing.F) {
	for _, j := range []Job{job(), tree(), NewJob("empty")} {
		written, _ := json.Marshal(j)
		f.Add(written, "p1")
	}
	f.Fuzz(func(t *testing.T, data []byte, pick string) {
		for _, name := range []string{QuestionAssess, QuestionFollow, QuestionFill} {
			answer, err := Question(context.Background(), name, data, Asked{Pick: pick, By: ByUp}, Crew{})
			if err != nil {
				continue
			}
			if _, err := json.Marshal(answer); err != nil {
				t.Errorf("%s: %v", name, err)
			}
		}
	})
}

// fortyPicks is the big tree with its order filled.
func fortyPicks(tb testing.TB) Job {
	j := big()
	for _, p := range Fill(&j, ByUp, "", Options{Units: units.Metric}).Picks {
		j.Picks = append(j.Picks, p.Pick)
	}
	for k := 0; len(j.Picks) < 40; k++ {
		j.Picks = append(j.Picks[:k+1], j.Picks[k:]...)
		p := &j.Picks[k]
		p.ID, p.CutM = fmt.Sprintf("x%d", k), of(1.5)
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
		Assess(&j, Options{Units: units.Metric, Pick: j.Picks[20].ID})
	}
}

func BenchmarkFillThirtyLimbs(b *testing.B) {
	j := big()
	for b.Loop() {
		Fill(&j, ByUp, "", Options{Units: units.Metric})
	}
}

func BenchmarkHowLong(b *testing.B) {
	j := job()
	for b.Loop() {
		_, _ = Ask(&j, WhatIf{Pick: "p1", Ask: AskLength, Hold: HoldLimits}, Options{Units: units.Metric})
	}
}
