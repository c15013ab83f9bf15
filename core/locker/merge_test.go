package locker

import (
	"encoding/json"
	"testing"

	"elkstay/core/gear"
)

// Two people's changes of one sling: what they do not share comes together, what they do is asked about by name, with both values.
func TestTwoChangesOfOneItemComeTogether(t *testing.T) {
	of := func(v float64) *float64 { return &v }
	base := Item{ID: "s1", Kind: Sling, Name: "sling", Rating: gear.Rating{MarkedKn: of(20), BreakingKn: of(140)}, LengthM: of(3), Note: "blue", Inspections: []Inspection{{On: "2025-01-02", By: "A", Result: "pass"}}}
	mine, theirs := base, base
	mine.Name, mine.LengthM, mine.Note = "long sling", of(6), ""
	mine.Inspections = append([]Inspection{}, append(base.Inspections, Inspection{On: "2026-01-02", By: "A", Result: "pass"})...)
	theirs.Serial, theirs.LengthM, theirs.MarkedKn = "S-1", of(5), of(15)
	theirs.Inspections = append([]Inspection{}, append(base.Inspections, Inspection{On: "2026-02-02", By: "B", Result: "fail"})...)
	got, err := Sides{base, mine, theirs}.Merge()
	if err != nil {
		t.Fatal(err)
	}
	it := got.Item
	if it.Name != "long sling" || it.Serial != "S-1" || it.Note != "" || *it.MarkedKn != 15 || *it.BreakingKn != 140 || *it.LengthM != 6 {
		t.Errorf("%+v", it)
	}
	if len(it.Inspections) != 3 || it.Inspections[1].By != "A" || it.Inspections[2].Result != "fail" {
		t.Errorf("%+v", it.Inspections)
	}
	if len(got.Aparts) != 1 || got.Aparts[0].Field != "length_m" || string(got.Aparts[0].Mine) != "6" || string(got.Aparts[0].Theirs) != "5" {
		t.Errorf("%+v", got.Aparts)
	}
	// One marks it down, the other finds another breaking strength: no rating is made of halves of two.
	mine, theirs = base, base
	mine.MarkedKn, theirs.BreakingKn = of(10), of(90)
	if got, _ = (Sides{base, mine, theirs}).Merge(); len(got.Aparts) != 1 || got.Aparts[0].Field != "rating" || string(got.Aparts[0].Theirs) != `{"breaking_kn":90,"marked_kn":20}` || *got.Item.MarkedKn != 10 || *got.Item.BreakingKn != 140 {
		t.Errorf("%+v %+v", got.Aparts, got.Item.Rating)
	}
	// One inspection written otherwise by both; one taken away while the other leaves it.
	mine, theirs = base, base
	mine.Inspections = []Inspection{{On: "2025-01-02", By: "A", Result: "fail"}}
	theirs.Inspections = []Inspection{{On: "2025-01-02", By: "A", Result: "pass", Note: "looked twice"}}
	if got, _ = (Sides{base, mine, theirs}).Merge(); len(got.Aparts) != 1 || got.Aparts[0].Field != "inspection of 2025-01-02 by A" || got.Item.Inspections[0].Result != "fail" {
		t.Errorf("%+v", got)
	}
	theirs = base
	theirs.Inspections = nil
	if got, _ = (Sides{base, base, theirs}).Merge(); len(got.Aparts) != 0 || got.Item.Inspections != nil {
		t.Errorf("%+v", got)
	}
	// Nothing changed on one side is the other's, whole.
	a, _ := json.Marshal(theirs)
	b, _ := json.Marshal(got.Item)
	if string(a) != string(b) {
		t.Errorf("%s\n%s", a, b)
	}
}
