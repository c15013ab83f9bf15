package glossary_test

import (
	"encoding/json"
	"fmt"
	"os"
	"slices"
	"sort"
	"strings"
	"testing"

	"elkstay/core/glossary"
)

// Each word stands once, by the alphabet, with a sentence; no other word leads to two.
func TestTheWordsStandOnce(t *testing.T) {
	words := glossary.Words()
	if !sort.SliceIsSorted(words, func(a, b int) bool { return words[a].Word < words[b].Word }) {
		for i := 1; i < len(words); i++ {
			if words[i].Word < words[i-1].Word {
				t.Errorf("%s stands behind %s", words[i].Word, words[i-1].Word)
			}
		}
	}
	led := map[string]string{}
	for _, one := range words {
		if len(one.Means) < 20 || !strings.HasSuffix(one.Means, ".") && !strings.HasSuffix(one.Means, "!") {
			t.Errorf("%s: %q", one.Word, one.Means)
		}
		for _, word := range append([]string{one.Word}, one.Also...) {
			word = strings.ToLower(word)
			if before, twice := led[word]; twice && before != one.Word && word != "union" && word != "turn" && word != "turns" {
				t.Errorf("%q leads to %s and to %s", word, before, one.Word)
			}
			led[word] = one.Word
		}
	}
}

// What the ladder and the verdicts call things is in it.
func TestWordsOfTheScreenAreInIt(t *testing.T) {
	for _, word := range []string{"piece", "connector", "second line", "second block", "crane", "pull", "push", "tie", "line", "block", "sling", "spar", "holder", "redirect", "device", "hand", "hinge", "wedge", "stop", "tag line", "within", "close", "over", "not known", "not held", "run", "wraps"} {
		if !slices.ContainsFunc(glossary.Words(), func(one glossary.Word) bool { return one.Word == word || slices.Contains(one.Also, word) }) {
			t.Errorf("%s is not in the glossary", word)
		}
	}
}

// The page and the screen's list are made of it: cmd/apidoc writes them.
func TestThePageIsMadeOfIt(t *testing.T) {
	page, err := os.ReadFile("../../docs/glossary.md")
	if err != nil || string(page) != glossary.Markdown() {
		t.Errorf("docs/glossary.md is out of date: go run ./cmd/apidoc (%v)", err)
	}
	data, err := os.ReadFile("../../web/src/lib/words/glossary.json")
	if err != nil {
		t.Fatal(err)
	}
	var kept []glossary.Word
	if err := json.Unmarshal(data, &kept); err != nil || fmt.Sprint(kept) != fmt.Sprint(glossary.Words()) {
		t.Errorf("web/src/lib/words/glossary.json is out of date: go run ./cmd/apidoc (%v)", err)
	}
}

func ExampleWords() {
	fmt.Println(glossary.Words()[0].Word)
	// Output: anchor
}
