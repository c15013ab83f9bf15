package assess

import (
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// A rope over what does not turn heats, and that stands at the block; over a block it does not.
func TestRubbingStandsAtTheBlock(t *testing.T) {
	for mu, want := range map[float64]bool{0: false, 0.25: true} {
		j := jobtest.Stem()
		if mu > 0 {
			j.Rigs[0].Block.Friction = &mu
		}
		if got := strings.Contains(strings.Join(rung(t, assess(&j, "p1"), hold.PartBlock).Cautions, " "), "it heats and wears"); got != want {
			t.Errorf("friction %v: %v", mu, got)
		}
	}
}

// A tie round the stem counts for a union from so far under it to so far over its end.
func TestATieByAUnion(t *testing.T) {
	for at, by := range map[float64]bool{6 - 1.5: true, 6 - 1.5 - 0.01: false, 7 + 1.5: true, 7 + 1.5 + 0.01: false} {
		j := jobtest.Poled()
		j.Trees[0].Defects = []job.Defect{{ID: "u", Kind: job.DefectUnion, AtM: 6, ToM: jobtest.Of(7)}}
		j.Picks[0].Fell.Straps = []job.Strap{{ID: "s", AtM: at}}
		if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); strings.Contains(said, "is tied round at") != by || strings.Contains(said, "is by no union or crack") == by {
			t.Errorf("a tie at %v m: %s", at, said)
		}
	}
}

// What comes down free comes past lines as high as its limbs reach, not only as high as it stands.
func TestAFreeTopPassesLinesAsHighAsItReaches(t *testing.T) {
	for angle, want := range map[float64]bool{0: true, 90: false} {
		j := jobtest.Pole(job.Limb{ID: "u", AtM: 11.5, AzimuthDeg: 180, AngleDeg: angle, LengthM: 4.5, DiameterM: 0.08, Brush: job.BrushBare})
		j.Site.Targets = []job.Target{{ID: "w", Name: "wire", Kind: "power-line", Outline: []job.Spot{{X: -9, Y: 8}, {X: 9, Y: 8}}, FromM: 15.5, ToM: 15.6, VoltageKv: jobtest.Of(0.4)}}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(9), Way: job.WayFree, FallTowardsDeg: jobtest.Of(0)}}
		if got := len(assess(&j, "p1").Detail.Landing.Hits) > 0; got != want {
			t.Errorf("a limb at %v°: %v", angle, got)
		}
	}
}

// A level limb that goes free under a line does not stand up into it.
func TestAFreeLimbIsAsHighAsItGrows(t *testing.T) {
	for angle, want := range map[float64]bool{90: false, 0: true} {
		j := jobtest.Pole(job.Limb{ID: "a", AtM: 6, AzimuthDeg: 0, AngleDeg: angle, LengthM: 6, DiameterM: 0.2, Brush: job.BrushBare})
		j.Site.Targets = []job.Target{{ID: "w", Name: "wire", Kind: "power-line", Outline: []job.Spot{{X: -9, Y: 8.5}, {X: 9, Y: 8.5}}, FromM: 10.5, ToM: 10.6, VoltageKv: jobtest.Of(0.4)}}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "a", Way: job.WayFree}}
		if got := len(assess(&j, "p1").Detail.Landing.Hits) > 0; got != want {
			t.Errorf("a limb at %v°: %v", angle, got)
		}
	}
}

// Crowns tied at the very cut, at the very top and at the top of the other tree are tied; a tie round the stem at either end of what is
// felled is on it; a bedding log at the tip is under it, and one at the balance is not short of it.
func TestTiesAndBedsAtTheirEnds(t *testing.T) {
	j := jobtest.Stem()
	other := j.Trees[0]
	other.ID, other.Name, other.At = "2", "twin", &job.Spot{X: 6}
	j.Trees = append(j.Trees, other)
	for at, want := range map[float64]int{11.99: 0, 12: 1, 18: 1, 18.01: 0} {
		j.Trees[0].Tied = []job.Tied{{ID: "t", To: "2", AtM: at}}
		v := surveyOf(t, &j)
		if got := v.TiedTo(12, v.Now(v.Whole())); len(got) != want {
			t.Errorf("tied at %v m: %v", at, got)
		}
	}
	j.Trees[0].Tied = []job.Tied{{ID: "t", To: "2", AtM: 15}}
	v := surveyOf(t, &j)
	for top, want := range map[float64]int{15: 1, 14.99: 0} {
		now := v.Now(v.Whole())
		now.Among()[1].Top = top
		if got := v.TiedTo(12, now); len(got) != want {
			t.Errorf("the other tree %v m high: %v", top, got)
		}
	}

	felled := func(set job.Fell) (string, []string) {
		j := jobtest.Stem()
		j.Trees[0].Readings[0].CavityM = 0
		set.Wedged = true
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(1), Way: job.WayFelled, FallTowardsDeg: jobtest.Of(90), Fell: &set}}
		a := assess(&j, "p1")
		if len(a.Picks[0].Faults) > 0 {
			return a.Picks[0].Faults[0].Message, nil
		}
		return "", a.Detail.Cautions
	}
	for at, on := range map[float64]bool{0.99: false, 1: true, 18: true, 18.01: false} {
		if fault, _ := felled(job.Fell{Straps: []job.Strap{{AtM: at}}}); (fault == "") != on {
			t.Errorf("a tie at %v m: %q", at, fault)
		}
	}
	lone := jobtest.Stem()
	lone.Trees[0].Readings[0].CavityM = 0
	lone.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(1), Way: job.WayFelled, FallTowardsDeg: jobtest.Of(90), Fell: &job.Fell{Wedged: true}}}
	_, o := worked(t, &lone)
	balance := r3.Norm(r3.Sub(o.Weight.At, o.Cut))
	for _, c := range []struct {
		out   float64
		fault bool
		says  string
	}{
		{18, false, "All bedding logs lie beyond"}, // 17 m long, from 1 m up
		{18.01, true, "lies beyond its tip"},
		{balance, false, "All bedding logs lie beyond"},
		{balance - 0.01, false, "All bedding logs lie short"},
	} {
		fault, said := felled(job.Fell{Beds: []job.Bed{{OutM: c.out}}})
		if all := fault + strings.Join(said, " "); (fault != "") != c.fault || !strings.Contains(all, c.says) {
			t.Errorf("a log %v m out: %q, %v", c.out, fault, said)
		}
	}
	// One on either side of the balance, and two: it is the first that is met.
	for _, c := range []struct {
		outs []float64
		says string
	}{{[]float64{3, 4}, "All bedding logs lie short"}, {[]float64{12, 14}, "All bedding logs lie beyond"}, {[]float64{3, 14}, "It comes down on its bedding logs"}} {
		beds := make([]job.Bed, len(c.outs))
		for i := range beds {
			beds[i].OutM = c.outs[i]
		}
		if _, said := felled(job.Fell{Beds: beds}); !strings.Contains(strings.Join(said, " "), c.says) {
			t.Errorf("logs at %v: %v", c.outs, said)
		}
	}
}

// A bare log on 12° may roll on, and where to is not known; with its brush on it stays on 12°, not on 26°. Level ground keeps it.
func TestWhatLiesOnASlopeMayRunOn(t *testing.T) {
	for _, c := range []struct {
		slope float64
		brush string
		want  policy.Verdict
	}{{0, job.BrushBare, policy.Within}, {9.9, job.BrushBare, policy.Within}, {12, job.BrushBare, policy.NotKnown}, {12, job.BrushFull, policy.Within}, {26, job.BrushFull, policy.NotKnown}} {
		j := jobtest.Pole(job.Limb{ID: "a", AtM: 6, AzimuthDeg: 90, AngleDeg: 90, LengthM: 3, DiameterM: 0.2, Brush: c.brush})
		j.Site.SlopeDeg, j.Site.Targets = &c.slope, nil
		j.Site.Zones = []job.Zone{{ID: "z", Name: "lawn", Outline: []job.Spot{{X: -30, Y: -30}, {X: 30, Y: -30}, {X: 30, Y: 30}, {X: -30, Y: 30}}}}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "a", Way: job.WayFree}}
		if got := assess(&j, "p1"); got.Detail.Landing.Verdict != c.want || got.Picks[0].Verdict != c.want {
			t.Errorf("%+v: %s, %s", c, got.Detail.Landing.Verdict, got.Detail.Landing.Reason)
		}
	}
}
