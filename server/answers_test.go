package server

import (
	"bytes"
	"context"
	"encoding/json"
	"net/http"
	"os"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/google/uuid"

	"elkstay/core/assess"
	"elkstay/core/calc"
	"elkstay/core/job"
	"elkstay/core/units"
)

// The command line and HTTP give the same document, to the last byte: the answer
// and the refusal.
func TestCalcAnswersAlikeAtEveryDoor(t *testing.T) {
	server := start(t)
	for _, c := range []struct{ kind, body string }{
		{"wraps", `{"line_kn":9,"hand_kn":0.2,"friction":0.2}`},
		{"piece", `{"wood":{"species":"white-ash"},"stations":[{"at_m":0,"diameter_m":0.5},{"at_m":2,"diameter_m":0.45}]}`},
		{"wraps", `{"line_kn":-9,"hand_kn":0.2,"friction":0.2,"x":1}`},
		{"drop", ``},
		{"drop", `{`},
		{"drop", `{"lead_m":NaN}`},
	} {
		kind, err := calc.Find(c.kind)
		if err != nil {
			t.Fatal(err)
		}
		var want any
		status, media := http.StatusOK, "application/json"
		want, err = kind.Run(t.Context(), []byte(c.body))
		if err != nil {
			want, status, media = err, http.StatusUnprocessableEntity, "application/problem+json"
		}
		encoded, err := calc.Encode(want)
		if err != nil {
			t.Fatal(err)
		}
		response, body := send(t, server, call{method: "POST", path: "/api/calc/" + c.kind, body: c.body})
		if response.StatusCode != status || response.Header.Get("Content-Type") != media {
			t.Errorf("%s %s: status %d, %s", c.kind, c.body, response.StatusCode, response.Header.Get("Content-Type"))
		}
		if !bytes.Equal(body, encoded) {
			t.Errorf("%s %s: HTTP says\n%s\nthe command line\n%s", c.kind, c.body, body, encoded)
		}
	}
}

func TestRefusalsAreProblemDocuments(t *testing.T) {
	server := start(t)
	id := uuid.NewString()
	for _, c := range []struct {
		name   string
		call   call
		status int
	}{
		{"unknown kind", call{method: "POST", path: "/api/calc/guess", body: "{}"}, 404},
		{"unknown address", call{method: "GET", path: "/api/nothing"}, 404},
		{"unknown job", call{method: "GET", path: "/api/jobs/" + id}, 404},
		{"no job id", call{method: "GET", path: "/api/jobs/twelve"}, 422},
		{"body too large", call{method: "POST", path: "/api/assess", body: `{"x":"` + strings.Repeat("a", maxBody) + `"}`}, 413},
		{"unknown units", call{method: "POST", path: "/api/assess?units=furlongs", body: "{}"}, 422},
		{"unknown query", call{method: "POST", path: "/api/assess?unit=us", body: "{}"}, 422},
		{"save without a base", call{method: "PUT", path: "/api/jobs/" + id, body: document(t, "x"), headers: map[string]string{"Idempotency-Key": id}}, 422},
		{"unreadable length", call{method: "POST", path: "/api/read-units", body: `{"quantity":"height","units":"us","text":"6 elbows"}`}, 422},
		{"method", call{method: "PATCH", path: "/api/jobs"}, 404},
	} {
		t.Run(c.name, func(t *testing.T) {
			response, body := send(t, server, c.call)
			var problem calc.Problem
			if err := json.Unmarshal(body, &problem); err != nil {
				t.Fatalf("status %d, no problem document: %s", response.StatusCode, body)
			}
			if response.StatusCode != c.status || problem.Status != c.status || problem.Detail == "" || response.Header.Get("Content-Type") != "application/problem+json" {
				t.Errorf("status %d, want %d: %s", response.StatusCode, c.status, body)
			}
		})
	}
}

func TestQuestionsReadTheSameDocument(t *testing.T) {
	server := start(t)
	response, body := send(t, server, call{method: "POST", path: "/api/assess?units=us", body: document(t, "empty")})
	if a := decode[assess.Assessment](t, body); response.StatusCode != 200 || len(a.Missing) != 2 || a.State == "" {
		t.Errorf("status %d: %s", response.StatusCode, body)
	}
	for _, question := range []string{"propose", "simulate?pick=p1", "ask?pick=p1&ask=length"} {
		response, body = send(t, server, call{method: "POST", path: "/api/" + question, body: document(t, "empty")})
		if response.StatusCode != 200 || !strings.Contains(string(body), "Choose the species.") {
			t.Errorf("%s: status %d: %s", question, response.StatusCode, body)
		}
	}
	response, body = send(t, server, call{method: "POST", path: "/api/ask?pick=p1&ask=length&hold=line", body: demoDocument(t)})
	if problem := decode[calc.Problem](t, body); response.StatusCode != 422 || problem.Errors[0].Location != "query.value" || problem.Errors[0].Allowed == "" {
		t.Errorf("status %d: %s", response.StatusCode, body)
	}
	three := `{"base":` + document(t, "a") + `,"mine":` + document(t, "b") + `,"theirs":` + document(t, "c") + `}`
	response, body = send(t, server, call{method: "POST", path: "/api/merge", body: three})
	if m := decode[job.Merged](t, body); response.StatusCode != 200 || m.Job.Name != "b" || len(m.Conflicts) != 1 || m.Conflicts[0].Title != "name" {
		t.Errorf("status %d: %s", response.StatusCode, body)
	}
	_, body = send(t, server, call{method: "POST", path: "/api/read-units", body: `{"quantity":"diameter","units":"metric","text":"22 1/2 in"}`})
	if got := decode[units.ReadAnswer](t, body); got.Value != 22.5*0.0254 {
		t.Errorf("22 1/2 in reads %v", got.Value)
	}
}

// A page that asks for a job and its figures at once gets what POST assess says of the document,
// in full of the pick that comes next, with the revision they are of.
func TestFiguresComeWithTheJob(t *testing.T) {
	server := start(t)
	sample, err := job.ReadJob([]byte(demoDocument(t)))
	if err != nil {
		t.Fatal(err)
	}
	next := slices.IndexFunc(sample.Picks, func(p job.Pick) bool { return !p.Done })
	_, body := send(t, server, call{method: "POST", path: "/api/jobs", body: demoDocument(t)})
	id := decode[JobHead](t, body).ID.String()
	response, body := send(t, server, call{method: "GET", path: "/api/jobs/" + id + "/figures?units=us"})
	got := decode[JobFigures](t, body)
	_, body = send(t, server, call{method: "POST", path: "/api/assess?units=us&pick=" + sample.Picks[next].ID, body: demoDocument(t)})
	want := decode[assess.Assessment](t, body)
	if response.StatusCode != 200 || got.Revision != 1 || got.Assessment.Detail == nil || got.Assessment.Detail.ID != sample.Picks[next].ID || !reflect.DeepEqual(got.Assessment, want) {
		t.Errorf("status %d, revision %d: %.200v\n%.200v", response.StatusCode, got.Revision, got.Assessment, want)
	}
	if gone, _ := send(t, server, call{method: "GET", path: "/api/jobs/7e57a9e0-0009-4c1b-9d4e-7e5109ab0001/figures"}); gone.StatusCode != 404 {
		t.Errorf("of no job: status %d", gone.StatusCode)
	}
}

// The description of the API and the schema of the job document, as committed, are
// those of the Go types.
func TestCommittedDescriptionsAreCurrent(t *testing.T) {
	api, err := OpenAPI()
	if err != nil {
		t.Fatal(err)
	}
	schema, err := JobSchema()
	if err != nil {
		t.Fatal(err)
	}
	for path, want := range map[string][]byte{"../web/src/lib/api/openapi.json": api, "../docs/job.schema.json": schema} {
		committed, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		var got, fresh bytes.Buffer
		if json.Compact(&got, committed) != nil || json.Compact(&fresh, want) != nil || got.String() != fresh.String() {
			t.Errorf("%s is out of date: make generate", path)
		}
	}
	if !bytes.Contains(api, []byte(`"openapi":"3.1.0"`)) {
		t.Error("the description is not OpenAPI 3.1")
	}
	if undefined := regexp.MustCompile(`"\$ref":"#/\$defs/(\w+)"`).FindSubmatch(schema); undefined != nil && !bytes.Contains(schema, []byte(`"`+string(undefined[1])+`": {`)) {
		t.Errorf("the schema refers to %s and does not define it", undefined[1])
	}
}

// A long answer ends when its caller goes away, and one that takes too long says so.
func TestALongAnswerIsBrokenOff(t *testing.T) {
	server := start(t)
	body := `{"piece":{"mass_kg":400,"cog_above_cut_m":1.2,"length_m":2.5},"tie_above_cut_m":0.4,"block_below_cut_m":0.6,"slack_m":0.1,"lead_m":0.001,` +
		`"rope":{"mbs_kn":5000,"elongation":[{"load_pct":100,"strain_pct":0.01}]},"block_efficiency":0.9,"until_s":30,"spread":{"runs":5000,"seed":1}}`
	ctx, cancel := context.WithTimeout(t.Context(), 300*time.Millisecond)
	defer cancel()
	request, err := http.NewRequestWithContext(ctx, http.MethodPost, server.URL+"/api/calc/drop-sim", strings.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	if response, err := server.Client().Do(request); err == nil {
		_ = response.Body.Close()
		t.Fatalf("it answered with %d", response.StatusCode)
	}
	// The server is free again: closing it waits for what is still at work.
	done := make(chan struct{})
	go func() {
		server.Close()
		close(done)
	}()
	select {
	case <-done:
	case <-time.After(10 * time.Second):
		t.Error("the work goes on after its caller has gone")
	}
}
