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
	MaxBytes  = 10 << 20 // of a file as it was sent
	maxInside = 80 << 20 // of an XLSX file unpacked
	maxParts  = 200      // files inside an XLSX file
	maxRatio  = 200      // unpacked over packed, of any part over a megabyte
	maxRows   = 100_000
	maxCells  = 2_000_000
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
	rows, err := reader.ReadAll()
	if err != nil {
		return nil, refused("", "cells between commas, in double quotes where they hold one", "the file is no readable CSV: %s", err)
	}
	for i, row := range rows {
		if len(row) > len(rows[0]) {
			return nil, refused(len(row), fmt.Sprintf("%d cells, as in the first row", len(rows[0])),
				"line %d has %d cells and the first row has %d: is there a comma inside a number or a text?", i+1, len(row), len(rows[0]))
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
	cells := 0
	for t := range tables {
		if len(tables[t].Rows) > maxRows {
			return nil, refused(len(tables[t].Rows), fmt.Sprintf("at most %d rows", maxRows), "the table has %d rows", len(tables[t].Rows))
		}
		for _, row := range tables[t].Rows {
			cells += len(row)
			for k, cell := range row {
				if looksLikeFormula(strings.TrimPrefix(cell, "'")) && strings.HasPrefix(cell, "'") {
					row[k] = cell[1:]
				}
			}
		}
	}
	if cells > maxCells {
		return nil, refused(cells, fmt.Sprintf("at most %d cells", maxCells), "the file has %d cells", cells)
	}
	return tables, nil
}

func looksLikeFormula(cell string) bool {
	return len(cell) > 1 && strings.ContainsRune("=+-@", rune(cell[0]))
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
		if total > maxInside || size > 1<<20 && size > maxRatio*int64(part.CompressedSize64) { //nolint:gosec // no larger than the file
			return nil, refused(part.Name, fmt.Sprintf("at most %d MB unpacked", maxInside>>20), "the file unpacks to far more than it is (%s): it was not opened", part.Name)
		}
		if err != nil && !errors.Is(err, io.EOF) {
			return nil, refused(part.Name, "an XLSX file", "the file is damaged at %s: %s", part.Name, err)
		}
	}
	return archive, nil
}

func readXLSX(data []byte) ([]locker.Table, error) {
	archive, err := unpacked(data)
	if err != nil {
		return nil, err
	}
	if !slices.ContainsFunc(archive.File, func(f *zip.File) bool { return f.Name == "xl/workbook.xml" }) {
		return nil, refused("zip", "a CSV or XLSX file", "this is a packed file, and no XLSX")
	}
	book, err := excelize.OpenReader(bytes.NewReader(data), excelize.Options{RawCellValue: true, UnzipSizeLimit: maxInside, UnzipXMLSizeLimit: maxInside})
	if err != nil {
		return nil, refused("", "a CSV or XLSX file", "the file is no readable XLSX: %s", err)
	}
	defer func() { _ = book.Close() }()
	tables, found := []locker.Table{}, []string{}
	for _, name := range book.GetSheetList() {
		rows, err := book.GetRows(name)
		if err != nil {
			return nil, refused(name, "a readable sheet", "the sheet %s cannot be read: %s", name, err)
		}
		tables = append(tables, locker.Table{Name: name, Rows: rows})
	}
	for _, part := range archive.File {
		if strings.HasPrefix(part.Name, "xl/worksheets/") && strings.HasSuffix(part.Name, ".xml") {
			cells, err := formulaCells(part)
			if err != nil {
				return nil, refused(part.Name, "a readable sheet", "%s cannot be read: %s", part.Name, err)
			}
			found = append(found, cells...)
		}
	}
	return settled(tables, found)
}

// formulaCells lists the cells of a sheet that hold formulas.
func formulaCells(part *zip.File) (cells []string, err error) {
	inside, err := part.Open()
	if err != nil {
		return nil, err
	}
	defer func() { _ = inside.Close() }()
	text, err := io.ReadAll(io.LimitReader(inside, maxInside))
	if err != nil || !bytes.Contains(text, []byte("<f")) {
		return nil, err
	}
	decoder, at := xml.NewDecoder(bytes.NewReader(text)), ""
	for {
		token, err := decoder.Token()
		if errors.Is(err, io.EOF) {
			return cells, nil
		}
		if err != nil {
			return nil, err
		}
		start, ok := token.(xml.StartElement)
		if !ok {
			continue
		}
		switch start.Name.Local {
		case "c":
			for _, a := range start.Attr {
				if a.Name.Local == "r" {
					at = a.Value
				}
			}
		case "f":
			cells = append(cells, at)
		}
	}
}

// CSV writes one table.
func CSV(table locker.Table) ([]byte, error) {
	var out bytes.Buffer
	writer := csv.NewWriter(&out)
	for i, row := range table.Rows {
		written := slices.Clone(row)
		for k, cell := range written {
			if looksLikeFormula(cell) && (i == 0 || !figures(table.Rows[0][k])) {
				written[k] = "'" + cell
			}
		}
		if err := writer.Write(written); err != nil {
			return nil, err
		}
	}
	writer.Flush()
	return out.Bytes(), writer.Error()
}

// figures reports whether a column holds figures, by its header.
func figures(header string) bool {
	_, unit, has := strings.Cut(header, "_")
	for ; strings.Contains(unit, "_"); _, unit, _ = strings.Cut(unit, "_") {
	}
	return has && slices.Contains([]string{"kn", "mm", "m", "kg", "pct", "deg", "factor"}, unit) || header == "efficiency" || header == "friction" || header == "number" || header == "wraps"
}

// XLSX writes tables as the sheets of one workbook.
func XLSX(tables []locker.Table) ([]byte, error) {
	book := excelize.NewFile()
	defer func() { _ = book.Close() }()
	bold, err := book.NewStyle(&excelize.Style{Font: &excelize.Font{Bold: true}})
	if err != nil {
		return nil, err
	}
	for i, table := range tables {
		if i == 0 {
			err = book.SetSheetName("Sheet1", table.Name)
		} else {
			_, err = book.NewSheet(table.Name)
		}
		if err != nil {
			return nil, err
		}
		if err := writeSheet(book, table, bold); err != nil {
			return nil, err
		}
	}
	var out bytes.Buffer
	err = book.Write(&out)
	return out.Bytes(), err
}

func writeSheet(book *excelize.File, table locker.Table, bold int) error {
	stream, err := book.NewStreamWriter(table.Name)
	if err != nil {
		return err
	}
	if err := stream.SetColWidth(1, max(1, len(table.Rows[0])), 14); err != nil {
		return err
	}
	if err := stream.SetPanes(&excelize.Panes{Freeze: true, YSplit: 1, TopLeftCell: "A2", ActivePane: "bottomLeft"}); err != nil {
		return err
	}
	for i, row := range table.Rows {
		cells := make([]any, len(row))
		for k, cell := range row {
			switch {
			case i == 0:
				cells[k] = excelize.Cell{StyleID: bold, Value: cell}
			case cell == "":
			default:
				cells[k] = cell
				if figure, err := strconv.ParseFloat(cell, 64); err == nil && figures(table.Rows[0][k]) {
					cells[k] = figure
				}
			}
		}
		at, err := excelize.CoordinatesToCellName(1, i+1)
		if err != nil {
			return err
		}
		if err := stream.SetRow(at, cells); err != nil {
			return err
		}
	}
	return stream.Flush()
}
