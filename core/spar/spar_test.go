package spar

import (
	"math"
	"slices"
	"testing"

	"elkstay/core/timber"
)

func near(t *testing.T, what string, got, want, relative float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= relative*math.Max(math.Abs(want), 1e-12)) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

func off() *bool { no := false; return &no }

// A uniform cantilever in closed form: deflection F·L³/3EI, stress M·c/I, first
// frequency 1.8751²/(2πL²)·√(EI/ρA) (Timoshenko, Vibration Problems; from memory),
// with and without a mass at its top (Rayleigh: 33/140 of the beam's own).
func TestUniformCantilever(t *testing.T) {
	const d, length, e, rho = 0.4, 12.0, 8.0, 800.0
	area, inertia := math.Pi/4*d*d, math.Pi/64*math.Pow(d, 4)
	ei := e * 1e6 * inertia // kN·m²
	s := Spar{
		Stations:    []timber.Station{{AtM: 0, DiameterM: d}, {AtM: length, DiameterM: d}},
		StrengthMpa: 45, StiffnessGpa: e, DensityKgM3: rho, SelfWeight: off(),
		Loads: []Load{{AtM: length, HorizontalKn: 2}},
	}
	got := s.Solve()
	near(t, "deflection", got.TopDeflectionM, 2*length*length*length/(3*ei), 1e-9)
	near(t, "at the load", got.DeflectionAtLoadsM[0], got.TopDeflectionM, 1e-12)
	near(t, "moment at the foot", got.Stations[0].MomentKnm, 24, 1e-12)
	near(t, "stress at the foot", got.Stations[0].StressMpa, 24*d/2/inertia/1000, 1e-12)
	near(t, "worst at the foot", got.Worst.StressMpa, got.Stations[0].StressMpa, 1e-12)
	near(t, "stiffness", got.Modal.StiffnessKnM, 3*ei/(length*length*length), 1e-9)
	beta := 1.875104068711961
	near(t, "first frequency", got.FrequencyHz, beta*beta/(2*math.Pi*length*length)*math.Sqrt(1000*ei/(rho*area)), 1e-4)

	s.Loads = []Load{{AtM: length, MassKg: 20000}}
	heavy := s.Solve()
	own := rho * area * length
	near(t, "with a heavy top", heavy.FrequencyHz, math.Sqrt(1000*3*ei/(length*length*length)/(20000+33.0/140*own))/(2*math.Pi), 1e-3)

	// A couple at half height: the part above turns as one, w = C·a²/2EI + C·a/EI·(L−a).
	s.Loads = []Load{{AtM: 6, VerticalKn: 4, OffsetM: 0.5}}
	couple := s.Solve()
	near(t, "couple", couple.TopDeflectionM, 2*36/(2*ei)+2*6/ei*6, 1e-9)
	near(t, "moment above the couple", couple.Stations[1].MomentKnm, 0, 1e-12)
}

// A full cone is the classic tapered cantilever: f = 8.7193/(2πL²)·√(EI/ρA) with I and
// A of its base (Kirchhoff 1879, in every table of tapered beams; from memory). The
// tip is cut at a hundredth, which changes little.
func TestConeFrequency(t *testing.T) {
	const d, length, e, rho = 0.6, 15.0, 9.0, 700.0
	s := Spar{
		Stations:    []timber.Station{{AtM: 0, DiameterM: d}, {AtM: length * 0.99, DiameterM: d * 0.01}},
		StrengthMpa: 45, StiffnessGpa: e, DensityKgM3: rho,
	}
	area, inertia := math.Pi/4*d*d, math.Pi/64*math.Pow(d, 4)
	want := 8.7193 / (2 * math.Pi * length * length) * math.Sqrt(1e9*e*inertia/(rho*area))
	near(t, "cone", s.Solve().FrequencyHz, want, 5e-3)
}

// A tapered, hollow stem's deflection against a much finer independent sum: the unit
// load method, w = ∫ M·m/EI dz by the midpoint rule.
func TestTaperedDeflectionByUnitLoad(t *testing.T) {
	s := Spar{
		Stations:    []timber.Station{{AtM: 1, DiameterM: 0.7, CavityM: 0.3}, {AtM: 8, DiameterM: 0.5}, {AtM: 16, DiameterM: 0.3}},
		StrengthMpa: 45, StiffnessGpa: 7.3, DensityKgM3: 830,
		Loads: []Load{{AtM: 14, HorizontalKn: 3, VerticalKn: 12, OffsetM: 0.25}, {AtM: 9, HorizontalKn: -1}},
	}
	stem := timber.Stem{Stations: s.Stations}
	sum := 0.0
	const cells = 400_000
	h := 15.0 / cells
	for i := range cells {
		z := 1 + (float64(i)+0.5)*h
		m := 0.0
		if z < 14 {
			m += 3*(14-z) + 12*0.25
		}
		if z < 9 {
			m -= 9 - z
		}
		outside, cavity := stem.DiameterAt(z)
		inertia := math.Pi / 64 * (math.Pow(outside, 4) - math.Pow(cavity, 4))
		sum += m * (16 - z) / (7.3e6 * inertia) * h
	}
	near(t, "deflection", s.Solve().TopDeflectionM, sum, 1e-6)
}

func TestOwnWeightPresses(t *testing.T) {
	s := Spar{Stations: []timber.Station{{AtM: 0, DiameterM: 0.5}, {AtM: 10, DiameterM: 0.3}}, StrengthMpa: 40, StiffnessGpa: 8, DensityKgM3: 900,
		Loads: []Load{{AtM: 10, VerticalKn: 5, MassKg: 400}}}
	volume := math.Pi * 10 / 12 * (0.25 + 0.15 + 0.09)
	near(t, "at the foot", s.Solve().Stations[0].AxialKn, 5+900*volume*9.80665/1000, 1e-9)
	s.SelfWeight = off()
	near(t, "without its own", s.Solve().Stations[0].AxialKn, 5, 1e-12)
}

func TestALoadOffTheStemIsRefused(t *testing.T) {
	s := Spar{Stations: []timber.Station{{AtM: 2, DiameterM: 0.5}, {AtM: 10, DiameterM: 0.3}}, Loads: []Load{{AtM: 1}, {AtM: 11}}}
	if faults := s.Faults("body"); len(faults) != 2 || faults[0].Location != "body.loads[0].at_m" {
		t.Errorf("got %v", faults)
	}
}

func BenchmarkSpar(b *testing.B) {
	s := Spar{StrengthMpa: 45, StiffnessGpa: 7.3, DensityKgM3: 830, Loads: []Load{{AtM: 18, HorizontalKn: 3, VerticalKn: 12, MassKg: 90}}}
	for i := range 20 {
		s.Stations = append(s.Stations, timber.Station{AtM: float64(i), DiameterM: 0.8 - 0.02*float64(i)})
	}
	for b.Loop() {
		s.Solve()
	}
}

// Loads at right angles to each other bend it as one at the angle between them: 3 kN one way and 4 the
// other as 5 along the diagonal, at each height by itself.
func TestLoadsAcrossEachOther(t *testing.T) {
	s := Spar{Stations: []timber.Station{{AtM: 0, DiameterM: 0.5}, {AtM: 10, DiameterM: 0.4}}, StrengthMpa: 40, StiffnessGpa: 8, DensityKgM3: 900, SelfWeight: off()}
	s.Loads = []Load{{AtM: 10, HorizontalKn: 5, VerticalKn: 2, OffsetM: 0.5}}
	as := s.Solve()
	s.Loads = []Load{{AtM: 10, HorizontalKn: 3, AcrossKn: 4, VerticalKn: 2, OffsetM: 0.3, AcrossOffsetM: 0.4}}
	is := s.Solve()
	near(t, "moment at the foot", is.Stations[0].MomentKnm, 51, 1e-12)
	near(t, "stress", is.Worst.StressMpa, as.Worst.StressMpa, 1e-12)
	near(t, "deflection", is.TopDeflectionM, as.TopDeflectionM, 1e-12)
	// At heights of their own: 3 kN at 10 m and 4 kN across at 5 m come to √(30² + 20²) at the foot.
	s.Loads = []Load{{AtM: 10, HorizontalKn: 3}, {AtM: 5, AcrossKn: -4}}
	near(t, "moment of both", s.Solve().Stations[0].MomentKnm, math.Sqrt(900+400), 1e-12)
	near(t, "worst of both", s.WorstSection().StressMpa, s.Solve().Worst.StressMpa, 1e-12)
	if steps := s.Working(s.Solve()); steps[0].Expression == (&Spar{Stations: s.Stations}).Working(s.Solve())[0].Expression {
		t.Errorf("what acts across is not said: %q", steps[0].Expression)
	}
}

// Of wood that keeps a share of its strength, what it feels counts as much more, at its own place: 2 kN at
// 10 m bend the foot most, but of half the strength from 3 to 4 m on, that place is worse.
func TestAWeakSectionIsFoundWhereItIs(t *testing.T) {
	const d = 0.4
	s := Spar{Stations: []timber.Station{{AtM: 0, DiameterM: d}, {AtM: 10, DiameterM: d}}, StrengthMpa: 40, StiffnessGpa: 8, DensityKgM3: 900, SelfWeight: off(),
		Loads: []Load{{AtM: 10, HorizontalKn: 2}}}
	per := d / 2 / (math.Pi / 64 * math.Pow(d, 4)) / 1000 // MPa per kN·m
	weak := func(pct float64) Standing {
		s.Weak = []Weak{{FromM: 2, ToM: 5, KeepsPct: 95}, {FromM: 3.01, ToM: 4, KeepsPct: pct}, {FromM: 11, ToM: 12, KeepsPct: 1}}
		got := s.Solve()
		if alone := s.WorstSection(); alone != got.Worst {
			t.Errorf("alone %+v, in the whole sum %+v", alone, got.Worst)
		}
		return got
	}
	half := weak(50)
	near(t, "where", half.Worst.AtM, 3.01, 1e-9)
	near(t, "stress", half.Worst.StressMpa, 2*2*6.99*per, 1e-9)
	near(t, "share of the strength", half.Worst.UsePct, 100*2*2*6.99*per/40, 1e-9)
	near(t, "hardly weak: the foot", weak(90).Worst.StressMpa, 20*per, 1e-9)
	s.Stations = slices.Insert(s.Stations, 1, timber.Station{AtM: 3.5, DiameterM: d})
	if steps := s.Working(weak(50)); steps[5].Expression != "(N/A + |M|·(D/2)/I) / 0.5, which its weak wood keeps" {
		t.Errorf("the sum of a weak station: %+v", steps[5])
	}
	s.Weak[1].ToM = 2
	if faults := s.Faults("body"); len(faults) != 1 || faults[0].Location != "body.weak[1].to_m" {
		t.Errorf("weak wood that ends below where it begins: %v", faults)
	}
}

// The worst section is the worst of a stem looked at a hundred times as finely, every load and all wood above summed
// anew at each height: at an end, within a taper, where wood is weak, where a load pulls up, bent in two planes.
func TestWorstSectionByBruteForce(t *testing.T) {
	tapered := []timber.Station{{AtM: 0, DiameterM: 0.6, CavityM: 0.3}, {AtM: 5, DiameterM: 0.45, CavityM: 0.1}, {AtM: 12, DiameterM: 0.16}}
	flared := []timber.Station{{AtM: -1, DiameterM: 0.5}, {AtM: 3, DiameterM: 0.3, CavityM: 0.2}, {AtM: 7, DiameterM: 0.4}, {AtM: 7.02, DiameterM: 0.3}, {AtM: 20, DiameterM: 0.29}}
	weak := []Weak{{FromM: 1, ToM: 2.3, KeepsPct: 60}, {FromM: 2.1, ToM: 9, KeepsPct: 80}, {FromM: 6, ToM: 6, KeepsPct: 70}}
	within := 0
	for _, stations := range [][]timber.Station{tapered, flared} {
		for _, weak := range [][]Weak{nil, weak} {
			for k, loads := range [][]Load{
				nil,
				{{AtM: 9, HorizontalKn: 3, VerticalKn: 12, OffsetM: 0.3}},
				{{AtM: 12, HorizontalKn: 1}},
				{{AtM: 12, HorizontalKn: 1}, {AtM: 8, HorizontalKn: -2}},
				{{AtM: 12, VerticalKn: 20, OffsetM: 0.2}, {AtM: 1.2, VerticalKn: -90, OffsetM: 0.4}},
				{{AtM: 11, HorizontalKn: 2, AcrossKn: -1}, {AtM: 4, AcrossKn: 5, VerticalKn: 7, AcrossOffsetM: -0.3}},
				{{AtM: 12, VerticalKn: -80}},
			} {
				s := Spar{StrengthMpa: 50, StiffnessGpa: 9, DensityKgM3: 900, Loads: loads, Weak: weak, Stations: stations}
				bottom, top := stations[0].AtM, stations[len(stations)-1].AtM
				worst, at, own := math.Inf(-1), 0.0, 0.0
				const perM = 5000
				cells := int(perM * (top - bottom))
				h := 1.0 / perM
				for i := cells; i >= 0; i-- {
					z := bottom + float64(i)/perM
					d, c := timber.Stem{Stations: stations}.DiameterAt(z)
					if i < cells {
						o, v := timber.Stem{Stations: stations}.DiameterAt(z + h/2)
						own += 900 * math.Pi / 4 * (o*o - v*v) * h * 9.80665 / 1000
					}
					axial, along, across, share := own, 0.0, 0.0, 1.0
					for _, l := range loads {
						if l.AtM >= z-1e-9 {
							axial += l.VerticalKn
							along += l.HorizontalKn*(l.AtM-z) + l.VerticalKn*l.OffsetM
							across += l.AcrossKn*(l.AtM-z) + l.VerticalKn*l.AcrossOffsetM
						}
					}
					for _, w := range weak {
						if z > w.FromM-1e-9 && z < w.ToM+1e-9 {
							share = min(share, w.KeepsPct/100)
						}
					}
					stress := (axial/(math.Pi/4*(d*d-c*c)) + math.Hypot(along, across)*d/2/(math.Pi/64*(math.Pow(d, 4)-math.Pow(c, 4)))) / 1000 / share
					if stress > worst {
						worst, at = stress, z
					}
				}
				got := s.WorstSection()
				near(t, "use", got.UsePct, 2*got.StressMpa, 1e-12)
				if !(math.Abs(got.StressMpa-worst) <= 5e-5*math.Abs(worst)) || !(math.Abs(got.AtM-at) <= 0.06) {
					t.Errorf("loads %d on %d stations, %d weak: got %+v, looked at finely %g MPa at %g m", k, len(stations), len(weak), got, worst, at)
				}
				if whole := s.Solve().Worst; got != whole {
					t.Errorf("alone %+v, in the whole sum %+v", got, whole)
				}
				if !slices.ContainsFunc(s.corners(), func(z float64) bool { return z == got.AtM }) {
					within++
				}
			}
		}
	}
	if within < 3 {
		t.Errorf("only %d of the worst sections lie between corners", within)
	}
}

// The sway of a stem is that of one mass on one spring: T = 1/f, m = k/(2πf)².
func TestTheSwayIsOfOneMass(t *testing.T) {
	s := Spar{Stations: []timber.Station{{AtM: 0, DiameterM: 0.5}, {AtM: 14, DiameterM: 0.25}}, StrengthMpa: 40, StiffnessGpa: 8, DensityKgM3: 900, Loads: []Load{{AtM: 13, MassKg: 120}}}
	got := s.Solve()
	near(t, "period", got.PeriodS*got.FrequencyHz, 1, 1e-12)
	omega := 2 * math.Pi * got.FrequencyHz
	near(t, "mass", got.Modal.MassKg, 1000*got.Modal.StiffnessKnM/(omega*omega), 1e-12)
}

// Weak wood has its ends with it, a point too; what acts across is said of a pull and of what presses off the axis alike.
func TestWeakEndsAndWhatActsAcross(t *testing.T) {
	s := Spar{Stations: []timber.Station{{AtM: 0, DiameterM: 0.8}, {AtM: 10, DiameterM: 0.2}}, StrengthMpa: 40, StiffnessGpa: 8, DensityKgM3: 900, SelfWeight: off(),
		Loads: []Load{{AtM: 10, HorizontalKn: 2}}, Weak: []Weak{{FromM: 2, ToM: 5, KeepsPct: 20}}}
	// A stem that tapers so feels the more the higher: 2·(10 − z)/d³.
	if got := s.WorstSection(); !(math.Abs(got.AtM-5) <= 1e-9) {
		t.Errorf("the upper end of weak wood is not the worst: %+v", got)
	}
	s.Weak[0].FromM = 5
	if faults := s.Faults("body"); len(faults) != 0 || !(math.Abs(s.WorstSection().AtM-5) <= 1e-9) {
		t.Errorf("a point: %v, %+v", faults, s.WorstSection())
	}
	said := func(load Load) string {
		s.Loads = []Load{load}
		return s.Working(s.Solve())[0].Expression
	}
	plain := said(Load{AtM: 10, HorizontalKn: 2, VerticalKn: 1})
	for _, one := range []Load{{AtM: 10, AcrossKn: -2}, {AtM: 10, VerticalKn: 3, AcrossOffsetM: 0.2}} {
		if said(one) == plain {
			t.Errorf("%+v: %q", one, plain)
		}
	}
	for _, one := range []Load{{AtM: 10}, {AtM: 10, AcrossOffsetM: 0.2}, {AtM: 10, VerticalKn: 1e-9, AcrossOffsetM: 0.5}} {
		if got := said(one); got != plain {
			t.Errorf("%+v: %q", one, got)
		}
	}
}
