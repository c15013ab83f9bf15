package assess

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// The scale teaches: what is weighed is taken as weighed, and what is like it follows.
func TestWeighingsMoveTheRest(t *testing.T) {
	j := jobtest.Whole()
	before := assess(&j, "")
	j.Picks[0].WeighedKg = jobtest.Of(1.3 * before.Picks[0].MassKg.Likely)
	after := assess(&j, "p1")
	jobtest.Near(t, "as weighed", after.Picks[0].MassKg.Likely, *j.Picks[0].WeighedKg)
	cv, each := float64(limbCv), float64(limbEachCv)
	learned := (timber.WeighIn{CvPct: &cv, PieceCvPct: &each, Weighed: []timber.Weighing{{PredictedKg: 1, MeasuredKg: 1.3}}}).Learn()
	jobtest.Near(t, "the next limb", after.Picks[1].MassKg.Likely, before.Picks[1].MassKg.Likely*learned.Factor)
	jobtest.Near(t, "the stem", after.Picks[3].MassKg.Likely, before.Picks[3].MassKg.Likely)
	if len(after.Learned) != 1 || after.Learned[0].Of != "limbs" || after.Picks[0].Basis != Weighed {
		t.Errorf("learned %+v", after.Learned)
	}
}

// What the scale said of limbs says nothing of how big a limb is that nobody has measured, and
// nothing of the stem; what it said of the stem, nothing of limbs on a top. Bayes' rule for one
// weighing that agrees, by hand: 1/(1/σ² + 1/(piece² + scale²)).
func TestWeighingsTeachTheirOwnKind(t *testing.T) {
	t.Parallel()
	high := func(table, piece, scale float64) float64 {
		noise := piece*piece + scale*scale
		return math.Exp(1.645 * math.Sqrt(1/(1/(table*table)+1/noise)+piece*piece))
	}
	j := jobtest.Whole()
	before := assess(&j, "")
	j.Trees[0].Limbs[2].Guess = true
	guessed := assess(&j, "").Picks[1].MassKg
	j.Picks[0].WeighedKg = jobtest.Of(before.Picks[0].MassKg.Likely)
	after := assess(&j, "p2").Picks[1].MassKg
	about := func(what string, got, want float64) {
		t.Helper()
		if !(math.Abs(got-want) <= 1e-3*want) {
			t.Errorf("%s: %v, want %v", what, got, want)
		}
	}
	about("a guessed limb's heavy end", after.High, after.Likely*high(0.3, 0.2, 0.02)*1.55)
	about("its light end", after.Low, after.Likely/high(0.3, 0.2, 0.02)*0.6)
	if guessed.High/guessed.Likely < 1.5 {
		t.Fatalf("a guess is %v", guessed)
	}
	// The bare top of the stem is weighed; beneath it a top with two limbs on it.
	j = jobtest.Whole()
	j.Trees[0].Limbs[3].AtM = 12
	j.Picks = []job.Pick{
		{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(15), Way: job.WayPastBlock, Rig: "r1"},
		{ID: "p2", What: job.WhatTop, CutM: jobtest.Of(10), Way: job.WayFree},
	}
	table := assess(&j, "")
	alone := j
	alone.Trees = slices.Clone(j.Trees)
	alone.Trees[0].Limbs = nil
	alone.Picks = slices.Clone(j.Picks)
	alone.Picks[1].What = job.WhatStem
	bare := assess(&alone, "").Picks[1].MassKg
	j.Picks[0].WeighedKg = jobtest.Of(table.Picks[0].MassKg.Likely)
	taught := assess(&j, "p2")
	got, was := taught.Picks[1].MassKg, table.Picks[1].MassKg
	about("a top's heavy end", got.High, bare.Likely*high(0.12, 0.08, 0.02)+(was.High-bare.High))
	about("what it is likely to weigh", got.Likely, was.Likely)
	if len(taught.Learned) != 1 || taught.Learned[0].Of != "stem" {
		t.Errorf("%+v", taught.Learned)
	}
	// That top weighed teaches neither: its limbs are neither most of it nor next to nothing.
	if share := bare.Likely / was.Likely; share < 0.2 || share > 0.8 {
		t.Fatalf("%v of it is stem", share)
	}
	j.Picks[0].WeighedKg, j.Picks[1].WeighedKg = nil, jobtest.Of(2*was.Likely)
	mixed := assess(&j, "")
	if len(mixed.Learned) != 0 || !strings.Contains(strings.Join(mixed.Cautions, " "), "times its heavy end") {
		t.Errorf("a mixed piece taught: %+v, %v", mixed.Learned, mixed.Cautions)
	}
	// It weighed more than it could: what nothing was weighed of may be as much heavier.
	about("after a piece of both that was too heavy", mixed.Picks[0].MassKg.High, table.Picks[0].MassKg.High*2*was.Likely/was.High)
	about("what it is likely to weigh then", mixed.Picks[0].MassKg.Likely, table.Picks[0].MassKg.Likely)
	j.Picks[1].WeighedKg = jobtest.Of(0.9 * was.High)
	if within := assess(&j, ""); !(math.Abs(within.Picks[0].MassKg.High-table.Picks[0].MassKg.High) <= 1e-9) || strings.Contains(strings.Join(within.Cautions, " "), "heavy end") {
		t.Errorf("within what it could weigh: %v", within.Picks[0].MassKg)
	}
	// Girths that were offered leave the stem as uncertain as they did.
	j = jobtest.Whole()
	j.Picks[3].WeighedKg = jobtest.Of(assess(&j, "").Picks[3].MassKg.Likely)
	j.Picks = append(j.Picks, job.Pick{ID: "p5", What: job.WhatStem, CutM: jobtest.Of(13), Way: job.WayPastBlock, Rig: "r1"})
	sure := assess(&j, "").Picks[4].MassKg
	j.Trees[0].Readings[0].Offered = true
	open := assess(&j, "").Picks[4].MassKg
	about("offered, heavy", open.High, sure.High*1.18)
	about("offered, light", open.Low, sure.Low*0.85)
}

// What each weight rests on is said.
func TestWhatAWeightRestsOn(t *testing.T) {
	bases := func(change func(*job.Job)) string {
		one := jobtest.Whole()
		change(&one)
		said := ""
		for _, p := range assess(&one, "").Picks {
			said += string(p.Basis) + " "
		}
		return said
	}
	for want, change := range map[string]func(*job.Job){
		"measured measured measured measured ": func(*job.Job) {},
		"measured guess measured measured ":    func(one *job.Job) { one.Trees[0].Limbs[2].Guess = true },
		// What grows on a limb goes with it.
		"guess measured measured measured ": func(one *job.Job) { one.Trees[0].Limbs[1].Guess = true },
		"weighed learned learned measured ": func(one *job.Job) { one.Picks[0].WeighedKg = jobtest.Of(200) },
		"measured measured guess measured ": func(one *job.Job) { one.Picks[2].MassKg = jobtest.Of(80) },
		"measured measured measured guess ": func(one *job.Job) { one.Trees[0].Readings[0].Offered = true },
		"default default default measured ": func(one *job.Job) {
			one.Trees[0].Wood = wood.Wood{Density: &wood.Range{Low: 900, Likely: 1000, High: 1100}}
		},
	} {
		if got := bases(change); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// The stem that stays is the spar package's own; a defect at a cut speaks up.
func TestSparAndDefects(t *testing.T) {
	j := jobtest.Whole()
	a := assess(&j, "p4")
	s := a.Detail.Spar
	if s == nil || s.StressMpa <= 0 || s.AllowedMpa != 57.0/3 {
		t.Fatalf("got %+v", s)
	}
	jobtest.Near(t, "in proportion", *rung(t, a, hold.PartSpar).UsePct, s.UsePct)
	j.Trees[0].Defects = []job.Defect{{ID: "x", Kind: job.DefectCrack, AtM: 14.8, ToM: jobtest.Of(15.2)}, {ID: "y", Kind: job.DefectHung, Limb: "c", AtM: 1}}
	if said := strings.Join(assess(&j, "p4").Detail.Cautions, " "); !strings.Contains(said, "At the cut: a crack") {
		t.Errorf("it says %q", said)
	}
	if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); !strings.Contains(said, "hangs loose above") {
		t.Errorf("beneath a hung branch it says %q", said)
	}
}

// How far a job is, by what is measured, planned and down.
func TestHowFarAJobIs(t *testing.T) {
	j := jobtest.Whole()
	said := func() (Stage, int) { a := assess(&j, ""); return a.Stage, a.Down }
	if is, down := said(); is != Planned || down != 0 {
		t.Errorf("nothing down: %s, %d", is, down)
	}
	j.Picks[0].Done = true
	if is, down := said(); is != Begun || down != 1 {
		t.Errorf("one down: %s, %d", is, down)
	}
	for i := range j.Picks {
		j.Picks[i].Done = true
	}
	if is, down := said(); is != Finished || down != len(j.Picks) {
		t.Errorf("all down: %s, %d", is, down)
	}
	j.Picks = nil
	if is, _ := said(); is != Surveyed {
		t.Errorf("nothing planned: %s", is)
	}
	j.Trees[0].HeightM, j.Trees[0].Readings = nil, nil
	j.Trees[0].Limbs = nil
	if is, _ := said(); is != ToSurvey {
		t.Errorf("not measured: %s", is)
	}
}

// Two sections at 0.7 of what was planned and one at 1.3: the heavy end of the next is no lighter than the one that was weighed.
func TestAHeavyWeighingIsNotForgotten(t *testing.T) {
	weighed := func(shares ...float64) PickFigures {
		j := jobtest.Stem()
		j.Trees[0].Limbs = nil
		j.Picks = nil
		for i := range len(shares) + 1 {
			cut := 16.5 - 1.5*float64(i)
			j.Picks = append(j.Picks, job.Pick{ID: fmt.Sprint(i), What: job.WhatStem, CutM: &cut, Way: job.WayPastBlock, Rig: "r1"})
		}
		planned := assess(&j, "").Picks
		for i, share := range shares {
			j.Picks[i].WeighedKg = jobtest.Of(share * planned[i].MassKg.Likely)
		}
		a := assess(&j, "")
		next := a.Picks[len(shares)]
		next.MassKg.High /= planned[len(shares)].MassKg.Likely
		if said := strings.Contains(strings.Join(a.Cautions, " "), "1.30 times what was planned"); said != (shares[len(shares)-1] == 1.3) {
			t.Errorf("%v: %v", shares, a.Cautions)
		}
		return next
	}
	if got := weighed(0.7, 0.7, 1.3).MassKg.High; got < 1.3*(1-1e-9) || got > 1.3*1.15 {
		t.Errorf("the heavy end of the next is %v times what is likely, one was 1.3", got)
	}
	// What is light takes nothing off beyond what the sum says: ln of the factor is Σ/s² over 1/0.12² + n/s², s² = 0.08² + 0.02².
	s2 := 0.08*0.08 + 0.02*0.02
	variance := 1 / (1/(0.12*0.12) + 2/s2)
	want := math.Exp(2*math.Log(0.7)/s2*variance + 1.645*math.Sqrt(variance+0.08*0.08))
	if got := weighed(0.7, 0.7).MassKg.High; math.Abs(got-want) > 1e-6*want {
		t.Errorf("after two light ones %v, by hand %v", got, want)
	}
}

// A stem of one girth and a height is not measured: of it one reading is known, and it is said.
func TestOneGirthIsOneReading(t *testing.T) {
	j := jobtest.Stem()
	if got := assess(&j, "").Picks[0].Basis; got != Measured {
		t.Errorf("of two girths: %s", got)
	}
	j.Trees[0].Readings = j.Trees[0].Readings[:1]
	if got := assess(&j, "").Picks[0].Basis; got != OneReading {
		t.Errorf("of one girth: %s", got)
	}
}

// What was weighed stays with the wood that it was of. Of the same cut it is the piece's weight; once the cut has been moved the piece is as the
// survey has it, taught by what that wood was of the survey, and both that it was weighed and that it came down cut otherwise are said. So with
// a limb that was taken off it since, and a pick that is no more.
func TestAWeighingStaysWithItsWood(t *testing.T) {
	j := jobtest.Pole()
	j.Trees[0].Limbs = []job.Limb{}
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(10), Way: job.WayFree}, {ID: "p2", What: job.WhatStem, CutM: jobtest.Of(7), Way: job.WayFree}}
	before := assess(&j, "")
	kg := 1.2 * before.Picks[0].MassKg.Likely
	happened := func(of *job.Wood) Assessment {
		j.Facts = []job.Fact{{ID: "d", What: job.FactDown, Pick: "p1", Of: of}, {ID: "w", What: job.FactWeighed, Pick: "p1", Kg: &kg, Of: of}}
		written, err := json.Marshal(j)
		if err != nil {
			t.Fatal(err)
		}
		read, err := job.ReadJob(written)
		if err != nil {
			t.Fatal(err)
		}
		return assess(&read, "p1")
	}
	wood := *before.Picks[0].AsCut
	a := happened(&wood)
	jobtest.Near(t, "as weighed", a.Picks[0].MassKg.Likely, kg)
	taught := a.Picks[1].MassKg.Likely / before.Picks[1].MassKg.Likely
	if taught < 1.02 || taught > 1.2 || a.Picks[0].Basis != Weighed || !a.Picks[0].Done {
		t.Fatalf("it teaches %v times, %+v", taught, a.Picks[0])
	}
	said := func(a Assessment) (down, weighed bool) {
		for _, c := range a.Detail.Cautions {
			down, weighed = down || strings.Contains(c, "came down was cut otherwise"), weighed || strings.Contains(c, "was weighed of wood that was cut otherwise")
		}
		return down, weighed
	}
	if down, weighed := said(a); down || weighed {
		t.Error("it says that it was cut otherwise")
	}
	// A pole of one thickness weighs by its length: of 4.9 m more, as much more, taught as before.
	j.Picks[0].CutM = jobtest.Of(5.1)
	j.Picks = j.Picks[:1]
	a = happened(&wood)
	top := before.Picks[0].ToM
	jobtest.Nearly(t, "cut otherwise", a.Picks[0].MassKg.Likely, before.Picks[0].MassKg.Likely*(top-5.1)/(top-10)*taught)
	if down, weighed := said(a); !down || !weighed || a.Picks[0].Basis == Weighed || !a.Picks[0].Done {
		t.Errorf("it says so of what came down: %v, of what was weighed: %v; %+v", down, weighed, a.Picks[0])
	}
	j.Picks[0].ID = "other"
	jobtest.Nearly(t, "its pick is no more", happened(&wood).Picks[0].MassKg.Likely, before.Picks[0].MassKg.Likely*(top-5.1)/(top-10)*taught)
	// With the limb on it that stood there then it is another piece.
	wood.Bears = []job.Borne{{Limb: "gone", TipM: 2}}
	j.Picks[0].ID, j.Picks[0].CutM = "p1", jobtest.Of(10)
	if a = happened(&wood); a.Picks[0].Basis == Weighed {
		t.Error("it is taken for what it was with its limb")
	}
}
