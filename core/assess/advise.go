package assess

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/cut"
	"elkstay/core/job"
)

// nearDefect is how close to a cut or to gear a defect counts, m.
const nearDefect = 0.6

// defects calls back for every defect within reach of a place on the stem (limb −1) or
// along a limb.
func (v *Survey) defects(limb int, at float64, found func(*job.Defect)) {
	for i := range v.tree.Defects {
		d := &v.tree.Defects[i]
		on := -1
		if d.Limb != "" {
			on = v.limbIndex(d.Limb)
		}
		if on == limb && at >= d.AtM-nearDefect && at <= d.To()+nearDefect {
			found(d)
		}
	}
}

// advise asks which cut fits; nil without a species of the table, or with nothing to
// cut.
func (v *Survey) advise(o *Outcome) *cut.Advice {
	if v.species == nil || !o.Weight.known() {
		return nil
	}
	p, limb := o.pick, v.LimbOf(o.pick)
	site := cut.Site{
		OrientationDeg: math.Min(120, o.orient), DiameterM: math.Max(0.01, math.Min(5, o.diameter)), LengthM: math.Max(0.01, math.Min(100, o.Length())),
		Species: v.species.ID, Rigged: "none", Beneath: "clear", AtUnion: limb >= 0 && o.FromM < nearDefect/2,
		MassKg: o.Weight.Kg.High, PushKg: v.limits.PushKg, SelfRatio: v.selfRatio(o),
	}
	if limb >= 0 {
		// A leader leans as a stem does.
		off := radians(v.Limbs[limb].AzimuthDeg - o.Settings.FallTowardsDeg)
		site.HeadLeanDeg = math.Max(-45, math.Min(60, o.orient*math.Cos(off)))
		site.SideLeanDeg = math.Min(60, math.Abs(o.orient*math.Sin(off)))
	}
	if limb < 0 {
		leans := v.leanAt(o.FromM)
		lean := degrees(math.Atan(math.Hypot(leans.X, leans.Y)))
		off := radians(azimuthOf(leans) - o.Settings.FallTowardsDeg)
		site.HeadLeanDeg = math.Max(-45, math.Min(60, lean*math.Cos(off)))
		site.SideLeanDeg = math.Abs(lean * math.Sin(off))
		for k := range v.Limbs {
			if v.Limbs[k].Parent < 0 && math.Abs(v.Limbs[k].AtM-o.FromM) < nearDefect/3 {
				site.Knots = true
			}
		}
	}
	site.Rigged = string(manners[p.Way].held())
	if o.Landing != nil && len(o.Landing.Hits) > 0 {
		site.Beneath = "target"
	}
	for _, c := range o.clears {
		if c.ClearanceM < lookFor/2 && c.Name != theStem {
			site.Beneath = "target"
		}
	}
	if o.cavity > o.diameter/2 {
		site.Decay = "some"
	}
	v.defects(limb, o.FromM, func(d *job.Defect) {
		switch d.Kind {
		case job.DefectDecay:
			site.Decay = "some"
			if o.cavity > o.diameter/2 {
				site.Decay = "much"
			}
		case job.DefectDead:
			site.Dead = true
		case job.DefectUnion:
			site.Knots = true
		}
	})
	advice := site.Advise()
	return &advice
}

// gearNear says what is wrong with the wood near what turns its lines, on whatever tree it sits.
func (v *Survey) gearNear(o *Outcome) (list []string) {
	sits := func(what string, place *job.Place, z float64) {
		on, limb, at := v, -1, z
		if place != nil {
			if on = v.treeOf(place); on == nil {
				return
			}
			if at = place.AtM; place.On == job.OnLimb {
				limb = on.limbIndex(place.Limb)
			}
		}
		on.defects(limb, at, func(d *job.Defect) {
			if said := fmt.Sprintf("At %s: %s.", what, defectWords[d.Kind]); !slices.Contains(list, said) {
				list = append(list, said)
			}
		})
	}
	turns := func(o *Outcome, what string) {
		if o.Rig == nil || o.block == (r3.Vec{}) {
			return
		}
		sits(what, o.Rig.Block.Place, o.block.Z)
		for i := range o.Rig.Redirects {
			sits(o.Rig.Redirects[i].Name, &o.Rig.Redirects[i].Place, 0)
		}
	}
	turns(o, "the block")
	if o.second != nil {
		sits("the second block", &o.second.Place, 0)
	}
	if o.ends != nil {
		turns(o.ends.sides[1], "the block at the tip")
	}
	if o.twins != nil {
		turns(o.twins.sides[1], "the block of the second line")
	}
	return list
}

// treeOf is the tree that a place is on; nil: on none, or on one that is not measured.
func (v *Survey) treeOf(place *job.Place) *Survey {
	if place.On == job.OnAnchor {
		return nil
	}
	return v.called(place.Tree)
}

// called is the tree of an id, the own one for none; nil: not in the job, or not measured.
func (v *Survey) called(id string) *Survey {
	i := v.Job.TreeIndex(id)
	switch {
	case id == "" || i == v.index:
		return v
	case i < 0:
		return nil
	}
	return v.Trees[i]
}

// standsOf is what stands of a tree when this one stands so.
func (v *Survey) standsOf(tree *Survey, now *Standing) *Standing {
	if tree == v {
		return now
	}
	return now.rest[tree.index]
}

// The push that a snapped piece is held against: one person, a foot up (common practice:
// 40 lb a foot above the cut).
const (
	pushKn  = 0.178
	pushAtM = 0.3048
)

// selfRatio is how much of the push a piece's own weight does, as kind snap has it.
func (v *Survey) selfRatio(o *Outcome) float64 {
	off := r3.Sub(o.Weight.at, o.cut)
	ahead := r3.Dot(level(off), towards(o.Settings.FallTowardsDeg))
	snap := cut.Snap{MassKg: o.counts(), CogHeightM: math.Max(0.01, off.Z), CogOffsetM: ahead, BridgeToEdgeM: math.Max(0.005, o.diameter/2), Push: cut.Push{ForceKn: pushKn, HeightM: pushAtM}}
	return math.Max(-1e6, math.Min(1e6, snap.Solve().SelfRatio))
}

// defectWords say what a defect nearDefect a cut or nearDefect gear means.
var defectWords = map[string]string{
	job.DefectDecay: "decay: the wood holds less than the sums say, and hinges badly",
	job.DefectCrack: "a crack: it can split along it when it is loaded or cut",
	job.DefectUnion: "a co-dominant union with bark between: it can part when one side is loaded",
	job.DefectIvy:   "ivy: it hides the wood, adds weight and catches the line",
	job.DefectHung:  "a hung branch: bring it down before anyone works beneath",
	job.DefectDead:  "dead wood: it breaks early and without warning",
}

// cautions gathers what must stand beside a pick.
func (v *Survey) cautions(o *Outcome, now *Standing) []string {
	list := []string{}
	if !o.Weight.known() {
		return list
	}
	limb := v.LimbOf(o.pick)
	v.defects(limb, o.FromM, func(d *job.Defect) {
		list = append(list, fmt.Sprintf("At the cut: %s.", defectWords[d.Kind]))
	})
	list = append(list, v.gearNear(o)...)
	for i := range v.tree.Defects {
		d := &v.tree.Defects[i]
		if d.Kind == job.DefectHung && (d.Limb == "" && d.AtM > o.cut.Z || d.Limb != "" && v.limbIndex(d.Limb) != limb && now.Tips[v.limbIndex(d.Limb)] > d.AtM && v.Limbs[v.limbIndex(d.Limb)].at(d.AtM).Z > o.cut.Z) {
			list = append(list, "A branch hangs loose above this cut: bring it down before anyone works beneath.")
		}
	}
	if o.arc != nil && o.arc.StartDeg > swingsFrom {
		list = append(list, fmt.Sprintf("It swings: %.1f m/s at the bottom, from %.0f° off the block. Nobody in its way, nobody behind the line.", o.arc.SpeedMS, o.arc.StartDeg))
	}
	if o.DropCase != nil && !o.Catch.Holds {
		list = append(list, "The device never stops this piece: more wraps, or a smaller piece.")
	}
	list = append(list, o.manner().cautions(o)...)
	list = append(list, o.tied...)
	list = append(list, v.steadied(o)...)
	list = append(list, o.fouls...)
	if l := o.Landing; l != nil && len(l.HangsOn) > 0 {
		list = append(list, "It may hang up on "+l.HangsOn[0]+".")
	}
	if (o.diameter-o.cavity)/2 < o.diameter/2/3 {
		list = append(list, "The shell at the cut is thinner than a third of the radius (common practice: the caution begins there).")
	}
	return list
}

// treeCautions says what the whole tree asks.
func (v *Survey) treeCautions() []string {
	list := []string{}
	if len(v.Limbs) > 0 && v.species == nil {
		list = append(list, "No species is chosen: the limbs are weighed as mixed hardwood with 80 % of water.")
	}
	guessed := 0
	for i := range v.Limbs {
		if v.Limbs[i].Guess {
			guessed++
		}
	}
	if guessed > 0 {
		list = append(list, fmt.Sprintf("%d of %d limbs are a guess, and so is what they weigh, from %g to %g times what is likely beyond the table's own range: measure what you rig.", guessed, len(v.Limbs), guessLess, guessMore))
	}
	for i := range v.tree.Readings {
		if r := &v.tree.Readings[i]; r.Offered {
			list = append(list, fmt.Sprintf("The reading at %s is offered, not measured: put the tape round and write down what it says.", v.Height(r.AtM)))
		}
	}
	for _, shell := range shells(&v.Stem, v.System) {
		if shell.Caution {
			list = append(list, shell.Words)
		}
	}
	if v.limits.WoodFactor == 1 {
		list = append(list, "The standing stem is judged against its full green strength: nothing is held back for knots, decay or sway.")
	}
	return list
}

// steadied says what tag line, twin line and stop do, and which of them are in no figure.
func (v *Survey) steadied(o *Outcome) (list []string) {
	if o.tag != nil {
		list = append(list, o.tag.said(v, o))
	}
	if o.twins != nil {
		list = append(list, o.twins.said(v)...)
	}
	if f := v.stopFigures(o); f != nil {
		list = append(list, f.Said)
	}
	switch o.pick.Way {
	case job.WayPastBlock, job.WayFromAbove, job.WaySwung:
		return list
	}
	for _, one := range []struct {
		there bool
		what  string
	}{{o.pick.Tag != nil && o.tag == nil, "tag line"}, {o.pick.Twin != nil, "twin line"}, {o.pick.Stop != nil, "stop of a swing"}} {
		if one.there {
			list = append(list, fmt.Sprintf("Its %s is not in the figures of this way down.", one.what))
		}
	}
	return list
}
