// Package line answers what friction does to a rope on its way from the piece to
// the hand.
//
// Round a bollard, a fork or a hitch the tension falls by e^(μθ), θ the angle of
// contact in radians: the capstan equation (Euler 1762, Eytelwein 1808; in every
// text on mechanics). μ is one number for a thing that changes with wet, glaze,
// bark and the make of the rope: the answer is shown at a lower friction too,
// because friction flatters.
//
// Tensions are in kilonewtons, turns in whole rounds of 360°.
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
	if handKn >= lineKn {
		return 0
	}
	return math.Log(lineKn/handKn) / (2 * math.Pi * friction)
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
