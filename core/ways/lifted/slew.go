package lifted

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/search"
	"elkstay/core/space"
)

// headM is how near to the head of its boom a hook is let come without a word, m: what the head
// block takes and where the boom's foot stands is in no chart that is asked for.
const headM = 2

// A ring is what a part of a lifted piece sweeps as the piece turns under its hook: so far from
// the plumb line through its balance, so high over its balance, and so thick, m.
type ring struct{ out, over, r float64 }

// A slewing is a lift on its way round its crane. Its boom's foot is taken at the ground, which
// makes up for the block that hangs under its head (common practice, no source).
type slewing struct {
	*Lifted
	rings      []ring
	reach      float64 // of any part from the balance, m
	out, far   float64 // the balance stays between these radii, m
	from, turn float64 // bearing at which it begins, and how far it goes round, degrees
	level      float64 // how high the balance hangs, m
}

// footM is how high a boom's foot may stand with the block and sheaves over its head, m (common practice, no source).
const footM = 4

// head is how high a boom's head stands at a radius, m.
func head(c *job.Crane, radius float64) float64 {
	return math.Sqrt(max(0, c.BoomM*c.BoomM-radius*radius))
}

// slew follows a lifted piece round its crane, from where it hung free of its tree to over where
// it is put down: over what stands beneath its way where the boom is high enough, else at the
// height that the boom allows. It goes the shorter way round, or the other one where that alone
// is open. Where it is put down is not said: all round.
func (o *Lifted) slew(way *space.Sweep) {
	at := space.Level(r3.Sub(o.Weight.At, r3.Vec{X: o.crane.At.X, Y: o.crane.At.Y}))
	s := slewing{Lifted: o, rings: o.rings(way), reach: reachAbout(way, r3.Sub(o.Weight.At, o.Cut)), out: r3.Norm(at), far: o.radius, from: space.AzimuthOf(at), turn: 360}
	under := o.hookOverBalance()
	o.reachesUp(&s, under)
	if hook := s.overItsOwn() + under; hook > head(o.crane, s.out) {
		o.say("It is not lifted clear over its own tree: the hook would have to go up to %s for it. Which way it is brought out past stem and limbs, and who holds it off them, is in no figure.", o.Height(hook))
	}
	down := o.Pick.Lift.SetDown
	if down == nil {
		o.goes(s.round(under, true))
		return
	}
	to := r3.Sub(r3.Vec{X: down.X, Y: down.Y}, r3.Vec{X: o.crane.At.X, Y: o.crane.At.Y})
	s.out = min(s.out, r3.Norm(to))
	s.turn = math.Mod(space.AzimuthOf(to)-s.from+540, 360) - 180
	shorter := s.round(under, false)
	if shorter.open {
		o.goes(shorter)
		return
	}
	other := s
	other.turn = s.turn - math.Copysign(360, s.turn)
	longer := other.round(under, false)
	if !longer.open {
		o.goes(shorter)
		return
	}
	o.goes(longer)
	o.say("Slew it %s, %.0f° round: the shorter way is not open to it.", map[bool]string{true: "clockwise", false: "anticlockwise"}[other.turn > 0], math.Abs(other.turn))
}

func (o *Lifted) say(format string, args ...any) {
	o.said = append(o.said, fmt.Sprintf(format, args...))
}

// goes takes one way round for the piece's.
func (o *Lifted) goes(r round) { o.Clears, o.said = r.clears, append(o.said, r.said...) }

// reachesUp says whether the hook can be hung over the piece where it grows.
func (o *Lifted) reachesUp(s *slewing, under float64) {
	picked := o.Weight.At.Z + under
	switch high := head(o.crane, s.out); {
	case picked > high:
		o.Fault(course.FaultReach, "%s cannot reach up to it: its hook is to hang at %s, and %s of boom at %s stands about %s high",
			o.crane.Name, o.Height(picked), o.Height(o.crane.BoomM), o.Height(s.out), o.Height(high))
	case picked > high-headM:
		o.say("The hook is to hang at %s, and %s of boom at %s stands about %s high: let the operator say whether it reaches.",
			o.Height(picked), o.Height(o.crane.BoomM), o.Height(s.out), o.Height(high))
	}
}

// overItsOwn is how high the balance of a piece must be for its lowest part to pass over what stands
// of its own tree, m; 0 for a piece of the stem where no limb stands higher.
func (s *slewing) overItsOwn() float64 {
	o := s.Lifted
	// Of a piece of the stem what stands of that ends at its cut.
	stands, own := o.Cut.Z, o.Own()
	if o.Pick.What == job.WhatLimb {
		stands = o.Now.Top
	}
	top := stands
	for k := range o.Limbs {
		if o.Now.Stands(k) && !own(k) {
			top = max(top, o.LimbWood(k, o.Now.Tips[k]).Top())
		}
	}
	if o.Pick.What != job.WhatLimb && top == stands {
		return 0
	}
	return top + o.Limits.ClearM + s.hangsUnder()
}

// hangsUnder is how far the lowest part of the load hangs under its balance, m.
func (s *slewing) hangsUnder() (low float64) {
	for _, r := range s.rings {
		low = max(low, r.r-r.over)
	}
	return low
}

// A round is one way round: how near the piece comes to what stands there, what is said of it, and whether nothing stops it.
type round struct {
	clears []course.Clearance
	said   []string
	open   bool
}

func (r *round) say(format string, args ...any) {
	r.said = append(r.said, fmt.Sprintf(format, args...))
}

// round works out what a lift keeps on its way round, and how high it goes; spared: what it strikes is no more than close, as nobody
// says that it goes there.
func (s *slewing) round(under float64, spared bool) (r round) {
	// What is found is this way's alone.
	one := s.Course
	one.Clears = append([]course.Clearance{}, s.Clears...)
	r.open = true
	asides := make([]float64, len(s.Tree.Targets))
	for i := range s.Tree.Targets {
		p := &s.Tree.Targets[i]
		if metres, power := policy.PowerDistanceOf(p.Target); power {
			// Boom and load turned any way, at any height that the boom's head comes to, upright as it may be.
			near := math.Hypot(max(0, s.aside(p, 0)-s.reach), max(0, p.FromM-(s.crane.BoomM+footM)))
			one.ComesNear(p.Target, near, metres)
			r.open = r.open && near >= s.Keeps(p.Target)
			continue
		}
		asides[i] = s.aside(p, s.out)
	}
	course.SortClearances(one.Clears)
	r.clears = one.Clears
	for i := range s.Job.Site.Posts {
		post := &s.Job.Site.Posts[i]
		if !s.InTheTree(post) && s.asideOf(r3.Vec{X: post.At.X, Y: post.At.Y}) < s.widest()+course.ByPeople {
			r.say("It passes over where the %s stands: nobody under the load.", post.Role)
		}
	}
	if sector := s.sector(); sector != "" {
		r.say("It comes over the no-go sector %s on its way round.", sector)
	}
	wood := s.beneath()
	name, top := s.highestBeneath(asides, wood)
	if name == "" {
		return r
	}
	over, high := top+s.Limits.ClearM, head(s.crane, s.far)
	r.say("Before it slews, its lowest end above %s: %s, %s high, stands beneath its way.", s.Height(over), name, s.Height(top))
	hook := over + s.hangsUnder() + under
	if hook <= high {
		if hook > high-headM {
			r.say("The hook goes up to %s for it; %s of boom at %s stands about %s high: let the operator say whether it reaches.", s.Height(hook), s.Height(s.crane.BoomM), s.Height(s.far), s.Height(high))
		}
		return r
	}
	r.say("The hook would have to go up to %s for it; %s of boom at %s stands about %s high.%s", s.Height(hook), s.Height(s.crane.BoomM), s.Height(s.far), s.Height(high),
		map[bool]string{true: " Say where it is put down: all round is not open to it.", false: ""}[spared])
	s.level = high - under
	s.low(&r, asides, wood, spared)
	return r
}

// highestBeneath is what stands highest beneath the way round, and how high, m; "": nothing does.
func (s *slewing) highestBeneath(asides []float64, wood []standing) (name string, top float64) {
	var highest *job.Target
	for i := range s.Tree.Targets {
		p := &s.Tree.Targets[i]
		if _, power := policy.PowerDistanceOf(p.Target); !power && asides[i] <= s.widest()+s.Limits.ClearM && (highest == nil || p.ToM > highest.ToM) {
			highest = p.Target
		}
	}
	if highest != nil {
		name, top = highest.Name, highest.ToM
	}
	for i := range wood {
		if w := &wood[i]; w.top > top && w.aside <= s.widest()+s.Limits.ClearM {
			name, top = w.name, w.top
		}
	}
	return name, top
}

// low brings what the load comes to, at the height that the boom allows, into a way round.
func (s *slewing) low(r *round, asides []float64, wood []standing, spared bool) {
	for i := range s.Tree.Targets {
		p := &s.Tree.Targets[i]
		if _, power := policy.PowerDistanceOf(p.Target); power {
			continue
		}
		nearest := s.clearance(asides[i], p.FromM, p.ToM)
		if nearest > course.LookFor {
			continue
		}
		if nearest < s.Keeps(p.Target) {
			r.open = false
		}
		r.note(course.Clearance{Name: p.Name, ClearanceM: nearest, KeepsM: s.Keeps(p.Target), Spared: spared, Target: p.Target})
	}
	for i := range wood {
		w := &wood[i]
		if nearest := s.clearance(w.aside, 0, w.top); nearest < s.Limits.ClearM {
			r.note(course.Clearance{Name: w.name, ClearanceM: nearest, KeepsM: s.Limits.ClearM, Spared: true, Wood: w.as})
		}
	}
	course.SortClearances(r.clears)
}

// note brings a clearance into a way round where it is nearer, or graver, than what is known.
func (r *round) note(n course.Clearance) {
	for k := range r.clears {
		if c := &r.clears[k]; c.Target == n.Target && c.Wood == n.Wood {
			if n.Near() {
				c.Spared = n.Spared && (c.Spared || !c.Near())
			}
			c.ClearanceM = min(c.ClearanceM, n.ClearanceM)
			return
		}
	}
	r.clears = append(r.clears, n)
}

// sector is the first no-go sector that a load comes over on its way to where it is put down, and that it is not
// over where it is picked, or "".
func (s *slewing) sector() string {
	o := s.Lifted
	if math.Abs(s.turn) >= 360 {
		return ""
	}
	over := func(sector *job.Sector, share float64) bool {
		for _, radius := range [2]float64{s.out, s.far} {
			at := r3.Scale(radius, space.Towards(s.from+s.turn*share))
			if o.LiesIn(sector, space.Disc{X: s.crane.At.X + at.X, Y: s.crane.At.Y + at.Y, R: s.widest()}) {
				return true
			}
		}
		return false
	}
	return o.FirstSector(func(sector *job.Sector) bool {
		if over(sector, 0) {
			return false
		}
		for share := range search.Shares(int(math.Ceil(math.Abs(s.turn))) + 1) {
			if over(sector, share) {
				return true
			}
		}
		return false
	})
}

// A standing is wood of another tree: how near the balance passes it by the plan, and how high
// it stands there, m.
type standing struct {
	name       string
	as         space.WoodID
	aside, top float64
}

// beneath is the wood of other trees near the way round.
func (s *slewing) beneath() (list []standing) {
	o := s.Lifted
	for _, w := range o.OthersWood(o.Now) {
		if s.asideOf(w.Middle)-w.Round > s.widest()+o.Limits.ClearM {
			continue
		}
		for i := range w.Parts {
			part := &w.Parts[i]
			long := r3.Norm(part.Along)
			parts := int(max(1, math.Ceil(long/space.AlongRope)))
			// Between two places of it that are looked at it may stand as much nearer, and higher.
			half := long / float64(parts) / 2
			for share := range search.Shares(parts) {
				at := r3.Add(part.From, r3.Scale(share, part.Along))
				list = append(list, standing{w.Name, w.ID, max(0, s.asideOf(at)-part.R-half), at.Z + part.R})
			}
		}
	}
	return list
}

// asideOf is how near the balance comes to a place by the plan, m: to a part of a ring round the
// crane.
func (s *slewing) asideOf(at r3.Vec) float64 {
	off := space.Level(r3.Sub(at, r3.Vec{X: s.crane.At.X, Y: s.crane.At.Y}))
	radius := r3.Norm(off)
	round := space.AzimuthOf(off) - s.from
	if s.turn < 0 {
		round = -round
	}
	if math.Mod(round+720, 360) <= math.Abs(s.turn) {
		return max(0, s.out-radius, radius-s.far)
	}
	nearest := math.Inf(1)
	for _, end := range [2]float64{s.from, s.from + s.turn} {
		way := space.Towards(end)
		along := max(s.out, min(s.far, r3.Dot(off, way)))
		nearest = min(nearest, r3.Norm(r3.Sub(off, r3.Scale(along, way))))
	}
	return nearest
}

// widest is how far the load reaches from its balance as it turns, m.
func (s *slewing) widest() (far float64) {
	for _, r := range s.rings {
		far = max(far, r.out+r.r)
	}
	return far
}

// clearance is how near the load comes to what stands between two heights and is passed by its
// balance at a distance by the plan, m; negative: it touches.
func (s *slewing) clearance(aside, from, to float64) float64 {
	nearest := math.Inf(1)
	for _, r := range s.rings {
		z := s.level + r.over
		nearest = min(nearest, math.Hypot(max(0, aside-r.out), max(0, z-to, from-z))-r.r)
	}
	return nearest
}

// aside is how near the balance, or from an inner radius of 0 the boom too, comes to a target by
// the plan, m.
func (s *slewing) aside(p *space.Prism, inner float64) float64 {
	const steps = 72
	missed := s.far * max(math.Abs(space.Radians(s.turn)), 1) / steps / 2
	nearest := math.Inf(1)
	for turned := range search.Shares(steps) {
		way := space.Towards(s.from + s.turn*turned)
		for out := range search.Shares(steps) {
			radius := inner + (s.far-inner)*out
			x, y := s.crane.At.X+radius*way.X, s.crane.At.Y+radius*way.Y
			dx, dy := max(p.Low.X-x, 0, x-p.Top.X), max(p.Low.Y-y, 0, y-p.Top.Y)
			if dx*dx+dy*dy < nearest*nearest {
				nearest = min(nearest, space.Apart(p.Corners, x, y))
			}
			if s.far == inner {
				break
			}
		}
	}
	return max(0, nearest-missed)
}

// rings are what a piece sweeps as it turns under its hook, in the attitude in which it goes up.
// In one sling it may hang any way.
func (o *Lifted) rings(way *space.Sweep) []ring {
	balance := r3.Sub(o.Weight.At, o.Cut)
	if len(o.pick.Slings) == 1 {
		return []ring{{r: reachAbout(way, balance)}}
	}
	hangs := &way.Poses[len(way.Poses)-1]
	middle := hangs.Place(balance)
	list := make([]ring, len(way.Parts))
	for i := range way.Parts {
		off := r3.Sub(hangs.Place(way.Parts[i].Off), middle)
		list[i] = ring{out: r3.Norm(space.Level(off)), over: off.Z, r: way.Parts[i].R}
	}
	return list
}

// hookOverBalance is how far the hook hangs over a lifted piece's balance, m.
func (o *Lifted) hookOverBalance() float64 {
	if math.Abs(o.lift.TiltDeg) == 90 {
		return o.lift.HookHeightM + math.Abs(o.pick.Piece.CogM-o.lift.HookOverM)
	}
	return math.Hypot(o.lift.HookHeightM, o.lift.HookOverM-o.pick.Piece.CogM)
}
