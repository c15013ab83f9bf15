package drop

import (
	"math"

	"elkstay/core/units"
)

// Follow follows the piece from its cut until it has come to its lowest a second time.
func (e *Ends) Follow() EndsRun {
	c := newEndsCatch(e)
	y := endsState{e.X, e.Z, e.AttitudeDeg * math.Pi / 180}
	began, next, rose, falling := c.energy(&y), 0.0, 0, false
	for t := 0.0; t < longestCatch && (c.hinged || rose < 2); t += c.step {
		if t >= next-1e-9 {
			next += endsFrame
			c.frame(t, &y)
		}
		c.advance(&y)
		c.slips(&y)
		if c.hinged && c.turns(t, &y) {
			continue
		}
		if fell := e.MassKg * units.Gravity * max(0.01, e.Z-y[1]); c.run.RunM == [2]float64{} {
			c.run.Energy = max(c.run.Energy, math.Abs(c.energy(&y)-began)/fell)
		}
		if y[4] < -1e-4 {
			falling = true
		} else if falling && y[4] > 0 {
			falling, rose = false, rose+1
		}
	}
	c.run.Stopped, c.run.LineM = rose > 0 || !falling, c.long
	return c.run
}

// endsCatch is a catch on two lines on its way.
type endsCatch struct {
	*Ends
	gives   [2]give
	long    [2]float64 // unstretched length of each line from its tie to its hold, m
	slip    [2]float64 // tension at which its hold runs, kN
	step    float64    // s
	hinged  bool       // its hinge holds the butt still
	inertia float64    // about the hinge, kg·m²
	most    float64    // that it has turned on its hinge, degrees
	run     EndsRun
}

func newEndsCatch(e *Ends) *endsCatch {
	c := &endsCatch{Ends: e, hinged: e.HingeDeg > 0, inertia: e.InertiaKgM2 + e.MassKg*e.CogM*e.CogM}
	y := endsState{e.X, e.Z, e.AttitudeDeg * math.Pi / 180}
	stiffest := 0.0
	for i := range e.Ends {
		one := &e.Ends[i]
		x, z := e.tie(&y, i)
		apart := far(x-one.X, z-one.Z)
		laid := Case{Rigging: Rigging{LeadM: one.LeadM, Rope: one.Rope, BlockEfficiency: one.Efficiency, AnchorStiffnessKnM: one.AnchorStiffnessKnM}, Course: &Course{LineM: max(0.05, apart+one.SlackM)}}
		c.gives[i].lay(&laid)
		stretched, _ := c.gives[i].at(one.PretensionKn)
		c.long[i] = apart + one.SlackM - stretched
		c.slip[i] = one.HoldKn / one.Efficiency
		for k := range c.gives[i].n {
			stiffest = max(stiffest, 1000/c.gives[i].slope[k])
		}
	}
	arm := math.Max(e.CogM, e.LengthM-e.CogM)
	c.step = min(0.001, 0.05/math.Sqrt(2*stiffest*(1/e.MassKg+arm*arm/e.InertiaKgM2)))
	return c
}

// tension of a line, kN, and where it leads; sin and cos are of the piece's attitude.
func (c *endsCatch) tension(y *endsState, sin, cos float64, i int) (kn, ux, uz float64) {
	one := &c.Ends.Ends[i]
	x, z := c.tieAt(y, sin, cos, i)
	dx, dz := one.X-x, one.Z-z
	apart := far(dx, dz)
	if apart <= c.long[i] || apart == 0 {
		return 0, 0, 0
	}
	return min(c.slip[i], c.gives[i].pull(apart-c.long[i])/1000), dx / apart, dz / apart
}

func (c *endsCatch) rates(y *endsState) (d endsState) {
	d[0], d[1], d[2] = y[3], y[4], y[5]
	sin, cos := math.Sincos(y[2])
	if c.hinged {
		turning := -c.MassKg * units.Gravity * c.CogM * cos
		for i := range c.Ends.Ends {
			kn, ux, uz := c.tension(y, sin, cos, i)
			turning += 1000 * kn * c.Ends.Ends[i].AtM * (cos*uz - sin*ux)
		}
		d[5] = turning / c.inertia
		d[3] = -c.CogM * (d[5]*sin + y[5]*y[5]*cos)
		d[4] = c.CogM * (d[5]*cos - y[5]*y[5]*sin)
		return d
	}
	d[4] = -units.Gravity
	for i := range c.Ends.Ends {
		kn, ux, uz := c.tension(y, sin, cos, i)
		force := 1000 * kn
		d[3] += force * ux / c.MassKg
		d[4] += force * uz / c.MassKg
		lever := c.Ends.Ends[i].AtM - c.CogM
		d[5] += lever * (cos*uz - sin*ux) * force / c.InertiaKgM2
	}
	return d
}

// energy of piece and lines, J.
func (c *endsCatch) energy(y *endsState) (sum float64) {
	sum = c.MassKg*(units.Gravity*y[1]+(y[3]*y[3]+y[4]*y[4])/2) + c.InertiaKgM2*y[5]*y[5]/2
	sin, cos := math.Sincos(y[2])
	for i := range c.Ends.Ends {
		one := &c.Ends.Ends[i]
		x, z := c.tieAt(y, sin, cos, i)
		if apart := far(one.X-x, one.Z-z); apart > c.long[i] {
			kn := c.gives[i].pull(apart-c.long[i]) / 1000
			_, stored := c.gives[i].at(kn)
			sum += 1000 * stored
		}
	}
	return sum
}

// frame keeps a moment of the series.
func (c *endsCatch) frame(t float64, y *endsState) {
	sin, cos := math.Sincos(y[2])
	a, _, _ := c.tension(y, sin, cos, 0)
	b, _, _ := c.tension(y, sin, cos, 1)
	run := &c.run
	run.TS, run.X, run.Z, run.Deg, run.Kn = append(run.TS, t), append(run.X, y[0]), append(run.Z, y[1]), append(run.Deg, y[2]*180/math.Pi), append(run.Kn, [2]float64{a, b})
}

// advance goes on by a step of fourth order.
func (c *endsCatch) advance(y *endsState) {
	k1 := c.rates(y)
	y2 := y.plus(&k1, c.step/2)
	k2 := c.rates(&y2)
	y3 := y.plus(&k2, c.step/2)
	k3 := c.rates(&y3)
	y4 := y.plus(&k3, c.step)
	k4 := c.rates(&y4)
	for n := range y {
		y[n] += c.step / 6 * (k1[n] + 2*k2[n] + 2*k3[n] + k4[n])
	}
}

// slips keeps the most that each line carries, and lets out what its hold lets through.
func (c *endsCatch) slips(y *endsState) {
	sin, cos := math.Sincos(y[2])
	for i := range c.Ends.Ends {
		kn, _, _ := c.tension(y, sin, cos, i)
		c.run.PeakKn[i] = max(c.run.PeakKn[i], kn)
		if kn < c.slip[i]-1e-12 || math.IsInf(c.slip[i], 1) {
			continue
		}
		one := &c.Ends.Ends[i]
		x, z := c.tieAt(y, sin, cos, i)
		stretched, _ := c.gives[i].at(c.slip[i])
		if ran := far(one.X-x, one.Z-z) - stretched - c.long[i]; ran > 0 {
			c.long[i] += ran
			c.run.RunM[i] += ran
		}
	}
}

// turns reports whether a hinge still holds the piece; it lets go as far round as it holds, when the piece turns back, or at last.
func (c *endsCatch) turns(t float64, y *endsState) bool {
	turned := math.Abs(y[2]*180/math.Pi - c.AttitudeDeg)
	c.most = max(c.most, turned)
	if turned >= c.HingeDeg || turned < c.most-1e-6 || t >= longestHinge {
		c.hinged, c.run.LeftDeg, c.run.LeftS = false, turned, t+c.step
	}
	return c.hinged
}
