package drop

import (
	"context"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"elkstay/core/gear"
	"elkstay/core/wood"
)

func simCase() SimCase {
	return SimCase{
		Piece: SimPiece{Piece: Piece{400, 1.2, 2.5}},
		Rigging: Rigging{
			TieAboveCutM: 0.4, BlockBelowCutM: 0.6, SlackM: 0.1, LeadM: 12, BlockEfficiency: 0.9,
			Rope: gear.Rope{BreakingKn: 80, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 1.6}, {LoadPct: 20, StrainPct: 2.6}, {LoadPct: 30, StrainPct: 3.4}}},
		},
	}
}

func number(v float64) *float64 { return &v }

// The integrator against what it must give: a harmonic oscillator's exact motion,
// with an error that falls with the fifth power of the step.
func TestStepIsOfFifthOrder(t *testing.T) {
	f := func(y, dy *state) { *dy = state{0: y[1], 1: -y[0]} }
	wrong := func(h float64) float64 {
		y := state{1}
		by := stepper{f: f, allow: 1}
		var k state
		f(&y, &k)
		for range int(math.Round(1 / h)) {
			by.step(&y, &k, h)
			y, k = by.next, by.k[6]
		}
		return math.Hypot(y[0]-math.Cos(1), y[1]+math.Sin(1))
	}
	if ratio := wrong(0.1) / wrong(0.05); ratio < 28 || ratio > 40 {
		t.Errorf("half the step makes the error %.1f times smaller, want about 32", ratio)
	}
}

// energy of a state, J: height and motion of the piece, the stretch of the line.
func (s *sim) energy(y *state) float64 {
	e := s.m*9.80665*y[iz] + s.m/2*(y[iVx]*y[iVx]+y[iVz]*y[iVz]) + s.inertia/2*y[iSpin]*y[iSpin]
	if s.mode == taut {
		distance, _, _, _ := s.tied(y)
		if stretch := distance - s.line - y[iRun]; stretch > 0 {
			_, u := s.give.at(s.give.pull(stretch) / 1000)
			e += 1000 * u
		}
	}
	return e
}

// Without damping, spar or run, mechanical energy stays what it was, to a part in a
// thousand of the fall's, over the whole run.
func TestEnergyIsConserved(t *testing.T) {
	for _, tie := range []float64{0.2, 0.8, 1.6} {
		c := simCase()
		c.RopeDampingRatio, c.TieAboveCutM = number(0), tie
		s := newSim(&c)
		y := s.begin(c.start())
		first, worst, seen := s.energy(&y), 0.0, 0
		s.follow(y, 4, c.face(), mostSteps, func(s *sim, _, _ float64, _, _, y1, _ *state) {
			worst = max(worst, math.Abs(s.energy(y1)-first))
			seen++
		})
		energy := c.Energy()
		if fall := 1000 * energy.EnergyKj(); worst > 1e-3*fall || seen < 100 {
			t.Errorf("tie at %v m: the energy strays by %v J of %v in %d steps", tie, worst, fall, seen)
		}
	}
}

// A straight upright fall, started under the block with the speed of its fall, gives
// the energy sum's peak.
func TestUprightFallGivesTheEnergySum(t *testing.T) {
	for _, hold := range []*float64{nil, number(14)} {
		c := simCase()
		c.RopeDampingRatio, c.DeviceHoldKn = number(0), hold
		energy := c.Energy()
		s := newSim(&c)
		s.mode = slack
		// Tip down, hanging straight, the line just slack: tie above, centre below.
		arm := s.c - s.tie
		y := state{iz: -s.line - arm, iTilt: math.Pi, iVz: -math.Sqrt(2 * 9.80665 * energy.FallM())}
		out := s.follow(y, 3, math.Pi, mostSteps, nil)
		want := Solve(&energy)
		near(t, "line peak", out.linePeak/1000, want.LinePeakKn, 5e-3)
		near(t, "block peak", out.blockPeak/1000, want.BlockPeakKn, 5e-3)
		if want.Runs {
			near(t, "run", out.run, want.RunM, 5e-3)
		}
	}
}

// A piece on its hinge is a physical pendulum: released flat, its spin at the face's
// closing is √(2mgc·(cosφ₀ − cosφ)/(I + mc²)) (any text on mechanics).
func TestTippingIsAPendulum(t *testing.T) {
	c := simCase()
	s := newSim(&c)
	var spin float64
	s.follow(s.begin(c.start()), 5, c.face(), mostSteps, func(s *sim, _, _ float64, _, _, y1, _ *state) {
		if s.mode == tipping {
			spin = y1[iSpin]
		}
	})
	m, own := 400.0, 400*2.5*2.5/12+400*1.2*1.2
	want := math.Sqrt(2 * m * 9.80665 * 1.2 * (math.Cos(c.start()) - math.Cos(c.face())) / own)
	near(t, "spin", spin, want, 1e-6)
}

// The same run by a second, independent way: Runge and Kutta's classic fourth order
// at a fixed step a twentieth as long, no events, the forces written out anew.
func TestAgainstAnIndependentIntegrator(t *testing.T) {
	c := simCase()
	c.Spar = &SparTop{MassKg: 300, StiffnessKnM: 20}
	c.UntilS = number(2.2)
	run := followed(&c)
	const m, cog, tie, h0 = 400.0, 1.2, 0.4, 0.6
	own, line, lead := m*2.5*2.5/12, 0.6+0.4+0.1, 12.0
	tensionOf := func(give float64) float64 {
		low, high := 0.0, 500.0
		for range 60 {
			if middle := (low + high) / 2; line*benchStrain(middle)+lead*benchStrain(0.9*middle) < give {
				low = middle
			} else {
				high = middle
			}
		}
		return 1000 * low
	}
	damping := 2 * 0.05 * math.Sqrt(1000*m/((line+0.9*lead)*0.002))
	spring, mass := 20e3, 300.0
	d := 2 * 0.05 * math.Sqrt(spring*mass)
	type eight [8]float64 // x z φ u and their speeds
	pull := func(y eight) (t, nx, nz float64) {
		px, pz := y[0]+(tie-cog)*math.Sin(y[2])-y[3], y[1]+(tie-cog)*math.Cos(y[2])
		far := math.Hypot(px, pz)
		nx, nz = px/far, pz/far
		grow := nx*(y[4]+(tie-cog)*math.Cos(y[2])*y[6]-y[7]) + nz*(y[5]-(tie-cog)*math.Sin(y[2])*y[6])
		if far <= line {
			return 0, nx, nz
		}
		return max(0, tensionOf(far-line)+damping*grow), nx, nz
	}
	free := false
	f := func(y eight) (dy eight) {
		copy(dy[:4], y[4:])
		if free {
			t, nx, nz := pull(y)
			dy[4], dy[5] = -t*nx/m, -t*nz/m-9.80665
			dy[6] = (tie - cog) * (-t*nx*math.Cos(y[2]) + t*nz*math.Sin(y[2])) / own
			dy[7] = (t*nx - d*y[7] - spring*y[3]) / mass
			return dy
		}
		a11, a12, a22 := m+mass, m*cog*math.Cos(y[2]), own+m*cog*cog
		b1 := m*cog*math.Sin(y[2])*y[6]*y[6] - spring*y[3] - d*y[7]
		b2 := m * 9.80665 * cog * math.Sin(y[2])
		det := a11*a22 - a12*a12
		dy[7], dy[6] = (b1*a22-a12*b2)/det, (a11*b2-a12*b1)/det
		return dy
	}
	y := eight{2: 2 * math.Pi / 180}
	peak, least := 0.0, 0.0
	const h = 1e-4
	for at := 0.0; at < *run.LinePeakAtS+0.05; at += h {
		add := func(k eight, by float64) (z eight) {
			for i := range z {
				z[i] = y[i] + by*k[i]
			}
			return z
		}
		k1 := f(y)
		k2 := f(add(k1, h/2))
		k3 := f(add(k2, h/2))
		k4 := f(add(k3, h))
		for i := range y {
			y[i] += h / 6 * (k1[i] + 2*k2[i] + 2*k3[i] + k4[i])
		}
		if !free {
			y[0], y[1] = y[3]+cog*math.Sin(y[2]), h0+cog*math.Cos(y[2])
			y[4], y[5] = y[7]+cog*math.Cos(y[2])*y[6], -cog*math.Sin(y[2])*y[6]
			free = y[2] >= 70*math.Pi/180
		} else if t, _, _ := pull(y); t > peak {
			peak = t
		}
		least = min(least, y[3])
	}
	near(t, "line peak", *run.LinePeakKn, peak/1000, 1e-3)
	near(t, "pushback", run.PushbackM, -least, 1e-3)
}

// benchStrain is that of the rope of simCase, point by point.
func benchStrain(kn float64) float64 {
	switch {
	case kn <= 8:
		return kn / 8 * 0.016
	case kn <= 16:
		return 0.016 + (kn-8)/8*0.010
	}
	return 0.026 + (kn-16)/8*0.008
}

func TestPhasesAndCautions(t *testing.T) {
	c := simCase()
	run := followed(&c)
	for i, name := range []string{"tipping", "falling", "caught"} {
		if len(run.Phases) <= i || run.Phases[i].Name != name {
			t.Fatalf("the phases read %+v", run.Phases)
		}
	}
	n := len(run.Series.TS)
	if n < 50 || len(run.Series.LineKn) != n || len(run.Series.Piece) != n || len(run.Series.SparM) != n || len(run.Series.BlockKn) != n {
		t.Errorf("the series has %d samples", n)
	}
	c.UntilS = number(0.3)
	if short := followed(&c); short.LinePeakKn != nil || len(c.Cautions(short)) == 0 {
		t.Errorf("before the line is tight: %+v", short.LinePeakKn)
	}
	c = simCase()
	c.HingeMomentKnm = 0.2
	if faults := c.Faults("body"); len(faults) != 1 || faults[0].Location != "body.hinge_moment_knm" {
		t.Errorf("a hinge that holds: %v", faults)
	}
}

// More run is never harder, and no simulated peak passes the energy sum's by more
// than the damping adds.
func TestSimulatedDropsStayUnderTheCeiling(t *testing.T) {
	r := rand.New(rand.NewPCG(11, 12))
	for range 40 {
		base := random(r)
		c := SimCase{Piece: SimPiece{Piece: base.Piece}, Rigging: base.Rigging, RopeDampingRatio: number(0)}
		run := followed(&c)
		if run.LinePeakKn == nil {
			continue
		}
		if *run.LinePeakKn > run.CeilingKn*1.001 {
			t.Errorf("%+v: peak %v above the ceiling %v", base, *run.LinePeakKn, run.CeilingKn)
		}
		half := *run.LinePeakKn / 2 * c.BlockEfficiency
		c.DeviceHoldKn = &half
		if softer := followed(&c); softer.LinePeakKn != nil && *softer.LinePeakKn > *run.LinePeakKn*(1+1e-6) {
			t.Errorf("letting it run hits harder: %v above %v", *softer.LinePeakKn, *run.LinePeakKn)
		}
	}
}

func TestSpreadIsRepeatableAndOrdered(t *testing.T) {
	c := simCase()
	c.LineLimitKn = number(33)
	c.Spread = &Spread{Runs: 60, Seed: 7, MassKg: &wood.Range{Low: 360, Likely: 400, High: 440}, RopeStiffnessPct: 15, SlackM: 0.2}
	first, err := SimulateSpread(t.Context(), &c)
	if err != nil {
		t.Fatal(err)
	}
	again, err := SimulateSpread(t.Context(), &c)
	if err != nil || first.P50Kn != again.P50Kn || first.P99Kn != again.P99Kn {
		t.Errorf("the same seed gives %v and %v, %v", first.P50Kn, again.P50Kn, err)
	}
	total := 0
	for _, bin := range first.Histogram {
		total += bin.Count
	}
	if first.P50Kn > first.P95Kn || first.P95Kn > first.P99Kn || total != 60 || first.OverLimitPct == nil || *first.OverLimitPct <= 0 || *first.OverLimitPct >= 100 {
		t.Errorf("got %+v, %d in the histogram", first, total)
	}
	c.Spread = &Spread{Runs: 20, Seed: 7}
	same, err := SimulateSpread(t.Context(), &c)
	if run := followed(&c); err != nil || !(math.Abs(same.P50Kn-*run.LinePeakKn) <= 1e-9) || same.P99Kn != same.P50Kn {
		t.Errorf("without any spread the runs differ: %+v", same)
	}
}

func TestSpreadEndsWithItsCaller(t *testing.T) {
	c := simCase()
	c.Spread = &Spread{Runs: 5000, Seed: 1}
	ctx, cancel := context.WithCancel(t.Context())
	done := make(chan error, 1)
	go func() {
		_, err := SimulateSpread(ctx, &c)
		done <- err
	}()
	cancel()
	select {
	case err := <-done:
		if err == nil {
			t.Error("it ran to its end")
		}
	case <-time.After(10 * time.Second):
		t.Error("it goes on")
	}
}

func BenchmarkDropSim(b *testing.B) {
	c := simCase()
	c.Spar = &SparTop{MassKg: 300, StiffnessKnM: 20}
	for b.Loop() {
		followed(&c)
	}
}

func BenchmarkSpread(b *testing.B) {
	c := simCase()
	c.Spar = &SparTop{MassKg: 300, StiffnessKnM: 20}
	c.Spread = &Spread{Runs: 1000, Seed: 1, RopeStiffnessPct: 15, SlackM: 0.2}
	for b.Loop() {
		if _, err := SimulateSpread(b.Context(), &c); err != nil {
			b.Fatal(err)
		}
	}
}

// The run through time makes nothing for each step: what it allocates does not grow
// with its length.
func TestFollowingAllocatesNothingPerStep(t *testing.T) {
	count := func(until float64) float64 {
		c := simCase()
		s := newSim(&c)
		return testing.AllocsPerRun(5, func() {
			again := *s
			again.follow(again.begin(c.start()), until, c.face(), mostSteps, nil)
		})
	}
	if short, long := count(0.5), count(3); long > short+2 {
		t.Errorf("half a second allocates %v times, three seconds %v", short, long)
	}
}

// followed is a case followed to its end.
func followed(c *SimCase) Run {
	run, _ := Simulate(context.Background(), c)
	return run
}

// Of peaks that are given: the shares of them, how many are over a limit, and how many lines never came tight.
func TestWhatASpreadComesTo(t *testing.T) {
	c := simCase()
	c.LineLimitKn = number(8)
	peaks := []float64{9, 1, 8, 7, 3, 5, 2, 10, 4, 6}
	got := gather(&c, peaks, []bool{true, false, true, true, false, true, true, true, true, false})
	if got.P50Kn != 5 || got.P95Kn != 10 || got.P99Kn != 10 || got.OverLimitPct == nil || *got.OverLimitPct != 20 || got.NeverTight != 3 {
		t.Errorf("%+v, over %v", got, *got.OverLimitPct)
	}
	count := 0
	for i, bin := range got.Histogram {
		count += bin.Count
		if i > 0 && bin.FromKn != got.Histogram[i-1].ToKn {
			t.Errorf("bin %d begins at %v", i, bin.FromKn)
		}
	}
	if count != 10 || got.Histogram[0].FromKn != 1 || got.Histogram[len(got.Histogram)-1].ToKn != 10 {
		t.Errorf("%d in %+v", count, got.Histogram)
	}
	// A piece that is heavier turns as much harder.
	c.Piece.InertiaKgM2 = number(200)
	c.Spread = &Spread{Runs: 1, Seed: 4, MassKg: &wood.Range{Low: 600, Likely: 600, High: 600}}
	if varied := c.vary(0); varied.Piece.MassKg != 600 || !(math.Abs(*varied.Piece.InertiaKgM2-300) <= 1e-9) {
		t.Errorf("%v kg, %v kg·m²", varied.Piece.MassKg, *varied.Piece.InertiaKgM2)
	}
}
