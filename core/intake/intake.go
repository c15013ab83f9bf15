// Package intake reads what comes in and refuses, by name, what cannot be right.
//
// A document is read strictly: unknown and repeated fields, missing fields,
// wrong types, numbers that are not finite and numbers outside the range their
// field allows are all refused, and every refusal names the field, the value and
// the range. All faults of a document are reported together, so that a person
// mends them in one go.
//
// The ranges stand in the struct tags of the types read (minimum,
// exclusiveMinimum, maximum, enum, minItems, maxItems, maxLength), the same tags
// from which the published API description is made: a range is written once. A
// field is required unless its json tag says omitempty.
package intake

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"reflect"
	"strconv"
	"strings"
	"unicode/utf8"

	"github.com/go-json-experiment/json/jsontext"
)

// maxDepth bounds the nesting of a document; no type of ours is half as deep.
const maxDepth = 32

// A Fault is one refused field.
type Fault struct {
	Location string `json:"location" doc:"Dotted path of the field, such as body.piece.mass_kg"`
	Value    any    `json:"value" doc:"The value that was refused; null when the field is missing"`
	Message  string `json:"message" doc:"What is wrong, in a sentence"`
	Allowed  string `json:"allowed" doc:"The range or the values that are allowed"`
}

// Faults lists the refused fields of one document: MostFaults of them by name, and how many
// more there are in one last entry without a location. As an error it prints one fault a line;
// an empty list is no error.
type Faults []Fault

// MostFaults is how many faults are named; the rest are counted.
const MostFaults = 50

// The longest location, and the longest value, that a fault repeats.
const (
	longestLocation = 200
	longestValue    = 400
)

func (f Faults) Error() string {
	lines := make([]string, len(f))
	for i, fault := range f {
		lines[i] = fault.Location + ": " + fault.Message
	}
	return strings.Join(lines, "\n")
}

// Err returns the list as an error, or nil when it is empty.
func (f Faults) Err() error {
	if len(f) == 0 {
		return nil
	}
	return f
}

// Add appends a fault found by a rule between fields; beyond MostFaults it is counted.
func (f *Faults) Add(location string, value any, allowed, format string, args ...any) {
	if n := len(*f); n >= MostFaults {
		more := 1
		if n > MostFaults {
			counted, _ := (*f)[MostFaults].Value.(int)
			more += counted
		}
		*f = append((*f)[:MostFaults], Fault{Value: more, Message: fmt.Sprintf("%d more, not named: mend these first", more)})
		return
	}
	for i, arg := range args {
		if text, ok := arg.(string); ok {
			args[i] = clipped(text, longestValue)
		}
	}
	*f = append(*f, Fault{Location: clipped(location, longestLocation), Value: shortened(value), Message: fmt.Sprintf(format, args...), Allowed: allowed})
}

// Join appends the faults of another list, bounded as Add does.
func (f *Faults) Join(others Faults) {
	for _, one := range others {
		if one.Location == "" && len(*f) >= MostFaults {
			more, _ := one.Value.(int)
			for range more {
				f.Add("", nil, "", "")
			}
			continue
		}
		f.Add(one.Location, one.Value, one.Allowed, "%s", one.Message)
	}
}

// clipped is a text cut at so many bytes, between letters.
func clipped(text string, most int) string {
	if len(text) <= most {
		return text
	}
	for most > 0 && !utf8.RuneStart(text[most]) {
		most--
	}
	return text[:most] + "…"
}

// shortened is a value as a fault repeats it: a long text is cut, and what is inside a list or
// an object is counted.
func shortened(value any) any {
	switch v := value.(type) {
	case string:
		return clipped(v, longestValue)
	case json.Number:
		if len(v) > longestValue {
			return clipped(string(v), longestValue)
		}
	case []any:
		return fmt.Sprintf("a list of %d", len(v))
	case object:
		return fmt.Sprintf("an object of %d fields", len(v))
	}
	return value
}

// Decode reads one JSON document from data into the struct that into points to.
// It returns Faults (locations under "body") when the document is refused, and
// then leaves into half filled.
func Decode(data []byte, into any) error {
	var faults Faults
	tree, err := parse(data, &faults)
	if err != nil {
		faults.Add("body", nil, "one JSON document (RFC 8259)", "this is not readable JSON: %s", err)
		return faults
	}
	target := reflect.ValueOf(into)
	if target.Kind() != reflect.Pointer || target.IsNil() {
		panic("intake: Decode needs a pointer to fill")
	}
	fill(target.Elem(), tree, &place{name: "body"}, &untagged, &faults)
	return faults.Err()
}

// place is where in a document something stands. It is written out only when there is a fault.
type place struct {
	above *place
	name  string
	item  int // of a list, from 1; 0: a field
}

func (p *place) String() string {
	switch {
	case p.above == nil:
		return p.name
	case p.item > 0:
		return p.above.String() + "[" + strconv.Itoa(p.item-1) + "]"
	}
	return p.above.String() + "." + p.name
}

// last is the field's own name, with its place in the list.
func (p *place) last() string {
	text := p.String()
	return text[strings.LastIndexByte(text, '.')+1:]
}

// untagged are the ranges of what has none of its own.
var untagged = tags{}

// member is one name and value of a JSON object, in the order written.
type member struct {
	name  string
	value any
}

type object []member

// manyFields is from how many fields on a set of their names is kept.
const manyFields = 16

// has reports whether an object has a field of a name; seen is kept once it has many.
func (o object) has(name string, seen *map[string]bool) bool {
	if len(o) < manyFields {
		for i := range o {
			if o[i].name == name {
				return true
			}
		}
		return false
	}
	if *seen == nil {
		*seen = make(map[string]bool, 2*len(o))
		for i := range o {
			(*seen)[o[i].name] = true
		}
	}
	if (*seen)[name] {
		return true
	}
	(*seen)[name] = true
	return false
}

func parse(data []byte, faults *Faults) (any, error) {
	if !utf8.Valid(data) {
		return nil, errors.New("it is not UTF-8 text")
	}
	// Repeated names are found here, where their place can be named.
	decoder := jsontext.NewDecoder(bytes.NewBuffer(data), jsontext.AllowDuplicateNames(true))
	tree, err := parseValue(decoder, &place{name: "body"}, 0, faults)
	if err != nil {
		if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
			return nil, errors.New("it ends too early")
		}
		return nil, err
	}
	if _, err := decoder.ReadToken(); !errors.Is(err, io.EOF) {
		return nil, errors.New("something follows the end of the document")
	}
	return tree, nil
}

// parseValue reads one value: nil, bool, string, json.Number, []any or object.
func parseValue(decoder *jsontext.Decoder, at *place, depth int, faults *Faults) (any, error) {
	if depth > maxDepth {
		return nil, fmt.Errorf("it is nested more than %d deep", maxDepth)
	}
	token, err := decoder.ReadToken()
	if err != nil {
		return nil, err
	}
	switch token.Kind() {
	case '{':
		fields := object{}
		var seen map[string]bool
		for decoder.PeekKind() != '}' {
			nameToken, err := decoder.ReadToken()
			if err != nil {
				return nil, err
			}
			name := nameToken.String()
			value, err := parseValue(decoder, &place{above: at, name: name}, depth+1, faults)
			if err != nil {
				return nil, err
			}
			if fields.has(name, &seen) {
				faults.Add((&place{above: at, name: name}).String(), value, "once", "the field %q is given twice", name)
				continue
			}
			fields = append(fields, member{name, value})
		}
		_, err := decoder.ReadToken()
		return fields, err
	case '[':
		items := []any{}
		for decoder.PeekKind() != ']' {
			value, err := parseValue(decoder, &place{above: at, item: len(items) + 1}, depth+1, faults)
			if err != nil {
				return nil, err
			}
			items = append(items, value)
		}
		_, err := decoder.ReadToken()
		return items, err
	case '"':
		return token.String(), nil
	case '0':
		return json.Number(token.String()), nil
	case 't', 'f':
		return token.Bool(), nil
	}
	return nil, nil
}
