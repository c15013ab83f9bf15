package assess

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"reflect"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// What is remembered changes no figure: whatever is done to a job, step by step, the
// answer is that of a core that has never seen it.
func TestMemoryChangesNoFigure(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(3, 4))
	j := jobtest.Whole()
	j.Picks[0].WeighedKg = nil
	var memory Memory
	kept := 0
	for round := range 300 {
		switch p := &j.Picks[random.IntN(len(j.Picks))]; random.IntN(9) {
		case 0:
			p.CutM = jobtest.Of(float64(random.IntN(40)) / 10)
		case 1:
			p.Wraps = jobtest.Of(float64(random.IntN(5)))
		case 2:
			p.WeighedKg = jobtest.Of(float64(20 + random.IntN(200)))
		case 3:
			p.WeighedKg = nil
		case 4:
			a, b := random.IntN(len(j.Picks)), random.IntN(len(j.Picks))
			j.Picks[a], j.Picks[b] = j.Picks[b], j.Picks[a]
		case 5:
			j.Trees[0].Limbs[2].LengthM = 3 + float64(random.IntN(20))/10
		case 6:
			j.Limits.ClearM = jobtest.Of(float64(random.IntN(3)))
		case 7:
			p.Way = job.Ways()[random.IntN(len(job.Ways()))]
		case 8:
			if len(j.Picks) < 8 {
				j.Picks = append(j.Picks, job.Pick{ID: fmt.Sprintf("n%d", round), What: job.WhatStem, Way: job.WayFree, CutM: jobtest.Of(5)})
			} else {
				j.Picks = j.Picks[:6]
			}
		}
		data, err := json.Marshal(j)
		if err != nil {
			t.Fatal(err)
		}
		read, err := memory.Read(data, "metric")
		if err != nil {
			t.Fatal(err)
		}
		if !reflect.DeepEqual(read, jsonRead(t, data)) {
			t.Fatalf("round %d: read otherwise", round)
		}
		before := len(memory.picks)
		o := Options{Units: units.Metric, Pick: j.Picks[0].ID}
		fresh := Assess(&read, o)
		o.Memory = &memory
		got := Assess(&read, o)
		a, _ := json.Marshal(fresh)
		b, _ := json.Marshal(got)
		if string(a) != string(b) {
			t.Fatalf("round %d: remembered\n%s\nworked out\n%s", round, b, a)
		}
		if before > 0 {
			kept++
		}
	}
	if kept < 100 {
		t.Errorf("in %d rounds only was anything remembered", kept)
	}
}

func jsonRead(t *testing.T, data []byte) job.Job {
	t.Helper()
	read, err := job.ReadJob(data)
	if err != nil {
		t.Fatal(err)
	}
	return read
}

// Only what a change can touch is worked out again.
func TestMemoryWorksOutWhatAChangeTouches(t *testing.T) {
	j := jobtest.Whole()
	var memory Memory
	asked := func() map[string]*Outcome {
		data, _ := json.Marshal(j)
		read, err := memory.Read(data, "")
		if err != nil {
			t.Fatal(err)
		}
		Assess(&read, Options{Units: units.Metric, Memory: &memory})
		all := map[string]*Outcome{}
		for id, one := range memory.picks {
			all[id] = one.out
		}
		return all
	}
	first := asked()
	// The last pick's cut touches no other.
	j.Picks[3].CutM = jobtest.Of(14.5)
	second := asked()
	for id, out := range second {
		if same := first[id] == out; same != (id != "p4") {
			t.Errorf("%s worked out anew: %v", id, !same)
		}
	}
	// The first one's touches those that follow it: the tree stands otherwise before them.
	j.Picks[0].CutM = jobtest.Of(1)
	for id, out := range asked() {
		if second[id] == out {
			t.Errorf("%s is not worked out anew", id)
		}
	}
}

// Faults are named as ever: what cannot be read in part is read whole.
func TestMemoryRefusesAsEver(t *testing.T) {
	j := jobtest.Whole()
	good, _ := json.Marshal(j)
	var memory Memory
	for _, bad := range []string{
		`{"picks":[`, `[]`, `{"picks":{}}`, string(good[:len(good)-2]),
	} {
		if _, err := memory.Read([]byte(bad), ""); err == nil {
			t.Errorf("%s is read", bad)
		}
	}
	if _, err := memory.Read(good, ""); err != nil {
		t.Fatal(err)
	}
	j.Picks[1].ID = "p1"
	twice, _ := json.Marshal(j)
	_, whole := job.ReadJob(twice)
	if _, err := memory.Read(twice, ""); err == nil || whole == nil || err.Error() != whole.Error() {
		t.Errorf("an id twice: %v", err)
	}
	j.Picks[1].ID, j.Picks[1].CutM = "p2", jobtest.Of(900)
	far, _ := json.Marshal(j)
	_, whole = job.ReadJob(far)
	if _, err := memory.Read(far, ""); err == nil || err.Error() != whole.Error() {
		t.Errorf("a cut at 900 m: %v", err)
	}
}
