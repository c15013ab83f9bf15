package space

import (
	"math"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// Ground that falls 20° to the east by hand: 5 m uphill it stands 5·tan 20° = 1.820 m higher than at the foot, and so does a wall on it; rope
// reaches as much further down 5 m downhill. Nobody has said which way it falls: higher and lower everywhere.
func TestTheGroundOfASlope(t *testing.T) {
	rise := 5 * math.Tan(20*math.Pi/180)
	floor := func(towards *float64, x float64) Floor {
		j := jobtest.Pole()
		j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = jobtest.Of(20), towards
		j.Site.Targets = []job.Target{{ID: "w", Name: "wall", Kind: "other", Box: &job.Box{Min: job.Spot{X: x - 0.1, Y: 4}, Max: job.Spot{X: x + 0.1, Y: 5}}, ToM: 2}}
		return treeOf(&j).FloorUnder(x, 0, 0.5, 9, nil)
	}
	for what, c := range map[string]struct {
		towards      *float64
		x, hard, low float64
	}{
		"uphill":           {jobtest.Of(90), -5, rise, rise},
		"downhill":         {jobtest.Of(90), 5, 0, -rise},
		"across":           {jobtest.Of(0), 5, 0, 0},
		"not known, east":  {nil, 5, rise, -rise},
		"not known, a way": {nil, -5, rise, -rise},
	} {
		got := floor(c.towards, c.x)
		if !(math.Abs(got.Hard-c.hard) <= 1e-9 && math.Abs(got.Z-c.hard) <= 1e-9 && math.Abs(got.Low-c.low) <= 1e-9) || got.Name != TheGround {
			t.Errorf("%s: %+v, by hand %v to %v", what, got, c.low, c.hard)
		}
	}
	j := jobtest.Pole()
	j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = jobtest.Of(20), jobtest.Of(90)
	for x, top := range map[float64]float64{-5: 2 + rise, 5: 2} {
		j.Site.Targets = []job.Target{{ID: "w", Name: "wall", Kind: "other", Box: &job.Box{Min: job.Spot{X: x, Y: -1}, Max: job.Spot{X: x, Y: 1}}, ToM: 2}}
		v := treeOf(&j)
		jobtest.Near(t, "a wall's top", v.Targets[0].ToM, top)
		under := v.FloorUnder(x, 0, 0.5, 9, nil)
		jobtest.Near(t, "beneath a piece", under.Hard, top)
		jobtest.Near(t, "a rope reaches to it, its own rise left out", under.Low, 2-max(0, x/5*rise))
	}
}

// A block 4 m up another tree that stands 6 m downhill of 20° sits 4 − 6·tan 20° = 1.816 m over the foot of this one, and the tree's wood, cut off at
// 9 m, ends at 9 − 2.184; an anchor held at half a metre is as much lower. Uphill all of it is higher. By hand.
func TestWhatStandsElsewhereOnASlope(t *testing.T) {
	for _, x := range []float64{6, -6, 0} {
		j := jobtest.Pole()
		j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = jobtest.Of(20), jobtest.Of(90)
		other := j.Trees[0]
		other.ID, other.At = "other", &job.Spot{X: x, Y: 3}
		j.Trees = append(j.Trees, other)
		j.Site.Anchors = []job.Anchor{{ID: "a", Name: "post", Kind: "other", At: job.Spot{X: x, Y: 1}}}
		own := treeOf(&j)
		site, now := own.Site, own.Site.Whole()
		rise := -x * math.Tan(20*math.Pi/180)
		block, why := own.Place(&job.Place{On: job.OnStem, Tree: "other", AtM: 4}, now[0], nil)
		jobtest.Near(t, "a block on it "+why, block.Z, 4+rise)
		post, why := own.Place(&job.Place{On: job.OnAnchor, Anchor: "a", AtM: 0.5}, now[0], nil)
		jobtest.Near(t, "an anchor "+why, post.Z, 0.5+rise)
		wood := own.OthersWood(now[0])[0]
		jobtest.Near(t, "its wood", wood.Top()-site.Trees[1].StemWood(now[1].Top).Top(), rise)
		jobtest.Near(t, "the middle of its wood", wood.Middle.Z-site.Trees[1].StemWood(now[1].Top).Middle.Z, rise)
	}
}
