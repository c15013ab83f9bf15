package propose

import (
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
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
		if f.Verdict != assess.Within && f.Verdict != assess.Close {
			t.Errorf("%s: %s, %s %v", f.Title, f.Verdict, f.Worst, f.Faults)
		}
	}
	// While the west pole stands the middle one has no way whole.
	for _, way := range w.Ways {
		if way.How == ByFelling && (len(way.Picks) != 0 || way.Verdict != assess.NotKnown || !strings.Contains(way.Said, "No bearing is open")) {
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
	if topped.Verdict == assess.Over || topped.Verdict == assess.NotKnown || topped.Heaviest == nil || topped.Nearest == "" || len(topped.Holders) == 0 {
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

// Where a crane stands, lifting off is one of the ways: in as few even pieces as its chart takes.
func TestWaysByCrane(t *testing.T) {
	j := ringed()
	j.Site.Cranes = jobtest.Whole().Site.Cranes
	if len(j.Site.Cranes) == 0 {
		t.Skip("the invented job has no crane")
	}
	w, err := Trees(&j, "", assess.Options{Units: "metric"})
	if err != nil {
		t.Fatal(err)
	}
	lifted := w.Ways[len(w.Ways)-1]
	if lifted.How != ByTheCrane || len(lifted.Picks) == 0 || lifted.OnLine != len(lifted.Picks) {
		t.Fatalf("%+v", lifted)
	}
	for i, p := range lifted.Picks {
		if p.Lift == nil || p.Way != job.WayCrane || i > 0 && *p.CutM >= *lifted.Picks[i-1].CutM {
			t.Errorf("lift %d: %+v", i, p)
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
