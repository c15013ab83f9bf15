package search_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"elkstay/core/search"
)

// The root of a rising figure, from below its bounds to beyond them.
func TestRoot(t *testing.T) {
	if got := search.Root(60, 0, 2, func(x float64) float64 { return x*x - 2 }); math.Abs(got-math.Sqrt2) > 1e-12 {
		t.Errorf("√2 is %v", got)
	}
	if got := search.Root(40, 1, 3, func(x float64) float64 { return x + 1 }); math.Abs(got-1) > 1e-9 {
		t.Errorf("above nought all the way: %v", got)
	}
	if got := search.Root(40, 1, 3, func(x float64) float64 { return x - 5 }); math.Abs(got-5) > 1e-6 {
		t.Errorf("beyond its upper bound: %v", got)
	}
}

// Of many moments a few, and always the last and those that are named.
func TestSome(t *testing.T) {
	if got := slices.Collect(search.Some(10, 3, 1)); !slices.Equal(got, []int{0, 1, 4, 8, 9}) {
		t.Errorf("%v", got)
	}
	if got := slices.Collect(search.Some(3, 10)); !slices.Equal(got, []int{0, 1, 2}) {
		t.Errorf("%v", got)
	}
	for range search.Some(10, 3) {
		break // whoever has enough goes
	}
}

func TestLargestAndHarder(t *testing.T) {
	figures := []float64{2, 7, -1, 7}
	if got := search.Largest(len(figures), func(i int) float64 { return figures[i] }); got != 1 {
		t.Errorf("the first of the largest is %d", got)
	}
	if search.Harder(2, -3) != -3 || search.Harder(-3, 2) != -3 {
		t.Error("to either side the larger counts")
	}
}

func ExampleShares() {
	for share := range search.Shares(4) {
		fmt.Print(share, " ")
	}
	// Output: 0 0.25 0.5 0.75 1
}
