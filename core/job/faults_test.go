package job_test

import (
	"bytes"
	"encoding/json"
	"math"
	"strings"
	"testing"

	"elkstay/core/job"
	"elkstay/core/job/jobtest"
)

var of = jobtest.Of

// What contradicts itself in a job is named at its own field, and at its bounds it stands.
func TestWhatContradictsItself(t *testing.T) {
	for _, c := range []struct {
		what  string
		spoil func(j *job.Job)
		at    string
	}{
		{"nothing", func(*job.Job) {}, ""},
		{"a reading no higher", func(j *job.Job) { j.Trees[0].Readings[1].AtM = 0.5 }, "body.trees[0].readings[1].at_m"},
		{"a girth too wide", func(j *job.Job) { j.Trees[0].Readings[1].Tape, j.Trees[0].Readings[1].TapeM = job.Diameter, 10.1 }, "body.trees[0].readings[1].tape_m"},
		{"a cavity as wide as the stem", func(j *job.Job) { j.Trees[0].Readings[1].CavityM = 0.6 }, "body.trees[0].readings[1].cavity_m"},
		{"almost as wide", func(j *job.Job) { j.Trees[0].Readings[1].CavityM = 0.59 }, ""},
		{"as high as its highest reading", func(j *job.Job) { j.Trees[0].HeightM = of(6); j.Trees[0].Limbs = nil }, ""},
		{"lower than that", func(j *job.Job) { j.Trees[0].HeightM = of(5.9); j.Trees[0].Limbs = nil }, "body.trees[0].height_m"},
		{"a limb at the foot", func(j *job.Job) { j.Trees[0].Limbs[0].AtM = 0.4 }, "body.trees[0].limbs[0].at_m"},
		{"at the lowest reading", func(j *job.Job) { j.Trees[0].Limbs[0].AtM = 0.5 }, ""},
		{"above the top", func(j *job.Job) { j.Trees[0].Limbs[3].AtM = 18.1 }, "body.trees[0].limbs[3].at_m"},
		{"at the top", func(j *job.Job) { j.Trees[0].Limbs[3].AtM = 18 }, ""},
		{"a parent that is not there", func(j *job.Job) { j.Trees[0].Limbs[1].Parent = "x" }, "body.trees[0].limbs[1].parent"},
		{"its own parent", func(j *job.Job) { j.Trees[0].Limbs[1].Parent = "b" }, "body.trees[0].limbs[1].parent"},
		{"two deep", func(j *job.Job) { j.Trees[0].Limbs[2].Parent = "b" }, "body.trees[0].limbs[2].parent"},
		{"beyond its parent's tip", func(j *job.Job) { j.Trees[0].Limbs[1].AtM = 4 }, "body.trees[0].limbs[1].at_m"},
		{"a defect on no limb", func(j *job.Job) {
			j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectDecay, Limb: "x", AtM: 1}}
		}, "body.trees[0].defects[0].limb"},
		{"that ends before it begins", func(j *job.Job) {
			j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectDecay, AtM: 3, ToM: of(2.9)}}
		}, "body.trees[0].defects[0].to_m"},
		{"that ends where it begins", func(j *job.Job) {
			j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectDecay, AtM: 3, ToM: of(3)}}
		}, ""},
		{"ivy below the lowest reading", func(j *job.Job) {
			j.Trees[0].Defects = []job.Defect{{ID: "d", Kind: job.DefectIvy, AtM: 0.4, MassKg: of(20)}}
		}, "body.trees[0].defects[0].at_m"},
		{"an offset past 60°", func(j *job.Job) { j.Trees[0].Readings[0].Offset = &job.Offset{OffM: 0.9, TowardsDeg: 90} }, "body.trees[0].readings[0].offset.off_m"},
		{"within it", func(j *job.Job) { j.Trees[0].Readings[0].Offset = &job.Offset{OffM: 0.86, TowardsDeg: 90} }, ""},
		{"neither box nor outline", func(j *job.Job) { j.Site.Targets[0].Box = nil }, "body.site.targets[0].outline"},
		{"both", func(j *job.Job) { j.Site.Targets[0].Outline = []job.Spot{{}, {X: 1}} }, "body.site.targets[0].outline"},
		{"one corner", func(j *job.Job) { j.Site.Targets[0].Box, j.Site.Targets[0].Outline = nil, []job.Spot{{X: 4}} }, "body.site.targets[0].outline"},
		{"a line of two", func(j *job.Job) { j.Site.Targets[0].Box, j.Site.Targets[0].Outline = nil, []job.Spot{{X: 4}, {X: 9}} }, ""},
		{"a box that ends before it begins", func(j *job.Job) { j.Site.Targets[0].Box.Max.Y = -3 }, "body.site.targets[0].box.max"},
		{"in the other way too", func(j *job.Job) { j.Site.Targets[0].Box.Max.X = -8 }, "body.site.targets[0].box.max"},
		{"a roof below its floor", func(j *job.Job) { j.Site.Targets[0].FromM = 3 }, "body.site.targets[0].to_m"},
		{"a turn of nothing", func(j *job.Job) { j.Rigs[0].Redirects = []job.Redirect{{Name: "turn"}} }, "body.rigs[0].redirects[0].efficiency"},
		{"a turn of both", func(j *job.Job) {
			j.Rigs[0].Redirects = []job.Redirect{{Name: "turn", Efficiency: of(0.9), Friction: of(0.2)}}
		}, "body.rigs[0].redirects[0].efficiency"},
		{"a pulley", func(j *job.Job) { j.Rigs[0].Redirects = []job.Redirect{{Name: "turn", Efficiency: of(0.9)}} }, ""},
		{"a day that is none", func(j *job.Job) { j.WorkOn = "2026-02-30" }, "body.work_on"},
		{"a day", func(j *job.Job) { j.WorkOn = "2028-02-29" }, ""},
		{"a reason of a day that is none", func(j *job.Job) { j.Exceptions = []job.Exception{{ID: "x", On: "2026-13-01"}} }, "body.exceptions[0].on"},
		{"a load gone on a day that is none", func(j *job.Job) {
			j.Ground = &job.Ground{Trucks: []job.Truck{{ID: "t", Gone: []job.Gone{{ID: "a", On: "2026-01-01"}, {ID: "b", On: "2026-02-30"}}}}}
		}, "body.ground.trucks[0].gone[1].on"},
	} {
		j := jobtest.Whole()
		c.spoil(&j)
		faults := j.Faults()
		if c.at == "" && len(faults) > 0 || c.at != "" && (len(faults) != 1 || faults[0].Location != c.at) {
			t.Errorf("%s: %v, want one at %q", c.what, faults, c.at)
		}
	}
}

// A stem's axis: upright, leaning, or by its measured offsets; its stations and what hangs on it.
func TestAStemAsMeasured(t *testing.T) {
	near := func(what string, got, want float64) {
		t.Helper()
		if !(math.Abs(got-want) <= 1e-12) {
			t.Errorf("%s: %g, want %g", what, got, want)
		}
	}
	j := jobtest.Stem()
	tree := &j.Trees[0]
	if axis := tree.Axis(); len(axis) != 2 || axis[1] != (job.Knot{AtM: 1}) || tree.Bent() {
		t.Errorf("upright: %+v", axis)
	}
	tree.LeanDeg = of(10)
	near("towards north when nobody has said", tree.Axis()[1].Y, math.Tan(math.Pi/18))
	tree.LeanTowardsDeg = of(90)
	near("east", tree.Axis()[1].X, math.Tan(math.Pi/18))
	near("not north", tree.Axis()[1].Y, 0)
	tree.Readings[0].Offset, tree.Readings[1].Offset = &job.Offset{OffM: 0.1, TowardsDeg: 180}, &job.Offset{OffM: 0.5, TowardsDeg: 270}
	axis := tree.Axis()
	if len(axis) != 3 || !tree.Bent() {
		t.Fatalf("bent: %+v", axis)
	}
	near("south", axis[1].Y, -0.1)
	near("west", axis[2].X, -0.5)
	near("at its height", axis[2].AtM, 6)

	// Girth π·0.8 and a diameter of 0.6, the top at 18 m of 0.2 m; ivy between 2 and 6 m hangs all along it, three quarters
	// of it below 5 m; a hung branch in its middle.
	tree.Defects = []job.Defect{{ID: "i", Kind: job.DefectIvy, AtM: 2, ToM: of(6), MassKg: of(30)}, {ID: "j", Kind: job.DefectIvy, Limb: "a", AtM: 1, MassKg: of(9)}, {ID: "k", Kind: job.DefectDecay, AtM: 1}}
	stem := tree.Stem()
	kg, moment, below := 0.0, 0.0, 0.0
	for _, lump := range stem.Attached {
		kg, moment = kg+lump.MassKg, moment+lump.MassKg*lump.AtM
		if lump.AtM < 5 {
			below += lump.MassKg
		}
	}
	if len(stem.Stations) != 3 {
		t.Fatalf("%+v", stem)
	}
	near("ivy", kg, 30)
	near("its middle", moment/kg, 4)
	near("below 5 m", below, 22.5)
	hung := job.Defect{Kind: job.DefectHung, AtM: 1, ToM: of(3), MassKg: of(70)}
	for at, kg := range hung.Hangs() {
		near("a hung branch", at, 2)
		near("all of it", kg, 70)
	}
	near("by girth", stem.Stations[0].DiameterM, 0.8)
	near("by diameter", stem.Stations[1].DiameterM, 0.6)
	near("top", stem.Stations[2].DiameterM, 0.2)
	tree.TopDiameterM = nil
	near("a top nobody has measured", tree.Stem().Stations[2].DiameterM, 0.05)
	tree.Readings[1].TapeM = 0.03
	near("no thicker than what is under it", tree.Stem().Stations[2].DiameterM, 0.03)
	tree.HeightM = of(6)
	if got := len(tree.Stem().Stations); got != 2 {
		t.Errorf("no higher than its highest reading: %d stations", got)
	}
	if (&job.Target{Box: &job.Box{Min: job.Spot{X: 1, Y: 2}, Max: job.Spot{X: 4, Y: 7}}}).Corners()[1] != (job.Spot{X: 4, Y: 2}) {
		t.Error("the second corner of a box")
	}
	if tree.Title() != "tree "+tree.ID || (&job.Limb{ID: "x"}).Title() != "limb x" || (&job.Limb{ID: "x", Name: "long arm"}).Title() != "long arm" || tree.Foot() != (job.Spot{}) {
		t.Error("titles and foot")
	}
}

// Taken apart, a document is the same again once its picks are put back; what is none is not taken apart.
func TestADocumentIsTakenApart(t *testing.T) {
	j := jobtest.Whole()
	j.Note, j.Picks[0].Note = `a "picks" : [ {,} ] \`, `}],{ "`
	compact, err := json.Marshal(j)
	if err != nil {
		t.Fatal(err)
	}
	spaced, err := json.MarshalIndent(j, "", "\t")
	if err != nil {
		t.Fatal(err)
	}
	for _, written := range [][]byte{compact, spaced} {
		rest, picks, ok := job.Split(written)
		if !ok || len(picks) != len(j.Picks) {
			t.Fatalf("%v, %d picks", ok, len(picks))
		}
		for i, one := range picks {
			var pick job.Pick
			if err := json.Unmarshal(one, &pick); err != nil || pick.ID != j.Picks[i].ID || pick.Note != j.Picks[i].Note {
				t.Errorf("pick %d: %v %s", i, err, one)
			}
		}
		whole := bytes.Replace(rest, []byte(`"picks":`), append(append([]byte(`"picks":[`), bytes.Join(picks, []byte(","))...), ']'), 1)
		var again bytes.Buffer
		if err := json.Compact(&again, whole); err != nil || !bytes.Equal(again.Bytes(), compact) {
			t.Errorf("put together it is another: %v\n%s\n%s", err, again.Bytes(), compact)
		}
	}
	for _, bad := range []string{"", "[]", "{}", `{"name":"x"}`, `{"picks":{}}`, `{"picks":[`, `{"picks":[{"a":"`, `{"picks" []}`, `{"name":"x`, `{picks:[]}`} {
		if _, picks, ok := job.Split([]byte(bad)); ok && len(picks) > 0 {
			t.Errorf("%q is taken apart into %q", bad, picks)
		}
	}
	if _, picks, ok := job.Split([]byte(` { "picks" : [ ] } `)); !ok || len(picks) != 0 {
		t.Error("no picks are none")
	}
}

// The reasons on record, the trees by their ids, and what a rig stands at when nobody has filled it in.
func TestFindingWhatIsOnRecord(t *testing.T) {
	j := jobtest.Whole()
	j.Trees = append(j.Trees, job.Tree{ID: "t2", Name: "ash", At: &job.Spot{X: 5}})
	j.Exceptions = []job.Exception{{ID: "rope", State: "overdue"}, {ID: "block", State: "set aside"}}
	if got := j.Exception("block"); got == nil || got.State != "set aside" || j.Exception("sling") != nil {
		t.Errorf("%+v", got)
	}
	if j.TreeIndex("") != 0 || j.TreeIndex("t2") != 1 || j.TreeIndex("t9") != -1 || j.Trees[1].Title() != "ash" || j.Trees[1].Foot().X != 5 {
		t.Error("trees by their ids")
	}
	j.Rigs[0].Rope = nil
	j.Rigs[0].Tie.Item, j.Rigs[0].Block.Item, j.Site.Cranes = "tie", "block", []job.Crane{{ID: "c", Item: "mobile"}}
	items := j.Items()
	for _, id := range []string{"tie", "block", "mobile"} {
		found := false
		for _, one := range items {
			found = found || one == id
		}
		if !found {
			t.Errorf("%s is used and not listed: %v", id, items)
		}
	}
	if len(items) != 3 {
		t.Errorf("%v", items)
	}
}

// How a tree is felled when nothing is said: a face of a quarter, a hinge of a tenth, 1.3 on the moment.
func TestFellingByDefault(t *testing.T) {
	f := (&job.Pick{}).Felling(0.8)
	if *f.FaceDepthM != 0.2 || !(math.Abs(*f.LeftM-0.08) <= 1e-12) || !(math.Abs(*f.RightM-0.08) <= 1e-12) || *f.Margin != 1.3 || *f.BoredM != 0 || *f.NicksM != 0 || f.Pulled() || f.Wedged || *f.OpeningDeg != 70 || *f.BackUpM != 0.03 {
		t.Errorf("%+v", f)
	}
	p := job.Pick{Fell: &job.Fell{LeftM: of(0.05), Margin: of(2), Lines: []job.FellLine{{ID: "h", Holds: true, AtM: 9, Anchor: "post"}, {ID: "p", AtM: 9, Anchor: "stump"}}}}
	f = p.Felling(0.8)
	if *f.LeftM != 0.05 || *f.Margin != 2 || *f.Lines[1].AnchorM != 0.3 || *f.Lines[1].Parts != 1 || *f.Lines[1].People != 1 || *f.Lines[1].HaulMS != 0.15 || f.Lines[1].EffortKn != nil || !f.Pulled() || p.Fell.Lines[1].AnchorM != nil || p.Fell.FaceDepthM != nil {
		t.Errorf("%+v %+v, and as it was given %+v", f, f.Lines, p.Fell.Lines)
	}
}

// Version 3 had one line that pulls and one that holds: they become the first of many, and nothing is lost.
func TestThirdVersionIsRead(t *testing.T) {
	j, err := job.ReadJob([]byte(`{"format":"elkstay-job","version":3,"name":"old","site":{"targets":[],"zones":[],"sectors":[],"anchors":[],"cranes":[]},
		"trees":[{"id":"1","wood":{"species":"white-ash"},"readings":[],"limbs":[],"defects":[]}],"rigs":[],"limits":{},
		"picks":[{"id":"p1","what":"top","cut_m":0.4,"way":"felled","note":"n","fell":{"face_depth_m":0.2,"wedged":true,"margin":1.5,
			"pull":{"rig":"r","at_m":9,"anchor":"a","anchor_m":0.5,"parts":3,"effort_kn":4},"hold":{"at_m":8,"anchor":"b"}}},{"id":"p2","what":"stem","way":"free"}]}`))
	if err != nil {
		t.Fatal(err)
	}
	f := j.Picks[0].Fell
	if j.Version != job.Version || j.Name != "old" || len(j.Trees) != 1 || len(j.Picks) != 2 || j.Picks[0].Note != "n" || *j.Picks[0].CutM != 0.4 || j.Picks[1].Fell != nil || *f.FaceDepthM != 0.2 || !f.Wedged || *f.Margin != 1.5 || len(f.Lines) != 2 {
		t.Fatalf("%+v %+v", j, f)
	}
	if l := f.Lines[0]; l.ID != "pull" || l.Holds || l.Rig != "r" || l.AtM != 9 || l.Anchor != "a" || *l.AnchorM != 0.5 || *l.Parts != 3 || *l.EffortKn != 4 {
		t.Errorf("%+v", l)
	}
	if l := f.Lines[1]; l.ID != "hold" || !l.Holds || l.AtM != 8 || l.Anchor != "b" || l.Parts != nil {
		t.Errorf("%+v", l)
	}
	if _, err := job.ReadJob([]byte(`{"format":"elkstay-job","version":3,"name":"x","picks":[{"id":"p","what":"top","way":"felled","fell":{"pull":{"at_m":200,"anchor":"a"}}}]}`)); err == nil || !strings.Contains(err.Error(), "at_m") {
		t.Errorf("a bad figure of version 3: %v", err)
	}
}

// Version 1 had one cut: it becomes the first pick, and nothing is lost.
func TestFirstVersionIsRead(t *testing.T) {
	j, err := job.ReadJob([]byte(`{"format":"elkstay-job","version":1,"name":"old","note":"n",
		"tree":{"wood":{"species":"white-ash"},"readings":[{"at_m":1,"tape":"girth","tape_m":1.5}],"height_m":12},
		"cut":{"at_m":7.5},"rig":{"slack_m":0.4,"tie_above_cut_m":0.2,"block":{"below_cut_m":0.3,"marked_kn":30},"device":{"wraps":3,"friction":0.2}},
		"catch":{"how":"wraps","hand_kn":0.2},"limits":{"run_m":2,"hand_kn":0.3}}`))
	if err != nil {
		t.Fatal(err)
	}
	r := &j.Rigs[0]
	if j.Version != job.Version || j.Note != "n" || *j.Trees[0].HeightM != 12 || *j.Picks[0].CutM != 7.5 || j.Picks[0].What != job.WhatTop || j.Picks[0].Way != job.WayPastBlock ||
		j.Picks[0].Rig != r.ID || *r.SlackM != 0.4 || *r.Tie.AboveM != 0.2 || *r.Block.MarkedKn != 30 || *r.Device.Wraps != 3 || *r.Catch.HandKn != 0.2 || *j.Limits.RunM != 2 || *j.Limits.HandKn != 0.3 {
		t.Errorf("%+v", j)
	}
}

// Everything on the ground that contradicts itself is named at its field.
func TestFaultsOnTheGround(t *testing.T) {
	seven := 7
	for _, c := range []struct {
		path   string
		ground job.Ground
	}{
		{"body.ground.logs[0].lengths_m[1]", job.Ground{Logs: []job.Logging{{ID: "a", LengthsM: []float64{2, 0.1}}}}},
		{"body.ground.logs[0].supports_m", job.Ground{Logs: []job.Logging{{ID: "a", SupportsM: []float64{2, 1}}}}},
		{"body.ground.logs[0].supports_m", job.Ground{Logs: []job.Logging{{ID: "a", SupportsM: []float64{2}}}}},
		{"body.ground.logs[0].supports_m[0]", job.Ground{Logs: []job.Logging{{ID: "a", SupportsM: []float64{-1, 2}}}}},
		{"body.ground.logs[0].flat", job.Ground{Logs: []job.Logging{{ID: "a", Flat: true, SupportsM: []float64{1, 2}}}}},
		{"body.ground.moves[0].to", job.Ground{Moves: []job.Move{{ID: "m", Name: "m"}}}},
		{"body.ground.moves[0].profile[1].out_m", job.Ground{Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{X: 3}, Profile: []job.Rise{{OutM: 2}, {OutM: 2}}}}}},
		{"body.ground.moves[0].parts", job.Ground{Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{X: 3}, Parts: &seven}}}},
		{"body.ground.moves[0].truck", job.Ground{Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{X: 3}, Truck: "gone"}}}},
		{"body.ground.moves[0].anchor", job.Ground{Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{X: 3}, Anchor: "gone"}}}},
		{"body.ground.moves[0].block", job.Ground{Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{X: 3}, Block: "gone"}}}},
		{"body.ground.moves[0].rig", job.Ground{Moves: []job.Move{{ID: "m", Name: "m", To: job.Spot{X: 3}, Rig: "gone"}}}},
	} {
		j := jobtest.Stem()
		j.Ground = &c.ground
		if faults := j.Faults(); len(faults) != 1 || faults[0].Location != c.path || faults[0].Allowed == "" {
			t.Errorf("%s: %v", c.path, faults)
		}
	}
	twice := jobtest.Stem()
	twice.Ground = &job.Ground{Trucks: []job.Truck{{ID: "t", Name: "a"}, {ID: "t", Name: "b"}}}
	written, _ := json.Marshal(twice)
	if _, err := job.ReadJob(written); err == nil || !strings.Contains(err.Error(), "stands twice") {
		t.Errorf("one id twice: %v", err)
	}
}
