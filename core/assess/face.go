package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/fell"
	"elkstay/core/job"
	"elkstay/core/sight"
	"elkstay/core/working"
)

// A limb's hinge where nobody cuts it otherwise: a face of a quarter of its thickness, open so far,
// and a tenth left (common practice, no source).
const (
	limbFace  = 0.25
	limbHinge = 0.1
	limbOpens = 70 // degrees
)

// FaceFigures is how the face of a limb on a line is aimed: about halfway between where gravity
// pulls it and where its line leads it (common practice, no source).
type FaceFigures struct {
	TiltDeg    float64  `json:"tilt_deg" doc:"From straight down, round the limb"`
	Side       string   `json:"side" enum:",left,right" doc:"Looking out along the limb; empty: straight down"`
	BearingDeg float64  `json:"bearing_deg" doc:"Azimuth it looks to"`
	OpensDeg   float64  `json:"opens_deg"`
	TightDeg   *float64 `json:"tight_deg" doc:"How far it has turned when its line is tight; null: not before the face closes"`
	SideKnm    float64  `json:"side_knm" doc:"The most that loads its hinge sideways"`
	SideUsePct *float64 `json:"side_use_pct" doc:"Of what the hinge holds sideways; null: not known"`
	Said       string   `json:"said"`

	Working []working.Step `json:"working" nullable:"false"`
}

// hangsTo is which way a limb goes once it is on its line or its two: of its tie, or of its balance.
func (o *Outcome) hangsTo() (to r3.Vec, known bool) {
	switch {
	case o.ends != nil:
		h := &o.ends.course[0].hang
		return r3.Sub(o.ends.plane.spot(h.Cog, 0), o.Weight.at), true
	case o.pair != nil:
		return r3.Sub(o.carried.Way[0].At.Vec(), o.tie), true
	case o.DropCase != nil:
		long := r3.Norm(r3.Sub(o.tie, o.block)) + o.Settings.SlackM
		return r3.Sub(r3.Vec{X: o.block.X, Y: o.block.Y, Z: o.block.Z - long}, o.tie), true
	}
	return to, false
}

// aLine is one of the lines that hold a piece at its cut.
type aLine struct {
	tie, to r3.Vec
	tightKn float64 // as tight as it is made before the cut
}

// holdsIt lists the lines on a piece.
func (o *Outcome) holdsIt() []aLine {
	switch {
	case o.ends != nil:
		list := make([]aLine, 0, 2)
		for i, side := range o.ends.sides {
			end := [2]*job.End{&o.ends.set.Butt, &o.ends.set.Tip}[i]
			list = append(list, aLine{side.tie, side.block, job.Or(end.TightKn, 0)})
		}
		return list
	case o.pair != nil:
		return []aLine{{o.tie, o.block, 0}, {o.tie, o.pair.B.Vec(), 0}}
	}
	return []aLine{{o.tie, o.block, job.Or(o.pick.TightKn, 0)}}
}

// faceFigures aims the face of a limb that comes onto a line; nil: it is none, or nothing is known.
func (v *Survey) faceFigures(o *Outcome) *FaceFigures {
	lead, known := o.hangsTo()
	if o.pick.What != job.WhatLimb || !known {
		return nil
	}
	axis := r3.Unit(r3.Sub(o.tip, o.cut))
	across := func(to r3.Vec) r3.Vec { return r3.Sub(to, r3.Scale(r3.Dot(to, axis), axis)) }
	down, goes := across(r3.Vec{Z: -1}), across(lead)
	down, lies := direction(down, 0.05)
	if !lies {
		return nil // it stands upright: it goes as its stem does
	}
	right := r3.Cross(axis, down)
	// Looking out along it, what is to the right of straight down.
	right = r3.Scale(-1, right)
	turn := 0.0
	if _, leads := direction(goes, 0.05); leads {
		turn = math.Atan2(r3.Dot(goes, right), r3.Dot(goes, down))
	}
	f := &FaceFigures{TiltDeg: math.Abs(turn/2) * 180 / math.Pi, OpensDeg: limbOpens}
	sin, cos := math.Sincos(turn / 2)
	looks := r3.Add(r3.Scale(cos, down), r3.Scale(sin, right))
	switch {
	case f.TiltDeg < 0.5:
	case turn > 0:
		f.Side = "right"
	default:
		f.Side = "left"
	}
	f.BearingDeg = azimuthOf(heading(0.02, level(axis), level(looks)))
	// It turns about the hinge, which lies across where the face looks.
	hinge := r3.Cross(axis, looks)
	if o.DropCase != nil && o.ends == nil {
		long := r3.Norm(r3.Sub(o.tie, o.block)) + o.Settings.SlackM
		for deg := 0.0; deg <= limbOpens; deg++ {
			p := turned(hinge, radians(deg), o.cut)
			if r3.Norm(r3.Sub(p.place(r3.Sub(o.tie, o.cut)), o.block)) >= long-1e-6 && (deg > 0 || o.Settings.SlackM == 0) {
				tight := deg
				f.TightDeg = &tight
				break
			}
		}
	}
	// What loads it sideways: gravity off the way it looks, a line where it carries all of it or as tight
	// as it is made, and both at once.
	sideways := func(at, force r3.Vec) float64 {
		// What is nil is told as nil, whatever rounding leaves of it.
		return math.Round(1e9*r3.Dot(r3.Cross(r3.Sub(at, o.cut), force), looks)) / 1e9
	}
	weight := sideways(o.Weight.at, r3.Vec{Z: -o.weightKn()})
	line := 0.0
	f.SideKnm = math.Abs(weight)
	for _, one := range o.holdsIt() {
		lead, _ := direction(r3.Sub(one.to, one.tie), 0)
		pulls := sideways(one.tie, r3.Scale(max(o.weightKn(), one.tightKn), lead))
		line = larger(line, pulls)
		f.SideKnm = max(f.SideKnm, math.Abs(pulls), math.Abs(weight+pulls))
	}
	var sheet working.Sheet
	sheet.Add("θ", "between where gravity pulls and where its line leads it, round the limb", "both square to the limb", math.Abs(turn)*180/math.Pi, "°", "geometry")
	sheet.Add("τ", "the face looks half of that from straight down", "θ/2", f.TiltDeg, "°", working.Common)
	sheet.Add("M", "sideways on the hinge, the most of weight, line and both", fmt.Sprintf("|((r × F)·the way it looks)|: weight %s, line %s", working.Figure(weight), working.Figure(line)), f.SideKnm, "kN·m", "statics")
	cut := fell.HingeCut{Stump: fell.Stump{DiameterM: o.diameter}, FaceDepthM: limbFace * o.diameter, ThicknessM: fell.Thickness{Left: limbHinge * o.diameter, Right: limbHinge * o.diameter}}
	keeps := "what its hinge holds sideways is not known: neither is its species"
	if v.species != nil {
		cut.StrengthMpa = v.species.RuptureMPa
		wood := cut.Solve()
		sound, _ := v.soundness(v.LimbOf(o.pick), o.FromM)
		holds := min(wood.SideCapacityKnm.ToLeft, wood.SideCapacityKnm.ToRight) * sound
		use := 100 * f.SideKnm / holds
		f.SideUsePct = &use
		sheet.Add("C", "a hinge of a tenth holds sideways, to its first fibre", "bending of its wood", holds, "kN·m", "elastic bending; green strength from the Wood Handbook, from memory")
		keeps = fmt.Sprintf("sideways it is loaded to %.0f %% of what a hinge of a tenth holds", use)
		if use > 100 {
			keeps += ": it tears there before it turns, and goes where its line and its weight take it; aim it, or make the line lead its way"
		}
	}
	f.Working = sheet.Steps()
	says := "Face straight down"
	if f.Side != "" {
		says = fmt.Sprintf("Face %.0f° from straight down to the %s, looking %s", f.TiltDeg, f.Side, sight.Wind(f.BearingDeg))
	}
	switch {
	case o.ends != nil || o.pair != nil:
		says += fmt.Sprintf(", open %d°", limbOpens)
	case f.TightDeg == nil:
		says += fmt.Sprintf(", open %d°: it closes, and the hinge is gone, before the line is tight", limbOpens)
	case *f.TightDeg < 1:
		says += fmt.Sprintf(", open %d°: the line is on from the start", limbOpens)
	default:
		says += fmt.Sprintf(", open %d°: the line is tight at %.0f°, with the hinge still on", limbOpens, *f.TightDeg)
	}
	f.Said = says + "; " + keeps + "."
	return f
}
