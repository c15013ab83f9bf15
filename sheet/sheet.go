// Package sheet reads tables from CSV and XLSX files that people send in, and writes
// them. What is no such file, is too large, or holds formulas in place of values is
// refused in words, as a whole: the caller gets every table or none.
package sheet

import (
	"archive/zip"
	"bytes"
	"encoding/csv"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/xuri/excelize/v2"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"

	"elkstay/core/intake"
	"elkstay/core/locker"
)

// Bounds of what is read.
const (
	MaxBytes    = 10 << 20 // of a file as it was sent
	maxInside   = 40 << 20 // of an XLSX file unpacked
	maxElsewise = 2 << 20  // of a part of it that is neither a sheet nor the texts of all sheets
	maxParts    = 200      // files inside an XLSX file
	maxRatio    = 200      // unpacked over packed, of any part over a megabyte
	maxSheets   = 20
	maxRows     = 20_001 // of a table, and of a sheet
	maxColumns  = 200
	maxCells    = 300_000   // of all tables, up to the last that is filled in each row
	maxElements = 1_200_000 // of the XML of all sheets
)

func refused(value any, allowed, format string, args ...any) error {
	var faults intake.Faults
	faults.Add("file", value, allowed, format, args...)
	return faults
}

// TooLarge is the refusal of a file of so many bytes.
func TooLarge(size int64) error {
	return refused(size, fmt.Sprintf("at most %d MB", MaxBytes>>20), "the file has %.1f MB, and a table has at most %d MB: nothing was read", float64(size)/(1<<20), MaxBytes>>20)
}

// Read reads the tables of a file. The error is intake.Faults.
func Read(data []byte) (locker.File, error) {
	switch {
	case len(data) > MaxBytes:
		return locker.File{}, TooLarge(int64(len(data)))
	case len(bytes.TrimSpace(data)) == 0:
		return locker.File{}, refused(0, "a CSV or XLSX file", "the file is empty")
	case bytes.HasPrefix(data, []byte("PK\x03\x04")):
		tables, err := readXLSX(data)
		return locker.File{Tables: tables, Letters: "XLSX", Between: "cells"}, err
	case bytes.HasPrefix(data, []byte("\xd0\xcf\x11\xe0")):
		return locker.File{}, refused("xls", "a CSV or XLSX file", "this is an old XLS file, or a locked one: save it as XLSX without a password")
	}
	text, letters, err := decoded(data)
	if err != nil {
		return locker.File{}, err
	}
	return readCSV(text, letters)
}

// decoded is a text in UTF-8 and what it was written in: UTF-8, UTF-16 by its mark or by its noughts, else the letters of western
// European spreadsheets.
func decoded(data []byte) (text []byte, letters string, err error) {
	wide := func(order unicode.Endianness) ([]byte, string, error) {
		text, err := unicode.UTF16(order, unicode.UseBOM).NewDecoder().Bytes(data)
		if err != nil || bytes.IndexByte(text, 0) >= 0 || bytes.ContainsRune(text, utf8.RuneError) {
			return nil, "", refused("UTF-16", "CSV", "the file begins as UTF-16 and does not go on so: save it again")
		}
		return text, "UTF-16", nil
	}
	odd, even := 0, 0
	for i := 0; i+1 < len(data) && i < 4000; i += 2 {
		if data[i] == 0 {
			even++
		}
		if data[i+1] == 0 {
			odd++
		}
	}
	third := min(len(data), 4000) / 6
	switch {
	case bytes.HasPrefix(data, []byte("\xff\xfe")), odd > third && even == 0:
		return wide(unicode.LittleEndian)
	case bytes.HasPrefix(data, []byte("\xfe\xff")), even > third && odd == 0:
		return wide(unicode.BigEndian)
	case bytes.IndexByte(data, 0) >= 0:
		return nil, "", refused("", "a CSV or XLSX file", "this is no table: it holds bytes that no text has")
	case utf8.Valid(data):
		return bytes.TrimPrefix(data, []byte("\xef\xbb\xbf")), "UTF-8", nil
	}
	text, err = charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil || bytes.ContainsRune(text, utf8.RuneError) {
		return nil, "", refused("", "CSV in UTF-8", "the file is written in letters that are not known: save it as CSV in UTF-8")
	}
	return text, "Windows-1252", nil
}

// separators are what stands between cells, and how a dialect names it.
var separators = []struct {
	mark rune
	name string
}{{',', "comma"}, {';', "semicolon"}, {'\t', "tab"}, {'|', "bar"}}

// separator tells what stands between the cells of a text: what its first row has most of outside quotes; and the text after a row
// that says so itself, as some spreadsheets write it.
func separator(text []byte) (mark rune, name string, rest []byte) {
	first, after, _ := bytes.Cut(text, []byte("\n"))
	said := strings.TrimRight(string(first), "\r")
	for _, one := range separators {
		if strings.EqualFold(said, "sep="+string(one.mark)) {
			return one.mark, one.name, after
		}
	}
	most := 0
	mark, name = separators[0].mark, separators[0].name
	for _, one := range separators {
		n, quoted := 0, false
		for _, r := range said {
			if r == '"' {
				quoted = !quoted
			} else if r == one.mark && !quoted {
				n++
			}
		}
		if n > most {
			most, mark, name = n, one.mark, one.name
		}
	}
	return mark, name, text
}

func readCSV(text []byte, letters string) (locker.File, error) {
	mark, name, text := separator(text)
	file := locker.File{Letters: letters, Between: name}
	reader := csv.NewReader(bytes.NewReader(text))
	reader.Comma, reader.FieldsPerRecord = mark, -1
	rows, cells := [][]string{}, 0
	for {
		row, err := reader.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return file, refused("", "cells between "+name+"s, in double quotes where they hold one", "the file is no readable CSV: %s", err)
		}
		rows = append(rows, row)
		cells += len(row)
		if refusal := bounded(len(rows), len(row), cells); refusal != nil {
			return file, refusal
		}
		if len(row) > len(rows[0]) {
			return file, refused(len(row), fmt.Sprintf("%d cells, as in the first row", len(rows[0])),
				"line %d has %d cells and the first row has %d: is there a %s inside a number or a text?", len(rows), len(row), len(rows[0]), name)
		}
	}
	table := locker.Table{Rows: rows}
	var err error
	file.Tables, err = settled([]locker.Table{table}, formulas(table))
	return file, err
}

// formulas lists the cells of a CSV table that a spreadsheet would take for formulas.
func formulas(table locker.Table) (cells []string) {
	for i, row := range table.Rows {
		for k, cell := range row {
			if strings.HasPrefix(cell, "=") {
				name, _ := excelize.CoordinatesToCellName(k+1, i+1)
				cells = append(cells, name)
			}
		}
	}
	return cells
}

// settled refuses tables with formulas, and takes the marks off cells that only look
// like one.
func settled(tables []locker.Table, formulas []string) ([]locker.Table, error) {
	if n := len(formulas); n > 0 {
		shown := strings.Join(formulas[:min(n, 8)], ", ")
		return nil, refused(shown, "values", "%d cells hold formulas (%s): paste values in their place, so that what is read is what you see", n, shown)
	}
	for t := range tables {
		for _, row := range tables[t].Rows {
			for k, cell := range row {
				if looksLikeFormula(strings.TrimPrefix(cell, "'")) && strings.HasPrefix(cell, "'") {
					row[k] = cell[1:]
				}
			}
		}
	}
	return tables, nil
}

// bounded refuses a table that has grown to more rows, columns or, with those before it, cells
// than are read.
func bounded(rows, columns, cells int) error {
	switch {
	case rows > maxRows:
		return refused(rows, fmt.Sprintf("at most %d rows", maxRows), "the table has more than %d rows", maxRows)
	case columns > maxColumns:
		return refused(columns, fmt.Sprintf("at most %d columns", maxColumns), "a row reaches to column %d; a table has at most %d: is something written far to the right?", columns, maxColumns)
	case cells > maxCells:
		return refused(cells, fmt.Sprintf("at most %d cells", maxCells), "the file has more than %d cells", maxCells)
	}
	return nil
}

// looksLikeFormula reports what a spreadsheet may take for a formula, blanks before it or not.
func looksLikeFormula(cell string) bool {
	bare := strings.TrimLeft(cell, " \t\r\n")
	return len(bare) > 1 && strings.ContainsRune("=+-@", rune(bare[0]))
}

// unpacked makes sure that a file unpacks to what it says and to no more than is read.
func unpacked(data []byte) (*zip.Reader, error) {
	archive, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, refused("", "a CSV or XLSX file", "the file is damaged: %s", err)
	}
	if len(archive.File) > maxParts {
		return nil, refused(len(archive.File), fmt.Sprintf("at most %d parts", maxParts), "the file has %d parts inside: this is no table", len(archive.File))
	}
	total := int64(0)
	for _, part := range archive.File {
		inside, err := part.Open()
		if err != nil {
			return nil, refused(part.Name, "an XLSX file", "the file is damaged at %s: %s", part.Name, err)
		}
		size, err := io.Copy(io.Discard, io.LimitReader(inside, maxInside-total+1))
		_ = inside.Close()
		total += size
		if size > maxElsewise && !isSheet(part.Name) && part.Name != textsPart {
			return nil, refused(part.Name, fmt.Sprintf("at most %d MB", maxElsewise>>20), "%s inside the file is larger than any table needs: it was not opened", part.Name)
		}
		if total > maxInside || size > 1<<20 && size > maxRatio*int64(part.CompressedSize64) { //nolint:gosec // no larger than the file
			return nil, refused(part.Name, fmt.Sprintf("at most %d MB unpacked", maxInside>>20), "the file unpacks to far more than it is (%s): it was not opened", part.Name)
		}
		if err != nil && !errors.Is(err, io.EOF) {
			return nil, refused(part.Name, "an XLSX file", "the file is damaged at %s: %s", part.Name, err)
		}
	}
	return archive, nil
}

// textsPart holds the texts of all sheets.
const textsPart = "xl/sharedStrings.xml"

func isSheet(part string) bool {
	return strings.HasPrefix(part, "xl/worksheets/") && strings.HasSuffix(part, ".xml")
}

func readXLSX(data []byte) ([]locker.Table, error) {
	archive, err := unpacked(data)
	if err != nil {
		return nil, err
	}
	if !slices.ContainsFunc(archive.File, func(f *zip.File) bool { return f.Name == "xl/workbook.xml" }) {
		return nil, refused("zip", "a CSV or XLSX file", "this is a packed file, and no XLSX")
	}
	// Counted before anything is laid out: a cell far to the right makes a long row of little.
	found := count{}
	sheets := 0
	for _, part := range archive.File {
		if !isSheet(part.Name) && part.Name != textsPart {
			continue
		}
		if isSheet(part.Name) {
			sheets++
		}
		if sheets > maxSheets {
			return nil, refused(sheets, fmt.Sprintf("at most %d sheets", maxSheets), "the file has more than %d sheets", maxSheets)
		}
		if err := found.part(part); err != nil {
			return nil, err
		}
	}
	book, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{RawCellValue: true, UnzipSizeLimit: maxInside, UnzipXMLSizeLimit: maxInside})
	if err != nil {
		return nil, refused("", "a CSV or XLSX file", "the file is no readable XLSX: %s", err)
	}
	defer func() { _ = book.Close() }()
	tables, cells := []locker.Table{}, 0
	for _, name := range book.GetSheetList() {
		table := locker.Table{Name: name}
		unreadable := func(err error) error {
			return refused(name, "a readable sheet", "the sheet %s cannot be read: %s", name, err)
		}
		rows, err := book.Rows(name)
		if err != nil {
			return nil, unreadable(err)
		}
		for filled := 0; rows.Next(); {
			row, err := rows.Columns()
			if err != nil {
				return nil, unreadable(err)
			}
			cells += len(row)
			if refusal := bounded(len(table.Rows)+1, len(row), cells); refusal != nil {
				return nil, refusal
			}
			table.Rows = append(table.Rows, row)
			if len(row) > 0 {
				filled = len(table.Rows)
			} else if len(table.Rows)-filled > maxRows {
				break
			}
		}
		if err := errors.Join(rows.Error(), rows.Close()); err != nil {
			return nil, unreadable(err)
		}
		// Empty rows at the end are none.
		for n := len(table.Rows); n > 0 && len(table.Rows[n-1]) == 0; n = len(table.Rows) {
			table.Rows = table.Rows[:n-1]
		}
		tables = append(tables, table)
	}
	if properties, err := book.GetWorkbookProps(); err == nil && properties.Date1904 != nil && *properties.Date1904 {
		shiftDays(tables)
	}
	return settled(tables, found.formulas)
}

// since1904 is how many days the count of a workbook of the 1904 system begins after that of others.
const since1904 = 1462

// shiftDays turns the counts of days of a workbook of the 1904 system into those of others.
func shiftDays(tables []locker.Table) {
	for t := range tables {
		for i, row := range tables[t].Rows {
			for k := range row {
				if i == 0 || k >= len(tables[t].Rows[0]) || !locker.IsDayColumn(tables[t].Rows[0][k]) {
					continue
				}
				if count, err := strconv.Atoi(row[k]); err == nil {
					row[k] = strconv.Itoa(count + since1904)
				}
			}
		}
	}
}

// count is what the sheets of a file hold, counted as their XML streams by.
type count struct {
	cells, elements int
	formulas        []string // where they stand; no more than are shown, and one
	texts           int
}

// part counts a part of the file.
func (c *count) part(part *zip.File) error {
	unreadable := func(err error) error {
		return refused(part.Name, "a readable sheet", "%s cannot be read: %s", part.Name, err)
	}
	inside, err := part.Open()
	if err != nil {
		return unreadable(err)
	}
	defer func() { _ = inside.Close() }()
	decoder := xml.NewDecoder(io.LimitReader(inside, maxInside))
	row, column, at := 0, 0, ""
	for {
		token, err := decoder.RawToken()
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return unreadable(err)
		}
		start, ok := token.(xml.StartElement)
		if !ok {
			continue
		}
		if c.elements++; c.elements > maxElements {
			return refused(c.elements, fmt.Sprintf("at most %d elements", maxElements), "the file holds far more than a table does: it was not opened")
		}
		switch start.Name.Local {
		case "row":
			row, column = row+1, 0
			if named, err := strconv.Atoi(attribute(start, "r")); err == nil {
				row = named
			}
		case "c":
			column++
			at = attribute(start, "r")
			before := column - 1
			if at != "" {
				if x, _, err := excelize.CellNameToCoordinates(at); err == nil {
					column = x
				}
			}
			c.cells += max(1, column-before)
		case "f":
			if c.formulas = append(c.formulas, at); len(c.formulas) > maxRows {
				return refused(at, "values", "the sheet holds formulas in place of values")
			}
		case "si":
			if c.texts++; c.texts > maxCells {
				return refused(c.texts, fmt.Sprintf("at most %d texts", maxCells), "the file has more than %d texts", maxCells)
			}
		}
		if refusal := bounded(row, column, c.cells); refusal != nil {
			return refusal
		}
	}
}

// attribute is the value of an attribute of an element, or "".
func attribute(start xml.StartElement, name string) string {
	for _, a := range start.Attr {
		if a.Name.Local == name {
			return a.Value
		}
	}
	return ""
}
