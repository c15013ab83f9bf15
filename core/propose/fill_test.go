package propose

import (
	"slices"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// A limb over a roof, that the one line the fill holds with brings onto it, is held at both ends, turned up beside the roof by
// the order of its two hands; with one rig it is not.
func TestFillHoldsAtBothEnds(t *testing.T) {
	j := betweenMasts()
	first := func() Proposed { return Order(&j, ByUp, "", assess.Options{Units: units.Metric}).Picks[0] }
	one := first()
	if one.Pick.Way != job.WayBothEnds || one.Pick.Ends == nil || len(one.Pick.Ends.Program) == 0 || !strings.HasPrefix(one.Reason, "Held at both ends: on one line it is stopped by") {
		t.Fatalf("%+v", one)
	}
	j.Picks = []job.Pick{one.Pick}
	if f := assessed(&j, "").Picks[0]; f.Verdict != one.Verdict || f.Verdict == policy.Over || f.Verdict == policy.NotKnown {
		t.Errorf("on the board it is %s, %s", f.Verdict, f.Worst)
	}
	j.Picks = nil
	// Not between masts that are too weak for it, nor between such as nobody knows of.
	for what, marked := range map[string]*float64{"weak": jobtest.Of(0.4), "not known": nil} {
		j.Site.Anchors[0].MarkedKn, j.Site.Anchors[1].MarkedKn = marked, marked
		if one = first(); one.Pick.Way == job.WayBothEnds {
			t.Errorf("on masts that are %s: %+v", what, one)
		}
	}
	j.Site.Anchors[0].MarkedKn, j.Site.Anchors[1].MarkedKn = jobtest.Of(40), jobtest.Of(40)
	j.Rigs = j.Rigs[:1]
	if one = first(); one.Pick.Way == job.WayBothEnds {
		t.Errorf("with one rig: %+v", one)
	}
}

// betweenMasts is a limb over a boathouse, between two masts of a rig each.
func betweenMasts() job.Job {
	j := jobtest.Stem()
	j.Trees[0].Readings[0].CavityM = 0
	j.Trees[0].Limbs = []job.Limb{{ID: "a", Name: "roof limb", AtM: 9, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.2, LengthM: 6, Brush: job.BrushBare}}
	j.Rigs = append(j.Rigs, j.Rigs[0])
	j.Rigs[1].ID, j.Rigs[1].Name = "r2", "tip rig"
	for i, at := range []float64{5, 1} {
		id := []string{"m1", "m2"}[i]
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: id, Name: "mast " + id, Kind: job.AnchorGround, At: job.Spot{X: at}, HeightM: jobtest.Of(16), Rating: gear.Rating{MarkedKn: jobtest.Of(40)}})
		j.Rigs[i].Block.Place = &job.Place{On: job.OnAnchor, Anchor: id, AtM: 16}
		j.Rigs[i].Catch.How = job.Locked
	}
	j.Site.Targets = []job.Target{{ID: "t", Name: "boathouse", Kind: "building", Box: &job.Box{Min: job.Spot{X: 2.5, Y: -2}, Max: job.Spot{X: 9, Y: 2}}, ToM: 3}}
	j.Picks = nil
	return j
}

// What a hurried look at a limb on two lines says stops it stops it looked at in full, and what that says stops it as its lines
// catch it stops it whatever its program.
func TestAHurriedLookAtTwoLines(t *testing.T) {
	t.Parallel()
	stopped, early, free := 0, 0, 0
	for _, c := range []struct{ mast, roof, near, marked float64 }{
		{16, 3, 2.5, 40}, {16, 8.9, 2.5, 40}, {16, 3, 2.5, 1.6}, {11, 7, 1, 40},
	} {
		j := betweenMasts()
		for i := range j.Site.Anchors {
			j.Site.Anchors[i].MarkedKn, j.Site.Anchors[i].HeightM, j.Rigs[i].Block.Place.AtM = &c.marked, &c.mast, c.mast
		}
		j.Site.Targets[0].Box.Min.X, j.Site.Targets[0].ToM = c.near, c.roof
		for _, tight := range []float64{0, 0.5} {
			atCatch := false
			for _, first := range []string{"", job.EndTip, job.EndButt} {
				p := job.Pick{ID: "p", What: job.WhatLimb, Limb: "a", Way: job.WayBothEnds, CutM: jobtest.Of(0), Rig: j.Rigs[0].ID,
					Ends: &job.Ends{Butt: job.End{Rig: j.Rigs[0].ID, SlackM: jobtest.Of(0), TightKn: &tight}, Tip: job.End{Rig: "r2", SlackM: jobtest.Of(0), TightKn: &tight}}}
				if first != "" {
					p.Ends.Program = []job.EndStep{{Line: first, ByM: 9}, {Line: job.EndBoth, ByM: 40}}
				}
				j.Picks = []job.Pick{p}
				forest, _ := assess.Prepare(&j, &assess.Options{Units: units.Metric})
				v := forest.Of(&p)
				look := func(hurried bool) *assess.Outcome {
					one := p
					v.Hurried = hurried
					return v.WorkWith(&one, v.RigOf(&p), 1, v.Now(forest.Before(0)))
				}
				full, quick := look(false), look(true)
				if (v.Stops(full) == "") != (v.Stops(quick) == "") {
					t.Errorf("%+v, %v kN, %q first: in full stopped by %q, in a hurry by %q", c, tight, first, v.Stops(full), v.Stops(quick))
				}
				if atCatch && v.Stops(full) == "" {
					t.Errorf("%+v, %v kN: stopped early, yet not with %q first", c, tight, first)
				}
				switch {
				case quick.StoppedEarly():
					atCatch = true
					early++
				case v.Stops(quick) != "":
					stopped++
				default:
					free++
				}
			}
		}
	}
	if early < 6 || stopped < 4 || free < 3 {
		t.Errorf("%d stopped early, %d later, %d not", early, stopped, free)
	}
}

// The fill fells what can be felled and pieces the rest; on the board its picks are what it says.
func TestFillFells(t *testing.T) {
	j := rowed()
	p := Order(&j, ByFells, "", assess.Options{Units: units.Metric})
	if len(p.Picks) != 2 || p.Picks[0].Pick.Way != job.WayFelled || p.Picks[0].Title == "" || p.Picks[0].MassKg == "" || !strings.HasPrefix(p.Picks[0].Reason, "Whole, to ") {
		t.Fatalf("%+v", p)
	}
	if p.Ending != "Middle pole, then east pole." || p.Picks[1].Pick.Tree != "3" {
		t.Errorf("%q: %+v", p.Ending, p.Picks)
	}
	for _, one := range p.Picks {
		j.Picks = append(j.Picks, one.Pick)
	}
	for i, f := range assessed(&j, "").Picks {
		if i > 0 && (f.Verdict != p.Picks[i-1].Verdict || len(f.Faults) > 0) {
			t.Errorf("%s: the fill says %s, the board %s %v", f.Title, p.Picks[i-1].Verdict, f.Verdict, f.Faults)
		}
	}
	if again := Order(&j, ByFells, "", assess.Options{Units: units.Metric}); len(again.Picks) != 0 {
		t.Errorf("asked again: %+v", again)
	}
	// Where no bearing is open all comes down in pieces.
	j.Picks = nil
	j.Site.Sectors = []job.Sector{{ID: "s", Name: "all round", FromDeg: 0, ToDeg: 360}}
	for _, one := range Order(&j, ByFells, "", assess.Options{Units: units.Metric}).Picks {
		if one.Pick.Way == job.WayFelled {
			t.Errorf("into a sector: %+v", one)
		}
	}
}

// What hangs or is dead comes off first where it can, the hung one before the dead, the higher dead one
// before the lower; what cannot come off whole past what stands keeps its place.
func TestFillOffersHazardsFirst(t *testing.T) {
	t.Parallel()
	j := jobtest.Thirty()
	limbs := j.Trees[0].Limbs
	at := func(n int) string { return limbs[n].ID }
	var roots []int
	for i := range limbs {
		if limbs[i].Parent == "" {
			roots = append(roots, i)
		}
	}
	low, mid, high := roots[len(roots)/4], roots[len(roots)/2], roots[3*len(roots)/4]
	j.Trees[0].Defects = []job.Defect{
		{ID: "d1", Kind: job.DefectDead, Limb: at(low), AtM: 0.5}, {ID: "d2", Kind: job.DefectDead, Limb: at(high), AtM: 0.5},
		{ID: "h", Kind: job.DefectHung, Limb: at(mid), AtM: 1, MassKg: jobtest.Of(15)}, {ID: "c", Kind: job.DefectCrack, Limb: at(roots[0]), AtM: 0.1},
	}
	for _, by := range []string{ByUp, BySides} {
		p := Order(&j, by, "", assess.Options{Units: units.Metric})
		var first []string
		for _, one := range p.Picks[:3] {
			first = append(first, one.Pick.Limb)
		}
		if want := []string{at(mid), at(high), at(low)}; !slices.Equal(first, want) {
			t.Errorf("%s: %v, want %v", by, first, want)
		}
		if !strings.HasPrefix(p.Picks[0].Reason, "A branch hangs in it: first") || !strings.HasPrefix(p.Picks[1].Reason, "Dead wood: first") || strings.Contains(p.Picks[3].Reason, "first, before") {
			t.Errorf("%s: %s | %s | %s", by, p.Picks[0].Reason, p.Picks[1].Reason, p.Picks[3].Reason)
		}
	}
}

// Where no section keeps every limit the order says what stops even a short one: on the rig where there is one, not let fall.
func TestWhatAnOrderFallsBackTo(t *testing.T) {
	for rigged, want := range map[bool]string{true: "even a short one is stopped by the heaviest piece you take", false: "even a short one is stopped by where it comes down"} {
		j := jobtest.Stem()
		j.Picks, j.Limits.PieceKg = nil, jobtest.Of(5)
		if !rigged {
			j.Rigs[0].Rope = nil
		}
		if p := Order(&j, ByUp, "", assess.Options{Units: units.Metric}); !strings.Contains(p.Ending, want) {
			t.Errorf("with a rig %v: %q, want %q", rigged, p.Ending, want)
		}
	}
}
