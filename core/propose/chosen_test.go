package propose

import (
	"slices"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
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
	one := func(way job.Way, verdict assess.Verdict) Proposed {
		return Proposed{Pick: job.Pick{Way: way}, Verdict: verdict}
	}
	for want, p := range map[string]Proposal{
		"Nothing is left to take.":                  {},
		"0 picks: 0 without a rope, 0 on the line.": {Ending: "A stump is left."},
		"2 picks: 1 without a rope, 1 on the line.": {Picks: []Proposed{one(job.WayFree, assess.Within), one(job.WaySwung, assess.Close)}},
		"3 picks: 1 without a rope, 0 on the line, 1 by crane, 1 felled. Of 2 not everything is known yet. 1 still over a limit.": {Open: 1,
			Picks: []Proposed{one(job.WayThrown, assess.Over), one(job.WayCrane, assess.NotKnown), one(job.WayFelled, assess.NotKnown)}},
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
	w := &wholes{Forest: &assess.Forest{Job: &j}}
	got := w.holders([]job.Pick{{Way: job.WayFree, Rig: "r1"}, {Way: job.WayPastBlock, Rig: "r1"}, {Way: job.WaySwung, Rig: "l"}, {Way: job.WaySwung, Rig: "p"}, {Way: job.WayPastBlock, Rig: "r1"},
		{Way: job.WayCrane, Lift: &job.Lift{Crane: "c"}}, {Way: job.WayCrane, Lift: &job.Lift{Crane: "c"}},
		{Way: job.WayFelled, Fell: &job.Fell{Lines: []job.FellLine{{Anchor: "v", Redirects: []job.Redirect{{Place: job.Place{On: job.OnAnchor, Anchor: "o"}}}}}}}})
	if want := []string{"the stem", "limb d", "field oak", "crane", "van"}; !slices.Equal(got, want) {
		t.Errorf("%q, want %q", got, want)
	}
}
