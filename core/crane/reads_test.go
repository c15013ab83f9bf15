package crane

import (
	"slices"
	"testing"
)

// A chart of two booms, read by hand: a boom of 22 m counts as 24; at each radius the lesser
// of that column and of the next shorter one, 20, as the figure goes down with either.
func TestAChartIsReadStepByStep(t *testing.T) {
	share := 80.0
	p := Pick{BoomM: 22, ChartUsePct: &share, Chart: []ChartRow{
		{RadiusM: 10, BoomM: 24, CapacityKg: 3000}, {RadiusM: 5, BoomM: 24, CapacityKg: 7000}, {RadiusM: 8, BoomM: 24, CapacityKg: 4500},
		{RadiusM: 5, BoomM: 20, CapacityKg: 6000}, {RadiusM: 9, BoomM: 20, CapacityKg: 5000}, {RadiusM: 14, BoomM: 20, CapacityKg: 2500},
		{RadiusM: 20, BoomM: 40, CapacityKg: 900},
	}}
	// 5: 7000 and 6000. 8: 4500 and, of the shorter, the row at 9: 5000. 9: 3000 (the row at 10)
	// and 5000. 10: 3000 and 2500 (the row at 14). Beyond 10 the boom has nothing.
	want := []Read{{5, 6000}, {8, 4500}, {9, 3000}, {10, 2500}}
	if got := p.Reads(); !slices.Equal(got, want) {
		t.Errorf("%v, want %v", got, want)
	}
	// Four fifths count: 4800, 3600, 2400, 2000.
	for _, one := range []struct{ hook, far float64 }{{1500, 10}, {2000, 10}, {2001, 9}, {2400, 9}, {2401, 8}, {3600, 8}, {4000, 5}, {4800, 5}, {4801, 0}} {
		if got := p.Farthest(p.Reads(), one.hook); got != one.far {
			t.Errorf("%v kg goes out to %v m, want %v", one.hook, got, one.far)
		}
	}
	p.BoomM = 50
	if got := p.Reads(); got == nil || len(got) != 0 || p.Farthest(p.Reads(), 1) != 0 {
		t.Errorf("a boom longer than the chart's: %v", got)
	}
	// A chart that grows outward again does not reach over the gap.
	p = Pick{BoomM: 20, Chart: []ChartRow{{5, 20, 6000}, {8, 20, 1000}, {10, 20, 6000}}}
	if got := p.Farthest(p.Reads(), 2000); got != 5 {
		t.Errorf("over a gap: %v", got)
	}
}
