package assess

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/spar"
)

// pole is a stem of 40 cm all the way up, 12 m high, with limbs of its own.
func pole(limbs ...job.Limb) job.Job {
	j := jobtest.Whole()
	j.Trees[0].Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: 0.4}, {AtM: 12, Tape: job.Diameter, TapeM: 0.4}}
	j.Trees[0].HeightM, j.Trees[0].TopDiameterM = nil, nil
	j.Trees[0].Limbs, j.Picks = limbs, nil
	return j
}

// felt is the stress of a round section of 40 cm under a moment, kN·m, and what presses on it, kN.
func felt(moment, down float64) float64 {
	const d = 0.4
	return (moment/(math.Pi*d*d*d/32) + down/(math.Pi*d*d/4)) / 1000
}

// bare is what the pole weighs above a height, kN.
func bare(v *Survey, z float64) float64 { return v.density.High * math.Pi * 0.04 * (12 - z) * g / 1000 }

// feelsAs holds the worst section under one load on the pole to that of a stress at every centimetre.
func feelsAs(t *testing.T, v *Survey, load spar.Load, heading r3.Vec, stress func(z float64) float64) {
	t.Helper()
	now := v.whole()
	beam := sparOf(v, now.Top)
	beam.Loads = []spar.Load{load}
	worst, _ := v.feels(&beam, heading, &now)
	want, at := 0.0, 0.0
	for k := range 1200 {
		z := float64(k) / 100
		if s := stress(z); s > want {
			want, at = s, z
		}
	}
	if math.Abs(worst.StressMpa-want) > 0.01*want {
		t.Errorf("%.4g MPa at %.2f m, want %.4g at %.2f", worst.StressMpa, worst.AtM, want, at)
	}
}

// What is weak counts where it is, not only where sound wood would feel most.
func TestAWeakPlaceOfTheStemIsJudgedByItself(t *testing.T) {
	j := pole()
	j.Trees[0].Defects = []job.Defect{{ID: "c", Kind: job.DefectCrack, AtM: 3, ToM: jobtest.Of(3.5)}, {ID: "l", Kind: job.DefectIvy, AtM: 1}}
	v := surveyOf(t, &j)
	feelsAs(t, v, spar.Load{AtM: 11, HorizontalKn: 2}, r3.Vec{X: 1}, func(z float64) float64 {
		s := felt(2*max(0, 11-z), bare(v, z))
		if z >= 3-nearDefect && z <= 3.5+nearDefect {
			s /= 0.5
		}
		return s
	})
	now := v.whole()
	beam := sparOf(v, now.Top)
	beam.Loads = []spar.Load{{AtM: 11, HorizontalKn: 2}}
	if _, why := v.feels(&beam, r3.Vec{X: 1}, &now); why != "50 % of its strength are counted there, for crack." {
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
			j := pole(low, high)
			v := surveyOf(t, &j)
			now := v.whole()
			var kn [2]float64
			var off [2]r3.Vec
			for i := range kn {
				m := v.limbMass(i, 0, &now)
				kn[i], off[i] = m.Kg.High*g/1000, r3.Vec{X: m.at.X, Y: m.at.Y}
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
	j := pole(limb)
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(lean), jobtest.Of(90)
	v := surveyOf(t, &j)
	now := v.whole()
	m := v.limbMass(0, 0, &now)
	kn, tan := m.Kg.High*g/1000, math.Tan(lean*math.Pi/180)
	own := func(z float64) (moment, down float64) {
		down = bare(v, z) / math.Cos(lean*math.Pi/180)
		moment = down * tan * (12 - z) / 2
		if z <= 9 {
			moment += kn * (m.at.X - tan*z)
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

// A limb that holds from a limb of its own bears what both weigh beyond each place; what has been cut off
// it weighs on it no more.
func TestALimbBearsItsOwnWeightToo(t *testing.T) {
	j := pole(job.Limb{ID: "a", AtM: 8, AzimuthDeg: 90, AngleDeg: 90, LengthM: 8, DiameterM: 0.25, Brush: job.BrushBare},
		job.Limb{ID: "s", Parent: "a", AtM: 2, AzimuthDeg: 90, AngleDeg: 90, LengthM: 4, DiameterM: 0.22, Brush: job.BrushBare})
	v := surveyOf(t, &j)
	now := v.whole()
	p := pull{place: &job.Place{On: job.OnLimb, Limb: "s", AtM: 1}, at: v.Limbs[1].at(1), dir: r3.Vec{Z: -1}, rest: 1, peak: 1}
	worst := func() float64 {
		l := v.onLimb(&p, &now)
		return 1 * v.species.RuptureMPa / v.limits.WoodFactor / l.Limit.Kn
	}
	// Frustums, every centimetre beyond the place: limbs taper evenly.
	stress := func(tip float64) (most float64) {
		weighs := func(g *Grown, from, to, s, arm float64) (moment float64) {
			for z := from + 0.005; z < to; z += 0.01 {
				d := g.diameterAt(z)
				moment += v.density.High * math.Pi / 4 * d * d * 0.01 * 9.80665 / 1000 * (arm + z - s)
			}
			return moment
		}
		a, sub := &v.Limbs[0], &v.Limbs[1]
		at := func(d, moment float64) float64 { return (moment/(math.Pi*d*d*d/32) + 1/(math.Pi*d*d/4)) / 1000 }
		for k := range 101 {
			s := float64(k) / 100
			most = max(most, at(sub.diameterAt(s), 1-s+weighs(sub, s, 4, s, 0)))
		}
		for k := range 201 {
			s := float64(k) / 100
			most = max(most, at(a.diameterAt(s), 2+1-s+weighs(a, s, tip, s, 0)+weighs(sub, 0, 4, s, 2)))
		}
		return most
	}
	whole := worst()
	near := func(what string, got, want float64) {
		if math.Abs(got-want) > 2e-3*want {
			t.Errorf("%s: %v, want %v", what, got, want)
		}
	}
	near("with all of it", whole, stress(8))
	now.Tips[0] = 3
	if cut := worst(); cut > 0.95*whole {
		t.Errorf("cut at 3 m: %v, whole %v", cut, whole)
	} else {
		near("cut at 3 m", cut, stress(3))
	}
}

// A piece that has come off its limb does not weigh on what holds its line, but the stub that stays does.
func TestWithoutIsWhatStays(t *testing.T) {
	j := pole(job.Limb{ID: "a", AtM: 8, AzimuthDeg: 90, AngleDeg: 90, LengthM: 8, DiameterM: 0.25},
		job.Limb{ID: "s", Parent: "a", AtM: 5, AzimuthDeg: 90, AngleDeg: 90, LengthM: 4, DiameterM: 0.14},
		job.Limb{ID: "b", AtM: 10, AzimuthDeg: 0, AngleDeg: 45, LengthM: 3, DiameterM: 0.12})
	v := surveyOf(t, &j)
	now := v.whole()
	after := v.without(&Outcome{pick: &job.Pick{What: job.WhatLimb, Limb: "a"}, FromM: 2}, &now)
	if after.Top != 12 || after.Tips[0] != 2 || after.Tips[1] != 0 || after.Tips[2] != 3 {
		t.Errorf("a limb cut at 2 m leaves %+v", after)
	}
	after = v.without(&Outcome{pick: &job.Pick{What: job.WhatTop}, FromM: 9}, &now)
	if after.Top != 9 || after.Tips[0] != 8 || after.Tips[2] != 0 {
		t.Errorf("a top cut at 9 m leaves %+v", after)
	}
	if now.Tips[0] != 8 || now.Top != 12 {
		t.Errorf("the moment before has changed: %+v", now)
	}
}
