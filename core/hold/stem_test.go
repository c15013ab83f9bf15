package hold

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job/jobtest"
	"elkstay/core/space"
	"elkstay/core/spar"
	"elkstay/core/units"
)

// What hangs on a stem that leans, or that has its limbs to one side, bends it that way too.
func TestALeanAddsToWhatHangsOnIt(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(10), jobtest.Of(90)
	v := strength(&j).first()
	now := v.Standing()
	beam := v.Beam(v.StationsTo(now.Top))
	beam.Loads = append(beam.Loads, spar.Load{AtM: 12, VerticalKn: 7})
	v.leans(&beam, r3.Vec{X: 1}, false, now)
	found := false
	for _, one := range beam.Loads {
		found = found || one.AtM == 12 && math.Abs(one.HorizontalKn-7*math.Tan(space.Radians(10))) < 1e-9
	}
	if !found {
		t.Errorf("7 kN on a lean of 10°: %+v", beam.Loads)
	}
	// Upright, one limb to the east: it bends towards the east, not towards the west.
	j = jobtest.Whole()
	j.Trees[0].Limbs = j.Trees[0].Limbs[:1]
	v = strength(&j).first()
	now = v.Standing()
	limb := v.LimbMass(0, 0, now)
	arm := limb.At.X
	for heading, want := range map[float64]float64{90: limb.Kg.High * units.Gravity / 1000 * arm, 270: 0} {
		beam := v.Beam(v.StationsTo(now.Top))
		v.leans(&beam, space.Towards(heading), false, now)
		moment := 0.0
		for _, one := range beam.Loads {
			moment += one.VerticalKn * one.OffsetM
		}
		if !(math.Abs(moment-want) <= 1e-6+1e-6*want) {
			t.Errorf("towards %v°: %v kN·m, want %v", heading, moment, want)
		}
	}
}

func (s Strength) first() Wood { return s.Of(s.Site.Trees[0]) }
