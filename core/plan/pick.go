package plan

import "elkstay/core/crane"

// What a pick takes.
const (
	WhatStem = "stem" // a section of the bare stem
	WhatTop  = "top"  // everything above the cut, limbs and all
	WhatLimb = "limb" // a limb, or its outer part
)

// The ways down.
const (
	WayThrown    = "thrown"     // by hand
	WayFree      = "free"       // falls into a drop zone
	WayPastBlock = "past-block" // lowered, falling past its block
	WayFromAbove = "from-above" // lowered from a block above it
	WaySwung     = "swung"      // swings off on the line
	WayTwoPoints = "two-points" // carried between two points
	WayCrane     = "crane"      // lifted off
)

// A Pick is one piece that comes off.
type Pick struct {
	ID             string   `json:"id" minLength:"1" maxLength:"40"`
	Label          string   `json:"label,omitempty" maxLength:"80" doc:"What the crew calls it"`
	What           string   `json:"what" enum:"stem,top,limb"`
	Limb           string   `json:"limb,omitempty" maxLength:"40" doc:"Id of the limb, when it takes one"`
	CutM           *float64 `json:"cut_m,omitempty" minimum:"0" maximum:"120" doc:"Height of the cut on the stem, or its distance along the limb, m; all beyond it comes off"`
	Way            string   `json:"way" enum:"thrown,free,past-block,from-above,swung,two-points,crane"`
	Rig            string   `json:"rig,omitempty" maxLength:"40" doc:"Id of the rig; empty: the first"`
	TieM           *float64 `json:"tie_m,omitempty" minimum:"0" maximum:"60" doc:"Tie, from the cut along the piece, m; default the rig's on the stem, the balance on a limb"`
	FallTowardsDeg *float64 `json:"fall_towards_deg,omitempty" minimum:"0" maximum:"360" doc:"Azimuth it tips or falls towards; default the limb's, the lean's, or the first drop zone's"`
	CarryM         *float64 `json:"carry_m,omitempty" minimum:"0" maximum:"120" doc:"Height of the tie while it is carried between two points, m"`
	TieIn          *Place   `json:"tie_in,omitempty" doc:"Where the climber is tied in"`
	Catch          *Catch   `json:"catch,omitempty" doc:"Otherwise than the rig's"`
	Wraps          *float64 `json:"wraps,omitempty" minimum:"0" maximum:"12" doc:"Turns on the device, otherwise than the rig's"`
	Lift           *Lift    `json:"lift,omitempty" doc:"When a crane takes it"`
	MassKg         *float64 `json:"mass_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Judged by eye in place of the survey, kg"`
	WeighedKg      *float64 `json:"weighed_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"What the scale said, kg"`
	Done           bool     `json:"done,omitempty" doc:"It is down"`
	Note           string   `json:"note,omitempty" maxLength:"2000"`
}

// A Lift is how a crane takes a piece.
type Lift struct {
	Crane   string        `json:"crane" minLength:"1" maxLength:"40" doc:"Id of the crane"`
	SetDown *Spot         `json:"set_down,omitempty" doc:"Where it is put down; absent: no further from the crane than the tree"`
	Slings  []crane.Sling `json:"slings" minItems:"1" maxItems:"8" nullable:"false" doc:"From the cut end of the piece"`
}
