package line

import (
	"math"
	"strings"
	"testing"
)

// The capstan equation against its own differential equation dT/dθ = −μT, followed
// in small steps (Heun) round the drum.
func TestHandAgainstTheDifferentialEquation(t *testing.T) {
	for _, c := range []struct{ line, wraps, friction float64 }{{9, 2.5, 0.2}, {3, 0.5, 0.35}, {40, 4, 0.12}} {
		const steps = 200_000
		tension, step := c.line, 2*math.Pi*c.wraps/steps
		for range steps {
			slope := -c.friction * tension
			tension += step / 2 * (slope - c.friction*(tension+step*slope))
		}
		if got := HandFor(c.line, c.wraps, c.friction); !(math.Abs(got/tension-1) <= 1e-8) {
			t.Errorf("%+v: got %v, want %v", c, got, tension)
		}
	}
}

func TestWrapsHoldWhatTheyAreAskedTo(t *testing.T) {
	for _, hand := range []float64{0.05, 0.2, 1} {
		wraps := WrapsFor(9, hand, 0.2)
		if got := HandFor(9, wraps, 0.2); !(math.Abs(got-hand) <= 1e-12) {
			t.Errorf("%v wraps leave %v, want %v", wraps, got, hand)
		}
		if got := HeldBy(hand, wraps, 0.2); !(math.Abs(got-9) <= 1e-12) {
			t.Errorf("%v wraps hold %v, want 9", wraps, got)
		}
	}
	if got := WrapsFor(0.2, 0.2, 0.2); got != 0 {
		t.Errorf("a hand that holds the line needs %v wraps", got)
	}
}

func TestCautionNamesTheFactorAndTheHand(t *testing.T) {
	got := Cautions(0.2, 0.42)
	if len(got) != 1 || !strings.Contains(got[0], "1.87") || !strings.Contains(got[0], "0.42 kN") {
		t.Errorf("got %q; e^(0.2π) is 1.87", got)
	}
}

// A hand that holds the line needs no turns, and nothing less than a turn of rope is asked of one that just holds it.
func TestNoTurnsForALineTheHandHolds(t *testing.T) {
	for _, hand := range []float64{1, 1.2} {
		if got := WrapsFor(1, hand, 0.2); got != 0 || math.Signbit(got) {
			t.Errorf("hand %v: %v turns", hand, got)
		}
	}
}

// By hand: μ = 0.2, a half turn multiplies by e^(0.2·π) = 1.874; shown again at 0.15.
func TestTheCautionByHand(t *testing.T) {
	want := "Friction flatters: half a wrap more or less changes the hold by a factor of 1.87, and at a friction of 0.15 in place of 0.2 the hand must hold 0.42 kN."
	if got := Cautions(0.2, 0.42); got[0] != want {
		t.Errorf("%q", got[0])
	}
	if got := Cautions(0.5, 1)[0]; !strings.Contains(got, "a factor of 4.81, and at a friction of 0.375 in place of 0.5") {
		t.Errorf("%q", got)
	}
}
