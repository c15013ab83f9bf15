package fell

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/working/workingtest"
)

// turnedPlace is a place of the tree turned forward: ahead, right, up.
func turnedPlace(ahead, right, up, tilt float64) r3.Vec {
	sin, cos := math.Sincos(tilt)
	return r3.Vec{X: ahead*cos + up*sin, Y: right, Z: up*cos - ahead*sin}
}

// At every tilt a line tied off the axis turns the tree about its hinge by place × pull: forward
// about the axis to the left, sideways about the fall line.
func TestArmsOfATieOffTheAxis(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 8))
	f := func(low, high float64) float64 { return low + (high-low)*random.Float64() }
	for range 200 {
		l := Line{AttachHeightM: f(5, 15), AttachForwardM: f(-2, 2), AttachSideM: f(-2, 2), AnchorDistanceM: f(10, 30), AnchorHeightM: f(-3, 5), BearingDeg: f(-60, 60)}
		tilt := f(0, 0.6)
		at := turnedPlace(l.AttachForwardM, l.AttachSideM, l.AttachHeightM, tilt)
		b := l.BearingDeg * math.Pi / 180
		way := r3.Sub(r3.Vec{X: l.AnchorDistanceM * math.Cos(b), Y: l.AnchorDistanceM * math.Sin(b), Z: l.AnchorHeightM}, at)
		turns := r3.Cross(at, r3.Unit(way))
		forward, side, unit := l.arms(tilt)
		near(t, "forward arm", forward, turns.Y)
		near(t, "side arm", side, -turns.X)
		near(t, "its way", r3.Norm(r3.Sub(unit, r3.Unit(way))), 0)
		near(t, "its length", l.LengthAt(tilt), r3.Norm(way))
	}
}

// Followed through time the same line turns the tree the same way, at every tilt, with the tension
// that its stretch gives; wind and drag act at their heights.
func TestMomentsOfAFall(t *testing.T) {
	random := rand.New(rand.NewPCG(6, 1))
	f := func(low, high float64) float64 { return low + (high-low)*random.Float64() }
	// 20 kN a percent up to 1 %, 30 from there on.
	rope := gear.Rope{BreakingKn: 100, Elongation: []gear.Stretch{{LoadPct: 20, StrainPct: 1}, {LoadPct: 50, StrainPct: 2}}}
	for range 200 {
		l := FallLine{Name: "pull", AttachHeightM: f(5, 14), AttachForwardM: f(-2, 2), AttachSideM: f(-2, 2), AnchorDistanceM: f(12, 30), AnchorHeightM: f(-2, 4), BearingDeg: f(-60, 60), LeadM: f(0, 20), Rope: rope, PretensionKn: f(1, 45)}
		fall := Fall{Tree: FallTree{MassKg: 1500, CogHeightM: 8, CogForwardM: f(-1, 1), CogSideM: f(-1, 1), TopHeightM: 16}, Lines: []FallLine{l},
			Wind: &Wind{SpeedMS: f(0, 20), TowardsDeg: f(-180, 180), AreaM2: 12, HeightM: 10}, DragAreaM2: 15}
		s := newFaller(&fall)
		y := s.begin()
		b := l.BearingDeg * math.Pi / 180
		anchor := r3.Vec{X: l.AnchorDistanceM * math.Cos(b), Y: l.AnchorDistanceM * math.Sin(b), Z: l.AnchorHeightM}
		stood := r3.Norm(r3.Sub(anchor, turnedPlace(l.AttachForwardM, l.AttachSideM, l.AttachHeightM, 0)))
		strain := l.PretensionKn / 20 / 100
		if l.PretensionKn > 20 {
			strain = 0.01 + (l.PretensionKn-20)/30/100
		}
		rest := (stood + l.LeadM) / (1 + strain)
		y[iPhi], y[iOmega] = f(0, 0.3), f(-1, 1)
		at := turnedPlace(l.AttachForwardM, l.AttachSideM, l.AttachHeightM, y[iPhi])
		way := r3.Sub(anchor, at)
		stretch := (r3.Norm(way)+l.LeadM)/rest - 1
		tension := math.Max(0, math.Max(stretch*2000, 20+(stretch-0.01)*3000))
		turns := r3.Cross(at, r3.Scale(tension, r3.Unit(way)))
		weight := 1.5 * 9.80665
		balance := turnedPlace(fall.Tree.CogForwardM, fall.Tree.CogSideM, 8, y[iPhi])
		wind := 0.6 * 12 * fall.Wind.SpeedMS * fall.Wind.SpeedMS / 1000
		speed := 8 * y[iOmega]
		toward := fall.Wind.TowardsDeg * math.Pi / 180
		forward, side := s.moment(&y)
		near(t, "tension", s.tension[0], tension)
		near(t, "forward", forward, turns.Y+weight*balance.X+wind*math.Cos(toward)*10*math.Cos(y[iPhi])-0.6*15*speed*math.Abs(speed)/1000*8)
		// Sideways as the hinge takes it: square to the tree as it leans over.
		along := r3.Dot(r3.Unit(way), turnedPlace(0, 0, 1, y[iPhi])) * tension
		aside := r3.Unit(way).Y * tension
		near(t, "aside", side, l.AttachHeightM*aside-l.AttachSideM*along+wind*math.Sin(toward)*10+weight*fall.Tree.CogSideM*math.Cos(y[iPhi]))
	}
}

// Hauled with its stall against a tree that stands, a line tightens as an exponential: of a stall of
// F, a stiffness k and a speed v it has F·(1 − e^(−k·v·t/F)) after a time t, while it is short of
// stretch.
func TestHaulingAgainstASpring(t *testing.T) {
	until, sample := 6.0, 0.5
	rope := gear.Rope{BreakingKn: 1000, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 10}}}
	f := Fall{Tree: FallTree{MassKg: 4000, CogHeightM: 8, CogForwardM: -2, TopHeightM: 16}, Hinge: &FallHinge{BendingKnm: 4000}, Back: &BackCut{CutM: 0.4, KerfM: 0.01, Wedged: true},
		Lines: []FallLine{{Name: "pull", AttachHeightM: 10, AnchorDistanceM: 30, AnchorHeightM: 10, LeadM: 10, Rope: rope, Haul: &HaulSpeed{SpeedMS: 0.05, StallKn: 20}}}, UntilS: &until, SampleS: &sample}
	run := followed(t, &f)
	for i, at := range run.Series.TS {
		k := 1000 / 0.1 / 40 // kN/m of 40 m
		want := 20 * (1 - math.Exp(-k*0.05*at/20))
		if got := run.Series.Lines[0][i]; !(math.Abs(got-want) <= 0.01*math.Max(1, want)) {
			t.Errorf("after %v s %v kN, want %v", at, got, want)
		}
	}
	if hauled := run.Lines[0].HauledM; !(math.Abs(hauled-20/(1000/0.1/40)) <= 0.01) {
		t.Errorf("hauled %v m in", hauled)
	}
}

// The sum behind a need, and what is said where it turns: a hinge at half of what it holds sideways,
// a lean that just bends the hinge.
func TestTheWorkingOfANeed(t *testing.T) {
	margin := 1.2
	f := Felling{Tree: Tree{MassKg: 2000, CogHeightM: 7, CogForwardM: -0.6, CogSideM: 0.2}, Hinge: &Hinge{WidthM: 0.5, ThicknessM: 0.05, StrengthMpa: 40},
		Pull: Line{AttachHeightM: 10, AttachForwardM: 0.2, AnchorDistanceM: 20, BearingDeg: 5}, Margin: &margin}
	need := f.Solve()
	steps := f.Working(need)
	bending := 1000 * 40 * 0.5 * 0.05 * 0.05 / 4
	moment := 1.2 * (2*9.80665*0.6 + bending)
	near(t, "M", workingtest.Step(t, steps, "M").Value, moment)
	near(t, "a·P", workingtest.Step(t, steps, "a").Value*workingtest.Step(t, steps, "P").Value, moment)
	near(t, "M_cap", workingtest.Step(t, steps, "M_cap").Value, 1000*40*0.05*0.5*0.5/6)
	f.Pulls = []Share{{Line: f.Pull, Part: 0.75}, {Line: Line{AttachHeightM: 9, AnchorDistanceM: 15, BearingDeg: -10}, Part: 0.25}}
	arms := 0
	for _, s := range f.Working(f.Solve()) {
		if s.Symbol == "a" {
			arms++
			if !strings.HasSuffix(s.Expression, map[int]string{1: "0.75 of the pull", 2: "0.25 of the pull"}[arms]) {
				t.Errorf("%q", s.Expression)
			}
		}
	}
	if arms != 2 {
		t.Errorf("%d arms of two lines", arms)
	}
	for use, said := range map[float64]bool{50: false, 50.1: true} {
		if got := strings.Join(f.Cautions(Need{Hinge: HingeUse{SideUsePct: &use}}), " "); strings.Contains(got, "The hinge is left") != said {
			t.Errorf("at %v %%: %q", use, got)
		}
	}
	just := Felling{Tree: Tree{MassKg: 1000, CogHeightM: 7, CogForwardM: bending / 9.80665}, Hinge: f.Hinge, Pull: f.Pull}
	just.Tree.CogForwardM *= 1.0001
	if !just.Solve().TipsAlone {
		t.Error("its lean bends the hinge, and it is not said to tip")
	}
	just.Tree.CogForwardM *= 0.999
	if just.Solve().TipsAlone {
		t.Error("its lean does not bend the hinge, and it is said to tip")
	}
	// Where it is refused: a pull square to the fall; a hinge in the upper half of the tree.
	for deg, wrong := range map[float64]bool{89.9: false, 90: true, -90: true, 120: true} {
		g := Felling{Tree: Tree{MassKg: 1000, CogHeightM: 7}, Pull: Line{AttachHeightM: 10, AnchorDistanceM: 20, BearingDeg: deg}}
		if faults := g.Faults("body"); (len(faults) > 0) != wrong {
			t.Errorf("a pull at %v°: %v", deg, faults)
		}
	}
	for height, wrong := range map[float64]bool{7.9: false, 8: true, 9: true} {
		g := Fall{Tree: FallTree{MassKg: 1000, CogHeightM: 4, TopHeightM: 8}, Ground: &FallGround{HingeHeightM: &height}}
		if faults := g.Faults("body"); (len(faults) > 0) != wrong {
			t.Errorf("a hinge at %v m under 8 m of tree: %v", height, faults)
		}
	}
}

// A pull from high up is past its dead point from where the line leads over the hinge: tan φ = distance over height.
func TestPastItsDeadPoint(t *testing.T) {
	back := -3.0 // of a balance 10 m up: it stands over its hinge at 16.7°
	f := Felling{Tree: Tree{MassKg: 1000, CogHeightM: 10, CogForwardM: back}, Pull: Line{AttachHeightM: 12, AnchorDistanceM: 4, AnchorHeightM: 20}}
	dead := math.Atan(4.0/20) * 180 / math.Pi // 11.3°
	tilt, met := f.Unmet()
	if step := math.Atan(0.3) * 180 / math.Pi / 40; met || tilt < dead || tilt > dead+step {
		t.Errorf("met %v, unmet from %v°, dead from %v°", met, tilt, dead)
	}
	if said := strings.Join(f.Cautions(f.Solve()), " "); !strings.Contains(said, "brings it over") {
		t.Error(said)
	}
	f.Pull.AnchorHeightM = 12 // dead at 18.4°, beyond the balance
	if tilt, met := f.Unmet(); !met {
		t.Errorf("unmet from %v°", tilt)
	}
}
