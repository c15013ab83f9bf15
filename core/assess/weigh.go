package assess

import (
	"fmt"
	"math"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/timber"
	"elkstay/core/wood"
	"elkstay/core/working"
)

// weighing is what a piece's own load is worked out from.
type weighing struct{ *space.Piece }

// Beside says what must stand beside a piece's weight.
func (w weighing) Beside(*hold.Load) []string {
	o := w.Piece
	if o.Weighed {
		return nil
	}
	if i := o.Limb(); i >= 0 {
		g := &o.Limbs[i]
		return timber.Limb{Group: o.Group, BasalDiameterM: g.DiameterAt(o.FromM)}.Cautions()
	}
	return o.Stem.Cautions(o.Measured.Wood, o.FromM, o.ToM)
}

// Working writes the sum behind a piece's weight.
func (w weighing) Working(_ *hold.Load, sheet *working.Sheet) {
	o, now := w.Piece, w.Now
	n := working.Figure
	i := o.Limb()
	switch {
	case o.Weighed:
		sheet.Add("m", "weighed", "as the scale gave it, ±2 %", o.Weight.Kg.Likely, "kg", "the scale")
		return
	case i < 0:
		sheet.Append(o.Stem.Working(o.FromM, o.ToM, o.Density, o.Source, timber.Frustum))
		for k := range o.Growing(-1, o.FromM, math.Inf(1), now) {
			sheet.Add("+m", o.Limbs[k].Title()+", with its brush", "as a limb", o.LimbMass(k, 0, now).Kg.Likely, "kg", "biomass table, from memory")
		}
	default:
		g := &o.Limbs[i]
		d := g.DiameterAt(o.FromM)
		sheet.Add("d", "diameter at the cut", fmt.Sprintf("tapering evenly from %s m at its base", n(g.DiameterM)), d, "m", working.Common)
		end := now.Tips[i]
		bare, _ := o.Bare(g, o.FromM, end)
		sheet.Add("B", "bare wood of the part, by its volume", fmt.Sprintf("π/12·L·(D₁²+D₁D₂+D₂²)·ρ, L = %s m, D₂ = %s m", n(end-o.FromM), n(g.DiameterAt(end))), bare.Likely, "kg", o.Source)
		if g.Brush != job.BrushBare {
			limb := timber.Limb{Group: o.Group, BasalDiameterM: g.DiameterM, LengthM: g.LengthM, MoisturePct: o.MoisturePct, InLeaf: o.Measured.InLeaf}
			sheet.Append(limb.Working(limb.Weigh()))
			brush := o.Brush(i)
			begins := space.BrushFrom * g.LengthM
			share := max(0, end-max(o.FromM, begins)) / (g.LengthM - begins)
			sheet.Add("b", "its share of the brush: what the table gives beyond bare wood and sub-limbs, on the outer two thirds", fmt.Sprintf("%s·%s", n(share), n(brush.Likely)), share*brush.Likely, "kg", working.Common)
		}
		for k := range o.Growing(i, o.FromM, end, now) {
			sheet.Add("+m", o.Limbs[k].Title()+", which grows on it", "as a limb", o.LimbMass(k, 0, now).Kg.Likely, "kg", "biomass table, from memory")
		}
	}
	if o.Pick.MassKg != nil {
		sheet.Add("m", "judged by eye in place of the survey", "as given", o.Weight.Kg.Likely, "kg", "as given")
	} else {
		stem, limbs := o.Taught.Stem, o.Taught.Limbs
		ofStem, ofLimbs := stem != nil && o.Weight.Stem.Likely > 0, limbs != nil && o.Weight.Stem.Likely < o.Weight.Kg.Likely
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
}

// Contracted is a section of an upright stem as the kind piece has it.
func (w weighing) Contracted(*hold.Load) (kind string, request any) {
	o := w.Piece
	if o.Pick.What != job.WhatStem || o.Weighed || o.Pick.MassKg != nil || o.Taught.Stem != nil || !o.Upright() {
		return "", nil
	}
	stem := o.StemMember(o.FromM, &space.Standing{Top: o.ToM}).Stem
	for _, lump := range o.Stem.Attached {
		if lump.AtM >= o.FromM && lump.AtM <= o.ToM {
			lump.AtM -= o.FromM
			stem.Attached = append(stem.Attached, lump)
		}
	}
	return "piece", &struct {
		Wood wood.Wood `json:"wood"`
		timber.Stem
	}{o.Measured.Wood, stem}
}
