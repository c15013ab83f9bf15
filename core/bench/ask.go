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

// Over is an input over a range, and the figure that is looked at.
type Over struct {
	Over  string // path of the input
	From  *float64
	To    *float64
	Steps int    // 2 to 1,000; 0: 100
	Of    string // path of the figure
}

// A Swept input is a figure over its range; null where the kind refuses.
type Swept struct {
	Over string     `json:"over"`
	Of   string     `json:"of"`
	X    []float64  `json:"x" nullable:"false"`
	Y    []*float64 `json:"y" nullable:"false" doc:"Null: refused there"`
	Why  string     `json:"why" doc:"Why it is refused somewhere; empty: nowhere"`
}

// Sweep works an input through a range. The error is a *calc.Problem, or that of ctx.
func Sweep(ctx context.Context, kind calc.Kind, data []byte, o Over) (Swept, error) {
	out := Swept{Over: o.Over, Of: o.Of, X: []float64{}, Y: []*float64{}}
	document, field, err := ready(kind, data, o.Over)
	if err != nil {
		return out, err
	}
	from, to, faults := between(field, o.From, o.To)
	if o.Steps == 0 {
		o.Steps = 100
	}
	if o.Steps < 2 || o.Steps > 1000 {
		faults.Add("query.steps", o.Steps, "2 to 1000", "%d steps are not 2 to 1000", o.Steps)
	}
	if len(faults) > 0 {
		return out, calc.Refuse(kind.Name, faults)
	}
	seen := false
	for i := range o.Steps + 1 {
		if err := ctx.Err(); err != nil {
			return out, err
		}
		x := from + (to-from)*float64(i)/float64(o.Steps)
		if field.Whole {
			if x = math.Round(x); len(out.X) > 0 && x == out.X[len(out.X)-1] {
				continue
			}
		}
		out.X = append(out.X, x)
		answer, err := run(ctx, kind, document, o.Over, x)
		if err != nil {
			out.Y = append(out.Y, nil)
			if out.Why == "" {
				out.Why = err.Error()
			}
			continue
		}
		if y, ok := numberAt(answer, o.Of); ok {
			out.Y, seen = append(out.Y, &y), true
		} else {
			out.Y = append(out.Y, nil)
		}
	}
	if !seen {
		var none intake.Faults
		none.Add("query.of", o.Of, "a figure of the answer", "the answer of %s has no figure %q over that range", kind.Name, o.Of)
		return out, calc.Refuse(kind.Name, none)
	}
	return out, nil
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

// between is the range an input is looked for in: as asked, within its own.
func between(field *Field, from, to *float64) (low, high float64, faults intake.Faults) {
	low, high = -1e6, 1e6
	if field.Min != nil {
		low = *field.Min
	}
	if field.Max != nil {
		high = *field.Max
	}
	if field.Above {
		low += 1e-9 * math.Max(1, math.Abs(high))
	}
	name := func(which string, given *float64) float64 {
		if *given < low-1e-12 || *given > high {
			faults.Add("query."+which, *given, fmt.Sprintf("%.6g to %.6g", low, high), "%s is between %.6g and %.6g, not %.6g", field.Label, low, high, *given)
		}
		return *given
	}
	a, b := low, high
	if from != nil {
		a = name("from", from)
	}
	if to != nil {
		b = name("to", to)
	}
	if a >= b && len(faults) == 0 {
		faults.Add("query.to", b, fmt.Sprintf("more than %.6g", a), "the range ends (%.6g) where it begins (%.6g)", b, a)
	}
	return a, b, faults
}

// grid is where an input is tried: evenly, and where nobody has said between what also by ratios from
// its low end, so that what lies near nothing is not stepped over.
func grid(from, to float64, field *Field, wide bool) []float64 {
	var xs []float64
	for i := range places {
		xs = append(xs, from+(to-from)*float64(i)/(places-1))
	}
	if span := to - from; wide {
		for i := range places {
			xs = append(xs, from+span*math.Pow(1e-7, 1-float64(i)/(places-1)))
		}
		if from < 0 && to > 0 {
			for i := range places {
				near := math.Pow(1e-6, 1-float64(i)/(places-1))
				xs = append(xs, to*near, from*near)
			}
			xs = append(xs, 0)
		}
	}
	if field.Whole {
		for i := range xs {
			xs[i] = math.Round(xs[i])
		}
		if to-from <= 2000 {
			xs = xs[:0]
			for x := math.Ceil(from); x <= to; x++ {
				xs = append(xs, x)
			}
		}
	}
	slices.Sort(xs)
	return slices.Compact(xs)
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

// CSV writes a sweep as a table: the input, the figure; empty where the kind refuses.
func (s *Swept) CSV() []byte {
	var out bytes.Buffer
	fmt.Fprintf(&out, "%s,%s\n", s.Over, s.Of)
	for i, x := range s.X {
		y := ""
		if s.Y[i] != nil {
			y = strconv.FormatFloat(*s.Y[i], 'g', -1, 64)
		}
		fmt.Fprintf(&out, "%s,%s\n", strconv.FormatFloat(x, 'g', -1, 64), y)
	}
	return out.Bytes()
}
