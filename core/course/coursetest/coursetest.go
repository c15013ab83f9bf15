// Package coursetest readies jobs for the tests of single rooms, so that each can be asked by itself.
package coursetest

import (
	"testing"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/units"
)

// Scene is a job as it is given, with the usual rules and no locker; all of its trees are measured.
func Scene(t *testing.T, j *job.Job) *course.Scene {
	t.Helper()
	document, gear := policy.Resolve(j, &policy.Crew{})
	if faults := document.Faults(); len(faults) > 0 {
		t.Fatal(faults)
	}
	site := space.NewSite(document, units.Metric)
	for i := range document.Trees {
		site.AddTree(i, document.Trees[i].Stem())
	}
	return &course.Scene{Site: site, Limits: policy.LimitsOf(document, &policy.Policy{}), Gear: gear}
}

// Course is a pick of a job, all before it down, on the rig that it names.
func Course(t *testing.T, j *job.Job, pick int) course.Course {
	t.Helper()
	return Of(t, Scene(t, j), pick)
}

// Of is a pick of a scene's job, all before it down, on the rig that it names.
func Of(t *testing.T, s *course.Scene, pick int) course.Course {
	t.Helper()
	all := s.Whole()
	for i := range pick {
		p := &s.Job.Picks[i]
		tree := s.Of(p)
		tree.Take(p, i+1, all[tree.Index]).Off(all[tree.Index])
	}
	p := &s.Job.Picks[pick]
	tree := s.Of(p)
	return s.Begin(tree, p, s.RigNamed(p.Rig), pick+1, all[tree.Index], nil)
}
