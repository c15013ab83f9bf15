package assess

import (
	"encoding/json"
	"math"
	"strings"
	"testing"

	"elkstay/core/crane"
	"elkstay/core/frozen/kept"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// movedBy is a job with every place of its plan moved.
func movedBy(t *testing.T, j *job.Job, dx, dy float64) job.Job {
	t.Helper()
	one := *j
	one.Trees = append([]job.Tree{}, j.Trees...)
	for i := range one.Trees {
		tree := &one.Trees[i]
		if tree.At == nil {
			tree.At = &job.Spot{}
		}
		if tree.Defects == nil {
			tree.Defects = []job.Defect{}
		}
		if tree.Limbs == nil {
			tree.Limbs = []job.Limb{}
		}
	}
	data, err := json.Marshal(one)
	if err != nil {
		t.Fatal(err)
	}
	var text any
	if err := json.Unmarshal(data, &text); err != nil {
		t.Fatal(err)
	}
	var move func(v any)
	move = func(v any) {
		switch at := v.(type) {
		case map[string]any:
			x, isX := at["x"].(float64)
			y, isY := at["y"].(float64)
			if isX && isY {
				at["x"], at["y"] = x+dx, y+dy
			}
			for _, inner := range at {
				move(inner)
			}
		case []any:
			for _, inner := range at {
				move(inner)
			}
		}
	}
	move(text)
	if data, err = json.Marshal(text); err != nil {
		t.Fatal(err)
	}
	moved, err := job.ReadJob(data)
	if err != nil {
		t.Fatal(err)
	}
	return moved
}

// slewed is a lift round a crane amid a neighbour, a roof, a mast and wires.
func slewed() job.Job {
	j := jobtest.Lifted()
	j.Trees[0].Limbs = jobtest.Whole().Trees[0].Limbs
	other := j.Trees[0]
	other.ID, other.Name, other.At = "2", "neighbour", &job.Spot{X: 8, Y: -6}
	other.HeightM = jobtest.Of(23)
	j.Trees = append(j.Trees, other)
	j.Site.Targets = []job.Target{besides("barn", 12, -9, 2, 9), besides("mast", 3, -17, 0.5, 26),
		{ID: "w", Name: "wire", Kind: "power-line", Outline: []job.Spot{{X: 18, Y: -40}, {X: 19, Y: 10}}, FromM: 6, ToM: 7, VoltageKv: jobtest.Of(0.4)}}
	j.Picks = append(j.Picks, job.Pick{ID: "p2", What: job.WhatLimb, Limb: "c", Way: job.WayCrane, Lift: &job.Lift{Crane: "c", SetDown: &job.Spot{X: 6, Y: -20},
		Slings: []crane.Sling{{Name: "one", AtM: 1.2, LengthM: 2, WllKn: 30, Hitch: crane.Choker}}}})
	return j
}

// Moving the whole site changes no figure and no word: only where things are.
func TestMovingTheWholeSite(t *testing.T) {
	t.Parallel()
	jobs := map[string]job.Job{}
	for name, j := range keptJobs(t) {
		for _, part := range []string{"lifted", "felled by what", "tied to its", "thrown", "two trees", "swinging off", "held at both ends, of", "between two points of", "bent", "twins, tagged", "stopped by a l", "whole, over", "14-"} {
			if strings.Contains(name, part) {
				jobs[name] = j
			}
		}
	}
	if len(jobs) < 14 {
		t.Fatalf("%d jobs", len(jobs))
	}
	for name, j := range jobs {
		moved := movedBy(t, &j, 37, -22)
		was, is := Assess(&j, Options{Units: units.Metric}), Assess(&moved, Options{Units: units.Metric})
		if len(was.Picks) != len(is.Picks) || was.State != is.State {
			t.Errorf("%s: %d picks, %s; moved %d, %s", name, len(was.Picks), was.State, len(is.Picks), is.State)
			continue
		}
		for i := range was.Picks {
			a, b := was.Picks[i], is.Picks[i]
			if (a.Middle == nil) != (b.Middle == nil) || a.Middle != nil && (!(math.Abs(a.Middle.X+37-b.Middle.X) <= 1e-6) || !(math.Abs(a.Middle.Y-22-b.Middle.Y) <= 1e-6) || !(math.Abs(a.Middle.Z-b.Middle.Z) <= 1e-6)) {
				t.Errorf("%s, pick %s: its middle %+v, moved %+v", name, a.ID, a.Middle, b.Middle)
			}
			a.Middle, b.Middle = nil, nil
			kept.Alike(t, name+", pick "+a.ID, a, b, 1e-6)
			options := Options{Units: units.Metric, Pick: a.ID}
			before, after := Assess(&j, options).Detail, Assess(&moved, options).Detail
			if (before == nil) != (after == nil) {
				t.Errorf("%s, pick %s: detail %v, moved %v", name, a.ID, before != nil, after != nil)
				continue
			}
			if before == nil {
				continue
			}
			for _, rungs := range [][]Rung{before.Ladder, after.Ladder} {
				for i := range rungs {
					rungs[i].Sum = nil // asked for with places
				}
			}
			kept.Alike(t, name+", pick "+a.ID+": rungs", before.Ladder, after.Ladder, 1e-6)
			kept.Alike(t, name+", pick "+a.ID+": cautions", before.Cautions, after.Cautions, 1e-6)
			kept.Alike(t, name+", pick "+a.ID+": clearances", before.Clear, after.Clear, 1e-6)
		}
	}
}
