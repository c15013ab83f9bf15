package store

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/google/uuid"
)

// A list is read page by page to its end: each row once, the newest first, the total told, the
// search holding; and revisions likewise.
func TestListsArePaged(t *testing.T) {
	s := open(t)
	mark := uuid.NewString()[:8]
	want := []uuid.UUID{}
	for i := range 7 {
		id := uuid.New()
		if _, _, err := s.Create(t.Context(), id, named(fmt.Sprintf("%s 100%%_ %d", strings.ToUpper(mark), i)), ""); err != nil {
			t.Fatal(err)
		}
		want = append([]uuid.UUID{id}, want...)
	}
	read := func(ask func(context.Context, string, Place, int) ([]Listed, *Place, int, error), most int) (ids []uuid.UUID) {
		for after, pages := (Place{}), 0; ; pages++ {
			list, next, total, err := ask(t.Context(), mark+" 100%_", after, most)
			if err != nil || total != len(want) || len(list) > most || pages > 10 {
				t.Fatalf("page %d: %d rows of %d, %v", pages, len(list), total, err)
			}
			for _, row := range list {
				ids = append(ids, row.ID)
			}
			if next == nil {
				return ids
			}
			after = *next
		}
	}
	for _, most := range []int{1, 3, 7, 100} {
		if got := read(s.Jobs, most); !slices.Equal(got, want) {
			t.Errorf("%d at once: %v, want %v", most, got, want)
		}
	}
	if list, _, total, err := s.Jobs(t.Context(), mark+" 100%__", Place{}, 10); err != nil || total != 0 || len(list) != 0 {
		t.Errorf("signs of a pattern are looked for as they are: %d, %v", total, err)
	}
	for _, id := range slices.Backward(want) {
		if err := s.Delete(t.Context(), id); err != nil {
			t.Fatal(err)
		}
	}
	if got := read(s.Binned, 2); !slices.Equal(got, want) {
		t.Errorf("deleted, the last first: %v, want %v", got, want)
	}
	id := want[0]
	if err := s.Restore(t.Context(), id); err != nil {
		t.Fatal(err)
	}
	for i := range 5 {
		if _, err := s.Save(t.Context(), id, i+1, uuid.New(), named("saved"), ""); err != nil {
			t.Fatal(err)
		}
	}
	numbers := []int{}
	for below, more := 0, true; more; {
		list, goesOn, err := s.Revisions(t.Context(), id, below, 4)
		if err != nil {
			t.Fatal(err)
		}
		for _, r := range list {
			numbers = append(numbers, r.Number)
		}
		below, more = list[len(list)-1].Number, goesOn
	}
	if !slices.Equal(numbers, []int{6, 5, 4, 3, 2, 1}) {
		t.Errorf("revisions %v", numbers)
	}
}

// Equal new jobs at the same moment make one, and nobody is told otherwise.
func TestEqualCreatesAtOnce(t *testing.T) {
	s, id := open(t), uuid.New()
	made := make(chan bool, 16)
	var group sync.WaitGroup
	for range 16 {
		group.Go(func() {
			_, one, err := s.Create(t.Context(), id, named("raced"), "")
			if err != nil {
				t.Error(err)
			}
			made <- one
		})
	}
	group.Wait()
	close(made)
	count := 0
	for one := range made {
		if one {
			count++
		}
	}
	if count != 1 {
		t.Errorf("made %d times", count)
	}
}

// By name whatever its case, and by the day of the work with those without one last, page by page.
func TestJobsAreListedByNameAndByDay(t *testing.T) {
	s := open(t)
	for i, one := range []struct{ name, day string }{{"beech", "2026-05-02"}, {"Ash", ""}, {"ash", "2026-04-01"}, {"Willow", "2026-04-30"}, {"alder", ""}} {
		document := fmt.Sprintf(`{"format":"elkstay-job","version":4,"name":%q,"work_on":%q}`, "qzsort "+one.name, one.day)
		if _, _, err := s.Create(t.Context(), uuid.UUID{0: 0x51, 15: byte(i + 1)}, []byte(document), ""); err != nil {
			t.Fatal(err)
		}
	}
	walk := func(order, search string) (names []string) {
		after := Key{}
		for {
			page, next, total, err := s.JobsBy(t.Context(), order, "qzsort "+search, after, 2)
			if err != nil {
				t.Fatal(err)
			}
			if want := map[string]int{"": 5, "as": 2}[search]; total != want {
				t.Errorf("%s %q: %d of %d", order, search, total, want)
			}
			for _, one := range page {
				names = append(names, strings.TrimPrefix(one.Name, "qzsort "))
			}
			if next == nil {
				return names
			}
			after = *next
		}
	}
	for _, c := range []struct {
		order, search string
		want          []string
	}{
		{ByName, "", []string{"alder", "Ash", "ash", "beech", "Willow"}},
		{ByDay, "", []string{"ash", "Willow", "beech", "Ash", "alder"}},
		{ByDay, "as", []string{"ash", "Ash"}},
	} {
		if got := walk(c.order, c.search); !slices.Equal(got, c.want) {
			t.Errorf("%s %q: %v, want %v", c.order, c.search, got, c.want)
		}
	}
	// A save moves it.
	if _, err := s.Save(t.Context(), uuid.UUID{0: 0x51, 15: 5}, 1, uuid.New(), []byte(`{"format":"elkstay-job","version":4,"name":"qzsort Zelkova","work_on":"2026-01-01"}`), ""); err != nil {
		t.Fatal(err)
	}
	if got := walk(ByDay, "")[0]; got != "Zelkova" {
		t.Errorf("the next day's work is %s", got)
	}
}
