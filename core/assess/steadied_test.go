package assess

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

func TestTwinLinesShareByHand(t *testing.T) {
	t.Parallel()
	j := jobtest.Hung(0)
	alone := assess(&j, "p1")
	d := alone.Detail
	w := d.Piece.MassKg.High * 9.80665 / 1000
	lead, long := d.Catch.LeadM, 7.2
	k := 80 / 0.1 / (long + lead) // kN/m of either line
	h := d.Catch.FallM
	for _, faster := range []float64{0, 0.1, 0.25, 0.8} {
		j.Picks[0].Twin = &job.Twin{FasterM: jobtest.Of(faster)}
		a := assess(&j, "p1")
		if len(a.Picks[0].Faults) > 0 {
			t.Fatal(a.Picks[0].Faults)
		}
		// Two springs, the second δ later: W(h + x) = ½k·x² + ½k·(x − δ)², x ≥ δ; else one alone.
		low, high := 0.0, 5.0
		for range 80 {
			x := (low + high) / 2
			if late := math.Max(0, x-faster); k*x*x/2+k*late*late/2 < w*(h+x) {
				low = x
			} else {
				high = x
			}
		}
		want := k * high
		if got := *rung(t, a, hold.PartLine).PeakKn; !(math.Abs(got-want) <= 0.01*want) {
			t.Errorf("δ %v: %v kN, by hand %v", faster, got, want)
		}
		rest := math.Min(w, (w+k*faster)/2)
		if got := rung(t, a, hold.PartLine).RestingKn; !(math.Abs(got-rest) <= 0.01*rest) {
			t.Errorf("δ %v: %v kN at rest, by hand %v", faster, got, rest)
		}
		lines, said := 0, strings.Join(a.Detail.Cautions, " ")
		for _, r := range a.Detail.Ladder {
			if r.Part == hold.PartLine {
				lines++
			}
		}
		// The limit case is the one line of before.
		if lines != 2 || !strings.Contains(said, "All of it on the first line") || !strings.Contains(said, "Twin lines: ") {
			t.Errorf("δ %v: %d lines; %s", faster, lines, said)
		}
		if got := *a.Picks[0].PeakKn; got > *alone.Picks[0].PeakKn*1.001 {
			t.Errorf("δ %v: two lines take %v, one %v", faster, got, *alone.Picks[0].PeakKn)
		}
	}
	j.Picks[0].Twin.Rig = "nowhere"
	if got := endFault(t, &j); !strings.Contains(got, `"nowhere"`) {
		t.Errorf("%q", got)
	}
	// A rig of its own, of a rope half as strong and so half as stiff: it takes a third.
	j.Picks[0].Twin = &job.Twin{Rig: "r2"}
	weak := *j.Rigs[0].Rope
	weak.BreakingKn = 40
	j.Rigs[1] = j.Rigs[0]
	j.Rigs[1].ID, j.Rigs[1].Name, j.Rigs[1].Rope = "r2", "weak rig", &weak
	a := assess(&j, "p1")
	share := []float64{}
	for _, r := range a.Detail.Ladder {
		if r.Part == hold.PartLine {
			share = append(share, r.RestingKn/w)
		}
	}
	if len(share) != 2 || !(math.Abs(share[0]-2.0/3) <= 0.01) || !(math.Abs(share[1]-1.0/3) <= 0.01) {
		t.Errorf("of a rope half as stiff: %v", share)
	}
}

// A tag line in the hand, worked as a triangle of forces where it ends up; what the block's holder and
// the hand take with it; too strong a pull.
func TestATagLineOnTheBoard(t *testing.T) {
	t.Parallel()
	j := jobtest.Hung(0)
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "lawn", Name: "lawn edge", Kind: job.AnchorGround, At: job.Spot{X: 3, Y: 25}})
	before := assess(&j, "p1")
	w := before.Detail.Piece.MassKg.High * 9.80665 / 1000
	j.Picks[0].Tag = &job.Tag{Anchor: "lawn", TieM: jobtest.Of(3), PullKn: jobtest.Of(0.24)}
	a := assess(&j, "p1")
	tag := a.Detail.Tag
	if tag == nil {
		t.Fatal(a.Picks[0].Faults)
	}
	// At its tie: the line leads as weight and pull together do.
	lead := r3.Sub(tag.Towards.Vec(), tag.At.Vec())
	pull := r3.Scale(0.24/r3.Norm(lead), lead)
	force := r3.Add(pull, r3.Vec{Z: -w})
	long := r3.Norm(r3.Sub(tag.Tie.Vec(), r3.Vec{X: 3, Z: 16}))
	aside := long * math.Hypot(force.X, force.Y) / r3.Norm(force)
	if !(math.Abs(tag.AsideM-aside) <= 1e-3) || tag.DownM <= tag.AsideM || tag.Tie.Y <= 0 {
		t.Errorf("%v m aside, by hand %v; %+v", tag.AsideM, aside, tag)
	}
	if got, want := rung(t, a, hold.PartLine).RestingKn, r3.Norm(force); !(got >= want-1e-6) || !(got <= 1.02*want) {
		t.Errorf("its line rests at %v, by hand %v", got, want)
	}
	peak := *before.Picks[0].PeakKn
	if got, want := *a.Picks[0].PeakKn, r3.Norm(r3.Add(pull, r3.Vec{Z: -peak})); !(got >= want-1e-6) || !(got <= 1.01*want) {
		t.Errorf("at its peak %v, by hand %v", got, want)
	}
	if got := a.Picks[0].Call; !strings.HasSuffix(got, "; tag: draw to lawn edge") {
		t.Errorf("called: %q", got)
	}
	hand := rung(t, a, hold.PartTag)
	if *hand.PeakKn != 0.24 || hand.Verdict == policy.NotKnown {
		t.Errorf("%+v", hand)
	}
	if held := func(a Assessment) float64 { return *rung(t, a, hold.PartHolder).PeakKn }; held(a) <= held(before) {
		t.Error("what holds the block does not feel the tag line")
	}
	// It is let down further north than under its block.
	j.Site.Targets = []job.Target{{ID: "n", Name: "glasshouse", Kind: "building", Box: &job.Box{Min: job.Spot{X: 0, Y: 4.2}, Max: job.Spot{X: 6, Y: 6}}, ToM: 3}}
	near := func(a Assessment) float64 {
		for _, c := range a.Detail.Clear {
			if c.Name == "glasshouse" {
				return c.ClearanceM
			}
		}
		return 99
	}
	with := near(assess(&j, "p1"))
	j.Picks[0].Tag.PullKn = jobtest.Of(0.05)
	if without := near(assess(&j, "p1")); with >= without {
		t.Errorf("drawn towards the glasshouse it clears %v, hardly drawn %v", with, without)
	}
	// Drawn away from what lies beside its way it clears more; by more than the hand holds, no more.
	j.Site.Targets[0].Box = &job.Box{Min: job.Spot{X: 0, Y: -1.6}, Max: job.Spot{X: 6, Y: -1}}
	plain := j.Picks[0].Tag
	j.Picks[0].Tag = nil
	straight := near(assess(&j, "p1"))
	j.Picks[0].Tag = plain
	plain.PullKn, plain.People = jobtest.Of(1.2), intOf(6)
	if away := near(assess(&j, "p1")); away < straight-1e-9 {
		t.Errorf("drawn away by six it clears %v, straight %v", away, straight)
	}
	plain.People = nil
	if alone := near(assess(&j, "p1")); alone > straight+1e-9 {
		t.Errorf("drawn away by one who cannot hold that it clears %v, straight %v", alone, straight)
	}
	j.Picks[0].Tag.PullKn = jobtest.Of(2)
	if r := rung(t, assess(&j, "p1"), hold.PartTag); r.Verdict != policy.Over {
		t.Errorf("2 kN in one hand is %s", r.Verdict)
	}
	j.Picks[0].Tag.PullKn, j.Picks[0].Tag.People = nil, intOf(3)
	if r := rung(t, assess(&j, "p1"), hold.PartTag); !(math.Abs(*r.PeakKn-*r.LimitKn) <= 1e-9) || !(math.Abs(*r.LimitKn-3**hand.LimitKn) <= 1e-9) {
		t.Errorf("three people: %+v", r)
	}
}

// A tag line that leads to nothing, from beyond the piece, or all the way to where it leads is said not to be.
func TestTagLinesThatCannotBe(t *testing.T) {
	j := jobtest.Hung(0)
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "lawn", Name: "lawn edge", Kind: job.AnchorGround, At: job.Spot{X: 3, Y: 25}})
	for _, c := range []struct {
		spoil func(*job.Tag)
		says  string
	}{
		{func(t *job.Tag) { t.Anchor = "x" }, "not on the site"},
		{func(t *job.Tag) { t.TieM = jobtest.Of(7) }, "beyond the piece's end"},
		{func(t *job.Tag) { t.Anchor, t.AnchorM, t.PullKn = "m2", jobtest.Of(16), jobtest.Of(40) }, "all the way to mast m2"},
	} {
		j.Picks[0].Tag = &job.Tag{Anchor: "lawn"}
		c.spoil(j.Picks[0].Tag)
		if got := endFault(t, &j); !strings.Contains(got, c.says) {
			t.Errorf("%q, want %q", got, c.says)
		}
	}
}

// Aim of the face, by the geometry of a level limb: to the east, its line off to the north or south.
func TestTheFaceIsAimedHalfway(t *testing.T) {
	aim := func(y float64) *course.FaceFigures {
		j := jobtest.Hung(y)
		j.Rigs[0].SlackM = jobtest.Of(0)
		j.Picks[0].Way = job.WaySwung
		a := assess(&j, "p1")
		if a.Detail.Face == nil {
			t.Fatal(a.Picks[0].Faults)
		}
		return a.Detail.Face
	}
	if f := aim(0); f.TiltDeg > 1e-6 || f.Side != "" || !strings.HasPrefix(f.Said, "Face straight down") || f.SideKnm > 1e-9 {
		t.Errorf("straight above: %+v", f)
	}
	// 4 m north: the tie goes 4 m north and as far down as the line is longer than the mast is high.
	want := math.Atan2(4, math.Hypot(4, 7)-7) * 90 / math.Pi
	north, south := aim(4), aim(-4)
	if !(math.Abs(north.TiltDeg-want) <= 1e-6) || north.Side != "left" || !(math.Abs(math.Remainder(north.BearingDeg, 360)) <= 1e-6) {
		t.Errorf("to the north: %+v, want %v°", north, want)
	}
	if !(math.Abs(south.TiltDeg-want) <= 1e-6) || south.Side != "right" || !(math.Abs(south.BearingDeg-180) <= 1e-6) {
		t.Errorf("to the south: %+v", south)
	}
	// Gravity off the way it looks: W·lever·sin τ; the limb has its balance where its sum says.
	j := jobtest.Hung(4)
	d := assess(&j, "p1").Detail
	w := d.Piece.MassKg.High * 9.80665 / 1000
	gravity := w * d.Piece.CogM * math.Sin(north.TiltDeg*math.Pi/180)
	// The line pulls up and to the north with as much, at 3 m.
	sin, cos := math.Sincos(north.TiltDeg * math.Pi / 180)
	long := math.Hypot(4, 7)
	pulled := w * 3 * math.Abs(4/long*cos+7/long*sin)
	if got := north.SideKnm; !(math.Abs(got-math.Max(gravity, pulled)) <= 1e-6) {
		t.Errorf("sideways %v kN·m, by hand %v and %v", got, gravity, pulled)
	}
	if north.SideUsePct == nil || len(north.Working) < 4 {
		t.Errorf("%+v", north)
	}
}

// Rope round a ring aloft, in the hand: what reaches it by the capstan equation, and nothing of a
// device.
func TestFrictionAloftInTheHand(t *testing.T) {
	j := jobtest.Stem()
	r := &j.Rigs[0]
	r.Block.Friction, r.Block.Turns, r.Device = jobtest.Of(0.25), jobtest.Of(1), job.Device{None: true}
	a := assess(&j, "p1")
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	// From the piece up to the ring and down the stem again: half a turn and the one round it.
	// A quarter less friction than given is left for.
	want := w * math.Exp(-0.75*0.25*3*math.Pi)
	hand := rung(t, a, hold.PartHand)
	if !(math.Abs(hand.RestingKn-want) <= 1e-6*want) {
		t.Errorf("the hand holds %v kN at rest, by the capstan %v", hand.RestingKn, want)
	}
	for _, r := range a.Detail.Ladder {
		if r.Part == hold.PartDevice {
			t.Error("there is no device, and it has a rung")
		}
	}
	r.Block.Friction, r.Block.Turns = jobtest.Of(0.1), nil
	if hand = rung(t, assess(&j, "p1"), hold.PartHand); hand.Verdict != policy.NotHeld {
		t.Errorf("nearly all of it in the hand is %s", hand.Verdict)
	}
	r.Block.Friction, r.Block.Turns = jobtest.Of(0.25), jobtest.Of(1)
	r.Block.Efficiency = jobtest.Of(0.9)
	if f := j.Faults(); len(f) != 1 || f[0].Location != "body.rigs[0].block.efficiency" {
		t.Error(f)
	}
	r.Block.Efficiency, r.Block.Friction = nil, nil
	if f := j.Faults(); len(f) != 1 || f[0].Location != "body.rigs[0].block.turns" {
		t.Error(f)
	}
}

// A tag line pulls on twin lines too: the peak of either is never less than without it; and it is made
// fast as high as a low place is, where nobody has said how high.
func TestATagLineBesideTwins(t *testing.T) {
	t.Parallel()
	j := jobtest.Hung(0)
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "peg", Name: "peg", Kind: job.AnchorGround, At: job.Spot{X: 3, Y: 20}, HeightM: jobtest.Of(0.1)})
	j.Picks[0].Twin = &job.Twin{}
	without := *assess(&j, "p1").Picks[0].PeakKn
	j.Picks[0].Tag = &job.Tag{Anchor: "peg", TieM: jobtest.Of(3), PullKn: jobtest.Of(0.4)}
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 || a.Detail.Tag.Towards.Z != 0.1 {
		t.Fatal(a.Picks[0].Faults)
	}
	// Nearly level, all of it on one of them.
	if got, least := *a.Picks[0].PeakKn, math.Hypot(without, 0.3); got < least {
		t.Errorf("%v kN with it, %v without", got, without)
	}
}

// Of a limb on two lines, the line at the tip loads the hinge as well: drawn to the side it is the more.
func TestTheFaceKnowsBothLines(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	straight := assess(&j, "p1").Detail.Face
	j.Site.Anchors[1].At.Y = 5
	aside := assess(&j, "p1").Detail.Face
	if straight == nil || aside == nil || aside.SideKnm < straight.SideKnm+1 {
		t.Errorf("straight %+v, its tip line from the side %+v", straight, aside)
	}
}

// What brushes says how fast: a limb that swings down has the speed of its arc at the least, and what its turning adds.
func TestWhatBrushesSaysHowFast(t *testing.T) {
	j := jobtest.Swinging()
	d := assess(&j, "p").Detail
	said, speed := "", 0.0
	for _, c := range d.Cautions {
		if _, after, is := strings.Cut(c, "It brushes low limb at up to "); is {
			said = c
			if _, err := fmt.Sscanf(after, "%f m/s", &speed); err != nil {
				t.Fatal(err)
			}
		}
	}
	if said == "" || speed < d.Arc.SpeedMS-0.05 || speed > 1.3*d.Arc.SpeedMS {
		t.Errorf("%q, its arc %v m/s", said, d.Arc.SpeedMS)
	}
}
