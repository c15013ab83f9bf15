package store

import (
	"context"
	"errors"
	"fmt"
	"regexp"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"

	"elkstay/store/internal/rows"
)

// What can come of asking the store, beside what a method names itself. Each keeps its
// cause: errors.As finds the driver's own error beneath it.
var (
	// ErrNotFound says that there is no such job, revision, item, paper or picture.
	ErrNotFound = errors.New("store: there is no such thing")
	// ErrMoved says that something was changed since the revision a change was made from.
	ErrMoved = errors.New("store: it has been changed since")
	// ErrFull says that a job has as many pictures as it may have.
	ErrFull = errors.New("store: the job has as many pictures as it may have")
	// ErrUnanswered says that the database does not answer, or not now.
	ErrUnanswered = errors.New("store: the database does not answer")
	// ErrRefused says that the database will not keep a value as it was given.
	ErrRefused = errors.New("store: this cannot be kept as it is")
	// ErrTaken says that an id or a key is taken by something else.
	ErrTaken = errors.New("store: this id is taken")
	// ErrReused says that a key that was used already came back with something else.
	ErrReused = errors.New("store: this key was used for something else")
	// ErrReadOnly says that nothing can be kept now: the disk is full or read only.
	ErrReadOnly = errors.New("store: nothing can be kept now")
)

// A StaleError says that a save was made from a revision that is no longer the
// newest. It carries what the newest holds, so that nothing is lost.
type StaleError struct {
	Base    int // the revision the save was made from
	Current Job // the newest
}

func (e *StaleError) Error() string {
	return fmt.Sprintf("store: the job has moved on: the save was made from revision %d, the newest is %d", e.Base, e.Current.Revision)
}

// An Error is what the database said of one query: which of the errors above it comes to,
// and why.
type Error struct {
	Query string // by its name in queries/
	Kind  error
	Cause error
}

func (e *Error) Error() string { return fmt.Sprintf("%s (%s): %s", e.Kind, e.Query, e.Cause) }

// Unwrap gives both what it comes to and its cause.
func (e *Error) Unwrap() []error { return []error{e.Kind, e.Cause} }

// kindOf sorts what the driver says: SQLSTATE classes as in PostgreSQL's appendix A.
func kindOf(err error) error {
	var said *pgconn.PgError
	if !errors.As(err, &said) {
		return ErrUnanswered
	}
	switch said.Code[:2] {
	case "22":
		return ErrRefused
	case "23":
		if said.Code == "23505" {
			return ErrTaken
		}
		return ErrRefused
	}
	switch said.Code {
	case "53100", "25006", "58030":
		return ErrReadOnly
	}
	return ErrUnanswered
}

var queryName = regexp.MustCompile(`^-- name: (\w+)`)

// told makes an error of the driver one of the store. What a caller has asked for by
// ending its context, and the plain absence of a row, stay as they are.
func told(query string, err error) error {
	if err == nil || errors.Is(err, pgx.ErrNoRows) || errors.Is(err, context.Canceled) || errors.Is(err, context.DeadlineExceeded) {
		return err
	}
	var already *Error
	if errors.As(err, &already) {
		return err
	}
	if name := queryName.FindStringSubmatch(query); name != nil {
		query = name[1]
	}
	return &Error{Query: query, Kind: kindOf(err), Cause: err}
}

// telling is a connection whose errors are those of the store.
type telling struct{ rows.DBTX }

// ask gives the queries over a connection.
func ask(db rows.DBTX) *rows.Queries { return rows.New(telling{db}) }

func (t telling) Exec(ctx context.Context, query string, args ...any) (pgconn.CommandTag, error) {
	tag, err := t.DBTX.Exec(ctx, query, args...)
	return tag, told(query, err)
}

func (t telling) Query(ctx context.Context, query string, args ...any) (pgx.Rows, error) {
	found, err := t.DBTX.Query(ctx, query, args...)
	return tellingRows{found, query}, told(query, err)
}

func (t telling) QueryRow(ctx context.Context, query string, args ...any) pgx.Row {
	return tellingRow{t.DBTX.QueryRow(ctx, query, args...), query}
}

func (t telling) CopyFrom(ctx context.Context, table pgx.Identifier, columns []string, source pgx.CopyFromSource) (int64, error) {
	n, err := t.DBTX.CopyFrom(ctx, table, columns, source)
	return n, told("copy into "+table.Sanitize(), err) //nolint:misspell // as the driver spells it
}

func (t telling) SendBatch(ctx context.Context, batch *pgx.Batch) pgx.BatchResults {
	return tellingBatch{t.DBTX.SendBatch(ctx, batch)}
}

type tellingRows struct {
	pgx.Rows
	query string
}

func (r tellingRows) Err() error             { return told(r.query, r.Rows.Err()) }
func (r tellingRows) Scan(into ...any) error { return told(r.query, r.Rows.Scan(into...)) }

type tellingRow struct {
	pgx.Row
	query string
}

func (r tellingRow) Scan(into ...any) error { return told(r.query, r.Row.Scan(into...)) }

type tellingBatch struct{ pgx.BatchResults }

func (b tellingBatch) Exec() (pgconn.CommandTag, error) {
	tag, err := b.BatchResults.Exec()
	return tag, told("batch", err)
}

func (b tellingBatch) Close() error { return told("batch", b.BatchResults.Close()) }
