// Package web embeds the front end as it was built.
package web

import (
	"embed"
	"io/fs"
)

// The pattern finds this file too: the package compiles where nothing is built yet.
//
//go:embed all:build*
var build embed.FS

// Files returns the built front end, each file beside its compressed forms. It
// fails when the front end has not been built.
func Files() (fs.ReadDirFS, error) {
	files, err := fs.Sub(build, "build")
	if err != nil {
		return nil, err
	}
	if _, err := fs.Stat(files, "200.html"); err != nil {
		return nil, err
	}
	return files.(fs.ReadDirFS), nil
}
