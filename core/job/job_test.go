package job_test

import (
	"encoding/json"
	"errors"
	"reflect"
	"strings"
	"testing"

	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

func TestReadingADocument(t *testing.T) {
	j := jobtest.Stem()
	written, err := json.Marshal(j)
	if err != nil {
		t.Fatal(err)
	}
	read, err := job.ReadJob(written)
	if err != nil {
		t.Fatal(err)
	}
	again, err := json.Marshal(read)
	if err != nil || string(again) != string(written) {
		t.Errorf("read and written again it differs: %v\n%s\n%s", err, written, again)
	}
	for _, c := range []struct{ old, replacement, location, says string }{
		{`"version":5`, `"version":6`, "body.version", "version 6"},
		{`"version":5`, `"version":0`, "body.version", "allowed"},
		{`"format":"elkstay-job"`, `"format":"other"`, "body.format", "elkstay-job"},
		{`"name":"test"`, `"name":""`, "body.name", "1 to 120"},
		{`"tape_m":0.6`, `"tape_m":60`, "body.trees[0].readings[1].tape_m", "60"},
		{`"limits":`, `"limitz":{},"limits":`, "body.limitz", "no field"},
		{`"way":"past-block"`, `"way":"by magic"`, "body.picks[0].way", "thrown"},
		{`"picks":[`, `"picks":[{"id":"p1","what":"stem","way":"free"},`, "body.picks[1].id", "twice"},
	} {
		_, err := job.ReadJob([]byte(strings.Replace(string(written), c.old, c.replacement, 1)))
		var faults intake.Faults
		if !errors.As(err, &faults) || faults[0].Location != c.location || !strings.Contains(faults[0].Message+faults[0].Allowed, c.says) {
			t.Errorf("%s: got %v", c.replacement, err)
		}
	}
}

// Version 2 had one tree, its foot with the site: it becomes the first of the trees, and
// nothing is lost.
func TestSecondVersionIsRead(t *testing.T) {
	old := `{"format":"elkstay-job","version":2,"name":"old","note":"n","site":{"tree_at":{"x":3,"y":-2},"targets":[],"zones":[],"sectors":[],"anchors":[],"cranes":[]},
		"tree":{"wood":{"species":"white-ash"},"readings":[{"at_m":1,"tape":"girth","tape_m":1.5}],"height_m":9,"limbs":[{"id":"l1","at_m":4,"azimuth_deg":10,"angle_deg":60,"diameter_m":0.1,"length_m":2}],"defects":[]},
		"rigs":[{"id":"r1","name":"Rig","tie":{},"block":{},"sling":{},"redirects":[],"device":{},"hands":{},"catch":{}}],"picks":[{"id":"p1","what":"top","way":"free"}],
		"limits":{"run_m":2},"brief":{"lead":"x"},"work_on":"2026-03-31"}`
	j, err := job.ReadJob([]byte(old))
	if err != nil {
		t.Fatal(err)
	}
	if j.Version != job.Version || len(j.Trees) != 1 || *j.Trees[0].At != (job.Spot{X: 3, Y: -2}) || j.Trees[0].Limbs[0].ID != "l1" || *j.Trees[0].HeightM != 9 {
		t.Errorf("the tree: %+v", j.Trees)
	}
	if j.Name != "old" || j.Note != "n" || *j.Limits.RunM != 2 || j.Brief.Lead != "x" || j.WorkOn != "2026-03-31" || j.Picks[0].ID != "p1" || j.Rigs[0].ID != "r1" {
		t.Errorf("the rest: %+v", j)
	}
	again, _ := json.Marshal(j)
	if same, err := job.ReadJob(again); err != nil || !reflect.DeepEqual(same, j) {
		t.Errorf("written and read again: %v", err)
	}
	if _, err := job.ReadJob([]byte(strings.Replace(old, `"version":2`, `"version":6`, 1))); err == nil || !strings.Contains(err.Error(), "up to version 5") {
		t.Errorf("a version to come: %v", err)
	}
	twice := strings.Replace(string(again), `"trees":[`, `"trees":[{"id":"1","wood":{},"readings":[],"limbs":[],"defects":[]},`, 1)
	if _, err := job.ReadJob([]byte(twice)); err == nil || !strings.Contains(err.Error(), `body.trees[1].id`) {
		t.Errorf("two trees of one id: %v", err)
	}
}
