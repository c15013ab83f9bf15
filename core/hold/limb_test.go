package hold

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
)

// A limb that holds from a limb of its own bears what both weigh beyond each place; what has been cut off
// it weighs on it no more.
func TestALimbBearsItsOwnWeightToo(t *testing.T) {
	j := jobtest.Pole(job.Limb{ID: "a", AtM: 8, AzimuthDeg: 90, AngleDeg: 90, LengthM: 8, DiameterM: 0.25, Brush: job.BrushBare},
		job.Limb{ID: "s", Parent: "a", AtM: 2, AzimuthDeg: 90, AngleDeg: 90, LengthM: 4, DiameterM: 0.22, Brush: job.BrushBare})
	s := strength(&j)
	v := s.Site.Trees[0]
	now := v.Standing()
	p := Pull{Place: &job.Place{On: job.OnLimb, Limb: "s", AtM: 1}, At: v.Limbs[1].At(1), Dir: r3.Vec{Z: -1}, RestKn: 1, PeakKn: 1}
	worst := func() float64 {
		l := s.Of(v).OnLimb(&p, nil, now)
		return 1 * v.Species.RuptureMPa / s.Limits.WoodFactor / l.Limit.Kn
	}
	// Frustums, every centimetre beyond the place: limbs taper evenly.
	stress := func(tip float64) (most float64) {
		weighs := func(g *space.Limb, from, to, s, arm float64) (moment float64) {
			for z := from + 0.005; z < to; z += 0.01 {
				d := g.DiameterAt(z)
				moment += v.Density.High * math.Pi / 4 * d * d * 0.01 * 9.80665 / 1000 * (arm + z - s)
			}
			return moment
		}
		a, sub := &v.Limbs[0], &v.Limbs[1]
		at := func(d, moment float64) float64 { return (moment/(math.Pi*d*d*d/32) + 1/(math.Pi*d*d/4)) / 1000 }
		for k := range 101 {
			s := float64(k) / 100
			most = max(most, at(sub.DiameterAt(s), 1-s+weighs(sub, s, 4, s, 0)))
		}
		for k := range 201 {
			s := float64(k) / 100
			most = max(most, at(a.DiameterAt(s), 2+1-s+weighs(a, s, tip, s, 0)+weighs(sub, 0, 4, s, 2)))
		}
		return most
	}
	whole := worst()
	near := func(what string, got, want float64) {
		if !(math.Abs(got-want) <= 2e-3*want) {
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

// strength is what holds on a job's site, all of its trees measured.
func strength(j *job.Job) Strength {
	site := space.NewSite(j, units.Metric)
	for i := range j.Trees {
		site.AddTree(i, j.Trees[i].Stem())
	}
	limits := policy.LimitsOf(j, &policy.Policy{})
	return Strength{Site: site, Limits: &limits}
}

// How many times as much a level bough feels that sways under a catch as at rest, beside a beam of finite elements in its first ten modes
// (testdata/bough.py): no less, and at most 15 % more; where it gives way by more than it sways it counts at rest.
func TestABoughSwaysUnderACatch(t *testing.T) {
	for _, c := range []struct {
		long, thick, thin float64
		lumpKg, lumpM     float64
		block             float64
		pieceKg, fallM    float64
		holdKn            float64
		times             float64
	}{
		{6, 0.25, 0.02, 0, 0, 3, 150, 1.5, 3, 1.647},
		{6, 0.25, 0.02, 60, 5, 3, 150, 1.5, 3, 1.543},
		{6, 0.25, 0.02, 60, 5, 1.5, 150, 1.5, 3, 1.287},
		{6, 0.25, 0.02, 0, 0, 4.5, 80, 0.8, 1.5, 1.159},
		{6, 0.25, 0.02, 0, 0, 3, 150, 0.6, 0, 1}, // 0.753
	} {
		j := jobtest.Two()
		j.Trees[0].Limbs = []job.Limb{{ID: "n", AtM: 8, AngleDeg: 90, DiameterM: c.thick, LengthM: c.long, Brush: job.BrushBare}}
		j.Trees[0].Defects = nil
		if c.lumpKg > 0 {
			j.Trees[0].Defects = []job.Defect{{ID: "h", Kind: job.DefectHung, Limb: "n", AtM: c.lumpM, MassKg: &c.lumpKg}}
		}
		s := strength(&j)
		drops := drop.Case{
			Piece:   drop.Piece{MassKg: c.pieceKg, CogAboveCutM: 0.5, LengthM: 1},
			Rigging: drop.Rigging{LeadM: 10, BlockEfficiency: 0.9, Rope: gear.Rope{BreakingKn: 100, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 10.0 / 3}}}},
			Course:  &drop.Course{FallM: c.fallM, LineM: 2},
		}
		if c.holdKn > 0 {
			drops.DeviceHoldKn = jobtest.Of(0.9 * c.holdKn)
		}
		caught := drop.Solve(&drops)
		on := s.Of(s.Site.Trees[0]).Bough(0, c.block, 1.9, true, s.Site.Whole()[0])
		if got := drops.Bounces(caught.LinePeakKn, caught.RunM, on); !(got >= c.times && got <= 1.15*c.times) {
			t.Errorf("%+v: %v times", c, got)
		} else {
			t.Logf("%v of %v", got, c.times)
		}
	}
}
