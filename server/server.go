// Package server gives the core and the store a door over HTTP: an API described
// by OpenAPI 3.1 under /api, and the front end. It holds no sums and no SQL.
package server

import (
	"context"
	"errors"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/google/uuid"

	"elkstay/store"
)

// Options are what a server is made of.
type Options struct {
	Store *store.Store // nil: only what needs no database is served
	Web   fs.ReadDirFS // the built front end; nil: the API alone
	Log   *slog.Logger
	// Hosts are names, besides the loopback ones, under which the server may be
	// asked for. Any other is refused, so that a page elsewhere cannot reach a
	// server on this machine by giving its own name our address.
	Hosts []string
}

// What the API's answers are compressed by, and which of them: the front end's own files were
// when they were built, and pictures are by nature.
const compression = 4

var compressed = []string{"application/json", "application/problem+json", "application/schema+json", "application/geo+json", "image/svg+xml", "text/csv", "text/plain"}

// New returns the handler of everything the application serves, and that of its metrics, which
// is meant for an address of its own.
func New(o Options) (application, figures http.Handler, err error) {
	turns := newQueue()
	streams := &live{store: o.Store, pages: map[chan store.Moved]uuid.UUID{}}
	counted := newMetrics(turns, streams, o.Store)
	router := chi.NewRouter()
	router.Use(named, counted.watch, logged(o.Log), recovered(o.Log), knownHost(o.Hosts), secured)
	router.Use(http.NewCrossOriginProtection().Handler, emptyToTheCore)
	router.Get("/healthz", func(w http.ResponseWriter, _ *http.Request) { plainText(w, http.StatusOK, "ok") })
	router.Get("/readyz", func(w http.ResponseWriter, r *http.Request) {
		if o.Store == nil || o.Store.Ready(r.Context()) != nil {
			plainText(w, http.StatusServiceUnavailable, "the database does not answer")
			return
		}
		plainText(w, http.StatusOK, "ok")
	})
	// The one answer that does not end by itself, and those that are long, stand outside the bound on requests.
	router.Handle("/api/jobs/{id}/live", streams)
	whole := newArchives(o.Store)
	router.Get("/api/jobs/{id}/archive", whole.give)
	router.Post("/api/archives", whole.take)
	router.Group(func(bounded chi.Router) {
		bounded.Use(unkept, middleware.NewCompressor(compression, compressed...).Handler, unchanged, boundedTables)
		mountAPI(bounded, o.Store, turns)
		bounded.HandleFunc("/api/*", func(w http.ResponseWriter, r *http.Request) { writeProblem(w, noSuchAddress(r)) })
	})
	if o.Web != nil {
		pages, err := newPages(o.Web)
		if err != nil {
			return nil, nil, err
		}
		router.Handle("/*", pages)
	}
	return router, counted.page(), nil
}

func plainText(w http.ResponseWriter, status int, text string) {
	w.Header().Set("Content-Type", "text/plain; charset=utf-8")
	w.WriteHeader(status)
	_, _ = w.Write([]byte(text + "\n")) //nolint:gosec // plain text, and sniffing is off
}

// knownHost refuses requests for a host that is not ours.
func knownHost(hosts []string) func(http.Handler) http.Handler {
	known := map[string]bool{"localhost": true, "127.0.0.1": true, "::1": true}
	for _, host := range hosts {
		known[strings.ToLower(strings.TrimSpace(host))] = true
	}
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			host := r.Host
			if name, _, err := net.SplitHostPort(host); err == nil {
				host = name
			}
			if !known[strings.ToLower(strings.Trim(host, "[]"))] {
				plainText(w, http.StatusMisdirectedRequest, "this server does not answer for "+host)
				return
			}
			next.ServeHTTP(w, r)
		})
	}
}

// emptyToTheCore lets an empty body reach the core as a blank one, so that it is
// refused there, in the words of every door.
func emptyToTheCore(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.ContentLength == 0 && (r.Method == http.MethodPost || r.Method == http.MethodPut) {
			r.Body = io.NopCloser(strings.NewReader(" "))
		}
		next.ServeHTTP(w, r)
	})
}

// secured sets the headers every answer carries.
func secured(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Content-Security-Policy", "default-src 'none'; frame-ancestors 'none'")
		next.ServeHTTP(w, r)
	})
}

// Serve answers on a listener until ctx ends, then lets requests under way finish.
func Serve(ctx context.Context, listener net.Listener, handler http.Handler) error {
	server := &http.Server{
		Handler:           handler,
		ReadHeaderTimeout: 5 * time.Second,
		ReadTimeout:       20 * time.Second,
		WriteTimeout:      30 * time.Second,
		IdleTimeout:       2 * time.Minute,
		MaxHeaderBytes:    64 << 10,
		BaseContext: func(net.Listener) context.Context {
			return context.WithValue(context.WithoutCancel(ctx), stoppingKey{}, ctx.Done())
		},
	}
	ended := make(chan error, 1)
	go func() { ended <- server.Serve(listener) }()
	select {
	case err := <-ended:
		return err
	case <-ctx.Done():
	}
	graceful, cancel := context.WithTimeout(context.WithoutCancel(ctx), 10*time.Second)
	defer cancel()
	err := server.Shutdown(graceful)
	if serveErr := <-ended; !errors.Is(serveErr, http.ErrServerClosed) {
		err = errors.Join(err, serveErr)
	}
	return err
}
