package job_test

import (
	"encoding/json"
	"errors"
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
		{`"version":2`, `"version":3`, "body.version", "version 3"},
		{`"version":2`, `"version":0`, "body.version", "allowed"},
		{`"format":"elkstay-job"`, `"format":"other"`, "body.format", "elkstay-job"},
		{`"name":"test"`, `"name":""`, "body.name", "1 to 120"},
		{`"tape_m":0.6`, `"tape_m":60`, "body.tree.readings[1].tape_m", "60"},
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
