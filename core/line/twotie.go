package line

import (
	"fmt"
	"math"

	"elkstay/core/intake"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A Spot is a place in the upright plane of two lines.
type Spot struct {
	X float64 `json:"x" minimum:"-1000" maximum:"1000" doc:"To the right, m"`
	Z float64 `json:"z" minimum:"-1000" maximum:"1000" doc:"Up, m"`
}

// A Tied line holds a piece at one place from one point.
type Tied struct {
	Name  string  `json:"name" minLength:"1" maxLength:"80"`
	AtM   float64 `json:"at_m" minimum:"0" maximum:"150" doc:"On the piece, from the butt, m"`
	Point Spot    `json:"point"`
	LineM float64 `json:"line_m" exclusiveMinimum:"0" maximum:"1000" doc:"Line from the point to the tie, m"`
}

// A TwoTie is one straight piece on two lines that do not stretch.
type TwoTie struct {
	MassKg  float64 `json:"mass_kg" exclusiveMinimum:"0" maximum:"100000" doc:"Mass, kg"`
	LengthM float64 `json:"length_m" exclusiveMinimum:"0" maximum:"150" doc:"Length, m"`
	CogM    float64 `json:"cog_m" minimum:"0" maximum:"150" doc:"Centre of gravity from the butt, m"`
	Ties    []Tied  `json:"ties" minItems:"2" maxItems:"2"`
}

// A TieLoad is what one line carries.
type TieLoad struct {
	Name           string  `json:"name"`
	TensionKn      float64 `json:"tension_kn"`
	FromUprightDeg float64 `json:"from_upright_deg" doc:"0: the tie hangs straight beneath its point"`
	Slack          bool    `json:"slack"`
	At             Spot    `json:"at" doc:"Where the tie is"`
	DropM          float64 `json:"drop_m" doc:"How far the centre of gravity falls when the other line is let go"`
}

// A Hanging is how the piece hangs at rest.
type Hanging struct {
	AttitudeDeg float64   `json:"attitude_deg" doc:"Of the tip from the butt above the level; 0: tip to the right"`
	Cog         Spot      `json:"cog"`
	Butt        Spot      `json:"butt"`
	Tip         Spot      `json:"tip"`
	LowestM     float64   `json:"lowest_m" doc:"Height of the lower end"`
	Ties        []TieLoad `json:"ties" nullable:"false"`
}

// rounding keeps two discs about one place from missing each other by the last digit, m.
const rounding = 1e-12

// slackFrom is how much nearer than its line a tie is when the line hangs slack, m.
const slackFrom = 1e-6

// met is what two lines carry that meet at one place: their level parts cancel, their upright
// parts sum to the weight. By each line's way up from there, its level and its upright part of
// one. How lines share that run as one nobody knows: either may have it all.
func met(weight float64, ux, uz [2]float64) (first, second float64) {
	det := ux[0]*uz[1] - ux[1]*uz[0]
	if math.Abs(det) <= 1e-12 {
		return weight, weight
	}
	return max(0, -ux[1]*weight/det), max(0, ux[0]*weight/det)
}

// rested is a place of the piece: its butt and its attitude. Where the lines let it be nowhere, its
// centre of gravity is infinitely high.
type rested struct {
	x, z, turn float64
	cogZ       float64
}

// at is a place along the piece.
func (r *rested) at(m float64) (x, z float64) {
	sin, cos := math.Sincos(r.turn)
	return r.x + m*cos, r.z + m*sin
}

// lowest is the lowest that the piece hangs in an attitude: of the places that both lines
// allow, two discs for the butt, the lowest.
func (t *TwoTie) lowest(turn float64) rested {
	sin, cos := math.Sincos(turn)
	return t.lowestAt(turn, sin, cos)
}

func (t *TwoTie) lowestAt(turn, sin, cos float64) rested {
	a, b := &t.Ties[0], &t.Ties[1]
	ax, az := a.Point.X-a.AtM*cos, a.Point.Z-a.AtM*sin
	bx, bz := b.Point.X-b.AtM*cos, b.Point.Z-b.AtM*sin
	dx, dz := bx-ax, bz-az
	far := math.Sqrt(dx*dx + dz*dz)
	out := rested{turn: turn, cogZ: math.Inf(1)}
	switch {
	case far > a.LineM+b.LineM:
		return out
	case reaches(dx, dz+a.LineM, b.LineM):
		out.x, out.z = ax, az-a.LineM
	case reaches(dx, dz-b.LineM, a.LineM):
		out.x, out.z = bx, bz-b.LineM
	default:
		// Where the circles cross, the lower place.
		along := (far*far + a.LineM*a.LineM - b.LineM*b.LineM) / (2 * far)
		aside := math.Sqrt(max(0, a.LineM*a.LineM-along*along))
		lower := math.Copysign(aside, dx)
		out.x, out.z = ax+(along*dx+lower*dz)/far, az+(along*dz-lower*dx)/far
	}
	out.cogZ = out.z + t.CogM*sin
	return out
}

// reaches reports that a line is as long as what is so far apart along two axes.
func reaches(dx, dz, lineM float64) bool { return math.Sqrt(dx*dx+dz*dz) <= lineM+rounding }

// alone is how the piece hangs on one line only.
func (t *TwoTie) alone(i int) rested {
	tie, up := &t.Ties[i], 1.0
	if t.CogM > tie.AtM {
		up = -1 // tip down
	}
	z := tie.Point.Z - tie.LineM - up*tie.AtM
	return rested{x: tie.Point.X, z: z, turn: up * math.Pi / 2, cogZ: z + up*t.CogM}
}

// scan is in how many attitudes the lowest is looked for before it is closed in on.
const scan = 240

// scanned are those attitudes, with their sine and cosine.
var scanned = func() (list [scan]struct{ turn, sin, cos float64 }) {
	for i := range list {
		one := &list[i]
		one.turn = 2 * math.Pi / scan * float64(i)
		one.sin, one.cos = math.Sincos(one.turn)
	}
	return list
}()

// rest finds the place in which the piece's centre of gravity is lowest.
func (t *TwoTie) rest() (best rested, held bool) {
	const step = 2 * math.Pi / scan
	var tried [scan]rested
	for i := range tried {
		one := &scanned[i]
		tried[i] = t.lowestAt(one.turn, one.sin, one.cos)
	}
	best.cogZ = math.Inf(1)
	for i, here := range tried {
		if beside := min(tried[(i+1)%scan].cogZ, tried[(i+scan-1)%scan].cogZ); here.cogZ <= beside && !math.IsInf(here.cogZ, 1) {
			// Between lines that are nearly straight only that attitude may be held, and none beside it.
			best = lower(best, lower(here, t.closeIn(here.turn-step, here.turn+step)))
		}
	}
	return best, !math.IsInf(best.cogZ, 1)
}

// lower is the one of two places where the piece hangs lower.
func lower(a, b rested) rested {
	if a.cogZ < b.cogZ {
		return a
	}
	return b
}

// sections is how often the golden section is taken: 3° come down to 5·10⁻¹⁰ rad.
const sections = 40

// closeIn closes in on the lowest between two attitudes by the golden section.
func (t *TwoTie) closeIn(low, high float64) rested {
	const golden = 0.6180339887498949
	a, b := t.lowest(high-golden*(high-low)), t.lowest(low+golden*(high-low))
	for range sections {
		if a.cogZ <= b.cogZ {
			high, b = b.turn, a
			a = t.lowest(high - golden*(high-low))
		} else {
			low, a = a.turn, b
			b = t.lowest(low + golden*(high-low))
		}
	}
	return lower(a, b)
}

// Faults names what cannot hang at the given path.
func (t *TwoTie) Faults(path string) intake.Faults {
	_, faults := t.rests(path)
	return faults
}

// Hangs is how a piece hangs, or what cannot hang at the given path.
func (t *TwoTie) Hangs(path string) (Hanging, intake.Faults) {
	at, faults := t.rests(path)
	if len(faults) > 0 {
		return Hanging{}, faults
	}
	return t.hanging(at), nil
}

// rests finds the place it comes to rest in, or names what cannot hang at the given path.
func (t *TwoTie) rests(path string) (at rested, faults intake.Faults) {
	if t.CogM > t.LengthM {
		faults.Add(path+".cog_m", t.CogM, fmt.Sprintf("at most %g m", t.LengthM), "the centre of gravity (%g m) is beyond the piece's tip (%g m)", t.CogM, t.LengthM)
	}
	for i, tie := range t.Ties {
		if tie.AtM > t.LengthM {
			faults.Add(fmt.Sprintf("%s.ties[%d].at_m", path, i), tie.AtM, fmt.Sprintf("at most %g m", t.LengthM), "the tie of %s sits beyond the piece's tip", tie.Name)
		}
	}
	if math.Abs(t.Ties[0].AtM-t.Ties[1].AtM) < 1e-6 {
		faults.Add(path+".ties[1].at_m", t.Ties[1].AtM, "a place of its own", "both lines are tied at the same place")
	}
	if len(faults) > 0 {
		return at, faults
	}
	at, held := t.rest()
	if !held {
		apart := math.Hypot(t.Ties[0].Point.X-t.Ties[1].Point.X, t.Ties[0].Point.Z-t.Ties[1].Point.Z)
		reach := t.Ties[0].LineM + t.Ties[1].LineM + math.Abs(t.Ties[0].AtM-t.Ties[1].AtM)
		faults.Add(path+".ties[1].line_m", t.Ties[1].LineM, fmt.Sprintf("more than %.4g m", t.Ties[1].LineM+apart-reach),
			"the lines and the piece between them reach %.4g m, and the points are %.4g m apart: they cannot both hold it", reach, apart)
	}
	if held && t.straight(&at) {
		faults.Add(path+".ties[1].line_m", t.Ties[1].LineM, fmt.Sprintf("more than %g m", t.Ties[1].LineM), "the lines and the piece between them lie in one line: what they would carry has no bound")
	}
	return at, faults
}

// straight tells whether both lines pull against each other, so nearly in one line that they carry thousands of times
// what hangs between them.
func (t *TwoTie) straight(at *rested) bool {
	x, z := 0.0, 0.0
	for i := range t.Ties {
		tx, tz := at.at(t.Ties[i].AtM)
		dx, dz := t.Ties[i].Point.X-tx, t.Ties[i].Point.Z-tz
		long := max(math.Sqrt(dx*dx+dz*dz), slackFrom)
		if long < t.Ties[i].LineM-slackFrom {
			return false
		}
		x, z = x+dx/long, z+dz/long
	}
	return math.Hypot(x, z) < 2e-4
}

// Solve works out a piece without Faults.
func (t *TwoTie) Solve() Hanging {
	at, _ := t.rest()
	return t.hanging(at)
}

// hanging is what a piece that has come to rest loads.
func (t *TwoTie) hanging(at rested) Hanging {
	weight := t.MassKg * units.Gravity / 1000
	out := Hanging{AttitudeDeg: math.Remainder(at.turn, 2*math.Pi) * 180 / math.Pi, Ties: make([]TieLoad, 2)}
	if out.AttitudeDeg <= -180 {
		out.AttitudeDeg += 360
	}
	spot := func(m float64) Spot { x, z := at.at(m); return Spot{x, z} }
	out.Butt, out.Tip, out.Cog = spot(0), spot(t.LengthM), spot(t.CogM)
	out.LowestM = min(out.Butt.Z, out.Tip.Z)
	var ux, uz [2]float64
	for i := range t.Ties {
		tie, load := &t.Ties[i], &out.Ties[i]
		load.Name, load.At = tie.Name, spot(tie.AtM)
		x, z := tie.Point.X-load.At.X, tie.Point.Z-load.At.Z
		long := math.Sqrt(x*x + z*z)
		load.Slack = long < tie.LineM-slackFrom
		if long > 0 {
			ux[i], uz[i] = x/long, z/long
		}
		load.FromUprightDeg = math.Atan2(math.Abs(x), z) * 180 / math.Pi
		load.DropM = max(0, out.Cog.Z-t.alone(i).cogZ)
	}
	switch {
	case out.Ties[0].Slack:
		out.Ties[1].TensionKn = weight
	case out.Ties[1].Slack:
		out.Ties[0].TensionKn = weight
	default:
		out.Ties[0].TensionKn, out.Ties[1].TensionKn = t.shared(weight, at.turn, ux, uz)
	}
	return out
}

// shared is what each of two lines carries that hold the piece in an attitude: level parts cancel, upright parts sum to
// the weight, and moments about its balance cancel. All three are asked to be met as nearly as they can, since any two
// tell next to nothing somewhere: lines that are parallel, lines along the piece. Lines along the same line
// share as the place of the balance between their ties has it.
func (t *TwoTie) shared(weight, turn float64, ux, uz [2]float64) (first, second float64) {
	sin, cos := math.Sincos(turn)
	var moment [2]float64
	for i := range moment {
		moment[i] = (t.Ties[i].AtM - t.CogM) / t.LengthM * (cos*uz[i] - sin*ux[i])
	}
	both := ux[0]*ux[1] + uz[0]*uz[1] + moment[0]*moment[1]
	one, other := 1+moment[0]*moment[0], 1+moment[1]*moment[1]
	det := one*other - both*both
	if det <= 1e-12 {
		share := max(0, min(1, (t.Ties[1].AtM-t.CogM)/(t.Ties[1].AtM-t.Ties[0].AtM)))
		return share * weight, (1 - share) * weight
	}
	return max(0, weight*(other*uz[0]-both*uz[1])/det), max(0, weight*(one*uz[1]-both*uz[0])/det)
}

// Working writes the sum behind a hanging piece.
func (t *TwoTie) Working(h Hanging) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	const statics = "statics: forces in a plane"
	sheet.Add("W", "weight", n(t.MassKg)+"·9.80665/1000", t.MassKg*units.Gravity/1000, "kN", units.GravitySource)
	sheet.Add("θ", "attitude", "of all places that both lines allow, the one with the lowest centre of gravity", h.AttitudeDeg, "°", "principle of least potential energy")
	for i, tie := range h.Ties {
		how := "level parts cancel, upright parts sum to W"
		if tie.Slack {
			how = "nearer its point than its line is long: slack"
		}
		sheet.Add(fmt.Sprintf("T%d", i+1), tie.Name, how, tie.TensionKn, "kN", statics)
		sheet.Add(fmt.Sprintf("α%d", i+1), tie.Name+" from upright", "geometry of the place", tie.FromUprightDeg, "°", "geometry")
	}
	sheet.Add("z", "lower end", "geometry of the place", h.LowestM, "m", "geometry")
	return sheet.Steps()
}

// Cautions returns what must stand beside a hanging piece.
func (t *TwoTie) Cautions(h Hanging) []string {
	cautions := []string{}
	for i, tie := range h.Ties {
		if other := h.Ties[1-i]; !tie.Slack && !other.Slack {
			cautions = append(cautions, fmt.Sprintf("When %s is let go, %s takes the whole weight, and its centre of gravity falls %.2f m onto it: that is a drop, not this figure.", other.Name, tie.Name, tie.DropM))
		}
		if tie.Slack {
			cautions = append(cautions, fmt.Sprintf("%s hangs slack: the other line has it all, and %s catches with a jerk should it come tight.", tie.Name, tie.Name))
		}
		if tie.FromUprightDeg > 60 && !tie.Slack {
			cautions = append(cautions, fmt.Sprintf("%s leads off %.0f° from upright: past 60° a little less slack is a lot of load.", tie.Name, tie.FromUprightDeg))
		}
	}
	return cautions
}
