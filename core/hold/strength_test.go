package hold

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// A vehicle on its brake holds less downhill and across than on the level, by the balance of forces on its wheels; where it slips by itself it
// holds nothing, whichever way it is pulled; which way the ground falls, nobody said: the way it is pulled.
func TestWhatAVehicleHoldsOnASlope(t *testing.T) {
	const weight = 3000 * 9.80665e-3
	limit := func(slope float64, towards *float64, dir r3.Vec) float64 {
		j := jobtest.Stem()
		j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = &slope, towards
		j.Site.Anchors = []job.Anchor{{ID: "v", Name: "truck", Kind: job.AnchorVehicle, MassKg: jobtest.Of(3000)}}
		s := strength(&j)
		l := s.Anchored(&j.Site.Anchors[0], &Pull{Place: &job.Place{On: job.OnAnchor, Anchor: "v"}, Dir: dir, PeakKn: 1})
		return l.Limit.Kn
	}
	near := func(what string, got, want float64) {
		t.Helper()
		if !(math.Abs(got-want) <= 1e-6*max(1, want)) {
			t.Errorf("%s: %v kN, want %v", what, got, want)
		}
	}
	east := jobtest.Of(90)
	// μ = 0.35 on half of the weight.
	near("level", limit(0, nil, r3.Vec{X: 1}), 0.175*weight)
	sin, cos := math.Sincos(5 * math.Pi / 180)
	near("level line downhill", limit(5, east, r3.Vec{X: 1}), weight*(0.175*cos-sin)/(cos+0.35*sin))
	near("nobody said which way", limit(5, nil, r3.Vec{Y: -1}), weight*(0.175*cos-sin)/(cos+0.35*sin))
	near("across", limit(5, east, r3.Vec{Y: 1}), weight*math.Sqrt(0.175*cos*0.175*cos-sin*sin))
	for _, dir := range []r3.Vec{{X: 1}, {Y: 1}, {X: -1}} {
		near("where it slips by itself", limit(12, east, dir), 1e-3)
	}
}
