package crane

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Release is a piece that comes free on the hook: the last wood parts, and all that the hook does not carry yet comes onto it
// suddenly.
type Release struct {
	WeightKn     float64  `json:"weight_kn" exclusiveMinimum:"0" maximum:"1000" doc:"Weight of the piece, kN"`
	HookKn       float64  `json:"hook_kn" minimum:"0" maximum:"2000" doc:"What the hook carries of it as the last wood parts, kN"`
	StiffnessKnM float64  `json:"stiffness_kn_m" exclusiveMinimum:"0" maximum:"100000" doc:"Of ropes, boom and slings together, kN/m"`
	DampingRatio float64  `json:"damping_ratio,omitempty" minimum:"0" maximum:"0.9" doc:"Share of the critical damping; default 0"`
	OffsetM      float64  `json:"offset_m,omitempty" minimum:"0" maximum:"100" doc:"How far the boom's tip stands aside of the balance, level, m; default 0"`
	BelowTipM    *float64 `json:"below_tip_m,omitempty" exclusiveMinimum:"0" maximum:"300" doc:"From the boom's tip to the balance, along the line, m; asked for with an offset"`
}

// Where a piece goes as it comes free.
const (
	Down  = "down"
	Up    = "up"
	Stays = "stays"
)

// Released is what happens then.
type Released struct {
	PeakKn       float64  `json:"peak_kn" doc:"Most that the hook carries of the piece"`
	Goes         string   `json:"goes" enum:"down,up,stays"`
	TravelM      float64  `json:"travel_m" doc:"How far it drops or jumps, undamped"`
	Slack        bool     `json:"slack" doc:"It jumps so far that its slings come slack"`
	SwingM       float64  `json:"swing_m" doc:"From where it stood to as far beyond the boom's tip"`
	SwingS       *float64 `json:"swing_s" doc:"There and back; null without an offset"`
	SwingSpeedMS float64  `json:"swing_speed_m_s" doc:"As it passes beneath the boom's tip"`
	SideKn       float64  `json:"side_kn" doc:"What draws the boom's tip aside"`
}

// Faults names what is wrong between the fields at the given path.
func (r *Release) Faults(path string) (faults intake.Faults) {
	switch {
	case r.OffsetM > 0 && r.BelowTipM == nil:
		faults.Add(path+".below_tip_m", nil, "above the offset", "the boom's tip stands %g m aside: how far the piece is below it is missing", r.OffsetM)
	case r.BelowTipM != nil && r.OffsetM >= *r.BelowTipM:
		faults.Add(path+".offset_m", r.OffsetM, fmt.Sprintf("under %g m", *r.BelowTipM), "the boom's tip stands %g m aside of a piece that hangs %g m from it", r.OffsetM, *r.BelowTipM)
	}
	return faults
}

// staysWithin is what share of its weight a hook may be off to leave a piece where it is.
const staysWithin = 0.001

// aside is how far from upright the line leads up to the boom's tip, rad.
func (r *Release) aside() float64 {
	if r.BelowTipM == nil {
		return 0
	}
	return math.Asin(r.OffsetM / *r.BelowTipM)
}

// Solve works out a release without Faults.
func (r *Release) Solve() (d Released) {
	w, hook := r.WeightKn, r.HookKn
	if hook <= w {
		zeta := r.DampingRatio
		q := math.Exp(-zeta * (math.Pi - 2*math.Asin(zeta)) / math.Sqrt(1-zeta*zeta))
		d.Goes, d.TravelM, d.PeakKn = Down, 2*(w-hook)/r.StiffnessKnM, w+(w-hook)*q
	} else {
		d.Goes, d.TravelM, d.PeakKn = Up, 2*(hook-w)/r.StiffnessKnM, hook
		if hook > 2*w {
			d.Slack, d.TravelM = true, hook*hook/(2*r.StiffnessKnM*w)
		}
	}
	if math.Abs(hook-w) <= staysWithin*w {
		d.Goes = Stays
	}
	if alpha := r.aside(); alpha > 0 {
		length := *r.BelowTipM
		period := 2 * math.Pi * math.Sqrt(length/units.Gravity) * (1 + alpha*alpha/16)
		d.SwingM, d.SwingS = 2*r.OffsetM, &period
		d.SwingSpeedMS = math.Sqrt(2 * units.Gravity * length * (1 - math.Cos(alpha)))
		d.SideKn = d.PeakKn * math.Sin(alpha)
		d.PeakKn *= 3 - 2*math.Cos(alpha)
	}
	return d
}

// Working writes the sum behind a release.
func (r *Release) Working(d Released) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const sudden = "a load suddenly on a spring: any text on vibrations"
	switch {
	case r.HookKn <= r.WeightKn:
		sheet.Add("z", "it drops", "2·(W − T₀)/k = 2·("+n(r.WeightKn)+" − "+n(r.HookKn)+")/"+n(r.StiffnessKnM), d.TravelM, "m", sudden)
	case d.Slack:
		sheet.Add("z", "it jumps, its slings slack", "T₀²/(2·k·W)", d.TravelM, "m", sudden)
	default:
		sheet.Add("z", "it jumps", "2·(T₀ − W)/k = 2·("+n(r.HookKn)+" − "+n(r.WeightKn)+")/"+n(r.StiffnessKnM), d.TravelM, "m", sudden)
	}
	if alpha := r.aside(); alpha > 0 {
		sheet.Add("α", "line from upright", "asin(offset/ℓ)", alpha*180/math.Pi, "°", "geometry")
		sheet.Add("v", "speed beneath the boom's tip", "√(2·g·ℓ·(1 − cos α))", d.SwingSpeedMS, "m/s", "conservation of energy")
		sheet.Add("H", "what draws the boom's tip aside", "peak before the swing · sin α", d.SideKn, "kN", "statics")
	}
	sheet.Add("T", "peak at the hook", "W + (W − T₀)·q, or T₀ where that is more; with an offset × (3 − 2·cos α)", d.PeakKn, "kN", sudden)
	return sheet.Steps()
}

// AsksPct is how much less than its likely weight a crane is asked to hold before the cut, % (common practice, no source).
const AsksPct = 10

// Cautions are what must be read with it.
func (r *Release) Cautions(d Released) []string {
	list := []string{fmt.Sprintf("Ask the operator for the likely weight less %d %%, and never for more than its light end: what is held too hard jumps, what is held too little drops.", AsksPct)}
	if d.Slack {
		list = append(list, "It jumps until its slings are slack, and falls back into them: that is in no figure here. Never pull so hard.")
	}
	if r.OffsetM > 0 {
		list = append(list, fmt.Sprintf("It swings: the radius ends as much as %.3g m from where it began, %.3g m beyond the boom's tip. A boom is weak to the side: have its tip over the balance.", 2*r.OffsetM, r.OffsetM))
	}
	return list
}
