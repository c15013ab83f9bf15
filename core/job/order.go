package job

import (
	"encoding/json"
	"slices"
)

// order merges the orders of two lists, both changed from one. Whatever pair of things either side has put the other way round stays so:
// both moves are kept. What both moved, each to another place, is asked about, and stands as mine has it meanwhile. What only one side
// has goes behind what it stood behind there.
func (m *merger) order(path string, base, mine, theirs []string, kept map[string]any) []string {
	common := func(list []string) (out []string) {
		for _, id := range list {
			if _, there := kept[id]; there && slices.Contains(base, id) && slices.Contains(mine, id) && slices.Contains(theirs, id) {
				out = append(out, id)
			}
		}
		return out
	}
	was, here, there := common(base), common(mine), common(theirs)
	both := contested(was, here, there)
	if len(both) > 0 {
		m.conflicts = append(m.conflicts, Conflict{path, "the order of the " + lastName(path), m.named(path, here), m.named(path, there)})
	}
	out := together(was, here, there, both)
	for _, side := range [2][]string{mine, theirs} {
		for i, id := range side {
			if _, there := kept[id]; there && !slices.Contains(out, id) {
				out = slices.Insert(out, behind(out, side[:i]), id)
			}
		}
	}
	return out
}

// behind is where what stood behind some others stands in a list: after the last of them that is there.
func behind(list, before []string) int {
	for k := len(before) - 1; k >= 0; k-- {
		if j := slices.Index(list, before[k]); j >= 0 {
			return j + 1
		}
	}
	return 0
}

// together is the order in which every pair that either side has put the other way round is so, of those that both moved as mine has it; else as it was.
// Such pairs all lead back in the order as it was, so that they never contradict each other.
func together(was, mine, theirs, both []string) (out []string) {
	place := func(list []string) map[string]int {
		at := make(map[string]int, len(list))
		for i, id := range list {
			at[id] = i
		}
		return at
	}
	here, there := place(mine), place(theirs)
	// before tells that b, which stood behind a, has been put before it.
	before := func(a, b string) bool {
		if here[b] < here[a] {
			return true
		}
		return there[b] < there[a] && !slices.Contains(both, a) && !slices.Contains(both, b)
	}
	left := slices.Clone(was)
	for len(left) > 0 {
		// The first that none behind it has been put before.
		at := slices.IndexFunc(left, func(id string) bool {
			k := slices.Index(left, id)
			return !slices.ContainsFunc(left[k+1:], func(other string) bool { return before(id, other) })
		})
		out = append(out, left[at])
		left = slices.Delete(left, at, at+1)
	}
	return out
}

// contested are the things that both sides moved, each behind another of those that stay.
func contested(was, mine, theirs []string) (list []string) {
	if slices.Equal(was, mine) || slices.Equal(was, theirs) || slices.Equal(mine, theirs) {
		return nil
	}
	here, there := moved(was, mine), moved(was, theirs)
	stays := func(id string) bool { return !slices.Contains(here, id) && !slices.Contains(there, id) }
	gap := func(list []string, id string) (n int) {
		for _, other := range list[:slices.Index(list, id)] {
			if stays(other) {
				n++
			}
		}
		return n
	}
	for _, id := range here {
		if slices.Contains(there, id) && gap(mine, id) != gap(theirs, id) {
			list = append(list, id)
		}
	}
	return list
}

// moved are the fewest things whose move makes one order of another.
func moved(was, is []string) (list []string) {
	// The longest run of them that keeps its order stays.
	type run struct{ long, before int }
	runs := make([]run, len(is))
	best := -1
	for i := range is {
		runs[i] = run{1, -1}
		for k := range i {
			if slices.Index(was, is[k]) < slices.Index(was, is[i]) && runs[k].long+1 > runs[i].long {
				runs[i] = run{runs[k].long + 1, k}
			}
		}
		if best < 0 || runs[i].long > runs[best].long {
			best = i
		}
	}
	stays := make([]bool, len(is))
	for k := best; k >= 0; k = runs[k].before {
		stays[k] = true
	}
	for i, id := range is {
		if !stays[i] {
			list = append(list, id)
		}
	}
	return list
}

// named are what things of a list are called, as JSON.
func (m *merger) named(path string, ids []string) string {
	names := make([]string, len(ids))
	for i, id := range ids {
		names[i] = m.called(path, id)
	}
	text, _ := json.Marshal(names)
	return string(text)
}
