package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// across is a limb carried between two masts as high as each other, the second line of a rig of its own: over a block of 0.9 straight down to
// two turns on a bollard at the foot of its mast.
func across() job.Job {
	j := jobtest.Carried()
	j.Site.Anchors[1].At.X = 13
	j.Rigs[0].Second = &job.SecondLine{Place: *j.Rigs[1].Block.Place, Rig: "r2"}
	j.Rigs[1].Name, j.Rigs[1].Block.Efficiency = "far rig", jobtest.Of(0.9)
	j.Rigs[1].Device.Name, j.Rigs[1].Device.Place, j.Rigs[1].Device.Wraps, j.Rigs[1].Device.Friction = "far bollard", &job.Place{On: job.OnAnchor, Anchor: "m2", AtM: 1}, jobtest.Of(2), jobtest.Of(0.2)
	j.Rigs[1].Catch = job.Catch{How: job.ByWraps, HandKn: jobtest.Of(0.3)}
	j.Picks[0].Way, j.Picks[0].Ends, j.Picks[0].CarryM, j.Picks[0].TieM = job.WayTwoPoints, nil, jobtest.Of(8), nil
	return j
}

// onSecond is the rung of a part of the second line.
func onSecond(t *testing.T, a Assessment, part string) Rung {
	t.Helper()
	last := -1
	for i, l := range a.Detail.Ladder {
		if l.Part == part {
			last = i
			if part == hold.PartHand || part == hold.PartDevice || part == hold.PartSling {
				// Those of the second come before the first's.
				if part == hold.PartSling && i > 0 && a.Detail.Ladder[i-1].Part != hold.PartFar {
					continue
				}
				return l
			}
		}
	}
	if last < 0 {
		t.Fatalf("no %s of the second line", part)
	}
	return a.Detail.Ladder[last]
}

// The second of two lines is judged as its rig has it: hauled in its block has line and lead, its device as much more as the block takes; its
// hand holds what two turns of as little friction as there may be leave of it.
func TestTheSecondLineIsThatOfItsRig(t *testing.T) {
	j := across()
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	most, far := 0.0, 0.0
	// Two points 12 m apart, the tie 8 m beneath both: three forces in a plane.
	w := a.Detail.Piece.MassKg.High * g / 1000
	for k := range 20001 {
		x := 12 * float64(k) / 20000
		alpha, beta := math.Atan2(8, x), math.Atan2(8, 12-x)
		b := w * math.Cos(alpha) / math.Sin(alpha+beta)
		most, far = math.Max(most, b), math.Max(far, b*math.Hypot(math.Cos(beta), math.Sin(beta)+1/0.9))
	}
	line := *onSecond(t, a, hold.PartSecond).PeakKn
	if got := onSecond(t, a, hold.PartSecond).RestingKn; !(math.Abs(got-most) <= 5e-3*most) {
		t.Errorf("the second line hanging %v, by hand %v", got, most)
	}
	if line < most {
		t.Errorf("the second line peaks at %v, on the way across %v", line, most)
	}
	if got := onSecond(t, a, hold.PartFar); !(math.Abs(got.RestingKn-far) <= 5e-3*far) || *got.PeakKn < got.RestingKn {
		t.Errorf("its block has %v at %v, hauled in by hand %v", got.RestingKn, *got.PeakKn, far)
	}
	jobtest.Near(t, "its block's sling", *onSecond(t, a, hold.PartSling).PeakKn, *onSecond(t, a, hold.PartFar).PeakKn)
	if got, want := *onSecond(t, a, hold.PartDevice).PeakKn, math.Max(most/0.9, line*0.9); !(math.Abs(got-want) <= 5e-3*want) {
		t.Errorf("its device has %v, by hand %v", got, want)
	}
	jobtest.Near(t, "its hand", *onSecond(t, a, hold.PartHand).PeakKn, line*0.9*math.Exp(-2*math.Pi*0.2*0.75*2))
	// A winch hauls it as well.
	j.Rigs[1].Hands = job.Hands{By: "winch", Name: "capstan"}
	if got := *onSecond(t, assess(&j, "p1"), hold.PartHand).PeakKn; got < most/0.9*0.995 {
		t.Errorf("its winch pulls %v, hauling takes %v", got, most/0.9)
	}
	// A bollard further off leads its line aside: its block has less of both than straight down.
	j = across()
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "b", Name: "beyond", Kind: job.AnchorGround, At: job.Spot{X: 40}})
	j.Rigs[1].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "b", AtM: 0.3}
	if got := *onSecond(t, assess(&j, "p1"), hold.PartFar).PeakKn; got >= *onSecond(t, a, hold.PartFar).PeakKn {
		t.Errorf("led on beyond, its block has %v of %v", got, *onSecond(t, a, hold.PartFar).PeakKn)
	}
	// What its bollard is made fast to holds it, hauled in: B over 0.9, of less than half a turn a little less; and past a turn of 0.9 at the
	// foot of the mast over both, with line and lead nearly square to each other on that.
	holder := func() (kn float64) {
		for _, l := range assess(&j, "p1").Detail.Ladder {
			if l.Part == hold.PartHolder && l.Name == "beyond" {
				kn = *l.PeakKn
			}
		}
		return kn
	}
	if got := holder(); got < most/0.9*0.97 {
		t.Errorf("its bollard's anchor holds %v, hauled in %v", got, most/0.9)
	}
	j.Rigs[1].Redirects = []job.Redirect{{Name: "foot block", Efficiency: jobtest.Of(0.9), Place: job.Place{On: job.OnAnchor, Anchor: "m2", AtM: 1}}}
	if got := holder(); got < most/0.81*0.95 {
		t.Errorf("past a turn its anchor holds %v, hauled in %v", got, most/0.81)
	}
	if got := *onSecond(t, assess(&j, "p1"), hold.PartRedirect).PeakKn; got < most*math.Hypot(1/0.9, 1/0.81)*0.95 {
		t.Errorf("its turn has %v, hauled in by hand %v", got, most*math.Hypot(1/0.9, 1/0.81))
	}
	// Its rope reaches across and down.
	j = across()
	j.Rigs[1].RopeLengthM = jobtest.Of(20)
	if got := codes(assess(&j, "p1").Picks[0]); len(got) != 1 || got[0] != course.FaultReach {
		t.Errorf("a rope of 20 m for 15 m of mast and 12 across: %v", got)
	}
	j.Rigs[0].Second.Rig = "gone"
	if got := codes(assess(&j, "p1").Picks[0]); len(got) == 0 || got[0] != course.FaultRig {
		t.Errorf("a rig that is not there: %v", got)
	}
	// Nobody has said what holds it.
	j = across()
	j.Rigs[0].Second.Rig = ""
	if l := onSecond(t, assess(&j, "p1"), hold.PartHand); l.Verdict != policy.NotKnown || !strings.Contains(l.Reason+strings.Join(l.Cautions, " "), "nobody has said") {
		t.Errorf("held by nobody: %+v", l)
	}
}
