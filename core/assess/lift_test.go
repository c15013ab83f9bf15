package assess

import (
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// A piece that stands and hangs level in its slings swings its tip down as it comes free: what
// stands beside it within the reach of its tip is struck.
func TestALiftedPieceIsSwept(t *testing.T) {
	j := jobtest.Lifted()
	a := assess(&j, "p1")
	cog := a.Detail.Piece.CogM
	// It turns about its balance towards 90°: the tip, half of 0.2 m thick, reaches its length
	// less the balance's place out, less a little for the tilt.
	tilt := a.Detail.Lift.TiltDeg * math.Pi / 180
	reach := (3 - cog) * math.Max(math.Cos(tilt), 0.9999)
	j.Site.Targets = []job.Target{{ID: "w", Name: "wall", Kind: "building", Outline: []job.Spot{{X: 3, Y: -5}, {X: 4, Y: -5}, {X: 4, Y: 5}, {X: 3, Y: 5}}, ToM: 30}}
	between(t, "a wall that the tip swings towards", clearOf(t, assess(&j, "p1"), "wall"), 3-reach-0.1)
	// On the other side the butt comes up as far as the balance is from the cut.
	outside := 0.2 + (0.6-0.2)*(18-15)/12
	j.Site.Targets[0].Outline = []job.Spot{{X: -4, Y: -5}, {X: -3, Y: -5}, {X: -3, Y: 5}, {X: -4, Y: 5}}
	got := clearOf(t, assess(&j, "p1"), "wall")
	if truth := 3 - math.Hypot(cog, outside/2); got > 3-cog-outside/2+0.1 || got < truth-0.35 {
		t.Errorf("the butt comes up on the other side: %v m, about %v", got, truth)
	}
	// One sling at the balance holds it as it grows.
	j.Picks[0].Lift.Slings = []crane.Sling{{Name: "one", AtM: cog, LengthM: 4, WllKn: 40, Hitch: crane.Choker}}
	between(t, "in one sling it does not turn", clearOf(t, assess(&j, "p1"), "wall"), 3-outside/2)
}

// What grows beside a wall is not over for that alone when it is lifted away from it; what is
// brought nearer is.
func TestALiftIsJudgedByWhatItBringsNearer(t *testing.T) {
	j := jobtest.Lifted()
	cog := assess(&j, "p1").Detail.Piece.CogM
	j.Picks[0].Lift.Slings = []crane.Sling{{Name: "one", AtM: cog, LengthM: 4, WllKn: 40, Hitch: crane.Choker}}
	j.Site.Targets = []job.Target{{ID: "w", Name: "wall", Kind: "building", Outline: []job.Spot{{X: 0.5, Y: -5}, {X: 4, Y: -5}, {X: 4, Y: 5}, {X: 0.5, Y: 5}}, ToM: 30}}
	if got := assess(&j, "p1").Detail.Clear[0]; got.Verdict != policy.Close {
		t.Errorf("lifted straight up beside a wall: %+v", got)
	}
	j.Site.Targets[0].Kind, j.Site.Targets[0].VoltageKv = "power-line", jobtest.Of(0.4)
	if got := assess(&j, "p1").Detail.Clear[0]; got.Verdict != policy.Over {
		t.Errorf("lifted straight up beside a power line: %+v", got)
	}
}

// Before it slews it is lifted over what stands beneath its way.
func TestWhatALiftGoesOver(t *testing.T) {
	j := jobtest.Lifted()
	said := func() string { return strings.Join(assess(&j, "p1").Detail.Cautions, " ") }
	if got := said(); strings.Contains(got, "slews") {
		t.Errorf("nothing beneath its way: %s", got)
	}
	// The way goes round from north to east of the crane, at 14 m: the shed is at north-east.
	j.Site.Targets = []job.Target{
		{ID: "s", Name: "shed", Kind: "building", Box: &job.Box{Min: job.Spot{X: 9, Y: -5}, Max: job.Spot{X: 11, Y: -3}}, ToM: 6},
		{ID: "f", Name: "far house", Kind: "building", Box: &job.Box{Min: job.Spot{X: -30, Y: -30}, Max: job.Spot{X: -25, Y: -25}}, ToM: 12},
	}
	if got := said(); !strings.Contains(got, "its lowest end above 6.50 m: shed, 6.00 m high") {
		t.Errorf("over a shed: %s", got)
	}
}

// Where a drop zone lies under something, and when it is covered, is said.
func TestDropZonesUnderARoofAndFull(t *testing.T) {
	j := jobtest.Whole()
	j.Site.Targets = append(j.Site.Targets, job.Target{ID: "b", Name: "balcony", Kind: "building", Box: &job.Box{Min: job.Spot{X: 3, Y: 0}, Max: job.Spot{X: 4, Y: 1}}, FromM: 3, ToM: 4})
	said := func() string {
		a := assess(&j, "")
		return strings.Join(a.Cautions, " ")
	}
	if got := said(); !strings.Contains(got, "Drop zone lawn lies under balcony (from 3.00 m up)") || strings.Contains(got, "covered") {
		t.Errorf("under a balcony: %s", got)
	}
	// A bare pole of 0.8 to 0.2 m let down piece by piece beneath its block: its wood, end to
	// end, covers a yard of 4 m² before the sixth log.
	j = jobtest.Stem()
	j.Site.Zones = []job.Zone{{ID: "y", Name: "yard", Outline: []job.Spot{{X: -1, Y: -1}, {X: 1, Y: -1}, {X: 1, Y: 1}, {X: -1, Y: 1}}}}
	j.Picks = nil
	covered, after := 0.0, 0
	for i, cut := range []float64{16, 14, 12, 10, 8, 6} {
		j.Picks = append(j.Picks, job.Pick{ID: string(rune('a' + i)), What: job.WhatStem, CutM: jobtest.Of(cut), Way: job.WayPastBlock, Rig: "r1"})
		covered += 2 * (0.2 + 0.4*(18-cut)/12)
		if covered >= 4 && after == 0 {
			after = i + 1
		}
	}
	if got := said(); after == 0 || !strings.Contains(got, "After pick "+string(rune('0'+after))+" drop zone yard is covered: "+string(rune('0'+after))+" pieces") {
		t.Errorf("covered after %d, said %s", after, got)
	}
	j.Picks[0].Done = true
	if got := said(); strings.Contains(got, "After pick "+string(rune('0'+after))+" drop zone") {
		t.Errorf("what is down is taken as cleared: %s", got)
	}
}

// A limb that spreads wide is thrown as well when it goes free from up high: by hand, at 60°
// from upright its hinge lets go at 70°, and what turned about its butt flies on.
func TestAWideLimbIsThrown(t *testing.T) {
	j := jobtest.Stem()
	j.Trees[0].Limbs = []job.Limb{{ID: "w", Name: "wide limb", AtM: 14, AzimuthDeg: 90, AngleDeg: 60, DiameterM: 0.14, LengthM: 4, Brush: job.BrushBare}}
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "w", Way: job.WayFree}}
	a := assess(&j, "p1")
	cut, cog := a.Detail.Piece.Cut, a.Detail.Piece.CogM
	spin := math.Sqrt(3 * 9.80665 / 4 * (math.Cos(math.Pi/3) - math.Cos(70*math.Pi/180)))
	out, down := spin*cog*math.Cos(70*math.Pi/180), spin*cog*math.Sin(70*math.Pi/180)
	drop := cut.Z + cog*math.Cos(70*math.Pi/180)
	thrown := out * (math.Sqrt(down*down+2*9.80665*drop) - down) / 9.80665
	far := 0.0
	for _, d := range a.Detail.Landing.Discs {
		far = math.Max(far, d.X+d.R)
	}
	if least := cut.X + cog*math.Sin(70*math.Pi/180) + thrown + (4 - cog); far < least {
		t.Errorf("its tip lands %v m out, the lay ends at %v", least, far)
	}
}

// A limb that is held from elsewhere passes its own stem: by hand, three metres of it that turn
// about a balance half way, level in their slings, come nearest where its butt swings in.
func TestALimbPassesItsOwnStem(t *testing.T) {
	j := jobtest.Lifted()
	j.Trees[0].Limbs = []job.Limb{{ID: "u", Name: "steep limb", AtM: 8, AzimuthDeg: 90, AngleDeg: 5, DiameterM: 0.1, LengthM: 4, Brush: job.BrushBare}}
	j.Picks[0] = job.Pick{ID: "p1", What: job.WhatLimb, Limb: "u", Way: job.WayCrane, Lift: j.Picks[0].Lift}
	a := assess(&j, "p1")
	if got := clearOf(t, a, "the stem"); got > 0 {
		t.Errorf("turned level beside its stem, its tip or its butt goes through it: %v m", got)
	}
	if got := roomOf(a); got != policy.Close {
		t.Errorf("%s", got)
	}
}

// What is thrown from up high flies further than what is thrown from a ladder: by hand, at 2.5
// m/s from 17.5 m it flies 2.5·√(2·17.5/g) out, and scatters a twentieth of its height.
func TestThrownFromUpHighFliesFurther(t *testing.T) {
	j := jobtest.Stem()
	j.Picks[0].Way, j.Picks[0].Rig, j.Picks[0].CutM, j.Picks[0].FallTowardsDeg = job.WayThrown, "", jobtest.Of(17.5), jobtest.Of(90)
	reach := func() (near, far float64) {
		near, far = math.Inf(1), math.Inf(-1)
		for _, d := range assess(&j, "p1").Detail.Landing.Discs {
			near, far = math.Min(near, d.X-d.R), math.Max(far, d.X+d.R)
		}
		return near, far
	}
	near, far := reach()
	if want := 2.5*math.Sqrt(2*17.5/9.80665) + 0.05*17.5; far < want || far > want+2 || near > 0 {
		t.Errorf("from 17.5 m it may come down from %v to %v m out, want %v", near, far, want)
	}
}

// A load reaches as far from its balance as its further end, or as the limbs on it: half its length is kind.
func TestALoadReachesFromItsBalance(t *testing.T) {
	j := jobtest.Lifted()
	j.Picks[0].What = job.WhatTop
	j.Picks[0].Lift.SetDown = nil
	j.Site.Targets = []job.Target{{ID: "w", Name: "mains", Kind: "power-line", VoltageKv: jobtest.Of(0.4), Outline: []job.Spot{{X: -40, Y: 8}, {X: 40, Y: 8}}, FromM: 40, ToM: 41}}
	a := assess(&j, "p1")
	cog, near := a.Detail.Piece.CogM, func(a Assessment) float64 {
		for _, c := range a.Detail.Clear {
			if c.Name == "mains" {
				return c.ClearanceM
			}
		}
		t.Fatal("nothing is said of the mains")
		return 0
	}
	// Round the crane by 14 m the balance comes as near as 8 m.
	bare := near(a)
	if end := math.Max(cog, 3-cog); bare > 8-end || bare < 8-end-0.8 { // 0.6 of it for the places of its round between which it is missed
		t.Errorf("3 m with its balance at %g m: %g m from the mains", cog, bare)
	}
	// A limb of 4 m, square to it at its foot, reaches beyond.
	j.Trees[0].Limbs = []job.Limb{{ID: "a", Name: "arm", AtM: 15.1, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.06, LengthM: 4, Brush: job.BrushBare}}
	a = assess(&j, "p1")
	cog = a.Detail.Piece.CogM
	if wide := near(a); wide > 8-math.Hypot(4-0.4, cog-0.1) || wide > bare-1 {
		t.Errorf("with an arm of 4 m %g m, without %g m", wide, bare)
	}
}

// What the chart has is said from the piece's place and from where it goes down: the crane
// stands 14 m south of the stem, the piece goes down 14 m to the crane's east.
func TestAChartIsSaidForTheLift(t *testing.T) {
	j := jobtest.Lifted()
	j.Site.Cranes[0].Chart = []crane.ChartRow{{RadiusM: 12, BoomM: 40, CapacityKg: 9000}, {RadiusM: 20, BoomM: 40, CapacityKg: 4000}, {RadiusM: 30, BoomM: 40, CapacityKg: 200}}
	got := assess(&j, "p1").Detail.Lift
	if !(math.Abs(got.CutRadiusM-14) <= 1e-9) || got.DownRadiusM == nil || *got.DownRadiusM != 14 || len(got.Chart) != 3 || got.SharePct != 75 || got.AllowedKg == nil || *got.AllowedKg != 3000 {
		t.Errorf("%+v", got)
	}
	// It weighs more than three quarters of 200 kg, and less than those of 4,000.
	if got.HookKg.High < 151 || got.HookKg.High > 2999 || got.FarthestM != 20 {
		t.Errorf("%v kg go out to %v m", got.HookKg.High, got.FarthestM)
	}
	j.Picks[0].Lift.SetDown = nil
	if got := assess(&j, "p1").Detail.Lift; got.DownRadiusM != nil {
		t.Errorf("put down nowhere: %v", *got.DownRadiusM)
	}
}

// Gear on a limb of another tree bends that tree's stem too, and the more the further out.
func TestALimbOfAnotherTreeBendsItsStem(t *testing.T) {
	last := 0.0
	for _, out := range []float64{0.5, 1.5, 2.5} {
		j := jobtest.Stem()
		other := jobtest.Whole().Trees[0]
		other.ID, other.Name, other.At = "t2", "second tree", &job.Spot{X: 8}
		other.Limbs = []job.Limb{{ID: "h", Name: "stout limb", AtM: 16, AngleDeg: 90, AzimuthDeg: 0, DiameterM: 0.3, LengthM: 3, Brush: job.BrushBare}}
		j.Trees = append(j.Trees, other)
		j.Rigs[0].Device.Place = &job.Place{On: job.OnLimb, Tree: "t2", Limb: "h", AtM: out}
		list := []Rung{}
		for _, one := range assess(&j, "p1").Detail.Ladder {
			if one.Part == hold.PartHolder {
				list = append(list, one)
			}
		}
		if len(list) != 2 || list[0].Name != "stout limb" || list[1].Name != "second tree" || list[1].UsePct == nil {
			t.Fatalf("held by %+v", list)
		}
		// Pulled straight down, by the arm of the limb.
		all := surveyOf(t, &j)
		v := all.Trees[1]
		now := v.Standing()
		p := hold.Pull{Place: j.Rigs[0].Device.Place, At: v.Limbs[0].At(out), Dir: r3.Vec{Z: -1}, PeakKn: 9}
		l := all.Wood(v).OnTree(&p, nil, now)
		if use := l.Use(); use <= last {
			t.Errorf("%v m out: the stem takes %v, nearer %v", out, use, last)
		} else {
			last = use
		}
	}
}

// A crane lifts at the larger of where the piece is and where it is put.
func TestTheLargerRadiusCounts(t *testing.T) {
	for _, c := range []struct {
		down job.Spot
		want float64
	}{{job.Spot{X: 3, Y: -14}, 14}, {job.Spot{X: 19, Y: -14}, 19}} {
		j := jobtest.Lifted()
		j.Picks[0].Lift.SetDown = &c.down
		jobtest.Nearly(t, "radius", assess(&j, "p1").Detail.Lift.RadiusM, c.want)
	}
}

// Nearer than its chart begins no crane lifts, nor puts down; a shorter boom that is on the chart there says nothing for a longer one.
func TestNearerThanTheChartBegins(t *testing.T) {
	for _, c := range []struct {
		down   job.Spot
		cannot string
	}{{job.Spot{X: 3, Y: -14}, "has it at 3.00 m, and the chart for its boom begins at 6.00 m"}, {job.Spot{X: 6, Y: -14}, ""}} {
		j := jobtest.Lifted()
		j.Site.Cranes[0].Chart[0].RadiusM = 6
		j.Site.Cranes[0].Chart = append(j.Site.Cranes[0].Chart, crane.ChartRow{RadiusM: 2, BoomM: 20, CapacityKg: 12000})
		j.Picks[0].Lift.SetDown = &c.down
		said := ""
		for _, f := range assess(&j, "p1").Picks[0].Faults {
			if f.Code != course.FaultSlings {
				said += f.Message
			}
		}
		if (c.cannot == "") != (said == "") || !strings.Contains(said, c.cannot) {
			t.Errorf("put down at %+v: %q", c.down, said)
		}
	}
}

// A power line over the crane is as far from its boom as it stands over the boom's head, upright as that may be; just over its tip it is near.
func TestAPowerLineOverACrane(t *testing.T) {
	for over, near := range map[float64]bool{0: true, 4.5: true, 16: false} {
		j := jobtest.Lifted()
		j.Site.Targets = []job.Target{{ID: "w", Name: "mains", Kind: "power-line", VoltageKv: jobtest.Of(0.4), Outline: []job.Spot{{X: -30, Y: 0}, {X: 30, Y: 0}}, FromM: j.Site.Cranes[0].BoomM + over, ToM: j.Site.Cranes[0].BoomM + over + 0.5}}
		got := false
		for _, c := range assess(&j, "p1").Detail.Clear {
			got = got || c.Name == "mains" && c.Verdict != policy.Within
		}
		if got != near {
			t.Errorf("%v m over the length of its boom: near %v", over, got)
		}
	}
}
