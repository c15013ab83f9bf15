// Package swing answers where a piece goes when it swings off on a taut line: how
// fast, how hard it pulls at the bottom, and how close it passes what stands around.
//
// The model is a pendulum: the tie starts at rest and swings in the upright plane
// through pivot and tie to the mirrored height, without loss. A sphere of the given
// reach round the tie stands for the piece. What hangs below the tie adds to fall
// and load and is not counted. At the bottom the line carries W(3 − 2cos θ₀): from a
// quarter swing, three times the weight (any text on mechanics).
//
// Lengths are in metres, forces in kilonewtons, angles in degrees from straight down.
package swing

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/intake"
	"elkstay/core/line"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Box is something in the way, its edges along the axes.
type Box struct {
	Name string     `json:"name" minLength:"1" maxLength:"80"`
	Min  line.Point `json:"min"`
	Max  line.Point `json:"max"`
}

// A Swing is a piece about to leave.
type Swing struct {
	Pivot     line.Point `json:"pivot" doc:"Where the line is held"`
	Tie       line.Point `json:"tie" doc:"Where the piece is tied"`
	MassKg    float64    `json:"mass_kg" exclusiveMinimum:"0" maximum:"100000" doc:"Mass, kg"`
	ReachM    float64    `json:"reach_m" minimum:"0" maximum:"100" doc:"How far the piece reaches from its tie, m"`
	GroundZ   float64    `json:"ground_z,omitempty" minimum:"-1000" maximum:"1000" doc:"Height of the ground, m; default 0"`
	Obstacles []Box      `json:"obstacles" maxItems:"200"`
}

// A Clearance is how close the piece comes to one thing.
type Clearance struct {
	Name       string  `json:"name"`
	ClearanceM float64 `json:"clearance_m" doc:"Least distance, reach taken off; negative: it touches"`
	AtDeg      float64 `json:"at_deg" doc:"Where, from straight down, + on the starting side"`
}

// An Arc is where the piece goes.
type Arc struct {
	RadiusM    float64     `json:"radius_m"`
	StartDeg   float64     `json:"start_deg"`
	SpeedMS    float64     `json:"speed_m_s" doc:"At the bottom"`
	LineKn     float64     `json:"line_kn" doc:"Line at the bottom"`
	Factor     float64     `json:"factor" doc:"Line over weight"`
	LowestM    float64     `json:"lowest_m" doc:"Height of the lowest point reached"`
	Clearances []Clearance `json:"clearances" nullable:"false"`
}

// Faults names what is wrong between the fields at the given path.
func (s *Swing) Faults(path string) (faults intake.Faults) {
	if s.Tie.Z >= s.Pivot.Z {
		faults.Add(path+".tie.z", s.Tie.Z, fmt.Sprintf("less than %g m", s.Pivot.Z),
			"the tie (%g m) is level with the pivot (%g m) or above it: a slack line cannot hold an arc, use drop", s.Tie.Z, s.Pivot.Z)
	}
	for i, box := range s.Obstacles {
		for _, axis := range []struct {
			name     string
			low, top float64
		}{{"x", box.Min.X, box.Max.X}, {"y", box.Min.Y, box.Max.Y}, {"z", box.Min.Z, box.Max.Z}} {
			if axis.low > axis.top {
				faults.Add(fmt.Sprintf("%s.obstacles[%d].min.%s", path, i, axis.name), axis.low, fmt.Sprintf("at most %g m", axis.top),
					"%s begins at %g and ends at %g", box.Name, axis.low, axis.top)
			}
		}
	}
	return faults
}

// arcSteps is how finely the arc is searched before the nearest place is closed in on.
const arcSteps = 360

// Solve works out a swing without Faults.
func (s *Swing) Solve() Arc {
	down := r3.Sub(s.Tie.Vec(), s.Pivot.Vec())
	radius := r3.Norm(down)
	start := math.Acos(max(-1, min(1, -down.Z/radius)))
	side := r3.Vec{X: down.X, Y: down.Y}
	if across := r3.Norm(side); across > 0 {
		side = r3.Scale(1/across, side)
	}
	weight := s.MassKg * units.Gravity / 1000
	arc := Arc{
		RadiusM: radius, StartDeg: start * 180 / math.Pi,
		SpeedMS: math.Sqrt(2 * units.Gravity * radius * (1 - math.Cos(start))),
		Factor:  3 - 2*math.Cos(start),
		LowestM: s.Pivot.Z - radius - s.ReachM, Clearances: []Clearance{},
	}
	arc.LineKn = weight * arc.Factor
	at := func(angle float64) r3.Vec {
		return r3.Add(s.Pivot.Vec(), r3.Add(r3.Scale(radius*math.Sin(angle), side), r3.Vec{Z: -radius * math.Cos(angle)}))
	}
	for i := range s.Obstacles {
		box := &s.Obstacles[i]
		distance := func(angle float64) float64 { return box.distance(at(angle)) }
		best, step := start, 2*start/arcSteps
		for k := 1; k <= arcSteps; k++ {
			if angle := start - float64(k)*step; distance(angle) < distance(best) {
				best = angle
			}
		}
		best = closeIn(distance, max(-start, best-step), min(start, best+step))
		arc.Clearances = append(arc.Clearances, Clearance{box.Name, distance(best) - s.ReachM, best * 180 / math.Pi})
	}
	arc.Clearances = append(arc.Clearances, Clearance{"ground", s.Pivot.Z - radius - s.GroundZ - s.ReachM, 0})
	return arc
}

// closeIn finds the least of f between two angles by thirds.
func closeIn(f func(float64) float64, low, high float64) float64 {
	for range 100 {
		third := (high - low) / 3
		if f(low+third) <= f(high-third) {
			high -= third
		} else {
			low += third
		}
	}
	return (low + high) / 2
}

// distance is how far a place is from the box; 0 inside it.
func (b *Box) distance(p r3.Vec) float64 {
	beyond := func(v, low, high float64) float64 { return max(low-v, 0, v-high) }
	return r3.Norm(r3.Vec{
		X: beyond(p.X, b.Min.X, b.Max.X), Y: beyond(p.Y, b.Min.Y, b.Max.Y), Z: beyond(p.Z, b.Min.Z, b.Max.Z),
	})
}

// Working writes the sum behind an arc.
func (s *Swing) Working(a Arc) []working.Step {
	var sheet working.Sheet
	const pendulum = "pendulum: conservation of energy"
	sheet.Add("R", "radius", "distance from pivot to tie", a.RadiusM, "m", "geometry")
	sheet.Add("θ₀", "start, from straight down", "acos((z_pivot − z_tie)/R)", a.StartDeg, "°", "geometry")
	sheet.Add("v", "speed at the bottom", "√(2·9.80665·R·(1 − cos θ₀))", a.SpeedMS, "m/s", pendulum)
	sheet.Add("T", "line at the bottom", fmt.Sprintf("W·(3 − 2·cos θ₀), W = %s kN", working.Figure(s.MassKg*units.Gravity/1000)), a.LineKn, "kN", pendulum)
	sheet.Add("z_low", "lowest point", "z_pivot − R − reach", a.LowestM, "m", "geometry")
	for _, c := range a.Clearances {
		sheet.Add("d", "clearance of "+c.Name, "least distance of the arc, less the reach", c.ClearanceM, "m", "geometry")
	}
	return sheet.Steps()
}

// Cautions returns what must stand beside an arc.
func (s *Swing) Cautions(a Arc) []string {
	cautions := []string{"What hangs below the tie adds to the fall and to the load. The piece also turns while it swings."}
	for _, c := range a.Clearances {
		if c.ClearanceM <= 0 {
			cautions = append(cautions, fmt.Sprintf("It strikes %s.", c.Name))
		}
	}
	return cautions
}
