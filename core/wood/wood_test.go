package wood

import (
	"math"
	"strings"
	"testing"
)

// The figures are those of the Wood Handbook and of the green weights in common
// use, written down from memory: these checks hold the reading of the table, not
// the table against its sources.
func TestTableIsReadAsWritten(t *testing.T) {
	if n := len(Table()); n != 113 {
		t.Errorf("the table has %d species, want 113", n)
	}
	oak, ok := Find("northern-red-oak")
	if !ok {
		t.Fatal("no northern red oak")
	}
	if oak.GreenWeightLbFt3 != 63 || oak.SpecificGravity != 0.56 || oak.RuptureMPa != 57 || oak.ElasticityGPa != 9.3 {
		t.Errorf("northern red oak reads %+v", oak)
	}
	if !(math.Abs(oak.Density.Likely-63*16.018) <= 1e-9) || !(math.Abs(oak.Density.Low/oak.Density.Likely-0.9) <= 1e-12) || !(math.Abs(oak.Density.High/oak.Density.Likely-1.1) <= 1e-12) {
		t.Errorf("its density is %+v, want 63·16.018 ± 10 %%", oak.Density)
	}
}

// A green stem sinks or floats, but not by much: between 400 and 1,250 kg/m³,
// heavier than its dry matter (specific gravity × 1,000). Common practice, no
// source.
func TestTableIsPlausible(t *testing.T) {
	seen := map[string]bool{}
	for _, s := range Table() {
		if seen[s.ID] {
			t.Errorf("%s stands twice", s.ID)
		}
		seen[s.ID] = true
		if d := s.Density.Likely; d < 400 || d > 1250 || d < s.SpecificGravity*1000 {
			t.Errorf("%s: %v kg/m³ green at a specific gravity of %v", s.ID, d, s.SpecificGravity)
		}
		if !strings.Contains(s.Source, "from memory") {
			t.Errorf("%s does not say that it is from memory", s.ID)
		}
	}
}

func TestChoiceIsOneOfTwo(t *testing.T) {
	density := &Range{800, 900, 1000}
	for _, c := range []struct {
		name   string
		wood   Wood
		faults int
	}{
		{"species", Wood{Species: "sycamore"}, 0},
		{"density", Wood{Density: density}, 0},
		{"both", Wood{Species: "sycamore", Density: density}, 1},
		{"neither", Wood{}, 1},
		{"unknown species", Wood{Species: "stone"}, 1},
		{"falling range", Wood{Density: &Range{900, 800, 1000}}, 1},
		{"lead", Wood{Density: &Range{900, 1000, 11340}}, 1},
	} {
		if got := c.wood.Faults("body.wood"); len(got) != c.faults {
			t.Errorf("%s: got %v, want %d faults", c.name, got, c.faults)
		}
	}
	if got, source := (Wood{Species: "sycamore"}).GreenDensity(); !(math.Abs(got.Likely-52*16.018) <= 1e-9) || !strings.Contains(source, "52 lb/ft³") {
		t.Errorf("sycamore weighs %v, %s", got, source)
	}
}

// The trees that crews meet in North America, Britain and Ireland, western Europe and Australasia are
// found by the names they go by there, and by their Latin ones.
func TestTreesAreFoundByTheirNames(t *testing.T) {
	named := map[string]string{}
	for _, s := range Table() {
		for _, name := range append(strings.Split(s.Also, "; "), s.CommonName, s.BotanicalName) {
			if name != "" {
				named[strings.ToLower(name)] = s.ID
			}
		}
	}
	for name, want := range map[string]string{
		"European oak": "sessile-oak", "robinia": "black-locust", "lime": "common-lime", "American lime": "basswood", "sycamore (Britain)": "sycamore-maple",
		"American plane": "sycamore", "London plane": "london-plane", "radiata pine": "monterey-pine", "leylandii": "leyland-cypress", "wellingtonia": "giant-sequoia",
		"Quercus robur": "english-oak", "Eucalyptus globulus": "blue-gum", "Sassafras albidum": "sassafras", "conker tree": "horse-chestnut", "Salix fragilis": "crack-willow",
	} {
		if got := named[strings.ToLower(name)]; got != want {
			t.Errorf("%s is %q, want %q", name, got, want)
		}
	}
}
