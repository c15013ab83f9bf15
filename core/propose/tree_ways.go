package propose

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"elkstay/core/assess"
	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/ways"
	"elkstay/core/ways/lifted"
	"elkstay/core/wood"
)

// A TreeWay is one way of taking a whole tree, worked out pick by pick.
type TreeWay struct {
	How      string         `json:"how" enum:"felled,topped,pieced,crane"`
	Title    string         `json:"title"`
	Picks    []job.Pick     `json:"picks" nullable:"false" doc:"None: it cannot be had"`
	Verdict  policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	Said     string         `json:"said" doc:"What decides, or why it cannot be had"`
	OnLine   int            `json:"on_line" doc:"How many of its picks are on a line or a hook"`
	Heaviest *wood.Range    `json:"heaviest_kg,omitempty" doc:"Of its picks"`
	Nearest  string         `json:"nearest" doc:"Its nearest limit; empty: none is known"`
	Holders  []string       `json:"holders" nullable:"false" doc:"What its gear sits on"`
	Unknown  []string       `json:"unknown" nullable:"false" doc:"What is not known of it"`
	Minutes  float64        `json:"minutes" doc:"By the crew's minutes for each way down"`
}

// ways are those of one tree, side by side.
func (w *wholes) ways(v *assess.Survey, m space.Stand) []TreeWay {
	list := []TreeWay{}
	now := v.Now(m)
	if !w.stands(v, now) {
		return list
	}
	whole := TreeWay{How: ByFelling, Title: "Felled whole", Said: "No bearing is open while it is whole."}
	if p, b, found := w.felledWhole(v, now); found {
		whole.Picks, whole.Said = []job.Pick{p}, fmt.Sprintf("to %.0f°: %s", b.Deg, b.Reason)
	}
	topped := TreeWay{How: ByTopping, Title: "Topped, then felled", Said: "No top that can come off opens a bearing."}
	// Where it goes whole, half of it is what topping first would be for.
	share := 1.0
	if len(whole.Picks) > 0 {
		share = 0.6
	}
	if picks, b, found := w.toppedFirst(v, m, share); found {
		topped.Picks, topped.Said = picks, fmt.Sprintf("top off at %s, then to %.0f°: %s", v.Height(*picks[0].CutM), b.Deg, b.Reason)
	}
	pieced := TreeWay{How: ByPieces, Title: "In pieces", Said: "Nothing can be proposed."}
	proposal := Order(w.down, ByUp, "", w.options)
	for i := range proposal.Picks {
		if p := proposal.Picks[i].Pick; w.document.TreeIndex(p.Tree) == w.document.TreeIndex(v.TreeID()) {
			pieced.Picks = append(pieced.Picks, p)
			pieced.Said = "limbs from the bottom up, then the stem from its top"
		}
	}
	list = append(list, w.judged(whole), w.judged(topped), w.judged(pieced))
	for i := range w.Job.Site.Cranes {
		one := TreeWay{How: ByTheCrane, Title: "By " + w.Job.Site.Cranes[i].Name}
		one.Picks, one.Said = w.lifted(v, now, &w.Job.Site.Cranes[i])
		list = append(list, w.judged(one))
	}
	return list
}

// mostLifts bounds the pieces a tree is lifted off in.
const mostLifts = 8

// lifted is a tree lifted off from its top in the fewest even pieces that the crane takes.
func (w *wholes) lifted(v *assess.Survey, now *space.Standing, stands *job.Crane) (picks []job.Pick, said string) {
	foot := v.Stem.Bottom() + stump
	for n := 1; n <= mostLifts && !w.Cancelled(); n++ {
		picks = nil
		left := now.Kept()
		for k := range n {
			cut := math.Round(100*(now.Top-(now.Top-foot)*float64(k+1)/float64(n))) / 100
			pick := job.Pick{Tree: v.TreeID(), What: job.WhatTop, CutM: &cut, Way: job.WayCrane}
			piece := v.Take(&pick, k+1, left.Kept())
			pick.Lift = &job.Lift{Crane: stands.ID, Slings: lifted.Slung(piece)}
			piece.Off(left)
			picks = append(picks, pick)
		}
		// What its slings hold nobody has said before they are chosen: that stands beside it as not known.
		if one := w.judged(TreeWay{Picks: picks}); one.Verdict == policy.Within || one.Verdict == policy.Close || one.Verdict == policy.NotKnown {
			return picks, fmt.Sprintf("in %s from its top, two slings each, which are still to be chosen", map[bool]string{true: "one piece", false: fmt.Sprintf("%d even pieces", n)}[n == 1])
		}
	}
	return picks, fmt.Sprintf("even in %d pieces a limit is passed: look at its place and its chart", mostLifts)
}

// judged works a way out by the board's own sums: its picks after what is down already.
func (w *wholes) judged(one TreeWay) TreeWay {
	if one.Picks == nil {
		one.Picks = []job.Pick{}
	}
	one.Holders, one.Unknown = []string{}, []string{}
	if len(one.Picks) == 0 {
		one.Verdict = policy.NotKnown
		return one
	}
	trial := *w.down
	trial.Picks = append([]job.Pick{}, w.down.Picks...)
	minutes := w.Minutes()
	for i := range one.Picks {
		if one.Picks[i].ID == "" {
			one.Picks[i].ID = w.newID()
		}
		trial.Picks = append(trial.Picks, one.Picks[i])
		one.Minutes += minutes[one.Picks[i].Way]
		if ways.Find(one.Picks[i].Way).Held() != course.HeldByNothing {
			one.OnLine++
		}
	}
	o := w.options
	o.Pick = ""
	a := assess.Assess(&trial, o)
	one.Verdict = policy.Within
	var nearest *assess.Nearest
	for _, f := range a.Picks[len(w.down.Picks):] {
		if f.Verdict.Graver(one.Verdict) {
			one.Verdict = f.Verdict
		}
		if f.MassKg != nil && (one.Heaviest == nil || f.MassKg.High > one.Heaviest.High) {
			kg := *f.MassKg
			one.Heaviest = &kg
		}
		if f.Nearest != nil && (nearest == nil || f.Nearest.UsePct > nearest.UsePct) {
			nearest = f.Nearest
		}
		if f.Verdict == policy.NotKnown {
			one.Unknown = append(one.Unknown, fmt.Sprintf("%s: %s", f.Title, f.Worst))
		}
		for _, fault := range f.Faults {
			one.Unknown = append(one.Unknown, fmt.Sprintf("%s cannot happen: %s", f.Title, fault.Message))
		}
	}
	if nearest != nil {
		one.Nearest = strings.TrimSpace(fmt.Sprintf("%s %s", nearest.Part, nearest.Name)) + fmt.Sprintf(" %.0f %%", nearest.UsePct)
	}
	one.Holders = w.holders(one.Picks)
	return one
}

// holders are what the gear of some picks sits on, by name.
func (w *wholes) holders(picks []job.Pick) []string {
	names := []string{}
	add := func(place *job.Place) {
		name := ""
		switch {
		case place == nil:
			return
		case place.On == job.OnAnchor:
			for i := range w.Job.Site.Anchors {
				if w.Job.Site.Anchors[i].ID == place.Anchor {
					name = w.Job.Site.Anchors[i].Name
				}
			}
		case place.On == job.OnLimb:
			name = "limb " + place.Limb
		default:
			name = "the stem"
		}
		if name != "" && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	for i := range picks {
		p := &picks[i]
		if ways.OnLine(p.Way) {
			for k := range w.Job.Rigs {
				if r := &w.Job.Rigs[k]; r.ID == p.Rig {
					own := job.Place{On: job.OnStem}
					if r.Block.Place != nil {
						own = *r.Block.Place
					}
					add(&own)
				}
			}
		}
		if p.Lift != nil {
			for k := range w.Job.Site.Cranes {
				if w.Job.Site.Cranes[k].ID == p.Lift.Crane && !slices.Contains(names, w.Job.Site.Cranes[k].Name) {
					names = append(names, w.Job.Site.Cranes[k].Name)
				}
			}
		}
		if p.Way == job.WayFelled && p.Fell != nil {
			for k := range p.Fell.Lines {
				l := &p.Fell.Lines[k]
				for t := range l.Redirects {
					add(&l.Redirects[t].Place)
				}
				add(&job.Place{On: job.OnAnchor, Anchor: l.Anchor})
			}
		}
	}
	return names
}
