package locker

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"
)

// Ways in which a file writes what it holds.
const (
	DecimalPoint = "point"
	DecimalComma = "comma"

	YearFirst  = "year-first"
	DayFirst   = "day-first"
	MonthFirst = "month-first"

	CountIsDay  = "day"    // a bare number where a day belongs is a day as spreadsheets count them
	CountIsNone = "no-day" // it is a slip
)

// Told is what somebody says of how a file is written; empty: nothing, and it is told from the file.
type Told struct {
	Decimal string `query:"decimal" enum:"point,comma" doc:"What stands before decimals; absent: told from the file"`
	Days    string `query:"days" enum:"day-first,month-first" doc:"How days such as 3/4/2026 are written; absent: told from the file"`
	Counts  string `query:"counts" enum:"day,no-day" doc:"What a bare number such as 46112 is where a day belongs; absent: asked"`
}

// A Dialect is how a file was read.
type Dialect struct {
	Letters string `json:"letters" doc:"Such as UTF-8"`
	Between string `json:"between" enum:"comma,semicolon,tab,bar,cells" doc:"What stands between its cells"`
	Decimal string `json:"decimal" enum:"point,comma"`
	Days    string `json:"days" enum:"year-first,day-first,month-first"`
	Asked   []Ask  `json:"asked" nullable:"false" doc:"What cannot be told from the file: while any is open, nothing is taken over"`
}

// An Ask is something in a file that can be read in two ways.
type Ask struct {
	What  string    `json:"what" enum:"decimal,days,counts"`
	Cell  string    `json:"cell" doc:"The first of them, such as C4"`
	Value string    `json:"value"`
	Reads []Reading `json:"reads" nullable:"false"`
}

// A Reading is one way of reading it.
type Reading struct {
	As    string `json:"as" doc:"To be told"`
	Means string `json:"means" doc:"What the first of them then is"`
}

// dayColumns are the columns of days.
var dayColumns = []string{"in_service", "set_aside", "on", "next_due"}

// IsDayColumn reports whether a column holds days, by its header.
func IsDayColumn(header string) bool {
	return slices.Contains(dayColumns, strings.ToLower(strings.TrimSpace(header)))
}

// isFigure reports whether a column holds figures, by its header.
func isFigure(header string) bool {
	for c := range itemColumns {
		col := &itemColumns[c]
		if col.units != nil && slices.Contains(col.names(), header) {
			return true
		}
	}
	name, _, _ := strings.Cut(header, "_")
	return slices.Contains(chartColumns[2:], name)
}

var (
	figureCell = regexp.MustCompile(`^([+-]?)((?:\d{1,3}(?:[ '’\x{00a0}\x{202f}]\d{3})+|\d[\d.,]*|[.,]\d+)?[\d.,]*)(\s*[A-Za-z"']*)$`)
	groups     = regexp.MustCompile(`^[1-9]\d{0,2}([.,]\d{3})+$`)
	localDay   = regexp.MustCompile(`^(\d{1,2})([./-])(\d{1,2})[./-](\d{4}|\d{2})$`)
	between    = strings.NewReplacer(" ", "", "'", "", "’", "", "\u00a0", "", "\u202f", "")
)

// A cellAt is a cell of one of the tables of a file.
type cellAt struct {
	cell *string
	name string
}

// cellsOf are the filled cells of the columns that are asked for.
func cellsOf(tables []Table, wanted func(header string) bool) (cells []cellAt) {
	for t := range tables {
		if len(tables[t].Rows) == 0 {
			continue
		}
		for k, header := range headersOf(tables[t].Rows[0]) {
			if !wanted(header) {
				continue
			}
			for line := 1; line < len(tables[t].Rows); line++ {
				if row := tables[t].Rows[line]; k < len(row) && strings.TrimSpace(row[k]) != "" {
					row[k] = strings.TrimSpace(row[k])
					cells = append(cells, cellAt{&row[k], cellName(k, line)})
				}
			}
		}
	}
	return cells
}

// Localise rewrites the figures and the days of tables as the locker writes them, 1234.5 and 2026-03-31, and says in the dialect how
// they were read. What can be read in two ways is asked about; what is neither a figure nor a day stays as it is and is refused where
// it stands.
func (d *Dialect) Localise(tables []Table, told Told) {
	d.Asked = []Ask{}
	d.figures(cellsOf(tables, isFigure), told.Decimal)
	d.pairs(cellsOf(tables, func(header string) bool { return header == "elongation" }))
	d.days(cellsOf(tables, IsDayColumn), told)
}

// Plain is a figure of a table as a machine reads it, where a file is written in the dialect.
func (d *Dialect) Plain(text string) string {
	parts := figureCell.FindStringSubmatch(strings.TrimSpace(text))
	if parts == nil {
		return text
	}
	digits := between.Replace(parts[2])
	decimal, thousands := ".", ","
	if d.Decimal == DecimalComma {
		decimal, thousands = ",", "."
	}
	whole, fraction, has := strings.Cut(digits, decimal)
	if strings.Contains(whole, thousands) && !groups.MatchString(whole) || strings.Contains(fraction, thousands) || strings.Contains(fraction, decimal) {
		return text // no figure of this dialect
	}
	if whole = strings.ReplaceAll(whole, thousands, ""); has {
		whole += "." + fraction
	}
	return parts[1] + whole + parts[3]
}

// figures tells how decimals are written and rewrites them with a point.
func (d *Dialect) figures(cells []cellAt, told string) {
	var comma, point, open *cellAt // sure of the one, sure of the other, neither
	for i := range cells {
		parts := figureCell.FindStringSubmatch(*cells[i].cell)
		if parts == nil {
			continue
		}
		digits := between.Replace(parts[2])
		last := strings.LastIndexAny(digits, ".,")
		if last < 0 {
			continue
		}
		mark, both := digits[last], strings.Contains(digits, ".") && strings.Contains(digits, ",")
		repeated := strings.Count(digits, string(mark)) > 1
		switch {
		case !both && !repeated && groups.MatchString(digits):
			// 1,200: thousands or decimals. With a point, a file with commas between its cells is one of points.
			if open == nil && (mark == ',' || d.Between == "semicolon") {
				open = &cells[i]
			}
		case (mark == ',') != repeated:
			comma = &cells[i]
		default:
			point = &cells[i]
		}
	}
	switch {
	case told != "":
		d.Decimal = told
	case comma != nil && point == nil:
		d.Decimal = DecimalComma
	default:
		d.Decimal = DecimalPoint
		if comma == nil && point == nil && open != nil {
			as := func(decimal string) Reading {
				return Reading{decimal, (&Dialect{Decimal: decimal}).Plain(*open.cell)}
			}
			d.Asked = append(d.Asked, Ask{"decimal", open.name, *open.cell, []Reading{as(DecimalComma), as(DecimalPoint)}})
		}
	}
	for i := range cells {
		*cells[i].cell = d.Plain(*cells[i].cell)
	}
}

// pairs rewrites the cells that hold several figures.
func (d *Dialect) pairs(cells []cellAt) {
	if d.Decimal != DecimalComma {
		return
	}
	for i := range cells {
		*cells[i].cell = strings.ReplaceAll(*cells[i].cell, ",", ".")
	}
}

// days tells how days are written and rewrites them, the year first.
func (d *Dialect) days(cells []cellAt, told Told) {
	var day, month, open, count *cellAt
	for i := range cells {
		if _, err := strconv.Atoi(*cells[i].cell); err == nil && dayOf(*cells[i].cell) != *cells[i].cell && count == nil {
			count = &cells[i]
		}
		parts := localDay.FindStringSubmatch(*cells[i].cell)
		if parts == nil {
			continue
		}
		first, _ := strconv.Atoi(parts[1])
		second, _ := strconv.Atoi(parts[3])
		switch {
		case first > 12, parts[2] == ".": // days between points are written day first wherever they are
			day = &cells[i]
		case second > 12:
			month = &cells[i]
		case open == nil:
			open = &cells[i]
		}
	}
	switch {
	case told.Days != "":
		d.Days = told.Days
	case day != nil && month == nil:
		d.Days = DayFirst
	case month != nil && day == nil:
		d.Days = MonthFirst
	case open != nil || day != nil:
		d.Days = DayFirst
		one := open
		if one == nil {
			one = day
		}
		d.Asked = append(d.Asked, Ask{"days", one.name, *one.cell, []Reading{{DayFirst, dayIn(*one.cell, DayFirst)}, {MonthFirst, dayIn(*one.cell, MonthFirst)}}})
	default:
		d.Days = YearFirst
	}
	if count != nil && told.Counts == "" && d.Between != "cells" { // of a workbook a day is kept as its count
		d.Asked = append(d.Asked, Ask{"counts", count.name, *count.cell, []Reading{{CountIsDay, dayOf(*count.cell)}, {CountIsNone, "no day"}}})
	}
	for i := range cells {
		text := dayIn(*cells[i].cell, d.Days)
		if told.Counts != CountIsNone {
			text = dayOf(text)
		}
		*cells[i].cell = text
	}
}

// dayIn is a local day, the year first; any other text stays as it is.
func dayIn(text, days string) string {
	parts := localDay.FindStringSubmatch(text)
	if parts == nil {
		return text
	}
	day, month, year := parts[1], parts[3], parts[4]
	if days == MonthFirst {
		day, month = month, day
	}
	if len(year) == 2 {
		year = "20" + year
	}
	at, err := time.Parse("2006-1-2", fmt.Sprintf("%s-%s-%s", year, strings.TrimLeft(month, "0"), strings.TrimLeft(day, "0")))
	if err != nil {
		return text
	}
	return at.Format(time.DateOnly)
}
