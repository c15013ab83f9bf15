package main

import (
	"fmt"
	"os"
	"strings"
	"testing"
)

// Of a small package every bug's fate is known: sum and comparison are seen, the boundary at which both answers are the same
// lives, a loop that never ends is slow, and what nothing runs is not reached.
func TestFatesOfASmallPackage(t *testing.T) {
	p, err := prepare("testdata/sums", "^Test")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = os.RemoveAll(p.work) })
	p.run(1, 0)
	got := []string{}
	for _, b := range p.counted {
		got = append(got, fmt.Sprintf("%s for %s: %s", b.to, b.from, b.fate))
	}
	want := []string{"- for +: seen", "<= for <: lived", ">= for <: seen", "+ for -: unreached", ">= for >: seen", "<= for >: seen", "++ for --: slow", "-- for ++: seen"}
	if strings.Join(got, ", ") != strings.Join(want, ", ") {
		t.Errorf("%q, want %q", got, want)
	}
	if p.run(4, 1); len(p.counted) != 2 || p.counted[0].fate != lived || p.counted[1].fate != seen {
		t.Errorf("one in four, from the second: %d", len(p.counted))
	}
}
