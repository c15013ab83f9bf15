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
