package assess

import (
	"fmt"
	"math"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/timber"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// A Lying piece is what one pick brings to the ground, and where.
type Lying struct {
	Pick    *job.Pick
	Number  int // its place in the order, from 1
	Title   string
	Tree    string     // title of its tree
	Species string     // common name; empty: not of the table
	Kg      wood.Range // as the board weighs it
	Weighed bool
	// Its wood, the stem or the limb it is first, then the limbs that grow on it. What of its
	// weight is in none of them is brush.
	Members  []Member
	At       *line.Point // where its middle lies; nil: not known
	Where    string      // in words
	Zone     string      // the drop zone it lies in; empty: none
	CoversM2 float64
}

// A Member is the bare wood of one part of a piece, from its butt.
type Member struct {
	Title string
	Wood  wood.Wood
	timber.Stem
	Kg float64 // likely, of the piece as the board weighs it
}

// A Heap is what the order puts into one drop zone.
type Heap struct {
	Zone   string   `json:"name"`
	AreaM2 float64  `json:"area_m2"`
	After  []Heaped `json:"after" nullable:"false" doc:"Pick by pick; what is down already is taken as cleared"`
	Full   int      `json:"full" doc:"Number of the pick after which it is covered; 0: never"`
}

// Heaped is what lies in a drop zone after a pick.
type Heaped struct {
	Number   int     `json:"number" doc:"Place of the pick in the order, from 1"`
	Pieces   int     `json:"pieces"`
	Kg       float64 `json:"kg" doc:"Likely"`
	CoversM2 float64 `json:"covers_m2" doc:"Each piece laid flat beside the others"`
}

// heaps are what lies in the drop zones, by their number.
type heaps map[int]*Heap

// add puts a piece where it comes down, and says when that drop zone is full: what was put
// there covers it. Nothing is known of what the crew clears away between: it is a caution, not
// a verdict. What is down already is taken as cleared.
func (h heaps) add(v *Survey, o *Outcome, now *Standing) (caution string) {
	if o.pick.Done || !o.Weight.known() {
		return ""
	}
	i := v.zoneOf(o)
	if i < 0 {
		return ""
	}
	zone := &v.Job.Site.Zones[i]
	one := h[i]
	if one == nil {
		one = &Heap{Zone: zone.Name, AreaM2: areaOf(zone.Outline)}
		h[i] = one
	}
	so := Heaped{Number: o.number, Pieces: 1, Kg: o.Weight.Kg.Likely, CoversM2: v.covers(o, now)}
	if n := len(one.After); n > 0 {
		so.Pieces, so.Kg, so.CoversM2 = so.Pieces+one.After[n-1].Pieces, so.Kg+one.After[n-1].Kg, so.CoversM2+one.After[n-1].CoversM2
	}
	one.After = append(one.After, so)
	if one.Full == 0 && so.CoversM2 >= one.AreaM2 {
		one.Full = o.number
		return fmt.Sprintf("After pick %d drop zone %s is covered: %d pieces, %s. Clear it before the next comes down.", o.number, zone.Name, so.Pieces, units.Print(units.Mass, v.System, so.Kg))
	}
	return ""
}

// zoneOf is the drop zone that a piece lies in: all of where it may come down, or its middle where
// it is put; -1: none.
func (v *Survey) zoneOf(o *Outcome) int {
	put, isPut := v.putDown(o)
	for i := range v.Job.Site.Zones {
		zone := &v.Job.Site.Zones[i]
		if o.Landing != nil && o.Landing.Zone == zone.Name || isPut && inside(zone.Outline, put.X, put.Y) {
			return i
		}
	}
	return -1
}

// putDown is where a piece on a line or a hook is put down; of one that is let go, nothing.
func (v *Survey) putDown(o *Outcome) (at r3.Vec, known bool) {
	switch {
	case o.lift != nil:
		if p := o.pick.Lift; p != nil && p.SetDown != nil {
			return r3.Vec{X: p.SetDown.X, Y: p.SetDown.Y}, true
		}
		return at, false
	case o.ends != nil:
		if n := len(o.ends.course); n > 0 {
			return level(o.ends.plane.spot(o.ends.course[n-1].hang.Cog, 0)), true
		}
		return at, false
	case o.pair != nil:
		// Carried over, it lies beneath the far point.
		return level(o.pair.B.Vec()), true
	case o.DropCase != nil:
		// Let down on its line, it lies beneath the block.
		return level(o.block), true
	}
	return at, false
}

// covers is the ground that a piece covers where it lies, m²: its wood end to end, and its
// brush as a fan of its spread, pressed to half (common practice, no source).
func (v *Survey) covers(o *Outcome, now *Standing) float64 {
	area := 0.0
	limb := func(k int, from float64) {
		g := &v.Limbs[k]
		long := max(0, now.Tips[k]-from)
		area += long * g.diameterAt(from)
		if g.Brush != job.BrushBare {
			area += long * brushSpread * g.LengthM / 2
		}
	}
	self, own := v.LimbOf(o.pick), v.own(o)
	if self >= 0 {
		limb(self, o.FromM)
	} else {
		area += o.Length() * o.diameter
	}
	for k := range v.Limbs {
		if k != self && now.stands(k) && own(k) {
			limb(k, 0)
		}
	}
	return area
}

// areaOf is the area of an outline, m².
func areaOf(outline []job.Spot) float64 {
	twice := 0.0
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		twice += a.X*b.Y - b.X*a.Y
	}
	return math.Abs(twice) / 2
}

// Lie works out what every pick brings to the ground, in the order of the document, and what the
// drop zones hold after each. It ends early when nobody waits any more.
func (f *Forest) Lie(o *Options) (pieces []Lying, filled []Heap) {
	m, lies := f.whole(), heaps{}
	for i := range f.Job.Picks {
		if f.Left() {
			break
		}
		p := &f.Job.Picks[i]
		v := f.Of(p)
		if v == nil {
			continue
		}
		now := v.Now(m)
		out, figures := o.Memory.worked(v, p, i+1, now)
		if out.Weight.known() {
			pieces = append(pieces, v.lying(out, figures.Title, now))
			lies.add(v, out, now)
		}
		v.Apply(p, out, now)
	}
	for i := range f.Job.Site.Zones {
		if one := lies[i]; one != nil {
			filled = append(filled, *one)
		}
	}
	return pieces, filled
}

// lying is what a pick brings to the ground.
func (v *Survey) lying(o *Outcome, title string, now *Standing) Lying {
	l := Lying{Pick: o.pick, Number: o.number, Title: title, Tree: v.tree.Title(), Kg: o.Weight.Kg, Weighed: o.weighed, CoversM2: v.covers(o, now)}
	if v.species != nil {
		l.Species = v.species.CommonName
	}
	self, own := v.LimbOf(o.pick), v.own(o)
	raw := 0.0
	if self < 0 {
		raw = v.stemMass(o.FromM, now).Kg.Likely
		l.Members = append(l.Members, v.stemMember(o.FromM, now))
	} else {
		raw = v.limbMass(self, o.FromM, now).Kg.Likely
		l.Members = append(l.Members, v.limbMember(self, o.FromM, now.Tips[self]))
	}
	for k := range v.Limbs {
		if k != self && now.stands(k) && own(k) {
			l.Members = append(l.Members, v.limbMember(k, 0, now.Tips[k]))
		}
	}
	// Its parts weigh what the board says that the whole does.
	for i := range l.Members {
		l.Members[i].Kg *= o.Weight.Kg.Likely / raw
	}
	if i := v.zoneOf(o); i >= 0 {
		l.Zone = v.Job.Site.Zones[i].Name
	}
	if put, known := v.putDown(o); known {
		at := pointOf(put)
		l.At, l.Where = &at, "put down"
	} else if o.Landing != nil && len(o.Landing.Discs) > 0 {
		var at line.Point
		for _, d := range o.Landing.Discs {
			at.X, at.Y = at.X+d.X/float64(len(o.Landing.Discs)), at.Y+d.Y/float64(len(o.Landing.Discs))
		}
		l.At, l.Where = &at, "comes down"
	} else {
		l.Where = "where it lies is not known"
	}
	switch {
	case l.Zone != "":
		l.Where += " on " + l.Zone
	case l.At != nil && o.Landing != nil:
		l.Where += " in no drop zone"
	case l.At != nil && o.lift != nil:
		l.Where += " by the crane"
	case l.At != nil:
		l.Where += " beneath its line"
	}
	return l
}

// stemMember is the bare stem above a cut, measured along its axis.
func (v *Survey) stemMember(cut float64, now *Standing) Member {
	m := Member{Title: "stem", Wood: v.tree.Wood}
	along := 0.0
	put := func(z float64) {
		outside, cavity := v.Stem.DiameterAt(z)
		m.Stations = append(m.Stations, timber.Station{AtM: along, DiameterM: outside, CavityM: cavity})
	}
	put(cut)
	for low := cut; low < now.Top-1e-9; {
		high := v.nextBend(low, now.Top)
		for _, s := range v.Stem.Stations {
			if s.AtM > low+1e-9 {
				high = min(high, s.AtM)
				break
			}
		}
		longer := v.longer(low)
		bare := timber.Stem{Stations: v.Stem.Stations}
		m.Kg += bare.WeighBetween(low, high, v.density, timber.Frustum).MassKg.Likely * longer
		along += (high - low) * longer
		put(high)
		low = high
	}
	return m
}

// limbMember is the bare wood of a limb between two places.
func (v *Survey) limbMember(k int, from, to float64) Member {
	g := &v.Limbs[k]
	kg, _ := v.bare(g, from, to)
	m := Member{Title: g.Title(), Wood: v.tree.Wood, Kg: g.asGuessed(kg).Likely}
	m.Stations = []timber.Station{{DiameterM: g.diameterAt(from)}, {AtM: to - from, DiameterM: g.diameterAt(to)}}
	return m
}

// AnchorUnder is how an anchor of the site bears a pull at the height at which it is held to: the
// share of what it holds, nil where that is not known, and what that rests on.
func (f *Forest) AnchorUnder(id string, kn float64) (use *float64, said string) {
	for i := range f.Job.Site.Anchors {
		a := &f.Job.Site.Anchors[i]
		if a.ID != id {
			continue
		}
		v := &Survey{Forest: f}
		high := min(holdingHeight, job.Or(a.HeightM, holdingHeight))
		l := v.anchored(a, &pull{place: &job.Place{On: job.OnAnchor, Anchor: id, AtM: high}, dir: r3.Vec{X: 1}, rest: kn, peak: kn})
		if !l.Known {
			return nil, fmt.Sprintf("%s: %s", a.Name, l.why)
		}
		share := l.use()
		return &share, fmt.Sprintf("%s: %s of %s, %s", a.Name, units.Print(units.Force, f.System, kn), units.Print(units.Force, f.System, l.Limit.Kn), l.Limit.Reason)
	}
	return nil, "no such anchor"
}

// Advantage is what a pulling system of so many parts makes of an effort, its pulleys' losses
// counted.
func Advantage(parts int) float64 { return advantage(parts, pulleysGive) }

// HandKn is what the crew lets one person hold or pull, kN.
func (f *Forest) HandKn() float64 { return f.limits.HandKn }

// Judged is the verdict of a share of a limit.
func (f *Forest) Judged(share float64) Verdict { return verdict(100*share, f.limits.CloseFromPct) }

// RopeUnder is how a rig's rope, tied with its knot, bears a pull: the share of what it holds, nil where
// that is not known, what that rests on, and how long it is, m; nil: not known. An empty id is the first rig.
func (f *Forest) RopeUnder(id string, kn float64) (use *float64, said string, longM *float64) {
	for i := range f.Job.Rigs {
		r := &f.Job.Rigs[i]
		if r.ID != id && (id != "" || i > 0) {
			continue
		}
		if r.Rope == nil {
			break
		}
		rated := f.limits.RateTie(r, kn, kn)
		if !rated.Known {
			return nil, fmt.Sprintf("%s: nobody has said what it holds", r.Rope.Name), r.RopeLengthM
		}
		share := rated.Use(kn, kn)
		return &share, fmt.Sprintf("%s: %s of %s, %s", r.Rope.Name, units.Print(units.Force, f.System, kn), units.Print(units.Force, f.System, rated.Limit.Kn), rated.Limit.Reason), r.RopeLengthM
	}
	return nil, "There is no rope: choose a rig that has one", nil
}
