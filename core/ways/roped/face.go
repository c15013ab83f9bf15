package roped

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/fell"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/search"
	"elkstay/core/sight"
	"elkstay/core/space"
	"elkstay/core/working"
)

// A limb's hinge where nobody cuts it otherwise: a face of a quarter of its thickness, open so far,
// and a tenth left (common practice, no source).
const (
	limbFace  = 0.25
	limbHinge = 0.1
	limbOpens = 70 // degrees
)

// A Holding is one of the lines that hold a piece at its cut.
type Holding struct {
	Tie, To r3.Vec
	TightKn float64 // as tight as it is made before the cut
}

// faceFigures aims the face of a limb that comes onto its line; nil: it is none, or nothing is known.
func (o *Roped) faceFigures() *course.FaceFigures {
	switch {
	case o.pair != nil:
		return o.Face(r3.Sub(o.carried.Way[0].At.Vec(), o.Tie), []Holding{{o.Tie, o.Block, 0}, {o.Tie, o.pair.B.Vec(), 0}})
	case o.DropCase != nil:
		return o.Face(r3.Sub(r3.Vec{X: o.Block.X, Y: o.Block.Y, Z: o.Block.Z - o.tightM()}, o.Tie), []Holding{{o.Tie, o.Block, job.Or(o.Pick.TightKn, 0)}})
	}
	return nil
}

// tightM is how far the tie is from the block when the line is tight, m.
func (o *Roped) tightM() float64 { return r3.Norm(r3.Sub(o.Tie, o.Block)) + o.Settings.SlackM }

// Face aims the face of a limb, which goes a way once it is on the lines that hold it; nil: it is no limb, or stands upright
// and goes as its stem does.
func (o *Roped) Face(goesTo r3.Vec, lines []Holding) *course.FaceFigures {
	if o.Pick.What != job.WhatLimb {
		return nil
	}
	axis := o.Heads()
	across := func(to r3.Vec) r3.Vec { return r3.Sub(to, r3.Scale(r3.Dot(to, axis), axis)) }
	down, lies := space.Direction(across(r3.Vec{Z: -1}), 0.05)
	if !lies {
		return nil
	}
	goes := across(goesTo)
	// Looking out along it, what is to the right of straight down.
	right := r3.Scale(-1, r3.Cross(axis, down))
	turn := 0.0
	if _, leads := space.Direction(goes, 0.05); leads {
		turn = math.Atan2(r3.Dot(goes, right), r3.Dot(goes, down))
	}
	f := &course.FaceFigures{TiltDeg: math.Abs(turn/2) * 180 / math.Pi, OpensDeg: limbOpens}
	sin, cos := math.Sincos(turn / 2)
	looks := r3.Add(r3.Scale(cos, down), r3.Scale(sin, right))
	switch {
	case f.TiltDeg < 0.5:
	case turn > 0:
		f.Side = "right"
	default:
		f.Side = "left"
	}
	f.BearingDeg = space.AzimuthOf(space.Heading(0.02, space.Level(axis), space.Level(looks)))
	if o.DropCase != nil {
		// It turns about the hinge, which lies across where the face looks.
		f.TightDeg = o.tightAt(r3.Cross(axis, looks))
	}
	weight, line := o.sideways(f, looks, lines)
	var sheet working.Sheet
	sheet.Add("θ", "between where gravity pulls and where its line leads it, round the limb", "both square to the limb", math.Abs(turn)*180/math.Pi, "°", "geometry")
	sheet.Add("τ", "the face looks half of that from straight down", "θ/2", f.TiltDeg, "°", working.Common)
	sheet.Add("M", "sideways on the hinge, the most of weight, line and both", fmt.Sprintf("|((r × F)·the way it looks)|: weight %s, line %s", working.Figure(weight), working.Figure(line)), f.SideKnm, "kN·m", "statics")
	keeps := o.hingeKeeps(f, &sheet)
	f.Working = sheet.Steps()
	f.Said = faceSaid(f, len(lines) == 2) + "; " + keeps + "."
	return f
}

// tightAt is how far a limb has turned about its hinge when its line is tight, degrees; nil: not before its face closes.
func (o *Roped) tightAt(hinge r3.Vec) *float64 {
	for deg := 0.0; deg <= limbOpens; deg++ {
		p := space.Turned(hinge, space.Radians(deg), o.Cut)
		if r3.Norm(r3.Sub(p.Place(r3.Sub(o.Tie, o.Cut)), o.Block)) >= o.tightM()-1e-6 && (deg > 0 || o.Settings.SlackM == 0) {
			return &deg
		}
	}
	return nil
}

// sideways works out what loads the hinge of a face sideways: gravity off the way it looks, a line where it carries all of it or
// as tight as it is made, and both at once; it gives what weight and line do by themselves, kN·m.
func (o *Roped) sideways(f *course.FaceFigures, looks r3.Vec, lines []Holding) (weight, line float64) {
	side := func(at, force r3.Vec) float64 {
		// What is nil is told as nil, whatever rounding leaves of it.
		return math.Round(1e9*r3.Dot(r3.Cross(r3.Sub(at, o.Cut), force), looks)) / 1e9
	}
	weight = side(o.Weight.At, r3.Vec{Z: -o.WeightKn()})
	f.SideKnm = math.Abs(weight)
	for _, one := range lines {
		lead, _ := space.Direction(r3.Sub(one.To, one.Tie), 0)
		pulls := side(one.Tie, r3.Scale(max(o.WeightKn(), one.TightKn), lead))
		line = search.Harder(line, pulls)
		f.SideKnm = max(f.SideKnm, math.Abs(pulls), math.Abs(weight+pulls))
	}
	return weight, line
}

// hingeKeeps holds the side load of a face against what a hinge of a tenth holds, and says so.
func (o *Roped) hingeKeeps(f *course.FaceFigures, sheet *working.Sheet) string {
	if o.Species == nil {
		return "what its hinge holds sideways is not known: neither is its species"
	}
	under := o.UnderBark(o.DiameterM)
	cut := fell.HingeCut{Stump: fell.Stump{DiameterM: under}, FaceDepthM: limbFace * under, ThicknessM: fell.Thickness{Left: limbHinge * under, Right: limbHinge * under}, StrengthMpa: o.Species.RuptureMPa}
	wood := cut.Solve()
	sound, _ := hold.Soundness(o.Tree, o.Limb(), o.FromM)
	holds := min(wood.SideCapacityKnm.ToLeft, wood.SideCapacityKnm.ToRight) * sound
	use := 100 * f.SideKnm / holds
	f.SideUsePct = &use
	sheet.Add("C", "a hinge of a tenth holds sideways, to its first fibre", "bending of its wood", holds, "kN·m", "elastic bending; green strength from the Wood Handbook, from memory")
	keeps := fmt.Sprintf("sideways it is loaded to %.0f %% of what a hinge of a tenth holds", use)
	if use > 100 {
		keeps += ": it tears there before it turns, and goes where its line and its weight take it; aim it, or make the line lead its way"
	}
	return keeps
}

// faceSaid is how a face is to look, and where the line comes on; two: of two lines nobody says which.
func faceSaid(f *course.FaceFigures, two bool) string {
	says := "Face straight down"
	if f.Side != "" {
		says = fmt.Sprintf("Face %.0f° from straight down to the %s, looking %s", f.TiltDeg, f.Side, sight.Wind(f.BearingDeg))
	}
	says += fmt.Sprintf(", open %d°", limbOpens)
	switch {
	case two:
	case f.TightDeg == nil:
		says += ": it closes, and the hinge is gone, before the line is tight"
	case *f.TightDeg < 1:
		says += ": the line is on from the start"
	default:
		says += fmt.Sprintf(": the line is tight at %.0f°, with the hinge still on", *f.TightDeg)
	}
	return says
}
