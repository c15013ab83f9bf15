package intake

import (
	"encoding/json"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"sync"
)

func fill(target reflect.Value, value any, at *place, rule *tags, faults *Faults) {
	switch target.Kind() {
	case reflect.Pointer:
		if value == nil {
			return
		}
		target.Set(reflect.New(target.Type().Elem()))
		fill(target.Elem(), value, at, rule, faults)
	case reflect.Struct:
		fields, ok := value.(object)
		if !ok {
			faults.Add(at.String(), value, "an object", "%s must be an object", at.last())
			return
		}
		fillStruct(target, fields, at, faults)
	case reflect.Slice:
		items, ok := value.([]any)
		if !ok {
			faults.Add(at.String(), value, "a list", "%s must be a list", at.last())
			return
		}
		if allowed, ok := rule.itemsAllowed(len(items)); !ok {
			faults.Add(at.String(), len(items), allowed, "%s has %d entries; it needs %s", at.last(), len(items), allowed)
			if len(items) > rule.maxItems() {
				return
			}
		}
		list := reflect.MakeSlice(target.Type(), len(items), len(items))
		for i, item := range items {
			fill(list.Index(i), item, &place{above: at, item: i + 1}, &untagged, faults)
		}
		target.Set(list)
	case reflect.Float64, reflect.Int, reflect.Int64:
		fillNumber(target, value, at, rule, faults)
	case reflect.String:
		text, ok := value.(string)
		if !ok {
			faults.Add(at.String(), value, rule.textAllowed(), "%s must be text", at.last())
			return
		}
		if strings.ContainsRune(text, 0) {
			faults.Add(at.String(), strings.ReplaceAll(text, "\x00", "␀"), "text without the character NUL", "%s holds the character NUL, which no text keeps", at.last())
			return
		}
		if !rule.textFits(text) {
			shown := text
			if len(shown) > 120 {
				shown = string([]rune(shown)[:40]) + "…"
			}
			faults.Add(at.String(), shown, rule.textAllowed(), "%s is %q; allowed: %s", at.last(), shown, rule.textAllowed())
			return
		}
		target.SetString(text)
	case reflect.Bool:
		flag, ok := value.(bool)
		if !ok {
			faults.Add(at.String(), value, "true or false", "%s must be true or false", at.last())
			return
		}
		target.SetBool(flag)
	default:
		panic("intake: no rule for reading a " + target.Type().String())
	}
}

func fillStruct(target reflect.Value, fields object, at *place, faults *Faults) {
	rules := rulesOf(target.Type())
	// Which fields were given: no type of ours has more than fit.
	var given [mostFields]bool
	for i := range fields {
		m := &fields[i]
		k, ok := rules.byName[m.name]
		if !ok {
			faults.Add((&place{above: at, name: m.name}).String(), m.value, rules.names, "there is no field %q here", m.name)
			continue
		}
		rule := &rules.fields[k]
		given[k] = true
		if m.value == nil {
			if !rule.optional {
				faults.Add((&place{above: at, name: m.name}).String(), nil, rule.tags.allowed(m.name), "%s is null; it must be given", m.name)
			}
			continue
		}
		fill(target.FieldByIndex(rule.index), m.value, &place{above: at, name: m.name}, rule.tags, faults)
	}
	for k := range rules.fields {
		if rule := &rules.fields[k]; !rule.optional && !given[k] {
			faults.Add((&place{above: at, name: rule.name}).String(), nil, rule.tags.allowed(rule.name), "%s is missing", rule.name)
		}
	}
}

// mostFields is how many fields a type of a document may have.
const mostFields = 128

type fieldRule struct {
	name     string
	index    []int
	tags     *tags
	optional bool
}

// structRules are the fields of a struct by their JSON names; embedded structs count as if
// written out.
type structRules struct {
	fields []fieldRule
	byName map[string]int
	names  string
}

var knownRules sync.Map // reflect.Type to *structRules

func rulesOf(of reflect.Type) *structRules {
	if known, ok := knownRules.Load(of); ok {
		return known.(*structRules)
	}
	rules := &structRules{byName: map[string]int{}}
	rules.collect(of, nil)
	if len(rules.fields) > mostFields {
		panic("intake: " + of.String() + " has too many fields")
	}
	names := make([]string, len(rules.fields))
	for i := range rules.fields {
		names[i] = rules.fields[i].name
	}
	rules.names = strings.Join(names, ", ")
	known, _ := knownRules.LoadOrStore(of, rules)
	return known.(*structRules)
}

func (r *structRules) collect(of reflect.Type, above []int) {
	for i := range of.NumField() {
		field := of.Field(i)
		index := append(slices.Clone(above), i)
		if field.Anonymous {
			r.collect(field.Type, index)
			continue
		}
		name, options, _ := strings.Cut(field.Tag.Get("json"), ",")
		if name == "" || name == "-" {
			continue
		}
		one := fieldRule{name, index, tagsOf(field.Tag), strings.Contains(options, "omit")}
		if k, twice := r.byName[name]; twice {
			r.fields[k] = one
			continue
		}
		r.byName[name] = len(r.fields)
		r.fields = append(r.fields, one)
	}
}

func fillNumber(target reflect.Value, value any, at *place, rule *tags, faults *Faults) {
	number, ok := value.(json.Number)
	if !ok {
		name := at.last()
		faults.Add(at.String(), value, rule.numberAllowed(name), "%s must be a number", name)
		return
	}
	figure, err := strconv.ParseFloat(number.String(), 64)
	if err != nil {
		name := at.last()
		faults.Add(at.String(), number.String(), rule.numberAllowed(name), "%s is %s, which is no finite number", name, number)
		return
	}
	if !rule.numberFits(figure) {
		name := at.last()
		faults.Add(at.String(), figure, rule.numberAllowed(name), "%s is %s; allowed: %s", name, number, rule.numberAllowed(name))
		return
	}
	if target.Kind() == reflect.Float64 {
		target.SetFloat(figure)
		return
	}
	if figure != float64(int64(figure)) {
		faults.Add(at.String(), figure, "a whole number", "%s is %s; it must be a whole number", at.last(), number)
		return
	}
	target.SetInt(int64(figure))
}
