// Package working holds the steps behind a figure, so that a person can redo the
// sum on paper.
package working

import (
	"math"
	"strconv"
)

// Common is the source of figures and rules that everyone in the trade uses and
// nobody published.
const Common = "common practice"

// A Step is one line of a sum: what is worked out, how, and what came of it. A
// length is in metres, a mass in kilograms, a force in kilonewtons; Unit says so
// in every line. Source names the published source, or says "common practice".
type Step struct {
	Symbol     string  `json:"symbol" doc:"Short name of the figure, as later expressions use it"`
	Label      string  `json:"label" doc:"What the figure is, in the trade's words"`
	Expression string  `json:"expression" doc:"How it is worked out, with the numbers put in"`
	Value      float64 `json:"value" doc:"What came of it"`
	Unit       string  `json:"unit" doc:"Unit of the value; empty for a bare ratio"`
	Source     string  `json:"source" doc:"Published source, or common practice"`
}

// A Sheet collects steps in the order they are worked out. The zero Sheet is
// ready to use.
type Sheet struct{ steps []Step }

// Add writes one step.
func (s *Sheet) Add(symbol, label, expression string, value float64, unit, source string) {
	s.steps = append(s.steps, Step{symbol, label, expression, value, unit, source})
}

// Append writes the steps of another sum behind those already there.
func (s *Sheet) Append(steps []Step) { s.steps = append(s.steps, steps...) }

// Steps returns all steps written so far, never nil.
func (s *Sheet) Steps() []Step {
	if s.steps == nil {
		return []Step{}
	}
	return s.steps
}

// Figure prints a number for an expression, to six significant digits; what rounding leaves of nothing is nothing.
func Figure(v float64) string {
	if math.Abs(v) < 1e-12 {
		v = 0
	}
	return strconv.FormatFloat(v, 'g', 6, 64)
}
