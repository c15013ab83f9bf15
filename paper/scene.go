// Package paper draws what goes up the tree: the site and the tree as line drawings, the
// briefing as a PDF of vectors, and the tables and shapes that other programs read. It
// holds no sums of the trade: every figure comes from brief.Paper and assess.Assessment.
package paper

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"math"
	"strconv"
	"strings"
)

// A Scene is a line drawing, in millimetres from its upper left corner.
type Scene struct {
	W, H  float64
	Title string
	marks []mark
}

// tone is red, green, blue; nothing is drawn with none.
type tone struct {
	r, g, b int
	none    bool
}

var (
	none   = tone{none: true}
	ink    = tone{20, 23, 26, false}
	faint  = tone{110, 116, 120, false}
	hair   = tone{205, 206, 200, false}
	wood   = tone{233, 222, 204, false}
	leaf   = tone{17, 104, 74, false}
	ground = tone{223, 236, 228, false}
	solid  = tone{230, 230, 226, false}
	danger = tone{179, 22, 27, false}
	barred = tone{248, 228, 226, false}
	accent = tone{163, 18, 95, false}
	paper  = tone{255, 255, 255, false}
)

// mark is one stroke or text of a drawing.
type mark struct {
	points       [][2]float64
	closed       bool
	round        float64 // radius of a disc round the first point
	fill, stroke tone
	width        float64
	dash         []float64
	text         string
	size         float64 // of the text, mm high
	bold         bool
	align        int // -1: begins at the point, 0: middle, 1: ends there
}

func (s *Scene) line(stroke tone, width float64, points ...[2]float64) *mark {
	return s.add(mark{points: points, fill: none, stroke: stroke, width: width})
}

func (s *Scene) area(fill, stroke tone, width float64, points ...[2]float64) *mark {
	return s.add(mark{points: points, closed: true, fill: fill, stroke: stroke, width: width})
}

func (s *Scene) disc(fill, stroke tone, width, x, y, r float64) {
	s.add(mark{points: [][2]float64{{x, y}}, round: r, fill: fill, stroke: stroke, width: width})
}

func (s *Scene) write(tint tone, size, x, y float64, align int, text string) *mark {
	return s.add(mark{points: [][2]float64{{x, y}}, fill: tint, stroke: none, text: text, size: size, align: align})
}

func (s *Scene) add(m mark) *mark {
	s.marks = append(s.marks, m)
	return &s.marks[len(s.marks)-1]
}

// escaped is a text as XML holds it; what XML cannot hold becomes a replacement character.
func escaped(text string) string {
	var out strings.Builder
	_ = xml.EscapeText(&out, []byte(text)) // a builder takes everything
	return out.String()
}

// number writes a length of a drawing to a hundredth of a millimetre.
func number(v float64) string { return strconv.FormatFloat(math.Round(v*100)/100, 'f', -1, 64) }

func (c tone) hex() string {
	if c.none {
		return "none"
	}
	return fmt.Sprintf("#%02x%02x%02x", c.r, c.g, c.b)
}

// SVG writes the drawing as SVG, to scale: one unit is a millimetre.
func (s *Scene) SVG() []byte {
	var out bytes.Buffer
	fmt.Fprintf(&out, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="0 0 %s %s" font-family="Archivo Variable, Liberation Sans, Arial, sans-serif" role="img">`+"\n",
		number(s.W), number(s.H), number(s.W), number(s.H))
	fmt.Fprintf(&out, "<title>%s</title>\n", escaped(s.Title))
	for i := range s.marks {
		s.marks[i].svg(&out)
	}
	out.WriteString("</svg>\n")
	return out.Bytes()
}

func (m *mark) svg(out *bytes.Buffer) {
	x, y := number(m.points[0][0]), number(m.points[0][1])
	pen := ""
	if !m.stroke.none {
		pen = fmt.Sprintf(` stroke="%s" stroke-width="%s" stroke-linejoin="round" stroke-linecap="round"`, m.stroke.hex(), number(m.width))
		if len(m.dash) > 0 {
			parts := make([]string, len(m.dash))
			for i, d := range m.dash {
				parts[i] = number(d)
			}
			pen += ` stroke-dasharray="` + strings.Join(parts, " ") + `"`
		}
	}
	switch {
	case m.text != "":
		weight := ""
		if m.bold {
			weight = ` font-weight="700"`
		}
		fmt.Fprintf(out, `<text x="%s" y="%s" font-size="%s" text-anchor="%s" fill="%s" stroke="#ffffff" stroke-width="%s" paint-order="stroke" stroke-linejoin="round"%s>%s</text>`+"\n",
			x, y, number(m.size), [3]string{"start", "middle", "end"}[m.align+1], m.fill.hex(), number(m.size/5), weight, escaped(m.text))
	case m.round > 0:
		fmt.Fprintf(out, `<circle cx="%s" cy="%s" r="%s" fill="%s"%s/>`+"\n", x, y, number(m.round), m.fill.hex(), pen)
	default:
		path := make([]string, len(m.points))
		for i, p := range m.points {
			path[i] = number(p[0]) + "," + number(p[1])
		}
		name := "polyline"
		if m.closed {
			name = "polygon"
		}
		fmt.Fprintf(out, `<%s points="%s" fill="%s"%s/>`+"\n", name, strings.Join(path, " "), m.fill.hex(), pen)
	}
}
