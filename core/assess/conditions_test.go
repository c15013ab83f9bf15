package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/space"
)

// The slope along a fall is the ground's slope seen that way; its tip comes down where a circle
// meets the ground, and it falls further down it.
func TestASlopeByHand(t *testing.T) {
	j := jobtest.Poled()
	j.Site.SlopeDeg, j.Site.SlopeTowardsDeg = jobtest.Of(20), jobtest.Of(90)
	v := surveyOf(t, &j)
	for bearing, want := range map[float64]float64{90: 20, 270: -20, 0: 0, 150: math.Atan(math.Tan(space.Radians(20))/2) * 180 / math.Pi} {
		if got := v.FallsAway(bearing); !(math.Abs(got-want) <= 1e-9) {
			t.Errorf("towards %v°: %v°, want %v°", bearing, got, want)
		}
	}
	level := jobtest.Poled()
	flat, steep := assess(&level, "p1"), assess(&j, "p1")
	if said := strings.Join(steep.Detail.Cautions, " "); !strings.Contains(said, "It falls downhill, on 20°") {
		t.Error(said)
	}
	w := flat.Detail.Piece.MassKg.High * 9.80665 / 1000
	jobtest.Nearly(t, "energy of the fall, more by what it falls down the slope", steep.Detail.Landing.EnergyKj-flat.Detail.Landing.EnergyKj, w*flat.Detail.Piece.CogM*math.Sin(space.Radians(20)))
	if steep.Detail.Fell.FarthestM < flat.Detail.Fell.FarthestM {
		t.Errorf("downhill its tip reaches %v m, on the level %v m", steep.Detail.Fell.FarthestM, flat.Detail.Fell.FarthestM)
	}
}

// What a fall meets is named in the order in which it turns into it, with the fall's energy until then.
func TestWhatAFallMeetsInOrder(t *testing.T) {
	j := jobtest.Poled()
	box := func(name string, x, top float64) job.Target {
		return job.Target{ID: name, Name: name, Kind: "building", Box: &job.Box{Min: job.Spot{X: x, Y: -2}, Max: job.Spot{X: x + 1, Y: 2}}, ToM: top}
	}
	// The higher wall further out is met before the low one near by: at atan2(12, 8) against atan2(5, 0.5) of the cut at 0.5 m.
	j.Site.Targets = []job.Target{box("kerb", 5, 1), box("gable", 12, 8.5)}
	a := assess(&j, "p1")
	said := strings.Join(a.Detail.Cautions, "\n")
	first := math.Atan2(12, 8)
	f := a.Detail.Fell
	w := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	cog := f.HeightM // above the hinge, as is the cut
	kj := w * (cog - cog*math.Cos(first))
	want := "It meets gable at " + printed(first*180/math.Pi, 0) + "°, 12.00 m out, with up to " + printed(kj, 0) + " kJ; then kerb at " + printed(math.Atan2(5, 0.5)*180/math.Pi, 0) + "°"
	if !strings.Contains(said, want) {
		t.Errorf("want %q in\n%s", want, said)
	}
	// Who stands straight behind the stump is told; at 45° or beyond the butt's way he is not.
	for _, c := range []struct {
		at   job.Spot
		told bool
	}{{job.Spot{X: -4}, true}, {job.Spot{X: -3, Y: 3.2}, false}, {job.Spot{X: -8}, false}, {job.Spot{X: -0.5}, false}} {
		j.Site.Posts = []job.Post{{ID: "g", Role: "ground lead", At: c.at}}
		if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); strings.Contains(said, "where the butt comes back") != c.told {
			t.Errorf("at %v: %s", c.at, said)
		}
	}
}

// A gust turns as hard on a tree at the light end of its weight as at the heavy end: of one that leans
// over its hinge, which the light end falls short of, it costs the same moment.
func TestAGustOnTheLightEnd(t *testing.T) {
	leaning := func(gust float64) Assessment {
		j := jobtest.Poled()
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = jobtest.Of(4), jobtest.Of(90)
		if gust > 0 {
			j.Site.GustMS, j.Site.GustTowardsDeg = jobtest.Of(gust), jobtest.Of(270)
			j.Picks[0].Fell.WindM2 = jobtest.Of(9)
		}
		return assess(&j, "p1")
	}
	calm, blown := leaning(0), leaning(14)
	if calm.Detail.Fell.ForwardM <= 0.2 {
		t.Fatalf("its balance is %v m ahead of its hinge", calm.Detail.Fell.ForwardM)
	}
	p := calm.Detail.Pulls[0]
	from, to := p.Points[0], p.Points[len(p.Points)-1]
	hinge := calm.Detail.Fell.Hinge.AheadOfCentreM
	x, y, z := to.X-from.X, to.Y-from.Y, to.Z-from.Z
	arm := ((from.Z-0.5)*x - (from.X-hinge)*z) / math.Sqrt(x*x+y*y+z*z)
	low, high := calm.Detail.Piece.MassKg.Low*9.80665/1000, calm.Detail.Piece.MassKg.High*9.80665/1000
	bending := calm.Detail.Fell.Hinge.BendingKnm
	// Calm, the light end needs the more of it; blown, either needs the gust's moment on top.
	moment := 0.6 * 9 * 14 * 14 / 1000 * math.Max(calm.Detail.Fell.HeightM, 7)
	got := blown.Detail.Pulls[0].NeedKn * arm / 1.3
	if want := bending - low*calm.Detail.Fell.ForwardM + moment*0.95; got < want || low >= high {
		t.Errorf("%v kN·m, at least %v", got, want)
	}
}

// A gust from ahead adds its moment to the pull that is needed, one from the side to what the hinge
// holds, one from behind nothing; worked by hand: 0.6·area·speed², at its balance or higher.
func TestGustsByHand(t *testing.T) {
	calm := jobtest.Poled()
	before := assess(&calm, "p1")
	arm := before.Detail.Fell.HeightM
	need := func(a Assessment) float64 { return *rung(t, a, hold.PartPull).PeakKn }
	aside := func(a Assessment) float64 { return *rung(t, a, hold.PartHinge).PeakKn * arm }
	// What one kilonewton metre costs at the tree: need is the margin times all moments over the arm.
	w := before.Detail.Piece.MassKg.High * 9.80665 / 1000
	all := 1.3 * (before.Detail.Fell.Hinge.BendingKnm - w*before.Detail.Fell.ForwardM)
	const area, speed = 9.0, 12.0
	// The middle of its outline, higher than its balance: two trapezes, 0.793 to 0.6 to 0.2 m wide.
	middle := func(from, long, wide, narrow float64) (area, at float64) {
		return long * (wide + narrow) / 2, from + long/3*(wide+2*narrow)/(wide+narrow)
	}
	a1, z1 := middle(0.5, 5.5, 0.8-0.2*0.2/5.7, 0.6)
	a2, z2 := middle(6, 12, 0.6, 0.2)
	moment := 0.6 * area * speed * speed / 1000 * ((a1*z1+a2*z2)/(a1+a2) - 0.5)
	for _, c := range []struct{ towards, back, side float64 }{{90, 0, 0}, {270, moment, 0}, {0, 0, moment}, {180, 0, moment}, {225, moment * math.Sqrt(0.5), moment * math.Sqrt(0.5)}} {
		j := jobtest.Poled()
		j.Site.GustMS, j.Site.GustTowardsDeg = jobtest.Of(speed), &c.towards
		j.Picks[0].Fell.WindM2 = jobtest.Of(area)
		a := assess(&j, "p1")
		got := need(a) / need(before)
		if want := 1 + 1.3*c.back/all; got < want*0.98 || got > want*1.02 {
			t.Errorf("blown to %v°: %v times the pull, want %v", c.towards, got, want)
		}
		if got := aside(a); got < c.side*0.98 || got > c.side*1.02+1e-9 {
			t.Errorf("blown to %v°: %v kN·m sideways, want %v", c.towards, got, c.side)
		}
		if said := strings.Join(a.Detail.Cautions, " "); !strings.Contains(said, "Gusts of 12 m/s are counted on 9 m²") {
			t.Error(said)
		}
	}
	// Nobody has said where it blows to: the worst of both.
	around := jobtest.Poled()
	around.Site.GustMS, around.Picks[0].Fell.WindM2 = jobtest.Of(speed), jobtest.Of(area)
	a := assess(&around, "p1")
	if got, want := need(a)/need(before), 1+1.3*moment/all; !(math.Abs(got-want) <= 0.02) || aside(a) < 0.98*moment || !strings.Contains(strings.Join(a.Detail.Cautions, " "), "nobody has said where they blow to") {
		t.Errorf("from anywhere: %v times the pull, %v aside, %v", got, aside(a), a.Detail.Cautions)
	}
	// Of no area said, its outline: a pole of 17.5 m and some half a metre through.
	j := jobtest.Poled()
	j.Site.GustMS, j.Site.GustTowardsDeg = jobtest.Of(speed), jobtest.Of(270)
	_, o := worked(t, &j)
	if area, height := o.Caught(); area < 17.5*0.4 || area > 17.5*0.65 || height < 5 || height > 9.5 {
		t.Errorf("its outline: %v m² at %v m", area, height)
	}
}
