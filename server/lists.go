package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
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

// mountList serves the list of jobs.
func mountList(api huma.API, jobs *store.Store) {
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
}

// mountAnew serves jobs that are made of another: a sample, a copy.
func mountAnew(api huma.API, jobs *store.Store) {
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

	copied := operation(http.MethodPost, "/api/jobs/{id}/copy", "copy-job", "Keep a copy of a job under a new name, with its pictures")
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
		kept, err := jobs.Copy(ctx, in.ID, encoded, fmt.Sprintf("copied from revision %d of %s", original.Revision, in.ID))
		if err != nil {
			return nil, refusal(err)
		}
		return answerWith(kept)
	})
}

// mountBin takes jobs off the list and brings them back.
func mountBin(api huma.API, jobs *store.Store) {
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
