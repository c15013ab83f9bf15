package intake

import (
	"math"
	"reflect"
	"strconv"
	"strings"
	"unicode/utf8"
)

// tags are the ranges a field allows, as its struct tags have them.
type tags struct {
	tag     reflect.StructTag
	bounds  map[string]float64
	options []string // of enum
}

// boundKeys are the tags that hold numbers.
var boundKeys = []string{"minimum", "exclusiveMinimum", "maximum", "minLength", "maxLength", "minItems", "maxItems"}

// tagsOf reads a field's struct tags, once for its type.
func tagsOf(tag reflect.StructTag) *tags {
	t := &tags{tag: tag}
	for _, key := range boundKeys {
		text, ok := tag.Lookup(key)
		if !ok {
			continue
		}
		value, err := strconv.ParseFloat(text, 64)
		if err != nil {
			panic("intake: tag " + key + " holds no number: " + text)
		}
		if t.bounds == nil {
			t.bounds = map[string]float64{}
		}
		t.bounds[key] = value
	}
	if list := tag.Get("enum"); list != "" {
		t.options = strings.Split(list, ",")
	}
	return t
}

func (t *tags) bound(key string) (float64, bool) {
	value, ok := t.bounds[key]
	return value, ok
}

func (t *tags) numberFits(figure float64) bool {
	if math.IsNaN(figure) || math.IsInf(figure, 0) {
		return false
	}
	if low, ok := t.bound("minimum"); ok && figure < low {
		return false
	}
	if low, ok := t.bound("exclusiveMinimum"); ok && figure <= low {
		return false
	}
	if high, ok := t.bound("maximum"); ok && figure > high {
		return false
	}
	return true
}

func (t *tags) numberAllowed(name string) string {
	var parts []string
	if low, ok := t.bound("minimum"); ok {
		parts = append(parts, "at least "+figure(low))
	}
	if low, ok := t.bound("exclusiveMinimum"); ok {
		parts = append(parts, "more than "+figure(low))
	}
	if high, ok := t.bound("maximum"); ok {
		parts = append(parts, "at most "+figure(high))
	}
	if len(parts) == 0 {
		return "a finite number"
	}
	allowed := strings.Join(parts, " and ")
	if unit := UnitOf(name); unit != "" {
		allowed += " " + unit
	}
	return allowed
}

func figure(v float64) string { return strconv.FormatFloat(v, 'g', -1, 64) }

// unitSuffixes gives the unit that a field's name ends in.
var unitSuffixes = []struct{ suffix, unit string }{
	{"_kg_m3", "kg/m³"}, {"_kg_m2", "kg·m²"}, {"_kn_m", "kN/m"}, {"_knm", "kN·m"}, {"_m3", "m³"}, {"_m_s", "m/s"},
	{"_kn", "kN"}, {"_kg", "kg"}, {"_deg", "°"}, {"_mpa", "MPa"}, {"_gpa", "GPa"},
	{"_pct", "%"}, {"_hz", "Hz"}, {"_s", "s"}, {"_m", "m"},
}

// UnitOf returns the unit that a field's name ends in, such as "kN" for
// line_peak_kn, or "" for a bare number.
func UnitOf(name string) string {
	name, _, _ = strings.Cut(name, "[")
	for _, u := range unitSuffixes {
		if strings.HasSuffix(name, u.suffix) {
			return u.unit
		}
	}
	return ""
}

func (t *tags) textFits(text string) bool {
	if options := t.options; options != nil {
		for _, option := range options {
			if text == option {
				return true
			}
		}
		return false
	}
	length := float64(utf8.RuneCountInString(text))
	if low, ok := t.bound("minLength"); ok && length < low {
		return false
	}
	if high, ok := t.bound("maxLength"); ok && length > high {
		return false
	}
	return true
}

func (t *tags) textAllowed() string {
	if options := t.options; options != nil {
		return strings.Join(options, ", ")
	}
	low, hasLow := t.bound("minLength")
	high, hasHigh := t.bound("maxLength")
	switch {
	case hasLow && hasHigh:
		return "text of " + figure(low) + " to " + figure(high) + " characters"
	case hasHigh:
		return "text of at most " + figure(high) + " characters"
	}
	return "text"
}

func (t *tags) maxItems() int {
	if high, ok := t.bound("maxItems"); ok {
		return int(high)
	}
	return math.MaxInt
}

func (t *tags) itemsAllowed(count int) (string, bool) {
	low, hasLow := t.bound("minItems")
	high, hasHigh := t.bound("maxItems")
	fits := (!hasLow || float64(count) >= low) && (!hasHigh || float64(count) <= high)
	switch {
	case hasLow && hasHigh:
		return figure(low) + " to " + figure(high) + " entries", fits
	case hasLow:
		return "at least " + figure(low) + " entries", fits
	case hasHigh:
		return "at most " + figure(high) + " entries", fits
	}
	return "a list", fits
}

// allowed describes what a field may hold, whatever its type, for a field that
// is missing.
func (t *tags) allowed(name string) string {
	switch {
	case t.options != nil || t.tag.Get("maxLength") != "":
		return t.textAllowed()
	case t.tag.Get("minItems") != "" || t.tag.Get("maxItems") != "":
		text, _ := t.itemsAllowed(0)
		return text
	case t.tag.Get("minimum") != "" || t.tag.Get("exclusiveMinimum") != "" || t.tag.Get("maximum") != "":
		return t.numberAllowed(name)
	}
	return "required"
}
