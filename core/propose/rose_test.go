package propose

import (
	"fmt"
	"math"
	"os"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// ringed is the invented stem as a bare pole of 18 m, a meadow all round it, and a stump 25 m east.
func ringed() job.Job {
	j := jobtest.Stem()
	j.Trees[0].Readings[0].AtM, j.Trees[0].Readings[0].CavityM = 0.3, 0
	j.Site.Anchors = []job.Anchor{{ID: "e", Name: "old stump", Kind: job.AnchorGround, At: job.Spot{X: 25}, Rating: gear.Rating{MarkedKn: jobtest.Of(80)}}}
	j.Site.Zones = []job.Zone{{ID: "z", Name: "meadow", Outline: []job.Spot{{X: -40, Y: -40}, {X: 40, Y: -40}, {X: 40, Y: 40}, {X: -40, Y: 40}}}}
	parts := 3
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(0.5), Way: job.WayFelled, FallTowardsDeg: jobtest.Of(90),
		Fell: &job.Fell{Lines: []job.FellLine{{ID: "l1", AtM: 12, Anchor: "e", Parts: &parts, EffortKn: jobtest.Of(4.3)}}}}}
	return j
}

func rose(t *testing.T, j *job.Job) Rose {
	t.Helper()
	r, err := Fall(j, "p1", assess.Options{Units: "metric"})
	if err != nil {
		t.Fatal(err)
	}
	return r
}

// A house north-west, a sector south, a pull that leads east only: what each bearing says, worked
// out beside the core from where the things stand.
func TestTheRoseByHand(t *testing.T) {
	j := ringed()
	j.Site.Targets = []job.Target{{ID: "h", Name: "pump house", Kind: "building", Box: &job.Box{Min: job.Spot{X: -14, Y: 8}, Max: job.Spot{X: -8, Y: 14}}, ToM: 4}}
	j.Site.Sectors = []job.Sector{{ID: "s", Name: "path", FromDeg: 170, ToDeg: 200}}
	r := rose(t, &j)
	if len(r.Bearings) != 72 {
		t.Fatalf("%d bearings", len(r.Bearings))
	}
	struck, barred := 0, 0
	for i, b := range r.Bearings {
		if b.Deg != float64(5*i) {
			t.Errorf("bearing %d is %v°", i, b.Deg)
		}
		// The pole, 18 m long, comes down within ±5° of the bearing, at least 0.5 m wide: where the
		// house's corners are, by angle and distance.
		hits := false
		for _, off := range []float64{-5, 0, 5} {
			sin, cos := math.Sincos((b.Deg + off) * math.Pi / 180)
			for s := 0.5; s <= 17.4; s += 0.1 {
				hits = hits || s*sin > -14 && s*sin < -8 && s*cos > 8 && s*cos < 14
			}
		}
		if hits && b.Kind != assess.FellStrikes {
			t.Errorf("%v° strikes the house: %+v", b.Deg, b)
		}
		if b.Kind == assess.FellStrikes {
			struck++
			// Wider than its axis by what it may scatter, no more.
			if angle := math.Atan2(-11, 11) * 180 / math.Pi; !(math.Abs(math.Remainder(b.Deg-angle, 360)) <= 35) {
				t.Errorf("%v° strikes nothing: %+v", b.Deg, b)
			}
		}
		if b.Deg >= 170 && b.Deg <= 200 && b.Kind != assess.FellSector {
			t.Errorf("%v° leads into the sector: %+v", b.Deg, b)
		}
		if b.Kind == assess.FellSector {
			barred++
		}
		// The pull bears 90° or more off a fall to the west: nothing brings it there but wedges, and
		// they do not lift it.
		if off := math.Abs(math.Remainder(b.Deg-90, 360)); off >= 90 && b.Anchor == "e" {
			t.Errorf("%v° is pulled to the east: %+v", b.Deg, b)
		}
	}
	if struck == 0 || barred < 7 || barred > 13 {
		t.Errorf("%d strike, %d are barred", struck, barred)
	}
	at := func(deg int) assess.Bearing { return r.Bearings[deg/5] }
	if east := at(90); !open(&east) || east.PullKn == nil || !east.AsSet || !strings.Contains(east.Reason, "as set") {
		t.Errorf("east, as it is set: %+v", east)
	}
	// The same sums as the board's own pick turned there.
	board := j
	board.Picks[0].FallTowardsDeg = jobtest.Of(70)
	d := assess.Assess(&board, assess.Options{Units: "metric", Pick: "p1"}).Detail
	jobtest.Nearly(t, "pull at 70°", *at(70).PullKn, d.Pulls[0].NeedKn)
	jobtest.Nearly(t, "side at 70°", *at(70).SideUsePct, d.Fell.SideUsePct)
	if len(r.Windows) == 0 || r.Windows[0].FromDeg > 90 || r.Windows[0].ToDeg < 90 || !strings.Contains(r.Said, "It can go from") || len(r.Cautions) == 0 {
		t.Errorf("%+v: %s", r.Windows, r.Said)
	}
	for _, w := range r.Windows {
		for deg := w.FromDeg; deg <= w.ToDeg; deg += 5 {
			if b := at(int(math.Mod(deg, 360))); b.Verdict != policy.Within && b.Verdict != policy.Close {
				t.Errorf("%v° is in the window %+v and closed: %+v", deg, w, b)
			}
		}
		if b := at(int(w.BestDeg)); b.Verdict != policy.Within && b.Verdict != policy.Close {
			t.Errorf("the best of %+v: %+v", w, b)
		}
	}
}

// A window that runs over north is one; a tree that goes by itself goes all round; shut in, no
// bearing is open and it is said why.
func TestWindowsOfTheRose(t *testing.T) {
	j := ringed()
	j.Site.Anchors[0].At = job.Spot{Y: 25} // north
	r := rose(t, &j)
	found := false
	for _, w := range r.Windows {
		found = found || w.FromDeg > 180 && w.ToDeg > 360 && strings.Contains(w.Said, fmt.Sprintf("to %.0f°", w.ToDeg-360))
	}
	if !found {
		t.Errorf("over north: %+v", r.Windows)
	}
	j.Site.Zones[0].Outline = []job.Spot{{X: -5, Y: -5}, {X: 5, Y: -5}, {X: 5, Y: 5}, {X: -5, Y: 5}}
	if r = rose(t, &j); len(r.Windows) != 0 || !strings.Contains(r.Said, "No bearing is open") || !strings.Contains(r.Said, "find no drop zone") {
		t.Errorf("shut in: %s", r.Said)
	}
	if _, err := Fall(&j, "gone", assess.Options{Units: "metric"}); err == nil {
		t.Error("a pick that is not there")
	}
	j.Trees[0].Wood.Species = ""
	if r = rose(t, &j); len(r.Bearings) != 0 || r.Said == "" {
		t.Errorf("no species: %+v", r)
	}
}

// Nothing known of what pulls: the rose says what it takes and that it is not known.
func TestTheRoseWithoutAnEffort(t *testing.T) {
	j := ringed()
	j.Picks[0].Fell = nil
	r := rose(t, &j)
	east := r.Bearings[18]
	if east.Verdict != policy.NotKnown || east.Kind != assess.FellUnknown || east.PullKn == nil || east.GivesKn != nil || east.Anchor != "e" {
		t.Errorf("%+v, %v of %v", east, east.PullKn, east.GivesKn)
	}
	// A vehicle of a known weight is counted on for its grip on wet grass; on dry ground it may pull with 47 kN, more than a rope of 14 takes.
	j.Site.Anchors = []job.Anchor{{ID: "v", Name: "carrier", Kind: job.AnchorVehicle, At: job.Spot{X: 24, Y: 2}, MassKg: jobtest.Of(8000)}}
	east = rose(t, &j).Bearings[18]
	if east.Anchor != "v" || east.GivesKn == nil || east.Verdict != policy.Over || !strings.Contains(east.Reason, "line") {
		t.Fatalf("%+v", east)
	}
	up := math.Atan2(12.2-0.3, math.Hypot(24, 2)) // tied two thirds up
	jobtest.Nearly(t, "its grip", *east.GivesKn, 8*9.80665*0.5*0.35/(math.Cos(up)+0.35*math.Sin(up)))
}

func BenchmarkRose(b *testing.B) {
	j := ringed()
	for i := range 20 {
		sin, cos := math.Sincos(float64(i) * 18 * math.Pi / 180)
		x, y := 30*sin, 30*cos
		j.Site.Targets = append(j.Site.Targets, job.Target{ID: fmt.Sprint("t", i), Name: fmt.Sprint("house ", i), Kind: "building", Box: &job.Box{Min: job.Spot{X: x, Y: y}, Max: job.Spot{X: x + 3, Y: y + 3}}, ToM: 4})
	}
	for i := range 4 {
		sin, cos := math.Sincos(float64(i)*90*math.Pi/180 + 0.3)
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: fmt.Sprint("a", i), Name: fmt.Sprint("stump ", i), Kind: job.AnchorGround, At: job.Spot{X: 25 * sin, Y: 25 * cos}})
	}
	j.Trees[0].Limbs = jobtest.Whole().Trees[0].Limbs
	for b.Loop() {
		if r, err := Fall(&j, "p1", assess.Options{Units: "metric"}); err != nil || len(r.Bearings) != 72 {
			b.Fatal(err)
		}
	}
}

// A bearing that is pressed is as open on the board as on the rose: with the lines that the rose names,
// the pick comes to the verdict that the rose gave it.
func TestTheBoardAgreesWithTheRose(t *testing.T) {
	t.Parallel()
	data, err := os.ReadFile("../../demo/reed-lock.json")
	if err != nil {
		t.Fatal(err)
	}
	read, err := job.ReadJob(data)
	if err != nil {
		t.Fatal(err)
	}
	checked := 0
	for k := range read.Picks {
		if read.Picks[k].Way != job.WayFelled {
			continue
		}
		rose, err := Fall(&read, read.Picks[k].ID, assess.Options{Units: "metric"})
		if err != nil {
			t.Fatal(err)
		}
		for i := range rose.Bearings {
			b := &rose.Bearings[i]
			if i%3 != 0 || !open(b) {
				continue
			}
			j, err := job.ReadJob(data)
			if err != nil {
				t.Fatal(err)
			}
			p := &j.Picks[k]
			p.FallTowardsDeg = &b.Deg
			if !b.AsSet {
				p.Fell.Lines, p.Fell.Wedged = b.Lines, p.Fell.Wedged || len(b.Lines) == 0
			}
			checked++
			got := assess.Assess(&j, assess.Options{Units: "metric", Pick: p.ID}).Picks[k]
			if len(got.Faults) > 0 || got.Verdict != b.Verdict {
				t.Errorf("%s to %v°: the rose says %s (%s), the board %s %v", p.ID, b.Deg, b.Verdict, b.Reason, got.Verdict, got.Faults)
			}
		}
	}
	if checked < 5 {
		t.Errorf("only %d open bearings", checked)
	}
}

// Windows of bearings that are given: none cut at north, the widest first, and in each the best: within before close, the least
// used hinge, the middle.
func TestWindowsOfARose(t *testing.T) {
	n := int(360 / roseStep)
	of := func(verdicts map[int]policy.Verdict, side map[int]float64) Rose {
		r := Rose{Bearings: make([]assess.Bearing, n)}
		for i := range r.Bearings {
			b := &r.Bearings[i]
			b.Deg, b.Verdict, b.Reason = float64(i)*roseStep, policy.Over, "it is closed"
			if v, open := verdicts[i]; open {
				b.Verdict, b.Reason = v, "it is open"
			}
			if use, given := side[i]; given {
				b.SideUsePct = &use
			}
		}
		r.windows()
		return r
	}
	within, shut := policy.Within, policy.Close
	for _, c := range []struct {
		what     string
		verdicts map[int]policy.Verdict
		side     map[int]float64
		want     [][3]int // from, to, best
	}{
		{"none", nil, nil, nil},
		{"one", map[int]policy.Verdict{5: within}, nil, [][3]int{{5, 5, 5}}},
		{"two, the wider first", map[int]policy.Verdict{3: within, 10: within, 11: within, 12: within}, nil, [][3]int{{10, 12, 11}, {3, 3, 3}}},
		{"over north", map[int]policy.Verdict{n - 2: within, n - 1: within, 0: within, 1: within, 2: within}, nil, [][3]int{{n - 2, n + 2, 0}}},
		{"within before close", map[int]policy.Verdict{10: within, 11: shut, 12: shut}, nil, [][3]int{{10, 12, 10}}},
		{"the least used hinge", map[int]policy.Verdict{10: within, 11: within, 12: within}, map[int]float64{10: 90, 11: 80, 12: 5}, [][3]int{{10, 12, 12}}},
		{"a hinge little less used is not worth the edge", map[int]policy.Verdict{10: within, 11: within, 12: within}, map[int]float64{10: 5, 11: 6, 12: 6}, [][3]int{{10, 12, 11}}},
	} {
		r := of(c.verdicts, c.side)
		if len(r.Windows) != len(c.want) {
			t.Errorf("%s: %+v", c.what, r.Windows)
			continue
		}
		for i, w := range r.Windows {
			if want := c.want[i]; w.FromDeg != float64(want[0])*roseStep || w.ToDeg != float64(want[1])*roseStep || w.BestDeg != float64(want[2])*roseStep {
				t.Errorf("%s: from %v to %v, best %v, want %v", c.what, w.FromDeg, w.ToDeg, w.BestDeg, want)
			}
		}
	}
	all := map[int]policy.Verdict{}
	for i := range n {
		all[i] = within
	}
	round := of(all, map[int]float64{7: 0})
	if len(round.Windows) != 1 || !strings.HasPrefix(round.Windows[0].Said, "all round, best at") {
		t.Errorf("%+v", round.Windows)
	}
	if one := of(map[int]policy.Verdict{5: within, 6: within}, nil).Windows[0]; !strings.HasPrefix(one.Said, "from 25° to 30°, best at") {
		t.Errorf("%q", one.Said)
	}
}

// The windows of a rose of which it is given what is open: the widest first, one over north as one, the best in the middle of what is
// alike; all of it open it goes all round.
func TestWindowsOfWhatIsOpen(t *testing.T) {
	of := func(runs ...[2]int) Rose {
		r := Rose{Bearings: make([]assess.Bearing, 72)}
		for i := range r.Bearings {
			r.Bearings[i] = assess.Bearing{Deg: float64(5 * i), Verdict: policy.Over, Reason: "as it is"}
		}
		for _, run := range runs {
			for i := run[0]; i <= run[1]; i++ {
				r.Bearings[i%72].Verdict = policy.Within
			}
		}
		r.windows()
		return r
	}
	got := of([2]int{10, 20}, [2]int{40, 44}, [2]int{69, 75}).Windows
	want := []Window{{FromDeg: 50, ToDeg: 100, BestDeg: 75}, {FromDeg: 345, ToDeg: 375, BestDeg: 0}, {FromDeg: 200, ToDeg: 220, BestDeg: 210}}
	if len(got) != len(want) {
		t.Fatalf("%+v", got)
	}
	for i := range want {
		if got[i].FromDeg != want[i].FromDeg || got[i].ToDeg != want[i].ToDeg || got[i].BestDeg != want[i].BestDeg {
			t.Errorf("window %d: %+v, want %+v", i, got[i], want[i])
		}
	}
	if said := got[1].Said; said != "from 345° to 15°, best at 0°: as it is" {
		t.Error(said)
	}
	if all := of([2]int{0, 71}).Windows; len(all) != 1 || all[0].Said != "all round, best at 175°: as it is" {
		t.Errorf("all round: %+v", all)
	}
	if most := of([2]int{1, 71}).Windows; len(most) != 1 || strings.Contains(most[0].Said, "all round") {
		t.Errorf("all but north: %+v", most)
	}
	if none := of().Windows; len(none) != 0 {
		t.Errorf("none: %+v", none)
	}
	// The least used side of the hinge is best, wherever it is in the window.
	r := of([2]int{10, 20})
	for i := range r.Bearings {
		r.Bearings[i].SideUsePct = jobtest.Of(40)
	}
	r.Bearings[19].SideUsePct = jobtest.Of(2)
	r.Windows = nil
	if r.windows(); r.Windows[0].BestDeg != 95 {
		t.Errorf("the least used side: %+v", r.Windows)
	}
}

// By fells a tree that no bearing is open to is taken down in pieces all the same, and what its wholes are called carries the nearest of
// all its limits.
func TestWhatCannotBeFelledIsPieced(t *testing.T) {
	t.Parallel()
	j := ringed()
	j.Picks = nil
	for i, b := range []job.Box{{Min: job.Spot{X: -20, Y: 4}, Max: job.Spot{X: 20, Y: 20}}, {Min: job.Spot{X: -20, Y: -20}, Max: job.Spot{X: 20, Y: -4}}, {Min: job.Spot{X: 4, Y: -4}, Max: job.Spot{X: 20, Y: 4}}, {Min: job.Spot{X: -20, Y: -4}, Max: job.Spot{X: -4, Y: 4}}} {
		j.Site.Targets = append(j.Site.Targets, job.Target{ID: fmt.Sprint("h", i), Name: fmt.Sprint("house ", i), Kind: "building", Box: &b, ToM: 4})
	}
	p := Order(&j, ByFells, "", assess.Options{Units: "metric"})
	pieced := Order(&j, ByUp, "", assess.Options{Units: "metric"})
	if len(p.Picks) < 4 || len(p.Picks) != len(pieced.Picks) {
		t.Fatalf("%d picks by fells, %d in pieces: %s", len(p.Picks), len(pieced.Picks), p.State)
	}
	for i := range p.Picks {
		if p.Picks[i].Pick.Way == job.WayFelled || p.Picks[i].Title != pieced.Picks[i].Title {
			t.Errorf("pick %d by fells: %+v", i, p.Picks[i])
		}
	}
	j = jobtest.Whole()
	j.Picks = nil
	whole, err := Trees(&j, j.Trees[0].ID, assess.Options{Units: "metric"})
	if err != nil {
		t.Fatal(err)
	}
	told := 0
	for _, way := range whole.Ways {
		trial, most := j, 0.0
		trial.Picks = way.Picks
		figures := assess.Assess(&trial, assess.Options{Units: "metric"}).Picks
		for i, f := range figures {
			if f.Nearest != nil {
				if i > 0 && f.Nearest.UsePct > most {
					told++
				}
				most = max(most, f.Nearest.UsePct)
			}
		}
		if way.Nearest != "" && !strings.HasSuffix(way.Nearest, fmt.Sprintf(" %.0f %%", most)) {
			t.Errorf("%s: nearest %s, of its picks %.0f %%", way.Title, way.Nearest, most)
		}
	}
	if told == 0 {
		t.Errorf("of no way is the nearest limit a later pick's: %+v", whole.Ways)
	}
}
