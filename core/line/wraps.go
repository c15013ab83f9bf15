// Package line answers what a rope does on its way from the piece to the hand: the
// tension of every leg, the force on every point it turns at, the turns a device needs,
// what two lines from two points carry between them, and where a lowering's energy goes
// as heat.
//
// Legs are straight and without weight. Across a sheave the tension falls by the loss of
// its bearing and of bending the rope, scaled with the sine of half the angle of
// contact; a point is loaded with the sum of both legs. Two lines hold a piece in the
// upright plane through their points: three forces in balance. What tension is lost at a
// place, times the rope that passes, is heat there. Stretch, sag, swing and the stiffness
// of wet rope are not in it.
//
// Round a bollard, a fork or a hitch the tension falls by e^(μθ), θ the angle of
// contact in radians: the capstan equation (Euler 1762, Eytelwein 1808; in every
// text on mechanics). μ is one number for a thing that changes with wet, glaze,
// bark and the make of the rope: the answer is shown at a lower friction too,
// because friction flatters.
//
// Lengths are in metres, tensions in kilonewtons, energies in kilojoules, turns in whole
// rounds of 360°. The pure functions take what passed its Faults and return no errors.
package line

import (
	"fmt"
	"math"
)

// Capstan is how the equation is cited.
const Capstan = "capstan equation (Euler, Eytelwein)"

// LowerFriction is the share of the stated friction at which an answer is shown
// a second time (common practice: a glazed or wet device holds a quarter less).
const LowerFriction = 0.75

// WrapsFor returns how many turns hold a line of tension lineKn with a hand of
// handKn > 0 at friction μ > 0: ln(T/H)/(2πμ), and none when the hand alone holds
// more than the line needs.
func WrapsFor(lineKn, handKn, friction float64) float64 {
	return max(0, math.Log(lineKn/handKn)) / (2 * math.Pi * friction)
}

// HandFor returns the tension left for the hand behind the given number of turns:
// T·e^(−2πμn), kN.
func HandFor(lineKn, wraps, friction float64) float64 {
	return lineKn * math.Exp(-2*math.Pi*friction*wraps)
}

// HeldBy returns the line tension that a hand of handKn holds with the given
// number of turns: H·e^(2πμn), kN.
func HeldBy(handKn, wraps, friction float64) float64 {
	return handKn * math.Exp(2*math.Pi*friction*wraps)
}

// Cautions returns what must stand beside a figure that rests on one
// coefficient of friction.
func Cautions(friction, handAtLowerKn float64) []string {
	return []string{fmt.Sprintf(
		"Friction flatters: half a wrap more or less changes the hold by a factor of %.2f, and at a friction of %.3g in place of %.3g the hand must hold %.3g kN.",
		math.Exp(math.Pi*friction), friction*LowerFriction, friction, handAtLowerKn)}
}
