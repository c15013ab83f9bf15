package assess

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"elkstay/core/course"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// inSector reports that a piece is faulted for the no-go sector between two azimuths.
func inSector(j job.Job, from, to float64) bool {
	j.Site.Sectors = []job.Sector{{ID: "s", Name: "road", FromDeg: from, ToDeg: to}}
	a := assess(&j, "p1")
	return slices.Contains(codes(a.Picks[0]), course.FaultSector)
}

// A limb that grows to the east and is carried to under a point 5 m east and 8 m north comes to 32.0° round the foot,
// 9.4 m off; of its tenth of a metre of wood and half of the 0.2 m between two places that are looked at at most 1.5° more.
// A sector that it grows in it is not brought into.
func TestCarriedIntoANoGoSector(t *testing.T) {
	t.Parallel()
	j := jobtest.Carried()
	j.Site.Anchors[1].At = job.Spot{X: 5, Y: 8}
	j.Rigs[0].Second = &job.SecondLine{Place: *j.Rigs[1].Block.Place}
	p := &j.Picks[0]
	p.Way, p.Ends, p.TieM, p.CarryM = job.WayTwoPoints, nil, jobtest.Of(5.5), jobtest.Of(9)
	for _, c := range []struct {
		from, to float64
		want     bool
	}{{0, 30, false}, {0, 32, true}, {31, 40, true}, {80, 100, false}, {92, 300, false}, {0, 100, false}} {
		if got := inSector(j, c.from, c.to); got != c.want {
			t.Errorf("a sector from %v° to %v°: %v", c.from, c.to, got)
		}
	}
}

// A sector that the limb only touches as it grows it is brought into with its balance: carried from the east to 32° it passes 60°.
func TestCarriedOnIntoANoGoSector(t *testing.T) {
	j := jobtest.Carried()
	j.Site.Anchors[1].At = job.Spot{X: 5, Y: 8}
	j.Rigs[0].Second = &job.SecondLine{Place: *j.Rigs[1].Block.Place}
	p := &j.Picks[0]
	p.Way, p.Ends, p.TieM, p.CarryM = job.WayTwoPoints, nil, jobtest.Of(5.5), jobtest.Of(9)
	// Of a tenth of a metre of wood 3 m out 1.05° lie beside its axis, due east.
	for to, want := range map[float64]bool{89.5: true, 90.5: false} {
		if got := inSector(j, 20, to); got != want {
			t.Errorf("a sector to %v°: %v", to, got)
		}
	}
}

// A tag line draws a piece on one line or two out to the north: its butt, at the foot of the line that hangs 1 m east, comes
// into the sector there once it is more than 3 m off.
func TestDrawnIntoANoGoSector(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		pull float64
		want bool
	}{{0.1, false}, {0.9, true}} {
		j := jobtest.Carried()
		tagOn(&j, c.pull)
		a := assess(&j, "p1")
		if a.Detail.Tag == nil || (a.Detail.Tag.DownM > 3.2) != c.want || !c.want && a.Detail.Tag.DownM > 2.6 {
			t.Fatalf("the case is not what it is meant to be: %+v", a.Detail.Tag)
		}
		if got := inSector(j, 350, 30); got != c.want {
			t.Errorf("on two lines, %v kN draw it %v m: %v", c.pull, a.Detail.Tag.AsideM, got)
		}
	}
	for _, c := range []struct {
		pull, y float64
		want    bool
	}{{0.05, 0, false}, {0.6, 0, true}, {0.6, 5, false}} {
		j := jobtest.Hung(c.y)
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "lawn", Name: "lawn edge", Kind: job.AnchorGround, At: job.Spot{X: 3, Y: 40}})
		j.Picks[0].Tag = &job.Tag{Anchor: "lawn", TieM: jobtest.Of(2.9), PullKn: jobtest.Of(c.pull)}
		a := assess(&j, "p1")
		if a.Detail.Tag == nil {
			t.Fatal(a.Picks[0].Faults)
		}
		// Where it hangs plumb, 3 m east and 5 m north, it is in that sector without the tag line; its swing into it is told by itself.
		j.Site.Sectors = []job.Sector{{ID: "s", Name: "road", FromDeg: 10, ToDeg: 40}}
		b := assess(&j, "p1")
		if got := strings.Contains(fmt.Sprint(b.Picks[0].Faults), "its lines bring it into the no-go sector road"); got != c.want {
			t.Errorf("on one line %v m north, %v kN draw it %v m: %v", c.y, c.pull, a.Detail.Tag.AsideM, got)
		}
	}
}

// Tied at its balance, with the block 5 m north of there, a level limb may hang as it grew all the way, from 0 to 10 m north. Its
// butt then passes 3 m due north of the foot, where its tenth of a metre is 1.9°, and 1.15° where it hangs; its tip comes to 31° off north.
func TestSwungLevelIntoANoGoSector(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		from, to float64
		want     bool
	}{{340, 358.5, true}, {340, 356.5, false}, {22, 25, true}, {110, 300, false}} {
		j := jobtest.Hung(5)
		j.Picks[0].TieM = nil
		j.Site.Anchors[0].At.X = assess(&j, "p1").Detail.Piece.CogM
		if got := inSector(j, c.from, c.to); got != c.want {
			t.Errorf("a sector from %v° to %v°: %v", c.from, c.to, got)
		}
	}
}

// Let go 1.8 m out of the plane of its two lines a limb swings as far beyond it: its butt comes to 3.6 m north of the foot, where on
// its lines nothing of it is that far off but from 53° on. That is said, and no fault.
func TestSwingingThroughItsPlaneIntoASector(t *testing.T) {
	t.Parallel()
	for y, want := range map[float64]bool{1.8: true, 0: false} {
		j := jobtest.Carried()
		j.Site.Anchors[0].At.Y, j.Site.Anchors[1].At.Y = y, y
		j.Site.Sectors = []job.Sector{{ID: "s", Name: "road", FromDeg: 350, ToDeg: 40}}
		a := assess(&j, "p1")
		if got := strings.Contains(strings.Join(a.Detail.Cautions, " "), "it can swing into the no-go sector road: hold it off with a tag line."); got != want || len(a.Picks[0].Faults) != 0 {
			t.Errorf("%v m out of its plane: %v, %v", y, got, a.Picks[0].Faults)
		}
	}
}

// A lift 14 m from its crane and a quarter round it comes from the foot to 135°, along azimuths of 90° and half of how far
// it is round; it reaches 1.6 m from its balance, which where it is put down, 19.8 m off, is 4.6°.
func TestSlewedOverANoGoSector(t *testing.T) {
	for _, c := range []struct {
		from, to float64
		want     bool
	}{{103, 107, true}, {134, 150, true}, {138, 150, true}, {142, 350, false}, {0, 50, false}} {
		j := jobtest.Lifted()
		j.Site.Sectors = []job.Sector{{ID: "s", Name: "road", FromDeg: c.from, ToDeg: c.to}}
		a := assess(&j, "p1")
		if got := strings.Contains(strings.Join(a.Detail.Cautions, " "), "It comes over the no-go sector road on its way round."); got != c.want || roomOf(a) != policy.Within {
			t.Errorf("a sector from %v° to %v°: %v, %v", c.from, c.to, got, a.Picks[0].Faults)
		}
	}
	// Where it is put down nobody said, and it may go anywhere.
	j := jobtest.Lifted()
	j.Picks[0].Lift.SetDown = nil
	j.Site.Sectors = []job.Sector{{ID: "s", Name: "road", FromDeg: 103, ToDeg: 107}}
	if a := assess(&j, "p1"); strings.Contains(strings.Join(a.Detail.Cautions, " "), "road") {
		t.Error("a sector is told of a way that nobody said")
	}
}
