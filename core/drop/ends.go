package drop

import (
	"math"

	"elkstay/core/gear"
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
