package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/spar"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/working"
)

// lineLoads gathers what each part of the line's way sees and may see.
func (v *Survey) lineLoads(o *Outcome, now *Standing) {
	rig, limits := o.Rig, &v.limits
	weight, peak := o.bearsKn(), o.Catch.LinePeakKn
	rate := func(l load, kind string, rating gear.Rating) {
		said := l.Cautions
		l.Rated = limits.Rate(rating, policy.Used{Kind: kind}, l.resting, l.peak)
		l.Cautions = append(said, l.Cautions...)
		o.loads = append(o.loads, l)
	}
	tie := load{part: PartTie, name: rig.Tie.Name, item: rig.Tie.Item, resting: weight, peak: peak}
	if rig.Tie.MarkedKn != nil || rig.Tie.BreakingKn != nil {
		tie.Rated = limits.Rate(rig.Tie.Rating, policy.Used{Kind: locker.Sling}, tie.resting, tie.peak)
		tie.hitched(rig.Tie.Hitch)
		o.loads = append(o.loads, tie)
	} else {
		tie.item = rig.Rope.Item
		tie.Rated = limits.RateTie(rig, weight, peak)
		o.loads = append(o.loads, tie)
	}
	o.loads = append(o.loads, load{part: PartLine, name: rig.Rope.Name, item: rig.Rope.Item, resting: weight, peak: peak, Rated: limits.RateLine(rig, weight, peak)})
	// Two lines, carried: the block holds line and lead at the angle of the way.
	block, rest := peak*o.Path.Points[0].ResultantKn, weight*o.Path.Points[0].ResultantKn
	far := 0.0
	if o.pair != nil {
		block = 0
		for _, c := range o.carried.Way {
			block, far = max(block, c.AnchorAKn), max(far, c.AnchorBKn)
		}
		rest = block
	}
	if o.leads != nil {
		block, rest = 0, o.leadsRest
		for _, force := range o.leads {
			block = max(block, r3.Norm(force))
		}
	}
	rate(o.rubbing(load{part: PartBlock, name: rig.Block.Name, item: rig.Block.Item, resting: rest, peak: block}), locker.Block, rig.Block.Rating)
	if c := rig.Connector; c != nil {
		rate(load{part: partConnector, name: c.Name, item: c.Item, resting: rest, peak: block}, locker.Connector, c.Rating)
	}
	sling := load{part: PartSling, name: rig.Sling.Name, item: rig.Sling.Item, resting: rest, peak: block}
	sling.Rated = limits.Rate(rig.Sling.Rating, policy.Used{Kind: locker.Sling, Conditions: rig.Sling.Conditions}, rest, block)
	sling.hitched(rig.Sling.Hitch)
	o.loads = append(o.loads, sling)
	for i := range rig.Redirects {
		factor := o.Path.Points[i+1].ResultantKn
		turn := &rig.Redirects[i]
		rate(load{part: partRedirect, name: turn.Name, item: turn.Item, resting: weight * factor, peak: peak * factor}, locker.Pulley, turn.Rating)
	}
	if o.pair != nil {
		second := o.carried.MaxBKn
		o.loads = append(o.loads, load{part: partSecond, name: rig.Second.Name, resting: second, peak: second, Rated: limits.RateLine(rig, second, second)})
		rate(load{part: partFar, name: rig.Second.Name, item: rig.Second.Item, resting: far, peak: far}, locker.Block, rig.Second.Rating)
	}
	if v.onTree(o) {
		v.sparLoads(o, block, rest, now)
	}
	v.holders(o, now)
	if !rig.Device.None {
		rate(load{part: PartDevice, name: rig.Device.Name, item: rig.Device.Item, resting: weight * o.Ratio(), peak: o.Catch.DevicePeakKn}, locker.Device, rig.Device.Rating)
	}
	held := func(device float64) float64 { return line.HandFor(device, o.Settings.Wraps, o.Settings.Friction) }
	hand := load{part: partHand, name: rig.Hands.Name, resting: held(weight * o.Ratio()), peak: held(o.Catch.DevicePeakKn), unseen: o.Settings.How == job.Locked}
	if hand.unseen {
		hand.why = "tied off on the device: nothing reaches the hand"
		if rig.Device.None {
			hand.unseen = false
			hand.cautions("Nothing is there to tie it off on: who locks it holds all of this.")
		}
	}
	if mu := rig.Block.Friction; mu != nil && o.pair == nil {
		less := math.Pow(o.Path.Points[0].Ratio, -0.25)
		hand.cautions(fmt.Sprintf("The friction aloft (%.2g) is a guess: with a quarter less of it %s reaches the hand with the piece at rest.", *mu, units.Print(units.Force, v.System, hand.resting*less)))
	}
	if rig.Hands.By == "winch" {
		if hand.name == "" {
			hand.name = "winch"
		}
		hand.item = rig.Hands.Item
		rate(hand, locker.Winch, rig.Hands.Rating)
		return
	}
	hand.Limit, hand.Known, hand.Decided = gear.Limit{Kn: limits.HandKn, Reason: "what one person holds: " + policy.Ruled(v.Job.Limits.HandKn), Source: working.Common}, true, byCrew
	o.loads = append(o.loads, hand)
}

// rubbing adds what rope over wood or metal that does not turn asks for.
func (o *Outcome) rubbing(l load) load {
	if o.Rig.Block.Friction != nil {
		l.cautions("The rope runs over what does not turn: it heats and wears, there and in the hand; slow, and look at it after each piece.")
	}
	return l
}

// hitched takes the factor of its hitch on a sling's limit; of none said, a choker's.
func (l *load) hitched(hitch string) {
	if !l.Known {
		return
	}
	if hitch == "" {
		hitch = crane.Choker
	}
	factor := crane.HitchFactor(hitch)
	if factor == 1 {
		return
	}
	l.Limit.Kn *= factor
	l.RestLimit *= factor
	l.Limit.Reason = fmt.Sprintf("%s × %g as a %s", l.Limit.Reason, factor, hitch)
	l.Limit.Source = "ASME B30.9 (from memory)"
	if factor < 1 {
		l.Decided = byHitch
	}
}

// A Rung is one part of the load's way from the piece to the hand.
type Rung struct {
	Part           string         `json:"part" enum:"piece,tie,line,block,connector,sling,spar,holder,redirect,device,hand,second line,second block,crane,pull,hinge,wedge,push,tag line,stop"`
	Name           string         `json:"name" doc:"What the crew calls the item; empty when unnamed"`
	RestingKn      float64        `json:"resting_kn" doc:"Load with the piece hanging still; of the piece: its likely weight"`
	PeakKn         *float64       `json:"peak_kn" doc:"Load at the peak; of the piece: its weight at the heavy end; null when nothing reaches this part"`
	LimitKn        *float64       `json:"limit_kn" doc:"Null when not known"`
	UsePct         *float64       `json:"use_pct" doc:"Peak in per cent of the limit"`
	Verdict        Verdict        `json:"verdict" enum:"within,close,over,not known,not held"`
	Reason         string         `json:"reason" doc:"Where the limit comes from, or why there is none"`
	Decided        string         `json:"decided_by" enum:",marking,knot,bend,condition,design factor,share of the strength,hitch,chart,wood,grip,crew,effort" doc:"Which of them decided the limit; empty when there is none"`
	Item           string         `json:"item" doc:"Id in the locker; empty: not from there"`
	RestingLimitKn *float64       `json:"resting_limit_kn" doc:"Limit of the load at rest, when the school asks for one of its own; else null"`
	Cautions       []string       `json:"cautions" nullable:"false"`
	Working        []working.Step `json:"working" nullable:"false"`
	Sum            *Sum           `json:"sum,omitempty" doc:"The same sum as the calculation contract has it"`
}

// judge gives the verdict of one load.
func (v *Survey) judge(l *load) (usePct float64, known bool, judged Verdict) {
	switch {
	case l.unseen:
		return 0, false, Within
	case l.Known && l.Limit.Kn > 0:
		use := 100 * l.use()
		if l.notHeld {
			return use, true, NotHeld
		}
		return use, true, verdict(use, v.limits.CloseFromPct)
	case l.notHeld:
		return 0, false, NotHeld
	case l.free:
		return 0, false, Within
	}
	return 0, false, NotKnown
}

// ladder follows the load from the piece to the hand, with its working.
func (v *Survey) ladder(o *Outcome, now *Standing) []Rung {
	rungs := make([]Rung, 0, len(o.loads))
	for i := range o.loads {
		l := &o.loads[i]
		use, known, judged := v.judge(l)
		rung := Rung{Part: l.part, Name: l.name, RestingKn: l.resting, Verdict: judged, Reason: l.why, Cautions: append([]string{}, l.Cautions...), Item: l.item}
		if !l.unseen {
			sees := l.sees()
			rung.PeakKn = &sees
		}
		if known {
			rung.LimitKn, rung.UsePct, rung.Reason, rung.Decided = &l.Limit.Kn, &use, l.Limit.Reason, l.Decided
			if l.RestLimit > 0 {
				rung.RestingLimitKn = &l.RestLimit
			}
		} else if rung.Reason == "" {
			rung.Reason = "no limit given"
		}
		switch l.part {
		case PartPiece:
			rung.Cautions = append(rung.Cautions, v.pieceCautions(o)...)
		case PartLine:
			if o.DropCase != nil {
				rung.Cautions = append(rung.Cautions, o.DropCase.Cautions(o.Catch)...)
			}
			if o.pair != nil {
				rung.Cautions = append(rung.Cautions, o.pair.Cautions(o.carried)...)
			}
		case partSpar:
			if o.spar != nil && l.tug == nil {
				rung.Cautions = append(rung.Cautions, o.spar.beam.Cautions(spar.Standing{})...)
			}
		case partRedirect:
			if o.Path.Points != nil {
				rung.Cautions = append(rung.Cautions, line.Path{Motion: line.Lowering, Points: o.points}.Cautions(o.Path)...)
			}
		case partCrane:
			if o.lift != nil {
				rung.Cautions = append(rung.Cautions, o.lift.Cautions(o.lifted)...)
			}
		case partHand:
			if !l.unseen {
				low := line.HandFor(o.Catch.DevicePeakKn, o.Settings.Wraps, o.Settings.Friction*line.LowerFriction)
				rung.Cautions = append(rung.Cautions, line.Cautions(o.Settings.Friction, low)...)
			}
		}
		if l.item != "" {
			if said := v.gear.Said(l.item, l.name); said != "" {
				rung.Cautions = append(rung.Cautions, said)
			}
		}
		rung.Working, rung.Sum = v.rungWorking(l, o, now), v.sumOf(l, o)
		rungs = append(rungs, rung)
	}
	return rungs
}

// pieceCautions says what must stand beside a piece's weight.
func (v *Survey) pieceCautions(o *Outcome) []string {
	if o.weighed {
		return nil
	}
	if i := v.LimbOf(o.pick); i >= 0 {
		g := &v.Limbs[i]
		return timber.Limb{Group: v.group, BasalDiameterM: g.diameterAt(o.FromM)}.Cautions()
	}
	return v.Stem.Cautions(v.tree.Wood, o.FromM, o.toM)
}

// pieceWorking writes the sum behind a piece's weight.
func (v *Survey) pieceWorking(o *Outcome, now *Standing) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	i := v.LimbOf(o.pick)
	switch {
	case o.weighed:
		sheet.Add("m", "weighed", "as the scale gave it, ±2 %", o.Weight.Kg.Likely, "kg", "the scale")
		return sheet.Steps()
	case i < 0:
		sheet.Append(v.Stem.Working(o.FromM, o.toM, v.density, v.source, timber.Frustum))
		for k := range v.growing(-1, o.FromM, math.Inf(1), now) {
			sheet.Add("+m", v.Limbs[k].Title()+", with its brush", "as a limb", v.limbMass(k, 0, now).Kg.Likely, "kg", "biomass table, from memory")
		}
	default:
		g := &v.Limbs[i]
		d := g.diameterAt(o.FromM)
		sheet.Add("d", "diameter at the cut", fmt.Sprintf("tapering evenly from %s m at its base", n(g.DiameterM)), d, "m", working.Common)
		end := now.Tips[i]
		bare, _ := v.bare(g, o.FromM, end)
		sheet.Add("B", "bare wood of the part, by its volume", fmt.Sprintf("π/12·L·(D₁²+D₁D₂+D₂²)·ρ, L = %s m, D₂ = %s m", n(end-o.FromM), n(g.diameterAt(end))), bare.Likely, "kg", v.source)
		if g.Brush != job.BrushBare {
			limb := timber.Limb{Group: v.group, BasalDiameterM: g.DiameterM, LengthM: g.LengthM, MoisturePct: v.moisture, InLeaf: v.tree.InLeaf}
			sheet.Append(limb.Working(limb.Weigh()))
			brush := v.brush(i)
			begins := brushFrom * g.LengthM
			share := max(0, end-max(o.FromM, begins)) / (g.LengthM - begins)
			sheet.Add("b", "its share of the brush: what the table gives beyond bare wood and sub-limbs, on the outer two thirds", fmt.Sprintf("%s·%s", n(share), n(brush.Likely)), share*brush.Likely, "kg", working.Common)
		}
		for k := range v.growing(i, o.FromM, end, now) {
			sheet.Add("+m", v.Limbs[k].Title()+", which grows on it", "as a limb", v.limbMass(k, 0, now).Kg.Likely, "kg", "biomass table, from memory")
		}
	}
	if o.pick.MassKg != nil {
		sheet.Add("m", "judged by eye in place of the survey", "as given", o.Weight.Kg.Likely, "kg", "as given")
	} else {
		stem, limbs := v.learned[false], v.learned[true]
		ofStem, ofLimbs := stem != nil && o.Weight.stem.Likely > 0, limbs != nil && o.Weight.stem.Likely < o.Weight.Kg.Likely
		if ofStem {
			sheet.Add("k_s", "what the scale has taught of the stem", "by the weighings so far", stem.Factor, "", "Bayes' rule, normal prior")
		}
		if ofLimbs {
			sheet.Add("k_l", "what the scale has taught of limbs", "by the weighings so far", limbs.Factor, "", "Bayes' rule, normal prior")
		}
		if ofStem || ofLimbs {
			sheet.Add("m", "likely mass, by the scale", "stem·k_s + limbs·k_l; of what nothing was weighed, as it was", o.Weight.Kg.Likely, "kg", "")
		}
	}
	return sheet.Steps()
}

// rungWorking writes the sum behind one rung.
func (v *Survey) rungWorking(l *load, o *Outcome, now *Standing) []working.Step {
	var sheet working.Sheet
	whole := o
	if l.of != nil {
		o = l.of
	}
	n, set := working.Figure, &o.Settings
	peak := o.Catch.LinePeakKn
	turned := func(i int) {
		turn := o.Path.Points[i]
		sheet.Add("θ", "angle of contact", "π − angle between the legs", turn.ContactDeg, "°", "geometry")
		sheet.Add("F", "force of both legs", fmt.Sprintf("|T_in·a + T_out·b| = %s·%s", n(turn.Factor), n(peak)), turn.ResultantKn*peak, "kN", "statics")
	}
	if l.tug != nil {
		l.tug.working(&sheet, l, o)
		v.limitWorking(&sheet, l)
		return sheet.Steps()
	}
	switch l.part {
	case PartPiece:
		sheet.Append(v.pieceWorking(o, now))
	case PartTie, PartLine:
		switch {
		case l.of != nil && whole.ends != nil && l.part == PartLine:
			whole.endWorking(&sheet, l.of)
		case o.pair != nil:
			sheet.Append(o.pair.Working(o.carried))
		case o.tight != nil && !o.tight.swings && l.part == PartLine:
			sheet.Append(o.tight.held.Working(o.tight.caught))
		case o.swung != nil && l.part == PartLine:
			sheet.Append(o.swung.Working(o.Catch))
		case o.DropCase != nil && l.part == PartLine:
			sheet.Append(o.DropCase.Working(o.Catch))
		}
		if l.part == PartLine && whole.twins != nil {
			whole.shareWorking(&sheet, l.of)
		}
		if l.part == PartLine && whole.tag != nil {
			whole.tag.working(&sheet)
		}
		if l.part == PartTie {
			sheet.Add("T", "peak of the line", "see the line", peak, "kN", "the line's working")
		}
	case PartBlock, partConnector, PartSling:
		switch {
		case o.lift != nil:
			sheet.Append(o.lift.Working(o.lifted))
		case o.pair != nil:
			sheet.Append(o.pair.Working(o.carried))
		default:
			turned(0)
			if mu := o.Rig.Block.Friction; mu != nil {
				sheet.Add("ρ", "tension behind it over tension before it, where the rope slides", fmt.Sprintf("e^(−%s·(θ + 2π·%s))", n(*mu), n(job.Or(o.Rig.Block.Turns, 0))), o.Path.Points[0].Ratio, "", line.Capstan)
			}
		}
	case partSecond, partFar:
		if o.pair != nil {
			o.secondWorking(&sheet, l.part)
		}
	case partPush:
		sheet.Append(o.felling.push.Working(o.felling.shove))
	case partWedge:
		sheet.Append(o.felling.pulled.Working(o.felling.need))
	case partHinge:
		sheet.Append(o.felling.hinge.Working(o.felling.wood))
	case PartTag:
		o.tag.working(&sheet)
	case PartStop:
		o.stop.working(&sheet, l)
	case PartHolder:
		sheet.Add("F", "pull of the gear that sits on it", "the gear's own rung at the peak, with its direction", l.peak, "kN", "statics")
	case partRedirect:
		for i := range o.Rig.Redirects {
			if o.Rig.Redirects[i].Name == l.name {
				turned(i + 1)
			}
		}
	case partSpar:
		if o.spar != nil {
			sheet.Append(o.spar.beam.Working(o.spar.beam.Solve()))
		}
	case PartDevice:
		sheet.Add("D", "peak of the lead", fmt.Sprintf("ρ·T, ρ of all turns = %s·%s", n(o.Ratio()), n(peak)), l.peak, "kN", "statics")
		sheet.Add("D₀", "lead with the piece hanging", fmt.Sprintf("ρ·W = %s·%s", n(o.Ratio()), n(o.bearsKn())), l.resting, "kN", "statics")
	case partHand:
		if l.unseen {
			break
		}
		if set.How == job.ByWraps && o.DropCase != nil {
			sheet.Add("H", "hold of the device", fmt.Sprintf("hand·e^(2πμn) = %s·e^(2π·%s·%s)", n(set.HandKn), n(set.Friction), n(set.Wraps)), o.hold, "kN", line.Capstan)
		}
		sheet.Add("F", "hand at the peak", fmt.Sprintf("D·e^(−2πμn) = %s·e^(−2π·%s·%s)", n(o.Catch.DevicePeakKn), n(set.Friction), n(set.Wraps)), l.peak, "kN", line.Capstan)
		sheet.Add("F₀", "hand with the piece hanging", fmt.Sprintf("ρ·W·e^(−2πμn), ρ·W = %s", n(o.bearsKn()*o.Ratio())), l.resting, "kN", line.Capstan)
	case partCrane:
		sheet.Append(o.lift.Working(o.lifted))
	}
	v.limitWorking(&sheet, l)
	return sheet.Steps()
}

// limitWorking writes what a load is held to, and how much of it it takes.
func (v *Survey) limitWorking(sheet *working.Sheet, l *load) {
	n := working.Figure
	if l.Known && !l.unseen {
		sheet.Add("limit", "what it may see", l.Limit.Reason, l.Limit.Kn, "kN", l.Limit.Source)
		sheet.Add("use", "peak, or what hangs at rest where that is more, in per cent of the limit", fmt.Sprintf("100·%s/%s", n(l.sees()), n(l.Limit.Kn)), 100*l.sees()/l.Limit.Kn, "%", "")
		if l.RestLimit > 0 {
			sheet.Add("use₀", "load at rest in per cent of the working load", fmt.Sprintf("100·%s/%s", n(l.resting), n(l.RestLimit)), 100*l.resting/l.RestLimit, "%", v.limits.SchoolWords())
		}
	}
}

// secondWorking writes the sum behind the second line, or behind its block, where on the way
// that is loaded most.
func (o *Outcome) secondWorking(sheet *working.Sheet, part string) {
	n := working.Figure
	at := o.carried.Way[0]
	for _, c := range o.carried.Way {
		if part == partSecond && c.BKn > at.BKn || part == partFar && c.AnchorBKn > at.AnchorBKn {
			at = c
		}
	}
	const statics = "statics: three forces in a plane"
	sheet.Add("x", "where on the way it is loaded most", "the heaviest of the places followed", at.SharePct, "%", "geometry")
	sheet.Add("α", "angle of the first line to the level there", "geometry of the place", at.AngleADeg, "°", "geometry")
	sheet.Add("β", "angle of the second line to the level there", "geometry of the place", at.AngleBDeg, "°", "geometry")
	sheet.Add("B", "second line", fmt.Sprintf("W·cos α/sin(α+β), W = %s", n(o.weightKn())), at.BKn, "kN", statics)
	if part == partFar {
		sheet.Add("F", "second block: line, and lead straight down that hauls it in", fmt.Sprintf("B·√(cos²β + (sin β + 1/r)²), r = %s", n(o.Settings.BlockEfficiency)), at.AnchorBKn, "kN", statics)
	}
}

// Wanted finds the hold and the run that keep every part of the line's way within its
// limit, whichever is the first to be reached.
func (v *Survey) Wanted(o *Outcome) *Wanted {
	w := Wanted{LineKn: math.Inf(1)}
	for i := range o.loads {
		l := &o.loads[i]
		if !l.Known || l.part == PartPiece || l.part == partHand || l.peak <= 0 {
			continue
		}
		if at := l.Limit.Kn * o.Catch.LinePeakKn / l.peak; at < w.LineKn {
			w.LineKn, w.Governs = at, l.part
		}
	}
	if math.IsInf(w.LineKn, 1) || o.DropCase == nil {
		return nil
	}
	w.HoldKn = o.Ratio() * w.LineKn
	if run, reachable := o.RunFor(w.LineKn); reachable {
		w.RunM, w.Reachable = &run, true
	}
	w.Wraps = line.WrapsFor(w.HoldKn, o.Settings.HandKn, o.Settings.Friction)
	return &w
}

// Height prints a height or a length in the units asked.
func (v *Survey) Height(m float64) string { return units.Print(units.Height, v.System, m) }
