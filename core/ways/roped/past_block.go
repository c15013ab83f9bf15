package roped

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/space"
)

// PastBlock is a piece whose block is below the cut: it tips over and falls past it. The
// hardest shock there is.
type PastBlock struct{ *Roped }

// pastBlock makes one.
type pastBlock struct{ onLine }

func (pastBlock) Make(c course.Course) course.Made {
	o := New(c)
	if !o.Stopped() {
		o.Tips()
	}
	o.lower(false)
	return &PastBlock{o}
}

// Follow measures what is round it while it tips over its cut, falls and hangs.
func (o *PastBlock) Follow() {
	if !o.complete {
		return
	}
	o.roomTipping()
	o.needsRope()
	o.twinRope()
}

// Words are what is called of it.
func (o *PastBlock) Words() course.Words {
	return course.Words{Call: o.letDownCall(), Steady: o.Steadied(), Drawn: o.Tag != nil}
}

// roomTipping measures what is round a piece while it tips over its cut.
func (o *PastBlock) roomTipping() {
	if name := o.tipsInto(); name != "" {
		o.Fault(course.FaultSector, "it tips into the no-go sector %s", name)
	}
	o.stop = o.readyStop()
	if o.Enough(o) {
		return
	}
	way := o.tippingWay()
	o.Cases[0].Way = way
	if o.Tag != nil {
		o.staysOut(&way)
	}
	o.Clears = o.Measure(&way, o.WoodRound())
	o.ComesDownBy(&way, o.Block.Z)
	o.turnsOn(&way, o.Block, o.lowestTie())
	o.AlongRopes(&way)
}

// tipsInto is the no-go sector that a piece comes into as it tips over, with its brush, or "".
func (o *Roped) tipsInto() string {
	if name := o.Sector(o.Settings.FallTowardsDeg); name != "" || len(o.Job.Site.Sectors) == 0 {
		return name
	}
	over := space.Towards(o.Settings.FallTowardsDeg)
	across := r3.Cross(over, r3.Vec{Z: 1})
	body := o.Body()
	return o.FirstSector(func(s *job.Sector) bool {
		return slices.ContainsFunc(body, func(b space.Part) bool {
			out := b.Off.Z
			if o.Pick.What == job.WhatLimb {
				out = math.Hypot(r3.Dot(b.Off, over), out)
			}
			at := r3.Add(o.Cut, r3.Add(r3.Scale(out, over), r3.Scale(r3.Dot(b.Off, across), across)))
			return o.ReachesInto(s, at, b.R)
		})
	})
}
