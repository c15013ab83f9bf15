package assess

import (
	"iter"
	"slices"
)

// shares are the shares of a whole at which so many even parts of it begin and end: from 0 to 1.
func shares(parts int) iter.Seq[float64] {
	return func(yield func(float64) bool) {
		for k := range parts + 1 {
			if !yield(float64(k) / float64(parts)) {
				return
			}
		}
	}
}

// some of n moments: no more than so many, evenly, and the last and those that are named with them.
func some(n, most int, also ...int) iter.Seq[int] {
	each := (n + most - 1) / most
	return func(yield func(int) bool) {
		for k := range n {
			if (k%each == 0 || k == n-1 || slices.Contains(also, k)) && !yield(k) {
				return
			}
		}
	}
}
