package drop

import (
	"math"
	"math/rand/v2"
	"testing"

	"elkstay/core/gear"
)

func swungCase(mass, out, down, slack, turn float64) Swung {
	apart := math.Hypot(out, down)
	return Swung{
		Case: &Case{
			Piece: Piece{MassKg: mass, CogAboveCutM: 1, LengthM: 3},
			Rigging: Rigging{TieAboveCutM: 1, LeadM: 9, SlackM: slack, BlockEfficiency: 0.9,
				Rope: gear.Rope{BreakingKn: 60, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 2}, {LoadPct: 30, StrainPct: 5}}}},
			Course: &Course{FallM: slack + turn, LineM: apart + slack, How: "given"},
		}, OutM: out, DownM: down, TurnM: turn,
	}
}

// Straight beneath its block a swung piece is a dropped one: the energy sum is its own.
func TestSwungStraightBeneathIsTheDrop(t *testing.T) {
	for _, slack := range []float64{0, 0.2, 1} {
		for _, turn := range []float64{0, 0.3} {
			s := swungCase(180, 0, 4, slack, turn)
			want := Solve(s.Case)
			got := s.Solve(inf)
			if math.Abs(got.LinePeakKn-want.LinePeakKn) > 0.01*want.LinePeakKn {
				t.Errorf("slack %v, turn %v: %v kN, the energy sum %v", slack, turn, got.LinePeakKn, want.LinePeakKn)
			}
			hold := 0.9 * (1.766 + 0.4*(want.LinePeakKn-1.766))
			s.DeviceHoldKn = &hold
			want = Solve(s.Case)
			if got = s.Solve(hold); math.Abs(got.RunM-want.RunM) > 0.01*want.RunM+2e-3 || got.Runs != want.Runs {
				t.Errorf("slack %v, turn %v: runs %v m, the energy sum %v", slack, turn, got.RunM, want.RunM)
			}
		}
	}
}

// On a line that hardly gives it is the pendulum: W(3 − 2cos θ₀) at the bottom (any text on
// mechanics).
func TestSwungOnAStiffLineIsThePendulum(t *testing.T) {
	for _, deg := range []float64{20, 45, 70, 88} {
		sin, cos := math.Sincos(deg * math.Pi / 180)
		s := swungCase(150, 6*sin, 6*cos, 0, 0)
		s.Rope.Elongation = []gear.Stretch{{LoadPct: 100, StrainPct: 0.4}}
		want := 150 * 9.80665 / 1000 * (3 - 2*cos)
		// A line that is tight but not yet stretched bounces besides, by up to W·cos θ₀: it never
		// takes less.
		bounced := want + 150*9.80665/1000*cos
		if got := s.Solve(inf).LinePeakKn; got < want*0.995 || got > bounced*1.02 {
			t.Errorf("%v°: %v kN, the pendulum %v", deg, got, want)
		}
	}
}

// A swing lets out more rope than its slack alone would: 120 kg, 5 m out and 2 m down, with
// 0.4 m of slack and a hold of half as much again as its weight. Worked by a separate
// integration (fourth-order Runge–Kutta, 0.1 ms steps) in testdata/swung.py.
func TestSwungRunIsThatOfTheWholeWay(t *testing.T) {
	s := swungCase(120, 5, 2, 0.4, 0.1)
	got := s.Solve(0.9 * 1.5 * 120 * 9.80665 / 1000)
	if math.Abs(got.RunM-swungRun) > 0.01*swungRun || !got.Holds {
		t.Errorf("runs %v m, by the separate program %v", got.RunM, swungRun)
	}
	locked := s.Solve(inf).LinePeakKn
	if math.Abs(locked-swungPeak) > 0.01*swungPeak {
		t.Errorf("locked off %v kN, by the separate program %v", locked, swungPeak)
	}
}

// Heavier, more slack, more of a turn: never gentler. More run: never a harder peak.
func TestSwungNeverGetsGentler(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	pick := func(low, high float64) float64 { return low + random.Float64()*(high-low) }
	for range 300 {
		mass, out, down, slack, turn := pick(20, 500), pick(0.1, 8), pick(0.5, 8), pick(0, 1), pick(0, 0.8)
		a := swungCase(mass, out, down, slack, turn)
		base := a.Solve(inf).LinePeakKn
		heavier := swungCase(mass*1.2, out, down, slack, turn)
		if got := heavier.Solve(inf).LinePeakKn; got < base*0.999 {
			t.Errorf("%v kg heavier by a fifth: %v kN, was %v", mass, got, base)
		}
		slacker := swungCase(mass, out, down, slack+0.3, turn)
		if got := slacker.Solve(inf).LinePeakKn; got < base*0.97 {
			t.Errorf("0.3 m more slack at %v out, %v down: %v kN, was %v", out, down, got, base)
		}
		weight := a.WeightKn()
		soft, hard := a.Solve(0.9*1.3*weight), a.Solve(0.9*1.8*weight)
		if soft.RunM < hard.RunM-1e-3 || soft.LinePeakKn > hard.LinePeakKn+1e-9 {
			t.Errorf("a softer hold runs %v m at %v kN, a harder %v at %v", soft.RunM, soft.LinePeakKn, hard.RunM, hard.LinePeakKn)
		}
		if run, ok := a.RunFor(1.5 * weight); ok && run > 0.05 {
			if hold := a.HoldFor(run); math.Abs(hold-0.9*1.5*weight) > 0.01*hold {
				t.Errorf("the hold for its own run is %v, was %v", hold, 0.9*1.5*weight)
			}
		}
	}
	if got := swungCaseHold(0.9); got.Holds || !math.IsInf(got.RunM, 1) {
		t.Errorf("a hold under its weight stops it: %+v", got)
	}
}

// What testdata/swung.py prints.
const (
	swungPeak = 6.327922
	swungRun  = 3.597454
)

func swungCaseHold(times float64) Catch {
	s := swungCase(100, 3, 3, 0, 0)
	return s.Solve(times * 0.9 * s.WeightKn())
}

func BenchmarkSwung(b *testing.B) {
	s := swungCase(180, 4, 5, 0.2, 0.1)
	for b.Loop() {
		s.Solve(inf)
	}
}
