package policy

import (
	"encoding/json"
	"strings"
)

// A Change is one rule that one saved policy has otherwise than the one before it.
type Change struct {
	Path  string `json:"path" doc:"Path in the policy"`
	Title string `json:"title"`
	Was   any    `json:"was" doc:"A figure or a choice; null: it stood at its default"`
	Is    any    `json:"is" doc:"Likewise"`
}

// Changes lists the rules that stand otherwise in a policy than in one before it.
func Changes(before, after *Policy) []Change {
	was, is := branches(before), branches(after)
	list := []Change{}
	for _, rule := range Rules() {
		if a, b := at(was, rule.Path), at(is, rule.Path); a != b {
			list = append(list, Change{rule.Path, rule.Title, a, b})
		}
	}
	return list
}

// branches is a policy as its document has it.
func branches(p *Policy) (tree map[string]any) {
	written, err := json.Marshal(p)
	if err == nil {
		_ = json.Unmarshal(written, &tree)
	}
	return tree
}

func at(tree map[string]any, path string) any {
	var branch any = tree
	for _, name := range strings.Split(path, ".") {
		inner, ok := branch.(map[string]any)
		if !ok {
			return nil
		}
		branch = inner[name]
	}
	return branch
}
