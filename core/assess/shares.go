package assess

import "iter"

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
