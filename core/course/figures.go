package course

import (
	"elkstay/core/crane"
	"elkstay/core/drop"
	"elkstay/core/fell"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/spar"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// A Frame is one moment of a piece held at both ends.
type Frame struct {
	AtS    float64    `json:"at_s"`
	Step   int        `json:"step" doc:"Of the program, from 0; −1: before it"`
	Butt   line.Point `json:"butt"`
	Tip    line.Point `json:"tip"`
	ButtAt line.Point `json:"butt_at" doc:"Where the line at the butt is tied"`
	TipAt  line.Point `json:"tip_at"`
	ButtKn float64    `json:"butt_kn"`
	TipKn  float64    `json:"tip_kn"`
}

// EndsFigures are the two lines of a piece and its way down.
type EndsFigures struct {
	Lines  []EndFigures `json:"lines" nullable:"false" doc:"At its butt, at its tip"`
	Steps  []string     `json:"steps" nullable:"false" doc:"What is called, step by step"`
	Ghosts []Frame      `json:"ghosts" nullable:"false" doc:"As it first hangs, and at the end of every step"`
	Ends   string       `json:"ends" doc:"Where the program leaves it; empty: on the ground, by itself"`
}

// EndFigures is one of the two lines.
type EndFigures struct {
	End    string       `json:"end" enum:"butt,tip"`
	Rig    string       `json:"rig"`
	TieM   float64      `json:"tie_m" doc:"From the cut along the piece"`
	SlackM float64      `json:"slack_m"`
	Points []line.Point `json:"points" nullable:"false" doc:"From its block to its device"`
	RestKn float64      `json:"rest_kn" doc:"At the steepest of its way down"`
	PeakKn float64      `json:"peak_kn"`
	RunM   float64      `json:"run_m" doc:"Rope that runs when the cut lets go"`
}

// FaceFigures is how the face of a limb on a line is aimed: about halfway between where gravity
// pulls it and where its line leads it (common practice, no source).
type FaceFigures struct {
	TiltDeg    float64  `json:"tilt_deg" doc:"From straight down, round the limb"`
	Side       string   `json:"side" enum:",left,right" doc:"Looking out along the limb; empty: straight down"`
	BearingDeg float64  `json:"bearing_deg" doc:"Azimuth it looks to"`
	OpensDeg   float64  `json:"opens_deg"`
	TightDeg   *float64 `json:"tight_deg" doc:"How far it has turned when its line is tight; null: not before the face closes"`
	SideKnm    float64  `json:"side_knm" doc:"The most that loads its hinge sideways"`
	SideUsePct *float64 `json:"side_use_pct" doc:"Of what the hinge holds sideways; null: not known"`
	Said       string   `json:"said"`

	Working []working.Step `json:"working" nullable:"false"`
}

// Figures is what single ways have to be drawn and said besides what all have.
type Figures struct {
	Catch   *CatchFigures `json:"catch,omitempty"`
	Arc     *ArcFigures   `json:"arc,omitempty"`
	Spar    *SparFigures  `json:"spar,omitempty"`
	Lift    *LiftFigures  `json:"lift,omitempty"`
	Line    []LinePoint   `json:"line" nullable:"false" doc:"The line's way, from the tie to the device"`
	Hang    *Hang         `json:"hang,omitempty" doc:"Where it hangs at its lowest"`
	Way     []line.Point  `json:"way" nullable:"false" doc:"Where its tie passes while it swings or is carried"`
	Carried []CarriedAt   `json:"carried,omitempty" doc:"Between two points: what both lines carry on the way across"`
	Pulls   []PullLine    `json:"pulls" nullable:"false" doc:"Lines of a felling, from the tree to their anchors"`
	Fell    *FellFigures  `json:"fell,omitempty" doc:"When it is felled"`
	Ends    *EndsFigures  `json:"ends,omitempty" doc:"When it is held at both ends"`
	Tag     *TagFigures   `json:"tag,omitempty" doc:"When a tag line draws it aside"`
	Stop    *StopFigures  `json:"stop,omitempty" doc:"When something stops its swing"`
	Face    *FaceFigures  `json:"face,omitempty" doc:"Aim of the face of a limb on a line"`
}

// CatchFigures is how the drop ends.
type CatchFigures struct {
	FallM         float64        `json:"fall_m"`
	StretchM      float64        `json:"stretch_m"`
	LeadM         float64        `json:"lead_m"`
	LinePeakKn    float64        `json:"line_peak_kn" doc:"The energy sum's with friction as given; rungs are judged with a quarter more and less"`
	Amplification float64        `json:"amplification"`
	Runs          bool           `json:"runs"`
	Holds         bool           `json:"holds"`
	RunM          *float64       `json:"run_m" doc:"Null when the piece is never stopped"`
	TipDown       bool           `json:"tip_down" doc:"It hangs tip down: the tie is below the centre of gravity"`
	HoldKn        *float64       `json:"hold_kn" doc:"Tension on the lead at which rope runs; null when locked off"`
	LockedPeakKn  float64        `json:"locked_peak_kn" doc:"Peak of the line were it locked off"`
	Friction      *FrictionRange `json:"friction,omitempty" doc:"What a quarter less and more of it does; absent where nothing runs"`
	Wanted        *Wanted        `json:"wanted,omitempty" doc:"What would keep every known limit; absent when no limit is known"`
}

// FrictionRange is what becomes of a catch whose friction is not as given.
type FrictionRange struct {
	RunWithLessM       *float64 `json:"run_with_less_m" doc:"Run with a quarter less; null when the piece is never stopped"`
	LinePeakWithMoreKn float64  `json:"line_peak_with_more_kn" doc:"Peak of the line with a quarter more"`
}

// Wanted is the hold and the run that keep every part within its limit.
type Wanted struct {
	LineKn    float64  `json:"line_kn" doc:"Line tension at which the nearest limit is reached"`
	Governs   string   `json:"governs" doc:"The part whose limit that is"`
	Reachable bool     `json:"reachable" doc:"False when the piece alone weighs as much"`
	HoldKn    float64  `json:"hold_kn" doc:"Tension on the lead at which the rope must run"`
	RunM      *float64 `json:"run_m" doc:"Run that takes; null when not reachable"`
	Wraps     float64  `json:"wraps" doc:"Turns that give this hold with the stated hand"`
}

// ArcFigures is how a piece swings.
type ArcFigures struct {
	RadiusM  float64 `json:"radius_m"`
	StartDeg float64 `json:"start_deg" doc:"From straight down"`
	SpeedMS  float64 `json:"speed_m_s" doc:"At the bottom"`
	LineKn   float64 `json:"line_kn" doc:"Line at the bottom"`
	Factor   float64 `json:"factor" doc:"Line over weight"`
}

// SparFigures is what the stem that stays feels, and how it sways.
type SparFigures struct {
	StressMpa      float64    `json:"stress_mpa" doc:"The worst, as much more as its wood is weaker there"`
	AtM            float64    `json:"at_m"`
	AllowedMpa     float64    `json:"allowed_mpa"`
	UsePct         float64    `json:"use_pct"`
	TopDeflectionM float64    `json:"top_deflection_m" doc:"Under the peak, as if it stood still"`
	PeriodS        float64    `json:"period_s"`
	Modal          spar.Modal `json:"modal"`
}

// LiftFigures is how a crane takes it.
type LiftFigures struct {
	Crane      string     `json:"crane"`
	RadiusM    float64    `json:"radius_m"`
	HookKg     wood.Range `json:"hook_kg"`
	CapacityKg *float64   `json:"capacity_kg"`
	TiltDeg    float64    `json:"tilt_deg" doc:"Positive: cut end up"`
	HookOverM  float64    `json:"hook_over_m" doc:"From the cut"`
	HoldsKg    float64    `json:"holds_kg" doc:"What the crane is to hold of the piece before the last wood parts"`

	CutRadiusM  float64      `json:"cut_radius_m" doc:"Of its balance where it grows"`
	DownRadiusM *float64     `json:"down_radius_m" doc:"Where it is put down; null: nobody says"`
	Chart       []crane.Read `json:"chart" nullable:"false" doc:"What the chart has for its boom, step by step outward"`
	SharePct    float64      `json:"share_pct" doc:"Of the chart that counts"`
	AllowedKg   *float64     `json:"allowed_kg" doc:"That share of the chart's figure here; null: it has none"`
	FarthestM   float64      `json:"farthest_m" doc:"How far out that share takes what hangs on the hook, heavy end, and the whole chart what that peaks at as it parts; 0: nowhere"`
}

// CarriedAt is one place on the way between two points.
type CarriedAt struct {
	OutM     float64 `json:"out_m" doc:"From the first point, level"`
	FirstKn  float64 `json:"first_kn"`
	SecondKn float64 `json:"second_kn"`
}

// LinePoint is one point of the line's way.
type LinePoint struct {
	Name      string     `json:"name"`
	At        line.Point `json:"at"`
	RestingKn float64    `json:"resting_kn" doc:"In the leg that leaves it towards the device; of the device: what reaches it"`
	PeakKn    float64    `json:"peak_kn" doc:"Likewise"`
	LegM      float64    `json:"leg_m" doc:"Length of that leg; 0 at the device"`
}

// A PullLine is a line of a felling.
type PullLine struct {
	ID      string       `json:"id"`
	Name    string       `json:"name" doc:"Of its anchor"`
	Holds   bool         `json:"holds" doc:"It holds sideways, in place of pulling"`
	Points  []line.Point `json:"points" nullable:"false" doc:"Where it is tied, its turns, its anchor"`
	LegKn   []float64    `json:"leg_kn" nullable:"false" doc:"Of its legs from the tree, what each may carry, kN"`
	NeedKn  float64      `json:"need_kn" doc:"What it must pull at the tree, margin included"`
	PeakKn  float64      `json:"peak_kn" doc:"What it carries at the tree: what its effort gives, where that is more"`
	GivesKn *float64     `json:"gives_kn,omitempty" doc:"What its effort is counted on to give at the tree; absent: not known"`
	Said    string       `json:"said" doc:"Its stretch, and how far it follows"`
}

// FellFigures is the hinge of a felling and the moments about it.
type FellFigures struct {
	DiameterM  float64        `json:"diameter_m" doc:"Of the stump"`
	CavityM    float64        `json:"cavity_m" doc:"Hole in its middle"`
	FaceDepthM float64        `json:"face_depth_m"`
	OpeningDeg float64        `json:"opening_deg"`
	MouthM     float64        `json:"mouth_m" doc:"How far the face opens at the bark"`
	BackCutM   float64        `json:"back_cut_m" doc:"How long the back cut is at the most, a strap left out of it"`
	UpsideDown bool           `json:"upside_down"`
	LeftM      float64        `json:"left_m"`
	RightM     float64        `json:"right_m"`
	BoredM     float64        `json:"bored_m"`
	NicksM     float64        `json:"nicks_m"`
	BackUpM    float64        `json:"back_up_m" doc:"Back cut above the level of the face"`
	StrapM     *float64       `json:"strap_m,omitempty"`
	Wedged     bool           `json:"wedged"`
	Hinge      fell.HingeWood `json:"hinge"`
	ForwardM   float64        `json:"forward_m" doc:"Its balance ahead of the hinge, m; negative: behind"`
	SideM      float64        `json:"side_m" doc:"To the right of the fall"`
	WithinM    float64        `json:"within_m" doc:"How far off that place its balance may be: the pulls are worked out with the worse"`
	HeightM    float64        `json:"height_m" doc:"Above the hinge"`
	BalanceDeg float64        `json:"balance_deg" doc:"Tilt at which its weight stands over the hinge"`
	TipsAlone  bool           `json:"tips_alone"`
	SideUsePct float64        `json:"side_use_pct" doc:"Of what the hinge holds sideways"`
	FarthestM  float64        `json:"farthest_m" doc:"How far its tip may come down from the stump"`
	Steps      []string       `json:"steps" nullable:"false" doc:"What to cut, in order, with its measures"`
	Plans      []FellPlan     `json:"plans" nullable:"false" doc:"What else would bring it over"`
	Schools    []School       `json:"schools" nullable:"false" doc:"Other hinges and faces for this stump, with their price"`
	Circle     float64        `json:"circle_m" doc:"Nobody else stands nearer, m: two lengths of it (common practice)"`
	ButtBackM  float64        `json:"butt_back_m" doc:"Its butt can come back over the stump so far, m (common practice)"`
	ButtDeg    float64        `json:"butt_deg" doc:"And so far to either side of straight back, degrees"`
	Beds       []BedFigures   `json:"beds" nullable:"false" doc:"Bedding logs under its lay"`
	Straps     []line.Point   `json:"straps" nullable:"false" doc:"Where ties go round its stem"`
}

// BedFigures is a bedding log under the lay of a felling.
type BedFigures struct {
	At     line.Point `json:"at" doc:"Its middle"`
	ThickM float64    `json:"thick_m"`
}

// A School is another way of cutting the same stump, and what it costs.
type School struct {
	Title string `json:"title"`
	Said  string `json:"said"`
}

// A FellPlan is another way of bringing a tree over.
type FellPlan struct {
	Title   string         `json:"title"`
	Said    string         `json:"said"`
	Verdict policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
}

// Hang is where a piece hangs at its lowest.
type Hang struct {
	X       float64 `json:"x"`
	Y       float64 `json:"y"`
	LowM    float64 `json:"low_m" doc:"Height of its lower end"`
	TieM    float64 `json:"tie_m" doc:"Height of its tie"`
	TipDown bool    `json:"tip_down"`
}

// A Trace is one pick followed through time.
type Trace struct {
	Kind        string             `json:"kind" enum:"drop,swing,fall,course,none"`
	Why         string             `json:"why" doc:"Why there is nothing to follow; empty when there is"`
	AzimuthDeg  float64            `json:"azimuth_deg" doc:"Of the upright plane it moves in"`
	Origin      line.Point         `json:"origin" doc:"The block at rest: x and z of the series count from here"`
	LineLimitKn *float64           `json:"line_limit_kn"`
	BlockLimit  *float64           `json:"block_limit_kn"`
	Run         *drop.Run          `json:"run,omitempty"`
	Spread      *drop.SpreadResult `json:"spread,omitempty"`
	Fall        *fell.FallRun      `json:"fall,omitempty" doc:"A felling"`
	Need        []fell.Moment      `json:"need,omitempty" doc:"Of a felling: what the pull must be at each tilt until it goes alone, margin included"`
	Odds        *fell.FallOdds     `json:"odds,omitempty" doc:"Of a felling, repeated with what is not known well"`
	Course      []Frame            `json:"course,omitempty" doc:"Of a piece held at both ends: from its cut onto its lines and down on them"`
	Said        string             `json:"said" doc:"What came of a felling, in a sentence; empty: it is none"`
	Cautions    []string           `json:"cautions" nullable:"false"`
}

// StopFigures is how a swing is stopped.
type StopFigures struct {
	Name     string  `json:"name"`
	X        float64 `json:"x" doc:"Where it is met"`
	Y        float64 `json:"y"`
	Z        float64 `json:"z"`
	SpeedMS  float64 `json:"speed_m_s"`
	EnergyKj float64 `json:"energy_kj"`
	Said     string  `json:"said"`
}

// TagFigures is what a tag line does.
type TagFigures struct {
	Towards line.Point `json:"towards" doc:"Where it leads to"`
	At      line.Point `json:"at" doc:"Where it is tied, the piece hanging where its line stops it"`
	Tie     line.Point `json:"tie" doc:"Where the piece's own line is tied then"`
	Cut     line.Point `json:"cut" doc:"The piece's ends then"`
	Tip     line.Point `json:"tip"`
	TieM    float64    `json:"tie_m" doc:"Where it is tied, from the cut along the piece"`
	PullKn  float64    `json:"pull_kn"`
	AsideM  float64    `json:"aside_m" doc:"How far it draws the piece's tie aside there"`
	DownM   float64    `json:"down_m" doc:"And where the piece is put down"`
	LineKn  float64    `json:"line_kn" doc:"The most that the piece's own line carries at rest"`
	Said    string     `json:"said"`
}

// Spread of what is not known well, besides the mass (common practice).
const (
	SpreadRopePct = 15
	SpreadHoldPct = 20
	SpreadSlackM  = 0.2
)
