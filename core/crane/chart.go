package crane

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"elkstay/core/intake"
	"elkstay/core/units"
)

// A Pasted chart is a load chart as it was copied from a spreadsheet: rows of cells
// with tabs between them. Either booms along the top and radii down the side, or three
// columns: radius, boom, capacity.
type Pasted struct {
	Text     string `json:"text" minLength:"1" maxLength:"200000" doc:"The cells, tabs between columns, a line a row"`
	Lengths  string `json:"lengths" enum:"m,ft" doc:"What radii and booms are in"`
	Capacity string `json:"capacity" enum:"kg,t,lb" doc:"What capacities are in"`
}

// A ReadChart is a pasted chart, understood.
type ReadChart struct {
	Rows  []ChartRow `json:"rows" nullable:"false" doc:"By boom, then by radius"`
	Booms []float64  `json:"booms_m" nullable:"false"`
	Shape string     `json:"shape" enum:"grid,list" doc:"How the cells were laid out"`
}

// Question is the name under which every door reads a pasted chart.
const Question = "read-chart"

// maxChart is how many figures a chart may have.
const maxChart = 2000

var chartLengths = map[string]float64{"m": 1, "ft": 0.3048}

// Answer reads a Pasted chart and answers it. The error is intake.Faults: every wrong
// cell by its row and column, and then nothing is read.
func Answer(document []byte) (ReadChart, error) {
	var pasted Pasted
	if err := intake.Decode(document, &pasted); err != nil {
		return ReadChart{}, err
	}
	return pasted.Read()
}

// Read reads the cells. The error is intake.Faults.
func (p *Pasted) Read() (ReadChart, error) {
	var faults intake.Faults
	read := ReadChart{Rows: []ChartRow{}, Booms: []float64{}}
	table := [][]string{}
	for _, line := range strings.Split(strings.ReplaceAll(p.Text, "\r\n", "\n"), "\n") {
		if strings.TrimSpace(line) != "" {
			table = append(table, strings.Split(line, "\t"))
		}
	}
	if len(table) < 2 || len(table[0]) < 2 {
		faults.Add("body.text", len(table), "at least two rows and two columns, tabs between the cells",
			"this is no chart: %d rows; copy the cells from the spreadsheet itself, so that tabs stand between them", len(table))
		return read, faults
	}
	cells := chartCells{table: table, length: chartLengths[p.Lengths], mass: map[string]float64{"kg": 1, "t": 1000, "lb": units.UnitFor(units.Mass, units.US).Factor}[p.Capacity], faults: &faults}
	if len(table[0]) == 3 && !increasing(table[0][1:]) {
		read.Shape, read.Rows = "list", cells.list()
	} else {
		read.Shape, read.Rows = "grid", cells.grid()
	}
	if len(faults) == 0 {
		p.settle(&read, &faults)
	}
	if len(faults) > 0 {
		return ReadChart{Rows: []ChartRow{}, Booms: []float64{}}, faults
	}
	return read, nil
}

// chartCells are the cells of a chart as it was pasted.
type chartCells struct {
	table        [][]string
	length, mass float64 // m and kg of one of its own
	faults       *intake.Faults
}

// cell is one figure; false: a fault says what it is instead.
func (c *chartCells) cell(row, column int, what string, factor, most float64) (float64, bool) {
	text := strings.TrimSpace(c.table[row][column])
	name := fmt.Sprintf("body.text row %d column %d", row+1, column+1)
	if strings.HasPrefix(text, "=") {
		c.faults.Add(name, text, "the value, not the formula", "row %d, column %d holds a formula: paste values", row+1, column+1)
		return 0, false
	}
	value, err := strconv.ParseFloat(strings.ReplaceAll(text, " ", ""), 64)
	if err != nil {
		c.faults.Add(name, text, "a number with a decimal point", "row %d, column %d: %q is no %s", row+1, column+1, text, what)
		return 0, false
	}
	if !(value*factor > 0) || value*factor > most {
		c.faults.Add(name, text, fmt.Sprintf("more than 0 and at most %.6g", most/factor), "row %d, column %d: a %s of %s cannot be; is it in another unit?", row+1, column+1, what, text)
		return 0, false
	}
	return value * factor, true
}

// list reads rows of radius, boom and capacity.
func (c *chartCells) list() []ChartRow {
	rows := []ChartRow{}
	first := 0
	if _, err := strconv.ParseFloat(strings.TrimSpace(c.table[0][1]), 64); err != nil {
		first = 1 // a row of titles
	}
	for row := first; row < len(c.table); row++ {
		if len(c.table[row]) != 3 {
			c.faults.Add(fmt.Sprintf("body.text row %d", row+1), len(c.table[row]), "radius, boom, capacity", "row %d has %d cells, not three", row+1, len(c.table[row]))
			continue
		}
		radius, a := c.cell(row, 0, "radius", c.length, 200)
		boom, b := c.cell(row, 1, "boom", c.length, 300)
		kg, both := c.cell(row, 2, "capacity", c.mass, 3e6)
		if a && b && both {
			rows = append(rows, ChartRow{radius, boom, kg})
		}
	}
	return rows
}

// grid reads capacities, a row for each radius and a column for each boom.
func (c *chartCells) grid() []ChartRow {
	rows, columns := []ChartRow{}, len(c.table[0])
	booms := make([]float64, columns)
	for column := 1; column < columns; column++ {
		booms[column], _ = c.cell(0, column, "boom", c.length, 300)
	}
	for row := 1; row < len(c.table); row++ {
		if len(c.table[row]) > columns {
			c.faults.Add(fmt.Sprintf("body.text row %d", row+1), len(c.table[row]), fmt.Sprintf("%d cells", columns), "row %d has %d cells, the first has %d", row+1, len(c.table[row]), columns)
			continue
		}
		radius, ok := c.cell(row, 0, "radius", c.length, 200)
		for column := 1; column < len(c.table[row]) && ok; column++ {
			// An empty cell, or a dash: no such lift.
			if text := strings.TrimSpace(c.table[row][column]); text == "" || text == "-" || text == "–" || booms[column] == 0 {
				continue
			}
			if kg, ok := c.cell(row, column, "capacity", c.mass, 3e6); ok {
				rows = append(rows, ChartRow{radius, booms[column], kg})
			}
		}
	}
	return rows
}

// settle puts a chart in order and names what no chart can be: a lift twice, or more
// capacity further out.
func (p *Pasted) settle(read *ReadChart, faults *intake.Faults) {
	slices.SortFunc(read.Rows, func(a, b ChartRow) int {
		if a.BoomM != b.BoomM {
			return cmp.Compare(a.BoomM, b.BoomM)
		}
		return cmp.Compare(a.RadiusM, b.RadiusM)
	})
	if len(read.Rows) == 0 || len(read.Rows) > maxChart {
		faults.Add("body.text", len(read.Rows), fmt.Sprintf("1 to %d capacities", maxChart), "the chart has %d capacities", len(read.Rows))
	}
	for i := range read.Rows {
		row := read.Rows[i]
		if i == 0 || read.Rows[i-1].BoomM != row.BoomM {
			read.Booms = append(read.Booms, row.BoomM)
			continue
		}
		before := read.Rows[i-1]
		if before.RadiusM == row.RadiusM {
			faults.Add("body.text", row.RadiusM, "each radius once for each boom", "%.4g m with %.4g m of boom stands twice", row.RadiusM, row.BoomM)
		}
		if row.CapacityKg > before.CapacityKg {
			faults.Add("body.text", row.CapacityKg, "no more further out", "with %.4g m of boom the chart gives %.6g kg at %.4g m and more, %.6g kg, at %.4g m: are rows and columns swapped?",
				row.BoomM, before.CapacityKg, before.RadiusM, row.CapacityKg, row.RadiusM)
		}
	}
}

func increasing(cells []string) bool {
	last := 0.0
	for _, text := range cells {
		value, err := strconv.ParseFloat(strings.TrimSpace(text), 64)
		if err != nil || value <= last {
			return false
		}
		last = value
	}
	// Booms are within a few times of one another; a radius and its capacity are not.
	first, _ := strconv.ParseFloat(strings.TrimSpace(cells[0]), 64)
	return last < 10*first
}
