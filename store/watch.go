package store

import (
	"context"
	"encoding/json"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Moved says that a job has a new newest revision, or was deleted or brought back.
type Moved struct {
	ID       uuid.UUID `json:"id"`
	Revision int       `json:"revision"`
	Deleted  bool      `json:"deleted"`
}

// Watch listens on a connection of its own and calls moved for every job that moves,
// from whatever server, until ctx ends or the connection breaks; the error says which.
// Once it listens it calls ready: what moved before that has to be looked up.
func (s *Store) Watch(ctx context.Context, ready func(), moved func(Moved)) error {
	connection, err := pgx.ConnectConfig(ctx, s.pool.Config().ConnConfig)
	if err != nil {
		return err
	}
	defer func() { _ = connection.Close(context.WithoutCancel(ctx)) }()
	if _, err := connection.Exec(ctx, "listen job_moved"); err != nil {
		return err
	}
	ready()
	for {
		notice, err := connection.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		var job Moved
		if err := json.Unmarshal([]byte(notice.Payload), &job); err != nil {
			return err
		}
		moved(job)
	}
}
