package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/fell"
	"elkstay/core/job"
	"elkstay/core/sight"
	"elkstay/core/units"
	"elkstay/core/working"
)

// standing calls a limb that is weighed with what stands above a height, with its mass.
func (v *Survey) standing(limbs bool, from float64, now *Standing, each func(k int, m mass)) {
	if !limbs {
		return
	}
	for k := range v.growing(-1, from, math.Inf(1), now) {
		each(k, v.limbMass(k, 0, now))
	}
}

// balanceWithin is how far off its place the balance of what stands above a height may be, by the
// range of its limbs, m: the larger of each of them off by itself, and all of them off the same way,
// as they are when the table of limbs does not fit the tree.
func (v *Survey) balanceWithin(limbs bool, from float64, weight mass, now *Standing) float64 {
	sum, all, together := 0.0, 0.0, r3.Vec{}
	v.standing(limbs, from, now, func(_ int, m mass) {
		more := (m.Kg.High - m.Kg.Low) / 2
		// What one limb weighs more moves the balance towards it by its share of the whole.
		moves := more / (weight.Kg.Likely + more) * r3.Norm(level(r3.Sub(m.at, weight.at)))
		sum += moves * moves
		all, together = all+more, r3.Add(together, r3.Scale(more, level(r3.Sub(m.at, weight.at))))
	})
	return max(math.Sqrt(sum), r3.Norm(together)/(weight.Kg.Likely+all))
}

// balance is where what stands above a height has its weight, with limbs or without, and how that
// comes about.
func (v *Survey) balance(limbs bool, from float64, weight mass, now *Standing) Balance {
	foot := v.foot
	if from > v.Stem.Bottom() {
		foot = v.onStem(from)
	}
	off := level(r3.Sub(weight.at, foot))
	b := Balance{At: pointOf(weight.at), MassKg: weight.Kg, OffM: r3.Norm(off), WithinM: v.balanceWithin(limbs, from, weight, now),
		MomentKnm: weight.Kg.High * units.Gravity / 1000 * r3.Norm(off)}
	if b.OffM > 1e-6 {
		b.AzimuthDeg = azimuthOf(off)
	}
	lean := "it balances over its foot"
	if b.OffM > 0.02 {
		lean = fmt.Sprintf("it balances %s off its foot, to %s (%.0f°)", v.Height(b.OffM), sight.Wind(b.AzimuthDeg), b.AzimuthDeg)
	}
	b.Said = fmt.Sprintf("%s to %s; %s, give or take %s: %.3g kN·m about the foot at the heavy end.",
		units.Print(units.Mass, v.System, b.MassKg.Low), units.Print(units.Mass, v.System, b.MassKg.High), lean, v.Height(b.WithinM), b.MomentKnm)

	var sheet working.Sheet
	n, to := working.Figure, towards(b.AzimuthDeg)
	const parts = "weight and place of its parts"
	hung, leads := 0.0, 0.0
	v.standing(limbs, from, now, func(k int, m mass) {
		out := r3.Dot(level(r3.Sub(m.at, foot)), to)
		hung, leads = hung+m.Kg.Likely, leads+m.Kg.Likely*out
		sheet.Add("m·x", v.Limbs[k].Title(), fmt.Sprintf("%s kg (%s to %s), %s m that way of the foot", n(m.Kg.Likely), n(m.Kg.Low), n(m.Kg.High), n(out)), m.Kg.Likely*out, "kg·m", parts)
	})
	sheet.Add("m·x", "stem, and what sits on it", fmt.Sprintf("%s kg, from bend to bend of its axis", n(weight.Kg.Likely-hung)), weight.Kg.Likely*b.OffM-leads, "kg·m", parts)
	sheet.Add("x", "its balance off the foot", fmt.Sprintf("Σ m·x over %s kg", n(weight.Kg.Likely)), b.OffM, "m", "balance of moments")
	sheet.Add("±", "give or take", "the larger of what half of each limb's range moves it, root of squares, and of all limbs heavier or lighter at once", b.WithinM, "m", "propagation of errors, independent and together")
	sheet.Add("M", "about the foot, at the heavy end", fmt.Sprintf("%s·9.80665/1000·x", n(weight.Kg.High)), b.MomentKnm, "kN·m", units.GravitySource)
	b.Working = sheet.Steps()
	return b
}

// fellSteps says what to cut, in order, with its measures.
func (v *Survey) fellSteps(o *Outcome, f *fellingOf) []string {
	set := &f.set
	tape := func(m float64) string { return units.Print(units.Diameter, v.System, m) }
	at := v.Height(o.FromM)
	var list []string
	say := func(format string, args ...any) { list = append(list, fmt.Sprintf(format, args...)) }
	for i := range f.tugs {
		if t := &f.tugs[i]; t.set.Holds {
			say("Set the line that holds, from %s to %s.", v.Height(t.set.AtM), t.anchor.Name)
		} else {
			if t.mid != nil && t.mid.weighs() {
				say("Set the line from %s to %s and make it fast, with %s.", v.Height(t.set.AtM), t.anchor.Name, t.mid.says)
				continue
			}
			tight := max(t.set.PretensionKn, t.need)
			say("Set the line that pulls, from %s to %s, and make it tight with %s.", v.Height(t.set.AtM), t.anchor.Name, units.Print(units.Force, v.System, tight))
		}
	}
	face := fmt.Sprintf("Face: %s deep, open %.0f°, %s at the bark; level cut at %s", tape(*set.FaceDepthM), *set.OpeningDeg, tape(f.mouth()), at)
	if set.UpsideDown {
		face += ", the sloping cut beneath it"
	}
	say("%s; it looks to %s (%.0f°).", face, o.wind(), o.Settings.FallTowardsDeg)
	if *set.NicksM > 0 {
		say("Nick both ends of the hinge %s deep.", tape(*set.NicksM))
	}
	if *set.BoredM > 0 {
		say("Bore the middle of the hinge, %s wide.", tape(*set.BoredM))
	}
	hinge := fmt.Sprintf("leave a hinge of %s", tape(*set.LeftM))
	if *set.LeftM != *set.RightM {
		hinge = fmt.Sprintf("leave a hinge of %s at its left and %s at its right", tape(*set.LeftM), tape(*set.RightM))
	}
	back := fmt.Sprintf("Back cut at %s, %s long at the most: %s", v.Height(o.FromM+*set.BackUpM), tape(f.backCut()), hinge)
	if strap := set.StrapM; strap != nil {
		say("%s and a strap of %s at the back; bore in, do not cut the strap.", back, tape(*strap))
	} else {
		say("%s.", back)
	}
	if set.Wedged {
		say("Wedges in as soon as they fit behind the saw.")
	}
	if set.StrapM != nil {
		say("Let the strap go last.")
	}
	if set.Pulled() {
		say("Saw out, away at 45° behind; call: %s", felled{}.call(v, o))
	} else {
		say("Away at 45° behind as it moves.")
	}
	return list
}

// mostPlans is how many other lines are offered.
const mostPlans = 4

// fellPlans says what else would bring it over: wedges, and a line to every other anchor of the site.
func (v *Survey) fellPlans(o *Outcome, f *fellingOf, now *Standing) []FellPlan {
	list := []FellPlan{}
	force, lift := f.wedge()
	wedges := FellPlan{Title: "Wedges", Verdict: verdict(100*max(force/wedgeLiftKn, lift/wedgeLiftM), v.limits.CloseFromPct)}
	wedges.Said = fmt.Sprintf("%s at the back, margin included, and %s of lift to its balance; driven by hand they lift %s by %s.",
		units.Print(units.Force, v.System, force), v.Height(lift), units.Print(units.Force, v.System, wedgeLiftKn), v.Height(wedgeLiftM))
	list = append(list, wedges)
	used := map[string]bool{}
	for i := range f.tugs {
		used[f.tugs[i].anchor.ID] = true
	}
	p := *o.pick
	for _, one := range v.FellPulls(o.pick, now) {
		if used[one.Anchor] || len(list) > mostPlans {
			continue
		}
		fell := job.Fell{}
		if o.pick.Fell != nil {
			fell = *o.pick.Fell
		}
		fell.Lines = []job.FellLine{one}
		p.Fell = &fell
		p.FallTowardsDeg = &o.Settings.FallTowardsDeg
		out := v.FellTo(&p, o.number, now, false)
		if out.Stopped() {
			continue
		}
		t := &out.felling.tugs[0]
		b := v.Pulled(out, Bearing{Verdict: Within, Kind: FellOpen})
		plan := FellPlan{Title: "A line to " + t.anchor.Name, Verdict: b.Verdict, Said: fmt.Sprintf("%s at the tree, tied at %s, margin included", units.Print(units.Force, v.System, t.need), v.Height(one.AtM))}
		if t.gives > 0 {
			plan.Said += fmt.Sprintf("; %s give %s", t.effortSays, units.Print(units.Force, v.System, t.gives))
		}
		if b.Verdict != Within && b.Kind != FellPull {
			plan.Said += "; " + b.Reason
		}
		plan.Said += "."
		list = append(list, plan)
	}
	return list
}

// FellPulls are lines from a pick to every anchor of the site, each pulled as the pick's own first
// line is, or by a vehicle where a vehicle stands; tied two thirds up where nobody has said.
func (v *Survey) FellPulls(p *job.Pick, now *Standing) (list []job.FellLine) {
	from := job.Or(p.CutM, v.defaultCut(now))
	pull := job.FellLine{ID: "other", AtM: math.Round(10*(from+(now.Top-from)*2/3)) / 10}
	if p.Fell != nil {
		for i := range p.Fell.Lines {
			if !p.Fell.Lines[i].Holds {
				pull = p.Fell.Lines[i]
				break
			}
		}
	}
	pull.Redirects, pull.AnchorM, pull.PretensionKn = nil, nil, 0
	for i := range v.Job.Site.Anchors {
		one, a := pull, &v.Job.Site.Anchors[i]
		one.Anchor = a.ID
		if a.Kind == job.AnchorVehicle && one.EffortKn == nil {
			one.By = job.EffortVehicle
		}
		list = append(list, one)
	}
	return list
}

// schools are other ways of cutting the same stump, each with its price by the sums of the hinge:
// what bends it, and what it holds sideways towards where it is loaded.
func (f *fellingOf) schools(v *Survey) []School {
	list := []School{}
	heavy := func(w *fell.HingeWood) float64 {
		if f.pulled.Tree.CogSideM < 0 {
			return w.SideCapacityKnm.ToLeft
		}
		return w.SideCapacityKnm.ToRight
	}
	was, held := f.wood.BendingKnm, heavy(&f.wood)
	change := func(by float64) string {
		switch by = 100 * (by - 1); {
		case by > 0.5:
			return fmt.Sprintf("%.0f %% more", by)
		case by < -0.5:
			return fmt.Sprintf("%.0f %% less", -by)
		}
		return "as much"
	}
	try := func(title string, vary func(*fell.HingeCut), and string) {
		cut := f.hinge
		vary(&cut)
		if len(cut.Faults("fell")) > 0 {
			return
		}
		w := cut.Solve()
		list = append(list, School{title, fmt.Sprintf("takes %s to bend and holds %s sideways; %s", change(w.BendingKnm/was), change(heavy(&w)/held), and)})
	}
	mean := f.wood.MeanThicknessM
	if f.hinge.ThicknessM.Left == f.hinge.ThicknessM.Right {
		// Load to the right pulls at the left edge: the wood goes there.
		tapered, side := fell.Thickness{Left: 1.5 * mean, Right: 0.5 * mean}, "left"
		if f.pulled.Tree.CogSideM < 0 {
			tapered, side = fell.Thickness{Left: 0.5 * mean, Right: 1.5 * mean}, "right"
		}
		try(fmt.Sprintf("Tapered, thick at its %s", side), func(c *fell.HingeCut) { c.ThicknessM = tapered }, "in wood that hinges well, and never alone against a heavy lean.")
	}
	if f.hinge.BoredM == 0 && f.hinge.Stump.CavityM == 0 {
		bored := f.wood.ChordM / 3
		try("Bored through a third", func(c *fell.HingeCut) { c.BoredM = bored }, "the heart cannot split up; two strips are left.")
	}
	if f.hinge.NicksM == 0 {
		nick := 0.03
		try(fmt.Sprintf("Nicked %s at both ends", units.Print(units.Diameter, v.System, nick)), func(c *fell.HingeCut) { c.NicksM = nick }, "the bark does not tear down the butt.")
	}
	if *f.set.OpeningDeg > 50 {
		list = append(list, School{"A narrow face of 45°", "less wood to cut; its hinge is gone from 45° on, and nothing steers it from there."})
	} else {
		list = append(list, School{"An open face of 70°", "its hinge steers it until it nearly lies; more wood to cut."})
	}
	if !f.set.UpsideDown {
		list = append(list, School{"A face upside down", "the waste comes off the stump, the butt keeps its length; it rests on the slope of the stump and slides from there."})
	}
	return list
}
