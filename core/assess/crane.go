package assess

import (
	"fmt"
	"math"
	"slices"

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

func (byCrane) work(v *Survey, o *Outcome, _ *Standing) {
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
	o.radius = math.Hypot(o.Weight.at.X-stands.At.X, o.Weight.at.Y-stands.At.Y)
	if down := lift.SetDown; down != nil {
		o.radius = max(o.radius, math.Hypot(down.X-stands.At.X, down.Y-stands.At.Y))
	}
	o.radius = max(0.1, o.radius)
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
		share := job.Or(o.lift.ChartUsePct, v.limits.ChartUsePct)
		hook.Known = true
		hook.Limit = gear.Limit{Kn: *o.lifted.CapacityKg * share / 100 * units.Gravity / 1000, Source: "the crane's chart",
			Reason: fmt.Sprintf("%g %% of the chart's %s at %s", share, units.Print(units.Mass, v.System, *o.lifted.CapacityKg), v.Height(o.radius))}
	} else {
		hook.why = "the chart has no such lift"
		o.fault(faultReach, "%s cannot reach it: the chart has nothing at %s with %s of boom", stands.Name, v.Height(o.radius), v.Height(stands.BoomM))
	}
	o.loads = append(o.loads, hook)
	o.clears = []Clearance{}
	v.slewByPower(o, stands, lift.SetDown)
}

func (byCrane) call(*Survey, *Outcome) string { return "Tension, cut, lift on the word" }

func (byCrane) cautions(*Outcome) []string { return nil }

func (byCrane) because(v *Survey, o *Outcome) string {
	return fmt.Sprintf("Lifted off: %.0f %% of the nearest limit.", v.Use(o))
}
