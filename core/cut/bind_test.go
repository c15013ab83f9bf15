package cut

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/timber"
	"elkstay/core/wood"
)

// pole is a pole of 6 m and 0.3 m through, of 1,000 kg/m³, on two supports.
func pole(cut float64, supports ...float64) Bind {
	return Bind{Wood: wood.Wood{Density: &wood.Range{Low: 900, Likely: 1000, High: 1100}}, Stem: timber.Stem{Stations: []timber.Station{{AtM: 0, DiameterM: 0.3}, {AtM: 6, DiameterM: 0.3}}}, SupportsM: supports, CutAtM: cut}
}

// By hand, as a beam under its own weight w: between supports at its ends M = w·x(L−x)/2 and the
// bottom opens; beyond a support it hangs over, M = −w·a²/2, and the top opens.
func TestBindByHand(t *testing.T) {
	w := 1000 * math.Pi / 4 * 0.09 * 9.80665 / 1000 // kN/m
	close1 := func(what string, got, want float64) {
		t.Helper()
		if !(math.Abs(got-want) <= 1e-9) {
			t.Errorf("%s: got %v, want %v", what, got, want)
		}
	}
	middle := pole(2, 0, 6)
	out := middle.Solve()
	close1("sagging", out.MomentKnm, w*2*4/2)
	close1("first support", out.ReactionsKn[0], 3*w)
	close1("stress", out.StressMpa, w*4/(math.Pi*0.027/32)/1000)
	if out.Tension != "bottom" || out.FirstCut != "top" || out.Left.Does != Tips || out.Right.Does != Tips {
		t.Errorf("%+v", out)
	}
	over := pole(5, 1, 4)
	out = over.Solve()
	close1("hanging over", out.MomentKnm, -w*1*1/2)
	close1("second support", out.ReactionsKn[1], 6*w*(3-1)/3)
	if out.Tension != "top" || out.FirstCut != "bottom" || out.Left.Does != Stays || out.Right.Does != Drops {
		t.Errorf("%+v", out)
	}
	// One part moves: stand at the other. Both do: at neither, and what nothing is under goes first, else the heavier.
	if out.Stand != StandLeft || out.GoesFirst != "" {
		t.Errorf("stand %s", out.Stand)
	}
	off, both := pole(2.4, 0, 6), pole(2, 2.8, 3.1)
	for name, of := range map[string]struct {
		bind  *Bind
		first string
	}{"the heavier": {&off, StandRight}, "what drops": {&both, StandLeft}} {
		out := of.bind.Solve()
		said := of.bind.Cautions(out)
		if out.Stand != StandClear || out.GoesFirst != of.first || !strings.Contains(said[0], "to the "+of.first) || !strings.Contains(said[0], "neither") || strings.Count(strings.Join(said, " "), "stand") != 1 {
			t.Errorf("%s: %+v %q", name, out, said)
		}
	}
	// A lump at the cut goes with the left part.
	over.Attached = []timber.Lump{{MassKg: 50, AtM: 5}}
	if with := over.Solve(); !(math.Abs(with.Left.MassKg-out.Left.MassKg-50) <= 1e-9) || with.Right.MassKg != out.Right.MassKg {
		t.Errorf("a lump at the cut: %+v", with)
	}
	// 2 m over a support in its middle go either way.
	even := pole(2, 1, 5)
	if out := even.Solve(); out.Left.Does != EitherWay {
		t.Errorf("balanced: %+v", out.Left)
	}
}

func TestLogsThatCannotLie(t *testing.T) {
	for says, b := range map[string]Bind{
		"tips over the support at 2": pole(1, 0.5, 2),
		"is at the support":          pole(4, 1, 4),
		"do not rise":                pole(4, 3, 3),
		"not under the log":          pole(4, 1, 7),
		"not within the log":         pole(6, 1, 5),
	} {
		if faults := b.Faults("body"); len(faults) == 0 || !strings.Contains(faults.Error(), says) {
			t.Errorf("%s: %v", says, faults)
		}
	}
}

// A support under a log's very end bears, and so does one right under its balance.
func TestLogsThatJustLie(t *testing.T) {
	for _, b := range []Bind{pole(2, 0, 6), pole(2, 0, 3), pole(4, 3, 6)} {
		if faults := b.Faults("body"); len(faults) > 0 {
			t.Errorf("on %v: %v", b.SupportsM, faults)
		}
	}
	for _, cut := range []float64{0, 6} {
		b := pole(cut, 1, 5)
		if faults := b.Faults("body"); len(faults) == 0 || !strings.Contains(faults.Error(), "not within the log") {
			t.Errorf("sawn at its end, %g m: %v", cut, faults)
		}
	}
	// The balance of what a cut leaves over both supports stands right over one: it stays.
	b := pole(4, 2, 3.5)
	if got := b.Solve().Left.Does; got != Stays {
		t.Errorf("balanced over its first support: %s", got)
	}
	// A moment of nothing pulls neither side: a cut where nothing hangs is begun at the top.
	b = pole(5, 1, 5)
	b.CutAtM = 5 + 1e-5
	if got := b.Solve(); got.Tension != "top" {
		t.Errorf("just beyond a support the top opens: %+v", got)
	}
}

// What hangs on a part turns it where it hangs: 100 kg at 4 m beside 2 m of pole; each part is told by its side.
func TestALumpOnAPart(t *testing.T) {
	b := pole(2, 1, 5.5)
	b.Attached = []timber.Lump{{MassKg: 100, AtM: 4}}
	out := b.Solve()
	wood := 1000 * math.Pi / 4 * 0.09 * 4 // the right part, 2 to 6 m
	if want := (wood*4 + 100*4) / (wood + 100); !(math.Abs(out.Right.CogM-want) <= 1e-9) {
		t.Errorf("balance at %v m, want %v", out.Right.CogM, want)
	}
	b.Attached[0].AtM = 5
	if want := (wood*4 + 100*5) / (wood + 100); !(math.Abs(b.Solve().Right.CogM-want) <= 1e-9) {
		t.Errorf("further out: %v m, want %v", b.Solve().Right.CogM, want)
	}
	// Over a cut between two supports and an overhang: the left stays on both, the right drops; only the right is warned of.
	b = pole(5, 1, 4)
	said := b.Cautions(b.Solve())
	if len(said) != 3 || !strings.Contains(said[0], "part to the right, 71 kg, drops") {
		t.Errorf("%q", said)
	}
}
