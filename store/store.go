// Package store keeps jobs in PostgreSQL: every save a new revision of the whole
// document, immutable, and each save checked against the revision it was made
// from. It is the only place that knows SQL.
package store

import (
	"context"
	"errors"
	"fmt"
	"math"
	"strings"
	"time"

	jsonv2 "github.com/go-json-experiment/json"
	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"

	"elkstay/store/internal/rows"
	"elkstay/store/schema"
)

// A Job is the newest revision of one job. Document is a job document as JSON.
type Job struct {
	ID       uuid.UUID
	Revision int
	SavedAt  time.Time
	Deleted  bool
	Document []byte
}

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

// A Revision is one save. Document is nil in a list of revisions.
type Revision struct {
	Number   int
	BasedOn  int // 0: the first
	SavedAt  time.Time
	Author   string
	Note     string
	Document []byte
}

// A Store is a pool of connections to one database. Its methods may be called
// from many goroutines.
type Store struct{ pool *pgxpool.Pool }

// Open connects to a database and brings its schema up to date; several servers
// may open the same one at once.
func Open(ctx context.Context, databaseURL string) (*Store, error) {
	config, err := pgxpool.ParseConfig(databaseURL)
	if err != nil {
		return nil, err
	}
	config.ConnConfig.RuntimeParams["application_name"] = "elkstay"
	config.ConnConfig.RuntimeParams["statement_timeout"] = "10000"
	config.ConnConfig.ConnectTimeout = 5 * time.Second
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, err
	}
	if err := schema.Migrate(ctx, pool); err != nil {
		pool.Close()
		return nil, fmt.Errorf("migrating the database: %w", err)
	}
	return &Store{pool}, nil
}

// Close ends all connections.
func (s *Store) Close() { s.pool.Close() }

// Connections are those of the pool: in use, open, and how many there may be.
func (s *Store) Connections() (used, open, most int) {
	stat := s.pool.Stat()
	return int(stat.AcquiredConns()), int(stat.TotalConns()), int(stat.MaxConns())
}

// Ready reports whether the database answers.
func (s *Store) Ready(ctx context.Context) error { return s.pool.Ping(ctx) }

// inTx runs work in one transaction.
func (s *Store) inTx(ctx context.Context, work func(*rows.Queries) error) error {
	return s.within(ctx, pgx.TxOptions{}, work)
}

// reading runs work in one transaction that sees one moment and changes nothing.
func (s *Store) reading(ctx context.Context, work func(*rows.Queries) error) error {
	return s.within(ctx, pgx.TxOptions{IsoLevel: pgx.RepeatableRead, AccessMode: pgx.ReadOnly}, work)
}

func (s *Store) within(ctx context.Context, options pgx.TxOptions, work func(*rows.Queries) error) error {
	var failed error
	err := pgx.BeginTxFunc(ctx, s.pool, options, func(tx pgx.Tx) error {
		failed = work(ask(tx))
		return failed
	})
	if failed != nil {
		return failed
	}
	return told("transaction", err)
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

// Create keeps a new job under the given id, as revision 1. Creating an id twice with the same
// document keeps the first and reports so in made; with another, the error is ErrReused.
func (s *Store) Create(ctx context.Context, id uuid.UUID, document []byte, note string) (job Job, made bool, err error) {
	err = s.inTx(ctx, func(q *rows.Queries) error {
		name, species, day := listed(document)
		inserted, err := q.InsertJob(ctx, rows.InsertJobParams{ID: id, Name: name, Species: species, WorkOn: day})
		if err != nil {
			return err
		}
		if inserted == 0 {
			first, err := q.RevisionBySaveKey(ctx, rows.RevisionBySaveKeyParams{JobID: id, SaveKey: id, Document: document})
			if err == nil && !first.Same {
				return ErrReused
			}
			return err
		}
		made = true
		_, err = q.InsertRevision(ctx, rows.InsertRevisionParams{JobID: id, Number: 1, Note: note, SaveKey: id, Document: document})
		return err
	})
	if err != nil {
		return Job{}, false, err
	}
	job, err = s.Job(ctx, id)
	return job, made, err
}

// Job returns the newest revision of a job, deleted or not, or ErrNotFound.
func (s *Store) Job(ctx context.Context, id uuid.UUID) (Job, error) {
	row, err := ask(s.pool).Head(ctx, id)
	if errors.Is(err, pgx.ErrNoRows) {
		return Job{}, ErrNotFound
	}
	if err != nil {
		return Job{}, err
	}
	return Job{ID: row.ID, Revision: int(row.Head), SavedAt: row.SavedAt, Deleted: row.DeletedAt != nil, Document: row.Document}, nil
}

// Head returns the number of a job's newest revision and whether the job was deleted, without
// reading it; or ErrNotFound.
func (s *Store) Head(ctx context.Context, id uuid.UUID) (revision int, deleted bool, err error) {
	row, err := ask(s.pool).HeadNumber(ctx, id)
	if errors.Is(err, pgx.ErrNoRows) {
		return 0, false, ErrNotFound
	}
	return int(row.Head), row.Deleted, err
}

// Save keeps a document as the next revision of a job, when base is the newest;
// else the error is a *StaleError. A save repeated with the same key is kept once
// and answered alike, so that a lost answer can be asked for again; another document under a
// key that was used is ErrReused. Saving a deleted job is ErrNotFound.
func (s *Store) Save(ctx context.Context, id uuid.UUID, base int, key uuid.UUID, document []byte, note string) (Revision, error) {
	saved := Revision{BasedOn: base}
	stale := false
	err := s.inTx(ctx, func(q *rows.Queries) error {
		job, err := q.LockJob(ctx, id)
		if errors.Is(err, pgx.ErrNoRows) || err == nil && job.DeletedAt != nil {
			return ErrNotFound
		}
		if err != nil {
			return err
		}
		before, err := q.RevisionBySaveKey(ctx, rows.RevisionBySaveKeyParams{JobID: id, SaveKey: key, Document: document})
		if err == nil {
			if !before.Same {
				return ErrReused
			}
			saved.Number, saved.SavedAt = int(before.Number), before.SavedAt
			return nil
		}
		if !errors.Is(err, pgx.ErrNoRows) {
			return err
		}
		if int(job.Head) != base {
			stale = true
			return nil
		}
		next := job.Head + 1
		saved.Number = int(next)
		name, species, day := listed(document)
		saved.SavedAt, err = q.NextRevision(ctx, rows.NextRevisionParams{
			JobID: id, Number: next, BasedOn: job.Head, Note: note, SaveKey: key, Document: document, Name: name, Species: species, WorkOn: day,
		})
		return err
	})
	if err != nil {
		return Revision{}, err
	}
	if stale {
		current, err := s.Job(ctx, id)
		if err != nil {
			return Revision{}, err
		}
		return Revision{}, &StaleError{Base: base, Current: current}
	}
	return saved, nil
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

// The orders of the list of jobs besides the last saved first.
const (
	ByName = "name"
	ByDay  = "day" // of the work; those without one last
)

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

// Revisions lists at most so many saves of a job without their documents, the newest first,
// those below a number; 0: all. They are numbered from 1 on: the first of all tells how many
// there are.
func (s *Store) Revisions(ctx context.Context, id uuid.UUID, below, most int) (list []Revision, more bool, err error) {
	if below <= 0 {
		below = math.MaxInt32
	}
	found, err := ask(s.pool).Revisions(ctx, rows.RevisionsParams{JobID: id, Before: int32(below), Most: page(most)})
	if err != nil {
		return nil, false, err
	}
	if len(found) == 0 && below == math.MaxInt32 {
		return nil, false, ErrNotFound
	}
	if more = len(found) > most; more {
		found = found[:most]
	}
	list = make([]Revision, len(found))
	for i, row := range found {
		list[i] = Revision{Number: int(row.Number), BasedOn: base(row.BasedOn), SavedAt: row.SavedAt, Author: row.Author, Note: row.Note}
	}
	return list, more, nil
}

// Revision returns one save of a job, or ErrNotFound.
func (s *Store) Revision(ctx context.Context, id uuid.UUID, number int) (Revision, error) {
	row, err := ask(s.pool).Revision(ctx, rows.RevisionParams{JobID: id, Number: int32(number)}) //nolint:gosec // bounded by the caller
	if errors.Is(err, pgx.ErrNoRows) {
		return Revision{}, ErrNotFound
	}
	if err != nil {
		return Revision{}, err
	}
	return Revision{Number: int(row.Number), BasedOn: base(row.BasedOn), SavedAt: row.SavedAt, Author: row.Author, Note: row.Note, Document: row.Document}, nil
}

func base(number *int32) int {
	if number == nil {
		return 0
	}
	return int(*number)
}

// Delete takes a job off the list; Restore brings it back. Nothing is erased.
func (s *Store) Delete(ctx context.Context, id uuid.UUID) error {
	touched, err := ask(s.pool).DeleteJob(ctx, id)
	if err == nil && touched == 0 {
		return ErrNotFound
	}
	return err
}

// Restore brings a deleted job back to the list.
func (s *Store) Restore(ctx context.Context, id uuid.UUID) error {
	touched, err := ask(s.pool).RestoreJob(ctx, id)
	if err == nil && touched == 0 {
		return ErrNotFound
	}
	return err
}
