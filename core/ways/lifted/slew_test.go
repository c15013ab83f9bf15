package lifted

import (
	"math"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/course/coursetest"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/space"
)

// How near a load comes to a place and to a box on its way round its crane, against a fine walk: any way round, from any radius to any.
func TestHowNearALoadPasses(t *testing.T) {
	t.Parallel()
	for _, s := range []slewing{
		{out: 6, far: 11, from: 40, turn: 95}, {out: 6, far: 6, from: 350, turn: -120}, {out: 2, far: 9, from: 200, turn: 310}, {out: 0.5, far: 14, from: 90, turn: -5},
	} {
		s.Lifted = &Lifted{crane: &job.Crane{At: job.Spot{X: 3, Y: -5}}}
		walk := func(inner float64, off func(x, y float64) float64) float64 {
			nearest := math.Inf(1)
			for k := range 721 {
				way := space.Towards(s.from + s.turn*float64(k)/720)
				for n := range 121 {
					radius := inner + (s.far-inner)*float64(n)/120
					nearest = min(nearest, off(3+radius*way.X, -5+radius*way.Y))
				}
			}
			return nearest
		}
		for _, at := range []r3.Vec{{X: 3, Y: 4}, {X: 14, Y: -5}, {X: -9, Y: -9}, {X: 3, Y: -18}, {X: 4, Y: -5.5}, {X: 20, Y: 9}} {
			want := walk(s.out, func(x, y float64) float64 { return math.Hypot(x-at.X, y-at.Y) })
			if got := s.asideOf(at); got > want+1e-9 || got < want-0.1 {
				t.Errorf("%+v passes %v at %v m, by a fine walk %v", s, at, got, want)
			}
			box := &job.Target{ID: "b", Box: &job.Box{Min: job.Spot{X: at.X - 0.5, Y: at.Y - 0.3}, Max: job.Spot{X: at.X + 0.5, Y: at.Y + 0.3}}, ToM: 1}
			j := jobtest.Stem()
			j.Site.Targets = []job.Target{*box}
			p := &coursetest.Scene(t, &j).Targets[0]
			for _, inner := range []float64{0, s.out} {
				want := walk(inner, func(x, y float64) float64 {
					return math.Hypot(max(0, math.Abs(x-at.X)-0.5), max(0, math.Abs(y-at.Y)-0.3))
				})
				missed := s.far * max(math.Abs(space.Radians(s.turn)), 1) / 72 / 2
				if got := s.aside(p, inner); got > want+1e-9 || got < want-2*missed-0.1 {
					t.Errorf("%+v passes a box at %v at %v m, from %v m out by a fine walk %v", s, at, got, inner, want)
				}
			}
		}
	}
}

// A neighbour higher than all else is lifted clear of.
func TestHowHighALiftGoes(t *testing.T) {
	j := jobtest.Two()
	j.Site.Targets = nil
	tall := 25.0
	j.Trees[1].HeightM = &tall
	s := coursetest.Scene(t, &j)
	o := &Lifted{Course: course.Course{Scene: s, Piece: &space.Piece{Tree: s.Trees[0], Now: s.Whole()[0]}}}
	// The neighbour's top is 0.2 m thick.
	if got := o.highest(); !(math.Abs(got-25.1) <= 0.01) {
		t.Errorf("highest %v, the neighbour 25 m", got)
	}
}

// Wood of another tree is never listed further from the way round than it is anywhere along it, nor much nearer.
func TestHowNearOthersWoodIsPassed(t *testing.T) {
	j := jobtest.Two()
	j.Site.Targets = nil
	scene := coursetest.Scene(t, &j)
	for k := range 45 {
		s := slewing{
			Lifted: &Lifted{
				Course: course.Course{Scene: scene, Piece: &space.Piece{Tree: scene.Trees[0], Now: scene.Whole()[0]}},
				crane:  &job.Crane{At: job.Spot{X: 3, Y: -5}},
			},
			rings: []ring{{r: 30}}, out: 8.5, far: 9.5, from: float64(8*k) + 0.3, turn: 40,
		}
		listed := map[space.WoodID]float64{}
		for _, w := range s.beneath() {
			if aside, is := listed[w.as]; !is || w.aside < aside {
				listed[w.as] = w.aside
			}
		}
		for _, w := range s.OthersWood(s.Now) {
			nearest := math.Inf(1)
			for _, part := range w.Parts {
				for n := range 1001 {
					nearest = min(nearest, max(0, s.asideOf(r3.Add(part.From, r3.Scale(float64(n)/1000, part.Along)))-part.R))
				}
			}
			if got, is := listed[w.ID]; !is || !(got <= nearest+1e-9 && got >= nearest-0.06) {
				t.Errorf("from %v°, %s is listed at %v m, by a fine walk %v", s.from, w.Name, got, nearest)
			}
		}
	}
}
