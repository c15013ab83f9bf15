package sheet

import (
	"archive/zip"
	"bytes"
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"

	"elkstay/core/locker"
)

var table = locker.Table{Name: "items", Rows: [][]string{
	{"name", "serial", "breaking_kn", "note"},
	{"made-up line", "007", "80.25", "=as it looks"},
	{"line, 2", "", "", "-dashed"},
}}

func TestTablesReadBackAsTheyWereWritten(t *testing.T) {
	text, err := CSV(table)
	if err != nil {
		t.Fatal(err)
	}
	book, err := XLSX([]locker.Table{table, {Name: "charts", Rows: [][]string{{"radius_m"}, {"6.5"}}}})
	if err != nil {
		t.Fatal(err)
	}
	for name, data := range map[string][]byte{"CSV": text, "CSV with a mark": append([]byte("\xef\xbb\xbf"), text...), "XLSX": book} {
		tables, err := Read(data)
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		for i, row := range tables[0].Rows {
			for len(row) < len(table.Rows[i]) { // a spreadsheet leaves empty cells at the end away
				row = append(row, "")
			}
			if !slices.Equal(row, table.Rows[i]) {
				t.Errorf("%s row %d: got %q, want %q", name, i, row, table.Rows[i])
			}
		}
	}
	if !strings.Contains(string(text), `'=as it looks`) {
		t.Errorf("a spreadsheet would run %s", text)
	}
	// A general-purpose library reads figures as figures and texts as texts.
	read, err := excelize.OpenReader(bytes.NewReader(book))
	if err != nil {
		t.Fatal(err)
	}
	for cell, want := range map[string]excelize.CellType{"C2": excelize.CellTypeUnset, "B2": excelize.CellTypeInlineString} {
		if kind, err := read.GetCellType("items", cell); err != nil || kind != want {
			t.Errorf("%s is of type %v (%v), want %v", cell, kind, err, want)
		}
	}
}

// packed makes a packed file of parts.
func packed(t *testing.T, parts map[string][]byte) []byte {
	t.Helper()
	var out bytes.Buffer
	archive := zip.NewWriter(&out)
	for name, data := range parts {
		part, err := archive.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		if _, err := part.Write(data); err != nil {
			t.Fatal(err)
		}
	}
	if err := archive.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func TestBadFilesAreRefused(t *testing.T) {
	book := excelize.NewFile()
	for cell, value := range map[string]any{"A1": "kind", "B1": "breaking_kn", "A2": "rope"} {
		if err := book.SetCellValue("Sheet1", cell, value); err != nil {
			t.Fatal(err)
		}
	}
	if err := book.SetCellFormula("Sheet1", "B2", "40*2"); err != nil {
		t.Fatal(err)
	}
	var formula bytes.Buffer
	if err := book.Write(&formula); err != nil {
		t.Fatal(err)
	}
	bomb := packed(t, map[string][]byte{"xl/workbook.xml": []byte("<workbook/>"), "xl/worksheets/sheet1.xml": bytes.Repeat([]byte(" "), 90<<20)})
	if len(bomb) > MaxBytes {
		t.Fatalf("the bomb is %d bytes: it must be small", len(bomb))
	}
	many := map[string][]byte{}
	for i := range maxParts + 1 {
		many[fmt.Sprintf("part%d", i)] = nil
	}
	half := formula.Bytes()[:formula.Len()/2]
	for says, data := range map[string][]byte{
		"is empty":           []byte(" \n"),
		"50.0 MB":            make([]byte, 50<<20),
		"far more than it":   bomb,
		"parts inside":       packed(t, many),
		"and no XLSX":        packed(t, map[string][]byte{"letter.txt": []byte("hello")}),
		"formulas (B2)":      formula.Bytes(),
		"hold formulas (C2)": []byte("kind,name,breaking_kn\nrope,a,=40*2\n"),
		"damaged":            half,
		"old XLS":            []byte("\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1 and so on"),
		"UTF-16":             []byte("\xff\xfek\x00i\x00"),
		"not written in":     []byte("kind,name\nrope,Fl\xfcgel\n"),
		"no text has":        []byte("kind,name\nrope,\x00\n"),
		"no readable CSV":    []byte("kind,name\nrope,\"open\n"),
		"comma inside":       []byte("kind,breaking_kn\nrope,12,5\n"),
	} {
		tables, err := Read(data)
		if err == nil || !strings.Contains(err.Error(), says) || tables != nil {
			t.Errorf("%q: %v", says, err)
		}
	}
}
