package hold

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// Everything that pulls on one holder at one moment is added: on an anchor the forces, on another tree and on a limb what they bend
// it by, at the moment when that is most; a pull that opposes relieves nothing.
func TestWhatPullsTogetherIsAdded(t *testing.T) {
	j := jobtest.Two()
	j.Trees[1].At = &job.Spot{X: 0, Y: 30}
	j.Trees[1].Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: 0.5}, {AtM: 20, Tape: job.Diameter, TapeM: 0.5}}
	j.Trees[1].HeightM, j.Trees[1].TopDiameterM = nil, nil
	j.Trees[1].Limbs[0] = job.Limb{ID: "n", AtM: 8, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.3, LengthM: 6, Brush: job.BrushBare}
	j.Site.Anchors = []job.Anchor{{ID: "a", Name: "stump", Kind: job.AnchorGround, Rating: gear.Rating{MarkedKn: jobtest.Of(10)}}}
	s := strength(&j)
	own, other := s.Site.Trees[0], s.Site.Trees[1]
	now := s.Site.Whole()[0]
	anchor := func(to r3.Vec) Force {
		return Force{Place: &job.Place{On: job.OnAnchor, Anchor: "a"}, Kn: to}
	}
	stem := func(z float64, to r3.Vec) Force {
		return Force{Place: &job.Place{On: job.OnStem, Tree: "2", AtM: z}, At: other.OnStem(z), Kn: to}
	}
	limb := func(at float64, to r3.Vec) Force {
		return Force{Place: &job.Place{On: job.OnLimb, Tree: "2", Limb: "n", AtM: at}, At: other.Limbs[0].At(at), Kn: to}
	}
	uses := func(on string, moments ...Moment) (list []float64) {
		for _, l := range s.Holders(own, moments, now) {
			if l.On == on {
				list = append(list, l.Use())
			}
		}
		return list
	}
	same := func(what string, got []float64, want ...float64) {
		t.Helper()
		if len(got) != len(want) {
			t.Fatalf("%s: %v, want %v", what, got, want)
		}
		for i := range got {
			if !(math.Abs(got[i]-want[i]) <= 2e-3*want[i]) {
				t.Errorf("%s: %v, want %v", what, got, want)
			}
		}
	}
	same("square to each other on an anchor", uses("stump", Moment{anchor(r3.Vec{X: 3}), anchor(r3.Vec{Y: 4})}), 0.5, 0.5)
	same("against each other", uses("stump", Moment{anchor(r3.Vec{X: 3}), anchor(r3.Vec{X: -4})}), 0.3, 0.4)
	same("together at the second of two moments", uses("stump", Moment{anchor(r3.Vec{X: 5}), anchor(r3.Vec{X: -4})}, Moment{anchor(r3.Vec{X: 3}), anchor(r3.Vec{X: 4})}), 0.7, 0.7)
	// 2 kN at 16 m and 4 kN at 8 m bend the foot by 32 kN·m each; its own weight presses there as well, which two do not double.
	one := uses("north ash", Moment{stem(16, r3.Vec{X: 2})})[0]
	press := uses("north ash", Moment{stem(16, r3.Vec{X: 1e-6})})[0]
	same("two on another tree", uses("north ash", Moment{stem(16, r3.Vec{X: 2}), stem(8, r3.Vec{X: 4})}), 2*one-press, 2*one-press)
	lone := uses(other.Limbs[0].Title(), Moment{limb(4, r3.Vec{Z: -3})})[0]
	both := uses(other.Limbs[0].Title(), Moment{limb(4, r3.Vec{Z: -2}), limb(4, r3.Vec{Z: -1}), stem(3, r3.Vec{X: 9})})
	same("a pull in two parts on a limb", both, lone, lone)
	// On ground that falls 20° its way the other tree's foot, and all on it, is 30·tan 20° = 10.919 m lower: it is bent by as much as before.
	j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = jobtest.Of(20), jobtest.Of(0)
	lower := func(f Force) Force { f.At.Z -= 10.919107; return f }
	same("its foot downhill", uses("north ash", Moment{lower(stem(16, r3.Vec{X: 2}))}), one)
	same("a limb of it", uses(other.Limbs[0].Title(), Moment{lower(limb(4, r3.Vec{Z: -2})), lower(limb(4, r3.Vec{Z: -1}))}), lone, lone)
}
