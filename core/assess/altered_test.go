package assess

import (
	"encoding/json"
	"strconv"
	"testing"

	"elkstay/core/frozen/kept"
	"elkstay/core/job"
	"elkstay/core/units"
)

// altered are jobs made of the kept ones by changing a few things, so that they meet exactly: a cut at a limb, a tie at a
// balance, a limit met. Each of them noticed a planted bug that nothing else did. Of every answer its figures are kept.
const altered = "testdata/altered.json.gz"

// An alteredJob is one of them, and what was said of it.
type alteredJob struct {
	Of   string          `json:"of"`
	Job  json.RawMessage `json:"job"`
	Said map[string]any  `json:"said"`
}

func TestAlteredJobsSayWhatTheySaid(t *testing.T) {
	var all []alteredJob
	kept.Read(t, altered, &all)
	if len(all) == 0 {
		t.Fatal("no altered jobs")
	}
	t.Run("all", func(t *testing.T) {
		for i := range all {
			one := &all[i]
			t.Run(strconv.Itoa(i), func(t *testing.T) {
				t.Parallel()
				is := map[string]any{}
				for what, said := range inShort(remembering(t, one.Job, units.Metric)) {
					is[what] = kept.Figures(t, said)
				}
				if !kept.Updating() {
					kept.Held(t, "of "+one.Of, one.Said, is)
				}
				one.Said = is
			})
		}
	})
	if kept.Updating() {
		kept.Write(t, altered, all)
	}
}

// inShort is the order, every pick and where the pieces lie.
func inShort(j *job.Job, options Options) map[string]any {
	order := Assess(j, options)
	said := map[string]any{"order": order}
	if len(order.Faults) > 0 {
		return said
	}
	for _, p := range j.Picks {
		options.Pick = p.ID
		said["pick "+p.ID] = Assess(j, options)
	}
	if forest, first := Prepare(j, &Options{Units: units.Metric}); forest != nil && len(first.Missing) == 0 {
		pieces, filled := forest.Lie(&Options{Units: units.Metric})
		said["lies"] = []any{pieces, filled}
	}
	return said
}
