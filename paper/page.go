package paper

import (
	"fmt"
	"math"
	"strings"

	"codeberg.org/go-pdf/fpdf"
)

// Margins and type of a page, mm and points.
const (
	margin = 10.0
	foot   = 9.0
	wide   = 297 - 2*margin // what an A4 sheet on its side holds
)

// page lays a briefing out on sheets.
type page struct {
	*fpdf.Fpdf
	w, h  float64
	y     float64 // where the next line begins
	stamp *Stamp
	name  string
	// A character was asked for that no font has.
	missing bool
	// Fonts of the system that are in this paper, or cannot be.
	taken map[*face]bool
	// How much larger its tables are set; 0: as they are.
	larger float64
}

func (d *page) tint(c tone) { d.SetTextColor(c.r, c.g, c.b) }
func (d *page) font(size float64, bold bool) {
	style := ""
	if bold {
		style = "B"
	}
	d.SetFont(shipped.name, style, size)
}

// head draws the band of a paper that is no longer of the newest revision.
func (d *page) head() {
	d.y = margin
	if said := d.stamp.Outdated(); said != "" {
		d.SetFillColor(danger.r, danger.g, danger.b)
		d.Rect(margin, margin, d.w-2*margin, 7, "F")
		d.font(10.5, true)
		d.tint(paper)
		d.Text(margin+2, margin+4.9, said)
		d.y += 10
	}
	d.tint(ink)
}

func (d *page) foot() {
	d.SetDrawColor(hair.r, hair.g, hair.b)
	d.SetLineWidth(0.2)
	d.Line(margin, d.h-foot, d.w-margin, d.h-foot)
	d.font(7.5, false)
	d.tint(ink)
	name := []rune(d.name)
	said := d.stamp.Words(d.name)
	for len(name) > 1 && d.GetStringWidth(said) > d.w-2*margin-26 {
		// The whole of it stands on the first page.
		name = name[:len(name)-1]
		said = d.stamp.Words(string(name) + "…")
	}
	d.Text(margin, d.h-foot+4, said)
}

// numbered writes on every page which of how many it is: only now is that known.
func (d *page) numbered() {
	for i := range d.PageCount() {
		d.SetPage(i + 1)
		// The library writes a font and a colour only where it thinks they change.
		d.font(1, true)
		d.font(7.5, false)
		d.tint(paper)
		d.tint(ink)
		d.Text(d.w-margin-22, d.h-foot+4, fmt.Sprintf("page %d of %d", i+1, d.PageCount()))
	}
}

// room makes sure that so many millimetres are left, on a new page if need be.
func (d *page) room(mm float64) bool {
	if d.y+mm <= d.h-foot-2 {
		return false
	}
	d.AddPage()
	return true
}

func (d *page) heading(text string) {
	d.room(14)
	d.font(12, true)
	d.outlined(text)
	d.Text(margin, d.y+4.5, text)
	d.y += 6.5
}

// wrapped writes a text between two edges and returns how high it came.
func (d *page) wrapped(x, y, w, size, leading float64, bold bool, text string) float64 {
	d.font(size, bold)
	high := 0.0
	for _, line := range d.split(text, w) {
		d.Text(x, y+high+leading*0.78, line)
		high += leading
	}
	return high
}

// split breaks a text into lines no wider than w; SplitText of the library takes a line
// too many for texts that end in a space.
func (d *page) split(text string, w float64) []string {
	lines := []string{}
	printed, missing := d.letters(text)
	d.missing = d.missing || missing
	for _, part := range strings.Split(printed, "\n") {
		line := ""
		for _, word := range glued(strings.Fields(part)) {
			next := strings.TrimSpace(line + " " + word)
			if line != "" && d.GetStringWidth(next) > w {
				lines = append(lines, line)
				next = word
			}
			if pieces := d.broken(next, w); len(pieces) > 1 {
				lines = append(lines, pieces[:len(pieces)-1]...)
				next = pieces[len(pieces)-1]
			}
			line = next
		}
		lines = append(lines, line)
	}
	return lines
}

// glued keeps a figure and its unit together.
func glued(words []string) []string {
	for i := len(words) - 1; i > 0; i-- {
		switch words[i] {
		case "m", "cm", "mm", "kg", "kN", "ft", "in", "lb", "lbf", "%":
			words[i-1] += " " + words[i]
			words = append(words[:i], words[i+1:]...)
		}
	}
	return words
}

// draw puts a scene on the page.
func (d *page) draw(s *Scene, x0, y0 float64) {
	d.ClipRect(x0, y0, s.W, s.H, false)
	for i := range s.marks {
		m := &s.marks[i]
		if !m.stroke.none {
			d.SetDrawColor(m.stroke.r, m.stroke.g, m.stroke.b)
			d.SetLineWidth(m.width)
		}
		if !m.fill.none {
			d.SetFillColor(m.fill.r, m.fill.g, m.fill.b)
		}
		style := ""
		if !m.fill.none {
			style += "F"
		}
		if !m.stroke.none {
			style += "D"
		}
		d.SetDashPattern(m.dash, 0)
		switch {
		case m.text != "":
			d.font(m.size/0.3528, m.bold)
			d.tint(m.fill)
			x := x0 + m.points[0][0] - d.GetStringWidth(m.text)*float64(m.align+1)/2
			d.Text(math.Max(x0+0.5, math.Min(x, x0+s.W-d.GetStringWidth(m.text)-0.5)), y0+m.points[0][1], m.text)
		case m.round > 0:
			d.Circle(x0+m.points[0][0], y0+m.points[0][1], m.round, style)
		case m.closed:
			points := make([]fpdf.PointType, len(m.points))
			for k, p := range m.points {
				points[k] = fpdf.PointType{X: x0 + p[0], Y: y0 + p[1]}
			}
			d.Polygon(points, style)
		default:
			for k := 1; k < len(m.points); k++ {
				d.Line(x0+m.points[k-1][0], y0+m.points[k-1][1], x0+m.points[k][0], y0+m.points[k][1])
			}
		}
	}
	d.SetDashPattern(nil, 0)
	d.ClipEnd()
	d.tint(ink)
}

// cell is one cell of a table.
type cell struct {
	text string
	bold bool
}

// column is one column of a table: its title, its width, and whether figures end it.
type column struct {
	title string
	w     float64
	right bool
}

// table lays rows out, with the titles again on each new page. The last column takes what
// is left.
func (d *page) table(columns []column, rows [][]cell, tints []tone) {
	// Widths and type are those of A4; a narrower sheet takes all of it smaller.
	scale := (d.w - 2*margin) / wide
	used := 0.0
	for i := range columns[:len(columns)-1] {
		columns[i].w *= scale
		used += columns[i].w
	}
	columns[len(columns)-1].w = d.w - 2*margin - used
	grown := scale
	if d.larger > 0 {
		grown *= d.larger
	}
	size, leading, gap := 8*grown, 3.5*grown, 1.7
	titles := func() {
		x := margin
		d.font(math.Max(7.5, 0.85*size), false)
		d.tint(faint)
		for _, c := range columns {
			at := x
			if c.right {
				at = x + c.w - gap - d.GetStringWidth(c.title)
			}
			d.Text(at, d.y+3, c.title)
			x += c.w
		}
		d.y += 4.2
		d.SetDrawColor(ink.r, ink.g, ink.b)
		d.SetLineWidth(0.3)
		d.Line(margin, d.y, d.w-margin, d.y)
		d.tint(ink)
	}
	titles()
	for i, row := range rows {
		lines := make([][]string, len(row))
		most := 1
		for k, c := range row {
			d.font(size, c.bold)
			lines[k] = d.split(c.text, columns[k].w-gap)
			most = max(most, len(lines[k]))
		}
		high := float64(most)*leading + 1.5
		if d.room(high) {
			titles()
		}
		x := margin
		for k, c := range row {
			d.font(size, c.bold)
			for n, line := range lines[k] {
				at := x
				if columns[k].right {
					at = x + columns[k].w - gap - d.GetStringWidth(line)
				}
				d.tint(ink)
				if c.bold && tints != nil && k > 0 {
					d.tint(tints[i])
				}
				d.Text(at, d.y+0.6+leading*(float64(n)+0.8), line)
			}
			x += columns[k].w
		}
		d.y += high
		d.SetDrawColor(hair.r, hair.g, hair.b)
		d.SetLineWidth(0.15)
		d.Line(margin, d.y, d.w-margin, d.y)
	}
	d.tint(ink)
	d.y += 4
}
