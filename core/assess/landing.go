package assess

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/ways/felled"
)

// A Landing is where a piece that is not held comes down.
type Landing struct {
	Discs    []space.Disc   `json:"discs" nullable:"false" doc:"Rounds of the plan it may come down on"`
	Zone     string         `json:"zone" doc:"The drop zone that takes all of it; empty: none does"`
	Hits     []string       `json:"hits" nullable:"false" doc:"Targets it may come down on"`
	Sector   string         `json:"sector" doc:"The no-go sector it would go into; empty: none"`
	HangsOn  []string       `json:"hangs_on" nullable:"false" doc:"Limbs beneath that it may hang up on"`
	EnergyKj float64        `json:"energy_kj" doc:"Of the fall, at the heavy end"`
	NearM    float64        `json:"near_m" doc:"From the middle of the tree's foot to the nearest of where it may come down; 0: on the foot"`
	FarM     float64        `json:"far_m" doc:"Likewise to the farthest"`
	Verdict  policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	Reason   string         `json:"reason"`

	stumps []string // of other trees, that it comes down on
}

// landing judges where a piece comes down: past wood from a height down, and past lines from
// the height that it reaches.
func (v *Survey) landing(c *course.Lands, wood []*space.Wood) *Landing {
	discs, cutZ, topZ := c.Discs, c.FromM, c.HighestM
	l := &Landing{Discs: discs, Hits: []string{}, HangsOn: []string{}}
	for i, d := range discs {
		out := math.Hypot(d.X-v.Foot.X, d.Y-v.Foot.Y)
		near := max(0, out-d.R)
		if i > 0 {
			near = min(near, l.NearM)
		}
		l.FarM, l.NearM = max(l.FarM, out+d.R), near
	}
	for i := range v.Targets {
		for _, d := range discs {
			reach := d.R
			if metres, power := policy.PowerDistanceOf(v.Targets[i].Target); power && topZ > v.Targets[i].FromM-metres {
				reach += metres
			}
			if t := &v.Targets[i]; space.Beside(d.X, t.Low.X, t.Top.X) < reach && space.Beside(d.Y, t.Low.Y, t.Top.Y) < reach && space.Apart(t.Corners, d.X, d.Y) < reach {
				l.Hits = append(l.Hits, v.Targets[i].Name)
				break
			}
		}
	}
	for i := range v.Job.Site.Zones {
		zone := &v.Job.Site.Zones[i]
		all := true
		for _, d := range discs {
			if !space.Inside(zone.Outline, d.X, d.Y) || space.Edge(zone.Outline, d.X, d.Y) < d.R*0.999 {
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
		if w.Stump {
			list = &l.stumps
		}
		if !slices.Contains(*list, w.Name) && slices.ContainsFunc(discs, func(d space.Disc) bool { _, is := w.Under(d.X, d.Y, d.R, cutZ); return is }) {
			*list = append(*list, w.Name)
		}
	}
	for _, d := range discs {
		l.Sector = cmp.Or(l.Sector, v.SectorAt(d))
	}
	switch {
	case l.Sector != "":
		l.Verdict, l.Reason = policy.Over, "it goes into the no-go sector "+l.Sector
	case len(l.Hits) > 0:
		l.Verdict, l.Reason = policy.Over, "it may come down on "+l.Hits[0]
	case len(v.Job.Site.Zones) == 0:
		l.Verdict, l.Reason = policy.NotKnown, "no drop zone is drawn"
	case l.Zone == "":
		l.Verdict, l.Reason = policy.Over, "no drop zone takes all of it"
	case len(l.HangsOn)+len(l.stumps) > 0:
		l.Verdict, l.Reason = policy.Close, l.Zone+", but it may hang up on "+slices.Concat(l.HangsOn, l.stumps)[0]
	default:
		l.Verdict, l.Reason = policy.Within, "into "+l.Zone
	}
	return l
}

// land judges where a piece that nothing holds comes down.
func (v *Survey) land(o *Outcome) {
	lands := o.Lands
	if lands == nil {
		return
	}
	o.Landing = v.landing(lands, o.WoodRound())
	if over, is := o.Made.(*felled.Felled); is {
		v.hung(o, over)
	} else {
		o.Landing.HangsOn = append(o.Landing.HangsOn, o.Landing.stumps...)
		v.runsOn(o)
	}
	v.landsBy(o, lands.Discs)
	// Downhill it falls further, uphill less far: what flies, as far down as it may come to lie.
	steep := space.Radians(v.FallsAway(o.Settings.FallTowardsDeg))
	down := math.Sin(steep) * o.Weight.CogM
	if _, fells := o.Made.(*felled.Felled); !fells {
		down = max(down, math.Tan(steep)*o.Landing.FarM)
	}
	o.Landing.EnergyKj = o.WeightKn() * max(0, o.Weight.At.Z+down)
}

// runsOn says of what lies on a slope that nothing keeps it there: how far it rolls or slides nobody can tell.
func (v *Survey) runsOn(o *Outcome) {
	l, steep := o.Landing, job.Or(v.Job.Site.SlopeDeg, 0)
	if steep < course.Slides || steep < course.SlidesBrushy && !o.Brushless() {
		return
	}
	o.Note("On %.0f° it may roll or slide on downhill from where it comes down: nobody below it.", steep)
	if l.Verdict == policy.Within || l.Verdict == policy.Close {
		l.Verdict, l.Reason = policy.NotKnown, fmt.Sprintf("%s, but on %.0f° it may run on downhill, and how far is not known", l.Reason, steep)
	}
}

// landsBy puts over what may come down, held by nothing, by where somebody stands.
func (v *Survey) landsBy(o *Outcome, discs []space.Disc) {
	for i := range v.Job.Site.Posts {
		post := &v.Job.Site.Posts[i]
		if o.InTheTree(post) {
			continue
		}
		near := math.Inf(1)
		for _, d := range discs {
			near = min(near, math.Hypot(post.At.X-d.X, post.At.Y-d.Y)-d.R)
		}
		if near >= course.ByPeople {
			continue
		}
		o.Note("It may come down within %s of where the %s stands: have them stand elsewhere.", v.Height(max(0, near)), post.Role)
		if l := o.Landing; l.Verdict != policy.Over {
			l.Verdict, l.Reason = policy.Over, "it may come down by where the "+post.Role+" stands"
		}
	}
}
