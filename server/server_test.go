package server

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"sync"
	"testing"
	"testing/fstest"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"elkstay/store"
	"elkstay/store/storetest"
)

var databaseURL string

func TestMain(m *testing.M) {
	status := storetest.Main(m, &databaseURL)
	if all := flag.Lookup("test.run").Value.String() == "" && flag.Lookup("test.bench").Value.String() == ""; all && status == 0 {
		if ids := described().unanswered(); len(ids) > 0 {
			fmt.Fprintln(os.Stderr, "no test was answered by", ids)
			status = 1
		}
	}
	os.Exit(status)
}

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
	server := httptest.NewServer(asDescribed(t, handler))
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

func decode[T any](t *testing.T, body []byte) (into T) {
	t.Helper()
	if err := json.Unmarshal(body, &into); err != nil {
		t.Fatalf("%v: %s", err, body)
	}
	return into
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
