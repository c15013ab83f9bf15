package job_test

import (
	"encoding/json"
	"strings"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

func three(t *testing.T, base, mine, theirs job.Job) job.Merged {
	t.Helper()
	var written [3][]byte
	for i, j := range []job.Job{base, mine, theirs} {
		written[i], _ = json.Marshal(j)
	}
	merged, err := job.Merge(written[0], written[1], written[2])
	if err != nil {
		t.Fatal(err)
	}
	return merged
}

func copied(j job.Job) job.Job {
	written, _ := json.Marshal(j)
	again, _ := job.ReadJob(written)
	return again
}

func TestMergeByPart(t *testing.T) {
	order := func(j job.Job) string {
		names := make([]string, len(j.Picks))
		for i := range j.Picks {
			names[i] = j.Picks[i].ID
		}
		return strings.Join(names, " ")
	}
	for _, c := range []struct {
		name         string
		mine, theirs func(*job.Job)
		conflicts    string
		check        func(job.Job) bool
	}{
		{"different picks", func(j *job.Job) { j.Picks[0].Note = "mine" }, func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(14) }, "",
			func(j job.Job) bool { return j.Picks[0].Note == "mine" && *j.Picks[3].CutM == 14 }},
		{"different fields of one pick", func(j *job.Job) { j.Picks[3].Note = "n" }, func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(14) }, "",
			func(j job.Job) bool { return j.Picks[3].Note == "n" && *j.Picks[3].CutM == 14 }},
		{"the same on both sides", func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(14) }, func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(14) }, "",
			func(j job.Job) bool { return *j.Picks[3].CutM == 14 }},
		{"the same field otherwise", func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(13) }, func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(14) }, "pick 4, cut",
			func(j job.Job) bool { return *j.Picks[3].CutM == 13 }},
		{"both add", func(j *job.Job) { j.Picks = append(j.Picks, job.Pick{ID: "m", What: job.WhatStem, Way: job.WayFree}) }, func(j *job.Job) {
			j.Picks = append(j.Picks[:1], append([]job.Pick{{ID: "n", What: job.WhatStem, Way: job.WayFree}}, j.Picks[1:]...)...)
		}, "", func(j job.Job) bool { return order(j) == "p1 n p2 p3 p4 m" }},
		{"one reorders, one adds", func(j *job.Job) { j.Picks[0], j.Picks[1] = j.Picks[1], j.Picks[0] }, func(j *job.Job) { j.Picks = append(j.Picks, job.Pick{ID: "n", What: job.WhatStem, Way: job.WayFree}) }, "",
			func(j job.Job) bool { return order(j) == "p2 p1 p3 p4 n" }},
		{"both reorder what they may together", func(j *job.Job) { j.Picks[0], j.Picks[1] = j.Picks[1], j.Picks[0] }, func(j *job.Job) { j.Picks[2], j.Picks[3] = j.Picks[3], j.Picks[2] }, "",
			func(j job.Job) bool { return order(j) == "p2 p1 p4 p3" }},
		{"one puts the first last, the other the last first", func(j *job.Job) { j.Picks = append(j.Picks[1:4:4], j.Picks[0]) }, func(j *job.Job) { j.Picks = append(j.Picks[3:4:4], j.Picks[:3]...) }, "",
			func(j job.Job) bool { return order(j) == "p4 p2 p3 p1" }},
		{"both put the same elsewhere", func(j *job.Job) { j.Picks = append(j.Picks[1:4:4], j.Picks[0]) }, func(j *job.Job) { j.Picks[0], j.Picks[1] = j.Picks[1], j.Picks[0] }, "the order of the picks",
			func(j job.Job) bool { return order(j) == "p2 p3 p4 p1" }},
		{"a cut on one side, what it weighs by eye on the other", func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(5.1) }, func(j *job.Job) { j.Picks[3].MassKg = jobtest.Of(280) }, "pick 4, wood",
			func(j job.Job) bool { return *j.Picks[3].CutM == 5.1 && j.Picks[3].MassKg == nil }},
		{"two new ones under one id", func(j *job.Job) {
			j.Picks = append(j.Picks, job.Pick{ID: "n", What: job.WhatStem, Way: job.WayFree, CutM: jobtest.Of(3)})
		}, func(j *job.Job) {
			j.Picks = append(j.Picks, job.Pick{ID: "n", What: job.WhatStem, Way: job.WayFree, MassKg: jobtest.Of(90)})
		}, "pick 5", func(j job.Job) bool { return *j.Picks[4].CutM == 3 && j.Picks[4].MassKg == nil }},
		{"a limb taken away that the other plans on", func(j *job.Job) { j.Trees[0].Limbs = j.Trees[0].Limbs[:3]; j.Picks = append(j.Picks[:2:2], j.Picks[3]) }, func(j *job.Job) {
			j.Picks = append(j.Picks, job.Pick{ID: "n", What: job.WhatLimb, Limb: "d", Way: job.WayFree})
		}, "tree 1, limb high limb", func(j job.Job) bool { return len(j.Trees[0].Limbs) == 3 && order(j) == "p1 p2 p4 n" }},
		{"a rig that the other takes away while it is planned on", func(j *job.Job) { j.Picks[0].Rig = "r1" }, func(j *job.Job) { j.Rigs = []job.Rig{}; j.Picks[1].Rig, j.Picks[2].Rig, j.Picks[3].Rig = "", "", "" }, "rig " + jobtest.Whole().Rigs[0].Name,
			func(j job.Job) bool { return len(j.Rigs) == 1 && j.Picks[1].Rig == "" }},
		{"one takes away, one leaves", func(j *job.Job) { j.Picks = j.Picks[1:] }, func(j *job.Job) { j.Note = "theirs" }, "",
			func(j job.Job) bool { return order(j) == "p2 p3 p4" && j.Note == "theirs" }},
		{"one takes away what the other changes", func(j *job.Job) { j.Picks = j.Picks[1:] }, func(j *job.Job) { j.Picks[0].Note = "theirs" }, "pick 1", func(j job.Job) bool { return order(j) == "p2 p3 p4" }},
		{"readings are one part", func(j *job.Job) { j.Trees[0].Readings[0].TapeM = 2 }, func(j *job.Job) { j.Trees[0].Readings[1].TapeM = 0.5 }, "tree 1, readings", func(j job.Job) bool { return j.Trees[0].Readings[0].TapeM == 2 }},
		{"a limit and a limb", func(j *job.Job) { j.Limits.RunM = jobtest.Of(2) }, func(j *job.Job) { j.Trees[0].Limbs[2].LengthM = 5 }, "", func(j job.Job) bool { return *j.Limits.RunM == 2 && j.Trees[0].Limbs[2].LengthM == 5 }},
	} {
		t.Run(c.name, func(t *testing.T) {
			base := jobtest.Whole()
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
