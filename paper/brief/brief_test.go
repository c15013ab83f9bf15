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

// The card of a felling says what its figures say, every measure as both tapes read it: 25.4 mm to
// the inch.
func TestTheCardOfAFelling(t *testing.T) {
	j := jobtest.Stem()
	j.Trees[0].Readings[0].AtM, j.Trees[0].Readings[0].CavityM = 0.3, 0
	j.Site.Anchors = []job.Anchor{{ID: "e", Name: "old stump", Kind: job.AnchorGround, At: job.Spot{X: 25}}}
	j.Picks = []job.Pick{
		{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(0.5), Way: job.WayFelled, FallTowardsDeg: jobtest.Of(90),
			Fell: &job.Fell{FaceDepthM: jobtest.Of(0.2032), StrapM: jobtest.Of(0.05), Lines: []job.FellLine{{ID: "l", AtM: 12, Anchor: "e", EffortKn: jobtest.Of(9)}}}},
	}
	o := assess.Options{Units: units.Metric}
	p := Briefing(&j, o)
	if len(p.Cards) != 1 {
		t.Fatalf("%d cards", len(p.Cards))
	}
	c := p.Cards[0]
	o.Pick = "p1"
	d := assess.Assess(&j, o).Detail
	if c.Fell.FaceDepthM != 0.2032 || len(c.Steps) != len(d.Fell.Steps) || len(c.Plans) != len(d.Fell.Plans) || len(c.Lines) != 1 || c.Lines[0].Need != units.Print(units.Force, units.Metric, d.Pulls[0].NeedKn) || c.Lines[0].Said == "" || !strings.Contains(c.Falls, "E, 90°") {
		t.Errorf("%+v", c)
	}
	found := map[string]Measure{}
	for _, m := range c.Measures {
		found[m.Name] = m
	}
	if m := found["face, deep"]; m.Metric != "20.3 cm" || m.US != "8.0 in" {
		t.Errorf("8 inches deep: %+v", m)
	}
	if m := found["strap at the back"]; m.Metric != "5.0 cm" || m.US != "2.0 in" {
		t.Errorf("%+v", m)
	}
	// Done, or not to be worked out, it has no card.
	j.Picks[0].Done = true
	if p := Briefing(&j, assess.Options{Units: units.Metric}); len(p.Cards) != 0 {
		t.Errorf("down already: %+v", p.Cards)
	}
}
