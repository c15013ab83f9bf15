// Package frozen holds the figures of whole jobs as they once were, so that a change of
// the house shows whether it changed a figure. What a change is meant to alter is
// written anew: go test ./core/frozen -update.
package frozen

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"math"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"elkstay/core/calc"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/question"
)

var update = flag.Bool("update", false, "write the figures as they are now")

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
		answer, err := question.Answer(t.Context(), name, of, asked, policy.Crew{})
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

// thin takes every tenth sample of a film: its course is what counts.
func thin(value any) any {
	switch v := value.(type) {
	case map[string]any:
		for key, inner := range v {
			v[key] = thin(inner)
		}
	case []any:
		if len(v) > 100 {
			kept := []any{}
			for i := 0; i < len(v); i += 10 {
				kept = append(kept, v[i])
			}
			v = kept
		}
		for i := range v {
			v[i] = thin(v[i])
		}
		return v
	}
	return value
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

func plain(t *testing.T, value any) any {
	t.Helper()
	data, err := json.Marshal(value)
	if err != nil {
		t.Fatal(err)
	}
	var out any
	if err := json.Unmarshal(data, &out); err != nil {
		t.Fatal(err)
	}
	return thin(asOnce(out))
}

// differ names the first few places where two answers are not the same; what is new in
// the second is no difference.
func differ(path string, was, is any, found *[]string) {
	if len(*found) > 5 {
		return
	}
	note := func() { *found = append(*found, fmt.Sprintf("%s: was %v, is %v", path, short(was), short(is))) }
	switch a := was.(type) {
	case map[string]any:
		b, ok := is.(map[string]any)
		if !ok {
			note()
			return
		}
		keys := make([]string, 0, len(a))
		for key := range a {
			keys = append(keys, key)
		}
		slices.Sort(keys)
		for _, key := range keys {
			differ(path+"."+key, a[key], b[key], found)
		}
	case []any:
		b, ok := is.([]any)
		if !ok || len(a) != len(b) {
			note()
			return
		}
		for i := range a {
			differ(fmt.Sprintf("%s[%d]", path, i), a[i], b[i], found)
		}
	case float64:
		b, ok := is.(float64)
		if !ok || math.Abs(a-b) > 1e-9*max(1, math.Abs(a)) {
			note()
		}
	default:
		if was != is {
			note()
		}
	}
}

func short(value any) string {
	text := fmt.Sprint(value)
	if len(text) > 160 {
		text = text[:160] + "…"
	}
	return text
}

// same holds answers against a kept file, or writes it.
func same(t *testing.T, path string, value any) {
	t.Helper()
	is := plain(t, value)
	if *update {
		var packed bytes.Buffer
		zip, _ := gzip.NewWriterLevel(&packed, gzip.BestCompression)
		if err := json.NewEncoder(zip).Encode(is); err != nil {
			t.Fatal(err)
		}
		if err := zip.Close(); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(path, packed.Bytes(), 0o600); err != nil {
			t.Fatal(err)
		}
		return
	}
	packed, err := os.Open(path)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = packed.Close() }()
	zip, err := gzip.NewReader(packed)
	if err != nil {
		t.Fatal(err)
	}
	data, err := io.ReadAll(zip)
	if err != nil {
		t.Fatal(err)
	}
	var was any
	if err := json.Unmarshal(data, &was); err != nil {
		t.Fatal(err)
	}
	var found []string
	differ("", was, is, &found)
	for _, line := range found {
		t.Error(line)
	}
}

// Two whole jobs and twenty-one small ones, written in version 2 of the format, keep their figures: every way down, hollow, leaning,
// weighed, bad orders, US units, unfinished ones.
func TestJobsKeepTheirFigures(t *testing.T) {
	for name, one := range jobs(t) {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			same(t, "testdata/answers/"+name+".json.gz", answers(t, one))
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
	same(t, "testdata/answers/cases.json.gz", said)
}
