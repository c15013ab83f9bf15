package roped

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/space"
	"elkstay/core/units"
)

// TwoPoints is a piece that is carried sideways between its block and a second point.
type TwoPoints struct {
	*Roped
	far r3.Vec // the second point
}

// twoPoints makes one.
type twoPoints struct{ onLine }

// carryBelow is how far the tie is carried below the lower of two points when nobody
// has said, m.
const carryBelow = 3

func (twoPoints) Make(c course.Course) course.Made {
	o := &TwoPoints{Roped: New(c)}
	o.carry()
	return o
}

// carry lays out both lines and what they carry on the way across.
func (o *TwoPoints) carry() {
	if !o.onRig() {
		return
	}
	o.Block = o.BlockAt(true)
	if o.Stopped() {
		return
	}
	second := o.Rig.Second
	if second == nil {
		o.Fault(course.FaultRig, "%s has no second line: two points need two", o.Rig.Name)
		return
	}
	o.second = second
	far, why := o.Place(&second.Place, o.Now, o.Piece)
	if why != "" {
		o.Fault(course.FaultBlock, "the second block sits %s", why)
		return
	}
	o.far = far
	if !o.LayOut() || !o.layAcross(far) {
		return
	}
	at := job.Or(o.Pick.CarryM, min(o.Block.Z, far.Z)-carryBelow)
	r := o.Settings.BlockEfficiency
	o.pair = &line.Pair{A: space.PointOf(o.Block), B: space.PointOf(far), MassKg: o.Counts(), PieceZ: &at, Efficiency: &r}
	if faults := o.pair.Faults("body"); len(faults) > 0 {
		o.Fault(course.FaultReach, "%s", faults[0].Message)
		o.pair = nil
		return
	}
	o.Across = true
	o.carried = o.pair.Solve()
	o.taggedBetween(far)
	if o.Stopped() {
		return
	}
	o.comes = o.comesOn(far, 0, limbOpens)
	peak := max(o.carried.MaxAKn, o.comes.peakKn[0])
	o.Catch = drop.Catch{LinePeakKn: peak, DevicePeakKn: peak * o.Ratio(), Holds: true}
	o.AllLoads(nil)
	o.TagLoads()
	o.complete = true
}

// Follow measures what is beneath and round it on the way across and down under the second point.
func (o *TwoPoints) Follow() {
	if !o.complete || o.Hurried && hold.Over(o.Loads, 1) != "" {
		return
	}
	at, reach, low := *o.pair.PieceZ, max(0.5, o.Length()/4), math.Inf(1)
	for _, c := range o.carried.Way {
		hang := c.At.Vec()
		beneath := o.FloorUnder(hang.X, hang.Y, reach, at, o.WoodRound())
		if clear := at - o.MostBelow(o.Settings.TieM) - beneath.Z; clear < low {
			low, o.Floor = clear, beneath
		}
	}
	// It is carried over what it could not be put down on; at the end it is put down.
	last := o.carried.Way[len(o.carried.Way)-1].At.Vec()
	if o.Tag != nil {
		o.Tag.out = max(0, at-(o.Floor.Hard+o.Below(o.Settings.TieM)+0.1))
	}
	o.Floor.Onto = o.FloorUnder(last.X, last.Y, reach, at, o.WoodRound()).Onto
	way := o.carryWay()
	o.Cases[0].Way = way
	o.StaysOut(&way)
	o.Clears = o.Measure(&way, o.WoodRound())
	if o.Enough(o) {
		return
	}
	o.ComesDownBy(&way, o.Block.Z)
	if place := o.Rig.Block.Place; place != nil && !o.OnOwnStem(place) {
		o.PastStem(&way)
	}
	o.turnsOn(&way, last, last.Z)
	o.AlongRopes(&way)
	if !o.Hurried {
		o.letGo = o.letGoBetween(o.far)
	}
	// It is let down under the second point, and the first line reaches there.
	o.ropeNeeded(o.LeadM() + max(r3.Norm(r3.Sub(o.far, o.Block)), r3.Norm(r3.Sub(r3.Vec{X: o.far.X, Y: o.far.Y, Z: o.Floor.Low}, o.Block))) + SpareRope)
	if other := o.other; other != nil {
		other.ropeNeeded(other.LeadM() + max(r3.Norm(r3.Sub(o.far, o.Block)), o.far.Z-o.Floor.Low) + SpareRope)
		o.Ropes, o.Faults = append(o.Ropes, other.Ropes...), append(o.Faults, other.Faults...)
	}
}

// Words are what is called of it, and what happens when a line is let go.
func (o *TwoPoints) Words() course.Words {
	return course.Words{Call: "Take up on the second line, carry across" + o.Draws(), Cautions: o.letGo, Steady: o.Steadied(), Drawn: o.Tag != nil}
}

// taggedBetween works out what a tag line does to a piece that is carried between two points: on
// both lines all the way across, and on the second alone while it is let down there.
func (o *Roped) taggedBetween(far r3.Vec) {
	if o.Pick.Tag == nil {
		return
	}
	// A piece tied at its balance hangs any way: its balance a little beneath will do.
	tie, cog := o.Settings.TieM, o.Weight.CogM
	if off := cog - tie; math.Abs(off) < 0.05 {
		cog = tie + math.Copysign(0.05, off)
	}
	hangs := r3.Vec{Z: -1}
	if cog < tie {
		hangs.Z = 1
	}
	moments := make([]PairMoment, len(o.carried.Way))
	for k, c := range o.carried.Way {
		at := c.At.Vec()
		m := PairMoment{From: line.PairDrawn{Butt: r3.Sub(at, r3.Scale(tie, hangs)), Axis: hangs, Kn: [2]float64{c.AKn, c.BKn}}}
		for i, point := range [2]r3.Vec{o.Block, far} {
			m.Lines[i] = line.Strung{AtM: tie, Point: point, LineM: r3.Norm(r3.Sub(point, at))}
		}
		moments[k] = m
	}
	drawn := o.TaggedPair(cog, moments)
	if drawn == nil {
		return
	}
	kn := make([][2]float64, len(drawn.Heavy))
	for k := range drawn.Heavy {
		kn[k] = drawn.Heavy[k].Kn
	}
	o.carried = o.pair.Heavier(o.carried, kn)
	o.aside = drawn.Across()
	g, first := o.Tag, &moments[len(moments)-1]
	g.heavy = line.Tagged{WeightKn: o.WeightKn(), Point: far, LineM: first.Lines[1].LineM, TieM: tie, CogM: cog, TagM: *g.set.TieM, Towards: drawn.sum.Towards, PullKn: *g.set.PullKn, AsItHangs: hangs}
	g.light = g.heavy
	g.light.WeightKn = o.Weight.Kg.Low * units.Gravity / 1000
	g.back = o.swingsBetween(o.Block, far, cog, drawn)
}

// letGoBetween says what happens when either of the lines between two points fails, slips or is let
// go: the piece swings on the other, locked off, from wherever it hangs then, and pulls at the
// bottom with 3 − 2·cos of where it began, undamped; what the line held beyond a pendulum's share
// springs back, and is there again.
func (o *Roped) letGoBetween(far r3.Vec) (said []string) {
	const places = 9
	axis, turn, tie, _ := o.hangs()
	names := [2]string{"first", "second"}
	for i, point := range [2]r3.Vec{o.Block, far} {
		s := space.SweepOf(o.Body())
		most, low := o.WeightKn(), math.Inf(1)
		for k := range places {
			c := &o.carried.Way[k*(len(o.carried.Way)-1)/(places-1)]
			at, held := c.At.Vec(), [2]float64{c.AKn, c.BKn}[i]
			off := r3.Sub(at, point)
			long, out := r3.Norm(off), space.Level(off)
			start := math.Atan2(r3.Norm(out), -off.Z)
			most = max(most, o.WeightKn()*(3-2*math.Cos(start))+max(0, held-o.WeightKn()*math.Cos(start)))
			low = min(low, point.Z-long-o.MostBelow(o.Settings.TieM))
			if start < 1e-3 {
				continue
			}
			out = r3.Unit(out)
			s.Along(func(share float64) space.Pose {
				sin, cos := math.Sincos(start * (1 - 2*share))
				return space.Hung(axis, turn, tie, r3.Add(point, r3.Add(r3.Scale(long*sin, out), r3.Vec{Z: -long * cos})))
			})
		}
		strikes := "its lower end comes to " + o.Height(max(0, low))
		if low < 0 {
			strikes = "it strikes the ground"
		}
		for _, c := range o.Measure(&s, nil) {
			if c.Target != nil && c.Strikes() {
				strikes = "it strikes " + c.Name
				if c.ClearanceM > 0 {
					strikes = fmt.Sprintf("it comes within %s of %s", o.Height(c.ClearanceM), c.Name)
				}
				break
			}
		}
		limit := ""
		rig := o.Rig
		if i == 1 && o.other != nil {
			rig = o.other.Rig
		}
		if rated := o.Limits.RateLine(rig, 0, most); rated.Known {
			limit = " of " + units.Print(units.Force, o.System, rated.Limit.Kn)
		}
		said = append(said, fmt.Sprintf("When the %s line is let go, it swings on the %s: up to %s%s, locked off; %s.", names[1-i], names[i], units.Print(units.Force, o.System, most), limit, strikes))
	}
	return said
}
