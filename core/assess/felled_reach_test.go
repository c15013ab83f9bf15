package assess

import (
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"math"
	"slices"
	"testing"
)

// A limb on the side of the fall and a stem that leans reach as far as they are from the hinge, and no further: √(11.5² + 16²) = 19.70 m of a
// limb 16 m out at 12 m over a cut at 0.5 m; 17.5/cos 20° = 18.62 m of a stem that leans 20°, forward or back.
func TestAFallSweepsAsFarAsItReaches(t *testing.T) {
	for what, c := range map[string]struct {
		change func(tree *job.Tree)
		far    float64
	}{
		"a limb": {func(tree *job.Tree) {
			tree.Limbs = []job.Limb{{ID: "a", AtM: 12, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.2, LengthM: 16, Brush: job.BrushBare}}
		}, math.Hypot(11.5, 16)},
		"leaning there": {func(tree *job.Tree) { tree.LeanDeg, tree.LeanTowardsDeg = jobtest.Of(20), jobtest.Of(90) }, 17.5 / math.Cos(20*math.Pi/180)},
		"leaning back":  {func(tree *job.Tree) { tree.LeanDeg, tree.LeanTowardsDeg = jobtest.Of(20), jobtest.Of(270) }, 17.5 / math.Cos(20*math.Pi/180)},
	} {
		hits := func(from float64) bool {
			j := jobtest.Poled()
			c.change(&j.Trees[0])
			// It stands where its cut is.
			at := 0.5 * math.Tan(20*math.Pi/180) * map[string]float64{"leaning there": 1, "leaning back": -1}[what]
			j.Site.Targets = []job.Target{{ID: "t", Name: "shed", Kind: "building", Box: &job.Box{Min: job.Spot{X: at + from, Y: -2}, Max: job.Spot{X: at + from + 3, Y: 2}}, ToM: 0.1}}
			return slices.Contains(assess(&j, "p1").Detail.Landing.Hits, "shed")
		}
		if !hits(c.far-0.02) || hits(c.far+1.15*0.6) {
			t.Errorf("%s: a shed at %.2f m is hit: %v; 0.7 m beyond: %v", what, c.far, hits(c.far-0.02), hits(c.far+1.15*0.6))
		}
		j := jobtest.Poled()
		c.change(&j.Trees[0])
		// From the ground at the stump, half a metre below the cut.
		if got := assess(&j, "p1").Detail.Fell.FarthestM; !(got >= c.far && got <= 0.5+c.far*1.01) {
			t.Errorf("%s: farthest %v m, by hand %v m from the hinge", what, got, c.far)
		}
	}
}

// The stem under a top that is felled aloft: a slender pole that goes over a hinge to 90° pulls it forward with 3/2 of its weight at the end
// (ω² = 3g/L, m·ω²·L/2), a stiff stem as much, one that sways slowly by no more than twice; standing on the ground there is none.
func TestATopFelledAloftBendsItsStem(t *testing.T) {
	spar := func(cut, thick float64) (kn, weight float64, found bool) {
		j := jobtest.Poled()
		tree := &j.Trees[0]
		tree.Readings = []job.Reading{{AtM: 0.3, Tape: job.Diameter, TapeM: thick}, {AtM: cut - 0.02, Tape: job.Diameter, TapeM: thick}, {AtM: cut - 0.01, Tape: job.Diameter, TapeM: 0.16}}
		tree.HeightM, tree.TopDiameterM = jobtest.Of(cut+8), jobtest.Of(0.16)
		j.Picks[0].CutM = &cut
		j.Picks[0].Fell = &job.Fell{OpeningDeg: jobtest.Of(90), Wedged: true}
		a := assess(&j, "p1")
		for _, r := range a.Detail.Ladder {
			if r.Part == hold.PartSpar {
				return *r.PeakKn, a.Detail.Piece.MassKg.High * g / 1000, true
			}
		}
		return 0, 0, false
	}
	kn, weight, found := spar(6, 0.9)
	if !found || kn < 1.4*weight || kn > 1.15*1.5*weight {
		t.Errorf("under a stiff stem %v kN, the top %v kN", kn, weight)
	}
	if slow, weight, found := spar(9, 0.3); !found || slow < 0.8*weight || slow > 3*weight {
		t.Errorf("on a stem that sways %v kN, the top %v kN", slow, weight)
	}
	if _, _, found := spar(0.5, 0.5); found {
		t.Error("from the ground")
	}
}
