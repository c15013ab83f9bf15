package job

// Ends are the two lines of a piece held at both ends, and what their hands do.
type Ends struct {
	Butt    End       `json:"butt"`
	Tip     End       `json:"tip"`
	FaceDeg *float64  `json:"face_deg,omitempty" minimum:"0" maximum:"120" doc:"How far it turns on its hinge before the face closes and lets it go, degrees; 0: it has none; default not known: the worst of 0, 35 and 75"`
	Program []EndStep `json:"program,omitempty" maxItems:"40" doc:"What is done with the lines once it hangs on them; absent: both are let out alike"`
}

// An End is one of the two lines.
type End struct {
	Rig     string   `json:"rig,omitempty" maxLength:"40" doc:"Id of the rig; empty: of the butt the pick's, of the tip the next one with a rope"`
	TieM    *float64 `json:"tie_m,omitempty" minimum:"0" maximum:"60" doc:"Tie, from the cut along the piece, m; default a tenth of it at the butt, two thirds at the tip"`
	SlackM  *float64 `json:"slack_m,omitempty" minimum:"0" maximum:"20" doc:"Slack before the cut, m; default the rig's"`
	TightKn *float64 `json:"tight_kn,omitempty" minimum:"0" maximum:"200" doc:"How tight it is made before the cut, kN; it then has no slack; default not at all"`
}

// The lines of a program.
const (
	EndButt = "butt"
	EndTip  = "tip"
	EndBoth = "both"
)

// An EndStep is one thing done with the lines.
type EndStep struct {
	Line string  `json:"line" enum:"butt,tip,both"`
	ByM  float64 `json:"by_m" minimum:"-60" maximum:"60" doc:"Let out, m; negative: taken in"`
}

// Where a piece is tied at both ends when nobody has said, as shares of its length (common
// practice, no source).
const (
	endButt = 0.1
	endTip  = 2.0 / 3
)

// BothEnds is how a pick is held at both ends, with its defaults for a piece so long.
func (p *Pick) BothEnds(lengthM float64) Ends {
	e := Ends{}
	if p.Ends != nil {
		e = *p.Ends
	}
	for _, one := range []struct {
		at    **float64
		share float64
	}{{&e.Butt.TieM, endButt}, {&e.Tip.TieM, endTip}} {
		value := Or(*one.at, one.share*lengthM)
		*one.at = &value
	}
	return e
}
