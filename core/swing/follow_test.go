package swing

import (
	"math"
	"testing"

	"elkstay/core/line"
	"elkstay/core/units"
)

// A swing followed through time keeps its energy, passes the bottom with the arc's speed
// and pull, and takes the pendulum's own time: the complete elliptic integral by the
// arithmetic-geometric mean (any text on mechanics).
func TestFollowIsAPendulum(t *testing.T) {
	for _, startDeg := range []float64{10, 45, 80} {
		const radius = 6.0
		sin, cos := math.Sincos(startDeg * math.Pi / 180)
		s := Swing{Pivot: line.Point{Z: 10}, Tie: line.Point{X: radius * sin, Z: 10 - radius*cos}, MassKg: 200}
		arc, series := s.Solve(), s.Follow(0.005)
		weight := s.MassKg * units.Gravity / 1000
		most := 0.0
		for i := range series.TS {
			most = max(most, series.LineKn[i])
			// T = W(3·cos θ − 2·cos θ₀), whatever the moment.
			height := -series.Z[i] / radius
			if want := weight * (3*height - 2*cos); !(math.Abs(series.LineKn[i]-want) <= 1e-6*weight) {
				t.Fatalf("from %v°, at %v s: line %v, want %v", startDeg, series.TS[i], series.LineKn[i], want)
			}
		}
		if !(math.Abs(most-arc.LineKn) <= 1e-4*arc.LineKn) {
			t.Errorf("from %v°: peaks at %v, the arc at %v", startDeg, most, arc.LineKn)
		}
		a, b := 1.0, math.Cos(startDeg*math.Pi/360)
		for range 20 {
			a, b = (a+b)/2, math.Sqrt(a*b)
		}
		half := math.Pi * math.Sqrt(radius/units.Gravity) / a
		if end := series.TS[len(series.TS)-1]; !(math.Abs(end-half) <= 0.011) {
			t.Errorf("from %v°: swings across in %v s, a pendulum in %v", startDeg, end, half)
		}
	}
}

func TestFollowEnds(t *testing.T) {
	still := Swing{Pivot: line.Point{Z: 10}, Tie: line.Point{Z: 4}, MassKg: 100}
	if n := len(still.Follow(0.02).TS); n > longestSwing/0.02+2 {
		t.Errorf("hanging straight down it is followed for %d samples", n)
	}
}
