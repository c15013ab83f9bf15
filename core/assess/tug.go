package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/fell"
	"elkstay/core/gear"
	"elkstay/core/haul"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/spar"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A tug is a line of a felling as it leads, and what it takes.
type tug struct {
	set    *job.FellLine
	line   fell.Line // from the tree to its first turn, about the hinge
	rig    *job.Rig  // nil: there is none
	anchor *job.Anchor
	points []line.Stop // where it is tied, its turns, its anchor
	tied   r3.Vec
	// Of a tension of 1 at the tree, every leg and turn: as is counted on for what an effort
	// gives, and as the turns may run, for what is loaded.
	counted, loaded line.Tensions

	effort     float64 // kN; 0: not known
	effortSays string
	gives      float64   // at the tree, as is counted on, kN; 0: not known
	most       float64   // at the tree, as it may be, kN
	need       float64   // margin included, kN
	part       float64   // of what all lines of its kind carry together
	beam       spar.Spar // the stem under it
	said       string
	mid        *midLine // nil: nothing is put on its middle
}

// tugsOf lays out the lines of a felling, or says what stops one.
func (v *Survey) tugsOf(o *Outcome, f *fellingOf, now *Standing) {
	f.tugs = make([]tug, 0, len(f.set.Lines))
	for i := range f.set.Lines {
		t := tug{set: &f.set.Lines[i]}
		if !v.leads(o, f, &t, now) {
			return
		}
		f.tugs = append(f.tugs, t)
	}
}

// leads lays out one line, from where it is tied over its turns to its anchor.
func (v *Survey) leads(o *Outcome, f *fellingOf, t *tug, now *Standing) bool {
	l := t.set
	stops := func(format string, args ...any) bool {
		o.fault(faultFell, format, args...)
		return false
	}
	if l.AtM <= o.FromM || l.AtM > now.Top {
		return stops("a line tied at %s has nothing to pull on: what is felled stands from %s to %s", v.Height(l.AtM), v.Height(o.FromM), v.Height(now.Top))
	}
	if why := pullingOf(l).faults(); why != "" {
		return stops("%s", why)
	}
	t.tied = v.onStem(l.AtM)
	stop := func(name string, at r3.Vec) line.Stop {
		return line.Stop{Name: name, Point: pointOf(at)}
	}
	t.points = append(t.points, stop("tree", t.tied))
	for i := range l.Redirects {
		r := &l.Redirects[i]
		at, why := v.place(&r.Place, now, o)
		if why != "" {
			return stops("%s of a line sits %s", r.Name, why)
		}
		turn := stop(r.Name, at)
		turn.Efficiency, turn.Friction = r.Efficiency, r.Friction
		if turn.Efficiency == nil && turn.Friction == nil {
			good := pulleysGive
			turn.Efficiency = &good
		}
		t.points = append(t.points, turn)
	}
	at, why := v.place(&job.Place{On: job.OnAnchor, Anchor: l.Anchor, AtM: *l.AnchorM}, now, o)
	if why != "" {
		return stops("a line is anchored %s", why)
	}
	for i := range v.Job.Site.Anchors {
		if a := &v.Job.Site.Anchors[i]; a.ID == l.Anchor {
			t.anchor = a
			t.points = append(t.points, stop(a.Name, at))
		}
	}
	for i := 1; i < len(t.points); i++ {
		if _, apart := direction(r3.Sub(t.points[i].Vec(), t.points[i-1].Vec()), 0.01); !apart {
			return stops("%s sits at the same place as what is before it on its line", t.points[i].Name)
		}
	}
	first := t.points[1].Vec()
	t.rig = v.RigOf(&job.Pick{Rig: l.Rig})
	if l.Mid != nil {
		mid, why := v.onMiddle(o, f, t)
		if why != "" {
			return stops("%s", why)
		}
		if t.mid = mid; mid.weighs() {
			first, t.points[0] = mid.at, stop("weight", mid.at)
		}
	}
	motion := line.Lifting
	loaded := append([]line.Stop{}, t.points...)
	for i := 1; i < len(loaded)-1; i++ {
		// What holds is not helped by the friction of a turn; what pulls may meet less of it.
		one := &loaded[i]
		switch free := 1.0; {
		case l.Holds:
			one.Efficiency, one.Friction = &free, nil
		case l.Redirects[i-1].Efficiency == nil && one.Efficiency != nil:
			good := pulleysLoad
			one.Efficiency = &good
		}
	}
	if l.Holds {
		motion = line.Still
	}
	line.Path{LoadKn: 1, Motion: motion, Points: t.points}.SolveInto(&t.counted)
	line.Path{LoadKn: 1, Motion: motion, Points: loaded}.SolveInto(&t.loaded)
	over := towards(o.Settings.FallTowardsDeg)
	right := r3.Cross(over, r3.Vec{Z: 1})
	to, tied := r3.Sub(first, f.middle), r3.Sub(t.tied, f.middle)
	forward, aside := r3.Dot(to, over), r3.Dot(to, right)
	t.line = fell.Line{
		AttachHeightM: tied.Z, AttachForwardM: r3.Dot(tied, over), AttachSideM: r3.Dot(tied, right),
		AnchorDistanceM: max(0.1, math.Hypot(forward, aside)), AnchorHeightM: to.Z, BearingDeg: math.Atan2(aside, forward) * 180 / math.Pi,
	}
	if !l.Holds {
		alone := f.pulled
		alone.Pull = t.line
		if faults := alone.Faults("fell"); len(faults) > 0 {
			return stops("to %s %s", t.anchor.Name, faults[0].Message)
		}
	} else if _, aside, _ := t.line.Arms(); math.Abs(aside) < 0.02*t.line.AttachHeightM {
		return stops("the line to %s leads along the fall: it holds nothing sideways", t.anchor.Name)
	}
	if t.rig != nil && t.rig.RopeLengthM != nil {
		if long := t.long() + spareRope; *t.rig.RopeLengthM < long {
			return stops("the rope of %s is %s long; from the tree to %s it takes %s, knot and tail included", t.rig.Name, v.Height(*t.rig.RopeLengthM), t.anchor.Name, v.Height(long))
		}
	}
	if t.mid != nil {
		t.effortSays, t.gives, t.most = t.mid.says, t.mid.gives, t.mid.most
		return true
	}
	v.effortOf(t)
	t.gives = t.effort * pullingOf(l).gain(pulleysGive) / t.counted.DeviceKn
	t.most = l.PretensionKn
	if !l.Holds {
		// What holds is loaded by what it must hold; what pulls may be pulled with all of its effort.
		t.most = max(t.most, t.effort*pullingOf(l).gain(pulleysLoad)/t.loaded.DeviceKn)
	}
	return true
}

// long is how long a line is from the tree to its anchor, m.
func (t *tug) long() (sum float64) {
	for i := range t.counted.Legs {
		sum += t.counted.Legs[i].LengthM
	}
	if t.mid != nil && t.mid.weighs() {
		sum += r3.Norm(r3.Sub(t.mid.at, t.tied))
	}
	return sum
}

// effortOf is what pulls at a line: as given; hands by what the crew lets a person hold; a vehicle
// by its grip.
func (v *Survey) effortOf(t *tug) {
	l := t.set
	by := map[string]string{job.EffortWinch: " on the hand winch", job.EffortCapstan: " by the capstan winch", job.EffortVehicle: " by the vehicle", job.EffortMachine: " by the machine", job.EffortHands: " by hand"}[l.By]
	switch {
	case l.EffortKn != nil:
		t.effort, t.effortSays = *l.EffortKn, units.Print(units.Force, v.System, *l.EffortKn)+by
	case l.By == job.EffortHands:
		t.effort = float64(*l.People) * v.limits.HandKn
		t.effortSays = fmt.Sprintf("%d × %s by hand, %s,", *l.People, units.Print(units.Force, v.System, v.limits.HandKn), policy.Ruled(v.Job.Limits.HandKn))
	case l.By == job.EffortVehicle && t.anchor.Kind == job.AnchorVehicle && t.anchor.MassKg != nil:
		braked := brakedShare
		last := len(t.points) - 1
		way := r3.Sub(t.points[last-1].Vec(), t.points[last].Vec())
		up := max(0, math.Asin(way.Z/r3.Norm(way)))
		grips := haul.Grip{MassKg: *t.anchor.MassKg, Grip: wetGrip, BrakedShare: &braked, LineUpDeg: min(80, up*180/math.Pi)}
		t.effort = grips.Solve().PullKn
		t.effortSays = fmt.Sprintf("%s, the grip of %s on wet grass with half of its weight on driven wheels,", units.Print(units.Force, v.System, t.effort), units.Print(units.Mass, v.System, *t.anchor.MassKg))
	}
}

// share hands the pull out to the lines that pull, as they can give, and the holding to those that
// lead against where the tree would go.
func (f *fellingOf) share() {
	tells, sum, pulls := true, 0.0, 0
	for i := range f.tugs {
		if t := &f.tugs[i]; !t.set.Holds {
			tells, sum, pulls = tells && t.gives > 0, sum+t.gives, pulls+1
		}
	}
	for i := range f.tugs {
		t := &f.tugs[i]
		if t.set.Holds {
			continue
		}
		if t.part = 1 / float64(pulls); tells {
			t.part = t.gives / sum
		}
		f.pulled.Pulls = append(f.pulled.Pulls, fell.Share{Line: t.line, Part: t.part})
	}
	// Which way it goes sideways when nothing holds it says which lines hold; its balance is to the
	// worse side of where it likely is.
	leads := 0.0
	off := f.within + f.gustSide
	for _, side := range [2]float64{f.aside - off, f.aside + off} {
		f.pulled.Tree.CogSideM = side
		if most := f.pulled.Solve().Hinge.SideKnm; math.Abs(most) >= math.Abs(leads) {
			leads = most
		}
	}
	f.pulled.Tree.CogSideM = f.aside + math.Copysign(off, leads)
	for i := range f.tugs {
		t := &f.tugs[i]
		if _, aside, _ := t.line.Arms(); t.set.Holds && opposed(aside, leads) {
			f.pulled.Holds = append(f.pulled.Holds, fell.Share{Line: t.line})
		}
	}
	for i := range f.pulled.Holds {
		f.pulled.Holds[i].Part = 1 / float64(len(f.pulled.Holds))
	}
	for i := range f.tugs {
		t := &f.tugs[i]
		if _, aside, _ := t.line.Arms(); t.set.Holds && opposed(aside, leads) {
			t.part = 1 / float64(len(f.pulled.Holds))
		}
	}
}

// larger is the one of two moments that turns harder, either way.
func larger(a, b float64) float64 {
	return slices.MaxFunc([]float64{a, b}, func(a, b float64) int { return cmp.Compare(math.Abs(a), math.Abs(b)) })
}

// opposed tells that two moments turn opposite ways.
func opposed(a, b float64) bool { return a != 0 && b != 0 && math.Signbit(a) != math.Signbit(b) }

// tugLoads gathers what a line of a felling takes: what is needed of what its effort gives, its
// rope, the stem where it is tied, its turns and what they sit on, its anchor.
func (v *Survey) tugLoads(o *Outcome, f *fellingOf, t *tug, now *Standing) {
	l, margin := t.set, *f.set.Margin
	pulled := load{part: partPull, tug: t, name: t.anchor.Name, why: "nobody has said what pulls"}
	if l.Holds {
		pulled.part, pulled.why = partSecond, "nobody has said what holds"
	}
	pulled.resting, pulled.peak = t.need/margin, t.need
	if l.Holds {
		pulled.peak = max(t.need, t.most)
	}
	switch {
	case t.mid != nil && t.gives > 0:
		gives, why := t.mid.holdsOn(f)
		pulled.Rated = policy.Rated{Known: true, Decided: byEffort, Limit: gear.Limit{Kn: gives, Source: t.mid.source, Reason: t.effortSays + why}}
	case t.effort > 0:
		reason := fmt.Sprintf("%s at a %s of %.3g", t.effortSays, pullingOf(l), pullingOf(l).gain(pulleysGive))
		if len(l.Redirects) > 0 && !l.Holds {
			reason += fmt.Sprintf(", %.0f %% of it past its turns", 100/t.counted.DeviceKn)
		}
		pulled.Rated = policy.Rated{Known: true, Decided: byEffort, Limit: gear.Limit{Kn: t.gives, Source: "statics; pulleys of 0.9: common practice", Reason: reason}}
	}
	if pullingOf(l).more() && t.mid == nil {
		pulleys, rope := pullingOf(l).inside(max(t.need*t.counted.DeviceKn, max(t.need, t.most)*t.loaded.DeviceKn))
		said := make([]string, len(pulleys))
		for i, kn := range pulleys {
			said[i] = units.Print(units.Force, v.System, kn)
		}
		pulled.cautions(fmt.Sprintf("In the %s its pulleys take %s, its own line up to %s: hold them to what is marked on them.", pullingOf(l), strings.Join(said, ", "), units.Print(units.Force, v.System, rope)))
	}
	o.loads = append(o.loads, pulled)
	// The line is loaded by what its effort can give, where that is more than is needed.
	t.most = max(t.need, t.most)
	onRest, onMost := t.onward()
	far := max(onRest*t.counted.DeviceKn, onMost*t.loaded.DeviceKn)
	rope := load{part: PartLine, tug: t, resting: max(t.need, onRest), peak: max(t.most, far), why: "there is no rope: choose a rig that has one"}
	if t.rig != nil && t.rig.Rope != nil {
		rope.name, rope.item = t.rig.Rope.Name, t.rig.Rope.Item
		rope.Rated = v.limits.RateTie(t.rig, rope.resting, rope.peak)
		bent := job.Rig{Rope: t.rig.Rope, Redirects: l.Redirects}
		if over := v.limits.RateLine(&bent, rope.resting, rope.peak); over.Known && over.Limit.Kn < rope.Limit.Kn {
			rope.Rated = over
		}
	}
	if t.mid != nil && t.mid.unseen != "" {
		rope.Known, rope.why = false, notCaught
	}
	o.loads = append(o.loads, rope)
	v.tugStem(o, f, t, now)
	for i := range l.Redirects {
		r := &l.Redirects[i]
		counted, loaded := &t.counted.Points[i], &t.loaded.Points[i]
		resting, peak := onRest*counted.ResultantKn, max(onRest*counted.ResultantKn, onMost*loaded.ResultantKn)
		turn := load{part: partRedirect, tug: t, name: r.Name, item: r.Item, resting: resting, peak: peak, unseen: r.Friction != nil, why: "nobody has said what it holds"}
		if turn.unseen {
			turn.why = "a fork turns the line: what it grows on is judged below"
		}
		turn.Rated = v.limits.Rate(r.Rating, policy.Used{Kind: locker.Pulley}, resting, peak)
		o.loads = append(o.loads, turn)
		o.loads = append(o.loads, v.holder(&pull{place: &r.Place, at: t.points[i+1].Vec(), dir: loaded.Direction.Vec(), rest: resting, peak: peak}, now)...)
	}
	last := len(t.points) - 1
	dir := r3.Unit(r3.Sub(t.points[last-1].Vec(), t.points[last].Vec()))
	resting := onRest * t.counted.DeviceKn
	if pullingOf(l).more() && t.mid == nil {
		// Where the effort is turned at the anchor, the anchor holds that as well.
		resting, far = resting+t.effort, far+t.effort
	}
	if l.By == job.EffortVehicle && l.EffortKn == nil && !pullingOf(l).more() {
		// It cannot pull with more than it grips with.
		far = max(t.need*t.counted.DeviceKn, l.PretensionKn)
	}
	place := job.Place{On: job.OnAnchor, Anchor: l.Anchor, AtM: *l.AnchorM}
	holder := v.anchored(t.anchor, &pull{place: &place, dir: dir, rest: resting, peak: far})
	if pullingOf(l).more() && t.effort > 0 {
		holder.cautions(fmt.Sprintf("It is counted with the effort turned at it: the line and %s.", units.Print(units.Force, v.System, t.effort)))
	}
	holder.tug = t
	if t.mid != nil && t.mid.unseen != "" {
		holder.Known, holder.why = false, notCaught
		holder.cautions(t.mid.unseen)
	}
	o.loads = append(o.loads, holder)
}

// notCaught is why a line with a weight in it, and what it is made fast to, are not judged.
const notCaught = "what the weight is caught with when the tree lets it go is not followed"

// tugStem judges the stem between hinge and where a line is tied: the top may break out there.
func (v *Survey) tugStem(o *Outcome, f *fellingOf, t *tug, now *Standing) {
	over := towards(o.Settings.FallTowardsDeg)
	_, _, u := t.line.Arms()
	force := r3.Scale(t.most, r3.Add(r3.Add(r3.Scale(u.X, over), r3.Scale(u.Y, r3.Cross(over, r3.Vec{Z: 1}))), r3.Vec{Z: u.Z}))
	low := o.FromM + f.wood.MeanThicknessM
	stations := v.stationsTo(now.Top)
	for len(stations) > 2 && stations[1].AtM <= low {
		stations = stations[1:]
	}
	outside, cavity := v.Stem.DiameterAt(max(low, stations[0].AtM))
	stations[0].AtM, stations[0].DiameterM, stations[0].CavityM = max(low, stations[0].AtM), outside, cavity
	beam := spar.Spar{Stations: stations, StrengthMpa: v.species.RuptureMPa, StiffnessGpa: v.species.ElasticityGPa, DensityKgM3: v.density.High,
		Loads: []spar.Load{{AtM: t.set.AtM, HorizontalKn: r3.Norm(level(force)), VerticalKn: math.Max(0, -force.Z)}}}
	// What leans or hangs bends it too.
	worst, _ := v.feels(&beam, level(force), now)
	t.beam = beam
	l := load{part: partSpar, tug: t, dir: heading(0, r3.Vec{}, level(force)), resting: t.need, peak: t.most, Rated: v.byBending(t.most, worst)}
	l.Limit.Reason += ": above it the top may break out"
	o.loads = append(o.loads, l)
}

// stretches says of every line how much to take out of it before the cut, and how far it follows.
func (f *fellingOf) stretches(v *Survey, o *Outcome) {
	// The light end of the weight goes alone last.
	alone, ever := f.aloneAt(o.Weight.Kg.Low)
	if !ever {
		alone = 90
	}
	for i := range f.tugs {
		t := &f.tugs[i]
		comes := t.line.LengthAt(0) - t.line.LengthAt(radians(alone))
		if t.set.Holds {
			t.said = f.holdsStill(v, t, min(alone, 20))
			continue
		}
		if t.mid != nil {
			t.said = t.mid.said(v, f, t, alone)
			continue
		}
		if t.rig == nil || t.rig.Rope == nil || len(t.rig.Rope.Elongation) == 0 {
			t.said = "The stretch of its rope is not known: nobody can say how far it follows."
			continue
		}
		rope, long := t.rig.Rope.Rope, t.long()
		stretch := func(kn float64) float64 { return long * rope.Strain(kn) }
		tight := max(t.set.PretensionKn, t.need)
		spent, ends := t.line.SpentAt(stretch(tight))
		t.said = fmt.Sprintf("Take out %s of stretch before the cut: tight with %s.", v.Height(stretch(tight)), units.Print(units.Force, v.System, tight))
		if t.set.PretensionKn > 0 {
			spent, ends = t.line.SpentAt(stretch(t.set.PretensionKn))
			t.said = fmt.Sprintf("Made tight with %s: %s of stretch.", units.Print(units.Force, v.System, t.set.PretensionKn), v.Height(stretch(t.set.PretensionKn)))
			if t.set.PretensionKn < t.need {
				t.said += fmt.Sprintf(" The cut needs %s: %s more.", units.Print(units.Force, v.System, t.need), v.Height(stretch(t.need)-stretch(t.set.PretensionKn)))
			}
		}
		if alone <= 0 {
			t.said += " Its own weight bends the hinge from the first degree."
			continue
		}
		if ends && spent < alone {
			more := comes - (t.line.LengthAt(0) - t.line.LengthAt(radians(spent)))
			t.said += fmt.Sprintf(" That pull is used up at %.1f°, the tree needs it to %.1f°: haul on, %s at the tree", spent, alone, v.Height(more))
			if system := pullingOf(t.set); system.more() {
				t.said += fmt.Sprintf(", %s at the effort", v.Height(more*system.travel()))
			}
			t.said += "."
		} else {
			t.said += fmt.Sprintf(" It follows until the tree goes alone, at %.1f°.", alone)
		}
	}
}

// holdsStill says how a line that holds tightens or slackens while the tree turns so far, degrees.
func (f *fellingOf) holdsStill(v *Survey, t *tug, tilt float64) string {
	turns := t.line.LengthAt(radians(tilt)) - t.line.LengthAt(0)
	does := "tightens"
	if turns < 0 {
		does = "slackens"
	}
	if math.Abs(turns) < 0.03 {
		return fmt.Sprintf("By %.0f° it changes by less than %s.", tilt, v.Height(0.03))
	}
	return fmt.Sprintf("By %.0f° it %s by %s: let out or take in by as much. An anchor in line with the hinge, square to the fall, keeps it still.", tilt, does, v.Height(math.Abs(turns)))
}

// Where the butt may come back over the stump: so far, m, and so far to both sides of straight back,
// degrees (common practice, no source).
const (
	buttBack   = 5
	buttSpread = 40
)

// hazards says who and what stands where the tree or a line can come.
func (v *Survey) hazards(o *Outcome, f *fellingOf) {
	if f.sound < 1 && len(f.pulled.Holds) == 0 && math.Abs(f.need.Hinge.SideKnm) > 1e-6 {
		f.said = append(f.said, "Its hinge is in wood that is not sound, and nothing but the hinge holds it sideways: hold it with lines.")
	}
	if open := *f.set.OpeningDeg; open < 70 {
		f.said = append(f.said, fmt.Sprintf("The face closes at %.0f°, before it lies: its hinge is gone from there on, and it can slew or come back.", open))
	}
	if f.set.Push != nil && f.set.Pulled() {
		f.said = append(f.said, "What the machine pushes is not counted on: the lines do all of it.")
	}
	if f.set.UpsideDown {
		f.said = append(f.said, "A face cut upside down leaves the butt on the stump longer: look at where it slides to when the hinge lets go (common practice).")
	}
	if strap := f.set.StrapM; strap != nil {
		f.said = append(f.said, fmt.Sprintf("A strap of %s at the back holds it until it is let go: stand outside its line, and cut it from above or with reach (common practice).", units.Print(units.Diameter, v.System, *strap)))
	}
	v.groundAndWind(o, f)
	v.strapped(o, f)
	v.bedded(o, f)
	over := towards(o.Settings.FallTowardsDeg)
	far := v.farthest(o)
	within := func(at r3.Vec) bool {
		to := level(r3.Sub(at, o.cut))
		ahead, aside := r3.Dot(to, over), r3.Norm(r3.Cross(over, to))
		return ahead > -1 && r3.Norm(to) < far+1 && aside < 2+max(0, ahead)*math.Tan(radians(2*v.limits.AimDeg))
	}
	for i := range f.tugs {
		t := &f.tugs[i]
		at := t.points[len(t.points)-1].Vec()
		if (t.set.By != "" || t.effort > 0 && !t.set.Holds) && within(at) {
			o.fault(faultFell, "what pulls at %s stands inside the fall: %s out, and its tip may come down %s out; stand further, or lead the line over a redirect", t.anchor.Name, v.Height(r3.Norm(level(r3.Sub(at, o.cut)))), v.Height(far))
		}
	}
	for i := range v.Job.Site.Posts {
		post := &v.Job.Site.Posts[i]
		at := r3.Vec{X: post.At.X, Y: post.At.Y}
		if to := level(r3.Sub(at, o.cut)); !o.aloft && r3.Norm(to) > 1 && r3.Norm(to) < buttBack && r3.Dot(to, over) < -r3.Norm(to)*math.Cos(radians(buttSpread)) {
			f.said = append(f.said, fmt.Sprintf("%s stands behind the stump, where the butt comes back when its tip meets something: out at 45°, and %s away.", post.Role, v.Height(buttBack)))
		}
		if r3.Norm(level(r3.Sub(at, o.cut))) > 3 && within(at) {
			f.said = append(f.said, fmt.Sprintf("%s stands inside the fall.", post.Role))
		}
		for k := range f.tugs {
			if where := f.tugs[k].endangers(at); where != "" {
				f.said = append(f.said, fmt.Sprintf("%s stands %s of the line to %s: nobody there while it is tight.", post.Role, where, f.tugs[k].anchor.Name))
			}
		}
	}
}

// besideLine is how near a tight line nobody stands, m (common practice, no source).
const besideLine = 1.5

// endangers says where by a line a place lies: in its path, or in the bight of a turn, where the
// line flies to when what turns it lets go.
func (t *tug) endangers(at r3.Vec) string {
	spots := make([]job.Spot, len(t.points))
	for i := range t.points {
		spots[i] = job.Spot{X: t.points[i].X, Y: t.points[i].Y}
	}
	for i := 1; i+1 < len(spots); i++ {
		if inside(spots[i-1:i+2], at.X, at.Y) {
			return "in the bight"
		}
	}
	// Near the tree the line is overhead.
	for i := 1; i < len(t.points); i++ {
		a, b := t.points[i-1].Vec(), t.points[i].Vec()
		along := level(r3.Sub(b, a))
		share := max(0, min(1, r3.Dot(level(r3.Sub(at, a)), along)/max(1e-9, r3.Dot(along, along))))
		near := onTheWay(a, b, share)
		if math.Hypot(near.X-at.X, near.Y-at.Y) < besideLine && near.Z < 2.5 {
			return "in the path"
		}
	}
	return ""
}

// legs are the straight parts of the lines of a felling, the tree standing. They end on the ground, or on what is beneath
// them.
func (f *fellingOf) legs() (list []leg) {
	for i := range f.tugs {
		t := &f.tugs[i]
		// It begins at the tree, or at the weight that hangs from it.
		list = append(list, leg{from: t.tied, to: t.points[0].Vec(), name: "the tree and " + t.points[0].Name, leadsAway: true, comesDown: true})
		for k := 1; k < len(t.points); k++ {
			list = append(list, leg{from: t.points[k-1].Vec(), to: t.points[k].Vec(), name: t.points[k-1].Name + " and " + t.points[k].Name, leadsAway: true, comesDown: true})
		}
	}
	return list
}

// goesOver are its lines from the tree to their first turn as it goes over, level at last.
func (f *fellingOf) goesOver(over r3.Vec) (list []leg) {
	axis := r3.Cross(r3.Vec{Z: 1}, over)
	for i := range f.tugs {
		t := &f.tugs[i]
		if t.mid != nil {
			continue
		}
		arm, first := r3.Sub(t.tied, f.middle), &t.points[1]
		parts := math.Ceil(r3.Norm(arm) * math.Pi / 2 / goingOver)
		for share := range shares(int(max(1, parts))) {
			tips := turned(axis, math.Pi/2*share, f.middle)
			list = append(list, leg{from: tips.place(arm), to: first.Vec(), name: "the tree going over and " + first.Name, comesDown: true, goesOver: true})
		}
	}
	return list
}

// figures gives a line to be drawn and read.
func (t *tug) figures() PullLine {
	one := PullLine{ID: t.set.ID, Name: t.anchor.Name, Holds: t.set.Holds, NeedKn: t.need, PeakKn: t.most, Said: t.said}
	onRest, onMost := t.onward()
	if t.mid != nil && t.mid.weighs() {
		one.Points, one.LegKn = append(one.Points, pointOf(t.tied)), append(one.LegKn, t.most)
	}
	for i := range t.points {
		one.Points = append(one.Points, t.points[i].Point)
	}
	for i := range t.loaded.Legs {
		one.LegKn = append(one.LegKn, max(onRest*t.counted.Legs[i].TensionKn, onMost*t.loaded.Legs[i].TensionKn))
	}
	if t.gives > 0 {
		gives := t.gives
		one.GivesKn = &gives
	}
	return one
}

// working writes the sum behind what a line of a felling loads.
func (t *tug) working(sheet *working.Sheet, l *load, o *Outcome) {
	n := working.Figure
	const statics = "statics"
	last := len(t.counted.Legs) - 1
	switch l.part {
	case partPull, partSecond:
		sheet.Append(o.felling.pulled.Working(o.felling.need))
		sheet.Add("s", "share of it that this line carries, by what each can give", "its effort of all efforts; evenly where one is not known, or where it holds", t.part, "", statics)
		sheet.Add("P₁", "on this line, at the tree", fmt.Sprintf("s times all of it, s = %s", n(t.part)), t.need, "kN", statics)
		if t.mid != nil {
			t.mid.working(sheet)
		} else if t.gives > 0 {
			sheet.Add("G", "what its effort gives at the tree", fmt.Sprintf("%s·%s/%s: effort, system, turns", n(t.effort), n(pullingOf(t.set).gain(pulleysGive)), n(t.counted.DeviceKn)), t.gives, "kN", statics+"; pulleys of 0.9: "+working.Common)
		}
	case PartLine:
		sheet.Add("T", "at the tree: what is needed, what its effort may give with good pulleys, or how tight it is made", "the most of them", t.most, "kN", statics)
		sheet.Add("T₁", "behind its turns", fmt.Sprintf("the more of P₁·%s and T·%s", n(t.counted.DeviceKn), n(t.loaded.DeviceKn)), l.peak, "kN", statics)
	case partSpar:
		sheet.Append(t.beam.Working(t.beam.Solve()))
	case partRedirect:
		for i := range t.loaded.Points {
			if turn := &t.loaded.Points[i]; turn.Name == l.name {
				sheet.Add("θ", "angle of contact", "π − angle between the legs", turn.ContactDeg, "°", "geometry")
				sheet.Add("F", "force of both legs", fmt.Sprintf("|T_in·a + T_out·b| of the more of need and effort, %s of the line at the tree", n(turn.Factor)), l.peak, "kN", statics)
			}
		}
	case PartHolder:
		onRest, onMost := t.onward()
		sheet.Add("T", "leg that ends at it", t.points[last].Name+" to "+t.points[last+1].Name, max(onRest*t.counted.DeviceKn, onMost*t.loaded.DeviceKn), "kN", statics)
		if pullingOf(t.set).more() && t.mid == nil {
			sheet.Add("E", "effort turned at it", "as if beside the line", t.effort, "kN", statics)
		}
		sheet.Add("F", "on it", "T + E", l.peak, "kN", statics)
	}
}

// followed is the line for a fall followed through time; why says what is missing for it.
func (t *tug) followed() (l fell.FallLine, why string) {
	if t.mid != nil && !t.mid.weighs() {
		return l, "A pull to the side of a line is not followed through time: its figures stand with the loads."
	}
	if t.rig == nil || t.rig.Rope == nil || len(t.rig.Rope.Elongation) == 0 {
		return l, "The stretch of the line's rope is not known: choose a rig whose rope has its table."
	}
	w := &t.line
	if t.mid != nil {
		w = &t.mid.way
	}
	rope := t.rig.Rope.Rope
	rope.DynamicFactor = 0
	l = fell.FallLine{Name: t.anchor.Name, AttachHeightM: w.AttachHeightM, AttachForwardM: w.AttachForwardM, AttachSideM: w.AttachSideM,
		AnchorDistanceM: w.AnchorDistanceM, BearingDeg: w.BearingDeg, AnchorHeightM: w.AnchorHeightM, Rope: rope}
	if t.mid != nil {
		l.MidKg, l.LineM = t.set.Mid.WeightKg, &t.mid.long
		return l, ""
	}
	if t.effort == 0 {
		return l, "Nobody has said what pulls or holds the line: the fall cannot be followed."
	}
	parts := pullingOf(t.set).travel()
	efficiency := pullingOf(t.set).gain(pulleysGive) / parts / t.counted.DeviceKn
	l.LeadM, l.Efficiency, l.PretensionKn = t.long()-t.counted.Legs[0].LengthM, &efficiency, t.set.PretensionKn
	stall := t.effort * parts
	if t.set.Holds {
		l.HoldKn = &stall
	} else {
		l.Haul = &fell.HaulSpeed{SpeedMS: *t.set.HaulMS / parts, StallKn: stall}
	}
	return l, ""
}
