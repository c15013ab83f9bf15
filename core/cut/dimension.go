package cut

import "elkstay/core/working"

// A Dimension is one measure of a cut.
type Dimension struct {
	Name   string  `json:"name"`
	LowM   float64 `json:"low_m"`
	HighM  float64 `json:"high_m"`
	Source string  `json:"source"`
}

const inch = 0.0254

// dimension gives the measures of a cut: common practice, no source.
func (v *view) dimension(r *Ranked) {
	r.Dimensions = []Dimension{}
	add := func(name string, low, high float64) {
		r.Dimensions = append(r.Dimensions, Dimension{name, low, high, working.Common})
	}
	d := v.DiameterM
	opening := 0.0
	switch r.Cut {
	case CutOpenFace, CutTapered, CutBored, CutNicked, CutStrap:
		opening = 75
	case CutNarrow:
		opening = 35
	}
	if opening > 0 {
		r.OpeningDeg = &opening
		shallow, deep := d/4, d/3
		if v.weak() {
			// Rotten centre: a shallow face, the hinge in sound wood.
			shallow, deep = d/5, d/4
		}
		add("face depth", shallow, deep)
		add("hinge thickness", 0.06*d, 0.10*d)
		add("hinge width", 0.7*d, 0.8*d)
		add("back cut above the apex", min(1*inch, 0.1*d), min(2*inch, 0.2*d))
		r.FinishAt = "from the back, level, so that you stand aside of the stem and clear of the butt"
	}
	switch r.Cut {
	case CutBored, CutStrap:
		add("strap", 0.08*d, 0.12*d)
		r.FinishAt = "at the strap, from below and behind, standing aside"
	case CutNicked:
		add("nick depth, each side", 0.05*d, 0.10*d)
	case CutSnap:
		spacing := stepSpacing(d)
		// No step is longer than the wood is thick.
		spacing = [2]float64{min(spacing[0], 0.4*d), min(spacing[1], 0.6*d)}
		add("spacing of the two cuts", spacing[0], spacing[1])
		add("depth of the first cut", 0.75*d, 0.8*d)
		add("overlap across the whole width", 0.1*d, 0.3*d)
		r.FinishAt = "stop when both cuts overlap, stow the saw, push with both hands"
	case CutTopTear:
		add("depth before it moves", 0.5*d, 0.9*d)
		r.FinishAt = "from above, in the union, standing above and aside of the tear"
	case CutUndercut:
		add("undercut depth", 0.2*d, 0.33*d)
		r.FinishAt = "from above, at or a little outside the undercut"
	case CutShelf:
		add("shelf", 0.1*d, 0.2*d)
		add("cut through, sawdust left in the kerf", d, d)
		r.FinishAt = "on the side away from the lift, with tension already on the line"
	case CutStraight:
		r.FinishAt = "from above, in one go"
	}
}

// stepSpacing is how far apart two overlapping cuts stand, by the diameter: about 3 in
// on thin branches, 2 in at 5 in, 1 to 1½ in on big limbs, nearly touching on big stems
// (common practice, no source).
func stepSpacing(d float64) [2]float64 {
	switch {
	case d <= 4*inch:
		return [2]float64{2.5 * inch, 3 * inch}
	case d <= 7*inch:
		return [2]float64{1.75 * inch, 2.25 * inch}
	case d <= 16*inch:
		return [2]float64{1 * inch, 1.5 * inch}
	}
	return [2]float64{0.1 * inch, 0.5 * inch}
}
