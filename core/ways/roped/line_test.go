package roped

import (
	"math"
	"slices"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course/coursetest"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/space"
)

// Where nobody has said, a limb's block sits so far below where the limb grows, a sub-limb's below its cut, a stem piece's below
// the cut; what must come from above, half a metre under the top.
func TestWhereABlockSitsUnsaid(t *testing.T) {
	j := jobtest.Whole()
	j.Rigs[0].Block.BelowCutM = jobtest.Of(0.4)
	s := coursetest.Scene(t, &j)
	v := s.Trees[0]
	for _, c := range []struct {
		pick  job.Pick
		above bool
		want  float64
	}{
		{job.Pick{What: job.WhatLimb, Limb: "a", CutM: jobtest.Of(1.5)}, false, 7 - 0.4},
		// At 2 m along limb a, 70° off upright, grows its fork; half a metre out on that, 60° off upright.
		{job.Pick{What: job.WhatLimb, Limb: "b", CutM: jobtest.Of(0.5)}, false, v.Limbs[1].At(0.5).Z - 0.4},
		{job.Pick{What: job.WhatLimb, Limb: "a"}, true, 18 - 0.5},
		{job.Pick{What: job.WhatStem, CutM: jobtest.Of(15)}, false, 15 - 0.4},
		{job.Pick{What: job.WhatStem, CutM: jobtest.Of(15)}, true, 15 - 0.4},
	} {
		c.pick.Way, c.pick.Rig = job.WayPastBlock, "r1"
		o := New(s.Begin(v, &c.pick, &j.Rigs[0], 1, v.Standing(), nil))
		o.Rig = &j.Rigs[0]
		o.Settings.BlockBelowCutM = 0.4
		if got := o.BlockAt(c.above); !(math.Abs(got.Z-c.want) <= 1e-9) {
			t.Errorf("%+v, from above %v: %v m, want %v", c.pick, c.above, got.Z, c.want)
		}
	}
}

// Brush reaches to the side of its limb, an eighth of its length or nearly, and a swing goes as
// far beyond its block as it began before it.
func TestBrushAndSwingReachAcross(t *testing.T) {
	j := jobtest.Swinging()
	made := BySwung.Make(coursetest.Course(t, &j, 0)).(*Swung)
	o := made.Roped
	wide := 0.0
	for _, b := range o.Body() {
		wide = math.Max(wide, b.R)
	}
	if want := space.BrushSpread * o.Limbs[2].LengthM; !(math.Abs(wide-want) <= 0.05) {
		t.Errorf("its brush reaches %v m to the side, want %v", wide, want)
	}
	way := o.swingWay()
	tie := r3.Sub(o.Tie, o.Cut)
	far, out := 0.0, r3.Norm(space.Level(r3.Sub(o.Tie, o.Block)))
	side := r3.Scale(1/out, space.Level(r3.Sub(o.Tie, o.Block)))
	for i := range way.Poses {
		far = math.Max(far, -r3.Dot(side, space.Level(r3.Sub(way.Poses[i].Place(tie), o.Block))))
	}
	if far < 0.99*out {
		t.Errorf("it swings %v m beyond its block, from %v m before it", far, out)
	}
}

// The film of a piece at the heavy end of its weight has that end's inertia too: of a section that tapers from the 0.3 m at 15 m to 0.2 m at
// its top, by slices about where they balance.
func TestTheFilmTurnsTheHeavyEnd(t *testing.T) {
	j := jobtest.Stem()
	o := ByPastBlock.Make(coursetest.Course(t, &j, 0)).(*PastBlock)
	c := o.simCase()
	mass, moment, square := 0.0, 0.0, 0.0
	for k := range 3000 {
		z := (float64(k) + 0.5) / 1000
		d := 0.6 - 0.4*(9+z)/12
		mass, moment, square = mass+d*d, moment+d*d*z, square+d*d*z*z
	}
	cog := moment / mass
	want := o.Weight.Kg.High * (square/mass - cog*cog)
	// Its own thickness turns too, some hundredths of that at the most.
	if got := *c.Piece.InertiaKgM2; !(got >= 0.999*want && got <= 1.03*want) || c.Piece.MassKg != o.Weight.Kg.High {
		t.Errorf("it turns with %v kg·m² of %v kg, want %v of %v", got, c.Piece.MassKg, want, o.Weight.Kg.High)
	}
}

// Carried between two points, the tag line's pull is in both lines at every place: at the middle of
// two points alike, drawn square to their plane, each carries the pendulum's sum as it carried the
// weight before.
func TestATagLineBetweenTwoPoints(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	j.Rigs[0].Second = &job.SecondLine{Name: "second", Place: job.Place{On: job.OnAnchor, Anchor: "m2", AtM: 16}}
	j.Site.Anchors[1].At.X = 13
	j.Picks[0].Way, j.Picks[0].Ends = job.WayTwoPoints, nil
	cog := coursetest.Course(t, &j, 0).Weight.CogM
	j.Picks[0].TieM, j.Picks[0].CarryM = jobtest.Of(cog), jobtest.Of(10)
	before := ByTwoPoints.Make(coursetest.Course(t, &j, 0)).(*TwoPoints)
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "lawn", Name: "lawn edge", Kind: job.AnchorGround, At: job.Spot{X: 7, Y: 40}})
	j.Picks[0].Tag = &job.Tag{Anchor: "lawn", TieM: jobtest.Of(cog), PullKn: jobtest.Of(0.25)}
	o := ByTwoPoints.Make(coursetest.Course(t, &j, 0)).(*TwoPoints)
	if o.Stopped() || o.Tag == nil {
		t.Fatal(o.Faults)
	}
	middle := len(o.carried.Way) / 2
	d := o.Tag.pair.Heavy[middle]
	w := o.WeightKn()
	sum := math.Hypot(math.Hypot(d.Pull.X, d.Pull.Y), w-d.Pull.Z)
	if got, want := o.carried.Way[middle].AKn/before.carried.Way[middle].AKn, sum/w; !(math.Abs(got-want) <= 2e-3) {
		t.Errorf("in the middle a line carries %v of what it did, by the triangle %v", got, want)
	}
	for k, at := range o.carried.Way {
		if was := before.carried.Way[k]; at.AKn < was.AKn-1e-9 || at.BKn < was.BKn-1e-9 || at.AnchorAKn < was.AnchorAKn-1e-9 {
			t.Errorf("place %d: drawn %+v, undrawn %+v", k, at, was)
		}
	}
	if o.carried.MaxAKn <= before.carried.MaxAKn || math.Hypot(o.aside.X, o.aside.Y) < 0.2 {
		t.Errorf("the most of line A %v, undrawn %v; drawn aside by %v", o.carried.MaxAKn, before.carried.MaxAKn, o.aside)
	}
	tag := slices.IndexFunc(o.Loads, func(l hold.Load) bool { return l.Part == hold.PartTag })
	if tag < 0 || o.Loads[tag].PeakKn != 0.25 || !strings.Contains(o.Words().Call, "tag: draw to") {
		t.Errorf("%+v %q", o.Loads, o.Words().Call)
	}
}

// A bare limb that tapers turns more easily than a rod as long, whose second moment is a twelfth of its length squared, and less
// easily than a mass at one place.
func TestASwungLimbTurnsByItsTaper(t *testing.T) {
	j := jobtest.Swinging()
	j.Rigs[0].SlackM, j.Trees[0].Limbs[2].Brush = jobtest.Of(0.6), job.BrushBare
	o := BySwung.Make(coursetest.Course(t, &j, 0)).(*Swung)
	if o.swung == nil {
		t.Fatalf("it is not followed as a body: %v", o.Faults)
	}
	if rod := o.Length() / math.Sqrt(12); o.swung.GyrationM < 0.5*rod || o.swung.GyrationM > 0.98*rod {
		t.Errorf("it turns as heavily as %v m, a rod as %v m", o.swung.GyrationM, rod)
	}
}

// A piece tied at its balance between two lines of one length to two points as high as each other comes down plumb through its slack: what
// it loses of height goes into both lines alike, a straight rope each, which is a sum in one unknown. Undamped, it weighs more than twice
// on lines without slack.
func TestComingOntoTwoLines(t *testing.T) {
	t.Parallel()
	for _, slack := range []float64{0, 0.2, 0.6} {
		j := jobtest.Carried()
		r := &j.Rigs[0]
		r.Rope.Elongation, r.Rope.DynamicFactor = []gear.Stretch{{LoadPct: 100, StrainPct: 10}}, 0
		cog := coursetest.Course(t, &j, 0).Weight.CogM
		j.Site.Anchors[0].At, j.Site.Anchors[1].At = job.Spot{X: cog - 5}, job.Spot{X: cog + 5}
		r.Second = &job.SecondLine{Name: "second", Place: job.Place{On: job.OnAnchor, Anchor: "m2", AtM: 16}}
		r.Block.Efficiency, r.SlackM, r.Device.AtM = jobtest.Of(1), &slack, nil
		// The first line's device at the foot of its mast: as much rope behind it as behind the second.
		r.Device.Place = &job.Place{On: job.OnAnchor, Anchor: "m1", AtM: 0}
		j.Picks[0].Way, j.Picks[0].Ends, j.Picks[0].TieM, j.Picks[0].CarryM = job.WayTwoPoints, nil, &cog, jobtest.Of(8)
		o := ByTwoPoints.Make(coursetest.Course(t, &j, 0)).(*TwoPoints)
		if o.Stopped() {
			t.Fatal(o.Faults)
		}
		up := 16 - o.Tie.Z
		line := math.Hypot(5, up) + slack
		weight := o.WeightKn()
		// Stiffness of a line and its lead: 80 kN break it, at 10 %.
		k := 80 / 0.1 / (line + 16)
		low, high := 0.0, 5.0
		for range 100 {
			x := (low + high) / 2
			stretch := max(0, math.Hypot(5, up+x)-line)
			if weight*x > k*stretch*stretch {
				low = x
			} else {
				high = x
			}
		}
		want := k * (math.Hypot(5, up+low) - line)
		for i, got := range o.comesOn(o.far, 0).peakKn {
			if !(math.Abs(got-want) <= 0.02*want) {
				t.Errorf("%v m of slack, line %d: %v kN, by the sum of heights %v", slack, i+1, got, want)
			}
		}
		if o.Catch.LinePeakKn < o.comes.peakKn[0] {
			t.Errorf("the line is said to peak at %v", o.Catch.LinePeakKn)
		}
	}
}
