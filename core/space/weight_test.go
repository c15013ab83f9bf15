package space

import (
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// What the scale has taught of stem and of limbs is put on each by itself; a limb that is a guess keeps its doubt, and wood of which
// nothing was weighed is heavier where a piece of both was.
func TestWhatTheScaleTaughtByHand(t *testing.T) {
	j := jobtest.Whole()
	v := treeOf(&j)
	m := Mass{Kg: wood.Range{Low: 150, Likely: 200, High: 280}, Stem: wood.Range{Low: 90, Likely: 120, High: 160}, GuessedKg: 20}
	stem, limbs := &timber.Learned{Factor: 1.1, LowFactor: 1, HighFactor: 1.25}, &timber.Learned{Factor: 0.9, LowFactor: 0.7, HighFactor: 1.3}
	for _, c := range []struct {
		what      string
		learned   Taught
		offered   bool
		low, most float64
		likely    float64
	}{
		{"nothing", Taught{Heavier: 1}, false, 150, 280, 200},
		{"a piece of both was heavier", Taught{Heavier: 1.2}, false, 150, 280 * 1.2, 200},
		{"of the stem", Taught{Stem: stem, Heavier: 1.2}, false, 120 + 60, 150 + 120*1.2, 132 + 80},
		// A quarter of the limbs, 20 of 80 kg, is a guess: from 0.6 to 1.55 times what is likely.
		{"of the limbs", Taught{Limbs: limbs, Heavier: 1}, false, 90 + 56*(1-0.25*0.4), 160 + 104*(1+0.25*0.55), 120 + 72},
		{"of both", Taught{Stem: stem, Limbs: limbs, Heavier: 1.2}, false, 120 + 56*0.9, 150 + 104*1.1375, 132 + 72},
		{"of both, the girths offered", Taught{Stem: stem, Limbs: limbs, Heavier: 1}, true, 120*offeredLess + 56*0.9, 150*offeredMore + 104*1.1375, 132 + 72},
	} {
		v.Taught, v.Offered = c.learned, c.offered
		got := v.taught(&m)
		jobtest.Nearly(t, c.what+": low", got.Low, c.low)
		jobtest.Nearly(t, c.what+": likely", got.Likely, c.likely)
		jobtest.Nearly(t, c.what+": high", got.High, c.most)
	}
}

// A limb's balance is that of its parts in their places: a fork far out draws it out, one below
// the cut stays, a branch that hangs on it weighs where it hangs.
func TestALimbsPartsWeighWhereTheyAre(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].Limbs[1].LengthM, j.Trees[0].Limbs[1].AngleDeg, j.Trees[0].Limbs[1].AzimuthDeg = 3, 85, 150
	v := treeOf(&j)
	now := v.Standing()
	bare := v.Standing()
	bare.Tips[1] = 0
	parent, fork, both := v.LimbMass(0, 0, bare), v.LimbMass(1, 0, now), v.LimbMass(0, 0, now)
	jobtest.Near(t, "together", both.Kg.Likely, parent.Kg.Likely+fork.Kg.Likely)
	want := r3.Scale(1/both.Kg.Likely, r3.Add(r3.Scale(parent.Kg.Likely, parent.At), r3.Scale(fork.Kg.Likely, fork.At)))
	if off := r3.Norm(r3.Sub(both.At, want)); off > 1e-9 || r3.Norm(r3.Sub(fork.At, v.Limbs[0].At(2))) < 0.5 {
		t.Errorf("their balance is %v m off", off)
	}
	// The fork grows at 2 m: cut at 2.5 m it stays.
	jobtest.Near(t, "beyond the fork", v.LimbMass(0, 2.5, now).Kg.Likely, v.LimbMass(0, 2.5, bare).Kg.Likely)
	hung := jobtest.Whole()
	hung.Trees[0].Limbs[1] = j.Trees[0].Limbs[1]
	hung.Trees[0].Defects = []job.Defect{{ID: "h", Kind: job.DefectHung, Limb: "a", AtM: 3, MassKg: jobtest.Of(40)}}
	w := treeOf(&hung)
	with := w.Standing()
	jobtest.Near(t, "with the branch that hangs at 3 m", w.LimbMass(0, 2.5, with).Kg.Low, v.LimbMass(0, 2.5, now).Kg.Low+40)
	jobtest.Near(t, "cut beyond it", w.LimbMass(0, 3.5, with).Kg.Low, v.LimbMass(0, 3.5, now).Kg.Low)
}

// Judged by eye a piece is as heavy as was said, but at its heavy end never lighter than it was measured, until somebody says why; heavier
// counts by itself.
func TestTheEyeMakesNothingLighterByItself(t *testing.T) {
	estimate := wood.Range{Low: 160, Likely: 200, High: 260}
	for _, c := range []struct {
		kg   float64
		why  string
		want wood.Range
	}{
		{60, "", wood.Range{Low: 48, Likely: 60, High: 260}},
		{60, "half of it is hollow", wood.Range{Low: 48, Likely: 60, High: 78}},
		{300, "", wood.Range{Low: 240, Likely: 300, High: 390}},
	} {
		got := byEye(estimate, estimate.High, c.kg, c.why)
		if !(math.Abs(got.Low-c.want.Low) <= 1e-9) || !(math.Abs(got.Likely-c.want.Likely) <= 1e-9) || !(math.Abs(got.High-c.want.High) <= 1e-9) {
			t.Errorf("%v kg, %q: %+v, want %+v", c.kg, c.why, got, c.want)
		}
	}
	// The same of a pick on the board of its own survey.
	j := jobtest.Stem()
	site := NewSite(&j, units.Metric)
	site.AddTree(0, j.Trees[0].Stem())
	take := func() *Piece {
		p := site.Trees[0].Take(&j.Picks[0], 1, site.Whole()[0])
		p.Judge()
		return p
	}
	surveyed := take().Weight.Kg
	j.Picks[0].MassKg = jobtest.Of(surveyed.Likely / 4)
	if got := take().Weight.Kg; got.High != surveyed.High || !(math.Abs(got.Likely-surveyed.Likely/4) <= 1e-9) {
		t.Errorf("judged a quarter: %+v of %+v", got, surveyed)
	}
}

// Above its highest reading, where nobody has measured its top, a stem weighs at its heavy end what a paraboloid does: half of the cylinder
// on its reading, and a third as a cone; so it does between readings. One more between them narrows that, and wood of one thickness is as it was.
func TestAStemMayBeFullerThanACone(t *testing.T) {
	j := jobtest.Stem()
	tree := &j.Trees[0]
	tree.Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: 0.4}, {AtM: 5, Tape: job.Diameter, TapeM: 0.4}}
	tree.HeightM, tree.TopDiameterM = jobtest.Of(20), nil
	mass := func(cut float64) wood.Range {
		site := NewSite(&j, units.Metric)
		site.AddTree(0, tree.Stem())
		return site.Trees[0].StemMass(cut, site.Whole()[0]).Kg
	}
	cylinder := math.Pi / 4 * 0.4 * 0.4 * 15
	density := 1110.0474
	// But for a top of 5 cm: an eighth of its thickness.
	if got, want := mass(5).High, density*cylinder/2*(1+0.125*0.125); !(math.Abs(got-want) <= 1e-6*want) {
		t.Errorf("above the reading %v kg, a paraboloid %v", got, want)
	}
	if got, want := mass(5).Low, 908.2206*cylinder/3*(1+0.125+0.125*0.125); !(math.Abs(got-want) <= 1e-6*want) {
		t.Errorf("its light end %v kg, a cone %v", got, want)
	}
	below := mass(2).High - mass(5).High
	if want := density * math.Pi / 4 * 0.4 * 0.4 * 3; !(math.Abs(below-want) <= 1e-6*want) {
		t.Errorf("three metres below the reading %v kg, want %v", below, want)
	}
	// Half way on its taper, 22.5 cm thick: a paraboloid on either half has the mean of the areas of its ends.
	tree.TopDiameterM = jobtest.Of(0.05)
	tree.Readings = append(tree.Readings, job.Reading{AtM: 12.5, Tape: job.Diameter, TapeM: 0.225})
	if got, want := mass(5).High, density*math.Pi/4*7.5*(0.16+2*0.225*0.225+0.0025)/2; !(math.Abs(got-want) <= 1e-6*want) {
		t.Errorf("with a reading half way %v kg, two paraboloids %v", got, want)
	}
}

// Ivy and a hung branch of which nobody has said what they weigh make what they come down with not known; of another piece nothing.
func TestWhatNobodyWeighedIsNotKnown(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].Defects = []job.Defect{{ID: "i", Kind: job.DefectIvy, AtM: 2, ToM: jobtest.Of(6)}, {ID: "h", Kind: job.DefectHung, Limb: "b", AtM: 0.5}}
	site := NewSite(&j, units.Metric)
	site.AddTree(0, j.Trees[0].Stem())
	for _, c := range []struct {
		what string
		pick job.Pick
		want string
	}{
		{"the low limb bears its fork", job.Pick{What: job.WhatLimb, Limb: "a"}, "hung branch"},
		{"the tip of it beyond the fork", job.Pick{What: job.WhatLimb, Limb: "a", CutM: jobtest.Of(2.5)}, ""},
		{"another limb", job.Pick{What: job.WhatLimb, Limb: "c"}, ""},
		{"the stem above the ivy", job.Pick{What: job.WhatStem, CutM: jobtest.Of(17)}, ""},
		{"all of the tree", job.Pick{What: job.WhatTop, CutM: jobtest.Of(1)}, "ivy"},
		{"weighed by eye", job.Pick{What: job.WhatLimb, Limb: "a", MassKg: jobtest.Of(90)}, ""},
	} {
		p := site.Trees[0].Take(&c.pick, 1, site.Whole()[0])
		p.Judge()
		if got := p.Unweighed(); (c.want == "") != (got == "") || !strings.Contains(got, c.want) {
			t.Errorf("%s: %q", c.what, got)
		}
	}
}
