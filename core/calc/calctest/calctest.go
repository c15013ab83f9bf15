// Package calctest holds kinds against the reference cases: worked cases of the calculation
// contract, computed by a separate program written from the contract's text. A package of the
// core holds its own kinds with it, so that its own tests notice what goes wrong in it.
package calctest

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"elkstay/core/calc"
)

//go:embed cases.json
var cases []byte

//go:embed cases-2.json
var second []byte

//go:embed cases-3.json
var third []byte

// What more.py came to by itself.
//
//go:embed more.json
var more []byte

// A Case is one worked question.
type Case struct {
	Kind      string          `json:"kind"`
	Request   json.RawMessage `json:"request"`
	Expect    map[string]any  `json:"expect"`
	Tolerance float64         `json:"tolerance"` // relative
	// Absolute tolerances of fields by their paths, where they are the larger.
	Absolute map[string]float64 `json:"absolute"`
}

// All are the reference cases.
func All(t *testing.T) (all []Case) {
	t.Helper()
	for _, part := range [][]byte{cases, second, third, more} {
		var some []Case
		if err := json.Unmarshal(part, &some); err != nil {
			t.Fatal(err)
		}
		all = append(all, some...)
	}
	return all
}

// Hold fails a test where the kinds named differ from their reference cases.
func Hold(t *testing.T, kinds ...string) {
	t.Helper()
	held := map[string]bool{}
	for i, c := range All(t) {
		if !slices.Contains(kinds, c.Kind) {
			continue
		}
		held[c.Kind] = true
		t.Run(fmt.Sprintf("%s-%d", c.Kind, i), func(t *testing.T) { c.Hold(t) })
	}
	for _, kind := range kinds {
		if !held[kind] {
			t.Errorf("there is no reference case of %s", kind)
		}
	}
}

// Hold fails a test where the answer differs from the case.
func (c *Case) Hold(t *testing.T) {
	t.Helper()
	Compare(t, c.Kind, Answer(t, c.Kind, c.Request), c.Expect, c.Tolerance, c.Absolute)
}

// Answer asks a question as every door does, and reads its answer as JSON.
func Answer(t *testing.T, kind string, request []byte) (got any) {
	t.Helper()
	one, err := calc.Find(kind)
	if err != nil {
		t.Fatal(err)
	}
	answer, err := one.Run(t.Context(), request)
	if err != nil {
		t.Fatalf("%s of %s: %v", kind, request, err)
	}
	encoded, err := calc.Encode(answer)
	if err != nil {
		t.Fatal(err)
	}
	if err := json.Unmarshal(encoded, &got); err != nil {
		t.Fatal(err)
	}
	return got
}

// Compare checks that every figure of want stands in got, within the tolerance: relative, or
// absolute by its path without the kind where that is more.
func Compare(t *testing.T, path string, got, want any, tolerance float64, absolute map[string]float64) {
	t.Helper()
	switch want := want.(type) {
	case map[string]any:
		fields, ok := got.(map[string]any)
		if !ok {
			t.Errorf("%s: got %v, want an object", path, got)
			return
		}
		for name, value := range want {
			field, ok := fields[name]
			if !ok {
				t.Errorf("%s: no field %s", path, name)
				continue
			}
			Compare(t, path+"."+name, field, value, tolerance, absolute)
		}
	case []any:
		items, ok := got.([]any)
		if !ok || len(items) != len(want) {
			t.Errorf("%s: got %v, want %d entries", path, got, len(want))
			return
		}
		for i := range want {
			Compare(t, fmt.Sprintf("%s[%d]", path, i), items[i], want[i], tolerance, absolute)
		}
	case float64:
		figure, ok := got.(float64)
		_, field, _ := strings.Cut(path, ".")
		if !ok || math.Abs(figure-want) > max(tolerance*math.Max(math.Abs(want), 1e-6), absolute[field]) {
			t.Errorf("%s: got %v, want %v", path, got, want)
		}
	default:
		if got != want {
			t.Errorf("%s: got %v, want %v", path, got, want)
		}
	}
}
