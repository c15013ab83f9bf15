package assess

import (
	"math"
	"strings"
	"testing"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// A hold that is more than the weight on the lead, and three quarters of which are not, is no hold: the hand says so, and nothing is called.
// A third more than the weight is one, by a hair.
func TestAHoldThatLessFrictionDoesNotKeep(t *testing.T) {
	for share, kept := range map[float64]bool{1.32: false, 1.345: true} {
		j := jobtest.Stem()
		j.Site.Targets, j.Trees[0].HeightM = nil, jobtest.Of(18)
		w := assess(&j, "p1").Detail.Piece.MassKg.High * 9.80665 / 1000
		// Of a block of 0.9.
		j.Rigs[0].Catch = job.Catch{How: job.ByHold, HoldKn: jobtest.Of(share * 0.9 * w)}
		a := assess(&j, "p1")
		hand, line := rung(t, a, hold.PartHand), rung(t, a, hold.PartLine)
		if (hand.Verdict != policy.NotHeld) != kept || line.Verdict == policy.NotHeld {
			t.Errorf("%v of the weight: the hand is %s, the line %s", share, hand.Verdict, line.Verdict)
		}
		if said := strings.Contains(a.Picks[0].Call, "never stops with less friction"); said == kept {
			t.Errorf("%v of the weight: called %q", share, a.Picks[0].Call)
		}
		if f := a.Detail.Catch.Friction; f == nil || (f.RunWithLessM != nil) != kept {
			t.Errorf("%v of the weight: %+v", share, f)
		}
		if !a.Detail.Catch.Holds {
			t.Error("with the friction given it is held")
		}
	}
}

// Each rung is that of the friction which loads it more, and says which: the line is held hardest with a quarter more, the hand of a line that
// does not run has most with a quarter less, by the capstan equation.
func TestARungSaysByWhichFriction(t *testing.T) {
	j := jobtest.Whole()
	// Straight under its block a light limb, which three turns hold with either friction.
	j.Rigs[0].Device.Wraps = jobtest.Of(3)
	j.Rigs[0].SlackM = jobtest.Of(0)
	a := assess(&j, "p2")
	hand := rung(t, a, hold.PartHand)
	turns := 2 * math.Pi * 3 * 0.2
	if !strings.Contains(hand.When, "a quarter less friction") {
		t.Errorf("the hand: %+v", hand)
	}
	rest := a.Detail.Piece.MassKg.High * 9.80665 / 1000
	path := rung(t, a, hold.PartDevice).RestingKn / rest
	jobtest.Near(t, "in the hand at rest", hand.RestingKn, rest*path*math.Exp(-0.75*turns))
	stem := jobtest.Stem()
	b := assess(&stem, "p1")
	line := rung(t, b, hold.PartLine)
	if !strings.Contains(line.When, "a quarter more friction") {
		t.Errorf("the line: %+v", line)
	}
	// Where rope runs the lead has what is held: 0.2 kN behind two and a half turns at 0.25.
	jobtest.Near(t, "the lead", *rung(t, b, hold.PartDevice).PeakKn, 0.2*math.Exp(2*math.Pi*2.5*0.25))
	stem.Rigs[0].Catch.How = job.Locked
	if locked := rung(t, assess(&stem, "p1"), hold.PartLine); locked.When != "" {
		t.Errorf("tied off no friction counts: %q", locked.When)
	}
}

// Of twin lines, too, the room, the run and what is held are those of the friction that lets most run: a hold of which three quarters are left.
func TestTwinsSlipWithLessFriction(t *testing.T) {
	told := func(holdKn float64) Assessment {
		j := jobtest.Hung(0)
		j.Picks[0].Twin = &job.Twin{}
		j.Rigs[0].SlackM = jobtest.Of(0.6)
		j.Rigs[0].Catch = job.Catch{How: job.ByHold, HoldKn: &holdKn}
		return assess(&j, "p1")
	}
	weight := *told(50).Detail.Ladder[0].PeakKn
	full, less := told(1.6*weight), told(0.75*1.6*weight)
	if full.Picks[0].RunM == nil || less.Detail.Catch.RunM == nil {
		t.Fatalf("%+v, %+v", full.Picks[0], less.Detail.Catch)
	}
	jobtest.Near(t, "run with less friction", *full.Picks[0].RunM, *less.Detail.Catch.RunM)
	if slips := told(0.6 * weight); slips.Picks[0].Verdict != policy.NotHeld {
		t.Errorf("either may slip: %s", slips.Picks[0].Verdict)
	}
}
