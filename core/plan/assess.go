package plan

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/cut"
	"elkstay/core/drop"
	"elkstay/core/intake"
	"elkstay/core/line"
	"elkstay/core/spar"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// The verdicts.
const (
	Within   = "within"
	Close    = "close"
	Over     = "over"
	NotKnown = "not known"
)

// Why a pick cannot happen where it stands in the order.
const (
	faultGone    = "gone"     // what it takes is gone already
	faultBeneath = "beneath"  // it cuts beneath limbs that stand
	faultBlock   = "block"    // gear on wood that is gone, or in the wrong place
	faultTieIn   = "tie-in"   // the climber's tie-in is gone
	faultTie     = "tie"      // the tie is beyond the piece
	faultRig     = "rig"      // no rig, no rope, no crane
	faultTooLong = "too-long" // longer than its drop
	faultReach   = "reach"    // the rope, the crane, the lines do not reach
	faultSector  = "sector"   // into a no-go sector
	faultSlings  = "slings"   // it cannot hang in its slings
)

// An OrderFault is why a pick cannot happen where it stands in the order.
type OrderFault struct {
	Code    string `json:"code" enum:"gone,beneath,block,tie-in,tie,rig,too-long,reach,sector,slings"`
	Message string `json:"message"`
}

// An Assessment is everything the crew reads off a job. What cannot be worked out
// yet is absent, and Missing and Faults say why.
type Assessment struct {
	State     string           `json:"state" doc:"The whole job in a sentence or two"`
	Verdict   string           `json:"verdict" enum:"within,close,over,not known" doc:"The worst verdict of the picks"`
	Missing   []Missing        `json:"missing" nullable:"false" doc:"What is still to be given, in the order to ask for it"`
	Faults    intake.Faults    `json:"faults" nullable:"false" doc:"Fields that contradict each other"`
	Defaulted []string         `json:"defaulted" nullable:"false" doc:"Paths of the document that stand at their default"`
	Limits    CrewLimits       `json:"limits"`
	Stem      []timber.Station `json:"stem" nullable:"false" doc:"The stem as the readings describe it"`
	Shape     Shape            `json:"shape" doc:"The tree in space, to draw it"`
	Picks     []PickFigures    `json:"picks" nullable:"false" doc:"In the order of the document"`
	Left      *Left            `json:"left,omitempty" doc:"What stands when every pick is down"`
	Detail    *Detail          `json:"detail,omitempty" doc:"The pick asked for"`
	Heaviest  *Heaviest        `json:"heaviest,omitempty"`
	Nearest   *Nearest         `json:"nearest,omitempty" doc:"The limit that is nearest"`
	Gear      []GearUse        `json:"gear" nullable:"false" doc:"Every item, and the pick that loads it hardest"`
	Ropes     []RopeNeed       `json:"ropes" nullable:"false" doc:"How long each rope must be"`
	Learned   []Learned        `json:"learned" nullable:"false" doc:"What the scale has taught"`
	Cautions  []string         `json:"cautions" nullable:"false" doc:"What must be read with the figures"`
}

// Missing is one thing still to be given.
type Missing struct {
	Location string `json:"location" doc:"Path of the document"`
	Ask      string `json:"ask" doc:"What to give, in a sentence"`
}

// A Shape is the tree in space.
type Shape struct {
	Foot  line.Point  `json:"foot"`
	LeanX float64     `json:"lean_x" doc:"East, m per metre of height"`
	LeanY float64     `json:"lean_y" doc:"North, m per metre of height"`
	Limbs []LimbShape `json:"limbs" nullable:"false" doc:"In the order of the document"`
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
	Number         int          `json:"number" doc:"Its place in the order, from 1"`
	Title          string       `json:"title" doc:"What it takes"`
	Faults         []OrderFault `json:"faults" nullable:"false" doc:"Why it cannot happen here"`
	Verdict        string       `json:"verdict" enum:"within,close,over,not known"`
	FromM          float64      `json:"from_m" doc:"The cut: height, or distance along the limb"`
	ToM            float64      `json:"to_m" doc:"The piece's other end, likewise"`
	LengthM        float64      `json:"length_m"`
	MassKg         *wood.Range  `json:"mass_kg" doc:"Null when it takes nothing"`
	Weighed        bool         `json:"weighed" doc:"By the scale"`
	PeakKn         *float64     `json:"peak_kn" doc:"Peak of the line; null without one"`
	RunM           *float64     `json:"run_m" doc:"Rope that runs; null without a line, or when it is never stopped"`
	ClearanceM     *float64     `json:"clearance_m" doc:"Least room round and beneath it; null when none is known"`
	Nearest        *Nearest     `json:"nearest,omitempty"`
	Cut            string       `json:"cut" doc:"The cut that fits best; empty when it cannot be said"`
	Done           bool         `json:"done"`
	FallTowardsDeg float64      `json:"fall_towards_deg"`
	Cautions       int          `json:"cautions" doc:"How many cautions stand beside it"`
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
	Verdict string  `json:"verdict" enum:"within,close,over"`
}

// GearUse is one item and the pick that loads it hardest.
type GearUse struct {
	Rig     string   `json:"rig" doc:"Name of the rig"`
	Part    string   `json:"part"`
	Name    string   `json:"name"`
	PeakKn  float64  `json:"peak_kn"`
	LimitKn *float64 `json:"limit_kn"`
	UsePct  *float64 `json:"use_pct"`
	Pick    int      `json:"pick" doc:"Number of the pick that loads it hardest"`
	Picks   int      `json:"picks" doc:"How many picks use it"`
	Verdict string   `json:"verdict" enum:"within,close,over,not known"`
}

// RopeNeed is how long a rig's rope must be.
type RopeNeed struct {
	Rig     string   `json:"rig"`
	NeedM   float64  `json:"need_m" doc:"Knot, wraps and tail included"`
	HaveM   *float64 `json:"have_m" doc:"Null: not given"`
	Pick    int      `json:"pick" doc:"Number of the pick that needs it"`
	Verdict string   `json:"verdict" enum:"within,over,not known"`
}

// Learned is what the scale has taught of stems or of limbs.
type Learned struct {
	Of      string  `json:"of" enum:"stem,limbs"`
	Weighed int     `json:"weighed"`
	Factor  float64 `json:"factor" doc:"By how much planned masses are multiplied"`
}

// Detail is one pick in full.
type Detail struct {
	ID       string        `json:"id"`
	Number   int           `json:"number"`
	Settings Settings      `json:"settings"`
	Rig      string        `json:"rig" doc:"Id of the rig; empty: it needs none"`
	Piece    *PieceFigures `json:"piece,omitempty"`
	Stands   Left          `json:"stands" doc:"The tree before the cut"`
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
	Advice   *cut.Advice   `json:"advice,omitempty"`
	Cautions []string      `json:"cautions" nullable:"false"`
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
	Verdict    string   `json:"verdict" enum:"within,close,over" doc:"Close: it comes down on a limb that still stands"`
	RunVerdict string   `json:"run_verdict" enum:"within,over" doc:"The run against the crew's longest run"`
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
	StressMpa      float64    `json:"stress_mpa"`
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
}

// LinePoint is one point of the line's way.
type LinePoint struct {
	Name      string     `json:"name"`
	At        line.Point `json:"at"`
	RestingKn float64    `json:"resting_kn" doc:"In the leg that leaves it towards the device; of the device: what reaches it"`
	PeakKn    float64    `json:"peak_kn" doc:"Likewise"`
	LegM      float64    `json:"leg_m" doc:"Length of that leg; 0 at the device"`
}

// Hang is where a piece hangs at its lowest.
type Hang struct {
	X       float64 `json:"x"`
	Y       float64 `json:"y"`
	LowM    float64 `json:"low_m" doc:"Height of its lower end"`
	TieM    float64 `json:"tie_m" doc:"Height of its tie"`
	TipDown bool    `json:"tip_down"`
}

// verdict judges a share of a limit.
func verdict(usePct, closeFromPct float64) string {
	switch {
	case usePct > 100:
		return Over
	case usePct >= closeFromPct:
		return Close
	}
	return Within
}

// worse returns the graver of two verdicts; not known is graver than within and
// close, because nobody has looked.
func worse(a, b string) string {
	if gravity(b) > gravity(a) {
		return b
	}
	return a
}

func gravity(judged string) int {
	switch judged {
	case Close:
		return 1
	case NotKnown:
		return 2
	case Over:
		return 3
	}
	return 0
}

// Options say what is asked of a job beside the job itself.
type Options struct {
	Units units.System // of the sentences; figures are SI
	Pick  string       // id of the pick to give in full; empty: none
}

// Assess works out everything that can be said of a job: every pick in short, one in
// full.
func Assess(job *Job, o Options) Assessment {
	v, a := prepare(job, o.Units)
	if v == nil {
		a.State = stateWithout(&a)
		return a
	}
	a.Shape = v.shape()
	v.learn(&a)
	now := v.whole()
	gear := tally{}
	for i := range job.Picks {
		p := &job.Picks[i]
		out := v.work(p, i+1, &now)
		figures := v.figures(out, &now)
		if o.Pick == p.ID {
			a.Detail = v.detail(out, &now)
		}
		gear.add(v, out)
		if out.weight.kg.Likely > 0 && (a.Heaviest == nil || out.weight.kg.Likely > a.Heaviest.MassKg.Likely) {
			a.Heaviest = &Heaviest{i + 1, out.weight.kg}
		}
		if n := figures.Nearest; n != nil && (a.Nearest == nil || n.UsePct > a.Nearest.UsePct) {
			a.Nearest = n
		}
		a.Verdict = worse(a.Verdict, figures.Verdict)
		a.Picks = append(a.Picks, figures)
		v.apply(p, out, &now)
	}
	a.Left = &Left{now.top, now.tips}
	a.Gear, a.Ropes = gear.uses, gear.ropes
	if len(job.Picks) == 0 {
		a.Verdict = NotKnown
	} else {
		a.Cautions = append(a.Cautions, standingCaution)
	}
	a.Cautions = append(a.Cautions, v.treeCautions()...)
	a.State = v.state(&a)
	return a
}

// standingCaution holds for every job.
const standingCaution = "The energy sum leaves out the piece striking the stem, the spar's sway and the knot. Local codes, the makers' instructions and a competent person on site come first."

// prepare readies a job for sums. The survey is nil while too little is known or
// the readings contradict each other; the assessment then says what is wrong.
func prepare(job *Job, system units.System) (*survey, Assessment) {
	stem := job.Tree.Stem()
	limits := job.crewLimits()
	a := Assessment{
		Verdict: Within, Missing: []Missing{}, Faults: intake.Faults{}, Cautions: []string{}, Stem: []timber.Station{},
		Shape: Shape{Limbs: []LimbShape{}}, Picks: make([]PickFigures, 0, len(job.Picks)), Gear: []GearUse{}, Ropes: []RopeNeed{}, Learned: []Learned{},
		Defaulted: job.defaulted(), Limits: limits,
	}
	if !job.Tree.Wood.Given() {
		a.Missing = append(a.Missing, Missing{"tree.wood", "Choose the species."})
	}
	if len(stem.Stations) < 2 {
		a.Missing = append(a.Missing, Missing{"tree.readings", "Give a tape reading or two and the height of the stem."})
	}
	a.Faults = append(a.Faults, job.Tree.faults()...)
	a.Faults = append(a.Faults, job.Site.faults()...)
	a.Faults = append(a.Faults, job.rigFaults()...)
	if len(a.Faults) == 0 {
		a.Stem = append(a.Stem, stem.Stations...)
	}
	if len(a.Faults) > 0 || len(a.Missing) > 0 {
		a.Verdict = NotKnown
		return nil, a
	}
	if len(job.Picks) == 0 {
		a.Missing = append(a.Missing, Missing{"picks", "Add a pick, or fill the order."})
	}
	return newSurvey(job, system, stem, limits), a
}

// shape is the tree in space.
func (v *survey) shape() Shape {
	shape := Shape{Foot: pointOf(v.foot), LeanX: v.lean.X, LeanY: v.lean.Y, Limbs: make([]LimbShape, len(v.limbs))}
	now := v.whole()
	for i := range v.limbs {
		g := &v.limbs[i]
		const parts = 8
		one := LimbShape{ID: g.ID, Title: g.title(), MassKg: v.limbMass(i, 0, &now).kg, Points: make([][4]float64, 0, parts+1)}
		for part := range parts + 1 {
			s := g.LengthM * float64(part) / parts
			at := g.at(s)
			one.Points = append(one.Points, [4]float64{at.X, at.Y, at.Z, g.diameterAt(s)})
		}
		shape.Limbs[i] = one
	}
	return shape
}

// Spreads of limbs before any weighing and from limb to limb, per cent (common
// practice): wider than those of stems.
const (
	limbCv     = 30
	limbEachCv = 20
)

// learn asks what the weighings so far say of stems and of limbs.
func (v *survey) learn(a *Assessment) {
	v.learned = map[bool]*timber.Learned{}
	weighed := map[bool][]timber.Weighing{}
	any := false
	for i := range v.job.Picks {
		any = any || v.job.Picks[i].WeighedKg != nil
	}
	if !any {
		return
	}
	now := v.whole()
	for i := range v.job.Picks {
		p := &v.job.Picks[i]
		o := &outcome{pick: p}
		v.begin(o, &now)
		if p.WeighedKg != nil && o.weight.kg.Likely > 0 && p.MassKg == nil {
			limb := p.What == WhatLimb
			weighed[limb] = append(weighed[limb], timber.Weighing{PredictedKg: o.weight.kg.Likely, MeasuredKg: *p.WeighedKg})
		}
		v.apply(p, o, &now)
	}
	for _, limb := range [2]bool{false, true} {
		if len(weighed[limb]) == 0 {
			continue
		}
		request := timber.WeighIn{Weighed: weighed[limb]}
		of := "stem"
		if limb {
			cv, each := float64(limbCv), float64(limbEachCv)
			request.CvPct, request.PieceCvPct, of = &cv, &each, "limbs"
		}
		learned := request.Learn()
		v.learned[limb] = &learned
		a.Learned = append(a.Learned, Learned{of, len(weighed[limb]), learned.Factor})
		a.Cautions = append(a.Cautions, request.Cautions(learned)...)
	}
}

// apply takes the pick off the tree.
func (v *survey) apply(p *Pick, o *outcome, now *standing) {
	if o.weight.kg.Likely <= 0 {
		return
	}
	if i := v.limbOf(p); i >= 0 {
		v.take(now, i, o.fromM)
		return
	}
	v.takeTop(now, o.fromM)
}

// title says what a pick takes.
func (v *survey) title(o *outcome) string {
	switch {
	case o.pick.Label != "":
		return o.pick.Label
	case o.pick.What == WhatTop:
		return "Top from " + v.height(o.fromM)
	case o.pick.What == WhatStem:
		return "Stem from " + v.height(o.fromM)
	}
	i := v.limbOf(o.pick)
	if i < 0 {
		return "Limb " + o.pick.Limb
	}
	name := v.limbs[i].title()
	name = string(name[0]-asciiLower(name[0])) + name[1:]
	if o.fromM > 0 {
		return name + " from " + v.height(o.fromM)
	}
	return name
}

// asciiLower is what a lower-case letter is above its capital.
func asciiLower(c byte) byte {
	if c >= 'a' && c <= 'z' {
		return 'a' - 'A'
	}
	return 0
}

// figures gives a pick in short.
func (v *survey) figures(o *outcome, now *standing) PickFigures {
	f := PickFigures{
		ID: o.pick.ID, Number: o.number, Title: v.title(o), Faults: o.faults, Verdict: v.pickVerdict(o), FromM: o.fromM, ToM: o.toM, LengthM: max(0, o.length()),
		Weighed: o.weighed, Done: o.pick.Done, FallTowardsDeg: o.settings.FallTowardsDeg,
	}
	if f.Faults == nil {
		f.Faults = []OrderFault{}
	}
	if o.weight.kg.Likely > 0 {
		f.MassKg = &o.weight.kg
	}
	for i := range o.loads {
		if use, known, judged := v.judge(&o.loads[i]); known && (f.Nearest == nil || use > f.Nearest.UsePct) {
			f.Nearest = &Nearest{o.number, o.loads[i].part, o.loads[i].name, use, judged}
		}
	}
	if o.kase != nil || o.pair != nil {
		peak := o.catch.LinePeakKn
		f.PeakKn = &peak
		if o.catch.Holds {
			run := o.catch.RunM
			f.RunM = &run
		}
	}
	clear := math.Inf(1)
	if low, stops := o.lowest(); stops {
		clear = low - o.floor.z
	}
	if len(o.clears) > 0 {
		clear = min(clear, o.clears[0].ClearanceM)
	}
	if !math.IsInf(clear, 1) {
		f.ClearanceM = &clear
	}
	if advice := v.advise(o); advice != nil && len(advice.Cuts) > 0 {
		f.Cut = advice.Cuts[0].Cut
	}
	f.Cautions = len(v.cautions(o, now))
	return f
}

// pickVerdict is the worst of a pick's parts, of the room and of the order.
func (v *survey) pickVerdict(o *outcome) string {
	if o.stopped() {
		return Over
	}
	judged := Within
	for i := range o.loads {
		_, _, one := v.judge(&o.loads[i])
		judged = worse(judged, one)
	}
	if o.landing != nil {
		judged = worse(judged, o.landing.Verdict)
	}
	for _, c := range o.clears {
		judged = worse(judged, c.Verdict)
	}
	if room := v.roomFigures(o); room != nil {
		judged = worse(worse(judged, room.Verdict), room.RunVerdict)
	}
	return judged
}

func (v *survey) roomFigures(o *outcome) *Room {
	if o.kase == nil && o.pair == nil {
		return nil
	}
	room := &Room{Beneath: o.floor.name, BeneathM: o.floor.z, WantedM: v.limits.ClearM, Verdict: Over, RunVerdict: Within, RunLimitM: v.limits.RunM}
	if low, stops := o.lowest(); stops {
		left := low - o.floor.z
		room.LowestM, room.ClearanceM = &low, &left
		switch {
		case left >= room.WantedM:
			room.Verdict = Within
		case low-o.floor.hard >= room.WantedM:
			room.Verdict = Close
		}
	}
	if limit := v.limits.RunM; limit != nil && (!o.catch.Holds || o.catch.RunM > *limit) {
		room.RunVerdict = Over
	}
	return room
}

// detail gives a pick in full.
func (v *survey) detail(o *outcome, now *standing) *Detail {
	d := &Detail{
		ID: o.pick.ID, Number: o.number, Settings: o.settings, Stands: Left{now.top, append([]float64{}, now.tips...)},
		Ladder: v.ladder(o, now), Room: v.roomFigures(o), Clear: o.clears, Landing: o.landing, Line: []LinePoint{}, Way: []line.Point{},
		Advice: v.advise(o), Cautions: v.cautions(o, now),
	}
	if d.Clear == nil {
		d.Clear = []Clearance{}
	}
	if o.rig != nil {
		d.Rig = o.rig.ID
	}
	if o.weight.kg.Likely > 0 {
		d.Piece = &PieceFigures{
			LengthM: o.length(), DiameterCutM: o.diameter, CavityCutM: o.cavity, MassKg: o.weight.kg, WeightKn: o.weight.kg.Times(units.Gravity / 1000),
			CogM: o.weight.cog, Cog: pointOf(o.weight.at), Cut: pointOf(o.cut), Tip: pointOf(o.tip), OrientDeg: o.orient, DensitySource: v.source,
		}
	}
	if o.kase != nil {
		d.Catch = v.catchFigures(o)
	}
	if o.arc != nil {
		d.Arc = &ArcFigures{o.arc.RadiusM, o.arc.StartDeg, o.arc.SpeedMS, o.arc.LineKn, o.arc.Factor}
		side := level(r3.Sub(o.tie, o.block))
		side = r3.Scale(1/r3.Norm(side), side)
		for k := range 25 {
			sin, cos := math.Sincos(radians(o.arc.StartDeg) * (1 - float64(k)/12))
			d.Way = append(d.Way, pointOf(r3.Add(o.block, r3.Add(r3.Scale(o.arc.RadiusM*sin, side), r3.Vec{Z: -o.arc.RadiusM * cos}))))
		}
	}
	for _, c := range o.carried.Way {
		d.Way = append(d.Way, c.At)
	}
	if o.spar != nil {
		st := o.spar.beam.Solve()
		allowed := o.spar.beam.StrengthMpa / v.limits.WoodFactor
		d.Spar = &SparFigures{st.Worst.StressMpa, st.Worst.AtM, allowed, 100 * st.Worst.StressMpa / allowed, st.TopDeflectionM, st.PeriodS, st.Modal}
	}
	if o.lift != nil {
		d.Lift = &LiftFigures{o.pick.Lift.Crane, o.radius, o.lifted.HookKg, o.lifted.CapacityKg, o.lifted.TiltDeg, o.lifted.HookOverM}
	}
	v.linePoints(o, d)
	return d
}

// linePoints lays out the line's way to be drawn, and where the piece hangs.
func (v *survey) linePoints(o *outcome, d *Detail) {
	if o.rig == nil || len(o.path.Legs) == 0 {
		return
	}
	weight, peak := o.weightKn(), o.catch.LinePeakKn
	at := o.tie
	for i, stop := range o.points {
		point := LinePoint{Name: stop.Name, At: stop.Point}
		if i == 0 {
			point.Name, point.At = partTie, pointOf(at)
		}
		tension := o.path.DeviceKn
		if i < len(o.path.Legs) {
			tension = o.path.Legs[i].TensionKn
			point.LegM = o.path.Legs[i].LengthM
		}
		if i == 0 {
			point.LegM = r3.Norm(r3.Sub(o.block, at))
		}
		point.RestingKn, point.PeakKn = weight*tension, peak*tension
		d.Line = append(d.Line, point)
	}
	if o.pair != nil {
		d.Line = append([]LinePoint{{Name: partFar, At: o.pair.B, RestingKn: 0, PeakKn: o.carried.MaxBKn, LegM: r3.Norm(r3.Sub(o.pair.B.Vec(), at))}}, d.Line...)
	}
	if low, stops := o.lowest(); stops && o.pair == nil {
		d.Hang = &Hang{o.block.X, o.block.Y, low, low + o.below(), o.weight.cog > o.settings.TieM}
	}
}

func (v *survey) catchFigures(o *outcome) *CatchFigures {
	locked := *o.kase
	locked.DeviceHoldKn = nil
	figures := &CatchFigures{
		FallM: o.kase.FallM(), StretchM: o.catch.StretchM, LeadM: o.kase.LeadM, LinePeakKn: o.catch.LinePeakKn, Amplification: o.catch.Amplification,
		Runs: o.catch.Runs, Holds: o.catch.Holds, HoldKn: o.kase.DeviceHoldKn, TipDown: o.kase.HangsTipDown(),
		LockedPeakKn: drop.Solve(&locked).LinePeakKn,
		Wanted:       v.wanted(o),
		Around:       drop.AroundHold(o.kase),
	}
	if o.catch.Holds {
		run := o.catch.RunM
		figures.RunM = &run
	}
	return figures
}

// tally gathers what the gear of the whole job sees.
type tally struct {
	uses  []GearUse
	ropes []RopeNeed
}

func (t *tally) add(v *survey, o *outcome) {
	if t.uses == nil {
		t.uses, t.ropes = []GearUse{}, []RopeNeed{}
	}
	if o.rig == nil {
		return
	}
	for i := range o.loads {
		l := &o.loads[i]
		if l.part == partPiece || l.part == partSpar || l.unseen {
			continue
		}
		use, known, judged := v.judge(l)
		found := -1
		for k := range t.uses {
			if t.uses[k].Rig == o.rig.Name && t.uses[k].Part == l.part && t.uses[k].Name == l.name {
				found = k
			}
		}
		one := GearUse{Rig: o.rig.Name, Part: l.part, Name: l.name, PeakKn: l.peak, Pick: o.number, Picks: 1, Verdict: judged}
		if known {
			limit := l.limit.Kn
			one.LimitKn, one.UsePct = &limit, &use
		}
		if found < 0 {
			t.uses = append(t.uses, one)
			continue
		}
		one.Picks = t.uses[found].Picks + 1
		if old := t.uses[found].UsePct; l.peak <= t.uses[found].PeakKn || old != nil && known && use <= *old {
			t.uses[found].Picks = one.Picks
			continue
		}
		t.uses[found] = one
	}
	if o.ropeM <= 0 {
		return
	}
	need := RopeNeed{Rig: o.rig.Name, NeedM: o.ropeM, HaveM: o.rig.RopeLengthM, Pick: o.number, Verdict: NotKnown}
	if need.HaveM != nil {
		need.Verdict = Within
		if *need.HaveM < need.NeedM {
			need.Verdict = Over
		}
	}
	for k := range t.ropes {
		if t.ropes[k].Rig == need.Rig {
			if need.NeedM > t.ropes[k].NeedM {
				t.ropes[k] = need
			}
			return
		}
	}
	t.ropes = append(t.ropes, need)
}
