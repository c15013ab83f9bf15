package propose

import (
	"fmt"
	"math"

	"elkstay/core/assess"
	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/space"
)

// tried is one pick under question: the pick, its rig, and the tree at its moment.
type tried struct {
	*assess.Survey
	pick   job.Pick
	rig    *job.Rig
	number int
	now    space.Standing
}

// trying readies the pick at a place of the order.
func trying(f *assess.Forest, v *assess.Survey, index int) tried {
	t := tried{Survey: v, pick: v.Job.Picks[index], number: index + 1, now: *v.Now(f.Before(index))}
	if rig := v.RigOf(&t.pick); rig != nil {
		one := *rig
		t.rig = &one
	}
	return t
}

// at works the pick out with its cut elsewhere.
func (t *tried) at(cut float64) *assess.Outcome {
	p := t.pick
	p.CutM = &cut
	return t.WorkWith(&p, t.rig, t.number, &t.now)
}

// span is the wood the pick can be cut from: its lowest cut and its far end.
func (t *tried) span() (low, high float64) {
	if i := t.LimbOf(&t.pick); i >= 0 {
		return 0, t.now.Tips[i]
	}
	return t.Stem.Bottom(), t.now.Top
}

// longestStep is the grid on which cuts are tried before the best is closed in
// on, m.
const longestStep = 0.05

// longest returns the cut of the longest piece that nothing forbids, closed in to a
// millimetre, and what stops a longer one. forbids returns what forbids a piece, or "".
func (t *tried) longest(forbids func(*assess.Outcome) string) (cut float64, found bool, stop string, stopped *assess.Outcome) {
	t.Hurried = true
	defer func() { t.Hurried = false }()
	low, high := t.span()
	best := math.NaN()
	var first *assess.Outcome
	firstStop := ""
	steps := int(math.Floor((high-low)/longestStep + 1e-9))
	for k := 1; k <= steps; k++ {
		at := high - float64(k)*longestStep
		o := t.at(at)
		why := forbids(o)
		if why == "" {
			best, stop, stopped = at, "", nil
			continue
		}
		if first == nil && why != course.StopsTie {
			first, firstStop = o, why
		}
		if stop == "" && !math.IsNaN(best) {
			stop, stopped = why, o
		}
	}
	if math.IsNaN(best) {
		if first == nil {
			return 0, false, course.StopsTie, nil
		}
		return 0, false, firstStop, first
	}
	least, most := max(math.Floor((best-longestStep)*1000), math.Ceil(low*1000)), math.Ceil(best*1000)
	for most-least > 1 {
		middle := math.Floor((least + most) / 2)
		o := t.at(middle / 1000)
		if why := forbids(o); why == "" {
			most = middle
		} else {
			least, stop, stopped = middle, why, o
		}
	}
	if forbids(t.at(most/1000)) == "" {
		best = most / 1000
	}
	if stop == "" {
		stop = course.StopsWood
	}
	return best, true, stop, stopped
}

func (t *tried) longestWords(cut float64, stop string, stopped *assess.Outcome) string {
	o := t.at(cut)
	words := "nothing but the end of the wood"
	if stopped != nil {
		words = t.StopWords(stop, stopped)
	}
	return fmt.Sprintf("Longest piece: %s. A longer one is stopped by %s.", t.Height(o.Length()), words)
}
