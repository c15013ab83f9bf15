package locker

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"elkstay/core/crane"
)

// each reads a table whose rows belong to items.
func (in *importer) each(table string, headers []string, rows [][]string, read func(*Row, func(string) (string, string))) {
	for line := 1; line < len(rows); line++ {
		cells := rows[line]
		if blank(cells) {
			continue
		}
		row := Row{Table: table, Line: line + 1, Changes: []Change{}, Faults: []CellFault{}}
		cell := func(name string) (value, where string) {
			if i := slices.Index(headers, name); i >= 0 {
				where = cellName(i, line)
				if i < len(cells) {
					value = strings.TrimSpace(cells[i])
				}
			}
			return value, where
		}
		read(&row, cell)
		if len(row.Faults) > 0 {
			row.Does = RowWrong
		}
		in.out.Rows = append(in.out.Rows, row)
	}
}

// owner finds the item that a row belongs to; -1: none, and the row says so.
func (in *importer) owner(row *Row, cell func(string) (string, string)) int {
	id, where := cell("item")
	if id != "" {
		if i, is := in.byID[id]; is {
			row.ID, row.Title = id, in.held[i].Name
			return i
		}
		row.Faults = append(row.Faults, CellFault{where, "item", id, fmt.Sprintf("there is no item %s in the locker or in this file", id), "the id of an item"})
		return -1
	}
	serial, where := cell("serial")
	i, is := in.serial[serial]
	switch {
	case serial == "" || !is:
		row.Faults = append(row.Faults, CellFault{where, "serial", serial, "the row names no item that is there", "the id or the serial of an item"})
		return -1
	case i < 0:
		row.Faults = append(row.Faults, CellFault{where, "serial", serial, fmt.Sprintf("two items have the serial %s: name the id", serial), "the id of an item"})
		return -1
	}
	row.ID, row.Title = in.held[i].ID, in.held[i].Name
	return i
}

func (in *importer) inspection(row *Row, cell func(string) (string, string)) {
	i := in.owner(row, cell)
	if i < 0 {
		return
	}
	get := func(name string) string { value, _ := cell(name); return value }
	look := Inspection{On: get("on"), By: get("by"), Result: strings.ToLower(get("result")), NextDue: get("next_due"), Note: get("note")}
	alone := Item{ID: "x", Kind: Block, Name: "x", Inspections: []Inspection{look}}
	for _, fault := range alone.ranges() {
		field := fault.Location[strings.LastIndexByte(fault.Location, '.')+1:]
		value, where := cell(field)
		row.Faults = append(row.Faults, CellFault{where, field, value, fault.Message, fault.Allowed})
	}
	if len(row.Faults) > 0 {
		return
	}
	item := in.held[i]
	row.Does = RowNew
	for k, other := range item.Inspections {
		if other.On == look.On && other.By == look.By {
			if other == look {
				row.Does = RowSame
				return
			}
			row.Does = RowMoved
			row.Changes = append(row.Changes, Change{"inspection of " + look.On, other.Result + " " + other.NextDue, look.Result + " " + look.NextDue})
			item.Inspections = slices.Clone(item.Inspections)
			item.Inspections[k] = look
		}
	}
	if row.Does == RowNew {
		row.Changes = append(row.Changes, Change{"inspection of " + look.On, "", strings.TrimSpace(look.Result + " " + look.NextDue)})
		item.Inspections = append(slices.Clone(item.Inspections), look)
	}
	item.Settle()
	in.held[i], in.moved[i] = item, true
}

func (in *importer) chart(row *Row, cell func(string) (string, string), length, mass float64) {
	i := in.owner(row, cell)
	if i < 0 {
		return
	}
	figure := func(name string, factor, most float64) float64 {
		value, where := cell(name)
		v, err := strconv.ParseFloat(value, 64)
		if err != nil || !(v*factor > 0) || v*factor > most {
			row.Faults = append(row.Faults, CellFault{where, name, value, fmt.Sprintf("%q is no %s", value, name), fmt.Sprintf("a number above 0 and at most %.6g", most/factor)})
			return 0
		}
		return v * factor
	}
	read := crane.ChartRow{RadiusM: figure("radius", length, 200), BoomM: figure("boom", length, 300), CapacityKg: figure("capacity", mass, 3e6)}
	item := in.held[i]
	if item.Kind != Crane {
		_, where := cell("item")
		row.Faults = append(row.Faults, CellFault{where, "item", item.ID, fmt.Sprintf("%s is a %s: only a crane has a chart", item.Name, item.Kind), "the id of a crane"})
	}
	if len(row.Faults) > 0 {
		return
	}
	if slices.Contains(item.Chart, read) {
		row.Does = RowSame
		return
	}
	row.Does = RowNew
	was := ""
	for _, other := range item.Chart {
		if other.RadiusM == read.RadiusM && other.BoomM == read.BoomM {
			row.Does, was = RowMoved, plain(other.CapacityKg)+" kg"
		}
	}
	row.Changes = append(row.Changes, Change{fmt.Sprintf("chart at %s m, boom %s m", plain(read.RadiusM), plain(read.BoomM)), was, plain(read.CapacityKg) + " kg"})
	item.Chart = chartRowOf(slices.Clone(item.Chart), read)
	item.Settle()
	in.held[i], in.moved[i] = item, true
}
