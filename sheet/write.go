package sheet

import (
	"bytes"
	"encoding/csv"
	"slices"
	"strconv"
	"strings"

	"github.com/xuri/excelize/v2"

	"elkstay/core/locker"
)

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
	return has && slices.Contains([]string{"kn", "lbf", "mm", "in", "m", "ft", "kg", "lb", "pct", "deg", "factor"}, unit) || header == "efficiency" || header == "friction" || header == "number" || header == "wraps"
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
