package assess

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
)

// Girths that nobody took make wood 15 % lighter at the low end and 18 % heavier at the other.
func TestOfferedGirthsWidenTheWeight(t *testing.T) {
	j := jobtest.Stem()
	taken := surveyOf(t, &j).Density
	j.Trees[0].Readings[0].Offered = true
	offered := surveyOf(t, &j).Density
	jobtest.Nearly(t, "low", offered.Low, 0.85*taken.Low)
	jobtest.Nearly(t, "likely", offered.Likely, taken.Likely)
	jobtest.Nearly(t, "high", offered.High, 1.18*taken.High)
}

// A lift goes straight up past all that stands round it: past a gangway that sticks out above it, and past one that is higher
// than its tree by less than its own length.
func TestALiftPassesWhatStandsAboveIt(t *testing.T) {
	for _, z := range []float64{19, 20.5} {
		j := jobtest.Lifted()
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
	j := jobtest.Lifted()
	j.Picks[0].Lift.Slings = []crane.Sling{{Name: "one", AtM: 2.8, LengthM: 2, WllKn: 60, Hitch: crane.Choker}}
	// The tree stands 14 m from the crane; the sling sits at 17.8 m and its hook at least 2 m over that.
	for boom, want := range map[float64]bool{math.Hypot(14, 19.6): true, math.Hypot(14, 20.3): false} {
		jobtest.Boom(&j, boom)
		a := assess(&j, "p1")
		if got := strings.Contains(strings.Join(codes(a.Picks[0]), " "), course.FaultReach); got != want {
			t.Errorf("%v m of boom: %v", boom, a.Picks[0].Faults)
		}
	}
}

// What a limb tips into a no-go sector: all of it lies over towards its fall, as long as it is and no further.
func TestALimbTipsIntoASector(t *testing.T) {
	j := jobtest.Carried() // level to the east, bare, 6 m
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
	t.Parallel()
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
		j := jobtest.Two()
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
	if got := space.OnTheWay(from, to, 0.25); got != (r3.Vec{X: 2, Y: 1, Z: 3.25}) {
		t.Error(got)
	}
}

// Two turns of a line at one place are no way for it, on a rig and on a line that pulls.
func TestTurnsAtOnePlace(t *testing.T) {
	turn := func(name string, at float64) job.Redirect {
		return job.Redirect{Name: name, Efficiency: jobtest.Of(0.9), Place: job.Place{On: job.OnStem, AtM: at}}
	}
	for at, want := range map[float64]bool{3: true, 3.02: false} {
		j := jobtest.Stem()
		j.Rigs[0].Redirects = []job.Redirect{turn("one", 3), turn("two", at)}
		a := assess(&j, "p1")
		if got := len(a.Picks[0].Faults) == 1 && strings.Contains(a.Picks[0].Faults[0].Message, "two sits at the same place as the one before it"); got != want {
			t.Errorf("on a rig, at %v m: %v", at, a.Picks[0].Faults)
		}
		j = jobtest.Poled()
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "post", Name: "post", Kind: job.AnchorGround, At: job.Spot{X: 20, Y: 3}, HeightM: jobtest.Of(4)})
		for _, z := range []float64{3, at} {
			j.Picks[0].Fell.Lines[0].Redirects = append(j.Picks[0].Fell.Lines[0].Redirects, job.Redirect{Name: "turn", Efficiency: jobtest.Of(0.9), Place: job.Place{On: job.OnAnchor, Anchor: "post", AtM: z}})
		}
		if a = assess(&j, "p1"); strings.Contains(strings.Join(messages(a.Picks[0]), " "), "turn sits at the same place as what is before it on its line") != want {
			t.Errorf("on a pulling line, at %v m: %v", at, a.Picks[0].Faults)
		}
	}
}

func messages(p PickFigures) (list []string) {
	for _, f := range p.Faults {
		list = append(list, f.Message)
	}
	return list
}

// Over a terrace that is 2 m higher a line needs 2 m less, one line or two that share.
func TestRopeNeededOverWhatStandsBeneath(t *testing.T) {
	t.Parallel()
	for _, twin := range []bool{false, true} {
		need := func(top float64) float64 {
			j := jobtest.Hung(0)
			if twin {
				j.Picks[0].Twin = &job.Twin{FasterM: jobtest.Of(0)}
			}
			j.Site.Targets = []job.Target{{ID: "t", Name: "terrace", Kind: "ground", Box: &job.Box{Min: job.Spot{X: -9, Y: -9}, Max: job.Spot{X: 12, Y: 9}}, ToM: top}}
			return assess(&j, "p1").Ropes[0].NeedM
		}
		jobtest.Nearly(t, "less rope", need(1)-need(3), 2)
	}
}

// What a line made tight before the cut is caught with runs and stretches as much more as it says, and hangs lower by that; where it
// never stops nothing is said of how low.
func TestHowLowATightLineComes(t *testing.T) {
	j := jobtest.Hung(0)
	j.Picks[0].TieM, j.Rigs[0].SlackM, j.Site.Anchors[0].At = jobtest.Of(1), jobtest.Of(0), job.Spot{X: 1}
	_, loose := worked(t, &j)
	j.Picks[0].TightKn = jobtest.Of(1)
	_, o := worked(t, &j)
	was, is := loose.Rope().Catch, o.Rope().Catch
	if is.StretchM >= was.StretchM-1e-3 {
		t.Fatalf("it stretches as much: %v and %v m", is.StretchM, was.StretchM)
	}
	jobtest.Nearly(t, "lower by what it stretches more", is.LowestM-was.LowestM, is.RunM-was.RunM+is.StretchM-was.StretchM)
}

// Lines of which nobody has said how hard they pull share evenly, and so do lines that hold against the same side.
func TestLinesShareEvenlyUnsaid(t *testing.T) {
	needs := func(pulls, holds int) (pull, hold []float64) {
		j := jobtest.Poled()
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(180)
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{Y: 18}})
		one := j.Picks[0].Fell.Lines[0]
		one.EffortKn = nil
		lines := []job.FellLine{}
		for k := range pulls + holds {
			one.ID = strings.Repeat("l", k+1)
			if k == pulls {
				one.Holds, one.Anchor, one.Parts = true, "n", nil
			}
			lines = append(lines, one)
		}
		j.Picks[0].Fell.Lines = lines
		a := assess(&j, "p1")
		if len(a.Picks[0].Faults) > 0 {
			t.Fatal(a.Picks[0].Faults)
		}
		for _, p := range a.Detail.Pulls {
			if p.Holds {
				hold = append(hold, p.NeedKn)
			} else {
				pull = append(pull, p.NeedKn)
			}
		}
		return pull, hold
	}
	pull, hold := needs(1, 1)
	for _, n := range []int{2, 3} {
		pulls, holds := needs(n, n)
		for k := range n {
			jobtest.Nearly(t, "each that pulls", pulls[k], pull[0]/float64(n))
			jobtest.Nearly(t, "each that holds", holds[k], hold[0]/float64(n))
		}
	}
}

// Of each piece of gear the pick counts that asks most of it: a lighter load on a worse limit, what is not known before what is
// within. Rigs and gear of one name stay apart.
func TestWhatTheGearOfAJobSees(t *testing.T) {
	j := jobtest.Stem()
	v := surveyOf(t, &j)
	one, two := job.Rig{ID: "1", Name: "rig"}, job.Rig{ID: "2", Name: "rig"}
	on := func(number int, rig *job.Rig, item string, peak, limit float64) *Outcome {
		return &Outcome{Course: &course.Course{Piece: &space.Piece{Number: number}, Rig: rig, Loads: []hold.Load{{Part: hold.PartSling, Name: "sling", Item: item, PeakKn: peak, Why: "no figures", Rated: policy.Rated{Known: limit > 0, Limit: gear.Limit{Kn: limit}}}}}}
	}
	for _, c := range []struct {
		what  string
		picks []*Outcome
		want  string
	}{
		{"a heavier load", []*Outcome{on(1, &one, "", 4, 20), on(2, &one, "", 5, 20)}, "2: 5 of 20 in 2"},
		{"a lighter one on a worse limit", []*Outcome{on(1, &one, "", 5, 40), on(2, &one, "", 4, 8)}, "2: 4 of 8 in 2"},
		{"a heavier one on a better limit", []*Outcome{on(1, &one, "", 4, 8), on(2, &one, "", 5, 40)}, "1: 4 of 8 in 2"},
		{"not known", []*Outcome{on(1, &one, "", 5, 40), on(2, &one, "", 1, 0)}, "2: 1 of 0 in 2"},
		{"over", []*Outcome{on(1, &one, "", 50, 40), on(2, &one, "", 90, 0)}, "1: 50 of 40 in 2"},
		{"neither known", []*Outcome{on(1, &one, "", 5, 0), on(2, &one, "", 6, 0), on(3, &one, "", 2, 0)}, "2: 6 of 0 in 3"},
		{"twice in one pick", []*Outcome{on(1, &one, "", 5, 40), on(1, &one, "", 6, 40)}, "1: 6 of 40 in 1"},
		{"another rig of the name", []*Outcome{on(1, &one, "", 5, 40), on(2, &two, "", 6, 40)}, "1: 5 of 40 in 1, 2: 6 of 40 in 1"},
		{"another sling of the name", []*Outcome{on(1, &one, "a", 5, 40), on(2, &one, "b", 4, 40)}, "1: 5 of 40 in 1, 2: 4 of 40 in 1"},
	} {
		var sees tally
		for _, o := range c.picks {
			sees.add(v, o)
		}
		got := make([]string, len(sees.uses))
		for i, u := range sees.uses {
			got[i] = fmt.Sprintf("%d: %g of %g in %d", u.Pick, u.PeakKn, job.Or(u.LimitKn, 0), u.Picks)
		}
		if said := strings.Join(got, ", "); said != c.want {
			t.Errorf("%s: %s, want %s", c.what, said, c.want)
		}
	}
	// A rope is enough to the last millimetre; the short one of another rig of the name is told as well.
	rope := func(rig *job.Rig, have, need float64) *course.RopeUse {
		with := *rig
		with.RopeLengthM = &have
		return &course.RopeUse{Rig: &with, NeedM: need}
	}
	for _, c := range []struct {
		ropes []*course.RopeUse
		want  []policy.Verdict
	}{
		{[]*course.RopeUse{rope(&one, 40, 40)}, []policy.Verdict{policy.Within}}, {[]*course.RopeUse{rope(&one, 40, 40.01)}, []policy.Verdict{policy.Over}},
		{[]*course.RopeUse{rope(&one, 45, 40), rope(&two, 20, 25)}, []policy.Verdict{policy.Within, policy.Over}},
		{[]*course.RopeUse{rope(&one, 45, 40), rope(&one, 45, 46), rope(&one, 45, 30)}, []policy.Verdict{policy.Over}},
	} {
		var sees tally
		got := []policy.Verdict{}
		for _, o := range c.ropes {
			sees.rope(o, 1)
		}
		for _, r := range sees.ropes {
			got = append(got, r.Verdict)
		}
		if !slices.Equal(got, c.want) {
			t.Errorf("%v, want %v", got, c.want)
		}
	}
}
