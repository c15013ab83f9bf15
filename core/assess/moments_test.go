package assess

import (
	"math"
	"strconv"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/spar"
)

const g = 9.80665

// worked is one pick of a job, worked out on the whole tree.
func worked(t *testing.T, j *job.Job) (*Survey, *Outcome) {
	t.Helper()
	v := surveyOf(t, j)
	p := &j.Picks[0]
	o := v.WorkWith(p, v.RigOf(p), 0, v.Now(v.Forest.whole()))
	if o.Stopped() {
		t.Fatalf("%s: %v", p.ID, o.Faults)
	}
	return v, o
}

// swinging is a limb tied near its tip under a block well to its side, let swing.
func swinging() job.Job {
	j := jobtest.Whole()
	j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 13.2}
	j.Rigs[0].SlackM = jobtest.Of(0)
	j.Picks = []job.Pick{{ID: "p", What: job.WhatLimb, Limb: "c", CutM: jobtest.Of(0.3), Way: job.WaySwung, Rig: "r1", TieM: jobtest.Of(2.5)}}
	return j
}

// mostAside is the most that a pendulum let go at an angle pulls its point aside, in weights, by
// a fine walk: of (3·cos θ − 2·cos θ₀)·sin θ.
func mostAside(start float64) (most float64) {
	for k := range 20001 {
		at := start * float64(k) / 20000
		most = math.Max(most, (3*math.Cos(at)-2*math.Cos(start))*math.Sin(at))
	}
	return most
}

// While a piece swings the line pulls its block aside: on the stem that carries the block, and on
// a limb that does; a line that catches harder than a taut one pulls aside as much harder.
func TestASwingPullsItsBlockAside(t *testing.T) {
	j := swinging()
	j.Rigs[0].SlackM, j.Rigs[0].Catch = jobtest.Of(0.6), job.Catch{How: job.Locked}
	_, o := worked(t, &j)
	out := r3.Norm(level(r3.Sub(o.tie, o.block)))
	start := math.Atan2(out, o.block.Z-o.tie.Z)
	weight := o.Weight.Kg.High * g / 1000
	harder := o.Catch.LinePeakKn / (weight * (3 - 2*math.Cos(start)))
	if start < radians(60) || harder < 1.1 {
		t.Fatalf("it swings from %v°, %v times as hard", start*180/math.Pi, harder)
	}
	want := harder * weight * mostAside(start)
	legs := r3.Scale(o.Path.Points[0].ResultantKn*o.Catch.LinePeakKn, o.Path.Points[0].Direction.Vec())
	aside := r3.Scale(want/out, level(r3.Sub(o.tie, o.block)))
	found := false
	for _, one := range o.spar.beam.Loads {
		got := math.Hypot(one.HorizontalKn, one.AcrossKn)
		for _, to := range [2]r3.Vec{r3.Add(legs, aside), r3.Sub(legs, aside)} {
			found = found || math.Abs(one.AtM-13.2) < 1e-9 && math.Abs(got-r3.Norm(level(to))) < 2e-3*want && math.Abs(one.VerticalKn+to.Z) < 1e-6
		}
	}
	if !found {
		t.Errorf("aside on the stem: %+v, want %v with or against %v", o.spar.beam.Loads, aside, legs)
	}
	// On a limb beside the stem: the sum of the legs' force and of what leads aside.
	j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "d", AtM: 0.6}
	_, o = worked(t, &j)
	out = r3.Norm(level(r3.Sub(o.tie, o.block)))
	start = math.Atan2(out, o.block.Z-o.tie.Z)
	harder = math.Max(1, o.Catch.LinePeakKn/(weight*(3-2*math.Cos(start))))
	legs = r3.Scale(o.Path.Points[0].ResultantKn*o.Catch.LinePeakKn, o.Path.Points[0].Direction.Vec())
	aside = r3.Scale(harder*weight*mostAside(start)/out, level(r3.Sub(o.tie, o.block)))
	if got, want := o.pulls()[0].peak, r3.Norm(r3.Add(legs, aside)); !(math.Abs(got-want) <= 2e-3*want) {
		t.Errorf("on the limb: %v, want %v", got, want)
	}
}

// Between two points the first line's block has its line and its lead on the stem, where the line
// bends the stem most: half way across at equal heights the line leads off at less than it carries.
func TestTwoPointsBendTheStem(t *testing.T) {
	t.Parallel()
	j := jobtest.Whole()
	j.Trees[0].Limbs = j.Trees[0].Limbs[:2]
	j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 15}
	j.Site.Anchors = []job.Anchor{{ID: "o", Name: "oak", Kind: job.AnchorTree, At: job.Spot{X: 12}, HeightM: jobtest.Of(16), DiameterM: jobtest.Of(0.7)}}
	j.Rigs[0].Second = &job.SecondLine{Place: job.Place{On: job.OnAnchor, Anchor: "o", AtM: 14}}
	j.Picks = []job.Pick{{ID: "p", What: job.WhatLimb, Limb: "a", Way: job.WayTwoPoints, Rig: "r1", CarryM: jobtest.Of(9)}}
	v, o := worked(t, &j)
	w := o.Weight.Kg.High * g / 1000
	across, line, angle := 0.0, 0.0, 0.0
	for k := range 20001 {
		x := 12 * float64(k) / 20000
		a, b := math.Atan2(15-9, x), math.Atan2(14-9, 12-x)
		tension := w * math.Cos(b) / math.Sin(a+b)
		if s := tension * math.Cos(a); s > across {
			across, line, angle = s, tension, a
		}
	}
	thick, _ := v.Stem.DiameterAt(15)
	for _, one := range o.spar.beam.Loads {
		if math.Abs(one.AtM-15) > 1e-9 {
			continue
		}
		if !(math.Abs(one.HorizontalKn-across) <= 5e-3*across) || one.VerticalKn < line*(math.Sin(angle)+0.9)*0.96 || one.VerticalKn > line*(math.Sin(angle)+0.9)*1.04 || !(math.Abs(one.OffsetM-thick/2) <= 1e-9) {
			t.Errorf("on the stem: %+v, want %v across and %v down at %v", one, across, line*(math.Sin(angle)+0.9), thick/2)
		}
	}
	// What both lines carry at each place of the way is said, from the first point across.
	said := assess(&j, "p").Detail.Carried
	if len(said) < 20 || !(math.Abs(said[len(said)-1].OutM-12) <= 0.5) {
		t.Fatalf("the way across: %+v", said)
	}
	for _, c := range said[1 : len(said)-1] {
		a, b := math.Atan2(15-9, c.OutM), math.Atan2(14-9, 12-c.OutM)
		if first, second := w*math.Cos(b)/math.Sin(a+b), w*math.Cos(a)/math.Sin(a+b); !(math.Abs(c.FirstKn-first) <= 1e-6*first) || !(math.Abs(c.SecondKn-second) <= 1e-6*second) {
			t.Errorf("%v m out: %v and %v kN, want %v and %v", c.OutM, c.FirstKn, c.SecondKn, first, second)
		}
	}
	// Tied at its balance it may hang either end down: the longer one is what passes over the ground.
	reach := max(o.Settings.TieM, o.Length()-o.Settings.TieM)
	if reach < 2.1 {
		t.Fatalf("it hangs %v m beneath its tie", reach)
	}
	a := assess(&j, "p")
	jobtest.Near(t, "what is left over the ground", *a.Detail.Room.ClearanceM, 9-reach)
}

// The film of a piece at the heavy end of its weight has that end's inertia too.
func TestTheFilmTurnsTheHeavyEnd(t *testing.T) {
	j := jobtest.Stem()
	v, o := worked(t, &j)
	trace := Trace{}
	if err := (pastBlock{}).simulate(t.Context(), v, o, 0, &trace); err != nil {
		t.Fatal(err)
	}
	heavy := trace.Run.Series
	o.Weight.Kg.Likely = o.Weight.Kg.High
	again := Trace{}
	if err := (pastBlock{}).simulate(t.Context(), v, o, 0, &again); err != nil {
		t.Fatal(err)
	}
	// Weighed as what it is counted with, it falls otherwise by its inertia alone.
	if len(heavy.LineKn) == 0 || *trace.Run.LinePeakKn == *again.Run.LinePeakKn {
		t.Errorf("its inertia does not tell: %v and %v", *trace.Run.LinePeakKn, *again.Run.LinePeakKn)
	}
}

// A limb's balance is that of its parts in their places: a fork far out draws it out, one below
// the cut stays, a branch that hangs on it weighs where it hangs.
func TestALimbsPartsWeighWhereTheyAre(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].Limbs[1].LengthM, j.Trees[0].Limbs[1].AngleDeg, j.Trees[0].Limbs[1].AzimuthDeg = 3, 85, 150
	v := surveyOf(t, &j)
	now := v.whole()
	bare := v.whole()
	bare.Tips[1] = 0
	parent, fork, both := v.limbMass(0, 0, &bare), v.limbMass(1, 0, &now), v.limbMass(0, 0, &now)
	jobtest.Near(t, "together", both.Kg.Likely, parent.Kg.Likely+fork.Kg.Likely)
	want := r3.Scale(1/both.Kg.Likely, r3.Add(r3.Scale(parent.Kg.Likely, parent.at), r3.Scale(fork.Kg.Likely, fork.at)))
	if off := r3.Norm(r3.Sub(both.at, want)); off > 1e-9 || r3.Norm(r3.Sub(fork.at, v.Limbs[0].at(2))) < 0.5 {
		t.Errorf("their balance is %v m off", off)
	}
	// The fork grows at 2 m: cut at 2.5 m it stays.
	jobtest.Near(t, "beyond the fork", v.limbMass(0, 2.5, &now).Kg.Likely, v.limbMass(0, 2.5, &bare).Kg.Likely)
	hung := jobtest.Whole()
	hung.Trees[0].Limbs[1] = j.Trees[0].Limbs[1]
	hung.Trees[0].Defects = []job.Defect{{ID: "h", Kind: job.DefectHung, Limb: "a", AtM: 3, MassKg: jobtest.Of(40)}}
	w := surveyOf(t, &hung)
	with := w.whole()
	jobtest.Near(t, "with the branch that hangs at 3 m", w.limbMass(0, 2.5, &with).Kg.Low, v.limbMass(0, 2.5, &now).Kg.Low+40)
	jobtest.Near(t, "cut beyond it", w.limbMass(0, 3.5, &with).Kg.Low, v.limbMass(0, 3.5, &now).Kg.Low)
}

// What holds counts half of its wood where it is decayed, and gear far out on a limb bends the
// stem by its arm.
func TestWhatAHolderIsHeldTo(t *testing.T) {
	limit := func(change func(j *job.Job)) float64 {
		j := two()
		j.Trees[1].Limbs[0] = job.Limb{ID: "n", AtM: 12, AzimuthDeg: 180, AngleDeg: 60, DiameterM: 0.3, LengthM: 6}
		j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, Tree: "2", AtM: 16}
		j.Picks = []job.Pick{{ID: "p", What: job.WhatLimb, Limb: "a", Way: job.WayFromAbove, Rig: "r1"}}
		change(&j)
		_, o := worked(t, &j)
		least := math.Inf(1)
		for _, l := range o.loads {
			if l.part == PartHolder && l.Known && l.name == "north ash" {
				least = math.Min(least, l.Limit.Kn/l.peak)
			}
		}
		if math.IsInf(least, 1) {
			t.Fatal("the other tree is not judged")
		}
		return least
	}
	sound := limit(func(*job.Job) {})
	if got := limit(func(j *job.Job) {
		j.Trees[1].Defects = []job.Defect{{ID: "d", Kind: job.DefectDecay, AtM: 0, ToM: jobtest.Of(18)}}
	}); !(math.Abs(got-sound/2) <= 1e-6*sound) {
		t.Errorf("decayed all the way it holds %v of %v", got, sound)
	}
	onLimb := func(at float64) func(j *job.Job) {
		return func(j *job.Job) {
			j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Tree: "2", Limb: "n", AtM: at}
		}
	}
	if near, far := limit(onLimb(0.5)), limit(onLimb(3)); far > 0.75*near {
		t.Errorf("3 m out on its limb the stem holds %v, half a metre out %v", far, near)
	}
}

// Decay of the stem that stays halves what it holds.
func TestADecayedStemHoldsHalf(t *testing.T) {
	j := jobtest.Stem()
	_, sound := worked(t, &j)
	j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectDecay, AtM: 0, ToM: jobtest.Of(14.9)}}
	_, decayed := worked(t, &j)
	held := func(o *Outcome) float64 {
		for _, l := range o.loads {
			if l.part == partSpar {
				return l.Limit.Kn
			}
		}
		return 0
	}
	jobtest.Near(t, "half of it", held(decayed), held(sound)/2)
}

// What hangs on a stem that leans, or that has its limbs to one side, bends it that way too.
func TestALeanAddsToWhatHangsOnIt(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(10), jobtest.Of(90)
	v := surveyOf(t, &j)
	now := v.whole()
	beam := sparOf(v, now.Top)
	beam.Loads = append(beam.Loads, sparLoadAt(12, 7))
	v.leans(&beam, r3.Vec{X: 1}, false, &now)
	found := false
	for _, one := range beam.Loads {
		found = found || one.AtM == 12 && math.Abs(one.HorizontalKn-7*math.Tan(radians(10))) < 1e-9
	}
	if !found {
		t.Errorf("7 kN on a lean of 10°: %+v", beam.Loads)
	}
	// Upright, one limb to the east: it bends towards the east, not towards the west.
	j = jobtest.Whole()
	j.Trees[0].Limbs = j.Trees[0].Limbs[:1]
	v = surveyOf(t, &j)
	now = v.whole()
	limb := v.limbMass(0, 0, &now)
	arm := limb.at.X
	for heading, want := range map[float64]float64{90: limb.Kg.High * g / 1000 * arm, 270: 0} {
		beam := sparOf(v, now.Top)
		v.leans(&beam, towards(heading), false, &now)
		moment := 0.0
		for _, one := range beam.Loads {
			moment += one.VerticalKn * one.OffsetM
		}
		if !(math.Abs(moment-want) <= 1e-6+1e-6*want) {
			t.Errorf("towards %v°: %v kN·m, want %v", heading, moment, want)
		}
	}
}

// Brush reaches to the side of its limb, an eighth of its length or nearly, and a swing goes as
// far beyond its block as it began before it.
func TestBrushAndSwingReachAcross(t *testing.T) {
	j := swinging()
	v, o := worked(t, &j)
	now := v.whole()
	wide := 0.0
	for _, b := range v.body(o, &now) {
		wide = math.Max(wide, b.r)
	}
	if want := brushSpread * v.Limbs[2].LengthM; !(math.Abs(wide-want) <= 0.05) {
		t.Errorf("its brush reaches %v m to the side, want %v", wide, want)
	}
	way := v.swingWay(o, &now)
	tie := r3.Sub(o.tie, o.cut)
	far, out := 0.0, r3.Norm(level(r3.Sub(o.tie, o.block)))
	side := r3.Scale(1/out, level(r3.Sub(o.tie, o.block)))
	for i := range way.poses {
		far = math.Max(far, -r3.Dot(side, level(r3.Sub(way.poses[i].place(tie), o.block))))
	}
	if far < 0.99*out {
		t.Errorf("it swings %v m beyond its block, from %v m before it", far, out)
	}
}

// A crane lifts at the larger of where the piece is and where it is put.
func TestTheLargerRadiusCounts(t *testing.T) {
	for _, c := range []struct {
		down job.Spot
		want float64
	}{{job.Spot{X: 3, Y: -14}, 14}, {job.Spot{X: 19, Y: -14}, 19}} {
		j := lifted()
		j.Picks[0].Lift.SetDown = &c.down
		_, o := worked(t, &j)
		jobtest.Nearly(t, "radius", o.radius, c.want)
	}
}

func sparOf(v *Survey, top float64) spar.Spar {
	return spar.Spar{Stations: v.stationsTo(top), StrengthMpa: 50, StiffnessGpa: 10, DensityKgM3: 900}
}

// printed is a figure to so many decimals.
func printed(v float64, decimals int) string { return strconv.FormatFloat(v, 'f', decimals, 64) }

func sparLoadAt(at, down float64) spar.Load { return spar.Load{AtM: at, VerticalKn: down} }
