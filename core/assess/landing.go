package assess

import (
	"cmp"
	"math"
	"slices"

	"elkstay/core/policy"
)

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
// highest target or wood within a distance of it and below a height.
func (v *Survey) floorUnder(x, y, within, below float64, wood []*limbWood) floor {
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
	for _, w := range wood {
		if z, is := w.under(x, y, within, below); is && z > f.z {
			f.name, f.z = w.name, z
		}
	}
	return f
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
func (v *Survey) landing(discs []Disc, cutZ, topZ float64, wood []*limbWood) *Landing {
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
			if t := &v.targets[i]; beside(d.X, t.low.X, t.top.X) < reach && beside(d.Y, t.low.Y, t.top.Y) < reach && apart(t.corners, d.X, d.Y) < reach {
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
	for _, w := range wood {
		list := &l.HangsOn
		if w.stump {
			list = &l.stumps
		}
		if !slices.Contains(*list, w.name) && slices.ContainsFunc(discs, func(d Disc) bool { _, is := w.under(d.X, d.Y, d.R, cutZ); return is }) {
			*list = append(*list, w.name)
		}
	}
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
