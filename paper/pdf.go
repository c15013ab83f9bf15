package paper

import (
	"bytes"
	"fmt"
	"math"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goregular"

	"elkstay/core/plan"
	"elkstay/core/units"
)

// A Stamp says of what a paper is made, and when; it stands on each page.
type Stamp struct {
	Revision int // of the job; 0: a file that is kept nowhere
	Newest   int // revision of the job now
	SavedAt  time.Time
	MadeAt   time.Time
	Crew     int  // revision of rules and gear
	Changed  bool // rules or gear are others now
}

// Words is the line at the foot of each page.
func (s *Stamp) Words(name string) string {
	if s.Revision == 0 {
		return fmt.Sprintf("%s · from a job file, of no kept revision · made %s · rules and gear %d", name, moment(s.MadeAt), s.Crew)
	}
	return fmt.Sprintf("%s · revision %d, saved %s · made %s · rules and gear %d", name, s.Revision, moment(s.SavedAt), moment(s.MadeAt), s.Crew)
}

// Outdated says that the job has moved on; empty: it has not.
func (s *Stamp) Outdated() string {
	switch {
	case s.Newest > s.Revision:
		return fmt.Sprintf("Made from revision %d. The job has moved on to revision %d: do not work from this paper, ask for a new one.", s.Revision, s.Newest)
	case s.Changed:
		return "The crew's rules or gear have changed since this was made: ask for a new one."
	}
	return ""
}

func moment(t time.Time) string { return t.UTC().Format("2 Jan 2006 15:04 UTC") }

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
}

// Briefing writes the briefing as a PDF of vectors; letter is US letter in place of A4.
func Briefing(job *plan.Job, a *plan.Assessment, p *plan.Paper, stamp Stamp, system units.System, letter bool) ([]byte, error) {
	format := "A4"
	if letter {
		format = "Letter"
	}
	d := &page{Fpdf: fpdf.New("L", "mm", format, ""), stamp: &stamp, name: p.Name}
	d.w, d.h = d.GetPageSize()
	d.SetTitle(p.Name+", briefing", true)
	d.SetCreator("Elk Stay", true)
	d.SetCreationDate(stamp.MadeAt)
	d.SetModificationDate(stamp.MadeAt)
	d.AddUTF8FontFromBytes("go", "", goregular.TTF)
	d.AddUTF8FontFromBytes("go", "B", gobold.TTF)
	d.SetAutoPageBreak(false, 0)
	d.SetMargins(margin, margin, margin)
	d.AliasNbPages("{pages}")
	d.SetHeaderFunc(d.head)
	d.SetFooterFunc(d.foot)
	d.first(job, a, p, system)
	d.picks(p)
	d.gear(p)
	d.rest(p)
	var out bytes.Buffer
	if err := d.Output(&out); err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}

func (d *page) tint(c tone) { d.SetTextColor(c.r, c.g, c.b) }
func (d *page) font(size float64, bold bool) {
	style := ""
	if bold {
		style = "B"
	}
	d.SetFont("go", style, size)
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
	d.Text(margin, d.h-foot+4, d.stamp.Words(d.name))
	text := fmt.Sprintf("page %d of {pages}", d.PageNo())
	d.Text(d.w-margin-22, d.h-foot+4, text)
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
	for _, part := range strings.Split(text, "\n") {
		line := ""
		for _, word := range glued(strings.Fields(part)) {
			next := strings.TrimSpace(line + " " + word)
			if line != "" && d.GetStringWidth(next) > w {
				lines = append(lines, line)
				next = word
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

// first is the page with the drawings.
func (d *page) first(job *plan.Job, a *plan.Assessment, p *plan.Paper, system units.System) {
	d.AddPage()
	d.font(22, true)
	d.Text(margin, d.y+7.5, p.Name)
	after := margin + d.GetStringWidth(p.Name) + 5
	d.font(9.5, false)
	said := []string{"Briefing"}
	if p.WorkOn != "" {
		said = append(said, "for "+p.WorkOn)
	}
	if p.Lead != "" {
		said = append(said, "in charge: "+p.Lead)
	}
	d.Text(after, d.y+7.5, strings.Join(said, " · "))
	d.y += 10.5
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 10.5, 4.8, true, strings.ToUpper(p.Verdict[:1])+p.Verdict[1:]+": "+p.State)
	d.font(8, false)
	d.tint(faint)
	d.y += d.wrapped(margin, d.y, d.w-2*margin, 8, 3.6, false, strings.Join(p.Tree, " · "))
	d.tint(ink)
	d.y += 1.5
	high := d.h - foot - 5 - d.notes(p, d.y, true) - d.y
	left := (d.w - 2*margin) * 0.54
	d.draw(Site(job, a, system, left-4, high), margin, d.y)
	d.draw(Tree(job, a, system, d.w-2*margin-left, high), margin+left, d.y)
	d.notes(p, d.y+high+2.5, false)
}

// notes stand beneath the drawings: who stands where, the ways out, help. It returns how
// high they come; measured, they are not written.
func (d *page) notes(p *plan.Paper, top float64, measured bool) (high float64) {
	third := (d.w - 2*margin) / 3
	column := func(i int, title string, lines []string) {
		x, y := margin+float64(i)*third, top
		if !measured {
			d.font(10, true)
			d.Text(x, y+3.6, title)
		}
		y += 5.2
		for _, line := range lines {
			if measured {
				d.font(8.5, false)
				y += 3.8 * float64(len(d.split(line, third-5)))
			} else {
				y += d.wrapped(x, y, third-5, 8.5, 3.8, false, line)
			}
		}
		high = math.Max(high, y-top)
	}
	posts := []string{}
	for i, post := range p.Posts {
		text := fmt.Sprintf("%c  %s", 'A'+i, post.Role)
		if post.Name != "" {
			text += ", " + post.Name
		}
		posts = append(posts, text+": "+post.Where)
	}
	if len(posts) == 0 {
		posts = []string{"Nobody has said."}
	}
	column(0, "Who stands where", posts)
	out := append([]string{}, p.Escapes...)
	if len(out) == 0 {
		out = []string{"None are drawn: two, at 45° behind the fall, walked and cleared."}
	}
	column(1, "Ways out", out)
	help := p.Emergency
	if help == "" {
		help = "Nobody has said where help comes to and who calls."
	}
	column(2, "If somebody is hurt", []string{help})
	return high
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
	size, leading, gap := 8*scale, 3.5*scale, 1.7
	titles := func() {
		x := margin
		d.font(7.5, false)
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

// verdictTint is the colour of a verdict; its word says the same.
func verdictTint(verdict string) tone {
	switch verdict {
	case plan.Over:
		return danger
	case plan.Within:
		return ink
	}
	return tone{138, 82, 0, false}
}

func (d *page) picks(p *plan.Paper) {
	d.AddPage()
	d.heading("Picks, first to last")
	columns := []column{
		{"", 7, true}, {"piece", 35, false}, {"weight", 25, true}, {"cut", 51, false}, {"way down", 30, false}, {"tie", 12.5, true}, {"rig", 17, false},
		{"wraps", 10.5, true}, {"run", 12.5, true}, {"line peak", 14.5, true}, {"nearest limit", 20, false}, {"verdict", 14, false}, {"call", 0, false},
	}
	rows, tints := [][]cell{}, []tone{}
	for i := range p.Picks {
		one := &p.Picks[i]
		title := one.Title
		if one.Done {
			title += " (down)"
		}
		call := one.Call
		if one.Faults != "" {
			call = "Cannot happen: " + one.Faults
		}
		rows = append(rows, []cell{
			{fmt.Sprint(one.Number), true}, {title, false}, {one.Weight, false}, {one.Cut, false}, {one.Way, false}, {one.Tie, false}, {one.Rig, false},
			{one.Wraps, false}, {one.Run, false}, {one.Peak, false}, {one.Nearest, false}, {one.Verdict, true}, {call, false},
		})
		tints = append(tints, verdictTint(one.Verdict))
	}
	if len(rows) == 0 {
		d.y += d.wrapped(margin, d.y, d.w-2*margin, 9, 4, false, "Nothing is planned yet.") + 3
		return
	}
	d.table(columns, rows, tints)
}

func (d *page) gear(p *plan.Paper) {
	if len(p.Gear) == 0 {
		return
	}
	d.room(40)
	d.heading("Gear, and the pick that loads each item hardest")
	rows, tints := [][]cell{}, []tone{}
	for i := range p.Gear {
		g := &p.Gear[i]
		rows = append(rows, []cell{{g.What, false}, {g.Name, false}, {g.Serial, false}, {g.Rig, false}, {g.Peak, false}, {g.Limit, false}, {g.Use, false}, {g.Verdict, true}, {g.Standing, false}})
		tints = append(tints, verdictTint(g.Verdict))
	}
	d.table([]column{{"part", 22, false}, {"item", 48, false}, {"serial", 24, false}, {"rig", 26, false}, {"hardest", 20, true}, {"limit", 20, true}, {"of its limit", 30, false}, {"verdict", 20, false}, {"in the locker", 0, false}}, rows, tints)
	if len(p.Ropes) > 0 {
		d.room(20)
		d.heading("Ropes, with knot, wraps and tail")
		rows, tints = nil, nil
		for _, r := range p.Ropes {
			rows = append(rows, []cell{{r.Rig, false}, {r.Need, false}, {r.Have, false}, {r.Verdict, true}})
			tints = append(tints, verdictTint(r.Verdict))
		}
		d.table([]column{{"rig", 50, false}, {"must be", 50, false}, {"is", 40, false}, {"verdict", 0, false}}, rows, tints)
	}
}

// rest is what is read out: other plans, cautions, what is not known, who signs.
func (d *page) rest(p *plan.Paper) {
	half := (d.w - 2*margin) / 2
	or := func(text, instead string) string {
		if text == "" {
			return instead
		}
		return text
	}
	pair := func(titles [2]string, texts [2][]string) {
		// Long lists are set smaller, so that a paper stays one that is read.
		size, leading := 9.0, 4.0
		if len(strings.Join(texts[0], ""))+len(strings.Join(texts[1], "")) > 900 {
			size, leading = 7.8, 3.4
		}
		high := 0.0
		for i := range 2 {
			d.font(size, false)
			lines := 0
			for _, text := range texts[i] {
				lines += len(d.split(text, half-10))
			}
			high = math.Max(high, 7+float64(lines)*leading+float64(len(texts[i]))*0.8)
		}
		d.room(high)
		for i := range 2 {
			x, y := margin+float64(i)*half, d.y
			d.font(12, true)
			d.Text(x, y+4.5, titles[i])
			y += 6.8
			for _, text := range texts[i] {
				if len(texts[i]) > 1 {
					d.font(size, false)
					d.Text(x, y+leading*0.78, "–")
				}
				y += d.wrapped(x+4, y, half-10, size, leading, false, text) + 0.8
			}
		}
		d.y += high + 2
	}
	pair([2]string{"Plan B", "Plan C"}, [2][]string{{or(p.PlanB, "None is written down: decide it before the first cut.")}, {or(p.PlanC, "None is written down: decide it before the first cut.")}})
	pair([2]string{"Cautions", "What is not known"}, [2][]string{p.Cautions, p.Unknown})
	d.closing(p, half)
}

// closing is what the figures are held to, and beside it who signs.
func (d *page) closing(p *plan.Paper, half float64) {
	const head, row = 6.8, 13.0
	across := 2
	if len(p.Signatures) > 4 {
		across = 3
	}
	d.font(9, false)
	lines := 0
	for _, rule := range p.Rules {
		lines += len(d.split(rule, half-10))
	}
	d.room(math.Max(head+4*float64(lines)+0.4*float64(len(p.Rules)), head+row*math.Ceil(float64(len(p.Signatures))/float64(across))))
	d.font(12, true)
	d.Text(margin, d.y+4.5, "What the figures are held to")
	d.Text(margin+half, d.y+4.5, "Read and understood")
	y := d.y + head
	for _, rule := range p.Rules {
		y += d.wrapped(margin+4, y, half-10, 9, 4, false, rule) + 0.4
	}
	each := half / float64(across)
	d.SetDrawColor(ink.r, ink.g, ink.b)
	d.SetLineWidth(0.2)
	for i, who := range p.Signatures {
		x, line := margin+half+float64(i%across)*each, d.y+head+float64(i/across)*row+7
		d.Line(x, line, x+each-4, line)
		d.wrapped(x, line+0.6, each-4, 7.5, 3, false, who)
	}
}
