package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"reflect"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/google/uuid"

	"elkstay/core/calc"
	"elkstay/core/job"
	"elkstay/store"
)

// JobSaved acknowledges a save.
type JobSaved struct {
	Revision int       `json:"revision"`
	SavedAt  time.Time `json:"saved_at"`
}

// Stale is the refusal of a save made from an old revision: a problem document
// with the newest version beside the one that was sent.
type Stale struct {
	calc.Problem
	Base    int     `json:"base" doc:"The revision the save was made from"`
	Yours   job.Job `json:"yours" doc:"What was sent"`
	Current JobHead `json:"current" doc:"What is kept"`
}

// JobPath names a job in an address.
type JobPath struct {
	ID uuid.UUID `path:"id" doc:"Id of the job"`
}

type jobOut struct {
	ETag string `header:"ETag"`
	Body JobHead
}

// taggedOut is an answer that is written out already.
type taggedOut struct {
	ETag        string `header:"ETag"`
	ContentType string `header:"Content-Type"`
	Body        []byte
}

type createIn struct {
	Key     uuid.UUID `header:"Idempotency-Key" doc:"Id for the new job, so that asking twice makes one; absent: chosen here"`
	RawBody []byte    `contentType:"application/json"`
}

type saveIn struct {
	JobPath
	Base    string    `header:"If-Match" required:"true" doc:"The revision this save was made from, as an entity tag"`
	Key     uuid.UUID `header:"Idempotency-Key" required:"true" doc:"Made anew for each save and kept when it is tried again"`
	RawBody []byte    `contentType:"application/json"`
}

// tag is the entity tag of a revision.
func tag(revision int) string { return `"` + strconv.Itoa(revision) + `"` }

// untag reads the entity tag of a revision: one strong tag, as it was given.
func untag(text string) (int, error) {
	digits, open := strings.CutPrefix(text, `"`)
	digits, shut := strings.CutSuffix(digits, `"`)
	number, err := strconv.Atoi(digits)
	if !open || !shut || err != nil || number < 0 || strconv.Itoa(number) != digits {
		return 0, fmt.Errorf("%q is no entity tag of a revision", text)
	}
	return number, nil
}

// refusal turns an error of the store into the answer that says so; what the database
// itself said goes to the log alone.
func refusal(err error) error {
	switch {
	case errors.Is(err, store.ErrNotFound):
		return problemOf(http.StatusNotFound, "There is no such job.")
	case errors.Is(err, context.Canceled), errors.Is(err, context.DeadlineExceeded):
		return problemOf(http.StatusGatewayTimeout, "This took too long and was broken off.")
	case errors.Is(err, store.ErrRefused):
		slog.Warn("refused by the database", "error", err)
		return problemOf(http.StatusUnprocessableEntity, "This cannot be kept as it is: a text in it holds a sign that cannot be stored.")
	case errors.Is(err, store.ErrReused):
		return problemOf(http.StatusUnprocessableEntity, "This Idempotency-Key was used before, with another document: make a new one for each save.")
	case errors.Is(err, store.ErrTaken):
		return problemOf(http.StatusConflict, "This id is taken by something else.")
	case errors.Is(err, store.ErrReadOnly):
		slog.Error("nothing can be kept", "error", err)
		return problemOf(http.StatusServiceUnavailable, "Nothing can be kept now: the disk is full or can only be read. What you have stays on this device.")
	}
	slog.Error("the database does not answer", "error", err)
	return problemOf(http.StatusServiceUnavailable, "The database does not answer just now. What you have stays on this device.")
}

func head(kept store.Job) (JobHead, error) {
	document, err := job.ReadJob(kept.Document)
	if err != nil {
		return JobHead{}, problemOf(http.StatusUnprocessableEntity, "The kept document cannot be read: "+err.Error())
	}
	return JobHead{ID: kept.ID, Revision: kept.Revision, SavedAt: kept.SavedAt, Deleted: kept.Deleted, Job: document}, nil
}

func answerWith(kept store.Job) (*jobOut, error) {
	h, err := head(kept)
	if err != nil {
		return nil, err
	}
	return &jobOut{tag(h.Revision), h}, nil
}

// readDocument reads a job document and writes it out again, so that what is kept
// is what was understood.
func readDocument(data []byte) (job.Job, []byte, error) {
	read, err := job.ReadJob(data)
	if err != nil {
		return job.Job{}, nil, calc.Refuse("job", err)
	}
	document, err := json.Marshal(read)
	return read, document, err
}

func mountJobs(api huma.API, jobs *store.Store) {
	document := reflect.TypeFor[job.Job]()
	create := operation(http.MethodPost, "/api/jobs", "create-job", "Keep a new job: an empty one or an uploaded file")
	create.DefaultStatus = http.StatusCreated
	register(api, create, document, func(ctx context.Context, in *createIn) (*jobOut, error) {
		_, encoded, err := readDocument(in.RawBody)
		if err != nil {
			return nil, err
		}
		id := in.Key
		if id == uuid.Nil {
			id = uuid.New()
		}
		kept, _, err := jobs.Create(ctx, id, encoded, "created")
		if err != nil {
			return nil, refusal(err)
		}
		return answerWith(kept)
	})

	read := newHeads(jobs)
	get := answersWith[JobHead](api, operation(http.MethodGet, "/api/jobs/{id}", "get-job", "The newest revision of a job"))
	huma.Register(api, get, func(ctx context.Context, in *JobPath) (*taggedOut, error) {
		answer, revision, err := read.get(ctx, in.ID)
		return &taggedOut{tag(revision), "application/json", answer}, err
	})

	mountList(api, jobs)
	mountAnew(api, jobs)
	mountBin(api, jobs)
	mountSave(api, jobs, document)
	mountRevisions(api, jobs)

	huma.Register(api, answersWith[job.Job](api, operation(http.MethodGet, "/api/jobs/{id}/file", "download-job", "The job document as a file")),
		func(ctx context.Context, in *JobPath) (*fileOut, error) {
			kept, err := jobs.Job(ctx, in.ID)
			if err != nil {
				return nil, refusal(err)
			}
			document, err := job.ReadJob(kept.Document)
			if err != nil {
				return nil, calc.Refuse("job", err)
			}
			encoded, err := json.MarshalIndent(document, "", "  ")
			return &fileOut{"application/json", `attachment; filename="` + fileName(document.Name) + `"`, encoded}, err
		})
}

type fileOut struct {
	ContentType string `header:"Content-Type"`
	Disposition string `header:"Content-Disposition"`
	Body        []byte
}

// fileName makes a job's name fit for a file.
func fileName(name string) string {
	fit := strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z' || r >= '0' && r <= '9':
			return r
		case r >= 'A' && r <= 'Z':
			return r + 'a' - 'A'
		}
		return '-'
	}, name)
	fit = strings.Trim(fit, "-")
	if fit == "" {
		fit = "job"
	}
	return fit + ".elkstay.json"
}

// keepFacts gives a document that is to be kept the facts of the revision that it was made from: none is ever taken out.
func keepFacts(ctx context.Context, jobs *store.Store, id uuid.UUID, base int, yours *job.Job, encoded []byte) ([]byte, error) {
	from, err := jobs.Revision(ctx, id, base)
	if errors.Is(err, store.ErrNotFound) {
		// Whoever saves is told so.
		return encoded, nil
	}
	if err != nil {
		return nil, refusal(err)
	}
	older, err := job.ReadJob(from.Document)
	if err != nil || !yours.KeepFacts(&older) {
		return encoded, nil //nolint:nilerr // what cannot be read has no facts to keep
	}
	return json.Marshal(yours)
}

func mountSave(api huma.API, jobs *store.Store, document reflect.Type) {
	op := operation(http.MethodPut, "/api/jobs/{id}", "save-job", "Keep a document as the next revision of a job")
	op.Responses = map[string]*huma.Response{strconv.Itoa(http.StatusPreconditionFailed): {
		Description: "The job has moved on since the base revision: both versions",
		Content: map[string]*huma.MediaType{"application/problem+json": {
			Schema: api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[Stale](), true, "Stale"),
		}},
	}}
	register(api, op, document, func(ctx context.Context, in *saveIn) (*struct{ Body JobSaved }, error) {
		base, err := untag(in.Base)
		if err != nil {
			return nil, problemOf(http.StatusPreconditionRequired, "If-Match must name the revision this save was made from.")
		}
		if in.Key == uuid.Nil {
			return nil, problemOf(http.StatusPreconditionRequired, "Idempotency-Key must be a new id for each save.")
		}
		yours, encoded, err := readDocument(in.RawBody)
		if err != nil {
			return nil, err
		}
		if encoded, err = keepFacts(ctx, jobs, in.ID, base, &yours, encoded); err != nil {
			return nil, err
		}
		saved, err := jobs.Save(ctx, in.ID, base, in.Key, encoded, "")
		var stale *store.StaleError
		if errors.As(err, &stale) {
			current, err := head(stale.Current)
			if err != nil {
				return nil, err
			}
			return nil, &Stale{Problem: *problemOf(http.StatusPreconditionFailed, stale.Error()), Base: base, Yours: yours, Current: current}
		}
		if err != nil {
			return nil, refusal(err)
		}
		return &struct{ Body JobSaved }{JobSaved{saved.Number, saved.SavedAt}}, nil
	})
}
