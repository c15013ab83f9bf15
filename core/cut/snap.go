// Package cut answers which cut to choose and how a piece is parted from the stem: the
// cut adviser, and two overlapping saw cuts with a push.
//
// The adviser holds the trade's rules as data: each speaks for a cut, against it, or
// excludes it, with its reason in plain words; the cuts that are left are put in order.
// Where the trade has two schools both are named with their price. All of it is common
// practice without a source; how species hinge and split is from memory.
//
// The model of a snap is a lever: the piece stands on the wood left between the two cuts (the
// bridge), the push and the piece's own weight turn it over the edge, and the bridge
// is pulled apart at its distance from that edge. Between the two cuts lies the
// slope along which the piece may slide. Common practice; the moments are statics.
//
// Lengths are in metres, forces in kilonewtons, angles in degrees.
package cut

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Push is what the hands do.
type Push struct {
	ForceKn float64 `json:"force_kn" exclusiveMinimum:"0" maximum:"20" doc:"Force, kN"`
	HeightM float64 `json:"height_m" exclusiveMinimum:"0" maximum:"20" doc:"Height above the cut, m"`
}

// A Snap is a piece on two overlapping cuts.
type Snap struct {
	MassKg        float64  `json:"mass_kg" exclusiveMinimum:"0" maximum:"20000" doc:"Mass, kg"`
	CogHeightM    float64  `json:"cog_height_m" exclusiveMinimum:"0" maximum:"30" doc:"Centre of gravity above the cut, m"`
	CogOffsetM    float64  `json:"cog_offset_m,omitempty" minimum:"-5" maximum:"5" doc:"Centre of gravity off the middle, towards the push, m; default 0"`
	LeanDeg       float64  `json:"lean_deg,omitempty" minimum:"-60" maximum:"60" doc:"Lean towards the push; default 0"`
	BridgeToEdgeM float64  `json:"bridge_to_edge_m" minimum:"0.005" maximum:"3" doc:"Bridge to the edge it turns over, m"`
	Push          Push     `json:"push"`
	Friction      *float64 `json:"friction,omitempty" minimum:"0" maximum:"2" doc:"Wood on wood; default 0.8"`
	SlopeDeg      float64  `json:"slope_deg,omitempty" minimum:"0" maximum:"60" doc:"Slope of the cut, falling towards the push; default 0"`
}

// The verdicts of a snap.
const (
	Waits        = "waits"
	MayGoEarly   = "may go early"
	GoesByItself = "goes by itself"
)

// A Parting is how a snap goes.
type Parting struct {
	PushMomentKnm float64 `json:"push_moment_knm"`
	BridgeForceKn float64 `json:"bridge_force_kn" doc:"Pull on the bridge"`
	SelfMomentKnm float64 `json:"self_moment_knm" doc:"Of the piece's own weight, in the direction of the push"`
	SelfRatio     float64 `json:"self_ratio" doc:"Self over push"`
	SlideForceKn  float64 `json:"slide_force_kn" doc:"Push along the cut that slides the piece"`
	Verdict       string  `json:"verdict" enum:"waits,may go early,goes by itself"`
}

// freshSoftwood is the friction of freshly cut softwood on itself (common practice:
// a 185 lb piece first moves at 150 lb).
const freshSoftwood = 0.8

func (s Snap) friction() float64 {
	if s.Friction == nil {
		return freshSoftwood
	}
	return *s.Friction
}

func (s Snap) weightKn() float64 { return s.MassKg * units.Gravity / 1000 }

func radians(deg float64) float64 { return deg * math.Pi / 180 }

// Faults has nothing to add to the ranges of the fields.
func (s Snap) Faults(string) intake.Faults { return nil }

// Solve works out a snap.
func (s Snap) Solve() Parting {
	lean, slope, weight := radians(s.LeanDeg), radians(s.SlopeDeg), s.weightKn()
	p := Parting{
		PushMomentKnm: s.Push.ForceKn * s.Push.HeightM,
		SelfMomentKnm: weight * (s.CogOffsetM*math.Cos(lean) + s.CogHeightM*math.Sin(lean)),
		SlideForceKn:  max(0, weight*(s.friction()*math.Cos(slope)-math.Sin(slope))),
		Verdict:       Waits,
	}
	p.BridgeForceKn = (p.PushMomentKnm + p.SelfMomentKnm) / s.BridgeToEdgeM
	p.SelfRatio = p.SelfMomentKnm / p.PushMomentKnm
	switch {
	case p.SelfRatio >= 1:
		p.Verdict = GoesByItself
	case p.SelfRatio >= 0.5:
		p.Verdict = MayGoEarly
	}
	return p
}

// Working writes the sum behind a parting.
func (s Snap) Working(p Parting) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	sheet.Add("W", "weight", n(s.MassKg)+"·9.80665/1000", s.weightKn(), "kN", units.GravitySource)
	sheet.Add("M_p", "moment of the push", fmt.Sprintf("%s·%s", n(s.Push.ForceKn), n(s.Push.HeightM)), p.PushMomentKnm, "kN·m", "statics")
	sheet.Add("M_s", "moment of its own weight", fmt.Sprintf("W·(%s·cos %s° + %s·sin %s°)", n(s.CogOffsetM), n(s.LeanDeg), n(s.CogHeightM), n(s.LeanDeg)), p.SelfMomentKnm, "kN·m", "statics")
	sheet.Add("B", "pull on the bridge", fmt.Sprintf("(M_p + M_s)/%s", n(s.BridgeToEdgeM)), p.BridgeForceKn, "kN", "statics")
	sheet.Add("M_s/M_p", "its own share", "below 0.5 waits, to 1 may go early, from 1 goes by itself", p.SelfRatio, "", working.Common)
	sheet.Add("S", "push that slides it", fmt.Sprintf("max(0, W·(%s·cos %s° − sin %s°))", n(s.friction()), n(s.SlopeDeg), n(s.SlopeDeg)), p.SlideForceKn, "kN", "Coulomb friction")
	return sheet.Steps()
}

// Cautions returns what must stand beside a parting.
func (s Snap) Cautions(p Parting) []string {
	cautions := []string{"Knots across the bridge hold many times more than straight grain; the cuts must overlap across the whole width."}
	switch p.Verdict {
	case GoesByItself:
		cautions = append(cautions, "The piece goes by itself: use a hinge or a line.")
	case MayGoEarly:
		cautions = append(cautions, "The piece may go before it is pushed.")
	}
	if p.BridgeForceKn < 0 {
		cautions = append(cautions, "The piece leans against the push harder than it is pushed: it goes the other way.")
	}
	if p.SlideForceKn == 0 {
		cautions = append(cautions, "The cut is so steep that the piece slides by itself.")
	}
	return cautions
}
