package assess

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/space"
	"elkstay/core/spar"
)

// felt is the stress of a round section of 40 cm under a moment, kN·m, and what presses on it, kN.
func felt(moment, down float64) float64 {
	const d = 0.4
	return (moment/(math.Pi*d*d*d/32) + down/(math.Pi*d*d/4)) / 1000
}

// bare is what the pole weighs above a height, kN.
func bare(v *Survey, z float64) float64 { return v.Density.High * math.Pi * 0.04 * (12 - z) * g / 1000 }

// feelsAs holds the worst section under one load on the pole to that of a stress at every centimetre.
func feelsAs(t *testing.T, v *Survey, load spar.Load, heading r3.Vec, stress func(z float64) float64) {
	t.Helper()
	now := v.Standing()
	beam := sparOf(v, now.Top)
	beam.Loads = []spar.Load{load}
	worst, _ := v.Wood(v.Tree).Feels(&beam, heading, now)
	want, at := 0.0, 0.0
	for k := range 1200 {
		z := float64(k) / 100
		if s := stress(z); s > want {
			want, at = s, z
		}
	}
	if !(math.Abs(worst.StressMpa-want) <= 0.01*want) {
		t.Errorf("%.4g MPa at %.2f m, want %.4g at %.2f", worst.StressMpa, worst.AtM, want, at)
	}
}

// What is weak counts where it is, not only where sound wood would feel most.
func TestAWeakPlaceOfTheStemIsJudgedByItself(t *testing.T) {
	j := jobtest.Pole()
	j.Trees[0].Defects = []job.Defect{{ID: "c", Kind: job.DefectCrack, AtM: 3, ToM: jobtest.Of(3.5)}, {ID: "l", Kind: job.DefectIvy, AtM: 1}}
	v := surveyOf(t, &j)
	feelsAs(t, v, spar.Load{AtM: 11, HorizontalKn: 2}, r3.Vec{X: 1}, func(z float64) float64 {
		s := felt(2*max(0, 11-z), bare(v, z))
		if z >= 3-space.NearDefect && z <= 3.5+space.NearDefect {
			s /= 0.5
		}
		return s
	})
	now := v.Standing()
	beam := sparOf(v, now.Top)
	beam.Loads = []spar.Load{{AtM: 11, HorizontalKn: 2}}
	if _, why := v.Wood(v.Tree).Feels(&beam, r3.Vec{X: 1}, now); why != "50 % of its strength are counted there, for crack." {
		t.Errorf("said: %q", why)
	}
}

// A limb bends the stem from where it grows downwards: between two of them the upper one alone, and
// beneath both their sum, each towards its own side.
func TestLimbsBendTheStemWhereTheyGrow(t *testing.T) {
	low := job.Limb{ID: "a", AtM: 4, AzimuthDeg: 90, AngleDeg: 90, LengthM: 6, DiameterM: 0.18}
	high := job.Limb{ID: "b", AtM: 10, AzimuthDeg: 90, AngleDeg: 90, LengthM: 7, DiameterM: 0.2}
	for name, azimuth := range map[string]float64{"to the same side": 90, "across": 0, "to the other side": 270} {
		t.Run(name, func(t *testing.T) {
			low.AzimuthDeg = azimuth
			j := jobtest.Pole(low, high)
			v := surveyOf(t, &j)
			now := v.Standing()
			var kn [2]float64
			var off [2]r3.Vec
			for i := range kn {
				m := v.LimbMass(i, 0, now)
				kn[i], off[i] = m.Kg.High*g/1000, r3.Vec{X: m.At.X, Y: m.At.Y}
			}
			feelsAs(t, v, spar.Load{AtM: 11, HorizontalKn: 0.2}, r3.Vec{X: 1}, func(z float64) float64 {
				moment, down := r3.Vec{X: 0.2 * max(0, 11-z)}, bare(v, z)
				for i, at := range [2]float64{4, 10} {
					if z <= at {
						moment, down = r3.Add(moment, r3.Scale(kn[i], off[i])), down+kn[i]
					}
				}
				return felt(r3.Norm(moment), down)
			})
		})
	}
}

// Of a stem that leans, its wood, its limbs and what presses on it bend it the way it leans; a load to
// the other side does not take that off, and the lean that is more than such a load is what counts.
func TestALeanBendsWithLimbsAndAgainstALoad(t *testing.T) {
	const lean = 15.0
	limb := job.Limb{ID: "a", AtM: 9, AzimuthDeg: 90, AngleDeg: 0, LengthM: 6, DiameterM: 0.2}
	j := jobtest.Pole(limb)
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(lean), jobtest.Of(90)
	v := surveyOf(t, &j)
	now := v.Standing()
	m := v.LimbMass(0, 0, now)
	kn, tan := m.Kg.High*g/1000, math.Tan(lean*math.Pi/180)
	own := func(z float64) (moment, down float64) {
		down = bare(v, z) / math.Cos(lean*math.Pi/180)
		moment = down * tan * (12 - z) / 2
		if z <= 9 {
			moment += kn * (m.At.X - tan*z)
			down += kn
		}
		return moment, down
	}
	for name, c := range map[string]struct {
		load, heading float64
		moment        func(own, load float64) float64
	}{
		"with it":         {0.5, 1, func(own, load float64) float64 { return own + load }},
		"little, against": {0.1, -1, func(own, load float64) float64 { return max(load, own-load) }},
		"much, against":   {9, -1, func(_, load float64) float64 { return load }},
	} {
		t.Run(name, func(t *testing.T) {
			feelsAs(t, v, spar.Load{AtM: 11, HorizontalKn: c.load}, r3.Vec{X: c.heading}, func(z float64) float64 {
				moment, down := own(z)
				return felt(c.moment(moment, c.load*max(0, 11-z)), down)
			})
		})
	}
	// Across the lean they are as the sides of a right angle.
	feelsAs(t, v, spar.Load{AtM: 11, HorizontalKn: 2}, r3.Vec{Y: 1}, func(z float64) float64 {
		moment, down := own(z)
		return felt(math.Hypot(moment, 2*max(0, 11-z)), down)
	})
}

// worstUnder is the most that a bare pole feels under any of several sets of forces at places of its tree, each from a
// height of the stem down, with what a limb of its own weighs: at every ten centimetres.
func worstUnder(v *Survey, now *space.Standing, from []float64, sets [][][2]r3.Vec) (most float64) {
	var limb r3.Vec
	kn := 0.0
	if now.Stands(0) {
		m := v.LimbMass(0, 0, now)
		kn = m.Kg.High * g / 1000
		limb = r3.Scale(kn, r3.Vec{X: m.At.X, Y: m.At.Y})
	}
	for _, set := range sets {
		for k := range 120 {
			z := float64(k) / 10
			moment, down := r3.Vec{}, bare(v, z)
			if z <= v.Limbs[0].AtM {
				moment, down = limb, down+kn
			}
			for i, one := range set {
				if z > from[i] {
					continue
				}
				at, force := r3.Sub(one[0], r3.Vec{Z: z}), one[1]
				down -= force.Z
				moment = r3.Add(moment, r3.Vec{X: at.Z*force.X - at.X*force.Z, Y: at.Z*force.Y - at.Y*force.Z})
			}
			most = max(most, felt(r3.Norm(moment), down))
		}
	}
	return most
}

// sparStress is what the rung of the stem says it feels, MPa.
func sparStress(t *testing.T, v *Survey, o *Outcome) float64 {
	t.Helper()
	for _, l := range o.Loads {
		if l.Part == hold.PartSpar {
			return l.PeakKn / l.Limit.Kn * v.Species.RuptureMPa / v.Limits.WoodFactor
		}
	}
	t.Fatalf("the stem is not judged: %v", o.Faults)
	return 0
}

// Between two points that sit on limbs the stem is bent through the limb, whichever of the two it is; held anywhere on
// the way, all of it rests on the line.
func TestTwoPointsOnALimbBendTheStem(t *testing.T) {
	t.Parallel()
	for name, second := range map[string]bool{"the first": false, "the second": true} {
		t.Run(name, func(t *testing.T) {
			j := jobtest.Pole(job.Limb{ID: "n", AtM: 9, AzimuthDeg: 90, AngleDeg: 60, LengthM: 4, DiameterM: 0.3, Brush: job.BrushBare},
				job.Limb{ID: "p", AtM: 6, AzimuthDeg: 0, AngleDeg: 60, LengthM: 3, DiameterM: 0.16})
			own := job.Place{On: job.OnLimb, Limb: "n", AtM: 2}
			j.Site.Anchors = []job.Anchor{{ID: "o", Name: "oak", Kind: job.AnchorTree, At: job.Spot{X: 14, Y: 6}, HeightM: jobtest.Of(16), DiameterM: jobtest.Of(0.7)}}
			oak := job.Place{On: job.OnAnchor, Anchor: "o", AtM: 11}
			j.Rigs[0].Block.Place, j.Rigs[0].Second = &own, &job.SecondLine{Place: oak}
			if second {
				j.Rigs[0].Block.Place, j.Rigs[0].Second = &oak, &job.SecondLine{Place: own}
			}
			j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "o", AtM: 1}
			j.Picks = []job.Pick{{ID: "p", What: job.WhatLimb, Limb: "p", Way: job.WayTwoPoints, Rig: "r1", CarryM: jobtest.Of(7)}}
			v, o := worked(t, &j)
			w, seat := o.Weight.Kg.High*g/1000, v.Limbs[0].At(2)
			from, to, lead := seat, r3.Vec{X: 14, Y: 6, Z: 11}, o.Settings.BlockEfficiency
			if second {
				lead = 1 / lead
			}
			span := r3.Norm(space.Level(r3.Sub(to, from)))
			along := r3.Scale(1/span, space.Level(r3.Sub(to, from)))
			var sets [][][2]r3.Vec
			for k := range 401 {
				x := span * float64(k) / 400
				a, b := math.Atan2(from.Z-7, x), math.Atan2(to.Z-7, span-x)
				kn := w * math.Cos(b) / math.Sin(a+b)
				force := r3.Add(r3.Scale(kn*math.Cos(a), along), r3.Vec{Z: -kn * (math.Sin(a) + lead)})
				sets = append(sets, [][2]r3.Vec{{seat, force}})
			}
			want := worstUnder(v, o.Without(), []float64{9}, sets)
			// As the cut parts the lines catch it besides: no less.
			if got := sparStress(t, v, o); !(got >= 0.99*want) {
				t.Errorf("the stem feels %.4g MPa, on the way across %.4g", got, want)
			}
			for _, l := range o.Loads {
				if l.Part == hold.PartLine && !(l.RestKn >= 0.999*w) {
					t.Errorf("%s rests with %v of %v: it may be held anywhere on the way", l.Part, l.RestKn, w)
				}
			}
		})
	}
}

// A piece that swings from a block on a limb pulls the stem aside through it, to either side.
func TestASwingFromALimbBendsTheStem(t *testing.T) {
	j := jobtest.Pole(job.Limb{ID: "n", AtM: 10, AzimuthDeg: 90, AngleDeg: 45, LengthM: 4, DiameterM: 0.3, Brush: job.BrushBare},
		job.Limb{ID: "p", AtM: 5, AzimuthDeg: 90, AngleDeg: 80, LengthM: 5, DiameterM: 0.16})
	j.Rigs[0].Block.Place, j.Rigs[0].SlackM = &job.Place{On: job.OnLimb, Limb: "n", AtM: 1}, jobtest.Of(0)
	j.Rigs[0].Catch = job.Catch{How: job.Locked}
	j.Site.Anchors = []job.Anchor{{ID: "o", Name: "oak", Kind: job.AnchorTree, At: job.Spot{X: 0.2}, HeightM: jobtest.Of(16), DiameterM: jobtest.Of(0.7)}}
	j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "o", AtM: 1}
	j.Picks = []job.Pick{{ID: "p", What: job.WhatLimb, Limb: "p", Way: job.WaySwung, Rig: "r1", TieM: jobtest.Of(3.5)}}
	v, o := worked(t, &j)
	out := space.Level(r3.Sub(o.Rope().Tie, o.Rope().Block))
	start := math.Atan2(r3.Norm(out), o.Rope().Block.Z-o.Rope().Tie.Z)
	weight := o.Weight.Kg.High * g / 1000
	harder := max(1, o.Rope().Catch.LinePeakKn/(weight*(3-2*math.Cos(start))))
	legs := r3.Scale(o.Rope().Path.Points[0].ResultantKn*o.Rope().Catch.LinePeakKn, o.Rope().Path.Points[0].Direction.Vec())
	aside := r3.Scale(harder*weight*mostAside(start)/r3.Norm(out), out)
	want := worstUnder(v, o.Without(), []float64{10}, [][][2]r3.Vec{{{o.Rope().Block, r3.Add(legs, aside)}}, {{o.Rope().Block, r3.Sub(legs, aside)}}})
	// It sways under that: as far again, at the most, as it would stand.
	if got := sparStress(t, v, o); !(got >= 0.99*want) || !(got <= 2*want) {
		t.Errorf("the stem feels %.4g MPa, standing still %.4g", got, want)
	}
}

// Bark holds nothing: a tape of 40 cm over 2 cm of it is 36 cm of wood, which feels the same pull by (40/36)³; nobody measured it, it is as the
// species has it, on the thin side.
func TestBarkIsTakenOffWhereTheStemBears(t *testing.T) {
	use := func(bark *float64) float64 {
		j := jobtest.Pole(job.Limb{ID: "a", AtM: 7, AzimuthDeg: 90, AngleDeg: 90, LengthM: 5, DiameterM: 0.15, Brush: job.BrushBare})
		j.Trees[0].BarkM = bark
		j.Rigs[0].Catch.How, j.Rigs[0].Block.Place = job.Locked, &job.Place{On: job.OnStem, AtM: 10}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "a", Way: job.WayFromAbove, Rig: "r1"}}
		return *rung(t, assess(&j, "p1"), hold.PartSpar).UsePct
	}
	bare, under := use(jobtest.Of(0)), use(jobtest.Of(0.02))
	if want := 40.0 * 40 * 40 / (36 * 36 * 36); !(math.Abs(under/bare-want) <= 0.06*want) {
		t.Errorf("under 2 cm of bark %v %%, without %v %%: %v times, by hand %v", under, bare, under/bare, want)
	}
	// Northern red oak: 0.91 of the diameter is wood.
	if oak, want := use(nil), use(jobtest.Of(0.018)); !(math.Abs(oak-want) <= 1e-6*want) {
		t.Errorf("as the species has it %v %%, by hand %v %%", oak, want)
	}
	j := jobtest.Pole()
	j.Trees[0].BarkM = jobtest.Of(0.1)
	if a := assess(&j, ""); len(a.Faults) != 1 || a.Faults[0].Location != "body.trees[0].bark_m" {
		t.Errorf("half of it bark: %+v", a.Faults)
	}
}

// A cavity read at the top alone may run on down: 30 of 40 cm hollow all the way up leave 1 − (3/4)⁴ = 0.68 of the wood's resistance, wherever the
// stem is bent most.
func TestACavityThatNobodyReadFurtherOnMayRunOn(t *testing.T) {
	use := func(foot, top float64) float64 {
		j := jobtest.Pole(job.Limb{ID: "a", AtM: 7, AzimuthDeg: 90, AngleDeg: 90, LengthM: 5, DiameterM: 0.15, Brush: job.BrushBare})
		j.Trees[0].Readings[0].CavityM, j.Trees[0].Readings[1].CavityM = foot, top
		j.Rigs[0].Catch.How, j.Rigs[0].Block.Place = job.Locked, &job.Place{On: job.OnStem, AtM: 10}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "a", Way: job.WayFromAbove, Rig: "r1"}}
		return *rung(t, assess(&j, "p1"), hold.PartSpar).UsePct
	}
	sound, top, through := use(0, 0), use(0, 0.3), use(0.3, 0.3)
	if !(math.Abs(top-through) <= 0.03*through) || through < 1.3*sound {
		t.Errorf("hollow at the top alone %v %%, all through %v %%, sound %v %%", top, through, sound)
	}
}
