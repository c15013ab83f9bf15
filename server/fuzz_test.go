package server

import (
	"context"
	"io/fs"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"elkstay/store"
)

// FuzzDoors knocks at any address in any way: nothing of the server's own work breaks, and no
// answer tells of the database.
func FuzzDoors(f *testing.F) {
	for _, seed := range [][4]string{
		{"GET", "/api/jobs?search=%00", "", ""}, {"GET", "/api/jobs/7e57a9e0-0001-4c1b-9d4e-7e5109ab0001/live", "", ""}, {"PUT", "/api/policy", `"1"`, "{}"},
		{"POST", "/api/jobs/x/photos/y", "image/png", "\x89PNG"}, {"PUT", "/api/locker/items/a%2fb", `"0"`, `{"id":"a/b","kind":"rope","name":"x"}`}, {"DELETE", "/api/jobs/..%2f", "", ""},
		{"POST", "/api/locker/import?apply=true", `"0"`, "kind,name\nrope,x"}, {"POST", "/api/merge", "", `{"base":1}`}, {"GET", "/%ff", "", ""}, {"PATCH", "/api", "*", "\x00"},
	} {
		f.Add(seed[0], seed[1], seed[2], seed[3])
	}
	kept, err := store.Open(context.Background(), databaseURL)
	if err != nil {
		f.Fatal(err)
	}
	f.Cleanup(kept.Close)
	handler, _, err := New(Options{Store: kept, Web: fs.ReadDirFS(page), Log: slog.New(slog.DiscardHandler)})
	if err != nil {
		f.Fatal(err)
	}
	f.Fuzz(func(t *testing.T, method, path, header, body string) {
		request, err := http.NewRequestWithContext(t.Context(), method, "http://localhost/", strings.NewReader(body))
		if err != nil {
			return // no such method
		}
		address, err := request.URL.Parse("/" + strings.TrimPrefix(path, "/"))
		if err != nil {
			return // no such address
		}
		request.URL = address
		ctx, cancel := context.WithTimeout(t.Context(), 3*time.Second)
		defer cancel()
		if strings.HasSuffix(address.Path, "/live") {
			// It does not end by itself.
			cancel()
		}
		request = request.WithContext(ctx)
		request.Header["If-Match"], request.Header["Content-Type"], request.Header["Idempotency-Key"], request.Header["If-None-Match"] = []string{header}, []string{"application/json"}, []string{header}, []string{header}
		answer := httptest.NewRecorder()
		handler.ServeHTTP(answer, request)
		if answer.Code == http.StatusInternalServerError || strings.Contains(answer.Body.String(), "SQLSTATE") {
			t.Errorf("%s %q: %d %s", method, path, answer.Code, answer.Body)
		}
	})
}
