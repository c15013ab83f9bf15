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
	return intake.Fault{Location: "file", Value: string(said), Allowed: allowed, Message: message}
}

func known(headers, columns []string) (faults intake.Faults) {
	for _, h := range headers {
		if h != "" && !slices.Contains(columns, h) {
			faults.Add("file", h, strings.Join(columns, ", "), "there is no column %s in this table", h)
		}
	}
	return faults
}

// A place is a column of the file that has a column of the locker in it.
type place struct {
	at     int
	unit   number
	column *column
}

// placesOf finds the columns of a table by its headers; each may stand in it once.
func placesOf(headers []string) (places []place, faults intake.Faults) {
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
	return places, faults
}

// A line of a table of items, as its columns have it.
type itemLine struct {
	row     Row
	line    int // from 0, the headers
	headers []string
	cells   []string
	places  []place
}

// at is what stands in a column.
func (l *itemLine) at(p place) string {
	if p.at < len(l.cells) {
		return strings.TrimSpace(l.cells[p.at])
	}
	return ""
}

func (l *itemLine) wrong(p place, message, allowed string) {
	l.row.Faults = append(l.row.Faults, CellFault{cellName(p.at, l.line), l.headers[p.at], l.at(p), message, allowed})
}

// items reads a table of items, line by line, and says what each would change.
func (in *importer) items(headers []string, rows [][]string) (faults intake.Faults) {
	places, faults := placesOf(headers)
	if len(faults) > 0 {
		return faults
	}
	lines := map[int]int{} // of the item held at an index
	for line := 1; line < len(rows); line++ {
		if blank(rows[line]) {
			continue
		}
		l := itemLine{row: Row{Table: Items, Line: line + 1, Changes: []Change{}, Faults: []CellFault{}}, line: line, headers: headers, cells: rows[line], places: places}
		id, index := in.meant(&l)
		item := Item{ID: id}
		if index >= 0 {
			item = in.held[index]
		}
		before := item
		l.fill(&item)
		l.row.ID, l.row.Title = item.ID, strings.TrimSpace(item.Kind+" "+item.Name)
		if len(l.row.Faults) == 0 {
			l.bound(&item)
		}
		if first, twice := lines[index]; index >= 0 && twice {
			l.row.Faults = append(l.row.Faults, CellFault{"", "id", item.ID, fmt.Sprintf("line %d is about the same item", first), "each item once"})
		}
		lines[in.settle(&l.row, index, before, item)] = l.row.Line
		in.out.Rows = append(in.out.Rows, l.row)
	}
	return nil
}

// meant is the item of the locker that a line is about, by its id, else by kind and serial; −1: a new one.
func (in *importer) meant(l *itemLine) (id string, index int) {
	var kind, serial string
	for _, p := range l.places {
		switch p.column.name {
		case "id":
			id = l.at(p)
		case "kind":
			kind = strings.ToLower(l.at(p))
		case "serial":
			serial = l.at(p)
		}
	}
	if id != "" {
		if index, is := in.byID[id]; is {
			return id, index
		}
		return id, -1
	}
	k, there := in.bySer[kind+"\x00"+serial]
	if serial == "" || !there {
		return id, -1
	}
	if k < 0 {
		l.row.Faults = append(l.row.Faults, CellFault{"", "serial", serial, fmt.Sprintf("two %ss in the locker have the serial %s: name the id", kind, serial), "an id"})
	}
	return id, k
}

// fill puts what stands in a line into its item.
func (l *itemLine) fill(item *Item) {
	for _, p := range l.places {
		value := l.at(p)
		if value == "" || p.column.name == "id" {
			continue
		}
		if value == clears {
			value = ""
		}
		if p.column.name == "kind" {
			value = strings.ToLower(value)
		}
		if len(p.column.units) > 0 && value != "" {
			figure, message, allowed := inUnit(value, p.unit)
			if message != "" {
				l.wrong(p, message, allowed)
				continue
			}
			value = strconv.FormatFloat(figure, 'g', -1, 64)
		}
		if err := p.column.set(item, value); err != nil {
			l.wrong(p, err.Error(), allowedIn(p.column))
		}
	}
}

// bound names the cells whose figures cannot be.
func (l *itemLine) bound(item *Item) {
	for _, fault := range item.ranges() {
		field, _, _ := strings.Cut(strings.TrimPrefix(strings.TrimPrefix(fault.Location, "body."), "body"), "[")
		named := CellFault{"", field, fmt.Sprint(fault.Value), fault.Message, fault.Allowed}
		for _, p := range l.places {
			if of, _, _ := strings.Cut(field, "."); p.column.name == strings.TrimSuffix(strings.TrimSuffix(strings.TrimSuffix(of, "_kn"), "_m"), "_kg") {
				named.Cell, named.Column, named.Value = cellName(p.at, l.line), l.headers[p.at], l.at(p)
			}
		}
		l.row.Faults = append(l.row.Faults, named)
	}
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
