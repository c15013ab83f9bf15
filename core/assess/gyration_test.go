package assess

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// How heavily a piece turns by hand: a limb that tapers to its 2 cm, by a fine sum of its rounds; a pole with a limb across it, by
// Steiner's rule; seen along the limb only the pole and how high it sits on it count.
func TestGyrationByHand(t *testing.T) {
	j := pole(job.Limb{ID: "a", AtM: 8, AzimuthDeg: 90, AngleDeg: 90, LengthM: 5, DiameterM: 0.2, Brush: job.BrushBare})
	v := surveyOf(t, &j)
	now := v.whole()
	worked := func(p job.Pick) *Outcome {
		o := &Outcome{pick: &p}
		v.begin(o, &now)
		return o
	}
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
		near("a limb", v.gyration(o, r3.Vec{X: 1}, &now), math.Sqrt(second/mass))
		if along := v.gyration(o, r3.Vec{Y: 1}, &now); along > 0.08 {
			t.Errorf("about its own axis: %v m", along)
		}
	}
	// The top 6 m of the pole, 40 cm thick, its balance 9 m up, with the limb from 8 m up to the east.
	limb, out, second := taper(0)
	stem := math.Pi * 0.04 * 6
	x, z := limb*out/(stem+limb), (stem*9+limb*8)/(stem+limb)
	up := stem*(36.0/12+(9-z)*(9-z)) + limb*(8-z)*(8-z)
	o := worked(job.Pick{What: job.WhatTop, CutM: jobtest.Of(6)})
	near("a top", v.gyration(o, r3.Vec{X: 1}, &now), math.Sqrt((up+stem*x*x+second+limb*(out-x)*(out-x))/(stem+limb)))
	near("a top, seen along its limb", v.gyration(o, r3.Vec{Y: 1}, &now), math.Sqrt(up/(stem+limb)))
	// Brush lies on the outer part of its limb, and makes it turn the more heavily; what hangs on it likewise.
	bare := v.gyration(worked(job.Pick{What: job.WhatLimb, Limb: "a"}), r3.Vec{X: 1}, &now)
	j.Trees[0].Limbs[0].Brush = ""
	v = surveyOf(t, &j)
	if full := v.gyration(worked(job.Pick{What: job.WhatLimb, Limb: "a"}), r3.Vec{X: 1}, &now); full <= bare {
		t.Errorf("with its brush %v m, bare %v", full, bare)
	}
	j.Trees[0].Limbs[0].Brush = job.BrushBare
	j.Trees[0].Defects = []job.Defect{{ID: "h", Kind: job.DefectHung, Limb: "a", AtM: 4.5, MassKg: jobtest.Of(60)}}
	v = surveyOf(t, &j)
	o = worked(job.Pick{What: job.WhatLimb, Limb: "a"})
	limb, second = limb*v.density.Likely, second*v.density.Likely
	cog := (limb*out + 60*4.5) / (limb + 60)
	near("with what hangs on it", v.gyration(o, r3.Vec{X: 1}, &now), math.Sqrt((second+limb*(out-cog)*(out-cog)+60*(4.5-cog)*(4.5-cog))/(limb+60)))
}
