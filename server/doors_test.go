package server

import (
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"runtime"
	"runtime/debug"
	heapmetrics "runtime/metrics"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"elkstay/core/calc"
	"elkstay/store"
)

// A panic anywhere is a problem document with the id that the log has.
func TestAPanicIsAProblem(t *testing.T) {
	var said bytes.Buffer
	handler := named(recovered(slog.New(slog.NewTextHandler(&said, nil)))(http.HandlerFunc(func(http.ResponseWriter, *http.Request) { panic("a stone") })))
	answer := httptest.NewRecorder()
	handler.ServeHTTP(answer, httptest.NewRequest(http.MethodGet, "/api/jobs", nil))
	var problem calc.Problem
	if err := json.Unmarshal(answer.Body.Bytes(), &problem); err != nil || answer.Code != 500 || answer.Header().Get("Content-Type") != "application/problem+json" {
		t.Fatalf("%d %s: %v", answer.Code, answer.Body, err)
	}
	id := answer.Header().Get("X-Request-Id")
	if id == "" || !strings.Contains(problem.Detail, id) || !strings.Contains(said.String(), id) || !strings.Contains(said.String(), "a stone") || strings.Contains(problem.Detail, "stone") {
		t.Errorf("id %q, said %q, logged %q", id, problem.Detail, said.String())
	}
}

// What changes something, and what is refused for where it comes from or goes to, is in the log.
func TestWhatIsLogged(t *testing.T) {
	var said bytes.Buffer
	server := startLogging(t, slog.New(slog.NewTextHandler(&said, &slog.HandlerOptions{Level: slog.LevelInfo})))
	send(t, server, call{method: "GET", path: "/api/reference"})
	send(t, server, call{method: "POST", path: "/api/read-units", body: `{"quantity":"height","text":"3"}`})
	if said.Len() > 0 {
		t.Errorf("what only reads is logged: %s", said.String())
	}
	job := create(t, server, "logged")
	for what, want := range map[*call]int{
		{method: "DELETE", path: "/api/jobs/" + job.ID.String()}:                                                                                           204,
		{method: "GET", path: "/api/jobs", headers: map[string]string{"Host": "elsewhere.example"}}:                                                        421,
		{method: "POST", path: "/api/jobs", body: "{}", headers: map[string]string{"Sec-Fetch-Site": "cross-site", "Origin": "https://elsewhere.example"}}: 403,
	} {
		said.Reset()
		response, _ := send(t, server, *what)
		if response.StatusCode != want || !strings.Contains(said.String(), fmt.Sprintf("status=%d", want)) || !strings.Contains(said.String(), response.Header.Get("X-Request-Id")) {
			t.Errorf("%s %s: %d, logged %q", what.method, what.path, response.StatusCode, said.String())
		}
	}
}

// Who has an answer is told that it stands; answers are compressed for who asks, kept by nobody
// and given to no other site.
func TestAnswersAreTaggedAndCompressed(t *testing.T) {
	server := start(t)
	job := create(t, server, "tagged")
	for _, path := range []string{"/api/jobs/" + job.ID.String(), "/api/reference", "/api/locker", "/api/jobs"} {
		response, body := send(t, server, call{method: "GET", path: path})
		tag := response.Header.Get("ETag")
		if tag == "" || response.Header.Get("Cache-Control") != "no-store" || response.Header.Get("Cross-Origin-Resource-Policy") != "same-origin" {
			t.Errorf("%s: %v", path, response.Header)
		}
		if again, rest := send(t, server, call{method: "GET", path: path, headers: map[string]string{"If-None-Match": `"x", W/` + tag}}); again.StatusCode != 304 || len(rest) > 0 || again.Header.Get("ETag") != tag {
			t.Errorf("%s asked again: %d, %d bytes", path, again.StatusCode, len(rest))
		}
		packed, small := send(t, server, call{method: "GET", path: path, headers: map[string]string{"Accept-Encoding": "gzip"}})
		reader, err := gzip.NewReader(bytes.NewReader(small))
		if err != nil || packed.Header.Get("Content-Encoding") != "gzip" {
			t.Errorf("%s: %v, %s", path, err, packed.Header.Get("Content-Encoding"))
			continue
		}
		if whole, err := io.ReadAll(reader); err != nil || !bytes.Equal(whole, body) {
			t.Errorf("%s: unpacked it differs: %v", path, err)
		}
	}
	// Changed, it is given anew.
	before, _ := send(t, server, call{method: "GET", path: "/api/jobs"})
	create(t, server, "another")
	if after, _ := send(t, server, call{method: "GET", path: "/api/jobs", headers: map[string]string{"If-None-Match": before.Header.Get("ETag")}}); after.StatusCode != 200 {
		t.Errorf("the list has changed: %d", after.StatusCode)
	}
}

func TestHeadersAreReadStrictly(t *testing.T) {
	server := start(t)
	job := create(t, server, "strict")
	document, err := json.Marshal(job.Job)
	if err != nil {
		t.Fatal(err)
	}
	for _, base := range []string{`1`, `W/"1"`, `""1""`, `"01"`, `"1", "2"`, `*`, `"-1"`, `"1`} {
		response, _ := send(t, server, call{method: "PUT", path: "/api/jobs/" + job.ID.String(), body: string(document), headers: map[string]string{"If-Match": base, "Idempotency-Key": uuid.NewString()}})
		if response.StatusCode != http.StatusPreconditionRequired {
			t.Errorf("If-Match: %s: %d", base, response.StatusCode)
		}
	}
	for media, want := range map[string]int{"text/plain": 415, "application/x-www-form-urlencoded": 415, "application/json; charset=utf-8": 200, "nonsense/": 415} {
		response, body := send(t, server, call{method: "POST", path: "/api/calc/wraps", body: `{"line_kn":9,"hand_kn":0.2,"friction":0.2}`, headers: map[string]string{"Content-Type": media}})
		if response.StatusCode != want {
			t.Errorf("%s: %d %s", media, response.StatusCode, body)
		}
	}
	if response, _ := send(t, server, call{method: "POST", path: "/api/jobs/" + job.ID.String() + "/live", body: "{}"}); response.StatusCode != http.StatusMethodNotAllowed {
		t.Errorf("POST to the live stream: %d", response.StatusCode)
	}
}

// Every operation of the description that takes a body refuses one beyond its bound, and says
// how much it takes.
func TestEveryBodyIsBounded(t *testing.T) {
	server := start(t)
	described, err := OpenAPI()
	if err != nil {
		t.Fatal(err)
	}
	var api struct {
		Paths map[string]map[string]struct {
			OperationID string `json:"operationId"`
			RequestBody *struct {
				Content map[string]any `json:"content"`
			} `json:"requestBody"`
		} `json:"paths"`
	}
	if err := json.Unmarshal(described, &api); err != nil {
		t.Fatal(err)
	}
	seen := map[string]bool{}
	for path, item := range api.Paths {
		for method, op := range item {
			seen[op.OperationID] = true
			if op.RequestBody == nil || op.OperationID == "take-archive" { // its bound is too large for a test, and has one of its own
				continue
			}
			media := ""
			for name := range op.RequestBody.Content {
				media = name
			}
			address := strings.NewReplacer("{id}", uuid.NewString(), "{photo}", uuid.NewString(), "{briefing}", uuid.NewString()).Replace(path)
			request, err := http.NewRequestWithContext(t.Context(), strings.ToUpper(method), server.URL+address, io.LimitReader(blanks{}, boundOf(op.OperationID).body+2))
			if err != nil {
				t.Fatal(err)
			}
			// Of unknown length: it must be counted as it comes.
			request.Header.Set("Content-Type", media)
			request.Header.Set("If-Match", `"1"`)
			request.Header.Set("Idempotency-Key", uuid.NewString())
			response, err := server.Client().Do(request)
			if err != nil {
				t.Errorf("%s: %v", op.OperationID, err)
				continue
			}
			_ = response.Body.Close()
			if response.StatusCode != http.StatusRequestEntityTooLarge {
				t.Errorf("%s takes more than %d bytes: %d", op.OperationID, boundOf(op.OperationID).body, response.StatusCode)
			}
		}
	}
	for id := range bounds {
		if !seen[id] {
			t.Errorf("there is a bound for %s, which is no operation", id)
		}
	}
}

// blanks is blank text without end.
type blanks struct{}

func (blanks) Read(into []byte) (int, error) {
	for i := range into {
		into[i] = ' '
	}
	return len(into), nil
}

// Long sums run a few at a time, each client in its turn; too many are refused, and who leaves
// gives way.
func TestTurnsOfLongSums(t *testing.T) {
	q := newQueue()
	q.slots, q.each, q.all = 1, 3, 5
	first, err := q.enter(t.Context(), "a")
	if err != nil {
		t.Fatal(err)
	}
	ran := make(chan string, 8)
	ready := func(n int) {
		for {
			q.mu.Lock()
			count := q.count
			q.mu.Unlock()
			if count == n {
				return
			}
			time.Sleep(time.Millisecond)
		}
	}
	wait := func(ctx context.Context, client, name string, already int) {
		go func() {
			done, err := q.enter(ctx, client)
			if err != nil {
				ran <- name + " " + err.Error()
				return
			}
			ran <- name
			done()
		}()
		ready(already + 1)
	}
	wait(t.Context(), "a", "a1", 0)
	wait(t.Context(), "a", "a2", 1)
	leaving, leave := context.WithCancel(t.Context())
	wait(leaving, "a", "a3", 2)
	if _, err := q.enter(t.Context(), "a"); !errors.Is(err, errBusy) {
		t.Errorf("a fourth of one client: %v", err)
	}
	wait(t.Context(), "b", "b1", 3)
	wait(t.Context(), "c", "c1", 4)
	if _, err := q.enter(t.Context(), "d"); !errors.Is(err, errBusy) {
		t.Errorf("a sixth of all: %v", err)
	}
	leave()
	if got := <-ran; got != "a3 context canceled" {
		t.Errorf("who left: %s", got)
	}
	first()
	for _, want := range []string{"a1", "b1", "c1", "a2"} {
		if got := <-ran; got != want {
			t.Errorf("%s had its turn, want %s", got, want)
		}
	}
	if done, err := q.enter(t.Context(), "e"); err != nil || q.running != 1 {
		t.Errorf("when all have ended: %v, %d run", err, q.running)
	} else {
		done()
	}
	if q.running != 0 || q.count != 0 || len(q.waiting) != 0 || len(q.turn) != 0 {
		t.Errorf("left behind: %+v", q)
	}
}

// The metrics tell of requests by the pattern of their address, of the queue, the pool and the
// streams.
func TestMetrics(t *testing.T) {
	kept, err := store.Open(t.Context(), databaseURL)
	if err != nil {
		t.Fatal(err)
	}
	defer kept.Close()
	handler, figures, err := New(Options{Store: kept, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		t.Fatal(err)
	}
	for range 3 {
		handler.ServeHTTP(httptest.NewRecorder(), httptest.NewRequest(http.MethodGet, "http://localhost/api/jobs/"+uuid.NewString(), nil))
	}
	answer := httptest.NewRecorder()
	figures.ServeHTTP(answer, httptest.NewRequest(http.MethodGet, "/metrics", nil))
	for _, want := range []string{
		`elkstay_request_seconds_count{method="GET",path="/api/jobs/{id}",status="404"} 3`,
		"elkstay_long_sums_waiting 0", "elkstay_long_sums_running 0", "elkstay_streams 0", "elkstay_connections_open ", "elkstay_panics_total 0",
	} {
		if !strings.Contains(answer.Body.String(), want) {
			t.Errorf("the metrics do not say %q", want)
		}
	}
}

// An answer beyond its operation's bound is broken off: nobody takes a part of it for the whole.
func TestAnswersAreBounded(t *testing.T) {
	bounds["calc-wraps"] = bound{body: kB, answer: 40, time: time.Second}
	t.Cleanup(func() { delete(bounds, "calc-wraps") }) // after the server has gone: it reads them
	server := start(t)
	request, err := http.NewRequestWithContext(t.Context(), http.MethodPost, server.URL+"/api/calc/wraps", strings.NewReader(`{"line_kn":9,"hand_kn":0.2,"friction":0.2}`))
	if err != nil {
		t.Fatal(err)
	}
	response, err := server.Client().Do(request)
	if err != nil {
		return // broken off before its first byte
	}
	defer func() { _ = response.Body.Close() }()
	if said, err := io.ReadAll(response.Body); err == nil {
		t.Errorf("%d bytes came as if they were all: %s", len(said), said)
	}
}

// Every operation has its share of memory, none more than there is for all; a request that finds no
// room waits for it, and is told when its time is over.
func TestMemoryIsSharedOut(t *testing.T) {
	for id := range needs {
		if _, bounded := bounds[id]; !bounded {
			t.Errorf("there is a need of memory for %s, which has no bound", id)
		}
	}
	for id, one := range bounds {
		if most := memoryOf(id); most < one.body || most > inMemory/2 {
			t.Errorf("%s: %d bytes of memory, %d are sent, %d are there", id, most, one.body, inMemory)
		}
	}
	turns := newQueue()
	api := newAPI(chi.NewRouter(), turns)
	huma.Register(api, huma.Operation{OperationID: "calc-wraps", Method: http.MethodGet, Path: "/api/held"}, func(context.Context, *struct{}) (*struct{}, error) { return nil, nil })
	bounds["calc-wraps"] = bound{body: kB, answer: kB, time: 50 * time.Millisecond}
	t.Cleanup(func() { delete(bounds, "calc-wraps") })
	asked := func() int {
		w := httptest.NewRecorder()
		api.Adapter().ServeHTTP(w, httptest.NewRequest(http.MethodGet, "/api/held", nil))
		return w.Code
	}
	if err := turns.memory.Acquire(t.Context(), inMemory); err != nil {
		t.Fatal(err)
	}
	if got := asked(); got != http.StatusServiceUnavailable {
		t.Errorf("with no memory left: %d", got)
	}
	turns.memory.Release(inMemory)
	for range 3 {
		if got := asked(); got != http.StatusNoContent {
			t.Errorf("with all of it: %d", got)
		}
	}
	if !turns.memory.TryAcquire(inMemory) {
		t.Error("memory was not given back")
	}
}

// highWater is how much more the heap holds at most while something runs, bytes.
func highWater(run func()) int64 {
	defer debug.SetGCPercent(debug.SetGCPercent(25))
	runtime.GC()
	heap := []heapmetrics.Sample{{Name: "/memory/classes/heap/objects:bytes"}}
	heapmetrics.Read(heap)
	before, most := heap[0].Value.Uint64(), uint64(0)
	done := make(chan struct{})
	var watching sync.WaitGroup
	watching.Go(func() {
		own := []heapmetrics.Sample{{Name: "/memory/classes/heap/objects:bytes"}}
		for {
			heapmetrics.Read(own)
			most = max(most, own[0].Value.Uint64())
			select {
			case <-done:
				return
			case <-time.After(time.Millisecond):
			}
		}
	})
	run()
	close(done)
	watching.Wait()
	return int64(most) - int64(before)
}

// The heaviest requests that are taken stay within their share of memory.
func TestMemoryStaysWithinItsBound(t *testing.T) {
	server := start(t)
	demo := demoJob(t)
	// As many unknown keys as a body takes: what is sent, unpacked and refused.
	keys := `{"a":[` + strings.Repeat(`{"b":1},`, (maxBody-100)/8) + `{}]}`
	for _, c := range []struct{ operation, path, body string }{
		{"create-job", "/api/jobs", string(demo)}, {"create-job", "/api/jobs", keys}, {"assess", "/api/assess", string(demo)}, {"assess", "/api/assess", keys},
		{"propose", "/api/propose", string(demo)}, {"propose", "/api/propose", keys}, {"resolve", "/api/resolve", keys}, {"brief", "/api/brief", string(demo)},
	} {
		got := highWater(func() { send(t, server, call{method: http.MethodPost, path: c.path, body: c.body}) })
		t.Logf("%s with %d bytes: %d MB", c.operation, len(c.body), got/mB)
		if got > memoryOf(c.operation) {
			t.Errorf("%s with %d bytes: %d MB, allowed %d MB", c.operation, len(c.body), got/mB, memoryOf(c.operation)/mB)
		}
	}
}
