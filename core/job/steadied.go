package job

import (
	"fmt"

	"elkstay/core/intake"
)

// A Tag is a line by which hands on the ground draw a piece aside while it hangs.
type Tag struct {
	Anchor  string   `json:"anchor" minLength:"1" maxLength:"40" doc:"Id of the place of the site that it leads to"`
	AnchorM *float64 `json:"anchor_m,omitempty" minimum:"0" maximum:"120" doc:"Height there, m; default 0.3, or as high as it is"`
	TieM    *float64 `json:"tie_m,omitempty" minimum:"0" maximum:"60" doc:"Where on the piece, from the cut along it, m; default nine tenths of it"`
	PullKn  *float64 `json:"pull_kn,omitempty" exclusiveMinimum:"0" maximum:"50" doc:"What is pulled at it, kN; default what its people hold"`
	People  *int     `json:"people,omitempty" minimum:"1" maximum:"20" doc:"Hands on it, in persons; default 1"`
}

// What stops a swing.
const (
	StopLimb = "limb"
	StopStem = "stem"
	StopLine = "line"
)

// A Stop is left, or set, in the way of a swing.
type Stop struct {
	On     string   `json:"on" enum:"limb,stem,line"`
	Tree   string   `json:"tree,omitempty" maxLength:"40" doc:"Id of the tree, of a limb or a stem; empty: the pick's"`
	Limb   string   `json:"limb,omitempty" maxLength:"40" doc:"Id of the limb"`
	Anchor string   `json:"anchor,omitempty" maxLength:"40" doc:"Of a line: id of the place of the site that it leads to"`
	Rig    string   `json:"rig,omitempty" maxLength:"40" doc:"Of a line: id of the rig whose rope it is; empty: the pick's"`
	LineM  *float64 `json:"line_m,omitempty" exclusiveMinimum:"0" maximum:"300" doc:"Of a line: from there to the piece's tie, m; default so that it is tight at the bottom of the swing"`
}

// A Twin is a second line beside the first: its own rope, block and device.
type Twin struct {
	Rig     string   `json:"rig,omitempty" maxLength:"40" doc:"Id of its rig; empty: the same gear again"`
	FasterM *float64 `json:"faster_m,omitempty" minimum:"0" maximum:"20" doc:"How much further one may be let out than the other, m; default none"`
}

// Of a tag line nobody has said more of (common practice, no source).
const tagTie = 0.9 // of the piece

// Tagged is the pick's tag line with its defaults, on a piece so long, pulled by people who hold so
// much each; nil: there is none.
func (p *Pick) Tagged(longM, handKn float64) *Tag {
	if p.Tag == nil {
		return nil
	}
	t := *p.Tag
	set := func(at **float64, standard float64) {
		value := Or(*at, standard)
		*at = &value
	}
	if t.People == nil {
		one := 1
		t.People = &one
	}
	set(&t.TieM, tagTie*longM)
	set(&t.PullKn, float64(*t.People)*handKn)
	return &t
}

// steadyFaults names what contradicts itself in what steadies the picks.
func (j *Job) steadyFaults() (faults intake.Faults) {
	for i := range j.Picks {
		s := j.Picks[i].Stop
		if s == nil {
			continue
		}
		at := fmt.Sprintf("body.picks[%d].stop", i)
		if s.On == StopLimb && s.Limb == "" {
			faults.Add(at+".limb", s.Limb, "the id of a limb", "the swing is stopped by a limb, and none is named")
		}
		if s.On == StopLine && s.Anchor == "" {
			faults.Add(at+".anchor", s.Anchor, "the id of a place of the site", "the swing is stopped by a line, and nobody has said what it leads to")
		}
	}
	return faults
}
