package drop

import (
	"fmt"
	"math"

	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/search"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Held piece hangs on a line from above that is on before the cut, or nearly: how hard does
// the line catch it, and does it help to make it tight before?
type Held struct {
	MassKg             float64   `json:"mass_kg" exclusiveMinimum:"0" maximum:"100000" doc:"Mass, kg"`
	SinkM              float64   `json:"sink_m" minimum:"0" maximum:"200" doc:"How far its centre of gravity comes down until it hangs on the line unstretched, slack gone, m"`
	SlackM             float64   `json:"slack_m,omitempty" minimum:"0" maximum:"100" doc:"Slack in the line, m; default 0"`
	LineM              float64   `json:"line_m" exclusiveMinimum:"0" maximum:"1000" doc:"Line from the point to the tie, m"`
	LeadM              float64   `json:"lead_m" minimum:"0" maximum:"1000" doc:"Rope behind the point, m"`
	Rope               gear.Rope `json:"rope"`
	Efficiency         float64   `json:"efficiency" minimum:"0.05" maximum:"1" doc:"Tension behind the point over tension before it"`
	AnchorStiffnessKnM float64   `json:"anchor_stiffness_kn_m,omitempty" minimum:"0.1" maximum:"1000000000" doc:"Stiffness of what the point sits on, kN/m; absent: rigid"`
	EnergyLostPct      float64   `json:"energy_lost_pct,omitempty" minimum:"0" maximum:"100" doc:"Energy of the fall that never reaches the line, per cent; default 0"`
	PretensionKn       float64   `json:"pretension_kn,omitempty" minimum:"0" maximum:"5000" doc:"Tension of the line before the cut, kN; default 0"`
	HoldKn             *float64  `json:"hold_kn,omitempty" nullable:"true" minimum:"0" maximum:"5000" doc:"Tension on the lead at which rope runs, kN; null or absent: locked off"`
}

// A Caught piece is how the line catches it.
type Caught struct {
	LinePeakKn          float64  `json:"line_peak_kn"`
	LeadPeakKn          float64  `json:"lead_peak_kn"`
	StretchM            float64  `json:"stretch_m" doc:"Of the line at the peak, run not included"`
	Runs                bool     `json:"runs"`
	RunM                *float64 `json:"run_m" doc:"Null when it never stops"`
	Holds               bool     `json:"holds"`
	Amplification       float64  `json:"amplification" doc:"Peak over weight"`
	WithoutPretensionKn float64  `json:"without_pretension_kn" doc:"The peak were the line not made tight before"`
	PretensionCountsKn  float64  `json:"pretension_counts_kn" doc:"The tension it had before the cut: no more than the hold lets through"`
}

// Faults names what is wrong between the fields at the given path.
func (h *Held) Faults(path string) intake.Faults {
	faults := h.Rope.Faults(path + ".rope")
	if h.PretensionKn > 0 && h.SlackM > 0 {
		faults.Add(path+".slack_m", h.SlackM, "0 with a pretension", "a line with %g m of slack has no tension before the cut", h.SlackM)
	}
	if h.PretensionKn >= h.Rope.BreakingKn {
		faults.Add(path+".pretension_kn", h.PretensionKn, fmt.Sprintf("less than %g kN", h.Rope.BreakingKn), "the line breaks at %g kN: it cannot be made as tight as %g kN", h.Rope.BreakingKn, h.PretensionKn)
	}
	return faults
}

func (h *Held) weightKn() float64 { return h.MassKg * units.Gravity / 1000 }

// slips is the tension of the line at which rope runs, kN.
func (h *Held) slips() float64 {
	if h.HoldKn == nil {
		return inf
	}
	return *h.HoldKn / h.Efficiency
}

// Solve works out a catch without Faults.
func (h *Held) Solve() Caught {
	c := Case{Rigging: Rigging{LeadM: h.LeadM, Rope: h.Rope, BlockEfficiency: h.Efficiency, AnchorStiffnessKnM: h.AnchorStiffnessKnM}, Course: &Course{LineM: h.LineM}}
	var g give
	g.lay(&c)
	out := h.caught(&g, h.PretensionKn)
	out.WithoutPretensionKn = h.caught(&g, 0).LinePeakKn
	return out
}

// caught is the catch of a line with a tension before the cut.
func (h *Held) caught(g *give, before float64) Caught {
	weight, slips := h.weightKn(), h.slips()
	before = min(before, slips) // what is above has run already
	fall := (1 - h.EnergyLostPct/100) * weight * (h.SinkM + h.SlackM)
	x0, u0 := g.at(before)
	// What the line has still to take up at a tension; it grows from the weight on.
	left := func(tension float64) float64 {
		x, u := g.at(tension)
		return u - u0 - weight*(x-x0) - fall
	}
	peak := max(before, weight)
	if left(peak) < 0 {
		peak = search.Root(100, peak, 2*peak, left)
	}
	out := Caught{Holds: true, PretensionCountsKn: before}
	run := 0.0
	if peak > slips {
		peak, out.Runs = slips, true
		if slips <= weight {
			out.Holds = false
		} else {
			run = -left(slips) / (slips - weight)
		}
	}
	if out.Holds {
		out.RunM = &run
	}
	out.LinePeakKn, out.LeadPeakKn, out.Amplification = peak, h.Efficiency*peak, peak/weight
	out.StretchM, _ = g.at(peak)
	return out
}

// Working writes the sum behind a catch.
func (h *Held) Working(c Caught) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const energy = "conservation of energy"
	sheet.Add("W", "weight", n(h.MassKg)+"·9.80665/1000", h.weightKn(), "kN", units.GravitySource)
	sheet.Add("E", "energy of the fall", fmt.Sprintf("(1 − %s/100)·W·(%s + %s)", n(h.EnergyLostPct), n(h.SinkM), n(h.SlackM)), (1-h.EnergyLostPct/100)*h.weightKn()*(h.SinkM+h.SlackM), "kJ", energy)
	sheet.Add("T_p", "tension before the cut", "as given, no more than the hold lets through", c.PretensionCountsKn, "kN", "as given")
	sheet.Add("T", "peak of the line", "E + W·(x(T) − x(T_p)) = U(T) − U(T_p)", c.LinePeakKn, "kN", energy)
	if c.Runs && c.RunM != nil {
		sheet.Add("R", "rope that runs", "(E + W·(x − x_p) − U + U_p)/(T_s − W)", *c.RunM, "m", energy)
	}
	sheet.Add("x", "stretch at the peak", "the rope's table, line and lead", c.StretchM, "m", "the rope's maker, as given")
	sheet.Add("T₀", "the peak were it not made tight", "as T with T_p = 0", c.WithoutPretensionKn, "kN", energy)
	return sheet.Steps()
}

// Cautions returns what must stand beside a catch.
func (h *Held) Cautions(c Caught) []string {
	cautions := []string{}
	if h.Rope.Dynamic() == 1 {
		cautions = append(cautions, SlowTest)
	}
	if !c.Holds {
		cautions = append(cautions, "The device never stops it: its hold is less than the weight.")
	}
	if weight := h.weightKn(); c.PretensionCountsKn > weight {
		cautions = append(cautions, "A line made tighter than the piece's weight lifts it when the cut lets go.")
	}
	if c.PretensionCountsKn > 0 && math.Abs(c.LinePeakKn-c.WithoutPretensionKn) > 0.005*c.LinePeakKn {
		if c.LinePeakKn < c.WithoutPretensionKn {
			cautions = append(cautions, fmt.Sprintf("Made tight before the cut, the line catches softer: %.3g kN in place of %.3g.", c.LinePeakKn, c.WithoutPretensionKn))
		} else {
			cautions = append(cautions, fmt.Sprintf("Made as tight as this before the cut, the line catches harder: %.3g kN in place of %.3g.", c.LinePeakKn, c.WithoutPretensionKn))
		}
	}
	return cautions
}
