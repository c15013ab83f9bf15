package server

import (
	"crypto/sha256"
	"encoding/base64"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/go-chi/chi/v5/middleware"
)

// named gives every answer the id that the log has of its request.
func named(next http.Handler) http.Handler {
	return middleware.RequestID(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("X-Request-Id", middleware.GetReqID(r.Context()))
		next.ServeHTTP(w, r)
	}))
}

// logged writes a line for every request that changed something, that was refused for where it
// came from or went to, that failed, or that was slow.
func logged(log *slog.Logger) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			start := time.Now()
			watched := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
			defer func() {
				took := time.Since(start)
				status := watched.Status()
				streamed := strings.HasPrefix(watched.Header().Get("Content-Type"), eventStream)
				var level slog.Level
				switch {
				case status >= 500, status == http.StatusForbidden, status == http.StatusMisdirectedRequest, status == http.StatusTooManyRequests, took > time.Second && !streamed:
					level = slog.LevelWarn
				case changes(r) && status < 400:
					level = slog.LevelInfo
				default:
					return
				}
				log.LogAttrs(r.Context(), level, "request",
					slog.String("id", middleware.GetReqID(r.Context())), slog.String("method", r.Method), slog.String("path", r.URL.Path),
					slog.String("host", r.Host), slog.String("client", clientOf(r)),
					slog.Int("status", status), slog.Int("bytes", watched.BytesWritten()), slog.Duration("took", took))
			}()
			next.ServeHTTP(watched, r)
		})
	}
}

// changes reports whether a request is meant to change what is kept: what is only asked about
// a document changes nothing.
func changes(r *http.Request) bool {
	switch r.Method {
	case http.MethodPut, http.MethodDelete, http.MethodPatch:
		return true
	case http.MethodPost:
		return strings.HasPrefix(r.URL.Path, "/api/jobs") || strings.HasPrefix(r.URL.Path, "/api/locker")
	}
	return false
}

// recovered turns a panic into a problem document that carries the id that the log has.
func recovered(log *slog.Logger) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			defer func() {
				caught := recover()
				if caught == nil {
					return
				}
				if err, ok := caught.(error); ok && errors.Is(err, http.ErrAbortHandler) {
					panic(caught) // it asks for the connection to be broken off
				}
				id := middleware.GetReqID(r.Context())
				log.LogAttrs(r.Context(), slog.LevelError, "panic", slog.String("id", id), slog.String("method", r.Method), slog.String("path", r.URL.Path),
					slog.String("what", fmt.Sprint(caught)), slog.String("stack", string(debug.Stack())))
				problem := problemOf(http.StatusInternalServerError, fmt.Sprintf("Something is wrong here, not with what you sent. It is in the log as request %s.", id))
				problem.Type = "urn:request:" + id
				writeProblem(w, problem)
			}()
			next.ServeHTTP(w, r)
		})
	}
}

// kept sets what may be kept of the API's answers: nothing, unless the answer says so itself.
func unkept(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "no-store")
		next.ServeHTTP(w, r)
	})
}

// tagged is a writer that holds an answer back until it is whole, to give it an entity tag of
// its content.
type tagged struct {
	http.ResponseWriter
	status int
	body   []byte
}

func (t *tagged) WriteHeader(status int) { t.status = status }

func (t *tagged) Write(data []byte) (int, error) {
	t.body = append(t.body, data...)
	return len(data), nil
}

// unchanged answers 304 to who has the answer already: by the tag that the answer carries, or
// by its content.
func unchanged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method != http.MethodGet {
			next.ServeHTTP(w, r)
			return
		}
		whole := &tagged{ResponseWriter: w, status: http.StatusOK}
		next.ServeHTTP(whole, r)
		h := w.Header()
		if whole.status == http.StatusOK {
			if h.Get("ETag") == "" {
				sum := sha256.Sum256(whole.body)
				h.Set("ETag", `"`+base64.RawURLEncoding.EncodeToString(sum[:12])+`"`)
			}
			if names(r.Header.Get("If-None-Match"), h.Get("ETag")) {
				h.Del("Content-Type")
				h.Del("Content-Length")
				w.WriteHeader(http.StatusNotModified)
				return
			}
		}
		w.WriteHeader(whole.status)
		_, _ = w.Write(whole.body)
	})
}

// names reports whether a list of entity tags names one, by weak comparison (RFC 9110, 13.1.2).
func names(list, tag string) bool {
	for _, one := range strings.Split(list, ",") {
		one = strings.TrimSpace(one)
		if one == "*" || tag != "" && strings.TrimPrefix(one, "W/") == strings.TrimPrefix(tag, "W/") {
			return true
		}
	}
	return false
}
