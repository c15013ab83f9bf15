package sheet

import (
	"archive/zip"
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"

	"github.com/xuri/excelize/v2"

	"elkstay/core/locker"
)

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
