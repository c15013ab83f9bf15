package assess

import (
	"slices"
	"testing"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/search"
	"elkstay/core/space"
)

// Some of a row: evenly, no more than so many of them, the last as well and what is named.
func TestSomeOfARow(t *testing.T) {
	for _, c := range []struct {
		n, most int
		also    []int
		want    []int
	}{
		{0, 3, nil, nil}, {3, 3, nil, []int{0, 1, 2}}, {4, 3, nil, []int{0, 2, 3}}, {6, 3, nil, []int{0, 2, 4, 5}}, {7, 3, nil, []int{0, 3, 6}}, {10, 2, []int{7, 3}, []int{0, 3, 5, 7, 9}},
	} {
		if got := slices.Collect(search.Some(c.n, c.most, c.also...)); !slices.Equal(got, c.want) {
			t.Errorf("%d of %d and %v: %v, want %v", c.most, c.n, c.also, got, c.want)
		}
	}
	for k := range search.Some(9, 9) {
		if k > 2 {
			t.Fatal("it goes on")
		}
		if k == 2 {
			break
		}
	}
}

// The room beneath a piece is enough from what the crew wants on, close where only wood is nearer, and a run is too long beyond its limit.
func TestRoomAtItsBound(t *testing.T) {
	j := jobtest.Stem()
	v := surveyOf(t, &j)
	limit := 1.5
	v.Limits.RunM = &limit
	wanted := v.Limits.ClearM
	for _, c := range []struct {
		floor, hard, run float64
		holds            bool
		onto             string
		room, ran        policy.Verdict
	}{
		{2.5 - wanted, 2.5 - wanted, 1.5, true, "", policy.Within, policy.Within}, {2.501 - wanted, 2.5 - wanted, 1.5, true, "", policy.Close, policy.Within}, {2.501 - wanted, 2.501 - wanted, 1.501, true, "", policy.Over, policy.Over},
		{0, 0, 1, true, "roof", policy.Over, policy.Within}, {0, 0, 1, false, "", policy.Over, policy.Over},
	} {
		// Its lower end comes down to 2.5 m.
		held := &course.Held{Drops: true, Stops: c.holds, Holds: c.holds, LowestM: 2.5, RunM: c.run, Floor: space.Floor{Name: "arm", Z: c.floor, Hard: c.hard, Onto: c.onto}}
		got := v.room(asMade(held))
		if got.Verdict != c.room || got.RunVerdict != c.ran {
			t.Errorf("%+v: room %v, run %v", c, got.Verdict, got.RunVerdict)
		}
	}
}

// What stops a piece, one thing at a time and the first of several: a fault, the hold, what is loaded most over its limit,
// where it comes down, the room, what it strikes, the run; with the words for it.
func TestWhatStopsAPiece(t *testing.T) {
	j := jobtest.Stem()
	j.Limits.ClearM, j.Limits.RunM = jobtest.Of(0.5), jobtest.Of(2)
	v := surveyOf(t, &j)
	loaded := func(part string, use float64, known, unseen bool) hold.Load {
		return hold.Load{Part: part, PeakKn: 10 * use, Unseen: unseen, Rated: policy.Rated{Known: known, Limit: gear.Limit{Kn: 10}, RestLimit: 10}}
	}
	hangs := func(lowest float64) *Outcome { // its lower end so high over the ground
		return asMade(&course.Held{Drops: true, Stops: true, Holds: true, LowestM: lowest, Floor: space.Floor{Name: "the ground"}})
	}
	on := func(o *Outcome, change func(o *Outcome)) *Outcome { change(o); return o }
	lands := func(is policy.Verdict) *Outcome {
		o := asMade(nil)
		o.Landing = &Landing{Verdict: is, Reason: "no zone"}
		return o
	}
	clears := []course.Clearance{{Name: "limb", KeepsM: 1, Spared: true}, {Name: "shed", KeepsM: 1}}
	for _, c := range []struct {
		what       string
		o          *Outcome
		stop, said string
	}{
		{"nothing", hangs(3), "", ""},
		{"a tie beyond it", on(hangs(3), func(o *Outcome) { o.Fault(course.FaultTie, "far") }), course.StopsTie, "the tie, which must be within the piece"},
		{"wood that is gone", on(hangs(3), func(o *Outcome) { o.Fault(space.FaultGone, "gone") }), course.StopsWood, "nothing but the end of the wood"},
		{"another fault", on(hangs(3), func(o *Outcome) { o.Fault(course.FaultRig, "no rig") }), course.StopsOrder, "this: no rig"},
		{"no hold", on(hangs(3), func(o *Outcome) { o.Made.Held().Holds = false }), course.StopsHold, "the hold, which does not stop it"},
		{"a line over its limit", on(hangs(3), func(o *Outcome) { o.Loads = []hold.Load{loaded(hold.PartLine, 1.01, true, false)} }), hold.PartLine, "the limit of the line"},
		{"at its limit", on(hangs(3), func(o *Outcome) { o.Loads = []hold.Load{loaded(hold.PartLine, 1, true, false)} }), "", ""},
		{"the worse of two", on(hangs(3), func(o *Outcome) {
			o.Loads = []hold.Load{loaded(hold.PartLine, 1.2, true, false), loaded(hold.PartBlock, 1.3, true, false), loaded(hold.PartSling, 1.1, true, false)}
		}), hold.PartBlock, "the limit of the block"},
		{"not known", on(hangs(3), func(o *Outcome) { o.Loads = []hold.Load{loaded(hold.PartLine, 3, false, false)} }), "", ""},
		{"not seen", on(hangs(3), func(o *Outcome) { o.Loads = []hold.Load{loaded(hold.PartLine, 3, true, true)} }), "", ""},
		{"a piece too heavy", on(hangs(3), func(o *Outcome) { o.Loads = []hold.Load{loaded(hold.PartPiece, 3, true, false)} }), hold.PartPiece, "the heaviest piece you take"},
		{"where it lands", lands(policy.Over), course.StopsLand, "where it comes down: no zone"},
		{"where it lands not known", lands(policy.NotKnown), course.StopsLand, "where it comes down: no zone"},
		{"where it may hang up", lands(policy.Close), "", ""},
		{"little room", hangs(0.49), course.StopsRoom, "the room above the ground"},
		{"room enough", hangs(0.51), "", ""},
		{"put down on a roof", on(hangs(3), func(o *Outcome) { o.Made.Held().Floor = space.Floor{Name: "porch", Onto: "porch"} }), course.StopsRoom, "the room above porch"},
		{"what it strikes", on(hangs(3), func(o *Outcome) { o.Clears = clears }), course.StopsClear, "how close it comes to shed"},
		{"what it brushes", on(hangs(3), func(o *Outcome) { o.Clears = clears[:1] }), "", ""},
		{"a long run", on(hangs(3), func(o *Outcome) { o.Made.Held().RunM = 2.01 }), course.StopsRun, "the longest run"},
		{"a run as long as may be", on(hangs(3), func(o *Outcome) { o.Made.Held().RunM = 2 }), "", ""},
	} {
		got := v.Stops(c.o)
		if got != c.stop {
			t.Errorf("%s: stopped by %q, want %q", c.what, got, c.stop)
		} else if got != "" {
			if said := v.StopWords(got, c.o); said != c.said {
				t.Errorf("%s: said %q", c.what, said)
			}
		}
	}
	v.Limits.RunM = nil
	if got := v.Stops(on(hangs(3), func(o *Outcome) { o.Made.Held().RunM = 9 })); got != "" {
		t.Errorf("no longest run is set: %s", got)
	}
}

// What touches strikes, or brushes where it is wood; a rope is long enough from what it needs on.
func TestTouchingAndJustLongEnough(t *testing.T) {
	j := jobtest.Stem()
	v := surveyOf(t, &j)
	hut := &job.Target{Name: "hut", Kind: "building"}
	for _, c := range []struct {
		c    course.Clearance
		want string
	}{{course.Clearance{Name: "hut", Target: hut}, "strikes hut"}, {course.Clearance{Name: "hut", ClearanceM: 0.01, Target: hut}, "0.01 m from hut"}, {course.Clearance{Name: "arm"}, "brushes arm"}, {course.Clearance{Name: "arm", ClearanceM: 0.01}, "0.01 m from arm"}} {
		if got := v.closeTo(&c.c); got != c.want {
			t.Errorf("%+v: %q", c.c, got)
		}
	}
	_, o := worked(t, &j)
	for by, short := range map[float64]bool{0: false, -0.001: true} {
		long := o.Ropes[0].NeedM + by
		j.Rigs[0].RopeLengthM = &long
		a := assess(&j, "p1")
		if (len(a.Picks[0].Faults) > 0) != short {
			t.Errorf("%v m more than it needs: %v", by, a.Picks[0].Faults)
		}
		for _, need := range a.Ropes {
			if need.Rig == "r1" && !short && need.Verdict != policy.Within {
				t.Errorf("just long enough is short: %+v", need)
			}
		}
	}
}

// madeSo is a piece whose lines catch it so, and no more.
type madeSo struct {
	course.Course
	held *course.Held
}

func (m *madeSo) Held() *course.Held      { return m.held }
func (m *madeSo) Follow()                 {}
func (m *madeSo) Figures(*course.Figures) {}
func (m *madeSo) Words() course.Words     { return course.Words{} }

func asMade(held *course.Held) *Outcome {
	m := &madeSo{held: held}
	return &Outcome{Course: &m.Course, Made: m}
}
