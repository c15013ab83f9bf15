package drop

import "math"

// state is what moves: the piece's centre of gravity (x, z), its tilt from upright,
// the spar's top u, their speeds, and the rope that has run. While the piece tips on
// its hinge only tilt and u are free, and x and z follow from them.
type state [9]float64

const (
	ix = iota
	iz
	iTilt
	iU
	iVx
	iVz
	iSpin
	iVu
	iRun
)

// Dormand and Prince's embedded pair of orders 5 and 4 (J. Comp. Appl. Math. 6,
// 1980; coefficients from memory, held by the order test).
var (
	dpA = [7][6]float64{
		{},
		{1. / 5},
		{3. / 40, 9. / 40},
		{44. / 45, -56. / 15, 32. / 9},
		{19372. / 6561, -25360. / 2187, 64448. / 6561, -212. / 729},
		{9017. / 3168, -355. / 33, 46732. / 5247, 49. / 176, -5103. / 18656},
		{35. / 384, 0, 500. / 1113, 125. / 192, -2187. / 6784, 11. / 84},
	}
	dpError = [7]float64{
		71. / 57600, 0, -71. / 16695, 71. / 1920, -17253. / 339200, 22. / 525, -1. / 40,
	}
)

// Error allowed in a step: a share of the figure, and an absolute part in m, m/s and
// radians.
const (
	relativeError = 1e-8
	absoluteError = 1e-9
)

// rates gives the rate of change of a state; the time itself does not enter.
type rates func(y *state, dy *state)

// A stepper takes steps without allocating: it keeps what a step needs.
type stepper struct {
	f     rates
	k     [7]state
	next  state   // the state after the last step; its rates are k[6]
	allow float64 // how much more error than of a film is let pass
}

// step takes one step of length h from y, whose rates are in k0, and returns its error
// over what is allowed.
func (p *stepper) step(y, k0 *state, h float64) (excess float64) {
	p.k[0] = *k0
	for s := 1; s < 7; s++ {
		p.next = *y
		for j := range s {
			if a := h * dpA[s][j]; a != 0 {
				for i := range p.next {
					p.next[i] += a * p.k[j][i]
				}
			}
		}
		p.f(&p.next, &p.k[s])
	}
	for i := range p.next {
		e := 0.0
		for s := range p.k {
			e += dpError[s] * p.k[s][i]
		}
		allowed := absoluteError + relativeError*max(math.Abs(y[i]), math.Abs(p.next[i]))
		excess = max(excess, math.Abs(h*e)/(allowed*p.allow))
	}
	return excess
}

// between interpolates a step by Hermite's cubic at a share of it.
func between(y0, k0, y1, k1 *state, h, share float64) (y state) {
	s2, s3 := share*share, share*share*share
	a, b, c, d := 2*s3-3*s2+1, (s3-2*s2+share)*h, -2*s3+3*s2, (s3-s2)*h
	for i := range y {
		y[i] = a*y0[i] + b*k0[i] + c*y1[i] + d*k1[i]
	}
	return y
}
