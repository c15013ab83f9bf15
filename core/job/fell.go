package job

import "elkstay/core/haul"

// A Fell is how everything above a cut on the stem is felled over its hinge.
type Fell struct {
	FaceDepthM *float64   `json:"face_depth_m,omitempty" exclusiveMinimum:"0" maximum:"5" doc:"Depth of the face, m; default a quarter of the stem"`
	OpeningDeg *float64   `json:"opening_deg,omitempty" minimum:"20" maximum:"120" doc:"How far the face opens: it closes, and the hinge is gone, at that tilt; default 70"`
	UpsideDown bool       `json:"upside_down,omitempty" doc:"The level cut of the face is its upper one"`
	LeftM      *float64   `json:"left_m,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"Thickness of the hinge at its left, looking to the fall, m; default a tenth of the stem"`
	RightM     *float64   `json:"right_m,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"At its right, m; default a tenth of the stem"`
	BoredM     *float64   `json:"bored_m,omitempty" exclusiveMinimum:"0" maximum:"5" doc:"Width bored out of its middle, m; default none"`
	NicksM     *float64   `json:"nicks_m,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"Wood cut out at each of its ends, m; default none"`
	BackUpM    *float64   `json:"back_up_m,omitempty" minimum:"0" maximum:"1" doc:"Back cut above the level of the face, m; default 0.03"`
	StrapM     *float64   `json:"strap_m,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"Strap kept at the back and let go last, so thick, m; absent: none"`
	Wedged     bool       `json:"wedged,omitempty" doc:"Wedges in the back cut"`
	Margin     *float64   `json:"margin,omitempty" minimum:"1" maximum:"5" doc:"Factor on the moment that is needed; default the crew's"`
	WindM2     *float64   `json:"wind_m2,omitempty" exclusiveMinimum:"0" maximum:"2000" doc:"What of it the wind catches, drag coefficient included, m²; default its outline as if it were closed"`
	Push       *FellPush  `json:"push,omitempty" doc:"A machine that pushes it; absent: none does"`
	Lines      []FellLine `json:"lines,omitempty" maxItems:"6" doc:"Lines that pull it or hold it sideways"`
	Straps     []Strap    `json:"straps,omitempty" maxItems:"6" doc:"Ties round its stem, where a union or a crack would open"`
	Beds       []Bed      `json:"beds,omitempty" maxItems:"6" doc:"Logs laid across its lay for it to come down on"`
}

// A Strap is tied round a stem, or round both of a union's.
type Strap struct {
	ID  string  `json:"id" minLength:"1" maxLength:"40"`
	AtM float64 `json:"at_m" minimum:"0" maximum:"120" doc:"Height, m"`
}

// A Bed is a log across the lay of what is felled.
type Bed struct {
	ID     string   `json:"id" minLength:"1" maxLength:"40"`
	OutM   float64  `json:"out_m" exclusiveMinimum:"0" maximum:"120" doc:"How far from the stump along the fall, m"`
	ThickM *float64 `json:"thick_m,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"Its diameter, m; default 0.3"`
}

// bedThick is what a bedding log measures where nobody has said, m (common practice, no source).
const bedThick = 0.3

// Thick is its diameter, m.
func (b *Bed) Thick() float64 { return Or(b.ThickM, bedThick) }

// A FellPush is a machine that pushes what is felled, level, towards its fall.
type FellPush struct {
	AtM     float64  `json:"at_m" exclusiveMinimum:"0" maximum:"40" doc:"Height at which it pushes, m"`
	LimitKn *float64 `json:"limit_kn,omitempty" exclusiveMinimum:"0" maximum:"1000" doc:"What it can push there, kN; absent: not known"`
}

// What pulls at, or holds, a line of a felling.
const (
	EffortHands   = "hands"
	EffortWinch   = "hand-winch"
	EffortCapstan = "capstan-winch"
	EffortVehicle = "vehicle"
	EffortMachine = "machine"
)

// A FellLine runs from what is felled over its redirects to an anchor of the site.
type FellLine struct {
	ID           string       `json:"id" minLength:"1" maxLength:"40"`
	Holds        bool         `json:"holds,omitempty" doc:"It holds the tree sideways; else it pulls"`
	Rig          string       `json:"rig,omitempty" maxLength:"40" doc:"Id of the rig whose rope it is; empty: the first"`
	AtM          float64      `json:"at_m" minimum:"0" maximum:"120" doc:"Height at which it is tied to the stem, m"`
	Redirects    []Redirect   `json:"redirects,omitempty" maxItems:"6" doc:"Turns from the tree to the anchor: pulleys, forks"`
	Anchor       string       `json:"anchor" minLength:"1" maxLength:"40" doc:"Id of the anchor"`
	AnchorM      *float64     `json:"anchor_m,omitempty" minimum:"0" maximum:"120" doc:"Height on the anchor, m; default 0.3"`
	Parts        *int         `json:"parts,omitempty" minimum:"1" maximum:"9" doc:"Of the pulling system, 3 for 3:1; 1 to 6, or 9 for one 3:1 on another; default 1"`
	System       *haul.System `json:"system,omitempty" doc:"The pulling system as it was drawn, in place of parts; its load is the line's"`
	Effort       string       `json:"effort,omitempty" enum:"turned,straight" doc:"How the effort leads off the pulling system: turned at the anchor, which holds it as well; or pulled straight past it, which adds nothing to what the line pulls. Until it is said, turned"`
	By           string       `json:"by,omitempty" enum:"hands,hand-winch,capstan-winch,vehicle,machine" doc:"What pulls at the system"`
	People       *int         `json:"people,omitempty" minimum:"1" maximum:"20" doc:"Hands on it, in persons; default 1"`
	EffortKn     *float64     `json:"effort_kn,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"What they pull with, kN; absent: hands by the crew's limit, a vehicle by its grip, else not known"`
	PretensionKn float64      `json:"pretension_kn,omitempty" minimum:"0" maximum:"500" doc:"How tight it is made before the cut, kN; default 0"`
	Mid          *FellMid     `json:"mid,omitempty" doc:"What is put on its middle, between the tree and its first turn or its end"`
	HaulMS       *float64     `json:"haul_m_s,omitempty" exclusiveMinimum:"0" maximum:"20" doc:"How fast it is hauled in at the effort, m/s; default 0.15"`
}

// What is put on the middle of a line.
const (
	MidWeight = "weight"
	MidSide   = "side"
)

// A FellMid is put on the middle of a line's first part: a weight that hangs in it and follows the
// tree, or a pull square to it.
type FellMid struct {
	Kind     string   `json:"kind" enum:"weight,side"`
	WeightKg *float64 `json:"weight_kg,omitempty" exclusiveMinimum:"0" maximum:"20000" doc:"Mass hung there, kg; nothing else pulls at such a line"`
	LineM    *float64 `json:"line_m,omitempty" exclusiveMinimum:"0" maximum:"1000" doc:"Line of that part, the weight in its middle, m; default a twentieth more than the way is long"`
	SideKn   *float64 `json:"side_kn,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"Pull at its middle, square to the tight line, kN"`
}

// Defaults of felling (common practice, no source).
const (
	fellFace    = 0.25 // of the diameter
	fellHinge   = 0.1  // of the diameter
	fellMargin  = 1.3
	fellAnchor  = 0.3 // m
	fellOpening = 70  // degrees
	fellBackUp  = 0.03
	fellHaul    = 0.15 // m/s
	fellSag     = 0.05 // of a line with a weight in it, more than it is long
)

// FellDefaults are what a line of a felling stands at where nobody has said.
type FellDefaults struct {
	AnchorM float64 `json:"anchor_m" doc:"Height on its anchor, m"`
	HaulMS  float64 `json:"haul_m_s" doc:"How fast it is hauled in at the effort, m/s"`
	Sag     float64 `json:"sag" doc:"How much longer than its way a part with a weight in it is, as a share"`
}

// FellingDefaults are the defaults of a line of a felling.
func FellingDefaults() FellDefaults { return FellDefaults{fellAnchor, fellHaul, fellSag} }

// Felling is how a pick is felled, with its defaults for a stem so thick at the cut.
func (p *Pick) Felling(diameterM float64) Fell {
	f := Fell{}
	if p.Fell != nil {
		f = *p.Fell
	}
	set := func(at **float64, standard float64) {
		value := Or(*at, standard)
		*at = &value
	}
	set(&f.FaceDepthM, fellFace*diameterM)
	set(&f.OpeningDeg, fellOpening)
	set(&f.LeftM, fellHinge*diameterM)
	set(&f.RightM, fellHinge*diameterM)
	set(&f.BoredM, 0)
	set(&f.NicksM, 0)
	set(&f.BackUpM, fellBackUp)
	set(&f.Margin, fellMargin)
	lines := f.Lines
	f.Lines = make([]FellLine, len(lines))
	for i := range lines {
		one := lines[i]
		set(&one.AnchorM, fellAnchor)
		set(&one.HaulMS, fellHaul)
		count := func(at **int) {
			if *at == nil {
				single := 1
				*at = &single
			}
		}
		count(&one.Parts)
		count(&one.People)
		f.Lines[i] = one
	}
	return f
}

// Line is how long the part with a weight in its middle is, m, where the way is straightM long.
func (m *FellMid) Line(straightM float64) float64 { return Or(m.LineM, (1+fellSag)*straightM) }

// How an effort leads off a pulling system.
const (
	EffortTurned   = "turned"
	EffortStraight = "straight"
)

// Pulled tells whether a line pulls it.
func (f *Fell) Pulled() bool {
	for i := range f.Lines {
		if !f.Lines[i].Holds {
			return true
		}
	}
	return false
}
