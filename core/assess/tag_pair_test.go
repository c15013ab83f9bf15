package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// tagOn puts a tag line at the balance of the piece carried at both ends, to a place square to the
// plane of its lines.
func tagOn(j *job.Job, pull float64) (cog float64) {
	before := assess(j, "p1")
	cog = before.Detail.Piece.CogM
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "lawn", Name: "lawn edge", Kind: job.AnchorGround, At: job.Spot{X: cog, Y: 30}})
	j.Picks[0].Tag = &job.Tag{Anchor: "lawn", TieM: jobtest.Of(cog), PullKn: jobtest.Of(pull)}
	return cog
}

// Drawn square to the plane of two upright lines at its balance, the piece hangs as a pendulum does:
// its lines, as long as they are, lead along the sum of weight and pull, and share it by moments as
// they did undrawn.
func TestATagLineBesideTwoLines(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	undrawn := assess(&j, "p1")
	const pull = 0.2
	cog := tagOn(&j, pull)
	a := assess(&j, "p1")
	if said := endFault(t, &j); said != "" {
		t.Fatal(said)
	}
	tag := a.Detail.Tag
	if tag == nil {
		t.Fatal("no tag line")
	}
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	// Where it is tied, from there to the lawn's edge at 0.3 m: the direction of the pull.
	at := tag.At
	far := math.Sqrt((30-at.Y)*(30-at.Y) + (0.3-at.Z)*(0.3-at.Z) + (cog-at.X)*(cog-at.X))
	across, down := pull*(30-at.Y)/far, w+pull*(at.Z-0.3)/far
	if off := 16 - at.Z; !(math.Abs(at.Y/off-across/down) <= 1e-3) {
		t.Errorf("it hangs %v aside and %v down, its forces %v and %v", at.Y, off, across, down)
	}
	if !(math.Abs(tag.AsideM-at.Y) <= 0.02) {
		t.Errorf("said to be drawn %v m aside, it is %v", tag.AsideM, at.Y)
	}
	// Let down it is drawn further, and its lines carry the sum shared by moments about the ties.
	if tag.DownM < 1.5*tag.AsideM {
		t.Errorf("at the end of its way %v m aside, at its beginning %v", tag.DownM, tag.AsideM)
	}
	sum := math.Hypot(across, down)
	for i, share := range []float64{(5 - cog) / 4, (cog - 1) / 4} {
		if got := a.Detail.Ends.Lines[i].RestKn; got < sum*share-1e-3 || got > (w+pull)*share+0.01 {
			t.Errorf("line %d: %v kN at rest, by hand %v", i, got, sum*share)
		}
		if a.Detail.Ends.Lines[i].PeakKn < undrawn.Detail.Ends.Lines[i].PeakKn {
			t.Errorf("line %d peaks at %v kN, undrawn at %v", i, a.Detail.Ends.Lines[i].PeakKn, undrawn.Detail.Ends.Lines[i].PeakKn)
		}
	}
	hand := rung(t, a, hold.PartTag)
	if *hand.PeakKn != pull || !strings.Contains(a.Picks[0].Call, "tag: draw to lawn edge") {
		t.Errorf("%v %q", hand.PeakKn, a.Picks[0].Call)
	}
	if said := strings.Join(a.Detail.Cautions, " "); !strings.Contains(said, "swings back") || strings.Contains(said, "not in the figures") {
		t.Error(said)
	}
	if len(hand.Working) < 4 {
		t.Errorf("its working: %+v", hand.Working)
	}
}

// What stands where an undrawn piece would come down is cleared by drawing it aside with what its
// people hold; what stands on the other side is named, for when it is let go.
func TestADrawnPieceClearsAndSwingsBack(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	j.Picks[0].Ends.FaceDeg = jobtest.Of(0)
	// A shed low beneath the lines: 5 m wide to the south of them, its wall 0.2 m north.
	j.Site.Targets = []job.Target{{ID: "s", Name: "shed", Kind: "building", Box: &job.Box{Min: job.Spot{X: 0, Y: -5}, Max: job.Spot{X: 6, Y: 0.2}}, ToM: 2.5}}
	if got := assess(&j, "p1"); got.Picks[0].Verdict != policy.Over {
		t.Fatalf("let down onto a shed: %v", got.Picks[0].Verdict)
	}
	tagOn(&j, 0.35)
	people := 3
	j.Picks[0].Tag.People = &people
	got := assess(&j, "p1")
	for _, c := range got.Detail.Clear {
		if c.Name == "shed" && c.Verdict == policy.Over {
			t.Errorf("drawn aside from the shed: %+v, drawn %+v", c, got.Detail.Tag)
		}
	}
	if said := strings.Join(got.Detail.Cautions, " "); !strings.Contains(said, "strikes shed") {
		t.Errorf("let go: %s", said)
	}
	// What stands beyond the plumb, on the other side alone, is met there.
	j.Site.Targets[0].Box.Max.Y, j.Site.Targets[0].Box.Min.Y = -3.5, -8
	got = assess(&j, "p1")
	if said := strings.Join(got.Detail.Cautions, " "); !strings.Contains(said, "other side, and strikes shed") || got.Picks[0].Verdict == policy.Over {
		t.Errorf("a shed on the other side: %v, %s", got.Picks[0].Verdict, said)
	}
	j.Site.Targets[0].Box.Max.Y, j.Site.Targets[0].Box.Min.Y = 0.2, -5
	// More than its people hold: it is swept as if it were not drawn, too.
	one := 1
	j.Picks[0].Tag.People = &one
	j.Picks[0].Tag.PullKn = jobtest.Of(0.9)
	if got := assess(&j, "p1"); got.Picks[0].Verdict != policy.Over {
		t.Errorf("drawn with more than one person holds: %v", got.Picks[0].Verdict)
	}
	// Bad places.
	j.Picks[0].Tag.TieM = jobtest.Of(40)
	if said := endFault(t, &j); !strings.Contains(said, "beyond the piece's end") {
		t.Errorf("tied beyond its end: %q", said)
	}
	j.Picks[0].Tag.TieM, j.Picks[0].Tag.Anchor = nil, "nowhere"
	if said := endFault(t, &j); !strings.Contains(said, "tag line leads to a place") {
		t.Errorf("led to nowhere: %q", said)
	}
}

// When one of two lines is let go the piece swings on the other: from α off the plumb it pulls with
// W·(3 − 2·cos α) at the bottom, and comes as low as its line is long; what it meets is named.
func TestEitherOfTwoLinesLetGo(t *testing.T) {
	j := jobtest.Carried()
	j.Rigs[0].Second = &job.SecondLine{Name: "second", Place: job.Place{On: job.OnAnchor, Anchor: "m2", AtM: 16}}
	j.Site.Anchors[1].At.X = 13
	j.Picks[0].Way, j.Picks[0].Ends = job.WayTwoPoints, nil
	j.Picks[0].TieM, j.Picks[0].CarryM = jobtest.Of(3), jobtest.Of(10)
	a := assess(&j, "p1")
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	// From under the one point it is 12 m along and 6 m beneath the other.
	alpha := math.Atan2(12, 6)
	want := units.Print(units.Force, units.Metric, w*(3-2*math.Cos(alpha)))
	said := strings.Join(a.Detail.Cautions, "\n")
	for _, part := range []string{"When the second line is let go, it swings on the first: up to " + want, "When the first line is let go, it swings on the second: up to " + want, "locked off; it strikes the ground"} {
		if !strings.Contains(said, part) {
			t.Errorf("%q is not in %s", part, said)
		}
	}
	// On the other side of the first point, as far out as it swings from half way, stands a shed.
	j.Site.Targets = []job.Target{{ID: "s", Name: "shed", Kind: "building", Box: &job.Box{Min: job.Spot{X: -8, Y: -2}, Max: job.Spot{X: -4, Y: 2}}, ToM: 9.5}}
	a = assess(&j, "p1")
	if said := strings.Join(a.Detail.Cautions, "\n"); !strings.Contains(said, "on the first: up to "+want) || strings.Count(said, "it strikes shed") != 1 {
		t.Errorf("beside a shed: %s", said)
	}
	if a.Picks[0].Verdict == policy.Over {
		t.Errorf("what is let go is no verdict: %+v", a.Detail.Clear)
	}
}
