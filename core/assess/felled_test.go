package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/ways/felled"
)

func intOf(v int) *int { return &v }

// A pole pulled over, worked by hand: the hinge by its chord, the moments about its middle, the
// pull by its arm, the effort by a 3:1.
func TestFelledByHand(t *testing.T) {
	j := jobtest.Poled()
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	// Northern red oak, MPa: by the moment at which a beam breaks, a quarter more of it, M = σ·w·t²/6.
	const d, mor = 0.8 - 0.2*0.2/5.7, 1.25 * 57.0 * 4 / 6
	face, thick := 0.25*d, 0.1*d
	ahead := d/2 - face - thick/2
	chord := 2 * math.Sqrt(d*d/4-ahead*ahead)
	bending := 1000 * mor * chord * thick * thick / 4
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	// It stands upright: its balance is behind the hinge by as much as the hinge is ahead of the middle.
	need := 1.3 * (bending + w*ahead)
	// The line is tied 11.5 m up, on the pole's axis, as far behind the hinge: its arm is that of its own way.
	x, z := 25.0, 0.3-12
	pull := need / ((11.5*x + ahead*z) / math.Hypot(x, z))
	got := rung(t, a, hold.PartPull)
	jobtest.Nearly(t, "pull needed", *got.PeakKn, pull)
	jobtest.Nearly(t, "what two kilonewtons give", *got.LimitKn, 2*(1+0.9+0.81))
	if got.Decided != "effort" || got.Verdict != policy.Over && pull > 5.42 {
		t.Errorf("%+v", got)
	}
	// The rest of the line carries the more of what is needed and what is given.
	most := math.Max(pull, 2*(1+0.95+0.9025))
	jobtest.Nearly(t, "line", *rung(t, a, hold.PartLine).PeakKn, most)
	jobtest.Nearly(t, "anchor", *rung(t, a, hold.PartHolder).PeakKn, most+2) // with the effort turned at it
	jobtest.Nearly(t, "its rating", *rung(t, a, hold.PartHolder).LimitKn, 30)
	// Straight ahead nothing is left sideways.
	if side := rung(t, a, hold.PartHinge); *side.PeakKn > 1e-9 || side.Verdict != policy.Within {
		t.Errorf("sideways: %+v", side)
	}
	// Two kilonewtons do not pull it: nothing is called but that; more do.
	if !strings.HasPrefix(a.Picks[0].Call, "Not like this: pull ") || !strings.HasPrefix(a.State, "1 pick") || !strings.Contains(a.State, "pick 1: pull ") {
		t.Errorf("called %q, %q", a.Picks[0].Call, a.State)
	}
	stronger := jobtest.Poled()
	stronger.Picks[0].Fell.Lines[0].EffortKn = jobtest.Of(3.6)
	if b := assess(&stronger, "p1"); b.Picks[0].Call != "All clear: take up, cut, pull to E" {
		t.Errorf("called %q", b.Picks[0].Call)
	}
	// It lies in the meadow, all 17.5 m of it.
	far := 0.0
	for _, disc := range a.Detail.Landing.Discs {
		far = math.Max(far, disc.X)
	}
	if far < 17.4 || a.Detail.Landing.Zone != "meadow" {
		t.Errorf("it lies out to %v m, in %q: %s", far, a.Detail.Landing.Zone, a.Detail.Landing.Reason)
	}
}

// What cannot be is said in words: an anchor behind the fall, a line tied to nothing, a limb, no
// pull where the tree stands behind its hinge.
func TestFellingsThatCannotBe(t *testing.T) {
	for says, spoil := range map[string]func(*job.Job){
		"a line is anchored":      func(j *job.Job) { j.Picks[0].Fell.Lines[0].Anchor = "nowhere" },
		"does not pull forward":   func(j *job.Job) { j.Picks[0].Fell.Lines[0].Anchor = "w" },
		"has nothing to pull on":  func(j *job.Job) { j.Picks[0].Fell.Lines[0].AtM = 0.2 },
		"anchored":                func(j *job.Job) { j.Picks[0].Fell.Lines[0].Anchor = "gone" },
		"lies off the stump":      func(j *job.Job) { j.Picks[0].Fell.FaceDepthM = jobtest.Of(0.9) },
		"its own weight does not": func(j *job.Job) { j.Picks[0].Fell = nil },
		"1 to 6 parts, or 9":      func(j *job.Job) { j.Picks[0].Fell.Lines[0].Parts = intOf(8) },
		"is not felled": func(j *job.Job) {
			j.Trees[0].Limbs = jobtest.Whole().Trees[0].Limbs
			j.Picks[0].What, j.Picks[0].Limb, j.Picks[0].CutM = job.WhatLimb, "a", nil
		},
		"still stands on it": func(j *job.Job) { j.Trees[0].Limbs = jobtest.Whole().Trees[0].Limbs; j.Picks[0].What = job.WhatStem },
	} {
		j := jobtest.Poled()
		spoil(&j)
		a := assess(&j, "p1")
		// What the line has to do with it is not known; the stump and where it lies are.
		if a.Picks[0].Way == job.WayFelled && strings.Contains(says, "line") && (a.Detail.Fell == nil || a.Detail.Landing == nil) {
			t.Errorf("%s: neither its stump nor where it lies", says)
		}
		if len(a.Picks[0].Faults) == 0 || !strings.Contains(a.Picks[0].Faults[0].Message, says) || a.Picks[0].Verdict != policy.Over {
			t.Errorf("%s: %+v", says, a.Picks[0].Faults)
		}
	}
}

// A side lean loads the hinge; a line that holds it takes that off; wedges lift what stands a
// little behind its hinge, and are judged.
func TestSideLeanWedgesAndHolding(t *testing.T) {
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(180)
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{Y: 18}})
	before := *rung(t, assess(&j, "p1"), hold.PartHinge).PeakKn
	j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines, job.FellLine{ID: "l2", Holds: true, AtM: 12, Anchor: "n", EffortKn: jobtest.Of(20)})
	a := assess(&j, "p1")
	if after := *rung(t, a, hold.PartHinge).PeakKn; before < 0.5 || after > before/100 {
		t.Errorf("sideways %v kN, held %v", before, after)
	}
	if held := rung(t, a, hold.PartSecond); *held.PeakKn <= 0 {
		t.Errorf("the line that holds: %+v", held)
	}
	j = jobtest.Poled()
	j.Picks[0].Fell = &job.Fell{Wedged: true}
	a = assess(&j, "p1")
	got := rung(t, a, hold.PartWedge)
	if *got.PeakKn <= 0 || *got.LimitKn != 15 {
		t.Errorf("wedged: %+v, %v", got, a.Picks[0].Faults)
	}
	// Heavier wood needs no gentler pull.
	j = jobtest.Poled()
	light := *rung(t, assess(&j, "p1"), hold.PartPull).PeakKn
	j.Trees[0].TopDiameterM = jobtest.Of(0.35)
	if heavy := *rung(t, assess(&j, "p1"), hold.PartPull).PeakKn; heavy <= light {
		t.Errorf("a heavier pole needs %v kN, the lighter %v", heavy, light)
	}
}

// A pole leaning back is tied behind its hinge: the line's own way turns it by less than one from over the hinge would.
func TestABackLeanerIsPulledByLess(t *testing.T) {
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(6), jobtest.Of(270)
	j.Site.Anchors[0].At.X = 10 // steep
	j.Picks[0].Fell.Margin, j.Picks[0].Fell.Lines[0].EffortKn = jobtest.Of(1), nil
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	fell := a.Detail.Fell
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	slope := math.Tan(6 * math.Pi / 180)
	d := 0.8 - 0.2*0.2/5.7
	hinge := -0.5*slope + d/2 - 0.25*d - 0.05*d // where it stands on the plan
	tied := -12*slope - hinge
	x, z := 10-(-12*slope), 0.3-12
	arm := (11.5*x - tied*z) / math.Hypot(x, z)
	jobtest.Nearly(t, "pull", *rung(t, a, hold.PartPull).PeakKn, (fell.Hinge.BendingKnm-w*fell.ForwardM)/arm)
	if over := 11.5 * (10 - hinge) / math.Hypot(10-hinge, z); over < 1.05*arm {
		t.Errorf("no attack: %g m from over the hinge, %g m in truth", over, arm)
	}
}

// Leaning to its fall, the light end of its weight must bend the hinge, with the margin; what is pulled beyond the need
// and aside loads the hinge; an effort turned at the anchor is said there.
func TestFellingsThatWereKind(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	j.Picks[0].Fell = nil
	// The lean at which the light end of its weight goes with the margin, and the heavy end long before.
	says := ""
	for lean := 0.0; lean < 40; lean += 0.2 {
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = &lean, jobtest.Of(90)
		a, said := assess(&j, "p1"), ""
		if len(a.Picks[0].Faults) > 0 {
			said = a.Picks[0].Faults[0].Message
		}
		kg, f := a.Detail.Piece.MassKg, a.Detail.Fell
		if f == nil {
			continue
		}
		light, bends := kg.Low*9.80665/1000*f.ForwardM, f.Hinge.BendingKnm
		switch {
		case light < bends && !strings.Contains(said, "does not bend its hinge"),
			light >= bends && light < 1.3*bends && !strings.Contains(said, "less than the margin of 1.3"),
			light >= 1.3*bends && said != "":
			t.Fatalf("at %g°: %g of %g kN·m, %q", lean, light, bends, said)
		}
		says += said
	}
	if !strings.Contains(says, "less than the margin") {
		t.Error("no lean was tried between the two")
	}

	j = jobtest.Poled()
	j.Site.Anchors[0].At = job.Spot{X: 20, Y: -15}
	side := func(effort float64) float64 {
		j.Picks[0].Fell.Lines[0].EffortKn = &effort
		return *rung(t, assess(&j, "p1"), hold.PartHinge).PeakKn
	}
	if near, far := side(1), side(10); far < 1.5*near {
		t.Errorf("pulled harder and aside the hinge has %g kN, not more than %g", far, near)
	}
	a := assess(&j, "p1")
	hinge := rung(t, a, hold.PartHinge)
	// Of what its first fibre bears a third counts: the crew's factor for standing wood.
	jobtest.Nearly(t, "limit", *hinge.LimitKn, math.Min(a.Detail.Fell.Hinge.SideCapacityKnm.ToLeft, a.Detail.Fell.Hinge.SideCapacityKnm.ToRight)/3/a.Detail.Fell.HeightM)
	jobtest.Nearly(t, "turned at the anchor", *rung(t, a, hold.PartHolder).PeakKn, 10*(1+0.95+0.9025)+10)
	// Pulled straight past it the effort adds nothing: once it is held there, all of the line stays.
	j.Picks[0].Fell.Lines[0].Effort = job.EffortStraight
	jobtest.Nearly(t, "pulled straight", *rung(t, assess(&j, "p1"), hold.PartHolder).PeakKn, 10*(1+0.95+0.9025))
	j.Picks[0].Fell.Lines[0].Effort = ""
	// Pulled the way it leans, the stem bends by its own weight as well.
	j = jobtest.Poled()
	upright := *rung(t, assess(&j, "p1"), hold.PartSpar).UsePct
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg, j.Picks[0].Fell.Lines[0].EffortKn = jobtest.Of(3.6), jobtest.Of(90), jobtest.Of(10)
	leaning := rung(t, assess(&j, "p1"), hold.PartSpar)
	j.Trees[0].LeanDeg = nil
	if straight := *rung(t, assess(&j, "p1"), hold.PartSpar).UsePct; *leaning.UsePct <= straight || straight <= upright {
		t.Errorf("the spar takes %g %% upright, %g %% pulled harder, %g %% leaning", upright, straight, *leaning.UsePct)
	}
	// An anchor almost straight under the tie of a back leaner: the line leads behind the hinge.
	j = jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(20), jobtest.Of(270)
	j.Site.Anchors[0].At, j.Picks[0].Fell.Lines[0].AnchorM = job.Spot{X: 0.1}, jobtest.Of(0)
	if faults := assess(&j, "p1").Picks[0].Faults; len(faults) == 0 || !strings.Contains(faults[0].Message, "does not turn the tree forward") && !strings.Contains(faults[0].Message, "does not pull forward") {
		t.Errorf("%v", faults)
	}
}

// Followed through time it is the kind fell-sim's own answer for the same figures: it goes with
// pull enough, and stands with too little; what is not known is not followed.
func TestAFellingIsFollowed(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	need := *rung(t, assess(&j, "p1"), hold.PartPull).PeakKn
	follow := func(effort float64) course.Trace {
		j.Picks[0].Fell.Lines[0].EffortKn, j.Picks[0].Fell.Wedged = &effort, true
		trace, err := Simulate(t.Context(), &j, "p1", 40, Options{Units: "metric"})
		if err != nil {
			t.Fatal(err)
		}
		return trace
	}
	goes := follow(need)
	if goes.Kind != "fall" || goes.Fall.Outcome != "goes" || goes.Why != "" || len(goes.Need) != 41 || !strings.Contains(goes.Said, "It goes") || goes.Odds == nil {
		t.Fatalf("%s: %s", goes.Kind, goes.Said)
	}
	// What is needed at the start holds the margin that the fall does not.
	jobtest.Nearly(t, "needed at the start", goes.Need[0].PullKn, need)
	if stands := follow(need / 3 / 2.71); stands.Fall.Outcome != "stands" && stands.Fall.Outcome != "unfinished" || stands.Fall.HighestDeg > 0 {
		t.Errorf("pulled too little: %s, %v°", stands.Fall.Outcome, stands.Fall.HighestDeg)
	}
	j.Picks[0].Fell.Lines[0].EffortKn = nil
	if trace, err := Simulate(t.Context(), &j, "p1", 0, Options{Units: "metric"}); err != nil || trace.Fall != nil || !strings.Contains(trace.Why, "Nobody has said") {
		t.Errorf("%v %+v", err, trace)
	}
}

// A tree that falls past a line keeps the line's distance, however low its cut is; so does what is
// felled free. By hand: 17.5 m of it fall east along y = 0, and 1.5 m north of that a line hangs.
func TestAFallKeepsFromLines(t *testing.T) {
	for _, way := range []job.Way{job.WayFelled, job.WayFree} {
		j := jobtest.Poled()
		j.Picks[0].Way = way
		j.Site.Targets = []job.Target{{ID: "l", Name: "mains", Kind: "power-line", VoltageKv: jobtest.Of(0.4), Outline: []job.Spot{{X: 10, Y: 3.2}, {X: 20, Y: 3.2}}, FromM: 8, ToM: 8.5}}
		if hits := assess(&j, "p1").Detail.Landing.Hits; len(hits) != 1 || hits[0] != "mains" {
			t.Errorf("%s, 3.2 m beside a line: strikes %v", way, hits)
		}
		j.Site.Targets[0].Outline = []job.Spot{{X: 10, Y: 9}, {X: 20, Y: 9}}
		if hits := assess(&j, "p1").Detail.Landing.Hits; len(hits) != 0 {
			t.Errorf("%s, 9 m beside a line: strikes %v", way, hits)
		}
	}
}

// A pull that leads against a side lean is no help once the tree outruns its line: the hinge has to hold its balance, where it
// stands as far aside as it may, alone; a line that holds takes it in its place. A gust that asks for more pull eases nothing.
func TestAPullIsNoHoldSideways(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(180)
	j.Site.Anchors[0].At = job.Spot{X: 25, Y: 3}
	_, o := worked(t, &j)
	w := o.Weight.Kg.High * 9.80665 / 1000
	fell := assess(&j, "p1").Detail.Fell
	aside, arm := fell.SideM, fell.HeightM
	side := func() float64 { return *rung(t, assess(&j, "p1"), hold.PartHinge).PeakKn * arm }
	want := w * (aside + fell.WithinM)
	if got := side(); aside < 0.2 || !(math.Abs(got-want) <= 1e-6*want) {
		t.Errorf("%v kN·m sideways, its weight aside alone %v", got, want)
	}
	j.Site.GustMS, j.Site.GustTowardsDeg = jobtest.Of(9), jobtest.Of(270)
	if got := side(); got < want-1e-6*want {
		t.Errorf("%v kN·m in a gust from ahead, %v without", got, want)
	}
	j.Site.GustMS, j.Site.GustTowardsDeg = nil, nil
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{Y: 18}, Rating: gear.Rating{MarkedKn: jobtest.Of(40)}})
	j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines, job.FellLine{ID: "l2", Holds: true, AtM: 12, Anchor: "n"})
	a := assess(&j, "p1")
	// Tied 11.5 m over the hinge, it leads square to the fall down to 0.3 m.
	holds := want / (11.5 * 18 / math.Hypot(18, 11.7))
	if got := *rung(t, a, hold.PartSecond).PeakKn; got < holds*0.97 {
		t.Errorf("the line that holds takes %v kN, of a pull that is no help at least %v", got, holds)
	}
	// Made tight, it bends the hinge its own way; a gust that it would have to hold takes none of that off, as none need blow.
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg, j.Site.Anchors[0].At.Y = nil, nil, 0
	j.Picks[0].Fell.Lines[1].PretensionKn = 5
	calm := side()
	j.Site.GustMS = jobtest.Of(9)
	if got := side(); calm < 20 || got < calm*(1-1e-9) {
		t.Errorf("%v kN·m sideways in a gust, %v in none", got, calm)
	}
}

// Wedges are judged by the lift as by the force: the top of a pole that leans back by 4°
// would have to be lifted further than wedges lift, little as it weighs.
func TestWedgesAreJudgedByTheirLift(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	j.Picks[0].CutM, j.Picks[0].Fell.LeftM, j.Picks[0].Fell.RightM = jobtest.Of(10.6), jobtest.Of(0.012), jobtest.Of(0.012)
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(270)
	_, o := worked(t, &j)
	force, lift, _ := o.Made.(*felled.Felled).Wedges()
	fell := assess(&j, "p1").Detail.Fell
	behind := -fell.ForwardM + fell.WithinM
	// Until the light end of its weight bends the hinge: W·(h·sin φ − b·cos φ) = M.
	light := o.Weight.Kg.Low * g / 1000
	goes := math.Asin(fell.Hinge.BendingKnm/(light*math.Hypot(fell.HeightM, behind))) + math.Atan2(behind, fell.HeightM)
	if want := fell.Hinge.BackCutM * math.Tan(goes); force > 0.9*course.WedgeLiftKn || lift < 1.1*course.WedgeLiftM || !(math.Abs(lift-want) <= 1e-6) {
		t.Fatalf("%v kN and %v m, by hand %v m", force, lift, want)
	}
	for _, plan := range assess(&j, "p1").Detail.Fell.Plans {
		if plan.Title == "Wedges" && plan.Verdict != policy.Over {
			t.Errorf("lifted %v m: %s", lift, plan.Verdict)
		}
	}
}

// What a hinge is used to sideways counts as much more as its wood keeps less.
func TestAHingeInWeakWoodIsUsedMore(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(3), jobtest.Of(180)
	use := func() float64 { return assess(&j, "p1").Detail.Fell.SideUsePct }
	sound := use()
	j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectDecay, AtM: 0.5}}
	if got, want := use(), sound/0.5; sound < 1 || !(math.Abs(got-want) <= 1e-9*want) {
		t.Errorf("%v %% in sound wood, %v %% in decayed: want %v", sound, got, want)
	}
}

// Of a tree that is likely upright the balance may stand to either side: a line that holds it on one leaves it to the hinge on
// the other.
func TestALineHoldsOneSideAlone(t *testing.T) {
	t.Parallel()
	j := jobtest.Poled()
	j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "n", Name: "gatepost", Kind: job.AnchorGround, At: job.Spot{Y: 18}})
	j.Picks[0].Fell.Lines = append(j.Picks[0].Fell.Lines, job.FellLine{ID: "l2", Holds: true, AtM: 12, Anchor: "n"})
	j.Site.GustMS, j.Site.GustTowardsDeg = jobtest.Of(9), jobtest.Of(0)
	_, o := worked(t, &j)
	f := assess(&j, "p1").Detail.Fell
	w := o.Weight.Kg.High * 9.80665 / 1000
	// The gust by its area and its height over the hinge, as if the balance stood so far off.
	area, height := o.Caught()
	gust := 0.6 * area * 9 * 9 / 1000 * max(f.HeightM, height-0.5)
	want := w*(f.WithinM-math.Abs(f.SideM)) + gust
	got := *rung(t, assess(&j, "p1"), hold.PartHinge).PeakKn * f.HeightM
	if want < 1 || got < want*(1-1e-9) {
		t.Errorf("%v kN·m sideways, on the side that nothing holds %v", got, want)
	}
}
