package assess

import (
	"math"
	"slices"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
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
		{"a line that pulls", func() job.Job { j := jobtest.Poled(); j.Site.Targets = wire(5, 4); return j }, 5},
		// The tag line leads from 9 m up to the lawn's edge 30 m north: it crosses the wire's plane, 12 m north, 3.4 m under it.
		{"a tag line", func() job.Job {
			j := jobtest.Carried()
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
		case !math.IsNaN(c.least) && (got > c.least || got < c.least-0.16):
			t.Errorf("%s: %v m from the wire, truly %v", c.what, got, c.least)
		case got < 3.05 && !strings.Contains(a.Picks[0].Worst, "from mains: keep 3.05 m"):
			t.Errorf("%s: %v m, and %q", c.what, got, a.Picks[0].Worst)
		}
	}
}

// A rope that swings with its piece comes nearer to a wire than before the cut: a limb tied 3 m out under a mast 16 m up and 4 m
// north swings from 0 to 8 m north; a wire 3 m beyond the middle of where its rope ends up is passed in the plane of the swing.
func TestASwungRopeComesToAPowerLine(t *testing.T) {
	j := jobtest.Hung(4)
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
	if a.Picks[0].Verdict != policy.Over {
		t.Errorf("it is %s", a.Picks[0].Verdict)
	}
}

// A tag line that leads through a hut, 12 m north of the piece and as high as it is there, runs against it: of a piece on two
// lines and of one on one.
func TestATagLineAgainstATarget(t *testing.T) {
	t.Parallel()
	for what, made := range map[string]func() job.Job{"on two lines": jobtest.Carried, "on one": func() job.Job { return jobtest.Hung(0) }} {
		for y, want := range map[float64]bool{12: true, 40: false} {
			j := made()
			cog := tagOn(&j, 0.05)
			j.Site.Targets = []job.Target{besides("hut", cog, y, 1, 8)}
			said := strings.Join(assess(&j, "p1").Detail.Cautions, " ")
			if got := strings.Contains(said, "The line between the piece and lawn edge runs against hut"); got != want {
				t.Errorf("%s, a hut %v m north: %s", what, y, said)
			}
		}
	}
}

// A line that pulls a tree over comes down with it: a power line beneath it is in its way, and one that it only passes as the
// tree goes over. One behind the tree, or as far aside as the line never comes, keeps the distance that it has.
func TestALineComesDownWithItsTree(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		what      string
		anchor    job.Spot
		outline   []job.Spot
		z         float64
		low, high float64
	}{
		// 25 m long from 12 m up, it is 6.4 m up over the wire: 3.1 m from it as it leads, and down across it at last.
		{"beneath it", job.Spot{X: 25}, []job.Spot{{X: 12, Y: -6}, {X: 12, Y: 6}}, 3, -0.1, 0},
		// Aside: 3.6 m from the plane of the line as it leads, which passes over it as the tree goes over to the east.
		{"passed", job.Spot{X: 15, Y: 20}, []job.Spot{{X: 9, Y: 5.9}, {X: 9, Y: 6.1}}, 3, -0.2, 0},
		// On its other side: 3 m from that plane, and never nearer.
		{"the other side", job.Spot{X: 15, Y: 20}, []job.Spot{{X: 2.999, Y: 9}, {X: 3.001, Y: 9}}, 5, 2.83, 3},
		// Above where it leads. Its end goes round the hinge, 0.5 m up and some 0.2 m ahead: as near as √(7.8² + 11.5²) − 11.5.
		{"above it", job.Spot{X: 25}, []job.Spot{{X: 8, Y: -6}, {X: 8, Y: 6}}, 12, 2.17, 2.4},
	} {
		j := jobtest.Poled()
		j.Site.Anchors[0].At = c.anchor
		j.Site.Targets = wire(0, c.z)
		j.Site.Targets[0].Outline = c.outline
		j.Site.Targets[0].VoltageKv = jobtest.Of(0.4)
		a := assess(&j, "p1")
		found := false
		for _, one := range a.Detail.Clear {
			if one.Name == "mains" {
				found = true
				if one.ClearanceM < c.low || one.ClearanceM > c.high {
					t.Errorf("%s: %v m, truly from %v to %v", c.what, one.ClearanceM, c.low, c.high)
				}
			}
		}
		if !found {
			t.Errorf("%s: nothing is said of the wire: %v", c.what, a.Picks[0].Faults)
		}
		if said := slices.ContainsFunc(a.Detail.Cautions, func(one string) bool { return strings.Contains(one, "comes down on mains with the tree") }); said != (c.high == 0) {
			t.Errorf("%s: said %v: %q", c.what, said, a.Detail.Cautions)
		}
	}
}
