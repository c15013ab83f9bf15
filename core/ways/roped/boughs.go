package roped

import (
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/drop"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/units"
)

// A swayed is gear on wood that sways: what pulls there counts so many times; on a stem what is level of it.
type swayed struct {
	place *job.Place
	limb  bool
	times float64
}

// sway lets limbs and stems sway on which gear sits: what pulls there as the line comes on counts as many times as they feel it. A swing, and a
// piece past its block, are followed with the stem of theirs already.
func (o *Roped) sway(moments []hold.Moment) (list []swayed) {
	first := 0
	if o.pair != nil {
		// All but the last are carried without haste.
		first = len(moments) - 1
	}
	for k, force := range moments[first] {
		limb := force.Place != nil && force.Place.On == job.OnLimb
		if force.Place != nil && force.Place.On == job.OnAnchor || !limb && (!force.Leads || o.swung != nil || o.besides != nil) {
			continue
		}
		one := swayed{place: force.Place, limb: limb, times: 1}
		hardest := r3.Vec{}
		for _, m := range moments[first:] {
			if r3.Norm(m[k].Kn) > r3.Norm(hardest) {
				hardest = m[k].Kn
			}
		}
		if limb {
			one.times = o.bounces(force.Place, hardest)
		} else {
			one.times = o.stemBounces(force.Place, force.At, hardest)
		}
		if one.times > 1 {
			list = append(list, one)
		}
	}
	for _, m := range moments[first:] {
		for k := range m {
			if i := slices.IndexFunc(list, func(s swayed) bool { return s.place == m[k].Place && (s.limb || m[k].Leads) }); i >= 0 {
				m[k].Kn = list[i].on(m[k].Kn)
			}
		}
	}
	return list
}

// on is a force as the wood feels it.
func (s *swayed) on(force r3.Vec) r3.Vec {
	if s.limb {
		return r3.Scale(s.times, force)
	}
	return swaying(s.times, force)
}

// slightLean is the share of a force below which what is level of it is not followed as it bends a stem.
const slightLean = 0.1

// stemBounces is how many times as much a stem feels what is level of a force that comes on with the line, alone or with a crown on it.
func (o *Roped) stemBounces(place *job.Place, at, force r3.Vec) (times float64) {
	tree, top := o.Tree, min(o.StandsToM, o.Stem.Top())
	if place != nil {
		if tree = o.TreeOf(place); tree != nil && tree != o.Tree {
			top = o.StandsOf(tree, o.Without()).Top
		}
	}
	level := r3.Norm(space.Level(force))
	if tree == nil || tree.Species == nil || level < slightLean*r3.Norm(force) {
		return 1
	}
	times = 1
	rope, peak, run := o.boughLine(place)
	for _, slower := range [2]float64{1, hold.Crowned} {
		on := o.Wood(tree).SwaysAt(top, at.Z-o.FootOf(tree), level/peak, slower)
		times = max(times, rope.Bounces(peak, run, on))
	}
	return times
}

// saysSway says of a holder that it is counted swaying.
func (o *Roped) saysSway(l *hold.Load, list []swayed) {
	most := 1.0
	for _, s := range list {
		tree := o.Tree
		if s.place != nil {
			tree = o.TreeOf(s.place)
		}
		if s.limb && l.On == tree.Limbs[tree.LimbIndex(s.place.Limb)].Title() || !s.limb && (l.Part == hold.PartSpar && tree == o.Tree || l.On == tree.Measured.Title()) {
			most = max(most, s.times)
		}
	}
	if most >= 1.01 {
		l.Say(fmt.Sprintf("It sways as the line comes on: what pulls there counts up to %.2f times.", most))
	}
}

// bounces is how many times as much a limb feels a force at a place of it that comes on with the line, as it does at rest.
func (o *Roped) bounces(place *job.Place, force r3.Vec) (times float64) {
	times = 1
	tree := o.TreeOf(place)
	if tree == nil || tree.Species == nil || r3.Norm(force) == 0 {
		return times
	}
	limb := tree.LimbIndex(place.Limb)
	if limb < 0 {
		return times
	}
	g := &tree.Limbs[limb]
	axis := r3.Unit(r3.Sub(g.At(min(g.LengthM, place.AtM+0.05)), g.At(max(0, place.AtM-0.05))))
	across := r3.Sub(force, r3.Scale(r3.Dot(force, axis), axis))
	way, bends := space.Direction(across, 0)
	rope, peak, run := o.boughLine(place)
	if !bends || peak <= 0 {
		return times
	}
	wood, stands := o.Wood(tree), o.StandsOf(tree, o.Without())
	for _, heavy := range [2]bool{true, false} {
		on := wood.Bough(limb, place.AtM, r3.Norm(across)/peak, heavy, stands)
		if o.swung != nil && o.Leads == nil && place == o.Rig.Block.Place {
			side, _ := space.Direction(space.Level(r3.Sub(o.Tie, o.Block)), 0)
			times = max(times, o.swung.Bounces(o.hold, r3.Norm(across)*o.asFollowed(), on, drop.Across{Out: r3.Dot(way, side), Up: way.Z, Lead: r3.Dot(o.leadPull(), way)}))
			continue
		}
		times = max(times, rope.Bounces(peak, run, on))
	}
	return times
}

// asFollowed is how hard the swing as it is followed pulls of how hard its line counts: made tight, or shared with a twin, that counts more.
func (o *Roped) asFollowed() float64 {
	most := 0.0
	for _, p := range o.swings {
		most = max(most, p.Kn)
	}
	return min(1, most/max(1e-9, o.Catch.LinePeakKn))
}

// boughLine is the line that comes onto gear at a place, as a catch by it alone: its peak, kN, and what of it runs, m.
func (o *Roped) boughLine(place *job.Place) (c drop.Case, peakKn, runM float64) {
	line, bears := o, o.bearsKn()
	peakKn = o.Catch.LinePeakKn
	if o.pair != nil {
		peakKn, bears = o.comes.peakKn[0], o.carried.MaxAKn
		if o.second != nil && place != o.Rig.Block.Place && (place == &o.second.Place || o.other.uses(place)) {
			peakKn, bears = o.comes.peakKn[1], o.carried.MaxBKn
			if o.other != nil {
				line = o.other
			}
		}
	}
	if o.Catch.Runs && o.pair == nil {
		runM = o.Catch.RunM
	}
	c.Piece.MassKg = 1000 * bears / units.Gravity
	c.Rope, c.BlockEfficiency, c.LeadM = line.Rig.Rope.Rope, line.Ratio(), line.LeadM()
	c.AnchorStiffnessKnM = job.Or(line.Rig.AnchorStiffnessKnM, 0)
	c.SlackM = max(0.05, r3.Norm(r3.Sub(o.Tie, line.Block))+o.Settings.SlackM)
	if d := o.DropCase; d != nil && o.pair == nil {
		c.SlackM = d.LineM()
	}
	return c, peakKn, math.Min(runM, 500)
}

// uses tells whether a place is one of a rig's turns or its device's.
func (o *Roped) uses(place *job.Place) bool {
	if o == nil {
		return false
	}
	for i := range o.Rig.Redirects {
		if place == &o.Rig.Redirects[i].Place {
			return true
		}
	}
	return place == o.Rig.Device.Place
}
