package plan

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"elkstay/core/intake"
	"elkstay/core/units"
)

// edits are single changes of a job, each of a part of its own.
var edits = []func(*Job){
	func(j *Job) { j.Name = "renamed" },
	func(j *Job) { j.Note = "noted" },
	func(j *Job) { j.Tree.Wood.Species = "white-ash" },
	func(j *Job) { j.Tree.Readings[1].TapeM = 0.55 },
	func(j *Job) { j.Tree.LeanDeg = of(3) },
	func(j *Job) { j.Tree.Limbs[0].DiameterM = 0.2 },
	func(j *Job) { j.Tree.Limbs[2].LengthM = 5 },
	func(j *Job) {
		j.Tree.Limbs = append(j.Tree.Limbs, Limb{ID: "e", AtM: 9, AngleDeg: 60, DiameterM: 0.1, LengthM: 2})
	},
	func(j *Job) { j.Tree.Defects = append(j.Tree.Defects, Defect{ID: "x", Kind: DefectIvy, AtM: 3}) },
	func(j *Job) { j.Site.Targets[0].ToM = 4 },
	func(j *Job) {
		j.Site.Zones = append(j.Site.Zones, Zone{ID: "y", Name: "yard", Outline: []Spot{{0, 0}, {1, 0}, {0, 1}}})
	},
	func(j *Job) { j.Rigs[0].SlackM = of(0.4) },
	func(j *Job) { j.Rigs[0].Block.MarkedKn = of(44) },
	func(j *Job) { j.Rigs[0].Catch.How = Locked },
	func(j *Job) { j.Picks[0].Done = true },
	func(j *Job) { j.Picks[1].Wraps = of(4) },
	func(j *Job) { j.Picks[3].CutM = of(14) },
	func(j *Job) { j.Limits.RunM = of(2) },
	func(j *Job) { j.Limits.PieceKg = of(300) },
}

// Whatever parts two people change, as long as none is the same, what comes together
// holds all of it, asks nothing, and is the same from either side.
func TestMergeOfDifferentPartsHoldsBoth(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 12))
	for round := range 60 {
		base := tree()
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
		for side, m := range []Merged{three(t, base, mine, theirs), three(t, base, theirs, mine)} {
			got, _ := json.Marshal(m.Job)
			if len(m.Conflicts) > 0 || string(got) != string(want) {
				t.Fatalf("round %d, side %d: asks of %v\ngot  %s\nwant %s", round, side, m.Conflicts, got, want)
			}
		}
	}
}

// Where every part is changed on both sides, each side's merge holds its own.
func TestMergeKeepsMineWhereBothChanged(t *testing.T) {
	base := tree()
	for i, edit := range edits {
		mine, theirs := copied(base), copied(base)
		edit(&mine)
		edit(&theirs)
		if m := three(t, base, mine, theirs); len(m.Conflicts) > 0 {
			t.Errorf("edit %d, the same on both sides, asks of %v", i, m.Conflicts)
		}
	}
	mine, theirs := copied(base), copied(base)
	mine.Limits.RunM, theirs.Limits.RunM = of(2), of(3)
	mine.Tree.Limbs[1].LengthM, theirs.Tree.Limbs[1].LengthM = 1.5, 2.5
	m := three(t, base, mine, theirs)
	var said []string
	for _, c := range m.Conflicts {
		said = append(said, fmt.Sprintf("%s: %s or %s", c.Title, c.Mine, c.Theirs))
	}
	if got := strings.Join(said, "; "); got != "limits, run: 2 or 3; tree, limb b, length: 1.5 or 2.5" {
		t.Errorf("it asks %q", got)
	}
	if *m.Job.Limits.RunM != 2 || m.Job.Tree.Limbs[1].LengthM != 1.5 {
		t.Errorf("merged to %+v", m.Job.Limits)
	}
}

func TestMergeRefusesWhatCannotBeRead(t *testing.T) {
	good, _ := json.Marshal(tree())
	bad := []byte(strings.Replace(string(good), `"angle_deg":70`, `"angle_deg":700`, 1))
	_, err := Merge(good, bad, good)
	var faults intake.Faults
	if !errors.As(err, &faults) || faults[0].Location != "body.tree.limbs[0].angle_deg" {
		t.Errorf("got %v", err)
	}
	if _, err := Question(context.Background(), QuestionMerge, []byte("{"), Asked{}, Crew{}); err == nil {
		t.Error("half a request is merged")
	}
}

// The same seed gives the same spread, a wider mass a wider one, and a caller who has
// gone is not worked for.
func TestSpreadOfADrop(t *testing.T) {
	j := job()
	j.Rigs[0].Catch.How = Locked
	follow := func() Trace {
		trace, err := Follow(context.Background(), &j, "p1", 80, Options{Units: units.Metric})
		if err != nil {
			t.Fatal(err)
		}
		return trace
	}
	one, two := follow(), follow()
	if one.Spread.P95Kn != two.Spread.P95Kn || one.Spread.P50Kn >= one.Spread.P99Kn {
		t.Errorf("got %+v and %+v", one.Spread, two.Spread)
	}
	if *one.Run.LinePeakKn > one.Run.CeilingKn*1.3 {
		t.Errorf("followed it peaks at %v, far above the ceiling of %v", *one.Run.LinePeakKn, one.Run.CeilingKn)
	}
	j.Picks[0].WeighedKg = of(230)
	if sure := follow(); sure.Spread.P99Kn-sure.Spread.P50Kn >= one.Spread.P99Kn-one.Spread.P50Kn {
		t.Errorf("weighed, the peak is spread from %v to %v", sure.Spread.P50Kn, sure.Spread.P99Kn)
	}
	gone, cancel := context.WithCancel(context.Background())
	cancel()
	if _, err := Follow(gone, &j, "p1", 5000, Options{Units: units.Metric}); !errors.Is(err, context.Canceled) {
		t.Errorf("for a caller who has gone: %v", err)
	}
}
