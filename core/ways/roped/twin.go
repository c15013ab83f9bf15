package roped

import (
	"fmt"
	"strings"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/search"
	"elkstay/core/units"
	"elkstay/core/working"
)

// twinned is a piece on two lines side by side.
type twinned struct {
	sides  [2]*Roped
	faster float64
	rest   [2]float64 // share of the weight that each carries as the one let out less
	peak   [2]float64 // share of the fall that it takes
	alone  [2]drop.Catch
}

// twinNames are the two lines.
var twinNames = [2]string{"first", "twin"}

// stretched is how far a line is longer at a tension, m, and what energy is in it then, kJ.
func (o *Roped) stretched(kn float64) (m, kj float64) {
	own, lead, r := o.DropCase.LineM(), o.LeadM(), o.Ratio()
	rope := &o.Rig.Rope.Rope
	at := func(t float64) float64 {
		return (rope.Strain(t)*own + rope.Strain(t*r)*lead) / rope.Dynamic()
	}
	const parts = 100
	before := 0.0
	for k := range parts {
		next := at(kn * float64(k+1) / parts)
		kj += kn * (float64(k) + 0.5) / parts * (next - before)
		before = next
	}
	return before, kj
}

// tensionAt is the tension at which a line is longer by so much, kN.
func (o *Roped) tensionAt(m float64) float64 {
	if m <= 0 {
		return 0
	}
	return search.Root(50, 0, o.Rig.Rope.BreakingKn, func(kn float64) float64 {
		x, _ := o.stretched(kn)
		return x - m
	})
}

// caughtShare is how a line catches a share of its piece.
func (o *Roped) caughtShare(share float64) (c drop.Case, catch drop.Catch) {
	c = *o.DropCase
	c.Piece.MassKg *= share
	if o.swung != nil {
		one := *o.swung
		one.Case = &c
		hold := o.hold
		if o.Settings.How == job.ByRun {
			hold = one.HoldFor(o.Settings.RunM) * o.times()
		}
		return c, one.Solve(hold)
	}
	if o.Settings.How == job.ByRun {
		hold := drop.HoldFor(&c, o.Settings.RunM) * o.times()
		c.DeviceHoldKn = &hold
	}
	return c, drop.Solve(&c)
}

// restShare is the share of a weight at rest on the line that is let out less, by so much: both
// stretch to the same place.
func restShare(tight, other *Roped, weightKn, faster float64) float64 {
	return search.Root(50, 0, 1, func(share float64) float64 {
		x, _ := tight.stretched(share * weightKn)
		return share*weightKn + other.tensionAt(x-faster) - weightKn
	})
}

// peakShare is the share of a fall's energy that the line let out less takes up: what the other,
// which comes on so much later, does not.
func peakShare(tight, other *Roped, faster float64) float64 {
	return search.Root(40, 0, 1, func(share float64) float64 {
		_, catch := tight.caughtShare(share)
		x, own := tight.stretched(catch.LinePeakKn)
		_, its := other.stretched(other.tensionAt(x - faster))
		return share - own/(own+its)
	})
}

// twin works out a piece that one line alone would catch on two of them side by side. Each is judged
// as the one that is let out less, so that what they carry together is more than the piece.
func (o *Roped) twin() {
	t := &twinned{faster: job.Or(o.Pick.Twin.FasterM, 0)}
	for i := range t.sides {
		one := *o
		side := &one
		side.Loads, side.Faults, side.Points, side.Cases, side.Ropes, side.Whole = nil, nil, nil, nil, nil, o
		if rig := o.Pick.Twin.Rig; i == 1 && rig != "" {
			other := o.RigNamed(rig)
			if other == nil || other.Rope == nil {
				o.Fault(course.FaultRig, "the rig of the twin line is not there, or has no rope: %q", rig)
				return
			}
			side.Rig = other
			set := other.Settings(o.Pick)
			set.FallTowardsDeg, set.TieM, set.SlackM = o.Settings.FallTowardsDeg, o.Settings.TieM, o.Settings.SlackM
			side.Settings = set
		}
		// Beside the first: the same way, over its own block and device.
		if i == 1 && side.Rig != o.Rig && side.Rig.Block.Place != nil {
			side.Block = side.BlockAt(true)
		}
		if !side.Stopped() {
			side.LayOut()
		}
		if side.Stopped() {
			o.Faults = append(o.Faults, side.Faults...)
			return
		}
		if i == 1 && side.Rig != o.Rig {
			side.fall(o.DropCase.Course != nil && o.Block.Z > o.Cut.Z)
			side.pulledAside()
		}
		t.sides[i], t.alone[i] = side, side.Catch
	}
	o.twins = t
	before := len(o.Loads)
	runs := 0.0
	for i, side := range t.sides {
		other := t.sides[1-i]
		t.rest[i] = restShare(side, other, side.bearsKn(), t.faster)
		t.peak[i] = peakShare(side, other, t.faster)
		side.bears = t.rest[i] * max(1, side.bears)
		side.AllLoads(func(rubbed *Roped) { rubbed.takesShare(t.peak[i]) })
		side.takesShare(t.peak[i])
		runs = max(runs, side.Catch.RunM)
		for k := range side.Loads {
			l := &side.Loads[k]
			l.On = l.Name
			l.Name = strings.TrimSpace(twinNames[i] + ": " + l.Name)
			l.Rig = side.Rig
		}
		o.Loads, o.Cases = append(o.Loads, side.Loads...), append(o.Cases, side.Cases...)
		o.Faults = append(o.Faults, side.Faults...)
	}
	hold.Together(o.Loads[before:])
	worst := t.sides[search.Largest(2, func(k int) float64 { return t.sides[k].Catch.LinePeakKn })]
	o.Catch, o.spar = worst.Catch, worst.spar
	o.Catch.RunM = runs
	o.Catch.Holds = t.sides[0].Catch.Holds && t.sides[1].Catch.Holds
	o.sticks, o.slips = worst.sticks, t.sides[0].slips
	if other := t.sides[1].slips; !other.Catch.Holds || o.slips.Catch.Holds && other.Catch.RunM > o.slips.Catch.RunM {
		o.slips = other
	}
}

// takesShare makes of a line one that takes so much of the fall.
func (o *Roped) takesShare(share float64) {
	c, catch := o.caughtShare(share)
	catch.LinePeakKn = max(catch.LinePeakKn, job.Or(o.Pick.TightKn, 0))
	catch.DevicePeakKn = max(catch.DevicePeakKn, min(catch.LinePeakKn*o.Ratio(), o.hold))
	o.DropCase, o.Catch = &c, catch
	// Either may have all of what a tag line pulls.
	o.pulledAside()
}

// said tells how twin lines share, and what it is when they do not.
func (t *twinned) said() []string {
	o := t.sides[0]
	list := []string{}
	for i, side := range t.sides {
		if i == 1 && side.Rig == t.sides[0].Rig {
			break
		}
		said := fmt.Sprintf("All of it on the %s line, when the other fails or is let go: %s", twinNames[i], units.Print(units.Force, o.System, t.alone[i].LinePeakKn))
		if rated := o.Limits.RateTie(side.Rig, 0, t.alone[i].LinePeakKn); rated.Known {
			said += fmt.Sprintf(", %.0f %% of its limit", 100*t.alone[i].LinePeakKn/rated.Limit.Kn)
		}
		list = append(list, said+".")
	}
	how := "let out together each takes half"
	if t.sides[0].Rig != t.sides[1].Rig {
		how = "let out together they share as they stretch"
	}
	if t.faster > 0 {
		how = fmt.Sprintf("with the other let out %s further, the tight one carries %.0f %% at rest and takes %.0f %% of the fall", o.Height(t.faster), 100*max(t.rest[0], t.rest[1]), 100*max(t.peak[0], t.peak[1]))
	}
	return append(list, "Twin lines: "+how+". Their hands must be able to hear each other.")
}

// working writes a twin line's share of the fall.
func (t *twinned) working(sheet *working.Sheet, side *Roped) {
	for i, one := range t.sides {
		if one != side.AsGiven() {
			continue
		}
		sheet.Add("s₀", "share of the weight at rest", "both stretched to the same place, the other let out further by δ", t.rest[i], "", "statics of two springs")
		sheet.Add("s", "share of the fall that it takes up", "E₁/(E₁ + E₂), the other coming on δ later", t.peak[i], "", "energy of two springs")
		sheet.Add("m·s", "counted for this line", fmt.Sprintf("δ = %s m", working.Figure(t.faster)), side.DropCase.Piece.MassKg, "kg", "")
	}
}

// twinRope notes how much rope the second of twin lines takes, where that is another rig's.
func (o *Roped) twinRope() {
	if o.twins == nil {
		return
	}
	if side := o.twins.sides[1]; side.Rig != o.Rig {
		o.Ropes = append(o.Ropes, course.RopeUse{Rig: side.Rig, NeedM: side.LeadM() + max(0, side.Block.Z-side.Floor.Low) + SpareRope})
	}
}
