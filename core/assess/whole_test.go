package assess

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/ways/roped"
	"elkstay/core/wood"
)

// An assessment is a pure function: it leaves the document as it was, and asked twice it
// answers alike.
func TestAssessingChangesNothing(t *testing.T) {
	j := jobtest.Whole()
	j.Picks[0].WeighedKg = jobtest.Of(120)
	before, _ := json.Marshal(j)
	first := Assess(&j, Options{Units: units.Metric, Pick: "p3"})
	after, _ := json.Marshal(j)
	if string(before) != string(after) {
		t.Errorf("the document became %s", after)
	}
	if again := Assess(&j, Options{Units: units.Metric, Pick: "p3"}); !reflect.DeepEqual(first, again) {
		t.Error("asked twice it answers differently")
	}
}

// Distances on the plan against a fine walk along the outline's edges.
func TestDistancesOnThePlan(t *testing.T) {
	t.Parallel()
	outline := []job.Spot{{X: 0, Y: 0}, {X: 6, Y: 0}, {X: 6, Y: 4}, {X: 3, Y: 1.5}, {X: 0, Y: 4}}
	walk := func(x, y float64) float64 {
		nearest := math.Inf(1)
		for i, a := range outline {
			b := outline[(i+1)%len(outline)]
			for k := range 2001 {
				f := float64(k) / 2000
				nearest = math.Min(nearest, math.Hypot(a.X+f*(b.X-a.X)-x, a.Y+f*(b.Y-a.Y)-y))
			}
		}
		return nearest
	}
	random := rand.New(rand.NewPCG(3, 4))
	for range 300 {
		x, y := -3+12*random.Float64(), -3+10*random.Float64()
		if got, want := space.Edge(outline, x, y), walk(x, y); !(math.Abs(got-want) <= 2e-3) {
			t.Fatalf("edge from (%v, %v): %v, walked %v", x, y, got, want)
		}
		// Inside by the sum of the angles the corners are seen under.
		turned := 0.0
		for i, a := range outline {
			b := outline[(i+1)%len(outline)]
			turned += math.Remainder(math.Atan2(b.Y-y, b.X-x)-math.Atan2(a.Y-y, a.X-x), 2*math.Pi)
		}
		if got, want := space.Inside(outline, x, y), math.Abs(turned) > math.Pi; got != want {
			t.Fatalf("(%v, %v) inside: %v, by its angles %v", x, y, got, want)
		}
	}
	if got := space.Apart(outline, 1, 1); got != 0 {
		t.Errorf("within the outline it is %v m away", got)
	}
}

func TestSectorsGoRound(t *testing.T) {
	j := jobtest.Whole()
	j.Site.Sectors = []job.Sector{{ID: "n", Name: "north", FromDeg: 330, ToDeg: 30}, {ID: "s", Name: "south", FromDeg: 170, ToDeg: 190}}
	v := surveyOf(t, &j)
	for azimuth, want := range map[float64]string{0: "north", 359: "north", 330: "north", 30: "north", 31: "", 180: "south", 169: "", 270: ""} {
		if got := v.Sector(azimuth); got != want {
			t.Errorf("%v°: %q, want %q", azimuth, got, want)
		}
	}
}

// Every item is listed once for its rig with the pick that loads it hardest, and every
// rope with the pick that needs most of it.
func TestGearAndRopes(t *testing.T) {
	j := jobtest.Whole()
	a := assess(&j, "")
	seen := map[string]bool{}
	for _, g := range a.Gear {
		key := g.Rig + g.Part + g.Name
		if seen[key] {
			t.Errorf("%s %s stands twice", g.Part, g.Name)
		}
		seen[key] = true
		if g.Part == hold.PartLine {
			hardest := 0.0
			for _, p := range a.Picks {
				if p.PeakKn != nil {
					hardest = math.Max(hardest, *p.PeakKn)
				}
			}
			jobtest.Near(t, "line at its hardest", g.PeakKn, hardest)
			if g.Picks != 3 {
				t.Errorf("the line is used by %d picks", g.Picks)
			}
		}
	}
	if !seen["Rig 1"+hold.PartDevice] || !seen["Rig 1"+hold.PartSling] || seen["Rig 1"+hold.PartSpar] {
		t.Errorf("listed %v", seen)
	}
	if len(a.Ropes) != 1 || a.Ropes[0].Verdict != policy.NotKnown {
		t.Fatalf("ropes %+v", a.Ropes)
	}
	// The block just under the stem's top: up to it from the device, and down to the ground.
	want := (18 - 0.5 - job.RigDefaults().DeviceAtM) + (18 - 0.5) + roped.SpareRope
	jobtest.Near(t, "rope for the highest block", a.Ropes[0].NeedM, want)
	j.Rigs[0].RopeLengthM = jobtest.Of(want + 1)
	if a = assess(&j, ""); a.Ropes[0].Verdict != policy.Within {
		t.Errorf("a metre to spare is %s", a.Ropes[0].Verdict)
	}
}

// What a pick says of itself goes before what its rig says.
func TestAPicksOwnSettings(t *testing.T) {
	j := jobtest.Whole()
	p := &j.Picks[3]
	p.Wraps, p.TieM, p.FallTowardsDeg = jobtest.Of(3.5), jobtest.Of(1.1), jobtest.Of(77)
	s := assess(&j, "p4").Detail.Settings
	if s.Wraps != 3.5 || s.TieM != 1.1 || s.FallTowardsDeg != 77 {
		t.Errorf("got %+v", s)
	}
	if other := assess(&j, "p3").Detail.Settings; other.Wraps != job.RigDefaults().Wraps || other.FallTowardsDeg != 0 {
		t.Errorf("another pick has %+v", other)
	}
	p.MassKg = jobtest.Of(400)
	jobtest.Near(t, "judged by eye", assess(&j, "p4").Detail.Piece.MassKg.Likely, 400)
	p.WeighedKg = jobtest.Of(350)
	jobtest.Near(t, "the scale goes before the eye", assess(&j, "p4").Detail.Piece.MassKg.Likely, 350)
}

// The way a stem section falls, where nobody has said: towards the drop zone; without
// one, the lean; upright, north.
func TestWhereItFallsByItself(t *testing.T) {
	j := jobtest.Whole()
	jobtest.Near(t, "towards the zone", assess(&j, "p4").Detail.Settings.FallTowardsDeg, 90)
	j.Site.Zones = nil
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(5), jobtest.Of(215)
	jobtest.Near(t, "with the lean", assess(&j, "p4").Detail.Settings.FallTowardsDeg, 215)
	j.Trees[0].LeanDeg = nil
	jobtest.Near(t, "north", assess(&j, "p4").Detail.Settings.FallTowardsDeg, 0)
	jobtest.Near(t, "a limb where it grows", assess(&j, "p2").Detail.Settings.FallTowardsDeg, 270)
}

// The cut advice is asked with the site as it is: a crane calls for a shelf, a limb at
// its union may be torn down, a leaner is no piece to snap.
func TestAdviceKnowsTheSite(t *testing.T) {
	j := jobtest.Whole()
	best := func(pick string) string { return assess(&j, pick).Detail.Advice.Cuts[0].Cut }
	excluded := func(pick, cut string) string {
		for _, e := range assess(&j, pick).Detail.Advice.Excluded {
			if e.Cut == cut {
				return e.Reasons[0]
			}
		}
		return ""
	}
	// Level at its union, nothing beneath: the tear is open to it, but 4 m of oak is pushed by nobody.
	if got := excluded("p1", "overlapping cuts, snapped by hand"); got == "" {
		t.Error("a level limb of its own weight is snapped by hand")
	}
	if got := best("p1"); got == "overlapping cuts, snapped by hand" {
		t.Errorf("a level limb at its union: %s", got)
	}
	j.Picks[0].CutM = jobtest.Of(1.5)
	if got := excluded("p1", "top cut only, torn down the union"); !strings.Contains(got, "union") {
		t.Errorf("out along the limb the tear is not excluded: %q", got)
	}
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(12), jobtest.Of(90)
	if got := excluded("p4", "overlapping cuts, snapped by hand"); !strings.Contains(got, "one side") {
		t.Errorf("a leaner may be snapped: %q", got)
	}
	j.Trees[0].Wood.Species = ""
	j.Trees[0].Wood.Density = &wood.Range{Low: 800, Likely: 900, High: 1000}
	if a := assess(&j, "p4"); a.Detail.Advice != nil || rung(t, a, hold.PartSpar).Verdict != policy.NotKnown {
		t.Error("without a species the cut and the stem's strength are still known")
	}
}

// Leaning, the fall and the line are measured in space: for a stem that hardly leans the
// figures go over into those of the upright one.
func TestLeanGoesOverIntoUpright(t *testing.T) {
	j := jobtest.Stem()
	upright := assess(&j, "p1")
	j.Trees[0].LeanDeg = jobtest.Of(0.01)
	leaning := assess(&j, "p1")
	for _, part := range []string{hold.PartLine, hold.PartBlock, hold.PartDevice} {
		a, b := *rung(t, upright, part).PeakKn, *rung(t, leaning, part).PeakKn
		if !(math.Abs(a-b) <= 1e-3*a) {
			t.Errorf("%s: upright %v, hardly leaning %v", part, a, b)
		}
	}
	if d := leaning.Detail.Catch.FallM - upright.Detail.Catch.FallM; !(math.Abs(d) <= 1e-3) {
		t.Errorf("the fall differs by %v m", d)
	}
}

// A rope without a marked limit loses its knot where it is tied, and only there.
func TestTheKnotWeakensTheTie(t *testing.T) {
	j := jobtest.Stem()
	j.Rigs[0].Rope.MarkedKn = nil
	a := assess(&j, "p1")
	// Round a pulley of which no bend is given, four fifths.
	jobtest.Near(t, "line", *rung(t, a, hold.PartLine).LimitKn, 8*0.8)
	jobtest.Near(t, "tie", *rung(t, a, hold.PartTie).LimitKn, 8*0.65)
	j.Rigs[0].Tie.MarkedKn = jobtest.Of(25)
	// Slung in a choker, as nobody has said otherwise, it keeps four fifths (common practice).
	jobtest.Near(t, "a sling of its own", *rung(t, assess(&j, "p1"), hold.PartTie).LimitKn, 25*0.8)
}

// A winch behind the device is judged by its own rating.
func TestAWinchHolds(t *testing.T) {
	j := jobtest.Stem()
	j.Rigs[0].Hands = job.Hands{By: "winch", Rating: gear.Rating{MarkedKn: jobtest.Of(5)}}
	if r := rung(t, assess(&j, "p1"), hold.PartHand); r.Name != "winch" || *r.LimitKn != 5 {
		t.Errorf("got %+v", r)
	}
	j.Rigs[0].Hands.MarkedKn = nil
	if r := rung(t, assess(&j, "p1"), hold.PartHand); r.Verdict != policy.NotKnown {
		t.Errorf("a winch nobody has rated is %s", r.Verdict)
	}
}

// A whole top weighs its bare stem and its limbs.
func TestAWholeTopWeighsItsParts(t *testing.T) {
	top := jobtest.Whole()
	top.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(6.5), Way: job.WayFree}}
	v := surveyOf(t, &top)
	now := v.Standing()
	limbs := 0.0
	for _, i := range []int{0, 2, 3} {
		limbs += v.LimbMass(i, 0, now).Kg.Likely
	}
	bare := v.Stem.WeighBetween(6.5, 18, v.Density, timber.Frustum).MassKg.Likely
	jobtest.Nearly(t, "a whole top", assess(&top, "").Picks[0].MassKg.Likely, bare+limbs)
}

// ballAlong is the way of a ball from place to place.
func ballAlong(r float64, places ...r3.Vec) *space.Sweep {
	s := space.SweepOf([]space.Part{{R: r, WoodR: r}})
	for i, at := range places {
		s.Add(space.Turned(r3.Vec{}, 0, at), i == 0)
	}
	return &s
}
