package store

import (
	"context"
	"errors"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5/pgconn"
)

// What the database says comes back as one of the store's own errors, with its cause.
func TestErrorsAreOfTheStoreAndKeepTheirCause(t *testing.T) {
	s := open(t)
	var said *pgconn.PgError
	var told *Error
	_, _, err := s.Create(t.Context(), uuid.New(), []byte("{\"name\":\"a\\u0000b\"}"), "")
	if !errors.Is(err, ErrRefused) || !errors.As(err, &said) || said.Code[:2] != "22" || !errors.As(err, &told) || told.Query != "InsertJob" {
		t.Errorf("a NUL in a name: %v", err)
	}
	_, _, err = s.Create(t.Context(), uuid.New(), []byte("{}"), "a\x00b")
	if !errors.Is(err, ErrRefused) {
		t.Errorf("a NUL in a note: %v", err)
	}
	id := uuid.New()
	if _, err := s.Job(t.Context(), id); !errors.Is(err, ErrNotFound) || errors.As(err, &told) && errors.Is(told, err) {
		t.Errorf("no such job: %v", err)
	}
	ended, cancel := context.WithCancel(t.Context())
	cancel()
	if _, _, _, err := s.Jobs(ended, "", Place{}, 10); !errors.Is(err, context.Canceled) || errors.Is(err, ErrUnanswered) {
		t.Errorf("a caller who has gone: %v", err)
	}
	s.Close()
	deadline, done := context.WithTimeout(t.Context(), time.Second)
	defer done()
	if _, _, _, err := s.Jobs(deadline, "", Place{}, 10); !errors.Is(err, ErrUnanswered) {
		t.Errorf("a store that is closed: %v", err)
	}
	if err := s.Delete(deadline, id); !errors.Is(err, ErrUnanswered) {
		t.Errorf("deleting in a store that is closed: %v", err)
	}
}

// SQLSTATE by its class, as PostgreSQL's appendix A lists them.
func TestKindsOfErrors(t *testing.T) {
	for code, want := range map[string]error{
		"22021": ErrRefused, "22P05": ErrRefused, "23505": ErrTaken, "23514": ErrRefused, "53100": ErrReadOnly, "25006": ErrReadOnly, "57P01": ErrUnanswered, "53300": ErrUnanswered,
	} {
		if got := kindOf(&pgconn.PgError{Code: code}); !errors.Is(got, want) {
			t.Errorf("%s is %v, want %v", code, got, want)
		}
	}
	if got := kindOf(errors.New("broken pipe")); !errors.Is(got, ErrUnanswered) {
		t.Errorf("a broken line is %v", got)
	}
	cause := errors.New("cause")
	err := told("-- name: Jobs :many\nSELECT 1", cause)
	if !errors.Is(err, cause) || !errors.Is(err, ErrUnanswered) || err.Error() != "store: the database does not answer (Jobs): cause" || !errors.Is(told("other", err), err) {
		t.Errorf("told as %v", err)
	}
}
