package store

import (
	"context"
	"strings"
	"time"

	jsonv2 "github.com/go-json-experiment/json"
	"github.com/google/uuid"

	"elkstay/store/internal/rows"
)

// A Listed job is one row of the list of jobs.
type Listed struct {
	ID        uuid.UUID
	Name      string
	Species   string
	WorkOn    string // the day it is planned for; empty: none
	Revision  int
	CreatedAt time.Time
	SavedAt   time.Time
	DeletedAt *time.Time // nil: it is not
}

// listed is what of a document stands in the list of jobs.
func listed(document []byte) (name, species, day string) {
	var of struct {
		Name   string `json:"name"`
		WorkOn string `json:"work_on"`
		Trees  []struct {
			Wood struct {
				Species string `json:"species"`
			} `json:"wood"`
		} `json:"trees"`
	}
	// What is no such document is refused by the tables.
	_ = jsonv2.Unmarshal(document, &of)
	if len(of.Trees) > 0 {
		species = of.Trees[0].Wood.Species
	}
	return of.Name, species, of.WorkOn
}

// A Place is where a page of a list ends: what comes after it is older. The zero Place is
// before everything.
type Place struct {
	At time.Time
	ID uuid.UUID
}

// before is a place as a query takes it.
func (p Place) before() (time.Time, uuid.UUID) {
	if p.ID == uuid.Nil && p.At.IsZero() {
		return time.Date(9999, 1, 1, 0, 0, 0, 0, time.UTC), uuid.Max
	}
	return p.At, p.ID
}

// like is a search as a pattern: any name that holds it, whatever its case.
func like(search string) string {
	return "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(search) + "%"
}

// Jobs lists at most so many jobs that are not deleted and whose name holds a search, the last
// saved first, after a place; total counts all of them. next is the place where the list goes
// on; nil: it is whole.
func (s *Store) Jobs(ctx context.Context, search string, after Place, most int) (list []Listed, next *Place, total int, err error) {
	at, id := after.before()
	if search != "" {
		found, failed := ask(s.pool).JobsNamed(ctx, rows.JobsNamedParams{Wanted: like(search), BeforeAt: at, BeforeID: id, Most: page(most)})
		for _, row := range found {
			total = int(row.Total)
			list = append(list, Listed{ID: row.ID, Name: row.Name, Species: row.Species, WorkOn: row.WorkOn, Revision: int(row.Head), CreatedAt: row.CreatedAt, SavedAt: row.SavedAt})
		}
		err = failed
	} else {
		err = s.reading(ctx, func(q *rows.Queries) error {
			count, err := q.CountJobs(ctx)
			if err != nil {
				return err
			}
			total = int(count)
			found, err := q.Jobs(ctx, rows.JobsParams{BeforeAt: at, BeforeID: id, Most: page(most)})
			for _, row := range found {
				list = append(list, Listed{ID: row.ID, Name: row.Name, Species: row.Species, WorkOn: row.WorkOn, Revision: int(row.Head), CreatedAt: row.CreatedAt, SavedAt: row.SavedAt})
			}
			return err
		})
	}
	if len(list) > most {
		list = list[:most]
		next = &Place{list[most-1].SavedAt, list[most-1].ID}
	}
	return list, next, total, err
}

// A Key is where a page of a list in the order of some text ends. The zero Key is before everything.
type Key struct {
	Text string
	ID   uuid.UUID
}

// JobsBy lists jobs as Jobs does, by name or by the day of their work.
func (s *Store) JobsBy(ctx context.Context, order, search string, after Key, most int) (list []Listed, next *Key, total int, err error) {
	keys := []string{}
	err = s.reading(ctx, func(q *rows.Queries) error {
		count, err := q.CountJobs(ctx)
		if search != "" && err == nil {
			count, err = q.CountNamed(ctx, like(search))
		}
		if err != nil {
			return err
		}
		total = int(count)
		add := func(row rows.JobsByNameRow) {
			keys = append(keys, row.Key)
			list = append(list, Listed{ID: row.ID, Name: row.Name, Species: row.Species, WorkOn: row.WorkOn, Revision: int(row.Head), CreatedAt: row.CreatedAt, SavedAt: row.SavedAt})
		}
		by := rows.JobsByNameParams{Wanted: like(search), AfterKey: after.Text, AfterID: after.ID, Most: page(most)}
		if order == ByDay {
			found, err := q.JobsByDay(ctx, rows.JobsByDayParams(by))
			for _, row := range found {
				add(rows.JobsByNameRow(row))
			}
			return err
		}
		found, err := q.JobsByName(ctx, by)
		for _, row := range found {
			add(row)
		}
		return err
	})
	if len(list) > most {
		list = list[:most]
		next = &Key{keys[most-1], list[most-1].ID}
	}
	return list, next, total, err
}

// Binned lists deleted jobs as Jobs does the others, the last deleted first.
func (s *Store) Binned(ctx context.Context, search string, after Place, most int) (list []Listed, next *Place, total int, err error) {
	err = s.reading(ctx, func(q *rows.Queries) error {
		count, err := q.CountBinned(ctx, like(search))
		if err != nil {
			return err
		}
		total = int(count)
		at, id := after.before()
		found, err := q.Binned(ctx, rows.BinnedParams{Wanted: like(search), BeforeAt: at, BeforeID: id, Most: page(most)})
		for _, row := range found {
			list = append(list, Listed{ID: row.ID, Name: row.Name, Species: row.Species, WorkOn: row.WorkOn, Revision: int(row.Head), CreatedAt: row.CreatedAt, SavedAt: row.SavedAt, DeletedAt: row.DeletedAt})
		}
		return err
	})
	if len(list) > most {
		list = list[:most]
		next = &Place{*list[most-1].DeletedAt, list[most-1].ID}
	}
	return list, next, total, err
}

// page asks for one row more than a page has: there it goes on.
func page(most int) int32 { return int32(most) + 1 } //nolint:gosec // bounded by the caller
