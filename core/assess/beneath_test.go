package assess

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
)

// The highest that wood stands under a place, against a fine walk along it.
func TestUnderAPlaceAgainstAFineWalk(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(8, 2))
	f := func(low, high float64) float64 { return low + (high-low)*random.Float64() }
	found := 0
	for n := range 400 {
		from, to := r3.Vec{X: f(-4, 4), Y: f(-4, 4), Z: f(0, 8)}, r3.Vec{X: f(-4, 4), Y: f(-4, 4), Z: f(0, 8)}
		switch n % 5 {
		case 0:
			to.Z = from.Z // level
		case 1:
			to.X, to.Y = from.X, from.Y // upright
		}
		thick := f(0, 0.4)
		w := space.WoodOf(1, func(share float64) (r3.Vec, float64) { return r3.Add(from, r3.Scale(share, r3.Sub(to, from))), thick })
		x, y, within, below := f(-3, 3), f(-3, 3), f(0, 1.5), f(1, 8)
		want, is := math.Inf(-1), false
		const fine = 20000
		for k := range fine + 1 {
			at := r3.Add(from, r3.Scale(float64(k)/fine, r3.Sub(to, from)))
			if at.Z <= below && math.Hypot(at.X-x, at.Y-y) <= within+thick/2 {
				want, is = max(want, at.Z+thick/2), true
			}
		}
		got, told := w.Under(x, y, within, below)
		// What the walk finds is there; what it misses is less than a step long.
		if is && (!told || got < want-1e-9 || got > want+2e-3) || !is && told && n%5 > 1 && got < below-2e-3 && !(math.Abs(from.Z-to.Z) <= 1e-2) && within+thick/2 > 0.1 {
			t.Errorf("%+v to %+v, %v thick, within %v of %v, %v beneath %v: %v %v, by a walk %v %v", from, to, thick, within, x, y, below, got, told, want, is)
		}
		if is {
			found++
		}
	}
	if found < 40 {
		t.Errorf("%d of 400 beneath", found)
	}
}

// A long limb lies beneath a place wherever along it that is, and a log dropped past it may hang up on it.
func TestALongLimbBeneath(t *testing.T) {
	j := jobtest.Whole()
	j.Trees[0].Limbs = []job.Limb{{ID: "a", Name: "long limb", AtM: 5, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.2, LengthM: 10, Brush: job.BrushBare}}
	j.Picks, j.Site.Targets = nil, nil
	v := surveyOf(t, &j)
	now := v.Now(v.Whole())
	none := func(int) bool { return false }
	for x := 2.2; x < 10; x += 0.4 {
		// Its axis at 5 m, half as thick as it is somewhere near on top of that: 0.2 m at its base, 0.02 m at its tip.
		half := 0.1 - 0.009*x
		if f := v.FloorUnder(x, 0, 0.2, 9, v.WoodBut(none, now)); f.Name != "Long limb" && f.Name != "long limb" || f.Z < 5+half-1e-6 || f.Z > 5.1 {
			t.Errorf("%v m out: %+v", x, f)
		}
		if f := v.FloorUnder(x, 0.45, 0.2, 9, v.WoodBut(none, now)); f.Name != space.TheGround {
			t.Errorf("%v m out and past it: %+v", x, f)
		}
		l := v.landing(&course.Lands{Discs: []space.Disc{{X: x, Y: 0.2, R: 0.25}}, FromM: 9, HighestM: 9}, v.WoodBut(none, now))
		if len(l.HangsOn) != 1 {
			t.Errorf("dropped %v m out: %+v", x, l.HangsOn)
		}
		if l = v.landing(&course.Lands{Discs: []space.Disc{{X: x, Y: 0.2, R: 0.25}}, FromM: 4.9, HighestM: 4.9}, v.WoodBut(none, now)); len(l.HangsOn) != 0 {
			t.Errorf("dropped from beneath it: %+v", l.HangsOn)
		}
	}
}

// What is wide comes into a no-go sector beside its way; close to the foot, where all sectors meet, its middle counts.
func TestWhatIsWideComesIntoASector(t *testing.T) {
	j := jobtest.Whole()
	j.Site.Sectors = []job.Sector{{ID: "r", Name: "road", FromDeg: 100, ToDeg: 160}}
	v := surveyOf(t, &j)
	east := func(out, r float64) string { return v.SectorAt(space.Disc{X: v.Foot.X + out, Y: v.Foot.Y, R: r}) }
	// 10° off at 6 m: 6·sin 10° = 1.042 m.
	for _, c := range []struct {
		out, r float64
		want   string
	}{{6, 1.03, ""}, {6, 1.05, "road"}, {3.1, 0.53, ""}, {3.1, 0.545, "road"}, {2.9, 2.5, ""}, {5, 5.5, ""}, {0.9, 3, ""}} {
		if got := east(c.out, c.r); got != c.want {
			t.Errorf("%v m out, %v m wide: %q", c.out, c.r, got)
		}
	}
	at := r3.Add(v.Foot, r3.Scale(1.5, space.Towards(120)))
	if v.SectorAt(space.Disc{X: at.X, Y: at.Y, R: 0.2}) != "road" {
		t.Error("its middle in the sector")
	}
	from := r3.Add(v.Foot, r3.Scale(6, space.Towards(170)))
	if v.SectorAt(space.Disc{X: from.X, Y: from.Y, R: 1.05}) != "road" || v.SectorAt(space.Disc{X: from.X, Y: from.Y, R: 1.03}) != "" {
		t.Error("from the other side")
	}
}

// A top whose limbs reach over the edge of a sector tips into it, a bare one beside it does not; a limb swings into one
// with its tip, though its balance stays out.
func TestSectorsOfBodies(t *testing.T) {
	faults := func(j *job.Job) string { return strings.Join(codes(assess(j, j.Picks[0].ID).Picks[0]), " ") }
	top := func(limbs bool, from float64) string {
		j := jobtest.Stem()
		j.Site.Sectors = []job.Sector{{ID: "r", Name: "road", FromDeg: from, ToDeg: 170}}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatTop, CutM: jobtest.Of(9), Way: job.WayPastBlock, Rig: "r1", FallTowardsDeg: jobtest.Of(90)}}
		if limbs {
			j.Trees[0].Limbs = []job.Limb{{ID: "a", Name: "south limb", AtM: 14, AzimuthDeg: 180, AngleDeg: 90, DiameterM: 0.12, LengthM: 4, Brush: job.BrushBare}}
		}
		return faults(&j)
	}
	// Laid over, its limb lies 5 m out and reaches 4 m aside: atan(4/5) = 39° of it, 29° with its thick first metres off.
	for _, c := range []struct {
		limbs bool
		from  float64
		want  bool
	}{{false, 96, false}, {true, 96, true}, {true, 126, true}, {true, 131, false}} {
		if got := strings.Contains(top(c.limbs, c.from), course.FaultSector); got != c.want {
			t.Errorf("limbs %v, sector from %v°: %v", c.limbs, c.from, got)
		}
	}
	// A limb tied 3 m out under a block 5 m north of there swings as far beyond: to 3 m east and 10 m north, 16.7°, with a
	// tenth of a metre of wood, half a degree, to each side.
	for to, want := range map[float64]bool{15: false, 16.5: true} {
		j := jobtest.Hung(5)
		j.Site.Sectors = []job.Sector{{ID: "r", Name: "road", FromDeg: 340, ToDeg: to}}
		if got := strings.Contains(faults(&j), course.FaultSector); got != want {
			t.Errorf("swung beside a sector to %v°: %v", to, got)
		}
	}
}

// Who stands where a piece comes down that nothing holds puts it over, a metre beside it too; who is in the tree by
// the cut does not. What comes down on a line beside somebody is said.
func TestWhoStandsWhereItComesDown(t *testing.T) {
	t.Parallel()
	at := func(way job.Way, x, y float64) (over bool, cautions string) {
		j := jobtest.Stem()
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(17.2), Way: way, FallTowardsDeg: jobtest.Of(90)}}
		if way == job.WayBothEnds {
			j = jobtest.Carried()
		}
		j.Site.Posts = []job.Post{{ID: "o", Role: "ground lead", At: job.Spot{X: x, Y: y}}}
		j.Site.Zones = []job.Zone{{ID: "z", Name: "lawn", Outline: []job.Spot{{X: -30, Y: -30}, {X: 30, Y: -30}, {X: 30, Y: 30}, {X: -30, Y: 30}}}}
		j.Site.Targets = nil
		a := assess(&j, "p1")
		if len(a.Picks[0].Faults) > 0 {
			t.Error(a.Picks[0].Faults)
		}
		return a.Detail.Landing != nil && a.Detail.Landing.Verdict == policy.Over, strings.Join(a.Detail.Cautions, " ")
	}
	// Thrown from 17.2 m it flies 2.5·√(2·17.2/9.80665) = 4.68 m, and lies within max(1.5, 0.4 + a twentieth of the height) = 1.5 m of there.
	for _, c := range []struct {
		x, y float64
		says string
	}{{4.68, 0, "within 0.00 m"}, {4.68 + 1.5 + 0.6, 0, "within 0.60 m"}, {4.68 + 1.5 + 1.1, 0, ""}, {4.68, -2.1, "within 0.60 m"}, {1.9, 0, ""}, {-9, 0, ""}} {
		over, said := at(job.WayThrown, c.x, c.y)
		if over != (c.says != "") || strings.Contains(said, "where the ground lead stands") != over || !strings.Contains(said, c.says) {
			t.Errorf("at %v, %v: over %v, %q", c.x, c.y, over, said)
		}
	}
	if over, said := at(job.WayFree, 2.2, 0.6); !over || !strings.Contains(said, "where the ground lead stands") {
		t.Errorf("beside a log that falls free: %v, %q", over, said)
	}
	// Held at both ends from 0 to 6 m east it comes down where it grew.
	for y, said := range map[float64]bool{0.5: true, 1.05: true, 1.4: false} {
		if _, cautions := at(job.WayBothEnds, 3, y); strings.Contains(cautions, "nobody there until it lies") != said {
			t.Errorf("%v m beside its way down: %q", y, cautions)
		}
	}
}

// A load goes round over nobody: from 14 m north of its crane to 14 m east of it, over who stands between, 14 m out too, and
// not over who stands within, on the other side, or in the tree.
func TestALoadPassesOverNobody(t *testing.T) {
	j := jobtest.Lifted()
	for _, c := range []struct {
		deg, out float64
		over     bool
	}{{45, 14, true}, {70, 13, true}, {45, 5, false}, {225, 14, false}, {45, 25, false}, {0, 14.5, false}} {
		at := r3.Scale(c.out, space.Towards(c.deg))
		j.Site.Posts = []job.Post{{ID: "o", Role: "ground lead", At: job.Spot{X: at.X, Y: at.Y - 14}}}
		if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); strings.Contains(said, "passes over where the ground lead stands") != c.over {
			t.Errorf("at %v°, %v m out: %s", c.deg, c.out, said)
		}
	}
}

// A stem piece beneath a leader that outgrew it is said not to be lifted clear.
func TestALeaderThatOutgrewTheStem(t *testing.T) {
	j := jobtest.Lifted()
	j.Trees[0].Limbs = []job.Limb{{ID: "l", Name: "leader", AtM: 9, AzimuthDeg: 0, AngleDeg: 0, DiameterM: 0.2, LengthM: 30}}
	if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); !strings.Contains(said, "not lifted clear over its own tree") {
		t.Errorf("a leader up to 39 m: %s", said)
	}
	j.Trees[0].Limbs[0].LengthM = 5
	if said := strings.Join(assess(&j, "p1").Detail.Cautions, " "); strings.Contains(said, "not lifted clear over its own tree") {
		t.Errorf("a leader lower than its cut: %s", said)
	}
}

// A limb that carries the first of two points is bent hardest while the piece still hangs straight under it, though the
// lines pull harder later, flatter and along the limb.
func TestTheLimbUnderTheFirstPoint(t *testing.T) {
	j := jobtest.Whole()
	j.Site.Targets = nil
	j.Trees[0].Limbs = append(j.Trees[0].Limbs, job.Limb{ID: "arm", Name: "arm", AtM: 14, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.25, LengthM: 3, Brush: job.BrushBare},
		job.Limb{ID: "low", Name: "low", AtM: 9, AzimuthDeg: 90, AngleDeg: 90, DiameterM: 0.15, LengthM: 4, Brush: job.BrushBare})
	j.Site.Anchors = []job.Anchor{{ID: "m", Name: "mast", Kind: job.AnchorGround, At: job.Spot{X: 16}, HeightM: jobtest.Of(16), Rating: gear.Rating{MarkedKn: jobtest.Of(60)}}}
	j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "arm", AtM: 2.5}
	j.Rigs[0].Second = &job.SecondLine{Place: job.Place{On: job.OnAnchor, Anchor: "m", AtM: 16}, Rating: gear.Rating{MarkedKn: jobtest.Of(60)}}
	j.Picks = []job.Pick{{ID: "p1", What: job.WhatLimb, Limb: "low", Way: job.WayTwoPoints, Rig: "r1", TieM: jobtest.Of(2), CarryM: jobtest.Of(11.5)}}
	a := assess(&j, "p1")
	if len(a.Picks[0].Faults) > 0 {
		t.Fatal(a.Picks[0].Faults)
	}
	v := surveyOf(t, &j)
	now := v.Now(v.Whole())
	way := a.Detail.Carried
	if len(way) < 5 {
		t.Fatal(way)
	}
	var got float64
	for _, r := range a.Detail.Ladder {
		if r.Part == hold.PartHolder && r.Name == "arm" {
			got = *r.UsePct
		}
	}
	// Straight down: twice the weight, the lead with it; the lines' own losses only add to that.
	down := v.Wood(v.Tree).OnLimb(&hold.Pull{Place: j.Rigs[0].Block.Place, At: v.Limbs[len(v.Limbs)-2].At(2.5), Dir: r3.Vec{Z: -1}, PeakKn: 1.85 * a.Detail.Piece.MassKg.High * 9.80665 / 1000}, nil, now)
	if want := 100 * down.Use(); got < want {
		t.Errorf("the arm at %.1f %%, straight down alone it is at %.1f %%", got, want)
	}
}

// Tied within a seventh of its length of its balance either end may hang down; further off the heavy one does.
func TestWhichEndHangsDown(t *testing.T) {
	j := jobtest.Whole()
	v := surveyOf(t, &j)
	o := v.WorkWith(&j.Picks[0], &j.Rigs[0], 1, v.Now(v.Whole()))
	long := o.Length()
	for _, c := range []struct{ cog, tie, want float64 }{{0.4, 0.4, 0.6}, {0.4, 0.3, 0.7}, {0.4, 0.54, 0.54}, {0.4, 0.2, 0.8}, {0.3, 0.46, 0.46}, {0.4, 0.7, 0.7}, {0.6, 0.7, 0.7}} {
		o.Weight.CogM, o.Settings.TieM, o.ReachM = c.cog*long, c.tie*long, long
		if got := o.MostBelow(o.Settings.TieM); !(math.Abs(got-c.want*long) <= 1e-9) {
			t.Errorf("balance at %v, tied at %v: %v below of %v", c.cog, c.tie, got/long, c.want)
		}
	}
}
