package fell

import (
	"math"
	"strings"
	"testing"
)

// expectSaid holds cautions to what each must contain, in order, and to there being no more.
func expectSaid(t *testing.T, what string, said []string, want ...string) {
	t.Helper()
	if len(said) != len(want) {
		t.Errorf("%s: %q", what, said)
		return
	}
	for i := range want {
		if !strings.Contains(said[i], want[i]) {
			t.Errorf("%s: %q, want %q", what, said[i], want[i])
		}
	}
}

// What is said beside a pull: the weight of 1,000 kg is 9.80665 kN; a hinge of 0.4 by 0.05 m at 40 MPa bends at
// 40·0.4·0.05²/4·1000 = 10 kN·m and holds 40·0.05·0.4²/6·1000 = 53.3 kN·m sideways.
func TestWhatIsSaidOfAPull(t *testing.T) {
	felling := func(forward, side float64) Felling {
		return Felling{
			Tree: Tree{MassKg: 1000, CogHeightM: 9, CogForwardM: forward, CogSideM: side}, Hinge: &Hinge{WidthM: 0.4, ThicknessM: 0.05, StrengthMpa: 40},
			Pull: Line{AttachHeightM: 12, AnchorDistanceM: 20},
		}
	}
	const follow, alone, side = "The pull falls away", "Its own lean bends the hinge", "hinge wood alone cannot be trusted"
	for _, c := range []struct {
		what          string
		forward, side float64
		says          []string
	}{
		{"behind", -0.5, 0, []string{follow}},
		{"just short of it", 1.019, 0, []string{follow}}, // 9.99 kN·m
		{"just on its own", 1.02, 0, []string{follow, alone}},
		{"half of what it holds aside", -0.5, 2.719, []string{follow}}, // 26.66 of 53.33
		{"more than half", -0.5, 2.72, []string{follow, side}},         // 26.67
		{"and to the other side", -0.5, -2.72, []string{follow, side}},
		{"both", 1.5, 3, []string{follow, alone, side}},
	} {
		f := felling(c.forward, c.side)
		expectSaid(t, c.what, f.Cautions(f.Solve()), c.says...)
	}
	// The pull at a tilt: moments about the hinge, its line worked out anew from the place of the tie.
	f := felling(-0.5, 0)
	for _, tilt := range []float64{0, 0.03, 0.08} {
		need := 1.3 * (10 + 9.80665*(0.5*math.Cos(tilt)-9*math.Sin(tilt)))
		x, z := 12*math.Sin(tilt), 12*math.Cos(tilt)
		arm := math.Abs(x*(0-z)-z*(20-x)) / math.Hypot(20-x, z)
		want := max(0, need/arm)
		if got := f.PullAt(tilt); !(math.Abs(got-want) <= 1e-9) {
			t.Errorf("at %g: %g kN, want %g", tilt, got, want)
		}
	}
}

// What is said of a hinge on a stump of 0.5 m, at a twentieth, a fifth and 0.4 of it.
func TestWhatIsSaidOfAHinge(t *testing.T) {
	const sound = "Sound green wood"
	for _, c := range []struct {
		what             string
		left, right      float64
		face, bored, rot float64
		says             []string
	}{
		{"as it should be", 0.05, 0.05, 0.12, 0, 0, []string{sound}},
		{"a twentieth", 0.025, 0.025, 0.12, 0, 0, []string{sound}},
		{"thinner", 0.02, 0.029, 0.12, 0, 0, []string{"thinner than a twentieth", sound}},
		{"a fifth", 0.1, 0.1, 0.12, 0, 0, []string{sound}},
		{"thicker", 0.1, 0.102, 0.12, 0, 0, []string{"thicker than a fifth", sound}},
		{"a face of 0.4", 0.05, 0.05, 0.2, 0, 0, []string{sound}},
		{"deeper", 0.05, 0.05, 0.201, 0, 0, []string{"The face goes deeper", sound}},
		{"bored", 0.05, 0.05, 0.12, 0.1, 0, []string{"two strips", sound}},
		{"hollow", 0.05, 0.05, 0.2, 0, 0.2, []string{"two strips", sound}},
	} {
		h := HingeCut{Stump: Stump{DiameterM: 0.5, CavityM: c.rot}, FaceDepthM: c.face, ThicknessM: Thickness{Left: c.left, Right: c.right}, BoredM: c.bored, StrengthMpa: 40}
		if faults := h.Faults("body"); len(faults) > 0 {
			t.Fatal(c.what, faults)
		}
		expectSaid(t, c.what, h.Cautions(h.Solve()), c.says...)
	}
}

// What is said of a push, and of a weight at the middle of a line.
func TestWhatIsSaidBesideAPull(t *testing.T) {
	push := func(height, limit float64) Push {
		return Push{Tree: Tree{MassKg: 1000, CogHeightM: 6, CogForwardM: -0.5}, HeightM: height, LimitKn: &limit}
	}
	const strap, hard, low = "Leave a strap", "cannot push that hard", "It pushes low"
	// 1.3·9.80665·0.5 = 6.3743 kN·m: at 3 m 2.1248 kN, at 2.99 m a little more.
	for _, c := range []struct {
		height, limit float64
		says          []string
	}{
		{3, 2.13, []string{strap}}, {3, 2.12, []string{strap, hard}}, {2.99, 5, []string{strap, low}}, {2, 1, []string{strap, hard, low}},
	} {
		p := push(c.height, c.limit)
		expectSaid(t, "push", p.Cautions(p.Solve()), c.says...)
	}
	p := Push{Tree: Tree{MassKg: 1000, CogHeightM: 6, CogForwardM: -0.5}, HeightM: 3}
	expectSaid(t, "no limit is known", p.Cautions(p.Solve()), strap)

	// Hung high it never lands; hung low it does, and where it does is said.
	m := Midline{AttachHeightM: 10, AnchorDistanceM: 20, LineLengthM: 23, WeightKg: 100, GroundM: -50}
	expectSaid(t, "high", m.Cautions(m.Solve()), "nobody under the line")
	m.GroundM = 0
	got := m.Solve()
	expectSaid(t, "low", m.Cautions(got), "nobody under the line", "the weight meets the ground")
	if got.GroundTiltDeg == nil {
		t.Fatal("it never lands")
	}
	// There the weight is half a line from both ends, on the ground: the tie and the anchor each 11.5 m from it.
	at := *got.GroundTiltDeg * math.Pi / 180
	x, z := 10*math.Sin(at), 10*math.Cos(at)
	weightX := 20 - 11.5 // on the ground with the anchor, as far from it as half the line
	if off := math.Hypot(weightX-x, z) - 11.5; !(math.Abs(off) <= 0.02) {
		t.Errorf("at %g° its half is off by %g m", *got.GroundTiltDeg, off)
	}
}

// On their bounds: what may be asked for is named as it is, what is just met is not past it.
func TestFellOnTheBounds(t *testing.T) {
	high := 5.0
	for top, want := range map[float64]string{10: "less than 5 m", 10.01: ""} {
		faults := (&Reach{TopHeightM: top, HingeHeightM: &high}).Faults("body")
		if (len(faults) == 1) != (want != "") || want != "" && faults[0].Allowed != want {
			t.Errorf("a hinge at 5 m of %v m: %+v", top, faults)
		}
	}
	for use, said := range map[float64]int{100: 1, 100.01: 2} {
		p := Push{HeightM: 4, Tree: Tree{CogHeightM: 8}}
		if got := p.Cautions(Shove{UsePct: &use}); len(got) != said {
			t.Errorf("pushed at %v %%: %q", use, got)
		}
	}
	p := Push{HeightM: 3.99, Tree: Tree{CogHeightM: 8}}
	if got := p.Cautions(Shove{}); len(got) != 2 || got[1] != "It pushes low: the head may come back over the machine." {
		t.Errorf("pushed low: %q", got)
	}
	// In balance over its foot, with no hinge to bend, it goes by itself.
	for forward, tips := range map[float64]bool{0: true, -0.01: false} {
		f := Felling{Tree: Tree{MassKg: 1000, CogHeightM: 5, CogForwardM: forward}, Pull: Line{AttachHeightM: 10, AnchorDistanceM: 20}}
		if got := f.Solve().TipsAlone; got != tips {
			t.Errorf("its balance %v m forward: goes alone %v", forward, got)
		}
	}
	// A hinge on the far edge of its stump, and one that leaves no back cut.
	for face, faults := range map[float64]int{0.75: 1, 0.7: 0} {
		h := HingeCut{Stump: Stump{DiameterM: 1}, FaceDepthM: face, ThicknessM: Thickness{0.25, 0.25}, StrengthMpa: 50}
		if got := h.Faults("body"); len(got) != faults {
			t.Errorf("a face of %v m and a hinge of 25 cm in a metre: %v", face, got)
		}
	}
	wind := func(speed float64) int {
		f := Fall{Wind: &Wind{SpeedMS: speed}}
		n := 0
		for _, said := range f.Cautions(FallRun{}) {
			if said == "Wind comes in gusts: the figure is for a steady one." {
				n++
			}
		}
		return n
	}
	if wind(0) != 0 || wind(0.1) != 1 {
		t.Errorf("of no wind %d, of some %d", wind(0), wind(0.1))
	}
	aside := func(side float64) int {
		f := Fall{Tree: FallTree{CogHeightM: 10, CogSideM: side}}
		n := 0
		for _, said := range f.Cautions(FallRun{}) {
			if said == "Its weight stands aside of the fall: hinge wood alone is never relied on against a heavy side lean." {
				n++
			}
		}
		return n
	}
	if aside(0.5) != 0 || aside(-0.51) != 1 || aside(0.51) != 1 {
		t.Errorf("aside: %d %d %d", aside(0.5), aside(-0.51), aside(0.51))
	}
}
