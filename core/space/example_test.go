package space_test

import (
	"fmt"

	"elkstay/core/job"
	"elkstay/core/space"
	"elkstay/core/units"
	"elkstay/core/wood"
)

// A pole of 20 m that leans by 3 m to the east, and what of it a cut at 15 m takes.
func ExampleTree_Take() {
	lean, towards, height, top := 8.530766, 90.0, 20.0, 0.2
	j := job.NewJob("pole")
	j.Trees[0].Wood = wood.Wood{Species: "northern-red-oak"}
	j.Trees[0].Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: 0.4}}
	j.Trees[0].HeightM, j.Trees[0].TopDiameterM = &height, &top
	j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg = &lean, &towards
	tree := space.NewSite(&j, units.Metric).AddTree(0, j.Trees[0].Stem())
	cut := 15.0
	piece := tree.Take(&job.Pick{What: job.WhatTop, CutM: &cut}, 1, tree.Standing())
	fmt.Printf("cut at x = %.2f m, tip at x = %.2f m\n", piece.Cut.X, piece.Tip.X)
	// Output: cut at x = 2.25 m, tip at x = 3.00 m
}
