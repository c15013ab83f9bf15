package propose

import (
	"fmt"
	"math"
	"slices"

	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
)

// stump is what is left of a stem, above its lowest reading, m.
const stump = 0.3

// sections proposes the stem from its top in the fewest pieces; among those, the ones
// that load the gear least.
func (f *proposer) sections() {
	foot := f.Stem.Bottom() + stump
	span := f.now.Top - foot
	if span <= 0.2 {
		return
	}
	top := f.now.Top
	grid := max(0.1, span/90)
	count := int(span/grid + 1e-9)
	height := func(k int) float64 {
		if k == count {
			return foot
		}
		return math.Round(1000*(top-float64(k)*grid)) / 1000
	}
	type step struct {
		pieces, from int
		use          float64
		way          job.Pick
	}
	const none = 1 << 30
	best := make([]step, count+1)
	for k := range best {
		best[k].pieces = none
	}
	best[0] = step{}
	shortest := max(1, int(math.Ceil(0.5/grid)))
	for from := 0; from <= count-1; from++ {
		if best[from].pieces == none {
			continue
		}
		now := f.now.Cut(height(from))
		if from == 0 {
			now.Top = f.now.Top
		}
		held := f.stemRig != nil
		for to := min(count, from+shortest); to <= count && !f.Cancelled(); to++ {
			if best[from].pieces+1 > best[to].pieces {
				continue // reached in fewer pieces already
			}
			cut := height(to)
			use, way, ok := f.section(cut, &now, &held)
			if !ok {
				continue
			}
			pieces, use := best[from].pieces+1, max(best[from].use, use)
			if pieces < best[to].pieces || pieces == best[to].pieces && use < best[to].use {
				best[to] = step{pieces, from, use, way}
			}
		}
	}
	last := count
	for last > 0 && best[last].pieces == none {
		last--
	}
	var cuts []int
	for k := last; k > 0; k = best[k].from {
		cuts = append(cuts, k)
	}
	slices.Reverse(cuts)
	for _, k := range cuts {
		cut, p := height(k), best[k].way
		p.What, p.CutM = job.WhatStem, &cut
		one := p
		o := f.WorkWith(&one, f.stemRig, f.number, f.now)
		f.add(o, p, o.Because(f.Survey))
	}
	if last < count {
		cut := height(min(count, last+shortest))
		p := job.Pick{What: job.WhatStem, Way: job.WayFree, CutM: &cut}
		if f.stemRig != nil {
			p.Way, p.Rig = job.WayPastBlock, f.stemRig.ID
		}
		o := f.WorkWith(&p, f.stemRig, f.number, f.now)
		stop := f.Stops(o)
		f.out.Ending = fmt.Sprintf("Below %s no section keeps every limit: even a short one is stopped by %s.", f.Height(f.now.Top), f.StopWords(stop, o))
	}
}

// section judges one section of the stem; held is set false once a longer one on the
// line can only be heavier than its limits allow.
func (f *proposer) section(cut float64, now *space.Standing, held *bool) (use float64, way job.Pick, ok bool) {
	f.Hurried = true
	defer func() { f.Hurried = false }()
	free := job.Pick{What: job.WhatStem, Way: job.WayFree, CutM: &cut}
	if o := f.WorkWith(&free, nil, f.number, now); f.Stops(o) == "" && o.Landing.Verdict == policy.Within {
		return 0, job.Pick{Way: job.WayFree}, true
	}
	if !*held {
		return 0, job.Pick{}, false
	}
	p := job.Pick{What: job.WhatStem, Way: job.WayPastBlock, Rig: f.stemRig.ID, CutM: &cut}
	o := f.WorkWith(&p, f.stemRig, f.number, now)
	switch stop := f.Stops(o); stop {
	case "":
		return f.Use(o), job.Pick{Way: job.WayPastBlock, Rig: f.stemRig.ID}, true
	case hold.PartPiece, hold.PartLine, hold.PartTie, hold.PartBlock, hold.PartSling, hold.PartDevice:
		*held = false
	}
	return 0, job.Pick{}, false
}
