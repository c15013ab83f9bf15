package swing

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/units"
)

// A Series is a swing, sample by sample, from rest to rest on the other side. X counts
// from the pivot towards the starting side, Z from the pivot up.
type Series struct {
	TS     []float64 // s
	X, Z   []float64 // of the tie, m
	LineKn []float64 // W(cos θ + v²/(gR)): weight along the line and what turns it
}

// longestSwing bounds a series, s.
const longestSwing = 60

// Follow follows a swing without Faults through time, a sample every step seconds: the
// pendulum θ″ = −(g/R)·sin θ by the classic Runge–Kutta method, ten steps a sample.
func (s *Swing) Follow(step float64) Series {
	down := r3.Sub(s.Tie.Vec(), s.Pivot.Vec())
	radius := r3.Norm(down)
	angle, spin := math.Acos(max(-1, min(1, -down.Z/radius))), 0.0
	weight := s.MassKg * units.Gravity / 1000
	var out Series
	const parts = 10
	h := step / parts
	turn := func(a float64) float64 { return -units.Gravity / radius * math.Sin(a) }
	for t := 0.0; t < longestSwing; t += step {
		sin, cos := math.Sincos(angle)
		out.TS = append(out.TS, t)
		out.X, out.Z = append(out.X, radius*sin), append(out.Z, -radius*cos)
		out.LineKn = append(out.LineKn, weight*(cos+spin*spin*radius/units.Gravity))
		if angle < 0 && spin >= 0 {
			break
		}
		for range parts {
			k1a, k1s := spin, turn(angle)
			k2a, k2s := spin+h/2*k1s, turn(angle+h/2*k1a)
			k3a, k3s := spin+h/2*k2s, turn(angle+h/2*k2a)
			k4a, k4s := spin+h*k3s, turn(angle+h*k3a)
			angle += h / 6 * (k1a + 2*k2a + 2*k3a + k4a)
			spin += h / 6 * (k1s + 2*k2s + 2*k3s + k4s)
		}
	}
	return out
}
