package bench

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"

	"elkstay/core/calc"
	"elkstay/core/drop"
	"elkstay/core/gear"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/line"
	"elkstay/core/timber"
)

// intoJob are the kinds whose sum makes a job to go on with.
var intoJob = map[string]func(data []byte) (job.Job, error){
	"piece": stemOfPiece, "drop": rigOfDrop, "wraps": rigOfWraps,
}

// IntoJob makes a job of a sum: what was typed stands in it and nothing else. A log becomes a stem, a
// drop a rig with the piece by its weight, wraps a rig's device. The error is a *calc.Problem.
func IntoJob(ctx context.Context, kind calc.Kind, data []byte) (job.Job, error) {
	from := intoJob[kind.Name]
	if from == nil {
		var faults intake.Faults
		faults.Add("query.kind", kind.Name, strings.Join(slices.Sorted(maps.Keys(intoJob)), ", "), "a sum of kind %s makes no job", kind.Name)
		return job.Job{}, calc.Refuse(kind.Name, faults)
	}
	// What the kind itself refuses makes no job either.
	if _, err := kind.Run(ctx, data); err != nil {
		return job.Job{}, err
	}
	j, err := from(data)
	var written []byte
	if err == nil {
		written, err = json.Marshal(j)
	}
	if err == nil {
		// A job takes less than a sum does: what it refuses is named here.
		j, err = job.ReadJob(written)
	}
	if err != nil {
		return job.Job{}, calc.Refuse(kind.Name, err)
	}
	return j, nil
}

// stemOfPiece makes a log a stem, its butt on the ground.
func stemOfPiece(data []byte) (job.Job, error) {
	var request calc.PieceRequest
	if err := json.Unmarshal(data, &request); err != nil {
		return job.Job{}, err
	}
	j := job.NewJob("Log from the bench")
	tree := &j.Trees[0]
	tree.Wood = request.Wood
	low := request.Stations[0].AtM
	for _, s := range request.Stations {
		tree.Readings = append(tree.Readings, job.Reading{AtM: s.AtM - low, Tape: job.Diameter, TapeM: s.DiameterM, CavityM: s.CavityM})
	}
	for _, lump := range request.Attached {
		tree.Attached = append(tree.Attached, timber.Lump{Label: lump.Label, MassKg: lump.MassKg, AtM: math.Max(0, lump.AtM-low)})
	}
	height := request.Stations[len(request.Stations)-1].AtM - low
	tree.HeightM = &height
	return j, nil
}

// rigOfDrop makes a drop a rig, and a pick by its weight: the stem is still to be measured.
func rigOfDrop(data []byte) (job.Job, error) {
	var c drop.Case
	if err := json.Unmarshal(data, &c); err != nil {
		return job.Job{}, err
	}
	j := job.NewJob("Drop from the bench")
	r := &j.Rigs[0]
	r.Rope = &gear.NamedRope{Name: "rope from the bench", Rope: c.Rope}
	r.Tie.AboveM, r.SlackM, r.Block.BelowCutM, r.Block.Efficiency = &c.TieAboveCutM, &c.SlackM, &c.BlockBelowCutM, &c.BlockEfficiency
	if c.EnergyLostPct > 0 {
		r.EnergyLostPct = &c.EnergyLostPct
	}
	r.Catch = job.Catch{How: job.Locked}
	if c.DeviceHoldKn != nil {
		r.Catch = job.Catch{How: job.ByHold, HoldKn: c.DeviceHoldKn}
	}
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, Way: job.WayPastBlock, Rig: r.ID, MassKg: &c.Piece.MassKg,
		Note: fmt.Sprintf("From the bench: %g m long, its balance %g m above the cut, %g m of lead.", c.Piece.LengthM, c.Piece.CogAboveCutM, c.LeadM)}}
	return j, nil
}

// rigOfWraps makes wraps a rig's device.
func rigOfWraps(data []byte) (job.Job, error) {
	var request calc.WrapsRequest
	if err := json.Unmarshal(data, &request); err != nil {
		return job.Job{}, err
	}
	j := job.NewJob("Wraps from the bench")
	r := &j.Rigs[0]
	r.Device.Friction, r.Device.Wraps = &request.Friction, request.Wraps
	r.Catch = job.Catch{How: job.ByWraps, HandKn: request.HandKn}
	if request.Wraps == nil {
		turns := math.Ceil(2*line.WrapsFor(request.LineKn, *request.HandKn, request.Friction)) / 2
		r.Device.Wraps = &turns
	}
	return j, nil
}
