package assess

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// Let go on the way down: the fall is the same all the way between upright lines, and hardest at first, while the line
// left is shortest. A box that it only reaches after it was lowered is named, the ground is not.
func TestLetGoAnywhereOnTheWay(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	short := drop.Held{MassKg: assess(&j, "p1").Detail.Piece.MassKg.High, SinkM: 5 - assess(&j, "p1").Detail.Piece.CogM, LineM: 7, LeadM: math.Hypot(5, 16-1.2), Rope: j.Rigs[1].Rope.Rope, Efficiency: 0.9013}
	said := strings.Join(assess(&j, "p1").Detail.Cautions, "\n")
	_, rest, _ := strings.Cut(said, "onto the line at the tip: ")
	var kn float64
	if _, err := fmt.Sscanf(rest, "%f kN", &kn); err != nil || !(math.Abs(kn-short.Solve().LinePeakKn) <= 0.051) {
		t.Errorf("%v kN, at first %v; %s", kn, short.Solve().LinePeakKn, said)
	}
	// It hangs 7 m under a block of 16 m and, tied 5 m along, 5 m beneath that: from 4 m down to where it is put down.
	for at, strikes := range map[float64]bool{7: false, 5: true} {
		j := jobtest.Carried()
		j.Site.Targets = []job.Target{besides("coop", at, 0, 0.4, 3.2)}
		said := strings.Join(assess(&j, "p1").Detail.Cautions, "\n")
		if first, _, _ := strings.Cut(said, "\n"); !strings.Contains(first, "onto the line at the tip") || strings.Contains(first, "it strikes coop") != strikes {
			t.Errorf("a coop at %v m: %s", at, said)
		}
	}
}

// What is held at both ends has the room beneath it judged as it is caught, its run, and what it is put down on.
func TestTheRoomUnderTwoLines(t *testing.T) {
	t.Parallel()
	caught := func(height, slack float64, change func(j *job.Job)) Assessment {
		j := jobtest.Carried()
		j.Trees[0].Limbs[0].AtM = height
		for i := range j.Site.Anchors {
			j.Site.Anchors[i].Rating = gear.Rating{MarkedKn: jobtest.Of(90)}
		}
		for _, end := range []*job.End{&j.Picks[0].Ends.Butt, &j.Picks[0].Ends.Tip} {
			end.SlackM = jobtest.Of(slack)
		}
		change(&j)
		return assess(&j, "p1")
	}
	as := func(*job.Job) {}
	// Level as it grew it comes down by its slack and what its lines stretch; its butt, a tenth of a metre thick to either side, and
	// turned by what one line stretches more, is the lowest of it.
	for _, slack := range []float64{0, 0.5} {
		a := caught(9, slack, func(j *job.Job) { j.Picks[0].Ends.FaceDeg = jobtest.Of(0) })
		low := *a.Detail.Room.LowestM
		if most := 9 - slack - 0.1; low > most || low < most-0.6 || a.Picks[0].ClearanceM == nil {
			t.Errorf("%v m of slack: down to %v m, at most %v", slack, low, most)
		}
	}
	if a := caught(0.9, 1.6, as); a.Picks[0].Verdict != policy.Over || !strings.HasSuffix(a.Picks[0].Worst, "into the ground") {
		t.Errorf("with more slack than it is high: %s, %s", a.Picks[0].Verdict, a.Picks[0].Worst)
	}
	runs := caught(9, 0.5, func(j *job.Job) {
		j.Limits.RunM = jobtest.Of(0.001)
		for i := range j.Rigs {
			j.Rigs[i].Catch = job.Catch{How: job.ByHold, HoldKn: jobtest.Of(1.5)}
		}
	})
	if got := runs.Picks[0]; got.RunM == nil || *got.RunM <= 0.001 || got.Verdict != policy.Over || got.Worst != "runs "+printed(*got.RunM, 2)+" m" {
		t.Errorf("%v m run: %s, %s", value(got.RunM), got.Verdict, got.Worst)
	}
	roof := caught(9, 0, func(j *job.Job) {
		j.Site.Targets = []job.Target{{ID: "t", Name: "porch", Kind: "building", Box: &job.Box{Min: job.Spot{X: 1, Y: -1}, Max: job.Spot{X: 4, Y: 1}}, ToM: 0.4}}
		j.Picks[0].Ends.Program = []job.EndStep{{Line: job.EndBoth, ByM: 5}}
	})
	if got := roof.Picks[0]; got.Verdict != policy.Over || got.Worst != "to be put down on porch" {
		t.Errorf("over a porch: %s, %s", got.Verdict, got.Worst)
	}
}

// In a hurry it is told whether it is stopped as both lines catch it, which no other program helps: by what is right beneath, or
// by a mast too weak for the catch; what stops it only on its way down, a roof, another may avoid.
func TestStoppedAsItsLinesCatchIt(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		what   string
		roof   float64
		marked float64
		stops  string
		early  bool
	}{
		{"nothing beneath", 0, 40, "", false},
		{"a roof right beneath", 8.8, 40, course.StopsRoom, true},
		{"a roof on its way down", 3, 40, course.StopsClear, false},
		{"weak masts", 0, 0.5, hold.PartHolder, true},
	} {
		j := jobtest.Carried()
		for i := range j.Site.Anchors {
			j.Site.Anchors[i].MarkedKn = &c.marked
		}
		j.Site.Targets = nil
		if c.roof > 0 {
			j.Site.Targets = []job.Target{{ID: "h", Name: "boathouse", Kind: "building", Box: &job.Box{Min: job.Spot{X: 2, Y: -2}, Max: job.Spot{X: 9, Y: 2}}, ToM: c.roof}}
		}
		v := surveyOf(t, &j)
		v.Hurried = true
		o := v.WorkWith(&j.Picks[0], v.RigOf(&j.Picks[0]), 1, v.Now(v.Before(0)))
		if got := v.Stops(o); got != c.stops || o.StoppedEarly() != c.early {
			t.Errorf("%s: stopped by %q, early %v", c.what, got, o.StoppedEarly())
		}
	}
}

// A line holds what it carries at rest when its hand holds what friction over its block leaves of that: 0.9 of it, not all.
func TestAHoldBehindTheBlockIsEnough(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		share float64
		held  bool
	}{{1.27, true}, {1.6, true}} {
		j := jobtest.Carried()
		efficiency := 0.9
		for i := range j.Rigs {
			j.Rigs[i].Block.Efficiency = &efficiency
			j.Site.Anchors[i].MarkedKn = jobtest.Of(80)
		}
		rest := assess(&j, "p1").Detail.Ends.Lines
		for i := range j.Rigs {
			j.Rigs[i].Catch = job.Catch{How: job.ByHold, HoldKn: jobtest.Of(c.share * rest[i].RestKn)}
		}
		a := assess(&j, "p1")
		if len(a.Picks[0].Faults) > 0 {
			t.Fatal(a.Picks[0].Faults)
		}
		for _, r := range a.Detail.Ladder {
			if (r.Verdict == policy.NotHeld) == c.held {
				t.Errorf("held by %v of what rests: %s is %s", c.share, r.Part, r.Verdict)
			}
		}
	}
}
