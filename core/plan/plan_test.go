package plan

import (
	"encoding/json"
	"errors"
	"math"
	"strings"
	"testing"

	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

func of(v float64) *float64 { return &v }

// job is an invented stem with its rig.
func job() Job {
	j := NewJob("test")
	j.Tree.Wood = wood.Wood{Species: "northern-red-oak"}
	j.Tree.Readings = []Reading{
		{AtM: 0.5, Tape: Girth, TapeM: math.Pi * 0.8, CavityM: 0.2},
		{AtM: 6, Tape: Diameter, TapeM: 0.6},
	}
	j.Tree.HeightM, j.Tree.TopDiameterM = of(18), of(0.2)
	j.Cut.AtM = of(15)
	j.Rig.Rope = &gear.NamedRope{Name: "test rope", MarkedKn: of(14), Rope: gear.Rope{
		BreakingKn: 80, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 1.6}, {LoadPct: 20, StrainPct: 2.6}},
	}}
	j.Rig.Block.MarkedKn, j.Rig.Device.BreakingKn = of(30), of(150)
	return j
}

func rung(t *testing.T, a Assessment, part string) Rung {
	t.Helper()
	for _, r := range a.Ladder {
		if r.Part == part {
			return r
		}
	}
	t.Fatalf("no rung %s", part)
	return Rung{}
}

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.IsNaN(got) || math.Abs(got-want) > 1e-9*math.Max(1, math.Abs(want)) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// The ladder against the sums put together by hand from the packages below.
func TestLadderIsTheCoresOwnSum(t *testing.T) {
	j := job()
	a := Assess(&j, units.Metric)
	if len(a.Faults)+len(a.Missing) > 0 {
		t.Fatalf("faults %v, missing %v", a.Faults, a.Missing)
	}
	stem := timber.Stem{Stations: []timber.Station{{AtM: 0.5, DiameterM: 0.8, CavityM: 0.2}, {AtM: 6, DiameterM: 0.6}, {AtM: 18, DiameterM: 0.2}}}
	density, _ := j.Tree.Wood.GreenDensity()
	weight := stem.WeighBetween(15, 18, density, timber.Frustum)
	hold := 0.2 * math.Exp(2*math.Pi*0.2*2.5)
	c := drop.Case{
		Piece: drop.Piece{MassKg: weight.MassKg.High, CogAboveCutM: weight.CogM - 15, LengthM: 3},
		Rigging: drop.Rigging{
			TieAboveCutM: 0.5, BlockBelowCutM: 0.6, SlackM: 0.1, LeadM: 15 - 0.6 - 1.2,
			Rope: j.Rig.Rope.Rope, BlockEfficiency: 0.9, DeviceHoldKn: &hold,
		},
	}
	want := drop.Solve(&c)
	near(t, "mass", a.Piece.MassKg.High, weight.MassKg.High)
	near(t, "piece", *rung(t, a, partPiece).PeakKn, weight.WeightKn().High)
	near(t, "line", *rung(t, a, partLine).PeakKn, want.LinePeakKn)
	near(t, "block", *rung(t, a, partBlock).PeakKn, 1.9*want.LinePeakKn)
	near(t, "device", *rung(t, a, partDevice).PeakKn, 0.9*want.LinePeakKn)
	near(t, "hand", *rung(t, a, partHand).PeakKn, 0.2)
	near(t, "run", *a.Catch.RunM, want.RunM)
	near(t, "room", *a.Room.ClearanceM, 15-want.LowestM)
	near(t, "use of the line", *rung(t, a, partLine).UsePct, 100*want.LinePeakKn/14)
	near(t, "limit of the device, 150 kN over 10", *rung(t, a, partDevice).LimitKn, 15)
	near(t, "line hanging still", rung(t, a, partLine).RestingKn, weight.WeightKn().High)
	if got := rung(t, a, partPiece).Verdict; got != NotKnown {
		t.Errorf("a piece without a limit is %s", got)
	}
	for _, r := range a.Ladder {
		if len(r.Working) == 0 {
			t.Errorf("%s has no working", r.Part)
		}
	}
}

func TestVerdicts(t *testing.T) {
	for _, c := range []struct {
		use  float64
		want string
	}{{0, Within}, {79.9, Within}, {80, Close}, {100, Close}, {100.1, Over}} {
		if got := verdict(c.use, 80); got != c.want {
			t.Errorf("%v %%: got %s, want %s", c.use, got, c.want)
		}
	}
	if worse(Close, NotKnown) != NotKnown || worse(Over, NotKnown) != Over || worse(Within, Close) != Close {
		t.Error("the order of the verdicts is off")
	}
}

func TestDefaultsSayThatTheyAre(t *testing.T) {
	j := job()
	a := Assess(&j, units.Metric)
	listed := strings.Join(a.Settings.Defaulted, " ")
	for _, path := range []string{"rig.tie_above_cut_m", "rig.block.below_cut_m", "catch.hand_kn", "limits.clear_m"} {
		if !strings.Contains(listed, path) {
			t.Errorf("%s stands at its default and does not say so", path)
		}
	}
	j.Rig.TieAboveCutM = of(0.8)
	a = Assess(&j, units.Metric)
	if strings.Contains(strings.Join(a.Settings.Defaulted, " "), "tie_above_cut_m") || a.Settings.TieAboveCutM != 0.8 {
		t.Errorf("a tie of 0.8 m reads %v, defaults %v", a.Settings.TieAboveCutM, a.Settings.Defaulted)
	}
}

// An empty job is led by the hand: what is missing is named in order, and nothing
// is made up.
func TestUnfinishedJobSaysWhatIsMissing(t *testing.T) {
	j := NewJob("empty")
	a := Assess(&j, units.Metric)
	var asked []string
	for _, m := range a.Missing {
		asked = append(asked, m.Location)
	}
	if got := strings.Join(asked, " "); got != "tree.wood tree.readings rig.rope" {
		t.Errorf("asks for %s", got)
	}
	if a.Piece != nil || a.Catch != nil || len(a.Ladder) > 0 || a.Verdict != NotKnown {
		t.Errorf("an empty job says %+v", a)
	}
	j = job()
	j.Rig.Rope = nil
	a = Assess(&j, units.Metric)
	if a.Piece == nil || len(a.Ladder) > 0 || !strings.Contains(a.State, "Choose a rope") {
		t.Errorf("without a rope: %q, ladder of %d", a.State, len(a.Ladder))
	}
}

func TestContradictionsNameTheField(t *testing.T) {
	for _, c := range []struct {
		name, location string
		bend           func(*Job)
	}{
		{"readings out of order", "body.tree.readings[1].at_m", func(j *Job) { j.Tree.Readings[1].AtM = 0.5 }},
		{"cavity too wide", "body.tree.readings[0].cavity_m", func(j *Job) { j.Tree.Readings[0].CavityM = 0.8 }},
		{"girth of a giant", "body.tree.readings[1].tape_m", func(j *Job) { j.Tree.Readings[1].TapeM = 25 }},
		{"top below a reading", "body.tree.height_m", func(j *Job) { j.Tree.HeightM = of(5) }},
		{"lump below the stem", "body.tree.attached[0].at_m", func(j *Job) { j.Tree.Attached = []timber.Lump{{MassKg: 5, AtM: 0.1}} }},
		{"cut above the stem", "body.cut.at_m", func(j *Job) { j.Cut.AtM = of(18) }},
		{"tie above the piece", "body.rig.tie_above_cut_m", func(j *Job) { j.Rig.TieAboveCutM = of(3) }},
		{"block below the device", "body.rig.block.below_cut_m", func(j *Job) { j.Rig.Block.BelowCutM = of(14) }},
		{"stretch that falls", "body.rig.rope.elongation[1].strain_pct", func(j *Job) { j.Rig.Rope.Elongation[1].StrainPct = 1 }},
		{"unknown species", "body.tree.wood.species", func(j *Job) { j.Tree.Wood.Species = "stone" }},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := job()
			c.bend(&j)
			a := Assess(&j, units.Metric)
			if len(a.Faults) == 0 || a.Faults[0].Location != c.location || a.Faults[0].Allowed == "" {
				t.Fatalf("got %v, want a fault at %s", a.Faults, c.location)
			}
			if len(a.Ladder) > 0 {
				t.Error("it still shows a ladder")
			}
			// Where the cut itself is at fault, another one may do.
			dependsOnCut := strings.HasPrefix(c.location, "body.cut") || strings.HasPrefix(c.location, "body.rig.tie") || strings.HasPrefix(c.location, "body.rig.block")
			if l := FindLongest(&j, units.Metric); l.Found && !dependsOnCut {
				t.Errorf("it still finds a longest piece: %+v", l)
			}
		})
	}
}

func TestWaysOfCatching(t *testing.T) {
	j := job()
	j.Catch.How = Locked
	locked := Assess(&j, units.Metric)
	if locked.Catch.Runs || locked.Catch.HoldKn != nil || rung(t, locked, partHand).PeakKn != nil {
		t.Errorf("tied off: %+v", locked.Catch)
	}
	near(t, "locked peak", *rung(t, locked, partLine).PeakKn, locked.Catch.LockedPeakKn)

	j.Catch.How, j.Catch.RunM = ByRun, of(1.4)
	called := Assess(&j, units.Metric)
	if math.Abs(*called.Catch.RunM-1.4) > 1e-6 {
		t.Errorf("called 1.4 m, runs %v", *called.Catch.RunM)
	}
	j.Catch.How, j.Catch.HoldKn = ByHold, called.Catch.HoldKn
	held := Assess(&j, units.Metric)
	near(t, "peak by hold as by run", *rung(t, held, partLine).PeakKn, *rung(t, called, partLine).PeakKn)

	j.Catch.HoldKn = of(0.5)
	slips := Assess(&j, units.Metric)
	if slips.Catch.Holds || slips.Catch.RunM != nil || slips.Room.Verdict != Over || slips.Verdict != Over {
		t.Errorf("a hold below the weight: %+v %+v", slips.Catch, slips.Room)
	}
	if !strings.Contains(slips.State, "never stopped") {
		t.Errorf("it says %q", slips.State)
	}
}

// What keeps every limit, put to use, does keep every limit.
func TestWantedKeepsTheLimits(t *testing.T) {
	j := job()
	a := Assess(&j, units.Metric)
	w := a.Catch.Wanted
	if w == nil || !w.Reachable || w.Governs != partLine {
		t.Fatalf("got %+v", w)
	}
	j.Catch.How, j.Catch.HoldKn = ByHold, of(w.HoldKn)
	a = Assess(&j, units.Metric)
	near(t, "run", *a.Catch.RunM, *w.RunM)
	near(t, "use of the line", *rung(t, a, partLine).UsePct, 100)
	near(t, "wraps", w.HoldKn, 0.2*math.Exp(2*math.Pi*0.2*w.Wraps))
}

// The longest piece keeps every limit, and one a little longer does not.
func TestLongestPiece(t *testing.T) {
	for _, c := range []struct {
		name, governs string
		bend          func(*Job)
	}{
		{"by the line", partLine, func(j *Job) {
			j.Catch.How = Locked
			j.Rig.Rope.MarkedKn = of(20)
			j.Rig.Block.MarkedKn, j.Rig.Device.BreakingKn = nil, nil
		}},
		{"by the block", partBlock, func(j *Job) {
			j.Catch.How = Locked
			j.Rig.Rope.MarkedKn = of(60)
			j.Rig.Block.MarkedKn, j.Rig.Device.BreakingKn = of(50), nil
		}},
		{"by the weight", partPiece, func(j *Job) { j.Limits.PieceKg = of(150) }},
		{"by the run", governsRun, func(j *Job) { j.Limits.RunM = of(1.2) }},
		{"by the room", governsRoom, func(j *Job) { j.Catch.HandKn = of(0.24); j.Limits.ClearM = of(9) }},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := job()
			c.bend(&j)
			l := FindLongest(&j, units.Metric)
			if !l.Found || l.Governs != c.governs {
				t.Fatalf("got %+v, want %s", l, c.governs)
			}
			keeps := func(at float64) bool {
				j.Cut.AtM = of(at)
				a := Assess(&j, units.Metric)
				if len(a.Ladder) == 0 || a.Room.Verdict == Over || a.Room.RunVerdict == Over {
					return false
				}
				for _, r := range a.Ladder {
					if r.Verdict == Over {
						return false
					}
				}
				return true
			}
			if !keeps(*l.AtM) {
				t.Errorf("the cut at %v m does not keep every limit", *l.AtM)
			}
			if keeps(*l.AtM - 0.0011) {
				t.Errorf("a cut just below %v m keeps every limit too", *l.AtM)
			}
		})
	}
	j := job()
	j.Rig.Rope.MarkedKn = of(0.1)
	if l := FindLongest(&j, units.Metric); l.Found || l.Governs != partLine {
		t.Errorf("with a line of 0.1 kN: %+v", l)
	}
	j = job()
	j.Catch.HandKn = of(0.001)
	if l := FindLongest(&j, units.Metric); l.Found || l.Governs != governsHold {
		t.Errorf("with a hand of 1 N: %+v", l)
	}
}

func TestReadingADocument(t *testing.T) {
	j := job()
	written, err := json.Marshal(j)
	if err != nil {
		t.Fatal(err)
	}
	read, err := ReadJob(written)
	if err != nil {
		t.Fatal(err)
	}
	again, err := json.Marshal(read)
	if err != nil || string(again) != string(written) {
		t.Errorf("read and written again it differs: %v\n%s\n%s", err, written, again)
	}
	for _, c := range []struct{ old, replacement, location, says string }{
		{`"version":1`, `"version":2`, "body.version", "version 2"},
		{`"format":"elkstay-job"`, `"format":"other"`, "body.format", "elkstay-job"},
		{`"name":"test"`, `"name":""`, "body.name", "1 to 120"},
		{`"tape_m":0.6`, `"tape_m":60`, "body.tree.readings[1].tape_m", "60"},
		{`"cut":`, `"cutt":{},"cut":`, "body.cutt", "no field"},
	} {
		_, err := ReadJob([]byte(strings.Replace(string(written), c.old, c.replacement, 1)))
		var faults intake.Faults
		if !errors.As(err, &faults) || faults[0].Location != c.location || !strings.Contains(faults[0].Message, c.says) {
			t.Errorf("%s: got %v", c.replacement, err)
		}
	}
}

func TestSentencesComeInTheUnitsAsked(t *testing.T) {
	j := job()
	metric, us := Assess(&j, units.Metric).State, Assess(&j, units.US).State
	if !strings.Contains(metric, "3.00 m piece") || !strings.Contains(metric, "kN") || !strings.Contains(us, "9.8 ft piece") || !strings.Contains(us, "lbf") {
		t.Errorf("got %q and %q", metric, us)
	}
}

func BenchmarkAssess(b *testing.B) {
	j := job()
	for b.Loop() {
		Assess(&j, units.Metric)
	}
}

func BenchmarkLongest(b *testing.B) {
	j := job()
	for b.Loop() {
		FindLongest(&j, units.Metric)
	}
}
