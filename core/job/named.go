package job

import (
	"maps"
	"slices"
	"strconv"
	"strings"
)

// A thing of a document: the list that it stands in, and its id.
type thing struct{ list, id string }

// things are all of a document that have ids, but for its facts.
func things(path string, value any) (list []thing) {
	switch v := value.(type) {
	case []any:
		for _, one := range v {
			if id := idOf(one); id != "" {
				list = append(list, thing{path, id})
				list = append(list, things(path+"["+id+"]", one)...)
			}
		}
	case map[string]any:
		for _, key := range slices.Sorted(maps.Keys(v)) {
			if key != factsKey {
				list = append(list, things(strings.TrimPrefix(path+"."+key, "."), v[key])...)
			}
		}
	}
	return list
}

// in is a thing as a document has it; nil: it has not.
func in(document any, of thing) any {
	for _, entry := range find(document, of.list) {
		if idOf(entry) == of.id {
			return entry
		}
	}
	return nil
}

// put puts a thing into its list, behind what it stood behind among some ids.
func put(document any, of thing, entry any, among []string) {
	list := find(document, of.list)
	if slices.Contains(ids(list), of.id) {
		return
	}
	at := behind(ids(list), among[:slices.Index(among, of.id)])
	owner, name := document, of.list
	if cut := strings.LastIndexByte(of.list, '.'); cut >= 0 {
		owner, name = holder(document, of.list[:cut]), of.list[cut+1:]
	}
	if fields, is := owner.(map[string]any); is {
		fields[name] = slices.Insert(list, at, entry)
	}
}

// mentions counts how often an id is named elsewhere than where it is given.
func mentions(value any, id string) (n int) {
	switch v := value.(type) {
	case string:
		if v == id {
			n++
		}
	case []any:
		for _, one := range v {
			n += mentions(one, id)
		}
	case map[string]any:
		for key, one := range v {
			if key != "id" && key != factsKey {
				n += mentions(one, id)
			}
		}
	}
	return n
}

func lastName(path string) string { return path[strings.LastIndexByte(path, '.')+1:] }

// title says a path in words, things by what they are called: picks[p3].cut_m is "pick 3, cut".
func (m *merger) title(path string) string {
	var words []string
	for at := ""; path != ""; {
		step, rest, _ := strings.Cut(path, ".")
		path = rest
		list, id, is := strings.Cut(strings.TrimSuffix(step, "]"), "[")
		at = strings.TrimPrefix(at+"."+list, ".")
		if !is {
			for _, unit := range []string{"_m", "_kn", "_kg", "_deg", "_pct"} {
				step = strings.TrimSuffix(step, unit)
			}
			words = append(words, strings.ReplaceAll(step, "_", " "))
			continue
		}
		words = append(words, one(list)+" "+m.called(at, id))
		at += "[" + id + "]"
	}
	return strings.Join(words, ", ")
}

// one is what a thing of a list is called.
func one(list string) string {
	return strings.TrimSuffix(strings.ReplaceAll(list, "_", " "), "s")
}

// called is what a thing of a list is called: as the crew calls it, or by its place.
func (m *merger) called(path, id string) string {
	for _, side := range m.sides {
		list := find(side, path)
		for i, entry := range list {
			if idOf(entry) != id {
				continue
			}
			fields, _ := entry.(map[string]any)
			for _, key := range [2]string{"label", "name"} {
				if name, _ := fields[key].(string); name != "" {
					return name
				}
			}
			return strconv.Itoa(i + 1)
		}
	}
	return id
}

// find is the list of a document at a path; nil: there is none.
func find(document any, path string) []any {
	list, _ := holder(document, path).([]any)
	return list
}

// holder is what stands at a path of a document; nil: nothing.
func holder(document any, path string) any {
	for path != "" {
		step, rest, _ := strings.Cut(path, ".")
		path = rest
		list, id, is := strings.Cut(strings.TrimSuffix(step, "]"), "[")
		fields, _ := document.(map[string]any)
		document = fields[list]
		if !is {
			continue
		}
		entries, _ := document.([]any)
		document = nil
		for _, entry := range entries {
			if idOf(entry) == id {
				document = entry
			}
		}
	}
	return document
}
