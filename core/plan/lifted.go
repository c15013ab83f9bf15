package plan

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/crane"
	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/line"
	"elkstay/core/units"
)

// carry works out a piece carried between two points.
func (v *survey) carry(o *outcome, now *standing, onStem bool) {
	second := o.rig.Second
	if second == nil {
		o.fault(faultRig, "%s has no second line: two points need two", o.rig.Name)
		return
	}
	far, why := v.place(&second.Place, now, o)
	if why != "" {
		o.fault(faultBlock, "the second block sits %s", why)
		return
	}
	if !v.wayOfLine(o, now) {
		return
	}
	at := orElse(o.pick.CarryM, min(o.block.Z, far.Z)-carryBelow)
	r := o.settings.BlockEfficiency
	o.pair = &line.Pair{A: pointOf(o.block), B: pointOf(far), MassKg: o.counts(), PieceZ: &at, Efficiency: &r}
	if faults := o.pair.Faults("body"); len(faults) > 0 {
		o.fault(faultReach, "%s", faults[0].Message)
		o.pair = nil
		return
	}
	o.carried = o.pair.Solve()
	o.catch = drop.Catch{LinePeakKn: o.carried.MaxAKn, DevicePeakKn: o.carried.MaxAKn * o.ratio(), Holds: true, Amplification: o.carried.MaxAKn / o.weightKn()}
	v.lineLoads(o, onStem)
	way := sweep{reach: max(0.5, o.length()/4)}
	low := math.Inf(1)
	for _, c := range o.carried.Way {
		hang := c.At.Vec()
		way.at = append(way.at, hang, r3.Sub(hang, r3.Vec{Z: o.below()}))
		beneath := v.floorUnder(hang.X, hang.Y, way.reach, at, now, v.own(o))
		if clear := at - o.below() - beneath.z; clear < low {
			low, o.floor = clear, beneath
		}
	}
	o.clears = v.clearances(&way, now, v.own(o))
	lead := 0.0
	for _, leg := range o.path.Legs[1:] {
		lead += leg.LengthM
	}
	o.ropeM = lead + r3.Norm(r3.Sub(far, o.block)) + spareRope
	v.ropeReaches(o)
}

// craned works out a crane's lift.
func (v *survey) craned(o *outcome) {
	lift := o.pick.Lift
	if lift == nil {
		o.fault(faultRig, "a crane takes it, but neither crane nor slings are chosen")
		return
	}
	var stands *Crane
	for i := range v.job.Site.Cranes {
		if v.job.Site.Cranes[i].ID == lift.Crane {
			stands = &v.job.Site.Cranes[i]
		}
	}
	if stands == nil {
		o.fault(faultRig, "there is no crane %q on the site", lift.Crane)
		return
	}
	o.radius = math.Hypot(o.weight.at.X-stands.At.X, o.weight.at.Y-stands.At.Y)
	if down := lift.SetDown; down != nil {
		o.radius = max(o.radius, math.Hypot(down.X-stands.At.X, down.Y-stands.At.Y))
	}
	o.radius = max(0.1, o.radius)
	o.lift = &crane.Pick{
		MassKg: o.weight.kg, Piece: crane.Piece{LengthM: o.length(), CogM: max(1e-3, min(o.length()-1e-3, o.weight.cog))},
		Slings: lift.Slings, RiggingKg: stands.RiggingKg, Chart: stands.Chart, RadiusM: o.radius, BoomM: stands.BoomM, ChartUsePct: stands.ChartUsePct,
	}
	if o.lift.ChartUsePct == nil {
		o.lift.ChartUsePct = &v.limits.ChartUsePct
	}
	if faults := o.lift.Faults("body"); len(faults) > 0 {
		o.fault(faultSlings, "%s; allowed: %s", faults[0].Message, faults[0].Allowed)
		o.lift = nil
		return
	}
	o.lifted = o.lift.Solve()
	slings := o.lifted.Slings
	if o.lifted.WorstTwo != nil {
		slings = o.lifted.WorstTwo
	}
	for _, s := range slings {
		item := ""
		for k := range lift.Slings {
			if lift.Slings[k].Name == s.Name {
				item = lift.Slings[k].Item
			}
		}
		o.loads = append(o.loads, load{part: partSling, name: s.Name, item: item, resting: s.TensionKn, peak: s.TensionKn, known: true, decided: byHitch,
			limit: gear.Limit{Kn: s.RatingKn, Reason: "marked limit, by hitch and choke", Source: "ASME B30.9 (from memory)"}})
	}
	hook := load{part: partCrane, name: stands.Name, item: stands.Item, decided: byChart, resting: o.lifted.HookKg.Likely * units.Gravity / 1000, peak: o.lifted.HookKg.High * units.Gravity / 1000}
	if o.lifted.CapacityKg != nil {
		share := orElse(o.lift.ChartUsePct, v.limits.ChartUsePct)
		hook.known = true
		hook.limit = gear.Limit{Kn: *o.lifted.CapacityKg * share / 100 * units.Gravity / 1000, Source: "the crane's chart",
			Reason: fmt.Sprintf("%g %% of the chart's %s at %s", share, units.Print(units.Mass, v.system, *o.lifted.CapacityKg), v.height(o.radius))}
	} else {
		hook.why = "the chart has no such lift"
		o.fault(faultReach, "%s cannot reach it: the chart has nothing at %s with %s of boom", stands.Name, v.height(o.radius), v.height(stands.BoomM))
	}
	o.loads = append(o.loads, hook)
	o.clears = []Clearance{}
}
