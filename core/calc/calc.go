// Package calc answers the questions of the calculation contract: one JSON
// document in, one JSON document out, the same through the command line, over
// HTTP and from Go.
//
// Every kind is a request type, an answer type and a pure function between them
// over the packages of the core. Requests are read strictly (package intake);
// what is refused comes back as a problem document that names every bad field,
// its value and the range allowed. Every answer carries its working, step by
// step, and the cautions that must stand beside its figures.
package calc

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"elkstay/core/intake"
)

// A Kind is one question the core answers.
type Kind struct {
	Name    string       // as in the command and the path, such as "cut-length"
	Summary string       // what it answers, in a line
	Request reflect.Type // the document it takes
	Answer  reflect.Type // the document it gives

	run func(ctx context.Context, data []byte) (any, error)
}

// Run reads a request and answers it. The error, when there is one, is a *Problem,
// or that of ctx, which ends the long answers early.
func (k Kind) Run(ctx context.Context, data []byte) (any, error) {
	answer, err := k.run(ctx, data)
	if ctxErr := ctx.Err(); err != nil && ctxErr != nil && errors.Is(err, ctxErr) {
		return nil, err
	}
	if err != nil {
		return nil, Refuse(k.Name, err)
	}
	return answer, nil
}

// kind makes a Kind of a check between the fields and a pure function.
func kind[Req, Ans any](name, summary string, check func(*Req) intake.Faults, answer func(*Req) Ans) Kind {
	return long(name, summary, check, func(_ context.Context, request *Req) (Ans, error) { return answer(request), nil })
}

// long makes a Kind whose answer may take so long that it can be broken off.
func long[Req, Ans any](name, summary string, check func(*Req) intake.Faults, answer func(context.Context, *Req) (Ans, error)) Kind {
	return Kind{
		Name: name, Summary: summary,
		Request: reflect.TypeFor[Req](), Answer: reflect.TypeFor[Ans](),
		run: func(ctx context.Context, data []byte) (any, error) {
			var request Req
			if err := intake.Decode(data, &request); err != nil {
				return nil, err
			}
			if err := check(&request).Err(); err != nil {
				return nil, err
			}
			return answer(ctx, &request)
		},
	}
}

var kinds = []Kind{
	kind("piece", "Weigh a log or a piece of a stem", checkPiece, Piece),
	kind("limb", "Estimate a whole limb with its brush", inBody, Limb),
	kind("cut-length", "How long a piece may be", checkCutLength, CutLength),
	kind("wraps", "Friction on a bollard, a fork, a hitch", checkWraps, Wraps),
	kind("line", "A static rope path in three dimensions", inBody, Line),
	kind("drop", "Shock load of a dropped piece, by energy", inBody, Drop),
	long("drop-sim", "Shock load of a dropped piece, followed through time", inBody, DropSim),
	kind("haul", "Mechanical advantage of any pulley system", inBody, Haul),
	kind("vector", "Pulling sideways on a tight line", inBody, Vector),
	kind("fell", "Pull over a tree or a stem", inBody, Fell),
	kind("pick", "A crane lift", inBody, Pick),
	kind("release", "What happens as a piece comes free on the hook", inBody, Release),
	kind("snap", "Two overlapping cuts, and a push", inBody, Snap),
	kind("swing", "Where a limb goes when it leaves", inBody, Swing),
	kind("spar", "What the standing stem feels", inBody, Spar),
	long("section", "Where to cut the whole stem", inBody, Section),
	kind("weigh-in", "Learn from what the scale said", inBody, WeighIn),
	kind("rating", "What an item may carry as it is used", inBody, Rating),
	kind("cut-advice", "Which cut, and why not", inBody, CutAdvice),
	kind("two-line", "A piece on two lines", inBody, TwoLine),
	kind("drag", "Skidding a log over the ground", inBody, Drag),
	kind("push", "A machine pushing a stem", inBody, Push),
	kind("heat", "What a lowering turns into heat", inBody, Heat),
	kind("midline-weight", "A weight hung in a pull line", inBody, MidlineWeight),
	kind("hinge", "The wood that steers", inBody, Hinge),
	kind("grip", "What a vehicle can hold or pull", inBody, Grip),
	kind("reach", "Where the tip comes down", inBody, Reach),
	long("fell-sim", "The fall, followed through time", inBody, FellSim),
	kind("bind", "A log on two supports, and the saw", inBody, Bind),
	kind("trace-read", "What the load cell saw", inBody, TraceRead),
	kind("two-tie", "One piece, two lines", inBody, TwoTie),
	kind("catch", "A line that is already on, or nearly", inBody, Catch),
}

// inBody checks a request that knows its own faults.
func inBody[Req any, Checked interface {
	*Req
	Faults(path string) intake.Faults
}](request *Req) intake.Faults {
	return Checked(request).Faults("body")
}

// Kinds returns every kind, in the order of the contract.
func Kinds() []Kind { return slices.Clone(kinds) }

// Find returns the kind of a name. The error is a *Problem.
func Find(name string) (Kind, error) {
	names := make([]string, len(kinds))
	for i, k := range kinds {
		if k.Name == name {
			return k, nil
		}
		names[i] = k.Name
	}
	return Kind{}, &Problem{
		Type: "about:blank", Title: "Not found", Status: 404,
		Detail: fmt.Sprintf("There is no kind %q. The kinds are: %s.", name, strings.Join(names, ", ")),
		Errors: intake.Faults{},
	}
}

// A Problem is a refusal as RFC 9457 has it. It is the same document at every
// door.
type Problem struct {
	Type   string        `json:"type" doc:"about:blank: the status says what kind of problem it is"`
	Title  string        `json:"title"`
	Status int           `json:"status"`
	Detail string        `json:"detail" doc:"What is wrong, in a sentence"`
	Errors intake.Faults `json:"errors" nullable:"false" doc:"Every bad field"`
}

func (p *Problem) Error() string { return p.Detail }

// GetStatus returns the HTTP status of the problem.
func (p *Problem) GetStatus() int { return p.Status }

// ContentType returns the media type of a problem document, whatever was asked for.
func (p *Problem) ContentType(string) string { return "application/problem+json" }

// Refuse turns the faults of a document into the problem document that every door
// gives back. name says what was asked.
func Refuse(name string, err error) *Problem {
	var already *Problem
	if errors.As(err, &already) {
		return already
	}
	problem := &Problem{Type: "about:blank", Title: "Unprocessable Entity", Status: 422, Errors: intake.Faults{}}
	var faults intake.Faults
	if !errors.As(err, &faults) {
		problem.Detail = name + ": " + err.Error()
		return problem
	}
	problem.Errors = faults
	problem.Detail = fmt.Sprintf("%s: %s.", name, faults[0].Message)
	if len(faults) > 1 {
		problem.Detail = fmt.Sprintf("%s: %s (and %d more).", name, faults[0].Message, len(faults)-1)
	}
	return problem
}

// Encode writes a document as every door does: indented by nothing, no HTML
// escapes, a line break at the end.
func Encode(document any) ([]byte, error) {
	var buffer bytes.Buffer
	encoder := json.NewEncoder(&buffer)
	encoder.SetEscapeHTML(false)
	if err := encoder.Encode(document); err != nil {
		return nil, err
	}
	return buffer.Bytes(), nil
}
