package roped

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/hold"
	"elkstay/core/space"
	"elkstay/core/spar"
)

// Moments are the forces of its gear on what that sits on, at every moment of its way that may load it most.
func (o *Roped) Moments() (moments []hold.Moment) {
	weight := o.bearsKn()
	var always hold.Moment
	for i := range o.Rig.Redirects {
		turn := &o.Path.Points[i+1]
		always = append(always, hold.Force{Place: &o.Rig.Redirects[i].Place, At: o.Points[i+2].Vec(), Kn: r3.Scale(turn.ResultantKn*o.Catch.LinePeakKn, turn.Direction.Vec()), RestKn: turn.ResultantKn * weight})
	}
	if !o.Rig.Device.None {
		last := len(o.Points) - 1
		up, _ := space.Direction(r3.Sub(o.Points[last-1].Vec(), o.Points[last].Vec()), 0)
		always = append(always, hold.Force{Place: o.Rig.Device.Place, At: o.Points[last].Vec(), Kn: r3.Scale(o.Catch.DevicePeakKn, up), RestKn: weight * o.Ratio()})
	}
	if o.pair != nil {
		for k := range o.carried.Way {
			both := o.onPoints(k)
			// It may be held anywhere: what pulls there is at rest.
			moments = append(moments, append(slices.Clone(always),
				hold.Force{Place: o.Rig.Block.Place, At: o.Block, Kn: both[0], RestKn: r3.Norm(both[0]), Leads: true},
				hold.Force{Place: &o.second.Place, At: o.pair.B.Vec(), Kn: both[1], RestKn: r3.Norm(both[1]), Leads: true}))
		}
		return append(moments, o.comes.moment(o, slices.Clone(always)))
	}
	for _, force := range o.onBlock() {
		moments = append(moments, append(slices.Clone(always), hold.Force{Place: o.Rig.Block.Place, At: o.Block, Kn: force, RestKn: o.Path.Points[0].ResultantKn * weight, Leads: true}))
	}
	if o.besides != nil {
		moments = o.besides.moments(o, moments)
	}
	return moments
}

// onBlock are the forces on the block at the peak, kN: of one of two lines at every moment of its way; on a swing as the
// line leads off furthest to either side, too; with what a tag line draws aside, and without.
func (o *Roped) onBlock() []r3.Vec {
	block := &o.Path.Points[0]
	forces := []r3.Vec{r3.Scale(block.ResultantKn*o.Catch.LinePeakKn, block.Direction.Vec())}
	if o.Leads != nil {
		forces = o.Leads
	}
	if o.arc != nil {
		// As much more as the line takes more than a taut one.
		side, _ := space.Direction(space.Level(r3.Sub(o.Tie, o.Block)), 0)
		off := r3.Scale(max(1, o.Catch.LinePeakKn/o.arc.LineKn)*sidePull(o.WeightKn(), space.Radians(o.arc.StartDeg)), side)
		forces = []r3.Vec{r3.Add(forces[0], off), r3.Sub(forces[0], off)}
	}
	if o.aside != (r3.Vec{}) {
		for _, force := range forces {
			forces = append(forces, r3.Add(force, o.aside))
		}
	}
	return forces
}

// onPoints are the forces on the blocks of two points at a place of the way between them, kN: of the line
// to the piece and of its lead, straight down, which is hauled in at the second.
func (o *Roped) onPoints(k int) [2]r3.Vec {
	c := &o.carried.Way[k]
	along, _ := space.Direction(space.Level(r3.Sub(o.pair.B.Vec(), o.pair.A.Vec())), 0)
	off := func(deg, kn, lead float64, way r3.Vec) r3.Vec {
		force := r3.Add(r3.Scale(math.Cos(space.Radians(deg)), way), r3.Vec{Z: -math.Sin(space.Radians(deg)) - lead})
		return r3.Scale(kn/r3.Norm(force), force)
	}
	r := *o.pair.Efficiency
	return [2]r3.Vec{r3.Add(off(c.AngleADeg, c.AnchorAKn, r, along), o.aside), off(c.AngleBDeg, c.AnchorBKn, 1/r, r3.Scale(-1, along))}
}

// sparLoad is what bends the stem, and what it feels.
type sparLoad struct {
	beam  spar.Spar
	worst spar.Worst
}

// sparLoads works out what the stem that stays feels of all the gear that sits on the tree, at the worst of
// its moments.
func (o *Roped) sparLoads(seats [][]hold.Seat, peak, resting float64) {
	wood := o.Wood(o.Tree)
	if _, own := wood.Seated(o.Rig.Block.Place); !own {
		peak, resting = o.Catch.DevicePeakKn, o.bearsKn()*o.Ratio()
	}
	l := hold.Load{Part: hold.PartSpar, RestKn: resting, PeakKn: peak, Why: "the species is not known, so neither is the stem's strength", From: o}
	if o.Species == nil {
		o.Loads = append(o.Loads, l)
		return
	}
	beam, worst, at, why := wood.Hardest(seats, min(o.StandsToM, o.Stem.Top()), space.Towards(o.Settings.FallTowardsDeg), o.Without())
	o.spar = &sparLoad{beam, worst}
	l.Rated = wood.ByBending(peak, worst)
	if why != "" {
		l.Say(why)
	}
	l.When = o.when(at, len(seats))
	o.Loads = append(o.Loads, l)
}

// when is at which of so many moments of its gear something is loaded most; "": as it hangs.
func (o *Roped) when(moment, moments int) string {
	if o.besides == nil {
		return ""
	}
	if first := moments - len(o.besides.worst); moment >= first {
		return o.besides.said(o, moment-first)
	}
	return "as the piece hangs at its peak"
}

// sidePull is the most that a piece pulls its block sideways while it swings down from an angle
// (radians from straight down), kN: of W(3cos θ − 2cos θ₀)·sin θ, which is most where
// 6cos²θ − 2cos θ₀·cos θ − 3 = 0, or at its start.
func sidePull(weightKn, start float64) float64 {
	from := math.Cos(start)
	sin, cos := math.Sincos(min(start, math.Acos((from+math.Sqrt(from*from+18))/6)))
	return weightKn * (3*cos - 2*from) * sin
}
