package assess

import (
	"context"
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/units"
)

// twoPoints: carried sideways between the block and a second point.
type twoPoints struct{ onLine }

// carryBelow is how far the tie is carried below the lower of two points when nobody
// has said, m.
const carryBelow = 3

func (twoPoints) work(v *Survey, o *Outcome, now *Standing) {
	if !v.onRig(o, now) {
		return
	}
	o.block = v.blockAt(o, true, now)
	if o.Stopped() {
		return
	}
	second := o.Rig.Second
	if second == nil {
		o.fault(faultRig, "%s has no second line: two points need two", o.Rig.Name)
		return
	}
	o.second = second
	far, why := v.place(&second.Place, now, o)
	if why != "" {
		o.fault(faultBlock, "the second block sits %s", why)
		return
	}
	if !v.wayOfLine(o, now) {
		return
	}
	at := job.Or(o.pick.CarryM, min(o.block.Z, far.Z)-carryBelow)
	r := o.Settings.BlockEfficiency
	o.pair = &line.Pair{A: pointOf(o.block), B: pointOf(far), MassKg: o.counts(), PieceZ: &at, Efficiency: &r}
	if faults := o.pair.Faults("body"); len(faults) > 0 {
		o.fault(faultReach, "%s", faults[0].Message)
		o.pair = nil
		return
	}
	o.carried = o.pair.Solve()
	v.taggedBetween(o, far, now)
	if o.Stopped() {
		return
	}
	o.Catch = drop.Catch{LinePeakKn: o.carried.MaxAKn, DevicePeakKn: o.carried.MaxAKn * o.Ratio(), Holds: true}
	v.lineLoads(o, now)
	v.tagLoads(o)
	if v.Hurried && o.over() != "" {
		return
	}
	reach := max(0.5, o.Length()/4)
	low := math.Inf(1)
	for _, c := range o.carried.Way {
		hang := c.At.Vec()
		beneath := v.floorUnder(hang.X, hang.Y, reach, at, v.woodRound(o, now))
		if clear := at - o.mostBelow(o.Settings.TieM) - beneath.z; clear < low {
			low, o.floor = clear, beneath
		}
	}
	// It is carried over what it could not be put down on; at the end it is put down.
	last := o.carried.Way[len(o.carried.Way)-1].At.Vec()
	if o.tag != nil {
		o.tag.out = max(0, at-(o.floor.hard+o.below()+0.1))
	}
	o.floor.onto = v.floorUnder(last.X, last.Y, reach, at, v.woodRound(o, now)).onto
	way := v.carryWay(o, now)
	v.staysOut(o, &way)
	o.clears = v.clearances(&way, v.woodRound(o, now))
	if v.Hurried && v.Stops(o) != "" {
		return
	}
	v.comesDownBy(o, &way)
	if place := o.Rig.Block.Place; place != nil && !v.onOwnStem(place) {
		v.pastStem(o, &way)
	}
	v.turnsOn(o, &way, last, last.Z)
	v.ropes(o, &way)
	if !v.Hurried {
		o.letGo = v.letGoBetween(o, far, now)
	}
	// It is let down under the second point, and the first line reaches there.
	o.ropeM = o.leadM() + max(r3.Norm(r3.Sub(far, o.block)), r3.Norm(r3.Sub(r3.Vec{X: far.X, Y: far.Y, Z: o.floor.hard}, o.block))) + spareRope
	v.ropeReaches(o)
}

// taggedBetween works out what a tag line does to a piece that is carried between two points: on
// both lines all the way across, and on the second alone while it is let down there.
func (v *Survey) taggedBetween(o *Outcome, far r3.Vec, now *Standing) {
	if o.pick.Tag == nil {
		return
	}
	// A piece tied at its balance hangs any way: its balance a little beneath will do.
	tie, cog := o.Settings.TieM, o.Weight.cog
	if off := cog - tie; math.Abs(off) < 0.05 {
		cog = tie + math.Copysign(0.05, off)
	}
	hangs := r3.Vec{Z: -1}
	if cog < tie {
		hangs.Z = 1
	}
	moments := make([]pairMoment, len(o.carried.Way))
	for k, c := range o.carried.Way {
		at := c.At.Vec()
		m := pairMoment{from: line.PairDrawn{Butt: r3.Sub(at, r3.Scale(tie, hangs)), Axis: hangs, Kn: [2]float64{c.AKn, c.BKn}}}
		for i, point := range [2]r3.Vec{o.block, far} {
			m.lines[i] = line.Strung{AtM: tie, Point: point, LineM: r3.Norm(r3.Sub(point, at))}
		}
		moments[k] = m
	}
	drawn := v.taggedPair(o, cog, moments, now)
	if drawn == nil {
		return
	}
	kn := make([][2]float64, len(drawn.heavy))
	for k := range drawn.heavy {
		kn[k] = drawn.heavy[k].Kn
	}
	o.carried = o.pair.Heavier(o.carried, kn)
	o.aside = drawn.across()
	g, first := o.tag, &moments[len(moments)-1]
	g.heavy = line.Tagged{WeightKn: o.weightKn(), Point: far, LineM: first.lines[1].LineM, TieM: tie, CogM: cog, TagM: *g.set.TieM, Towards: drawn.sum.Towards, PullKn: *g.set.PullKn, AsItHangs: hangs}
	g.light = g.heavy
	g.light.WeightKn = o.Weight.Kg.Low * units.Gravity / 1000
	g.back = v.swingsBetween(o, now, o.block, far, cog, drawn)
}

// letGoBetween says what happens when either of the lines between two points fails, slips or is let
// go: the piece swings on the other, locked off, from wherever it hangs then, and pulls at the
// bottom with 3 − 2·cos of where it began, undamped; what the line held beyond a pendulum's share
// springs back, and is there again.
func (v *Survey) letGoBetween(o *Outcome, far r3.Vec, now *Standing) (said []string) {
	const places = 9
	axis, turn, tie, _ := v.hangs(o)
	names := [2]string{"first", "second"}
	for i, point := range [2]r3.Vec{o.block, far} {
		s := sweepOf(v.body(o, now))
		most, low := o.weightKn(), math.Inf(1)
		for k := range places {
			c := &o.carried.Way[k*(len(o.carried.Way)-1)/(places-1)]
			at, held := c.At.Vec(), [2]float64{c.AKn, c.BKn}[i]
			off := r3.Sub(at, point)
			long, out := r3.Norm(off), level(off)
			start := math.Atan2(r3.Norm(out), -off.Z)
			most = max(most, o.weightKn()*(3-2*math.Cos(start))+max(0, held-o.weightKn()*math.Cos(start)))
			low = min(low, point.Z-long-o.mostBelow(o.Settings.TieM))
			if start < 1e-3 {
				continue
			}
			out = r3.Unit(out)
			s.along(func(share float64) pose {
				sin, cos := math.Sincos(start * (1 - 2*share))
				return hung(axis, turn, tie, r3.Add(point, r3.Add(r3.Scale(long*sin, out), r3.Vec{Z: -long * cos})))
			})
		}
		strikes := "its lower end comes to " + v.Height(max(0, low))
		if low < 0 {
			strikes = "it strikes the ground"
		}
		for _, c := range v.clearances(&s, nil) {
			if c.target != nil && c.Verdict == Over {
				strikes = "it strikes " + c.Name
				if c.ClearanceM > 0 {
					strikes = fmt.Sprintf("it comes within %s of %s", v.Height(c.ClearanceM), c.Name)
				}
				break
			}
		}
		limit := ""
		if rated := v.limits.RateLine(o.Rig, 0, most); rated.Known {
			limit = " of " + units.Print(units.Force, v.System, rated.Limit.Kn)
		}
		said = append(said, fmt.Sprintf("When the %s line is let go, it swings on the %s: up to %s%s, locked off; %s.", names[1-i], names[i], units.Print(units.Force, v.System, most), limit, strikes))
	}
	return said
}

func (twoPoints) cautions(o *Outcome) []string { return o.letGo }

func (twoPoints) call(_ *Survey, o *Outcome) string {
	if o.tag != nil {
		return "Take up on the second line, carry across; tag: draw to " + o.tag.anchor
	}
	return "Take up on the second line, carry across"
}

func (twoPoints) because(v *Survey, o *Outcome) string { return v.becauseHeld("Carried across", o) }

func (twoPoints) simulate(_ context.Context, _ *Survey, _ *Outcome, _ int, trace *Trace) error {
	trace.Why = "There is no drop onto a line to follow."
	return nil
}
