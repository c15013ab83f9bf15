package line

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/working"
)

// A Tagged body hangs from a point by one line and is drawn aside by another that pulls with a
// known force: a tag line in the hand. Lengths in m, forces in kN, z up.
type Tagged struct {
	WeightKn  float64
	Point     r3.Vec  // where its line comes from
	LineM     float64 // from there to its tie
	TieM      float64 // along the body from its cut
	CogM      float64
	TagM      float64
	Towards   r3.Vec // where the tag line leads to
	PullKn    float64
	AsItHangs r3.Vec // unit vector from its cut to its tip, where nothing turns it
}

// Drawn is where a tag line holds a body.
type Drawn struct {
	Tie, Cog, Tag r3.Vec
	Axis          r3.Vec  // unit vector from its cut to its tip
	LineKn        float64 // in its own line
	Pull          r3.Vec  // what the tag line does to it, kN
	AsideM        float64 // its tie off the plumb line through the point
}

// tagRounds bounds the search for where a tag line leads from.
const tagRounds = 400

// Solve finds where it hangs still: its line leads along the sum of its weight and the pull, and the
// body turns until both turn it no further. found is false where the pull draws it all the way to
// where the tag line leads.
func (t *Tagged) Solve() (d Drawn, found bool) {
	down := r3.Vec{Z: -t.WeightKn}
	d.Axis = t.AsItHangs
	d.Tie = r3.Add(t.Point, r3.Vec{Z: -t.LineM})
	d.Tag = d.Tie
	for range tagRounds {
		lead := r3.Sub(t.Towards, d.Tag)
		far := r3.Norm(lead)
		if far < 0.05 {
			return d, false
		}
		pull := r3.Scale(t.PullKn/far, lead)
		force := r3.Add(down, pull)
		d.LineKn = r3.Norm(force)
		if d.LineKn < 1e-9 {
			return d, false
		}
		tie := r3.Add(t.Point, r3.Scale(t.LineM/d.LineKn, force))
		turns := r3.Add(r3.Scale(t.CogM-t.TieM, down), r3.Scale(t.TagM-t.TieM, pull))
		axis := d.Axis
		if n := r3.Norm(turns); n > 1e-6*t.WeightKn {
			axis = r3.Scale(1/n, turns)
		}
		// Half way each round: what it changes changes where the tag line leads from.
		tie = r3.Scale(0.5, r3.Add(tie, d.Tie))
		between := r3.Add(axis, d.Axis)
		if n := r3.Norm(between); n > 1e-3 {
			axis = r3.Scale(1/n, between)
		}
		tag := r3.Add(tie, r3.Scale(t.TagM-t.TieM, axis))
		moved := r3.Norm(r3.Sub(tag, d.Tag)) + r3.Norm(r3.Sub(tie, d.Tie))
		d.Tie, d.Axis, d.Tag, d.Pull = tie, axis, tag, pull
		if moved < 1e-9 {
			break
		}
	}
	d.Cog = r3.Add(d.Tie, r3.Scale(t.CogM-t.TieM, d.Axis))
	d.AsideM = math.Hypot(d.Tie.X-t.Point.X, d.Tie.Y-t.Point.Y)
	// Where it went round in circles the line is not as long as it is.
	return d, math.Abs(r3.Norm(r3.Sub(d.Tie, t.Point))-t.LineM) < 1e-3
}

// Working writes the sum behind a place.
func (t *Tagged) Working(d Drawn) []working.Step {
	var sheet working.Sheet
	n := working.Figure
	across := math.Hypot(d.Pull.X, d.Pull.Y)
	sheet.Add("P", "pull at the tag line", "as given", t.PullKn, "kN", "as given")
	sheet.Add("Pₕ", "of it, level", "along the line from the piece to where it leads", across, "kN", "geometry")
	sheet.Add("V", "weight, and what of the pull leads down", fmt.Sprintf("W − P_z = %s − %s", n(t.WeightKn), n(d.Pull.Z)), t.WeightKn-d.Pull.Z, "kN", "statics")
	sheet.Add("T", "its own line then", "√(V² + Pₕ²)", d.LineKn, "kN", "statics")
	sheet.Add("a", "its tie off the plumb line through its block", fmt.Sprintf("L·Pₕ/T, L = %s m", n(t.LineM)), d.AsideM, "m", "statics")
	return sheet.Steps()
}
