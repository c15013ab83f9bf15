package assess

import (
	"context"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/job"
	"elkstay/core/line"
)

// twoPoints: carried sideways between the block and a second point.
type twoPoints struct{ onLine }

// carryBelow is how far the tie is carried below the lower of two points when nobody
// has said, m.
const carryBelow = 3

func (twoPoints) work(v *Survey, o *Outcome, now *Standing) {
	if !v.onRig(o) {
		return
	}
	onStem := false
	o.block, onStem = v.blockAt(o, true, now)
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
	o.Catch = drop.Catch{LinePeakKn: o.carried.MaxAKn, DevicePeakKn: o.carried.MaxAKn * o.Ratio(), Holds: true, Amplification: o.carried.MaxAKn / o.weightKn()}
	v.lineLoads(o, onStem, now)
	reach := max(0.5, o.Length()/4)
	low := math.Inf(1)
	for _, c := range o.carried.Way {
		hang := c.At.Vec()
		beneath := v.floorUnder(hang.X, hang.Y, reach, at, now, v.own(o))
		if clear := at - o.below() - beneath.z; clear < low {
			low, o.floor = clear, beneath
		}
	}
	// It is carried over what it could not be put down on; at the end it is put down.
	last := o.carried.Way[len(o.carried.Way)-1].At.Vec()
	o.floor.onto = v.floorUnder(last.X, last.Y, reach, at, now, v.own(o)).onto
	way := v.carryWay(o, now)
	o.clears = v.clearances(&way, now, v.own(o))
	if !onStem {
		v.pastStem(o, &way)
	}
	v.ropes(o, &way)
	// It is let down under the second point, and the first line reaches there.
	o.ropeM = o.leadM() + max(r3.Norm(r3.Sub(far, o.block)), r3.Norm(r3.Sub(r3.Vec{X: far.X, Y: far.Y, Z: o.floor.hard}, o.block))) + spareRope
	v.ropeReaches(o)
}

func (twoPoints) call(*Survey, *Outcome) string {
	return "Take up on the second line, carry across"
}

func (twoPoints) because(v *Survey, o *Outcome) string { return v.becauseHeld("Carried across", o) }

func (twoPoints) simulate(_ context.Context, _ *Survey, _ *Outcome, _ int, trace *Trace) error {
	trace.Why = "There is no drop onto a line to follow."
	return nil
}
