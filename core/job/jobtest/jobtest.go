// Package jobtest makes invented jobs for tests, and compares figures.
package jobtest

import (
	"fmt"
	"math"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/wood"
)

// Of is a pointer to a figure.
func Of(v float64) *float64 { return &v }

// Stem is an invented stem with its rig and one pick, its top section.
func Stem() job.Job {
	j := job.NewJob("test")
	j.Trees[0].Wood = wood.Wood{Species: "northern-red-oak"}
	j.Trees[0].Readings = []job.Reading{
		{AtM: 0.5, Tape: job.Girth, TapeM: math.Pi * 0.8, CavityM: 0.2},
		{AtM: 6, Tape: job.Diameter, TapeM: 0.6},
	}
	j.Trees[0].HeightM, j.Trees[0].TopDiameterM = Of(18), Of(0.2)
	j.Trees[0].BarkM = Of(0) // what bears is what the tape goes round, for sums by hand
	r := &j.Rigs[0]
	r.Rope = &gear.NamedRope{Name: "test rope", MarkedKn: Of(14), Rope: gear.Rope{
		BreakingKn: 80, Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 1.6}, {LoadPct: 20, StrainPct: 2.6}},
	}}
	r.Block.MarkedKn, r.Sling.MarkedKn, r.Device.BreakingKn = Of(30), Of(40), Of(150)
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatStem, CutM: Of(15), Way: job.WayPastBlock, Rig: "r1"}}
	return j
}

// Whole is the invented stem with four limbs and one sub-limb, a zone and a shed.
func Whole() job.Job {
	j := Stem()
	j.Trees[0].Limbs = []job.Limb{
		{ID: "a", Name: "low limb", AtM: 7, AzimuthDeg: 90, AngleDeg: 70, DiameterM: 0.14, LengthM: 4, DroopDeg: 12},
		{ID: "b", Name: "fork of it", Parent: "a", AtM: 2, AzimuthDeg: 60, AngleDeg: 60, DiameterM: 0.06, LengthM: 2},
		{ID: "c", Name: "mid limb", AtM: 11, AzimuthDeg: 270, AngleDeg: 55, DiameterM: 0.15, LengthM: 4.5},
		{ID: "d", Name: "high limb", AtM: 16, AzimuthDeg: 0, AngleDeg: 35, DiameterM: 0.1, LengthM: 3},
	}
	j.Site.Zones = []job.Zone{{ID: "z", Name: "lawn", Outline: []job.Spot{{X: -1, Y: -5}, {X: 12, Y: -5}, {X: 12, Y: 5}, {X: -1, Y: 5}}}}
	j.Site.Targets = []job.Target{{ID: "t", Name: "shed", Kind: "building", Box: &job.Box{Min: job.Spot{X: -8, Y: -3}, Max: job.Spot{X: -3, Y: 3}}, ToM: 3}}
	j.Picks = []job.Pick{
		{ID: "p1", What: job.WhatLimb, Limb: "a", Way: job.WayFree},
		{ID: "p2", What: job.WhatLimb, Limb: "c", Way: job.WayFromAbove, Rig: "r1"},
		{ID: "p3", What: job.WhatLimb, Limb: "d", Way: job.WayPastBlock, Rig: "r1"},
		{ID: "p4", What: job.WhatStem, CutM: Of(15), Way: job.WayPastBlock, Rig: "r1"},
	}
	return j
}

// Thirty is an invented tree of 30 limbs on a stem of 25 m, with its rigs and a zone.
func Thirty() job.Job {
	j := Stem()
	j.Trees[0].Readings = []job.Reading{{AtM: 0.5, Tape: job.Diameter, TapeM: 0.85}, {AtM: 8, Tape: job.Diameter, TapeM: 0.62}}
	j.Trees[0].HeightM, j.Trees[0].TopDiameterM = Of(25), Of(0.16)
	for i := range 30 {
		at := 4.5 + 0.66*float64(i)
		j.Trees[0].Limbs = append(j.Trees[0].Limbs, job.Limb{
			ID: fmt.Sprintf("l%d", i), AtM: at, AzimuthDeg: math.Mod(137.5*float64(i), 360), AngleDeg: 70 - at, DiameterM: 0.15 - 0.003*float64(i), LengthM: 5 - 0.09*float64(i), DroopDeg: 8,
		})
	}
	j.Site.Zones = []job.Zone{{ID: "z", Name: "field", Outline: []job.Spot{{X: -1, Y: -7}, {X: 16, Y: -7}, {X: 16, Y: 7}, {X: -1, Y: 7}}}}
	j.Site.Targets = []job.Target{{ID: "t", Name: "barn", Kind: "building", Box: &job.Box{Min: job.Spot{X: -14, Y: -6}, Max: job.Spot{X: -4, Y: 6}}, ToM: 5}}
	j.Limits.PieceKg, j.Limits.RunM = Of(300), Of(4)
	j.Picks = []job.Pick{}
	return j
}

// Near fails a test unless two figures agree to 1e-9.
func Near(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.IsNaN(got) || math.Abs(got-want) > 1e-9*math.Max(1, math.Abs(want)) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}

// Nearly fails a test unless two figures agree to 1e-6.
func Nearly(t *testing.T, what string, got, want float64) {
	t.Helper()
	if math.IsNaN(got) || math.Abs(got-want) > 1e-6*math.Max(1, math.Abs(want)) {
		t.Errorf("%s: got %v, want %v", what, got, want)
	}
}
