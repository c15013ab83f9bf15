package locker

import (
	"encoding/json"
	"maps"
	"reflect"
	"slices"

	"elkstay/core/intake"
)

// An Apart is a field of an item that two people changed, each otherwise.
type Apart struct {
	Field  string          `json:"field" doc:"Such as length_m; rating: marked and breaking strength as one; of inspections with whose and when"`
	Mine   json.RawMessage `json:"mine" doc:"As JSON; null: taken away"`
	Theirs json.RawMessage `json:"theirs" doc:"As JSON; null: taken away"`
}

// A Merged item holds the changes of both sides. Where both changed the same field otherwise it holds mine and says so.
type Merged struct {
	Item   Item    `json:"item"`
	Aparts []Apart `json:"aparts" nullable:"false"`
}

// Sides are an item as two people have it, and as both had it.
type Sides struct {
	Base   Item `json:"base" doc:"What both began from"`
	Mine   Item `json:"mine"`
	Theirs Item `json:"theirs"`
}

// ReadSides reads the sides of a merge. The error is intake.Faults.
func ReadSides(data []byte) (s Sides, err error) {
	err = intake.Decode(data, &s)
	return s, err
}

// Merge brings two changes of one item together, field by field; inspections one by one, by whose they are and of what day. What rates an
// item is one field: of two ratings one is taken whole.
func (s Sides) Merge() (Merged, error) {
	var sides [3]map[string]any
	for i, side := range [3]*Item{&s.Base, &s.Mine, &s.Theirs} {
		written, err := json.Marshal(side)
		if err == nil {
			err = json.Unmarshal(written, &sides[i])
		}
		if err != nil {
			return Merged{}, err
		}
	}
	m := Merged{Aparts: []Apart{}}
	merged := m.fields("", sides[0], sides[1], sides[2])
	looks := m.fields("inspection of ", looksOf(sides[0]), looksOf(sides[1]), looksOf(sides[2]))
	delete(merged, "inspections")
	if len(looks) > 0 {
		list := make([]any, 0, len(looks))
		for _, key := range slices.Sorted(maps.Keys(looks)) {
			list = append(list, looks[key])
		}
		merged["inspections"] = list
	}
	written, err := json.Marshal(merged)
	if err == nil {
		err = json.Unmarshal(written, &m.Item)
	}
	m.Item.Settle()
	return m, err
}

// looksOf are the inspections of an item by day and by whom.
func looksOf(item map[string]any) map[string]any {
	looks := map[string]any{}
	list, _ := item["inspections"].([]any)
	for _, one := range list {
		look, _ := one.(map[string]any)
		on, _ := look["on"].(string)
		by, _ := look["by"].(string)
		looks[on+" by "+by] = one
	}
	return looks
}

// ratings are the fields that rate an item together.
var ratings = []string{"marked_kn", "breaking_kn"}

// rating is what rates an item, as one.
func rating(item map[string]any) map[string]any {
	one := map[string]any{}
	for _, key := range ratings {
		if value, is := item[key]; is {
			one[key] = value
		}
	}
	return one
}

// fields merges the fields of a thing.
func (m *Merged) fields(of string, base, mine, theirs map[string]any) map[string]any {
	merged := maps.Clone(mine)
	if merged == nil {
		merged = map[string]any{}
	}
	keys := maps.Clone(base)
	maps.Copy(keys, mine)
	maps.Copy(keys, theirs)
	take := func(key string) {
		if value, is := theirs[key]; is {
			merged[key] = value
		} else {
			delete(merged, key)
		}
	}
	changed := func(side map[string]any, key string) bool { return !reflect.DeepEqual(base[key], side[key]) }
	rated := func(side map[string]any) bool {
		return slices.ContainsFunc(ratings, func(key string) bool { return changed(side, key) })
	}
	both := false // rate it
	for _, key := range slices.Sorted(maps.Keys(keys)) {
		if of == "" && key == "inspections" || reflect.DeepEqual(mine[key], theirs[key]) {
			continue
		}
		here, there := changed(mine, key), changed(theirs, key)
		if of == "" && slices.Contains(ratings, key) {
			if here, there = rated(mine), rated(theirs); here && there {
				both = true
				continue
			}
		}
		switch {
		case !here:
			take(key)
		case there:
			m.apart(of+key, mine[key], theirs[key])
		}
	}
	if both {
		m.apart("rating", rating(mine), rating(theirs))
	}
	return merged
}

func (m *Merged) apart(field string, mine, theirs any) {
	a, _ := json.Marshal(mine) // of what was read from JSON
	b, _ := json.Marshal(theirs)
	m.Aparts = append(m.Aparts, Apart{field, a, b})
}
