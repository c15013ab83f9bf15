package assess

import (
	"math"
	"os"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/timber"
	"elkstay/core/units"
)

func assess(j *job.Job, pick string) Assessment {
	return Assess(j, Options{Units: units.Metric, Pick: pick})
}

func rung(t *testing.T, a Assessment, part string) Rung {
	t.Helper()
	if a.Detail == nil {
		t.Fatalf("no detail: %q %v %v", a.State, a.Missing, a.Faults)
	}
	for _, r := range a.Detail.Ladder {
		if r.Part == part {
			return r
		}
	}
	t.Fatalf("no rung %s: %v", part, a.Picks)
	return Rung{}
}

func TestDefaultsSayThatTheyAre(t *testing.T) {
	j := jobtest.Stem()
	listed := strings.Join(assess(&j, "").Defaulted, " ")
	for _, path := range []string{"rigs[0].tie.above_cut_m", "rigs[0].block.below_cut_m", "rigs[0].catch.hand_kn", "limits.clear_m", "picks[0].tie_m"} {
		if !strings.Contains(listed, path) {
			t.Errorf("%s stands at its default and does not say so", path)
		}
	}
	j.Rigs[0].Tie.AboveM = jobtest.Of(0.8)
	a := assess(&j, "p1")
	if strings.Contains(strings.Join(a.Defaulted, " "), "tie.above") || a.Detail.Settings.TieM != 0.8 {
		t.Errorf("a tie of 0.8 m reads %v, defaults %v", a.Detail.Settings.TieM, a.Defaulted)
	}
}

// An empty job is led by the hand: what is missing is named in order, and nothing
// is made up.
func TestUnfinishedJobSaysWhatIsMissing(t *testing.T) {
	j := job.NewJob("empty")
	a := assess(&j, "")
	var asked []string
	for _, m := range a.Missing {
		asked = append(asked, m.Location)
	}
	if got := strings.Join(asked, " "); got != "trees[0].wood trees[0].readings" || a.Verdict != policy.NotKnown {
		t.Errorf("asks for %s, %s", got, a.Verdict)
	}
	j = jobtest.Stem()
	j.Picks = nil
	if a = assess(&j, ""); len(a.Trees[0].Stem) == 0 || a.Missing[0].Location != "picks" || a.Verdict != policy.NotKnown {
		t.Errorf("without picks: %+v", a)
	}
	j = jobtest.Stem()
	j.Rigs[0].Rope = nil
	a = assess(&j, "p1")
	if a.Detail.Piece == nil || a.Picks[0].Faults[0].Code != course.FaultRig || !strings.Contains(a.Picks[0].Faults[0].Message, "no rope") {
		t.Errorf("without a rope: %+v", a.Picks[0])
	}
}

func TestContradictionsNameTheField(t *testing.T) {
	for _, c := range []struct {
		name, location string
		bend           func(*job.Job)
	}{
		{"readings out of order", "body.trees[0].readings[1].at_m", func(j *job.Job) { j.Trees[0].Readings[1].AtM = 0.5 }},
		{"cavity too wide", "body.trees[0].readings[0].cavity_m", func(j *job.Job) { j.Trees[0].Readings[0].CavityM = 0.8 }},
		{"girth of a giant", "body.trees[0].readings[1].tape_m", func(j *job.Job) { j.Trees[0].Readings[1].TapeM = 25 }},
		{"top below a reading", "body.trees[0].height_m", func(j *job.Job) { j.Trees[0].HeightM = jobtest.Of(5) }},
		{"lump below the stem", "body.trees[0].attached[0].at_m", func(j *job.Job) { j.Trees[0].Attached = []timber.Lump{{MassKg: 5, AtM: 0.1}} }},
		{"unknown species", "body.trees[0].wood.species", func(j *job.Job) { j.Trees[0].Wood.Species = "stone" }},
		{"limb in the air", "body.trees[0].limbs[0].at_m", func(j *job.Job) { j.Trees[0].Limbs = []job.Limb{{ID: "a", AtM: 20, DiameterM: 0.1, LengthM: 2}} }},
		{"limb on nothing", "body.trees[0].limbs[0].parent", func(j *job.Job) {
			j.Trees[0].Limbs = []job.Limb{{ID: "a", Parent: "b", AtM: 1, DiameterM: 0.1, LengthM: 2}}
		}},
		{"two deep", "body.trees[0].limbs[2].parent", func(j *job.Job) {
			j.Trees[0].Limbs = []job.Limb{{ID: "a", AtM: 8, DiameterM: 0.1, LengthM: 2}, {ID: "b", Parent: "a", AtM: 1, DiameterM: 0.1, LengthM: 2}, {ID: "c", Parent: "b", AtM: 1, DiameterM: 0.1, LengthM: 2}}
		}},
		{"beyond its parent", "body.trees[0].limbs[1].at_m", func(j *job.Job) {
			j.Trees[0].Limbs = []job.Limb{{ID: "a", AtM: 8, DiameterM: 0.1, LengthM: 2}, {ID: "b", Parent: "a", AtM: 3, DiameterM: 0.1, LengthM: 2}}
		}},
		{"defect on nothing", "body.trees[0].defects[0].limb", func(j *job.Job) { j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectCrack, Limb: "z"}} }},
		{"box and outline", "body.site.targets[0].outline", func(j *job.Job) {
			j.Site.Targets = []job.Target{{ID: "t", Name: "shed", Kind: "building", ToM: 3}}
		}},
		{"box inside out", "body.site.targets[0].box.max", func(j *job.Job) {
			j.Site.Targets = []job.Target{{ID: "t", Name: "shed", Kind: "building", ToM: 3, Box: &job.Box{Min: job.Spot{X: 1, Y: 1}, Max: job.Spot{X: 0, Y: 2}}}}
		}},
		{"top under bottom", "body.site.targets[0].to_m", func(j *job.Job) {
			j.Site.Targets = []job.Target{{ID: "t", Name: "shed", Kind: "building", FromM: 3, ToM: 3, Box: &job.Box{Min: job.Spot{X: 0, Y: 0}, Max: job.Spot{X: 1, Y: 1}}}}
		}},
		{"stretch that falls", "body.rigs[0].rope.elongation[1].strain_pct", func(j *job.Job) { j.Rigs[0].Rope.Elongation[1].StrainPct = 1 }},
		{"turn of nothing", "body.rigs[0].redirects[0].efficiency", func(j *job.Job) {
			j.Rigs[0].Redirects = []job.Redirect{{Name: "turn", Place: job.Place{On: job.OnStem, AtM: 2}}}
		}},
	} {
		t.Run(c.name, func(t *testing.T) {
			j := jobtest.Stem()
			c.bend(&j)
			a := assess(&j, "p1")
			if len(a.Faults) == 0 || a.Faults[0].Location != c.location || a.Faults[0].Allowed == "" {
				t.Fatalf("got %v, want a fault at %s", a.Faults, c.location)
			}
			if a.Detail != nil || len(a.Picks) > 0 || a.Verdict != policy.NotKnown {
				t.Error("it still shows figures")
			}
		})
	}
}

func TestWaysOfCatching(t *testing.T) {
	j := jobtest.Stem()
	how := &j.Rigs[0].Catch
	how.How = job.Locked
	locked := assess(&j, "p1")
	if locked.Detail.Catch.Runs || locked.Detail.Catch.HoldKn != nil || rung(t, locked, hold.PartHand).PeakKn != nil {
		t.Errorf("tied off: %+v", locked.Detail.Catch)
	}
	jobtest.Near(t, "locked peak", *rung(t, locked, hold.PartLine).PeakKn, locked.Detail.Catch.LockedPeakKn)

	how.How, how.RunM = job.ByRun, jobtest.Of(1.4)
	called := assess(&j, "p1")
	if !(math.Abs(*called.Detail.Catch.RunM-1.4) <= 1e-6) {
		t.Errorf("called 1.4 m, runs %v", *called.Detail.Catch.RunM)
	}
	how.How, how.HoldKn = job.ByHold, called.Detail.Catch.HoldKn
	held := assess(&j, "p1")
	jobtest.Near(t, "peak by hold as by run", *rung(t, held, hold.PartLine).PeakKn, *rung(t, called, hold.PartLine).PeakKn)

	j.Picks[0].Catch = &job.Catch{How: job.ByHold, HoldKn: jobtest.Of(0.5)}
	slips := assess(&j, "p1")
	if c := slips.Detail.Catch; c.Holds || c.RunM != nil || slips.Detail.Room.Verdict != policy.Over || slips.Verdict != policy.NotHeld {
		t.Errorf("a pick's own hold, below the weight: %+v %+v", c, slips.Detail.Room)
	}
	if !strings.Contains(strings.Join(slips.Detail.Cautions, " "), "never stops") {
		t.Errorf("it says %q", slips.Detail.Cautions)
	}
}

// What keeps every limit, put to use, does keep every limit.
func TestWantedKeepsTheLimits(t *testing.T) {
	j := jobtest.Stem()
	w := assess(&j, "p1").Detail.Catch.Wanted
	if w == nil || !w.Reachable || w.Governs != hold.PartTie && w.Governs != hold.PartLine {
		t.Fatalf("got %+v", w)
	}
	// Of whole and half turns the most.
	jobtest.Near(t, "the hold of its wraps", w.HoldKn, 0.2*math.Exp(2*math.Pi*0.2*w.Wraps))
	uses := func(wraps float64) float64 {
		j.Rigs[0].Device.Wraps = &wraps
		return *rung(t, assess(&j, "p1"), hold.PartLine).UsePct
	}
	if kept, more := uses(w.Wraps), uses(w.Wraps+0.5); w.Wraps*2 != math.Trunc(w.Wraps*2) || kept > 100 || more <= 100 {
		t.Errorf("%v wraps use %v %% of the line, half a turn more %v %%", w.Wraps, kept, more)
	}
	j.Rigs[0].Catch = job.Catch{How: job.ByHold, HoldKn: jobtest.Of(6)}
	w = assess(&j, "p1").Detail.Catch.Wanted
	j.Rigs[0].Catch.HoldKn = &w.HoldKn
	a := assess(&j, "p1")
	jobtest.Near(t, "run", *a.Detail.Catch.RunM, *w.RunM)
	jobtest.Near(t, "use of the line", *rung(t, a, hold.PartLine).UsePct, 100)
}

// A document of version 1 comes to the figures it came to in its day: those that the
// first version of this program gave for it, written down then.
func TestFirstVersionKeepsItsFigures(t *testing.T) {
	data, err := os.ReadFile("testdata/version-1.json")
	if err != nil {
		t.Fatal(err)
	}
	j, err := job.ReadJob(data)
	if err != nil {
		t.Fatal(err)
	}
	if j.Version != job.Version || len(j.Picks) != 1 || *j.Picks[0].CutM != 14.7 || j.Rigs[0].Rope.Name != "Heron line 16 mm" || *j.Rigs[0].Device.Wraps != 3 || *j.Limits.RunM != 3 || j.Note == "" {
		t.Errorf("got %+v", j)
	}
	a := assess(&j, "p1")
	for _, c := range []struct {
		what      string
		got, want float64
	}{
		{"likely mass", a.Detail.Piece.MassKg.Likely, 261.3193},
		{"line, friction as given", a.Detail.Catch.LinePeakKn, 8.486650},
		{"device, friction as given", *a.Detail.Catch.HoldKn, 7.807718},
		{"hand", *rung(t, a, hold.PartHand).PeakKn, 0.18},
	} {
		if !(math.Abs(c.got-c.want) <= 2e-6*c.want) {
			t.Errorf("%s: got %v, was %v", c.what, c.got, c.want)
		}
	}
	if _, err := job.ReadJob([]byte(strings.Replace(string(data), `"at_m": 14.7`, `"at_m": 147`, 1))); err == nil || !strings.Contains(err.Error(), "body.cut.at_m") {
		t.Errorf("a fault of version 1 is named %v", err)
	}
}

func TestSentencesComeInTheUnitsAsked(t *testing.T) {
	j := jobtest.Stem()
	metric, us := Assess(&j, Options{Units: units.Metric}), Assess(&j, Options{Units: units.US})
	if !strings.Contains(metric.State, " kg (") || !strings.Contains(metric.Picks[0].Title, "15.00 m") || !strings.Contains(us.State, " lb (") || !strings.Contains(us.Picks[0].Title, "ft") {
		t.Errorf("got %q and %q", metric.State, us.State)
	}
}

// A block's side force and a line's friction come from the path, whatever the way: a
// redirect turned by a right angle loads its place as the line's own package says.
func TestRedirectsAreTheLinesOwnSum(t *testing.T) {
	j := jobtest.Stem()
	j.Site.Anchors = []job.Anchor{{ID: "a", Name: "post", Kind: job.AnchorGround, At: job.Spot{X: 5, Y: 0}, HeightM: jobtest.Of(3)}}
	j.Rigs[0].Redirects = []job.Redirect{{Name: "low pulley", Place: job.Place{On: job.OnStem, AtM: 2}, Efficiency: jobtest.Of(0.85)}}
	j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "a", AtM: 2}
	a := assess(&j, "p1")
	path := line.Path{LoadKn: *rung(t, a, hold.PartLine).PeakKn, Motion: line.Lowering, Points: []line.Stop{
		{Name: "piece", Point: line.Point{Z: 13}}, {Name: "block", Point: line.Point{Z: 14.4}, Efficiency: jobtest.Of(0.9)},
		{Name: "low", Point: line.Point{Z: 2}, Efficiency: jobtest.Of(0.85)}, {Name: "device", Point: line.Point{X: 5, Z: 2}, Wraps: jobtest.Of(2.5), Friction: jobtest.Of(0.25)}, // a quarter more than given
	}}
	var want line.Tensions
	path.SolveInto(&want)
	jobtest.Near(t, "redirect", *rung(t, a, hold.PartRedirect).PeakKn, want.Points[1].ResultantKn)
	jobtest.Near(t, "device", *rung(t, a, hold.PartDevice).PeakKn, want.DeviceKn)
	jobtest.Near(t, "hand", *rung(t, a, hold.PartHand).PeakKn, want.HandKn)
	jobtest.Near(t, "lead", a.Detail.Catch.LeadM, 12.4+5)
}

// The ladder against the sums put together by hand from the packages below.
func TestLadderIsTheCoresOwnSum(t *testing.T) {
	j := jobtest.Stem()
	a := assess(&j, "p1")
	if len(a.Faults)+len(a.Missing) > 0 {
		t.Fatalf("faults %v, missing %v", a.Faults, a.Missing)
	}
	stem := timber.Stem{Stations: []timber.Station{{AtM: 0.5, DiameterM: 0.8, CavityM: 0.2}, {AtM: 6, DiameterM: 0.6}, {AtM: 18, DiameterM: 0.2}}}
	density, _ := j.Trees[0].Wood.GreenDensity()
	weight := stem.WeighBetween(15, 18, density, timber.Frustum)
	// As a paraboloid between its readings it has, 15 m up, an area of 0.36 − 0.75·(0.36 − 0.04) = 0.12.
	heavy := density.High * math.Pi / 4 * (0.12 + 0.04) / 2 * 3
	// With a quarter more friction than given it is held hardest, with a quarter less most rope runs.
	holds, given, less := 0.2*math.Exp(2*math.Pi*0.25*2.5), 0.2*math.Exp(2*math.Pi*0.2*2.5), 0.2*math.Exp(2*math.Pi*0.15*2.5)
	c := drop.Case{
		Piece: drop.Piece{MassKg: heavy, CogAboveCutM: weight.CogM - 15, LengthM: 3},
		Rigging: drop.Rigging{
			TieAboveCutM: 0.5, BlockBelowCutM: 0.6, SlackM: 0.1, LeadM: 15 - 0.6 - 1.2,
			Rope: j.Rigs[0].Rope.Rope, BlockEfficiency: 0.9, DeviceHoldKn: &holds,
		},
	}
	want, as, most := drop.Solve(&c), c, c
	as.DeviceHoldKn, most.DeviceHoldKn = &given, &less
	jobtest.Near(t, "mass", a.Detail.Piece.MassKg.High, heavy)
	jobtest.Near(t, "piece", *rung(t, a, hold.PartPiece).PeakKn, heavy*g/1000)
	jobtest.Near(t, "line", *rung(t, a, hold.PartLine).PeakKn, want.LinePeakKn)
	jobtest.Near(t, "tie", *rung(t, a, hold.PartTie).PeakKn, want.LinePeakKn)
	jobtest.Near(t, "block", *rung(t, a, hold.PartBlock).PeakKn, 1.9*want.LinePeakKn)
	jobtest.Near(t, "sling as a choker", *rung(t, a, hold.PartSling).LimitKn, 0.8*40)
	jobtest.Near(t, "device", *rung(t, a, hold.PartDevice).PeakKn, 0.9*want.LinePeakKn)
	jobtest.Near(t, "hand", *rung(t, a, hold.PartHand).PeakKn, 0.2)
	jobtest.Near(t, "run", *a.Detail.Catch.RunM, drop.Solve(&as).RunM)
	jobtest.Near(t, "room", *a.Detail.Room.ClearanceM, 15-drop.Solve(&most).LowestM)
	jobtest.Near(t, "use of the line", *rung(t, a, hold.PartLine).UsePct, 100*want.LinePeakKn/14)
	jobtest.Near(t, "limit of the device, 150 kN over 5", *rung(t, a, hold.PartDevice).LimitKn, 30)
	jobtest.Near(t, "line hanging still", rung(t, a, hold.PartLine).RestingKn, heavy*g/1000)
	if got := rung(t, a, hold.PartPiece).Verdict; got != policy.Within {
		t.Errorf("a piece for which no heaviest is set is %s", got)
	}
	jobtest.Near(t, "in short as in full", *a.Picks[0].PeakKn, want.LinePeakKn)
	for _, r := range a.Detail.Ladder {
		if len(r.Working) == 0 {
			t.Errorf("%s has no working", r.Part)
		}
	}
}

func TestVerdicts(t *testing.T) {
	for _, c := range []struct {
		use  float64
		want policy.Verdict
	}{{0, policy.Within}, {79.9, policy.Within}, {80, policy.Close}, {100, policy.Close}, {100.1, policy.Over}} {
		if got := (&policy.Limits{CloseFromPct: 80}).Judge(c.use); got != c.want {
			t.Errorf("%v %%: got %s, want %s", c.use, got, c.want)
		}
	}
	if policy.Worse(policy.Close, policy.NotKnown) != policy.NotKnown || policy.Worse(policy.Over, policy.NotKnown) != policy.Over || policy.Worse(policy.Within, policy.Close) != policy.Close {
		t.Error("the order of the verdicts is off")
	}
	j := jobtest.Stem()
	j.Rigs[0].Sling, j.Picks[0].CutM = job.Sling{}, jobtest.Of(16)
	if a := assess(&j, "p1"); a.Verdict != policy.NotKnown || rung(t, a, hold.PartSling).Verdict != policy.NotKnown {
		t.Errorf("a sling nobody has rated makes the job %s", a.Verdict)
	}
}
