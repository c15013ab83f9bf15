package roped

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/search"
	"elkstay/core/space"
	"elkstay/core/working"
)

// stopping is what is in the way of a swing, and how the piece meets it.
type stopping struct {
	set    *job.Stop
	own    bool // by wood of the tree that the piece comes off
	name   string
	wood   *space.Wood    // nil: a line
	tight  float64        // length of the line, m
	from   r3.Vec         // what the line leads to
	rig    *job.Rig       // whose rope it is
	meets  bool           // on some of its arcs
	misses bool           // on others
	at     r3.Vec         // where it is met hardest
	heads  r3.Vec         // which way the piece goes there
	kj     float64        // with so much
	leans  float64        // and with so much of its weight the way it goes, kN
	pose   space.Pose     // and stands so
	give   func() float64 // kN/m of what is met there
	onTree func() r3.Vec  // where that is from the foot of the tree that it meets
	holds  bool           // and all of it is within its limit
}

// readyStop readies what stops a pick's swing; nil: nothing does, or a fault says why not.
func (o *Roped) readyStop() *stopping {
	set := o.Pick.Stop
	if set == nil {
		return nil
	}
	if o.arc == nil {
		o.Fault(course.FaultTie, "nothing swings here for %s to stop: the piece hangs straight under its block", stopWord(set))
		return nil
	}
	st := &stopping{set: set}
	tree := o.Called(set.Tree)
	if tree == nil {
		o.Fault(space.FaultGone, "the swing is to be stopped on a tree that is not there, or not measured: %q", set.Tree)
		return nil
	}
	stands := o.StandsOf(tree, o.Now)
	st.own = tree == o.Tree
	foot := o.FootOf(tree)
	st.onTree = func() r3.Vec { return r3.Sub(st.at, r3.Vec{Z: foot}) }
	switch set.On {
	case job.StopLimb:
		i := tree.LimbIndex(set.Limb)
		if i < 0 || !stands.Stands(i) || tree == o.Tree && o.Own()(i) {
			o.Fault(space.FaultGone, "the limb that is to stop the swing is not standing there: %q", set.Limb)
			return nil
		}
		st.name, st.wood = tree.Limbs[i].Title(), tree.LimbWood(i, stands.Tips[i]).Raised(foot)
		st.give = func() float64 { return o.Wood(tree).LimbGives(i, st.onTree()) }
	case job.StopStem:
		top := min(stands.Top, tree.Stem.Top())
		if tree == o.Tree {
			top = min(top, max(tree.Stem.Bottom(), o.StandsToM))
		}
		st.name = course.OwnStem
		if tree != o.Tree {
			st.name = tree.Measured.Title()
		}
		st.wood = tree.StemWood(top).Raised(foot)
		st.give = func() float64 { return o.Wood(tree).StemGives(st.onTree().Z) }
	case job.StopLine:
		at, name, why := o.ledTo(set.Anchor, nil)
		if why != "" {
			o.Fault(course.FaultBlock, "the line that stops the swing leads to a place %s", why)
			return nil
		}
		st.name = "the line to " + name
		st.from, st.rig = at, o.Rig
		if set.Rig != "" {
			st.rig = o.RigNamed(set.Rig)
		}
		if st.rig == nil || st.rig.Rope == nil {
			o.Fault(course.FaultRig, "the line that stops the swing has no rope: choose its rig")
			return nil
		}
		under := r3.Sub(o.Block, r3.Vec{Z: o.arc.RadiusM})
		st.tight = job.Or(set.LineM, r3.Norm(r3.Sub(under, at)))
	}
	return st
}

func stopWord(s *job.Stop) string {
	return map[string]string{job.StopLimb: "a limb", job.StopStem: "a stem", job.StopLine: "a line"}[s.On]
}

// touches tells whether a piece in a pose is at its stop, and where.
func (st *stopping) touches(balls []space.Part, p *space.Pose, tie r3.Vec) (at r3.Vec, is bool) {
	if st.wood == nil {
		at = p.Place(tie)
		return at, r3.Norm(r3.Sub(at, st.from)) >= st.tight
	}
	for i := range balls {
		spot := p.Place(balls[i].Off)
		if st.wood.Distance(spot, balls[i].WoodR) <= balls[i].WoodR {
			return spot, true
		}
	}
	return at, false
}

// cut ends an arc where the piece meets its stop: the share of it that is left, and what it meets
// it with. What begins there already, as it grows beside it, has still to leave it.
func (st *stopping) cut(o *Roped, balls []space.Part, tie r3.Vec, at func(share float64) space.Pose) float64 {
	const parts = 240
	cog := r3.Sub(o.Weight.At, o.Cut)
	away := false
	var before r3.Vec
	for share := range search.Shares(parts) {
		p := at(share)
		spot, is := st.touches(balls, &p, tie)
		middle := p.Place(cog)
		if is && away {
			st.meets = true
			kj := o.WeightKn() * max(0, o.Weight.At.Z-middle.Z)
			if kj >= st.kj {
				st.kj, st.at, st.pose = kj, spot, p
				st.heads = space.Heading(1e-9, st.heads, r3.Sub(middle, before))
			}
			return share
		}
		away = away || !is
		before = middle
	}
	st.misses = true
	return 1
}

// stopLoads gathers what a stop takes: all of the piece's fall goes into what is met, which bends, or
// into the rope, which stretches; nothing else is taken to give.
func (o *Roped) stopLoads() {
	st := o.stop
	if st == nil {
		return
	}
	if !st.meets {
		o.Fault(course.FaultTie, "it never meets %s on its swing: it stops nothing", st.name)
		return
	}
	l := hold.Load{Part: hold.PartStop, Name: st.name}
	speed := math.Sqrt(2 * st.kj * 1000 / o.Counts())
	// On its way down it leans on what it has met, too.
	st.leans = o.WeightKn() * max(0, -st.heads.Z)
	peak := st.takes()
	if st.wood == nil {
		l.Item = st.rig.Rope.Item
		l.Rated = o.Limits.RateTie(st.rig, st.leans, peak)
	} else {
		at := st.onTree()
		place := job.Place{On: job.OnStem, Tree: st.set.Tree, AtM: at.Z}
		tree := o.Called(st.set.Tree)
		stands := o.StandsOf(tree, o.Now)
		p := hold.Pull{Place: &place, At: at, Dir: st.heads, RestKn: st.leans, PeakKn: peak}
		if st.set.On == job.StopLimb {
			place.On, place.Limb, place.AtM = job.OnLimb, st.set.Limb, tree.Limbs[tree.LimbIndex(st.set.Limb)].Nearest(at)
			l = o.Wood(tree).OnLimb(&p, nil, stands)
		} else {
			l = o.Wood(tree).OnTree(&p, nil, stands)
		}
		l.Part, l.Name = hold.PartStop, st.name
	}
	l.RestKn, l.PeakKn = st.leans, peak
	o.leftBeside(&l, st)
	l.Say(fmt.Sprintf("Met at %.1f m/s with %.2g kJ, %s up: all of it is taken to go into what is met; bark, brush and the piece give way a little.", speed, st.kj, o.Height(max(0, st.at.Z))))
	l.Say("It bounces back the way it came: nobody between it and its cut.")
	if l.Why == "" && !l.Known {
		l.Why = "nobody has said what it holds"
	}
	st.holds = l.Known && l.Use() <= 1
	o.load(l)
	if st.wood == nil {
		for i := range o.Job.Site.Anchors {
			if a := &o.Job.Site.Anchors[i]; a.ID == st.set.Anchor {
				place := job.Place{On: job.OnAnchor, Anchor: a.ID, AtM: st.from.Z}
				held := o.Strength().Anchored(a, &hold.Pull{Place: &place, At: st.from, Dir: r3.Unit(r3.Sub(st.at, st.from)), RestKn: st.leans, PeakKn: peak})
				st.holds = st.holds && held.Known && held.Use() <= 1
				o.load(held)
			}
		}
	}
	if st.misses {
		o.Note("Where its line runs it can pass %s: hold it short until it has stopped.", st.name)
	}
}

// leftBeside takes off a stop's limit what the line loads of the same wood: both come at once.
func (o *Roped) leftBeside(l *hold.Load, st *stopping) {
	if st.wood == nil || !l.Known {
		return
	}
	used := 0.0
	for i := range o.Loads {
		other := &o.Loads[i]
		own := other.Part == hold.PartSpar && st.own || other.Part == hold.PartHolder && other.On == l.On
		if own && other.Known && !other.Unseen {
			used = max(used, other.Use())
		}
	}
	if used > 0 {
		l.Limit.Kn *= max(0.01, 1-used)
		l.Limit.Reason += fmt.Sprintf("; %.0f %% of it are taken off for what the line loads there", 100*min(0.99, used))
	}
}

// takes is the force at which what is met has taken up a piece that comes with an energy and goes on leaning
// on it: of a spring k, s + √(s² + 2·k·E), twice what leans for no energy at all, kN.
func (st *stopping) takes() float64 {
	if st.wood == nil {
		return ropeTakes(&st.rig.Rope.Rope, st.tight, st.kj, st.leans)
	}
	return st.leans + math.Sqrt(st.leans*st.leans+2*st.give()*st.kj)
}

// bendsBy is how far what is met has given way by then, m.
func (st *stopping) bendsBy() float64 {
	if st.wood == nil {
		rope := &st.rig.Rope.Rope
		return rope.Strain(st.takes()) * st.tight / rope.Dynamic()
	}
	return st.takes() / st.give()
}

// ropeTakes is the tension at which a rope so long has taken up an energy, kJ, and the work of what goes on
// leaning on it, kN.
func ropeTakes(rope *gear.Rope, longM, kj, leans float64) float64 {
	left := func(kn float64) float64 {
		// ∫(T − s)·dx of a table of straight lines, by small steps of the tension.
		const parts = 200
		sum := 0.0
		for k := range parts {
			sum += (kn*(float64(k)+0.5)/parts - leans) * (rope.Strain(kn*float64(k+1)/parts) - rope.Strain(kn*float64(k)/parts)) * longM
		}
		return sum/rope.Dynamic() - kj
	}
	return search.Root(60, leans, max(2*leans, rope.BreakingKn), left)
}

// stopFigures gives what is drawn and said of a stop; nil: there is none, or it is not met.
func (o *Roped) stopFigures() *course.StopFigures {
	st := o.stop
	if st == nil || !st.meets {
		return nil
	}
	speed := math.Sqrt(2 * st.kj * 1000 / o.Counts())
	return &course.StopFigures{Name: st.name, X: st.at.X, Y: st.at.Y, Z: st.at.Z, SpeedMS: speed, EnergyKj: st.kj,
		Said: fmt.Sprintf("It meets %s %s up, at %.1f m/s with %s.", st.name, o.Height(max(0, st.at.Z)), speed, fmt.Sprintf("%.2g kJ", st.kj))}
}

// bends adds to a way how far what is met bends before it stops the piece.
func (st *stopping) bends(s *space.Sweep) {
	if !st.meets {
		return
	}
	// It gives before it stops: as far as it bends.
	bends := min(0.5, st.bendsBy())
	s.Along(func(share float64) space.Pose {
		p := st.pose
		p.At = r3.Add(p.At, r3.Scale(share*bends, st.heads))
		return p
	})
}

// working writes the sum behind what a stop takes.
func (st *stopping) working(sheet *working.Sheet, l *hold.Load) {
	sheet.Add("E", "what the piece has when it meets the stop", "W·(how far its balance has come down)", st.kj, "kJ", "energy")
	sheet.Add("s", "what of its weight goes on leaning on it, on its way down", "W·sin of its way under the level", st.leans, "kN", "statics")
	if st.wood == nil {
		sheet.Add("F", "tension at which the rope has taken that up", fmt.Sprintf("∫(T − s)·dx = E over %s m of rope", working.Figure(st.tight)), l.PeakKn, "kN", "energy")
		return
	}
	sheet.Add("k", "stiffness of what is met, bending from there to its foot", "1/∫(s − x)²/(E·I)·dx", st.give(), "kN/m", "Euler–Bernoulli beam")
	sheet.Add("F", "force that bends it so far", "s + √(s² + 2·k·E)", l.PeakKn, "kN", "energy")
}
