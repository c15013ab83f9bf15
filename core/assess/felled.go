package assess

import (
	"context"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/fell"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/core/working"
)

// felled: everything above a cut on the stem goes over its hinge, by its own weight, by wedges,
// or pulled by a line; another line may hold it sideways.
type felled struct{ unheld }

// fellingOf is how a pick is felled: its hinge, its lines and the moments about it.
type fellingOf struct {
	set    job.Fell
	hinge  fell.HingeCut
	wood   fell.HingeWood
	pulled fell.Felling
	need   fell.Need
	middle r3.Vec // of the hinge
	tugs   []tug
	// Where its balance likely is, ahead of the hinge and to the right, and how far off that it
	// may be, m: the sums take the worse.
	ahead, aside, within float64
	push                 *fell.Push // nil: no machine pushes it, or a line pulls it
	shove                fell.Shove
	gustBack, gustSide   float64 // what a gust does as if the balance stood so far off, m
	gust                 *fell.Wind
	gustAround           bool    // nobody has said where it blows to
	circle               float64 // nobody but who cuts stands nearer, m
	side                 float64 // share of what the hinge holds sideways, before the crew's factor
	sound                float64 // share of its strength that the hinge's wood keeps
	said                 []string
}

// What contradicts a felling.
const faultFell = "fell"

func (felled) bound(_ *Survey, _ *Outcome, piece *load) {
	piece.why = "it is felled: no line to keep to"
}

func (felled) work(v *Survey, o *Outcome, now *Standing) {
	if o.Stopped() {
		return
	}
	if o.pick.What == job.WhatLimb {
		o.fault(faultFell, "a limb is not felled over a hinge on the stem: choose another way down")
		return
	}
	f := &fellingOf{set: o.pick.Felling(o.diameter), circle: v.circle(o)}
	set := &f.set
	if o.pick.Fell == nil || o.pick.Fell.Margin == nil {
		set.Margin = &v.limits.FellMargin
	}
	if v.species == nil {
		o.fault(faultFell, "the species is not known, so neither is the strength of its hinge")
		return
	}
	f.hinge = fell.HingeCut{Stump: fell.Stump{DiameterM: o.diameter, CavityM: o.cavity}, FaceDepthM: *set.FaceDepthM, ThicknessM: fell.Thickness{Left: *set.LeftM, Right: *set.RightM}, BoredM: *set.BoredM, NicksM: *set.NicksM, StrengthMpa: v.species.RuptureMPa}
	if faults := f.hinge.Faults("fell"); len(faults) > 0 {
		o.fault(faultFell, "%s", faults[0].Message)
		return
	}
	f.wood = f.hinge.Solve()
	over := towards(o.Settings.FallTowardsDeg)
	right := r3.Cross(over, r3.Vec{Z: 1})
	f.middle = r3.Add(o.cut, r3.Scale(f.wood.AheadOfCentreM, over))
	lever := r3.Sub(o.Weight.at, f.middle)
	f.ahead, f.aside = r3.Dot(lever, over), r3.Dot(lever, right)
	f.within = v.balanceWithin(o.pick.What == job.WhatTop, o.FromM, o.Weight, now)
	v.blown(o, f, lever.Z, now)
	// The same moment bends a rectangle of the hinge's mean thickness and so much width.
	width := 4 * f.wood.BendingKnm / (1000 * v.species.RuptureMPa * f.wood.MeanThicknessM * f.wood.MeanThicknessM)
	f.pulled = fell.Felling{
		Tree:   fell.Tree{MassKg: o.counts(), CogHeightM: max(0.01, lever.Z), CogForwardM: f.ahead - f.within - f.gustBack, CogSideM: f.aside},
		Hinge:  &fell.Hinge{WidthM: width, ThicknessM: f.wood.MeanThicknessM, StrengthMpa: v.species.RuptureMPa},
		Margin: set.Margin, Wedge: &fell.Wedge{DistanceM: f.wood.BackCutM},
		// Of no line, one straight ahead stands in: nothing is read from it.
		Pull: fell.Line{AttachHeightM: max(0.01, lever.Z), AnchorDistanceM: 10},
	}
	v.tugsOf(o, f, now)
	if o.Stopped() {
		// The stump and where it comes down are known all the same.
		f.tugs, f.need, f.sound = nil, f.pulled.Solve(), 1
		o.felling = f
		o.reachM, _ = v.reaches(o, now)
		v.lies(o, now)
		return
	}
	f.needs(o.Weight.Kg.Low)
	o.felling = f
	o.reachM, _ = v.reaches(o, now)
	v.weightsCatch(o, f)
	v.fellLoads(o, f, now)
	legs := f.legs()
	if v.powered() {
		legs = append(legs, f.goesOver(over)...)
	}
	v.ropesAlong(o, legs, nil)
	v.hazards(o, f)
	if !o.aloft {
		f.stretches(v, o)
		v.lies(o, now)
	}
}

// needs works out what its lines have to pull and to hold; as light as is given, kg, it may fall short.
func (f *fellingOf) needs(lightKg float64) {
	f.share()
	f.need = f.pulled.Solve()
	if light := f.light(lightKg); light.Tree.CogForwardM > 0 {
		// Ahead of its hinge it is the light end of its weight that falls short.
		need := light.Solve()
		f.need.PullKn, f.need.RetainerKn = max(f.need.PullKn, need.PullKn), max(f.need.RetainerKn, need.RetainerKn)
		f.need.TipsAlone = need.TipsAlone
	}
}

// calm is the felling without its gust, worked out as far as what its lines need.
func (f *fellingOf) calm(lightKg float64) *fellingOf {
	calm := *f
	calm.gust, calm.gustBack, calm.gustSide = nil, 0, 0
	calm.tugs = slices.Clone(f.tugs)
	calm.pulled.Pulls, calm.pulled.Holds = nil, nil
	calm.pulled.Tree.CogForwardM += f.gustBack
	calm.needs(lightKg)
	return &calm
}

// lies is where it comes down, as well as one aims.
func (v *Survey) lies(o *Outcome, now *Standing) {
	if o.aloft {
		return
	}
	told, aim := o.Settings.FallTowardsDeg, v.limits.AimDeg
	v.land(o, now, v.laid(o, now, told-aim, 2*aim))
}

// fellLoads gathers what a felling takes of line, anchor, stem, hinge and wedge.
func (v *Survey) fellLoads(o *Outcome, f *fellingOf, now *Standing) {
	set, need := &f.set, &f.need
	if !set.Pulled() {
		// By its own weight or by wedges.
		switch {
		case set.Push != nil:
			v.pushed(o, f)
		case set.Wedged:
			force, lift := f.wedge()
			o.loads = append(o.loads, load{part: partWedge, resting: force / *set.Margin, peak: force, Rated: policy.Rated{Known: true, Decided: byCrew,
				Limit: gear.Limit{Kn: wedgeLiftKn, Reason: "what wedges driven by hand lift", Source: working.Common}}})
			if lift > wedgeLiftM {
				o.fault(faultBack, "its weight stands %s behind its hinge: wedges would have to lift the back %s, and they lift %s; pull it with a line", v.Height(-f.pulled.Tree.CogForwardM), v.Height(lift), v.Height(wedgeLiftM))
			}
		case !need.TipsAlone:
			o.fault(faultBack, "its own weight does not bend its hinge: it stands %s behind it; it needs wedges, a line or a machine", v.Height(max(0, -f.pulled.Tree.CogForwardM)))
		case f.alone(o.Weight.Kg.Low) < *set.Margin*f.wood.BendingKnm:
			o.fault(faultBack, "its own weight bends its hinge by less than the margin of %.3g: it needs wedges, a line or a machine", *set.Margin)
		}
	}
	most := f.sideways()
	if f.gust != nil {
		// No gust need blow: what it asks of pull and holding eases nothing.
		calm := f.calm(o.Weight.Kg.Low)
		most = larger(most, calm.sideways())
		for i := range f.tugs {
			f.tugs[i].most = max(f.tugs[i].most, calm.tugs[i].most)
		}
	}
	before := len(o.loads)
	for i := range f.tugs {
		v.tugLoads(o, f, &f.tugs[i], now)
	}
	o.together(before)
	// The side moment as a force at its balance, so that it stands on the ladder.
	sound, why := v.soundness(-1, o.FromM)
	f.sound = sound
	capacity := f.wood.SideCapacityKnm.ToRight
	if most < 0 {
		capacity = f.wood.SideCapacityKnm.ToLeft
	}
	arm := f.pulled.Tree.CogHeightM
	holds := capacity * sound / v.limits.WoodFactor
	hinge := load{part: partHinge, resting: math.Abs(need.Hinge.SideKnm) / arm, peak: math.Abs(most) / arm, Rated: policy.Rated{Known: true, Decided: byWood,
		Limit: gear.Limit{Kn: holds / arm, Source: "elastic bending of the hinge's wood; green strength from the Wood Handbook, from memory",
			Reason: fmt.Sprintf("%.3g of %.3g kN·m sideways, strength over %g, as a force at its balance, %s up", math.Round(1e6*math.Abs(most))/1e6, holds, v.limits.WoodFactor, v.Height(arm))}}}
	if why != "" {
		hinge.cautions(fmt.Sprintf("%.0f %% of its strength are counted there, for %s. Such wood is never relied on alone: hold it with lines.", 100*sound, why))
	}
	for _, said := range f.hinge.Cautions(f.wood) {
		hinge.cautions(said)
	}
	o.loads = append(o.loads, hinge)
	f.side = math.Abs(most) / (capacity * sound)
}

// sideways is the most that the lines leave to the hinge sideways, kN·m, and works out what they
// must hold then: with the pull that is needed; with all that the efforts may pull, which a line
// that holds takes where it leads against it; with no pull, as the tree outruns it; and with the lines that hold as tight as
// they are made.
func (f *fellingOf) sideways() float64 {
	most, pulled, tight, holds := f.need.Hinge.SideKnm, 0.0, f.need.Hinge.SideKnm, 0.0
	for i := range f.tugs {
		t := &f.tugs[i]
		_, aside, _ := t.line.Arms()
		if t.set.Holds {
			t.need = t.part * f.need.RetainerKn
			tight += max(0, t.set.PretensionKn-t.need) * aside
			holds += t.part * aside
			continue
		}
		t.need = t.part * f.need.PullKn
		pulled += max(t.need, t.most) * aside
	}
	most = larger(most, tight)
	weightKn, off := f.pulled.Tree.MassKg*units.Gravity/1000, f.within+f.gustSide
	// Its balance may stand to either side of where it likely is: what holds it on one leaves it to the hinge on the other.
	for _, aside := range [2]float64{f.aside - off, f.aside + off} {
		for _, pull := range [2]float64{0, pulled} {
			side := weightKn*aside + pull
			if !opposed(holds, side) {
				most = larger(most, side)
				continue
			}
			for i := range f.tugs {
				if t := &f.tugs[i]; t.set.Holds {
					t.most = max(t.most, t.part*-side/holds)
				}
			}
		}
	}
	for i := range f.tugs {
		if t := &f.tugs[i]; t.mid != nil {
			// To whichever side it is pulled, it may be the worse one.
			most += math.Copysign(t.mid.aside*t.line.AttachHeightM, most)
		}
	}
	return most
}

// wedge is what wedges would have to push up at the back, margin included, kN, and how far until
// the tree stands over its hinge, m.
func (f *fellingOf) wedge() (forceKn, liftM float64) {
	tree := &f.pulled.Tree
	weight := tree.MassKg * units.Gravity / 1000
	return max(0, *f.set.Margin*(f.wood.BendingKnm-weight*tree.CogForwardM)/f.wood.BackCutM), f.wood.BackCutM * max(0, -tree.CogForwardM) / tree.CogHeightM
}

// mouth is how far the face opens at the bark, m.
func (f *fellingOf) mouth() float64 {
	return *f.set.FaceDepthM * math.Tan(radians(min(85, *f.set.OpeningDeg)))
}

// backCut is how long the back cut is at the most, a strap left out of it, m.
func (f *fellingOf) backCut() float64 { return max(0, f.wood.BackCutM-job.Or(f.set.StrapM, 0)) }

// pushed gathers what a machine must push with.
func (v *Survey) pushed(o *Outcome, f *fellingOf) {
	at := f.set.Push.AtM - f.middle.Z
	if at <= 0.1 {
		o.fault(faultFell, "a machine that pushes at %s has nothing to push: the hinge is at %s", v.Height(f.set.Push.AtM), v.Height(o.FromM))
		return
	}
	f.push = &fell.Push{Tree: f.pulled.Tree, Hinge: f.pulled.Hinge, HeightM: at, Margin: f.set.Margin, LimitKn: f.set.Push.LimitKn}
	f.shove = f.push.Solve()
	l := load{part: partPush, resting: f.shove.PushKn / *f.set.Margin, peak: f.shove.PushKn, why: "nobody has said what the machine can push there"}
	if kn := f.set.Push.LimitKn; kn != nil {
		l.Rated = policy.Rated{Known: true, Decided: byEffort, Limit: gear.Limit{Kn: *kn, Reason: "what the machine can push at that height", Source: "as given"}}
	}
	l.Cautions = f.push.Cautions(f.shove)
	l.cautions(fmt.Sprintf("It must follow %s until the tree stands over its hinge.", v.Height(f.shove.FollowM)))
	o.loads = append(o.loads, l)
}

// light is the same felling with another mass, kg, on which a gust does as much.
func (f *fellingOf) light(massKg float64) fell.Felling {
	light := f.pulled
	light.Tree.CogForwardM -= f.gustBack * (light.Tree.MassKg/massKg - 1)
	light.Tree.MassKg = massKg
	return light
}

// aloneAt is the tilt from which a mass, kg, goes by itself, degrees; ever is false when it never does.
func (f *fellingOf) aloneAt(massKg float64) (tiltDeg float64, ever bool) {
	light := f.light(massKg)
	return light.AloneAt(massKg)
}

// alone is the moment with which a mass, kg, goes forward by itself, what holds it sideways and
// leads back taken off, kN·m.
func (f *fellingOf) alone(massKg float64) float64 {
	light := f.light(massKg)
	moment := massKg * units.Gravity / 1000 * light.Tree.CogForwardM
	for i := range f.tugs {
		if t := &f.tugs[i]; t.set.Holds {
			forward, _, _ := t.line.Arms()
			moment += min(0, forward) * t.need
		}
	}
	return moment
}

// farthest is how far from the stump the tip of what is felled may come down, m.
func (v *Survey) farthest(o *Outcome) float64 {
	ground := max(0, o.cut.Z)
	reach := fell.Reach{TopHeightM: ground + o.reachM, HingeHeightM: &ground, SlopeDeg: v.fallsAway(o.Settings.FallTowardsDeg)}
	if len(reach.Faults("fell")) > 0 {
		return reach.TopHeightM
	}
	return max(reach.TopHeightM, reach.Solve().FarthestM)
}

// fellFigures gives what of a felling is drawn and said beside its ladder.
func (v *Survey) fellFigures(o *Outcome, d *Detail, now *Standing) {
	f := o.felling
	if f == nil {
		return
	}
	for i := range f.tugs {
		d.Pulls = append(d.Pulls, f.tugs[i].figures())
	}
	set := &f.set
	d.Fell = &FellFigures{
		DiameterM: o.diameter, CavityM: o.cavity, FaceDepthM: *set.FaceDepthM, OpeningDeg: *set.OpeningDeg, MouthM: f.mouth(), BackCutM: f.backCut(), UpsideDown: set.UpsideDown,
		LeftM: *set.LeftM, RightM: *set.RightM, BoredM: *set.BoredM, NicksM: *set.NicksM, BackUpM: *set.BackUpM, StrapM: set.StrapM, Wedged: set.Wedged,
		Hinge: f.wood, ForwardM: f.ahead, SideM: f.aside, WithinM: f.within, HeightM: f.pulled.Tree.CogHeightM, BalanceDeg: f.need.BalanceDeg, TipsAlone: f.need.TipsAlone,
		SideUsePct: 100 * f.side, FarthestM: v.farthest(o), Steps: v.fellSteps(o, f), Plans: v.fellPlans(o, f, now),
		Schools: f.schools(v), Circle: f.circle, ButtBackM: buttBack, ButtDeg: buttSpread, Beds: o.beds(), Straps: v.straps(o),
	}
}

func (felled) call(_ *Survey, o *Outcome) string {
	if o.felling == nil {
		return ""
	}
	if o.felling.set.Pulled() {
		return "All clear: take up, cut, pull to " + o.wind()
	}
	return "All clear: falls to " + o.wind()
}

func (felled) cautions(o *Outcome) []string {
	if o.felling == nil {
		return nil
	}
	list := o.felling.pulled.Cautions(o.felling.need)
	if !o.felling.set.Pulled() {
		list = slices.DeleteFunc(list, func(said string) bool { return said == fell.KeepUp })
	}
	list = append(list, o.felling.said...)
	return append(list, fmt.Sprintf("Nobody but who cuts within %.0f m of it; ways out at 45° behind. When its tip meets something the butt can come back over the stump (common practice).", o.felling.circle))
}

// circle is how near nobody but who cuts stands, m.
func (v *Survey) circle(o *Outcome) float64 { return math.Ceil(v.limits.CircleLengths * o.Length()) }

func (felled) because(_ *Survey, o *Outcome) string {
	return fmt.Sprintf("Felled %s.", o.Landing.Reason)
}

// sawKerf is how far a back cut stands open, m (common practice, no source).
const sawKerf = 0.009

// How long a fall is followed, s, and how often it is repeated at the most: a hand winch takes
// its time, and so does following it.
const (
	followFor = 180.0
	mostFalls = 100
)

// follows is the fall to be followed through time; why says what is missing for it.
func (v *Survey) follows(o *Outcome) (fall fell.Fall, why string) {
	f := o.felling
	sound, _ := v.soundness(-1, o.FromM)
	left, right := f.wood.SideCapacityKnm.ToLeft*sound, f.wood.SideCapacityKnm.ToRight*sound
	ground := max(0, o.cut.Z)
	wide := f.wood.ThicknessPerWide
	tree := &f.pulled.Tree
	top := max(tree.CogHeightM, o.reachM)
	fall = fell.Fall{
		Tree: fell.FallTree{MassKg: tree.MassKg, CogHeightM: tree.CogHeightM, CogForwardM: tree.CogForwardM + f.gustBack,
			CogSideM: tree.CogSideM - math.Copysign(f.gustSide, tree.CogSideM-f.aside), TopHeightM: top},
		Wind:   f.gust,
		Hinge:  &fell.FallHinge{BendingKnm: f.wood.BendingKnm, ToLeftKnm: &left, ToRightKnm: &right, ThicknessOverWidth: &wide, ClosesDeg: f.set.OpeningDeg},
		Back:   &fell.BackCut{CutM: f.wood.BackCutM, KerfM: sawKerf, Wedged: f.set.Wedged},
		Ground: &fell.FallGround{HingeHeightM: &ground, SlopeDeg: v.fallsAway(o.Settings.FallTowardsDeg)},
	}
	if f.push != nil {
		return fall, "A machine's push is not followed through time: its figures stand with the loads."
	}
	for i := range f.tugs {
		line, why := f.tugs[i].followed()
		if why != "" {
			return fall, why
		}
		fall.Lines = append(fall.Lines, line)
	}
	if faults := fall.Faults("fall"); len(faults) > 0 {
		return fall, "The fall cannot be followed: " + faults[0].Message + "."
	}
	return fall, ""
}

func (felled) simulate(ctx context.Context, v *Survey, o *Outcome, runs int, trace *Trace) error {
	fall, why := v.follows(o)
	if trace.Why = why; why != "" {
		return nil
	}
	until := followFor
	fall.UntilS = &until
	run, err := fall.Follow(ctx)
	if err != nil {
		return err
	}
	trace.Kind, trace.Fall = "fall", &run
	if o.felling.set.Pulled() {
		// Until its own weight bends the hinge; never: until the face closes.
		until := *o.felling.set.OpeningDeg
		if run.GoesAloneDeg != nil {
			until = *run.GoesAloneDeg
		}
		for share := range shares(40) {
			tilt := until * share
			trace.Need = append(trace.Need, fell.Moment{TiltDeg: tilt, PullKn: o.felling.pulled.PullAt(radians(tilt))})
		}
	}
	trace.Cautions = append(trace.Cautions, fall.Cautions(run)...)
	trace.Said = v.fallSaid(&run)
	if runs <= 0 {
		return nil
	}
	fall.Spread = o.fallSpread(runs)
	trace.Odds, err = fall.FollowSpread(ctx)
	return err
}

// fallSpread is how far off what is known of a felling may be, in so many runs.
func (o *Outcome) fallSpread(runs int) *fell.FallSpread {
	mass := o.Weight.Kg
	return &fell.FallSpread{Runs: min(runs, mostFalls), Seed: 1, MassPct: min(90, 100*(mass.High-mass.Low)/(2*max(1, mass.Likely))),
		CogForwardM: max(0.2, o.felling.within), CogSideM: max(0.1, o.felling.within), HingePct: 30, PretensionPct: 15, StiffnessPct: spreadRope}
}

// fallSaid says what came of a fall.
func (v *Survey) fallSaid(run *fell.FallRun) string {
	said := map[string]string{
		fell.Goes:       fmt.Sprintf("It goes: its tip is down after %.1f s.", run.TimeS),
		fell.Stands:     "It stands: what pulls does not bring it over.",
		fell.SitsBack:   "It sits back on the saw: it needs a wedge, or the line tight before the cut.",
		fell.Tears:      "The hinge tears sideways.",
		fell.Parts:      "A line parts.",
		fell.Unfinished: fmt.Sprintf("After %.0f s it is not over: haul faster, or make the line tight before.", run.TimeS),
	}[run.Outcome]
	if run.GoesAloneDeg != nil && *run.GoesAloneDeg > 0 {
		said += fmt.Sprintf(" From %.1f° its own weight bends the hinge.", *run.GoesAloneDeg)
	}
	for i := range run.Lines {
		if l := &run.Lines[i]; l.AnchorPeakKn != nil {
			said += fmt.Sprintf(" The weight swings on %s with up to %s.", l.Name, units.Print(units.Force, v.System, *l.AnchorPeakKn))
		}
	}
	if run.SideUsePct != nil && *run.SideUsePct >= 1 {
		said += fmt.Sprintf(" The hinge is used to %.0f %% sideways.", *run.SideUsePct)
	}
	return said
}
