package job_test

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

func near(t *testing.T, what string, got *float64, want float64) {
	t.Helper()
	if got == nil || !(math.Abs(*got-want) <= 1e-12) {
		t.Errorf("%s: %v, want %v", what, got, want)
	}
}

// Where a piece is tied at both ends, who pulls its tag line and how hard, when nobody has said and when somebody has;
// what was given stays as it was given.
func TestTiesByDefault(t *testing.T) {
	e := (&job.Pick{}).BothEnds(6)
	near(t, "butt, a tenth along", e.Butt.TieM, 0.6)
	near(t, "tip, two thirds", e.Tip.TieM, 4)
	p := job.Pick{Ends: &job.Ends{Tip: job.End{TieM: of(5)}}}
	e = p.BothEnds(6)
	near(t, "butt", e.Butt.TieM, 0.6)
	near(t, "as said", e.Tip.TieM, 5)
	if p.Ends.Butt.TieM != nil {
		t.Error("a default was written into the document")
	}
	if (&job.Pick{}).Tagged(5, 0.2) != nil {
		t.Error("a tag line that nobody has")
	}
	two := 2
	p = job.Pick{Tag: &job.Tag{Anchor: "a"}}
	tag := p.Tagged(5, 0.2)
	near(t, "tie", tag.TieM, 4.5)
	near(t, "one hand", tag.PullKn, 0.2)
	p.Tag.People = &two
	near(t, "two hands", p.Tagged(5, 0.2).PullKn, 0.4)
	p.Tag.PullKn, p.Tag.TieM = of(1), of(2)
	tag = p.Tagged(5, 0.2)
	near(t, "pull as said", tag.PullKn, 1)
	near(t, "tie as said", tag.TieM, 2)
	if *tag.People != 2 || p.Tag.People != &two {
		t.Errorf("%+v", tag)
	}
	// A line with a weight in its middle is a twentieth longer than its way.
	near(t, "with a weight", of((&job.FellMid{}).Line(20)), 21)
	near(t, "as said", of((&job.FellMid{LineM: of(24)}).Line(20)), 24)
}

// What becomes of the wood when nobody has said.
func TestTheGroundByDefault(t *testing.T) {
	j := jobtest.Stem()
	g := j.OnGround()
	for what, pair := range map[string][2]float64{"hand": {*g.HandKg, 40}, "least": {*g.LeastM, 0.1}, "kerf": {*g.KerfM, 0.01}, "friction": {*g.Friction, 0.9}, "chips": {*g.ChipsKgM3, 300}, "stack": {*g.StackShare, 0.6}} {
		if pair[0] != pair[1] {
			t.Errorf("%s: %v, want %v", what, pair[0], pair[1])
		}
	}
	j.Ground = &job.Ground{HandKg: of(25), Logs: []job.Logging{{ID: "a", By: job.SawnByLength, LengthsM: []float64{3}}, {ID: "b"}},
		Trucks: []job.Truck{{ID: "t", Takes: "logs"}, {ID: "u", Grip: of(0.5)}, {ID: "v", Takes: job.TakesBoth}}}
	g = j.OnGround()
	if *g.HandKg != 25 || j.Ground.KerfM != nil {
		t.Errorf("hand %v, kerf in the document %v", *g.HandKg, j.Ground.KerfM)
	}
	for id, length := range map[string]float64{"a": 3, "b": 2.4, "nobody's": 2.4} {
		if l := g.LoggingOf(id); l.ID != id || l.By != job.SawnByLength || len(l.LengthsM) != 1 || l.LengthsM[0] != length {
			t.Errorf("%s: %+v", id, l)
		}
	}
	if g.TruckOf("t") != &g.Trucks[0] || g.TruckOf("u") != &g.Trucks[1] || g.TruckOf("w") != nil {
		t.Error("trucks by their ids")
	}
	if g.Trucks[0].Wheels() != 0.35 || g.Trucks[1].Wheels() != 0.5 {
		t.Error("grip of wheels")
	}
	for i, takes := range [][2]bool{{true, false}, {true, true}, {true, true}} {
		if g.Trucks[i].Carries("logs") != takes[0] || g.Trucks[i].Carries("chips") != takes[1] {
			t.Errorf("truck %d takes logs %v, chips %v", i, g.Trucks[i].Carries("logs"), g.Trucks[i].Carries("chips"))
		}
	}
}

// Bounds that may just be met on the ground, and what is past them; what stops a swing, what a block is, which crowns are tied.
func TestWhatMayJustBeElsewhere(t *testing.T) {
	for _, c := range []struct {
		what   string
		change func(j *job.Job)
		at     string
	}{
		{"the shortest log", func(j *job.Job) { j.Ground = &job.Ground{Logs: []job.Logging{{ID: "a", LengthsM: []float64{0.2}}}} }, ""},
		{"the longest", func(j *job.Job) { j.Ground = &job.Ground{Logs: []job.Logging{{ID: "a", LengthsM: []float64{15}}}} }, ""},
		{"longer", func(j *job.Job) { j.Ground = &job.Ground{Logs: []job.Logging{{ID: "a", LengthsM: []float64{15.01}}}} }, "body.ground.logs[0].lengths_m[0]"},
		{"supports from the butt to the end", func(j *job.Job) {
			j.Ground = &job.Ground{Logs: []job.Logging{{ID: "a", SupportsM: []float64{0, 150}}}}
		}, ""},
		{"supports at one place", func(j *job.Job) { j.Ground = &job.Ground{Logs: []job.Logging{{ID: "a", SupportsM: []float64{2, 2}}}} }, "body.ground.logs[0].supports_m"},
		{"a support beyond any log", func(j *job.Job) {
			j.Ground = &job.Ground{Logs: []job.Logging{{ID: "a", SupportsM: []float64{0, 150.1}}}}
		}, "body.ground.logs[0].supports_m[1]"},
		{"flat", func(j *job.Job) { j.Ground = &job.Ground{Logs: []job.Logging{{ID: "a", Flat: true}}} }, ""},
		{"a block of both kinds", func(j *job.Job) { j.Rigs[0].Block.Friction, j.Rigs[0].Block.Efficiency = of(0.3), of(0.9) }, "body.rigs[0].block.efficiency"},
		{"a fork", func(j *job.Job) { j.Rigs[0].Block.Friction, j.Rigs[0].Block.Efficiency = of(0.3), nil }, ""},
		{"a pulley", func(j *job.Job) { j.Rigs[0].Block.Friction, j.Rigs[0].Block.Efficiency = nil, of(0.9) }, ""},
		{"turns round a fork", func(j *job.Job) {
			j.Rigs[0].Block.Friction, j.Rigs[0].Block.Efficiency, j.Rigs[0].Block.Turns = of(0.3), nil, of(1)
		}, ""},
		{"turns round a pulley", func(j *job.Job) {
			j.Rigs[0].Block.Friction, j.Rigs[0].Block.Efficiency, j.Rigs[0].Block.Turns = nil, of(0.9), of(1)
		}, "body.rigs[0].block.turns"},
		{"no turns round a pulley", func(j *job.Job) {
			j.Rigs[0].Block.Friction, j.Rigs[0].Block.Efficiency, j.Rigs[0].Block.Turns = nil, of(0.9), of(0)
		}, ""},
		{"stopped by a limb", func(j *job.Job) { j.Picks[0].Stop = &job.Stop{On: job.StopLimb} }, "body.picks[0].stop.limb"},
		{"stopped by a line", func(j *job.Job) { j.Picks[0].Stop = &job.Stop{On: job.StopLine} }, "body.picks[0].stop.anchor"},
		{"tied to itself", func(j *job.Job) { j.Trees[0].Tied = []job.Tied{{To: j.Trees[0].ID}} }, "body.trees[0].tied[0].to"},
		{"tied to nothing", func(j *job.Job) { j.Trees[0].Tied = []job.Tied{{To: "gone"}} }, "body.trees[0].tied[0].to"},
	} {
		j := jobtest.Stem()
		c.change(&j)
		faults := j.Faults()
		if c.at == "" && len(faults) > 0 || c.at != "" && (len(faults) != 1 || faults[0].Location != c.at) {
			t.Errorf("%s: %v, want one at %q", c.what, faults, c.at)
		}
	}
	j := jobtest.Stem()
	second := jobtest.Stem().Trees[0]
	second.ID = "second"
	j.Trees = append(j.Trees, second)
	j.Trees[0].Tied = []job.Tied{{To: "second"}}
	if faults := j.Faults(); len(faults) > 0 {
		t.Errorf("crowns of two trees: %v", faults)
	}
	// A lump without a reading to hang it on is no fault of its place.
	j = jobtest.Stem()
	j.Trees[0].Readings = nil
	if faults := j.Faults(); len(faults) > 0 {
		t.Errorf("nothing measured: %v", faults)
	}
}

// A stem that leans one way, by hand: 20° towards 30° is 0.364 m a metre, of it sin 30° to the east and cos 30° to the north.
func TestALeaningAxis(t *testing.T) {
	j := jobtest.Stem()
	m := &j.Trees[0].Measured
	m.LeanDeg, m.LeanTowardsDeg = of(20), of(30)
	axis := m.Axis()
	slope := math.Tan(20 * math.Pi / 180)
	if len(axis) != 2 || axis[0] != (job.Knot{}) || axis[1].AtM != 1 || !(math.Abs(axis[1].X-slope/2) <= 1e-12) || !(math.Abs(axis[1].Y-slope*math.Sqrt(3)/2) <= 1e-12) {
		t.Errorf("%+v", axis)
	}
	m.LeanTowardsDeg = nil
	if axis = m.Axis(); !(math.Abs(axis[1].X) <= 1e-12) || !(math.Abs(axis[1].Y-slope) <= 1e-12) {
		t.Errorf("towards nothing said: %+v", axis)
	}
}

// Every way is said in words of its own; what is no way is said as it stands.
func TestWaysInWords(t *testing.T) {
	seen := map[string]bool{}
	for _, w := range job.Ways() {
		words := w.String()
		if seen[words] || words == "" {
			t.Errorf("%q twice, or nothing", words)
		}
		seen[words] = true
	}
	if job.Way("flown").String() != "flown" || !strings.Contains(job.WayPastBlock.String(), "block") {
		t.Errorf("%s", job.WayPastBlock)
	}
}
