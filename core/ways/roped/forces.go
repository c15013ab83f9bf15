package roped

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
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
			gear := append(slices.Clone(always), o.acrossGear(o.carried.Way[k].BKn, true)...)
			moments = append(moments, append(gear,
				hold.Force{Place: o.Rig.Block.Place, At: o.Block, Kn: both[0], RestKn: r3.Norm(both[0]), Leads: true},
				hold.Force{Place: &o.second.Place, At: o.pair.B.Vec(), Kn: both[1], RestKn: r3.Norm(both[1]), Leads: true}))
		}
		return append(moments, o.comes.moment(o, append(slices.Clone(always), o.acrossGear(o.comes.peakKn[1], false)...)))
	}
	for m, force := range o.onBlock() {
		gear := slices.Clone(always)
		if n := len(o.pulls); n > 0 && o.Leads == nil {
			// What turns and holds the line has as much less of it then.
			for i := range gear {
				gear[i].Kn = r3.Scale(o.pulls[m%n].Kn/o.Catch.LinePeakKn, gear[i].Kn)
			}
		}
		moments = append(moments, append(gear, hold.Force{Place: o.Rig.Block.Place, At: o.Block, Kn: force, RestKn: o.Path.Points[0].ResultantKn * weight, Leads: true}))
	}
	if o.besides != nil {
		moments = o.besides.moments(o, moments)
	}
	return moments
}

// onBlock are the forces on the block at the peak, kN: of one of two lines at every moment of its way; on a swing whenever the line pulls
// hardest one way or another; with what a tag line draws aside, and without.
func (o *Roped) onBlock() []r3.Vec {
	block := &o.Path.Points[0]
	forces := []r3.Vec{r3.Scale(block.ResultantKn*o.Catch.LinePeakKn, block.Direction.Vec())}
	if o.Leads != nil {
		forces = o.Leads
	}
	if len(o.pulls) > 0 && o.Leads == nil {
		forces = forces[:0]
		for _, p := range o.pulls {
			forces = append(forces, swaying(o.sways, o.pulledAt(p)))
		}
	}
	if o.aside != (r3.Vec{}) {
		for _, force := range forces {
			forces = append(forces, r3.Add(force, o.aside))
		}
	}
	return forces
}

// onPoints are the forces on the blocks of two points at a place of the way between them, kN: of the line
// to the piece and of its lead, the first's let out, the second's hauled in.
func (o *Roped) onPoints(k int) [2]r3.Vec {
	c := &o.carried.Way[k]
	along, _ := space.Direction(space.Level(r3.Sub(o.pair.B.Vec(), o.pair.A.Vec())), 0)
	off := func(deg, kn float64, way, lead r3.Vec) r3.Vec {
		sin, cos := math.Sincos(space.Radians(deg))
		return r3.Scale(kn, r3.Add(r3.Add(r3.Scale(cos, way), r3.Vec{Z: -sin}), lead))
	}
	return [2]r3.Vec{r3.Add(off(c.AngleADeg, c.AKn, along, o.leadPull()), o.aside), off(c.AngleBDeg, c.BKn, r3.Scale(-1, along), o.farLead(true))}
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
	switch {
	case o.besides != nil:
		if first := moments - len(o.besides.worst); moment >= first {
			return o.besides.said(o, moment-first)
		}
		return "as the piece hangs at its peak"
	case len(o.pulls) > 0 && o.Leads == nil:
		off := o.pulls[moment%len(o.pulls)].OffDeg
		switch {
		case off > SwingsFrom:
			return fmt.Sprintf("as it swings down, its line %.0f° out", off)
		case off < -SwingsFrom:
			return fmt.Sprintf("as it swings up beyond its block, its line %.0f° out", -off)
		}
		return "as it swings through beneath its block"
	}
	return ""
}

// swingPulls are the moments of a swing at which its line pulls hardest one way or another, none softer than it is caught; nil: it does not swing.
func (o *Roped) swingPulls() []drop.Pull {
	if o.swung == nil {
		return nil
	}
	pulls := slices.Clone(o.swings)
	side, _ := space.Direction(space.Level(r3.Sub(o.Tie, o.Block)), 0)
	lead := o.leadPull()
	still := 0.0
	for _, p := range pulls {
		still = max(still, r3.Norm(space.Level(o.pulledAt(p))))
	}
	bent := o.swung.Bends(o.hold, drop.Holder{OutKn: r3.Dot(lead, side), AsideKn: r3.Dot(lead, r3.Cross(side, r3.Vec{Z: 1})), Sways: o.swaysAtBlock()})
	o.sways = bent / max(1e-9, still)
	hardest := 0.0
	for _, p := range pulls {
		hardest = max(hardest, p.Kn)
	}
	// A line made tight, and one of two that share, see other than one that a piece swings off by itself.
	if harder := o.Catch.LinePeakKn / max(1e-9, hardest); math.Abs(harder-1) > 1e-9 {
		for i := range pulls {
			pulls[i].Kn *= harder
		}
	}
	return pulls
}

// pulledAt is the force on the block at a moment of a swing, kN: of the line to the piece, and of what it lets through to its lead.
func (o *Roped) pulledAt(p drop.Pull) r3.Vec {
	side, _ := space.Direction(space.Level(r3.Sub(o.Tie, o.Block)), 0)
	sin, cos := math.Sincos(space.Radians(p.OffDeg))
	return r3.Scale(p.Kn, r3.Add(r3.Add(r3.Scale(sin, side), r3.Vec{Z: -cos}), o.leadPull()))
}

// leadPull is the force of the lead on the block for every kN of the line: what the block's resultant has besides a piece that hangs
// straight down.
func (o *Roped) leadPull() r3.Vec {
	block := &o.Path.Points[0]
	return r3.Add(r3.Scale(block.ResultantKn, block.Direction.Vec()), r3.Vec{Z: 1})
}

// swaysAtBlock is what the tree sways as that the block sits on: its stem by itself, and with a crown on it. None: it sits on no tree
// whose wood is known, and nothing is said of what that stands.
func (o *Roped) swaysAtBlock() []drop.Mode {
	tree, top, high := o.Tree, min(o.StandsToM, o.Stem.Top()), o.Block.Z
	if place := o.Rig.Block.Place; place != nil {
		if place.On == job.OnAnchor {
			return nil
		}
		if other := o.Called(place.Tree); other != nil && other != o.Tree {
			tree, top, high = other, other.Stem.Top(), high-o.FootOf(other)
		}
	}
	if tree.Species == nil {
		return nil
	}
	wood := o.Wood(tree)
	beam := wood.Beam(wood.StationsTo(top))
	at, _, sways := beam.Sways(swayCells, 1)
	share := sways[0].At(at, blockOn(at, high))
	kg, omega := sways[0].Kg/(share*share), sways[0].Omega
	return []drop.Mode{{Kg: kg, Omega: omega}, {Kg: kg * hold.Crowned * hold.Crowned, Omega: omega / hold.Crowned}}
}

// blockOn is the height of a block on a stem that sways, clear of its foot.
func blockOn(atM []float64, z float64) float64 {
	return max(z, atM[0]+0.05*(atM[len(atM)-1]-atM[0]))
}

// swaying is a force on a block as the tree that it sits on feels it, swaying so many times as far under what is level of it.
func swaying(times float64, force r3.Vec) r3.Vec {
	level := r3.Scale(max(1, times), space.Level(force))
	level.Z = force.Z
	return level
}
