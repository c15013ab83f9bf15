package job

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"elkstay/core/intake"
	"elkstay/core/locker"
)

// What happened, as facts have it.
const (
	FactDown    = "down"    // a piece came down
	FactWeighed = "weighed" // the scale had it
	FactGone    = "gone"    // a load left on a vehicle
	FactBack    = "back"    // another fact is taken back: it was not so
)

// A Fact is something that happened: written down once, never overwritten, and taken back only by another. What several devices wrote
// down apart is all of it.
type Fact struct {
	ID     string   `json:"id" minLength:"1" maxLength:"60" doc:"Its own for ever: never one of another fact of this job"`
	What   string   `json:"what" enum:"down,weighed,gone,back"`
	Pick   string   `json:"pick,omitempty" maxLength:"40" doc:"Id of the pick that it is of; for one that takes back, empty"`
	Kg     *float64 `json:"kg,omitempty" exclusiveMinimum:"0" maximum:"100000" doc:"What the scale said, kg; of what is weighed; of a load that has gone by the weighbridge, or judged"`
	Of     *Wood    `json:"of,omitempty" doc:"The wood that came down, or was weighed; absent: that of its pick, whatever that takes"`
	Truck  string   `json:"truck,omitempty" maxLength:"40" doc:"Id of the vehicle that a load went on"`
	Takes  string   `json:"takes,omitempty" enum:"logs,chips" doc:"What a load was of"`
	On     string   `json:"on,omitempty" maxLength:"10" doc:"The day that a load went, where somebody said"`
	Back   string   `json:"back,omitempty" maxLength:"60" doc:"Id of the fact that this one takes back"`
	At     string   `json:"at,omitempty" maxLength:"40" doc:"When it was written down, by the clock of its device: RFC 3339; absent: nobody kept it"`
	Device string   `json:"device,omitempty" maxLength:"60" doc:"Id of the device that wrote it down"`
	By     string   `json:"by,omitempty" maxLength:"80" doc:"Who"`
}

// Wood names a piece by the wood that it is, whatever the plan makes of it later.
type Wood struct {
	Tree  string  `json:"tree,omitempty" maxLength:"40" doc:"Id of the tree; empty: the first"`
	What  What    `json:"what" enum:"stem,top,limb"`
	Limb  string  `json:"limb,omitempty" maxLength:"40" doc:"Id of the limb, when it is one"`
	FromM float64 `json:"from_m" minimum:"0" maximum:"120" doc:"Where it was cut: height on the stem, or along the limb, m"`
	ToM   float64 `json:"to_m" minimum:"0" maximum:"120" doc:"Where it ended then, m"`
	Bears []Borne `json:"bears,omitempty" maxItems:"200" doc:"The limbs that stood on it"`
}

// A Borne is a limb that stands on a piece, as far as it still does.
type Borne struct {
	Limb string  `json:"limb" minLength:"1" maxLength:"40" doc:"Its id"`
	TipM float64 `json:"tip_m" minimum:"0" maximum:"120" doc:"Where it ends, along itself, m"`
}

// sameM is how near to each other two cuts are the same one, m.
const sameM = 0.01

// Same tells whether it is the same wood, cut as it was.
func (w *Wood) Same(other *Wood) bool {
	near := func(a, b float64) bool { return math.Abs(a-b) <= sameM }
	return w.Tree == other.Tree && w.What == other.What && w.Limb == other.Limb && near(w.FromM, other.FromM) && near(w.ToM, other.ToM) &&
		slices.EqualFunc(w.Bears, other.Bears, func(a, b Borne) bool { return a.Limb == b.Limb && near(a.TipM, b.TipM) })
}

// stands tells which of the facts are not taken back: one that takes back may be taken back itself.
func (j *Job) stands() map[string]bool {
	by := map[string][]string{} // what takes each back
	for i := range j.Facts {
		if f := &j.Facts[i]; f.What == FactBack {
			by[f.Back] = append(by[f.Back], f.ID)
		}
	}
	stand := map[string]bool{}
	var ask func(id string, deep int) bool
	ask = func(id string, deep int) bool {
		if known, asked := stand[id]; asked {
			return known
		}
		// Facts that take each other back in a ring, which no device writes, all stand.
		stand[id] = true
		is := deep > len(j.Facts) || !slices.ContainsFunc(by[id], func(other string) bool { return ask(other, deep+1) })
		stand[id] = is
		return is
	}
	for i := range j.Facts {
		ask(j.Facts[i].ID, 0)
	}
	return stand
}

// Happened are the facts that are not taken back, the oldest first.
func (j *Job) Happened() []Fact {
	stand := j.stands()
	return slices.DeleteFunc(slices.Clone(j.Facts), func(f Fact) bool { return f.What == FactBack || !stand[f.ID] })
}

// happened tells every pick what happened to it: of several weighings the last one counts.
func (j *Job) happened() {
	slices.SortStableFunc(j.Facts, func(a, b Fact) int { return cmp.Or(cmp.Compare(a.moment(), b.moment()), cmp.Compare(a.ID, b.ID)) })
	picks := map[string]*Pick{}
	for i := range j.Picks {
		p := &j.Picks[i]
		p.Done, p.DownOf, p.WeighedKg, p.WeighedOf = false, nil, nil, nil
		picks[p.ID] = p
	}
	for _, f := range j.Happened() {
		p := picks[f.Pick]
		switch {
		case p == nil:
		case f.What == FactDown:
			p.Done, p.DownOf = true, f.Of
		case f.What == FactWeighed:
			p.WeighedKg, p.WeighedOf = f.Kg, f.Of
		}
	}
}

// moment is when it was written down, s; of one that nobody kept the time of, before all others.
func (f *Fact) moment() int64 {
	at, err := time.Parse(time.RFC3339, f.At)
	if err != nil {
		return math.MinInt64
	}
	return at.UnixMilli()
}

// factFaults names what makes no sense among the facts.
func (j *Job) factFaults() (faults intake.Faults) {
	for i := range j.Facts {
		f, at := &j.Facts[i], fmt.Sprintf("body.facts[%d]", i)
		if f.What == FactWeighed && f.Kg == nil {
			faults.Add(at+".kg", nil, "more than 0 kg", "what was weighed has no weight")
		}
		if f.What == FactGone && (f.Kg == nil || f.Takes == "") {
			faults.Add(at+".kg", nil, "more than 0 kg, of logs or chips", "a load that has gone has no weight, or is of nothing")
		}
		if f.On != "" && !locker.IsDay(f.On) {
			faults.Add(at+".on", f.On, "a day such as 2026-03-31", "%q is no day of the calendar", f.On)
		}
		if f.At != "" {
			if _, err := time.Parse(time.RFC3339, f.At); err != nil {
				faults.Add(at+".at", f.At, "a time such as 2026-03-31T14:05:00Z", "%q is no time", f.At)
			}
		}
	}
	return faults
}

// KeepFacts gives a document the facts that an older one of the same job has and it has not: none is ever taken out. It reports whether
// there were any.
func (j *Job) KeepFacts(older *Job) (some bool) {
	for _, f := range older.Facts {
		if !slices.ContainsFunc(j.Facts, func(own Fact) bool { return own.ID == f.ID }) {
			j.Facts, some = append(j.Facts, f), true
		}
	}
	j.happened()
	return some
}

// NoteFacts writes down as facts what the picks say of themselves, as documents before version 5 had it: under ids that every device comes to.
func (j *Job) NoteFacts() {
	note := func(f Fact) {
		if !slices.ContainsFunc(j.Facts, func(own Fact) bool { return own.ID == f.ID }) {
			j.Facts = append(j.Facts, f)
		}
	}
	for i := range j.Picks {
		p := &j.Picks[i]
		if p.Done {
			note(Fact{ID: "down." + p.ID, What: FactDown, Pick: p.ID})
		}
		if p.WeighedKg != nil {
			kg := *p.WeighedKg
			note(Fact{ID: "weighed." + p.ID, What: FactWeighed, Pick: p.ID, Kg: &kg})
		}
	}
	if j.Ground != nil {
		for i := range j.Ground.Trucks {
			t := &j.Ground.Trucks[i]
			for _, load := range t.Gone {
				kg := load.Kg
				note(Fact{ID: "gone." + load.ID, What: FactGone, Truck: t.ID, Takes: load.What, Kg: &kg, On: load.On})
			}
			t.Gone = nil
		}
	}
	j.happened()
}

// LoadsGone are the loads that have left, the oldest first, whatever became of their vehicles since.
func (j *Job) LoadsGone() (list []Gone) {
	for _, f := range j.Happened() {
		if f.What == FactGone && f.Kg != nil {
			list = append(list, Gone{ID: f.ID, Truck: f.Truck, What: f.Takes, Kg: *f.Kg, On: f.On})
		}
	}
	return list
}
