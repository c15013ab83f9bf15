package plan

import (
	"math"
	"strings"
	"testing"

	"gonum.org/v1/gonum/spatial/r3"

	"elkstay/core/gear"
	"elkstay/core/timber"
)

// Gear sits where it is said to: on the stem at its height, out along a limb, on what
// stands around.
func TestWhereGearSits(t *testing.T) {
	j := tree()
	j.Site.TreeAt = &Spot{10, -4}
	j.Site.Anchors = []Anchor{{ID: "w", Name: "willow", Kind: AnchorTree, At: Spot{3, 8}}}
	v := surveyOf(t, &j)
	now := v.whole()
	for _, c := range []struct {
		place Place
		want  r3.Vec
	}{
		{Place{On: OnStem, AtM: 9}, r3.Vec{X: 10, Y: -4, Z: 9}},
		{Place{On: OnAnchor, Anchor: "w", AtM: 7}, r3.Vec{X: 3, Y: 8, Z: 7}},
		{Place{On: OnLimb, Limb: "c", AtM: 2}, r3.Vec{X: 10 - 2*math.Sin(radians(55)), Y: -4, Z: 11 + 2*math.Cos(radians(55))}},
	} {
		got, why := v.place(&c.place, &now, nil)
		if why != "" || r3.Norm(r3.Sub(got, c.want)) > 1e-9 {
			t.Errorf("%+v: %v %q, want %v", c.place, got, why, c.want)
		}
	}
	v.take(&now, 2, 1)
	for want, place := range map[string]Place{
		"gone there by now": {On: OnLimb, Limb: "c", AtM: 2}, "not on this tree": {On: OnLimb, Limb: "z"},
		"not on the site": {On: OnAnchor, Anchor: "z"}, "which is gone: it stands to 18.00 m": {On: OnStem, AtM: 19},
	} {
		if _, why := v.place(&place, &now, nil); !strings.Contains(why, want) {
			t.Errorf("%+v: %q, want %q", place, why, want)
		}
	}
}

// What stands where falls with it: a limb with its fork, a top with its limbs.
func TestWhatComesOffTakesWhatIsOnIt(t *testing.T) {
	j := tree()
	v := surveyOf(t, &j)
	now := v.whole()
	v.take(&now, 0, 1.5)
	if now.tips[0] != 1.5 || now.tips[1] != 0 || now.tips[2] != 4.5 {
		t.Errorf("a limb cut short of its fork leaves %v", now.tips)
	}
	v.takeTop(&now, 10)
	if now.top != 10 || now.tips[0] != 1.5 || now.tips[2] != 0 || now.tips[3] != 0 {
		t.Errorf("a top leaves %v m and %v", now.top, now.tips)
	}
	v.takeTop(&now, 15)
	if now.top != 10 {
		t.Errorf("a second cut above the first puts it back up to %v m", now.top)
	}
}

// A vehicle or another tree that is held to is never taken on trust.
func TestHoldingToSomethingElseIsSaid(t *testing.T) {
	j := job()
	j.Site.Anchors = []Anchor{{ID: "v", Name: "tractor", Kind: AnchorVehicle, At: Spot{8, 0}, MassKg: of(3000)}, {ID: "g", Name: "stake", Kind: AnchorGround, At: Spot{8, 0}}}
	for id, want := range map[string]bool{"v": true, "g": false} {
		j.Rigs[0].Device.Place = &Place{On: OnAnchor, Anchor: id, AtM: 0.6}
		said := strings.Contains(strings.Join(assess(&j, "p1").Detail.Cautions, " "), "look before you load it")
		if said != want {
			t.Errorf("held to %s: said so %v", id, said)
		}
	}
}

// A second line that a pick does not use is not held to.
func TestASecondLineCountsWhereItIsUsed(t *testing.T) {
	j := tree()
	j.Site.Anchors = []Anchor{{ID: "w", Name: "willow", Kind: AnchorTree, At: Spot{0, 14}}}
	j.Rigs[0].Second = &SecondLine{Place: Place{On: OnAnchor, Anchor: "w", AtM: 13}}
	j.Rigs[0].Block.Place = &Place{On: OnStem, AtM: 16}
	for way, want := range map[string]bool{WayFromAbove: false, WayTwoPoints: true} {
		j.Picks[1].Way, j.Picks[1].CarryM = way, of(10)
		if said := strings.Contains(strings.Join(assess(&j, "p2").Detail.Cautions, " "), "Held to willow"); said != want {
			t.Errorf("%s: said so %v", way, said)
		}
	}
}

// Ivy and a hung branch weigh on the piece they ride with, and nowhere else.
func TestDefectsThatWeigh(t *testing.T) {
	j := job()
	bare := assess(&j, "").Picks[0].MassKg.Likely
	j.Tree.Defects = []Defect{{ID: "i", Kind: DefectIvy, AtM: 15.5, ToM: of(17), MassKg: of(30)}, {ID: "h", Kind: DefectHung, AtM: 9, MassKg: of(12)}}
	near(t, "with its ivy", assess(&j, "").Picks[0].MassKg.Likely, bare+30)
	j.Tree.Attached = []timber.Lump{{MassKg: 5, AtM: 16}}
	near(t, "and a stub", assess(&j, "").Picks[0].MassKg.Likely, bare+35)
}

// A bare pole is its frustum with the wood's density, and its fork rides with it.
func TestABarePole(t *testing.T) {
	j := tree()
	j.Tree.Limbs[0].Brush = BrushBare
	v := surveyOf(t, &j)
	now := v.whole()
	r1, r2 := 0.14/2, tipDiameter/2
	pole := math.Pi * 4 / 3 * (r1*r1 + r1*r2 + r2*r2) * v.density.Likely
	fork := v.limbMass(1, 0, &now)
	near(t, "pole and fork", v.limbMass(0, 0, &now).kg.Likely, pole+fork.kg.Likely)
	v.take(&now, 1, 0)
	near(t, "pole alone", v.limbMass(0, 0, &now).kg.Likely, pole)
	j.Tree.Limbs[2].MassKg = of(90)
	v = surveyOf(t, &j)
	now = v.whole()
	near(t, "judged by eye", v.limbMass(2, 0, &now).kg.Likely, 90)
	outer := v.limbMass(2, 2, &now).kg.Likely
	v.take(&now, 2, 2)
	near(t, "and its parts", v.limbMass(2, 0, &now).kg.Likely+outer, 90)
}

// Slings are judged in the hitch they are set in.
func TestHitchesOfTheBlocksSling(t *testing.T) {
	j := job()
	for hitch, factor := range map[string]float64{"": 0.8, "choker": 0.8, "basket": 2, "vertical": 1} {
		j.Rigs[0].Sling = Sling{Hitch: hitch, Rating: gear.Rating{MarkedKn: of(20)}}
		near(t, "as a "+hitch, *rung(t, assess(&j, "p1"), partSling).LimitKn, 20*factor)
	}
}
