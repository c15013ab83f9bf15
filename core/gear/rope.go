// Package gear holds what ropes, blocks and lowering devices can do: how far a
// rope stretches, and the load an item may see.
//
// The working limit of an item is the working load marked on it; where none is
// marked, its breaking strength, less what knot, bend and condition take, over the
// design factor of the crew (10 by default, common practice). A marked limit always wins
// over a computed one. For a shock there are two schools: the peak within the working
// load, or the load at rest within it and the peak within a share of the strength.
//
// The shares that knots, bends and conditions leave are round figures that riggers use,
// from memory; they stand as data, each with its source.
//
// Forces are in kilonewtons, strains in per cent as makers print them. Figures
// of gear come from its maker; the typical ropes offered to begin with are round
// figures of their kind, from memory, and say so.
package gear

import (
	"fmt"

	"elkstay/core/intake"
)

// A Stretch is one row of a rope's elongation table.
type Stretch struct {
	LoadPct   float64 `json:"load_pct" minimum:"0.01" maximum:"100" doc:"Load, per cent of breaking strength"`
	StrainPct float64 `json:"strain_pct" minimum:"0.01" maximum:"100" doc:"Elongation at that load, per cent"`
}

// MaxStretchRows bounds an elongation table.
const MaxStretchRows = 20

// A Rope is what the sums need of a rope.
type Rope struct {
	BreakingKn    float64   `json:"mbs_kn" exclusiveMinimum:"0" maximum:"5000" doc:"Minimum breaking strength, kN"`
	Elongation    []Stretch `json:"elongation" minItems:"1" maxItems:"20" doc:"Elongation table, both columns rising"`
	DynamicFactor float64   `json:"dynamic_factor,omitempty" minimum:"1" maximum:"5" doc:"How much stiffer in a shock than in the maker's slow test; default 1"`
}

// Dynamic returns the dynamic factor, 1 when none is given.
func (r Rope) Dynamic() float64 {
	if r.DynamicFactor == 0 {
		return 1
	}
	return r.DynamicFactor
}

// Faults names what is wrong with a rope at the given path: a table that does
// not rise.
func (r Rope) Faults(path string) (faults intake.Faults) {
	for i := 1; i < len(r.Elongation); i++ {
		row, before := r.Elongation[i], r.Elongation[i-1]
		at := fmt.Sprintf("%s.elongation[%d]", path, i)
		if row.LoadPct <= before.LoadPct {
			faults.Add(at+".load_pct", row.LoadPct, fmt.Sprintf("more than %g %%", before.LoadPct),
				"load_pct is %g, not above the row before it (%g)", row.LoadPct, before.LoadPct)
		}
		if row.StrainPct <= before.StrainPct {
			faults.Add(at+".strain_pct", row.StrainPct, fmt.Sprintf("more than %g %%", before.StrainPct),
				"strain_pct is %g, not above the row before it (%g)", row.StrainPct, before.StrainPct)
		}
	}
	return faults
}

// Strain returns the strain (a bare share of length) at a tension, kN: straight
// lines through the table from (0, 0), the last slope carried on.
func (r Rope) Strain(tension float64) float64 {
	load, strain, slope := r.row(tension)
	return strain + slope*(tension-load)
}

// Compliance returns how fast the strain grows at a tension: strain per kN.
func (r Rope) Compliance(tension float64) float64 {
	_, _, slope := r.row(tension)
	return slope
}

// row finds the straight line of the table that a tension lies on: its lower end
// and its slope.
func (r Rope) row(tension float64) (load, strain, slope float64) {
	for _, row := range r.Elongation {
		rowLoad, rowStrain := row.LoadPct/100*r.BreakingKn, row.StrainPct/100
		slope = (rowStrain - strain) / (rowLoad - load)
		if tension <= rowLoad {
			break
		}
		load, strain = rowLoad, rowStrain
	}
	return load, strain, slope
}
