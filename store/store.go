// Package store keeps jobs in PostgreSQL: every save a new revision of the whole
// document, immutable, and each save checked against the revision it was made
// from. It is the only place that knows SQL.
package store

import (
	"context"
	"errors"
	"fmt"
	"math"
	"time"

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

// Create keeps a new job under the given id, as revision 1. Creating an id twice with the same
// document keeps the first and reports so in made; with another, the error is ErrReused.
func (s *Store) Create(ctx context.Context, id uuid.UUID, document []byte, note string) (job Job, made bool, err error) {
	return s.create(ctx, id, document, note, nil)
}

// Copy keeps a job that was made of another, under an id of chance and with the other's pictures.
func (s *Store) Copy(ctx context.Context, from uuid.UUID, document []byte, note string) (job Job, err error) {
	id := uuid.New()
	job, _, err = s.create(ctx, id, document, note, func(q *rows.Queries) error {
		return q.CopyPhotos(ctx, rows.CopyPhotosParams{ToJob: id, FromJob: from})
	})
	return job, err
}

// create is Create, with what else is kept with a new job; nil: nothing.
func (s *Store) create(ctx context.Context, id uuid.UUID, document []byte, note string, with func(*rows.Queries) error) (job Job, made bool, err error) {
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
		if _, err = q.InsertRevision(ctx, rows.InsertRevisionParams{JobID: id, Number: 1, Note: note, SaveKey: id, Document: document}); err != nil || with == nil {
			return err
		}
		return with(q)
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

// The orders of the list of jobs besides the last saved first.
const (
	ByName = "name"
	ByDay  = "day" // of the work; those without one last
)

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
