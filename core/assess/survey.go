package assess

import (
	"fmt"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
)

// Forest is a whole job made ready for sums: its trees, its site, its gear and its limits.
type Forest struct {
	*course.Scene
	Surveys []*Survey // of each tree, in the order of the document; nil: not measured yet
}

// Survey is one tree of a job made ready for sums: asked of every pick.
type Survey struct {
	*Forest
	*space.Tree
}

// Of is the tree that a pick is of; nil: there is none, or it is not measured yet.
func (f *Forest) Of(p *job.Pick) *Survey {
	if i := f.Job.TreeIndex(p.Tree); i >= 0 {
		return f.Surveys[i]
	}
	return nil
}

// Before walks the order up to a pick and returns the trees as they stand there.
func (f *Forest) Before(index int) space.Stand {
	all := f.Whole()
	for i := range index {
		p := &f.Job.Picks[i]
		if v := f.Of(p); v != nil {
			v.Take(p, i+1, v.Now(all)).Off(v.Now(all))
		}
	}
	return all
}

// Minutes are what a pick takes the crew, by its way down.
func (f *Forest) Minutes() map[job.Way]float64 { return f.Limits.Minutes }

// TreeID is the tree's id as a pick names it: empty for the first.
func (v *Survey) TreeID() string {
	if v.Index == 0 {
		return ""
	}
	return v.Measured.ID
}

// Now is how the survey's tree stands at a moment.
func (v *Survey) Now(all space.Stand) *space.Standing { return all[v.Index] }

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
	return PickFigures{ID: p.ID, Number: number, Tree: p.Tree, Title: title, Faults: []space.OrderFault{{Code: space.FaultGone, Message: why}}, Verdict: policy.Over, What: p.What, Way: p.Way, Done: p.Done, Basis: Guessed}
}
