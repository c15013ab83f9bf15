package sheet

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"runtime"
	"slices"
	"strings"
	"testing"
	"unicode/utf16"

	"github.com/xuri/excelize/v2"

	"elkstay/core/locker"
)

var table = locker.Table{Name: "items", Rows: [][]string{
	{"name", "serial", "breaking_kn", "note"},
	{"made-up line", "007", "80.25", "=as it looks"},
	{"line, 2", "", "", "-dashed"},
	{"tabbed", "", "", "\t=led by a tab"},
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
		file, err := Read(data)
		if err != nil {
			t.Fatalf("%s: %v", name, err)
		}
		for i, row := range file.Tables[0].Rows {
			for len(row) < len(table.Rows[i]) { // a spreadsheet leaves empty cells at the end away
				row = append(row, "")
			}
			if !slices.Equal(row, table.Rows[i]) {
				t.Errorf("%s row %d: got %q, want %q", name, i, row, table.Rows[i])
			}
		}
	}
	if !strings.Contains(string(text), `'=as it looks`) || !strings.Contains(string(text), "'\t=led by") {
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
		"begins as UTF-16":   []byte("\xff\xfek\x00i\x00\x00\xd8"),
		"are not known":      []byte("kind,name\nrope,Fl\x81gel\n"),
		"no text has":        []byte("kind,name\nrope,\x00\n"),
		"no readable CSV":    []byte("kind,name\nrope,\"open\n"),
		"comma inside":       []byte("kind,breaking_kn\nrope,12,5\n"),
	} {
		file, err := Read(data)
		if err == nil || !strings.Contains(err.Error(), says) || file.Tables != nil {
			t.Errorf("%q: %v", says, err)
		}
	}
}

// sheetOf packs the XML of one sheet as a workbook that a spreadsheet would open.
func sheetOf(t *testing.T, rows string) []byte {
	t.Helper()
	return packed(t, map[string][]byte{
		"[Content_Types].xml":        []byte(`<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>`),
		"_rels/.rels":                []byte(`<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`),
		"xl/workbook.xml":            []byte(`<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="items" sheetId="1" r:id="rId1"/></sheets></workbook>`),
		"xl/_rels/workbook.xml.rels": []byte(`<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`),
		"xl/worksheets/sheet1.xml":   []byte(`<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>` + rows + `</sheetData></worksheet>`),
	})
}

// A small file that would fill gigabytes is refused before it is laid out: allocation stays
// within what a large honest table takes.
func TestWhatWouldNotFitIsRefused(t *testing.T) {
	wide, empty, tall := strings.Builder{}, strings.Builder{}, strings.Builder{}
	for i := range 20_000 {
		fmt.Fprintf(&wide, `<row r="%d"><c r="XFD%d"><v>1</v></c></row>`, i+1, i+1)
		fmt.Fprintf(&tall, `<row r="%d"><c r="GR%d"><v>1</v></c></row>`, i+1, i+1)
	}
	for range 310_000 {
		empty.WriteString("<c/>")
	}
	for says, rows := range map[string]string{
		"reaches to column 16384":   wide.String(),
		"more than 300000 cells":    tall.String(),
		"reaches to column 201":     "<row>" + empty.String() + "</row>",
		"more than 20001 rows":      `<row r="1048576"><c r="A1048576"><v>1</v></c></row>`,
		"far more than a table doe": strings.Repeat("<x/>", 1_210_000),
	} {
		data := sheetOf(t, rows)
		if len(data) > MaxBytes {
			t.Fatalf("%d bytes packed", len(data))
		}
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		file, err := Read(data)
		runtime.ReadMemStats(&after)
		if live := after.TotalAlloc - before.TotalAlloc; live > 1<<30 {
			t.Errorf("%s: %d MB were allocated", says, live>>20)
		}
		if err == nil || !strings.Contains(err.Error(), says) && !strings.Contains(err.Error(), "unpacks to far more") || file.Tables != nil {
			t.Errorf("%s: %v", says, err)
		}
	}
	// What is left fits: two columns, one row far down within the bound.
	file, err := Read(sheetOf(t, `<row r="1"><c r="A1" t="inlineStr"><is><t>kind</t></is></c></row><row r="4"><c r="B4"><v>7</v></c></row>`))
	if err != nil || len(file.Tables) != 1 || len(file.Tables[0].Rows) != 4 || file.Tables[0].Rows[3][1] != "7" {
		t.Errorf("an honest sheet: %v %v", file, err)
	}
	if _, err := Read([]byte("kind" + strings.Repeat(",", 300) + "\n")); err == nil || !strings.Contains(err.Error(), "column 301") {
		t.Errorf("a wide CSV: %v", err)
	}
}

// What spreadsheets of other places write is read as it was meant: the letters, what stands between cells.
func TestFilesOfOtherPlacesAreRead(t *testing.T) {
	wide := func(text string, high bool) []byte {
		out := []byte{}
		for _, r := range utf16.Encode([]rune(text)) {
			if high {
				out = append(out, byte(r>>8), byte(r))
			} else {
				out = append(out, byte(r), byte(r>>8))
			}
		}
		return out
	}
	const plain = "kind;name\nrope;Flügel, grün\n"
	for says, c := range map[string]struct {
		data             []byte
		letters, between string
	}{
		"UTF-16 with its mark":    {wide("\ufeff"+plain, false), "UTF-16", "semicolon"},
		"UTF-16, high byte first": {wide("\ufeff"+plain, true), "UTF-16", "semicolon"},
		"UTF-16 without a mark":   {wide(plain, false), "UTF-16", "semicolon"},
		"western European":        {[]byte("kind;name\r\nrope;Fl\xfcgel, gr\xfcn\r\n"), "Windows-1252", "semicolon"},
		"tabs":                    {[]byte(strings.ReplaceAll(plain, ";", "\t")), "UTF-8", "tab"},
		"bars":                    {[]byte(strings.ReplaceAll(plain, ";", "|")), "UTF-8", "bar"},
		"said in its first row":   {[]byte("sep=;\r\n" + plain), "UTF-8", "semicolon"},
		"commas":                  {[]byte("kind,name\nrope,\"Flügel, grün\"\n"), "UTF-8", "comma"},
		"a semicolon in quotes":   {[]byte("kind,\"na;me;\"\nrope,\"Flügel, grün\"\n"), "UTF-8", "comma"},
	} {
		file, err := Read(c.data)
		if err != nil || file.Letters != c.letters || file.Between != c.between || len(file.Tables[0].Rows) != 2 || file.Tables[0].Rows[1][1] != "Flügel, grün" {
			t.Errorf("%s: %+v %v", says, file, err)
		}
	}
}

// A workbook of the 1904 system counts its days from four years later: 44650 of it is 46112 of others, 31 March 2026 (Microsoft's
// own note on the two systems gives the 1,462 days between them).
func TestDaysOfThe1904System(t *testing.T) {
	for since, want := range map[bool]string{false: "44650", true: "46112"} {
		book := excelize.NewFile()
		for cell, value := range map[string]any{"A1": "item", "B1": "on", "C1": "by", "A2": "x", "B2": 44650, "C2": 44650} {
			if err := book.SetCellValue("Sheet1", cell, value); err != nil {
				t.Fatal(err)
			}
		}
		var out bytes.Buffer
		if err := errors.Join(book.SetWorkbookProps(&excelize.WorkbookPropsOptions{Date1904: &since}), book.Write(&out)); err != nil {
			t.Fatal(err)
		}
		file, err := Read(out.Bytes())
		if err != nil || file.Tables[0].Rows[1][1] != want || file.Tables[0].Rows[1][2] != "44650" {
			t.Errorf("%v: %+v %v", since, file, err)
		}
	}
}
