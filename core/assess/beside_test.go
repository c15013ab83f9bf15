package assess

import (
	_ "embed"
	"encoding/json"
	"math"
	"strings"
	"testing"

	"elkstay/core/gear"
	"elkstay/core/hold"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

//go:embed testdata/beside.json
var besideStems []byte

// What a stem feels under a piece that falls past its block is what a beam followed in time feels, by a program of its own
// (testdata/beside.py): never less, and at most 15 % more, whatever the angle at which the face closes.
func TestTheStemUnderAPieceThatFallsPastIt(t *testing.T) {
	t.Parallel()
	var cases []struct {
		Name      string
		ThickM    float64 `json:"thick_m"`
		CutM      float64 `json:"cut_m"`
		LongM     float64 `json:"long_m"`
		HoldKn    float64 `json:"hold_kn"`
		SlackM    float64 `json:"slack_m"`
		StressMpa float64 `json:"stress_mpa"`
	}
	if err := json.Unmarshal(besideStems, &cases); err != nil || len(cases) < 7 {
		t.Fatal(err, len(cases))
	}
	for _, c := range cases {
		j := jobtest.Pole()
		for i := range j.Trees[0].Readings {
			j.Trees[0].Readings[i].TapeM = c.ThickM
		}
		j.Trees[0].Readings[1].AtM = c.CutM + c.LongM
		r := &j.Rigs[0]
		r.Rope.Elongation, r.Rope.DynamicFactor = []gear.Stretch{{LoadPct: 100, StrainPct: 10}}, 1.4
		r.Tie.AboveM, r.Block.BelowCutM, r.SlackM, r.Block.Efficiency, r.Device.AtM = jobtest.Of(0.5), jobtest.Of(0.6), &c.SlackM, jobtest.Of(0.9), jobtest.Of(1.2)
		r.Catch.How, r.Catch.HoldKn = job.ByHold, &c.HoldKn
		if c.HoldKn == 0 {
			r.Catch.How = job.Locked
		}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatStem, CutM: &c.CutM, Way: job.WayPastBlock, Rig: "r1"}}
		_, o := worked(t, &j)
		found := false
		for i := range o.Loads {
			l := &o.Loads[i]
			if l.Part != hold.PartSpar {
				continue
			}
			found = true
			// Of 57 MPa a third.
			if got := l.Use() * 57 / 3; !(got >= c.StressMpa && got <= 1.15*c.StressMpa) {
				t.Errorf("%s: %.2f MPa %s, followed %.2f", c.Name, got, l.When, c.StressMpa)
			} else {
				t.Logf("%s: %.2f MPa %s, followed %.2f", c.Name, got, l.When, c.StressMpa)
			}
		}
		if !found {
			t.Errorf("%s: the stem is not judged", c.Name)
		}
	}
}

// What holds the block elsewhere has the line's force at its own angle: a piece that falls east past a block on the tree beside
// it comes tight well to the side, so that this tree bends more than by the line straight down, and towards the piece. One
// that sways slower than the catch, at half a hertz, feels it as it stands; one at twice that more, and twice as much at the most.
func TestAnotherTreeHoldsAPieceThatFallsPastIt(t *testing.T) {
	t.Parallel()
	aside := func(thick float64) float64 {
		j := jobtest.Two()
		j.Site.Targets = nil
		j.Trees[0].Limbs, j.Trees[1].Limbs = nil, nil
		j.Trees[1].At = &job.Spot{X: 0, Y: 0.5}
		j.Trees[1].Readings = []job.Reading{{AtM: 0, Tape: job.Diameter, TapeM: thick}, {AtM: 16, Tape: job.Diameter, TapeM: thick}}
		j.Trees[1].HeightM, j.Trees[1].TopDiameterM = nil, nil
		j.Rigs[0].Block.Place = &job.Place{On: job.OnStem, Tree: "2", AtM: 14.4}
		j.Picks = []job.Pick{{ID: "p1", What: job.WhatStem, CutM: jobtest.Of(15), Way: job.WayPastBlock, Rig: "r1", FallTowardsDeg: jobtest.Of(90)}}
		_, o := worked(t, &j)
		for i := range o.Loads {
			l := &o.Loads[i]
			if l.Part != hold.PartHolder || l.Name != "north ash" {
				continue
			}
			if l.Dir.X < 0.3 || l.Dir.Z > -0.3 || l.Dir.Y > 0 {
				t.Errorf("it pulls along %v", l.Dir)
			}
			return l.PeakKn * l.Dir.X
		}
		t.Errorf("the other tree is not judged: %+v", o.Loads)
		return 0
	}
	slender, stiff := aside(0.36), aside(1.2)
	if stiff < 1.2*slender || stiff > 2*slender || aside(0.3) != slender {
		t.Errorf("a stiff tree is bent as by %v kN aside, a slender one by %v", stiff, slender)
	}
}

// A piece with ivy of which nobody knows what it weighs is not known, though all else is within.
func TestIvyNobodyWeighed(t *testing.T) {
	j := jobtest.Stem()
	was := assess(&j, "p1")
	j.Trees[0].Defects = []job.Defect{{ID: "i", Kind: job.DefectIvy, AtM: 15.5, ToM: jobtest.Of(17)}}
	a := assess(&j, "p1")
	if got := rung(t, a, hold.PartPiece); got.Verdict != policy.NotKnown || !strings.Contains(got.Reason, "ivy at 15.50 m") {
		t.Errorf("the piece is %s: %s", got.Verdict, got.Reason)
	}
	if rung(t, was, hold.PartPiece).Verdict != policy.Within {
		t.Error("without ivy it is not known either")
	}
}

// A lead that leads off towards the piece stands nearer to its line as that comes tight beside the stem than once it hangs: square to each
// other the legs press the block with √(1 + r²) of the line, half that angle apart with more, in line with 1 + r at the most.
func TestALeadTowardsThePieceLoadsItsBlock(t *testing.T) {
	t.Parallel()
	j := jobtest.Stem()
	j.Site.Anchors = []job.Anchor{{ID: "m", Name: "mast", Kind: job.AnchorTree, At: job.Spot{X: 12}, HeightM: jobtest.Of(20), Rating: gear.Rating{MarkedKn: jobtest.Of(90)}}}
	j.Rigs[0].Device.Place = &job.Place{On: job.OnAnchor, Anchor: "m", AtM: 14.4}
	j.Picks[0].FallTowardsDeg = jobtest.Of(90)
	_, o := worked(t, &j)
	var line, block float64
	for i := range o.Loads {
		switch l := &o.Loads[i]; l.Part {
		case hold.PartLine:
			line = l.PeakKn
		case hold.PartBlock:
			block = l.PeakKn
		}
	}
	r := o.Settings.BlockEfficiency
	if share := block / line; share < 1.1*math.Hypot(1, r) || share > 1+r {
		t.Errorf("the block sees %v of its line; hanging %v, in line %v", share, math.Hypot(1, r), 1+r)
	}
}
