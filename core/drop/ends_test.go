package drop

import (
	"math"
	"testing"

	"elkstay/core/gear"
)

func endsOf(slack float64) Ends {
	rope := gear.Rope{BreakingKn: 80, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 20}}}
	end := func(at, x, z float64) End {
		return End{AtM: at, X: x, Z: z, SlackM: slack, LeadM: 0, Rope: rope, Efficiency: 1, HoldKn: math.Inf(1)}
	}
	return Ends{MassKg: 200, LengthM: 6, CogM: 3, InertiaKgM2: 200 * 36 / 12.0, X: 3, Z: 8, Ends: [2]End{end(1, 1, 12), end(5, 5, 12)}}
}

// Level under two upright lines of one rope each takes half, as one line of half the weight would:
// T = W/2 + √((W/2)² + 2·k·(W/2)·h), the textbook's sum for a weight that falls onto a spring.
func TestAPieceLevelOnTwoLines(t *testing.T) {
	for _, slack := range []float64{0, 0.3, 1} {
		e := endsOf(slack)
		run := e.Follow()
		half := 100 * 9.80665 / 1000
		k := 80 / 0.2 / (4 + slack) // kN/m
		want := half + math.Sqrt(half*half+2*k*half*slack)
		for i, peak := range run.PeakKn {
			if !(math.Abs(peak-want) <= 1e-3*want) {
				t.Errorf("slack %v, line %d: %v kN, by hand %v", slack, i, peak, want)
			}
		}
		if run.Energy > 4e-3 || !run.Stopped {
			t.Errorf("slack %v: energy strays by %v", slack, run.Energy)
		}
	}
}

// Whatever it does, it neither makes nor loses energy while no rope runs; mirrored, the lines
// change places.
func TestAPieceOnTwoLinesKeepsItsEnergy(t *testing.T) {
	for n := range 40 {
		f := func(k int, low, high float64) float64 {
			return low + (high-low)*math.Mod(float64(n*k)*0.6180339887, 1)
		}
		e := endsOf(f(3, 0, 0.6))
		e.CogM, e.AttitudeDeg, e.MassKg = f(5, 1.5, 4), f(7, -40, 60), f(11, 50, 600)
		e.Ends[1].X, e.Ends[1].Z, e.Ends[0].X = f(13, 4, 8), f(17, 11, 15), f(19, -1, 2)
		run := e.Follow()
		if run.Energy > 4e-3 {
			t.Errorf("case %d: energy strays by %v", n, run.Energy)
		}
		mirror := e
		mirror.AttitudeDeg = 180 - e.AttitudeDeg
		mirror.X = -e.X
		for i := range mirror.Ends {
			mirror.Ends[i].X = -e.Ends[i].X
		}
		other := mirror.Follow()
		for i := range other.PeakKn {
			if !(math.Abs(other.PeakKn[i]-run.PeakKn[i]) <= 1e-6*(1+run.PeakKn[i])) {
				t.Errorf("case %d mirrored: %v, not %v", n, other.PeakKn, run.PeakKn)
			}
		}
	}
}

// A hold lets rope run at its tension and no more; made tight to its share of the weight before the
// cut, a line catches with what hangs on it and no more.
func TestAPieceOnTwoLinesHeldAndMadeTight(t *testing.T) {
	e := endsOf(0.5)
	e.Ends[0].HoldKn, e.Ends[1].HoldKn = 2, 2
	run := e.Follow()
	half := 100 * 9.80665 / 1000
	if !(math.Abs(run.PeakKn[0]-2) <= 1e-9) || run.RunM[0] <= 0 {
		t.Errorf("%+v", run.PeakKn)
	}
	// Each does work of hold times run and stretch on half the weight that falls: by hand.
	k := 80 / 0.2 / 4.5
	x := 2 / k
	want := (half*(0.5+x) - 2*x/2) / (2 - half)
	if !(math.Abs(run.RunM[0]-want) <= 0.02*want) {
		t.Errorf("it runs %v m, by hand %v", run.RunM[0], want)
	}
	e = endsOf(0)
	e.Ends[0].PretensionKn, e.Ends[1].PretensionKn = half, half
	if run := e.Follow(); !(math.Abs(run.PeakKn[0]-half) <= 1e-3) || !(math.Abs(run.PeakKn[1]-half) <= 1e-3) {
		t.Errorf("made tight to its weight: %v, not %v", run.PeakKn, half)
	}
}

// On its hinge, its lines slack, a level piece turns as a rod about its end: by the time it has
// turned by θ it goes round with ω = √(2·m·g·c·sin θ/(I + m·c²)), and its balance leaves at c·ω.
func TestAPieceTurnsOnItsHinge(t *testing.T) {
	e := endsOf(20)
	for _, deg := range []float64{20, 45, 75} {
		e.HingeDeg = deg
		run := e.Follow()
		if !(math.Abs(run.LeftDeg-deg) <= 0.2) {
			t.Errorf("its hinge lets go at %v°, wanted %v°", run.LeftDeg, deg)
		}
		about := 200.0*36/12 + 200*9
		want := math.Sqrt(2 * 200 * 9.80665 * 3 * math.Sin(deg*math.Pi/180) / about)
		// From the frames after it let go: turning goes on at the same rate, with nothing to change it.
		k := 0
		for run.TS[k] < run.LeftS {
			k++
		}
		if got := (run.Deg[k] - run.Deg[k+3]) / (run.TS[k+3] - run.TS[k]) * math.Pi / 180; !(math.Abs(got-want) <= 0.01*want) {
			t.Errorf("let go at %v° it turns at %v rad/s, by hand %v", deg, got, want)
		}
		// Its balance is c from the hinge until then.
		if far := math.Hypot(run.X[k-1], run.Z[k-1]-8); !(math.Abs(far-3) <= 1e-6) {
			t.Errorf("its balance strays to %v m from its hinge", far)
		}
	}
	// Upright it does not go by itself: it is let go after a while, as it stands.
	e.AttitudeDeg, e.X, e.Z, e.HingeDeg = 90, 3, 8, 75
	if run := e.Follow(); run.LeftDeg > 1e-6 || run.LeftS < longestHinge {
		t.Errorf("upright it turned by %v° in %v s", run.LeftDeg, run.LeftS)
	}
}

// A tip line that is short stops it on its hinge; cut through there, it goes over to the lines as a
// piece let go at rest at that place, whose peaks are those of one that grew so with as much slack.
func TestAPieceStoppedOnItsHingeIsCutThrough(t *testing.T) {
	e := endsOf(0.4)
	e.HingeDeg = 75
	run := e.Follow()
	if run.LeftDeg < 3 || run.LeftDeg > 20 {
		t.Fatalf("stopped at %v°", run.LeftDeg)
	}
	if run.Energy > 4e-3 || !run.Stopped {
		t.Errorf("energy strays by %v", run.Energy)
	}
	// Stopped, all that fell is in the ropes: m·g·fall = ½·k·x² of the tip's line alone.
	k, tip := 80/0.2/4.4, e.Ends[1]
	turn := run.LeftDeg * math.Pi / 180
	fell := 200 * 9.80665 / 1000 * 3 * math.Sin(turn)
	apart := math.Hypot(tip.X-5*math.Cos(turn), tip.Z-8+5*math.Sin(turn))
	if stored := k * (apart - 4.4) * (apart - 4.4) / 2; !(math.Abs(stored-fell) <= 0.01*fell) {
		t.Errorf("it fell by %v kJ, and its rope holds %v", fell, stored)
	}
}

func BenchmarkEnds(b *testing.B) {
	for _, deg := range []float64{0, 75} {
		e := endsOf(0.4)
		e.HingeDeg = deg
		b.Run(map[bool]string{true: "at once", false: "over its hinge"}[deg == 0], func(b *testing.B) {
			for b.Loop() {
				e.Follow()
			}
		})
	}
}
