package plan

import (
	"fmt"
	"math"

	"elkstay/core/drop"
	"elkstay/core/intake"
	"elkstay/core/line"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// The verdicts.
const (
	Within   = "within"
	Close    = "close"
	Over     = "over"
	NotKnown = "not known"
)

// An Assessment is everything the crew reads off a job. What cannot be worked out
// yet is absent, and Missing and Faults say why.
type Assessment struct {
	State    string           `json:"state" doc:"The whole job in a sentence or two"`
	Verdict  string           `json:"verdict" enum:"within,close,over,not known" doc:"The worst verdict of the ladder and of the room"`
	Missing  []Missing        `json:"missing" nullable:"false" doc:"What is still to be given, in the order to ask for it"`
	Faults   intake.Faults    `json:"faults" nullable:"false" doc:"Fields that contradict each other"`
	Settings Settings         `json:"settings" doc:"The figures this rests on, defaults included"`
	Stem     []timber.Station `json:"stem" nullable:"false" doc:"The stem as the readings describe it"`
	Piece    *PieceFigures    `json:"piece,omitempty"`
	Catch    *CatchFigures    `json:"catch,omitempty"`
	Ladder   []Rung           `json:"ladder" nullable:"false" doc:"From the piece to the hand"`
	Room     *Room            `json:"room,omitempty"`
	Nearest  *Nearest         `json:"nearest,omitempty" doc:"The limit that is nearest"`
	Cautions []string         `json:"cautions" nullable:"false" doc:"What must be read with the figures"`
}

// Missing is one thing still to be given.
type Missing struct {
	Location string `json:"location" doc:"Path of the document"`
	Ask      string `json:"ask" doc:"What to give, in a sentence"`
}

// PieceFigures is the piece above the cut.
type PieceFigures struct {
	LengthM       float64    `json:"length_m"`
	DiameterCutM  float64    `json:"diameter_at_cut_m"`
	CavityCutM    float64    `json:"cavity_at_cut_m"`
	MassKg        wood.Range `json:"mass_kg"`
	WeightKn      wood.Range `json:"weight_kn"`
	CogM          float64    `json:"cog_m" doc:"Height of the centre of gravity while it stands"`
	CogAboveCutM  float64    `json:"cog_above_cut_m"`
	DensitySource string     `json:"density_source"`
}

// CatchFigures is how the drop ends.
type CatchFigures struct {
	FallM         float64         `json:"fall_m"`
	StretchM      float64         `json:"stretch_m"`
	LeadM         float64         `json:"lead_m"`
	Amplification float64         `json:"amplification"`
	Runs          bool            `json:"runs"`
	Holds         bool            `json:"holds"`
	RunM          *float64        `json:"run_m" doc:"Null when the piece is never stopped"`
	LowestM       *float64        `json:"lowest_m" doc:"How far below the cut the piece comes; null when it is never stopped"`
	TipDown       bool            `json:"tip_down" doc:"It hangs tip down: the tie is below the centre of gravity"`
	HoldKn        *float64        `json:"hold_kn" doc:"Tension on the lead at which rope runs; null when locked off"`
	LockedPeakKn  float64         `json:"locked_peak_kn" doc:"Peak of the line were it locked off"`
	Around        *drop.HoldRange `json:"around,omitempty" doc:"What a hold a fifth lower or higher does"`
	Wanted        *Wanted         `json:"wanted,omitempty" doc:"What would keep every known limit; absent when no limit is known"`
}

// Wanted is the hold and the run that keep line, block and device within their
// limits.
type Wanted struct {
	LineKn    float64  `json:"line_kn" doc:"Line tension at which the nearest limit is reached"`
	Governs   string   `json:"governs" enum:"line,block,device" doc:"The part whose limit that is"`
	Reachable bool     `json:"reachable" doc:"False when the piece alone weighs as much"`
	HoldKn    float64  `json:"hold_kn" doc:"Tension on the lead at which the rope must run"`
	RunM      *float64 `json:"run_m" doc:"Run that takes; null when not reachable"`
	Wraps     float64  `json:"wraps" doc:"Turns that give this hold with the stated hand"`
}

// A Rung is one part of the load's way from the piece to the hand.
type Rung struct {
	Part      string         `json:"part" enum:"piece,line,block,device,hand"`
	Name      string         `json:"name" doc:"What the crew calls the item; empty when unnamed"`
	RestingKn float64        `json:"resting_kn" doc:"Load with the piece hanging still; of the piece: its likely weight"`
	PeakKn    *float64       `json:"peak_kn" doc:"Load at the peak; of the piece: its weight at the heavy end; null when nothing reaches this part"`
	LimitKn   *float64       `json:"limit_kn" doc:"Null when not known"`
	UsePct    *float64       `json:"use_pct" doc:"Peak in per cent of the limit"`
	Verdict   string         `json:"verdict" enum:"within,close,over,not known"`
	Reason    string         `json:"reason" doc:"Where the limit comes from, or why there is none"`
	Cautions  []string       `json:"cautions" nullable:"false"`
	Working   []working.Step `json:"working" nullable:"false"`
}

// Room is the space the piece needs beneath it.
type Room struct {
	LowestAtM  *float64 `json:"lowest_at_m" doc:"Height of the piece's lower end at its lowest; null when it is never stopped"`
	ClearanceM *float64 `json:"clearance_m" doc:"What is left beneath it; null when it is never stopped"`
	WantedM    float64  `json:"wanted_m" doc:"What the crew wants left"`
	Verdict    string   `json:"verdict" enum:"within,over"`
	RunVerdict string   `json:"run_verdict" enum:"within,over,not known" doc:"The run against the crew's longest run"`
	RunLimitM  *float64 `json:"run_limit_m" doc:"The crew's longest run; null when none is set"`
}

// Nearest is the limit that is nearest.
type Nearest struct {
	Part    string  `json:"part" enum:"piece,line,block,device,hand"`
	UsePct  float64 `json:"use_pct"`
	Verdict string  `json:"verdict" enum:"within,close,over"`
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
	rank := map[string]int{Within: 0, Close: 1, NotKnown: 2, Over: 3}
	if rank[b] > rank[a] {
		return b
	}
	return a
}

// Assess works out everything that can be said of a job. Sentences are in the
// units of the given system; figures and working are SI.
func Assess(job *Job, system units.System) Assessment {
	s, a := prepare(job)
	if s == nil {
		a.State = stateWithout(&a)
		return a
	}
	cutAt := s.settings.CutAtM
	if faults := s.cutFaults(cutAt); len(faults) > 0 {
		a.Faults = append(a.Faults, faults...)
		if cutAt > s.stem.Bottom() && cutAt < s.stem.Top() {
			a.Piece = s.pieceFigures(s.stem.WeighBetween(cutAt, s.stem.Top(), s.density, timber.Frustum), cutAt)
		}
		a.State = "This cut cannot be worked out: " + faults[0].Message + "."
		return a
	}
	weight := s.stem.WeighBetween(cutAt, s.stem.Top(), s.density, timber.Frustum)
	a.Piece = s.pieceFigures(weight, cutAt)
	if job.Rig.Rope == nil {
		a.Cautions = append(a.Cautions, s.stem.Cautions(job.Tree.Wood, cutAt, s.stem.Top())...)
		a.State = stateOfPiece(a.Piece, system) + " Choose a rope to see the load."
		return a
	}
	o := s.at(cutAt)
	a.Catch = s.catchFigures(&o)
	a.Ladder = s.ladder(&o)
	a.Room = s.room(&o)
	a.Cautions = append(a.Cautions, standing...)
	for _, rung := range a.Ladder {
		a.Cautions = append(a.Cautions, rung.Cautions...)
	}
	a.Verdict = worse(a.Room.Verdict, Within)
	if a.Room.RunVerdict == Over {
		a.Verdict = Over
	}
	for _, rung := range a.Ladder {
		a.Verdict = worse(a.Verdict, rung.Verdict)
		if rung.UsePct != nil && (a.Nearest == nil || *rung.UsePct > a.Nearest.UsePct) {
			a.Nearest = &Nearest{rung.Part, *rung.UsePct, rung.Verdict}
		}
	}
	a.State = stateOfPiece(a.Piece, system) + " " + stateOfCatch(&a, system)
	return a
}

// standing cautions hold for every drop.
var standing = []string{
	"The energy sum leaves out the piece striking the stem, the spar's sway and the knot. Local codes, the makers' instructions and a competent person on site come first.",
}

// prepare readies a job for sums. The subject is nil while too little is known or
// the readings contradict each other; the assessment then says what is wrong.
func prepare(job *Job) (*subject, Assessment) {
	stem := job.Tree.Stem()
	a := Assessment{
		Verdict: NotKnown, Missing: []Missing{}, Faults: intake.Faults{}, Ladder: []Rung{}, Cautions: []string{},
		Stem: []timber.Station{}, Settings: job.settings(stem),
	}
	if !job.Tree.Wood.Given() {
		a.Missing = append(a.Missing, Missing{"tree.wood", "Choose the species."})
	}
	if len(stem.Stations) < 2 {
		a.Missing = append(a.Missing, Missing{"tree.readings", "Give a tape reading or two and the height of the stem."})
	}
	if job.Rig.Rope == nil {
		a.Missing = append(a.Missing, Missing{"rig.rope", "Choose a rope."})
	}
	a.Faults = append(a.Faults, job.Tree.stemFaults()...)
	if len(a.Faults) == 0 {
		a.Stem = append(a.Stem, stem.Stations...)
	}
	if len(a.Faults) > 0 || len(stem.Stations) < 2 || !job.Tree.Wood.Given() {
		return nil, a
	}
	if job.Rig.Rope != nil {
		if faults := job.Rig.Rope.Faults("body.rig.rope"); len(faults) > 0 {
			a.Faults = append(a.Faults, faults...)
			return nil, a
		}
	}
	density, source := job.Tree.Wood.GreenDensity()
	return &subject{
		job: job, stem: stem, density: density, source: source,
		settings: a.Settings, limits: job.knownLimits(&a.Settings),
	}, a
}

func (s *subject) pieceFigures(weight timber.Weight, cutAt float64) *PieceFigures {
	outside, cavity := s.stem.DiameterAt(cutAt)
	return &PieceFigures{
		LengthM: weight.LengthM, DiameterCutM: outside, CavityCutM: cavity,
		MassKg: weight.MassKg, WeightKn: weight.WeightKn(),
		CogM: weight.CogM, CogAboveCutM: weight.CogM - cutAt, DensitySource: s.source,
	}
}

func (s *subject) catchFigures(o *outcome) *CatchFigures {
	locked := o.kase
	locked.DeviceHoldKn = nil
	figures := &CatchFigures{
		FallM: o.kase.FallM(), StretchM: o.catch.StretchM, LeadM: o.kase.LeadM, Amplification: o.catch.Amplification,
		Runs: o.catch.Runs, Holds: o.catch.Holds, HoldKn: o.kase.DeviceHoldKn,
		LockedPeakKn: drop.Solve(&locked).LinePeakKn,
		Wanted:       s.wanted(o),
		Around:       drop.AroundHold(&o.kase),
		TipDown:      o.kase.HangsTipDown(),
	}
	if o.catch.Holds {
		figures.RunM, figures.LowestM = &o.catch.RunM, &o.catch.LowestM
	}
	return figures
}

// wanted finds the hold and the run that keep line, block and device within
// their limits, whichever is the first to be reached.
func (s *subject) wanted(o *outcome) *Wanted {
	r := s.settings.BlockEfficiency
	w := Wanted{LineKn: math.Inf(1)}
	for part, share := range map[string]float64{partLine: 1, partBlock: 1 + r, partDevice: r} {
		if limit, known := s.limits[part]; known && limit.Kn/share < w.LineKn {
			w.LineKn, w.Governs = limit.Kn/share, part
		}
	}
	if math.IsInf(w.LineKn, 1) {
		return nil
	}
	w.HoldKn = r * w.LineKn
	if run, reachable := drop.RunFor(&o.kase, w.LineKn); reachable {
		w.RunM, w.Reachable = &run, true
	}
	w.Wraps = line.WrapsFor(w.HoldKn, s.settings.HandKn, s.settings.Friction)
	return &w
}

func (s *subject) room(o *outcome) *Room {
	room := &Room{WantedM: s.settings.ClearM, Verdict: Over, RunVerdict: NotKnown, RunLimitM: s.job.Limits.RunM}
	if o.catch.Holds {
		lowest := *o.kase.RoomM - o.catch.LowestM
		room.LowestAtM, room.ClearanceM = &lowest, &lowest
		if lowest >= room.WantedM {
			room.Verdict = Within
		}
	}
	if limit := s.job.Limits.RunM; limit != nil {
		room.RunVerdict = Within
		if !o.catch.Holds || o.catch.RunM > *limit {
			room.RunVerdict = Over
		}
	}
	return room
}

// ladder follows the load from the piece to the hand.
func (s *subject) ladder(o *outcome) []Rung {
	names := map[string]string{
		partLine: s.job.Rig.Rope.Name, partBlock: s.job.Rig.Block.Name, partDevice: s.job.Rig.Device.Name,
	}
	rungs := make([]Rung, 0, len(ladderParts))
	for _, part := range ladderParts {
		load := o.loads[part]
		rung := Rung{Part: part, Name: names[part], RestingKn: load.resting, Verdict: NotKnown, Cautions: []string{}, Working: s.rungWorking(part, o)}
		if load.seen {
			rung.PeakKn = &load.peak
		}
		limit, known := s.limits[part]
		switch {
		case !load.seen:
			rung.Reason = "tied off on the device: nothing reaches the hand"
			rung.Verdict = Within
		case !known:
			rung.Reason = "no limit given"
		default:
			use := 100 * load.peak / limit.Kn
			rung.LimitKn, rung.UsePct, rung.Reason = &limit.Kn, &use, limit.Reason
			rung.Verdict = verdict(use, s.settings.CloseFromPct)
		}
		switch {
		case part == partPiece:
			rung.Cautions = s.stem.Cautions(s.job.Tree.Wood, s.settings.CutAtM, s.stem.Top())
		case part == partLine:
			rung.Cautions = o.kase.Cautions(o.catch)
		case part == partHand && load.seen:
			low := line.HandFor(o.catch.DevicePeakKn, s.settings.Wraps, s.settings.Friction*line.LowerFriction)
			rung.Cautions = line.Cautions(s.settings.Friction, low)
		}
		rungs = append(rungs, rung)
	}
	return rungs
}

// rungWorking writes the sum behind one rung.
func (s *subject) rungWorking(part string, o *outcome) []working.Step {
	var sheet working.Sheet
	n, set := working.Figure, &s.settings
	switch part {
	case partPiece:
		return s.stem.Working(s.settings.CutAtM, s.stem.Top(), s.density, s.source, timber.Frustum)
	case partLine:
		sheet.Append(o.kase.Working(o.catch))
	case partBlock:
		sheet.Add("T", "peak of the line", "see the line", o.catch.LinePeakKn, "kN", "the line's working")
		sheet.Add("B", "peak of the block, legs parallel", fmt.Sprintf("(1+r)·T = (1+%s)·%s", n(set.BlockEfficiency), n(o.catch.LinePeakKn)), o.catch.BlockPeakKn, "kN", "statics")
		sheet.Add("B₀", "block with the piece hanging", fmt.Sprintf("(1+r)·W = (1+%s)·%s", n(set.BlockEfficiency), n(o.kase.WeightKn())), o.loads[partBlock].resting, "kN", "statics")
	case partDevice:
		sheet.Add("D", "peak of the lead", fmt.Sprintf("r·T = %s·%s", n(set.BlockEfficiency), n(o.catch.LinePeakKn)), o.catch.DevicePeakKn, "kN", "statics")
		sheet.Add("D₀", "lead with the piece hanging", fmt.Sprintf("r·W = %s·%s", n(set.BlockEfficiency), n(o.kase.WeightKn())), o.loads[partDevice].resting, "kN", "statics")
	case partHand:
		if set.How == Locked {
			break
		}
		if set.How == ByWraps {
			sheet.Add("H", "hold of the device", fmt.Sprintf("hand·e^(2πμn) = %s·e^(2π·%s·%s)", n(set.HandKn), n(set.Friction), n(set.Wraps)), o.hold, "kN", line.Capstan)
		}
		sheet.Add("F", "hand at the peak", fmt.Sprintf("D·e^(−2πμn) = %s·e^(−2π·%s·%s)", n(o.catch.DevicePeakKn), n(set.Friction), n(set.Wraps)), o.loads[partHand].peak, "kN", line.Capstan)
		sheet.Add("F₀", "hand with the piece hanging", fmt.Sprintf("r·W·e^(−2πμn), r·W = %s", n(o.loads[partDevice].resting)), o.loads[partHand].resting, "kN", line.Capstan)
	}
	if limit, known := s.limits[part]; known && o.loads[part].seen {
		sheet.Add("limit", "what it may see", limit.Reason, limit.Kn, "kN", limit.Source)
		sheet.Add("use", "peak in per cent of the limit", fmt.Sprintf("100·%s/%s", n(o.loads[part].peak), n(limit.Kn)), 100*o.loads[part].peak/limit.Kn, "%", "")
	}
	return sheet.Steps()
}
