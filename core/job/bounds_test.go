package job_test

import (
	"math"
	"slices"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/timber"
)

// What may just be is no fault: a height at the highest reading, a lump at the lowest, a defect of no
// length, a cavity of nothing, a reading as thick as ten metres.
func TestWhatMayJustBe(t *testing.T) {
	for what, change := range map[string]func(j *job.Job){
		"the top at the highest reading": func(j *job.Job) { j.Trees[0].HeightM = jobtest.Of(6) },
		"a lump at the lowest reading":   func(j *job.Job) { j.Trees[0].Attached = []timber.Lump{{MassKg: 5, AtM: 0.5}} },
		"a defect at one height": func(j *job.Job) {
			j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectCrack, AtM: 3, ToM: jobtest.Of(3)}}
		},
		"a hung branch at the lowest": func(j *job.Job) {
			j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectHung, AtM: 0.5, MassKg: jobtest.Of(4)}}
		},
		"no cavity":          func(j *job.Job) { j.Trees[0].Readings[0].CavityM = 0 },
		"ten metres through": func(j *job.Job) { j.Trees[0].Readings[0] = job.Reading{AtM: 0.5, Tape: job.Diameter, TapeM: 10} },
		"leaning 60 degrees": func(j *job.Job) {
			j.Trees[0].Readings[1].Offset = &job.Offset{OffM: 6 * math.Tan(math.Pi/3) * 0.999999, TowardsDeg: 30}
		},
	} {
		j := jobtest.Stem()
		change(&j)
		if faults := j.Faults(); len(faults) > 0 {
			t.Errorf("%s: %v", what, faults)
		}
	}
}

// Where a stem stands off its plumb line it is measured there: the knots of its axis are at those
// places, east and north by the way it stands off.
func TestAnAxisByOffsets(t *testing.T) {
	j := jobtest.Stem()
	tree := &j.Trees[0]
	tree.Readings[1].Offset = &job.Offset{OffM: 2, TowardsDeg: 30}
	axis := tree.Axis()
	if len(axis) != 2 || axis[0] != (job.Knot{}) || !(math.Abs(axis[1].X-1) <= 1e-12) || !(math.Abs(axis[1].Y-math.Sqrt(3)) <= 1e-12) || axis[1].AtM != 6 {
		t.Errorf("%+v", axis)
	}
	// Between two offsets the lean is that of the way between them, not of each from the foot.
	tree.Readings = append(tree.Readings, job.Reading{AtM: 7, Tape: job.Diameter, TapeM: 0.5, Offset: &job.Offset{OffM: 2, TowardsDeg: 210}})
	faults := j.Faults()
	if len(faults) != 1 || !strings.Contains(faults[0].Message, "lean 76°") { // 4 m aside in one up
		t.Errorf("%v", faults)
	}
	tree.Readings = tree.Readings[:2]
	tree.Readings[1].Offset = nil
	tree.LeanDeg, tree.LeanTowardsDeg = jobtest.Of(45), jobtest.Of(90)
	if axis = tree.Axis(); !(math.Abs(axis[1].X-1) <= 1e-12) || !(math.Abs(axis[1].Y) <= 1e-12) || axis[1].AtM != 1 {
		t.Errorf("by its lean: %+v", axis)
	}
}

// What nobody has said stands at its default and is listed; what a pick says goes before its rig.
func TestSettingsAndTheirDefaults(t *testing.T) {
	j := jobtest.Stem()
	r, p := &j.Rigs[0], &j.Picks[0]
	s := r.Settings(p)
	if s.TieM <= 0 || s.BlockEfficiency <= 0 || s.How != job.ByWraps || s.DynamicFactor != 1 || s != (&job.Rig{}).Settings(&job.Pick{}) || s != job.RigDefaults() {
		t.Errorf("of nothing said: %+v", s)
	}
	all := len(j.Defaulted())
	for path, say := range map[string]func(){
		"rigs[0].tie.above_cut_m":     func() { r.Tie.AboveM = jobtest.Of(0.9) },
		"rigs[0].slack_m":             func() { r.SlackM = jobtest.Of(0.3) },
		"rigs[0].block.below_cut_m":   func() { r.Block.BelowCutM = jobtest.Of(0.7) },
		"rigs[0].block.efficiency":    func() { r.Block.Efficiency = jobtest.Of(0.8) },
		"rigs[0].device.at_m":         func() { r.Device.AtM = jobtest.Of(1.1) },
		"rigs[0].device.wraps":        func() { r.Device.Wraps = jobtest.Of(3) },
		"rigs[0].device.friction":     func() { r.Device.Friction = jobtest.Of(0.25) },
		"rigs[0].energy_lost_pct":     func() { r.EnergyLostPct = jobtest.Of(10) },
		"rigs[0].catch.how":           func() { r.Catch.How = job.ByRun },
		"rigs[0].catch.hand_kn":       func() { r.Catch.HandKn = jobtest.Of(0.3) },
		"rigs[0].catch.hold_kn":       func() { r.Catch.HoldKn = jobtest.Of(5) },
		"rigs[0].catch.run_m":         func() { r.Catch.RunM = jobtest.Of(1.5) },
		"rigs[0].rope.dynamic_factor": func() { r.Rope = &gear.NamedRope{Rope: gear.Rope{BreakingKn: 80, DynamicFactor: 1.4}} },
		"trees[0].top_diameter_m":     func() {},
		"picks[0].tie_m":              func() { p.TieM = jobtest.Of(0.4) },
		"picks[0].wraps":              func() { p.Wraps = jobtest.Of(4) },
		"picks[0].fall_towards_deg":   func() { p.FallTowardsDeg = jobtest.Of(90) },
		"limits.design_factor":        func() { j.Limits.DesignFactor = jobtest.Of(5) },
		"limits.wood_factor":          func() { j.Limits.WoodFactor = jobtest.Of(4) },
		"limits.throw_kg":             func() { j.Limits.ThrowKg = jobtest.Of(10) },
		"limits.hand_kn":              func() { j.Limits.HandKn = jobtest.Of(0.2) },
		"limits.clear_m":              func() { j.Limits.ClearM = jobtest.Of(1) },
		"limits.close_from_pct":       func() { j.Limits.CloseFromPct = jobtest.Of(70) },
	} {
		if path != "trees[0].top_diameter_m" && !slices.Contains(j.Defaulted(), path) {
			t.Errorf("%s is not said and not listed", path)
		}
		if say(); slices.Contains(j.Defaulted(), path) {
			t.Errorf("%s is said and listed", path)
		}
	}
	if left := len(j.Defaulted()); left >= all {
		t.Errorf("%d at their default, %d before", left, all)
	}
	s = r.Settings(p)
	for what, pair := range map[string][2]float64{
		"tie": {s.TieM, 0.9}, "slack": {s.SlackM, 0.3}, "block": {s.BlockBelowCutM, 0.7}, "efficiency": {s.BlockEfficiency, 0.8}, "device": {s.DeviceAtM, 1.1}, "wraps of the pick": {s.Wraps, 4},
		"friction": {s.Friction, 0.25}, "lost": {s.EnergyLostPct, 10}, "hand": {s.HandKn, 0.3}, "hold": {s.HoldKn, 5}, "run": {s.RunM, 1.5}, "dynamic": {s.DynamicFactor, 1.4},
	} {
		if what != "tie" && pair[0] != pair[1] {
			t.Errorf("%s: %v, want %v", what, pair[0], pair[1])
		}
	}
	if s.How != job.ByRun {
		t.Errorf("caught by %s", s.How)
	}
	p.Catch = &job.Catch{How: job.Locked}
	if s = r.Settings(p); s.How != job.Locked || s.RunM == 1.5 {
		t.Errorf("its own catch goes before the rig's: %+v", s)
	}
}
