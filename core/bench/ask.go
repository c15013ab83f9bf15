package bench

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"elkstay/core/calc"
	"elkstay/core/intake"
)

// Held is a figure of an answer held at a value, and the input that is asked for.
type Held struct {
	Hold  string   // path of the figure
	Value float64  // in the contract's units
	Ask   string   // path of the input
	From  *float64 // where it is looked for; nil: the input's own range
	To    *float64
}

// An Answered input is one that brings the figure to its value.
type Answered struct {
	Value  float64 `json:"value"`
	Answer any     `json:"answer" doc:"All of the kind's answer there"`
}

// Asked is what a held figure leaves of an input.
type Asked struct {
	Hold    string     `json:"hold"`
	Held    float64    `json:"held"`
	Ask     string     `json:"ask"`
	From    float64    `json:"from" doc:"Where it was looked for"`
	To      float64    `json:"to"`
	Answers []Answered `json:"answers" nullable:"false" doc:"Rising; none: no value does"`
	Said    string     `json:"said"`
}

// How many places of an input are tried before the answers between them are closed in on.
const places = 161

// Ask looks for every value of an input at which a figure of the answer is as held. The error is a
// *calc.Problem, or that of ctx.
func Ask(ctx context.Context, kind calc.Kind, data []byte, h Held) (Asked, error) {
	out := Asked{Hold: h.Hold, Held: h.Value, Ask: h.Ask, Answers: []Answered{}}
	document, field, err := ready(kind, data, h.Ask)
	if err != nil {
		return out, err
	}
	if _, err := kind.Run(ctx, data); err != nil {
		return out, err
	}
	from, to, faults := between(field, h.From, h.To)
	if len(faults) > 0 {
		return out, calc.Refuse(kind.Name, faults)
	}
	out.From, out.To = from, to
	figure := func(at float64) (float64, bool) {
		answer, err := run(ctx, kind, document, h.Ask, at)
		if err != nil {
			return 0, false
		}
		value, ok := numberAt(answer, h.Hold)
		return value - h.Value, ok
	}
	xs := grid(from, to, field, h.From == nil || h.To == nil)
	seen := false
	was, had := 0.0, false
	scale := math.Max(1e-9, math.Abs(h.Value))
	for i, x := range xs {
		if err := ctx.Err(); err != nil {
			return out, err
		}
		f, ok := figure(x)
		seen = seen || ok
		there := ok && math.Abs(f) <= 1e-9*scale
		switch {
		case there:
			out.take(ctx, kind, document, h.Ask, x)
		case ok && had && math.Signbit(f) != math.Signbit(was) && !field.Whole:
			if at, found := closeIn(figure, xs[i-1], x, was, scale); found {
				out.take(ctx, kind, document, h.Ask, at)
			}
		}
		was, had = f, ok && !there
	}
	if !seen {
		var none intake.Faults
		none.Add("query.hold", h.Hold, "a figure of the answer", "the answer of %s has no figure %q over that range", kind.Name, h.Hold)
		return out, calc.Refuse(kind.Name, none)
	}
	out.Said = out.words(field)
	return out, nil
}

// closeIn halves down to where the figure is as held; a jump past it is none.
func closeIn(figure func(float64) (float64, bool), a, b, atA, scale float64) (float64, bool) {
	for range 200 {
		mid := (a + b) / 2
		if mid == a || mid == b {
			break
		}
		f, ok := figure(mid)
		if !ok {
			return 0, false
		}
		if f != 0 && math.Signbit(f) == math.Signbit(atA) {
			a = mid
		} else {
			b = mid
		}
	}
	// Of a figure that goes in steps b is the edge of the one asked for.
	f, ok := figure(b)
	return b, ok && math.Abs(f) <= 1e-6*scale
}

func (a *Asked) take(ctx context.Context, kind calc.Kind, document map[string]any, path string, at float64) {
	if n := len(a.Answers); n > 0 && math.Abs(a.Answers[n-1].Value-at) <= 1e-9*math.Max(1, math.Abs(at)) {
		return
	}
	set(document, path, at)
	encoded, _ := json.Marshal(document)
	if answer, err := kind.Run(ctx, encoded); err == nil {
		a.Answers = append(a.Answers, Answered{at, answer})
	}
}

func (a *Asked) words(field *Field) string {
	held := strings.TrimSpace(a.Hold + " of " + strconv.FormatFloat(a.Held, 'g', 6, 64))
	switch len(a.Answers) {
	case 0:
		return fmt.Sprintf("No %s was found between %.6g and %.6g that gives a %s.", field.Label, a.From, a.To, held)
	case 1:
		return fmt.Sprintf("%s: %.6g%s.", field.Label, a.Answers[0].Value, spaced(field.Unit))
	}
	values := make([]string, len(a.Answers))
	for i := range a.Answers {
		values[i] = strconv.FormatFloat(a.Answers[i].Value, 'g', 6, 64)
	}
	return fmt.Sprintf("%d values of %s do: %s%s.", len(values), field.Label, strings.Join(values, ", "), spaced(field.Unit))
}

func spaced(unit string) string {
	if unit == "" {
		return ""
	}
	return " " + unit
}

// ready reads a document and finds an input of it. The error is a *calc.Problem.
func ready(kind calc.Kind, data []byte, path string) (map[string]any, *Field, error) {
	document, err := generic(data)
	if err != nil {
		return nil, nil, calc.Refuse(kind.Name, err)
	}
	fields := fieldsOf(kind.Request, document)
	i := slices.IndexFunc(fields, func(f Field) bool { return f.Path == path && f.Number })
	if i < 0 {
		names := []string{}
		for _, f := range fields {
			if f.Number {
				names = append(names, f.Path)
			}
		}
		var faults intake.Faults
		faults.Add("query.ask", path, strings.Join(names, ", "), "%q is no number of a request for %s", path, kind.Name)
		return nil, nil, calc.Refuse(kind.Name, faults)
	}
	return document, &fields[i], nil
}

// generic reads a document as it is.
func generic(data []byte) (map[string]any, error) {
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.UseNumber()
	var document map[string]any
	if err := decoder.Decode(&document); err != nil || document == nil {
		var faults intake.Faults
		faults.Add("body", nil, "a JSON object", "this is not readable JSON")
		return nil, faults
	}
	return document, nil
}

// run answers a document with one input elsewhere, as a generic document.
func run(ctx context.Context, kind calc.Kind, document map[string]any, path string, at float64) (any, error) {
	set(document, path, at)
	encoded, err := json.Marshal(document)
	if err != nil {
		return nil, err
	}
	answer, err := kind.Run(ctx, encoded)
	if err != nil {
		return nil, err
	}
	written, err := json.Marshal(answer)
	if err != nil {
		return nil, err
	}
	return generic(written)
}

// steps takes a path apart: names, and places in lists.
func steps(path string) []any {
	var list []any
	for _, part := range strings.Split(path, ".") {
		name, rest, indexed := strings.Cut(part, "[")
		list = append(list, name)
		for indexed {
			var inner string
			inner, rest, _ = strings.Cut(rest, "]")
			n, _ := strconv.Atoi(inner)
			list = append(list, n)
			rest, indexed = strings.CutPrefix(rest, "[")
		}
	}
	return list
}

// set writes a number at a path whose parents are there.
func set(document map[string]any, path string, value float64) {
	var at any = document
	way := steps(path)
	number := json.Number(strconv.FormatFloat(value, 'g', -1, 64))
	for i, step := range way {
		last := i == len(way)-1
		switch key := step.(type) {
		case string:
			object, ok := at.(map[string]any)
			if !ok {
				return
			}
			if last {
				object[key] = number
				return
			}
			at = object[key]
		case int:
			rows, ok := at.([]any)
			if !ok || key >= len(rows) {
				return
			}
			if last {
				rows[key] = number
				return
			}
			at = rows[key]
		}
	}
}

// numberAt reads a number at a path.
func numberAt(document any, path string) (float64, bool) {
	at := document
	for _, step := range steps(path) {
		switch key := step.(type) {
		case string:
			object, _ := at.(map[string]any)
			at = object[key]
		case int:
			rows, _ := at.([]any)
			if key >= len(rows) {
				return 0, false
			}
			at = rows[key]
		}
	}
	number, ok := at.(json.Number)
	if !ok {
		return 0, false
	}
	value, err := number.Float64()
	return value, err == nil
}
