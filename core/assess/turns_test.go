package assess

import (
	"strings"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// A top with a limb of 4 m to the east hangs from a mast over it: let down as it grew it keeps well off what stands to the west, and
// turned on its line the limb comes round there. A tag line keeps it as it is; below and above what stands there nothing is met.
func TestAPieceMayTurnOnItsLine(t *testing.T) {
	says := func(west, low, high float64, spoil func(*job.Job)) string {
		t.Helper()
		j := jobtest.Pole(job.Limb{ID: "a", AtM: 10, AzimuthDeg: 90, AngleDeg: 90, LengthM: 4, DiameterM: 0.1, Brush: job.BrushBare})
		j.Site.Anchors = []job.Anchor{{ID: "m", Name: "mast", Kind: job.AnchorGround, HeightM: jobtest.Of(20)}, {ID: "w", Name: "stake", Kind: job.AnchorGround, At: job.Spot{X: 9}}}
		j.Rigs[0].Block.Place, j.Rigs[0].SlackM = &job.Place{On: job.OnAnchor, Anchor: "m", AtM: 20}, jobtest.Of(0)
		j.Site.Zones = nil
		j.Site.Targets = []job.Target{{ID: "h", Name: "hut", Kind: "building", Box: &job.Box{Min: job.Spot{X: -west - 3, Y: -2}, Max: job.Spot{X: -west, Y: 2}}, FromM: low, ToM: high}}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(9), Way: job.WayFromAbove, Rig: "r1", TieM: jobtest.Of(2.5)}}
		if spoil != nil {
			spoil(&j)
		}
		a := assess(&j, "p1")
		if len(a.Picks[0].Faults) > 0 {
			t.Fatal(a.Picks[0].Faults)
		}
		for _, said := range a.Detail.Cautions {
			if strings.HasPrefix(said, "Turned on its line") {
				return said
			}
		}
		return ""
	}
	for _, c := range []struct {
		west, low, high float64
		spoil           func(*job.Job)
		want            string
	}{
		{3, 0, 3, nil, "Turned on its line it strikes hut: it is followed as it comes off, and only a tag line keeps it so."},
		// Its tip would be 4.01 m from the plumb line; the limb tilts the top a little as it hangs.
		{4.3, 0, 3, nil, "Turned on its line it comes within 0.35 m of hut: it is followed as it comes off, and only a tag line keeps it so."},
		{5, 0, 3, nil, ""},
		// Over it from the first, and under a roof that begins higher than the limb ever hangs.
		{3, 12.5, 14, nil, ""},
		{3, 0, 3, func(j *job.Job) { j.Picks[0].Tag = &job.Tag{Anchor: "w", PullKn: jobtest.Of(0.2)} }, ""},
		{3, 0, 3, func(j *job.Job) { j.Trees[0].Limbs[0].AzimuthDeg = 270 }, ""},
	} {
		if got := says(c.west, c.low, c.high, c.spoil); got != c.want {
			t.Errorf("a hut %v m off, from %v to %v m: %q", c.west, c.low, c.high, got)
		}
	}
}
