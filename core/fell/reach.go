package fell

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/working"
)

// groundHinge is how high a hinge is when nobody has said, m.
const groundHinge = 0.3

// A Reach asks where the tip of a tree comes down.
type Reach struct {
	TopHeightM   float64  `json:"top_height_m" exclusiveMinimum:"0" maximum:"150" doc:"Tip above the ground at the stump, m"`
	HingeHeightM *float64 `json:"hinge_height_m,omitempty" minimum:"0" maximum:"75" doc:"Hinge above the ground, m; default 0.3"`
	SlopeDeg     float64  `json:"slope_deg,omitempty" minimum:"-60" maximum:"60" doc:"Of the ground along the fall, + downhill; default 0"`
}

// A Tip is where it comes down.
type Tip struct {
	TipM       float64 `json:"tip_m" doc:"Level distance from the hinge, m"`
	TurnedDeg  float64 `json:"turned_deg" doc:"Of the tree's axis from upright then"`
	ShortenedM float64 `json:"shortened_m" doc:"How much further it would reach with its hinge at the ground, m"`
	FarthestM  float64 `json:"farthest_m" doc:"Where it may reach should the hinge not hold, m"`
}

func (r *Reach) hinge() float64 {
	if r.HingeHeightM == nil {
		return groundHinge
	}
	return *r.HingeHeightM
}

// Faults names what is wrong between the fields at the given path.
func (r *Reach) Faults(path string) (faults intake.Faults) {
	if r.hinge() >= r.TopHeightM/2 {
		faults.Add(path+".hinge_height_m", r.hinge(), fmt.Sprintf("less than %.4g m", r.TopHeightM/2), "the hinge (%g m) is not in the lower half of the tree (%g m)", r.hinge(), r.TopHeightM)
	}
	return faults
}

// meets is the turn, radians, at which a length over a hinge at a height meets ground that
// falls away by a slope (radians): cos φ + tan s·sin φ = −h/L.
func meets(length, hinge, slope float64) float64 {
	return slope + math.Acos(max(-1, min(1, -hinge*math.Cos(slope)/length)))
}

// Solve works out a reach without Faults.
func (r *Reach) Solve() Tip {
	slope := r.SlopeDeg * math.Pi / 180
	length := r.TopHeightM - r.hinge()
	turned := meets(length, r.hinge(), slope)
	tip := Tip{TipM: length * math.Sin(turned), TurnedDeg: turned * 180 / math.Pi}
	whole := r.TopHeightM * math.Sin(meets(r.TopHeightM, 0, slope))
	tip.ShortenedM = whole - tip.TipM
	tip.FarthestM = max(tip.TipM+tip.ShortenedM, length)
	return tip
}

// Working writes the sum behind a reach.
func (r *Reach) Working(t Tip) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const geometry = "geometry: a circle about the hinge and the line of the ground"
	sheet.Add("L", "tip above the hinge", fmt.Sprintf("%s − %s", n(r.TopHeightM), n(r.hinge())), r.TopHeightM-r.hinge(), "m", "as given")
	sheet.Add("φ", "turned when the tip meets the ground", fmt.Sprintf("s + acos(−h·cos s/L), s = %s°", n(r.SlopeDeg)), t.TurnedDeg, "°", geometry)
	sheet.Add("x", "tip from the hinge, level", "L·sin φ", t.TipM, "m", geometry)
	sheet.Add("Δ", "what the height of the hinge takes off", "the same with the hinge at the ground, less x", t.ShortenedM, "m", geometry)
	sheet.Add("far", "farthest", "the larger of x + Δ and L", t.FarthestM, "m", geometry)
	return sheet.Steps()
}

// Cautions returns what must stand beside a reach.
func (r *Reach) Cautions(t Tip) []string {
	cautions := []string{fmt.Sprintf("A high hinge shortens the fall only while it holds: plan with %.1f m. What breaks off the tip flies further.", t.FarthestM)}
	if r.SlopeDeg != 0 {
		cautions = append(cautions, "On a slope a stem can slide on from where it lies.")
	}
	return cautions
}
