package assess

import (
	"fmt"
	"strings"
	"testing"

	"elkstay/core/cut"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/space"
	"elkstay/core/units"
)

// A figure that is just as far as can be is not asked about, the next one is; of a sub-limb nobody knows what it leaves.
func TestDoubtsBeginBeyondTheirBound(t *testing.T) {
	beyond := func(v float64) float64 { return v * 1.001 }
	straight := func(t *job.Tree, foot, height float64) {
		t.Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: foot}, {AtM: 5, Tape: job.Diameter, TapeM: foot}}
		t.HeightM, t.TopDiameterM, t.Limbs = jobtest.Of(height), jobtest.Of(foot), nil
	}
	limb := func(t *job.Tree, at, long, thick float64) {
		t.Limbs = []job.Limb{{ID: "a", AtM: at, AngleDeg: 45, LengthM: long, DiameterM: thick}}
	}
	for _, c := range []struct {
		what string
		tree func(t *job.Tree, by func(float64) float64)
		at   string
	}{
		{"a stem of 3 m", func(t *job.Tree, by func(float64) float64) { straight(t, by(3), 30) }, "readings[0].tape_m"},
		{"15 % thicker above", func(t *job.Tree, by func(float64) float64) { straight(t, 1, 20); t.Readings[1].TapeM = by(1.15) }, "readings[1].tape_m"},
		{"3 m off, 5 m up", func(t *job.Tree, by func(float64) float64) {
			straight(t, 0.5, 20)
			t.Readings[1].Offset = &job.Offset{OffM: by(3)}
		}, "readings[1].offset.off_m"},
		{"60 m high", func(t *job.Tree, by func(float64) float64) { straight(t, 1, by(60)) }, "height_m"},
		{"1.2 m through, 10 m high", func(t *job.Tree, by func(float64) float64) { straight(t, by(1.2), 10) }, "height_m"},
		{"50 m high on 25 cm", func(t *job.Tree, by func(float64) float64) { straight(t, 0.25, by(50)) }, "height_m"},
		{"a lean of 35°", func(t *job.Tree, by func(float64) float64) { straight(t, 0.5, 20); t.LeanDeg = jobtest.Of(by(35)) }, "lean_deg"},
		{"a limb as long as the tree", func(t *job.Tree, by func(float64) float64) { straight(t, 0.8, 20); limb(t, 2, by(20), 0.3) }, "limbs[0].length_m"},
		{"3 m of limb on 2 cm", func(t *job.Tree, by func(float64) float64) { straight(t, 0.8, 20); limb(t, 2, by(3), 0.02) }, "limbs[0].length_m"},
		{"a limb a twentieth thicker than its stem", func(t *job.Tree, by func(float64) float64) { straight(t, 1, 20); limb(t, 2, 5, by(1.05)) }, "limbs[0].diameter_m"},
		{"a twig on a whip", func(t *job.Tree, by func(float64) float64) { straight(t, 0.04, 5); limb(t, 2, 2, by(0.05)) }, "limbs[0].diameter_m"},
		{"as thick as it is long", func(t *job.Tree, by func(float64) float64) { straight(t, 0.8, 20); limb(t, 2, 0.5, by(0.5)) }, "limbs[0].diameter_m"},
		// At the very foot and at the very top of a stem its limbs are asked about as well.
		{"a limb at the foot", func(t *job.Tree, by func(float64) float64) { straight(t, 0.4, 20); limb(t, 0, 5, 0.42*by(0.999)) }, "limbs[0].diameter_m"},
		{"a limb at the top", func(t *job.Tree, by func(float64) float64) { straight(t, 0.4, 20); limb(t, 20, 5, 0.42*by(0.999)) }, "limbs[0].diameter_m"},
	} {
		for _, over := range []bool{false, true} {
			j := jobtest.Whole()
			by := func(v float64) float64 { return v }
			if over {
				by = beyond
				if strings.HasPrefix(c.what, "a limb at") {
					by = func(v float64) float64 { return v * 1.01 }
				}
			}
			c.tree(&j.Trees[0], by)
			found := doubts(&j, units.Metric)
			switch {
			case !over && len(found) != 0:
				t.Errorf("%s: %v", c.what, found)
			case over && (len(found) == 0 || found[0].Location != "body.trees[0]."+c.at):
				t.Errorf("more than %s: %v", c.what, found)
			}
		}
	}
	j := jobtest.Whole()
	straight(&j.Trees[0], 0.1, 10)
	j.Trees[0].Readings[0].Offset = &job.Offset{OffM: 0.1}
	j.Trees[0].Limbs = []job.Limb{{ID: "a", AtM: 2, AngleDeg: 45, LengthM: 5, DiameterM: 0.1}, {ID: "s", Parent: "a", AtM: 1, AngleDeg: 45, LengthM: 3, DiameterM: 0.2}, {ID: "b", AtM: 11, AngleDeg: 45, LengthM: 3, DiameterM: 0.2}}
	if found := doubts(&j, units.Metric); len(found) != 0 {
		t.Errorf("off at the foot, a sub-limb, a limb above what was measured: %v", found)
	}
	j.Trees[0].HeightM, j.Trees[0].Readings = nil, j.Trees[0].Readings[:1]
	if found := doubts(&j, units.Metric); len(found) != 0 {
		t.Errorf("read at the foot alone: %v", found)
	}
}

// Outlines that cover a place in common do, however thin it is; side by side, or corner to corner, they do not.
func TestOutlinesOverlap(t *testing.T) {
	square := []job.Spot{{X: 0, Y: 0}, {X: 10, Y: 0}, {X: 10, Y: 10}, {X: 0, Y: 10}}
	box := func(x, y, w, h float64) []job.Spot {
		return []job.Spot{{X: x, Y: y}, {X: x + w, Y: y}, {X: x + w, Y: y + h}, {X: x, Y: y + h}}
	}
	for _, c := range []struct {
		what  string
		other []job.Spot
		want  bool
	}{
		{"a path across", box(-1, 3.3, 12, 0.02), true},
		{"a tip of it", []job.Spot{{X: 9.99, Y: 5.01}, {X: 14, Y: 5}, {X: 14, Y: 5.5}}, true},
		{"itself", square, true},
		{"within it", box(4, 4, 1, 1), true},
		{"round it", box(-4, -4, 20, 20), true},
		{"a corner stood in it", []job.Spot{{X: 5, Y: 0}, {X: 10, Y: 5}, {X: 5, Y: 10}, {X: 0, Y: 5}}, true},
		{"flush with it on two sides", box(6, 0, 9, 10), true},
		{"flush with it on one", box(6, 2, 4, 3), true},
		{"a line through it", []job.Spot{{X: -1, Y: 5}, {X: 11, Y: 5.1}}, true},
		{"beside it", box(10, 0, 4, 10), false},
		{"at its corner", box(10, 10, 4, 4), false},
		{"off it", box(12, 3, 4, 4), false},
	} {
		if got := space.Overlap(square, c.other); got != c.want || space.Overlap(c.other, square) != c.want {
			t.Errorf("%s: %v", c.what, got)
		}
	}
}

// Half of a diameter hollow is half, and a shell of a third of the radius is one: both are said from the next millimetre on.
func TestHollowAtItsBound(t *testing.T) {
	said := func(cavity float64) (cut.Advice, string) {
		j := jobtest.Stem()
		j.Trees[0].Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: 0.75, CavityM: cavity}, {AtM: 18, Tape: job.Diameter, TapeM: 0.75, CavityM: cavity}}
		j.Trees[0].HeightM, j.Trees[0].TopDiameterM = nil, nil
		a := assess(&j, "p1")
		return *a.Detail.Advice, strings.Join(a.Detail.Cautions, " ")
	}
	shell := func(cavity float64) bool {
		_, all := said(cavity)
		return strings.Contains(all, "thinner than a third")
	}
	if shell(0.5) || !shell(0.501) || shell(0) {
		t.Errorf("a shell of a third of the radius: %v, thinner: %v, none: %v", shell(0.5), shell(0.501), shell(0))
	}
	ranks := func(cavity float64) string {
		advice, _ := said(cavity)
		kinds := []string{}
		for _, c := range advice.Cuts {
			kinds = append(kinds, fmt.Sprint(c.Cut, c.Score))
		}
		return fmt.Sprint(kinds, advice.Excluded)
	}
	if sound, half, more := ranks(0), ranks(0.375), ranks(0.376); sound != half || half == more {
		t.Errorf("hollow to the half: %s\nmore: %s\nsound: %s", half, more, sound)
	}
}

// The shortest tie that is on a piece is short of its end; the lowest block is at the lowest reading.
func TestTieAndBlockAtTheirEnds(t *testing.T) {
	fault := func(spoil func(*job.Job)) string {
		j := jobtest.Stem()
		spoil(&j)
		if f := assess(&j, "p1").Picks[0].Faults; len(f) > 0 {
			return f[0].Message
		}
		return ""
	}
	// 3 m from 15 to 18.
	for tie, want := range map[float64]string{3: "at or beyond the piece's end", 2.99: ""} {
		if got := fault(func(j *job.Job) { j.Picks[0].TieM = &tie }); (got == "") != (want == "") || !strings.Contains(got, want) {
			t.Errorf("tied %v m from the cut: %q", tie, got)
		}
	}
	for below, want := range map[float64]string{1.5: "", 1.51: "where there is no stem"} {
		got := fault(func(j *job.Job) {
			j.Picks[0].CutM, j.Rigs[0].Block.BelowCutM = jobtest.Of(2), &below
			j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "s", AtM: 0.1}
			j.Site.Anchors = []job.Anchor{{ID: "s", Name: "stake", Kind: job.AnchorGround, At: job.Spot{X: 3}}}
		})
		if (want == "") == strings.Contains(got, "where there is no stem") {
			t.Errorf("a block %v m below the cut: %q", below, got)
		}
	}
}

// A cut at the lowest reading has nothing measured under it; a line tied at the very top pulls, one at the cut has nothing to pull on; a
// block level with a limb's cut is not below it.
func TestCutsAndLinesAtTheirEnds(t *testing.T) {
	fault := func(j job.Job) string {
		if f := assess(&j, j.Picks[0].ID).Picks[0].Faults; len(f) > 0 {
			return f[0].Message
		}
		return ""
	}
	for at, want := range map[float64]bool{0.5: true, 0.51: false} {
		j := jobtest.Stem()
		j.Picks[0] = job.Pick{ID: "p1", What: job.WhatTop, CutM: &at, Way: job.WayFelled, FallTowardsDeg: jobtest.Of(90), Fell: &job.Fell{Wedged: true}}
		if got := fault(j); strings.Contains(got, "below the lowest reading") != want {
			t.Errorf("cut at %v m: %q", at, got)
		}
	}
	for at, want := range map[float64]bool{18: false, 18.01: true, 0.5: true, 0.51: false} {
		j := jobtest.Poled()
		j.Picks[0].CutM, j.Picks[0].Fell.Lines[0].AtM = jobtest.Of(0.5), at
		if got := fault(j); strings.Contains(got, "has nothing to pull on") != want {
			t.Errorf("a line tied at %v m: %q", at, got)
		}
	}
	for at, want := range map[float64]bool{7: true, 6.99: false} {
		j := jobtest.Whole()
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "a", Way: job.WayPastBlock, Rig: "r1"}}
		j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: at}
		if got := fault(j); strings.Contains(got, "is not below the cut") != want {
			t.Errorf("a block at %v m, the cut at 7: %q", at, got)
		}
	}
}

// What hangs at the very cut comes off with the piece, and what hangs where the limb ends now has gone.
func TestWhatHangsAtTheCut(t *testing.T) {
	j := jobtest.Pole(job.Limb{ID: "a", AtM: 8, AzimuthDeg: 90, AngleDeg: 90, LengthM: 5, DiameterM: 0.2, Brush: job.BrushBare})
	bare := func(cut, tip float64, at float64) float64 {
		j.Trees[0].Defects = []job.Defect{{ID: "h", Kind: job.DefectHung, Limb: "a", AtM: at, MassKg: jobtest.Of(60)}}
		v := surveyOf(t, &j)
		now := v.Standing()
		now.Tips[0] = tip
		with := v.LimbMass(0, cut, now).Kg.Likely
		j.Trees[0].Defects = nil
		v = surveyOf(t, &j)
		return with - v.LimbMass(0, cut, now).Kg.Likely
	}
	for at, want := range map[float64]float64{1.99: 0, 2: 60, 3.99: 60, 4: 0} {
		jobtest.Nearly(t, "what hangs adds", bare(2, 4, at), want)
	}
}

// Where a gust blows to is said by how it stands to the fall.
func TestWhereAGustBlows(t *testing.T) {
	t.Parallel()
	for towards, want := range map[float64]string{270: "from ahead: they hold it back", 90: "from behind: they are not counted on", 0: "from the side: they lean on its hinge", 171: "from the side", 169: "from behind", 191: "from ahead", 189: "from the side"} {
		j := jobtest.Poled()
		j.Site.GustMS, j.Site.GustTowardsDeg = jobtest.Of(9), &towards
		if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); !strings.Contains(said, want) {
			t.Errorf("gusts towards %v°, falling to 90°: %s", towards, said)
		}
	}
	j := jobtest.Poled()
	j.Site.GustMS = jobtest.Of(9)
	if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); !strings.Contains(said, "nobody has said where they blow to") {
		t.Error(said)
	}
	for slope, want := range map[float64]string{9.9: "", 10: "It falls downhill, on 10°"} {
		j := jobtest.Poled()
		j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = &slope, jobtest.Of(90)
		if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); strings.Contains(said, "downhill") != (want != "") || !strings.Contains(said, want) {
			t.Errorf("a slope of %v°: %s", slope, said)
		}
	}
	for towards, want := range map[float64]string{270: "It falls uphill, on 14°", 0: "It lies across a slope of 14°"} {
		j := jobtest.Poled()
		j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = jobtest.Of(14), &towards
		if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); !strings.Contains(said, want) {
			t.Errorf("falling away towards %v°: %s", towards, said)
		}
	}
}

// A bedding log that lies on something puts what it takes into that.
func TestABedOnSomething(t *testing.T) {
	for at, want := range map[float64]bool{9: true, 11: false} {
		j := jobtest.Poled()
		j.Site.Targets = []job.Target{{ID: "c", Name: "conduit", Kind: "other", Box: &job.Box{Min: job.Spot{X: 8, Y: -1}, Max: job.Spot{X: 10, Y: 1}}, ToM: 0.1}}
		j.Picks[0].Fell.Beds = []job.Bed{{ID: "b", OutM: at}}
		if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); strings.Contains(said, "lies on conduit") != want {
			t.Errorf("a log %v m out: %s", at, said)
		}
	}
}

// Defects by the cut and by the block are said with what they mean, the block's where it sits: on the stem, on a limb, and of an anchor
// nothing is known.
func TestDefectsByCutAndBlock(t *testing.T) {
	t.Parallel()
	said := func(place *job.Place, defects ...job.Defect) string {
		j := jobtest.Whole()
		j.Site.Anchors = []job.Anchor{{ID: "m", Name: "mast", Kind: job.AnchorGround, HeightM: jobtest.Of(20)}}
		j.Trees[0].Defects = defects
		j.Rigs[0].Block.Place = place
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "a", Way: job.WayFromAbove, Rig: "r1"}}
		a := assess(&j, "p1")
		if len(a.Picks[0].Faults) > 0 {
			t.Fatal(a.Picks[0].Faults)
		}
		return strings.Join(a.Detail.Cautions, " ")
	}
	crack := func(limb string, at float64) job.Defect {
		return job.Defect{ID: "k", Kind: job.DefectCrack, Limb: limb, AtM: at}
	}
	onStem, onLimb, onMast := &job.Place{On: job.OnStem, AtM: 14}, &job.Place{On: job.OnLimb, Limb: "c", AtM: 2}, &job.Place{On: job.OnAnchor, Anchor: "m", AtM: 14}
	for _, c := range []struct {
		place      *job.Place
		defect     job.Defect
		cut, block bool
	}{
		{onStem, crack("a", 0), true, false}, {onStem, crack("", 14), false, true}, {onStem, crack("", 14.6), false, true}, {onStem, crack("", 14.61), false, false},
		{onStem, crack("", 13.4), false, true}, {onStem, crack("", 13.39), false, false}, {onLimb, crack("c", 2), false, true}, {onLimb, crack("c", 2.61), false, false}, {onLimb, crack("", 2), false, false}, {onMast, crack("", 14), false, false},
	} {
		got := said(c.place, c.defect)
		if strings.Contains(got, "At the cut: a crack") != c.cut || strings.Contains(got, "At the block: a crack") != c.block {
			t.Errorf("block on %+v, a crack of %q at %v: %s", *c.place, c.defect.Limb, c.defect.AtM, got)
		}
	}
}

// A hinge in wood that is not sound, and nothing else that holds it sideways, is said; a line that holds takes that away.
func TestAWeakHingeAlone(t *testing.T) {
	said := func(change func(*job.Job)) bool {
		j := jobtest.Poled()
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(3), jobtest.Of(180)
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{Y: 18}})
		j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectDecay, AtM: 0.5}}
		change(&j)
		return strings.Contains(strings.Join(assess(&j, "p1").Detail.Cautions, " "), "nothing but the hinge holds it sideways")
	}
	if !said(func(*job.Job) {}) || said(func(j *job.Job) { j.Trees[0].Defects = nil }) || said(func(j *job.Job) {
		j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines, job.FellLine{ID: "h", AtM: 12, Anchor: "n", Holds: true, EffortKn: jobtest.Of(9)})
	}) {
		t.Error("of weak wood, of sound wood, held by a line")
	}
}
