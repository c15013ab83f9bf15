package assess

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/spar"
	"elkstay/core/wood"
)

const g = 9.80665

// worked is one pick of a job, worked out on the whole tree.
func worked(t *testing.T, j *job.Job) (*Survey, *Outcome) {
	t.Helper()
	v := surveyOf(t, j)
	p := &j.Picks[0]
	o := v.WorkWith(p, v.RigOf(p), 0, v.Now(v.Whole()))
	if o.Stopped() {
		t.Fatalf("%s: %v", p.ID, o.Faults)
	}
	return v, o
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

// What holds counts half of its wood where it is decayed, and gear far out on a limb bends the
// stem by its arm.
func TestWhatAHolderIsHeldTo(t *testing.T) {
	limit := func(change func(j *job.Job)) float64 {
		j := jobtest.Two()
		j.Trees[1].Limbs[0] = job.Limb{ID: "n", AtM: 12, AzimuthDeg: 180, AngleDeg: 60, DiameterM: 0.3, LengthM: 6}
		j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, Tree: "2", AtM: 16}
		j.Picks = []job.Pick{{ID: "p", What: job.WhatLimb, Limb: "a", Way: job.WayFromAbove, Rig: "r1"}}
		change(&j)
		_, o := worked(t, &j)
		least := math.Inf(1)
		for _, l := range o.Loads {
			if l.Part == hold.PartHolder && l.Known && l.Name == "north ash" {
				least = math.Min(least, l.Limit.Kn/l.PeakKn)
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
		for _, l := range o.Loads {
			if l.Part == hold.PartSpar {
				return l.Limit.Kn
			}
		}
		return 0
	}
	jobtest.Near(t, "half of it", held(decayed), held(sound)/2)
}

// printed is a figure to so many decimals.
func printed(v float64, decimals int) string { return strconv.FormatFloat(v, 'f', decimals, 64) }

func sparOf(v *Survey, top float64) spar.Spar {
	return spar.Spar{Stations: v.Wood(v.Tree).StationsTo(top), StrengthMpa: 50, StiffnessGpa: 10, DensityKgM3: 900}
}

// While a piece swings the line pulls its block aside, either way: on the stem that carries the block, and on a limb that does; as
// hard as a taut one would at the least, and no harder than its peak from where it began at the most, beside what leads off to the device.
func TestASwingPullsItsBlockAside(t *testing.T) {
	for _, place := range []*job.Place{nil, {On: job.OnLimb, Limb: "d", AtM: 0.6}} {
		j := jobtest.Swinging()
		j.Rigs[0].SlackM, j.Rigs[0].Catch = jobtest.Of(0.6), job.Catch{How: job.Locked}
		if place != nil {
			j.Rigs[0].Block.Place = place
		}
		_, swaying := worked(t, &j)
		j.Trees[0].Wood.Species, j.Trees[0].Wood.Density = "", &wood.Range{Low: 900, Likely: 1000, High: 1100} // nothing is known of how it sways
		_, o := worked(t, &j)
		off := space.Level(r3.Sub(o.Rope().Tie, o.Rope().Block))
		start := math.Atan2(r3.Norm(off), o.Rope().Block.Z-o.Rope().Tie.Z)
		weight := o.Weight.Kg.High * g / 1000
		harder := o.Rope().Catch.LinePeakKn / (weight * (3 - 2*math.Cos(start)))
		if start < space.Radians(30) || harder < 1.1 {
			t.Fatalf("it swings from %v°, %v times as hard", start*180/math.Pi, harder)
		}
		resultant := &o.Rope().Path.Points[0]
		lead := r3.Add(r3.Scale(resultant.ResultantKn, resultant.Direction.Vec()), r3.Vec{Z: 1})
		var out, back, down, sways float64
		for _, moment := range o.Rope().Cases[len(o.Rope().Cases)-1].Moments {
			for _, force := range moment {
				if force.At == o.Rope().Block && force.Leads {
					// What is left of it once the lead is taken off is the line, as long as its tension.
					line := search.Root(60, 0, 1.01*o.Rope().Catch.LinePeakKn, func(kn float64) float64 {
						return kn - r3.Norm(r3.Sub(force.Kn, r3.Scale(kn, lead)))
					})
					alone := r3.Sub(force.Kn, r3.Scale(line, lead))
					level := r3.Dot(alone, off) / r3.Norm(off)
					out, back, down = max(out, level), max(back, -level), max(down, line)
				}
			}
		}
		for _, moment := range swaying.Rope().Cases[len(swaying.Rope().Cases)-1].Moments {
			for _, force := range moment {
				if force.At == swaying.Rope().Block && force.Leads {
					sways = max(sways, r3.Norm(space.Level(force.Kn)))
				}
			}
		}
		least := weight * mostAside(start)
		for name, got := range map[string]float64{"out": out, "back": back} {
			if got < least || got > o.Rope().Catch.LinePeakKn*math.Sin(start) {
				t.Errorf("%s: %v kN aside, a taut line %v", name, got, least)
			}
		}
		jobtest.Nearly(t, "the hardest", down, o.Rope().Catch.LinePeakKn)
		if sways < max(out, back) || sways > 2.5*(max(out, back)+down*r3.Norm(space.Level(lead))) {
			t.Errorf("swaying the stem feels %v kN level, of %v", sways, max(out, back))
		}
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
	// All of the way across; as the cut parts, which is the last, no less than that bends it.
	moments := o.Rope().Moments()
	most := r3.Vec{}
	for _, one := range moments[:len(moments)-1] {
		for _, force := range one {
			if force.At == o.Rope().Block && r3.Norm(space.Level(force.Kn)) > r3.Norm(space.Level(most)) {
				most = force.Kn
			}
		}
	}
	// As the cut parts the stem sways under what is level of it, twice as far at the most and its coarseness; what is carried comes on slowly.
	swaying := o.Rope().Cases[len(o.Rope().Cases)-1].Moments
	for m := range moments {
		for k, rest := range moments[m] {
			times := r3.Norm(space.Level(swaying[m][k].Kn)) / math.Max(1e-12, r3.Norm(space.Level(rest.Kn)))
			if sways := m == len(moments)-1 && rest.At == o.Rope().Block; sways && (times < 1.02 || times > 2.1) || !sways && swaying[m][k].Kn != rest.Kn || swaying[m][k].Kn.Z != rest.Kn.Z {
				t.Errorf("moment %d: %v, at rest %v", m, swaying[m][k], rest)
			}
		}
	}
	if level := r3.Norm(space.Level(most)); !(math.Abs(level-across) <= 5e-3*across) || !(math.Abs(-most.Z-line*(math.Sin(angle)+0.9)) <= 0.04*line*(math.Sin(angle)+0.9)) {
		t.Errorf("on the stem: %v, want %v across and %v down", most, across, line*(math.Sin(angle)+0.9))
	}
	for _, one := range beamOf(t, o).Loads {
		if math.Abs(one.AtM-15) <= 1e-9 && (one.HorizontalKn*(15-0.5) < 0.995*across*(15-0.5) || !(math.Abs(one.OffsetM-thick/2) <= 1e-9)) {
			t.Errorf("on the stem: %+v, on the way across %v at %v", one, across, thick/2)
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

// beamOf is the beam that a pick's stem is, as it is asked of the calculation contract.
func beamOf(t *testing.T, o *Outcome) *spar.Spar {
	t.Helper()
	for i := range o.Loads {
		if l := &o.Loads[i]; l.Part == hold.PartSpar {
			_, request := l.From.Contracted(l)
			return request.(*spar.Spar)
		}
	}
	t.Fatal("no stem is bent")
	return nil
}

// Rope that runs pulls on as long as a limb takes to go all the way down: what holds the block sways, and feels more than at rest, twice at the
// most and its coarseness; the rung says so. A limb that sways far quicker than the rope comes on feels what it does at rest.
func TestTheLimbThatHoldsTheBlockSways(t *testing.T) {
	felt := func(thickM float64, species string) (kn float64, said bool) {
		j := jobtest.Swinging()
		j.Trees[0].Limbs[3].DiameterM, j.Trees[0].Limbs[3].Brush = thickM, job.BrushBare
		j.Rigs[0].SlackM, j.Rigs[0].Catch = jobtest.Of(0.6), job.Catch{How: job.ByHold, HoldKn: jobtest.Of(2)}
		j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "d", AtM: 1.2}
		if species == "" {
			j.Trees[0].Wood.Species, j.Trees[0].Wood.Density = "", &wood.Range{Low: 900, Likely: 1000, High: 1100}
		}
		_, o := worked(t, &j)
		for _, moment := range o.Rope().Cases[len(o.Rope().Cases)-1].Moments {
			for _, force := range moment {
				if force.Leads {
					kn = max(kn, r3.Norm(force.Kn))
				}
			}
		}
		for _, l := range o.Loads {
			said = said || slices.ContainsFunc(l.Cautions, func(c string) bool { return strings.Contains(c, "It sways as the line comes on") })
		}
		return kn, said
	}
	still, unsaid := felt(0.1, "")
	slender, said := felt(0.1, "known")
	stiff, _ := felt(0.7, "known")
	if slender < 1.3*still || slender > 1.05*2*still || !said || unsaid {
		t.Errorf("a slender one feels %v kN of %v at rest, said %v", slender, still, said)
	}
	if stiff < 0.95*still || stiff > 1.2*still {
		t.Errorf("a stiff one feels %v kN of %v at rest", stiff, still)
	}
}
