package timber

import (
	"math"

	"elkstay/core/wood"
)

// An End is the end of a stem that a piece is taken from.
type End string

// The two ends.
const (
	FromTop    End = "top"
	FromBottom End = "bottom"
)

// Piece returns the heights between which the piece of the given length lies, as
// taken from one end of the stem.
func (s Stem) Piece(from End, length float64) (lower, upper float64) {
	if from == FromBottom {
		return s.Bottom(), min(s.Top(), s.Bottom()+length)
	}
	return max(s.Bottom(), s.Top()-length), s.Top()
}

// LongestWithin returns the longest piece from one end of the stem whose mass is
// within limit (kg), floored to whole millimetres, m; whole reports that the
// entire stem is. The mass is the frustum's, at the high end of the density when
// useHigh is set, else at the likely one. Mass grows with length, so the search
// halves the interval. A length of 0 means that not even a millimetre fits: a
// lump sits at that end.
func (s Stem) LongestWithin(from End, limit float64, density wood.Range, useHigh bool) (length float64, whole bool) {
	fits := func(length float64) bool {
		lower, upper := s.Piece(from, length)
		if upper <= lower {
			return true
		}
		mass := s.WeighBetween(lower, upper, density, Frustum).MassKg
		if useHigh {
			return mass.High <= limit
		}
		return mass.Likely <= limit
	}
	total := s.Top() - s.Bottom()
	if fits(total) {
		return total, true
	}
	low, high := 0, int(math.Ceil(total*1000))
	for high-low > 1 {
		if middle := (low + high) / 2; fits(float64(middle) / 1000) {
			low = middle
		} else {
			high = middle
		}
	}
	return float64(low) / 1000, false
}
