// Package demo holds the invented scenarios that the application opens with. No
// tree, place, person or maker in it is real; figures of gear are plausible and
// made up.
package demo

import (
	"context"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"github.com/google/uuid"

	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/store"
)

//go:embed *.json
var files embed.FS

// jobs lists the demo's jobs under ids that stay the same, so that loading it
// again finds what the user has made of them.
var jobs = []struct{ id, file string }{
	{"7e57a9e0-0001-4c1b-9d4e-7e5109ab0001", "tern-quay.json"},
	{"7e57a9e0-0002-4c1b-9d4e-7e5109ab0002", "mill-fold.json"},
	{"7e57a9e0-0003-4c1b-9d4e-7e5109ab0003", "reed-lock.json"},
}

// Samples are the demo's jobs as they began, for whoever wants one to look at again.
func Samples() ([][]byte, error) {
	list := make([][]byte, 0, len(jobs))
	for _, one := range jobs {
		document, err := files.ReadFile(one.file)
		if err != nil {
			return nil, err
		}
		list = append(list, document)
	}
	return list, nil
}

// lockerDay is the day on which the locker's file stands as the demo means it: one item
// overdue, one set aside. Loaded on another day, all its days move with it.
const lockerDay = "2026-11-23"

// gearOn reads the demo's locker as it would stand on a day.
func gearOn(today time.Time) ([]locker.Item, error) {
	data, err := files.ReadFile("locker.json")
	if err != nil {
		return nil, err
	}
	var each []json.RawMessage
	if err := json.Unmarshal(data, &each); err != nil {
		return nil, err
	}
	meant, err := time.Parse(time.DateOnly, lockerDay)
	if err != nil {
		return nil, err
	}
	days := int(today.Sub(meant).Hours() / 24)
	move := func(day *string) {
		if at, err := time.Parse(time.DateOnly, *day); err == nil {
			*day = at.AddDate(0, 0, days).Format(time.DateOnly)
		}
	}
	items := make([]locker.Item, len(each))
	for i, one := range each {
		if items[i], err = locker.Read(one); err != nil {
			return nil, fmt.Errorf("demo: item %d: %w", i+1, err)
		}
		it := &items[i]
		move(&it.InService)
		if it.SetAside != nil {
			move(&it.SetAside.On)
		}
		for k := range it.Inspections {
			move(&it.Inspections[k].On)
			move(&it.Inspections[k].NextDue)
		}
	}
	return items, nil
}

// loadGear fills a locker that nobody has ever put anything into.
func loadGear(ctx context.Context, into *store.Store) error {
	held, revision, err := into.Items(ctx)
	if err != nil || len(held) > 0 || revision > 0 {
		return err
	}
	items, err := gearOn(time.Now())
	if err != nil {
		return err
	}
	_, err = into.ImportItems(ctx, items, revision)
	if errors.Is(err, store.ErrMoved) {
		return nil // another server was quicker
	}
	return err
}

// Load keeps the demo's gear and jobs in a store that does not have them yet. Those it has,
// changed or deleted, stay as they are.
func Load(ctx context.Context, into *store.Store) error {
	if err := loadGear(ctx, into); err != nil {
		return err
	}
	for _, one := range jobs {
		document, err := files.ReadFile(one.file)
		if err != nil {
			return err
		}
		read, err := job.ReadJob(document)
		if err != nil {
			return fmt.Errorf("demo: %s: %w", one.file, err)
		}
		if document, err = json.Marshal(read); err != nil {
			return err
		}
		// One kept from another version of the demo is not this one: it stays.
		if _, _, err := into.Create(ctx, uuid.MustParse(one.id), document, "demo"); err != nil && !errors.Is(err, store.ErrReused) {
			return err
		}
	}
	return nil
}
