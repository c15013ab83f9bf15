package job

import (
	"fmt"
	"iter"
	"math"

	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// A Tree is one tree of the job, with its foot on the plan.
type Tree struct {
	ID   string `json:"id" minLength:"1" maxLength:"40"`
	Name string `json:"name,omitempty" maxLength:"80" doc:"What the crew calls it"`
	At   *Spot  `json:"at,omitempty" doc:"Its foot on the plan; default the origin"`
	// Crowns tied together hold each other, and pull each other over.
	Tied []Tied `json:"tied,omitempty" maxItems:"10" doc:"Where its crown is tied to another tree's, or grown into it"`
	Measured
}

// Tied is where a tree's crown hangs together with another's.
type Tied struct {
	ID   string  `json:"id" minLength:"1" maxLength:"40"`
	To   string  `json:"to" minLength:"1" maxLength:"40" doc:"Id of the other tree"`
	AtM  float64 `json:"at_m" minimum:"0" maximum:"120" doc:"Height on this tree, m"`
	Free bool    `json:"free,omitempty" doc:"It is cut free before either goes"`
}

// Title is what a tree is called.
func (t *Tree) Title() string {
	if t.Name != "" {
		return t.Name
	}
	return "tree " + t.ID
}

// Foot is where it stands on the plan.
func (t *Tree) Foot() Spot {
	if t.At == nil {
		return Spot{}
	}
	return *t.At
}

// Measured is a tree as measured.
type Measured struct {
	Wood           wood.Wood     `json:"wood" doc:"Species or density; empty until chosen"`
	Readings       []Reading     `json:"readings" nullable:"false" maxItems:"60" doc:"Tape readings from the ground up"`
	HeightM        *float64      `json:"height_m,omitempty" exclusiveMinimum:"0" maximum:"120" doc:"Height of the stem's top, m; absent: the highest reading"`
	HeightNoted    string        `json:"height_noted,omitempty" maxLength:"80" doc:"How the height was measured, such as 18 m off, 42° and −4°"`
	LeanNoted      string        `json:"lean_noted,omitempty" maxLength:"80" doc:"How the lean was measured"`
	TopDiameterM   *float64      `json:"top_diameter_m,omitempty" exclusiveMinimum:"0" maximum:"5" doc:"Diameter at the top, m, when it is above the highest reading"`
	BarkM          *float64      `json:"bark_m,omitempty" minimum:"0" maximum:"0.2" doc:"Thickness of the bark where the lowest reading is, m; absent: by species"`
	Attached       []timber.Lump `json:"attached,omitempty" maxItems:"60" doc:"Ivy, hardware, stubs: lumps on the stem"`
	LeanDeg        *float64      `json:"lean_deg,omitempty" minimum:"0" maximum:"60" doc:"Lean of the stem from upright; default none"`
	LeanTowardsDeg *float64      `json:"lean_towards_deg,omitempty" minimum:"0" maximum:"360" doc:"Azimuth it leans towards; default 0"`
	InLeaf         *bool         `json:"in_leaf,omitempty" doc:"Leaves on; default yes"`
	Limbs          []Limb        `json:"limbs" nullable:"false" maxItems:"120" doc:"From the bottom up"`
	Defects        []Defect      `json:"defects" nullable:"false" maxItems:"60"`
}

// What a limb carries.
const (
	BrushFull = "full" // a whole limb with its brush
	BrushBare = "bare" // a pole
)

// A Limb leaves the stem, or another limb.
type Limb struct {
	ID         string   `json:"id" minLength:"1" maxLength:"40"`
	Name       string   `json:"name,omitempty" maxLength:"80" doc:"What the crew calls it"`
	Parent     string   `json:"parent,omitempty" maxLength:"40" doc:"Id of the limb it leaves; empty: the stem. One deep"`
	AtM        float64  `json:"at_m" minimum:"0" maximum:"120" doc:"Where it leaves: height on the stem, or distance along its parent, m"`
	AzimuthDeg float64  `json:"azimuth_deg" minimum:"0" maximum:"360" doc:"The way it grows, clockwise from north"`
	AngleDeg   float64  `json:"angle_deg" minimum:"0" maximum:"150" doc:"At its base, from upright: 0 straight up, 90 level"`
	DroopDeg   float64  `json:"droop_deg,omitempty" minimum:"-90" maximum:"90" doc:"How much more it points down at its tip than at its base; negative: it turns up"`
	DiameterM  float64  `json:"diameter_m" exclusiveMinimum:"0" maximum:"3" doc:"At its base, over bark, m"`
	LengthM    float64  `json:"length_m" exclusiveMinimum:"0" maximum:"60" doc:"Along it, m"`
	Brush      string   `json:"brush,omitempty" enum:"full,bare" doc:"With its brush, or a bare pole; default full"`
	MassKg     *float64 `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Judged by eye in place of the table, kg"`
	MassWhy    string   `json:"mass_why,omitempty" maxLength:"200" doc:"Why it is lighter than the table has it; empty: the table's heavy end counts as well"`
	Guess      bool     `json:"guess,omitempty" doc:"Its place and its size are a guess of the program, and nobody has measured it yet"`
}

// Title is what a limb is called.
func (l *Limb) Title() string {
	if l.Name != "" {
		return l.Name
	}
	return "limb " + l.ID
}

// The kinds of defects.
const (
	DefectDecay = "decay"
	DefectCrack = "crack"
	DefectUnion = "union"
	DefectIvy   = "ivy"
	DefectHung  = "hung-branch"
	DefectDead  = "dead"
)

// A Defect is something wrong with the tree, on the stem or on a limb, between two
// places.
type Defect struct {
	ID         string   `json:"id" minLength:"1" maxLength:"40"`
	Kind       string   `json:"kind" enum:"decay,crack,union,ivy,hung-branch,dead" doc:"union: co-dominant stems with bark between them"`
	Limb       string   `json:"limb,omitempty" maxLength:"40" doc:"Id of the limb; empty: the stem"`
	AtM        float64  `json:"at_m" minimum:"0" maximum:"120" doc:"Lower end: height, or distance along the limb, m"`
	ToM        *float64 `json:"to_m,omitempty" minimum:"0" maximum:"120" doc:"Upper end; default at_m"`
	AzimuthDeg *float64 `json:"azimuth_deg,omitempty" minimum:"0" maximum:"360" doc:"The side it is on"`
	MassKg     *float64 `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Of a hung branch or of ivy, kg"`
	Note       string   `json:"note,omitempty" maxLength:"400"`
}

// To is its upper end: at_m when none is given.
func (d *Defect) To() float64 {
	if d.ToM == nil {
		return d.AtM
	}
	return *d.ToM
}

// The two ways of reading a tape.
const (
	Girth    = "girth"
	Diameter = "diameter"
)

// A Reading is one tape reading of the stem.
type Reading struct {
	AtM     float64 `json:"at_m" minimum:"0" maximum:"120" doc:"Height, m"`
	Tape    string  `json:"tape" enum:"girth,diameter" doc:"Whether the tape went round the stem or reads its diameter"`
	TapeM   float64 `json:"tape_m" exclusiveMinimum:"0" maximum:"30" doc:"What the tape read, m"`
	Noted   string  `json:"noted,omitempty" maxLength:"40" doc:"The reading as it was written down, such as 68 1/2 in"`
	Offered bool    `json:"offered,omitempty" doc:"The tape's figure was offered by the program, and nobody has measured it yet"`
	CavityM float64 `json:"cavity_m,omitempty" minimum:"0" maximum:"10" doc:"Diameter of the cavity, m"`
	Offset  *Offset `json:"offset,omitempty" doc:"How far the stem's middle stands off the plumb line through its foot here; absent everywhere: the lean says"`
}

// An Offset is how far, and which way, a stem stands off the plumb line through its foot.
type Offset struct {
	OffM       float64 `json:"off_m" minimum:"0" maximum:"40" doc:"How far, m"`
	TowardsDeg float64 `json:"towards_deg" minimum:"0" maximum:"360" doc:"Which way, clockwise from north"`
}

// DiameterM is the diameter a reading stands for: a girth over π.
func (r Reading) DiameterM() float64 {
	if r.Tape == Girth {
		return r.TapeM / math.Pi
	}
	return r.TapeM
}

// topDiameter is what a stem measures at its top when nobody has said: 5 cm.
const topDiameter = 0.05

// Stem returns the stem that the readings and the height describe. It has fewer
// than two stations while too little is known. Ivy and hung branches with a mass hang
// on it as lumps.
func (t *Measured) Stem() timber.Stem {
	stem := timber.Stem{Attached: append([]timber.Lump(nil), t.Attached...), Stations: make([]timber.Station, 0, len(t.Readings)+1)}
	for _, reading := range t.Readings {
		stem.Stations = append(stem.Stations, timber.Station{AtM: reading.AtM, DiameterM: reading.DiameterM(), CavityM: reading.CavityM})
	}
	if t.hasTop() {
		top := topDiameter
		if t.TopDiameterM != nil {
			top = *t.TopDiameterM
		} else if len(stem.Stations) > 0 {
			top = min(top, stem.Stations[len(stem.Stations)-1].DiameterM)
		}
		stem.Stations = append(stem.Stations, timber.Station{AtM: *t.HeightM, DiameterM: top})
	}
	for i := range t.Defects {
		if d := &t.Defects[i]; d.Limb == "" {
			for at, kg := range d.Hangs() {
				stem.Attached = append(stem.Attached, timber.Lump{Label: d.Kind, MassKg: kg, AtM: at})
			}
		}
	}
	return stem
}

// Ivy is spread over all that it grows on, in lumps so far apart, m, and no more than so many.
const (
	ivyApart = 0.25
	ivyLumps = 60
)

// Hangs gives what a defect weighs, kg, by its places: ivy over all that it grows on, a hung branch in the middle of it; nothing where nobody
// has said.
func (d *Defect) Hangs() iter.Seq2[float64, float64] {
	return func(yield func(at, kg float64) bool) {
		if d.MassKg == nil {
			return
		}
		lumps := 1.0
		if d.Kind == DefectIvy {
			lumps = max(1, min(ivyLumps, math.Ceil((d.To()-d.AtM)/ivyApart)))
		}
		for k := range int(lumps) {
			if !yield(d.AtM+(d.To()-d.AtM)*(float64(k)+0.5)/lumps, *d.MassKg/lumps) {
				return
			}
		}
	}
}

// hasTop reports whether the height adds a station of its own.
func (t *Measured) hasTop() bool {
	return t.HeightM != nil && (len(t.Readings) == 0 || *t.HeightM > t.Readings[len(t.Readings)-1].AtM)
}

// Limb returns a limb by its id, or nil.
func (t *Measured) Limb(id string) *Limb {
	for i := range t.Limbs {
		if t.Limbs[i].ID == id {
			return &t.Limbs[i]
		}
	}
	return nil
}

// faults names what is wrong with the measurements, at their own fields.
func (t *Measured) faults(path string) (faults intake.Faults) {
	for i, reading := range t.Readings {
		at := fmt.Sprintf("%s.readings[%d]", path, i)
		if i > 0 && reading.AtM <= t.Readings[i-1].AtM {
			faults.Add(at+".at_m", reading.AtM, fmt.Sprintf("more than %g m", t.Readings[i-1].AtM),
				"the reading at %g m is not above the one before it (%g m)", reading.AtM, t.Readings[i-1].AtM)
		}
		if reading.DiameterM() > 10 {
			faults.Add(at+".tape_m", reading.TapeM, "a diameter of at most 10 m",
				"a %s of %g m makes the stem %.1f m thick", reading.Tape, reading.TapeM, reading.DiameterM())
		}
		if reading.CavityM > 0 && reading.CavityM >= reading.DiameterM() {
			faults.Add(at+".cavity_m", reading.CavityM, fmt.Sprintf("less than %.3g m", reading.DiameterM()),
				"the cavity (%g m) is as wide as the stem there (%.3g m)", reading.CavityM, reading.DiameterM())
		}
	}
	n := len(t.Readings)
	if n > 0 && t.HeightM != nil && *t.HeightM < t.Readings[n-1].AtM {
		faults.Add(path+".height_m", *t.HeightM, fmt.Sprintf("at least %g m", t.Readings[n-1].AtM),
			"the height (%g m) is below the highest reading (%g m)", *t.HeightM, t.Readings[n-1].AtM)
	}
	if n > 0 && t.BarkM != nil && 4**t.BarkM >= t.Readings[0].DiameterM() {
		faults.Add(path+".bark_m", *t.BarkM, fmt.Sprintf("less than %.3g m", t.Readings[0].DiameterM()/4),
			"bark of %g m leaves less than half of the stem's %.3g m to its wood", *t.BarkM, t.Readings[0].DiameterM())
	}
	for i, lump := range t.Attached {
		if n > 0 && lump.AtM < t.Readings[0].AtM {
			faults.Add(fmt.Sprintf("%s.attached[%d].at_m", path, i), lump.AtM, fmt.Sprintf("at least %g m", t.Readings[0].AtM),
				"what is attached at %g m sits below the lowest reading (%g m)", lump.AtM, t.Readings[0].AtM)
		}
	}
	faults.Join(t.axisFaults(path))
	if t.Wood.Given() {
		faults.Join(t.Wood.Faults(path + ".wood"))
	}
	if len(faults) == 0 && n > 0 {
		faults = t.limbFaults(path)
	}
	return faults
}

// limbFaults names limbs and defects that are nowhere on the tree.
func (t *Measured) limbFaults(path string) (faults intake.Faults) {
	top, bottom := t.Readings[len(t.Readings)-1].AtM, t.Readings[0].AtM
	if t.HeightM != nil {
		top = max(top, *t.HeightM)
	}
	for i := range t.Limbs {
		limb := &t.Limbs[i]
		at := fmt.Sprintf("%s.limbs[%d]", path, i)
		if limb.Parent == "" {
			if limb.AtM < bottom || limb.AtM > top {
				faults.Add(at+".at_m", limb.AtM, fmt.Sprintf("between %g and %g m", bottom, top),
					"%s leaves the stem at %g m, where there is none (%g to %g m)", limb.Title(), limb.AtM, bottom, top)
			}
			continue
		}
		parent := t.Limb(limb.Parent)
		switch {
		case parent == nil || parent.ID == limb.ID:
			faults.Add(at+".parent", limb.Parent, "the id of another limb", "%s leaves a limb that is not there: %q", limb.Title(), limb.Parent)
		case parent.Parent != "":
			faults.Add(at+".parent", limb.Parent, "a limb that leaves the stem", "%s leaves %s, which itself leaves a limb: one deep is the most", limb.Title(), parent.Title())
		case limb.AtM >= parent.LengthM:
			faults.Add(at+".at_m", limb.AtM, fmt.Sprintf("less than %g m", parent.LengthM), "%s leaves %s at %g m, beyond its tip (%g m)", limb.Title(), parent.Title(), limb.AtM, parent.LengthM)
		}
	}
	for i := range t.Defects {
		d := &t.Defects[i]
		at := fmt.Sprintf("%s.defects[%d]", path, i)
		if d.Limb != "" && t.Limb(d.Limb) == nil {
			faults.Add(at+".limb", d.Limb, "the id of a limb", "the %s is on a limb that is not there: %q", d.Kind, d.Limb)
		}
		if d.To() < d.AtM {
			faults.Add(at+".to_m", d.To(), fmt.Sprintf("at least %g m", d.AtM), "the %s ends (%g m) below where it begins (%g m)", d.Kind, d.To(), d.AtM)
		}
		if d.Limb == "" && d.MassKg != nil && d.AtM < bottom {
			faults.Add(at+".at_m", d.AtM, fmt.Sprintf("at least %g m", bottom), "the %s at %g m sits below the lowest reading (%g m)", d.Kind, d.AtM, bottom)
		}
	}
	return faults
}

// mostLean is how far from upright a stem can lean, degrees, as lean_deg allows.
const mostLean = 60

// axisFaults names offsets between which no stem could lean.
func (t *Measured) axisFaults(path string) (faults intake.Faults) {
	last := Knot{}
	for i, reading := range t.Readings {
		if reading.Offset == nil || reading.AtM <= last.AtM {
			continue
		}
		next := reading.knot()
		if lean := math.Atan(math.Hypot(next.X-last.X, next.Y-last.Y)/(next.AtM-last.AtM)) * 180 / math.Pi; lean > mostLean {
			faults.Add(fmt.Sprintf("%s.readings[%d].offset.off_m", path, i), reading.Offset.OffM, fmt.Sprintf("a lean of at most %d° from the place below", mostLean),
				"%g m off the plumb line at %g m makes the stem lean %.0f° there", reading.Offset.OffM, reading.AtM, lean)
		}
		last = next
	}
	return faults
}

// A Knot is a place of a stem's axis: a height, and how far it stands off the plumb line
// through the foot, east and north, m.
type Knot struct{ AtM, X, Y float64 }

func (r *Reading) knot() Knot {
	sin, cos := math.Sincos(r.Offset.TowardsDeg * math.Pi / 180)
	return Knot{r.AtM, r.Offset.OffM * sin, r.Offset.OffM * cos}
}

// Axis is the stem's axis from its foot up, straight between the knots and straight on
// above the last: where offsets were measured, by them; else by the lean.
func (t *Measured) Axis() []Knot {
	axis := []Knot{{}}
	for i := range t.Readings {
		if r := &t.Readings[i]; r.Offset != nil && r.AtM > axis[len(axis)-1].AtM {
			axis = append(axis, r.knot())
		}
	}
	if len(axis) > 1 {
		return axis
	}
	top := Knot{AtM: 1}
	if t.LeanDeg != nil {
		azimuth := 0.0
		if t.LeanTowardsDeg != nil {
			azimuth = *t.LeanTowardsDeg
		}
		sin, cos := math.Sincos(azimuth * math.Pi / 180)
		slope := math.Tan(*t.LeanDeg * math.Pi / 180)
		top.X, top.Y = slope*sin, slope*cos
	}
	return append(axis, top)
}

// Bent reports that the stem's axis was measured and is not straight.
func (t *Measured) Bent() bool { return len(t.Axis()) > 2 }
