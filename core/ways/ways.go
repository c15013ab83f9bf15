// Package ways has the table of every way down. Each is worked out by a package of its own behind
// course.Way; what is the same for all of them asks this table, and a test holds it against every
// other place that must know a way.
package ways

import (
	"fmt"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/units"
	"elkstay/core/ways/bothends"
	"elkstay/core/ways/felled"
	"elkstay/core/ways/lifted"
	"elkstay/core/ways/loose"
	"elkstay/core/ways/roped"
)

// A row is one way down.
type row struct {
	way     course.Way
	because because
}

// A because says why a piece is proposed so; use is the nearest limit, per cent, lands where it comes down.
type because func(made course.Made, use float64, lands string) string

// table has one row for each way down.
var table = map[job.Way]row{
	job.WayThrown:    {loose.ByThrown, loosely("Light enough to throw, %s.")},
	job.WayFree:      {loose.ByFree, loosely("Goes free %s: no rope, no load.")},
	job.WayPastBlock: {roped.ByPastBlock, held("Lowered past its block")},
	job.WayFromAbove: {roped.ByFromAbove, held("Lowered from above")},
	job.WaySwung:     {roped.BySwung, held("Swung")},
	job.WayTwoPoints: {roped.ByTwoPoints, held("Carried across")},
	job.WayBothEnds:  {bothends.Way, held("Held at both ends")},
	job.WayCrane: {lifted.Way, func(_ course.Made, use float64, _ string) string {
		return fmt.Sprintf("Lifted off: %.0f %% of the nearest limit.", use)
	}},
	job.WayFelled: {felled.Way, loosely("Felled %s.")},
}

// Described is a way down as whoever draws a form needs to know it.
type Described struct {
	Way  job.Way        `json:"way"`
	Held course.Holding `json:"held"` // what holds the piece while it is cut
}

// All describes every way down, in the order in which they are offered.
func All() []Described {
	list := make([]Described, 0, len(table))
	for _, w := range job.Ways() {
		list = append(list, Described{w, Find(w).Held()})
	}
	return list
}

// Find is how a way down is worked out.
func Find(w job.Way) course.Way { return table[w].way }

// OnLine reports that a way down holds the piece on a line.
func OnLine(w job.Way) bool { return Find(w).Held() == course.HeldByLine }

// Because says why a piece is proposed so; use is the nearest limit, per cent, lands where it comes down.
func Because(w job.Way, made course.Made, use float64, lands string) string {
	return table[w].because(made, use, lands)
}

// loosely says where a piece comes down that nothing holds.
func loosely(format string) because {
	return func(_ course.Made, _ float64, lands string) string { return fmt.Sprintf(format, lands) }
}

// held says what a piece on its line comes to.
func held(how string) because {
	return func(made course.Made, use float64, _ string) string {
		s, run, peak := made.State(), "", 0.0
		if h := made.Held(); h != nil {
			peak = h.PeakKn
			if h.Runs {
				run = ", run " + s.Height(h.RunM)
			}
		}
		return fmt.Sprintf("%s: line %s%s, %.0f %% of the nearest limit.", how, units.Print(units.Force, s.System, peak), run, use)
	}
}
