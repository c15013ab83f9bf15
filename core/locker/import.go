package locker

import (
	"encoding/json"
	"errors"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"elkstay/core/intake"
)

// What a row of an import does.
const (
	RowNew   = "new"
	RowMoved = "change"
	RowSame  = "same"
	RowWrong = "wrong"
)

// A CellFault is a cell that cannot be read.
type CellFault struct {
	Cell    string `json:"cell" doc:"Such as E14; empty: the row as a whole"`
	Column  string `json:"column"`
	Value   string `json:"value"`
	Message string `json:"message"`
	Allowed string `json:"allowed"`
}

// A Change is one field that a row would change.
type Change struct {
	Field string `json:"field"`
	From  string `json:"from"`
	To    string `json:"to"`
}

// A Row is what one row of a file would do.
type Row struct {
	Table   string      `json:"table" enum:"items,inspections,charts"`
	Line    int         `json:"line" doc:"Its line in the file, from 1"`
	Does    string      `json:"does" enum:"new,change,same,wrong"`
	ID      string      `json:"id" doc:"Of the item; empty: to be made"`
	Title   string      `json:"title" doc:"What it is about"`
	Changes []Change    `json:"changes" nullable:"false"`
	Faults  []CellFault `json:"faults" nullable:"false"`
}

// An Import is what a file would do to the locker.
type Import struct {
	Rows    []Row  `json:"rows" nullable:"false" doc:"The wrong ones first where there are more than 2,000"`
	LeftOut int    `json:"left_out" doc:"Rows beyond those given: they are counted, and taken over with the others"`
	New     int    `json:"new" doc:"Rows that make something"`
	Changed int    `json:"changed"`
	Same    int    `json:"same"`
	Wrong   int    `json:"wrong" doc:"While any is wrong, nothing is taken over"`
	Items   []Item `json:"-"` // those made or changed, whole
}

// A Table is one table of a file: its name, if it has one, and its cells, the first row
// its headers.
type Table struct {
	Name string
	Rows [][]string
}

// maxRows is how many rows a file may have.
const maxRows = 20_000

type importer struct {
	out    Import
	held   []Item
	byID   map[string]int
	bySer  map[string]int // kind and serial; -1: more than one
	serial map[string]int // serial alone; -1: more than one
	moved  map[int]bool
	newID  func() string
}

// ReadTables works out what the tables of a file would do to a locker that holds the
// items given. newID makes ids for new items. The error, intake.Faults, is of the file
// as a whole; wrong cells stand at their rows.
func ReadTables(tables []Table, items []Item, newID func() string) (Import, error) {
	in := importer{held: slices.Clone(items), byID: map[string]int{}, bySer: map[string]int{}, serial: map[string]int{}, moved: map[int]bool{}, newID: newID}
	in.out.Rows = []Row{}
	for i := range in.held {
		in.know(i)
	}
	var faults intake.Faults
	seen := 0
	for _, kind := range Tables() {
		for _, table := range tables {
			if len(table.Rows) == 0 || tableOf(headersOf(table.Rows[0])) != kind {
				continue
			}
			seen++
			if len(table.Rows) > maxRows {
				faults.Add("file", len(table.Rows), fmt.Sprintf("at most %d rows", maxRows), "the table has %d rows", len(table.Rows))
				continue
			}
			faults.Join(in.table(kind, table))
		}
	}
	if seen == 0 {
		faults = append(faults, strange(tables))
	}
	if len(faults) > 0 {
		return Import{}, faults
	}
	for _, row := range in.out.Rows {
		switch row.Does {
		case RowNew:
			in.out.New++
		case RowMoved:
			in.out.Changed++
		case RowSame:
			in.out.Same++
		case RowWrong:
			in.out.Wrong++
		}
	}
	in.out.shorten()
	if in.out.Wrong == 0 {
		for i := range in.held {
			if in.moved[i] {
				in.out.Items = append(in.out.Items, in.held[i])
			}
		}
	}
	return in.out, nil
}

// What is shown of an import: so many rows, and of each so many wrong cells.
const (
	mostShown  = 2000
	mostFaulty = 20
)

// shorten leaves out of what is shown the rows beyond mostShown, those that are right first.
func (i *Import) shorten() {
	for k := range i.Rows {
		if row := &i.Rows[k]; len(row.Faults) > mostFaulty {
			more := len(row.Faults) - mostFaulty
			row.Faults = append(row.Faults[:mostFaulty], CellFault{Message: fmt.Sprintf("%d more cells of this row are wrong", more)})
		}
	}
	if len(i.Rows) <= mostShown {
		return
	}
	i.LeftOut = len(i.Rows) - mostShown
	shown := make([]Row, 0, mostShown)
	for _, wrong := range [2]bool{true, false} {
		for k := range i.Rows {
			if (i.Rows[k].Does == RowWrong) == wrong && len(shown) < mostShown {
				shown = append(shown, i.Rows[k])
			}
		}
	}
	i.Rows = shown
}

// know remembers where an item is held.
func (in *importer) know(i int) {
	it := &in.held[i]
	in.byID[it.ID] = i
	if it.Serial == "" {
		return
	}
	for key, by := range map[string]map[string]int{it.Kind + "\x00" + it.Serial: in.bySer, it.Serial: in.serial} {
		if other, twice := by[key]; twice && other != i {
			by[key] = -1
			continue
		}
		by[key] = i
	}
}

func headersOf(row []string) []string {
	headers := make([]string, len(row))
	for i, h := range row {
		headers[i] = strings.ToLower(strings.TrimSpace(h))
	}
	return headers
}

// strange says what is wrong with a file none of whose tables is known.
func strange(tables []Table) intake.Fault {
	first := []string{}
	for _, table := range tables {
		if len(table.Rows) > 0 {
			first = table.Rows[0]
			break
		}
	}
	allowed := "headers such as kind,name,serial,marked_kn,breaking_kn; or item,on,by,result; or item,radius_m,boom_m,capacity_kg"
	said := []rune(strings.Join(first, ","))
	if len(said) > 120 {
		said = append(said[:120], '…')
	}
	message := fmt.Sprintf("the first row (%s) is none of a locker's", string(said))
	if len(first) == 1 {
		for mark, name := range map[string]string{";": "semicolons", "\t": "tabs", "|": "bars"} {
			if strings.Count(first[0], mark) > 1 {
				message = fmt.Sprintf("the columns are separated by %s, not by commas: save the file again with commas", name)
			}
		}
	}
	return intake.Fault{Location: "file", Value: string(said), Allowed: allowed, Message: message}
}

// table reads one table into rows.
func (in *importer) table(kind string, table Table) (faults intake.Faults) {
	headers := headersOf(table.Rows[0])
	for i, h := range headers {
		if h != "" && slices.Contains(headers[:i], h) {
			faults.Add("file", h, "each column once", "the column %s stands twice", h)
		}
	}
	switch kind {
	case Items:
		faults.Join(in.items(headers, table.Rows))
	case Inspections:
		faults.Join(known(headers, inspectionColumns))
		if len(faults) == 0 {
			in.each(Inspections, headers, table.Rows, in.inspection)
		}
	case Charts:
		length, mass := 0.0, 0.0
		plainHeaders := make([]string, len(headers))
		for i, h := range headers {
			name, unit, _ := strings.Cut(h, "_")
			plainHeaders[i] = name
			switch name {
			case "radius", "boom":
				factor := map[string]float64{"m": 1, "ft": lengths[1].factor}[unit]
				if factor == 0 || length != 0 && length != factor {
					faults.Add("file", h, "radius_m and boom_m, or radius_ft and boom_ft", "the column %s must say its unit, the same for radius and boom", h)
				}
				length = factor
			case "capacity":
				if mass = map[string]float64{"kg": 1, "t": 1000, "lb": masses[1].factor}[unit]; mass == 0 {
					faults.Add("file", h, "capacity_kg, capacity_t or capacity_lb", "the column %s must say its unit", h)
				}
			}
		}
		faults.Join(known(plainHeaders, chartColumns))
		for _, must := range []string{"radius", "boom", "capacity"} {
			if !slices.Contains(plainHeaders, must) {
				faults.Add("file", strings.Join(headers, ","), strings.Join(chartColumns, ", "), "there is no column %s", must)
			}
		}
		if len(faults) == 0 {
			in.each(Charts, plainHeaders, table.Rows, func(row *Row, cell func(string) (string, string)) { in.chart(row, cell, length, mass) })
		}
	}
	return faults
}

func known(headers, columns []string) (faults intake.Faults) {
	for _, h := range headers {
		if h != "" && !slices.Contains(columns, h) {
			faults.Add("file", h, strings.Join(columns, ", "), "there is no column %s in this table", h)
		}
	}
	return faults
}

// items reads the items' table.
func (in *importer) items(headers []string, rows [][]string) (faults intake.Faults) {
	type place struct {
		at     int
		unit   number
		column *column
	}
	places := []place{}
	for i, h := range headers {
		if h == "" {
			continue
		}
		found := false
		for c := range itemColumns {
			col := &itemColumns[c]
			k := slices.Index(col.names(), h)
			if k < 0 {
				continue
			}
			for _, other := range places {
				if other.column == col {
					faults.Add("file", h, "one column of it", "%s stands in two columns, in two units: which one counts?", col.name)
				}
			}
			found = true
			one := place{at: i, column: col}
			if len(col.units) > 0 {
				one.unit = col.units[k]
			}
			places = append(places, one)
		}
		if !found {
			faults = append(faults, noColumn(h))
		}
	}
	if len(faults) > 0 {
		return faults
	}
	lines := map[int]int{} // of the item held at an index
	for line := 1; line < len(rows); line++ {
		cells := rows[line]
		if blank(cells) {
			continue
		}
		row := Row{Table: Items, Line: line + 1, Changes: []Change{}, Faults: []CellFault{}}
		at := func(p place) string {
			if p.at < len(cells) {
				return strings.TrimSpace(cells[p.at])
			}
			return ""
		}
		wrong := func(p place, message, allowed string) {
			row.Faults = append(row.Faults, CellFault{cellName(p.at, line), headers[p.at], at(p), message, allowed})
		}
		var id, kind, serial string
		for _, p := range places {
			switch p.column.name {
			case "id":
				id = at(p)
			case "kind":
				kind = strings.ToLower(at(p))
			case "serial":
				serial = at(p)
			}
		}
		index, is := -1, false
		if id != "" {
			if index, is = in.byID[id]; !is {
				index = -1
			}
		} else if serial != "" {
			if k, there := in.bySer[kind+"\x00"+serial]; there {
				if k < 0 {
					row.Faults = append(row.Faults, CellFault{"", "serial", serial, fmt.Sprintf("two %ss in the locker have the serial %s: name the id", kind, serial), "an id"})
				}
				index = k
			}
		}
		item := Item{ID: id}
		if index >= 0 {
			item = in.held[index]
		}
		before := item
		for _, p := range places {
			value := at(p)
			if value == "" || p.column.name == "id" {
				continue
			}
			if value == clears {
				value = ""
			}
			if p.column.name == "kind" {
				value = strings.ToLower(value)
			}
			if p.column.name == "in_service" || p.column.name == "set_aside" {
				value = dayOf(value)
			}
			if len(p.column.units) > 0 && value != "" {
				figure, message, allowed := inUnit(value, p.unit)
				if message != "" {
					wrong(p, message, allowed)
					continue
				}
				value = strconv.FormatFloat(figure, 'g', -1, 64)
			}
			if err := p.column.set(&item, value); err != nil {
				wrong(p, err.Error(), allowedIn(p.column))
			}
		}
		row.ID, row.Title = item.ID, strings.TrimSpace(item.Kind+" "+item.Name)
		if len(row.Faults) == 0 {
			for _, fault := range item.ranges() {
				field, _, _ := strings.Cut(strings.TrimPrefix(strings.TrimPrefix(fault.Location, "body."), "body"), "[")
				named := CellFault{"", field, fmt.Sprint(fault.Value), fault.Message, fault.Allowed}
				for _, p := range places {
					if of, _, _ := strings.Cut(field, "."); p.column.name == strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(of, "_kn"), "_m"), "_kg") {
						named.Cell, named.Column, named.Value = cellName(p.at, line), headers[p.at], at(p)
					}
				}
				row.Faults = append(row.Faults, named)
			}
		}
		if first, twice := lines[index]; index >= 0 && twice {
			row.Faults = append(row.Faults, CellFault{"", "id", item.ID, fmt.Sprintf("line %d is about the same item", first), "each item once"})
		}
		lines[in.settle(&row, index, before, item)] = row.Line
		in.out.Rows = append(in.out.Rows, row)
	}
	return nil
}

// ranges holds an item against the ranges of its fields and the rules between them.
func (it *Item) ranges() intake.Faults {
	id := it.ID
	if id == "" {
		it.ID = "new"
	}
	written, err := json.Marshal(it)
	it.ID = id
	if err != nil {
		return intake.Faults{{Location: "body", Message: err.Error()}}
	}
	var read Item
	var faults intake.Faults
	if errors.As(intake.Decode(written, &read), &faults) {
		return faults
	}
	return it.Faults("body")
}

// settle decides what a row of the items' table does, and returns where its item is held;
// -1: nowhere.
func (in *importer) settle(row *Row, index int, before, item Item) int {
	for c := range itemColumns {
		col := &itemColumns[c]
		if from, to := col.get(&before), col.get(&item); from != to && col.name != "id" {
			row.Changes = append(row.Changes, Change{col.names()[0], from, to})
		}
	}
	switch {
	case len(row.Faults) > 0:
		row.Does = RowWrong
		return index
	case index < 0:
		row.Does = RowNew
		if item.ID == "" {
			item.ID = in.newID()
		}
		in.held = append(in.held, item)
		index = len(in.held) - 1
		in.know(index)
		row.ID = item.ID
	case len(row.Changes) == 0:
		row.Does = RowSame
		return index
	default:
		row.Does = RowMoved
		in.held[index] = item
	}
	in.moved[index] = true
	return index
}

// inUnit reads a figure of a column: a bare number is in the column's unit, and a unit
// written behind it must be that one.
func inUnit(value string, unit number) (figure float64, message, allowed string) {
	allowed = "a number in " + unit.unit
	digits := strings.TrimRightFunc(value, func(r rune) bool {
		return r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r == '"' || r == '\'' || r == ' '
	})
	written := strings.ToLower(strings.TrimSpace(value[len(digits):]))
	if written != "" && written != unit.unit {
		return 0, fmt.Sprintf("%s is in %s, and the column is in %s: two units are mixed", value, written, unit.unit), allowed
	}
	digits = strings.TrimSpace(digits)
	if strings.Count(digits, ",") == 1 && !strings.Contains(digits, ".") {
		return 0, fmt.Sprintf("%q has a comma: write a decimal point, and no mark between thousands", value), allowed
	}
	figure, err := strconv.ParseFloat(digits, 64)
	if err != nil || math.IsInf(figure, 0) || math.IsNaN(figure) {
		return 0, fmt.Sprintf("%q is no number", value), allowed
	}
	return figure * unit.factor, "", ""
}

// noColumn says what is wrong with a header that is none.
func noColumn(h string) intake.Fault {
	allowed := []string{}
	for c := range itemColumns {
		col := &itemColumns[c]
		if len(col.units) > 0 && (h == col.name || strings.HasPrefix(h, col.name+"_") || strings.HasPrefix(h, col.name+" ")) {
			return intake.Fault{Location: "file", Value: h, Allowed: strings.Join(col.names(), " or "), Message: fmt.Sprintf("the column %s does not say its unit, or one that is not read", h)}
		}
		allowed = append(allowed, col.names()[0])
	}
	return intake.Fault{Location: "file", Value: h, Allowed: strings.Join(allowed, ", "), Message: fmt.Sprintf("there is no column %s in a locker", h)}
}

func allowedIn(col *column) string {
	switch col.name {
	case "elongation":
		return "rows such as 10:1.9 20:3.1"
	case "retired":
		return "yes or no"
	}
	return "a number"
}

func blank(cells []string) bool {
	return !slices.ContainsFunc(cells, func(c string) bool { return strings.TrimSpace(c) != "" })
}

// cellName is how a spreadsheet calls a cell: column and line, both from 0 here.
func cellName(column, line int) string {
	name := ""
	for column++; column > 0; column = (column - 1) / 26 {
		name = string(rune('A'+(column-1)%26)) + name
	}
	return name + strconv.Itoa(line+1)
}
