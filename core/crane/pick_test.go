package crane

import (
	"math"
	"testing"

	"elkstay/core/wood"
)

func near(t *testing.T, what string, got, want, relative float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= relative*math.Max(math.Abs(want), 1e-9)) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

func pick(mass, length, cog float64, slings ...Sling) Pick {
	return Pick{
		MassKg: wood.Range{Low: mass, Likely: mass, High: mass}, Piece: Piece{length, cog}, Slings: slings,
		Chart: []ChartRow{{8, 24, 3900}, {10, 24, 3000}, {10, 30, 2800}, {12, 30, 2300}}, RadiusM: 9, BoomM: 24,
	}
}

func sling(name string, at, length float64) Sling {
	return Sling{Name: name, AtM: at, LengthM: length, WllKn: 20, Hitch: Vertical}
}

// The sling-angle factors of OSHA 1910.184 and the riggers' tables (from memory): a leg
// at 60° to the level carries 1.155 times its half of the load, at 45° 1.414, at 30° 2.
func TestSlingAngleFactors(t *testing.T) {
	for _, c := range []struct{ angle, factor float64 }{{60, 1.155}, {45, 1.414}, {30, 2.000}} {
		half := 2 * math.Cos(c.angle*math.Pi/180)
		p := pick(1000, 10, 5, sling("a", 5-half, 2), sling("b", 5+half, 2))
		if faults := p.Faults("body"); len(faults) > 0 {
			t.Fatal(faults)
		}
		l := p.Solve()
		for _, s := range l.Slings {
			near(t, "factor", s.TensionKn/(9.80665/2), c.factor, 5e-4)
			near(t, "angle", s.AngleDeg, c.angle, 1e-9)
		}
		near(t, "tilt", l.TiltDeg, 0, 1)
	}
}

// Choker ratings: ASME B30.9 (from memory).
func TestChokerReductions(t *testing.T) {
	for _, c := range []struct{ deg, factor float64 }{{180, 1}, {121, 1}, {120, 0.87}, {90, 0.87}, {89, 0.74}, {60, 0.74}, {59, 0.62}, {30, 0.62}, {29, 0.49}} {
		s := Sling{WllKn: 10, Hitch: Choker, ChokeDeg: &c.deg}
		near(t, "rating", s.Rating(), 10*0.8*c.factor, 1e-12)
	}
	near(t, "basket", Sling{WllKn: 10, Hitch: Basket}.Rating(), 20, 1e-12)
	near(t, "choke not given", Sling{WllKn: 10, Hitch: Choker}.Rating(), 8, 1e-12)
}

// Never between rows, never another column, never beyond the chart; a shorter boom's
// lower figure counts.
func TestChartIsReadAsChartsAre(t *testing.T) {
	p := pick(1000, 6, 3, sling("a", 3, 2))
	for _, c := range []struct {
		boom, radius float64
		want         float64
		ok           bool
	}{
		{24, 8, 3900, true}, {24, 8.1, 3000, true}, {22, 9.2, 3000, true}, {24, 10.1, 0, false},
		{25, 11, 2300, true}, {25, 10, 2800, true}, {31, 5, 0, false},
		// Nearer than the chart begins for the boom that counts.
		{24, 5.9, 0, false}, {25, 9.9, 0, false},
	} {
		p.BoomM, p.RadiusM = c.boom, c.radius
		if got, ok := p.capacity(); ok != c.ok || got != c.want {
			t.Errorf("boom %v, radius %v: got %v, %v; want %v, %v", c.boom, c.radius, got, ok, c.want, c.ok)
		}
	}
	p.Chart = append(p.Chart, ChartRow{10, 20, 1900})
	p.BoomM, p.RadiusM = 22, 9.5
	if got, _ := p.capacity(); got != 1900 {
		t.Errorf("a shorter boom holds 1900 and %v is read", got)
	}
	p.RadiusM = 50
	if l := p.Solve(); l.CapacityKg != nil || l.UsePct != nil || l.Within || len(p.Cautions(l)) == 0 {
		t.Errorf("beyond the chart: %+v", l)
	}
}

// As it hangs, forces and moments about the centre of gravity balance: summed anew in
// upright coordinates.
func TestHangingPieceIsInBalance(t *testing.T) {
	for _, slings := range [][]Sling{
		{sling("a", 1, 3), sling("b", 4.5, 3.4)},
		{sling("a", 0.5, 3.2), sling("b", 2.4, 2.6), sling("c", 5, 3.6)},
		{sling("a", 0.5, 4), sling("b", 2, 3.5), sling("c", 4, 3.5), sling("d", 5.5, 4)},
	} {
		p := pick(1200, 6, 2.6, slings...)
		if faults := p.Faults("body"); len(faults) > 0 {
			t.Fatal(faults)
		}
		l := p.Solve()
		tilt := l.TiltDeg * math.Pi / 180
		up := [2]float64{-math.Sin(tilt), math.Cos(tilt)} // upright, in the piece's axes
		fx, fy, moment := 0.0, 0.0, 0.0
		for i, s := range l.Slings {
			dx, dy := l.HookOverM-slings[i].AtM, l.HookHeightM
			long := math.Hypot(dx, dy)
			fx += s.TensionKn * dx / long
			fy += s.TensionKn * dy / long
			moment += (slings[i].AtM - 2.6) * s.TensionKn * dy / long
		}
		weight := 1200 * 9.80665e-3
		near(t, "along the piece", fx, weight*up[0], 1e-6)
		near(t, "square to it", fy, weight*up[1], 1e-6)
		near(t, "moment", 1+moment, 1, 1e-6)
		for _, s := range l.WorstTwo {
			if s.TensionKn > 0 && s.TensionKn < 0.2*weight {
				t.Errorf("the worst two leave %s with %v kN", s.Name, s.TensionKn)
			}
		}
	}
}

func TestWhatCannotHangIsRefused(t *testing.T) {
	for _, c := range []struct {
		location string
		p        Pick
	}{
		{"body.slings", pick(1000, 6, 5, sling("a", 1, 1), sling("b", 4, 1))},
		{"body.slings", pick(1000, 6, 2, sling("a", 0, 1), sling("b", 4, 1))},
		{"body.slings[1].at_m", pick(1000, 6, 2, sling("a", 1, 3), sling("b", 1, 3))},
		{"body.slings[0].at_m", pick(1000, 6, 2, sling("a", 7, 3))},
		{"body.piece.cog_m", pick(1000, 6, 6, sling("a", 3, 3))},
	} {
		if faults := c.p.Faults("body"); len(faults) == 0 || faults[0].Location != c.location {
			t.Errorf("got %v, want a fault at %s", faults, c.location)
		}
	}
}

// In slings that are all to one side of its balance a piece hangs upright on the one whose hook stays lowest; the others are slack.
func TestSlingsToOneSideHangOnOne(t *testing.T) {
	weight := 1000 * 9.80665e-3
	for _, c := range []struct {
		cog, a, b  float64 // balance; lengths of slings at 1 m and at 4 m
		tilt       float64
		onA, onB   float64
		over, high float64
	}{
		// Tip down, the balance beneath 4 m: from there 3 m of b; a would let its hook 4 + 3 over that.
		{5, 4, 3, 90, 0, weight, 4, 3},
		// b so long that a, tied higher, takes all.
		{5, 3, 7, 90, weight, 0, 1, 3},
		// Tip up, the balance beneath 1 m.
		{0.5, 2, 2, -90, weight, 0, 1, 2},
	} {
		p := pick(1000, 6, c.cog, sling("a", 1, c.a), sling("b", 4, c.b))
		if faults := p.Faults("body"); len(faults) > 0 {
			t.Errorf("%+v: %v", c, faults)
			continue
		}
		l := p.Solve()
		near(t, "tilt", l.TiltDeg, c.tilt, 1e-12)
		near(t, "hook over", l.HookOverM, c.over, 1e-12)
		near(t, "hook high", l.HookHeightM, c.high, 1e-12)
		near(t, "a", 1+l.Slings[0].TensionKn, 1+c.onA, 1e-12)
		near(t, "b", 1+l.Slings[1].TensionKn, 1+c.onB, 1e-12)
	}
}

func TestOneSlingAwayFromTheCentreHangsUpright(t *testing.T) {
	for _, c := range []struct{ at, tilt float64 }{{2.6, 0}, {1, 90}, {5, -90}} {
		p := pick(1000, 6, 2.6, sling("a", c.at, 2))
		l := p.Solve()
		near(t, "tilt", l.TiltDeg, c.tilt, 1e-12)
		near(t, "tension", l.Slings[0].TensionKn, 9.80665, 1e-12)
	}
}

// A sling right at the centre of gravity takes all, at either end of the set.
func TestASlingAtTheCentreOfGravity(t *testing.T) {
	for _, cog := range []float64{1, 4} {
		p := pick(1000, 6, cog, sling("a", 1, 3), sling("b", 4, 3))
		if faults := p.Faults("body"); len(faults) > 0 {
			t.Fatalf("%g m: %v", cog, faults)
		}
		l := p.Solve()
		for i, at := range []float64{1, 4} {
			want := 0.0
			if at == cog {
				want = 9.80665
			}
			near(t, l.Slings[i].Name, l.Slings[i].TensionKn, want, 1e-9)
		}
	}
}

// A lift that a chart has twice is the lesser of both, whichever stands first.
func TestALiftThatStandsTwice(t *testing.T) {
	for _, twice := range [][2]float64{{5000, 3000}, {3000, 5000}} {
		p := pick(1000, 6, 2, sling("a", 2, 3))
		p.BoomM, p.RadiusM = 20, 10
		p.Chart = []ChartRow{{RadiusM: 10, BoomM: 20, CapacityKg: twice[0]}, {RadiusM: 12, BoomM: 20, CapacityKg: 2000}, {RadiusM: 10, BoomM: 20, CapacityKg: twice[1]}}
		if l := p.Solve(); l.CapacityKg == nil || *l.CapacityKg != 3000 {
			t.Errorf("%v: %v", twice, l.CapacityKg)
		}
	}
}

// The middle one of three slings stands over the balance: with either of the others alone it carries all, and those nothing, whatever
// the lengths round to.
func TestTheMiddleOfThreeCarriesAll(t *testing.T) {
	weight := 800 * 9.80665 / 1000
	for k := range 49 {
		far := 0.4 + 0.1*float64(k)
		p := Pick{MassKg: wood.Range{Low: 700, Likely: 750, High: 800}, Piece: Piece{LengthM: 12, CogM: 6}, Slings: []Sling{
			{Name: "a", AtM: 6 - far, LengthM: math.Hypot(far, 5), WllKn: 20, Hitch: "vertical"}, {Name: "b", AtM: 6, LengthM: 5, WllKn: 20, Hitch: "vertical"}, {Name: "c", AtM: 6 + far, LengthM: math.Hypot(far, 5), WllKn: 20, Hitch: "vertical"}}}
		two := p.Solve().WorstTwo
		if !(math.Abs(two[1].TensionKn-weight) <= 1e-9*weight) {
			t.Errorf("%.1f m to either side: the middle one carries %v kN of %v", far, two[1].TensionKn, weight)
		}
		// Without the middle one each of the others carries half, along itself.
		if want := weight / 2 * math.Hypot(far, 5) / 5; !(math.Abs(two[0].TensionKn-want) <= 1e-9*want) || !(math.Abs(two[2].TensionKn-want) <= 1e-9*want) {
			t.Errorf("%.1f m to either side: %v and %v kN, want %v", far, two[0].TensionKn, two[2].TensionKn, want)
		}
	}
}
