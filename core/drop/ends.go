package drop

import (
	"math"

	"elkstay/core/gear"
	"elkstay/core/units"
)

// An End is a line that holds one end of a piece, in the upright plane of two lines: x to the
// right, z up.
type End struct {
	AtM                float64   // on the piece, from its butt, m
	X, Z               float64   // its point, m
	SlackM             float64   // before the cut, m
	PretensionKn       float64   // before the cut, kN; with it no slack
	LeadM              float64   // rope behind the point, m
	Rope               gear.Rope // dynamic factor included
	Efficiency         float64   // of all turns behind the tie
	AnchorStiffnessKnM float64   // of what the point sits on, kN/m; 0: rigid
	HoldKn             float64   // tension on the lead at which rope runs, kN; +Inf: it is locked off
}

// Ends is a straight piece about to leave its cut onto two lines. It turns on its hinge, at its
// butt, until its face closes, until the lines stop it there and the hinge is cut through, or
// until it is seen not to turn; then it goes over to the lines. The wood of the hinge holds
// nothing back, and all damping is left out.
type Ends struct {
	MassKg, LengthM, CogM float64
	InertiaKgM2           float64 // about its centre of gravity
	X, Z                  float64 // of its centre of gravity before the cut, m
	AttitudeDeg           float64 // of its tip above the level, seen from its butt
	HingeDeg              float64 // how far it turns before its hinge lets go; 0: at once
	Ends                  [2]End
}

// EndsRun is how two lines catch a piece.
type EndsRun struct {
	PeakKn  [2]float64
	RunM    [2]float64 // rope that ran out
	LineM   [2]float64 // unstretched at the end, m
	TS      []float64
	X, Z    []float64 // of the centre of gravity
	Deg     []float64 // attitude
	Kn      [][2]float64
	LeftDeg float64 // how far it had turned when its hinge let go
	LeftS   float64 // and when
	Energy  float64 // most that energy strays from what it was, as a share of the fall's; only without a run
	Stopped bool    // it has come to its lowest
}

// endsState is x, z, attitude and their rates.
type endsState [6]float64

// Frames of a catch are so far apart, s; it is followed no longer than longestCatch.
const (
	endsFrame    = 0.02
	longestCatch = 12.0
	longestHinge = 4.0 // a piece that has not turned over by then does not go by itself
)

// Follow follows the piece from its cut until it has come to its lowest a second time.
func (e *Ends) Follow() EndsRun {
	var run EndsRun
	var gives [2]give
	var long, slip [2]float64
	y := endsState{e.X, e.Z, e.AttitudeDeg * math.Pi / 180}
	stiffest := 0.0
	for i := range e.Ends {
		one := &e.Ends[i]
		x, z := e.tie(&y, i)
		apart := far(x-one.X, z-one.Z)
		c := Case{Rigging: Rigging{LeadM: one.LeadM, Rope: one.Rope, BlockEfficiency: one.Efficiency, AnchorStiffnessKnM: one.AnchorStiffnessKnM}, Course: &Course{LineM: max(0.05, apart+one.SlackM)}}
		gives[i].lay(&c)
		stretched, _ := gives[i].at(one.PretensionKn)
		long[i] = apart + one.SlackM - stretched
		slip[i] = one.HoldKn / one.Efficiency
		for k := range gives[i].n {
			stiffest = max(stiffest, 1000/gives[i].slope[k])
		}
	}
	arm := math.Max(e.CogM, e.LengthM-e.CogM)
	step := min(0.001, 0.05/math.Sqrt(2*stiffest*(1/e.MassKg+arm*arm/e.InertiaKgM2)))
	tension := func(y *endsState, sin, cos float64, i int) (kn, ux, uz float64) {
		one := &e.Ends[i]
		x, z := e.tieAt(y, sin, cos, i)
		dx, dz := one.X-x, one.Z-z
		apart := far(dx, dz)
		if apart <= long[i] || apart == 0 {
			return 0, 0, 0
		}
		return min(slip[i], gives[i].pull(apart-long[i])/1000), dx / apart, dz / apart
	}
	hinged := e.HingeDeg > 0
	inertia := e.InertiaKgM2 + e.MassKg*e.CogM*e.CogM // about the hinge
	rates := func(y *endsState) (d endsState) {
		d[0], d[1], d[2] = y[3], y[4], y[5]
		sin, cos := math.Sincos(y[2])
		if hinged {
			turning := -e.MassKg * units.Gravity * e.CogM * cos
			for i := range e.Ends {
				kn, ux, uz := tension(y, sin, cos, i)
				turning += 1000 * kn * e.Ends[i].AtM * (cos*uz - sin*ux)
			}
			d[5] = turning / inertia
			d[3] = -e.CogM * (d[5]*sin + y[5]*y[5]*cos)
			d[4] = e.CogM * (d[5]*cos - y[5]*y[5]*sin)
			return d
		}
		d[4] = -units.Gravity
		for i := range e.Ends {
			kn, ux, uz := tension(y, sin, cos, i)
			force := 1000 * kn
			d[3] += force * ux / e.MassKg
			d[4] += force * uz / e.MassKg
			lever := e.Ends[i].AtM - e.CogM
			d[5] += lever * (cos*uz - sin*ux) * force / e.InertiaKgM2
		}
		return d
	}
	energy := func(y *endsState) (sum float64) {
		sum = e.MassKg*(units.Gravity*y[1]+(y[3]*y[3]+y[4]*y[4])/2) + e.InertiaKgM2*y[5]*y[5]/2
		sin, cos := math.Sincos(y[2])
		for i := range e.Ends {
			one := &e.Ends[i]
			x, z := e.tieAt(y, sin, cos, i)
			if apart := far(one.X-x, one.Z-z); apart > long[i] {
				kn := gives[i].pull(apart-long[i]) / 1000
				_, stored := gives[i].at(kn)
				sum += 1000 * stored
			}
		}
		return sum
	}
	began, next, rose := energy(&y), 0.0, 0
	falling, most := false, 0.0
	for t := 0.0; t < longestCatch && (hinged || rose < 2); t += step {
		if t >= next-1e-9 {
			next += endsFrame
			sin, cos := math.Sincos(y[2])
			a, _, _ := tension(&y, sin, cos, 0)
			b, _, _ := tension(&y, sin, cos, 1)
			run.TS, run.X, run.Z, run.Deg, run.Kn = append(run.TS, t), append(run.X, y[0]), append(run.Z, y[1]), append(run.Deg, y[2]*180/math.Pi), append(run.Kn, [2]float64{a, b})
		}
		k1 := rates(&y)
		y2 := y.plus(&k1, step/2)
		k2 := rates(&y2)
		y3 := y.plus(&k2, step/2)
		k3 := rates(&y3)
		y4 := y.plus(&k3, step)
		k4 := rates(&y4)
		for n := range y {
			y[n] += step / 6 * (k1[n] + 2*k2[n] + 2*k3[n] + k4[n])
		}
		sin, cos := math.Sincos(y[2])
		for i := range e.Ends {
			kn, _, _ := tension(&y, sin, cos, i)
			run.PeakKn[i] = max(run.PeakKn[i], kn)
			if kn >= slip[i]-1e-12 && !math.IsInf(slip[i], 1) {
				one := &e.Ends[i]
				x, z := e.tieAt(&y, sin, cos, i)
				stretched, _ := gives[i].at(slip[i])
				if ran := far(one.X-x, one.Z-z) - stretched - long[i]; ran > 0 {
					long[i] += ran
					run.RunM[i] += ran
				}
			}
		}
		if hinged {
			turned := math.Abs(y[2]*180/math.Pi - e.AttitudeDeg)
			most = max(most, turned)
			if turned >= e.HingeDeg || turned < most-1e-6 || t >= longestHinge {
				hinged, run.LeftDeg, run.LeftS = false, turned, t+step
			}
			if !hinged {
				falling = false
			} else {
				continue
			}
		}
		if fell := e.MassKg * units.Gravity * max(0.01, e.Z-y[1]); run.RunM == [2]float64{} {
			run.Energy = max(run.Energy, math.Abs(energy(&y)-began)/fell)
		}
		if y[4] < -1e-4 {
			falling = true
		} else if falling && y[4] > 0 {
			falling, rose = false, rose+1
		}
	}
	run.Stopped, run.LineM = rose > 0 || !falling, long
	return run
}

// plus is a state moved on by a rate.
func (y *endsState) plus(rate *endsState, by float64) (out endsState) {
	for n := range y {
		out[n] = y[n] + by*rate[n]
	}
	return out
}

// tie is where an end is tied.
func (e *Ends) tie(y *endsState, i int) (x, z float64) {
	sin, cos := math.Sincos(y[2])
	return e.tieAt(y, sin, cos, i)
}

// tieAt is where an end is tied, by the sine and cosine of how the piece lies.
func (e *Ends) tieAt(y *endsState, sin, cos float64, i int) (x, z float64) {
	lever := e.Ends[i].AtM - e.CogM
	return y[0] + lever*cos, y[1] + lever*sin
}
