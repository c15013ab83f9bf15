package haul

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/search"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Grip asks what a vehicle can hold or pull by its weight.
type Grip struct {
	MassKg      float64  `json:"mass_kg" exclusiveMinimum:"0" maximum:"500000" doc:"Mass of the vehicle, kg"`
	Grip        float64  `json:"grip" exclusiveMinimum:"0" maximum:"1.5" doc:"Friction of its wheels on the ground"`
	BrakedShare *float64 `json:"braked_share,omitempty" exclusiveMinimum:"0" maximum:"1" doc:"Share of the weight on braked or driven wheels; default 1"`
	SlopeDeg    float64  `json:"slope_deg,omitempty" minimum:"-45" maximum:"45" doc:"+ where it pulls uphill; default 0"`
	LineUpDeg   float64  `json:"line_up_deg,omitempty" minimum:"0" maximum:"80" doc:"How steeply the line rises from the ground's surface; default 0"`
}

// A Hold is what it comes to.
type Hold struct {
	PullKn float64 `json:"pull_kn" doc:"Tension of the line at which it slips; 0: it slips by itself"`
}

func (g *Grip) braked() float64 {
	if g.BrakedShare == nil {
		return 1
	}
	return *g.BrakedShare
}

// Faults has nothing to add to the ranges of the fields.
func (g *Grip) Faults(string) intake.Faults { return nil }

// Solve works out a grip: all of the line's lift is taken off the braked wheels.
func (g *Grip) Solve() Hold {
	slope, up := g.SlopeDeg*math.Pi/180, g.LineUpDeg*math.Pi/180
	weight := g.MassKg * units.Gravity / 1000
	return Hold{max(0, weight*(g.Grip*g.braked()*math.Cos(slope)-math.Sin(slope))/(math.Cos(up)+g.Grip*math.Sin(up)))}
}

// HoldsOn is the tension at which a vehicle slips on ground that falls away by slope degrees, its line leading off by an angle from straight
// downhill in the plane of the ground, kN: what its weight and its line drag it by are added as vectors, and what of the line lifts is taken
// off the braked wheels. SlopeDeg of the grip does not count.
func (g *Grip) HoldsOn(slopeDeg, offDeg float64) float64 {
	weight := g.MassKg * units.Gravity / 1000
	sin, cos := math.Sincos(slopeDeg * math.Pi / 180)
	lift, along := math.Sincos(g.LineUpDeg * math.Pi / 180)
	across, down := math.Sincos(offDeg * math.Pi / 180)
	over := func(kn float64) float64 {
		return math.Hypot(weight*sin+kn*along*down, kn*along*across) - g.Grip*(g.braked()*weight*cos-kn*lift)
	}
	if over(0) >= 0 {
		return 0
	}
	return search.Root(60, 0, weight, over)
}

// Working writes the sum behind a grip.
func (g *Grip) Working(h Hold) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	sheet.Add("W", "weight", n(g.MassKg)+"·9.80665/1000", g.MassKg*units.Gravity/1000, "kN", units.GravitySource)
	sheet.Add("P", "pull at which it slips", fmt.Sprintf("W(μ·b·cos α − sin α)/(cos β + μ·sin β), μ = %s, b = %s, α = %s°, β = %s°", n(g.Grip), n(g.braked()), n(g.SlopeDeg), n(g.LineUpDeg)), h.PullKn, "kN", "friction on a slope: statics")
	return sheet.Steps()
}

// Cautions returns what must stand beside a grip.
func (g *Grip) Cautions(h Hold) []string {
	cautions := []string{"A rope hitched to a fitting is held by that fitting, not by the vehicle's weight: read what is marked on it."}
	if h.PullKn == 0 {
		cautions = append(cautions, "On this slope it slips by itself: it holds nothing.")
	}
	return cautions
}
