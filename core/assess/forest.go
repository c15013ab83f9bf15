package assess

import (
	"fmt"

	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// Forest is a whole job made ready for sums: its trees, its site, its gear and its limits.
type Forest struct {
	Job     *job.Job // with its gear as the locker has it
	System  units.System
	Trees   []*Survey // in the order of the document; nil: not measured yet
	gear    policy.Gear
	limits  policy.Limits
	targets []prism
	gone    <-chan struct{}
	// Hurried leaves out what is round a pick that something stops already: for whoever only
	// looks for one that nothing stops.
	Hurried bool
}

// A Moment is how every tree stands at one moment of the order, in the order of the
// document; nil: not measured yet.
type Moment []*Standing

// Of is the tree that a pick is of; nil: there is none, or it is not measured yet.
func (f *Forest) Of(p *job.Pick) *Survey {
	if i := f.Job.TreeIndex(p.Tree); i >= 0 {
		return f.Trees[i]
	}
	return nil
}

// whole is the moment before the first pick.
func (f *Forest) whole() Moment {
	m := make(Moment, len(f.Trees))
	for i, v := range f.Trees {
		if v != nil {
			now := v.whole()
			now.rest = m
			m[i] = &now
		}
	}
	return m
}

// Before walks the order up to a pick and returns the trees as they stand there.
func (f *Forest) Before(index int) Moment {
	m := f.whole()
	for i := range index {
		p := &f.Job.Picks[i]
		v := f.Of(p)
		if v == nil {
			continue
		}
		o := &Outcome{pick: p}
		v.begin(o, m[v.index])
		v.Apply(p, o, m[v.index])
	}
	return m
}

// Minutes are what a pick takes the crew, by its way down.
func (f *Forest) Minutes() map[job.Way]float64 { return f.limits.Minutes }

// Left reports that nobody waits for the answer any more.
func (f *Forest) Left() bool {
	select {
	case <-f.gone:
		return true
	default:
		return false
	}
}

// TreeID is the tree's id as a pick names it: empty for the first.
func (v *Survey) TreeID() string {
	if v.index == 0 {
		return ""
	}
	return v.tree.ID
}

// Now is how the survey's tree stands at a moment.
func (v *Survey) Now(m Moment) *Standing { return m[v.index] }

// nowhere is a pick of a tree that is not there, or not measured.
func (f *Forest) nowhere(p *job.Pick, number int) PickFigures {
	why := fmt.Sprintf("there is no tree %q in this job", p.Tree)
	if i := f.Job.TreeIndex(p.Tree); i >= 0 {
		why = f.Job.Trees[i].Title() + " is not measured yet: give its species, a tape reading or two and its height"
	}
	title := p.Label
	if title == "" {
		title = "Pick " + p.ID
	}
	return PickFigures{ID: p.ID, Number: number, Tree: p.Tree, Title: title, Faults: []OrderFault{{faultGone, why}}, Verdict: Over, What: p.What, Way: p.Way, Done: p.Done, Basis: Guessed}
}
