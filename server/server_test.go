package server

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"reflect"
	"regexp"
	"slices"
	"strings"
	"sync"
	"testing"
	"testing/fstest"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"elkstay/core/assess"
	"elkstay/core/calc"
	"elkstay/core/job"
	"elkstay/core/units"
	"elkstay/store"
	"elkstay/store/storetest"
)

var databaseURL string

func TestMain(m *testing.M) { os.Exit(storetest.Main(m, &databaseURL)) }

// page stands for the built front end.
var page = fstest.MapFS{
	"200.html":                    {Data: []byte("<html><script>start()</script></html>")},
	"mark.svg":                    {Data: []byte("<svg/>")},
	"_app/immutable/entry/app.js": {Data: []byte(`x = '<div style="top: 0">'`)},
}

func start(t *testing.T) *httptest.Server {
	t.Helper()
	return startLogging(t, slog.New(slog.DiscardHandler))
}

func startLogging(t *testing.T, log *slog.Logger) *httptest.Server {
	t.Helper()
	jobs, err := store.Open(t.Context(), databaseURL)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(jobs.Close)
	handler, _, err := New(Options{Store: jobs, Web: fs.ReadDirFS(page), Log: log})
	if err != nil {
		t.Fatal(err)
	}
	server := httptest.NewServer(handler)
	t.Cleanup(server.Close)
	return server
}

type call struct {
	method, path, body string
	headers            map[string]string
}

func send(t *testing.T, server *httptest.Server, c call) (*http.Response, []byte) {
	t.Helper()
	request, err := http.NewRequestWithContext(t.Context(), c.method, server.URL+c.path, strings.NewReader(c.body))
	if err != nil {
		t.Fatal(err)
	}
	if c.body != "" {
		request.Header.Set("Content-Type", "application/json")
	}
	for name, value := range c.headers {
		if name == "Host" {
			request.Host = value
			continue
		}
		request.Header.Set(name, value)
	}
	response, err := server.Client().Do(request)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = response.Body.Close() }()
	body, err := io.ReadAll(response.Body)
	if err != nil {
		t.Fatal(err)
	}
	return response, body
}

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

func TestOtherSitesAreKeptOut(t *testing.T) {
	server := start(t)
	body := document(t, "from elsewhere")
	for _, c := range []struct {
		name    string
		headers map[string]string
		status  int
	}{
		{"our own page", map[string]string{"Origin": server.URL, "Sec-Fetch-Site": "same-origin"}, 201},
		{"another site", map[string]string{"Sec-Fetch-Site": "cross-site"}, 403},
		{"another origin", map[string]string{"Origin": "http://elsewhere.example"}, 403},
		{"another name for our address", map[string]string{"Host": "elsewhere.example"}, 421},
	} {
		response, _ := send(t, server, call{method: "POST", path: "/api/jobs", body: body, headers: c.headers})
		if response.StatusCode != c.status {
			t.Errorf("%s: status %d, want %d", c.name, response.StatusCode, c.status)
		}
	}
}

func TestPagesCarryAStrictPolicy(t *testing.T) {
	server := start(t)
	response, body := send(t, server, call{method: "GET", path: "/job/anything"})
	policy := response.Header.Get("Content-Security-Policy")
	if response.StatusCode != 200 || !bytes.Contains(body, []byte("start()")) {
		t.Errorf("status %d: %s", response.StatusCode, body)
	}
	// sha256 of `start()` and of `top: 0`, by openssl.
	for _, source := range []string{
		"default-src 'none'", "frame-ancestors 'none'", "worker-src 'self'", "'wasm-unsafe-eval'",
		"script-src 'self' 'sha256-DIm7WJS6ZKDYe5qFLPy+h4JFI9Bol5QmYC57mt3Fb00='",
		"style-src 'self' 'unsafe-hashes' 'sha256-MpEfRfxr4wfpP3KWopSPvl7QRmAseHH8eK1lrnDfWTs='",
	} {
		if !strings.Contains(policy, source) {
			t.Errorf("the policy lacks %s: %s", source, policy)
		}
	}
	// The core may be compiled in the page; no text may be run as code.
	if strings.Contains(policy, "unsafe-inline") || strings.Contains(policy, "'unsafe-eval'") {
		t.Errorf("the policy is loose: %s", policy)
	}
	if missing, _ := send(t, server, call{method: "GET", path: "/_app/immutable/gone.js"}); missing.StatusCode != 404 {
		t.Errorf("a missing script: status %d", missing.StatusCode)
	}
	script, _ := send(t, server, call{method: "GET", path: "/_app/immutable/entry/app.js"})
	if script.StatusCode != 200 || !strings.Contains(script.Header.Get("Cache-Control"), "immutable") {
		t.Errorf("a script: status %d, %s", script.StatusCode, script.Header.Get("Cache-Control"))
	}
}

// A job's page names, as it comes, what it will ask for: the job, its font, the code of its board by
// the number that the front end's router has for it. Other pages do not.
func TestAJobsPageNamesWhatItNeeds(t *testing.T) {
	web := fstest.MapFS{
		"200.html":                                          {Data: []byte("<script>start()</script>")},
		"_app/immutable/entry/app.AbC.js":                   {Data: []byte(`x={"/":[2],"/job/[id]":[6],"/job/[id]/survey":[9]}`)},
		"_app/immutable/nodes/6.QwE.js":                     {Data: []byte("board")},
		"_app/immutable/nodes/61.RtZ.js":                    {Data: []byte("another")},
		"_app/immutable/assets/a-latin-wght-normal.X.woff2": {Data: []byte("font")},
	}
	links := func(files fstest.MapFS, path string) string {
		t.Helper()
		served, err := newPages(files)
		if err != nil {
			t.Fatal(err)
		}
		w := httptest.NewRecorder()
		served.ServeHTTP(w, httptest.NewRequest(http.MethodGet, path, nil))
		return strings.Join(w.Header().Values("Link"), "\n")
	}
	const id = "7e57a9e0-0001-4c1b-9d4e-7e5109ab0001"
	board := links(web, "/job/"+id)
	for _, want := range []string{"</api/jobs/" + id + ">; rel=preload", "</_app/immutable/nodes/6.QwE.js>; rel=modulepreload", "latin-wght-normal.X.woff2>; rel=preload; as=font"} {
		if !strings.Contains(board, want) {
			t.Errorf("%q is not in %s", want, board)
		}
	}
	if other := links(web, "/job/"+id+"/survey"); strings.Contains(other, "nodes/") {
		t.Errorf("another page loads the board's code: %s", other)
	}
	// A build whose router says nothing of it serves as well.
	web["_app/immutable/entry/app.AbC.js"] = &fstest.MapFile{Data: []byte("x")}
	if board := links(web, "/job/"+id); strings.Contains(board, "modulepreload") {
		t.Error(board)
	}
}

func document(t *testing.T, name string) string {
	t.Helper()
	encoded, err := json.Marshal(job.NewJob(name))
	if err != nil {
		t.Fatal(err)
	}
	return string(encoded)
}

func decode[T any](t *testing.T, body []byte) (into T) {
	t.Helper()
	if err := json.Unmarshal(body, &into); err != nil {
		t.Fatalf("%v: %s", err, body)
	}
	return into
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

func TestCopyDeleteRestoreDownload(t *testing.T) {
	server := start(t)
	job := create(t, server, "Söndre Wharf")
	path := "/api/jobs/" + job.ID.String()
	_, body := send(t, server, call{method: "POST", path: path + "/copy"})
	if made := decode[JobHead](t, body); made.ID == job.ID || made.Job.Name != "Söndre Wharf, copy" || made.Revision != 1 {
		t.Errorf("the copy reads %s", body)
	}
	response, file := send(t, server, call{method: "GET", path: path + "/file"})
	if got := response.Header.Get("Content-Disposition"); got != `attachment; filename="s-ndre-wharf.elkstay.json"` {
		t.Errorf("the file is sent as %s", got)
	}
	if response, body := send(t, server, call{method: "POST", path: "/api/jobs", body: string(file)}); response.StatusCode != 201 {
		t.Errorf("the file uploaded again: %d %s", response.StatusCode, body)
	}
	if response, _ := send(t, server, call{method: "DELETE", path: path}); response.StatusCode != http.StatusNoContent {
		t.Errorf("delete: status %d", response.StatusCode)
	}
	listed := func() bool {
		_, body := send(t, server, call{method: "GET", path: "/api/jobs"})
		for _, row := range decode[JobList](t, body).Jobs {
			if row.ID == job.ID {
				return true
			}
		}
		return false
	}
	if listed() {
		t.Error("a deleted job is listed")
	}
	if response, _ := send(t, server, call{method: "POST", path: path + "/restore"}); response.StatusCode != 200 || !listed() {
		t.Errorf("restore: status %d, listed %v", response.StatusCode, listed())
	}
}

func TestLongNamesCopyWithinTheLimit(t *testing.T) {
	if got := copyName(strings.Repeat("ö", maxName)); len([]rune(got)) != maxName || !strings.HasSuffix(got, ", copy") {
		t.Errorf("got %q", got)
	}
	if got := fileName("¿?"); got != "job.elkstay.json" {
		t.Errorf("got %q", got)
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
	var sample job.Job
	if err := json.Unmarshal([]byte(demoDocument(t)), &sample); err != nil {
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

// The list of jobs goes on where its page ended in every order, and a place of another order is none.
func TestJobsAreSortedPageByPage(t *testing.T) {
	server := start(t)
	for _, name := range []string{"qysort b", "qysort C", "qysort a"} {
		send(t, server, call{method: "POST", path: "/api/jobs", body: strings.Replace(document(t, "empty"), `"name":"empty"`, fmt.Sprintf(`"name":%q`, name), 1)})
	}
	for _, order := range []string{"name", "day"} {
		var names []string
		for after := ""; ; {
			response, body := send(t, server, call{method: "GET", path: "/api/jobs?search=qysort&limit=2&sort=" + order + "&after=" + after})
			page := decode[JobList](t, body)
			if response.StatusCode != 200 || page.Total != 3 {
				t.Fatalf("%s: %d %s", order, response.StatusCode, body)
			}
			for _, row := range page.Jobs {
				names = append(names, row.Name)
			}
			if after = page.Next; after == "" {
				break
			}
		}
		if len(names) != 3 || order == "name" && !slices.Equal(names, []string{"qysort a", "qysort b", "qysort C"}) {
			t.Errorf("%s: %v", order, names)
		}
	}
	if refused, _ := send(t, server, call{method: "GET", path: "/api/jobs?sort=weight"}); refused.StatusCode != 422 {
		t.Errorf("an order that is none: %d", refused.StatusCode)
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

func TestReadyFollowsTheDatabase(t *testing.T) {
	server := start(t)
	for _, path := range []string{"/healthz", "/readyz"} {
		if response, _ := send(t, server, call{method: "GET", path: path}); response.StatusCode != 200 {
			t.Errorf("%s: status %d", path, response.StatusCode)
		}
	}
	handler, _, err := New(Options{Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	without := httptest.NewServer(handler)
	defer without.Close()
	if response, _ := send(t, without, call{method: "GET", path: "/readyz"}); response.StatusCode != 503 {
		t.Errorf("without a database: status %d", response.StatusCode)
	}
}

func TestManyReadersAtOnce(t *testing.T) {
	server := start(t)
	job := create(t, server, "busy")
	var group sync.WaitGroup
	for range 50 {
		group.Go(func() {
			response, err := server.Client().Get(server.URL + "/api/jobs/" + job.ID.String())
			if err != nil {
				t.Error(err)
				return
			}
			defer func() { _ = response.Body.Close() }()
			if response.StatusCode != 200 || response.Header.Get("ETag") != `"1"` {
				t.Errorf("status %d, tag %s", response.StatusCode, response.Header.Get("ETag"))
			}
		})
	}
	group.Wait()
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

// Where nothing can be kept, the answer says so in words, what is kept can still be read, and it
// goes on when the disk is writable again.
func TestReadOnly(t *testing.T) {
	owner, err := pgx.Connect(t.Context(), storetest.Owner)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = owner.Close(context.Background()) }()
	setReadOnly := func(to string) {
		t.Helper()
		if _, err := owner.Exec(context.Background(), "alter role elkstay_app set default_transaction_read_only = "+to); err != nil {
			t.Fatal(err)
		}
	}
	before := start(t)
	job := create(t, before, "kept")
	document, err := json.Marshal(job.Job)
	if err != nil {
		t.Fatal(err)
	}
	save := func(server *httptest.Server) (*http.Response, []byte) {
		return send(t, server, call{method: "PUT", path: "/api/jobs/" + job.ID.String(), body: string(document), headers: map[string]string{"If-Match": `"1"`, "Idempotency-Key": uuid.NewString()}})
	}
	setReadOnly("on")
	defer setReadOnly("off")
	barred := start(t)
	if response, body := save(barred); response.StatusCode != http.StatusServiceUnavailable || !strings.Contains(string(body), "can only be read") {
		t.Errorf("saved where nothing can be kept: %d %s", response.StatusCode, body)
	}
	if response, _ := send(t, barred, call{method: "GET", path: "/api/jobs/" + job.ID.String()}); response.StatusCode != http.StatusOK {
		t.Errorf("what is kept cannot be read: %d", response.StatusCode)
	}
	setReadOnly("off")
	if response, body := save(start(t)); response.StatusCode != http.StatusOK {
		t.Errorf("writable again: %d %s", response.StatusCode, body)
	}
}

// Each sample can be had again, as a job of its own; what is no sample is refused by name.
func TestSamplesCanBeHadAgain(t *testing.T) {
	server := start(t)
	for which, name := range map[string]string{"1": "Tern Quay", "2": "Mill Fold", "3": "Reed Lock"} {
		first, body := send(t, server, call{method: "POST", path: "/api/samples?which=" + which})
		second, _ := send(t, server, call{method: "POST", path: "/api/samples?which=" + which})
		if first.StatusCode != http.StatusCreated || second.StatusCode != http.StatusCreated || !strings.Contains(string(body), `"name":"`+name+`"`) {
			t.Errorf("%s: %d, %d, %.120s", name, first.StatusCode, second.StatusCode, body)
		}
	}
	if refused, body := send(t, server, call{method: "POST", path: "/api/samples?which=4"}); refused.StatusCode != http.StatusUnprocessableEntity || !strings.Contains(string(body), "which") {
		t.Errorf("a fourth: %d, %s", refused.StatusCode, body)
	}
}
