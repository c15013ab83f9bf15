package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"reflect"
	"sync"
	"testing"
	"time"

	"github.com/google/uuid"
	"github.com/jackc/pgx/v5"

	"elkstay/store/storetest"
)

var databaseURL string

func TestMain(m *testing.M) { os.Exit(storetest.Main(m, &databaseURL)) }

func open(t *testing.T) *Store {
	t.Helper()
	s, err := Open(t.Context(), databaseURL)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	return s
}

func named(name string) []byte { return fmt.Appendf(nil, `{"name": %q, "n": 0.1}`, name) }

func same(t *testing.T, got, want []byte) {
	t.Helper()
	var a, b any
	if json.Unmarshal(got, &a) != nil || json.Unmarshal(want, &b) != nil || !reflect.DeepEqual(a, b) {
		t.Errorf("got %s, want %s", got, want)
	}
}

func TestEachSaveIsARevisionOfItsOwn(t *testing.T) {
	s, id := open(t), uuid.New()
	if _, made, err := s.Create(t.Context(), id, named("one"), "first"); err != nil || !made {
		t.Fatal(made, err)
	}
	for i, name := range []string{"two", "three"} {
		saved, err := s.Save(t.Context(), id, i+1, uuid.New(), named(name), "")
		if err != nil || saved.Number != i+2 {
			t.Fatalf("save %d: %+v, %v", i, saved, err)
		}
	}
	head, err := s.Job(t.Context(), id)
	if err != nil || head.Revision != 3 {
		t.Fatalf("%+v, %v", head, err)
	}
	same(t, head.Document, named("three"))
	list, _, err := s.Revisions(t.Context(), id, 0, 100)
	if err != nil || len(list) != 3 || list[0].Number != 3 || list[0].BasedOn != 2 || list[2].BasedOn != 0 {
		t.Fatalf("%+v, %v", list, err)
	}
	first, err := s.Revision(t.Context(), id, 1)
	if err != nil {
		t.Fatal(err)
	}
	same(t, first.Document, named("one"))
	if _, err := s.Revision(t.Context(), id, 9); !errors.Is(err, ErrNotFound) {
		t.Errorf("revision 9: %v", err)
	}
}

func TestCreatingTwiceKeepsTheFirst(t *testing.T) {
	s, id := open(t), uuid.New()
	for i := range 2 {
		if _, made, err := s.Create(t.Context(), id, named("first"), ""); err != nil || made != (i == 0) {
			t.Fatal(made, err)
		}
	}
	head, err := s.Job(t.Context(), id)
	if err != nil || head.Revision != 1 {
		t.Fatalf("%+v, %v", head, err)
	}
	same(t, head.Document, named("first"))
}

func TestAStaleBaseIsRefusedWithTheNewest(t *testing.T) {
	s, id := open(t), uuid.New()
	if _, _, err := s.Create(t.Context(), id, named("one"), ""); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Save(t.Context(), id, 1, uuid.New(), named("theirs"), ""); err != nil {
		t.Fatal(err)
	}
	_, err := s.Save(t.Context(), id, 1, uuid.New(), named("mine"), "")
	var stale *StaleError
	if !errors.As(err, &stale) || stale.Base != 1 || stale.Current.Revision != 2 {
		t.Fatalf("got %v", err)
	}
	same(t, stale.Current.Document, named("theirs"))
}

// A save whose answer was lost is sent again with its key: it is kept once, even
// when another save has followed.
func TestARepeatedSaveIsKeptOnce(t *testing.T) {
	s, id, key := open(t), uuid.New(), uuid.New()
	if _, _, err := s.Create(t.Context(), id, named("one"), ""); err != nil {
		t.Fatal(err)
	}
	first, err := s.Save(t.Context(), id, 1, key, named("two"), "")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.Save(t.Context(), id, 2, uuid.New(), named("three"), ""); err != nil {
		t.Fatal(err)
	}
	again, err := s.Save(t.Context(), id, 1, key, named("two"), "")
	if err != nil || again.Number != first.Number {
		t.Errorf("again: %+v, %v", again, err)
	}
	if list, _, err := s.Revisions(t.Context(), id, 0, 100); err != nil || len(list) != 3 {
		t.Errorf("%d revisions, %v", len(list), err)
	}
	if _, err := s.Save(t.Context(), id, 3, key, named("something else"), ""); !errors.Is(err, ErrReused) {
		t.Errorf("another document under a key that was used: %v", err)
	}
	if _, _, err := s.Create(t.Context(), id, named("something else"), ""); !errors.Is(err, ErrReused) {
		t.Errorf("another new job under an id that was used: %v", err)
	}
}

func TestOfManySaversFromOneBaseOneWins(t *testing.T) {
	s, id := open(t), uuid.New()
	if _, _, err := s.Create(t.Context(), id, named("base"), ""); err != nil {
		t.Fatal(err)
	}
	var group sync.WaitGroup
	var lock sync.Mutex
	won, lost := 0, 0
	for i := range 20 {
		group.Go(func() {
			_, err := s.Save(context.Background(), id, 1, uuid.New(), named(fmt.Sprint(i)), "")
			lock.Lock()
			defer lock.Unlock()
			var stale *StaleError
			switch {
			case err == nil:
				won++
			case errors.As(err, &stale):
				lost++
			default:
				t.Error(err)
			}
		})
	}
	group.Wait()
	if won != 1 || lost != 19 {
		t.Errorf("%d won, %d lost", won, lost)
	}
}

func TestDeleteTakesOffTheListAndRestoreBringsBack(t *testing.T) {
	s, id := open(t), uuid.New()
	if _, _, err := s.Create(t.Context(), id, named("gone"), ""); err != nil {
		t.Fatal(err)
	}
	listed := func() bool {
		list, _, _, err := s.Jobs(t.Context(), "gone", Place{}, 1000)
		if err != nil {
			t.Fatal(err)
		}
		for _, row := range list {
			if row.ID == id {
				return row.Name == "gone" && row.Revision == 1
			}
		}
		return false
	}
	if !listed() {
		t.Error("a new job is not listed")
	}
	if err := s.Delete(t.Context(), id); err != nil || listed() {
		t.Errorf("deleted: %v, listed %v", err, listed())
	}
	if err := s.Delete(t.Context(), id); !errors.Is(err, ErrNotFound) {
		t.Errorf("deleted twice: %v", err)
	}
	if _, err := s.Save(t.Context(), id, 1, uuid.New(), named("x"), ""); !errors.Is(err, ErrNotFound) {
		t.Errorf("saved while deleted: %v", err)
	}
	if err := s.Restore(t.Context(), id); err != nil || !listed() {
		t.Errorf("restored: %v, listed %v", err, listed())
	}
	if err := s.Restore(t.Context(), uuid.New()); !errors.Is(err, ErrNotFound) {
		t.Errorf("restored what never was: %v", err)
	}
}

// The database itself refuses to change a revision.
func TestRevisionsAreImmutable(t *testing.T) {
	s, id := open(t), uuid.New()
	if _, _, err := s.Create(t.Context(), id, named("kept"), ""); err != nil {
		t.Fatal(err)
	}
	connection, err := pgx.Connect(t.Context(), databaseURL)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = connection.Close(context.Background()) }()
	for _, statement := range []string{
		"update revision set document = '{}' where job_id = $1", "delete from revision where job_id = $1",
	} {
		if _, err := connection.Exec(t.Context(), statement, id); err == nil {
			t.Errorf("%s went through", statement)
		}
	}
}

// Several servers open one database at once, and each finds it ready.
func TestOpeningAtOnce(t *testing.T) {
	connection, err := pgx.Connect(t.Context(), storetest.Owner)
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = connection.Close(context.Background()) }()
	if _, err := connection.Exec(t.Context(), "create database fresh"); err != nil {
		t.Fatal(err)
	}
	config, err := pgx.ParseConfig(storetest.Owner)
	if err != nil {
		t.Fatal(err)
	}
	fresh := fmt.Sprintf("postgres://%s:%s@%s:%d/fresh?sslmode=disable", config.User, config.Password, config.Host, config.Port)
	var group sync.WaitGroup
	for range 4 {
		group.Go(func() {
			s, err := Open(context.Background(), fresh)
			if err != nil {
				t.Error(err)
				return
			}
			defer s.Close()
			if _, _, _, err := s.Jobs(context.Background(), "", Place{}, 10); err != nil {
				t.Error(err)
			}
		})
	}
	group.Wait()
}

// Who watches hears of every move of every job once it listens, and of nothing else.
func TestWatch(t *testing.T) {
	s := open(t)
	ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
	defer cancel()
	ready, moved := make(chan struct{}), make(chan Moved, 10)
	ended := make(chan error, 1)
	go func() { ended <- s.Watch(ctx, func() { close(ready) }, func(m Moved) { moved <- m }) }()
	select {
	case <-ready:
	case err := <-ended:
		t.Fatal(err)
	}
	id := uuid.New()
	if _, _, err := s.Create(ctx, id, []byte(`{"name":"watched"}`), ""); err != nil {
		t.Fatal(err)
	}
	if _, err := s.Save(ctx, id, 1, uuid.New(), []byte(`{"name":"moved"}`), ""); err != nil {
		t.Fatal(err)
	}
	if err := s.Delete(ctx, id); err != nil {
		t.Fatal(err)
	}
	if err := s.Restore(ctx, id); err != nil {
		t.Fatal(err)
	}
	for _, want := range []Moved{{ID: id, Revision: 2}, {ID: id, Revision: 2, Deleted: true}, {ID: id, Revision: 2}} {
		for {
			got := <-moved
			if got.ID != id {
				continue // another test's job
			}
			if got != want {
				t.Errorf("heard %+v, want %+v", got, want)
			}
			break
		}
	}
	cancel()
	if err := <-ended; err == nil || ctx.Err() == nil {
		t.Errorf("it ends with %v", err)
	}
}

// A picture under an id that another has is refused, and not said to be kept.
func TestAPictureUnderATakenID(t *testing.T) {
	s, job, other, photo := open(t), uuid.New(), uuid.New(), uuid.New()
	for _, id := range []uuid.UUID{job, other} {
		if _, _, err := s.Create(t.Context(), id, named("pictures"), ""); err != nil {
			t.Fatal(err)
		}
	}
	keep := func(job uuid.UUID, picture string) error {
		return s.KeepPhoto(t.Context(), job, Photo{ID: photo, MediaType: "image/png", Width: 1, Height: 1, Picture: []byte(picture)})
	}
	if err := errors.Join(keep(job, "one"), keep(job, "one")); err != nil {
		t.Errorf("kept twice: %v", err)
	}
	for what, err := range map[string]error{"another picture": keep(job, "two"), "another job": keep(other, "one")} {
		if !errors.Is(err, ErrTaken) {
			t.Errorf("%s under its id: %v", what, err)
		}
	}
	if err := s.DeletePhoto(t.Context(), job, photo); err != nil {
		t.Fatal(err)
	}
	if err := keep(job, "one"); !errors.Is(err, ErrTaken) {
		t.Errorf("under the id of one that was deleted: %v", err)
	}
}
