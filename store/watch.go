package store

import (
	"context"
	"encoding/json"
	"strconv"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"
)

// Moved says that a job has a new newest revision, or was deleted or brought back.
type Moved struct {
	ID       uuid.UUID `json:"id"`
	Revision int       `json:"revision"`
	Deleted  bool      `json:"deleted"`
	Crew     int       `json:"-"` // not 0: it was gear or rules that moved, to this revision
}

// Watch listens on a connection of its own and calls moved for every job that moves, and
// when gear or rules do, from whatever server, until ctx ends or the connection breaks; the error says which.
// Once it listens it calls ready: what moved before that has to be looked up.
func (s *Store) Watch(ctx context.Context, ready func(), moved func(Moved)) error {
	connection, err := pgx.ConnectConfig(ctx, s.pool.Config().ConnConfig)
	if err != nil {
		return err
	}
	defer func() { _ = connection.Close(context.WithoutCancel(ctx)) }()
	for _, channel := range [2]string{"crew_moved", "job_moved"} {
		if _, err := connection.Exec(ctx, "listen "+channel); err != nil {
			return err
		}
	}
	ready()
	for {
		notice, err := connection.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		if notice.Channel == "crew_moved" {
			revision, err := strconv.Atoi(notice.Payload)
			if err != nil {
				return err
			}
			moved(Moved{Crew: revision})
			continue
		}
		var job Moved
		if err := json.Unmarshal([]byte(notice.Payload), &job); err != nil {
			return err
		}
		moved(job)
	}
}
