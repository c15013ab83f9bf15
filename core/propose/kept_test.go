package propose

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/frozen/kept"
	"elkstay/core/gear"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/units"
)

// Orders, what-ifs, the rose and which tree first say of invented jobs what they said of them. Whether they were right is
// not told here.
func TestProposalsSayWhatTheySaid(t *testing.T) {
	t.Parallel()
	of, jobs := jobtest.Of, proposedFor(t)
	said := map[string]any{}
	for name, j := range jobs {
		o := assess.Options{Units: units.Metric}
		untouched := j
		untouched.Picks = nil
		said[name+", the rest"] = Order(&j, map[bool]string{true: "up", false: "sides"}[len(name)%2 == 0], "", o)
		if by := map[string]string{"by two rigs": "sides", "hung and cracked": "up"}[name]; by != "" {
			said[name+", all of it"] = Order(&untouched, by, j.Rigs[len(j.Rigs)-1].ID, o)
		}
		for i := range j.Picks {
			p := &j.Picks[i]
			if p.Way == job.WayFelled {
				rose, err := Fall(&j, p.ID, o)
				said[name+", rose of "+p.ID] = []any{rose, fmt.Sprint(err)}
			}
			asks := []WhatIf{{Ask: "length", Hold: "limits"}, {Ask: "run", Hold: "limits"}, {Ask: "wraps", Hold: "limits"}, {Ask: "rope", Hold: "limits"}, {Ask: "length", Hold: "line", Value: of(9)}, {Ask: "run", Hold: "line", Value: of(7)},
				{Ask: "wraps", Hold: "run", Value: of(1)}, {Ask: "peak", Hold: "length", Value: of(1.5)}, {Ask: "peak", Hold: "run", Value: of(0.5)}, {Ask: "length", Hold: "block", Value: of(20)}}
			if i > 1 || name != "whole" && name[:2] != "01" && name[:2] != "04" {
				asks = asks[:2]
			}
			for _, w := range asks {
				w.Pick = p.ID
				answer, err := Ask(&j, w, o)
				said[fmt.Sprintf("%s, %s of %s by %s", name, w.Ask, p.ID, w.Hold)] = []any{answer, fmt.Sprint(err)}
			}
		}
		if name == "house and road" {
			whole, err := Trees(&j, j.Trees[len(j.Trees)-1].ID, o)
			said[name+", trees"] = []any{whole, fmt.Sprint(err)}
		}
	}
	kept.Hold(t, "testdata/kept.json.gz", said)
}

// proposedFor are the jobs that are asked what is proposed.
func proposedFor(t *testing.T) map[string]job.Job {
	t.Helper()
	of := jobtest.Of
	jobs := map[string]job.Job{"whole": jobtest.Whole()}
	put := func(name string, j job.Job, change func(*job.Job)) {
		change(&j)
		jobs[name] = j
	}
	put("house and road", ringed(), func(j *job.Job) {
		j.Site.Targets = []job.Target{{ID: "h", Name: "house", Kind: "building", Box: &job.Box{Min: job.Spot{X: -12, Y: 6}, Max: job.Spot{X: -6, Y: 12}}, ToM: 6}, {ID: "w", Name: "wire", Kind: "power-line", Outline: []job.Spot{{X: 14, Y: -30}, {X: 15, Y: 30}}, FromM: 5, ToM: 6}}
		j.Site.Sectors = []job.Sector{{ID: "s", Name: "road", FromDeg: 150, ToDeg: 210}}
		j.Site.Anchors = append(j.Site.Anchors, job.Anchor{ID: "v", Name: "van", Kind: job.AnchorVehicle, At: job.Spot{X: -9, Y: -14}, MassKg: of(2500)}, job.Anchor{ID: "o", Name: "oak", Kind: job.AnchorTree, At: job.Spot{X: 2, Y: 22}, HeightM: of(3), DiameterM: of(0.5)})
		j.Trees[0].LeanDeg, j.Trees[0].LeanTowardsDeg, j.Site.GustMS = of(2), of(30), of(5)
	})
	put("two poles, the crowns tied", rowed(), func(j *job.Job) {
		j.Trees = j.Trees[:2]
		j.Trees[1].Tied = []job.Tied{{ID: "k", To: "1", AtM: 12}}
	})
	put("by two rigs", jobtest.Whole(), func(j *job.Job) {
		other := j.Rigs[0]
		other.ID, other.Name = "r2", "heavy rig"
		other.Rope = &gear.NamedRope{Name: "heavier", MarkedKn: of(30), Rope: gear.Rope{BreakingKn: 160, Elongation: j.Rigs[0].Rope.Elongation}}
		other.Block.MarkedKn, other.Sling.MarkedKn = of(60), of(60)
		j.Rigs = append(j.Rigs, other)
		j.Limits.PieceKg, j.Limits.RunM = of(90), of(2)
		j.Rigs[0].Catch = job.Catch{How: job.ByWraps}
	})
	put("hung and cracked", jobtest.Whole(), func(j *job.Job) {
		j.Trees[0].Defects = []job.Defect{{ID: "h", Kind: job.DefectHung, AtM: 12, MassKg: of(25)}, {ID: "k", Kind: job.DefectCrack, AtM: 9, ToM: of(9.6)}, {ID: "d", Kind: job.DefectDead, AtM: 0, ToM: of(4), Limb: "c"}}
		j.Site.Zones = nil
	})
	paths, _ := filepath.Glob("../frozen/testdata/jobs/*.json")
	if len(paths) < 20 {
		t.Fatalf("%d written jobs are found", len(paths))
	}
	for _, path := range paths {
		switch name := filepath.Base(path); name[:2] {
		case "01", "04", "06", "07", "13", "14", "16":
			var one struct {
				Job json.RawMessage `json:"job"`
			}
			data, err := os.ReadFile(path)
			if err == nil {
				err = json.Unmarshal(data, &one)
			}
			j, bad := job.ReadJob(one.Job)
			if err != nil || bad != nil {
				t.Fatal(path, err, bad)
			}
			jobs[name[:len(name)-len(".json")]] = j
		}
	}
	return jobs
}
