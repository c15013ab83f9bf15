package exchange

import (
	"slices"
	"strconv"
	"strings"

	"elkstay/core/locker"
)

// Heads of a surveyor's list, and what stands under them.
var surveyHeads = map[string][]string{
	"point": {"point", "pt", "no", "no.", "nr", "number", "id"},
	"code":  {"code", "desc", "description", "name", "layer", "kind", "feature", "remarks", "remark"},
	"east":  {"e", "east", "easting", "x", "e_m", "x_m", "east_m", "easting_m"},
	"north": {"n", "north", "northing", "y", "n_m", "y_m", "north_m", "northing_m"},
}

// A surveyed point.
type surveyed struct {
	name, code string
	at         [2]float64
}

// readSurvey reads a list of points, one a row, under heads or in the order point, north, east, height, code. Points that follow each
// other under the code of something that has an outline are its corners; any other is a thing of its own. asks: there were no heads,
// so that which of the two is east is nobody's but a guess.
func readSurvey(file locker.File) (plan []Feature, asks bool, err error) {
	if len(file.Tables) == 0 || len(file.Tables[0].Rows) == 0 {
		return nil, false, fault(0, "rows of points", "the list is empty")
	}
	rows := file.Tables[0].Rows
	column := map[string]int{}
	for k, head := range rows[0] {
		low := strings.ToLower(strings.TrimSpace(head))
		for what, names := range surveyHeads {
			if _, twice := column[what]; slices.Contains(names, low) && !twice {
				column[what] = k
			}
		}
	}
	_, east := column["east"]
	_, north := column["north"]
	first := 1
	if !east || !north {
		if len(rows[0]) < 3 {
			return nil, false, fault(strings.Join(rows[0], ", "), "heads such as point, easting, northing, code", "the first row says neither which column is east nor which is north")
		}
		column = map[string]int{"point": 0, "north": 1, "east": 2, "code": min(4, len(rows[0])-1)}
		if len(rows[0]) < 5 && column["code"] < 3 {
			delete(column, "code")
		}
		first, asks = 0, true
	}
	decimal := decimalOf(rows[first:], column["east"], column["north"])
	list := []surveyed{}
	for i := first; i < len(rows); i++ {
		cell := func(what string) string {
			if k, has := column[what]; has && k < len(rows[i]) {
				return strings.TrimSpace(rows[i][k])
			}
			return ""
		}
		if cell("east") == "" && cell("north") == "" {
			continue
		}
		p := surveyed{name: cell("point"), code: cell("code")}
		for axis, what := range [2]string{"east", "north"} {
			v, err := strconv.ParseFloat(decimal.Plain(cell(what)), 64)
			if err != nil || v < -1e8 || v > 1e8 {
				return nil, false, fault(cell(what), "metres, such as 512340.25", "row %d: %q is no coordinate", i+1, cell(what))
			}
			p.at[axis] = v
		}
		list = append(list, p)
	}
	return joined(list), asks, nil
}

// decimalOf tells how the coordinates of a list are written. They have no marks between thousands, so that one mark is that of
// decimals.
func decimalOf(rows [][]string, columns ...int) *locker.Dialect {
	d := &locker.Dialect{Decimal: locker.DecimalPoint}
	for _, row := range rows {
		for _, k := range columns {
			if k < len(row) && strings.Count(row[k], ",") == 1 && !strings.Contains(row[k], ".") {
				d.Decimal = locker.DecimalComma
			}
		}
	}
	return d
}

// joined makes shapes of points that follow each other under one code.
func joined(list []surveyed) (plan []Feature) {
	for i := 0; i < len(list); {
		one := &list[i]
		f := Feature{Name: one.code, Shape: Point, Points: [][2]float64{one.at}}
		if f.Name == "" {
			f.Name = one.name
		}
		f.Kind, f.Is = layered(one.code)
		n := 1
		if f.Kind == KindZone || f.Kind == KindWayOut || f.Kind == KindTarget && f.Is != "tree" {
			for i+n < len(list) && list[i+n].code == one.code {
				f.Points = append(f.Points, list[i+n].at)
				n++
			}
			switch {
			case len(f.Points) < 2:
			case len(f.Points) > 2 && (f.Kind == KindZone || f.Is != "fence" && f.Is != "power-line" && f.Kind == KindTarget):
				f.Shape = Area
				if last := len(f.Points) - 1; last > 2 && f.Points[0] == f.Points[last] {
					f.Points = f.Points[:last]
				}
			default:
				f.Shape = Line
			}
		}
		plan = append(plan, f)
		i += n
	}
	return plan
}
