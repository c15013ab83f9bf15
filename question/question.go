// Package question is every question that can be asked from outside about a job or
// about something typed: one table, which HTTP, the browser's worker and the command
// line all read. A question is a document in, and one answer of one type out.
package question

import (
	"context"
	"encoding/json"
	"math"
	"reflect"
	"strconv"
	"strings"

	"elkstay/core/assess"
	"elkstay/core/bench"
	"elkstay/core/calc"
	"elkstay/core/course"
	"elkstay/core/crane"
	"elkstay/core/ground"
	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/propose"
	"elkstay/core/sight"
	"elkstay/core/silhouette"
	"elkstay/core/units"
	"elkstay/paper/brief"
)

// Asked is what is asked of a document beside the document itself; each question reads
// its own part of it.
type Asked struct {
	Units units.System `json:"units,omitempty" query:"units" enum:"metric,us" default:"metric" doc:"Units of the sentences; figures are SI"`
	Pick  string       `json:"pick,omitempty" query:"pick" maxLength:"40" doc:"Id of the pick"`
	Runs  int          `json:"runs,omitempty" query:"runs" minimum:"0" maximum:"5000" doc:"Repeat it as often with what is not known well"`
	By    string       `json:"by,omitempty" query:"by" enum:"up,sides,fells" default:"up" doc:"Limbs from the bottom up, or side by side; or whole trees felled where a bearing is open"`
	Rig   string       `json:"rig,omitempty" query:"rig" maxLength:"40" doc:"Id of the rig to hold with; absent: the first with a rope"`
	Ask   string       `json:"ask,omitempty" query:"ask" enum:"length,run,wraps,rope,peak" doc:"What is asked"`
	Hold  string       `json:"hold,omitempty" query:"hold" enum:"limits,line,block,length,run" default:"limits" doc:"What stays as it is"`
	Tree  string       `json:"tree,omitempty" query:"tree" maxLength:"40" doc:"Id of the tree; absent: the first"`
	Kind  string       `json:"kind,omitempty" query:"kind" maxLength:"40" doc:"Of the calculation contract"`
	Of    string       `json:"of,omitempty" query:"of" maxLength:"120" doc:"Path of a figure of the kind's answer, such as line_peak_kn"`
	Over  string       `json:"over,omitempty" query:"over" maxLength:"120" doc:"Path of an input of the kind's request, such as stump.diameter_m"`
	Held  float64      `json:"held,omitempty" query:"held" minimum:"-1000000000" maximum:"1000000000" doc:"What the figure is held at, in the contract's units"`
	From  string       `json:"from,omitempty" query:"from" maxLength:"30" doc:"Where the input begins, in the contract's units; absent: its own range"`
	To    string       `json:"to,omitempty" query:"to" maxLength:"30" doc:"Where it ends"`
	Steps int          `json:"steps,omitempty" query:"steps" minimum:"0" maximum:"1000" doc:"Of a range; absent: 100"`
	Value float64      `json:"value,omitempty" query:"value" minimum:"0" maximum:"5000" doc:"Of what is held: kN or m; none for the limits"`
}

// A Question is one row of the table.
type Question struct {
	Name     string       // as in the path and in the worker
	Summary  string       // what it answers, in a line
	Document reflect.Type // what it is asked about
	Answers  reflect.Type // what it answers with
	Reads    []string     // the parts of Asked that it reads
	ByCrew   bool         // whether the crew's rules and gear enter into it

	answer func(ctx context.Context, document []byte, asked Asked, crew policy.Crew, memory *Remembered) (any, error)
}

// Answer answers it. The error is intake.Faults, or that of ctx.
func (q *Question) Answer(ctx context.Context, document []byte, asked Asked, crew policy.Crew) (any, error) {
	return q.AnswerAgain(ctx, document, asked, crew, nil)
}

// Remembered is what a page that asks about one job again and again has been answered: a
// change then costs what it can touch. Crew is the crew's rules and gear as they came.
type Remembered struct {
	Crew   string
	memory assess.Memory
}

// AnswerAgain answers as Answer does, sooner where it has been asked before.
func (q *Question) AnswerAgain(ctx context.Context, document []byte, asked Asked, crew policy.Crew, before *Remembered) (any, error) {
	if asked.Units == "" {
		asked.Units = units.Metric
	}
	return q.answer(ctx, document, asked, crew, before)
}

// table is every question.
var table = []Question{
	ofJob("assess", "Everything that can be said of a job document", "units pick",
		func(_ context.Context, j *job.Job, _ Asked, o assess.Options) (assess.Assessment, error) {
			return assess.Assess(j, o), nil
		}),
	ofJob("simulate", "One pick followed through time", "units pick runs",
		func(ctx context.Context, j *job.Job, asked Asked, o assess.Options) (course.Trace, error) {
			return assess.Simulate(ctx, j, asked.Pick, asked.Runs, o)
		}),
	ofJob("propose", "A way to take down what the order leaves standing", "units by rig",
		func(_ context.Context, j *job.Job, asked Asked, o assess.Options) (propose.Proposal, error) {
			return propose.Order(j, asked.By, asked.Rig, o), nil
		}),
	ofJob("rose", "Along which bearings a pick can be felled", "units pick",
		func(_ context.Context, j *job.Job, asked Asked, o assess.Options) (propose.Rose, error) {
			return propose.Fall(j, asked.Pick, o)
		}),
	ofJob("trees", "Which tree first, and the ways of taking one, side by side", "units tree",
		func(_ context.Context, j *job.Job, asked Asked, o assess.Options) (propose.Whole, error) {
			return propose.Trees(j, asked.Tree, o)
		}),
	ofJob("ground", "What becomes of the wood once it lies: logs, moving, loads", "units",
		func(_ context.Context, j *job.Job, _ Asked, o assess.Options) (ground.Ground, error) {
			return ground.Of(j, o)
		}),
	ofJob("ask", "Hold one thing of a pick and ask for another", "units pick ask hold value",
		func(_ context.Context, j *job.Job, asked Asked, o assess.Options) (propose.Answer, error) {
			held := propose.WhatIf{Pick: asked.Pick, Ask: asked.Ask, Hold: asked.Hold}
			if asked.Value > 0 {
				held.Value = &asked.Value
			}
			return propose.Ask(j, held, o)
		}),
	ofJob("resolve", "The job with its gear noted as the locker has it now", "",
		func(_ context.Context, j *job.Job, _ Asked, o assess.Options) (job.Job, error) {
			noted, _ := policy.Resolve(j, &o.Crew)
			return *noted, nil
		}),
	ofJob("brief", "What a briefing on a job document says", "units",
		func(_ context.Context, j *job.Job, _ Asked, o assess.Options) (brief.Paper, error) {
			return brief.Briefing(j, o), nil
		}),
	ofKind("hold", "Hold a figure of any sum and ask for one of its inputs", "kind of over held from to",
		func(ctx context.Context, kind calc.Kind, document []byte, asked Asked, from, to *float64) (bench.Asked, error) {
			return bench.Ask(ctx, kind, document, bench.Held{Hold: asked.Of, Value: asked.Held, Ask: asked.Over, From: from, To: to})
		}),
	ofKind("sweep", "An input of any sum over a range", "kind of over from to steps",
		func(ctx context.Context, kind calc.Kind, document []byte, asked Asked, from, to *float64) (bench.Swept, error) {
			return bench.Sweep(ctx, kind, document, bench.Over{Over: asked.Over, Of: asked.Of, From: from, To: to, Steps: asked.Steps})
		}),
	ofKind("layout", "What can be typed of a sum of any kind", "kind",
		func(_ context.Context, kind calc.Kind, document []byte, _ Asked, _, _ *float64) (bench.Laid, error) {
			return bench.LayOut(kind, document)
		}),
	ofKind("into-job", "A job to go on with, made of a sum", "kind",
		func(ctx context.Context, kind calc.Kind, document []byte, _ Asked, _, _ *float64) (job.Job, error) {
			return bench.IntoJob(ctx, kind, document)
		}),
	of[Three]("merge", "Bring together two changes of one document", merge),
	of[locker.Sides]("merge-item", "Bring together two changes of one item of the locker", mergeItem),
	of[bench.WeightsRequest]("weights", "A table of what logs of one wood weigh", bench.WeightTable),
	of[bench.WrapsRequest]("wraps-card", "What a hand holds with every number of turns on a device", bench.WrapCard),
	of[silhouette.Request]("guess-tree", "A whole plausible tree from a species, a girth, a height and an outline", guessTree),
	of[units.ReadRequest](units.Question, "What a typed length, mass or force means", units.Answer),
	of[sight.Request](sight.Question, "A height by angles, a lean by a plumb line, a place by bearing and distance", sight.Answer),
	of[crane.Pasted](crane.Question, "A crane's chart as it was copied from a spreadsheet", crane.Answer),
}

// ofJob makes a question about a job document, by the rules and with the gear of a crew.
func ofJob[A any](name, summary, reads string, answer func(context.Context, *job.Job, Asked, assess.Options) (A, error)) Question {
	return Question{
		Name: name, Summary: summary, Reads: strings.Fields(reads), ByCrew: true,
		Document: reflect.TypeFor[job.Job](), Answers: reflect.TypeFor[A](),
		answer: func(ctx context.Context, document []byte, asked Asked, crew policy.Crew, before *Remembered) (any, error) {
			o := assess.Options{Units: asked.Units, Pick: asked.Pick, Crew: crew}
			read, err := before.read(document, &o)
			if err != nil {
				return nil, err
			}
			o.Gone = ctx.Done()
			answered, err := answer(ctx, &read, asked, o)
			if err == nil && ctx.Err() != nil {
				return nil, ctx.Err() // what came of it is unfinished
			}
			return answered, err
		},
	}
}

// ofKind makes a question about a request of any kind of the calculation contract.
func ofKind[A any](name, summary, reads string, answer func(context.Context, calc.Kind, []byte, Asked, *float64, *float64) (A, error)) Question {
	return Question{
		Name: name, Summary: summary, Reads: strings.Fields(reads), Document: reflect.TypeFor[map[string]any](), Answers: reflect.TypeFor[A](),
		answer: func(ctx context.Context, document []byte, asked Asked, _ policy.Crew, _ *Remembered) (any, error) {
			kind, err := calc.Find(asked.Kind)
			if err != nil {
				return nil, err
			}
			var faults intake.Faults
			number := func(name, text string) *float64 {
				if text == "" {
					return nil
				}
				v, err := strconv.ParseFloat(text, 64)
				if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
					faults.Add("query."+name, text, "a number", "%q is no number", text)
				}
				return &v
			}
			from, to := number("from", asked.From), number("to", asked.To)
			if len(faults) > 0 {
				return nil, faults
			}
			return answer(ctx, kind, document, asked, from, to)
		},
	}
}

// read reads a job, with what is remembered of it at hand.
func (r *Remembered) read(document []byte, o *assess.Options) (job.Job, error) {
	if r == nil {
		return job.ReadJob(document)
	}
	o.Memory = &r.memory
	return r.memory.Read(document, string(o.Units)+"\x00"+r.Crew)
}

// of makes a question about a document of its own.
func of[D, A any](name, summary string, answer func([]byte) (A, error)) Question {
	return Question{
		Name: name, Summary: summary, Document: reflect.TypeFor[D](), Answers: reflect.TypeFor[A](),
		answer: func(_ context.Context, document []byte, _ Asked, _ policy.Crew, _ *Remembered) (any, error) {
			return answer(document)
		},
	}
}

// Three are the documents of a merge.
type Three struct {
	Base   job.Job `json:"base" doc:"What both began from"`
	Mine   job.Job `json:"mine"`
	Theirs job.Job `json:"theirs"`
}

func guessTree(document []byte) (silhouette.Guess, error) {
	var r silhouette.Request
	if err := intake.Decode(document, &r); err != nil {
		return silhouette.Guess{}, err
	}
	return silhouette.Make(r)
}

func merge(document []byte) (job.Merged, error) {
	var three struct{ Base, Mine, Theirs json.RawMessage }
	if err := json.Unmarshal(document, &three); err != nil {
		var faults intake.Faults
		faults.Add("body", nil, "base, mine and theirs", "this is not readable JSON: %s", err)
		return job.Merged{}, faults
	}
	return job.Merge(three.Base, three.Mine, three.Theirs)
}

func mergeItem(document []byte) (locker.Merged, error) {
	sides, err := locker.ReadSides(document)
	if err != nil {
		return locker.Merged{}, err
	}
	return sides.Merge()
}

// All lists every question.
func All() []Question { return append([]Question(nil), table...) }

// Find returns the question of a name. The error is intake.Faults.
func Find(name string) (*Question, error) {
	names := make([]string, len(table))
	for i := range table {
		if table[i].Name == name {
			return &table[i], nil
		}
		names[i] = table[i].Name
	}
	var faults intake.Faults
	faults.Add("question", name, strings.Join(names, ", "), "there is no question %q", name)
	return nil, faults
}
