package bench

import (
	"encoding/json"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"elkstay/core/calc"
)

// A Field is one figure or choice of a request.
type Field struct {
	Path     string   `json:"path" doc:"As in stump.diameter_m or ties[1].line_m"`
	Label    string   `json:"label"`
	Unit     string   `json:"unit" enum:"kg/m³,kg·m²,kN/m,kN·m,m/s,MPa,GPa,°,%,kN,kg,kJ,mm,m³,m²,m,s,°C,J," doc:"Empty: a bare number or a word"`
	Doc      string   `json:"doc"`
	Min      *float64 `json:"min,omitempty"`
	Max      *float64 `json:"max,omitempty"`
	Above    bool     `json:"above,omitempty" doc:"Min itself is not allowed"`
	Whole    bool     `json:"whole,omitempty" doc:"Whole numbers alone"`
	Choices  []string `json:"choices,omitempty"`
	Number   bool     `json:"number,omitempty"`
	Flag     bool     `json:"flag,omitempty"`
	Required bool     `json:"required,omitempty"`
}

// units are read off the end of a name, the longest first.
var unitsOf = []struct{ suffix, unit string }{
	{"_kg_m3", "kg/m³"}, {"_kg_m2", "kg·m²"}, {"_kn_m", "kN/m"}, {"_knm", "kN·m"}, {"_m_s", "m/s"}, {"_ms", "m/s"}, {"_mpa", "MPa"}, {"_gpa", "GPa"}, {"_deg", "°"}, {"_pct", "%"},
	{"_kn", "kN"}, {"_kg", "kg"}, {"_kj", "kJ"}, {"_mm", "mm"}, {"_m3", "m³"}, {"_m2", "m²"}, {"_m", "m"}, {"_s", "s"}, {"_c", "°C"}, {"_j", "J"},
}

// words are names of the contract as a crew says them.
var words = map[string]string{"weak": "weak part", "cog": "balance", "mbs": "breaking strength", "wll": "working load", "stations": "station", "ties": "tie", "points": "point", "lines": "line", "slings": "sling", "loads": "load",
	"pulleys": "pulley", "ropes": "rope", "weighed": "weighing", "obstacles": "obstacle", "supports": "support", "reactions": "support", "legs": "leg", "places": "place", "series": "series"}

// named is a name of the contract in words, and its unit.
func named(name string) (label, unit string) {
	switch name {
	case "x", "y", "z", "piece_z":
		return strings.ReplaceAll(name, "_", " "), "m"
	}
	for _, one := range unitsOf {
		if rest, ok := strings.CutSuffix(name, one.suffix); ok {
			name, unit = rest, one.unit
			break
		}
	}
	label = strings.ReplaceAll(name, "_", " ")
	if word, ok := words[label]; ok {
		label = word
	} else if rest, ok := strings.CutPrefix(label, "cog "); ok {
		label = "balance " + rest
	}
	return label, unit
}

// fieldsOf lists the figures and choices of a request as a document has them, and those it leaves
// out that stand by themselves.
func fieldsOf(request reflect.Type, document any) []Field { return laid(request, document).Fields }

// A List is a list of a request, which may have more rows or fewer.
type List struct {
	Path  string `json:"path"`
	Label string `json:"label" doc:"Of one row"`
	Rows  int    `json:"rows"`
	Least int    `json:"least"`
	Most  int    `json:"most"`
	First any    `json:"first,omitempty" doc:"A row to begin with, of a list that may have none"`
}

// A Laid request is what can be typed of it.
type Laid struct {
	Fields []Field `json:"fields" nullable:"false"`
	Lists  []List  `json:"lists" nullable:"false"`
}

// mostRows is how many rows of one list can be typed.
const mostRows = 24

// LayOut lists what can be typed of a request of a kind. The error is a
// *calc.Problem.
func LayOut(kind calc.Kind, data []byte) (Laid, error) {
	document, err := generic(data)
	if err != nil {
		return Laid{}, calc.Refuse(kind.Name, err)
	}
	return laid(kind.Request, document), nil
}

func laid(request reflect.Type, document any) Laid {
	out := Laid{Fields: []Field{}, Lists: []List{}}
	out.walk(request, document, "", "")
	return out
}

// walk lays out a type with what a document has of it.
func (out *Laid) walk(t reflect.Type, value any, path, title string) {
	switch t = held(t); t.Kind() {
	case reflect.Struct:
		object, _ := value.(map[string]any)
		for i := range t.NumField() {
			out.field(t.Field(i), object, path, title)
		}
	case reflect.Slice:
		rows, _ := value.([]any)
		for i, row := range rows[:min(len(rows), mostRows)] {
			out.row(t.Elem(), row, i, path, title)
		}
	}
}

// held is what a type points to.
func held(t reflect.Type) reflect.Type {
	for t.Kind() == reflect.Pointer {
		t = t.Elem()
	}
	return t
}

// field lays out one field of a struct.
func (out *Laid) field(f reflect.StructField, object map[string]any, path, title string) {
	tag := f.Tag.Get("json")
	if f.Anonymous && tag == "" {
		out.walk(f.Type, object, path, title)
		return
	}
	name, options, _ := strings.Cut(tag, ",")
	if !f.IsExported() || name == "" || name == "-" {
		return
	}
	inner, has := object[name]
	at := strings.TrimPrefix(path+"."+name, ".")
	label, unit := named(name)
	own := label
	if title != "" {
		own = title + ", " + label
	}
	kind := held(f.Type)
	if unit == "" && kind.Kind() == reflect.Float64 {
		// low, likely, high; left, right: what holds them says it.
		_, unit = named(path[strings.LastIndexByte(path, '.')+1:])
	}
	switch kind.Kind() {
	case reflect.Struct, reflect.Slice, reflect.Map:
		out.list(f, inner, at, own)
		if has {
			out.walk(kind, inner, at, own)
		}
	default:
		out.Fields = append(out.Fields, plain(f, kind, Field{Path: at, Label: own, Unit: unit, Doc: f.Tag.Get("doc"), Required: !strings.Contains(options, "omitempty")}))
	}
}

// list lays out how many rows a field has and may have, where it is a list. One that may have none says in
// its tag what its first row is.
func (out *Laid) list(f reflect.StructField, inner any, at, label string) {
	first := f.Tag.Get("first")
	rows, isList := inner.([]any)
	if !isList && first == "" {
		return
	}
	bound := func(tag string, standard int) int {
		if v, err := strconv.Atoi(f.Tag.Get(tag)); err == nil {
			return v
		}
		return standard
	}
	list := List{Path: at, Label: label, Rows: len(rows), Least: bound("minItems", 0), Most: min(mostRows, bound("maxItems", mostRows))}
	if first != "" {
		list.First = json.RawMessage(first)
	}
	out.Lists = append(out.Lists, list)
}

// plain gives a field its bounds and what may be in it.
func plain(f reflect.StructField, kind reflect.Type, field Field) Field {
	bound := func(tag string) *float64 {
		if v, err := strconv.ParseFloat(f.Tag.Get(tag), 64); err == nil {
			return &v
		}
		return nil
	}
	field.Min, field.Max = bound("minimum"), bound("maximum")
	if above := bound("exclusiveMinimum"); above != nil {
		field.Min, field.Above = above, true
	}
	if enum := f.Tag.Get("enum"); enum != "" {
		field.Choices = strings.Split(enum, ",")
	}
	switch kind.Kind() {
	case reflect.Float64:
		field.Number = true
	case reflect.Int:
		field.Number, field.Whole = true, true
	case reflect.Bool:
		field.Flag = true
	}
	return field
}

// row lays out one row of a list.
func (out *Laid) row(t reflect.Type, row any, i int, path, title string) {
	at, own := fmt.Sprintf("%s[%d]", path, i), fmt.Sprintf("%s %d", title, i+1)
	switch row.(type) {
	case json.Number:
		label, unit := title, ""
		if name := path[strings.LastIndexByte(path, '.')+1:]; name != "" {
			label, unit = named(name)
		}
		out.Fields = append(out.Fields, Field{Path: at, Label: fmt.Sprintf("%s %d", label, i+1), Unit: unit, Number: true, Required: true})
	case string:
		out.Fields = append(out.Fields, Field{Path: at, Label: own, Required: true})
	default:
		out.walk(t, row, at, own)
	}
}

// A Figure is one number of an answer.
type Figure struct {
	Path  string `json:"path"`
	Label string `json:"label"`
	Unit  string `json:"unit"`
}

// figuresOf lists the numbers of an answer, its working and its series left out.
func figuresOf(answer any) []Figure {
	list := []Figure{}
	var walk func(value any, path, title, unit string)
	walk = func(value any, path, title, unit string) {
		switch v := value.(type) {
		case map[string]any:
			names := make([]string, 0, len(v))
			for name := range v {
				names = append(names, name)
			}
			slices.Sort(names)
			for _, name := range names {
				if path == "" && (name == "working" || name == "cautions" || name == "series") {
					continue
				}
				label, own := named(name)
				if own == "" {
					own = unit // of a range: low, likely, high
				}
				if title != "" {
					label = title + ", " + label
				}
				walk(v[name], strings.TrimPrefix(path+"."+name, "."), label, own)
			}
		case []any:
			for i, row := range v {
				if i >= 12 || i >= 1 && path == "curve" {
					break
				}
				walk(row, fmt.Sprintf("%s[%d]", path, i), fmt.Sprintf("%s %d", title, i+1), unit)
			}
		case json.Number:
			list = append(list, Figure{path, title, unit})
		}
	}
	walk(answer, "", "", "")
	return list
}
