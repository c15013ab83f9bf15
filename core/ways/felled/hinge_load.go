package felled

import (
	"fmt"
	"math"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
)

// hingeLoad holds the most that turns the tree sideways, kN·m, against the hinge: as a force at its balance, so that it stands on the ladder.
func (o *Felled) hingeLoad(f *felling, most float64) {
	sound, why := hold.Soundness(o.Tree, -1, o.FromM)
	f.sound = sound
	capacity := f.wood.SideCapacityKnm.ToRight
	if most < 0 {
		capacity = f.wood.SideCapacityKnm.ToLeft
	}
	arm := f.pulled.Tree.CogHeightM
	holds := capacity * sound / o.Limits.WoodFactor
	hinge := hold.Load{Part: hold.PartHinge, RestKn: math.Abs(f.need.Hinge.SideKnm) / arm, PeakKn: math.Abs(most) / arm, Rated: policy.Rated{Known: true, Decided: hold.ByWood,
		Limit: gear.Limit{Kn: holds / arm, Source: "elastic bending of the hinge's wood; green strength from the Wood Handbook, from memory",
			Reason: fmt.Sprintf("%.3g of %.3g kN·m sideways, strength over %g, as a force at its balance, %s up", math.Round(1e6*math.Abs(most))/1e6, holds, o.Limits.WoodFactor, o.Height(arm))}}}
	if why != "" {
		hinge.Say(fmt.Sprintf("%.0f %% of its strength are counted there, for %s. Such wood is never relied on alone: hold it with lines.", 100*sound, why))
	}
	for _, said := range f.hinge.Cautions(f.wood) {
		hinge.Say(said)
	}
	o.load(hinge)
	f.side = math.Abs(most) / (capacity * sound)
}

// sideways is the most that the lines leave to the hinge sideways, kN·m, and works out what they
// must hold then: with the pull that is needed; with all that the efforts may pull, each side by itself, which a line
// that holds takes where it leads against it; with no pull, as the tree outruns it; and with the lines that hold as tight as
// they are made.
func (f *felling) sideways() float64 {
	most, tight, holds := f.need.Hinge.SideKnm, f.need.Hinge.SideKnm, 0.0
	// Of several that pull, one may stop or come slack while another goes on: what leads to either side by itself, with nothing beside it
	// to the other.
	var pulls [2]float64
	for i := range f.pulls {
		t := &f.pulls[i]
		_, aside, _ := t.line.Arms()
		if t.set.Holds {
			t.needKn = t.share * f.need.RetainerKn
			tight += max(0, t.set.PretensionKn-t.needKn) * aside
			holds += t.share * aside
			continue
		}
		t.needKn = t.share * f.need.PullKn
		if by := max(t.needKn, t.mostKn) * aside; by < 0 {
			pulls[0] += by
		} else {
			pulls[1] += by
		}
	}
	most = search.Harder(most, tight)
	weightKn, off := f.pulled.Tree.MassKg*units.Gravity/1000, f.within+f.gustSide
	// Its balance may stand to either side of where it likely is: what holds it on one leaves it to the hinge on the other.
	for _, aside := range [2]float64{f.aside - off, f.aside + off} {
		for _, pull := range pulls {
			side := weightKn*aside + pull
			if !opposed(holds, side) {
				most = search.Harder(most, side)
				continue
			}
			for i := range f.pulls {
				if t := &f.pulls[i]; t.set.Holds {
					t.mostKn = max(t.mostKn, t.share*-side/holds)
				}
			}
		}
	}
	for i := range f.pulls {
		if t := &f.pulls[i]; t.mid != nil {
			// To whichever side it is pulled, it may be the worse one.
			most += math.Copysign(t.mid.aside*t.line.AttachHeightM, most)
		}
	}
	return most
}

// mouth is how far the face opens at the bark, m.
func (f *felling) mouth() float64 {
	return *f.set.FaceDepthM * math.Tan(space.Radians(min(85, *f.set.OpeningDeg)))
}

// backCut is how long the back cut is at the most, a strap left out of it, m.
func (f *felling) backCut() float64 { return max(0, f.wood.BackCutM-job.Or(f.set.StrapM, 0)) }

// SideUse is the share of what the hinge holds sideways, before the crew's factor.
func (o *Felled) SideUse() float64 { return o.felling.side }
