package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/ways/roped"
)

func endFault(t *testing.T, j *job.Job) string {
	t.Helper()
	a := assess(j, "p1")
	if len(a.Picks[0].Faults) == 0 {
		return ""
	}
	return a.Picks[0].Faults[0].Message
}

// Level under two upright lines moments share the weight; let out alike it stays level, and its
// lines carry the same all the way down.
func TestAPieceHeldAtBothEnds(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	a := assess(&j, "p1")
	if said := endFault(t, &j); said != "" {
		t.Fatal(said)
	}
	e := a.Detail.Ends
	cog := a.Detail.Piece.CogM
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	// Its first place: hung on both lines as they are, a limb's round off the level.
	jobtest.Nearly(t, "butt at rest", e.Lines[0].RestKn, w*(5-cog)/4)
	jobtest.Nearly(t, "tip at rest", e.Lines[1].RestKn, w*(cog-1)/4)
	// Let go at once with no slack a spring takes twice what comes to rest on it; two under one piece
	// swing against each other, and one takes somewhat more. Of a hinge that nobody has told of the
	// worst is taken.
	j.Picks[0].Ends.FaceDeg = jobtest.Of(0)
	for i, l := range assess(&j, "p1").Detail.Ends.Lines {
		if l.PeakKn < 1.5*l.RestKn || l.PeakKn > 3*l.RestKn {
			t.Errorf("line %d: %v kN at rest, %v at the peak", i, l.RestKn, l.PeakKn)
		}
		if e.Lines[i].PeakKn < l.PeakKn {
			t.Errorf("line %d: %v kN where its hinge is not told of, %v without one", i, e.Lines[i].PeakKn, l.PeakKn)
		}
	}
	j.Picks[0].Ends.FaceDeg = nil
	last := e.Ghosts[len(e.Ghosts)-1]
	if !(math.Abs(last.Butt.Z-last.Tip.Z) <= 1e-6) || last.Butt.Z > 0.11 || last.Butt.Z < -0.11 {
		t.Errorf("let down it lies from %+v to %+v", last.Butt, last.Tip)
	}
	if a.Picks[0].Call != "Butt and tip: let out alike" || a.Picks[0].PeakKn == nil {
		t.Errorf("%q", a.Picks[0].Call)
	}
	// The ladder has both sides: line, block, holder, device, hand of each.
	sides := map[string]int{}
	for _, one := range a.Detail.Ladder {
		for _, end := range []string{"butt", "tip"} {
			if strings.HasPrefix(one.Name, end+":") {
				sides[end+" "+one.Part]++
			}
		}
	}
	for _, want := range []string{"butt line", "tip line", "butt holder", "tip holder", "butt device", "tip device", "butt block", "tip sling"} {
		if sides[want] != 1 {
			t.Errorf("%s: %d rungs of %v", want, sides[want], sides)
		}
	}
	// When either is let go all of it hangs on the other, which is said with its figures.
	said := strings.Join(a.Detail.Cautions, "\n")
	for _, part := range []string{"When the line at the butt is let go", "When the line at the tip is let go", "locked off", "hear each other"} {
		if !strings.Contains(said, part) {
			t.Errorf("%q is not in %s", part, said)
		}
	}
	// What passes is followed: from its cut, over its catch, down.
	trace, err := Simulate(t.Context(), &j, "p1", 0, Options{Units: "metric"})
	if err != nil || trace.Kind != "course" || len(trace.Course) < 60 || trace.Course[0].Butt.Z < 8.9 || trace.Course[len(trace.Course)-1].Butt.Z > 0.11 {
		t.Errorf("%v %s %d", err, trace.Kind, len(trace.Course))
	}
}

// A hinge that is told of is followed as told: with slack at the tip alone it carries the butt while
// the tip goes over, and should it break at once the butt's line takes more, which is said.
func TestTheHingeEasesAPieceOver(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	ends := j.Picks[0].Ends
	ends.Butt.SlackM, ends.Tip.SlackM = jobtest.Of(1.5), jobtest.Of(0)
	peaks := func(deg *float64) ([2]float64, string) {
		ends.FaceDeg = deg
		a := assess(&j, "p1")
		if said := endFault(t, &j); said != "" {
			t.Fatal(said)
		}
		return [2]float64{a.Detail.Ends.Lines[0].PeakKn, a.Detail.Ends.Lines[1].PeakKn}, strings.Join(a.Detail.Cautions, "\n")
	}
	unknown, said := peaks(nil)
	if !strings.Contains(said, "the worst of letting go at once, at 35° and at 75°") {
		t.Errorf("a hinge not told of: %s", said)
	}
	for _, deg := range []float64{0, 35, 75} {
		told, _ := peaks(&deg)
		for i := range told {
			if told[i] > unknown[i]+1e-9 {
				t.Errorf("line %d over a face of %v°: %v kN, not told %v", i, deg, told[i], unknown[i])
			}
		}
	}
	none, said := peaks(jobtest.Of(0))
	if !strings.Contains(said, "let go at rest where it grows") {
		t.Errorf("no hinge: %s", said)
	}
	// Where an open face eases it, what a break does is said; where it does not, nothing is.
	open, said := peaks(jobtest.Of(75))
	if eased := none[0] > open[0] || none[1] > open[1]; eased != strings.Contains(said, "Should its hinge break at once") {
		t.Errorf("no hinge %v kN, an open face %v kN: %s", none, open, said)
	}
	if none == open {
		t.Errorf("a hinge changes nothing: %v", none)
	}
}

// The tip let out alone, the piece turns about the butt's line; by the program the words go to each
// hand. Its attitude and loads by statics at the end of the step.
func TestTheProgramOfTwoHands(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	j.Picks[0].Ends.Program = []job.EndStep{{Line: job.EndTip, ByM: 2}, {Line: job.EndButt, ByM: 1}, {Line: job.EndBoth, ByM: 20}}
	a := assess(&j, "p1")
	if said := endFault(t, &j); said != "" {
		t.Fatal(said)
	}
	e := a.Detail.Ends
	if a.Picks[0].Call != "butt: hold; tip: let out 2.00 m, then tip: hold; butt: let out 1.00 m, then both: let out 20.00 m" || len(e.Steps) != 3 || len(e.Ghosts) != 4 {
		t.Errorf("%q, %d ghosts", a.Picks[0].Call, len(e.Ghosts))
	}
	g := e.Ghosts[1] // after the tip's two metres
	if g.Step != 0 || g.Tip.Z >= g.Butt.Z || g.ButtKn <= 0 {
		t.Fatalf("%+v", g)
	}
	// Ties 4 m apart on lines of 7 and 9 m from points 4 m apart: three forces in balance where the
	// picture is, worked out from the places alone.
	ux := func(x, z, px, pz float64) (float64, float64) {
		d := math.Hypot(px-x, pz-z)
		return (px - x) / d, (pz - z) / d
	}
	ax, az := ux(g.ButtAt.X, g.ButtAt.Z, 1, 16)
	bx, bz := ux(g.TipAt.X, g.TipAt.Z, 5, 16)
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	if level, up := g.ButtKn*ax+g.TipKn*bx, g.ButtKn*az+g.TipKn*bz-w; !(math.Abs(level) <= 1e-6*w) || !(math.Abs(up) <= 1e-6*w) {
		t.Errorf("forces do not balance: %v level, %v up", level, up)
	}
	cog := a.Detail.Piece.CogM
	share := cog / 6
	x, z := g.Butt.X+share*(g.Tip.X-g.Butt.X), g.Butt.Z+share*(g.Tip.Z-g.Butt.Z)
	turn := func(px, pz, fx, fz float64) float64 { return (px-x)*fz - (pz-z)*fx }
	if sum := turn(g.ButtAt.X, g.ButtAt.Z, g.ButtKn*ax, g.ButtKn*az) + turn(g.TipAt.X, g.TipAt.Z, g.TipKn*bx, g.TipKn*bz); !(math.Abs(sum) <= 1e-4*w) {
		t.Errorf("moments do not balance: %v", sum)
	}
	// Taken in too far the two lines and the piece cannot close.
	j.Picks[0].Ends.Program = []job.EndStep{{Line: job.EndBoth, ByM: 1}}
	if said := assess(&j, "p1").Detail.Ends.Ends; !strings.Contains(said, "hangs") {
		t.Errorf("a short program: %q", said)
	}
}

// Made tight before the cut to what comes to rest on it, each line catches less hard; what stands
// beneath is struck and named; what cannot be is said in words.
func TestBothEndsAgainstBadInput(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	loose := assess(&j, "p1").Detail.Ends
	for _, end := range []*job.End{&j.Picks[0].Ends.Butt, &j.Picks[0].Ends.Tip} {
		end.SlackM = nil
	}
	j.Picks[0].Ends.Butt.TightKn, j.Picks[0].Ends.Tip.TightKn = &loose.Lines[0].RestKn, &loose.Lines[1].RestKn
	tight := assess(&j, "p1").Detail.Ends
	for i := range tight.Lines {
		if tight.Lines[i].PeakKn > 1.02*loose.Lines[i].RestKn || loose.Lines[i].PeakKn < 1.3*tight.Lines[i].PeakKn {
			t.Errorf("line %d: %v kN loose, %v made tight, %v at rest", i, loose.Lines[i].PeakKn, tight.Lines[i].PeakKn, loose.Lines[i].RestKn)
		}
	}
	j = jobtest.Carried()
	j.Site.Targets = []job.Target{{ID: "t", Name: "boathouse", Kind: "building", Box: &job.Box{Min: job.Spot{X: 3, Y: -2}, Max: job.Spot{X: 7, Y: 2}}, ToM: 4}}
	struck := false
	for _, c := range assess(&j, "p1").Detail.Clear {
		struck = struck || c.Name == "boathouse" && c.Verdict == policy.Over && c.ClearanceM <= 0.1
	}
	if !struck {
		t.Error("let straight down onto the boathouse, nothing is struck")
	}
	for says, spoil := range map[string]func(j *job.Job){
		"no further out than that at the butt": func(j *job.Job) { j.Picks[0].Ends.Tip.TieM = jobtest.Of(0.5) },
		"two lines need two":                   func(j *job.Job) { j.Rigs = j.Rigs[:1] },
		"at the tip, has no rope":              func(j *job.Job) { j.Picks[0].Ends.Tip.Rig, j.Rigs[1].Rope = "r2", nil },
		"beyond the piece's end":               func(j *job.Job) { j.Picks[0].Ends.Tip.TieM = jobtest.Of(9) },
		"a line cannot push":                   func(j *job.Job) { j.Rigs[1].Block.Place.AtM = 5 },
		"breaks before the cut":                func(j *job.Job) { j.Picks[0].Ends.Tip.TightKn = jobtest.Of(90) },
		"at the tip, is 12.00 m long":          func(j *job.Job) { j.Rigs[1].RopeLengthM = jobtest.Of(12) },
		"at step 1 of its program": func(j *job.Job) {
			j.Picks[0].Ends.Program = []job.EndStep{{Line: job.EndTip, ByM: -30}}
			j.Site.Anchors[1].At.X = 30
		},
		"the lines do not stop it": func(j *job.Job) {
			for i := range j.Rigs {
				j.Rigs[i].Catch.How, j.Rigs[i].Catch.HoldKn = job.ByHold, jobtest.Of(0.01)
			}
		},
	} {
		j := jobtest.Carried()
		spoil(&j)
		if said := endFault(t, &j); !strings.Contains(said, says) {
			t.Errorf("%s: %q", says, said)
		}
	}
	// A line let run holds at its tension and no more.
	j = jobtest.Carried()
	j.Picks[0].Ends.Tip.SlackM = jobtest.Of(1)
	j.Rigs[1].Catch.How, j.Rigs[1].Catch.HoldKn = job.ByHold, jobtest.Of(1.5)
	e := assess(&j, "p1").Detail.Ends
	if e.Lines[1].RunM <= 0 {
		t.Errorf("%+v", e.Lines[1])
	}
}

// An item on either of two lines stands once among the gear, with the end that loads it harder, and
// each line's rope is asked for its length.
func TestGearOfTwoLines(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	a := assess(&j, "p1")
	seen := map[string]int{}
	for _, g := range a.Gear {
		seen[g.Rig+" "+g.Part]++
		if strings.Contains(g.Name, ":") || g.Picks != 1 {
			t.Errorf("%+v", g)
		}
	}
	for _, rig := range []string{"butt rig", "tip rig"} {
		if seen[rig+" line"] != 1 || seen[rig+" block"] != 1 {
			t.Errorf("%s: %v", rig, seen)
		}
	}
	if len(a.Ropes) != 2 || a.Ropes[0].Rig != "butt rig" || a.Ropes[1].Rig != "tip rig" || a.Ropes[0].NeedM <= roped.SpareRope {
		t.Errorf("ropes: %+v", a.Ropes)
	}
	// On both ends of one pick the same rig is used by one pick, at its harder end.
	j.Picks[0].Ends.Tip.Rig = "r1"
	a = assess(&j, "p1")
	hardest := 0.0
	for _, r := range a.Detail.Ladder {
		if r.Part == hold.PartLine {
			hardest = max(hardest, *r.PeakKn)
		}
	}
	for _, g := range a.Gear {
		if g.Part == hold.PartLine && (g.Picks != 1 || !(math.Abs(g.PeakKn-hardest) <= 1e-9)) {
			t.Errorf("%+v, hardest %v", g, hardest)
		}
	}
}

func BenchmarkHeldAtBothEnds(b *testing.B) {
	j := jobtest.Carried()
	j.Picks[0].Ends.Program = []job.EndStep{{Line: job.EndTip, ByM: 6}, {Line: job.EndBoth, ByM: 14}}
	for b.Loop() {
		assess(&j, "p1")
	}
}
