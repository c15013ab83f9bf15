package felled

import (
	"fmt"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/units"
)

// steps says what to cut, in order, with its measures.
func (o *Felled) steps(f *felling) []string {
	set := &f.set
	tape := func(m float64) string { return units.Print(units.Diameter, o.System, m) }
	at := o.Height(o.FromM)
	var list []string
	say := func(format string, args ...any) { list = append(list, fmt.Sprintf(format, args...)) }
	for i := range f.pulls {
		if t := &f.pulls[i]; t.set.Holds {
			say("Set the line that holds, from %s to %s.", o.Height(t.set.AtM), t.anchor.Name)
		} else {
			if t.mid != nil && t.mid.weighs() {
				say("Set the line from %s to %s and make it fast, with %s.", o.Height(t.set.AtM), t.anchor.Name, t.mid.says)
				continue
			}
			tight := max(t.set.PretensionKn, t.needKn)
			say("Set the line that pulls, from %s to %s, and make it tight with %s.", o.Height(t.set.AtM), t.anchor.Name, units.Print(units.Force, o.System, tight))
		}
	}
	face := fmt.Sprintf("Face: %s deep, open %.0f°, %s at the bark; level cut at %s", tape(*set.FaceDepthM), *set.OpeningDeg, tape(f.mouth()), at)
	if set.UpsideDown {
		face += ", the sloping cut beneath it"
	}
	say("%s; it looks to %s (%.0f°).", face, o.Wind(), o.Settings.FallTowardsDeg)
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
	back := fmt.Sprintf("Back cut at %s, %s long at the most: %s", o.Height(o.FromM+*set.BackUpM), tape(f.backCut()), hinge)
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
		say("Saw out, away at 45° behind; call: %s", o.call())
	} else {
		say("Away at 45° behind as it moves.")
	}
	return list
}

// schools are other ways of cutting the same stump, each with its price by the sums of the hinge:
// what bends it, and what it holds sideways towards where it is loaded.
func (o *Felled) schools(f *felling) []course.School {
	list := []course.School{}
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
		list = append(list, course.School{Title: title, Said: fmt.Sprintf("takes %s to bend and holds %s sideways; %s", change(w.BendingKnm/was), change(heavy(&w)/held), and)})
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
		try(fmt.Sprintf("Nicked %s at both ends", units.Print(units.Diameter, o.System, nick)), func(c *fell.HingeCut) { c.NicksM = nick }, "the bark does not tear down the butt.")
	}
	if *f.set.OpeningDeg > 50 {
		list = append(list, course.School{Title: "A narrow face of 45°", Said: "less wood to cut; its hinge is gone from 45° on, and nothing steers it from there."})
	} else {
		list = append(list, course.School{Title: "An open face of 70°", Said: "its hinge steers it until it nearly lies; more wood to cut."})
	}
	if !f.set.UpsideDown {
		list = append(list, course.School{Title: "A face upside down", Said: "the waste comes off the stump, the butt keeps its length; it rests on the slope of the stump and slides from there."})
	}
	return list
}
