package exchange

import (
	"bytes"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// unitsOf are the metres in a unit of a drawing, by its $INSUNITS (DXF reference, header section).
var unitsOf = map[int]float64{1: 0.0254, 2: 0.3048, 4: 0.001, 5: 0.01, metres: 1, 7: 1000, 10: 0.9144, 14: 0.1}

// A code and its value: what a DXF file is made of.
type pair struct {
	code  int
	value string
}

// pairsOf reads the pairs of a DXF file in ASCII.
func pairsOf(data []byte) ([]pair, error) {
	if bytes.HasPrefix(data, []byte("AutoCAD Binary DXF")) {
		return nil, fault("binary", "DXF in ASCII", "the drawing is a binary DXF: save it as an ASCII one")
	}
	lines := strings.Split(strings.ReplaceAll(string(data), "\r\n", "\n"), "\n")
	list := make([]pair, 0, len(lines)/2)
	for i := 0; i+1 < len(lines); i += 2 {
		code, err := strconv.Atoi(strings.TrimSpace(lines[i]))
		if err != nil {
			return nil, fault(i+1, "a group code", "line %d of the drawing (%.20q) is no group code: this is no DXF, or not all of it came", i+1, lines[i])
		}
		list = append(list, pair{code, strings.TrimSpace(lines[i+1])})
	}
	for k := range list {
		if list[k] == (pair{0, "EOF"}) {
			return list[:k], nil
		}
	}
	return nil, fault(len(list), "an EOF at its end", "the drawing does not end: not all of it came")
}

// A drawing is read entity by entity.
type drawing struct {
	plan  []Feature
	texts []Feature // their names, at their places; the kind is their layer
	unit  float64   // metres in one of the drawing's; 0: it does not say
	left  map[string]int
}

// readDXF reads what a drawing has in its model: points, lines, polylines, circles, arcs as chords, and blocks at the points where they
// are put in. unit is told where the drawing does not say its own, m; 0: nobody told, and it is asked for.
func readDXF(data []byte, unit float64) (plan []Feature, asks bool, left map[string]int, err error) {
	pairs, err := pairsOf(data)
	if err != nil {
		return nil, false, nil, err
	}
	d := drawing{left: map[string]int{}}
	section := ""
	for i := 0; i < len(pairs); i++ {
		switch p := pairs[i]; {
		case p == pair{0, "SECTION"} && i+1 < len(pairs):
			section = pairs[i+1].value
		case p == pair{0, "ENDSEC"}:
			section = ""
		case section == "HEADER" && p == pair{9, "$INSUNITS"} && i+1 < len(pairs):
			n, _ := strconv.Atoi(pairs[i+1].value)
			d.unit = unitsOf[n]
		case section == "ENTITIES" && p.code == 0:
			from := i
			for i = after(pairs, i); p.value == "POLYLINE" && i < len(pairs) && pairs[i] != (pair{0, "ENDSEC"}) && pairs[i] != (pair{0, "SEQEND"}); {
				i = after(pairs, i) // its corners are entities of their own
			}
			d.entity(p.value, pairs[from+1:i])
			i--
		}
	}
	if unit > 0 {
		d.unit = unit
	}
	asks = d.unit == 0
	if asks {
		d.unit = 1
	}
	for _, list := range [2][]Feature{d.plan, d.texts} {
		for i := range list {
			for k := range list[i].Points {
				list[i].Points[k][0] *= d.unit
				list[i].Points[k][1] *= d.unit
			}
		}
	}
	d.name()
	return d.plan, asks, d.left, nil
}

// after is where the next entity begins.
func after(pairs []pair, i int) int {
	for i++; i < len(pairs) && pairs[i].code != 0; i++ {
	}
	return i
}

// first is the first value of a code, or other.
func first(pairs []pair, code int, other string) string {
	for _, p := range pairs {
		if p.code == code {
			return p.value
		}
	}
	return other
}

// number is the first figure of a code, or nought.
func number(pairs []pair, code int) float64 {
	v, err := strconv.ParseFloat(first(pairs, code, "0"), 64)
	if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
		return 0
	}
	return v
}

// entity takes up one entity.
func (d *drawing) entity(kind string, pairs []pair) {
	if first(pairs, 67, "0") == "1" {
		return // of the paper, not of the model
	}
	f := Feature{Name: first(pairs, 8, ""), Shape: Line}
	at := func(x int) [2]float64 { return [2]float64{number(pairs, x), number(pairs, x+10)} }
	closed := false
	switch kind {
	case "POINT":
		f.Shape, f.Points = Point, [][2]float64{at(10)}
	case "INSERT":
		f.Shape, f.Points, f.ID = Point, [][2]float64{at(10)}, ""
		f.Name += " " + first(pairs, 2, "")
	case "LINE":
		f.Points = [][2]float64{at(10), at(11)}
	case "CIRCLE":
		f.Shape = Area
		f.Points = arc(at(10), number(pairs, 40), 0, 2*math.Pi)
		f.Points = f.Points[:len(f.Points)-1]
	case "ARC":
		begin, end := number(pairs, 50)*math.Pi/180, number(pairs, 51)*math.Pi/180
		if end < begin {
			end += 2 * math.Pi
		}
		f.Points = arc(at(10), number(pairs, 40), begin, end-begin)
	case "LWPOLYLINE":
		f.Points, closed = polyline(pairs, int(number(pairs, 70)))
	case "POLYLINE":
		flags := int(number(pairs, 70))
		vertices := []pair{}
		for i, p := range pairs {
			if p == (pair{0, "VERTEX"}) {
				vertices = pairs[i:]
				break
			}
		}
		f.Points, closed = polyline(vertices, flags)
	case "TEXT", "MTEXT":
		d.texts = append(d.texts, Feature{Kind: f.Name, Name: unescaped(first(pairs, 1, "")), Points: [][2]float64{at(10)}})
		return
	case "SEQEND", "VERTEX", "ATTRIB":
		return
	default:
		d.left[kind]++
		return
	}
	if closed && len(f.Points) > 2 {
		f.Shape = Area
	}
	if len(f.Points) > 1 || f.Shape == Point {
		d.plan = append(d.plan, f)
	}
}

// polyline is a polyline's corners, its bulges as chords.
func polyline(pairs []pair, flags int) (points [][2]float64, closed bool) {
	var corners [][3]float64 // x, y and the bulge after it
	for _, p := range pairs {
		v, err := strconv.ParseFloat(p.value, 64)
		if err != nil || math.IsNaN(v) || math.IsInf(v, 0) {
			continue
		}
		switch n := len(corners) - 1; {
		case p.code == 10:
			corners = append(corners, [3]float64{v})
		case p.code == 20 && n >= 0:
			corners[n][1] = v
		case p.code == 42 && n >= 0:
			corners[n][2] = v
		}
	}
	closed = flags&1 == 1
	for i, c := range corners {
		points = append(points, [2]float64{c[0], c[1]})
		next := i + 1
		if next == len(corners) {
			if !closed {
				break
			}
			next = 0
		}
		if c[2] != 0 {
			points = append(points, bulge(c, corners[next])...)
		}
	}
	// Drawn closed by its first corner again.
	if n := len(points); n > 3 && points[0] == points[n-1] {
		return points[:n-1], true
	}
	return points, closed
}

// step is how far apart the corners of what is round are set, rad.
const step = math.Pi / 12

// bulge are the corners between two of a polyline on an arc: its bulge is the tangent of a quarter of the angle.
func bulge(from, to [3]float64) [][2]float64 {
	turn := 4 * math.Atan(from[2])
	x, y := to[0]-from[0], to[1]-from[1]
	// The middle lies square to the chord, on its left where the arc turns left by less than half.
	off := (1/from[2] - from[2]) / 4
	middle := [2]float64{from[0] + x/2 - y*off, from[1] + y/2 + x*off}
	radius := math.Hypot(from[0]-middle[0], from[1]-middle[1])
	round := arc(middle, radius, math.Atan2(from[1]-middle[1], from[0]-middle[0]), turn)
	return round[1 : len(round)-1]
}

// arc are corners around an arc, outside it by as much as the chords between points of it would be inside: what must not be hit is
// never drawn smaller than it is. Its ends lie on it.
func arc(middle [2]float64, radius, begin, turn float64) (points [][2]float64) {
	n := max(2, int(math.Ceil(math.Abs(turn)/step)))
	outside := radius / math.Cos(turn/float64(n)/2)
	whole := math.Abs(turn) >= 2*math.Pi-1e-9
	for i := range n + 1 {
		r := outside
		if !whole && (i == 0 || i == n) {
			r = radius
		}
		sin, cos := math.Sincos(begin + turn*float64(i)/float64(n))
		points = append(points, [2]float64{middle[0] + r*cos, middle[1] + r*sin})
	}
	return points
}

var numbered = regexp.MustCompile(`\\U\+([0-9A-Fa-f]{4})`)

// unescaped is a text of a drawing as it is read.
func unescaped(text string) string {
	return numbered.ReplaceAllStringFunc(text, func(s string) string {
		n, err := strconv.ParseInt(s[3:], 16, 32)
		if err != nil {
			return s
		}
		return string(rune(n))
	})
}

// name gives what is on the plan the text of its layer that stands at its first corner.
func (d *drawing) name() {
	const beside = 0.01 // m
	for i := range d.plan {
		f := &d.plan[i]
		layer := f.Name
		f.Kind, f.Is = layered(layer)
		for k := range d.texts {
			t := &d.texts[k]
			if t.Kind == layer && math.Hypot(t.Points[0][0]-f.Points[0][0], t.Points[0][1]-f.Points[0][1]) < beside && t.Name != "" {
				f.Name = t.Name
				break
			}
		}
	}
}
