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
func Read(data []byte) ([]locker.Table, error) {
	switch {
	case len(data) > MaxBytes:
		return nil, TooLarge(int64(len(data)))
	case len(bytes.TrimSpace(data)) == 0:
		return nil, refused(0, "a CSV or XLSX file", "the file is empty")
	case bytes.HasPrefix(data, []byte("PK\x03\x04")):
		return readXLSX(data)
	case bytes.HasPrefix(data, []byte("\xd0\xcf\x11\xe0")):
		return nil, refused("xls", "a CSV or XLSX file", "this is an old XLS file, or a locked one: save it as XLSX without a password")
	case bytes.HasPrefix(data, []byte("\xff\xfe")), bytes.HasPrefix(data, []byte("\xfe\xff")):
		return nil, refused("UTF-16", "CSV in UTF-8", "the file is written in UTF-16: save it as CSV in UTF-8")
	case bytes.IndexByte(data, 0) >= 0:
		return nil, refused("", "a CSV or XLSX file", "this is no table: it holds bytes that no text has")
	}
	return readCSV(bytes.TrimPrefix(data, []byte("\xef\xbb\xbf")))
}

func readCSV(data []byte) ([]locker.Table, error) {
	if !utf8.Valid(data) {
		return nil, refused("", "CSV in UTF-8", "the file is not written in UTF-8: letters outside ASCII would be lost")
	}
	reader := csv.NewReader(bytes.NewReader(data))
	reader.FieldsPerRecord = -1
	rows, cells := [][]string{}, 0
	for {
		row, err := reader.Read()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return nil, refused("", "cells between commas, in double quotes where they hold one", "the file is no readable CSV: %s", err)
		}
		rows = append(rows, row)
		cells += len(row)
		if refusal := bounded(len(rows), len(row), cells); refusal != nil {
			return nil, refusal
		}
		if len(row) > len(rows[0]) {
			return nil, refused(len(row), fmt.Sprintf("%d cells, as in the first row", len(rows[0])),
				"line %d has %d cells and the first row has %d: is there a comma inside a number or a text?", len(rows), len(row), len(rows[0]))
		}
	}
	table := locker.Table{Rows: rows}
	return settled([]locker.Table{table}, formulas(table))
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
	return settled(tables, found.formulas)
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
