package hold

import (
	"cmp"
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/haul"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// What wood that is not sound keeps of its strength (common practice, no source: round
// figures on the weak side).
var unsound = map[string]float64{job.DefectDecay: 0.5, job.DefectCrack: 0.5, job.DefectUnion: 0.5, job.DefectDead: 0.25}

// A vehicle on its parking brake holds by the share of its weight on the braked wheels and
// by what they grip on wet grass (common practice, no source, on the weak side).
const (
	BrakedShare = 0.5
	WetGrip     = 0.35
	DryGrip     = 0.6 // of all of its wheels: what it may pull with, at the most
)

// holdsNothing is what counts for nothing, kN: a limit that any pull is over.
const holdsNothing = 1e-3

// weakestRupture is the weakest green wood of the table, MPa: for a tree of a kind nobody
// has said.
var weakestRupture = func() float64 {
	weakest := math.Inf(1)
	for _, species := range wood.Table() {
		weakest = min(weakest, species.RuptureMPa)
	}
	return weakest
}()

// Strength tells what the wood, the anchors and the vehicles of a site hold, by the crew's limits.
type Strength struct {
	Site   *space.Site
	Limits *policy.Limits
}

// Wood is a tree as something that holds.
type Wood struct {
	*space.Tree
	Limits *policy.Limits
}

// Of is a tree as something that holds.
func (s Strength) Of(tree *space.Tree) Wood { return Wood{tree, s.Limits} }

// A Pull is a force on a place where gear sits, kN: at rest and at the peak.
type Pull struct {
	Place  *job.Place
	At     r3.Vec
	Dir    r3.Vec // unit vector of the force on what holds
	RestKn float64
	PeakKn float64
}

// Holder is what one pull is on, besides the stem of its own tree: beside others that pull on the same anchor or tree at the
// same moment.
func (s Strength) Holder(own *space.Tree, p *Pull, others []Pull, now *space.Standing) (on []Load) {
	switch p.Place.On {
	case job.OnAnchor:
		for i := range s.Site.Job.Site.Anchors {
			if a := &s.Site.Job.Site.Anchors[i]; a.ID == p.Place.Anchor {
				on = append(on, s.anchoredBeside(a, p, others))
			}
		}
	case job.OnLimb:
		tree := cmp.Or(own.Called(p.Place.Tree), own)
		p, others = fromFoot(own, tree, p, others)
		wood, stands := s.Of(tree), own.StandsOf(tree, now)
		limbs := wood.onOneLimb(p, others)
		alone := wood.OnLimb(p, nil, stands)
		if len(limbs) > 0 {
			together := wood.OnLimb(p, limbs, stands)
			alone = alone.beside(together.Use(), len(limbs))
		}
		on = append(on, alone)
		if tree != own {
			on = append(on, wood.treeBeside(p, others, stands))
		}
	default:
		if tree := own.Called(p.Place.Tree); tree != nil && tree != own {
			p, others = fromFoot(own, tree, p, others)
			on = append(on, s.Of(tree).treeBeside(p, others, own.StandsOf(tree, now)))
		}
	}
	return on
}

// fromFoot are pulls on another tree by where they are from its foot.
func fromFoot(own, tree *space.Tree, p *Pull, others []Pull) (on *Pull, all []Pull) {
	foot := own.FootOf(tree)
	if foot == 0 {
		return p, others
	}
	lower := func(q Pull) Pull { q.At.Z -= foot; return q }
	one := lower(*p)
	for i := range others {
		all = append(all, lower(others[i]))
	}
	return &one, all
}

// treeBeside is what another tree holds of a pull beside others on it.
func (v Wood) treeBeside(p *Pull, others []Pull, stands *space.Standing) Load {
	alone := v.OnTree(p, nil, stands)
	if len(others) == 0 {
		return alone
	}
	together := v.OnTree(p, others, stands)
	return alone.beside(together.Use(), len(others))
}

// anchoredBeside is what an anchor holds of a pull beside others on it: their shares of it added as their forces are.
func (s Strength) anchoredBeside(a *job.Anchor, p *Pull, others []Pull) Load {
	alone := s.Anchored(a, p)
	sum := r3.Scale(alone.Use(), p.Dir)
	for i := range others {
		other := s.Anchored(a, &others[i])
		sum = r3.Add(sum, r3.Scale(other.Use(), others[i].Dir))
	}
	return alone.beside(r3.Norm(sum), len(others))
}

// beside leaves of a load's limit what so many others leave it, with which it takes a share of it; what they relieve is not credited.
func (l Load) beside(share float64, others int) Load {
	if use := l.Use(); l.Judged() && others > 0 && share > use && use > 0 {
		l.Limit.Kn *= use / share
		l.RestLimit *= use / share
		l.Limit.Reason += fmt.Sprintf("; with %d more that pull on it at the same moment, added as forces are", others)
	}
	return l
}

// Anchored is what an anchor of the site holds: its rating; a tree also by the bending of
// its stem, where its girth is given; a vehicle also by its grip.
func (s Strength) Anchored(a *job.Anchor, p *Pull) Load {
	l := Load{Part: PartHolder, Name: a.Name, On: a.Name, Dir: p.Dir, RestKn: p.RestKn, PeakKn: p.PeakKn, Why: "nobody has said what it holds"}
	l.Rated = s.Limits.Rate(a.Rating, policy.Used{Kind: locker.Device}, p.RestKn, p.PeakKn)
	lesser := func(limit gear.Limit, decided string) {
		if !l.Known || limit.Kn < l.Limit.Kn {
			l.Known, l.Limit, l.Decided = true, limit, decided
		}
	}
	switch a.Kind {
	case job.AnchorTree:
		if a.DiameterM == nil {
			l.Why = "neither its girth nor what it holds is given"
			break
		}
		allowed := weakestRupture / s.Limits.WoodFactor
		under := wood.UnknownUnderBark * *a.DiameterM
		bending := math.Pi * under * under * under / 32 * allowed * 1000 // kNm
		// What pulls level bends it by its height, what pulls up or down by half its thickness.
		level, half := r3.Norm(space.Level(p.Dir)), *a.DiameterM/2
		arm := max(0.3, p.Place.AtM)
		if p.Dir != (r3.Vec{}) {
			arm = arm*level + half*math.Abs(p.Dir.Z)
		}
		lesser(gear.Limit{Kn: bending / arm, Source: "section modulus πd³/32 under bark; weakest green wood of the table, from memory",
			Reason: fmt.Sprintf("bending of its stem, %s through, pulled at %s: %.3g MPa over %g", units.Print(units.Diameter, s.Site.System, *a.DiameterM), s.Site.Height(p.Place.AtM), weakestRupture, s.Limits.WoodFactor)}, ByWood)
		l.Say("Its roots are not in the figure: look at them, and at the ground, before you load it.")
	case job.AnchorVehicle:
		if a.MassKg == nil {
			l.Why = "neither its weight nor what its fitting holds is given"
			break
		}
		braked := BrakedShare
		on := ""
		if slope := job.Or(s.Site.Job.Site.SlopeDeg, 0); slope > 0 {
			on = fmt.Sprintf(", on ground that falls away by %g°", slope)
		}
		holds := Grips(&s.Site.Job.Site, haul.Grip{MassKg: *a.MassKg, Grip: WetGrip, BrakedShare: &braked}, p.Dir)
		if holds < holdsNothing {
			holds, on = holdsNothing, on+": it slips by itself"
		}
		lesser(gear.Limit{Kn: holds, Source: "friction on wet grass, half of its weight on braked wheels: common practice, no source",
			Reason: fmt.Sprintf("the grip of %s on its brake%s", units.Print(units.Mass, s.Site.System, *a.MassKg), on)}, ByGrip)
		l.Say("A line on a fitting is held by that fitting, not by the vehicle's weight: read what is marked on it.")
	}
	return l
}

// Grips is the pull at which a vehicle slips on a site, kN, dir the way in which it is pulled (a unit vector): downhill and across as well as
// uphill. Where nobody has said which way the ground falls, it falls that way.
func Grips(site *job.Site, g haul.Grip, dir r3.Vec) float64 {
	slope := job.Or(site.SlopeDeg, 0)
	sin, cos := math.Sincos(space.Radians(slope))
	fall := space.Heading(1e-9, r3.Vec{X: 1}, space.Level(dir))
	if towards := site.SlopeTowardsDeg; towards != nil {
		fall = space.Towards(*towards)
	}
	down := r3.Add(r3.Scale(cos, fall), r3.Vec{Z: -sin})
	square := r3.Add(r3.Scale(sin, fall), r3.Vec{Z: cos})
	g.LineUpDeg = min(80, max(0, space.Degrees(math.Asin(max(-1, min(1, r3.Dot(dir, square)))))))
	return g.HoldsOn(slope, space.Degrees(math.Atan2(r3.Dot(dir, r3.Cross(square, down)), r3.Dot(dir, down))))
}
