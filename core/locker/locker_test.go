package locker

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/intake"
)

func of(v float64) *float64 { return &v }

// rope is an invented rope, whole.
func rope() Item {
	return Item{
		ID: "r1", Kind: Rope, Name: "made-up line", Serial: "A-1", Rating: gear.Rating{MarkedKn: of(16), BreakingKn: of(80)},
		DiameterM: of(0.016), LengthM: of(60), Elongation: []gear.Stretch{{LoadPct: 10, StrainPct: 1.9}, {LoadPct: 20, StrainPct: 3.1}},
		Inspections: []Inspection{{On: "2026-01-10", By: "first reader", Result: Pass, NextDue: "2026-07-10"}},
	}
}

func TestHowAnItemStands(t *testing.T) {
	for name, c := range map[string]struct {
		bend   func(*Item)
		day    string
		state  string
		barred bool
	}{
		"within its time":      {func(*Item) {}, "2026-03-01", Ready, false},
		"on its last day":      {func(*Item) {}, "2026-07-10", DueSoon, false},
		"a fortnight before":   {func(*Item) {}, "2026-06-26", DueSoon, false},
		"a day earlier":        {func(*Item) {}, "2026-06-25", Ready, false},
		"a day late":           {func(*Item) {}, "2026-07-11", Overdue, true},
		"never looked at":      {func(it *Item) { it.Inspections = nil }, "2026-03-01", NotInspected, false},
		"failed":               {func(it *Item) { it.Inspections[0].Result = Fail }, "2026-03-01", Aside, true},
		"set aside":            {func(it *Item) { it.SetAside = &SetAside{On: "2026-02-01", Why: "cut strand"} }, "2026-03-01", Aside, true},
		"retired and overdue":  {func(it *Item) { it.SetAside = &SetAside{On: "2026-02-01", Why: "ten years", Retired: true} }, "2027-03-01", Retired, true},
		"no next day is given": {func(it *Item) { it.Inspections[0].NextDue = "" }, "2036-03-01", Ready, false},
		"failed, then passed": {func(it *Item) {
			it.Inspections[0].Result = Fail
			it.Inspections = append(it.Inspections, Inspection{On: "2026-02-02", By: "x", Result: Pass, NextDue: "2026-09-01"})
		}, "2026-03-01", Ready, false},
	} {
		it := rope()
		c.bend(&it)
		got := it.On(c.day)
		if got.State != c.state || got.Barred != c.barred || (got.State != Ready && got.Why == "") {
			t.Errorf("%s: %+v, want %s", name, got, c.state)
		}
	}
}

func TestItemsThatCannotBe(t *testing.T) {
	good := rope()
	if faults := good.ranges(); len(faults) > 0 {
		t.Fatalf("the item it starts from: %v", faults)
	}
	for field, bend := range map[string]func(*Item){
		"body.marked_kn":              func(it *Item) { it.MarkedKn = of(90) },
		"body.breaking_kn":            func(it *Item) { it.DiameterM = of(0.004) },
		"body.friction":               func(it *Item) { it.Friction = of(0.2) },
		"body.elongation[1].load_pct": func(it *Item) { it.Elongation[1].LoadPct = 5 },
		"body.conditions[0]":          func(it *Item) { it.Conditions = []string{"dusty"} },
		"body.in_service":             func(it *Item) { it.InService = "2026-02-30" },
		"body.inspections[0].next_due": func(it *Item) {
			it.Inspections[0].NextDue = "2025-01-01"
		},
		"body.kind":       func(it *Item) { it.Kind = "ladder" },
		"body.diameter_m": func(it *Item) { it.DiameterM = of(16) },
		"body.name":       func(it *Item) { it.Name = "" },
	} {
		it := rope()
		bend(&it)
		faults := it.ranges()
		if !slices.ContainsFunc(it.ranges(), func(f intake.Fault) bool {
			return f.Location == field
		}) {
			t.Errorf("%s: got %v", field, faults)
		}
	}
	twice := Item{ID: "c", Kind: Crane, Name: "c", Chart: []crane.ChartRow{{RadiusM: 6, BoomM: 20, CapacityKg: 3000}, {RadiusM: 6, BoomM: 20, CapacityKg: 2000}}}
	if len(twice.ranges()) == 0 {
		t.Error("a chart with one lift twice was taken")
	}
}

func ids() func() string {
	n := 0
	return func() string { n++; return fmt.Sprintf("new-%d", n) }
}

func sheet(lines ...string) []Table {
	table := Table{}
	for _, line := range lines {
		table.Rows = append(table.Rows, strings.Split(line, ","))
	}
	return []Table{table}
}

// What is written out and read again changes nothing, in any of the tables.
func TestTablesReadBackAsTheyWereWritten(t *testing.T) {
	tipper := Item{ID: "v1", Kind: Vehicle, Name: "made-up tipper", MassKg: of(2400), PayloadKg: of(1100), VolumeM3: of(5.5), LengthM: of(3.1), Grip: of(0.5), WinchKn: of(20)}
	lifter := Item{ID: "c1", Kind: Crane, Name: "made-up crane", LengthM: of(24), RiggingKg: of(160), Chart: []crane.ChartRow{{RadiusM: 6, BoomM: 24, CapacityKg: 4200}, {RadiusM: 8, BoomM: 24, CapacityKg: 3300}}}
	out := Item{ID: "b1", Kind: Block, Name: "old block", Rating: gear.Rating{MarkedKn: of(30)}, Efficiency: of(0.92), BendM: of(0.1), SetAside: &SetAside{On: "2026-01-01", Why: "bent cheek", Retired: true}}
	held := []Item{rope(), lifter, out, tipper}
	tables := []Table{}
	for _, name := range Tables() {
		tables = append(tables, Table{Name: name, Rows: Write(name, held)})
	}
	again, err := ReadTables(File{Tables: tables, Between: "cells"}, Told{}, held, ids())
	if err != nil {
		t.Fatal(err)
	}
	if again.Same != 4+1+2 || again.New+again.Changed+again.Wrong != 0 || len(again.Items) != 0 {
		t.Errorf("read again over itself: %+v", again)
	}
	// Into an empty locker they make the same items.
	fresh, err := ReadTables(File{Tables: tables, Between: "cells"}, Told{}, nil, ids())
	if err != nil || fresh.Wrong != 0 || len(fresh.Items) != 4 {
		t.Fatalf("into an empty locker: %v, %+v", err, fresh)
	}
	if a, b := Write(Items, held), Write(Items, fresh.Items); !slices.EqualFunc(a, b, slices.Equal[[]string]) {
		t.Errorf("wrote %v, read %v", a, b)
	}
	if !slices.Equal(fresh.Items[1].Chart, lifter.Chart) || !slices.Equal(fresh.Items[0].Inspections, held[0].Inspections) {
		t.Errorf("chart or inspections: %+v", fresh.Items)
	}
}

func TestAnImportSaysWhatItWouldDo(t *testing.T) {
	held := []Item{rope()}
	in, err := ReadTables(File{Tables: sheet(
		"kind,name,serial,breaking_lbf,diameter_in,length_m",
		"rope,made-up line,A-1,,,55", // changes its length
		"rope,made-up line,A-1,,,60", // the same item again
		"sling,new sling,S-9,22481,0.75,3",
		"block,new block,,,,",
	), Between: "cells"}, Told{}, held, ids())
	if err != nil {
		t.Fatal(err)
	}
	does := []string{}
	for _, row := range in.Rows {
		does = append(does, row.Does)
	}
	if !slices.Equal(does, []string{RowMoved, RowWrong, RowNew, RowNew}) {
		t.Fatalf("got %v: %+v", does, in.Rows)
	}
	if c := in.Rows[0].Changes; len(c) != 1 || c[0] != (Change{"length_m", "60", "55"}) {
		t.Errorf("changes %v", c)
	}
	if in.Items != nil {
		t.Error("one row is wrong, and items were made")
	}
	if held[0].LengthM == nil || *held[0].LengthM != 60 {
		t.Error("the locker given was changed")
	}
	in, _ = ReadTables(File{Tables: sheet("kind,name,serial,breaking_lbf,diameter_in,set_aside,set_aside_why", "sling,new sling,S-9,22481,0.75,2026-01-02,torn stitching"), Between: "cells"}, Told{}, held, ids())
	// 22,481 lbf is 100.0 kN by the definition of the pound (NIST SP 811).
	if it := in.Items[0]; *it.BreakingKn < 99.99 || *it.BreakingKn > 100.01 || *it.DiameterM < 0.01904 || *it.DiameterM > 0.01906 || it.SetAside == nil || it.SetAside.Why != "torn stitching" {
		t.Errorf("got %+v", it)
	}
	// A day as a spreadsheet keeps it: 46000 is 9 December 2025.
	in, _ = ReadTables(File{Tables: sheet("kind,name,in_service", "block,new block,46000"), Between: "cells"}, Told{}, nil, ids())
	if in.Items[0].InService != "2025-12-09" {
		t.Errorf("in service %q", in.Items[0].InService)
	}
	// A dash clears, an empty cell does not.
	in, _ = ReadTables(File{Tables: sheet("id,kind,length_m,serial", "r1,rope,-,"), Between: "cells"}, Told{}, held, ids())
	if it := in.Items[0]; it.LengthM != nil || it.Serial != "A-1" || it.Name != "made-up line" {
		t.Errorf("cleared: %+v", it)
	}
}

func TestWrongCellsAreNamed(t *testing.T) {
	for name, c := range map[string]struct{ head, row, cell, says string }{
		"another unit":    {"kind,name,breaking_kn", "rope,a,17600 lbf", "C2", "two units"},
		"a comma":         {"kind,name,breaking_kn", "rope,a,1\x012\x015", "C2", "no number"},
		"out of range":    {"kind,name,breaking_kn", "rope,a,8000", "C2", "8000"},
		"mm for inches":   {"kind,name,breaking_kn,diameter_in", "rope,a,80,16", "D2", "diameter_m"},
		"inches for mm":   {"kind,name,breaking_kn,diameter_mm", "rope,a,80,0.63", "D2", "diameter_m"},
		"swapped":         {"kind,name,breaking_kn,marked_kn", "block,a,16,80", "D2", "swapped"},
		"no number":       {"kind,name,breaking_kn", "rope,a,about 80", "C2", "no number"},
		"infinite":        {"kind,name,breaking_kn", "rope,a,Inf", "C2", "two units"},
		"no kind":         {"kind,name", "ladder,a", "A2", "ladder"},
		"no name":         {"kind,name,serial", "block,,B-1", "B2", "name"},
		"elongation":      {"kind,name,breaking_kn,elongation", "rope,a,80,10-1.9", "D2", "10:1.9"},
		"not of its kind": {"kind,name,friction", "block,a,0.2", "C2", "no friction"},
		"no such day":     {"kind,name,in_service", "block,a,31.02.2026", "C2", "no day"},
		"retired":         {"kind,name,retired", "block,a,perhaps", "C2", "neither"},
	} {
		tables := sheet(c.head, c.row)
		for i := range tables[0].Rows[1] {
			tables[0].Rows[1][i] = strings.ReplaceAll(tables[0].Rows[1][i], "\x01", ",")
		}
		in, err := ReadTables(File{Tables: tables, Between: "cells"}, Told{}, nil, ids())
		if err != nil || in.Wrong != 1 || len(in.Items) != 0 {
			t.Errorf("%s: %v %+v", name, err, in)
			continue
		}
		fault := in.Rows[0].Faults[0]
		if fault.Cell != c.cell || !strings.Contains(fault.Message+fault.Allowed, c.says) || fault.Allowed == "" {
			t.Errorf("%s: %+v", name, fault)
		}
	}
}

func TestFilesThatAreNoLockerAreRefused(t *testing.T) {
	for says, head := range map[string][]string{
		"none of a locker": {"one", "two"},
		"its unit":         {"kind", "name", "breaking strength"},
		"two columns":      {"kind", "breaking_kn", "breaking_lbf"},
		"stands twice":     {"kind", "name", "name"},
		"no column colour": {"kind", "name", "colour"},
		"unit, the same":   {"item", "radius_m", "boom_ft", "capacity_kg"},
		"no column capaci": {"item", "radius_m", "boom_m"},
	} {
		_, err := ReadTables(File{Tables: []Table{{Rows: [][]string{head, {"x", "y"}}}}, Between: "cells"}, Told{}, nil, ids())
		if err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
}

func TestRowsOfNobodyAreWrong(t *testing.T) {
	held := []Item{rope()}
	in, err := ReadTables(File{Tables: []Table{
		{Rows: [][]string{{"item", "serial", "on", "by", "result", "next_due"}, {"r1", "", "2026-05-05", "second reader", "pass", "2026-11-05"}, {"zz", "", "2026-05-05", "x", "pass", ""}, {"", "A-1", "2026-05-06", "x", "fine", ""}}},
		{Rows: [][]string{{"item", "radius_m", "boom_m", "capacity_t"}, {"r1", "6", "20", "3.2"}}},
	}, Between: "cells"}, Told{}, held, ids())
	if err != nil {
		t.Fatal(err)
	}
	does := []string{}
	for _, row := range in.Rows {
		does = append(does, row.Does)
	}
	if !slices.Equal(does, []string{RowNew, RowWrong, RowWrong, RowWrong}) {
		t.Errorf("got %v: %+v", does, in.Rows)
	}
}

// Whatever stands in the cells, reading ends with rows or a refusal, never with items
// that break their own rules.
func TestTablesOfAnythingAreReadOrRefused(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 5))
	values := []string{"", "-", "rope", "block", "crane", "A-1", "r1", "c1", "16", "-4", "1e9", "NaN", "12,5", "80 kN", "2026-01-31", "46000", "pass", "fail", "10:1.9 20:3", "aged", "yes", "a name", "'=x", "\u202e", strings.Repeat("x", 90)}
	held := []Item{rope(), {ID: "c1", Kind: Crane, Name: "made-up crane", Chart: []crane.ChartRow{{RadiusM: 6, BoomM: 24, CapacityKg: 4200}}}}
	read := 0
	for range 3000 {
		// A row that is right, with a cell or two of anything.
		right := Write(Tables()[random.IntN(3)], held)
		table := Table{Rows: right[:1]}
		for range 1 + random.IntN(3) {
			row := slices.Clone(right[1+random.IntN(len(right)-1)])
			for range random.IntN(3) {
				row[random.IntN(len(row))] = values[random.IntN(len(values))]
			}
			table.Rows = append(table.Rows, row[:len(row)-random.IntN(2)])
		}
		in, err := ReadTables(File{Tables: []Table{table}, Between: "cells"}, Told{}, held, ids())
		if err != nil {
			continue
		}
		if in.Wrong > 0 && len(in.Items) > 0 {
			t.Fatalf("wrong rows, and items: %v", table.Rows)
		}
		for i := range in.Items {
			read++
			if faults := in.Items[i].ranges(); len(faults) > 0 {
				t.Fatalf("%v made %+v: %v", table.Rows, in.Items[i], faults)
			}
		}
	}
	if read < 50 {
		t.Errorf("only %d items were read: the test proves little", read)
	}
}

// Of a large file with much wrong in it the wrong rows are shown first, and the rest is counted.
func TestALargeImportIsShortened(t *testing.T) {
	rows := [][]string{{"kind", "name", "breaking_kn"}}
	for i := range 5000 {
		kn := "80"
		if i%2 == 1 && i >= 2000 {
			kn = "eighty"
		}
		rows = append(rows, []string{"sling", fmt.Sprintf("sling %d", i), kn})
	}
	n := 0
	got, err := ReadTables(File{Tables: []Table{{Rows: rows}}, Between: "cells"}, Told{}, nil, func() string { n++; return fmt.Sprintf("id%d", n) })
	if err != nil {
		t.Fatal(err)
	}
	if len(got.Rows) != 2000 || got.LeftOut != 3000 || got.Wrong != 1500 || got.New != 3500 {
		t.Errorf("%d shown, %d left out, %d wrong, %d new", len(got.Rows), got.LeftOut, got.Wrong, got.New)
	}
	for i, row := range got.Rows {
		if (row.Does == RowWrong) != (i < 1500) {
			t.Fatalf("row %d shown is %s", i, row.Does)
		}
	}
}
