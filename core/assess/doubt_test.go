package assess

import (
	"strings"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// What a tired hand writes is asked about at its own field; a tree as it mostly is is not.
func TestUnlikelyTreesAreAskedAbout(t *testing.T) {
	for _, c := range []struct {
		what  string
		spoil func(*job.Tree)
		at    string
	}{
		{"nothing", func(*job.Tree) {}, ""},
		{"560 for 56", func(t *job.Tree) { t.Readings[0].Tape, t.Readings[0].TapeM = job.Diameter, 5.6 }, "readings[0].tape_m"},
		{"a girth that grows upward", func(t *job.Tree) { t.Readings[1].TapeM = 1.1 }, "readings[1].tape_m"},
		{"a height in feet", func(t *job.Tree) { t.HeightM = jobtest.Of(62) }, "height_m"},
		{"6 m of a stem of 0.8", func(t *job.Tree) { t.HeightM = jobtest.Of(6.2); t.Limbs = nil }, "height_m"},
		{"a pole of 5 cm", func(t *job.Tree) {
			t.Readings[0].TapeM, t.Readings[1].TapeM, t.Readings[0].CavityM = 0.2, 0.06, 0
			t.Limbs = nil
		}, "height_m"},
		{"a lean of 50", func(t *job.Tree) { t.LeanDeg = jobtest.Of(50) }, "lean_deg"},
		{"a limb of 40 m", func(t *job.Tree) { t.Limbs[0].LengthM, t.Limbs[0].DiameterM = 40, 0.3 }, "limbs[0].length_m"},
		{"a limb like a whip", func(t *job.Tree) { t.Limbs[0].DiameterM = 0.02 }, "limbs[0].length_m"},
		{"a limb thicker than its stem", func(t *job.Tree) { t.Limbs[3].DiameterM = 0.35 }, "limbs[3].diameter_m"},
		{"inches for centimetres", func(t *job.Tree) { t.Limbs[1].DiameterM, t.Limbs[1].LengthM = 1.5, 1.2 }, "limbs[1].diameter_m"},
	} {
		j := jobtest.Whole()
		c.spoil(&j.Trees[0])
		found := doubts(&j, units.Metric)
		if c.at == "" {
			if len(found) != 0 {
				t.Errorf("%s: %v", c.what, found)
			}
			continue
		}
		asked := false
		for _, d := range found {
			asked = asked || d.Location == "body.trees[0]."+c.at && strings.HasSuffix(d.Ask, "?")
		}
		if !asked {
			t.Errorf("%s: %v", c.what, found)
		}
	}
	j := jobtest.Whole()
	j.Trees[0].LeanDeg = jobtest.Of(40)
	if a := assess(&j, ""); len(a.Doubts) != 1 || len(a.Faults) != 0 || len(a.Picks) == 0 {
		t.Errorf("it is asked about and counted as given: %v, %v", a.Doubts, a.Faults)
	}
}
