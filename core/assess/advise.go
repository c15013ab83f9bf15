package assess

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/cut"
	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways"
)

// advise asks which cut fits; nil without a species of the table, or with nothing to
// cut.
func (v *Survey) advise(o *Outcome) *cut.Advice {
	if v.Species == nil || o.TakesNothing() {
		return nil
	}
	p, limb := o.Pick, o.Limb()
	site := cut.Site{
		OrientationDeg: math.Min(120, o.OrientDeg), DiameterM: math.Max(0.01, math.Min(5, o.DiameterM)), LengthM: math.Max(0.01, math.Min(100, o.Length())),
		Species: v.Species.ID, Rigged: "none", Beneath: "clear", AtUnion: limb >= 0 && o.FromM < space.NearDefect/2,
		MassKg: o.Weight.Kg.High, PushKg: v.Limits.PushKg, SelfRatio: v.selfRatio(o),
	}
	if limb >= 0 {
		// A leader leans as a stem does.
		off := space.Radians(v.Limbs[limb].AzimuthDeg - o.Settings.FallTowardsDeg)
		site.HeadLeanDeg = math.Max(-45, math.Min(60, o.OrientDeg*math.Cos(off)))
		site.SideLeanDeg = math.Min(60, math.Abs(o.OrientDeg*math.Sin(off)))
	}
	if limb < 0 {
		leans := v.LeanAt(o.FromM)
		lean := space.Degrees(math.Atan(math.Hypot(leans.X, leans.Y)))
		off := space.Radians(space.AzimuthOf(leans) - o.Settings.FallTowardsDeg)
		site.HeadLeanDeg = math.Max(-45, math.Min(60, lean*math.Cos(off)))
		site.SideLeanDeg = math.Abs(lean * math.Sin(off))
		for k := range v.Limbs {
			if v.Limbs[k].Parent < 0 && math.Abs(v.Limbs[k].AtM-o.FromM) < space.NearDefect/3 {
				site.Knots = true
			}
		}
	}
	site.Rigged = string(ways.Find(p.Way).Held())
	if o.Landing != nil && len(o.Landing.Hits) > 0 {
		site.Beneath = "target"
	}
	for _, c := range o.Clears {
		if c.ClearanceM < course.LookFor/2 && c.Name != course.OwnStem {
			site.Beneath = "target"
		}
	}
	if o.CavityM > o.DiameterM/2 {
		site.Decay = "some"
	}
	v.Defects(limb, o.FromM, func(d *job.Defect) {
		switch d.Kind {
		case job.DefectDecay:
			site.Decay = "some"
			if o.CavityM > o.DiameterM/2 {
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
	for _, sit := range o.sits() {
		on, limb, at := v.Tree, -1, sit.HighM
		if sit.Place != nil {
			if on = v.TreeOf(sit.Place); on == nil {
				continue
			}
			if at = sit.Place.AtM; sit.Place.On == job.OnLimb {
				limb = on.LimbIndex(sit.Place.Limb)
			}
		}
		on.Defects(limb, at, func(d *job.Defect) {
			if said := fmt.Sprintf("At %s: %s.", sit.What, defectWords[d.Kind]); !slices.Contains(list, said) {
				list = append(list, said)
			}
		})
	}
	return list
}

// cutOtherwise says of what came down, or was weighed, that the plan has other wood there by now.
func (v *Survey) cutOtherwise(o *Outcome) (list []string) {
	was := func(w *job.Wood) string { return fmt.Sprintf("from %s to %s", v.Height(w.FromM), v.Height(w.ToM)) }
	if w := o.Pick.DownOf; w != nil && !o.Is(w) {
		list = append(list, fmt.Sprintf("What came down was cut otherwise, %s: the plan has been changed since.", was(w)))
	}
	if w := o.Pick.WeighedOf; w != nil && !o.Is(w) {
		list = append(list, fmt.Sprintf("%s was weighed of wood that was cut otherwise, %s: that stays with that wood and teaches of it, and this is as the survey has it.",
			units.Print(units.Mass, v.System, *o.Pick.WeighedKg), was(w)))
	}
	return list
}

// footNotSaid says of gear that sits elsewhere on a slope nobody has said the fall of, that how high it sits is not known.
func (v *Survey) footNotSaid(o *Outcome) (list []string) {
	site := &v.Job.Site
	if job.Or(site.SlopeDeg, 0) == 0 || site.SlopeTowardsDeg != nil {
		return nil
	}
	for _, sit := range o.sits() {
		place := sit.Place
		if place == nil || v.TreeOf(place) == v.Tree {
			continue
		}
		list = append(list, fmt.Sprintf("The ground falls away by %g° and nobody has said which way: %s counts as if it stood on the level of this tree's foot. Give the azimuth downhill.", *site.SlopeDeg, sit.What))
	}
	return list
}

// The push that a snapped piece is held against: one person, a foot up (common practice:
// 40 lb a foot above the cut).
const (
	pushKn  = 0.178
	pushAtM = 0.3048
)

// selfRatio is how much of the push a piece's own weight does, as kind snap has it.
func (v *Survey) selfRatio(o *Outcome) float64 {
	off := r3.Sub(o.Weight.At, o.Cut)
	ahead := r3.Dot(space.Level(off), space.Towards(o.Settings.FallTowardsDeg))
	snap := cut.Snap{MassKg: o.Counts(), CogHeightM: math.Max(0.01, off.Z), CogOffsetM: ahead, BridgeToEdgeM: math.Max(0.005, o.DiameterM/2), Push: cut.Push{ForceKn: pushKn, HeightM: pushAtM}}
	return math.Max(-1e6, math.Min(1e6, snap.Solve().SelfRatio))
}

// defectWords say what a defect near a cut or near gear means.
var defectWords = map[string]string{
	job.DefectDecay: "decay: the wood holds less than the sums say, and hinges badly",
	job.DefectCrack: "a crack: it can split along it when it is loaded or cut",
	job.DefectUnion: "a co-dominant union with bark between: it can part when one side is loaded",
	job.DefectIvy:   "ivy: it hides the wood, adds weight and catches the line",
	job.DefectHung:  "a hung branch: bring it down before anyone works beneath",
	job.DefectDead:  "dead wood: it breaks early and without warning",
}

// cautions gathers what must stand beside a pick.
func (v *Survey) cautions(o *Outcome) []string {
	list := []string{}
	if o.TakesNothing() {
		return list
	}
	limb := o.Limb()
	v.Defects(limb, o.FromM, func(d *job.Defect) {
		list = append(list, fmt.Sprintf("At the cut: %s.", defectWords[d.Kind]))
	})
	list = append(list, v.gearNear(o)...)
	list = append(list, v.footNotSaid(o)...)
	list = append(list, v.cutOtherwise(o)...)
	for i := range v.Measured.Defects {
		d := &v.Measured.Defects[i]
		if d.Kind == job.DefectHung && (d.Limb == "" && d.AtM > o.Cut.Z || d.Limb != "" && v.LimbIndex(d.Limb) != limb && o.Now.Tips[v.LimbIndex(d.Limb)] > d.AtM && v.Limbs[v.LimbIndex(d.Limb)].At(d.AtM).Z > o.Cut.Z) {
			list = append(list, "A branch hangs loose above this cut: bring it down before anyone works beneath.")
		}
	}
	if rope := o.Rope(); rope != nil && rope.Swings() != nil {
		arc := rope.Swings()
		list = append(list, fmt.Sprintf("It swings: %.1f m/s at the bottom, from %.0f° off the block. Nobody in its way, nobody behind the line.", arc.SpeedMS, arc.StartDeg))
	}
	if i := slices.IndexFunc(o.Clears, func(c course.Clearance) bool { return c.Target == nil && c.ClearanceM <= 0 }); i >= 0 {
		at := ""
		if rope := o.Rope(); rope != nil && rope.FastestMS() > 0 {
			at = fmt.Sprintf(" at up to %.1f m/s", rope.FastestMS())
		}
		list = append(list, fmt.Sprintf("It brushes %s%s: what it breaks off falls too, and it may turn, hang up or be stopped there. None of that is in a figure.", o.Clears[i].Name, at))
	}
	if o.Drops() && !o.Made.Held().Holds {
		list = append(list, "The device never stops this piece: more wraps, or a smaller piece.")
	}
	if gust := job.Or(v.Job.Site.GustMS, 0); gust > 0 && o.Pick.Way != job.WayFelled {
		list = append(list, fmt.Sprintf("Gusts of %.0f m/s: what they do to a piece that hangs or comes down is in no figure.", gust))
	}
	if o.Drops() && o.climberBeneath() {
		list = append(list, "It comes onto its line beside the stem that the climber is on: it can strike that, and the climber, as it swings in.")
	}
	words := o.Made.Words()
	list = append(list, words.Cautions...)
	list = append(list, o.freed...)
	list = append(list, steadied(o.Pick, &words)...)
	list = append(list, o.Notes...)
	if l := o.Landing; l != nil && len(l.HangsOn) > 0 {
		list = append(list, "It may hang up on "+l.HangsOn[0]+".")
	}
	if (o.DiameterM-o.CavityM)/2 < o.DiameterM/2/3 {
		list = append(list, "The shell at the cut is thinner than a third of the radius (common practice: the caution begins there).")
	}
	return list
}

// treeCautions says what the whole tree asks.
func (v *Survey) treeCautions() []string {
	list := []string{}
	if len(v.Limbs) > 0 && v.Species == nil {
		list = append(list, "No species is chosen: the limbs are weighed as mixed hardwood with 80 % of water.")
	}
	guessed := 0
	for i := range v.Limbs {
		if v.Limbs[i].Guess {
			guessed++
		}
	}
	if guessed > 0 {
		list = append(list, fmt.Sprintf("%d of %d limbs are a guess, and so is what they weigh, from %g to %g times what is likely beyond the table's own range: measure what you rig.", guessed, len(v.Limbs), space.GuessLess, space.GuessMore))
	}
	for i := range v.Measured.Readings {
		if r := &v.Measured.Readings[i]; r.Offered {
			list = append(list, fmt.Sprintf("The reading at %s is offered, not measured: put the tape round and write down what it says.", v.Height(r.AtM)))
		}
	}
	for _, shell := range shells(&v.Stem, v.System) {
		if shell.Caution {
			list = append(list, shell.Words)
		}
	}
	if v.Limits.WoodFactor == 1 {
		list = append(list, "The standing stem is judged against its full green strength: nothing is held back for knots, decay or sway.")
	}
	return list
}

// climberBeneath tells that somebody stands by the stem whose piece falls past its block on that stem.
func (o *Outcome) climberBeneath() bool {
	return o.Pick.Way == job.WayPastBlock && slices.ContainsFunc(o.Job.Site.Posts, func(p job.Post) bool { return o.InTheTree(&p) })
}

// steadied says what tag line, twin line and stop do, and which of them are in no figure.
func steadied(p *job.Pick, words *course.Words) []string {
	list := words.Steady
	switch p.Way {
	case job.WayPastBlock, job.WayFromAbove, job.WaySwung:
		return list
	}
	for _, one := range []struct {
		there bool
		what  string
	}{{p.Tag != nil && !words.Drawn, "tag line"}, {p.Twin != nil, "twin line"}, {p.Stop != nil, "stop of a swing"}} {
		if one.there {
			list = append(list, fmt.Sprintf("Its %s is not in the figures of this way down.", one.what))
		}
	}
	return list
}
