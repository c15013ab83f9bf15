package main

import (
	"bytes"
	"os"
	"path/filepath"
	"testing"
)

// What ships names every part that the program is made with now.
func TestNoticesAreCurrent(t *testing.T) {
	t.Chdir("../..")
	made := filepath.Join(t.TempDir(), "notices.txt")
	if err := gather(made); err != nil {
		t.Fatal(err)
	}
	want, err := os.ReadFile(made)
	if err != nil {
		t.Fatal(err)
	}
	got, err := os.ReadFile("web/static/notices.txt")
	if err != nil || !bytes.Equal(got, want) {
		t.Errorf("web/static/notices.txt is out of date: make generate (%v)", err)
	}
	for _, part := range []string{"Elk Stay", "MIT License", "SIL OPEN FONT LICENSE", "github.com/jackc/pgx/v5", "svelte ", "Permission is hereby granted"} {
		if !bytes.Contains(got, []byte(part)) {
			t.Errorf("the notices do not hold %q", part)
		}
	}
}
