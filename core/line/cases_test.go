package line_test

import (
	"testing"

	"elkstay/core/calc/calctest"
)

// The reference cases of its kinds.
func TestReferenceCases(t *testing.T) { calctest.Hold(t, "wraps", "line", "two-tie", "two-line") }
