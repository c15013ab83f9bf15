package assess

import (
	"fmt"
	"math"
	"slices"
	"unicode"
	"unicode/utf8"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/timber"
	"elkstay/core/units"
)

// Options say what is asked of a job beside the job itself.
type Options struct {
	Units units.System // of the sentences; figures are SI
	Pick  string       // id of the pick to give in full; empty: none
	Crew  policy.Crew  // its rules and its gear; empty: the defaults, and no gear
	// Memory, when the job was read by it, remembers what has not changed since; else nil.
	Memory *Memory
	// Gone is closed when nobody waits for the answer any more: it then ends soon, unfinished.
	// Nil: somebody always does.
	Gone <-chan struct{}
}

// Assess works out everything that can be said of a job: every pick in short, one in
// full.
func Assess(document *job.Job, o Options) Assessment {
	f, a := Prepare(document, &o)
	a.Stage, a.Down = stage(document, f != nil && !slices.ContainsFunc(a.Missing, func(m Missing) bool { return m.Location != "picks" }))
	if f == nil {
		a.State = StateWithout(&a)
		return a
	}
	a.GearStandings = f.gear.Standings()
	a.Cautions = append(a.Cautions, f.gear.Cautions()...)
	f.Learn(&a)
	m := f.whole()
	gear, lies := tally{uses: []GearUse{}, ropes: []RopeNeed{}}, heaps{}
	full := []string{}
	for i := range f.Job.Picks {
		if f.Left() {
			return a
		}
		p := &f.Job.Picks[i]
		v := f.Of(p)
		if v == nil {
			a.Picks = append(a.Picks, f.nowhere(p, i+1))
			a.Verdict = Over
			continue
		}
		now := v.Now(m)
		out, figures := o.Memory.worked(v, p, i+1, now)
		if o.Pick == p.ID {
			a.Detail = v.detail(out, now)
		}
		gear.add(v, out)
		if caution := lies.add(v, out, now); caution != "" {
			full = append(full, caution)
		}
		if out.Weight.known() && (a.Heaviest == nil || out.Weight.Kg.Likely > a.Heaviest.MassKg.Likely) {
			a.Heaviest = &Heaviest{i + 1, out.Weight.Kg}
		}
		if n := figures.Nearest; n != nil && (a.Nearest == nil || n.UsePct > a.Nearest.UsePct) {
			a.Nearest = n
		}
		a.Verdict = worse(a.Verdict, figures.Verdict)
		a.Picks = append(a.Picks, figures)
		v.Apply(p, out, now)
	}
	for i, left := range m.left() {
		a.Trees[i].Left = left
	}
	a.Gear, a.Ropes = gear.uses, gear.ropes
	if len(f.Job.Picks) == 0 {
		a.Verdict = NotKnown
	} else {
		a.Cautions = append(a.Cautions, standingCaution)
	}
	a.Cautions = append(a.Cautions, f.powerCautions()...)
	a.Cautions = append(a.Cautions, f.zoneCautions()...)
	a.Cautions = append(a.Cautions, full...)
	for _, v := range f.Trees {
		if v != nil {
			a.Cautions = append(a.Cautions, v.treeCautions()...)
		}
	}
	a.State = f.state(&a)
	return a
}

// left is what stands of every tree; nil: not measured yet.
func (m Moment) left() []*Left {
	list := make([]*Left, len(m))
	for i, s := range m {
		if s != nil {
			list[i] = &Left{s.Top, append([]float64{}, s.Tips...)}
		}
	}
	return list
}

// standingCaution holds for every job.
const standingCaution = "The energy sum leaves out the piece striking the stem, the spar's sway and the knot. Local codes, the makers' instructions and a competent person on site come first."

// Prepare readies a job for sums. The forest is nil while too little is known of every
// tree or the readings contradict each other; the assessment then says what is wrong.
func Prepare(document *job.Job, o *Options) (*Forest, Assessment) {
	document, gear := policy.Resolve(document, &o.Crew)
	limits := policy.LimitsOf(document, &o.Crew.Policy)
	a := Assessment{
		Verdict: Within, Missing: []Missing{}, Doubts: []Doubt{}, Faults: intake.Faults{}, Cautions: []string{}, Trees: make([]TreeFigures, len(document.Trees)),
		Picks: make([]PickFigures, 0, len(document.Picks)), Gear: []GearUse{}, GearStandings: []policy.GearStanding{}, Ropes: []RopeNeed{}, Learned: []Learned{},
		Defaulted: document.Defaulted(), Limits: limits,
	}
	a.Faults.Join(document.Faults())
	if len(a.Faults) == 0 {
		a.Doubts = doubts(document, o.Units)
	}
	a.Faults.Join(gear.Faults)
	f := &Forest{Job: document, System: o.Units, gone: o.Gone, Trees: make([]*Survey, len(document.Trees)), gear: gear, limits: limits}
	measured := false
	for i := range document.Trees {
		tree := &document.Trees[i]
		stem := tree.Stem()
		one := TreeFigures{ID: tree.ID, Title: tree.Title(), Stem: []timber.Station{}, Shape: Shape{Stem: [][4]float64{}, Limbs: []LimbShape{}}, Defects: defectFigures(tree, o.Units), Shells: shells(&stem, o.Units)}
		at, of := fmt.Sprintf("trees[%d].", i), ""
		if len(document.Trees) > 1 {
			of = " of " + tree.Title()
		}
		complete := true
		if !tree.Wood.Given() {
			a.Missing, complete = append(a.Missing, Missing{at + "wood", fmt.Sprintf("Choose the species%s.", of)}), false
		}
		if len(stem.Stations) < 2 {
			a.Missing, complete = append(a.Missing, Missing{at + "readings", fmt.Sprintf("Give a tape reading or two and the height of the stem%s.", of)}), false
		}
		if len(a.Faults) == 0 {
			one.Stem = append(one.Stem, stem.Stations...)
			if complete {
				f.Trees[i], measured = newSurvey(f, i, stem), true
				one.Shape = f.Trees[i].shape()
			}
		}
		a.Trees[i] = one
	}
	if !measured {
		a.Verdict = NotKnown
		return nil, a
	}
	if len(document.Picks) == 0 {
		a.Missing = append(a.Missing, Missing{"picks", "Add a pick, or fill the order."})
	}
	for i := range document.Site.Targets {
		f.targets = append(f.targets, newPrism(&document.Site.Targets[i]))
	}
	return f, a
}

// shape is the tree in space.
func (v *Survey) shape() Shape {
	shape := Shape{Foot: pointOf(v.foot), Stem: v.stemPoints(), Limbs: make([]LimbShape, len(v.Limbs))}
	now := v.whole()
	for i := range v.Limbs {
		g := &v.Limbs[i]
		one := LimbShape{ID: g.ID, Title: g.Title(), MassKg: v.limbMass(i, 0, &now).Kg}
		for share := range shares(8) {
			s := g.LengthM * share
			at := g.at(s)
			one.Points = append(one.Points, [4]float64{at.X, at.Y, at.Z, g.diameterAt(s)})
		}
		shape.Limbs[i] = one
	}
	return shape
}

// stemPoints are places of the stem's axis from its lowest reading to its top, at every
// reading and bend: x, y, z and diameter.
func (v *Survey) stemPoints() [][4]float64 {
	heights := []float64{}
	for _, s := range v.Stem.Stations {
		heights = append(heights, s.AtM)
	}
	for _, k := range v.axis[1 : len(v.axis)-1] {
		heights = append(heights, k.AtM)
	}
	slices.Sort(heights)
	points := make([][4]float64, 0, len(heights))
	for _, z := range slices.Compact(heights) {
		if z < v.Stem.Bottom() || z > v.Stem.Top() {
			continue
		}
		at := v.onStem(z)
		thick, _ := v.Stem.DiameterAt(z)
		points = append(points, [4]float64{at.X, at.Y, at.Z, thick})
	}
	return points
}

// Spreads of limbs before any weighing and from limb to limb, per cent (common
// practice): wider than those of stems.
const (
	limbCv     = 30
	limbEachCv = 20
)

// mostly is the share of a piece from which the scale is taken to have weighed that kind of wood
// alone (common practice, no source).
const mostly = 0.8

// Learn asks what the weighings so far say of stems and of limbs, tree by tree.
func (f *Forest) Learn(a *Assessment) {
	for _, v := range f.Trees {
		if v != nil {
			v.learn(a)
		}
	}
}

func (v *Survey) learn(a *Assessment) {
	v.learned, v.heavier = map[bool]*timber.Learned{}, 1
	weighed := map[bool][]timber.Weighing{}
	any := false
	for i := range v.Job.Picks {
		p := &v.Job.Picks[i]
		any = any || p.WeighedKg != nil && v.Of(p) == v
	}
	if !any {
		return
	}
	now := v.whole()
	for i := range v.Job.Picks {
		p := &v.Job.Picks[i]
		if v.Of(p) != v {
			continue
		}
		o := &Outcome{pick: p}
		v.begin(o, &now)
		if p.WeighedKg != nil && o.Weight.known() && p.MassKg == nil {
			one := timber.Weighing{PredictedKg: o.Weight.Kg.Likely, MeasuredKg: *p.WeighedKg}
			// A piece that is much of both teaches neither: it would be taken for either. That it was
			// heavier than it could be is not forgotten.
			switch stem := o.Weight.stem.Likely / o.Weight.Kg.Likely; {
			case stem >= mostly:
				weighed[false] = append(weighed[false], one)
			case stem <= 1-mostly:
				weighed[true] = append(weighed[true], one)
			default:
				v.heavier = max(v.heavier, *p.WeighedKg/o.Weight.Kg.High)
			}
		}
		v.Apply(p, o, &now)
	}
	if v.heavier > 1 {
		a.Cautions = append(a.Cautions, fmt.Sprintf("A piece with both stem and limbs in it weighed %.2f times its heavy end: the heavy end of wood of which nothing was weighed by itself counts as much more.", v.heavier))
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
		a.Learned = append(a.Learned, Learned{v.tree.ID, of, len(weighed[limb]), learned.Factor, learned.HighFactor, v.tree.Wood.Species})
		a.Cautions = append(a.Cautions, request.Cautions(learned)...)
	}
}

// Apply takes the pick off the tree.
func (v *Survey) Apply(p *job.Pick, o *Outcome, now *Standing) {
	if !o.Weight.known() {
		return
	}
	if i := v.LimbOf(p); i >= 0 {
		v.take(now, i, o.FromM)
		return
	}
	v.takeTop(now, o.FromM)
}

// Title says what a pick takes.
func (v *Survey) Title(o *Outcome) string {
	if o.pick.Label != "" {
		return o.pick.Label
	}
	of := ""
	if len(v.Trees) > 1 {
		of = " of " + v.tree.Title()
	}
	switch o.pick.What {
	case job.WhatTop:
		return "Top" + of + " from " + v.Height(o.FromM)
	case job.WhatStem:
		return "Stem" + of + " from " + v.Height(o.FromM)
	}
	i := v.LimbOf(o.pick)
	if i < 0 {
		return "Limb " + o.pick.Limb + of
	}
	first, size := utf8.DecodeRuneInString(v.Limbs[i].Title())
	name := string(unicode.ToUpper(first)) + v.Limbs[i].Title()[size:] + of
	if o.FromM > 0 {
		return name + " from " + v.Height(o.FromM)
	}
	return name
}

// basis is what a piece's weight rests on.
func (v *Survey) basis(o *Outcome) Basis {
	m := &o.Weight
	stem, limbs := m.stem.Likely > 0, m.stem.Likely < m.Kg.Likely
	switch {
	case o.weighed:
		return Weighed
	case o.pick.MassKg != nil, m.guessed > 0, v.offered && stem:
		return Guessed
	case v.species == nil && limbs:
		return Default
	case !m.known(), stem && v.learned[false] == nil, limbs && v.learned[true] == nil:
		return Measured
	}
	return Taught
}

// figures gives a pick in short.
func (v *Survey) figures(o *Outcome) PickFigures {
	f := PickFigures{
		ID: o.pick.ID, Tree: v.tree.ID, Number: o.number, Title: v.Title(o), Faults: o.Faults, Verdict: v.Verdict(o), FromM: o.FromM, ToM: o.toM, LengthM: max(0, o.Length()),
		What: o.pick.What, Way: o.pick.Way, Call: o.manner().call(v, o), Basis: v.basis(o), Done: o.pick.Done, FallTowardsDeg: o.Settings.FallTowardsDeg,
	}
	if f.Faults == nil {
		f.Faults = []OrderFault{}
	}
	if o.Weight.known() {
		f.MassKg = &o.Weight.Kg
		middle := pointOf(v.along(o, o.Length()/2))
		f.Middle = &middle
	}
	for i := range o.loads {
		if use, known, judged := v.judge(&o.loads[i]); known && (f.Nearest == nil || use > f.Nearest.UsePct) {
			f.Nearest = &Nearest{o.number, o.loads[i].part, o.loads[i].name, use, judged}
		}
	}
	if o.Rig != nil {
		tie := o.Settings.TieM
		f.Rig, f.TieM = o.Rig.Name, &tie
		if o.Settings.How == job.ByWraps && o.pair == nil {
			wraps := o.Settings.Wraps
			f.Wraps = &wraps
		}
	}
	if o.DropCase != nil || o.pair != nil || o.ends != nil {
		peak := o.Catch.LinePeakKn
		f.PeakKn = &peak
		if o.Catch.Holds {
			run := o.Catch.RunM
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
	f.Worst = v.worst(o, &f)
	return f
}

// Verdict is the worst of a pick's parts, of the room and of the order.
func (v *Survey) Verdict(o *Outcome) Verdict { return v.VerdictBut(o, "") }

// VerdictBut is the verdict with one part left aside where nobody has said what it holds: slings that
// are still to be chosen.
func (v *Survey) VerdictBut(o *Outcome, part string) Verdict {
	if o.Stopped() {
		return Over
	}
	judged := Within
	for i := range o.loads {
		_, known, one := v.judge(&o.loads[i])
		if known || o.loads[i].part != part {
			judged = worse(judged, one)
		}
	}
	if o.Landing != nil {
		judged = worse(judged, o.Landing.Verdict)
	}
	for _, c := range o.clears {
		judged = worse(judged, c.Verdict)
	}
	if room := v.roomFigures(o); room != nil {
		judged = worse(worse(judged, room.Verdict), room.RunVerdict)
	}
	return judged
}

func (v *Survey) roomFigures(o *Outcome) *Room {
	if o.DropCase == nil && o.pair == nil && o.ends == nil {
		return nil
	}
	room := &Room{Beneath: o.floor.name, BeneathM: o.floor.z, WantedM: v.limits.ClearM, Verdict: Over, RunVerdict: Within, RunLimitM: v.limits.RunM}
	if low, stops := o.lowest(); stops {
		left := low - o.floor.z
		room.LowestM, room.ClearanceM = &low, &left
		switch {
		case o.floor.onto != "":
			// It could hang there; it cannot be put down.
		case left >= room.WantedM:
			room.Verdict = Within
		case low-o.floor.hard >= room.WantedM:
			room.Verdict = Close
		}
	}
	if limit := v.limits.RunM; limit != nil && (!o.Catch.Holds || o.Catch.RunM > *limit) {
		room.RunVerdict = Over
	}
	return room
}

// detail gives a pick in full.
func (v *Survey) detail(o *Outcome, now *Standing) *Detail {
	d := &Detail{
		ID: o.pick.ID, Tree: v.tree.ID, Number: o.number, Settings: o.Settings, Stands: now.rest.left(),
		Ladder: v.ladder(o, now), Room: v.roomFigures(o), Clear: o.clears, Landing: o.Landing, Line: []LinePoint{}, Way: []line.Point{}, Pulls: []PullLine{},
		Advice: v.advise(o), Cautions: v.cautions(o, now),
	}
	if d.Clear == nil {
		d.Clear = []Clearance{}
	}
	if o.Rig != nil {
		d.Rig = o.Rig.ID
	}
	if o.Weight.known() {
		d.Piece = &PieceFigures{
			LengthM: o.Length(), DiameterCutM: o.diameter, CavityCutM: o.cavity, MassKg: o.Weight.Kg, WeightKn: o.Weight.Kg.Times(units.Gravity / 1000),
			CogM: o.Weight.cog, Cog: pointOf(o.Weight.at), Cut: pointOf(o.cut), Tip: pointOf(o.tip), OrientDeg: o.orient, DensitySource: v.source,
		}
	}
	if o.DropCase != nil {
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
		d.Carried = append(d.Carried, CarriedAt{math.Hypot(c.At.X-o.block.X, c.At.Y-o.block.Y), c.AKn, c.BKn})
	}
	if o.spar != nil {
		st := o.spar.beam.Solve()
		allowed := o.spar.beam.StrengthMpa / v.limits.WoodFactor
		d.Spar = &SparFigures{st.Worst.StressMpa, st.Worst.AtM, allowed, 100 * st.Worst.StressMpa / allowed, st.TopDeflectionM, st.PeriodS, st.Modal}
	}
	if o.lift != nil {
		d.Lift = o.liftFigures()
	}
	if o.pick.Way == job.WayFelled && o.Weight.known() {
		stands := v.balance(o.pick.What == job.WhatTop, o.FromM, o.Weight, now)
		d.Balance = &stands
	} else if bottom := v.Stem.Bottom(); now.Top > bottom+0.1 {
		stands := v.balance(true, bottom, v.stemMass(bottom, now), now)
		d.Balance = &stands
	}
	v.linePoints(o, d)
	v.fellFigures(o, d, now)
	d.Ends = v.endsFigures(o)
	d.Tag, d.Stop, d.Face = v.tagFigures(o), v.stopFigures(o), v.faceFigures(o)
	return d
}

// linePoints lays out the line's way to be drawn, and where the piece hangs.
func (v *Survey) linePoints(o *Outcome, d *Detail) {
	if o.Rig == nil || len(o.Path.Legs) == 0 {
		return
	}
	weight, peak := o.bearsKn(), o.Catch.LinePeakKn
	at := o.tie
	for i, stop := range o.points {
		point := LinePoint{Name: stop.Name, At: stop.Point}
		if i == 0 {
			point.Name, point.At = PartTie, pointOf(at)
		}
		tension := o.Path.DeviceKn
		if i < len(o.Path.Legs) {
			tension = o.Path.Legs[i].TensionKn
			point.LegM = o.Path.Legs[i].LengthM
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
		d.Hang = &Hang{o.block.X, o.block.Y, low, o.lowestTie(), o.Weight.cog > o.Settings.TieM}
	}
}

func (v *Survey) catchFigures(o *Outcome) *CatchFigures {
	figures := &CatchFigures{
		FallM: o.fallM(), StretchM: o.Catch.StretchM, LeadM: o.DropCase.LeadM, LinePeakKn: o.Catch.LinePeakKn, Amplification: o.Catch.Amplification,
		Runs: o.Catch.Runs, Holds: o.Catch.Holds, HoldKn: o.DropCase.DeviceHoldKn, TipDown: o.DropCase.HangsTipDown(),
		LockedPeakKn: o.lockedPeak(),
		Wanted:       v.Wanted(o),
		Around:       o.around(),
	}
	if o.Catch.Holds {
		run := o.Catch.RunM
		figures.RunM = &run
	}
	return figures
}
