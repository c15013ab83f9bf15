package job_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// edits are single changes of a job, each of a part of its own.
var edits = []func(*job.Job){
	func(j *job.Job) { j.Name = "renamed" },
	func(j *job.Job) { j.Note = "noted" },
	func(j *job.Job) { j.Trees[0].Wood.Species = "white-ash" },
	func(j *job.Job) { j.Trees[0].Readings[1].TapeM = 0.55 },
	func(j *job.Job) { j.Trees[0].LeanDeg = jobtest.Of(3) },
	func(j *job.Job) { j.Trees[0].Limbs[0].DiameterM = 0.2 },
	func(j *job.Job) { j.Trees[0].Limbs[2].LengthM = 5 },
	func(j *job.Job) {
		j.Trees[0].Limbs = append(j.Trees[0].Limbs, job.Limb{ID: "e", AtM: 9, AngleDeg: 60, DiameterM: 0.1, LengthM: 2})
	},
	func(j *job.Job) {
		j.Trees[0].Defects = append(j.Trees[0].Defects, job.Defect{ID: "x", Kind: job.DefectIvy, AtM: 3})
	},
	func(j *job.Job) { j.Site.Targets[0].ToM = 4 },
	func(j *job.Job) {
		j.Site.Zones = append(j.Site.Zones, job.Zone{ID: "y", Name: "yard", Outline: []job.Spot{{X: 0, Y: 0}, {X: 1, Y: 0}, {X: 0, Y: 1}}})
	},
	func(j *job.Job) { j.Rigs[0].SlackM = jobtest.Of(0.4) },
	func(j *job.Job) { j.Rigs[0].Block.MarkedKn = jobtest.Of(44) },
	func(j *job.Job) { j.Rigs[0].Catch.How = job.Locked },
	func(j *job.Job) {
		j.Facts = append(j.Facts, job.Fact{ID: "f1", What: job.FactDown, Pick: "p1", At: "2026-03-31T10:00:00Z"})
	},
	func(j *job.Job) { j.Picks[1].Wraps = jobtest.Of(4) },
	func(j *job.Job) { j.Picks[3].CutM = jobtest.Of(14) },
	func(j *job.Job) { j.Limits.RunM = jobtest.Of(2) },
	func(j *job.Job) { j.Limits.PieceKg = jobtest.Of(300) },
}

// Whatever parts two people change, as long as none is the same, what comes together
// holds all of it, asks nothing, and is the same from either side.
func TestMergeOfDifferentPartsHoldsBoth(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 12))
	for round := range 60 {
		base := jobtest.Whole()
		mine, theirs, both := copied(base), copied(base), copied(base)
		for _, edit := range edits {
			switch random.IntN(3) {
			case 0:
				edit(&mine)
				edit(&both)
			case 1:
				edit(&theirs)
				edit(&both)
			}
		}
		want, _ := json.Marshal(copied(both))
		for side, m := range []job.Merged{three(t, base, mine, theirs), three(t, base, theirs, mine)} {
			got, _ := json.Marshal(m.Job)
			if len(m.Conflicts) > 0 || string(got) != string(want) {
				t.Fatalf("round %d, side %d: asks of %v\ngot  %s\nwant %s", round, side, m.Conflicts, got, want)
			}
		}
	}
}

// Where every part is changed on both sides, each side's merge holds its own.
func TestMergeKeepsMineWhereBothChanged(t *testing.T) {
	base := jobtest.Whole()
	for i, edit := range edits {
		mine, theirs := copied(base), copied(base)
		edit(&mine)
		edit(&theirs)
		if m := three(t, base, mine, theirs); len(m.Conflicts) > 0 {
			t.Errorf("edit %d, the same on both sides, asks of %v", i, m.Conflicts)
		}
	}
	mine, theirs := copied(base), copied(base)
	mine.Limits.RunM, theirs.Limits.RunM = jobtest.Of(2), jobtest.Of(3)
	mine.Trees[0].Limbs[1].LengthM, theirs.Trees[0].Limbs[1].LengthM = 1.5, 2.5
	m := three(t, base, mine, theirs)
	var said []string
	for _, c := range m.Conflicts {
		said = append(said, fmt.Sprintf("%s: %s or %s", c.Title, c.Mine, c.Theirs))
	}
	if got := strings.Join(said, "; "); got != "limits, run: 2 or 3; tree 1, limb fork of it, length: 1.5 or 2.5" {
		t.Errorf("it asks %q", got)
	}
	if *m.Job.Limits.RunM != 2 || m.Job.Trees[0].Limbs[1].LengthM != 1.5 {
		t.Errorf("merged to %+v", m.Job.Limits)
	}
}

func TestMergeRefusesWhatCannotBeRead(t *testing.T) {
	good, _ := json.Marshal(jobtest.Whole())
	bad := []byte(strings.Replace(string(good), `"angle_deg":70`, `"angle_deg":700`, 1))
	_, err := job.Merge(good, bad, good)
	var faults intake.Faults
	if !errors.As(err, &faults) || faults[0].Location != "body.trees[0].limbs[0].angle_deg" {
		t.Errorf("got %v", err)
	}
}
