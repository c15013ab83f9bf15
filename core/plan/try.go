package plan

import (
	"fmt"
	"math"
)

// What besides a part of the ladder can stop a piece.
const (
	stopsRoom  = "room"
	stopsClear = "clearance"
	stopsRun   = "run"
	stopsHold  = "hold"
	stopsLand  = "landing"
	stopsOrder = "order"
	stopsTie   = "tie beyond the piece"
	stopsWood  = "the wood itself"
)

// stops returns what forbids a piece, or "".
func (v *survey) stops(o *outcome) string {
	if o.stopped() {
		switch o.faults[0].Code {
		case faultTie:
			return stopsTie
		case faultGone:
			return stopsWood
		}
		return stopsOrder
	}
	worst, use := "", 1.0
	for i := range o.loads {
		l := &o.loads[i]
		if l.known && !l.unseen && l.use() > use {
			worst, use = l.part, l.use()
		}
	}
	if worst != "" {
		return worst
	}
	if o.landing != nil {
		if o.landing.Verdict == Over || o.landing.Verdict == NotKnown {
			return stopsLand
		}
		return ""
	}
	if o.kase != nil && !o.catch.Holds {
		return stopsHold
	}
	if low, hangs := o.lowest(); hangs && low-o.floor.hard < v.limits.ClearM {
		return stopsRoom
	}
	if len(o.clears) > 0 && o.clears[0].Verdict == Over {
		return stopsClear
	}
	if limit := v.limits.RunM; limit != nil && o.catch.RunM > *limit {
		return stopsRun
	}
	return ""
}

// stopWords says what stops a piece, with the place of it.
func (v *survey) stopWords(stop string, o *outcome) string {
	switch stop {
	case stopsRoom:
		return "the room above " + o.floor.name
	case stopsClear:
		return "how close it comes to " + o.clears[0].Name
	case stopsRun:
		return "the longest run"
	case stopsHold:
		return "the hold, which does not stop it"
	case stopsTie:
		return "the tie, which must be within the piece"
	case stopsLand:
		return "where it comes down: " + o.landing.Reason
	case stopsOrder:
		return o.faults[0].Message
	case stopsWood:
		return "nothing but the end of the wood"
	case partPiece:
		return "the heaviest piece you take"
	}
	return "the limit of the " + stop
}

// use is the largest share of a known limit, per cent.
func (v *survey) use(o *outcome) float64 {
	most := 0.0
	for i := range o.loads {
		if share, known, _ := v.judge(&o.loads[i]); known {
			most = max(most, share)
		}
	}
	return most
}

// before walks the order up to a pick and returns the tree as it stands there.
func (v *survey) before(index int) standing {
	now := v.whole()
	for i := range index {
		p := &v.job.Picks[i]
		o := &outcome{pick: p}
		v.begin(o, &now)
		v.apply(p, o, &now)
	}
	return now
}

// tried is one pick under question: the pick, its rig, and the tree at its moment.
type tried struct {
	*survey
	pick   Pick
	rig    *Rig
	number int
	now    standing
}

func (v *survey) trying(index int) tried {
	t := tried{survey: v, pick: v.job.Picks[index], number: index + 1, now: v.before(index)}
	if rig := v.rigOf(&t.pick); rig != nil {
		one := *rig
		t.rig = &one
	}
	return t
}

// at works the pick out with its cut elsewhere.
func (t *tried) at(cut float64) *outcome {
	p := t.pick
	p.CutM = &cut
	return t.workWith(&p, t.rig, t.number, &t.now)
}

// span is the wood the pick can be cut from: its lowest cut and its far end.
func (t *tried) span() (low, high float64) {
	if i := t.limbOf(&t.pick); i >= 0 {
		return 0, t.now.tips[i]
	}
	return t.stem.Bottom(), t.now.top
}

// longestStep is the grid on which cuts are tried before the best is closed in
// on, m.
const longestStep = 0.05

// longest returns the cut of the longest piece that nothing forbids, closed in to a
// millimetre, and what stops a longer one. forbids returns what forbids a piece, or "".
func (t *tried) longest(forbids func(*outcome) string) (cut float64, found bool, stop string, stopped *outcome) {
	low, high := t.span()
	best := math.NaN()
	var first *outcome
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
		if first == nil && why != stopsTie {
			first, firstStop = o, why
		}
		if stop == "" && !math.IsNaN(best) {
			stop, stopped = why, o
		}
	}
	if math.IsNaN(best) {
		if first == nil {
			return 0, false, stopsTie, nil
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
		stop = stopsWood
	}
	return best, true, stop, stopped
}

func (t *tried) longestWords(cut float64, stop string, stopped *outcome) string {
	o := t.at(cut)
	words := "nothing but the end of the wood"
	if stopped != nil {
		words = t.stopWords(stop, stopped)
	}
	return fmt.Sprintf("Longest piece: %s. A longer one is stopped by %s.", t.height(o.length()), words)
}
