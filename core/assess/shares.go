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

// mostBound is how far a root is looked for.
const mostBound = 1e6

// root is where a rising function comes to zero: between two bounds, of which the upper is doubled as long as it lies
// below; halved so often, from above.
func root(halvings int, low, high float64, of func(float64) float64) float64 {
	for of(high) < 0 && high < mostBound {
		high *= 2
	}
	for range halvings {
		if middle := (low + high) / 2; of(middle) < 0 {
			low = middle
		} else {
			high = middle
		}
	}
	return high
}

// hardest is the first of so many of which a figure is the largest.
func hardest(n int, figure func(int) float64) (most int) {
	for k := range n {
		if figure(k) > figure(most) {
			most = k
		}
	}
	return most
}
