package assess

import (
	"context"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/fell"
	"elkstay/core/gear"
	"elkstay/core/haul"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/spar"
	"elkstay/core/units"
	"elkstay/core/working"
)

// felled: everything above a cut on the stem goes over its hinge, by its own weight, by wedges,
// or pulled by a line; another line may hold it sideways.
type felled struct{ unheld }

// fellingOf is how a pick is felled: its hinge, and the moments about it.
type fellingOf struct {
	set    job.Fell
	hinge  fell.HingeCut
	wood   fell.HingeWood
	pulled fell.Felling
	need   fell.Need
	middle r3.Vec // of the hinge
	pulls  []PullLine
	side   float64 // share of what the hinge holds sideways, before the crew's factor
}

// What contradicts a felling.
const faultFell = "fell"

// aimDeg is how far a fall may miss its bearing (common practice, no source), degrees.
const aimDeg = 5

// How well the pulleys of a pulling system turn (common practice, no source): as is counted on for
// what an effort gives, and as good ones may, for what the line then takes.
const (
	pulleysGive = 0.9
	pulleysLoad = 0.95
)

// advantage is what a pulling system of so many parts makes of an effort: simple systems up to
// six, and one 3:1 on another.
func advantage(parts int, efficiency float64) float64 {
	if parts == 9 {
		return advantage(3, efficiency) * advantage(3, efficiency)
	}
	system := haul.Simple(parts, efficiency)
	return system.Solve().Actual
}

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
	f := &fellingOf{set: o.pick.Felling(o.diameter)}
	set := &f.set
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
	// The same moment bends a rectangle of the hinge's mean thickness and so much width.
	width := 4 * f.wood.BendingKnm / (1000 * v.species.RuptureMPa * f.wood.MeanThicknessM * f.wood.MeanThicknessM)
	f.pulled = fell.Felling{
		Tree:   fell.Tree{MassKg: o.counts(), CogHeightM: max(0.01, lever.Z), CogForwardM: r3.Dot(lever, over), CogSideM: r3.Dot(lever, right)},
		Hinge:  &fell.Hinge{WidthM: width, ThicknessM: f.wood.MeanThicknessM, StrengthMpa: v.species.RuptureMPa},
		Margin: set.Margin, Wedge: &fell.Wedge{DistanceM: f.wood.BackCutM},
		// Of no line, one straight ahead stands in: nothing is read from it.
		Pull: fell.Line{AttachHeightM: max(0.01, lever.Z), AnchorDistanceM: 10},
	}
	if set.Pull != nil {
		f.pulled.Pull = v.fellLine(o, f, set.Pull, now)
	}
	if set.Hold != nil {
		hold := v.fellLine(o, f, set.Hold, now)
		f.pulled.Retainer = &hold
	}
	if o.Stopped() {
		return
	}
	if faults := f.pulled.Faults("fell"); len(faults) > 0 {
		o.fault(faultFell, "%s", faults[0].Message)
		return
	}
	f.need = f.pulled.Solve()
	if light := f.pulled; light.Tree.CogForwardM > 0 {
		// Ahead of its hinge it is the light end of its weight that falls short.
		light.Tree.MassKg = o.Weight.Kg.Low
		need := light.Solve()
		f.need.PullKn, f.need.RetainerKn = max(f.need.PullKn, need.PullKn), max(f.need.RetainerKn, need.RetainerKn)
		f.need.TipsAlone = need.TipsAlone
	}
	o.felling = f
	o.reachM = v.reachOf(o)
	v.fellLoads(o, f, now)
	told := o.Settings.FallTowardsDeg
	v.land(o, now, v.laid(o, now, []float64{told - aimDeg, told, told + aimDeg}))
}

// fellLine lays out a line from what is felled to its anchor.
func (v *Survey) fellLine(o *Outcome, f *fellingOf, l *job.FellLine, now *Standing) fell.Line {
	if l.AtM <= o.FromM || l.AtM > now.Top {
		o.fault(faultFell, "a line tied at %s has nothing to pull on: what is felled stands from %s to %s", v.Height(l.AtM), v.Height(o.FromM), v.Height(now.Top))
		return fell.Line{}
	}
	at, why := v.place(&job.Place{On: job.OnAnchor, Anchor: l.Anchor, AtM: *l.AnchorM}, now, o)
	if why != "" {
		o.fault(faultFell, "a line is anchored %s", why)
		return fell.Line{}
	}
	if *l.Parts > 6 && *l.Parts != 9 {
		o.fault(faultFell, "a pulling system has 1 to 6 parts, or 9; not %d", *l.Parts)
		return fell.Line{}
	}
	over := towards(o.Settings.FallTowardsDeg)
	right := r3.Cross(over, r3.Vec{Z: 1})
	to, tied := r3.Sub(at, f.middle), r3.Sub(v.onStem(l.AtM), f.middle)
	forward, aside := r3.Dot(to, over), r3.Dot(to, right)
	return fell.Line{
		AttachHeightM: tied.Z, AttachForwardM: r3.Dot(tied, over), AttachSideM: r3.Dot(tied, right),
		AnchorDistanceM: max(0.1, math.Hypot(forward, aside)), AnchorHeightM: to.Z, BearingDeg: math.Atan2(aside, forward) * 180 / math.Pi,
	}
}

// fellLoads gathers what a felling takes of line, anchor, stem, hinge and wedge.
func (v *Survey) fellLoads(o *Outcome, f *fellingOf, now *Standing) {
	set, need := &f.set, &f.need
	if set.Pull == nil {
		// By its own weight or by wedges.
		switch weight := f.pulled.Tree.MassKg * units.Gravity / 1000; {
		case set.Wedged:
			force := max(0, *set.Margin*(f.wood.BendingKnm-weight*f.pulled.Tree.CogForwardM)/f.wood.BackCutM)
			lift := f.wood.BackCutM * max(0, -f.pulled.Tree.CogForwardM) / f.pulled.Tree.CogHeightM
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
	} else {
		v.fellLineLoads(o, f, set.Pull, partPull, &f.pulled.Pull, need.PullKn, now)
	}
	if set.Hold != nil {
		v.fellLineLoads(o, f, set.Hold, partSecond, f.pulled.Retainer, need.RetainerKn, now)
	}
	// What is pulled beyond the need pulls aside as well, where the line leads off the fall.
	most := need.Hinge.SideKnm
	if set.Pull != nil && set.Hold == nil {
		_, aside, _ := f.pulled.Pull.Arms()
		if more := most + max(0, gives(set.Pull, pulleysLoad)-need.PullKn)*aside; math.Abs(more) > math.Abs(most) {
			most = more
		}
	}
	// The side moment as a force at its balance, so that it stands on the ladder.
	sound, why := v.soundness(-1, o.FromM)
	capacity := f.wood.SideCapacityKnm.ToRight
	if most < 0 {
		capacity = f.wood.SideCapacityKnm.ToLeft
	}
	arm := f.pulled.Tree.CogHeightM
	holds := capacity * sound / v.limits.WoodFactor
	hinge := load{part: partHinge, resting: math.Abs(need.Hinge.SideKnm) / arm, peak: math.Abs(most) / arm, Rated: policy.Rated{Known: true, Decided: byWood,
		Limit: gear.Limit{Kn: holds / arm, Source: "elastic bending of the hinge's wood; green strength from the Wood Handbook, from memory",
			Reason: fmt.Sprintf("%.3g of %.3g kN·m sideways, strength over %g, as a force at its balance, %s up", math.Abs(most), holds, v.limits.WoodFactor, v.Height(arm))}}}
	if why != "" {
		hinge.cautions(fmt.Sprintf("%.0f %% of its strength are counted there, for %s.", 100*sound, why))
	}
	for _, said := range f.hinge.Cautions(f.wood) {
		hinge.cautions(said)
	}
	o.loads = append(o.loads, hinge)
	f.side = math.Abs(most) / (capacity * sound)
}

// alone is the moment with which a mass, kg, goes forward by itself, what holds it sideways and
// leads back taken off, kN·m.
func (f *fellingOf) alone(massKg float64) float64 {
	moment := massKg * units.Gravity / 1000 * f.pulled.Tree.CogForwardM
	if f.pulled.Retainer != nil {
		forward, _, _ := f.pulled.Retainer.Arms()
		moment += min(0, forward) * f.need.RetainerKn
	}
	return moment
}

// gives is what the effort on a line makes of its system, kN; 0 when nobody has named one.
func gives(l *job.FellLine, efficiency float64) float64 {
	if l.EffortKn == nil {
		return 0
	}
	return *l.EffortKn * advantage(*l.Parts, efficiency)
}

// fellFigures gives what of a felling is drawn and said beside its ladder.
func (v *Survey) fellFigures(o *Outcome, d *Detail) {
	f := o.felling
	if f == nil {
		return
	}
	d.Pulls = append(d.Pulls, f.pulls...)
	ground := max(0, o.cut.Z)
	reach := fell.Reach{TopHeightM: ground + max(o.Length(), o.reachM), HingeHeightM: &ground}
	farthest := reach.TopHeightM
	if len(reach.Faults("fell")) == 0 {
		farthest = max(farthest, reach.Solve().FarthestM)
	}
	d.Fell = &FellFigures{
		FaceDepthM: *f.set.FaceDepthM, LeftM: *f.set.LeftM, RightM: *f.set.RightM, Hinge: f.wood, ForwardM: f.pulled.Tree.CogForwardM, SideM: f.pulled.Tree.CogSideM,
		HeightM: f.pulled.Tree.CogHeightM, BalanceDeg: f.need.BalanceDeg, TipsAlone: f.need.TipsAlone, SideUsePct: 100 * f.side, FarthestM: farthest,
	}
}

// fellLineLoads gathers what a line of a felling takes: what is needed of what its effort gives,
// its rope, the stem where it is tied, its anchor.
func (v *Survey) fellLineLoads(o *Outcome, f *fellingOf, l *job.FellLine, part string, way *fell.Line, need float64, now *Standing) {
	margin := *f.set.Margin
	pulled := load{part: part, resting: need / margin, peak: need, why: "nobody has said what pulls"}
	if part != partPull {
		pulled.why = "nobody has said what holds"
	}
	if l.EffortKn != nil {
		pulled.Rated = policy.Rated{Known: true, Decided: byEffort, Limit: gear.Limit{Kn: gives(l, pulleysGive), Source: "statics; pulleys of 0.9: common practice",
			Reason: fmt.Sprintf("%s at a %d:1 of %.3g", units.Print(units.Force, v.System, *l.EffortKn), *l.Parts, advantage(*l.Parts, pulleysGive))}}
	}
	o.loads = append(o.loads, pulled)
	// The line is loaded by what its effort can give, where that is more than is needed.
	most := max(need, gives(l, pulleysLoad))
	rig := v.RigOf(&job.Pick{Rig: l.Rig})
	rope := load{part: PartLine, resting: need, peak: most, why: "there is no rope: choose a rig that has one"}
	if rig != nil && rig.Rope != nil {
		rope.name, rope.item = rig.Rope.Name, rig.Rope.Item
		rope.Rated = v.limits.RateTie(rig, need, most)
	}
	o.loads = append(o.loads, rope)
	over := towards(o.Settings.FallTowardsDeg)
	_, _, u := way.Arms()
	dir := r3.Add(r3.Add(r3.Scale(u.X, over), r3.Scale(u.Y, r3.Cross(over, r3.Vec{Z: 1}))), r3.Vec{Z: u.Z})
	// The stem between hinge and attachment: the top may break out there.
	force := r3.Scale(most, dir)
	low := o.FromM + f.wood.MeanThicknessM
	stations := v.stationsTo(now.Top)
	for len(stations) > 2 && stations[1].AtM <= low {
		stations = stations[1:]
	}
	outside, cavity := v.Stem.DiameterAt(max(low, stations[0].AtM))
	stations[0].AtM, stations[0].DiameterM, stations[0].CavityM = max(low, stations[0].AtM), outside, cavity
	beam := spar.Spar{Stations: stations, StrengthMpa: v.species.RuptureMPa, StiffnessGpa: v.species.ElasticityGPa, DensityKgM3: v.density.High,
		Loads: []spar.Load{{AtM: l.AtM, HorizontalKn: r3.Norm(level(force)), VerticalKn: math.Max(0, -force.Z)}}}
	// What leans or hangs the way that the line pulls bends it too.
	v.leans(&beam, level(force), now)
	worst := beam.WorstSection()
	sound, _ := v.soundness(-1, worst.AtM)
	allowed := v.species.RuptureMPa / v.limits.WoodFactor
	o.loads = append(o.loads, load{part: partSpar, resting: need, peak: most, Rated: policy.Rated{Known: true, Decided: byWood, Limit: gear.Limit{
		Kn: most * allowed / max(1e-9, worst.StressMpa/sound), Source: "Euler–Bernoulli beam; green strength from the Wood Handbook, from memory",
		Reason: fmt.Sprintf("%.3g of %.3g MPa at %s, strength over %g: above it the top may break out", worst.StressMpa/sound, allowed, v.Height(worst.AtM), v.limits.WoodFactor)}}})
	place := job.Place{On: job.OnAnchor, Anchor: l.Anchor, AtM: *l.AnchorM}
	tied := v.onStem(l.AtM)
	to := r3.Add(tied, r3.Scale(way.LengthM(), dir))
	f.pulls = append(f.pulls, PullLine{Holds: part != partPull, From: pointOf(tied), To: pointOf(to), NeedKn: need, PeakKn: most})
	for i := range v.Job.Site.Anchors {
		if a := &v.Job.Site.Anchors[i]; a.ID == l.Anchor {
			f.pulls[len(f.pulls)-1].Name = a.Name
			holder := v.anchored(a, &pull{place: &place, dir: r3.Scale(-1, dir), rest: need, peak: most})
			if l.EffortKn != nil && *l.Parts > 1 {
				holder.cautions(fmt.Sprintf("Where the effort is turned at this anchor it holds that as well: %s in all.", units.Print(units.Force, v.System, most+*l.EffortKn)))
			}
			o.loads = append(o.loads, holder)
		}
	}
}

func (felled) call(_ *Survey, o *Outcome) string {
	if o.felling == nil {
		return ""
	}
	if o.felling.set.Pull != nil {
		return "All clear: take up, cut, pull to " + o.wind()
	}
	return "All clear: falls to " + o.wind()
}

func (felled) cautions(o *Outcome) []string {
	if o.felling == nil {
		return nil
	}
	list := o.felling.pulled.Cautions(o.felling.need)
	if o.felling.set.Pull == nil {
		list = slices.DeleteFunc(list, func(said string) bool { return said == fell.KeepUp })
	}
	return append(list, fmt.Sprintf("Nobody but who cuts within two lengths of it, %.0f m; ways out at 45° behind. When its tip meets something the butt can come back over the stump (common practice).", math.Ceil(2*o.Length())))
}

func (felled) because(_ *Survey, o *Outcome) string {
	return fmt.Sprintf("Felled %s.", o.Landing.Reason)
}

// How fast a line is hauled in by one part of a system, when nobody has said, m/s; and how far a
// back cut stands open, m (common practice, no source).
const (
	haulSpeed = 0.15
	sawKerf   = 0.009
)

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
	top := max(tree.CogHeightM, max(o.Length(), o.reachM))
	fall = fell.Fall{
		Tree:   fell.FallTree{MassKg: tree.MassKg, CogHeightM: tree.CogHeightM, CogForwardM: tree.CogForwardM, CogSideM: tree.CogSideM, TopHeightM: top},
		Hinge:  &fell.FallHinge{BendingKnm: f.wood.BendingKnm, ToLeftKnm: &left, ToRightKnm: &right, ThicknessOverWidth: &wide},
		Back:   &fell.BackCut{CutM: f.wood.BackCutM, KerfM: sawKerf, Wedged: f.set.Wedged},
		Ground: &fell.FallGround{HingeHeightM: &ground},
	}
	for _, one := range []struct {
		line *job.FellLine
		way  *fell.Line
		name string
	}{{f.set.Pull, &f.pulled.Pull, "pull"}, {f.set.Hold, f.pulled.Retainer, "hold"}} {
		if one.line == nil {
			continue
		}
		rig := v.RigOf(&job.Pick{Rig: one.line.Rig})
		if rig == nil || rig.Rope == nil || len(rig.Rope.Elongation) == 0 {
			return fall, "The stretch of the line's rope is not known: choose a rig whose rope has its table."
		}
		if one.line.EffortKn == nil {
			return fall, "Nobody has said what pulls or holds the line: the fall cannot be followed."
		}
		parts := float64(*one.line.Parts)
		efficiency := advantage(*one.line.Parts, pulleysGive) / parts
		rope := rig.Rope.Rope
		rope.DynamicFactor = 0
		l := fell.FallLine{Name: one.name, AttachHeightM: one.way.AttachHeightM, AttachForwardM: one.way.AttachForwardM, AttachSideM: one.way.AttachSideM, AnchorDistanceM: one.way.AnchorDistanceM, BearingDeg: one.way.BearingDeg, AnchorHeightM: one.way.AnchorHeightM, Efficiency: &efficiency, Rope: rope}
		stall := *one.line.EffortKn * parts
		if one.name == "pull" {
			l.Haul = &fell.HaulSpeed{SpeedMS: haulSpeed / parts, StallKn: stall}
		} else {
			l.HoldKn = &stall
		}
		fall.Lines = append(fall.Lines, l)
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
	if o.felling.set.Pull != nil {
		// Until its own weight bends the hinge; never: until the face closes.
		until := 70.0
		if run.GoesAloneDeg != nil {
			until = *run.GoesAloneDeg
		}
		const steps = 40
		for i := range steps + 1 {
			tilt := until * float64(i) / steps
			trace.Need = append(trace.Need, fell.Moment{TiltDeg: tilt, PullKn: o.felling.pulled.PullAt(radians(tilt))})
		}
	}
	trace.Cautions = append(trace.Cautions, fall.Cautions(run)...)
	trace.Said = v.fallSaid(&run)
	if runs <= 0 {
		return nil
	}
	mass := o.Weight.Kg
	fall.Spread = &fell.FallSpread{Runs: min(runs, mostFalls), Seed: 1, MassPct: min(90, 100*(mass.High-mass.Low)/2/max(1, mass.Likely)), CogForwardM: 0.2, CogSideM: 0.1, HingePct: 30, PretensionPct: 15, StiffnessPct: spreadRope}
	trace.Odds, err = fall.FollowSpread(ctx)
	return err
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
	if run.SideUsePct != nil && *run.SideUsePct >= 1 {
		said += fmt.Sprintf(" The hinge is used to %.0f %% sideways.", *run.SideUsePct)
	}
	return said
}
