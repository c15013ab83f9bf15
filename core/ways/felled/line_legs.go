package felled

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/units"
)

// stretches says of every line how much to take out of it before the cut, and how far it follows.
func (f *felling) stretches(o *Felled) {
	// The light end of the weight goes alone last.
	alone, ever := f.aloneAt(o.Weight.Kg.Low)
	if !ever {
		alone = 90
	}
	for i := range f.pulls {
		t := &f.pulls[i]
		comes := t.line.LengthAt(0) - t.line.LengthAt(space.Radians(alone))
		if t.set.Holds {
			t.said = f.holdsStill(o, t, min(alone, 20))
			continue
		}
		if t.mid != nil {
			t.said = t.mid.said(o, f, t, alone)
			continue
		}
		if t.rig == nil || t.rig.Rope == nil || len(t.rig.Rope.Elongation) == 0 {
			t.said = "The stretch of its rope is not known: nobody can say how far it follows."
			continue
		}
		rope, long := t.rig.Rope.Rope, t.long()
		stretch := func(kn float64) float64 { return long * rope.Strain(kn) }
		tight := max(t.set.PretensionKn, t.needKn)
		spent, ends := t.line.SpentAt(stretch(tight))
		t.said = fmt.Sprintf("Take out %s of stretch before the cut: tight with %s.", o.Height(stretch(tight)), units.Print(units.Force, o.System, tight))
		if t.set.PretensionKn > 0 {
			spent, ends = t.line.SpentAt(stretch(t.set.PretensionKn))
			t.said = fmt.Sprintf("Made tight with %s: %s of stretch.", units.Print(units.Force, o.System, t.set.PretensionKn), o.Height(stretch(t.set.PretensionKn)))
			if t.set.PretensionKn < t.needKn {
				t.said += fmt.Sprintf(" The cut needs %s: %s more.", units.Print(units.Force, o.System, t.needKn), o.Height(stretch(t.needKn)-stretch(t.set.PretensionKn)))
			}
		}
		if alone <= 0 {
			t.said += " Its own weight bends the hinge from the first degree."
			continue
		}
		if ends && spent < alone {
			more := comes - (t.line.LengthAt(0) - t.line.LengthAt(space.Radians(spent)))
			t.said += fmt.Sprintf(" That pull is used up at %.1f°, the tree needs it to %.1f°: haul on, %s at the tree", spent, alone, o.Height(more))
			if system := pullingOf(t.set); system.more() {
				t.said += fmt.Sprintf(", %s at the effort", o.Height(more*system.travel()))
			}
			t.said += "."
		} else {
			t.said += fmt.Sprintf(" It follows until the tree goes alone, at %.1f°.", alone)
		}
	}
}

// holdsStill says how a line that holds tightens or slackens while the tree turns so far, degrees.
func (f *felling) holdsStill(o *Felled, t *pullLine, tilt float64) string {
	turns := t.line.LengthAt(space.Radians(tilt)) - t.line.LengthAt(0)
	does := "tightens"
	if turns < 0 {
		does = "slackens"
	}
	if math.Abs(turns) < 0.03 {
		return fmt.Sprintf("By %.0f° it changes by less than %s.", tilt, o.Height(0.03))
	}
	return fmt.Sprintf("By %.0f° it %s by %s: let out or take in by as much. An anchor in line with the hinge, square to the fall, keeps it still.", tilt, does, o.Height(math.Abs(turns)))
}

// legs are the straight parts of the lines of a felling, the tree standing. They end on the ground, or on what is beneath
// them.
func (f *felling) legs() (list []space.RopeLeg) {
	for i := range f.pulls {
		t := &f.pulls[i]
		// It begins at the tree, or at the weight that hangs from it.
		list = append(list, space.RopeLeg{From: t.tied, To: t.points[0].Vec(), Name: "the tree and " + t.points[0].Name, LeadsAway: true, ComesDown: true})
		for k := 1; k < len(t.points); k++ {
			list = append(list, space.RopeLeg{From: t.points[k-1].Vec(), To: t.points[k].Vec(), Name: t.points[k-1].Name + " and " + t.points[k].Name, LeadsAway: true, ComesDown: true})
		}
	}
	return list
}

// goesOver are its lines from the tree to their first turn as it goes over, level at last.
func (f *felling) goesOver(over r3.Vec) (list []space.RopeLeg) {
	axis := r3.Cross(r3.Vec{Z: 1}, over)
	for i := range f.pulls {
		t := &f.pulls[i]
		if t.mid != nil {
			continue
		}
		arm, first := r3.Sub(t.tied, f.middle), &t.points[1]
		parts := math.Ceil(r3.Norm(arm) * math.Pi / 2 / space.GoingOver)
		for share := range search.Shares(int(max(1, parts))) {
			tips := space.Turned(axis, math.Pi/2*share, f.middle)
			list = append(list, space.RopeLeg{From: tips.Place(arm), To: first.Vec(), Name: "the tree going over and " + first.Name, ComesDown: true, GoesOver: true})
		}
	}
	return list
}

// figures gives a line to be drawn and read.
func (t *pullLine) figures() course.PullLine {
	one := course.PullLine{ID: t.set.ID, Name: t.anchor.Name, Holds: t.set.Holds, NeedKn: t.needKn, PeakKn: t.mostKn, Said: t.said}
	onRest, onMost := t.onward()
	if t.mid != nil && t.mid.weighs() {
		one.Points, one.LegKn = append(one.Points, space.PointOf(t.tied)), append(one.LegKn, t.mostKn)
	}
	for i := range t.points {
		one.Points = append(one.Points, t.points[i].Point)
	}
	for i := range t.loaded.Legs {
		one.LegKn = append(one.LegKn, max(onRest*t.counted.Legs[i].TensionKn, onMost*t.loaded.Legs[i].TensionKn))
	}
	if t.givesKn > 0 {
		gives := t.givesKn
		one.GivesKn = &gives
	}
	return one
}

// followed is the line for a fall followed through time; why says what is missing for it.
func (t *pullLine) followed() (l fell.FallLine, why string) {
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
	if t.effortKn == 0 {
		return l, "Nobody has said what pulls or holds the line: the fall cannot be followed."
	}
	parts := pullingOf(t.set).travel()
	efficiency := pullingOf(t.set).gain(pulleysGive) / parts / t.counted.DeviceKn
	l.LeadM, l.Efficiency, l.PretensionKn = t.long()-t.counted.Legs[0].LengthM, &efficiency, t.set.PretensionKn
	stall := t.effortKn * parts
	if t.set.Holds {
		l.HoldKn = &stall
	} else {
		l.Haul = &fell.HaulSpeed{SpeedMS: *t.set.HaulMS / parts, StallKn: stall}
	}
	return l, ""
}
