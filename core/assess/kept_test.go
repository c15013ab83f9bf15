package assess

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"elkstay/core/frozen/kept"
	"elkstay/core/job"
	"elkstay/core/units"
)

// everything is all that the package says of a job: its order, every pick's ladder with its sums, where its pieces lie,
// what its ropes and anchors take, and its fellings to eight bearings.
func everything(t *testing.T, given *job.Job, system units.System) map[string]any {
	t.Helper()
	text := written(t, given)
	j, options := remembering(t, text, system)
	said := map[string]any{"order": Assess(j, options)}
	if len(said["order"].(Assessment).Faults) > 0 {
		return said
	}
	for _, p := range j.Picks {
		options.Pick = p.ID
		said["pick "+p.ID] = Assess(j, options)
	}
	for _, p := range j.Picks[:min(2, len(j.Picks))] {
		trace, err := Simulate(context.Background(), j, p.ID, 0, Options{Units: system})
		said["followed "+p.ID] = []any{trace, fmt.Sprint(err)}
	}
	forest, first := Prepare(j, &Options{Units: system})
	if forest == nil || len(first.Missing) > 0 {
		return said
	}
	pieces, filled := forest.Lie(&Options{Units: system})
	said["lies"], said["zones"] = pieces, filled
	for _, r := range append([]job.Rig{{}}, j.Rigs...) {
		use, words, long := forest.RopeUnder(r.ID, 2.5)
		said["rope "+r.ID] = []any{use, words, long}
	}
	for _, a := range append([]job.Anchor{{}}, j.Site.Anchors...) {
		use, words := forest.AnchorUnder(a.ID, 2.5)
		said["anchor "+a.ID] = []any{use, words}
	}
	for i := range j.Picks {
		if j.Picks[i].Way != job.WayFelled {
			continue
		}
		for deg := 0.0; deg < 360; deg += 45 {
			v, p := forest.Of(&j.Picks[i]), j.Picks[i]
			p.FallTowardsDeg = &deg
			now := v.Now(forest.Whole())
			o := v.FellTo(&p, i+1, now, nil)
			lies, ok := o.Lies()
			said[fmt.Sprintf("%s to %g", p.ID, deg)] = []any{lies, ok, v.Pulled(v.FellTo(&p, i+1, now, o), lies)}
		}
	}
	return said
}

// written is a job as a document: nothing is none.
func written(t *testing.T, given *job.Job) []byte {
	t.Helper()
	for i := range given.Trees {
		tree := &given.Trees[i]
		tree.Limbs, tree.Defects = append([]job.Limb{}, tree.Limbs...), append([]job.Defect{}, tree.Defects...)
	}
	text, err := json.Marshal(given)
	if err != nil {
		t.Fatal(err)
	}
	return text
}

// remembering reads a job by a memory of its own, so that each of its picks is worked out once for all that is asked.
func remembering(t *testing.T, text []byte, system units.System) (*job.Job, Options) {
	t.Helper()
	var m Memory
	j, err := m.Read(text, string(system))
	if err != nil {
		t.Fatal(err)
	}
	return &j, Options{Units: system, Memory: &m}
}

// What is said of these jobs is what was said of them: a change that moves a figure, a word or a place of a drawing shows
// which. Whether they were right is not told here.
func TestJobsSayWhatTheySaid(t *testing.T) {
	for name, j := range keptJobs(t) {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			system := units.Metric
			if strings.Contains(name, "US") || strings.Contains(name, "gust") {
				system = units.US
			}
			kept.Hold(t, "testdata/kept/"+strings.NewReplacer(" ", "-", ",", "").Replace(name)+".json.gz", everything(t, &j, system))
		})
	}
}
