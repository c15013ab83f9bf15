package server

import (
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/google/uuid"

	"elkstay/core/job"
	"elkstay/store"
)

// serving is a server on a database of its own, for benchmarks, and a job of the demo on it.
func serving(b *testing.B) (server *httptest.Server, at string, document []byte) {
	b.Helper()
	kept, err := store.Open(b.Context(), databaseURL)
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(kept.Close)
	handler, _, err := New(Options{Store: kept, Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		b.Fatal(err)
	}
	server = httptest.NewServer(handler)
	b.Cleanup(server.Close)
	server.Client().Transport.(*http.Transport).MaxIdleConnsPerHost = 200
	document = demoJob(b)
	id := uuid.New()
	if _, _, err := kept.Create(b.Context(), id, document, ""); err != nil {
		b.Fatal(err)
	}
	return server, server.URL + "/api/jobs/" + id.String(), document
}

// hurried runs a request by so many clients at once and reports how many a second, and how
// long all but the slowest hundredth took.
func hurried(b *testing.B, clients int, ask func() error) {
	b.Helper()
	took := make([]time.Duration, b.N)
	var at atomic.Int64
	var group sync.WaitGroup
	b.ResetTimer()
	start := time.Now()
	for range clients {
		group.Go(func() {
			for i := at.Add(1) - 1; int(i) < b.N; i = at.Add(1) - 1 {
				began := time.Now()
				if err := ask(); err != nil {
					b.Error(err)
					return
				}
				took[i] = time.Since(began)
			}
		})
	}
	group.Wait()
	slices.Sort(took)
	b.ReportMetric(float64(b.N)/time.Since(start).Seconds(), "req/s")
	b.ReportMetric(float64(took[len(took)*99/100].Microseconds())/1000, "p99-ms")
}

func get(b *testing.B, server *httptest.Server, at string) error {
	response, err := server.Client().Get(at)
	if err != nil {
		return err
	}
	defer func() { _ = response.Body.Close() }()
	if response.StatusCode != http.StatusOK {
		b.Errorf("status %d", response.StatusCode)
	}
	_, err = io.Copy(io.Discard, response.Body)
	return err
}

// BenchmarkGetJob16 reads one job with 16 clients.
func BenchmarkGetJob16(b *testing.B) {
	server, at, _ := serving(b)
	hurried(b, 16, func() error { return get(b, server, at) })
}

// BenchmarkGetJobBesideLongSums reads one job while 40 clients ask for the longest sums there
// are.
func BenchmarkGetJobBesideLongSums(b *testing.B) {
	server, at, document := serving(b)
	stop := make(chan struct{})
	var group sync.WaitGroup
	for range 40 {
		group.Go(func() {
			for {
				select {
				case <-stop:
					return
				default:
				}
				response, err := server.Client().Post(server.URL+"/api/propose", "application/json", strings.NewReader(string(document)))
				if err != nil {
					return
				}
				_, _ = io.Copy(io.Discard, response.Body)
				_ = response.Body.Close()
				if response.StatusCode == http.StatusTooManyRequests {
					time.Sleep(20 * time.Millisecond)
				}
			}
		})
	}
	time.Sleep(200 * time.Millisecond)
	hurried(b, 4, func() error { return get(b, server, at) })
	close(stop)
	server.CloseClientConnections()
	group.Wait()
}

// BenchmarkSave16 saves 16 jobs at once, each by its own client.
func BenchmarkSave16(b *testing.B) {
	server, _, document := serving(b)
	kept, err := store.Open(b.Context(), databaseURL)
	if err != nil {
		b.Fatal(err)
	}
	defer kept.Close()
	type one struct {
		id       uuid.UUID
		revision int
	}
	free := make(chan *one, 16)
	for range 16 {
		id := uuid.New()
		if _, _, err := kept.Create(b.Context(), id, document, ""); err != nil {
			b.Fatal(err)
		}
		free <- &one{id, 1}
	}
	if _, err := job.ReadJob(document); err != nil {
		b.Fatal(err)
	}
	hurried(b, 16, func() error {
		mine := <-free
		defer func() { free <- mine }()
		request, err := http.NewRequest(http.MethodPut, server.URL+"/api/jobs/"+mine.id.String(), strings.NewReader(string(document)))
		if err != nil {
			return err
		}
		request.Header.Set("Content-Type", "application/json")
		request.Header.Set("If-Match", tag(mine.revision))
		request.Header.Set("Idempotency-Key", uuid.NewString())
		response, err := server.Client().Do(request)
		if err != nil {
			return err
		}
		defer func() { _ = response.Body.Close() }()
		if response.StatusCode != http.StatusOK {
			b.Errorf("status %d", response.StatusCode)
		}
		mine.revision++
		_, err = io.Copy(io.Discard, response.Body)
		return err
	})
}
