package assess

import (
	"strings"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// A rope that runs through something is said; so is a piece that comes down across its own line
// on the way to the hand, and not one that comes down on the other side.
func TestWhereRopesRun(t *testing.T) {
	j := jobtest.Stem()
	j.Site.Anchors = []job.Anchor{{ID: "a", Name: "stump", Kind: "ground", At: job.Spot{X: 9, Y: 0}}}
	j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "a", AtM: 0.3}
	said := func(towards float64) string {
		j.Picks[0].FallTowardsDeg = jobtest.Of(towards)
		return strings.Join(assess(&j, "p1").Detail.Cautions, "\n")
	}
	// The line leaves the block at 14.4 m for a device 9 m east of the stem's foot.
	if got := said(90); !strings.Contains(got, "of its own line between") {
		t.Errorf("it tips over its own line: %s", got)
	}
	if got := said(270); strings.Contains(got, "own line") {
		t.Errorf("it tips the other way: %s", got)
	}
	// Half way out it is at some 7 m: a shed under it is clear of it, one as high is not.
	j.Site.Targets = []job.Target{{ID: "s", Name: "shed", Kind: "building", Box: &job.Box{Min: job.Spot{X: 4, Y: -1}, Max: job.Spot{X: 5, Y: 1}}, ToM: 5}}
	if got := said(270); strings.Contains(got, "runs against") {
		t.Errorf("the shed is beneath the line: %s", got)
	}
	j.Site.Targets[0].ToM = 7.5
	if got := said(270); !strings.Contains(got, "runs against shed: lead it clear") {
		t.Errorf("the line runs through the shed: %s", got)
	}
}

// A line that runs a hand's breadth beside a wall chafes nowhere; one that runs along its edge does, on every side.
func TestALineBesideAWall(t *testing.T) {
	j := jobtest.Stem()
	j.Site.Anchors = []job.Anchor{{ID: "a", Name: "stump", Kind: "ground", At: job.Spot{X: 9, Y: 0}}}
	j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "a", AtM: 0.3}
	j.Picks[0].FallTowardsDeg = jobtest.Of(270)
	for _, side := range []float64{-1, 1} {
		for _, c := range []struct {
			off  float64
			runs bool
		}{{0.3, false}, {0.12, false}, {0.0, true}} {
			near, far := side*c.off, side*(c.off+2)
			j.Site.Targets = []job.Target{{ID: "s", Name: "wall", Kind: "building", Box: &job.Box{Min: job.Spot{X: 3, Y: min(near, far)}, Max: job.Spot{X: 6, Y: max(near, far)}}, ToM: 14}}
			if got := strings.Contains(strings.Join(assess(&j, "p1").Detail.Cautions, "\n"), "runs against wall"); got != c.runs {
				t.Errorf("wall %v m off on side %v: runs against it %v", c.off, side, got)
			}
		}
	}
}
