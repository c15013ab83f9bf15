package plan

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/intake"
	"elkstay/core/line"
	"elkstay/core/locker"
	"elkstay/core/timber"
	"elkstay/core/units"
)

// The verdicts.
const (
	Within   = "within"
	Close    = "close"
	Over     = "over"
	NotKnown = "not known"
)

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
	Crew  Crew         // its rules and its gear; empty: the defaults, and no gear
}

// Assess works out everything that can be said of a job: every pick in short, one in
// full.
func Assess(job *Job, o Options) Assessment {
	v, a := prepare(job, &o)
	if v == nil {
		a.State = stateWithout(&a)
		return a
	}
	job = v.job
	a.GearStandings = v.standings()
	a.Cautions = append(a.Cautions, v.outfitCautions()...)
	a.Shape = v.shape()
	v.learn(&a)
	now := v.whole()
	gear := tally{}
	for i := range job.Picks {
		p := &job.Picks[i]
		out := v.work(p, i+1, &now)
		figures := v.figures(out)
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
// the readings contradict each other; the assessment then says what is wrong. The
// survey's job is the document with its gear as the locker has it.
func prepare(document *Job, o *Options) (*survey, Assessment) {
	job, outfit := document.outfitted(&o.Crew)
	stem := job.Tree.Stem()
	limits := job.crewLimits(&o.Crew.Policy)
	a := Assessment{
		Verdict: Within, Missing: []Missing{}, Faults: intake.Faults{}, Cautions: []string{}, Stem: []timber.Station{},
		Shape: Shape{Limbs: []LimbShape{}}, Picks: make([]PickFigures, 0, len(job.Picks)), Gear: []GearUse{}, GearStandings: []GearStanding{}, Ropes: []RopeNeed{}, Learned: []Learned{},
		Defaulted: job.defaulted(), Limits: limits, Defects: job.Tree.defectFigures(o.Units), Shells: shells(&stem, o.Units),
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
	a.Faults = append(a.Faults, outfit.faults...)
	if job.WorkOn != "" && !locker.IsDay(job.WorkOn) {
		a.Faults.Add("body.work_on", job.WorkOn, "a day such as 2026-03-31", "%q is no day of the calendar", job.WorkOn)
	}
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
	v := newSurvey(job, o.Units, stem, limits)
	v.outfit = outfit
	return v, a
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
func (v *survey) figures(o *outcome) PickFigures {
	f := PickFigures{
		ID: o.pick.ID, Number: o.number, Title: v.title(o), Faults: o.faults, Verdict: v.pickVerdict(o), FromM: o.fromM, ToM: o.toM, LengthM: max(0, o.length()),
		What: o.pick.What, Way: o.pick.Way, Call: v.call(o), Weighed: o.weighed, Done: o.pick.Done, FallTowardsDeg: o.settings.FallTowardsDeg,
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
	if o.rig != nil && o.pick.Way != WayFree && o.pick.Way != WayThrown && o.pick.Way != WayCrane {
		tie := o.settings.TieM
		f.Rig, f.TieM = o.rig.Name, &tie
		if o.settings.How == ByWraps && o.pair == nil {
			wraps := o.settings.Wraps
			f.Wraps = &wraps
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
