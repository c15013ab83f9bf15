package job

import (
	"encoding/json"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"
)

// A Conflict is a part of the document that both sides changed, each otherwise.
type Conflict struct {
	Path   string `json:"path" doc:"Where it stands in the document"`
	Title  string `json:"title" doc:"What it is, in words"`
	Mine   string `json:"mine" doc:"As JSON; empty: taken away"`
	Theirs string `json:"theirs" doc:"As JSON; empty: taken away"`
}

// A Merged job holds the changes of both sides. Where both changed the same part
// otherwise, it holds mine and says so.
type Merged struct {
	Job       Job        `json:"job"`
	Conflicts []Conflict `json:"conflicts" nullable:"false"`
}

// Merge brings together two documents made from one. Things with an id (limbs, rigs,
// picks, targets) are merged one by one, whatever their place; of one thing, field by
// field. Lists without ids are one part each. The order of a list is a part of its own.
// The error is that of a document that cannot be read, or of a merge that makes none.
func Merge(base, mine, theirs []byte) (Merged, error) {
	var sides [3]any
	for i, data := range [3][]byte{base, mine, theirs} {
		job, err := ReadJob(data)
		if err != nil {
			return Merged{}, err
		}
		written, err := json.Marshal(job)
		if err != nil {
			return Merged{}, err
		}
		if err := json.Unmarshal(written, &sides[i]); err != nil {
			return Merged{}, err
		}
	}
	m := merger{}
	whole, _ := m.value("", sides[0], sides[1], sides[2])
	written, err := json.Marshal(whole)
	if err != nil {
		return Merged{}, err
	}
	job, err := ReadJob(written)
	if err != nil {
		return Merged{}, err
	}
	if m.conflicts == nil {
		m.conflicts = []Conflict{}
	}
	return Merged{job, m.conflicts}, nil
}

type merger struct{ conflicts []Conflict }

// gone stands for a part that is not there.
type gone struct{}

func (m *merger) conflict(path string, mine, theirs any) {
	text := func(value any) string {
		if _, absent := value.(gone); absent {
			return ""
		}
		written, _ := json.Marshal(value)
		return string(written)
	}
	m.conflicts = append(m.conflicts, Conflict{path, partTitle(path), text(mine), text(theirs)})
}

// value merges one part; keep is false when it is taken away.
func (m *merger) value(path string, base, mine, theirs any) (merged any, keep bool) {
	present := func(value any) (any, bool) { _, absent := value.(gone); return value, !absent }
	switch {
	case reflect.DeepEqual(mine, theirs), reflect.DeepEqual(base, theirs):
		return present(mine)
	case reflect.DeepEqual(base, mine):
		return present(theirs)
	}
	switch a := mine.(type) {
	case map[string]any:
		if b, ok := theirs.(map[string]any); ok {
			from, _ := base.(map[string]any)
			return m.object(path, from, a, b), true
		}
	case []any:
		if b, ok := theirs.([]any); ok && named(a) && named(b) {
			from, _ := base.([]any)
			return m.list(path, from, a, b), true
		}
	}
	m.conflict(path, mine, theirs)
	return present(mine)
}

func (m *merger) object(path string, base, mine, theirs map[string]any) map[string]any {
	merged := map[string]any{}
	keys := map[string]bool{}
	for _, side := range [3]map[string]any{base, mine, theirs} {
		for key := range side {
			keys[key] = true
		}
	}
	at := func(side map[string]any, key string) any {
		if value, ok := side[key]; ok {
			return value
		}
		return gone{}
	}
	for _, key := range slices.Sorted(maps.Keys(keys)) {
		if value, keep := m.value(strings.TrimPrefix(path+"."+key, "."), at(base, key), at(mine, key), at(theirs, key)); keep {
			merged[key] = value
		}
	}
	return merged
}

// named reports whether every entry of a list has an id.
func named(list []any) bool {
	for _, entry := range list {
		if idOf(entry) == "" {
			return false
		}
	}
	return true
}

func idOf(entry any) string {
	fields, _ := entry.(map[string]any)
	id, _ := fields["id"].(string)
	return id
}

func ids(list []any) []string {
	names := make([]string, len(list))
	for i, entry := range list {
		names[i] = idOf(entry)
	}
	return names
}

// list merges two lists of things with ids.
func (m *merger) list(path string, base, mine, theirs []any) []any {
	at := func(list []any, id string) any {
		if i := slices.Index(ids(list), id); i >= 0 {
			return list[i]
		}
		return gone{}
	}
	kept := map[string]any{}
	for _, id := range append(ids(mine), ids(theirs)...) {
		if _, done := kept[id]; done {
			continue
		}
		if value, keep := m.value(fmt.Sprintf("%s[%s]", path, id), at(base, id), at(mine, id), at(theirs, id)); keep {
			kept[id] = value
		}
	}
	merged := []any{}
	for _, id := range m.order(path, ids(base), ids(mine), ids(theirs), kept) {
		merged = append(merged, kept[id])
	}
	return merged
}

// order merges the orders of two lists: the side that moved things gives the order, and
// what only the other has goes behind what it stood behind there.
func (m *merger) order(path string, base, mine, theirs []string, kept map[string]any) []string {
	common := func(list []string) []string {
		var out []string
		for _, id := range list {
			if _, there := kept[id]; there && slices.Contains(base, id) && slices.Contains(mine, id) && slices.Contains(theirs, id) {
				out = append(out, id)
			}
		}
		return out
	}
	was, here, there := common(base), common(mine), common(theirs)
	frame, other := mine, theirs
	switch {
	case slices.Equal(was, there) || slices.Equal(here, there):
	case slices.Equal(was, here):
		frame, other = theirs, mine
	default:
		m.conflicts = append(m.conflicts, Conflict{path, "the order of the " + lastName(path), strings.Join(here, " "), strings.Join(there, " ")})
	}
	var out []string
	for _, id := range frame {
		if _, there := kept[id]; there {
			out = append(out, id)
		}
	}
	for i, id := range other {
		if _, there := kept[id]; !there || slices.Contains(out, id) {
			continue
		}
		after := 0
		for k := i - 1; k >= 0; k-- {
			if j := slices.Index(out, other[k]); j >= 0 {
				after = j + 1
				break
			}
		}
		out = slices.Insert(out, after, id)
	}
	return out
}

func lastName(path string) string { return path[strings.LastIndexByte(path, '.')+1:] }

// partTitle says a path in words: picks[p3].cut_m is "pick p3, cut".
func partTitle(path string) string {
	words := strings.NewReplacer("[", " ", "]", "", ".", ", ", "_", " ").Replace(path)
	for _, unit := range []string{" m", " kn", " kg", " deg", " pct"} {
		words = strings.TrimSuffix(words, unit)
	}
	for many, one := range map[string]string{"picks ": "pick ", "trees ": "tree ", "limbs ": "limb ", "rigs ": "rig ", "targets ": "target ", "zones ": "zone ", "sectors ": "sector ", "anchors ": "anchor ", "defects ": "defect "} {
		words = strings.Replace(words, many, one, 1)
	}
	return words
}
