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
	m := merger{base: sides[0], sides: [2]any{sides[1], sides[2]}}
	whole, _ := m.value("", sides[0], sides[1], sides[2])
	whole = m.needed(whole)
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

type merger struct {
	conflicts []Conflict
	base      any
	sides     [2]any // mine and theirs
}

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
	m.conflicts = append(m.conflicts, Conflict{path, m.title(path), text(mine), text(theirs)})
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
	for _, part := range oneParts(path) {
		m.onePart(path, part, at, base, mine, theirs, merged)
		for _, key := range part {
			delete(keys, key)
		}
	}
	for _, key := range slices.Sorted(maps.Keys(keys)) {
		if path == "" && key == factsKey {
			continue
		}
		if value, keep := m.value(strings.TrimPrefix(path+"."+key, "."), at(base, key), at(mine, key), at(theirs, key)); keep {
			merged[key] = value
		}
	}
	return merged
}

// factsKey is where the facts of a job stand.
const factsKey = "facts"

// allFacts are the facts of all sides: none is taken out, whoever has it no more.
func allFacts(sides ...any) []any {
	all, known := []any{}, map[string]bool{}
	for _, side := range sides {
		list, _ := side.([]any)
		for _, fact := range list {
			if id := idOf(fact); !known[id] {
				all, known[id] = append(all, fact), true
			}
		}
	}
	return all
}

// oneParts are the fields of a thing that make one part of it: what wood a pick takes, and what the eye judged of that.
func oneParts(path string) [][]string {
	if strings.HasPrefix(path, "picks[") && strings.HasSuffix(path, "]") {
		return [][]string{{"tree", "what", "limb", "cut_m", "mass_kg", "mass_why"}}
	}
	return nil
}

// onePart merges fields that make one part: where both sides changed any of them otherwise, all of them are one question.
func (m *merger) onePart(path string, part []string, at func(side map[string]any, key string) any, base, mine, theirs, into map[string]any) {
	take := func(side map[string]any) map[string]any {
		fields := map[string]any{}
		for _, key := range part {
			if value := at(side, key); value != (any)(gone{}) {
				fields[key] = value
			}
		}
		return fields
	}
	was, here, there := take(base), take(mine), take(theirs)
	chosen := here
	switch {
	case reflect.DeepEqual(here, there), reflect.DeepEqual(was, there):
	case reflect.DeepEqual(was, here):
		chosen = there
	default:
		changed := []string{}
		for _, key := range part {
			if !reflect.DeepEqual(was[key], here[key]) || !reflect.DeepEqual(was[key], there[key]) {
				changed = append(changed, key)
			}
		}
		if len(changed) == 1 {
			m.conflict(path+"."+changed[0], at(mine, changed[0]), at(theirs, changed[0]))
		} else {
			m.conflict(path+".wood", here, there)
		}
	}
	maps.Copy(into, chosen)
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
	kept, asked := map[string]any{}, map[string]bool{}
	for _, id := range append(ids(mine), ids(theirs)...) {
		if asked[id] {
			continue
		}
		asked[id] = true
		value, keep := m.entry(fmt.Sprintf("%s[%s]", path, id), at(base, id), at(mine, id), at(theirs, id))
		if keep {
			kept[id] = value
		}
	}
	merged := []any{}
	for _, id := range m.order(path, ids(base), ids(mine), ids(theirs), kept) {
		merged = append(merged, kept[id])
	}
	return merged
}

// entry merges a thing of a list. One that both sides made under one id is asked about, never fused.
func (m *merger) entry(path string, base, mine, theirs any) (merged any, keep bool) {
	_, fresh := base.(gone)
	_, mineGone := mine.(gone)
	_, theirsGone := theirs.(gone)
	if fresh && !mineGone && !theirsGone && !reflect.DeepEqual(mine, theirs) {
		m.conflict(path, mine, theirs)
		return mine, true
	}
	return m.value(path, base, mine, theirs)
}

// needed asks about what one side took away while the other came to name it more often than the document that both came from; mine stands
// meanwhile. And it gives what came together the facts of all sides.
func (m *merger) needed(whole any) any {
	document, is := whole.(map[string]any)
	if !is {
		return whole
	}
	base, _ := m.base.(map[string]any)
	if facts := allFacts(document[factsKey], base[factsKey], at(m.sides[0], factsKey), at(m.sides[1], factsKey)); len(facts) > 0 {
		document[factsKey] = facts
	}
	for _, thing := range things("", m.base) {
		if !m.tells(thing.list) {
			continue
		}
		mine, theirs := in(m.sides[0], thing), in(m.sides[1], thing)
		switch {
		case mine == nil && theirs != nil && mentions(m.sides[1], thing.id) > mentions(m.base, thing.id):
			m.conflict(thing.list+"["+thing.id+"]", gone{}, theirs)
		case theirs == nil && mine != nil && mentions(m.sides[0], thing.id) > mentions(m.base, thing.id):
			m.conflict(thing.list+"["+thing.id+"]", mine, gone{})
			put(document, thing, mine, ids(find(m.sides[0], thing.list)))
		}
	}
	return document
}

// tells tells that a list still stands on both sides and was not asked about: what goes with a thing that is taken away, goes with that.
func (m *merger) tells(list string) bool {
	return find(m.sides[0], list) != nil && find(m.sides[1], list) != nil
}

func at(document any, key string) any {
	fields, _ := document.(map[string]any)
	return fields[key]
}
