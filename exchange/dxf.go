package exchange

import (
	"bytes"
	"fmt"
	"math"
	"strconv"
	"strings"
)

// DXF writes a plan as a drawing in metres: what every program of drawings reads, the ASCII form of release 12, a layer for each kind.
// Names are texts beside what they name.
func DXF(plan []Feature) []byte {
	var out bytes.Buffer
	pair := func(code int, value any) { fmt.Fprintf(&out, "%3d\r\n%v\r\n", code, value) }
	figure := func(code int, v float64) { pair(code, strconv.FormatFloat(math.Round(v*1e4)/1e4, 'f', -1, 64)) }
	pair(0, "SECTION")
	pair(2, "HEADER")
	pair(9, "$ACADVER")
	pair(1, "AC1009")
	pair(9, "$INSUNITS")
	pair(70, metres)
	pair(0, "ENDSEC")
	layers := []string{}
	seen := map[string]bool{}
	for i := range plan {
		if layer := layerOf(&plan[i]); !seen[layer] {
			seen[layer] = true
			layers = append(layers, layer)
		}
	}
	pair(0, "SECTION")
	pair(2, "TABLES")
	pair(0, "TABLE")
	pair(2, "LAYER")
	pair(70, len(layers))
	for i, layer := range layers {
		pair(0, "LAYER")
		pair(2, layer)
		pair(70, 0)
		pair(62, 1+i%7)
		pair(6, "CONTINUOUS")
	}
	pair(0, "ENDTAB")
	pair(0, "ENDSEC")
	pair(0, "SECTION")
	pair(2, "ENTITIES")
	at := func(layer string, p [2]float64, z float64) {
		pair(8, layer)
		figure(10, p[0])
		figure(20, p[1])
		figure(30, z)
	}
	for i := range plan {
		f := &plan[i]
		if len(f.Points) == 0 {
			continue
		}
		layer := layerOf(f)
		if f.Shape == Point {
			pair(0, "POINT")
			at(layer, f.Points[0], 0)
		} else {
			pair(0, "POLYLINE")
			pair(8, layer)
			pair(66, 1)
			pair(70, map[bool]int{true: 1}[f.Shape == Area])
			for _, p := range f.Points {
				pair(0, "VERTEX")
				at(layer, p, 0)
			}
			pair(0, "SEQEND")
			pair(8, layer)
		}
		pair(0, "TEXT")
		at(layer, f.Points[0], 0)
		figure(40, 0.4)
		pair(1, escaped(f.Name))
	}
	pair(0, "ENDSEC")
	pair(0, "EOF")
	return out.Bytes()
}

// metres is how a drawing says that its unit is the metre.
const metres = 6

// layerOf is the layer that a feature is on: letters, digits and dashes, as release 12 has them.
func layerOf(f *Feature) string {
	name := f.Kind
	if f.Is != "" {
		name += "-" + f.Is
	}
	return strings.ToUpper(strings.ReplaceAll(name, " ", "-"))
}

// escaped is a text of a drawing: on one line, letters beyond ASCII by their numbers.
func escaped(text string) string {
	var out strings.Builder
	for _, r := range text {
		switch {
		case r < ' ':
			out.WriteByte(' ')
		case r > '~' && r <= 0xffff:
			fmt.Fprintf(&out, `\U+%04X`, r)
		case r > '~':
			out.WriteByte('?')
		default:
			out.WriteRune(r)
		}
	}
	return out.String()
}
