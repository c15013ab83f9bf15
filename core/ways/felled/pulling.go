package felled

import (
	"cmp"
	"fmt"
	"slices"

	"elkstay/core/haul"
	"elkstay/core/job"
)

// How well the pulleys of a pulling system turn (common practice, no source): as is counted on for
// what an effort gives, and as good ones may, for what the line then takes.
const (
	pulleysGive = 0.9
	pulleysLoad = 0.95
)

// pulling is the system between a line and what pulls at it: of so many parts, or as it was drawn.
type pulling struct {
	parts int
	drawn *haul.System // nil: of so many parts
}

func pullingOf(l *job.FellLine) pulling {
	if l.System != nil {
		return pulling{drawn: l.System}
	}
	return pulling{parts: *l.Parts}
}

// faults says what of a system cannot be; empty: nothing.
func (p pulling) faults() string {
	if p.drawn == nil {
		if p.parts > 6 && p.parts != 9 {
			return fmt.Sprintf("a pulling system has 1 to 6 parts, or 9; not %d", p.parts)
		}
		return ""
	}
	system := p.loaded(1, pulleysGive)
	if faults := system.Faults("system"); len(faults) > 0 {
		return "the pulling system as it is drawn cannot work: " + faults[0].Message
	}
	return ""
}

// more tells whether it is more than a straight pull.
func (p pulling) more() bool { return p.drawn != nil || p.parts > 1 }

// String is the system as a crew says it.
func (p pulling) String() string {
	if p.drawn == nil {
		return fmt.Sprintf("%d:1", p.parts)
	}
	system := p.loaded(1, pulleysGive)
	return fmt.Sprintf("system as drawn, %.3g:1", system.Solve().Ideal)
}

// loaded is a drawn system under a load. What its pulleys are said to turn at counts for what an
// effort gives; for what it may load, none turns worse than a good one.
func (p pulling) loaded(loadKn, efficiency float64) haul.System {
	system := *p.drawn
	system.LoadKn = loadKn
	if efficiency > pulleysGive {
		system.Pulleys = slices.Clone(system.Pulleys)
		for i := range system.Pulleys {
			system.Pulleys[i].Efficiency = max(system.Pulleys[i].Efficiency, efficiency)
		}
	}
	return system
}

// gain is what it makes of an effort, its pulleys turning so.
func (p pulling) gain(efficiency float64) float64 {
	if p.drawn == nil {
		return advantage(p.parts, efficiency)
	}
	system := p.loaded(1, efficiency)
	return system.Solve().Actual
}

// travel is how much is hauled at the effort for what comes in at the line.
func (p pulling) travel() float64 {
	if p.drawn == nil {
		return float64(p.parts)
	}
	system := p.loaded(1, pulleysGive)
	return system.Solve().TravelRatio
}

// inside is what every pulley of it takes while it moves a load, the hardest first, and the most that
// its own line does, kN.
func (p pulling) inside(loadKn float64) (pulleys []float64, rope float64) {
	if p.drawn == nil {
		return inSystem(p.parts, loadKn)
	}
	system := p.loaded(loadKn, pulleysGive)
	pulleys, rope = within(&system)
	slices.SortFunc(pulleys, func(a, b float64) int { return cmp.Compare(b, a) })
	return pulleys, rope
}

// Advantage is what a pulling system of so many parts makes of an effort, its pulleys' losses
// counted.
func Advantage(parts int) float64 { return advantage(parts, pulleysGive) }

// advantage is what a pulling system of so many parts makes of an effort: simple systems up to
// six, and one 3:1 on another.
func advantage(parts int, efficiency float64) float64 {
	if parts == 9 {
		return advantage(3, efficiency) * advantage(3, efficiency)
	}
	system := haul.Simple(parts, efficiency)
	return system.Solve().Actual
}

// inSystem is what every pulley of a pulling system of so many parts takes while it moves a load,
// the hardest first, and the most that its own line does, kN.
func inSystem(parts int, loadKn float64) (pulleys []float64, rope float64) {
	if parts == 9 {
		pulleys, rope = inSystem(3, loadKn)
		more, _ := inSystem(3, loadKn/advantage(3, pulleysGive))
		pulleys = append(pulleys, more...)
	} else {
		system := haul.Simple(parts, pulleysGive)
		system.LoadKn = loadKn
		pulleys, rope = within(&system)
	}
	slices.SortFunc(pulleys, func(a, b float64) int { return cmp.Compare(b, a) })
	return pulleys, rope
}

// within is what every pulley of a system takes, in its order, and the most that a leg does, kN.
func within(system *haul.System) (pulleys []float64, rope float64) {
	found := system.Solve()
	for i := range system.Pulleys {
		sum := 0.0
		for _, leg := range found.Legs {
			if leg.From == system.Pulleys[i].ID || leg.To == system.Pulleys[i].ID {
				sum += leg.TensionKn
			}
			rope = max(rope, leg.TensionKn)
		}
		pulleys = append(pulleys, sum)
	}
	return pulleys, rope
}
