package haul

import (
	"math"
	"testing"
)

// Friction on a slope, by hand: level and level it is μ·W; uphill its own weight is taken off;
// with half the weight braked, half; a line that rises lifts it off its wheels.
func TestGripByHand(t *testing.T) {
	const w = 3000 * 9.80665 / 1000
	half := 0.5
	for what, c := range map[string]struct {
		grip Grip
		want float64
	}{
		"level":      {Grip{MassKg: 3000, Grip: 0.5}, 0.5 * w},
		"half":       {Grip{MassKg: 3000, Grip: 0.5, BrakedShare: &half}, 0.25 * w},
		"uphill":     {Grip{MassKg: 3000, Grip: 0.5, SlopeDeg: 10}, w * (0.5*math.Cos(math.Pi/18) - math.Sin(math.Pi/18))},
		"downhill":   {Grip{MassKg: 3000, Grip: 0.5, SlopeDeg: -10}, w * (0.5*math.Cos(math.Pi/18) + math.Sin(math.Pi/18))},
		"too steep":  {Grip{MassKg: 3000, Grip: 0.1, SlopeDeg: 20}, 0},
		"line rises": {Grip{MassKg: 3000, Grip: 0.5, LineUpDeg: 45}, 0.5 * w / (math.Sqrt2 / 2 * 1.5)},
	} {
		if got := c.grip.Solve().PullKn; !(math.Abs(got-c.want) <= 1e-9) {
			t.Errorf("%s: got %v, want %v", what, got, c.want)
		}
	}
}

// A vehicle on a slope, by a fine search of the pull at which weight and line together drag it off: straight up and down it is the sum of
// the kind grip; across it never holds more than on the level.
func TestAVehicleHoldsOnASlope(t *testing.T) {
	half := 0.5
	g := Grip{MassKg: 5000, Grip: 0.6, BrakedShare: &half, LineUpDeg: 12}
	weight := 5000 * 9.80665e-3
	rad := math.Pi / 180
	for _, slope := range []float64{0, 5, 10, 16} {
		for _, off := range []float64{0, 45, 90, 150, 180} {
			want := 0.0
			for kn := 0.0; kn < 40; kn += 0.001 {
				down := weight*math.Sin(slope*rad) + kn*math.Cos(12*rad)*math.Cos(off*rad)
				across := kn * math.Cos(12*rad) * math.Sin(off*rad)
				if math.Hypot(down, across) > 0.6*(0.5*weight*math.Cos(slope*rad)-kn*math.Sin(12*rad)) {
					break
				}
				want = kn
			}
			if got := g.HoldsOn(slope, off); !(math.Abs(got-want) <= 0.002) {
				t.Errorf("%v° of slope, %v° off downhill: holds %v kN, by search %v", slope, off, got, want)
			}
		}
		uphill := g
		uphill.SlopeDeg = slope
		// Pulled downhill it has to hold its own weight too, as one that pulls uphill.
		if got, want := g.HoldsOn(slope, 0), uphill.Solve().PullKn; !(math.Abs(got-want) <= 1e-6) {
			t.Errorf("%v° straight down: %v kN, by the kind %v", slope, got, want)
		}
	}
	if got := g.HoldsOn(20, 90); got != 0 {
		t.Errorf("where it slips by itself it holds %v kN", got)
	}
}
