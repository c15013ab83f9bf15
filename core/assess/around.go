package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/policy"
)

// prism is a target ready for distances.
type prism struct {
	*job.Target
	corners  []job.Spot
	low, top job.Spot // of the box round it
}

func newPrism(t *job.Target) prism {
	p := prism{Target: t, corners: t.Corners(), low: job.Spot{X: math.Inf(1), Y: math.Inf(1)}, top: job.Spot{X: math.Inf(-1), Y: math.Inf(-1)}}
	for _, c := range p.corners {
		p.low = job.Spot{X: min(p.low.X, c.X), Y: min(p.low.Y, c.Y)}
		p.top = job.Spot{X: max(p.top.X, c.X), Y: max(p.top.Y, c.Y)}
	}
	return p
}

// inside reports whether a place of the plan is within an outline (even-odd rule).
func inside(outline []job.Spot, x, y float64) bool {
	in := false
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		if (a.Y > y) != (b.Y > y) && x < (b.X-a.X)*(y-a.Y)/(b.Y-a.Y)+a.X {
			in = !in
		}
	}
	return in
}

// edge is how far a place of the plan is from an outline's edge, m.
func edge(outline []job.Spot, x, y float64) float64 {
	nearest := math.Inf(1)
	a := outline[len(outline)-1]
	for _, b := range outline {
		dx, dy := b.X-a.X, b.Y-a.Y
		f := 0.0
		if long := dx*dx + dy*dy; long > 0 {
			f = max(0, min(1, ((x-a.X)*dx+(y-a.Y)*dy)/long))
		}
		ox, oy := x-a.X-f*dx, y-a.Y-f*dy
		nearest = min(nearest, ox*ox+oy*oy)
		a = b
	}
	return math.Sqrt(nearest)
}

// apart is how far a place of the plan is from an outline; 0 within it.
func apart(outline []job.Spot, x, y float64) float64 {
	if inside(outline, x, y) {
		return 0
	}
	return edge(outline, x, y)
}

// distance is how far a place in space is from the target, 0 within it; when it is further
// than enough, the distance to the box round the target will do, which is no more.
func (p *prism) distance(at r3.Vec, enough float64) float64 {
	over := max(p.FromM-at.Z, 0, at.Z-p.ToM)
	dx, dy := max(p.low.X-at.X, 0, at.X-p.top.X), max(p.low.Y-at.Y, 0, at.Y-p.top.Y)
	if box := math.Sqrt(dx*dx + dy*dy + over*over); p.Box != nil || box > enough {
		return box
	}
	aside := apart(p.corners, at.X, at.Y)
	return math.Sqrt(aside*aside + over*over)
}

// A Clearance is how close a piece comes to something on its way.
type Clearance struct {
	Name       string      `json:"name"`
	ClearanceM float64     `json:"clearance_m" doc:"Least distance, the piece's reach taken off; negative: it touches"`
	Verdict    Verdict     `json:"verdict" enum:"within,close,over,not held" doc:"The tree's own limbs are never over: it brushes them, or hangs up"`
	target     *job.Target // nil: wood that stands
	wood       standsAs    // which
}

// standsAs names what stands of a tree: the index of the tree and of its limb, or wholeStem.
type standsAs struct{ tree, limb int }

const wholeStem = -1

// lookFor is how far round a piece's way targets are named, m.
const lookFor = 6

// keeps is how far everything keeps from a target, m: what the crew wants, and what a power
// line takes.
func (v *Survey) keeps(t *job.Target) float64 {
	metres, _ := policy.PowerDistanceOf(t)
	return max(v.limits.ClearM, metres)
}

// clearances measures the way against the targets and against the limbs that stand,
// those of the piece itself left out. Nearest first; targets further than lookFor are
// left out.
func (v *Survey) clearances(way *sweep, now *Standing, without func(limb int) bool) []Clearance {
	found := []Clearance{}
	note := func(name string, target *job.Target, wood standsAs, clear, wanted float64, tooClose Verdict) {
		if math.IsInf(clear, 1) {
			return
		}
		judged := Within
		if clear < wanted {
			judged = tooClose
		}
		found = append(found, Clearance{name, clear, judged, target, wood})
	}
	for i := range v.targets {
		if v.Left() {
			break
		}
		p := &v.targets[i]
		wanted := v.keeps(p.Target)
		note(p.Name, p.Target, standsAs{}, way.nearest(max(lookFor, wanted+1), nil, p.distance), wanted, Over)
	}
	clear := v.limits.ClearM
	// At its own cut it touches what it grows from: that part is not looked at.
	byTheCut := func(b *ball) bool { return r3.Dot(b.off, b.off) < 1 }
	for k := range v.Limbs {
		if !now.stands(k) || without(k) || v.Left() {
			continue
		}
		w := v.limbWood(k, now.Tips[k])
		note(v.Limbs[k].Title(), nil, w.as, way.nearest(clear, byTheCut, w.distance), clear, Close)
	}
	v.othersWood(now, func(name string, w *limbWood) {
		note(name, nil, w.as, way.nearest(clear, nil, w.distance), clear, Close)
	})
	sortClearances(found)
	return found
}

// theStem is what a piece's own stem is called among its clearances.
const theStem = "the stem"

// pastStem brings what a limb keeps from its own stem into a pick's clearances, when it is held
// from elsewhere: under a block on its stem it hangs along it. Its first metre from the cut is
// not looked at.
func (v *Survey) pastStem(o *Outcome, way *sweep) {
	if o.pick.What != job.WhatLimb {
		return
	}
	top := min(o.standsTo, v.Stem.Top())
	bottom := v.Stem.Bottom()
	w := woodOf(max(1, int((top-bottom)/1.5)), func(share float64) (r3.Vec, float64) {
		z := bottom + (top-bottom)*share
		thick, _ := v.Stem.DiameterAt(z)
		return v.onStem(z), thick
	})
	byTheCut := func(b *ball) bool { return r3.Dot(b.off, b.off) < 1 }
	if clear := way.nearest(v.limits.ClearM, byTheCut, w.distance); !math.IsInf(clear, 1) {
		o.clears = append(o.clears, Clearance{theStem, clear, Close, nil, standsAs{v.index, wholeStem}})
		sortClearances(o.clears)
	}
}

// limbWood is the wood of a limb, or of a stem, in straight parts.
type limbWood struct {
	at     []r3.Vec
	r      []float64
	parts  []straight
	middle r3.Vec
	round  float64 // all of it is so near to the middle
	stump  bool    // all that stands of another tree
	as     standsAs
}

// straight is a straight part of wood: as thick as it is at its thicker end.
type straight struct {
	from, along r3.Vec
	per         float64 // 1 over the square of its length; 0: it has none
	r           float64
}

func woodOf(parts int, at func(share float64) (r3.Vec, float64)) *limbWood {
	w := &limbWood{at: make([]r3.Vec, 0, parts+1), r: make([]float64, 0, parts+1)}
	for share := range shares(parts) {
		spot, thick := at(share)
		w.at, w.r = append(w.at, spot), append(w.r, thick/2)
	}
	w.middle = r3.Scale(0.5, r3.Add(w.at[0], w.at[len(w.at)-1]))
	w.parts = make([]straight, 0, parts)
	for i := range w.at {
		w.round = max(w.round, r3.Norm(r3.Sub(w.at[i], w.middle))+w.r[i])
		if i > 0 {
			part := straight{from: w.at[i-1], along: r3.Sub(w.at[i], w.at[i-1]), r: max(w.r[i-1], w.r[i])}
			if long := r3.Dot(part.along, part.along); long > 0 {
				part.per = 1 / long
			}
			w.parts = append(w.parts, part)
		}
	}
	return w
}

// limbWood is what stands of a limb to its tip, but for its first fifth.
func (v *Survey) limbWood(k int, tip float64) *limbWood {
	g := &v.Limbs[k]
	w := woodOf(4, func(share float64) (r3.Vec, float64) {
		s := tip * (0.2 + 0.8*share)
		return g.at(s), g.diameterAt(s)
	})
	w.as = standsAs{v.index, k}
	return w
}

// distance is how far a place in space is from the wood, m; when it is further than enough,
// how far from a round that holds it, which is no more.
func (w *limbWood) distance(at r3.Vec, enough float64) float64 {
	away := r3.Sub(at, w.middle)
	if off := math.Sqrt(r3.Dot(away, away)) - w.round; off > enough {
		return off
	}
	nearest := math.Inf(1)
	for i := range w.parts {
		part := &w.parts[i]
		x, y, z := at.X-part.from.X, at.Y-part.from.Y, at.Z-part.from.Z
		share := max(0, min(1, (x*part.along.X+y*part.along.Y+z*part.along.Z)*part.per))
		x, y, z = x-share*part.along.X, y-share*part.along.Y, z-share*part.along.Z
		// A root is drawn only of what is nearer.
		if square, than := x*x+y*y+z*z, nearest+part.r; square < than*than {
			nearest = math.Sqrt(square) - part.r
			if nearest <= 0 {
				return 0
			}
		}
	}
	return nearest
}

// A leg is a straight part of a pick's rope.
type leg struct {
	from, to  r3.Vec
	name      string // between what
	leadsAway bool   // from the block on: the piece does not hang on it
}

// legs are the straight parts of a pick's ropes before the cut, from the tie on: with what draws it aside or stops
// its swing.
func (o *Outcome) legs() (list []leg) {
	if o.twins != nil {
		list = o.twins.sides[1].legs()
		for i := range list {
			list[i].name += " of the second line"
		}
	}
	list = append(list, o.tagLegs()...)
	if o.stop != nil && o.stop.wood == nil {
		list = append(list, leg{o.stop.from, o.stop.at, o.stop.name, false})
	}
	if len(o.points) < 2 {
		return list
	}
	from, name := o.tie, "the tie"
	for i := 1; i < len(o.points); i++ {
		at := o.points[i].Vec()
		list = append(list, leg{from, at, name + " and " + o.points[i].Name, i > 1})
		from, name = at, o.points[i].Name
	}
	if o.pair != nil {
		second := o.pair.B.Vec()
		list = append(list, leg{o.tie, second, "the tie and the second point", false}, leg{second, r3.Vec{X: second.X, Y: second.Y}, "the second point and the ground", false})
	}
	return list
}

// tagLegs is the line that draws a piece aside, where there is one.
func (o *Outcome) tagLegs() []leg {
	if o.tag == nil {
		return nil
	}
	return []leg{{o.onAxis(*o.tag.set.TieM), o.tag.towards(), "the piece and " + o.tag.anchor, false}}
}

// onAxis is a place of the piece's axis, so far from its cut, as it grows.
func (o *Outcome) onAxis(m float64) r3.Vec {
	return onTheWay(o.cut, o.tip, m/o.Length())
}

// ledBy are the parts of ropes that follow a piece in a pose: to its block, to the other of two points, to its tag line's anchor.
func (o *Outcome) ledBy(p *pose) []leg {
	tie := p.place(r3.Sub(o.tie, o.cut))
	list := []leg{{from: o.block, to: tie}}
	if o.pair != nil {
		list = append(list, leg{from: o.pair.B.Vec(), to: tie})
	}
	if o.tag != nil {
		list = append(list, leg{from: o.tag.towards(), to: p.place(r3.Sub(o.onAxis(*o.tag.set.TieM), o.cut))})
	}
	if o.twins != nil {
		side := o.twins.sides[1]
		list = append(list, leg{from: side.block, to: p.place(r3.Sub(side.tie, o.cut))})
	}
	return list
}

// Of a rope that moves so finely is looked: along it, and from place to place of what it leads to, m.
const (
	alongRope  = 0.1
	acrossRope = 0.2
)

// nearLeg is how near a leg comes to a target, no nearer than it is by more than half of alongRope; beyond enough it
// may be answered short.
func (p *prism) nearLeg(l *leg, enough float64) float64 {
	long, least := r3.Norm(r3.Sub(l.to, l.from)), math.Inf(1)
	for s := 0.0; ; {
		d := p.distance(onTheWay(l.from, l.to, s/max(1e-9, long)), math.Inf(1))
		if least = min(least, d); s >= long {
			return least - alongRope/2
		}
		s = min(long, s+max(alongRope, d-enough))
	}
}

// nearMoving is how near the ropes that lead a piece come to a target on its way; beyond enough it may be answered
// short.
func (v *Survey) nearMoving(o *Outcome, p *prism, way *sweep, enough float64) float64 {
	for k := 0; k < len(way.poses); {
		least := math.Inf(1)
		for _, l := range o.ledBy(&way.poses[k]) {
			least = min(least, p.nearLeg(&l, enough))
		}
		// The next place is looked at a stride later at most.
		enough = min(enough, least-(acrossRope+strideM)/2)
		next := k + 1
		for next < len(way.poses) && way.moved[next]-way.moved[k] < max(acrossRope, least-enough) {
			next++
		}
		k = next
	}
	return enough
}

// besideLeg reports that the box round a target and the box round a leg come as near as that, m.
func (p *prism) besideLeg(l *leg, near float64) bool {
	gap := func(a, b, low, top float64) float64 { return max(min(a, b)-top, low-max(a, b)) }
	return max(gap(l.from.X, l.to.X, p.low.X, p.top.X), gap(l.from.Y, l.to.Y, p.low.Y, p.top.Y), gap(l.from.Z, l.to.Z, p.FromM, p.ToM)) <= near
}

// ropes brings what a pick's ropes keep from power lines into its clearances (where a rope is
// nearer than the piece, the rope's distance stands), and says where they run against a target,
// or the piece against them. What follows a piece is asked of power lines on all of its way.
func (v *Survey) ropes(o *Outcome, way *sweep) {
	v.ropesAlong(o, o.legs(), way)
}

// ropesAlong does so for given legs; way is nil where no piece moves on them.
func (v *Survey) ropesAlong(o *Outcome, legs []leg, way *sweep) {
	const step = 0.1
	for i := range v.targets {
		p := &v.targets[i]
		metres, power := policy.PowerDistanceOf(p.Target)
		nearest, between := math.Inf(1), ""
		for k := range legs {
			if !power && !p.besideLeg(&legs[k], step) {
				continue // it runs past: only what it touches is told
			}
			along := r3.Sub(legs[k].to, legs[k].from)
			for share := range shares(int(max(1, min(2000, math.Ceil(r3.Norm(along)/step))))) {
				at := r3.Add(legs[k].from, r3.Scale(share, along))
				if !power && at.Z < 0.3 {
					continue // where it comes to the ground, its device stands
				}
				if d := p.distance(at, nearest+step/2) - step/2; d < nearest {
					nearest, between = d, legs[k].name
				}
			}
		}
		switch {
		case power:
			// Only what comes nearer than is known is of interest.
			known := max(lookFor, metres+1) + 1e-9
			for k := range o.clears {
				if o.clears[k].target == p.Target {
					known = o.clears[k].ClearanceM
				}
			}
			if known = min(known, nearest); way != nil && known > 0 {
				nearest = v.nearMoving(o, p, way, known)
			}
			v.comesNear(o, p.Target, nearest, metres)
		case nearest <= 0:
			o.fouls = append(o.fouls, fmt.Sprintf("The line between %s runs against %s: lead it clear, or it chafes there, and what it rubs off is in no figure.", between, p.Name))
		}
	}
	sortClearances(o.clears)
	if way != nil {
		o.fouls = append(o.fouls, v.pieceByRope(legs, o.block, way)...)
	}
}

// What of a line that leads away is looked at for the piece: so far from its block and from the
// stem, m, as beneath its block a piece always hangs beside it; and how near its wood may come.
const (
	awayFromBlock = 1.5
	awayFromStem  = 1.0
	byTheLine     = 0.3
)

// pieceByRope says where a piece's wood meets its own line on the way to the hand. Brush parts for
// a line; wood does not.
func (v *Survey) pieceByRope(legs []leg, block r3.Vec, way *sweep) (said []string) {
	var bare sweep
	for k := range legs {
		one := &legs[k]
		if !one.leadsAway {
			continue
		}
		off := func(at r3.Vec) bool {
			return r3.Norm(r3.Sub(at, block)) > awayFromBlock && r3.Norm(level(r3.Sub(at, v.onStem(at.Z)))) > awayFromStem
		}
		along := r3.Sub(one.to, one.from)
		first, last := 1.0, 0.0
		for share := range shares(40) {
			if off(r3.Add(one.from, r3.Scale(share, along))) {
				first, last = min(first, share), share
			}
		}
		if first >= last {
			continue
		}
		rope := woodOf(1, func(share float64) (r3.Vec, float64) {
			return r3.Add(one.from, r3.Scale(first+share*(last-first), along)), 0
		})
		if bare.balls == nil {
			bare = *way
			wood := slices.Clone(way.balls)
			for i := range wood {
				wood[i].r = wood[i].wood
			}
			bare.of(wood)
		}
		if near := bare.nearest(byTheLine, nil, rope.distance); near < byTheLine {
			said = append(said, fmt.Sprintf("Its wood comes within %s of its own line between %s: lead the line clear of its way.", v.Height(max(0, near)), one.name))
		}
	}
	return said
}

// comesNear notes how close something of a pick comes to a power line, where that is nearer
// than what is known.
func (v *Survey) comesNear(o *Outcome, t *job.Target, nearest, metres float64) {
	if nearest > max(lookFor, metres+1) {
		return
	}
	judged := Within
	if nearest < v.keeps(t) {
		judged = Over
	}
	known := slices.IndexFunc(o.clears, func(c Clearance) bool { return c.target == t })
	if known < 0 {
		o.clears = append(o.clears, Clearance{t.Name, nearest, judged, t, standsAs{}})
	} else if nearest < o.clears[known].ClearanceM {
		o.clears[known].ClearanceM, o.clears[known].Verdict = nearest, judged
	}
}

func sortClearances(list []Clearance) {
	slices.SortStableFunc(list, func(a, b Clearance) int {
		return cmp.Or(cmp.Compare(a.ClearanceM, b.ClearanceM), cmp.Compare(a.Name, b.Name))
	})
}

// floor is what lies beneath a piece.
type floor struct {
	name string
	z    float64
	hard float64 // of the ground or the highest target, the tree's own limbs left out
	// What a piece would be put down on that cannot bear that: a roof, a fence. Empty: nothing.
	onto string
}

// theGround is what a floor is called where nothing else lies beneath.
const theGround = "the ground"

// floorUnder is what lies beneath a place of the plan: the ground, or the top of the
// highest target or limb within a distance of it and below a height.
func (v *Survey) floorUnder(x, y, within, below float64, now *Standing, without func(limb int) bool) floor {
	f := floor{name: theGround}
	for i := range v.targets {
		p := &v.targets[i]
		if p.ToM > f.z && p.ToM < below && apart(p.corners, x, y) <= within {
			f.name, f.z, f.hard = p.Name, p.ToM, p.ToM
		}
		// Beside it, a piece can be put down yet.
		if !bears[p.Kind] && p.ToM > 0 && p.ToM < below && apart(p.corners, x, y) <= rightUnder {
			f.onto = p.Name
		}
	}
	v.woodAround(now, without, func(name string, w *limbWood) {
		if z, is := w.under(x, y, within, below); is && z > f.z {
			f.name, f.z = name, z
		}
	})
	return f
}

// top is how high it stands, m.
func (w *limbWood) top() float64 {
	top := math.Inf(-1)
	for i := range w.at {
		top = max(top, w.at[i].Z+w.r[i])
	}
	return top
}

// woodAround is the wood that stands: the tree's own limbs but for some, and every other tree.
func (v *Survey) woodAround(now *Standing, without func(limb int) bool, found func(name string, w *limbWood)) {
	for k := range v.Limbs {
		if now.stands(k) && !without(k) {
			found(v.Limbs[k].Title(), v.limbWood(k, now.Tips[k]))
		}
	}
	v.othersWood(now, found)
}

// under is the highest that wood stands beneath a height within a distance by the plan of a place, its thickness with
// it, m; false: none does.
func (w *limbWood) under(x, y, within, below float64) (z float64, is bool) {
	z = math.Inf(-1)
	for i := range w.parts {
		from, along, r := w.parts[i].from, w.parts[i].along, w.parts[i].r
		// The part of it that is so near by the plan: where |from + t·along − place| = within.
		off := r3.Vec{X: from.X - x, Y: from.Y - y}
		low, high := 0.0, 1.0
		half, reach := off.X*along.X+off.Y*along.Y, within+r
		near := off.X*off.X + off.Y*off.Y - reach*reach
		if long := along.X*along.X + along.Y*along.Y; long > 1e-12 {
			root := half*half - long*near
			if root < 0 {
				continue
			}
			low, high = max(low, (-half-math.Sqrt(root))/long), min(high, (-half+math.Sqrt(root))/long)
		} else if near > 0 {
			continue
		}
		// And of that what is beneath the height.
		switch share := (below - from.Z) / along.Z; {
		case along.Z > 0:
			high = min(high, share)
		case along.Z < 0:
			low = max(low, share)
		case from.Z > below:
			continue
		}
		if low <= high {
			z, is = max(z, from.Z+max(low*along.Z, high*along.Z)+r), true
		}
	}
	return z, is
}

// rightUnder is how near its plumb line a thing lies right beneath a piece, m.
const rightUnder = 0.3

// bears are the kinds of targets that a piece can be put down on.
var bears = map[string]bool{"ground": true, "road": true, "water": true}

// A Disc is a round of ground that a piece may come down on.
type Disc struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
	R float64 `json:"r"`
}

// A Landing is where a piece that is not held comes down.
type Landing struct {
	Discs    []Disc   `json:"discs" nullable:"false" doc:"Rounds of the plan it may come down on"`
	Zone     string   `json:"zone" doc:"The drop zone that takes all of it; empty: none does"`
	Hits     []string `json:"hits" nullable:"false" doc:"Targets it may come down on"`
	Sector   string   `json:"sector" doc:"The no-go sector it would go into; empty: none"`
	HangsOn  []string `json:"hangs_on" nullable:"false" doc:"Limbs beneath that it may hang up on"`
	EnergyKj float64  `json:"energy_kj" doc:"Of the fall, at the heavy end"`
	NearM    float64  `json:"near_m" doc:"From the middle of the tree's foot to the nearest of where it may come down; 0: on the foot"`
	FarM     float64  `json:"far_m" doc:"Likewise to the farthest"`
	Verdict  Verdict  `json:"verdict" enum:"within,close,over,not known,not held"`
	Reason   string   `json:"reason"`

	stumps []string // of other trees, that it comes down on
}

// landing judges where a piece comes down: past wood from a height down, and past lines from
// the height that it reaches.
func (v *Survey) landing(discs []Disc, cutZ, topZ float64, now *Standing, without func(limb int) bool) *Landing {
	l := &Landing{Discs: discs, Hits: []string{}, HangsOn: []string{}}
	for i, d := range discs {
		out := math.Hypot(d.X-v.foot.X, d.Y-v.foot.Y)
		near := max(0, out-d.R)
		if i > 0 {
			near = min(near, l.NearM)
		}
		l.FarM, l.NearM = max(l.FarM, out+d.R), near
	}
	for i := range v.targets {
		for _, d := range discs {
			reach := d.R
			if metres, power := policy.PowerDistanceOf(v.targets[i].Target); power && topZ > v.targets[i].FromM-metres {
				reach += metres
			}
			if t := &v.targets[i]; max(t.low.X-d.X, d.X-t.top.X, t.low.Y-d.Y, d.Y-t.top.Y) < reach && apart(t.corners, d.X, d.Y) < reach {
				l.Hits = append(l.Hits, v.targets[i].Name)
				break
			}
		}
	}
	for i := range v.Job.Site.Zones {
		zone := &v.Job.Site.Zones[i]
		all := true
		for _, d := range discs {
			if !inside(zone.Outline, d.X, d.Y) || edge(zone.Outline, d.X, d.Y) < d.R*0.999 {
				all = false
				break
			}
		}
		if all {
			l.Zone = zone.Name
			break
		}
	}
	v.woodAround(now, without, func(name string, w *limbWood) {
		list := &l.HangsOn
		if w.stump {
			list = &l.stumps
		}
		if !slices.Contains(*list, name) && slices.ContainsFunc(discs, func(d Disc) bool { _, is := w.under(d.X, d.Y, d.R, cutZ); return is }) {
			*list = append(*list, name)
		}
	})
	for _, d := range discs {
		l.Sector = cmp.Or(l.Sector, v.sectorAt(d))
	}
	switch {
	case l.Sector != "":
		l.Verdict, l.Reason = Over, "it goes into the no-go sector "+l.Sector
	case len(l.Hits) > 0:
		l.Verdict, l.Reason = Over, "it may come down on "+l.Hits[0]
	case len(v.Job.Site.Zones) == 0:
		l.Verdict, l.Reason = NotKnown, "no drop zone is drawn"
	case l.Zone == "":
		l.Verdict, l.Reason = Over, "no drop zone takes all of it"
	case len(l.HangsOn)+len(l.stumps) > 0:
		l.Verdict, l.Reason = Close, l.Zone+", but it may hang up on "+slices.Concat(l.HangsOn, l.stumps)[0]
	default:
		l.Verdict, l.Reason = Within, "into "+l.Zone
	}
	return l
}

// Nearer to the foot than the one no direction counts; out to the other the middle of a thing counts, as what lies
// beside the foot lies in many sectors a little; beyond, all of it, m (common practice, no source).
const (
	atTheFoot = 1
	besideIt  = 3
)

// sectorAt is the no-go sector that a round of the plan lies in, or "".
func (v *Survey) sectorAt(d Disc) string {
	return v.firstSector(func(s *job.Sector) bool { return v.liesIn(s, d) })
}

// liesIn reports that a round of the plan lies in a no-go sector.
func (v *Survey) liesIn(s *job.Sector, d Disc) bool {
	out := r3.Vec{X: d.X - v.foot.X, Y: d.Y - v.foot.Y}
	far, within := r3.Norm(out), 0.0
	if far <= atTheFoot {
		return false
	}
	if far > max(besideIt, d.R) {
		within = math.Asin(d.R/far) * 180 / math.Pi
	}
	return opens(s, azimuthOf(out), within)
}

// reachesInto reports that a part of a piece reaches into a no-go sector away from the foot: next to a stem that leans
// over a sector all of its pieces are in it.
func (v *Survey) reachesInto(s *job.Sector, at r3.Vec, r float64) bool {
	return v.offSector(s, at, r) <= 0
}

// offSector is how far a part of a piece has to move at least before it reaches into a no-go sector, m; 0 or less: it does.
func (v *Survey) offSector(s *job.Sector, at r3.Vec, r float64) float64 {
	out := level(r3.Sub(at, v.foot))
	far := math.Sqrt(out.X*out.X + out.Y*out.Y)
	if far <= besideIt {
		return math.Nextafter(besideIt-far, math.Inf(1))
	}
	if far <= r {
		r = 0
	}
	off := offBy(s, azimuthOf(out))
	if off <= 0 {
		return 0
	}
	return far*math.Sin(radians(min(90, off))) - r
}

// broughtInto is the no-go sector that a piece is brought into on its lines, and is not in anyway as it grows or in
// other poses; "": none. Where some of it is, its balance is asked for.
func (v *Survey) broughtInto(o *Outcome, way *sweep, anyway ...pose) string {
	anyway = append(anyway, turned(r3.Vec{}, 0, o.cut))
	return v.firstSector(func(s *job.Sector) bool {
		parts := way.balls
		is := func(b ball) bool {
			return slices.ContainsFunc(anyway, func(p pose) bool { return v.reachesInto(s, p.place(b.off), b.r) })
		}
		if slices.ContainsFunc(parts, is) {
			balance := r3.Sub(o.Weight.at, o.cut)
			grows := func(p pose) bool {
				at := p.place(balance)
				return v.liesIn(s, Disc{X: at.X, Y: at.Y})
			}
			if slices.ContainsFunc(anyway, grows) {
				return false
			}
			parts = []ball{{off: balance}}
		}
		for i := range parts {
			b := &parts[i]
			for k := 0; k < len(way.poses); {
				// Between two places that are looked at it lies no further off than half of the way.
				half := 0.0
				if k > 0 && !way.leaps[k] {
					half = (way.moved[k] - way.moved[k-1]) / 2
				}
				off := v.offSector(s, way.poses[k].place(b.off), b.r+half)
				if off <= 0 {
					return true
				}
				next := k + 1
				for next < len(way.poses) && way.moved[next]-way.moved[k] < off {
					next++
				}
				k = next
			}
		}
		return false
	})
}

// staysOut faults a piece that its lines bring into a no-go sector; on one line it may hang in one.
func (v *Survey) staysOut(o *Outcome, way *sweep) {
	anyway := []pose{}
	if o.ends == nil && o.pair == nil {
		axis, angle, tie, _ := v.hangs(o)
		anyway = append(anyway, hung(axis, angle, tie, r3.Vec{X: o.block.X, Y: o.block.Y, Z: o.lowestTie()}))
	}
	if name := v.broughtInto(o, way, anyway...); name != "" {
		o.fault(faultSector, "its lines bring it into the no-go sector %s", name)
	}
}

// firstSector is the name of the first no-go sector of which something is true, or "".
func (v *Survey) firstSector(is func(s *job.Sector) bool) string {
	for i := range v.Job.Site.Sectors {
		if s := &v.Job.Site.Sectors[i]; is(s) {
			return s.Name
		}
	}
	return ""
}

// sector returns the no-go sector that an azimuth leads into, or "".
func (v *Survey) sector(azimuth float64) string {
	return v.firstSector(func(s *job.Sector) bool { return opens(s, azimuth, 0) })
}

// opens reports that a no-go sector comes as near to an azimuth as so many degrees.
func opens(s *job.Sector, azimuth, within float64) bool { return offBy(s, azimuth) <= within }

// offBy is by how many degrees an azimuth lies beside a no-go sector; 0 or less: in it.
func offBy(s *job.Sector, azimuth float64) float64 {
	wide := math.Mod(s.ToDeg-s.FromDeg+360, 360)
	if math.Abs(s.ToDeg-s.FromDeg) >= 360 {
		wide = 360
	}
	past := math.Mod(azimuth-s.FromDeg+720, 360)
	return min(past-wide, 360-past)
}
