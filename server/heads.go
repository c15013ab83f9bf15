package server

import (
	"context"

	"github.com/google/uuid"
	lru "github.com/hashicorp/golang-lru/v2"

	"elkstay/core/calc"
	"elkstay/store"
)

// heads keeps the answers of jobs that are read again and again: a revision never changes, so
// that it need not be read and written out a second time. Which is the newest is asked of the
// database each time.
type heads struct {
	store *store.Store
	known *lru.Cache[uuid.UUID, knownHead]
}

type knownHead struct {
	revision int
	deleted  bool
	answer   []byte
}

// Bounds of what is kept: so many jobs, none larger than so many bytes.
const (
	mostHeads   = 256
	largestHead = 256 * kB
)

func newHeads(kept *store.Store) *heads {
	known, err := lru.New[uuid.UUID, knownHead](mostHeads)
	if err != nil {
		panic(err) // of a size below one alone
	}
	return &heads{kept, known}
}

// get is the answer that holds a job's newest revision, as JSON, and its number.
func (h *heads) get(ctx context.Context, id uuid.UUID) (answer []byte, revision int, err error) {
	revision, deleted, err := h.store.Head(ctx, id)
	if err != nil {
		return nil, 0, refusal(err)
	}
	if had, ok := h.known.Get(id); ok && had.revision == revision && had.deleted == deleted {
		return had.answer, revision, nil
	}
	kept, err := h.store.Job(ctx, id)
	if err != nil {
		return nil, 0, refusal(err)
	}
	newest, err := head(kept)
	if err != nil {
		return nil, 0, err
	}
	if answer, err = calc.Encode(newest); err != nil {
		return nil, 0, err
	}
	if len(answer) <= largestHead {
		h.known.Add(id, knownHead{kept.Revision, kept.Deleted, answer})
	}
	return answer, kept.Revision, nil
}
