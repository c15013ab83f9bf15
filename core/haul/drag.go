package haul

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Drag is a log skidded over the ground: flat behind its line, or with its front end
// lifted by a high block so that only its rear drags.
type Drag struct {
	MassKg       float64  `json:"mass_kg" exclusiveMinimum:"0" maximum:"100000" doc:"Mass, kg"`
	Friction     float64  `json:"friction" minimum:"0" maximum:"3" doc:"Log on ground; on turf and soil 0.4 to 0.9 (common practice)"`
	SlopeDeg     float64  `json:"slope_deg,omitempty" minimum:"-60" maximum:"60" doc:"Of the ground, + uphill; default 0"`
	LineAngleDeg *float64 `json:"line_angle_deg,omitempty" minimum:"-30" maximum:"89" doc:"Of the line above the ground's surface; flat only; default 0"`
	Lifted       *Lifted  `json:"lifted,omitempty" doc:"Front end off the ground"`
}

// Lifted is a log with its front end off the ground.
type Lifted struct {
	LengthM     float64 `json:"length_m" exclusiveMinimum:"0" maximum:"60" doc:"Length, m"`
	CogM        float64 `json:"cog_m" exclusiveMinimum:"0" maximum:"60" doc:"Centre of gravity from the rear end, m"`
	LiftHeightM float64 `json:"lift_height_m" exclusiveMinimum:"0" maximum:"30" doc:"Front end above the ground, m"`
}

// A Skid is what a drag takes.
type Skid struct {
	PullKn       float64 `json:"pull_kn"`
	GroundKn     float64 `json:"ground_kn" doc:"What the ground carries, square to it"`
	FrictionKn   float64 `json:"friction_kn"`
	LineAngleDeg float64 `json:"line_angle_deg" doc:"Of the line above the ground's surface; lifted: the angle that holds the front there"`
	PitchDeg     float64 `json:"pitch_deg" doc:"Of the log to the ground"`
	RunsAway     bool    `json:"runs_away" doc:"The slope alone moves it"`
}

// pull returns the line's tension and the ground's share at a line angle (radians):
// along the ground T·cos α = μN + W·sin β, square to it N + T·sin α = W·cos β.
func (d *Drag) pull(angle float64) (tension, ground float64) {
	weight, slope := d.MassKg*units.Gravity/1000, d.SlopeDeg*math.Pi/180
	tension = max(0, weight*(d.Friction*math.Cos(slope)+math.Sin(slope))/(math.Cos(angle)+d.Friction*math.Sin(angle)))
	return tension, weight*math.Cos(slope) - tension*math.Sin(angle)
}

// turning is the moment about the rear end that the line has over the weight, kN·m.
func (d *Drag) turning(angle, pitch float64) float64 {
	weight, slope := d.MassKg*units.Gravity/1000, d.SlopeDeg*math.Pi/180
	tension, _ := d.pull(angle)
	return tension*d.Lifted.LengthM*math.Sin(angle-pitch) - weight*d.Lifted.CogM*math.Cos(slope+pitch)
}

// Faults names what cannot be at the given path.
func (d *Drag) Faults(path string) (faults intake.Faults) {
	l := d.Lifted
	if l == nil {
		if d.LineAngleDeg != nil {
			angle := *d.LineAngleDeg * math.Pi / 180
			if math.Cos(angle)+d.Friction*math.Sin(angle) < 1e-3 {
				faults.Add(path+".line_angle_deg", *d.LineAngleDeg, "an angle at which the line moves the log", "at %g° the line only presses the log into the ground", *d.LineAngleDeg)
			} else if _, ground := d.pull(angle); ground < 0 {
				faults.Add(path+".line_angle_deg", *d.LineAngleDeg, "an angle at which the log stays on the ground", "at %g° the line lifts the log off the ground", *d.LineAngleDeg)
			}
		}
		return faults
	}
	if d.LineAngleDeg != nil {
		faults.Add(path+".line_angle_deg", *d.LineAngleDeg, "nothing, when lifted", "the angle follows from the lift")
	}
	if l.CogM >= l.LengthM {
		faults.Add(path+".lifted.cog_m", l.CogM, fmt.Sprintf("less than %g m", l.LengthM), "the centre of gravity is beyond the front end")
	}
	if l.LiftHeightM >= l.LengthM {
		faults.Add(path+".lifted.lift_height_m", l.LiftHeightM, fmt.Sprintf("less than %g m", l.LengthM), "the front end is lifted higher than the log is long")
	}
	if len(faults) == 0 {
		pitch := math.Asin(l.LiftHeightM / l.LengthM)
		if tension, _ := d.pull(pitch); tension == 0 || d.turning(math.Pi/2-1e-6, pitch) < 0 {
			faults.Add(path+".lifted", l.LiftHeightM, "a slope and a friction that the line must pull against", "the log runs away, or no line angle holds its front end there")
		}
	}
	return faults
}

// Solve works out a drag without Faults.
func (d *Drag) Solve() Skid {
	skid := Skid{RunsAway: math.Tan(d.SlopeDeg*math.Pi/180) < -d.Friction}
	angle := 0.0
	switch {
	case d.Lifted != nil:
		pitch := math.Asin(d.Lifted.LiftHeightM / d.Lifted.LengthM)
		skid.PitchDeg = pitch * 180 / math.Pi
		low, high := pitch, math.Pi/2-1e-6
		for range 100 {
			if middle := (low + high) / 2; d.turning(middle, pitch) < 0 {
				low = middle
			} else {
				high = middle
			}
		}
		angle = high
	case d.LineAngleDeg != nil:
		angle = *d.LineAngleDeg * math.Pi / 180
	}
	skid.PullKn, skid.GroundKn = d.pull(angle)
	skid.FrictionKn = d.Friction * skid.GroundKn
	skid.LineAngleDeg = angle * 180 / math.Pi
	return skid
}

// Working writes the sum behind a skid.
func (d *Drag) Working(s Skid) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const coulomb = "statics, Coulomb friction"
	sheet.Add("W", "weight", n(d.MassKg)+"·9.80665/1000", d.MassKg*units.Gravity/1000, "kN", units.GravitySource)
	if d.Lifted != nil {
		sheet.Add("γ", "pitch", fmt.Sprintf("asin(%s/%s)", n(d.Lifted.LiftHeightM), n(d.Lifted.LengthM)), s.PitchDeg, "°", "geometry")
		sheet.Add("α", "angle of the line", "T·L·sin(α−γ) = W·c·cos(β+γ), moments about the rear end", s.LineAngleDeg, "°", coulomb)
	}
	sheet.Add("T", "pull", fmt.Sprintf("W·(%s·cos β + sin β)/(cos α + %s·sin α), β = %s°, α = %s°", n(d.Friction), n(d.Friction), n(d.SlopeDeg), n(s.LineAngleDeg)), s.PullKn, "kN", coulomb)
	sheet.Add("N", "on the ground", "W·cos β − T·sin α", s.GroundKn, "kN", coulomb)
	return sheet.Steps()
}

// Cautions returns what must stand beside a skid.
func (d *Drag) Cautions(s Skid) []string {
	cautions := []string{"A log that catches on a root or a stump pulls up to what the winch or the line can give: nobody in the bight."}
	if s.RunsAway {
		cautions = append(cautions, "The slope alone moves the log: hold it back from above.")
	}
	return cautions
}
