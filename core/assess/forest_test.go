package assess

import (
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
	"elkstay/core/wood"
)

// bent is a pole of 30 cm and a tonne to the cubic metre that leans a metre east over its
// first six and then stands upright to twelve.
func bent() job.Job {
	j := jobtest.Stem()
	j.Trees[0].Measured = job.Measured{
		Wood: wood.Wood{Density: &wood.Range{Low: 900, Likely: 1000, High: 1100}},
		Readings: []job.Reading{
			{AtM: 0, Tape: job.Diameter, TapeM: 0.3},
			{AtM: 6, Tape: job.Diameter, TapeM: 0.3, Offset: &job.Offset{OffM: 1, TowardsDeg: 90}},
			{AtM: 12, Tape: job.Diameter, TapeM: 0.3, Offset: &job.Offset{OffM: 1, TowardsDeg: 90}},
		},
	}
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(3), Way: job.WayFree}}
	return j
}

// A bent stem weighs along its axis and balances where its wood is: worked by hand.
func TestABentStem(t *testing.T) {
	j := bent()
	metre := math.Pi / 4 * 0.09 * 1000
	low, high := metre*3*math.Sqrt(1+1.0/36), metre*6
	d := assess(&j, "p1").Detail
	jobtest.Nearly(t, "mass", d.Piece.MassKg.Likely, low+high)
	// From 3 to 6 m its middle stands 0.75 m out at 4.5; above, 1 m out at 9.
	jobtest.Nearly(t, "balance, east", d.Piece.Cog.X, (low*0.75+high*1)/(low+high))
	jobtest.Nearly(t, "balance, up", d.Piece.Cog.Z, (low*4.5+high*9)/(low+high))
	jobtest.Nearly(t, "lean at the cut", d.Piece.OrientDeg, math.Atan(1.0/6)*180/math.Pi)
	v := surveyOf(t, &j)
	for z, x := range map[float64]float64{0: 0, 3: 0.5, 6: 1, 9: 1, 15: 1} {
		if got := v.OnStem(z); !(math.Abs(got.X-x) <= 1e-12) || got.Z != z || got.Y > 1e-12 {
			t.Errorf("the axis at %v m: %v", z, got)
		}
	}
	shape := assess(&j, "").Trees[0].Shape.Stem
	if len(shape) != 3 || !(math.Abs(shape[1][0]-1) <= 1e-12) || shape[1][2] != 6 {
		t.Errorf("drawn as %v", shape)
	}
	j.Trees[0].Readings[2].Offset.OffM = 15
	if a := assess(&j, ""); len(a.Faults) != 1 || a.Faults[0].Location != "body.trees[0].readings[2].offset.off_m" || !strings.Contains(a.Faults[0].Message, "67°") {
		t.Errorf("14 m aside over 6: %v", a.Faults)
	}
}

// A tree that nobody has measured holds up no other, and its own picks say so.
func TestATreeNotMeasuredYet(t *testing.T) {
	j := jobtest.Two()
	j.Trees[1].Measured = job.Measured{}
	j.Picks = append(j.Picks, job.Pick{ID: "p9", Tree: "2", What: job.WhatTop, Way: job.WayFree}, job.Pick{ID: "p10", Tree: "7", What: job.WhatTop, Way: job.WayFree})
	a := assess(&j, "p2")
	if a.Detail == nil || len(a.Detail.Stands) != 2 || a.Detail.Stands[1] != nil {
		t.Errorf("the first tree is not worked out: %+v", a.Detail)
	}
	last := a.Picks[len(a.Picks)-2:]
	if len(last[0].Faults) != 1 || !strings.Contains(last[0].Faults[0].Message, "north ash is not measured yet") || len(last[1].Faults) != 1 || !strings.Contains(last[1].Faults[0].Message, `no tree "7"`) {
		t.Errorf("its picks say %v and %v", last[0].Faults, last[1].Faults)
	}
	asked := ""
	for _, m := range a.Missing {
		asked += m.Location + " "
	}
	if asked != "trees[1].wood trees[1].readings " {
		t.Errorf("it asks for %q", asked)
	}
}

// A stem that bends twice, one way and then another, off a foot of its own: where its axis stands, how it leans, and what it
// weighs from bend to bend, all by hand.
func TestAStemThatBendsTwice(t *testing.T) {
	j := bent()
	j.Trees[0].At = &job.Spot{X: 3, Y: -2}
	j.Trees[0].Readings = []job.Reading{
		{AtM: 0, Tape: job.Diameter, TapeM: 0.3},
		{AtM: 4, Tape: job.Diameter, TapeM: 0.3, Offset: &job.Offset{OffM: 0.6, TowardsDeg: 90}},
		{AtM: 9, Tape: job.Diameter, TapeM: 0.3, Offset: &job.Offset{OffM: 2, TowardsDeg: 30}},
		{AtM: 12, Tape: job.Diameter, TapeM: 0.3, Offset: &job.Offset{OffM: 2.5, TowardsDeg: 180}},
	}
	v := surveyOf(t, &j)
	root3 := math.Sqrt(3)
	knots := [][3]float64{{0, 0, 0}, {0.6, 0, 4}, {1, root3, 9}, {0, -2.5, 12}}
	metre := math.Pi / 4 * 0.09 * 1000
	kg, mx, my, mz := 0.0, 0.0, 0.0, 0.0
	for k := 1; k < len(knots); k++ {
		a, b := knots[k-1], knots[k]
		for _, share := range []float64{0.25, 0.5, 0.9} {
			at := v.OnStem(a[2] + share*(b[2]-a[2]))
			for n, got := range []float64{at.X - 3, at.Y + 2} {
				if want := a[n] + share*(b[n]-a[n]); !(math.Abs(got-want) <= 1e-12) {
					t.Errorf("axis %v of the way from %v to %v: %v", share, a, b, at)
				}
			}
		}
		// Cut at 3 m: of the first piece only its last quarter is above.
		low := a
		if k == 1 {
			low = [3]float64{0.45, 0, 3}
		}
		long := math.Sqrt((b[0]-low[0])*(b[0]-low[0]) + (b[1]-low[1])*(b[1]-low[1]) + (b[2]-low[2])*(b[2]-low[2]))
		m := metre * long
		kg, mx, my, mz = kg+m, mx+m*(low[0]+b[0])/2, my+m*(low[1]+b[1])/2, mz+m*(low[2]+b[2])/2
	}
	d := assess(&j, "p1").Detail
	jobtest.Nearly(t, "mass along its axis", d.Piece.MassKg.Likely, kg)
	jobtest.Nearly(t, "balance, east", d.Piece.Cog.X, 3+mx/kg)
	jobtest.Nearly(t, "balance, north", d.Piece.Cog.Y, -2+my/kg)
	jobtest.Nearly(t, "balance, up", d.Piece.Cog.Z, mz/kg)
	jobtest.Nearly(t, "lean at the cut", d.Piece.OrientDeg, math.Atan(0.6/4)*180/math.Pi)
}

// While a tree stands it is in the way and can be held to; when it is down it is neither.
func TestAnotherTreeIsObstacleAndHolderWhileItStands(t *testing.T) {
	j := jobtest.Two()
	j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, Tree: "2", AtM: 16}
	j.Picks = []job.Pick{
		{ID: "p1", What: job.WhatLimb, Limb: "d", Way: job.WayFromAbove, Rig: "r1", CutM: jobtest.Of(1.5)},
		{ID: "p2", Tree: "2", What: job.WhatTop, CutM: jobtest.Of(9), Way: job.WayFree},
		{ID: "p3", What: job.WhatLimb, Limb: "c", Way: job.WayFromAbove, Rig: "r1"},
		{ID: "p4", Tree: "2", What: job.WhatLimb, Limb: "n", Way: job.WayFree},
	}
	a := assess(&j, "p3")
	for _, f := range a.Picks[0].Faults {
		if f.Code == course.FaultBlock && !strings.Contains(f.Message, "not above the tie") {
			t.Errorf("held to a standing tree: %s", f.Message)
		}
	}
	said := ""
	for _, f := range a.Picks[2].Faults {
		said += f.Message
	}
	if !strings.Contains(said, "north ash: on the stem at 16.00 m, which is gone") {
		t.Errorf("held to wood that is gone: %q", said)
	}
	if a.Picks[3].Tree != "2" || !strings.Contains(a.Picks[3].Title, "of north ash") {
		t.Errorf("the other tree's limb is called %q of %q", a.Picks[3].Title, a.Picks[3].Tree)
	}
	if left := a.Trees[1].Left; left.TopM != 9 || left.TipsM[0] != 0 || a.Trees[0].Left.TipsM[3] != 1.5 {
		t.Errorf("left standing: %v and %v", a.Trees[0].Left, left)
	}
	// Its stem stands three metres from (0, 1, 10), less half its thickness; the shed is beyond.
	v := surveyOf(t, &j)
	m := v.Whole()
	way := ballAlong(2.4, r3.Vec{Y: 1, Z: 10})
	none := func(int) bool { return true }
	thick, _ := v.Trees[1].Stem.DiameterAt(10)
	c := course.Course{Scene: v.Scene, Piece: &space.Piece{Tree: v.Tree}}
	found := c.Measure(way, v.WoodBut(none, v.Now(m)))
	if len(found) != 2 || found[0].Name != "north ash" || judged(&found[0]) != policy.Close {
		t.Fatalf("beside the other tree: %v", found)
	}
	if short := 3 - thick/2 - 2.4 - found[0].ClearanceM; short < 0 || short > 0.1 {
		t.Errorf("room to the other stem: %v m, %v too little", found[0].ClearanceM, short)
	}
	v.Trees[1].TakeTop(m[1], 5)
	if found = c.Measure(way, v.WoodBut(none, v.Now(m))); len(found) != 1 || found[0].Name != "shed" {
		t.Errorf("beside a tree that is down: %v", found)
	}
}
