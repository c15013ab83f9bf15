package swing

import (
	"math"
	"testing"

	"elkstay/core/line"
)

func near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.IsNaN(got) || !(math.Abs(got-want) <= 1e-6*math.Max(1, math.Abs(want))) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// From a quarter swing the line carries three times the weight at the bottom, and the
// speed is √(2gR) (any text on mechanics). Just below level comes as near as may be.
func TestQuarterSwing(t *testing.T) {
	s := Swing{Pivot: line.Point{Z: 10}, Tie: line.Point{X: 4, Z: 10 - 1e-9}, MassKg: 100}
	a := s.Solve()
	near(t, "factor", a.Factor, 3)
	near(t, "line", a.LineKn, 3*0.980665)
	near(t, "speed", a.SpeedMS, math.Sqrt(2*9.80665*4))
	near(t, "lowest", a.LowestM, 6)
}

// Clearances against a plain search along the arc, ten thousand places fine.
func TestClearanceAgainstASearch(t *testing.T) {
	s := Swing{
		Pivot: line.Point{X: 1, Y: 2, Z: 18}, Tie: line.Point{X: 6, Y: 5, Z: 14}, MassKg: 200, ReachM: 1, GroundZ: 0.5,
		Obstacles: []Box{
			{"shed", line.Point{X: -9, Y: -9}, line.Point{X: -3, Y: -1, Z: 9}},
			{"wall", line.Point{X: 0, Y: 0}, line.Point{X: 0.2, Y: 20, Z: 11.4}},
			{"through it", line.Point{X: 0, Y: 1, Z: 10}, line.Point{X: 3, Y: 3, Z: 13}},
		},
	}
	a := s.Solve()
	theta := a.StartDeg * math.Pi / 180
	across := math.Hypot(5, 3)
	for i, box := range s.Obstacles {
		least := math.Inf(1)
		for k := range 10001 {
			angle := theta - 2*theta*float64(k)/10000
			out := a.RadiusM * math.Sin(angle)
			x, y, z := 1+out*5/across, 2+out*3/across, 18-a.RadiusM*math.Cos(angle)
			dx := max(box.Min.X-x, 0, x-box.Max.X)
			dy := max(box.Min.Y-y, 0, y-box.Max.Y)
			dz := max(box.Min.Z-z, 0, z-box.Max.Z)
			least = min(least, math.Sqrt(dx*dx+dy*dy+dz*dz))
		}
		if got := a.Clearances[i].ClearanceM; !(math.Abs(got-(least-1)) <= 1e-4) {
			t.Errorf("%s: got %v, want %v", box.Name, got, least-1)
		}
	}
	near(t, "ground", a.Clearances[3].ClearanceM, 18-a.RadiusM-0.5-1)
	if len(s.Cautions(a)) < 2 {
		t.Error("it goes through a box and nobody says so")
	}
}

func TestASlackLineIsRefused(t *testing.T) {
	s := Swing{Pivot: line.Point{Z: 10}, Tie: line.Point{X: 4, Z: 10}, Obstacles: []Box{{"b", line.Point{X: 2}, line.Point{X: 1}}}}
	faults := s.Faults("body")
	if len(faults) != 2 || faults[0].Location != "body.tie.z" || faults[1].Location != "body.obstacles[0].min.x" {
		t.Errorf("got %v", faults)
	}
}

// What it strikes is named, and nothing else; a touch is a strike. The weight stands in the working, 100 kg by hand.
func TestWhatIsSaidOfASwing(t *testing.T) {
	s := Swing{Pivot: line.Point{Z: 10}, Tie: line.Point{X: 4, Z: 10 - 1e-9}, MassKg: 100, GroundZ: 6, Obstacles: []Box{
		{"far shed", line.Point{X: 9, Y: -1}, line.Point{X: 12, Y: 1, Z: 3}},
		{"wall in the way", line.Point{X: -1, Y: -1}, line.Point{X: 0, Y: 1, Z: 8}},
	}}
	a := s.Solve()
	said := s.Cautions(a)
	if len(said) != 3 || said[1] != "It strikes wall in the way." || said[2] != "It strikes ground." {
		t.Errorf("%q; ground at %g", said, a.Clearances[2].ClearanceM)
	}
	s.GroundZ = 5.9
	if said := s.Cautions(s.Solve()); len(said) != 2 {
		t.Errorf("0.1 m over the ground: %q", said)
	}
	steps := s.Working(a)
	if steps[3].Expression != "W·(3 − 2·cos θ₀), W = 0.980665 kN" || len(steps) != 8 || steps[7].Value != a.Clearances[2].ClearanceM {
		t.Errorf("%+v", steps)
	}
	// The shed's near top edge is 9 m out and 7 m down from the pivot: nearest straight towards it.
	near(t, "far shed", a.Clearances[0].ClearanceM, math.Hypot(9, 7)-4)
	near(t, "at", a.Clearances[0].AtDeg, math.Atan2(9, 7)*180/math.Pi)
}
