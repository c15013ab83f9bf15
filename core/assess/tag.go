package assess

import (
	"fmt"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/core/working"
)

// PartTag is a tag line in the hand.
const PartTag = "tag line"

// tagging is a tag line on a piece that hangs on its own line.
type tagging struct {
	set    *job.Tag
	anchor string   // what it leads to is called
	pair   *pairTag // it hangs on two lines; nil: on one, as below
	out    float64  // how far it is let down while it is drawn, m
	back   string   // what it meets when it is let go
	heavy  line.Tagged
	light  line.Tagged
	at     line.Drawn // of the heavy end, where its own line is as short as it stops at
	atLong line.Drawn // and let down
	more   float64    // what its own line carries at rest, over its weight: the most on the way
}

// towards is where a tag line leads.
func (g *tagging) towards() r3.Vec {
	if g.pair != nil {
		return g.pair.sum.Towards
	}
	return g.heavy.Towards
}

// tagged works out what a tag line does to a piece on its line: how far it draws it aside, and what
// it adds to the line, to the block and to what holds that.
func (v *Survey) tagged(o *Outcome, now *Standing) {
	set := o.pick.Tagged(o.Length(), v.limits.HandKn)
	if set == nil {
		return
	}
	at, name, why := v.ledTo(set.Anchor, set.AnchorM, now)
	if why != "" {
		o.fault(faultBlock, "the tag line leads to a place %s", why)
		return
	}
	if *set.TieM > o.Length() {
		o.fault(faultTie, "the tag line, %s from the cut, is beyond the piece's end (%s long)", v.Height(*set.TieM), v.Height(o.Length()))
		return
	}
	g := &tagging{set: set, anchor: name}
	hangs := r3.Vec{Z: -1}
	if o.Weight.cog < o.Settings.TieM {
		hangs.Z = 1
	}
	g.heavy = line.Tagged{WeightKn: o.weightKn(), Point: o.block, LineM: max(0.2, o.block.Z-o.lowestTie()), TieM: o.Settings.TieM, CogM: o.Weight.cog, TagM: *set.TieM, Towards: at, PullKn: *set.PullKn, AsItHangs: hangs}
	g.light = g.heavy
	g.light.WeightKn = o.Weight.Kg.Low * units.Gravity / 1000
	g.more, g.out = 1, v.letOut(o)
	back := []line.PairDrawn{}
	for k, share := range []float64{0, 0.25, 0.5, 0.75, 1} {
		for _, one := range []line.Tagged{g.heavy, g.light} {
			one.LineM += share * g.out
			d, found := one.Solve()
			if !found || d.Tie.Z >= o.block.Z-0.05 {
				o.fault(faultTie, "%s at the tag line draw it all the way to %s: pull with less, or stand further off", units.Print(units.Force, v.System, *set.PullKn), g.anchor)
				return
			}
			g.more = max(g.more, d.LineKn/o.weightKn())
			back = append(back, line.PairDrawn{Butt: r3.Sub(d.Tie, r3.Scale(o.Settings.TieM, d.Axis)), Axis: d.Axis})
			if one.WeightKn == g.heavy.WeightKn {
				if k == 0 {
					g.at = d
				}
				g.atLong = d
			}
		}
	}
	g.back = v.swingsBack(o, now, o.block, r3.Cross(level(r3.Sub(g.atLong.Tie, o.block)), r3.Vec{Z: 1}), o.Weight.cog, back)
	o.tag = g
	o.bears = g.more
	for _, d := range []line.Drawn{g.at, g.atLong} {
		o.aside = longer(o.aside, level(d.Pull))
	}
	o.pulledAside()
}

// pulledAside adds a tag line's pull to a catch: as if it were pulled while the line is at its peak.
func (o *Outcome) pulledAside() {
	if o.tag == nil || o.tag.pair != nil || o.Catch.LinePeakKn <= 0 {
		return
	}
	peak, most := o.Catch.LinePeakKn, 0.0
	for _, d := range []line.Drawn{o.tag.at, o.tag.atLong} {
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
func (v *Survey) ledTo(anchor string, atM *float64, now *Standing) (spot r3.Vec, name, why string) {
	place := job.Place{On: job.OnAnchor, Anchor: anchor, AtM: job.Or(atM, ledHeight)}
	for i := range v.Job.Site.Anchors {
		if a := &v.Job.Site.Anchors[i]; a.ID == anchor {
			name = a.Name
			if atM == nil {
				place.AtM = min(ledHeight, job.Or(a.HeightM, holdingHeight))
			}
		}
	}
	spot, why = v.place(&place, now, nil)
	return spot, name, why
}

// letOut is how far a piece is let down from its lowest on the line to where it is put, m.
func (v *Survey) letOut(o *Outcome) float64 {
	return max(0, o.lowestTie()-min(o.lowestTie(), o.floor.hard+o.below()+0.1))
}

// tagHands is what the people at a tag line hold, kN.
func (v *Survey) tagHands(set *job.Tag) float64 { return float64(*set.People) * v.limits.HandKn }

// tagLoads gathers what the hand and what the line leads to take.
func (v *Survey) tagLoads(o *Outcome) {
	g := o.tag
	if g == nil {
		return
	}
	pull := *g.set.PullKn
	hand := v.tagHands(g.set)
	l := load{part: PartTag, name: g.anchor, resting: pull, peak: pull, Rated: policy.Rated{Known: true, Decided: byCrew,
		Limit: gear.Limit{Kn: hand, Reason: fmt.Sprintf("what its people hold (%d): %s", *g.set.People, policy.Ruled(v.Job.Limits.HandKn)), Source: working.Common}}}
	l.cautions("In the hand, never tied off or round a hand: a piece that swings away takes it along.")
	o.loads = append(o.loads, l)
}

// said tells how far a tag line draws its piece and what it adds.
func (g *tagging) said(v *Survey, o *Outcome) string {
	if g.pair != nil {
		return g.pair.said(v, g.set) + " " + g.back
	}
	said := fmt.Sprintf("%s at the tag line draw it %s aside where it stops", units.Print(units.Force, v.System, *g.set.PullKn), v.Height(g.at.AsideM))
	if g.atLong.AsideM > g.at.AsideM+0.01 {
		said += fmt.Sprintf(", %s where it is put down", v.Height(g.atLong.AsideM))
	}
	return said + fmt.Sprintf("; its own line then carries %s at rest, %.0f %% of its weight. %s", units.Print(units.Force, v.System, g.more*o.weightKn()), 100*g.more, g.back)
}

// working writes the sum behind a tag line.
func (g *tagging) working(sheet *working.Sheet) {
	if g.pair != nil {
		sheet.Append(g.pair.sum.Working(g.pair.heavy[0]))
		return
	}
	sheet.Append(g.heavy.Working(g.at))
}

// alone reports that a piece is always drawn by its tag line: its people hold the pull. With more it
// may as well not be drawn.
func (g *tagging) alone(v *Survey) bool { return *g.set.PullKn <= v.tagHands(g.set) }

// drawnAside follows a piece that a tag line draws aside, from under its block out and down to where
// it is put: at both ends of its weight.
func (v *Survey) drawnAside(o *Outcome, s *sweep, from pose) {
	out, was := o.tag.out, o.heads()
	for _, one := range []line.Tagged{o.tag.heavy, o.tag.light} {
		full, short := one.PullKn, one.LineM
		at := func(p *pose, pull, longer float64) pose {
			one.PullKn, one.LineM = max(1e-6, pull), short+longer
			d, _ := one.Solve()
			return p.onto(was, d.Axis, r3.Sub(d.Tie, r3.Scale(o.Settings.TieM, d.Axis)))
		}
		// Tied near its balance it may hang any way until it is drawn.
		hangs := at(&from, 0, 0)
		tie := from.place(r3.Sub(o.tie, o.cut))
		s.along(func(share float64) pose { return from.towards(&hangs, share, was, tie) })
		hangs = s.poses[len(s.poses)-1]
		s.along(func(share float64) pose { return at(&hangs, share*full, 0) })
		drawn := s.poses[len(s.poses)-1]
		s.along(func(share float64) pose { return at(&drawn, full, share*out) })
	}
}

// TagFigures is what a tag line does.
type TagFigures struct {
	Towards line.Point `json:"towards" doc:"Where it leads to"`
	At      line.Point `json:"at" doc:"Where it is tied, the piece hanging where its line stops it"`
	Tie     line.Point `json:"tie" doc:"Where the piece's own line is tied then"`
	Cut     line.Point `json:"cut" doc:"The piece's ends then"`
	Tip     line.Point `json:"tip"`
	TieM    float64    `json:"tie_m" doc:"Where it is tied, from the cut along the piece"`
	PullKn  float64    `json:"pull_kn"`
	AsideM  float64    `json:"aside_m" doc:"How far it draws the piece's tie aside there"`
	DownM   float64    `json:"down_m" doc:"And where the piece is put down"`
	LineKn  float64    `json:"line_kn" doc:"The most that the piece's own line carries at rest"`
	Said    string     `json:"said"`
}

// tagFigures gives what is drawn and said of a tag line; nil: there is none.
func (v *Survey) tagFigures(o *Outcome) *TagFigures {
	g := o.tag
	if g == nil {
		return nil
	}
	if g.pair != nil {
		first := &g.pair.heavy[0]
		at := func(m float64) line.Point { return pointOf(first.Along(m)) }
		return &TagFigures{Towards: pointOf(g.pair.sum.Towards), At: at(*g.set.TieM), Tie: at(g.pair.sum.Lines[0].AtM), Cut: at(0), Tip: at(o.Length()),
			TieM: *g.set.TieM, PullKn: *g.set.PullKn, AsideM: first.AsideM, DownM: g.pair.heavy[len(g.pair.heavy)-1].AsideM, LineKn: max(g.pair.kn[0], g.pair.kn[1]), Said: g.said(v, o)}
	}
	along := func(m float64) line.Point {
		return pointOf(r3.Add(g.at.Tie, r3.Scale(m-o.Settings.TieM, g.at.Axis)))
	}
	return &TagFigures{Towards: pointOf(g.heavy.Towards), At: pointOf(g.at.Tag), Tie: pointOf(g.at.Tie), Cut: along(0), Tip: along(o.Length()),
		TieM: *g.set.TieM, PullKn: *g.set.PullKn, AsideM: g.at.AsideM, DownM: g.atLong.AsideM, LineKn: g.more * o.weightKn(), Said: g.said(v, o)}
}
