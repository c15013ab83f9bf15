package drop

// Bounds of a step, s, and of the number of steps: a line too stiff to be followed
// is cut off, never followed without end.
const (
	longestStep      = 0.01
	longestTaut      = 0.002
	shortestStep     = 1e-9
	mostSteps        = 200_000
	eventsCloserThan = 1e-10
	asksEvery        = 512 // steps between looks whether anybody still waits

	// As near as a force is known: a step's error in forces, m and radians is a hundred-thousandth.
	coarser         = 1e3
	longestCoarse   = 0.03
	tautCoarse      = 0.008
	closerThanAFilm = 1e-6
)

// longest is the longest step of the present mode, s.
func (s *sim) longest() float64 {
	held := s.mode == taut || s.mode == running
	switch {
	case held && s.coarse:
		return tautCoarse
	case held:
		return longestTaut
	case s.coarse:
		return longestCoarse
	}
	return longestStep
}

// closeIn halves a step down to where what ends within it ends, and returns how long it is then and
// how many steps that took: an event costs as much as the steps it is closed in on by.
func (s *sim) closeIn(by *stepper, y, k *state, face, h float64, ended, hit bool) (at float64, steps int) {
	low, high := 0.0, h
	near := eventsCloserThan
	if s.coarse {
		near = closerThanAFilm
	}
	for high-low > near {
		middle := (low + high) / 2
		by.step(y, k, middle)
		steps++
		_, struck := s.struck(&by.next)
		if ended && s.passed(&by.next, face) || hit && s.mode != tipping && struck {
			high = middle
		} else {
			low = middle
		}
	}
	by.step(y, k, high)
	return high, steps
}
