package felled

import (
	"fmt"
	"math"

	"elkstay/core/gear"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
)

// keepsAt is how much a line that holds may come nearer its anchor and still be tight beside what it is stretched by, as a share of its length.
const keepsAt = 0.003

// tilts are the shares of the way until the face closes at which a line that holds is looked at.
const tilts = 40

// stiff is how much tension a line that holds takes for a metre, kN, by its rope at a tenth of its strength; 0: its rope is not known.
func (t *pullLine) stiff() float64 {
	if t.rig == nil || t.rig.Rope == nil {
		return 0
	}
	rope := &t.rig.Rope.Rope
	tenth := rope.BreakingKn / 10
	return tenth / max(1e-9, rope.Strain(tenth)*t.long())
}

// stretchedBy is the tension of a rope, kN, that is tight with one tension and then drawn out by so much of its length.
func stretchedBy(rope *gear.Rope, tightKn, share float64) float64 {
	want := rope.Strain(tightKn) + share
	if rope.Strain(rope.BreakingKn) <= want {
		return rope.BreakingKn
	}
	return search.Root(50, 0, rope.BreakingKn, func(kn float64) float64 { return rope.Strain(kn) - want })
}

// whileItGoes works out what becomes of the lines that hold while the tree goes over, until its face closes: one that leads from behind its hinge
// is drawn out, and takes as much more; one that leads from ahead of it comes slack, and leaves what it held to the others, or to the hinge. It
// is the most that is left to the hinge so, kN·m.
func (o *Felled) whileItGoes(f *felling) (most float64) {
	closes := space.Radians(min(90, *f.set.OpeningDeg))
	kept := 0.0
	loose := make([]bool, len(f.pulls))
	any := false
	for i := range f.pulls {
		t := &f.pulls[i]
		_, aside, _ := t.line.Arms()
		if !t.set.Holds || t.mid != nil {
			continue
		}
		long, from := t.long(), t.line.LengthAt(0)
		tight := max(t.needKn, t.set.PretensionKn)
		gives := keepsAt * long
		if t.rig != nil && t.rig.Rope != nil {
			gives += t.rig.Rope.Strain(tight) * long
		}
		out, slackAt := 0.0, -1.0
		for share := range search.Shares(tilts) {
			longer := t.line.LengthAt(closes*share) - from
			out = max(out, longer)
			if longer < -gives && slackAt < 0 {
				slackAt = closes * share
			}
		}
		if slackAt >= 0 && t.share > 0 {
			loose[i], any = true, true
			f.said = append(f.said, fmt.Sprintf("The line to %s comes slack from %.0f° on, as it leads from ahead of the hinge: what it held is left to the others, or to the hinge. Anchor it in line with the hinge.", t.anchor.Name, space.Degrees(slackAt)))
		} else if t.share > 0 {
			kept += t.share * aside
		}
		if out > keepsAt*long {
			o.drawnOut(f, t, out, tight)
		}
	}
	if !any {
		return 0
	}
	weightKn, off := f.pulled.Tree.MassKg*units.Gravity/1000, f.within+f.gustSide
	for _, aside := range [2]float64{f.aside - off, f.aside + off} {
		side := weightKn * aside
		if !opposed(kept, side) {
			most = search.Harder(most, side)
			continue
		}
		for i := range f.pulls {
			if t := &f.pulls[i]; t.set.Holds && !loose[i] {
				t.mostKn = max(t.mostKn, t.share*-side/kept)
			}
		}
	}
	return most
}

// drawnOut works out what a line that holds takes that is drawn out by so much, m, as far as what holds it lets it.
func (o *Felled) drawnOut(f *felling, t *pullLine, out, tight float64) {
	most := math.Inf(1)
	if t.rig != nil && t.rig.Rope != nil {
		most = stretchedBy(&t.rig.Rope.Rope, tight, out/t.long())
	}
	if t.givesKn > 0 {
		// What holds it lets it run.
		most = min(most, max(t.givesKn, tight))
	}
	said := fmt.Sprintf("The line to %s is drawn out by %s while it goes, as it leads from behind the hinge: let it out, or it stops the tree, breaks, or takes what holds it along.", t.anchor.Name, o.Height(out))
	f.said = append(f.said, said)
	if !math.IsInf(most, 1) {
		t.mostKn = max(t.mostKn, most)
	} else {
		t.drawn = true
	}
}
