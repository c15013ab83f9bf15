package assess

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways"
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
	Members  []space.Member
	At       *line.Point // where its middle lies; nil: not known
	Where    string      // in words
	Zone     string      // the drop zone it lies in; empty: none
	CoversM2 float64
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
func (h heaps) add(v *Survey, o *Outcome) (caution string) {
	if o.Pick.Done || o.TakesNothing() {
		return ""
	}
	i := v.zoneOf(o)
	if i < 0 {
		return ""
	}
	zone := &v.Job.Site.Zones[i]
	one := h[i]
	if one == nil {
		one = &Heap{Zone: zone.Name, AreaM2: space.AreaOf(zone.Outline)}
		h[i] = one
	}
	so := Heaped{Number: o.Number, Pieces: 1, Kg: o.Weight.Kg.Likely, CoversM2: o.Covers()}
	if n := len(one.After); n > 0 {
		so.Pieces, so.Kg, so.CoversM2 = so.Pieces+one.After[n-1].Pieces, so.Kg+one.After[n-1].Kg, so.CoversM2+one.After[n-1].CoversM2
	}
	one.After = append(one.After, so)
	if one.Full == 0 && so.CoversM2 >= one.AreaM2 {
		one.Full = o.Number
		return fmt.Sprintf("After pick %d drop zone %s is covered: %d pieces, %s. Clear it before the next comes down.", o.Number, zone.Name, so.Pieces, units.Print(units.Mass, v.System, so.Kg))
	}
	return ""
}

// zoneOf is the drop zone that a piece lies in: all of where it may come down, or its middle where
// it is put; -1: none.
func (v *Survey) zoneOf(o *Outcome) int {
	put, isPut := o.putDown()
	for i := range v.Job.Site.Zones {
		zone := &v.Job.Site.Zones[i]
		if o.Landing != nil && o.Landing.Zone == zone.Name || isPut && space.Inside(zone.Outline, put.X, put.Y) {
			return i
		}
	}
	return -1
}

// Lie works out what every pick brings to the ground, in the order of the document, and what the
// drop zones hold after each. It ends early when nobody waits any more.
func (f *Forest) Lie(o *Options) (pieces []Lying, filled []Heap) {
	m, lies := f.Whole(), heaps{}
	for i := range f.Job.Picks {
		if f.Cancelled() {
			break
		}
		p := &f.Job.Picks[i]
		v := f.Of(p)
		if v == nil {
			continue
		}
		now := v.Now(m)
		out, figures := o.Memory.worked(v, p, i+1, now)
		if !out.TakesNothing() {
			pieces = append(pieces, v.lying(out, figures.Title))
			lies.add(v, out)
		}
		out.Off(now)
	}
	for i := range f.Job.Site.Zones {
		if one := lies[i]; one != nil {
			filled = append(filled, *one)
		}
	}
	return pieces, filled
}

// lying is what a pick brings to the ground.
func (v *Survey) lying(o *Outcome, title string) Lying {
	l := Lying{Pick: o.Pick, Number: o.Number, Title: title, Tree: v.Measured.Title(), Kg: o.Weight.Kg, Weighed: o.Weighed, CoversM2: o.Covers()}
	if v.Species != nil {
		l.Species = v.Species.CommonName
	}
	self, own := o.Limb(), o.Own()
	raw := 0.0
	if self < 0 {
		raw = v.StemMass(o.FromM, o.Now).Kg.Likely
		l.Members = append(l.Members, v.StemMember(o.FromM, o.Now))
	} else {
		raw = v.LimbMass(self, o.FromM, o.Now).Kg.Likely
		l.Members = append(l.Members, v.LimbMember(self, o.FromM, o.Now.Tips[self]))
	}
	for k := range v.Limbs {
		if k != self && o.Now.Stands(k) && own(k) {
			l.Members = append(l.Members, v.LimbMember(k, 0, o.Now.Tips[k]))
		}
	}
	// Its parts weigh what the board says that the whole does.
	for i := range l.Members {
		l.Members[i].Kg *= o.Weight.Kg.Likely / raw
	}
	if i := v.zoneOf(o); i >= 0 {
		l.Zone = v.Job.Site.Zones[i].Name
	}
	if put, known := o.putDown(); known {
		at := space.PointOf(put)
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
	case l.At != nil && ways.Find(o.Pick.Way).Held() == course.HeldByCrane:
		l.Where += " by the crane"
	case l.At != nil:
		l.Where += " beneath its line"
	}
	return l
}

// AnchorUnder is how an anchor of the site bears a pull at the height at which it is held to: the
// share of what it holds, nil where that is not known, and what that rests on.
func (f *Forest) AnchorUnder(id string, kn float64) (use *float64, said string) {
	for i := range f.Job.Site.Anchors {
		a := &f.Job.Site.Anchors[i]
		if a.ID != id {
			continue
		}
		high := min(space.HoldingHeight, job.Or(a.HeightM, space.HoldingHeight))
		l := f.Strength().Anchored(a, &hold.Pull{Place: &job.Place{On: job.OnAnchor, Anchor: id, AtM: high}, Dir: r3.Vec{X: 1}, RestKn: kn, PeakKn: kn})
		if !l.Known {
			return nil, fmt.Sprintf("%s: %s", a.Name, l.Why)
		}
		share := l.Use()
		return &share, fmt.Sprintf("%s: %s of %s, %s", a.Name, units.Print(units.Force, f.System, kn), units.Print(units.Force, f.System, l.Limit.Kn), l.Limit.Reason)
	}
	return nil, "no such anchor"
}

// HandKn is what the crew lets one person hold or pull, kN.
func (f *Forest) HandKn() float64 { return f.Limits.HandKn }

// Judged is the verdict of a share of a limit.
func (f *Forest) Judged(share float64) policy.Verdict { return f.Limits.Judge(100 * share) }

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
		rated := f.Limits.RateTie(r, kn, kn)
		if !rated.Known {
			return nil, fmt.Sprintf("%s: nobody has said what it holds", r.Rope.Name), r.RopeLengthM
		}
		share := rated.Use(kn, kn)
		return &share, fmt.Sprintf("%s: %s of %s, %s", r.Rope.Name, units.Print(units.Force, f.System, kn), units.Print(units.Force, f.System, rated.Limit.Kn), rated.Limit.Reason), r.RopeLengthM
	}
	return nil, "There is no rope: choose a rig that has one", nil
}
