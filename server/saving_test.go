package server

import (
	"bufio"
	"context"
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"elkstay/core/calc"
	"elkstay/core/job"
)

func document(t *testing.T, name string) string {
	t.Helper()
	encoded, err := json.Marshal(job.NewJob(name))
	if err != nil {
		t.Fatal(err)
	}
	return string(encoded)
}

func create(t *testing.T, server *httptest.Server, name string) JobHead {
	t.Helper()
	response, body := send(t, server, call{method: "POST", path: "/api/jobs", body: document(t, name)})
	if response.StatusCode != http.StatusCreated {
		t.Fatalf("status %d: %s", response.StatusCode, body)
	}
	return decode[JobHead](t, body)
}

func save(t *testing.T, server *httptest.Server, id uuid.UUID, base, name string) (*http.Response, []byte) {
	t.Helper()
	return send(t, server, call{
		method: "PUT", path: "/api/jobs/" + id.String(), body: document(t, name),
		headers: map[string]string{"If-Match": base, "Idempotency-Key": uuid.NewString()},
	})
}

func TestSavingChecksTheBase(t *testing.T) {
	server := start(t)
	job := create(t, server, "one")
	response, body := save(t, server, job.ID, `"1"`, "two")
	if saved := decode[JobSaved](t, body); response.StatusCode != 200 || saved.Revision != 2 || saved.SavedAt.IsZero() {
		t.Fatalf("status %d: %s", response.StatusCode, body)
	}
	response, body = save(t, server, job.ID, `"1"`, "mine")
	stale := decode[Stale](t, body)
	if response.StatusCode != http.StatusPreconditionFailed || stale.Base != 1 || stale.Yours.Name != "mine" ||
		stale.Current.Revision != 2 || stale.Current.Job.Name != "two" || stale.Detail == "" {
		t.Errorf("status %d: %s", response.StatusCode, body)
	}
	response, _ = save(t, server, job.ID, `elsewhere`, "mine")
	if response.StatusCode != http.StatusPreconditionRequired {
		t.Errorf("a base that is no revision: status %d", response.StatusCode)
	}
	response, body = send(t, server, call{
		method: "PUT", path: "/api/jobs/" + job.ID.String(), body: strings.Replace(document(t, "x"), `"limits":{}`, `"limits":{"run_m":-4}`, 1),
		headers: map[string]string{"If-Match": `"2"`, "Idempotency-Key": uuid.NewString()},
	})
	if problem := decode[calc.Problem](t, body); response.StatusCode != 422 || problem.Errors[0].Location != "body.limits.run_m" {
		t.Errorf("a bad document: status %d, %s", response.StatusCode, body)
	}
	_, body = send(t, server, call{method: "GET", path: "/api/jobs/" + job.ID.String() + "/revisions/1"})
	if first := decode[JobHead](t, body); first.Job.Name != "one" {
		t.Errorf("revision 1 reads %s", body)
	}
	_, body = send(t, server, call{method: "GET", path: "/api/jobs/" + job.ID.String() + "/revisions"})
	if list := decode[RevisionList](t, body); len(list.Revisions) != 2 || list.Total != 2 || list.Next != "" || list.Revisions[0].BasedOn != 1 {
		t.Errorf("the revisions read %s", body)
	}
}

func demoDocument(t *testing.T) string {
	t.Helper()
	data, err := os.ReadFile("../demo/tern-quay.json")
	if err != nil {
		t.Fatal(err)
	}
	return string(data)
}

// A save is heard of by whoever has the job open, at another server on the same
// database too, and so is the job's going.
func TestSavesAreHeardLive(t *testing.T) {
	here, there := start(t), start(t)
	_, body := send(t, here, call{method: "POST", path: "/api/jobs", body: document(t, "live")})
	job := decode[JobHead](t, body)
	path := "/api/jobs/" + job.ID.String()
	request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, there.URL+path+"/live", nil)
	if err != nil {
		t.Fatal(err)
	}
	response, err := there.Client().Do(request)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = response.Body.Close() }()
	lines := bufio.NewScanner(response.Body)
	heard := func(want string) {
		t.Helper()
		for lines.Scan() {
			if lines.Text() == "data: "+want {
				return
			}
		}
		t.Fatalf("the stream ends before %s", want)
	}
	heard(`{"revision":1,"deleted":false}`)
	save := call{method: "PUT", path: path, body: document(t, "again"), headers: map[string]string{"If-Match": tag(1), "Idempotency-Key": uuid.NewString()}}
	if response, body := send(t, here, save); response.StatusCode != 200 {
		t.Fatalf("save: %s", body)
	}
	heard(`{"revision":2,"deleted":false}`)
	send(t, here, call{method: "DELETE", path: path})
	heard(`{"revision":2,"deleted":true}`)
	if response, _ := send(t, here, call{method: "GET", path: "/api/jobs/" + uuid.NewString() + "/live"}); response.StatusCode != 404 {
		t.Errorf("a job that is not there: status %d", response.StatusCode)
	}
}

// When the connection that listens is cut, the pages hear of what they missed as soon as
// it is back.
func TestLiveComesBackAfterACut(t *testing.T) {
	server := start(t)
	_, body := send(t, server, call{method: "POST", path: "/api/jobs", body: document(t, "cut off")})
	job := decode[JobHead](t, body)
	path := "/api/jobs/" + job.ID.String()
	request, err := http.NewRequestWithContext(t.Context(), http.MethodGet, server.URL+path+"/live", nil)
	if err != nil {
		t.Fatal(err)
	}
	response, err := server.Client().Do(request)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = response.Body.Close() }()
	if kind := response.Header.Get("Content-Type"); kind != eventStream {
		t.Fatalf("the stream is %s", kind)
	}
	lines := bufio.NewScanner(response.Body)
	heard := func(want string) {
		t.Helper()
		for lines.Scan() {
			if strings.Contains(lines.Text(), want) {
				return
			}
		}
		t.Fatalf("the stream ends before %s", want)
	}
	heard(`"revision":1`)
	admin, err := pgx.Connect(t.Context(), databaseURL)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = admin.Close(context.WithoutCancel(t.Context())) }()
	cut := 0
	for tries := 0; cut == 0 && tries < 100; tries++ {
		tag, err := admin.Exec(t.Context(), "select pg_terminate_backend(pid) from pg_stat_activity where query = 'listen job_moved'")
		if err != nil {
			t.Fatal(err)
		}
		cut = int(tag.RowsAffected())
		time.Sleep(20 * time.Millisecond)
	}
	if cut == 0 {
		t.Fatal("nobody listens")
	}
	save := call{method: "PUT", path: path, body: document(t, "saved while cut off"), headers: map[string]string{"If-Match": tag(1), "Idempotency-Key": uuid.NewString()}}
	if response, body := send(t, server, save); response.StatusCode != 200 {
		t.Fatalf("save: %s", body)
	}
	heard(`"revision":2`)
}

// What happened is never taken out by a save: a document that has lost its facts is kept with those of the revision it was made from, and the
// same save asked twice is kept once.
func TestASaveTakesNoFactOut(t *testing.T) {
	server := start(t)
	_, body := send(t, server, call{method: http.MethodPost, path: "/api/jobs", body: string(demoJob(t))})
	made := read[JobHead](t, body)
	less := made.Job
	less.Facts, less.Note = nil, "changed"
	document, err := json.Marshal(less)
	if err != nil {
		t.Fatal(err)
	}
	save := call{method: http.MethodPut, path: "/api/jobs/" + made.ID.String(), body: string(document),
		headers: map[string]string{"If-Match": tag(made.Revision), "Idempotency-Key": uuid.NewString()}}
	for range 2 {
		if response, body := send(t, server, save); response.StatusCode != http.StatusOK || read[JobSaved](t, body).Revision != made.Revision+1 {
			t.Fatalf("%d %s", response.StatusCode, body)
		}
	}
	_, body = send(t, server, call{method: http.MethodGet, path: "/api/jobs/" + made.ID.String()})
	if kept := read[JobHead](t, body).Job; len(made.Job.Facts) != 2 || len(kept.Facts) != 2 || kept.Note != "changed" {
		t.Errorf("%d facts of %d, note %q", len(kept.Facts), len(made.Job.Facts), kept.Note)
	}
}
