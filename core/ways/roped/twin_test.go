package roped

import (
	"math"
	"testing"

	"elkstay/core/course/coursetest"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// What a rope of two slopes holds at a tension, by the areas under it.
func TestEnergyOfARopeOfTwoSlopes(t *testing.T) {
	t.Parallel()
	j := jobtest.Hung(0)
	j.Rigs[0].Rope.Elongation = []gear.Stretch{{LoadPct: 10, StrainPct: 2}, {LoadPct: 30, StrainPct: 4}} // of 80 kN: 8 and 24
	j.Rigs[0].Rope.DynamicFactor = 0
	o := byFromAbove(t, &j)
	own, lead, r := o.DropCase.LineM(), o.LeadM(), o.Ratio()
	long := func(kn float64) float64 {
		strain := func(t float64) float64 {
			if t <= 8 {
				return 0.02 * t / 8
			}
			return 0.02 + 0.02*(t-8)/16
		}
		return own*strain(kn) + lead*strain(kn*r)
	}
	for _, kn := range []float64{5, 12, 20} {
		m, kj := o.stretched(kn)
		want := 0.0
		const parts = 200000
		for k := range parts {
			mid := kn * (float64(k) + 0.5) / parts
			want += mid * (long(kn*float64(k+1)/parts) - long(kn*float64(k)/parts))
		}
		if !(math.Abs(m-long(kn)) <= 1e-9) || !(math.Abs(kj-want) <= 2e-3*want) {
			t.Errorf("%v kN: %v m and %v kJ, by hand %v and %v", kn, m, kj, long(kn), want)
		}
	}
}

// What a rope of one slope takes up, by hand: at a tension T it is longer by T·L/(EA·d) and holds half of T times that, d what a
// sudden load stiffens it by; and the tension at which it holds an energy is √(2·E·EA·d/L).
func TestWhatARopeTakesUp(t *testing.T) {
	j := jobtest.Hung(0)
	j.Rigs[0].Rope.DynamicFactor = 1.6
	o := byFromAbove(t, &j)
	ea, long := 80/0.1, o.DropCase.LineM()+o.LeadM()
	for _, kn := range []float64{1.5, 4, 9} {
		m, kj := o.stretched(kn)
		want := kn * long / ea / 1.6
		if !(math.Abs(m-want) <= 1e-9) || !(math.Abs(kj-kn*want/2) <= 1e-9) {
			t.Errorf("%v kN: %v m and %v kJ, by hand %v and %v", kn, m, kj, want, kn*want/2)
		}
		if at := o.tensionAt(want); !(math.Abs(at-kn) <= 1e-6) {
			t.Errorf("%v m longer at %v kN, by hand %v", want, at, kn)
		}
	}
	rope := j.Rigs[0].Rope.Rope
	for _, kj := range []float64{0.2, 3, 40} {
		want := math.Sqrt(2 * kj * ea * 1.6 / 7)
		if got := ropeTakes(&rope, 7, kj, 0); !(math.Abs(got-want) <= 1e-4*want) {
			t.Errorf("%v kJ in 7 m: %v kN, by hand %v", kj, got, want)
		}
	}
}

// byFromAbove is a job's first pick, let down from above, that nothing forbids.
func byFromAbove(t *testing.T, j *job.Job) *Roped {
	t.Helper()
	o := ByFromAbove.Make(coursetest.Course(t, j, 0)).(*FromAbove)
	if o.Stopped() {
		t.Fatal(o.Faults)
	}
	return o.Roped
}
