package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/haul"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/spar"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// PartHolder is what gear is held to: the anchor, the limb, the other tree, the vehicle.
const PartHolder = "holder"

// byGrip decides the limit of a vehicle.
const byGrip = "grip"

// What wood that is not sound keeps of its strength (common practice, no source: round
// figures on the weak side).
var unsound = map[string]float64{job.DefectDecay: 0.5, job.DefectCrack: 0.5, job.DefectUnion: 0.5, job.DefectDead: 0.25}

// A vehicle on its parking brake holds by the share of its weight on the braked wheels and
// by what they grip on wet grass (common practice, no source, on the weak side).
const (
	brakedShare = 0.5
	wetGrip     = 0.35
)

// weakestRupture is the weakest green wood of the table, MPa: for a tree of a kind nobody
// has said.
var weakestRupture = func() float64 {
	weakest := math.Inf(1)
	for _, species := range wood.Table() {
		weakest = min(weakest, species.RuptureMPa)
	}
	return weakest
}()

// pull is a force on a place where gear sits, kN: at rest and at the peak.
type pull struct {
	place *job.Place
	at    r3.Vec
	dir   r3.Vec // unit vector of the force on what holds
	rest  float64
	peak  float64
	also  []pull // how it pulls at other moments of its way
}

// pulls are the forces on everything that the gear of a pick sits on.
func (o *Outcome) pulls() (list []pull) {
	add := func(place *job.Place, at, dir r3.Vec, rest, peak float64) {
		if leads, ok := direction(dir, 0); place != nil && ok {
			list = append(list, pull{place: place, at: at, dir: leads, rest: rest, peak: peak})
		}
	}
	// At every moment of its way: which of them bends a limb most hangs on how that grows.
	each := func(place *job.Place, at r3.Vec, forces []r3.Vec, rest float64) {
		from := len(list)
		for _, force := range forces {
			if o.pair != nil {
				rest = r3.Norm(force) // it may be held anywhere
			}
			add(place, at, force, rest, r3.Norm(force))
		}
		if from < len(list) {
			list[from].also = slices.Clone(list[from+1:])
			list = list[:from+1]
		}
	}
	weight, peak := o.bearsKn(), o.Catch.LinePeakKn
	if o.pair != nil {
		points := [2]r3.Vec{o.block, o.pair.B.Vec()}
		for i, place := range [2]*job.Place{o.Rig.Block.Place, &o.second.Place} {
			var forces []r3.Vec
			for k := range o.carried.Way {
				forces = append(forces, o.onPoints(k)[i])
			}
			each(place, points[i], forces, 0)
		}
	} else {
		each(o.Rig.Block.Place, o.block, o.onBlock(), o.Path.Points[0].ResultantKn*weight)
	}
	for i := range o.Rig.Redirects {
		if i+1 < len(o.Path.Points) {
			turn := &o.Path.Points[i+1]
			add(&o.Rig.Redirects[i].Place, o.points[i+2].Vec(), turn.Direction.Vec(), turn.ResultantKn*weight, turn.ResultantKn*peak)
		}
	}
	if last := len(o.points) - 1; last > 0 && !o.Rig.Device.None {
		add(o.Rig.Device.Place, o.points[last].Vec(), r3.Sub(o.points[last-1].Vec(), o.points[last].Vec()), weight*o.Ratio(), o.Catch.DevicePeakKn)
	}
	return list
}

// holders judges what the gear of a pick sits on, besides the stem of its own tree.
func (v *Survey) holders(o *Outcome, now *Standing) {
	now = v.without(o, now)
	for _, p := range o.pulls() {
		worst := v.holder(&p, now)
		for i := range p.also {
			for k, l := range v.holder(&p.also[i], now) {
				if harder := cmp.Or(cmp.Compare(l.use(), worst[k].use()), cmp.Compare(l.peak, worst[k].peak)); harder > 0 {
					worst[k] = l
				}
			}
		}
		o.loads = append(o.loads, worst...)
	}
}

// holder judges what one pull is on.
func (v *Survey) holder(p *pull, now *Standing) (on []load) {
	switch p.place.On {
	case job.OnAnchor:
		for i := range v.Job.Site.Anchors {
			if a := &v.Job.Site.Anchors[i]; a.ID == p.place.Anchor {
				on = append(on, v.anchored(a, p))
			}
		}
	case job.OnLimb:
		tree := cmp.Or(v.called(p.place.Tree), v)
		on = append(on, tree.onLimb(p, v.standsOf(tree, now)))
		if tree != v {
			on = append(on, tree.onStanding(p, v.standsOf(tree, now)))
		}
	default:
		if tree := v.called(p.place.Tree); tree != nil && tree != v {
			on = append(on, tree.onStanding(p, v.standsOf(tree, now)))
		}
	}
	return on
}

// together judges what several of the loads from one on are on: stem, limb or anchor. Their shares
// of what it bears add up as their forces do, by their directions where those are known; what one
// of them relieves is not credited.
func (o *Outcome) together(from int) {
	for i := from; i < len(o.loads); i++ {
		first := &o.loads[i]
		if !first.shared() {
			continue
		}
		var on []*load
		for k := from; k < len(o.loads); k++ {
			if l := &o.loads[k]; l.part == first.part && l.on == first.on && l.shared() {
				on = append(on, l)
			}
		}
		if len(on) < 2 || on[0] != first {
			continue
		}
		sum, added, most, known := r3.Vec{}, 0.0, 0.0, true
		for _, l := range on {
			use := l.use()
			sum, added, most = r3.Add(sum, r3.Scale(use, l.dir)), added+use, max(most, use)
			known = known && r3.Norm(l.dir) > 0
		}
		if known {
			added = max(most, r3.Norm(sum))
		}
		for _, l := range on {
			if use := l.use(); use > 0 && added > use {
				l.Limit.Kn *= use / added
				l.RestLimit *= use / added
				l.Limit.Reason += fmt.Sprintf("; %d lines pull on it, and this is left for one beside the others", len(on))
			}
		}
	}
}

// shared tells whether other loads may be on the same thing.
func (l *load) shared() bool {
	return (l.part == partSpar || l.part == PartHolder) && l.Known && !l.unseen
}

// anchored is what an anchor of the site holds: its rating; a tree also by the bending of
// its stem, where its girth is given; a vehicle also by its grip.
func (v *Survey) anchored(a *job.Anchor, p *pull) load {
	l := load{part: PartHolder, name: a.Name, on: a.Name, dir: p.dir, resting: p.rest, peak: p.peak, why: "nobody has said what it holds"}
	l.Rated = v.limits.Rate(a.Rating, policy.Used{Kind: locker.Device}, p.rest, p.peak)
	lesser := func(limit gear.Limit, decided string) {
		if !l.Known || limit.Kn < l.Limit.Kn {
			l.Known, l.Limit, l.Decided = true, limit, decided
		}
	}
	switch a.Kind {
	case job.AnchorTree:
		if a.DiameterM == nil {
			l.why = "neither its girth nor what it holds is given"
			break
		}
		allowed := weakestRupture / v.limits.WoodFactor
		bending := math.Pi * *a.DiameterM * *a.DiameterM * *a.DiameterM / 32 * allowed * 1000 // kNm
		arm := max(0.3, p.place.AtM)
		lesser(gear.Limit{Kn: bending / arm, Source: "section modulus πd³/32; weakest green wood of the table, from memory",
			Reason: fmt.Sprintf("bending of its stem, %s through, pulled at %s: %.3g MPa over %g", units.Print(units.Diameter, v.System, *a.DiameterM), v.Height(p.place.AtM), weakestRupture, v.limits.WoodFactor)}, byWood)
		l.cautions("Its roots are not in the figure: look at them, and at the ground, before you load it.")
	case job.AnchorVehicle:
		if a.MassKg == nil {
			l.why = "neither its weight nor what its fitting holds is given"
			break
		}
		up := math.Asin(max(-1, min(1, p.dir.Z)))
		braked := brakedShare
		grips := haul.Grip{MassKg: *a.MassKg, Grip: wetGrip, BrakedShare: &braked, LineUpDeg: max(0, up) * 180 / math.Pi}
		lesser(gear.Limit{Kn: grips.Solve().PullKn, Source: "friction on wet grass, half of its weight on braked wheels: common practice, no source",
			Reason: fmt.Sprintf("the grip of %s on its brake", units.Print(units.Mass, v.System, *a.MassKg))}, byGrip)
		l.cautions("A line on a fitting is held by that fitting, not by the vehicle's weight: read what is marked on it.")
	}
	return l
}

// cautions adds a sentence to a load's.
func (l *load) cautions(text string) { l.Cautions = append(l.Cautions, text) }

// soundness is what the defects at a place of a limb (−1: the stem) leave of its strength,
// and what they are.
func (v *Survey) soundness(limb int, at float64) (share float64, why string) {
	share = 1
	v.defects(limb, at, func(d *job.Defect) {
		if keeps, bad := unsound[d.Kind]; bad && keeps < share {
			share, why = keeps, d.Kind
		}
	})
	return share, why
}

// onLimb is what a limb holds: the bending of its wood between where the gear sits and the
// stem, and of the limb it grows from, under the pull and what the limb itself weighs.
func (v *Survey) onLimb(p *pull, now *Standing) load {
	i := v.limbIndex(p.place.Limb)
	l := load{part: PartHolder, resting: p.rest, peak: p.peak}
	if i < 0 {
		l.why = "that limb is not on the tree"
		return l
	}
	l.name, l.on, l.dir = v.Limbs[i].Title(), v.Limbs[i].Title(), p.dir
	if v.species == nil {
		l.why = "the species is not known, so neither is the limb's strength"
		return l
	}
	worst, where := 0.0, ""
	try := func(limb int, upTo float64) {
		g := &v.Limbs[limb]
		for share := range shares(40) {
			s := upTo * share
			at := g.at(s)
			beyond := v.limbMass(limb, s, now)
			weight := r3.Vec{Z: -beyond.Kg.High * units.Gravity / 1000}
			moment := r3.Add(r3.Cross(r3.Sub(p.at, at), r3.Scale(p.peak, p.dir)), r3.Cross(r3.Sub(beyond.at, at), weight))
			d := g.diameterAt(s)
			sound, why := v.soundness(limb, s)
			stress := (r3.Norm(moment)/(math.Pi*d*d*d/32) + p.peak/(math.Pi*d*d/4)) / 1000 / sound
			if stress > worst {
				worst, where = stress, fmt.Sprintf("%s at %s from its base", units.Print(units.Diameter, v.System, d), v.Height(s))
				if why != "" {
					where += fmt.Sprintf(", %.0f %% of its strength left for %s", 100*sound, why)
				}
			}
		}
	}
	try(i, p.place.AtM)
	if root := v.root(i); root != i {
		try(root, v.Limbs[i].AtM)
	}
	allowed := v.species.RuptureMPa / v.limits.WoodFactor
	l.Known, l.Decided = true, byWood
	l.Limit = gear.Limit{Kn: p.peak * allowed / worst, Source: "bending, πd³/32; green strength from the Wood Handbook, from memory",
		Reason: fmt.Sprintf("%.3g of %.3g MPa, strength over %g: %s", worst, allowed, v.limits.WoodFactor, where)}
	l.cautions("The union of the limb with the stem is not in the figure: look at its collar and for bark between.")
	return l
}

// onStanding is what another tree of the job holds: the bending of its stem, and where the
// gear sits on a limb of it, at the arm of that limb.
func (v *Survey) onStanding(p *pull, now *Standing) load {
	l := load{part: PartHolder, name: v.tree.Title(), on: v.tree.Title(), dir: p.dir, resting: p.rest, peak: p.peak}
	if v.species == nil {
		l.why = "the species of that tree is not known, so neither is its strength"
		return l
	}
	beam := spar.Spar{Stations: v.stationsTo(now.Top), StrengthMpa: v.species.RuptureMPa, StiffnessGpa: v.species.ElasticityGPa, DensityKgM3: v.density.High}
	on := seat{-1, p.at.Z, p.at, r3.Scale(p.peak, p.dir)}
	if i := v.limbIndex(p.place.Limb); p.place.On == job.OnLimb && i >= 0 {
		on.limb, on.fromM = i, v.Limbs[v.root(i)].AtM
	}
	heading := v.seat(&beam, []seat{on}, r3.Vec{X: 1})
	worst, why := v.feels(&beam, heading, now)
	l.Rated = v.byBending(p.peak, worst)
	if why != "" {
		l.cautions(why)
	}
	l.cautions("Its roots are not in the figure: look at them, and at the ground, before you load it.")
	return l
}

// stationsTo are the stem's stations up to a height.
func (v *Survey) stationsTo(top float64) []timber.Station {
	stations := []timber.Station{}
	for _, s := range v.Stem.Stations {
		if s.AtM < top-1e-6 {
			stations = append(stations, s)
		}
	}
	outside, cavity := v.Stem.DiameterAt(top)
	return append(stations, timber.Station{AtM: top, DiameterM: outside, CavityM: cavity})
}

// feels is the section of a stem that its gear and its own weight strain most, what is unsound there
// counting as much more, and a sentence about that. What leans against the gear is not credited, as it
// need not pull at its peak; nor does it go unseen, where it bends the stem more by itself. The beam is
// left with the loads of the worse.
func (v *Survey) feels(beam *spar.Spar, heading r3.Vec, now *Standing) (worst spar.Worst, why string) {
	given := beam.Loads
	beam.Weak = v.weak()
	worst.StressMpa = math.Inf(-1)
	for _, credit := range [2]bool{false, true} {
		one := *beam
		one.Loads = slices.Clone(given)
		against := v.leans(&one, heading, credit, now)
		for i := range one.Loads {
			settle(&one.Loads[i])
		}
		if felt := one.WorstSection(); harder(felt, worst) {
			worst, *beam = felt, one
		}
		if !against {
			break
		}
	}
	if sound, of := v.soundness(-1, worst.AtM); of != "" {
		why = fmt.Sprintf("%.0f %% of its strength are counted there, for %s.", 100*sound, of)
	}
	return worst, why
}

// settle takes the rounding of nothing out of a load: the core in a browser rounds otherwise than the server's.
func settle(l *spar.Load) {
	for _, part := range []*float64{&l.HorizontalKn, &l.OffsetM, &l.AcrossKn, &l.AcrossOffsetM} {
		if math.Abs(*part) < 1e-9 {
			*part = 0
		}
	}
}

// weak is where the wood of the stem has not all of its strength.
func (v *Survey) weak() (list []spar.Weak) {
	for i := range v.tree.Defects {
		d := &v.tree.Defects[i]
		if keeps, bad := unsound[d.Kind]; bad && d.Limb == "" {
			list = append(list, spar.Weak{FromM: max(0, d.AtM-nearDefect), ToM: d.To() + nearDefect, KeepsPct: 100 * keeps})
		}
	}
	return list
}

// leans adds to a beam the limbs that stand on it, and what its own weight, theirs and what is hung
// on it do because it leans or is bent. Along the heading of the load only what bends it that way
// counts, if what bends it the other way has no credit; against tells that something would.
func (v *Survey) leans(beam *spar.Spar, heading r3.Vec, credit bool, now *Standing) (against bool) {
	heading, led := direction(heading, 0)
	if !led {
		heading, credit = r3.Vec{X: 1}, true
	}
	right := r3.Cross(heading, r3.Vec{Z: 1})
	parts := func(off r3.Vec) (along, across float64) {
		if along = r3.Dot(off, heading); along < -1e-9 && !credit {
			along, against = 0, true
		}
		return along, r3.Dot(off, right)
	}
	bottom, top := beam.Stations[0].AtM, beam.Stations[len(beam.Stations)-1].AtM
	v.bear(beam, top, parts, now)
	if v.upright() {
		return against
	}
	given := beam.Loads
	lean := func(at, down float64, by r3.Vec) {
		along, across := parts(by)
		beam.Loads = append(beam.Loads, spar.Load{AtM: at, HorizontalKn: down * along, AcrossKn: down * across})
	}
	for _, one := range given {
		lean(one.AtM, max(0, one.VerticalKn), v.leanAt(one.AtM))
	}
	stem := func(low, high float64) float64 {
		return v.Stem.WeighBetween(low, high, v.density, timber.Frustum).MassKg.High * units.Gravity / 1000 * v.longer((low+high)/2)
	}
	const pieces = 24
	for k := pieces - 1; k >= 0; k-- {
		low, high := bottom+(top-bottom)*float64(k)/pieces, bottom+(top-bottom)*float64(k+1)/pieces
		lean((low+high)/2, stem(low, high), v.leanAt((low+high)/2))
	}
	// At a bend the weight above it leads off another way than below.
	for _, knot := range v.axis[1 : len(v.axis)-1] {
		if knot.AtM <= bottom || knot.AtM >= top {
			continue
		}
		on := stem(knot.AtM, top)
		for _, one := range given {
			if one.AtM > knot.AtM {
				on += max(0, one.VerticalKn)
			}
		}
		belowAlong, belowAcross := parts(v.leanAt(knot.AtM - 1e-6))
		aboveAlong, aboveAcross := parts(v.leanAt(knot.AtM + 1e-6))
		beam.Loads = append(beam.Loads, spar.Load{AtM: knot.AtM, HorizontalKn: on * (belowAlong - aboveAlong), AcrossKn: on * (belowAcross - aboveAcross)})
	}
	return against
}

// bear adds the limbs of a stem to a beam, each where it grows: at any height the moments of those above it
// come to what parts makes of their sum.
func (v *Survey) bear(beam *spar.Spar, top float64, parts func(off r3.Vec) (along, across float64), now *Standing) {
	var moment r3.Vec
	wasAlong, wasAcross := 0.0, 0.0
	limbs := slices.Collect(v.growing(-1, 0, top+1e-9, now))
	slices.SortStableFunc(limbs, func(a, b int) int { return cmp.Compare(v.Limbs[b].AtM, v.Limbs[a].AtM) })
	for _, k := range limbs {
		m := v.limbMass(k, 0, now)
		kn := m.Kg.High * units.Gravity / 1000
		moment = r3.Add(moment, r3.Scale(kn, level(r3.Sub(m.at, v.Limbs[k].base))))
		along, across := parts(moment)
		beam.Loads = append(beam.Loads, spar.Load{AtM: v.Limbs[k].AtM, VerticalKn: kn, OffsetM: (along - wasAlong) / kn, AcrossOffsetM: (across - wasAcross) / kn})
		wasAlong, wasAcross = along, across
	}
}
