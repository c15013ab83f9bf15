package job

// A Fell is how everything above a cut on the stem is felled over its hinge.
type Fell struct {
	FaceDepthM *float64  `json:"face_depth_m,omitempty" exclusiveMinimum:"0" maximum:"5" doc:"Depth of the face, m; default a quarter of the stem"`
	LeftM      *float64  `json:"left_m,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"Thickness of the hinge at its left, looking to the fall, m; default a tenth of the stem"`
	RightM     *float64  `json:"right_m,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"At its right, m; default a tenth of the stem"`
	BoredM     *float64  `json:"bored_m,omitempty" exclusiveMinimum:"0" maximum:"5" doc:"Width bored out of its middle, m; default none"`
	NicksM     *float64  `json:"nicks_m,omitempty" exclusiveMinimum:"0" maximum:"2" doc:"Wood cut out at each of its ends, m; default none"`
	Wedged     bool      `json:"wedged,omitempty" doc:"Wedges in the back cut"`
	Margin     *float64  `json:"margin,omitempty" minimum:"1" maximum:"5" doc:"Factor on the moment that is needed; default 1.3 (common practice)"`
	Pull       *FellLine `json:"pull,omitempty" doc:"Absent: no line pulls it"`
	Hold       *FellLine `json:"hold,omitempty" doc:"A line that holds it sideways; absent: none does"`
}

// A FellLine runs from what is felled to an anchor of the site.
type FellLine struct {
	Rig      string   `json:"rig,omitempty" maxLength:"40" doc:"Id of the rig whose rope it is; empty: the first"`
	AtM      float64  `json:"at_m" minimum:"0" maximum:"120" doc:"Height at which it is tied to the stem, m"`
	Anchor   string   `json:"anchor" minLength:"1" maxLength:"40" doc:"Id of the anchor"`
	AnchorM  *float64 `json:"anchor_m,omitempty" minimum:"0" maximum:"120" doc:"Height on the anchor, m; default 0.3"`
	Parts    *int     `json:"parts,omitempty" minimum:"1" maximum:"9" doc:"Of the pulling system, 3 for 3:1; 1 to 6, or 9 for one 3:1 on another; default 1"`
	EffortKn *float64 `json:"effort_kn,omitempty" exclusiveMinimum:"0" maximum:"500" doc:"What hands, winch or machine pull at the system, kN; absent: not known"`
}

// Defaults of felling (common practice, no source).
const (
	fellFace   = 0.25 // of the diameter
	fellHinge  = 0.1  // of the diameter
	fellMargin = 1.3
	fellAnchor = 0.3 // m
)

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
	set(&f.LeftM, fellHinge*diameterM)
	set(&f.RightM, fellHinge*diameterM)
	set(&f.BoredM, 0)
	set(&f.NicksM, 0)
	set(&f.Margin, fellMargin)
	for _, line := range []**FellLine{&f.Pull, &f.Hold} {
		if *line != nil {
			one := **line
			set(&one.AnchorM, fellAnchor)
			parts := 1
			if one.Parts == nil {
				one.Parts = &parts
			}
			*line = &one
		}
	}
	return f
}
