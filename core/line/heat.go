package line

import (
	"fmt"

	"elkstay/core/intake"
	"elkstay/core/working"
)

// Heat asks what a lowering turns into heat along a rope's way.
type Heat struct {
	Path
	LoweredM       float64  `json:"lowered_m" exclusiveMinimum:"0" maximum:"200" doc:"How far the piece is let down, m"`
	SpeedMS        *float64 `json:"speed_m_s,omitempty" exclusiveMinimum:"0" maximum:"20" doc:"How fast, m/s"`
	DeviceMassKg   *float64 `json:"device_mass_kg,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"Mass of the lowering device, kg"`
	DeviceMaterial string   `json:"device_material,omitempty" enum:"aluminium,steel" doc:"Default aluminium"`
	RopeOnRope     bool     `json:"rope_on_rope,omitempty" doc:"A part of the rope runs over a part that stands still"`
	Fibre          string   `json:"fibre,omitempty" enum:"polyester,polyamide,hmpe" doc:"Of the rope; default polyester"`
}

// A Warmed is one place that takes heat.
type Warmed struct {
	Name    string   `json:"name"`
	HeatKj  float64  `json:"heat_kj"`
	PowerKw *float64 `json:"power_kw" doc:"Null when no speed is given"`
}

// Heats is where the energy goes.
type Heats struct {
	Places      []Warmed `json:"places" nullable:"false"`
	TotalKj     float64  `json:"total_kj" doc:"Heat along the way"`
	HandKj      float64  `json:"hand_kj" doc:"What the hand takes"`
	DeviceRiseK *float64 `json:"device_rise_k" doc:"Warming of the device were all its heat to stay in it; null when its mass is not given"`
	SoftensAtC  float64  `json:"softens_at_c" doc:"Where the fibre softens or melts, °C (from memory)"`
}

// heatCapacity in kJ/(kg·K), melting in °C: physical tables, from memory.
var (
	heatCapacity = map[string]float64{"aluminium": 0.90, "steel": 0.49}
	softens      = map[string]float64{"polyester": 230, "polyamide": 215, "hmpe": 140}
)

// Faults names what is wrong between the fields at the given path.
func (h *Heat) Faults(path string) intake.Faults {
	faults := h.Path.Faults(path)
	if h.Motion != Lowering {
		faults.Add(path+".motion", h.Motion, Lowering, "heat is reckoned for a lowering")
	}
	return faults
}

// Solve works out where the energy of a lowering goes: at each turn, and at the device,
// the tension lost times the rope that runs.
func (h *Heat) Solve() Heats {
	var t Tensions
	h.SolveInto(&t)
	out := Heats{Places: []Warmed{}, SoftensAtC: softens["polyester"]}
	if h.Fibre != "" {
		out.SoftensAtC = softens[h.Fibre]
	}
	warm := func(name string, lost float64) float64 {
		place := Warmed{Name: name, HeatKj: lost * h.LoweredM}
		if h.SpeedMS != nil {
			power := lost * *h.SpeedMS
			place.PowerKw = &power
		}
		out.Places = append(out.Places, place)
		out.TotalKj += place.HeatKj
		return place.HeatKj
	}
	for i, turn := range t.Points {
		warm(turn.Name, t.Legs[i].TensionKn-t.Legs[i+1].TensionKn)
	}
	device := warm(h.Points[len(h.Points)-1].Name, t.DeviceKn-t.HandKn)
	out.HandKj = t.HandKn * h.LoweredM
	if h.DeviceMassKg != nil {
		material := h.DeviceMaterial
		if material == "" {
			material = "aluminium"
		}
		rise := device / (*h.DeviceMassKg * heatCapacity[material])
		out.DeviceRiseK = &rise
	}
	return out
}

// Working writes the sum behind the heat.
func (h *Heat) Working(out Heats) []working.Step {
	var sheet working.Sheet
	for _, place := range out.Places {
		sheet.Add("Q", "heat at "+place.Name, fmt.Sprintf("(T_in − T_out)·%s", working.Figure(h.LoweredM)), place.HeatKj, "kJ", "conservation of energy")
	}
	sheet.Add("ΣQ", "heat along the way", "sum; with the hand's share it is load times height", out.TotalKj, "kJ", "conservation of energy")
	if out.DeviceRiseK != nil {
		sheet.Add("ΔT", "warming of the device", "Q/(mass·heat capacity), all of it staying there", *out.DeviceRiseK, "K", "heat capacities from physical tables, from memory")
	}
	return sheet.Steps()
}

// Cautions returns what must stand beside the heat.
func (h *Heat) Cautions(out Heats) []string {
	cautions := []string{}
	if h.RopeOnRope {
		cautions = append(cautions, fmt.Sprintf("Rope on rope: all the heat goes into a hand's breadth of the part that stands still, and %s softens near %g °C. It melts through.", fibreOr(h.Fibre), out.SoftensAtC))
	}
	if out.DeviceRiseK != nil && *out.DeviceRiseK > 60 {
		cautions = append(cautions, fmt.Sprintf("The device may warm by %.0f K: let it cool before the rope rests on it.", *out.DeviceRiseK))
	}
	for i, stop := range h.Points {
		if stop.Friction != nil && i < len(h.Points)-1 {
			cautions = append(cautions, fmt.Sprintf("%s takes its heat on bark or ring: glaze on the rope is a sign that it was too much.", stop.Name))
		}
	}
	return cautions
}

func fibreOr(fibre string) string {
	if fibre == "" {
		return "polyester"
	}
	return fibre
}
