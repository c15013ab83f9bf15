// Package sums has one bug that its test sees for each that it does not.
package sums

// Most is no more than so much of a sum.
func Most(a, b, most float64) float64 {
	if sum := a + b; sum < most {
		return sum
	}
	return most
}

// Never is run by nothing.
func Never(a float64) float64 { return -a }

// Count counts down.
func Count(n int) (steps int) {
	for n > 0 {
		n--
		steps++
	}
	return steps
}
