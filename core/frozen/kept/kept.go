// Package kept holds answers as they once were, so that a change shows whether it changed one.
// They say nothing of whether an answer is right: that is for tests that work it out anew.
package kept

import (
	"bytes"
	"compress/gzip"
	"encoding/json"
	"flag"
	"fmt"
	"math"
	"os"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
)

var update = flag.Bool("update", false, "write the answers as they are now")

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
	return out
}

// differ names the first few places where two answers are not the same, figures within a share of
// themselves; what is new in the second is no difference.
func differ(path string, was, is any, within float64, found *[]string) {
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
			differ(path+"."+key, a[key], b[key], within, found)
		}
	case []any:
		b, ok := is.([]any)
		if !ok || len(a) != len(b) {
			note()
			return
		}
		for i := range a {
			differ(fmt.Sprintf("%s[%d]", path, i), a[i], b[i], within, found)
		}
	case float64:
		b, ok := is.(float64)
		if !ok || math.Abs(a-b) > within*max(1, math.Abs(a)) {
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

// Hold holds answers against those kept at a path, or writes them with -update; before either
// they pass through what is to be done to both.
func Hold(t *testing.T, path string, value any, first ...func(any) any) {
	t.Helper()
	is := plain(t, value)
	for _, do := range first {
		is = do(is)
	}
	is = thin(is)
	if *update {
		rewrite(t, path, is)
		return
	}
	var was any
	Read(t, path, &was)
	var found []string
	differ("", heldTo(was), heldTo(is), 1e-9, &found)
	for _, line := range found {
		t.Error(line)
	}
}

// rewrite keeps answers as they are now where they are others than those kept, or have more in them:
// every file written anew stays in the repository for good.
func rewrite(t *testing.T, path string, is any) {
	t.Helper()
	if _, err := os.Stat(path); err == nil {
		var was any
		Read(t, path, &was)
		var moved []string
		differ("", was, is, 1e-9, &moved)
		differ("", is, was, 1e-9, &moved)
		if len(moved) == 0 {
			return
		}
	}
	Write(t, path, is)
}

// Alike holds two answers to the same figures, within a share of themselves, and the same words.
func Alike(t *testing.T, what string, was, is any, within float64) {
	t.Helper()
	var found []string
	differ("", plain(t, was), plain(t, is), within, &found)
	for _, line := range found {
		t.Errorf("%s: %s", what, line)
	}
}

// Write keeps a value at a path.
func Write(t *testing.T, path string, value any) {
	t.Helper()
	var packed bytes.Buffer
	zip, _ := gzip.NewWriterLevel(&packed, gzip.BestCompression)
	err := json.NewEncoder(zip).Encode(value)
	if err == nil {
		err = zip.Close()
	}
	if err == nil {
		err = os.WriteFile(path, packed.Bytes(), 0o600)
	}
	if err != nil {
		t.Fatal(err)
	}
}

// Read takes what is kept at a path.
func Read(t *testing.T, path string, into any) {
	t.Helper()
	packed, err := os.Open(path) //nolint:gosec // the answers of the test that asks
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = packed.Close() }()
	zip, err := gzip.NewReader(packed)
	if err == nil {
		err = json.NewDecoder(zip).Decode(into)
	}
	if err != nil {
		t.Fatal(err)
	}
}

// Updating tells whether answers are to be written as they are now.
func Updating() bool { return *update }

// figure is a figure within a sentence.
var figure = regexp.MustCompile(`[−-]?\d+(\.\d+)?`)

// heldTo is what of an answer is held to: figures and codes. Of a sentence that is the figures in it, for
// its words are another test's.
func heldTo(value any) any {
	switch v := value.(type) {
	case map[string]any:
		for key, inner := range v {
			v[key] = heldTo(inner)
		}
	case []any:
		for i := range v {
			v[i] = heldTo(v[i])
		}
	case string:
		if strings.ContainsRune(v, ' ') {
			return strings.Join(figure.FindAllString(v, -1), "; ")
		}
	}
	return value
}

// drawn is what is for a drawing, which the kept answers in full hold to; and how a sum is written out.
var drawn = []string{"shape", "shells", "points", "stem", "frames", "discs", "lies", "working", "steps", "pose", "poses", "chart", "sees", "defaulted", "schools", "advice"}

// Figures are what an answer is held to, in short: figures to six digits and codes, nothing drawn.
func Figures(t *testing.T, value any) any {
	t.Helper()
	return inShort(heldTo(plain(t, value)))
}

func inShort(value any) any {
	switch v := value.(type) {
	case map[string]any:
		for key, inner := range v {
			if inner = inShort(inner); slices.Contains(drawn, key) || inner == nil || inner == "" || inner == false {
				delete(v, key)
				continue
			}
			v[key] = inner
		}
		if len(v) == 0 {
			return nil
		}
	case []any:
		if len(v) == 0 {
			return nil
		}
		for i := range v {
			v[i] = inShort(v[i])
		}
	case float64:
		if math.Abs(v) < 1e-9 {
			return 0.0 // what rounding leaves of nothing
		}
		short, _ := strconv.ParseFloat(strconv.FormatFloat(v, 'e', 5, 64), 64)
		return short
	}
	return value
}

// Held holds the figures of an answer against those that are kept, and says which have moved.
func Held(t *testing.T, what string, was, is any) {
	t.Helper()
	var found []string
	differ("", was, is, 2e-5, &found)
	for _, line := range found {
		t.Errorf("%s: %s", what, line)
	}
}
