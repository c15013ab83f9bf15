package calc

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"testing"
)

// TestReferenceCases holds every kind against testdata/cases.json: worked cases
// of the calculation contract, computed by a separate program written from the
// contract's text. tolerance is relative.
func TestReferenceCases(t *testing.T) {
	data, err := os.ReadFile("testdata/cases.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Kind      string          `json:"kind"`
		Request   json.RawMessage `json:"request"`
		Expect    map[string]any  `json:"expect"`
		Tolerance float64         `json:"tolerance"`
	}
	if err := json.Unmarshal(data, &cases); err != nil {
		t.Fatal(err)
	}
	held := map[string]int{}
	for i, c := range cases {
		kind, err := Find(c.Kind)
		if err != nil {
			continue
		}
		held[c.Kind]++
		t.Run(fmt.Sprintf("%d-%s", i, c.Kind), func(t *testing.T) {
			answer, err := kind.Run(t.Context(), c.Request)
			if err != nil {
				t.Fatal(err)
			}
			encoded, err := Encode(answer)
			if err != nil {
				t.Fatal(err)
			}
			var got any
			if err := json.Unmarshal(encoded, &got); err != nil {
				t.Fatal(err)
			}
			compare(t, c.Kind, got, c.Expect, c.Tolerance)
		})
	}
	if len(held) != 16 {
		t.Errorf("reference cases hold %d kinds, want the contract's 16", len(held))
	}
}

// compare checks that every figure of want stands in got, within the tolerance.
func compare(t *testing.T, path string, got, want any, tolerance float64) {
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
			compare(t, path+"."+name, field, value, tolerance)
		}
	case []any:
		items, ok := got.([]any)
		if !ok || len(items) != len(want) {
			t.Errorf("%s: got %v, want %d entries", path, got, len(want))
			return
		}
		for i := range want {
			compare(t, fmt.Sprintf("%s[%d]", path, i), items[i], want[i], tolerance)
		}
	case float64:
		figure, ok := got.(float64)
		if !ok || math.Abs(figure-want) > tolerance*math.Max(math.Abs(want), 1e-6) {
			t.Errorf("%s: got %v, want %v", path, got, want)
		}
	default:
		if got != want {
			t.Errorf("%s: got %v, want %v", path, got, want)
		}
	}
}
