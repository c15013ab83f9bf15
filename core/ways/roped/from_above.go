package roped

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/space"
)

// FromAbove is a piece whose block is over it: it comes off onto the line and is let down.
type FromAbove struct{ *Roped }

// fromAbove makes one.
type fromAbove struct{ onLine }

func (fromAbove) Make(c course.Course) course.Made {
	o := New(c)
	o.lower(true)
	return &FromAbove{o}
}

// Follow measures what is round it while it swings under its block and hangs.
func (o *FromAbove) Follow() { o.followUnder(o) }

// Words are what is called of it, and what making its line tight before does.
func (o *FromAbove) Words() course.Words {
	return course.Words{Call: o.letDownCall(), Cautions: o.tightCautions(), Steady: o.Steadied(), Drawn: o.Tag != nil}
}

// tightCautions says what making the line tight before does.
func (o *Roped) tightCautions() []string {
	switch {
	case o.tight == nil:
		return nil
	case o.tight.swings:
		return []string{"It swings off its line: made tight before, the line catches it no softer at the bottom of its arc."}
	}
	return o.tight.held.Cautions(o.tight.caught)
}

// swingsInto is the no-go sector that a piece swings into, beyond its block as far as it came from before it, with all
// of it as it hangs by then; "": none.
func (o *Roped) swingsInto() string {
	if o.arc == nil || len(o.Job.Site.Sectors) == 0 {
		return ""
	}
	side := space.Level(r3.Sub(o.Block, o.Tie))
	// From above its block it comes out furthest level with it; only the plan counts.
	end := r3.Add(o.Block, r3.Scale(o.arc.RadiusM*math.Sin(space.Radians(min(90, o.arc.StartDeg)))/r3.Norm(side), side))
	if name := o.Sector(space.AzimuthOf(space.Level(r3.Sub(end, o.Foot)))); name != "" {
		return name
	}
	axis, angle, tie, _ := o.hangs()
	p := space.Hung(axis, angle, tie, end)
	body := o.Body()
	return o.FirstSector(func(s *job.Sector) bool {
		return slices.ContainsFunc(body, func(b space.Part) bool { return o.ReachesInto(s, p.Place(b.Off), b.R) })
	})
}

// followUnder follows a piece that swings under its block and hangs.
func (o *Roped) followUnder(made course.Made) {
	if !o.complete {
		return
	}
	o.roomUnder(made)
	o.needsRope()
	o.twinRope()
}

// roomUnder measures what is round a piece while it swings under its block and hangs.
func (o *Roped) roomUnder(made course.Made) {
	into := o.swingsInto()
	if into != "" {
		o.Fault(course.FaultSector, "it swings into the no-go sector %s", into)
	}
	if o.Enough(made) {
		return
	}
	o.stop = o.readyStop()
	way := o.swingWay()
	o.stopLoads()
	if stop := o.stop; stop != nil && stop.meets && !stop.holds {
		// What does not hold stops nothing: it goes on.
		o.stop = nil
		way = o.swingWay()
		o.stop = stop
		o.Note("It is not known to be held by %s: it is followed as if it went on.", stop.name)
	}
	o.Cases[0].Way = way
	if into == "" {
		o.staysOut(&way)
	}
	o.Clears = o.Measure(&way, o.WoodRound())
	if o.stop != nil && o.stop.holds {
		// What is meant to be met is not in its way.
		o.Clears = slices.DeleteFunc(o.Clears, func(c course.Clearance) bool {
			return c.Target == nil && o.stop.wood != nil && c.Wood == o.stop.wood.ID
		})
	}
	o.swingsAt(&way)
	if place := o.Rig.Block.Place; place != nil && !o.OnOwnStem(place) {
		o.PastStem(&way)
	}
	o.turnsOn(&way, o.Block, o.lowestTie())
	o.AlongRopes(&way)
}

// staysOut faults a piece that its line brings into a no-go sector; on one line it may hang in one.
func (o *Roped) staysOut(way *space.Sweep) {
	axis, angle, tie, _ := o.hangs()
	o.StaysOut(way, space.Hung(axis, angle, tie, r3.Vec{X: o.Block.X, Y: o.Block.Y, Z: o.lowestTie()}))
}

// swingsAt makes of a swing towards people a fault until something stops it, and says what stops one
// into a building, which is over as it strikes that.
func (o *Roped) swingsAt(way *space.Sweep) {
	if o.arc == nil || o.arc.StartDeg < SwingsFrom {
		o.ComesDownBy(way, o.Block.Z)
		return
	}
	for i := range o.Clears {
		c := &o.Clears[i]
		if c.Target != nil && c.Target.Kind == "building" && c.ClearanceM <= 0 {
			// Over already, by what it strikes: what helps is said.
			o.Note("It swings into %s: stop it with a limb, a stem or a line, hold it at both ends, or take it shorter.", c.Name)
			break
		}
	}
	o.People(way, o.Block.Z, func(near float64, role string) {
		o.Fault(course.FaultSector, "it swings or comes down within %s of where the %s stands: stop it before, or have them stand elsewhere", o.Height(near), role)
	})
}
