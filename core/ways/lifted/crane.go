// Package lifted works out pieces that a crane takes: how they hang in their slings, by package crane, what the chart
// has for them, and what they pass as they are lifted and slewed.
package lifted

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/working"
)

// Lifted is a piece that is slung, cut, and lifted off.
type Lifted struct {
	course.Course
	pick       *crane.Pick // nil: it cannot be
	lift       crane.Lift
	crane      *job.Crane
	radius     float64  // the larger of those it is lifted and put down at, m
	cutRadius  float64  // of its balance from the crane, m
	downRadius *float64 // of where it is put down; nil: nobody says
	said       []string // how it goes round, and over what
	freed      freed    // as the last wood parts
}

// Way is the way down by crane.
var Way course.Way = way{}

type way struct{}

func (way) Held() course.Holding { return course.HeldByCrane }

func (way) Bound(*course.Scene, *hold.Load) {}

func (way) Make(c course.Course) course.Made {
	o := &Lifted{Course: c}
	o.hang()
	return o
}

// Held is nil: no line holds it.
func (o *Lifted) Held() *course.Held { return nil }

// hang works out how the piece hangs under the hook, and what its slings and the crane take.
func (o *Lifted) hang() {
	if o.Stopped() {
		return
	}
	lift := o.Pick.Lift
	if lift == nil {
		o.Fault(course.FaultRig, "a crane takes it, but neither crane nor slings are chosen")
		return
	}
	for i := range o.Job.Site.Cranes {
		if o.Job.Site.Cranes[i].ID == lift.Crane {
			o.crane = &o.Job.Site.Cranes[i]
		}
	}
	if o.crane == nil {
		o.Fault(course.FaultRig, "there is no crane %q on the site", lift.Crane)
		return
	}
	o.cutRadius = math.Hypot(o.Weight.At.X-o.crane.At.X, o.Weight.At.Y-o.crane.At.Y)
	o.radius = max(0.1, o.cutRadius)
	if down := lift.SetDown; down != nil {
		out := math.Hypot(down.X-o.crane.At.X, down.Y-o.crane.At.Y)
		o.downRadius, o.radius = &out, max(o.radius, out)
	}
	pick := &crane.Pick{
		MassKg: o.Weight.Kg, Piece: crane.Piece{LengthM: o.Length(), CogM: max(1e-3, min(o.Length()-1e-3, o.Weight.CogM))},
		Slings: slices.Clone(lift.Slings), RiggingKg: o.crane.RiggingKg, Chart: o.crane.Chart, RadiusM: o.radius, BoomM: o.crane.BoomM, ChartUsePct: o.crane.ChartUsePct,
	}
	unrated := map[string]bool{}
	for k := range pick.Slings {
		if s := &pick.Slings[k]; s.WllKn == 0 {
			// How it hangs does not ask what a sling holds.
			unrated[s.Name], s.WllKn = true, 1
		}
	}
	if pick.ChartUsePct == nil {
		pick.ChartUsePct = &o.Limits.ChartUsePct
	}
	if faults := pick.Faults("body"); len(faults) > 0 {
		o.Fault(course.FaultSlings, "%s; allowed: %s", faults[0].Message, faults[0].Allowed)
		return
	}
	o.pick, o.lift = pick, pick.Solve()
	alone, times := o.comesFree()
	o.freed = o.partsFree()
	o.slingLoads(unrated, alone, times)
	o.hookLoad(times)
}

// slingLoads gathers what each sling takes; of three, where two of them may carry all; one of them alone as it parts, so many
// times the weight.
func (o *Lifted) slingLoads(unrated map[string]bool, alone int, times float64) {
	slings := o.lift.Slings
	if o.lift.WorstTwo != nil {
		slings = o.lift.WorstTwo
	}
	for i, s := range slings {
		item := ""
		for k := range o.Pick.Lift.Slings {
			if o.Pick.Lift.Slings[k].Name == s.Name {
				item = o.Pick.Lift.Slings[k].Item
			}
		}
		l := hold.Load{Part: hold.PartSling, Name: s.Name, Item: item, RestKn: s.TensionKn, PeakKn: s.TensionKn, Why: "nobody has said what it holds", From: o,
			Rated: policy.Rated{Known: !unrated[s.Name], Decided: hold.ByHitch, Limit: gear.Limit{Kn: s.RatingKn, Reason: "marked limit, by hitch and choke", Source: "ASME B30.9 (from memory)"}}}
		o.freed.onSling(&l)
		heavy := o.pick.MassKg.High * units.Gravity / 1000
		if i == alone {
			onOneSling(&l, (times+o.freed.times-1)*heavy, "as it parts and hangs on this one alone")
		}
		onOneSling(&l, o.laidDown(s.Name)*heavy, "as it is laid down, its far end on the ground first")
		o.Loads = append(o.Loads, l)
	}
}

// hookLoad is what hangs on the hook, the piece so many times its weight, held to the chart.
func (o *Lifted) hookLoad(times float64) {
	hook := hold.Load{Part: hold.PartCrane, Name: o.crane.Name, Item: o.crane.Item, From: o, Rated: policy.Rated{Decided: hold.ByChart},
		RestKn: o.lift.HookKg.Likely * units.Gravity / 1000, PeakKn: (o.lift.HookKg.High + (times-1)*o.pick.MassKg.High) * units.Gravity / 1000}
	if times > 1 {
		hook.When = "as it parts and swings down under the hook"
	}
	if o.lift.CapacityKg != nil {
		share := *o.pick.ChartUsePct
		hook.Known = true
		hook.Limit = gear.Limit{Kn: *o.lift.CapacityKg * share / 100 * units.Gravity / 1000, Source: "the crane's chart",
			Reason: fmt.Sprintf("%g %% of the chart's %s at %s", share, units.Print(units.Mass, o.System, *o.lift.CapacityKg), o.Height(o.radius))}
		o.partsOnHook(&hook, times, share)
	} else {
		hook.Why = "the chart has no such lift"
		if begins := o.pick.Begins(); o.radius >= begins || math.IsInf(begins, 1) {
			o.Fault(course.FaultReach, "%s cannot reach it: the chart has nothing at %s with %s of boom", o.crane.Name, o.Height(o.radius), o.Height(o.crane.BoomM))
		}
	}
	if near, begins := o.nearest(), o.pick.Begins(); near < begins*(1-1e-9) && !math.IsInf(begins, 1) {
		o.Fault(course.FaultReach, "%s has it at %s, and the chart for its boom begins at %s: nothing nearer is on it. Stand the crane further off, or give the chart's nearer rows", o.crane.Name, o.Height(near), o.Height(begins))
	}
	o.Loads = append(o.Loads, hook)
}

// nearest is the lesser of the radii that it is lifted and put down at, m.
func (o *Lifted) nearest() float64 {
	near := o.cutRadius
	if o.downRadius != nil {
		near = min(near, *o.downRadius)
	}
	return near
}

// Follow measures what it passes as it is lifted, and on its way round.
func (o *Lifted) Follow() {
	if o.pick == nil {
		return
	}
	way := o.sweep()
	o.Cases = []course.Case{{Name: "as set", Way: way}}
	o.Clears = o.Measure(&way, o.WoodRound())
	o.PastStem(&way)
	o.asItGrew(&way)
	o.slew(&way)
}

// Words are what is called, and how it goes round.
func (o *Lifted) Words() course.Words {
	if o.pick == nil {
		return course.Words{Cautions: o.said}
	}
	return course.Words{Call: "Hold " + units.Print(units.Mass, o.System, o.freed.holdsKg) + ", cut, lift on the word", Cautions: o.said}
}

// PutDown is where it is put down, where somebody has said.
func (o *Lifted) PutDown() (at r3.Vec, known bool) {
	if o.pick == nil || o.Pick.Lift.SetDown == nil {
		return at, false
	}
	return r3.Vec{X: o.Pick.Lift.SetDown.X, Y: o.Pick.Lift.SetDown.Y}, true
}

// Working writes the sum of the lift.
func (o *Lifted) Working(_ *hold.Load, sheet *working.Sheet) { sheet.Append(o.pick.Working(o.lift)) }

// Contracted is the lift as the kind pick has it.
func (o *Lifted) Contracted(*hold.Load) (kind string, request any) { return "pick", o.pick }

// Beside is what must be read with the hook's load.
func (o *Lifted) Beside(l *hold.Load) []string {
	if l.Part == hold.PartCrane {
		return o.pick.Cautions(o.lift)
	}
	return nil
}

// Figures are how it hangs under its hook.
func (o *Lifted) Figures(f *course.Figures) {
	if o.pick != nil {
		f.Lift = o.liftFigures()
	}
}

// liftFigures is how a piece hangs under its hook, and what the chart has for it.
func (o *Lifted) liftFigures() *course.LiftFigures {
	reads := o.pick.Reads()
	f := &course.LiftFigures{
		Crane: o.Pick.Lift.Crane, RadiusM: o.pick.RadiusM, HookKg: o.lift.HookKg, CapacityKg: o.lift.CapacityKg, TiltDeg: o.lift.TiltDeg, HookOverM: o.lift.HookOverM,
		HoldsKg: o.freed.holdsKg, CutRadiusM: o.cutRadius, DownRadiusM: o.downRadius, Chart: reads, SharePct: *o.pick.ChartUsePct, FarthestM: o.pick.Farthest(reads, max(o.lift.HookKg.High, (o.lift.HookKg.High+(o.freed.times-1)*o.pick.MassKg.High)**o.pick.ChartUsePct/100)),
	}
	if f.CapacityKg != nil {
		allowed := *f.CapacityKg * f.SharePct / 100
		f.AllowedKg = &allowed
	}
	return f
}

// sweep is the way of a piece that a crane lifts: it turns about its balance, which hangs
// under the hook, from how it grows into how its slings hold it, and goes straight up until it
// is over all that stands round it. One sling at its balance holds it any way: as it grows.
func (o *Lifted) sweep() space.Sweep {
	s := space.SweepOf(o.Body())
	cog := r3.Sub(o.Weight.At, o.Cut)
	long := r3.Sub(o.Tip, o.Cut)
	axis := r3.Cross(r3.Vec{Z: 1}, space.Heading(1e-6, space.Towards(o.Settings.FallTowardsDeg), space.Level(long)))
	turn := 0.0
	if len(o.pick.Slings) > 1 || o.lift.TiltDeg != 0 {
		// Down from where its tip points now to where it hangs: its butt up by the tilt. In one
		// sling aside of its balance it comes to hang upright.
		turn = math.Atan2(long.Z, r3.Norm(space.Level(long))) + space.Radians(o.lift.TiltDeg)
	}
	s.Along(func(share float64) space.Pose { return space.Hung(axis, turn*share, cog, o.Weight.At) })
	from, to := o.Weight.At, o.Weight.At
	to.Z = max(to.Z, o.highest()+o.Length())
	s.Along(func(share float64) space.Pose { return space.Hung(axis, turn, cog, space.OnTheWay(from, to, share)) })
	return s
}

// asItGrew spares what a lifted piece is near to where it grows: its lift does not bring it
// nearer. Power lines are not spared.
func (o *Lifted) asItGrew(way *space.Sweep) {
	grown := space.SweepOf(way.Parts)
	grown.Add(way.Poses[0], true)
	for i := range o.Tree.Targets {
		p := &o.Tree.Targets[i]
		if _, power := policy.PowerDistanceOf(p.Target); power {
			continue
		}
		for k := range o.Clears {
			if c := &o.Clears[k]; c.Target == p.Target && c.Strikes() && c.ClearanceM > 0 &&
				c.ClearanceM > grown.Nearest(course.LookFor, nil, p.Distance)-0.05 {
				c.Spared = true
			}
		}
	}
}

// highest is how high anything on the site reaches, power lines left out, m.
func (o *Lifted) highest() float64 {
	top := o.Now.Top
	for i := range o.Tree.Targets {
		if _, power := policy.PowerDistanceOf(o.Tree.Targets[i].Target); !power {
			top = max(top, o.Tree.Targets[i].ToM)
		}
	}
	for _, w := range o.WoodBut(func(int) bool { return false }, o.Now) {
		top = max(top, w.Top())
	}
	return top
}

// reachAbout is how far any part of a piece is from a place on it, m: as it may turn.
func reachAbout(s *space.Sweep, place r3.Vec) (far float64) {
	for i := range s.Parts {
		far = max(far, r3.Norm(r3.Sub(s.Parts[i].Off, place))+s.Parts[i].R)
	}
	return far
}
