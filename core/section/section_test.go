package section

import (
	"context"
	"errors"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

func number(v float64) *float64 { return &v }

func problem() Problem {
	return Problem{
		Stem: Stem{
			Wood: wood.Wood{Density: &wood.Range{Low: 910, Likely: 1010, High: 1110}},
			Stem: timber.Stem{Stations: []timber.Station{{AtM: 0, DiameterM: 0.8}, {AtM: 6, DiameterM: 0.6}, {AtM: 18, DiameterM: 0.2}}},
		},
		FromM: 18, ToM: 14, GridM: number(0.5),
		Rig: Rig{TieAboveCutM: 0.4, BlockBelowCutM: 0.5, SlackM: 0.1, DeviceAtM: 1.2, BlockEfficiency: 0.9, DeviceHoldKn: number(6),
			Rope: gear.Rope{BreakingKn: 80, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 1.6}, {LoadPct: 30, StrainPct: 3.4}}}},
		Limits: Limits{MassKg: number(150), RunM: number(4)},
	}
}

// everyWay tries every way down on eight cuts: the fewest pieces, and the least of their largest use.
func everyWay(p *Problem) (count int, use float64) {
	density, _ := p.Stem.Wood.GreenDensity()
	count, use = math.MaxInt, math.Inf(1)
	for ways := range 1 << 7 {
		from, pieces, most, ok := 0, 0, 0.0, true
		for k := 1; k <= 8 && ok; k++ {
			if k < 8 && ways>>(k-1)&1 == 0 {
				continue
			}
			piece, stop := p.try(density, p.cut(from), p.cut(k))
			ok, most, from, pieces = stop == "", max(most, piece.UsePct), k, pieces+1
		}
		if ok && (pieces < count || pieces == count && most < use) {
			count, use = pieces, most
		}
	}
	return count, use
}

// Against trying every way down there is (2⁷ of them on eight cuts).
func TestAgainstEveryWayDown(t *testing.T) {
	for _, hold := range []float64{4, 6, 9} {
		for _, mass := range []float64{60, 100, 150, 300} {
			p := problem()
			p.Rig.DeviceHoldKn, p.Limits.MassKg = number(hold), number(mass)
			density, _ := p.Stem.Wood.GreenDensity()
			count, use := everyWay(&p)
			got, _ := p.Solve(t.Context())
			if count == math.MaxInt {
				if got.Blocked == nil || got.Blocked.Why == "" {
					t.Errorf("hold %v, mass %v: no way down, and it says %+v", hold, mass, got)
				}
				continue
			}
			if got.Count != count || !(math.Abs(got.MaxUsePct-use) <= 1e-9) || len(got.Pieces) != count {
				t.Errorf("hold %v, mass %v: got %d pieces at %v %%, want %d at %v %%", hold, mass, got.Count, got.MaxUsePct, count, use)
			}
			total := 0.0
			for _, piece := range got.Pieces {
				total += piece.MassKg.Likely
			}
			if whole := p.Stem.WeighBetween(14, 18, density, timber.Frustum).MassKg.Likely; !(math.Abs(total-whole) <= 1e-9*whole) {
				t.Errorf("the pieces weigh %v, the stem %v", total, whole)
			}
		}
	}
}

// Of many stems, each as long as a few pieces and with limits that tell them apart.
func TestAgainstEveryWayDownOfManyStems(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 1))
	between := func(low, high float64) float64 { return low + (high-low)*random.Float64() }
	for range 60 {
		p := problem()
		thick := between(0.3, 0.9)
		p.Stem.Stations = []timber.Station{{AtM: 0, DiameterM: thick}, {AtM: 15 + between(0, 2), DiameterM: thick * between(0.4, 1)}, {AtM: 18, DiameterM: 0.15}}
		p.Limits = Limits{LineKn: number(between(4, 30)), RunM: number(between(1, 4))}
		p.Rig.DeviceHoldKn, p.Rig.SlackM = number(between(4, 12)), between(0, 0.5)
		count, use := everyWay(&p)
		got, _ := p.Solve(t.Context())
		if (got.Blocked == nil) != (count < math.MaxInt) || got.Blocked == nil && (got.Count != count || !(math.Abs(got.MaxUsePct-use) <= 1e-9)) {
			t.Fatalf("%+v: %d pieces at %v, want %d at %v; %+v", p.Limits, got.Count, got.MaxUsePct, count, use, got.Blocked)
		}
	}
}

// On its bounds: a piece as long as the shortest is cut, one that ends at its tie is not; of two limits that are met
// alike the first is named; one cell of the grid is a way down or says why not.
func TestOnTheBounds(t *testing.T) {
	p := problem()
	density, _ := p.Stem.Wood.GreenDensity()
	if _, stop := p.try(density, 18, 17.5); stop != "" {
		t.Errorf("as long as the shortest: %s", stop)
	}
	p.Rig.TieAboveCutM = 0.5
	if _, stop := p.try(density, 18, 17.5); stop != underTie {
		t.Errorf("up to its tie: %q", stop)
	}
	p = problem()
	piece, _ := p.try(density, 18, 16)
	p.Limits = Limits{LineKn: &piece.LinePeakKn, BlockKn: &piece.BlockPeakKn, DeviceKn: &piece.DevicePeakKn}
	if met, stop := p.try(density, 18, 16); stop != "" || met.UsePct != 100 || met.Governs != "line" {
		t.Errorf("three limits met: %q %+v", stop, met)
	}
	p.ToM, p.FromM, p.Limits = 17.5, 18, Limits{LineKn: number(0.1)}
	if got, _ := p.Solve(t.Context()); got.Blocked == nil || got.Blocked.Why != "it is over the limit of the line" {
		t.Errorf("one cell: %+v", got.Blocked)
	}
	p.Stem.Stations = p.Stem.Stations[1:]
	if p.FromM = 19; len(p.Faults("body")) != 1 {
		t.Errorf("beyond a stem of two stations: %v", p.Faults("body"))
	}
	// As many pieces as can be waited for: 97.65625 m in cells of 1/2048 m, each a piece.
	p.Stem.Stations = []timber.Station{{AtM: 0, DiameterM: 0.8}, {AtM: 100, DiameterM: 0.2}}
	p.FromM, p.ToM, p.GridM, p.Limits.LengthM = 97.65625, 0, number(1.0/2048), number(1.0/2048)
	if faults := p.Faults("body"); len(faults) != 0 {
		t.Errorf("200,000 pieces: %v", faults)
	}
	p.Limits.LengthM = number(2.0 / 2048)
	if faults := p.Faults("body"); len(faults) != 1 {
		t.Errorf("399,999 pieces: %v", faults)
	}
}

func TestNoWayDownNamesWhereAndWhy(t *testing.T) {
	p := problem()
	p.Limits.LineKn = number(0.5)
	got, _ := p.Solve(t.Context())
	if got.Blocked == nil || got.Blocked.AtM != 18 || got.Blocked.Why != "it is over the limit of the line" || got.Count != 0 {
		t.Errorf("got %+v", got.Blocked)
	}
}

func TestFaultsNameTheField(t *testing.T) {
	for _, c := range []struct {
		location string
		bend     func(*Problem)
	}{
		{"body.from_m", func(p *Problem) { p.FromM = 19 }},
		{"body.to_m", func(p *Problem) { p.ToM = 18 }},
		{"body.grid_m", func(p *Problem) { p.GridM = number(0.001) }},
		{"body.stem.stations[1].at_m", func(p *Problem) { p.Stem.Stations[1].AtM = 0 }},
	} {
		p := problem()
		c.bend(&p)
		if faults := p.Faults("body"); len(faults) == 0 || faults[0].Location != c.location {
			t.Errorf("got %v, want a fault at %s", faults, c.location)
		}
	}
}

func BenchmarkSection(b *testing.B) {
	p := problem()
	p.Stem.Stations = []timber.Station{{AtM: 0, DiameterM: 0.9}, {AtM: 10, DiameterM: 0.6}, {AtM: 25, DiameterM: 0.15}}
	p.FromM, p.ToM, p.GridM = 25, 3, nil
	p.Limits = Limits{MassKg: number(400), LineKn: number(14)}
	for b.Loop() {
		_, _ = p.Solve(b.Context())
	}
}

// More pieces to try than can be waited for are refused with the grid that would do; nobody
// waits for a sum that was left.
func TestWorkIsBounded(t *testing.T) {
	p := problem()
	p.GridM = new(float64)
	*p.GridM = 0.001
	faults := p.Faults("body")
	if len(faults) != 1 || faults[0].Location != "body.grid_m" || !strings.Contains(faults[0].Allowed, "at least") {
		t.Fatalf("a grid of a millimetre: %v", faults)
	}
	// By hand: n cuts make n(n+1)/2 pieces; with a longest of m cells, those alone.
	for _, c := range []struct{ cuts, longest, want float64 }{{4, 100, 10}, {4, 2, 7}, {100, 1, 100}} {
		if got := tries(c.cuts, c.longest); got != c.want {
			t.Errorf("%v cuts, longest %v: %v pieces, want %v", c.cuts, c.longest, got, c.want)
		}
	}
	*p.GridM = 0.1
	gone, leave := context.WithCancel(t.Context())
	leave()
	if _, err := p.Solve(gone); !errors.Is(err, context.Canceled) {
		t.Errorf("left: %v", err)
	}
}
