package propose

import (
	"testing"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/units"
)

func assessed(j *job.Job, pick string) assess.Assessment {
	return assess.Assess(j, assess.Options{Units: units.Metric, Pick: pick})
}

func rung(t *testing.T, a assess.Assessment, part string) assess.Rung {
	t.Helper()
	if a.Detail != nil {
		for _, r := range a.Detail.Ladder {
			if r.Part == part {
				return r
			}
		}
	}
	t.Fatalf("no rung %s: %q", part, a.State)
	return assess.Rung{}
}
