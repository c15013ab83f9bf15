package line

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/intake"
	"elkstay/core/working"
)

// A Point is a place in space, metres, z up.
type Point struct {
	X float64 `json:"x" minimum:"-1000" maximum:"1000" doc:"m"`
	Y float64 `json:"y" minimum:"-1000" maximum:"1000" doc:"m"`
	Z float64 `json:"z" minimum:"-1000" maximum:"1000" doc:"m, up"`
}

// Vec returns the point as a vector.
func (p Point) Vec() r3.Vec { return r3.Vec{X: p.X, Y: p.Y, Z: p.Z} }

func pointAt(v r3.Vec) Point { return Point{v.X, v.Y, v.Z} }

// The three motions of a line.
const (
	Lowering = "lowering"
	Lifting  = "lifting"
	Still    = "still"
)

// A Stop is one point of a line's way: the piece, a sheave (efficiency), bark or a
// ring (friction), and last the lowering device (wraps and friction).
type Stop struct {
	Name string `json:"name" minLength:"1" maxLength:"80"`
	Point
	Efficiency *float64 `json:"efficiency,omitempty" minimum:"0.05" maximum:"1" doc:"A sheave's efficiency for a half turn"`
	Friction   *float64 `json:"friction,omitempty" minimum:"0" maximum:"1.5" doc:"Coefficient of friction of rope on bark, ring or device"`
	Wraps      *float64 `json:"wraps,omitempty" minimum:"0" maximum:"20" doc:"Turns on the device; the last point only"`
	Turns      float64  `json:"-"` // full turns round bark or a ring, besides its bend
}

// A Path is a static rope path from the piece to the device.
type Path struct {
	LoadKn float64 `json:"load_kn" exclusiveMinimum:"0" maximum:"5000" doc:"Tension at the piece, kN"`
	Motion string  `json:"motion" enum:"lowering,lifting,still"`
	Points []Stop  `json:"points" minItems:"2" maxItems:"40" doc:"From the piece to the device"`
}

// A Leg is one straight part of the rope.
type Leg struct {
	From      string  `json:"from"`
	To        string  `json:"to"`
	LengthM   float64 `json:"length_m"`
	TensionKn float64 `json:"tension_kn"`
}

// A Turn is what the rope does to one turning point.
type Turn struct {
	Name        string  `json:"name"`
	ContactDeg  float64 `json:"contact_deg" doc:"Angle of contact"`
	Ratio       float64 `json:"ratio" doc:"Lower over higher tension across the turn"`
	ResultantKn float64 `json:"resultant_kn" doc:"Force on the point: both legs' sum"`
	Direction   Point   `json:"direction" doc:"Unit vector of that force; zero when there is none"`
	Factor      float64 `json:"factor" doc:"Resultant over load"`
}

// Tensions is how a path is loaded.
type Tensions struct {
	Legs     []Leg   `json:"legs" nullable:"false"`
	Points   []Turn  `json:"points" nullable:"false" doc:"Turning points only"`
	DeviceKn float64 `json:"device_kn" doc:"Tension of the last leg"`
	HandKn   float64 `json:"hand_kn" doc:"What is left for the hand; still: the least that holds"`
}

// Faults names what is wrong between the points at the given path.
func (p Path) Faults(path string) (faults intake.Faults) {
	last := len(p.Points) - 1
	for i, stop := range p.Points {
		at := fmt.Sprintf("%s.points[%d]", path, i)
		if i > 0 && r3.Norm(r3.Sub(stop.Vec(), p.Points[i-1].Vec())) < 1e-6 {
			faults.Add(at, stop.Point, "a place other than the one before it", "%s is at the same place as %s", stop.Name, p.Points[i-1].Name)
		}
		switch {
		case i == 0 && (stop.Efficiency != nil || stop.Friction != nil):
			faults.Add(at, stop.Name, "a name and a place", "the first point is the piece: it turns no rope")
		case i == last && stop.Efficiency != nil:
			faults.Add(at+".efficiency", *stop.Efficiency, "wraps and friction", "the last point is the device: give its wraps and friction")
		case i == last && (stop.Wraps != nil && *stop.Wraps > 0) && stop.Friction == nil:
			faults.Add(at+".friction", nil, "at least 0 and at most 1.5", "the wraps need a friction")
		case i > 0 && i < last && (stop.Efficiency == nil) == (stop.Friction == nil):
			faults.Add(at+".efficiency", stop.Efficiency, "efficiency or friction; one of the two", "a turning point needs an efficiency (a sheave) or a friction (bark, a ring), one of the two")
		}
		if i != last && stop.Wraps != nil {
			faults.Add(at+".wraps", *stop.Wraps, "the last point only", "only the device takes wraps")
		}
	}
	return faults
}

// ratio is the lower over the higher tension across a turn of the given contact
// angle, radians.
func (s Stop) ratio(contact float64) float64 {
	if s.Efficiency != nil {
		return 1 - (1-*s.Efficiency)*math.Sin(contact/2)
	}
	return math.Exp(-*s.Friction * (contact + 2*math.Pi*s.Turns))
}

// SolveInto works out the tensions of a path without Faults into t, reusing its
// slices.
func (p Path) SolveInto(t *Tensions) {
	t.Legs, t.Points = t.Legs[:0], t.Points[:0]
	tension := p.LoadKn
	before := r3.Sub(p.Points[1].Vec(), p.Points[0].Vec())
	length := r3.Norm(before)
	t.Legs = append(t.Legs, Leg{p.Points[0].Name, p.Points[1].Name, length, tension})
	for i := 1; i < len(p.Points)-1; i++ {
		stop := &p.Points[i]
		after := r3.Sub(p.Points[i+1].Vec(), stop.Vec())
		onward := r3.Norm(after)
		a, b := r3.Scale(-1/length, before), r3.Scale(1/onward, after)
		contact := math.Pi - math.Acos(max(-1, min(1, r3.Dot(a, b))))
		ratio := stop.ratio(contact)
		out := tension
		switch p.Motion {
		case Lowering:
			out = ratio * tension
		case Lifting:
			out = tension / ratio
		}
		force := r3.Add(r3.Scale(tension, a), r3.Scale(out, b))
		turn := Turn{Name: stop.Name, ContactDeg: contact * 180 / math.Pi, Ratio: ratio, ResultantKn: r3.Norm(force)}
		turn.Factor = turn.ResultantKn / p.LoadKn
		if turn.ResultantKn > 1e-12*p.LoadKn {
			turn.Direction = pointAt(r3.Scale(1/turn.ResultantKn, force))
		}
		t.Points = append(t.Points, turn)
		t.Legs = append(t.Legs, Leg{stop.Name, p.Points[i+1].Name, onward, out})
		tension, before, length = out, after, onward
	}
	t.DeviceKn, t.HandKn = tension, tension
	if device := p.Points[len(p.Points)-1]; device.Wraps != nil && device.Friction != nil {
		t.HandKn = HandFor(tension, *device.Wraps, *device.Friction)
		if p.Motion == Lifting {
			t.HandKn = HeldBy(tension, *device.Wraps, *device.Friction)
		}
	}
}

// Working writes the sum behind the tensions.
func (p Path) Working(t Tensions) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	sheet.Add("T1", "tension at the piece", "as given", p.LoadKn, "kN", "as given")
	for i, turn := range t.Points {
		stop := p.Points[i+1]
		sheet.Add(fmt.Sprintf("θ%d", i+1), "angle of contact at "+turn.Name, "π − angle between the legs", turn.ContactDeg, "°", "geometry")
		if stop.Efficiency != nil {
			sheet.Add(fmt.Sprintf("ρ%d", i+1), "tension ratio across the sheave", fmt.Sprintf("1 − (1 − %s)·sin(θ/2)", n(*stop.Efficiency)), turn.Ratio, "", "efficiency of a sheave, by contact: "+working.Common)
		} else {
			sheet.Add(fmt.Sprintf("ρ%d", i+1), "tension ratio across bark or ring", fmt.Sprintf("e^(−%s·θ)", n(*stop.Friction)), turn.Ratio, "", Capstan)
		}
		how := map[string]string{Lowering: "ρ·T, lowering", Lifting: "T/ρ, lifting", Still: "T, still"}[p.Motion]
		sheet.Add(fmt.Sprintf("T%d", i+2), "tension behind it", how, t.Legs[i+1].TensionKn, "kN", Capstan)
		sheet.Add(fmt.Sprintf("F%d", i+1), "force on "+turn.Name, "|T_in·a + T_out·b|, a and b the unit vectors of the legs", turn.ResultantKn, "kN", "statics")
	}
	sheet.Add("H", "hand", "device tension·e^(∓2πμn), + when lifting", t.HandKn, "kN", Capstan)
	return sheet.Steps()
}

// Cautions returns what must stand beside the tensions.
func (p Path) Cautions(t Tensions) []string {
	cautions := []string{}
	for i, turn := range t.Points {
		if p.Points[i+1].Friction != nil {
			cautions = append(cautions, fmt.Sprintf("%s: rope over bark or a ring heats and wears; rope over rope melts. Its friction is a guess.", turn.Name))
		}
	}
	if p.Motion == Still {
		cautions = append(cautions, "Still: no friction is counted on the way, because the line may creep either way. The hand is the least that holds at the device.")
	}
	return cautions
}
