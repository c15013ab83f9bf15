package bothends

import (
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course/coursetest"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

// A block of two lines bears line and lead together, by the angle between them at every moment of the way.
func TestEachBlockOfTwoLinesBearsItsWorstMoment(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	j.Site.Anchors[0].At, j.Site.Anchors[1].At = job.Spot{X: -3}, job.Spot{X: 6}
	j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "m2", AtM: 1}
	e := Way.Make(coursetest.Course(t, &j, 0)).(*BothEnds)
	for i, side := range e.sides {
		r := side.Settings.BlockEfficiency
		lead := r3.Unit(r3.Sub(side.Points[2].Vec(), side.Block))
		bears := func(tie r3.Vec, kn float64) float64 {
			return kn * r3.Norm(r3.Add(r3.Unit(r3.Sub(tie, side.Block)), r3.Scale(r, lead)))
		}
		rest, peak, most := 0.0, 0.0, 0.0
		for _, one := range e.moments {
			tied := one.hang.Ties[i]
			tie := e.plane.spot(tied.At, 0)
			rest, most = max(rest, bears(tie, tied.TensionKn)), max(most, tied.TensionKn)
		}
		caught := e.caught.PeakKn[i] * e.aside[i]
		for _, tie := range []r3.Vec{side.Tie, e.plane.spot(e.moments[0].hang.Ties[i].At, 0)} {
			peak = max(peak, rest, bears(tie, max(caught, most)))
		}
		found := 0
		for _, l := range e.Loads {
			if l.Rig == side.Rig && (l.Part == hold.PartBlock || l.Part == hold.PartSling) {
				found++
				// The lead leaves a turn of less than half with a little more of the line's tension.
				if !(l.RestKn >= rest) || !(l.RestKn <= 1.005*rest) || !(l.PeakKn >= peak) || !(l.PeakKn <= 1.005*peak) {
					t.Errorf("%s: %v kN at rest and %v at its peak, want %v and %v", l.Name, l.RestKn, l.PeakKn, rest, peak)
				}
			}
		}
		if found != 2 {
			t.Errorf("%d of block and sling are judged", found)
		}
	}
}
