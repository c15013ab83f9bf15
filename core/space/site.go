package space

import (
	"slices"

	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/units"
)

// A Site is the trees of a job in space, and what stands round them.
type Site struct {
	Job     *job.Job
	System  units.System // of sentences; figures are SI
	Trees   []*Tree      // in the order of the document; nil: not measured yet
	Targets []Prism
}

// NewSite readies the targets of a job; its trees are added as they are measured.
func NewSite(j *job.Job, system units.System) *Site {
	s := &Site{Job: j, System: system, Trees: make([]*Tree, len(j.Trees)), Targets: make([]Prism, len(j.Site.Targets))}
	for i := range j.Site.Targets {
		s.Targets[i] = PrismOf(&j.Site.Targets[i])
	}
	return s
}

// Height prints a height or a length in the units asked.
func (s *Site) Height(m float64) string { return units.Print(units.Height, s.System, m) }

// Powered reports that there is a power line.
func (s *Site) Powered() bool {
	return slices.ContainsFunc(s.Targets, func(p Prism) bool { _, power := policy.PowerDistanceOf(p.Target); return power })
}

// Whole is how every tree stands before the first pick.
func (s *Site) Whole() Stand {
	all := make(Stand, len(s.Trees))
	for i, t := range s.Trees {
		if t != nil {
			now := t.whole()
			now.among = all
			all[i] = &now
		}
	}
	return all
}

// Of is the tree that a pick is of; nil: there is none, or it is not measured yet.
func (s *Site) Of(p *job.Pick) *Tree {
	if i := s.Job.TreeIndex(p.Tree); i >= 0 {
		return s.Trees[i]
	}
	return nil
}
