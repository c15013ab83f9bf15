package assess_test

import (
	"context"
	"encoding/json"
	"math"
	"os"
	"strings"
	"testing"

	"elkstay/core/assess"
	"elkstay/core/calc"
	"elkstay/core/job"
	"elkstay/core/units"
)

// The sum that a rung hands on to the bench gives, through the calculation contract, the figure that
// stands on the rung: of every pick of the demo, and of the demo's picks on other ways.
func TestARungsSumIsTheContracts(t *testing.T) {
	t.Parallel()
	seen := map[string]int{}
	for _, name := range []string{"tern-quay", "mill-fold", "reed-lock"} {
		data, err := os.ReadFile("../../demo/" + name + ".json")
		if err != nil {
			t.Fatal(err)
		}
		j, err := job.ReadJob(data)
		if err != nil {
			t.Fatal(err)
		}
		if name == "mill-fold" {
			// Its line over a pulley low on the stem.
			efficiency := 0.9
			j.Rigs[0].Redirects = append(j.Rigs[0].Redirects, job.Redirect{Name: "low pulley", Place: job.Place{On: job.OnStem, AtM: 1.2}, Efficiency: &efficiency})
		}
		// Only what a variant changes is worked out anew.
		var memory assess.Memory
		for i := range j.Picks {
			other := j.Picks[i]
			variants := []job.Pick{other}
			if other.What == job.WhatStem && name == "tern-quay" {
				other.Way, other.Rig = job.WayPastBlock, ""
				variants = append(variants, other)
			}
			for _, pick := range variants {
				with := j
				with.Picks = append([]job.Pick{}, j.Picks...)
				with.Picks[i] = pick
				text, err := json.Marshal(with)
				if err != nil {
					t.Fatal(err)
				}
				read, err := memory.Read(text, "")
				if err != nil {
					t.Fatal(err)
				}
				a := assess.Assess(&read, assess.Options{Units: units.Metric, Pick: pick.ID, Memory: &memory})
				if a.Detail == nil {
					t.Fatalf("%s %s: no detail", name, pick.ID)
				}
				for _, rung := range a.Detail.Ladder {
					if rung.Sum == nil {
						continue
					}
					seen[rung.Sum.Kind]++
					expectSum(t, name+" "+pick.ID+" "+rung.Part, &rung, a.Detail)
				}
			}
		}
	}
	for _, kind := range []string{"drop", "catch", "wraps", "spar", "pick", "fell", "hinge", "piece", "line", "two-tie"} {
		if seen[kind] == 0 {
			t.Errorf("no rung of the demo hands on a %s: %v", kind, seen)
		}
	}
}

func expectSum(t *testing.T, where string, rung *assess.Rung, detail *assess.Detail) {
	t.Helper()
	kind, err := calc.Find(rung.Sum.Kind)
	if err != nil {
		t.Fatal(err)
	}
	answer, err := kind.Run(context.Background(), rung.Sum.Request)
	if err != nil {
		t.Errorf("%s: %s is refused: %v\n%s", where, rung.Sum.Kind, err, rung.Sum.Request)
		return
	}
	written, _ := json.Marshal(answer)
	var figures map[string]any
	if err := json.Unmarshal(written, &figures); err != nil {
		t.Fatal(err)
	}
	figure := func(name string) float64 { v, _ := figures[name].(float64); return v }
	got, want := 0.0, 0.0
	switch {
	case rung.Sum.Kind == "drop" || rung.Sum.Kind == "catch":
		// Hanging still it may carry more than rope that runs does.
		got, want = max(figure("line_peak_kn"), rung.RestingKn), *rung.PeakKn
	case rung.Sum.Kind == "two-line":
		got, want = figure("max_a_kn"), *rung.PeakKn
	case rung.Part == "device":
		var asked struct {
			LineKn float64 `json:"line_kn"`
		}
		if err := json.Unmarshal(rung.Sum.Request, &asked); err != nil {
			t.Fatal(err)
		}
		got, want = asked.LineKn, *rung.PeakKn
	case rung.Part == "hand":
		got, want = figure("hand_kn"), *rung.PeakKn
	case rung.Sum.Kind == "spar":
		worst, _ := figures["worst"].(map[string]any)
		got, _ = worst["stress_mpa"].(float64)
		want = detail.Spar.StressMpa
	case rung.Sum.Kind == "piece":
		mass, _ := figures["mass_kg"].(map[string]any)
		got, _ = mass["likely"].(float64)
		want = detail.Piece.MassKg.Likely
	case rung.Sum.Kind == "pick":
		hook, _ := figures["hook_kg"].(map[string]any)
		got, _ = hook["high"].(float64)
		want = detail.Lift.HookKg.High
	case rung.Sum.Kind == "line":
		points, _ := figures["points"].([]any)
		for _, one := range points {
			if point, _ := one.(map[string]any); point["name"] == rung.Name {
				got, _ = point["resultant_kn"].(float64)
			}
		}
		want = max(*rung.PeakKn, rung.RestingKn)
	case rung.Sum.Kind == "two-tie":
		ties, _ := figures["ties"].([]any)
		for _, one := range ties {
			if tie, _ := one.(map[string]any); strings.HasPrefix(rung.Name, tie["name"].(string)+":") {
				got, _ = tie["tension_kn"].(float64)
			}
		}
		want = rung.RestingKn
	case rung.Sum.Kind == "hinge":
		got, want = figure("bending_knm"), detail.Fell.Hinge.BendingKnm
	case rung.Sum.Kind == "fell":
		got, want = figure("pull_kn"), detail.Pulls[0].NeedKn
	default:
		t.Errorf("%s: no figure of a %s is compared", where, rung.Sum.Kind)
		return
	}
	if !(math.Abs(got-want) <= 1e-6*math.Max(1e-3, math.Abs(want))) {
		t.Errorf("%s: %s gives %g, on the rung %g", where, rung.Sum.Kind, got, want)
	}
}
