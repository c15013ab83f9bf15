package assess

import (
	"fmt"
	"math"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways/felled"
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
	Verdict policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	Kind    string         `json:"kind" enum:"open,close,sector,strikes,hangs,room,pull,hinge,gear,unknown,cannot" doc:"What decides"`
	Reason  string         `json:"reason"`
	Anchor  string         `json:"anchor,omitempty" doc:"Id of the anchor it is pulled to; empty: by its own weight, by wedges, or by the lines as they are set"`
	AsSet   bool           `json:"as_set,omitempty" doc:"By the lines as they are set"`
	Lines   []job.FellLine `json:"lines,omitempty" doc:"What brings it there, where that is not the lines as they are set; none: its own weight and wedges"`

	PullKn     *float64 `json:"pull_kn,omitempty" doc:"What its lines must pull together, margin included"`
	GivesKn    *float64 `json:"gives_kn,omitempty" doc:"What their efforts are counted on to give; absent: not known"`
	SideUsePct *float64 `json:"side_use_pct,omitempty" doc:"Of what the hinge holds sideways"`
}

// FellTo works out a felling along a bearing, with what pulls given; before: the same tree to the same bearing, which has where it comes down,
// nil: that is asked too.
func (v *Survey) FellTo(p *job.Pick, number int, now *space.Standing, before *Outcome) *Outcome {
	if before == nil {
		return v.workedOut(p, v.RigOf(p), number, now, nil)
	}
	return v.workedOut(p, v.RigOf(p), number, now, before.Course)
}

// Lies is how a felling comes out by where it comes down alone; ok: nothing there stands in its way.
func (o *Outcome) Lies() (b Bearing, ok bool) {
	b = Bearing{Deg: o.Settings.FallTowardsDeg, Verdict: policy.Within, Kind: FellOpen}
	l := o.Landing
	if l == nil {
		b.Verdict, b.Kind, b.Reason = policy.Over, FellCannot, "it cannot be worked out"
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
	case l.Verdict == policy.NotKnown:
		b.Kind = FellUnknown
	case len(l.HangsOn) > 0:
		b.Kind = FellHangs
	case l.Verdict == policy.Over:
		b.Kind = FellNoRoom
	}
	return b, l.Verdict != policy.Over
}

// Pulled adds to how a felling lies how it is pulled.
func (v *Survey) Pulled(o *Outcome, lies Bearing) Bearing {
	b := lies
	if o.Stopped() {
		b.Verdict, b.Kind, b.Reason = policy.Over, FellCannot, o.Faults[0].Message
		switch o.Faults[0].Code {
		case course.FaultBack:
			b.Kind = FellPull
		case course.FaultTied:
			b.Kind = FellHangs
		}
		return b
	}
	f := o.Made.(*felled.Felled)
	use := 100 * f.SideUse()
	b.SideUsePct = &use
	gives, known := 0.0, true
	for _, pull := range f.Pulls() {
		if !pull.Holds {
			gives, known = gives+pull.GivesKn, known && pull.GivesKn > 0
		}
	}
	if pull, pulled := f.PullKn(); pulled {
		b.PullKn = &pull
		if known {
			b.GivesKn = &gives
		}
	}
	gravest, most := policy.Within, 0.0
	for i := range o.Loads {
		l := &o.Loads[i]
		use, _, judged := v.judge(l)
		if harsher := policy.Worse(gravest, judged); harsher == gravest && (judged != gravest || use <= most) {
			continue
		}
		gravest, most = judged, use
		if judged == policy.Within || policy.Worse(b.Verdict, judged) != judged {
			continue
		}
		b.Verdict = judged
		switch judged {
		case policy.NotKnown:
			b.Kind, b.Reason = FellUnknown, l.Part+": "+l.Why
		case policy.Close:
			b.Kind, b.Reason = FellClose, fmt.Sprintf("%s %.0f %%", l.Part, use)
		default:
			b.Kind = map[string]string{hold.PartPull: FellPull, hold.PartWedge: FellPull, hold.PartHinge: FellHinge}[l.Part]
			if b.Kind == "" {
				b.Kind = FellGear
			}
			b.Reason = fmt.Sprintf("%s %.0f %%", l.Part, use)
		}
	}
	return b
}

// mostPlans is how many other lines are offered.
const mostPlans = 4

// fellPlans adds to a felling what else would bring it over: wedges, and a line to every other anchor of the site.
func (v *Survey) fellPlans(o *Outcome, figures *course.FellFigures) {
	f, is := o.Made.(*felled.Felled)
	if !is || figures == nil {
		return
	}
	force, lift, use := f.Wedges()
	figures.Plans = append(figures.Plans, course.FellPlan{Title: "Wedges", Verdict: v.Limits.Judge(100 * use),
		Said: fmt.Sprintf("%s at the back, margin included, and %s of lift until it goes by itself; driven by hand they lift %s by %s.",
			units.Print(units.Force, v.System, force), f.LiftSays(lift), units.Print(units.Force, v.System, course.WedgeLiftKn), v.Height(course.WedgeLiftM))})
	used := map[string]bool{}
	for _, pull := range f.Pulls() {
		used[pull.AnchorID] = true
	}
	p := *o.Pick
	for _, one := range v.FellPulls(o.Pick, o.Now) {
		if used[one.Anchor] || len(figures.Plans) > mostPlans {
			continue
		}
		fell := job.Fell{}
		if o.Pick.Fell != nil {
			fell = *o.Pick.Fell
		}
		fell.Lines = []job.FellLine{one}
		p.Fell = &fell
		p.FallTowardsDeg = &o.Settings.FallTowardsDeg
		out := v.FellTo(&p, o.Number, o.Now, o)
		if out.Stopped() {
			continue
		}
		pull := out.Made.(*felled.Felled).Pulls()[0]
		b := v.Pulled(out, Bearing{Verdict: policy.Within, Kind: FellOpen})
		plan := course.FellPlan{Title: "A line to " + pull.Anchor, Verdict: b.Verdict, Said: fmt.Sprintf("%s at the tree, tied at %s, margin included", units.Print(units.Force, v.System, pull.NeedKn), v.Height(one.AtM))}
		if pull.GivesKn > 0 {
			plan.Said += fmt.Sprintf("; %s give %s", pull.Effort, units.Print(units.Force, v.System, pull.GivesKn))
		}
		if b.Verdict != policy.Within && b.Kind != FellPull {
			plan.Said += "; " + b.Reason
		}
		plan.Said += "."
		figures.Plans = append(figures.Plans, plan)
	}
}

// FellPulls are lines from a pick to every anchor of the site, each pulled as the pick's own first
// line is, or by a vehicle where a vehicle stands; tied two thirds up where nobody has said.
func (v *Survey) FellPulls(p *job.Pick, now *space.Standing) (list []job.FellLine) {
	from := job.Or(p.CutM, v.DefaultCut(now))
	pull := job.FellLine{ID: "other", AtM: math.Round(10*(from+(now.Top-from)*2/3)) / 10}
	if p.Fell != nil {
		for i := range p.Fell.Lines {
			if !p.Fell.Lines[i].Holds {
				pull = p.Fell.Lines[i]
				break
			}
		}
	}
	pull.Redirects, pull.AnchorM, pull.PretensionKn = nil, nil, 0
	for i := range v.Job.Site.Anchors {
		one, a := pull, &v.Job.Site.Anchors[i]
		one.Anchor = a.ID
		if a.Kind == job.AnchorVehicle && one.EffortKn == nil {
			one.By = job.EffortVehicle
		}
		list = append(list, one)
	}
	return list
}
