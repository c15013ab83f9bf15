package store

import (
	"context"
	"encoding/json"
	"errors"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"elkstay/store/internal/rows"
)

// A Whole is a job from elsewhere with all that belongs to it.
type Whole struct {
	ID        uuid.UUID
	Note      string     // of its newest revision
	Revisions []Revision // numbered from 1, the newest last; never none
	Briefings []Briefing // each of one of the revisions
	Pictures  int
	// Picture is each of its pictures, asked for one after another.
	Picture func(k int) (Photo, error)
}

// Bring keeps a job from elsewhere, all of it or nothing, with the times that its parts had. A job brought twice under one id is kept
// once: of the second, made is false. Under an id that another job has, the error is ErrReused.
func (s *Store) Bring(ctx context.Context, w *Whole) (made bool, err error) {
	err = s.inTx(ctx, func(q *rows.Queries) error {
		newest := &w.Revisions[len(w.Revisions)-1]
		name, species, day := listed(newest.Document)
		inserted, err := q.BringJob(ctx, rows.BringJobParams{ID: w.ID, Head: int32(newest.Number), Name: name, Species: species, WorkOn: day, SavedAt: newest.SavedAt}) //nolint:gosec // counts saves
		if err != nil {
			return err
		}
		if inserted == 0 {
			first, err := q.RevisionBySaveKey(ctx, rows.RevisionBySaveKeyParams{JobID: w.ID, SaveKey: w.ID, Document: newest.Document})
			if errors.Is(err, pgx.ErrNoRows) || err == nil && !first.Same {
				return ErrReused
			}
			return err
		}
		made = true
		for i := range w.Revisions {
			if err := bringRevision(ctx, q, w, i); err != nil {
				return err
			}
		}
		for i := range w.Briefings {
			b := &w.Briefings[i]
			crew, err := json.Marshal(b.Crew)
			if err != nil {
				return err
			}
			if err := q.BringBriefing(ctx, rows.BringBriefingParams{ID: b.ID, JobID: w.ID, Revision: int32(b.Revision), MadeAt: b.MadeAt, Crew: crew}); err != nil { //nolint:gosec // counts saves
				return err
			}
		}
		for k := range w.Pictures {
			p, err := w.Picture(k)
			if err != nil {
				return err
			}
			if err := q.BringPhoto(ctx, rows.BringPhotoParams{
				ID: p.ID, JobID: w.ID, TakenAt: p.TakenAt, About: p.About, Note: p.Note, MediaType: p.MediaType,
				Width: int32(p.Width), Height: int32(p.Height), Picture: p.Picture, //nolint:gosec // bounded by the caller
			}); err != nil {
				return err
			}
		}
		return nil
	})
	return made && err == nil, err
}

// bringRevision keeps one revision of a job from elsewhere.
func bringRevision(ctx context.Context, q *rows.Queries, w *Whole, i int) error {
	r := &w.Revisions[i]
	row := rows.BringRevisionParams{JobID: w.ID, Number: int32(r.Number), SavedAt: r.SavedAt, SaveKey: uuid.New(), Document: r.Document} //nolint:gosec // counts saves
	if i > 0 {
		before := int32(w.Revisions[i-1].Number) //nolint:gosec // counts saves
		row.BasedOn = &before
	}
	if i == len(w.Revisions)-1 {
		// Asked again, the same key would find it.
		row.Note, row.SaveKey = w.Note, w.ID
	}
	return q.BringRevision(ctx, row)
}
