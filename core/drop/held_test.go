package drop

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/units"
)

// With a straight-line rope, no loss and no loss at the point, the peak is the textbook formula
// of a load let down onto a spring that is tight already: mg + √((T_p − mg)² + 2k·mg·h).
func TestACatchIsTheTextbookFormula(t *testing.T) {
	r := rand.New(rand.NewPCG(8, 1))
	for range 200 {
		line := 1 + 9*r.Float64()
		h := Held{MassKg: 20 + 400*r.Float64(), SinkM: 2 * r.Float64(), LineM: line, LeadM: 0, Rope: gear.Rope{BreakingKn: 1000, Elongation: []gear.Stretch{{LoadPct: 100, StrainPct: 1 + 9*r.Float64()}}}, Efficiency: 1, PretensionKn: 8 * r.Float64()}
		k := 1000 / (line * h.Rope.Elongation[0].StrainPct / 100)
		mg := h.MassKg * 9.80665 / 1000
		c := h.Solve()
		want := mg + math.Sqrt((h.PretensionKn-mg)*(h.PretensionKn-mg)+2*k*mg*h.SinkM)
		if !(math.Abs(c.LinePeakKn-want) <= 1e-9*want) {
			t.Errorf("%+v: got %v, want %v", h, c.LinePeakKn, want)
		}
		if plain := mg + math.Sqrt(mg*mg+2*k*mg*h.SinkM); !(math.Abs(c.WithoutPretensionKn-plain) <= 1e-9*plain) {
			t.Errorf("without: got %v, want %v", c.WithoutPretensionKn, plain)
		}
		if c.Runs || !c.Holds || *c.RunM != 0 || c.LeadPeakKn != c.LinePeakKn {
			t.Errorf("%+v", c)
		}
	}
}

// Where rope runs, the work of the hold over the run and what the line has taken up are the
// energy of the fall: summed anew in strips.
func TestWhatRunsBalancesTheEnergy(t *testing.T) {
	rope := gear.Rope{BreakingKn: 60, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 2}, {LoadPct: 40, StrainPct: 4}}}
	hold := 4.0
	h := Held{MassKg: 250, SinkM: 1.2, SlackM: 0.2, LineM: 6, LeadM: 10, Rope: rope, Efficiency: 0.9, AnchorStiffnessKnM: 800, EnergyLostPct: 10, HoldKn: &hold}
	c := h.Solve()
	peak, mg := hold/0.9, 250*9.80665/1000
	if !c.Runs || !(math.Abs(c.LinePeakKn-peak) <= 1e-12) || !(math.Abs(c.LeadPeakKn-hold) <= 1e-12) {
		t.Fatalf("%+v", c)
	}
	strain := func(kn float64) float64 {
		if kn <= 6 {
			return kn / 6 * 0.02
		}
		return 0.02 + (kn-6)/18*0.02
	}
	give := func(kn float64) float64 { return 6*strain(kn) + 10*strain(0.9*kn) + 2*1.9*kn/800 }
	taken, n := 0.0, 20000
	for i := range n {
		taken += (float64(i) + 0.5) / float64(n) * peak * (give(float64(i+1)/float64(n)*peak) - give(float64(i)/float64(n)*peak))
	}
	fall := 0.9*mg*1.4 + mg*(give(peak)+*c.RunM)
	if spent := taken + peak**c.RunM; !(math.Abs(spent-fall) <= 1e-6*fall) || !(math.Abs(c.StretchM-give(peak)) <= 1e-9) {
		t.Errorf("fell %v kJ, spent %v", fall, spent)
	}
	hold = 2
	if c := h.Solve(); c.Holds || c.RunM != nil || !(math.Abs(c.LinePeakKn-2/0.9) <= 1e-12) {
		t.Errorf("held by less than its weight: %+v", c)
	}
	// Made tighter than the hold lets through, it has run before.
	hold, h.SlackM, h.PretensionKn = 4, 0, 9
	if c := h.Solve(); c.PretensionCountsKn != 4/0.9 {
		t.Errorf("made too tight: %+v", c)
	}
}

func TestCatchesThatCannotBe(t *testing.T) {
	h := Held{MassKg: 100, LineM: 5, Rope: gear.Rope{BreakingKn: 20, Elongation: []gear.Stretch{{LoadPct: 20, StrainPct: 2}}}, Efficiency: 1, PretensionKn: 2, SlackM: 0.5}
	if faults := h.Faults("body"); len(faults) != 1 || faults[0].Location != "body.slack_m" {
		t.Errorf("tight with slack: %v", faults)
	}
	h.SlackM, h.PretensionKn = 0, 25
	if faults := h.Faults("body"); len(faults) != 1 || faults[0].Location != "body.pretension_kn" {
		t.Errorf("tighter than it breaks: %v", faults)
	}
}

// On their bounds: as tight as it weighs lifts nothing; a two-hundredth softer is no news; nothing lost, no room
// overrun and a blow just as the line has caught it are said for what they are.
func TestWhatIsSaidOnTheBounds(t *testing.T) {
	count := func(said []string, part string) (n int) {
		for _, s := range said {
			if strings.Contains(s, part) {
				n++
			}
		}
		return n
	}
	h := Held{MassKg: 100}
	weight := 100 * units.Gravity / 1000
	for _, c := range []struct {
		what   string
		caught Caught
		lifts  bool
		tells  string
	}{
		{"as tight as it weighs", Caught{Holds: true, PretensionCountsKn: weight, LinePeakKn: 200, WithoutPretensionKn: 200}, false, ""},
		{"tighter", Caught{Holds: true, PretensionCountsKn: weight + 1e-6, LinePeakKn: 200, WithoutPretensionKn: 201.1}, true, "softer"},
		{"a two-hundredth", Caught{Holds: true, PretensionCountsKn: 0.5, LinePeakKn: 200, WithoutPretensionKn: 201}, false, ""},
		{"harder", Caught{Holds: true, PretensionCountsKn: 0.5, LinePeakKn: 200, WithoutPretensionKn: 198}, false, "harder"},
		{"not tight", Caught{Holds: true, LinePeakKn: 200, WithoutPretensionKn: 300}, false, ""},
	} {
		said := h.Cautions(c.caught)
		if (count(said, "lifts it") == 1) != c.lifts || (count(said, "before the cut, the line catches") == 1) != (c.tells != "") || c.tells != "" && count(said, c.tells) != 1 {
			t.Errorf("%s: %q", c.what, said)
		}
	}
	room := 3.0
	one := Case{Rigging: Rigging{RoomM: &room}}
	for low, meets := range map[float64]int{3: 0, 3.001: 1} {
		if said := one.Cautions(Catch{Holds: true, LowestM: low}); count(said, "meets what lies beneath") != meets || count(said, "energy is taken as lost") != 0 {
			t.Errorf("%v m of 3 m: %q", low, said)
		}
	}
	at, peak := 1.5, 9.0
	for when, before := range map[float64]int{1.499: 1, 1.5: 0} {
		run := Run{LinePeakKn: &peak, LinePeakAtS: &at, StrikesStem: &Strike{AtS: when}}
		if said := (&SimCase{}).Cautions(run); count(said, "before the line has caught it") != before || count(said, "after the catch") != 1-before {
			t.Errorf("struck at %v s, caught at 1.5 s: %q", when, said)
		}
	}
}

// A hold just as great as the weight never stops it; a balance at the tip, and a line as tight as it breaks, cannot be;
// tied at its balance a piece does not hang tip down.
func TestHoldsAndFaultsOnTheBounds(t *testing.T) {
	weight := 100 * units.Gravity / 1000
	rope := gear.Rope{BreakingKn: 60, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 2}}}
	for hold, holds := range map[float64]bool{weight: false, weight * 1.001: true} {
		one := Case{Piece: Piece{MassKg: 100, CogAboveCutM: 1, LengthM: 2}, Rigging: Rigging{TieAboveCutM: 0.5, BlockBelowCutM: 0.5, LeadM: 10, Rope: rope, BlockEfficiency: 1, DeviceHoldKn: &hold}}
		if got := Solve(&one); got.Holds != holds {
			t.Errorf("a hold of %v against %v: %v", hold, weight, got.Holds)
		}
		h := Held{MassKg: 100, SinkM: 1, LineM: 2, LeadM: 10, Rope: rope, Efficiency: 1, HoldKn: &hold}
		if got := h.Solve(); got.Holds != holds {
			t.Errorf("held by %v against %v: %v", hold, weight, got.Holds)
		}
	}
	for cog, faults := range map[float64]int{1.999: 0, 2: 1} {
		one := Case{Piece: Piece{MassKg: 100, CogAboveCutM: cog, LengthM: 2}, Rigging: Rigging{TieAboveCutM: 0.5, BlockBelowCutM: 0.5, LeadM: 10, Rope: rope, BlockEfficiency: 1}}
		if got := one.Faults("body"); len(got) != faults {
			t.Errorf("its balance at %v of 2 m: %v", cog, got)
		}
	}
	for tight, faults := range map[float64]int{59.9: 0, 60: 1} {
		h := Held{MassKg: 100, SinkM: 1, LineM: 2, LeadM: 10, Rope: rope, Efficiency: 1, PretensionKn: tight}
		if got := h.Faults("body"); len(got) != faults {
			t.Errorf("%v kN tight on a rope of 60 kN: %v", tight, got)
		}
	}
	for cog, down := range map[float64]bool{0.5: false, 0.501: true} {
		one := Case{Piece: Piece{CogAboveCutM: cog}, Rigging: Rigging{TieAboveCutM: 0.5}}
		if one.HangsTipDown() != down {
			t.Errorf("its balance at %v, tied at 0.5", cog)
		}
	}
}
