package hold

import (
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// Two lines on one thing leave less of it for each: as their forces add, at rest as at the peak; what leads the other way relieves nothing.
func TestTwoLinesOnOneThing(t *testing.T) {
	for _, c := range []struct {
		what  string
		a, b  r3.Vec
		share float64
	}{
		{"one way", r3.Vec{X: 1}, r3.Vec{X: 1}, 2}, {"square to each other", r3.Vec{X: 1}, r3.Vec{Y: 1}, math.Sqrt2}, {"against each other", r3.Vec{X: 1}, r3.Vec{X: -1}, 1}, {"nobody knows where to", r3.Vec{X: 1}, r3.Vec{}, 2},
	} {
		line := func(dir r3.Vec) Load {
			return Load{Part: PartHolder, On: "stump", Dir: dir, RestKn: 1, PeakKn: 2, Rated: policy.Rated{Known: true, RestLimit: 4, Limit: gear.Limit{Kn: 10, Reason: "marked"}}}
		}
		loads := []Load{{Part: PartHolder, On: "stump", RestKn: 3, PeakKn: 9, Rated: policy.Rated{Known: true, Limit: gear.Limit{Kn: 1}}}, line(c.a), line(c.b), {Part: PartHolder, On: "oak", RestKn: 1, PeakKn: 2, Rated: policy.Rated{Known: true, Limit: gear.Limit{Kn: 10}}}}
		Together(loads[1:])
		for i := 1; i < 3; i++ {
			l := &loads[i]
			jobtest.Nearly(t, c.what+": its limit", l.Limit.Kn, 10/c.share)
			jobtest.Nearly(t, c.what+": at rest", l.RestLimit, 4/c.share)
			if strings.Contains(l.Limit.Reason, "2 lines pull on it") != (c.share > 1) {
				t.Errorf("%s: %s", c.what, l.Limit.Reason)
			}
		}
		if loads[0].Limit.Kn != 1 || loads[3].Limit.Kn != 10 {
			t.Errorf("%s: what is not together is left: %+v", c.what, loads)
		}
	}
}

// A basket holds by the angle between its legs: upright legs twice, at right angles √2, and where nobody gives it as at 120°, once; a
// choker four fifths.
func TestWhatAHitchHolds(t *testing.T) {
	for _, c := range []struct {
		hitch string
		legs  *float64
		want  float64
	}{{"basket", jobtest.Of(0), 20}, {"basket", jobtest.Of(90), 10 * math.Sqrt2}, {"basket", nil, 10}, {"vertical", nil, 10}, {"choker", nil, 8}, {"", nil, 8}} {
		l := Load{Rated: policy.Rated{Known: true, RestLimit: 5, Limit: gear.Limit{Kn: 10}}}
		l.Hitched(c.hitch, c.legs)
		jobtest.Nearly(t, c.hitch, l.Limit.Kn, c.want)
		jobtest.Nearly(t, c.hitch+" at rest", l.RestLimit, c.want/2)
	}
}
