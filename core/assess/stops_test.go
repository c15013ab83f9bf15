package assess

import (
	"slices"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// What stops a piece, one thing at a time and the first of several: a fault, the hold, what is loaded most over its limit,
// where it comes down, the room, what it strikes, the run; with the words for it.
func TestWhatStopsAPiece(t *testing.T) {
	j := jobtest.Stem()
	j.Limits.ClearM, j.Limits.RunM = jobtest.Of(0.5), jobtest.Of(2)
	v := surveyOf(t, &j)
	loaded := func(part string, use float64, known, unseen bool) load {
		return load{part: part, peak: 10 * use, unseen: unseen, Rated: policy.Rated{Known: known, Limit: gear.Limit{Kn: 10}, RestLimit: 10}}
	}
	hangs := func(lowest float64) *Outcome { // its lower end so high over the ground
		o := &Outcome{DropCase: &drop.Case{}, cut: r3.Vec{Z: 10}, reachM: 1, toM: 1, floor: floor{name: "the ground"}}
		o.Catch = drop.Catch{Holds: true, LowestM: 10 - 1 - lowest} // tied at its balance it may hang a metre lower than the drop reckons
		return o
	}
	on := func(o *Outcome, change func(o *Outcome)) *Outcome { change(o); return o }
	lands := func(is Verdict) *Outcome { return &Outcome{Landing: &Landing{Verdict: is, Reason: "no zone"}} }
	clears := []Clearance{{Name: "limb", Verdict: Close}, {Name: "shed", Verdict: Over}}
	for _, c := range []struct {
		what       string
		o          *Outcome
		stop, said string
	}{
		{"nothing", hangs(3), "", ""},
		{"a tie beyond it", on(hangs(3), func(o *Outcome) { o.fault(faultTie, "far") }), StopsTie, "the tie, which must be within the piece"},
		{"wood that is gone", on(hangs(3), func(o *Outcome) { o.fault(faultGone, "gone") }), StopsWood, "nothing but the end of the wood"},
		{"another fault", on(hangs(3), func(o *Outcome) { o.fault(faultRig, "no rig") }), StopsOrder, "this: no rig"},
		{"no hold", on(hangs(3), func(o *Outcome) { o.Catch.Holds = false }), stopsHold, "the hold, which does not stop it"},
		{"a line over its limit", on(hangs(3), func(o *Outcome) { o.loads = []load{loaded(PartLine, 1.01, true, false)} }), PartLine, "the limit of the line"},
		{"at its limit", on(hangs(3), func(o *Outcome) { o.loads = []load{loaded(PartLine, 1, true, false)} }), "", ""},
		{"the worse of two", on(hangs(3), func(o *Outcome) {
			o.loads = []load{loaded(PartLine, 1.2, true, false), loaded(PartBlock, 1.3, true, false), loaded(PartSling, 1.1, true, false)}
		}), PartBlock, "the limit of the block"},
		{"not known", on(hangs(3), func(o *Outcome) { o.loads = []load{loaded(PartLine, 3, false, false)} }), "", ""},
		{"not seen", on(hangs(3), func(o *Outcome) { o.loads = []load{loaded(PartLine, 3, true, true)} }), "", ""},
		{"a piece too heavy", on(hangs(3), func(o *Outcome) { o.loads = []load{loaded(PartPiece, 3, true, false)} }), PartPiece, "the heaviest piece you take"},
		{"where it lands", lands(Over), stopsLand, "where it comes down: no zone"},
		{"where it lands not known", lands(NotKnown), stopsLand, "where it comes down: no zone"},
		{"where it may hang up", lands(Close), "", ""},
		{"little room", hangs(0.49), StopsRoom, "the room above the ground"},
		{"room enough", hangs(0.51), "", ""},
		{"put down on a roof", on(hangs(3), func(o *Outcome) { o.floor = floor{name: "porch", onto: "porch"} }), StopsRoom, "the room above porch"},
		{"what it strikes", on(hangs(3), func(o *Outcome) { o.clears = clears }), StopsClear, "how close it comes to shed"},
		{"what it brushes", on(hangs(3), func(o *Outcome) { o.clears = clears[:1] }), "", ""},
		{"a long run", on(hangs(3), func(o *Outcome) { o.Catch.RunM = 2.01 }), stopsRun, "the longest run"},
		{"a run as long as may be", on(hangs(3), func(o *Outcome) { o.Catch.RunM = 2 }), "", ""},
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
	v.limits.RunM = nil
	if got := v.Stops(on(hangs(3), func(o *Outcome) { o.Catch.RunM = 9 })); got != "" {
		t.Errorf("no longest run is set: %s", got)
	}
}

// Some of a row: evenly, no more than so many of them, the last as well and what is named.
func TestSomeOfARow(t *testing.T) {
	for _, c := range []struct {
		n, most int
		also    []int
		want    []int
	}{
		{0, 3, nil, nil}, {3, 3, nil, []int{0, 1, 2}}, {4, 3, nil, []int{0, 2, 3}}, {6, 3, nil, []int{0, 2, 4, 5}}, {7, 3, nil, []int{0, 3, 6}}, {10, 2, []int{7, 3}, []int{0, 3, 5, 7, 9}},
	} {
		if got := slices.Collect(some(c.n, c.most, c.also...)); !slices.Equal(got, c.want) {
			t.Errorf("%d of %d and %v: %v, want %v", c.most, c.n, c.also, got, c.want)
		}
	}
	for k := range some(9, 9) {
		if k > 2 {
			t.Fatal("it goes on")
		}
		if k == 2 {
			break
		}
	}
}
