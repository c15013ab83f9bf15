package locker

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"elkstay/core/crane"
	"elkstay/core/gear"
	"elkstay/core/units"
)

// The tables that a locker is written in: one row an item, an inspection, a figure of a
// crane's chart.
const (
	Items       = "items"
	Inspections = "inspections"
	Charts      = "charts"
)

// Tables lists the tables.
func Tables() []string { return []string{Items, Inspections, Charts} }

// clears empties a field on import; an empty cell leaves it as it is.
const clears = "-"

// number is how a column of figures is read: what one of its units is in SI.
type number struct {
	unit   string
	factor float64
}

// names lists the headers under which a column may stand, the metric one first.
func (c *column) names() []string {
	if len(c.units) == 0 {
		return []string{c.name}
	}
	list := make([]string, len(c.units))
	for i, u := range c.units {
		list[i] = c.name + "_" + u.unit
	}
	return list
}

var (
	poundForce = units.UnitFor(units.Force, units.US).Factor
	forces     = []number{{"kn", 1}, {"lbf", poundForce}, {"kgf", units.Gravity / 1000}}
	across     = []number{{"mm", 0.001}, {"in", units.UnitFor(units.Diameter, units.US).Factor}}
	lengths    = []number{{"m", 1}, {"ft", units.UnitFor(units.Height, units.US).Factor}}
	masses     = []number{{"kg", 1}, {"lb", units.UnitFor(units.Mass, units.US).Factor}}
)

func figures(name string, kinds []number, field func(*Item) **float64) column {
	return column{name: name, units: kinds,
		get: func(it *Item) string {
			v := *field(it)
			if v == nil {
				return ""
			}
			return plain(*v / kinds[0].factor)
		},
		set: func(it *Item, text string) error {
			if text == "" {
				*field(it) = nil
				return nil
			}
			v, err := strconv.ParseFloat(text, 64)
			if err != nil || math.IsInf(v, 0) || math.IsNaN(v) {
				return fmt.Errorf("%q is no number", text)
			}
			*field(it) = &v
			return nil
		},
	}
}

// plain writes a figure with what precision it has and no more than it needs.
func plain(v float64) string {
	return strconv.FormatFloat(math.Round(v*1e9)/1e9, 'f', -1, 64)
}

func text(name string, field func(*Item) *string) column {
	return column{name: name, get: func(it *Item) string { return *field(it) }, set: func(it *Item, s string) error { *field(it) = s; return nil }}
}

var bare = []number{}

// itemColumns are the columns of the items' table.
var itemColumns = []column{
	text("id", func(it *Item) *string { return &it.ID }),
	text("kind", func(it *Item) *string { return &it.Kind }),
	text("name", func(it *Item) *string { return &it.Name }),
	text("serial", func(it *Item) *string { return &it.Serial }),
	figures("marked", forces, func(it *Item) **float64 { return &it.MarkedKn }),
	figures("breaking", forces, func(it *Item) **float64 { return &it.BreakingKn }),
	figures("diameter", across, func(it *Item) **float64 { return &it.DiameterM }),
	figures("length", lengths, func(it *Item) **float64 { return &it.LengthM }),
	{name: "elongation", get: writeElongation, set: readElongation},
	simple("dynamic_factor", func(it *Item) **float64 { return &it.DynamicFactor }),
	simple("efficiency", func(it *Item) **float64 { return &it.Efficiency }),
	figures("bend", across, func(it *Item) **float64 { return &it.BendM }),
	simple("friction", func(it *Item) **float64 { return &it.Friction }),
	{name: "conditions", get: func(it *Item) string { return strings.Join(it.Conditions, " ") }, set: func(it *Item, s string) error { it.Conditions = strings.Fields(s); return nil }},
	figures("rigging", masses, func(it *Item) **float64 { return &it.RiggingKg }),
	figures("mass", masses, func(it *Item) **float64 { return &it.MassKg }),
	figures("payload", masses, func(it *Item) **float64 { return &it.PayloadKg }),
	simple("volume_m3", func(it *Item) **float64 { return &it.VolumeM3 }),
	simple("grip", func(it *Item) **float64 { return &it.Grip }),
	figures("winch", forces, func(it *Item) **float64 { return &it.WinchKn }),
	text("in_service", func(it *Item) *string { return &it.InService }),
	{name: "set_aside", get: func(it *Item) string { return asideField(it, func(s *SetAside) string { return s.On }) }, set: func(it *Item, s string) error { return setAside(it, s, func(a *SetAside) { a.On = s }) }},
	{name: "set_aside_why", get: func(it *Item) string { return asideField(it, func(s *SetAside) string { return s.Why }) }, set: func(it *Item, s string) error { return setAside(it, s, func(a *SetAside) { a.Why = s }) }},
	{name: "retired", get: func(it *Item) string {
		return asideField(it, func(s *SetAside) string { return map[bool]string{true: "yes", false: ""}[s.Retired] })
	}, set: func(it *Item, s string) error {
		if s != "" && s != "yes" && s != "no" {
			return fmt.Errorf("%q is neither yes nor no", s)
		}
		if s == "" && it.SetAside == nil {
			return nil
		}
		return setAside(it, s, func(a *SetAside) { a.Retired = s == "yes" })
	}},
	text("note", func(it *Item) *string { return &it.Note }),
}

func simple(name string, field func(*Item) **float64) column {
	c := figures(name, []number{{"", 1}}, field)
	c.units = bare
	return c
}

func asideField(it *Item, get func(*SetAside) string) string {
	if it.SetAside == nil {
		return ""
	}
	return get(it.SetAside)
}

func setAside(it *Item, s string, set func(*SetAside)) error {
	if it.SetAside == nil {
		if s == "" || s == "no" {
			return nil
		}
		it.SetAside = &SetAside{}
	} else {
		own := *it.SetAside
		it.SetAside = &own
	}
	set(it.SetAside)
	if it.SetAside.On == "" && it.SetAside.Why == "" {
		it.SetAside = nil
	}
	return nil
}

// An elongation table in one cell: load and strain in per cent, such as 10:1.9 20:3.1.
func writeElongation(it *Item) string {
	rows := make([]string, len(it.Elongation))
	for i, row := range it.Elongation {
		rows[i] = plain(row.LoadPct) + ":" + plain(row.StrainPct)
	}
	return strings.Join(rows, " ")
}

func readElongation(it *Item, s string) error {
	it.Elongation = nil
	for _, pair := range strings.Fields(s) {
		load, strain, ok := strings.Cut(pair, ":")
		a, errLoad := strconv.ParseFloat(load, 64)
		b, errStrain := strconv.ParseFloat(strain, 64)
		if !ok || errLoad != nil || errStrain != nil {
			return fmt.Errorf("%q is no row of an elongation table: write load and elongation in per cent, such as 10:1.9 20:3.1", pair)
		}
		it.Elongation = append(it.Elongation, gear.Stretch{LoadPct: a, StrainPct: b})
	}
	return nil
}

var (
	inspectionColumns = []string{"item", "serial", "on", "by", "result", "next_due", "note"}
	chartColumns      = []string{"item", "serial", "radius", "boom", "capacity"}
)

// Write writes items as one of the tables: a row of headers, then theirs.
func Write(table string, items []Item) [][]string {
	switch table {
	case Inspections:
		rows := [][]string{inspectionColumns}
		for i := range items {
			for _, look := range items[i].Inspections {
				rows = append(rows, []string{items[i].ID, items[i].Serial, look.On, look.By, look.Result, look.NextDue, look.Note})
			}
		}
		return rows
	case Charts:
		rows := [][]string{{"item", "serial", "radius_m", "boom_m", "capacity_kg"}}
		for i := range items {
			for _, row := range items[i].Chart {
				rows = append(rows, []string{items[i].ID, items[i].Serial, plain(row.RadiusM), plain(row.BoomM), plain(row.CapacityKg)})
			}
		}
		return rows
	}
	rows := make([][]string, 1, len(items)+1)
	for c := range itemColumns {
		rows[0] = append(rows[0], itemColumns[c].names()[0])
	}
	for i := range items {
		row := make([]string, len(itemColumns))
		for c := range itemColumns {
			row[c] = itemColumns[c].get(&items[i])
		}
		rows = append(rows, row)
	}
	return rows
}

// tableOf recognises a table by its headers.
func tableOf(headers []string) string {
	has := func(name string) bool { return slices.Contains(headers, name) }
	switch {
	case has("kind"):
		return Items
	case has("result") || has("on"):
		return Inspections
	case slices.ContainsFunc(headers, func(h string) bool { return strings.HasPrefix(h, "radius") }):
		return Charts
	}
	return ""
}

// chartRowOf keeps a chart's row by what it is for.
func chartRowOf(list []crane.ChartRow, row crane.ChartRow) []crane.ChartRow {
	for i := range list {
		if list[i].RadiusM == row.RadiusM && list[i].BoomM == row.BoomM {
			list[i].CapacityKg = row.CapacityKg
			return list
		}
	}
	return append(list, row)
}

// column is one column of the items' table.
type column struct {
	name  string // without its unit
	units []number
	get   func(*Item) string
	set   func(*Item, string) error // an empty text clears
}
