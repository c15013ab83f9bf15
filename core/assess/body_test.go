package assess

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/course"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
	"elkstay/core/space"
)

// between asserts that a distance is never kinder than the truth, and less than 0.1 m short
// of it.
func between(t *testing.T, what string, got, truth float64) {
	t.Helper()
	if got > truth+1e-9 || got < truth-0.1 {
		t.Errorf("%s: got %v m, is %v", what, got, truth)
	}
}

// clearOf is how close a pick comes to a target.
func clearOf(t *testing.T, a Assessment, name string) float64 {
	t.Helper()
	for _, c := range a.Detail.Clear {
		if c.Name == name {
			return c.ClearanceM
		}
	}
	t.Fatalf("no clearance of %s in %v", name, a.Detail.Clear)
	return 0
}

// A stem piece of three metres that tips over its cut passes a wire strung across its way: its
// tip goes round on a circle until the face closes at 70°, its wood reaching 0.1 m more.
func TestTheWholeOfAPieceIsSwept(t *testing.T) {
	j := jobtest.Stem()
	j.Picks[0].FallTowardsDeg = jobtest.Of(90)
	// The wire crosses the way 3.6 m from the cut, at 60° from upright: 0.6 m from the tip's
	// circle, less half of the top's 0.2 m.
	at := job.Spot{X: 3.6 * math.Sin(math.Pi/3), Y: 0}
	z := 15 + 3.6*math.Cos(math.Pi/3)
	j.Site.Targets = []job.Target{{ID: "w", Name: "wire", Kind: "fence", Outline: []job.Spot{{X: at.X, Y: -20}, {X: at.X, Y: 20}}, FromM: z, ToM: z + 1e-3}}
	between(t, "wire outside the tip's circle", clearOf(t, assess(&j, "p1"), "wire"), 0.6-0.1)
	// Within the circle, half way along the piece, it is struck by the middle of it.
	j.Site.Targets[0].Outline = []job.Spot{{X: 1.5 * math.Sin(math.Pi/4), Y: -20}, {X: 1.5 * math.Sin(math.Pi/4), Y: 20}}
	j.Site.Targets[0].FromM, j.Site.Targets[0].ToM = 15+1.5*math.Cos(math.Pi/4), 15.001+1.5*math.Cos(math.Pi/4)
	a := assess(&j, "p1")
	if got := clearOf(t, a, "wire"); got >= 0 || a.Picks[0].Verdict != policy.Over || a.Picks[0].Worst != "strikes wire" {
		t.Errorf("the middle passes through the wire: %v m, %s, %q", got, a.Picks[0].Verdict, a.Picks[0].Worst)
	}
}

// A top's limbs are swept in their places: a wall beside the way is met by their tips, not by
// the stem.
func TestATopsLimbsAreSwept(t *testing.T) {
	j := jobtest.Stem()
	j.Trees[0].Limbs = []job.Limb{{ID: "s", Name: "side limb", AtM: 16, AzimuthDeg: 0, AngleDeg: 90, DiameterM: 0.08, LengthM: 2.5, Brush: job.BrushBare}}
	j.Picks[0].What, j.Picks[0].FallTowardsDeg = job.WhatTop, jobtest.Of(90)
	j.Site.Targets = []job.Target{{ID: "h", Name: "house", Kind: "building", Outline: []job.Spot{{X: -30, Y: 4}, {X: 30, Y: 4}, {X: 30, Y: 9}, {X: -30, Y: 9}}, ToM: 30}}
	// The limb's tip, of tipDiameter, is 2.5 m north of the axis all along the tipping.
	between(t, "house beside the way", clearOf(t, assess(&j, "p1"), "house"), 4-2.5-0.02/2)
}

// The nearest of a swept body against a walk of the same body in fine steps, over random
// movements and boxes: never kinder.
func TestASweepIsNeverKinderThanAFineWalk(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(7, 7))
	between := func(a, b float64) float64 { return a + (b-a)*random.Float64() }
	for range 60 {
		long := between(0.5, 6)
		direction := r3.Unit(r3.Vec{X: between(-1, 1), Y: between(-1, 1), Z: between(0.1, 1)})
		balls := []space.Part{}
		count := int(math.Ceil(long / 0.16))
		for i := range count + 1 {
			balls = append(balls, space.Part{Off: r3.Scale(long*float64(i)/float64(count), direction), R: 0.1, Gap: long / float64(count), WoodR: 0.1})
		}
		axis := r3.Unit(r3.Vec{X: between(-1, 1), Y: between(-1, 1), Z: between(-1, 1)})
		turn, shift := between(-math.Pi, math.Pi), r3.Vec{X: between(-3, 3), Y: between(-3, 3), Z: between(-6, 0)}
		start := r3.Vec{Z: 10}
		move := func(share float64) space.Pose {
			return space.Turned(axis, turn*share, r3.Add(start, r3.Scale(share, shift)))
		}
		s := space.SweepOf(balls)
		s.Along(move)
		low := job.Spot{X: between(-6, 6), Y: between(-6, 6)}
		box := space.PrismOf(&job.Target{Box: &job.Box{Min: low, Max: job.Spot{X: low.X + 2, Y: low.Y + 1}}, ToM: between(1, 12)})
		got := s.Nearest(40, nil, box.Distance)
		truth := math.Inf(1)
		for k := range 401 {
			rotation := r3.NewRotation(turn*float64(k)/400, axis)
			at := r3.Add(start, r3.Scale(float64(k)/400, shift))
			for i := range 101 {
				place := r3.Add(at, rotation.Rotate(r3.Scale(long*float64(i)/100, direction)))
				dx, dy := math.Max(0, math.Max(low.X-place.X, place.X-low.X-2)), math.Max(0, math.Max(low.Y-place.Y, place.Y-low.Y-1))
				dz := math.Max(0, place.Z-box.ToM)
				truth = math.Min(truth, math.Sqrt(dx*dx+dy*dy+dz*dz)-0.1)
			}
		}
		if got > truth+1e-6 || truth > 0.02 && got < truth-0.1 {
			t.Fatalf("got %v, is %v", got, truth)
		}
	}
}

// What is looked through in groups, from the nearest on, is what each part in each pose comes to: the least distance, less
// what may be missed between neighbours and poses, by Pythagoras.
func TestNearestIsThatOfEveryPartInEveryPose(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(4, 11))
	between := func(a, b float64) float64 { return a + (b-a)*random.Float64() }
	spot := func(r float64) r3.Vec { return r3.Vec{X: between(-r, r), Y: between(-r, r), Z: between(-r, r)} }
	met, missed := 0, 0
	for range 200 {
		balls := []space.Part{}
		for range 1 + random.IntN(3) {
			from, to, n := spot(1), spot(4), 1+random.IntN(25)
			for i := range n {
				balls = append(balls, space.Part{Off: space.OnTheWay(from, to, float64(i)/float64(n)), R: between(0.02, 0.5), Gap: r3.Norm(r3.Sub(to, from)) / float64(n), WoodR: 0.02})
			}
		}
		s := space.SweepOf(balls)
		for range 1 + random.IntN(3) {
			axis, turn, from, to := spot(1), between(-3, 3), spot(5), spot(5)
			s.Along(func(share float64) space.Pose {
				return space.Turned(axis, turn*share*share, space.OnTheWay(from, to, share))
			})
		}
		base, tip := spot(8), spot(8)
		wood := space.WoodOf(4, func(share float64) (r3.Vec, float64) { return space.OnTheWay(base, tip, share), 0.4 - 0.3*share })
		skip := func(b *space.Part) bool { return b.R > 0.4 }
		want, within := math.Inf(1), between(0.2, 6)
		for i := range balls {
			if skip(&balls[i]) {
				continue
			}
			for k := range s.Poses {
				at := s.Poses[k].Place(balls[i].Off)
				off := math.Inf(1)
				for n := range 4 {
					// Against each straight part, as thick as it is below.
					a, b := space.OnTheWay(base, tip, float64(n)/4), space.OnTheWay(base, tip, float64(n+1)/4)
					share := r3.Dot(r3.Sub(at, a), r3.Sub(b, a)) / r3.Dot(r3.Sub(b, a), r3.Sub(b, a))
					off = math.Min(off, r3.Norm(r3.Sub(at, space.OnTheWay(a, b, math.Max(0, math.Min(1, share)))))-(0.2-0.15*float64(n)/4))
				}
				off = math.Max(0, off)
				half := 0.0
				for _, next := range []int{k - 1, k + 1} {
					if next >= 0 && next < len(s.Poses) && !s.Leaps[max(k, next)] {
						half = math.Max(half, r3.Norm(r3.Sub(s.Poses[next].Place(balls[i].Off), at))/2)
					}
				}
				want = math.Min(want, math.Sqrt(math.Max(0, off*off-half*half-balls[i].Gap*balls[i].Gap/4))-balls[i].R)
			}
		}
		if want >= within {
			want = math.Inf(1)
			missed++
		} else {
			met++
		}
		if got := s.Nearest(within, skip, wood.Distance); got != want && !(math.Abs(got-want) <= 1e-9) {
			t.Fatalf("got %v, one by one %v", got, want)
		}
	}
	if met < 50 || missed < 10 {
		t.Errorf("%d met, %d not", met, missed)
	}
}

// A movement that hurries is followed as finely where it does: no part moves further than twice a stride.
func TestAMovementThatHurriesIsFollowedFinely(t *testing.T) {
	s := space.SweepOf([]space.Part{{Off: r3.Vec{X: 1}}, {Off: r3.Vec{X: 4}}})
	s.Along(func(share float64) space.Pose {
		return space.Turned(r3.Vec{Z: 1}, math.Pow(share, 9), r3.Vec{Y: share})
	})
	for k := 1; k < len(s.Poses); k++ {
		moved := r3.Norm(r3.Sub(s.Poses[k].Place(s.Parts[1].Off), s.Poses[k-1].Place(s.Parts[1].Off)))
		if moved > 2*space.StrideM || moved == 0 {
			t.Errorf("stride %d: %v m", k, moved)
		}
	}
	if last := s.Poses[len(s.Poses)-1].Place(r3.Vec{X: 4}); !(r3.Norm(r3.Sub(last, r3.Vec{X: 4 * math.Cos(1), Y: 1 + 4*math.Sin(1)})) <= 1e-9) {
		t.Errorf("it ends at %v", last)
	}
	// It turns into another pose about a place, by the shortest way, and does not roll.
	grown := space.Turned(r3.Vec{}, 0, r3.Vec{Z: 10})
	level := space.Turned(r3.Vec{Y: 1}, math.Pi/2, r3.Vec{})
	half := grown.Towards(&level, 0.5, r3.Vec{Z: 1}, r3.Vec{Z: 12})
	want := r3.Vec{X: -2 * math.Sin(math.Pi/4), Z: 12 - 2*math.Cos(math.Pi/4)}
	if !(r3.Norm(r3.Sub(half.At, want)) <= 1e-9) || !(r3.Norm(r3.Sub(half.Y, r3.Vec{Y: 1})) <= 1e-9) {
		t.Errorf("half way over: %+v", half)
	}
	over := half.Onto(r3.Vec{Z: 1}, r3.Vec{X: 1}, r3.Vec{X: 5})
	if !(r3.Norm(r3.Sub(over.Z, r3.Vec{X: 1})) <= 1e-9) || !(r3.Norm(r3.Sub(over.Y, r3.Vec{Y: 1})) <= 1e-9) || over.At.X != 5 {
		t.Errorf("over: %+v", over)
	}
}

// A piece swings under its block and beyond, not where it grows.
func TestWhereASwingGoes(t *testing.T) {
	j := jobtest.Whole()
	j.Picks[1].Way = job.WaySwung
	j.Rigs[0].Catch.How = job.Locked
	a := assess(&j, "p2") // grows to the west
	if call := a.Picks[1].Call; !strings.HasPrefix(call, "Swings E,") {
		t.Errorf("a limb to the west under a block on the stem: %q", call)
	}
	j.Site.Sectors = []job.Sector{{ID: "e", Name: "east side", FromDeg: 60, ToDeg: 120}}
	a = assess(&j, "p2")
	if got := codes(a.Picks[1]); len(got) == 0 || got[0] != course.FaultSector {
		t.Errorf("into the sector it swings to: %v", a.Picks[1].Faults)
	}
}

// Turning the whole site changes nothing; a nearer target never clears more.
func TestClearancesTurnWithTheSite(t *testing.T) {
	t.Parallel()
	last := -math.MaxFloat64
	for _, off := range []float64{1, 1.5, 2, 3, 4} {
		kept := math.NaN()
		for _, turn := range []float64{0, 37, 120, 260} {
			j := jobtest.Stem()
			j.Picks[0].FallTowardsDeg = jobtest.Of(turn)
			over, across := space.Towards(turn), space.Towards(turn+90)
			spot := func(out, aside float64) job.Spot {
				return job.Spot{X: out*over.X + aside*across.X, Y: out*over.Y + aside*across.Y}
			}
			j.Site.Targets = []job.Target{{ID: "h", Name: "wall", Kind: "building", Outline: []job.Spot{spot(-9, off), spot(9, off), spot(9, off+1), spot(-9, off+1)}, ToM: 25}}
			got := clearOf(t, assess(&j, "p1"), "wall")
			if !math.IsNaN(kept) && !(math.Abs(got-kept) <= 1e-6) {
				t.Errorf("turned by %v° it clears %v m, not %v", turn, got, kept)
			}
			kept = got
		}
		if kept < last {
			t.Errorf("%v m off it clears %v m, nearer %v", off, kept, last)
		}
		last = kept
	}
}

// A heavier piece is never gentler on anything, and a thinner holder never holds more.
func TestHeavierIsNeverGentler(t *testing.T) {
	t.Parallel()
	for _, pick := range []string{"p2", "p3", "p4"} {
		last := map[string]float64{}
		for _, kg := range []float64{40, 80, 120, 200, 320, 500} {
			j := jobtest.Whole()
			for i := range j.Picks {
				j.Picks[i].MassKg = jobtest.Of(kg)
			}
			for _, r := range assess(&j, pick).Detail.Ladder {
				sees := math.Max(value(r.PeakKn), r.RestingKn)
				if sees < last[r.Part]-1e-9 {
					t.Errorf("%s of %v kg: %s sees %v kN, lighter %v", pick, kg, r.Part, sees, last[r.Part])
				}
				last[r.Part] = sees
			}
		}
	}
	held := 0.0
	for _, diameter := range []float64{0.06, 0.1, 0.16, 0.24} {
		j := jobtest.Whole()
		j.Trees[0].Limbs[3].DiameterM = diameter
		j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "d", AtM: 0.5}
		j.Picks[2].Way = job.WayFree
		got := rung(t, assess(&j, "p2"), hold.PartHolder)
		if got.LimitKn == nil || *got.LimitKn < held {
			t.Errorf("a limb of %v m holds %v kN, a thinner %v", diameter, got.LimitKn, held)
			continue
		}
		held = *got.LimitKn
	}
	if held == 0 {
		t.Error("no limb holds")
	}
}

func value(v *float64) float64 {
	if v == nil {
		return 0
	}
	return *v
}

// Gear on a limb pulls on the stem at the limb's arm: by hand, a force straight down of F at an
// arm a bends the stem with F·a beneath the limb, and further out is worse.
func TestALimbThatHoldsBendsTheStem(t *testing.T) {
	use := 0.0
	for _, out := range []float64{0.4, 1.2, 2.4} {
		j := jobtest.Whole()
		j.Rigs[0].Block.Place = &job.Place{On: job.OnLimb, Limb: "d", AtM: out}
		j.Picks[2].Way = job.WayFree
		a := assess(&j, "p2")
		got := rung(t, a, hold.PartSpar)
		if value(got.UsePct) <= use {
			t.Errorf("a block %v m out on a limb: the stem takes %v %%, nearer %v", out, value(got.UsePct), use)
		}
		use = value(got.UsePct)
	}
}

// A limb of a top hangs as far below as it reaches, beyond the stem's own end.
func TestATopHangsByItsLimbs(t *testing.T) {
	j := jobtest.Stem()
	j.Picks[0].What = job.WhatTop
	j.Rigs[0].Catch.How = job.Locked
	bare := *assess(&j, "p1").Detail.Room.LowestM
	j.Trees[0].Limbs = []job.Limb{{ID: "u", Name: "up limb", AtM: 17, AngleDeg: 0, DiameterM: 0.03, LengthM: 3, Brush: job.BrushBare}}
	// Its tip is 2 m beyond the stem's 18 m; weight and run change by little.
	if got := bare - *assess(&j, "p1").Detail.Room.LowestM; got < 2 || got > 2.3 {
		t.Errorf("it hangs %v m lower", got)
	}
}

// What grows on a piece hangs below it: beyond its tip when it hangs tip down, beyond its cut when butt down; what has been
// taken off before does not.
func TestWhatGrowsOnAPieceHangsBelowIt(t *testing.T) {
	below := func(j *job.Job) float64 {
		t.Helper()
		v := surveyOf(t, j)
		stands := v.Whole()
		if len(j.Picks) > 1 {
			v.TakeOff(v.Now(stands), v.LimbIndex(j.Picks[1].Limb), 0)
		}
		o := v.WorkWith(&j.Picks[0], &j.Rigs[0], 0, v.Now(stands))
		if o.Stopped() {
			t.Fatal(o.Faults)
		}
		return o.Below(o.Settings.TieM)
	}
	j := jobtest.Pole(job.Limb{ID: "a", AtM: 8, AzimuthDeg: 90, AngleDeg: 90, LengthM: 4, DiameterM: 0.2, Brush: job.BrushBare},
		job.Limb{ID: "s", Parent: "a", AtM: 3, AzimuthDeg: 90, AngleDeg: 90, LengthM: 3, DiameterM: 0.1, Brush: job.BrushBare},
		job.Limb{ID: "d", AtM: 11, AzimuthDeg: 0, AngleDeg: 135, LengthM: 4, DiameterM: 0.1, Brush: job.BrushBare})
	j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, AtM: 11.5}
	j.Picks = []job.Pick{{ID: "p", What: job.WhatLimb, Limb: "a", Way: job.WayFromAbove, Rig: "r1", TieM: jobtest.Of(0.5)}}
	jobtest.Nearly(t, "a limb with one that grows beyond its tip", below(&j), 6-0.5)
	j.Picks = append(j.Picks, job.Pick{What: job.WhatLimb, Limb: "s"})
	jobtest.Nearly(t, "that one taken first", below(&j), 4-0.5)
	// A top of 2 m, tied a little under its tip: the limb that droops from its middle at 45° ends 2.83 m lower, 1.83 m under its cut.
	mast := job.Place{On: job.OnAnchor, Anchor: "m", AtM: 20}
	j.Site.Anchors = []job.Anchor{{ID: "m", Name: "mast", Kind: job.AnchorGround, HeightM: jobtest.Of(20)}}
	j.Rigs[0].Block.Place = &mast
	j.Picks = []job.Pick{{ID: "p", What: job.WhatTop, CutM: jobtest.Of(10), Way: job.WayFromAbove, Rig: "r1", TieM: jobtest.Of(1.9)}}
	jobtest.Nearly(t, "a top with a limb that droops beyond its cut", below(&j), 1.9+4*math.Sqrt2/2-1)
	j.Picks = append(j.Picks, job.Pick{What: job.WhatLimb, Limb: "d"})
	jobtest.Nearly(t, "that limb taken first", below(&j), 1.9)
}
