package section

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/drop"
	"elkstay/core/timber"
)

// One piece, dropped by a case written out here: its block half a metre beneath its cut, its device
// at 1.2 m, so that 12.3 m of rope lead from a cut at 14 m.
func TestAPieceIsDroppedAsItHangs(t *testing.T) {
	p := problem()
	p.Limits = Limits{}
	density, _ := p.Stem.Wood.GreenDensity()
	weight := p.Stem.WeighBetween(14, 16, density, timber.Frustum)
	catch := drop.Solve(&drop.Case{
		Piece:   drop.Piece{MassKg: weight.MassKg.High, CogAboveCutM: weight.CogM - 14, LengthM: 2},
		Rigging: drop.Rigging{TieAboveCutM: 0.4, BlockBelowCutM: 0.5, SlackM: 0.1, LeadM: 12.3, Rope: p.Rig.Rope, BlockEfficiency: 0.9, DeviceHoldKn: number(6)},
	})
	piece, stop := p.try(density, 16, 14)
	if stop != "" || piece.LinePeakKn != catch.LinePeakKn || piece.BlockPeakKn != catch.BlockPeakKn || piece.DevicePeakKn != catch.DevicePeakKn || piece.RunM != catch.RunM || piece.Governs != "" {
		t.Fatalf("%q %+v, want %+v", stop, piece, catch)
	}
	// On each limit it passes and is what governs; a hair under, that limit stops it.
	for name, c := range map[string]struct {
		figure float64
		set    func(*Limits, *float64)
	}{
		"line":   {catch.LinePeakKn, func(l *Limits, v *float64) { l.LineKn = v }},
		"block":  {catch.BlockPeakKn, func(l *Limits, v *float64) { l.BlockKn = v }},
		"device": {catch.DevicePeakKn, func(l *Limits, v *float64) { l.DeviceKn = v }},
		"mass":   {weight.MassKg.High, func(l *Limits, v *float64) { l.MassKg = v }},
		"length": {2, func(l *Limits, v *float64) { l.LengthM = v }},
		"run":    {catch.RunM, func(l *Limits, v *float64) { l.RunM = v }},
	} {
		p.Limits = Limits{}
		c.set(&p.Limits, number(c.figure))
		if piece, stop := p.try(density, 16, 14); stop != "" || piece.Governs != name || !(math.Abs(piece.UsePct-100) <= 1e-9) {
			t.Errorf("on its %s: %q, %s at %v %%", name, stop, piece.Governs, piece.UsePct)
		}
		c.set(&p.Limits, number(c.figure*0.9999))
		if _, stop := p.try(density, 16, 14); stop != "it is over the limit of the "+name {
			t.Errorf("a hair over its %s: %q", name, stop)
		}
	}
	// The nearest of two limits governs, whichever is asked first.
	p.Limits = Limits{LineKn: number(catch.LinePeakKn * 2), MassKg: number(weight.MassKg.High * 1.25), RunM: number(catch.RunM * 4)}
	if piece, _ := p.try(density, 16, 14); piece.Governs != "mass" || !(math.Abs(piece.UsePct-80) <= 1e-9) {
		t.Errorf("%s at %v %%, want the mass at 80", piece.Governs, piece.UsePct)
	}
	// Its lowest end hangs so far beneath the cut: what is left to the ground, and a centimetre more.
	left := 14 - catch.LowestM
	p.Limits = Limits{ClearM: number(left)}
	if _, stop := p.try(density, 16, 14); stop != "" {
		t.Errorf("%v m over the ground: %q", left, stop)
	}
	p.Limits.ClearM = number(left + 0.01)
	if _, stop := p.try(density, 16, 14); stop != "it comes too close to the ground" {
		t.Errorf("a centimetre less over the ground: %q", stop)
	}
}

// Where no piece can be cut the reason is that of the shortest that might be.
func TestWhyItIsBlocked(t *testing.T) {
	for says, bend := range map[string]func(*Problem){
		"the block is not above the lowering device":                           func(p *Problem) { p.Rig.DeviceAtM = 17.3 },
		"it is over the limit of the mass":                                     func(p *Problem) { p.Limits.MassKg = number(1) },
		"what is left above the lowest cut is shorter than the shortest piece": func(p *Problem) { p.MinLengthM = number(4.5) },
		"the device never stops it":                                            func(p *Problem) { p.Rig.DeviceHoldKn = number(0.01) },
	} {
		p := problem()
		bend(&p)
		plan, _ := p.Solve(t.Context())
		if plan.Blocked == nil || plan.Blocked.Why != says || plan.Blocked.AtM != 18 {
			t.Errorf("want %q, got %+v", says, plan.Blocked)
			continue
		}
		if got := strings.Join(p.Cautions(plan), " "); !strings.Contains(got, "There is no way down") {
			t.Error(got)
		}
	}
	// Nothing is shorter than the tie, or than the shortest: with the tie at 1.2 m on a grid of half a
	// metre no piece is under 1.5 m.
	p := problem()
	p.Rig.TieAboveCutM, p.Limits = 1.2, Limits{RunM: number(40)}
	plan, _ := p.Solve(t.Context())
	if plan.Blocked != nil {
		t.Fatal(plan.Blocked)
	}
	for _, piece := range plan.Pieces {
		if piece.LengthM < 1.5-1e-9 {
			t.Errorf("a piece of %v m with its tie at 1.2 m", piece.LengthM)
		}
	}
	if got := strings.Join(p.Cautions(plan), " "); strings.Contains(got, "no way down") || !strings.Contains(got, drop.SlowTest) {
		t.Error(got)
	}
	p.Rig.Rope.DynamicFactor = 1.5
	if got := strings.Join(p.Cautions(plan), " "); strings.Contains(got, drop.SlowTest) {
		t.Error(got)
	}
	// No piece is longer than the longest, to the millimetre of the grid.
	p.Limits.LengthM = number(2)
	plan, _ = p.Solve(t.Context())
	for _, piece := range plan.Pieces {
		if piece.LengthM > 2+1e-9 {
			t.Errorf("a piece of %v m", piece.LengthM)
		}
	}
	if plan.Count != 2 {
		t.Errorf("4 m in pieces of 2 m at the most: %d", plan.Count)
	}
	steps := p.Working(plan)
	for i, piece := range plan.Pieces {
		for n, want := range []string{fmt.Sprintf("m%d mass of piece %d, %g to %g m, heavy end", i+1, i+1, piece.FromM, piece.ToM), fmt.Sprintf("T%d line peak", i+1), fmt.Sprintf("u%d nearest limit", i+1)} {
			if got := steps[3*i+n].Symbol + " " + steps[3*i+n].Label; !strings.HasPrefix(got, want) {
				t.Errorf("%q, want %q", got, want)
			}
		}
	}
}

// The bounds of the stem are of it.
func TestFromEndToEnd(t *testing.T) {
	p := problem()
	p.FromM, p.ToM = 18, 0
	if faults := p.Faults("body"); len(faults) > 0 {
		t.Error(faults)
	}
	p.FromM, p.ToM = 0, 0
	if faults := p.Faults("body"); len(faults) != 2 {
		t.Error(faults)
	}
	// With a longest piece a fine grid is few pieces: 4 m in millimetres, none over 4 cm.
	p = problem()
	p.GridM, p.Limits.LengthM = number(0.001), number(0.04)
	if faults := p.Faults("body"); len(faults) > 0 {
		t.Error(faults)
	}
	p.Limits.LengthM = number(0.06)
	faults := p.Faults("body")
	if len(faults) != 1 || !strings.Contains(faults[0].Allowed, "at least 0.0010") && !strings.Contains(faults[0].Allowed, "at least 0.0011") {
		t.Errorf("%+v", faults)
	}
}
