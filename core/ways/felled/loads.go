package felled

import (
	"fmt"
	"math"
	"strings"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/spar"
	"elkstay/core/units"
	"elkstay/core/working"
)

// A lineLoad is a load of one line of a felling.
type lineLoad struct {
	of *Felled
	*pullLine
}

// Working writes the sum behind it.
func (s lineLoad) Working(l *hold.Load, sheet *working.Sheet) { s.working(sheet, l, s.of.felling) }

// Contracted is the pull as the kind fell has it: of one line that pulls and at most one that holds, as more share in a way
// the kind does not have.
func (s lineLoad) Contracted(l *hold.Load) (kind string, request any) {
	pulled := s.of.felling.pulled
	if l.Part != hold.PartPull || s.set.Holds || len(pulled.Pulls) != 1 || len(pulled.Holds) > 1 {
		return "", nil
	}
	pulled.Pull = pulled.Pulls[0].Line
	if len(pulled.Holds) == 1 {
		pulled.Retainer = &pulled.Holds[0].Line
	}
	return "fell", &pulled
}

// Beside is nothing more than what the load says.
func (s lineLoad) Beside(*hold.Load) []string { return nil }

// loadOf adds a load of one line.
func (o *Felled) loadOf(t *pullLine, l hold.Load) {
	l.From = lineLoad{o, t}
	o.Loads = append(o.Loads, l)
}

// pullLoads gathers what a line of a felling takes: what is needed of what its effort gives, its
// rope, the stem where it is tied, its turns and what they sit on, its anchor.
func (o *Felled) pullLoads(f *felling, t *pullLine) {
	o.effortLoad(f, t)
	// The line is loaded by what its effort can give, where that is more than is needed.
	t.mostKn = max(t.needKn, t.mostKn)
	onRest, onMost := t.onward()
	o.ropeLoad(t, onRest, onMost)
	o.stemUnder(f, t)
	for i := range t.set.Redirects {
		r := &t.set.Redirects[i]
		counted, loaded := &t.counted.Points[i], &t.loaded.Points[i]
		resting, peak := onRest*counted.ResultantKn, max(onRest*counted.ResultantKn, onMost*loaded.ResultantKn)
		turn := hold.Load{Part: hold.PartRedirect, Name: r.Name, Item: r.Item, RestKn: resting, PeakKn: peak, Unseen: r.Friction != nil, Why: "nobody has said what it holds"}
		if turn.Unseen {
			turn.Why = "a fork turns the line: what it grows on is judged below"
		}
		turn.Rated = o.Limits.Rate(r.Rating, policy.Used{Kind: locker.Pulley}, resting, peak)
		o.loadOf(t, turn)
		for _, l := range o.Strength().Holder(o.Tree, &hold.Pull{Place: &r.Place, At: t.points[i+1].Vec(), Dir: loaded.Direction.Vec(), RestKn: resting, PeakKn: peak}, nil, o.Now) {
			o.load(l)
		}
	}
	o.anchorLoad(t, onRest, onMost)
}

// effortLoad is what a line must pull or hold, held to what its effort gives.
func (o *Felled) effortLoad(f *felling, t *pullLine) {
	l, margin := t.set, *f.set.Margin
	pulled := hold.Load{Part: hold.PartPull, Name: t.anchor.Name, RestKn: t.needKn / margin, PeakKn: t.needKn, Why: "nobody has said what pulls"}
	if l.Holds {
		pulled.Part, pulled.Why = hold.PartSecond, "nobody has said what holds"
		pulled.PeakKn = max(t.needKn, t.mostKn)
	}
	switch {
	case t.mid != nil && t.givesKn > 0:
		gives, why := t.mid.holdsOn(f)
		pulled.Rated = policy.Rated{Known: true, Decided: hold.ByEffort, Limit: gear.Limit{Kn: gives, Source: t.mid.source, Reason: t.effortSays + why}}
	case t.effortKn > 0:
		reason := fmt.Sprintf("%s at a %s of %.3g", t.effortSays, pullingOf(l), pullingOf(l).gain(pulleysGive))
		if len(l.Redirects) > 0 && !l.Holds {
			reason += fmt.Sprintf(", %.0f %% of it past its turns", 100/t.counted.DeviceKn)
		}
		pulled.Rated = policy.Rated{Known: true, Decided: hold.ByEffort, Limit: gear.Limit{Kn: t.givesKn, Source: "statics; pulleys of 0.9: common practice", Reason: reason}}
	}
	if pullingOf(l).more() && t.mid == nil {
		pulleys, rope := pullingOf(l).inside(max(t.needKn*t.counted.DeviceKn, max(t.needKn, t.mostKn)*t.loaded.DeviceKn))
		said := make([]string, len(pulleys))
		for i, kn := range pulleys {
			said[i] = units.Print(units.Force, o.System, kn)
		}
		pulled.Say(fmt.Sprintf("In the %s its pulleys take %s, its own line up to %s: hold them to what is marked on them.", pullingOf(l), strings.Join(said, ", "), units.Print(units.Force, o.System, rope)))
	}
	o.loadOf(t, pulled)
}

// ropeLoad is what the rope of a line takes, behind its middle and its turns, too.
func (o *Felled) ropeLoad(t *pullLine, onRest, onMost float64) {
	far := max(onRest*t.counted.DeviceKn, onMost*t.loaded.DeviceKn)
	rope := hold.Load{Part: hold.PartLine, RestKn: max(t.needKn, onRest), PeakKn: max(t.mostKn, far), Why: "there is no rope: choose a rig that has one"}
	if t.rig != nil && t.rig.Rope != nil {
		rope.Name, rope.Item = t.rig.Rope.Name, t.rig.Rope.Item
		rope.Rated = o.Limits.RateTie(t.rig, rope.RestKn, rope.PeakKn)
		bent := job.Rig{Rope: t.rig.Rope, Redirects: t.set.Redirects}
		if over := o.Limits.RateLine(&bent, rope.RestKn, rope.PeakKn); over.Known && over.Limit.Kn < rope.Limit.Kn {
			rope.Rated = over
		}
	}
	if t.mid != nil && t.mid.unseen != "" {
		rope.Known, rope.Why = false, notCaught
	}
	o.loadOf(t, rope)
}

// anchorLoad is what the anchor of a line takes.
func (o *Felled) anchorLoad(t *pullLine, onRest, onMost float64) {
	l, last := t.set, len(t.points)-1
	dir := r3.Unit(r3.Sub(t.points[last-1].Vec(), t.points[last].Vec()))
	resting, far := onRest*t.counted.DeviceKn, max(onRest*t.counted.DeviceKn, onMost*t.loaded.DeviceKn)
	if pullingOf(l).more() && t.mid == nil && l.Effort != job.EffortStraight {
		// Where the effort is turned at the anchor, the anchor holds that as well. Pulled straight it takes its own off, until something at
		// the anchor holds what was gained: that is all of the line.
		resting, far = resting+t.effortKn, far+max(t.effortKn, t.hardestKn)
	}
	pulls := l.By == job.EffortVehicle && l.EffortKn == nil && !pullingOf(l).more()
	if pulls && t.anchor.MarkedKn == nil && t.anchor.BreakingKn == nil {
		// Nothing but its grip holds it, and it cannot pull with more than that.
		far = max(t.needKn*t.counted.DeviceKn, l.PretensionKn)
	}
	place := job.Place{On: job.OnAnchor, Anchor: l.Anchor, AtM: *l.AnchorM}
	holder := o.Strength().Anchored(t.anchor, &hold.Pull{Place: &place, Dir: dir, RestKn: resting, PeakKn: far})
	if pullingOf(l).more() && t.effortKn > 0 && l.Effort != job.EffortStraight {
		holder.Say(fmt.Sprintf("It is counted with the effort turned at it: the line and %s.", units.Print(units.Force, o.System, max(t.effortKn, t.hardestKn))))
	}
	if t.drawn {
		holder.Known, holder.Why = false, "it is drawn out as the tree goes, by a rope that is not known"
	}
	if t.mid != nil && t.mid.unseen != "" {
		holder.Known, holder.Why = false, notCaught
		holder.Say(t.mid.unseen)
	}
	o.loadOf(t, holder)
}

// notCaught is why a line with a weight in it, and what it is made fast to, are not judged.
const notCaught = "what the weight is caught with when the tree lets it go is not followed"

// stemUnder judges the stem between hinge and where a line is tied: the top may break out there.
func (o *Felled) stemUnder(f *felling, t *pullLine) {
	over, wood := o.over(), o.Wood(o.Tree)
	_, _, u := t.line.Arms()
	force := r3.Scale(t.mostKn, r3.Add(r3.Add(r3.Scale(u.X, over), r3.Scale(u.Y, r3.Cross(over, r3.Vec{Z: 1}))), r3.Vec{Z: u.Z}))
	low := o.FromM + f.wood.MeanThicknessM
	stations := wood.StationsTo(o.Now.Top)
	for len(stations) > 2 && stations[1].AtM <= low {
		stations = stations[1:]
	}
	stations[0] = wood.StationAt(max(low, stations[0].AtM))
	beam := wood.Beam(stations)
	beam.Loads = []spar.Load{{AtM: t.set.AtM, HorizontalKn: r3.Norm(space.Level(force)), VerticalKn: math.Max(0, -force.Z)}}
	// What leans or hangs bends it too.
	worst, _ := wood.Feels(&beam, space.Level(force), o.Now)
	t.beam = beam
	l := hold.Load{Part: hold.PartSpar, Dir: space.Heading(0, r3.Vec{}, space.Level(force)), RestKn: t.needKn, PeakKn: t.mostKn, Rated: wood.ByBending(t.mostKn, worst)}
	l.Limit.Reason += ": above it the top may break out"
	o.loadOf(t, l)
}

// working writes the sum behind what a line of a felling loads.
func (t *pullLine) working(sheet *working.Sheet, l *hold.Load, f *felling) {
	n := working.Figure
	const statics = "statics"
	last := len(t.counted.Legs) - 1
	switch l.Part {
	case hold.PartPull, hold.PartSecond:
		sheet.Append(f.pulled.Working(f.need))
		sheet.Add("s", "share of it that this line carries, by what each can give", "its effort of all efforts; evenly where one is not known, or where it holds", t.share, "", statics)
		sheet.Add("P₁", "on this line, at the tree", fmt.Sprintf("s times all of it, s = %s", n(t.share)), t.needKn, "kN", statics)
		if t.mid != nil {
			t.mid.working(sheet)
		} else if t.givesKn > 0 {
			sheet.Add("G", "what its effort gives at the tree", fmt.Sprintf("%s·%s/%s: effort, system, turns", n(t.effortKn), n(pullingOf(t.set).gain(pulleysGive)), n(t.counted.DeviceKn)), t.givesKn, "kN", statics+"; pulleys of 0.9: "+working.Common)
		}
	case hold.PartLine:
		sheet.Add("T", "at the tree: what is needed, what its effort may give with good pulleys, or how tight it is made", "the most of them", t.mostKn, "kN", statics)
		sheet.Add("T₁", "behind its turns", fmt.Sprintf("the more of P₁·%s and T·%s", n(t.counted.DeviceKn), n(t.loaded.DeviceKn)), l.PeakKn, "kN", statics)
	case hold.PartSpar:
		sheet.Append(t.beam.Working(t.beam.Solve()))
	case hold.PartRedirect:
		for i := range t.loaded.Points {
			if turn := &t.loaded.Points[i]; turn.Name == l.Name {
				sheet.Add("θ", "angle of contact", "π − angle between the legs", turn.ContactDeg, "°", "geometry")
				sheet.Add("F", "force of both legs", fmt.Sprintf("|T_in·a + T_out·b| of the more of need and effort, %s of the line at the tree", n(turn.Factor)), l.PeakKn, "kN", statics)
			}
		}
	case hold.PartHolder:
		onRest, onMost := t.onward()
		sheet.Add("T", "leg that ends at it", t.points[last].Name+" to "+t.points[last+1].Name, max(onRest*t.counted.DeviceKn, onMost*t.loaded.DeviceKn), "kN", statics)
		if pullingOf(t.set).more() && t.mid == nil && t.set.Effort != job.EffortStraight {
			sheet.Add("E", "effort turned at it", "as if beside the line", max(t.effortKn, t.hardestKn), "kN", statics)
		}
		sheet.Add("F", "on it", "T, and E where it is turned there", l.PeakKn, "kN", statics)
	}
}
