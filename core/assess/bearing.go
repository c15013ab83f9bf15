package assess

import (
	"fmt"

	"elkstay/core/job"
)

// What decides how a felling along one bearing comes out.
const (
	FellOpen    = "open"    // nothing stands in its way
	FellClose   = "close"   // it may hang up or come near a limit
	FellSector  = "sector"  // nothing may go there
	FellStrikes = "strikes" // it comes down on something
	FellHangs   = "hangs"   // another tree or a limb takes it
	FellNoRoom  = "room"    // no drop zone takes it
	FellPull    = "pull"    // what there is does not pull it there
	FellHinge   = "hinge"   // its hinge does not hold it sideways
	FellGear    = "gear"    // a rope, a turn, an anchor, the stem does not take it
	FellUnknown = "unknown" // something about it is not known
	FellCannot  = "cannot"  // it contradicts itself
)

// FellKinds lists them.
func FellKinds() []string {
	return []string{FellOpen, FellClose, FellSector, FellStrikes, FellHangs, FellNoRoom, FellPull, FellHinge, FellGear, FellUnknown, FellCannot}
}

// A Bearing is how a felling along one bearing comes out.
type Bearing struct {
	Deg     float64        `json:"deg" doc:"Azimuth it falls towards"`
	Verdict Verdict        `json:"verdict" enum:"within,close,over,not known,not held"`
	Kind    string         `json:"kind" enum:"open,close,sector,strikes,hangs,room,pull,hinge,gear,unknown,cannot" doc:"What decides"`
	Reason  string         `json:"reason"`
	Anchor  string         `json:"anchor,omitempty" doc:"Id of the anchor it is pulled to; empty: by its own weight, by wedges, or by the lines as they are set"`
	AsSet   bool           `json:"as_set,omitempty" doc:"By the lines as they are set"`
	Lines   []job.FellLine `json:"lines,omitempty" doc:"What brings it there, where that is not the lines as they are set; none: its own weight and wedges"`

	PullKn     *float64 `json:"pull_kn,omitempty" doc:"What its lines must pull together, margin included"`
	GivesKn    *float64 `json:"gives_kn,omitempty" doc:"What their efforts are counted on to give; absent: not known"`
	SideUsePct *float64 `json:"side_use_pct,omitempty" doc:"Of what the hinge holds sideways"`
}

// FellTo works out a felling along a bearing, with what pulls given; lands: also where it comes down.
func (v *Survey) FellTo(p *job.Pick, number int, now *Standing, lands bool) *Outcome {
	o := v.workedFrom(&Outcome{pick: p, offered: v.RigOf(p), number: number, aloft: !lands}, now)
	v.bar(o)
	return o
}

// Lies is how a felling comes out by where it comes down alone; ok: nothing there stands in its way.
func (o *Outcome) Lies() (b Bearing, ok bool) {
	b = Bearing{Deg: o.Settings.FallTowardsDeg, Verdict: Within, Kind: FellOpen}
	l := o.Landing
	if l == nil {
		b.Verdict, b.Kind, b.Reason = Over, FellCannot, "it cannot be worked out"
		if o.Stopped() {
			b.Reason = o.Faults[0].Message
		}
		return b, false
	}
	b.Verdict, b.Reason = l.Verdict, l.Reason
	switch {
	case l.Sector != "":
		b.Kind = FellSector
	case len(l.Hits) > 0:
		b.Kind = FellStrikes
	case l.Verdict == NotKnown:
		b.Kind = FellUnknown
	case len(l.HangsOn) > 0:
		b.Kind = FellHangs
	case l.Verdict == Over:
		b.Kind = FellNoRoom
	}
	return b, l.Verdict != Over
}

// Pulled adds to how a felling lies how it is pulled.
func (v *Survey) Pulled(o *Outcome, lies Bearing) Bearing {
	b := lies
	if o.Stopped() {
		b.Verdict, b.Kind, b.Reason = Over, FellCannot, o.Faults[0].Message
		switch o.Faults[0].Code {
		case faultBack:
			b.Kind = FellPull
		case faultTied:
			b.Kind = FellHangs
		}
		return b
	}
	f := o.felling
	use := 100 * f.side
	b.SideUsePct = &use
	gives, known := 0.0, true
	for i := range f.tugs {
		if t := &f.tugs[i]; !t.set.Holds {
			gives, known = gives+t.gives, known && t.gives > 0
		}
	}
	if f.set.Pulled() {
		pull := f.need.PullKn
		b.PullKn = &pull
		if known {
			b.GivesKn = &gives
		}
	}
	gravest, most := Within, 0.0
	for i := range o.loads {
		l := &o.loads[i]
		use, _, judged := v.judge(l)
		if harsher := worse(gravest, judged); harsher == gravest && (judged != gravest || use <= most) {
			continue
		}
		gravest, most = judged, use
		if judged == Within || worse(b.Verdict, judged) != judged {
			continue
		}
		b.Verdict = judged
		switch judged {
		case NotKnown:
			b.Kind, b.Reason = FellUnknown, l.part+": "+l.why
		case Close:
			b.Kind, b.Reason = FellClose, fmt.Sprintf("%s %.0f %%", l.part, use)
		default:
			b.Kind = map[string]string{partPull: FellPull, partWedge: FellPull, partHinge: FellHinge}[l.part]
			if b.Kind == "" {
				b.Kind = FellGear
			}
			b.Reason = fmt.Sprintf("%s %.0f %%", l.part, use)
		}
	}
	return b
}

// Graver tells whether a verdict is worse than another.
func (is Verdict) Graver(than Verdict) bool { return is != than && worse(is, than) == is }
