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
