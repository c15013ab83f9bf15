package propose

import (
	"math"

	"elkstay/core/assess"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/ways/lifted"
)

// tightened are how tight two lines are made before the cut, in shares of the piece's weight.
var tightened = []float64{0, 0.4, 0.8}

// tightBy is a share of a weight, kN, to a tenth.
func tightBy(share, kg float64) float64 { return math.Round(10*share*kg*units.Gravity/1000) / 10 }

// onTwoLines is a whole limb held at both ends, on any two of the rigs, where nothing forbids that.
func (f *proposer) onTwoLines(limb *space.Limb) (*assess.Outcome, job.Pick, bool) {
	whole := 0.0
	slack := 0.0
	for i := range f.Job.Rigs {
		for k := range f.Job.Rigs {
			butt, tip := &f.Job.Rigs[i], &f.Job.Rigs[k]
			if i == k || butt.Rope == nil || tip.Rope == nil || f.Cancelled() {
				continue
			}
			kg := 0.0 // at its heavy end, as it was worked out on slack lines
			early := make([]bool, len(tightened))
			for n := range len(tightened) * 3 {
				if early[n%len(tightened)] {
					continue
				}
				share := tightened[n%len(tightened)]
				p := job.Pick{What: job.WhatLimb, Limb: limb.ID, CutM: &whole, Way: job.WayBothEnds, Rig: butt.ID,
					Ends: &job.Ends{Butt: job.End{Rig: butt.ID, SlackM: &slack}, Tip: job.End{Rig: tip.ID, SlackM: &slack}}}
				// Both let out alike, or one so far that it hangs on the other's line, then both.
				if first := []string{"", job.EndTip, job.EndButt}[n/len(tightened)]; first != "" {
					p.Ends.Program = []job.EndStep{{Line: first, ByM: math.Ceil(1.5 * limb.LengthM)}, {Line: job.EndBoth, ByM: 40}}
				}
				if share > 0 {
					tight := tightBy(share, kg)
					p.Ends.Butt.TightKn, p.Ends.Tip.TightKn = &tight, &tight
				}
				tried := f.hurried(p, butt)
				kg, early[n%len(tightened)] = tried.Weight.Kg.High, tried.StoppedEarly()
				if !f.fits(tried, "") {
					continue
				}
				one := p
				if o := f.WorkWith(&one, butt, f.number, f.now); f.fits(o, "") {
					return o, p, true
				}
			}
		}
	}
	return nil, job.Pick{}, false
}

// hurried works a pick out as far as it is told whether something stops it.
func (f *proposer) hurried(p job.Pick, rig *job.Rig) *assess.Outcome {
	f.Hurried = true
	defer func() { f.Hurried = false }()
	return f.WorkWith(&p, rig, f.number, f.now)
}

// fits tells whether nothing forbids a piece and nothing about it is not known, but for a part that
// is still to be chosen.
func (f *proposer) fits(o *assess.Outcome, but string) bool {
	judged := f.VerdictBut(o, but)
	return f.Stops(o) == "" && (judged == policy.Within || judged == policy.Close)
}

// byCrane is a whole limb lifted off in two slings by a crane that stands there, where nothing
// forbids that. What its slings hold is for the crew to say: they are not chosen here.
func (f *proposer) byCrane(limb *space.Limb) (*assess.Outcome, job.Pick, bool) {
	whole := 0.0
	for i := range f.Job.Site.Cranes {
		p := job.Pick{What: job.WhatLimb, Limb: limb.ID, CutM: &whole, Way: job.WayCrane}
		p.Lift = &job.Lift{Crane: f.Job.Site.Cranes[i].ID, Slings: lifted.Slung(f.Take(&p, f.number, f.now))}
		one := p
		if o := f.WorkWith(&one, nil, f.number, f.now); f.fits(o, hold.PartSling) {
			return o, p, true
		}
	}
	return nil, job.Pick{}, false
}
