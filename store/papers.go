package store

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"elkstay/core/policy"
	"elkstay/store/internal/rows"
)

// A Briefing is a paper that was handed out: the revision of the job that it is of, and
// the rules and gear by which its figures were worked out. Crew is empty in a list.
type Briefing struct {
	ID       uuid.UUID
	Revision int
	MadeAt   time.Time
	Crew     policy.Crew
}

// KeepBriefing records a paper.
func (s *Store) KeepBriefing(ctx context.Context, job, id uuid.UUID, revision int, crew policy.Crew) error {
	document, err := json.Marshal(crew)
	if err != nil {
		return err
	}
	return ask(s.pool).InsertBriefing(ctx, rows.InsertBriefingParams{ID: id, JobID: job, Revision: int32(revision), Crew: document}) //nolint:gosec // counts saves
}

// Briefings lists at most so many papers of a job, the newest first, after a place; total
// counts all of them.
func (s *Store) Briefings(ctx context.Context, job uuid.UUID, after Place, most int) (list []Briefing, next *Place, total int, err error) {
	err = s.reading(ctx, func(q *rows.Queries) error {
		count, err := q.CountBriefings(ctx, job)
		if err != nil {
			return err
		}
		total = int(count)
		at, id := after.before()
		found, err := q.Briefings(ctx, rows.BriefingsParams{JobID: job, BeforeAt: at, BeforeID: id, Most: page(most)})
		for _, row := range found {
			list = append(list, Briefing{ID: row.ID, Revision: int(row.Revision), MadeAt: row.MadeAt})
		}
		return err
	})
	if len(list) > most {
		list = list[:most]
		next = &Place{list[most-1].MadeAt, list[most-1].ID}
	}
	return list, next, total, err
}

// Briefing returns one paper, or ErrNotFound.
func (s *Store) Briefing(ctx context.Context, job, id uuid.UUID) (Briefing, error) {
	row, err := ask(s.pool).Briefing(ctx, rows.BriefingParams{ID: id, JobID: job})
	if errors.Is(err, pgx.ErrNoRows) {
		return Briefing{}, ErrNotFound
	}
	if err != nil {
		return Briefing{}, err
	}
	crew, err := policy.ReadCrew(row.Crew)
	return Briefing{ID: row.ID, Revision: int(row.Revision), MadeAt: row.MadeAt, Crew: crew}, err
}

// A Photo is a picture kept with a job. Picture is nil in a list.
type Photo struct {
	ID        uuid.UUID
	TakenAt   time.Time
	About     string // what of the tree or the site it shows, as a path of the document; empty: the job
	Note      string
	MediaType string
	Width     int
	Height    int
	Picture   []byte
}

// MaxPhotos is how many pictures a job may have.
const MaxPhotos = 100

// KeepPhoto keeps a picture with a job; kept twice under one id, it is kept once. Under an id
// that another picture has, or had, the error is ErrTaken.
func (s *Store) KeepPhoto(ctx context.Context, job uuid.UUID, p Photo) error {
	return s.inTx(ctx, func(q *rows.Queries) error {
		if _, err := q.LockJob(ctx, job); errors.Is(err, pgx.ErrNoRows) {
			return ErrNotFound
		} else if err != nil {
			return err
		}
		if n, err := q.CountPhotos(ctx, job); err != nil {
			return err
		} else if n >= MaxPhotos {
			if same, err := q.PhotoIs(ctx, rows.PhotoIsParams{ID: p.ID, JobID: job, Picture: p.Picture}); err != nil || !same {
				return ErrFull
			}
			return nil
		}
		inserted, err := q.InsertPhoto(ctx, rows.InsertPhotoParams{
			ID: p.ID, JobID: job, About: p.About, Note: p.Note, MediaType: p.MediaType,
			Width: int32(p.Width), Height: int32(p.Height), Picture: p.Picture, //nolint:gosec // bounded by the caller
		})
		if err != nil || inserted > 0 {
			return err
		}
		same, err := q.PhotoIs(ctx, rows.PhotoIsParams{ID: p.ID, JobID: job, Picture: p.Picture})
		if err == nil && !same {
			return ErrTaken
		}
		return err
	})
}

// Photos lists the pictures of a job in the order in which they were taken.
func (s *Store) Photos(ctx context.Context, job uuid.UUID) ([]Photo, error) {
	found, err := ask(s.pool).Photos(ctx, job)
	if err != nil {
		return nil, err
	}
	list := make([]Photo, len(found))
	for i, row := range found {
		list[i] = Photo{ID: row.ID, TakenAt: row.TakenAt, About: row.About, Note: row.Note, MediaType: row.MediaType, Width: int(row.Width), Height: int(row.Height)}
	}
	return list, nil
}

// Photo returns one picture, or ErrNotFound.
func (s *Store) Photo(ctx context.Context, job, id uuid.UUID) (Photo, error) {
	row, err := ask(s.pool).Photo(ctx, rows.PhotoParams{ID: id, JobID: job})
	if errors.Is(err, pgx.ErrNoRows) {
		return Photo{}, ErrNotFound
	}
	return Photo{ID: id, MediaType: row.MediaType, Picture: row.Picture}, err
}

// DeletePhoto takes a picture off a job.
func (s *Store) DeletePhoto(ctx context.Context, job, id uuid.UUID) error {
	touched, err := ask(s.pool).DeletePhoto(ctx, rows.DeletePhotoParams{ID: id, JobID: job})
	if err == nil && touched == 0 {
		return ErrNotFound
	}
	return err
}
