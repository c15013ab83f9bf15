package propose

import (
	"cmp"
	"fmt"
	"math"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"elkstay/core/assess"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
)

// roseStep is how far apart the bearings of a rose are, degrees.
const roseStep = 5

// anyNumber is a pick's place in the order where nothing that is said of it tells that.
const anyNumber = 1

// A Rose is how the fall of a tree comes out along every bearing.
type Rose struct {
	Pick     string           `json:"pick" doc:"Id of the pick it is of"`
	Bearings []assess.Bearing `json:"bearings" nullable:"false" doc:"Every 5° from north; none when it cannot be worked out"`
	Windows  []Window         `json:"windows" nullable:"false" doc:"Runs of bearings that are open, the widest first"`
	Said     string           `json:"said"`
	Cautions []string         `json:"cautions" nullable:"false"`
}

// A Window is a run of open bearings. Past north its end is beyond 360.
type Window struct {
	FromDeg float64 `json:"from_deg"`
	ToDeg   float64 `json:"to_deg"`
	BestDeg float64 `json:"best_deg" doc:"Of its bearings the one that is used least"`
	Said    string  `json:"said"`
}

// roseCaution stands beside every rose.
const roseCaution = "The rose asks of every bearing what the survey, the site and what pulls here are known to be. What it calls open is still to be walked and looked at."

// Fall asks along which bearings a pick can be felled, with its own lines as they are set, by its
// own weight or wedges, or pulled from any anchor of the site with what pulls it now. The error
// is intake.Faults.
func Fall(document *job.Job, pick string, options assess.Options) (Rose, error) {
	rose := Rose{Pick: pick, Bearings: []assess.Bearing{}, Windows: []Window{}, Cautions: []string{}}
	f, a := assess.Prepare(document, &options)
	if f == nil {
		rose.Said = assess.StateWithout(&a)
		return rose, nil
	}
	index := slices.IndexFunc(f.Job.Picks, func(p job.Pick) bool { return p.ID == pick })
	if index < 0 {
		var faults intake.Faults
		faults.Add("query.pick", pick, "the id of a pick", "there is no pick %q", pick)
		return rose, faults
	}
	p := &f.Job.Picks[index]
	v := f.Of(p)
	switch {
	case v == nil:
		rose.Said = "The tree of this pick is not measured yet."
		return rose, nil
	case p.What == job.WhatLimb:
		rose.Said = "A limb is not felled over a hinge on the stem."
		return rose, nil
	}
	f.Learn(&a)
	now := v.Now(f.Before(index))
	rose.turn(f, v, p, now)
	return rose, nil
}

// turn asks of every bearing in turn.
func (r *Rose) turn(f *assess.Forest, v *assess.Survey, p *job.Pick, now *space.Standing) {
	asks := roseOf(v, p, now)
	all := asks.all(roseStep)
	if f.Cancelled() {
		return
	}
	r.Bearings = all
	r.Cautions = append(r.Cautions, roseCaution)
	r.windows()
	r.Said = r.words()
}

// bearingSearch is what is the same along every bearing.
type bearingSearch struct {
	*assess.Survey
	pick  job.Pick
	now   *space.Standing
	bare  job.Fell       // without its lines
	sets  []job.FellLine // as they are
	pulls []job.FellLine // from every anchor, with what pulls now
}

func roseOf(v *assess.Survey, p *job.Pick, now *space.Standing) bearingSearch {
	r := bearingSearch{Survey: v, pick: *p, now: now}
	r.pick.Way = job.WayFelled
	if p.Fell != nil {
		r.bare = *p.Fell
		r.sets = p.Fell.Lines
	}
	r.bare.Lines, r.bare.Wedged = nil, true
	r.pulls = v.FellPulls(p, now)
	return r
}

// along is the best that can be done along a bearing.
func (r *bearingSearch) along(deg float64) assess.Bearing {
	p := r.pick
	p.FallTowardsDeg = &deg
	work := func(lines []job.FellLine, before *assess.Outcome) *assess.Outcome {
		fell := r.bare
		fell.Lines = lines
		p.Fell = &fell
		return r.FellTo(&p, anyNumber, r.now, before)
	}
	alone := work(nil, nil)
	lies, ok := alone.Lies()
	if !ok {
		return lies
	}
	best := r.Pulled(alone, lies)
	best.Reason = cmp.Or(best.Reason, "by its own weight and wedges")
	try := func(lines []job.FellLine, said string, asSet bool) {
		if best.Verdict == policy.Within {
			return
		}
		b := r.Pulled(work(lines, alone), lies)
		b.AsSet = asSet
		if !asSet {
			b.Anchor, b.Lines = lines[0].Anchor, lines
		}
		better := best.Verdict.Graver(b.Verdict)
		if b.Verdict == best.Verdict {
			// Of two that do not do, the one that says most: a figure before a contradiction, the lesser use before the greater.
			better = best.PullKn == nil && b.PullKn != nil || b.PullKn != nil && best.PullKn != nil && *b.PullKn < *best.PullKn && !best.AsSet
		}
		if !better {
			return
		}
		switch {
		case b.Kind == assess.FellOpen:
			b.Reason = said
		case b.Kind != assess.FellCannot && b.Kind != assess.FellHangs:
			b.Reason = fmt.Sprintf("%s: %s", said, b.Reason)
		}
		best = b
	}
	if len(r.sets) > 0 {
		try(r.sets, "by its lines as set", true)
	}
	for i := range r.pulls {
		try(r.pulls[i:i+1], "pulled to "+r.Job.Site.Anchors[i].Name, false)
	}
	return best
}

// all asks of bearings so many degrees apart, from north: one after another where there is one
// processor, side by side where there are more.
func (r *bearingSearch) all(step int) []assess.Bearing {
	list := make([]assess.Bearing, 360/step)
	var next atomic.Int64
	var workers sync.WaitGroup
	for range runtime.GOMAXPROCS(0) {
		workers.Go(func() {
			own := *r
			for i := int(next.Add(1)) - 1; i < len(list) && !r.Cancelled(); i = int(next.Add(1)) - 1 {
				list[i] = own.along(float64(i * step))
			}
		})
	}
	workers.Wait()
	return list
}

// best is the open bearing that takes least, of those so many degrees apart; none: there is none.
func (r *bearingSearch) best(step int) (best assess.Bearing, found bool) {
	cost := math.Inf(1)
	for _, b := range r.all(step) {
		if !open(&b) || r.Cancelled() {
			continue
		}
		if at := burden(&b) + pulled(&b); at < cost {
			cost, best, found = at, b, true
		}
	}
	return best, found
}

// burden is what a bearing has against it: what is close, and how much of the hinge is used sideways.
func burden(b *assess.Bearing) (sum float64) {
	if b.Verdict != policy.Within {
		sum = 10
	}
	if b.SideUsePct != nil {
		sum += *b.SideUsePct / 20
	}
	return sum
}

// pulled is the share that is pulled of what can be.
func pulled(b *assess.Bearing) float64 {
	if b.PullKn == nil || b.GivesKn == nil {
		return 0
	}
	return *b.PullKn / *b.GivesKn
}

// felled is the pick along a bearing, with the lines that bring it there.
func (r *bearingSearch) felled(b *assess.Bearing) job.Pick {
	p, fell, deg := r.pick, r.bare, b.Deg
	switch {
	case b.AsSet:
		fell.Lines = r.sets
	case len(b.Lines) > 0:
		one := b.Lines[0]
		one.ID = "l1"
		fell.Lines = []job.FellLine{one}
	}
	p.Way, p.FallTowardsDeg, p.Fell, p.Done = job.WayFelled, &deg, &fell, false
	return p
}

func open(b *assess.Bearing) bool {
	return b.Verdict == policy.Within || b.Verdict == policy.Close
}

// windows gathers the runs of open bearings.
func (r *Rose) windows() {
	n := len(r.Bearings)
	begin := 0
	for begin < n && open(&r.Bearings[begin]) {
		begin++
	}
	if begin == n {
		r.Windows = append(r.Windows, r.window(0, n-1))
		return
	}
	// From a closed bearing round to it again, so that no run is cut at north.
	for i := begin; i < begin+n; i++ {
		if !open(&r.Bearings[i%n]) {
			continue
		}
		from := i
		for open(&r.Bearings[(i+1)%n]) {
			i++
		}
		r.Windows = append(r.Windows, r.window(from, i))
	}
	slices.SortStableFunc(r.Windows, func(a, b Window) int { return cmp.Compare(b.ToDeg-b.FromDeg, a.ToDeg-a.FromDeg) })
}

// window is the run of bearings from one to another, both open.
func (r *Rose) window(from, to int) Window {
	n := len(r.Bearings)
	w := Window{FromDeg: float64(from%n) * roseStep}
	w.ToDeg = w.FromDeg + float64(to-from)*roseStep
	best, middle := from, float64(from+to)/2
	// The least used side of the hinge, and of those the middle of the window.
	cost := func(i int) float64 {
		return math.Abs(float64(i)-middle)/float64(to-from+1) + burden(&r.Bearings[i%n])
	}
	for i := from; i <= to; i++ {
		if cost(i) < cost(best) {
			best = i
		}
	}
	b := &r.Bearings[best%n]
	w.BestDeg = b.Deg
	w.Said = fmt.Sprintf("from %.0f° to %.0f°, best at %.0f°: %s", w.FromDeg, math.Mod(w.ToDeg, 360), b.Deg, b.Reason)
	if to-from+1 == n {
		w.Said = fmt.Sprintf("all round, best at %.0f°: %s", b.Deg, b.Reason)
	}
	return w
}

// words says where it can go, or what stands in its way.
func (r *Rose) words() string {
	if len(r.Windows) > 0 {
		said := make([]string, 0, 3)
		for _, w := range r.Windows[:min(3, len(r.Windows))] {
			said = append(said, w.Said)
		}
		return "It can go " + strings.Join(said, "; ") + "."
	}
	count := map[string]int{}
	for i := range r.Bearings {
		count[r.Bearings[i].Kind]++
	}
	words := map[string]string{
		assess.FellSector: "lead into a no-go sector", assess.FellStrikes: "strike something", assess.FellHangs: "hang up", assess.FellNoRoom: "find no drop zone",
		assess.FellPull: "are beyond what pulls", assess.FellHinge: "are beyond the hinge", assess.FellGear: "are beyond the gear or the stem", assess.FellUnknown: "are not known", assess.FellCannot: "cannot be",
	}
	parts := []string{}
	for _, kind := range assess.FellKinds() {
		if n := count[kind]; n > 0 && words[kind] != "" {
			parts = append(parts, fmt.Sprintf("%d %s", n, words[kind]))
		}
	}
	return fmt.Sprintf("No bearing is open: of %d, %s.", len(r.Bearings), strings.Join(parts, ", "))
}
