package felled

import (
	"strings"
	"testing"

	"elkstay/core/haul"
	"elkstay/core/hold"
	"elkstay/core/job/jobtest"
)

// The advantage of a system is that of kind haul, pulley by pulley.
func TestAdvantageIsThatOfHaul(t *testing.T) {
	three := haul.System{LoadKn: 1, Pulleys: []haul.Pulley{{ID: "a", On: "anchor", Efficiency: 0.9}, {ID: "m", On: "load", Efficiency: 0.9}}, Ropes: []haul.Rope{{ID: "r", Path: []string{"load", "a", "m", "hand"}}}}
	jobtest.Near(t, "3:1", advantage(3, 0.9), three.Solve().Actual)
	jobtest.Near(t, "9:1", advantage(9, 0.9), three.Solve().Actual*three.Solve().Actual)
	jobtest.Near(t, "1:1", advantage(1, 0.9), 1)
	// Simple systems by the textbooks' sum 1 + e + e² …, a term for each part.
	sum, leg := 0.0, 1.0
	for parts := 1; parts <= 6; parts++ {
		sum, leg = sum+leg, leg*0.9
		jobtest.Near(t, "simple", advantage(parts, 0.9), sum)
	}
}

// In a 3:1 of pulleys that leave 0.9 the line at the hand carries T, then 0.9·T and 0.81·T, together
// the load: its pulleys take the first two and the last two of them. A 9:1 is a 3:1 on another.
func TestWhatThePulleysOfASystemTake(t *testing.T) {
	const load = 27.1
	hand := load / (1 + 0.9 + 0.81)
	pulleys, rope := inSystem(3, load)
	if len(pulleys) != 2 {
		t.Fatal(pulleys)
	}
	jobtest.Near(t, "first pulley", pulleys[0], hand*1.9)
	jobtest.Near(t, "second", pulleys[1], hand*0.9*1.9)
	jobtest.Near(t, "line", rope, hand)
	nine, _ := inSystem(9, load)
	jobtest.Near(t, "hardest of a 9:1", nine[0], hand*1.9)
	jobtest.Near(t, "lightest", nine[3], hand/2.71*0.9*1.9)
	j := jobtest.Poled()
	o := made(t, &j)
	for i := range o.Loads {
		l := &o.Loads[i]
		if l.Part != hold.PartPull {
			continue
		}
		if said := strings.Join(append(l.Cautions, l.From.Beside(l)...), " "); strings.Contains(said, "In the 3:1 its pulleys take") {
			return
		}
	}
	t.Error("nothing is said of what the pulleys of its 3:1 take")
}
