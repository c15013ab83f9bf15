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
			if !(math.Abs(got.LinePeakKn-want.LinePeakKn) <= 0.01*want.LinePeakKn) {
				t.Errorf("slack %v, turn %v: %v kN, the energy sum %v", slack, turn, got.LinePeakKn, want.LinePeakKn)
			}
			hold := 0.9 * (1.766 + 0.4*(want.LinePeakKn-1.766))
			s.DeviceHoldKn = &hold
			want = Solve(s.Case)
			if got = s.Solve(hold); !(math.Abs(got.RunM-want.RunM) <= 0.01*want.RunM+2e-3) || got.Runs != want.Runs {
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
	if !(math.Abs(got.RunM-swungRun) <= 0.01*swungRun) || !got.Holds {
		t.Errorf("runs %v m, by the separate program %v", got.RunM, swungRun)
	}
	locked := s.Solve(inf).LinePeakKn
	if !(math.Abs(locked-swungPeak) <= 0.01*swungPeak) {
		t.Errorf("locked off %v kN, by the separate program %v", locked, swungPeak)
	}
}

// What it does to its block on the way: the hardest pull out and back, and a tree that gives way to it and sways, by the same program.
func TestSwungPullsItsBlockEitherWay(t *testing.T) {
	s := swungCase(120, 5, 2, 0.4, 0.1)
	_, pulls := s.SolvePulls(inf)
	bent := s.Bends(inf, Holder{OutKn: 0.3, AsideKn: 0.2, Sways: []Mode{{1500, 12}}})
	var out, back float64
	for _, p := range pulls {
		level := p.Kn * math.Sin(p.OffDeg*math.Pi/180)
		out, back = max(out, level), min(back, level)
	}
	for _, of := range []struct {
		name      string
		got, want float64
	}{{"out", out, 3.8286}, {"back", back, -3.7515}, {"bends", bent, swayBent}} {
		if !(math.Abs(of.got-of.want) <= 0.01*math.Abs(of.want)) {
			t.Errorf("%s: %v, by the separate program %v", of.name, of.got, of.want)
		}
	}
	// What stands does not sway, and what is slower than the swing hardly.
	if s.Bends(inf, Holder{OutKn: 0.3}) != 0 || s.Bends(inf, Holder{Sways: []Mode{{3000, 0.5}}}) > 1 {
		t.Errorf("what is slow bends by %v kN", s.Bends(inf, Holder{Sways: []Mode{{3000, 0.5}}}))
	}
	// Rope that runs off from the start pulls as it slips, from where it began to straight beneath.
	_, pulls = s.SolvePulls(0.9 * 0.5 * s.WeightKn())
	if len(pulls) != 2 || math.Abs(pulls[0].OffDeg-68.199) > 0.001 || pulls[1].OffDeg != 0 || math.Abs(pulls[0].Kn-0.58840) > 1e-4 {
		t.Errorf("slipping it pulls %v", pulls)
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
			if hold := a.HoldFor(run); !(math.Abs(hold-0.9*1.5*weight) <= 0.01*hold) {
				t.Errorf("the hold for its own run is %v, was %v", hold, 0.9*1.5*weight)
			}
		}
	}
	if got := swungCaseHold(0.9); got.Holds || !math.IsInf(got.RunM, 1) {
		t.Errorf("a hold under its weight stops it: %+v", got)
	}
}

// However it comes, a tie is no deeper than the line, what runs of it and its stretch at the peak: the graver of two ways that a
// piece may come runs further than is counted.
func TestSwungHangsOnItsLine(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 8))
	pick := func(low, high float64) float64 { return low + random.Float64()*(high-low) }
	deep := 0
	for range 300 {
		s := swungCase(pick(20, 300), pick(0.5, 6), pick(0.5, 5), pick(0, 0.6), pick(0, 0.4))
		s.CogOut, s.CogUp = pick(-1, 1), pick(-1, 1)
		got := s.Solve(0.9 * pick(1.02, 1.6) * s.WeightKn())
		if reach := s.Course.LineM + got.RunM + got.StretchM; got.LowestM > reach+1e-9 {
			t.Errorf("%v m beneath its block, on %v m", got.LowestM, reach)
		} else if got.RunM > 0.5 && got.LowestM > 0.9*reach {
			deep++
		}
		if got.LowestM < s.DownM {
			t.Errorf("%v m beneath its block, it began %v", got.LowestM, s.DownM)
		}
	}
	if deep < 50 {
		t.Errorf("only %d come deep", deep)
	}
}

// What testdata/swung.py prints.
const (
	swungPeak = 6.327922
	swungRun  = 3.597454
	swayBent  = 10.77507 // what bends a tree that sways, kN
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

// rodPeak follows a rod, so much heavier to turn than a uniform one, on an elastic line from a block, released at rest in
// the upright plane through the block and the tie: the peak of the line, kN. It has nothing
// in common with the code under test: a body with its own turn, fourth-order Runge–Kutta.
func rodPeak(mass, long, turns, tieAt, leanDeg, out, down, slack, stiffKnM float64) float64 {
	const g = 9.80665
	m, inertia := mass/1000, turns*mass/1000*long*long/12
	lever := tieAt - long/2 // along the rod from its middle
	line := math.Hypot(out, down) + slack
	sin, cos := math.Sincos(leanDeg * math.Pi / 180)
	// Middle x, z, the rod's angle from upright, and their speeds.
	y := [6]float64{out - lever*sin, -down - lever*cos, leanDeg * math.Pi / 180}
	pull := func(y *[6]float64) (tension, nx, nz float64) {
		s, c := math.Sincos(y[2])
		x, z := y[0]+lever*s, y[1]+lever*c
		far := math.Hypot(x, z)
		return math.Max(0, stiffKnM*(far-line)), -x / far, -z / far
	}
	rate := func(y *[6]float64) [6]float64 {
		tension, nx, nz := pull(y)
		s, c := math.Sincos(y[2])
		// Angle from upright grows clockwise: the moment of (fx, fz) at (lever·s, lever·c) about it.
		moment := lever*c*tension*nx - lever*s*tension*nz
		return [6]float64{y[3], y[4], y[5], tension * nx / m, tension*nz/m - g, moment / inertia}
	}
	peak, start := 0.0, math.Copysign(1, y[0])
	const dt = 5e-4
	for t := 0.0; t < 6; t += dt {
		k1 := rate(&y)
		step := func(k *[6]float64, share float64) (next [6]float64) {
			for i := range next {
				next[i] = y[i] + share*dt*k[i]
			}
			return next
		}
		y2 := step(&k1, 0.5)
		k2 := rate(&y2)
		y3 := step(&k2, 0.5)
		k3 := rate(&y3)
		y4 := step(&k3, 1)
		k4 := rate(&y4)
		for i := range y {
			y[i] += dt / 6 * (k1[i] + 2*k2[i] + 2*k3[i] + k4[i])
		}
		tension, _, _ := pull(&y)
		peak = math.Max(peak, tension)
		// Turned on the far side: what follows is the same way back, with less.
		if start*y[0] < 0 && start*y[3] >= 0 {
			break
		}
	}
	return peak
}

// The ceiling of a swung limb is one: no rod that turns as it likes pulls harder than a
// hundredth above it, tied anywhere, growing at any angle; and it cries no wolf: it is at most
// 15 % above.
func TestNoRodPullsHarderThanItsCeiling(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 12))
	pick := func(low, high float64) float64 { return low + random.Float64()*(high-low) }
	worst, most := 0.0, 10.0
	for k := range 160 {
		mass, long, turns := pick(40, 400), pick(2, 7), 1.0
		tie, lean := pick(0.1, 0.8)*long, pick(20, 100)
		out, down, slack := pick(0.3, 4), pick(1, 8), pick(0, 0.5)
		sin, cos := math.Sincos(lean * math.Pi / 180)
		off := math.Abs(long/2 - tie)
		s := swungCase(mass, out, down, slack, math.Max(0, (long/2-tie)*cos)+off)
		s.Rope.Elongation = []gear.Stretch{{LoadPct: 100, StrainPct: 20}}
		s.Piece = Piece{MassKg: mass, CogAboveCutM: long / 2, LengthM: long}
		s.TieAboveCutM = tie
		s.CogOut, s.CogUp = (long/2-tie)*sin, (long/2-tie)*cos
		if k >= 80 {
			// Its weight about its middle, as of a limb that tapers, or out at both ends.
			turns = pick(0.3, 1.8)
			s.GyrationM = long * math.Sqrt(turns/12)
		}
		stiff := 60 / (0.2 * (s.Course.LineM + 9*0.9))
		ceiling := s.Solve(inf).LinePeakKn
		got := rodPeak(mass, long, turns, tie, lean, out, down, slack, stiff)
		if ratio := got / ceiling; ratio > worst {
			worst = ratio
		} else if ratio < most {
			most = ratio
		}
		if got > ceiling/0.99 || got < ceiling/1.17 {
			t.Errorf("%.0f kg, %.1f m, turning %.2f as heavily as a rod, tied at %.1f m, %.0f° from upright, %.1f m out, %.1f m down, %.2f m slack: %.3f kN, ceiling %.3f", mass, long, turns, tie, lean, out, down, slack, got, ceiling)
		}
	}
	t.Logf("from %.3f to %.3f of the ceiling", most, worst)
}

// A device that yields below the weight never stops a swing: the line carries what slips, by hand.
func TestASwingThatIsNeverHeld(t *testing.T) {
	s := swungCase(200, 3, 4, 0.3, 0)
	weight := 200 * 9.80665 / 1000
	hold := 0.9 * weight * 0.75
	got := s.Solve(hold)
	slip := hold / 0.9
	// 0.75 of 1.96 kN is 2.45 % of 60 kN; 10 % stretch it by 2 %.
	for what, pair := range map[string][2]float64{
		"line": {got.LinePeakKn, slip}, "block": {got.BlockPeakKn, slip * 1.9}, "device": {got.DevicePeakKn, hold}, "over its weight": {got.Amplification, 0.75},
	} {
		near(t, what, pair[0], pair[1], 1e-12)
	}
	if got.Holds || !got.Runs || !math.IsInf(got.RunM, 1) || !math.IsInf(got.LowestM, 1) || got.StretchM <= 0 {
		t.Errorf("%+v", got)
	}
	if _, reachable := s.RunFor(0.99 * weight); reachable {
		t.Error("a line that must carry less than the weight stops it")
	}
	if locked := s.Solve(inf).LinePeakKn * 0.9; !(math.Abs(s.HoldFor(0)-locked) <= 1e-12*locked) {
		t.Errorf("no run: %v, locked %v", s.HoldFor(0), locked)
	}
	if least := s.HoldFor(1e6); least < 0.9*weight || least > 0.9*weight*1.01 {
		t.Errorf("any run: %v, its weight at the device %v", least, 0.9*weight)
	}
}

// What is taken as lost is taken off what the piece turns by alone, before it swings: never more than the energy sum
// takes off, and something of it.
func TestASwingThatLosesEnergy(t *testing.T) {
	whole := swungCase(180, 0, 4, 0.6, 0.4)
	most := whole.Solve(inf).LinePeakKn
	for _, lost := range []float64{20, 60} {
		s := swungCase(180, 0, 4, 0.6, 0.4)
		s.EnergyLostPct = lost
		// As if it had turned by so much less.
		less := swungCase(180, 0, 4, 0.6, 0.4*(1-lost/100))
		got := s.Solve(inf).LinePeakKn
		if least := Solve(s.Case).LinePeakKn; got < least || got >= most {
			t.Errorf("%v %% lost: %v kN, the energy sum %v, nothing lost %v", lost, got, least, most)
		}
		near(t, "as if it turned by less", got, less.Solve(inf).LinePeakKn, 1e-9)
	}
	// Level beside its block it falls by its arc and by what it turns: T = W·(3 + 2·h/R) of a line that gives next to nothing.
	s := swungCase(180, 5, 0, 0, 1)
	s.Rope = gear.Rope{BreakingKn: 1000, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 0.2}}}
	s.EnergyLostPct = 50
	weight := 180 * 9.80665 / 1000
	if got := s.Solve(inf).LinePeakKn; got < weight*3*0.99 {
		t.Errorf("%v kN, a pendulum alone takes %v", got, 3*weight)
	}
}
