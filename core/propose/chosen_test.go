package propose

import (
	"math"
	"slices"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
)

func proposing(t *testing.T, j *job.Job) *proposer {
	t.Helper()
	forest, first := assess.Prepare(j, &assess.Options{Units: units.Metric})
	if forest == nil || len(first.Faults) > 0 {
		t.Fatal(first.Missing, first.Faults)
	}
	v := forest.Of(&job.Pick{})
	return &proposer{Survey: v, now: v.Now(forest.Before(len(j.Picks))), number: 1}
}

// Limbs are taken from the bottom up, or side by side: north to east first, in each quarter from the bottom up; whatever the
// order in which they were measured.
func TestInWhichOrderLimbsCome(t *testing.T) {
	j := jobtest.Stem()
	for _, l := range []struct {
		id        string
		at, north float64
	}{{"high east", 12, 80}, {"north, low", 6, 40}, {"north, high", 11, 330}, {"low east", 5, 130}, {"west", 4, 260}, {"north, middle", 8, 10}} {
		j.Trees[0].Limbs = append(j.Trees[0].Limbs, job.Limb{ID: l.id, Name: l.id, AtM: l.at, AzimuthDeg: l.north, AngleDeg: 60, DiameterM: 0.1, LengthM: 3})
	}
	j.Trees[0].Limbs = append(j.Trees[0].Limbs, job.Limb{ID: "fork", Name: "fork", Parent: "west", AtM: 1, AzimuthDeg: 200, AngleDeg: 60, DiameterM: 0.05, LengthM: 1})
	f := proposing(t, &j)
	for by, want := range map[string][]string{
		ByUp:    {"west", "low east", "north, low", "north, middle", "north, high", "high east"},
		BySides: {"north, low", "north, middle", "north, high", "low east", "high east", "west"},
	} {
		got := []string{}
		for _, i := range f.limbOrder(by) {
			got = append(got, f.Limbs[i].ID)
		}
		if !slices.Equal(got, want) {
			t.Errorf("%s: %q, want %q", by, got, want)
		}
	}
}

// Limbs hang on the first rig with a rope whose block stays, the stem on the first whose block moves; or both on the one that
// is asked for, or the only one that has a rope.
func TestWhichRigsAreChosen(t *testing.T) {
	rig := func(id string, stays, rope bool) job.Rig {
		r := jobtest.Stem().Rigs[0]
		r.ID = id
		if stays {
			r.Block.Place = &job.Place{On: job.OnStem, AtM: 14}
		}
		if !rope {
			r.Rope = nil
		}
		return r
	}
	for _, c := range []struct {
		what        string
		rigs        []job.Rig
		asked       string
		limbs, stem string
	}{
		{"each has its own", []job.Rig{rig("m", false, true), rig("s", true, true)}, "", "s", "m"},
		{"the other way round", []job.Rig{rig("s", true, true), rig("m", false, true)}, "", "s", "m"},
		{"the first of two alike", []job.Rig{rig("s1", true, true), rig("m1", false, true), rig("s2", true, true), rig("m2", false, true)}, "", "s1", "m1"},
		{"only one that moves", []job.Rig{rig("m1", false, true), rig("m2", false, true)}, "", "m1", "m1"},
		{"only one that stays", []job.Rig{rig("s1", true, true), rig("s2", true, true)}, "", "s1", "s1"},
		{"without a rope it is none", []job.Rig{rig("s1", true, false), rig("m1", false, false), rig("s2", true, true), rig("m2", false, true)}, "", "s2", "m2"},
		{"the one asked for", []job.Rig{rig("m", false, true), rig("s", true, true)}, "m", "m", "m"},
		{"none", []job.Rig{rig("m", false, false)}, "", "", ""},
	} {
		j := jobtest.Stem()
		j.Rigs = c.rigs
		j.Picks = nil
		f := proposing(t, &j)
		f.chooseRigs(c.asked)
		id := func(r *job.Rig) string {
			if r == nil {
				return ""
			}
			return r.ID
		}
		if id(f.limbRig) != c.limbs || id(f.stemRig) != c.stem {
			t.Errorf("%s: limbs on %q, the stem on %q, want %q and %q", c.what, id(f.limbRig), id(f.stemRig), c.limbs, c.stem)
		}
	}
}

// The easiest way first: thrown, free, from above, past its block; one that stands steeper than 40° is tipped into a zone
// too, where there is one; on the stem's rig as well where that is another.
func TestWhichWaysAreTried(t *testing.T) {
	for _, c := range []struct {
		what  string
		angle float64
		zone  bool
		rigs  int
		want  []string
	}{
		{"no rig", 30, true, 0, []string{"thrown", "free"}},
		{"steep", 39.9, true, 1, []string{"thrown", "free", "from-above m", "past-block m", "past-block m aside"}},
		{"not steep", 40, true, 1, []string{"thrown", "free", "from-above m", "past-block m"}},
		{"nowhere to", 30, false, 1, []string{"thrown", "free", "from-above m", "past-block m"}},
		{"two rigs", 60, true, 2, []string{"thrown", "free", "from-above s", "past-block s", "past-block m"}},
	} {
		j := jobtest.Whole()
		if !c.zone {
			j.Site.Zones = nil
		}
		moves, stays := j.Rigs[0], j.Rigs[0]
		moves.ID, stays.ID = "m", "s"
		stays.Block.Place = &job.Place{On: job.OnStem, AtM: 14}
		j.Rigs = []job.Rig{moves, stays}[:c.rigs]
		j.Picks = nil
		f := proposing(t, &j)
		f.chooseRigs("")
		limb := f.Limbs[0]
		limb.AngleDeg = c.angle
		got := []string{}
		for _, p := range f.ways(&limb) {
			name := map[job.Way]string{job.WayThrown: "thrown", job.WayFree: "free", job.WayFromAbove: "from-above", job.WayPastBlock: "past-block"}[p.Way]
			if p.Rig != "" {
				name += " " + p.Rig
			}
			if p.FallTowardsDeg != nil {
				name += " aside"
			}
			got = append(got, name)
		}
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: %q, want %q", c.what, got, c.want)
		}
	}
}

// What a fill comes to: what needs no rope, what hangs on the line, what is lifted and felled, and what is still open.
func TestWhatAFillComesTo(t *testing.T) {
	one := func(way job.Way, verdict policy.Verdict) Proposed {
		return Proposed{Pick: job.Pick{Way: way}, Verdict: verdict}
	}
	for want, p := range map[string]Proposal{
		"Nothing is left to take.":                  {},
		"0 picks: 0 without a rope, 0 on the line.": {Ending: "A stump is left."},
		"2 picks: 1 without a rope, 1 on the line.": {Picks: []Proposed{one(job.WayFree, policy.Within), one(job.WaySwung, policy.Close)}},
		"3 picks: 1 without a rope, 0 on the line, 1 by crane, 1 felled. Of 2 not everything is known yet. 1 still over a limit.": {
			Picks: []Proposed{one(job.WayThrown, policy.Over), one(job.WayCrane, policy.NotKnown), one(job.WayFelled, policy.NotKnown)}},
	} {
		if p.finish(); p.State != want {
			t.Errorf("%q, want %q", p.State, want)
		}
	}
}

// What gear sits on, by name, each once.
func TestWhatHolds(t *testing.T) {
	j := jobtest.Whole()
	limb, post := j.Rigs[0], j.Rigs[0]
	limb.ID, post.ID = "l", "p"
	limb.Block.Place, post.Block.Place = &job.Place{On: job.OnLimb, Limb: "d"}, &job.Place{On: job.OnAnchor, Anchor: "o"}
	j.Rigs = append(j.Rigs, limb, post)
	j.Site.Anchors = []job.Anchor{{ID: "o", Name: "field oak"}, {ID: "v", Name: "van"}}
	j.Site.Cranes = []job.Crane{{ID: "c", Name: "crane"}}
	w := &wholes{Forest: &assess.Forest{Scene: &course.Scene{Site: &space.Site{Job: &j}}}}
	got := w.holders([]job.Pick{{Way: job.WayFree, Rig: "r1"}, {Way: job.WayPastBlock, Rig: "r1"}, {Way: job.WaySwung, Rig: "l"}, {Way: job.WaySwung, Rig: "p"}, {Way: job.WayPastBlock, Rig: "r1"},
		{Way: job.WayCrane, Lift: &job.Lift{Crane: "c"}}, {Way: job.WayCrane, Lift: &job.Lift{Crane: "c"}},
		{Way: job.WayFelled, Fell: &job.Fell{Lines: []job.FellLine{{Anchor: "v", Redirects: []job.Redirect{{Place: job.Place{On: job.OnAnchor, Anchor: "o"}}}}}}}})
	if want := []string{"the stem", "limb d", "field oak", "crane", "van"}; !slices.Equal(got, want) {
		t.Errorf("%q, want %q", got, want)
	}
}

// What a bearing has against it, by hand: ten where something is close, a twentieth for each per cent of the hinge's side,
// and the share that is pulled; of two trees the one that takes less of hinge or pull goes first.
func TestWhatABearingHasAgainstIt(t *testing.T) {
	of := jobtest.Of
	near := func(what string, got, want float64) {
		if !(math.Abs(got-want) <= 1e-12) {
			t.Errorf("%s: %v, want %v", what, got, want)
		}
	}
	easy, hard := assess.Bearing{Verdict: policy.Within, SideUsePct: of(30), PullKn: of(4), GivesKn: of(16)}, assess.Bearing{Verdict: policy.Close, SideUsePct: of(50), PullKn: of(9), GivesKn: of(10)}
	near("easy", burden(&easy), 1.5)
	near("hard", burden(&hard), 12.5)
	near("bare", burden(&assess.Bearing{Verdict: policy.Within}), 0)
	near("pulled", pulled(&easy), 0.25)
	near("by its own weight", pulled(&assess.Bearing{GivesKn: of(3)}), 0)
	near("by what nobody knows", pulled(&assess.Bearing{PullKn: of(3)}), 0)
	alone := assess.Bearing{Verdict: policy.Within, SideUsePct: of(31)}
	for _, c := range []struct {
		a, b *assess.Bearing
		less bool
	}{{&easy, &hard, true}, {&hard, &easy, false}, {&easy, &alone, true}, {&alone, &easy, false}, {&alone, &hard, true}, {&easy, &easy, false}} {
		if less(c.a, c.b) != c.less {
			t.Errorf("%+v before %+v: %v", *c.a, *c.b, !c.less)
		}
	}
	// Of a window's bearings the one in its middle, but for what is close or loads the hinge.
	r := Rose{}
	for k := range 36 {
		r.Bearings = append(r.Bearings, assess.Bearing{Deg: float64(k) * roseStep, Verdict: policy.Within, Reason: "open"})
	}
	if w := r.window(4, 10); w.FromDeg != 4*roseStep || w.ToDeg != 10*roseStep || w.BestDeg != 7*roseStep {
		t.Errorf("a window of seven: %+v", w)
	}
	// A step aside counts a seventh here, 3.2 % of the hinge 0.16: the step is less; 2.8 %, 0.14, is not.
	r.Bearings[7].SideUsePct = of(2.8)
	if w := r.window(4, 10); w.BestDeg != 7*roseStep {
		t.Errorf("its middle loads the hinge a little: %+v", w)
	}
	r.Bearings[7].SideUsePct = of(3.2)
	if w := r.window(4, 10); w.BestDeg != 6*roseStep {
		t.Errorf("its middle loads the hinge: %+v", w)
	}
	r.Bearings[6].Verdict = policy.Close
	if w := r.window(4, 10); w.BestDeg != 8*roseStep {
		t.Errorf("beside it something is close: %+v", w)
	}
}

// A new pick's id is the first that is free; a stump is felled already.
func TestIdsAndStumps(t *testing.T) {
	w := &wholes{taken: map[string]bool{"p1": true, "p2": true, "p4": true}}
	if a, b, c := w.newID(), w.newID(), w.newID(); a != "p3" || b != "p5" || c != "p6" {
		t.Errorf("%s, %s, %s", a, b, c)
	}
	j := jobtest.Stem()
	j.Picks = nil
	f := proposing(t, &j)
	// Its first reading is at 0.5 m; two stumps of 0.3 m above that.
	for top, stands := range map[float64]bool{1.09: false, 1.11: true, 5: true} {
		if got := w.stands(f.Survey, &space.Standing{Top: top}); got != stands {
			t.Errorf("%v m stand: %v", top, got)
		}
	}
	if w.stands(nil, &space.Standing{Top: 9}) {
		t.Error("a tree that is not measured stands")
	}
}

// Tops are tried a metre at a time, the least of a top first, until 35 % of what stands would be left; a line goes down with
// the top, half a metre under its cut; two lines are made tight by a share of the weight.
func TestTopsAndTightness(t *testing.T) {
	for _, c := range []struct {
		bottom, top, share float64
		want               []float64
	}{{0, 10, 1, []float64{9, 8, 7, 6, 5, 4}}, {0.5, 18.4, 1, []float64{17, 16, 15, 14, 13, 12, 11, 10, 9, 8, 7}}, {0, 10, 0.6, []float64{5, 4}}, {2, 12, 0.5, nil}, {0, 20, 1, []float64{19, 18, 17, 16, 15, 14, 13, 12, 11, 10, 9, 8, 7}}} {
		if got := topsFrom(c.bottom, c.top, c.share); !slices.Equal(got, c.want) {
			t.Errorf("%+v: %v", c, got)
		}
	}
	for _, c := range []struct{ tied, cut, want float64 }{{12, 9, 8.5}, {6, 9, 6}, {8.77, 9.33, 8.8}} {
		if got := tiedUnder(c.tied, c.cut); !(math.Abs(got-c.want) <= 1e-12) {
			t.Errorf("tied at %v, cut at %v: %v", c.tied, c.cut, got)
		}
	}
	// 0.4 of 250 kg are 0.981 kN, 0.8 of 90 kg 0.706.
	if a, b := tightBy(0.4, 250), tightBy(0.8, 90); a != 1 || b != 0.7 {
		t.Errorf("%v and %v kN", a, b)
	}
}

// A top that can fall nowhere free comes down on the first rig that has a rope and keeps its limits; on none where none does.
func TestATopOnARig(t *testing.T) {
	j := jobtest.Stem()
	j.Picks, j.Site.Zones = nil, nil
	for i, b := range []job.Box{{Min: job.Spot{X: 2, Y: -40}, Max: job.Spot{X: 40, Y: 40}}, {Min: job.Spot{X: -40, Y: -40}, Max: job.Spot{X: -2, Y: 40}},
		{Min: job.Spot{X: -2, Y: 2}, Max: job.Spot{X: 2, Y: 40}}, {Min: job.Spot{X: -2, Y: -40}, Max: job.Spot{X: 2, Y: -2}}} {
		j.Site.Targets = append(j.Site.Targets, job.Target{ID: string(rune('a' + i)), Name: "glass", Kind: "building", Box: &b, ToM: 0.5})
	}
	bare, weak, good := j.Rigs[0], j.Rigs[0], j.Rigs[0]
	bare.ID, bare.Rope, weak.ID, good.ID = "bare", nil, "weak", "good"
	rope := *weak.Rope
	rope.MarkedKn = jobtest.Of(0.05)
	weak.Rope = &rope
	at := 16.0
	for _, c := range []struct {
		rigs []job.Rig
		want string
	}{{[]job.Rig{bare, good}, "good"}, {[]job.Rig{weak, good}, "good"}, {[]job.Rig{good, weak}, "good"}, {[]job.Rig{bare, weak}, ""}, {[]job.Rig{bare}, ""}} {
		j.Rigs = c.rigs
		f := proposing(t, &j)
		w := &wholes{Forest: f.Forest}
		if p, ok := w.top(f.Survey, at, f.now); ok != (c.want != "") || ok && (p.Rig != c.want || p.Way != job.WayPastBlock) {
			t.Errorf("of %d rigs, want %q: %v on %q", len(c.rigs), c.want, ok, p.Rig)
		}
	}
}
