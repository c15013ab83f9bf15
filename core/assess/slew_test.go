package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// besides is a building round a place, so high.
func besides(id string, x, y, half, toM float64) job.Target {
	return job.Target{ID: id, Name: id, Kind: "building", ToM: toM, Box: &job.Box{Min: job.Spot{X: x - half, Y: y - half}, Max: job.Spot{X: x + half, Y: y + half}}}
}

// overBalance is how far over a balance the hook of the slings of lifted hangs: two of 4 m, 0.3 and
// 2.3 m from the butt, meet √(4² − 1²) over the place between them.
func overBalance(cog float64) float64 { return math.Hypot(math.Sqrt(15), 1.3-cog) }

// roomOf is the worst of what a lift comes to and cannot, but for how it comes onto its slings: one that hangs level has toppled into them.
func roomOf(a Assessment) policy.Verdict {
	worst := policy.Within
	for _, c := range a.Detail.Clear {
		worst = policy.Worse(worst, c.Verdict)
	}
	for _, f := range a.Picks[0].Faults {
		if f.Code != course.FaultSlings {
			worst = policy.Over
		}
	}
	return worst
}

// A boom of B at R stands √(B² − R²) high; the hook hangs over the balance as its slings meet.
// What stands beneath the way is met where the load, lifted as high as that, is lower.
func TestASlewIsSweptAtTheHeightOfTheBoom(t *testing.T) {
	j := jobtest.Lifted() // the crane at (0, −14), the tree at its north, put down 14 m to its east
	a := assess(&j, "p1")
	cog := a.Detail.Piece.CogM
	under := overBalance(cog)
	middle := 15 + cog
	// A boom whose head stands 5 m over the hook as it is picked.
	head := middle + under + 5
	j.Site.Cranes[0].BoomM = math.Hypot(head, 14)
	jobtest.Boom(&j, j.Site.Cranes[0].BoomM)
	x := 14 * math.Sin(math.Pi/4)
	load := head - under // the balance, as high as it can be
	for _, row := range []struct {
		name     string
		top      float64
		want     policy.Verdict
		clear    float64 // of a house right beneath the way; NaN: none is told
		contains string
	}{
		{"well over it", load - 4, policy.Within, math.NaN(), "Before it slews, its lowest end above"},
		{"hardly over it", load - 1.2, policy.Within, math.NaN(), "let the operator say whether it reaches"},
		{"high enough but for its own wood", load - 0.55, policy.Over, 0.55 - 0.15, "would have to go up to"},
		{"not high enough", load - 0.4, policy.Over, 0.4 - 0.15, "would have to go up to"},
		{"into it", load + 3, policy.Over, -0.15, "would have to go up to"},
	} {
		j.Site.Targets = []job.Target{besides("house", x, x-14, 2, row.top)}
		// The other way round stands a tower, so that it is no way out.
		j.Site.Targets = append(j.Site.Targets, besides("tower", -x, -x-14, 2, 60))
		got := assess(&j, "p1").Detail
		said := strings.Join(got.Cautions, " ")
		if !strings.Contains(said, row.contains) {
			t.Errorf("%s: said %q", row.name, said)
		}
		found := false
		for _, c := range got.Clear {
			if c.Name != "house" {
				continue
			}
			found = true
			// Half of its thickness, 0.2 to 0.3 m, hangs beneath its axis, and it hangs a little off level.
			if c.Verdict != row.want || c.ClearanceM > row.clear+0.06 || c.ClearanceM < row.clear-0.25 {
				t.Errorf("%s: %v at %v m, wanted %v at about %v m", row.name, c.Verdict, c.ClearanceM, row.want, row.clear)
			}
		}
		if found == math.IsNaN(row.clear) {
			t.Errorf("%s: told %v: %+v", row.name, found, got.Clear)
		}
	}
}

// Where one way round is shut and the other is open, the other is taken, and said.
func TestASlewGoesTheWayThatIsOpen(t *testing.T) {
	j := jobtest.Lifted()
	x := 14 * math.Sin(math.Pi/4)
	j.Site.Targets = []job.Target{besides("house", x, x-14, 2, 60)}
	got := assess(&j, "p1")
	if said := strings.Join(got.Detail.Cautions, " "); !strings.Contains(said, "Slew it anticlockwise, 270° round") || roomOf(got) == policy.Over {
		t.Errorf("a house on the shorter way: %v, %q", roomOf(got), said)
	}
	// A power line on the shorter way shuts it as well.
	j.Site.Targets[0].Kind, j.Site.Targets[0].ToM, j.Site.Targets[0].VoltageKv = "power-line", 9, jobtest.Of(0.4)
	got = assess(&j, "p1")
	if said := strings.Join(got.Detail.Cautions, " "); !strings.Contains(said, "anticlockwise") || roomOf(got) == policy.Over {
		t.Errorf("a power line on the shorter way: %v, %q", roomOf(got), said)
	}
	// Where it is put down is not said: a house somewhere round is no more than close.
	j = jobtest.Lifted()
	j.Picks[0].Lift.SetDown = nil
	j.Site.Targets = []job.Target{besides("house", x, x-14, 2, 60)}
	got = assess(&j, "p1")
	if said := strings.Join(got.Detail.Cautions, " "); roomOf(got) != policy.Close || !strings.Contains(said, "Say where it is put down") {
		t.Errorf("all round: %v, %q", roomOf(got), said)
	}
	j.Site.Targets[0].Kind, j.Site.Targets[0].VoltageKv = "power-line", jobtest.Of(0.4)
	if got = assess(&j, "p1"); roomOf(got) != policy.Over {
		t.Errorf("all round, a power line: %v", roomOf(got))
	}
}

// A crane whose boom is lower than its hook is to hang does not reach up, whatever its chart
// says of the radius.
func TestABoomReachesUpToItsPiece(t *testing.T) {
	j := jobtest.Lifted()
	a := assess(&j, "p1")
	hook := 15 + a.Detail.Piece.CogM + overBalance(a.Detail.Piece.CogM)
	boom := func(over float64) Assessment {
		b := math.Hypot(hook+over, 14)
		jobtest.Boom(&j, b)
		return assess(&j, "p1")
	}
	if got := boom(-0.1); roomOf(got) != policy.Over || !strings.Contains(strings.Join(codes(got.Picks[0]), " "), course.FaultReach) {
		t.Errorf("a boom lower than its hook: %v %v", roomOf(got), codes(got.Picks[0]))
	}
	if got := boom(1); roomOf(got) == policy.Over || !strings.Contains(strings.Join(got.Detail.Cautions, " "), "The hook is to hang at") {
		t.Errorf("a boom a metre higher: %v %q", roomOf(got), got.Detail.Cautions)
	}
	if got := boom(3); strings.Contains(strings.Join(got.Detail.Cautions, " "), "The hook") {
		t.Errorf("a boom three metres higher: %q", got.Detail.Cautions)
	}
}

// A limb that the boom does not lift over its own tree is brought out past it, which is said; a
// higher boom says nothing.
func TestALimbIsLiftedOverItsOwnTree(t *testing.T) {
	said := func(boom float64) string {
		j := jobtest.Whole()
		j.Site.Targets = []job.Target{}
		j.Site.Cranes = []job.Crane{{ID: "c", Name: "crane", At: job.Spot{X: 0, Y: -14}, BoomM: boom, Chart: []crane.ChartRow{{RadiusM: 3, BoomM: 90, CapacityKg: 9000}, {RadiusM: 60, BoomM: 90, CapacityKg: 9000}}}}
		for i := range j.Picks {
			p := &j.Picks[i]
			if p.What != job.WhatLimb {
				continue
			}
			p.Way, p.Rig, p.Lift = job.WayCrane, "", &job.Lift{Crane: "c", Slings: []crane.Sling{{Name: "one", AtM: 0.5, LengthM: 2, WllKn: 90, Hitch: crane.Choker}}}
			j.Picks = []job.Pick{*p}
			detail := assess(&j, p.ID).Detail
			if detail.Lift == nil {
				t.Fatalf("%s is not lifted", p.ID)
			}
			return strings.Join(detail.Cautions, " ")
		}
		return ""
	}
	if got := said(22); !strings.Contains(got, "not lifted clear over its own tree") {
		t.Error(got)
	}
	if got := said(90); strings.Contains(got, "its own tree") {
		t.Error(got)
	}
}

// A limb that grows level, slung in one sling away from its balance, tips until it hangs upright.
func TestOneSlingAsideOfTheBalanceTips(t *testing.T) {
	j := jobtest.Whole()
	j.Site.Targets = []job.Target{}
	j.Site.Cranes = []job.Crane{{ID: "c", Name: "crane", At: job.Spot{X: 0, Y: -14}, BoomM: 60, Chart: []crane.ChartRow{{RadiusM: 3, BoomM: 60, CapacityKg: 9000}, {RadiusM: 60, BoomM: 60, CapacityKg: 9000}}}}
	at := -1
	for i := range j.Picks {
		if j.Picks[i].What == job.WhatLimb {
			at = i
			break
		}
	}
	p := &j.Picks[at]
	j.Picks = j.Picks[:at+1]
	limb := &j.Trees[0].Limbs[0]
	for i := range j.Trees[0].Limbs {
		if j.Trees[0].Limbs[i].ID == p.Limb {
			limb = &j.Trees[0].Limbs[i]
		}
	}
	limb.AngleDeg = 90
	p.Way, p.Rig, p.TieM = job.WayCrane, "", nil
	p.Lift = &job.Lift{Crane: "c", Slings: []crane.Sling{{Name: "one", AtM: 0.2, LengthM: 3, WllKn: 60, Hitch: crane.Choker}}}
	a := assess(&j, p.ID)
	if a.Detail.Lift == nil || a.Detail.Lift.TiltDeg != 90 {
		t.Fatalf("slung near its butt: %+v %v", a.Detail.Lift, codes(a.Picks[at]))
	}
	// Its tip comes to hang its length less the balance's place beneath the balance: a shed as high
	// as that under it is touched, one lower is not.
	length := a.Detail.Piece.LengthM
	under := limb.AtM - (length - a.Detail.Piece.CogM)
	x, y := math.Sin(limb.AzimuthDeg*math.Pi/180), math.Cos(limb.AzimuthDeg*math.Pi/180)
	out := a.Detail.Piece.CogM
	j.Site.Targets = []job.Target{besides("shed", x*out, y*out, 0.5, under+0.3)}
	if got := clearOf(t, assess(&j, p.ID), "shed"); got > 0 {
		t.Errorf("a shed higher than its tip hangs: %v m", got)
	}
}
