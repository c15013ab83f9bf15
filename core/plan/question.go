package plan

import (
	"context"
	"encoding/json"

	"elkstay/core/intake"
	"elkstay/core/units"
)

// The questions a job answers, the same through every door.
const (
	QuestionAssess = "assess"
	QuestionFollow = "follow"
	QuestionFill   = "fill"
	QuestionAsk    = "ask"
	QuestionMerge  = "merge"
	QuestionOutfit = "outfit"
	QuestionBrief  = "brief"
)

// Asked is what is asked of a job beside the job itself; each question reads its own.
type Asked struct {
	Units units.System `json:"units,omitempty" enum:"metric,us"`
	Pick  string       `json:"pick,omitempty" maxLength:"40"`
	Runs  int          `json:"runs,omitempty" minimum:"0" maximum:"5000"`
	By    string       `json:"by,omitempty" enum:"up,sides"`
	Rig   string       `json:"rig,omitempty" maxLength:"40"`
	Ask   string       `json:"ask,omitempty" enum:"length,run,wraps,rope,peak"`
	Hold  string       `json:"hold,omitempty" enum:"limits,line,block,length,run"`
	Value *float64     `json:"value,omitempty" minimum:"0" maximum:"5000"`
}

// Three are the documents of a merge.
type Three struct {
	Base   json.RawMessage `json:"base"`
	Mine   json.RawMessage `json:"mine"`
	Theirs json.RawMessage `json:"theirs"`
}

// Question answers a question about a job document, by the rules and with the gear of a
// crew. The error is intake.Faults, or that
// of ctx.
func Question(ctx context.Context, name string, document []byte, asked Asked, crew Crew) (any, error) {
	if asked.Units == "" {
		asked.Units = units.Metric
	}
	if name == QuestionMerge {
		var three Three
		if err := json.Unmarshal(document, &three); err != nil {
			var faults intake.Faults
			faults.Add("body", nil, "base, mine and theirs", "this is not readable JSON: %s", err)
			return nil, faults
		}
		return Merge(three.Base, three.Mine, three.Theirs)
	}
	job, err := ReadJob(document)
	if err != nil {
		return nil, err
	}
	o := Options{Units: asked.Units, Pick: asked.Pick, Crew: crew}
	switch name {
	case QuestionAssess:
		return Assess(&job, o), nil
	case QuestionFollow:
		return Follow(ctx, &job, asked.Pick, asked.Runs, o)
	case QuestionFill:
		return Fill(&job, asked.By, asked.Rig, o), nil
	case QuestionOutfit:
		noted, _ := job.outfitted(&o.Crew)
		return *noted, nil
	case QuestionBrief:
		return Briefing(&job, o), nil
	case QuestionAsk:
		return Ask(&job, WhatIf{asked.Pick, asked.Ask, asked.Hold, asked.Value}, o)
	}
	var faults intake.Faults
	faults.Add("question", name, "assess, follow, fill, ask, merge, outfit, brief", "there is no question %q", name)
	return nil, faults
}
