package server

import (
	"context"
	"errors"
	"net"
	"net/http"
	"runtime"
	"slices"
	"sync"

	"golang.org/x/sync/semaphore"
)

// queue lets long sums run a few at a time, client by client in turn, so that who asks for
// many does not keep the rest waiting, and what is quick stays quick.
type queue struct {
	slots     int // that run at once
	each, all int // that one client, and everybody together, may have waiting
	memory    *semaphore.Weighted
	mu        sync.Mutex
	running   int
	waiting   map[string][]chan struct{}
	turn      []string // clients that wait, the next first
	count     int
}

// How many long sums may wait.
const (
	waitingEach = 32
	waitingAll  = 256
)

// errBusy says that too many long sums wait already.
var errBusy = errors.New("server: too many long sums are waiting")

// newQueue leaves a core to all that is not long.
func newQueue() *queue {
	return &queue{slots: max(1, runtime.NumCPU()-1), each: waitingEach, all: waitingAll, memory: semaphore.NewWeighted(inMemory), waiting: map[string][]chan struct{}{}}
}

// enter waits for a client's turn; done must be called when the sum has ended. The error is
// errBusy, or that of ctx.
func (q *queue) enter(ctx context.Context, client string) (done func(), err error) {
	q.mu.Lock()
	if q.running < q.slots && q.count == 0 {
		q.running++
		q.mu.Unlock()
		return q.next, nil
	}
	if len(q.waiting[client]) >= q.each || q.count >= q.all {
		q.mu.Unlock()
		return nil, errBusy
	}
	mine := make(chan struct{})
	if len(q.waiting[client]) == 0 {
		q.turn = append(q.turn, client)
	}
	q.waiting[client] = append(q.waiting[client], mine)
	q.count++
	q.mu.Unlock()
	select {
	case <-mine:
		return q.next, nil
	case <-ctx.Done():
	}
	q.mu.Lock()
	defer q.mu.Unlock()
	for i, one := range q.waiting[client] {
		if one == mine {
			q.drop(client, i)
			return nil, ctx.Err()
		}
	}
	// Its turn came at the same moment: pass it on.
	q.pass()
	return nil, ctx.Err()
}

// standing is how many long sums run and wait.
func (q *queue) standing() (running, waiting int) {
	q.mu.Lock()
	defer q.mu.Unlock()
	return q.running, q.count
}

// next ends a sum and lets the next run.
func (q *queue) next() {
	q.mu.Lock()
	defer q.mu.Unlock()
	q.pass()
}

// pass gives the slot of a sum that has ended to the client whose turn it is.
func (q *queue) pass() {
	if len(q.turn) == 0 {
		q.running--
		return
	}
	client := q.turn[0]
	q.turn = q.turn[1:]
	mine := q.waiting[client][0]
	if len(q.waiting[client]) > 1 {
		q.turn = append(q.turn, client)
		q.waiting[client] = q.waiting[client][1:]
	} else {
		delete(q.waiting, client)
	}
	q.count--
	close(mine)
}

// drop takes a sum that nobody waits for any more out of the queue.
func (q *queue) drop(client string, i int) {
	list := slices.Concat(q.waiting[client][:i], q.waiting[client][i+1:])
	q.count--
	if len(list) > 0 {
		q.waiting[client] = list
		return
	}
	delete(q.waiting, client)
	for k, one := range q.turn {
		if one == client {
			q.turn = append(q.turn[:k:k], q.turn[k+1:]...)
			return
		}
	}
}

// clientOf is who asks: the address the connection comes from.
func clientOf(r *http.Request) string {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}
