// Package search answers where along a range something holds: the places to look at, where a
// rising figure comes to nought, and where a figure is largest. Every room of the core looks
// with these, so that a bound and a tolerance are written once.
package search

import (
	"iter"
	"math"
	"slices"
)

// Shares are the shares of a whole, 0 to 1, at which so many even parts of it begin and end.
func Shares(parts int) iter.Seq[float64] {
	return func(yield func(float64) bool) {
		for k := range parts + 1 {
			if !yield(float64(k) / float64(parts)) {
				return
			}
		}
	}
}

// Some of n moments: no more than so many, evenly, and the last and those that are named with them.
func Some(n, most int, also ...int) iter.Seq[int] {
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

// Root is where a rising function comes to zero: between two bounds, of which the upper is doubled as long as it lies
// below; halved so often, from above.
func Root(halvings int, low, high float64, of func(float64) float64) float64 {
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

// Largest is the first of so many of which a figure is the largest.
func Largest(n int, figure func(int) float64) (most int) {
	for k := range n {
		if figure(k) > figure(most) {
			most = k
		}
	}
	return most
}

// Harder is the one of two figures that is further from nought, either way; of two alike the first.
func Harder(a, b float64) float64 {
	if math.Abs(b) > math.Abs(a) {
		return b
	}
	return a
}
