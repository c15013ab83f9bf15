package gear

import (
	"maps"
	"slices"
)

// Knots lists the ways of tying a line to a piece, by name.
func Knots() []string {
	return slices.DeleteFunc(slices.Sorted(maps.Keys(terminations)), func(name string) bool { return name == "none" })
}

// DefaultKnot ties a line to a piece when nobody has said how.
const DefaultKnot = "running-bowline"
