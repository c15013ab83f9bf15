// Package sheet reads tables from CSV and XLSX files that people send in, and writes
// them. What is no such file, is too large, or holds formulas in place of values is
// refused in words, as a whole: the caller gets every table or none.
package sheet

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
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
