package store

import (
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"testing"
	"time"

	"github.com/google/uuid"

	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/locker"
	"elkstay/core/policy"
)

func of(v float64) *float64 { return &v }

// full is an item with everything that an item can have.
func full() locker.Item {
	return locker.Item{
		ID: uuid.NewString(), Kind: locker.Rope, Name: "made-up line", Serial: "X-1", Rating: gear.Rating{MarkedKn: of(16), BreakingKn: of(80)},
		DiameterM: of(0.016), LengthM: of(60), Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 1.9}, {LoadPct: 20, StrainPct: 3}},
		DynamicFactor: of(1.25), Conditions: []string{"aged"}, InService: "2024-02-29", SetAside: &locker.SetAside{On: "2026-01-02", Why: "cut strand", Retired: true},
		Inspections: []locker.Inspection{{On: "2025-01-02", By: "first", Result: locker.Pass, NextDue: "2025-07-02"}, {On: "2025-07-01", By: "second", Result: locker.Fail, Note: "cut"}},
		Note:        "as found",
	}
}

func TestItemsComeBackWhole(t *testing.T) {
	s := open(t)
	item := full()
	kept, err := s.SaveItem(t.Context(), item, 0)
	if err != nil || kept.Revision != 1 || !reflect.DeepEqual(kept.Item, item) {
		t.Fatalf("%v\nkept %+v\nsent %+v", err, kept.Item, item)
	}
	if _, err := s.SaveItem(t.Context(), item, 0); !errors.Is(err, ErrMoved) {
		t.Errorf("made twice: %v", err)
	}
	less := locker.Item{ID: item.ID, Kind: locker.Crane, Name: "now a crane", RiggingKg: of(0), Chart: []crane.ChartRow{{RadiusM: 6, BoomM: 20, CapacityKg: 3000}}}
	kept, err = s.SaveItem(t.Context(), less, 1)
	if err != nil || kept.Revision != 2 || !reflect.DeepEqual(kept.Item, less) {
		t.Errorf("%v: what was there before is still on it: %+v", err, kept.Item)
	}
}

func TestAVehicleComesBackWhole(t *testing.T) {
	s := open(t)
	vehicle := locker.Item{ID: "v", Kind: locker.Vehicle, Name: "tipper", LengthM: of(3), MassKg: of(2000), PayloadKg: of(1000), VolumeM3: of(5), Grip: of(0.4), WinchKn: of(12)}
	if kept, err := s.SaveItem(t.Context(), vehicle, 0); err != nil || !reflect.DeepEqual(kept.Item, vehicle) {
		t.Errorf("%v: %+v", err, kept.Item)
	}
	bare := locker.Item{ID: "v", Kind: locker.Vehicle, Name: "tipper"}
	if kept, err := s.SaveItem(t.Context(), bare, 1); err != nil || !reflect.DeepEqual(kept.Item, bare) {
		t.Errorf("%v: what was there before is still on it: %+v", err, kept.Item)
	}
}

func TestAnImportIsAllOrNothing(t *testing.T) {
	s := open(t)
	_, revision, err := s.Items(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	good, bad := full(), full()
	bad.Efficiency = of(3) // the table itself refuses it
	if _, err := s.ImportItems(t.Context(), []locker.Item{good, bad}, revision); err == nil {
		t.Fatal("an item that cannot be was kept")
	}
	if _, err := s.Item(t.Context(), good.ID); !errors.Is(err, ErrNotFound) {
		t.Errorf("half of it was kept: %v", err)
	}
	next, err := s.ImportItems(t.Context(), []locker.Item{good}, revision)
	if err != nil || next != revision+1 {
		t.Fatal(next, err)
	}
	if _, err := s.ImportItems(t.Context(), []locker.Item{good}, revision); !errors.Is(err, ErrMoved) {
		t.Errorf("from an old look: %v", err)
	}
}

func TestTheCrewHasItsRulesAndTheGearAskedFor(t *testing.T) {
	s := open(t)
	item := full()
	if _, err := s.SaveItem(t.Context(), item, 0); err != nil {
		t.Fatal(err)
	}
	_, number, err := s.Policy(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	rules := policy.Policy{CloseFromPct: of(70)}
	if _, err := s.SavePolicy(t.Context(), rules, number+1); !errors.Is(err, ErrMoved) {
		t.Errorf("from rules that are none: %v", err)
	}
	if next, err := s.SavePolicy(t.Context(), rules, number); err != nil || next != number+1 {
		t.Fatal(next, err)
	}
	crew, err := s.Crew(t.Context(), []string{item.ID, "nobody has this"})
	if err != nil || len(crew.Gear) != 1 || crew.Gear[0].ID != item.ID || *crew.Policy.CloseFromPct != 70 || crew.Revision < 2 {
		t.Errorf("%v: %+v", err, crew)
	}
	if err := s.DeleteItem(t.Context(), item.ID); err != nil {
		t.Fatal(err)
	}
	if crew, err := s.Crew(t.Context(), []string{item.ID}); err != nil || len(crew.Gear) != 0 {
		t.Errorf("deleted, and the crew has it: %v %+v", err, crew.Gear)
	}
	if err := s.DeleteItem(t.Context(), item.ID); !errors.Is(err, ErrNotFound) {
		t.Errorf("deleted twice: %v", err)
	}
}

// Whoever watches jobs hears of gear and rules as well.
func TestWatchHearsOfTheCrew(t *testing.T) {
	s := open(t)
	ready, heard := make(chan struct{}), make(chan Moved, 16)
	go func() { _ = s.Watch(t.Context(), func() { close(ready) }, func(m Moved) { heard <- m }) }()
	<-ready
	if _, err := s.SaveItem(t.Context(), full(), 0); err != nil {
		t.Fatal(err)
	}
	deadline := time.After(10 * time.Second)
	for {
		select {
		case m := <-heard:
			if m.Crew > 0 {
				return
			}
		case <-deadline:
			t.Fatal("nothing was heard")
		}
	}
}

func TestBriefingsKeepTheirCrew(t *testing.T) {
	s, id, paper := open(t), uuid.New(), uuid.New()
	if _, _, err := s.Create(t.Context(), id, named("one"), ""); err != nil {
		t.Fatal(err)
	}
	crew := policy.Crew{Policy: policy.Policy{HandKn: of(0.2)}, Gear: []locker.Item{full()}, On: "2026-03-01", Revision: 7}
	if err := s.KeepBriefing(t.Context(), id, paper, 1, crew); err != nil {
		t.Fatal(err)
	}
	kept, err := s.Briefing(t.Context(), id, paper)
	a, _ := json.Marshal(kept.Crew)
	b, _ := json.Marshal(crew)
	if err != nil || kept.Revision != 1 || string(a) != string(b) {
		t.Errorf("%v: kept %s, made with %s", err, a, b)
	}
	if err := s.KeepBriefing(t.Context(), id, uuid.New(), 9, crew); err == nil {
		t.Error("a briefing of a revision that is none was kept")
	}
	if _, err := s.Briefing(t.Context(), uuid.New(), paper); !errors.Is(err, ErrNotFound) {
		t.Errorf("of another job: %v", err)
	}
}

// Taking 5,000 items over, and reading them all.
func BenchmarkLocker5000(b *testing.B) {
	s, err := Open(b.Context(), databaseURL)
	if err != nil {
		b.Fatal(err)
	}
	defer s.Close()
	items := make([]locker.Item, 5000)
	for i := range items {
		items[i] = full()
		items[i].ID = fmt.Sprintf("bench-%d", i)
	}
	b.Run("import", func(b *testing.B) {
		for b.Loop() {
			_, revision, err := s.Items(b.Context())
			if err != nil {
				b.Fatal(err)
			}
			if _, err := s.ImportItems(b.Context(), items, revision); err != nil {
				b.Fatal(err)
			}
		}
	})
	b.Run("read", func(b *testing.B) {
		for b.Loop() {
			if found, _, err := s.Items(b.Context()); err != nil || len(found) < 5000 {
				b.Fatal(len(found), err)
			}
		}
	})
}
