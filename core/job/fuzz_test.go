package job_test

import (
	"encoding/json"
	"reflect"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// FuzzReadJob reads any document: what is taken is written out and read back as it was.
func FuzzReadJob(f *testing.F) {
	whole, err := json.Marshal(jobtest.Whole())
	if err != nil {
		f.Fatal(err)
	}
	f.Add(whole)
	f.Add([]byte(`{"version":1,"name":"x","tree":{"wood":{},"readings":[],"limbs":[]},"rigs":[],"picks":[],"site":{"targets":[],"zones":[],"sectors":[],"anchors":[],"cranes":[]},"limits":{},"brief":{}}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		read, err := job.ReadJob(data)
		if err != nil {
			return
		}
		_ = read.Faults() // any are as good as none: it must not fall over
		written, err := json.Marshal(read)
		if err != nil {
			t.Fatal(err)
		}
		again, err := job.ReadJob(written)
		if err != nil {
			t.Fatalf("what was taken is refused when it is read back: %v", err)
		}
		twice, err := json.Marshal(again)
		if err != nil || !reflect.DeepEqual(written, twice) {
			t.Errorf("written twice it differs: %v", err)
		}
	})
}
