package locker

import (
	"fmt"
	"slices"
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
	Rows    []Row   `json:"rows" nullable:"false" doc:"The wrong ones first where there are more than 2,000"`
	LeftOut int     `json:"left_out" doc:"Rows beyond those given: they are counted, and taken over with the others"`
	New     int     `json:"new" doc:"Rows that make something"`
	Changed int     `json:"changed"`
	Same    int     `json:"same"`
	Wrong   int     `json:"wrong" doc:"While any is wrong, nothing is taken over"`
	Dialect Dialect `json:"dialect" doc:"How the file was read"`
	Items   []Item  `json:"-"` // those made or changed, whole; none while anything is wrong or asked
}

// A Table is one table of a file: its name, if it has one, and its cells, the first row
// its headers.
type Table struct {
	Name string
	Rows [][]string
}

// A File is what was sent in: its tables, and what its letters and cells are written in, as a Dialect names them.
type File struct {
	Tables  []Table
	Letters string
	Between string
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
// as a whole; wrong cells stand at their rows, what can be read in two ways in the dialect.
// It rewrites the tables as the locker writes them.
func ReadTables(file File, told Told, items []Item, newID func() string) (Import, error) {
	tables := file.Tables
	in := importer{held: slices.Clone(items), byID: map[string]int{}, bySer: map[string]int{}, serial: map[string]int{}, moved: map[int]bool{}, newID: newID}
	in.out.Rows, in.out.Dialect = []Row{}, Dialect{Letters: file.Letters, Between: file.Between}
	in.out.Dialect.Localise(tables, told)
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
	if in.out.Wrong == 0 && len(in.out.Dialect.Asked) == 0 {
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
