package fell

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Midline is a weight hung at the middle of a pull line: it keeps pulling while the
// tree goes over, and follows it down. The line is taken as straight, without weight
// and without stretch on both sides of the weight.
type Midline struct {
	AttachHeightM   float64 `json:"attach_height_m" exclusiveMinimum:"0" maximum:"100" doc:"On the tree, above the hinge, m"`
	AnchorDistanceM float64 `json:"anchor_distance_m" minimum:"0.5" maximum:"500" doc:"From the tree, towards the fall, m"`
	AnchorHeightM   float64 `json:"anchor_height_m,omitempty" minimum:"-50" maximum:"100" doc:"Above the hinge, m; default 0"`
	LineLengthM     float64 `json:"line_length_m" exclusiveMinimum:"0" maximum:"1000" doc:"From tree to anchor, the weight in its middle, m"`
	WeightKg        float64 `json:"weight_kg" exclusiveMinimum:"0" maximum:"20000" doc:"Mass hung in the middle, kg"`
	GroundM         float64 `json:"ground_m,omitempty" minimum:"-50" maximum:"50" doc:"Ground under the weight, above the hinge, m; default 0"`
	UntilDeg        float64 `json:"until_deg,omitempty" minimum:"0" maximum:"90" doc:"Tilt to which it is followed; default 45"`
}

// A Sag is one tilt of the tree.
type Sag struct {
	TiltDeg   float64 `json:"tilt_deg"`
	PullKn    float64 `json:"pull_kn" doc:"Tension of the tree's half"`
	AnchorKn  float64 `json:"anchor_kn" doc:"Tension of the anchor's half"`
	MomentKnm float64 `json:"moment_knm" doc:"Of the pull about the hinge, forward"`
	WeightAtM float64 `json:"weight_at_m" doc:"Height of the weight above the hinge"`
	OutM      float64 `json:"weight_out_m" doc:"How far out from the hinge it hangs, towards the fall"`
}

// A Following is how the weight follows the tree.
type Following struct {
	Curve         []Sag    `json:"curve" nullable:"false" doc:"To the tilt asked for, or to where the weight meets the ground"`
	GroundTiltDeg *float64 `json:"ground_tilt_deg" doc:"Tilt at which the weight meets the ground; null: not by then"`
}

func (m *Midline) until() float64 {
	if m.UntilDeg == 0 {
		return math.Pi / 4
	}
	return m.UntilDeg * math.Pi / 180
}

// attach is where the line holds the tree.
func (m *Midline) attach(tilt float64) (x, z float64) {
	return m.AttachHeightM * math.Sin(tilt), m.AttachHeightM * math.Cos(tilt)
}

// at works out one tilt; ok is false when the line is shorter than the way.
func (m *Midline) at(tilt float64) (s Sag, ok bool) {
	ax, az := m.attach(tilt)
	dx, dz := m.AnchorDistanceM-ax, m.AnchorHeightM-az
	apart := math.Hypot(dx, dz)
	half := m.LineLengthM / 2
	if apart >= m.LineLengthM || dx <= 0 {
		return s, false
	}
	// The weight is half a line from both ends, on the lower side.
	bow := math.Sqrt(half*half - apart*apart/4)
	wx, wz := ax+dx/2+bow*dz/apart, az+dz/2-bow*dx/apart
	// Unit vectors from the weight to tree and anchor; two forces hold the weight.
	tx, tz := (ax-wx)/half, (az-wz)/half
	bx, bz := (m.AnchorDistanceM-wx)/half, (m.AnchorHeightM-wz)/half
	weight := m.WeightKg * units.Gravity / 1000
	det := tx*bz - bx*tz
	s = Sag{TiltDeg: tilt * 180 / math.Pi, PullKn: -bx * weight / det, AnchorKn: tx * weight / det, WeightAtM: wz, OutM: wx}
	// A line cannot push: the half that would have to goes slack, and the weight hangs
	// straight under the other end.
	switch {
	case s.PullKn < 0:
		s.PullKn, s.AnchorKn, s.WeightAtM, s.OutM = 0, weight, m.AnchorHeightM-half, m.AnchorDistanceM
	case s.AnchorKn < 0:
		s.PullKn, s.AnchorKn, s.WeightAtM, s.OutM = weight, 0, az-half, ax
		tx, tz = 0, 1
	}
	// The tree is pulled from its attachment towards the weight.
	s.MomentKnm = s.PullKn * (az*-tx - ax*-tz)
	return s, true
}

// Hangs is how the weight hangs while the tree stands as given; ok is false when the line is
// shorter than the way, or leads back.
func (m *Midline) Hangs() (s Sag, ok bool) { return m.at(0) }

// Faults names what cannot hang at the given path.
func (m *Midline) Faults(path string) (faults intake.Faults) {
	straight := math.Hypot(m.AnchorDistanceM, m.AnchorHeightM-m.AttachHeightM)
	if m.LineLengthM <= straight*(1+1e-9) {
		faults.Add(path+".line_length_m", m.LineLengthM, fmt.Sprintf("more than %.4g m", straight), "the line (%g m) is no longer than the way from tree to anchor (%.4g m): a weight cannot hang in it", m.LineLengthM, straight)
		return faults
	}
	if s, ok := m.at(0); ok && s.WeightAtM <= m.GroundM {
		faults.Add(path+".line_length_m", m.LineLengthM, "a shorter line", "the weight lies on the ground before the tree moves (%.2f m)", s.WeightAtM)
	}
	return faults
}

// Solve follows the weight, for a case without Faults.
func (m *Midline) Solve() Following {
	out := Following{Curve: []Sag{}}
	meets := func(tilt float64) bool {
		s, ok := m.at(tilt)
		return !ok || s.WeightAtM <= m.GroundM
	}
	end := m.until()
	for i := range curvePoints + 1 {
		tilt := m.until() * float64(i) / curvePoints
		if !meets(tilt) {
			continue
		}
		low, high := m.until()*float64(i-1)/curvePoints, tilt
		for range 60 {
			if middle := (low + high) / 2; meets(middle) {
				high = middle
			} else {
				low = middle
			}
		}
		end = low
		if s, ok := m.at(low); ok && s.WeightAtM <= m.GroundM+0.01 {
			at := low * 180 / math.Pi
			out.GroundTiltDeg = &at
		}
		break
	}
	for i := range curvePoints + 1 {
		if s, ok := m.at(end * float64(i) / curvePoints); ok {
			out.Curve = append(out.Curve, s)
		}
	}
	return out
}

// Working writes the sum behind a following.
func (m *Midline) Working(f Following) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	first, last := f.Curve[0], f.Curve[len(f.Curve)-1]
	const statics = "statics: a weight on two lines"
	sheet.Add("W", "weight in the middle", n(m.WeightKg)+"·9.80665/1000", m.WeightKg*units.Gravity/1000, "kN", units.GravitySource)
	sheet.Add("z₀", "weight above the hinge at the start", "half a line from both ends, hanging", first.WeightAtM, "m", "geometry")
	sheet.Add("P₀", "pull on the tree at the start", "two lines hold the weight", first.PullKn, "kN", statics)
	sheet.Add("M₀", "its moment about the hinge", "arm × pull", first.MomentKnm, "kN·m", statics)
	sheet.Add("P₁", fmt.Sprintf("pull at %s°", n(last.TiltDeg)), "as P₀", last.PullKn, "kN", statics)
	return sheet.Steps()
}

// Cautions returns what must stand beside a following.
func (m *Midline) Cautions(f Following) []string {
	cautions := []string{"The weight swings and drops as the tree goes: nobody under the line or beside it."}
	if f.GroundTiltDeg != nil {
		cautions = append(cautions, fmt.Sprintf("At %.1f° the weight meets the ground: from there it pulls no more.", *f.GroundTiltDeg))
	}
	return cautions
}
