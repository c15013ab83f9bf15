package job_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// What happened is what the facts that stand say: of two weighings the later counts, one taken back does not, nor one whose taking back is
// itself taken back again.
func TestWhatTheFactsSay(t *testing.T) {
	down := job.Fact{ID: "a", What: job.FactDown, Pick: "p1", At: "2026-03-31T10:00:00Z"}
	early := job.Fact{ID: "b", What: job.FactWeighed, Pick: "p1", Kg: jobtest.Of(100), At: "2026-03-31T10:01:00Z"}
	late := job.Fact{ID: "c", What: job.FactWeighed, Pick: "p1", Kg: jobtest.Of(120), At: "2026-03-31T12:02:00+01:00"} // 11:02
	back := func(id, of string) job.Fact {
		return job.Fact{ID: id, What: job.FactBack, Back: of, At: "2026-03-31T13:00:00Z"}
	}
	for _, c := range []struct {
		facts []job.Fact
		done  bool
		kg    float64
	}{
		{nil, false, 0},
		{[]job.Fact{down}, true, 0},
		{[]job.Fact{down, back("x", "a")}, false, 0},
		{[]job.Fact{back("y", "x"), back("x", "a"), down}, true, 0},
		{[]job.Fact{late, early}, false, 120},
		{[]job.Fact{late, early, back("x", "c")}, false, 100},
		{[]job.Fact{down, {ID: "d", What: job.FactDown, Pick: "p1"}, back("x", "a")}, true, 0},
		{[]job.Fact{back("x", "y"), back("y", "x"), down}, true, 0},
		{[]job.Fact{{ID: "e", What: job.FactDown, Pick: "gone"}}, false, 0},
	} {
		j := jobtest.Whole()
		j.Facts = c.facts
		j = copied(j)
		kg := 0.0
		if w := j.Picks[0].WeighedKg; w != nil {
			kg = *w
		}
		if j.Picks[0].Done != c.done || kg != c.kg {
			t.Errorf("%+v: down %v, %v kg", c.facts, j.Picks[0].Done, kg)
		}
	}
	j := jobtest.Whole()
	for _, c := range []struct {
		fact     job.Fact
		location string
	}{
		{job.Fact{ID: "a", What: job.FactWeighed, Pick: "p1"}, "body.facts[0].kg"},
		{job.Fact{ID: "a", What: job.FactDown, Pick: "p1", At: "yesterday"}, "body.facts[0].at"},
		{job.Fact{ID: "a", What: job.FactGone, Truck: "t", Takes: job.TakesLogs}, "body.facts[0].kg"},
		{job.Fact{ID: "a", What: job.FactGone, Kg: jobtest.Of(3)}, "body.facts[0].kg"},
		{job.Fact{ID: "a", What: job.FactGone, Kg: jobtest.Of(3), Takes: job.TakesLogs, On: "2026-02-30"}, "body.facts[0].on"},
	} {
		j.Facts = []job.Fact{c.fact}
		if faults := j.Faults(); len(faults) != 1 || faults[0].Location != c.location {
			t.Errorf("%+v: %v", c.fact, faults)
		}
	}
}

// Several devices write facts down apart and in any order of coming together: all of it is there, from every side, and nothing is asked.
func TestFactsComeTogetherByUnion(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4))
	for range 40 {
		base := jobtest.Whole()
		var sides [3]job.Job
		all := map[string]bool{}
		for i := range sides {
			sides[i] = copied(base)
			for n := range random.IntN(5) {
				id := fmt.Sprintf("%d.%d", i, n)
				all[id] = true
				sides[i].Facts = append(sides[i].Facts, job.Fact{ID: id, What: job.FactDown, Pick: fmt.Sprintf("p%d", 1+random.IntN(4)), At: fmt.Sprintf("2026-03-31T1%d:00:00Z", random.IntN(9))})
			}
		}
		var seen []string
		for _, order := range [][3]int{{0, 1, 2}, {2, 0, 1}, {1, 2, 0}} {
			first := three(t, base, sides[order[0]], sides[order[1]])
			m := three(t, base, first.Job, sides[order[2]])
			got, _ := json.Marshal(m.Job)
			seen = append(seen, string(got))
			if len(m.Conflicts)+len(first.Conflicts) > 0 || len(m.Job.Facts) != len(all) {
				t.Fatalf("asks %v %v, %d facts of %d", first.Conflicts, m.Conflicts, len(m.Job.Facts), len(all))
			}
		}
		if seen[0] != seen[1] || seen[0] != seen[2] {
			t.Fatalf("they differ:\n%s\n%s\n%s", seen[0], seen[1], seen[2])
		}
		// One that has lost them takes none out.
		if m := three(t, copied(sides[0]), base, sides[0]); len(m.Job.Facts) != len(sides[0].Facts) {
			t.Fatalf("%d of %d are left", len(m.Job.Facts), len(sides[0].Facts))
		}
		less := copied(base)
		if some := less.KeepFacts(&sides[0]); some != (len(sides[0].Facts) > 0) || len(less.Facts) != len(sides[0].Facts) {
			t.Fatal("facts are not kept")
		}
	}
}

// What version 4 says of a pick becomes facts, under the same ids wherever it is read.
func TestFourthVersionIsRead(t *testing.T) {
	old := `{"format":"elkstay-job","version":4,"name":"old","site":{"targets":[],"zones":[],"sectors":[],"anchors":[],"cranes":[]},
		"trees":[{"id":"1","wood":{"species":"white-ash"},"readings":[],"limbs":[],"defects":[]}],"rigs":[],"limits":{},
		"picks":[{"id":"p1","what":"top","way":"free","done":true,"weighed_kg":280},{"id":"p2","what":"stem","way":"free"}]}`
	j, err := job.ReadJob([]byte(old))
	if err != nil {
		t.Fatal(err)
	}
	if !j.Picks[0].Done || *j.Picks[0].WeighedKg != 280 || j.Picks[1].Done || j.Picks[1].WeighedKg != nil || len(j.Facts) != 2 {
		t.Errorf("%+v %+v", j.Picks, j.Facts)
	}
	again := copied(j)
	if !again.Picks[0].Done || *again.Picks[0].WeighedKg != 280 || !slices.EqualFunc(again.Facts, j.Facts, func(a, b job.Fact) bool { return a.ID == b.ID && a.What == b.What }) {
		t.Errorf("written and read again: %+v %+v", again.Picks, again.Facts)
	}
	if written, _ := json.Marshal(j); strings.Contains(string(written), "weighed_kg") || strings.Contains(string(written), `"done"`) {
		t.Errorf("%s", written)
	}
	_, err = job.ReadJob([]byte(strings.Replace(old, "280", "-3", 1)))
	var faults intake.Faults
	if !errors.As(err, &faults) || faults[0].Location != "body.picks[0].weighed_kg" {
		t.Errorf("a bad weight: %v", err)
	}
}

// Of a list that two sides have put in order, every pair that either has turned is turned, whatever both did, unless both moved the same thing.
func TestOrdersComeTogether(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	asked := 0
	for range 300 {
		base := jobtest.Whole()
		base.Picks = nil
		for i := range 7 {
			base.Picks = append(base.Picks, job.Pick{ID: string(rune('a' + i)), What: job.WhatStem, Way: job.WayFree})
		}
		shuffled := func() job.Job {
			j := copied(base)
			for range 1 + random.IntN(2) {
				from := random.IntN(7)
				one := j.Picks[from]
				j.Picks = slices.Delete(j.Picks, from, from+1)
				j.Picks = slices.Insert(j.Picks, random.IntN(7), one)
			}
			return j
		}
		place := func(j job.Job, id string) int {
			return slices.IndexFunc(j.Picks, func(p job.Pick) bool { return p.ID == id })
		}
		mine, theirs := shuffled(), shuffled()
		m, other := three(t, base, mine, theirs), three(t, base, theirs, mine)
		if len(m.Conflicts) != len(other.Conflicts) {
			t.Fatal("one side is asked, the other is not")
		}
		if len(m.Conflicts) > 0 {
			asked++
			var names []string
			if json.Unmarshal([]byte(m.Conflicts[0].Mine), &names) != nil || len(names) != 7 {
				t.Fatalf("asks of %q", m.Conflicts[0].Mine)
			}
		}
		for a := range 7 {
			for b := a + 1; b < 7; b++ {
				first, second := string(rune('a'+a)), string(rune('a'+b))
				here, there := place(mine, first) > place(mine, second), place(theirs, first) > place(theirs, second)
				got := place(m.Job, first) > place(m.Job, second)
				if (here || there && len(m.Conflicts) == 0) && !got {
					t.Fatalf("%s and %s: mine turned %v, theirs %v, together %v", first, second, here, there, got)
				}
			}
		}
		for _, one := range []job.Merged{three(t, base, mine, base), three(t, base, base, mine), three(t, base, mine, mine)} {
			for i := range one.Job.Picks {
				if one.Job.Picks[i].ID != mine.Picks[i].ID || len(one.Conflicts) > 0 {
					t.Fatal("one side's order alone is not kept")
				}
			}
		}
	}
	if asked == 0 || asked > 200 {
		t.Errorf("asked %d times of 300", asked)
	}
}

// A load that has gone is a fact: those that two devices wrote down apart are both there, one taken back is not, and it stays gone when its
// vehicle is taken off the plan. A document from before, with loads in its vehicles, has the same ones, under ids that every device comes to.
func TestLoadsThatHaveGone(t *testing.T) {
	base := jobtest.Whole()
	base.Ground = &job.Ground{Trucks: []job.Truck{{ID: "t", Name: "tipper", Gone: []job.Gone{{ID: "g1", What: job.TakesLogs, Kg: 900, On: "2026-03-31"}}}}}
	before, err := json.Marshal(base)
	if err != nil {
		t.Fatal(err)
	}
	read, err := job.ReadJob(before)
	if err != nil {
		t.Fatal(err)
	}
	if list := read.LoadsGone(); len(list) != 1 || list[0] != (job.Gone{ID: "gone.g1", Truck: "t", What: job.TakesLogs, Kg: 900, On: "2026-03-31"}) || read.Ground.Trucks[0].Gone != nil {
		t.Fatalf("%+v", list)
	}
	mine, theirs := copied(read), copied(read)
	mine.Facts = append(mine.Facts, job.Fact{ID: "a", What: job.FactGone, Truck: "t", Takes: job.TakesChips, Kg: jobtest.Of(300), At: "2026-03-31T10:00:00Z"})
	theirs.Facts = append(theirs.Facts, job.Fact{ID: "b", What: job.FactGone, Truck: "t", Takes: job.TakesLogs, Kg: jobtest.Of(800), At: "2026-03-31T11:00:00Z"}, job.Fact{ID: "c", What: job.FactBack, Back: "gone.g1", At: "2026-03-31T12:00:00Z"})
	mine.Ground.Trucks = nil
	var written [3][]byte
	for i, j := range []job.Job{read, mine, theirs} {
		if written[i], err = json.Marshal(j); err != nil {
			t.Fatal(err)
		}
	}
	merged, err := job.Merge(before, written[1], written[2]) // whoever still has the document of before
	if err != nil || len(merged.Conflicts) != 0 {
		t.Fatal(err, merged.Conflicts)
	}
	ids, kg := []string{}, 0.0
	for _, load := range merged.Job.LoadsGone() {
		ids, kg = append(ids, load.ID), kg+load.Kg
	}
	if !slices.Equal(ids, []string{"a", "b"}) || kg != 1100 || len(merged.Job.Ground.Trucks) != 0 {
		t.Errorf("%v, %g kg", ids, kg)
	}
}
