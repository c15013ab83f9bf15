package propose

import (
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/crane"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// rowed is three poles of 18 m in a row 6 m apart, west to east, a meadow to the west alone, a house
// close by the east of the last.
func rowed() job.Job {
	j := ringed()
	j.Site.Zones[0].Outline = []job.Spot{{X: -30, Y: -4}, {X: 14, Y: -4}, {X: 14, Y: 4}, {X: -30, Y: 4}}
	j.Site.Anchors[0].At = job.Spot{X: -28}
	first := j.Trees[0]
	for i, x := range []float64{6, 12} {
		one := first
		one.ID, one.Name = string(rune('2'+i)), []string{"middle pole", "east pole"}[i]
		one.At = &job.Spot{X: x}
		j.Trees = append(j.Trees, one)
	}
	j.Trees[0].Name = "west pole"
	j.Picks[0].FallTowardsDeg = jobtest.Of(270)
	return j
}

// Each tree falls over the stumps of those before it: only the west one can go first.
func TestWhichTreeFirst(t *testing.T) {
	t.Parallel()
	j := rowed()
	w, err := Trees(&j, "2", assess.Options{Units: "metric"})
	if err != nil {
		t.Fatal(err)
	}
	var names []string
	for i, s := range w.Order {
		names = append(names, s.Title)
		if s.How != ByFelling || len(s.Picks) != 1 || s.Picks[0].Way != job.WayFelled || *s.Picks[0].FallTowardsDeg < 255 || *s.Picks[0].FallTowardsDeg > 285 || s.Reason == "" {
			t.Errorf("step %d: %+v", i, s)
		}
		// The pole that has a pick is pulled as that says, 12 m up; the others two thirds up what stands above their cut at 0.6 m.
		if len(s.Picks[0].Fell.Lines) != 1 {
			t.Errorf("step %d is pulled by %d lines", i, len(s.Picks[0].Fell.Lines))
		}
		for _, l := range s.Picks[0].Fell.Lines {
			if want := []float64{12, 12.2, 12.2}[i]; l.AtM != want || l.Anchor != "e" {
				t.Errorf("step %d is pulled from %v m to %q", i, l.AtM, l.Anchor)
			}
		}
	}
	if strings.Join(names, ", ") != "west pole, middle pole, east pole" || w.Said != "West pole, then middle pole, then east pole." {
		t.Fatalf("%v: %s", names, w.Said)
	}
	// Taken as the order of the job, the board finds nothing against it.
	taken := j
	taken.Picks = nil
	for _, s := range w.Order {
		taken.Picks = append(taken.Picks, s.Picks...)
	}
	for _, f := range assess.Assess(&taken, assess.Options{Units: "metric"}).Picks {
		if f.Verdict != policy.Within && f.Verdict != policy.Close {
			t.Errorf("%s: %s, %s %v", f.Title, f.Verdict, f.Worst, f.Faults)
		}
	}
	// While the west pole stands the middle one has no way whole.
	for _, way := range w.Ways {
		if way.How == ByFelling && (len(way.Picks) != 0 || way.Verdict != policy.NotKnown || !strings.Contains(way.Said, "No bearing is open")) {
			t.Errorf("%+v", way)
		}
	}
	// One that is down already is not asked for again.
	j.Picks[0].Done = true
	if w, _ = Trees(&j, "2", assess.Options{Units: "metric"}); len(w.Order) != 2 || len(w.Ways[0].Picks) != 1 {
		t.Errorf("with the west pole down: %+v", w.Order)
	}
}

// Too long for its meadow whole, a tree goes when enough of its top is off; the ways stand side by
// side with the crew's minutes.
func TestWaysSideBySide(t *testing.T) {
	t.Parallel()
	j := ringed()
	// 13 m of meadow east, for a pole of 18 m; its top may drop there too.
	j.Site.Zones[0].Outline = []job.Spot{{X: -2, Y: -5}, {X: 13, Y: -5}, {X: 13, Y: 5}, {X: -2, Y: 5}}
	w, err := Trees(&j, "", assess.Options{Units: "metric"})
	if err != nil {
		t.Fatal(err)
	}
	by := map[string]TreeWay{}
	for _, way := range w.Ways {
		by[way.How] = way
	}
	if len(by[ByFelling].Picks) != 0 {
		t.Errorf("18 m into 13: %+v", by[ByFelling])
	}
	topped := by[ByTopping]
	if len(topped.Picks) != 2 {
		t.Fatalf("%+v", topped)
	}
	// What is left must lie within the meadow with what it scatters.
	if cut := *topped.Picks[0].CutM; cut > 13.5 || cut < 6 {
		t.Errorf("topped at %v m", cut)
	}
	if topped.Verdict == policy.Over || topped.Verdict == policy.NotKnown || topped.Heaviest == nil || topped.Nearest == "" || len(topped.Holders) == 0 {
		t.Errorf("%+v", topped)
	}
	// By the default minutes: a free top 6, on a line 14, a felling 45.
	want := 45.0 + map[job.Way]float64{job.WayFree: 6, job.WayPastBlock: 14}[topped.Picks[0].Way]
	jobtest.Nearly(t, "minutes", topped.Minutes, want)
	if w.Order[0].How != ByTopping || !strings.Contains(w.Said, "its top first") {
		t.Errorf("%+v: %s", w.Order, w.Said)
	}
	if pieces := by[ByPieces]; len(pieces.Picks) < 2 || pieces.Minutes <= 0 {
		t.Errorf("%+v", pieces)
	}
	if _, err := Trees(&j, "gone", assess.Options{Units: "metric"}); err == nil {
		t.Error("a tree that is not there")
	}
}

// craned is a job with a crane south of its tree that takes so much at any radius.
func craned(j job.Job, kg float64) job.Job {
	j.Site.Cranes = []job.Crane{{ID: "c", Name: "big crane", At: job.Spot{X: 0, Y: -14}, BoomM: 40, Chart: []crane.ChartRow{{RadiusM: 2, BoomM: 40, CapacityKg: kg}, {RadiusM: 40, BoomM: 40, CapacityKg: kg}}}}
	return j
}

// Where a crane stands, lifting off is one of the ways: in as few even pieces as its chart takes. What its slings hold is
// not known before somebody chooses them, and nothing else is missing.
func TestWaysByCrane(t *testing.T) {
	j := ringed()
	whole := j
	whole.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(0.3 + stump), Way: job.WayFree}}
	a := assessed(&whole, "p1")
	kg := a.Detail.Piece.MassKg.High
	for _, c := range []struct {
		what   string
		takes  float64
		pieces int
		says   string
	}{
		{"all of it", 2 * kg, 1, "in one piece from its top"},
		// Three quarters of the chart are used. Of even pieces the lowest is the heaviest.
		{"not all of it", 1.2 * kg, 2, "in 2 even pieces from its top"},
		{"next to nothing", 20, mostLifts, "even in 8 pieces a limit is passed"},
	} {
		with := craned(j, c.takes)
		w, err := Trees(&with, "", assess.Options{Units: "metric"})
		if err != nil {
			t.Fatal(err)
		}
		lifted := w.Ways[len(w.Ways)-1]
		if lifted.How != ByTheCrane || lifted.Title != "By big crane" || len(lifted.Picks) != c.pieces || lifted.OnLine != c.pieces || !strings.HasPrefix(lifted.Said, c.says) {
			t.Fatalf("%s: %d pieces: %+v", c.what, len(lifted.Picks), lifted)
		}
		if wants := map[bool]policy.Verdict{true: policy.Over, false: policy.NotKnown}[c.pieces == mostLifts]; lifted.Verdict != wants {
			t.Errorf("%s: %s %v", c.what, lifted.Verdict, lifted.Unknown)
		}
		for i, p := range lifted.Picks {
			if p.Lift == nil || p.Lift.Crane != "c" || p.Way != job.WayCrane || len(p.Lift.Slings) != 2 || i > 0 && *p.CutM >= *lifted.Picks[i-1].CutM {
				t.Errorf("%s, lift %d: %+v", c.what, i, p)
			}
		}
		for _, missing := range lifted.Unknown {
			if c.pieces < mostLifts && !strings.Contains(missing, "sling") {
				t.Errorf("%s: %s", c.what, missing)
			}
		}
		if last := *lifted.Picks[len(lifted.Picks)-1].CutM; last > 0.3+stump+0.01 {
			t.Errorf("%s: it stands to %v m", c.what, last)
		}
	}
}

// Where no line keeps every limit a limb is offered to the crane that takes it, in two chokers whose rating is the crew's to say;
// one that the chart does not take is not.
func TestFillLiftsWhatNoLineTakes(t *testing.T) {
	for _, c := range []struct {
		takes float64
		way   job.Way
	}{{9000, job.WayCrane}, {40, job.WayFromAbove}} {
		j := craned(jobtest.Whole(), c.takes)
		j.Picks, j.Site.Zones = nil, nil
		j.Rigs[0].Rope.MarkedKn = jobtest.Of(0.3)
		p := Order(&j, ByUp, "", assess.Options{Units: "metric"})
		one := p.Picks[0]
		if one.Pick.Way != c.way {
			t.Fatalf("%v kg: %s, %s", c.takes, one.Pick.Way, one.Reason)
		}
		if c.way != job.WayCrane {
			continue
		}
		// 4 m long: slings at 0.15 and some three quarters of it; the hook as high over its balance as it is long.
		slings := one.Pick.Lift.Slings
		if len(slings) != 2 || slings[0].AtM != 0.6 || slings[1].AtM < 3 || slings[1].AtM > 3.3 || slings[0].LengthM < 4 || slings[1].LengthM > 4.2 || slings[0].Hitch != crane.Choker || slings[0].WllKn != 0 {
			t.Errorf("%+v", slings)
		}
		if one.Verdict != policy.NotKnown || one.Reason != "By crane: on a line it is stopped by the limit of the tie. Choose its slings." {
			t.Errorf("%s: %s", one.Verdict, one.Reason)
		}
		if want := "3 picks: 0 without a rope, 0 on the line, 3 by crane. Of 3 not everything is known yet."; p.State != want {
			t.Errorf("%q, want %q", p.State, want)
		}
		// With slings that hold, the board finds nothing against it.
		j.Picks = []job.Pick{one.Pick}
		for i := range j.Picks[0].Lift.Slings {
			j.Picks[0].Lift.Slings[i].WllKn = 20
		}
		if f := assessed(&j, "").Picks[0]; f.Verdict != policy.Within && f.Verdict != policy.Close {
			t.Errorf("on the board: %s %s %v", f.Verdict, f.Worst, f.Faults)
		}
	}
}

// Crowns tied together keep no tree from its place in the order; what must be cut free is said until
// somebody says that it is.
func TestTiedCrownsInTheOrder(t *testing.T) {
	t.Parallel()
	j := rowed()
	j.Trees[0].Tied = []job.Tied{{ID: "k1", To: "2", AtM: 13}}
	j.Trees[1].Tied = []job.Tied{{ID: "k1", To: "3", AtM: 9, Free: true}}
	w, err := Trees(&j, "", assess.Options{Units: "metric"})
	if err != nil || len(w.Order) != 3 {
		t.Fatal(err, w.Order)
	}
	const free = "First cut its crown free of middle pole at 13.00 m."
	if got := w.Order[0].Reason; !strings.Contains(got, free) {
		t.Error(got)
	}
	for _, s := range w.Order[1:] {
		if strings.Contains(s.Reason, "First cut") {
			t.Errorf("%s: %s", s.Title, s.Reason)
		}
	}
	if j.Trees[0].Tied[0].Free {
		t.Error("the document was changed")
	}
	j.Trees[0].Tied[0].Free = true
	if w, _ = Trees(&j, "", assess.Options{Units: "metric"}); strings.Contains(w.Order[0].Reason, "First cut") {
		t.Error(w.Order[0].Reason)
	}
}
