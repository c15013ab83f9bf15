// Package frozen holds the figures of whole jobs as they once were, so that a change of
// the house shows whether it changed a figure. What a change is meant to alter is
// written anew: go test ./core/frozen -update.
package frozen

import (
	"encoding/json"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"elkstay/core/calc"
	"elkstay/core/frozen/kept"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/question"
)

// A written job: its document, and the units its sentences are asked in.
type written struct {
	Units units.System    `json:"units"`
	Job   json.RawMessage `json:"job"`
}

func jobs(t *testing.T) map[string]written {
	t.Helper()
	found := map[string]written{}
	paths, err := filepath.Glob("testdata/jobs/*.json")
	if err != nil {
		t.Fatal(err)
	}
	for _, path := range paths {
		data, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		var one written
		if err := json.Unmarshal(data, &one); err != nil {
			t.Fatalf("%s: %v", path, err)
		}
		found[strings.TrimSuffix(filepath.Base(path), ".json")] = one
	}
	return found
}

// answers asks everything of one job.
func answers(t *testing.T, one written) map[string]any {
	t.Helper()
	var head struct {
		Picks []struct {
			ID string `json:"id"`
		} `json:"picks"`
	}
	if err := json.Unmarshal(one.Job, &head); err != nil {
		t.Fatal(err)
	}
	var document map[string]json.RawMessage
	if err := json.Unmarshal(one.Job, &document); err != nil {
		t.Fatal(err)
	}
	document["picks"] = json.RawMessage("[]")
	untouched, err := json.Marshal(document)
	if err != nil {
		t.Fatal(err)
	}
	said := map[string]any{}
	put := func(key, name string, of []byte, asked question.Asked) {
		asked.Units = one.Units
		q, err := question.Find(name)
		if err != nil {
			t.Fatal(err)
		}
		answer, err := q.Answer(t.Context(), of, asked, policy.Crew{})
		if err != nil {
			answer = map[string]any{"refused": err.Error()}
		}
		said[key] = answer
	}
	ask := func(key, name string, asked question.Asked) { put(key, name, one.Job, asked) }
	ask("assess", "assess", question.Asked{})
	ask("brief", "brief", question.Asked{})
	for _, by := range [2]string{"up", "sides"} {
		ask("fill "+by, "propose", question.Asked{By: by})
		put("fill all "+by, "propose", untouched, question.Asked{By: by})
	}
	for _, p := range head.Picks {
		ask("pick "+p.ID, "assess", question.Asked{Pick: p.ID})
		ask("follow "+p.ID, "simulate", question.Asked{Pick: p.ID})
		for _, q := range [3]string{"length", "run", "rope"} {
			ask(q+" "+p.ID, "ask", question.Asked{Pick: p.ID, Ask: q, Hold: "limits"})
		}
	}
	return said
}

// asOnce puts what has moved since the figures were frozen back where it stood: the one
// tree of a job has become the first of its trees.
func asOnce(value any) any {
	switch v := value.(type) {
	case map[string]any:
		if trees, ok := v["trees"].([]any); ok && len(trees) == 1 && v["picks"] != nil {
			if first, ok := trees[0].(map[string]any); ok {
				for _, name := range []string{"stem", "shape", "left", "defects", "shells"} {
					v[name] = first[name]
				}
				if shape, ok := v["shape"].(map[string]any); ok {
					leaning(shape)
				}
			}
		}
		if list, ok := v["stands"].([]any); ok && len(list) == 1 {
			v["stands"] = list[0]
		}
		for key, inner := range v {
			v[key] = asOnce(inner)
		}
	case []any:
		for i := range v {
			v[i] = asOnce(v[i])
		}
	case string:
		return strings.Replace(strings.Replace(v, "trees[0]", "tree", 1), "the trees'", "the tree's", 1)
	}
	return value
}

// leaning gives a straight stem's lean as it once stood, from its lowest to its highest place.
func leaning(shape map[string]any) {
	stem, _ := shape["stem"].([]any)
	shape["lean_x"], shape["lean_y"] = 0.0, 0.0
	if len(stem) < 2 {
		return
	}
	low, high := stem[0].([]any), stem[len(stem)-1].([]any)
	rise := high[2].(float64) - low[2].(float64)
	shape["lean_x"] = (high[0].(float64) - low[0].(float64)) / rise
	shape["lean_y"] = (high[1].(float64) - low[1].(float64)) / rise
}

// Two whole jobs and twenty-one small ones, written in version 2 of the format, keep their figures: every way down, hollow, leaning,
// weighed, bad orders, US units, unfinished ones.
func TestJobsKeepTheirFigures(t *testing.T) {
	all := jobs(t)
	// What takes longest begins first.
	for _, name := range slices.SortedFunc(maps.Keys(all), func(a, b string) int { return len(all[b].Job) - len(all[a].Job) }) {
		one := all[name]
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			kept.Hold(t, "testdata/answers/"+name+".json.gz", answers(t, one), asOnce)
		})
	}
}

// The worked cases of the contract keep the whole of their answers.
func TestCasesKeepTheirFigures(t *testing.T) {
	data, err := os.ReadFile("../calc/calctest/cases.json")
	if err != nil {
		t.Fatal(err)
	}
	var cases []struct {
		Kind    string          `json:"kind"`
		Request json.RawMessage `json:"request"`
	}
	if err := json.Unmarshal(data, &cases); err != nil {
		t.Fatal(err)
	}
	if len(cases) < 20 {
		t.Fatalf("only %d cases", len(cases))
	}
	said := make([]any, len(cases))
	for i, c := range cases {
		kind, err := calc.Find(c.Kind)
		if err != nil {
			t.Fatal(err)
		}
		if said[i], err = kind.Run(t.Context(), c.Request); err != nil {
			t.Fatalf("%s: %v", c.Kind, err)
		}
	}
	kept.Hold(t, "testdata/answers/cases.json.gz", said, asOnce)
}
