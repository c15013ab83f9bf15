package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgtype"

	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/locker"
	"elkstay/core/policy"
	"elkstay/store/internal/rows"
)

// A KeptItem is an item of the locker and how often it was saved.
type KeptItem struct {
	locker.Item
	Revision  int
	ChangedAt time.Time
}

// Items returns the whole locker and the crew's revision that it is of.
func (s *Store) Items(ctx context.Context) (items []KeptItem, revision int, err error) {
	err = s.reading(ctx, func(q *rows.Queries) error {
		at, err := q.CrewRevision(ctx)
		if err != nil {
			return err
		}
		revision = int(at)
		found, err := q.Items(ctx)
		if err != nil {
			return err
		}
		items, err = whole(ctx, q, found)
		return err
	})
	return items, revision, err
}

// A Shelf is where a page of the locker ends, in the order of kind, name and id.
type Shelf struct{ Kind, Name, ID string }

// ItemsPage returns at most so many items after a place of the locker, and how many there are
// in all.
func (s *Store) ItemsPage(ctx context.Context, after Shelf, most int) (items []KeptItem, next *Shelf, total, revision int, err error) {
	err = s.reading(ctx, func(q *rows.Queries) error {
		at, err := q.CrewRevision(ctx)
		if err != nil {
			return err
		}
		count, err := q.CountItems(ctx)
		if err != nil {
			return err
		}
		revision, total = int(at), int(count)
		found, err := q.ItemsPage(ctx, rows.ItemsPageParams{AfterKind: after.Kind, AfterName: after.Name, AfterID: after.ID, Most: page(most)})
		if err != nil {
			return err
		}
		if len(found) > most {
			found = found[:most]
			last := found[most-1]
			next = &Shelf{last.Kind, last.Name, last.ID}
		}
		items, err = whole(ctx, q, found)
		return err
	})
	return items, next, total, revision, err
}

// Item returns one item, or ErrNotFound.
func (s *Store) Item(ctx context.Context, id string) (KeptItem, error) {
	q := ask(s.pool)
	found, err := q.ItemsByID(ctx, []string{id})
	if err != nil {
		return KeptItem{}, err
	}
	if len(found) == 0 {
		return KeptItem{}, ErrNotFound
	}
	items, err := whole(ctx, q, found)
	if err != nil {
		return KeptItem{}, err
	}
	return items[0], nil
}

// Crew returns the crew's rules and those of its items that are named.
func (s *Store) Crew(ctx context.Context, ids []string) (crew policy.Crew, err error) {
	err = s.reading(ctx, func(q *rows.Queries) error {
		at, err := q.CrewRevision(ctx)
		if err != nil {
			return err
		}
		crew.Revision, crew.Gear = int(at), []locker.Item{}
		if crew.Policy, _, err = newestRules(ctx, q); err != nil || len(ids) == 0 {
			return err
		}
		found, err := q.ItemsByID(ctx, ids)
		if err != nil {
			return err
		}
		items, err := whole(ctx, q, found)
		for i := range items {
			crew.Gear = append(crew.Gear, items[i].Item)
		}
		return err
	})
	return crew, err
}

// whole brings the rows of items together with what hangs on them.
func whole(ctx context.Context, q *rows.Queries, found []rows.Item) ([]KeptItem, error) {
	items := make([]KeptItem, len(found))
	ids, at := make([]string, len(found)), make(map[string]*locker.Item, len(found))
	for i, row := range found {
		items[i] = KeptItem{Revision: int(row.Revision), ChangedAt: row.ChangedAt, Item: locker.Item{
			ID: row.ID, Kind: row.Kind, Name: row.Name, Serial: row.Serial, Rating: gear.Rating{MarkedKn: row.MarkedKn, BreakingKn: row.BreakingKn},
			DiameterM: row.DiameterM, LengthM: row.LengthM, DynamicFactor: row.DynamicFactor, Efficiency: row.Efficiency, BendM: row.BendM,
			Friction: row.Friction, RiggingKg: row.RiggingKg, MassKg: row.MassKg, PayloadKg: row.PayloadKg, VolumeM3: row.VolumeM3, Grip: row.Grip,
			WinchKn: row.WinchKn, InService: written(row.InService), Note: row.Note,
		}}
		if len(row.Conditions) > 0 {
			items[i].Conditions = row.Conditions
		}
		if row.SetAsideWhy != nil {
			items[i].SetAside = &locker.SetAside{On: written(row.SetAsideOn), Why: *row.SetAsideWhy, Retired: row.Retired}
		}
		ids[i], at[row.ID] = row.ID, &items[i].Item
	}
	stretches, err := q.Stretches(ctx, ids)
	if err != nil {
		return nil, err
	}
	for _, row := range stretches {
		at[row.ItemID].Elongation = append(at[row.ItemID].Elongation, gear.Stretch{LoadPct: row.LoadPct, StrainPct: row.StrainPct})
	}
	lifts, err := q.Lifts(ctx, ids)
	if err != nil {
		return nil, err
	}
	for _, row := range lifts {
		at[row.ItemID].Chart = append(at[row.ItemID].Chart, crane.ChartRow{RadiusM: row.RadiusM, BoomM: row.BoomM, CapacityKg: row.CapacityKg})
	}
	looks, err := q.Inspections(ctx, ids)
	if err != nil {
		return nil, err
	}
	for _, row := range looks {
		at[row.ItemID].Inspections = append(at[row.ItemID].Inspections,
			locker.Inspection{On: written(row.OnDay), By: row.ByWhom, Result: row.Result, NextDue: written(row.NextDue), Note: row.Note})
	}
	return items, nil
}

func written(day pgtype.Date) string {
	if !day.Valid {
		return ""
	}
	return day.Time.Format(time.DateOnly)
}

func date(day string) pgtype.Date {
	at, err := time.Parse(time.DateOnly, day)
	return pgtype.Date{Time: at, Valid: err == nil}
}

// inCrew runs a change of gear or rules, one at a time, and counts it.
func (s *Store) inCrew(ctx context.Context, change func(q *rows.Queries, revision int) error) (revision int, err error) {
	err = s.inTx(ctx, func(q *rows.Queries) error {
		at, err := q.LockCrew(ctx)
		if err != nil {
			return err
		}
		if err := change(q, int(at)); err != nil {
			return err
		}
		at, err = q.MoveCrew(ctx)
		revision = int(at)
		return err
	})
	return revision, err
}

// SaveItem keeps an item; base is the revision of it that the change was made from, 0
// for a new one. Where that is not the newest, the error is ErrMoved.
func (s *Store) SaveItem(ctx context.Context, item locker.Item, base int) (KeptItem, error) {
	_, err := s.inCrew(ctx, func(q *rows.Queries, _ int) error {
		now, err := q.ItemRevision(ctx, item.ID)
		if err != nil && !errors.Is(err, pgx.ErrNoRows) {
			return err
		}
		if int(now.Revision) != base {
			return ErrMoved
		}
		return put(ctx, q, []locker.Item{item})
	})
	if err != nil {
		return KeptItem{}, err
	}
	return s.Item(ctx, item.ID)
}

// ImportItems keeps many items at once, all or none of them; base is the crew's revision
// that they were worked out from. Where that is not the newest, the error is ErrMoved.
func (s *Store) ImportItems(ctx context.Context, items []locker.Item, base int) (revision int, err error) {
	return s.inCrew(ctx, func(q *rows.Queries, now int) error {
		if now != base {
			return ErrMoved
		}
		return put(ctx, q, items)
	})
}

func put(ctx context.Context, q *rows.Queries, items []locker.Item) (err error) {
	ids := make([]string, len(items))
	params := make([]rows.PutItemParams, len(items))
	stretches, lifts, looks := []rows.CopyStretchesParams{}, []rows.CopyLiftsParams{}, []rows.CopyInspectionsParams{}
	for i := range items {
		it := &items[i]
		ids[i] = it.ID
		params[i] = rows.PutItemParams{
			ID: it.ID, Kind: it.Kind, Name: it.Name, Serial: it.Serial, MarkedKn: it.MarkedKn, BreakingKn: it.BreakingKn, DiameterM: it.DiameterM,
			LengthM: it.LengthM, DynamicFactor: it.DynamicFactor, Efficiency: it.Efficiency, BendM: it.BendM, Friction: it.Friction, RiggingKg: it.RiggingKg,
			MassKg: it.MassKg, PayloadKg: it.PayloadKg, VolumeM3: it.VolumeM3, Grip: it.Grip, WinchKn: it.WinchKn,
			Conditions: append([]string{}, it.Conditions...), InService: date(it.InService), Note: it.Note,
		}
		if aside := it.SetAside; aside != nil {
			params[i].SetAsideOn, params[i].SetAsideWhy, params[i].Retired = date(aside.On), &aside.Why, aside.Retired
		}
		for _, row := range it.Elongation {
			stretches = append(stretches, rows.CopyStretchesParams{ItemID: it.ID, LoadPct: row.LoadPct, StrainPct: row.StrainPct})
		}
		for _, row := range it.Chart {
			lifts = append(lifts, rows.CopyLiftsParams{ItemID: it.ID, BoomM: row.BoomM, RadiusM: row.RadiusM, CapacityKg: row.CapacityKg})
		}
		for _, look := range it.Inspections {
			looks = append(looks, rows.CopyInspectionsParams{ItemID: it.ID, OnDay: date(look.On), ByWhom: look.By, Result: look.Result, NextDue: date(look.NextDue), Note: look.Note})
		}
	}
	q.PutItem(ctx, params).Exec(func(i int, failed error) {
		if failed != nil && err == nil {
			err = fmt.Errorf("item %s: %w", ids[i], failed)
		}
	})
	for _, clear := range []func(context.Context, []string) error{q.ClearStretches, q.ClearLifts, q.ClearInspections} {
		if err == nil {
			err = clear(ctx, ids)
		}
	}
	if err == nil {
		_, err = q.CopyStretches(ctx, stretches)
	}
	if err == nil {
		_, err = q.CopyLifts(ctx, lifts)
	}
	if err == nil {
		_, err = q.CopyInspections(ctx, looks)
	}
	return err
}

// DeleteItem takes an item out of the locker; RestoreItem brings it back. Nothing is
// erased.
func (s *Store) DeleteItem(ctx context.Context, id string) error {
	return s.touch(ctx, func(q *rows.Queries) (int64, error) { return q.DeleteItem(ctx, id) })
}

// RestoreItem brings a deleted item back.
func (s *Store) RestoreItem(ctx context.Context, id string) error {
	return s.touch(ctx, func(q *rows.Queries) (int64, error) { return q.RestoreItem(ctx, id) })
}

func (s *Store) touch(ctx context.Context, change func(*rows.Queries) (int64, error)) error {
	_, err := s.inCrew(ctx, func(q *rows.Queries, _ int) error {
		touched, err := change(q)
		if err == nil && touched == 0 {
			return ErrNotFound
		}
		return err
	})
	return err
}

// newestRules returns the newest rules and their number; 0: none were saved yet.
func newestRules(ctx context.Context, q *rows.Queries) (policy.Policy, int, error) {
	kept, err := q.Policy(ctx)
	if errors.Is(err, pgx.ErrNoRows) {
		return policy.Policy{}, 0, nil
	}
	if err != nil {
		return policy.Policy{}, 0, err
	}
	read, err := policy.ReadPolicy(kept.Document)
	return read, int(kept.Number), err
}

// Policy returns the crew's rules and how often they were saved.
func (s *Store) Policy(ctx context.Context) (policy.Policy, int, error) {
	return newestRules(ctx, ask(s.pool))
}

// A KeptPolicy is a policy as it was saved.
type KeptPolicy struct {
	Number  int
	SavedAt time.Time
	Policy  policy.Policy
}

// Policies returns at most so many saved policies, the newest first, of numbers below before; 0: from
// the newest. total counts all of them.
func (s *Store) Policies(ctx context.Context, before, most int) (kept []KeptPolicy, total int, err error) {
	if before <= 0 {
		before = math.MaxInt32
	}
	err = s.reading(ctx, func(q *rows.Queries) error {
		count, err := q.CountPolicies(ctx)
		if err != nil {
			return err
		}
		total = int(count)
		found, err := q.Policies(ctx, rows.PoliciesParams{Before: int32(min(before, math.MaxInt32)), Most: page(most)}) //nolint:gosec // bounded
		if err != nil {
			return err
		}
		for _, row := range found {
			read, err := policy.ReadPolicy(row.Document)
			if err != nil {
				return err
			}
			kept = append(kept, KeptPolicy{int(row.Number), row.SavedAt, read})
		}
		return nil
	})
	return kept, total, err
}

// SavePolicy keeps rules as the next; base is the number of those they were made from.
// Where that is not the newest, the error is ErrMoved.
func (s *Store) SavePolicy(ctx context.Context, rules policy.Policy, base int) (number int, err error) {
	document, err := json.Marshal(rules)
	if err != nil {
		return 0, err
	}
	_, err = s.inCrew(ctx, func(q *rows.Queries, _ int) error {
		_, now, err := newestRules(ctx, q)
		if err != nil {
			return err
		}
		if now != base {
			return ErrMoved
		}
		number = now + 1
		_, err = q.InsertPolicy(ctx, rows.InsertPolicyParams{Number: int32(number), Document: document}) //nolint:gosec // counts saves
		return err
	})
	return number, err
}

// OpenJobs returns at most so many documents of jobs that are not deleted, the last saved
// first, after a place; total counts all of them.
func (s *Store) OpenJobs(ctx context.Context, after Place, most int) (jobs []Job, next *Place, total int, err error) {
	err = s.reading(ctx, func(q *rows.Queries) error {
		count, err := q.CountJobs(ctx)
		if err != nil {
			return err
		}
		total = int(count)
		at, id := after.before()
		found, err := q.OpenDocuments(ctx, rows.OpenDocumentsParams{BeforeAt: at, BeforeID: id, Most: page(most)})
		for _, row := range found {
			jobs = append(jobs, Job{ID: row.ID, Revision: int(row.Head), SavedAt: row.SavedAt, Document: row.Document})
		}
		return err
	})
	if len(jobs) > most {
		jobs = jobs[:most]
		next = &Place{jobs[most-1].SavedAt, jobs[most-1].ID}
	}
	return jobs, next, total, err
}
