// Package demo holds the invented scenarios that the application opens with. No
// tree, place, person or maker in it is real; figures of gear are plausible and
// made up.
package demo

import (
	"context"
	"embed"
	"encoding/json"
	"fmt"

	"github.com/google/uuid"

	"elkstay/core/plan"
	"elkstay/store"
)

//go:embed *.json
var files embed.FS

// jobs lists the demo's jobs under ids that stay the same, so that loading it
// again finds what the user has made of them.
var jobs = []struct{ id, file string }{
	{"7e57a9e0-0001-4c1b-9d4e-7e5109ab0001", "tern-quay.json"},
	{"7e57a9e0-0002-4c1b-9d4e-7e5109ab0002", "mill-fold.json"},
}

// Load keeps the demo's jobs in a store that does not have them yet. Those it has,
// changed or deleted, stay as they are.
func Load(ctx context.Context, into *store.Store) error {
	for _, job := range jobs {
		document, err := files.ReadFile(job.file)
		if err != nil {
			return err
		}
		read, err := plan.ReadJob(document)
		if err != nil {
			return fmt.Errorf("demo: %s: %w", job.file, err)
		}
		if document, err = json.Marshal(read); err != nil {
			return err
		}
		if _, _, err := into.Create(ctx, uuid.MustParse(job.id), document, "demo"); err != nil {
			return err
		}
	}
	return nil
}
