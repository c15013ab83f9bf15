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
	"elkstay/demo"
	"elkstay/store"
)

// JobHead is the newest revision of one job.
type JobHead struct {
	ID       uuid.UUID `json:"id"`
	Revision int       `json:"revision"`
	SavedAt  time.Time `json:"saved_at"`
	Deleted  bool      `json:"deleted"`
	Job      job.Job   `json:"job"`
}

// JobRow is one job of the list.
type JobRow struct {
	ID        uuid.UUID  `json:"id"`
	Name      string     `json:"name"`
	Species   string     `json:"species" doc:"Id of the wood table; empty when not chosen"`
	WorkOn    string     `json:"work_on" doc:"The day it is planned for; empty: none"`
	Revision  int        `json:"revision"`
	CreatedAt time.Time  `json:"created_at"`
	SavedAt   time.Time  `json:"saved_at"`
	DeletedAt *time.Time `json:"deleted_at,omitempty" doc:"Absent: it is not"`
}

func jobList(found []store.Listed, more More) JobList {
	list := JobList{make([]JobRow, len(found)), more}
	for i, row := range found {
		list.Jobs[i] = JobRow(row)
	}
	return list
}

// JobList is a page of the list of jobs.
type JobList struct {
	Jobs []JobRow `json:"jobs"`
	More
}

// RevisionList is a page of the saves of a job.
type RevisionList struct {
	Revisions []JobRevision `json:"revisions"`
	More
}

// JobRevision is one save of a job.
type JobRevision struct {
	Revision int       `json:"revision"`
	BasedOn  int       `json:"based_on" doc:"The revision it was made from; 0: the first"`
	SavedAt  time.Time `json:"saved_at"`
	Note     string    `json:"note"`
}

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
	huma.Register(api, operation(http.MethodGet, "/api/jobs", "list-jobs", "The jobs, the last saved first; or those that were deleted"),
		func(ctx context.Context, in *struct {
			Page
			Search  string `query:"search" maxLength:"120" doc:"What the name holds, whatever its case"`
			Deleted bool   `query:"deleted" doc:"Those that were deleted, the last first"`
			Sort    string `query:"sort" enum:"saved,name,day" default:"saved" doc:"The last saved first, by name, or by the day of their work; of deleted ones always the last first"`
		}) (*struct{ Body JobList }, error) {
			if in.Sort != "saved" && !in.Deleted {
				after, err := placed[store.Key](in.After)
				if err != nil {
					return nil, err
				}
				found, next, total, err := jobs.JobsBy(ctx, in.Sort, in.Search, after, in.Limit)
				if err != nil {
					return nil, refusal(err)
				}
				return &struct{ Body JobList }{jobList(found, More{total, written(next)})}, nil
			}
			after, err := placed[store.Place](in.After)
			if err != nil {
				return nil, err
			}
			ask := jobs.Jobs
			if in.Deleted {
				ask = jobs.Binned
			}
			found, next, total, err := ask(ctx, in.Search, after, in.Limit)
			if err != nil {
				return nil, refusal(err)
			}
			return &struct{ Body JobList }{jobList(found, More{total, written(next)})}, nil
		})

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
	get := operation(http.MethodGet, "/api/jobs/{id}", "get-job", "The newest revision of a job")
	get.Responses = map[string]*huma.Response{strconv.Itoa(http.StatusOK): {Description: "OK", Content: map[string]*huma.MediaType{
		"application/json": {Schema: api.OpenAPI().Components.Schemas.Schema(reflect.TypeFor[JobHead](), true, "JobHead")},
	}}}
	huma.Register(api, get, func(ctx context.Context, in *JobPath) (*taggedOut, error) {
		answer, revision, err := read.get(ctx, in.ID)
		return &taggedOut{tag(revision), "application/json", answer}, err
	})

	mountSave(api, jobs, document)
	mountRevisions(api, jobs)

	sampled := operation(http.MethodPost, "/api/samples", "add-sample", "Add one of the sample jobs anew")
	sampled.DefaultStatus = http.StatusCreated
	huma.Register(api, sampled, func(ctx context.Context, in *struct {
		Which int `query:"which" minimum:"1" maximum:"3" default:"1" doc:"The first is a tree in pieces, the second one with a crane, the third three to pull over"`
	}) (*jobOut, error) {
		samples, err := demo.Samples()
		if err != nil {
			return nil, err
		}
		document, err := job.ReadJob(samples[in.Which-1])
		if err != nil {
			return nil, calc.Refuse("job", err)
		}
		encoded, err := json.Marshal(document)
		if err != nil {
			return nil, err
		}
		kept, _, err := jobs.Create(ctx, uuid.New(), encoded, "a sample")
		if err != nil {
			return nil, refusal(err)
		}
		return answerWith(kept)
	})

	copied := operation(http.MethodPost, "/api/jobs/{id}/copy", "copy-job", "Keep a copy of a job under a new name")
	copied.DefaultStatus = http.StatusCreated
	huma.Register(api, copied, func(ctx context.Context, in *JobPath) (*jobOut, error) {
		original, err := jobs.Job(ctx, in.ID)
		if err != nil {
			return nil, refusal(err)
		}
		document, err := job.ReadJob(original.Document)
		if err != nil {
			return nil, calc.Refuse("job", err)
		}
		document.Name = copyName(document.Name)
		encoded, err := json.Marshal(document)
		if err != nil {
			return nil, err
		}
		kept, _, err := jobs.Create(ctx, uuid.New(), encoded, fmt.Sprintf("copied from revision %d of %s", original.Revision, in.ID))
		if err != nil {
			return nil, refusal(err)
		}
		return answerWith(kept)
	})

	huma.Register(api, operation(http.MethodDelete, "/api/jobs/{id}", "delete-job", "Take a job off the list; it can be restored"),
		func(ctx context.Context, in *JobPath) (*struct{}, error) {
			if err := jobs.Delete(ctx, in.ID); err != nil {
				return nil, refusal(err)
			}
			return nil, nil
		})
	huma.Register(api, operation(http.MethodPost, "/api/jobs/{id}/restore", "restore-job", "Bring a deleted job back"),
		func(ctx context.Context, in *JobPath) (*jobOut, error) {
			if err := jobs.Restore(ctx, in.ID); err != nil {
				return nil, refusal(err)
			}
			kept, err := jobs.Job(ctx, in.ID)
			if err != nil {
				return nil, refusal(err)
			}
			return answerWith(kept)
		})

	huma.Register(api, operation(http.MethodGet, "/api/jobs/{id}/file", "download-job", "The job document as a file"),
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

// maxName is how long a job's name may be.
const maxName = 120

func copyName(name string) string {
	const suffix = ", copy"
	letters := []rune(name)
	if len(letters)+len(suffix) > maxName {
		letters = letters[:maxName-len(suffix)]
	}
	return string(letters) + suffix
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

func mountRevisions(api huma.API, jobs *store.Store) {
	huma.Register(api, operation(http.MethodGet, "/api/jobs/{id}/revisions", "list-revisions", "Every save of a job, the newest first"),
		func(ctx context.Context, in *struct {
			JobPath
			After int `query:"after" minimum:"0" maximum:"1000000000" doc:"Those before this revision; absent: from the newest"`
			Limit int `query:"limit" minimum:"1" maximum:"1000" default:"100" doc:"How many at most"`
		}) (*struct{ Body RevisionList }, error) {
			kept, err := jobs.Job(ctx, in.ID)
			if err != nil {
				return nil, refusal(err)
			}
			found, more, err := jobs.Revisions(ctx, in.ID, in.After, in.Limit)
			if err != nil {
				return nil, refusal(err)
			}
			list := RevisionList{make([]JobRevision, len(found)), More{Total: kept.Revision}}
			for i, r := range found {
				list.Revisions[i] = JobRevision{r.Number, r.BasedOn, r.SavedAt, r.Note}
			}
			if more {
				list.Next = strconv.Itoa(found[len(found)-1].Number)
			}
			return &struct{ Body RevisionList }{list}, nil
		})
	huma.Register(api, operation(http.MethodGet, "/api/jobs/{id}/revisions/{number}", "get-revision", "One save of a job"),
		func(ctx context.Context, in *struct {
			JobPath
			Number int `path:"number" minimum:"1" maximum:"1000000000"`
		}) (*jobOut, error) {
			found, err := jobs.Revision(ctx, in.ID, in.Number)
			if err != nil {
				return nil, refusal(err)
			}
			return answerWith(store.Job{ID: in.ID, Revision: found.Number, SavedAt: found.SavedAt, Document: found.Document})
		})
}
