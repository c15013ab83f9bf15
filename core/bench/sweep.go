package bench

import (
	"bytes"
	"context"
	"fmt"
	"math"
	"slices"
	"strconv"

	"elkstay/core/calc"
	"elkstay/core/intake"
)

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
