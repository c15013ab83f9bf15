package spar

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/timber"
)

// The stem is cut at every station and load and, evenly between them, no longer than 5 cm nor than
// a two-hundredth of its length.
func TestTheStemIsCutFineEnough(t *testing.T) {
	for _, row := range []struct{ bottom, top, load, cell float64 }{{2, 22, 7.33, 0.05}, {0.5, 4.5, 3.01, 0.02}, {3, 13.03, 3.02, 0.05}} {
		s := Spar{Stations: []timber.Station{{AtM: row.bottom, DiameterM: 0.5}, {AtM: row.top, DiameterM: 0.2}}, Loads: []Load{{AtM: row.load}}}
		z := s.nodes()
		if z[0] != row.bottom || z[len(z)-1] != row.top {
			t.Fatalf("from %v to %v", z[0], z[len(z)-1])
		}
		below := math.Ceil((row.load - row.bottom) / row.cell)
		above := math.Ceil((row.top - row.load) / row.cell)
		if want := int(below + above + 1); len(z) != want {
			t.Errorf("%v nodes from %v to %v, want %v", len(z), row.bottom, row.top, want)
		}
		if at := z[int(below)]; at != row.load {
			t.Errorf("no node at the load: %v", at)
		}
		for i := 1; i < len(z); i++ {
			even := (row.load - row.bottom) / below
			if z[i] > row.load {
				even = (row.top - row.load) / above
			}
			if gap := z[i] - z[i-1]; gap > row.cell+1e-12 || !(math.Abs(gap-even) <= 1e-9) {
				t.Errorf("a cell of %v m at %v", gap, z[i])
			}
		}
	}
}

// A load at the very foot and one at the very top are on the stem; a hair off either is refused.
func TestLoadsStandFromFootToTop(t *testing.T) {
	s := Spar{Stations: []timber.Station{{AtM: 1, DiameterM: 0.5}, {AtM: 9, DiameterM: 0.3}}, Loads: []Load{{AtM: 1}, {AtM: 9}}}
	if faults := s.Faults("body"); len(faults) != 0 {
		t.Error(faults)
	}
	s.Loads = []Load{{AtM: 0.999}, {AtM: 9.001}}
	faults := s.Faults("body")
	if len(faults) != 2 {
		t.Fatal(faults)
	}
	for i, fault := range faults {
		if fault.Location != fmt.Sprintf("body.loads[%d].at_m", i) || !strings.Contains(fault.Allowed, "between 1 and 9 m") {
			t.Errorf("%+v", fault)
		}
	}
}

// Small deflections hold to a tenth of the stem's own length, whichever way it bends: a uniform
// cantilever of 10 m bends F·L³/3EI.
func TestABendBeyondATenthIsSaid(t *testing.T) {
	const d, e = 0.2, 10.0
	inertia := math.Pi / 64 * math.Pow(d, 4)
	force := func(bend float64) float64 { return bend * 3 * e * 1e6 * inertia / 1000 }
	for _, row := range []struct {
		bend float64
		said bool
	}{{0.99, false}, {1.01, true}, {-0.99, false}, {-1.01, true}} {
		s := Spar{
			Stations: []timber.Station{{AtM: 4, DiameterM: d}, {AtM: 14, DiameterM: d}}, StrengthMpa: 40, StiffnessGpa: e, DensityKgM3: 800, SelfWeight: off(),
			Loads: []Load{{AtM: 14, HorizontalKn: force(row.bend)}},
		}
		st := s.Solve()
		near(t, "bend", st.TopDeflectionM, row.bend, 1e-6)
		if said := len(s.Cautions(st)) == 2; said != row.said {
			t.Errorf("bent %v m: %q", row.bend, s.Cautions(st))
		}
	}
}

// A uniform stem under pure compression is strained alike all along, by N/A.
func TestPureCompression(t *testing.T) {
	s := Spar{Stations: []timber.Station{{AtM: 0, DiameterM: 0.3}, {AtM: 6, DiameterM: 0.3}}, StrengthMpa: 40, StiffnessGpa: 9, DensityKgM3: 700, SelfWeight: off(), Loads: []Load{{AtM: 6, VerticalKn: 20}}}
	worst := s.WorstSection()
	near(t, "compression", worst.StressMpa, 20/(math.Pi/4*0.3*0.3)/1000, 1e-9)
	near(t, "share", worst.UsePct, 100*worst.StressMpa/40, 1e-12)
}
