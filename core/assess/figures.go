package assess

import (
	"elkstay/core/crane"
	"elkstay/core/cut"
	"elkstay/core/drop"
	"elkstay/core/fell"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/spar"
	"elkstay/core/timber"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// Why a pick cannot happen where it stands in the order.
const (
	faultGone    = "gone"      // what it takes is gone already
	faultBeneath = "beneath"   // it cuts beneath limbs that stand
	faultBlock   = "block"     // gear on wood that is gone, or in the wrong place
	faultTieIn   = "tie-in"    // the climber's tie-in is gone
	faultTie     = "tie"       // the tie is beyond the piece
	faultRig     = "rig"       // no rig, no rope, no crane
	faultTooLong = "too-long"  // longer than its drop
	faultReach   = "reach"     // the rope, the crane, the lines do not reach
	faultSector  = "sector"    // into a no-go sector
	faultBack    = "back-lean" // its weight stands behind its hinge
	faultSlings  = "slings"    // it cannot hang in its slings
	faultGear    = "gear"      // an item is set aside or overdue
	faultTied    = "tied"      // its crown hangs together with another tree's
)

// An OrderFault is why a pick cannot happen where it stands in the order.
type OrderFault struct {
	Code    string `json:"code" enum:"gone,beneath,block,tie-in,tie,rig,too-long,reach,sector,slings,gear,back-lean,fell,tied"`
	Message string `json:"message"`
}

// An Assessment is everything the crew reads off a job. What cannot be worked out
// yet is absent, and Missing and Faults say why.
type Assessment struct {
	State         string                `json:"state" doc:"The whole job in a sentence or two"`
	Stage         Stage                 `json:"stage" enum:"to be surveyed,surveyed,planned,begun,done" doc:"How far the work is"`
	Down          int                   `json:"down" doc:"Picks that are down"`
	Verdict       Verdict               `json:"verdict" enum:"within,close,over,not known,not held" doc:"The worst verdict of the picks"`
	Missing       []Missing             `json:"missing" nullable:"false" doc:"What is still to be given, in the order to ask for it"`
	Faults        intake.Faults         `json:"faults" nullable:"false" doc:"Fields that contradict each other"`
	Doubts        []Doubt               `json:"doubts" nullable:"false" doc:"Figures that seldom are: to be asked about once, and counted as given"`
	Defaulted     []string              `json:"defaulted" nullable:"false" doc:"Paths of the document that stand at their default"`
	Limits        policy.Limits         `json:"limits"`
	Trees         []TreeFigures         `json:"trees" nullable:"false" doc:"In the order of the document"`
	Picks         []PickFigures         `json:"picks" nullable:"false" doc:"In the order of the document"`
	Detail        *Detail               `json:"detail,omitempty" doc:"The pick asked for"`
	Heaviest      *Heaviest             `json:"heaviest,omitempty"`
	Nearest       *Nearest              `json:"nearest,omitempty" doc:"The limit that is nearest"`
	Gear          []GearUse             `json:"gear" nullable:"false" doc:"Every item, and the pick that loads it hardest"`
	GearStandings []policy.GearStanding `json:"gear_standings" nullable:"false" doc:"How the gear that comes from the locker stands on the day"`
	Ropes         []RopeNeed            `json:"ropes" nullable:"false" doc:"How long each rope must be"`
	Learned       []Learned             `json:"learned" nullable:"false" doc:"What the scale has taught"`
	Cautions      []string              `json:"cautions" nullable:"false" doc:"What must be read with the figures"`
}

// Missing is one thing still to be given.
type Missing struct {
	Location string `json:"location" doc:"Path of the document"`
	Ask      string `json:"ask" doc:"What to give, in a sentence"`
}

// TreeFigures is what can be said of one tree.
type TreeFigures struct {
	ID      string           `json:"id"`
	Title   string           `json:"title"`
	Stem    []timber.Station `json:"stem" nullable:"false" doc:"The stem as the readings describe it"`
	Shape   Shape            `json:"shape" doc:"The tree in space, to draw it; nothing in it while it is not measured"`
	Left    *Left            `json:"left,omitempty" doc:"What stands when every pick is down"`
	Defects []DefectFigures  `json:"defects" nullable:"false" doc:"What each defect means for the work, in the order of the document"`
	Shells  []Shell          `json:"shells" nullable:"false" doc:"The sound shell wherever a cavity was measured"`
}

// A Shape is a tree in space.
type Shape struct {
	Foot  line.Point   `json:"foot"`
	Stem  [][4]float64 `json:"stem" nullable:"false" doc:"The stem's axis from the lowest reading to the top, straight between the places: x, y, z and diameter, m"`
	Limbs []LimbShape  `json:"limbs" nullable:"false" doc:"In the order of the document"`
}

// A LimbShape is one limb in space, whole.
type LimbShape struct {
	ID     string       `json:"id"`
	Title  string       `json:"title"`
	MassKg wood.Range   `json:"mass_kg" doc:"Whole, with its brush"`
	Points [][4]float64 `json:"points" nullable:"false" doc:"Evenly from base to tip: x, y, z and diameter, m"`
}

// Left is what stands when every pick is down.
type Left struct {
	TopM  float64   `json:"top_m"`
	TipsM []float64 `json:"tips_m" nullable:"false" doc:"How far each limb still reaches; 0: gone"`
}

// PickFigures is one pick in short.
type PickFigures struct {
	ID             string       `json:"id"`
	Tree           string       `json:"tree" doc:"Id of the tree"`
	Number         int          `json:"number" doc:"Its place in the order, from 1"`
	Title          string       `json:"title" doc:"What it takes"`
	Faults         []OrderFault `json:"faults" nullable:"false" doc:"Why it cannot happen here"`
	Verdict        Verdict      `json:"verdict" enum:"within,close,over,not known,not held"`
	FromM          float64      `json:"from_m" doc:"The cut: height, or distance along the limb"`
	ToM            float64      `json:"to_m" doc:"The piece's other end, likewise"`
	LengthM        float64      `json:"length_m"`
	MassKg         *wood.Range  `json:"mass_kg" doc:"Null when it takes nothing"`
	Basis          Basis        `json:"basis" enum:"guess,default,measured,learned,weighed" doc:"What its weight rests on"`
	PeakKn         *float64     `json:"peak_kn" doc:"Peak of the line; null without one"`
	RunM           *float64     `json:"run_m" doc:"Rope that runs; null without a line, or when it is never stopped"`
	ClearanceM     *float64     `json:"clearance_m" doc:"Least room round and beneath it; null when none is known"`
	Nearest        *Nearest     `json:"nearest,omitempty"`
	Worst          string       `json:"worst" doc:"What makes its verdict, in a few words: what it strikes, or the limit that is nearest; empty: nothing to say"`
	What           job.What     `json:"what" enum:"stem,top,limb"`
	Way            job.Way      `json:"way" enum:"thrown,free,past-block,from-above,swung,two-points,both-ends,crane,felled"`
	TieM           *float64     `json:"tie_m" doc:"Tie, from the cut along the piece; null without a line"`
	Rig            string       `json:"rig" doc:"Name of the rig; empty: it needs none"`
	Wraps          *float64     `json:"wraps" doc:"Turns on the device; null when they do not hold it"`
	Call           string       `json:"call" doc:"What is called to the ground; empty when it cannot be said"`
	Cut            string       `json:"cut" doc:"The cut that fits best; empty when it cannot be said"`
	Done           bool         `json:"done"`
	Middle         *line.Point  `json:"middle" doc:"Where the piece has its middle while it stands; null when it takes nothing"`
	FallTowardsDeg float64      `json:"fall_towards_deg"`
}

// Heaviest is the heaviest pick.
type Heaviest struct {
	Pick   int        `json:"pick" doc:"Its number"`
	MassKg wood.Range `json:"mass_kg"`
}

// Nearest is the limit that is nearest.
type Nearest struct {
	Pick    int     `json:"pick" doc:"Number of the pick"`
	Part    string  `json:"part"`
	Name    string  `json:"name"`
	UsePct  float64 `json:"use_pct"`
	Verdict Verdict `json:"verdict" enum:"within,close,over,not held"`
}

// GearUse is one item and the pick that loads it hardest.
type GearUse struct {
	Rig     string   `json:"rig" doc:"Name of the rig"`
	Part    string   `json:"part"`
	Name    string   `json:"name"`
	Item    string   `json:"item" doc:"Id in the locker; empty: not from there"`
	PeakKn  float64  `json:"peak_kn"`
	LimitKn *float64 `json:"limit_kn"`
	UsePct  *float64 `json:"use_pct"`
	Pick    int      `json:"pick" doc:"Number of the pick that loads it hardest"`
	Picks   int      `json:"picks" doc:"How many picks use it"`
	Verdict Verdict  `json:"verdict" enum:"within,close,over,not known,not held"`
}

// RopeNeed is how long a rig's rope must be.
type RopeNeed struct {
	Rig     string   `json:"rig"`
	NeedM   float64  `json:"need_m" doc:"Knot, wraps and tail included"`
	HaveM   *float64 `json:"have_m" doc:"Null: not given"`
	Pick    int      `json:"pick" doc:"Number of the pick that needs it"`
	Verdict Verdict  `json:"verdict" enum:"within,over,not known"`
}

// Learned is what the scale has taught of stems or of limbs.
type Learned struct {
	Tree    string  `json:"tree" doc:"Id of the tree"`
	Of      string  `json:"of" enum:"stem,limbs"`
	Weighed int     `json:"weighed"`
	Factor  float64 `json:"factor" doc:"By how much planned masses are multiplied"`

	HighFactor float64 `json:"high_factor" doc:"Heavy end of the next piece, over the table's likely"`
	Species    string  `json:"species" doc:"Id in the wood table; empty: a density of its own"`
}

// Detail is one pick in full.
type Detail struct {
	ID       string        `json:"id"`
	Tree     string        `json:"tree" doc:"Id of the tree"`
	Number   int           `json:"number"`
	Settings job.Settings  `json:"settings"`
	Rig      string        `json:"rig" doc:"Id of the rig; empty: it needs none"`
	Piece    *PieceFigures `json:"piece,omitempty"`
	Stands   []*Left       `json:"stands" nullable:"false" doc:"Every tree before the cut; null: not measured"`
	Catch    *CatchFigures `json:"catch,omitempty"`
	Ladder   []Rung        `json:"ladder" nullable:"false" doc:"From the piece to the hand"`
	Room     *Room         `json:"room,omitempty"`
	Clear    []Clearance   `json:"clear" nullable:"false" doc:"How close it comes to what stands around, nearest first"`
	Landing  *Landing      `json:"landing,omitempty"`
	Arc      *ArcFigures   `json:"arc,omitempty"`
	Spar     *SparFigures  `json:"spar,omitempty"`
	Lift     *LiftFigures  `json:"lift,omitempty"`
	Line     []LinePoint   `json:"line" nullable:"false" doc:"The line's way, from the tie to the device"`
	Hang     *Hang         `json:"hang,omitempty" doc:"Where it hangs at its lowest"`
	Way      []line.Point  `json:"way" nullable:"false" doc:"Where its tie passes while it swings or is carried"`
	Carried  []CarriedAt   `json:"carried,omitempty" doc:"Between two points: what both lines carry on the way across"`
	Advice   *cut.Advice   `json:"advice,omitempty"`
	Cautions []string      `json:"cautions" nullable:"false"`
	Pulls    []PullLine    `json:"pulls" nullable:"false" doc:"Lines of a felling, from the tree to their anchors"`
	Fell     *FellFigures  `json:"fell,omitempty" doc:"When it is felled"`
	Ends     *EndsFigures  `json:"ends,omitempty" doc:"When it is held at both ends"`
	Tag      *TagFigures   `json:"tag,omitempty" doc:"When a tag line draws it aside"`
	Stop     *StopFigures  `json:"stop,omitempty" doc:"When something stops its swing"`
	Face     *FaceFigures  `json:"face,omitempty" doc:"Aim of the face of a limb on a line"`
	Balance  *Balance      `json:"balance,omitempty" doc:"Of what stands of the tree before this pick: above the hinge when it is felled"`
}

// PieceFigures is the piece above the cut.
type PieceFigures struct {
	LengthM       float64    `json:"length_m"`
	DiameterCutM  float64    `json:"diameter_at_cut_m"`
	CavityCutM    float64    `json:"cavity_at_cut_m"`
	MassKg        wood.Range `json:"mass_kg"`
	WeightKn      wood.Range `json:"weight_kn"`
	CogM          float64    `json:"cog_m" doc:"Centre of gravity, from the cut along the piece"`
	Cog           line.Point `json:"cog" doc:"Centre of gravity in space"`
	Cut           line.Point `json:"cut" doc:"Middle of the cut in space"`
	Tip           line.Point `json:"tip" doc:"Its other end in space"`
	OrientDeg     float64    `json:"orient_deg" doc:"At the cut, from upright"`
	DensitySource string     `json:"density_source"`
}

// CatchFigures is how the drop ends.
type CatchFigures struct {
	FallM         float64         `json:"fall_m"`
	StretchM      float64         `json:"stretch_m"`
	LeadM         float64         `json:"lead_m"`
	LinePeakKn    float64         `json:"line_peak_kn" doc:"The energy sum's: the ceiling"`
	Amplification float64         `json:"amplification"`
	Runs          bool            `json:"runs"`
	Holds         bool            `json:"holds"`
	RunM          *float64        `json:"run_m" doc:"Null when the piece is never stopped"`
	TipDown       bool            `json:"tip_down" doc:"It hangs tip down: the tie is below the centre of gravity"`
	HoldKn        *float64        `json:"hold_kn" doc:"Tension on the lead at which rope runs; null when locked off"`
	LockedPeakKn  float64         `json:"locked_peak_kn" doc:"Peak of the line were it locked off"`
	Around        *drop.HoldRange `json:"around,omitempty" doc:"What a hold a fifth lower or higher does"`
	Wanted        *Wanted         `json:"wanted,omitempty" doc:"What would keep every known limit; absent when no limit is known"`
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

// Room is the space the piece needs beneath it.
type Room struct {
	Beneath    string   `json:"beneath" doc:"What lies beneath"`
	BeneathM   float64  `json:"beneath_m" doc:"Height of its top"`
	LowestM    *float64 `json:"lowest_m" doc:"Height of the piece's lower end at its lowest; null when it is never stopped"`
	ClearanceM *float64 `json:"clearance_m" doc:"What is left beneath it; null when it is never stopped"`
	WantedM    float64  `json:"wanted_m" doc:"What the crew wants left"`
	Verdict    Verdict  `json:"verdict" enum:"within,close,over,not held" doc:"Close: it comes down on a limb that still stands"`
	RunVerdict Verdict  `json:"run_verdict" enum:"within,over" doc:"The run against the crew's longest run"`
	RunLimitM  *float64 `json:"run_limit_m" doc:"The crew's longest run; null when none is set"`
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

	CutRadiusM  float64      `json:"cut_radius_m" doc:"Of its balance where it grows"`
	DownRadiusM *float64     `json:"down_radius_m" doc:"Where it is put down; null: nobody says"`
	Chart       []crane.Read `json:"chart" nullable:"false" doc:"What the chart has for its boom, step by step outward"`
	SharePct    float64      `json:"share_pct" doc:"Of the chart that counts"`
	AllowedKg   *float64     `json:"allowed_kg" doc:"That share of the chart's figure here; null: it has none"`
	FarthestM   float64      `json:"farthest_m" doc:"How far out that share takes what hangs on the hook, heavy end; 0: nowhere"`
}

// A Basis is what a figure rests on; a piece's weight on the weakest of its parts.
type Basis string

// What a weight may rest on.
const (
	Guessed  Basis = "guess"    // by eye, or a size that the program offered
	Default  Basis = "default"  // measured, but the wood is whatever stands in where nobody named it
	Measured Basis = "measured" // by the tape and the table of its wood
	Taught   Basis = "learned"  // by what the scale said of pieces like it
	Weighed  Basis = "weighed"  // by the scale
)

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

// Balance is where what still stands balances, and which way it wants to go.
type Balance struct {
	At         line.Point `json:"at" doc:"Centre of gravity"`
	MassKg     wood.Range `json:"mass_kg"`
	OffM       float64    `json:"off_m" doc:"How far it stands off the foot of the stem, level"`
	WithinM    float64    `json:"within_m" doc:"How far off that place it may be, by the range of its limbs"`
	AzimuthDeg float64    `json:"azimuth_deg" doc:"Which way it stands off"`
	MomentKnm  float64    `json:"moment_knm" doc:"What its weight turns about the foot, at the heavy end"`
	Said       string     `json:"said"`

	Working []working.Step `json:"working" nullable:"false"`
}

// A School is another way of cutting the same stump, and what it costs.
type School struct {
	Title string `json:"title"`
	Said  string `json:"said"`
}

// A FellPlan is another way of bringing a tree over.
type FellPlan struct {
	Title   string  `json:"title"`
	Said    string  `json:"said"`
	Verdict Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
}

// Hang is where a piece hangs at its lowest.
type Hang struct {
	X       float64 `json:"x"`
	Y       float64 `json:"y"`
	LowM    float64 `json:"low_m" doc:"Height of its lower end"`
	TieM    float64 `json:"tie_m" doc:"Height of its tie"`
	TipDown bool    `json:"tip_down"`
}
