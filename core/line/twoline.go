package line

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// The arrangements of two lines.
const (
	TwoLines = "two-lines" // one line from each point, each let out and taken in by itself
	OneRope  = "one-rope"  // the piece hangs in a pulley on one rope between the points
	Twin     = "twin"      // two lines side by side from the first point
)

// A Pair is a piece on two lines from two points in space. It hangs in the upright
// plane through both points. With two lines it is carried level, at PieceZ, from under
// the first point to under the second.
type Pair struct {
	A           Point    `json:"a" doc:"First point"`
	B           Point    `json:"b" doc:"Second point"`
	MassKg      float64  `json:"mass_kg" exclusiveMinimum:"0" maximum:"100000" doc:"Mass, kg"`
	Arrangement string   `json:"arrangement,omitempty" enum:"two-lines,one-rope,twin" doc:"Default two-lines"`
	PieceZ      *float64 `json:"piece_z,omitempty" minimum:"-1000" maximum:"1000" doc:"Height of the tie while it is carried, m; two-lines only"`
	RopeLengthM *float64 `json:"rope_length_m,omitempty" exclusiveMinimum:"0" maximum:"2000" doc:"Rope between the points, m; one-rope only"`
	SharePct    *float64 `json:"share_pct,omitempty" minimum:"50" maximum:"100" doc:"What the more loaded of twin lines takes; default 50: run together"`
	Efficiency  *float64 `json:"efficiency,omitempty" minimum:"0.05" maximum:"1" doc:"Of the blocks at the points, leads straight down; of two lines the first is let out, the second hauled in; absent: the lines end there"`
}

// A Carried is one place on the way.
type Carried struct {
	SharePct  float64 `json:"share_pct" doc:"How far from A to B, level, per cent"`
	At        Point   `json:"at"`
	AKn       float64 `json:"a_kn"`
	BKn       float64 `json:"b_kn"`
	AnchorAKn float64 `json:"anchor_a_kn"`
	AnchorBKn float64 `json:"anchor_b_kn"`
	AngleADeg float64 `json:"angle_a_deg" doc:"Of the line to the level"`
	AngleBDeg float64 `json:"angle_b_deg"`
}

// A Carrying is the whole way.
type Carrying struct {
	Way      []Carried `json:"way" nullable:"false"`
	Steepest Carried   `json:"steepest" doc:"Where a line is loaded hardest"`
	MaxAKn   float64   `json:"max_a_kn"`
	MaxBKn   float64   `json:"max_b_kn"`
}

// waySteps is how finely the way is followed.
const waySteps = 40

// Faults names what cannot hang at the given path.
func (p *Pair) Faults(path string) (faults intake.Faults) {
	apart := math.Hypot(p.B.X-p.A.X, p.B.Y-p.A.Y)
	unused := func(name string, value *float64) {
		if value != nil {
			faults.Add(path+"."+name, *value, "nothing, in this arrangement", "%s has no meaning here", name)
		}
	}
	switch p.Arrangement {
	case Twin:
		unused("piece_z", p.PieceZ)
		unused("rope_length_m", p.RopeLengthM)
	case OneRope:
		unused("piece_z", p.PieceZ)
		unused("share_pct", p.SharePct)
		straight := r3.Norm(r3.Sub(p.B.Vec(), p.A.Vec()))
		if p.RopeLengthM == nil || *p.RopeLengthM <= straight*(1+1e-6) {
			faults.Add(path+".rope_length_m", p.RopeLengthM, fmt.Sprintf("more than %.4g m", straight), "the rope must be longer than the points are apart (%.4g m)", straight)
		}
	default:
		unused("rope_length_m", p.RopeLengthM)
		unused("share_pct", p.SharePct)
		if lower := min(p.A.Z, p.B.Z); p.PieceZ == nil || *p.PieceZ >= lower {
			faults.Add(path+".piece_z", p.PieceZ, fmt.Sprintf("less than %g m", lower), "the piece must hang below both points (%g m)", lower)
		}
	}
	if p.Arrangement != Twin && apart < 0.01 {
		faults.Add(path+".b", p.B, "a place at least 0.01 m away, seen from above", "both points are above each other: use twin")
	}
	return faults
}

// anchor is what a point holds: the line alone, or the line and its lead straight down. The
// lead of a line that is let out has lost at the block; that of one hauled in pulls as much
// more.
func (p *Pair) anchor(tension, angle float64, hauled bool) float64 {
	if p.Efficiency == nil {
		return tension
	}
	lead := *p.Efficiency
	if hauled {
		lead = 1 / lead
	}
	return tension * math.Hypot(math.Cos(angle), math.Sin(angle)+lead)
}

// hauls reports that the second line is hauled in while the first is let out.
func (p *Pair) hauls() bool { return p.Arrangement == "" || p.Arrangement == TwoLines }

// at works out one place: angles of both lines to the level, radians.
func (p *Pair) at(share float64, place Point, alpha, beta, a, b float64) Carried {
	return Carried{
		SharePct: 100 * share, At: place, AKn: a, BKn: b, AnchorAKn: p.anchor(a, alpha, false), AnchorBKn: p.anchor(b, beta, p.hauls()),
		AngleADeg: alpha * 180 / math.Pi, AngleBDeg: beta * 180 / math.Pi,
	}
}

// Solve works out a pair without Faults.
func (p *Pair) Solve() Carrying {
	weight := p.MassKg * units.Gravity / 1000
	apart := math.Hypot(p.B.X-p.A.X, p.B.Y-p.A.Y)
	c := Carrying{Way: []Carried{}}
	place := func(share, z float64) Point {
		return Point{p.A.X + share*(p.B.X-p.A.X), p.A.Y + share*(p.B.Y-p.A.Y), z}
	}
	switch p.Arrangement {
	case Twin:
		share := 0.5
		if p.SharePct != nil {
			share = *p.SharePct / 100
		}
		at := p.at(0, Point{p.A.X, p.A.Y, p.A.Z}, math.Pi/2, math.Pi/2, share*weight, (1-share)*weight)
		// Both hang on the first point.
		at.AnchorAKn, at.AnchorBKn = p.anchor(weight, math.Pi/2, false), 0
		c.Way = append(c.Way, at)
	case OneRope:
		// Both parts stand at the same angle: cos θ is the level distance over the rope.
		theta := math.Acos(apart / *p.RopeLengthM)
		drop := *p.RopeLengthM * math.Sin(theta)
		down := (drop + p.A.Z - p.B.Z) / 2 // below A
		tension := weight / (2 * math.Sin(theta))
		share := down / math.Tan(theta) / apart
		c.Way = append(c.Way, p.at(share, place(share, p.A.Z-down), theta, theta, tension, tension))
	default:
		for i := range waySteps + 1 {
			share := float64(i) / waySteps
			alpha := math.Atan2(p.A.Z-*p.PieceZ, share*apart)
			beta := math.Atan2(p.B.Z-*p.PieceZ, (1-share)*apart)
			// One tie on two lines: the case of two ties that meet.
			first, second := met(weight, [2]float64{-math.Cos(alpha), math.Cos(beta)}, [2]float64{math.Sin(alpha), math.Sin(beta)})
			c.Way = append(c.Way, p.at(share, place(share, *p.PieceZ), alpha, beta, first, second))
		}
	}
	c.most()
	return c
}

// most finds where the lines of a way are loaded hardest.
func (c *Carrying) most() {
	c.MaxAKn, c.MaxBKn, c.Steepest = 0, 0, Carried{}
	for _, at := range c.Way {
		c.MaxAKn, c.MaxBKn = max(c.MaxAKn, at.AKn), max(c.MaxBKn, at.BKn)
		if max(at.AKn, at.BKn) > max(c.Steepest.AKn, c.Steepest.BKn) {
			c.Steepest = at
		}
	}
}

// Heavier is a way whose lines carry no less than so much, place by place, kN: drawn aside.
func (p *Pair) Heavier(c Carrying, kn [][2]float64) Carrying {
	out := Carrying{Way: make([]Carried, len(c.Way))}
	for k, at := range c.Way {
		out.Way[k] = p.at(at.SharePct/100, at.At, at.AngleADeg*math.Pi/180, at.AngleBDeg*math.Pi/180, max(at.AKn, kn[k][0]), max(at.BKn, kn[k][1]))
	}
	out.most()
	return out
}

// Working writes the sum behind a carrying.
func (p *Pair) Working(c Carrying) []working.Step {
	var sheet working.Sheet
	const statics = "statics: three forces in a plane"
	s := c.Steepest
	sheet.Add("W", "weight", working.Figure(p.MassKg)+"·9.80665/1000", p.MassKg*units.Gravity/1000, "kN", units.GravitySource)
	sheet.Add("α", "angle of line A to the level, where it is steepest", "geometry of the place", s.AngleADeg, "°", "geometry")
	sheet.Add("β", "angle of line B to the level", "geometry of the place", s.AngleBDeg, "°", "geometry")
	how := map[string]string{Twin: "share · W", OneRope: "W/(2·sin θ)"}[p.Arrangement]
	if how == "" {
		how = "W·cos β/sin(α+β); B: W·cos α/sin(α+β)"
	}
	sheet.Add("A", "line A", how, s.AKn, "kN", statics)
	sheet.Add("B", "line B", how, s.BKn, "kN", statics)
	sheet.Add("F_A", "point A", "line and lead together, when it runs over a block", s.AnchorAKn, "kN", statics)
	sheet.Add("F_B", "point B", "line and lead together, when it runs over a block", s.AnchorBKn, "kN", statics)
	return sheet.Steps()
}

// Cautions returns what must stand beside a carrying.
func (p *Pair) Cautions(c Carrying) []string {
	cautions := []string{}
	if weight := p.MassKg * units.Gravity / 1000; max(c.MaxAKn, c.MaxBKn) > 2*weight {
		cautions = append(cautions, "The lines lie flat: a line carries more than twice the weight. Let the piece hang lower.")
	}
	if p.Arrangement == Twin {
		cautions = append(cautions, "Twin lines share only while they are run together: the shorter one takes all.")
	}
	return cautions
}
