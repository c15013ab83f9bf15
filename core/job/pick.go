package job

import (
	"elkstay/core/crane"
)

// What is taken by a pick.
type What string

// What can be taken.
const (
	WhatStem What = "stem" // a section of the bare stem
	WhatTop  What = "top"  // everything above the cut, limbs and all
	WhatLimb What = "limb" // a limb, or its outer part
)

// A Way is how a piece comes down.
type Way string

// The ways down.
const (
	WayThrown    Way = "thrown"     // by hand
	WayFree      Way = "free"       // falls into a drop zone
	WayPastBlock Way = "past-block" // lowered, falling past its block
	WayFromAbove Way = "from-above" // lowered from a block above it
	WaySwung     Way = "swung"      // swings off on the line
	WayTwoPoints Way = "two-points" // carried between two points
	WayCrane     Way = "crane"      // lifted off
	WayBothEnds  Way = "both-ends"  // carried on a line at its butt and one at its tip
	WayFelled    Way = "felled"     // over a hinge, pulled or wedged
)

// ways are the ways down as a crew says them, in the order in which they are offered.
var ways = []struct {
	way   Way
	words string
}{
	{WayFree, "free"}, {WayThrown, "thrown by hand"}, {WayPastBlock, "lowered past its block"}, {WayFromAbove, "lowered from above"},
	{WaySwung, "swung"}, {WayTwoPoints, "between two points"}, {WayBothEnds, "held at both ends"}, {WayCrane, "by crane"}, {WayFelled, "felled over its hinge"},
}

// Ways lists the ways down, in the order in which they are offered.
func Ways() []Way {
	list := make([]Way, len(ways))
	for i := range ways {
		list[i] = ways[i].way
	}
	return list
}

// String is the way as a crew says it.
func (w Way) String() string {
	for i := range ways {
		if ways[i].way == w {
			return ways[i].words
		}
	}
	return string(w)
}

// A Pick is one piece that comes off.
type Pick struct {
	ID             string   `json:"id" minLength:"1" maxLength:"40"`
	Label          string   `json:"label,omitempty" maxLength:"80" doc:"What the crew calls it"`
	Tree           string   `json:"tree,omitempty" maxLength:"40" doc:"Id of the tree; empty: the first"`
	What           What     `json:"what" enum:"stem,top,limb"`
	Limb           string   `json:"limb,omitempty" maxLength:"40" doc:"Id of the limb, when it takes one"`
	CutM           *float64 `json:"cut_m,omitempty" minimum:"0" maximum:"120" doc:"Height of the cut on the stem, or its distance along the limb, m; all beyond it comes off"`
	Way            Way      `json:"way" enum:"thrown,free,past-block,from-above,swung,two-points,both-ends,crane,felled"`
	Rig            string   `json:"rig,omitempty" maxLength:"40" doc:"Id of the rig; empty: the first"`
	TieM           *float64 `json:"tie_m,omitempty" minimum:"0" maximum:"60" doc:"Tie, from the cut along the piece, m; default the rig's on the stem, the balance on a limb"`
	FallTowardsDeg *float64 `json:"fall_towards_deg,omitempty" minimum:"0" maximum:"360" doc:"Azimuth it tips or falls towards; default the limb's, that of the first drop zone, or the lean's"`
	CarryM         *float64 `json:"carry_m,omitempty" minimum:"0" maximum:"120" doc:"Height of the tie while it is carried between two points, m"`
	TieIn          *Place   `json:"tie_in,omitempty" doc:"Where the climber is tied in"`
	Catch          *Catch   `json:"catch,omitempty" doc:"Otherwise than the rig's"`
	Wraps          *float64 `json:"wraps,omitempty" minimum:"0" maximum:"12" doc:"Turns on the device, otherwise than the rig's"`
	TightKn        *float64 `json:"tight_kn,omitempty" minimum:"0" maximum:"200" doc:"How tight its line is made before the cut, held from above, kN; it then has no slack; default not at all"`
	Tag            *Tag     `json:"tag,omitempty" doc:"A line that draws it aside while it hangs on its own"`
	Stop           *Stop    `json:"stop,omitempty" doc:"What stops its swing"`
	Twin           *Twin    `json:"twin,omitempty" doc:"A second line beside its own; absent: none"`
	Lift           *Lift    `json:"lift,omitempty" doc:"When a crane takes it"`
	Ends           *Ends    `json:"ends,omitempty" doc:"When it is held at both ends; absent: all of it at its default"`
	Fell           *Fell    `json:"fell,omitempty" doc:"When it is felled; absent: all of it at its default"`
	MassKg         *float64 `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Judged by eye in place of the survey, kg"`
	MassWhy        string   `json:"mass_why,omitempty" maxLength:"200" doc:"Why it is lighter than the survey has it; empty: the survey's heavy end counts as well"`
	Note           string   `json:"note,omitempty" maxLength:"2000"`

	// As the facts have it.
	WeighedKg *float64 `json:"-"` // what the scale said, kg
	WeighedOf *Wood    `json:"-"` // of which wood; nil: this
	Done      bool     `json:"-"` // it is down
	DownOf    *Wood    `json:"-"` // of which wood; nil: this
}

// A Lift is how a crane takes a piece.
type Lift struct {
	Crane   string        `json:"crane" minLength:"1" maxLength:"40" doc:"Id of the crane"`
	SetDown *Spot         `json:"set_down,omitempty" doc:"Where it is put down; absent: no further from the crane than the tree"`
	HoldsKg *float64      `json:"holds_kg,omitempty" minimum:"0" maximum:"100000" doc:"What the crane holds of the piece before the last wood parts, kg as its indicator shows it; until it is said, its likely mass less a tenth and no more than its light end"`
	Slings  []crane.Sling `json:"slings" minItems:"1" maxItems:"8" nullable:"false" doc:"From the cut end of the piece"`
}
