package ways_test

import (
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/course/coursetest"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways"
)

// What each way down is held by, as a crew would say.
var holds = map[job.Way]course.Holding{
	job.WayThrown: course.HeldByNothing, job.WayFree: course.HeldByNothing, job.WayFelled: course.HeldByNothing,
	job.WayPastBlock: course.HeldByLine, job.WayFromAbove: course.HeldByLine, job.WaySwung: course.HeldByLine,
	job.WayTwoPoints: course.HeldByLine, job.WayBothEnds: course.HeldByLine, job.WayCrane: course.HeldByCrane,
}

// Every way down that a pick may take is known wherever a way must be: worked out, held by
// something, given its minutes, said why it is proposed, said by the crew in words of its own, in
// the form and in the description of the API.
func TestEveryWayIsKnownWhereverAWayMustBe(t *testing.T) {
	j := job.NewJob("empty")
	minutes := policy.LimitsOf(&j, &policy.Policy{}).Minutes
	data, err := os.ReadFile("../../web/src/lib/order/ways.json")
	if err != nil {
		t.Fatal(err)
	}
	var form []ways.Described
	if err := json.Unmarshal(data, &form); err != nil || !slices.Equal(form, ways.All()) {
		t.Errorf("web/src/lib/order/ways.json is out of date: make generate (%v)", err)
	}
	described, err := os.ReadFile("../../web/src/lib/api/openapi.json")
	if err != nil {
		t.Fatal(err)
	}
	made := &courseOnly{course.Course{Scene: &course.Scene{Site: &space.Site{System: units.Metric}}}}
	said := map[string]bool{}
	for _, w := range job.Ways() {
		if ways.Find(w) == nil {
			t.Fatalf("%q is not worked out", w)
		}
		if got := ways.Find(w).Held(); got != holds[w] {
			t.Errorf("%q is held by %q, want %q", w, got, holds[w])
		}
		if ways.OnLine(w) != (holds[w] == course.HeldByLine) {
			t.Errorf("%q on a line: %v", w, ways.OnLine(w))
		}
		if minutes[w] <= 0 {
			t.Errorf("%q takes no minutes", w)
		}
		why := ways.Because(w, made, 40, "onto the lawn")
		if why == "" || said[why] || strings.Contains(why, "%!") {
			t.Errorf("%q is proposed because %q", w, why)
		}
		said[why] = true
		if w.String() == "" {
			t.Errorf("%q has no words", w)
		}
		if !strings.Contains(string(described), `"`+string(w)+`"`) {
			t.Errorf("%q is not in the API", w)
		}
	}
	if len(holds) != len(job.Ways()) {
		t.Errorf("%d ways, of %d it is known what holds", len(job.Ways()), len(holds))
	}
}

type courseOnly struct{ course.Course }

func (*courseOnly) Held() *course.Held      { return nil }
func (*courseOnly) Follow()                 {}
func (*courseOnly) Figures(*course.Figures) {}
func (*courseOnly) Words() course.Words     { return course.Words{} }

// Whatever way it is asked for, a piece of each kind is made, followed and said without a word of
// it left to another way, whether it can be or not.
func TestEveryWayMakesEveryPiece(t *testing.T) {
	for _, w := range job.Ways() {
		for _, p := range []job.Pick{{ID: "l", What: job.WhatLimb, Limb: "a"}, {ID: "s", What: job.WhatStem, CutM: jobtest.Of(15)}, {ID: "t", What: job.WhatTop, CutM: jobtest.Of(12)}, {ID: "n", What: job.WhatLimb, Limb: "gone"}} {
			p.Way, p.Rig = w, "r1"
			j := jobtest.Whole()
			j.Picks = []job.Pick{p}
			made := ways.Find(w).Make(coursetest.Course(t, &j, 0))
			made.Follow()
			if len(made.State().Faults) == 0 && p.ID == "n" {
				t.Errorf("%s: a limb that is gone is taken", w)
			}
			var f course.Figures
			made.Figures(&f)
			_ = made.Words()
		}
	}
}

func ExampleFind() {
	fmt.Println(ways.Find(job.WaySwung).Held(), ways.Find(job.WayFelled).Held())
	// Output: line none
}
