package assess

import (
	"fmt"
	"iter"
	"runtime"
	"runtime/debug"
	"sync"
	"sync/atomic"

	"elkstay/core/job"
	"elkstay/core/space"
)

// turn is one pick of the order worked out.
type turn struct {
	of      *Survey // nil: of no tree that is measured, and the rest is nothing
	now     *space.Standing
	out     *Outcome
	figures PickFigures
	failed  any // what broke off working it out, with where
}

// turns works the picks out in their order, taking each off the trees as they stand: side by side where several processors are and
// nothing is remembered from the last time. It ends early when nobody waits any more.
func (f *Forest) turns(trees space.Stand, remembers *Memory) iter.Seq2[int, turn] {
	if remembers == nil && runtime.GOMAXPROCS(0) > 1 && len(f.Job.Picks) > 1 {
		return f.sideBySide(trees)
	}
	return func(yield func(int, turn) bool) {
		for i := range f.Job.Picks {
			p := &f.Job.Picks[i]
			one := turn{of: f.Of(p)}
			if f.Cancelled() {
				return
			}
			if one.of != nil {
				one.now = one.of.Now(trees)
				one.out, one.figures = remembers.worked(one.of, p, i+1, one.now)
			}
			if !yield(i, one) {
				return
			}
			if one.of != nil {
				one.out.Off(one.now)
			}
		}
	}
}

// sideBySide is turns with every processor at it: how the trees stand before each pick is told by its cut alone.
func (f *Forest) sideBySide(trees space.Stand) iter.Seq2[int, turn] {
	picks := f.Job.Picks
	list, worked := make([]turn, len(picks)), make([]chan struct{}, len(picks))
	for i := range picks {
		worked[i] = make(chan struct{})
		if v := f.Of(&picks[i]); v != nil {
			list[i] = turn{of: v, now: v.Now(trees.Apart())}
			v.Take(&picks[i], i+1, v.Now(trees)).Off(v.Now(trees))
		}
	}
	for _, v := range f.Surveys {
		if v != nil {
			v.WeighBrush()
		}
	}
	return func(yield func(int, turn) bool) {
		var next atomic.Int64
		var workers sync.WaitGroup
		for range min(runtime.GOMAXPROCS(0), len(picks)) {
			workers.Go(func() {
				for i := int(next.Add(1)) - 1; i < len(picks); i = int(next.Add(1)) - 1 {
					if list[i].of != nil && !f.Cancelled() {
						list[i].workOut(&picks[i], i+1)
					}
					close(worked[i])
				}
			})
		}
		defer func() {
			next.Store(int64(len(picks)))
			workers.Wait()
		}()
		for i := range picks {
			<-worked[i]
			one := list[i]
			list[i] = turn{}
			if one.failed != nil {
				panic(one.failed) // here, where whoever asked can catch it
			}
			if f.Cancelled() || !yield(i, one) {
				return
			}
		}
	}
}

// workOut works a turn out; what breaks it off is kept with it.
func (t *turn) workOut(p *job.Pick, number int) {
	defer func() {
		if caught := recover(); caught != nil {
			t.failed = fmt.Sprintf("pick %d: %v\n%s", number, caught, debug.Stack())
		}
	}()
	t.out = t.of.work(p, number, t.now)
	t.figures = t.of.figures(t.out)
}
