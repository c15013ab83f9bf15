package demo

import (
	"context"
	"encoding/json"
	"os"
	"testing"
	"time"

	"github.com/google/uuid"

	"elkstay/core/assess"
	"elkstay/core/job"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/core/units"
	"elkstay/store"
	"elkstay/store/storetest"
)

var databaseURL string

func TestMain(m *testing.M) { os.Exit(storetest.Main(m, &databaseURL)) }

// The demo opens on a job that can be worked out whole: nothing missing, nothing
// contradicting itself, no limit passed.
func TestDemoJobsAreSound(t *testing.T) {
	today := time.Now()
	items, err := gearOn(today)
	if err != nil {
		t.Fatal(err)
	}
	crew := policy.Crew{Gear: items, On: today.Format(time.DateOnly)}
	for _, one := range jobs {
		document, err := files.ReadFile(one.file)
		if err != nil {
			t.Fatal(err)
		}
		read, err := job.ReadJob(document)
		if err != nil {
			t.Fatal(err)
		}
		a := assess.Assess(&read, assess.Options{Units: units.Metric, Crew: crew})
		// At the lock the last tree cannot go as it is planned, and its rose says so.
		lock := one.file == "reed-lock.json"
		if lock {
			last := len(a.Picks) - 1
			for i, pick := range a.Picks {
				if (pick.Verdict == policy.Over || pick.Verdict == policy.NotKnown) != (i == last) {
					t.Errorf("%s: pick %d: %s, %s", one.file, i+1, pick.Verdict, pick.Worst)
				}
			}
		}
		if len(a.GearStandings) < 6 && !lock || len(a.GearStandings) != len(read.Items()) {
			t.Errorf("%s: refers to %v, has %d", one.file, read.Items(), len(a.GearStandings))
		}
		if len(a.Faults)+len(a.Missing) > 0 || !lock && (len(a.Picks) < 14 || a.Verdict == policy.Over || a.Verdict == policy.NotKnown) {
			t.Errorf("%s: %s, faults %v, missing %v", one.file, a.Verdict, a.Faults, a.Missing)
		}
		for _, pick := range a.Picks {
			if len(pick.Faults) > 0 {
				t.Errorf("%s: pick %d: %v", one.file, pick.Number, pick.Faults)
			}
			full := assess.Assess(&read, assess.Options{Units: units.US, Pick: pick.ID, Crew: crew})
			if _, err := json.Marshal(full); err != nil || full.Detail == nil || len(full.Detail.Ladder) == 0 {
				t.Errorf("%s: pick %d in full: %v", one.file, pick.Number, err)
			}
		}
	}
}

func TestLoadingAgainKeepsWhatTheUserChanged(t *testing.T) {
	ctx := context.Background()
	kept, err := store.Open(ctx, databaseURL)
	if err != nil {
		t.Fatal(err)
	}
	defer kept.Close()
	if err := Load(ctx, kept); err != nil {
		t.Fatal(err)
	}
	id := uuid.MustParse(jobs[0].id)
	was, err := kept.Job(ctx, id)
	if err != nil {
		t.Fatal(err)
	}
	changed, err := job.ReadJob(was.Document)
	if err != nil {
		t.Fatal(err)
	}
	changed.Name = "changed"
	document, err := json.Marshal(changed)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := kept.Save(ctx, id, was.Revision, uuid.New(), document, ""); err != nil {
		t.Fatal(err)
	}
	if err := Load(ctx, kept); err != nil {
		t.Fatal(err)
	}
	again, err := kept.Job(ctx, id)
	if err != nil || again.Revision != was.Revision+1 {
		t.Errorf("loaded again it is at revision %d, %v", again.Revision, err)
	}
}

// Thirty-two items, one overdue and one set aside, on whatever day the demo is loaded.
func TestTheOutfitStandsTheSameOnEveryDay(t *testing.T) {
	for _, days := range []int{-400, 0, 1, 2500} {
		today := time.Date(2026, 11, 23, 12, 0, 0, 0, time.UTC).AddDate(0, 0, days)
		items, err := gearOn(today)
		if err != nil || len(items) != 32 {
			t.Fatal(len(items), err)
		}
		states, kinds := map[string]int{}, map[string]int{}
		for i := range items {
			states[items[i].On(today.Format(time.DateOnly)).State]++
			kinds[items[i].Kind]++
			if faults := items[i].Faults("body"); len(faults) > 0 {
				t.Errorf("%s: %v", items[i].Name, faults)
			}
		}
		if states[locker.Overdue] != 1 || states[locker.Aside] != 1 || states[locker.Retired]+states[locker.NotInspected] != 0 || len(kinds) != len(locker.Kinds()) {
			t.Errorf("on %s: %v, %v", today, states, kinds)
		}
	}
}
