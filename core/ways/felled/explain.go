package felled

import (
	"fmt"
	"slices"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/hold"
	"elkstay/core/working"
)

// Figures give what of a felling is drawn and said beside its ladder.
func (o *Felled) Figures(fs *course.Figures) {
	f := o.felling
	if f == nil {
		return
	}
	for i := range f.pulls {
		fs.Pulls = append(fs.Pulls, f.pulls[i].figures())
	}
	set := &f.set
	fs.Fell = &course.FellFigures{
		DiameterM: o.DiameterM, CavityM: o.CavityM, FaceDepthM: *set.FaceDepthM, OpeningDeg: *set.OpeningDeg, MouthM: f.mouth(), BackCutM: f.backCut(), UpsideDown: set.UpsideDown,
		LeftM: *set.LeftM, RightM: *set.RightM, BoredM: *set.BoredM, NicksM: *set.NicksM, BackUpM: *set.BackUpM, StrapM: set.StrapM, Wedged: set.Wedged,
		Hinge: f.wood, ForwardM: f.ahead, SideM: f.aside, WithinM: f.within, HeightM: f.pulled.Tree.CogHeightM, BalanceDeg: f.need.BalanceDeg, TipsAlone: f.need.TipsAlone,
		SideUsePct: 100 * f.side, FarthestM: o.farthest(), Steps: o.steps(f),
		Schools: o.schools(f), Circle: f.circle, ButtBackM: buttBack, ButtDeg: buttSpread, Beds: o.beds(), Straps: o.straps(),
	}
}

// Words are what is called, and what must be read with a felling.
func (o *Felled) Words() course.Words {
	f := o.felling
	if f == nil {
		return course.Words{}
	}
	list := f.pulled.Cautions(f.need)
	if !f.set.Pulled() {
		list = slices.DeleteFunc(list, func(said string) bool { return said == fell.KeepUp })
	}
	list = append(list, f.said...)
	return course.Words{Call: o.call(), Cautions: append(list, fmt.Sprintf("Nobody but who cuts within %.0f m of it; ways out at 45° behind. When its tip meets something the butt can come back over the stump (common practice).", f.circle))}
}

// call is what is called to the ground.
func (o *Felled) call() string {
	if o.felling.set.Pulled() {
		return "All clear: take up, cut, pull to " + o.Wind()
	}
	return "All clear: falls to " + o.Wind()
}

// Meets adds what it meets where it comes down to what must be read with it.
func (o *Felled) Meets(said string) {
	if o.felling != nil {
		o.felling.said = append(o.felling.said, said)
	}
}

// Working writes the sum behind a load of the felling that is of no single line.
func (o *Felled) Working(l *hold.Load, sheet *working.Sheet) {
	f := o.felling
	switch l.Part {
	case hold.PartPush:
		sheet.Append(f.push.Working(f.shove))
	case hold.PartWedge:
		sheet.Append(f.pulled.Working(f.need))
	case hold.PartHinge:
		sheet.Append(f.hinge.Working(f.wood))
	case hold.PartSpar:
		if f.under != nil {
			sheet.Add("F", "level on the top of the stem, as its sway multiplies it", "the top followed over its hinge by its own weight, the stem's first sway under it", f.under.pushKn, "kN", "equations of motion")
			sheet.Append(f.under.beam.Working(f.under.beam.Solve()))
		}
	case hold.PartHolder:
		sheet.Add("F", "pull of the gear that sits on it", "the gear's own rung at the peak, with its direction", l.PeakKn, "kN", "statics")
	}
}

// Contracted is the contract's sum behind such a load.
func (o *Felled) Contracted(l *hold.Load) (kind string, request any) {
	switch l.Part {
	case hold.PartHinge:
		return "hinge", &o.felling.hinge
	case hold.PartPush:
		return "push", o.felling.push
	case hold.PartSpar:
		if o.felling.under != nil {
			return "spar", &o.felling.under.beam
		}
	}
	return "", nil
}

// Beside is nothing more than what its loads say.
func (o *Felled) Beside(*hold.Load) []string { return nil }
