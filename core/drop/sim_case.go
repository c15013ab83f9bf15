package drop

import (
	"elkstay/core/intake"
	"fmt"
	"math"
)

// A SimPiece is a piece that turns as it falls.
type SimPiece struct {
	Piece
	InertiaKgM2 *float64 `json:"inertia_kg_m2,omitempty" exclusiveMinimum:"0" maximum:"1000000000" doc:"About the centre of gravity, transverse, kg·m²; default m·length²/12"`
}

// A SparTop is the standing stem as one mass on one spring.
type SparTop struct {
	MassKg       float64  `json:"mass_kg" exclusiveMinimum:"0" maximum:"100000" doc:"Modal mass, kg"`
	StiffnessKnM float64  `json:"stiffness_kn_m" exclusiveMinimum:"0" maximum:"1000000" doc:"At the top, kN/m"`
	DampingRatio *float64 `json:"damping_ratio,omitempty" minimum:"0" maximum:"1" doc:"Share of critical; default 0.05"`
}

// A SimCase is a drop to be followed through time.
type SimCase struct {
	Piece SimPiece `json:"piece"`
	Rigging
	StartDeg         *float64 `json:"start_deg,omitempty" minimum:"0" maximum:"89" doc:"Tilt at which it starts, at rest; default 2"`
	FaceClosesDeg    *float64 `json:"face_closes_deg,omitempty" minimum:"1" maximum:"179" doc:"Tilt at which the face closes and the hinge lets go; default 70"`
	HingeMomentKnm   float64  `json:"hinge_moment_knm,omitempty" minimum:"0" maximum:"10000" doc:"Moment with which the hinge holds back; default 0"`
	Spar             *SparTop `json:"spar,omitempty" doc:"Absent: the stem stands still"`
	RopeDampingRatio *float64 `json:"rope_damping_ratio,omitempty" minimum:"0" maximum:"1" doc:"On the line's first stiffness and the piece's mass; default 0.05"`
	UntilS           *float64 `json:"until_s,omitempty" exclusiveMinimum:"0" maximum:"30" doc:"End of the run; default 6"`
	SampleS          *float64 `json:"sample_s,omitempty" minimum:"0.001" maximum:"1" doc:"Distance of the series' samples; default 0.01"`
	Spread           *Spread  `json:"spread,omitempty" doc:"Many runs with what is not known well"`

	BlockOverM  float64 `json:"-"` // how far the block is from beneath the hinge, towards the fall, m
	BlockAsideM float64 `json:"-"` // and square to that, m
	BlockShare  float64 `json:"-"` // of how far the spar's top goes, that the block goes; 0: all of it
	Course      *Course `json:"-"` // nil: upright on its cut, straight past the block
}

// A Phase is a part of the fall.
type Phase struct {
	Name string  `json:"name" enum:"tipping,falling,caught,struck"`
	AtS  float64 `json:"at_s"`
}

// A Strike is the blow of the piece against the stem.
type Strike struct {
	AtS     float64 `json:"at_s"`
	SpeedMS float64 `json:"speed_m_s" doc:"Of the end that strikes, relative to the stem"`
}

// A Series is the run, sample by sample.
type Series struct {
	TS      []float64    `json:"t_s" nullable:"false"`
	LineKn  []float64    `json:"line_kn" nullable:"false"`
	BlockKn []float64    `json:"block_kn" nullable:"false"`
	Piece   [][3]float64 `json:"piece" nullable:"false" doc:"Centre of gravity x, z (m, from the block at rest) and tilt (°)"`
	SparM   []float64    `json:"spar_m" nullable:"false" doc:"Of the spar's top, + towards the fall"`
}

// A Run is one drop followed through time.
type Run struct {
	Phases          []Phase  `json:"phases" nullable:"false"`
	LinePeakKn      *float64 `json:"line_peak_kn" doc:"Null when the line never comes tight"`
	LinePeakAtS     *float64 `json:"line_peak_at_s"`
	BlockPeakKn     *float64 `json:"block_peak_kn"`
	DevicePeakKn    *float64 `json:"device_peak_kn"`
	RunM            float64  `json:"run_m" doc:"Rope that has run"`
	PushbackM       float64  `json:"pushback_m" doc:"How far the spar's top is pushed back"`
	SparPeakToPeakM float64  `json:"spar_peak_to_peak_m"`
	StrikesStem     *Strike  `json:"strikes_stem,omitempty"`
	CeilingKn       float64  `json:"ceiling_kn" doc:"The energy sum's line peak for the same case"`
	CutOff          bool     `json:"-"` // too stiff to be followed to the end
	Series          Series   `json:"series"`
}

func given(value *float64, standard float64) float64 {
	if value == nil {
		return standard
	}
	return *value
}

// Energy returns the same drop for the energy sum.
func (c *SimCase) Energy() Case {
	return Case{Piece: c.Piece.Piece, Rigging: c.Rigging, Course: c.Course}
}

func (c *SimCase) start() float64 { return radians(given(c.StartDeg, 2)) }

func (c *SimCase) face() float64 { return radians(given(c.FaceClosesDeg, 70)) }

// Faults names what is wrong between the fields of a case at the given path.
func (c *SimCase) Faults(path string) intake.Faults {
	energy := c.Energy()
	faults := energy.Faults(path)
	if c.start() >= c.face() {
		faults.Add(path+".start_deg", given(c.StartDeg, 2), fmt.Sprintf("less than %g °", given(c.FaceClosesDeg, 70)),
			"the piece starts at %g°, when the face has closed (%g°)", given(c.StartDeg, 2), given(c.FaceClosesDeg, 70))
	}
	turning := energy.WeightKn() * c.Piece.CogAboveCutM * math.Sin(c.start())
	if c.HingeMomentKnm >= turning {
		faults.Add(path+".hinge_moment_knm", c.HingeMomentKnm, fmt.Sprintf("less than %.4g kN·m", turning),
			"the hinge holds: it takes %g kN·m, and the piece turns it with %.4g kN·m", c.HingeMomentKnm, turning)
	}
	if c.Spread != nil {
		faults.Join(c.Spread.faults(path + ".spread"))
	}
	return faults
}
