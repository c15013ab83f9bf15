// Package plan holds the job: the tree as measured, the cut, the rig and the
// limits of the crew, in one document; and the assessment of it, a pure function
// from the document to every figure the crew reads.
//
// The document keeps what was measured and chosen and nothing else. A setting
// that is absent stands at its default, and the assessment says which do. A
// document may be unfinished: what is missing is named, in the order in which to
// ask for it, and every figure that can be worked out is.
//
// Lengths are in metres, masses in kilograms, forces in kilonewtons; heights are
// above the ground at the foot of the stem.
package plan

import (
	"fmt"
	"math"

	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/timber"
	"elkstay/core/wood"
)

// Format and Version mark the job document.
const (
	Format  = "elkstay-job"
	Version = 1
)

// A Job is one job document: format elkstay-job, version 1.
type Job struct {
	Format  string `json:"format" enum:"elkstay-job" doc:"Always elkstay-job"`
	Version int    `json:"version" minimum:"1" doc:"Version of the format: 1"`
	Name    string `json:"name" minLength:"1" maxLength:"120" doc:"What the crew calls the job"`
	Note    string `json:"note,omitempty" maxLength:"4000" doc:"Anything worth keeping"`
	Tree    Tree   `json:"tree"`
	Cut     Cut    `json:"cut"`
	Rig     Rig    `json:"rig"`
	Catch   Catch  `json:"catch"`
	Limits  Limits `json:"limits"`
}

// A Tree is the stem as measured.
type Tree struct {
	Wood         wood.Wood     `json:"wood" doc:"Species or density; empty until chosen"`
	Readings     []Reading     `json:"readings" nullable:"false" maxItems:"60" doc:"Tape readings from the ground up"`
	HeightM      *float64      `json:"height_m,omitempty" exclusiveMinimum:"0" maximum:"120" doc:"Height of the stem's top, m; absent: the highest reading"`
	TopDiameterM *float64      `json:"top_diameter_m,omitempty" exclusiveMinimum:"0" maximum:"5" doc:"Diameter at the top, m, when it is above the highest reading"`
	Attached     []timber.Lump `json:"attached,omitempty" maxItems:"60" doc:"Brush, ivy, hardware: lumps on the stem"`
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
	CavityM float64 `json:"cavity_m,omitempty" minimum:"0" maximum:"10" doc:"Diameter of the cavity, m"`
}

// DiameterM is the diameter a reading stands for: a girth over π.
func (r Reading) DiameterM() float64 {
	if r.Tape == Girth {
		return r.TapeM / math.Pi
	}
	return r.TapeM
}

// A Cut is where the next piece is cut off.
type Cut struct {
	AtM *float64 `json:"at_m,omitempty" minimum:"0" maximum:"120" doc:"Height of the cut, m"`
}

// A Rig is how the piece is held: the line's way from the tie to the device.
type Rig struct {
	Rope               *gear.NamedRope `json:"rope,omitempty"`
	TieAboveCutM       *float64        `json:"tie_above_cut_m,omitempty" minimum:"0" maximum:"50" doc:"Tie above the cut, m"`
	SlackM             *float64        `json:"slack_m,omitempty" minimum:"0" maximum:"20" doc:"Slack between tie and block, m"`
	Block              Block           `json:"block"`
	Device             Device          `json:"device"`
	AnchorStiffnessKnM *float64        `json:"anchor_stiffness_kn_m,omitempty" minimum:"10" maximum:"1000000" doc:"Stiffness of the block's anchor, kN/m; absent: rigid"`
	EnergyLostPct      *float64        `json:"energy_lost_pct,omitempty" minimum:"0" maximum:"90" doc:"Energy of the fall taken as lost, per cent"`
}

// A Block is the block the line runs over.
type Block struct {
	Name       string   `json:"name,omitempty" maxLength:"80"`
	BelowCutM  *float64 `json:"below_cut_m,omitempty" minimum:"0" maximum:"50" doc:"Block below the cut, m"`
	Efficiency *float64 `json:"efficiency,omitempty" minimum:"0.05" maximum:"1" doc:"Tension behind the block over tension before it"`
	gear.Rating
}

// A Device is the lowering device on the stem.
type Device struct {
	Name     string   `json:"name,omitempty" maxLength:"80"`
	AtM      *float64 `json:"at_m,omitempty" minimum:"0" maximum:"20" doc:"Height of the device on the stem, m"`
	Wraps    *float64 `json:"wraps,omitempty" minimum:"0" maximum:"12" doc:"Turns on the device"`
	Friction *float64 `json:"friction,omitempty" minimum:"0.02" maximum:"1" doc:"Coefficient of friction of rope on device"`
	gear.Rating
}

// The ways of catching a piece.
const (
	Locked  = "locked" // tied off: no rope runs
	ByWraps = "wraps"  // the turns and the hand give the hold
	ByHold  = "hold"   // the hold is known
	ByRun   = "run"    // the run is called, the hold follows
)

// A Catch is what the ground crew does with the line.
type Catch struct {
	How    string   `json:"how,omitempty" enum:"locked,wraps,hold,run" doc:"How the piece is caught; default wraps"`
	HandKn *float64 `json:"hand_kn,omitempty" minimum:"0.001" maximum:"5" doc:"What the hand on the line pulls, kN"`
	HoldKn *float64 `json:"hold_kn,omitempty" minimum:"0" maximum:"500" doc:"Tension on the lead at which rope runs, kN"`
	RunM   *float64 `json:"run_m,omitempty" minimum:"0" maximum:"100" doc:"How far the rope is let run, m"`
}

// Limits are the crew's own.
type Limits struct {
	DesignFactor *float64 `json:"design_factor,omitempty" minimum:"1" maximum:"30" doc:"Divides a breaking strength where no working load is marked"`
	PieceKg      *float64 `json:"piece_kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"Heaviest piece the crew will take, kg"`
	HandKn       *float64 `json:"hand_kn,omitempty" minimum:"0.01" maximum:"5" doc:"What one person may hold on the line, kN"`
	ClearM       *float64 `json:"clear_m,omitempty" minimum:"0" maximum:"50" doc:"Room to keep between the piece and the ground, m"`
	RunM         *float64 `json:"run_m,omitempty" exclusiveMinimum:"0" maximum:"100" doc:"Longest run the crew will take, m"`
	CloseFromPct *float64 `json:"close_from_pct,omitempty" minimum:"1" maximum:"100" doc:"Per cent of a limit from which it counts as close"`
}

// NewJob returns an empty job of the given name.
func NewJob(name string) Job {
	return Job{Format: Format, Version: Version, Name: name, Tree: Tree{Readings: []Reading{}}}
}

// ReadJob reads a job document. The error is intake.Faults; a version newer than
// ours is refused by name.
func ReadJob(data []byte) (Job, error) {
	var job Job
	err := intake.Decode(data, &job)
	if err != nil {
		return Job{}, err
	}
	if job.Version > Version {
		var faults intake.Faults
		faults.Add("body.version", job.Version, fmt.Sprintf("at most %d", Version),
			"this job is written in version %d of the format; this program reads up to version %d", job.Version, Version)
		return Job{}, faults
	}
	if job.Tree.Readings == nil {
		job.Tree.Readings = []Reading{}
	}
	return job, nil
}

// topDiameter is what a stem measures at its top when nobody has said: 5 cm.
const topDiameter = 0.05

// Stem returns the stem that the readings and the height describe. It has fewer
// than two stations while too little is known.
func (t Tree) Stem() timber.Stem {
	stem := timber.Stem{Attached: t.Attached, Stations: make([]timber.Station, 0, len(t.Readings)+1)}
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
	return stem
}

// hasTop reports whether the height adds a station of its own.
func (t Tree) hasTop() bool {
	return t.HeightM != nil && (len(t.Readings) == 0 || *t.HeightM > t.Readings[len(t.Readings)-1].AtM)
}

// stemFaults names what is wrong with the readings, at their own fields.
func (t Tree) stemFaults() (faults intake.Faults) {
	for i, reading := range t.Readings {
		at := fmt.Sprintf("body.tree.readings[%d]", i)
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
	if n := len(t.Readings); n > 0 && t.HeightM != nil && *t.HeightM < t.Readings[n-1].AtM {
		faults.Add("body.tree.height_m", *t.HeightM, fmt.Sprintf("at least %g m", t.Readings[n-1].AtM),
			"the height (%g m) is below the highest reading (%g m)", *t.HeightM, t.Readings[n-1].AtM)
	}
	for i, lump := range t.Attached {
		if len(t.Readings) > 0 && lump.AtM < t.Readings[0].AtM {
			faults.Add(fmt.Sprintf("body.tree.attached[%d].at_m", i), lump.AtM, fmt.Sprintf("at least %g m", t.Readings[0].AtM),
				"what is attached at %g m sits below the lowest reading (%g m)", lump.AtM, t.Readings[0].AtM)
		}
	}
	if t.Wood.Given() {
		faults = append(faults, t.Wood.Faults("body.tree.wood")...)
	}
	return faults
}
