package calc_test

import (
	"testing"

	"elkstay/core/calc/calctest"
)

// Every kind of the contract against its reference cases.
func TestReferenceCases(t *testing.T) {
	kinds := []string{}
	seen := map[string]bool{}
	for _, c := range calctest.All(t) {
		if !seen[c.Kind] {
			seen[c.Kind] = true
			kinds = append(kinds, c.Kind)
		}
	}
	if len(kinds) != 29 {
		t.Errorf("reference cases hold %d kinds, want the contract's 16, 8 and one of the third, and four beyond it", len(kinds))
	}
	calctest.Hold(t, kinds...)
}
