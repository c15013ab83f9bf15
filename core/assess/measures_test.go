package assess

import (
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/crane"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// What hangs below a tie is the piece's outer part when it balances beyond the tie, else its inner one; tied within 15 % of its
// length from its balance, the longer of both. Limbs may reach beyond either end.
func TestWhatHangsBelowATie(t *testing.T) {
	for _, c := range []struct{ cog, tie, reach, under, tells, most float64 }{
		{3, 1, 6, 0, 5, 5}, {1, 3, 6, 0.5, 3.5, 3.5}, {2, 2, 6, 0.5, 2.5, 4}, {2.2, 2, 6, 0.5, 4, 4}, {2, 2.2, 3, 0.5, 2.7, 2.7},
		// At the very bound either end may still be down.
		{0.6, 0, 2, 7, 2, 7}, {0, 0.6, 5, 1, 1.6, 4.4},
	} {
		o := &Outcome{Weight: mass{cog: c.cog}, Settings: job.Settings{TieM: c.tie}, toM: 4, reachM: c.reach, underM: c.under}
		jobtest.Nearly(t, "as its balance tells", o.below(), c.tells)
		jobtest.Nearly(t, "at most", o.mostBelow(c.tie), c.most)
	}
}

// Girths that nobody took make wood 15 % lighter at the low end and 18 % heavier at the other.
func TestOfferedGirthsWidenTheWeight(t *testing.T) {
	j := jobtest.Stem()
	taken := surveyOf(t, &j).density
	j.Trees[0].Readings[0].Offered = true
	offered := surveyOf(t, &j).density
	jobtest.Nearly(t, "low", offered.Low, 0.85*taken.Low)
	jobtest.Nearly(t, "likely", offered.Likely, taken.Likely)
	jobtest.Nearly(t, "high", offered.High, 1.18*taken.High)
}

// A lift goes straight up past all that stands round it: past a gangway that sticks out above it, and past one that is higher
// than its tree by less than its own length.
func TestALiftPassesWhatStandsAboveIt(t *testing.T) {
	for _, z := range []float64{19, 20.5} {
		j := lifted()
		j.Picks[0].Lift.Slings = j.Picks[0].Lift.Slings[:1]
		j.Picks[0].Lift.Slings[0].AtM = 2.5 // it hangs upright, its tip up
		j.Site.Targets = []job.Target{{ID: "g", Name: "gangway", Kind: "building", Outline: []job.Spot{{X: 2, Y: -1}, {X: 3, Y: -1}, {X: 3, Y: 1}, {X: 2, Y: 1}}, FromM: z, ToM: z + 0.3}}
		a := assess(&j, "p1")
		// Its butt, 0.3 m through, passes.
		between(t, "a gangway above it", clearOf(t, a, "gangway"), 2-0.15)
	}
}

// One sling aside of the balance is picked where it sits, when that is higher than the balance; the hook hangs over it.
func TestAHookMustReachTheHigherOfTieAndBalance(t *testing.T) {
	j := lifted()
	j.Picks[0].Lift.Slings = []crane.Sling{{Name: "one", AtM: 2.8, LengthM: 2, WllKn: 60, Hitch: crane.Choker}}
	// The tree stands 14 m from the crane; the sling sits at 17.8 m and its hook at least 2 m over that.
	for boom, want := range map[float64]bool{math.Hypot(14, 19.6): true, math.Hypot(14, 20.3): false} {
		j.Site.Cranes[0].BoomM, j.Site.Cranes[0].Chart[0].BoomM = boom, boom
		a := assess(&j, "p1")
		if got := strings.Contains(strings.Join(codes(a.Picks[0]), " "), faultReach); got != want {
			t.Errorf("%v m of boom: %v", boom, a.Picks[0].Faults)
		}
	}
}

// What a limb tips into a no-go sector: all of it lies over towards its fall, as long as it is and no further.
func TestALimbTipsIntoASector(t *testing.T) {
	j := carried() // level to the east, bare, 6 m
	j.Picks[0].Way, j.Picks[0].Ends, j.Picks[0].FallTowardsDeg = job.WayPastBlock, nil, jobtest.Of(90)
	j.Rigs[0].Block.Place = nil
	for to, want := range map[float64]bool{88: false, 89.2: true} { // half of its 0.11 m, 3 m out: 1.05°
		if got := inSector(j, 20, to); got != want {
			t.Errorf("a sector to %v°: %v", to, got)
		}
	}
}

// What is wrong with the wood near a turn of a line is said of the tree that it is on, wherever it turns.
func TestWhatIsWrongWhereLinesTurn(t *testing.T) {
	crack := func(limb string, at float64) []job.Defect {
		return []job.Defect{{ID: "k", Kind: job.DefectCrack, Limb: limb, AtM: at}}
	}
	onOther, onItsLimb := job.Place{On: job.OnStem, Tree: "2", AtM: 16}, job.Place{On: job.OnLimb, Tree: "2", Limb: "n", AtM: 2}
	for _, c := range []struct {
		what       string
		change     func(j *job.Job)
		says, lies string
	}{
		{"a block on another tree", func(j *job.Job) { j.Rigs[0].Block.Place = &onOther; j.Trees[1].Defects = crack("", 16.3) }, "At the block: ", ""},
		{"cracked elsewhere", func(j *job.Job) { j.Rigs[0].Block.Place = &onOther; j.Trees[1].Defects = crack("", 8) }, "", "At "},
		{"a crack at its height in this one", func(j *job.Job) { j.Rigs[0].Block.Place = &onOther; j.Trees[0].Defects = crack("", 16) }, "", "At "},
		{"a block on its limb", func(j *job.Job) {
			j.Picks[0].Limb, j.Rigs[0].Block.Place = "a", &onItsLimb
			j.Trees[1].Defects = crack("n", 2.5)
		}, "At the block: ", ""},
		{"its stem cracked there", func(j *job.Job) {
			j.Picks[0].Limb, j.Rigs[0].Block.Place = "a", &onItsLimb
			j.Trees[1].Defects = crack("", 2)
		}, "", "At "},
		{"a turn on it", func(j *job.Job) {
			j.Rigs[0].Redirects = []job.Redirect{{Name: "low turn", Efficiency: jobtest.Of(0.9), Place: job.Place{On: job.OnStem, Tree: "2", AtM: 2}}}
			j.Trees[1].Defects = crack("", 2.5)
		}, "At low turn: ", "At the block: "},
		{"where two lines would meet", func(j *job.Job) {
			j.Rigs[0].Second = &job.SecondLine{Place: onOther}
			j.Trees[1].Defects = crack("", 16)
		}, "", "At "},
		{"the other of two points", func(j *job.Job) {
			j.Rigs[0].Block.Place, j.Rigs[0].Second = &job.Place{On: job.OnStem, AtM: 17}, &job.SecondLine{Place: onOther}
			j.Picks[0].Way, j.Picks[0].CarryM = job.WayTwoPoints, jobtest.Of(11)
			j.Trees[1].Defects = crack("", 16)
		}, "At the second block: ", "At the block: "},
	} {
		j := two()
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "c", Way: job.WayFromAbove, Rig: "r1"}}
		c.change(&j)
		a := assess(&j, "p1")
		if a.Detail == nil || len(a.Picks[0].Faults) > 0 {
			t.Fatalf("%s: %v, %+v", c.what, a.Faults, a.Picks)
		}
		said := strings.Join(a.Detail.Cautions, " ")
		if c.says != "" && strings.Count(said, c.says) != 1 || c.lies != "" && strings.Contains(said, c.lies) {
			t.Errorf("%s: %s", c.what, said)
		}
	}
}

// A place at a share of the way between two.
func TestOnTheWay(t *testing.T) {
	from, to := r3.Vec{X: 1, Y: 2, Z: 3}, r3.Vec{X: 5, Y: -2, Z: 4}
	if got := onTheWay(from, to, 0.25); got != (r3.Vec{X: 2, Y: 1, Z: 3.25}) {
		t.Error(got)
	}
}
