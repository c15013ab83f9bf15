package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/policy"
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
	crane       *job.Crane
	rings       []ring
	reach       float64 // of any part from the balance, m
	out, far    float64 // the balance stays between these radii, m
	from, turn  float64 // bearing at which it begins, and how far it goes round, degrees
	hook, level float64 // how high the hook hangs, and the balance under it, m
}

// head is how high a boom's head stands at a radius, m.
func head(c *job.Crane, radius float64) float64 {
	return math.Sqrt(max(0, c.BoomM*c.BoomM-radius*radius))
}

// slew follows a lifted piece round its crane, from where it hung free of its tree to over where
// it is put down: over what stands beneath its way where the boom is high enough, else at the
// height that the boom allows. It goes the shorter way round, or the other one where that alone
// is open. Where it is put down is not said: all round.
func (v *Survey) slew(o *Outcome, stands *job.Crane, way *sweep, now *Standing) {
	at := level(r3.Sub(o.Weight.at, r3.Vec{X: stands.At.X, Y: stands.At.Y}))
	s := slewing{crane: stands, rings: o.rings(way), reach: way.reachAbout(r3.Sub(o.Weight.at, o.cut)), out: r3.Norm(at), far: o.radius, from: azimuthOf(at), turn: 360}
	under := o.hookOverBalance()
	picked := o.Weight.at.Z + under
	if len(o.lift.Slings) == 1 {
		picked = max(picked, r3.Add(o.cut, r3.Scale(o.lift.Slings[0].AtM/o.Length(), r3.Sub(o.tip, o.cut))).Z+under)
	}
	switch high := head(stands, s.out); {
	case picked > high:
		o.fault(faultReach, "%s cannot reach up to it: its hook is to hang at %s, and %s of boom at %s stands about %s high",
			stands.Name, v.Height(picked), v.Height(stands.BoomM), v.Height(s.out), v.Height(high))
	case picked > high-headM:
		o.slew = append(o.slew, fmt.Sprintf("The hook is to hang at %s, and %s of boom at %s stands about %s high: let the operator say whether it reaches.",
			v.Height(picked), v.Height(stands.BoomM), v.Height(s.out), v.Height(high)))
	}
	if hook := s.overItsOwn(v, o, now) + under; hook > head(stands, s.out) {
		o.slew = append(o.slew, fmt.Sprintf("It is not lifted clear over its own tree: the hook would have to go up to %s for it. Which way it is brought out past stem and limbs, and who holds it off them, is in no figure.", v.Height(hook)))
	}
	down := o.pick.Lift.SetDown
	if down == nil {
		s.round(v, o, now, under, Close)
		return
	}
	to := r3.Sub(r3.Vec{X: down.X, Y: down.Y}, r3.Vec{X: stands.At.X, Y: stands.At.Y})
	s.out = min(s.out, r3.Norm(to))
	s.turn = math.Mod(azimuthOf(to)-s.from+540, 360) - 180
	before, said := o.clears, o.slew
	if s.round(v, o, now, under, Over) {
		return
	}
	stopped, why := o.clears, o.slew
	other := s
	other.turn = s.turn - math.Copysign(360, s.turn)
	o.clears, o.slew = before, said
	if !other.round(v, o, now, under, Over) {
		o.clears, o.slew = stopped, why
		return
	}
	o.slew = append(o.slew, fmt.Sprintf("Slew it %s, %.0f° round: the shorter way is not open to it.", map[bool]string{true: "clockwise", false: "anticlockwise"}[other.turn > 0], math.Abs(other.turn)))
}

// overItsOwn is how high the balance of a piece must be for its lowest part to pass over what stands
// of its own tree, m; 0 for a piece of the stem where no limb stands higher.
func (s *slewing) overItsOwn(v *Survey, o *Outcome, now *Standing) float64 {
	// Of a piece of the stem what stands of that ends at its cut.
	stands, own := o.cut.Z, v.own(o)
	if o.pick.What == job.WhatLimb {
		stands = now.Top
	}
	top := stands
	for k := range v.Limbs {
		if now.stands(k) && !own(k) {
			top = max(top, v.limbWood(k, now.Tips[k]).top())
		}
	}
	if o.pick.What != job.WhatLimb && top == stands {
		return 0
	}
	return top + v.limits.ClearM + s.hangsUnder()
}

// hangsUnder is how far the lowest part of the load hangs under its balance, m.
func (s *slewing) hangsUnder() (low float64) {
	for _, r := range s.rings {
		low = max(low, r.r-r.over)
	}
	return low
}

// round brings what a lift keeps on its way round into its clearances, and says how high it goes.
// It reports whether the way is open.
func (s *slewing) round(v *Survey, o *Outcome, now *Standing, under float64, struck Verdict) (open bool) {
	o.clears = append([]Clearance{}, o.clears...)
	open = true
	low := s.hangsUnder()
	// What stands beneath, and how high it must be lifted over it.
	asides := make([]float64, len(v.targets))
	var highest *job.Target
	for i := range v.targets {
		p := &v.targets[i]
		metres, power := policy.PowerDistanceOf(p.Target)
		if power {
			// By the plan alone, boom and load, at any height and turned any way.
			near := max(0, s.aside(p, 0)-s.reach)
			v.comesNear(o, p.Target, near, metres)
			open = open && near >= v.keeps(p.Target)
			continue
		}
		asides[i] = s.aside(p, s.out)
		if asides[i] <= s.widest()+v.limits.ClearM && (highest == nil || p.ToM > highest.ToM) {
			highest = p.Target
		}
	}
	sortClearances(o.clears)
	name, top := "", 0.0
	if highest != nil {
		name, top = highest.Name, highest.ToM
	}
	wood := s.beneath(v, now)
	for i := range wood {
		if w := &wood[i]; w.top > top && w.aside <= s.widest()+v.limits.ClearM {
			name, top = w.name, w.top
		}
	}
	for i := range v.Job.Site.Posts {
		post := &v.Job.Site.Posts[i]
		if !v.inTheTree(post) && s.asideOf(r3.Vec{X: post.At.X, Y: post.At.Y}) < s.widest()+byPeople {
			o.slew = append(append([]string{}, o.slew...), fmt.Sprintf("It passes over where the %s stands: nobody under the load.", post.Role))
		}
	}
	if sector := s.sector(v); sector != "" {
		o.slew = append(append([]string{}, o.slew...), fmt.Sprintf("It comes over the no-go sector %s on its way round.", sector))
	}
	if name == "" {
		return open
	}
	over := top + v.limits.ClearM
	high := head(s.crane, s.far)
	o.slew = append(append([]string{}, o.slew...), fmt.Sprintf("Before it slews, its lowest end above %s: %s, %s high, stands beneath its way.", v.Height(over), name, v.Height(top)))
	s.hook = over + low + under
	if s.hook <= high {
		if s.hook > high-headM {
			o.slew = append(o.slew, fmt.Sprintf("The hook goes up to %s for it; %s of boom at %s stands about %s high: let the operator say whether it reaches.",
				v.Height(s.hook), v.Height(s.crane.BoomM), v.Height(s.far), v.Height(high)))
		}
		return open
	}
	o.slew = append(o.slew, fmt.Sprintf("The hook would have to go up to %s for it; %s of boom at %s stands about %s high.%s",
		v.Height(s.hook), v.Height(s.crane.BoomM), v.Height(s.far), v.Height(high),
		map[bool]string{true: " Say where it is put down: all round is not open to it.", false: ""}[struck == Close]))
	s.hook = high
	s.level = s.hook - under
	for i := range v.targets {
		p := &v.targets[i]
		if _, power := policy.PowerDistanceOf(p.Target); power {
			continue
		}
		nearest := s.clearance(asides[i], p.FromM, p.ToM)
		if nearest > lookFor {
			continue
		}
		judged := Within
		if nearest < v.keeps(p.Target) {
			judged, open = struck, false
		}
		o.notes(Clearance{p.Name, nearest, judged, p.Target, standsAs{}})
	}
	for i := range wood {
		w := &wood[i]
		if nearest := s.clearance(w.aside, 0, w.top); nearest < v.limits.ClearM {
			o.notes(Clearance{w.name, nearest, Close, nil, w.as})
		}
	}
	sortClearances(o.clears)
	return open
}

// sector is the first no-go sector that a load comes over on its way to where it is put down, and that it is not
// over where it is picked, or "".
func (s *slewing) sector(v *Survey) string {
	if math.Abs(s.turn) >= 360 {
		return ""
	}
	over := func(sector *job.Sector, share float64) bool {
		for _, radius := range [2]float64{s.out, s.far} {
			at := r3.Scale(radius, towards(s.from+s.turn*share))
			if v.liesIn(sector, Disc{s.crane.At.X + at.X, s.crane.At.Y + at.Y, s.widest()}) {
				return true
			}
		}
		return false
	}
	return v.firstSector(func(sector *job.Sector) bool {
		if over(sector, 0) {
			return false
		}
		for share := range shares(int(math.Ceil(math.Abs(s.turn))) + 1) {
			if over(sector, share) {
				return true
			}
		}
		return false
	})
}

// notes brings a clearance into a pick's where it is nearer, or worse, than what is known.
func (o *Outcome) notes(n Clearance) {
	for k := range o.clears {
		if c := &o.clears[k]; c.target == n.target && c.wood == n.wood {
			c.ClearanceM, c.Verdict = min(c.ClearanceM, n.ClearanceM), worse(c.Verdict, n.Verdict)
			return
		}
	}
	o.clears = append(o.clears, n)
}

// A standing is wood of another tree: how near the balance passes it by the plan, and how high
// it stands there, m.
type standing struct {
	name       string
	as         standsAs
	aside, top float64
}

// beneath is the wood of other trees near the way round.
func (s *slewing) beneath(v *Survey, now *Standing) (list []standing) {
	for _, w := range v.othersWood(now) {
		if s.asideOf(w.middle)-w.round > s.widest()+v.limits.ClearM {
			continue
		}
		for i := range w.parts {
			part := &w.parts[i]
			long := r3.Norm(part.along)
			parts := int(max(1, math.Ceil(long/alongRope)))
			// Between two places of it that are looked at it may stand as much nearer, and higher.
			half := long / float64(parts) / 2
			for share := range shares(parts) {
				at := r3.Add(part.from, r3.Scale(share, part.along))
				list = append(list, standing{w.name, w.as, max(0, s.asideOf(at)-part.r-half), at.Z + part.r})
			}
		}
	}
	return list
}

// asideOf is how near the balance comes to a place by the plan, m: to a part of a ring round the
// crane.
func (s *slewing) asideOf(at r3.Vec) float64 {
	off := level(r3.Sub(at, r3.Vec{X: s.crane.At.X, Y: s.crane.At.Y}))
	radius := r3.Norm(off)
	round := azimuthOf(off) - s.from
	if s.turn < 0 {
		round = -round
	}
	if math.Mod(round+720, 360) <= math.Abs(s.turn) {
		return max(0, s.out-radius, radius-s.far)
	}
	nearest := math.Inf(1)
	for _, end := range [2]float64{s.from, s.from + s.turn} {
		way := towards(end)
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
func (s *slewing) aside(p *prism, inner float64) float64 {
	const steps = 72
	missed := s.far * max(math.Abs(radians(s.turn)), 1) / steps / 2
	nearest := math.Inf(1)
	for turned := range shares(steps) {
		way := towards(s.from + s.turn*turned)
		for out := range shares(steps) {
			radius := inner + (s.far-inner)*out
			x, y := s.crane.At.X+radius*way.X, s.crane.At.Y+radius*way.Y
			dx, dy := max(p.low.X-x, 0, x-p.top.X), max(p.low.Y-y, 0, y-p.top.Y)
			if dx*dx+dy*dy < nearest*nearest {
				nearest = min(nearest, apart(p.corners, x, y))
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
func (o *Outcome) rings(way *sweep) []ring {
	balance := r3.Sub(o.Weight.at, o.cut)
	if len(o.lift.Slings) == 1 {
		return []ring{{r: way.reachAbout(balance)}}
	}
	hangs := &way.poses[len(way.poses)-1]
	middle := hangs.place(balance)
	list := make([]ring, len(way.balls))
	for i := range way.balls {
		off := r3.Sub(hangs.place(way.balls[i].off), middle)
		list[i] = ring{out: r3.Norm(level(off)), over: off.Z, r: way.balls[i].r}
	}
	return list
}

// hookOverBalance is how far the hook hangs over a lifted piece's balance, m.
func (o *Outcome) hookOverBalance() float64 {
	if len(o.lift.Slings) == 1 {
		return o.lift.Slings[0].LengthM
	}
	return math.Hypot(o.lifted.HookHeightM, o.lifted.HookOverM-o.lift.Piece.CogM)
}
