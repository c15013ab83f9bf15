package question

import (
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"reflect"
	"testing"

	"elkstay/core/bench"
	"elkstay/core/calc"
	"elkstay/core/job"
	"elkstay/core/job/jobtest"
	"elkstay/core/policy"
)

// missing are the paths of the lists that an answer promises and leaves out: a page that
// reads them breaks, and shows no figure at all.
func missing(path string, v reflect.Value, found map[string]bool) {
	switch v.Kind() {
	case reflect.Pointer, reflect.Interface:
		if !v.IsNil() {
			missing(path, v.Elem(), found)
		}
	case reflect.Slice, reflect.Array:
		for i := range v.Len() {
			missing(path, v.Index(i), found)
		}
	case reflect.Map:
		for _, key := range v.MapKeys() {
			missing(path+"."+fmt.Sprint(key), v.MapIndex(key), found)
		}
	case reflect.Struct:
		for i := range v.NumField() {
			field, inner := v.Type().Field(i), v.Field(i)
			if !field.IsExported() {
				continue
			}
			at := path + "." + field.Name
			if field.Tag.Get("nullable") == "false" && inner.Kind() == reflect.Slice && inner.IsNil() {
				found[at] = true
			}
			missing(at, inner, found)
		}
	}
}

// Every list that an answer promises is there, be the job ever so bare: before its first
// reading, its first pick, its first rig.
func TestNoListIsMissing(t *testing.T) {
	documents := asked(t)
	asJob := reflect.TypeFor[job.Job]()
	for name, document := range documents {
		var head struct {
			Picks []struct{ ID string }
		}
		if err := json.Unmarshal(document, &head); err != nil {
			t.Fatal(err)
		}
		asks := []Asked{{By: "up"}}
		for i := range head.Picks[:min(len(head.Picks), 1)] {
			asks = append(asks, Asked{Pick: head.Picks[i].ID, Ask: "length", Hold: "limits", By: "sides"})
		}
		for _, q := range All() {
			if q.Document != asJob || q.Name == "resolve" {
				continue
			}
			for _, a := range asks {
				answer, err := q.Answer(t.Context(), document, a, policy.Crew{})
				if err != nil {
					continue
				}
				found := map[string]bool{}
				missing(q.Name, reflect.ValueOf(answer), found)
				for at := range found {
					t.Errorf("%s, %s: no list at %s", name, a.Pick, at)
				}
			}
		}
	}
	all, err := bench.All(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	found := map[string]bool{}
	missing("instruments", reflect.ValueOf(all), found)
	for _, one := range all {
		kind, err := calc.Find(one.Kind)
		if err != nil {
			t.Fatal(err)
		}
		answer, err := kind.Run(t.Context(), one.Begin)
		if err != nil {
			t.Fatal(err)
		}
		missing(one.Kind, reflect.ValueOf(answer), found)
	}
	for at := range found {
		t.Errorf("no list at %s", at)
	}
}

// asked are jobs in every state, as documents.
func asked(t *testing.T) map[string][]byte {
	t.Helper()
	documents := map[string][]byte{}
	put := func(name string, j job.Job) {
		written, err := json.Marshal(j)
		if err != nil {
			t.Fatal(err)
		}
		documents[name] = written
	}
	put("empty", job.NewJob("empty"))
	put("stem", jobtest.Stem())
	put("whole", jobtest.Whole())
	bare := jobtest.Whole()
	bare.Picks, bare.Rigs = []job.Pick{}, []job.Rig{}
	put("not planned", bare)
	stray := jobtest.Whole()
	stray.Trees[0].Readings, stray.Trees[0].HeightM = []job.Reading{}, nil
	put("not measured", stray)
	frozen, err := filepath.Glob("../core/frozen/testdata/jobs/*.json")
	if err != nil || len(frozen) < 20 {
		t.Fatalf("%d jobs, %v", len(frozen), err)
	}
	for _, path := range frozen {
		data, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		var one struct{ Job json.RawMessage }
		if err := json.Unmarshal(data, &one); err != nil {
			t.Fatal(err)
		}
		documents[filepath.Base(path)] = one.Job
	}
	return documents
}
