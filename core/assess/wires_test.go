package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// wire is a power line that crosses the site from west to east so far north, so high.
func wire(y, z float64) []job.Target {
	return []job.Target{{ID: "w", Name: "mains", Kind: "power-line", Outline: []job.Spot{{X: -60, Y: y}, {X: 60, Y: y}}, FromM: z, ToM: z + 0.1, VoltageKv: jobtest.Of(0.4)}}
}

// Every rope keeps from a power line what wood does: what draws a piece aside, what stops its swing, the second of two lines,
// the lines that pull and hold a tree, each by the distance of a straight line to it.
func TestEveryRopeKeepsFromAPowerLine(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		what  string
		job   func() job.Job
		least float64 // of the rope from the wire
	}{
		// From the tree at 12 m down to 0.3 m, 25 m to the east; the wire 4 m up, 5 m north of it.
		{"a line that pulls", func() job.Job { j := poled(); j.Site.Targets = wire(5, 4); return j }, 5},
		// The tag line leads from 9 m up to the lawn's edge 30 m north: it crosses the wire's plane, 12 m north, 3.4 m under it.
		{"a tag line", func() job.Job {
			j := carried()
			tagOn(&j, 0.05)
			j.Site.Targets = wire(12, 9)
			return j
		}, math.NaN()},
		// A line that stops a swing, from a stump 10 m south at 0.3 m.
		{"a line that stops it", func() job.Job {
			j := stopBy()
			j.Site.Targets, j.Site.Anchors = wire(-9.5, 1), append(j.Site.Anchors, job.Anchor{ID: "s", Name: "south stump", Kind: job.AnchorGround, At: job.Spot{X: 3, Y: -10}, Rating: gear.Rating{MarkedKn: jobtest.Of(20)}})
			j.Picks[0].Stop = &job.Stop{On: job.StopLine, Anchor: "s", LineM: jobtest.Of(15)}
			return j
		}, math.NaN()},
	} {
		j := c.job()
		a := assess(&j, "p1")
		got := math.NaN()
		for _, one := range a.Detail.Clear {
			if one.Name == "mains" {
				got = one.ClearanceM
			}
		}
		switch {
		case math.IsNaN(got):
			t.Errorf("%s: nothing is said of the wire, %v", c.what, a.Picks[0].Faults)
		case !math.IsNaN(c.least) && (got > c.least || got < c.least-0.11):
			t.Errorf("%s: %v m from the wire, truly %v", c.what, got, c.least)
		case got < 3.05 && !strings.Contains(a.Picks[0].Worst, "from mains: keep 3.05 m"):
			t.Errorf("%s: %v m, and %q", c.what, got, a.Picks[0].Worst)
		}
	}
}

// A rope that swings with its piece comes nearer to a wire than before the cut: a limb tied 3 m out under a mast 16 m up and 4 m
// north swings from 0 to 8 m north; a wire 3 m beyond the middle of where its rope ends up is passed in the plane of the swing.
func TestASwungRopeComesToAPowerLine(t *testing.T) {
	j := hung1(4)
	radius := math.Hypot(4, 7)
	// Half way up the rope at the far end of its swing: 4 + ½·4 m north, 16 − ½·7 m up; the wire above it, 1 m square to it.
	up, out := 4/radius, 7/radius
	y, z := 4+2+1*out, 16-3.5+1*up
	j.Site.Targets = wire(y, z)
	a := assess(&j, "p1")
	got := clearOf(t, a, "mains")
	if truth := 1.0; got > truth || got < truth-0.4 {
		t.Errorf("%v m from the wire, truly %v", got, truth)
	}
	if a.Picks[0].Verdict != Over {
		t.Errorf("it is %s", a.Picks[0].Verdict)
	}
}

// A tag line that leads through a hut, 12 m north of the piece and as high as it is there, runs against it.
func TestATagLineAgainstATarget(t *testing.T) {
	t.Parallel()
	for y, want := range map[float64]bool{12: true, 40: false} {
		j := carried()
		cog := tagOn(&j, 0.05)
		j.Site.Targets = []job.Target{besides("hut", cog, y, 1, 8)}
		said := strings.Join(assess(&j, "p1").Detail.Cautions, " ")
		if got := strings.Contains(said, "The line between the piece and lawn edge runs against hut"); got != want {
			t.Errorf("a hut %v m north: %s", y, said)
		}
	}
}
