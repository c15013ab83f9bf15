// Package sight answers what is read off a tree and a site from the ground: how high it is
// by two angles and a distance, how far it leans by a plumb line, where a thing stands by
// bearing and distance.
//
// The sums are plane trigonometry. How far a reading may be off, one degree and two per
// cent of the distance, is common practice for a hand-held clinometer and a paced-out or
// dragged tape, no source. Lengths are in metres, angles in degrees; an angle below the
// eye is negative; a bearing is clockwise from north.
package sight

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// Question is the name under which every door reads a sight.
const Question = "read-sight"

// What can be sighted.
const (
	Height = "height"
	Lean   = "lean"
	Place  = "place"
)

// A Request is one sight. Each kind reads its own fields.
type Request struct {
	Of         string       `json:"of" enum:"height,lean,place"`
	Units      units.System `json:"units,omitempty" enum:"metric,us" doc:"Of the sentences; default metric"`
	DistanceM  *float64     `json:"distance_m,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"Of a height: from the eye to the stem; of a place: from the tree, m"`
	AlongSlope bool         `json:"along_slope,omitempty" doc:"The distance was measured along the line of sight to the foot, not level"`
	UpDeg      *float64     `json:"up_deg,omitempty" minimum:"-30" maximum:"85" doc:"Angle to the top"`
	FootDeg    *float64     `json:"foot_deg,omitempty" minimum:"-60" maximum:"60" doc:"Angle to the foot, below the eye negative; absent: the eye's height counts"`
	EyeM       *float64     `json:"eye_m,omitempty" minimum:"0" maximum:"3" doc:"Height of the eye, when the foot was not sighted; default 1.6"`
	OffsetM    *float64     `json:"offset_m,omitempty" minimum:"0" maximum:"30" doc:"How far the plumb line hangs from the foot, m"`
	OverM      *float64     `json:"over_m,omitempty" exclusiveMinimum:"0" maximum:"120" doc:"Height from which it hangs, m"`
	BearingDeg *float64     `json:"bearing_deg,omitempty" minimum:"0" maximum:"360" doc:"From the tree"`
	FromX      float64      `json:"from_x,omitempty" minimum:"-500" maximum:"500" doc:"Foot of the tree on the plan, east, m"`
	FromY      float64      `json:"from_y,omitempty" minimum:"-500" maximum:"500" doc:"North, m"`
}

// A Read sight.
type Read struct {
	Value    float64        `json:"value" doc:"Height in m, lean in degrees; 0 of a place"`
	Low      float64        `json:"low" doc:"With the reading off by as much as is usual"`
	High     float64        `json:"high"`
	X        float64        `json:"x" doc:"Of a place, m"`
	Y        float64        `json:"y"`
	Noted    string         `json:"noted" doc:"The readings, to be kept with the figure"`
	Working  []working.Step `json:"working" nullable:"false"`
	Cautions []string       `json:"cautions" nullable:"false"`
}

// A Guess is a lean as the eye judges it.
type Guess struct {
	Word string  `json:"word"`
	Deg  float64 `json:"deg" doc:"From upright"`
}

// Leans are what the eye tells apart (common practice, no source): a plumb line is better.
func Leans() []Guess { return []Guess{{"none", 0}, {"slight", 3}, {"clear", 8}, {"strong", 15}} }

const (
	defaultEye = 1.6
	offDeg     = 1.0  // how far an angle may be off
	offShare   = 0.02 // how far a distance may be
	steep      = 60   // degrees from which a height is doubtful
)

// Answer reads a Request and answers it. The error is intake.Faults.
func Answer(document []byte) (Read, error) {
	var r Request
	if err := intake.Decode(document, &r); err != nil {
		return Read{}, err
	}
	if r.Units == "" {
		r.Units = units.Metric
	}
	var faults intake.Faults
	need := func(field string, value *float64, what string) {
		if value == nil {
			faults.Add("body."+field, nil, what, "%s is needed", what)
		}
	}
	switch r.Of {
	case Height:
		need("distance_m", r.DistanceM, "the distance")
		need("up_deg", r.UpDeg, "the angle to the top")
		if r.AlongSlope && r.FootDeg == nil {
			faults.Add("body.foot_deg", nil, "the angle to the foot", "a distance along the slope needs the angle to the foot")
		}
	case Lean:
		need("offset_m", r.OffsetM, "how far the plumb line hangs from the foot")
		need("over_m", r.OverM, "the height from which it hangs")
	default:
		need("distance_m", r.DistanceM, "the distance")
		need("bearing_deg", r.BearingDeg, "the bearing")
	}
	if len(faults) > 0 {
		return Read{}, faults
	}
	read := Read{Working: []working.Step{}, Cautions: []string{}}
	switch r.Of {
	case Height:
		r.height(&read, &faults)
	case Lean:
		r.lean(&read)
	default:
		r.place(&read)
	}
	if len(faults) > 0 {
		return Read{}, faults
	}
	return read, nil
}

func tan(deg float64) float64 { return math.Tan(deg * math.Pi / 180) }

// heightOf is the height of the top over the foot, with the readings off by so much.
func (r *Request) heightOf(angle, share float64) float64 {
	d := *r.DistanceM * (1 + share)
	if r.FootDeg == nil {
		eye := defaultEye
		if r.EyeM != nil {
			eye = *r.EyeM
		}
		return d*tan(*r.UpDeg+angle) + eye
	}
	foot := *r.FootDeg - angle
	if r.AlongSlope {
		d *= math.Cos(foot * math.Pi / 180)
	}
	return d * (tan(*r.UpDeg+angle) - tan(foot))
}

func (r *Request) height(read *Read, faults *intake.Faults) {
	var sheet working.Sheet
	long := func(m float64) string { return units.Print(units.Height, r.Units, m) }
	read.Value = r.heightOf(0, 0)
	read.Low, read.High = r.heightOf(-offDeg, -offShare), r.heightOf(offDeg, offShare)
	if r.FootDeg == nil {
		sheet.Add("H", "height", fmt.Sprintf("d·tan α + eye = %s·tan %g° + eye", long(*r.DistanceM), *r.UpDeg), read.Value, "m", "plane trigonometry")
		read.Noted = fmt.Sprintf("%s off, %g° up", long(*r.DistanceM), *r.UpDeg)
	} else {
		d := *r.DistanceM
		if r.AlongSlope {
			d *= math.Cos(*r.FootDeg * math.Pi / 180)
			sheet.Add("d", "level distance", fmt.Sprintf("s·cos β = %s·cos %g°", long(*r.DistanceM), *r.FootDeg), d, "m", "plane trigonometry")
		}
		sheet.Add("H", "height", fmt.Sprintf("d·(tan α − tan β) = %s·(tan %g° − tan %g°)", long(d), *r.UpDeg, *r.FootDeg), read.Value, "m", "plane trigonometry")
		read.Noted = fmt.Sprintf("%s off, %g° and %g°", long(*r.DistanceM), *r.UpDeg, *r.FootDeg)
	}
	read.Working = sheet.Steps()
	if read.Value <= 0 || read.Value > 120 || read.Low <= 0 {
		faults.Add("body.up_deg", *r.UpDeg, "an angle to the top above that to the foot, for a tree of up to 120 m", "these readings make the tree %.3g m high", read.Value)
		return
	}
	if *r.UpDeg > steep {
		read.Cautions = append(read.Cautions, "The angle is steep: a degree is worth a metre and more. Step back to where the top is below 45°.")
	}
	read.Cautions = append(read.Cautions, "A top that leans towards you reads too high, one that leans away too low: sight from the side it leans past.")
}

func (r *Request) lean(read *Read) {
	var sheet working.Sheet
	of := func(offset, over float64) float64 { return math.Atan2(offset, over) * 180 / math.Pi }
	read.Value = of(*r.OffsetM, *r.OverM)
	const hand = 0.05 // how near a plumb line is read, m (common practice)
	read.Low, read.High = of(math.Max(0, *r.OffsetM-hand), *r.OverM), of(*r.OffsetM+hand, *r.OverM)
	sheet.Add("λ", "lean from upright", fmt.Sprintf("atan(offset/height) = atan(%s/%s)", units.Print(units.Height, r.Units, *r.OffsetM), units.Print(units.Height, r.Units, *r.OverM)), read.Value, "°", "plane trigonometry")
	read.Working = sheet.Steps()
	read.Noted = fmt.Sprintf("%s off plumb over %s", units.Print(units.Height, r.Units, *r.OffsetM), units.Print(units.Height, r.Units, *r.OverM))
	read.Cautions = append(read.Cautions, "The stem may bend above the plumb line: the head leans more or less than this.")
}

func (r *Request) place(read *Read) {
	var sheet working.Sheet
	sin, cos := math.Sincos(*r.BearingDeg * math.Pi / 180)
	read.X, read.Y = r.FromX+*r.DistanceM*sin, r.FromY+*r.DistanceM*cos
	sheet.Add("x", "east of the origin", fmt.Sprintf("d·sin θ = %s·sin %g°", units.Print(units.Height, r.Units, *r.DistanceM), *r.BearingDeg), read.X, "m", "plane trigonometry")
	sheet.Add("y", "north of the origin", "d·cos θ", read.Y, "m", "plane trigonometry")
	read.Working = sheet.Steps()
	read.Noted = fmt.Sprintf("%g°, %s", *r.BearingDeg, units.Print(units.Height, r.Units, *r.DistanceM))
}

// Wind is the point of the compass nearest to an azimuth: N, NE, E.
func Wind(deg float64) string {
	names := [8]string{"N", "NE", "E", "SE", "S", "SW", "W", "NW"}
	return names[int(math.Mod(math.Round(math.Mod(deg, 360)/45)+8, 8))]
}
