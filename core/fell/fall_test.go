package fell

import (
	"context"
	"errors"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"elkstay/core/gear"
)

func followed(t testing.TB, f *Fall) FallRun {
	t.Helper()
	if faults := f.Faults("body"); len(faults) > 0 {
		t.Fatal(faults)
	}
	run, err := f.Follow(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	return run
}

func close1(t *testing.T, what string, got, want, within float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= within*math.Max(1e-9, math.Abs(want))) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// rod is a uniform rod of a length that leans a little forward, on nothing but its foot.
func rod(length, leanDeg float64) Fall {
	lean := leanDeg * math.Pi / 180
	mass := 500.0
	own := mass * length * length / 12
	hinge := 0.0
	return Fall{
		Tree:   FallTree{MassKg: mass, CogHeightM: length / 2 * math.Cos(lean), CogForwardM: length / 2 * math.Sin(lean), TopHeightM: length, InertiaKgM2: &own},
		Ground: &FallGround{HingeHeightM: &hinge},
	}
}

// A uniform rod let go at a small lean: from the elliptic integral of the pendulum (any text on
// mechanics), summed here by Simpson's rule. It lands at 90° from the position given, the lean
// further: t = ∫ dθ / √(3g/L·(cos θ₀ − cos θ)), and ω² = 3g/L·(cos θ₀ − cos θ).
func TestAFallingRod(t *testing.T) {
	const g, length = 9.80665, 12.0
	for _, lean := range []float64{1, 5, 20} {
		f := rod(length, lean)
		run := followed(t, &f)
		from, to := lean*math.Pi/180, lean*math.Pi/180+math.Pi/2
		speed := func(theta float64) float64 { return math.Sqrt(3 * g / length * (math.Cos(from) - math.Cos(theta))) }
		// θ = θ₀ + u² takes the root out of the start.
		sum, n := 0.0, 20000
		high := math.Sqrt(to - from)
		value := func(u float64) float64 {
			if u == 0 {
				return 2 / math.Sqrt(3*g/length*math.Sin(from))
			}
			return 2 * u / speed(from+u*u)
		}
		for k := range n + 1 {
			w := 2.0
			switch {
			case k == 0 || k == n:
				w = 1
			case k%2 == 1:
				w = 4
			}
			sum += w * value(high*float64(k)/float64(n))
		}
		close1(t, "time of the fall", run.TimeS, sum*high/float64(n)/3, 1e-4)
		close1(t, "speed of the tip", *run.TipSpeedMS, length*speed(to), 1e-5)
		close1(t, "energy", *run.LandingKj, f.Tree.MassKg*g*length/2*(math.Cos(from)-math.Cos(to))/1000, 1e-5)
		if run.Outcome != Goes || *run.GoesAloneDeg != 0 || run.Phases[0].Name != "moving" || run.Phases[len(run.Phases)-1].Name != "landed" {
			t.Errorf("%v°: %s, %+v", lean, run.Outcome, run.Phases)
		}
	}
}

var springy = gear.Rope{BreakingKn: 100, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 2}, {LoadPct: 50, StrainPct: 5}}}

// energy of a fall at a sample: of turning, of height, of what the rope has taken up.
func energy(s *faller, phi, omega float64) float64 {
	sin, cos := math.Sincos(phi)
	total := s.inertia*omega*omega/2 + s.weight*(s.height*cos-s.forward*sin)
	y := s.begin()
	for i := range s.count {
		l := &s.lines[i]
		long, _, _, _ := l.way(sin, cos)
		stretch := long + l.lead - y[iRope+i]
		if stretch <= 0 {
			continue
		}
		// ∫ T dx by small strips.
		n := 4000
		for k := range n {
			total += l.pull((float64(k)+0.5)/float64(n)*stretch/y[iRope+i]) * stretch / float64(n)
		}
	}
	return total
}

// Without hinge, drag and haul, energy is kept: a back-leaner thrown about by its tight line.
func TestEnergyIsKept(t *testing.T) {
	f := Fall{
		Tree:  FallTree{MassKg: 1500, CogHeightM: 8, CogForwardM: -0.4, TopHeightM: 16},
		Lines: []FallLine{{Name: "pull", AttachHeightM: 11, AnchorDistanceM: 25, LeadM: 10, Rope: springy, PretensionKn: 4}},
	}
	s := newFaller(&f)
	y := s.begin()
	before := energy(s, 0, 0)
	s.direction = 1
	var k fallState
	for range 400 {
		s.rates(&y, &k)
		y = s.step(&y, &k, 0.004)
	}
	if y[iPhi] < 0.01 {
		t.Fatalf("it has not moved: %v", y)
	}
	close1(t, "energy", energy(s, y[iPhi], y[iOmega]), before, 1e-5)
}

// Pulled slowly, a tree starts at the pull that kind fell works out without a margin, and one
// that is pulled less stays.
func TestTheStaticLimitIsThatOfFell(t *testing.T) {
	one := 1.0
	static := Felling{Tree: Tree{MassKg: 2000, CogHeightM: 9, CogForwardM: -0.5}, Hinge: &Hinge{WidthM: 0.4, ThicknessM: 0.05, StrengthMpa: 50}, Pull: Line{AttachHeightM: 11, AttachForwardM: -1.4, AttachSideM: 0.3, AnchorDistanceM: 24, AnchorHeightM: 1, BearingDeg: 8}, Margin: &one}
	need := static.Solve()
	f := Fall{
		Tree:   FallTree{MassKg: 2000, CogHeightM: 9, CogForwardM: -0.5, TopHeightM: 18},
		Hinge:  &FallHinge{BendingKnm: need.Hinge.BendingKnm},
		Lines:  []FallLine{{Name: "pull", AttachHeightM: 11, AttachForwardM: -1.4, AttachSideM: 0.3, AnchorDistanceM: 24, AnchorHeightM: 1, BearingDeg: 8, Rope: springy, Haul: &HaulSpeed{SpeedMS: 0.01, StallKn: need.PullKn * 1.2}}},
		UntilS: &[]float64{300}[0],
	}
	run := followed(t, &f)
	if len(run.Phases) == 0 || run.Phases[0].Name != "moving" {
		t.Fatalf("it never moves: %+v", run.Phases)
	}
	// The tension sampled last before it moved.
	last := 0.0
	for i, at := range run.Series.TS {
		if at <= run.Phases[0].AtS {
			last = run.Series.Lines[0][i]
		}
	}
	close1(t, "pull at which it moves", last, need.PullKn, 0.01)
	f.Lines[0].Haul.StallKn = need.PullKn * 0.98
	f.Lines[0].Haul.SpeedMS = 0.2
	if run := followed(t, &f); run.Outcome != Stands || run.HighestDeg != 0 || len(run.Phases) != 0 {
		t.Errorf("pulled too little: %s, %v°", run.Outcome, run.HighestDeg)
	}
}

// Mirrored to the left, everything is as it was, the other way round.
func TestMirrored(t *testing.T) {
	left, right, wide := 30.0, 40.0, 0.12
	f := Fall{
		Tree:  FallTree{MassKg: 1800, CogHeightM: 8, CogForwardM: -0.2, CogSideM: 0.25, TopHeightM: 17},
		Hinge: &FallHinge{BendingKnm: 8, ToLeftKnm: &left, ToRightKnm: &right, ThicknessOverWidth: &wide},
		Back:  &BackCut{CutM: 0.4, KerfM: 0.01, Wedged: true},
		Lines: []FallLine{{Name: "pull", AttachHeightM: 10, AnchorDistanceM: 22, BearingDeg: 6, Rope: springy, PretensionKn: 3, Haul: &HaulSpeed{SpeedMS: 0.2, StallKn: 12}}, {Name: "side", AttachHeightM: 9, AnchorDistanceM: 15, BearingDeg: -80, Rope: springy, PretensionKn: 1}},
	}
	m := f
	m.Tree.CogSideM = -0.25
	m.Hinge = &FallHinge{BendingKnm: 8, ToLeftKnm: &right, ToRightKnm: &left, ThicknessOverWidth: &wide}
	m.Lines = []FallLine{f.Lines[0], f.Lines[1]}
	m.Lines[0].BearingDeg, m.Lines[1].BearingDeg = -6, 80
	a, b := followed(t, &f), followed(t, &m)
	if a.Outcome != b.Outcome || a.TimeS != b.TimeS || *a.SideUsePct != *b.SideUsePct || *a.DriftDeg != -*b.DriftDeg || a.Lines[1].PeakKn != b.Lines[1].PeakKn || a.TwistKnm != b.TwistKnm {
		t.Errorf("mirrored it differs: %+v and %+v", a, b)
	}
}

// What ends a fall early, by hand.
func TestHowFallsEnd(t *testing.T) {
	plain := func() Fall {
		return Fall{Tree: FallTree{MassKg: 1000, CogHeightM: 6, CogForwardM: -0.5, TopHeightM: 12}, Hinge: &FallHinge{BendingKnm: 2}, Back: &BackCut{CutM: 0.4, KerfM: 0.008}}
	}
	// 4.9 kN·m backwards, and the hinge does not help: it sits on the saw, 0.02 rad back.
	f := plain()
	run := followed(t, &f)
	if run.Outcome != SitsBack || !(math.Abs(run.Phases[len(run.Phases)-1].AtDeg+0.02*180/math.Pi) <= 1e-6) {
		t.Errorf("no wedge: %s %+v", run.Outcome, run.Phases)
	}
	// Wedged it stands, and the wedge carries W·0.5/0.4.
	f.Back.Wedged = true
	run = followed(t, &f)
	close1(t, "wedge", *run.WedgeKn, 9.80665*0.5/0.4, 1e-9)
	if run.Outcome != Stands || run.HighestDeg != 0 {
		t.Errorf("wedged: %s", run.Outcome)
	}
	// All of the hinge helps: it holds 4.9 of 5 kN·m.
	f = plain()
	f.Hinge.BendingKnm, f.Hinge.HelpsPct = 5, 100
	if run = followed(t, &f); run.Outcome != Stands {
		t.Errorf("held by the hinge: %s", run.Outcome)
	}
	// Side weight of 3 kN·m on a hinge that holds 2.9.
	f = plain()
	holds := 2.9
	f.Tree.CogSideM, f.Hinge.ToRightKnm, f.Back.Wedged = 3/9.80665, &holds, true
	if run = followed(t, &f); run.Outcome != Tears || run.TimeS != 0 || *run.SideUsePct < 100 {
		t.Errorf("too heavy a side: %s at %v s", run.Outcome, run.TimeS)
	}
	// A line that breaks at 1 kN before the tree moves.
	f = plain()
	weak := springy
	weak.BreakingKn = 1
	f.Back.Wedged = true
	f.Lines = []FallLine{{Name: "string", AttachHeightM: 8, AnchorDistanceM: 20, Rope: weak, Haul: &HaulSpeed{SpeedMS: 0.2, StallKn: 5}}}
	if run = followed(t, &f); run.Outcome != Parts || run.Phases[len(run.Phases)-1].Name != "parted string" || !(math.Abs(run.Lines[0].PeakKn-1) <= 1e-6) {
		t.Errorf("a weak line: %s %+v", run.Outcome, run)
	}
	// Hauled too slowly to be done.
	f.Lines[0].Rope, f.Lines[0].Haul.SpeedMS, f.UntilS = springy, 0.001, &[]float64{5}[0]
	if run = followed(t, &f); run.Outcome != Unfinished || !(math.Abs(run.Lines[0].HauledM-0.005) <= 0.001) {
		t.Errorf("too slow: %s, hauled %v", run.Outcome, run.Lines[0].HauledM)
	}
	// What it is made tight beyond its hold has run before.
	held := 2.0
	f.Lines[0].Haul, f.Lines[0].HoldKn, f.Lines[0].PretensionKn = nil, &held, 5
	if run = followed(t, &f); run.Lines[0].KnAtRest != 2 || run.Lines[0].PaidOutM > 1e-9 {
		t.Errorf("held at 2 kN: %+v", run.Lines[0])
	}
	left, leave := context.WithCancel(t.Context())
	leave()
	long := 600.0
	f.UntilS = &long
	if _, err := f.Follow(left); !errors.Is(err, context.Canceled) {
		t.Errorf("nobody waits: %v", err)
	}
}

// A pull that is used up before the tree goes alone is said in words.
func TestASlackPullIsSaid(t *testing.T) {
	f := Fall{
		Tree:  FallTree{MassKg: 2000, CogHeightM: 9, CogForwardM: -0.6, TopHeightM: 18},
		Hinge: &FallHinge{BendingKnm: 5}, Back: &BackCut{CutM: 0.4, KerfM: 0.01, Wedged: true},
		Lines: []FallLine{{Name: "pull", AttachHeightM: 12, AnchorDistanceM: 20, Rope: gear.Rope{BreakingKn: 100, Elongation: []gear.Stretch{{LoadPct: 20, StrainPct: 1}}}, PretensionKn: 12}},
	}
	// Too far back for what is stretched into the line: it swings forward and the line hangs.
	f.Tree.CogForwardM = -0.95
	run := followed(t, &f)
	if at := run.Lines[0].SlackAtDeg; at == nil || *at >= *run.GoesAloneDeg || run.Outcome == Goes || !strings.Contains(strings.Join(f.Cautions(run), " "), "the pull is used up at") {
		t.Errorf("%s, %+v: %v", run.Outcome, run.Lines[0], f.Cautions(run))
	}
	// Hauled on, it goes: that the line hung for a moment is not cried out.
	f.Lines[0].Haul = &HaulSpeed{SpeedMS: 0.05, StallKn: 20}
	run = followed(t, &f)
	if run.Lines[0].SlackAtDeg == nil || run.Outcome != Goes || strings.Contains(strings.Join(f.Cautions(run), " "), "used up") {
		t.Errorf("hauled: %s, %+v: %v", run.Outcome, run.Lines[0], f.Cautions(run))
	}
}

// Of random falls none breaks its own rules; the spread is repeatable and adds up.
func TestRandomFalls(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 6))
	for range 60 {
		side := 40 * r.Float64()
		f := Fall{
			Tree:   FallTree{MassKg: 300 + 4000*r.Float64(), CogHeightM: 5 + 6*r.Float64(), CogForwardM: 2*r.Float64() - 1.2, CogSideM: 0.4 * (r.Float64() - 0.5), TopHeightM: 15 + 5*r.Float64()},
			Hinge:  &FallHinge{BendingKnm: 12 * r.Float64(), ToLeftKnm: &side, ToRightKnm: &side},
			Back:   &BackCut{CutM: 0.3, KerfM: 0.01, Wedged: r.Float64() < 0.5},
			Lines:  []FallLine{{Name: "pull", AttachHeightM: 8 + 4*r.Float64(), AnchorDistanceM: 10 + 20*r.Float64(), BearingDeg: 30 * (r.Float64() - 0.5), LeadM: 10 * r.Float64(), Rope: springy, PretensionKn: 5 * r.Float64(), Haul: &HaulSpeed{SpeedMS: 0.3 * r.Float64(), StallKn: 15 * r.Float64()}}},
			Spread: &FallSpread{Runs: 20, Seed: 3, MassPct: 15, CogForwardM: 0.2, CogSideM: 0.1, HingePct: 30, PretensionPct: 15, StiffnessPct: 20},
		}
		run := followed(t, &f)
		if run.HighestDeg > run.TurnedDeg+1e-9 || (run.Outcome == Goes) != (run.LandingKj != nil) || run.TimeS > 60+1e-9 || run.Lines[0].PeakKn < run.Lines[0].KnAtRest {
			t.Errorf("%+v", run)
		}
		if n := len(run.Series.TS); n != len(run.Series.TiltDeg) || n != len(run.Series.Lines[0]) || n != len(run.Series.SideUsePct) {
			t.Errorf("series of %d, %d", n, len(run.Series.TiltDeg))
		}
		odds, err := f.FollowSpread(t.Context())
		again, errAgain := f.FollowSpread(t.Context())
		if err != nil || errAgain != nil {
			t.Fatal(err, errAgain)
		}
		sum := 0.0
		for outcome, pct := range odds.OutcomesPct {
			sum += pct
			if again.OutcomesPct[outcome] != pct {
				t.Errorf("the same seed gives %v and %v", odds, again)
			}
		}
		close1(t, "outcomes together", sum, 100, 1e-9)
	}
}

// Where the tip comes down, by hand: on the level a hinge at the ground lays the tree out whole;
// downhill by its length along the slope.
func TestReachByHand(t *testing.T) {
	ground, high := 0.0, 2.0
	near(t, "laid out", (&Reach{TopHeightM: 20, HingeHeightM: &ground}).Solve().TipM, 20)
	down := (&Reach{TopHeightM: 20, HingeHeightM: &ground, SlopeDeg: 30}).Solve()
	near(t, "downhill", down.TipM, 20*math.Cos(math.Pi/6))
	near(t, "turned", down.TurnedDeg, 120)
	// 18 m over a hinge at 2 m: √(18² − 2²) out.
	cut := (&Reach{TopHeightM: 20, HingeHeightM: &high}).Solve()
	near(t, "over a high hinge", cut.TipM, math.Sqrt(18*18-4))
	near(t, "farthest", cut.FarthestM, 20)
	if faults := (&Reach{TopHeightM: 3, HingeHeightM: &high}).Faults("body"); len(faults) != 1 || faults[0].Location != "body.hinge_height_m" {
		t.Errorf("a hinge in the upper half: %v", faults)
	}
}

// A whole rectangle of hinge through the middle of a stump, by the handbook: σ·w·t²/4 in the
// fall, σ·t·w²/6 sideways; bored in the middle it loses ∫ over the hole.
func TestHingeByHand(t *testing.T) {
	h := HingeCut{Stump: Stump{DiameterM: 0.8}, FaceDepthM: 0.37, ThicknessM: Thickness{0.06, 0.06}, StrengthMpa: 50}
	w := h.Solve()
	near(t, "across the middle", w.ChordM, 0.8)
	near(t, "bending", w.BendingKnm, 50e3*0.8*0.06*0.06/4)
	near(t, "sideways", w.SideCapacityKnm.ToRight, 50e3*0.06*0.64/6)
	near(t, "back cut", w.BackCutM, 0.8-0.37-0.06)
	h.BoredM = 0.3
	bored := h.Solve()
	near(t, "bored, bending", bored.BendingKnm, 50e3*0.5*0.06*0.06/4)
	near(t, "bored, sideways", bored.SideCapacityKnm.ToLeft, 50e3*0.06*(0.512-0.027)/12/0.4)
	// A taper to the right moves the wood to the left: a load to the left finds more arm.
	h.BoredM, h.ThicknessM = 0, Thickness{0.08, 0.04}
	if taper := h.Solve(); taper.CentreOfWoodM >= 0 || taper.SideCapacityKnm.ToRight <= taper.SideCapacityKnm.ToLeft {
		t.Errorf("thicker on the left: %+v", taper)
	} else {
		// By a fine walk: 0.08 m on the left to 0.04 m on the right over its chord, about where its wood has its middle.
		const fine = 200_000
		half, area, first, second := taper.ChordM/2, 0.0, 0.0, 0.0
		for k := range fine {
			y := half * (2*(float64(k)+0.5)/fine - 1)
			thick := 0.06 - 0.02*y/half
			area, first = area+thick*2*half/fine, first+y*thick*2*half/fine
		}
		for k := range fine {
			y := half*(2*(float64(k)+0.5)/fine-1) - first/area
			second += y * y * (0.06 - 0.02*(y+first/area)/half) * 2 * half / fine
		}
		if !(math.Abs(taper.CentreOfWoodM-first/area) <= 1e-6) || !(math.Abs(taper.SecondMomentM4-second) <= 1e-8) || !(math.Abs(taper.AreaM2-area) <= 1e-9) {
			t.Errorf("%+v, by a walk %v, %v and %v", taper, first/area, second, area)
		}
	}
	for what, bad := range map[string]HingeCut{
		"body.face_depth_m":   {Stump: Stump{DiameterM: 0.5}, FaceDepthM: 0.49, ThicknessM: Thickness{0.05, 0.05}, StrengthMpa: 50},
		"body.bored_m":        {Stump: Stump{DiameterM: 0.5}, FaceDepthM: 0.15, ThicknessM: Thickness{0.05, 0.05}, BoredM: 0.6, StrengthMpa: 50},
		"body.stump.cavity_m": {Stump: Stump{DiameterM: 0.5, CavityM: 0.5}, FaceDepthM: 0.15, ThicknessM: Thickness{0.05, 0.05}, StrengthMpa: 50},
	} {
		if faults := bad.Faults("body"); len(faults) != 1 || faults[0].Location != what {
			t.Errorf("%s: %v", what, faults)
		}
	}
	if said := strings.Join(h.Cautions(h.Solve()), " "); !strings.Contains(said, "deeper than 0.4") {
		t.Errorf("a face of 0.37 in 0.8: %s", said)
	}
}

func benched() Fall {
	left, right := 60.0, 60.0
	return Fall{
		Tree:  FallTree{MassKg: 1500, CogHeightM: 8, CogForwardM: -0.5, CogSideM: 0.1, TopHeightM: 16},
		Hinge: &FallHinge{BendingKnm: 8, ToLeftKnm: &left, ToRightKnm: &right}, Back: &BackCut{CutM: 0.4, KerfM: 0.01, Wedged: true},
		Lines: []FallLine{{Name: "pull", AttachHeightM: 11, AnchorDistanceM: 20, LeadM: 15, Rope: springy, PretensionKn: 2, Haul: &HaulSpeed{SpeedMS: 0.25, StallKn: 8}}, {Name: "side", AttachHeightM: 9, AnchorDistanceM: 15, BearingDeg: -90, Rope: springy, PretensionKn: 1}},
	}
}

func BenchmarkFellSim(b *testing.B) {
	f := benched()
	b.ReportAllocs()
	for range b.N {
		if run, err := f.Follow(b.Context()); err != nil || run.Outcome != Goes {
			b.Fatal(run.Outcome, run.TimeS, err)
		}
	}
}

func BenchmarkFellSpread400(b *testing.B) {
	f := benched()
	f.Spread = &FallSpread{Runs: 400, Seed: 1, MassPct: 15, CogForwardM: 0.2, CogSideM: 0.1, HingePct: 30, PretensionPct: 15, StiffnessPct: 20}
	for range b.N {
		if _, err := f.FollowSpread(b.Context()); err != nil {
			b.Fatal(err)
		}
	}
}
