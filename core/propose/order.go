package propose

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"elkstay/core/assess"
	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways"
)

// The orders in which limbs can be proposed.
const (
	ByUp    = "up"    // from the bottom up
	BySides = "sides" // one side after another, each from the bottom up
	ByFells = "fells" // whole trees felled where a bearing is open, the rest in pieces
)

// A Proposal is a way to take down what still stands, after the picks there are.
type Proposal struct {
	Picks  []Proposed `json:"picks" nullable:"false" doc:"To be added at the end of the order, first to last"`
	State  string     `json:"state" doc:"In a sentence"`
	Open   int        `json:"open" doc:"How many of them still break a limit"`
	Ending string     `json:"ending" doc:"What is left standing"`
}

// A Proposed pick, and why it is proposed so.
type Proposed struct {
	Pick    job.Pick       `json:"pick"`
	Title   string         `json:"title"`
	MassKg  string         `json:"mass" doc:"In the units asked"`
	Reason  string         `json:"reason"`
	Verdict policy.Verdict `json:"verdict" enum:"within,close,over,not known,not held"`
	Take    bool           `json:"take" doc:"To be taken unless somebody says otherwise: nothing stands against it, and no hand throws it"`
}

// take tells whether a proposal is to be taken unless somebody says otherwise.
func (p *Proposed) take() bool {
	return p.Pick.Way != job.WayThrown && p.Verdict != policy.Over && p.Verdict != policy.NotHeld
}

// mostParts bounds the parts a limb is proposed in.
const mostParts = 8

// proposer proposes picks on the tree as it stands.
type proposer struct {
	*assess.Survey
	limbRig *job.Rig // nil: nothing can be held
	stemRig *job.Rig
	now     *space.Standing
	number  int
	out     Proposal
	taken   map[string]bool // ids
}

// Order proposes the whole dismantle of what the order leaves standing: the limbs from
// the bottom up or by side, whole where they keep every limit, else in as few parts as
// do; then the stem from the top in the fewest sections. What can go free, goes free.
// rig is the id of the rig to hold with; empty: the first that has a rope.
func Order(document *job.Job, by, rig string, o assess.Options) Proposal {
	out := Proposal{Picks: []Proposed{}}
	if by == ByFells {
		return fells(document, rig, o)
	}
	forest, a := assess.Prepare(document, &o)
	if forest == nil {
		out.State = assess.StateWithout(&a)
		return out
	}
	taken := map[string]bool{}
	for i := range forest.Job.Picks {
		taken[forest.Job.Picks[i].ID] = true
	}
	moment := forest.Before(len(forest.Job.Picks))
	forest.Learn(&a)
	forest.AimsAt = forest.Limits.FillPct / 100
	number := len(forest.Job.Picks) + 1
	for _, v := range forest.Surveys {
		if v == nil {
			continue
		}
		f := &proposer{Survey: v, now: v.Now(moment), number: number, taken: taken}
		f.chooseRigs(rig)
		for _, i := range f.limbOrder(by) {
			f.limb(i)
		}
		f.sections()
		if f.out.Ending == "" && len(f.out.Picks) > 0 {
			f.out.Ending = fmt.Sprintf("A stump of %s is left.", f.Height(f.now.Top))
		}
		number = f.number
		out.Picks = append(out.Picks, f.out.Picks...)
		out.Ending = strings.TrimSpace(out.Ending + " " + f.out.Ending)
	}
	out.finish()
	return out
}

// chooseRigs takes the rig asked for; else, for limbs, the first with a rope whose block
// stays where it is, and for the stem the first whose block moves with the cuts.
func (f *proposer) chooseRigs(asked string) {
	for i := range f.Job.Rigs {
		r := &f.Job.Rigs[i]
		if r.Rope == nil || asked != "" && r.ID != asked {
			continue
		}
		if f.limbRig == nil || f.limbRig.Block.Place == nil && r.Block.Place != nil {
			f.limbRig = r
		}
		if f.stemRig == nil || f.stemRig.Block.Place != nil && r.Block.Place == nil {
			f.stemRig = r
		}
	}
}

// limbOrder lists the limbs of the stem that still stand.
func (f *proposer) limbOrder(by string) []int {
	var order []int
	for i := range f.Limbs {
		if f.Limbs[i].Parent < 0 && f.now.Tips[i] > 0 {
			order = append(order, i)
		}
	}
	side := func(i int) int {
		if by != BySides {
			return 0
		}
		return int(math.Mod(f.Limbs[i].AzimuthDeg+45, 360) / 90)
	}
	slices.SortStableFunc(order, func(a, b int) int {
		if s, t := side(a), side(b); s != t {
			return s - t
		}
		return cmp.Compare(f.Limbs[a].AtM, f.Limbs[b].AtM)
	})
	return f.hazardsFirst(order)
}

// hazardsFirst puts limbs that nobody should work beneath at the beginning, hung branches before dead
// wood and the highest of them first, where they can come off whole past what stands.
func (f *proposer) hazardsFirst(order []int) []int {
	first, rest := []int{}, []int{}
	for _, i := range order {
		if _, why := f.hazard(i); why != "" {
			if _, _, stop := f.best(&f.Limbs[i], 0); stop == "" {
				first = append(first, i)
				continue
			}
		}
		rest = append(rest, i)
	}
	slices.SortStableFunc(first, func(a, b int) int {
		rankA, _ := f.hazard(a)
		rankB, _ := f.hazard(b)
		if rankA != rankB {
			return rankA - rankB
		}
		return int(math.Copysign(1, f.Limbs[b].AtM-f.Limbs[a].AtM))
	})
	return append(first, rest...)
}

// hazard is why nobody should work beneath a limb or what grows on it, the worst first; empty:
// nothing is known to be.
func (f *proposer) hazard(i int) (rank int, why string) {
	tree := &f.Job.Trees[f.Job.TreeIndex(f.TreeID())]
	for d := range tree.Defects {
		one := &tree.Defects[d]
		on := slices.IndexFunc(f.Limbs, func(g space.Limb) bool { return one.Limb != "" && g.ID == one.Limb })
		if on < 0 || on != i && f.Limbs[on].Parent != i || f.now.Tips[on] <= one.AtM {
			continue
		}
		switch {
		case one.Kind == job.DefectHung:
			return 1, "A branch hangs in it: first, before anyone works beneath."
		case one.Kind == job.DefectDead && why == "":
			rank, why = 2, "Dead wood: first, before anyone works beneath."
		}
	}
	return rank, why
}

// newID is an id no pick has.
func (f *proposer) newID() string {
	for n := f.number; ; n++ {
		if id := fmt.Sprintf("p%d", n); !f.taken[id] {
			f.taken[id] = true
			return id
		}
	}
}

// ways are the ways down tried for a limb, the easiest first. One that stands steep can
// be tipped another way than it grows.
func (f *proposer) ways(limb *space.Limb) []job.Pick {
	list := []job.Pick{{Way: job.WayThrown}, {Way: job.WayFree}}
	if f.limbRig == nil {
		return list
	}
	id := f.limbRig.ID
	list = append(list, job.Pick{Way: job.WayFromAbove, Rig: id}, job.Pick{Way: job.WayPastBlock, Rig: id})
	if limb.AngleDeg < steep && len(f.Job.Site.Zones) > 0 {
		aside := f.FallTowards(&job.Pick{What: job.WhatStem})
		list = append(list, job.Pick{Way: job.WayPastBlock, Rig: id, FallTowardsDeg: &aside})
	}
	if f.stemRig != f.limbRig {
		list = append(list, job.Pick{Way: job.WayPastBlock, Rig: f.stemRig.ID})
	}
	return list
}

// steep is the angle from upright up to which a limb can be tipped aside.
const steep = 40

// rigNamed is the rig of a proposed pick.
func (f *proposer) rigNamed(p *job.Pick) *job.Rig {
	if f.stemRig != nil && p.Rig == f.stemRig.ID {
		return f.stemRig
	}
	return f.limbRig
}

// best tries the ways down of a limb's part and returns the first that nothing forbids;
// else the one that says most of why not.
func (f *proposer) best(limb *space.Limb, cut float64) (best *assess.Outcome, chosen job.Pick, stop string) {
	for _, p := range f.ways(limb) {
		p.What, p.Limb, p.CutM = job.WhatLimb, limb.ID, &cut
		one := p
		o := f.WorkWith(&one, f.rigNamed(&p), f.number, f.now)
		why := f.Stops(o)
		if why == "" {
			return o, p, ""
		}
		if best == nil || best.Rig == nil && o.Rig != nil || best.Stopped() && !o.Stopped() {
			best, chosen, stop = o, p, why
		}
	}
	return best, chosen, stop
}

// add proposes a pick and takes it off the tree.
func (f *proposer) add(o *assess.Outcome, p job.Pick, why string) {
	cut := math.Round(1000*o.FromM) / 1000
	p.CutM = &cut
	p.ID, p.Tree = f.newID(), f.TreeID()
	if p.What == job.WhatLimb && cut == 0 {
		p.CutM = nil
	}
	judged := f.Verdict(o)
	kg := o.Weight.Kg
	f.out.Picks = append(f.out.Picks, Proposed{Pick: p, Title: f.Title(o), MassKg: units.Print(units.Mass, f.System, kg.Likely), Reason: why, Verdict: judged})
	o.Off(f.now)
	f.number++
}

// limb proposes one limb, whole or in parts from its tip.
func (f *proposer) limb(i int) {
	g := &f.Limbs[i]
	for part := 1; f.now.Tips[i] > 0 && !f.Cancelled(); part++ {
		o, p, stop := f.best(g, 0)
		if stop == "" {
			why := o.Because(f.Survey)
			if _, hazard := f.hazard(i); hazard != "" {
				why = hazard + " " + why
			}
			if part > 1 {
				why += " The rest of it."
			}
			f.add(o, p, why)
			return
		}
		whole := f.StopWords(stop, o)
		if stop == course.StopsClear || stop == course.StopsRoom {
			if o, p, found := f.onTwoLines(g); found {
				f.add(o, p, fmt.Sprintf("Held at both ends: on one line it is stopped by %s.", whole))
				return
			}
		}
		cut, found := f.tipPart(i)
		if !found || part >= mostParts {
			if o, p, lifted := f.byCrane(g); lifted {
				f.add(o, p, fmt.Sprintf("By crane: on a line it is stopped by %s. Choose its slings.", whole))
				return
			}
			f.add(o, p, fmt.Sprintf("Nothing keeps every limit: it is stopped by %s. Decide this one yourself.", whole))
			return
		}
		o, p, _ = f.best(g, cut)
		f.add(o, p, fmt.Sprintf("%s All of it is stopped by %s.", o.Because(f.Survey), whole))
	}
}

// Parts of a limb are tried at so many places; nothing shorter than shortestPart is
// proposed or left, m.
const (
	partPlaces   = 24
	shortestPart = 0.8
)

// tipPart finds the longest outer part of a limb that keeps every limit.
func (f *proposer) tipPart(i int) (cut float64, found bool) {
	tip := f.now.Tips[i]
	f.Hurried = true
	defer func() { f.Hurried = false }()
	for k := 1; k < partPlaces && !f.Cancelled(); k++ {
		at := math.Round(10*tip*float64(k)/partPlaces) / 10
		if at < shortestPart || tip-at < shortestPart {
			continue
		}
		if _, _, stop := f.best(&f.Limbs[i], at); stop == "" {
			return at, true
		}
	}
	return 0, false
}

// finish says what the proposal comes to.
func (p *Proposal) finish() {
	n := len(p.Picks)
	if n == 0 && p.Ending == "" {
		p.State = "Nothing is left to take."
		return
	}
	p.Open = 0
	online, lifted, felled, unknown := 0, 0, 0, 0
	for i := range p.Picks {
		p.Picks[i].Take = p.Picks[i].take()
		way := p.Picks[i].Pick.Way
		switch held := ways.Find(way).Held(); {
		case held == course.HeldByLine:
			online++
		case held == course.HeldByCrane:
			lifted++
		case way == job.WayFelled:
			felled++
		}
		switch p.Picks[i].Verdict {
		case policy.NotKnown:
			unknown++
		case policy.Over:
			p.Open++
		}
	}
	p.State = fmt.Sprintf("%s: %d without a rope, %d on the line", assess.CountPicks(n), n-online-lifted-felled, online)
	if lifted > 0 {
		p.State += fmt.Sprintf(", %d by crane", lifted)
	}
	if felled > 0 {
		p.State += fmt.Sprintf(", %d felled", felled)
	}
	p.State += "."
	if unknown > 0 {
		p.State += fmt.Sprintf(" Of %d not everything is known yet.", unknown)
	}
	if p.Open > 0 {
		p.State += fmt.Sprintf(" %d still over a limit.", p.Open)
	}
}
