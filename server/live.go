package server

import (
	"context"
	"fmt"
	"net/http"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/google/uuid"

	"elkstay/store"
)

// live passes on what the database says of saves to every page that has the job open.
// One connection listens for all of them, while there are any.
type live struct {
	store *store.Store
	mu    sync.Mutex
	pages map[chan store.Moved]uuid.UUID
	stop  context.CancelFunc // of the listening; nil: nobody listens
}

// eventStream is the media type of an answer that does not end.
const eventStream = "text/event-stream"

// Distances in time of the live stream.
const (
	beat        = 15 * time.Second // of a sign of life, so that a dead line is noticed
	listenAgain = 500 * time.Millisecond
	sendWithin  = 5 * time.Second
)

func (l *live) join(id uuid.UUID) chan store.Moved {
	l.mu.Lock()
	defer l.mu.Unlock()
	page := make(chan store.Moved, 8)
	l.pages[page] = id
	if l.stop == nil {
		var ctx context.Context
		ctx, l.stop = context.WithCancel(context.Background())
		go l.listen(ctx)
	}
	return page
}

// count is how many pages listen.
func (l *live) count() int {
	l.mu.Lock()
	defer l.mu.Unlock()
	return len(l.pages)
}

func (l *live) leave(page chan store.Moved) {
	l.mu.Lock()
	defer l.mu.Unlock()
	delete(l.pages, page)
	if len(l.pages) == 0 && l.stop != nil {
		l.stop()
		l.stop = nil
	}
}

// listen listens until ctx ends, and again when the connection breaks.
func (l *live) listen(ctx context.Context) {
	for ctx.Err() == nil {
		_ = l.store.Watch(ctx, func() { l.tell(store.Moved{}) }, l.tell)
		select {
		case <-ctx.Done():
		case <-time.After(listenAgain):
		}
	}
}

// tell passes a move on; one without an id is for everybody: look it up.
func (l *live) tell(moved store.Moved) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for page, id := range l.pages {
		if moved.ID != uuid.Nil && moved.ID != id {
			continue
		}
		select {
		case page <- moved:
		default: // a page that does not keep up hears the next one
		}
	}
}

// stoppingKey carries the channel that closes when the server is asked to stop.
type stoppingKey struct{}

// ServeHTTP streams the moves of one job as server-sent events: the newest revision at
// once, then each as it is made; and those of the crew's gear and rules.
func (l *live) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if r.Method != http.MethodGet {
		w.Header().Set("Allow", http.MethodGet)
		writeProblem(w, problemOf(http.StatusMethodNotAllowed, "The live stream is only read."))
		return
	}
	id, err := uuid.Parse(chi.URLParam(r, "id"))
	if err != nil || l.store == nil {
		writeProblem(w, noSuchAddress(r))
		return
	}
	page := l.join(id)
	defer l.leave(page)
	control := http.NewResponseController(w)
	_ = control.SetReadDeadline(time.Time{})
	newest := func() (store.Moved, bool) {
		job, err := l.store.Job(r.Context(), id)
		return store.Moved{ID: id, Revision: job.Revision, Deleted: job.Deleted}, err == nil
	}
	moved, ok := newest()
	if !ok {
		writeProblem(w, problemOf(http.StatusNotFound, "There is no such job."))
		return
	}
	w.Header().Set("Content-Type", eventStream)
	w.Header().Set("Cache-Control", "no-store")
	send := func(text string) bool {
		_ = control.SetWriteDeadline(time.Now().Add(sendWithin))
		_, err := fmt.Fprint(w, text)
		return err == nil && control.Flush() == nil
	}
	event := func(m store.Moved) bool {
		return send(fmt.Sprintf("event: moved\ndata: {\"revision\":%d,\"deleted\":%t}\n\n", m.Revision, m.Deleted))
	}
	if !event(moved) {
		return
	}
	stopping, _ := r.Context().Value(stoppingKey{}).(<-chan struct{})
	ticks := time.NewTicker(beat)
	defer ticks.Stop()
	for {
		select {
		case <-r.Context().Done():
			return
		case <-stopping:
			return
		case <-ticks.C:
			if !send(": still here\n\n") {
				return
			}
		case moved := <-page:
			if moved.Crew > 0 {
				if !send(fmt.Sprintf("event: crew\ndata: {\"revision\":%d}\n\n", moved.Crew)) {
					return
				}
				continue
			}
			if moved.ID == uuid.Nil {
				if moved, ok = newest(); !ok {
					continue
				}
			}
			if !event(moved) {
				return
			}
		}
	}
}
