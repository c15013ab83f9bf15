package roped

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/working"
)

// Tagging is a tag line on a piece that hangs on its own line.
type Tagging struct {
	set    *job.Tag
	anchor string   // what it leads to is called
	pair   *PairTag // it hangs on two lines; nil: on one, as below
	out    float64  // how far it is let down while it is drawn, m
	back   string   // what it meets when it is let go
	heavy  line.Tagged
	light  line.Tagged
	at     line.Drawn // of the heavy end, where its own line is as short as it stops at
	atLong line.Drawn // and let down
	more   float64    // what its own line carries at rest, over its weight: the most on the way
}

// towards is where a tag line leads.
func (g *Tagging) towards() r3.Vec {
	if g.pair != nil {
		return g.pair.sum.Towards
	}
	return g.heavy.Towards
}

// tagged works out what a tag line does to a piece on its line: how far it draws it aside, and what
// it adds to the line, to the block and to what holds that.
func (o *Roped) tagged() {
	set := o.Pick.Tagged(o.Length(), o.Limits.HandKn)
	if set == nil {
		return
	}
	at, name, why := o.ledTo(set.Anchor, set.AnchorM)
	if why != "" {
		o.Fault(course.FaultBlock, "the tag line leads to a place %s", why)
		return
	}
	if *set.TieM > o.Length() {
		o.Fault(course.FaultTie, "the tag line, %s from the cut, is beyond the piece's end (%s long)", o.Height(*set.TieM), o.Height(o.Length()))
		return
	}
	g := &Tagging{set: set, anchor: name}
	hangs := r3.Vec{Z: -1}
	if o.Weight.CogM < o.Settings.TieM {
		hangs.Z = 1
	}
	g.heavy = line.Tagged{WeightKn: o.WeightKn(), Point: o.Block, LineM: max(0.2, o.Block.Z-o.lowestTie()), TieM: o.Settings.TieM, CogM: o.Weight.CogM, TagM: *set.TieM, Towards: at, PullKn: *set.PullKn, AsItHangs: hangs}
	g.light = g.heavy
	g.light.WeightKn = o.Weight.Kg.Low * units.Gravity / 1000
	g.more, g.out = 1, o.letOut()
	back := []line.PairDrawn{}
	for k, share := range []float64{0, 0.25, 0.5, 0.75, 1} {
		for _, one := range []line.Tagged{g.heavy, g.light} {
			one.LineM += share * g.out
			d, found := one.Solve()
			if !found || d.Tie.Z >= o.Block.Z-0.05 {
				o.Fault(course.FaultTie, "%s at the tag line draw it all the way to %s: pull with less, or stand further off", units.Print(units.Force, o.System, *set.PullKn), g.anchor)
				return
			}
			g.more = max(g.more, d.LineKn/o.WeightKn())
			back = append(back, line.PairDrawn{Butt: r3.Sub(d.Tie, r3.Scale(o.Settings.TieM, d.Axis)), Axis: d.Axis})
			if one.WeightKn == g.heavy.WeightKn {
				if k == 0 {
					g.at = d
				}
				g.atLong = d
			}
		}
	}
	g.back = o.swingsBack(o.Block, r3.Cross(space.Level(r3.Sub(g.atLong.Tie, o.Block)), r3.Vec{Z: 1}), o.Weight.CogM, back)
	o.Tag = g
	o.bears = g.more
	for _, d := range []line.Drawn{g.at, g.atLong} {
		o.aside = space.Longer(o.aside, space.Level(d.Pull))
	}
	o.pulledAside()
}

// pulledAside adds a tag line's pull to a catch: as if it were pulled while the line is at its peak.
func (o *Roped) pulledAside() {
	if o.Tag == nil || o.Tag.pair != nil || o.Catch.LinePeakKn <= 0 {
		return
	}
	peak, most := o.Catch.LinePeakKn, 0.0
	for _, d := range []line.Drawn{o.Tag.at, o.Tag.atLong} {
		most = max(most, r3.Norm(r3.Add(d.Pull, r3.Vec{Z: -peak})))
	}
	factor := max(1, most/peak)
	o.Catch.LinePeakKn *= factor
	o.Catch.DevicePeakKn *= factor
}

// ledHeight is how high a line is made fast where nobody has said, m (common practice, no source);
// lower where the place is.
const ledHeight = 0.3

// ledTo is a place of the site that a line leads to, and what it is called; why says why it is none.
func (o *Roped) ledTo(anchor string, atM *float64) (spot r3.Vec, name, why string) {
	place := job.Place{On: job.OnAnchor, Anchor: anchor, AtM: job.Or(atM, ledHeight)}
	for i := range o.Job.Site.Anchors {
		if a := &o.Job.Site.Anchors[i]; a.ID == anchor {
			name = a.Name
			if atM == nil {
				place.AtM = min(ledHeight, job.Or(a.HeightM, space.HoldingHeight))
			}
		}
	}
	spot, why = o.Place(&place, o.Now, nil)
	return spot, name, why
}

// letOut is how far a piece is let down from its lowest on the line to where it is put, m.
func (o *Roped) letOut() float64 {
	return max(0, o.lowestTie()-min(o.lowestTie(), o.Floor.Hard+o.Below(o.Settings.TieM)+0.1))
}

// tagHands is what the people at a tag line hold, kN.
func (o *Roped) tagHands(set *job.Tag) float64 { return float64(*set.People) * o.Limits.HandKn }

// TagLoads gathers what the hand and what the line leads to take.
func (o *Roped) TagLoads() {
	g := o.Tag
	if g == nil {
		return
	}
	pull := *g.set.PullKn
	hand := o.tagHands(g.set)
	l := hold.Load{Part: hold.PartTag, Name: g.anchor, RestKn: pull, PeakKn: pull, Rated: policy.Rated{Known: true, Decided: hold.ByCrew,
		Limit: gear.Limit{Kn: hand, Reason: fmt.Sprintf("what its people hold (%d): %s", *g.set.People, policy.Ruled(o.Job.Limits.HandKn)), Source: working.Common}}}
	l.Say("In the hand, never tied off or round a hand: a piece that swings away takes it along.")
	o.load(l)
}

// said tells how far a tag line draws its piece and what it adds.
func (g *Tagging) said(o *Roped) string {
	if g.pair != nil {
		return g.pair.said(o, g.set) + " " + g.back
	}
	said := fmt.Sprintf("%s at the tag line draw it %s aside where it stops", units.Print(units.Force, o.System, *g.set.PullKn), o.Height(g.at.AsideM))
	if g.atLong.AsideM > g.at.AsideM+0.01 {
		said += fmt.Sprintf(", %s where it is put down", o.Height(g.atLong.AsideM))
	}
	return said + fmt.Sprintf("; its own line then carries %s at rest, %.0f %% of its weight. %s", units.Print(units.Force, o.System, g.more*o.WeightKn()), 100*g.more, g.back)
}

// working writes the sum behind a tag line.
func (g *Tagging) working(sheet *working.Sheet) {
	if g.pair != nil {
		sheet.Append(g.pair.sum.Working(g.pair.Heavy[0]))
		return
	}
	sheet.Append(g.heavy.Working(g.at))
}

// Drawn reports that the piece is always drawn by its tag line: its people hold the pull. With more it
// may as well not be drawn.
func (o *Roped) Drawn() bool { return o.Tag != nil && *o.Tag.set.PullKn <= o.tagHands(o.Tag.set) }

// Draws is what is called to the tag line, behind what is called to the others; empty: there is none.
func (o *Roped) Draws() string {
	if o.Tag == nil {
		return ""
	}
	return "; tag: draw to " + o.Tag.anchor
}

// drawnAside follows a piece that a tag line draws aside, from under its block out and down to where
// it is put: at both ends of its weight.
func (o *Roped) drawnAside(s *space.Sweep, from space.Pose) {
	out, was := o.Tag.out, o.Heads()
	for _, one := range []line.Tagged{o.Tag.heavy, o.Tag.light} {
		full, short := one.PullKn, one.LineM
		at := func(p *space.Pose, pull, longer float64) space.Pose {
			one.PullKn, one.LineM = max(1e-6, pull), short+longer
			d, _ := one.Solve()
			return p.Onto(was, d.Axis, r3.Sub(d.Tie, r3.Scale(o.Settings.TieM, d.Axis)))
		}
		// Tied near its balance it may hang any way until it is drawn.
		hangs := at(&from, 0, 0)
		tie := from.Place(r3.Sub(o.Tie, o.Cut))
		s.Along(func(share float64) space.Pose { return from.Towards(&hangs, share, was, tie) })
		hangs = s.Poses[len(s.Poses)-1]
		s.Along(func(share float64) space.Pose { return at(&hangs, share*full, 0) })
		drawn := s.Poses[len(s.Poses)-1]
		s.Along(func(share float64) space.Pose { return at(&drawn, full, share*out) })
	}
}

// tagFigures gives what is drawn and said of a tag line; nil: there is none.
func (o *Roped) tagFigures() *course.TagFigures {
	g := o.Tag
	if g == nil {
		return nil
	}
	if g.pair != nil {
		first := &g.pair.Heavy[0]
		at := func(m float64) line.Point { return space.PointOf(first.Along(m)) }
		return &course.TagFigures{Towards: space.PointOf(g.pair.sum.Towards), At: at(*g.set.TieM), Tie: at(g.pair.sum.Lines[0].AtM), Cut: at(0), Tip: at(o.Length()),
			TieM: *g.set.TieM, PullKn: *g.set.PullKn, AsideM: first.AsideM, DownM: g.pair.Heavy[len(g.pair.Heavy)-1].AsideM, LineKn: max(g.pair.MostKn[0], g.pair.MostKn[1]), Said: g.said(o)}
	}
	along := func(m float64) line.Point {
		return space.PointOf(r3.Add(g.at.Tie, r3.Scale(m-o.Settings.TieM, g.at.Axis)))
	}
	return &course.TagFigures{Towards: space.PointOf(g.heavy.Towards), At: space.PointOf(g.at.Tag), Tie: space.PointOf(g.at.Tie), Cut: along(0), Tip: along(o.Length()),
		TieM: *g.set.TieM, PullKn: *g.set.PullKn, AsideM: g.at.AsideM, DownM: g.atLong.AsideM, LineKn: g.more * o.WeightKn(), Said: g.said(o)}
}
