package propose

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"elkstay/core/assess"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/space"
)

// The ways of taking a whole tree.
const (
	ByFelling  = "felled"
	ByTopping  = "topped" // its top first, then felled
	ByPieces   = "pieced"
	ByTheCrane = "crane"
)

// Coarser than a rose: where many are asked, degrees.
const coarse = 10

// Heights at which a top is tried off, m, and what is left to fell at the least, of what stands.
const (
	topStep  = 1.0
	topLeast = 0.35
)

// Whole is how the trees of a job can be taken whole: which first, and for one of them its ways
// side by side.
type Whole struct {
	Order    []TreeStep `json:"order" nullable:"false" doc:"Trees that still stand, first to last"`
	Said     string     `json:"said"`
	Tree     string     `json:"tree" doc:"Id of the tree whose ways are compared"`
	Ways     []TreeWay  `json:"ways" nullable:"false" doc:"Its ways, side by side"`
	Cautions []string   `json:"cautions" nullable:"false"`
}

// A TreeStep is one tree of an order.
type TreeStep struct {
	Tree   string     `json:"tree" doc:"Id of the tree"`
	Title  string     `json:"title"`
	How    string     `json:"how" enum:"felled,topped,pieced" doc:"Felled whole; topped first, then felled; or not to be felled as it stands"`
	Reason string     `json:"reason"`
	Picks  []job.Pick `json:"picks" nullable:"false"`
}

// Trees asks which tree goes first and how a tree can be taken: the order of the job is left out but
// for what is down already. tree is the id of the one compared; empty: the first. The error is
// intake.Faults.
func Trees(document *job.Job, tree string, o assess.Options) (Whole, error) {
	whole := Whole{Order: []TreeStep{}, Ways: []TreeWay{}, Cautions: []string{}, Tree: tree}
	index := document.TreeIndex(tree)
	if index < 0 {
		var faults intake.Faults
		faults.Add("query.tree", tree, "the id of a tree", "there is no tree %q", tree)
		return whole, faults
	}
	whole.Tree = document.Trees[index].ID
	down := *document
	down.Picks = []job.Pick{}
	for i := range document.Picks {
		if document.Picks[i].Done {
			down.Picks = append(down.Picks, document.Picks[i])
		}
	}
	// Crowns tied together are looked at as if cut free, and every step says which must be.
	down.Trees = slices.Clone(document.Trees)
	free := map[string]bool{}
	for i := range down.Trees {
		down.Trees[i].Tied = slices.Clone(down.Trees[i].Tied)
		for k := range down.Trees[i].Tied {
			t := &down.Trees[i].Tied[k]
			free[down.Trees[i].ID+"/"+t.ID], t.Free = t.Free, true
		}
	}
	f, a := assess.Prepare(&down, &o)
	if f == nil {
		whole.Said = assess.StateWithout(&a)
		return whole, nil
	}
	f.Learn(&a)
	w := &wholes{Forest: f, document: document, down: &down, options: o, taken: map[string]bool{}, free: free}
	for i := range document.Picks {
		w.taken[document.Picks[i].ID] = true
	}
	start := f.Before(len(f.Job.Picks))
	whole.Order = w.order(start.Apart())
	whole.Said = ordered(whole.Order)
	if v := f.Surveys[index]; v != nil {
		whole.Ways = w.ways(v, start.Apart())
	}
	whole.Cautions = append(whole.Cautions, roseCaution, "The minutes are round figures for each way down: setting up, clearing away and weather are not in them.")
	return whole, nil
}

// wholes looks for ways of taking whole trees.
type wholes struct {
	*assess.Forest
	document *job.Job // as it is
	down     *job.Job // with what is down already
	options  assess.Options
	taken    map[string]bool // ids
	free     map[string]bool // crowns that the crew says are cut free, by their ties
}

func (w *wholes) newID() string {
	for n := 1; ; n++ {
		if id := fmt.Sprintf("p%d", n); !w.taken[id] {
			w.taken[id] = true
			return id
		}
	}
}

// base is how a tree would be felled when nobody decides otherwise: as its own open felling says,
// else low, by wedges, with what pulls elsewhere on the job.
func (w *wholes) base(v *assess.Survey) job.Pick {
	p := job.Pick{What: job.WhatTop, Way: job.WayFelled, Tree: v.TreeID()}
	var pulls *job.FellLine
	for i := range w.document.Picks {
		one := &w.document.Picks[i]
		if one.Way != job.WayFelled || one.Fell == nil {
			continue
		}
		for k := range one.Fell.Lines {
			if l := &one.Fell.Lines[k]; pulls == nil && !l.Holds {
				pulls = l
			}
		}
		if !one.Done && w.document.TreeIndex(one.Tree) == w.document.TreeIndex(v.TreeID()) && one.What == job.WhatTop {
			return *one
		}
	}
	cut := math.Round(100*(v.Stem.Bottom()+stump)) / 100
	p.CutM = &cut
	p.Fell = &job.Fell{Wedged: true}
	if pulls != nil {
		// What pulls there pulls here; where it is tied is worked out.
		line := *pulls
		line.Redirects, line.AnchorM = nil, nil
		line.AtM = math.Round(10*(cut+(v.Stem.Top()-cut)*2/3)) / 10
		p.Fell.Lines = []job.FellLine{line}
	}
	return p
}

// stands tells whether enough of a tree stands to be felled.
func (w *wholes) stands(v *assess.Survey, now *space.Standing) bool {
	return v != nil && now.Top > v.Stem.Bottom()+2*stump
}

// felledWhole is a tree felled as it stands, where a bearing is open.
func (w *wholes) felledWhole(v *assess.Survey, now *space.Standing) (p job.Pick, b assess.Bearing, found bool) {
	base := w.base(v)
	r := roseOf(v, &base, now)
	if b, found = r.best(coarse); found {
		p = r.felled(&b)
	}
	return p, b, found
}

// toppedFirst is a tree that goes once its top is off: the least of a top that opens a bearing, and
// how that top comes down. Tops are tried from a share of what stands.
func (w *wholes) toppedFirst(v *assess.Survey, m space.Stand, share float64) (picks []job.Pick, b assess.Bearing, found bool) {
	whole := v.Now(m)
	base := w.base(v)
	for _, at := range topsFrom(v.Stem.Bottom(), whole.Top, share) {
		if w.Cancelled() {
			break
		}
		top, ok := w.top(v, at, whole)
		if !ok {
			continue
		}
		left := m.Apart()
		now := v.Now(left)
		v.WorkWith(&top, v.RigOf(&top), 1, now).Off(now)
		shorter := base
		if base.Fell != nil {
			fell := *base.Fell
			fell.Lines = slices.Clone(fell.Lines)
			for i := range fell.Lines {
				fell.Lines[i].AtM = tiedUnder(fell.Lines[i].AtM, at)
			}
			shorter.Fell = &fell
		}
		r := roseOf(v, &shorter, now)
		if b, found = r.best(coarse); found {
			return []job.Pick{top, r.felled(&b)}, b, true
		}
	}
	return nil, b, false
}

// topsFrom are the heights at which a top is tried, the least of a top first: from a share of what stands down to the
// least that is left.
func topsFrom(bottom, top, share float64) (list []float64) {
	for at := math.Floor(top*share) - topStep; at >= bottom+topLeast*(top-bottom); at -= topStep {
		list = append(list, at)
	}
	return list
}

// tiedUnder is where a line is tied that the top is taken off above: half a metre under the cut at most, to a tenth.
func tiedUnder(tied, cut float64) float64 { return math.Round(10*min(tied, cut-0.5)) / 10 }

// top is a tree's top from a height, free or on a rig, whichever nothing forbids.
func (w *wholes) top(v *assess.Survey, at float64, now *space.Standing) (job.Pick, bool) {
	p := job.Pick{What: job.WhatTop, CutM: &at, Tree: v.TreeID(), Way: job.WayFree}
	for deg := 0.0; deg < 360; deg += 3 * coarse {
		one, towards := p, deg
		one.FallTowardsDeg = &towards
		if v.Stops(v.WorkWith(&one, nil, 1, now)) == "" {
			return one, true
		}
	}
	for i := range w.Job.Rigs {
		one := p
		one.Way, one.Rig = job.WayPastBlock, w.Job.Rigs[i].ID
		if w.Job.Rigs[i].Rope != nil && v.Stops(v.WorkWith(&one, &w.Job.Rigs[i], 1, now)) == "" {
			return one, true
		}
	}
	return p, false
}

// order takes one tree after another: of those that have an open bearing the one that is pulled with
// least; where none has, the one whose top must come off least; where that helps none either, what
// is left is pieced.
func (w *wholes) order(m space.Stand) []TreeStep {
	steps := []TreeStep{}
	type candidate struct {
		v    *assess.Survey
		pick job.Pick
		b    assess.Bearing
	}
	// What is open stays open: a tree that falls only takes something out of the way.
	opened := map[*assess.Survey]*candidate{}
	for !w.Cancelled() {
		var best *candidate
		standing := []*assess.Survey{}
		for _, v := range w.Surveys {
			if v == nil || !w.stands(v, v.Now(m)) {
				continue
			}
			standing = append(standing, v)
			if opened[v] == nil {
				if p, b, found := w.felledWhole(v, v.Now(m)); found {
					opened[v] = &candidate{v, p, b}
				}
			}
			if one := opened[v]; one != nil && (best == nil || best.b.Verdict.Graver(one.b.Verdict) || best.b.Verdict == one.b.Verdict && less(&one.b, &best.b)) {
				best = one
			}
		}
		if len(standing) == 0 {
			break
		}
		if best != nil {
			steps = append(steps, w.step(best.v, ByFelling, fmt.Sprintf("Whole, to %.0f°: %s.", best.b.Deg, best.b.Reason), m, best.pick))
			continue
		}
		topped := false
		for _, v := range standing {
			if picks, b, found := w.toppedFirst(v, m, 1); found {
				steps = append(steps, w.step(v, ByTopping, fmt.Sprintf("No bearing is open while it is whole. With its top off at %s it goes to %.0f°: %s.", v.Height(*picks[0].CutM), b.Deg, b.Reason), m, picks...))
				topped = true
				break
			}
		}
		if topped {
			continue
		}
		for _, v := range standing {
			steps = append(steps, TreeStep{Tree: w.document.Trees[w.document.TreeIndex(v.TreeID())].ID, Title: w.title(v), How: ByPieces, Picks: []job.Pick{},
				Reason: "No bearing is open, and none opens with its top off: piece it, or bring a machine."})
		}
		break
	}
	return steps
}

// less tells whether a bearing takes less of the hinge and of what pulls than another.
func less(a, b *assess.Bearing) bool {
	use := func(one *assess.Bearing) float64 { return max(job.Or(one.SideUsePct, 0)/100, pulled(one)) }
	return use(a) < use(b)
}

func (w *wholes) title(v *assess.Survey) string {
	return w.document.Trees[w.document.TreeIndex(v.TreeID())].Title()
}

// step takes a tree off and says how.
func (w *wholes) step(v *assess.Survey, how, reason string, m space.Stand, picks ...job.Pick) TreeStep {
	now := v.Now(m)
	one := TreeStep{Tree: w.document.Trees[w.document.TreeIndex(v.TreeID())].ID, Title: w.title(v), How: how, Reason: reason + w.freed(v, now), Picks: []job.Pick{}}
	for i := range picks {
		p := picks[i]
		if p.ID == "" || slices.ContainsFunc(one.Picks, func(had job.Pick) bool { return had.ID == p.ID }) {
			p.ID = w.newID()
		}
		o := v.WorkWith(&p, v.RigOf(&p), 1, now)
		o.Off(now)
		one.Picks = append(one.Picks, p)
	}
	return one
}

// freed says what a tree must be cut free of before it goes: what nobody has said is free already.
func (w *wholes) freed(v *assess.Survey, now *space.Standing) string {
	said := []string{}
	for _, t := range v.TiedTo(0, now) {
		if !w.free[t.Tie] {
			said = append(said, fmt.Sprintf("%s at %s", t.Other, v.Height(t.AtM)))
		}
	}
	if len(said) == 0 {
		return ""
	}
	return " First cut its crown free of " + strings.Join(said, " and ") + "."
}

func ordered(steps []TreeStep) string {
	if len(steps) == 0 {
		return "Nothing is left standing."
	}
	names := make([]string, len(steps))
	for i := range steps {
		names[i] = steps[i].Title
		if steps[i].How == ByTopping {
			names[i] += " (its top first)"
		}
		if steps[i].How == ByPieces {
			names[i] += " (in pieces)"
		}
	}
	return strings.ToUpper(names[0][:1]) + names[0][1:] + strings.Join(append([]string{""}, names[1:]...), ", then ") + "."
}
