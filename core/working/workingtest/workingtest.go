// Package workingtest helps tests look into the working of a sum.
package workingtest

import (
	"testing"

	"elkstay/core/working"
)

// Step finds a step of a sum by its symbol; a test without it fails.
func Step(t *testing.T, steps []working.Step, symbol string) working.Step {
	t.Helper()
	for _, s := range steps {
		if s.Symbol == symbol {
			return s
		}
	}
	t.Errorf("there is no step %s", symbol)
	return working.Step{}
}
