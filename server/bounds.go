package server

import (
	"context"
	"errors"
	"fmt"
	"io"
	"mime"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"elkstay/sheet"
)

// A bound is what one operation may take and give; what it may hold in memory stands in needs.
type bound struct {
	body   int64         // of what is sent, bytes
	answer int64         // of what comes back, bytes
	time   time.Duration // from when its turn comes
	long   bool          // it waits its turn among the long sums
}

const (
	kB = 1 << 10
	mB = 1 << 20
)

// plain is the bound of an operation that has no row of its own.
var plain = bound{body: 64 * kB, answer: 4 * mB, time: 10 * time.Second}

// bounds has a row for every operation that takes more, or less, than plain ones do.
var bounds = map[string]bound{
	// A job document: 200 picks, 12 trees and their readings are a twentieth of it.
	"create-job":  {maxBody, 4 * mB, 10 * time.Second, false},
	"save-job":    {maxBody, 8 * mB, 10 * time.Second, false},
	"merge":       {3 * maxBody, 8 * mB, 10 * time.Second, true},
	"assess":      {maxBody, 8 * mB, longTime, true},
	"simulate":    {maxBody, 8 * mB, longTime, true},
	"propose":     {maxBody, 8 * mB, longTime, true},
	"rose":        {maxBody, mB, longTime, true},
	"trees":       {maxBody, 8 * mB, longTime, true},
	"ground":      {maxBody, 8 * mB, longTime, true},
	"ask":         {maxBody, mB, longTime, true},
	"hold":        {256 * kB, 16 * mB, longTime, true},
	"layout":      {256 * kB, mB, 5 * time.Second, false},
	"into-job":    {256 * kB, mB, longTime, true},
	"sweep":       {256 * kB, mB, longTime, true},
	"resolve":     {maxBody, 4 * mB, 10 * time.Second, false},
	"brief":       {maxBody, 4 * mB, longTime, true},
	"job-figures": {0, 8 * mB, longTime, true},
	"read-chart":  {mB, 4 * mB, 10 * time.Second, false},

	"try-policy":     {256 * kB, 8 * mB, longTime, true},
	"import-locker":  {sheet.MaxBytes, 8 * mB, longTime, true},
	"export-locker":  {0, 32 * mB, longTime, true},
	"save-item":      {512 * kB, mB, 10 * time.Second, false},
	"keep-photo":     {maxPhoto, 64 * kB, 20 * time.Second, true},
	"get-photo":      {0, maxPhoto, 20 * time.Second, false},
	"briefing-pdf":   {0, 16 * mB, longTime, true},
	"list-briefings": {0, 4 * mB, longTime, true},
	"make-briefing":  {kB, mB, longTime, true},
	"tree-svg":       {0, 4 * mB, longTime, true},
	"site-svg":       {0, 4 * mB, longTime, true},
	"site-geojson":   {0, 4 * mB, longTime, true},
	"site-json":      {0, 4 * mB, longTime, true},
	"site-dxf":       {0, 4 * mB, longTime, true},
	"read-plan":      {maxBody + maxPlan, 8 * mB, longTime, true},
	"picks-csv":      {0, 4 * mB, longTime, true},
	"waste-csv":      {0, 4 * mB, longTime, true},
	"picks-xlsx":     {0, 4 * mB, longTime, true},

	"calc-section":  {256 * kB, 4 * mB, longTime, true},
	"calc-drop-sim": {256 * kB, 8 * mB, longTime, true},
}

// needs is how much memory one request of an operation is taken to hold at once, bytes, where that is
// more than what is sent, unpacked, and what is given: a measured high water with room to it.
var needs = map[string]int64{
	"create-job": 48 * mB, "save-job": 64 * mB, "merge": 128 * mB, "assess": 64 * mB, "simulate": 64 * mB, "propose": 96 * mB,
	"rose": 64 * mB, "trees": 96 * mB, "ground": 64 * mB, "ask": 64 * mB, "hold": 64 * mB, "job-figures": 64 * mB, "sweep": 32 * mB, "resolve": 48 * mB, "brief": 64 * mB,
	"try-policy": 96 * mB, "import-locker": 200 * mB, "export-locker": 96 * mB, "keep-photo": 160 * mB,
	"briefing-pdf": 96 * mB, "make-briefing": 64 * mB, "tree-svg": 48 * mB, "site-svg": 48 * mB, "picks-csv": 48 * mB, "waste-csv": 48 * mB, "picks-xlsx": 64 * mB, "site-geojson": 48 * mB, "site-json": 48 * mB, "site-dxf": 48 * mB, "read-plan": 160 * mB,
}

// memoryOf is how much memory a request of an operation may hold at once, bytes.
func memoryOf(operation string) int64 {
	if most, ok := needs[operation]; ok {
		return most
	}
	one := boundOf(operation)
	return 8*one.body + min(one.answer, mB)
}

// inMemory is what all requests together may hold at once, bytes: what finds no room waits for it.
const inMemory = 768 * mB

// longTime bounds a long sum.
const longTime = 15 * time.Second

// boundOf is the bound of an operation.
func boundOf(operation string) bound {
	if one, ok := bounds[operation]; ok {
		return one
	}
	if strings.HasPrefix(operation, "calc-") {
		return bound{256 * kB, 4 * mB, 5 * time.Second, false}
	}
	return plain
}

// within holds every operation to its bound: time from when its turn comes, and what is sent
// is of a media type that it takes.
func within(turns *queue) func(huma.Context, func(huma.Context)) {
	refuse := func(ctx huma.Context, status int, format string, args ...any) {
		_, w := humachi.Unwrap(ctx)
		writeProblem(w, problemOf(status, fmt.Sprintf(format, args...)))
	}
	return func(ctx huma.Context, next func(huma.Context)) {
		op := ctx.Operation()
		one := boundOf(op.OperationID)
		r, w := humachi.Unwrap(ctx)
		if op.RequestBody != nil && !takes(op, r) {
			refuse(ctx, http.StatusUnsupportedMediaType, "What is sent must be of type %s.", strings.Join(mediaTypes(op), " or "))
			return
		}
		if r.ContentLength > one.body {
			refuse(ctx, http.StatusRequestEntityTooLarge, "What is sent has %d bytes; at most %d are taken here.", r.ContentLength, one.body)
			return
		}
		if one.long {
			done, err := turns.enter(r.Context(), clientOf(r))
			if err != nil {
				if errors.Is(err, errBusy) {
					w.Header().Set("Retry-After", "5")
					refuse(ctx, http.StatusTooManyRequests, "Too many long sums are waiting: ask again in a few seconds.")
				}
				return // else nobody waits for it any more
			}
			defer done()
		}
		timed, cancel := context.WithTimeout(r.Context(), one.time)
		defer cancel()
		memory := memoryOf(op.OperationID)
		if err := turns.memory.Acquire(timed, memory); err != nil {
			if r.Context().Err() == nil {
				w.Header().Set("Retry-After", "5")
				refuse(ctx, http.StatusServiceUnavailable, "There is no memory for this now: ask again in a few seconds.")
			}
			return
		}
		defer turns.memory.Release(memory)
		left := one.answer
		next(boundedAnswer{huma.WithContext(ctx, timed), &left})
	}
}

// boundedAnswer breaks an answer off that grows beyond its operation's bound: the connection
// ends, so that nobody takes the part of it for the whole.
type boundedAnswer struct {
	asked
	left *int64
}

// asked is a request and its answer: by this name, because one of its methods is Context.
type asked = huma.Context

// BodyWriter writes until the bound.
func (b boundedAnswer) BodyWriter() io.Writer { return boundedWriter{b.asked.BodyWriter(), b.left} }

type boundedWriter struct {
	io.Writer
	left *int64
}

func (b boundedWriter) Write(data []byte) (int, error) {
	if *b.left -= int64(len(data)); *b.left < 0 {
		panic(http.ErrAbortHandler)
	}
	return b.Writer.Write(data)
}

// mediaTypes are what an operation takes.
func mediaTypes(op *huma.Operation) (list []string) {
	for name := range op.RequestBody.Content {
		list = append(list, name)
	}
	return list
}

// takes reports whether what is sent is of a type that the operation takes, or of none said.
func takes(op *huma.Operation, r *http.Request) bool {
	if r.ContentLength == 0 || r.Header.Get("Content-Type") == "" {
		return true
	}
	sent, _, err := mime.ParseMediaType(r.Header.Get("Content-Type"))
	if err != nil {
		return false
	}
	for _, name := range mediaTypes(op) {
		if name == sent || name == "application/octet-stream" {
			return true
		}
	}
	return false
}
