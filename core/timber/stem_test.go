package timber

import (
	"math"
	"math/rand/v2"
	"testing"

	"gonum.org/v1/gonum/integrate/quad"

	"elkstay/core/wood"
)

var oak = wood.Range{Low: 910, Likely: 1010, High: 1110}

func near(t *testing.T, what string, got, want, relative float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= relative*math.Max(math.Abs(want), 1e-9)) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// random makes a stem of 2 to 8 stations, some of them hollow.
func random(r *rand.Rand) Stem {
	var s Stem
	at, d := r.Float64(), 0.4+r.Float64()
	for range 2 + r.IntN(7) {
		station := Station{AtM: at, DiameterM: d}
		if r.IntN(2) == 0 {
			station.CavityM = d * 0.8 * r.Float64()
		}
		s.Stations = append(s.Stations, station)
		at += 0.2 + 4*r.Float64()
		d *= 0.6 + 0.45*r.Float64()
	}
	for range r.IntN(3) {
		s.Attached = append(s.Attached, Lump{MassKg: 1 + 60*r.Float64(), AtM: s.Bottom() + r.Float64()*(s.Top()-s.Bottom())})
	}
	return s
}

// Volume and centroid against Gauss-Legendre quadrature (gonum) of the solid
// itself, disc by disc.
func TestFrustumAgainstNumericalIntegration(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		s := random(r)
		s.Attached = nil
		area := func(z float64) float64 {
			outside, cavity := s.DiameterAt(z)
			return math.Pi / 4 * (outside*outside - cavity*cavity)
		}
		over := func(f func(float64) float64) (sum float64) {
			for i := 1; i < len(s.Stations); i++ {
				sum += quad.Fixed(f, s.Stations[i-1].AtM, s.Stations[i].AtM, 12, nil, 0)
			}
			return sum
		}
		volume := over(area)
		centroid := over(func(z float64) float64 { return z * area(z) }) / volume
		got := s.Weigh(oak, Frustum)
		near(t, "volume", got.VolumeM3, volume, 1e-12)
		near(t, "centroid", got.CogM, centroid, 1e-12)
		near(t, "mass", got.MassKg.Likely, volume*oak.Likely, 1e-12)
	}
}

// A cylinder's moment of inertia about its middle is m(L²/12 + D²/16): any text
// on mechanics.
func TestInertiaOfACylinder(t *testing.T) {
	s := Stem{Stations: []Station{{AtM: 1, DiameterM: 0.5}, {AtM: 2.5, DiameterM: 0.5}, {AtM: 4, DiameterM: 0.5}}}
	w := s.Weigh(oak, Frustum)
	near(t, "inertia, cut in two for the sum", w.InertiaKgM2, w.MassKg.Likely*(9.0/12+0.25/16), 1e-12)
	near(t, "centre", w.CogM, 2.5, 1e-12)
	lump := s
	lump.Attached = []Lump{{MassKg: 100, AtM: 4}}
	l := lump.Weigh(oak, Frustum)
	m := w.MassKg.Likely
	cog := (2.5*m + 4*100) / (m + 100)
	near(t, "centre with a lump", l.CogM, cog, 1e-12)
	near(t, "inertia with a lump", l.InertiaKgM2, w.InertiaKgM2+m*(cog-2.5)*(cog-2.5)+100*(4-cog)*(4-cog), 1e-12)
}

// Newton's formula is exact for a frustum; Smalian's errs high and Huber's low on
// one, Smalian's by twice as much (forest mensuration, from memory).
func TestMethodsOnAFrustum(t *testing.T) {
	s := Stem{Stations: []Station{{AtM: 0, DiameterM: 0.8}, {AtM: 5, DiameterM: 0.4}}}
	exact := s.Weigh(oak, Frustum).VolumeM3
	near(t, "newton", s.Weigh(oak, Newton).VolumeM3, exact, 1e-12)
	over := s.Weigh(oak, Smalian).VolumeM3 - exact
	under := exact - s.Weigh(oak, Huber).VolumeM3
	if over <= 0 || under <= 0 {
		t.Errorf("smalian errs by %v, huber by %v", over, -under)
	}
	near(t, "smalian's error over huber's", over/under, 2, 1e-9)
}

// The trade's rule: taking the cut's diameter for the whole length errs on the
// heavy side (common practice, no source).
func TestCylinderIsNeverLighterThanTheFrustum(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4))
	for range 100 {
		d1 := 0.2 + r.Float64()
		d2 := d1 * (0.5 + 0.5*r.Float64())
		frustum := Stem{Stations: []Station{{AtM: 0, DiameterM: d1}, {AtM: 3, DiameterM: d2}}}
		cylinder := Stem{Stations: []Station{{AtM: 0, DiameterM: d1}, {AtM: 3, DiameterM: d1}}}
		if f, c := frustum.Weigh(oak, Frustum).MassKg.High, cylinder.Weigh(oak, Frustum).MassKg.High; c < f {
			t.Errorf("the cylinder weighs %v, the frustum %v", c, f)
		}
	}
}

func TestCuttingInTwoKeepsTheMass(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	for range 500 {
		s := random(r)
		cut := s.Bottom() + (0.001+0.998*r.Float64())*(s.Top()-s.Bottom())
		if r.IntN(4) == 0 && len(s.Attached) > 0 {
			cut = s.Attached[0].AtM // a cut through a lump gives it to one piece, not to both
			if cut <= s.Bottom() || cut >= s.Top() {
				continue
			}
		}
		whole := s.Weigh(oak, Frustum)
		lower, upper := s.WeighBetween(s.Bottom(), cut, oak, Frustum), s.WeighBetween(cut, s.Top(), oak, Frustum)
		near(t, "mass", lower.MassKg.High+upper.MassKg.High, whole.MassKg.High, 1e-12)
		m, n := lower.MassKg.Likely, upper.MassKg.Likely
		near(t, "centre of gravity", (m*lower.CogM+n*upper.CogM)/(m+n), whole.CogM, 1e-12)
		double := s.Weigh(oak.Times(2), Frustum)
		lumps := whole.MassKg.Likely - whole.VolumeM3*oak.Likely
		near(t, "mass scales with density", double.MassKg.Likely-lumps, 2*(whole.MassKg.Likely-lumps), 1e-9)
	}
}

func TestLumpsAtTheEnds(t *testing.T) {
	s := Stem{
		Stations: []Station{{AtM: 2, DiameterM: 0.5}, {AtM: 8, DiameterM: 0.3}},
		Attached: []Lump{{MassKg: 1, AtM: 2}, {MassKg: 10, AtM: 5}, {MassKg: 100, AtM: 8}, {MassKg: 1000, AtM: 9}},
	}
	lumps := func(lower, upper float64) float64 {
		w := s.WeighBetween(lower, upper, oak, Frustum)
		return math.Round(w.MassKg.Likely - w.VolumeM3*oak.Likely)
	}
	for _, c := range []struct{ lower, upper, want float64 }{
		{2, 5, 11}, {5, 8, 1100}, {2, 8, 1111}, {2, 4.9, 1}, {4.9, 5, 10}, {5, 6, 0}, {6, 7, 0},
	} {
		if got := lumps(c.lower, c.upper); got != c.want {
			t.Errorf("from %v to %v: %v kg attached, want %v", c.lower, c.upper, got, c.want)
		}
	}
}

func TestLongestIsTheLongest(t *testing.T) {
	r := rand.New(rand.NewPCG(7, 8))
	for range 500 {
		s := random(r)
		total := s.Weigh(oak, Frustum).MassKg
		for _, end := range []End{FromTop, FromBottom} {
			for _, high := range []bool{true, false} {
				limit := total.High * 1.1 * r.Float64()
				mass := func(length float64) float64 {
					lower, upper := s.Piece(end, length)
					m := s.WeighBetween(lower, upper, oak, Frustum).MassKg
					if high {
						return m.High
					}
					return m.Likely
				}
				length, whole := s.LongestWithin(end, limit, oak, high)
				if whole {
					if mass(s.Top()-s.Bottom()) > limit {
						t.Errorf("the whole stem weighs more than %v", limit)
					}
					continue
				}
				if length > 0 && mass(length) > limit {
					t.Errorf("from the %s: %v m weighs %v, more than %v", end, length, mass(length), limit)
				}
				if longer := length + 0.001; longer < s.Top()-s.Bottom() && mass(longer) <= limit {
					t.Errorf("from the %s: %v m would do, got %v", end, longer, length)
				}
				near(t, "whole millimetres", math.Round(length*1000)/1000, length, 1e-12)
			}
		}
	}
}

func TestFaultsNameTheField(t *testing.T) {
	s := Stem{
		Stations: []Station{{AtM: 1, DiameterM: 0.5, CavityM: 0.5}, {AtM: 1, DiameterM: 0.4}},
		Attached: []Lump{{MassKg: 5, AtM: 0.5}},
	}
	want := []string{"body.stations[0].cavity_m", "body.stations[1].at_m", "body.attached[0].at_m"}
	got := s.Faults("body")
	if len(got) != len(want) {
		t.Fatalf("got %v", got)
	}
	for i := range want {
		if got[i].Location != want[i] {
			t.Errorf("fault %d is at %s, want %s", i, got[i].Location, want[i])
		}
	}
}

func BenchmarkPiece(b *testing.B) {
	s := Stem{Stations: []Station{{0.3, 0.9, 0.3}, {1.3, 0.82, 0.26}, {4, 0.73, 0.14}, {7, 0.66, 0}, {10.5, 0.58, 0}, {14, 0.46, 0}, {17.4, 0.31, 0}}}
	b.ReportAllocs()
	for b.Loop() {
		s.WeighBetween(3.1, 17.4, oak, Frustum)
	}
}
