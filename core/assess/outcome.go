package assess

import (
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways"
	"elkstay/core/ways/bothends"
	"elkstay/core/ways/roped"
)

// Outcome is one pick as it comes down, and where. What a way has of its own stays in what that way made.
type Outcome struct {
	*course.Course
	Made    course.Made
	Landing *Landing // nil: it is put down, or nobody asks
	freed   []string // what its crown was tied to
}

// WorkWith works out one pick on the tree as it stands, on a rig; nil: there is none.
func (v *Survey) WorkWith(p *job.Pick, rig *job.Rig, number int, now *space.Standing) *Outcome {
	return v.workedOut(p, rig, number, now, nil)
}

// work works out one pick on the tree as it stands, with the rig it names.
func (v *Survey) work(p *job.Pick, number int, now *space.Standing) *Outcome {
	return v.WorkWith(p, v.RigOf(p), number, now)
}

// RigOf is the rig that a pick names, else the first; nil: there is none.
func (v *Survey) RigOf(p *job.Pick) *job.Rig { return v.RigNamed(p.Rig) }

// workedOut works out a pick; before: the same to the same bearing, nil: where it comes down is asked.
func (v *Survey) workedOut(p *job.Pick, rig *job.Rig, number int, now *space.Standing, before *course.Course) *Outcome {
	c := v.Begin(v.Tree, p, rig, number, now, before)
	way := ways.Find(p.Way)
	if c.TakesNothing() {
		made := way.Make(c)
		return &Outcome{Course: made.State(), Made: made}
	}
	whole := hold.Load{Part: hold.PartPiece, RestKn: c.Weight.Kg.Likely * units.Gravity / 1000, PeakKn: c.WeightKn(), Free: true, Why: "no heaviest piece is set", From: weighing{c.Piece}}
	way.Bound(v.Scene, &whole)
	if why := c.Unweighed(); why != "" {
		whole.Known, whole.Free, whole.Why = false, false, why+", so neither is what it weighs with it"
	}
	c.Loads = append(c.Loads, whole)
	made := way.Make(c)
	made.Follow()
	o := &Outcome{Course: made.State(), Made: made}
	v.land(o)
	v.tiedCrowns(o)
	v.bar(o)
	return o
}

// Rope is the piece as it is on its line; nil: it comes onto none.
func (o *Outcome) Rope() *roped.Roped {
	if on, is := o.Made.(interface{ Rope() *roped.Roped }); is {
		return on.Rope()
	}
	return nil
}

// Drops reports that it falls onto a line.
func (o *Outcome) Drops() bool {
	held := o.Made.Held()
	return held != nil && held.Drops
}

// StoppedEarly reports, of a piece worked out in a hurry, that no other program of its two lines would help.
func (o *Outcome) StoppedEarly() bool {
	both, is := o.Made.(*bothends.BothEnds)
	return is && both.StoppedEarly()
}

// Because says why the piece is proposed so.
func (o *Outcome) Because(v *Survey) string {
	lands := ""
	if o.Landing != nil {
		lands = o.Landing.Reason
	}
	return ways.Because(o.Pick.Way, o.Made, v.Use(o), lands)
}

// putDown is where a piece on a line or a hook is put down; of one that is let go, nothing.
func (o *Outcome) putDown() (at r3.Vec, known bool) {
	if down, is := o.Made.(interface{ PutDown() (r3.Vec, bool) }); is {
		return down.PutDown()
	}
	return at, false
}

// sits are the places that its gear sits on.
func (o *Outcome) sits() []course.Sit {
	if geared, is := o.Made.(interface{ Sits() []course.Sit }); is {
		return geared.Sits()
	}
	return nil
}

// bar names the gear that this pick may not be planned with. What is down already came down as it did: what happened to its gear since
// is said of it.
func (v *Survey) bar(o *Outcome) {
	seen := map[string]bool{}
	for i := range o.Loads {
		id := o.Loads[i].Item
		if id == "" || seen[id] {
			continue
		}
		seen[id] = true
		standing, barred, _ := v.Gear.Stands(id)
		switch {
		case barred && o.Pick.Done:
			o.Note("%s is not to be planned with any more: %s. This came down on it.", v.Gear.Item(id).Name, standing.Why)
		case barred:
			o.Fault(course.FaultGear, "%s is not to be planned with: %s. Take another, or record a reason", v.Gear.Item(id).Name, standing.Why)
		}
	}
}

// clearance is the least room round and beneath it, m; +Inf: none is known.
func (o *Outcome) clearance() float64 {
	clear := math.Inf(1)
	if held := o.Made.Held(); held != nil && held.Stops {
		clear = held.LowestM - held.Floor.Z
	}
	if len(o.Clears) > 0 {
		clear = min(clear, o.Clears[0].ClearanceM)
	}
	return clear
}
