package assess

import (
	"slices"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// tiedPoles is a pole to be felled and another of its kind beside it, their crowns tied at 12 m.
func tiedPoles() job.Job {
	j := jobtest.Poled()
	other := j.Trees[0]
	other.ID, other.Name, other.At = "2", "neighbour", &job.Spot{Y: 12}
	j.Trees = append(j.Trees, other)
	j.Trees[1].Tied = []job.Tied{{ID: "k1", To: j.Trees[0].ID, AtM: 12}}
	return j
}

func faultCodes(a *Assessment) string {
	codes := ""
	for _, f := range a.Picks[len(a.Picks)-1].Faults {
		codes += f.Code + " "
	}
	return codes
}

// What would pull another tree along is over, whichever of the two the tie was noted on, until it is
// cut free, the other tree is down to below the tie, or the piece leaves the tie standing.
func TestCrownsTiedTogether(t *testing.T) {
	j := tiedPoles()
	a := assess(&j, "p1")
	if a.Picks[0].Verdict != policy.Over || faultCodes(&a) != "tied " || !strings.Contains(a.Picks[0].Faults[0].Message, "neighbour at 12") {
		t.Errorf("tied: %s %v", a.Picks[0].Verdict, a.Picks[0].Faults)
	}
	if a.Detail.Fell == nil || len(a.Detail.Ladder) < 3 {
		t.Error("its loads are not worked out")
	}
	j.Trees[1].Tied[0].Free = true
	if a = assess(&j, "p1"); faultCodes(&a) != "" || !strings.Contains(strings.Join(a.Detail.Cautions, " "), "was tied to neighbour") {
		t.Errorf("cut free: %v %v", a.Picks[0].Faults, a.Detail.Cautions)
	}
	j.Trees[1].Tied[0].Free = false
	// Its neighbour topped at 11.5 m first: nothing is left to be tied to.
	first := job.Pick{ID: "p0", What: job.WhatTop, Tree: "2", CutM: jobtest.Of(11.5), Way: job.WayFree}
	j.Picks = append([]job.Pick{first}, j.Picks...)
	if a = assess(&j, "p1"); faultCodes(&a) != "" || !strings.Contains(a.Picks[0].Faults[0].Code, course.FaultTied) {
		t.Errorf("after its neighbour's top: %q, and that top %v", faultCodes(&a), a.Picks[0].Faults)
	}
	j.Picks[0].CutM = jobtest.Of(12.5)
	if a = assess(&j, "p1"); faultCodes(&a) != "tied " || len(a.Picks[0].Faults) > 0 && a.Picks[0].Faults[0].Code == course.FaultTied {
		t.Errorf("a cut above the tie: %q %v", faultCodes(&a), a.Picks[0].Faults)
	}
	for _, to := range []string{"2", "x"} {
		j.Trees[1].Tied[0].To = to
		if faults := j.Faults(); len(faults) != 1 || faults[0].Location != "body.trees[1].tied[0].to" {
			t.Errorf("tied to %q: %v", to, faults)
		}
	}
}

// Unions and cracks above the hinge want a tie near them, which is said and not credited; a tie in
// the air contradicts itself.
func TestTiesRoundWeakPlaces(t *testing.T) {
	j := jobtest.Poled()
	j.Trees[0].Defects = []job.Defect{{ID: "d1", Kind: job.DefectUnion, AtM: 8}, {ID: "d2", Kind: job.DefectCrack, AtM: 3, ToM: jobtest.Of(4)}}
	said := func() string { return strings.Join(assess(&j, "p1").Detail.Cautions, " ") }
	if got := said(); strings.Count(got, "is not tied round") != 2 {
		t.Errorf("untied: %s", got)
	}
	before := *rung(t, assess(&j, "p1"), hold.PartPull).PeakKn
	j.Picks[0].Fell.Straps = []job.Strap{{ID: "s1", AtM: 9.4}, {ID: "s2", AtM: 5.6}}
	if got := said(); strings.Count(got, "is not tied round") != 1 || !strings.Contains(got, "The union at 8.00 m is tied round at 9.40 m") || !strings.Contains(got, "The tie at 5.60 m is by no union") {
		t.Errorf("tied: %s", got)
	}
	if after := *rung(t, assess(&j, "p1"), hold.PartPull).PeakKn; after != before {
		t.Errorf("a tie changes the pull from %v to %v", before, after)
	}
	j.Picks[0].Fell.Straps[1].AtM = 30
	if a := assess(&j, "p1"); faultCodes(&a) != course.FaultFell+" " {
		t.Errorf("a tie in the air: %v", a.Picks[0].Faults)
	}
}

// Bedding logs lie along the fall, and it is told which side of the balance they lie on.
func TestBeddingLogs(t *testing.T) {
	j := jobtest.Poled()
	said := func() string { return strings.Join(assess(&j, "p1").Detail.Cautions, " ") }
	j.Picks[0].Fell.Beds = []job.Bed{{ID: "b1", OutM: 3}}
	if got := said(); !strings.Contains(got, "short of its balance") {
		t.Error(got)
	}
	j.Picks[0].Fell.Beds[0].OutM = 13
	if got := said(); !strings.Contains(got, "beyond its balance") {
		t.Error(got)
	}
	j.Picks[0].Fell.Beds = append(j.Picks[0].Fell.Beds, job.Bed{ID: "b2", OutM: 2, ThickM: jobtest.Of(0.5)})
	a := assess(&j, "p1")
	if got := said(); !strings.Contains(got, "comes down on its bedding logs") {
		t.Error(got)
	}
	// It falls to 90°, east: the logs lie there.
	beds := a.Detail.Fell.Beds
	if len(beds) != 2 || beds[0].ThickM != 0.3 || beds[1].ThickM != 0.5 {
		t.Fatalf("%+v", beds)
	}
	jobtest.Nearly(t, "13 m out", beds[0].At.X, 13)
	jobtest.Nearly(t, "on the line", beds[0].At.Y, 0)
	j.Picks[0].Fell.Beds[0].OutM = 40
	if a := assess(&j, "p1"); faultCodes(&a) != course.FaultFell+" " {
		t.Errorf("beyond its tip: %v", a.Picks[0].Faults)
	}
}

// Another tree of the same name that stands is hung up on, whatever stump it is felled across first; a stump of 1.2 m is lain
// across, the next centimetre is hung up on.
func TestFelledAcrossAStump(t *testing.T) {
	j := jobtest.Poled()
	for i, x := range []float64{8, 11} {
		other := j.Trees[0]
		other.ID, other.Name, other.At = []string{"2", "3"}[i], "ash", &job.Spot{X: x}
		j.Trees = append(j.Trees, other)
	}
	down := func(tree string, to float64) job.Pick {
		return job.Pick{ID: "down" + tree, Tree: tree, What: job.WhatTop, CutM: jobtest.Of(to), Way: job.WayFree, FallTowardsDeg: jobtest.Of(90)}
	}
	fells := j.Picks[0]
	const across = "It comes down across the stump of ash: it can break, roll or lift its butt there."
	for _, c := range []struct {
		what  string
		first []job.Pick
		is    policy.Verdict
		why   string
		lies  bool
	}{
		{"two stumps", []job.Pick{down("2", 1.2), down("3", 1)}, policy.Within, "into meadow", true},
		{"a stump and a tree", []job.Pick{down("2", 1)}, policy.Over, "it hangs up on ash", true},
		{"a tree and a stump", []job.Pick{down("3", 1)}, policy.Over, "it hangs up on ash", true},
		{"a high stump", []job.Pick{down("2", 1.21), down("3", 1)}, policy.Over, "it hangs up on ash", true},
		{"two trees", nil, policy.Over, "it hangs up on ash", false},
	} {
		j.Picks = slices.Concat(c.first, []job.Pick{fells})
		a := assess(&j, "p1")
		l := a.Detail.Landing
		if l.Verdict != c.is || l.Reason != c.why || strings.Contains(strings.Join(a.Detail.Cautions, " "), across) != c.lies {
			t.Errorf("%s: %s, %s, %v", c.what, l.Verdict, l.Reason, a.Detail.Cautions)
		}
	}
	// What is thrown or goes free may hang up on a stump as on anything.
	j.Picks = []job.Pick{down("2", 1), {ID: "p1", What: job.WhatTop, CutM: jobtest.Of(2), Way: job.WayFree, FallTowardsDeg: jobtest.Of(90)}}
	j.Trees = j.Trees[:2]
	if l := assess(&j, "p1").Detail.Landing; l.Verdict != policy.Close || l.Reason != "meadow, but it may hang up on ash" || len(l.HangsOn) != 1 {
		t.Errorf("free: %s, %s, %v", l.Verdict, l.Reason, l.HangsOn)
	}
}
