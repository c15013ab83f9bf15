package assess

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// byCrane: slung, cut, and lifted off.
type byCrane struct{ unheld }

func (byCrane) held() holding { return heldByCrane }

func (byCrane) bound(*Survey, *Outcome, *load) {}

func (byCrane) work(v *Survey, o *Outcome, now *Standing) {
	if o.Stopped() {
		return
	}
	lift := o.pick.Lift
	if lift == nil {
		o.fault(faultRig, "a crane takes it, but neither crane nor slings are chosen")
		return
	}
	var stands *job.Crane
	for i := range v.Job.Site.Cranes {
		if v.Job.Site.Cranes[i].ID == lift.Crane {
			stands = &v.Job.Site.Cranes[i]
		}
	}
	if stands == nil {
		o.fault(faultRig, "there is no crane %q on the site", lift.Crane)
		return
	}
	o.cutRadius = math.Hypot(o.Weight.at.X-stands.At.X, o.Weight.at.Y-stands.At.Y)
	o.radius = max(0.1, o.cutRadius)
	if down := lift.SetDown; down != nil {
		out := math.Hypot(down.X-stands.At.X, down.Y-stands.At.Y)
		o.downRadius, o.radius = &out, max(o.radius, out)
	}
	o.lift = &crane.Pick{
		MassKg: o.Weight.Kg, Piece: crane.Piece{LengthM: o.Length(), CogM: max(1e-3, min(o.Length()-1e-3, o.Weight.cog))},
		Slings: slices.Clone(lift.Slings), RiggingKg: stands.RiggingKg, Chart: stands.Chart, RadiusM: o.radius, BoomM: stands.BoomM, ChartUsePct: stands.ChartUsePct,
	}
	unrated := map[string]bool{}
	for k := range o.lift.Slings {
		if s := &o.lift.Slings[k]; s.WllKn == 0 {
			// How it hangs does not ask what a sling holds.
			unrated[s.Name], s.WllKn = true, 1
		}
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
		o.loads = append(o.loads, load{part: PartSling, name: s.Name, item: item, resting: s.TensionKn, peak: s.TensionKn, why: "nobody has said what it holds",
			Rated: policy.Rated{Known: !unrated[s.Name], Decided: byHitch, Limit: gear.Limit{Kn: s.RatingKn, Reason: "marked limit, by hitch and choke", Source: "ASME B30.9 (from memory)"}}})
	}
	hook := load{part: partCrane, name: stands.Name, item: stands.Item, Rated: policy.Rated{Decided: byChart}, resting: o.lifted.HookKg.Likely * units.Gravity / 1000, peak: o.lifted.HookKg.High * units.Gravity / 1000}
	if o.lifted.CapacityKg != nil {
		share := *o.lift.ChartUsePct
		hook.Known = true
		hook.Limit = gear.Limit{Kn: *o.lifted.CapacityKg * share / 100 * units.Gravity / 1000, Source: "the crane's chart",
			Reason: fmt.Sprintf("%g %% of the chart's %s at %s", share, units.Print(units.Mass, v.System, *o.lifted.CapacityKg), v.Height(o.radius))}
	} else {
		hook.why = "the chart has no such lift"
		o.fault(faultReach, "%s cannot reach it: the chart has nothing at %s with %s of boom", stands.Name, v.Height(o.radius), v.Height(stands.BoomM))
	}
	o.loads = append(o.loads, hook)
	way := v.liftWay(o, now)
	o.clears = v.clearances(&way, v.woodRound(o, now))
	v.pastStem(o, &way)
	v.asItGrew(o, &way)
	v.slew(o, stands, &way, now)
}

// liftFigures is how a piece hangs under its hook, and what the chart has for it.
func (o *Outcome) liftFigures() *LiftFigures {
	reads := o.lift.Reads()
	f := &LiftFigures{
		Crane: o.pick.Lift.Crane, RadiusM: o.lift.RadiusM, HookKg: o.lifted.HookKg, CapacityKg: o.lifted.CapacityKg, TiltDeg: o.lifted.TiltDeg, HookOverM: o.lifted.HookOverM,
		CutRadiusM: o.cutRadius, DownRadiusM: o.downRadius, Chart: reads, SharePct: *o.lift.ChartUsePct, FarthestM: o.lift.Farthest(reads, o.lifted.HookKg.High),
	}
	if f.CapacityKg != nil {
		allowed := *f.CapacityKg * f.SharePct / 100
		f.AllowedKg = &allowed
	}
	return f
}

// liftWay is the way of a piece that a crane lifts: it turns about its balance, which hangs
// under the hook, from how it grows into how its slings hold it, and goes straight up until it
// is over all that stands round it. One sling at its balance holds it any way: as it grows.
func (v *Survey) liftWay(o *Outcome, now *Standing) sweep {
	s := sweepOf(v.body(o, now))
	cog := r3.Sub(o.Weight.at, o.cut)
	long := r3.Sub(o.tip, o.cut)
	axis := r3.Cross(r3.Vec{Z: 1}, heading(1e-6, towards(o.Settings.FallTowardsDeg), level(long)))
	turn := 0.0
	if len(o.lift.Slings) > 1 || o.lifted.TiltDeg != 0 {
		// Down from where its tip points now to where it hangs: its butt up by the tilt. In one
		// sling aside of its balance it comes to hang upright.
		turn = math.Atan2(long.Z, r3.Norm(level(long))) + radians(o.lifted.TiltDeg)
	}
	s.along(func(share float64) pose { return hung(axis, turn*share, cog, o.Weight.at) })
	from, to := o.Weight.at, o.Weight.at
	to.Z = max(to.Z, v.highest(now)+o.Length())
	s.along(func(share float64) pose { return hung(axis, turn, cog, onTheWay(from, to, share)) })
	return s
}

// asItGrew judges what a lifted piece is near to where it grows: what its lift does not bring
// nearer is close, not over. Power lines are not spared.
func (v *Survey) asItGrew(o *Outcome, way *sweep) {
	grown := sweepOf(way.balls)
	grown.add(way.poses[0], true)
	for i := range v.targets {
		p := &v.targets[i]
		if _, power := policy.PowerDistanceOf(p.Target); power {
			continue
		}
		for k := range o.clears {
			if c := &o.clears[k]; c.target == p.Target && c.Verdict == Over && c.ClearanceM > 0 &&
				c.ClearanceM > grown.nearest(lookFor, nil, p.distance)-0.05 {
				c.Verdict = Close
			}
		}
	}
}

// highest is how high anything on the site reaches, power lines left out, m.
func (v *Survey) highest(now *Standing) float64 {
	top := now.Top
	for i := range v.targets {
		if _, power := policy.PowerDistanceOf(v.targets[i].Target); !power {
			top = max(top, v.targets[i].ToM)
		}
	}
	for _, w := range v.woodBut(func(int) bool { return false }, now) {
		top = max(top, w.top())
	}
	return top
}

// reachAbout is how far any part of a piece is from a place on it, m: as it may turn.
func (s *sweep) reachAbout(place r3.Vec) (far float64) {
	for i := range s.balls {
		far = max(far, r3.Norm(r3.Sub(s.balls[i].off, place))+s.balls[i].r)
	}
	return far
}

func (byCrane) call(*Survey, *Outcome) string { return "Tension, cut, lift on the word" }

func (byCrane) cautions(o *Outcome) []string {
	return o.slew
}

func (byCrane) because(v *Survey, o *Outcome) string {
	return fmt.Sprintf("Lifted off: %.0f %% of the nearest limit.", v.Use(o))
}
