package locker

import (
	"strings"
	"testing"
)

// readAs reads a table of items with one figure and one day, as it was written, and gives what they were read as.
func readAs(t *testing.T, between, figures, days string, told Told) (Import, []string, []string) {
	t.Helper()
	rows := [][]string{{"kind", "name", "marked_kn", "in_service"}}
	day := strings.Fields(days)
	for i, figure := range strings.Fields(figures) {
		rows = append(rows, []string{"sling", "s" + figure, strings.ReplaceAll(figure, "_", " "), day[i%len(day)]})
	}
	got, err := ReadTables(File{Tables: []Table{{Rows: rows}}, Between: between}, told, nil, func() string { return "new" })
	if err != nil {
		t.Fatal(err)
	}
	figure, when := []string{}, []string{}
	for _, row := range rows[1:] {
		figure, when = append(figure, row[2]), append(when, row[3])
	}
	return got, figure, when
}

// Figures as European and American spreadsheets write them; expected values by hand. What can be read in two ways is asked about and
// nothing is taken over.
func TestFiguresOfAFileAreReadAsItWritesThem(t *testing.T) {
	for _, c := range []struct {
		between, figures, told, want, decimal string
		asked                                 string // the cell; empty: nothing is
	}{
		{"semicolon", "12,5 1,200 20", "", "12.5 1.200 20", DecimalComma, ""},
		{"semicolon", "1.234,5 1.200", "", "1234.5 1200", DecimalComma, ""},
		{"semicolon", "1.234.567 7", "", "1234567 7", DecimalComma, ""},
		{"comma", "1,234.5 1,200", "", "1234.5 1200", DecimalPoint, ""},
		{"comma", "1,234,567 0.5", "", "1234567 0.5", DecimalPoint, ""},
		{"comma", "12.345 20", "", "12.345 20", DecimalPoint, ""},
		{"tab", "1_234,5_kN 1'200", "", "1234.5 kN 1200", DecimalComma, ""},
		{"semicolon", "1,200 20", "", "1200 20", DecimalPoint, "C2"},
		{"semicolon", "20 1.200", "", "20 1.200", DecimalPoint, "C3"},
		{"comma", "1,200", "", "1200", DecimalPoint, "C2"},
		{"semicolon", "1,200 20", DecimalComma, "1.200 20", DecimalComma, ""},
		{"semicolon", "1,200 20", DecimalPoint, "1200 20", DecimalPoint, ""},
		{"semicolon", "0.125 0,125", "", "0.125 0,125", DecimalPoint, ""},
		{"comma", "-1 .5 +3", "", "-1 .5 +3", DecimalPoint, ""},
	} {
		got, figures, _ := readAs(t, c.between, c.figures, "2026-03-31", Told{Decimal: c.told})
		asked := ""
		if len(got.Dialect.Asked) > 0 {
			asked = got.Dialect.Asked[0].Cell
		}
		if strings.Join(figures, " ") != c.want || got.Dialect.Decimal != c.decimal || asked != c.asked {
			t.Errorf("%s %q told %q: %q, %s, asked %q", c.between, c.figures, c.told, figures, got.Dialect.Decimal, asked)
		}
		if c.asked != "" && got.Items != nil {
			t.Errorf("%q is taken over", c.figures)
		}
	}
	// Both ways in one file: the cell of the other way is wrong, and named.
	got, _, _ := readAs(t, "semicolon", "1.5 2,5", "2026-03-31", Told{})
	if got.Wrong != 1 || got.Rows[1].Faults[0].Cell != "C3" {
		t.Errorf("%+v", got.Rows)
	}
	got, _, _ = readAs(t, "semicolon", "1,200", "2026-03-31", Told{})
	if ask := got.Dialect.Asked[0]; ask.Value != "1,200" || ask.Reads[0] != (Reading{DecimalComma, "1.200"}) || ask.Reads[1] != (Reading{DecimalPoint, "1200"}) {
		t.Errorf("%+v", ask)
	}
}

// A figure of feet and inches, or of a word, is no number with marks between thousands.
func TestWhatIsNoFigureStaysAsItIs(t *testing.T) {
	d := Dialect{Decimal: DecimalComma}
	for text, want := range map[string]string{`6' 4"`: `6' 4"`, "12 kN": "12 kN", "2,5 t": "2.5 t", "1 200": "1200", "1 20": "1 20", "1,2,3": "1,2,3", "a,b": "a,b", "1.20,5": "1.20,5", "": ""} {
		if got := d.Plain(text); got != want {
			t.Errorf("%q reads %q, want %q", text, got, want)
		}
	}
}

// Days as they are written here and there; 46112 is 31 March 2026 as spreadsheets count (their day 1 is 1 January 1900).
func TestDaysOfAFileAreReadAsItWritesThem(t *testing.T) {
	for _, c := range []struct {
		between, days string
		told          Told
		want, order   string
		asked         string
	}{
		{"semicolon", "31.3.2026 3.4.26", Told{}, "2026-03-31 2026-04-03", DayFirst, ""},
		{"comma", "3/31/2026 3/4/2026", Told{}, "2026-03-31 2026-03-04", MonthFirst, ""},
		{"comma", "31/3/2026 3/4/2026", Told{}, "2026-03-31 2026-04-03", DayFirst, ""},
		{"comma", "3/4/2026", Told{}, "2026-04-03", DayFirst, "days"},
		{"comma", "3/4/2026", Told{Days: MonthFirst}, "2026-03-04", MonthFirst, ""},
		{"comma", "3/31/2026 31/3/2026", Told{}, "3/31/2026 2026-03-31", DayFirst, "days"},
		{"comma", "2026-03-31", Told{}, "2026-03-31", YearFirst, ""},
		{"comma", "46112", Told{}, "2026-03-31", YearFirst, "counts"},
		{"comma", "46112", Told{Counts: CountIsDay}, "2026-03-31", YearFirst, ""},
		{"comma", "46112", Told{Counts: CountIsNone}, "46112", YearFirst, ""},
		{"cells", "46112", Told{}, "2026-03-31", YearFirst, ""},
		{"comma", "29/2/2026", Told{}, "29/2/2026", DayFirst, ""},
	} {
		got, _, days := readAs(t, c.between, strings.Repeat("20 ", len(strings.Fields(c.days))), c.days, c.told)
		asked := ""
		if len(got.Dialect.Asked) > 0 {
			asked = got.Dialect.Asked[0].What
		}
		if strings.Join(days, " ") != c.want || got.Dialect.Days != c.order || asked != c.asked {
			t.Errorf("%q told %+v: %q, %s, asked %q", c.days, c.told, days, got.Dialect.Days, asked)
		}
		if wrong := strings.ContainsAny(c.want, "/") || c.told.Counts == CountIsNone; wrong != (got.Wrong > 0) {
			t.Errorf("%q told %+v: %d rows are wrong", c.days, c.told, got.Wrong)
		}
	}
}
