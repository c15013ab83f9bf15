package assess

import (
	"fmt"
	"math"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// Two lines that pull share the need as they can give, each by its own arm; a winch, hands and a
// vehicle give what they give.
func TestLinesShareAPull(t *testing.T) {
	j := jobtest.Poled()
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "v", Name: "tractor", Kind: job.AnchorVehicle, At: job.Spot{X: 22, Y: 6}, MassKg: jobtest.Of(3000)})
	j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines, job.FellLine{ID: "l2", AtM: 10, Anchor: "v", By: job.EffortVehicle})
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	f := a.Detail.Fell
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	need := 1.3 * (f.Hinge.BendingKnm - w*f.ForwardM)
	one, two := a.Detail.Pulls[0], a.Detail.Pulls[1]
	// Of 3,000 kg half is braked and grips 0.35; the line leads up to the tree and lifts it. The first gives 2·2.71.
	up := math.Atan2(10-0.3, math.Hypot(22, 6))
	g1, g2 := 2*2.71, 3*9.80665*0.35*0.5/(math.Cos(up)+0.35*math.Sin(up))
	jobtest.Nearly(t, "winch", *one.GivesKn, g1)
	jobtest.Nearly(t, "grip", *two.GivesKn, g2)
	jobtest.Nearly(t, "shared as they give", one.NeedKn/two.NeedKn, g1/g2)
	arm := func(p course.PullLine) float64 {
		from, to := p.Points[0], p.Points[len(p.Points)-1]
		hinge := f.Hinge.AheadOfCentreM
		x, y, z := to.X-from.X, to.Y-from.Y, to.Z-from.Z
		return ((from.Z-0.5)*x - (from.X-hinge)*z) / math.Sqrt(x*x+y*y+z*z)
	}
	jobtest.Nearly(t, "moments about the hinge", one.NeedKn*arm(one)+two.NeedKn*arm(two), need)

	// Hands: three of them, each what the crew's rule lets one hold.
	j = jobtest.Poled()
	l := &j.Picks[0].Fell.Lines[0]
	l.EffortKn, l.By, l.People, j.Limits.HandKn = nil, job.EffortHands, intOf(3), jobtest.Of(0.3)
	jobtest.Nearly(t, "hands", *assess(&j, "p1").Detail.Pulls[0].GivesKn, 3*0.3*2.71)
	// A vehicle of no weight, and a winch nobody has read, are not known.
	l.By = job.EffortVehicle
	if got := rung(t, assess(&j, "p1"), hold.PartPull); got.LimitKn != nil || got.Verdict != policy.NotKnown {
		t.Errorf("pulled by what nobody knows: %+v", got)
	}
}

// A line led square over a pulley: the pulley holds both its legs, the anchor the higher of them,
// and less of the effort reaches the tree.
func TestALineOverAPulley(t *testing.T) {
	j := jobtest.Poled()
	j.Site.Anchors[0].At, j.Site.Anchors[0].HeightM = job.Spot{X: 30}, jobtest.Of(0.5)
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "side", Name: "winch post", Kind: job.AnchorGround, At: job.Spot{X: 30, Y: 20}, Rating: gear.Rating{MarkedKn: jobtest.Of(40)}})
	l := &j.Picks[0].Fell.Lines[0]
	l.Anchor, l.Parts, l.EffortKn = "side", intOf(1), jobtest.Of(12)
	l.Redirects = []job.Redirect{{Name: "pulley at the stump", Place: job.Place{On: job.OnAnchor, Anchor: "e", AtM: 0.3}, Efficiency: jobtest.Of(0.9), Rating: gear.Rating{MarkedKn: jobtest.Of(35)}}}
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	// From 12 m up, straight to the pulley 30 m out, square to the post: both legs by their vectors.
	long := math.Hypot(30, 11.7)
	contact := math.Pi / 2 // the line comes level with x and down, and leaves level along y
	ratio := 1 - 0.1*math.Sin(contact/2)
	got := a.Detail.Pulls[0]
	jobtest.Nearly(t, "what reaches the tree", *got.GivesKn, 12*ratio)
	most := math.Max(got.NeedKn/ratio, 12)
	jobtest.Nearly(t, "behind the pulley", got.LegKn[1], most)
	x, y, z := most*ratio*30/long, most, most*ratio*11.7/long
	jobtest.Nearly(t, "on the pulley", *rung(t, a, hold.PartRedirect).PeakKn, math.Sqrt(x*x+y*y+z*z))
	jobtest.Nearly(t, "its limit", *rung(t, a, hold.PartRedirect).LimitKn, 35)
	// What the pulley sits on, then what the line ends at.
	var holders []float64
	for _, one := range a.Detail.Ladder {
		if one.Part == hold.PartHolder {
			holders = append(holders, *one.PeakKn)
		}
	}
	if len(holders) != 2 {
		t.Fatalf("held by %v", holders)
	}
	jobtest.Nearly(t, "on the stump", holders[0], math.Sqrt(x*x+y*y+z*z))
	jobtest.Nearly(t, "on the post", holders[1], most)
	// A line that holds is not helped by what turns it.
	l.Holds, l.Anchor = true, "side"
	l.Redirects[0].Place = job.Place{On: job.OnAnchor, Anchor: "side", AtM: 0.3}
	l.Anchor = "e"
	j.Picks[0].Fell.Wedged, j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = true, jobtest.Of(3), jobtest.Of(180)
	held := assess(&j, "p1").Detail.Pulls[0]
	if held.NeedKn <= 0 || held.LegKn[0] != held.LegKn[1] || !(math.Abs(*held.GivesKn-12) <= 1e-9) {
		t.Errorf("held: %+v", held)
	}
}

// Of two lines that hold only the one against which the tree would go is loaded.
func TestTheLineAgainstTheLeanHolds(t *testing.T) {
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(180)
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "north", Kind: job.AnchorGround, At: job.Spot{Y: 18}}, job.Anchor{ID: "s", Name: "south", Kind: job.AnchorGround, At: job.Spot{Y: -18}})
	j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines,
		job.FellLine{ID: "n", Holds: true, AtM: 12, Anchor: "n"}, job.FellLine{ID: "s", Holds: true, AtM: 12, Anchor: "s"})
	pulls := assess(&j, "p1").Detail.Pulls
	if pulls[1].NeedKn <= 0 || pulls[2].NeedKn != 0 {
		t.Errorf("north holds %v kN, south %v", pulls[1].NeedKn, pulls[2].NeedKn)
	}
	// Its anchors stand square to the fall, in line with the hinge but for 0.2 m: they keep nearly still.
	if !strings.Contains(pulls[1].Said, "changes by less than") && !strings.Contains(pulls[1].Said, "let out or take in") {
		t.Errorf("%q", pulls[1].Said)
	}
	j.Picks[0].Fell.Lines[1].Anchor = "e"
	if faults := assess(&j, "p1").Picks[0].Faults; len(faults) != 1 || !strings.Contains(faults[0].Message, "holds nothing sideways") {
		t.Errorf("a holding line along the fall: %v", faults)
	}
}

// How far a pull follows, by the rope's table and the line's own way, worked by hand.
func TestHowFarAPullFollows(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	j.Rigs[0].Rope.Elongation = []gear.Stretch{{LoadPct: 100, StrainPct: 10}}
	j.Rigs[0].Rope.DynamicFactor = 0
	l := &j.Picks[0].Fell.Lines[0]
	l.PretensionKn = 5
	a := assess(&j, "p1")
	long := math.Hypot(25, 11.7)
	stretch := long * 5 / j.Rigs[0].Rope.BreakingKn * 0.1
	f := a.Detail.Fell
	// The line shortens with the tilt about the hinge; where by its stretch, it is used up.
	at := func(tilt float64) float64 {
		x, z := -f.Hinge.AheadOfCentreM, 11.5
		sin, cos := math.Sincos(tilt)
		return math.Hypot(25-f.Hinge.AheadOfCentreM-(x*cos+z*sin), -0.2-(z*cos-x*sin))
	}
	spent := 0.0
	for at(0)-at(spent) < stretch {
		spent += 1e-6
	}
	light := a.Detail.Piece.MassKg.Low * 9.80665 / 1000
	alone := 0.0
	for light*(f.ForwardM*math.Cos(alone)+f.HeightM*math.Sin(alone)) < f.Hinge.BendingKnm {
		alone += 1e-6
	}
	said := a.Detail.Pulls[0].Said
	deg := func(rad float64) string { return fmt.Sprintf("%.1f°", rad*180/math.Pi) }
	if spent >= alone {
		t.Fatalf("no attack: used up at %v, alone from %v", spent, alone)
	}
	for _, part := range []string{"Made tight with 5.0 kN", "used up at " + deg(spent), "needs it to " + deg(alone), "at the effort"} {
		if !strings.Contains(said, part) {
			t.Errorf("%q does not say %q", said, part)
		}
	}
	j.Rigs[0].RopeLengthM = jobtest.Of(20)
	if faults := assess(&j, "p1").Picks[0].Faults; len(faults) != 1 || !strings.Contains(faults[0].Message, "is 20.00 m long") {
		t.Errorf("a rope too short: %v", faults)
	}
}

// Who stands inside the fall, in a line's path or in its bight is named.
func TestWhoStandsWhereALineCanCome(t *testing.T) {
	j := jobtest.Poled()
	j.Site.Anchors[0].At = job.Spot{X: 30}
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "side", Name: "winch post", Kind: job.AnchorGround, At: job.Spot{X: 30, Y: 20}})
	l := &j.Picks[0].Fell.Lines[0]
	l.Anchor, l.By = "side", job.EffortWinch
	l.Redirects = []job.Redirect{{Name: "pulley", Place: job.Place{On: job.OnAnchor, Anchor: "e", AtM: 0.3}}}
	stands := func(x, y float64) string {
		j.Site.Posts = []job.Post{{ID: "g", Role: "ground lead", At: job.Spot{X: x, Y: y}}}
		return strings.Join(assess(&j, "p1").Detail.Cautions, " ")
	}
	for _, one := range []struct {
		x, y float64
		says string
	}{{14, 0.5, "ground lead stands inside the fall"}, {26, 4, "ground lead stands in the bight"}, {31, 10, "ground lead stands in the path"}, {-15, -12, ""}} {
		said := stands(one.x, one.y)
		if one.says != "" && !strings.Contains(said, one.says) || one.says == "" && strings.Contains(said, "ground lead") {
			t.Errorf("at %g, %g: %s", one.x, one.y, said)
		}
	}
	j = jobtest.Poled()
	j.Site.Anchors[0].At, j.Picks[0].Fell.Lines[0].By = job.Spot{X: 14}, job.EffortWinch
	if faults := assess(&j, "p1").Picks[0].Faults; len(faults) != 1 || !strings.Contains(faults[0].Message, "stands inside the fall") {
		t.Errorf("a winch inside the fall: %v", faults)
	}
}

// Where a tree balances, and how far off that its limbs' range may put it, by hand; the pull takes
// the worse of it.
func TestTheBalanceOfAWholeTree(t *testing.T) {
	j := jobtest.Poled()
	j.Trees[0].Limbs = []job.Limb{{ID: "a", AtM: 9, AzimuthDeg: 270, AngleDeg: 60, DiameterM: 0.15, LengthM: 5}}
	a := assess(&j, "p1")
	limb := a.Trees[0].Shape.Limbs[0]
	b := a.Detail.Balance
	if b == nil || b.WithinM <= 0 || b.AzimuthDeg < 269 || b.AzimuthDeg > 271 {
		t.Fatalf("%+v", b)
	}
	// One limb and an upright pole on its axis: moments about the foot put the balance where
	// mass times how far out the limb balances says; the limb's own place follows from that.
	out := b.OffM * b.MassKg.Likely / limb.MassKg.Likely
	more := (limb.MassKg.High - limb.MassKg.Low) / 2
	within := more / (b.MassKg.Likely + more) * (out - b.OffM)
	jobtest.Nearly(t, "within", b.WithinM, within)
	jobtest.Nearly(t, "moment", b.MomentKnm, b.MassKg.High*9.80665/1000*b.OffM)
	f := a.Detail.Fell
	jobtest.Nearly(t, "behind the hinge", f.ForwardM, -b.OffM-f.Hinge.AheadOfCentreM)
	w := b.MassKg.High * 9.80665 / 1000
	x, z := 25.0, 0.3-12
	arm := (11.5*x + f.Hinge.AheadOfCentreM*z) / math.Hypot(x, z)
	jobtest.Nearly(t, "pull", a.Detail.Pulls[0].NeedKn, 1.3*(f.Hinge.BendingKnm-w*(f.ForwardM-within))/arm)
	// Of a tree that is not felled it is that of all that stands.
	j.Picks = append([]job.Pick{{ID: "p0", What: job.WhatLimb, Limb: "a", Way: job.WayFree}}, j.Picks...)
	if whole := assess(&j, "p0").Detail.Balance; whole == nil || whole.MassKg.Likely < b.MassKg.Likely {
		t.Errorf("what stands: %+v", whole)
	}
	if pole := assess(&j, "p1").Detail.Balance; pole.OffM > 1e-6 || pole.WithinM != 0 {
		t.Errorf("its limb off: %+v", pole)
	}
}

// What to cut, in order, and what else would bring it over.
func TestTheCutInSteps(t *testing.T) {
	j := jobtest.Poled()
	f := j.Picks[0].Fell
	f.FaceDepthM, f.LeftM, f.RightM, f.BoredM, f.StrapM, f.OpeningDeg = jobtest.Of(0.2), jobtest.Of(0.07), jobtest.Of(0.09), jobtest.Of(0.1), jobtest.Of(0.05), jobtest.Of(45)
	f.UpsideDown, f.Wedged = true, true
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{X: 20, Y: 3}})
	d := assess(&j, "p1").Detail
	said := strings.Join(d.Fell.Steps, "\n")
	for _, part := range []string{"make it tight with", "20.0 cm deep, open 45°, 20.0 cm at the bark", "beneath it", "looks to E (90°)", "Bore the middle of the hinge, 10.0 cm", "7.0 cm at its left and 9.0 cm at its right", "strap of 5.0 cm", "Wedges in", "Let the strap go last"} {
		if !strings.Contains(said, part) {
			t.Errorf("%q is not in\n%s", part, said)
		}
	}
	warned := strings.Join(d.Cautions, " ")
	for _, part := range []string{"closes at 45°", "upside down", "strap of"} {
		if !strings.Contains(warned, part) {
			t.Errorf("%q is not in %s", part, warned)
		}
	}
	if len(d.Fell.Plans) != 2 || d.Fell.Plans[0].Title != "Wedges" || d.Fell.Plans[1].Title != "A line to gatepost" {
		t.Errorf("%+v", d.Fell.Plans)
	}
	// Wedges: the moment that is needed, over the length of the back cut.
	w := d.Piece.MassKg.High * 9.80665 / 1000
	force := 1.3 * (d.Fell.Hinge.BendingKnm - w*d.Fell.ForwardM) / d.Fell.Hinge.BackCutM
	if !strings.HasPrefix(d.Fell.Plans[0].Said, fmt.Sprintf("%.1f kN", force)) && !strings.HasPrefix(d.Fell.Plans[0].Said, fmt.Sprintf("%.0f kN", force)) {
		t.Errorf("wedges of %v kN: %s", force, d.Fell.Plans[0].Said)
	}
}

// What other hinges for the same stump cost, by rectangles: bored through a third it keeps two
// thirds of what bends it and all but a twenty-seventh of what it holds sideways; nicked, the width
// that is left counts once and twice over.
func TestWhatOtherHingesCost(t *testing.T) {
	j := jobtest.Poled()
	d := assess(&j, "p1").Detail
	chord := d.Fell.Hinge.ChordM
	left := (chord - 0.06) / chord
	for _, want := range []string{
		"Bored through a third: takes 33 % less to bend and holds 4 % less sideways",
		fmt.Sprintf("Nicked 3.0 cm at both ends: takes %.0f %% less to bend and holds %.0f %% less sideways", 100*(1-left), 100*(1-left*left)),
		"A narrow face of 45°", "A face upside down", "Tapered, thick at its left",
	} {
		found := false
		for _, one := range d.Fell.Schools {
			found = found || strings.HasPrefix(one.Title+": "+one.Said, want)
		}
		if !found {
			t.Errorf("%q is not in %+v", want, d.Fell.Schools)
		}
	}
	f := j.Picks[0].Fell
	f.BoredM, f.NicksM, f.OpeningDeg, f.UpsideDown, f.LeftM = jobtest.Of(0.1), jobtest.Of(0.02), jobtest.Of(45), true, jobtest.Of(0.06)
	if schools := assess(&j, "p1").Detail.Fell.Schools; len(schools) != 1 || schools[0].Title != "An open face of 70°" {
		t.Errorf("all of it is cut so already: %+v", schools)
	}
}

// What a fall strikes is named from the stump on, whatever the order of the survey.
func TestWhatAFallStrikesInOrder(t *testing.T) {
	j := jobtest.Poled()
	box := func(id, name string, x float64) job.Target {
		return job.Target{ID: id, Name: name, Kind: "building", Box: &job.Box{Min: job.Spot{X: x, Y: -1}, Max: job.Spot{X: x + 2, Y: 1}}, ToM: 3}
	}
	j.Site.Targets = []job.Target{box("a", "far shed", 13), box("b", "near shed", 4), box("c", "shed between", 9)}
	l := assess(&j, "p1").Detail.Landing
	if l.Reason != "it may come down on near shed, then shed between, then far shed" || l.Verdict != policy.Over {
		t.Errorf("%q, %v", l.Reason, l.Hits)
	}
}

// Limbs all on one side may all be heavier at once: the balance may be off by the sum of what each
// moves it; on opposite sides they make up for each other, and each may be off by itself.
func TestLimbsMayAllBeHeavier(t *testing.T) {
	within := func(azimuth float64) (got float64, moves []float64) {
		j := jobtest.Poled()
		j.Trees[0].Limbs = []job.Limb{
			{ID: "a", Name: "one", AtM: 9, AzimuthDeg: 90, AngleDeg: 60, DiameterM: 0.14, LengthM: 4},
			{ID: "b", Name: "other", AtM: 9, AzimuthDeg: azimuth, AngleDeg: 60, DiameterM: 0.14, LengthM: 4},
		}
		v := surveyOf(t, &j)
		now := v.Standing()
		whole := v.StemMass(0.5, now)
		for k := range v.Limbs {
			m := v.LimbMass(k, 0, now)
			moves = append(moves, (m.Kg.High-m.Kg.Low)/2*(m.At.X-whole.At.X)/whole.Kg.Likely)
		}
		return v.BalanceWithin(true, 0.5, whole, now), moves
	}
	got, moves := within(90)
	if want := moves[0] + moves[1]; got < 0.9*want || got > want {
		t.Errorf("both to the east: %v, a little under %v", got, want)
	}
	got, moves = within(270)
	if want := math.Hypot(moves[0], moves[1]); got < 0.9*want || got > want {
		t.Errorf("east and west: %v, a little under %v", got, want)
	}
}
