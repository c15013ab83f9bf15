package assess

import (
	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/cut"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/timber"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// An Assessment is everything the crew reads off a job. What cannot be worked out
// yet is absent, and Missing and Faults say why.
type Assessment struct {
	State         string                `json:"state" doc:"The whole job in a sentence or two"`
	Stage         Stage                 `json:"stage" enum:"to be surveyed,surveyed,planned,begun,done" doc:"How far the work is"`
	Down          int                   `json:"down" doc:"Picks that are down"`
	Verdict       policy.Verdict        `json:"verdict" enum:"within,close,over,not known,not held" doc:"The worst verdict of the picks"`
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
	Gravest       *Gravest              `json:"gravest,omitempty" doc:"The pick whose verdict is the worst, the first of equals"`
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
	Foot  line.Point   `json:"foot" doc:"On the plan, and how much higher than its origin the ground stands there by the slope of the site"`
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
	ID             string             `json:"id"`
	Tree           string             `json:"tree" doc:"Id of the tree"`
	Number         int                `json:"number" doc:"Its place in the order, from 1"`
	Title          string             `json:"title" doc:"What it takes"`
	Faults         []space.OrderFault `json:"faults" nullable:"false" doc:"Why it cannot happen here"`
	Verdict        policy.Verdict     `json:"verdict" enum:"within,close,over,not known,not held"`
	FromM          float64            `json:"from_m" doc:"The cut: height, or distance along the limb"`
	ToM            float64            `json:"to_m" doc:"The piece's other end, likewise"`
	LengthM        float64            `json:"length_m"`
	MassKg         *wood.Range        `json:"mass_kg" doc:"Null when it takes nothing"`
	Basis          Basis              `json:"basis" enum:"guess,default,one reading,measured,learned,weighed" doc:"What its weight rests on"`
	PeakKn         *float64           `json:"peak_kn" doc:"Peak of the line; null without one"`
	RunM           *float64           `json:"run_m" doc:"Rope that runs; null without a line, or when it is never stopped"`
	ClearanceM     *float64           `json:"clearance_m" doc:"Least room round and beneath it; null when none is known"`
	Nearest        *Nearest           `json:"nearest,omitempty"`
	Worst          string             `json:"worst" doc:"What makes its verdict, in a few words: what it strikes, or the limit that is nearest; empty: nothing to say"`
	What           job.What           `json:"what" enum:"stem,top,limb"`
	Way            job.Way            `json:"way" enum:"thrown,free,past-block,from-above,swung,two-points,both-ends,crane,felled"`
	TieM           *float64           `json:"tie_m" doc:"Tie, from the cut along the piece; null without a line"`
	Rig            string             `json:"rig" doc:"Name of the rig; empty: it needs none"`
	Wraps          *float64           `json:"wraps" doc:"Turns on the device; null when they do not hold it"`
	Call           string             `json:"call" doc:"What is called to the ground; empty when it cannot be said"`
	Cut            string             `json:"cut" doc:"The cut that fits best; empty when it cannot be said"`
	Done           bool               `json:"done"`
	AsCut          *job.Wood          `json:"as_cut,omitempty" doc:"The wood that it is, for a fact to name; absent: it takes nothing"`
	Middle         *line.Point        `json:"middle" doc:"Where the piece has its middle while it stands; null when it takes nothing"`
	FallTowardsDeg float64            `json:"fall_towards_deg"`
}

// Heaviest is the heaviest pick.
type Heaviest struct {
	Pick   int        `json:"pick" doc:"Its number"`
	MassKg wood.Range `json:"mass_kg"`
}

// Gravest is the pick whose verdict is the worst.
type Gravest struct {
	Pick    int            `json:"pick" doc:"Its number, from 1"`
	Said    string         `json:"said" doc:"What makes it so, in a few words"`
	Verdict policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
}

// Nearest is the limit that is nearest.
type Nearest struct {
	Pick    int            `json:"pick" doc:"Number of the pick"`
	Part    string         `json:"part"`
	Name    string         `json:"name"`
	UsePct  float64        `json:"use_pct"`
	Verdict policy.Verdict `json:"verdict" enum:"within,close,over,not held"`
}

// GearUse is one item and the pick that loads it hardest.
type GearUse struct {
	Rig     string         `json:"rig" doc:"Name of the rig"`
	Part    string         `json:"part"`
	Name    string         `json:"name"`
	Item    string         `json:"item" doc:"Id in the locker; empty: not from there"`
	PeakKn  float64        `json:"peak_kn"`
	LimitKn *float64       `json:"limit_kn"`
	UsePct  *float64       `json:"use_pct"`
	Pick    int            `json:"pick" doc:"Number of the pick that loads it hardest"`
	Picks   int            `json:"picks" doc:"How many picks use it"`
	Verdict policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
}

// RopeNeed is how long a rig's rope must be.
type RopeNeed struct {
	Rig     string         `json:"rig"`
	NeedM   float64        `json:"need_m" doc:"Knot, wraps and tail included"`
	HaveM   *float64       `json:"have_m" doc:"Null: not given"`
	Pick    int            `json:"pick" doc:"Number of the pick that needs it"`
	Verdict policy.Verdict `json:"verdict" enum:"within,over,not known"`
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
	Ladder   []Rung        `json:"ladder" nullable:"false" doc:"From the piece to the hand"`
	Room     *Room         `json:"room,omitempty"`
	Clear    []Clearance   `json:"clear" nullable:"false" doc:"How close it comes to what stands around, nearest first"`
	Landing  *Landing      `json:"landing,omitempty"`
	Advice   *cut.Advice   `json:"advice,omitempty"`
	Cautions []string      `json:"cautions" nullable:"false"`
	Balance  *Balance      `json:"balance,omitempty" doc:"Of what stands of the tree before this pick: above the hinge when it is felled"`
	course.Figures
}

// A Clearance is how close a piece comes to something on its way.
type Clearance struct {
	Name       string         `json:"name"`
	ClearanceM float64        `json:"clearance_m" doc:"Least distance, the piece's reach taken off; negative: it touches"`
	Verdict    policy.Verdict `json:"verdict" enum:"within,close,over,not held" doc:"The tree's own limbs are never over: it brushes them, or hangs up"`
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

	Slings []crane.Sling `json:"slings" nullable:"false" doc:"Two chokers that would hold it on a crane as it grows; what they hold is for the crew to say"`
}

// Room is the space the piece needs beneath it.
type Room struct {
	Beneath    string         `json:"beneath" doc:"What lies beneath"`
	BeneathM   float64        `json:"beneath_m" doc:"Height of its top"`
	LowestM    *float64       `json:"lowest_m" doc:"Height of the piece's lower end at its lowest; null when it is never stopped"`
	ClearanceM *float64       `json:"clearance_m" doc:"What is left beneath it; null when it is never stopped"`
	WantedM    float64        `json:"wanted_m" doc:"What the crew wants left"`
	Verdict    policy.Verdict `json:"verdict" enum:"within,close,over,not held" doc:"Close: it comes down on a limb that still stands"`
	RunVerdict policy.Verdict `json:"run_verdict" enum:"within,over" doc:"The run against the crew's longest run"`
	RunLimitM  *float64       `json:"run_limit_m" doc:"The crew's longest run; null when none is set"`
}

// A Basis is what a figure rests on; a piece's weight on the weakest of its parts.
type Basis string

// What a weight may rest on.
const (
	Guessed Basis = "guess"   // by eye, or a size that the program offered
	Default Basis = "default" // measured, but the wood is whatever stands in where nobody named it
	// One girth and a height: what the stem is between and beyond nobody knows.
	OneReading Basis = "one reading"
	Measured   Basis = "measured" // by the tape and the table of its wood
	Taught     Basis = "learned"  // by what the scale said of pieces like it
	Weighed    Basis = "weighed"  // by the scale
)

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
