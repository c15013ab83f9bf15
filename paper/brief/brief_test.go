package brief

import (
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/units"
)

func TestPlacesSeenFromTheTree(t *testing.T) {
	foot := job.Spot{X: 2, Y: 1}
	if got := from(foot, job.Spot{X: 5, Y: 5}, units.Metric); got != "5.00 m NE (37°)" {
		t.Errorf("3 east, 4 north: %q", got)
	}
	if got := from(foot, job.Spot{X: 2.2, Y: 1}, units.Metric); got != "at the tree" {
		t.Errorf("beside it: %q", got)
	}
}
func TestWhatIsNotKnownIsListed(t *testing.T) {
	j := jobtest.Stem()
	r := &j.Rigs[0]
	r.Rope.Item, r.Block.Item = "rope", "block"
	c := policy.Crew{On: "2026-03-01", Gear: []locker.Item{
		{ID: "rope", Kind: locker.Rope, Name: "made-up line", Rating: gear.Rating{BreakingKn: jobtest.Of(90)}, LengthM: jobtest.Of(70)},
		{ID: "block", Kind: locker.Block, Name: "made-up block", Rating: gear.Rating{BreakingKn: jobtest.Of(120)}},
	}}
	j.Rigs[0].Sling.Item, j.Rigs[0].Sling.MarkedKn, j.Rigs[0].RopeLengthM = "", nil, nil
	c.Gear[0].LengthM = nil
	j.Brief.Unknown = "how deep the crack goes\n\n  what the ground bears "
	said := strings.Join(Briefing(&j, assess.Options{Units: units.Metric, Crew: c}).Unknown, "|")
	for _, want := range []string{"how deep the crack goes|what the ground bears", "No limit is known for the sling", "how long the rope", "No inspection of made-up block", "0 of 1 pieces", "who stands where", "No ways out"} {
		if !strings.Contains(said, want) {
			t.Errorf("does not say %q: %s", want, said)
		}
	}
}
