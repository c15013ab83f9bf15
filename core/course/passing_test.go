package course_test

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

// A clearance is never larger than what a fine walk along the way finds, and not much
// smaller.
func TestClearancesAlongAWay(t *testing.T) {
	j := jobtest.Whole()
	s := coursetest.Scene(t, &j)
	v := s.Trees[0]
	c := course.Course{Scene: s, Piece: &space.Piece{Tree: v}}
	now := v.Standing()
	places := []r3.Vec{}
	for k := range 40 {
		places = append(places, r3.Vec{X: -1 - float64(k)*0.05, Y: 0.3, Z: 9 - 0.15*float64(k)})
	}
	way := ballAlong(0.4, places...)
	got := c.Measure(way, v.WoodBut(func(int) bool { return true }, now))
	want := math.Inf(1)
	for _, at := range places {
		dx, dz := math.Max(0, at.X+3), math.Max(0, at.Z-3)
		want = math.Min(want, math.Hypot(dx, dz)-0.4)
	}
	if len(got) != 1 || got[0].Name != "shed" {
		t.Fatalf("got %+v", got)
	}
	if short := want - got[0].ClearanceM; short < 0 || short > 0.1 {
		t.Errorf("clearance of the shed %v, is %v", got[0].ClearanceM, want)
	}
	if far := c.Measure(ballAlong(0.4, r3.Vec{X: 40}), v.WoodBut(func(int) bool { return true }, now)); len(far) != 0 {
		t.Errorf("40 m off it names %+v", far)
	}
	brushing := c.Measure(ballAlong(1, v.Limbs[2].At(2)), v.WoodBut(func(int) bool { return false }, now))
	for _, c := range brushing {
		if c.Name == "mid limb" && c.Near() && c.Strikes() {
			t.Errorf("on the tree's own limb it strikes: %+v", c)
		}
	}
}

// Something near a power line is noted as far as is looked, and over where it is nearer than is kept.
func TestWhatIsNotedOfALine(t *testing.T) {
	j := jobtest.Stem()
	s := coursetest.Scene(t, &j)
	clear := s.Limits.ClearM
	target := &job.Target{ID: "w", Name: "wire", Kind: "building"}
	for _, c := range []struct {
		near, metres float64
		want         string
	}{{clear, 0, "within"}, {clear - 0.001, 0, "over"}, {6, 0, "within"}, {6.01, 0, ""}, {8.99, 8, "within"}, {9.01, 8, ""}} {
		o := &course.Course{Scene: s}
		o.ComesNear(target, c.near, c.metres)
		got := ""
		if len(o.Clears) > 0 {
			got = map[bool]string{false: "within", true: "over"}[o.Clears[0].Strikes()]
		}
		if got != c.want {
			t.Errorf("%v m from what takes %v: %q, want %q", c.near, c.metres, got, c.want)
		}
	}
	o := &course.Course{Scene: s}
	for _, near := range []float64{4, 2, 3} {
		o.ComesNear(target, near, 2.5)
	}
	if len(o.Clears) != 1 || o.Clears[0].ClearanceM != 2 {
		t.Errorf("the nearest of three: %+v", o.Clears)
	}
}

// Who stands by the cut is who cuts, wherever the tree stands.
func TestInTheTreeIsByItsFoot(t *testing.T) {
	j := jobtest.Stem()
	j.Trees[0].At = &job.Spot{X: 7, Y: -11}
	c := course.Course{Piece: &space.Piece{Tree: coursetest.Scene(t, &j).Trees[0]}}
	for at, want := range map[job.Spot]bool{{X: 7, Y: -11}: true, {X: 8.9, Y: -11}: true, {X: 9.1, Y: -11}: false, {X: 7, Y: -12.9}: true, {X: 7, Y: -13.1}: false, {}: false, {X: -7, Y: 11}: false} {
		if got := c.InTheTree(&job.Post{At: at}); got != want {
			t.Errorf("at %+v: %v", at, got)
		}
	}
}

// ballAlong is the way of a ball from place to place.
func ballAlong(r float64, places ...r3.Vec) *space.Sweep {
	s := space.SweepOf([]space.Part{{R: r, WoodR: r}})
	for i, at := range places {
		s.Add(space.Turned(r3.Vec{}, 0, at), i == 0)
	}
	return &s
}
