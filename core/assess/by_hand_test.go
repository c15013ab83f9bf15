package assess

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// What the scale has taught of stem and of limbs is put on each by itself; a limb that is a guess keeps its doubt, and wood of which
// nothing was weighed is heavier where a piece of both was.
func TestWhatTheScaleTaughtByHand(t *testing.T) {
	j := jobtest.Whole()
	v := surveyOf(t, &j)
	m := mass{Kg: wood.Range{Low: 150, Likely: 200, High: 280}, stem: wood.Range{Low: 90, Likely: 120, High: 160}, guessed: 20}
	stem, limbs := &timber.Learned{Factor: 1.1, LowFactor: 1, HighFactor: 1.25}, &timber.Learned{Factor: 0.9, LowFactor: 0.7, HighFactor: 1.3}
	for _, c := range []struct {
		what      string
		learned   map[bool]*timber.Learned
		heavier   float64
		offered   bool
		low, most float64
		likely    float64
	}{
		{"nothing", nil, 1, false, 150, 280, 200},
		{"a piece of both was heavier", nil, 1.2, false, 150, 280 * 1.2, 200},
		{"of the stem", map[bool]*timber.Learned{false: stem}, 1.2, false, 120 + 60, 150 + 120*1.2, 132 + 80},
		// A quarter of the limbs, 20 of 80 kg, is a guess: from 0.6 to 1.55 times what is likely.
		{"of the limbs", map[bool]*timber.Learned{true: limbs}, 1, false, 90 + 56*(1-0.25*0.4), 160 + 104*(1+0.25*0.55), 120 + 72},
		{"of both", map[bool]*timber.Learned{false: stem, true: limbs}, 1.2, false, 120 + 56*0.9, 150 + 104*1.1375, 132 + 72},
		{"of both, the girths offered", map[bool]*timber.Learned{false: stem, true: limbs}, 1, true, 120*offeredLess + 56*0.9, 150*offeredMore + 104*1.1375, 132 + 72},
	} {
		v.learned, v.heavier, v.offered = c.learned, c.heavier, c.offered
		got := v.taught(&m)
		jobtest.Nearly(t, c.what+": low", got.Low, c.low)
		jobtest.Nearly(t, c.what+": likely", got.Likely, c.likely)
		jobtest.Nearly(t, c.what+": high", got.High, c.most)
	}
}

// A stem that is bent is weighed along its axis: from 0.6 m east and 0.2 south, 6 m up, to 1.4 m west and 1 m north, 14 m up.
func TestABentStemIsLongerThanItIsHigh(t *testing.T) {
	j := jobtest.Stem()
	at := func(z, x, y float64) job.Reading {
		return job.Reading{AtM: z, Tape: job.Diameter, TapeM: 0.4, Offset: &job.Offset{OffM: math.Hypot(x, y), TowardsDeg: math.Mod(math.Atan2(x, y)*180/math.Pi+360, 360)}}
	}
	j.Trees[0].Readings = []job.Reading{at(0.5, 0, 0), at(6, 0.6, -0.2), at(14, -1.4, 1)}
	v := surveyOf(t, &j)
	jobtest.Nearly(t, "from bend to bend", v.longer(10), math.Sqrt(1+(4+1.44)/64))
	jobtest.Nearly(t, "at the bend", v.longer(6), math.Sqrt(1+(4+1.44)/64))
}

// What a rope of two slopes holds at a tension, by the areas under it.
func TestEnergyOfARopeOfTwoSlopes(t *testing.T) {
	t.Parallel()
	j := hung1(0)
	j.Rigs[0].Rope.Elongation = []gear.Stretch{{LoadPct: 10, StrainPct: 2}, {LoadPct: 30, StrainPct: 4}} // of 80 kN: 8 and 24
	j.Rigs[0].Rope.DynamicFactor = 0
	_, o := worked(t, &j)
	own, lead, r := o.DropCase.LineM(), o.leadM(), o.Ratio()
	long := func(kn float64) float64 {
		strain := func(t float64) float64 {
			if t <= 8 {
				return 0.02 * t / 8
			}
			return 0.02 + 0.02*(t-8)/16
		}
		return own*strain(kn) + lead*strain(kn*r)
	}
	for _, kn := range []float64{5, 12, 20} {
		m, kj := o.stretched(kn)
		want := 0.0
		const parts = 200000
		for k := range parts {
			mid := kn * (float64(k) + 0.5) / parts
			want += mid * (long(kn*float64(k+1)/parts) - long(kn*float64(k)/parts))
		}
		if !(math.Abs(m-long(kn)) <= 1e-9) || !(math.Abs(kj-want) <= 2e-3*want) {
			t.Errorf("%v kN: %v m and %v kJ, by hand %v and %v", kn, m, kj, long(kn), want)
		}
	}
}

// Who stands by the cut is who cuts, wherever the tree stands.
func TestInTheTreeIsByItsFoot(t *testing.T) {
	j := jobtest.Stem()
	j.Trees[0].At = &job.Spot{X: 7, Y: -11}
	v := surveyOf(t, &j)
	for at, want := range map[job.Spot]bool{{X: 7, Y: -11}: true, {X: 8.9, Y: -11}: true, {X: 9.1, Y: -11}: false, {X: 7, Y: -12.9}: true, {X: 7, Y: -13.1}: false, {}: false, {X: -7, Y: 11}: false} {
		if got := v.inTheTree(&job.Post{At: at}); got != want {
			t.Errorf("at %+v: %v", at, got)
		}
	}
}

// Who stands where a felled tree, its butt or a tight line can come is named: by how far and which way from the stump and from the line.
func TestWhoStandsWhereAFallGoes(t *testing.T) {
	t.Parallel()
	j := poled()
	j.Site.Anchors[0].At = job.Spot{X: 25, Y: 12}
	j.Picks[0].Fell.Lines[0].Redirects = []job.Redirect{{Name: "turn", Place: job.Place{On: job.OnAnchor, Anchor: "t", AtM: 0.3}}}
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "t", Name: "turn stump", Kind: job.AnchorGround, At: job.Spot{X: 24, Y: 3}})
	said := func(x, y float64) string {
		j.Site.Posts = []job.Post{{ID: "p", Role: "watcher", At: job.Spot{X: x, Y: y}}}
		list := []string{}
		for _, one := range assess(&j, "p1").Detail.Cautions {
			if strings.HasPrefix(one, "watcher stands") {
				list = append(list, strings.Join(strings.Fields(one)[2:5], " "))
			}
		}
		return strings.Join(list, "; ")
	}
	far := 18.0 // as high as it stands
	for _, c := range []struct {
		x, y float64
		want string
	}{
		// The butt comes back within 40° of straight behind, from 1 to 5 m.
		{-4, 0, "behind the stump,"}, {-4.99, 0, "behind the stump,"}, {-5.01, 0, ""}, {-1.01, 0, "behind the stump,"}, {-0.99, 0, ""},
		{-3 * math.Cos(radians(39)), 3 * math.Sin(radians(39)), "behind the stump,"}, {-3 * math.Cos(radians(41)), -3 * math.Sin(radians(41)), ""},
		// The fall goes within 2 m and 10° of where it is told, a metre further than its tip may come down.
		{3.01, 0, "inside the fall."}, {2.99, 0, ""}, {10, 2 + 10*math.Tan(radians(10)) - 0.01, "inside the fall."}, {10, -2 - 10*math.Tan(radians(10)) - 0.01, ""},
		{far + 0.9, 0, "inside the fall."}, {far + 1.1, 0, ""}, {-0.99, 3, ""},
		// By the line from where it comes down to 2.5 m, and in the bight of its turn.
		{23.008, 1.374, "in the path"}, {23.01, 1.354, ""}, {24.5, 6, "in the path"}, {20, 6, "in the bight"},
	} {
		if got := said(c.x, c.y); !strings.Contains(got, c.want) || (got == "") != (c.want == "") {
			t.Errorf("(%.2f, %.2f): %q, want %q", c.x, c.y, got, c.want)
		}
	}
}

// Lines of which nobody has said what they give share evenly, and so do lines that hold to one side.
func TestLinesShareEvenlyWhatIsNotKnown(t *testing.T) {
	j := poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(180)
	line := j.Picks[0].Fell.Lines[0]
	line.EffortKn, line.Parts = nil, nil
	second, n1, n2 := line, line, line
	second.ID = "l2"
	n1.ID, n1.Anchor, n1.Holds = "h1", "n", true
	n2.ID, n2.Anchor, n2.Holds = "h2", "n", true
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{Y: 18}})
	j.Picks[0].Fell.Lines = []job.FellLine{line, n1}
	alone := assess(&j, "p1").Detail.Pulls
	j.Picks[0].Fell.Lines = []job.FellLine{line, second, n1, n2}
	shared := assess(&j, "p1").Detail.Pulls
	if len(alone) != 2 || len(shared) != 4 || alone[1].NeedKn < 0.1 {
		t.Fatalf("%+v, %+v", alone, shared)
	}
	for i := range 2 {
		jobtest.Nearly(t, "each of two that pull", shared[i].NeedKn, alone[0].NeedKn/2)
		jobtest.Nearly(t, "each of two that hold", shared[2+i].NeedKn, alone[1].NeedKn/2)
	}
}

// A wedge brings a weight forward by its lift over its arm, as high as the balance stands, until it takes more than it lifts.
func TestAWedgeByHand(t *testing.T) {
	o := &Outcome{pick: &job.Pick{What: job.WhatTop}, diameter: 0.4}
	o.Settings.FallTowardsDeg = 90
	o.Weight.at = r3.Vec{X: -0.05, Z: 6}
	o.Weight.Kg = wood.Range{Low: 800, Likely: 900, High: 1000}
	behind, wedge := o.back()
	jobtest.Nearly(t, "behind", behind, 0.05)
	jobtest.Nearly(t, "a wedge brings it forward", wedge, 0.025/0.3*6)
	// 15 kN at 0.3 m behind the hinge are 4.5 kN·m: of 9.81 kN 0.459 m.
	for x, lifts := range map[float64]bool{0.458: true, 0.46: false} {
		o.Weight.at.X = -x
		if _, wedge := o.back(); (wedge > 0) != lifts {
			t.Errorf("%v m behind: %v", x, wedge)
		}
	}
}

// Wood of a limb stands as high as its middle and half of its thickness, and of it all the highest.
func TestHowHighWoodStands(t *testing.T) {
	w := woodOf(2, func(share float64) (r3.Vec, float64) {
		return r3.Vec{X: 4 * share, Z: 6 + share*(1-share)*8}, 0.4 - 0.2*share
	})
	jobtest.Nearly(t, "the top of a limb that arches", w.top(), 8+0.15)
}

// How near a load comes to a place and to a box on its way round its crane, against a fine walk: any way round, from any radius to any.
func TestHowNearALoadPasses(t *testing.T) {
	t.Parallel()
	for _, s := range []slewing{
		{out: 6, far: 11, from: 40, turn: 95}, {out: 6, far: 6, from: 350, turn: -120}, {out: 2, far: 9, from: 200, turn: 310}, {out: 0.5, far: 14, from: 90, turn: -5},
	} {
		s.crane = &job.Crane{At: job.Spot{X: 3, Y: -5}}
		walk := func(inner float64, off func(x, y float64) float64) float64 {
			nearest := math.Inf(1)
			for k := range 721 {
				way := towards(s.from + s.turn*float64(k)/720)
				for n := range 121 {
					radius := inner + (s.far-inner)*float64(n)/120
					nearest = min(nearest, off(3+radius*way.X, -5+radius*way.Y))
				}
			}
			return nearest
		}
		for _, at := range []r3.Vec{{X: 3, Y: 4}, {X: 14, Y: -5}, {X: -9, Y: -9}, {X: 3, Y: -18}, {X: 4, Y: -5.5}, {X: 20, Y: 9}} {
			want := walk(s.out, func(x, y float64) float64 { return math.Hypot(x-at.X, y-at.Y) })
			if got := s.asideOf(at); got > want+1e-9 || got < want-0.1 {
				t.Errorf("%+v passes %v at %v m, by a fine walk %v", s, at, got, want)
			}
			box := &job.Target{ID: "b", Box: &job.Box{Min: job.Spot{X: at.X - 0.5, Y: at.Y - 0.3}, Max: job.Spot{X: at.X + 0.5, Y: at.Y + 0.3}}, ToM: 1}
			j := jobtest.Stem()
			j.Site.Targets = []job.Target{*box}
			p := &surveyOf(t, &j).targets[0]
			for _, inner := range []float64{0, s.out} {
				want := walk(inner, func(x, y float64) float64 {
					return math.Hypot(max(0, math.Abs(x-at.X)-0.5), max(0, math.Abs(y-at.Y)-0.3))
				})
				missed := s.far * max(math.Abs(radians(s.turn)), 1) / 72 / 2
				if got := s.aside(p, inner); got > want+1e-9 || got < want-2*missed-0.1 {
					t.Errorf("%+v passes a box at %v at %v m, from %v m out by a fine walk %v", s, at, got, inner, want)
				}
			}
		}
	}
}

// A round of the plan is in a sector by as much as it is wide where it lies, whichever way the foot is off.
func TestARoundInASector(t *testing.T) {
	j := jobtest.Stem()
	j.Trees[0].At = &job.Spot{X: -4, Y: 9}
	j.Site.Sectors = []job.Sector{{ID: "s", Name: "path", FromDeg: 90, ToDeg: 120}}
	v := surveyOf(t, &j)
	wide := math.Asin(0.1) * 180 / math.Pi // 1 m at 10 m
	for _, c := range []struct {
		deg, far, r float64
		want        string
	}{{100, 10, 0, "path"}, {90 - wide + 0.01, 10, 1, "path"}, {90 - wide - 0.01, 10, 1, ""}, {120 + wide - 0.01, 10, 1, "path"}, {120 + wide + 0.01, 10, 1, ""}, {280, 10, 1, ""}, {89, 2.9, 1, ""}, {100, 2.9, 1, "path"}} {
		at := r3.Add(v.foot, r3.Scale(c.far, towards(c.deg)))
		if got := v.sectorAt(Disc{at.X, at.Y, c.r}); got != c.want {
			t.Errorf("%v m at %v°, %v m wide: %q", c.far, c.deg, c.r, got)
		}
	}
}

// Something near a power line is noted as far as is looked, and over where it is nearer than is kept.
func TestWhatIsNotedOfALine(t *testing.T) {
	j := jobtest.Stem()
	v := surveyOf(t, &j)
	clear := v.limits.ClearM
	target := &job.Target{ID: "w", Name: "wire", Kind: "building"}
	for _, c := range []struct {
		near, metres float64
		want         string
	}{{clear, 0, "within"}, {clear - 0.001, 0, "over"}, {6, 0, "within"}, {6.01, 0, ""}, {8.99, 8, "within"}, {9.01, 8, ""}} {
		o := &Outcome{}
		v.comesNear(o, target, c.near, c.metres)
		got := ""
		if len(o.clears) > 0 {
			got = fmt.Sprint(o.clears[0].Verdict)
		}
		if got != c.want {
			t.Errorf("%v m from what takes %v: %q, want %q", c.near, c.metres, got, c.want)
		}
	}
	o := &Outcome{}
	for _, near := range []float64{4, 2, 3} {
		v.comesNear(o, target, near, 2.5)
	}
	if len(o.clears) != 1 || o.clears[0].ClearanceM != 2 {
		t.Errorf("the nearest of three: %+v", o.clears)
	}
}

// The room beneath a piece is enough from what the crew wants on, close where only wood is nearer, and a run is too long beyond its limit.
func TestRoomAtItsBound(t *testing.T) {
	j := jobtest.Stem()
	v := surveyOf(t, &j)
	limit := 1.5
	v.limits.RunM = &limit
	wanted := v.limits.ClearM
	for _, c := range []struct {
		floor, hard, run float64
		holds            bool
		onto             string
		room, ran        Verdict
	}{
		{2.5 - wanted, 2.5 - wanted, 1.5, true, "", Within, Within}, {2.501 - wanted, 2.5 - wanted, 1.5, true, "", Close, Within}, {2.501 - wanted, 2.501 - wanted, 1.501, true, "", Over, Over},
		{0, 0, 1, true, "roof", Over, Within}, {0, 0, 1, false, "", Over, Over},
	} {
		o := &Outcome{pick: &job.Pick{What: job.WhatStem}, FromM: 10, toM: 13, cut: r3.Vec{Z: 10}}
		o.DropCase = &drop.Case{}
		o.Catch = drop.Catch{Holds: c.holds, LowestM: 7.5, RunM: c.run}
		o.Weight.cog, o.Settings.TieM = 2.5, 0.5
		o.floor = floor{name: "arm", z: c.floor, hard: c.hard, onto: c.onto}
		got := v.roomFigures(o)
		if got.Verdict != c.room || got.RunVerdict != c.ran {
			t.Errorf("%+v: room %v, run %v", c, got.Verdict, got.RunVerdict)
		}
	}
}

// What touches strikes, or brushes where it is wood; a rope is long enough from what it needs on.
func TestTouchingAndJustLongEnough(t *testing.T) {
	j := jobtest.Stem()
	v := surveyOf(t, &j)
	hut := &job.Target{Name: "hut", Kind: "building"}
	for _, c := range []struct {
		c    Clearance
		want string
	}{{Clearance{Name: "hut", target: hut}, "strikes hut"}, {Clearance{Name: "hut", ClearanceM: 0.01, target: hut}, "0.01 m from hut"}, {Clearance{Name: "arm"}, "brushes arm"}, {Clearance{Name: "arm", ClearanceM: 0.01}, "0.01 m from arm"}} {
		if got := v.closeTo(&c.c); got != c.want {
			t.Errorf("%+v: %q", c.c, got)
		}
	}
	_, o := worked(t, &j)
	for by, short := range map[float64]bool{0: false, -0.001: true} {
		long := o.ropeM + by
		j.Rigs[0].RopeLengthM = &long
		a := assess(&j, "p1")
		if (len(a.Picks[0].Faults) > 0) != short {
			t.Errorf("%v m more than it needs: %v", by, a.Picks[0].Faults)
		}
		for _, need := range a.Ropes {
			if need.Rig == "r1" && !short && need.Verdict != Within {
				t.Errorf("just long enough is short: %+v", need)
			}
		}
	}
}

// Two lines on one thing leave less of it for each: as their forces add, at rest as at the peak; what leads the other way relieves nothing.
func TestTwoLinesOnOneThing(t *testing.T) {
	for _, c := range []struct {
		what  string
		a, b  r3.Vec
		share float64
	}{
		{"one way", r3.Vec{X: 1}, r3.Vec{X: 1}, 2}, {"square to each other", r3.Vec{X: 1}, r3.Vec{Y: 1}, math.Sqrt2}, {"against each other", r3.Vec{X: 1}, r3.Vec{X: -1}, 1}, {"nobody knows where to", r3.Vec{X: 1}, r3.Vec{}, 2},
	} {
		line := func(dir r3.Vec) load {
			return load{part: PartHolder, on: "stump", dir: dir, resting: 1, peak: 2, Rated: policy.Rated{Known: true, RestLimit: 4, Limit: gear.Limit{Kn: 10, Reason: "marked"}}}
		}
		o := &Outcome{loads: []load{{part: PartHolder, on: "stump", resting: 3, peak: 9, Rated: policy.Rated{Known: true, Limit: gear.Limit{Kn: 1}}}, line(c.a), line(c.b), {part: PartHolder, on: "oak", resting: 1, peak: 2, Rated: policy.Rated{Known: true, Limit: gear.Limit{Kn: 10}}}}}
		o.together(1)
		for i := 1; i < 3; i++ {
			l := &o.loads[i]
			jobtest.Nearly(t, c.what+": its limit", l.Limit.Kn, 10/c.share)
			jobtest.Nearly(t, c.what+": at rest", l.RestLimit, 4/c.share)
			if strings.Contains(l.Limit.Reason, "2 lines pull on it") != (c.share > 1) {
				t.Errorf("%s: %s", c.what, l.Limit.Reason)
			}
		}
		if o.loads[0].Limit.Kn != 1 || o.loads[3].Limit.Kn != 10 {
			t.Errorf("%s: what is not together is left: %+v", c.what, o.loads)
		}
	}
}

// A gust is followed as a wind, and not as if the balance stood off as well.
func TestAGustIsFollowedOnce(t *testing.T) {
	j := poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(3), jobtest.Of(20)
	v, o := worked(t, &j)
	still, _ := v.follows(o)
	for _, towards := range []float64{0, 180, 270, 225} {
		j.Site.GustMS, j.Site.GustTowardsDeg = jobtest.Of(8), &towards
		v, o := worked(t, &j)
		if o.felling.gustBack+o.felling.gustSide < 0.02 {
			t.Fatalf("a gust towards %v° does nothing", towards)
		}
		blown, _ := v.follows(o)
		if !(math.Abs(blown.Tree.CogForwardM-still.Tree.CogForwardM) <= 1e-9) || !(math.Abs(blown.Tree.CogSideM-still.Tree.CogSideM) <= 1e-9) || blown.Wind == nil || blown.Wind.SpeedMS != 8 {
			t.Errorf("towards %v°: %+v with %+v, still %+v", towards, blown.Tree, blown.Wind, still.Tree)
		}
	}
}
