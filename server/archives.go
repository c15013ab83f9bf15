package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime"
	"net/http"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"elkstay/archive"
	"elkstay/core/calc"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/units"
	"elkstay/store"
)

// archives serves whole jobs as files, and takes them in. Both may be long and large: they are written and read as they go, a few at
// a time, and stand outside the bound on requests.
type archives struct {
	store *store.Store
	turns chan struct{}
	most  int64 // bytes of one that is taken
}

// Bounds of archives.
const (
	archivesAtOnce = 2
	archiveStep    = 30 * time.Second // for the next part of one to go, or to come
	typeZIP        = "application/zip"
)

// Brought is what an archive brought.
type Brought struct {
	ID        uuid.UUID     `json:"id"`
	Name      string        `json:"name"`
	Pictures  int           `json:"pictures"`
	Briefings int           `json:"briefings"`
	LeftOut   int           `json:"left_out" doc:"Older briefings that are not in the archive"`
	Gear      []locker.Item `json:"gear" nullable:"false" doc:"What the job refers to and the locker here does not have, as it was there"`
	Ruled     bool          `json:"ruled" doc:"It was judged by other rules where it comes from: here it is judged by the rules here"`
}

func newArchives(kept *store.Store) *archives {
	return &archives{kept, make(chan struct{}, archivesAtOnce), archive.MaxBytes}
}

// enter takes one of the few turns there are; false: it has said that there is none.
func (a *archives) enter(w http.ResponseWriter) bool {
	select {
	case a.turns <- struct{}{}:
		return true
	default:
		w.Header().Set("Retry-After", "10")
		writeProblem(w, problemOf(http.StatusTooManyRequests, "Other archives are on their way just now: try again in a moment."))
		return false
	}
}

// refused writes a refusal of any kind.
func refused(w http.ResponseWriter, err error) {
	var problem *calc.Problem
	if !errors.As(err, &problem) {
		problem = calc.Refuse("archive", err)
	}
	writeProblem(w, problem)
}

// patient lets an answer take as long as it goes on.
type patient struct {
	http.ResponseWriter
	control *http.ResponseController
}

func (p patient) Write(data []byte) (int, error) {
	_ = p.control.SetWriteDeadline(time.Now().Add(archiveStep))
	return p.ResponseWriter.Write(data)
}

// give answers with a job as an archive.
func (a *archives) give(w http.ResponseWriter, r *http.Request) {
	id, err := uuid.Parse(chi.URLParam(r, "id"))
	if err != nil || a.store == nil {
		writeProblem(w, noSuchAddress(r))
		return
	}
	if !a.enter(w) {
		return
	}
	defer func() { <-a.turns }()
	ctx := r.Context()
	document, at, newest, err := revisionOf(ctx, a.store, id, 0)
	if err != nil {
		refused(w, err)
		return
	}
	crew, err := crewFor(ctx, a.store, at.Document)
	if err != nil {
		refused(w, refusal(err))
		return
	}
	w.Header().Set("Content-Type", typeZIP)
	w.Header().Set("Cache-Control", "no-store")
	w.Header().Set("Content-Disposition", `attachment; filename="`+strings.TrimSuffix(fileName(document.Name), ".json")+`.zip"`)
	out, err := archive.NewWriter(patient{w, http.NewResponseController(w)}, archive.Head{ID: id, Revision: at.Number, SavedAt: at.SavedAt, Name: document.Name}, &document, &crew, time.Now())
	if err == nil {
		err = errors.Join(a.pictures(ctx, out, id), a.briefings(ctx, out, id, newest))
	}
	if err != nil || out.Close() != nil {
		panic(http.ErrAbortHandler) // half an archive must not look like a whole one
	}
}

func (a *archives) pictures(ctx context.Context, out *archive.Writer, id uuid.UUID) error {
	list, err := a.store.Photos(ctx, id)
	if err != nil {
		return err
	}
	for i := range list {
		whole, err := a.store.Photo(ctx, id, list[i].ID)
		if errors.Is(err, store.ErrNotFound) {
			continue // taken off meanwhile
		}
		if err != nil {
			return err
		}
		if err := out.Picture(archive.Picture{ID: list[i].ID, TakenAt: list[i].TakenAt, About: list[i].About, Note: list[i].Note}, whole.MediaType, whole.Picture); err != nil {
			return err
		}
	}
	return nil
}

// briefings adds the newest of the briefings, the last of them as papers too.
func (a *archives) briefings(ctx context.Context, out *archive.Writer, id uuid.UUID, newest int) error {
	list, _, total, err := a.store.Briefings(ctx, id, store.Place{}, archive.MaxBriefings)
	if err != nil {
		return err
	}
	out.LeaveOut(total - len(list))
	for i := range list {
		b, err := a.store.Briefing(ctx, id, list[i].ID)
		if err != nil {
			return err
		}
		document, at, _, err := revisionOf(ctx, a.store, id, b.Revision)
		if err != nil {
			return err
		}
		var pdf []byte
		if i < archive.PDFs {
			if pdf, err = pdfOf(ctx, a.store, &b, &document, at.SavedAt, newest, units.Metric, false); err != nil {
				return err
			}
		}
		head := archive.PaperHead{ID: b.ID, Revision: b.Revision, MadeAt: b.MadeAt, SavedAt: at.SavedAt}
		if err := out.Briefing(head, &archive.Paper{Job: document, Crew: b.Crew}, pdf); err != nil {
			return err
		}
	}
	return nil
}

// take keeps an archive as a new job.
func (a *archives) take(w http.ResponseWriter, r *http.Request) {
	if a.store == nil {
		writeProblem(w, noSuchAddress(r))
		return
	}
	id := uuid.New()
	if key := r.Header.Get("Idempotency-Key"); key != "" {
		var err error
		if id, err = uuid.Parse(key); err != nil {
			writeProblem(w, problemOf(http.StatusUnprocessableEntity, "Idempotency-Key must be a new id for each archive."))
			return
		}
	}
	if media, _, err := mime.ParseMediaType(r.Header.Get("Content-Type")); err != nil || media != typeZIP {
		writeProblem(w, problemOf(http.StatusUnsupportedMediaType, "An archive is sent as application/zip."))
		return
	}
	if r.ContentLength > a.most {
		refused(w, a.tooLarge())
		return
	}
	if !a.enter(w) {
		return
	}
	defer func() { <-a.turns }()
	file, size, err := a.received(w, r)
	if file != nil {
		defer func() {
			_ = file.Close()
			_ = os.Remove(file.Name())
		}()
	}
	if err != nil {
		refused(w, err)
		return
	}
	read, err := archive.Open(file, size)
	if err != nil {
		refused(w, err)
		return
	}
	_ = http.NewResponseController(w).SetWriteDeadline(time.Now().Add(2 * time.Minute))
	brought, err := a.keep(r.Context(), id, read)
	if err != nil {
		refused(w, err)
		return
	}
	encoded, err := calc.Encode(brought)
	if err != nil {
		refused(w, err)
		return
	}
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(http.StatusCreated)
	_, _ = w.Write(encoded) //nolint:gosec // JSON, and sniffing is off
}

func (a *archives) tooLarge() *calc.Problem {
	return problemOf(http.StatusRequestEntityTooLarge, fmt.Sprintf("At most %d MB of an archive are taken.", a.most/1_000_000))
}

// received is a body laid down in a file of its own, and how long it is; the file is to be removed, if there is one.
func (a *archives) received(w http.ResponseWriter, r *http.Request) (*os.File, int64, error) {
	file, err := os.CreateTemp("", "elkstay-archive-")
	if err != nil {
		return nil, 0, problemOf(http.StatusServiceUnavailable, "There is no room for an archive here just now.")
	}
	control := http.NewResponseController(w)
	size := int64(0)
	for {
		_ = control.SetReadDeadline(time.Now().Add(archiveStep))
		n, err := io.CopyN(file, r.Body, mB)
		size += n
		switch {
		case size > a.most:
			return file, size, a.tooLarge()
		case errors.Is(err, io.EOF):
			return file, size, nil
		case errors.Is(err, os.ErrDeadlineExceeded):
			return file, size, problemOf(http.StatusRequestTimeout, "The archive came too slowly: nothing was kept.")
		case err != nil:
			return file, size, problemOf(http.StatusServiceUnavailable, "The archive did not come whole: nothing was kept.")
		}
	}
}

// keep keeps what an archive holds as a job of its own.
func (a *archives) keep(ctx context.Context, id uuid.UUID, read *archive.Reader) (*Brought, error) {
	now := time.Now()
	whole := store.Whole{ID: id, Pictures: len(read.Pictures), Note: fmt.Sprintf("from an archive of %s: revision %d of %s", read.MadeAt.Format(time.DateOnly), read.Contents.Job.Revision, read.Contents.Job.ID)}
	// The revisions that briefings are of, the oldest first, and the newest.
	papers := slices.Clone(read.Briefings)
	slices.SortStableFunc(papers, func(a, b archive.PaperHead) int { return a.Revision - b.Revision })
	add := func(document *job.Job, savedAt time.Time) error {
		encoded, err := json.Marshal(document)
		whole.Revisions = append(whole.Revisions, store.Revision{Number: len(whole.Revisions) + 1, SavedAt: credible(savedAt, now), Document: encoded})
		return err
	}
	last := -1
	for _, p := range papers {
		document, crew, err := read.Briefing(p)
		if err != nil {
			return nil, calc.Refuse(p.Path, err)
		}
		if p.Revision != last && p.Revision != read.Contents.Job.Revision {
			if err := add(&document, p.SavedAt); err != nil {
				return nil, err
			}
			last = p.Revision
		}
		number := len(whole.Revisions)
		if p.Revision == read.Contents.Job.Revision {
			number = -1 // of the newest, which comes last
		}
		whole.Briefings = append(whole.Briefings, store.Briefing{ID: uuid.New(), Revision: number, MadeAt: credible(p.MadeAt, now), Crew: crew})
	}
	if err := add(&read.Job, read.Contents.Job.SavedAt); err != nil {
		return nil, err
	}
	for i := range whole.Briefings {
		if whole.Briefings[i].Revision < 0 {
			whole.Briefings[i].Revision = len(whole.Revisions)
		}
	}
	whole.Picture = func(k int) (store.Photo, error) {
		data, err := read.Picture(read.Pictures[k])
		if err != nil {
			return store.Photo{}, err
		}
		picture, err := pictureOf(data)
		if err != nil {
			return picture, calc.Refuse(read.Pictures[k].Path, err)
		}
		picture.ID, picture.About, picture.Note, picture.TakenAt = uuid.New(), cut(read.Pictures[k].About, 120), cut(read.Pictures[k].Note, 400), credible(read.Pictures[k].TakenAt, now)
		return picture, nil
	}
	if _, err := a.store.Bring(ctx, &whole); err != nil {
		var problem *calc.Problem
		if errors.As(err, &problem) {
			return nil, problem
		}
		return nil, refusal(err)
	}
	return a.brought(ctx, id, read)
}

// brought is what an archive brought, and what it comes with that is not as it is here.
func (a *archives) brought(ctx context.Context, id uuid.UUID, read *archive.Reader) (*Brought, error) {
	here, err := a.store.Crew(ctx, read.Job.Items())
	if err != nil {
		return nil, refusal(err)
	}
	b := &Brought{ID: id, Name: read.Job.Name, Pictures: len(read.Pictures), Briefings: len(read.Briefings), LeftOut: read.LeftOut, Gear: []locker.Item{}}
	for i := range read.Crew.Gear {
		if !slices.ContainsFunc(here.Gear, func(it locker.Item) bool { return it.ID == read.Crew.Gear[i].ID }) {
			b.Gear = append(b.Gear, read.Crew.Gear[i])
		}
	}
	was, err := json.Marshal(read.Crew.Policy)
	if err != nil {
		return nil, err
	}
	is, err := json.Marshal(here.Policy)
	b.Ruled = string(was) != string(is)
	return b, err
}

// credible is a time as an archive says it, or now where it cannot be.
func credible(at, now time.Time) time.Time {
	if at.Year() < 2000 || at.After(now) {
		return now
	}
	return at
}

// cut is a text of at most so many letters.
func cut(text string, most int) string {
	letters := []rune(text)
	return string(letters[:min(most, len(letters))])
}

// describeArchives describes what archives serves.
func describeArchives(api huma.API) {
	id := []*huma.Param{{Name: "id", In: "path", Required: true, Schema: &huma.Schema{Type: "string", Format: "uuid"}}}
	give := operation(http.MethodGet, "/api/jobs/{id}/archive", "job-archive", "A job in one file: plan and facts, pictures, the gear and the rules it is judged by, briefings, each with its SHA-256")
	give.Parameters = id
	give = gives(give, typeZIP)
	api.OpenAPI().AddOperation(&give)
	take := answersWith[Brought](api, operation(http.MethodPost, "/api/archives", "take-archive", "Keep an archive as a new job, all of it or nothing"))
	take.Responses = map[string]*huma.Response{"201": take.Responses["200"]}
	take.Responses["201"].Description = "Kept"
	take.Parameters = []*huma.Param{{Name: "Idempotency-Key", In: "header", Description: "Id for the new job, so that asking twice makes one; absent: chosen here", Schema: &huma.Schema{Type: "string", Format: "uuid"}}}
	take.RequestBody = &huma.RequestBody{Required: true, Content: map[string]*huma.MediaType{typeZIP: {Schema: &huma.Schema{Type: "string", Format: "binary"}}}}
	api.OpenAPI().AddOperation(&take)
}
