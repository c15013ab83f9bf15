package assess

import (
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/space"
)

// A stem that is bent is weighed along its axis: from 0.6 m east and 0.2 south, 6 m up, to 1.4 m west and 1 m north, 14 m up.
func TestABentStemIsLongerThanItIsHigh(t *testing.T) {
	j := jobtest.Stem()
	at := func(z, x, y float64) job.Reading {
		return job.Reading{AtM: z, Tape: job.Diameter, TapeM: 0.4, Offset: &job.Offset{OffM: math.Hypot(x, y), TowardsDeg: math.Mod(math.Atan2(x, y)*180/math.Pi+360, 360)}}
	}
	j.Trees[0].Readings = []job.Reading{at(0.5, 0, 0), at(6, 0.6, -0.2), at(14, -1.4, 1)}
	v := surveyOf(t, &j)
	jobtest.Nearly(t, "from bend to bend", v.Slant(10), math.Sqrt(1+(4+1.44)/64))
	jobtest.Nearly(t, "at the bend", v.Slant(6), math.Sqrt(1+(4+1.44)/64))
}

// Who stands where a felled tree, its butt or a tight line can come is named: by how far and which way from the stump and from the line.
func TestWhoStandsWhereAFallGoes(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	j.Site.Anchors[0].At = job.Spot{X: 25, Y: 12}
	j.Picks[0].Fell.Lines[0].Redirects = []job.Redirect{{Name: "turn", Place: job.Place{On: job.OnAnchor, Anchor: "t", AtM: 0.3}}}
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "t", Name: "turn stump", Kind: job.AnchorGround, At: job.Spot{X: 24, Y: 3}})
	said := func(x, y float64) string {
		j.Site.Posts = []job.Post{{ID: "p", Role: "watcher", At: job.Spot{X: x, Y: y}}}
		list := []string{}
		for _, one := range assess(&j, "p1").Detail.Cautions {
			if strings.HasPrefix(one, "watcher stands") {
				list = append(list, strings.Join(strings.Fields(one)[2:5], " "))
			}
		}
		return strings.Join(list, "; ")
	}
	far := 18.0 // as high as it stands
	for _, c := range []struct {
		x, y float64
		want string
	}{
		// The butt comes back within 40° of straight behind, from 1 to 5 m.
		{-4, 0, "behind the stump,"}, {-4.99, 0, "behind the stump,"}, {-5.01, 0, ""}, {-1.01, 0, "behind the stump,"}, {-0.99, 0, ""},
		{-3 * math.Cos(space.Radians(39)), 3 * math.Sin(space.Radians(39)), "behind the stump,"}, {-3 * math.Cos(space.Radians(41)), -3 * math.Sin(space.Radians(41)), ""},
		// The fall goes within 2 m and 10° of where it is told, a metre further than its tip may come down.
		{3.01, 0, "inside the fall."}, {2.99, 0, ""}, {10, 2 + 10*math.Tan(space.Radians(10)) - 0.01, "inside the fall."}, {10, -2 - 10*math.Tan(space.Radians(10)) - 0.01, ""},
		{far + 0.9, 0, "inside the fall."}, {far + 1.1, 0, ""}, {-0.99, 3, ""},
		// By the line from where it comes down to 2.5 m, and in the bight of its turn.
		{23.008, 1.374, "in the path"}, {23.01, 1.354, ""}, {24.5, 6, "in the path"}, {20, 6, "in the bight"},
	} {
		if got := said(c.x, c.y); !strings.Contains(got, c.want) || (got == "") != (c.want == "") {
			t.Errorf("(%.2f, %.2f): %q, want %q", c.x, c.y, got, c.want)
		}
	}
}

// Lines of which nobody has said what they give share evenly, and so do lines that hold to one side.
func TestLinesShareEvenlyWhatIsNotKnown(t *testing.T) {
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(180)
	line := j.Picks[0].Fell.Lines[0]
	line.EffortKn, line.Parts = nil, nil
	second, n1, n2 := line, line, line
	second.ID = "l2"
	n1.ID, n1.Anchor, n1.Holds = "h1", "n", true
	n2.ID, n2.Anchor, n2.Holds = "h2", "n", true
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{Y: 18}})
	j.Picks[0].Fell.Lines = []job.FellLine{line, n1}
	alone := assess(&j, "p1").Detail.Pulls
	j.Picks[0].Fell.Lines = []job.FellLine{line, second, n1, n2}
	shared := assess(&j, "p1").Detail.Pulls
	if len(alone) != 2 || len(shared) != 4 || alone[1].NeedKn < 0.1 {
		t.Fatalf("%+v, %+v", alone, shared)
	}
	for i := range 2 {
		jobtest.Nearly(t, "each of two that pull", shared[i].NeedKn, alone[0].NeedKn/2)
		jobtest.Nearly(t, "each of two that hold", shared[2+i].NeedKn, alone[1].NeedKn/2)
	}
}

// Wood of a limb stands as high as its middle and half of its thickness, and of it all the highest.
func TestHowHighWoodStands(t *testing.T) {
	w := space.WoodOf(2, func(share float64) (r3.Vec, float64) {
		return r3.Vec{X: 4 * share, Z: 6 + share*(1-share)*8}, 0.4 - 0.2*share
	})
	jobtest.Nearly(t, "the top of a limb that arches", w.Top(), 8+0.15)
}

// A round of the plan is in a sector by as much as it is wide where it lies, whichever way the foot is off.
func TestARoundInASector(t *testing.T) {
	j := jobtest.Stem()
	j.Trees[0].At = &job.Spot{X: -4, Y: 9}
	j.Site.Sectors = []job.Sector{{ID: "s", Name: "path", FromDeg: 90, ToDeg: 120}}
	v := surveyOf(t, &j)
	wide := math.Asin(0.1) * 180 / math.Pi // 1 m at 10 m
	for _, c := range []struct {
		deg, far, r float64
		want        string
	}{{100, 10, 0, "path"}, {90 - wide + 0.01, 10, 1, "path"}, {90 - wide - 0.01, 10, 1, ""}, {120 + wide - 0.01, 10, 1, "path"}, {120 + wide + 0.01, 10, 1, ""}, {280, 10, 1, ""}, {89, 2.9, 1, ""}, {100, 2.9, 1, "path"}} {
		at := r3.Add(v.Foot, r3.Scale(c.far, space.Towards(c.deg)))
		if got := v.SectorAt(space.Disc{X: at.X, Y: at.Y, R: c.r}); got != c.want {
			t.Errorf("%v m at %v°, %v m wide: %q", c.far, c.deg, c.r, got)
		}
	}
}
