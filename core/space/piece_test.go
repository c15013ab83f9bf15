package space

import (
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// What hangs below a tie is the piece's outer part when it balances beyond the tie, else its inner one; tied within 15 % of its
// length from its balance, the longer of both. Limbs may reach beyond either end.
func TestWhatHangsBelowATie(t *testing.T) {
	for _, c := range []struct{ cog, tie, reach, under, tells, most float64 }{
		{3, 1, 6, 0, 5, 5}, {1, 3, 6, 0.5, 3.5, 3.5}, {2, 2, 6, 0.5, 2.5, 4}, {2.2, 2, 6, 0.5, 4, 4}, {2, 2.2, 3, 0.5, 2.7, 2.7},
		// At the very bound either end may still be down.
		{0.6, 0, 2, 7, 2, 7}, {0, 0.6, 5, 1, 1.6, 4.4},
	} {
		o := &Piece{Weight: Mass{CogM: c.cog}, LongM: 4, ReachM: c.reach, UnderM: c.under}
		jobtest.Nearly(t, "as its balance tells", o.Below(c.tie), c.tells)
		jobtest.Nearly(t, "at most", o.MostBelow(c.tie), c.most)
	}
}

// How heavily a piece turns by hand: a limb that tapers to its 2 cm, by a fine sum of its rounds; a pole with a limb across it, by
// Steiner's rule; seen along the limb only the pole and how high it sits on it count.
func TestGyrationByHand(t *testing.T) {
	j := jobtest.Pole(job.Limb{ID: "a", AtM: 8, AzimuthDeg: 90, AngleDeg: 90, LengthM: 5, DiameterM: 0.2, Brush: job.BrushBare})
	v := treeOf(&j)
	now := v.Standing()
	worked := func(p job.Pick) *Piece { return v.Take(&p, 1, now) }
	near := func(what string, got, want float64) {
		t.Helper()
		if !(math.Abs(got-want) <= 0.002*want) {
			t.Errorf("%s: %v m, by hand %v", what, got, want)
		}
	}
	// taper is the mass, the balance and the second moment about it of the limb beyond a cut, for wood of 1 kg/m³.
	taper := func(from float64) (mass, cog, second float64) {
		const parts = 20000
		for pass := range 2 {
			for k := range parts {
				s := from + (5-from)*(float64(k)+0.5)/parts
				d := 0.2 + (0.02-0.2)*s/5
				dm := math.Pi / 4 * d * d * (5 - from) / parts
				if pass == 0 {
					mass, cog = mass+dm, cog+dm*s
				} else {
					second += dm * (s - cog) * (s - cog)
				}
			}
			if pass == 0 {
				cog /= mass
			}
		}
		return mass, cog, second
	}
	for _, cut := range []float64{0, 2} {
		mass, _, second := taper(cut)
		o := worked(job.Pick{What: job.WhatLimb, Limb: "a", CutM: &cut})
		near("a limb", o.Gyration(r3.Vec{X: 1}), math.Sqrt(second/mass))
		if along := o.Gyration(r3.Vec{Y: 1}); along > 0.08 {
			t.Errorf("about its own axis: %v m", along)
		}
	}
	// The top 6 m of the pole, 40 cm thick, its balance 9 m up, with the limb from 8 m up to the east.
	limb, out, second := taper(0)
	stem := math.Pi * 0.04 * 6
	x, z := limb*out/(stem+limb), (stem*9+limb*8)/(stem+limb)
	up := stem*(36.0/12+(9-z)*(9-z)) + limb*(8-z)*(8-z)
	o := worked(job.Pick{What: job.WhatTop, CutM: jobtest.Of(6)})
	near("a top", o.Gyration(r3.Vec{X: 1}), math.Sqrt((up+stem*x*x+second+limb*(out-x)*(out-x))/(stem+limb)))
	near("a top, seen along its limb", o.Gyration(r3.Vec{Y: 1}), math.Sqrt(up/(stem+limb)))
	// Brush lies on the outer part of its limb, and makes it turn the more heavily; what hangs on it likewise.
	bare := worked(job.Pick{What: job.WhatLimb, Limb: "a"}).Gyration(r3.Vec{X: 1})
	j.Trees[0].Limbs[0].Brush = ""
	v = treeOf(&j)
	if full := worked(job.Pick{What: job.WhatLimb, Limb: "a"}).Gyration(r3.Vec{X: 1}); full <= bare {
		t.Errorf("with its brush %v m, bare %v", full, bare)
	}
	j.Trees[0].Limbs[0].Brush = job.BrushBare
	j.Trees[0].Defects = []job.Defect{{ID: "h", Kind: job.DefectHung, Limb: "a", AtM: 4.5, MassKg: jobtest.Of(60)}}
	v = treeOf(&j)
	o = worked(job.Pick{What: job.WhatLimb, Limb: "a"})
	limb, second = limb*v.Density.Likely, second*v.Density.Likely
	cog := (limb*out + 60*4.5) / (limb + 60)
	near("with what hangs on it", o.Gyration(r3.Vec{X: 1}), math.Sqrt((second+limb*(out-cog)*(out-cog)+60*(4.5-cog)*(4.5-cog))/(limb+60)))
}

// A piece that has come off its limb does not weigh on what holds its line, but the stub that stays does.
func TestWithoutIsWhatStays(t *testing.T) {
	j := jobtest.Pole(job.Limb{ID: "a", AtM: 8, AzimuthDeg: 90, AngleDeg: 90, LengthM: 8, DiameterM: 0.25},
		job.Limb{ID: "s", Parent: "a", AtM: 5, AzimuthDeg: 90, AngleDeg: 90, LengthM: 4, DiameterM: 0.14},
		job.Limb{ID: "b", AtM: 10, AzimuthDeg: 0, AngleDeg: 45, LengthM: 3, DiameterM: 0.12})
	v := treeOf(&j)
	now := v.Standing()
	after := v.Take(&job.Pick{What: job.WhatLimb, Limb: "a", CutM: jobtest.Of(2)}, 1, now).Without()
	if after.Top != 12 || after.Tips[0] != 2 || after.Tips[1] != 0 || after.Tips[2] != 3 {
		t.Errorf("a limb cut at 2 m leaves %+v", after)
	}
	after = v.Take(&job.Pick{What: job.WhatTop, CutM: jobtest.Of(9)}, 1, now).Without()
	if after.Top != 9 || after.Tips[0] != 8 || after.Tips[2] != 0 {
		t.Errorf("a top cut at 9 m leaves %+v", after)
	}
	if now.Tips[0] != 8 || now.Top != 12 {
		t.Errorf("the moment before has changed: %+v", now)
	}
}

// Gear may sit at the very end of what stands, and not where the piece begins.
func TestGearAtTheVeryEnd(t *testing.T) {
	j := jobtest.Whole()
	v := treeOf(&j)
	now := v.Standing()
	on := func(p job.Pick) *Piece { return v.Take(&p, 1, now) }
	limb := on(job.Pick{What: job.WhatLimb, Limb: "a", CutM: jobtest.Of(1.5)})
	top := on(job.Pick{What: job.WhatTop, CutM: jobtest.Of(10)})
	gone := v.Standing()
	v.TakeOff(gone, 3, 0)
	for _, c := range []struct {
		what  string
		place job.Place
		now   *Standing
		o     *Piece
		want  string
	}{
		{"at a limb's tip", job.Place{On: job.OnLimb, Limb: "d", AtM: 3}, now, nil, ""},
		{"at the base of a limb that is gone", job.Place{On: job.OnLimb, Limb: "d"}, gone, nil, "gone there by now"},
		{"at the cut of the limb it is on", job.Place{On: job.OnLimb, Limb: "a", AtM: 1.5}, now, limb, "on the piece itself"},
		{"within it", job.Place{On: job.OnLimb, Limb: "a", AtM: 1.49}, now, limb, ""},
		{"on a limb that comes off with it", job.Place{On: job.OnLimb, Limb: "b"}, now, limb, "comes off with the piece"},
		{"at the top of the stem", job.Place{On: job.OnStem, AtM: 18}, now, limb, ""},
		{"at the cut of a top", job.Place{On: job.OnStem, AtM: 10}, now, top, "on the piece itself"},
		{"under it", job.Place{On: job.OnStem, AtM: 9.99}, now, top, ""},
		{"on a limb of the top", job.Place{On: job.OnLimb, Limb: "c"}, now, top, "comes off with the piece"},
	} {
		if _, why := v.Place(&c.place, c.now, c.o); (why == "") != (c.want == "") || !strings.Contains(why, c.want) {
			t.Errorf("%s: %q, want %q", c.what, why, c.want)
		}
	}
}

// treeOf is the first tree of a job, ready for sums.
func treeOf(j *job.Job) *Tree {
	site := NewSite(j, units.Metric)
	for i := range j.Trees {
		site.AddTree(i, j.Trees[i].Stem())
	}
	return site.Trees[0]
}

// Where nobody says which way a piece goes, a limb goes the way it grows, other wood to the middle of the first drop zone, and
// without one the way it leans; upright, north.
func TestWhereAPieceGoesUnsaid(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].At = &job.Spot{X: 5, Y: 5}
	j.Site.Zones = []job.Zone{{ID: "z", Name: "lawn", Outline: []job.Spot{{X: 14, Y: 3}, {X: 16, Y: 3}, {X: 16, Y: 7}, {X: 14, Y: 7}}}, {ID: "y", Name: "yard", Outline: []job.Spot{{X: -9, Y: 5}, {X: -8, Y: 5}, {X: -8, Y: 6}}}}
	said, top := 200.0, job.Pick{What: job.WhatTop, CutM: jobtest.Of(6)}
	goes := func(p job.Pick) float64 { return treeOf(&j).FallTowards(&p) }
	if got := goes(job.Pick{What: job.WhatLimb, Limb: "b"}); got != 60 {
		t.Errorf("a fork that grows to 60° goes to %v°", got)
	}
	if got := goes(top); got != 90 {
		t.Errorf("the middle of the first zone is due east: %v°", got)
	}
	if got := goes(job.Pick{What: job.WhatTop, FallTowardsDeg: &said}); got != said {
		t.Errorf("told %v°: %v°", said, got)
	}
	j.Site.Zones = nil
	if got := goes(top); got != 0 {
		t.Errorf("upright with no zone: %v°", got)
	}
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(130)
	if got := goes(top); math.Abs(got-130) > 1e-9 {
		t.Errorf("leaning to 130°: %v°", got)
	}
}

// A stem that leans 45° is √2 as long as it is high, one that bends as long as its parts together; its balance is measured along it. What
// turns over its cut sweeps as far as it is from there, not as far as it is high.
func TestLeaningWoodIsMeasuredAlongItself(t *testing.T) {
	j := jobtest.Pole(job.Limb{ID: "a", AtM: 9, AzimuthDeg: 90, AngleDeg: 90, LengthM: 8, DiameterM: 0.2, Brush: job.BrushBare})
	tree := &j.Trees[0]
	cut := tree.Readings[0].AtM + 1
	take := func(what job.What) *Piece {
		v := treeOf(&j)
		return v.Take(&job.Pick{What: what, CutM: &cut}, 1, v.Standing())
	}
	up := take(job.WhatTop)
	high := up.ToM - cut
	jobtest.Near(t, "upright", up.Length(), high)
	jobtest.Near(t, "its limb sweeps", up.Sweeps(r3.Vec{X: 1}), max(high, math.Hypot(8, 9-cut)))
	jobtest.Near(t, "towards the other side as far", up.Sweeps(r3.Vec{X: -1}), max(high, math.Hypot(8, 9-cut)))
	jobtest.Near(t, "across it is as high as it stands", up.Sweeps(r3.Vec{Y: 1}), high)
	tree.Limbs = nil
	tree.LeanDeg, tree.LeanTowardsDeg = jobtest.Of(45), jobtest.Of(90)
	leans := take(job.WhatTop)
	jobtest.Near(t, "leaning", leans.Length(), high*math.Sqrt2)
	jobtest.Near(t, "its balance", leans.Weight.CogM, r3.Norm(r3.Sub(leans.Weight.At, leans.Cut)))
	jobtest.Near(t, "two metres along", r3.Norm(r3.Sub(leans.Along(2), leans.Cut)), 2)
	jobtest.Near(t, "on its axis", r3.Norm(r3.Sub(leans.OnAxis(2), leans.Cut)), 2)
	jobtest.Near(t, "leaning it sweeps", leans.Sweeps(r3.Vec{X: 1}), high*math.Sqrt2)
	jobtest.Near(t, "square to its lean", leans.Sweeps(r3.Vec{Y: 1}), high)
	sum := 0.0
	for _, b := range leans.Body() {
		sum = max(sum, r3.Norm(b.Off))
	}
	jobtest.Near(t, "its parts end with it", sum, leans.Length())
	// Upright for 3 m above the cut, then 3 m over for every 4 m up: 5 m long.
	tree.LeanDeg, tree.LeanTowardsDeg = nil, nil
	tree.Readings = append(tree.Readings[:1], job.Reading{AtM: cut + 3, Tape: job.Diameter, TapeM: 0.3, Offset: &job.Offset{}}, job.Reading{AtM: cut + 7, Tape: job.Diameter, TapeM: 0.3, Offset: &job.Offset{OffM: 3, TowardsDeg: 90}})
	bent := take(job.WhatStem)
	jobtest.Near(t, "bent", bent.Length(), 3+5)
	jobtest.Near(t, "over the bend", bent.Along(3+2.5).X, 1.5)
	jobtest.Near(t, "and up", bent.Along(3+2.5).Z, cut+3+2)
}
