package timber

import (
	"fmt"

	"elkstay/core/intake"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// A Limb is a whole limb with its brush, judged by its base: it is taken for a
// small tree of its species' group.
type Limb struct {
	Group          string  `json:"group" enum:"aspen-alder-cottonwood-willow,soft-maple-birch,mixed-hardwood,hard-maple-oak-hickory-beech,cedar-larch,douglas-fir,true-fir-hemlock,pine,spruce" doc:"Species group of the biomass table"`
	BasalDiameterM float64 `json:"basal_diameter_m" exclusiveMinimum:"0" maximum:"3" doc:"Diameter at its base, over bark, m"`
	LengthM        float64 `json:"length_m" exclusiveMinimum:"0" maximum:"60" doc:"Length, m"`
	MoisturePct    float64 `json:"moisture_pct" minimum:"0" maximum:"300" doc:"Water, per cent of the dry mass"`
	InLeaf         *bool   `json:"in_leaf,omitempty" doc:"Leaves on; default true"`
}

// LimbWeight is what a whole limb weighs.
type LimbWeight struct {
	MassKg   wood.Range `json:"mass_kg"`
	WeightKn wood.Range `json:"weight_kn"`
	CogM     float64    `json:"cog_m" doc:"Centre of gravity from the base, m"`
}

// Spread of the estimate, the share without leaves and the place of the centre of
// gravity: common practice.
const (
	limbLow     = 0.7
	limbHigh    = 1.4
	leafless    = 0.95
	limbBalance = 0.38
)

func (l Limb) leafShare() float64 {
	if l.InLeaf != nil && !*l.InLeaf {
		return leafless
	}
	return 1
}

// Weigh estimates the limb: dry mass by the group, water added, leaves taken off.
func (l Limb) Weigh() LimbWeight {
	group, _ := wood.FindGroup(l.Group)
	likely := group.DryMass(l.BasalDiameterM) * (1 + l.MoisturePct/100) * l.leafShare()
	mass := wood.Range{Low: likely * limbLow, Likely: likely, High: likely * limbHigh}
	return LimbWeight{MassKg: mass, WeightKn: Weight{MassKg: mass}.WeightKn(), CogM: limbBalance * l.LengthM}
}

// Faults has nothing to add to the ranges of the fields.
func (l Limb) Faults(string) intake.Faults { return nil }

// Working writes the sum behind the estimate.
func (l Limb) Working(w LimbWeight) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	group, _ := wood.FindGroup(l.Group)
	dry := group.DryMass(l.BasalDiameterM)
	sheet.Add("m_dry", "dry mass, as a small tree", fmt.Sprintf("exp(%s + %s·ln %s)", n(group.B0), n(group.B1), n(100*l.BasalDiameterM)), dry, "kg", group.Source)
	sheet.Add("m_green", "with its water", fmt.Sprintf("m_dry·(1 + %s/100)", n(l.MoisturePct)), dry*(1+l.MoisturePct/100), "kg", "as given")
	sheet.Add("m", "likely mass", fmt.Sprintf("m_green·%s (1 in leaf, 0.95 out of leaf)", n(l.leafShare())), w.MassKg.Likely, "kg", working.Common)
	sheet.Add("m_low", "low end", "m·0.7", w.MassKg.Low, "kg", working.Common)
	sheet.Add("m_high", "high end", "m·1.4", w.MassKg.High, "kg", working.Common)
	sheet.Add("z", "centre of gravity from the base", fmt.Sprintf("0.38·%s", n(l.LengthM)), w.CogM, "m", working.Common)
	return sheet.Steps()
}

// Cautions returns what must stand beside the estimate.
func (l Limb) Cautions() []string {
	cautions := []string{"A limb taken for a small tree: the mass may lie a third lower or nearly half higher. Weigh one when you can."}
	if l.BasalDiameterM < 0.025 || l.BasalDiameterM > 0.7 {
		cautions = append(cautions, "The base is outside the sizes the biomass table was made from (about 2.5 to 70 cm; from memory).")
	}
	return cautions
}
